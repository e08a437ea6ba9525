/** B-splines to cubics. */
import type { Point } from '../geometry/point';
import { PathBuilder, type Path } from '../geometry/path';
import { fitFunction } from './function';

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
	const k = spanAt(knots, p, n, u);
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

/** The last of the knots p..n that is not beyond u. */
function spanAt(knots: readonly number[], p: number, n: number, u: number): number {
	let lo = p;
	let hi = n;
	while (lo < hi) {
		const mid = (lo + hi + 1) >> 1;
		if (u >= knots[mid]) lo = mid;
		else hi = mid - 1;
	}
	return lo;
}

/**
 * The spline as straights, cubics and arcs: exact up to degree 3 without weights, and where its weights make an arc of a
 * circle (the polar form of every span at its two knots), otherwise fitted within the tolerance, mm.
 * Source: Ramshaw 1989 (blossoms; de Boor's recursion with an argument for each step); The NURBS Book, 7.3 (arcs).
 */
export function splineToPath(spline: Spline, tolerance: number): Path | undefined {
	const { degree: p, points } = spline;
	const n = points.length;
	if (!(p >= 1) || n < p + 1 || spline.knots.length < n + p + 1) return undefined;
	const { knots } = spline;
	if (knots.some((u, i) => !Number.isFinite(u) || (i > 0 && u < knots[i - 1]))) return undefined;
	const weights = spline.weights ?? points.map(() => 1);
	if (weights.some((w) => !(w > 0))) return undefined;
	if (p > 3) return fitSpline(spline, tolerance);
	const { spans, inner } = bezierSpans(spline, weights);
	if (spans.length === 0) return undefined;
	const builder = new PathBuilder(spans[0][0].x / spans[0][0].w, spans[0][0].y / spans[0][0].w);
	let last: Turned | undefined;
	for (const [i, span] of spans.entries()) {
		const plain = span.map(({ x, y, w }) => ({ x: x / w, y: y / w }));
		const even = span.every(({ w }) => Math.abs(w - span[0].w) < 1e-12 * span[0].w);
		if (even) {
			addPlain(builder, p, plain);
			last = undefined;
			continue;
		}
		const sweep = arcSweep(span, plain);
		if (sweep === undefined) {
			builder.along(fitSpan(span, plain, tolerance));
			last = undefined;
			continue;
		}
		last = addArc(builder, plain, sweep, Number.isInteger(inner[i]) ? undefined : last);
	}
	return builder.open();
}

/** A control point times its weight, and the weight. */
interface Weighted extends Point {
	readonly w: number;
}

/** The Bézier spans of a spline, and the knots between them (the first where the first span begins). */
function bezierSpans(spline: Spline, weights: readonly number[]): { spans: Weighted[][]; inner: number[] } {
	const { degree: p, points, knots } = spline;
	const control = points.map((q, i) => ({ x: q.x * weights[i], y: q.y * weights[i], w: weights[i] }));
	const n = points.length - 1;
	const lo = knots[p];
	const hi = knots[n + 1];
	const inner = [...new Set(knots)].filter((u) => u >= lo && u <= hi);
	const spans: Weighted[][] = [];
	for (let s = 0; s + 1 < inner.length; s++) {
		const k = spanAt(knots, p, n, inner[s]);
		const span: Weighted[] = [];
		for (let j = 0; j <= p; j++) span.push(polar(p, knots, control, k, inner[s], inner[s + 1], j));
		spans.push(span);
	}
	return { spans, inner };
}

/** The polar form of span k with the argument `to` so many times and `from` the others: a Bézier point of it. */
function polar(
	p: number,
	knots: readonly number[],
	control: readonly Weighted[],
	k: number,
	from: number,
	to: number,
	times: number
): Weighted {
	const d = Array.from({ length: p + 1 }, (_, j) => control[k - p + j]);
	for (let r = 1; r <= p; r++) {
		const u = r <= times ? to : from;
		for (let j = p; j >= r; j--) {
			const i = k - p + j;
			const span = knots[i + p - r + 1] - knots[i];
			const a = span > 0 ? (u - knots[i]) / span : 0;
			d[j] = {
				x: (1 - a) * d[j - 1].x + a * d[j].x,
				y: (1 - a) * d[j - 1].y + a * d[j].y,
				w: (1 - a) * d[j - 1].w + a * d[j].w
			};
		}
	}
	return d[p];
}

function addPlain(builder: PathBuilder, p: number, q: readonly Point[]): void {
	if (p === 1) builder.line(q[1].x, q[1].y);
	else if (p === 2)
		builder.cubic(
			q[0].x + (2 * (q[1].x - q[0].x)) / 3,
			q[0].y + (2 * (q[1].y - q[0].y)) / 3,
			q[2].x + (2 * (q[1].x - q[2].x)) / 3,
			q[2].y + (2 * (q[1].y - q[2].y)) / 3,
			q[2].x,
			q[2].y
		);
	else if (isThirds(q)) builder.line(q[3].x, q[3].y);
	else builder.cubic(q[1].x, q[1].y, q[2].x, q[2].y, q[3].x, q[3].y);
}

/** Share of the chord. Within this the control points of a rational span are those of an arc. */
const ARC_SHARE = 1e-7;

/** How far a rational span turns where it is an arc of a circle, radians, positive anticlockwise; undefined where it is none. */
function arcSweep(span: readonly Weighted[], q: readonly Point[]): number | undefined {
	const p = span.length - 1;
	const [from, to] = [q[0], q[p]];
	const [w0, w1] = [span[0].w, span[p].w];
	if (p < 2 || Math.abs(w0 - w1) > ARC_SHARE * w0) return undefined;
	// The shoulder of the quadratic arc; a cubic one is that with its degree raised.
	let cos: number;
	let shoulder: Point;
	if (p === 2) {
		cos = span[1].w / w0;
		shoulder = q[1];
	} else {
		if (Math.abs(span[1].w - span[2].w) > ARC_SHARE * w0) return undefined;
		cos = (3 * (span[1].w / w0) - 1) / 2;
		if (!(cos > 0)) return undefined;
		const out = (a: Point, b: Point) => ({
			x: ((1 + 2 * cos) * b.x - a.x) / (2 * cos),
			y: ((1 + 2 * cos) * b.y - a.y) / (2 * cos)
		});
		shoulder = out(from, q[1]);
		const other = out(to, q[2]);
		const chord = Math.hypot(to.x - from.x, to.y - from.y);
		if (Math.hypot(other.x - shoulder.x, other.y - shoulder.y) > ARC_SHARE * chord) return undefined;
	}
	if (!(cos > 0 && cos < 1)) return undefined;
	const chord = { x: to.x - from.x, y: to.y - from.y };
	const size = Math.hypot(chord.x, chord.y);
	const up = { x: shoulder.x - (from.x + to.x) / 2, y: shoulder.y - (from.y + to.y) / 2 };
	if (Math.abs(up.x * chord.x + up.y * chord.y) > ARC_SHARE * size * size) return undefined;
	// Tangents meet at the shoulder, half the sweep off the chord.
	const half = Math.atan2(Math.hypot(up.x, up.y), size / 2);
	if (Math.abs(Math.cos(half) - cos) > ARC_SHARE * 10) return undefined;
	return chord.x * up.y - chord.y * up.x > 0 ? -2 * half : 2 * half;
}

/** An arc that was added, where it began. */
interface Turned {
	readonly from: Point;
	readonly sweep: number;
}

/**
 * Adds an arc; where it goes on from one of the same turn that is no anchor of its own, the two become one.
 * @param before the arc that ends here, where the knot between is none between segments.
 */
function addArc(
	builder: PathBuilder,
	q: readonly Point[],
	sweep: number,
	before: Turned | undefined
): Turned {
	const to = q[q.length - 1];
	const whole = before && before.sweep * sweep > 0 ? before.sweep + sweep : undefined;
	if (whole !== undefined && Math.abs(whole) < 1.99 * Math.PI) {
		builder.takeBack();
		builder.arc(Math.tan(whole / 4), to.x, to.y);
		return { from: before!.from, sweep: whole };
	}
	builder.arc(Math.tan(sweep / 4), to.x, to.y);
	return { from: q[0], sweep };
}

/** A rational span that is no arc, fitted. */
function fitSpan(span: readonly Weighted[], q: readonly Point[], tolerance: number): Path {
	const p = span.length - 1;
	const knots = [...Array<number>(p + 1).fill(0), ...Array<number>(p + 1).fill(1)];
	return fitSpline({ degree: p, knots, points: q, weights: span.map((c) => c.w) }, tolerance);
}

type XY = Point;

/** A cubic whose handles lie on the thirds of its chord is a straight. */
function isThirds(q: readonly XY[]): boolean {
	const size = Math.hypot(q[3].x - q[0].x, q[3].y - q[0].y);
	const off = (h: XY, k: number) =>
		Math.hypot(h.x - q[0].x - (q[3].x - q[0].x) * k, h.y - q[0].y - (q[3].y - q[0].y) * k);
	return size > 0 && off(q[1], 1 / 3) + off(q[2], 2 / 3) < 1e-8 * size;
}

/** Between knots at which the line may turn sharply, each stretch as few cubics within the tolerance, mm. */
function fitSpline(spline: Spline, tolerance: number): Path {
	const { degree: p, knots, points } = spline;
	const lo = knots[p];
	const hi = knots[points.length];
	const times = new Map<number, number>();
	for (const u of knots) times.set(u, (times.get(u) ?? 0) + 1);
	const sharp = [...times].flatMap(([u, count]) => (u > lo && u < hi && count >= p ? [u] : []));
	const start = splinePoint(spline, lo);
	const builder = new PathBuilder(start.x, start.y);
	let from = lo;
	for (const to of [...sharp, hi]) {
		// A knot belongs to the stretch behind it; the last place of a stretch is taken just before it.
		const end = to - 1e-13 * (hi - lo);
		builder.along(fitFunction((u) => splinePoint(spline, Math.min(u, end)), from, to, tolerance));
		from = to;
	}
	return builder.open();
}
