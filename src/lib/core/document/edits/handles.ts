/** Handles: the radius of curvature they make, those that cross, turn back or loop, and their mending. */
import { CoreError } from '../../errors';
import { cubicLoop } from '../../geometry/meetings';
import { CUBIC, STRIDE } from '../../geometry/path';
import { curvatureAt } from '../../geometry/segment';
import { placeHandle } from './anchors';
import {
	ANCHOR_STRIDE,
	anchorIndex,
	handleAt,
	HELD_IN,
	HELD_OUT,
	kindOf,
	MARK_STRIDE,
	segmentTotal,
	sourceLine,
	type Outline,
	type Side
} from '../outline';

/** The segment on one side of an anchor; undefined at an open end. */
export function segmentBeside(outline: Outline, index: number, side: Side): number | undefined {
	const n = outline.anchors.length;
	if (!outline.closed && (side === 'out' ? index === n - 1 : index === 0)) return undefined;
	return side === 'out' ? index : (index + n - 1) % n;
}

/**
 * The radius of curvature at an anchor, mm, on one side of it; positive where the line turns left. Infinity on a
 * straight; undefined at an open end.
 */
export function radiusAt(outline: Outline, anchor: number, side: Side): number | undefined {
	const i = anchorIndex(outline, anchor);
	const segment = i === undefined ? undefined : segmentBeside(outline, i, side);
	if (segment === undefined) return undefined;
	const { types, segs } = sourceLine(outline);
	const k = curvatureAt(types[segment], segs, STRIDE * segment, side === 'out' ? 0 : 1);
	return k === 0 ? Infinity : 1 / k;
}

/**
 * Sets the radius of curvature at an anchor on one side, its place and its direction staying: the handle grows or
 * shrinks. On a cubic the curvature at the end is 2/3 of the other handle's distance from the tangent over the square of
 * the handle's length (standard, from the second derivative).
 *
 * @throws CoreError `bad-radius`, `no-curve`
 */
export function setRadius(outline: Outline, anchor: number, side: Side, radius: number): Outline {
	if (!(radius > 0) || !Number.isFinite(radius))
		throw new CoreError('bad-radius', 'The radius must be above 0 mm.');
	const i = anchorIndex(outline, anchor);
	const segment = i === undefined ? undefined : segmentBeside(outline, i, side);
	if (i === undefined || segment === undefined || outline.marks[MARK_STRIDE * segment + 1] !== CUBIC)
		throw new CoreError('no-curve', 'There is no curve on this side of the anchor.');
	const s = sourceLine(outline).segs;
	const at = STRIDE * segment;
	const [own, mine, far] = side === 'out' ? [0, 2, 4] : [6, 4, 2];
	const dx = s[at + mine] - s[at + own];
	const dy = s[at + mine + 1] - s[at + own + 1];
	const length = Math.hypot(dx, dy);
	if (!(length > 0))
		throw new CoreError('no-curve', 'The handle on this side is missing. Draw it out first.');
	const off = Math.abs(
		(dx * (s[at + far + 1] - s[at + own + 1]) - dy * (s[at + far] - s[at + own])) / length
	);
	if (!(off > 1e-9))
		throw new CoreError(
			'no-curve',
			'The line runs straight here whatever the handle: pull the handle at the other end aside first.'
		);
	const want = Math.sqrt((2 / 3) * off * radius);
	const points = outline.points.slice();
	const a = ANCHOR_STRIDE * i;
	const k = handleAt(i, side);
	points[k] = points[a] + (dx / length) * want;
	points[k + 1] = points[a + 1] + (dy / length) * want;
	return { ...outline, points };
}

export type HandleTrouble = 'crossed' | 'backward' | 'loop';

export interface HandleFault {
	readonly segment: number;
	readonly trouble: HandleTrouble;
	readonly x: number;
	readonly y: number;
}

/** Handles that cross each other, point backward along their segment, or make the line loop. */
export function handleFaults(outline: Outline): HandleFault[] {
	const { types, segs: s } = sourceLine(outline);
	const faults: HandleFault[] = [];
	for (let i = 0; i < segmentTotal(outline); i++) {
		if (types[i] !== CUBIC) continue;
		const at = STRIDE * i;
		const trouble = troubleOf(s, at);
		if (!trouble || (trouble === 'backward' && isMeant(outline, i))) continue;
		faults.push({
			segment: i,
			trouble,
			x: (s[at] + s[at + 6]) / 2,
			y: (s[at + 1] + s[at + 7]) / 2
		});
	}
	return faults;
}

/** A handle whose direction was typed is meant as it is, even where it points back. */
export function asTyped(outline: Outline, anchor: number, side: Side): Outline {
	const i = anchorIndex(outline, anchor);
	if (i === undefined) return outline;
	const marks = outline.marks.slice();
	marks[MARK_STRIDE * i + 2] |= side === 'in' ? HELD_IN : HELD_OUT;
	return { ...outline, marks };
}

/** Whether a handle of a segment that is not computed was typed. */
function isMeant(outline: Outline, segment: number): boolean {
	const to = (segment + 1) % outline.anchors.length;
	return (
		(kindOf(outline, segment) !== 'flowing' && (outline.marks[MARK_STRIDE * segment + 2] & HELD_OUT) !== 0) ||
		(kindOf(outline, to) !== 'flowing' && (outline.marks[MARK_STRIDE * to + 2] & HELD_IN) !== 0)
	);
}

function troubleOf(s: Float64Array, at: number): HandleTrouble | undefined {
	if (cubicLoop(s, at)) return 'loop';
	const cx = s[at + 6] - s[at];
	const cy = s[at + 7] - s[at + 1];
	const chord = Math.hypot(cx, cy);
	if (!(chord > 0)) return undefined;
	const ax = s[at + 2] - s[at];
	const ay = s[at + 3] - s[at + 1];
	const bx = s[at + 4] - s[at + 6];
	const by = s[at + 5] - s[at + 7];
	// The two handle lines cross within their lengths.
	const det = ax * by - ay * bx;
	if (Math.abs(det) > 1e-12 * chord * chord) {
		const u = (cx * by - cy * bx) / det;
		const v = (cx * ay - cy * ax) / det;
		if (u > 1e-9 && u < 1 - 1e-9 && v > 1e-9 && v < 1 - 1e-9) return 'crossed';
	}
	const la = Math.hypot(ax, ay);
	const lb = Math.hypot(bx, by);
	// Farther than square away from the other anchor, and long enough to matter.
	const back = (x: number, y: number, size: number, sign: number) =>
		size > 0.02 * chord && sign * (x * cx + y * cy) < -0.5 * size * chord;
	if (back(ax, ay, la, 1) || back(bx, by, lb, -1)) return 'backward';
	return undefined;
}

/**
 * Mends the handles of segments: directions stay where they point forward, otherwise they point to the other anchor;
 * lengths become a third of the chord, or less so that the handles no longer cross.
 */
export function mendHandles(outline: Outline, segments: Iterable<number>): Outline {
	let next = outline;
	for (const segment of segments) {
		if (next.marks[MARK_STRIDE * segment + 1] !== CUBIC) continue;
		const n = next.anchors.length;
		const to = (segment + 1) % n;
		const s = sourceLine(next).segs;
		const at = STRIDE * segment;
		const cx = s[at + 6] - s[at];
		const cy = s[at + 7] - s[at + 1];
		const chord = Math.hypot(cx, cy);
		if (!(chord > 0)) continue;
		const forward = (x: number, y: number, sign: number) => {
			const size = Math.hypot(x, y);
			const along = size > 0 ? (sign * (x * cx + y * cy)) / (size * chord) : 1;
			return size > 0 && along > 0.1
				? { x: x / size, y: y / size }
				: { x: (sign * cx) / chord, y: (sign * cy) / chord };
		};
		const u = forward(s[at + 2] - s[at], s[at + 3] - s[at + 1], 1);
		const v = forward(s[at + 4] - s[at + 6], s[at + 5] - s[at + 7], -1);
		let [a, b] = [chord / 3, chord / 3];
		const det = u.x * v.y - u.y * v.x;
		if (Math.abs(det) > 1e-9) {
			const meetA = (cx * v.y - cy * v.x) / det;
			const meetB = (cx * u.y - cy * u.x) / det;
			if (meetA > 0 && meetB > 0) {
				a = Math.min(a, 0.6 * meetA);
				b = Math.min(b, 0.6 * meetB);
			}
		}
		const from = next.anchors[segment];
		const end = next.anchors[to];
		next = placeHandle(next, from, 'out', s[at] + u.x * a, s[at + 1] + u.y * a);
		next = placeHandle(next, end, 'in', s[at + 6] + v.x * b, s[at + 7] + v.y * b);
	}
	return next;
}

/** Handles too short to be grabbed that are there all the same: which, and how long they truly are, mm. */
export function tinyHandles(
	outline: Outline,
	shorterThan: number
): { index: number; side: Side; length: number }[] {
	const out: { index: number; side: Side; length: number }[] = [];
	outline.anchors.forEach((_, i) => {
		for (const side of ['in', 'out'] as const) {
			const segment = segmentBeside(outline, i, side);
			if (segment === undefined || outline.marks[MARK_STRIDE * segment + 1] !== CUBIC) continue;
			const a = ANCHOR_STRIDE * i;
			const k = handleAt(i, side);
			const length = Math.hypot(
				outline.points[k] - outline.points[a],
				outline.points[k + 1] - outline.points[a + 1]
			);
			if (length > 0 && length < shorterThan) out.push({ index: i, side, length });
		}
	});
	return out;
}
