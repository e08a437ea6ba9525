/** Parts of a picture: what is to be traced of it, as a rectangle or as a lasso drawn round it. */
import { CoreError } from '../errors';
import type { GreyPicture } from './picture';

/** A rectangle of a picture, px. */
export interface PictureRegion {
	readonly x: number;
	readonly y: number;
	readonly w: number;
	readonly h: number;
}

export function rectangleAsPolygon({ x, y, w, h }: PictureRegion): Float64Array {
	return Float64Array.of(x, y, x + w, y, x + w, y + h, x, y + h);
}

/** Rows looked at in each pixel. */
const ROWS = 4;

/**
 * How much of each pixel lies inside a polygon (even-odd), 0..255: exact along a row, of four rows a pixel.
 * @throws CoreError `bad-region` where nothing of the picture lies inside.
 */
export function coverOf(polygon: ArrayLike<number>, widthPx: number, heightPx: number): Uint8Array {
	const n = polygon.length / 2;
	const cover = new Float32Array(widthPx + 1);
	const out = new Uint8Array(widthPx * heightPx);
	let any = false;
	for (let y = 0; y < heightPx; y++) {
		cover.fill(0);
		let touched = false;
		for (let r = 0; r < ROWS; r++) {
			const at = y + (r + 0.5) / ROWS;
			const crossings: number[] = [];
			for (let i = 0, j = n - 1; i < n; j = i++) {
				const yi = polygon[2 * i + 1];
				const yj = polygon[2 * j + 1];
				if (yi > at === yj > at) continue;
				crossings.push(polygon[2 * i] + ((at - yi) / (yj - yi)) * (polygon[2 * j] - polygon[2 * i]));
			}
			crossings.sort((a, b) => a - b);
			for (let k = 0; k + 1 < crossings.length; k += 2) {
				const from = Math.max(0, crossings[k]);
				const to = Math.min(widthPx, crossings[k + 1]);
				if (!(to > from)) continue;
				touched = true;
				const i = Math.floor(from);
				const j = Math.min(widthPx - 1, Math.floor(to));
				for (let x = i; x <= j; x++) cover[x] += Math.min(to, x + 1) - Math.max(from, x);
			}
		}
		if (!touched) continue;
		any = true;
		for (let x = 0; x < widthPx; x++) out[y * widthPx + x] = (255 * cover[x]) / ROWS + 0.5;
	}
	if (!any) throw new CoreError('bad-region', 'This region lies outside the picture.');
	return out;
}

/** The picture with `paper` in place of what is not covered. */
export function onlyCovered(picture: GreyPicture, cover: Uint8Array, paper: number): GreyPicture {
	const { widthPx, heightPx, grey } = picture;
	const out = new Uint8Array(grey.length);
	for (let i = 0; i < out.length; i++) out[i] = paper + ((grey[i] - paper) * cover[i]) / 255 + 0.5;
	return { widthPx, heightPx, grey: out };
}

/**
 * Ink that is fainter than `threshold`, up to `faint`, counts where it hangs together with full ink (hysteresis); by
 * itself it becomes paper. What comes out is to be parted from paper at `faint`.
 *
 * @param light ink is lighter than paper; then `faint` lies below `threshold`.
 * @param paper the tone of paper.
 */
export function withFaintInk(
	picture: GreyPicture,
	threshold: number,
	faint: number,
	light: boolean,
	paper: number
): GreyPicture {
	const { widthPx, heightPx, grey } = picture;
	const out = Uint8Array.from(grey);
	const isWeak = (v: number) => (light ? v > faint : v < faint);
	const isFull = (v: number) => (light ? v > threshold : v < threshold);
	const seen = new Uint8Array(grey.length);
	let stack = new Int32Array(1024);
	for (let start = 0; start < grey.length; start++) {
		if (seen[start] || !isWeak(grey[start])) continue;
		let top = 0;
		let full = false;
		stack[top++] = start;
		seen[start] = 1;
		const patch: number[] = [];
		while (top > 0) {
			const at = stack[--top];
			if (isFull(grey[at])) full = true;
			if (!full) patch.push(at);
			const x = at % widthPx;
			const y = (at - x) / widthPx;
			if (top + 8 > stack.length) {
				const larger = new Int32Array(2 * stack.length);
				larger.set(stack);
				stack = larger;
			}
			for (let v = Math.max(0, y - 1); v <= Math.min(heightPx - 1, y + 1); v++) {
				for (let u = Math.max(0, x - 1); u <= Math.min(widthPx - 1, x + 1); u++) {
					const k = v * widthPx + u;
					if (seen[k] || !isWeak(grey[k])) continue;
					seen[k] = 1;
					stack[top++] = k;
				}
			}
		}
		if (!full) for (const at of patch) out[at] = paper;
	}
	return { widthPx, heightPx, grey: out };
}
