/** Nearest distances to polylines: a binary tree of boxes over the run of edges. */
import { STRIDE, type Path } from './path';
import { flattenSegment } from './segment';

/** x,y pairs along the path, mm. A closed path does not repeat its start. */
export function flattenPath(path: Path, tolerance: number): Float64Array {
	const out: number[] = [];
	if (path.types.length) out.push(path.segs[0], path.segs[1]);
	for (let i = 0; i < path.types.length; i++)
		flattenSegment(path.types[i], path.segs, STRIDE * i, tolerance, out);
	if (path.closed && out.length > 2) out.length -= 2;
	return Float64Array.from(out);
}

/** A polyline for the tree. */
export interface Polyline {
	readonly points: ArrayLike<number>;
	readonly closed: boolean;
}

const LEAF = 4;

/** Answers how far a place is from a set of polylines. Distances in mm; Infinity where there is no edge. */
export class EdgeTree {
	private readonly edges: Float64Array;
	private readonly boxes: Float64Array;
	private readonly owner: Int32Array;
	private readonly count: number;
	private readonly leaves: number;
	private readonly stack = new Int32Array(128);
	private last = 0;
	/** The nearest place of the last query. */
	x = 0;
	y = 0;
	/** Which polyline it was on. */
	line = 0;

	constructor(lines: readonly Polyline[]) {
		let m = 0;
		for (const l of lines) m += Math.max(0, l.points.length / 2 - (l.closed ? 0 : 1));
		this.count = m;
		this.edges = new Float64Array(4 * m);
		this.owner = new Int32Array(m);
		let k = 0;
		lines.forEach(({ points, closed }, which) => {
			const n = points.length;
			for (let i = 0; i < (closed ? n : n - 2); i += 2) {
				const j = (i + 2) % n;
				this.owner[k] = which;
				this.edges[4 * k] = points[i];
				this.edges[4 * k + 1] = points[i + 1];
				this.edges[4 * k + 2] = points[j];
				this.edges[4 * k + 3] = points[j + 1];
				k++;
			}
		});
		let c = 1;
		while (c * LEAF < m) c *= 2;
		this.leaves = c;
		const B = (this.boxes = new Float64Array(8 * c));
		for (let i = c; i < 2 * c; i++) {
			let x0 = Infinity;
			let y0 = Infinity;
			let x1 = -Infinity;
			let y1 = -Infinity;
			const lo = LEAF * (i - c);
			for (let q = 4 * lo; q < 4 * Math.min(m, lo + LEAF); q += 2) {
				x0 = Math.min(x0, this.edges[q]);
				x1 = Math.max(x1, this.edges[q]);
				y0 = Math.min(y0, this.edges[q + 1]);
				y1 = Math.max(y1, this.edges[q + 1]);
			}
			B[4 * i] = x0;
			B[4 * i + 1] = y0;
			B[4 * i + 2] = x1;
			B[4 * i + 3] = y1;
		}
		for (let i = c - 1; i > 0; i--) {
			const l = 8 * i;
			const r = l + 4;
			B[4 * i] = Math.min(B[l], B[r]);
			B[4 * i + 1] = Math.min(B[l + 1], B[r + 1]);
			B[4 * i + 2] = Math.max(B[l + 2], B[r + 2]);
			B[4 * i + 3] = Math.max(B[l + 3], B[r + 3]);
		}
	}

	private edgeSq(q: number, x: number, y: number): number {
		const E = this.edges;
		const k = 4 * q;
		const dx = E[k + 2] - E[k];
		const dy = E[k + 3] - E[k + 1];
		const sq = dx * dx + dy * dy;
		let t = sq > 0 ? ((x - E[k]) * dx + (y - E[k + 1]) * dy) / sq : 0;
		t = t < 0 ? 0 : t > 1 ? 1 : t;
		const ex = x - E[k] - t * dx;
		const ey = y - E[k + 1] - t * dy;
		return ex * ex + ey * ey;
	}

	private boxSq(i: number, x: number, y: number): number {
		const B = this.boxes;
		const k = 4 * i;
		const dx = x < B[k] ? B[k] - x : x > B[k + 2] ? x - B[k + 2] : 0;
		const dy = y < B[k + 1] ? B[k + 1] - y : y > B[k + 3] ? y - B[k + 3] : 0;
		return dx * dx + dy * dy;
	}

	/** The distance from (x, y); `x`, `y`, `line` of the tree then tell where. */
	distance(x: number, y: number): number {
		if (this.count === 0) return Infinity;
		let bestSq = this.edgeSq(this.last, x, y);
		const stack = this.stack;
		let top = 0;
		stack[top++] = 1;
		while (top) {
			const i = stack[--top];
			if (this.boxSq(i, x, y) >= bestSq) continue;
			if (i >= this.leaves) {
				const lo = LEAF * (i - this.leaves);
				const hi = Math.min(this.count, lo + LEAF);
				for (let q = lo; q < hi; q++) {
					const d = this.edgeSq(q, x, y);
					if (d < bestSq) {
						bestSq = d;
						this.last = q;
					}
				}
			} else {
				const l = 2 * i;
				if (this.boxSq(l, x, y) < this.boxSq(l + 1, x, y)) {
					stack[top++] = l + 1;
					stack[top++] = l;
				} else {
					stack[top++] = l;
					stack[top++] = l + 1;
				}
			}
		}
		const k = 4 * this.last;
		const E = this.edges;
		const dx = E[k + 2] - E[k];
		const dy = E[k + 3] - E[k + 1];
		const sq = dx * dx + dy * dy;
		const t = sq > 0 ? Math.min(1, Math.max(0, ((x - E[k]) * dx + (y - E[k + 1]) * dy) / sq)) : 0;
		this.x = E[k] + t * dx;
		this.y = E[k + 1] + t * dy;
		this.line = this.owner[this.last];
		return Math.sqrt(bestSq);
	}

	/** The direction of travel of the nearest edge of the last query, a unit vector. */
	direction(): { readonly x: number; readonly y: number } {
		const k = 4 * this.last;
		const dx = this.edges[k + 2] - this.edges[k];
		const dy = this.edges[k + 3] - this.edges[k + 1];
		const size = Math.hypot(dx, dy) || 1;
		return { x: dx / size, y: dy / size };
	}
}

/** A tree over flattened paths. */
export function pathTree(paths: readonly Path[], tolerance: number): EdgeTree {
	return new EdgeTree(paths.map((path) => ({ points: flattenPath(path, tolerance), closed: path.closed })));
}

/** The largest distance from points along `from` to `to`, and where, mm. Edges are sampled at most `step` apart. */
export function largestDistance(
	from: readonly Polyline[],
	to: EdgeTree,
	step = Infinity
): { distance: number; x: number; y: number } {
	let distance = 0;
	let wx = 0;
	let wy = 0;
	const visit = (x: number, y: number) => {
		const d = to.distance(x, y);
		if (d > distance) {
			distance = d;
			wx = x;
			wy = y;
		}
	};
	for (const { points, closed } of from) {
		const n = points.length;
		if (n) visit(points[n - 2], points[n - 1]);
		for (let i = 0; i < (closed ? n : n - 2); i += 2) {
			const j = (i + 2) % n;
			const dx = points[j] - points[i];
			const dy = points[j + 1] - points[i + 1];
			const parts = Math.max(1, Math.min(64, Math.ceil(Math.hypot(dx, dy) / step)));
			for (let k = 0; k < parts; k++) visit(points[i] + (dx * k) / parts, points[i + 1] + (dy * k) / parts);
		}
	}
	return { distance, x: wx, y: wy };
}

/**
 * How far two sets of outlines lie apart at worst, both ways (Hausdorff distance), mm, and the worst place.
 * Exact to twice `tolerance` plus what lies between samples `step` apart.
 */
export function twoWayDistance(
	a: readonly Path[],
	b: readonly Path[],
	tolerance: number,
	step = Infinity
): { distance: number; x: number; y: number } {
	const flat = (paths: readonly Path[]) =>
		paths.map((path) => ({ points: flattenPath(path, tolerance), closed: path.closed }));
	const fa = flat(a);
	const fb = flat(b);
	const there = largestDistance(fa, new EdgeTree(fb), step);
	const back = largestDistance(fb, new EdgeTree(fa), step);
	return there.distance >= back.distance ? there : back;
}
