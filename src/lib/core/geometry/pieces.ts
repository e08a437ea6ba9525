/** Which outline is a hole of which: pieces are outer closed outlines with their holes. */
import { flattenPath } from './edge-tree';
import { pathArea, pathBox, windingNumber } from './measure';
import { reversePath, type Path } from './path';
import { TOLERANCE } from '../tolerance';

export interface Nesting {
	/** Index of the smallest closed path around this one; undefined for an outermost or open one. */
	readonly parent: number | undefined;
	/** How many closed paths lie around it. Odd ones are holes. */
	readonly depth: number;
}

/** Nesting of each path among the others, by the even-odd rule. Open paths have depth 0. */
export function nestPaths(paths: readonly Path[]): Nesting[] {
	const flat = paths.map((p) => (p.closed && p.types.length ? flattenPath(p, 0.01) : new Float64Array(0)));
	const boxes = paths.map(pathBox);
	const size = flat.map((f) => Math.abs(polygonArea(f)));
	return paths.map((path, i) => {
		if (flat[i].length < 6) return { parent: undefined, depth: 0 };
		let depth = 0;
		let parent: number | undefined;
		for (let j = 0; j < paths.length; j++) {
			if (j === i || flat[j].length < 6 || size[j] <= size[i]) continue;
			const b = boxes[j];
			const a = boxes[i];
			const m = TOLERANCE.coincidence;
			if (a.x0 < b.x0 - m || a.x1 > b.x1 + m || a.y0 < b.y0 - m || a.y1 > b.y1 + m) continue;
			if (!liesInside(flat[i], flat[j])) continue;
			depth++;
			if (parent === undefined || size[j] < size[parent]) parent = j;
		}
		return { parent, depth };
	});
}

function liesInside(inner: Float64Array, outer: Float64Array): boolean {
	// A majority of places decides, so that a touching anchor does not.
	let votes = 0;
	const step = 2 * Math.max(1, Math.floor(inner.length / 2 / 5));
	let asked = 0;
	for (let k = 0; k < inner.length; k += step) {
		const e = (k + 2) % inner.length;
		asked++;
		if (windingNumber(outer, (inner[k] + inner[e]) / 2, (inner[k + 1] + inner[e + 1]) / 2) % 2 !== 0) votes++;
	}
	return votes * 2 > asked;
}

function polygonArea(p: ArrayLike<number>): number {
	let sum = 0;
	for (let i = 0, j = p.length - 2; i < p.length; j = i, i += 2) sum += p[j] * p[i + 1] - p[i] * p[j + 1];
	return sum / 2;
}

/** The closed paths turned so that solids run anticlockwise and holes clockwise. Open paths are left out. */
export function orientPieces(paths: readonly Path[]): Path[] {
	const nesting = nestPaths(paths);
	const out: Path[] = [];
	paths.forEach((path, i) => {
		if (!path.closed || path.types.length === 0) return;
		const wanted = nesting[i].depth % 2 === 0 ? 1 : -1;
		out.push(Math.sign(pathArea(path)) === wanted ? path : reversePath(path));
	});
	return out;
}

/** Indexes of the closed paths by piece: the outer one first, then its holes. Open paths are left out. */
export function groupPieces(paths: readonly Path[]): number[][] {
	const nesting = nestPaths(paths);
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
