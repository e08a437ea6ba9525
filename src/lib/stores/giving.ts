/** Lines that are given by places: these put, moved, typed and taken out. */
import { withGiven } from '../core/document/edits/made';
import { followersOf } from '../core/document/graph';
import { lineOf, sourceLine, type Outline } from '../core/document/outline';
import { shown } from '../core/document/output';
import { lineDirection } from '../core/document/recipes/line-direction';
import type { GivenPlace } from '../core/document/recipes/recipe-type';
import { nearestOnPath } from '../core/geometry/pick';
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
	says: boolean,
	inputs = outline.recipe!.inputs
): Outline | undefined {
	// Not there yet: it is on its way, and the next move finds it.
	if (recipeType(outline.recipe!).late?.isThere === false) {
		void loadReckonings();
		return undefined;
	}
	const made = withGiven(outline, settings as Settings, bench.drawing.records, inputs);
	if (made.ok) return made.value;
	if (says) bench.trouble(made.problem);
	return undefined;
}

/** The line given by other settings, as one step. @returns whether it is. */
export function changeGiven(bench: Bench, name: string, { outline }: Given, settings: unknown): boolean {
	const made = madeOf(bench, outline, settings, true);
	return made !== undefined && bench.commit(name, { put: [made] });
}

/** The other outline that is nearest to a place, to go along it. */
export function lineNear(bench: Bench, { outline }: Given, { x, y }: Point): Outline | undefined {
	const after = new Set(followersOf(bench.drawing, [outline.id]).map(({ id }) => id));
	let best: Outline | undefined;
	let least = Infinity;
	for (const other of shown(bench.drawing)) {
		if (other.id === outline.id || after.has(other.id) || other.anchors.length < 2) continue;
		const near = nearestOnPath(lineOf(other), x, y, least);
		if (near && near.distance < least) [best, least] = [other, near.distance];
	}
	return best;
}

/** A place that went along a line keeps the direction that it has; the line is let go of where no other place goes along it. */
export function freeOfLine(bench: Bench, given: Given, place: GivenPlace): void {
	const { kind, settings, outline } = given;
	const was = kind.boundTo?.(settings, place.key);
	if (!was || !kind.bound || !kind.withField) return;
	const now = lineAt(outline, parseInt(place.key, 10))?.direction;
	const loose = kind.withField(kind.bound(settings, place.key, undefined), place.key, 'direction', now);
	const isUsed = given.places.some(({ key }) => kind.boundTo!(loose, key)?.input === was.input);
	const { inputs } = outline.recipe!;
	const { unbound } = recipeType(outline.recipe!);
	const [next, left] =
		isUsed || !unbound
			? [loose, inputs]
			: [unbound(loose, was.input, sourceLine(outline)), inputs.filter((_, k) => k !== was.input)];
	const made = madeOf(bench, outline, next, true, left);
	if (made) bench.commit('Free a direction', { put: [made] });
}

/** A place goes along a line from now on, or square to it, whichever is nearer to how it goes. */
export function goAlong(bench: Bench, given: Given, place: GivenPlace, line: Outline): void {
	const { kind, settings, outline } = given;
	if (!kind.bound) return;
	const { inputs } = outline.recipe!;
	const at = inputs.findIndex(({ record }) => record === line.id);
	const now = lineAt(outline, parseInt(place.key, 10))?.direction ?? 0;
	const own = lineDirection(lineOf(line), place) ?? 0;
	const turn = (((Math.round((now - own) / 90) * 90) % 360) + 360) % 360;
	const next = kind.bound(settings, place.key, { input: at < 0 ? inputs.length : at, turn });
	const made = madeOf(bench, outline, next, true, at < 0 ? [...inputs, { record: line.id }] : inputs);
	if (made) bench.commit(`Go along "${line.name}"`, { put: [made] });
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
