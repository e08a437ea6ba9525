/**
 * The middle line of an area: all places that lie as far from two or more of its edges, each with that distance. Found from the Delaunay
 * triangulation of places along the edges (its dual inside the area), with distances then taken from the edges themselves.
 */
import Delaunator from 'delaunator';
import { EdgeTree, flattenPath } from '../geometry/edge-tree';
import { turnAt } from '../geometry/measure';
import { STRIDE, type Path } from '../geometry/path';
import { nearestOn, pointAt, segmentLength } from '../geometry/segment';

/** One stretch of a middle line, from one end or fork to the next. */
export interface MiddleBranch {
	/** x, y, distance to the nearest edge: mm. */
	readonly points: Float64Array;
	/** Which end or fork it runs from and to. */
	readonly from: number;
	readonly to: number;
}

/** A place along an edge. */
interface Sample {
	readonly segment: number;
	readonly t: number;
	readonly x: number;
	readonly y: number;
}

/** Rounds in which places are put between those whose edge the triangles cross. */
const MOST_ROUNDS = 12;
/** Degrees from which a bend is a corner into which a branch runs. */
const CORNER = 6;
/** mm: no nearer to a corner than that are places put; from there the branch runs straight into it. */
const LEAST = 0.02;

/**
 * The middle line of closed outlines (even-odd).
 * @param spacing mm between places on the edges.
 * @param tolerance mm: how far points may be left out, in the plane and in the distance; branches that show no more than this are dropped.
 */
export function* middleSteps(
	paths: readonly Path[],
	spacing: number,
	tolerance: number
): Generator<number, MiddleBranch[]> {
	let rings = paths.map((path) => sampled(path, spacing));
	let mesh = meshOf(rings);
	for (let round = 0; round < MOST_ROUNDS; round++) {
		yield (0.5 * round) / MOST_ROUNDS;
		const next = rings.map((ring, r) => refined(paths[r], ring, mesh, r));
		if (next.every((ring, r) => ring.length === rings[r].length)) break;
		rings = next;
		mesh = meshOf(rings);
	}
	yield 0.5;
	const tree = new EdgeTree(
		paths.map((path) => ({ points: flattenPath(path, tolerance / 10), closed: true }))
	);
	const web = webOf(paths, rings, mesh, tree, { tolerance, spacing });
	yield 0.8;
	web.prune(tolerance);
	return web.branches(tolerance);
}

/** Places along an outline, closer and closer towards its corners. */
function sampled(path: Path, spacing: number): Sample[] {
	const ring: Sample[] = [];
	const n = path.types.length;
	const isCorner = Array.from({ length: n }, (_, i) => Math.abs(turnAt(path, i)) > CORNER);
	for (let i = 0; i < n; i++) {
		const length = segmentLength(path.types[i], path.segs, STRIDE * i);
		const count = Math.max(2, Math.ceil(length / spacing));
		const step = 1 / count;
		const shares: number[] = [0];
		const closer: number[] = [];
		for (let d = step / 2; d * length > LEAST; d /= 2) closer.push(d);
		if (isCorner[i]) shares.push(...[...closer].reverse());
		for (let k = 1; k < count; k++) shares.push(k * step);
		if (isCorner[(i + 1) % n]) shares.push(...closer.map((d) => 1 - d));
		for (const t of shares) ring.push({ segment: i, t, ...pointAt(path.types[i], path.segs, STRIDE * i, t) });
	}
	return ring;
}

interface Mesh {
	readonly triangles: Uint32Array;
	readonly halfedges: Int32Array;
	readonly coords: Float64Array;
	/** Of each place: its outline, and the number of its first place. */
	readonly ring: Int32Array;
	readonly first: readonly number[];
	readonly size: readonly number[];
	/** Keys of pairs of places that share an edge of a triangle. */
	readonly pairs: ReadonlySet<number>;
}

const keyOf = (a: number, b: number) => (a < b ? a * 67108864 + b : b * 67108864 + a);

function meshOf(rings: readonly (readonly Sample[])[]): Mesh {
	const count = rings.reduce((sum, ring) => sum + ring.length, 0);
	const coords = new Float64Array(2 * count);
	const ring = new Int32Array(count);
	const first: number[] = [];
	let k = 0;
	rings.forEach((samples, r) => {
		first.push(k);
		for (const { x, y } of samples) {
			coords[2 * k] = x;
			coords[2 * k + 1] = y;
			ring[k++] = r;
		}
	});
	const { triangles, halfedges } = new Delaunator(coords);
	const pairs = new Set<number>();
	for (let e = 0; e < triangles.length; e++) pairs.add(keyOf(triangles[e], triangles[nextOf(e)]));
	return { triangles, halfedges, coords, ring, first, size: rings.map((r) => r.length), pairs };
}

const nextOf = (e: number) => (e % 3 === 2 ? e - 2 : e + 1);

/** Whether two places follow each other along an outline. */
function areNeighbours({ ring, first, size }: Mesh, a: number, b: number): boolean {
	const r = ring[a];
	if (r !== ring[b]) return false;
	const d = Math.abs(a - b);
	return d === 1 || (d === size[r] - 1 && Math.min(a, b) === first[r]);
}

/** More places where the triangles do not keep to the outline. */
function refined(path: Path, ring: readonly Sample[], { pairs, first }: Mesh, r: number): Sample[] {
	const out: Sample[] = [];
	ring.forEach((sample, k) => {
		out.push(sample);
		const next = (k + 1) % ring.length;
		if (pairs.has(keyOf(first[r] + k, first[r] + next))) return;
		const end = next === 0 || ring[next].segment !== sample.segment ? 1 : ring[next].t;
		if (Math.hypot(ring[next].x - sample.x, ring[next].y - sample.y) < 1e-5) return;
		const t = (sample.t + end) / 2;
		out.push({
			segment: sample.segment,
			t,
			...pointAt(path.types[sample.segment], path.segs, STRIDE * sample.segment, t)
		});
	});
	return out;
}

/** Which triangles lie inside: each outline that is crossed changes it. */
function insideOf(mesh: Mesh): Uint8Array {
	const { triangles, halfedges } = mesh;
	const count = triangles.length / 3;
	/** 0 not known, 1 outside, 2 inside. */
	const state = new Uint8Array(count);
	for (let e = 0; e < halfedges.length; e++) {
		if (halfedges[e] >= 0 || state[(e / 3) | 0]) continue;
		state[(e / 3) | 0] = areNeighbours(mesh, triangles[e], triangles[nextOf(e)]) ? 2 : 1;
		const left = [(e / 3) | 0];
		for (let t = left.pop(); t !== undefined; t = left.pop())
			for (let k = 3 * t; k < 3 * t + 3; k++) {
				const other = halfedges[k] < 0 ? -1 : (halfedges[k] / 3) | 0;
				if (other < 0 || state[other]) continue;
				const crosses = areNeighbours(mesh, triangles[k], triangles[nextOf(k)]);
				state[other] = crosses ? 3 - state[t] : state[t];
				left.push(other);
			}
	}
	return state;
}

/** Ends and forks with the stretches between them. */
class Web {
	readonly x: number[] = [];
	readonly y: number[] = [];
	readonly r: number[] = [];
	readonly next: Set<number>[] = [];
	/** A corner of the outline: it stays. */
	readonly isCorner = new Set<number>();

	add(x: number, y: number, r: number): number {
		this.x.push(x);
		this.y.push(y);
		this.r.push(r);
		this.next.push(new Set());
		return this.x.length - 1;
	}
	link(a: number, b: number): void {
		if (a === b) return;
		this.next[a].add(b);
		this.next[b].add(a);
	}

	/** From an end or fork along a stretch to the next. */
	private walk(from: number, by: number): number[] {
		const way = [from, by];
		for (;;) {
			const here = way[way.length - 1];
			if (this.next[here].size !== 2 || here === from) return way;
			const before = way[way.length - 2];
			const [a, b] = this.next[here];
			way.push(a === before ? b : a);
		}
	}

	/** Takes away branches whose whole disc lies, but for the tolerance, in that of the fork from which they come. */
	prune(tolerance: number): void {
		for (let found = true; found;) {
			found = false;
			const ends = this.next.flatMap((to, i) => (to.size === 1 && !this.isCorner.has(i) ? [i] : []));
			for (const end of ends) {
				if (this.next[end].size !== 1) continue;
				const way = this.walk(end, [...this.next[end]][0]);
				const fork = way[way.length - 1];
				if (this.next[fork].size < 3) continue;
				const beyond = this.r[end] + Math.hypot(this.x[end] - this.x[fork], this.y[end] - this.y[fork]);
				if (beyond - this.r[fork] > tolerance) continue;
				for (let i = 0; i + 1 < way.length; i++) {
					this.next[way[i]].delete(way[i + 1]);
					this.next[way[i + 1]].delete(way[i]);
				}
				found = true;
			}
		}
	}

	branches(tolerance: number): MiddleBranch[] {
		const out: MiddleBranch[] = [];
		const seen = new Set<number>();
		const take = (way: readonly number[]) => {
			for (let i = 0; i + 1 < way.length; i++) seen.add(keyOf(way[i], way[i + 1]));
			out.push({ points: this.thinned(way, tolerance), from: way[0], to: way[way.length - 1] });
		};
		const isNode = (i: number) => this.next[i].size !== 2;
		for (let i = 0; i < this.x.length; i++) {
			if (this.next[i].size === 0 && this.alone.has(i))
				out.push({ points: Float64Array.of(this.x[i], this.y[i], this.r[i]), from: i, to: i });
			if (!isNode(i)) continue;
			for (const by of this.next[i]) if (!seen.has(keyOf(i, by))) take(this.walk(i, by));
		}
		// Rounds without an end or a fork.
		for (let i = 0; i < this.x.length; i++)
			for (const by of this.next[i]) if (!seen.has(keyOf(i, by))) take(this.walk(i, by));
		return out;
	}
	/** Places that are an area's middle by themselves, as a circle's. */
	readonly alone = new Set<number>();

	/** A stretch with no more points than it needs. */
	private thinned(way: readonly number[], tolerance: number): Float64Array {
		const { x, y, r } = this;
		const keep = new Set([0, way.length - 1]);
		const spans: [number, number][] = [[0, way.length - 1]];
		// A round that ends where it begins has no chord: it is parted first.
		if (way[0] === way[way.length - 1] && way.length > 3) {
			const half = way.length >> 1;
			keep.add(half);
			spans.splice(0, 1, [0, half], [half, way.length - 1]);
		}
		for (let span = spans.pop(); span; span = spans.pop()) {
			const [from, to] = span;
			const [a, b] = [way[from], way[to]];
			const [dx, dy, dr] = [x[b] - x[a], y[b] - y[a], r[b] - r[a]];
			const long2 = dx * dx + dy * dy || 1e-30;
			let most = tolerance;
			let at = -1;
			for (let i = from + 1; i < to; i++) {
				const p = way[i];
				const t = Math.min(1, Math.max(0, ((x[p] - x[a]) * dx + (y[p] - y[a]) * dy) / long2));
				const off = Math.max(
					Math.hypot(x[p] - x[a] - t * dx, y[p] - y[a] - t * dy),
					Math.abs(r[p] - r[a] - t * dr)
				);
				if (off > most) [most, at] = [off, i];
			}
			if (at < 0) continue;
			keep.add(at);
			spans.push([from, at], [at, to]);
		}
		const kept = [...keep].sort((a, b) => a - b);
		return Float64Array.from(kept.flatMap((k) => [x[way[k]], y[way[k]], r[way[k]]]));
	}
}

function webOf(
	paths: readonly Path[],
	rings: readonly (readonly Sample[])[],
	mesh: Mesh,
	tree: EdgeTree,
	{ tolerance, spacing }: { readonly tolerance: number; readonly spacing: number }
): Web {
	const { triangles, halfedges, coords } = mesh;
	const inside = insideOf(mesh);
	const web = new Web();
	const node = new Int32Array(triangles.length / 3).fill(-1);
	for (let t = 0; t < node.length; t++) {
		if (inside[t] !== 2) continue;
		const centre = centreOf(mesh, t);
		if (!centre) continue;
		const { x, y } = settled(paths, rings, mesh, t, centre);
		node[t] = web.add(x, y, tree.distance(x, y));
	}
	// Triangles on one circle have one middle: they become one.
	const one = web.x.map((_, i) => i);
	const rootOf = (i: number): number => {
		while (one[i] !== i) i = one[i] = one[one[i]];
		return i;
	};
	const links: [number, number][] = [];
	for (let e = 0; e < halfedges.length; e++) {
		const f = halfedges[e];
		if (f < e || areNeighbours(mesh, triangles[e], triangles[nextOf(e)])) continue;
		const [a, b] = [node[(e / 3) | 0], node[(f / 3) | 0]];
		if (a < 0 || b < 0) continue;
		if (Math.hypot(web.x[a] - web.x[b], web.y[a] - web.y[b]) < tolerance / 50) one[rootOf(a)] = rootOf(b);
		else links.push([a, b]);
	}
	for (const [a, b] of links) {
		const [p, q] = [rootOf(a), rootOf(b)];
		if (web.next[p].has(q)) continue;
		// Between two places that both stick out, the line is straight and the distance is not.
		const parts = Math.ceil(Math.hypot(web.x[p] - web.x[q], web.y[p] - web.y[q]) / (0.5 * spacing));
		let last = p;
		for (let k = 1; k < parts; k++) {
			const x = web.x[p] + ((web.x[q] - web.x[p]) * k) / parts;
			const y = web.y[p] + ((web.y[q] - web.y[p]) * k) / parts;
			const at = web.add(x, y, tree.distance(x, y));
			one.push(at);
			web.link(last, at);
			last = at;
		}
		web.link(last, q);
	}
	web.x.forEach((_, i) => {
		if (rootOf(i) === i && web.next[i].size === 0) web.alone.add(i);
	});
	// Into the corners, whose own triangle has two edges of the outline.
	for (let t = 0; t < node.length; t++) {
		if (node[t] < 0) continue;
		for (let e = 3 * t; e < 3 * t + 3; e++) {
			const tip = triangles[nextOf(e)];
			const last = nextOf(nextOf(e));
			if (
				!areNeighbours(mesh, triangles[e], tip) ||
				!areNeighbours(mesh, tip, triangles[last]) ||
				!isCornerSample(paths, rings, mesh, tip)
			)
				continue;
			const corner = web.add(coords[2 * tip], coords[2 * tip + 1], 0);
			web.isCorner.add(corner);
			web.alone.delete(rootOf(node[t]));
			web.link(rootOf(node[t]), corner);
		}
	}
	return web;
}

function isCornerSample(
	paths: readonly Path[],
	rings: readonly (readonly Sample[])[],
	{ ring, first }: Mesh,
	i: number
): boolean {
	const r = ring[i];
	const { segment, t } = rings[r][i - first[r]];
	return t === 0 && Math.abs(turnAt(paths[r], segment)) > CORNER;
}

/** The middle of the circle through a triangle; undefined where it lies beyond an edge of the outline, or nowhere. */
function centreOf(mesh: Mesh, t: number): { readonly x: number; readonly y: number } | undefined {
	const { triangles, coords } = mesh;
	const at = (k: number) => [coords[2 * triangles[3 * t + k]], coords[2 * triangles[3 * t + k] + 1]];
	const [ax, ay] = at(0);
	for (let k = 0; k < 3; k++) {
		const e = 3 * t + k;
		if (!areNeighbours(mesh, triangles[e], triangles[nextOf(e)])) continue;
		// Blunt over that edge: the middle lies on its other side.
		const [px, py] = at(k);
		const [qx, qy] = at((k + 1) % 3);
		const [ox, oy] = at((k + 2) % 3);
		const lean = (px - ox) * (qx - ox) + (py - oy) * (qy - oy);
		if (lean < -1e-9 * Math.hypot(px - ox, py - oy) * Math.hypot(qx - ox, qy - oy)) return undefined;
	}
	const [bx, by] = at(1);
	const [cx, cy] = at(2);
	const [ux, uy, vx, vy] = [bx - ax, by - ay, cx - ax, cy - ay];
	const cross = 2 * (ux * vy - uy * vx);
	if (Math.abs(cross) < 1e-14) return undefined;
	const [u2, v2] = [ux * ux + uy * uy, vx * vx + vy * vy];
	return { x: ax + (vy * u2 - uy * v2) / cross, y: ay + (ux * v2 - vx * u2) / cross };
}

/**
 * A middle moved so that it lies as far from both edges on which the triangle's two places farthest apart lie, not only from those
 * places: by Newton's method on the difference of both distances.
 */
function settled(
	paths: readonly Path[],
	rings: readonly (readonly Sample[])[],
	mesh: Mesh,
	t: number,
	centre: { readonly x: number; readonly y: number }
): { readonly x: number; readonly y: number } {
	const { triangles, coords } = mesh;
	const [, a, b] = [0, 1, 2]
		.map((k) => {
			const [p, q] = [triangles[3 * t + k], triangles[3 * t + ((k + 1) % 3)]];
			return [
				Math.hypot(coords[2 * p] - coords[2 * q], coords[2 * p + 1] - coords[2 * q + 1]),
				p,
				q
			] as const;
		})
		.reduce((m, n) => (n[0] > m[0] ? n : m));
	let { x, y } = centre;
	for (let round = 0; round < 2; round++) {
		const p = footNear(paths, rings, mesh, a, x, y);
		const q = footNear(paths, rings, mesh, b, x, y);
		const [nx, ny] = [p.nx - q.nx, p.ny - q.ny];
		const n2 = nx * nx + ny * ny;
		const move = (q.distance - p.distance) / n2;
		if (!(n2 > 0.01) || Math.abs(move) * Math.sqrt(n2) > 0.1 * p.distance) return centre;
		x += move * nx;
		y += move * ny;
	}
	return { x, y };
}

/** How far the edge beside one of its places is, and the unit vector away from it. */
function footNear(
	paths: readonly Path[],
	rings: readonly (readonly Sample[])[],
	{ ring, first }: Mesh,
	i: number,
	x: number,
	y: number
): { readonly distance: number; readonly nx: number; readonly ny: number } {
	const path = paths[ring[i]];
	const { segment, t } = rings[ring[i]][i - first[ring[i]]];
	const n = path.types.length;
	const own = t === 0 ? [segment, (segment + n - 1) % n] : [segment];
	const [at, near] = own
		.map((k) => [k, nearestOn(path.types[k], path.segs, STRIDE * k, x, y)] as const)
		.reduce((m, k) => (k[1].distance < m[1].distance ? k : m));
	const foot = pointAt(path.types[at], path.segs, STRIDE * at, near.t);
	const d = near.distance || 1;
	return { distance: near.distance, nx: (x - foot.x) / d, ny: (y - foot.y) / d };
}
