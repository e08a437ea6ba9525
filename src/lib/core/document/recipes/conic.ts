/** A conic: two ends, the shoulder where their tangents meet, and a fullness or the radius below the shoulder. */
import { conicKind, fullnessFor, radiusAtShoulder, type Conic } from '../../fit/conic';
import { placed } from '../../geometry/maps';
import { isNumber, isPoint } from './given-places';
import { Late } from './late';
import type { RecipeType } from './recipe-type';

export type ConicSettings = Conic;
export const conicLate = new Late<ConicSettings>();

const KEYS = ['start', 'shoulder', 'end'] as const;
type Key = (typeof KEYS)[number];

export const conicRecipe: RecipeType<ConicSettings> = {
	word: conicKind,
	inputs: { least: 0, most: 0 },
	engine: 1,
	isDear: () => false,
	late: conicLate,
	resolve: (inputs, settings, draft) => conicLate.resolve(inputs, settings, draft),
	carried: (settings, map) => {
		const at = (key: Key) => placed(map, settings[key].x, settings[key].y);
		return { ...settings, start: at('start'), shoulder: at('shoulder'), end: at('end') };
	},
	fields: () => [
		{ name: 'fullness', word: 'fullness', kind: 'share', least: 0.001, most: 0.999 },
		{ name: 'radius', word: 'radius at the shoulder', kind: 'length', least: 0.001, most: 100_000 }
	],
	numbers: (settings) => ({ fullness: settings.fullness, radius: radiusAtShoulder(settings) }),
	typed: (settings, name, value) => ({
		...settings,
		fullness: name === 'radius' ? fullnessFor(settings, value as number) : (value as number)
	}),
	places: {
		of: (settings) =>
			KEYS.map((key) => {
				const { x, y } = settings[key];
				return { key, x, y, looks: key === 'shoulder' ? ('vertex' as const) : ('end' as const) };
			}),
		frame: ({ start, shoulder, end }) => ({ row: [start, shoulder, end], closed: false }),
		moved: (settings, key, { x, y }) => ({ ...settings, [key]: { x, y } })
	},
	holds: ({ start, shoulder, end, fullness }) =>
		[start, shoulder, end].every(isPoint) && isNumber(fullness) && fullness > 0 && fullness < 1
};
