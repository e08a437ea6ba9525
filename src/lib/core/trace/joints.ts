/**
 * The joints between the curves of a line: put where both sides meet or run on smoothly, and everything drawn between them.
 */
import type { Point } from '../geometry/point';
import { PathBuilder, type Path } from '../geometry/path';
import {
	fitFreeCubic,
	fitTiedCubic,
	meetNear,
	rayNear,
	type ArcCurve,
	type CubicCurve,
	type Curve,
	type End,
	type LineCurve,
	type Points,
	type Ray
} from './curves';
import { leastTurn, verdictAt, type CornerRule } from './corner-verdicts';
import { misfit, mostOff, mostScatter, pointsBetween, type ContourLine, type Stretch } from './runs';
import { addEquation, eliminate } from '../linear/small';

export interface ContourFitOptions extends CornerRule {
	/** px: how far the outline may lie from the contour. */
	readonly tolerance: number;
	/** px: how much single points scatter (root mean square). */
	readonly noise: number;
	/** px: how far the picture's blur reaches beyond a pixel (standard deviation); 0 for a sharp one. */
	readonly blur: number;
	/** The picture has no tones between ink and paper: corners are not blunted, but edges are stairs. */
	readonly stairs?: boolean;
}

/** Where one stretch ends and the next begins. */
export interface Joint {
	x: number;
	y: number;
	/** Direction in which the line runs through; none at a corner. */
	tx?: number;
	ty?: number;
	corner: boolean;
	/** It stands already where it belongs. */
	fixed?: boolean;
}

/** Curves along a contour and the joints before each of them, not yet tied. */
export interface Plan {
	readonly line: ContourLine;
	readonly stretches: Stretch[];
	readonly joints: Joint[];
}

/** How far pixels blunt a corner to each side, px. */
const BLUNT_PX = 1.1;

export const bluntOf = (options: ContourFitOptions) =>
	options.stairs ? 0.8 : BLUNT_PX + 1.3 * options.blur + Math.min(1.2, 2 * options.noise);

export const NOTHING: Path = { closed: true, types: new Uint8Array(0), segs: new Float64Array(0) };

/** Puts the joints where they belong and draws everything between them. Yields now and then. */
export function* tie({ line, stretches, joints }: Plan, options: ContourFitOptions): Generator<void, Path> {
	dropSlivers(line, stretches, joints, bluntOf(options));
	sharpen(line, stretches, joints, options);
	squareEnds(line, stretches, joints, options);
	const m = stretches.length;
	if (m === 0) return NOTHING;
	const before = (k: number) => stretches[(k + m - 1) % m];
	// Which joints are corners?
	joints.forEach((joint, k) => {
		if (m === 1 && !joint.corner) return;
		const a = before(k).curve;
		const b = stretches[k].curve;
		if (joint.corner) return;
		const p = rayNear(a, joint.x, joint.y);
		const q = rayNear(b, joint.x, joint.y);
		const turn = Math.abs(Math.atan2(p.tx * q.ty - p.ty * q.tx, p.tx * q.tx + p.ty * q.ty));
		const least = leastTurn(options, joint.x, joint.y);
		joint.corner =
			(a.kind === 'line' && b.kind === 'line' && verdictAt(options, joint.x, joint.y) !== false) ||
			turn >= (least * Math.PI) / 180;
	});
	tangentArcs(line, stretches, joints, options);
	joints.forEach((joint, k) => placeJoint(line, joint, before(k), stretches[k], options));
	for (let k = 0; k < m && m > 1; k++) {
		const kinds = [before(k).curve.kind, stretches[k].curve.kind];
		if (joints[k].corner || !kinds.includes('cubic')) continue;
		yield;
		turnJoint(
			line,
			{ start: joints[(k + m - 1) % m], at: joints[k], end: joints[(k + 1) % m] },
			before(k),
			stretches[k],
			options
		);
	}
	const builder = new PathBuilder(joints[0].x, joints[0].y);
	for (const [k, stretch] of stretches.entries()) {
		if (k % 16 === 15) yield;
		for (const piece of drawn(line, stretch, joints[k], joints[(k + 1) % m], options, 0)) piece(builder);
	}
	return builder.close(1e-9);
}

/** A side no longer than what the pixels blunt is no side where its neighbours meet right there: it is their corner. */
function dropSlivers(line: ContourLine, stretches: Stretch[], joints: Joint[], blunt: number): void {
	for (let k = 0; k < stretches.length && stretches.length > 2; k++) {
		const m = stretches.length;
		const a = joints[k];
		const b = joints[(k + 1) % m];
		if (!a.corner || !b.corner || a.fixed || b.fixed) continue;
		const { from, to } = stretches[k];
		if (line.s[to] - line.s[from] > 2.2 * blunt) continue;
		const x = (line.x[from] + line.x[to]) / 2;
		const y = (line.y[from] + line.y[to]) / 2;
		const at = meetNear(stretches[(k + m - 1) % m].curve, stretches[(k + 1) % m].curve, x, y);
		if (!at || Math.hypot(at.x - x, at.y - y) > 1.3 * blunt) continue;
		Object.assign(b, at);
		stretches.splice(k, 1);
		joints.splice(k, 1);
		k--;
	}
}

/** A bend no wider than what blur makes of a corner is a corner, where its neighbours meet right before it. */
function sharpen(line: ContourLine, stretches: Stretch[], joints: Joint[], options: ContourFitOptions): void {
	if (options.blur < 0.5) return;
	for (let k = 0; k < stretches.length && stretches.length > 2; k++) {
		const m = stretches.length;
		const { curve, from, to } = stretches[k];
		if (curve.kind === 'line' || (joints[k].corner && joints[(k + 1) % m].corner)) continue;
		if (joints[k].fixed || joints[(k + 1) % m].fixed) continue;
		const reach = line.s[to] - line.s[from];
		if (reach > 2 + 6.5 * options.blur || (curve.kind === 'arc' && curve.r > 1.2 + 3 * options.blur))
			continue;
		const mid = (from + to) >> 1;
		const a = stretches[(k + m - 1) % m].curve;
		const b = stretches[(k + 1) % m].curve;
		const at = meetNear(a, b, line.x[mid], line.y[mid]);
		if (!at) continue;
		const p = rayNear(a, at.x, at.y);
		const q = rayNear(b, at.x, at.y);
		const half = Math.acos(Math.max(-1, Math.min(1, p.tx * q.tx + p.ty * q.ty))) / 2;
		if (half < (leastTurn(options, at.x, at.y) * Math.PI) / 360) continue;
		if (Math.hypot(at.x - line.x[mid], at.y - line.y[mid]) > cutOff(half, options)) continue;
		joints[(k + 1) % m] = { ...at, corner: true };
		stretches.splice(k, 1);
		joints.splice(k, 1);
		k--;
	}
}

const asCubic = (line: ContourLine, s: Stretch): CubicCurve =>
	fitTiedCubic(
		{ ...line, from: s.from, to: s.to },
		line.s,
		{ x: line.x[s.from], y: line.y[s.from] },
		{ x: line.x[s.to], y: line.y[s.to] }
	);

/**
 * Arcs that run smoothly into straights and arcs become tangent to them exactly; the longest arc first, to which the
 * others bend. Where that lies badly a free curve takes the arc's place.
 */
function tangentArcs(
	line: ContourLine,
	stretches: Stretch[],
	joints: Joint[],
	options: ContourFitOptions
): void {
	const m = stretches.length;
	if (m < 2) return;
	const limit = 1.3 * mostScatter(options);
	// What only passes for an arc within the tolerance does not tell directions well: it is a free curve.
	const exact = Math.hypot(0.2 * options.tolerance, 1.2 * options.noise);
	stretches.forEach((stretch, k) => {
		if (stretch.curve.kind !== 'arc' || (joints[k].corner && joints[(k + 1) % m].corner)) return;
		const points = { ...line, from: stretch.from, to: stretch.to };
		if (misfit(stretch.curve, points, options.noise).rms > exact) stretch.curve = asCubic(line, stretch);
	});
	const settled = new Set(stretches.filter((s) => s.curve.kind === 'line'));
	const arcs = stretches.map((_, k) => k).filter((k) => stretches[k].curve.kind === 'arc');
	arcs.sort((a, b) => length(line, stretches[b]) - length(line, stretches[a]));
	for (const k of arcs) {
		const stretch = stretches[k];
		const sides = [
			!joints[k].corner ? stretches[(k + m - 1) % m] : undefined,
			!joints[(k + 1) % m].corner ? stretches[(k + 1) % m] : undefined
		];
		const tangents = sides.flatMap((s) => (s && settled.has(s) ? [s.curve as LineCurve | ArcCurve] : []));
		if (tangents.length > 0) {
			const points = { ...line, from: stretch.from, to: stretch.to };
			const tied = tangentArc(stretch.curve as ArcCurve, tangents, points);
			if (!tied || misfit(tied, points, options.noise).rms > limit) {
				stretch.curve = asCubic(line, stretch);
				continue;
			}
			stretch.curve = tied;
		}
		settled.add(stretch);
	}
}

const length = (line: ContourLine, s: Stretch) => line.s[s.to] - line.s[s.from];

/**
 * The circle tangent to its neighbours that lies best; near `arc`.
 * Method: Gauss and Newton for centre and radius, tangency as equations of great weight.
 */
function tangentArc(
	arc: ArcCurve,
	tangents: readonly (LineCurve | ArcCurve)[],
	p: Points
): ArcCurve | undefined {
	const { turn } = arc;
	let { cx, cy, r } = arc;
	const step = Math.max(1, Math.floor((p.to - p.from) / 120));
	const system = new Float64Array(12);
	for (let round = 0; round < 12; round++) {
		system.fill(0);
		const equation = (gx: number, gy: number, gr: number, off: number, weight: number) => {
			addEquation(system, [gx, gy, gr], -off, weight);
		};
		let n = 0;
		for (let i = p.from; i <= p.to; i += step, n++) {
			const dx = p.x[i] - cx;
			const dy = p.y[i] - cy;
			const size = Math.hypot(dx, dy) || 1e-9;
			equation(-dx / size, -dy / size, -1, size - r, 1);
		}
		const weight = 1e7 * Math.max(1, n);
		for (const t of tangents) {
			if (t.kind === 'line') {
				const off = turn * ((cy - t.y) * t.tx - (cx - t.x) * t.ty) - r;
				equation(-turn * t.ty, turn * t.tx, -1, off, weight);
			} else {
				const dx = cx - t.cx;
				const dy = cy - t.cy;
				const size = Math.hypot(dx, dy) || 1e-9;
				if (t.turn !== turn) equation(dx / size, dy / size, -1, size - t.r - r, weight);
				else if (t.r > r) equation(dx / size, dy / size, 1, size - t.r + r, weight);
				else equation(dx / size, dy / size, -1, size - r + t.r, weight);
			}
		}
		for (let a = 0; a < 3; a++) system[5 * a] *= 1 + 1e-12;
		if (!eliminate(system, 3)) return undefined;
		const [mx, my, mr] = [system[3], system[7], system[11]];
		cx += mx;
		cy += my;
		r += mr;
		if (!(r > 0 && r < 1e6)) return undefined;
		if (Math.abs(mx) + Math.abs(my) + Math.abs(mr) < 1e-8) break;
	}
	return { kind: 'arc', cx, cy, r, turn };
}

function placeJoint(
	line: ContourLine,
	joint: Joint,
	a: Stretch,
	b: Stretch,
	options: ContourFitOptions
): void {
	if (joint.fixed) return;
	if (joint.corner) {
		Object.assign(joint, cornerBetween(line, joint, a, b, options));
		return;
	}
	Object.assign(joint, smoothJoint(line, joint, a, b));
}

/**
 * Where two curves prolonged meet, but no farther beyond the contour than pixels can have cut off a corner that sharp.
 */
function cornerBetween(
	line: ContourLine,
	joint: Joint,
	a: Stretch,
	b: Stretch,
	options: ContourFitOptions
): Point {
	const p = rayNear(a.curve, joint.x, joint.y);
	const q = rayNear(b.curve, joint.x, joint.y);
	const half = Math.acos(Math.max(-1, Math.min(1, p.tx * q.tx + p.ty * q.ty))) / 2;
	const most = cutOff(half, options);
	const at = meetNear(a.curve, b.curve, joint.x, joint.y) ?? joint;
	const tip = tipOf(line, a, b, at.x, at.y);
	const beyond = Math.hypot(at.x - tip.x, at.y - tip.y);
	if (beyond <= most) return { x: at.x, y: at.y };
	const k = most / beyond;
	return { x: tip.x + (at.x - tip.x) * k, y: tip.y + (at.y - tip.y) * k };
}

/** px: how far short of a corner with this half turn (radians) the contour may stop. */
function cutOff(half: number, options: ContourFitOptions): number {
	// A wedge is seen until it is about a pixel wide.
	const wedge = Math.tan(Math.min(half, 1.5));
	return (0.95 + 0.3 * wedge) * (1 + 0.7 * options.blur) + 2 * options.noise;
}

/** The point of the contour between two stretches that comes nearest to a place. */
function tipOf(line: ContourLine, a: Stretch, b: Stretch, x: number, y: number): Point {
	let best = { x: line.x[a.to], y: line.y[a.to] };
	let least = Infinity;
	const end = a.to + pointsBetween(line, a, b);
	for (let i = a.to; i <= end && i < line.x.length; i++) {
		const d = Math.hypot(line.x[i] - x, line.y[i] - y);
		if (d < least) {
			least = d;
			best = { x: line.x[i], y: line.y[i] };
		}
	}
	return best;
}

/**
 * The end of a thin stroke: its sides run back almost parallel, so they meet nowhere near. It is cut off square at the
 * tip of the contour: one more side.
 */
function squareEnds(
	line: ContourLine,
	stretches: Stretch[],
	joints: Joint[],
	options: ContourFitOptions
): void {
	for (let k = 0; k < stretches.length; k++) {
		const m = stretches.length;
		if (!joints[k].corner || joints[k].fixed || m < 2) continue;
		const a = stretches[(k + m - 1) % m];
		const b = stretches[k];
		const p = rayNear(a.curve, line.x[a.to], line.y[a.to]);
		const q = rayNear(b.curve, line.x[b.from], line.y[b.from]);
		if (p.tx * q.tx + p.ty * q.ty > -0.9) continue;
		const width = Math.abs((q.x - p.x) * p.ty - (q.y - p.y) * p.tx);
		if (width < 0.4 || width > 3.5 + 2.2 * options.blur) continue;
		// The farthest point along the stroke.
		let far = 0;
		const count = Math.max(1, Math.min(40, pointsBetween(line, a, b)));
		for (let i = a.to; i <= a.to + count; i++)
			far = Math.max(far, (line.x[i] - p.x) * p.tx + (line.y[i] - p.y) * p.ty);
		const ax = p.x + far * p.tx;
		const ay = p.y + far * p.ty;
		const bar: LineCurve = { kind: 'line', x: ax, y: ay, tx: p.ty, ty: -p.tx };
		const side = (q.x - p.x) * bar.tx + (q.y - p.y) * bar.ty > 0 ? 1 : -1;
		const turned: LineCurve = { ...bar, tx: side * bar.tx, ty: side * bar.ty };
		const at = { x: ax + side * width * bar.tx, y: ay + side * width * bar.ty };
		joints.splice(k, 1, { x: ax, y: ay, corner: true, fixed: true }, { ...at, corner: true, fixed: true });
		stretches.splice(k, 0, { curve: turned, from: a.to, to: a.to + 1 });
		k++;
	}
}

/**
 * Turns and shifts a smooth joint between two free curves to where both together lie best, or slides it along a straight
 * or an arc on one side, where a free curve would otherwise lie badly. Method: steps to and fro, halved each round.
 */
function turnJoint(
	line: ContourLine,
	{ start, at, end }: { start: Joint; at: Joint; end: Joint },
	a: Stretch,
	b: Stretch,
	options: ContourFitOptions
): void {
	const [pa, pb] = [a, b].map(({ from, to }) => ({ ...line, from, to }));
	const [tx, ty] = [at.tx!, at.ty!];
	const held = [a.curve, b.curve].find((c) => c.kind !== 'cubic');
	const placed = (angle: number, shift: number): End => {
		if (held) return rayNear(held, at.x + tx * shift, at.y + ty * shift);
		const [c, s] = [Math.cos(angle), Math.sin(angle)];
		return { x: at.x - ty * shift, y: at.y + tx * shift, tx: tx * c - ty * s, ty: ty * c + tx * s };
	};
	const judge = (angle: number, shift: number): { worst: number; error: number } => {
		const here = placed(angle, shift);
		const fits: [Points, CubicCurve][] = [];
		if (a.curve.kind === 'cubic') fits.push([pa, fitTiedCubic(pa, line.s, endOf(start), here, 60)]);
		if (b.curve.kind === 'cubic') fits.push([pb, fitTiedCubic(pb, line.s, here, endOf(end), 60)]);
		let worst = 0;
		let error = 0;
		for (const [p, curve] of fits) {
			const off = misfit(curve, p, options.noise);
			worst = Math.max(worst, off.worst);
			error += off.rms * off.rms * (p.to - p.from);
		}
		return { worst, error };
	};
	const first = judge(0, 0);
	if (first.worst < 0.8 * mostOff(options)) return;
	let least = first.error;
	const best = { angle: 0, shift: 0 };
	let turn = 0.06;
	let shift = held
		? Math.min(10, 0.2 * Math.min(length(line, a), length(line, b)))
		: 1.5 * options.tolerance + options.noise;
	for (let round = 0; round < 4; round++, turn /= 2, shift /= 2) {
		for (const [da, ds] of held
			? [
					[0, shift],
					[0, -shift]
				]
			: [
					[turn, 0],
					[-turn, 0],
					[0, shift],
					[0, -shift]
				]) {
			const { error } = judge(best.angle + da, best.shift + ds);
			if (error >= least) continue;
			least = error;
			best.angle += da;
			best.shift += ds;
		}
	}
	Object.assign(at, placed(best.angle, best.shift));
}

/** Where the line runs from one curve into the next, and in which direction: straights decide, then arcs. */
function smoothJoint(line: ContourLine, joint: Joint, a: Stretch, b: Stretch): Ray {
	const [ca, cb] = [a.curve, b.curve];
	if (ca.kind === 'line')
		return cb.kind === 'arc' ? rayNear(ca, cb.cx, cb.cy) : rayNear(ca, joint.x, joint.y);
	if (cb.kind === 'line')
		return ca.kind === 'arc' ? rayNear(cb, ca.cx, ca.cy) : rayNear(cb, joint.x, joint.y);
	if (ca.kind === 'arc' && cb.kind === 'arc') {
		// Tangent circles touch on the line through their centres.
		const [big, small] = ca.r > cb.r ? [ca, cb] : [cb, ca];
		return rayNear(big, small.cx, small.cy);
	}
	if (ca.kind === 'arc') return rayNear(ca, joint.x, joint.y);
	if (cb.kind === 'arc') return rayNear(cb, joint.x, joint.y);
	// A curve over the halves on both sides tells best how the line goes here.
	const whole = Math.min(length(line, a), length(line, b)) / 2;
	let from = a.to;
	let to = a.to;
	while (from > a.from && line.s[a.to] - line.s[from] < whole) from--;
	while (line.s[to] - line.s[a.to] < whole && to < a.to + (b.to - b.from)) to++;
	const over: Curve = to - from >= 7 ? fitFreeCubic({ ...line, from, to }, line.s) : a.curve;
	const [x, y] = [line.x[a.to], line.y[a.to]];
	const ray = rayNear(over, x, y);
	if (Math.hypot(ray.x - x, ray.y - y) < STRAY && Number.isFinite(ray.tx + ray.ty)) return ray;
	// No curve to be trusted: the point itself, in the direction of its neighbours.
	const [k, j] = [Math.max(a.from, a.to - 5), Math.min(line.x.length - 1, a.to + 5)];
	const size = Math.hypot(line.x[j] - line.x[k], line.y[j] - line.y[k]) || 1;
	return { x, y, tx: (line.x[j] - line.x[k]) / size, ty: (line.y[j] - line.y[k]) / size };
}

/** px: no smooth joint lies farther from the contour than this. */
const STRAY = 1.5;

/** What a curve that ends at a joint must keep. */
const endOf = (j: Joint): End => (j.corner ? { x: j.x, y: j.y } : { x: j.x, y: j.y, tx: j.tx, ty: j.ty });

type Draw = (builder: PathBuilder) => void;

/** What draws one stretch between its joints. A free curve that lies badly is halved. */
function drawn(
	line: ContourLine,
	stretch: Stretch,
	a: Joint,
	b: Joint,
	options: ContourFitOptions,
	depth: number
): Draw[] {
	const { curve, from, to } = stretch;
	if (curve.kind === 'line') return [(builder) => builder.line(b.x, b.y)];
	if (curve.kind === 'arc') {
		const arc = arcBetween(curve, a, b);
		if (arc) return [arc];
	}
	const points = { ...line, from, to };
	const tied = fitTiedCubic(points, line.s, endOf(a), endOf(b));
	if (depth < 3 && to - from >= 12 && misfit(tied, points, options.noise).worst > 1.1 * mostOff(options)) {
		const half = line.s[from] + length(line, stretch) / 2;
		let mid = from + 4;
		while (mid < to - 4 && line.s[mid] < half) mid++;
		const first: Stretch = { curve, from, to: mid };
		const second: Stretch = { curve, from: mid, to };
		const free = { kind: 'cubic', c: tied.c } as const;
		const joint: Joint = {
			corner: false,
			...smoothJoint(
				line,
				{ x: line.x[mid], y: line.y[mid], corner: false },
				{ ...first, curve: free },
				{ ...second, curve: free }
			)
		};
		return [
			...drawn(line, { ...first, curve: free }, a, joint, options, depth + 1),
			...drawn(line, { ...second, curve: free }, joint, b, options, depth + 1)
		];
	}
	const { c } = tied;
	return [(builder) => builder.cubic(c[2], c[3], c[4], c[5], b.x, b.y)];
}

/** An arc from joint to joint; nothing where they do not lie on it. */
function arcBetween(curve: ArcCurve, a: Joint, b: Joint): Draw | undefined {
	const near = (j: Joint) => Math.abs(Math.hypot(j.x - curve.cx, j.y - curve.cy) - curve.r) < 0.05;
	if (!near(a) || !near(b)) return undefined;
	const from = Math.atan2(a.y - curve.cy, a.x - curve.cx);
	const to = Math.atan2(b.y - curve.cy, b.x - curve.cx);
	let sweep = curve.turn * (to - from);
	while (sweep <= 1e-9) sweep += 2 * Math.PI;
	while (sweep > 2 * Math.PI) sweep -= 2 * Math.PI;
	if (sweep <= 1.1 * Math.PI) return (builder) => builder.arc(curve.turn * Math.tan(sweep / 4), b.x, b.y);
	const mid = from + (curve.turn * sweep) / 2;
	const bulge = curve.turn * Math.tan(sweep / 8);
	return (builder) =>
		builder
			.arc(bulge, curve.cx + curve.r * Math.cos(mid), curve.cy + curve.r * Math.sin(mid))
			.arc(bulge, b.x, b.y);
}
