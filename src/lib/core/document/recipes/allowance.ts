/** An allowance that follows its pieces: a width outside of each edge, by default one for all. */
import { ALLOWANCE_CORNERS, type AllowanceCorner } from '../../plane/allowance-corners';
import { Late } from './late';
import { scaledLengths } from './scaled-lengths';
import { DEAR_SEGMENTS, segmentsOf, type RecipeField, type RecipeType } from './recipe-type';

export interface AllowanceSettings {
	/** mm, of every edge that carries none of its own. */
	readonly width: number;
	readonly corner: AllowanceCorner;
}

export const allowanceLate = new Late<AllowanceSettings>();

export const allowanceRecipe: RecipeType<AllowanceSettings> = {
	word: () => 'allowance',
	inputs: { least: 1, most: Infinity },
	engine: 1,
	isDear: (inputs) => segmentsOf(inputs) > DEAR_SEGMENTS,
	late: allowanceLate,
	resolve: (inputs, settings, draft) => allowanceLate.resolve(inputs, settings, draft),
	carried: (settings, map) => scaledLengths(settings, ['width'], map),
	fields: (): RecipeField[] => [
		{ name: 'width', word: 'width', kind: 'length', least: 0, most: 1000 },
		{
			name: 'corner',
			word: 'corners',
			kind: 'choice',
			items: [
				{ value: 'miter', word: 'mitred' },
				{ value: 'bevel', word: 'bevelled' },
				{ value: 'round', word: 'round' },
				{ value: 'fold', word: 'folded back' },
				{ value: 'square', word: 'square' },
				{ value: 'step', word: 'stepped' }
			]
		}
	],
	holds: ({ width, corner }) =>
		typeof width === 'number' &&
		width >= 0 &&
		width <= 10_000 &&
		ALLOWANCE_CORNERS.includes(corner as AllowanceCorner)
};
