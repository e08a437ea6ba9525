/** Which anchors of a new line are which of the old ones: by place, and by order along the line. */
import { STRIDE, type Path } from '../geometry/path';
import { TOLERANCE } from '../tolerance';

/** Anchors packed as an outline has them: x and y at every `stride` numbers. */
export interface OldAnchors {
	readonly points: ArrayLike<number>;
	readonly stride: number;
	readonly count: number;
	isCorner(i: number): boolean;
}

export interface SameAnchors {
	/** For each anchor of the new line the old line it comes from, or -1. */
	readonly source: Int32Array;
	/** Its index there, or -1. */
	readonly index: Int32Array;
}

/** Cells of the grid in which places are looked up, mm: some tolerances wide. */
const CELL = 16 * TOLERANCE.coincidence;

/**
 * Finds for each anchor of a path the old anchor that it is. First those that lie where they lay; then, with a reach, those
 * between them that moved no farther, corners among corners first, in the order of the line. No old anchor is two new ones.
 *
 * @param reach mm, >= 0.
 */
export function sameAnchors(path: Path, sources: readonly OldAnchors[], reach: number): SameAnchors {
	const total = path.types.length;
	const n = total + (path.closed || total === 0 ? 0 : 1);
	const source = new Int32Array(n).fill(-1);
	const index = new Int32Array(n).fill(-1);
	const place = (i: number) =>
		i < total
			? ([path.segs[STRIDE * i], path.segs[STRIDE * i + 1]] as const)
			: ([path.segs[STRIDE * (total - 1) + 6], path.segs[STRIDE * (total - 1) + 7]] as const);
	const cells = new Map<string, { source: number; index: number }[]>();
	sources.forEach((old, s) => {
		for (let k = 0; k < old.count; k++) {
			const key = `${Math.round(old.points[old.stride * k] / CELL)} ${Math.round(old.points[old.stride * k + 1] / CELL)}`;
			const list = cells.get(key);
			if (list) list.push({ source: s, index: k });
			else cells.set(key, [{ source: s, index: k }]);
		}
	});
	const used = sources.map((old) => new Uint8Array(old.count));
	const take = (i: number, s: number, k: number) => {
		source[i] = s;
		index[i] = k;
		used[s][k] = 1;
	};
	for (let i = 0; i < n; i++) {
		const [x, y] = place(i);
		const cx = Math.round(x / CELL);
		const cy = Math.round(y / CELL);
		search: for (let dx = -1; dx <= 1; dx++) {
			for (let dy = -1; dy <= 1; dy++) {
				for (const at of cells.get(`${cx + dx} ${cy + dy}`) ?? []) {
					const old = sources[at.source];
					const k = old.stride * at.index;
					const off = Math.hypot(old.points[k] - x, old.points[k + 1] - y);
					if (off > TOLERANCE.coincidence || used[at.source][at.index]) continue;
					take(i, at.source, at.index);
					break search;
				}
			}
		}
	}
	if (reach > 0 && sources.length > 0) followOrder(path, n, place, sources, reach, source, index, used, take);
	return { source, index };
}

/** The anchors between those that are known already, in order, each the nearest old one within reach. */
function followOrder(
	path: Path,
	n: number,
	place: (i: number) => readonly [number, number],
	sources: readonly OldAnchors[],
	reach: number,
	source: Int32Array,
	index: Int32Array,
	used: readonly Uint8Array[],
	take: (i: number, s: number, k: number) => void
): void {
	const isNewCorner = (i: number) => turnsAt(path, i);
	// Two rounds: corners find corners, then what is left finds what is left.
	for (const corners of [true, false]) {
		for (let i = 0; i < n; i++) {
			if (source[i] >= 0 || (corners && !isNewCorner(i))) continue;
			const [x, y] = place(i);
			let best = -1;
			let which = -1;
			let least = reach;
			sources.forEach((old, s) => {
				const [from, to] = allowed(i, n, path.closed, source, index, s, old.count);
				for (let q = from; q <= to; q++) {
					const k = ((q % old.count) + old.count) % old.count;
					if (used[s][k] || (corners && !old.isCorner(k))) continue;
					const off = Math.hypot(old.points[old.stride * k] - x, old.points[old.stride * k + 1] - y);
					if (off <= least) {
						least = off;
						best = k;
						which = s;
					}
				}
			});
			if (best >= 0) take(i, which, best);
		}
	}
}

/** The old anchors of a source that lie between the known ones before and after a new one. */
function allowed(
	i: number,
	n: number,
	closed: boolean,
	source: Int32Array,
	index: Int32Array,
	s: number,
	count: number
): readonly [number, number] {
	let before = -1;
	let after = -1;
	for (let k = 1; k < n && before < 0; k++) {
		const j = closed ? (i + n - k) % n : i - k;
		if (j < 0) break;
		if (source[j] === s) before = index[j];
	}
	for (let k = 1; k < n && after < 0; k++) {
		const j = closed ? (i + k) % n : i + k;
		if (j >= n) break;
		if (source[j] === s) after = index[j];
	}
	if (before < 0 && after < 0) return [0, count - 1];
	if (before < 0) return [0, after - 1];
	if (after < 0) return [before + 1, count - 1];
	return after > before ? [before + 1, after - 1] : closed ? [before + 1, after - 1 + count] : [1, 0];
}

/** Whether a path turns clearly at an anchor. */
function turnsAt({ closed, types, segs }: Path, i: number): boolean {
	const n = types.length;
	if (!closed && (i === 0 || i >= n)) return true;
	const b = STRIDE * ((i + n - 1) % n);
	const a = STRIDE * i;
	const ax = segs[a] - segs[b];
	const ay = segs[a + 1] - segs[b + 1];
	const bx = segs[a + 6] - segs[a];
	const by = segs[a + 7] - segs[a + 1];
	const size = Math.hypot(ax, ay) * Math.hypot(bx, by);
	return ax * bx + ay * by < CLEAR_TURN * size;
}
/** Cosine of the turn between chords from which on an anchor may be a corner: 30 degrees. */
const CLEAR_TURN = Math.cos(Math.PI / 6);
