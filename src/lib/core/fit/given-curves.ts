/** Curves through points and pulled by a polygon in their plain forms; as paths and back. */
import type { Point } from '../geometry/point';
import { STRIDE, type Path } from '../geometry/path';
import { arcsToCubics } from '../geometry/segment';
import { pulledPath } from './pulled';
import type { Spline } from './spline';
import { throughPlaces } from './through';

export interface ThroughOptions {
	readonly closed?: boolean;
	/** Directions at the ends of an open curve; free where left out. Only the direction counts. */
	readonly startDirection?: Point;
	readonly endDirection?: Point;
}

/** The smooth curve through points over their distances, see `throughPlaces`. @throws CoreError `too-few` */
export function throughPoints(given: readonly Point[], options: ThroughOptions = {}): Path {
	const { closed = false, startDirection, endDirection } = options;
	const last = given.length - 1;
	const degrees = ({ x, y }: Point) => (Math.atan2(y, x) * 180) / Math.PI;
	return throughPlaces(
		given.map(({ x, y }, i) => {
			const direction = i === 0 ? startDirection : i === last ? endDirection : undefined;
			return { x, y, ...(direction && !closed ? { direction: degrees(direction) } : {}) };
		}),
		{ closed }
	);
}

/**
 * The B-spline pulled by a control polygon. Open, it touches the first and the last control point; closed, it touches
 * none and is smooth all round.
 *
 * @param degree 1 to 7; needs at least degree + 1 points (closed: degree points).
 * @throws CoreError `bad-degree`, `too-few`
 */
export const pulledBy = (
	points: readonly Point[],
	degree: number,
	closed: boolean,
	tolerance: number
): Path => pulledPath({ vertices: points, degree, closed }, tolerance);

/** A path of straights, cubics and arcs as one B-spline of degree 3: exact but for arcs, which keep the tolerance. */
export function pathToSpline(path: Path, tolerance: number): Spline {
	const plain = arcsToCubics(path, tolerance);
	const n = plain.types.length;
	const points: Point[] = [{ x: plain.segs[0], y: plain.segs[1] }];
	const knots = [0, 0, 0, 0];
	for (let i = 0; i < n; i++) {
		for (let k = 2; k < STRIDE; k += 2)
			points.push({ x: plain.segs[STRIDE * i + k], y: plain.segs[STRIDE * i + k + 1] });
		knots.push(i + 1, i + 1, i + 1);
	}
	knots.push(n);
	return { degree: 3, knots, points };
}
