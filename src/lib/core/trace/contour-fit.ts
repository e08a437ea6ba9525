/**
 * A pixel contour as a draughtsman would draw it: cut at its corners, each run drawn as few straights, arcs and cubics,
 * corners put where the curves on both sides meet, everything else tied so that the line runs on smoothly.
 */
import type { Point } from '../geometry/point';
import { finish } from '../progress';
import { makeTrail, type Trail, type TrailCorner } from '../fit/fit';
import { PathBuilder, reversePath, STRIDE, type Path } from '../geometry/path';
import { turnBetween } from '../geometry/segment';
import { Bends, leastTurn, type Bend } from './corner-verdicts';
import { beginning, type Way } from './beginning';
import { findCorners } from './corners';
import { fitArc, rayNear, type ArcCurve, type Ray } from './curves';
import { bluntOf, NOTHING, tie, type ContourFitOptions, type Joint, type Plan } from './joints';
import { roundBends } from './rounded';
import {
	cutRun,
	misfit,
	mostOff,
	mostScatter,
	type ContourLine,
	type RunOptions,
	type Stretch
} from './runs';

export type { ContourFitOptions, Plan } from './joints';

/** Where a run begins or ends: a corner, or the end of a chain. */
interface RunEnd {
	readonly index: number;
	readonly x: number;
	readonly y: number;
	/** px: of a corner, how far its sides do not stand clear of each other. */
	readonly blunt?: number;
	/** px: of a chain's end, how much beside it does not count. */
	readonly skip?: number;
}

/** Of the reach in which a corner's sides do not stand clear of each other, what is left out of their curves. */
const BESIDE = 0.45;

const cornersOf = (trail: Trail, options: ContourFitOptions): TrailCorner[] =>
	findCorners(trail, {
		...options,
		side: 5 + Math.min(9, 25 * options.noise) + 2 * options.blur,
		blunt: bluntOf(options)
	});

/**
 * @param points x,y pairs in px, closed.
 * @param tips which of the points are corners that stand where they belong.
 * @param way how it is gone round.
 * @returns a closed path in px, in the direction of the points; empty where there are too few.
 */
export const fitContour = (
	points: Float64Array,
	options: ContourFitOptions,
	tips: readonly number[] = [],
	way: Way = {}
): Path => finish(fitContourSteps(points, options, tips, way));

/** The same, yielding now and then. */
export function* fitContourSteps(
	points: Float64Array,
	options: ContourFitOptions,
	tips: readonly number[] = [],
	way: Way = {}
): Generator<void, Path> {
	const whole = beginning(points, way);
	const ring = ringOf(whole.points);
	if (!ring) return NOTHING;
	const path = yield* drawnSmooth(ring, options, tips.map(whole.placeOf));
	return whole.isReversed && path.types.length ? reversePath(path) : path;
}

/** The same of a line that no picture has blunted, begun at its first point and gone round as it is given. */
export function* fitFrom(points: Float64Array, options: ContourFitOptions): Generator<void, Path> {
	const ring = ringOf(points);
	return ring ? yield* drawnPlan(yield* planRing(ring, options, []), options) : NOTHING;
}

/** Points of a closed line with the lengths along them, once and several times round. */
interface Ring {
	readonly trail: Trail;
	readonly line: ContourLine;
}

function ringOf(points: Float64Array): Ring | undefined {
	const trail = makeTrail(points, true);
	return trail.count < 3 ? undefined : { trail, line: unrolled(trail) };
}

/** Bends that are as small as what pixels blunt are taken for corners at first; without these corners the runs go on through them. */
function* drawnSmooth(
	ring: Ring,
	options: ContourFitOptions,
	tips: readonly number[]
): Generator<void, Path> {
	let plan = yield* planRing(ring, options, tips);
	let rule = options;
	const bends: Bend[] = [];
	for (let round = 0; round < 2; round++) {
		const found = roundBends(plan, rule);
		if (found.length === 0) break;
		bends.push(...found);
		rule = { ...options, bends: new Bends([...bends]) };
		plan = yield* planRing(ring, rule, tips);
	}
	return yield* drawnPlan(plan, rule);
}

function* drawnPlan(plan: Plan, options: ContourFitOptions): Generator<void, Path> {
	const [only] = plan.stretches;
	if (plan.stretches.length === 1 && only.curve.kind === 'arc' && !plan.joints[0].corner)
		return circleOf(only.curve);
	return yield* tie(plan, options);
}

/** The curves of a closed line and its joints. */
function* planRing(
	{ trail, line }: Ring,
	options: ContourFitOptions,
	tips: readonly number[]
): Generator<void, Plan> {
	const n = trail.count;
	let corners = withTips(trail, cornersOf(trail, options), tips, options);
	let plan: Plan = { line, stretches: [], joints: [] };
	// Seen with the curves on both sides some corners are none; then the runs beside them are one.
	for (let round = 0; round < 4 && corners.length > 0; round++) {
		const ends = corners.map((c, k) => {
			const next = corners[(k + 1) % corners.length];
			return next.index > c.index ? next : { ...next, index: next.index + n };
		});
		plan = yield* runsBetween(line, corners, ends, options);
		const kept = corners.filter((corner) => tips.includes(corner.index) || isCorner(plan, corner, options));
		const found = missedCorners(plan, kept, options);
		if (kept.length === corners.length && found.length === 0) break;
		corners = [...kept, ...found].sort((a, b) => a.index - b.index);
	}
	if (corners.length === 0) {
		const stretches = yield* ring(line, n, options);
		const joints = stretches.map((s) => ({ x: line.x[s.from], y: line.y[s.from], corner: false }));
		plan = { line, stretches, joints };
	}
	for (const joint of plan.joints)
		if (tips.some((k) => joint.x === trail.x[k] && joint.y === trail.y[k])) joint.fixed = true;
	return plan;
}

/** Corners with the tips among them, in order; a tip is the only corner near it. */
function withTips(
	trail: Trail,
	corners: readonly TrailCorner[],
	tips: readonly number[],
	options: ContourFitOptions
): TrailCorner[] {
	if (tips.length === 0) return [...corners];
	const near = 2.5 * bluntOf(options);
	const whole = trail.s[trail.count];
	const apart = (i: number, j: number) => {
		const d = Math.abs(trail.s[i] - trail.s[j]);
		return Math.min(d, whole - d);
	};
	const known = tips.map((index) => ({
		index,
		x: trail.x[index],
		y: trail.y[index],
		inX: 0,
		inY: 0,
		outX: 0,
		outY: 0,
		blunt: 0
	}));
	const others = corners.filter((c) => tips.every((k) => apart(c.index, k) > near));
	return [...others, ...known].sort((a, b) => a.index - b.index);
}

/**
 * The curves of a line with two ends, which may stand elsewhere in the end (`drawChain`). To be tied like a ring it is
 * closed by one straight more, the last of the plan.
 *
 * @param points x,y pairs in px, at least two.
 * @param skips px: so much beside the start and beside the end does not count.
 * @param clear px: so near the start and the end there is no corner.
 */
export const planChain = (
	points: Float64Array,
	options: ContourFitOptions,
	skips: readonly [start: number, end: number],
	clear?: readonly [start: number, end: number]
): Plan => finish(planChainSteps(points, options, skips, clear));

/** The same, yielding now and then. */
export function* planChainSteps(
	points: Float64Array,
	options: ContourFitOptions,
	skips: readonly [start: number, end: number],
	clear: readonly [start: number, end: number] = [skips[0] / 2, skips[1] / 2]
): Generator<void, Plan> {
	const trail = makeTrail(points, false);
	const last = trail.count - 1;
	const line = unrolled(trail);
	const end = (index: number, skip: number): RunEnd => ({
		index,
		x: trail.x[index],
		y: trail.y[index],
		skip
	});
	let corners = cornersOf(trail, options).filter(
		(c) => trail.s[c.index] > clear[0] && trail.s[last] - trail.s[c.index] > clear[1]
	);
	let plan: Plan;
	for (let round = 0; ; round++) {
		const starts = [end(0, skips[0]), ...corners];
		plan = yield* runsBetween(line, starts, [...corners, end(last, skips[1])], options);
		const kept = corners.filter((corner) => isCorner(plan, corner, options));
		if (kept.length === corners.length || round === 2) break;
		corners = kept;
	}
	const back = { x: trail.x[last], y: trail.y[last] };
	const chord = Math.hypot(trail.x[0] - back.x, trail.y[0] - back.y) || 1;
	plan.joints[0].fixed = true;
	plan.joints.push({ ...back, corner: true, fixed: true });
	plan.stretches.push({
		curve: {
			kind: 'line',
			...back,
			tx: (trail.x[0] - back.x) / chord,
			ty: (trail.y[0] - back.y) / chord
		},
		from: last,
		to: last + 1
	});
	return plan;
}

/** The straightened-out end of a chain: where it stands and in which direction the chain leaves it outward. */
export function chainEnd(plan: Plan, which: 'start' | 'end'): Ray {
	const m = plan.stretches.length;
	const joint = which === 'start' ? plan.joints[0] : plan.joints[m - 1];
	const curve = plan.stretches[which === 'start' ? 0 : m - 2].curve;
	const ray = rayNear(curve, joint.x, joint.y);
	return which === 'start' ? { ...ray, tx: -ray.tx, ty: -ray.ty } : ray;
}

/** The open path of a chain from one place to another. */
export function drawChain(plan: Plan, start: Point, end: Point, options: ContourFitOptions): Path {
	const m = plan.stretches.length;
	const joints = plan.joints.map((j, k) =>
		k === 0 ? { ...j, x: start.x, y: start.y } : k === m - 1 ? { ...j, x: end.x, y: end.y } : { ...j }
	);
	const stretches = plan.stretches.map((s) => ({ ...s }));
	const ring = finish(tie({ line: plan.line, stretches, joints }, options));
	const count = ring.types.length - (Math.hypot(start.x - end.x, start.y - end.y) > 1e-9 ? 1 : 0);
	return { closed: false, types: ring.types.slice(0, count), segs: ring.segs.slice(0, STRIDE * count) };
}

/** Where a stretch lies far off its points there may be a corner that was not seen before: at its sharpest turn. */
function missedCorners(
	{ line, stretches }: Plan,
	known: readonly TrailCorner[],
	options: ContourFitOptions
): TrailCorner[] {
	const near = 1.2 * bluntOf(options);
	const far = near + 5 + 12 * options.noise;
	const n = line.count;
	const out: TrailCorner[] = [];
	for (const { curve, from, to } of stretches) {
		if (to - from < 8) continue;
		if (misfit(curve, { ...line, from, to }, options.noise).worst < 1.6 * mostOff(options)) continue;
		let sharpest = 0;
		let at = -1;
		for (let i = from + 3; i <= to - 3; i++) {
			const turn = Math.abs(chordTurn(line, i, near, far));
			if (turn > sharpest && turn >= (leastTurn(options, line.x[i], line.y[i]) * Math.PI) / 180) {
				sharpest = turn;
				at = i;
			}
		}
		if (at < 0) continue;
		const index = at % n;
		const gap = (a: number, b: number) => Math.min((((a - b) % n) + n) % n, (((b - a) % n) + n) % n);
		if ([...known, ...out].some((c) => gap(c.index, index) < 3)) continue;
		const [x, y] = [line.x[at], line.y[at]];
		out.push({ index, x, y, inX: 0, inY: 0, outX: 0, outY: 0, blunt: 2.5 * bluntOf(options) });
	}
	return out;
}

/** Radians between the chords from `far` to `near` px before a point and from `near` to `far` px after it. */
function chordTurn(line: ContourLine, i: number, near: number, far: number): number {
	const along = (length: number): number => {
		const dir = Math.sign(length);
		let k = i;
		while (k > 0 && k + 1 < line.s.length && Math.abs(line.s[k] - line.s[i]) < Math.abs(length)) k += dir;
		return k;
	};
	const [a, b, c, d] = [along(-far), along(-near), along(near), along(far)];
	const ux = line.x[b] - line.x[a];
	const uy = line.y[b] - line.y[a];
	const vx = line.x[d] - line.x[c];
	const vy = line.y[d] - line.y[c];
	return Math.atan2(ux * vy - uy * vx, ux * vx + uy * vy);
}

function isCorner(plan: Plan, corner: TrailCorner, options: ContourFitOptions): boolean {
	const k = plan.joints.findIndex((j) => j.x === corner.x && j.y === corner.y);
	return k < 0 || turnAt(plan.stretches, plan.joints[k], k) >= leastTurn(options, corner.x, corner.y);
}

/** The runs from each of `starts` to the one of `ends` with the same number. */
function* runsBetween(
	line: ContourLine,
	starts: readonly RunEnd[],
	ends: readonly RunEnd[],
	options: ContourFitOptions
): Generator<void, Plan> {
	const stretches: Stretch[] = [];
	const joints: Joint[] = [];
	for (const [k, c] of starts.entries()) {
		if (k % 16 === 15) yield;
		const run = yield* betweenCorners(line, c, ends[k], bluntOf(options), options);
		run.forEach((s, i) => {
			stretches.push(s);
			joints.push(
				i === 0 ? { x: c.x, y: c.y, corner: true } : { x: line.x[s.from], y: line.y[s.from], corner: false }
			);
		});
	}
	return { line, stretches, joints };
}

/** Degrees between the curves before and after joint k, seen where it stands. */
function turnAt(stretches: readonly Stretch[], joint: Joint, k: number): number {
	const m = stretches.length;
	const p = rayNear(stretches[(k + m - 1) % m].curve, joint.x, joint.y);
	const q = rayNear(stretches[k].curve, joint.x, joint.y);
	return Math.abs(turnBetween(p.tx, p.ty, q.tx, q.ty));
}

/** Three times round, so that what begins late and looks ahead across the seam finds its points. */
function unrolled({ x, y, s, count: n }: Trail): ContourLine {
	const xx = new Float64Array(3 * n + 1);
	const yy = new Float64Array(3 * n + 1);
	const ss = new Float64Array(3 * n + 1);
	for (let i = 0; i <= 3 * n; i++) {
		xx[i] = x[i % n];
		yy[i] = y[i % n];
		ss[i] = s[i % n] + Math.floor(i / n) * s[n];
	}
	return { x: xx, y: yy, s: ss, count: n };
}

/** The stretches of a run from corner to corner; what the pixels blunt beside the corners does not count. */
function* betweenCorners(
	line: ContourLine,
	a: RunEnd,
	b: RunEnd,
	blunt: number,
	options: RunOptions
): Generator<void, Stretch[]> {
	const start = a.index;
	const end = b.index;
	const length = line.s[end] - line.s[start];
	// A short side keeps some points in its middle.
	const skips = [a, b].map((c) =>
		Math.min(c.skip ?? Math.min(BESIDE * (c.blunt ?? 0), 1.5 * blunt), 0.25 * length)
	);
	const near = (i: number, c: RunEnd, skip: number) => Math.hypot(line.x[i] - c.x, line.y[i] - c.y) < skip;
	let from = start;
	let to = end;
	while (from < to && (line.s[from] - line.s[start] < 0.5 * skips[0] || near(from, a, skips[0]))) from++;
	while (to > from && (line.s[end] - line.s[to] < 0.5 * skips[1] || near(to, b, skips[1]))) to--;
	if (to - from < 1) {
		const mid = (start + end) >> 1;
		from = Math.max(start, Math.min(from, mid - 1));
		to = Math.min(end, Math.max(to, mid + 1));
	}
	if (to - from < 1) return [];
	return yield* cutRun(line, from, to, options);
}

/** A line without corners, begun where two different curves meet if there is such a place. */
function* ring(line: ContourLine, n: number, options: RunOptions): Generator<void, Stretch[]> {
	const whole = { ...line, from: 0, to: n - 1 };
	const circle = fitArc(whole);
	if (circle) {
		const { worst, rms } = misfit(circle, whole, options.noise);
		if (worst <= mostOff(options) && rms <= mostScatter(options)) return [{ curve: circle, from: 0, to: n }];
	}
	const out = yield* cutRun(line, 0, n, options);
	if (out.length < 2) return out;
	const isLine = (s: Stretch) => s.curve.kind === 'line';
	let k = out.findIndex((s, i) => i > 0 && isLine(s) !== isLine(out[i - 1]));
	if (k < 0) k = Math.max(1, out.length >> 1);
	const start = out[k].from % n;
	const next = yield* cutRun(line, start, start + n, options);
	return next.length > out.length ? out : next;
}

function circleOf(c: ArcCurve): Path {
	return new PathBuilder(c.cx + c.r, c.cy)
		.arc(c.turn, c.cx - c.r, c.cy)
		.arc(c.turn, c.cx + c.r, c.cy)
		.close();
}
