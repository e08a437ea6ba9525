/** How far one line lies from others all along it, with its side: for colours and thickness drawn along the line. */
import { EdgeTree, flattenPath } from './edge-tree';
import { STRIDE, type Affine, type Path } from './path';
import { directionAt, evenParameters, pointAt, segmentLength } from './segment';

/**
 * Numbers per sample: x, y, the unit normal to the left of travel, and the distance, positive where the other line lies left;
 * not a number where there is nothing to compare with.
 */
export const SAMPLE = 5;

/** Samples along one line, `SAMPLE` numbers each. */
export interface Deviation {
	readonly samples: Float64Array;
	readonly closed: boolean;
}

/**
 * The distance from places along a line, at most `step` apart, to the nearest of other lines; with a sign: positive
 * where that one lies to the left of travel.
 *
 * @param others lines as points, x,y pairs.
 */
export function deviationAlong(
	path: Path,
	others: readonly { readonly points: ArrayLike<number>; readonly closed: boolean }[],
	step: number
): Deviation {
	const tree = new EdgeTree(others.map((o) => ({ points: Float64Array.from(o.points), closed: o.closed })));
	return beside(path, step, (x, y, nx, ny) => {
		const distance = tree.distance(x, y);
		const side = (tree.x - x) * nx + (tree.y - y) * ny;
		return Number.isFinite(distance) ? (side < 0 ? -distance : distance) : 0;
	});
}

/** The distance from places along a line to one other line, that one flattened within `tolerance` mm. */
export function deviationFrom(path: Path, other: Path, step: number, tolerance: number): Deviation {
	return deviationAlong(path, [{ points: flattenPath(other, tolerance), closed: other.closed }], step);
}

/** Places along one segment at most. */
const MOST_PLACES = 400;

/**
 * What `off` says of places along a line, at most `step` mm apart.
 * @param off told a place and the unit normal to the left of travel there; gives a distance.
 */
export function beside(
	path: Path,
	step: number,
	off: (x: number, y: number, nx: number, ny: number) => number
): Deviation {
	const out: number[] = [];
	const n = path.types.length;
	const visit = (i: number, t: number) => {
		const at = STRIDE * i;
		const p = pointAt(path.types[i], path.segs, at, t);
		const d = directionAt(path.types[i], path.segs, at, t);
		out.push(p.x, p.y, -d.y, d.x, off(p.x, p.y, -d.y, d.x));
	};
	for (let i = 0; i < n; i++) {
		const at = STRIDE * i;
		const length = segmentLength(path.types[i], path.segs, at);
		const parts = Math.max(1, Math.min(MOST_PLACES, Math.ceil(length / step)));
		for (const t of evenParameters(path.types[i], path.segs, at, parts).subarray(0, parts)) visit(i, t);
	}
	if (n > 0) visit(n - 1, 1);
	return { samples: Float64Array.from(out), closed: path.closed };
}

/** The same samples under an even map; normals and sides turn with it. */
export function transformDeviation({ samples, closed }: Deviation, m: Affine): Deviation {
	const [a, b, c, d, e, f] = m;
	const scale = Math.sqrt(Math.abs(a * d - b * c));
	const out = new Float64Array(samples.length);
	for (let i = 0; i < samples.length; i += SAMPLE) {
		const [x, y, nx, ny, off] = samples.subarray(i, i + SAMPLE);
		out[i] = a * x + c * y + e;
		out[i + 1] = b * x + d * y + f;
		out[i + 2] = (a * nx + c * ny) / scale;
		out[i + 3] = (b * nx + d * ny) / scale;
		out[i + 4] = off * scale;
	}
	return { samples: out, closed };
}

/** The sample nearest to a place, and its distance from it, mm; undefined where there is none. */
export function sampleNear(
	deviations: readonly Deviation[],
	x: number,
	y: number
): { x: number; y: number; off: number; apart: number } | undefined {
	let best: { x: number; y: number; off: number; apart: number } | undefined;
	for (const { samples } of deviations) {
		for (let i = 0; i < samples.length; i += SAMPLE) {
			const apart = Math.hypot(samples[i] - x, samples[i + 1] - y);
			if (best && apart >= best.apart) continue;
			best = { x: samples[i], y: samples[i + 1], off: samples[i + 4], apart };
		}
	}
	return best;
}

/** Where a line lies farthest off, and by how much, mm. */
export interface Worst {
	readonly x: number;
	readonly y: number;
	readonly off: number;
}

/** The sample that strays most; undefined where there is none. */
export function worstOf(deviations: readonly Deviation[]): Worst | undefined {
	let worst: Worst | undefined;
	for (const { samples } of deviations) {
		for (let i = 0; i < samples.length; i += SAMPLE) {
			const off = Math.abs(samples[i + 4]);
			if (!Number.isFinite(off) || (worst && off <= Math.abs(worst.off))) continue;
			worst = { x: samples[i], y: samples[i + 1], off: samples[i + 4] };
		}
	}
	return worst;
}
