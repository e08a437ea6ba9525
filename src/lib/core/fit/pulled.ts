/** B-splines pulled by a control polygon: open ones touch both ends, closed ones touch no vertex and are smooth all round. */
import { CoreError } from '../errors';
import type { Point } from '../geometry/point';
import { PathBuilder, type Path } from '../geometry/path';
import { leastVertices } from './least-vertices';
import { splinePoint, splineToPath, type Spline } from './spline';

/** A vertex of the polygon; its weight says how strongly it pulls, 1 where nothing is said. */
export interface Vertex extends Point {
	readonly weight?: number;
}

export interface Pulled {
	readonly vertices: readonly Vertex[];
	/** 1 to 7. */
	readonly degree: number;
	readonly closed: boolean;
	/** How much of time each span takes: vertices - degree of them, closed as many as vertices; all alike where nothing is said. */
	readonly spans?: readonly number[];
}

export const MOST_DEGREE = 7;

const spanCount = ({ vertices, degree, closed }: Pulled): number =>
	closed ? vertices.length : vertices.length - degree;
const spansOf = (pulled: Pulled): readonly number[] =>
	pulled.spans ?? new Array<number>(spanCount(pulled)).fill(1);

/** @throws CoreError `bad-degree`, `too-few`, `bad-weight` */
function refuse({ vertices, degree, closed }: Pulled): void {
	if (!(Number.isInteger(degree) && degree >= 1 && degree <= MOST_DEGREE))
		throw new CoreError('bad-degree', 'The degree is a whole number from 1 to 7.');
	const least = leastVertices(degree, closed);
	if (vertices.length < least)
		throw new CoreError('too-few', `A curve of degree ${degree} needs at least ${least} control points.`);
	if (vertices.some(({ weight = 1 }) => !(weight > 0)))
		throw new CoreError('bad-weight', 'A weight must be above 0.');
}

/** Knots and vertices written out; where closed, as many vertices again as the degree. @throws CoreError */
export function splineOf(pulled: Pulled): Spline {
	refuse(pulled);
	const { vertices, degree: p, closed } = pulled;
	const n = vertices.length;
	const spans = spansOf(pulled);
	const knots: number[] = [];
	if (closed) {
		let u = 0;
		for (let j = 0; j < p; j++) u -= spans[(((j - p) % n) + n) % n];
		for (let j = -p; j <= n + p; j++) {
			knots.push(u);
			u += spans[((j % n) + n) % n];
		}
	} else {
		let u = 0;
		knots.push(...new Array<number>(p).fill(0), 0);
		for (const span of spans) knots.push((u += span));
		knots.push(...new Array<number>(p).fill(u));
	}
	const points = closed ? Array.from({ length: n + p }, (_, i) => vertices[i % n]) : vertices;
	const weights = points.map(({ weight = 1 }) => weight);
	return { degree: p, knots, points, ...(weights.some((w) => w !== weights[0]) ? { weights } : {}) };
}

/** The line: exact up to degree 3 without weights, else within the tolerance, mm. @throws CoreError */
export function pulledPath(pulled: Pulled, tolerance: number): Path {
	const path = splineToPath(splineOf(pulled), tolerance);
	if (!path) throw new CoreError('too-few', 'These control points make no line.');
	return pulled.closed ? new PathBuilder(path.segs[0], path.segs[1]).along(path).close() : path;
}

/** Where time begins and ends. */
function rangeOf({ degree, knots, points }: Spline): [number, number] {
	return [knots[degree], knots[points.length]];
}

/** Looks a span is parted into to find a time. */
const LOOKS = 64;

/** The time at which the line is nearest to a place. @throws CoreError */
export function timeNearest(pulled: Pulled, x: number, y: number): number {
	const spline = splineOf(pulled);
	const [from, to] = rangeOf(spline);
	const off = (u: number) => {
		const p = splinePoint(spline, Math.min(to, Math.max(from, u)));
		return Math.hypot(p.x - x, p.y - y);
	};
	const looks = LOOKS * spanCount(pulled);
	let best = from;
	let least = Infinity;
	for (let k = 0; k <= looks; k++) {
		const u = from + ((to - from) * k) / looks;
		const d = off(u);
		if (d < least) [best, least] = [u, d];
	}
	// Golden section about the best look.
	let [a, b] = [best - (to - from) / looks, best + (to - from) / looks];
	const g = (Math.sqrt(5) - 1) / 2;
	for (let k = 0; k < 60; k++) {
		const [c, d] = [b - g * (b - a), a + g * (b - a)];
		if (off(c) < off(d)) b = d;
		else a = c;
	}
	return Math.min(to, Math.max(from, (a + b) / 2));
}

/** Times nearer to a knot than this share of the whole are that knot. */
const AT_KNOT = 1e-6;

/**
 * A vertex more, the line to the bit of rounding what it was; undefined where it would lie on a knot that is there.
 * @param u the time at which the new knot lies.
 * Source: Boehm 1980; Piegl and Tiller, The NURBS Book, 5.2.
 */
export function withKnot(pulled: Pulled, u: number): (Pulled & { readonly added: number }) | undefined {
	const spline = splineOf(pulled);
	const { degree: p, closed, vertices } = pulled;
	const { knots } = spline;
	const n = vertices.length;
	const [from, to] = rangeOf(spline);
	if (!(u > from && u < to)) return undefined;
	let k = p;
	while (k + 1 < knots.length && u >= knots[k + 1]) k++;
	const hair = AT_KNOT * (to - from);
	if (u - knots[k] < hair || knots[k + 1] - u < hair) return undefined;
	const at = (i: number): Vertex => vertices[closed ? ((i % n) + n) % n : i];
	const blended = (i: number): Vertex => {
		const a = (u - knots[i]) / (knots[i + p] - knots[i]);
		const [v, w] = [at(i - 1), at(i)];
		const [g, h] = [v.weight ?? 1, w.weight ?? 1];
		const weight = (1 - a) * g + a * h;
		const mix = (axis: 'x' | 'y') => ((1 - a) * g * v[axis] + a * h * w[axis]) / weight;
		return {
			x: mix('x'),
			y: mix('y'),
			...(v.weight === undefined && w.weight === undefined ? {} : { weight })
		};
	};
	const next: Vertex[] = [];
	let added: number;
	if (closed) {
		// From the first blended one on, once round; then turned so that vertex 0 is the first again.
		const row: Vertex[] = [];
		for (let i = k - p + 1; i <= k - p + n + 1; i++) row.push(i <= k ? blended(i) : at(i - 1));
		const begin = k - p + 1;
		for (let i = 0; i <= n; i++) next.push(row[(((i - begin) % (n + 1)) + n + 1) % (n + 1)]);
		added = (begin + Math.floor(p / 2)) % (n + 1);
	} else {
		for (let i = 0; i <= n; i++) next.push(i <= k - p ? at(i) : i <= k ? blended(i) : at(i - 1));
		added = k - p + 1 + Math.floor((p - 1) / 2);
	}
	const spans = [...spansOf(pulled)];
	const j = k - p;
	spans.splice(j, 1, u - knots[k], knots[k + 1] - u);
	return { ...pulled, vertices: next, spans, added };
}

/** The basis functions that are not 0 at a time: the first one's index, and degree + 1 values that sum to 1. Source: The NURBS Book, A2.2. */
export function basisAt(
	knots: readonly number[],
	degree: number,
	count: number,
	u: number
): { first: number; values: number[] } {
	let k = degree;
	while (k < count - 1 && u >= knots[k + 1]) k++;
	const values = [1];
	for (let r = 1; r <= degree; r++) {
		let saved = 0;
		for (let j = 0; j < r; j++) {
			const right = knots[k + j + 1] - u;
			const left = u - knots[k + 1 - r + j];
			const share = right + left > 0 ? values[j] / (right + left) : 0;
			values[j] = saved + right * share;
			saved = left * share;
		}
		values.push(saved);
	}
	return { first: k - degree, values };
}

/**
 * The polygon whose line lies nearest to places at given times, by least squares; open ones touch the first place and the last.
 * @param shape degree, whether closed, spans and how many vertices.
 * @param places one for each time.
 */
export function pulledNear(
	shape: Omit<Pulled, 'vertices'> & { readonly count: number },
	times: readonly number[],
	places: readonly Point[]
): Pulled {
	const { count: n, degree, closed } = shape;
	const blank: Pulled = { ...shape, vertices: Array.from({ length: n }, (_, i) => ({ x: i, y: 0 })) };
	const { knots, points } = splineOf(blank);
	const a = Array.from({ length: n }, () => new Float64Array(n));
	const bx = new Float64Array(n);
	const by = new Float64Array(n);
	const last = times.length - 1;
	times.forEach((u, k) => {
		// Ends of an open one are held firmly.
		const weight = !closed && (k === 0 || k === last) ? 1e8 : 1;
		const { first, values } = basisAt(knots, degree, points.length, u);
		values.forEach((v, i) => {
			const row = (first + i) % n;
			bx[row] += weight * v * places[k].x;
			by[row] += weight * v * places[k].y;
			values.forEach((w, j) => (a[row][(first + j) % n] += weight * v * w));
		});
	});
	const [x, y] = solveBoth(a, bx, by);
	const { count: _, ...rest } = shape;
	return { ...rest, vertices: Array.from(x, (v, i) => ({ x: v, y: y[i] })) };
}

/** Gauss with the largest pivot, for two right sides. A row that says nothing leaves 0. */
function solveBoth(a: Float64Array[], bx: Float64Array, by: Float64Array): [Float64Array, Float64Array] {
	const n = bx.length;
	for (let c = 0; c < n; c++) {
		let best = c;
		for (let r = c + 1; r < n; r++) if (Math.abs(a[r][c]) > Math.abs(a[best][c])) best = r;
		[a[c], a[best]] = [a[best], a[c]];
		[bx[c], bx[best]] = [bx[best], bx[c]];
		[by[c], by[best]] = [by[best], by[c]];
		if (Math.abs(a[c][c]) < 1e-14) continue;
		for (let r = 0; r < n; r++) {
			if (r === c) continue;
			const f = a[r][c] / a[c][c];
			if (f === 0) continue;
			for (let k = c; k < n; k++) a[r][k] -= f * a[c][k];
			bx[r] -= f * bx[c];
			by[r] -= f * by[c];
		}
	}
	for (let c = 0; c < n; c++) {
		const d = Math.abs(a[c][c]) < 1e-14 ? Infinity : a[c][c];
		bx[c] /= d;
		by[c] /= d;
	}
	return [bx, by];
}

/** Places that a span is looked at to fit another polygon to it. */
const PER_SPAN = 16;

/** The same line by another degree, as near as as many vertices get (more where the degree needs them). @throws CoreError */
export function withDegree(pulled: Pulled, degree: number): Pulled {
	const count = Math.max(pulled.vertices.length, leastVertices(degree, pulled.closed));
	return degree === pulled.degree ? pulled : nearAs(pulled, degree, count);
}

/** The same line by another number of vertices, as near as so many get. @throws CoreError */
export const withCount = (pulled: Pulled, count: number): Pulled =>
	count === pulled.vertices.length
		? pulled
		: nearAs(pulled, pulled.degree, Math.max(count, leastVertices(pulled.degree, pulled.closed)));

/** The line nearest to another of so many vertices and that degree, by least squares at even times. */
function nearAs(pulled: Pulled, degree: number, count: number): Pulled {
	const { closed } = pulled;
	const spline = splineOf(pulled);
	const [from, to] = rangeOf(spline);
	const spans = closed ? count : count - degree;
	const total = PER_SPAN * count;
	const times: number[] = [];
	const places: Point[] = [];
	for (let k = 0; k < total + (closed ? 0 : 1); k++) {
		times.push((spans * k) / total);
		places.push(splinePoint(spline, from + ((to - from) * k) / total));
	}
	return pulledNear({ degree, closed, count }, times, places);
}
