/**
 * The cubic B-spline nearest to samples (least squares), with as many spans as they call for and no more.
 *
 * Few spans cannot follow scatter, and being curvature-continuous they do not wobble; least squares balance what lies
 * outside and inside, so that nothing shrinks. The number of spans grows until more of them hardly bring the line nearer
 * to the samples; spans that lie worse than the others are halved.
 *
 * Source: Piegl and Tiller, The NURBS Book, 2.2 (basis functions) and 9.4.1 (least squares).
 */
import { PathBuilder, type Path } from '../geometry/path';
import { choleskySolve } from '../linear/cholesky';
import type { EvenSamples } from './even-samples';

export interface FittedSpline {
	/** Breakpoints in lengths along the samples, mm; of a closed line the last stands for the first. */
	readonly breaks: Float64Array;
	/** Control points, x,y pairs. */
	readonly control: Float64Array;
	readonly closed: boolean;
	/** mm, root mean square of the distances of the samples, across the line. */
	readonly rms: number;
	/** The same for each span. */
	readonly spanRms: Float64Array;
}

/** Steps by which the number of spans grows, and by how much the mean square must fall to ask for more. */
const GROWTH = 1.3;
const WORTH = 1.05;

/** mm along the samples. */
const lengthOf = ({ x, closed, step }: EvenSamples) => (closed ? x.length : x.length - 1) * step;

/**
 * @param least mm: no span is shorter.
 * @param strength more takes fewer spans.
 */
export function splineThrough(samples: EvenSamples, least: number, strength: number): FittedSpline {
	const length = lengthOf(samples);
	const most = Math.max(2, Math.floor(length / least));
	let count = Math.min(most, samples.closed ? 6 : 2);
	const even = (k: number) => Float64Array.from({ length: k + 1 }, (_, i) => (length * i) / k);
	const thin = thinner(samples);
	let best = solveSpline(thin(count), even(count));
	let settled = 0;
	const worth = 1 + (WORTH - 1) * strength;
	let now = best;
	while (count < most && settled < 3) {
		const next = Math.min(most, Math.max(count + 1, Math.round(count * GROWTH)));
		const finer = solveSpline(thin(next), even(next));
		if (now.rms * now.rms > worth * finer.rms * finer.rms + 1e-18) {
			best = finer;
			settled = 0;
		} else settled++;
		now = finer;
		count = next;
	}
	return halved(thin(2 * (best.breaks.length - 1)), best, least, strength);
}

/** So many samples a span tell as much as more of them. */
const ENOUGH = 48;
const LEAST_SAMPLES = 4000;

/** Gives the samples, or means of so many neighbours of them that there are still enough for a number of spans. */
function thinner(samples: EvenSamples): (spans: number) => EvenSamples {
	const n = samples.x.length;
	const made = new Map<number, EvenSamples>([[1, samples]]);
	return (spans) => {
		let group = 1;
		while (n / (2 * group) >= Math.max(LEAST_SAMPLES, ENOUGH * spans)) group *= 2;
		let thin = made.get(group);
		if (!thin) made.set(group, (thin = meansOf(samples, group)));
		return thin;
	};
}

/** Means of groups of neighbours; an open line keeps its ends. */
function meansOf({ x, y, closed, step }: EvenSamples, group: number): EvenSamples {
	const n = x.length;
	const count = Math.floor(n / group);
	const mean = (v: Float64Array) => {
		const out = new Float64Array(count);
		for (let k = 0; k < count; k++) {
			// The groups are spread over the whole line, so that none of it is left out.
			const from = Math.floor((k * n) / count);
			const to = Math.floor(((k + 1) * n) / count);
			let sum = 0;
			for (let i = from; i < to; i++) sum += v[i];
			out[k] = sum / (to - from);
		}
		if (!closed) {
			out[0] = v[0];
			out[count - 1] = v[n - 1];
		}
		return out;
	};
	return {
		x: mean(x),
		y: mean(y),
		closed,
		step: closed ? (step * n) / count : (step * (n - 1)) / (count - 1)
	};
}

/** Spans that lie worse than the others, halved where that helps. */
function halved(samples: EvenSamples, spline: FittedSpline, least: number, strength: number): FittedSpline {
	let now = spline;
	for (let round = 0; round < 6; round++) {
		const usual = Float64Array.from(now.spanRms).sort()[now.spanRms.length >> 1];
		const breaks: number[] = [];
		let split = 0;
		for (let k = 0; k < now.spanRms.length; k++) {
			breaks.push(now.breaks[k]);
			const size = now.breaks[k + 1] - now.breaks[k];
			if (size < 2 * least || now.spanRms[k] < usual * (1 + 0.6 * strength)) continue;
			breaks.push(now.breaks[k] + size / 2);
			split++;
		}
		breaks.push(now.breaks[now.breaks.length - 1]);
		if (split === 0) break;
		const finer = solveSpline(samples, Float64Array.from(breaks));
		if (!(finer.rms < now.rms / Math.sqrt(1 + 0.004 * split * strength))) break;
		now = finer;
	}
	return now;
}

/** The four basis functions of a span and, beside them, their slopes. */
const basis = new Float64Array(4);
const slopes = new Float64Array(4);

/** Knot i of the spline over the breakpoints: three more on either side, wrapped round or standing on the end. */
function knot(breaks: Float64Array, closed: boolean, i: number): number {
	const spans = breaks.length - 1;
	if (i >= 0 && i <= spans) return breaks[i];
	if (!closed) return i < 0 ? breaks[0] : breaks[spans];
	const length = breaks[spans] - breaks[0];
	return i < 0 ? breaks[i + spans] - length : breaks[i - spans] + length;
}

/** Knots span - 2 to span + 3, those that the functions of a span depend on. */
const near = new Float64Array(6);
let nearOf: Float64Array | undefined;
let nearSpan = -1;

/** Source: The NURBS Book, A2.2 and the derivative of 2.3, written out for cubics. */
function basisAt(breaks: Float64Array, closed: boolean, span: number, u: number): void {
	if (nearOf !== breaks || nearSpan !== span) {
		for (let j = 0; j < 6; j++) near[j] = knot(breaks, closed, span - 2 + j);
		nearOf = breaks;
		nearSpan = span;
	}
	const [k0, k1, k2, k3, k4, k5] = near;
	const over = (top: number, width: number) => (width > 0 ? top / width : 0);
	// Linear, quadratic, cubic, each from the one before.
	const l = over(k3 - u, k3 - k2);
	const r = over(u - k2, k3 - k2);
	const a1 = over(l, k3 - k1);
	const b1 = over(r, k4 - k2);
	const q0 = (k3 - u) * a1;
	const q1 = (u - k1) * a1 + (k4 - u) * b1;
	const q2 = (u - k2) * b1;
	const a2 = over(q0, k3 - k0);
	const b2 = over(q1, k4 - k1);
	const c2 = over(q2, k5 - k2);
	basis[0] = (k3 - u) * a2;
	basis[1] = (u - k0) * a2 + (k4 - u) * b2;
	basis[2] = (u - k1) * b2 + (k5 - u) * c2;
	basis[3] = (u - k2) * c2;
	slopes[0] = -3 * a2;
	slopes[1] = 3 * (a2 - b2);
	slopes[2] = 3 * (b2 - c2);
	slopes[3] = 3 * c2;
}

/** Least squares over given breakpoints; an open line goes through its first and last sample. */
export function solveSpline(samples: EvenSamples, breaks: Float64Array): FittedSpline {
	const { closed, x, y, step } = samples;
	const spans = breaks.length - 1;
	const count = closed ? spans : spans + 3;
	const n = x.length;
	const a = new Float64Array(count * count);
	const fx = new Float64Array(count);
	const fy = new Float64Array(count);
	const index = (span: number, r: number) => (closed ? (span + r) % count : span + r);
	let span = 0;
	for (let i = 0; i < n; i++) {
		while (span < spans - 1 && i * step >= breaks[span + 1]) span++;
		basisAt(breaks, closed, span, i * step);
		const weight = !closed && (i === 0 || i === n - 1) ? 1e4 * n : 1;
		for (let r = 0; r < 4; r++) {
			const p = index(span, r);
			const w = weight * basis[r];
			fx[p] += w * x[i];
			fy[p] += w * y[i];
			for (let q = 0; q < 4; q++) a[p * count + index(span, q)] += w * basis[q];
		}
	}
	// A hair of stiffness where a span holds too few samples to tell.
	for (let p = 0; p < count; p++) a[p * count + p] *= 1 + 1e-9;
	choleskySolve(a, count, fx, fy);
	const control = new Float64Array(2 * count);
	for (let p = 0; p < count; p++) {
		control[2 * p] = fx[p];
		control[2 * p + 1] = fy[p];
	}
	const sums = new Float64Array(spans);
	const counts = new Float64Array(spans);
	span = 0;
	for (let i = 0; i < n; i++) {
		while (span < spans - 1 && i * step >= breaks[span + 1]) span++;
		const at = placeAt(breaks, closed, control, span, i * step);
		const size = Math.hypot(at.dx, at.dy) || 1;
		const off = ((x[i] - at.x) * at.dy - (y[i] - at.y) * at.dx) / size;
		sums[span] += off * off;
		counts[span]++;
	}
	const total = sums.reduce((p, q) => p + q, 0);
	return {
		breaks,
		control,
		closed,
		rms: Math.sqrt(total / n),
		spanRms: sums.map((v, k) => Math.sqrt(v / Math.max(1, counts[k])))
	};
}

function placeAt(breaks: Float64Array, closed: boolean, control: Float64Array, span: number, u: number) {
	basisAt(breaks, closed, span, u);
	const count = control.length / 2;
	let x = 0;
	let y = 0;
	let dx = 0;
	let dy = 0;
	for (let r = 0; r < 4; r++) {
		const p = 2 * (closed ? (span + r) % count : span + r);
		x += basis[r] * control[p];
		y += basis[r] * control[p + 1];
		dx += slopes[r] * control[p];
		dy += slopes[r] * control[p + 1];
	}
	return { x, y, dx, dy };
}

/** The spline as cubics, one a span: exact. */
export function splineAsPath({ breaks, control, closed }: FittedSpline): Path {
	const spans = breaks.length - 1;
	const start = placeAt(breaks, closed, control, 0, breaks[0]);
	const builder = new PathBuilder(start.x, start.y);
	let a = start;
	for (let k = 0; k < spans; k++) {
		const third = (breaks[k + 1] - breaks[k]) / 3;
		const b = placeAt(breaks, closed, control, k, breaks[k + 1]);
		builder.cubic(a.x + third * a.dx, a.y + third * a.dy, b.x - third * b.dx, b.y - third * b.dy, b.x, b.y);
		a = b;
	}
	return closed ? builder.close() : builder.open();
}

/** Places on the spline at the lengths of the samples. */
export function splineAtSamples(spline: FittedSpline, samples: EvenSamples): EvenSamples {
	const n = samples.x.length;
	const { step } = samples;
	const x = new Float64Array(n);
	const y = new Float64Array(n);
	let span = 0;
	const spans = spline.breaks.length - 1;
	for (let i = 0; i < n; i++) {
		while (span < spans - 1 && i * step >= spline.breaks[span + 1]) span++;
		const p = placeAt(spline.breaks, spline.closed, spline.control, span, i * step);
		x[i] = p.x;
		y[i] = p.y;
	}
	return { ...samples, x, y };
}
