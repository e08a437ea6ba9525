/** Which way a line goes near a place. */
import { STRIDE, type Path } from '../../geometry/path';
import { nearestOnPath } from '../../geometry/pick';
import type { Point } from '../../geometry/point';
import { directionAt } from '../../geometry/segment';

/** The direction of a line where it is nearest to a place, degrees; undefined where there is no line. */
export function lineDirection(path: Path | undefined, { x, y }: Point): number | undefined {
	const near = path && nearestOnPath(path, x, y, Infinity);
	if (!near) return undefined;
	const d = directionAt(path.types[near.segment], path.segs, STRIDE * near.segment, near.t);
	return (Math.atan2(d.y, d.x) * 180) / Math.PI;
}
