/** What one does to anchors, handles and segments. Each function gives a new outline. */
import type { Point } from '../../geometry/point';
import { CoreError } from '../../errors';
import { ARC, CUBIC, STRAIGHT, STRIDE } from '../../geometry/path';
import { evenParameters, extremes, inflections, partOf } from '../../geometry/segment';
import { fitTrail, makeTrail } from '../../fit/fit';
import { flattenPath } from '../../geometry/edge-tree';
import { arcToCubics } from '../../geometry/arc';
import {
	ANCHOR_KINDS,
	ANCHOR_STRIDE,
	anchorIndex,
	handleAt,
	HELD_IN,
	HELD_OUT,
	MARK_STRIDE,
	sourceLine,
	segmentTotal,
	otherSide,
	type AnchorKind,
	type Outline,
	type Side
} from '../outline';

interface Draft {
	anchors: number[];
	points: number[];
	marks: number[];
	next: number;
	closed: boolean;
}

function draft(outline: Outline): Draft {
	return {
		anchors: Array.from(outline.anchors),
		points: Array.from(outline.points),
		marks: Array.from(outline.marks),
		next: outline.nextAnchor,
		closed: outline.closed
	};
}

function settle(outline: Outline, d: Draft): Outline {
	return flow({
		...outline,
		closed: d.closed,
		nextAnchor: d.next,
		anchors: Uint32Array.from(d.anchors),
		points: Float64Array.from(d.points),
		marks: Uint8Array.from(d.marks)
	});
}

/**
 * Smooth and even anchors between a straight and a curve keep the handle of the curve on the straight's own line; its
 * length stays. Only anchors that are named, and their neighbours; all where none are.
 */
export function alignedToStraights(outline: Outline, ids?: ReadonlySet<number>): Outline {
	const n = outline.anchors.length;
	const { marks } = outline;
	let points: Float64Array | undefined;
	for (let i = 0; i < n; i++) {
		const kind = ANCHOR_KINDS[marks[MARK_STRIDE * i]];
		if (kind !== 'smooth' && kind !== 'even') continue;
		if (!outline.closed && (i === 0 || i === n - 1)) continue;
		const before = (i + n - 1) % n;
		const after = (i + 1) % n;
		if (ids && ![before, i, after].some((k) => ids.has(outline.anchors[k]))) continue;
		const into = marks[MARK_STRIDE * before + 1];
		const out = marks[MARK_STRIDE * i + 1];
		if ((into === STRAIGHT) === (out === STRAIGHT) || into === ARC || out === ARC) continue;
		points ??= outline.points.slice();
		const at = ANCHOR_STRIDE * i;
		const from = ANCHOR_STRIDE * (into === STRAIGHT ? before : after);
		const k = into === STRAIGHT ? at + 4 : at + 2;
		const dx = points[at] - points[from];
		const dy = points[at + 1] - points[from + 1];
		const size = Math.hypot(dx, dy);
		const length = Math.hypot(points[k] - points[at], points[k + 1] - points[at + 1]);
		if (!(size > 0 && length > 0)) continue;
		points[k] = points[at] + (dx / size) * length;
		points[k + 1] = points[at + 1] + (dy / size) * length;
	}
	return points ? { ...outline, points } : outline;
}

/** Moves anchors with their handles by (dx, dy) mm. Unknown ids are passed over. */
export function moveAnchors(outline: Outline, ids: ReadonlySet<number>, dx: number, dy: number): Outline {
	const points = Float64Array.from(outline.points);
	let touched = false;
	for (let i = 0; i < outline.anchors.length; i++) {
		if (!ids.has(outline.anchors[i])) continue;
		touched = true;
		const at = ANCHOR_STRIDE * i;
		for (let k = 0; k < 6; k += 2) {
			points[at + k] += dx;
			points[at + k + 1] += dy;
		}
	}
	return touched ? flow(alignedToStraights({ ...outline, points }, ids)) : outline;
}

/** Puts one anchor exactly at (x, y); its handles move along. */
export function placeAnchor(outline: Outline, id: number, x: number, y: number): Outline {
	if (!(Number.isFinite(x) && Number.isFinite(y))) {
		throw new CoreError('bad-place', 'A place needs two numbers.');
	}
	const i = anchorIndex(outline, id);
	if (i === undefined) return outline;
	const at = ANCHOR_STRIDE * i;
	const points = Float64Array.from(outline.points);
	const dx = x - points[at];
	const dy = y - points[at + 1];
	for (let k = 2; k < 6; k += 2) {
		points[at + k] += dx;
		points[at + k + 1] += dy;
	}
	points[at] = x;
	points[at + 1] = y;
	return flow(alignedToStraights({ ...outline, points }, new Set([id])));
}

/**
 * Puts a handle at (x, y). Its partner follows as the anchor's kind asks: opposite for smooth, opposite and as long
 * for even. On a flowing anchor the handle becomes held. A straight beside it becomes a curve, an arc a cubic.
 *
 * @param alone leave the partner where it is; the anchor becomes a corner.
 */
export function placeHandle(
	outline: Outline,
	id: number,
	side: Side,
	x: number,
	y: number,
	alone = false
): Outline {
	const found = anchorIndex(outline, id);
	if (found === undefined) return outline;
	const base = curveBeside(outline, found, side);
	const i = anchorIndex(base, id);
	if (i === undefined) return outline;
	const points = Float64Array.from(base.points);
	const marks = Uint8Array.from(base.marks);
	const at = ANCHOR_STRIDE * i;
	const mine = handleAt(i, side);
	const other = handleAt(i, otherSide(side));
	points[mine] = x;
	points[mine + 1] = y;
	const kind = ANCHOR_KINDS[marks[MARK_STRIDE * i]];
	if (alone) marks[MARK_STRIDE * i] = 0;
	else if (isTiedToStraight(base, i, side)) {
		// It stays on the line of the straight on the other side: only its length is free.
		const n = base.anchors.length;
		const far = ANCHOR_STRIDE * (side === 'in' ? (i + 1) % n : (i + n - 1) % n);
		const dx = points[at] - points[far];
		const dy = points[at + 1] - points[far + 1];
		const size = Math.hypot(dx, dy) || 1;
		const along = Math.max(0, ((x - points[at]) * dx + (y - points[at + 1]) * dy) / size);
		points[mine] = points[at] + (dx / size) * along;
		points[mine + 1] = points[at + 1] + (dy / size) * along;
	} else if (kind === 'flowing' && !isHeld(marks, i, otherSide(side))) {
		marks[MARK_STRIDE * i + 2] |= side === 'in' ? HELD_IN : HELD_OUT;
	} else if (kind !== 'corner') {
		if (kind === 'flowing') marks[MARK_STRIDE * i + 2] |= side === 'in' ? HELD_IN : HELD_OUT;
		const dx = points[at] - x;
		const dy = points[at + 1] - y;
		const size = Math.hypot(dx, dy);
		const own = Math.hypot(points[other] - points[at], points[other + 1] - points[at + 1]);
		const length = kind === 'even' ? size : own;
		if (size > 0 && (length > 0 || kind === 'even')) {
			points[other] = points[at] + (dx / size) * length;
			points[other + 1] = points[at + 1] + (dy / size) * length;
		}
	}
	return flow({ ...base, points, marks });
}

const isHeld = (marks: Uint8Array, i: number, side: Side): boolean =>
	(marks[MARK_STRIDE * i + 2] & (side === 'in' ? HELD_IN : HELD_OUT)) !== 0;

/** Whether an anchor is smooth or even and the side opposite to a handle is a straight. */
function isTiedToStraight(outline: Outline, i: number, side: Side): boolean {
	const kind = ANCHOR_KINDS[outline.marks[MARK_STRIDE * i]];
	const n = outline.anchors.length;
	if ((kind !== 'smooth' && kind !== 'even') || (!outline.closed && (i === 0 || i === n - 1))) return false;
	return outline.marks[MARK_STRIDE * (side === 'in' ? i : (i + n - 1) % n) + 1] === STRAIGHT;
}

/** Takes a handle away: it lies on its anchor. */
export function dropHandle(outline: Outline, id: number, side: Side): Outline {
	const i = anchorIndex(outline, id);
	if (i === undefined) return outline;
	const at = ANCHOR_STRIDE * i;
	return placeHandle(outline, id, side, outline.points[at], outline.points[at + 1], true);
}

/** Gives a held handle of a flowing anchor back to be computed. */
export function releaseHandles(outline: Outline, ids: ReadonlySet<number>): Outline {
	const marks = Uint8Array.from(outline.marks);
	outline.anchors.forEach((id, i) => {
		if (ids.has(id)) marks[MARK_STRIDE * i + 2] = 0;
	});
	return flow({ ...outline, marks });
}

/** The outline with the segment on one side of an anchor as a cubic of the same shape. */
function curveBeside(outline: Outline, i: number, side: Side): Outline {
	const n = outline.anchors.length;
	const segment = side === 'out' ? i : (i + n - 1) % n;
	if (!outline.closed && (side === 'out' ? i === n - 1 : i === 0)) return outline;
	return segmentToCurve(outline, segment);
}

/** A straight with handles at its thirds; an arc as a cubic, cut in two where it is longer than a quarter turn. */
export function segmentToCurve(outline: Outline, segment: number): Outline {
	const type = outline.marks[MARK_STRIDE * segment + 1];
	if (type === CUBIC) return outline;
	const d = draft(outline);
	const n = d.anchors.length;
	const a = ANCHOR_STRIDE * segment;
	const b = ANCHOR_STRIDE * ((segment + 1) % n);
	const p = d.points;
	if (type === STRAIGHT) {
		p[a + 4] = p[a] + (p[b] - p[a]) / 3;
		p[a + 5] = p[a + 1] + (p[b + 1] - p[a + 1]) / 3;
		p[b + 2] = p[b] + (p[a] - p[b]) / 3;
		p[b + 3] = p[b + 1] + (p[a + 1] - p[b + 1]) / 3;
		d.marks[MARK_STRIDE * segment + 1] = CUBIC;
		return settle(outline, d);
	}
	const cubics = arcToCubics(p[a], p[a + 1], p[b], p[b + 1], p[a + 6]);
	const count = cubics.length / 8;
	p[a + 4] = cubics[2];
	p[a + 5] = cubics[3];
	p[a + 6] = 0;
	d.marks[MARK_STRIDE * segment + 1] = CUBIC;
	p[b + 2] = cubics[8 * count - 4];
	p[b + 3] = cubics[8 * count - 3];
	for (let k = count - 1; k > 0; k--) {
		const c = 8 * k;
		insertAt(
			d,
			segment + 1,
			[cubics[c], cubics[c + 1], cubics[c - 4], cubics[c - 3], cubics[c + 2], cubics[c + 3], 0],
			1,
			CUBIC
		);
	}
	return settle(outline, d);
}

function insertAt(d: Draft, index: number, point: number[], kind: number, segment: number): number {
	d.anchors.splice(index, 0, d.next);
	d.points.splice(ANCHOR_STRIDE * index, 0, ...point);
	d.marks.splice(MARK_STRIDE * index, 0, kind, segment, 0);
	return d.next++;
}

/**
 * New anchors on segments at given t, without changing the shape.
 * @returns the outline and the ids of the new anchors in order.
 */
export function insertAnchors(
	outline: Outline,
	places: readonly { segment: number; t: number }[]
): { outline: Outline; added: number[] } {
	const path = sourceLine(outline);
	const d = draft(outline);
	const added: number[] = [];
	const bySegment = new Map<number, number[]>();
	for (const { segment, t } of places) {
		if (!(t > 1e-9 && t < 1 - 1e-9) || segment < 0 || segment >= path.types.length) continue;
		bySegment.set(segment, [...(bySegment.get(segment) ?? []), t]);
	}
	const segments = [...bySegment.keys()].sort((a, b) => b - a);
	for (const segment of segments) {
		const ts = [...new Set(bySegment.get(segment))].sort((a, b) => a - b);
		const type = path.types[segment];
		const at = STRIDE * segment;
		const stops = [0, ...ts, 1];
		const parts = stops.slice(1).map((t, k) => partOf(type, path.segs, at, stops[k], t));
		const n = d.anchors.length;
		const a = ANCHOR_STRIDE * segment;
		const next = (segment + 1) % n;
		if (type === CUBIC) {
			d.points[a + 4] = parts[0][2];
			d.points[a + 5] = parts[0][3];
			const last = parts[parts.length - 1];
			d.points[ANCHOR_STRIDE * next + 2] = last[4];
			d.points[ANCHOR_STRIDE * next + 3] = last[5];
		} else if (type === ARC) d.points[a + 6] = parts[0][2];
		for (let k = parts.length - 1; k > 0; k--) {
			const [x, y] = parts[k];
			const point = [x, y, x, y, x, y, 0];
			if (type === CUBIC) {
				point[2] = parts[k - 1][4];
				point[3] = parts[k - 1][5];
				point[4] = parts[k][2];
				point[5] = parts[k][3];
			} else if (type === ARC) point[6] = parts[k][2];
			added.unshift(insertAt(d, segment + 1, point, type === STRAIGHT ? 0 : 1, type));
		}
	}
	return { outline: settle(outline, d), added };
}

/** Where to put anchors half way, evenly, or where the line bends over or runs level or plumb. */
export function placesOnSegment(
	outline: Outline,
	segment: number,
	how: { evenly: number } | 'inflections' | 'extremes'
): { segment: number; t: number }[] {
	const path = sourceLine(outline);
	const type = path.types[segment];
	const at = STRIDE * segment;
	let ts: number[];
	if (how === 'inflections') ts = type === CUBIC ? inflections(path.segs, at) : [];
	else if (how === 'extremes') ts = extremes(type, path.segs, at);
	else ts = [...evenParameters(type, path.segs, at, how.evenly + 1).subarray(1, -1)];
	return ts.map((t) => ({ segment, t }));
}

export type DeleteWay = 'straight' | 'through' | 'kept';

/**
 * Takes anchors out. 'straight': the neighbours connect straight. 'through': the neighbours' own handles carry the
 * line through. 'kept': the shape is kept as well as one curve can.
 *
 * @returns undefined where fewer than two anchors would be left: then the outline itself goes.
 */
export function deleteAnchors(
	outline: Outline,
	ids: ReadonlySet<number>,
	way: DeleteWay
): Outline | undefined {
	const n = outline.anchors.length;
	const keep: number[] = [];
	outline.anchors.forEach((id, i) => {
		if (!ids.has(id)) keep.push(i);
	});
	if (keep.length === n) return outline;
	if (keep.length < 2) return undefined;
	const d = draft(outline);
	const path = sourceLine(outline);
	const removed = (i: number) => ids.has(outline.anchors[i]);
	keep.forEach((i, k) => {
		const wraps = k + 1 === keep.length;
		if (wraps && !outline.closed) return;
		const j = keep[(k + 1) % keep.length];
		const between = (j - i + n) % n || n;
		if (between === 1 || !removed((i + 1) % n)) return;
		const a = ANCHOR_STRIDE * i;
		const b = ANCHOR_STRIDE * j;
		d.points[a + 6] = 0;
		const straightRun = Array.from({ length: between }, (_, m) => path.types[(i + m) % n]).every(
			(t) => t === STRAIGHT
		);
		if (way === 'straight' || (way === 'through' && straightRun)) {
			d.marks[MARK_STRIDE * i + 1] = STRAIGHT;
			d.points[a + 4] = d.points[a];
			d.points[a + 5] = d.points[a + 1];
			d.points[b + 2] = d.points[b];
			d.points[b + 3] = d.points[b + 1];
			return;
		}
		d.marks[MARK_STRIDE * i + 1] = CUBIC;
		const run = subPath(outline, i, between);
		if (way === 'kept') {
			const fitted = fitRunAsOne(run);
			d.points[a + 4] = fitted[2];
			d.points[a + 5] = fitted[3];
			d.points[b + 2] = fitted[4];
			d.points[b + 3] = fitted[5];
			return;
		}
		// Through: the directions at both ends stay, the lengths follow the new chord.
		const s = run.segs;
		const m = run.types.length;
		const chord = Math.hypot(d.points[b] - d.points[a], d.points[b + 1] - d.points[a + 1]);
		const start = unit(s[2] - s[0], s[3] - s[1], run.types[0] === CUBIC);
		const e = STRIDE * (m - 1);
		const end = unit(s[e + 6] - s[e + 4], s[e + 7] - s[e + 5], run.types[m - 1] === CUBIC);
		const third = chord / 3;
		const along = {
			x: (d.points[b] - d.points[a]) / (chord || 1),
			y: (d.points[b + 1] - d.points[a + 1]) / (chord || 1)
		};
		const u = start ?? along;
		const v = end ?? along;
		d.points[a + 4] = d.points[a] + u.x * third;
		d.points[a + 5] = d.points[a + 1] + u.y * third;
		d.points[b + 2] = d.points[b] - v.x * third;
		d.points[b + 3] = d.points[b + 1] - v.y * third;
	});
	for (let i = n - 1; i >= 0; i--) {
		if (!removed(i)) continue;
		d.anchors.splice(i, 1);
		d.points.splice(ANCHOR_STRIDE * i, ANCHOR_STRIDE);
		d.marks.splice(MARK_STRIDE * i, MARK_STRIDE);
	}
	return settle(outline, d);
}

function unit(x: number, y: number, valid: boolean): Point | undefined {
	const size = Math.hypot(x, y);
	return valid && size > 0 ? { x: x / size, y: y / size } : undefined;
}

function subPath(outline: Outline, from: number, count: number) {
	const path = sourceLine(outline);
	const n = path.types.length;
	const types = new Uint8Array(count);
	const segs = new Float64Array(STRIDE * count);
	for (let k = 0; k < count; k++) {
		const i = (from + k) % n;
		types[k] = path.types[i];
		segs.set(path.segs.subarray(STRIDE * i, STRIDE * i + STRIDE), STRIDE * k);
	}
	return { closed: false, types, segs };
}

/** One cubic along a run, its end directions kept: the tolerance is opened until one suffices. */
function fitRunAsOne(run: { closed: boolean; types: Uint8Array; segs: Float64Array }): Float64Array {
	const flat = flattenPath(run, 0.002);
	const trail = makeTrail(flat, false);
	const s = run.segs;
	const last = STRIDE * (run.types.length - 1);
	const start = unit(s[2] - s[0], s[3] - s[1], run.types[0] !== ARC);
	const end = unit(
		s[last + 6] - s[last + 4],
		s[last + 7] - s[last + 5],
		run.types[run.types.length - 1] !== ARC
	);
	if (start) {
		trail.tx[0] = start.x;
		trail.ty[0] = start.y;
	}
	if (end) {
		trail.tx[trail.count - 1] = end.x;
		trail.ty[trail.count - 1] = end.y;
	}
	const size = Math.hypot(s[last + 6] - s[0], s[last + 7] - s[1]) + trail.s[trail.count];
	for (let tolerance = size / 2000; tolerance < 4 * size; tolerance *= 1.6) {
		const fitted = fitTrail(trail, { tolerance, corners: [], leastStraight: Infinity });
		if (fitted.types.length === 1) return fitted.segs;
	}
	const x = (s[last + 6] - s[0]) / 3;
	const y = (s[last + 7] - s[1]) / 3;
	return Float64Array.from([
		s[0],
		s[1],
		s[0] + x,
		s[1] + y,
		s[last + 6] - x,
		s[last + 7] - y,
		s[last + 6],
		s[last + 7]
	]);
}

/** Takes segments out. A closed outline opens there; an open one falls apart; pieces of one anchor vanish. */
export function deleteSegments(outline: Outline, segments: ReadonlySet<number>): Outline[] {
	const n = outline.anchors.length;
	const total = segmentTotal(outline);
	const cut = [...segments].filter((s) => s >= 0 && s < total).sort((a, b) => a - b);
	if (cut.length === 0) return [outline];
	const runs: number[][] = [];
	const start = outline.closed ? (cut[cut.length - 1] + 1) % n : 0;
	let run: number[] = [];
	for (let k = 0; k < n; k++) {
		const i = (start + k) % n;
		run.push(i);
		if (segments.has(i) || k === n - 1) {
			runs.push(run);
			run = [];
		}
	}
	return runs
		.filter((r) => r.length > 1)
		.map((r) => ({
			...outline,
			closed: false,
			anchors: Uint32Array.from(r, (i) => outline.anchors[i]),
			points: Float64Array.from(
				r.flatMap((i) => Array.from(outline.points.subarray(ANCHOR_STRIDE * i, ANCHOR_STRIDE * (i + 1))))
			),
			marks: Uint8Array.from(
				r.flatMap((i) => Array.from(outline.marks.subarray(MARK_STRIDE * i, MARK_STRIDE * (i + 1))))
			)
		}));
}

/** Makes segments straight; the handles that bent them are taken away. */
export function straightenSegments(outline: Outline, segments: ReadonlySet<number>): Outline {
	const d = draft(outline);
	const n = d.anchors.length;
	for (const i of segments) {
		if (i < 0 || i >= segmentTotal(outline)) continue;
		const a = ANCHOR_STRIDE * i;
		const b = ANCHOR_STRIDE * ((i + 1) % n);
		d.marks[MARK_STRIDE * i + 1] = STRAIGHT;
		d.points[a + 4] = d.points[a];
		d.points[a + 5] = d.points[a + 1];
		d.points[a + 6] = 0;
		d.points[b + 2] = d.points[b];
		d.points[b + 3] = d.points[b + 1];
	}
	return settle(outline, d);
}

/** Makes segments curves, ready to be pulled; their shape stays. */
export function curveSegments(outline: Outline, segments: ReadonlySet<number>): Outline {
	let next = outline;
	for (const i of [...segments].sort((a, b) => b - a)) {
		if (i >= 0 && i < segmentTotal(outline)) next = segmentToCurve(next, i);
	}
	return next;
}

/**
 * Sets the kind of anchors. Smooth: both handles turn into their common direction, lengths stay. Even: also the
 * lengths become their mean. A missing handle of a smooth or even anchor is drawn out by a third of its segment.
 * Flowing: both handles are computed from the neighbours.
 */
export function setKind(outline: Outline, ids: ReadonlySet<number>, kind: AnchorKind): Outline {
	let base = outline;
	if (kind !== 'corner') {
		// Smooth needs curves on both sides.
		for (let i = base.anchors.length - 1; i >= 0; i--) {
			if (!ids.has(base.anchors[i])) continue;
			const id = base.anchors[i];
			// Between a straight and a curve the straight stays: the handle of the curve comes to lie on its line.
			if (kind !== 'flowing' && keepsStraight(outline, anchorIndex(outline, id)!, ids)) continue;
			base = curveBeside(base, i, 'out');
			base = curveBeside(base, anchorIndex(base, id) ?? i, 'in');
		}
	}
	const points = Float64Array.from(base.points);
	const marks = Uint8Array.from(base.marks);
	const n = base.anchors.length;
	base.anchors.forEach((id, i) => {
		if (!ids.has(id)) return;
		marks[MARK_STRIDE * i] = ANCHOR_KINDS.indexOf(kind);
		marks[MARK_STRIDE * i + 2] = 0;
		if (kind === 'corner' || kind === 'flowing') return;
		const isEnd = !base.closed && (i === 0 || i === n - 1);
		if (isEnd || isStraightToCurve(base, i)) return;
		const at = ANCHOR_STRIDE * i;
		const before = ANCHOR_STRIDE * ((i + n - 1) % n);
		const after = ANCHOR_STRIDE * ((i + 1) % n);
		const x = points[at];
		const y = points[at + 1];
		let inLength = Math.hypot(x - points[at + 2], y - points[at + 3]);
		let outLength = Math.hypot(points[at + 4] - x, points[at + 5] - y);
		const inDir =
			inLength > 0 ? { x: (x - points[at + 2]) / inLength, y: (y - points[at + 3]) / inLength } : undefined;
		const outDir =
			outLength > 0
				? { x: (points[at + 4] - x) / outLength, y: (points[at + 5] - y) / outLength }
				: undefined;
		let dx = (inDir?.x ?? 0) + (outDir?.x ?? 0);
		let dy = (inDir?.y ?? 0) + (outDir?.y ?? 0);
		if (Math.hypot(dx, dy) < 1e-9) {
			dx = points[after] - points[before];
			dy = points[after + 1] - points[before + 1];
		}
		const size = Math.hypot(dx, dy) || 1;
		if (inLength === 0) inLength = Math.hypot(points[before] - x, points[before + 1] - y) / 3;
		if (outLength === 0) outLength = Math.hypot(points[after] - x, points[after + 1] - y) / 3;
		if (kind === 'even') inLength = outLength = (inLength + outLength) / 2;
		points[at + 2] = x - (dx / size) * inLength;
		points[at + 3] = y - (dy / size) * inLength;
		points[at + 4] = x + (dx / size) * outLength;
		points[at + 5] = y + (dy / size) * outLength;
	});
	return flow(alignedToStraights({ ...base, points, marks }, ids));
}

/** Whether an anchor stands between a straight and a curve, and the other end of the straight is not meant too. */
function keepsStraight(outline: Outline, i: number, ids: ReadonlySet<number>): boolean {
	if (!isStraightToCurve(outline, i)) return false;
	const n = outline.anchors.length;
	const isAfter = outline.marks[MARK_STRIDE * i + 1] === STRAIGHT;
	return !ids.has(outline.anchors[isAfter ? (i + 1) % n : (i + n - 1) % n]);
}

/** Whether one side of an anchor is a straight and the other a curve. */
function isStraightToCurve(outline: Outline, i: number): boolean {
	const n = outline.anchors.length;
	if (!outline.closed && (i === 0 || i === n - 1)) return false;
	const types = [outline.marks[MARK_STRIDE * ((i + n - 1) % n) + 1], outline.marks[MARK_STRIDE * i + 1]];
	return types.includes(STRAIGHT) && types.includes(CUBIC);
}

/**
 * Computes the handles of flowing anchors that are not held: parallel to the line between the neighbours, a third of
 * the way to each of them long. An end has one, pointing to its neighbour's handle.
 */
export function flow(outline: Outline): Outline {
	const n = outline.anchors.length;
	let points: Float64Array | undefined;
	for (let i = 0; i < n; i++) {
		if (ANCHOR_KINDS[outline.marks[MARK_STRIDE * i]] !== 'flowing') continue;
		points ??= Float64Array.from(outline.points);
		const held = outline.marks[MARK_STRIDE * i + 2];
		const at = ANCHOR_STRIDE * i;
		const hasBefore = outline.closed || i > 0;
		const hasAfter = outline.closed || i < n - 1;
		const before = ANCHOR_STRIDE * (hasBefore ? (i + n - 1) % n : i);
		const after = ANCHOR_STRIDE * (hasAfter ? (i + 1) % n : i);
		const x = points[at];
		const y = points[at + 1];
		// Each neighbour counts the more the nearer it is, so that unequal spans do not overshoot.
		const lb = Math.hypot(x - points[before], y - points[before + 1]);
		const la = Math.hypot(points[after] - x, points[after + 1] - y);
		let dx = 0;
		let dy = 0;
		if (lb > 0) {
			dx += ((x - points[before]) / lb) * (la || 1);
			dy += ((y - points[before + 1]) / lb) * (la || 1);
		}
		if (la > 0) {
			dx += ((points[after] - x) / la) * (lb || 1);
			dy += ((points[after + 1] - y) / la) * (lb || 1);
		}
		if (hasBefore && hasAfter && (held === HELD_IN || held === HELD_OUT)) {
			// The handle that is held gives the tangent to the other one.
			const k = at + (held === HELD_IN ? 2 : 4);
			const sign = held === HELD_IN ? -1 : 1;
			const [hx, hy] = [sign * (points[k] - x), sign * (points[k + 1] - y)];
			if (hx !== 0 || hy !== 0) [dx, dy] = [hx, hy];
		}
		const size = Math.hypot(dx, dy) || 1;
		if (!(held & HELD_IN)) {
			points[at + 2] = x - (hasBefore ? ((dx / size) * lb) / 3 : 0);
			points[at + 3] = y - (hasBefore ? ((dy / size) * lb) / 3 : 0);
		}
		if (!(held & HELD_OUT)) {
			points[at + 4] = x + (hasAfter ? ((dx / size) * la) / 3 : 0);
			points[at + 5] = y + (hasAfter ? ((dy / size) * la) / 3 : 0);
		}
	}
	return points ? { ...outline, points } : outline;
}
