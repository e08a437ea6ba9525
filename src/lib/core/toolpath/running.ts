/** A line by the length along it: places, stretches over the seam of a closed one, and how nearly straight it is. */
import { STRIDE, type Path } from '../geometry/path';
import type { Point } from '../geometry/point';
import { directionAt, parameterAtLength, pointAt, segmentLength } from '../geometry/segment';
import { nearestOnPath } from '../geometry/pick';
import { stretchBetween } from '../geometry/join';

export class Running {
	/** mm before each segment; the whole length last. */
	private readonly before: Float64Array;
	readonly length: number;

	constructor(readonly path: Path) {
		const n = path.types.length;
		this.before = new Float64Array(n + 1);
		for (let i = 0; i < n; i++)
			this.before[i + 1] = this.before[i] + segmentLength(path.types[i], path.segs, STRIDE * i);
		this.length = this.before[n];
	}

	/** Into 0..length on a closed line; held at the ends of an open one. */
	private wrapped(s: number): number {
		if (!this.path.closed) return Math.min(this.length, Math.max(0, s));
		const rest = s % this.length;
		return rest < 0 ? rest + this.length : rest;
	}

	/** A length along it as segment + t; over the seam it goes on counting. */
	parameter(s: number): number {
		const n = this.path.types.length;
		if (n === 0) return 0;
		const own = this.wrapped(s);
		const turns = this.path.closed ? Math.round((s - own) / this.length) : 0;
		let lo = 0;
		let hi = n - 1;
		while (lo < hi) {
			const mid = (lo + hi + 1) >> 1;
			if (this.before[mid] <= own) lo = mid;
			else hi = mid - 1;
		}
		const t = parameterAtLength(this.path.types[lo], this.path.segs, STRIDE * lo, own - this.before[lo]);
		return turns * n + lo + t;
	}

	/** The length before a place given as segment + t. */
	lengthTo(parameter: number): number {
		const n = this.path.types.length;
		const i = Math.min(n - 1, Math.floor(parameter));
		return this.before[i] + segmentLength(this.path.types[i], this.path.segs, STRIDE * i, 0, parameter - i);
	}

	/** The place and the direction there, a unit vector. */
	at(s: number): Point & { readonly dx: number; readonly dy: number } {
		const n = this.path.types.length;
		const k = this.parameter(this.wrapped(s));
		const i = Math.min(n - 1, Math.floor(k));
		const p = pointAt(this.path.types[i], this.path.segs, STRIDE * i, k - i);
		const d = directionAt(this.path.types[i], this.path.segs, STRIDE * i, k - i);
		return { x: p.x, y: p.y, dx: d.x, dy: d.y };
	}

	/** The open part from one length to another, from < to. */
	part(from: number, to: number): Path {
		const n = this.path.types.length;
		let a = this.parameter(from);
		let b = this.parameter(to);
		const shift = Math.floor(a / n) * n;
		a -= shift;
		b -= shift;
		return stretchBetween(this.path, a, b);
	}

	/** How much the direction turns between two lengths, radians, all bends added up. */
	turning(from: number, to: number, step = 1): number {
		let sum = 0;
		let last = this.at(from);
		const parts = Math.max(2, Math.ceil((to - from) / step));
		for (let k = 1; k <= parts; k++) {
			const here = this.at(from + ((to - from) * k) / parts);
			sum += Math.abs(
				Math.atan2(last.dx * here.dy - last.dy * here.dx, last.dx * here.dx + last.dy * here.dy)
			);
			last = here;
		}
		return sum;
	}

	/** The length at which it comes nearest to a place. */
	nearest(x: number, y: number): number {
		for (let reach = 1; ; reach *= 8) {
			const near = nearestOnPath(this.path, x, y, reach);
			if (near) return this.lengthTo(near.segment + near.t);
			if (reach > 1e6) return 0;
		}
	}
}
