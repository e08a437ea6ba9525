/** Outlines for tests, repeatable by seed. */
import { PathBuilder, polygonPath, type Path } from '../src/lib/core/geometry/path';

/** Repeatable chance (mulberry32). */
export function chance(seed: number): () => number {
	let a = seed >>> 0;
	return () => {
		a = (a + 0x6d2b79f5) >>> 0;
		let t = Math.imul(a ^ (a >>> 15), 1 | a);
		t = (t + Math.imul(t ^ (t >>> 7), 61 | t)) ^ t;
		return ((t ^ (t >>> 14)) >>> 0) / 4294967296;
	};
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
	const f = waves(radius, seed);
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
