/** Which flat colour each pixel belongs to. */
import { finish } from '../progress';
import type { Colour } from './palette';
import type { ColourPicture } from './picture';

/**
 * One number a pixel. A pixel near one of the colours has that; a pixel on an edge is a mixture of two colours that are
 * plain nearby, never of a third that happens to look like the mixture, and goes to the one that fills more of it.
 */
export const labelPixels = (picture: ColourPicture, palette: readonly Colour[]): Uint8Array =>
	finish(labelSteps(picture, palette));

/** The same, telling how far it has come (0 to 1). */
export function* labelSteps(
	{ widthPx, heightPx, rgba }: ColourPicture,
	palette: readonly Colour[]
): Generator<number, Uint8Array> {
	const n = widthPx * heightPx;
	const k = palette.length;
	const labels = new Uint8Array(n);
	const plain = new Uint8Array(n);
	const pr = Float64Array.from(palette, (c) => c.r);
	const pg = Float64Array.from(palette, (c) => c.g);
	const pb = Float64Array.from(palette, (c) => c.b);
	for (let i = 0; i < n; i++) {
		if (i % PIXELS === PIXELS - 1) yield (0.3 * i) / n;
		let best = 0;
		let least = Infinity;
		for (let c = 0; c < k; c++) {
			const r = rgba[4 * i] - pr[c];
			const g = rgba[4 * i + 1] - pg[c];
			const b = rgba[4 * i + 2] - pb[c];
			const d = r * r + g * g + b * b;
			if (d < least) {
				least = d;
				best = c;
			}
		}
		labels[i] = best;
		plain[i] = least < PLAIN * PLAIN ? 1 : 0;
	}
	// Edge pixels, from what is plain around them.
	const out = Uint8Array.from(labels);
	const sure = new Uint8Array(n);
	const rows = Math.max(1, Math.floor(PIXELS / widthPx));
	for (let y = 0; y < heightPx; y++) {
		if (y % rows === rows - 1) yield 0.3 + (0.2 * y) / heightPx;
		for (let x = 0; x < widthPx; x++)
			if (likeNeighbours(labels, plain, widthPx, heightPx, x, y)) sure[y * widthPx + x] = 1;
	}
	const seen = new Uint8Array(k);
	/** Marks the colours around a pixel; how many there are. */
	const look = (x: number, y: number, reach: number, which: Uint8Array): number => {
		let kinds = 0;
		for (let v = Math.max(0, y - reach); v <= Math.min(heightPx - 1, y + reach); v++) {
			for (let u = Math.max(0, x - reach); u <= Math.min(widthPx - 1, x + reach); u++) {
				const j = v * widthPx + u;
				if (!which[j] || seen[labels[j]]) continue;
				seen[labels[j]] = 1;
				kinds++;
			}
		}
		return kinds;
	};
	for (let y = 0; y < heightPx; y++) {
		if (y % rows === rows - 1) yield 0.5 + (0.5 * y) / heightPx;
		for (let x = 0; x < widthPx; x++) {
			const i = y * widthPx + x;
			if (sure[i]) continue;
			const own = distanceSq(rgba, i, pr[labels[i]], pg[labels[i]], pb[labels[i]]);
			let best = -1;
			let least = Infinity;
			const weigh = () => {
				for (let a = 0; a < k; a++) {
					if (!seen[a]) continue;
					for (let b = a; b < k; b++) {
						if (!seen[b]) continue;
						const { off, share } = mixture(
							rgba[4 * i] - pr[b],
							rgba[4 * i + 1] - pg[b],
							rgba[4 * i + 2] - pb[b],
							pr[a] - pr[b],
							pg[a] - pg[b],
							pb[a] - pb[b]
						);
						if (off < least - 1) {
							least = off;
							best = share >= 0.5 ? a : b;
						}
					}
				}
			};
			seen.fill(0);
			let kinds = 0;
			for (let reach = 1; reach <= 3 && kinds < 2; reach++) kinds = look(x, y, reach, sure) + kinds;
			weigh();
			// A sliver of one colour between two others has no plain place that goes on both ways.
			if (least > CLOSE * CLOSE) {
				look(x, y, 3, sure);
				look(x, y, 2, plain);
				weigh();
			}
			// What is a colour itself, and no mixture of its neighbours, is that.
			if (best >= 0 && !(plain[i] && own + CLOSE * CLOSE < least)) out[i] = best;
		}
	}
	return out;
}
/** Pixels gone through between two yields. */
const PIXELS = 500_000;
/** Tones: a mixture that comes so near explains a pixel. */
const CLOSE = 15;

function distanceSq(
	rgba: Uint8Array | Uint8ClampedArray,
	i: number,
	r: number,
	g: number,
	b: number
): number {
	return (rgba[4 * i] - r) ** 2 + (rgba[4 * i + 1] - g) ** 2 + (rgba[4 * i + 2] - b) ** 2;
}

/** Tones: so near a colour that the pixel is taken for it. */
const PLAIN = 30;

/** Do at least two of the four neighbours look the same? A lone one is a mixture that only happens to look like a colour. */
function likeNeighbours(
	labels: Uint8Array,
	plain: Uint8Array,
	widthPx: number,
	heightPx: number,
	x: number,
	y: number
): boolean {
	const i = y * widthPx + x;
	if (!plain[i]) return false;
	let row = 0;
	let column = 0;
	if (x > 0 && plain[i - 1] && labels[i - 1] === labels[i]) row++;
	if (x + 1 < widthPx && plain[i + 1] && labels[i + 1] === labels[i]) row++;
	if (y > 0 && plain[i - widthPx] && labels[i - widthPx] === labels[i]) column++;
	if (y + 1 < heightPx && plain[i + widthPx] && labels[i + widthPx] === labels[i]) column++;
	// Along an edge mixtures line up; a plain place goes on in both directions.
	return row > 0 && column > 0;
}

/** How much of the first colour is in a mixture, and how far off it is; everything relative to the second. */
function mixture(
	r: number,
	g: number,
	b: number,
	dr: number,
	dg: number,
	db: number
): { off: number; share: number } {
	const size = dr * dr + dg * dg + db * db;
	const share = size > 0 ? Math.min(1, Math.max(0, (r * dr + g * dg + b * db) / size)) : 1;
	return { share, off: (r - share * dr) ** 2 + (g - share * dg) ** 2 + (b - share * db) ** 2 };
}

/**
 * Patches of one label smaller than `leastPx` pixels go to the neighbour that they touch most. Written into `labels`.
 * Tells how far it has come (0 to 1); returns how many there were.
 */
export function* dropPatches(
	labels: Uint8Array,
	widthPx: number,
	heightPx: number,
	leastPx: number
): Generator<number, number> {
	const n = widthPx * heightPx;
	const done = new Uint8Array(n);
	const stack: number[] = [];
	let dropped = 0;
	let gone = 0;
	for (let start = 0; start < n; start++) {
		if (done[start]) continue;
		const label = labels[start];
		const patch: number[] = [];
		const touched = new Map<number, number>();
		stack.push(start);
		done[start] = 1;
		let count = 0;
		while (stack.length) {
			const i = stack.pop()!;
			count++;
			if (++gone % PIXELS === 0) yield gone / n;
			if (patch.length < leastPx) patch.push(i);
			const x = i % widthPx;
			const look = (j: number) => {
				if (labels[j] === label) {
					if (!done[j]) {
						done[j] = 1;
						stack.push(j);
					}
				} else if (count < leastPx) touched.set(labels[j], (touched.get(labels[j]) ?? 0) + 1);
			};
			if (x > 0) look(i - 1);
			if (x + 1 < widthPx) look(i + 1);
			if (i >= widthPx) look(i - widthPx);
			if (i + widthPx < n) look(i + widthPx);
		}
		if (count >= leastPx || touched.size === 0) continue;
		let best = label;
		let most = 0;
		for (const [other, times] of touched) {
			if (times > most) {
				most = times;
				best = other;
			}
		}
		for (const i of patch) labels[i] = best;
		dropped++;
	}
	return dropped;
}
