/** How far a jagged line should be allowed to move, judged by the line itself. */
import { STRIDE, type Path } from '../geometry/path';
import { segmentLength } from '../geometry/segment';

/** mm: segments that are shorter may be teeth. */
export const TOOTH_LENGTH = 1.5;
/** A jagged line may move so many times the length of its teeth, within these limits, mm. */
const FAIR_TEETH = 1.3;
const LEAST = 0.05;
const MOST = 0.6;
/** Of so few teeth nothing can be said. */
const FEW = 12;

/**
 * mm: the teeth of a line are as long as the middle one of its short segments; that much, and a little more, it must be let
 * move to lose them. Undefined where it has hardly any.
 */
export function teethDrift(path: Path): number | undefined {
	const short = Array.from(path.types, (type, i) => segmentLength(type, path.segs, STRIDE * i))
		.filter((length) => length < TOOTH_LENGTH)
		.sort((a, b) => a - b);
	if (short.length < FEW) return undefined;
	return Math.min(MOST, Math.max(LEAST, FAIR_TEETH * short[short.length >> 1]));
}

/** The same; the most that it is ever let move where nothing can be said. */
export const likelyDrift = (path: Path): number => teethDrift(path) ?? MOST;
