/** Outlines that are made by recipes: begun, given by their settings alone, changed in their settings, made plain. */
import { done, unwrap, type Problem, type Result } from '../../errors';
import { finish } from '../../progress';
import type { Drawing } from '../drawing';
import { graphOf, inputsOf, remade, setOf } from '../graph';
import type { Edit } from '../history';
import { detached, madePlain, type Outline, type OutlineFacts } from '../outline';
import { withoutInputs } from '../without-inputs';
import { takesLong } from '../recipes/recipe-type';
import { RECIPES, recipeType, type Recipe, type RecipeKind, type RecipeSettings } from '../recipes/recipes';

const NO_LINE = {
	type: 'outline',
	closed: false,
	nextAnchor: 1,
	anchors: new Uint32Array(0),
	points: new Float64Array(0),
	marks: new Uint8Array(0)
} as const;

/** A recipe whose result is still to be made. */
function begun<K extends RecipeKind>(
	kind: K,
	settings: RecipeSettings[K],
	sources: readonly Outline[] = []
): Recipe {
	const inputs = sources.map((source) => ({ record: source.id }));
	return { kind, inputs, settings, engine: RECIPES[kind].engine, made: '' } as unknown as Recipe;
}

const EMPTY: Drawing = { id: '', name: '', records: new Map() };

/**
 * An outline of that recipe with other settings, made at once; or why nothing comes of them.
 * @param records where lines lie that it goes by. @param inputs those lines, where they are others now.
 */
export function withGiven(
	outline: Outline,
	settings: RecipeSettings[RecipeKind],
	records: Drawing['records'] = EMPTY.records,
	inputs: Recipe['inputs'] = outline.recipe!.inputs
): Result<Outline> {
	const recipe = { ...outline.recipe!, inputs, settings } as Recipe;
	const { lines, print } = inputsOf(records, recipe) ?? { lines: [], print: '' };
	const made = finish(recipeType(recipe).resolve(lines, settings));
	if (!made.ok) return made;
	return done(remade(EMPTY, [{ ...outline, recipe }], lines, print, made).put[0]);
}

/** A ready shape or a curve given otherwise as an outline, its line made. @throws CoreError why there is none */
export const givenOutline = <K extends RecipeKind>(
	kind: K,
	settings: RecipeSettings[K],
	facts: OutlineFacts
): Outline => unwrap(withGiven({ ...facts, ...NO_LINE, recipe: begun(kind, settings) }, settings));

/**
 * A line that is made from others from now on, and made again whenever they change. What comes of it is made when the edit
 * becomes a step.
 */
export function addFollower<K extends RecipeKind>(
	kind: K,
	settings: RecipeSettings[K],
	sources: readonly Outline[],
	facts: OutlineFacts
): Edit {
	return { put: [{ ...facts, ...NO_LINE, recipe: begun(kind, settings, sources) }] };
}

/** All outlines that a recipe gives, with other settings: to be made again. */
export function withSettings(drawing: Drawing, outline: Outline, settings: object): Edit {
	const members = graphOf(drawing).sets.get(setOf(outline)) ?? [outline];
	return {
		put: members.map((o) => ({
			...o,
			recipe: { ...o.recipe!, settings: { ...o.recipe!.settings, ...settings }, made: '' } as Recipe
		}))
	};
}

/** Why nothing comes of a recipe with other settings; undefined where something does, or where it takes too long to tell. */
export function problemWith(drawing: Drawing, outline: Outline, settings: object): Problem | undefined {
	const { recipe } = outline;
	const input = recipe && inputsOf(drawing.records, recipe);
	if (!recipe || !input) return undefined;
	const type = recipeType(recipe);
	const next = { ...recipe.settings, ...settings };
	if (takesLong(type, input.lines, next)) return undefined;
	const result = finish(type.resolve(input.lines, next));
	return result.ok ? undefined : result.problem;
}

/** The outline made anew by the engine as it is now, where an older one made it. */
export const madeAnew = (drawing: Drawing, outline: Outline): Edit => withSettings(drawing, outline, {});

/** Whether an older engine made an outline than would now. */
export const isOfOlderEngine = ({ recipe }: Outline): boolean =>
	recipe !== undefined && recipe.engine < recipeType(recipe).engine;

/**
 * A copy of an outline, its recipe made from the copies of what it was made from; where those were not copied with it, it is
 * plain, since it would lie on what it was copied from.
 * @param copies the id of each copied outline's copy.
 */
export function copiedRecipe(copy: Outline, copies: ReadonlyMap<string, string>): Outline {
	const { recipe } = copy;
	if (!recipe?.inputs.length) return copy;
	if (!recipe.inputs.every(({ record }) => copies.has(record)))
		return withoutInputs(copy, (id) => copies.has(id));
	const inputs = recipe.inputs.map((ref) => ({ ...ref, record: copies.get(ref.record)! }));
	const set = recipe.set === undefined ? undefined : (copies.get(recipe.set) ?? `${recipe.set} copied`);
	return { ...copy, recipe: { ...recipe, inputs, made: '', ...(set ? { set } : {}) } as Recipe };
}

/** Outlines made plain; what else their recipes give stays as it is and is plain too. */
export function makePlain(drawing: Drawing, outlines: readonly Outline[]): Edit {
	const put = new Map<string, Outline>();
	for (const outline of outlines) {
		put.set(outline.id, madePlain(outline));
		for (const other of graphOf(drawing).sets.get(setOf(outline)) ?? [])
			if (!put.has(other.id)) put.set(other.id, detached(other));
	}
	return { put: [...put.values()] };
}
