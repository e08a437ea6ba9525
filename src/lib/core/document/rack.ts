/** A drawing as things that hang on rails: pieces with their holes as one, groups, repeats, marks, each on the rail of its layer. */
import { anchorCount, isEmptyBox, unionBox } from '../geometry/measure';
import { boxOf } from '../geometry/pick';
import { nestPaths } from '../plane/pieces';
import {
	layersOf,
	marksOf,
	outlinesOf,
	repeatsOf,
	type Drawing,
	type Layer,
	type Mark,
	type Repeat
} from './drawing';
import { isFollower } from './graph';
import { directlyIn, groupsAround, membersOf } from './groups';
import { lineOf, type Outline } from './outline';
import { purposeOf } from './output';
import type { Purpose } from './purpose';
import { boxOfRepeat, repeatFacts } from './repeats';

export type RackKind = 'piece' | 'line' | 'group' | 'repeat' | 'mark';

/** One thing on the rack. */
export interface RackThing {
	readonly kind: RackKind;
	readonly id: string;
	readonly name: string;
	/** Ids of all that is picked, hidden or moved with it. */
	readonly ids: readonly string[];
	readonly layer: string;
	/** Mixed where its parts differ. */
	readonly purpose: Purpose | 'mixed';
	readonly colour: string;
	/** Its outlines, with their holes. */
	readonly outlines: readonly Outline[];
	readonly holes: number;
	readonly anchors: number;
	/** mm: the larger side of its box. */
	readonly size: number;
	readonly hidden: boolean;
	readonly locked: boolean;
	/** What it consists of and could be shown one by one. */
	readonly parts: readonly RackThing[];
	readonly rank: number;
}

const before = new WeakMap<Drawing['records'], readonly RackThing[]>();

/** All that hangs on the rack, in the drawing's order. Made once for the same records. */
export function rackOf(drawing: Drawing): readonly RackThing[] {
	let things = before.get(drawing.records);
	if (!things) {
		things = hung(drawing);
		before.set(drawing.records, things);
	}
	return things;
}

function hung(drawing: Drawing): RackThing[] {
	const layers = new Map(layersOf(drawing).map((layer) => [layer.id, layer]));
	const records = [...outlinesOf(drawing), ...marksOf(drawing), ...repeatsOf(drawing)];
	const byGroup = new Map<string, RackThing[]>();
	const free: (Outline | Mark | Repeat)[] = [];
	for (const record of records) {
		const [group] = groupsAround(drawing, record);
		if (!group) free.push(record);
		else if (!byGroup.has(group.id)) byGroup.set(group.id, []);
	}
	const things = thingsFrom(drawing, free, layers);
	for (const id of byGroup.keys()) things.push(groupThing(drawing, id, layers));
	return things.sort((a, b) => a.rank - b.rank);
}

function groupThing(drawing: Drawing, id: string, layers: ReadonlyMap<string, Layer>): RackThing {
	const inside = directlyIn(drawing, id);
	const own = inside.filter((r): r is Outline | Mark | Repeat => r.type !== 'group');
	const groups = inside.filter((r) => r.type === 'group');
	const parts = [
		...thingsFrom(drawing, own, layers),
		...groups.map((g) => groupThing(drawing, g.id, layers))
	].sort((a, b) => a.rank - b.rank);
	const group = drawing.records.get(id);
	return {
		...together(parts),
		kind: 'group',
		id,
		name: group?.type === 'group' ? group.name : '',
		ids: membersOf(drawing, id).map((member) => member.id),
		parts
	};
}

/** What several things are together. */
function together(parts: readonly RackThing[]) {
	const outlines = parts.flatMap((part) => part.outlines);
	const one = <T>(list: readonly T[]): T | undefined => (new Set(list).size === 1 ? list[0] : undefined);
	return {
		layer: parts[0]?.layer ?? 'cut',
		purpose: one(parts.map((part) => part.purpose)) ?? ('mixed' as const),
		colour: one(parts.map((part) => part.colour)) ?? '',
		outlines,
		holes: parts.reduce((sum, part) => sum + part.holes, 0),
		anchors: parts.reduce((sum, part) => sum + part.anchors, 0),
		size: sizeOf(outlines),
		hidden: parts.every((part) => part.hidden),
		locked: parts.every((part) => part.locked),
		rank: Math.min(...parts.map((part) => part.rank))
	};
}

function sizeOf(outlines: readonly Outline[]): number {
	const box = unionBox(outlines.map((outline) => boxOf(lineOf(outline))));
	return isEmptyBox(box) ? 0 : Math.max(box.x1 - box.x0, box.y1 - box.y0);
}

function thingsFrom(
	drawing: Drawing,
	records: readonly (Outline | Mark | Repeat)[],
	layers: ReadonlyMap<string, Layer>
): RackThing[] {
	const things: RackThing[] = [];
	const byLayer = new Map<string, Outline[]>();
	for (const record of records) {
		if (record.type === 'mark') things.push(markThing(record, layers));
		else if (record.type === 'repeat') things.push(repeatThing(drawing, record, layers));
		else {
			const list = byLayer.get(record.layer);
			if (list) list.push(record);
			else byLayer.set(record.layer, [record]);
		}
	}
	for (const outlines of byLayer.values()) {
		// A line that follows another goes round it, or lies in it, without being its piece or its hole.
		const closed = outlines.filter((outline) => lineOf(outline).closed && !isFollower(outline));
		const nested = nestPaths(
			closed.map(lineOf),
			closed.map(({ standing }) => standing)
		);
		const holesOf = new Map<number, Outline[]>();
		closed.forEach((outline, i) => {
			const { parent, depth } = nested[i];
			if (depth % 2 === 1 && parent !== undefined)
				holesOf.set(parent, [...(holesOf.get(parent) ?? []), outline]);
		});
		closed.forEach((outline, i) => {
			if (nested[i].depth % 2 === 0) things.push(lineThing(outline, holesOf.get(i) ?? [], layers));
		});
		for (const outline of outlines)
			if (!lineOf(outline).closed || isFollower(outline)) things.push(lineThing(outline, [], layers));
	}
	return things;
}

function lineThing(
	outline: Outline,
	holes: readonly Outline[],
	layers: ReadonlyMap<string, Layer>
): RackThing {
	const outlines = [outline, ...holes];
	return {
		kind: lineOf(outline).closed ? 'piece' : 'line',
		id: outline.id,
		name: outline.name,
		ids: outlines.map(({ id }) => id),
		layer: outline.layer,
		purpose: purposeOf(outline, layers.get(outline.layer)),
		colour: outline.colour ?? '',
		outlines,
		holes: holes.length,
		anchors: outlines.reduce((sum, o) => sum + anchorCount(lineOf(o)), 0),
		size: sizeOf([outline]),
		hidden: outline.hidden === true,
		locked: outline.locked === true,
		parts: holes.map((hole) => lineThing(hole, [], layers)),
		rank: outline.rank
	};
}

const markThing = (mark: Mark, layers: ReadonlyMap<string, Layer>): RackThing => ({
	kind: 'mark',
	id: mark.id,
	name: 'Mark',
	ids: [mark.id],
	layer: mark.layer,
	purpose: layers.get(mark.layer)?.purpose ?? 'cut',
	colour: '',
	outlines: [],
	holes: 0,
	anchors: 1,
	size: 0,
	hidden: mark.hidden === true,
	locked: false,
	parts: [],
	rank: mark.rank
});

function repeatThing(drawing: Drawing, repeat: Repeat, layers: ReadonlyMap<string, Layer>): RackThing {
	const source = drawing.records.get(repeat.sources[0]);
	const layer = source?.type === 'outline' || source?.type === 'mark' ? source.layer : 'cut';
	const { x0, x1, y0, y1 } = boxOfRepeat(drawing, repeat);
	return {
		kind: 'repeat',
		id: repeat.id,
		name: repeat.name,
		ids: [repeat.id, ...repeat.sources],
		layer,
		purpose:
			source?.type === 'outline'
				? purposeOf(source, layers.get(layer))
				: (layers.get(layer)?.purpose ?? 'cut'),
		colour: source?.type === 'outline' ? (source.colour ?? '') : '',
		outlines: source?.type === 'outline' ? [source] : [],
		holes: 0,
		anchors: repeatFacts(drawing, repeat).total,
		size: Math.max(x1 - x0, y1 - y0, 0),
		hidden: repeat.hidden === true,
		locked: false,
		parts: [],
		rank: repeat.rank
	};
}

/** By what the rack is sorted. */
export const RACK_ORDERS = ['order', 'anchors', 'name', 'size', 'purpose', 'colour'] as const;
export type RackOrder = (typeof RACK_ORDERS)[number];

/** Things in another order: the heaviest and the largest first, names and words by the alphabet. */
export function sortedThings(things: readonly RackThing[], by: RackOrder): readonly RackThing[] {
	if (by === 'order') return things;
	const sign = by === 'anchors' || by === 'size' ? -1 : 1;
	const compare = (a: RackThing, b: RackThing): number => {
		const [p, q] = [a[by], b[by]];
		if (typeof p === 'number' && typeof q === 'number') return sign * (p - q);
		return String(p).localeCompare(String(q), undefined, { numeric: true, sensitivity: 'base' });
	};
	return [...things].sort((a, b) => compare(a, b) || a.rank - b.rank);
}

/** Things of which name, kind, layer, purpose or colour have every typed word in them; what they consist of is looked through too. */
export function matchingThings(
	drawing: Drawing,
	things: readonly RackThing[],
	typed: string
): readonly RackThing[] {
	const words = typed.toLowerCase().split(/\s+/).filter(Boolean);
	if (words.length === 0) return things;
	const names = new Map(layersOf(drawing).map((layer) => [layer.id, layer.name]));
	const all = things.flatMap(function listed(thing): RackThing[] {
		return [thing, ...thing.parts.flatMap(listed)];
	});
	return all.filter(({ name, kind, layer, purpose, colour, hidden, locked }) => {
		const said = [name, kind, names.get(layer), purpose, colour, hidden ? 'hidden' : '', locked ? 'tied' : '']
			.join(' ')
			.toLowerCase();
		return words.every((word) => said.includes(word));
	});
}
