/** Finds a bright sheet on a darker ground, or a dark one on a brighter ground, in a photograph. */
import type { Point } from '../geometry/point';
import { CoreError } from '../errors';
import { finish } from '../progress';
import { followBoundaries } from './boundary';
import { fitLine, type LineCurve } from './curves';
import type { Corner } from './perspective';
import { toneBetween, type GreyPicture } from './picture';
import { blurred } from './prepare';
import { otsuThreshold, toneHistogram } from './threshold';

export interface FoundSheet {
	/** px, clockwise as seen, the first the one nearest to the picture's upper left. */
	readonly corners: readonly Corner[];
	/** How far the edge's places lie from the straight sides: root mean square, px. */
	readonly straightness: number;
}

/** Places looked at along each side. */
const PLACES = 240;

/**
 * The four corners of the largest sheet, from straight lines through its edges.
 *
 * @throws CoreError `no-sheet` where no four-sided sheet stands out.
 */
export function findSheet(picture: GreyPicture): FoundSheet {
	const coarse = shrunk(picture, 700);
	const soft = blurred(coarse.picture, 1.5);
	const threshold = otsuThreshold(toneHistogram(soft.grey));
	for (const light of [true, false]) {
		const quad = largestQuad(soft, threshold, light);
		if (!quad) continue;
		const corners = quad.map((c) => ({ x: c.x * coarse.by, y: c.y * coarse.by }));
		const found = refine(picture, corners);
		if (found) return found;
	}
	throw new CoreError('no-sheet', 'No sheet with four straight edges was found. Pick its corners by hand.');
}

/** The picture by whole steps smaller, each pixel the mean of those that it covers. */
function shrunk(picture: GreyPicture, most: number): { picture: GreyPicture; by: number } {
	const by = Math.max(1, Math.floor(Math.max(picture.widthPx, picture.heightPx) / most));
	if (by === 1) return { picture, by };
	const widthPx = Math.floor(picture.widthPx / by);
	const heightPx = Math.floor(picture.heightPx / by);
	const grey = new Uint8Array(widthPx * heightPx);
	for (let y = 0; y < heightPx; y++) {
		for (let x = 0; x < widthPx; x++) {
			let sum = 0;
			for (let j = 0; j < by; j++)
				for (let i = 0; i < by; i++) sum += picture.grey[(y * by + j) * picture.widthPx + x * by + i];
			grey[y * widthPx + x] = sum / (by * by) + 0.5;
		}
	}
	return { picture: { widthPx, heightPx, grey }, by };
}

function largestQuad(picture: GreyPicture, threshold: number, light: boolean): Corner[] | undefined {
	const { widthPx, heightPx, grey } = picture;
	const contours = finish(
		followBoundaries(grey, widthPx, heightPx, {
			threshold,
			light,
			diagonal: 'part',
			leastAreaPx: 0.04 * widthPx * heightPx
		})
	);
	const solids = contours.filter((c) => c.area > 0).sort((a, b) => b.area - a.area);
	for (const { points } of solids.slice(0, 3)) {
		const quad = quadOf(points);
		// A sheet that fills the picture's frame has no edges to be seen.
		const inside = quad.filter((c) => c.x > 2 && c.y > 2 && c.x < widthPx - 2 && c.y < heightPx - 2);
		if (quad.length === 4 && inside.length >= 3) return inOrder(quad);
	}
	return undefined;
}

/** The four points of a contour that span the largest four-sided area, by turns each moved to its best place. */
function quadOf(points: Float64Array): Corner[] {
	const n = points.length / 2;
	const step = Math.max(1, Math.floor(n / 400));
	const places: Corner[] = [];
	for (let i = 0; i < n; i += step) places.push({ x: points[2 * i], y: points[2 * i + 1] });
	const m = places.length;
	let at = [0, Math.floor(m / 4), Math.floor(m / 2), Math.floor((3 * m) / 4)];
	const area = (a: number[]) => {
		let twice = 0;
		for (let k = 0; k < 4; k++) {
			const p = places[a[k]];
			const q = places[a[(k + 1) % 4]];
			twice += p.x * q.y - p.y * q.x;
		}
		return Math.abs(twice);
	};
	for (let round = 0; round < 12; round++) {
		const before = at.join();
		for (let k = 0; k < 4; k++) {
			let best = at[k];
			let most = area(at);
			for (let i = 0; i < m; i++) {
				const next = [...at];
				next[k] = i;
				const here = area(next);
				if (here > most) {
					most = here;
					best = i;
				}
			}
			at[k] = best;
			at = [...at].sort((a, b) => a - b);
		}
		if (at.join() === before) break;
	}
	return new Set(at).size === 4 ? at.map((i) => places[i]) : [];
}

/** Clockwise as seen (y down), begun at the corner nearest to the upper left. */
function inOrder(quad: readonly Corner[]): Corner[] {
	const cx = quad.reduce((s, c) => s + c.x, 0) / 4;
	const cy = quad.reduce((s, c) => s + c.y, 0) / 4;
	const round = [...quad].sort((a, b) => Math.atan2(a.y - cy, a.x - cx) - Math.atan2(b.y - cy, b.x - cx));
	let first = 0;
	round.forEach((c, k) => {
		if (c.x + c.y < round[first].x + round[first].y) first = k;
	});
	return [0, 1, 2, 3].map((k) => round[(first + k) % 4]);
}

/**
 * The corners to a fraction of a pixel: along each side the edge is looked for square to it, half way between the tones
 * inside and outside there; a straight is laid through, what lies far off left out, and neighbouring straights meet.
 */
function refine(picture: GreyPicture, quad: readonly Corner[]): FoundSheet | undefined {
	let corners = [...quad];
	let straightness = 0;
	for (const reach of [14, 7, 5]) {
		const lines: LineCurve[] = [];
		let sum = 0;
		let count = 0;
		for (let k = 0; k < 4; k++) {
			const a = corners[k];
			const b = corners[(k + 1) % 4];
			const places = edgePlaces(picture, a, b, reach);
			const line = robustLine(places);
			if (!line) return undefined;
			lines.push(line.line);
			sum += line.sum;
			count += line.count;
		}
		const next: Corner[] = [];
		for (let k = 0; k < 4; k++) {
			const p = lines[(k + 3) % 4];
			const q = lines[k];
			const det = p.tx * q.ty - p.ty * q.tx;
			if (Math.abs(det) < 0.1) return undefined;
			const u = ((q.x - p.x) * q.ty - (q.y - p.y) * q.tx) / det;
			next.push({ x: p.x + u * p.tx, y: p.y + u * p.ty });
		}
		corners = next;
		straightness = Math.sqrt(sum / Math.max(1, count));
	}
	return { corners, straightness };
}

function edgePlaces(picture: GreyPicture, a: Corner, b: Corner, reach: number): Point[] {
	const { widthPx, heightPx } = picture;
	const length = Math.hypot(b.x - a.x, b.y - a.y) || 1;
	const tx = (b.x - a.x) / length;
	const ty = (b.y - a.y) / length;
	const tone = (x: number, y: number) => toneBetween(picture, x, y);
	const out: Point[] = [];
	const profile = new Float64Array(4 * reach + 1);
	for (let k = 0; k < PLACES; k++) {
		const at = 0.04 + (0.92 * (k + 0.5)) / PLACES;
		const x = a.x + at * (b.x - a.x);
		const y = a.y + at * (b.y - a.y);
		if (x < reach || y < reach || x > widthPx - reach || y > heightPx - reach) continue;
		for (let i = 0; i < profile.length; i++) {
			const d = (i - 2 * reach) / 2;
			// A little averaging along the side.
			profile[i] =
				(tone(x - ty * d, y + tx * d) +
					tone(x - ty * d + tx, y + tx * d + ty) +
					tone(x - ty * d - tx, y + tx * d - ty)) /
				3;
		}
		const end = Math.max(2, Math.floor(profile.length / 6));
		const mean = (from: number) => {
			let s = 0;
			for (let i = from; i < from + end; i++) s += profile[i];
			return s / end;
		};
		const low = mean(0);
		const high = mean(profile.length - end);
		if (Math.abs(high - low) < 12) continue;
		const level = (low + high) / 2;
		// The passage nearest to the middle.
		let best = Infinity;
		for (let i = 0; i + 1 < profile.length; i++) {
			const p = profile[i] - level;
			const q = profile[i + 1] - level;
			if (p * q > 0 || p === q || p > q !== low > high) continue;
			const d = (i + p / (p - q) - 2 * reach) / 2;
			if (Math.abs(d) < Math.abs(best)) best = d;
		}
		if (best !== Infinity) out.push({ x: x - ty * best, y: y + tx * best });
	}
	return out;
}

function robustLine(places: readonly Point[]): { line: LineCurve; sum: number; count: number } | undefined {
	let kept = [...places];
	let line: LineCurve | undefined;
	for (let round = 0; round < 8; round++) {
		if (kept.length < PLACES / 6) return undefined;
		const points = {
			x: Float64Array.from(kept, (p) => p.x),
			y: Float64Array.from(kept, (p) => p.y),
			from: 0,
			to: kept.length - 1
		};
		const now = (line = fitLine(points));
		const off = (p: Point) => Math.abs((p.y - now.y) * now.tx - (p.x - now.x) * now.ty);
		const offs = kept.map(off).sort((a, b) => a - b);
		const limit = Math.max(0.3, 3 * 1.48 * offs[offs.length >> 1]);
		const next = kept.filter((p) => off(p) <= limit);
		if (next.length === kept.length) break;
		kept = next;
	}
	if (!line) return undefined;
	const at = line;
	const sum = kept.reduce((s, p) => s + ((p.y - at.y) * at.tx - (p.x - at.x) * at.ty) ** 2, 0);
	return { line, sum, count: kept.length };
}
