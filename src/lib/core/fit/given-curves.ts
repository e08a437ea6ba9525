/** Curves given otherwise than by anchors: conics, through points, pulled by a polygon, by a function; as paths and back. */
import type { Point } from '../geometry/point';
import { CoreError } from '../errors';
import { CUBIC, PathBuilder, STRIDE, type Path } from '../geometry/path';
import { refit } from './refit';
import { arcsToCubics, pointAt } from '../geometry/segment';
import { splineToPath, type Spline } from './spline';
import { throughPlaces } from './through';

/**
 * A conic from one end to the other, its sides along the legs to the shoulder, where they meet; the fullness is the share
 * of the way from the chord's middle to the shoulder at which it passes: 0.5 a parabola, below an ellipse, above a hyperbola.
 *
 * @param fullness above 0, below 1.
 * @returns an open path of cubics within the tolerance, mm.
 * @throws CoreError `bad-fullness`
 * Source: standard conic form, weight f / (1 - f) of the middle control point (Piegl and Tiller, The NURBS Book, 7.3).
 */
export function conicPath(
	start: Point,
	shoulder: Point,
	end: Point,
	fullness: number,
	tolerance: number
): Path {
	if (!(fullness > 0 && fullness < 1)) {
		throw new CoreError('bad-fullness', 'The fullness must lie between 0 and 1: 0.5 is a parabola.');
	}
	const w = fullness / (1 - fullness);
	// Denominator and numerators as functions of t; smooth, as the weights are positive.
	const place = (t: number) => {
		const a = (1 - t) * (1 - t);
		const b = 2 * w * t * (1 - t);
		const c = t * t;
		const d = a + b + c;
		return {
			x: (a * start.x + b * shoulder.x + c * end.x) / d,
			y: (a * start.y + b * shoulder.y + c * end.y) / d
		};
	};
	return fitFunction(place, 0, 1, tolerance);
}

/** The radius of curvature at a conic's middle, below its shoulder: chord c, height H of the shoulder over it, fullness f. */
export function shoulderRadius(chord: number, height: number, fullness: number): number {
	return (chord * chord * (1 - fullness)) / (4 * fullness * height);
}

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
export function pulledBy(points: readonly Point[], degree: number, closed: boolean, tolerance: number): Path {
	if (!(Number.isInteger(degree) && degree >= 1 && degree <= 7)) {
		throw new CoreError('bad-degree', 'The degree is a whole number from 1 to 7.');
	}
	if (points.length < (closed ? Math.max(3, degree) : degree + 1)) {
		throw new CoreError(
			'too-few',
			`A curve of degree ${degree} needs at least ${degree + 1} control points.`
		);
	}
	const n = points.length;
	const spline: Spline = closed
		? {
				degree,
				knots: Array.from({ length: n + 2 * degree + 1 }, (_, i) => i),
				points: Array.from({ length: n + degree }, (_, i) => points[i % n])
			}
		: {
				degree,
				knots: Array.from({ length: n + degree + 1 }, (_, i) =>
					Math.min(Math.max(i - degree, 0), n - degree)
				),
				points
			};
	const path = splineToPath(spline, tolerance)!;
	return closed ? closeUp(path) : path;
}

function closeUp(path: Path): Path {
	return new PathBuilder(path.segs[0], path.segs[1]).along(path).close();
}

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

/**
 * A curve given as a function, as few cubics within the tolerance, mm.
 * @throws CoreError `too-detailed` where the function does not settle into a smooth line.
 */
export function fitFunction(
	place: (t: number) => Point,
	from: number,
	to: number,
	tolerance: number,
	closed = false
): Path {
	for (let n = 32; n <= 32768; n *= 2) {
		const step = (to - from) / n;
		const hair = step * 1e-4;
		const builder = new PathBuilder(place(from).x, place(from).y);
		let off = 0;
		let p = place(from);
		let v = slopeAt(place, from, hair, closed ? 0 : 1);
		for (let i = 1; i <= n; i++) {
			const t = i === n ? to : from + i * step;
			const q = closed && i === n ? place(from) : place(t);
			const w = slopeAt(place, t, hair, closed ? 0 : i === n ? -1 : 0);
			builder.cubic(
				p.x + (v.x * step) / 3,
				p.y + (v.y * step) / 3,
				q.x - (w.x * step) / 3,
				q.y - (w.y * step) / 3,
				q.x,
				q.y
			);
			p = q;
			v = w;
		}
		const dense = closed ? builder.close() : builder.open();
		for (let i = 0; i < dense.types.length; i++) {
			const m = pointAt(CUBIC, dense.segs, STRIDE * i, 0.5);
			const t = place(from + (i + 0.5) * step);
			off = Math.max(off, Math.hypot(m.x - t.x, m.y - t.y));
		}
		if (off <= tolerance / 8) return refit(dense, { tolerance: 0.8 * tolerance, keepLength: Infinity });
	}
	throw new CoreError(
		'too-detailed',
		`This curve can't be drawn to ${tolerance} mm. Use a larger tolerance.`
	);
}

/** The derivative by differences; one-sided at an end. */
function slopeAt(place: (t: number) => Point, t: number, hair: number, side: -1 | 0 | 1): Point {
	if (side === 0) {
		const a = place(t - hair);
		const b = place(t + hair);
		return { x: (b.x - a.x) / (2 * hair), y: (b.y - a.y) / (2 * hair) };
	}
	const h = side * hair;
	const [p, q, r] = [place(t), place(t + h), place(t + 2 * h)];
	return { x: (-3 * p.x + 4 * q.x - r.x) / (2 * h), y: (-3 * p.y + 4 * q.y - r.y) / (2 * h) };
}
