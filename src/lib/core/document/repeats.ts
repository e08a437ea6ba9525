/** What a repeat comes to: its copies as lines and marks, made from the sources as they are, and never stored. */
import { repeatsOf, type Drawing, type Mark, type Repeat } from './drawing';
import { transformOutline } from './edits/transform';
import { detached, lineOf, type Outline } from './outline';
import { RECORDS, recordType } from './records';
import { alongOf, copiesTotal, mapsOf, type RuleContext } from './repeat-rules';
import { CoreError, toProblem, type Problem } from '../errors';
import type { Affine } from '../geometry/path';
import { unionBox } from '../geometry/measure';
import type { Box } from '../geometry/segment';

/** One copy: its place in the rule, and the map from the source to it. */
export interface Instance {
	readonly place: number;
	readonly map: Affine;
}

export interface Instances {
	readonly sources: readonly (Outline | Mark)[];
	/** All but the source itself. */
	readonly list: readonly Instance[];
	/** Why there are none. */
	readonly problem?: Problem;
}

const before = new WeakMap<Repeat, { readonly of: readonly unknown[]; readonly instances: Instances }>();

/** The sources of a repeat that are there. */
export const sourcesOf = (drawing: Drawing, repeat: Repeat): (Outline | Mark)[] =>
	repeat.sources.flatMap((id) => {
		const record = drawing.records.get(id);
		return record?.type === 'outline' || record?.type === 'mark' ? [record] : [];
	});

/** What the rule of a repeat needs to know. */
function contextOf(
	drawing: Drawing,
	{ rule }: Pick<Repeat, 'rule'>,
	sources: readonly (Outline | Mark)[]
): RuleContext {
	const box = unionBox(sources.map((source) => recordType(source).box(source)));
	const line = rule.way === 'along' ? drawing.records.get(rule.line) : undefined;
	return {
		middle: { x: (box.x0 + box.x1) / 2, y: (box.y0 + box.y1) / 2 },
		...(line?.type === 'outline' ? { line: lineOf(line) } : {})
	};
}

/** The copies of a repeat. Made once for the same sources, rule and line. */
export function instancesOf(drawing: Drawing, repeat: Repeat): Instances {
	const sources = sourcesOf(drawing, repeat);
	const { rule } = repeat;
	const of = [...sources, rule.way === 'along' ? drawing.records.get(rule.line) : undefined];
	const kept = before.get(repeat);
	if (kept && kept.of.length === of.length && kept.of.every((o, i) => o === of[i])) return kept.instances;
	const without = new Set(repeat.without);
	let instances: Instances;
	try {
		const maps = sources.length ? mapsOf(rule, contextOf(drawing, repeat, sources)) : [];
		const list = maps.flatMap((map, place) => (place === 0 || without.has(place) ? [] : [{ place, map }]));
		instances = { sources, list };
	} catch (error) {
		if (!(error instanceof CoreError)) throw error;
		instances = { sources, list: [], problem: toProblem(error) };
	}
	before.set(repeat, { of, instances });
	return instances;
}

/** How many a repeat comes to, the first one too; mm of line between them where they lie along one. */
export function repeatFacts(
	drawing: Drawing,
	repeat: Repeat
): { readonly total: number; readonly step?: number } {
	const sources = sourcesOf(drawing, repeat);
	if (sources.length === 0) return { total: 0 };
	const context = contextOf(drawing, repeat, sources);
	const along = repeat.rule.way === 'along' ? alongOf(repeat.rule, context) : undefined;
	return { total: copiesTotal(repeat.rule, context), ...(along ? { step: along.step } : {}) };
}

/** The id of one copy of one source: the same whenever it is made. */
const instanceId = (repeat: Repeat, place: number, source: string): string =>
	`${repeat.id}/${place}/${source}`;

/** The repeat, place and source that an id of a copy says; undefined where it is none. */
export function instanceIn(
	drawing: Drawing,
	id: string
): { readonly repeat: Repeat; readonly place: number } | undefined {
	const [of, place] = id.split('/');
	const repeat = place === undefined ? undefined : drawing.records.get(of);
	return repeat?.type === 'repeat' ? { repeat, place: Number(place) } : undefined;
}

/** A source as it lies in one copy, a record of its own: plain, beside nothing, from nowhere. */
export function instanceOf<S extends Outline | Mark>(repeat: Repeat, { place, map }: Instance, source: S): S {
	const id = instanceId(repeat, place, source.id);
	const rank = source.rank + 1e-6 * place;
	if (source.type === 'mark') {
		const { home: _, on: _on, ...mark }: Mark = source;
		return { ...RECORDS.mark.carried!(mark, map), id, rank } as S;
	}
	const { home: _h, first: _f, ghost: _g, hidden: _hidden, ...plain } = detached(source as Outline);
	return { ...transformOutline(plain, map), id, name: `${source.name}, ${place + 1}`, rank } as S;
}

const made = new WeakMap<Instances, readonly (Outline | Mark)[]>();

/** All copies of a repeat as records, in their order. Made once. */
export function copiesIn(drawing: Drawing, repeat: Repeat): readonly (Outline | Mark)[] {
	const instances = instancesOf(drawing, repeat);
	let copies = made.get(instances);
	if (!copies) {
		const { sources, list } = instances;
		copies = list.flatMap((instance) => sources.map((source) => instanceOf(repeat, instance, source)));
		made.set(instances, copies);
	}
	return copies;
}

/** The copies as records that belong to no repeat any more; their ids are made of those that they had. */
export const loosenedCopies = (drawing: Drawing, repeat: Repeat): (Outline | Mark)[] =>
	copiesIn(drawing, repeat).map((copy) => ({ ...copy, id: copy.id.replaceAll('/', '.') }));

/** The repeats that are to be seen. */
export const shownRepeats = (drawing: Drawing): readonly Repeat[] =>
	repeatsOf(drawing).filter((repeat) => !repeat.hidden);

/** The box of one source, and of all copies of it. */
export function boxOfRepeat(drawing: Drawing, repeat: Repeat): Box {
	const { sources, list } = instancesOf(drawing, repeat);
	const box = unionBox(sources.map((source) => recordType(source).box(source)));
	return unionBox([box, ...list.map(({ map }) => boxUnder(box, map))]);
}

/** The box of a box under a map. */
export function boxUnder({ x0, y0, x1, y1 }: Box, [a, b, c, d, e, f]: Affine): Box {
	const xs = [a * x0 + c * y0, a * x1 + c * y0, a * x0 + c * y1, a * x1 + c * y1];
	const ys = [b * x0 + d * y0, b * x1 + d * y0, b * x0 + d * y1, b * x1 + d * y1];
	return {
		x0: Math.min(...xs) + e,
		y0: Math.min(...ys) + f,
		x1: Math.max(...xs) + e,
		y1: Math.max(...ys) + f
	};
}
