/** The order in which strands leave a node, told from places along them: what is one node may be places a hair apart. */
import { STRAIGHT, STRIDE } from '../geometry/path';
import type { Point } from '../geometry/point';
import { directionAt, pointAt } from '../geometry/segment';
import { TOLERANCE } from '../tolerance';
import type { SegmentSet } from './segment-set';
import type { Part } from './strands';

const SAME = TOLERANCE.coincidence;

/** How a half-edge leaves its node: its first part and the end of it that lies there. */
export interface Leaving {
	half: number;
	segment: number;
	/** Parameter at the node, and at the other end of the part. */
	t: number;
	far: number;
	angleRad: number;
	/** mm: how far off the node its direction was looked at. */
	reach: number;
}

/** How a half-edge whose strand has these parts leaves its node, from its start (`forward`) or from its end. */
export function leavingOf(set: SegmentSet, half: number, parts: readonly Part[], forward: boolean): Leaving {
	const part = leavingPart(set, parts, forward);
	const t = forward ? part.t0 : part.t1;
	const far = forward ? part.t1 : part.t0;
	const d = leavingDirection(set, part.segment, t, far);
	return { half, segment: part.segment, t, far, angleRad: Math.atan2(d.y, d.x), reach: AFAR };
}

/** The first part of a strand, or seen from its end the last, that leads away from the node; crumbs at it tell nothing. */
function leavingPart(set: SegmentSet, parts: readonly Part[], forward: boolean): Part {
	const n = parts.length;
	for (let k = 0; k < n && n > 1; k++) {
		const part = parts[forward ? k : n - 1 - k];
		const at = STRIDE * part.segment;
		const p = pointAt(set.types[part.segment], set.segs, at, part.t0);
		const q = pointAt(set.types[part.segment], set.segs, at, part.t1);
		if (Math.abs(p.x - q.x) + Math.abs(p.y - q.y) > 3 * SAME) return part;
	}
	return parts[forward ? 0 : n - 1];
}

function leavingDirection(set: SegmentSet, segment: number, t: number, far: number) {
	const d = directionAt(set.types[segment], set.segs, STRIDE * segment, t);
	return far > t ? d : { x: -d.x, y: -d.y };
}

/** Anticlockwise order around a node; strands that leave in nearly one direction are told apart farther out. */
export function sortAround(set: SegmentSet, list: Leaving[]): void {
	list.sort((a, b) => a.angleRad - b.angleRad);
	const n = list.length;
	if (list.some((a, k) => turnTo(list[(k + 1) % n], a) < NARROW)) seeFromAfar(set, list);
	// Nearer in direction than this are told apart one from the other, each pair as far out as it goes.
	const close = (a: Leaving, b: Leaving) =>
		Math.max(CLOSE, Math.min(NARROW, (4 * SAME) / Math.min(a.reach, b.reach)));
	// Groups of nearly equal direction (over the seam at half a turn, too) are sorted among themselves.
	let start = 0;
	// Begin after a wide gap, so that no group straddles the ends of the list.
	for (let k = 0; k < n; k++) {
		const before = list[(k + n - 1) % n];
		if (turnTo(list[k], before) > close(list[k], before)) {
			start = k;
			break;
		}
	}
	const turned = [...list.slice(start), ...list.slice(0, start)];
	let k = 0;
	while (k < n) {
		let e = k + 1;
		while (e < n && turnTo(turned[e], turned[e - 1]) <= close(turned[e], turned[e - 1])) e++;
		if (e - k > 1) {
			const group = turned.slice(k, e).sort((a, b) => sideOf(set, a, b));
			for (let m = k; m < e; m++) turned[m] = group[m - k];
		}
		k = e;
	}
	for (let m = 0; m < n; m++) list[m] = turned[m];
}

/** Radians. Directions nearer to each other than this are told apart by which side of each other they lie on. */
const CLOSE = 0.02;
/** Radians. Directions nearer to each other than this are looked at a little way off the node. */
const NARROW = 0.3;
/** mm, the most of that way. */
const AFAR = 1e-3;

/** Cosine of the turn within which a line still leads away from its node. */
const STEADY = 0.5;

/** Brings the far end of a strand's first part so near that it turns by no more than 60 degrees. */
function keepSteady(set: SegmentSet, a: Leaving): void {
	const type = set.types[a.segment];
	if (type === STRAIGHT) return;
	const from = leavingDirection(set, a.segment, a.t, a.far);
	for (let k = 0; k < 24; k++) {
		const isSteady = [0.25, 0.5, 0.75, 1].every((w) => {
			const d = directionAt(type, set.segs, STRIDE * a.segment, a.t + (a.far - a.t) * w);
			return (d.x * from.x + d.y * from.y) * (a.far > a.t ? 1 : -1) >= STEADY;
		});
		if (isSteady) return;
		a.far = (a.t + a.far) / 2;
	}
}

/** Radians from b on to a, anticlockwise. */
function turnTo(a: Leaving, b: Leaving): number {
	const turn = a.angleRad - b.angleRad;
	return turn >= 0 ? turn : turn + 2 * Math.PI;
}

/** Directions from the node to places a little way along each: what is one node may be places a hair apart. */
function seeFromAfar(set: SegmentSet, list: Leaving[]): void {
	const o = { x: 0, y: 0 };
	for (const a of list) {
		keepSteady(set, a);
		const start = pointAt(set.types[a.segment], set.segs, STRIDE * a.segment, a.t);
		o.x += start.x / list.length;
		o.y += start.y / list.length;
	}
	for (const a of list) {
		const end = pointAt(set.types[a.segment], set.segs, STRIDE * a.segment, a.far);
		a.reach = Math.min(AFAR, Math.hypot(end.x - o.x, end.y - o.y) / 2);
		const p = placeAtDistance(set, a, o, a.reach);
		a.angleRad = Math.atan2(p.y - o.y, p.x - o.x);
	}
	list.sort((a, b) => a.angleRad - b.angleRad);
}

/** Below 0 where a lies clockwise of b, seen along both from their node: judged where they are farthest apart. */
function sideOf(set: SegmentSet, a: Leaving, b: Leaving): number {
	const start = pointAt(set.types[a.segment], set.segs, STRIDE * a.segment, a.t);
	const start2 = pointAt(set.types[b.segment], set.segs, STRIDE * b.segment, b.t);
	// What is one node may be two places a hair apart: both are seen from between them.
	const o = { x: (start.x + start2.x) / 2, y: (start.y + start2.y) / 2 };
	const endA = pointAt(set.types[a.segment], set.segs, STRIDE * a.segment, a.far);
	const endB = pointAt(set.types[b.segment], set.segs, STRIDE * b.segment, b.far);
	const reach = Math.min(Math.hypot(endA.x - o.x, endA.y - o.y), Math.hypot(endB.x - o.x, endB.y - o.y));
	let best = 0;
	for (const share of [0.9, 0.5, 0.2, 0.05]) {
		const p = placeAtDistance(set, a, o, share * reach);
		const q = placeAtDistance(set, b, o, share * reach);
		const px = p.x - o.x;
		const py = p.y - o.y;
		const qx = q.x - o.x;
		const qy = q.y - o.y;
		const apart = (px * qy - py * qx) / (Math.hypot(px, py) + Math.hypot(qx, qy) || 1);
		if (Math.abs(apart) > Math.abs(best)) best = apart;
	}
	return best > 0 ? -1 : best < 0 ? 1 : 0;
}

/** The place on the strand's first part that is `distance` mm from its start. */
function placeAtDistance(set: SegmentSet, a: Leaving, o: Point, distance: number) {
	const type = set.types[a.segment];
	const at = STRIDE * a.segment;
	let lo = 0;
	let hi = 1;
	let p = o;
	for (let k = 0; k < 40; k++) {
		const w = (lo + hi) / 2;
		p = pointAt(type, set.segs, at, a.t + (a.far - a.t) * w);
		if (Math.hypot(p.x - o.x, p.y - o.y) < distance) lo = w;
		else hi = w;
		if (hi - lo < 1e-9) break;
	}
	return p;
}
