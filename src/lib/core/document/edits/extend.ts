/** Open lines made longer or shorter at an end: by a length, or as far as another line. */
import { done, failed, type Result } from '../../errors';
import { extendTo, lengthen, meetingPlaces, stretchBetween, type LineEnd } from '../../geometry/join';
import { pathLength } from '../../geometry/measure';
import { STRIDE, type Path } from '../../geometry/path';
import { pointAt } from '../../geometry/segment';

export type ExtendHow = 'straight' | 'curve';

/** mm: so far ahead a boundary is looked for. */
const FAR = 20_000;

/**
 * An open line as far as the next of the boundaries: prolonged to it, or shortened to the crossing that is nearest to its end
 * where `shorter`.
 *
 * @returns `no-boundary` where none lies on its way, `closed-outline`.
 */
export function toBoundary(
	path: Path,
	end: LineEnd,
	boundaries: readonly Path[],
	how: ExtendHow,
	shorter: boolean
): Result<Path> {
	if (!shorter) return extendTo(path, end, boundaries, how, FAR);
	const n = path.types.length;
	const places = meetingPlaces(path, boundaries).filter((k) => k > 1e-6 && k < n - 1e-6);
	if (places.length === 0) return failed('no-boundary', 'No other outline crosses this line.');
	return done(
		end === 'end' ? stretchBetween(path, 0, places[places.length - 1]) : stretchBetween(path, places[0], n)
	);
}

/** An open line longer by so much at an end, or shorter by a negative amount. */
export const byLength = (path: Path, end: LineEnd, by: number, how: ExtendHow): Result<Path> =>
	by === 0 ? done(path) : lengthen(path, end, by, how);

/** The end of an open line that lies nearer to a place. */
export function nearerLineEnd(path: Path, x: number, y: number): LineEnd {
	const last = STRIDE * (path.types.length - 1);
	const a = Math.hypot(path.segs[0] - x, path.segs[1] - y);
	const b = Math.hypot(path.segs[last + 6] - x, path.segs[last + 7] - y);
	return a < b ? 'start' : 'end';
}

/** Where a line ends, mm, and its length. */
export function endOf(
	path: Path,
	end: LineEnd
): { readonly x: number; readonly y: number; readonly length: number } {
	const last = path.types.length - 1;
	const p =
		end === 'start'
			? { x: path.segs[0], y: path.segs[1] }
			: pointAt(path.types[last], path.segs, STRIDE * last, 1);
	return { ...p, length: pathLength(path) };
}
