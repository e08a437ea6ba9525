/** Recipes that are too dear for the hand are made by the worker. */
import { behind } from '../workers/geometry.client';
import type { MadeLine } from '../core/document/recipes/recipe-type';
import type { Result } from '../core/errors';
import type { MakeFar } from './document.svelte';

/** Asks the worker for what a recipe gives of its inputs. */
export const makeFar: MakeFar = async (set, recipe, lines) => {
	const { kind, settings } = recipe;
	const { answer: asked } = behind.run('make', [kind, [...lines], settings], { line: `make ${set}` });
	const answer = await asked;
	return answer.ok === 'stale' ? undefined : (answer as Result<readonly MadeLine[]>);
};
