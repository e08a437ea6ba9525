/** Conics to segments. */
import { CoreError } from '../errors';
import type { Path } from '../geometry/path';
import { weightOf, type Conic } from './conic';
import { splineToPath } from './spline';

/** @throws CoreError `bad-fullness` */
function refuse(fullness: number): void {
	if (!(fullness > 0 && fullness < 1))
		throw new CoreError('bad-fullness', 'The fullness must lie between 0 and 1: 0.5 is a parabola.');
}

/** An arc of a circle is one, exactly; others are cubics within the tolerance, mm. @throws CoreError `bad-fullness` */
export function conicLine({ start, shoulder, end, fullness }: Conic, tolerance: number): Path {
	refuse(fullness);
	const path = splineToPath(
		{
			degree: 2,
			knots: [0, 0, 0, 1, 1, 1],
			points: [start, shoulder, end],
			weights: [1, weightOf(fullness), 1]
		},
		tolerance
	);
	if (!path) throw new CoreError('bad-fullness', 'These places make no line.');
	return path;
}
