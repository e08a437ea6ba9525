/** A bridge between two ends of lines that follows both. */
import { MEET_WAYS, type BridgeEnd, type MeetWay } from '../../fit/meet-ways';
import { isSimilarity } from '../../geometry/path';
import { isNumber } from './given-places';
import { Late } from './late';
import { isEndOf, type EndOf } from './line-ends';
import type { RecipeField, RecipeType } from './recipe-type';

export interface BridgeSettings {
	readonly ends: readonly [BridgeEnd & EndOf, BridgeEnd & EndOf];
}

const WAY_WORDS: Record<MeetWay, string> = {
	place: 'in place',
	direction: 'in direction',
	curvature: 'in curvature'
};
export const LEAST_PULL = 0.05;
export const MOST_PULL = 10;

export const bridgeLate = new Late<BridgeSettings>();

export const bridgeRecipe: RecipeType<BridgeSettings> = {
	word: () => 'bridge',
	inputs: { least: 1, most: 2 },
	engine: 1,
	isDear: () => false,
	late: bridgeLate,
	resolve: (inputs, settings, draft) => bridgeLate.resolve(inputs, settings, draft),
	carried: (settings, map) => (isSimilarity(map) ? settings : undefined),
	fields: ({ ends }): RecipeField[] =>
		ends.flatMap(({ way }, k): RecipeField[] => [
			{
				name: `way${k}`,
				word: `how it meets end ${k + 1}`,
				kind: 'choice',
				items: MEET_WAYS.map((value) => ({ value, word: WAY_WORDS[value] }))
			},
			...(way === 'place'
				? []
				: [
						{
							name: `pull${k}`,
							word: `goes on at ${k + 1}`,
							kind: 'share',
							least: LEAST_PULL,
							most: MOST_PULL
						} as const
					])
		]),
	numbers: ({ ends }) =>
		Object.fromEntries(
			ends.flatMap(({ way, pull }, k) => [
				[`way${k}`, way],
				[`pull${k}`, pull]
			])
		),
	typed: (settings, name, value) => {
		const which = Number(name.at(-1));
		const said = name.startsWith('way') ? { way: value as MeetWay } : { pull: value as number };
		const [first, second] = settings.ends.map((end, k) => (k === which ? { ...end, ...said } : end));
		return { ...settings, ends: [first, second] };
	},
	holds: ({ ends }) =>
		Array.isArray(ends) &&
		ends.length === 2 &&
		ends.every(
			(end: Record<string, unknown>) =>
				isEndOf(end) &&
				MEET_WAYS.includes((end as unknown as BridgeEnd).way) &&
				isNumber((end as unknown as BridgeEnd).pull) &&
				(end as unknown as BridgeEnd).pull > 0
		)
};
