/** Ways in which anchors move: along a neighbour, along their own line, softly with their neighbourhood. */
import type { Point } from '../../geometry/point';
import { CoreError } from '../../errors';
import { CUBIC, STRAIGHT, STRIDE } from '../../geometry/path';
import { nearestOnPath } from '../../geometry/pick';
import { directionAt, nearestOn, parameterAtLength, pointAt, segmentLength } from '../../geometry/segment';
import { deleteAnchors, insertAnchors, moveAnchors } from './anchors';
import { ANCHOR_STRIDE, anchorIndex, MARK_STRIDE, segmentTotal, sourceLine, type Outline } from '../outline';

export type Neighbour = 'before' | 'after';

/**
 * The direction in which an anchor may slide so that the side before or after it keeps its angle: along the straight, or
 * along the end tangent of the curve; pointing away from that side. Undefined where there is no such side.
 */
export function slideDirection(outline: Outline, anchor: number, side: Neighbour): Point | undefined {
	const i = anchorIndex(outline, anchor);
	if (i === undefined) return undefined;
	const n = outline.anchors.length;
	if (!outline.closed && (side === 'before' ? i === 0 : i === n - 1)) return undefined;
	const path = sourceLine(outline);
	const k = side === 'before' ? (i + n - 1) % n : i;
	const d = directionAt(path.types[k], path.segs, STRIDE * k, side === 'before' ? 1 : 0);
	return side === 'before' ? d : { x: -d.x, y: -d.y };
}

/**
 * The side along which an anchor slides: the one asked for, or the other one where that runs to a neighbour that is moved as
 * well, as at the two ends of a hem; undefined where both neighbours are.
 */
export function ownSide(
	outline: Outline,
	anchors: ReadonlySet<number>,
	anchor: number,
	side: Neighbour
): Neighbour | undefined {
	const i = anchorIndex(outline, anchor);
	if (i === undefined) return undefined;
	const n = outline.anchors.length;
	const isMoved = (which: Neighbour) =>
		anchors.has(outline.anchors[which === 'before' ? (i + n - 1) % n : (i + 1) % n]);
	if (!isMoved(side)) return side;
	const other = side === 'before' ? 'after' : 'before';
	return isMoved(other) ? undefined : other;
}

/**
 * Moves anchors along the side before or after each of them, all by as much; mm, positive makes that side longer. Each keeps to
 * a side of its own: one whose neighbour is not moved.
 */
export function slideAlong(
	outline: Outline,
	anchors: ReadonlySet<number>,
	side: Neighbour,
	by: number
): Outline {
	let next = outline;
	for (const anchor of anchors) {
		const own = ownSide(outline, anchors, anchor, side);
		const d = own && slideDirection(outline, anchor, own);
		if (d) next = moveAnchors(next, new Set([anchor]), d.x * by, d.y * by);
	}
	return next;
}

/**
 * An anchor slid along its own line to the place nearest to (x, y): it is put in there without changing the shape, and
 * taken out where it was, the shape kept as well as one curve can. Its id stays. It does not pass its neighbours.
 */
export function slideOnLine(outline: Outline, anchor: number, x: number, y: number): Outline {
	const i = anchorIndex(outline, anchor);
	if (i === undefined) return outline;
	const n = outline.anchors.length;
	const path = sourceLine(outline);
	const before = i > 0 || outline.closed ? (i + n - 1) % n : undefined;
	const after = i < n - 1 || outline.closed ? i : undefined;
	// An end of an open line has nowhere to slide to without shortening it.
	if (before === undefined || after === undefined) return outline;
	let best: { segment: number; t: number; distance: number } | undefined;
	for (const k of [before, after]) {
		const near = nearestOn(path.types[k], path.segs, STRIDE * k, x, y);
		if (!best || near.distance < best.distance) best = { segment: k, t: near.t, distance: near.distance };
	}
	if (!best) return outline;
	const t = Math.min(0.98, Math.max(0.02, best.t));
	if (best.segment === after && best.t < 1e-6) return outline;
	const { outline: put, added } = insertAnchors(outline, [{ segment: best.segment, t }]);
	if (added.length !== 1) return outline;
	const kind = outline.marks[MARK_STRIDE * i];
	const without = deleteAnchors(put, new Set([anchor]), 'kept');
	if (!without) return outline;
	const at = without.anchors.indexOf(added[0]);
	const anchors = without.anchors.slice();
	anchors[at] = anchor;
	const marks = without.marks.slice();
	marks[MARK_STRIDE * at] = kind;
	return { ...without, anchors, marks, nextAnchor: outline.nextAnchor };
}

/** How far along the line a soft pull goes, mm before and after the pulled anchor. */
export interface Reach {
	readonly before: number;
	readonly after: number;
}

/** The share with which a place `off` mm along the line follows a pull: 1 there, 0 from the reach on, level at both. */
export function followShare(off: number, { before, after }: Reach): number {
	const u = off < 0 ? -off / before : off / after;
	if (!(u < 1)) return off === 0 ? 1 : 0;
	const v = 1 - u * u;
	return v * v;
}

/** Where anchors lie along the line from one of them, mm, negative before it; the shorter way round a closed line. */
function offsFrom(outline: Outline, index: number): { offs: Float64Array; total: number } {
	const n = outline.anchors.length;
	const path = sourceLine(outline);
	const lengths = Float64Array.from(path.types, (type, k) => segmentLength(type, path.segs, STRIDE * k));
	const total = lengths.reduce((a, b) => a + b, 0);
	const offs = new Float64Array(n);
	let sum = 0;
	for (let k = 1; k < n; k++) {
		const i = (index + k) % n;
		if (!outline.closed && i < index) break;
		sum += lengths[(i + n - 1) % n];
		offs[i] = sum;
	}
	if (outline.closed) {
		for (let i = 0; i < n; i++) if (offs[i] > total / 2) offs[i] -= total;
	} else {
		sum = 0;
		for (let i = index - 1; i >= 0; i--) {
			sum += lengths[i];
			offs[i] = -sum;
		}
	}
	return { offs, total };
}

/**
 * Pulls an anchor by (dx, dy); its neighbourhood along the line follows, the less the farther, and nothing beyond the
 * reach. What lies near in space but far along the line stays.
 *
 * @throws CoreError `bad-reach`
 */
export function softPull(outline: Outline, anchor: number, dx: number, dy: number, reach: Reach): Outline {
	if (!(reach.before > 0 && reach.after > 0))
		throw new CoreError('bad-reach', 'The reach must be above 0 mm on both sides.');
	const index = anchorIndex(outline, anchor);
	if (index === undefined) return outline;
	const { offs } = offsFrom(outline, index);
	const points = outline.points.slice();
	const n = outline.anchors.length;
	const shift = (at: number, off: number) => {
		const share = followShare(off, reach);
		points[at] += dx * share;
		points[at + 1] += dy * share;
	};
	for (let i = 0; i < n; i++) {
		const a = ANCHOR_STRIDE * i;
		const { points: p } = outline;
		shift(a, offs[i]);
		// Handles lie a third of their segment along, about as far as they are long.
		shift(a + 2, offs[i] - Math.hypot(p[a + 2] - p[a], p[a + 3] - p[a + 1]));
		shift(a + 4, offs[i] + Math.hypot(p[a + 4] - p[a], p[a + 5] - p[a + 1]));
	}
	return straightHandles({ ...outline, points });
}

/** Handles on straights and arcs mean nothing: they lie on their anchors. */
function straightHandles(outline: Outline): Outline {
	const points = outline.points.slice();
	const n = outline.anchors.length;
	for (let i = 0; i < n; i++) {
		const a = ANCHOR_STRIDE * i;
		if (outline.marks[MARK_STRIDE * i + 1] !== CUBIC) points.copyWithin(a + 4, a, a + 2);
		if (outline.marks[MARK_STRIDE * ((i + n - 1) % n) + 1] !== CUBIC) points.copyWithin(a + 2, a, a + 2);
	}
	return { ...outline, points };
}

/** The two places on the line where the reach ends; an open line ends sooner, a closed one half way round. */
export function reachEnds(outline: Outline, anchor: number, reach: Reach): Point[] {
	const index = anchorIndex(outline, anchor);
	if (index === undefined) return [];
	const path = sourceLine(outline);
	const total = path.types.length;
	if (total === 0) return [];
	const lengths = Array.from(path.types, (type, k) => segmentLength(type, path.segs, STRIDE * k));
	const whole = lengths.reduce((a, b) => a + b, 0);
	const start = lengths.slice(0, index).reduce((a, b) => a + b, 0);
	const most = outline.closed ? whole / 2 : Infinity;
	return [-Math.min(most, reach.before), Math.min(most, reach.after)].map((off) => {
		let s = start + off;
		s = outline.closed ? ((s % whole) + whole) % whole : Math.min(whole, Math.max(0, s));
		let k = 0;
		while (k < total - 1 && s > lengths[k]) s -= lengths[k++];
		const at = STRIDE * k;
		const t = parameterAtLength(path.types[k], path.segs, at, Math.min(s, lengths[k]));
		return pointAt(path.types[k], path.segs, at, t);
	});
}

/** How far along the line from an anchor the place nearest to (x, y) lies, mm, negative before it; the shorter way round. */
export function offAlong(outline: Outline, anchor: number, x: number, y: number): number | undefined {
	const index = anchorIndex(outline, anchor);
	const path = sourceLine(outline);
	const near = nearestOnPath(path, x, y, Infinity);
	if (index === undefined || !near) return undefined;
	const { offs, total } = offsFrom(outline, index);
	const at = STRIDE * near.segment;
	const off = offs[near.segment] + segmentLength(path.types[near.segment], path.segs, at, 0, near.t);
	return outline.closed && off > total / 2 ? off - total : off;
}

/** How many anchors besides the pulled one lie within the reach. */
export function anchorsInReach(outline: Outline, anchor: number, reach: Reach): number {
	const index = anchorIndex(outline, anchor);
	if (index === undefined) return 0;
	const { offs } = offsFrom(outline, index);
	let count = 0;
	offs.forEach((off, i) => {
		if (i !== index && off > -reach.before && off < reach.after) count++;
	});
	return count;
}

/** The outline with anchors evenly put in within the reach, so that a soft pull has something to move; the shape stays. */
export function withAnchorsInReach(outline: Outline, anchor: number, reach: Reach, wanted = 4): Outline {
	const index = anchorIndex(outline, anchor);
	if (index === undefined) return outline;
	const { offs } = offsFrom(outline, index);
	const path = sourceLine(outline);
	const n = outline.anchors.length;
	const places: { segment: number; t: number }[] = [];
	for (let k = 0; k < segmentTotal(outline); k++) {
		const from = offs[k];
		const to = offs[(k + 1) % n];
		const nearest =
			from * to < 0 && Math.abs(from - to) > 1e-9
				? Math.min(Math.abs(from), Math.abs(to))
				: Math.min(Math.abs(from), Math.abs(to));
		const side = (Math.abs(from) > Math.abs(to) ? from : to) < 0 ? reach.before : reach.after;
		if (!(nearest < side)) continue;
		const length = segmentLength(path.types[k], path.segs, STRIDE * k);
		const parts = Math.min(
			wanted + 1,
			Math.max(1, Math.ceil((length * wanted) / (reach.before + reach.after)))
		);
		for (let j = 1; j < parts; j++) places.push({ segment: k, t: j / parts });
	}
	return insertAnchors(outline, places).outline;
}

/** Whether the side of an anchor is a straight. */
export function isStraightBeside(outline: Outline, index: number, side: Neighbour): boolean {
	const n = outline.anchors.length;
	if (!outline.closed && (side === 'before' ? index === 0 : index === n - 1)) return false;
	return outline.marks[MARK_STRIDE * (side === 'before' ? (index + n - 1) % n : index) + 1] === STRAIGHT;
}
