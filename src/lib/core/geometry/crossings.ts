/** Where outlines cross, touch or meet: between two segments, and among all segments of many paths. */
import Flatbush from 'flatbush';
import { CoreError } from '../errors';
import { LIMIT, TOLERANCE } from '../tolerance';
import { arcShape } from './arc';
import { ARC, CUBIC, STRAIGHT, STRIDE, type Path } from './path';
import {
	derivativeAt,
	directionAt,
	emptyBox,
	growBox,
	nearestOn,
	pointAt,
	quadraticRoots,
	type Point
} from './segment';
import { bernsteinRoots } from './roots';

/** A common place of two segments: t on the first, u on the second. */
export interface Meeting extends Point {
	t: number;
	u: number;
}

/** A common place of two paths (or of one with itself). */
export interface Crossing extends Meeting {
	pathA: number;
	segmentA: number;
	pathB: number;
	segmentB: number;
	/** Whether one line passes to the other side of the other there, not merely touches it. */
	through: boolean;
}

/** The t inside 0..1, ends caught within `slack`; undefined outside. */
function clampT(t: number, slack: number): number | undefined {
	if (!(t >= -slack && t <= 1 + slack)) return undefined;
	return t < 0 ? 0 : t > 1 ? 1 : t;
}

/**
 * All places that two segments have in common, each once. Stretches lying on each other give only their ends.
 * Straights and arcs are solved in closed form, arcs and straights with cubics as polynomial roots, two cubics by
 * subdivision of their hulls and Newton's method.
 */
export function segmentMeetings(
	typeA: number,
	a: ArrayLike<number>,
	atA: number,
	typeB: number,
	b: ArrayLike<number>,
	atB: number
): Meeting[] {
	let found: Meeting[];
	if (typeA === CUBIC && typeB === CUBIC) found = cubicCubic(a, atA, b, atB);
	else if (typeA === CUBIC) found = simpleCubic(typeB, b, atB, a, atA).map(swap);
	else if (typeB === CUBIC) found = simpleCubic(typeA, a, atA, b, atB);
	else if (typeA === STRAIGHT && typeB === STRAIGHT) found = straightStraight(a, atA, b, atB);
	else if (typeA === STRAIGHT) found = straightArc(a, atA, b, atB);
	else if (typeB === STRAIGHT) found = straightArc(b, atB, a, atA).map(swap);
	else found = arcArc(a, atA, b, atB);
	// Ends lying on the other segment are found whatever the slope: tangents and overlaps hide them from the roots.
	for (const end of [0, 1]) {
		addEnd(found, typeB, b, atB, pointAt(typeA, a, atA, end), (u, p) => ({ t: end, u, ...p }));
		addEnd(found, typeA, a, atA, pointAt(typeB, b, atB, end), (t, p) => ({ t, u: end, ...p }));
	}
	return onePerPlace(found);
}

const swap = (m: Meeting): Meeting => ({ t: m.u, u: m.t, x: m.x, y: m.y });

function addEnd(
	found: Meeting[],
	type: number,
	s: ArrayLike<number>,
	at: number,
	p: Point,
	make: (t: number, p: Point) => Meeting
): void {
	const reach = TOLERANCE.coincidence;
	if (type === CUBIC) {
		const lo = Math.min(s[at], s[at + 2], s[at + 4], s[at + 6]) - reach;
		const hi = Math.max(s[at], s[at + 2], s[at + 4], s[at + 6]) + reach;
		if (p.x < lo || p.x > hi) return;
		const bottom = Math.min(s[at + 1], s[at + 3], s[at + 5], s[at + 7]) - reach;
		const top = Math.max(s[at + 1], s[at + 3], s[at + 5], s[at + 7]) + reach;
		if (p.y < bottom || p.y > top) return;
	}
	for (const end of [0, 1]) {
		if (Math.hypot(s[at + 6 * end] - p.x, s[at + 6 * end + 1] - p.y) <= reach) {
			found.push(make(end, p));
			return;
		}
	}
	const near = nearestOn(type, s, at, p.x, p.y);
	if (near.distance <= reach) found.push(make(near.t, p));
}

function onePerPlace(found: Meeting[]): Meeting[] {
	// Exact ends win over the roots found beside them.
	found.sort((m, n) => rank(n) - rank(m));
	const out: Meeting[] = [];
	for (const m of found) {
		const twin = out.some(
			(o) =>
				Math.hypot(o.x - m.x, o.y - m.y) <= 2 * TOLERANCE.coincidence &&
				Math.abs(o.t - m.t) < 1e-3 &&
				Math.abs(o.u - m.u) < 1e-3
		);
		if (!twin) out.push(m);
	}
	return out.sort((m, n) => m.t - n.t);
}
const rank = (m: Meeting) => (m.t === 0 || m.t === 1 ? 1 : 0) + (m.u === 0 || m.u === 1 ? 1 : 0);

function straightStraight(a: ArrayLike<number>, i: number, b: ArrayLike<number>, j: number): Meeting[] {
	const dx = a[i + 6] - a[i];
	const dy = a[i + 7] - a[i + 1];
	const ex = b[j + 6] - b[j];
	const ey = b[j + 7] - b[j + 1];
	const det = dx * ey - dy * ex;
	if (Math.abs(det) <= 1e-14 * Math.hypot(dx, dy) * Math.hypot(ex, ey)) return [];
	const gx = b[j] - a[i];
	const gy = b[j + 1] - a[i + 1];
	const t = clampT((gx * ey - gy * ex) / det, 1e-12);
	const u = clampT((gx * dy - gy * dx) / det, 1e-12);
	if (t === undefined || u === undefined) return [];
	const p = pointAt(STRAIGHT, a, i, t);
	return [{ t, u, ...p }];
}

function straightArc(a: ArrayLike<number>, i: number, b: ArrayLike<number>, j: number): Meeting[] {
	const { cx, cy, radius } = arcShape(b[j], b[j + 1], b[j + 6], b[j + 7], b[j + 2]);
	const dx = a[i + 6] - a[i];
	const dy = a[i + 7] - a[i + 1];
	const fx = a[i] - cx;
	const fy = a[i + 1] - cy;
	const out: Meeting[] = [];
	for (const root of quadraticRoots(
		dx * dx + dy * dy,
		2 * (fx * dx + fy * dy),
		fx * fx + fy * fy - radius * radius
	)) {
		const t = clampT(root, 1e-12);
		if (t === undefined) continue;
		const p = pointAt(STRAIGHT, a, i, t);
		const u = arcParameter(b, j, p);
		if (u !== undefined) out.push({ t, u, ...p });
	}
	return out;
}

function arcParameter(s: ArrayLike<number>, at: number, p: Point): number | undefined {
	const { cx, cy, radius, startRad, sweepRad } = arcShape(s[at], s[at + 1], s[at + 6], s[at + 7], s[at + 2]);
	let along = Math.atan2(p.y - cy, p.x - cx) - startRad;
	if (sweepRad < 0) along = -along;
	along -= 2 * Math.PI * Math.floor(along / (2 * Math.PI));
	const slack = 1e-9 / radius;
	if (along > 2 * Math.PI - slack) return 0;
	return clampT(along / Math.abs(sweepRad), slack / Math.abs(sweepRad));
}

function arcArc(a: ArrayLike<number>, i: number, b: ArrayLike<number>, j: number): Meeting[] {
	const p = arcShape(a[i], a[i + 1], a[i + 6], a[i + 7], a[i + 2]);
	const q = arcShape(b[j], b[j + 1], b[j + 6], b[j + 7], b[j + 2]);
	const dx = q.cx - p.cx;
	const dy = q.cy - p.cy;
	const d = Math.hypot(dx, dy);
	if (d < 1e-12) return [];
	const along = (d * d + p.radius * p.radius - q.radius * q.radius) / (2 * d);
	const highSq = p.radius * p.radius - along * along;
	if (highSq < -1e-9 * p.radius) return [];
	const high = Math.sqrt(Math.max(0, highSq));
	const out: Meeting[] = [];
	for (const side of high > 0 ? [1, -1] : [1]) {
		const x = p.cx + (dx * along - side * dy * high) / d;
		const y = p.cy + (dy * along + side * dx * high) / d;
		const t = arcParameter(a, i, { x, y });
		const u = arcParameter(b, j, { x, y });
		if (t !== undefined && u !== undefined) out.push({ t, u, x, y });
	}
	return out;
}

/** A straight or an arc (t) with a cubic (u): the cubic put into the line's or the circle's equation. */
function simpleCubic(
	type: number,
	a: ArrayLike<number>,
	i: number,
	b: ArrayLike<number>,
	j: number
): Meeting[] {
	const out: Meeting[] = [];
	if (type === STRAIGHT) {
		const dx = a[i + 6] - a[i];
		const dy = a[i + 7] - a[i + 1];
		const sq = dx * dx + dy * dy;
		const f = [0, 1, 2, 3].map((k) => dx * (b[j + 2 * k + 1] - a[i + 1]) - dy * (b[j + 2 * k] - a[i]));
		for (const u of bernsteinRoots(f)) {
			const p = pointAt(CUBIC, b, j, u);
			const t = clampT(((p.x - a[i]) * dx + (p.y - a[i + 1]) * dy) / sq, 1e-12);
			if (t !== undefined) out.push({ t, u, ...p });
		}
		return out;
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
		const t = arcParameter(a, i, p);
		if (t !== undefined) out.push({ t, u, ...p });
	}
	return out;
}
const CHOOSE3 = [1, 3, 3, 1];
const CHOOSE6 = [1, 6, 15, 20, 15, 6, 1];

// The subdivision keeps its pairs on a stack of numbers: 8 for each cubic, then t0, t1, u0, u1.
const PAIR = 20;
const pairs = new Float64Array(PAIR * 400);
const halves = new Float64Array(32);

function cubicCubic(a: ArrayLike<number>, i: number, b: ArrayLike<number>, j: number): Meeting[] {
	const out: Meeting[] = [];
	for (let k = 0; k < 8; k++) {
		pairs[k] = a[i + k];
		pairs[8 + k] = b[j + k];
	}
	pairs.set([0, 1, 0, 1], 16);
	let top = 1;
	let steps = 0;
	while (top > 0) {
		const at = PAIR * --top;
		if (!hullsMeet(at, at + 8)) continue;
		const flatA = bend(at);
		const flatB = bend(at + 8);
		const sizeA = span(at);
		const sizeB = span(at + 8);
		const t0 = pairs[at + 16];
		const t1 = pairs[at + 17];
		const u0 = pairs[at + 18];
		const u1 = pairs[at + 19];
		const tiny = sizeA < TOLERANCE.coincidence && sizeB < TOLERANCE.coincidence;
		if (tiny || (flatA < 1e-3 * sizeA && flatB < 1e-3 * sizeB) || ++steps > LIMIT.pairSteps) {
			const settled = tiny ? settle(a, i, b, j, (t0 + t1) / 2, (u0 + u1) / 2) : chordMeeting(at, a, i, b, j);
			if (settled) {
				if (!out.some((o) => Math.abs(o.t - settled.t) < 1e-9 && Math.abs(o.u - settled.u) < 1e-9)) {
					out.push(settled);
				}
				continue;
			}
			if (tiny || steps > LIMIT.pairSteps) continue;
			if (flatA < 1e-6 * sizeA + 1e-9 && flatB < 1e-6 * sizeB + 1e-9) continue;
		}
		if (top + 2 >= 400) continue;
		const first = flatA + 1e-3 * sizeA >= flatB + 1e-3 * sizeB;
		// The longer or more bent one is halved.
		const from = first ? at : at + 8;
		split(from);
		const rest = Float64Array.from(pairs.subarray(first ? at + 8 : at, (first ? at + 8 : at) + 8));
		for (let h = 0; h < 2; h++) {
			const to = PAIR * top++;
			pairs.set(halves.subarray(8 * h, 8 * h + 8), first ? to : to + 8);
			pairs.set(rest, first ? to + 8 : to);
			const mid = first ? (t0 + t1) / 2 : (u0 + u1) / 2;
			pairs[to + 16] = first && h === 1 ? mid : t0;
			pairs[to + 17] = first && h === 0 ? mid : t1;
			pairs[to + 18] = !first && h === 1 ? mid : u0;
			pairs[to + 19] = !first && h === 0 ? mid : u1;
		}
	}
	return out;
}

function hullsMeet(p: number, q: number): boolean {
	for (let k = 0; k < 2; k++) {
		const lo = Math.min(pairs[p + k], pairs[p + 2 + k], pairs[p + 4 + k], pairs[p + 6 + k]);
		const hi = Math.max(pairs[p + k], pairs[p + 2 + k], pairs[p + 4 + k], pairs[p + 6 + k]);
		const lo2 = Math.min(pairs[q + k], pairs[q + 2 + k], pairs[q + 4 + k], pairs[q + 6 + k]);
		const hi2 = Math.max(pairs[q + k], pairs[q + 2 + k], pairs[q + 4 + k], pairs[q + 6 + k]);
		if (lo > hi2 + 1e-12 || lo2 > hi + 1e-12) return false;
	}
	return true;
}

function bend(p: number): number {
	const a = Math.hypot(
		pairs[p] - 2 * pairs[p + 2] + pairs[p + 4],
		pairs[p + 1] - 2 * pairs[p + 3] + pairs[p + 5]
	);
	const b = Math.hypot(
		pairs[p + 2] - 2 * pairs[p + 4] + pairs[p + 6],
		pairs[p + 3] - 2 * pairs[p + 5] + pairs[p + 7]
	);
	return Math.max(a, b);
}

function span(p: number): number {
	return (
		Math.abs(pairs[p + 2] - pairs[p]) +
		Math.abs(pairs[p + 3] - pairs[p + 1]) +
		Math.abs(pairs[p + 4] - pairs[p + 2]) +
		Math.abs(pairs[p + 5] - pairs[p + 3]) +
		Math.abs(pairs[p + 6] - pairs[p + 4]) +
		Math.abs(pairs[p + 7] - pairs[p + 5])
	);
}

function split(p: number): void {
	for (let k = 0; k < 2; k++) {
		const a = pairs[p + k];
		const b = pairs[p + 2 + k];
		const c = pairs[p + 4 + k];
		const d = pairs[p + 6 + k];
		const ab = (a + b) / 2;
		const bc = (b + c) / 2;
		const cd = (c + d) / 2;
		const abc = (ab + bc) / 2;
		const bcd = (bc + cd) / 2;
		const m = (abc + bcd) / 2;
		halves[k] = a;
		halves[2 + k] = ab;
		halves[4 + k] = abc;
		halves[6 + k] = m;
		halves[8 + k] = m;
		halves[10 + k] = bcd;
		halves[12 + k] = cd;
		halves[14 + k] = d;
	}
}

/** The chords of two nearly straight parts crossed, then settled on the true curves. */
function chordMeeting(
	at: number,
	a: ArrayLike<number>,
	i: number,
	b: ArrayLike<number>,
	j: number
): Meeting | undefined {
	const dx = pairs[at + 6] - pairs[at];
	const dy = pairs[at + 7] - pairs[at + 1];
	const ex = pairs[at + 14] - pairs[at + 8];
	const ey = pairs[at + 15] - pairs[at + 9];
	const det = dx * ey - dy * ex;
	const sizes = Math.hypot(dx, dy) * Math.hypot(ex, ey);
	if (Math.abs(det) <= 0.02 * sizes) return undefined; // too nearly parallel to judge: look closer
	const gx = pairs[at + 8] - pairs[at];
	const gy = pairs[at + 9] - pairs[at + 1];
	const t = (gx * ey - gy * ex) / det;
	const u = (gx * dy - gy * dx) / det;
	if (t < -0.2 || t > 1.2 || u < -0.2 || u > 1.2) return undefined;
	const t0 = pairs[at + 16];
	const u0 = pairs[at + 18];
	const st = pairs[at + 17] - t0;
	const su = pairs[at + 19] - u0;
	const m = settle(a, i, b, j, t0 + st * t, u0 + su * u);
	if (!m) return undefined;
	if (m.t < t0 - 0.3 * st || m.t > t0 + 1.3 * st || m.u < u0 - 0.3 * su || m.u > u0 + 1.3 * su)
		return undefined;
	return m;
}

/** Newton's method on both curves at once; nothing where they do not come together. */
function settle(
	a: ArrayLike<number>,
	i: number,
	b: ArrayLike<number>,
	j: number,
	t: number,
	u: number
): Meeting | undefined {
	let p = pointAt(CUBIC, a, i, t);
	let q = pointAt(CUBIC, b, j, u);
	for (let k = 0; k < 12; k++) {
		const fx = q.x - p.x;
		const fy = q.y - p.y;
		const d = derivativeAt(CUBIC, a, i, t);
		const e = derivativeAt(CUBIC, b, j, u);
		const det = e.x * d.y - d.x * e.y;
		if (Math.abs(det) < 1e-14 * Math.hypot(d.x, d.y) * Math.hypot(e.x, e.y)) break;
		const dt = (e.x * fy - e.y * fx) / det;
		const du = (d.x * fy - d.y * fx) / det;
		t = Math.min(1.1, Math.max(-0.1, t + dt));
		u = Math.min(1.1, Math.max(-0.1, u + du));
		p = pointAt(CUBIC, a, i, t);
		q = pointAt(CUBIC, b, j, u);
		if (Math.abs(dt) + Math.abs(du) < 1e-15) break;
	}
	const slack = 1e-10;
	const tt = clampT(t, slack);
	const uu = clampT(u, slack);
	if (tt === undefined || uu === undefined) return undefined;
	p = pointAt(CUBIC, a, i, tt);
	q = pointAt(CUBIC, b, j, uu);
	if (Math.hypot(p.x - q.x, p.y - q.y) > TOLERANCE.coincidence) return undefined;
	return { t: tt, u: uu, x: p.x, y: p.y };
}

/**
 * The place where one cubic crosses itself, if it makes a loop inside 0..1.
 * Source: P(t) = P(u) divided by t - u leaves a (s^2 - p) + b s + c = 0 in s = t + u, p = t u.
 */
export function cubicLoop(s: ArrayLike<number>, at: number): Meeting | undefined {
	const v = (k: number) => ({
		a: s[at + 6 + k] - 3 * s[at + 4 + k] + 3 * s[at + 2 + k] - s[at + k],
		b: 3 * (s[at + 4 + k] - 2 * s[at + 2 + k] + s[at + k]),
		c: 3 * (s[at + 2 + k] - s[at + k])
	});
	const x = v(0);
	const y = v(1);
	const ab = x.a * y.b - y.a * x.b;
	const ac = x.a * y.c - y.a * x.c;
	const aa = x.a * x.a + y.a * y.a;
	if (aa === 0 || Math.abs(ab) < 1e-14 * aa) return undefined;
	const sum = -ac / ab;
	const product = sum * sum + ((x.b * sum + x.c) * x.a + (y.b * sum + y.c) * y.a) / aa;
	const disc = sum * sum - 4 * product;
	if (!(disc > 1e-18)) return undefined;
	const t = (sum - Math.sqrt(disc)) / 2;
	const u = (sum + Math.sqrt(disc)) / 2;
	if (t < 0 || u > 1) return undefined;
	return { t, u, ...pointAt(CUBIC, s, at, t) };
}

/**
 * All places that the paths have in common, with themselves and with each other, anchors that merely follow one
 * another left out.
 *
 * @param only 'self': each path with itself; 'others': different paths only; 'all'.
 * @throws CoreError `tangle` beyond `LIMIT.crossings`.
 */
export function pathCrossings(paths: readonly Path[], only: 'self' | 'others' | 'all' = 'all'): Crossing[] {
	const owner: number[] = [];
	const inside: number[] = [];
	paths.forEach((path, p) => {
		for (let i = 0; i < path.types.length; i++) {
			owner.push(p);
			inside.push(i);
		}
	});
	const out: Crossing[] = [];
	if (owner.length === 0) return out;
	const index = new Flatbush(owner.length);
	const boxes = owner.map((p, k) => {
		const box = emptyBox();
		growBox(box, paths[p].types[inside[k]], paths[p].segs, STRIDE * inside[k]);
		index.add(box.x0, box.y0, box.x1, box.y1);
		return box;
	});
	index.finish();
	const m = TOLERANCE.coincidence;
	for (let k = 0; k < owner.length; k++) {
		const A = paths[owner[k]];
		const i = inside[k];
		if (only !== 'others' && A.types[i] === CUBIC) {
			const loop = cubicLoop(A.segs, STRIDE * i);
			if (loop) {
				const through = !(loop.t === 0 && loop.u === 1);
				out.push({ ...loop, pathA: owner[k], segmentA: i, pathB: owner[k], segmentB: i, through });
			}
		}
		const box = boxes[k];
		const near = index.search(box.x0 - m, box.y0 - m, box.x1 + m, box.y1 + m, (other) => other > k);
		for (const other of near) {
			const same = owner[other] === owner[k];
			if (only === 'self' ? !same : only === 'others' && same) continue;
			const B = paths[owner[other]];
			const j = inside[other];
			if (same && partAtAnchor(A, i, j)) continue;
			for (const meeting of segmentMeetings(A.types[i], A.segs, STRIDE * i, B.types[j], B.segs, STRIDE * j)) {
				if (same && isSharedAnchor(A, i, j, meeting)) continue;
				const crossing = { ...meeting, pathA: owner[k], segmentA: i, pathB: owner[other], segmentB: j };
				out.push({ ...crossing, through: passesThrough(A, B, crossing) });
				if (out.length > LIMIT.crossings) {
					throw new CoreError(
						'tangle',
						`These outlines cross more than ${LIMIT.crossings} times. Simplify them first.`
					);
				}
			}
		}
	}
	return out;
}

/**
 * Whether two segments that follow one another lie on different sides of a line through their common anchor: then they
 * meet nowhere else. This settles nearly all neighbours without a search.
 */
function partAtAnchor(path: Path, i: number, j: number): boolean {
	const n = path.types.length;
	let before = i;
	let after = j;
	if (path.closed && n > 2 && i === 0 && j === n - 1) [before, after] = [j, i];
	else if (j !== i + 1) return false;
	if (path.closed && n <= 2) return false;
	const s = path.segs;
	const a = STRIDE * before;
	const b = STRIDE * after;
	const into = directionAt(path.types[before], s, a, 1);
	const out = directionAt(path.types[after], s, b, 0);
	const dx = into.x + out.x;
	const dy = into.y + out.y;
	const x = s[b];
	const y = s[b + 1];
	const side = (px: number, py: number) => (px - x) * dx + (py - y) * dy;
	// A margin, so that rounding does not decide.
	const margin = TOLERANCE.coincidence;
	if (path.types[before] === ARC || path.types[after] === ARC) {
		// An arc of at most a quarter turn lies within the triangle of its tangents.
		if (path.types[before] === ARC && Math.abs(s[a + 2]) > 0.415) return false;
		if (path.types[after] === ARC && Math.abs(s[b + 2]) > 0.415) return false;
		return (
			side(s[a], s[a + 1]) < -margin &&
			side(s[b + 6], s[b + 7]) > margin &&
			into.x * out.x + into.y * out.y > 0.7
		);
	}
	if (side(s[a], s[a + 1]) > -margin || side(s[b + 6], s[b + 7]) < margin) return false;
	for (let k = 2; k < 6; k += 2) {
		if (path.types[before] === CUBIC && side(s[a + k], s[a + k + 1]) > 0) return false;
		if (path.types[after] === CUBIC && side(s[b + k], s[b + k + 1]) < 0) return false;
	}
	return true;
}

function isSharedAnchor(path: Path, i: number, j: number, m: Meeting): boolean {
	const n = path.types.length;
	const near = 1e-4;
	if (j === i + 1 && m.t > 1 - near && m.u < near) return isAtAnchor(path, i, m);
	if (path.closed && i === 0 && j === n - 1 && m.t < near && m.u > 1 - near)
		return isAtAnchor(path, n - 1, m);
	return false;
}

function isAtAnchor(path: Path, i: number, m: Meeting): boolean {
	const at = STRIDE * i;
	return Math.hypot(path.segs[at + 6] - m.x, path.segs[at + 7] - m.y) <= 10 * TOLERANCE.coincidence;
}

/** Do the two arms of B leave the place on different sides of A? */
function passesThrough(
	A: Path,
	B: Path,
	m: { segmentA: number; segmentB: number; t: number; u: number }
): boolean {
	const a = arms(A, m.segmentA, m.t);
	const b = arms(B, m.segmentB, m.u);
	if (!a || !b) return false;
	const between = (x: number) => {
		const turn = (v: number) => v - 2 * Math.PI * Math.floor(v / (2 * Math.PI));
		return turn(x - a.out) < turn(a.back - a.out);
	};
	const apart = (p: number, q: number) => Math.abs(Math.sin((p - q) / 2)) > 1e-7;
	const clear = apart(b.out, a.out) && apart(b.out, a.back) && apart(b.back, a.out) && apart(b.back, a.back);
	return clear && between(b.out) !== between(b.back);
}

/** Directions, radians, in which the line leaves a place forward and backward; undefined at an open end. */
function arms(path: Path, segment: number, t: number): { out: number; back: number } | undefined {
	const n = path.types.length;
	const eps = 1e-9;
	let outSegment = segment;
	let outT = t;
	let inSegment = segment;
	let inT = t;
	if (t > 1 - eps) {
		outSegment = segment + 1;
		outT = 0;
	}
	if (t < eps) {
		inSegment = segment - 1;
		inT = 1;
	}
	if (!path.closed && (inSegment < 0 || outSegment >= n)) return undefined;
	outSegment = (outSegment + n) % n;
	inSegment = (inSegment + n) % n;
	const o = directionAt(path.types[outSegment], path.segs, STRIDE * outSegment, outT);
	const b = directionAt(path.types[inSegment], path.segs, STRIDE * inSegment, inT);
	return { out: Math.atan2(o.y, o.x), back: Math.atan2(-b.y, -b.x) };
}

/** Whether a path of arcs or curves holds any arc. */
export function hasArcs(path: Path): boolean {
	return path.types.includes(ARC);
}
