/** A bridge between two ends: at each it meets as closely as is wanted. */
import { CoreError } from '../errors';
import { PathBuilder, type Path } from '../geometry/path';
import type { Point } from '../geometry/point';
import { turnBetween } from '../geometry/segment';
import type { BridgeEnd, MeetWay } from './meet-ways';
import { splineToPath } from './spline';

/** How many control points of the bridge an end settles. */
const SETTLED: Record<MeetWay, number> = { place: 1, direction: 2, curvature: 3 };

/** Of the radius: over so much of it the first span may run, that a tight line does not throw the bridge aside. */
const MOST_BEND = 0.6;

/** 1/mm: less is straight, however long the bridge. */
const STRAIGHT_BEND = 1e-12;

/** Where a curve must turn back it goes on so much of the chord at most. */
const MOST_VELOCITY = 3;

/**
 * How far a curve goes on at an end, in thirds of the chord, by the angles between chord and tangents.
 * Source: Hobby, Smooth, easy to compute interpolating splines, 1986 (velocity function), from memory.
 */
function velocity(own: number, other: number): number {
	const [st, ct, sf, cf] = [Math.sin(own), Math.cos(own), Math.sin(other), Math.cos(other)];
	const alpha = Math.SQRT2 * (st - sf / 16) * (sf - st / 16) * (ct - cf);
	const least = 1 + ((Math.sqrt(5) - 1) / 2) * ct + ((3 - Math.sqrt(5)) / 2) * cf;
	return Math.min(MOST_VELOCITY, (2 + alpha) / Math.max(least, 1e-6));
}

/** A direction, and the curvature (1/mm, positive where it bends left) with which the bridge leaves an end. */
export interface Leaving extends Point {
	readonly dx: number;
	readonly dy: number;
	readonly bend: number;
}

/** The control points that one end settles, from that end on. */
function settled(
	from: Leaving,
	to: Point,
	angles: readonly [number, number],
	end: BridgeEnd,
	spans: number
): Point[] {
	const points: Point[] = [{ x: from.x, y: from.y }];
	if (end.way === 'place') return points;
	const chord = Math.hypot(to.x - from.x, to.y - from.y);
	const natural = (chord * velocity(...angles)) / 3 / spans;
	const bend = end.way === 'curvature' ? Math.abs(from.bend) : 0;
	const capped = bend > STRAIGHT_BEND ? Math.min(natural, MOST_BEND / bend) : natural;
	const a = capped * end.pull;
	points.push({ x: from.x + a * from.dx, y: from.y + a * from.dy });
	if (end.way === 'direction') return points;
	// Second derivative across the tangent by the curvature, none along it; knots one apart, or a single Bézier span.
	const along = spans > 1 ? 2 * a : a;
	const aside = (spans > 1 ? 3 : 1.5) * from.bend * a * a;
	const [{ x, y }] = points.slice(-1);
	points.push({ x: x + along * from.dx - aside * from.dy, y: y + along * from.dy + aside * from.dx });
	return points;
}

/**
 * The line from one end to another: a straight where it meets both in place alone, else a cubic
 * B-spline with as many control points as its ends settle (up to three spans), so that place, direction and curvature are met
 * exactly and within itself its curvature has no step.
 * Source: Piegl and Tiller, The NURBS Book, 3.3 and 5.1 (derivatives at the ends of a clamped spline).
 *
 * @throws CoreError `same-place` where the ends touch
 */
export function bridgeBetween(p: Leaving, q: Leaving, ends: readonly [BridgeEnd, BridgeEnd]): Path {
	const [dx, dy] = [q.x - p.x, q.y - p.y];
	if (!(Math.hypot(dx, dy) > 1e-6))
		throw new CoreError('same-place', 'These ends touch: there is no gap to bridge. Join them instead.');
	const count = SETTLED[ends[0].way] + SETTLED[ends[1].way];
	if (count === 2) return new PathBuilder(p.x, p.y).line(q.x, q.y).open();
	const turn = (x: number, y: number, at: Leaving) => (turnBetween(x, y, at.dx, at.dy) * Math.PI) / 180;
	const [own, other] = [turn(dx, dy, p), -turn(-dx, -dy, q)];
	const angles = (k: 0 | 1): [number, number] => {
		// An end that says no direction lies as the other one would have it.
		const at = [ends[0].way === 'place' ? other : own, ends[1].way === 'place' ? own : other];
		return k === 0 ? [at[0], at[1]] : [at[1], at[0]];
	};
	const spans = Math.max(1, count - 3);
	const start = settled(p, q, angles(0), ends[0], spans);
	const finish = settled(q, p, angles(1), ends[1], spans).reverse();
	let points = [...start, ...finish];
	if (count === 3) {
		// Straight at the end that settles nothing but its place.
		const [a, b, c] = points;
		const between = (from: Point): Point => ({ x: (from.x + b.x) / 2, y: (from.y + b.y) / 2 });
		points = ends[0].way === 'place' ? [a, between(a), b, c] : [a, b, between(c), c];
	}
	const inner = Array.from({ length: spans - 1 }, (_, k) => k + 1);
	const knots = [0, 0, 0, 0, ...inner, spans, spans, spans, spans];
	return splineToPath({ degree: 3, knots, points }, 1e-6)!;
}
