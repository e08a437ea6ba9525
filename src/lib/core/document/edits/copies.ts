/** Copies of outlines and marks: within a drawing, or out of another one. */
import {
	freeName,
	layersOf,
	nextRank,
	type Drawing,
	type DrawingRecord,
	type Layer,
	type Mark
} from '../drawing';
import type { Edit } from '../history';
import type { Outline } from '../outline';
import { recordType } from '../records';
import type { Affine } from '../../geometry/path';
import { copiedRecipe } from './made';
import type { NewId } from './operations';
import { transformOutline } from './transform';

/**
 * Copies under a map, each with an id and a free name of its own. What follows another one of them follows its copy; the lines
 * that are kept beside an outline (as it first was, its ghost) stay with the original.
 *
 * @returns the edit that adds them, in the order of the originals: outlines first, then marks.
 */
export function copiesOf(
	drawing: Drawing,
	outlines: readonly Outline[],
	marks: readonly Mark[],
	map: Affine,
	newId: NewId
): Edit & { readonly put: readonly DrawingRecord[] } {
	let rank = nextRank(drawing);
	let at = drawing;
	const ids = new Map(outlines.map((o) => [o.id, newId()]));
	const copies = outlines.map((o): Outline => {
		const { first: _first, ghost: _ghost, ...rest } = transformOutline(o, map);
		const copied = copiedRecipe(
			{ ...rest, id: ids.get(o.id)!, name: freeName(at, o.name), rank: rank++ },
			ids
		);
		at = { ...at, records: new Map(at.records).set(copied.id, copied) };
		return copied;
	});
	return {
		put: [
			...copies,
			...marks.map((mark): Mark => ({ ...recordType(mark).carried!(mark, map), id: newId(), rank: rank++ }))
		]
	};
}

/** What is copied of a drawing: the outlines and marks of some ids, with the layers that they lie on, as a drawing by itself. */
export function clippingOf(drawing: Drawing, ids: ReadonlySet<string>): Drawing {
	const picked = [...drawing.records.values()].filter(
		(r): r is Outline | Mark => (r.type === 'outline' || r.type === 'mark') && ids.has(r.id)
	);
	const layers = layersOf(drawing).filter((layer) => picked.some((r) => r.layer === layer.id));
	const bare = picked.map((r): DrawingRecord => {
		if (r.type === 'mark') return r;
		const { first: _first, ghost: _ghost, ...rest } = r;
		// What follows a line that does not come along is plain afterwards.
		const isWhole = rest.recipe?.inputs.every((input) => ids.has(input.record)) ?? true;
		if (isWhole) return rest;
		const { recipe: _recipe, ...plain } = rest;
		return plain;
	});
	return {
		id: drawing.id,
		name: drawing.name,
		records: new Map([...layers, ...bare].map((r) => [r.id, r]))
	};
}

/** Adds what was copied of another drawing (or of this one); layers are found by name, or come along. */
export function addClipping(
	drawing: Drawing,
	clipping: Drawing,
	map: Affine,
	newId: NewId
): Edit & { readonly put: readonly DrawingRecord[] } {
	let rank = nextRank(drawing);
	const layers: Layer[] = [];
	const layerIds = new Map(
		layersOf(clipping).map((layer) => {
			const here = layersOf(drawing).find(
				(l) => l.id === layer.id || l.name.toLowerCase() === layer.name.toLowerCase()
			);
			if (here) return [layer.id, here.id];
			const added: Layer = { ...layer, id: newId(), rank: rank++ };
			layers.push(added);
			return [layer.id, added.id];
		})
	);
	const all = [...clipping.records.values()];
	const onLayer = <R extends Outline | Mark>(r: R): R => ({ ...r, layer: layerIds.get(r.layer) ?? r.layer });
	const records = new Map(drawing.records);
	for (const layer of layers) records.set(layer.id, layer);
	const { put } = copiesOf(
		{ ...drawing, records },
		all.filter((r) => r.type === 'outline').map(onLayer),
		all.filter((r) => r.type === 'mark').map(onLayer),
		map,
		newId
	);
	return { put: [...layers, ...put] };
}
