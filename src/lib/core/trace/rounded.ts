/**
 * Corners that are none: a small round bend beside whose ends the sides, prolonged, would meet. It is told from a corner by the ink
 * that is missing before it: pixels and blur cut off a little of every corner, a round one lacks all that lies outside its circle.
 */
import type { Point } from '../geometry/point';
import { verdictAt, type Bend } from './corner-verdicts';
import { fitArc, meetNear, rayNear, type ArcCurve } from './curves';
import type { ContourFitOptions, Plan } from './joints';
import { misfit, mostOff, mostScatter, pointsBetween, type ContourLine, type Stretch } from './runs';

/** px: so much of each side is looked at. */
const ASIDE = 9;
/** px: a circle of that radius cuts off no more of a corner than pixels do, and one so many times as wide as the blur than blur does. */
const PIXELS = 1.3;
const BLUR = 4;
/** So many times as much ink has to be missing. */
const CLEARLY = 2.2;
/** Square px: less cannot be told from a corner at all; and how much a scatter of one px makes of it. */
const LEAST_INK = 0.9;
const SCATTER = 12;
/** px: a bend that keeps no farther from its corner is as good as one; and of how far the circle keeps, what the contour has to. */
const LEAST_TIP = 0.5;
const NEARLY = 0.8;
/** Cosine of what an arc may turn where it reaches the side that it runs into. */
const SMOOTH = Math.cos((18 * Math.PI) / 180);
/** px: a side shorter than that may itself be part of the bend. */
const SHORT = 6;

/** Where corners are that ought to be round, so that they are none when the line is drawn again. */
export function roundBends({ line, stretches, joints }: Plan, options: ContourFitOptions): Bend[] {
	const m = stretches.length;
	if (options.stairs || m < 2) return [];
	const isShort = ({ from, to }: Stretch) => line.s[to] - line.s[from] < SHORT;
	const out: Bend[] = [];
	const add = ({ x, y }: Point, r: number) => out.push({ x, y, reach: Math.max(1.5, 0.6 * r) });
	joints.forEach((joint, k) => {
		if (!joint.corner || joint.fixed || verdictAt(options, joint.x, joint.y) === true) return;
		let [i, j] = [(k + m - 1) % m, k];
		const arc = runsOn(line, stretches[i], stretches[j], options);
		if (arc) {
			add(joint, arc.r);
			return;
		}
		if (m > 3 && isShort(stretches[i]) && !joints[i].corner) i = (i + m - 1) % m;
		if (m > 3 && isShort(stretches[j]) && !joints[(j + 1) % m].corner) j = (j + 1) % m;
		const r = missingRadius(line, stretches[i], stretches[j], joint, options);
		if (r !== undefined) add(joint, r);
	});
	return out;
}

/** The arc on one side of a corner where it goes on through what was left out there and runs smoothly into the other side. */
function runsOn(line: ContourLine, a: Stretch, b: Stretch, options: ContourFitOptions): ArcCurve | undefined {
	const between = pointsBetween(line, a, b);
	for (const [arc, other, from, to] of [
		[a, b, a.from, a.to + between],
		[b, a, b.from - between, b.to]
	] as const) {
		if (arc.curve.kind !== 'arc' || from < 0 || to >= line.x.length) continue;
		const points = { ...line, from, to };
		const on = fitArc(points);
		if (!on || on.turn !== arc.curve.turn) continue;
		const { worst, rms } = misfit(on, points, options.noise);
		if (worst > mostOff(options) || rms > mostScatter(options)) continue;
		const end = arc === a ? to : from;
		const p = rayNear(on, line.x[end], line.y[end]);
		const q = rayNear(other.curve, line.x[end], line.y[end]);
		if (p.tx * q.tx + p.ty * q.ty > SMOOTH) return on;
	}
	return undefined;
}

/** The radius of the circle that cuts off as much of a corner as the contour does, px; nothing where a corner may lose as much. */
function missingRadius(
	line: ContourLine,
	a: Stretch,
	b: Stretch,
	near: Point,
	options: ContourFitOptions
): number | undefined {
	const at = meetNear(a.curve, b.curve, near.x, near.y);
	if (!at || Math.hypot(at.x - near.x, at.y - near.y) > ASIDE) return undefined;
	const p = rayNear(a.curve, at.x, at.y);
	const q = rayNear(b.curve, at.x, at.y);
	const angle = Math.atan2(p.tx * q.ty - p.ty * q.tx, p.tx * q.tx + p.ty * q.ty);
	const half = Math.abs(angle) / 2;
	const between = pointsBetween(line, a, b);
	const far = (i: number) => Math.hypot(line.x[i] - at.x, line.y[i] - at.y) > ASIDE;
	let from = a.to;
	while (from > (a.from + a.to) >> 1 && !far(from)) from--;
	let end = b.from;
	while (end < (b.from + b.to) >> 1 && !far(end)) end++;
	const to = a.to + between + end - b.from;
	if (to >= line.x.length) return undefined;
	const missing = -Math.sign(angle) * areaBefore(line, a, b, at, from, to, a.to + between);
	const share = Math.tan(half) - half;
	const cutOff = CLEARLY * (PIXELS * PIXELS + (BLUR * options.blur) ** 2) * share;
	if (!(missing > cutOff + LEAST_INK + SCATTER * options.noise)) return undefined;
	const r = Math.sqrt(missing / share);
	// What is missing all along the sides is no bend: the contour has to keep as far from the corner as the circle does.
	const short = r * (1 / Math.cos(half) - 1);
	let tip = Infinity;
	for (let i = from; i <= to; i++) tip = Math.min(tip, Math.hypot(line.x[i] - at.x, line.y[i] - at.y));
	return short > LEAST_TIP && tip > NEARLY * short ? r : undefined;
}

/** Square px between the contour and both sides prolonged to where they meet, signed as it is gone round: along the contour, back along the sides. */
function areaBefore(
	line: ContourLine,
	a: Stretch,
	b: Stretch,
	at: Point,
	from: number,
	to: number,
	startB: number
): number {
	let area = 0;
	let [lx, ly] = [line.x[from], line.y[from]];
	const go = (x: number, y: number) => {
		area += (lx - at.x) * (y - at.y) - (x - at.x) * (ly - at.y);
		[lx, ly] = [x, y];
	};
	for (let i = from; i <= to; i++) go(line.x[i], line.y[i]);
	let isPast = false;
	for (let i = to; i >= from; i--) {
		const [x, y] = [line.x[i], line.y[i]];
		const onA = rayNear(a.curve, x, y);
		const onB = rayNear(b.curve, x, y);
		const isNearB = Math.hypot(onB.x - x, onB.y - y) < Math.hypot(onA.x - x, onA.y - y);
		const isB = i >= startB || (i > a.to && isNearB);
		if (!isB && !isPast) go(at.x, at.y);
		isPast ||= !isB;
		const foot = isB ? onB : onA;
		go(foot.x, foot.y);
	}
	go(line.x[from], line.y[from]);
	return area / 2;
}
