/** Fewest anchors within a drift: the dense line sampled, meant corners kept, few curves fitted. */
import { CoreError } from '../errors';
import { finish, part, within } from '../progress';
import { TOLERANCE } from '../tolerance';
import { twoWayDistance } from '../geometry/edge-tree';
import {
	fitTrail,
	localLine,
	runningLength,
	smoothTrail,
	trailLength,
	type Trail,
	type TrailCorner
} from '../geometry/fit';
import { anchorCount, pathLength, turnAt } from '../geometry/measure';
import { STRAIGHT, STRIDE, type Path } from '../geometry/path';
import { refit } from '../geometry/refit';
import { mergeStraights } from '../geometry/straights';
import { fairSteps } from './fair';
import { moveJoint } from './joints';
import { mergedArcs } from './merged-arcs';
import { directionAt, flattenSteps, pointAt, segmentLength, turnBetween } from '../geometry/segment';

export interface Simplified {
	readonly path: Path;
	/** The largest two-way distance between the old line and the new, mm. */
	readonly drift: number;
	/** Where it is largest. */
	readonly worst: { readonly x: number; readonly y: number };
}

/** Segments above which a line is too long to be gone through by furthest reach as well. */
const LONG = 20_000;

/**
 * The outline with few anchors, nowhere farther than `tolerance` from the line it was, both ways. Anchors turning
 * by more than `cornerAngle` degrees at the scale of the tolerance stay, exactly. Where nothing is to be gained the
 * outline itself comes back, with a drift of 0.
 *
 * Several ways are tried and the one with the fewest anchors is taken: curves as far as they reach along the line as it is;
 * curves of one circle as one arc; and, for a rough line, the line faired first and then drawn as loosely as the tolerance
 * still allows.
 *
 * @throws CoreError `bad-tolerance`
 */
export function simplifyPath(
	path: Path,
	tolerance: number,
	cornerAngle: number = TOLERANCE.corner
): Simplified {
	return finish(simplifySteps(path, tolerance, cornerAngle));
}

/** The same, telling how far it has come (0 to 1) between its steps. */
export function* simplifySteps(
	path: Path,
	tolerance: number,
	cornerAngle: number = TOLERANCE.corner
): Generator<number, Simplified> {
	if (!(tolerance > 0)) {
		throw new CoreError('bad-tolerance', `The drift allowed must be above 0 mm, not ${tolerance}.`);
	}
	const still: Simplified = { path, drift: 0, worst: { x: path.segs[0] ?? 0, y: path.segs[1] ?? 0 } };
	if (path.types.length < 2) return still;
	const faired = isWorthFairing(path, tolerance)
		? yield* part(viaFairing(path, tolerance, cornerAngle), 0, 0.5)
		: undefined;
	const isEnough = faired && path.types.length > LONG;
	const reached = isEnough ? undefined : yield* part(byReach(path, tolerance, cornerAngle), 0.5, 0.9);
	yield 0.9;
	const ways = [faired, reached, byArcs(path, tolerance), byStraights(path)];
	let best: Simplified | undefined;
	for (const way of ways) if (way && (!best || anchorCount(way.path) < anchorCount(best.path))) best = way;
	return best && anchorCount(best.path) < anchorCount(path) ? best : still;
}

/** Anchors on a straight taken out: nothing moves. */
function byStraights(path: Path): Simplified | undefined {
	const merged = mergeStraights(path);
	return merged === path
		? undefined
		: { path: merged, drift: 0, worst: { x: path.segs[0], y: path.segs[1] } };
}

/** Curves that follow one circle as one arc. */
function byArcs(path: Path, tolerance: number): Simplified | undefined {
	const drawn = mergedArcs(path, tolerance);
	if (anchorCount(drawn) >= anchorCount(path)) return undefined;
	const { distance, x, y } = twoWayDistance([path], [drawn], tolerance / 16, 4 * Math.sqrt(tolerance));
	return distance <= tolerance ? { path: drawn, drift: distance, worst: { x, y } } : undefined;
}

/** Lines that run smoothly through nearly all their anchors gain nothing by being faired, nor do those with few or far apart. */
function isWorthFairing(path: Path, tolerance: number): boolean {
	const n = path.types.length;
	if (n <= FEW || pathLength(path) > 6 * tolerance * n) return false;
	let rough = 0;
	for (let i = 0; i < n; i++) if (Math.abs(turnAt(path, i)) >= 1) rough++;
	return rough > 0.1 * n;
}
const FEW = 60;

/** The line faired, then drawn as loosely as what is left of the tolerance allows. */
function* viaFairing(
	path: Path,
	tolerance: number,
	cornerAngle: number
): Generator<number, Simplified | undefined> {
	const { closed } = path;
	const close = yield* part(fairSteps(path, { drift: tolerance, cornerAngle }), 0, 0.6);
	if (close.drift === 0) return undefined;
	let best: Simplified = { ...close, path: withExactCorners(close.path, path, tolerance, cornerAngle) };
	const left = tolerance - close.drift;
	for (const share of [1, 0.6]) {
		yield 1 - 0.4 * share;
		const looser = refit(close.path, {
			tolerance: Math.max(1e-6, share * left),
			keepLength: 12 * tolerance
		});
		if (anchorCount(looser) >= anchorCount(best.path)) continue;
		const drawn = withExactCorners({ ...looser, closed }, path, tolerance, cornerAngle);
		const { distance, x, y } = twoWayDistance([path], [drawn], tolerance / 100, tolerance);
		if (distance > tolerance) continue;
		best = { path: drawn, drift: distance, worst: { x, y } };
		break;
	}
	const { distance, x, y } = twoWayDistance([path], [best.path], tolerance / 100, tolerance / 2);
	return distance <= tolerance ? { path: best.path, drift: distance, worst: { x, y } } : undefined;
}

/** Corners drawn a hair beside true corners of the line, which stand between long segments, are put exactly there. */
function withExactCorners(drawn: Path, path: Path, tolerance: number, cornerAngle: number): Path {
	const n = path.types.length;
	const long = Uint8Array.from(path.types, (type, i) =>
		segmentLength(type, path.segs, STRIDE * i) >= 6 * tolerance ? 1 : 0
	);
	const segs = drawn.segs.slice();
	const m = drawn.types.length;
	let touched = false;
	for (let i = path.closed ? 0 : 1; i < n; i++) {
		if (!long[i] || !long[(i + n - 1) % n] || Math.abs(turnAt(path, i)) < cornerAngle) continue;
		const x = path.segs[STRIDE * i];
		const y = path.segs[STRIDE * i + 1];
		for (let k = drawn.closed ? 0 : 1; k < m; k++) {
			const at = STRIDE * k;
			if (Math.hypot(drawn.segs[at] - x, drawn.segs[at + 1] - y) > 0.4 * tolerance) continue;
			if (Math.abs(turnAt(drawn, k)) < cornerAngle / 2) continue;
			moveJoint(drawn, segs, k, x, y);
			touched = true;
			break;
		}
	}
	return touched ? { ...drawn, segs } : drawn;
}

/** Curves as far as they reach along the line as it is. */
function* byReach(
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
	// Of several within one window only the sharpest is the corner, unless both are real anchors of long segments.
	return found.filter((corner) =>
		found.every((other) => {
			if (other === corner) return true;
			const whole = trail.s[trail.count];
			let apart = Math.abs(trail.s[other.index] - trail.s[corner.index]);
			if (trail.closed) apart = Math.min(apart, whole - apart);
			return (
				apart >= window ||
				other.turn < corner.turn ||
				(other.turn === corner.turn && other.index > corner.index)
			);
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

/** Anchors against drift: for each tolerance the anchors that remain and the drift reached; nothing between its steps. */
export function* simplifyCurve(
	paths: readonly Path[],
	tolerances: readonly number[]
): Generator<{ tolerance: number; anchors: number; drift: number } | undefined, void> {
	for (const tolerance of tolerances) {
		let anchors = 0;
		let drift = 0;
		for (const path of paths) {
			const simple = yield* within(simplifySteps(path, tolerance), () => undefined);
			anchors += anchorCount(simple.path);
			drift = Math.max(drift, simple.drift);
		}
		yield { tolerance, anchors, drift };
	}
}
