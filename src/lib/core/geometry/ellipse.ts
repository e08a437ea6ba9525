/** Elliptical arcs into the segments we have. */
import { cubicsForArc } from './arc';
import type { PathBuilder } from './path';

/**
 * Adds the elliptical arc from the builder's end to (x, y). Circular ones become true arcs, others cubics within the
 * tolerance. Radii too small are scaled up; a radius of 0 gives a straight.
 *
 * @param rotation degrees from the x axis to the ellipse's first axis.
 * Source: W3C SVG 2, implementation notes, elliptical arc endpoint to centre form (B.2.4, B.2.5).
 */
export function addEllipticalArc(
	builder: PathBuilder,
	rx: number,
	ry: number,
	rotation: number,
	large: boolean,
	sweep: boolean,
	x: number,
	y: number,
	tolerance: number
): void {
	const x0 = builder.endX;
	const y0 = builder.endY;
	rx = Math.abs(rx);
	ry = Math.abs(ry);
	if (x0 === x && y0 === y) return;
	if (!(rx > 0 && ry > 0)) {
		builder.line(x, y);
		return;
	}
	const phi = (rotation * Math.PI) / 180;
	const cos = Math.cos(phi);
	const sin = Math.sin(phi);
	const hx = (x0 - x) / 2;
	const hy = (y0 - y) / 2;
	const px = cos * hx + sin * hy;
	const py = -sin * hx + cos * hy;
	const grow = (px * px) / (rx * rx) + (py * py) / (ry * ry);
	if (grow > 1) {
		rx *= Math.sqrt(grow);
		ry *= Math.sqrt(grow);
	}
	const num = rx * rx * ry * ry - rx * rx * py * py - ry * ry * px * px;
	const den = rx * rx * py * py + ry * ry * px * px;
	const k = (large === sweep ? -1 : 1) * Math.sqrt(Math.max(0, num / den));
	const qx = (k * rx * py) / ry;
	const qy = (-k * ry * px) / rx;
	const cx = cos * qx - sin * qy + (x0 + x) / 2;
	const cy = sin * qx + cos * qy + (y0 + y) / 2;
	const start = Math.atan2((py - qy) / ry, (px - qx) / rx);
	let delta = Math.atan2((-py - qy) / ry, (-px - qx) / rx) - start;
	if (sweep && delta < 0) delta += 2 * Math.PI;
	if (!sweep && delta > 0) delta -= 2 * Math.PI;
	const place = (a: number) => ({
		x: cx + rx * Math.cos(a) * cos - ry * Math.sin(a) * sin,
		y: cy + rx * Math.cos(a) * sin + ry * Math.sin(a) * cos
	});
	if (Math.abs(rx - ry) <= 1e-9 * rx) {
		// More than half a circle goes in two, so that no bulge grows beyond bounds.
		const parts = Math.abs(delta) > Math.PI * 1.001 ? 2 : 1;
		for (let i = 1; i <= parts; i++) {
			const end = i === parts ? { x, y } : place(start + (delta * i) / parts);
			builder.arc(Math.tan(delta / parts / 4), end.x, end.y);
		}
		return;
	}
	const n = cubicsForArc(Math.max(rx, ry), delta, tolerance);
	const step = delta / n;
	const h = (4 / 3) * Math.tan(step / 4);
	const slope = (a: number) => ({
		x: -rx * Math.sin(a) * cos - ry * Math.cos(a) * sin,
		y: -rx * Math.sin(a) * sin + ry * Math.cos(a) * cos
	});
	for (let i = 0; i < n; i++) {
		const a = start + i * step;
		const b = a + step;
		const end = i === n - 1 ? { x, y } : place(b);
		const from = { x: builder.endX, y: builder.endY };
		const u = slope(a);
		const v = slope(b);
		builder.cubic(from.x + h * u.x, from.y + h * u.y, end.x - h * v.x, end.y - h * v.y, end.x, end.y);
	}
}
