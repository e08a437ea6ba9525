/** The edge in a picture nearest to a place, for snapping to it. */
import type { Point } from '../geometry/point';
import { toneBetween, type GreyPicture } from './picture';

/** Tones a pixel that an edge must change at least. */
const LEAST_SLOPE = 12;

/**
 * The place where the tone changes most steeply, to a fraction of a pixel: from the steepest pixel in reach (those that
 * are nearer count more) along its gradient to the top of a parabola through three slopes.
 *
 * @param x px; pixel (i, j) covers [i, i+1] x [j, j+1].
 * @returns undefined where nothing in reach changes enough.
 */
export function edgeNear(picture: GreyPicture, x: number, y: number, reachPx: number): Point | undefined {
	const slope = (px: number, py: number) => ({
		x: (toneBetween(picture, px + 0.75, py) - toneBetween(picture, px - 0.75, py)) / 1.5,
		y: (toneBetween(picture, px, py + 0.75) - toneBetween(picture, px, py - 0.75)) / 1.5
	});
	let best: { x: number; y: number; weight: number; gx: number; gy: number } | undefined;
	const step = Math.max(0.5, reachPx / 24);
	for (let v = -reachPx; v <= reachPx; v += step) {
		for (let u = -reachPx; u <= reachPx; u += step) {
			const off = Math.hypot(u, v);
			if (off > reachPx) continue;
			const px = x + u;
			const py = y + v;
			if (px < 1 || py < 1 || px > picture.widthPx - 1 || py > picture.heightPx - 1) continue;
			const g = slope(px, py);
			const size = Math.hypot(g.x, g.y);
			if (size < LEAST_SLOPE) continue;
			const weight = size * (1 - (0.6 * off) / reachPx);
			if (!best || weight > best.weight) best = { x: px, y: py, weight, gx: g.x / size, gy: g.y / size };
		}
	}
	if (!best) return undefined;
	let { x: bx, y: by } = best;
	const { gx, gy } = best;
	const along = (d: number) => {
		const g = slope(bx + d * gx, by + d * gy);
		return Math.abs(g.x * gx + g.y * gy);
	};
	// Up the slope to its steepest, in ever smaller steps.
	for (let d = 1; d > 0.02; d /= 2) {
		const here = along(0);
		if (along(d) > here) {
			bx += d * gx;
			by += d * gy;
		} else if (along(-d) > here) {
			bx -= d * gx;
			by -= d * gy;
		}
	}
	// Half way between the tones on both sides: steepest and half way agree but for the noise.
	const [a, b, c] = [along(-0.5), along(0), along(0.5)];
	const bend = a - 2 * b + c;
	const shift = bend < 0 ? Math.max(-0.5, Math.min(0.5, (0.25 * (a - c)) / bend)) : 0;
	return { x: bx + shift * gx, y: by + shift * gy };
}
