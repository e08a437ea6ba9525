/** Smooth curves through places, each with a direction, a pull or a radius of its own where that is wanted. */
import { CoreError } from '../errors';
import type { Point } from '../geometry/point';
import { CUBIC, PathBuilder, STRIDE, type Path } from '../geometry/path';
import { curvatureAt, segmentLength } from '../geometry/segment';
import { solveLine, solveRing } from './three-diagonals';

/** A place that a curve goes through. */
export interface Through extends Point {
	/** The direction of travel there, degrees anticlockwise from +x; free where nothing is said. */
	readonly direction?: number;
	/** How strongly the direction is followed, in the usual strength; 1 where nothing is said. */
	readonly pull?: number;
	/** The radius of curvature there, mm, > 0: to the left of travel; < 0: to the right. */
	readonly radius?: number;
}

/** How the curve is paced between places: by their distances, by the roots of them, or whichever of both bends less. */
export type Pace = 'fair' | 'chord' | 'centripetal';

export interface ThroughSettings {
	readonly closed?: boolean;
	readonly pace?: Pace;
}

/**
 * The curve through places: a cubic spline whose curvature is continuous wherever nothing is said of a place; free ends have
 * none, and of all twice differentiable curves at that pace it bends least. Closed, it runs smoothly through its start.
 *
 * @returns one cubic between each two places, which it passes exactly. Places that follow on themselves count once.
 * @throws CoreError `too-few` below two different places (three, closed); `no-radius` where the curve turns the other way.
 * Source: de Boor, A Practical Guide to Splines, chapter 4; centripetal pace: Lee 1989; curvature at the end of a cubic:
 * 2/3 of the distance of the second handle from the tangent over the first handle's length squared.
 */
export function throughPlaces(
	given: readonly Through[],
	{ closed = false, pace = 'chord' }: ThroughSettings = {}
): Path {
	const places = withoutDoubles(given, closed);
	if (places.length < (closed ? 3 : 2))
		throw new CoreError(
			'too-few',
			`A curve through points needs ${closed ? 'three' : 'two'} different points.`
		);
	if (pace !== 'fair') return paced(places, closed, pace === 'chord' ? 1 : 0.5);
	const [chord, root] = [paced(places, closed, 1), paced(places, closed, 0.5)];
	return bending(root) < bending(chord) ? root : chord;
}

/** Places without those that lie where the one before them does. */
function withoutDoubles<P extends Point>(given: readonly P[], closed: boolean): P[] {
	const places = given.filter((p, i) => i === 0 || p.x !== given[i - 1].x || p.y !== given[i - 1].y);
	const last = places[places.length - 1];
	if (closed && places.length > 1 && places[0].x === last.x && places[0].y === last.y) places.pop();
	return places;
}

/** How much of time each span takes: its distance to a power. */
export function spansOf(places: readonly Point[], closed: boolean, power: number): number[] {
	const n = places.length;
	return Array.from({ length: closed ? n : n - 1 }, (_, i) => {
		const q = places[(i + 1) % n];
		return Math.hypot(q.x - places[i].x, q.y - places[i].y) ** power;
	});
}

function paced(places: readonly Through[], closed: boolean, power: number): Path {
	const n = places.length;
	const h = spansOf(places, closed, power);
	const dx = slopes(places, h, closed, 'x', power);
	const dy = slopes(places, h, closed, 'y', power);
	const spans = h.length;
	/** Handles out of each place, and into the next. */
	const out = h.map((k, i) => ({ x: (dx[i] * k) / 3, y: (dy[i] * k) / 3 }));
	const into = h.map((k, i) => {
		const j = (i + 1) % n;
		return { x: (-dx[j] * k) / 3, y: (-dy[j] * k) / 3 };
	});
	bendTo(places, out, into, closed);
	const builder = new PathBuilder(places[0].x, places[0].y);
	for (let i = 0; i < spans; i++) {
		const [p, q] = [places[i], places[(i + 1) % n]];
		builder.cubic(p.x + out[i].x, p.y + out[i].y, q.x + into[i].x, q.y + into[i].y, q.x, q.y);
	}
	return closed ? builder.close() : builder.open();
}

/** The derivatives at the places. Continuous second ones give an equation for each place of which nothing is said. */
function slopes(
	places: readonly Through[],
	h: readonly number[],
	closed: boolean,
	axis: 'x' | 'y',
	power: number
): number[] {
	const n = places.length;
	const spans = h.length;
	const slope = (i: number) => (places[(i + 1) % n][axis] - places[i % n][axis]) / h[i % spans];
	const lower = new Array<number>(n).fill(0);
	const middle = new Array<number>(n).fill(1);
	const upper = new Array<number>(n).fill(0);
	const right = new Array<number>(n).fill(0);
	const far = (i: number) => h[i] ** (1 / power);
	for (let i = 0; i < n; i++) {
		const before = closed ? (i + spans - 1) % spans : i - 1;
		const after = closed ? i : i < n - 1 ? i : -1;
		const { direction, pull = 1 } = places[i];
		if (direction !== undefined) {
			// As fast as the spans beside it are gone through.
			const beside = [before, after].filter((k) => k >= 0);
			const speed = beside.reduce((sum, k) => sum + far(k), 0) / beside.reduce((sum, k) => sum + h[k], 0);
			const rad = (direction * Math.PI) / 180;
			right[i] = pull * speed * (axis === 'x' ? Math.cos(rad) : Math.sin(rad));
		} else if (before < 0) {
			[middle[i], upper[i], right[i]] = [2, 1, 3 * slope(0)];
		} else if (after < 0) {
			[lower[i], middle[i], right[i]] = [1, 2, 3 * slope(n - 2)];
		} else {
			lower[i] = h[after];
			middle[i] = 2 * (h[before] + h[after]);
			upper[i] = h[before];
			right[i] = 3 * (h[after] * slope(before) + h[before] * slope(after));
		}
	}
	return closed ? solveRing(lower, middle, upper, right) : solveLine(lower, middle, upper, right);
}

/** Share of a radius within which it counts as met, and how often handles are set anew for it. */
const MET = 1e-12;
const ROUNDS = 500;

/** Sets the handles at places with a radius so long that the curve has it there; directions stay. */
function bendTo(
	places: readonly Through[],
	out: { x: number; y: number }[],
	into: { x: number; y: number }[],
	closed: boolean
): void {
	const n = places.length;
	const cross = (a: Point, b: Point) => a.x * b.y - a.y * b.x;
	for (let round = 0; round < ROUNDS; round++) {
		let change = 0;
		places.forEach((p, i) => {
			if (p.radius === undefined) return;
			const before = closed ? (i + out.length - 1) % out.length : i - 1;
			for (const [k, side] of [
				[i, 1],
				[before, -1]
			] as const) {
				if (k < 0 || k >= out.length) continue;
				const own = side > 0 ? out[k] : into[k];
				const length = Math.hypot(own.x, own.y);
				const other = places[side > 0 ? (k + 1) % n : k];
				const far = side > 0 ? into[k] : out[k];
				const aside = (side * cross(own, { x: other.x + far.x - p.x, y: other.y + far.y - p.y })) / length;
				const squared = (2 / 3) * aside * p.radius;
				if (!(squared > 0))
					throw new CoreError(
						'no-radius',
						'The curve turns the other way at a point that is to have a radius. Give it a direction, or the radius to its other side.'
					);
				const wanted = Math.sqrt(squared);
				change = Math.max(change, Math.abs(wanted / length - 1));
				own.x *= wanted / length;
				own.y *= wanted / length;
			}
		});
		if (change < MET) return;
	}
	throw new CoreError('no-radius', 'No curve through these points has these radii.');
}

/** Parts of a segment in which its bending is summed up. */
const PARTS = 8;

/** The bending energy: curvature squared along the line, 1/mm (Gauss-Legendre would be closer; it only decides between two). */
function bending(path: Path): number {
	let sum = 0;
	for (let i = 0; i < path.types.length; i++) {
		const long = segmentLength(CUBIC, path.segs, STRIDE * i) / PARTS;
		for (let k = 0; k < PARTS; k++)
			sum += curvatureAt(CUBIC, path.segs, STRIDE * i, (k + 0.5) / PARTS) ** 2 * long;
	}
	return sum;
}
