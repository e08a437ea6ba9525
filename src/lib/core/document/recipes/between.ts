/** Lines in between two outlines, or through several: they follow their sources. */
import type { Easing } from '../../fit/between';
import { isNumber } from './given-places';
import { Late } from './late';
import type { RecipeType } from './recipe-type';

export interface BetweenSettings {
	/** Lines between each two. */
	readonly count: number;
	readonly easing: Easing;
	/** The start of each next line, moved along it by that share from where the shapes match. */
	readonly shift: number;
	/** Its direction: as the shapes say, or the other. */
	readonly way: 'matched' | 'other';
}

export const betweenLate = new Late<BetweenSettings>();
const EASINGS: readonly Easing[] = ['even', 'start', 'end', 'both'];
const MOST = 200;

export const betweenRecipe: RecipeType<BetweenSettings> = {
	word: () => 'in between',
	inputs: { least: 2, most: 50 },
	engine: 1,
	isDear: (inputs, { count }) => count * inputs.reduce((sum, { path }) => sum + path.types.length, 0) > 120,
	late: betweenLate,
	resolve: (inputs, settings, draft) => betweenLate.resolve(inputs, settings, draft),
	carried: (settings) => settings,
	fields: () => [
		{ name: 'count', word: 'how many', kind: 'count', least: 1, most: MOST },
		{
			name: 'easing',
			word: 'steps',
			kind: 'choice',
			items: [
				{ value: 'even', word: 'even' },
				{ value: 'start', word: 'close to the first' },
				{ value: 'end', word: 'close to the last' },
				{ value: 'both', word: 'close to both' }
			]
		},
		{ name: 'shift', word: 'start moved by', kind: 'share', least: -1, most: 1 },
		{
			name: 'way',
			word: 'direction',
			kind: 'choice',
			items: [
				{ value: 'matched', word: 'as shapes match' },
				{ value: 'other', word: 'the other way' }
			]
		}
	],
	holds: ({ count, easing, shift, way }) =>
		Number.isInteger(count) &&
		(count as number) >= 1 &&
		(count as number) <= MOST &&
		EASINGS.includes(easing as Easing) &&
		isNumber(shift) &&
		(way === 'matched' || way === 'other')
};
