/**
 * An offset as the sum of its parts: a strip beside each segment and what fills each corner, as polygons. The plain
 * reckoning behind the polygon net and the check.
 */
import type { Point } from '../geometry/point';
import Flatbush from 'flatbush';
import { TOLERANCE } from '../tolerance';
import { windingNumber } from '../geometry/measure';
import { reversePath, STRAIGHT, STRIDE, type Path } from '../geometry/path';
import { orientPieces } from './pieces';
import { curvatureAt, directionAt, pointAt } from '../geometry/segment';

export type JoinKind = 'round' | 'miter' | 'bevel';

/**
 * Strips and corners on the side to which the offset goes; they overlap. Mitres beyond the limit are bevelled.
 * @param tolerance mm: how closely both sides of a strip follow the true curves.
 * @returns polygons, x,y pairs each.
 */
export function offsetStrips(
	paths: readonly Path[],
	distance: number,
	join: 'miter' | 'bevel',
	miterLimit: number,
	tolerance: number
): Float64Array[] {
	const strips: Float64Array[] = [];
	for (const path of orientPieces(paths)) {
		addStrips(
			strips,
			distance > 0 ? path : reversePath(path),
			Math.abs(distance),
			join,
			miterLimit,
			tolerance
		);
	}
	return strips;
}

function flat(points: readonly Point[]): Float64Array {
	const out = new Float64Array(2 * points.length);
	points.forEach((p, i) => {
		out[2 * i] = p.x;
		out[2 * i + 1] = p.y;
	});
	return out;
}

/** Answers whether any of many overlapping polygons covers a place; their sides count as covered. */
export class PolygonCover {
	private readonly index: Flatbush;

	constructor(private readonly polygons: readonly Float64Array[]) {
		this.index = new Flatbush(Math.max(1, polygons.length));
		if (polygons.length === 0) this.index.add(0, 0, 0, 0);
		for (const p of polygons) {
			let [x0, y0, x1, y1] = [Infinity, Infinity, -Infinity, -Infinity];
			for (let i = 0; i < p.length; i += 2) {
				x0 = Math.min(x0, p[i]);
				y0 = Math.min(y0, p[i + 1]);
				x1 = Math.max(x1, p[i]);
				y1 = Math.max(y1, p[i + 1]);
			}
			this.index.add(x0, y0, x1, y1);
		}
		this.index.finish();
	}

	covers(x: number, y: number): boolean {
		if (this.polygons.length === 0) return false;
		const hair = TOLERANCE.coincidence;
		return this.index
			.search(x - hair, y - hair, x + hair, y + hair)
			.some((k) => windingNumber(this.polygons[k], x, y) !== 0 || liesOnSide(this.polygons[k], x, y, hair));
	}
}

function liesOnSide(p: Float64Array, x: number, y: number, hair: number): boolean {
	for (let i = 0, j = p.length - 2; i < p.length; j = i, i += 2) {
		const dx = p[i] - p[j];
		const dy = p[i + 1] - p[j + 1];
		const sq = dx * dx + dy * dy;
		const t = sq > 0 ? Math.min(1, Math.max(0, ((x - p[j]) * dx + (y - p[j + 1]) * dy) / sq)) : 0;
		if (Math.hypot(p[j] + t * dx - x, p[j + 1] + t * dy - y) <= hair) return true;
	}
	return false;
}

/** Narrow strips to the right of a closed path, and what fills its corners to the left. */
function addStrips(
	strips: Float64Array[],
	path: Path,
	d: number,
	join: 'miter' | 'bevel',
	miterLimit: number,
	tolerance: number
): void {
	const n = path.types.length;
	for (let i = 0; i < n; i++) {
		const at = STRIDE * i;
		const type = path.types[i];
		const a = directionAt(type, path.segs, at, 1);
		const p = pointAt(type, path.segs, at, 1);
		const stops = stripStops(type, path.segs, at, d, tolerance);
		const steps = stops.length - 1;
		const near = [];
		const far = [];
		let folds = false;
		for (let k = 0; k <= steps; k++) {
			const q = pointAt(type, path.segs, at, stops[k]);
			const b = directionAt(type, path.segs, at, stops[k]);
			near.push(q);
			const reach = stripReach(type, path.segs, at, stops[k], d);
			far.push({ x: q.x + b.y * reach, y: q.y - b.x * reach });
			folds ||= k > 0 && (far[k].x - far[k - 1].x) * b.x + (far[k].y - far[k - 1].y) * b.y < 0;
		}
		if (!folds) strips.push(flat([...far, ...near.reverse()]));
		else for (let k = 0; k < steps; k++) strips.push(...sameTurn([near[k], far[k], far[k + 1], near[k + 1]]));
		const next = STRIDE * ((i + 1) % n);
		const b = directionAt(path.types[(i + 1) % n], path.segs, next, 0);
		const cross = a.x * b.y - a.y * b.x;
		if (cross <= 0) continue;
		const corner = [p, { x: p.x + a.y * d, y: p.y - a.x * d }];
		const cosHalf = Math.sqrt(Math.max(0, (1 + a.x * b.x + a.y * b.y) / 2));
		if (join === 'miter' && 1 <= miterLimit * cosHalf) {
			const size = Math.hypot(a.y + b.y, a.x + b.x) || 1;
			const reach = d / cosHalf / size;
			corner.push({ x: p.x + (a.y + b.y) * reach, y: p.y - (a.x + b.x) * reach });
		}
		corner.push({ x: p.x + b.y * d, y: p.y - b.x * d });
		strips.push(flat(corner));
	}
}

/** How far a strip goes at one place, mm: nothing beyond the centre of curvature has its nearest place here. */
function stripReach(type: number, s: Float64Array, at: number, t: number, d: number): number {
	const bend = -curvatureAt(type, s, at, t);
	return bend * d > 1 ? 1 / bend : d;
}

/** The parameters at which a strip is cut so that both its sides stay within the tolerance; from 0 to 1. */
function stripStops(type: number, s: Float64Array, at: number, d: number, tolerance: number): number[] {
	if (type === STRAIGHT) return [0, 1];
	const sides = (t: number) => {
		const p = pointAt(type, s, at, t);
		const b = directionAt(type, s, at, t);
		const reach = stripReach(type, s, at, t, d);
		return [p.x, p.y, p.x + b.y * reach, p.y - b.x * reach];
	};
	const stops = [0];
	const halve = (t0: number, p: number[], t1: number, q: number[], depth: number) => {
		const t = (t0 + t1) / 2;
		const m = sides(t);
		const bow = (k: number) => Math.hypot(m[k] - (p[k] + q[k]) / 2, m[k + 1] - (p[k + 1] + q[k + 1]) / 2);
		if (depth < 3 || (depth < 20 && (bow(0) > 2 * tolerance || bow(2) > 2 * tolerance))) {
			halve(t0, p, t, m, depth + 1);
			halve(t, m, t1, q, depth + 1);
		} else stops.push(t1);
	};
	halve(0, sides(0), 1, sides(1), 0);
	return stops;
}

/** A strip as polygons that all turn alike; where its sides cross, as two triangles. */
function sameTurn(q: Point[]): Float64Array[] {
	const turn = (a: Point, b: Point, c: Point) => (b.x - a.x) * (c.y - a.y) - (b.y - a.y) * (c.x - a.x);
	return [
		[q[0], q[1], q[2]],
		[q[0], q[2], q[3]]
	]
		.map((t) => (turn(t[0], t[1], t[2]) < 0 ? [t[0], t[2], t[1]] : t))
		.filter((t) => turn(t[0], t[1], t[2]) > 0)
		.map(flat);
}
