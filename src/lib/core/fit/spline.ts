/** B-splines to cubics. */
import type { Point } from '../geometry/point';
import { PathBuilder, type Path } from '../geometry/path';
import { fitTrail, makeTrail } from './fit';

/** A B-spline: degree, knots (control points + degree + 1 of them), control points x,y, weights where rational. */
export interface Spline {
	readonly degree: number;
	readonly knots: readonly number[];
	readonly points: readonly Point[];
	readonly weights?: readonly number[];
}

/**
 * The place at parameter u, by de Boor's recursion.
 * Source: Piegl and Tiller, The NURBS Book, 2.4 and 4.1.
 */
export function splinePoint(spline: Spline, u: number): Point {
	const { degree: p, knots, points, weights } = spline;
	const n = points.length - 1;
	let k = p;
	while (k < n && u >= knots[k + 1]) k++;
	const d: [number, number, number][] = [];
	for (let j = 0; j <= p; j++) {
		const i = k - p + j;
		const w = weights?.[i] ?? 1;
		d.push([points[i].x * w, points[i].y * w, w]);
	}
	for (let r = 1; r <= p; r++) {
		for (let j = p; j >= r; j--) {
			const i = k - p + j;
			const span = knots[i + p - r + 1] - knots[i];
			const a = span > 0 ? (u - knots[i]) / span : 0;
			for (let c = 0; c < 3; c++) d[j][c] = (1 - a) * d[j - 1][c] + a * d[j][c];
		}
	}
	return { x: d[p][0] / d[p][2], y: d[p][1] / d[p][2] };
}

/**
 * The spline as straights and cubics: exact up to degree 3 without weights (knot insertion until every knot is as
 * often there as the degree), otherwise fitted within the tolerance, mm.
 * Source: Piegl and Tiller, The NURBS Book, 5.3 (decomposition into Bézier segments).
 */
export function splineToPath(spline: Spline, tolerance: number): Path | undefined {
	const { degree: p, points, weights } = spline;
	const n = points.length;
	if (!(p >= 1) || n < p + 1 || spline.knots.length < n + p + 1) return undefined;
	const even = !weights || weights.every((w) => Math.abs(w - weights[0]) < 1e-12);
	if (p > 3 || !even) return fitSpline(spline, tolerance);
	let knots = [...spline.knots];
	let control = points.map((q) => ({ ...q }));
	const lo = knots[p];
	const hi = knots[n];
	const inner = [...new Set(knots)].filter((u) => u >= lo && u <= hi);
	for (const u of inner) {
		for (;;) {
			const have = knots.filter((v) => v === u).length;
			if (have >= p) break;
			({ knots, control } = insertKnot(p, knots, control, u));
		}
	}
	// Control points between the first knot of full multiplicity and the last are Bézier points, sharing ends.
	const first = knots.indexOf(lo);
	const start = Math.max(0, first + knots.filter((v) => v === lo).length - 1 - p);
	let builder: PathBuilder | undefined;
	let at = start;
	for (let s = 0; s + 1 < inner.length; s++) {
		const q = control.slice(at, at + p + 1);
		if (q.length < p + 1) break;
		builder ??= new PathBuilder(q[0].x, q[0].y);
		if (p === 1) builder.line(q[1].x, q[1].y);
		else if (p === 2) {
			builder.cubic(
				q[0].x + (2 * (q[1].x - q[0].x)) / 3,
				q[0].y + (2 * (q[1].y - q[0].y)) / 3,
				q[2].x + (2 * (q[1].x - q[2].x)) / 3,
				q[2].y + (2 * (q[1].y - q[2].y)) / 3,
				q[2].x,
				q[2].y
			);
		} else if (isThirds(q)) builder.line(q[3].x, q[3].y);
		else builder.cubic(q[1].x, q[1].y, q[2].x, q[2].y, q[3].x, q[3].y);
		at += p;
	}
	return builder?.open();
}

type XY = Point;

/** A cubic whose handles lie on the thirds of its chord is a straight. */
function isThirds(q: readonly XY[]): boolean {
	const size = Math.hypot(q[3].x - q[0].x, q[3].y - q[0].y);
	const off = (h: XY, k: number) =>
		Math.hypot(h.x - q[0].x - (q[3].x - q[0].x) * k, h.y - q[0].y - (q[3].y - q[0].y) * k);
	return size > 0 && off(q[1], 1 / 3) + off(q[2], 2 / 3) < 1e-8 * size;
}

/** Boehm's knot insertion: the curve stays, the control points become one more. */
function insertKnot(p: number, knots: readonly number[], control: readonly XY[], u: number) {
	let k = 0;
	while (k + 1 < knots.length && knots[k + 1] <= u) k++;
	const next: XY[] = [];
	for (let i = 0; i <= control.length; i++) {
		if (i <= k - p) next.push(control[i]);
		else if (i > k || i >= control.length) next.push(control[i - 1]);
		else {
			const span = knots[i + p] - knots[i];
			const a = span > 0 ? (u - knots[i]) / span : 0;
			next.push({
				x: (1 - a) * control[i - 1].x + a * control[i].x,
				y: (1 - a) * control[i - 1].y + a * control[i].y
			});
		}
	}
	return { knots: [...knots.slice(0, k + 1), u, ...knots.slice(k + 1)], control: next };
}

function fitSpline(spline: Spline, tolerance: number): Path {
	const { degree: p, knots, points } = spline;
	const lo = knots[p];
	const hi = knots[points.length];
	const steps = Math.min(4000, 64 * points.length);
	const flat: number[] = [];
	for (let i = 0; i <= steps; i++) {
		const q = splinePoint(spline, lo + ((hi - lo) * i) / steps);
		flat.push(q.x, q.y);
	}
	return fitTrail(makeTrail(flat, false), { tolerance, corners: [], leastStraight: Infinity });
}
