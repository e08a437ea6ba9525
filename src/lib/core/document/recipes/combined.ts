/** Closed outlines made one that follows them: what any covers, what all cover, the first less the rest. */
import type { CombineOp } from '../../plane/area';
import { Late } from './late';
import { DEAR_SEGMENTS, segmentsOf, type RecipeType } from './recipe-type';

/** How outlines can be combined so that the result follows; all regions apart are picked by hand. */
export type FollowingOp = Exclude<CombineOp, 'regions'>;

export interface CombinedSettings {
	readonly op: FollowingOp;
}

export const COMBINED_WORDS: Record<FollowingOp, string> = {
	union: 'united',
	difference: 'what is left',
	intersection: 'what is common',
	xor: 'what one covers'
};

export const combinedLate = new Late<CombinedSettings>();

export const combinedRecipe: RecipeType<CombinedSettings> = {
	word: ({ op }) => COMBINED_WORDS[op],
	inputs: { least: 2, most: Infinity },
	engine: 1,
	isDear: (inputs) => segmentsOf(inputs) > DEAR_SEGMENTS,
	late: combinedLate,
	resolve: (inputs, settings, draft) => combinedLate.resolve(inputs, settings, draft),
	carried: (settings) => settings,
	fields: () => [
		{
			name: 'op',
			word: 'what stays',
			kind: 'choice',
			items: Object.entries(COMBINED_WORDS).map(([value, word]) => ({ value, word }))
		}
	],
	holds: ({ op }) => typeof op === 'string' && Object.hasOwn(COMBINED_WORDS, op)
};
