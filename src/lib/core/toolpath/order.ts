/**
 * The order of cuts: what lies within another comes before it; within that the way between them is short. The start of each cut is
 * free among places on it. A tour by nearest neighbours is improved by 2-opt and Or-opt, in turns with moving the starts to
 * where they serve best, then kicked and improved again a fixed number of times (iterated local search with a seeded chance): the
 * same cuts give the same order.
 */
import Flatbush from 'flatbush';
import { seeded } from '../chance';
import type { Point } from '../geometry/point';

/** One cut as the order sees it. */
export interface Stop {
	/** Places where it may begin, and where it then ends. */
	readonly places: readonly { readonly from: Point; readonly to: Point }[];
	/** Stops that must come before it. */
	readonly after: readonly number[];
}

export interface Ordered {
	/** Indexes of the stops in their order. */
	readonly order: readonly number[];
	/** Which place each stop begins at, by stop. */
	readonly start: readonly number[];
	/** mm between them. */
	readonly travel: number;
}

const NEAR = 10;
/** Kicks for each stop, and at most. */
const KICKS = 8;
const MOST_KICKS = 40_000;

/** The order, improved step by step; it tells how far it has come. @param home where the tool comes from. */
export function* orderSteps(stops: readonly Stop[], home: Point): Generator<number, Ordered> {
	const n = stops.length;
	if (n === 0) return { order: [], start: [], travel: 0 };
	const tour = new Tour(stops, home);
	tour.improve();
	yield 0.05;
	const kicks = n < 4 ? 0 : Math.min(MOST_KICKS, KICKS * n);
	const chance = seeded(n);
	tour.keep();
	for (let k = 0; k < kicks; k++) {
		tour.kick(chance);
		if (k % 50 === 49) yield 0.05 + (0.95 * k) / kicks;
	}
	tour.settle();
	return tour.result();
}

class Tour {
	private readonly n: number;
	private readonly order: Int32Array;
	private readonly at: Int32Array;
	private readonly start: Int32Array;
	/** The place in use of each stop: where it begins and ends. */
	private readonly fx: Float64Array;
	private readonly fy: Float64Array;
	private readonly tx: Float64Array;
	private readonly ty: Float64Array;
	/** Those that must come after each. */
	private readonly before: readonly number[][];
	private readonly near: readonly { readonly to: Int32Array; readonly least: Float64Array }[];
	/** Whether any cut ends elsewhere than it begins. */
	private readonly endsElsewhere: boolean;
	private best = Infinity;
	private queue: number[] = [];
	private readonly queued: Uint8Array;

	constructor(
		private readonly stops: readonly Stop[],
		private readonly home: Point
	) {
		const n = (this.n = stops.length);
		this.order = new Int32Array(n);
		this.at = new Int32Array(n);
		this.start = new Int32Array(n);
		this.fx = new Float64Array(n);
		this.fy = new Float64Array(n);
		this.tx = new Float64Array(n);
		this.ty = new Float64Array(n);
		this.queued = new Uint8Array(n);
		this.endsElsewhere = stops.some(({ places }) =>
			places.some(({ from, to }) => from.x !== to.x || from.y !== to.y)
		);
		const before: number[][] = stops.map(() => []);
		stops.forEach((stop, i) => stop.after.forEach((j) => before[j].push(i)));
		this.before = before;
		for (let i = 0; i < n; i++) this.use(i, 0);
		this.near = this.neighbours();
		this.begin();
	}

	private use(i: number, k: number): void {
		const { from, to } = this.stops[i].places[k];
		this.start[i] = k;
		this.fx[i] = from.x;
		this.fy[i] = from.y;
		this.tx[i] = to.x;
		this.ty[i] = to.y;
	}

	/** The nearest others of each stop, by their middles, and how near they can come at least. */
	private neighbours(): { readonly to: Int32Array; readonly least: Float64Array }[] {
		const rounds = this.stops.map(({ places }) => {
			let x = 0;
			let y = 0;
			for (const { from } of places) {
				x += from.x / places.length;
				y += from.y / places.length;
			}
			let r = 0;
			for (const { from, to } of places)
				r = Math.max(r, Math.hypot(from.x - x, from.y - y), Math.hypot(to.x - x, to.y - y));
			return { x, y, r };
		});
		const index = new Flatbush(this.n);
		for (const { x, y } of rounds) index.add(x, y, x, y);
		index.finish();
		return rounds.map(({ x, y, r }, i) => {
			const to = index.neighbors(x, y, NEAR + 1).filter((j) => j !== i);
			const least = to.map((j) => Math.hypot(rounds[j].x - x, rounds[j].y - y) - r - rounds[j].r);
			return { to: Int32Array.from(to), least: Float64Array.from(least) };
		});
	}

	/** Always on to the nearest that may come. */
	private begin(): void {
		const waits = Int32Array.from(this.stops.map((stop) => stop.after.length));
		const open = new Set<number>();
		waits.forEach((w, i) => {
			if (w === 0) open.add(i);
		});
		let { x, y } = this.home;
		for (let k = 0; k < this.n; k++) {
			let best = -1;
			let place = 0;
			let least = Infinity;
			for (const i of open) {
				const { places } = this.stops[i];
				for (let p = 0; p < places.length; p++) {
					const d = (places[p].from.x - x) ** 2 + (places[p].from.y - y) ** 2;
					if (d < least) {
						least = d;
						best = i;
						place = p;
					}
				}
			}
			open.delete(best);
			this.use(best, place);
			this.order[k] = best;
			this.at[best] = k;
			x = this.tx[best];
			y = this.ty[best];
			for (const j of this.before[best]) if (--waits[j] === 0) open.add(j);
		}
	}

	/** mm from the end of what stands at place a to the start of what stands at place b; from home before all, to nowhere after. */
	private gap(a: number, b: number): number {
		if (b >= this.n) return 0;
		const j = this.order[b];
		if (a < 0) return 0.2 * Math.hypot(this.fx[j] - this.home.x, this.fy[j] - this.home.y);
		const i = this.order[a];
		const dx = this.fx[j] - this.tx[i];
		const dy = this.fy[j] - this.ty[i];
		return Math.sqrt(dx * dx + dy * dy);
	}

	private travel(): number {
		let sum = 0;
		for (let k = 0; k < this.n; k++) sum += this.gap(k - 1, k);
		return sum;
	}

	private push(i: number): void {
		if (this.queued[i]) return;
		this.queued[i] = 1;
		this.queue.push(i);
	}

	improve(): void {
		for (let round = 0; round < 20; round++) {
			for (let i = 0; i < this.n; i++) this.push(i);
			this.run();
			const moved = this.moveStarts(0, this.n - 1);
			if (moved < 1e-3) break;
		}
	}

	/** Improves around all that is queued. */
	private run(): void {
		while (this.queue.length) {
			const i = this.queue.pop()!;
			this.queued[i] = 0;
			for (let guard = 0; guard < 50 && (this.twoOpt(i) || this.orOpt(i)); guard++);
		}
	}

	/** The place of each stop between a and b where the way to it and from it is shortest. @returns mm saved. */
	private moveStarts(a: number, b: number): number {
		let saved = 0;
		for (let round = 0; round < 3; round++) {
			let now = 0;
			for (let k = Math.max(0, a); k <= Math.min(this.n - 1, b); k++) {
				const i = this.order[k];
				const { places } = this.stops[i];
				if (places.length < 2) continue;
				const before = this.gap(k - 1, k) + this.gap(k, k + 1);
				const old = this.start[i];
				let [best, least] = [old, before];
				for (let p = 0; p < places.length; p++) {
					if (p === old) continue;
					this.use(i, p);
					const d = this.gap(k - 1, k) + this.gap(k, k + 1);
					if (d < least - 1e-9) [best, least] = [p, d];
				}
				this.use(i, best);
				if (best !== old) {
					now += before - least;
					this.push(i);
				}
			}
			saved += now;
			if (now < 1e-6) break;
		}
		return saved;
	}

	/** Whether what stands from place a to place b may be turned round: nobody in it waits for another in it. */
	private mayTurn(a: number, b: number): boolean {
		for (let k = a; k <= b; k++)
			for (const j of this.before[this.order[k]]) {
				const p = this.at[j];
				if (p >= a && p <= b) return false;
			}
		return true;
	}

	private turn(a: number, b: number): void {
		const { order, at } = this;
		while (a < b) {
			const [i, j] = [order[a], order[b]];
			order[a] = j;
			order[b] = i;
			at[j] = a++;
			at[i] = b--;
		}
	}

	/** Turns a stretch round that begins or ends beside a stop, where that is shorter. */
	private twoOpt(i: number): boolean {
		const p = this.at[i];
		const { to, least } = this.near[i];
		const most = Math.max(this.gap(p - 1, p), this.gap(p, p + 1));
		for (let k = 0; k < to.length; k++) {
			if (least[k] >= most) continue;
			const q = this.at[to[k]];
			// i then j as neighbours: the stretch after i up to j is turned; or j then i.
			for (const [a, b] of p < q
				? [
						[p + 1, q],
						[p, q - 1]
					]
				: [
						[q + 1, p],
						[q, p - 1]
					]) {
				if (a >= b) continue;
				const saved = this.gap(a - 1, a) + this.gap(b, b + 1) - this.gap(a - 1, b) - this.gap(a, b + 1);
				if (saved < 1e-7 || saved < this.longerInside(a, b) + 1e-7 || !this.mayTurn(a, b)) continue;
				this.turn(a, b);
				for (const k of [a - 1, a, b, b + 1]) if (k >= 0 && k < this.n) this.push(this.order[k]);
				return true;
			}
		}
		return false;
	}

	/** By how much the ways within a stretch are longer once it is turned round: cuts may end elsewhere than they begin, mm. */
	private longerInside(a: number, b: number): number {
		if (!this.endsElsewhere) return 0;
		let longer = 0;
		for (let k = a; k < b; k++) longer += this.gap(k + 1, k) - this.gap(k, k + 1);
		return longer;
	}

	/** Moves up to three stops in a row to beside a near one, either way round, where that is shorter. */
	private orOpt(i: number): boolean {
		const p = this.at[i];
		const { to, least } = this.near[i];
		for (let size = 1; size <= 3; size++)
			for (const a of size === 1 ? [p] : [p, p - size + 1]) {
				const b = a + size - 1;
				if (a < 0 || b >= this.n) continue;
				const out = this.gap(a - 1, a) + this.gap(b, b + 1) - this.gap(a - 1, b + 1);
				if (out < 1e-9) continue;
				for (let k = 0; k < to.length; k++) {
					if (least[k] >= out) continue;
					const q = this.at[to[k]];
					if (q >= a && q <= b) continue;
					for (const after of [q, q - 1]) {
						// Between places `after` and `after + 1`.
						if (after >= a - 1 && after <= b) continue;
						const put = this.gap(after, after + 1);
						for (const turned of [false, true]) {
							const [head, tail] = turned ? [b, a] : [a, b];
							const into = this.gap(after, head) + this.gap(tail, after + 1) - put;
							const longer = turned ? this.longerInside(a, b) : 0;
							if (
								into + longer < out - 1e-7 &&
								(!turned || this.mayTurn(a, b)) &&
								this.mayMove(a, b, after)
							) {
								this.move(a, b, after, turned);
								return true;
							}
						}
					}
				}
			}
		return false;
	}

	/** Whether what stands from a to b may go to after place `after`: nobody passes one that it waits for. */
	private mayMove(a: number, b: number, after: number): boolean {
		for (let k = a; k <= b; k++) {
			const i = this.order[k];
			if (after > b) {
				for (const j of this.before[i]) if (this.at[j] > b && this.at[j] <= after) return false;
			} else for (const j of this.stops[i].after) if (this.at[j] > after && this.at[j] < a) return false;
		}
		return true;
	}

	private move(a: number, b: number, after: number, turned: boolean): void {
		const ends = [this.order[a], this.order[b]];
		for (const k of [a - 1, b + 1, after, after + 1]) if (k >= 0 && k < this.n) this.push(this.order[k]);
		// Three turns move a stretch; one more turns it round.
		if (after > b) {
			this.turn(a, after);
			const size = b - a + 1;
			this.turn(a, after - size);
			if (!turned) this.turn(after - size + 1, after);
		} else {
			const size = b - a + 1;
			this.turn(after + 1, b);
			this.turn(after + 1 + size, b);
			if (!turned) this.turn(after + 1, after + size);
		}
		ends.forEach((i) => this.push(i));
	}

	// The tour that was the shortest so far.
	private bestOrder = new Int32Array(0);
	private bestStart = new Int32Array(0);

	keep(): void {
		this.best = this.travel();
		this.bestOrder = this.order.slice();
		this.bestStart = this.start.slice();
	}

	private back(): void {
		this.order.set(this.bestOrder);
		this.order.forEach((i, k) => (this.at[i] = k));
		for (let i = 0; i < this.n; i++) if (this.start[i] !== this.bestStart[i]) this.use(i, this.bestStart[i]);
	}

	/** Exchanges two neighbouring stretches somewhere, improves around there, and keeps it if it is no longer. */
	kick(chance: () => number): void {
		const { n } = this;
		const most = Math.min(n - 1, 50);
		const a = Math.floor(chance() * (n - 2));
		const b = a + 1 + Math.floor(chance() * Math.min(most, n - a - 2));
		const c = b + Math.floor(chance() * Math.min(most, n - b));
		if (b > c || c >= n) return;
		if (!this.mayMove(b, c, a - 1)) return;
		this.move(b, c, a - 1, false);
		this.run();
		this.moveStarts(a - 2, c + 2);
		this.run();
		if (this.travel() <= this.best - 1e-9) this.keep();
		else this.back();
	}

	settle(): void {
		this.back();
		for (let round = 0; round < 10; round++) {
			if (this.moveStarts(0, this.n - 1) < 1e-6) break;
			this.run();
		}
		if (this.travel() > this.best) this.back();
		else this.keep();
	}

	result(): Ordered {
		let travel = 0;
		for (let k = 1; k < this.n; k++) travel += this.gap(k - 1, k);
		return { order: Array.from(this.order), start: Array.from(this.start), travel };
	}
}
