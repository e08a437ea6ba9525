/** A corner between two lines that follows both: rounded, cut off or sharp, with an arm of each. */
import { isNumber } from './given-places';
import { Late } from './late';
import { isEndOf, type EndOf } from './line-ends';
import { scaledLengths } from './scaled-lengths';
import type { RecipeField, RecipeType } from './recipe-type';

export interface CornerHow {
	/** mm: radius, or length cut off on either side; 0: sharp. */
	readonly amount: number;
	readonly cutOff: boolean;
}

export interface CornerSettings extends CornerHow {
	/** The end of each line that stays. */
	readonly arms: readonly [EndOf, EndOf];
}

export const cornerLate = new Late<CornerSettings>();

export const cornerRecipe: RecipeType<CornerSettings> = {
	word: ({ amount, cutOff }) =>
		amount === 0 ? 'sharp corner' : cutOff ? 'corner cut off' : 'rounded corner',
	inputs: { least: 2, most: 2 },
	engine: 1,
	isDear: () => false,
	late: cornerLate,
	resolve: (inputs, settings, draft) => cornerLate.resolve(inputs, settings, draft),
	carried: (settings, map) => scaledLengths(settings, ['amount'], map),
	fields: ({ cutOff }): RecipeField[] => [
		{ name: 'amount', word: cutOff ? 'cut off' : 'radius', kind: 'length', least: 0, most: 10_000 }
	],
	holds: ({ amount, cutOff, arms }) =>
		isNumber(amount) &&
		(amount as number) >= 0 &&
		typeof cutOff === 'boolean' &&
		Array.isArray(arms) &&
		arms.length === 2 &&
		arms.every(isEndOf)
};
