/** The outline of a line that has a width: it follows the line, and its widths lie at the line's anchors. */
import { evenMap } from '../../geometry/maps';
import { TAPERS, type Taper, type WidthAt } from '../../plane/tapers';
import { isNumber } from './given-places';
import { Late } from './late';
import { JOIN_WORDS, type OffsetSettings } from './offset';
import { DEAR_SEGMENTS, segmentsOf, type InputLine, type RecipeField, type RecipeType } from './recipe-type';
import { scaledLengths } from './scaled-lengths';

/** What is said of the width at an anchor of the line, mm; where one side says nothing it is the width of the rest. */
export interface WidthAtAnchor {
	readonly anchor: number;
	readonly before?: number;
	readonly after?: number;
}

export interface BandSettings {
	/** mm, of all that says nothing else. */
	readonly width: number;
	readonly widths: readonly WidthAtAnchor[];
	readonly taper: Taper;
	readonly join: OffsetSettings['join'];
	readonly ends: OffsetSettings['ends'];
}

export const TAPER_WORDS = [
	{ value: 'even', word: 'evenly' },
	{ value: 'eased', word: 'softly' },
	{ value: 'steps', word: 'in steps' }
] as const;
export const END_WORDS = [
	{ value: 'butt', word: 'cut straight' },
	{ value: 'square', word: 'square' },
	{ value: 'round', word: 'round' }
] as const;

export const bandLate = new Late<BandSettings>();

export const bandRecipe: RecipeType<BandSettings> = {
	word: () => 'band',
	inputs: { least: 1, most: 1 },
	engine: 1,
	isDear: (inputs) => segmentsOf(inputs) > DEAR_SEGMENTS / 2,
	late: bandLate,
	resolve: (inputs, settings, draft) => bandLate.resolve(inputs, settings, draft),
	carried: (settings, map) => {
		const own = scaledLengths(settings, ['width'], map);
		if (!own || own === settings) return own;
		const scaled = (mm: number | undefined) => mm && mm * evenMap(map)!.scale;
		return {
			...own,
			widths: settings.widths.map(({ anchor, before, after }) =>
				widthAt(anchor, scaled(before), scaled(after))
			)
		};
	},
	fields: (): RecipeField[] => [
		{ name: 'width', word: 'width', kind: 'length', least: 0, most: 10_000 },
		{ name: 'taper', word: 'widths change', kind: 'choice', items: TAPER_WORDS },
		{ name: 'join', word: 'corners', kind: 'choice', items: JOIN_WORDS },
		{ name: 'ends', word: 'ends', kind: 'choice', items: END_WORDS }
	],
	holds: ({ width, widths, taper, join, ends }) =>
		isWidth(width) &&
		Array.isArray(widths) &&
		widths.every(
			({ anchor, before, after }: WidthAtAnchor) =>
				Number.isInteger(anchor) &&
				(before === undefined || isWidth(before)) &&
				(after === undefined || isWidth(after))
		) &&
		TAPERS.includes(taper as Taper) &&
		JOIN_WORDS.some(({ value }) => value === join) &&
		END_WORDS.some(({ value }) => value === ends)
};

const isWidth = (value: unknown): boolean => isNumber(value) && value >= 0 && value <= 10_000;

/** What is said at an anchor, without what says nothing. */
export const widthAt = (
	anchor: number,
	before: number | undefined,
	after: number | undefined
): WidthAtAnchor => ({
	anchor,
	...(before === undefined ? {} : { before }),
	...(after === undefined ? {} : { after })
});

/** What is said of the width, by the index of the anchor. */
export const saidWidths = ({ roles }: InputLine, widths: readonly WidthAtAnchor[]): WidthAt[] => {
	const at = new Map(roles.map((role, i) => [role, i]));
	return widths
		.flatMap(({ anchor, before, after }) => {
			const place = at.get(String(anchor));
			return place === undefined ? [] : [{ at: place, before, after }];
		})
		.sort((a, b) => a.at - b.at);
};
