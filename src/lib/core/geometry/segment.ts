/** One segment of a path: place, direction, curvature, length, area, box, parts, nearest point. */
import type { Point } from './point';
import { CoreError } from '../errors';
import { LIMIT, TOLERANCE } from '../tolerance';
import { arcShape, arcToCubics } from './arc';
import { ARC, CUBIC, STRAIGHT, STRIDE, type Path } from './path';
import { bernsteinRoots } from './roots';

/** An upright box, mm. An empty one has x0 > x1. */
export interface Box {
	x0: number;
	y0: number;
	x1: number;
	y1: number;
}

/** The place at t on the segment that starts at number `at` of `s`. */
export function pointAt(type: number, s: ArrayLike<number>, at: number, t: number): Point {
	if (t === 0) return { x: s[at], y: s[at + 1] };
	if (t === 1) return { x: s[at + 6], y: s[at + 7] };
	const u = 1 - t;
	if (type === STRAIGHT) return { x: u * s[at] + t * s[at + 6], y: u * s[at + 1] + t * s[at + 7] };
	if (type === ARC) {
		const { cx, cy, radius, startRad, sweepRad } = arcShape(
			s[at],
			s[at + 1],
			s[at + 6],
			s[at + 7],
			s[at + 2]
		);
		const a = startRad + sweepRad * t;
		return { x: cx + radius * Math.cos(a), y: cy + radius * Math.sin(a) };
	}
	const a = u * u * u;
	const b = 3 * u * u * t;
	const c = 3 * u * t * t;
	const d = t * t * t;
	return {
		x: a * s[at] + b * s[at + 2] + c * s[at + 4] + d * s[at + 6],
		y: a * s[at + 1] + b * s[at + 3] + c * s[at + 5] + d * s[at + 7]
	};
}

/** The derivative by t, mm; may vanish where handles lie on anchors. */
export function derivativeAt(type: number, s: ArrayLike<number>, at: number, t: number): Point {
	if (type === STRAIGHT) return { x: s[at + 6] - s[at], y: s[at + 7] - s[at + 1] };
	if (type === ARC) {
		const { radius, startRad, sweepRad } = arcShape(s[at], s[at + 1], s[at + 6], s[at + 7], s[at + 2]);
		const a = startRad + sweepRad * t;
		return { x: -radius * sweepRad * Math.sin(a), y: radius * sweepRad * Math.cos(a) };
	}
	const u = 1 - t;
	const a = 3 * u * u;
	const b = 6 * u * t;
	const c = 3 * t * t;
	return {
		x: a * (s[at + 2] - s[at]) + b * (s[at + 4] - s[at + 2]) + c * (s[at + 6] - s[at + 4]),
		y: a * (s[at + 3] - s[at + 1]) + b * (s[at + 5] - s[at + 3]) + c * (s[at + 7] - s[at + 5])
	};
}

/** The second derivative by t, mm. */
export function secondAt(type: number, s: ArrayLike<number>, at: number, t: number): Point {
	if (type === STRAIGHT) return { x: 0, y: 0 };
	if (type === ARC) {
		const { radius, startRad, sweepRad } = arcShape(s[at], s[at + 1], s[at + 6], s[at + 7], s[at + 2]);
		const a = startRad + sweepRad * t;
		const k = -radius * sweepRad * sweepRad;
		return { x: k * Math.cos(a), y: k * Math.sin(a) };
	}
	const u = 1 - t;
	return {
		x: 6 * (u * (s[at + 4] - 2 * s[at + 2] + s[at]) + t * (s[at + 6] - 2 * s[at + 4] + s[at + 2])),
		y: 6 * (u * (s[at + 5] - 2 * s[at + 3] + s[at + 1]) + t * (s[at + 7] - 2 * s[at + 5] + s[at + 3]))
	};
}

/** Degrees from one direction to another, positive to the left. */
export function turnBetween(ax: number, ay: number, bx: number, by: number): number {
	return (Math.atan2(ax * by - ay * bx, ax * bx + ay * by) * 180) / Math.PI;
}

/**
 * The unit direction of travel at t. Where the derivative vanishes (a handle on its anchor) it is the limit from
 * inside the segment; a segment that is one point gives (1, 0).
 */
export function directionAt(type: number, s: ArrayLike<number>, at: number, t: number): Point {
	let d = derivativeAt(type, s, at, t);
	let size = Math.hypot(d.x, d.y);
	if (type === CUBIC && size < 1e-6 * roughSize(s, at) && size <= 1e-9 * hullSize(s, at)) {
		// A handle on its anchor: the line leaves toward the next control point that is elsewhere.
		const sign = t < 0.5 ? 1 : -1;
		const o = t < 0.5 ? 0 : 6;
		const end = t === 0 || t === 1;
		for (let k = 1; k <= 3 && size <= 1e-9 * hullSize(s, at); k++) {
			if (end) {
				d = {
					x: sign * (s[at + o + sign * 2 * k] - s[at + o]),
					y: sign * (s[at + o + sign * 2 * k + 1] - s[at + o + 1])
				};
			} else {
				// A cusp inside: just before it, or just after.
				const p = pointAt(CUBIC, s, at, t);
				const q = pointAt(CUBIC, s, at, t + sign * 1e-4);
				d = { x: sign * (q.x - p.x), y: sign * (q.y - p.y) };
			}
			size = Math.hypot(d.x, d.y);
		}
	}
	return size > 0 ? { x: d.x / size, y: d.y / size } : { x: 1, y: 0 };
}

/** Of the size of the hull, quickly. */
function roughSize(s: ArrayLike<number>, at: number): number {
	return (
		Math.abs(s[at + 2] - s[at]) +
		Math.abs(s[at + 3] - s[at + 1]) +
		Math.abs(s[at + 4] - s[at + 2]) +
		Math.abs(s[at + 5] - s[at + 3]) +
		Math.abs(s[at + 6] - s[at + 4]) +
		Math.abs(s[at + 7] - s[at + 5])
	);
}

function hullSize(s: ArrayLike<number>, at: number): number {
	return (
		Math.hypot(s[at + 2] - s[at], s[at + 3] - s[at + 1]) +
		Math.hypot(s[at + 4] - s[at + 2], s[at + 5] - s[at + 3]) +
		Math.hypot(s[at + 6] - s[at + 4], s[at + 7] - s[at + 5])
	);
}

/** Signed curvature at t, 1/mm, positive turning left. Infinite at a cusp. */
export function curvatureAt(type: number, s: ArrayLike<number>, at: number, t: number): number {
	if (type === STRAIGHT) return 0;
	if (type === ARC) {
		const { radius } = arcShape(s[at], s[at + 1], s[at + 6], s[at + 7], s[at + 2]);
		return Math.sign(s[at + 2]) / radius;
	}
	const d = derivativeAt(type, s, at, t);
	const e = secondAt(type, s, at, t);
	const speed = Math.hypot(d.x, d.y);
	return (d.x * e.y - d.y * e.x) / (speed * speed * speed);
}

/** The part from t0 to t1 as 8 numbers; the ends at 0 and 1 are copied exactly. */
export function partOf(type: number, s: ArrayLike<number>, at: number, t0: number, t1: number): Float64Array {
	const out = new Float64Array(STRIDE);
	const p = pointAt(type, s, at, t0);
	const q = pointAt(type, s, at, t1);
	if (type === ARC) {
		out.set([p.x, p.y, Math.tan(Math.atan(s[at + 2]) * (t1 - t0)), 0, 0, 0, q.x, q.y]);
		return out;
	}
	if (type === STRAIGHT) {
		out.set([
			p.x,
			p.y,
			p.x + (q.x - p.x) / 3,
			p.y + (q.y - p.y) / 3,
			q.x - (q.x - p.x) / 3,
			q.y - (q.y - p.y) / 3,
			q.x,
			q.y
		]);
		return out;
	}
	// Blossom: the handles of the part are the polar values (t0 t0 t1) and (t0 t1 t1).
	for (let k = 0; k < 2; k++) {
		const a = s[at + k];
		const b = s[at + 2 + k];
		const c = s[at + 4 + k];
		const d = s[at + 6 + k];
		out[2 + k] = blossom(a, b, c, d, t0, t0, t1);
		out[4 + k] = blossom(a, b, c, d, t0, t1, t1);
	}
	out[0] = p.x;
	out[1] = p.y;
	out[6] = q.x;
	out[7] = q.y;
	return out;
}

function blossom(a: number, b: number, c: number, d: number, r: number, s: number, t: number): number {
	const ab = a + (b - a) * r;
	const bc = b + (c - b) * r;
	const cd = c + (d - c) * r;
	const abc = ab + (bc - ab) * s;
	const bcd = bc + (cd - bc) * s;
	return abc + (bcd - abc) * t;
}

/** Grows `box` by the tight bounds of the segment. */
export function growBox(box: Box, type: number, s: ArrayLike<number>, at: number): void {
	growByPoint(box, s[at], s[at + 1]);
	growByPoint(box, s[at + 6], s[at + 7]);
	if (type === STRAIGHT) return;
	if (type === ARC) {
		const { cx, cy, radius, startRad, sweepRad } = arcShape(
			s[at],
			s[at + 1],
			s[at + 6],
			s[at + 7],
			s[at + 2]
		);
		for (let q = 0; q < 4; q++) {
			const a = (q * Math.PI) / 2;
			let along = sweepRad > 0 ? a - startRad : startRad - a;
			along -= 2 * Math.PI * Math.floor(along / (2 * Math.PI));
			if (along < Math.abs(sweepRad)) growByPoint(box, cx + radius * Math.cos(a), cy + radius * Math.sin(a));
		}
		return;
	}
	for (let k = 0; k < 2; k++) {
		const a = s[at + 2 + k] - s[at + k];
		const b = s[at + 4 + k] - s[at + 2 + k];
		const c = s[at + 6 + k] - s[at + 4 + k];
		const lo = k ? box.y0 : box.x0;
		const hi = k ? box.y1 : box.x1;
		if (Math.min(s[at + 2 + k], s[at + 4 + k]) >= lo && Math.max(s[at + 2 + k], s[at + 4 + k]) <= hi)
			continue;
		for (const t of quadraticRoots(a - 2 * b + c, 2 * (b - a), a)) {
			if (t > 0 && t < 1) {
				const p = pointAt(CUBIC, s, at, t);
				growByPoint(box, p.x, p.y);
			}
		}
	}
}

export function emptyBox(): Box {
	return { x0: Infinity, y0: Infinity, x1: -Infinity, y1: -Infinity };
}

export function growByPoint(box: Box, x: number, y: number): void {
	if (x < box.x0) box.x0 = x;
	if (x > box.x1) box.x1 = x;
	if (y < box.y0) box.y0 = y;
	if (y > box.y1) box.y1 = y;
}

/** Real roots of a t^2 + b t + c, without cancellation. */
export function quadraticRoots(a: number, b: number, c: number): number[] {
	if (Math.abs(a) <= 1e-14 * (Math.abs(b) + Math.abs(c))) return b === 0 ? [] : [-c / b];
	const disc = b * b - 4 * a * c;
	if (disc < 0) return [];
	const q = -0.5 * (b + (b < 0 ? -1 : 1) * Math.sqrt(disc));
	return q === 0 ? [0] : [q / a, c / q];
}

// Gauss-Legendre, 16 points on 0..1 (half of them; Abramowitz and Stegun, table 25.4).
const GAUSS_X = [
	0.09501250983763744, 0.2816035507792589, 0.45801677765722737, 0.6178762444026438, 0.755404408355003,
	0.8656312023878318, 0.9445750230732326, 0.9894009349916499
];
const GAUSS_W = [
	0.1894506104550685, 0.18260341504492358, 0.16915651939500254, 0.14959598881657674, 0.12462897125553388,
	0.09515851168249279, 0.06225352393864789, 0.027152459411754096
];

function gaussLength(s: ArrayLike<number>, at: number, t0: number, t1: number): number {
	const mid = (t0 + t1) / 2;
	const half = (t1 - t0) / 2;
	const ax = s[at + 2] - s[at];
	const ay = s[at + 3] - s[at + 1];
	const bx = s[at + 4] - s[at + 2];
	const by = s[at + 5] - s[at + 3];
	const cx = s[at + 6] - s[at + 4];
	const cy = s[at + 7] - s[at + 5];
	let sum = 0;
	for (let i = 0; i < 8; i++) {
		for (let side = -1; side <= 1; side += 2) {
			const t = mid + side * half * GAUSS_X[i];
			const u = 1 - t;
			const dx = u * u * ax + 2 * u * t * bx + t * t * cx;
			const dy = u * u * ay + 2 * u * t * by + t * t * cy;
			sum += GAUSS_W[i] * Math.sqrt(dx * dx + dy * dy);
		}
	}
	return 3 * half * sum;
}

/** Length from t0 to t1, mm, exact to `TOLERANCE.lengthRatio` of the whole. */
export function segmentLength(type: number, s: ArrayLike<number>, at: number, t0 = 0, t1 = 1): number {
	if (type === STRAIGHT) return Math.hypot(s[at + 6] - s[at], s[at + 7] - s[at + 1]) * (t1 - t0);
	if (type === ARC) {
		const b = s[at + 2];
		const chord = Math.hypot(s[at + 6] - s[at], s[at + 7] - s[at + 1]);
		if (Math.abs(b) < 1e-9) return chord * (t1 - t0);
		return ((chord * (1 + b * b)) / (4 * Math.abs(b))) * 4 * Math.atan(Math.abs(b)) * (t1 - t0);
	}
	return cubicLength(s, at, slowPlaces(s, at), TOLERANCE.lengthRatio * hullSize(s, at), t0, t1);
}

/** @param slow where its speed has kinks (`slowPlaces`). @param tolerance mm */
function cubicLength(
	s: ArrayLike<number>,
	at: number,
	slow: readonly number[],
	tolerance: number,
	t0: number,
	t1: number
): number {
	const stops = [t0, ...slow.filter((t) => t > t0 && t < t1), t1];
	let sum = 0;
	for (let k = 0; k + 1 < stops.length; k++) {
		sum += refineLength(
			s,
			at,
			stops[k],
			stops[k + 1],
			gaussLength(s, at, stops[k], stops[k + 1]),
			tolerance,
			0
		);
	}
	return sum;
}

/**
 * Where the speed of a cubic is least or largest, if its hull turns back on itself: near a cusp the speed has a kink that
 * no quadrature sees from afar, so lengths are reckoned on both sides of it.
 */
function slowPlaces(s: ArrayLike<number>, at: number): number[] {
	const d: number[] = [];
	for (let k = 0; k < 6; k++) d.push(s[at + k + 2] - s[at + k]);
	if (d[0] * d[2] + d[1] * d[3] > 0 && d[2] * d[4] + d[3] * d[5] > 0) return [];
	// B' . B'' in Bernstein form of degree 3.
	const e = [d[2] - d[0], d[3] - d[1], d[4] - d[2], d[5] - d[3]];
	const dot = (i: number, j: number) => d[2 * i] * e[2 * j] + d[2 * i + 1] * e[2 * j + 1];
	return bernsteinRoots([
		dot(0, 0),
		(dot(0, 1) + 2 * dot(1, 0)) / 3,
		(2 * dot(1, 1) + dot(2, 0)) / 3,
		dot(2, 1)
	]);
}

function refineLength(
	s: ArrayLike<number>,
	at: number,
	t0: number,
	t1: number,
	whole: number,
	tolerance: number,
	depth: number
): number {
	const mid = (t0 + t1) / 2;
	const left = gaussLength(s, at, t0, mid);
	const right = gaussLength(s, at, mid, t1);
	// What is no number comes nowhere nearer by halving.
	if (!(Math.abs(left + right - whole) > tolerance) || depth > 30) return left + right;
	return (
		refineLength(s, at, t0, mid, left, tolerance / 2, depth + 1) +
		refineLength(s, at, mid, t1, right, tolerance / 2, depth + 1)
	);
}

/** The t at which `length` mm of the segment lie behind; clamped to 0..1. */
export function parameterAtLength(type: number, s: ArrayLike<number>, at: number, length: number): number {
	const whole = segmentLength(type, s, at);
	if (!(length > 0) || whole === 0) return 0;
	if (length >= whole) return 1;
	if (type !== CUBIC) return length / whole;
	const first = length / whole;
	const lengthTo = (t: number) => segmentLength(type, s, at, 0, t);
	return cubicPlace(s, at, length, whole, 0, { t: first, length: lengthTo(first) }, lengthTo).t;
}

/**
 * The place of a cubic after `from` whose length is as wanted, beginning with a guess: Newton's step where it stays between places
 * that are too near and too far, halving where it does not.
 */
function cubicPlace(
	s: ArrayLike<number>,
	at: number,
	wanted: number,
	whole: number,
	from: number,
	guess: { readonly t: number; readonly length: number },
	lengthTo: (t: number) => number
): { readonly t: number; readonly length: number } {
	let { t, length } = guess;
	let lo = from;
	let hi = 1;
	for (let i = 0; i < 60; i++) {
		const miss = length - wanted;
		if (Math.abs(miss) <= 1e-13 * whole) break;
		if (miss > 0) hi = t;
		else lo = t;
		const d = derivativeAt(CUBIC, s, at, t);
		const next = t - miss / Math.hypot(d.x, d.y);
		t = next > lo && next < hi ? next : (lo + hi) / 2;
		length = lengthTo(t);
	}
	return { t, length };
}

/**
 * Where a segment is parted into equal lengths: each t is found from the one before it, so that many of them take little longer than
 * the length by itself.
 * @returns parts + 1 values, from 0 to 1.
 */
export function evenParameters(type: number, s: ArrayLike<number>, at: number, parts: number): Float64Array {
	const out = Float64Array.from({ length: parts + 1 }, (_, k) => k / parts);
	const whole = type === CUBIC ? segmentLength(type, s, at) : 0;
	if (whole === 0) return out;
	const slow = slowPlaces(s, at);
	const tolerance = TOLERANCE.lengthRatio * hullSize(s, at);
	let last = { t: 0, length: 0 };
	for (let k = 1; k < parts; k++) {
		const { t: from, length: behind } = last;
		const lengthTo = (t: number) => behind + cubicLength(s, at, slow, tolerance, from, t);
		last = cubicPlace(s, at, (whole * k) / parts, whole, from, last, lengthTo);
		out[k] = last.t;
	}
	return out;
}

/** Its share of the signed area: half the integral of x dy - y dx (Green's formula), mm^2. */
export function segmentArea(type: number, s: ArrayLike<number>, at: number): number {
	const x0 = s[at];
	const y0 = s[at + 1];
	const x3 = s[at + 6];
	const y3 = s[at + 7];
	if (type === STRAIGHT) return (x0 * y3 - x3 * y0) / 2;
	if (type === ARC) {
		const b = s[at + 2];
		const chordSq = (x3 - x0) * (x3 - x0) + (y3 - y0) * (y3 - y0);
		const r = (Math.sqrt(chordSq) * (1 + b * b)) / (4 * Math.abs(b));
		const sweep = 4 * Math.atan(b);
		const cap = Math.abs(b) < 1e-4 ? (chordSq * b) / 3 : (r * r * (sweep - Math.sin(sweep))) / 2;
		return (x0 * y3 - x3 * y0) / 2 + cap;
	}
	const x1 = s[at + 2];
	const y1 = s[at + 3];
	const x2 = s[at + 4];
	const y2 = s[at + 5];
	return (
		(3 *
			(x0 * (2 * y1 + y2) -
				y0 * (2 * x1 + x2) +
				x1 * y2 -
				x2 * y1 +
				x1 * y3 -
				x3 * y1 +
				2 * (x2 * y3 - x3 * y2))) /
			20 +
		(x0 * y3 - x3 * y0) / 20
	);
}

/** Nearest place on the segment, found among all stationary ones, so never a merely local one. */
export function nearestOn(
	type: number,
	s: ArrayLike<number>,
	at: number,
	x: number,
	y: number
): { t: number; distance: number } {
	if (type === STRAIGHT) {
		const dx = s[at + 6] - s[at];
		const dy = s[at + 7] - s[at + 1];
		const sq = dx * dx + dy * dy;
		const t = sq > 0 ? Math.min(1, Math.max(0, ((x - s[at]) * dx + (y - s[at + 1]) * dy) / sq)) : 0;
		return { t, distance: Math.hypot(s[at] + t * dx - x, s[at + 1] + t * dy - y) };
	}
	const candidates = [0, 1];
	if (type === ARC) {
		const { cx, cy, startRad, sweepRad } = arcShape(s[at], s[at + 1], s[at + 6], s[at + 7], s[at + 2]);
		let along = Math.atan2(y - cy, x - cx) - startRad;
		if (sweepRad < 0) along = -along;
		along -= 2 * Math.PI * Math.floor(along / (2 * Math.PI));
		const t = along / Math.abs(sweepRad);
		if (t < 1) candidates.push(t);
	} else {
		// (B(t) - p) . B'(t) as a quintic in Bernstein form.
		const p = [0, 0, 0, 0, 0, 0, 0, 0];
		for (let k = 0; k < 8; k += 2) {
			p[k] = s[at + k] - x;
			p[k + 1] = s[at + k + 1] - y;
		}
		const q = new Float64Array(6);
		for (let i = 0; i < 4; i++) {
			for (let j = 0; j < 3; j++) {
				const dot = p[2 * i] * (p[2 * j + 2] - p[2 * j]) + p[2 * i + 1] * (p[2 * j + 3] - p[2 * j + 1]);
				q[i + j] += (BINOMIAL3[i] * BINOMIAL2[j] * dot) / BINOMIAL5[i + j];
			}
		}
		candidates.push(...bernsteinRoots(q));
	}
	let t = 0;
	let best = Infinity;
	for (const c of candidates) {
		const p = pointAt(type, s, at, c);
		const distance = Math.hypot(p.x - x, p.y - y);
		if (distance < best) {
			best = distance;
			t = c;
		}
	}
	return { t, distance: best };
}
const BINOMIAL2 = [1, 2, 1];
const BINOMIAL3 = [1, 3, 3, 1];
const BINOMIAL5 = [1, 5, 10, 10, 5, 1];

/** Parameters where a cubic changes its sense of turning, strictly inside. */
export function inflections(s: ArrayLike<number>, at: number): number[] {
	const ax = s[at + 2] - s[at];
	const ay = s[at + 3] - s[at + 1];
	const bx = s[at + 4] - s[at + 2];
	const by = s[at + 5] - s[at + 3];
	const cx = s[at + 6] - s[at + 4];
	const cy = s[at + 7] - s[at + 5];
	// B' x B'' is a quadratic in Bernstein form up to a factor: a x b, (a x c) / 2, b x c.
	const p = ax * by - ay * bx;
	const q = ax * cy - ay * cx;
	const r = bx * cy - by * cx;
	return quadraticRoots(p - q + r, q - 2 * p, p)
		.filter((t) => t > 1e-9 && t < 1 - 1e-9)
		.sort((m, n) => m - n);
}

/** Parameters where the segment runs level or plumb, strictly inside. */
export function extremes(type: number, s: ArrayLike<number>, at: number): number[] {
	if (type !== CUBIC) return [];
	const out: number[] = [];
	for (let k = 0; k < 2; k++) {
		const a = s[at + 2 + k] - s[at + k];
		const b = s[at + 4 + k] - s[at + 2 + k];
		const c = s[at + 6 + k] - s[at + 4 + k];
		for (const t of quadraticRoots(a - 2 * b + c, 2 * (b - a), a)) if (t > 1e-9 && t < 1 - 1e-9) out.push(t);
	}
	return out.sort((m, n) => m - n);
}

/**
 * Appends the points of a polyline along the segment, without its start, the end exact.
 *
 * @param tolerance largest distance between segment and polyline, mm, > 0.
 * @throws CoreError `bad-tolerance`, `too-detailed`
 * Source: Wang 1984, as stated in Goldman, Pyramid Algorithms (2003), 5.6.3; for arcs the sagitta.
 */
export function flattenSegment(
	type: number,
	s: ArrayLike<number>,
	at: number,
	tolerance: number,
	out: number[]
): void {
	if (!(tolerance > 0)) {
		throw new CoreError('bad-tolerance', `The tolerance must be above 0 mm, not ${tolerance}.`);
	}
	const n = flattenSteps(type, s, at, tolerance);
	if (type === ARC) {
		const { cx, cy, radius, startRad, sweepRad } = arcShape(
			s[at],
			s[at + 1],
			s[at + 6],
			s[at + 7],
			s[at + 2]
		);
		for (let i = 1; i < n; i++) {
			const a = startRad + (sweepRad * i) / n;
			out.push(cx + radius * Math.cos(a), cy + radius * Math.sin(a));
		}
	} else {
		for (let i = 1; i < n; i++) {
			const t = i / n;
			const u = 1 - t;
			const a = u * u * u;
			const b = 3 * u * u * t;
			const c = 3 * u * t * t;
			const d = t * t * t;
			out.push(
				a * s[at] + b * s[at + 2] + c * s[at + 4] + d * s[at + 6],
				a * s[at + 1] + b * s[at + 3] + c * s[at + 5] + d * s[at + 7]
			);
		}
	}
	out.push(s[at + 6], s[at + 7]);
}

/** Into how many equal steps of t a segment must be cut to stay within the tolerance. */
export function flattenSteps(type: number, s: ArrayLike<number>, at: number, tolerance: number): number {
	let n = 1;
	if (type === ARC) {
		const { radius, sweepRad } = arcShape(s[at], s[at + 1], s[at + 6], s[at + 7], s[at + 2]);
		const step = 2 * Math.acos(Math.max(-1, 1 - Math.min(tolerance, radius) / radius));
		n = Math.max(1, Math.ceil(Math.abs(sweepRad) / step));
	} else if (type === CUBIC) {
		const bendStart = Math.hypot(s[at] - 2 * s[at + 2] + s[at + 4], s[at + 1] - 2 * s[at + 3] + s[at + 5]);
		const bendEnd = Math.hypot(s[at + 2] - 2 * s[at + 4] + s[at + 6], s[at + 3] - 2 * s[at + 5] + s[at + 7]);
		n = Math.max(1, Math.ceil(Math.sqrt((0.75 * Math.max(bendStart, bendEnd)) / tolerance)));
	}
	if (!(n <= LIMIT.flattenSteps)) {
		throw new CoreError('too-detailed', `A curve can't be drawn to ${tolerance} mm. Use a larger tolerance.`);
	}
	return n;
}

/** The path with its arcs as cubics, within the tolerance (mm); other segments are copied. */
export function arcsToCubics(path: Path, tolerance: number = TOLERANCE.measure): Path {
	if (!path.types.includes(ARC)) return path;
	const types: number[] = [];
	const segs: number[] = [];
	for (let i = 0; i < path.types.length; i++) {
		const at = STRIDE * i;
		if (path.types[i] !== ARC) {
			types.push(path.types[i]);
			for (let k = 0; k < STRIDE; k++) segs.push(path.segs[at + k]);
			continue;
		}
		const s = path.segs;
		const cubics = arcToCubics(s[at], s[at + 1], s[at + 6], s[at + 7], s[at + 2], tolerance);
		for (let k = 0; k < cubics.length; k += STRIDE) types.push(CUBIC);
		segs.push(...cubics);
	}
	return { closed: path.closed, types: Uint8Array.from(types), segs: Float64Array.from(segs) };
}
