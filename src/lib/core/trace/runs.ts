/**
 * A run of contour points as few straights, arcs and cubics.
 *
 * Method: the run is cut at the places of a coarse grid so that a sum of prices is least: each curve costs about one,
 * and how badly it lies adds a little (dynamic programming over the cuts, as in Perez and Vidal 1994, "Optimum polygonal
 * approximation of digitized curves", here with three kinds of curve). Squares of distances come from running sums, so
 * that a cut is judged without going through its points again.
 */
import { fitArc, fitFreeCubic, fitLine, offsFrom, type Curve, type Points } from './curves';

export interface ContourLine {
	/** Points of the contour, several times round where it is closed, px. */
	readonly x: Float64Array;
	readonly y: Float64Array;
	/** Length along them, px. */
	readonly s: Float64Array;
	/** Number of points once round. */
	readonly count: number;
}

export interface RunOptions {
	/** px: how far a curve may lie from the contour. */
	readonly tolerance: number;
	/** px: how much the points scatter by themselves (root mean square). */
	readonly noise: number;
}

/** A curve with the points that it serves. */
export interface Stretch {
	curve: Curve;
	from: number;
	to: number;
}

/** How many points lie between the end of one stretch and the start of the next, the seam passed or not. */
export const pointsBetween = (line: ContourLine, a: Stretch, b: Stretch) =>
	(((b.from - a.to) % line.count) + line.count) % line.count;

/** Cuts gone through between two yields. */
const STEP = 24;

const PRICE = { line: 1, arc: 1.04, cubic: 1.3 } as const;
/** What lying as badly as is allowed adds to the price. */
const MISFIT = 0.6;

/** Largest and root mean square distance, the scatter averaged away over a few neighbours. */
export function misfit(curve: Curve, p: Points, noise: number): { worst: number; rms: number } {
	const n = offsFrom(curve, p, offs);
	let sum = 0;
	for (let i = 0; i < n; i++) sum += offs[i] * offs[i];
	// A single point may stray by its own scatter; a neighbourhood may not.
	const half = noise < 0.03 ? 0 : Math.min(4, Math.floor(n / 8), Math.ceil(noise * 14));
	let worst = 0;
	for (let i = 0; i < n; i++) {
		let mean = 0;
		let count = 0;
		for (let k = Math.max(0, i - half); k <= Math.min(n - 1, i + half); k++) {
			mean += offs[k];
			count++;
		}
		worst = Math.max(worst, Math.abs(mean / count));
	}
	return { worst, rms: Math.sqrt(sum / Math.max(1, n)) };
}
const offs = new Float64Array(240);
/** Enough to compare one cut with the next. */
const few = new Float64Array(64);

/** px: the farthest that a neighbourhood of points may lie from its curve: stairs of long steps do not average out. */
export const mostOff = ({ tolerance, noise }: RunOptions) => tolerance + (noise < 0.03 ? 0 : 1.6 * noise);
/** px: the same for the root mean square of all points of a stretch. */
export const mostScatter = ({ tolerance, noise }: RunOptions) => Math.hypot(tolerance / 2, 1.15 * noise);

/** One curve for all the points, the plainest that serves: a straight, an arc, a cubic. */
export function oneCurve(
	trail: ContourLine,
	from: number,
	to: number,
	options: RunOptions
): Curve | undefined {
	const p: Points = { ...trail, from, to };
	const count = to - from + 1;
	const { tolerance, noise } = options;
	const serves = (curve: Curve | undefined): boolean => {
		if (!curve) return false;
		const { worst, rms } = misfit(curve, p, noise);
		return worst <= mostOff(options) && rms <= mostScatter(options);
	};
	if (count < 2) return undefined;
	const line = fitLine(p);
	if (count < 4) return line;
	if (serves(line)) {
		// A shallow arc within the tolerance is still an arc where the points say so clearly.
		if (count >= 8) {
			const { rms } = misfit(line, p, noise);
			const arc = fitArc(p);
			if (arc && misfit(arc, p, noise).rms < 0.4 * rms && rms > 0.25 * tolerance) return arc;
		}
		return line;
	}
	const length = trail.s[to] - trail.s[from];
	const arc = fitArc(p);
	if (arc && count >= 5 && length < 5.9 * arc.r && serves(arc)) return arc;
	if (count >= 7 && turned(trail, from, to) < 2.4) {
		// Most stretches are settled by a rough look.
		const rough = fitFreeCubic(p, trail.s, { rounds: 5, most: 60, hopeless: 5 * mostScatter(options) });
		if (misfit(rough, p, noise).rms > 4 * mostScatter(options)) return undefined;
		const cubic = fitFreeCubic(p, trail.s);
		if (serves(cubic)) return cubic;
	}
	return undefined;
}

/** How far the line turns altogether, radians, from chords of about an eighth. */
function turned(trail: ContourLine, from: number, to: number): number {
	let sum = 0;
	let px = 0;
	let py = 0;
	for (let k = 0; k < 8; k++) {
		const i = from + Math.floor(((to - from) * k) / 8);
		const j = from + Math.floor(((to - from) * (k + 1)) / 8);
		const dx = trail.x[j] - trail.x[i];
		const dy = trail.y[j] - trail.y[i];
		if (k) sum += Math.abs(Math.atan2(px * dy - py * dx, px * dx + py * dy));
		px = dx;
		py = dy;
	}
	return sum;
}

/**
 * Few curves along a run, each with its points; no two are tied to each other yet. Yields now and then.
 * @param from first and last point that count.
 */
export function* cutRun(
	trail: ContourLine,
	from: number,
	to: number,
	options: RunOptions
): Generator<void, Stretch[]> {
	const one = oneCurve(trail, from, to, options);
	if (one) return [{ curve: one, from, to }];
	const length = trail.s[to] - trail.s[from];
	let share = 1;
	let out: Stretch[] = [];
	for (let round = 0; round < 3; round++, share *= 0.6) {
		const cuts = yield* cheapest(trail, from, to, length, options, share);
		out = cuts.map(([a, b, kind]) => ({ curve: curveOf(trail, a, b, kind), from: a, to: b }));
		yield* slideCuts(trail, out);
		yield* merge(trail, out, options);
		const bad = out.some(
			({ curve, from, to }) =>
				misfit(curve, { ...trail, from, to }, options.noise).worst > 1.1 * mostOff(options)
		);
		if (!bad) break;
	}
	return out;
}

type Kind = Curve['kind'];

function curveOf(trail: ContourLine, from: number, to: number, kind: Kind, rough = false): Curve {
	const p = { ...trail, from, to };
	if (kind === 'arc') return fitArc(p) ?? fitLine(p);
	if (kind === 'line' || to - from < 4) return fitLine(p);
	return fitFreeCubic(p, trail.s, rough ? { rounds: 4, most: 60 } : {});
}

/** Shortest path over the cuts. */
function* cheapest(
	trail: ContourLine,
	from: number,
	to: number,
	length: number,
	options: RunOptions,
	share: number
): Generator<void, [number, number, Kind][]> {
	const { x, y, s } = trail;
	const grid = Math.max(3, Math.min(9, length / 110));
	const nodes: number[] = [from];
	for (let i = from + 1; i < to; i++)
		if (s[i] - s[nodes[nodes.length - 1]] >= grid && s[to] - s[i] >= grid * 0.6) nodes.push(i);
	nodes.push(to);
	const m = nodes.length;
	const allowed = (share * options.tolerance) / 2;
	const limitSq = allowed * allowed + 1.35 * options.noise * options.noise;
	const noiseSq = options.noise * options.noise;
	const best = new Float64Array(m).fill(Infinity);
	const back = new Int32Array(m);
	const kinds: Kind[] = new Array(m).fill('line');
	best[0] = 0;
	const price = (base: number, meanSq: number) =>
		base + (MISFIT * Math.max(0, meanSq - noiseSq)) / (allowed * allowed);
	for (let a = 0; a < m - 1; a++) {
		if (a % STEP === STEP - 1) yield;
		if (best[a] === Infinity) continue;
		const sums = new Sums(x[nodes[a]], y[nodes[a]], s[nodes[a]]);
		sums.add(x[nodes[a]], y[nodes[a]], s[nodes[a]]);
		let misses = 0;
		for (let b = a + 1; b < m && misses < 4; b++) {
			const step = Math.max(1, Math.floor((nodes[b] - nodes[b - 1]) / 6));
			for (let i = nodes[b - 1] + step; i < nodes[b]; i += step) sums.add(x[i], y[i], s[i]);
			sums.add(x[nodes[b]], y[nodes[b]], s[nodes[b]]);
			let hit = false;
			const offer = (kind: Kind, meanSq: number) => {
				if (!(meanSq <= limitSq)) return;
				hit = true;
				const cost = best[a] + price(PRICE[kind], meanSq);
				if (cost < best[b]) {
					best[b] = cost;
					back[b] = a;
					kinds[b] = kind;
				}
			};
			offer('line', sums.lineSq());
			if (sums.n >= 5) offer('arc', sums.arcSq());
			if (sums.n >= 7) offer('cubic', sums.cubicSq());
			if (!hit && b === a + 1) {
				// Nothing lies well even over one step of the grid: a straight has to do.
				const cost = best[a] + 2 * PRICE.line;
				if (cost < best[b]) {
					best[b] = cost;
					back[b] = a;
					kinds[b] = 'line';
				}
			}
			misses = hit ? 0 : misses + 1;
		}
	}
	const out: [number, number, Kind][] = [];
	for (let b = m - 1; b > 0; b = back[b]) out.push([nodes[back[b]], nodes[b], kinds[b]]);
	return out.reverse();
}

/** Running sums about a first point, from which the squares of distances of the best curves follow. */
class Sums {
	n = 0;
	private x = 0;
	private y = 0;
	private xx = 0;
	private xy = 0;
	private yy = 0;
	private xz = 0;
	private yz = 0;
	private zz = 0;
	/** Sums of u^k, u^k x, u^k y. */
	private readonly u = new Float64Array(7);
	private readonly ux = new Float64Array(4);
	private readonly uy = new Float64Array(4);

	constructor(
		private readonly x0: number,
		private readonly y0: number,
		private readonly s0: number
	) {}

	add(px: number, py: number, ps: number): void {
		const x = px - this.x0;
		const y = py - this.y0;
		const u = (ps - this.s0) / UNIT;
		const z = x * x + y * y;
		this.n++;
		this.x += x;
		this.y += y;
		this.xx += x * x;
		this.xy += x * y;
		this.yy += y * y;
		this.xz += x * z;
		this.yz += y * z;
		this.zz += z * z;
		let power = 1;
		for (let k = 0; k < 7; k++) {
			this.u[k] += power;
			if (k < 4) {
				this.ux[k] += power * x;
				this.uy[k] += power * y;
			}
			power *= u;
		}
	}

	lineSq(): number {
		const { n } = this;
		const a = this.xx - (this.x * this.x) / n;
		const b = this.xy - (this.x * this.y) / n;
		const c = this.yy - (this.y * this.y) / n;
		// The smaller of the scatter matrix's own values.
		return Math.max(0, ((a + c) / 2 - Math.hypot((a - c) / 2, b)) / n);
	}

	arcSq(): number {
		const { n } = this;
		const z = this.xx + this.yy;
		const a = this.xx - (this.x * this.x) / n;
		const b = this.xy - (this.x * this.y) / n;
		const c = this.yy - (this.y * this.y) / n;
		const p = (this.xz - (this.x * z) / n) / 2;
		const q = (this.yz - (this.y * z) / n) / 2;
		const det = a * c - b * b;
		if (!(det > 1e-9 * (a + c) * (a + c))) return Infinity;
		const cx = (p * c - q * b) / det;
		const cy = (a * q - b * p) / det;
		const r2 = (z - 2 * cx * this.x - 2 * cy * this.y) / n + cx * cx + cy * cy;
		// Sum of (d^2 - r^2)^2, which is about 4 r^2 times the squares of distances.
		const k = cx * cx + cy * cy - r2;
		const sum =
			this.zz +
			4 * (cx * cx * this.xx + 2 * cx * cy * this.xy + cy * cy * this.yy) +
			n * k * k -
			4 * (cx * this.xz + cy * this.yz) +
			2 * k * z -
			4 * k * (cx * this.x + cy * this.y);
		return Math.max(0, sum / (4 * r2 * n));
	}

	/** Coordinates as cubics of the length along the line: never better than the best cubic. */
	cubicSq(): number {
		const { u, ux, uy } = this;
		let sum = this.xx + this.yy;
		const l = CHOLESKY;
		const fx = FORWARD_X;
		const fy = FORWARD_Y;
		for (let r = 0; r < 4; r++) {
			for (let q = 0; q <= r; q++) {
				let v = u[r + q];
				for (let k = 0; k < q; k++) v -= l[4 * r + k] * l[4 * q + k];
				if (r === q) {
					if (!(v > 1e-13 * u[2 * r])) return Infinity;
					l[4 * r + r] = Math.sqrt(v);
				} else l[4 * r + q] = v / l[4 * q + q];
			}
			let px = ux[r];
			let py = uy[r];
			for (let k = 0; k < r; k++) {
				px -= l[4 * r + k] * fx[k];
				py -= l[4 * r + k] * fy[k];
			}
			fx[r] = px / l[4 * r + r];
			fy[r] = py / l[4 * r + r];
			sum -= fx[r] * fx[r] + fy[r] * fy[r];
		}
		return Math.max(0, sum / this.n);
	}
}
const UNIT = 48;
const CHOLESKY = new Float64Array(16);
const FORWARD_X = new Float64Array(4);
const FORWARD_Y = new Float64Array(4);

/** Moves each cut between two stretches to where both together lie best. */
function* slideCuts(trail: ContourLine, out: Stretch[]): Generator<void, void> {
	for (let k = 0; k + 1 < out.length; k++) {
		if (k % STEP === STEP - 1) yield;
		const a = out[k];
		const b = out[k + 1];
		const errorAt = (cut: number): number => {
			const ca = curveOf(trail, a.from, cut, a.curve.kind, true);
			const cb = curveOf(trail, cut, b.to, b.curve.kind, true);
			return sumSq(ca, { ...trail, from: a.from, to: cut }) + sumSq(cb, { ...trail, from: cut, to: b.to });
		};
		if (a.curve.kind === 'cubic' && b.curve.kind === 'cubic') continue;
		let at = a.to;
		let least = errorAt(at);
		const lo = a.from + 4;
		const hi = b.to - 4;
		for (let step = Math.max(1, Math.min(8, (hi - lo) >> 2)); step >= 1; step >>= 1) {
			for (let moved = true, tries = 0; moved && tries < 6; tries++) {
				moved = false;
				for (const next of [at - step, at + step]) {
					if (next < lo || next > hi) continue;
					const error = errorAt(next);
					if (error < least) {
						least = error;
						at = next;
						moved = true;
						break;
					}
				}
			}
		}
		if (at === a.to) continue;
		a.to = b.from = at;
		a.curve = curveOf(trail, a.from, at, a.curve.kind);
		b.curve = curveOf(trail, at, b.to, b.curve.kind);
	}
}

function sumSq(curve: Curve, p: Points): number {
	const n = offsFrom(curve, p, few);
	let sum = 0;
	for (let i = 0; i < n; i++) sum += few[i] * few[i];
	return (sum / n) * (p.to - p.from + 1);
}

/** Neighbours for which one curve serves become that. */
function* merge(trail: ContourLine, out: Stretch[], options: RunOptions): Generator<void, void> {
	for (let k = 0; k + 1 < out.length;) {
		if (k % STEP === STEP - 1) yield;
		const a = out[k];
		const b = out[k + 1];
		const one = oneCurve(trail, a.from, b.to, options);
		if (one) {
			out.splice(k, 2, { curve: one, from: a.from, to: b.to });
			k = Math.max(0, k - 1);
		} else k++;
	}
}
