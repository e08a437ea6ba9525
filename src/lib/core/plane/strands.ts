/** Paths cut where they meet: nodes, the strands between them, and strands that lie on each other made one. */
import type { Stretch } from '../geometry/alongside';
import { CUBIC, STRAIGHT, STRIDE } from '../geometry/path';
import type { Point } from '../geometry/point';
import { directionAt, emptyBox, growBox, nearestOn, partOf, pointAt } from '../geometry/segment';
import { TOLERANCE } from '../tolerance';
import type { SegmentSet } from './segment-set';

const SAME = TOLERANCE.coincidence;

/** A part of one segment of the input, from t0 to t1 (t0 < t1), travelled forward. */
export interface Part {
	segment: number;
	t0: number;
	t1: number;
}

/** A run of parts between two nodes. Paths on it: `paths[k]` runs along it forward (`signs[k]` 1) or backward (-1). */
export interface Strand {
	from: number;
	to: number;
	readonly parts: Part[];
	readonly paths: number[];
	readonly signs: number[];
	/** Segments of strands that lay on this one. */
	readonly absorbed: number[];
}

/** Nodes by place: what lies within the tolerance is one node. */
export class Nodes {
	readonly xy: number[] = [];
	private readonly cells = new Map<number, number[]>();
	/** mm. Far above the tolerance, so that a place rarely lies near the side of its cell. */
	private static readonly CELL = 1e-3;

	private readonly parents: number[] = [];

	/** The node that stands for it. */
	root(n: number): number {
		while (this.parents[n] !== undefined && this.parents[n] !== n) n = this.parents[n];
		return n;
	}

	/** From now on both are one. */
	unite(a: number, b: number): void {
		const [m, n] = [this.root(a), this.root(b)];
		if (m !== n) this.parents[Math.max(m, n)] = Math.min(m, n);
	}

	private find(i: number, j: number, x: number, y: number): number {
		for (const n of this.cells.get(i * 33554432 + j) ?? []) {
			if (Math.abs(this.xy[2 * n] - x) + Math.abs(this.xy[2 * n + 1] - y) <= 2 * SAME) return n;
		}
		return -1;
	}

	at(x: number, y: number): number {
		const u = x / Nodes.CELL;
		const v = y / Nodes.CELL;
		const i = Math.floor(u);
		const j = Math.floor(v);
		let n = this.find(i, j, x, y);
		if (n >= 0) return n;
		const edge = (2 * SAME) / Nodes.CELL;
		const di = u - i < edge ? -1 : u - i > 1 - edge ? 1 : 0;
		const dj = v - j < edge ? -1 : v - j > 1 - edge ? 1 : 0;
		if (di !== 0) n = this.find(i + di, j, x, y);
		if (n < 0 && dj !== 0) n = this.find(i, j + dj, x, y);
		if (n < 0 && di !== 0 && dj !== 0) n = this.find(i + di, j + dj, x, y);
		if (n >= 0) return n;
		n = this.xy.length / 2;
		this.xy.push(x, y);
		const key = i * 33554432 + j;
		const list = this.cells.get(key);
		if (list) list.push(n);
		else this.cells.set(key, [n]);
		return n;
	}
}

/** A stretch along which two segments lie on each other. */
export interface CommonStretch extends Stretch {
	i: number;
	j: number;
}

/** Rounds in which cuts are handed on from one line to those that it lies on. */
const ROUNDS = 4;

/** Where one of two lines that lie on each other is cut, the other is cut too: then they stay one line. */
export function shareCuts(
	set: SegmentSet,
	common: readonly CommonStretch[],
	cut: (segment: number, t: number, node: number) => void,
	cutsOf: (segment: number) => { t: number; node: number }[]
): void {
	const hand = (from: number, t0: number, t1: number, to: number, u0: number, u1: number): boolean => {
		const [lo, hi] = u0 < u1 ? [u0, u1] : [u1, u0];
		const there = new Set(
			cutsOf(to).flatMap(({ t, node }) => (t >= lo - 1e-9 && t <= hi + 1e-9 ? [node] : []))
		);
		let isNew = false;
		for (const { t, node } of cutsOf(from)) {
			if (t <= t0 || t >= t1 || there.has(node)) continue;
			const p = pointAt(set.types[from], set.segs, STRIDE * from, t);
			const near = nearestOn(set.types[to], set.segs, STRIDE * to, p.x, p.y);
			if (near.distance > 2 * SAME || near.t <= lo || near.t >= hi) continue;
			cut(to, near.t, node);
			there.add(node);
			isNew = true;
		}
		return isNew;
	};
	for (let round = 0; round < ROUNDS; round++) {
		let isNew = false;
		for (const { i, j, t0, t1, u0, u1 } of common) {
			if (hand(i, t0, t1, j, u0, u1)) isNew = true;
			if (hand(j, Math.min(u0, u1), Math.max(u0, u1), i, t0, t1)) isNew = true;
		}
		if (!isNew) return;
	}
}

/** 1: j follows i at i's end; 2: i follows j at i's start; 3: both; 0: neither. */
export function followKind(set: SegmentSet, i: number, j: number): number {
	const p = set.pathOf[i];
	if (p !== set.pathOf[j]) return 0;
	let kind = j === i + 1 ? 1 : 0;
	if (set.closed[p] && i === set.firsts[p] && j === set.firsts[p + 1] - 1) kind |= 2;
	return kind;
}

/** A place where a path is cut. */
interface Stop {
	segment: number;
	t: number;
	node: number;
}

export function cutStrands(
	set: SegmentSet,
	nodes: Nodes,
	cutHead: Int32Array,
	cutNext: number[],
	cutT: number[],
	cutNode: number[]
): Strand[] {
	const strands: Strand[] = [];
	const { segs } = set;
	for (let p = 0; p + 1 < set.firsts.length; p++) {
		const first = set.firsts[p];
		const last = set.firsts[p + 1];
		if (first === last) continue;
		// All stops along the path in order.
		const stops: Stop[] = [];
		for (let i = first; i < last; i++) {
			if (cutHead[i] < 0) continue;
			const here: Stop[] = [];
			for (let c = cutHead[i]; c >= 0; c = cutNext[c])
				here.push({ segment: i, t: cutT[c], node: cutNode[c] });
			here.sort((m, n) => m.t - n.t);
			stops.push(...here);
		}
		const isClosed = set.closed[p] === 1;
		if (!isClosed) {
			const start = nodes.at(segs[STRIDE * first], segs[STRIDE * first + 1]);
			const end = nodes.at(segs[STRIDE * last - 2], segs[STRIDE * last - 1]);
			stops.unshift({ segment: first, t: 0, node: start });
			stops.push({ segment: last - 1, t: 1, node: end });
		} else if (stops.length === 0) {
			stops.push({ segment: first, t: 0, node: nodes.at(segs[STRIDE * first], segs[STRIDE * first + 1]) });
		}
		const n = stops.length;
		for (let k = 0; k < (isClosed ? n : n - 1); k++) {
			const parts = partsBetween(stops[k], stops[(k + 1) % n], k + 1 === n, last - first, first);
			const [from, to] = [stops[k].node, stops[(k + 1) % n].node];
			// Two places with nothing between them are one place.
			if (parts.length === 0) nodes.unite(from, to);
			else strands.push({ from, to, parts, paths: [p], signs: [1], absorbed: [] });
		}
	}
	for (const strand of strands)
		if (strand.from !== strand.to && isTinyStrand(set, strand.parts, 2 * SAME))
			nodes.unite(strand.from, strand.to);
	for (const strand of strands) {
		strand.from = nodes.root(strand.from);
		strand.to = nodes.root(strand.to);
	}
	const kept = strands.filter(({ from, to, parts }) => from !== to || !isTinyStrand(set, parts, 4 * SAME));
	centreNodes(set, nodes, kept);
	return kept;
}

/** A node that took in places which lie rather far from it is put in the middle of them. */
function centreNodes(set: SegmentSet, nodes: Nodes, strands: readonly Strand[]): void {
	const wide = new Map<number, [x0: number, y0: number, x1: number, y1: number]>();
	const eachEnd = (visit: (node: number, p: Point) => void) => {
		for (const { from, to, parts } of strands) {
			const last = parts[parts.length - 1];
			visit(from, pointAt(set.types[parts[0].segment], set.segs, STRIDE * parts[0].segment, parts[0].t0));
			visit(to, pointAt(set.types[last.segment], set.segs, STRIDE * last.segment, last.t1));
		}
	};
	eachEnd((node, { x, y }) => {
		if (Math.hypot(nodes.xy[2 * node] - x, nodes.xy[2 * node + 1] - y) > 0.9 * SAME)
			wide.set(node, [x, y, x, y]);
	});
	if (wide.size === 0) return;
	eachEnd((node, { x, y }) => {
		const box = wide.get(node);
		if (box)
			wide.set(node, [Math.min(box[0], x), Math.min(box[1], y), Math.max(box[2], x), Math.max(box[3], y)]);
	});
	for (const [node, [x0, y0, x1, y1]] of wide) {
		nodes.xy[2 * node] = (x0 + x1) / 2;
		nodes.xy[2 * node + 1] = (y0 + y1) / 2;
	}
}

/** What lies between two stops of a path of `count` segments, the first of them `first`; `wraps`: over its seam. */
function partsBetween(a: Stop, b: Stop, wraps: boolean, count: number, first: number): Part[] {
	if (!wraps && a.segment === b.segment) return b.t > a.t ? [{ segment: a.segment, t0: a.t, t1: b.t }] : [];
	const parts: Part[] = [];
	if (a.t < 1) parts.push({ segment: a.segment, t0: a.t, t1: 1 });
	const end = wraps ? b.segment + count : b.segment;
	for (let i = a.segment + 1; i < end; i++)
		parts.push({ segment: first + ((i - first) % count), t0: 0, t1: 1 });
	if (b.t > 0) parts.push({ segment: b.segment, t0: 0, t1: b.t });
	return parts;
}

/** Whether all of it lies within `reach` mm of one place. */
function isTinyStrand(set: SegmentSet, parts: readonly Part[], reach: number): boolean {
	if (parts.length > 8) return false;
	const o = pointAt(set.types[parts[0].segment], set.segs, STRIDE * parts[0].segment, parts[0].t0);
	return parts.every((part) => {
		for (const w of [0.33, 0.67, 1]) {
			const t = part.t0 + w * (part.t1 - part.t0);
			const q = pointAt(set.types[part.segment], set.segs, STRIDE * part.segment, t);
			if (Math.hypot(q.x - o.x, q.y - o.y) > reach) return false;
		}
		return true;
	});
}

/** Strands that lie on each other become one that carries all their paths. */
export function mergeTwins(set: SegmentSet, strands: Strand[]): Strand[] {
	const byEnds = new Map<number, Strand[]>();
	const out: Strand[] = [];
	for (const strand of strands) {
		const lo = Math.min(strand.from, strand.to);
		const hi = Math.max(strand.from, strand.to);
		const key = lo * 4194304 + hi;
		const list = byEnds.get(key);
		if (!list) {
			byEnds.set(key, [strand]);
			out.push(strand);
			continue;
		}
		const twin = list.find((other) => lieTogether(set, other, strand));
		if (!twin) {
			list.push(strand);
			out.push(strand);
			continue;
		}
		const same = runsAlike(set, twin, strand);
		twin.absorbed.push(...strand.parts.map((part) => part.segment));
		twin.paths.push(...strand.paths);
		twin.signs.push(...strand.signs.map((sign) => (same ? sign : -sign)));
	}
	return out;
}

function middleOf(set: SegmentSet, strand: Strand): Point {
	const part = strand.parts[strand.parts.length >> 1];
	return pointAt(set.types[part.segment], set.segs, STRIDE * part.segment, (part.t0 + part.t1) / 2);
}

function lieTogether(set: SegmentSet, a: Strand, b: Strand): boolean {
	if (a.parts.length === 1 && b.parts.length === 1) {
		const p = a.parts[0];
		const q = b.parts[0];
		if (set.types[p.segment] === STRAIGHT && set.types[q.segment] === STRAIGHT) return a.from !== a.to;
		const s = partOf(set.types[p.segment], set.segs, STRIDE * p.segment, p.t0, p.t1);
		const t = partOf(set.types[q.segment], set.segs, STRIDE * q.segment, q.t0, q.t1);
		if (set.types[p.segment] === CUBIC && set.types[q.segment] === CUBIC) {
			const back = Math.abs(s[0] - t[0]) + Math.abs(s[1] - t[1]) > 4 * SAME;
			let most = 0;
			for (let k = 0; k < 8; k++) {
				const m = back ? (k % 2 ? 8 - k : 6 - k) : k;
				most = Math.max(most, Math.abs(s[k] - t[m]));
			}
			if (most <= 2 * SAME) return true;
		}
		// Far apart in the middle: no need to look for the nearest place.
		const mid = middleOf(set, a);
		const box = emptyBox();
		growBox(box, set.types[q.segment], t, 0);
		const away = Math.max(box.x0 - mid.x, mid.x - box.x1, box.y0 - mid.y, mid.y - box.y1);
		if (away > 2 * SAME) return false;
	}
	if (a.parts.length > 3 || b.parts.length > 3) return false;
	const off = (p: Point, strand: Strand) => {
		let least = Infinity;
		for (const part of strand.parts) {
			const s = part.segment;
			const near = nearestOn(set.types[s], set.segs, STRIDE * s, p.x, p.y);
			const inside = near.t >= part.t0 - 1e-6 && near.t <= part.t1 + 1e-6;
			if (inside) least = Math.min(least, near.distance);
		}
		return least;
	};
	// Nearly equal lines between common ends can still bulge apart anywhere on the way.
	const liesOn = (one: Strand, other: Strand, shares: readonly number[]) =>
		one.parts.every(({ segment, t0, t1 }) =>
			shares.every((w) => {
				const p = pointAt(set.types[segment], set.segs, STRIDE * segment, t0 + w * (t1 - t0));
				return off(p, other) <= 2 * SAME;
			})
		);
	return liesOn(a, b, [0.5, 0.2, 0.8]) && liesOn(b, a, [0.5]);
}

function runsAlike(set: SegmentSet, a: Strand, b: Strand): boolean {
	if (a.from !== a.to || b.from !== b.to) return a.from === b.from && a.to === b.to;
	const p = a.parts[0];
	const q = b.parts[0];
	const d = directionAt(set.types[p.segment], set.segs, STRIDE * p.segment, p.t0);
	const e = directionAt(set.types[q.segment], set.segs, STRIDE * q.segment, q.t0);
	return d.x * e.x + d.y * e.y > 0;
}
