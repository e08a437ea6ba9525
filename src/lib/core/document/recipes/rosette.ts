/** One closed line of an open one turned about a centre until it comes back to its start: it follows the one that is drawn. */
import { evenMap, placed } from '../../geometry/maps';
import { isNumber } from './given-places';
import { Late } from './late';
import { segmentsOf, type RecipeField, type RecipeType } from './recipe-type';

export interface RosetteSettings {
	/** The centre, mm. */
	readonly x: number;
	readonly y: number;
	/** How many times the line comes round. */
	readonly count: number;
	/** Each time it is followed by its mirror image, so that every leaf is even. */
	readonly mirrored: boolean;
	/** How it goes on where two meet. */
	readonly joint: 'smooth' | 'corner';
}

/** A rosette of more is a row of teeth. */
const MOST = 360;

export const rosetteLate = new Late<RosetteSettings>();

export const rosetteRecipe: RecipeType<RosetteSettings> = {
	word: () => 'rosette',
	inputs: { least: 1, most: 1 },
	engine: 1,
	isDear: (inputs, { count }) => segmentsOf(inputs) * count > 4000,
	late: rosetteLate,
	resolve: (inputs, settings, draft) => rosetteLate.resolve(inputs, settings, draft),
	carried: (settings, map) =>
		evenMap(map) ? { ...settings, ...placed(map, settings.x, settings.y) } : undefined,
	fields: (): RecipeField[] => [
		{ name: 'count', word: 'times', kind: 'count', least: 2, most: MOST },
		{
			name: 'joint',
			word: 'where they meet',
			kind: 'choice',
			items: [
				{ value: 'smooth', word: 'smooth' },
				{ value: 'corner', word: 'corner' }
			]
		}
	],
	holds: ({ x, y, count, mirrored, joint }) =>
		isNumber(x) &&
		isNumber(y) &&
		Number.isInteger(count) &&
		(count as number) >= 2 &&
		(count as number) <= MOST &&
		typeof mirrored === 'boolean' &&
		(joint === 'smooth' || joint === 'corner')
};
