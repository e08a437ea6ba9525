/**
 * Outlines that lie on each other or nearly: moved, turned, scaled by 1e-7 to 1e-2 mm, with shared stretches, more anchors on the same
 * line, the other way round, at any size. What is combined of them is held against windings reckoned here, from the curves themselves,
 * at places half way between both lines and close beside them.
 */
import {
	circlePath,
	CUBIC,
	PathBuilder,
	reversePath,
	STRAIGHT,
	STRIDE,
	transformPath,
	type Path
} from '../../src/lib/core/geometry/path';
import type { Point } from '../../src/lib/core/geometry/point';
import { nearestOn, partOf, pointAt } from '../../src/lib/core/geometry/segment';
import type { CombineInput, CombineOp } from '../../src/lib/core/plane/area';
import { combine } from '../../src/lib/core/plane/combine';
import { blob, type Chance, oneOf, placesRound } from '../shapes';

/** Nearer than this (mm) is the same place; from `APART` on lines are apart. */
export const SAME = 1e-6;
const APART = 1e-5;

/** A closed line of some millimetres about 0, 0. */
function line(r: Chance): Path {
	const kind = Math.floor(r() * 5);
	if (kind === 0) return blob(oneOf(r, [4, 6, 12, 24, 60]), 1 + Math.floor(r() * 1e6), 8 + 12 * r());
	if (kind === 1) return circlePath(0, 0, 3 + 7 * r());
	if (kind === 2) {
		const n = 3 + Math.floor(r() * 9);
		return placesRound(n, () => 5 + 10 * r());
	}
	// Straights, arcs and cubics in turn around a middle.
	const n = 4 + Math.floor(r() * 8);
	const at = (i: number, far: number): [number, number] => [
		far * Math.cos((2 * Math.PI * i) / n),
		far * Math.sin((2 * Math.PI * i) / n)
	];
	const radii = Array.from({ length: n }, () => 6 + 6 * r());
	const builder = new PathBuilder(...at(0, radii[0]));
	for (let i = 1; i <= n; i++) {
		const to = at(i, radii[i % n]);
		const which = kind === 3 ? 2 : Math.floor(r() * 3);
		if (which === 0) builder.line(...to);
		else if (which === 1) builder.arc(0.1 + 0.3 * r(), ...to);
		else builder.cubic(...at(i - 0.7, radii[i - 1] + r()), ...at(i - 0.3, radii[i % n] - r()), ...to);
	}
	return builder.close(1e-9);
}

/** The same line with more anchors on it. */
function cutMore(path: Path, r: Chance): Path {
	const types: number[] = [];
	const segs: number[] = [];
	for (let i = 0; i < path.types.length; i++) {
		const cuts = r() < 0.4 ? [0, 0.1 + 0.8 * r(), 1] : [0, 1];
		for (let k = 0; k + 1 < cuts.length; k++) {
			types.push(path.types[i]);
			segs.push(...partOf(path.types[i], path.segs, STRIDE * i, cuts[k], cuts[k + 1]));
		}
	}
	for (let i = 0; i < types.length; i++) {
		const j = (i + 1) % types.length;
		segs[STRIDE * j] = segs[STRIDE * i + 6];
		segs[STRIDE * j + 1] = segs[STRIDE * i + 7];
	}
	return { closed: true, types: Uint8Array.from(types), segs: Float64Array.from(segs) };
}

/** A stretch of it replaced by another way outside. */
function otherWay(path: Path, r: Chance): Path {
	const n = path.types.length;
	if (n < 4) return path;
	const first = 1 + Math.floor(r() * (n - 2));
	const last = first + Math.floor(r() * Math.min(3, n - 1 - first));
	const types = [...path.types.subarray(0, first), CUBIC, ...path.types.subarray(last + 1)];
	const [x0, y0] = path.segs.subarray(STRIDE * first, STRIDE * first + 2);
	const [x1, y1] = path.segs.subarray(STRIDE * last + 6, STRIDE * last + 8);
	const out = 1 + 0.6 * r();
	const segs = [
		...path.segs.subarray(0, STRIDE * first),
		...[x0, y0, x0 * out, y0 * out, x1 * out, y1 * out, x1, y1],
		...path.segs.subarray(STRIDE * (last + 1))
	];
	return { closed: true, types: Uint8Array.from(types), segs: Float64Array.from(segs) };
}

/** Moved, turned or scaled so that places move by about `by` mm; or each anchor for itself. */
function nudged(path: Path, by: number, size: number, r: Chance): Path {
	const way = Math.floor(r() * 4);
	const angle = (by / (size || 1)) * (r() < 0.5 ? -1 : 1);
	const dir = 2 * Math.PI * r();
	const [c, s] = [Math.cos(angle), Math.sin(angle)];
	if (way === 0) return transformPath(path, [1, 0, 0, 1, by * Math.cos(dir), by * Math.sin(dir)]);
	if (way === 1) return transformPath(path, [c, s, -s, c, 0, 0]);
	if (way === 2) return transformPath(path, [1 + angle, 0, 0, 1 + angle, 0, 0]);
	const segs = Float64Array.from(path.segs);
	const n = path.types.length;
	for (let i = 0; i < n; i++) {
		const dx = by * (2 * r() - 1);
		const dy = by * (2 * r() - 1);
		const before = (i + n - 1) % n;
		segs[STRIDE * i] += dx;
		segs[STRIDE * i + 1] += dy;
		segs[STRIDE * before + 6] = segs[STRIDE * i];
		segs[STRIDE * before + 7] = segs[STRIDE * i + 1];
		if (path.types[i] === CUBIC) {
			segs[STRIDE * i + 2] += dx;
			segs[STRIDE * i + 3] += dy;
		}
		if (path.types[before] === CUBIC) {
			segs[STRIDE * before + 4] += dx;
			segs[STRIDE * before + 5] += dy;
		}
	}
	for (let i = 0; i < n; i++) {
		if (path.types[i] !== STRAIGHT) continue;
		const a = STRIDE * i;
		for (let k = 0; k < 2; k++) {
			const third = (segs[a + 6 + k] - segs[a + k]) / 3;
			segs[a + 2 + k] = segs[a + k] + third;
			segs[a + 4 + k] = segs[a + 6 + k] - third;
		}
	}
	return { ...path, segs };
}

/** A path with the parameters between which y goes one way only, found by looking closely. */
type Falling = Path & { readonly falls: readonly (readonly number[])[] };
const withFalls = (path: Path): Falling => ({
	...path,
	falls: Array.from(path.types, (type, i) => fallsOf(type, path.segs, STRIDE * i))
});
function fallsOf(type: number, segs: Float64Array, at: number): number[] {
	if (type === STRAIGHT) return [0, 1];
	const stops = [0];
	const looks = 24;
	const dy = (t: number) => pointAt(type, segs, at, t + 1e-6).y - pointAt(type, segs, at, t - 1e-6).y;
	let before = dy(1e-6);
	for (let k = 1; k <= looks; k++) {
		const t = Math.min(k / looks, 1 - 1e-6);
		const here = dy(t);
		if (here > 0 !== before > 0) {
			let [lo, hi] = [(k - 1) / looks, t];
			for (let n = 0; n < 40; n++) {
				const mid = (lo + hi) / 2;
				if (dy(mid) > 0 === before > 0) lo = mid;
				else hi = mid;
			}
			stops.push((lo + hi) / 2);
		}
		before = here;
	}
	stops.push(1);
	return stops;
}

/** Winding of closed paths around a place, from the curves themselves by halving. */
function windingOf(paths: readonly Falling[], x: number, y: number): number {
	let sum = 0;
	for (const { types, segs, falls } of paths) {
		for (let i = 0; i < types.length; i++) {
			const at = STRIDE * i;
			const stops = falls[i];
			for (let k = 0; k + 1 < stops.length; k++) {
				const ya = k === 0 ? segs[at + 1] : pointAt(types[i], segs, at, stops[k]).y;
				const yb = k + 2 === stops.length ? segs[at + 7] : pointAt(types[i], segs, at, stops[k + 1]).y;
				if (ya <= y === yb <= y) continue;
				let [lo, hi] = [stops[k], stops[k + 1]];
				for (let n = 0; n < 54; n++) {
					const mid = (lo + hi) / 2;
					if (pointAt(types[i], segs, at, mid).y <= y === ya <= y) lo = mid;
					else hi = mid;
				}
				if (pointAt(types[i], segs, at, (lo + hi) / 2).x > x) sum += ya > yb ? -1 : 1;
			}
		}
	}
	return sum;
}

interface Near {
	readonly distance: number;
	readonly segment: number;
	readonly t: number;
}
function nearest(path: Path, x: number, y: number): Near {
	let best: Near = { distance: Infinity, segment: 0, t: 0 };
	for (let i = 0; i < path.types.length; i++) {
		const near = nearestOn(path.types[i], path.segs, STRIDE * i, x, y);
		if (near.distance < best.distance) best = { distance: near.distance, t: near.t, segment: i };
	}
	return best;
}
const placeOn = (path: Path, { segment, t }: { readonly segment: number; readonly t: number }): Point =>
	pointAt(path.types[segment], path.segs, STRIDE * segment, t);

export interface CoincidentPair {
	readonly a: Path;
	readonly b: Path;
	/** What was done to make the second of the first. */
	readonly what: string;
	/** Places that lie clear of both lines. */
	readonly places: readonly Point[];
}

/** Two lines that lie on each other or nearly, and places to ask at: half way between both where they are apart, and beside them. */
export function coincidentPair(r: Chance): CoincidentPair {
	const scale = oneOf(r, [0.1, 1, 1, 1, 10, 60]);
	const a = transformPath(line(r), [scale, 0, 0, scale, scale * 40 * r(), scale * 40 * r()]);
	const by = 10 ** (-7 + 5 * r());
	let b = a;
	const what: string[] = [];
	const ways: [number, string, () => Path][] = [
		[0.5, 'other way', () => otherWay(b, r)],
		[0.4, 'cut', () => cutMore(b, r)],
		[0.8, `by ${by.toExponential(1)}`, () => nudged(b, by, 15 * scale, r)],
		[0.3, 'back', () => reversePath(b)]
	];
	for (const [share, name, make] of ways) {
		if (r() >= share) continue;
		b = make();
		what.push(name);
	}
	const places: Point[] = [];
	for (let k = 0; k < 24; k++) {
		const [p, q] = r() < 0.5 ? [a, b] : [b, a];
		const at = placeOn(p, { segment: Math.floor(r() * p.types.length), t: r() });
		const near = nearest(q, at.x, at.y);
		const other = placeOn(q, near);
		const middle =
			near.distance < 0.5
				? { x: (at.x + other.x) / 2, y: (at.y + other.y) / 2 }
				: { x: at.x + APART * (r() - 0.5) * 8, y: at.y + APART * (r() - 0.5) * 8 };
		places.push(middle, { x: at.x + 2 * APART * (r() < 0.5 ? -1 : 1), y: at.y + 2 * APART * (r() - 0.5) });
	}
	const isClear = ({ x, y }: Point) =>
		Math.min(nearest(a, x, y).distance, nearest(b, x, y).distance) >= APART / 2;
	return { a, b, what: `${what.join(', ')}, size ${scale}`, places: places.filter(isClear) };
}

/** What each combination keeps, by whether a place lies in the one and in the other. */
export const RULES = {
	union: (a: boolean, b: boolean) => a || b,
	difference: (a: boolean, b: boolean) => a && !b,
	intersection: (a: boolean, b: boolean) => a && b,
	xor: (a: boolean, b: boolean) => a !== b
} as const satisfies Partial<Record<CombineOp, (a: boolean, b: boolean) => boolean>>;

export interface CombinedTried {
	readonly op: keyof typeof RULES;
	/** The code of the sentence with which it was refused; told as thrown where it was. */
	readonly refused?: string;
	/** It went by the polygon net. */
	readonly isNet: boolean;
	/** mm that the result lies off both lines, at most. */
	readonly off: number;
	/** Places at which the result says in where out is right, or the other way round. */
	readonly wrong: number;
	/** ms */
	readonly took: number;
}

/** The four combinations of a pair, each held against the windings of both lines. */
export function tryCoincident({ a, b, places }: CoincidentPair): CombinedTried[] {
	const input = (path: Path): CombineInput => [{ paths: [path], rule: 'nonzero' }];
	const [ofA, ofB] = [withFalls(a), withFalls(b)];
	const insides = places.map(({ x, y }) => [windingOf([ofA], x, y) !== 0, windingOf([ofB], x, y) !== 0]);
	return (Object.keys(RULES) as (keyof typeof RULES)[]).map((op): CombinedTried => {
		const begun = performance.now();
		const nothing = { op, isNet: false, off: 0, wrong: 0 };
		let made: ReturnType<typeof combine>;
		try {
			made = combine([input(a), input(b)], op, { verify: true });
		} catch (error) {
			return { ...nothing, refused: `threw: ${(error as Error).message}`, took: performance.now() - begun };
		}
		const took = performance.now() - begun;
		if (!made.ok) return { ...nothing, refused: made.problem.code, took };
		if (made.value.fallback) return { ...nothing, isNet: true, took };
		const paths = made.value.pieces.flatMap((piece) => piece.paths);
		let off = 0;
		for (const path of paths)
			for (let i = 0; i < path.types.length; i++)
				for (const t of [0, 0.13, 0.5, 0.81]) {
					const p = placeOn(path, { segment: i, t });
					off = Math.max(off, Math.min(nearest(a, p.x, p.y).distance, nearest(b, p.x, p.y).distance));
				}
		const falling = paths.map(withFalls);
		const isWrong = ({ x, y }: Point, k: number) =>
			(windingOf(falling, x, y) !== 0) !== RULES[op](insides[k][0], insides[k][1]);
		return { op, isNet: false, off, wrong: places.filter(isWrong).length, took };
	});
}
