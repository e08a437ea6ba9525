/** An offset that follows its line: so far outside, inside or beside it, in one or several steps. */
import type { StepOptions } from '../../plane/offset-steps';
import { Late } from './late';
import { DEAR_SEGMENTS, segmentsOf, type RecipeField, type RecipeType } from './recipe-type';
import { scaledLengths } from './scaled-lengths';

/** Lengths in mm; what each means: `StepOptions`. */
export type OffsetSettings = Required<
	Pick<StepOptions, 'distance' | 'steps' | 'way' | 'join' | 'miterLimit' | 'side' | 'ends' | 'band'>
>;

export const JOIN_WORDS = [
	{ value: 'round', word: 'round' },
	{ value: 'miter', word: 'mitred' },
	{ value: 'bevel', word: 'bevelled' }
] as const;

export const offsetLate = new Late<OffsetSettings>();

export const offsetRecipe: RecipeType<OffsetSettings> = {
	word: ({ way, side, band }) =>
		band
			? 'band'
			: side !== 'both'
				? `offset, ${side}`
				: way === 'both'
					? 'offset, both ways'
					: `offset, ${way}`,
	inputs: { least: 1, most: Infinity },
	engine: 1,
	isDear: (inputs, { steps, way }) => segmentsOf(inputs) * steps * (way === 'both' ? 2 : 1) > DEAR_SEGMENTS,
	late: offsetLate,
	resolve: (inputs, settings, draft) => offsetLate.resolve(inputs, settings, draft),
	carried: (settings, map) => {
		const scaled = scaledLengths(settings, ['distance'], map);
		const flips = map[0] * map[3] - map[1] * map[2] < 0;
		if (!scaled || !flips || scaled.side === 'both') return scaled;
		return { ...scaled, side: scaled.side === 'left' ? 'right' : 'left' };
	},
	fields: ({ steps, join }): RecipeField[] => [
		{ name: 'distance', word: 'distance', kind: 'length', least: 0.001, most: 1000 },
		{ name: 'steps', word: 'steps', kind: 'count', least: 1, most: Math.max(100, steps) },
		{ name: 'join', word: 'corners', kind: 'choice', items: JOIN_WORDS },
		...(join === 'miter'
			? [{ name: 'miterLimit', word: 'mitre up to', kind: 'share', least: 1, most: 50 } as const]
			: [])
	],
	holds: ({ distance, steps, way, join, side, ends, band, miterLimit }) =>
		typeof distance === 'number' &&
		distance > 0 &&
		Number.isInteger(steps) &&
		(steps as number) >= 1 &&
		['outside', 'inside', 'both'].includes(way as string) &&
		['round', 'miter', 'bevel'].includes(join as string) &&
		['left', 'right', 'both'].includes(side as string) &&
		['butt', 'square', 'round'].includes(ends as string) &&
		typeof band === 'boolean' &&
		typeof miterLimit === 'number'
};
