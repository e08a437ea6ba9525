/** A part of a line changed and put back: what lies outside stays, and where it joined smoothly it still does. */
import { CoreError } from '../errors';
import { stretchBetween } from '../geometry/join';
import { ARC, CUBIC, PathBuilder, reversePath, STRAIGHT, STRIDE, type Path } from '../geometry/path';
import { directionAt, turnBetween } from '../geometry/segment';

/** Degrees: joints that turn less are drawn smooth. */
const SMOOTH_JOINT = 35;

/**
 * The stretch from one place to another as a line of its own; the places as in `withStretch`.
 * @throws CoreError `bad-stretch`
 */
export function lineBetween(path: Path, from: number, to: number): Path {
	return stretchBetween(path, from, endOf(path, from, to));
}

/** Where a stretch ends, counted on over the seam of a closed line. */
function endOf(path: Path, from: number, to: number): number {
	const n = path.types.length;
	const end = path.closed && to <= from ? to + n : to;
	if (!(end > from) || (!path.closed && (from < 0 || end > n)))
		throw new CoreError(
			'bad-stretch',
			'This stretch has no length. Choose two different places on the line.'
		);
	return end;
}

/**
 * @param from where the stretch begins and ends, as segment + t, in the order of travel; over the seam of a closed line
 * `to` may be smaller than `from`.
 * @param made the new line of the stretch, from about the same place to about the same.
 * @param smoothly ends that nearly run on are turned so that they do.
 * @throws CoreError `bad-stretch`
 */
export function withStretch(path: Path, from: number, to: number, made: Path, smoothly = true): Path {
	const n = path.types.length;
	const end = endOf(path, from, to);
	if (made.types.length === 0) return path;
	const before = path.closed
		? stretchBetween(path, end, from + n)
		: from > 0
			? stretchBetween(path, 0, from)
			: undefined;
	const after = path.closed ? before : end < n ? stretchBetween(path, end, n) : undefined;
	const tied = smoothly ? smoothEnds(made, before, after) : made;
	const builder = new PathBuilder(
		path.closed || !before ? tied.segs[0] : before.segs[0],
		path.closed || !before ? tied.segs[1] : before.segs[1]
	);
	if (path.closed) return builder.along(tied).along(before!).close();
	if (before) builder.along(before);
	builder.along(tied);
	if (after) builder.along(after);
	return builder.open();
}

/** A line with its end handles turned into the directions of what it meets, where it nearly runs on. */
export function smoothEnds(made: Path, before: Path | undefined, after: Path | undefined): Path {
	let next = made;
	if (before && before.types.length) next = tieEnd(next, before);
	if (after && after.types.length) next = reversePath(tieEnd(reversePath(next), reversePath(after)));
	return next;
}

/** The start of `made` in line with the end of `before`. */
function tieEnd(made: Path, before: Path): Path {
	const b = before.types.length - 1;
	const d = directionAt(before.types[b], before.segs, STRIDE * b, 1);
	const e = directionAt(made.types[0], made.segs, 0, 0);
	const turn = Math.abs(turnBetween(d.x, d.y, e.x, e.y));
	const segs = made.segs.slice();
	segs[0] = before.segs[STRIDE * b + 6];
	segs[1] = before.segs[STRIDE * b + 7];
	if (turn > SMOOTH_JOINT || turn < 1e-9 || made.types[0] === ARC || made.types[0] === STRAIGHT)
		return { ...made, segs };
	const length = Math.hypot(segs[2] - made.segs[0], segs[3] - made.segs[1]);
	segs[2] = segs[0] + d.x * length;
	segs[3] = segs[1] + d.y * length;
	return { ...made, types: made.types.map((t, i) => (i === 0 ? CUBIC : t)), segs };
}
