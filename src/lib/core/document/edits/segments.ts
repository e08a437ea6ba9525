/** What one does to single segments: bend, make an arc of, measure anew, move sideways; and to open ends. */
import { CoreError } from '../../errors';
import { arcShape, bulgeThrough } from '../../geometry/arc';
import { stretchBetween, lengthen, type LineEnd } from '../../geometry/join';
import { segmentMeetings } from '../../geometry/meetings';
import { ARC, CUBIC, PathBuilder, STRAIGHT, STRIDE, type Path } from '../../geometry/path';
import { pointAt, segmentLength } from '../../geometry/segment';
import { alignedToStraights, moveAnchors, placeAnchor, segmentToCurve } from './anchors';
import {
	ANCHOR_KINDS,
	ANCHOR_STRIDE,
	closePath,
	handleAt,
	MARK_STRIDE,
	otherSide,
	segmentTotal,
	segmentTypeOf,
	sourceLine,
	replaceLine,
	type Outline,
	type Side
} from '../outline';
import { isStraightBeside, slideDirection } from './pulling';

function checkSegment(outline: Outline, segment: number): void {
	if (!(segment >= 0 && segment < segmentTotal(outline)))
		throw new CoreError('gone', 'This segment is no longer there.');
}

/**
 * Bends a segment so that the place at t goes through (x, y), both handles moved by as little as that takes. Beside a
 * smooth anchor the line stays smooth: the partner handle turns along, or, where it lies on a straight, the handle only
 * grows or shrinks. A straight becomes a curve; an arc stays one and goes through the place.
 */
export function bendSegment(outline: Outline, segment: number, t: number, x: number, y: number): Outline {
	checkSegment(outline, segment);
	const n = outline.anchors.length;
	const next = (segment + 1) % n;
	const a = ANCHOR_STRIDE * segment;
	const b = ANCHOR_STRIDE * next;
	if (outline.marks[MARK_STRIDE * segment + 1] === ARC) {
		const p = outline.points;
		const bulge = bulgeThrough({ x: p[a], y: p[a + 1] }, { x, y }, { x: p[b], y: p[b + 1] });
		return withBulge(outline, segment, bulge);
	}
	const base = segmentToCurve(outline, segment);
	const points = base.points.slice();
	const s = Math.min(0.95, Math.max(0.05, t));
	const now = pointAt(CUBIC, sourceLine(base).segs, STRIDE * segment, s);
	const dx = x - now.x;
	const dy = y - now.y;
	const wa = 3 * (1 - s) * (1 - s) * s;
	const wb = 3 * (1 - s) * s * s;
	// Columns of what the two handles can do to the place: freely, or only along the straight behind their anchor.
	const columns: { at: number; x: number; y: number; weight: number }[] = [];
	const add = (anchor: number, at: number, weight: number, side: 'before' | 'after') => {
		const kind = ANCHOR_KINDS[base.marks[MARK_STRIDE * anchor]];
		const tied = kind !== 'corner' && isStraightBeside(base, anchor, side);
		const d = tied ? slideDirection(base, base.anchors[anchor], side) : undefined;
		if (d) columns.push({ at, x: d.x, y: d.y, weight });
		else columns.push({ at, x: 1, y: 0, weight }, { at, x: 0, y: 1, weight });
	};
	add(segment, a + 4, wa, 'before');
	add(next, b + 2, wb, 'after');
	let xx = 0;
	let xy = 0;
	let yy = 0;
	for (const c of columns) {
		xx += c.weight * c.weight * c.x * c.x;
		xy += c.weight * c.weight * c.x * c.y;
		yy += c.weight * c.weight * c.y * c.y;
	}
	const det = xx * yy - xy * xy;
	// Both handles tied to one direction: the place goes as near to the pointer as that allows.
	const [mx, my] =
		det > 1e-12 * (xx + yy) * (xx + yy)
			? [(yy * dx - xy * dy) / det, (xx * dy - xy * dx) / det]
			: [dx / (xx + yy), dy / (xx + yy)];
	for (const c of columns) {
		const by = c.weight * (c.x * mx + c.y * my);
		points[c.at] += by * c.x;
		points[c.at + 1] += by * c.y;
	}
	turnPartner(base, points, segment, 'out');
	turnPartner(base, points, next, 'in');
	return { ...base, points };
}

/** The handle on the other side of a smooth or even anchor turned into line with the one that moved. */
function turnPartner(outline: Outline, points: Float64Array, anchor: number, moved: Side): void {
	const kind = ANCHOR_KINDS[outline.marks[MARK_STRIDE * anchor]];
	if (kind !== 'smooth' && kind !== 'even') return;
	const at = ANCHOR_STRIDE * anchor;
	const mine = handleAt(anchor, moved);
	const other = handleAt(anchor, otherSide(moved));
	const dx = points[at] - points[mine];
	const dy = points[at + 1] - points[mine + 1];
	const size = Math.hypot(dx, dy);
	const own = Math.hypot(points[other] - points[at], points[other + 1] - points[at + 1]);
	if (!(size > 0 && own > 0)) return;
	const length = kind === 'even' ? size : own;
	points[other] = points[at] + (dx / size) * length;
	points[other + 1] = points[at + 1] + (dy / size) * length;
}

/** The segment as an arc of a bulge; with 0 as a straight. */
export function withBulge(outline: Outline, segment: number, bulge: number): Outline {
	checkSegment(outline, segment);
	const n = outline.anchors.length;
	const a = ANCHOR_STRIDE * segment;
	const b = ANCHOR_STRIDE * ((segment + 1) % n);
	const points = outline.points.slice();
	const marks = outline.marks.slice();
	points.copyWithin(a + 4, a, a + 2);
	points.copyWithin(b + 2, b, b + 2);
	points[a + 6] = bulge;
	marks[MARK_STRIDE * segment + 1] = bulge === 0 ? STRAIGHT : ARC;
	return { ...outline, points, marks };
}

/** The segment as a true circular arc through its own middle; a straight bulges by a tenth of its length to the left. */
export function segmentToArc(outline: Outline, segment: number): Outline {
	checkSegment(outline, segment);
	const path = sourceLine(outline);
	const at = STRIDE * segment;
	if (path.types[segment] === ARC) return outline;
	if (path.types[segment] === STRAIGHT) return withBulge(outline, segment, -0.2);
	const s = path.segs;
	const middle = pointAt(CUBIC, s, at, 0.5);
	const bulge = bulgeThrough({ x: s[at], y: s[at + 1] }, middle, { x: s[at + 6], y: s[at + 7] });
	return withBulge(outline, segment, bulge);
}

/**
 * An arc with another radius: its ends and the side it bulges to stay, and whether it is more than half a circle.
 * @throws CoreError `bad-radius` with the least radius that reaches from end to end.
 */
export function setArcRadius(outline: Outline, segment: number, radius: number): Outline {
	checkSegment(outline, segment);
	const path = sourceLine(outline);
	const at = STRIDE * segment;
	const s = path.segs;
	const half = Math.hypot(s[at + 6] - s[at], s[at + 7] - s[at + 1]) / 2;
	if (!(radius >= half * (1 - 1e-12)) || !Number.isFinite(radius)) {
		throw new CoreError(
			'bad-radius',
			`The ends are ${(2 * half).toFixed(2)} mm apart: the radius must be at least ${half.toFixed(2)} mm.`
		);
	}
	const bulge = path.types[segment] === ARC ? s[at + 2] : -0.2;
	// half / radius is the sine of half the sweep; tan(sweep / 4) from it.
	const ratio = Math.min(1, half / radius);
	const small = ratio / (1 + Math.sqrt(1 - ratio * ratio));
	const size = Math.abs(bulge) > 1 ? 1 / small : small;
	return withBulge(outline, segment, Math.sign(bulge) * size);
}

/** An arc swapped for the rest of its circle. */
export function restOfCircle(outline: Outline, segment: number): Outline {
	const path = sourceLine(outline);
	if (path.types[segment] !== ARC) throw new CoreError('no-arc', 'This segment is no arc.');
	return withBulge(outline, segment, -1 / path.segs[STRIDE * segment + 2]);
}

/**
 * An arc that begins at another angle of its circle, degrees anticlockwise from +x as seen from its centre: its end, its circle
 * and its side stay, its first anchor moves along the circle.
 *
 * @throws CoreError `no-arc`; `bad-sweep` where it would begin at its own end.
 */
export function setArcStart(outline: Outline, segment: number, angle: number): Outline {
	const { types, segs } = sourceLine(outline);
	if (types[segment] !== ARC) throw new CoreError('no-arc', 'This segment is no arc.');
	const at = STRIDE * segment;
	const arc = arcShape(segs[at], segs[at + 1], segs[at + 6], segs[at + 7], segs[at + 2]);
	const turn = 2 * Math.PI;
	const start = (angle * Math.PI) / 180;
	const end = arc.startRad + arc.sweepRad;
	const ahead = (((arc.sweepRad > 0 ? end - start : start - end) % turn) + turn) % turn;
	const sweep = (Math.sign(arc.sweepRad) * ahead * 180) / Math.PI;
	if (!(ahead > 1e-6)) throw new CoreError('bad-sweep', 'An arc cannot begin where it ends.');
	const moved = placeAnchor(
		outline,
		outline.anchors[segment],
		arc.cx + arc.radius * Math.cos(start),
		arc.cy + arc.radius * Math.sin(start)
	);
	return withBulge(moved, segment, Math.tan((sweep * Math.PI) / 720));
}

export interface SegmentNumbers {
	readonly type: 'straight' | 'arc' | 'curve';
	/** mm along the segment. */
	readonly length: number;
	/** From its first to its last anchor, degrees anticlockwise from +x. */
	readonly angle: number;
	/** Of an arc, mm and degrees. */
	readonly radius?: number;
	/** Without a sign. */
	readonly sweep?: number;
	/** The side of travel to which it turns. */
	readonly side?: 'left' | 'right';
	/** Where it begins on its circle, degrees from its centre, 0 to 360. */
	readonly start?: number;
}

/** What a segment measures. */
export function segmentNumbers(outline: Outline, segment: number): SegmentNumbers {
	checkSegment(outline, segment);
	const { types, segs } = sourceLine(outline);
	const at = STRIDE * segment;
	const angle = (Math.atan2(segs[at + 7] - segs[at + 1], segs[at + 6] - segs[at]) * 180) / Math.PI;
	const length = segmentLength(types[segment], segs, at);
	if (types[segment] !== ARC) return { type: types[segment] === CUBIC ? 'curve' : 'straight', length, angle };
	const arc = arcShape(segs[at], segs[at + 1], segs[at + 6], segs[at + 7], segs[at + 2]);
	const start = (arc.startRad * 180) / Math.PI;
	return {
		type: 'arc',
		length,
		angle,
		radius: arc.radius,
		sweep: (Math.abs(arc.sweepRad) * 180) / Math.PI,
		side: arc.sweepRad > 0 ? 'left' : 'right',
		start: start < 0 ? start + 360 : start
	};
}

/** A straight made as long, or turned as far, as is typed: its first anchor stays, its last one moves. */
export function setStraight(outline: Outline, segment: number, length: number, angle: number): Outline {
	checkSegment(outline, segment);
	if (!(length > 0) || !Number.isFinite(length + angle))
		throw new CoreError('bad-length', 'A straight must be longer than 0 mm.');
	const a = ANCHOR_STRIDE * segment;
	const last = (segment + 1) % outline.anchors.length;
	const rad = (angle * Math.PI) / 180;
	return placeAnchor(
		outline,
		outline.anchors[last],
		outline.points[a] + length * Math.cos(rad),
		outline.points[a + 1] + length * Math.sin(rad)
	);
}

/** An arc of another sweep, degrees without a sign: its ends stay, and the side to which it bulges. @throws CoreError `bad-sweep` */
export function setArcSweep(outline: Outline, segment: number, unsigned: number): Outline {
	const before = sourceLine(outline).segs[STRIDE * segment + 2];
	const sweep = Math.abs(unsigned) * (segmentTypeOf(outline, segment) === ARC && before < 0 ? -1 : 1);
	if (!(Math.abs(sweep) > 0.01 && Math.abs(sweep) < 359.9))
		throw new CoreError('bad-sweep', 'An arc sweeps more than 0 and less than 360 degrees.');
	return withBulge(outline, segment, Math.tan((sweep * Math.PI) / 720));
}

/**
 * A straight moved sideways by `by` mm to its left, its ends sliding along the sides next to it so that those keep their
 * angles; where such a side runs the same way, or is a curve, the end moves straight across.
 */
export function moveSideways(outline: Outline, segment: number, by: number): Outline {
	checkSegment(outline, segment);
	const n = outline.anchors.length;
	const path = sourceLine(outline);
	const at = STRIDE * segment;
	const s = path.segs;
	const length = Math.hypot(s[at + 6] - s[at], s[at + 7] - s[at + 1]);
	if (!(length > 0)) return outline;
	const nx = -(s[at + 7] - s[at + 1]) / length;
	const ny = (s[at + 6] - s[at]) / length;
	let next = outline;
	for (const [anchor, side] of [
		[segment, 'before'],
		[(segment + 1) % n, 'after']
	] as const) {
		const id = outline.anchors[anchor];
		const d = isStraightBeside(outline, anchor, side) ? slideDirection(outline, id, side) : undefined;
		const across = d ? d.x * nx + d.y * ny : 0;
		const move =
			d && Math.abs(across) > 0.02
				? { x: (d.x * by) / across, y: (d.y * by) / across }
				: { x: nx * by, y: ny * by };
		next = moveAnchors(next, new Set([id]), move.x, move.y);
	}
	return next;
}

/** An open line made longer (straight on, or along its curve) or shorter at one end, so that it is `length` mm in all. */
export function setLineLength(
	outline: Outline,
	length: number,
	end: LineEnd,
	how: 'straight' | 'curve'
): Outline {
	if (outline.closed) throw new CoreError('closed', 'A closed outline has no end to lengthen.');
	const path = sourceLine(outline);
	let now = 0;
	for (let i = 0; i < path.types.length; i++) now += segmentLength(path.types[i], path.segs, STRIDE * i);
	const next = lengthen(path, end, length - now, how);
	if (!next.ok) throw new CoreError(next.problem.code, next.problem.sentence);
	return replaceLine(outline, next.value);
}

/** The stretch between two anchors as one straight: the anchors between go. The shorter way round a closed outline. */
export function straightenStretch(outline: Outline, from: number, to: number): Outline {
	const i = outline.anchors.indexOf(from);
	const j = outline.anchors.indexOf(to);
	if (i < 0 || j < 0 || i === j) return outline;
	const n = outline.anchors.length;
	const [first, last] = stretchEnds(outline, i, j);
	const inside = (last - first + n) % n;
	const keep = Array.from({ length: n }, (_, k) => k).filter((k) => {
		const off = (k - first + n) % n;
		return off === 0 || off >= inside;
	});
	const next: Outline = {
		...outline,
		anchors: Uint32Array.from(keep, (k) => outline.anchors[k]),
		points: Float64Array.from(
			keep.flatMap((k) => Array.from(outline.points.subarray(ANCHOR_STRIDE * k, ANCHOR_STRIDE * (k + 1))))
		),
		marks: Uint8Array.from(
			keep.flatMap((k) => Array.from(outline.marks.subarray(MARK_STRIDE * k, MARK_STRIDE * (k + 1))))
		)
	};
	return alignedToStraights(withBulge(next, next.anchors.indexOf(outline.anchors[first]), 0));
}

/** The two ends of the stretch between two anchors, in the order of travel: on a closed outline the shorter way. */
export function stretchEnds(outline: Outline, i: number, j: number): [number, number] {
	if (!outline.closed) return i < j ? [i, j] : [j, i];
	const path = sourceLine(outline);
	const n = outline.anchors.length;
	const run = (from: number, to: number) => {
		let sum = 0;
		for (let k = from; k !== to; k = (k + 1) % n) sum += segmentLength(path.types[k], path.segs, STRIDE * k);
		return sum;
	};
	return run(i, j) <= run(j, i) ? [i, j] : [j, i];
}

/**
 * A blunted tip made one sharp corner: what lies between two anchors goes, and both sides are prolonged until they meet,
 * straight on or along their own curves.
 *
 * @throws CoreError `no-corner` where they do not meet.
 */
export function sharpenTip(outline: Outline, from: number, to: number, how: 'straight' | 'curve'): Outline {
	const i = outline.anchors.indexOf(from);
	const j = outline.anchors.indexOf(to);
	if (i < 0 || j < 0 || i === j)
		throw new CoreError('no-corner', 'Select the anchors at both ends of the blunt tip.');
	const path = sourceLine(outline);
	const total = path.types.length;
	const [first, last] = stretchEnds(outline, i, j);
	const head = outline.closed
		? stretchBetween(path, last, first > last ? first : first + total)
		: stretchBetween(path, 0, first);
	const tail = outline.closed ? head : stretchBetween(path, last, total);
	const noCorner = new CoreError('no-corner', 'These two sides do not meet when they are prolonged.');
	if (head.types.length === 0 || tail.types.length === 0) throw noCorner;
	const end = head.segs.length - 2;
	const gap = Math.hypot(head.segs[end] - tail.segs[0], head.segs[end + 1] - tail.segs[1]);
	const longer = (line: Path, side: LineEnd): Path => {
		const made = lengthen(line, side, 8 * gap + 1e-6, how);
		if (!made.ok) throw noCorner;
		return made.value;
	};
	const longHead = longer(head, 'end');
	const longTail = longer(outline.closed ? longHead : tail, 'start');
	const before = outline.closed ? longTail : longHead;
	const k = before.types.length - 1;
	const meetings = segmentMeetings(
		before.types[k],
		before.segs,
		STRIDE * k,
		longTail.types[0],
		longTail.segs,
		0
	);
	// The nearest to both ends.
	const meeting = meetings.sort((a, b) => a.t - a.u - (b.t - b.u))[0];
	if (!meeting) throw noCorner;
	if (outline.closed)
		return replaceLine(outline, closePath(stretchBetween(longTail, meeting.u, k + meeting.t), 1e-6));
	const a = stretchBetween(longHead, 0, k + meeting.t);
	const b = stretchBetween(longTail, meeting.u, longTail.types.length);
	return replaceLine(outline, new PathBuilder(a.segs[0], a.segs[1]).along(a).along(b).open());
}
