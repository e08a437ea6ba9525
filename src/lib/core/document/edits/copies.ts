/** Copies of outlines and marks: within a drawing, or out of another one. */
import {
	firstFree,
	groupsOf,
	layersOf,
	nextRank,
	outlinesOf,
	recordsOf,
	repeatsOf,
	type Drawing,
	type DrawingRecord,
	type Group,
	type Layer,
	type Mark,
	type Repeat
} from '../drawing';
import { membersOf } from '../groups';
import { carriedHold } from '../holds/carried';
import { markOff } from '../marks';
import type { Edit } from '../history';
import type { Outline } from '../outline';
import { RECORDS } from '../records';
import { loosenedCopies } from '../repeats';
import type { Affine } from '../../geometry/path';
import { copiedRecipe } from './made';
import type { NewId } from './operations';
import { transformOutline } from './transform';

/** What can be copied. */
export type Copied = Outline | Mark | Repeat;

/** The groups that are copied with some records: those of which everything is. */
function groupsCopied(drawing: Drawing, ids: ReadonlySet<string>): Group[] {
	return groupsOf(drawing).filter(({ id }) => {
		const members = membersOf(drawing, id);
		return members.length > 0 && members.every((member) => ids.has(member.id));
	});
}

/**
 * Copies under a map, each with an id and a free name of its own. What follows another one of them follows its copy, a repeat
 * repeats the copies, a whole group becomes another group; the lines that are kept beside an outline (as it first was, its
 * ghost) stay with the original.
 *
 * @param from the drawing that they are of, where it is another one.
 * @returns the edit that adds them, in the order of the originals: outlines and marks first, then repeats and groups.
 */
export function copiesOf(
	drawing: Drawing,
	records: readonly Copied[],
	map: Affine,
	newId: NewId,
	from: Drawing = drawing
): Edit & { readonly put: readonly DrawingRecord[] } {
	let rank = nextRank(drawing);
	const groups = groupsCopied(from, new Set(records.map(({ id }) => id)));
	const ids = new Map([...records, ...groups].map(({ id }) => [id, newId()]));
	const taken = new Set(outlinesOf(drawing).map(({ name }) => name));
	/** Whatever it lies in: the copy of its group, or the same one. */
	const inGroup = <R extends Copied | Group>(record: R): R =>
		record.group === undefined ? record : { ...record, group: ids.get(record.group) ?? record.group };
	const copy = (record: Copied): DrawingRecord | undefined => {
		const facts = { id: ids.get(record.id)!, rank: rank++ };
		if (record.type === 'mark') {
			const { on, ...mark } = RECORDS.mark.carried!(record, map);
			const line = on && ids.get(on.outline);
			return inGroup({ ...mark, ...facts, ...(on && line ? { on: { ...on, outline: line } } : {}) });
		}
		if (record.type === 'repeat') {
			if (!record.sources.every((id) => ids.has(id))) return undefined;
			const { rule, ...rest } = RECORDS.repeat.carried!(record, map);
			const sources = record.sources.map((id) => ids.get(id)!);
			const own = rule.way === 'along' ? { ...rule, line: ids.get(rule.line) ?? rule.line } : rule;
			return inGroup({ ...rest, ...facts, sources, rule: own });
		}
		const { first: _first, ghost: _ghost, ...rest } = transformOutline(record, map);
		const name = firstFree(record.name, taken);
		taken.add(name);
		return inGroup(copiedRecipe({ ...rest, ...facts, name }, ids));
	};
	const order = ['outline', 'mark', 'repeat'];
	const sorted = [...records].sort((a, b) => order.indexOf(a.type) - order.indexOf(b.type));
	return {
		put: [
			...sorted.flatMap((record) => copy(record) ?? []),
			...heldCopies(from, ids, map, newId, () => rank++),
			...groups.map((group) => inGroup({ ...group, id: ids.get(group.id)!, rank: rank++ }))
		]
	};
}

/** Holds among what is copied, of the copies. */
function heldCopies(
	from: Drawing,
	ids: ReadonlyMap<string, string>,
	map: Affine,
	newId: NewId,
	rank: () => number
): DrawingRecord[] {
	return recordsOf(from, 'hold').flatMap((hold) => {
		if (hold.guide !== undefined || !hold.on.every(({ outline }) => ids.has(outline))) return [];
		const next = carriedHold(hold, map);
		if (!next) return [];
		const on = next.on.map((place) => ({ ...place, outline: ids.get(place.outline)! }));
		return [{ ...next, id: newId(), rank: rank(), on }];
	});
}

/** What is copied of a drawing: things of some ids, with the layers that they lie on, as a drawing by itself. */
export function clippingOf(drawing: Drawing, ids: ReadonlySet<string>): Drawing {
	const picked = [...drawing.records.values()].filter(
		(r): r is Outline | Mark => (r.type === 'outline' || r.type === 'mark') && ids.has(r.id)
	);
	const groups = groupsCopied(drawing, ids);
	const groupIds = new Set(groups.map(({ id }) => id));
	const inGroup = <R extends DrawingRecord & { readonly group?: string }>(record: R): R => {
		const { group, ...rest } = record;
		return (group !== undefined && groupIds.has(group) ? record : rest) as R;
	};
	// A repeat comes along with its sources; without its line its copies are plain.
	const repeats: DrawingRecord[] = repeatsOf(drawing)
		.filter((repeat) => ids.has(repeat.id) && repeat.sources.every((id) => ids.has(id)))
		.flatMap((repeat): readonly DrawingRecord[] =>
			repeat.rule.way !== 'along' || ids.has(repeat.rule.line) ? [repeat] : loosenedCopies(drawing, repeat)
		);
	const layers = layersOf(drawing).filter((layer) => picked.some((r) => r.layer === layer.id));
	const bare = picked.map((r): DrawingRecord => {
		if (r.type === 'mark') return r.on && !ids.has(r.on.outline) ? markOff(r) : r;
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
		records: new Map([...layers, ...groups, ...bare, ...repeats].map((r) => [r.id, inGroup(r)]))
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
		[
			...all.filter((r) => r.type === 'outline').map(onLayer),
			...all.filter((r) => r.type === 'mark').map(onLayer),
			...all.filter((r) => r.type === 'repeat')
		],
		map,
		newId,
		clipping
	);
	return { put: [...layers, ...put] };
}
