/** How two sides meet at an anchor: place, direction, curvature; and making them meet as closely as is wanted. */
import { CoreError } from '../errors';
import { CUBIC, STRIDE } from '../geometry/path';
import { turnAt } from '../geometry/measure';
import { curvatureAt } from '../geometry/segment';
import { setKind } from './anchors';
import { segmentBeside, setRadius } from './handles';
import { anchorIndex, sourceLine, type Outline } from './outline';

export interface Meeting {
	/** Degrees by which the line turns there. */
	readonly turn: number;
	/** 1/mm, on either side. */
	readonly before: number;
	readonly after: number;
	readonly how: 'place only' | 'direction' | 'curvature';
}

/** How the two sides of an anchor meet; undefined at an open end. */
export function meetingAt(outline: Outline, anchor: number): Meeting | undefined {
	const i = anchorIndex(outline, anchor);
	const b = i === undefined ? undefined : segmentBeside(outline, i, 'in');
	const a = i === undefined ? undefined : segmentBeside(outline, i, 'out');
	if (b === undefined || a === undefined) return undefined;
	const { types, segs } = sourceLine(outline);
	const turn = turnAt(sourceLine(outline), a);
	const before = curvatureAt(types[b], segs, STRIDE * b, 1);
	const after = curvatureAt(types[a], segs, STRIDE * a, 0);
	const how =
		Math.abs(turn) > 0.05
			? 'place only'
			: Math.abs(after - before) > 0.02 * Math.max(Math.abs(before), Math.abs(after), 1e-9)
				? 'direction'
				: 'curvature';
	return { turn, before, after, how };
}

/** Which side gives way: the one before, the one after, or both alike. */
export type GivesWay = 'before' | 'after' | 'both';

/**
 * Makes both sides of an anchor meet with equal curvature, place and direction staying: handles grow or shrink.
 *
 * @throws CoreError `cannot-meet` where the sides bend to different hands, one of them is straight, or none of those that
 * give way is a curve.
 */
export function meetWithCurvature(outline: Outline, anchor: number, gives: GivesWay): Outline {
	const base =
		meetingAt(outline, anchor)?.how === 'place only'
			? setKind(outline, new Set([anchor]), 'smooth')
			: outline;
	const meeting = meetingAt(base, anchor);
	if (!meeting) throw new CoreError('cannot-meet', 'Only one side ends here: there is nothing to meet.');
	const { before, after } = meeting;
	if (!(before * after > 0))
		throw new CoreError(
			'cannot-meet',
			'The two sides bend to different hands here, or one is straight: pull a handle first.'
		);
	const target =
		gives === 'before' ? after : gives === 'after' ? before : Math.sign(before) * Math.sqrt(before * after);
	const radius = 1 / Math.abs(target);
	let next = base;
	const i = anchorIndex(base, anchor)!;
	for (const side of ['in', 'out'] as const) {
		if (gives === 'before' && side === 'out') continue;
		if (gives === 'after' && side === 'in') continue;
		const segment = segmentBeside(base, i, side)!;
		if (sourceLine(base).types[segment] !== CUBIC)
			throw new CoreError('cannot-meet', 'The side that should give way is no curve. Make it one first.');
		next = setRadius(next, anchor, side, radius);
	}
	return next;
}
