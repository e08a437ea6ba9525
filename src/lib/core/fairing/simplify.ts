/** Fewest anchors within a drift: the dense line sampled, meant corners kept, few curves fitted. */
import { CoreError } from '../errors';
import { finish, part, within } from '../progress';
import { TOLERANCE } from '../tolerance';
import { twoWayDistance } from '../geometry/edge-tree';
import { byReach, type Simplified } from '../fit/by-reach';
import { anchorCount, pathLength, turnAt } from '../geometry/measure';
import { polygonPath, STRAIGHT, STRIDE, type Path } from '../geometry/path';
import { refit } from '../fit/refit';
import { mergeStraights } from '../geometry/straights';
import { neededPlaces } from '../geometry/thinned';
import { fairSteps } from './fair';
import { moveJoint } from './joints';
import { mergedArcs } from './merged-arcs';
import { segmentLength } from '../geometry/segment';

export type { Simplified };

/** Segments above which a line is too long to be gone through by furthest reach as well. */
const LONG = 20_000;

/**
 * The outline with few anchors, nowhere farther than `tolerance` from the line it was, both ways. Anchors turning
 * by more than `cornerAngle` degrees at the scale of the tolerance stay, exactly. Where nothing is to be gained the
 * outline itself comes back, with a drift of 0.
 *
 * Several ways are tried and the one with the fewest anchors is taken: curves as far as they reach along the line as it is;
 * curves of one circle as one arc; of straights those that are needed; and, for a rough line, the line faired first and then
 * drawn as loosely as the tolerance still allows.
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
	const ways = [faired, reached, byArcs(path, tolerance), byChords(path, tolerance), byStraights(path)];
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

/** Of a line of straights the anchors that are needed, with straights between them. */
function byChords(path: Path, tolerance: number): Simplified | undefined {
	if (path.types.some((type) => type !== STRAIGHT)) return undefined;
	const { closed, segs } = path;
	const count = anchorCount(path);
	const [x, y] = [0, 1].map((axis) =>
		Float64Array.from({ length: count }, (_, k) =>
			k < path.types.length ? segs[STRIDE * k + axis] : segs[STRIDE * (k - 1) + 6 + axis]
		)
	);
	const needed = neededPlaces(x, y, closed, NEAR_ALL * tolerance);
	if (needed.length < (closed ? 3 : 2) || needed.length >= count) return undefined;
	const drawn = polygonPath(
		needed.flatMap((k) => [x[k], y[k]]),
		closed
	);
	const far = twoWayDistance([path], [drawn], tolerance / 16, 4 * Math.sqrt(tolerance));
	return far.distance <= tolerance
		? { path: drawn, drift: far.distance, worst: { x: far.x, y: far.y } }
		: undefined;
}
/** Of the tolerance, so that what lies between anchors keeps to it as well. */
const NEAR_ALL = 0.98;

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
