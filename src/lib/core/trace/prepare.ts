/** What is done to a grey picture before it is traced: uneven light taken out, noise averaged away, levels, sharpness told. */
import { beginning } from './beginning';
import type { GreyPicture } from './picture';
import { addEquation, eliminate } from '../linear/small';
import { otsuThreshold } from './threshold';

/** px: side of the squares whose paper tone is taken. */
const SQUARE = 24;
/** Coefficients of the surface: all products up to the third power. */
const TERMS = 10;

/**
 * The picture as under even light. Paper is the brightest common tone of each square of a coarse grid; a smooth surface
 * through those that are paper gives the light everywhere, and the picture is divided by it. Squares that are covered
 * by ink fall below the surface and are left out, round by round.
 * @param light the ink is lighter than the paper; then the darkest common tone is the paper.
 */
export function evenLight(picture: GreyPicture, light = false): GreyPicture {
	const { widthPx, heightPx, grey } = picture;
	const nx = Math.max(2, Math.ceil(widthPx / SQUARE));
	const ny = Math.max(2, Math.ceil(heightPx / SQUARE));
	const tones: { x: number; y: number; v: number }[] = [];
	const counts = new Uint32Array(256);
	for (let j = 0; j < ny; j++) {
		for (let i = 0; i < nx; i++) {
			const x0 = Math.floor((i * widthPx) / nx);
			const x1 = Math.max(x0 + 1, Math.floor(((i + 1) * widthPx) / nx));
			const y0 = Math.floor((j * heightPx) / ny);
			const y1 = Math.max(y0 + 1, Math.floor(((j + 1) * heightPx) / ny));
			counts.fill(0);
			let n = 0;
			for (let y = y0; y < y1; y++)
				for (let x = x0; x < x1; x++, n++)
					counts[light ? 255 - grey[y * widthPx + x] : grey[y * widthPx + x]]++;
			// The mean of the upper half: noise averages out, a thin line does not count.
			let left = n >> 1;
			let sum = 0;
			for (let v = 255; v >= 0 && left > 0; v--) {
				const take = Math.min(left, counts[v]);
				sum += take * v;
				left -= take;
			}
			tones.push({ x: (x0 + x1) / widthPx - 1, y: (y0 + y1) / heightPx - 1, v: sum / Math.max(1, n >> 1) });
		}
	}
	if (tones.length < 3 * TERMS) return picture;
	let kept = paperSquares(tones);
	let surface = fitSurface(kept);
	for (let round = 0; round < 12; round++) {
		const offs = kept.map((t) => t.v - valueAt(surface, t.x, t.y));
		const spread = Math.sqrt(offs.reduce((a, o) => a + o * o, 0) / offs.length);
		const next = kept.filter((_, k) => offs[k] > -Math.max(2, 1.2 * spread));
		if (next.length < 3 * TERMS || next.length === kept.length) break;
		kept = next;
		surface = fitSurface(kept);
	}
	const out = new Uint8Array(grey.length);
	const row = new Float64Array(widthPx);
	for (let y = 0; y < heightPx; y++) {
		const v = (2 * y + 1) / heightPx - 1;
		// Every 16th place exactly, straight between.
		for (let x = 0; x < widthPx; x += 16) {
			const end = Math.min(widthPx - 1, x + 16);
			const a = valueAt(surface, (2 * x + 1) / widthPx - 1, v);
			const b = valueAt(surface, (2 * end + 1) / widthPx - 1, v);
			for (let k = x; k <= end; k++) row[k] = a + ((b - a) * (k - x)) / Math.max(1, end - x);
		}
		for (let x = 0; x < widthPx; x++) {
			const g = grey[y * widthPx + x];
			const paper = Math.max(8, row[x]);
			const even = PAPER * ((light ? 255 - g : g) / paper);
			const clipped = even > 255 ? 255 : even;
			out[y * widthPx + x] = (light ? 255 - clipped : clipped) + 0.5;
		}
	}
	return { widthPx, heightPx, grey: out };
}
/** Squares that are mostly paper: where the tones fall into two clear classes, those of the brighter one. */
function paperSquares<T extends { v: number }>(tones: readonly T[]): T[] {
	const counts = new Uint32Array(256);
	for (const t of tones) counts[Math.round(t.v)]++;
	const cut = otsuThreshold(counts);
	const mean = (side: readonly T[]) => side.reduce((a, t) => a + t.v, 0) / Math.max(1, side.length);
	const dark = tones.filter((t) => t.v <= cut);
	const bright = tones.filter((t) => t.v > cut);
	const clear = dark.length > 0 && bright.length >= 3 * TERMS && mean(dark) < 0.55 * mean(bright);
	return clear ? bright : [...tones];
}

/** The tone that paper gets; a little room above it for noise. */
const PAPER = 220;

function powers(x: number, y: number): number[] {
	return [1, x, y, x * x, x * y, y * y, x * x * x, x * x * y, x * y * y, y * y * y];
}

function valueAt(c: ArrayLike<number>, x: number, y: number): number {
	return (
		c[0] +
		x * (c[1] + x * (c[3] + x * c[6] + y * c[7]) + y * c[4]) +
		y * (c[2] + y * (c[5] + y * c[9] + x * c[8]))
	);
}

/** Least squares over all products up to the third power, slightly pulled to flatness. */
function fitSurface(tones: readonly { x: number; y: number; v: number }[]): Float64Array {
	const w = TERMS + 1;
	const a = new Float64Array(TERMS * w);
	for (const { x, y, v } of tones) addEquation(a, powers(x, y), v);
	for (let r = 1; r < TERMS; r++) a[w * r + r] += 1e-3 * tones.length * (r > 5 ? 4 : 1) * 0.1;
	eliminate(a, TERMS);
	return Float64Array.from({ length: TERMS }, (_, r) => a[w * r + TERMS]);
}

/**
 * Averages noise away with a small Gaussian (both directions one after the other). Straight edges stay where they are.
 * @param sigma px, > 0.
 */
export function blurred({ widthPx, heightPx, grey }: GreyPicture, sigma: number): GreyPicture {
	const reach = Math.max(1, Math.min(12, Math.ceil(2.6 * sigma)));
	const weights = Float64Array.from({ length: reach + 1 }, (_, k) =>
		Math.exp((-k * k) / (2 * sigma * sigma))
	);
	const total = weights[0] + 2 * weights.slice(1).reduce((a, b) => a + b, 0);
	const fixed = Int32Array.from(weights, (w) => Math.round((w / total) * 32768));
	fixed[0] += 32768 - (fixed[0] + 2 * fixed.slice(1).reduce((a, b) => a + b, 0));
	// Rows into a ring of rows at a finer scale, then columns over the ring; weight by weight, so that each inner loop runs
	// straight through memory.
	const rows = 2 * reach + 1;
	const ring = Array.from({ length: rows }, () => new Int32Array(widthPx));
	const padded = new Int32Array(widthPx + 2 * reach);
	const sums = new Int32Array(widthPx);
	const out = new Uint8Array(grey.length);
	const fill = (y: number) => {
		const row = ring[((y % rows) + rows) % rows];
		const at = Math.min(heightPx - 1, Math.max(0, y)) * widthPx;
		for (let x = 0; x < widthPx; x++) padded[reach + x] = grey[at + x];
		padded.fill(grey[at], 0, reach);
		padded.fill(grey[at + widthPx - 1], reach + widthPx);
		const middle = fixed[0];
		for (let x = 0; x < widthPx; x++) row[x] = middle * padded[reach + x];
		for (let k = 1; k <= reach; k++) {
			const w = fixed[k];
			const before = reach - k;
			const after = reach + k;
			for (let x = 0; x < widthPx; x++) row[x] += w * (padded[before + x] + padded[after + x]);
		}
		for (let x = 0; x < widthPx; x++) row[x] >>= 9;
	};
	for (let y = -reach; y < reach; y++) fill(y);
	for (let y = 0; y < heightPx; y++) {
		fill(y + reach);
		const at = y * widthPx;
		const own = ring[y % rows];
		const middle = fixed[0];
		for (let x = 0; x < widthPx; x++) sums[x] = middle * own[x];
		for (let k = 1; k <= reach; k++) {
			const w = fixed[k];
			const above = ring[(((y - k) % rows) + rows) % rows];
			const below = ring[(y + k) % rows];
			for (let x = 0; x < widthPx; x++) sums[x] += w * (above[x] + below[x]);
		}
		for (let x = 0; x < widthPx; x++) out[at + x] = (sums[x] + HALF) >> 21;
	}
	return { widthPx, heightPx, grey: out };
}
/** A half of one tone at the scale of the sums (fifteen bits of weights, six left of rows). */
const HALF = 1 << 20;

/** px: side of the tiles whose own dark and bright tones are taken; as many again are looked at on every side. */
const TILE = 16;

/**
 * The picture with every place's tone told against its own neighbourhood: 0 where it is as dark as the ink nearby, 255
 * as bright as the paper nearby, so that 127.5 parts them however the light falls. A neighbourhood without contrast takes
 * the tones of the nearest ones that have some; so large solid areas stay solid.
 */
export function localTone({ widthPx, heightPx, grey }: GreyPicture): GreyPicture {
	const nx = Math.max(1, Math.ceil(widthPx / TILE));
	const ny = Math.max(1, Math.ceil(heightPx / TILE));
	const counts = Array.from({ length: nx * ny }, () => new Uint16Array(64));
	for (let y = 0; y < heightPx; y++) {
		const row = Math.floor(y / TILE) * nx;
		for (let x = 0; x < widthPx; x++) counts[row + Math.floor(x / TILE)][grey[y * widthPx + x] >> 2]++;
	}
	const dark = new Float64Array(nx * ny);
	const bright = new Float64Array(nx * ny);
	const all = new Uint32Array(64);
	let least = Infinity;
	let most = -Infinity;
	for (let j = 0; j < ny; j++) {
		for (let i = 0; i < nx; i++) {
			all.fill(0);
			let n = 0;
			for (let v = Math.max(0, j - 1); v <= Math.min(ny - 1, j + 1); v++)
				for (let u = Math.max(0, i - 1); u <= Math.min(nx - 1, i + 1); u++)
					counts[v * nx + u].forEach((c, k) => {
						all[k] += c;
						n += c;
					});
			const at = (share: number): number => {
				let seen = 0;
				for (let k = 0; k < 64; k++) {
					seen += all[k];
					if (seen >= share * n) return 4 * k + 2;
				}
				return 254;
			};
			dark[j * nx + i] = at(0.03);
			bright[j * nx + i] = at(0.97);
			least = Math.min(least, dark[j * nx + i]);
			most = Math.max(most, bright[j * nx + i]);
		}
	}
	const enough = Math.max(24, 0.3 * (most - least));
	let known = Uint8Array.from(dark, (d, k) => (bright[k] - d >= enough ? 1 : 0));
	if (!known.includes(1)) return { widthPx, heightPx, grey: Uint8Array.from(grey) };
	// Tiles without contrast take the mean of their known neighbours, ring by ring.
	while (known.includes(0)) {
		const next = Uint8Array.from(known);
		for (let k = 0; k < known.length; k++) {
			if (known[k]) continue;
			const i = k % nx;
			const j = Math.floor(k / nx);
			let n = 0;
			let d = 0;
			let b = 0;
			for (let v = Math.max(0, j - 1); v <= Math.min(ny - 1, j + 1); v++) {
				for (let u = Math.max(0, i - 1); u <= Math.min(nx - 1, i + 1); u++) {
					const q = v * nx + u;
					if (!known[q]) continue;
					n++;
					d += dark[q];
					b += bright[q];
				}
			}
			if (!n) continue;
			dark[k] = d / n;
			bright[k] = b / n;
			next[k] = 1;
		}
		known = next;
	}
	const out = new Uint8Array(grey.length);
	for (let y = 0; y < heightPx; y++) {
		const v = Math.min(ny - 1.001, Math.max(0, (y + 0.5) / TILE - 0.5));
		const j = Math.floor(v);
		for (let x = 0; x < widthPx; x++) {
			const u = Math.min(nx - 1.001, Math.max(0, (x + 0.5) / TILE - 0.5));
			const i = Math.floor(u);
			const [p, q] = [u - i, v - j];
			const a = Math.max(0, j) * nx + Math.max(0, i);
			const right = nx > 1 ? 1 : 0;
			const below = ny > 1 ? nx : 0;
			const mix = (t: Float64Array) =>
				(1 - q) * ((1 - p) * t[a] + p * t[a + right]) +
				q * ((1 - p) * t[a + below] + p * t[a + below + right]);
			const d = mix(dark);
			const share = (grey[y * widthPx + x] - d) / Math.max(8, mix(bright) - d);
			out[y * widthPx + x] = share <= 0 ? 0 : share >= 1 ? 255 : 255 * share + 0.5;
		}
	}
	return { widthPx, heightPx, grey: out };
}

/** Tones stretched so that `black` becomes 0 and `white` 255. */
export function levelled(
	{ widthPx, heightPx, grey }: GreyPicture,
	black: number,
	white: number
): GreyPicture {
	const scale = 255 / Math.max(1, white - black);
	const table = Uint8Array.from({ length: 256 }, (_, v) =>
		Math.max(0, Math.min(255, (v - black) * scale + 0.5))
	);
	return { widthPx, heightPx, grey: grey.map((v) => table[v]) };
}

/**
 * How much single pixels scatter in plain places, as a standard deviation in tones.
 * Method: the median of a small second difference over the picture, after Immerkaer 1996, "Fast noise variance
 * estimation", with a median in place of the mean so that edges do not count.
 */
export function pixelNoise({ widthPx, heightPx, grey }: GreyPicture): number {
	const counts = new Uint32Array(2048);
	const step = Math.max(1, Math.floor(Math.sqrt((widthPx * heightPx) / 200_000)));
	let n = 0;
	for (let y = 1; y + 1 < heightPx; y += step) {
		for (let x = 1; x + 1 < widthPx; x += step) {
			const i = y * widthPx + x;
			if (grey[i] >= 250 || grey[i] <= 5) continue;
			const d =
				grey[i - widthPx - 1] -
				2 * grey[i - widthPx] +
				grey[i - widthPx + 1] -
				2 * grey[i - 1] +
				4 * grey[i] -
				2 * grey[i + 1] +
				grey[i + widthPx - 1] -
				2 * grey[i + widthPx] +
				grey[i + widthPx + 1];
			counts[Math.min(2047, Math.abs(d))]++;
			n++;
		}
	}
	// Too few places that are neither plain black nor plain white: nothing can be told, or there is none.
	if (n < 0.02 * ((widthPx * heightPx) / (step * step))) return 0;
	let seen = 0;
	for (let v = 0; v < 2048; v++) {
		seen += counts[v];
		// The operator's weights have the norm 6; the median of a normal spread is 0.6745 standard deviations.
		if (2 * seen >= n) return v / (6 * 0.6745);
	}
	return 0;
}

/**
 * How far edges are blurred beyond the pixel itself, as a standard deviation in px, from how steeply the tone passes at
 * places of the contours. 0 for a sharp picture.
 */
export function edgeBlur(
	{ widthPx, heightPx, grey }: GreyPicture,
	contours: readonly { readonly points: Float64Array }[],
	contrast: number
): number {
	const slopes: number[] = [];
	let total = 0;
	for (const { points } of contours) total += points.length / 2;
	const step = Math.max(1, Math.floor(total / 1500));
	for (const contour of contours) {
		const points = step > 1 ? beginning(contour.points).points : contour.points;
		for (let i = 0; i < points.length / 2; i += step) {
			const x = Math.round(points[2 * i] - 0.5);
			const y = Math.round(points[2 * i + 1] - 0.5);
			if (x < 1 || y < 1 || x + 1 >= widthPx || y + 1 >= heightPx) continue;
			const k = y * widthPx + x;
			slopes.push(Math.hypot(grey[k + 1] - grey[k - 1], grey[k + widthPx] - grey[k - widthPx]));
		}
	}
	if (slopes.length === 0 || !(contrast > 0)) return 0;
	slopes.sort((a, b) => a - b);
	const share = Math.min(0.999, slopes[Math.floor(0.6 * slopes.length)] / contrast);
	// Over two pixels a blurred step rises by erf(1 / (sigma sqrt 2)): bisect for sigma.
	let lo = 0.2;
	let hi = 6;
	for (let k = 0; k < 30; k++) {
		const mid = (lo + hi) / 2;
		if (erf(1 / (mid * Math.SQRT2)) > share) lo = mid;
		else hi = mid;
	}
	return Math.sqrt(Math.max(0, lo * lo - SHARP * SHARP));
}
/** px: what a pixel and its sampling blur by themselves. */
const SHARP = 0.62;

/** Source: Abramowitz and Stegun 7.1.26, absolute error below 1.5e-7. */
export function erf(x: number): number {
	const t = 1 / (1 + 0.3275911 * x);
	const p = ((((1.061405429 * t - 1.453152027) * t + 1.421413741) * t - 0.284496736) * t + 0.254829592) * t;
	return 1 - p * Math.exp(-x * x);
}
