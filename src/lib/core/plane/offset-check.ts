/** Holds an offset against reckonings that use none of the code that made it. */
import { TOLERANCE } from '../tolerance';
import { part } from '../progress';
import { crossingSteps } from './crossings';
import { EdgeTree, flattenPath } from '../geometry/edge-tree';
import { pathBox, unionBox } from '../geometry/measure';
import { STRIDE, type Path } from '../geometry/path';
import { offsetStrips, PolygonCover, type JoinKind } from './offset-strips';
import { pointAt } from '../geometry/segment';
import { WindingRows } from './winding-rows';

/** Places on each segment of a result that the check looks at. */
const CHECKS = 10;
/** Segments or places between two looks at whether to go on. */
const STEP = 100;
/** Places at which inside and outside are compared. */
const PLACES = 800;

/**
 * Distances of the result's line from the source, no crossings, and at places spread over the drawing and close beside
 * the result's line: inside the result exactly where the source, or what is nearer to it than the distance, says so.
 * Where corners are mitred or bevelled, strips beside the segments and what fills the corners take the place of the
 * distance.
 *
 * @param paths the source, not crossing itself, by the even-odd rule.
 * @returns the largest error, mm, and whether all holds; yields how far it has come (0 to 1).
 */
export function* checkOffset(
	result: readonly Path[],
	paths: readonly Path[],
	distance: number,
	join: JoinKind,
	miterLimit: number,
	tolerance: number
): Generator<number, { ok: boolean; error: number }> {
	const fine = Math.min(tolerance / 8, TOLERANCE.measure);
	const d = Math.abs(distance);
	const source = paths.map((path) => flattenPath(path, fine));
	const tree = new EdgeTree(source.map((points) => ({ points, closed: true })));
	let error = 0;
	let segments = 0;
	for (const path of result) {
		segments += path.types.length;
		for (let i = 0; i < path.types.length; i++) {
			if (i % STEP === 0) yield (0.4 * i) / path.types.length;
			for (let k = 0; k < CHECKS; k++) {
				const { x, y } = pointAt(path.types[i], path.segs, STRIDE * i, k / CHECKS);
				const off = tree.distance(x, y) - d;
				// Mitred and bevelled corners leave the round offset on purpose; what is covered decides about them.
				if (join === 'miter' && Math.abs(off) > 1.2 * tolerance && off < (miterLimit - 1) * d) continue;
				if (join === 'bevel' && off < -1.2 * tolerance) continue;
				error = Math.max(error, Math.abs(off));
			}
		}
	}
	if (error > 1.2 * tolerance) return { ok: false, error };
	const crossings = yield* part(crossingSteps(result), 0.4, 0.6);
	if (crossings.some((c) => c.through)) return { ok: false, error };
	const made = new WindingRows(result.map((path) => flattenPath(path, fine)));
	const sourceRows = new WindingRows(source);
	const strips =
		join === 'round' ? undefined : new PolygonCover(offsetStrips(paths, distance, join, miterLimit, fine));
	const agrees = (x: number, y: number): boolean => {
		// Between one flattening of the source and another nothing can be said.
		if (strips && tree.distance(x, y) < 8 * fine) return true;
		const within = sourceRows.at(x, y) % 2 !== 0;
		const reached = strips ? strips.covers(x, y) : tree.distance(x, y) < d;
		return (made.at(x, y) !== 0) === (distance > 0 ? within || reached : within && !reached);
	};
	const lines = new EdgeTree(result.map((path) => ({ points: flattenPath(path, fine), closed: true })));
	const box = unionBox([...paths, ...result].map(pathBox));
	// Evenly scattered places (additive recurrence of the plastic number), then places beside the result's line.
	for (let k = 1; k <= PLACES; k++) {
		if (k % STEP === 0) yield 0.6 + (0.2 * k) / PLACES;
		const x = box.x0 + (box.x1 - box.x0) * ((0.5 + k * 0.7548776662466927) % 1);
		const y = box.y0 + (box.y1 - box.y0) * ((0.5 + k * 0.5698402909980532) % 1);
		if (lines.distance(x, y) > 2 * tolerance && !agrees(x, y)) return { ok: false, error };
	}
	const stride = Math.max(1, Math.floor(segments / PLACES));
	let at = 0;
	for (const path of result) {
		for (let i = 0; i < path.types.length; i++) {
			if (at++ % stride) continue;
			if ((at / stride) % STEP < 1) yield 0.8 + (0.2 * at) / segments;
			const p = pointAt(path.types[i], path.segs, STRIDE * i, 0.4);
			const q = pointAt(path.types[i], path.segs, STRIDE * i, 0.6);
			const size = Math.hypot(q.x - p.x, q.y - p.y) || 1;
			const side = 3 * tolerance;
			const nx = ((q.y - p.y) / size) * side;
			const ny = (-(q.x - p.x) / size) * side;
			const mx = (p.x + q.x) / 2;
			const my = (p.y + q.y) / 2;
			for (const w of [1, -1]) {
				const x = mx + w * nx;
				const y = my + w * ny;
				if (lines.distance(x, y) > 2 * tolerance && !agrees(x, y)) return { ok: false, error };
			}
		}
	}
	return { ok: true, error };
}
