/** Lines that are given by places: these put, moved, typed and taken out. */
import { withGiven } from '../core/document/edits/given';
import { sourceLine, type Outline } from '../core/document/outline';
import { recipeType, type RecipeKind, type RecipeSettings } from '../core/document/recipes/recipes';
import { STRIDE } from '../core/geometry/path';
import type { Point } from '../core/geometry/point';
import { curvatureAt, directionAt } from '../core/geometry/segment';
import type { Bench } from './bench.svelte';
import { loadReckonings } from './reckonings';
import type { Given } from './selection.svelte';

type Settings = RecipeSettings[RecipeKind];

/** The outline with other settings; undefined where nothing comes of them, which is told where wanted. */
export function madeOf(
	bench: Bench,
	outline: Outline,
	settings: unknown,
	says: boolean
): Outline | undefined {
	// Not there yet: it is on its way, and the next move finds it.
	if (recipeType(outline.recipe!).late?.isThere === false) {
		void loadReckonings();
		return undefined;
	}
	const made = withGiven(outline, settings as Settings);
	if (made.ok) return made.value;
	if (says) bench.trouble(made.problem);
	return undefined;
}

/** The line given by other settings, as one step. @returns whether it is. */
export function changeGiven(bench: Bench, name: string, { outline }: Given, settings: unknown): boolean {
	const made = madeOf(bench, outline, settings, true);
	return made !== undefined && bench.commit(name, { put: [made] });
}

/** A place is put elsewhere. */
export function movePlace(bench: Bench, key: string, to: Point, name = 'Move a point'): void {
	const { given } = bench.selection;
	if (given) changeGiven(bench, name, given, given.kind.moved(given.settings, key, to));
}

export function nudgePlace(bench: Bench, dx: number, dy: number): void {
	const { given, place } = bench.selection;
	const at = given?.places.find(({ key }) => key === place);
	if (at) movePlace(bench, at.key, { x: at.x + dx, y: at.y + dy }, 'Nudge');
}

/** One more place, where the line is nearest to another. */
export function putPlace(bench: Bench, at: Point): boolean {
	const { given } = bench.selection;
	const put = given?.kind.put?.(given.settings, at);
	if (!given || !put) return false;
	if (!changeGiven(bench, 'Put a point in', given, put.settings)) return false;
	bench.selection.place = put.key;
	return true;
}

/** Takes the picked place out; of a direction only that. */
export function takePlaceOut(bench: Bench): void {
	const { given, place } = bench.selection;
	if (!given || place === undefined) return;
	const left = given.kind.without?.(given.settings, place);
	if (!left) {
		bench.tell('The line needs this point.', 'trouble');
		return;
	}
	if (changeGiven(bench, 'Take a point out', given, left)) bench.selection.place = undefined;
}

/** Picks the next place along the line, or the one before. */
export function walkPlaces(bench: Bench, step: 1 | -1): void {
	const { given, place } = bench.selection;
	if (!given?.places.length) return;
	const n = given.places.length;
	const at = given.places.findIndex(({ key }) => key === place);
	bench.selection.place = given.places[at < 0 ? (step > 0 ? 0 : n - 1) : (at + step + n) % n].key;
}

/** The middle of the span after the picked place, or of the first: where the next one comes to lie. */
export function putPlaceAfter(bench: Bench, step: 1 | -1): void {
	const { given, place } = bench.selection;
	if (!given) return;
	const list = given.places.filter(({ looks }) => looks !== 'tip');
	const i = Math.max(
		0,
		list.findIndex(({ key }) => key === place)
	);
	const [p, q] = [list[i], list[(i + step + list.length) % list.length]];
	if (!putPlace(bench, { x: (p.x + q.x) / 2, y: (p.y + q.y) / 2 }))
		bench.tell('No point can be put in there.', 'trouble');
}

/** The direction of a line at one of its anchors, degrees, and its radius there, mm (+ to the left). */
export function lineAt(
	outline: Outline,
	anchor: number
): { readonly direction: number; readonly radius: number } | undefined {
	const { types, segs } = sourceLine(outline);
	const i = outline.anchors.indexOf(anchor);
	if (i < 0 || types.length === 0) return undefined;
	const [k, t] = i < types.length ? [i, 0] : [i - 1, 1];
	const d = directionAt(types[k], segs, STRIDE * k, t);
	return {
		direction: (Math.atan2(d.y, d.x) * 180) / Math.PI,
		radius: 1 / curvatureAt(types[k], segs, STRIDE * k, t)
	};
}
