/** What an outline measures: box, length, area, tightest radius, whether a place is inside. */
import { arcShape } from './arc';
import { ARC, CUBIC, STRIDE, type Path } from './path';
import {
	curvatureAt,
	directionAt,
	emptyBox,
	growBox,
	segmentArea,
	segmentLength,
	turnBetween,
	type Box
} from './segment';
import { flattenPath } from './edge-tree';

/** The tight upright box around a path, mm; x0 > x1 where the path is empty. */
export function pathBox(path: Path): Box {
	const box = emptyBox();
	for (let i = 0; i < path.types.length; i++) growBox(box, path.types[i], path.segs, STRIDE * i);
	return box;
}

/** The smallest box around all of them. */
export function unionBox(boxes: Iterable<Box>): Box {
	const all = emptyBox();
	for (const b of boxes) {
		all.x0 = Math.min(all.x0, b.x0);
		all.y0 = Math.min(all.y0, b.y0);
		all.x1 = Math.max(all.x1, b.x1);
		all.y1 = Math.max(all.y1, b.y1);
	}
	return all;
}

export function isEmptyBox(box: Box): boolean {
	return !(box.x1 >= box.x0 && box.y1 >= box.y0);
}

/** Length along the line, mm. */
export function pathLength(path: Path): number {
	let sum = 0;
	for (let i = 0; i < path.types.length; i++) sum += segmentLength(path.types[i], path.segs, STRIDE * i);
	return sum;
}

/** Signed area by Green's formula, mm^2: positive anticlockwise. An open path counts as if closed by a straight. */
export function pathArea(path: Path): number {
	const n = path.types.length;
	if (n === 0) return 0;
	// Measured from the first anchor, so that a piece far from the origin loses no digits.
	const ox = path.segs[0];
	const oy = path.segs[1];
	const local = new Float64Array(STRIDE);
	let sum = 0;
	for (let i = 0; i < n; i++) {
		const at = STRIDE * i;
		for (let k = 0; k < STRIDE; k++) local[k] = path.segs[at + k] - (k % 2 ? oy : ox);
		if (path.types[i] === ARC) local[2] = path.segs[at + 2];
		sum += segmentArea(path.types[i], local, 0);
	}
	return sum;
}

/** Signed area of a polygon given as x,y pairs, mm^2. */
export function polygonArea(p: ArrayLike<number>): number {
	let sum = 0;
	for (let i = 0, j = p.length - 2; i < p.length; j = i, i += 2) sum += p[j] * p[i + 1] - p[i] * p[j + 1];
	return sum / 2;
}

/** Number of anchors: one a segment, one more where the path is open. */
export function anchorCount(path: Path): number {
	return path.types.length + (path.closed ? 0 : 1);
}

/**
 * The smallest radius of curvature along the smooth stretches, mm, and where; Infinity for straights only.
 * Corners do not count. Sampled at 24 places a cubic and narrowed by golden section, so good to about 1e-6.
 */
export function tightestRadius(path: Path): { radius: number; x: number; y: number } {
	let radius = Infinity;
	let where = { x: path.segs[0] ?? 0, y: path.segs[1] ?? 0 };
	for (let i = 0; i < path.types.length; i++) {
		const at = STRIDE * i;
		const s = path.segs;
		if (path.types[i] === ARC) {
			const arc = arcShape(s[at], s[at + 1], s[at + 6], s[at + 7], s[at + 2]);
			if (arc.radius < radius) {
				radius = arc.radius;
				where = { x: s[at], y: s[at + 1] };
			}
		} else if (path.types[i] === CUBIC) {
			const k = (t: number) => Math.abs(curvatureAt(CUBIC, s, at, t));
			let best = 0;
			let bestT = 0;
			for (let j = 0; j <= 24; j++) {
				const v = k(j / 24);
				if (v > best) {
					best = v;
					bestT = j / 24;
				}
			}
			let lo = Math.max(0, bestT - 1 / 24);
			let hi = Math.min(1, bestT + 1 / 24);
			for (let j = 0; j < 30; j++) {
				const a = lo + 0.381966 * (hi - lo);
				const b = lo + 0.618034 * (hi - lo);
				if (k(a) > k(b)) hi = b;
				else lo = a;
			}
			const t = (lo + hi) / 2;
			best = Math.max(best, k(t));
			if (best > 0 && 1 / best < radius) {
				radius = 1 / best;
				const u = 1 - t;
				where = {
					x:
						u * u * u * s[at] + 3 * u * u * t * s[at + 2] + 3 * u * t * t * s[at + 4] + t * t * t * s[at + 6],
					y:
						u * u * u * s[at + 1] +
						3 * u * u * t * s[at + 3] +
						3 * u * t * t * s[at + 5] +
						t * t * t * s[at + 7]
				};
			}
		}
	}
	return { radius, ...where };
}

/** The turn at the anchor where segment `i` starts, degrees, positive to the left; 0 at an open end. */
export function turnAt(path: Path, i: number): number {
	const n = path.types.length;
	if (!path.closed && i === 0) return 0;
	const before = (i + n - 1) % n;
	const a = directionAt(path.types[before], path.segs, STRIDE * before, 1);
	const b = directionAt(path.types[i], path.segs, STRIDE * i, 0);
	return turnBetween(a.x, a.y, b.x, b.y);
}

/** Winding number of a closed polyline around a place. @param points x,y pairs. */
export function windingNumber(points: ArrayLike<number>, x: number, y: number): number {
	let winding = 0;
	const n = points.length;
	for (let i = 0, j = n - 2; i < n; j = i, i += 2) {
		const y0 = points[j + 1];
		const y1 = points[i + 1];
		if (y0 <= y !== y1 <= y) {
			const cross = (points[i] - points[j]) * (y - y0) - (x - points[j]) * (y1 - y0);
			if (y1 > y0 && cross > 0) winding++;
			else if (y1 < y0 && cross < 0) winding--;
		}
	}
	return winding;
}

/** Whether a place lies inside a closed path by the even-odd rule; tested on its flattening. */
export function isInside(path: Path, x: number, y: number, tolerance: number): boolean {
	return windingNumber(flattenPath(path, tolerance), x, y) % 2 !== 0;
}
