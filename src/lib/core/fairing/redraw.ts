/** A stretch of a line drawn anew by a stroke from the line back to it, or an open end prolonged by one. */
import { CoreError } from '../errors';
import { nearestOnPath } from '../geometry/pick';
import { polygonPath, PathBuilder, reversePath, STRIDE, type Path } from '../geometry/path';
import { parameterAtLength, segmentLength } from '../geometry/segment';
import { stretchBetween } from '../geometry/join';
import { pathLength } from '../geometry/measure';
import { simplifyPath } from './simplify';
import { withStretch } from './stretch';

export interface Redrawn {
	readonly path: Path;
	/** What goes. */
	readonly replaced: Path | undefined;
}

/** What a stroke would replace: the stretch from one place to another, both as segment + t, in the order of travel. */
interface Caught {
	readonly from: number;
	readonly to: number;
	/** The stroke runs against the line. */
	readonly against: boolean;
	readonly part: Path;
}

/**
 * What of a line a stroke from it back to it replaces; undefined where it does not come back. Quick: for every move of the
 * hand.
 *
 * @param stroke x,y pairs, mm.
 * @param reach mm within which the stroke's ends count as on the line.
 * @param otherSide of a closed line, the longer way round instead of the shorter.
 * @throws CoreError `missed` where the stroke does not begin on the line, or comes back where it began.
 */
export function caughtBy(
	path: Path,
	stroke: ArrayLike<number>,
	reach: number,
	otherSide = false
): Caught | undefined {
	const n = stroke.length;
	if (n < 4) throw new CoreError('missed', 'That was no stroke. Draw from the line back to the line.');
	const start = nearestOnPath(path, stroke[0], stroke[1], reach);
	if (!start)
		throw new CoreError('missed', 'The stroke does not begin on the line. Begin on it, and come back to it.');
	const end = nearestOnPath(path, stroke[n - 2], stroke[n - 1], reach);
	if (!end) return undefined;
	const from = start.segment + start.t;
	const to = end.segment + end.t;
	if (Math.abs(to - from) < 1e-9)
		throw new CoreError('missed', 'The stroke comes back where it began. Nothing was changed.');
	if (!path.closed) {
		const against = to < from;
		const [a, b] = against ? [to, from] : [from, to];
		return { from: a, to: b, against, part: stretchBetween(path, a, b) };
	}
	const total = path.types.length;
	const ahead = stretchBetween(path, from, to > from ? to : to + total);
	const back = stretchBetween(path, to, from > to ? from : from + total);
	const shorterAhead = pathLength(ahead) <= pathLength(back);
	return shorterAhead !== otherSide
		? { from, to, against: false, part: ahead }
		: { from: to, to: from, against: true, part: back };
}

/**
 * The line with the stretch replaced that `caughtBy` tells; from an open end that the stroke leaves it is prolonged.
 *
 * @param tolerance mm that the stroke may be smoothed.
 * @throws CoreError `missed` as there, and where the stroke does not come back to the line.
 */
export function redrawn(
	path: Path,
	stroke: ArrayLike<number>,
	reach: number,
	tolerance: number,
	otherSide = false
): Redrawn {
	const caught = caughtBy(path, stroke, reach, otherSide);
	if (caught) {
		const { from, to, against, part } = caught;
		const line = strokeLine(stroke, path, against ? to : from, against ? from : to, tolerance);
		const made = against ? reversePath(line) : line;
		return { path: joinedSmoothly(path, { from, to, made }, stroke, tolerance), replaced: part };
	}
	const { segment, t } = nearestOnPath(path, stroke[0], stroke[1], reach)!;
	const from = segment + t;
	const total = path.types.length;
	const isStart = !path.closed && pathLength(stretchBetween(path, 0, Math.max(1e-9, from))) < reach;
	const isEnd = !path.closed && from < total && pathLength(stretchBetween(path, from, total)) < reach;
	if (!isStart && !isEnd && from < total)
		throw new CoreError('missed', 'The stroke does not come back to the line. Nothing was changed.');
	return { path: prolonged(path, stroke, isStart ? 'start' : 'end', tolerance), replaced: undefined };
}

/** Tolerances along a new line from its ends: so short a piece may be turned without the line leaving the stroke. */
const TURNED = 4;
/** What the smoothing of the stroke and the turning of its ends may come to together, tolerances. */
const ALLOWED = 1;

/** The new stretch put in, as smoothly as it can be without leaving the stroke: turned whole, at its ends alone, or not. */
function joinedSmoothly(
	path: Path,
	{ from, to, made }: { readonly from: number; readonly to: number; readonly made: Path },
	stroke: ArrayLike<number>,
	tolerance: number
): Path {
	for (const line of [made, withShortEnds(made, TURNED * tolerance)]) {
		const joined = withStretch(path, from, to, line);
		if (farthest(stroke, joined) <= ALLOWED * tolerance) return joined;
	}
	return withStretch(path, from, to, made, false);
}

/** mm from the stroke's places to a line at most. */
function farthest(stroke: ArrayLike<number>, path: Path): number {
	let off = 0;
	for (let i = 0; i < stroke.length; i += 2)
		off = Math.max(off, nearestOnPath(path, stroke[i], stroke[i + 1], Infinity)?.distance ?? Infinity);
	return off;
}

/** Share of a segment: an end piece is shorter, so that two of one segment never meet. */
const SHORT_SHARE = 0.4;

/** The same line with an anchor a little way from each end. */
function withShortEnds(path: Path, length: number): Path {
	const n = path.types.length;
	const lengthOf = (i: number) => segmentLength(path.types[i], path.segs, STRIDE * i);
	const short = (i: number) => Math.min(length, SHORT_SHARE * lengthOf(i));
	const last = n - 1;
	const a = parameterAtLength(path.types[0], path.segs, 0, short(0));
	const at = STRIDE * last;
	const b = last + parameterAtLength(path.types[last], path.segs, at, lengthOf(last) - short(last));
	const parts = [stretchBetween(path, 0, a), stretchBetween(path, a, b), stretchBetween(path, b, n)];
	const builder = new PathBuilder(path.segs[0], path.segs[1]);
	for (const part of parts) builder.along(part);
	return builder.open();
}

/** The stroke as few curves, its ends on the line. */
function strokeLine(
	stroke: ArrayLike<number>,
	path: Path,
	from: number,
	to: number,
	tolerance: number
): Path {
	const points = Array.from(stroke);
	const place = (at: number) => {
		const part = stretchBetween(path, Math.max(0, at - 1e-9), Math.min(path.types.length, at + 1e-9));
		return part.types.length ? [part.segs[0], part.segs[1]] : undefined;
	};
	const a = place(from);
	const b = place(to);
	if (a) points.splice(0, 2, ...a);
	if (b) points.splice(points.length - 2, 2, ...b);
	return simplifyPath(polygonPath(points, false), tolerance).path;
}

/** An open line going on with a stroke from one of its ends. */
function prolonged(path: Path, stroke: ArrayLike<number>, end: 'start' | 'end', tolerance: number): Path {
	const line = end === 'end' ? path : reversePath(path);
	const e = line.segs.length - 2;
	const points = Array.from(stroke);
	points.splice(0, 2, line.segs[e], line.segs[e + 1]);
	const more = simplifyPath(polygonPath(points, false), tolerance).path;
	const made = new PathBuilder(line.segs[0], line.segs[1]).along(line).along(more).open();
	return end === 'end' ? made : reversePath(made);
}
