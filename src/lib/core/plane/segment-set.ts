/** All segments of many paths as plain arrays, with an index of their boxes: which of them come near each other. */
import Flatbush from 'flatbush';
import { TOLERANCE } from '../tolerance';
import { ARC, CUBIC, STRAIGHT, STRIDE, type Path } from '../geometry/path';
import { directionAt, emptyBox, growBox } from '../geometry/segment';

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

/** Bundles of segments between two looks at whether to go on. */
const STEP_BUNDLES = 32;

/**
 * Visits every pair i < j of segments whose boxes meet, each once, neighbours of one path that visibly part at their
 * common anchor left out; tells how far it has come (0 to 1).
 *
 * @param only 'self': of one path; 'others': of two paths; 'all'.
 */
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
