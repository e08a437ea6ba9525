/**
 * Strokes so thin that pixels or blur let their two edges run into each other: where the tone passes the threshold tells neither
 * then. The ink across does: a stroke is as wide as the full ink that lies there, about the ink's own middle.
 */
import type { Point } from '../geometry/point';
import { inkAcross, type Across, type Tones } from './across';
import type { Contour } from './boundary';
import { toneBetween, type GreyPicture } from './picture';
import { erf } from './prepare';

/** px: a stroke is thin below that, more in a blurred picture. */
const thinBelow = (blur: number) => 3 + 4.5 * blur;

/** What lies across a stroke at one point of its contour. */
interface Beside {
	readonly index: number;
	/** Out of the ink, square to the contour. */
	readonly out: Point;
	readonly middle: Point;
	readonly across: Across;
}

/** Looks from the points of a contour across the ink; every `every`th point. */
function* strokesBeside(
	picture: GreyPicture,
	{ points }: Contour,
	tones: Tones,
	blur: number,
	every: number
): Generator<Beside> {
	const n = points.length / 2;
	const most = thinBelow(blur);
	const look = inkAcross(picture, tones, blur, most + 4);
	const half = (tones.ink + tones.paper) / 2;
	const sign = Math.sign(tones.ink - tones.paper);
	const isInk = (x: number, y: number) => sign * (toneBetween(picture, x, y) - half) > 0;
	const side = Math.max(2, Math.round(1.5 + blur));
	for (let i = 0; i < n; i += every) {
		const [a, b] = [(i + n - side) % n, (i + side) % n];
		const [tx, ty] = [points[2 * b] - points[2 * a], points[2 * b + 1] - points[2 * a + 1]];
		const size = Math.hypot(tx, ty);
		if (!size) continue;
		// Ink on the left, y down.
		const inward = { x: ty / size, y: -tx / size };
		const [x, y] = [points[2 * i], points[2 * i + 1]];
		let wide = 0.5;
		while (wide <= most && isInk(x + inward.x * wide, y + inward.y * wide)) wide += 0.25;
		if (wide > most) continue;
		const at = { x: x + (inward.x * wide) / 2, y: y + (inward.y * wide) / 2 };
		// Along the contour as it runs: then the way's left is where `off` counts to.
		const across = look(at, { x: tx / size, y: ty / size }, wide);
		if (!across || across.width > most + 1) continue;
		const middle = { x: at.x - (ty / size) * across.off, y: at.y + (tx / size) * across.off };
		yield { index: i, out: { x: -inward.x, y: -inward.y }, middle, across };
	}
}

/** The contour with the edges of its thin strokes where the ink across says. */
export function withThinStrokes(picture: GreyPicture, contour: Contour, tones: Tones, blur: number): Contour {
	const points = Float64Array.from(contour.points);
	for (const { index, out, middle, across } of strokesBeside(picture, contour, tones, blur, 1)) {
		points[2 * index] = middle.x + (out.x * across.width) / 2;
		points[2 * index + 1] = middle.y + (out.y * across.width) / 2;
	}
	return { ...contour, points };
}

/** So many places tell what full ink is. */
const ENOUGH = 60;
/** By so much darker than the darkest common tone full ink may be, as a share of its distance from paper. */
const MOST_DARKER = 0.7;
/** Below so much darker it is the common tone: a height that is full tells of no blur at all. */
const LEAST_DARKER = 1.1;
/** px of blur from which no height is full by itself, and the same there. */
const CLEARLY_BLURRED = 0.8;
const LEAST_DARKER_BLURRED = 1.02;
/** px: so much must the two differ there. */
const LEAST_APART = 0.02;

/**
 * The tone of full ink where a blurred picture has strokes only that are too thin to show it: the one with which the strokes'
 * height and their spread tell of the same blur. Nothing where the ink is seen.
 */
export function inkOfThinStrokes(
	picture: GreyPicture,
	contours: readonly Contour[],
	tones: Tones,
	blur: number
): number | undefined {
	const whole = contours.reduce((sum, c) => sum + c.points.length / 2, 0);
	const every = Math.max(1, Math.round(whole / 3000));
	const found: Across[] = [];
	for (const contour of contours)
		for (const { across } of strokesBeside(picture, contour, tones, blur, every)) found.push(across);
	if (found.length < ENOUGH || found.length * every < 0.5 * whole) return undefined;
	/** How much more blur the spread tells than the height, at a darker ink. */
	const apart = (darker: number): number => {
		const each = found.map(({ width, most, spread }) => {
			const w = width / darker;
			return Math.sqrt(Math.max(0, spread - (w * w) / 12)) - blurOf(most / darker, w);
		});
		each.sort((a, b) => a - b);
		return each[each.length >> 1];
	};
	let [low, high] = [blur >= CLEARLY_BLURRED ? LEAST_DARKER_BLURRED : LEAST_DARKER, 1 + MOST_DARKER];
	// The darker the ink is taken for, the narrower the strokes, and the less their height tells of blur beside their spread.
	if (apart(low) <= LEAST_APART || apart(high) > 0) return undefined;
	for (let k = 0; k < 30; k++) {
		const middle = (low + high) / 2;
		if (apart(middle) > 0) low = middle;
		else high = middle;
	}
	const ink = tones.paper + (tones.ink - tones.paper) * low;
	return Math.max(0, Math.min(255, ink));
}

/** px: the blur that leaves of a stroke of full ink so much height. */
function blurOf(height: number, width: number): number {
	if (height >= 0.999) return 0;
	let [low, high] = [0.05, 10];
	for (let k = 0; k < 30; k++) {
		const middle = (low + high) / 2;
		if (erf(width / (2 * Math.SQRT2 * middle)) > height) low = middle;
		else high = middle;
	}
	return low;
}
