/** A half keeps to its axis whatever is done with its anchors. */
import { CUBIC } from '../geometry/path';
import { footOn, sideOf } from './half';
import { ANCHOR_STRIDE, MARK_STRIDE, type Outline } from './outline';

/**
 * The half with its ends on the axis; across it the line is smooth where the end is no corner: its handle stands upright on
 * the axis. A closed line is no half any more.
 */
export function keptToAxis(outline: Outline): Outline {
	const { half, ...rest } = outline;
	if (!half) return outline;
	const n = outline.anchors.length;
	if (outline.closed || n < 2) return rest;
	const points = Float64Array.from(outline.points);
	for (const i of [0, n - 1]) {
		const at = ANCHOR_STRIDE * i;
		const foot = footOn(half, points[at], points[at + 1]);
		const [dx, dy] = [foot.x - points[at], foot.y - points[at + 1]];
		for (let k = 0; k < 6; k += 2) {
			points[at + k] += dx;
			points[at + k + 1] += dy;
		}
		[points[at], points[at + 1]] = [foot.x, foot.y];
		const segment = i === 0 ? 0 : n - 2;
		if (outline.marks[MARK_STRIDE * i] === 0 || outline.marks[MARK_STRIDE * segment + 1] !== CUBIC) continue;
		const h = at + (i === 0 ? 4 : 2);
		const long = Math.hypot(points[h] - foot.x, points[h + 1] - foot.y);
		const beside = ANCHOR_STRIDE * (i === 0 ? 1 : n - 2);
		const side =
			sideOf(half, points[h], points[h + 1]) || sideOf(half, points[beside], points[beside + 1]) || 1;
		const rad = (half.angle * Math.PI) / 180;
		points[h] = foot.x - Math.sign(side) * long * Math.sin(rad);
		points[h + 1] = foot.y + Math.sign(side) * long * Math.cos(rad);
	}
	return points.every((v, i) => Math.abs(v - outline.points[i]) <= 1e-12) ? outline : { ...outline, points };
}
