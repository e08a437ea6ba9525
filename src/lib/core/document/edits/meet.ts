/**
 * How two parts of a line meet, at an anchor or at two ends: place, direction, curvature; and making them meet as closely as
 * is wanted, with a say in which of them gives way.
 */
import { CoreError } from '../../errors';
import type { MeetWay } from '../../fit/meet-ways';
import { CUBIC, STRIDE } from '../../geometry/path';
import type { Point } from '../../geometry/point';
import { curvatureAt, directionAt, turnBetween } from '../../geometry/segment';
import { flow, placeAnchor, segmentToCurve } from './anchors';
import { segmentBeside } from './handles';
import {
	ANCHOR_KINDS,
	ANCHOR_STRIDE,
	anchorIndex,
	handleAt,
	HELD_IN,
	HELD_OUT,
	kindOf,
	MARK_STRIDE,
	otherSide,
	placeOfAnchor,
	segmentTypeOf,
	sourceLine,
	type Outline,
	type Side
} from '../outline';

/** One of the two parts that meet: the segment before ('in') or after ('out') an anchor. */
export interface MeetSide {
	/** Id of its outline. */
	readonly outline: string;
	readonly anchor: number;
	readonly side: Side;
}

/** Which part gives way; both alike. */
export type GivesWay = 'first' | 'second' | 'both';

export interface Meeting {
	/** mm between the two. */
	readonly gap: number;
	/** Degrees by which the line turns there, from the first into the second. */
	readonly turn: number;
	/** 1/mm, travelled from the first into the second; positive to the left. */
	readonly before: number;
	readonly after: number;
	/** What they share; 'apart' where not even the place. */
	readonly how: MeetWay | 'apart';
}

/** mm, degrees, and a share of the larger curvature: what is less is the same. */
const SAME_PLACE = 1e-6;
const SAME_DIRECTION = 0.05;
const SAME_CURVATURE = 0.02;

/** A part seen from where it meets the other: where it starts, in which direction it leaves, how it bends. */
export interface Arm {
	readonly x: number;
	readonly y: number;
	readonly dx: number;
	readonly dy: number;
	/** 1/mm, positive where it bends left as it leaves. */
	readonly bend: number;
}

/** The outline of a part. @throws CoreError `gone` */
export const find = (outlines: readonly Outline[], side: MeetSide): Outline => {
	const outline = outlines.find((o) => o.id === side.outline);
	if (!outline) throw new CoreError('gone', 'This is no longer in the drawing.');
	return outline;
};

/** The segment of a part. @throws CoreError `cannot-meet` where there is none on that side. */
function segmentOf(outline: Outline, { anchor, side }: MeetSide): number {
	const i = anchorIndex(outline, anchor);
	const segment = i === undefined ? undefined : segmentBeside(outline, i, side);
	if (segment === undefined)
		throw new CoreError('cannot-meet', 'Only one side ends here: there is nothing to meet.');
	return segment;
}

/** A part as it leaves the place where it meets the other. @throws CoreError `cannot-meet` */
export function armOf(outline: Outline, part: MeetSide): Arm {
	const segment = segmentOf(outline, part);
	const { types, segs } = sourceLine(outline);
	const at = STRIDE * segment;
	const isOut = part.side === 'out';
	const d = directionAt(types[segment], segs, at, isOut ? 0 : 1);
	const bend = curvatureAt(types[segment], segs, at, isOut ? 0 : 1);
	const sign = isOut ? 1 : -1;
	const start = at + (isOut ? 0 : 6);
	return { x: segs[start], y: segs[start + 1], dx: sign * d.x, dy: sign * d.y, bend: sign * bend };
}

function meetingOfArms(a: Arm, b: Arm): Meeting {
	const gap = Math.hypot(b.x - a.x, b.y - a.y);
	const turn = turnBetween(-a.dx, -a.dy, b.dx, b.dy);
	const before = -a.bend;
	const after = b.bend;
	const isCurved =
		Math.abs(after - before) <= SAME_CURVATURE * Math.max(Math.abs(before), Math.abs(after), 1e-9);
	const how =
		gap > SAME_PLACE
			? 'apart'
			: Math.abs(turn) > SAME_DIRECTION
				? 'place'
				: isCurved
					? 'curvature'
					: 'direction';
	return { gap, turn, before, after, how };
}

/** How two parts meet. @throws CoreError `gone`, `cannot-meet` */
export function meetingOf(outlines: readonly Outline[], first: MeetSide, second: MeetSide): Meeting {
	return meetingOfArms(armOf(find(outlines, first), first), armOf(find(outlines, second), second));
}

/** The two parts at an anchor, in the order of travel. */
export const sidesOf = (outline: string, anchor: number): [MeetSide, MeetSide] => [
	{ outline, anchor, side: 'in' },
	{ outline, anchor, side: 'out' }
];

/** How the two sides of an anchor meet; undefined at an open end. */
export function meetingAt(outline: Outline, anchor: number): Meeting | undefined {
	const i = anchorIndex(outline, anchor);
	if (i === undefined || (['in', 'out'] as const).some((s) => segmentBeside(outline, i, s) === undefined))
		return undefined;
	return meetingOf([outline], ...sidesOf(outline.id, anchor));
}

/** The part that ends at an anchor of an open outline; undefined where it is no end. */
export function endAt(outline: Outline, anchor: number): MeetSide | undefined {
	const i = anchorIndex(outline, anchor);
	const last = outline.anchors.length - 1;
	if (outline.closed || i === undefined || last < 1 || (i !== 0 && i !== last)) return undefined;
	return { outline: outline.id, anchor, side: i === 0 ? 'out' : 'in' };
}

/**
 * The open end nearest to a place, within `reach` mm, on which another end may be dropped: of other outlines, or the other end
 * of its own where that closes more than one stretch.
 */
export function endToDropOn(
	outlines: readonly Outline[],
	dropped: MeetSide,
	place: Point,
	reach: number
): { readonly end: MeetSide; readonly at: Point } | undefined {
	let best: { end: MeetSide; at: Point } | undefined;
	let least = reach;
	for (const outline of outlines) {
		const isOwn = outline.id === dropped.outline;
		if (isOwn && outline.anchors.length < 3) continue;
		for (const anchor of [outline.anchors[0], outline.anchors[outline.anchors.length - 1]]) {
			const end = endAt(outline, anchor);
			const at = end && !(isOwn && anchor === dropped.anchor) ? placeOfAnchor(outline, anchor) : undefined;
			const off = at ? Math.hypot(at.x - place.x, at.y - place.y) : Infinity;
			if (!(off <= least)) continue;
			least = off;
			best = { end: end!, at: at! };
		}
	}
	return best;
}

/** The two ends of open outlines that lie nearest to each other: of two, or of one alone; undefined where there are none. */
export function nearestEnds(outlines: readonly Outline[]): [MeetSide, MeetSide] | undefined {
	const ends = outlines.flatMap((o) =>
		[o.anchors[0], o.anchors[o.anchors.length - 1]].flatMap((anchor) => {
			const end = endAt(o, anchor);
			return end ? [{ end, at: placeOfAnchor(o, anchor)! }] : [];
		})
	);
	let best: [MeetSide, MeetSide] | undefined;
	let least = Infinity;
	ends.forEach((a, i) =>
		ends.slice(i + 1).forEach((b) => {
			const isOther = outlines.length === 1 || a.end.outline !== b.end.outline;
			const apart = Math.hypot(a.at.x - b.at.x, a.at.y - b.at.y);
			if (!isOther || apart >= least) return;
			least = apart;
			best = [a.end, b.end];
		})
	);
	return best;
}

/**
 * Makes two parts meet. Whatever gives way keeps as much of its shape as it can: for the direction its handle turns, for the
 * curvature its two handles grow or shrink, so that it goes on meeting at its other end as it did.
 *
 * @returns the outlines, those that had to as they become.
 * @throws CoreError `gone`; `cannot-meet` where the part that should give way cannot
 */
export function meet(
	outlines: readonly Outline[],
	first: MeetSide,
	second: MeetSide,
	way: MeetWay,
	gives: GivesWay
): Outline[] {
	const work = new Map(outlines.map((o) => [o.id, o]));
	const arm = (part: MeetSide) => armOf(work.get(part.outline)!, part);
	const edit = (part: MeetSide, change: (outline: Outline) => Outline) =>
		work.set(part.outline, change(work.get(part.outline)!));
	find(outlines, first);
	find(outlines, second);
	const givers = gives === 'both' ? [first, second] : gives === 'first' ? [first] : [second];
	const isOneAnchor = first.outline === second.outline && first.anchor === second.anchor;
	if (!isOneAnchor && first.outline === second.outline && work.get(first.outline)!.anchors.length < 3)
		throw new CoreError('cannot-meet', 'A single stretch cannot meet itself. Close it instead.');
	const meetAt = placeToMeet(arm(first), arm(second), gives);
	if (meetAt) for (const part of givers) edit(part, (o) => placeAnchor(o, part.anchor, ...meetAt));
	if (way === 'place') return [...work.values()];

	for (const part of givers) edit(part, (o) => asCurve(o, part));
	const [a, b] = [arm(first), arm(second)];
	// Where the first should come from and the second go to: one direction for both.
	const [ux, uy] = gives === 'first' ? [b.dx, b.dy] : gives === 'second' ? [-a.dx, -a.dy] : between(a, b);
	for (const part of givers) {
		const sign = part === first ? -1 : 1;
		edit(part, (o) => turnHandle(o, part, sign * ux, sign * uy));
	}
	if (isOneAnchor) edit(first, (o) => madeSmooth(o, first.anchor));
	if (way === 'direction') return [...work.values()].map(flow);

	const [p, q] = [-arm(first).bend, arm(second).bend];
	const bend =
		gives === 'first'
			? q
			: gives === 'second'
				? p
				: p * q > 0
					? Math.sign(p) * Math.sqrt(p * q)
					: (p + q) / 2;
	for (const part of givers) edit(part, (o) => bendArm(o, part, part === first ? -bend : bend));
	return [...work.values()].map(flow);
}

/** The place where two parts should meet; undefined where they do. */
function placeToMeet(a: Arm, b: Arm, gives: GivesWay): [number, number] | undefined {
	if (a.x === b.x && a.y === b.y) return undefined;
	if (gives === 'first') return [b.x, b.y];
	if (gives === 'second') return [a.x, a.y];
	return [(a.x + b.x) / 2, (a.y + b.y) / 2];
}

/** The direction half way between how one arrives and how the other leaves. */
function between(a: Arm, b: Arm): [number, number] {
	const x = b.dx - a.dx;
	const y = b.dy - a.dy;
	const size = Math.hypot(x, y);
	if (!(size > 1e-6))
		throw new CoreError(
			'cannot-meet',
			'Both run off to the same side here: there is no direction between them. Let one of them give way.'
		);
	return [x / size, y / size];
}

function asCurve(outline: Outline, part: MeetSide): Outline {
	const segment = segmentOf(outline, part);
	return segmentTypeOf(outline, segment) === CUBIC ? outline : segmentToCurve(outline, segment);
}

/** The handle of a part turned into a direction; one that is missing is drawn out by a third of the way. */
function turnHandle(outline: Outline, part: MeetSide, ux: number, uy: number): Outline {
	const i = anchorIndex(outline, part.anchor)!;
	const points = Float64Array.from(outline.points);
	const at = ANCHOR_STRIDE * i;
	const own = handleAt(i, part.side);
	const far = ANCHOR_STRIDE * farAnchor(outline, part);
	const length =
		Math.hypot(points[own] - points[at], points[own + 1] - points[at + 1]) ||
		Math.hypot(points[far] - points[at], points[far + 1] - points[at + 1]) / 3;
	points[own] = points[at] + ux * length;
	points[own + 1] = points[at + 1] + uy * length;
	return held({ ...outline, points }, i, part.side);
}

/** Index of the anchor at the other end of a part. */
function farAnchor(outline: Outline, part: MeetSide): number {
	const n = outline.anchors.length;
	const segment = segmentOf(outline, part);
	return part.side === 'out' ? (segment + 1) % n : segment;
}

/** An anchor one of whose handles was set: an even one is smooth from then on, a flowing one holds that handle. */
function held(outline: Outline, i: number, side: Side): Outline {
	const kind = kindOf(outline, i);
	if (kind !== 'even' && kind !== 'flowing') return outline;
	const marks = Uint8Array.from(outline.marks);
	if (kind === 'even') marks[MARK_STRIDE * i] = ANCHOR_KINDS.indexOf('smooth');
	else marks[MARK_STRIDE * i + 2] |= side === 'in' ? HELD_IN : HELD_OUT;
	return { ...outline, marks };
}

function madeSmooth(outline: Outline, anchor: number): Outline {
	const marks = Uint8Array.from(outline.marks);
	marks[MARK_STRIDE * anchorIndex(outline, anchor)!] = ANCHOR_KINDS.indexOf('smooth');
	return { ...outline, marks };
}

/** Factors by which the near handle is tried; the far one follows from it, within these limits. */
const FACTORS = Array.from({ length: 121 }, (_, k) => Math.pow(6, (k - 60) / 60));
const MOST_FAR = 8;

/**
 * A part bent so at its start, its place, its direction and the directions at its other end staying. The curvature of a cubic
 * at its end is 2/3 of the far handle's distance from the tangent over the square of the near handle's length (standard, from
 * the second derivative); of all pairs of lengths that give it the one that changes least is taken. Where there is none and
 * the other end is a corner or an open end, the far handle turns.
 */
function bendArm(outline: Outline, part: MeetSide, bend: number): Outline {
	const i = anchorIndex(outline, part.anchor)!;
	const f = farAnchor(outline, part);
	const farSide = otherSide(part.side);
	const points = Float64Array.from(outline.points);
	const at = ANCHOR_STRIDE * i;
	const far = ANCHOR_STRIDE * f;
	const own = handleAt(i, part.side);
	const other = handleAt(f, farSide);
	const a0 = Math.hypot(points[own] - points[at], points[own + 1] - points[at + 1]);
	const b0 = Math.hypot(points[other] - points[far], points[other + 1] - points[far + 1]);
	const [tx, ty] = [(points[own] - points[at]) / a0, (points[own + 1] - points[at + 1]) / a0];
	const cx = points[far] - points[at];
	const cy = points[far + 1] - points[at + 1];
	const [ux, uy] =
		b0 > 0 ? [(points[other] - points[far]) / b0, (points[other + 1] - points[far + 1]) / b0] : [0, 0];
	// Distances from the tangent: of the far anchor, and of the far handle for every mm of its length.
	const off = tx * cy - ty * cx;
	const slope = tx * uy - ty * ux;
	let best: { a: number; b: number; cost: number } | undefined;
	const consider = (a: number, b: number) => {
		if (!(a > 0) || !(b >= 0) || b > MOST_FAR * Math.max(b0, a0) || (b0 > 0 && b < b0 / MOST_FAR)) return;
		const cost = Math.log(a / a0) ** 2 + (b0 > 0 ? Math.log(b / b0) ** 2 : 0);
		if (!best || cost < best.cost) best = { a, b, cost };
	};
	// The far handle as it is: only the near one changes.
	const without = (off + slope * b0) / (1.5 * bend);
	if (without > 0) consider(Math.sqrt(without), b0);
	if (Math.abs(slope) > 1e-9)
		for (const factor of FACTORS) {
			const a = factor * a0;
			consider(a, (1.5 * bend * a * a - off) / slope);
		}
	else if (Math.abs(bend) < 1e-12 && Math.abs(off) < 1e-9) return outline;
	// Its other end is a corner or an end: there the line may leave in another direction.
	const isFree = kindOf(outline, f) === 'corner' || endAt(outline, outline.anchors[f]) !== undefined;
	if (!best && isFree) {
		const aside = 1.5 * bend * a0 * a0 - (off + slope * b0);
		points[other] -= ty * aside;
		points[other + 1] += tx * aside;
		return held({ ...outline, points }, i, part.side);
	}
	if (!best)
		throw new CoreError(
			'cannot-meet',
			'This part cannot bend so here and still leave its other end as it does. Let the other part give way, or put an anchor nearer.'
		);
	points[own] = points[at] + tx * best.a;
	points[own + 1] = points[at + 1] + ty * best.a;
	points[other] = points[far] + ux * best.b;
	points[other + 1] = points[far + 1] + uy * best.b;
	return held(held({ ...outline, points }, i, part.side), f, farSide);
}
