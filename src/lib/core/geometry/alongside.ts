/**
 * Where two lines run along each other nearer than places are told apart.
 *
 * Both are looked at along one direction to which neither stands steeper than 45 degrees: there each has one height for each
 * place, and the difference of heights, taken square to the line, is the signed distance between them. That distance is
 * put through nine places as a polynomial, which is taken when it is right in between too, and halved otherwise; where it
 * keeps above what counts as the same, its control polygon says so at once. Source: Farouki and Rajan 1987 for the change
 * to the Bernstein form; that a control polygon holds its polynomial.
 */
import { TOLERANCE } from '../tolerance';
import { arcShape } from './arc';
import { CUBIC, STRAIGHT, STRIDE } from './path';
import { bernsteinRoots } from './roots';
import { emptyBox, growBox, partOf, type Box } from './segment';

const SAME = TOLERANCE.coincidence;
/** mm. As near as this they are one line: a little nearer than places are one, so that putting ends together is within that. */
const ONE = 0.8 * SAME;

/** A stretch of common line: from t0 to t1 on the first, there u0 and u1 on the second (perhaps falling). */
export interface Stretch {
	t0: number;
	t1: number;
	u0: number;
	u1: number;
	/** On which side of it the second has the first before and after: 1, -1, or 0 where one of them ends there. */
	before: number;
	after: number;
	/** Where they are nearest to each other: where they cross, if they do. */
	nearT: number;
	nearU: number;
	/** mm, and how near they are there. */
	nearest: number;
}

/** A segment on its own: numbers from an origin of its own, so that little is lost far from the drawing's. */
interface Part {
	type: number;
	s: Float64Array;
	/** For an arc: centre, radius, angles. */
	cx: number;
	cy: number;
	radius: number;
	startRad: number;
	sweepRad: number;
	lo: number;
	hi: number;
	/** Whether it runs against the common direction. */
	back: boolean;
}

const fresh = (): Part => ({
	type: CUBIC,
	s: new Float64Array(STRIDE),
	cx: 0,
	cy: 0,
	radius: 0,
	startRad: 0,
	sweepRad: 0,
	lo: 0,
	hi: 1,
	back: false
});
const first = fresh();
const second = fresh();
/** The common direction. */
let ax = 1;
let ay = 0;
// What `look` saw: along, height, and their slopes over the parameter.
let along = 0;
let height = 0;
let alongSlope = 0;
let heightSlope = 0;

function take(part: Part, type: number, s: ArrayLike<number>, at: number, ox: number, oy: number): void {
	part.type = type;
	for (let k = 0; k < STRIDE; k += 2) {
		part.s[k] = s[at + k] - ox;
		part.s[k + 1] = s[at + k + 1] - oy;
	}
	if (type === CUBIC || type === STRAIGHT) return;
	const shape = arcShape(part.s[0], part.s[1], part.s[6], part.s[7], s[at + 2]);
	part.cx = shape.cx;
	part.cy = shape.cy;
	part.radius = shape.radius;
	part.startRad = shape.startRad;
	part.sweepRad = shape.sweepRad;
}

function look(part: Part, t: number): void {
	const { s, type } = part;
	let x: number;
	let y: number;
	let dx: number;
	let dy: number;
	if (type === CUBIC) {
		const v = 1 - t;
		const a = v * v * v;
		const b = 3 * v * v * t;
		const c = 3 * v * t * t;
		const d = t * t * t;
		x = a * s[0] + b * s[2] + c * s[4] + d * s[6];
		y = a * s[1] + b * s[3] + c * s[5] + d * s[7];
		dx = 3 * (v * v * (s[2] - s[0]) + 2 * v * t * (s[4] - s[2]) + t * t * (s[6] - s[4]));
		dy = 3 * (v * v * (s[3] - s[1]) + 2 * v * t * (s[5] - s[3]) + t * t * (s[7] - s[5]));
	} else if (type === STRAIGHT) {
		dx = s[6] - s[0];
		dy = s[7] - s[1];
		x = s[0] + t * dx;
		y = s[1] + t * dy;
	} else {
		const angle = part.startRad + t * part.sweepRad;
		const c = part.radius * Math.cos(angle);
		const n = part.radius * Math.sin(angle);
		x = part.cx + c;
		y = part.cy + n;
		dx = -n * part.sweepRad;
		dy = c * part.sweepRad;
	}
	along = x * ax + y * ay;
	height = y * ax - x * ay;
	alongSlope = dx * ax + dy * ay;
	heightSlope = dy * ax - dx * ay;
}

/** The parameter at which the part is at `x` along the common direction; one of its ends where it does not reach there. */
function parameterAt(part: Part, x: number, guess: number): number {
	let { lo, hi } = part;
	const sign = part.back ? -1 : 1;
	look(part, lo);
	if (sign * (x - along) <= 0) return lo;
	look(part, hi);
	if (sign * (along - x) <= 0) return hi;
	let t = guess > lo && guess < hi ? guess : (lo + hi) / 2;
	for (let k = 0; k < 60; k++) {
		look(part, t);
		const off = along - x;
		if (sign * off > 0) hi = t;
		else lo = t;
		let next = t - off / alongSlope;
		if (!(next > lo && next < hi)) next = (lo + hi) / 2;
		const isStill = Math.abs(next - t) < 1e-15;
		t = next;
		if (isStill || hi - lo < 1e-15) break;
	}
	return t;
}

// Where `distanceAt` was: on the first, on the second.
let atT = 0;
let atU = 0;

/** The signed distance of the first from the second at `x` along the common direction. */
function distanceAt(x: number): number {
	atT = parameterAt(first, x, atT);
	look(first, atT);
	const h = height;
	const slope = Math.hypot(alongSlope, heightSlope);
	const lean = slope > 0 ? Math.abs(alongSlope) / slope : 1;
	atU = parameterAt(second, x, atU);
	look(second, atU);
	return (h - height) * lean;
}

const DEGREE = 8;
const binomial = (n: number, k: number): number => (k === 0 ? 1 : (binomial(n, k - 1) * (n - k + 1)) / k);

/** From values at nine even places to control values: the inverse of the Bernstein polynomials at these places. */
const TO_CONTROL = ((): Float64Array => {
	const n = DEGREE + 1;
	const rows = Array.from({ length: n }, (_, i) => {
		const t = i / DEGREE;
		return Float64Array.from({ length: 2 * n }, (_, k) =>
			k < n ? binomial(DEGREE, k) * t ** k * (1 - t) ** (DEGREE - k) : k - n === i ? 1 : 0
		);
	});
	for (let c = 0; c < n; c++) {
		const pivot = rows.slice(c).reduce((best, row) => (Math.abs(row[c]) > Math.abs(best[c]) ? row : best));
		const at = rows.indexOf(pivot);
		[rows[c], rows[at]] = [rows[at], rows[c]];
		for (let k = 2 * n - 1; k >= c; k--) rows[c][k] /= rows[c][c];
		rows.forEach((row, r) => {
			if (r === c || row[c] === 0) return;
			const by = row[c];
			for (let k = c; k < 2 * n; k++) row[k] -= by * rows[c][k];
		});
	}
	return Float64Array.from(rows.flatMap((row) => [...row.subarray(n)]));
})();

const values = new Float64Array(DEGREE + 1);
const control = new Float64Array(DEGREE + 1);

function valueOf(t: number): number {
	const work = Float64Array.from(control);
	for (let k = DEGREE; k > 0; k--) for (let i = 0; i < k; i++) work[i] += t * (work[i + 1] - work[i]);
	return work[0];
}

/** mm. How rightly the polynomial has to tell the distance where it matters. */
const RIGHT = SAME / 50;
const DEEPEST = 24;
/** Looks at one pair: where rounding alone is above `RIGHT` (arcs of huge radii) halving would never end. */
const MOST_LOOKS = 400;
let looksLeft = 0;

function within(x0: number, x1: number, depth: number, out: Stretch[]): void {
	for (let k = 0; k <= DEGREE; k++) values[k] = distanceAt(x0 + ((x1 - x0) * k) / DEGREE);
	let least = Infinity;
	let most = -Infinity;
	for (let i = 0; i <= DEGREE; i++) {
		let sum = 0;
		for (let k = 0; k <= DEGREE; k++) sum += TO_CONTROL[i * (DEGREE + 1) + k] * values[k];
		control[i] = sum;
		if (sum < least) least = sum;
		if (sum > most) most = sum;
	}
	let off = 0;
	for (const w of [0.5 / DEGREE, 2.5 / DEGREE, 1 - 0.5 / DEGREE])
		off = Math.max(off, Math.abs(distanceAt(x0 + (x1 - x0) * w) - valueOf(w)));
	if (least > ONE + 4 * off || most < -ONE - 4 * off) return;
	if (off > RIGHT && depth < DEEPEST && looksLeft-- > 0) {
		const mid = (x0 + x1) / 2;
		within(x0, mid, depth + 1, out);
		within(mid, x1, depth + 1, out);
		return;
	}
	const stops = [0, ...rootsFrom(-ONE), ...rootsFrom(ONE), 1].sort((m, n) => m - n);
	const crossings = rootsFrom(0);
	for (let k = 0; k + 1 < stops.length; k++) {
		const [w0, w1] = [stops[k], stops[k + 1]];
		if (w1 - w0 < 1e-12 || Math.abs(valueOf((w0 + w1) / 2)) > ONE) continue;
		let near = crossings.find((w) => w >= w0 && w <= w1) ?? w0;
		let nearest = near === w0 ? Math.abs(valueOf(w0)) : 0;
		for (let n = 1; n <= 32 && nearest > 0; n++) {
			const w = w0 + ((w1 - w0) * n) / 32;
			const here = Math.abs(valueOf(w));
			if (here < nearest) [near, nearest] = [w, here];
		}
		const before = w0 > 0 ? Math.sign(valueOf(w0)) : 0;
		const after = w1 < 1 ? Math.sign(valueOf(w1)) : 0;
		const place = (w: number): [number, number] => {
			distanceAt(x0 + (x1 - x0) * w);
			return [atT, atU];
		};
		const [t0, u0] = place(w0);
		const [t1, u1] = place(w1);
		const [nearT, nearU] = place(near);
		out.push({ t0, t1, u0, u1, before, after, nearT, nearU, nearest });
	}
}

const shifted = new Float64Array(DEGREE + 1);
function rootsFrom(level: number): number[] {
	for (let k = 0; k <= DEGREE; k++) shifted[k] = control[k] - level;
	return bernsteinRoots(shifted);
}

/**
 * Finds where a part (t0 to t1) of one segment and a part (u0 to u1) of another lie within `ONE` of each
 * other. Both parts must keep within 45 degrees of the direction (dx, dy), the first forward, the second forward or
 * backward.
 *
 * @param out takes the stretches; those of neighbouring parts are put together by `joinStretches`.
 */
export function findAlongside(
	typeA: number,
	a: ArrayLike<number>,
	i: number,
	t0: number,
	t1: number,
	typeB: number,
	b: ArrayLike<number>,
	j: number,
	u0: number,
	u1: number,
	dx: number,
	dy: number,
	out: Stretch[]
): void {
	const length = Math.hypot(dx, dy);
	if (!(length > 0)) return;
	ax = dx / length;
	ay = dy / length;
	take(first, typeA, a, i, a[i], a[i + 1]);
	take(second, typeB, b, j, a[i], a[i + 1]);
	const spanOf = (part: Part, lo: number, hi: number): [number, number] => {
		part.lo = lo;
		part.hi = hi;
		look(part, lo);
		const from = along;
		look(part, hi);
		part.back = along < from;
		return part.back ? [along, from] : [from, along];
	};
	const [a0, a1] = spanOf(first, t0, t1);
	const [b0, b1] = spanOf(second, u0, u1);
	const x0 = Math.max(a0, b0);
	const x1 = Math.min(a1, b1);
	if (!(x1 > x0)) return;
	atT = (t0 + t1) / 2;
	atU = (u0 + u1) / 2;
	looksLeft = MOST_LOOKS;
	within(x0, x1, 0, out);
}

/** Stretches that go on from each other put together, in the order of t. */
export function joinStretches(list: Stretch[]): Stretch[] {
	list.sort((m, n) => m.t0 - n.t0);
	const out: Stretch[] = [];
	for (const stretch of list) {
		const last = out[out.length - 1];
		if (!last || stretch.t0 > last.t1 + 1e-9) {
			out.push(stretch);
			continue;
		}
		if (stretch.t1 > last.t1) {
			last.t1 = stretch.t1;
			last.u1 = stretch.u1;
			last.after = stretch.after;
		}
		if (stretch.nearest < last.nearest) {
			last.nearest = stretch.nearest;
			last.nearT = stretch.nearT;
			last.nearU = stretch.nearU;
		}
	}
	return out;
}

/** Half of what a part may turn, radians. */
const CONE = Math.PI / 12;

/** A part of a segment that turns little: its parameters, its chord, and a box around it. */
interface Span {
	readonly t0: number;
	readonly t1: number;
	readonly dx: number;
	readonly dy: number;
	readonly box: Box;
}

const MOST_HALVINGS = 8;

/** Halves a segment until the tangents of each part keep within `CONE` of its chord. */
function spansOf(
	type: number,
	s: ArrayLike<number>,
	at: number,
	t0 = 0,
	t1 = 1,
	depth = 0,
	out: Span[] = []
): Span[] {
	const c = partOf(type, s, at, t0, t1);
	const [dx, dy] = [c[6] - c[0], c[7] - c[1]];
	const isSteady =
		type === STRAIGHT ||
		(type === CUBIC ? keepsTo(c, 0, dx, dy, Math.cos(CONE)) : Math.abs(4 * Math.atan(c[2])) <= 2 * CONE);
	if (!isSteady && depth < MOST_HALVINGS) {
		const mid = (t0 + t1) / 2;
		spansOf(type, s, at, t0, mid, depth + 1, out);
		return spansOf(type, s, at, mid, t1, depth + 1, out);
	}
	const box = emptyBox();
	growBox(box, type, c, 0);
	out.push({ t0, t1, dx, dy, box });
	return out;
}

/**
 * Whether every leg of a control polygon keeps to a direction, forward or all backward.
 * @param leastCosine of the angle that a leg may have to it.
 */
export function keepsTo(
	c: ArrayLike<number>,
	at: number,
	dx: number,
	dy: number,
	leastCosine: number
): boolean {
	const length = Math.hypot(dx, dy);
	if (!(length > 0)) return false;
	let sign = 0;
	for (let k = at; k < at + 6; k += 2) {
		const [ex, ey] = [c[k + 2] - c[k], c[k + 3] - c[k + 1]];
		const leg = Math.hypot(ex, ey);
		if (leg < 1e-12) continue;
		const cosine = (ex * dx + ey * dy) / (leg * length);
		if (!(Math.abs(cosine) >= leastCosine)) return false;
		if (sign !== 0 && Math.sign(cosine) !== sign) return false;
		sign = Math.sign(cosine);
	}
	return true;
}

/** All stretches of two segments of any kind. */
export function stretchesOf(
	typeA: number,
	a: ArrayLike<number>,
	i: number,
	typeB: number,
	b: ArrayLike<number>,
	j: number
): Stretch[] {
	const found: Stretch[] = [];
	const others = spansOf(typeB, b, j);
	for (const p of spansOf(typeA, a, i)) {
		for (const q of others) {
			if (q.box.x0 > p.box.x1 + SAME || q.box.x1 < p.box.x0 - SAME) continue;
			if (q.box.y0 > p.box.y1 + SAME || q.box.y1 < p.box.y0 - SAME) continue;
			// Chords farther apart than both may turn: nowhere parallel.
			const size = Math.hypot(p.dx, p.dy) * Math.hypot(q.dx, q.dy);
			if (Math.abs(p.dx * q.dy - p.dy * q.dx) > size * Math.sin(2.1 * CONE)) continue;
			findAlongside(typeA, a, i, p.t0, p.t1, typeB, b, j, q.t0, q.t1, p.dx, p.dy, found);
		}
	}
	return joinStretches(found);
}
