/** The table of recipe kinds. A new kind is its own file and a line here. */
import { allowanceRecipe, type AllowanceSettings } from './allowance';
import { bandRecipe, type BandSettings } from './band';
import { betweenRecipe, type BetweenSettings } from './between';
import { bridgeRecipe, type BridgeSettings } from './bridge';
import { combinedRecipe, type CombinedSettings } from './combined';
import { conicRecipe, type ConicSettings } from './conic';
import { cornerRecipe, type CornerSettings } from './corner';
import { facingRecipe, type FacingSettings } from './facing';
import { formulaRecipe, type FormulaSettings } from './formula';
import { offsetRecipe, type OffsetSettings } from './offset';
import { pulledRecipe, type PulledSettings } from './pulled';
import type { Ref, RecipeType } from './recipe-type';
import { rosetteRecipe, type RosetteSettings } from './rosette';
import { shapeRecipe, type ShapeRecipe } from './shapes';
import { throughRecipe, type ThroughRecipeSettings } from './through';
import type { Round } from '../rounds';

/** What the settings of each kind are. */
export interface RecipeSettings {
	shape: ShapeRecipe;
	offset: OffsetSettings;
	allowance: AllowanceSettings;
	between: BetweenSettings;
	band: BandSettings;
	combined: CombinedSettings;
	bridge: BridgeSettings;
	corner: CornerSettings;
	rosette: RosetteSettings;
	facing: FacingSettings;
	through: ThroughRecipeSettings;
	pulled: PulledSettings;
	conic: ConicSettings;
	formula: FormulaSettings;
}
export type RecipeKind = keyof RecipeSettings;

export const RECIPES: { readonly [K in RecipeKind]: RecipeType<RecipeSettings[K]> } = {
	shape: shapeRecipe,
	offset: offsetRecipe,
	allowance: allowanceRecipe,
	between: betweenRecipe,
	band: bandRecipe,
	combined: combinedRecipe,
	bridge: bridgeRecipe,
	corner: cornerRecipe,
	rosette: rosetteRecipe,
	facing: facingRecipe,
	through: throughRecipe,
	pulled: pulledRecipe,
	conic: conicRecipe,
	formula: formulaRecipe
};

/** What an outline was made from; its anchors beside it are the result. */
export interface RecipeOf<K extends RecipeKind> {
	readonly kind: K;
	readonly inputs: readonly Ref[];
	readonly settings: RecipeSettings[K];
	/** Version of the engine that made the result. */
	readonly engine: number;
	/** Print of the inputs and settings that the result was made from; '' where it is still to be made. */
	readonly made: string;
	/** Several outlines that one recipe gives share a set; one alone is its own. */
	readonly set?: string;
	/** Which of the set's lines this one is. */
	readonly part?: string;
	/** Parts of the set that a person took out. */
	readonly without?: readonly string[];
	/** The line is travelled the other way. */
	readonly reversed?: true;
	/** Corners that the recipe itself rounds. */
	readonly rounds?: readonly Round[];
	/** The result is that of older inputs; the newer is being reckoned. */
	readonly stale?: true;
	/** Why nothing could be made of the inputs as they are: the line is empty. */
	readonly problem?: string;
}
export type Recipe = { [K in RecipeKind]: RecipeOf<K> }[RecipeKind];

/** The kind of a recipe as what can be done with any: its settings are those of the kind. */
export const recipeType = (recipe: Pick<Recipe, 'kind'>): RecipeType<unknown> =>
	RECIPES[recipe.kind] as unknown as RecipeType<unknown>;
