/**
 * Records as older versions wrote them, made what they are now. One function a version, each from the one before; the drawing
 * file and the browser's database use the same.
 */
import type { DrawingRecord } from './drawing';
import { givenOutline } from './edits/made';
import type { Change, Step } from './history';
import type { Outline } from './outline';
import { hashOf } from './prints';
import { RECIPES, type Recipe } from './recipes/recipes';
import type { ShapeRecipe } from './recipes/shapes';

/** Version of records and steps: raised with every change of what they hold. */
export const RECORD_VERSION = 3;

type Old = DrawingRecord | (Omit<Outline, 'recipe'> & { readonly recipe?: ShapeRecipe | Recipe });

/** What each version changed in one record. Version 1 is the first; what came with 2 may be missing. */
const UPGRADES: Readonly<Record<number, (record: Old) => DrawingRecord>> = {
	1: (record) => record as DrawingRecord,
	2: recipesWithKinds
};

/**
 * Before version 3 a ready shape's recipe was its numbers alone, and its rounded corners were anchors. Now it is a recipe of
 * a kind, its anchors are those of the shape before rounding, counted from 1.
 */
function recipesWithKinds(record: Old): DrawingRecord {
	if (record.type !== 'outline' || !record.recipe || 'kind' in record.recipe) return record as DrawingRecord;
	const settings = record.recipe;
	const outline = record as Outline;
	if ('corner' in settings && settings.corner > 0) {
		try {
			return { ...outline, ...pathOf(givenOutline('shape', settings, outline)) };
		} catch {
			// A corner that does not fit: the line stays, as plain anchors.
			const { recipe: _, ...plain } = outline;
			return plain;
		}
	}
	const anchors = outline.anchors.map((_, i) => i + 1);
	const recipe: Recipe = {
		kind: 'shape',
		inputs: [],
		settings,
		engine: RECIPES.shape.engine,
		made: hashOf(JSON.stringify(settings))
	};
	return { ...outline, anchors, nextAnchor: anchors.length + 1, recipe };
}

const pathOf = ({ anchors, points, marks, nextAnchor, closed, recipe }: Outline) => ({
	anchors,
	points,
	marks,
	nextAnchor,
	closed,
	recipe
});

/** A record of an older version as it is now. */
export function upgradeRecord(record: unknown, from: number): DrawingRecord {
	let now = record as Old;
	for (let v = from; v < RECORD_VERSION; v++) now = UPGRADES[v]?.(now) ?? now;
	return now as DrawingRecord;
}

/** A step of an older version as it is now: records replaced are upgraded; stretches exchanged fit plain lines as they are. */
export function upgradeStep(step: Step, from: number): Step {
	if (from >= RECORD_VERSION) return step;
	return {
		...step,
		changes: step.changes.map((c): Change =>
			c.how === 'replace'
				? {
						...c,
						...(c.before ? { before: upgradeRecord(c.before, from) } : {}),
						...(c.after ? { after: upgradeRecord(c.after, from) } : {})
					}
				: c
		)
	};
}
