/** Recipes of which some lines that they go by are gone. */
import { detached, sourceLine, type Outline } from './outline';
import { recipeType, type Recipe } from './recipes/recipes';

/** The outline without the inputs that are not there: it goes on without them where its kind can, else it is plain. */
export function withoutInputs(outline: Outline, isThere: (record: string) => boolean): Outline {
	const { recipe } = outline;
	if (!recipe || recipe.inputs.every(({ record }) => isThere(record))) return outline;
	const type = recipeType(recipe);
	if (!type.unbound) return detached(outline);
	let { settings }: { settings: unknown } = recipe;
	const line = sourceLine(outline);
	// From the last on, so that the numbers of those before it stay.
	for (let k = recipe.inputs.length - 1; k >= 0; k--)
		if (!isThere(recipe.inputs[k].record)) settings = type.unbound(settings, k, line);
	const inputs = recipe.inputs.filter(({ record }) => isThere(record));
	return { ...outline, recipe: { ...recipe, inputs, settings, made: '' } as Recipe };
}
