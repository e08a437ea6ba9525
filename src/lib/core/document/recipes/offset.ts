/** An offset that follows its line: so far outside, inside or beside it, in one or several steps. */
import { isSimilarity, type Affine, type Path } from '../../geometry/path';
import { nearestOnPath } from '../../geometry/pick';
import { done, failed } from '../../errors';
import { part } from '../../progress';
import { offsetStepsWork, type StepOptions } from '../../plane/offset-steps';
import {
	DEAR_SEGMENTS,
	segmentsOf,
	type InputLine,
	type MadeLine,
	type RecipeField,
	type RecipeType
} from './recipe-type';

/** Lengths in mm; what each means: `StepOptions`. */
export type OffsetSettings = Required<
	Pick<StepOptions, 'distance' | 'steps' | 'way' | 'join' | 'miterLimit' | 'side' | 'ends' | 'band'>
>;

export const JOIN_WORDS = [
	{ value: 'round', word: 'round' },
	{ value: 'miter', word: 'mitred' },
	{ value: 'bevel', word: 'bevelled' }
] as const;

/** Names each line of a result after the input it lies nearest to, counted where several do. */
function partsByInput(paths: readonly Path[], inputs: readonly InputLine[], prefix = ''): MadeLine[] {
	const taken = new Map<string, number>();
	return paths.map((path) => {
		let nearest = 0;
		let least = Infinity;
		inputs.forEach((input, i) => {
			const near = nearestOnPath(input.path, path.segs[0], path.segs[1], least);
			if (near && near.distance < least) {
				least = near.distance;
				nearest = i;
			}
		});
		const name = `${prefix}${nearest}`;
		const count = taken.get(name) ?? 0;
		taken.set(name, count + 1);
		return { path, part: count ? `${name}.${count}` : name };
	});
}

/** Settings with every length scaled as the map scales; undefined where it is no even one. */
export function scaledLengths<S extends object>(
	settings: S,
	names: readonly (keyof S)[],
	map: Affine
): S | undefined {
	if (!isSimilarity(map)) return undefined;
	const scale = Math.sqrt(Math.abs(map[0] * map[3] - map[1] * map[2]));
	// Moved, turned, mirrored: to the bit what it was.
	if (Math.abs(scale - 1) < 1e-12) return settings;
	return { ...settings, ...Object.fromEntries(names.map((n) => [n, (settings[n] as number) * scale])) };
}

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
	*resolve(inputs, settings, draft = false) {
		const made: MadeLine[] = [];
		let problem;
		for (let step = 1; step <= settings.steps; step++) {
			const result = yield* part(
				offsetStepsWork(
					inputs.map((input) => input.path),
					{ ...settings, distance: step * settings.distance, steps: 1, verify: !draft }
				),
				(step - 1) / settings.steps,
				step / settings.steps
			);
			if (!result.ok) {
				problem = result.problem;
				break;
			}
			made.push(...partsByInput(result.value.paths, inputs, settings.steps > 1 ? `${step}:` : ''));
		}
		return made.length || !problem ? done(made) : failed(problem.code, problem.sentence);
	},
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
