/** A bridge between two ends of lines: at each end it meets as closely as is wanted, and neither line moves. */
import { bridgeBetween, type Leaving } from '../../fit/bridge';
import type { BridgeEnd } from '../../fit/meet-ways';
import type { Path } from '../../geometry/path';
import type { Outline } from '../outline';
import { armOf, find, type Arm, type MeetSide } from './meet';

/** An end as the bridge leaves it: on from where its line stops. */
const leaving = (arm: Arm): Leaving => ({
	x: arm.x,
	y: arm.y,
	dx: -arm.dx,
	dy: -arm.dy,
	// The same bend, travelled out of the line: to the other hand than into it.
	bend: -arm.bend
});

/**
 * The line from the end of the first part to that of the second, see `bridgeBetween`.
 *
 * @throws CoreError `gone`; `cannot-meet` where one side ends, `same-place` where the ends touch
 */
export function bridgePath(
	outlines: readonly Outline[],
	first: MeetSide,
	second: MeetSide,
	ends: readonly [BridgeEnd, BridgeEnd]
): Path {
	const [p, q] = [first, second].map((part) => leaving(armOf(find(outlines, part), part)));
	return bridgeBetween(p, q, ends);
}
