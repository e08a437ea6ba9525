/**
 * Pieces on a sheet while they are being arranged: they may lie in each other. Whether two do is told by their polygons; how deep, by
 * their discs: a sum over pairs of discs of how far they are into each other, falling off smoothly where they are not, times the size of the
 * pieces. Pairs have weights, so that a search finds its way out of where it is stuck (guided local search: Umetani et al. 2009).
 */
import type { ArrangeShape } from './shape';

/** Which turns a piece may take, degrees added to how it lies; 'free' any. */
export type Turns = readonly number[] | 'free';

export interface LayoutPiece {
	readonly shape: ArrangeShape;
	readonly turns: Turns;
	/** It lies where it lies: a spoilt place, the world outside a hide. */
	readonly isFixed?: boolean;
}

/** x, y of the centre and radians of its turn. */
export interface Placed {
	x: number;
	y: number;
	angle: number;
}

/** Of the size of two pieces: discs nearer than this to each other count though they do not touch. */
const SOFT = 0.01;

export class Layout {
	readonly n: number;
	readonly x: Float64Array;
	readonly y: Float64Array;
	readonly angle: Float64Array;
	/** Corners and discs where they lie now. */
	private readonly corners: Float64Array[];
	private readonly discs: Float64Array[];
	/** x0, y0, x1, y1 of each. */
	private readonly boxes: Float64Array;
	private readonly weights: Float32Array;
	private readonly size: Float64Array;
	/** A piece held where it is tried. */
	private readonly triedCorners: Float64Array;
	private readonly triedDiscs: Float64Array;
	private tx0 = 0;
	private ty0 = 0;
	private tx1 = 0;
	private ty1 = 0;
	private readonly inA: Int32Array;
	private readonly inB: Int32Array;
	/** The room: pieces lie within 0..width, 0..length. */
	length = Infinity;
	/** How often a place was looked at: the work done. */
	looks = 0;

	constructor(
		readonly pieces: readonly LayoutPiece[],
		readonly width: number
	) {
		const n = (this.n = pieces.length);
		this.x = new Float64Array(n);
		this.y = new Float64Array(n);
		this.angle = new Float64Array(n);
		this.corners = pieces.map(({ shape }) => new Float64Array(shape.points.length));
		this.discs = pieces.map(({ shape }) => Float64Array.from(shape.discs));
		this.boxes = new Float64Array(4 * n);
		this.weights = new Float32Array(n * n).fill(1);
		this.size = Float64Array.from(pieces, ({ shape }) => Math.sqrt(Math.max(1e-9, shape.area)));
		const most = pieces.reduce((m, { shape }) => Math.max(m, shape.points.length), 0);
		const mostDiscs = pieces.reduce((m, { shape }) => Math.max(m, shape.discs.length), 0);
		this.triedCorners = new Float64Array(most);
		this.triedDiscs = new Float64Array(mostDiscs);
		this.inA = new Int32Array(most);
		this.inB = new Int32Array(most);
	}

	/** Puts a piece somewhere. */
	put(i: number, x: number, y: number, angle: number): void {
		this.x[i] = x;
		this.y[i] = y;
		this.angle[i] = angle;
		this.tryAt(i, x, y, angle);
		const { points, discs } = this.pieces[i].shape;
		this.corners[i].set(this.triedCorners.subarray(0, points.length));
		this.discs[i].set(this.triedDiscs.subarray(0, discs.length));
		const k = 4 * i;
		this.boxes[k] = this.tx0;
		this.boxes[k + 1] = this.ty0;
		this.boxes[k + 2] = this.tx1;
		this.boxes[k + 3] = this.ty1;
	}
	/** The top of what a piece takes up. */
	topOf(i: number): number {
		return this.boxes[4 * i + 3];
	}

	/** A piece held at a place: its corners and discs there. */
	private tryAt(i: number, x: number, y: number, angle: number): void {
		const { points, discs } = this.pieces[i].shape;
		const c = Math.cos(angle);
		const s = Math.sin(angle);
		const { triedCorners: to, triedDiscs } = this;
		let [x0, y0, x1, y1] = [Infinity, Infinity, -Infinity, -Infinity];
		for (let k = 0; k < points.length; k += 2) {
			const u = x + c * points[k] - s * points[k + 1];
			const v = y + s * points[k] + c * points[k + 1];
			to[k] = u;
			to[k + 1] = v;
			if (u < x0) x0 = u;
			if (u > x1) x1 = u;
			if (v < y0) y0 = v;
			if (v > y1) y1 = v;
		}
		this.tx0 = x0;
		this.ty0 = y0;
		this.tx1 = x1;
		this.ty1 = y1;
		for (let k = 0; k < discs.length; k += 3) {
			triedDiscs[k] = x + c * discs[k] - s * discs[k + 1];
			triedDiscs[k + 1] = y + s * discs[k] + c * discs[k + 1];
			triedDiscs[k + 2] = discs[k + 2];
		}
	}

	/** x and y of a place moved so that the piece lies within the room. @returns false where it does not fit so turned. */
	within(i: number, place: Placed): boolean {
		const { points } = this.pieces[i].shape;
		const c = Math.cos(place.angle);
		const s = Math.sin(place.angle);
		let [x0, y0, x1, y1] = [Infinity, Infinity, -Infinity, -Infinity];
		for (let k = 0; k < points.length; k += 2) {
			const u = c * points[k] - s * points[k + 1];
			const v = s * points[k] + c * points[k + 1];
			if (u < x0) x0 = u;
			if (u > x1) x1 = u;
			if (v < y0) y0 = v;
			if (v > y1) y1 = v;
		}
		if (x1 - x0 > this.width || y1 - y0 > this.length) return false;
		place.x = Math.min(this.width - x1, Math.max(-x0, place.x));
		place.y = Math.min(this.length - y1, Math.max(-y0, place.y));
		return true;
	}

	/** The weighted sum of what a piece would lie in others; Infinity as soon as it passes `most`. */
	loss(i: number, place: Placed, most: number): number {
		this.looks++;
		this.tryAt(i, place.x, place.y, place.angle);
		const { boxes, n, weights } = this;
		const { tx0, ty0, tx1, ty1 } = this;
		let sum = 0;
		for (let j = 0, k = 0; j < n; j++, k += 4) {
			if (boxes[k] >= tx1 || boxes[k + 2] <= tx0 || boxes[k + 1] >= ty1 || boxes[k + 3] <= ty0 || j === i)
				continue;
			if (!this.meets(i, j)) continue;
			sum += weights[i * n + j] * this.depth(i, j);
			if (sum > most) return Infinity;
		}
		return sum;
	}

	/** Whether the piece that is held lies in another, whose box it meets. */
	private meets(i: number, j: number): boolean {
		const a = this.triedDiscs;
		const b = this.discs[j];
		const na = this.pieces[i].shape.discs.length;
		for (let p = 0; p < na; p += 3) {
			const [x, y, r] = [a[p], a[p + 1], a[p + 2]];
			for (let q = 0; q < b.length; q += 3) {
				const dx = b[q] - x;
				const dy = b[q + 1] - y;
				const rr = b[q + 2] + r;
				if (dx * dx + dy * dy < rr * rr) return true;
			}
		}
		const A = this.pieces[i].shape;
		const B = this.pieces[j].shape;
		const cornersB = this.corners[j];
		const k = 4 * j;
		const x0 = Math.max(this.tx0, this.boxes[k]);
		const y0 = Math.max(this.ty0, this.boxes[k + 1]);
		const x1 = Math.min(this.tx1, this.boxes[k + 2]);
		const y1 = Math.min(this.ty1, this.boxes[k + 3]);
		const ca = edgesIn(this.triedCorners, A.ends, x0, y0, x1, y1, this.inA);
		const cb = ca === 0 ? 0 : edgesIn(cornersB, B.ends, x0, y0, x1, y1, this.inB);
		for (let p = 0; p < ca; p += 2) {
			const p0 = this.inA[p];
			const p1 = this.inA[p + 1];
			const [ax, ay, bx, by] = [
				this.triedCorners[p0],
				this.triedCorners[p0 + 1],
				this.triedCorners[p1],
				this.triedCorners[p1 + 1]
			];
			for (let q = 0; q < cb; q += 2)
				if (
					edgesCross(
						ax,
						ay,
						bx,
						by,
						cornersB[this.inB[q]],
						cornersB[this.inB[q] + 1],
						cornersB[this.inB[q + 1]],
						cornersB[this.inB[q + 1] + 1]
					)
				)
					return true;
		}
		// No edges cross: one may lie wholly in the other.
		return (
			isWithin(cornersB, B.ends, this.triedCorners[0], this.triedCorners[1]) ||
			isWithin(this.triedCorners, A.ends, cornersB[0], cornersB[1])
		);
	}

	/** How deep the piece that is held lies in another. */
	private depth(i: number, j: number): number {
		const a = this.triedDiscs;
		const b = this.discs[j];
		const na = this.pieces[i].shape.discs.length;
		const soft = SOFT * Math.min(this.size[i], this.size[j]);
		let sum = 0;
		for (let p = 0; p < na; p += 3) {
			const [x, y, r] = [a[p], a[p + 1], a[p + 2]];
			for (let q = 0; q < b.length; q += 3) {
				const dx = b[q] - x;
				const dy = b[q + 1] - y;
				const into = r + b[q + 2] - Math.sqrt(dx * dx + dy * dy);
				sum += (into >= soft ? into : (soft * soft) / (2 * soft - into)) * (r < b[q + 2] ? r : b[q + 2]);
			}
		}
		// As long as they meet there is something to gain by parting.
		return (Math.sqrt(sum) + soft) * Math.sqrt(this.size[i] * this.size[j]);
	}

	/** Finds all pairs that lie in each other: i, j and how deep, into `out`. @returns the sum. */
	overlaps(out: number[]): number {
		out.length = 0;
		const { boxes, n } = this;
		let sum = 0;
		for (let i = 0; i < n; i++) {
			let isHeld = false;
			const k = 4 * i;
			for (let j = i + 1, m = k + 4; j < n; j++, m += 4) {
				if (
					boxes[m] >= boxes[k + 2] ||
					boxes[m + 2] <= boxes[k] ||
					boxes[m + 1] >= boxes[k + 3] ||
					boxes[m + 3] <= boxes[k + 1] ||
					(this.pieces[i].isFixed && this.pieces[j].isFixed)
				)
					continue;
				if (!isHeld) this.tryAt(i, this.x[i], this.y[i], this.angle[i]);
				isHeld = true;
				if (!this.meets(i, j)) continue;
				const deep = this.depth(i, j);
				sum += deep;
				out.push(i, j, deep);
			}
		}
		return sum;
	}

	/** Pairs that lie in each other weigh more, the deepest twice as much; all others a little less. */
	weigh(overlaps: readonly number[]): void {
		const { weights, n } = this;
		let most = 0;
		for (let k = 2; k < overlaps.length; k += 3) most = Math.max(most, overlaps[k]);
		for (let k = 0; k < weights.length; k++) if (weights[k] > 1) weights[k] = Math.max(1, weights[k] * 0.95);
		for (let k = 0; k < overlaps.length; k += 3) {
			const [i, j, deep] = [overlaps[k], overlaps[k + 1], overlaps[k + 2]];
			const w = (weights[i * n + j] / 0.95) * (1.2 + (0.8 * deep) / most);
			weights[i * n + j] = weights[j * n + i] = Math.max(1, w);
		}
	}
	forgetWeights(): void {
		this.weights.fill(1);
	}

	save(): Float64Array {
		const out = new Float64Array(3 * this.n);
		out.set(this.x);
		out.set(this.y, this.n);
		out.set(this.angle, 2 * this.n);
		return out;
	}
	restore(saved: Float64Array): void {
		const { n } = this;
		for (let i = 0; i < n; i++) this.put(i, saved[i], saved[n + i], saved[2 * n + i]);
	}
}

/** Edges that come into a box: offsets of their corners in pairs. @returns how many numbers. */
function edgesIn(
	points: Float64Array,
	ends: Int32Array,
	x0: number,
	y0: number,
	x1: number,
	y1: number,
	out: Int32Array
): number {
	let count = 0;
	let from = 0;
	for (let r = 0; r < ends.length; r++) {
		const to = 2 * ends[r];
		let last = to - 2;
		for (let k = from; k < to; last = k, k += 2) {
			const ax = points[last];
			const bx = points[k];
			if ((ax < x0 && bx < x0) || (ax > x1 && bx > x1)) continue;
			const ay = points[last + 1];
			const by = points[k + 1];
			if ((ay < y0 && by < y0) || (ay > y1 && by > y1)) continue;
			out[count++] = last;
			out[count++] = k;
		}
		from = to;
	}
	return count;
}

function edgesCross(
	ax: number,
	ay: number,
	bx: number,
	by: number,
	cx: number,
	cy: number,
	dx: number,
	dy: number
): boolean {
	const ux = bx - ax;
	const uy = by - ay;
	const c = ux * (cy - ay) - uy * (cx - ax);
	const d = ux * (dy - ay) - uy * (dx - ax);
	if (c * d >= 0) return false;
	const vx = dx - cx;
	const vy = dy - cy;
	const a = vx * (ay - cy) - vy * (ax - cx);
	const b = vx * (by - cy) - vy * (bx - cx);
	return a * b < 0;
}

/** Whether a place lies in rings (even-odd). */
function isWithin(points: Float64Array, ends: Int32Array, x: number, y: number): boolean {
	let inside = false;
	let from = 0;
	for (let r = 0; r < ends.length; r++) {
		const to = 2 * ends[r];
		let last = to - 2;
		for (let k = from; k < to; last = k, k += 2) {
			const ay = points[last + 1];
			const by = points[k + 1];
			if (ay > y !== by > y && x < points[last] + ((points[k] - points[last]) * (y - ay)) / (by - ay))
				inside = !inside;
		}
		from = to;
	}
	return inside;
}
