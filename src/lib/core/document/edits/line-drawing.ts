/** A line being drawn by hand: anchors put one after the other, the last one shaped as long as it is the last. */
import type { Point } from '../../geometry/point';
import { flow } from './anchors';
import {
	ANCHOR_KINDS,
	ANCHOR_STRIDE,
	MARK_STRIDE,
	type Outline,
	sortedLike,
	type OutlineFacts
} from '../outline';
import { CUBIC, STRAIGHT } from '../../geometry/path';

/** A drawn anchor: a handle that is missing lies on it. */
export interface DrawnAnchor extends Point {
	readonly in?: Point;
	readonly out?: Point;
	/** Its handles are computed from its neighbours. */
	readonly flowing?: boolean;
}

const kindOfDrawn = (p: DrawnAnchor) => (p.flowing ? ANCHOR_KINDS.indexOf('flowing') : isSmooth(p) ? 1 : 0);
const isCurved = (p: DrawnAnchor, next: DrawnAnchor | undefined) =>
	Boolean(p.out || next?.in || p.flowing || next?.flowing);

/** The drawn anchors as an outline; open unless closed on itself. Segments without handles are straight. */
export function drawnOutline(anchors: readonly DrawnAnchor[], closed: boolean, facts: OutlineFacts): Outline {
	const n = anchors.length;
	const points = new Float64Array(ANCHOR_STRIDE * n);
	const marks = new Uint8Array(MARK_STRIDE * n);
	anchors.forEach((p, i) => {
		const next = anchors[(i + 1) % n];
		const into = p.in ?? p;
		const out = p.out ?? p;
		points.set([p.x, p.y, into.x, into.y, out.x, out.y, 0], ANCHOR_STRIDE * i);
		marks[MARK_STRIDE * i] = kindOfDrawn(p);
		marks[MARK_STRIDE * i + 1] = isCurved(p, next) ? CUBIC : STRAIGHT;
	});
	const { id, name, layer, rank } = facts;
	return flow({
		type: 'outline',
		id,
		name,
		layer,
		rank,
		...sortedLike(facts),
		closed,
		nextAnchor: n + 1,
		anchors: Uint32Array.from(anchors, (_, i) => i + 1),
		points,
		marks
	});
}

/** Both handles there and in one line. */
function isSmooth({ x, y, in: a, out: b }: DrawnAnchor): boolean {
	if (!a || !b) return false;
	const cross = (b.x - x) * (y - a.y) - (b.y - y) * (x - a.x);
	const dot = (b.x - x) * (x - a.x) + (b.y - y) * (y - a.y);
	return dot > 0 && Math.abs(cross) < 1e-9 * dot;
}

/** An anchor with its handles pulled out evenly to both sides, the outgoing one at (x, y). */
export function pulledAnchor(anchor: Point, x: number, y: number): DrawnAnchor {
	return { x: anchor.x, y: anchor.y, in: { x: 2 * anchor.x - x, y: 2 * anchor.y - y }, out: { x, y } };
}

/**
 * Goes on from an end of an open outline: its anchors with their ids, the new ones behind that end.
 * @param drawn the first of them stands for the end itself; only its outgoing handle counts.
 * @param closes ends on the other end, which closes the outline.
 */
export function continued(
	outline: Outline,
	end: 'start' | 'end',
	drawn: readonly DrawnAnchor[],
	closes: boolean
): Outline {
	const base = end === 'end' ? outline : turnedRound(outline);
	const n = base.anchors.length;
	const more = drawn.slice(1);
	const anchors = [...base.anchors, ...more.map((_, k) => outline.nextAnchor + k)];
	const points = Array.from(base.points);
	const marks = Array.from(base.marks);
	const last = ANCHOR_STRIDE * (n - 1);
	const leaving = drawn[0].out;
	points[last + 4] = leaving?.x ?? points[last];
	points[last + 5] = leaving?.y ?? points[last + 1];
	marks[MARK_STRIDE * (n - 1) + 1] = leaving || isCurved({ x: 0, y: 0 }, more[0]) ? CUBIC : STRAIGHT;
	more.forEach((p, k) => {
		const into = p.in ?? p;
		const out = p.out ?? p;
		points.push(p.x, p.y, into.x, into.y, out.x, out.y, 0);
		const next = more[k + 1];
		marks.push(kindOfDrawn(p), isCurved(p, next) ? CUBIC : STRAIGHT, 0);
	});
	if (closes) {
		// The first anchor's handle toward what comes before it is missing: it lies on the anchor.
		points[2] = points[0];
		points[3] = points[1];
	}
	const next: Outline = {
		...base,
		closed: closes,
		nextAnchor: outline.nextAnchor + more.length,
		anchors: Uint32Array.from(anchors),
		points: Float64Array.from(points),
		marks: Uint8Array.from(marks)
	};
	return flow(end === 'end' || closes ? next : turnedRound(next));
}

/** The same anchors with the same ids in the other direction. */
export function turnedRound(outline: Outline): Outline {
	const n = outline.anchors.length;
	const points = new Float64Array(outline.points.length);
	const marks = new Uint8Array(outline.marks.length);
	const anchors = outline.anchors.slice().reverse();
	for (let i = 0; i < n; i++) {
		const from = n - 1 - i;
		const p = outline.points.subarray(ANCHOR_STRIDE * from, ANCHOR_STRIDE * (from + 1));
		// The segment after the new anchor i is the one before the old one.
		const segment = (from + n - 1) % n;
		points.set(
			[p[0], p[1], p[4], p[5], p[2], p[3], -outline.points[ANCHOR_STRIDE * segment + 6]],
			ANCHOR_STRIDE * i
		);
		const held = outline.marks[MARK_STRIDE * from + 2];
		marks.set(
			[
				outline.marks[MARK_STRIDE * from],
				outline.marks[MARK_STRIDE * segment + 1],
				((held & 1) << 1) | ((held & 2) >> 1)
			],
			MARK_STRIDE * i
		);
	}
	return { ...outline, anchors, points, marks };
}
