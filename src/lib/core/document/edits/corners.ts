/** Corners rounded, cut off, or sharp again, where they stay editable as such. */
import { done, failed, type Result } from '../../errors';
import type { Path } from '../../geometry/path';
import { allRounds, placeOfAnchor, sourceLine, type Outline } from '../outline';
import { exchangeRounds, roundsFit, scaledRound, type Round } from '../rounds';

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
	const fits = fitsIn(next);
	if (fits.ok) return done({ outline: next, path: fits.value });
	if (!make || fits.problem.code !== 'too-large') return fits;
	// Corners take room from each other: what is named is what fits all of them at once.
	const wanted = make(ids[0]);
	const amount = 'radius' in wanted ? wanted.radius : Math.max(wanted.first, wanted.second);
	const most = largestThatFits(amount, (mm) => {
		const rounded = exchangeRounds(before, ids, (id) => scaledRound(make(id), mm / amount)) ?? [];
		return fitsIn({ ...rest, rounds: rounded }).ok;
	});
	if (most === undefined) return fits;
	const what = 'radius' in wanted ? `A radius of ${tidy(amount)} mm` : `${tidy(amount)} mm`;
	const where = ids.length === 1 ? 'here' : `all ${ids.length} corners`;
	return failed('too-large', `${what} does not fit ${where}. The largest that does is ${tidy(most)} mm.`);
}

const fitsIn = (outline: Outline): Result<Path> =>
	roundsFit(sourceLine(outline), allRounds(outline), (id) => placeOfAnchor(outline, id));

/** mm: amounts are named to this. */
const NAMED = 0.01;
const tidy = (mm: number): number => Math.round(mm * 1e6) / 1e6;

/**
 * The largest amount below one that is too large, in hundredths of a millimetre, that fits; undefined where none does.
 */
function largestThatFits(tooLarge: number, fits: (mm: number) => boolean): number | undefined {
	let lo = 0;
	let hi = Math.ceil(tooLarge / NAMED);
	while (hi - lo > 1) {
		const middle = Math.floor((lo + hi) / 2);
		if (fits(middle * NAMED)) lo = middle;
		else hi = middle;
	}
	return lo > 0 ? lo * NAMED : undefined;
}
