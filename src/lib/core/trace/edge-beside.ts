/** How far the edge in a picture lies beside a line, all along the line: looked for square to it. */
import type { Point } from '../geometry/point';
import { beside, SAMPLE, type Deviation } from '../geometry/deviation';
import type { Path } from '../geometry/path';
import { toneBetween, type GreyPicture } from './picture';

export interface EdgeBesideOptions {
	/** mm between the places looked at, at most. */
	readonly step: number;
	/** mm to either side in which an edge is looked for. */
	readonly reach: number;
	/** px a mm. */
	readonly pxPerMm: number;
}

/** px between the places on the way across, and on either side of an edge what is taken for its two tones. */
const STEP_PX = 0.25;
const NEAR_PX = 0.75;
const FAR_PX = 2.25;
/** Tones by which both sides of an edge must differ. */
const LEAST_STEP = 30;
/** So much less does an edge count at the end of the reach than right on the line. */
const FARTHER = 0.6;

/**
 * The edge beside each place of a line: where the tone, on the way across, is half way between those of both sides.
 *
 * @param path mm
 * @param toPicture from mm on the paper to px of the picture.
 * @returns distances in mm, positive to the left of travel; not a number where no edge is in reach.
 */
export function edgeBeside(
	picture: GreyPicture,
	path: Path,
	toPicture: (x: number, y: number) => Point,
	{ step, reach, pxPerMm }: EdgeBesideOptions
): Deviation {
	const half = Math.max(4, Math.ceil((reach * pxPerMm) / STEP_PX));
	const margin = Math.ceil(FAR_PX / STEP_PX);
	const tones = new Float64Array(2 * (half + margin) + 1);
	const across = STEP_PX / pxPerMm;
	return beside(path, step, (x, y, nx, ny) => {
		for (let k = 0; k < tones.length; k++) {
			const off = across * (k - half - margin);
			const q = toPicture(x + nx * off, y + ny * off);
			const isOutside = q.x < 0 || q.y < 0 || q.x > picture.widthPx || q.y > picture.heightPx;
			tones[k] = isOutside ? NaN : toneBetween(picture, q.x, q.y);
		}
		return across * (edgeIn(tones, half, margin) - half - margin);
	});
}

/** Where in a row of tones the clearest step near the middle is half way up, as an index with a fraction; NaN for none. */
function edgeIn(tones: Float64Array, half: number, margin: number): number {
	const near = Math.round(NEAR_PX / STEP_PX);
	const sides = (k: number): [number, number] => {
		let before = 0;
		let after = 0;
		for (let m = near; m <= margin; m++) {
			before += tones[k - m];
			after += tones[k + m];
		}
		const count = margin - near + 1;
		return [before / count, after / count];
	};
	let best = LEAST_STEP * (1 - FARTHER);
	let at = -1;
	for (let k = margin; k < tones.length - margin; k++) {
		const [before, after] = sides(k);
		const weight =
			Math.abs(after - before) < LEAST_STEP
				? 0
				: Math.abs(after - before) * (1 - (FARTHER * Math.abs(k - half - margin)) / half);
		if (weight > best) {
			best = weight;
			at = k;
		}
	}
	if (at < 0) return NaN;
	const [before, after] = sides(at);
	const middle = (before + after) / 2;
	// The crossing nearest to the clearest place.
	for (let reach = 0; reach <= near + 2; reach++) {
		for (const k of [at - reach - 1, at + reach]) {
			if (k < 0 || k + 1 >= tones.length) continue;
			const a = tones[k] - middle;
			const b = tones[k + 1] - middle;
			if (a === b || a * b > 0) continue;
			return k + a / (a - b);
		}
	}
	return at;
}

/** How much of a line has an edge beside it, 0 to 1. */
export function shareWithEdge({ samples }: Deviation): number {
	let found = 0;
	for (let i = 4; i < samples.length; i += SAMPLE) if (Number.isFinite(samples[i])) found++;
	return samples.length ? (found * SAMPLE) / samples.length : 0;
}
