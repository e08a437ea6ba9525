/** Corners rounded, cut off and made anew: fillet, chamfer, blend. */
import { done, failed, type Result } from '../errors';
import { TOLERANCE } from '../tolerance';
import { stretchBetween, meetingPlaces, type Place } from './join';
import { nearestOnPath } from './pick';
import { PathBuilder, reversePath, STRAIGHT, STRIDE, type Path } from './path';
import {
	derivativeAt,
	directionAt,
	nearestOn,
	parameterAtLength,
	partOf,
	pointAt,
	secondAt,
	segmentLength
} from './segment';

/** The two segments that meet at the anchor where segment `i` starts; undefined at an open end. */
function sidesOf(path: Path, i: number): { before: number; after: number } | undefined {
	const n = path.types.length;
	if (!path.closed && (i <= 0 || i >= n)) return undefined;
	return { before: (i + n - 1) % n, after: i % n };
}

const AT_AN_END = 'This is an open end: there is no corner to round. Join it to another line first.';

interface Fillet {
	/** Where the arc leaves the segment before and reaches the one after. */
	t: number;
	u: number;
	bulge: number;
}

/** Share of a side, and of a radius: an arc within this of taking the whole side takes it. */
const WHOLE_SIDE = 1e-9;

/**
 * The arc of a radius that touches both segments at a corner, found where a centre at the distance from one lies at
 * the same distance from the other; undefined where none fits on the two segments.
 */
function findFillet(path: Path, before: number, after: number, radius: number): Fillet | undefined {
	return (
		filletWithin(path, before, after, radius, 0) ?? filletWithin(path, before, after, radius, WHOLE_SIDE)
	);
}

/** @param hair share of the radius by which the arc may come too near, so that one that takes a whole side is found too. */
function filletWithin(
	path: Path,
	before: number,
	after: number,
	radius: number,
	hair: number
): Fillet | undefined {
	const { types, segs } = path;
	const [ta, tb] = [types[before], types[after]];
	const [a, b] = [STRIDE * before, STRIDE * after];
	const into = directionAt(ta, segs, a, 1);
	const out = directionAt(tb, segs, b, 0);
	const turn = Math.atan2(into.x * out.y - into.y * out.x, into.x * out.x + into.y * out.y);
	if (Math.abs(turn) < 1e-9) return undefined;
	const side = turn > 0 ? 1 : -1;
	const centre = (t: number) => {
		const p = pointAt(ta, segs, a, t);
		const d = directionAt(ta, segs, a, t);
		return { x: p.x - d.y * side * radius, y: p.y + d.x * side * radius };
	};
	const room = (t: number) => {
		const c = centre(t);
		return nearestOn(tb, segs, b, c.x, c.y).distance - radius * (1 - hair);
	};
	// Back from the corner until the circle is clear of the other side.
	const steps = 96;
	let hi = 1;
	let lo = -1;
	for (let k = 1; k <= steps; k++) {
		const t = 1 - k / steps;
		if (room(t) >= 0) {
			lo = t;
			break;
		}
		hi = t;
	}
	if (lo < 0) return undefined;
	for (let k = 0; k < 60; k++) {
		const mid = (lo + hi) / 2;
		if (room(mid) >= 0) lo = mid;
		else hi = mid;
	}
	let t = lo;
	let u = nearestOn(tb, segs, b, centre(t).x, centre(t).y).t;
	// Newton on both centres at once, for tangency to the last digit.
	for (let k = 0; k < 8; k++) {
		const p = parallelJet(ta, segs, a, t, side * radius);
		const q = parallelJet(tb, segs, b, u, side * radius);
		const det = q.dx * p.dy - p.dx * q.dy;
		if (Math.abs(det) < 1e-18) break;
		const fx = q.x - p.x;
		const fy = q.y - p.y;
		t += (q.dx * fy - q.dy * fx) / det;
		u += (p.dx * fy - p.dy * fx) / det;
	}
	if (!(t > -WHOLE_SIDE && t < 1 && u > 0 && u < 1 + WHOLE_SIDE)) return undefined;
	if (t < WHOLE_SIDE) t = 0;
	if (u > 1 - WHOLE_SIDE) u = 1;
	const c = parallelJet(ta, segs, a, t, side * radius);
	const e = parallelJet(tb, segs, b, u, side * radius);
	if (Math.hypot(c.x - e.x, c.y - e.y) > 1e-9 * Math.max(1, radius)) return undefined;
	const da = directionAt(ta, segs, a, t);
	const db = directionAt(tb, segs, b, u);
	const sweep = Math.atan2(da.x * db.y - da.y * db.x, da.x * db.x + da.y * db.y);
	if (Math.sign(sweep) !== side) return undefined;
	return { t, u, bulge: Math.tan(sweep / 4) };
}

/** The parallel of a segment to the left by `d` mm at t: place and derivative. */
function parallelJet(type: number, s: Float64Array, at: number, t: number, d: number) {
	const p = pointAt(type, s, at, t);
	const v = derivativeAt(type, s, at, t);
	const w = secondAt(type, s, at, t);
	const speed = Math.hypot(v.x, v.y) || 1;
	const curvature = (v.x * w.y - v.y * w.x) / (speed * speed * speed);
	const k = 1 - curvature * d;
	return { x: p.x - (v.y / speed) * d, y: p.y + (v.x / speed) * d, dx: v.x * k, dy: v.y * k };
}

/**
 * Rounds the corner at the anchor where segment `i` starts with a true arc that touches both sides, straight or curved.
 *
 * @returns the path, or `bad-radius`, `open-end`, `no-corner`, `too-large` with the largest radius that fits.
 */
export function fillet(path: Path, i: number, radius: number): Result<Path> {
	if (!(radius > 0) || !Number.isFinite(radius))
		return failed('bad-radius', 'The radius must be above 0 mm.');
	const sides = sidesOf(path, i);
	if (!sides) return failed('open-end', AT_AN_END);
	const { before, after } = sides;
	const found = findFillet(path, before, after, radius);
	if (!found) {
		const most = largestFillet(path, before, after, radius);
		if (most <= 0)
			return failed('no-corner', 'The line runs smoothly through here: there is no corner to round.');
		return failed(
			'too-large',
			`A radius of ${radius} mm does not fit here. The largest that does is ${roundDown(most)} mm.`
		);
	}
	return done(
		replaceCorner(path, before, after, found.t, found.u, (builder, x, y) => builder.arc(found.bulge, x, y))
	);
}

function largestFillet(path: Path, before: number, after: number, tooLarge: number): number {
	let lo = 0;
	let hi = tooLarge;
	for (let k = 0; k < 50; k++) {
		const mid = (lo + hi) / 2;
		if (mid > 0 && findFillet(path, before, after, mid)) lo = mid;
		else hi = mid;
	}
	return lo < 1e-6 ? 0 : lo;
}

const roundDown = (mm: number) => Math.floor(mm * 100) / 100;

/**
 * Cuts a corner off by a straight, `first` mm before it and `second` mm after it, along the line.
 * @returns the path, or `bad-length`, `open-end`, `too-large` with what there is.
 */
export function chamfer(path: Path, i: number, first: number, second: number = first): Result<Path> {
	if (!(first > 0 && second > 0)) return failed('bad-length', 'Both lengths must be above 0 mm.');
	const sides = sidesOf(path, i);
	if (!sides) return failed('open-end', AT_AN_END);
	const { before, after } = sides;
	const la = segmentLength(path.types[before], path.segs, STRIDE * before);
	const lb = segmentLength(path.types[after], path.segs, STRIDE * after);
	if (!(first < la && second < lb)) {
		return failed(
			'too-large',
			`There are only ${roundDown(la)} mm before the corner and ${roundDown(lb)} mm after it. Cut off less than that.`
		);
	}
	const t = parameterAtLength(path.types[before], path.segs, STRIDE * before, la - first);
	const u = parameterAtLength(path.types[after], path.segs, STRIDE * after, second);
	return done(replaceCorner(path, before, after, t, u, (builder, x, y) => builder.line(x, y)));
}

/** The path with a corner's two sides cut at t and u and something new between. */
function replaceCorner(
	path: Path,
	before: number,
	after: number,
	t: number,
	u: number,
	add: (builder: PathBuilder, x: number, y: number) => void
): Path {
	const { types, segs } = path;
	const n = types.length;
	const q = pointAt(types[after], segs, STRIDE * after, u);
	// Begun after the corner, so that the two cut sides stand at both ends.
	const builder = new PathBuilder(path.closed ? q.x : segs[0], path.closed ? q.y : segs[1]);
	const put = (i: number, t0: number, t1: number) => {
		// A side that is taken whole leaves nothing.
		if (!(t1 > t0)) return;
		builder.segment(
			types[i],
			t0 === 0 && t1 === 1
				? segs.subarray(STRIDE * i, STRIDE * i + STRIDE)
				: partOf(types[i], segs, STRIDE * i, t0, t1)
		);
	};
	if (path.closed) {
		if (before === after) put(after, u, t);
		else {
			put(after, u, 1);
			for (let k = 1; k < n - 1; k++) put((after + k) % n, 0, 1);
			put(before, 0, t);
		}
		add(builder, q.x, q.y);
		return builder.close(TOLERANCE.coincidence);
	}
	for (let i = 0; i < before; i++) put(i, 0, 1);
	put(before, 0, t);
	add(builder, q.x, q.y);
	put(after, u, 1);
	for (let i = after + 1; i < n; i++) put(i, 0, 1);
	return builder.open();
}

/**
 * Two lines brought to a corner: the arms pointed at stay, as one open path whose corner is the anchor at the start of
 * segment `corner`. Lines that cross meet where they do; others are prolonged straight until they meet.
 *
 * @returns the path, or `parallel` where the lines do not meet.
 */
export function cornerOf(a: Path, atA: Place, b: Path, atB: Place): Result<{ path: Path; corner: number }> {
	const meet = nearestMeeting(a, atA, b);
	if (meet) {
		const armA = arm(a, meet.onA, atA);
		const armB = arm(b, meet.onB, atB);
		return done(tieArms(armA, armB));
	}
	if (a.closed || b.closed)
		return failed('parallel', 'These outlines do not meet, so there is no corner between them.');
	const endA = nearerEnd(a, atA);
	const endB = nearerEnd(b, atB);
	const p = endA.path;
	const q = endB.path;
	const e = p.segs.length - 2;
	const f = q.segs.length - 2;
	const d = directionAt(p.types[p.types.length - 1], p.segs, p.segs.length - STRIDE, 1);
	const g = directionAt(q.types[q.types.length - 1], q.segs, q.segs.length - STRIDE, 1);
	const det = d.x * g.y - d.y * g.x;
	const gx = q.segs[f] - p.segs[e];
	const gy = q.segs[f + 1] - p.segs[e + 1];
	const along = (gx * g.y - gy * g.x) / det;
	const back = (gx * d.y - gy * d.x) / det;
	if (!(Math.abs(det) > 1e-9 && along >= -1e-9 && back >= -1e-9 && along < 1e4)) {
		return failed(
			'parallel',
			'These ends do not meet when they are prolonged, so there is no corner between them.'
		);
	}
	const x = p.segs[e] + d.x * along;
	const y = p.segs[e + 1] + d.y * along;
	return done(tieArms(withEnd(p, x, y), withEnd(q, x, y)));
}

/** The part of a line from the side pointed at to the meeting place, ending there. */
function arm(path: Path, meet: number, at: Place): Path {
	const here = at.segment + at.t;
	if (path.closed) return stretchBetween(path, here, meet > here ? meet : meet + path.types.length);
	return here < meet
		? stretchBetween(path, 0, meet)
		: reversePath(stretchBetween(path, meet, path.types.length));
}

function nearestMeeting(a: Path, atA: Place, b: Path): { onA: number; onB: number } | undefined {
	const here = atA.segment + atA.t;
	let best: { onA: number; onB: number } | undefined;
	for (const onA of meetingPlaces(a, [b])) {
		const i = Math.min(a.types.length - 1, Math.floor(onA));
		const p = pointAt(a.types[i], a.segs, STRIDE * i, onA - i);
		const near = nearestOnPath(b, p.x, p.y, 10 * TOLERANCE.coincidence);
		if (!near) continue;
		if (!best || Math.abs(onA - here) < Math.abs(best.onA - here)) best = { onA, onB: near.segment + near.t };
	}
	return best;
}

/** The line turned so that the end nearer to the place pointed at comes last. */
function nearerEnd(path: Path, at: Place): { path: Path } {
	const here = at.segment + at.t;
	return { path: here >= path.types.length / 2 ? path : reversePath(path) };
}

function withEnd(path: Path, x: number, y: number): Path {
	const builder = new PathBuilder(path.segs[0], path.segs[1]);
	const n = path.types.length;
	for (let i = 0; i < n; i++) {
		if (i === n - 1 && path.types[i] === STRAIGHT) builder.line(x, y);
		else builder.segment(path.types[i], path.segs, STRIDE * i);
	}
	return builder.line(x, y).open();
}

function tieArms(a: Path, b: Path): { path: Path; corner: number } {
	const back = reversePath(b);
	const builder = new PathBuilder(a.segs[0], a.segs[1]);
	builder.along(a);
	const corner = builder.count;
	builder.along(back);
	return { path: builder.open(), corner };
}

/**
 * Two open ends joined by one cubic that leaves and reaches them smoothly: equal tangents at both ends.
 * @param pull how far the handles reach, as a share of the gap (0.4 looks even).
 */
export function blendEnds(a: Path, b: Path, pull = 0.4): Path {
	const e = a.segs.length - 2;
	const d = directionAt(a.types[a.types.length - 1], a.segs, a.segs.length - STRIDE, 1);
	const g = directionAt(b.types[0], b.segs, 0, 0);
	const [x, y] = [b.segs[0], b.segs[1]];
	const reach = pull * Math.hypot(x - a.segs[e], y - a.segs[e + 1]);
	const builder = new PathBuilder(a.segs[0], a.segs[1]);
	builder.along(a);
	builder.cubic(a.segs[e] + d.x * reach, a.segs[e + 1] + d.y * reach, x - g.x * reach, y - g.y * reach, x, y);
	builder.along(b);
	return builder.open();
}
