/** Where two segments meet: cross, touch, or share an end. */
import type { Point } from './point';
import { LIMIT, TOLERANCE } from '../tolerance';
import { findAlongside, joinStretches, keepsTo, stretchesOf, type Stretch } from './alongside';
import { arcShape } from './arc';
import { CUBIC, STRAIGHT } from './path';
import { bernsteinRoots } from './roots';
import { nearestOn, pointAt, quadraticRoots } from './segment';

/** A common place of two segments: t on the first, u on the second. */
export interface SegmentMeeting extends Point {
	t: number;
	u: number;
}

const SAME = TOLERANCE.coincidence;

// Findings of the running search: t, u, x, y each.
const found = new Float64Array(4 * 512);
let count = 0;

/** mm. Shorter stretches of common line are no more than the places where they were found. */
const LONG = 0.1;
/** Below this sine of the angle between two curves it is asked whether they run along each other. */
const SHALLOW = 1e-3;
const NONE: readonly Stretch[] = [];
let stretches: readonly Stretch[] = NONE;

/** Long stretches of common line among what `findMeetings` found last; their ends are meetings too. */
export const lastStretches = (): readonly Stretch[] => stretches;

/** Notes the ends of what is long, and where shorter ones cross or touch. */
function noteStretches(
	typeA: number,
	a: ArrayLike<number>,
	i: number,
	list: readonly Stretch[],
	meet: ((stretch: Stretch, isCrossing: boolean) => void) | undefined
): void {
	const long: Stretch[] = [];
	for (const stretch of list) {
		const p = pointAt(typeA, a, i, stretch.t0);
		const q = pointAt(typeA, a, i, stretch.t1);
		if (Math.hypot(q.x - p.x, q.y - p.y) > LONG) {
			note(stretch.t0, stretch.u0, p.x, p.y);
			note(stretch.t1, stretch.u1, q.x, q.y);
			long.push(stretch);
			continue;
		}
		const { before, after, nearest } = stretch;
		const isWhole = before !== 0 && after !== 0;
		// What was cut off by an end is met there.
		const isCrossing = nearest === 0 && before !== after;
		if (isWhole || isCrossing) meet?.(stretch, isCrossing);
	}
	if (long.length > 0) stretches = long;
}

/** Notes a meeting once: the same place reached again from a neighbouring part is the same meeting. */
function note(t: number, u: number, x: number, y: number): void {
	for (let k = 0; k < 4 * count; k += 4) {
		if (
			Math.abs(found[k + 2] - x) + Math.abs(found[k + 3] - y) <= 2 * SAME &&
			Math.abs(found[k] - t) < 1e-3 &&
			Math.abs(found[k + 1] - u) < 1e-3
		) {
			// Exact ends win over roots found beside them.
			if ((t === 0 || t === 1) && found[k] !== 0 && found[k] !== 1) found[k] = t;
			if ((u === 0 || u === 1) && found[k + 1] !== 0 && found[k + 1] !== 1) found[k + 1] = u;
			return;
		}
	}
	if (count >= 512) return;
	found[4 * count] = t;
	found[4 * count + 1] = u;
	found[4 * count + 2] = x;
	found[4 * count + 3] = y;
	count++;
}

/**
 * All places that two segments have in common, each once. Stretches lying on each other give only their ends.
 * Straights and arcs are solved in closed form, arcs and straights with cubics as polynomial roots, two cubics by
 * subdivision with fat lines (Sederberg and Nishita 1990, "Curve intersection using Bezier clipping", for the lines)
 * until their tangents cannot be parallel any more, when at most one meeting is left for Newton's method.
 */
export function segmentMeetings(
	typeA: number,
	a: ArrayLike<number>,
	atA: number,
	typeB: number,
	b: ArrayLike<number>,
	atB: number
): SegmentMeeting[] {
	const n = findMeetings(typeA, a, atA, typeB, b, atB);
	const out: SegmentMeeting[] = [];
	for (let k = 0; k < n; k++) {
		out.push({ t: found[4 * k], u: found[4 * k + 1], x: found[4 * k + 2], y: found[4 * k + 3] });
	}
	return out.sort((m, q) => m.t - q.t);
}

/** What `findMeetings` found last: t, u, x, y of each. Read it before searching again. */
export const lastMeetings: ArrayLike<number> = found;

/** As `segmentMeetings`, without making objects; gives the number found. */
export function findMeetings(
	typeA: number,
	a: ArrayLike<number>,
	i: number,
	typeB: number,
	b: ArrayLike<number>,
	j: number
): number {
	count = 0;
	stretches = NONE;
	if (typeA === CUBIC && typeB === CUBIC) {
		cubicCubic(a, i, b, j);
		return count;
	}
	if (typeA === STRAIGHT && typeB === STRAIGHT) {
		straightStraight(a, i, b, j);
		if (count > 0 && areParallel(a, i, b, j))
			noteStretches(typeA, a, i, stretchesOf(typeA, a, i, typeB, b, j), undefined);
		return count;
	}
	if (typeA === CUBIC) simpleCubic(typeB, b, j, a, i, true);
	else if (typeB === CUBIC) simpleCubic(typeA, a, i, b, j, false);
	else if (typeA === STRAIGHT) straightArc(a, i, b, j, false);
	else if (typeB === STRAIGHT) straightArc(b, j, a, i, true);
	else arcArc(a, i, b, j);
	// Ends lying on the other segment are found whatever the slope: tangents and overlaps hide them from the roots.
	endsOnOther(typeA, a, i, typeB, b, j);
	if (mayRunAlong(typeA, a, i, typeB, b, j))
		noteStretches(typeA, a, i, stretchesOf(typeA, a, i, typeB, b, j), undefined);
	return count;
}

/** Whether two straights may lie on each other for longer than `LONG`. */
function areParallel(a: ArrayLike<number>, i: number, b: ArrayLike<number>, j: number): boolean {
	const [dx, dy] = [a[i + 6] - a[i], a[i + 7] - a[i + 1]];
	const [ex, ey] = [b[j + 6] - b[j], b[j + 7] - b[j + 1]];
	return Math.abs(dx * ey - dy * ex) <= ((4 * SAME) / LONG) * Math.hypot(dx, dy) * Math.hypot(ex, ey);
}

/** Whether a straight or an arc and another segment may lie on each other for longer than `LONG`; said quickly. */
function mayRunAlong(
	typeA: number,
	a: ArrayLike<number>,
	i: number,
	typeB: number,
	b: ArrayLike<number>,
	j: number
): boolean {
	const isCurvedA = typeA === CUBIC;
	if (isCurvedA || typeB === CUBIC) {
		const [type, s, at, c, o] = isCurvedA ? [typeB, b, j, a, i] : [typeA, a, i, b, j];
		if (type !== STRAIGHT) return true;
		// Legs that all stand off to one side of the straight's direction: nowhere parallel.
		const dx = s[at + 6] - s[at];
		const dy = s[at + 7] - s[at + 1];
		let side = 0;
		for (let k = o; k < o + 6; k += 2) {
			const [ex, ey] = [c[k + 2] - c[k], c[k + 3] - c[k + 1]];
			const cross = dx * ey - dy * ex;
			if (Math.abs(cross) <= SHALLOW * Math.hypot(dx, dy) * Math.hypot(ex, ey)) return true;
			if (side !== 0 && Math.sign(cross) !== side) return true;
			side = Math.sign(cross);
		}
		return false;
	}
	// Over a length L within d of each other, curvatures differ by 16 d / L² at most.
	const most = (16 * SAME) / (LONG * LONG);
	const bendOf = (type: number, s: ArrayLike<number>, at: number) =>
		type === STRAIGHT ? 0 : 1 / arcShape(s[at], s[at + 1], s[at + 6], s[at + 7], s[at + 2]).radius;
	return Math.abs(bendOf(typeA, a, i) - bendOf(typeB, b, j)) <= 1.5 * most;
}

function endsOnOther(
	typeA: number,
	a: ArrayLike<number>,
	i: number,
	typeB: number,
	b: ArrayLike<number>,
	j: number
): void {
	for (let end = 0; end < 2; end++) {
		const u = placeOn(typeB, b, j, a[i + 6 * end], a[i + 6 * end + 1]);
		if (u >= 0) note(end, u, a[i + 6 * end], a[i + 6 * end + 1]);
		const t = placeOn(typeA, a, i, b[j + 6 * end], b[j + 6 * end + 1]);
		if (t >= 0) note(t, end, b[j + 6 * end], b[j + 6 * end + 1]);
	}
}

/** The parameter at which a place lies on the segment; -1 where it is off it. */
function placeOn(type: number, s: ArrayLike<number>, at: number, x: number, y: number): number {
	if (Math.hypot(s[at] - x, s[at + 1] - y) <= SAME) return 0;
	if (Math.hypot(s[at + 6] - x, s[at + 7] - y) <= SAME) return 1;
	if (type === CUBIC) {
		if (!nearHull(s, at, x, y)) return -1;
	} else if (type !== STRAIGHT) {
		const { cx, cy, radius } = arcShape(s[at], s[at + 1], s[at + 6], s[at + 7], s[at + 2]);
		if (Math.abs(Math.hypot(x - cx, y - cy) - radius) > SAME) return -1;
	}
	const near = nearestOn(type, s, at, x, y);
	return near.distance <= SAME ? near.t : -1;
}

function nearHull(s: ArrayLike<number>, at: number, x: number, y: number): boolean {
	for (let k = 0; k < 2; k++) {
		const v = k ? y : x;
		const p0 = s[at + k];
		const p1 = s[at + 2 + k];
		const p2 = s[at + 4 + k];
		const p3 = s[at + 6 + k];
		if (v < p0 - SAME && v < p1 - SAME && v < p2 - SAME && v < p3 - SAME) return false;
		if (v > p0 + SAME && v > p1 + SAME && v > p2 + SAME && v > p3 + SAME) return false;
	}
	const dx = s[at + 6] - s[at];
	const dy = s[at + 7] - s[at + 1];
	const size = Math.hypot(dx, dy);
	if (size < 1e-9) return true;
	const off = (px: number, py: number) => ((px - s[at]) * dy - (py - s[at + 1]) * dx) / size;
	const d1 = off(s[at + 2], s[at + 3]);
	const d2 = off(s[at + 4], s[at + 5]);
	const d = off(x, y);
	return d >= Math.min(0, d1, d2) - SAME && d <= Math.max(0, d1, d2) + SAME;
}

/** The t inside 0..1, where ends less than `SAME` mm away count; NaN outside. `length`: mm per unit of t. */
function clampT(t: number, length: number): number {
	if (t >= 0 && t <= 1) return t;
	if (t < 0 && -t * length <= SAME) return 0;
	if (t > 1 && (t - 1) * length <= SAME) return 1;
	return NaN;
}

function straightStraight(a: ArrayLike<number>, i: number, b: ArrayLike<number>, j: number): void {
	const dx = a[i + 6] - a[i];
	const dy = a[i + 7] - a[i + 1];
	const ex = b[j + 6] - b[j];
	const ey = b[j + 7] - b[j + 1];
	const det = dx * ey - dy * ex;
	const la = Math.sqrt(dx * dx + dy * dy);
	const lb = Math.sqrt(ex * ex + ey * ey);
	const sine = Math.abs(det) / (la * lb);
	if (!(sine > 1e-9)) {
		endsOnOther(STRAIGHT, a, i, STRAIGHT, b, j);
		return;
	}
	const gx = b[j] - a[i];
	const gy = b[j + 1] - a[i + 1];
	const t = (gx * ey - gy * ex) / det;
	const u = (gx * dy - gy * dx) / det;
	const reach = (2 * SAME) / sine;
	const outsideA = t < 0 ? -t * la : t > 1 ? (t - 1) * la : 0;
	const outsideB = u < 0 ? -u * lb : u > 1 ? (u - 1) * lb : 0;
	if (outsideA > reach || outsideB > reach) return;
	const nearEnd =
		outsideA + outsideB > 0 || Math.min(t, 1 - t) * la < reach || Math.min(u, 1 - u) * lb < reach;
	if (nearEnd) {
		endsOnOther(STRAIGHT, a, i, STRAIGHT, b, j);
		// Beyond an end that lies on the other line, and between two on its two sides, they cross all the same.
		for (let k = 0; k < 4 * count; k += 4) if (Math.abs(t - found[k]) * la < 2 * SAME) return;
	}
	if (outsideA === 0 && outsideB === 0) note(t, u, a[i] + t * dx, a[i + 1] + t * dy);
}

function straightArc(
	a: ArrayLike<number>,
	i: number,
	b: ArrayLike<number>,
	j: number,
	swapped: boolean
): void {
	const { cx, cy, radius } = arcShape(b[j], b[j + 1], b[j + 6], b[j + 7], b[j + 2]);
	const dx = a[i + 6] - a[i];
	const dy = a[i + 7] - a[i + 1];
	const fx = a[i] - cx;
	const fy = a[i + 1] - cy;
	const length = Math.hypot(dx, dy);
	const roots = quadraticRoots(
		dx * dx + dy * dy,
		2 * (fx * dx + fy * dy),
		fx * fx + fy * fy - radius * radius
	);
	// A line that misses the circle by less than the tolerance touches it.
	if (roots.length === 0) {
		const t = -(fx * dx + fy * dy) / (length * length);
		if (Math.abs(Math.hypot(fx + t * dx, fy + t * dy) - radius) <= SAME) roots.push(t);
	}
	for (const root of roots) {
		const t = clampT(root, length);
		if (Number.isNaN(t)) continue;
		const x = a[i] + t * dx;
		const y = a[i + 1] + t * dy;
		const u = arcParameter(b, j, x, y);
		if (Number.isNaN(u)) continue;
		if (swapped) note(u, t, x, y);
		else note(t, u, x, y);
	}
}

/** The parameter of a place known to lie on the arc's circle; NaN outside the arc. */
function arcParameter(s: ArrayLike<number>, at: number, x: number, y: number): number {
	const { cx, cy, radius, startRad, sweepRad } = arcShape(s[at], s[at + 1], s[at + 6], s[at + 7], s[at + 2]);
	let along = Math.atan2(y - cy, x - cx) - startRad;
	if (sweepRad < 0) along = -along;
	along -= 2 * Math.PI * Math.floor(along / (2 * Math.PI));
	const whole = Math.abs(sweepRad);
	if ((2 * Math.PI - along) * radius <= SAME) return 0;
	return clampT(along / whole, whole * radius);
}

function arcArc(a: ArrayLike<number>, i: number, b: ArrayLike<number>, j: number): void {
	const p = arcShape(a[i], a[i + 1], a[i + 6], a[i + 7], a[i + 2]);
	const q = arcShape(b[j], b[j + 1], b[j + 6], b[j + 7], b[j + 2]);
	const dx = q.cx - p.cx;
	const dy = q.cy - p.cy;
	const d = Math.hypot(dx, dy);
	if (d < 1e-9) return;
	if (d > p.radius + q.radius + SAME || d < Math.abs(p.radius - q.radius) - SAME) return;
	const along = (d * d + p.radius * p.radius - q.radius * q.radius) / (2 * d);
	const high = Math.sqrt(Math.max(0, p.radius * p.radius - along * along));
	for (let side = 1; side >= (high > 0 ? -1 : 1); side -= 2) {
		const x = p.cx + (dx * along - side * dy * high) / d;
		const y = p.cy + (dy * along + side * dx * high) / d;
		const t = arcParameter(a, i, x, y);
		const u = arcParameter(b, j, x, y);
		if (!Number.isNaN(t) && !Number.isNaN(u)) note(t, u, x, y);
	}
}

/** A straight or an arc with a cubic: the cubic put into the line's or the circle's equation. */
function simpleCubic(
	type: number,
	a: ArrayLike<number>,
	i: number,
	b: ArrayLike<number>,
	j: number,
	swapped: boolean
): void {
	if (type === STRAIGHT) {
		const dx = a[i + 6] - a[i];
		const dy = a[i + 7] - a[i + 1];
		const sq = dx * dx + dy * dy;
		const f = [0, 1, 2, 3].map((k) => dx * (b[j + 2 * k + 1] - a[i + 1]) - dy * (b[j + 2 * k] - a[i]));
		for (const u of bernsteinRoots(f)) {
			const p = pointAt(CUBIC, b, j, u);
			const t = clampT(((p.x - a[i]) * dx + (p.y - a[i + 1]) * dy) / sq, Math.sqrt(sq));
			if (Number.isNaN(t)) continue;
			if (swapped) note(u, t, p.x, p.y);
			else note(t, u, p.x, p.y);
		}
		return;
	}
	const { cx, cy, radius } = arcShape(a[i], a[i + 1], a[i + 6], a[i + 7], a[i + 2]);
	const f = new Float64Array(7).fill(-radius * radius);
	for (let m = 0; m < 4; m++) {
		for (let n = 0; n < 4; n++) {
			const dot =
				(b[j + 2 * m] - cx) * (b[j + 2 * n] - cx) + (b[j + 2 * m + 1] - cy) * (b[j + 2 * n + 1] - cy);
			f[m + n] += (CHOOSE3[m] * CHOOSE3[n] * dot) / CHOOSE6[m + n];
		}
	}
	for (const u of bernsteinRoots(f)) {
		const p = pointAt(CUBIC, b, j, u);
		const t = arcParameter(a, i, p.x, p.y);
		if (Number.isNaN(t)) continue;
		if (swapped) note(u, t, p.x, p.y);
		else note(t, u, p.x, p.y);
	}
}
const CHOOSE3 = [1, 3, 3, 1];
const CHOOSE6 = [1, 6, 15, 20, 15, 6, 1];

// The subdivision keeps its pairs on a stack of numbers: 8 for each cubic, then t0, t1, u0, u1.
const PAIR = 20;
const DEEPEST = 400;
const stack = new Float64Array(PAIR * DEEPEST);

/** Cosine of how far the legs of two curves may lie off one direction when they are looked at along it. */
const KEEPING = Math.cos(Math.PI / 6);

function cubicCubic(a: ArrayLike<number>, i: number, b: ArrayLike<number>, j: number): void {
	const s00 = near(a, i, b, j);
	const s01 = near(a, i, b, j + 6);
	const s10 = near(a, i + 6, b, j);
	const s11 = near(a, i + 6, b, j + 6);
	if (s00) note(0, 0, a[i], a[i + 1]);
	if (s01) note(0, 1, a[i], a[i + 1]);
	if (s10) note(1, 0, a[i + 6], a[i + 7]);
	if (s11) note(1, 1, a[i + 6], a[i + 7]);
	const isTwin = s00 && s11 && areTwins(a, i, b, j, false);
	if (isTwin || (s01 && s10 && areTwins(a, i, b, j, true))) {
		const [u0, u1] = isTwin ? [0, 1] : [1, 0];
		stretches = [{ t0: 0, t1: 1, u0, u1, before: 0, after: 0, nearT: 0, nearU: u0, nearest: 0 }];
		return;
	}
	const alongside: Stretch[] = [];
	for (let k = 0; k < 8; k++) {
		stack[k] = a[i + k];
		stack[8 + k] = b[j + k];
	}
	stack[16] = 0;
	stack[17] = 1;
	stack[18] = 0;
	stack[19] = 1;
	let top = 1;
	let steps = 0;
	while (top > 0) {
		const at = PAIR * --top;
		if (!boxesMeet(at) || fatLineApart(at, at + 8) || fatLineApart(at + 8, at)) continue;
		steps++;
		if (steps > LIMIT.pairSteps) break;
		const t0 = stack[at + 16];
		const t1 = stack[at + 17];
		const u0 = stack[at + 18];
		const u1 = stack[at + 19];
		// At a common end two parts on different sides of a line through it meet nowhere else.
		if (s10 && t1 === 1 && u0 === 0 && apartAtEnd(at, at + 8, 6, 0)) continue;
		if (s01 && t0 === 0 && u1 === 1 && apartAtEnd(at, at + 8, 0, 6)) continue;
		if (s00 && t0 === 0 && u0 === 0 && apartAtEnd(at, at + 8, 0, 0)) continue;
		if (s11 && t1 === 1 && u1 === 1 && apartAtEnd(at, at + 8, 6, 6)) continue;
		if (runAlongside(at, at + 8)) continue;
		const bendA = bend(at);
		const bendB = bend(at + 8);
		const sizeA = size(at);
		const sizeB = size(at + 8);
		if (bendA < 0.3 * sizeA && bendB < 0.3 * sizeB && tangentsApart(at, at + 8)) {
			const before = count;
			const isSettled = chordMeeting(at, a, i, b, j);
			// What bends may be met beyond its ends first, and within them as well.
			const isStraight = bendA < 0.05 * sizeA && bendB < 0.05 * sizeB;
			if (isSettled && (count > before || isStraight)) continue;
		} else {
			const [dx, dy] = [stack[at + 6] - stack[at], stack[at + 7] - stack[at + 1]];
			if (keepsTo(stack, at, dx, dy, KEEPING) && keepsTo(stack, at + 8, dx, dy, KEEPING)) {
				findAlongside(CUBIC, a, i, t0, t1, CUBIC, b, j, u0, u1, dx, dy, alongside);
				continue;
			}
		}
		if (sizeA < 1e-8 && sizeB < 1e-8) {
			settle(a, i, b, j, (t0 + t1) / 2, (u0 + u1) / 2, t0, t1, u0, u1);
			continue;
		}
		if (top + 2 >= DEEPEST) continue;
		// The more bent or, if both are nearly straight, the longer one is halved.
		halve(at, bendA + 1e-3 * sizeA >= bendB + 1e-3 * sizeB);
		top += 2;
	}
	if (alongside.length === 0) return;
	endsOnOther(CUBIC, a, i, CUBIC, b, j);
	noteStretches(CUBIC, a, i, joinStretches(alongside), ({ nearT: t, nearU: u }, isCrossing) => {
		const before = count;
		if (isCrossing) settle(a, i, b, j, t, u, 0, 1, 0, 1);
		if (count > before) return;
		const p = pointAt(CUBIC, a, i, t);
		note(t, u, p.x, p.y);
	});
}

function near(a: ArrayLike<number>, i: number, b: ArrayLike<number>, j: number): boolean {
	return Math.abs(a[i] - b[j]) <= SAME && Math.abs(a[i + 1] - b[j + 1]) <= SAME;
}

/** Whether two cubics with common ends are one and the same curve. */
function areTwins(
	a: ArrayLike<number>,
	i: number,
	b: ArrayLike<number>,
	j: number,
	backward: boolean
): boolean {
	let same = true;
	for (let k = 2; k < 6 && same; k += 2) {
		const m = backward ? 6 - k : k;
		same = Math.abs(a[i + k] - b[j + m]) <= SAME && Math.abs(a[i + k + 1] - b[j + m + 1]) <= SAME;
	}
	if (same) return true;
	for (const t of [0.25, 0.5, 0.75]) {
		const p = pointAt(CUBIC, a, i, t);
		if (!nearHull(b, j, p.x, p.y) || nearestOn(CUBIC, b, j, p.x, p.y).distance > SAME) return false;
	}
	return true;
}

function boxesMeet(p: number): boolean {
	const q = p + 8;
	for (let k = 0; k < 2; k++) {
		const lo = Math.min(stack[p + k], stack[p + 2 + k], stack[p + 4 + k], stack[p + 6 + k]);
		const hi2 = Math.max(stack[q + k], stack[q + 2 + k], stack[q + 4 + k], stack[q + 6 + k]);
		if (lo > hi2 + SAME) return false;
		const hi = Math.max(stack[p + k], stack[p + 2 + k], stack[p + 4 + k], stack[p + 6 + k]);
		const lo2 = Math.min(stack[q + k], stack[q + 2 + k], stack[q + 4 + k], stack[q + 6 + k]);
		if (lo2 > hi + SAME) return false;
	}
	return true;
}

/** Whether q lies wholly to one side of the strip along p's chord that holds p. */
function fatLineApart(p: number, q: number): boolean {
	const dx = stack[p + 6] - stack[p];
	const dy = stack[p + 7] - stack[p + 1];
	const length = Math.sqrt(dx * dx + dy * dy);
	if (length < 1e-9) return false;
	const nx = dy / length;
	const ny = -dx / length;
	const ox = stack[p];
	const oy = stack[p + 1];
	const d1 = (stack[p + 2] - ox) * nx + (stack[p + 3] - oy) * ny;
	const d2 = (stack[p + 4] - ox) * nx + (stack[p + 5] - oy) * ny;
	// A cubic keeps within 3/4 of its handles' distances on one side, 4/9 on two (Sederberg and Nishita 1990, 3).
	const share = d1 * d2 > 0 ? 0.75 : 4 / 9;
	const lo = share * Math.min(0, d1, d2) - SAME;
	const hi = share * Math.max(0, d1, d2) + SAME;
	let least = Infinity;
	let most = -Infinity;
	for (let k = 0; k < 8; k += 2) {
		const d = (stack[q + k] - ox) * nx + (stack[q + k + 1] - oy) * ny;
		if (d < least) least = d;
		if (d > most) most = d;
	}
	return least > hi || most < lo;
}

/** Whether the parts, which share an end (numbers e of p and f of q), lie on different sides of a line through it. */
function apartAtEnd(p: number, q: number, e: number, f: number): boolean {
	const x = stack[p + e];
	const y = stack[p + e + 1];
	// The line stands square to the mean direction from p to q.
	const px = x - stack[p + (6 - e)];
	const py = y - stack[p + (7 - e)];
	const qx = stack[q + (6 - f)] - stack[q + f];
	const qy = stack[q + (7 - f)] - stack[q + f + 1];
	const lp = Math.hypot(px, py) || 1;
	const lq = Math.hypot(qx, qy) || 1;
	const dx = px / lp + qx / lq;
	const dy = py / lp + qy / lq;
	if (dx * dx + dy * dy < 1e-4) return false;
	for (let k = 0; k < 8; k += 2) {
		if (k !== e && (stack[p + k] - x) * dx + (stack[p + k + 1] - y) * dy > 0) return false;
		if (k !== f && (stack[q + k] - stack[q + f]) * dx + (stack[q + k + 1] - stack[q + f + 1]) * dy < 0)
			return false;
	}
	return true;
}

/**
 * Whether p and q run side by side without meeting: q(u) - p(u) is never parallel to any leg of p. A meeting
 * p(t) = q(u) would make that difference a chord p(t) - p(u) of p, and chords lie between the legs.
 */
function runAlongside(p: number, q: number): boolean {
	const chordsAgree =
		(stack[p + 6] - stack[p]) * (stack[q + 6] - stack[q]) +
			(stack[p + 7] - stack[p + 1]) * (stack[q + 7] - stack[q + 1]) >
		0;
	let sign = 0;
	for (let k = 0; k < 6; k += 2) {
		const ax = stack[p + k + 2] - stack[p + k];
		const ay = stack[p + k + 3] - stack[p + k + 1];
		const margin = SAME * (Math.abs(ax) + Math.abs(ay));
		if (margin < 1e-18) return false;
		for (let m = 0; m < 8; m += 2) {
			const o = chordsAgree ? q + m : q + 6 - m;
			const cross = ax * (stack[o + 1] - stack[p + m + 1]) - ay * (stack[o] - stack[p + m]);
			if (!(Math.abs(cross) > margin)) return false;
			const here = cross > 0 ? 1 : -1;
			if (sign === 0) sign = here;
			else if (here !== sign) return false;
		}
	}
	return true;
}

function bend(p: number): number {
	const ax = stack[p] - 2 * stack[p + 2] + stack[p + 4];
	const ay = stack[p + 1] - 2 * stack[p + 3] + stack[p + 5];
	const bx = stack[p + 2] - 2 * stack[p + 4] + stack[p + 6];
	const by = stack[p + 3] - 2 * stack[p + 5] + stack[p + 7];
	return Math.sqrt(Math.max(ax * ax + ay * ay, bx * bx + by * by));
}

function size(p: number): number {
	return (
		Math.abs(stack[p + 2] - stack[p]) +
		Math.abs(stack[p + 3] - stack[p + 1]) +
		Math.abs(stack[p + 4] - stack[p + 2]) +
		Math.abs(stack[p + 5] - stack[p + 3]) +
		Math.abs(stack[p + 6] - stack[p + 4]) +
		Math.abs(stack[p + 7] - stack[p + 5])
	);
}

/**
 * Whether no tangent of p is parallel to one of q: every leg of one control polygon turns the same way from every leg of
 * the other. Then the two meet at most once, as two meetings would give them equal chords.
 */
function tangentsApart(p: number, q: number): boolean {
	let sign = 0;
	for (let k = 0; k < 6; k += 2) {
		const ax = stack[p + k + 2] - stack[p + k];
		const ay = stack[p + k + 3] - stack[p + k + 1];
		const la = Math.abs(ax) + Math.abs(ay);
		if (la < 1e-12) continue;
		for (let m = 0; m < 6; m += 2) {
			const bx = stack[q + m + 2] - stack[q + m];
			const by = stack[q + m + 3] - stack[q + m + 1];
			const lb = Math.abs(bx) + Math.abs(by);
			if (lb < 1e-12) continue;
			const cross = ax * by - ay * bx;
			if (!(Math.abs(cross) > 1.5 * SHALLOW * la * lb)) return false;
			const here = cross > 0 ? 1 : -1;
			if (sign === 0) sign = here;
			else if (here !== sign) return false;
		}
	}
	return sign !== 0;
}

/** Replaces the pair at `at` by its two halves, of the first cubic or of the second. */
function halve(at: number, first: boolean): void {
	const from = first ? at : at + 8;
	const next = at + PAIR;
	const other = first ? 8 : 0;
	const mine = first ? 0 : 8;
	for (let k = 0; k < 8; k++) stack[next + other + k] = stack[at + other + k];
	for (let k = 0; k < 2; k++) {
		const a = stack[from + k];
		const b = stack[from + 2 + k];
		const c = stack[from + 4 + k];
		const d = stack[from + 6 + k];
		const ab = (a + b) / 2;
		const bc = (b + c) / 2;
		const cd = (c + d) / 2;
		const abc = (ab + bc) / 2;
		const bcd = (bc + cd) / 2;
		const m = (abc + bcd) / 2;
		stack[from + 2 + k] = ab;
		stack[from + 4 + k] = abc;
		stack[from + 6 + k] = m;
		stack[next + mine + k] = m;
		stack[next + mine + 2 + k] = bcd;
		stack[next + mine + 4 + k] = cd;
		stack[next + mine + 6 + k] = d;
	}
	for (let k = 16; k < 20; k++) stack[next + k] = stack[at + k];
	const lo = first ? 16 : 18;
	const mid = (stack[at + lo] + stack[at + lo + 1]) / 2;
	stack[at + lo + 1] = mid;
	stack[next + lo] = mid;
}

/**
 * Looks for the one meeting of two nearly straight parts, from where their chords cross. True when it is settled
 * whether there is one (and it is noted), false when one must look closer.
 */
function chordMeeting(at: number, a: ArrayLike<number>, i: number, b: ArrayLike<number>, j: number): boolean {
	const dx = stack[at + 6] - stack[at];
	const dy = stack[at + 7] - stack[at + 1];
	const ex = stack[at + 14] - stack[at + 8];
	const ey = stack[at + 15] - stack[at + 9];
	const det = dx * ey - dy * ex;
	const gx = stack[at + 8] - stack[at];
	const gy = stack[at + 9] - stack[at + 1];
	const t = (gx * ey - gy * ex) / det;
	const u = (gx * dy - gy * dx) / det;
	const t0 = stack[at + 16];
	const t1 = stack[at + 17];
	const u0 = stack[at + 18];
	const u1 = stack[at + 19];
	const inside = (v: number) => (v < 0 ? 0 : v > 1 ? 1 : v);
	return settle(a, i, b, j, t0 + (t1 - t0) * inside(t), u0 + (u1 - u0) * inside(u), t0, t1, u0, u1);
}

/** Newton's method on both curves at once. True when it came to rest, whether inside the parts (noted) or outside. */
function settle(
	a: ArrayLike<number>,
	i: number,
	b: ArrayLike<number>,
	j: number,
	t: number,
	u: number,
	t0: number,
	t1: number,
	u0: number,
	u1: number
): boolean {
	let rest = false;
	let speedA = 0;
	let speedB = 0;
	for (let k = 0; k < 10; k++) {
		const v = 1 - t;
		const w = 1 - u;
		const px = v * v * v * a[i] + 3 * v * v * t * a[i + 2] + 3 * v * t * t * a[i + 4] + t * t * t * a[i + 6];
		const py =
			v * v * v * a[i + 1] + 3 * v * v * t * a[i + 3] + 3 * v * t * t * a[i + 5] + t * t * t * a[i + 7];
		const qx = w * w * w * b[j] + 3 * w * w * u * b[j + 2] + 3 * w * u * u * b[j + 4] + u * u * u * b[j + 6];
		const qy =
			w * w * w * b[j + 1] + 3 * w * w * u * b[j + 3] + 3 * w * u * u * b[j + 5] + u * u * u * b[j + 7];
		const dx =
			3 * (v * v * (a[i + 2] - a[i]) + 2 * v * t * (a[i + 4] - a[i + 2]) + t * t * (a[i + 6] - a[i + 4]));
		const dy =
			3 * (v * v * (a[i + 3] - a[i + 1]) + 2 * v * t * (a[i + 5] - a[i + 3]) + t * t * (a[i + 7] - a[i + 5]));
		const ex =
			3 * (w * w * (b[j + 2] - b[j]) + 2 * w * u * (b[j + 4] - b[j + 2]) + u * u * (b[j + 6] - b[j + 4]));
		const ey =
			3 * (w * w * (b[j + 3] - b[j + 1]) + 2 * w * u * (b[j + 5] - b[j + 3]) + u * u * (b[j + 7] - b[j + 5]));
		speedA = Math.sqrt(dx * dx + dy * dy);
		speedB = Math.sqrt(ex * ex + ey * ey);
		const det = ex * dy - dx * ey;
		if (!(Math.abs(det) > 1e-15 * speedA * speedB)) return false;
		const fx = qx - px;
		const fy = qy - py;
		const dt = (ex * fy - ey * fx) / det;
		const du = (dx * fy - dy * fx) / det;
		t += dt;
		u += du;
		if (!(t > -2 && t < 3 && u > -2 && u < 3)) return false;
		if (Math.abs(dt) < 1e-14 && Math.abs(du) < 1e-14) {
			rest = true;
			break;
		}
		// Converging quadratically, the next step would be below rounding.
		if (k > 1 && Math.abs(dt) < 1e-8 && Math.abs(du) < 1e-8) {
			rest = true;
			break;
		}
	}
	if (!rest) return false;
	const slackT = 1e-7 * (t1 - t0);
	const slackU = 1e-7 * (u1 - u0);
	const endT = SAME / (speedA || 1);
	const endU = SAME / (speedB || 1);
	if (t < t0 - (t0 === 0 ? Math.max(endT, slackT) : slackT)) return true;
	if (t > t1 + (t1 === 1 ? Math.max(endT, slackT) : slackT)) return true;
	if (u < u0 - (u0 === 0 ? Math.max(endU, slackU) : slackU)) return true;
	if (u > u1 + (u1 === 1 ? Math.max(endU, slackU) : slackU)) return true;
	const tt = t < 0 ? 0 : t > 1 ? 1 : t;
	const uu = u < 0 ? 0 : u > 1 ? 1 : u;
	const p = pointAt(CUBIC, a, i, tt);
	const q = pointAt(CUBIC, b, j, uu);
	if (Math.hypot(p.x - q.x, p.y - q.y) > 2 * SAME) return true;
	note(tt, uu, p.x, p.y);
	return true;
}

/**
 * The place where one cubic crosses itself, if it makes a loop inside 0..1.
 * Source: P(t) = P(u) divided by t - u leaves a (s^2 - p) + b s + c = 0 in s = t + u, p = t u.
 */
export function cubicLoop(s: ArrayLike<number>, at: number): SegmentMeeting | undefined {
	// Without a turn of more than half a circle along its legs a cubic cannot come back to itself.
	const d0x = s[at + 2] - s[at];
	const d0y = s[at + 3] - s[at + 1];
	const d1x = s[at + 4] - s[at + 2];
	const d1y = s[at + 5] - s[at + 3];
	const d2x = s[at + 6] - s[at + 4];
	const d2y = s[at + 7] - s[at + 5];
	if (d0x * d1x + d0y * d1y > 0 && d1x * d2x + d1y * d2y > 0 && d0x * d2x + d0y * d2y > 0) return undefined;
	const xa = d2x - 2 * d1x + d0x;
	const ya = d2y - 2 * d1y + d0y;
	const xb = 3 * (d1x - d0x);
	const yb = 3 * (d1y - d0y);
	const xc = 3 * d0x;
	const yc = 3 * d0y;
	const ab = xa * yb - ya * xb;
	const ac = xa * yc - ya * xc;
	const aa = xa * xa + ya * ya;
	if (aa === 0 || Math.abs(ab) < 1e-14 * aa) return undefined;
	const sum = -ac / ab;
	const product = sum * sum + ((xb * sum + xc) * xa + (yb * sum + yc) * ya) / aa;
	const disc = sum * sum - 4 * product;
	if (!(disc > 1e-18)) return undefined;
	const t = (sum - Math.sqrt(disc)) / 2;
	const u = (sum + Math.sqrt(disc)) / 2;
	if (t < 0 || u > 1) return undefined;
	return { t, u, ...pointAt(CUBIC, s, at, t) };
}
