/** A piece as arranging sees it: polygons around it that keep the gap, and discs within it that tell how deep pieces lie in each other. */
import { EdgeTree } from '../geometry/edge-tree';
import { polygonArea, windingNumber } from '../geometry/measure';
import { neededPlaces } from '../geometry/thinned';
import type { Path } from '../geometry/path';
import type { Point } from '../geometry/point';
import { offsetPolygons } from '../plane/polygon-clipper';

export interface ArrangeShape {
	/** x, y of all corners, from the centre; ring after ring. */
	readonly points: Float64Array;
	/** Where each ring ends, in corners. */
	readonly ends: Int32Array;
	/** x, y, radius of discs in it, the largest first. */
	readonly discs: Float64Array;
	/** mm2 of the polygons. */
	readonly area: number;
	/** mm from the centre to the farthest corner. */
	readonly reach: number;
	/** Where its centre lies in what it was made from. */
	readonly centre: Point;
}

/** Of its size: how far polygons may lie outside what must be kept; and mm, from and to. */
const CLOSE = 6e-4;
const CLOSEST = 0.01;
const WIDEST = 0.2;
const MOST_DISCS = 18;
/** Discs smaller than this share of the largest are left out; enough is covered with this share of the area. */
const LEAST_DISC = 0.12;
const COVERED = 0.93;
const GRID = 36;

/** The shape of a piece: its outline, with its holes or filled. @param gap mm that stay free between pieces. */
export function shapeOf(paths: readonly Path[], gap: number): ArrangeShape {
	const rough = offsetPolygons(paths, 0, 'round', 2, 0.05);
	const size = Math.sqrt(Math.abs(rough.reduce((sum, ring) => sum + polygonArea(ring), 0)));
	const close = Math.min(WIDEST, Math.max(CLOSEST, CLOSE * size));
	const grown = offsetPolygons(paths, gap / 2 + 1.5 * close, 'round', 2, close / 2);
	return shapeOfRings(
		grown
			.map((ring) => thinned(ring, close))
			.filter((ring) => ring.length >= 6 && Math.abs(polygonArea(ring)) > 1e-9)
	);
}

/** A shape from polygons (even-odd) as they are. */
export function shapeOfRings(rings: readonly ArrayLike<number>[]): ArrangeShape {
	const centre = middleOf(rings);
	const ends = Int32Array.from(rings, (ring) => ring.length / 2);
	for (let i = 1; i < ends.length; i++) ends[i] += ends[i - 1];
	const points = new Float64Array(2 * (ends.at(-1) ?? 0));
	let at = 0;
	let reach = 0;
	for (const ring of rings)
		for (let i = 0; i < ring.length; i += 2) {
			points[at++] = ring[i] - centre.x;
			points[at++] = ring[i + 1] - centre.y;
			reach = Math.max(reach, Math.hypot(points[at - 2], points[at - 1]));
		}
	const local = rings.map((ring) => Float64Array.from(ring, (v, i) => v - (i % 2 ? centre.y : centre.x)));
	const areas = local.map((ring) => Math.abs(polygonArea(ring)));
	// Even-odd of rings that do not cross: those in others count against them.
	const area = local.reduce((sum, ring, i) => {
		const around = local.filter((other, j) => j !== i && windingNumber(other, ring[0], ring[1]) !== 0).length;
		return sum + (around % 2 ? -areas[i] : areas[i]);
	}, 0);
	return { points, ends, discs: discsIn(local, area), area, reach, centre };
}

function middleOf(rings: readonly ArrayLike<number>[]): Point {
	const outer = rings.reduce(
		(a, b) => (Math.abs(polygonArea(b)) > Math.abs(polygonArea(a)) ? b : a),
		rings[0] ?? []
	);
	let [x, y, sum] = [0, 0, 0];
	for (let i = 0, j = outer.length - 2; i < outer.length; j = i, i += 2) {
		const cross = outer[j] * outer[i + 1] - outer[i] * outer[j + 1];
		x += (outer[j] + outer[i]) * cross;
		y += (outer[j + 1] + outer[i + 1]) * cross;
		sum += cross;
	}
	return sum ? { x: x / (3 * sum), y: y / (3 * sum) } : { x: outer[0] ?? 0, y: outer[1] ?? 0 };
}

/** A ring with no more corners than it needs. */
function thinned(ring: ArrayLike<number>, tolerance: number): number[] {
	const [x, y] = [0, 1].map((axis) =>
		Float64Array.from({ length: ring.length / 2 }, (_, k) => ring[2 * k + axis])
	);
	return neededPlaces(x, y, true, tolerance).flatMap((k) => [x[k], y[k]]);
}

/** Discs in rings (even-odd), each as large as there is room for beside the edges and the discs before it. */
function discsIn(rings: readonly Float64Array[], area: number): Float64Array {
	if (rings.length === 0) return new Float64Array(0);
	const tree = new EdgeTree(rings.map((points) => ({ points, closed: true })));
	let [x0, y0, x1, y1] = [Infinity, Infinity, -Infinity, -Infinity];
	for (const ring of rings)
		for (let i = 0; i < ring.length; i += 2) {
			x0 = Math.min(x0, ring[i]);
			x1 = Math.max(x1, ring[i]);
			y0 = Math.min(y0, ring[i + 1]);
			y1 = Math.max(y1, ring[i + 1]);
		}
	const isIn = (x: number, y: number) =>
		rings.reduce((sum, ring) => sum + Math.abs(windingNumber(ring, x, y)), 0) % 2 === 1;
	const room = (x: number, y: number) => (isIn(x, y) ? tree.distance(x, y) : 0);
	const step = Math.max(x1 - x0, y1 - y0) / GRID;
	const places: { x: number; y: number; d: number }[] = [];
	for (let x = x0 + step / 2; x < x1; x += step)
		for (let y = y0 + step / 2; y < y1; y += step) {
			const d = room(x, y);
			if (d > 0) places.push({ x, y, d });
		}
	const discs: number[] = [];
	let covered = 0;
	const beside = (x: number, y: number, d: number) => {
		for (let i = 0; i < discs.length; i += 3)
			d = Math.min(d, Math.hypot(discs[i] - x, discs[i + 1] - y) - discs[i + 2]);
		return d;
	};
	while (discs.length < 3 * MOST_DISCS && covered < COVERED * area) {
		let best = { x: 0, y: 0, d: 0 };
		for (const { x, y, d } of places) {
			if (d <= best.d) continue;
			const free = beside(x, y, d);
			if (free > best.d) best = { x, y, d: free };
		}
		for (let by = step / 2; by > step / 64; by /= 2)
			for (const [u, v] of AROUND) {
				const [x, y] = [best.x + u * by, best.y + v * by];
				const d = beside(x, y, room(x, y));
				if (d > best.d) best = { x, y, d };
			}
		if (!(best.d > LEAST_DISC * (discs[2] ?? 0)) || best.d <= 0) break;
		discs.push(best.x, best.y, best.d);
		covered += Math.PI * best.d * best.d;
	}
	return Float64Array.from(discs);
}
const AROUND = [
	[1, 0],
	[-1, 0],
	[0, 1],
	[0, -1],
	[0.7, 0.7],
	[-0.7, 0.7],
	[0.7, -0.7],
	[-0.7, -0.7]
] as const;
