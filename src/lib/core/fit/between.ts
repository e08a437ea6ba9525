/**
 * Lines in between two: places of the one belong to places of the other, starts and directions matched by shape, corners to
 * corners, anchors to anchors where they are alike; each line in between joins the places a share of the way along.
 */
import { done, failed, type Result } from '../errors';
import { pathArea, pathLength, turnAt } from '../geometry/measure';
import { CUBIC, PathBuilder, reversePath, STRAIGHT, STRIDE, type Path } from '../geometry/path';
import type { Point } from '../geometry/point';
import { directionAt, parameterAtLength, pointAt, segmentLength } from '../geometry/segment';
import { mergeStraights } from '../geometry/straights';
import { refit } from './refit';

/** How far along the way each line is: even steps, closer to the start, closer to the end, closer to both. */
export type Easing = 'even' | 'start' | 'end' | 'both';

export interface BetweenOptions {
	/** How many lines, >= 1. */
	readonly count: number;
	readonly easing?: Easing;
	/** The start of the second, moved along it by that share of its length from where the shapes match. */
	readonly shift?: number;
	/** The second is gone the other way than the shapes say. */
	readonly flipped?: boolean;
	/** mm, > 0: how closely the lines in between are fitted. */
	readonly tolerance: number;
}

/** Places of a line that are looked at to match it. */
const LOOKS = 240;
/** How much a turn of the shape counts against how well it fits, when starts are matched. */
const TURN_COSTS = 0.35;
/** Misfit that no shift exceeds where the shapes are as good as round. */
const ROUND = 1e-6;
/** Shares of the whole within which corners, and anchors, are each other's. */
const CORNER_REACH = 0.08;
const ANCHOR_REACH = 0.03;
/** Degrees from which a joint is a corner. */
const CORNER = 12;

/** The lines in between, from the first to the second. @returns them, or `open-and-closed`, `empty`. */
export function between(first: Path, second: Path, options: BetweenOptions): Result<Path[]> {
	if (first.types.length === 0 || second.types.length === 0)
		return failed('empty', 'One of the lines is empty: nothing lies in between.');
	if (first.closed !== second.closed)
		return failed(
			'open-and-closed',
			'Between an open line and a closed one there is no line. Close the one, or open the other.'
		);
	const a = new Measured(first);
	const pair = matched(a, second, options);
	const shares = sharesOf(options.count, options.easing ?? 'even');
	return done(shares.map((share) => blended(a, pair.b, pair.times, share, options.tolerance)));
}

/** Where between 0 and 1 each line lies. */
export function sharesOf(count: number, easing: Easing): number[] {
	return Array.from({ length: count }, (_, i) => {
		const s = (i + 1) / (count + 1);
		switch (easing) {
			case 'even':
				return s;
			case 'start':
				return s * s;
			case 'end':
				return 1 - (1 - s) * (1 - s);
			case 'both':
				return s * s * (3 - 2 * s);
		}
	});
}

/** A line told by how far along it one is, 0 to 1; closed ones go on beyond. */
class Measured {
	/** Where each segment begins, as a share of the whole; one more for the end. */
	readonly starts: Float64Array;
	readonly length: number;
	readonly closed: boolean;

	constructor(readonly path: Path) {
		const n = path.types.length;
		this.closed = path.closed;
		this.starts = new Float64Array(n + 1);
		let sum = 0;
		for (let i = 0; i < n; i++) {
			this.starts[i] = sum;
			sum += segmentLength(path.types[i], path.segs, STRIDE * i);
		}
		this.length = sum;
		for (let i = 0; i < n; i++) this.starts[i] /= sum || 1;
		this.starts[n] = 1;
	}
	private within(u: number): number {
		return this.closed ? u - Math.floor(u) : Math.min(1, Math.max(0, u));
	}
	/** @param before whether a place between two segments counts as the end of the one before. */
	at(u: number, before = false): { readonly i: number; readonly t: number } {
		let v = this.within(u);
		const n = this.path.types.length;
		if (before && v <= HAIR && this.closed) v = 1;
		let lo = 0;
		let hi = n - 1;
		while (lo < hi) {
			const middle = (lo + hi + 1) >> 1;
			if (before ? this.starts[middle] < v - HAIR : this.starts[middle] <= v + HAIR) lo = middle;
			else hi = middle - 1;
		}
		const long = this.starts[lo + 1] - this.starts[lo];
		const share = Math.min(1, Math.max(0, (v - this.starts[lo]) / (long || 1)));
		if (share <= 1e-9 || share >= 1 - 1e-9) return { i: lo, t: share < 0.5 ? 0 : 1 };
		const { types, segs } = this.path;
		return { i: lo, t: parameterAtLength(types[lo], segs, STRIDE * lo, share * long * this.length) };
	}
	place(u: number): Point {
		const { i, t } = this.at(u);
		return pointAt(this.path.types[i], this.path.segs, STRIDE * i, t);
	}
	/** Place and derivative by the share, on the side that is asked for. */
	look(u: number, before: boolean): { readonly p: Point; readonly d: Point; readonly isStraight: boolean } {
		const { i, t } = this.at(u, before);
		const { types, segs } = this.path;
		const dir = directionAt(types[i], segs, STRIDE * i, t);
		return {
			p: pointAt(types[i], segs, STRIDE * i, t),
			d: { x: dir.x * this.length, y: dir.y * this.length },
			isStraight: types[i] === STRAIGHT || bends(types[i], segs, STRIDE * i) < 1e-9
		};
	}
}

const HAIR = 1e-12;

/** How far a cubic leaves its chord, as a share of it. */
function bends(type: number, s: ArrayLike<number>, at: number): number {
	if (type === STRAIGHT) return 0;
	const [dx, dy] = [s[at + 6] - s[at], s[at + 7] - s[at + 1]];
	const chord = Math.hypot(dx, dy);
	if (!(chord > 0) || type !== CUBIC) return Infinity;
	const aside = (k: number) => Math.abs(dx * (s[at + k + 1] - s[at + 1]) - dy * (s[at + k] - s[at])) / chord;
	return Math.max(aside(2), aside(4)) / chord;
}

/** Places with their middle at 0 and their mean distance from it 1. */
function normal(places: readonly Point[]): { x: Float64Array; y: Float64Array } {
	const n = places.length;
	const cx = places.reduce((sum, p) => sum + p.x, 0) / n;
	const cy = places.reduce((sum, p) => sum + p.y, 0) / n;
	const size = Math.sqrt(places.reduce((sum, p) => sum + (p.x - cx) ** 2 + (p.y - cy) ** 2, 0) / n) || 1;
	return {
		x: Float64Array.from(places, (p) => (p.x - cx) / size),
		y: Float64Array.from(places, (p) => (p.y - cy) / size)
	};
}

const looked = (line: Measured): Point[] =>
	Array.from({ length: LOOKS }, (_, k) => line.place(line.closed ? k / LOOKS : k / (LOOKS - 1)));

/** How ill two rows of places fit when the second is begun at `shift` and turned as fits best, and how far it is turned: 0 to 2. */
function misfit(
	a: ReturnType<typeof normal>,
	b: ReturnType<typeof normal>,
	shift: number
): { readonly off: number; readonly turn: number } {
	let dot = 0;
	let cross = 0;
	for (let i = 0; i < LOOKS; i++) {
		const k = (i + shift) % LOOKS;
		dot += a.x[i] * b.x[k] + a.y[i] * b.y[k];
		cross += a.x[i] * b.y[k] - a.y[i] * b.x[k];
	}
	const both = Math.hypot(dot, cross) / LOOKS;
	return { off: 2 - 2 * both, turn: both > 0 ? 1 - dot / LOOKS / both : 1 };
}

/** The second line as it belongs to the first, and for shares of the first those of the second. */
function matched(a: Measured, second: Path, options: BetweenOptions): { b: Measured; times: Times } {
	const na = normal(looked(a));
	let isBack: boolean;
	let shift = 0;
	if (a.closed) {
		isBack = pathArea(a.path) > 0 !== pathArea(second) > 0;
		if (options.flipped) isBack = !isBack;
	} else {
		const cost = (path: Path) => {
			const { off, turn } = misfit(na, normal(looked(new Measured(path))), 0);
			return off + TURN_COSTS * turn;
		};
		const [forth, back] = [cost(second), cost(reversePath(second))];
		isBack = back < forth !== (options.flipped ?? false);
	}
	const b = new Measured(isBack ? reversePath(second) : second);
	if (a.closed) {
		const nb = normal(looked(b));
		const tried = Array.from({ length: LOOKS }, (_, k) => misfit(na, nb, k));
		// The more a shape tells one start from another, the less a turn counts.
		const range = tried.reduce((most, { off }) => Math.max(most, off), 0);
		let least = Infinity;
		tried.forEach(({ off, turn }, k) => {
			const cost = (range > ROUND ? off / range : 0) + TURN_COSTS * turn;
			if (cost < least - 1e-9) [least, shift] = [cost, k / LOOKS];
		});
		shift += options.shift ?? 0;
	}
	return { b, times: timesOf(a, b, shift, options.shift === undefined || options.shift === 0) };
}

/** Shares of the first and of the second that belong to each other, rising; between them a smooth rising curve. */
class Times {
	private readonly slopes: Float64Array;

	/** @param us from 0 to 1, or once round. @param corner whether the slope may jump at each. */
	constructor(
		readonly us: readonly number[],
		private readonly vs: readonly number[],
		private readonly isCorner: readonly boolean[],
		private readonly closed: boolean
	) {
		const n = us.length - 1;
		const rise = (i: number) => (vs[i + 1] - vs[i]) / (us[i + 1] - us[i]);
		// Fritsch and Carlson 1980: harmonic means keep it rising.
		this.slopes = Float64Array.from(us, (_, i) => {
			const before = i > 0 ? rise(i - 1) : closed ? rise(n - 1) : rise(0);
			const after = i < n ? rise(i) : closed ? rise(0) : rise(n - 1);
			return before > 0 && after > 0 ? (2 * before * after) / (before + after) : 0;
		});
	}
	/** The share of the second, and how fast it changes there, on the side that is asked for. */
	at(u: number, before: boolean): { v: number; slope: number } {
		const { us, vs, slopes, isCorner } = this;
		const n = us.length - 1;
		let i = 0;
		let most = n - 1;
		while (i < most) {
			const middle = (i + most) >> 1;
			if (before ? us[middle + 1] < u - HAIR : us[middle + 1] <= u + HAIR) i = middle + 1;
			else most = middle;
		}
		const h = us[i + 1] - us[i];
		const rise = (vs[i + 1] - vs[i]) / h;
		const at = (k: number) => (isCorner[k] && (k === i || k === i + 1) ? rise : slopes[k]);
		const [m0, m1] = [at(i), at(i + 1)];
		const t = Math.min(1, Math.max(0, (u - us[i]) / h));
		const s = 1 - t;
		const v =
			s * s * (1 + 2 * t) * vs[i] + t * t * (3 - 2 * t) * vs[i + 1] + h * (s * s * t * m0 - t * t * s * m1);
		const slope = 6 * s * t * rise + s * (1 - 3 * t) * m0 + t * (1 - 3 * s) * m1;
		return { v, slope };
	}
	/** The share of the first at one of the second (within one round). */
	back(v: number): number {
		const { us, vs } = this;
		const [first, last] = [vs[0], vs[vs.length - 1]];
		const w = this.closed ? v - Math.floor(v - first) : Math.min(last, Math.max(first, v));
		let [below, above] = [0, us.length - 1];
		while (above - below > 1) {
			const middle = (below + above) >> 1;
			if (vs[middle] <= w) below = middle;
			else above = middle;
		}
		let [lo, hi] = [us[below], us[above]];
		for (let k = 0; k < 48; k++) {
			const middle = (lo + hi) / 2;
			if (this.at(middle, false).v < w) lo = middle;
			else hi = middle;
		}
		return (lo + hi) / 2;
	}
}

interface Tie {
	readonly u: number;
	readonly v: number;
	readonly corner: boolean;
}

/** Corners are tied to corners, then anchors to anchors; what is not tied lies in between as its length says. */
function timesOf(a: Measured, b: Measured, shift: number, ties: boolean): Times {
	const { closed } = a;
	const wrap = (v: number) => v - Math.floor(v);
	let list: Tie[] = closed
		? []
		: [
				{ u: 0, v: 0, corner: true },
				{ u: 1, v: 1, corner: true }
			];
	const asTimes = (rows: readonly Tie[]): Times => {
		if (!closed)
			return new Times(
				rows.map((r) => r.u),
				rows.map((r) => r.v),
				rows.map((r) => r.corner),
				false
			);
		if (rows.length === 0) return new Times([0, 1], [shift, shift + 1], [false, false], true);
		// Once round from the first tie, written from share 0 on.
		const us: number[] = [];
		const vs: number[] = [];
		const cs: boolean[] = [];
		const first = rows[0];
		let last = first.v;
		for (const [i, { u, v, corner }] of rows.entries()) {
			last = i ? last + wrap(v - last) : v;
			us.push(u);
			vs.push(last);
			cs.push(corner);
		}
		us.push(first.u + 1);
		vs.push(first.v + 1);
		cs.push(first.corner);
		return new Times(us, vs, cs, true);
	};
	if (!ties) return asTimes(list);
	for (const kind of ['corner', 'anchor'] as const) {
		const times = asTimes(list);
		const reach = kind === 'corner' ? CORNER_REACH : ANCHOR_REACH;
		const ours = jointsOf(a, kind);
		const theirs = jointsOf(b, kind);
		const guess = (u: number) => wrap(times.at(closed && u < times.us[0] ? u + 1 : u, false).v);
		const far = (v: number, w: number) => {
			const d = Math.abs(wrap(v - w + 0.5) - 0.5);
			return closed ? d : Math.abs(v - w);
		};
		for (const joint of ours) {
			const v = guess(joint.u);
			let best: (typeof theirs)[number] | undefined;
			for (const other of theirs)
				if (far(other.u, v) <= reach && (!best || far(other.u, v) < far(best.u, v)) && alike(joint, other))
					best = other;
			if (!best) continue;
			// Nobody else of ours is nearer to it.
			const mine = far(best.u, v);
			const isRival = ours.some(
				(one) => one !== joint && alike(one, best) && far(guess(one.u), best.u) < mine
			);
			if (!isRival) list = withTie(list, { u: joint.u, v: best.u, corner: kind === 'corner' }, closed);
		}
	}
	return asTimes(list);
}

interface Joint {
	readonly u: number;
	/** Degrees, + to the left; 0 where it is no corner. */
	readonly turn: number;
}
const alike = (p: Joint, q: Joint): boolean =>
	p.turn === 0 || q.turn === 0 ? p.turn === q.turn : p.turn * q.turn > 0 && Math.abs(p.turn - q.turn) < 60;

function jointsOf(line: Measured, kind: 'corner' | 'anchor'): Joint[] {
	const out: Joint[] = [];
	const n = line.path.types.length;
	for (let i = line.closed ? 0 : 1; i < n; i++) {
		const degrees = turnAt(line.path, i);
		const turn = Math.abs(degrees) < CORNER ? 0 : degrees;
		if ((turn !== 0) === (kind === 'corner')) out.push({ u: line.starts[i], turn });
	}
	return out;
}

/** With one more tie, where the order of both lines allows it. */
function withTie(list: readonly Tie[], tie: Tie, closed: boolean): Tie[] {
	const wrap = (v: number) => v - Math.floor(v);
	if (list.some(({ u, v }) => Math.abs(u - tie.u) < 1e-9 || Math.abs(wrap(v - tie.v + 0.5) - 0.5) < 1e-9))
		return [...list];
	const next = [...list, tie].sort((p, q) => p.u - q.u);
	if (closed) {
		// Once round, the shares of the second go once round too.
		let sum = 0;
		next.forEach(({ v }, i) => (sum += wrap(next[(i + 1) % next.length].v - v)));
		return next.length < 2 || Math.abs(sum - 1) < 1e-6 ? next : [...list];
	}
	return next.every(({ v }, i) => i === 0 || v > next[i - 1].v) ? next : [...list];
}

/** Parts of each stretch between two joints of either line. */
const PARTS = 4;
/** mm: straights at least so long stay as they are. */
const STAYS = 0.2;

/** The line a share of the way. */
function blended(a: Measured, b: Measured, times: Times, share: number, tolerance: number): Path {
	const from = times.us[0];
	const to = times.us[times.us.length - 1];
	// Broken at all joints of both.
	const breaks = [...a.starts, ...Array.from(b.starts, (v) => times.back(v))]
		.map((u) => (a.closed ? from + (u - from) - Math.floor(u - from) : u))
		.concat(times.us)
		.filter((u) => u >= from - HAIR && u <= to + HAIR)
		.sort((p, q) => p - q)
		.filter((u, i, all) => i === 0 || u - all[i - 1] > 1e-9);
	const last = breaks.length - 1;
	breaks[0] = from;
	breaks[last] = to;
	const look = (u: number, before: boolean) => {
		const mine = a.look(u, before);
		const { v, slope } = times.at(u, before);
		const other = b.look(v, before);
		const mix = (p: number, q: number) => (1 - share) * p + share * q;
		return {
			p: { x: mix(mine.p.x, other.p.x), y: mix(mine.p.y, other.p.y) },
			d: { x: mix(mine.d.x, other.d.x * slope), y: mix(mine.d.y, other.d.y * slope) },
			isStraight: mine.isStraight && other.isStraight
		};
	};
	const start = look(from, false).p;
	const builder = new PathBuilder(start.x, start.y);
	for (let i = 0; i < last; i++) {
		const [u0, u1] = [breaks[i], breaks[i + 1]];
		const middle = look((u0 + u1) / 2, false);
		const parts = middle.isStraight ? 1 : PARTS;
		for (let k = 0; k < parts; k++) {
			const [s, e] = [u0 + ((u1 - u0) * k) / parts, u0 + ((u1 - u0) * (k + 1)) / parts];
			const isLast = a.closed && i === last - 1 && k === parts - 1;
			const p = look(s, false);
			const q = look(e, true);
			const end = isLast ? start : q.p;
			if (middle.isStraight) {
				builder.line(end.x, end.y);
				continue;
			}
			const h = (e - s) / 3;
			builder.cubic(p.p.x + p.d.x * h, p.p.y + p.d.y * h, end.x - q.d.x * h, end.y - q.d.y * h, end.x, end.y);
		}
	}
	const dense = mergeStraights(a.closed ? builder.close() : builder.open());
	const size = pathLength(dense);
	if (!(size > 0)) return dense;
	return refit(dense, { tolerance: 0.8 * tolerance, keepLength: STAYS });
}
