/**
 * The plane as lines divide it: paths cut at every place where they meet, tied into a graph of strands and faces.
 *
 * A strand is a run of line between two meeting places; most segments are never touched. Strands that lie on each
 * other become one. Around each place the strands are put in order of angle, which gives the faces; a face knows how
 * often each path winds around it. Source: the doubly connected edge list as in de Berg et al., Computational
 * Geometry, chapter 2; the count of vertices, edges, faces and components must fit Euler's formula, otherwise the
 * order of some strands was misjudged and the arrangement is refused.
 */
import { CoreError } from '../errors';
import { finish, part } from '../progress';
import { LIMIT } from '../tolerance';
import { cubicLoop, findMeetings, lastMeetings, lastStretches } from '../geometry/meetings';
import { ARC, CUBIC, STRIDE, type Path } from '../geometry/path';
import { pointAt, segmentArea } from '../geometry/segment';
import { leavingOf, sortAround, type Leaving } from './around-node';
import { rayCrossings } from './ray';
import {
	gatherSegments,
	indexBoxes,
	nearPairSteps,
	segmentsIn,
	type BundleIndex,
	type SegmentSet
} from './segment-set';
import {
	cutStrands,
	followKind,
	mergeTwins,
	Nodes,
	shareCuts,
	type CommonStretch,
	type Strand
} from './strands';

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
	const common: CommonStretch[] = [];
	const meet = (i: number, j: number) => {
		const n = findMeetings(types[i], segs, STRIDE * i, types[j], segs, STRIDE * j);
		if (n === 0) return;
		for (const stretch of lastStretches()) common.push({ ...stretch, i, j });
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
	shareCuts(set, common, cut, (segment) => {
		const list: { t: number; node: number }[] = [];
		for (let c = cutHead[segment]; c >= 0; c = cutNext[c]) list.push({ t: cutT[c], node: cutNode[c] });
		return list;
	});
	const strands = cutStrands(set, nodes, cutHead, cutNext, cutT, cutNode);
	yield 0.7;
	const merged = mergeTwins(set, strands);
	yield 0.8;
	return findFaces(set, merged, nodes.xy, index);
}

function findFaces(set: SegmentSet, strands: Strand[], nodes: number[], index: BundleIndex): Arrangement {
	const halves = 2 * strands.length;
	const next = new Int32Array(halves).fill(-1);
	const around = new Map<number, Leaving[]>();
	strands.forEach((strand, k) => {
		for (const forward of [true, false]) {
			const leaving = leavingOf(set, forward ? 2 * k : 2 * k + 1, strand.parts, forward);
			const node = forward ? strand.from : strand.to;
			const list = around.get(node);
			if (list) list.push(leaving);
			else around.set(node, [leaving]);
		}
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
