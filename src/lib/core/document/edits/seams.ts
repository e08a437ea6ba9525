/** Seams that belong together: edges of pieces, one after another, beside those that they are sewn to. */
import type { Point } from '../../geometry/point';
import { edgeLength, edgesOf, type Edge } from '../edges';
import { markOn, placeOnEdge } from '../marks';
import type { Mark } from '../drawing';
import type { Outline } from '../outline';

/** An edge of a seam. */
export interface SeamEdge {
	readonly outline: Outline;
	readonly edge: Edge;
}
/** Edges in the order in which they are walked. */
export type Seam = readonly SeamEdge[];

/** mm of all edges together. */
export const seamLength = (seam: Seam): number =>
	seam.reduce((sum, { outline, edge }) => sum + edgeLength(outline, edge), 0);

/** Edges of one outline in the order of its travel, begun where those that lie together begin; of several as they were picked. */
export function inOrder(seam: Seam): Seam {
	const ids = new Set(seam.map(({ outline }) => outline.id));
	if (ids.size !== 1 || seam.length < 2) return seam;
	const all = edgesOf(seam[0].outline);
	const picked = new Set(seam.map(({ edge }) => edge.id));
	const n = all.length;
	// Begun behind an edge that is not picked, so that a seam over the start of the line is one.
	const begin = all.findIndex(({ id }, i) => picked.has(id) && !picked.has(all[(i + n - 1) % n].id));
	return Array.from({ length: n }, (_, k) => all[(Math.max(0, begin) + k) % n])
		.filter(({ id }) => picked.has(id))
		.map((edge) => ({ outline: seam[0].outline, edge }));
}

/** The place so many mm along a seam, and whose it is. @param back whether it is walked from its end. */
export function alongSeam(
	seam: Seam,
	mm: number,
	back: boolean
): (Point & { readonly outline: Outline }) | undefined {
	let left = back ? seamLength(seam) - mm : mm;
	for (const [k, { outline, edge }] of seam.entries()) {
		const long = edgeLength(outline, edge);
		if (left > long && k < seam.length - 1) {
			left -= long;
			continue;
		}
		const { x, y } = placeOnEdge(outline, edge, long > 0 ? left / long : 0);
		return { x, y, outline };
	}
	return undefined;
}

/** Where notches lie on each of two seams, mm from where they are begun. */
export interface NotchSettings {
	/** How many, between the ends. */
	readonly count: number;
	/** At the same distance from where both begin, or at the same share of each. */
	readonly by: 'distance' | 'share';
	/** The second is walked from its end. */
	readonly back: boolean;
}

/** The places of notches in pairs: on the first and on the second. */
export function notchPairs(
	first: Seam,
	second: Seam,
	{ count, by, back }: NotchSettings
): { readonly a: Point & { outline: Outline }; readonly b: Point & { outline: Outline } }[] {
	const [la, lb] = [seamLength(first), seamLength(second)];
	return Array.from({ length: count }, (_, i) => (i + 1) / (count + 1)).flatMap((share) => {
		const a = alongSeam(first, share * la, false);
		const b = alongSeam(second, by === 'share' ? share * lb : Math.min(lb, share * la), back);
		return a && b ? [{ a, b }] : [];
	});
}

/** Notches on both seams, as marks that stay at their share of the edge. */
export function notchMarks(
	pairs: ReturnType<typeof notchPairs>,
	like: Pick<Mark, 'form' | 'size'> & { readonly layerOf: (outline: Outline) => string },
	facts: () => Pick<Mark, 'id' | 'rank'>
): Mark[] {
	return pairs.flatMap(({ a, b }) =>
		[a, b].map(({ outline, x, y }) =>
			markOn(
				{ type: 'mark', ...facts(), layer: like.layerOf(outline), x, y, form: like.form, size: like.size },
				outline
			)
		)
	);
}
