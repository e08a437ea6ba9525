/**
 * The plane as lines divide it: paths cut at every place where they meet, tied into a graph of strands and faces.
 *
 * A strand is a run of line between two meeting places; most segments are never touched. Strands that lie on each
 * other become one. Around each place the strands are put in order of angle, which gives the faces; a face knows how
 * often each path winds around it. Source: the doubly connected edge list as in de Berg et al., Computational
 * Geometry, chapter 2; the count of vertices, edges, faces and components must fit Euler's formula, otherwise the
 * order of some strands was misjudged and the arrangement is refused.
 */
import type { Point } from '../geometry/point';
import Flatbush from 'flatbush';
import { CoreError } from '../errors';
import { finish, part } from '../progress';
import { LIMIT, TOLERANCE } from '../tolerance';
import { arcShape } from '../geometry/arc';
import { cubicLoop, findMeetings, lastMeetings } from '../geometry/meetings';
import { ARC, CUBIC, STRAIGHT, STRIDE, type Path } from '../geometry/path';
import {
	directionAt,
	emptyBox,
	extremes,
	growBox,
	nearestOn,
	partOf,
	pointAt,
	segmentArea
} from '../geometry/segment';

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

export interface Arrangement {
	/** All segments of all paths, one after another, eight numbers each, with their types. */
	readonly segs: Float64Array;
	readonly types: Uint8Array;
	/** Types as given: a cubic that is straight is treated as one, but comes out as it went in. */
	readonly givenTypes: Uint8Array;
	readonly strands: Strand[];
	/** x, y of each node. */
	readonly nodes: number[];
	/** Number of faces. Half-edge 2 k runs along strand k, 2 k + 1 against it; its face lies on its left. */
	readonly faces: number;
	readonly faceOf: Int32Array;
	/** The half-edge that follows around its face. */
	readonly next: Int32Array;
	/** Components, each with its outer face and one of its segments. */
	readonly components: { outer: number; segment: number; strands: number[] }[];
	/** Which component a segment belongs to. */
	readonly componentOf: Int32Array;
	/** The boxes of all segments, and their spatial index. */
	readonly boxes: Float64Array;
	readonly index: BundleIndex;
	/** Which path a segment is of. */
	readonly pathOf: Int32Array;
}

const SAME = TOLERANCE.coincidence;

/** All segments of many paths as plain arrays. */
export interface SegmentSet {
	readonly count: number;
	readonly segs: Float64Array;
	readonly types: Uint8Array;
	readonly givenTypes: Uint8Array;
	readonly pathOf: Int32Array;
	/** First segment of each path, and one entry more. */
	readonly firsts: Int32Array;
	readonly closed: Uint8Array;
	/** The box of control points (of an arc: the tight one), four numbers a segment. */
	readonly boxes: Float64Array;
}

/** Puts the segments of all paths one after another. */
export function gatherSegments(paths: readonly Path[]): SegmentSet {
	let count = 0;
	for (const path of paths) count += path.types.length;
	const segs = new Float64Array(STRIDE * count);
	const types = new Uint8Array(count);
	const pathOf = new Int32Array(count);
	const firsts = new Int32Array(paths.length + 1);
	const closed = new Uint8Array(paths.length);
	let k = 0;
	paths.forEach((path, p) => {
		firsts[p] = k;
		closed[p] = path.closed ? 1 : 0;
		segs.set(path.segs, STRIDE * k);
		types.set(path.types, k);
		pathOf.fill(p, k, k + path.types.length);
		k += path.types.length;
	});
	firsts[paths.length] = k;
	const givenTypes = Uint8Array.from(types);
	const boxes = new Float64Array(4 * count);
	for (let i = 0; i < count; i++) {
		const s = STRIDE * i;
		if (types[i] === CUBIC && isStraightCubic(segs, s)) types[i] = STRAIGHT;
		if (types[i] === ARC) {
			const box = emptyBox();
			growBox(box, ARC, segs, s);
			boxes[4 * i] = box.x0;
			boxes[4 * i + 1] = box.y0;
			boxes[4 * i + 2] = box.x1;
			boxes[4 * i + 3] = box.y1;
			continue;
		}
		const step = types[i] === STRAIGHT ? 6 : 2;
		let x0 = segs[s];
		let x1 = x0;
		let y0 = segs[s + 1];
		let y1 = y0;
		for (let m = step; m < 8; m += step) {
			const x = segs[s + m];
			const y = segs[s + m + 1];
			if (x < x0) x0 = x;
			else if (x > x1) x1 = x;
			if (y < y0) y0 = y;
			else if (y > y1) y1 = y;
		}
		boxes[4 * i] = x0;
		boxes[4 * i + 1] = y0;
		boxes[4 * i + 2] = x1;
		boxes[4 * i + 3] = y1;
	}
	return { count, segs, types, givenTypes, pathOf, firsts, closed, boxes };
}

/** The path with cubics that are straight as straights. */
export function withPlainStraights(path: Path): Path {
	let types: Uint8Array | undefined;
	for (let i = 0; i < path.types.length; i++) {
		if (path.types[i] !== CUBIC || !isStraightCubic(path.segs, STRIDE * i)) continue;
		types ??= Uint8Array.from(path.types);
		types[i] = STRAIGHT;
	}
	return types ? { ...path, types } : path;
}

/** Whether a cubic's handles stand at the thirds of its chord: a straight written as a cubic. */
function isStraightCubic(s: Float64Array, at: number): boolean {
	for (let k = 0; k < 2; k++) {
		const third = (s[at + 6 + k] - s[at + k]) / 3;
		if (Math.abs(s[at + k] + third - s[at + 2 + k]) > SAME / 2) return false;
		if (Math.abs(s[at + 6 + k] - third - s[at + 4 + k]) > SAME / 2) return false;
	}
	return true;
}

/** Segments of one path that are looked up together. */
const BUNDLE = 8;

/** A spatial index of bundles: up to eight segments of a path that follow one another. */
export interface BundleIndex {
	readonly index: Flatbush;
	/** First segment of each bundle, and one entry more. */
	readonly firsts: Int32Array;
	readonly boxes: Float64Array;
}

export function indexBoxes(set: SegmentSet): BundleIndex {
	const starts: number[] = [];
	for (let p = 0; p + 1 < set.firsts.length; p++) {
		for (let i = set.firsts[p]; i < set.firsts[p + 1]; i += BUNDLE) starts.push(i);
	}
	const n = starts.length;
	const firsts = Int32Array.from([...starts, set.count]);
	const boxes = new Float64Array(4 * n);
	const index = new Flatbush(Math.max(1, n), 8);
	if (n === 0) index.add(0, 0, 0, 0);
	const b = set.boxes;
	for (let k = 0; k < n; k++) {
		let x0 = Infinity;
		let y0 = Infinity;
		let x1 = -Infinity;
		let y1 = -Infinity;
		for (let i = firsts[k]; i < firsts[k + 1]; i++) {
			if (b[4 * i] < x0) x0 = b[4 * i];
			if (b[4 * i + 1] < y0) y0 = b[4 * i + 1];
			if (b[4 * i + 2] > x1) x1 = b[4 * i + 2];
			if (b[4 * i + 3] > y1) y1 = b[4 * i + 3];
		}
		boxes[4 * k] = x0;
		boxes[4 * k + 1] = y0;
		boxes[4 * k + 2] = x1;
		boxes[4 * k + 3] = y1;
		index.add(x0, y0, x1, y1);
	}
	index.finish();
	return { index, firsts, boxes };
}

/** The segments whose boxes meet an upright box. */
export function segmentsIn(
	set: { readonly boxes: Float64Array },
	bundles: BundleIndex,
	x0: number,
	y0: number,
	x1: number,
	y1: number
): number[] {
	const out: number[] = [];
	const b = set.boxes;
	for (const k of bundles.index.search(x0, y0, x1, y1)) {
		for (let i = bundles.firsts[k]; i < bundles.firsts[k + 1]; i++) {
			if (b[4 * i] <= x1 && b[4 * i + 2] >= x0 && b[4 * i + 1] <= y1 && b[4 * i + 3] >= y0) out.push(i);
		}
	}
	return out;
}

/**
 * Visits every pair i < j of segments whose boxes meet, each once, neighbours of one path that visibly part at their
 * common anchor left out.
 *
 * @param only 'self': of one path; 'others': of two paths; 'all'.
 */
export function eachNearPair(
	set: SegmentSet,
	bundles: BundleIndex,
	visit: (i: number, j: number) => void,
	only: 'self' | 'others' | 'all' = 'all'
): void {
	finish(nearPairSteps(set, bundles, visit, only));
}

/** Bundles of segments between two looks at whether to go on. */
const STEP_BUNDLES = 32;

/** The same, telling how far it has come (0 to 1). */
export function* nearPairSteps(
	set: SegmentSet,
	bundles: BundleIndex,
	visit: (i: number, j: number) => void,
	only: 'self' | 'others' | 'all' = 'all'
): Generator<number, void> {
	const b = set.boxes;
	const { firsts, boxes, index } = bundles;
	const { pathOf } = set;
	const between = (i0: number, i1: number, j0: number, j1: number, same: boolean) => {
		for (let i = i0; i < i1; i++) {
			const x0 = b[4 * i] - SAME;
			const y0 = b[4 * i + 1] - SAME;
			const x1 = b[4 * i + 2] + SAME;
			const y1 = b[4 * i + 3] + SAME;
			for (let j = j0 > i ? j0 : i + 1; j < j1; j++) {
				if (b[4 * j] > x1 || b[4 * j + 2] < x0 || b[4 * j + 1] > y1 || b[4 * j + 3] < y0) continue;
				if (same && partAtAnchor(set, i, j)) continue;
				visit(i, j);
			}
		}
	};
	const n = firsts.length - 1;
	for (let k = 0; k < n; k++) {
		if (k % STEP_BUNDLES === 0) yield k / n;
		const p = pathOf[firsts[k]];
		if (only !== 'others') between(firsts[k], firsts[k + 1], firsts[k], firsts[k + 1], true);
		const near = index.search(
			boxes[4 * k] - SAME,
			boxes[4 * k + 1] - SAME,
			boxes[4 * k + 2] + SAME,
			boxes[4 * k + 3] + SAME,
			(other) => other > k
		);
		for (const m of near) {
			const same = pathOf[firsts[m]] === p;
			if (only !== 'all' && same !== (only === 'self')) continue;
			between(firsts[k], firsts[k + 1], firsts[m], firsts[m + 1], same);
		}
	}
}

/**
 * Whether two segments that follow one another lie on different sides of a line through their common anchor: then they
 * meet nowhere else. This settles nearly all neighbours without a search.
 */
function partAtAnchor(set: SegmentSet, i: number, j: number): boolean {
	const p = set.pathOf[i];
	const first = set.firsts[p];
	const last = set.firsts[p + 1] - 1;
	if (last - first < 2) return false;
	let before = i;
	let after = j;
	if (j !== i + 1) {
		if (!(set.closed[p] && i === first && j === last)) return false;
		before = j;
		after = i;
	}
	const s = set.segs;
	const a = STRIDE * before;
	const b = STRIDE * after;
	const x = s[b];
	const y = s[b + 1];
	if (set.types[before] === STRAIGHT && set.types[after] === STRAIGHT) {
		// Two straights meet again only where the second runs back on the first.
		const dx = x - s[a];
		const dy = y - s[a + 1];
		const ex = s[b + 6] - x;
		const ey = s[b + 7] - y;
		const cross = Math.abs(dx * ey - dy * ex);
		return (
			dx * ex + dy * ey > 0 || cross > SAME * (Math.abs(dx) + Math.abs(dy) + Math.abs(ex) + Math.abs(ey))
		);
	}
	let dx: number;
	let dy: number;
	if (set.types[before] === ARC || set.types[after] === ARC) {
		// An arc of at most a quarter turn lies within the triangle of its tangents.
		if (set.types[before] === ARC && Math.abs(s[a + 2]) > 0.415) return false;
		if (set.types[after] === ARC && Math.abs(s[b + 2]) > 0.415) return false;
		const into = directionAt(set.types[before], s, a, 1);
		const out = directionAt(set.types[after], s, b, 0);
		if (into.x * out.x + into.y * out.y < 0.7) return false;
		dx = into.x + out.x;
		dy = into.y + out.y;
		return (s[a] - x) * dx + (s[a + 1] - y) * dy < -SAME && (s[b + 6] - x) * dx + (s[b + 7] - y) * dy > SAME;
	}
	// Square to the mean of both chords.
	const la = Math.hypot(x - s[a], y - s[a + 1]) || 1;
	const lb = Math.hypot(s[b + 6] - x, s[b + 7] - y) || 1;
	dx = (x - s[a]) / la + (s[b + 6] - x) / lb;
	dy = (y - s[a + 1]) / la + (s[b + 7] - y) / lb;
	for (let k = 0; k < 6; k += 2) {
		if ((s[a + k] - x) * dx + (s[a + k + 1] - y) * dy > (k ? 0 : -SAME)) return false;
		if ((s[b + k + 2] - x) * dx + (s[b + k + 3] - y) * dy < (k < 4 ? 0 : SAME)) return false;
	}
	return true;
}

/** Nodes by place: what lies within the tolerance is one node. */
class Nodes {
	readonly xy: number[] = [];
	private readonly cells = new Map<number, number[]>();
	/** mm. Far above the tolerance, so that a place rarely lies near the side of its cell. */
	private static readonly CELL = 1e-3;

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

/**
 * Cuts the paths where they meet and finds the faces.
 *
 * @throws CoreError `tangle` beyond `LIMIT.crossings` meetings, `unsure` where the order of strands cannot be trusted.
 */
export function arrange(paths: readonly Path[]): Arrangement {
	return finish(arrangeSteps(paths));
}

/** The same, telling how far it has come (0 to 1). */
export function* arrangeSteps(paths: readonly Path[]): Generator<number, Arrangement> {
	const set = gatherSegments(paths);
	const index = indexBoxes(set);
	const nodes = new Nodes();
	const { segs, types } = set;
	// Cuts: for each segment t and node, chained.
	const cutNext: number[] = [];
	const cutT: number[] = [];
	const cutNode: number[] = [];
	const cutHead = new Int32Array(set.count).fill(-1);
	const cut = (segment: number, t: number, node: number) => {
		cutT.push(t);
		cutNode.push(node);
		cutNext.push(cutHead[segment]);
		cutHead[segment] = cutT.length - 1;
	};
	for (let i = 0; i < set.count; i++) {
		if (types[i] !== CUBIC) continue;
		const loop = cubicLoop(segs, STRIDE * i);
		if (!loop || (loop.t < 1e-9 && loop.u > 1 - 1e-9)) continue;
		const node = nodes.at(loop.x, loop.y);
		cut(i, loop.t, node);
		cut(i, loop.u, node);
	}
	const meet = (i: number, j: number) => {
		const n = findMeetings(types[i], segs, STRIDE * i, types[j], segs, STRIDE * j);
		if (n === 0) return;
		const follows = followKind(set, i, j);
		for (let k = 0; k < n; k++) {
			const t = lastMeetings[4 * k];
			const u = lastMeetings[4 * k + 1];
			// The anchor between two that follow one another is no meeting.
			if (follows !== 0 && n >= 1) {
				if ((follows & 1) !== 0 && t === 1 && u === 0) continue;
				if ((follows & 2) !== 0 && t === 0 && u === 1) continue;
			}
			const x =
				t === 0 || t === 1
					? segs[STRIDE * i + 6 * t]
					: u === 0 || u === 1
						? segs[STRIDE * j + 6 * u]
						: lastMeetings[4 * k + 2];
			const y =
				t === 0 || t === 1
					? segs[STRIDE * i + 6 * t + 1]
					: u === 0 || u === 1
						? segs[STRIDE * j + 6 * u + 1]
						: lastMeetings[4 * k + 3];
			const node = nodes.at(x, y);
			cut(i, t, node);
			cut(j, u, node);
		}
		if (cutT.length > 2 * LIMIT.crossings) {
			throw new CoreError(
				'tangle',
				`These outlines cross more than ${LIMIT.crossings} times. Simplify them first.`
			);
		}
	};
	yield* part(nearPairSteps(set, index, meet), 0, 0.6);
	const strands = cutStrands(set, nodes, cutHead, cutNext, cutT, cutNode);
	yield 0.7;
	const merged = mergeTwins(set, strands);
	yield 0.8;
	return findFaces(set, merged, nodes.xy, index);
}

/** 1: j follows i at i's end; 2: i follows j at i's start; 3: both; 0: neither. */
function followKind(set: SegmentSet, i: number, j: number): number {
	const p = set.pathOf[i];
	if (p !== set.pathOf[j]) return 0;
	let kind = j === i + 1 ? 1 : 0;
	if (set.closed[p] && i === set.firsts[p] && j === set.firsts[p + 1] - 1) kind |= 2;
	return kind;
}

function cutStrands(
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
		// All stops along the path in order: segment, t, node.
		const stops: { segment: number; t: number; node: number }[] = [];
		for (let i = first; i < last; i++) {
			if (cutHead[i] < 0) continue;
			const here: { segment: number; t: number; node: number }[] = [];
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
			const a = stops[k];
			const b = stops[(k + 1) % n];
			const parts: Part[] = [];
			const wraps = k + 1 === n;
			if (!wraps && a.segment === b.segment) {
				if (b.t > a.t) parts.push({ segment: a.segment, t0: a.t, t1: b.t });
			} else {
				if (a.t < 1) parts.push({ segment: a.segment, t0: a.t, t1: 1 });
				const end = wraps ? b.segment + (last - first) : b.segment;
				for (let i = a.segment + 1; i < end; i++) {
					parts.push({ segment: first + ((i - first) % (last - first)), t0: 0, t1: 1 });
				}
				if (b.t > 0) parts.push({ segment: b.segment, t0: 0, t1: b.t });
			}
			if (parts.length === 0) continue;
			if (a.node === b.node && isTinyStrand(set, parts)) continue;
			strands.push({ from: a.node, to: b.node, parts, paths: [p], signs: [1], absorbed: [] });
		}
	}
	return strands;
}

/** Whether all of it lies within the tolerance of one place. */
function isTinyStrand(set: SegmentSet, parts: readonly Part[]): boolean {
	if (parts.length > 8) return false;
	const o = pointAt(set.types[parts[0].segment], set.segs, STRIDE * parts[0].segment, parts[0].t0);
	return parts.every((part) => {
		for (const w of [0.33, 0.67, 1]) {
			const t = part.t0 + w * (part.t1 - part.t0);
			const q = pointAt(set.types[part.segment], set.segs, STRIDE * part.segment, t);
			if (Math.hypot(q.x - o.x, q.y - o.y) > 4 * SAME) return false;
		}
		return true;
	});
}

/** Strands that lie on each other become one that carries all their paths. */
function mergeTwins(set: SegmentSet, strands: Strand[]): Strand[] {
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
	// Two nearly equal cubics between common ends can still bulge apart between the middle and the ends.
	if (!(off(middleOf(set, a), b) <= 2 * SAME && off(middleOf(set, b), a) <= 2 * SAME)) return false;
	return [0.2, 0.8].every((w) => {
		const part = a.parts[0];
		const t = part.t0 + w * (part.t1 - part.t0);
		return off(pointAt(set.types[part.segment], set.segs, STRIDE * part.segment, t), b) <= 2 * SAME;
	});
}

function runsAlike(set: SegmentSet, a: Strand, b: Strand): boolean {
	if (a.from !== a.to || b.from !== b.to) return a.from === b.from && a.to === b.to;
	const p = a.parts[0];
	const q = b.parts[0];
	const d = directionAt(set.types[p.segment], set.segs, STRIDE * p.segment, p.t0);
	const e = directionAt(set.types[q.segment], set.segs, STRIDE * q.segment, q.t0);
	return d.x * e.x + d.y * e.y > 0;
}

/** How a half-edge leaves its node: its first part and the end of it that lies there. */
interface Leaving {
	half: number;
	segment: number;
	/** Parameter at the node, and at the other end of the part. */
	t: number;
	far: number;
	angleRad: number;
}

function findFaces(set: SegmentSet, strands: Strand[], nodes: number[], index: BundleIndex): Arrangement {
	const halves = 2 * strands.length;
	const next = new Int32Array(halves).fill(-1);
	const around = new Map<number, Leaving[]>();
	const leave = (node: number, half: number, part: Part, forward: boolean) => {
		const t = forward ? part.t0 : part.t1;
		const far = forward ? part.t1 : part.t0;
		const d = leavingDirection(set, part.segment, t, far);
		const leaving = { half, segment: part.segment, t, far, angleRad: Math.atan2(d.y, d.x) };
		const list = around.get(node);
		if (list) list.push(leaving);
		else around.set(node, [leaving]);
	};
	strands.forEach((strand, k) => {
		leave(strand.from, 2 * k, strand.parts[0], true);
		leave(strand.to, 2 * k + 1, strand.parts[strand.parts.length - 1], false);
	});
	for (const list of around.values()) {
		if (list.length > 2) sortAround(set, list);
		for (let k = 0; k < list.length; k++) {
			// Coming in against list[k], one leaves by the strand just clockwise of it.
			const out = list[(k + list.length - 1) % list.length];
			next[list[k].half ^ 1] = out.half;
		}
	}
	const faceOf = new Int32Array(halves).fill(-1);
	let faces = 0;
	for (let h = 0; h < halves; h++) {
		if (faceOf[h] >= 0) continue;
		let e = h;
		while (faceOf[e] < 0) {
			faceOf[e] = faces;
			e = next[e];
		}
		faces++;
	}
	// Components by joining the ends of strands.
	const parent = Int32Array.from({ length: nodes.length / 2 }, (_, i) => i);
	const root = (i: number) => {
		while (parent[i] !== i) {
			parent[i] = parent[parent[i]];
			i = parent[i];
		}
		return i;
	};
	for (const s of strands) parent[root(s.from)] = root(s.to);
	const byRoot = new Map<number, { outer: number; segment: number; strands: number[] }>();
	const componentOf = new Int32Array(set.count).fill(-1);
	const components: { outer: number; segment: number; strands: number[] }[] = [];
	const ids = new Map<number, number>();
	strands.forEach((strand, k) => {
		const r = root(strand.from);
		let c = byRoot.get(r);
		if (!c) {
			c = { outer: -1, segment: strand.parts[0].segment, strands: [] };
			byRoot.set(r, c);
			ids.set(r, components.length);
			components.push(c);
		}
		c.strands.push(k);
		for (const part of strand.parts) componentOf[part.segment] = ids.get(r)!;
		for (const segment of strand.absorbed) componentOf[segment] = ids.get(r)!;
	});
	// Euler: vertices - edges + faces = 2 for each component.
	if (around.size - strands.length + faces !== 2 * components.length) {
		throw new CoreError('unsure', 'Lines lie so close together here that their order cannot be told.');
	}
	// The outer face of a component is the one that is travelled backward: its area is the least.
	const area = new Float64Array(faces);
	strands.forEach((strand, k) => {
		const a = strandArea(set, strand);
		area[faceOf[2 * k]] += a;
		area[faceOf[2 * k + 1]] -= a;
	});
	for (const c of components) {
		for (const k of c.strands) {
			for (const f of [faceOf[2 * k], faceOf[2 * k + 1]])
				if (c.outer < 0 || area[f] < area[c.outer]) c.outer = f;
		}
	}
	return {
		segs: set.segs,
		types: set.types,
		givenTypes: set.givenTypes,
		strands,
		nodes,
		faces,
		faceOf,
		next,
		components,
		componentOf,
		boxes: set.boxes,
		index,
		pathOf: set.pathOf
	};
}

const scratch = new Float64Array(STRIDE);

function strandArea(set: SegmentSet, strand: Strand): number {
	// Reckoned from the first segment of all, so that little is lost far from the origin.
	const ox = set.segs[0];
	const oy = set.segs[1];
	let sum = 0;
	for (const { segment, t0, t1 } of strand.parts) {
		const at = STRIDE * segment;
		const type = set.types[segment];
		if (t0 === 0 && t1 === 1) {
			for (let k = 0; k < STRIDE; k++) scratch[k] = set.segs[at + k] - (k % 2 ? oy : ox);
			if (type === ARC) scratch[2] = set.segs[at + 2];
			sum += segmentArea(type, scratch, 0);
		} else {
			// Good enough to tell inside from outside.
			let p = pointAt(type, set.segs, at, t0);
			for (let k = 1; k <= 8; k++) {
				const q = pointAt(type, set.segs, at, t0 + ((t1 - t0) * k) / 8);
				sum += ((p.x - ox) * (q.y - oy) - (q.x - ox) * (p.y - oy)) / 2;
				p = q;
			}
		}
	}
	return sum;
}

function leavingDirection(set: SegmentSet, segment: number, t: number, far: number) {
	const d = directionAt(set.types[segment], set.segs, STRIDE * segment, t);
	return far > t ? d : { x: -d.x, y: -d.y };
}

/** Anticlockwise order around a node; strands that leave in nearly one direction are told apart farther out. */
function sortAround(set: SegmentSet, list: Leaving[]): void {
	list.sort((a, b) => a.angleRad - b.angleRad);
	// Groups of nearly equal direction (over the seam at half a turn, too) are sorted among themselves.
	const close = 0.02;
	let start = 0;
	const n = list.length;
	// Begin after a wide gap, so that no group straddles the ends of the list.
	for (let k = 0; k < n; k++) {
		const before = list[(k + n - 1) % n].angleRad;
		let gap = list[k].angleRad - before;
		if (gap <= 0) gap += 2 * Math.PI;
		if (gap > close) {
			start = k;
			break;
		}
	}
	const turned = [...list.slice(start), ...list.slice(0, start)];
	let k = 0;
	while (k < n) {
		let e = k + 1;
		while (e < n) {
			let gap = turned[e].angleRad - turned[e - 1].angleRad;
			if (gap < 0) gap += 2 * Math.PI;
			if (gap > close) break;
			e++;
		}
		if (e - k > 1) {
			const group = turned.slice(k, e).sort((a, b) => sideOf(set, a, b));
			for (let m = k; m < e; m++) turned[m] = group[m - k];
		}
		k = e;
	}
	for (let m = 0; m < n; m++) list[m] = turned[m];
}

/** Below 0 where a lies clockwise of b, seen along both from their node: judged where they are clearly apart. */
function sideOf(set: SegmentSet, a: Leaving, b: Leaving): number {
	const o = pointAt(set.types[a.segment], set.segs, STRIDE * a.segment, a.t);
	const o2 = pointAt(set.types[b.segment], set.segs, STRIDE * b.segment, b.t);
	const endA = pointAt(set.types[a.segment], set.segs, STRIDE * a.segment, a.far);
	const endB = pointAt(set.types[b.segment], set.segs, STRIDE * b.segment, b.far);
	const reach = Math.min(Math.hypot(endA.x - o.x, endA.y - o.y), Math.hypot(endB.x - o2.x, endB.y - o2.y));
	let best = 0;
	// Nearer in they are less bent, farther out more apart: the clearest verdict counts.
	for (const share of [0.9, 0.5, 0.2, 0.05]) {
		const p = placeAtDistance(set, a, o, share * reach);
		const q = placeAtDistance(set, b, o2, share * reach);
		const px = p.x - o.x;
		const py = p.y - o.y;
		const qx = q.x - o2.x;
		const qy = q.y - o2.y;
		const sine = (px * qy - py * qx) / (Math.hypot(px, py) * Math.hypot(qx, qy) || 1);
		if (Math.abs(sine) > Math.abs(best)) best = sine;
	}
	return best > 0 ? -1 : best < 0 ? 1 : 0;
}

/** The place on the strand's first part that is `distance` mm from its start. */
function placeAtDistance(set: SegmentSet, a: Leaving, o: Point, distance: number) {
	const type = set.types[a.segment];
	const at = STRIDE * a.segment;
	let lo = 0;
	let hi = 1;
	let p = o;
	for (let k = 0; k < 40; k++) {
		const w = (lo + hi) / 2;
		p = pointAt(type, set.segs, at, a.t + (a.far - a.t) * w);
		if (Math.hypot(p.x - o.x, p.y - o.y) < distance) lo = w;
		else hi = w;
		if (hi - lo < 1e-9) break;
	}
	return p;
}

/**
 * How often each path winds around a place on segment `from`, the segments of its own component left out.
 * @returns path and winding of those that do.
 */
export function windingsOfOthers(a: Arrangement, from: number): Map<number, number> {
	const own = a.componentOf[from];
	const p = pointAt(a.types[from], a.segs, STRIDE * from, 0.37);
	const out = new Map<number, number>();
	for (const s of segmentsIn(a, a.index, -Infinity, p.y, p.x, p.y)) {
		if (a.componentOf[s] === own) continue;
		const w = rayCrossings(a.types[s], a.segs, STRIDE * s, p.x, p.y, a.boxes[4 * s + 2]);
		if (w !== 0) out.set(a.pathOf[s], (out.get(a.pathOf[s]) ?? 0) + w);
	}
	for (const [path, w] of out) if (w === 0) out.delete(path);
	return out;
}

/**
 * Signed crossings of a segment with the ray from a place to the left (towards -x): downward 1, upward -1. Summed
 * over a closed path they are its winding number around the place.
 * @param right the right side of a box around the segment.
 */
export function rayCrossings(
	type: number,
	s: ArrayLike<number>,
	at: number,
	x: number,
	y: number,
	right: number
): number {
	const y0 = s[at + 1];
	const y1 = s[at + 7];
	// Wholly to the left: only which side of the ray its ends lie on counts.
	if (right < x) return y0 <= y === y1 <= y ? 0 : y0 > y1 ? 1 : -1;
	const stops = [0, ...levelPlaces(type, s, at), 1];
	let sum = 0;
	for (let k = 0; k + 1 < stops.length; k++) {
		const ya = pointAt(type, s, at, stops[k]).y;
		const yb = pointAt(type, s, at, stops[k + 1]).y;
		if (ya <= y === yb <= y) continue;
		let lo = stops[k];
		let hi = stops[k + 1];
		for (let step = 0; step < 52; step++) {
			const mid = (lo + hi) / 2;
			if (pointAt(type, s, at, mid).y <= y === ya <= y) lo = mid;
			else hi = mid;
		}
		if (pointAt(type, s, at, (lo + hi) / 2).x < x) sum += ya > yb ? 1 : -1;
	}
	return sum;
}

/** Parameters where a segment may run level, strictly inside, in order. */
function levelPlaces(type: number, s: ArrayLike<number>, at: number): number[] {
	if (type === CUBIC) return extremes(CUBIC, s, at);
	if (type === STRAIGHT) return [];
	const { startRad, sweepRad } = arcShape(s[at], s[at + 1], s[at + 6], s[at + 7], s[at + 2]);
	const out: number[] = [];
	for (let q = -7; q <= 7; q += 2) {
		const t = ((q * Math.PI) / 2 - startRad) / sweepRad;
		if (t > 0 && t < 1) out.push(t);
	}
	return out.sort((m, n) => m - n);
}
