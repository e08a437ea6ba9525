/** Lines made ready to be asked again and again where they are nearest, and how they go as their places go. */
import { arcShape } from '../../geometry/arc';
import { ARC, CUBIC, STRIDE } from '../../geometry/path';
import { courseOf, endsOf, type Course, type End, type Net } from './net';

/** Numbers of a segment made ready: of a cubic its polynomials, of an arc its circle, of a straight its start and way. */
const READY = 8;

export class Line {
	private readonly ready: Float64Array;
	readonly course: Course;
	private ends?: Map<number, End[]>;
	/** Where on a segment what was looked for last is nearest. */
	found = 0;
	/** Segment, place and direction of where the line was asked to go last. */
	k = 0;
	t = 0;
	x = 0;
	y = 0;
	dx = 1;
	dy = 0;

	constructor(readonly net: Net) {
		const { types, segs } = net;
		this.course = courseOf(net);
		this.ready = new Float64Array(READY * types.length);
		for (let k = 0; k < types.length; k++) {
			const at = STRIDE * k;
			const out = READY * k;
			if (types[k] === ARC) {
				const c = arcShape(segs[at], segs[at + 1], segs[at + 6], segs[at + 7], segs[at + 2]);
				this.ready.set([c.cx, c.cy, c.radius, c.startRad, c.sweepRad], out);
			} else
				for (const axis of [0, 1]) {
					const [p, a, b, q] = [0, 2, 4, 6].map((i) => segs[at + i + axis]);
					const way =
						types[k] === CUBIC ? [p, 3 * (a - p), 3 * (b - 2 * a + p), q - 3 * b + 3 * a - p] : [p, q - p];
					this.ready.set(way, out + 4 * axis);
				}
		}
	}

	/** The ends at a junction. */
	endsAt(junction: number): readonly End[] {
		this.ends ??= endsOf(this.course);
		return this.ends.get(junction) ?? [];
	}

	/** px: how far a place lies from segment k, looked for from t; where that is on it is told by `found`. */
	nearest(k: number, from: number, x: number, y: number): number {
		const type = this.net.types[k];
		const c = this.ready;
		const at = READY * k;
		let t = from;
		if (type === ARC) {
			const [ox, oy] = [x - c[at], y - c[at + 1]];
			const sweep = c[at + 4];
			let along = (Math.atan2(oy, ox) - c[at + 3]) * Math.sign(sweep);
			along -= 2 * Math.PI * Math.floor(along / (2 * Math.PI));
			const whole = Math.abs(sweep);
			t = along / whole;
			if (t <= 1) {
				this.found = t;
				return Math.abs(Math.sqrt(ox * ox + oy * oy) - c[at + 2]);
			}
			// Beyond both ends the nearer one.
			t = along - whole < 2 * Math.PI - along ? 1 : 0;
			this.found = t;
			const { segs } = this.net;
			const end = STRIDE * k + 6 * t;
			return Math.hypot(segs[end] - x, segs[end + 1] - y);
		}
		if (type === CUBIC) {
			for (let round = 0; round < 4; round++) {
				const ox = ((c[at + 3] * t + c[at + 2]) * t + c[at + 1]) * t + c[at] - x;
				const oy = ((c[at + 7] * t + c[at + 6]) * t + c[at + 5]) * t + c[at + 4] - y;
				const ux = (3 * c[at + 3] * t + 2 * c[at + 2]) * t + c[at + 1];
				const uy = (3 * c[at + 7] * t + 2 * c[at + 6]) * t + c[at + 5];
				const slope = ux * ux + uy * uy;
				const bend = ox * (6 * c[at + 3] * t + 2 * c[at + 2]) + oy * (6 * c[at + 7] * t + 2 * c[at + 6]);
				const step = (ox * ux + oy * uy) / Math.max(slope + bend, 0.3 * slope, 1e-12);
				const next = t - step < 0 ? 0 : t - step > 1 ? 1 : t - step;
				const isThere = Math.abs(next - t) < 1e-6;
				t = next;
				if (isThere) break;
			}
		} else {
			const ux = c[at + 1];
			const uy = c[at + 5];
			t = ((x - c[at]) * ux + (y - c[at + 4]) * uy) / (ux * ux + uy * uy);
			t = t < 0 ? 0 : t > 1 ? 1 : t;
		}
		this.found = t;
		// The rest of a straight's numbers are 0.
		const ox = ((c[at + 3] * t + c[at + 2]) * t + c[at + 1]) * t + c[at] - x;
		const oy = ((c[at + 7] * t + c[at + 6]) * t + c[at + 5]) * t + c[at + 4] - y;
		return Math.sqrt(ox * ox + oy * oy);
	}

	/** To place t of segment k. */
	go(k: number, t: number): void {
		const type = this.net.types[k];
		const c = this.ready;
		const at = READY * k;
		this.k = k;
		this.t = t;
		if (type === ARC) {
			const angle = c[at + 3] + c[at + 4] * t;
			const [ux, uy] = [Math.cos(angle), Math.sin(angle)];
			this.x = c[at] + c[at + 2] * ux;
			this.y = c[at + 1] + c[at + 2] * uy;
			this.dx = c[at + 4] > 0 ? -uy : uy;
			this.dy = c[at + 4] > 0 ? ux : -ux;
			return;
		}
		// The rest of a straight's numbers are 0.
		this.x = ((c[at + 3] * t + c[at + 2]) * t + c[at + 1]) * t + c[at];
		this.y = ((c[at + 7] * t + c[at + 6]) * t + c[at + 5]) * t + c[at + 4];
		let ux = (3 * c[at + 3] * t + 2 * c[at + 2]) * t + c[at + 1];
		let uy = (3 * c[at + 7] * t + 2 * c[at + 6]) * t + c[at + 5];
		let length = Math.hypot(ux, uy);
		if (length < 1e-9) {
			// A handle on its anchor: the direction is that a little further in.
			const near = t < 0.5 ? t + 1e-3 : t - 1e-3;
			ux = (3 * c[at + 3] * near + 2 * c[at + 2]) * near + c[at + 1];
			uy = (3 * c[at + 7] * near + 2 * c[at + 6]) * near + c[at + 5];
			length = Math.hypot(ux, uy) || 1;
		}
		this.dx = ux / length;
		this.dy = uy / length;
	}

	/**
	 * How far the line goes along a normal, where it was asked for last, as the places of its segment go.
	 * @param out x,y of each place's vector are written here.
	 */
	moves(nx: number, ny: number, out: Float64Array): void {
		const { k, t } = this;
		const type = this.net.types[k];
		const u = 1 - t;
		if (type === ARC) {
			// A circle goes outward by a constant and a sine of its angle, which its three places give.
			const c = this.ready;
			const at = READY * k;
			const angle = c[at + 3] + c[at + 4] * t;
			const sign = nx * Math.cos(angle) + ny * Math.sin(angle) >= 0 ? 1 : -1;
			for (let i = 0; i < 3; i++) {
				const [own, a, b] = [this.angleOf(k, i), this.angleOf(k, i + 1), this.angleOf(k, i + 2)];
				const share =
					(sign * Math.sin((angle - a) / 2) * Math.sin((angle - b) / 2)) /
					(Math.sin((own - a) / 2) * Math.sin((own - b) / 2));
				out[2 * i] = share * Math.cos(own);
				out[2 * i + 1] = share * Math.sin(own);
			}
			return;
		}
		if (type === CUBIC) {
			out[0] = u * u * u;
			out[2] = 3 * u * u * t;
			out[4] = 3 * u * t * t;
			out[6] = t * t * t;
		} else {
			out[0] = u;
			out[2] = t;
		}
		for (let i = 0; i < (type === CUBIC ? 8 : 4); i += 2) {
			out[i + 1] = out[i] * ny;
			out[i] *= nx;
		}
	}

	/** Radians: where on the circle of segment k, an arc, its places stand, gone round again and again. */
	private angleOf(k: number, place: number): number {
		const at = READY * k;
		return this.ready[at + 3] + (this.ready[at + 4] * (place % 3)) / 2;
	}

	/** Radians to the left by which the direction at an end of segment k turns as its places go; written to `out` from `from` on. */
	turns(k: number, end: 0 | 1, sign: number, out: Float64Array, from: number): void {
		const { types, segs } = this.net;
		const c = this.ready;
		const at = READY * k;
		this.go(k, end);
		const { dx, dy } = this;
		if (types[k] === ARC) {
			const angle = c[at + 3] + c[at + 4] * end;
			for (let i = 0; i < 3; i++) {
				const [own, a, b] = [this.angleOf(k, i), this.angleOf(k, i + 1), this.angleOf(k, i + 2)];
				const slope = Math.sin(angle - (a + b) / 2) / (2 * Math.sin((own - a) / 2) * Math.sin((own - b) / 2));
				const along = i === 2 * end ? Math.sign(c[at + 4]) : 0;
				out[from + 2 * i] = (sign * (along * dx - slope * Math.cos(own))) / c[at + 2];
				out[from + 2 * i + 1] = (sign * (along * dy - slope * Math.sin(own))) / c[at + 2];
			}
			return;
		}
		// The next place on turns it by what it goes to the side, at the length that is between them.
		const count = types[k] === CUBIC ? 4 : 2;
		const stride = types[k] === CUBIC ? 2 : 6;
		const [near, far] = end ? [count - 1, count - 2] : [0, 1];
		const place = (i: number, axis: 0 | 1) => segs[STRIDE * k + stride * i + axis];
		const length = Math.hypot(place(far, 0) - place(near, 0), place(far, 1) - place(near, 1)) || 1;
		const by = (end ? -sign : sign) / length;
		out.fill(0, from, from + 2 * count);
		out[from + 2 * far] = -by * dy;
		out[from + 2 * far + 1] = by * dx;
		out[from + 2 * near] = by * dy;
		out[from + 2 * near + 1] = -by * dx;
	}
}
