/** A facing: what of a piece lies within a depth of some of its edges, as a piece of its own that follows. */
import { isNumber } from './given-places';
import { Late } from './late';
import { DEAR_SEGMENTS, segmentsOf, type RecipeType } from './recipe-type';
import { scaledLengths } from './scaled-lengths';

export interface FacingSettings {
	/** Ids of the edges that are faced. */
	readonly edges: readonly number[];
	/** mm into the piece. */
	readonly depth: number;
}

export const facingLate = new Late<FacingSettings>();

export const facingRecipe: RecipeType<FacingSettings> = {
	word: () => 'facing',
	inputs: { least: 1, most: 1 },
	engine: 1,
	isDear: (inputs) => segmentsOf(inputs) > DEAR_SEGMENTS,
	late: facingLate,
	resolve: (inputs, settings, draft) => facingLate.resolve(inputs, settings, draft),
	carried: (settings, map) => scaledLengths(settings, ['depth'], map),
	fields: () => [{ name: 'depth', word: 'depth', kind: 'length', least: 0.1, most: 10_000 }],
	holds: ({ edges, depth }) =>
		Array.isArray(edges) &&
		edges.every((id) => Number.isInteger(id)) &&
		isNumber(depth) &&
		(depth as number) > 0
};
