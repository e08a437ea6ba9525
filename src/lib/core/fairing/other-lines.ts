/** A line made anew of other kinds: rebuilt from few control points, through all its anchors, of straights, of arcs. */
import { CoreError } from '../errors';
import { flattenPath, EdgeTree } from '../geometry/edge-tree';
import { pulledBy, throughPoints } from '../fit/given-curves';
import { pathLength, turnAt } from '../geometry/measure';
import { PathBuilder, polygonPath, STRIDE, type Path } from '../geometry/path';
import { segmentLength } from '../geometry/segment';
import { choleskySolve } from '../linear/cholesky';
import { samplePath } from './even-samples';

/** Samples for each control point. */
const EACH = 24;

/**
 * The line rebuilt from `count` control points of a degree, spread by curvature: more of them where it bends. Degree 1
 * gives straight pieces.
 *
 * Method: least squares of a uniform B-spline over a parameter that runs faster where the line bends.
 * @param degree 1 to 7.
 * @throws CoreError `bad-degree`, `too-few`
 */
export function rebuilt(path: Path, count: number, degree: number): Path {
	if (!(Number.isInteger(degree) && degree >= 1 && degree <= 7))
		throw new CoreError('bad-degree', 'The degree is a whole number from 1 to 7.');
	const least = path.closed ? Math.max(3, degree + 1) : degree + 1;
	if (!(Number.isInteger(count) && count >= Math.max(2, least)))
		throw new CoreError(
			'too-few',
			`A line of degree ${degree} needs at least ${Math.max(2, least)} control points.`
		);
	if (count > 400) throw new CoreError('too-many', 'At most 400 control points: more is no simplification.');
	const length = pathLength(path);
	const { x, y, closed } = samplePath(path, length, length / (EACH * count));
	const n = x.length;
	const at = parameterByBend(x, y, closed);
	// Spans of the uniform spline; of a closed one as many as control points.
	const spans = closed ? count : count - degree;
	const a = new Float64Array(count * count);
	const fx = new Float64Array(count);
	const fy = new Float64Array(count);
	for (let i = 0; i < n; i++) {
		const u = Math.min(at[i] * spans, spans - 1e-12);
		const span = Math.floor(u);
		const values = basisOf(degree, span, u, closed, spans);
		const weight = !closed && (i === 0 || i === n - 1) ? 1e6 : 1;
		values.forEach((v, r) => {
			const p = (span + r) % count;
			fx[p] += weight * v * x[i];
			fy[p] += weight * v * y[i];
			values.forEach((w, q) => (a[p * count + ((span + q) % count)] += weight * v * w));
		});
	}
	for (let p = 0; p < count; p++) a[p * count + p] += 1e-9 * (a[p * count + p] + 1);
	choleskySolve(a, count, fx, fy);
	const control = Array.from(fx, (v, k) => ({ x: v, y: fy[k] }));
	if (!closed) {
		control[0] = { x: x[0], y: y[0] };
		control[count - 1] = { x: x[n - 1], y: y[n - 1] };
	}
	if (degree === 1)
		return polygonPath(
			control.flatMap((c) => [c.x, c.y]),
			closed
		);
	return pulledBy(control, degree, closed, (1e-4 * length) / count);
}

/** rad. A line that bends less between samples is as good as straight: what its numbers say is rounding. */
const LEAST_BEND = 1e-4;

/** 0..1 along the samples, faster where they bend. */
function parameterByBend(x: Float64Array, y: Float64Array, closed: boolean): Float64Array {
	const n = x.length;
	const reach = Math.max(2, Math.floor(n / 120));
	const bend = new Float64Array(n);
	for (let i = 0; i < n; i++) {
		const p = closed ? (i + n - reach) % n : Math.max(0, i - reach);
		const q = closed ? (i + reach) % n : Math.min(n - 1, i + reach);
		const [ax, ay, bx, by] = [x[i] - x[p], y[i] - y[p], x[q] - x[i], y[q] - y[i]];
		bend[i] = Math.abs(Math.atan2(ax * by - ay * bx, ax * bx + ay * by));
	}
	const mean = Math.max(LEAST_BEND, bend.reduce((s, v) => s + v, 0) / n);
	const out = new Float64Array(n);
	let sum = 0;
	for (let i = 0; i < n; i++) {
		out[i] = sum;
		// By the way there is to the next sample: those at open ends lie closer.
		const next = (i + 1) % n;
		const way = Math.hypot(x[next] - x[i], y[next] - y[i]);
		sum += way * (0.45 + Math.min(4, Math.sqrt(bend[i] / mean)));
	}
	const total = closed ? sum : out[n - 1];
	return out.map((v) => v / total);
}

/** The degree + 1 functions over a span of uniform knots (clamped at open ends). Source: The NURBS Book, A2.2. */
function basisOf(degree: number, span: number, u: number, closed: boolean, spans: number): number[] {
	const knot = (k: number) => (closed ? k : Math.min(spans, Math.max(0, k)));
	const values = [1];
	for (let j = 1; j <= degree; j++) {
		let saved = 0;
		for (let r = 0; r < j; r++) {
			const right = knot(span + r + 1) - u;
			const left = u - knot(span + 1 - j + r);
			const t = right + left > 0 ? values[r] / (right + left) : 0;
			values[r] = saved + right * t;
			saved = left * t;
		}
		values[j] = saved;
	}
	return values;
}

/** A smooth line through every anchor; anchors that turn by `cornerAngle` degrees or more stay corners. */
export function throughAnchors(path: Path, cornerAngle = 60): Path {
	const n = path.types.length;
	const total = n + (path.closed ? 0 : 1);
	const place = (i: number) =>
		i < n
			? { x: path.segs[STRIDE * i], y: path.segs[STRIDE * i + 1] }
			: { x: path.segs[STRIDE * (n - 1) + 6], y: path.segs[STRIDE * (n - 1) + 7] };
	const corners: number[] = [];
	for (let i = path.closed ? 0 : 1; i < n; i++) if (Math.abs(turnAt(path, i)) >= cornerAngle) corners.push(i);
	if (path.closed && corners.length === 0)
		return throughPoints(
			Array.from({ length: total }, (_, i) => place(i)),
			{ closed: true }
		);
	const stops = path.closed ? [...corners, corners[0] + n] : [0, ...corners, n];
	const start = place(stops[0] % total);
	const builder = new PathBuilder(start.x, start.y);
	for (let k = 0; k + 1 < stops.length; k++) {
		const run = Array.from({ length: stops[k + 1] - stops[k] + 1 }, (_, j) => {
			const i = stops[k] + j;
			return place(path.closed ? i % n : i);
		});
		if (run.length === 2) builder.line(run[1].x, run[1].y);
		else {
			const part = throughPoints(run);
			builder.along(part);
		}
	}
	return path.closed ? builder.close() : builder.open();
}

/** The line as straight pieces, none farther from it than the tolerance. */
export function asStraights(path: Path, tolerance: number): Path {
	checkTolerance(tolerance);
	return polygonPath(flattenPath(path, tolerance), path.closed);
}

/**
 * The line as straights and true arcs within the tolerance: from each place the longest arc or straight that serves, found by
 * doubling and halving. Corners stay.
 */
export function asLinesAndArcs(path: Path, tolerance: number): Path {
	checkTolerance(tolerance);
	const flat = flattenPath(path, tolerance / 20);
	const n = flat.length / 2;
	const total = path.closed ? n + 1 : n;
	const px = (i: number) => flat[2 * (i % n)];
	const py = (i: number) => flat[2 * (i % n) + 1];
	const corners = new Set<number>();
	for (let i = 0; i < path.types.length; i++) {
		if (Math.abs(turnAt(path, i)) < 8 || !standsClear(path, i, 4 * tolerance)) continue;
		for (let k = 0; k < n; k++)
			if (px(k) === path.segs[STRIDE * i] && py(k) === path.segs[STRIDE * i + 1]) corners.add(k);
	}
	const builder = new PathBuilder(px(0), py(0));
	let a = 0;
	while (a < total - 1) {
		let stop = a + 1;
		while (stop < total - 1 && !corners.has(stop % n)) stop++;
		let good = a + 1;
		let step = 2;
		let bad = stop + 1;
		while (good < stop) {
			const b = Math.min(stop, a + step);
			if (b > good && serves(a, b)) {
				good = b;
				step *= 2;
			} else {
				bad = b > good ? b : bad;
				break;
			}
		}
		while (bad - good > 1) {
			const mid = (good + bad) >> 1;
			if (mid <= stop && serves(a, mid)) good = mid;
			else bad = mid;
		}
		const bulge = bulgeFor(a, good);
		if (Math.abs(bulge) < 1e-9) builder.line(px(good), py(good));
		else builder.arc(bulge, px(good), py(good));
		a = good;
	}
	return path.closed ? builder.close() : builder.open();

	/** The bulge of the arc from a to b by way of the places between: the middle of the fitted ones. */
	function bulgeFor(a: number, b: number): number {
		const chord = Math.hypot(px(b) - px(a), py(b) - py(a));
		if (b - a < 2 || !(chord > 0)) return 0;
		const nx = -(py(b) - py(a)) / chord;
		const ny = (px(b) - px(a)) / chord;
		let low = 0;
		let high = 0;
		for (let i = a + 1; i < b; i++) {
			const off = (px(i) - px(a)) * nx + (py(i) - py(a)) * ny;
			low = Math.min(low, off);
			high = Math.max(high, off);
		}
		const height = high > -low ? high : low;
		if (Math.abs(height) < tolerance * 0.5) return 0;
		// Height over half the chord is the tangent of a quarter of the sweep; left of travel is a turn to the right.
		return -height / (chord / 2);
	}
	function serves(a: number, b: number): boolean {
		const bulge = bulgeFor(a, b);
		if (Math.abs(bulge) > 0.9) return false;
		const one = new PathBuilder(px(a), py(a)).arc(bulge, px(b), py(b)).open();
		const tree = new EdgeTree([
			{
				points:
					Math.abs(bulge) < 1e-9
						? Float64Array.of(px(a), py(a), px(b), py(b))
						: flattenPath(one, tolerance / 20),
				closed: false
			}
		]);
		const stride = Math.max(1, Math.floor((b - a) / 60));
		for (let i = a + 1; i < b; i += stride) if (tree.distance(px(i), py(i)) > 0.9 * tolerance) return false;
		return true;
	}
}

/** Whether both segments at an anchor are longer than `least` mm: the teeth of a jagged line are no corners. */
function standsClear(path: Path, i: number, least: number): boolean {
	const n = path.types.length;
	return [i, (i + n - 1) % n].every((k) => segmentLength(path.types[k], path.segs, STRIDE * k) >= least);
}

function checkTolerance(tolerance: number): void {
	if (!(tolerance > 0))
		throw new CoreError('bad-tolerance', `The drift allowed must be above 0 mm, not ${tolerance}.`);
}
