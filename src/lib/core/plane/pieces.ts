/** Which outline is a hole of which: pieces are outer closed outlines with their holes. */
import type { Point } from '../geometry/point';
import { rayCrossings } from './ray';
import { gatherSegments, indexBoxes, segmentsIn, type BundleIndex, type SegmentSet } from './segment-set';
import { pathArea } from '../geometry/measure';
import { isSamePath, reversePath, STRIDE, type Path } from '../geometry/path';
import { pointAt } from '../geometry/segment';

export interface Nesting {
	/** Index of the smallest closed path around this one; undefined for an outermost or open one. */
	readonly parent: number | undefined;
	/** How many closed paths lie around it. Odd ones are holes. */
	readonly depth: number;
}

/** What somebody says of an outline, against what its place says: a piece by itself, or a hole in what lies around it. */
export type Standing = 'piece' | 'hole';

/** At how many places along a path it is asked what lies around it. */
const ASKED = 5;

/**
 * Nesting of each path among the others, by the even-odd rule. Open paths have depth 0. An outline that crosses another
 * is not inside it.
 *
 * @param standing what is said of each, where that is not what its place says.
 */
export function nestPaths(
	paths: readonly Path[],
	standing: readonly (Standing | undefined)[] = []
): Nesting[] {
	const nesting = nestedByPlace(paths);
	return standing.some((said) => said !== undefined) ? asSaid(nesting, standing) : nesting;
}

/** Depths with what is said of some of them: what lies in those counts from there. */
function asSaid(nesting: readonly Nesting[], standing: readonly (Standing | undefined)[]): Nesting[] {
	const known = new Map<number, number>();
	const depthOf = (i: number): number => {
		const before = known.get(i);
		if (before !== undefined) return before;
		const { parent } = nesting[i];
		let depth = parent === undefined ? 0 : depthOf(parent) + 1;
		if (standing[i] === 'piece' && depth % 2 === 1) depth++;
		if (standing[i] === 'hole' && depth % 2 === 0 && parent !== undefined) depth++;
		known.set(i, depth);
		return depth;
	};
	return nesting.map(({ parent }, i) => ({ parent, depth: depthOf(i) }));
}

function nestedByPlace(paths: readonly Path[]): Nesting[] {
	// Lines drawn again exactly over themselves are asked once.
	const { firsts, firstOf, times } = withoutDoubles(paths);
	const nested = nestedApart(
		firsts.map((i) => paths[i]),
		times
	);
	return paths.map((_, i) => {
		const { parent, depth } = nested[firstOf[i]];
		return { parent: parent === undefined ? undefined : firsts[parent], depth };
	});
}

/** The first of each line, for each path which of those it is, and how often each is there. */
function withoutDoubles(paths: readonly Path[]): { firsts: number[]; firstOf: number[]; times: number[] } {
	const firsts: number[] = [];
	const times: number[] = [];
	const alike = new Map<string, number[]>();
	const firstOf = paths.map((path, i) => {
		const { types, segs } = path;
		const mid = STRIDE * (types.length >> 1);
		const key = `${types.length} ${segs[0]} ${segs[1]} ${segs[mid]} ${segs[mid + 1]}`;
		const list = alike.get(key) ?? [];
		const known = list.find((k) => isSamePath(paths[firsts[k]], path));
		if (known !== undefined) {
			times[known]++;
			return known;
		}
		alike.set(key, [...list, firsts.length]);
		firsts.push(i);
		times.push(1);
		return firsts.length - 1;
	});
	return { firsts, firstOf, times };
}

/** @param times how often each path is there. */
function nestedApart(paths: readonly Path[], times: readonly number[]): Nesting[] {
	const isPiece = paths.map((path) => path.closed && path.types.length > 0);
	const set = gatherSegments(paths);
	const bundles = indexBoxes(set);
	const size = paths.map((path, i) => (isPiece[i] ? Math.abs(pathArea(path)) : 0));
	return paths.map((path, i) => {
		if (!isPiece[i]) return { parent: undefined, depth: 0 };
		const n = path.types.length;
		const votes = new Map<number, number>();
		for (let k = 0; k < ASKED; k++) {
			// Spread along the path, at odd places, so that no common anchor is hit.
			const at = n * ((k + 0.4123) / ASKED);
			const segment = Math.min(n - 1, Math.floor(at));
			const p = pointAt(path.types[segment], path.segs, STRIDE * segment, Math.min(0.97, at - segment));
			for (const j of pathsAround(set, bundles, i, p)) votes.set(j, (votes.get(j) ?? 0) + 1);
		}
		let depth = 0;
		let parent: number | undefined;
		for (const [j, count] of votes) {
			if (count < ASKED || !isPiece[j] || size[j] <= size[i]) continue;
			depth += times[j];
			if (parent === undefined || size[j] < size[parent]) parent = j;
		}
		return { parent, depth };
	});
}

/** The paths other than `own` that wind an odd number of times around a place. */
function pathsAround(set: SegmentSet, bundles: BundleIndex, own: number, p: Point): number[] {
	const winding = new Map<number, number>();
	for (const s of segmentsIn(set, bundles, -Infinity, p.y, p.x, p.y)) {
		const path = set.pathOf[s];
		if (path === own || !set.closed[path]) continue;
		const w = rayCrossings(set.types[s], set.segs, STRIDE * s, p.x, p.y, set.boxes[4 * s + 2]);
		if (w !== 0) winding.set(path, (winding.get(path) ?? 0) + w);
	}
	const out: number[] = [];
	for (const [path, w] of winding) if (w % 2 !== 0) out.push(path);
	return out;
}

/** The closed paths turned so that solids run anticlockwise and holes clockwise, each with its index. Open paths are left out. */
export function orientedPieces(paths: readonly Path[]): { readonly path: Path; readonly index: number }[] {
	const nesting = nestPaths(paths);
	return paths.flatMap((path, index) => {
		if (!path.closed || path.types.length === 0) return [];
		const wanted = nesting[index].depth % 2 === 0 ? 1 : -1;
		return [{ path: Math.sign(pathArea(path)) === wanted ? path : reversePath(path), index }];
	});
}

/** The same without the indexes. */
export const orientPieces = (paths: readonly Path[]): Path[] => orientedPieces(paths).map(({ path }) => path);

/** Indexes of the closed paths by piece: the outer one first, then its holes. Open paths are left out. */
export function groupPieces(
	paths: readonly Path[],
	standing: readonly (Standing | undefined)[] = []
): number[][] {
	const nesting = nestPaths(paths, standing);
	const groups = new Map<number, number[]>();
	paths.forEach((path, i) => {
		if (path.closed && path.types.length && nesting[i].depth % 2 === 0) groups.set(i, [i]);
	});
	paths.forEach((path, i) => {
		const { depth, parent } = nesting[i];
		if (path.closed && path.types.length && depth % 2 === 1 && parent !== undefined)
			groups.get(parent)?.push(i);
	});
	return [...groups.values()];
}
