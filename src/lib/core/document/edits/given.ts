/** Curves given otherwise than by anchors: begun, and changed in what they are given by. */
import { CoreError, done, type Result } from '../../errors';
import { finish } from '../../progress';
import type { Drawing } from '../drawing';
import { remade } from '../graph';
import type { Outline, OutlineFacts } from '../outline';
import { hashOf } from '../prints';
import { recipeType, RECIPES, type Recipe, type RecipeKind, type RecipeSettings } from '../recipes/recipes';

const EMPTY: Drawing = { id: '', name: '', records: new Map() };

/** Kinds that are made from nothing but their settings, and are no ready shapes. */
export type GivenKind = 'through' | 'pulled' | 'conic' | 'formula';

/** An outline given otherwise, its line made. @throws CoreError why there is none */
export function givenOutline<K extends GivenKind>(
	kind: K,
	settings: RecipeSettings[K],
	facts: OutlineFacts
): Outline {
	const recipe = { kind, inputs: [], settings, engine: RECIPES[kind].engine, made: '' } as unknown as Recipe;
	const made = withGiven(
		{
			...facts,
			type: 'outline',
			closed: false,
			nextAnchor: 1,
			anchors: new Uint32Array(0),
			points: new Float64Array(0),
			marks: new Uint8Array(0),
			recipe
		},
		settings
	);
	if (!made.ok) throw new CoreError(made.problem.code, made.problem.sentence);
	return made.value;
}

/** The outline with other settings, its line made at once; or why nothing comes of them. */
export function withGiven(outline: Outline, settings: RecipeSettings[RecipeKind]): Result<Outline> {
	const recipe = { ...outline.recipe!, settings } as Recipe;
	const type = recipeType(recipe);
	const made = finish(type.resolve([], settings));
	if (!made.ok) return made;
	const print = hashOf(JSON.stringify(settings));
	return done(remade(EMPTY, [{ ...outline, recipe }], [], print, made).put[0]);
}
