/** Few cubics through dense clean points. For rough ones see `simplify.ts`. */
import { CoreError } from '../errors';
import { PathBuilder, type Path } from '../geometry/path';
import { refit } from './refit';

/**
 * The line through dense points as few cubics, tangent-continuous but for corners: points that turn by more than
 * `cornerAngle` degrees. The points lie within the tolerance of it, and it within the tolerance of their polygon.
 *
 * @param points x,y pairs, mm; places that follow on themselves count once.
 * @throws CoreError `bad-tolerance`, `too-few`
 */
export function fitPoints(
	points: ArrayLike<number>,
	closed: boolean,
	tolerance: number,
	cornerAngle = 20
): Path {
	if (!(tolerance > 0))
		throw new CoreError('bad-tolerance', `The tolerance must be above 0 mm, not ${tolerance}.`);
	const xy: number[] = [];
	for (let i = 0; i + 1 < points.length; i += 2) {
		const n = xy.length;
		if (n === 0 || xy[n - 2] !== points[i] || xy[n - 1] !== points[i + 1]) xy.push(points[i], points[i + 1]);
	}
	if (closed && xy.length > 2 && xy[0] === xy[xy.length - 2] && xy[1] === xy[xy.length - 1]) xy.length -= 2;
	const n = xy.length / 2;
	if (n < (closed ? 3 : 2)) throw new CoreError('too-few', 'A line needs at least two different points.');
	const sharp = Math.cos((cornerAngle * Math.PI) / 180);
	// Directions by the parabola through each point and its neighbours; at corners one for either side.
	const into = new Float64Array(2 * n);
	const out = new Float64Array(2 * n);
	for (let i = 0; i < n; i++) {
		const a = closed ? (i + n - 1) % n : Math.max(0, i - 1);
		const b = closed ? (i + 1) % n : Math.min(n - 1, i + 1);
		let ax = xy[2 * i] - xy[2 * a];
		let ay = xy[2 * i + 1] - xy[2 * a + 1];
		let bx = xy[2 * b] - xy[2 * i];
		let by = xy[2 * b + 1] - xy[2 * i + 1];
		if (a === i) [ax, ay] = [bx, by];
		if (b === i) [bx, by] = [ax, ay];
		const la = Math.hypot(ax, ay);
		const lb = Math.hypot(bx, by);
		if (ax * bx + ay * by < sharp * la * lb) {
			into.set([ax / la, ay / la], 2 * i);
			out.set([bx / lb, by / lb], 2 * i);
			continue;
		}
		const x = (ax / la) * lb + (bx / lb) * la;
		const y = (ay / la) * lb + (by / lb) * la;
		const size = Math.hypot(x, y) || 1;
		into.set([x / size, y / size], 2 * i);
		out.set([x / size, y / size], 2 * i);
	}
	const builder = new PathBuilder(xy[0], xy[1]);
	for (let i = 0; i < (closed ? n : n - 1); i++) {
		const j = (i + 1) % n;
		const third = Math.hypot(xy[2 * j] - xy[2 * i], xy[2 * j + 1] - xy[2 * i + 1]) / 3;
		builder.cubic(
			xy[2 * i] + out[2 * i] * third,
			xy[2 * i + 1] + out[2 * i + 1] * third,
			xy[2 * j] - into[2 * j] * third,
			xy[2 * j + 1] - into[2 * j + 1] * third,
			xy[2 * j],
			xy[2 * j + 1]
		);
	}
	const dense = closed ? builder.close(0) : builder.open();
	// The cubics bow out of the polygon by less than the points' own spacing allows for.
	return refit(dense, { tolerance: 0.97 * tolerance, keepLength: Infinity, smoothTurn: 1, perSegment: 1 });
}
