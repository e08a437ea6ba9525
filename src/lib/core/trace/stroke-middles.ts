/** Where the middle of a drawn stroke lies, and how wide it is, by the ink square to it. */
import { toneBetween, type GreyPicture } from './picture';

/** Ink square to a line: where its middle is and how wide it is. */
export class Profile {
	constructor(
		private readonly picture: GreyPicture,
		private readonly ink: number,
		private readonly paper: number
	) {}

	/** Share of ink at a place, 0..1, between pixel centres by the four around. */
	at(x: number, y: number): number {
		const tone = toneBetween(this.picture, x, y);
		return Math.min(1, Math.max(0, (this.paper - tone) / (this.paper - this.ink || 1)));
	}

	/**
	 * The middle of the ink along a direction through a place, signed, and its width, px; and how far its edges are blurred, px^2:
	 * by how much it is more spread out than a stroke of that width with sharp edges.
	 */
	across(
		x: number,
		y: number,
		nx: number,
		ny: number,
		reach: number
	): { off: number; width: number; blurSq: number } {
		const step = 0.25;
		let sum = 0;
		let moment = 0;
		let second = 0;
		const side = (sign: 1 | -1) => {
			for (let d = sign > 0 ? 0 : step; d <= reach; d += step) {
				const share = this.at(x + sign * d * nx, y + sign * d * ny);
				if (share < 0.04) break;
				sum += share;
				moment += share * sign * d;
				second += share * d * d;
			}
		};
		side(1);
		side(-1);
		const off = sum > 0 ? moment / sum : 0;
		const width = sum * step;
		return { off, width, blurSq: sum > 0 ? second / sum - off * off - (width * width) / 12 : 0 };
	}

	/** How far ink reaches from a place in a direction, px: to half of what there is at the place. */
	reach(x: number, y: number, tx: number, ty: number, most: number): number {
		let before = this.at(x, y);
		const half = before / 2;
		for (let d = 0.25; d <= most; d += 0.25) {
			const here = this.at(x + d * tx, y + d * ty);
			if (here < half) return d - 0.25 + (0.25 * (before - half)) / Math.max(1e-6, before - here);
			before = here;
		}
		return most;
	}
}

/** The middle of the stroke along a chain of pixels, to a fraction of a pixel, and the stroke's width. */
export function middleOf(
	chain: { pixels: readonly number[]; closed: boolean },
	depth: Float32Array,
	widthPx: number,
	profile: Profile,
	isFree: readonly [boolean, boolean]
): { points: Float64Array; width: number } {
	const { pixels, closed } = chain;
	const n = pixels.length;
	let x = Float64Array.from(pixels, (i) => (i % widthPx) + 0.5);
	let y = Float64Array.from(pixels, (i) => Math.floor(i / widthPx) + 0.5);
	const depths = pixels.map((i) => depth[i]).sort((a, b) => a - b);
	const radius = Math.max(0.7, depths[n >> 1]);
	const widths: number[] = [];
	const blurs: number[] = [];
	const direction = (i: number): [number, number] => {
		const reach = Math.max(3, Math.ceil(1.5 * radius));
		const a = closed ? (i - reach + n) % n : Math.max(0, i - reach);
		const b = closed ? (i + reach) % n : Math.min(n - 1, i + reach);
		const dx = x[b] - x[a];
		const dy = y[b] - y[a];
		const size = Math.hypot(dx, dy) || 1;
		return [dx / size, dy / size];
	};
	for (let round = 0; round < 2; round++) {
		const nx = Float64Array.from(x);
		const ny = Float64Array.from(y);
		widths.length = 0;
		blurs.length = 0;
		for (let i = 0; i < n; i++) {
			const [tx, ty] = direction(i);
			const { off, width, blurSq } = profile.across(x[i], y[i], -ty, tx, 1.8 * radius + 2);
			widths.push(width);
			blurs.push(blurSq);
			if (Math.abs(off) > radius + 1) continue;
			nx[i] = x[i] - ty * off;
			ny[i] = y[i] + tx * off;
		}
		x = nx;
		y = ny;
	}
	const middle = (values: readonly number[]) => [...values].sort((a, b) => a - b)[values.length >> 1];
	const width = middle(widths) ?? 1;
	const blur = Math.sqrt(Math.max(SHARPEST * SHARPEST, middle(blurs) ?? 0));
	const out: number[] = [];
	for (let i = 0; i < n; i++) out.push(x[i], y[i]);
	// Thinning eats the ends; and the profiles near them look round the corner.
	if (!closed) {
		if (isFree[1]) mendEnd(out, width, blur, profile);
		if (isFree[0]) {
			const back: number[] = [];
			for (let i = out.length - 2; i >= 0; i -= 2) back.push(out[i], out[i + 1]);
			mendEnd(back, width, blur, profile);
			out.length = 0;
			for (let i = back.length - 2; i >= 0; i -= 2) out.push(back[i], back[i + 1]);
		}
	}
	return { points: Float64Array.from(out), width };
}

/** px: no edge is seen sharper, by pixels and between them. */
const SHARPEST = 0.45;
/** Where it is told how a stroke ends: back from its tip, as a share of its width. */
const LOOK = 0.175;
/** Share of its width that a stroke has there where its end is round: seen at widths from 2.5 to 14 px, sharp and blurred. */
const ROUND = 0.72;
/** Share of a width by which what is seen may err: between a round and a square end by no more than this either way is in between. */
const UNSURE = 0.05;
/** The share of a Gaussian below z, by the logistic curve nearest to it (Bowling and others 2009; within 0.01). */
const below = (z: number) => 1 / (1 + Math.exp(-1.702 * z));

/**
 * Carries the last end on to where the stroke ends: at its edge where it is cut off square, half a width before where round.
 * @param blur of its edges, px: a Gaussian's.
 */
function mendEnd(points: number[], width: number, blur: number, profile: Profile): void {
	const half = width / 2;
	// What lies within half a width of the end is not trusted.
	let cut = points.length / 2 - 1;
	const ex = points[2 * cut];
	const ey = points[2 * cut + 1];
	while (cut > 3 && Math.hypot(points[2 * cut] - ex, points[2 * cut + 1] - ey) < 1.2 * half) cut--;
	const back = Math.max(0, cut - Math.max(4, Math.ceil(2 * width)));
	let dx = points[2 * cut] - points[2 * back];
	let dy = points[2 * cut + 1] - points[2 * back + 1];
	const size = Math.hypot(dx, dy);
	if (!(size > 0)) return;
	dx /= size;
	dy /= size;
	const x = points[2 * cut];
	const y = points[2 * cut + 1];
	const reach = profile.reach(x, y, dx, dy, 3 * width + 4);
	// Full width close to the tip says that it is cut off square: as full as the blur leaves it there.
	const look = Math.max(0, reach - LOOK * width);
	const there = profile.across(x + dx * look, y + dy * look, -dy, dx, width + 2).width / width;
	const cutOff = below((LOOK * width) / blur);
	const surely = 0.5 + (there - (cutOff + ROUND) / 2) / (2 * UNSURE);
	// Blurred so far that both would look alike, it is in between.
	const square = cutOff < ROUND + 0.04 ? 0.5 : Math.min(1, Math.max(0, surely));
	const end = Math.max(0, reach - (1 - square) * half);
	points.length = 2 * cut + 2;
	if (end < 0.2) return;
	const steps = Math.max(1, Math.round(end));
	for (let k = 1; k <= steps; k++) points.push(x + (dx * end * k) / steps, y + (dy * end * k) / steps);
}
