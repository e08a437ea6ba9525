/** Which outline is a hole of which: pieces are outer closed outlines with their holes. */
import Flatbush from 'flatbush';
import type { Point } from '../geometry/point';
import { rayCrossings } from './ray';
import { gatherSegments, indexBoxes, segmentsIn, type BundleIndex, type SegmentSet } from './segment-set';
import { pathArea, pathBox } from '../geometry/measure';
import { isSamePath, reversePath, STRIDE, type Path } from '../geometry/path';
import { pointAt, type Box } from '../geometry/segment';
import { TOLERANCE } from '../tolerance';

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

/** mm by which a path that touches another from inside may reach beyond its box. */
const SLACK = 10 * TOLERANCE.coincidence;

/** @param times how often each path is there. */
function nestedApart(paths: readonly Path[], times: readonly number[]): Nesting[] {
	const isPiece = paths.map((path) => path.closed && path.types.length > 0);
	const set = gatherSegments(paths);
	const bundles = indexBoxes(set);
	const size = paths.map((path, i) => (isPiece[i] ? Math.abs(pathArea(path)) : 0));
	const boxes = paths.map(pathBox);
	const nesting: Nesting[] = paths.map(() => ({ parent: undefined, depth: 0 }));
	// Of each path those around it that are not around another of these, and how many there are in all.
	const nearest: (readonly number[])[] = paths.map(() => []);
	const counts = new Int32Array(paths.length);
	// The largest first: what is around a path is around all within it, and is not asked about again.
	const bySize = [...paths.keys()].filter((i) => isPiece[i]).sort((i, j) => size[j] - size[i]);
	if (bySize.length === 0) return nesting;
	const places = new Flatbush(bySize.length);
	for (const i of bySize) {
		const { x0, y0, x1, y1 } = boxes[i];
		places.add(x0 - SLACK, y0 - SLACK, x1 + SLACK, y1 + SLACK);
	}
	places.finish();
	for (const i of bySize) {
		const { x0, y0 } = boxes[i];
		const isAsked = (k: number) => size[bySize[k]] > size[i] && holdsBox(boxes[bySize[k]], boxes[i]);
		const asked = places.search(x0, y0, x0, y0, isAsked);
		if (asked.length === 0) continue;
		const row = rowsBeside(set, bundles, paths[i]);
		const least = bySize[asked.reduce((most, k) => Math.max(most, k))];
		const isIn = isAround(row, least);
		if (isIn && counts[least] + 1 === asked.length) {
			nearest[i] = [least];
			counts[i] = asked.length;
			nesting[i] = { parent: least, depth: nesting[least].depth + times[least] };
			continue;
		}
		const known = new Set<number>();
		const near: number[] = [];
		for (const k of asked.sort((p, q) => q - p)) {
			const j = bySize[k];
			if (known.has(j) || !(j === least ? isIn : isAround(row, j))) continue;
			near.push(j);
			addWithAround(j, known);
		}
		nearest[i] = near;
		counts[i] = known.size;
		let depth = 0;
		for (const j of known) depth += times[j];
		nesting[i] = { parent: near[0], depth };
	}
	return nesting;

	function addWithAround(first: number, known: Set<number>): void {
		const open = [first];
		for (let j = open.pop(); j !== undefined; j = open.pop()) {
			if (known.has(j)) continue;
			known.add(j);
			open.push(...nearest[j]);
		}
	}

	/** Whether path j winds an odd number of times around all the places. */
	function isAround(row: (k: number) => Row, j: number): boolean {
		for (let k = 0; k < ASKED; k++) {
			const { place, segments } = row(k);
			let winding = 0;
			for (const s of segments)
				if (set.pathOf[s] === j)
					winding += rayCrossings(set.types[s], set.segs, STRIDE * s, place.x, place.y, set.boxes[4 * s + 2]);
			if (winding % 2 === 0) return false;
		}
		return true;
	}
}

const holdsBox = (outer: Box, inner: Box): boolean =>
	outer.x0 <= inner.x0 + SLACK &&
	outer.x1 >= inner.x1 - SLACK &&
	outer.y0 <= inner.y0 + SLACK &&
	outer.y1 >= inner.y1 - SLACK;

/** A place on a path, and the segments to its left that lie at its height. */
interface Row {
	readonly place: Point;
	readonly segments: readonly number[];
}

/** The rows beside some places of a path, each looked for when it is first asked for. */
function rowsBeside(set: SegmentSet, bundles: BundleIndex, { types, segs }: Path): (k: number) => Row {
	const rows: Row[] = [];
	return (k) => {
		if (rows[k]) return rows[k];
		// Spread along the path, at odd places, so that no common anchor is hit.
		const at = types.length * ((k + 0.4123) / ASKED);
		const segment = Math.min(types.length - 1, Math.floor(at));
		const place = pointAt(types[segment], segs, STRIDE * segment, Math.min(0.97, at - segment));
		const segments = segmentsIn(set, bundles, -Infinity, place.y, place.x, place.y);
		return (rows[k] = { place, segments });
	};
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
