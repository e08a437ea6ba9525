/** What a sharp picture says of lines: how much of each pixel beside them their grounds cover. */
import { STRIDE } from '../../geometry/path';
import { segmentLength } from '../../geometry/segment';
import { groundAt, nearestAgain, sideOf, type Beside } from './beside';
import type { Line } from './line';
import { INK, PAPER } from './net';
import type { Agreement, Asked, Witness } from './settle';
import { DUE, Tally } from './tally';

/** What is shown, in one tone or in more (red, green and blue). */
export interface Shown {
	readonly tones: number;
	readonly of: (i: number, j: number, tone: number) => number;
	/** What each ground shows where it covers a pixel; nothing of one that is not in the picture. */
	readonly grounds: readonly (ArrayLike<number> | undefined)[];
}

/** @param coverOf how much of pixel (i, j) is ink by its tone, 0 to 1 and a little beyond. */
export const inkAndPaper = (coverOf: (i: number, j: number) => number): Shown => {
	const grounds: number[][] = [];
	grounds[INK] = [1];
	grounds[PAPER] = [0];
	return { tones: 1, of: coverOf, grounds };
};

/** A spread is how far pixels scatter, as shares of what parts the two grounds beside them. */
export const tones = (shown: Shown): Witness => ({
	isTold: true,
	together: BLOCK,
	even: 0,
	reach: () => REACH,
	agreement: (line, beside, spread, asked) => new Look(line, beside, spread, asked, shown).agreement()
});
/** Pixels of a square that was compressed as one stray together. */
const BLOCK = 4;
/** px: pixels whose middles lie farther off are all of one ground. */
const REACH = 1.1;
/** px: nearer to an anchor what all of its sides cover is looked at in parts of the pixel. */
const END = 1.6;
/** px from a junction: what errs there may be its fault. */
const BY_END = 5;
/** Such parts of a pixel along each side. */
const PARTS = 4;
/** Segments on both sides of the nearest one that may pass through the same pixel. */
const NEAR = 2;
/** px: so far to both sides of the line there has to be nothing but its grounds for it alone to pass. */
const ALONE = 1.6;
/** px: so near to a pixel another edge is seen in the tones across its own. */
const BESIDE = 2.5;
/** Spreads beyond which a pixel counts less and less: in an even picture it shows what the lines have not; in a rough one corners stray far. */
const ODD = 3;
const ODD_IF_ROUGH = 10;
const ROUGH = 0.03;

class Look {
	private readonly tally: Tally;
	private readonly by = new Float64Array(8);
	private readonly lengths: readonly number[];
	private readonly left: Float64Array;
	/** Of every segment what its left ground shows beyond its right one, and how much that is. */
	private readonly parted: readonly (readonly number[] | undefined)[];
	private readonly contrast: Float64Array;
	/** The segments that may pass through the pixel in hand, and about where they do. */
	private readonly segments: number[] = [];
	private readonly from: number[] = [];
	private readonly offs: number[] = [];
	/** Lists of the places of segments that pass through one pixel, so that equations over the same share one. */
	private readonly lists = new Map<string, readonly number[]>();

	constructor(
		private readonly line: Line,
		private readonly beside: Beside,
		spread: number,
		private readonly asked: Asked | undefined,
		private readonly shown: Shown
	) {
		const { types, segs, lines } = line.net;
		const { grounds } = shown;
		this.tally = new Tally(types.length, spread, spread > ROUGH ? ODD_IF_ROUGH : ODD);
		this.lengths = Array.from(types, (type, k) => segmentLength(type, segs, STRIDE * k));
		this.left = new Float64Array(shown.tones);
		const byLine = lines.map(({ left, right }) => {
			const [on, off] = [grounds[left], grounds[right]];
			return on && off && Array.from(on, (tone, c) => tone - off[c]);
		});
		this.parted = Array.from(line.course.line, (i) => byLine[i]);
		this.contrast = Float64Array.from(this.parted, (d) => (d ? Math.hypot(...d) : 0));
	}

	agreement(): Agreement {
		const { line, beside, tally } = this;
		for (let i = 0; i < beside.count; i++) {
			const off = nearestAgain(line, beside, i);
			if (off > REACH || !this.parted[line.k]) continue;
			const [x, y] = [beside.x[i], beside.y[i]];
			const { k } = line;
			const along = line.t * this.lengths[k];
			const left = this.lengths[k] - along;
			const [cost, count] = [tally.costs[k], tally.counts[k]];
			if (Math.min(along, left) < END) this.inParts(i);
			else if (this.isAlone()) this.byOneEdge(x, y, off);
			else if (this.isInWedge(i)) this.inParts(i);
			const more = tally.costs[k] - cost - DUE * (tally.counts[k] - count);
			if (along < BY_END) tally.atStart[k] += more;
			if (left < BY_END) tally.atEnd[k] += more;
		}
		return tally.agreement();
	}

	/**
	 * Counts what is left of what a pixel shows, by its square.
	 * @returns how much it counts.
	 */
	private count(k: number, square: number): number {
		const parted = this.contrast[k] * this.contrast[k];
		return this.tally.add(k, square / parted) / parted;
	}

	/** Whether there is nothing but its own grounds on both sides of where the line is. */
	private isAlone(): boolean {
		const { line, shown } = this;
		const { left, right } = line.net.lines[line.course.line[line.k]];
		const isPlain = (ground: number, side: number): boolean => {
			const tones = shown.grounds[ground]!;
			const [i, j] = [Math.floor(line.x + side * line.dy), Math.floor(line.y - side * line.dx)];
			let square = 0;
			for (let c = 0; c < shown.tones; c++) square += (shown.of(i, j, c) - tones[c]) ** 2;
			return square < (LIKE_PLAIN * this.contrast[line.k]) ** 2;
		};
		return isPlain(left, ALONE) && isPlain(right, -ALONE);
	}

	/** Whether what else is beside a pixel is another of these segments. */
	private isInWedge(i: number): boolean {
		const { line, beside, segments } = this;
		const { k } = line;
		this.gather(i);
		let off = Infinity;
		for (let m = 0; m < segments.length; m++)
			if (segments[m] !== k)
				off = Math.min(off, line.nearest(segments[m], this.from[m], beside.x[i], beside.y[i]));
		return off < BESIDE;
	}

	/** The segments that may pass through a pixel, and about where they do. */
	private gather(i: number): void {
		const { line, beside, segments, from } = this;
		const { passing } = beside;
		segments.length = 1;
		from.length = 1;
		segments[0] = line.k;
		from[0] = line.t;
		const add = (segment: number, t: number) => {
			if (segments.includes(segment)) return;
			segments.push(segment);
			from.push(t);
		};
		for (let p = beside.passed[i]; p >= 0; p = passing.next[p]) add(passing.segment[p], passing.t[p]);
		const { before, after } = line.course;
		for (let k = before[line.k], d = 0; k >= 0 && d < NEAR; k = before[k], d++) add(k, 1);
		for (let k = after[line.k], d = 0; k >= 0 && d < NEAR; k = after[k], d++) add(k, 0);
	}

	/**
	 * Of the segments gathered those that can be the nearest to any part of a pixel.
	 * @returns px from the nearest of all to its middle, where the line is then.
	 */
	private keepNear(x: number, y: number): number {
		const { line, segments, from, offs } = this;
		let least = Infinity;
		let [k, t] = [0, 0];
		for (let m = 0; m < segments.length; m++) {
			const off = (offs[m] = line.nearest(segments[m], from[m], x, y));
			from[m] = line.found;
			if (!(off < least - 1e-12)) continue;
			least = off;
			k = segments[m];
			t = line.found;
		}
		line.go(k, t);
		let kept = 0;
		for (let m = 0; m < segments.length; m++) {
			if (offs[m] > least + ACROSS) continue;
			segments[kept] = segments[m];
			from[kept++] = from[m];
		}
		segments.length = from.length = kept;
		return least;
	}

	/** A pixel that one edge alone passes: what lies on one side of a straight through it. */
	private byOneEdge(x: number, y: number, off: number): void {
		const { line, by, shown } = this;
		const { k } = line;
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
		const parted = this.parted[k]!;
		const onRight = shown.grounds[line.net.lines[line.course.line[k]].right]!;
		let [along, square] = [0, 0];
		for (let c = 0; c < shown.tones; c++) {
			const left = shown.of(x - 0.5, y - 0.5, c) - onRight[c] - cover * parted[c];
			along += left * parted[c];
			square += left * left;
		}
		const weight = this.count(k, square);
		if (!this.asked || edge === 0) return;
		line.moves(-line.dy, line.dx, by);
		const at = this.asked.places.of[k];
		for (let i = 0; i < 2 * at.length; i++) by[i] *= edge;
		this.asked.equations.add(at, by, weight * this.contrast[k] ** 2, weight * along);
	}

	/** A pixel near an anchor: each of its parts by the nearest of the segments there. */
	private inParts(i: number): void {
		const { line, left, shown, asked } = this;
		const own = line.k;
		const [x, y] = [this.beside.x[i], this.beside.y[i]];
		this.gather(i);
		const { segments, from } = this;
		if (segments.some((k) => !this.parted[k])) return;
		for (let c = 0; c < shown.tones; c++) left[c] = shown.of(x - 0.5, y - 0.5, c);
		if (this.keepNear(x, y) > ACROSS / 2 + 0.5 / PARTS) {
			// No line passes it.
			const ground = shown.grounds[groundAt(line, x, y)]!;
			for (let c = 0; c < shown.tones; c++) left[c] -= ground[c];
			this.count(own, squareOf(left));
			return;
		}
		const moves = new Map<number, Float64Array>();
		for (let p = 0; p < PARTS * PARTS; p++) {
			const px = x + ((p % PARTS) + 0.5) / PARTS - 0.5;
			const py = y + (Math.floor(p / PARTS) + 0.5) / PARTS - 0.5;
			let off = Infinity;
			let [k, t] = [own, 0];
			for (let m = 0; m < segments.length; m++) {
				const there = line.nearest(segments[m], from[m], px, py);
				if (there < off - 1e-12) {
					off = there;
					k = segments[m];
					t = line.found;
				}
			}
			line.go(k, t);
			const ground = groundAt(line, px, py);
			const { left: onLeft, right } = line.net.lines[line.course.line[k]];
			const here = shown.grounds[ground]!;
			// What a part shows that a line passes goes from one ground to the other.
			const side = ground === onLeft ? 1 : -1;
			const isPassed = off * PARTS < 0.5 && (side > 0 || ground === right);
			const share = isPassed ? side * (0.5 - off * PARTS) : 0;
			const parted = this.parted[k]!;
			for (let c = 0; c < shown.tones; c++) left[c] -= (here[c] - share * parted[c]) / (PARTS * PARTS);
			if (!asked || !isPassed) continue;
			const sum = moves.get(k) ?? new Float64Array(8);
			moves.set(k, sum);
			if (off < 1e-6) line.moves(-line.dy, line.dx, this.by);
			else line.moves((side * (line.x - px)) / off, (side * (line.y - py)) / off, this.by);
			for (let m = 0; m < 2 * asked.places.of[k].length; m++) sum[m] += this.by[m] / PARTS;
		}
		const weight = this.count(own, squareOf(left));
		if (!asked || moves.size === 0) return;
		const order = [...moves.keys()].sort((a, b) => a - b);
		const name = order.join();
		const { of } = asked.places;
		let at = order.length === 1 ? of[order[0]] : this.lists.get(name);
		if (!at) this.lists.set(name, (at = order.flatMap((k) => of[k])));
		for (let c = 0; c < shown.tones; c++) {
			const by = order.flatMap((k) =>
				Array.from(moves.get(k)!.subarray(0, 2 * of[k].length), (m) => m * this.parted[k]![c])
			);
			asked.equations.add(at, by, weight, weight * left[c]);
		}
	}
}
/** px: from one corner of a pixel's parts to the other. */
const ACROSS = (Math.SQRT2 * (PARTS - 1)) / PARTS;
const squareOf = (left: Float64Array): number => left.reduce((sum, tone) => sum + tone * tone, 0);

/** How near to its plain ground what a pixel shows is that counts as such. */
const LIKE_PLAIN = 0.15;
