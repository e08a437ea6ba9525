/** How much ink lies across a way, which neither pixels nor blur change, and where its middle is. */
import type { Point } from '../geometry/point';
import { toneBetween, type GreyPicture } from './picture';

/** The tones of full ink and full paper. */
export interface Tones {
	readonly ink: number;
	readonly paper: number;
}

/** What lies across a way at a place, px. */
export interface Across {
	/** px of full ink: the width of what lies there. */
	readonly width: number;
	/** How far from the place its middle is, positive to where the way's left is with y up. */
	readonly off: number;
	/** The most cover on the way across. */
	readonly most: number;
	/** px^2: how far the ink is spread about its middle (its second moment). */
	readonly spread: number;
}

/** px between places across. */
const STEP = 0.25;
/** px beside what counts that tell the ground. */
const GROUND = 6;
/** Cover by which something else rises beside. */
const RISE = 0.1;
/** How much cover is none any more. */
const MOST_GROUND = 0.15;

/**
 * Looks across ways in a picture.
 *
 * @param blur px: the standard deviation of the picture's blur beyond the pixel.
 * @param widest px: nothing wider is looked at.
 * @returns what lies at a place across the way that leads on in a direction; undefined where it does not lie by itself there.
 */
export function inkAcross(
	picture: GreyPicture,
	tones: Tones,
	blur: number,
	widest: number
): (at: Point, ahead: Point, guess: number) => Across | undefined {
	/** px to either side in which the blur spreads what lies in the middle. */
	const spread = 1.2 + 2.6 * blur;
	const half = Math.ceil((widest / 2 + spread + GROUND + 2 * blur) / STEP);
	const span = tones.ink - tones.paper;
	const cover = new Float64Array(2 * half + 1);
	return (at, ahead, guess) => {
		for (let k = -half; k <= half; k++) {
			const o = k * STEP;
			const x = at.x - ahead.y * o;
			const y = at.y + ahead.x * o;
			if (x < 0 || y < 0 || x > picture.widthPx || y > picture.heightPx) return undefined;
			cover[half + k] = (toneBetween(picture, x, y) - tones.paper) / span;
		}
		return told(cover, half, (guess / 2 + spread) / STEP);
	};
}

/**
 * From the clearest place in the middle so far that all of it is in, blur and all. The ground is not quite the plain one where
 * light and noise have left something of themselves: it is taken beside that.
 */
function told(cover: Float64Array, half: number, core: number): Across | undefined {
	let top = half;
	for (let k = half - 4; k <= half + 4; k++) if (cover[k] > cover[top]) top = k;
	let ground = 0;
	let places = 0;
	const ends = [-1, 1].map((dir) => {
		let least = cover[top];
		let k = top;
		const isOn = () => k + dir >= 0 && k + dir < cover.length && cover[k + dir] <= least + RISE;
		while (isOn() && Math.abs(k - top) < core) {
			k += dir;
			least = Math.min(least, cover[k]);
		}
		const end = k;
		if (Math.abs(k - top) < core) return end;
		for (; isOn(); k += dir, places++) ground += cover[k];
		return end;
	});
	if (Math.max(cover[ends[0]], cover[ends[1]]) > MOST_GROUND) return undefined;
	const plain = places ? ground / places : 0;
	let [sum, moment, second] = [0, 0, 0];
	for (let k = ends[0]; k <= ends[1]; k++) {
		sum += cover[k] - plain;
		moment += (cover[k] - plain) * (k - half);
		second += (cover[k] - plain) * (k - half) ** 2;
	}
	const middle = sum > 0.2 ? moment / sum : 0;
	return {
		width: sum * STEP,
		off: middle * STEP,
		most: cover[top] - plain,
		spread: sum > 0.2 ? (second / sum - middle * middle) * STEP * STEP : 0
	};
}
