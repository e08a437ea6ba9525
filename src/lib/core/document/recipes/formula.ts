/** A curve given as a formula: x(t), y(t); y over x; or the radius over the angle. */
import { evenMap, placed } from '../../geometry/maps';
import { isNumber } from './given-places';
import { Late } from './late';
import type { RecipeField, RecipeType } from './recipe-type';

export type FormulaForm = 'x and y' | 'y over x' | 'radius';

export interface FormulaSettings {
	readonly form: FormulaForm;
	/** Of t; of x or of the angle a, where there is only one. mm. */
	readonly first: string;
	readonly second: string;
	readonly from: number;
	readonly to: number;
	/** Angles, and the range of an angle, in degrees. */
	readonly degrees: boolean;
	readonly closed: boolean;
	/** Named numbers that stand in it. */
	readonly sizes: Readonly<Record<string, number>>;
	/** Where its zero lies, mm; how it is turned, degrees; and scaled. */
	readonly x: number;
	readonly y: number;
	readonly angle: number;
	readonly scale: number;
	readonly mirrored?: true;
}

export const formulaLate = new Late<FormulaSettings>();

/** What the running number is called. */
export const RUNNING: Readonly<Record<FormulaForm, string>> = {
	'x and y': 't',
	'y over x': 'x',
	radius: 'a'
};
const FIRST: Readonly<Record<FormulaForm, string>> = {
	'x and y': 'x(t)',
	'y over x': 'y(x)',
	radius: 'r(a)'
};
/** Before the name of a named number, where it is a field. */
const SIZE = 'size ';

export const formulaRecipe: RecipeType<FormulaSettings> = {
	word: () => 'formula',
	inputs: { least: 0, most: 0 },
	engine: 1,
	isDear: () => false,
	late: formulaLate,
	resolve: (inputs, settings, draft) => formulaLate.resolve(inputs, settings, draft),
	carried: (settings, map) => {
		const even = evenMap(map);
		if (!even) return undefined;
		const { mirrored, ...rest } = settings;
		return {
			...rest,
			...placed(map, settings.x, settings.y),
			angle: even.turned(settings.angle),
			scale: settings.scale * even.scale,
			...((mirrored === true) !== even.flips ? { mirrored: true as const } : {})
		};
	},
	fields: ({ form, sizes }): RecipeField[] => [
		{
			name: 'form',
			word: 'given as',
			kind: 'choice',
			items: (Object.keys(RUNNING) as FormulaForm[]).map((value) => ({ value, word: value }))
		},
		{ name: 'first', word: FIRST[form], kind: 'text' },
		...(form === 'x and y' ? [{ name: 'second', word: 'y(t)', kind: 'text' as const }] : []),
		{ name: 'from', word: `${RUNNING[form]} from`, kind: 'share', least: -1e6, most: 1e6 },
		{ name: 'to', word: 'to', kind: 'share', least: -1e6, most: 1e6 },
		...Object.keys(sizes).map((name) => ({
			name: SIZE + name,
			word: name,
			kind: 'share' as const,
			least: -1e6,
			most: 1e6
		})),
		{
			name: 'ends',
			word: 'ends',
			kind: 'choice',
			items: [
				{ value: 'open', word: 'open' },
				{ value: 'closed', word: 'closed' }
			]
		},
		{
			name: 'angles',
			word: 'angles',
			kind: 'choice',
			items: [
				{ value: 'degrees', word: 'degrees' },
				{ value: 'radians', word: 'radians' }
			]
		}
	],
	numbers: (settings) => ({
		...(settings as unknown as Record<string, number>),
		...Object.fromEntries(Object.entries(settings.sizes).map(([name, value]) => [SIZE + name, value])),
		ends: settings.closed ? 'closed' : 'open',
		angles: settings.degrees ? 'degrees' : 'radians'
	}),
	typed: (settings, name, value) => {
		if (name.startsWith(SIZE))
			return { ...settings, sizes: { ...settings.sizes, [name.slice(SIZE.length)]: value as number } };
		if (name === 'ends') return { ...settings, closed: value === 'closed' };
		if (name === 'angles') return { ...settings, degrees: value === 'degrees' };
		return { ...settings, [name]: value };
	},
	holds: ({ form, first, second, from, to, degrees, closed, sizes, x, y, angle, scale }) =>
		(form as string) in RUNNING &&
		typeof first === 'string' &&
		typeof second === 'string' &&
		[from, to, x, y, angle, scale].every(isNumber) &&
		(scale as number) > 0 &&
		typeof degrees === 'boolean' &&
		typeof closed === 'boolean' &&
		typeof sizes === 'object' &&
		sizes !== null &&
		Object.values(sizes).every(isNumber)
};
