/** Curves given as functions, to cubics. */
import { CoreError } from '../errors';
import { CUBIC, PathBuilder, STRIDE, type Path } from '../geometry/path';
import type { Point } from '../geometry/point';
import { pointAt } from '../geometry/segment';
import { refit } from './refit';

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
