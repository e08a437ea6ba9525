/** Curvature along a line: for the comb drawn beside it, for inflections, for steps where only tangents meet. */
import type { Point } from './point';
import { turnAt } from './measure';
import { CUBIC, STRAIGHT, STRIDE, type Path } from './path';
import { curvatureAt, directionAt, inflections, pointAt, segmentLength } from './segment';

/** Numbers per tooth: x, y, the unit normal to the left of travel, curvature (1/mm, positive to the left), length so far (mm). */
export const TOOTH = 6;

/** Degrees: what turns more is a corner. */
const CORNER = 1.15;

export interface Comb {
	readonly teeth: Float64Array;
	/** Indexes of teeth at which a new segment begins. */
	readonly begins: Int32Array;
	/** Joints where the curvature jumps though the line runs on smoothly: place, before and after, 1/mm. */
	readonly steps: readonly {
		readonly x: number;
		readonly y: number;
		readonly before: number;
		readonly after: number;
	}[];
	readonly inflections: readonly Point[];
	/** The largest curvature that is not a corner's, 1/mm. */
	readonly most: number;
}

/**
 * @param perSegment teeth on each curve; straights have two.
 */
export function combOf(path: Path, perSegment = 16): Comb {
	const { types, segs } = path;
	const n = types.length;
	const out: number[] = [];
	const begins: number[] = [];
	const turns: Point[] = [];
	let along = 0;
	let most = 0;
	for (let i = 0; i < n; i++) {
		const at = STRIDE * i;
		begins.push(out.length / TOOTH);
		const teeth = types[i] === STRAIGHT ? 1 : perSegment;
		const length = segmentLength(types[i], segs, at);
		for (let k = 0; k <= teeth; k++) {
			const t = k / teeth;
			const p = pointAt(types[i], segs, at, t);
			const d = directionAt(types[i], segs, at, t);
			const curvature = curvatureAt(types[i], segs, at, t);
			const told = Number.isFinite(curvature) ? curvature : 0;
			most = Math.max(most, Math.abs(told));
			out.push(p.x, p.y, -d.y, d.x, told, along + length * t);
		}
		if (types[i] === CUBIC) for (const t of inflections(segs, at)) turns.push(pointAt(CUBIC, segs, at, t));
		along += length;
	}
	const steps: { x: number; y: number; before: number; after: number }[] = [];
	for (let i = path.closed ? 0 : 1; i < n; i++) {
		const b = (i + n - 1) % n;
		// A corner is no step.
		if (Math.abs(turnAt(path, i)) > CORNER) continue;
		const before = curvatureAt(types[b], segs, STRIDE * b, 1);
		const after = curvatureAt(types[i], segs, STRIDE * i, 0);
		if (Math.abs(after - before) > 0.08 * Math.max(Math.abs(before), Math.abs(after), 0.2 * most))
			steps.push({ x: segs[STRIDE * i], y: segs[STRIDE * i + 1], before, after });
		// Where the bend changes its side from one segment to the next the line bends over too.
		if (before * after < 0) turns.push({ x: segs[STRIDE * i], y: segs[STRIDE * i + 1] });
	}
	return {
		teeth: Float64Array.from(out),
		begins: Int32Array.from(begins),
		steps,
		inflections: turns,
		most
	};
}

/** A stretch that bends more tightly than some radius: from where to where along the line, mm, and its tightest place. */
export interface TightStretch {
	readonly from: number;
	readonly to: number;
	readonly x: number;
	readonly y: number;
	/** mm, positive where it bends left. */
	readonly radius: number;
}

/** The stretches of a line on which it bends more tightly than a radius (mm), in their order. Corners do not count. */
export function tightStretches({ teeth }: Comb, radius: number): TightStretch[] {
	const out: TightStretch[] = [];
	let begin = -1;
	let tightest = 0;
	const n = teeth.length / TOOTH;
	for (let i = 0; i <= n; i++) {
		const bend = i < n ? Math.abs(teeth[TOOTH * i + 4]) : 0;
		// A hair tighter is as tight.
		if (bend * radius > 1 + 1e-6) {
			if (begin < 0) {
				begin = i;
				tightest = i;
			}
			if (bend > Math.abs(teeth[TOOTH * tightest + 4])) tightest = i;
		} else if (begin >= 0) {
			const at = TOOTH * tightest;
			out.push({
				from: teeth[TOOTH * begin + 5],
				to: teeth[TOOTH * (i - 1) + 5],
				x: teeth[at],
				y: teeth[at + 1],
				radius: 1 / teeth[at + 4]
			});
			begin = -1;
		}
	}
	return out;
}

/** Teeth of a whole line, about; and of one curve at least and at most. */
const TEETH = 600;
const LEAST_TEETH = 6;
const MOST_TEETH = 40;

/** As many teeth a curve as are seen: fewer where there are many curves. */
export const teethFor = (path: Path) =>
	Math.max(LEAST_TEETH, Math.min(MOST_TEETH, Math.round(TEETH / Math.max(1, path.types.length))));
