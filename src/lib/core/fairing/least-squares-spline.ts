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

/** The samples at even lengths, in mm. */
function lengthsOf(samples: EvenSamples): { s: Float64Array; length: number } {
	const n = samples.x.length;
	const s = Float64Array.from({ length: n }, (_, i) => i * samples.step);
	return { s, length: samples.closed ? n * samples.step : (n - 1) * samples.step };
}

/**
 * @param least mm: no span is shorter.
 * @param strength more takes fewer spans.
 */
export function splineThrough(samples: EvenSamples, least: number, strength: number): FittedSpline {
	const { length } = lengthsOf(samples);
	const most = Math.max(2, Math.floor(length / least));
	let count = Math.min(most, samples.closed ? 6 : 2);
	const even = (k: number) => Float64Array.from({ length: k + 1 }, (_, i) => (length * i) / k);
	let best = solveSpline(samples, even(count));
	let settled = 0;
	const worth = 1 + (WORTH - 1) * strength;
	let now = best;
	while (count < most && settled < 3) {
		const next = Math.min(most, Math.max(count + 1, Math.round(count * GROWTH)));
		const finer = solveSpline(samples, even(next));
		if (now.rms * now.rms > worth * finer.rms * finer.rms + 1e-18) {
			best = finer;
			settled = 0;
		} else settled++;
		now = finer;
		count = next;
	}
	return halved(samples, best, least, strength);
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

/** Source: The NURBS Book, A2.2 and the derivative of 2.3. */
function basisAt(breaks: Float64Array, closed: boolean, span: number, u: number): void {
	const left = [0, 0, 0, 0];
	const right = [0, 0, 0, 0];
	const low = [0, 0, 0];
	basis[0] = 1;
	for (let j = 1; j <= 3; j++) {
		if (j === 3) low.splice(0, 3, basis[0], basis[1], basis[2]);
		left[j] = u - knot(breaks, closed, span + 1 - j);
		right[j] = knot(breaks, closed, span + j) - u;
		let saved = 0;
		for (let r = 0; r < j; r++) {
			const w = right[r + 1] + left[j - r];
			const t = w > 0 ? basis[r] / w : 0;
			basis[r] = saved + right[r + 1] * t;
			saved = left[j - r] * t;
		}
		basis[j] = saved;
	}
	for (let r = 0; r <= 3; r++) {
		// From the quadratics: 3 (N(r-1) / their width - N(r) / their width).
		const a = r > 0 ? knot(breaks, closed, span + r) - knot(breaks, closed, span + r - 3) : 0;
		const b = r < 3 ? knot(breaks, closed, span + r + 1) - knot(breaks, closed, span + r - 2) : 0;
		slopes[r] = 3 * ((a > 0 ? low[r - 1] / a : 0) - (b > 0 ? low[r] / b : 0));
	}
}

/** Least squares over given breakpoints; an open line goes through its first and last sample. */
export function solveSpline(samples: EvenSamples, breaks: Float64Array): FittedSpline {
	const { closed, x, y } = samples;
	const spans = breaks.length - 1;
	const count = closed ? spans : spans + 3;
	const { s } = lengthsOf(samples);
	const n = x.length;
	const a = new Float64Array(count * count);
	const fx = new Float64Array(count);
	const fy = new Float64Array(count);
	const index = (span: number, r: number) => (closed ? (span + r) % count : span + r);
	let span = 0;
	for (let i = 0; i < n; i++) {
		while (span < spans - 1 && s[i] >= breaks[span + 1]) span++;
		basisAt(breaks, closed, span, s[i]);
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
		while (span < spans - 1 && s[i] >= breaks[span + 1]) span++;
		const at = placeAt(breaks, closed, control, span, s[i]);
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

/** In place, for two right-hand sides; only entries near the diagonal and in the corners are not zero. */
function choleskySolve(a: Float64Array, n: number, fx: Float64Array, fy: Float64Array): void {
	const first = new Int32Array(n);
	for (let r = 0; r < n; r++) {
		let c = 0;
		while (c < r && a[r * n + c] === 0) c++;
		first[r] = c;
	}
	for (let r = 0; r < n; r++) {
		for (let c = first[r]; c <= r; c++) {
			let v = a[r * n + c];
			for (let k = Math.max(first[r], first[c]); k < c; k++) v -= a[r * n + k] * a[c * n + k];
			a[r * n + c] = r === c ? Math.sqrt(Math.max(v, 1e-300)) : v / a[c * n + c];
		}
	}
	for (const f of [fx, fy]) {
		for (let r = 0; r < n; r++) {
			let v = f[r];
			for (let k = first[r]; k < r; k++) v -= a[r * n + k] * f[k];
			f[r] = v / a[r * n + r];
		}
		for (let r = n - 1; r >= 0; r--) {
			f[r] /= a[r * n + r];
			for (let k = first[r]; k < r; k++) f[k] -= a[r * n + k] * f[r];
		}
	}
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
	return closed ? builder.close(1e-6) : builder.open();
}

/** Places on the spline at the lengths of the samples. */
export function splineAtSamples(spline: FittedSpline, samples: EvenSamples): EvenSamples {
	const { s } = lengthsOf(samples);
	const n = s.length;
	const x = new Float64Array(n);
	const y = new Float64Array(n);
	let span = 0;
	const spans = spline.breaks.length - 1;
	for (let i = 0; i < n; i++) {
		while (span < spans - 1 && s[i] >= spline.breaks[span + 1]) span++;
		const p = placeAt(spline.breaks, spline.closed, spline.control, span, s[i]);
		x[i] = p.x;
		y[i] = p.y;
	}
	return { ...samples, x, y };
}
