/** Corners rounded, cut off, or sharp again, where they stay editable as such. */
import { done, type Result } from '../../errors';
import type { Path } from '../../geometry/path';
import { placeOfAnchor, sourceLine, type Outline } from '../outline';
import { exchangeRounds, roundsFit, type Round } from '../rounds';

/**
 * The outline with other corners at some of its anchors, and its line. A ready shape is none any more.
 *
 * @param make what becomes of the corner at an anchor; sharp again where undefined.
 * @returns a problem that names the largest that fits, where one does not.
 */
export function withCorners(
	outline: Outline,
	anchors: Iterable<number>,
	make: ((anchor: number) => Round) | undefined
): Result<{ readonly outline: Outline; readonly path: Path }> {
	const { rounds: before, recipe: _, ...rest } = outline;
	const rounds = exchangeRounds(before, [...anchors], make);
	const next: Outline = rounds ? { ...rest, rounds } : rest;
	const fits = roundsFit(sourceLine(next), rounds ?? [], (id) => placeOfAnchor(next, id));
	return fits.ok ? done({ outline: next, path: fits.value }) : fits;
}
