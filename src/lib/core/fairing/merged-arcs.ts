/** Curves of a line that follow one circle drawn as one arc. */
import { circleOf } from '../geometry/arc';
import { turnAt } from '../geometry/measure';
import { PathBuilder, STRAIGHT, STRIDE, type Path } from '../geometry/path';
import { pointAt } from '../geometry/segment';

/** Radians: an arc is no longer than this. */
const MOST_SWEEP = 5.6;
/** Places looked at on each curve. */
const PLACES = 8;

/**
 * Runs of curves that lie within the tolerance of one circle and run on smoothly become one true arc each; everything else
 * stays as it is, to the last bit.
 */
export function mergedArcs(path: Path, tolerance: number): Path {
	const n = path.types.length;
	if (n < 2) return path;
	const isCurve = (i: number) => path.types[i % n] !== STRAIGHT;
	const runsOn = (i: number) => isCurve(i) && isCurve(i + n - 1) && Math.abs(turnAt(path, i % n)) < 1;
	let begin = 0;
	if (path.closed) while (begin < n && runsOn(begin)) begin++;
	// All round of curves: the start stands where it stood.
	if (begin === n) begin = 0;
	const builder = new PathBuilder(path.segs[STRIDE * begin], path.segs[STRIDE * begin + 1]);
	for (let k = 0; k < n;) {
		const i = (begin + k) % n;
		let best: { count: number; bulge: number } | undefined;
		if (isCurve(i)) {
			for (let count = 1; k + count <= n; count++) {
				if (count > 1 && !runsOn((i + count - 1) % n)) break;
				const bulge = arcOver(path, i, count, tolerance);
				if (bulge === undefined) break;
				best = { count, bulge };
			}
		}
		if (best && best.count > 1) {
			const e = STRIDE * ((i + best.count - 1) % n) + 6;
			builder.arc(best.bulge, path.segs[e], path.segs[e + 1]);
			k += best.count;
		} else {
			builder.segment(path.types[i], path.segs, STRIDE * i);
			k++;
		}
	}
	return path.closed ? builder.close() : builder.open();
}

/** The bulge of the arc that serves for `count` curves from `first` on; undefined where none does. */
function arcOver(path: Path, first: number, count: number, tolerance: number): number | undefined {
	const n = path.types.length;
	const x: number[] = [];
	const y: number[] = [];
	for (let k = 0; k < count; k++) {
		const i = (first + k) % n;
		for (let t = k === 0 ? 0 : 1; t <= PLACES; t++) {
			const p = pointAt(path.types[i], path.segs, STRIDE * i, t / PLACES);
			x.push(p.x);
			y.push(p.y);
		}
	}
	const m = x.length - 1;
	const q = m >> 1;
	const spot = (i: number) => ({ x: x[i], y: y[i] });
	const circle = circleOf(spot(0), spot(q), spot(m));
	if (!circle) return undefined;
	const { x: cx, y: cy, radius } = circle;
	let sweep = 0;
	let sense = 0;
	for (let i = 0; i <= m; i++) {
		if (Math.abs(Math.hypot(x[i] - cx, y[i] - cy) - radius) > 0.9 * tolerance) return undefined;
		if (i === 0) continue;
		const [ux, uy, vx, vy] = [x[i - 1] - cx, y[i - 1] - cy, x[i] - cx, y[i] - cy];
		const step = Math.atan2(ux * vy - uy * vx, ux * vx + uy * vy);
		if (sense * step < 0) return undefined;
		sense ||= Math.sign(step);
		sweep += step;
	}
	return Math.abs(sweep) < MOST_SWEEP ? Math.tan(sweep / 4) : undefined;
}
