/** Circular arcs given by their ends and a bulge: the tangent of a quarter of the included angle. */
import type { Point } from './point';

export interface ArcShape {
	cx: number;
	cy: number;
	radius: number;
	/** Radians, direction from the centre to the start. */
	startRad: number;
	/** Radians, positive anticlockwise. */
	sweepRad: number;
}

/**
 * Centre, radius and angles of an arc. A bulge of 0 has no centre: the radius is then Infinity.
 * Source: published DXF reference, LWPOLYLINE bulge (positive anticlockwise).
 */
export function arcShape(x0: number, y0: number, x1: number, y1: number, bulge: number): ArcShape {
	const dx = x1 - x0;
	const dy = y1 - y0;
	// The centre lies on the chord's bisector, (1 - b^2) / (4 b) chords to its left.
	const k = (1 - bulge * bulge) / (4 * bulge);
	const cx = (x0 + x1) / 2 - dy * k;
	const cy = (y0 + y1) / 2 + dx * k;
	const radius = (Math.hypot(dx, dy) * (1 + bulge * bulge)) / (4 * Math.abs(bulge));
	return { cx, cy, radius, startRad: Math.atan2(y0 - cy, x0 - cx), sweepRad: 4 * Math.atan(bulge) };
}

/** The bulge of an arc of the given included angle, radians, positive anticlockwise. */
export function bulgeOfSweep(sweepRad: number): number {
	return Math.tan(sweepRad / 4);
}

/**
 * How many cubics an arc needs: at most 90 degrees each, and so many that the radial error, which is 2.7253e-4 radii
 * for a quarter and falls with the sixth power of the angle, stays within the tolerance.
 * Source: Goldapp 1991, "Approximation of circular arcs by cubic polynomials", CAGD 8.
 */
export function cubicsForArc(radius: number, sweepRad: number, tolerance = Infinity): number {
	const quarters = Math.abs(sweepRad) / (Math.PI / 2);
	const finer = Math.pow((2.7253e-4 * radius) / tolerance, 1 / 6);
	return Math.max(1, Math.ceil(quarters * Math.max(1, finer) - 1e-9));
}

/**
 * Cubics for an arc, handle length 4/3 tan(angle / 4) radii.
 *
 * @param tolerance largest radial error, mm; left out: one cubic per at most 90 degrees.
 * @returns 8 numbers a cubic.
 */
export function arcToCubics(
	x0: number,
	y0: number,
	x1: number,
	y1: number,
	bulge: number,
	tolerance = Infinity
): Float64Array {
	const { cx, cy, radius, startRad, sweepRad } = arcShape(x0, y0, x1, y1, bulge);
	const n = cubicsForArc(radius, sweepRad, tolerance);
	const out = new Float64Array(8 * n);
	const step = sweepRad / n;
	const k = (4 / 3) * Math.tan(step / 4) * radius;
	for (let i = 0; i < n; i++) {
		const a = startRad + i * step;
		const b = a + step;
		const sx = i === 0 ? x0 : cx + radius * Math.cos(a);
		const sy = i === 0 ? y0 : cy + radius * Math.sin(a);
		const ex = i === n - 1 ? x1 : cx + radius * Math.cos(b);
		const ey = i === n - 1 ? y1 : cy + radius * Math.sin(b);
		out.set(
			[
				sx,
				sy,
				sx - k * Math.sin(a),
				sy + k * Math.cos(a),
				ex + k * Math.sin(b),
				ey - k * Math.cos(b),
				ex,
				ey
			],
			8 * i
		);
	}
	return out;
}

/** The circle through three places; undefined where they lie in a line. */
export function circleOf(p: Point, q: Point, r: Point): { x: number; y: number; radius: number } | undefined {
	const ax = q.x - p.x;
	const ay = q.y - p.y;
	const bx = r.x - p.x;
	const by = r.y - p.y;
	const det = 2 * (ax * by - ay * bx);
	const size = Math.max(Math.hypot(ax, ay), Math.hypot(bx, by), Math.hypot(bx - ax, by - ay));
	if (!(Math.abs(det) > 1e-9 * size * size)) return undefined;
	const a2 = ax * ax + ay * ay;
	const b2 = bx * bx + by * by;
	const x = (by * a2 - ay * b2) / det;
	const y = (ax * b2 - bx * a2) / det;
	return { x: p.x + x, y: p.y + y, radius: Math.hypot(x, y) };
}

/** The bulge of the arc between two places by way of a third. 0 where they lie in a line. */
export function bulgeThrough(from: Point, by: Point, to: Point): number {
	const ux = from.x - by.x;
	const uy = from.y - by.y;
	const vx = to.x - by.x;
	const vy = to.y - by.y;
	// The angle at the third place is half of what is left of the circle (inscribed angle).
	const cross = ux * vy - uy * vx;
	const inscribed = Math.atan2(Math.abs(cross), ux * vx + uy * vy);
	const size = Math.tan((Math.PI - inscribed) / 2);
	// An arc that turns left has its way-point to the right of the chord.
	return cross < 0 ? size : cross > 0 ? -size : 0;
}
