/** A stretch of a line drawn anew by a stroke from the line back to it, or an open end prolonged by one. */
import { CoreError } from '../errors';
import { nearestOnPath } from '../geometry/pick';
import { polygonPath, PathBuilder, reversePath, STRIDE, type Path } from '../geometry/path';
import { between, breakAt } from '../geometry/join';
import { pathLength } from '../geometry/measure';
import { simplifyPath } from './simplify';
import { withStretch } from './stretch';

export interface Redrawn {
	readonly path: Path;
	/** What goes. */
	readonly replaced: Path | undefined;
}

/**
 * @param stroke x,y pairs, mm.
 * @param reach mm within which the stroke's ends count as on the line.
 * @param tolerance mm that the stroke may be smoothed.
 * @param otherSide of a closed line, replace the longer way round instead of the shorter.
 * @throws CoreError `missed` where the stroke does not begin on the line, or does not come back to it.
 */
export function redrawn(
	path: Path,
	stroke: ArrayLike<number>,
	reach: number,
	tolerance: number,
	otherSide = false
): Redrawn {
	const n = stroke.length;
	if (n < 4) throw new CoreError('missed', 'That was no stroke. Draw from the line back to the line.');
	const start = nearestOnPath(path, stroke[0], stroke[1], reach);
	if (!start)
		throw new CoreError('missed', 'The stroke does not begin on the line. Begin on it, and come back to it.');
	const end = nearestOnPath(path, stroke[n - 2], stroke[n - 1], reach);
	const from = start.segment + start.t;
	const total = path.types.length;
	if (!end) {
		const isStart = !path.closed && pathLength(between(path, 0, Math.max(1e-9, from))) < reach;
		const isEnd = !path.closed && from < total && pathLength(between(path, from, total)) < reach;
		if (!isStart && !isEnd && from < total)
			throw new CoreError('missed', 'The stroke does not come back to the line. Nothing was changed.');
		return { path: prolonged(path, stroke, isStart ? 'start' : 'end', tolerance), replaced: undefined };
	}
	const to = end.segment + end.t;
	if (Math.abs(to - from) < 1e-9)
		throw new CoreError('missed', 'The stroke comes back where it began. Nothing was changed.');
	const line = strokeLine(stroke, path, from, to, tolerance);
	if (!path.closed) {
		const [a, b] = from < to ? [from, to] : [to, from];
		const forward = from < to ? line : reversePath(line);
		return { path: withStretch(path, a, b, () => forward), replaced: between(path, a, b) };
	}
	const [one, two] = breakAt(path, [
		{ segment: start.segment, t: start.t },
		{ segment: end.segment, t: end.t }
	]);
	// The parts run from the earlier place to the later and back.
	const ahead = from < to ? one : two;
	const back = from < to ? two : one;
	const shorterAhead = pathLength(ahead) <= pathLength(back);
	if (shorterAhead !== otherSide) return { path: withStretch(path, from, to, () => line), replaced: ahead };
	return { path: withStretch(path, to, from, () => reversePath(line)), replaced: back };
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
		const part = between(path, Math.max(0, at - 1e-9), Math.min(path.types.length, at + 1e-9));
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
	const builder = new PathBuilder(line.segs[0], line.segs[1]);
	for (const part of [line, more])
		for (let i = 0; i < part.types.length; i++) builder.segment(part.types[i], part.segs, STRIDE * i);
	const made = builder.open();
	return end === 'end' ? made : reversePath(made);
}
