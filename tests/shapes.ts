/** Outlines for tests, repeatable by seed. */
import { PathBuilder, polygonPath, type Path } from '../src/lib/core/geometry/path';

/** Gives a number from 0 to below 1, another each time. */
export type Chance = () => number;

/** Repeatable chance (mulberry32). */
export function chance(seed: number): Chance {
	let a = seed >>> 0;
	return () => {
		a = (a + 0x6d2b79f5) >>> 0;
		let t = Math.imul(a ^ (a >>> 15), 1 | a);
		t = (t + Math.imul(t ^ (t >>> 7), 61 | t)) ^ t;
		return ((t ^ (t >>> 14)) >>> 0) / 4294967296;
	};
}

/** One of a list, each as likely. */
export const oneOf = <T>(r: Chance, list: readonly T[]): T => list[Math.floor(list.length * r())];

/** A closed polygon of places at even angles about a middle, each as far from it as is said. */
export function placesRound(count: number, far: (i: number) => number, x = 0, y = 0): Path {
	const places: number[] = [];
	for (let i = 0; i < count; i++) {
		const [radius, angle] = [far(i), (2 * Math.PI * i) / count];
		places.push(x + radius * Math.cos(angle), y + radius * Math.sin(angle));
	}
	return polygonPath(places);
}

function waves(radius: number, seed: number): (t: number) => [number, number, number, number] {
	const rnd = chance(seed);
	const amp = Array.from({ length: 7 }, (_, k) => (0.25 * radius * rnd()) / Math.pow(k + 2, 1.5));
	const shift = amp.map(() => 2 * Math.PI * rnd());
	return (t) => {
		let r = radius;
		let d = 0;
		amp.forEach((a, k) => {
			r += a * Math.cos((k + 2) * t + shift[k]);
			d -= a * (k + 2) * Math.sin((k + 2) * t + shift[k]);
		});
		const c = Math.cos(t);
		const s = Math.sin(t);
		return [r * c, r * s, d * c - r * s, d * s + r * c];
	};
}

/** A smooth closed outline of n cubics around the origin. */
export function blob(n: number, seed: number, radius = 40): Path {
	return hermiteRing(waves(radius, seed), n);
}

/** n cubics through a closed curve given with its derivative over 0..2 pi. */
function hermiteRing(f: (t: number) => [number, number, number, number], n: number): Path {
	const h = (2 * Math.PI) / n;
	let p = f(0);
	const first = p;
	const builder = new PathBuilder(p[0], p[1]);
	for (let i = 1; i <= n; i++) {
		const q = i === n ? first : f(i * h);
		builder.cubic(
			p[0] + (p[2] * h) / 3,
			p[1] + (p[3] * h) / 3,
			q[0] - (q[2] * h) / 3,
			q[1] - (q[3] * h) / 3,
			q[0],
			q[1]
		);
		p = q;
	}
	return builder.close(1e-9);
}

/** The stairs that a bad trace makes of such an outline, pixels of `pitch` mm. */
export function jagged(radius: number, pitch: number, seed: number): Path {
	const f = waves(radius, seed);
	const steps = Math.ceil(((2 * Math.PI * radius) / pitch) * 8);
	const xy: number[] = [];
	for (let i = 0; i < steps; i++) {
		const [x, y] = f((2 * Math.PI * i) / steps);
		const gx = Math.round(x / pitch) * pitch;
		const gy = Math.round(y / pitch) * pitch;
		const n = xy.length;
		if (n && xy[n - 2] === gx && xy[n - 1] === gy) continue;
		if (n && xy[n - 2] !== gx && xy[n - 1] !== gy) xy.push(gx, xy[n - 1]);
		xy.push(gx, gy);
	}
	return polygonPath(xy);
}

/** A closed outline of n cubics with bends of all sizes, the smaller the more anchors there are. */
export function wavy(
	n: number,
	seed: number,
	radius = n > 5000 ? 300 : 100,
	bends = n > 5000 ? 600 : 70
): Path {
	const rnd = chance(seed * 7919 + n);
	const power = n > 5000 ? 1.6 : 1.25;
	const amp = Array.from({ length: bends - 1 }, (_, k) => (0.35 * radius * rnd()) / Math.pow(k + 2, power));
	const shift = amp.map(() => 2 * Math.PI * rnd());
	const f = (t: number): [number, number, number, number] => {
		let r = radius;
		let d = 0;
		for (let k = 0; k < amp.length; k++) {
			const c = (k + 2) * t + shift[k];
			r += amp[k] * Math.cos(c);
			d -= amp[k] * (k + 2) * Math.sin(c);
		}
		const c = Math.cos(t);
		const s = Math.sin(t);
		return [r * c, r * s, d * c - r * s, d * s + r * c];
	};
	return hermiteRing(f, n);
}

/** Many vertices thrown about the stairs of a bad trace. */
export function jaggedDense(n: number): Path {
	const stairs = jagged(n > 20000 ? 400 : 130, n > 20000 ? 0.1 : 0.2, 7);
	const rnd = chance(n);
	const whole = stairs.types.length;
	const pitch = n > 20000 ? 0.1 : 0.2;
	const xy: number[] = [];
	for (let i = 0; i < n; i++) {
		const at = (i * whole) / n;
		const k = 8 * Math.floor(at);
		const t = at % 1;
		const s = stairs.segs;
		xy.push(
			s[k] + t * (s[k + 6] - s[k]) + pitch * 0.1 * (rnd() - 0.5),
			s[k + 1] + t * (s[k + 7] - s[k + 1]) + pitch * 0.1 * (rnd() - 0.5)
		);
	}
	return polygonPath(xy);
}

/** The smooth line under `jaggedDense`, as dense straights. */
export function smoothUnder(n: number): Path {
	const f = waves(n > 20000 ? 400 : 130, 7);
	return polygonPath(
		Array.from({ length: 20000 }, (_, i) => f((2 * Math.PI * i) / 20000).slice(0, 2)).flat()
	);
}

/** A star in a picture of 240 px; px, y down, ink on its left as the tracer goes. */
export const STAR = Array.from({ length: 14 }, (_, k) => {
	const a = -(k * Math.PI) / 7 - 0.23;
	const radius = k % 2 ? 52 : 101;
	return [120.3 + radius * Math.cos(a), 119.6 + radius * Math.sin(a)] as const;
});
