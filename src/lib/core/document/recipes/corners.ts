/** The reckoning of corners between two lines. */
import { done, type Result } from '../../errors';
import { chamfer, cornerOf, fillet } from '../../geometry/corner';
import { lengthen, meetingPlaces, type Place } from '../../geometry/join';
import { pathBox, unionBox } from '../../geometry/measure';
import type { Path } from '../../geometry/path';
import { cornerLate, type CornerHow } from './corner';
import { endNow, type EndOf } from './line-ends';

/** A place just within an end of a line. */
const placeAt = ({ types }: Path, at: EndOf['at']): Place =>
	at === 'start' ? { segment: 0, t: 0.02 } : { segment: types.length - 1, t: 0.98 };
const OTHER = { start: 'end', end: 'start' } as const;

/** The arms that stay, with the corner between them: where the lines meet; else where both prolonged do, or one prolonged meets the other. */
function broughtTogether(
	[a, b]: readonly [Path, Path],
	[atA, atB]: readonly [EndOf['at'], EndOf['at']]
): ReturnType<typeof cornerOf> {
	const cornerAt = (p: Path, q: Path, isFlipped = false) =>
		cornerOf(p, placeAt(p, isFlipped ? OTHER[atA] : atA), q, placeAt(q, isFlipped ? OTHER[atB] : atB));
	if (meetingPlaces(a, [b]).length > 0) return cornerAt(a, b);
	// Of lines that do not meet, the ends that do not stay are those that are prolonged.
	const both = cornerAt(a, b, true);
	if (both.ok) return both;
	const box = unionBox([pathBox(a), pathBox(b)]);
	const far = 2 * Math.hypot(box.x1 - box.x0, box.y1 - box.y0);
	const [longA, longB] = [lengthen(a, OTHER[atA], far, 'straight'), lengthen(b, OTHER[atB], far, 'straight')];
	if (longA.ok && meetingPlaces(longA.value, [b]).length > 0) return cornerAt(longA.value, b);
	if (longB.ok && meetingPlaces(a, [longB.value]).length > 0) return cornerAt(a, longB.value);
	return both;
}

/**
 * Two lines brought to a corner, of each the arm with the end that is said; where they do not meet, they are prolonged by their
 * other ends.
 * @returns the line, or why there is none: `parallel`; `too-large` names the largest that fits.
 */
export function cornerBetween(
	[a, b]: readonly [Path, Path],
	stay: readonly [EndOf['at'], EndOf['at']],
	{ amount, cutOff }: CornerHow
): Result<Path> {
	const corner = broughtTogether([a, b], stay);
	if (!corner.ok) return corner;
	const { path, corner: at } = corner.value;
	if (amount === 0) return done(path);
	return cutOff ? chamfer(path, at, amount) : fillet(path, at, amount);
}

cornerLate.provide({
	*resolve(inputs, { arms, ...how }) {
		yield 0;
		const [a, b] = arms.map((end) => inputs[end.line].path);
		const [atA, atB] = arms.map((end) => endNow(inputs, end));
		const made = cornerBetween([a, b], [atA, atB], how);
		return made.ok ? done([{ path: made.value, part: '' }]) : made;
	}
});
