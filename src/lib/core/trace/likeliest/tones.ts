/** What the tones of a sharp picture say of an outline: how much of each pixel beside it is ink. */
import { STRIDE } from '../../geometry/path';
import { segmentLength } from '../../geometry/segment';
import { nearestAgain, sideOf, type Beside } from './beside';
import type { Line } from './line';
import type { Agreement, Asked, Witness } from './settle';

/**
 * @param coverOf how much of pixel (i, j) is ink by its tone, 0 to 1 and a little beyond; a spread is how far such shares scatter.
 */
export const tones = (coverOf: (i: number, j: number) => number): Witness => ({
	toneOf: coverOf,
	isTold: true,
	together: BLOCK,
	even: 0,
	reach: () => REACH,
	agreement: (line, beside, spread, asked) => new Look(line, beside, spread, asked, coverOf).agreement()
});
/** Pixels of a square that was compressed as one stray together. */
const BLOCK = 4;
/** px: pixels whose middles lie farther off are all ink or all paper. */
const REACH = 1.1;
/** px: nearer to an anchor what both of its sides cover is looked at in parts of the pixel. */
const END = 1.6;
/** Such parts of a pixel along each side. */
const PARTS = 4;
/** Segments on both sides of the nearest one that may pass through the same pixel. */
const NEAR = 2;
/** px: so far to both sides of the line there has to be nothing but ink, and paper, for one edge alone to pass. */
const ALONE = 1.6;
/** px: so near to a pixel another edge is seen in the tones across its own. */
const BESIDE = 2.5;
/** Spreads beyond which a pixel counts less and less: in an even picture it shows what the outline has not; in a rough one corners stray far. */
const ODD = 3;
const ODD_IF_ROUGH = 10;
const ROUGH = 0.03;

class Look {
	private readonly costs: Float64Array;
	private readonly squares: Float64Array;
	private readonly counts: Float64Array;
	private readonly by = new Float64Array(8);
	private readonly lengths: readonly number[];
	private readonly odd: number;
	/** Lists of the places of segments that pass through one pixel, so that equations over the same share one. */
	private readonly lists = new Map<string, readonly number[]>();

	constructor(
		private readonly line: Line,
		private readonly beside: Beside,
		private readonly spread: number,
		private readonly asked: Asked | undefined,
		private readonly coverOf: (i: number, j: number) => number
	) {
		const { types, segs } = line.path;
		this.odd = spread > ROUGH ? ODD_IF_ROUGH : ODD;
		this.costs = new Float64Array(types.length);
		this.squares = new Float64Array(types.length);
		this.counts = new Float64Array(types.length);
		this.lengths = Array.from(types, (type, k) => segmentLength(type, segs, STRIDE * k));
	}

	agreement(): Agreement {
		const { line, beside } = this;
		for (let i = 0; i < beside.count; i++) {
			const share = beside.tone[i];
			const off = nearestAgain(line, beside, i);
			if (off > REACH) continue;
			const [x, y] = [beside.x[i], beside.y[i]];
			const along = line.t * this.lengths[line.k];
			if (Math.min(along, this.lengths[line.k] - along) < END) this.inParts(x, y, share);
			else if (this.isAlone()) this.byOneEdge(x, y, share, off);
			else if (this.isInWedge(x, y)) this.inParts(x, y, share);
		}
		return {
			costs: this.costs,
			seen: this.counts,
			due: this.counts.map((count) => 0.5 * count),
			rough: this.squares.map((sum, k) => Math.sqrt(sum / Math.max(1, this.counts[k])))
		};
	}

	/** What is left of a pixel's share, and what it asks for. */
	private add(k: number, left: number, at: readonly number[], by: ArrayLike<number>): void {
		const ratio = left / (this.odd * this.spread);
		const weight = 1 / (this.spread * this.spread) / (1 + ratio * ratio);
		this.costs[k] += 0.5 * this.odd * this.odd * Math.log1p(ratio * ratio);
		this.squares[k] += left * left;
		this.counts[k]++;
		this.asked?.equations.add(at, by, weight, weight * left);
	}

	/** Whether there is nothing but ink to the left of where the line is, and nothing but paper to its right. */
	private isAlone(): boolean {
		const { x, y, dx, dy } = this.line;
		const at = (side: number) => this.coverOf(Math.floor(x + side * dy), Math.floor(y - side * dx));
		return Math.abs(at(ALONE) - 1) < LIKE_PLAIN && Math.abs(at(-ALONE)) < LIKE_PLAIN;
	}

	/** Whether what else is beside a pixel is a neighbour of its segment. The line stays where it is. */
	private isInWedge(x: number, y: number): boolean {
		const { line } = this;
		const { k, t } = line;
		const n = line.path.types.length;
		const off = Math.min(
			...[1, 2, n - 1, n - 2].map((d) =>
				d % n === 0 ? Infinity : line.nearest((k + d) % n, d <= NEAR ? 0 : 1, x, y)
			)
		);
		line.go(k, t);
		return off < BESIDE;
	}

	/** A pixel that one edge alone passes: what lies on one side of a straight through it. */
	private byOneEdge(x: number, y: number, share: number, off: number): void {
		const { line, by } = this;
		const d = sideOf(line, x, y) * off;
		const a = Math.max(Math.abs(line.dx), Math.abs(line.dy));
		const b = Math.min(Math.abs(line.dx), Math.abs(line.dy));
		const reach = (a + b) / 2;
		const corner = reach - Math.abs(d);
		let cover = d > 0 ? 1 : 0;
		let edge = 0;
		if (corner > 0) {
			if (Math.abs(d) <= (a - b) / 2) {
				cover = 0.5 + d / a;
				edge = 1 / a;
			} else {
				const cut = (corner * corner) / (2 * a * b);
				cover = d > 0 ? 1 - cut : cut;
				edge = corner / (a * b);
			}
		}
		line.moves(-line.dy, line.dx, by);
		const at = this.asked?.places.of[line.k] ?? [];
		for (let i = 0; i < 2 * at.length; i++) by[i] *= edge;
		this.add(line.k, share - cover, at, by);
	}

	/** A pixel near an anchor: each of its parts by the nearest of the segments there. */
	private inParts(x: number, y: number, share: number): void {
		const { line } = this;
		const n = line.path.types.length;
		const own = line.k;
		const from = line.t;
		const segments = [
			...new Set(Array.from({ length: 2 * NEAR + 1 }, (_, i) => (own + i - NEAR + 2 * n) % n))
		];
		const moves = new Map<number, Float64Array>();
		let cover = 0;
		for (let p = 0; p < PARTS * PARTS; p++) {
			const px = x + ((p % PARTS) + 0.5) / PARTS - 0.5;
			const py = y + (Math.floor(p / PARTS) + 0.5) / PARTS - 0.5;
			let off = Infinity;
			let [k, t] = [own, 0];
			for (const other of segments) {
				const ahead = (other - own + n) % n;
				const there = line.nearest(other, ahead === 0 ? from : ahead <= NEAR ? 0 : 1, px, py);
				if (there < off - 1e-12) {
					off = there;
					k = line.k;
					t = line.t;
				}
			}
			line.go(k, t);
			const d = sideOf(line, px, py) * off;
			cover += Math.min(1, Math.max(0, 0.5 + d * PARTS));
			if (!this.asked || Math.abs(d) * PARTS > 0.5) continue;
			const sum = moves.get(k) ?? new Float64Array(8);
			moves.set(k, sum);
			if (off < 1e-6) line.moves(-line.dy, line.dx, this.by);
			else {
				const side = Math.sign(d);
				line.moves((side * (line.x - px)) / off, (side * (line.y - py)) / off, this.by);
			}
			for (let i = 0; i < 2 * this.asked.places.of[k].length; i++) sum[i] += this.by[i] / PARTS;
		}
		const left = share - cover / (PARTS * PARTS);
		if (!this.asked || moves.size === 0) return this.add(own, left, [], []);
		const order = [...moves.keys()].sort((a, b) => a - b);
		const name = order.join();
		const { of } = this.asked.places;
		let at = order.length === 1 ? of[order[0]] : this.lists.get(name);
		if (!at) this.lists.set(name, (at = order.flatMap((k) => of[k])));
		const by = order.flatMap((k) => [...moves.get(k)!.subarray(0, 2 * of[k].length)]);
		this.add(own, left, at, by);
	}
}
/** How near to plain ink or paper a share is that counts as such. */
const LIKE_PLAIN = 0.15;
