/** Curves as far as they reach along a line as it is: sampled densely, meant corners kept, few curves fitted. */
import type { Point } from '../geometry/point';
import { finish } from '../progress';
import { twoWayDistance } from '../geometry/edge-tree';
import { anchorCount, pathLength, turnAt } from '../geometry/measure';
import { STRAIGHT, STRIDE, type Path } from '../geometry/path';
import { directionAt, flattenSteps, pointAt, segmentLength, turnBetween } from '../geometry/segment';
import {
	fitTrail,
	localLine,
	runningLength,
	smoothTrail,
	trailLength,
	type Trail,
	type TrailCorner
} from './fit';

export interface Simplified {
	readonly path: Path;
	/** The largest two-way distance between the old line and the new, mm. */
	readonly drift: number;
	/** Where it is largest. */
	readonly worst: Point;
}

/**
 * The line drawn by curves as far as they reach along it, telling how far it has come (0 to 1) between its steps.
 * @returns undefined where that takes no fewer anchors.
 */
export function* byReach(
	path: Path,
	tolerance: number,
	cornerAngle: number
): Generator<number, Simplified | undefined> {
	const { trail, corners } = sampleTrail(path, tolerance, cornerAngle);
	let within = 0.96 * tolerance;
	for (let attempt = 0; attempt < 8; attempt++) {
		yield 0.1 + attempt / 9;
		const fitted = fitTrail(trail, { tolerance: within, corners, leastStraight: 12 * tolerance });
		if (anchorCount(fitted) >= anchorCount(path)) break;
		// How far the lines lie apart changes slowly along them: samples need not be as near as the tolerance.
		const { distance, x, y } = twoWayDistance([path], [fitted], tolerance / 16, 4 * Math.sqrt(tolerance));
		if (distance <= tolerance) return { path: fitted, drift: distance, worst: { x, y } };
		within *= Math.min(0.9, (0.97 * tolerance) / distance);
	}
	return undefined;
}

/**
 * The polygon that a net gave, as curves within the tolerance; the polygon itself where nothing is gained.
 * @param tolerance mm, > 0.
 */
export function curvesThroughPolygon(polygon: Path, tolerance: number): Path {
	return finish(byReach(polygon, tolerance, NET_CORNER))?.path ?? polygon;
}

/** Degrees. What turns more sharply in a polygon made of curves was a corner of theirs. */
const NET_CORNER = 15;

/** Samples the path so densely that what lies between is far below the tolerance. */
function sampleTrail(
	path: Path,
	tolerance: number,
	cornerAngle: number
): { trail: Trail; corners: TrailCorner[] } {
	const n = path.types.length;
	const xs: number[] = [];
	const ys: number[] = [];
	const dx: number[] = [];
	const dy: number[] = [];
	const anchorIndex = new Int32Array(n + 1);
	const turns = new Float64Array(n + 1);
	const widest = Math.max(tolerance, pathLength(path) / 20000);
	for (let i = 0; i < n; i++) {
		const at = STRIDE * i;
		const type = path.types[i];
		anchorIndex[i] = xs.length;
		turns[i] = turnAt(path, i);
		const length = segmentLength(type, path.segs, at);
		let steps = type === STRAIGHT ? 1 : Math.max(3, flattenSteps(type, path.segs, at, tolerance / 40));
		steps = Math.min(400, Math.max(steps, Math.ceil(length / (2 * widest))));
		for (let k = 0; k < steps; k++) {
			const t = k / steps;
			const p = pointAt(type, path.segs, at, t);
			const d = directionAt(type, path.segs, at, t);
			xs.push(p.x);
			ys.push(p.y);
			dx.push(d.x);
			dy.push(d.y);
		}
	}
	if (!path.closed) {
		const at = STRIDE * (n - 1);
		const d = directionAt(path.types[n - 1], path.segs, at, 1);
		anchorIndex[n] = xs.length;
		xs.push(path.segs[at + 6]);
		ys.push(path.segs[at + 7]);
		dx.push(d.x);
		dy.push(d.y);
	}
	const x = Float64Array.from(xs);
	const y = Float64Array.from(ys);
	const trail: Trail = {
		closed: path.closed,
		count: xs.length,
		x,
		y,
		s: runningLength(x, y, path.closed),
		ax: Float64Array.from(x),
		ay: Float64Array.from(y),
		tx: Float64Array.from(dx),
		ty: Float64Array.from(dy)
	};
	const window = 6 * tolerance;
	const corners = meantCorners(path, trail, anchorIndex, turns, window, cornerAngle);
	const rough = roughPoints(path, trail, anchorIndex, turns, corners, window);
	return { trail: smoothTrail(trail, window, corners, 0, rough), corners };
}

/**
 * Corners that a person would call so: the line turns there, and goes on turning by as much when one looks at a
 * stretch of several tolerances on both sides. The teeth of a bad trace turn sharply too, but not at that scale.
 */
function meantCorners(
	path: Path,
	trail: Trail,
	anchorIndex: Int32Array,
	turns: Float64Array,
	window: number,
	cornerAngle: number
): TrailCorner[] {
	const n = path.types.length;
	const found: (TrailCorner & { turn: number })[] = [];
	for (let i = path.closed ? 0 : 1; i < n; i++) {
		if (Math.abs(turns[i]) < cornerAngle) continue;
		const index = anchorIndex[i];
		const before = (i + n - 1) % n;
		const lengthBefore = segmentLength(path.types[before], path.segs, STRIDE * before);
		const lengthAfter = segmentLength(path.types[i], path.segs, STRIDE * i);
		const place = { index, x: trail.x[index], y: trail.y[index] };
		if (lengthBefore >= window && lengthAfter >= window) {
			const a = directionAt(path.types[before], path.segs, STRIDE * before, 1);
			const b = directionAt(path.types[i], path.segs, STRIDE * i, 0);
			found.push({ ...place, inX: a.x, inY: a.y, outX: b.x, outY: b.y, turn: Math.abs(turns[i]) });
			continue;
		}
		const a = localLine(trail, index, window, 0);
		const b = localLine(trail, index, 0, window);
		const turn = Math.abs(turnBetween(a.tx, a.ty, b.tx, b.ty));
		const near = Math.hypot(a.x - b.x, a.y - b.y) + Math.hypot(a.x - place.x, a.y - place.y);
		if (turn < cornerAngle || near > window) continue;
		// It must stand clear: farther out the line still turns by as much.
		const c = localLine(trail, index, 3 * window, 0, window / 2);
		const d = localLine(trail, index, 0, 3 * window, window / 2);
		const wide = Math.abs(turnBetween(c.tx, c.ty, d.tx, d.ty));
		if (wide < cornerAngle) continue;
		found.push({ ...place, inX: a.tx, inY: a.ty, outX: b.tx, outY: b.ty, turn });
	}
	// Of several within one window only the sharpest is the corner, unless both are real anchors of long segments. They stand in order.
	const isBlunter = (a: (typeof found)[number], b: (typeof found)[number]) =>
		a.turn < b.turn || (a.turn === b.turn && a.index > b.index);
	return found.filter((corner, i) =>
		[-1, 1].every((way) => {
			for (let k = 1; k < found.length; k++) {
				const at = i + way * k;
				const isRound = at < 0 || at >= found.length;
				if (isRound && !path.closed) return true;
				const other = found[(at + found.length) % found.length];
				let apart = Math.abs(trail.s[other.index] - trail.s[corner.index]);
				if (isRound) apart = trail.s[trail.count] - apart;
				if (apart >= window) return true;
				if (!isBlunter(other, corner)) return false;
			}
			return true;
		})
	);
}

/** Points near anchors that turn without being corners: there the direction must come from the neighbourhood. */
function roughPoints(
	path: Path,
	trail: Trail,
	anchorIndex: Int32Array,
	turns: Float64Array,
	corners: readonly TrailCorner[],
	window: number
): Uint8Array {
	const count = trail.count;
	const isCorner = new Set(corners.map((c) => c.index));
	const rough = new Uint8Array(count);
	for (let i = path.closed ? 0 : 1; i < path.types.length; i++) {
		if (Math.abs(turns[i]) < 1 || isCorner.has(anchorIndex[i])) continue;
		const index = anchorIndex[i];
		const s0 = trail.s[index];
		for (const dir of [-1, 1]) {
			for (let k = index; Math.abs(k - index) < count; k += dir) {
				if (!path.closed && (k < 0 || k >= count)) break;
				if (Math.abs(trailLength(trail, k) - s0) > window) break;
				rough[((k % count) + count) % count] = 1;
			}
		}
	}
	return rough;
}
