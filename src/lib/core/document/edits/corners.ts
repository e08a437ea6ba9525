/** Corners rounded, cut off, or sharp again, where they stay editable as such. */
import { done, type Result } from '../../errors';
import type { Path } from '../../geometry/path';
import { allRounds, placeOfAnchor, sourceLine, type Outline } from '../outline';
import { exchangeRounds, roundsFit, type Round } from '../rounds';

/**
 * The outline with other corners at some of its anchors, and its line. A ready shape stays one.
 *
 * @param make what becomes of the corner at an anchor; sharp again where undefined.
 * @returns a problem that names the largest that fits, where one does not.
 */
export function withCorners(
	outline: Outline,
	anchors: Iterable<number>,
	make: ((anchor: number) => Round) | undefined
): Result<{ readonly outline: Outline; readonly path: Path }> {
	const { rounds: before, ...rest } = outline;
	const ids = [...anchors];
	// Sharp again where its shape rounds it: that is said too.
	const byShape = new Set(outline.recipe?.rounds?.map((r) => r.anchor));
	const sharp = make ? [] : ids.filter((id) => byShape.has(id)).map((anchor) => ({ anchor, radius: 0 }));
	const rounds = [...(exchangeRounds(before, ids, make) ?? []), ...sharp];
	const next: Outline = rounds.length ? { ...rest, rounds } : rest;
	const fits = roundsFit(sourceLine(next), allRounds(next), (id) => placeOfAnchor(next, id));
	return fits.ok ? done({ outline: next, path: fits.value }) : fits;
}
