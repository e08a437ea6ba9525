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

	/** The middle of the ink along a direction through a place, signed, and its width; px. */
	across(x: number, y: number, nx: number, ny: number, reach: number): { off: number; width: number } {
		const step = 0.25;
		let sum = 0;
		let moment = 0;
		const side = (sign: 1 | -1) => {
			for (let d = sign > 0 ? 0 : step; d <= reach; d += step) {
				const share = this.at(x + sign * d * nx, y + sign * d * ny);
				if (share < 0.04) break;
				sum += share;
				moment += share * sign * d;
			}
		};
		side(1);
		side(-1);
		return { off: sum > 0 ? moment / sum : 0, width: sum * step };
	}

	/** How far ink reaches from a place in a direction, px. */
	reach(x: number, y: number, tx: number, ty: number, most: number): number {
		let before = this.at(x, y);
		for (let d = 0.25; d <= most; d += 0.25) {
			const here = this.at(x + d * tx, y + d * ty);
			if (here < 0.5) return d - 0.25 + (0.25 * (before - 0.5)) / Math.max(1e-6, before - here);
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
		for (let i = 0; i < n; i++) {
			const [tx, ty] = direction(i);
			const { off, width } = profile.across(x[i], y[i], -ty, tx, 1.8 * radius + 2);
			widths.push(width);
			if (Math.abs(off) > radius + 1) continue;
			nx[i] = x[i] - ty * off;
			ny[i] = y[i] + tx * off;
		}
		x = nx;
		y = ny;
	}
	const sorted = [...widths].sort((a, b) => a - b);
	const width = sorted[sorted.length >> 1] ?? 1;
	const out: number[] = [];
	for (let i = 0; i < n; i++) out.push(x[i], y[i]);
	// Thinning eats the ends; and the profiles near them look round the corner.
	if (!closed) {
		if (isFree[1]) mendEnd(out, width, profile);
		if (isFree[0]) {
			const back: number[] = [];
			for (let i = out.length - 2; i >= 0; i -= 2) back.push(out[i], out[i + 1]);
			mendEnd(back, width, profile);
			out.length = 0;
			for (let i = back.length - 2; i >= 0; i -= 2) out.push(back[i], back[i + 1]);
		}
	}
	return { points: Float64Array.from(out), width };
}

/** Carries the last end on to where the stroke ends: at its edge where it is cut off square, half a width before where round. */
function mendEnd(points: number[], width: number, profile: Profile): void {
	const half = width / 2;
	// What lies within half a width of the end is not trusted.
	let cut = points.length / 2 - 1;
	const ex = points[2 * cut];
	const ey = points[2 * cut + 1];
	while (cut > 3 && Math.hypot(points[2 * cut] - ex, points[2 * cut + 1] - ey) < 0.6 * half) cut--;
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
	// Full width close to the tip says that it is cut off square.
	const look = Math.max(0, reach - 0.35 * half);
	const there = profile.across(x + dx * look, y + dy * look, -dy, dx, width + 2).width;
	const end = there > 0.86 * width ? reach : Math.max(0, reach - half);
	points.length = 2 * cut + 2;
	if (end < 0.2) return;
	const steps = Math.max(1, Math.round(end));
	for (let k = 1; k <= steps; k++) points.push(x + (dx * end * k) / steps, y + (dy * end * k) / steps);
}
