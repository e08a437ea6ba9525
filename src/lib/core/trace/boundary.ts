/**
 * The line between ink and paper, sub-pixel. The walk goes along pixel edges with ink on its left (in the picture's
 * own frame, y down); each edge gives one point between the centres of the two pixels it parts, where the tone
 * passes the threshold. At the picture's border the point lies on the border, or short of it by the ink that is missing there.
 */

import { pointsBehindStairs } from './stairs';

export interface BoundaryOptions {
	/** The tone that parts ink from paper, 0..255. */
	readonly threshold: number;
	/** Ink is lighter than paper. */
	readonly light: boolean;
	/** Whether two ink pixels that touch only at a corner belong together. */
	readonly diagonal: 'join' | 'part';
	/** Loops with a smaller area, in px^2, are dropped. */
	readonly leastAreaPx: number;
	/**
	 * The tones of full ink and full paper. Where given, the edge is placed by how much ink lies along the row or
	 * column across it, which is exact for an anti-aliased straight edge; otherwise where the tone passes the threshold.
	 */
	readonly tones?: { readonly ink: number; readonly paper: number };
	/** The picture has no tones between ink and paper: the line behind the stairs is wanted (`stairs.ts`). */
	readonly stairs?: boolean;
	/** Nothing but the middles of the pixel edges that are walked along: such contours touch neither themselves nor each other. */
	readonly between?: boolean;
	/** Only this part of the picture, in px. */
	readonly region?: { x: number; y: number; w: number; h: number };
}

/** One closed contour, x,y pairs in px, pixel (i, j) covering [i, i+1] x [j, j+1]. */
export interface Contour {
	readonly points: Float64Array;
	/** px^2, positive where it encloses ink, negative where it encloses a hole. */
	readonly area: number;
	/** Which of the points are tips of needles (`tips.ts`), in order. */
	readonly tips?: readonly number[];
}

// Directions: 0 right, 1 down, 2 left, 3 up.
const STEP_X = [1, 0, -1, 0];
const STEP_Y = [0, 1, 0, -1];
// From a pixel corner to the pixels on the left (ink) and right (paper) of the edge ahead.
const INK_X = [0, 0, -1, -1];
const INK_Y = [-1, 0, 0, -1];
const PAPER_X = [0, -1, -1, 0];
const PAPER_Y = [0, 0, -1, -1];

/** The pixels of a region that the picture has: from x0, y0 to before x1, y1. */
export const lookedAt = (
	widthPx: number,
	heightPx: number,
	region = { x: 0, y: 0, w: widthPx, h: heightPx }
): { readonly x0: number; readonly y0: number; readonly x1: number; readonly y1: number } => ({
	x0: Math.max(0, Math.floor(region.x)),
	y0: Math.max(0, Math.floor(region.y)),
	x1: Math.min(widthPx, Math.ceil(region.x + region.w)),
	y1: Math.min(heightPx, Math.ceil(region.y + region.h))
});

/** A hair above the threshold, so that no pixel lies on the level itself. */
const levelOf = (threshold: number) => threshold + 1e-4;

/** 1 for each of the 256 tones that is ink. */
function inkTones(threshold: number, light: boolean): Uint8Array {
	const level = levelOf(threshold);
	return Uint8Array.from({ length: 256 }, (_, tone) => ((light ? tone - level : level - tone) > 0 ? 1 : 0));
}

/** Tells whether pixel (x, y) is ink; what lies beyond the picture, or beyond the region, is paper. */
export function inkTest(
	grey: Uint8Array,
	widthPx: number,
	heightPx: number,
	{ threshold, light, region }: Pick<BoundaryOptions, 'threshold' | 'light' | 'region'>
): (x: number, y: number) => boolean {
	const { x0, y0, x1, y1 } = lookedAt(widthPx, heightPx, region);
	const inkOf = inkTones(threshold, light);
	return (x, y) => x >= x0 && x < x1 && y >= y0 && y < y1 && inkOf[grey[y * widthPx + x]] === 1;
}

/** Follows all boundaries. Yields the share of rows done now and then; returns the contours. */
export function* followBoundaries(
	grey: Uint8Array,
	widthPx: number,
	heightPx: number,
	options: BoundaryOptions
): Generator<number, Contour[]> {
	const { threshold, light, diagonal, stairs, between } = options;
	const isHalfWay = stairs || between;
	const { x0, y0, x1, y1 } = lookedAt(widthPx, heightPx, options.region);
	const level = levelOf(threshold);
	const inkOf = inkTones(threshold, light);
	const isInk = inkTest(grey, widthPx, heightPx, options);
	// One bit for each upper edge of a pixel: every loop has some of them.
	const seen = new Uint8Array(Math.ceil((widthPx * (heightPx + 1)) / 8) + 1);
	const contours: Contour[] = [];
	let buffer = new Float64Array(4096);
	let across = new Uint8Array(2048);
	const place = (ix: number, iy: number, ox: number, oy: number): number => {
		if (ox < x0 || ox >= x1 || oy < y0 || oy >= y1) {
			const isBeyond = ox < 0 || ox >= widthPx || oy < 0 || oy >= heightPx;
			return options.tones && isBeyond
				? shareAtBorder(grey, widthPx, heightPx, ix, iy, ox, oy, options.tones)
				: 0.5;
		}
		if (options.tones) {
			const byCover = coverShare(grey, widthPx, ix, iy, ox, oy, x0, y0, x1, y1, options.tones);
			if (byCover !== undefined) return byCover;
		}
		const ink = grey[iy * widthPx + ix];
		const share = (level - ink) / (grey[oy * widthPx + ox] - ink);
		return share < 0.001 ? 0.001 : share > 0.999 ? 0.999 : share;
	};
	// Does the tone change more along the line through both pixels than square to it? (Sobel's weights on both.)
	const isAcross = (ix: number, iy: number, ox: number, oy: number): boolean => {
		if (ox < x0 || ox >= x1 || oy < y0 || oy >= y1) return true;
		const px = iy - oy;
		const py = ox - ix;
		const tone = (x: number, y: number) => {
			const cx = x < x0 ? x0 : x >= x1 ? x1 - 1 : x;
			const cy = y < y0 ? y0 : y >= y1 ? y1 - 1 : y;
			return grey[cy * widthPx + cx];
		};
		const along =
			2 * (tone(ox, oy) - tone(ix, iy)) +
			tone(ox + px, oy + py) -
			tone(ix + px, iy + py) +
			tone(ox - px, oy - py) -
			tone(ix - px, iy - py);
		const beside =
			tone(ix + px, iy + py) + tone(ox + px, oy + py) - tone(ix - px, iy - py) - tone(ox - px, oy - py);
		return Math.abs(along) >= 0.85 * Math.abs(beside);
	};

	// Four pixels at a time: where they are as those above them there is no edge between.
	const fours =
		(widthPx & 3) === 0 && (grey.byteOffset & 3) === 0
			? new Uint32Array(grey.buffer, grey.byteOffset, (widthPx * heightPx) >> 2)
			: undefined;
	for (let y = y0; y <= y1; y++) {
		if ((y & 63) === 0) yield (y - y0) / Math.max(1, y1 - y0);
		const isWithin = fours && y > y0 && y < y1;
		for (let x = x0; x < x1; x++) {
			const bit = y * widthPx + x;
			if (isWithin && (bit & 3) === 0 && fours[bit >> 2] === fours[(bit - widthPx) >> 2]) {
				x += 3;
				continue;
			}
			const here = y < y1 && inkOf[grey[bit]] === 1;
			const above = y > y0 && inkOf[grey[bit - widthPx]] === 1;
			if (here === above) continue;
			if (seen[bit >> 3] & (1 << (bit & 7))) continue;
			// Ink below the edge: go left along it, so that ink lies on the left hand (y down: left of west is south).
			let cx = here ? x + 1 : x;
			let cy = y;
			let dir = here ? 2 : 0;
			const sx = cx;
			const sy = cy;
			const sdir = dir;
			let count = 0;
			let area = 0;
			const dirs: number[] = [];
			do {
				// The pixels on both sides of the edge ahead of corner (cx, cy).
				const ix = cx + INK_X[dir];
				const iy = cy + INK_Y[dir];
				const ox = cx + PAPER_X[dir];
				const oy = cy + PAPER_Y[dir];
				if (dir === 0 || dir === 2) {
					const edge = cy * widthPx + (dir === 0 ? cx : cx - 1);
					seen[edge >> 3] |= 1 << (edge & 7);
				}
				if (2 * count + 2 > buffer.length) {
					const larger = new Float64Array(2 * buffer.length);
					larger.set(buffer);
					buffer = larger;
					const longer = new Uint8Array(2 * across.length);
					longer.set(across);
					across = longer;
				}
				if (stairs) dirs.push(dir);
				const share = isHalfWay ? 0.5 : place(ix, iy, ox, oy);
				buffer[2 * count] = ix + 0.5 + (ox - ix) * share;
				buffer[2 * count + 1] = iy + 0.5 + (oy - iy) * share;
				across[count] = isHalfWay || isAcross(ix, iy, ox, oy) ? 1 : 0;
				count++;
				area += dir === 1 ? cx : dir === 3 ? -cx : 0;
				cx += STEP_X[dir];
				cy += STEP_Y[dir];
				// Which way on? Look at the two pixels ahead: left of travel is ink so far.
				const left = aheadLeft(dir, cx, cy);
				const right = aheadRight(dir, cx, cy);
				const inkLeft = isInk(left[0], left[1]);
				const inkRight = isInk(right[0], right[1]);
				if (inkLeft && inkRight) dir = (dir + 1) & 3;
				else if (!inkLeft && !inkRight) dir = (dir + 3) & 3;
				else if (!inkLeft && inkRight) dir = diagonal === 'join' ? (dir + 1) & 3 : (dir + 3) & 3;
			} while (cx !== sx || cy !== sy || dir !== sdir);
			// In a frame with y down, ink on the left means an outer loop runs anticlockwise as seen.
			if (Math.abs(area) >= options.leastAreaPx) {
				const points = stairs ? pointsBehindStairs(sx, sy, dirs) : acrossOnly(buffer, across, count);
				contours.push({ points, area: -area });
			}
		}
	}
	return contours;
}

/**
 * How far from the ink pixel's centre toward the paper pixel's the edge lies, in px, from the ink found along the line
 * of pixels through both. Nothing where the line does not run from full ink to full paper (thin or faint strokes).
 */
function coverShare(
	grey: Uint8Array,
	widthPx: number,
	ix: number,
	iy: number,
	ox: number,
	oy: number,
	x0: number,
	y0: number,
	x1: number,
	y1: number,
	tones: { readonly ink: number; readonly paper: number }
): number | undefined {
	const dx = ox - ix;
	const dy = oy - iy;
	const span = tones.ink - tones.paper;
	const cover = (x: number, y: number) => (grey[y * widthPx + x] - tones.paper) / span;
	// Ink side: count what is missing from full cover.
	let missing = 0;
	let before = cover(ix, iy);
	let x = ix;
	let y = iy;
	let k = 0;
	for (; k < COVER_REACH && before < FULL; k++) {
		missing += 1 - before;
		x -= dx;
		y -= dy;
		if (x < x0 || x >= x1 || y < y0 || y >= y1) break;
		const next = cover(x, y);
		if (next < before - RIPPLE) return undefined;
		before = next;
	}
	if (before < NEARLY && k === COVER_REACH) return undefined;
	let spilled = 0;
	before = cover(ox, oy);
	x = ox;
	y = oy;
	for (k = 0; k < COVER_REACH && before > 1 - FULL; k++) {
		spilled += before;
		x += dx;
		y += dy;
		if (x < x0 || x >= x1 || y < y0 || y >= y1) break;
		const next = cover(x, y);
		if (next > before + RIPPLE) return undefined;
		before = next;
	}
	if (before > 1 - NEARLY && k === COVER_REACH) return undefined;
	return 0.5 + spilled - missing;
}
/**
 * The same at the picture's border, beyond which nothing is seen: ink that runs along it and ends within the last pixels (a round
 * thing that just touches it) leaves some of them unfilled; ink that is cut by it leaves none.
 */
function shareAtBorder(
	grey: Uint8Array,
	widthPx: number,
	heightPx: number,
	ix: number,
	iy: number,
	ox: number,
	oy: number,
	tones: { readonly ink: number; readonly paper: number }
): number {
	const dx = ox - ix;
	const dy = oy - iy;
	const span = tones.ink - tones.paper;
	const cover = (x: number, y: number) =>
		x < 0 || x >= widthPx || y < 0 || y >= heightPx ? 0 : (grey[y * widthPx + x] - tones.paper) / span;
	// Where the edge crosses the border instead, what is missing is missing beside it.
	if (Math.abs(cover(ix + dy, iy + dx) - cover(ix - dy, iy - dx)) > ALONG_BORDER) return 0.5;
	let missing = 0;
	for (let k = 0; k < COVER_REACH; k++) {
		const here = cover(ix - k * dx, iy - k * dy);
		if (here >= FULL) return Math.max(-0.5, 0.5 - missing);
		missing += 1 - here;
	}
	return 0.5;
}
/** How much cover may change over two pixels along the border. */
const ALONG_BORDER = 0.6;
const COVER_REACH = 4;
/** Cover that counts as full; as nearly full at the end of the reach; and how far it may ripple on the way. */
const FULL = 0.985;
const NEARLY = 0.88;
const RIPPLE = 0.12;

/**
 * Keeps the points whose row or column runs across the edge rather than along it: along a nearly level edge the
 * columns tell exactly where it lies, the rows hardly. A contour too small for the choice keeps all.
 */
function acrossOnly(points: Float64Array, across: Uint8Array, count: number): Float64Array {
	const out = new Float64Array(2 * count);
	let kept = 0;
	for (let i = 0; i < count; i++) {
		if (!across[i]) continue;
		out[2 * kept] = points[2 * i];
		out[2 * kept + 1] = points[2 * i + 1];
		kept++;
	}
	return kept < 8 ? points.slice(0, 2 * count) : out.slice(0, 2 * kept);
}

// Scratch pairs: the two pixels that touch corner (cx, cy) ahead of the walk.
const leftPixel: [number, number] = [0, 0];
const rightPixel: [number, number] = [0, 0];
function aheadLeft(dir: number, cx: number, cy: number): [number, number] {
	leftPixel[0] = dir === 0 || dir === 1 ? cx : cx - 1;
	leftPixel[1] = dir === 1 || dir === 2 ? cy : cy - 1;
	return leftPixel;
}
function aheadRight(dir: number, cx: number, cy: number): [number, number] {
	rightPixel[0] = dir === 0 || dir === 3 ? cx : cx - 1;
	rightPixel[1] = dir === 0 || dir === 1 ? cy : cy - 1;
	return rightPixel;
}
