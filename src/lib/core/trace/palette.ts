/** The flat colours of a picture. */
import { CoreError } from '../errors';
import type { ColourPicture } from './picture';

/** 0..255 each. */
export interface Colour {
	readonly r: number;
	readonly g: number;
	readonly b: number;
}

/**
 * A colour in a space where equal distances look equally different.
 * Source: Ottosson 2020, "A perceptual color space for image processing" (OKLab); sRGB's transfer curve, IEC 61966-2-1.
 */
export function toOklab({ r, g, b }: Colour): [number, number, number] {
	const [x, y, z] = [LINEAR[r | 0], LINEAR[g | 0], LINEAR[b | 0]];
	const l = Math.cbrt(0.4122214708 * x + 0.5363325363 * y + 0.0514459929 * z);
	const m = Math.cbrt(0.2119034982 * x + 0.6806995451 * y + 0.1073969566 * z);
	const s = Math.cbrt(0.0883024619 * x + 0.2817188376 * y + 0.6299787005 * z);
	return [
		0.2104542553 * l + 0.793617785 * m - 0.0040720468 * s,
		1.9779984951 * l - 2.428592205 * m + 0.4505937099 * s,
		0.0259040371 * l + 0.7827717662 * m - 0.808675766 * s
	];
}
const LINEAR = Float64Array.from({ length: 256 }, (_, v) => {
	const c = v / 255;
	return c <= 0.04045 ? c / 12.92 : Math.pow((c + 0.055) / 1.055, 2.4);
});

export const hexOf = ({ r, g, b }: Colour): string =>
	'#' + [r, g, b].map((v) => Math.round(v).toString(16).padStart(2, '0')).join('');

/** Two colours nearer than this look like one (OKLab). */
const ALIKE = 0.045;
/** A colour that was not asked for by number must fill at least this share of the plain pixels; any, so many pixels. */
const LEAST_SHARE = 2e-4;
const LEAST_PX = 12;

/**
 * The flat colours: of plain pixels (those like all their neighbours) the commonest, each standing for what looks like it.
 *
 * @param count how many, the background counted, or found by itself.
 * @returns the commonest first.
 * @throws CoreError `bad-colours`, `nothing-found` where there are no plain places.
 */
export function flatColours(picture: ColourPicture, count: number | 'auto'): Colour[] {
	if (count !== 'auto' && !(Number.isInteger(count) && count >= 2 && count <= 64))
		throw new CoreError('bad-colours', 'The number of colours must be a whole number from 2 to 64.');
	const { widthPx, heightPx, rgba } = picture;
	// Bins of 8 tones a side, with the sums of what fell in.
	const weight = new Float64Array(32768);
	const sums = new Float64Array(3 * 32768);
	const step = Math.max(1, Math.floor(Math.sqrt((widthPx * heightPx) / 2e6)));
	for (let y = 1; y + 1 < heightPx; y += step) {
		for (let x = 1; x + 1 < widthPx; x += step) {
			const i = 4 * (y * widthPx + x);
			if (!isPlain(rgba, i, 4, 4 * widthPx)) continue;
			const bin = ((rgba[i] >> 3) << 10) | ((rgba[i + 1] >> 3) << 5) | (rgba[i + 2] >> 3);
			weight[bin]++;
			for (let c = 0; c < 3; c++) sums[3 * bin + c] += rgba[i + c];
		}
	}
	const bins: { w: number; rgb: Colour; lab: [number, number, number] }[] = [];
	let total = 0;
	for (let k = 0; k < 32768; k++) {
		const w = weight[k];
		if (w === 0) continue;
		const rgb = { r: sums[3 * k] / w, g: sums[3 * k + 1] / w, b: sums[3 * k + 2] / w };
		bins.push({ w, rgb, lab: toOklab(rgb) });
		total += w;
	}
	bins.sort((a, b) => b.w - a.w);
	const apart = (a: readonly number[], b: readonly number[]) =>
		Math.hypot(a[0] - b[0], a[1] - b[1], a[2] - b[2]);
	// The heaviest first; what looks like one that is there already belongs to it.
	let centers: [number, number, number][] = [];
	const limit = count === 'auto' ? 24 : count;
	const left = [...bins];
	while (centers.length < limit && left.length) {
		const gathered = left.map((p) =>
			left.reduce((s, q) => s + (apart(p.lab, q.lab) < ALIKE / 2 ? q.w : 0), 0)
		);
		let best = 0;
		for (let k = 1; k < left.length; k++) if (gathered[k] > gathered[best]) best = k;
		if (
			gathered[best] <
			(count === 'auto' ? Math.max(LEAST_PX, LEAST_SHARE * total) : LEAST_PX) / (step * step)
		)
			break;
		const { lab } = left[best];
		centers.push(lab);
		for (let k = left.length - 1; k >= 0; k--) if (apart(left[k].lab, lab) < ALIKE) left.splice(k, 1);
	}
	if (centers.length === 0)
		throw new CoreError(
			'nothing-found',
			'This picture has no plain areas of colour. Trace it by tone instead.'
		);
	// Means of what is nearest to each (Lloyd's rounds).
	let colours: Colour[] = [];
	for (let round = 0; round < 6; round++) {
		const sum = centers.map(() => ({ w: 0, r: 0, g: 0, b: 0, l: 0, a: 0, bb: 0 }));
		for (const bin of bins) {
			let at = 0;
			for (let k = 1; k < centers.length; k++)
				if (apart(bin.lab, centers[k]) < apart(bin.lab, centers[at])) at = k;
			if (apart(bin.lab, centers[at]) > 2 * ALIKE) continue;
			const s = sum[at];
			s.w += bin.w;
			s.r += bin.w * bin.rgb.r;
			s.g += bin.w * bin.rgb.g;
			s.b += bin.w * bin.rgb.b;
			s.l += bin.w * bin.lab[0];
			s.a += bin.w * bin.lab[1];
			s.bb += bin.w * bin.lab[2];
		}
		const filled = sum.filter((s) => s.w > 0).sort((p, q) => q.w - p.w);
		colours = filled.map((s) => ({ r: s.r / s.w, g: s.g / s.w, b: s.b / s.w }));
		centers = filled.map((s) => [s.l / s.w, s.a / s.w, s.bb / s.w]);
	}
	return colours;
}

/** Is a pixel like its four neighbours? */
function isPlain(rgba: Uint8Array | Uint8ClampedArray, i: number, dx: number, dy: number): boolean {
	for (let c = 0; c < 3; c++) {
		const v = rgba[i + c];
		if (
			Math.abs(rgba[i + c - dx] - v) > SAME ||
			Math.abs(rgba[i + c + dx] - v) > SAME ||
			Math.abs(rgba[i + c - dy] - v) > SAME ||
			Math.abs(rgba[i + c + dy] - v) > SAME
		)
			return false;
	}
	return true;
}
const SAME = 14;
