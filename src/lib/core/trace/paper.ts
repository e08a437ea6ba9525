/**
 * Lines drawn on paper and photographed: a few strokes on much paper, whose noise, light and shadows part the tones far more
 * than the strokes do. The paper is made plain, so that nothing of it is followed.
 */
import type { GreyPicture } from './picture';
import { blurred } from './prepare';
import { otsuThreshold, toneHistogram } from './threshold';

/** px: side of the squares whose paper tone is taken; a stroke covers less than half of one. */
const SQUARE = 32;
/** The tone that plain paper gets, and how much darker plain ink becomes. */
const PAPER = 230;
const INK = 200;
/** The tone of paper while it is looked at, so that darker and brighter both have room. */
const MIDDLE = 200;
/** px: noise is averaged over this (standard deviation) before strokes are looked for. */
const LOOK = 0.9;
/** A stroke begins where it stands out from the noise so many times, and goes on as long as it does so many times. */
const SURE = 7;
const LIKELY = 3.5;
/** px: what is smaller both ways is no stroke. */
const LEAST_STROKE = 12;
/** Share of the ink's darkness: what is fainter is no full ink. */
const FAINT = 0.42;
/** A stroke has so many pixels of full ink, or such a share of it. */
const FULL_PIXELS = 60;
const FULL_SHARE = 0.15;
/** px: so far a stroke may fade until it comes back to full ink, or ends. */
const FADES = 64;
/** px: around a stroke the picture stays as it is, for the place of its edge. */
const RIM = 4;
/** Share of the squares that may be covered by solid ink: beyond it this is no drawing of lines. */
const SOLID_SHARE = 0.02;
/** Share of the light around: a square darker than this is solid ink, no shadow. */
const SOLID_TONE = 0.55;
/** Share of all pixels: more ink than this is no drawing of lines. */
export const MOST_INK = 0.15;

/** How noisy a parting into ink and paper is: short runs of ink in a row, the mean of all rows looked at. */
const NOISY_RUNS = 12;
const ROW_STEP = 8;

/**
 * Whether a threshold lies within the noise of a picture: most runs of ink along its rows are a pixel or two, and there are
 * many of them.
 */
export function isWithinNoise(
	{ widthPx, heightPx, grey }: GreyPicture,
	threshold: number,
	light: boolean
): boolean {
	let short = 0;
	let all = 0;
	let rows = 0;
	for (let y = 0; y < heightPx; y += ROW_STEP, rows++) {
		let run = 0;
		for (let x = 0; x <= widthPx; x++) {
			const v = grey[y * widthPx + x];
			const isInk = x < widthPx && (light ? v > threshold : v < threshold);
			if (isInk) run++;
			else if (run > 0) {
				all++;
				if (run <= 2) short++;
				run = 0;
			}
		}
	}
	return short > NOISY_RUNS * rows && short > all / 2;
}

/**
 * The picture with its paper made plain and its light even, where strokes stand out from the paper's noise; undefined where
 * it is no drawing of lines on paper, or nothing stands out.
 * @param light the ink is lighter than the paper.
 */
export function plainPaper(picture: GreyPicture, light: boolean): GreyPicture | undefined {
	const { widthPx, heightPx } = picture;
	const tones = paperTones(picture, light);
	if (!tones || solidShare(tones) > SOLID_SHARE) return undefined;
	const even = evened(picture, tones, light);
	const looked = blurred(even, LOOK);
	const noise = spreadBelow(looked.grey);
	const sure = MIDDLE - Math.max(SURE * noise, 8);
	const likely = MIDDLE - Math.max(LIKELY * noise, 4);
	const plain = strokesIn(looked, sure, likely);
	const strokes = plain ?? darkerStrokes(looked, sure);
	if (!strokes) return undefined;
	const { ink, kept } = strokes;
	const near = grown(kept, widthPx, heightPx, RIM);
	const gain = INK / ink;
	// Where the noise would still shape the edge it is averaged first.
	const from = spreadBelow(even.grey) * gain > 8 ? looked.grey : even.grey;
	const out = new Uint8Array(from.length);
	for (let i = 0; i < out.length; i++) {
		const tone = near[i] ? PAPER - gain * (MIDDLE - from[i]) : PAPER;
		const clipped = tone < 0 ? 0 : tone > 255 ? 255 : tone;
		out[i] = (light ? 255 - clipped : clipped) + 0.5;
	}
	return { widthPx, heightPx, grey: out, ...(plain ? {} : { isPrinted: true }) };
}

interface Tones {
	readonly nx: number;
	readonly ny: number;
	/** The middle tone of each square, its strokes hardly counting; ink dark, whatever the picture's. */
	readonly v: Float64Array;
}

function paperTones({ widthPx, heightPx, grey }: GreyPicture, light: boolean): Tones | undefined {
	const nx = Math.floor(widthPx / SQUARE);
	const ny = Math.floor(heightPx / SQUARE);
	if (nx < 4 || ny < 4) return undefined;
	const v = new Float64Array(nx * ny);
	const counts = new Uint32Array(256);
	for (let j = 0; j < ny; j++)
		for (let i = 0; i < nx; i++) {
			const x0 = Math.floor((i * widthPx) / nx);
			const x1 = Math.floor(((i + 1) * widthPx) / nx);
			const y0 = Math.floor((j * heightPx) / ny);
			const y1 = Math.floor(((j + 1) * heightPx) / ny);
			counts.fill(0);
			for (let y = y0; y < y1; y++)
				for (let x = x0; x < x1; x++) counts[light ? 255 - grey[y * widthPx + x] : grey[y * widthPx + x]]++;
			v[j * nx + i] = middleOf(counts, (x1 - x0) * (y1 - y0));
		}
	return { nx, ny, v: lifted(v, nx, ny) };
}

function middleOf(counts: Uint32Array, total: number): number {
	let left = total / 2;
	for (let tone = 0; tone < 256; tone++) {
		if (counts[tone] >= left) return tone + left / Math.max(1, counts[tone]) - 0.5;
		left -= counts[tone];
	}
	return 255;
}

/** A square that a stroke darkens takes the tone of its neighbours: the largest around, then the smallest of those. */
function lifted(v: Float64Array, nx: number, ny: number): Float64Array {
	const over = (from: Float64Array, pick: (...n: number[]) => number) => {
		const out = new Float64Array(from.length);
		for (let j = 0; j < ny; j++)
			for (let i = 0; i < nx; i++) {
				let best = from[j * nx + i];
				for (let dj = -1; dj <= 1; dj++)
					for (let di = -1; di <= 1; di++) {
						const x = Math.min(nx - 1, Math.max(0, i + di));
						const y = Math.min(ny - 1, Math.max(0, j + dj));
						best = pick(best, from[y * nx + x]);
					}
				out[j * nx + i] = best;
			}
		return out;
	};
	return over(over(v, Math.max), Math.min);
}

/** Share of the squares that are far darker than the light lets them be. */
function solidShare({ v }: Tones): number {
	const sorted = Float64Array.from(v).sort();
	const usual = sorted[Math.floor(0.7 * sorted.length)];
	let solid = 0;
	for (const tone of v) if (tone < SOLID_TONE * usual) solid++;
	return solid / v.length;
}

/** The picture against its paper: paper has the middle tone everywhere. */
function evened(picture: GreyPicture, { nx, ny, v }: Tones, light: boolean): GreyPicture {
	const { widthPx, heightPx, grey } = picture;
	const out = new Uint8Array(grey.length);
	const row = new Float64Array(nx);
	const at = (p: number, size: number, n: number) =>
		Math.min(n - 1, Math.max(0, ((p + 0.5) * n) / size - 0.5));
	for (let y = 0; y < heightPx; y++) {
		const fy = at(y, heightPx, ny);
		const j = Math.min(ny - 2, Math.floor(fy));
		for (let i = 0; i < nx; i++) row[i] = v[j * nx + i] + (fy - j) * (v[(j + 1) * nx + i] - v[j * nx + i]);
		for (let x = 0; x < widthPx; x++) {
			const fx = at(x, widthPx, nx);
			const i = Math.min(nx - 2, Math.floor(fx));
			const paper = row[i] + (fx - i) * (row[i + 1] - row[i]);
			const g = grey[y * widthPx + x];
			// In shares of the light, so that ink is as dark in the shadow as beside it.
			const tone = (MIDDLE * (light ? 255 - g : g)) / Math.max(16, paper);
			out[y * widthPx + x] = tone > 255 ? 255 : tone + 0.5;
		}
	}
	return { widthPx, heightPx, grey: out };
}

/** The standard deviation of the paper's tones, by the half that no ink reaches: those brighter than the middle. */
function spreadBelow(grey: Uint8Array): number {
	const counts = new Float64Array(256);
	for (let i = 0; i < grey.length; i++) counts[grey[i]]++;
	let brighter = 0;
	for (let tone = MIDDLE; tone < 256; tone++) brighter += tone === MIDDLE ? counts[tone] / 2 : counts[tone];
	// 0.6745: half of a normal distribution's values lie nearer than that to its middle.
	let left = brighter / 2;
	for (let tone = MIDDLE; tone < 256; tone++) {
		const n = tone === MIDDLE ? counts[tone] / 2 : counts[tone];
		if (n >= left) return Math.max(0.5, (tone - MIDDLE + left / n - (tone === MIDDLE ? 0 : 0.5)) / 0.6745);
		left -= n;
	}
	return 0.5;
}

/** The pixels that hang together with a first one, corners touching too, marked as seen; small: less than a stroke both ways. */
function hanging(
	first: number,
	seen: Uint8Array,
	widthPx: number,
	heightPx: number,
	belongs: (i: number) => boolean
): { readonly pixels: readonly number[]; readonly isSmall: boolean } {
	const pixels = [first];
	seen[first] = 1;
	let [x0, x1, y0, y1] = [widthPx, 0, heightPx, 0];
	for (let k = 0; k < pixels.length; k++) {
		const i = pixels[k];
		const x = i % widthPx;
		const y = (i - x) / widthPx;
		if (x < x0) x0 = x;
		if (x > x1) x1 = x;
		if (y < y0) y0 = y;
		if (y > y1) y1 = y;
		for (let dy = y > 0 ? -1 : 0; dy <= (y < heightPx - 1 ? 1 : 0); dy++)
			for (let dx = x > 0 ? -1 : 0; dx <= (x < widthPx - 1 ? 1 : 0); dx++) {
				const j = i + dy * widthPx + dx;
				if (seen[j] || !belongs(j)) continue;
				seen[j] = 1;
				pixels.push(j);
			}
	}
	return { pixels, isSmall: x1 - x0 < LEAST_STROKE && y1 - y0 < LEAST_STROKE };
}

/** Strokes that surely are some, each as far as it likely goes; and how dark the ink is. */
function strokesIn(
	{ widthPx, heightPx, grey }: GreyPicture,
	sure: number,
	likely: number
): { readonly kept: Uint8Array; readonly ink: number } | undefined {
	let reached = 0;
	for (let i = 0; i < grey.length; i++) if (grey[i] < likely) reached++;
	if (reached > MOST_INK * grey.length) return undefined;
	const seen = new Uint8Array(grey.length);
	const kept = new Uint8Array(grey.length);
	const strokes: (readonly number[])[] = [];
	const darkness = new Float64Array(256);
	let total = 0;
	for (let first = 0; first < grey.length; first++) {
		if (seen[first] || grey[first] >= sure) continue;
		const { pixels, isSmall } = hanging(first, seen, widthPx, heightPx, (i) => grey[i] < likely);
		if (isSmall) continue;
		total += pixels.length;
		const own = Array.from(pixels, (i) => MIDDLE - grey[i]).sort((a, b) => a - b);
		const dark = own[Math.floor(0.85 * own.length)];
		darkness[Math.max(0, Math.round(dark))] += own.length;
		strokes.push(pixels);
	}
	if (strokes.length === 0) return undefined;
	// How dark most of the ink is, by the length of its strokes.
	let left = total / 2;
	let ink = 255;
	for (; ink > 0 && left > 0; ink--) left -= darkness[ink];
	ink = Math.max(8, ink);
	const full = new Uint8Array(grey.length);
	for (const pixels of strokes) {
		// What has no full ink belongs to the paper (fibres, printed squares, edges of shadows, creases).
		const dark = pixels.filter((i) => MIDDLE - grey[i] >= FAINT * ink);
		if (dark.length < Math.min(FULL_PIXELS, FULL_SHARE * pixels.length)) continue;
		for (const i of pixels) kept[i] = 1;
		for (const i of dark) full[i] = 1;
	}
	dropSmall(full, widthPx, heightPx);
	// A crease that runs into a stroke is no part of it: faint ink goes on only so far from full ink.
	const near = grown(full, widthPx, heightPx, FADES);
	for (let i = 0; i < kept.length; i++) kept[i] &= near[i];
	return { kept, ink };
}

/** Takes out of a mask what hangs together and is smaller than a stroke both ways: where two creases cross. */
function dropSmall(mask: Uint8Array, widthPx: number, heightPx: number): void {
	const seen = new Uint8Array(mask.length);
	for (let first = 0; first < mask.length; first++) {
		if (!mask[first] || seen[first]) continue;
		const { pixels, isSmall } = hanging(first, seen, widthPx, heightPx, (i) => mask[i] === 1);
		if (isSmall) for (const i of pixels) mask[i] = 0;
	}
}

/** Of the darker of two inks: what a paper is printed with is fainter than what is drawn on it. */
const DARKER = 2;

/** The strokes that stand out from printed squares or rules; undefined where there are no two inks. */
function darkerStrokes(picture: GreyPicture, sure: number): ReturnType<typeof strokesIn> {
	const counts = toneHistogram(picture.grey).map((n, tone) => (tone < sure ? n : 0));
	const split = otsuThreshold(counts);
	const mean = (from: number, to: number) => {
		let [sum, n] = [0, 0];
		for (let tone = Math.max(0, Math.ceil(from)); tone <= to; tone++) {
			sum += counts[tone] * (MIDDLE - tone);
			n += counts[tone];
		}
		return n ? sum / n : 0;
	};
	if (mean(0, split) < DARKER * mean(split + 1, 255)) return undefined;
	return strokesIn(picture, split, split);
}

/** A mask and all pixels so near to it, along rows and columns. */
function grown(mask: Uint8Array, widthPx: number, heightPx: number, by: number): Uint8Array {
	const wide = new Uint8Array(mask.length);
	for (let y = 0; y < heightPx; y++) {
		let last = -Infinity;
		const at = y * widthPx;
		for (let x = 0; x < widthPx; x++) {
			if (mask[at + x]) last = x;
			if (x - last <= by) wide[at + x] = 1;
		}
		last = Infinity;
		for (let x = widthPx - 1; x >= 0; x--) {
			if (mask[at + x]) last = x;
			if (last - x <= by) wide[at + x] = 1;
		}
	}
	const out = new Uint8Array(mask.length);
	const last = new Int32Array(widthPx).fill(-1e9);
	for (let y = 0; y < heightPx; y++)
		for (let x = 0; x < widthPx; x++) {
			if (wide[y * widthPx + x]) last[x] = y;
			if (y - last[x] <= by) out[y * widthPx + x] = 1;
		}
	last.fill(1e9);
	for (let y = heightPx - 1; y >= 0; y--)
		for (let x = 0; x < widthPx; x++) {
			if (wide[y * widthPx + x]) last[x] = y;
			if (last[x] - y <= by) out[y * widthPx + x] = 1;
		}
	return out;
}
