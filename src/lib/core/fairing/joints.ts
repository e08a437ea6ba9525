/** Anchors of a drawn line put where they belong. */
import type { Point } from '../geometry/point';
import { pathTree, twoWayDistance } from '../geometry/edge-tree';
import { turnAt } from '../geometry/measure';
import { CUBIC, STRIDE, type Path } from '../geometry/path';
import { directionAt, segmentLength, turnBetween } from '../geometry/segment';

/** A path with its anchor `k` elsewhere; the handles beside it go along. In place: `segs` is written. */
export function moveJoint(path: Path, segs: Float64Array, k: number, x: number, y: number): void {
	const n = path.types.length;
	if (path.closed || k < n) moveEnd(segs, path.types[k], STRIDE * k, 0, x, y);
	if (path.closed || k > 0) {
		const before = (k + n - 1) % n;
		moveEnd(segs, path.types[before], STRIDE * before, 6, x, y);
	}
}

/** One end of a segment put elsewhere; the handle beside it moves along. */
function moveEnd(segs: Float64Array, type: number, at: number, end: 0 | 6, x: number, y: number): void {
	const dx = x - segs[at + end];
	const dy = y - segs[at + end + 1];
	segs[at + end] = x;
	segs[at + end + 1] = y;
	if (type !== CUBIC) return;
	const handle = at + (end === 0 ? 2 : 4);
	segs[handle] += dx;
	segs[handle + 1] += dy;
}

/** Degrees: joints of a zigzag turn more, to one side and the other. */
const ZIGZAG = 15;

/**
 * A drawn line without the teeth that were taken for corners: short sides that turn to one side at their start and to the
 * other at their end become one joint in their middle.
 *
 * @param short mm: sides from this length on are meant.
 * @returns the line, and the joints that stand for teeth.
 */
export function withoutTeeth(
	drawn: Path,
	short: number
): { readonly path: Path; readonly joints: readonly Point[] } {
	const n = drawn.types.length;
	const { closed, types } = drawn;
	const joints: Point[] = [];
	const segs = drawn.segs.slice();
	// What is left, each with its neighbours; only beside a tooth that went does anything change.
	const after = Int32Array.from({ length: n }, (_, i) => (i + 1) % n);
	const before = Int32Array.from({ length: n }, (_, i) => (i + n - 1) % n);
	const lengths = Float64Array.from({ length: n }, (_, i) => segmentLength(types[i], segs, STRIDE * i));
	/** mm: the length of each that is a tooth, Infinity of what is none. */
	const teeth = new Float64Array(n);
	const look = (i: number) => {
		const isEnd = !closed && (i === 0 || i === n - 1);
		const [a, b] = [turns[i], turns[after[i]]];
		const isTooth = !isEnd && a * b < 0 && Math.min(Math.abs(a), Math.abs(b)) >= ZIGZAG;
		teeth[i] = isTooth ? lengths[i] : Infinity;
	};
	const turnOf = (i: number) => {
		if (!closed && i === 0) return 0;
		const k = before[i];
		const a = directionAt(types[k], segs, STRIDE * k, 1);
		const b = directionAt(types[i], segs, STRIDE * i, 0);
		return turnBetween(a.x, a.y, b.x, b.y);
	};
	const turns = Float64Array.from({ length: n }, (_, i) => turnOf(i));
	for (let i = 0; i < n; i++) look(i);
	const isGone = new Uint8Array(n);
	for (let left = n; left >= 4; left--) {
		let tooth = -1;
		for (let i = 0; i < n; i++) if (teeth[i] < (tooth < 0 ? short : teeth[tooth])) tooth = i;
		if (tooth < 0) break;
		const at = STRIDE * tooth;
		const x = (segs[at] + segs[at + 6]) / 2;
		const y = (segs[at + 1] + segs[at + 7]) / 2;
		const [k, next] = [before[tooth], after[tooth]];
		isGone[tooth] = 1;
		teeth[tooth] = Infinity;
		after[k] = next;
		before[next] = k;
		// Both ends come to the middle: they lie apart until then.
		moveEnd(segs, types[next], STRIDE * next, 0, x, y);
		moveEnd(segs, types[k], STRIDE * k, 6, x, y);
		for (const i of [k, next]) lengths[i] = segmentLength(types[i], segs, STRIDE * i);
		for (const i of [k, next, after[next]]) turns[i] = turnOf(i);
		for (const i of [before[k], k, next, after[next]]) look(i);
		joints.push({ x, y });
	}
	if (joints.length === 0) return { path: drawn, joints };
	const kept = Array.from(types.keys()).filter((i) => !isGone[i]);
	const whole = new Float64Array(STRIDE * kept.length);
	kept.forEach((i, k) => whole.set(segs.subarray(STRIDE * i, STRIDE * (i + 1)), STRIDE * k));
	return { path: { closed, types: Uint8Array.from(kept, (i) => types[i]), segs: whole }, joints };
}

/** Degrees: what turns more is a corner. */
const CORNER = 20;
/** Drifts: so near a corner is what strays there a matter of where the corner stands. */
const NEAR = 6;

export interface Kept {
	readonly path: Path;
	/** The largest two-way distance from the line, mm, and where. */
	readonly distance: number;
	readonly x: number;
	readonly y: number;
}

/**
 * A drawn line whose corners are put so that they leave the band about the line it stands for as little as can be. A jagged
 * line stops short of its tips: the two sides of one, prolonged until they meet, may meet farther out than the line may move,
 * or not far enough.
 *
 * @param drift mm: how far the line may move.
 */
export function cornersWithin(drawn: Path, line: Path, drift: number): Kept {
	const tree = pathTree([line], drift / 20);
	let path = drawn;
	let best: Kept = { path, ...twoWayDistance([line], [path], drift / 100, drift) };
	// Each corner once or twice.
	for (let round = 0; round < 8 && best.distance > drift; round++) {
		const k = cornerNear(path, best.x, best.y, NEAR * drift);
		if (k === undefined) break;
		const [x, y] = [path.segs[STRIDE * k], path.segs[STRIDE * k + 1]];
		const segs = path.segs.slice();
		if (tree.distance(best.x, best.y) > drift / 2) {
			// It is the drawn line that strays: its corner comes back into the band.
			const off = tree.distance(x, y);
			const share = Math.min(1, (WITHIN * drift) / off);
			moveJoint(path, segs, k, tree.x + share * (x - tree.x), tree.y + share * (y - tree.y));
		} else moveJoint(path, segs, k, best.x, best.y);
		path = { ...path, segs };
		const next = { path, ...twoWayDistance([line], [path], drift / 100, drift) };
		if (!(next.distance < best.distance)) break;
		best = next;
	}
	return best;
}

/** Of the drift: so far beyond the line is a corner put. */
const WITHIN = 0.9;

function cornerNear(path: Path, x: number, y: number, reach: number): number | undefined {
	let found: number | undefined;
	let least = reach;
	for (let k = path.closed ? 0 : 1; k < path.types.length; k++) {
		const off = Math.hypot(path.segs[STRIDE * k] - x, path.segs[STRIDE * k + 1] - y);
		if (off > least || Math.abs(turnAt(path, k)) < CORNER) continue;
		least = off;
		found = k;
	}
	return found;
}
