/**
 * How long a toolpath takes: each move speeds up and slows down evenly, with what the machine may keep of its speed around the
 * joints; looked ahead, so that it can always stop in time.
 * Source: time of a trapezoidal move, s/v + v/a where it reaches its speed, else 2 sqrt(s/a) (check-values: closed form).
 */
import { arcShape } from '../geometry/arc';
import { FEED, moveLength, moveStart, type Toolpath } from './moves';

export interface Pace {
	/** mm/min of rapids. */
	readonly rapid: number;
	/** mm/s2 */
	readonly acceleration: number;
}

/** mm: how far a joint may be rounded in keeping speed; what controllers do by default (common practice). */
const ROUNDED = 0.01;

/** Seconds from rest to rest over a length, mm, at most at a speed, mm/s. */
export function trapezoidalTime(length: number, speed: number, acceleration: number): number {
	return moveTime(length, 0, 0, speed, acceleration);
}

/** Seconds over a length from one speed to another, at most at `speed`. */
function moveTime(length: number, v0: number, v1: number, speed: number, a: number): number {
	if (length <= 0) return 0;
	// The speed at which it would turn from faster to slower.
	const peak = Math.sqrt(a * length + (v0 * v0 + v1 * v1) / 2);
	if (peak <= speed) return (2 * peak - v0 - v1) / a;
	const up = (speed * speed - v0 * v0) / (2 * a);
	const down = (speed * speed - v1 * v1) / (2 * a);
	return (2 * speed - v0 - v1) / a + (length - up - down) / speed;
}

/** Seconds of each move. */
export function moveTimes(path: Toolpath, { rapid, acceleration }: Pace): Float64Array {
	const n = path.kinds.length;
	const length = new Float64Array(n);
	const speed = new Float64Array(n);
	/** The speed at the start of each. */
	const joint = new Float64Array(n + 1);
	const dirs = new Float64Array(6 * n);
	for (let i = 0; i < n; i++) {
		length[i] = moveLength(path, i);
		speed[i] = (path.kinds[i] === FEED ? path.feeds[i] : rapid) / 60;
		directions(path, i, dirs, 6 * i);
		const b = path.bulges[i];
		if (b !== 0) {
			const [x, y] = moveStart(path, i, scratch);
			const { radius } = arcShape(x, y, path.to[3 * i], path.to[3 * i + 1], b);
			speed[i] = Math.min(speed[i], Math.sqrt(acceleration * radius));
		}
	}
	for (let i = 1; i < n; i++) {
		if (path.on[i] !== path.on[i - 1] || path.kinds[i] !== path.kinds[i - 1]) continue;
		let dot = 0;
		for (let k = 0; k < 3; k++) dot += dirs[6 * (i - 1) + 3 + k] * dirs[6 * i + k];
		const most = Math.min(speed[i - 1], speed[i]);
		if (dot > 0.999999) joint[i] = most;
		else if (dot > -0.999) {
			// Half the angle between where it comes from and where it goes.
			const sin = Math.sqrt((1 + dot) / 2);
			joint[i] = Math.min(most, Math.sqrt((acceleration * ROUNDED * sin) / Math.max(1e-12, 1 - sin)));
		}
	}
	for (let i = n - 1; i >= 0; i--)
		joint[i] = Math.min(joint[i], Math.sqrt(joint[i + 1] ** 2 + 2 * acceleration * length[i]));
	const times = new Float64Array(n);
	for (let i = 0; i < n; i++) {
		joint[i + 1] = Math.min(joint[i + 1], Math.sqrt(joint[i] ** 2 + 2 * acceleration * length[i]));
		times[i] = moveTime(length[i], joint[i], joint[i + 1], speed[i], acceleration);
	}
	return times;
}

const scratch = [0, 0, 0];

/** Unit directions at the start and the end of a move. */
function directions(path: Toolpath, i: number, out: Float64Array, at: number): void {
	const [x, y, z] = moveStart(path, i, scratch);
	const [dx, dy, dz] = [path.to[3 * i] - x, path.to[3 * i + 1] - y, path.to[3 * i + 2] - z];
	const chord = Math.hypot(dx, dy);
	const half = 2 * Math.atan(path.bulges[i]);
	const plane = half === 0 ? chord : (chord * half) / Math.sin(half);
	const whole = Math.hypot(plane, dz) || 1;
	for (const [k, turn] of [
		[0, -half],
		[3, half]
	]) {
		const [c, s] = [Math.cos(turn), Math.sin(turn)];
		const size = chord > 0 ? plane / chord / whole : 0;
		out[at + k] = (dx * c - dy * s) * size;
		out[at + k + 1] = (dx * s + dy * c) * size;
		out[at + k + 2] = dz / whole;
	}
}
