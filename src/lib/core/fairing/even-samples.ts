/** Places evenly along a line, each the mean of the stretch around it. */
import { ARC, CUBIC, STRIDE, type Path } from '../geometry/path';
import { evenParameters, pointAt, segmentLength } from '../geometry/segment';

export interface EvenSamples {
	readonly x: Float64Array;
	readonly y: Float64Array;
	readonly closed: boolean;
	/** mm along the line between them. */
	readonly step: number;
}

/** @param step mm, about; an open line keeps its two ends as they are. */
export function samplePath(path: Path, length: number, step: number): EvenSamples {
	const count = Math.max(12, Math.round(length / step));
	const even = length / count;
	const bins = new Bins(count, even);
	const { types, segs } = path;
	let s = 0;
	for (let i = 0; i < types.length; i++) {
		const at = STRIDE * i;
		const type = types[i];
		if (type !== CUBIC && type !== ARC) {
			const size = Math.hypot(segs[at + 6] - segs[at], segs[at + 7] - segs[at + 1]);
			bins.straight(segs[at], segs[at + 1], segs[at + 6], segs[at + 7], s, size);
			s += size;
			continue;
		}
		const size = segmentLength(type, segs, at);
		const parts = Math.max(1, Math.ceil((3 * size) / even));
		const places = evenParameters(type, segs, at, parts);
		let px = segs[at];
		let py = segs[at + 1];
		for (let k = 1; k <= parts; k++) {
			const p = pointAt(type, segs, at, places[k]);
			bins.straight(px, py, p.x, p.y, s + (size * (k - 1)) / parts, size / parts);
			px = p.x;
			py = p.y;
		}
		s += size;
	}
	return bins.samples(path.closed, path.closed ? undefined : segs);
}

/** The samples again, evenly along another line through them that is better smoothed. */
export function resample(samples: EvenSamples, along: EvenSamples, step: number): EvenSamples {
	const n = samples.x.length;
	const { closed } = samples;
	const s = new Float64Array(n + 1);
	for (let i = 1; i <= n; i++) {
		const a = (i - 1) % n;
		const b = i % n;
		s[i] = s[i - 1] + (closed || i < n ? Math.hypot(along.x[b] - along.x[a], along.y[b] - along.y[a]) : 0);
	}
	const length = s[n];
	const count = Math.max(12, Math.round(length / step));
	const bins = new Bins(count, length / count);
	for (let i = 0; i < (closed ? n : n - 1); i++) {
		const j = (i + 1) % n;
		bins.straight(samples.x[i], samples.y[i], samples.x[j], samples.y[j], s[i], s[i + 1] - s[i]);
	}
	const last = n - 1;
	return bins.samples(
		closed,
		closed ? undefined : [samples.x[0], samples.y[0], samples.x[last], samples.y[last]]
	);
}

/** Means of a line over even stretches of its length. */
class Bins {
	private readonly sumX: Float64Array;
	private readonly sumY: Float64Array;
	private readonly weight: Float64Array;

	constructor(
		private readonly count: number,
		private readonly step: number
	) {
		this.sumX = new Float64Array(count);
		this.sumY = new Float64Array(count);
		this.weight = new Float64Array(count);
	}

	/** A straight from (x0, y0) to (x1, y1) that takes the lengths from s on. */
	straight(x0: number, y0: number, x1: number, y1: number, s: number, size: number): void {
		if (!(size > 0)) return;
		const { step, count } = this;
		let from = 0;
		while (from < size) {
			const bin = Math.min(count - 1, Math.floor((s + from) / step + 1e-12));
			const to =
				bin === count - 1 ? size : Math.min(size, Math.max(from + 1e-12 * size, (bin + 1) * step - s));
			const mid = (from + to) / (2 * size);
			const w = to - from;
			this.sumX[bin] += w * (x0 + (x1 - x0) * mid);
			this.sumY[bin] += w * (y0 + (y1 - y0) * mid);
			this.weight[bin] += w;
			from = to;
		}
	}

	/** @param ends of an open line: x, y of the first place; x, y of the last in the last two. */
	samples(closed: boolean, ends: ArrayLike<number> | undefined): EvenSamples {
		const x: number[] = [];
		const y: number[] = [];
		if (ends) {
			x.push(ends[0]);
			y.push(ends[1]);
		}
		for (let b = 0; b < this.count; b++) {
			if (!(this.weight[b] > 0)) continue;
			x.push(this.sumX[b] / this.weight[b]);
			y.push(this.sumY[b] / this.weight[b]);
		}
		if (ends) {
			x.push(ends[ends.length - 2]);
			y.push(ends[ends.length - 1]);
		}
		return { x: Float64Array.from(x), y: Float64Array.from(y), closed, step: this.step };
	}
}
