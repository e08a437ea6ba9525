/** Stretches on which one outline lies on another, or on itself: they would be cut twice. */
import { finish } from '../progress';
import { nearPairSteps, gatherSegments, indexBoxes } from '../plane/segment-set';
import { stretchBetween } from '../geometry/join';
import { pathLength } from '../geometry/measure';
import { STRIDE, type Path } from '../geometry/path';
import { nearestOn, pointAt } from '../geometry/segment';

/** A stretch of one path, as places (segment + t) in the order of travel, that lies on another path. */
export interface Overlap {
	readonly path: number;
	readonly other: number;
	readonly from: number;
	readonly to: number;
	/** mm */
	readonly length: number;
}

/** mm: lines nearer than this lie on each other. */
const SAME = 1e-3;
/** Between two ends of an overlap it is looked at so many places whether they lie on each other there too. */
const LOOKS = 3;

/**
 * Every stretch on which two of the paths lie on each other, told of the later one; or on which one lies on itself.
 *
 * The ends of such a stretch are ends of segments of the one or of the other: of every two segments that come near, those
 * ends that lie on the other are taken, and what is between two of them is looked at.
 *
 * @param least mm: shorter stretches are left out.
 */
export const findOverlaps = (paths: readonly Path[], least: number): Overlap[] =>
	finish(overlapSteps(paths, least));

/** The same, telling how far it has come (0 to 1). */
export function* overlapSteps(paths: readonly Path[], least: number): Generator<number, Overlap[]> {
	const set = gatherSegments(paths);
	if (set.count === 0) return [];
	const { segs, types, pathOf, firsts, boxes } = set;
	// Lines beside each other have boxes that do not quite meet.
	for (let k = 0; k < boxes.length; k++) boxes[k] += k % 4 < 2 ? -SAME / 2 : SAME / 2;
	const found = new Map<string, { path: number; other: number; spans: [number, number][] }>();
	yield* nearPairSteps(set, indexBoxes(set), (i, j) => {
		const span = commonSpan(types, segs, boxes, i, j);
		if (!span) return;
		const [path, other] = [pathOf[j], pathOf[i]];
		const key = `${path} ${other}`;
		const list = found.get(key) ?? { path, other, spans: [] };
		found.set(key, list);
		const at = j - firsts[path];
		list.spans.push([at + span[0], at + span[1]]);
	});
	return [...found.values()].flatMap(({ path, other, spans }) =>
		merged(spans, paths[path])
			.map(([from, to]) => ({
				path,
				other,
				from,
				to,
				length: pathLength(stretchBetween(paths[path], from, to))
			}))
			.filter((o) => o.length >= least)
	);
}

/** From where to where, as t on segment j, segment i lies on it; undefined where it does not. */
function commonSpan(
	types: Uint8Array,
	segs: Float64Array,
	boxes: Float64Array,
	i: number,
	j: number
): [number, number] | undefined {
	const [a, b] = [STRIDE * i, STRIDE * j];
	const isIn = (k: number, at: number) =>
		segs[at] >= boxes[4 * k] &&
		segs[at] <= boxes[4 * k + 2] &&
		segs[at + 1] >= boxes[4 * k + 1] &&
		segs[at + 1] <= boxes[4 * k + 3];
	// Two of the four ends must lie on the other segment: most pairs are told apart by their boxes.
	let candidates = 0;
	for (const end of [0, 6]) candidates += Number(isIn(j, a + end)) + Number(isIn(i, b + end));
	if (candidates < 2) return undefined;
	const stops: number[] = [];
	for (const end of [0, 6]) {
		if (isIn(i, b + end) && isOn(types[i], segs, a, b + end)) stops.push(end === 0 ? 0 : 1);
		if (isIn(j, a + end)) {
			const on = nearestOn(types[j], segs, b, segs[a + end], segs[a + end + 1]);
			if (on.distance <= SAME) stops.push(on.t);
		}
	}
	if (stops.length < 2) return undefined;
	const from = Math.min(...stops);
	const to = Math.max(...stops);
	if (!(to - from > 1e-9)) return undefined;
	for (let k = 1; k <= LOOKS; k++) {
		const p = pointAt(types[j], segs, b, from + ((to - from) * k) / (LOOKS + 1));
		if (nearestOn(types[i], segs, a, p.x, p.y).distance > SAME) return undefined;
	}
	return [from, to];
}

/** Whether an end of one segment lies on another: on an end of it, or anywhere. */
function isOn(type: number, segs: Float64Array, at: number, end: number): boolean {
	const [x, y] = [segs[end], segs[end + 1]];
	for (const own of [at, at + 6]) if (Math.hypot(segs[own] - x, segs[own + 1] - y) <= SAME) return true;
	return nearestOn(type, segs, at, x, y).distance <= SAME;
}

/** Spans that meet made one, over the seam of a closed path too. */
function merged(spans: readonly [number, number][], path: Path): [number, number][] {
	const near = 1e-6;
	const out: [number, number][] = [];
	for (const [from, to] of [...spans].sort((p, q) => p[0] - q[0])) {
		const last = out[out.length - 1];
		if (last && from <= last[1] + near) last[1] = Math.max(last[1], to);
		else out.push([from, to]);
	}
	const n = path.types.length;
	const first = out[0];
	const last = out[out.length - 1];
	if (path.closed && out.length > 1 && first[0] <= near && last[1] >= n - near) {
		out.pop();
		first[0] = last[0];
		first[1] += n;
	}
	return out;
}

/** An open path without those stretches on which it lies on another: what is left of it, in order. */
export function withoutOverlaps(path: Path, other: Path, least: number): Path[] {
	const gone = findOverlaps([other, path], least).filter((o) => o.path === 1 && o.other === 0);
	const parts: Path[] = [];
	let at = 0;
	for (const [from, to] of [...gone.map((o) => [o.from, o.to]), [path.types.length, path.types.length]]) {
		if (from - at > 1e-9) parts.push(stretchBetween(path, at, from));
		at = to;
	}
	return parts;
}
