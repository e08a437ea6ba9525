/** What belongs to an edit beside what a person did: edges keep their ids, followers follow, nothing refers to what is gone. */
import { sameNumbers } from '../bytes';
import { repeatsOf, type Drawing, type DrawingRecord } from './drawing';
import { withKeptEdges } from './edges';
import { follow, graphOf, refuseCircle, sameForFollowers, setOf, type Patience } from './graph';
import { canBeGrouped } from './groups';
import type { Edit } from './history';
import { lateHolds, tidyHolds } from './holds/tidy';
import { keptToAxis } from './kept-to-axis';
import { detached, lineOf, sourceLine, type Outline } from './outline';
import type { Recipe } from './recipes/recipes';
import { marksFollowing } from './marks';
import { loosenedCopies } from './repeats';
import { isSharp, type Round } from './rounds';
import { withoutInputs } from './without-inputs';

export interface Completed {
	readonly edit: Edit;
	/** Followers that became plain because a line that they were made from is gone, or because they were changed by hand. */
	readonly plain: readonly Outline[];
	/** Lines whose halves do not follow each other any more. */
	readonly halves: readonly Outline[];
	/** How many rounded corners were lost with their anchors. */
	readonly lostRounds: number;
	/** How many holds went with the places that they were about. */
	readonly lostHolds: number;
	/** Sets that are still to be made again, away from the hand. */
	readonly dear: readonly string[];
	/** Outlines of which nothing is left, each with the reason. */
	readonly empty: readonly Outline[];
	/** How many recipes were made again. */
	readonly made: number;
}

/**
 * The edit with everything that it brings with it, as one edit.
 * @param patience whether dear followers are made at once too, or marked and left for later.
 * @throws CoreError `circle`
 */
export function completeEdit(drawing: Drawing, edit: Edit, patience: Patience = 'all'): Completed {
	const put = new Map<string, DrawingRecord>();
	const remove = new Set((edit.remove ?? []).filter((id) => drawing.records.has(id)));
	const plain: Outline[] = [];
	const halves: Outline[] = [];
	let lostRounds = 0;
	const changed = new Set<string>(remove);
	const changing = new Set((edit.put ?? []).map((record) => record.id));
	for (const record of edit.put ?? []) {
		if (record.type !== 'outline') {
			put.set(record.id, record);
			continue;
		}
		const before = drawing.records.get(record.id);
		const own = before?.type === 'outline' ? before : undefined;
		let next = record;
		if (own && next.recipe && changedLine(own, next) && !isRemade(own, next, changing)) {
			next = detached(next);
			if (own.recipe?.inputs.length) plain.push(next);
		} else if (own?.recipe?.inputs.length && !next.recipe) plain.push(next);
		const tidy = tidyRounds(next);
		if (own) lostRounds += roundsLost(own, tidy);
		const onAxis = keptToAxis(tidy);
		next = own ? withKeptEdges(own, onAxis) : onAxis;
		if (own?.half && !next.half) halves.push(next);
		put.set(next.id, next);
		if (!own || !sameForFollowers(own, next)) changed.add(next.id);
	}
	for (const id of remove) put.delete(id);
	const records = new Map(drawing.records);
	for (const id of remove) records.delete(id);
	for (const record of put.values()) records.set(record.id, record);
	keepOutTaken(drawing, records, remove, put);
	tidyRepeats(drawing, records, remove, put);
	plain.push(...madePlainWithout(records, put, changed, remove.size > 0));
	dropEmpty(drawing, records, remove, put);
	tidyGroups(drawing, records, remove, put);
	const lostHolds = tidyHolds(records, remove, put);
	for (const held of lateHolds.keep?.(drawing, records, new Set(put.keys())) ?? []) {
		records.set(held.id, held);
		put.set(held.id, held);
		changed.add(held.id);
	}
	const now: Drawing = { ...drawing, records };
	for (const record of edit.put ?? []) {
		const at = records.get(record.id);
		if (at?.type === 'outline' && at.recipe?.inputs.length && at.recipe.made === '')
			refuseCircle(now, graphOf(now).sets.get(setOf(at)) ?? [at], at.recipe.inputs);
	}
	const followed = follow(now, changed, patience);
	for (const [id, outline] of followed.put) put.set(id, outline);
	for (const id of followed.remove) {
		put.delete(id);
		if (drawing.records.has(id)) remove.add(id);
	}
	for (const mark of marksFollowing(drawing, followed.records, put)) put.set(mark.id, mark);
	return {
		edit: { ...edit, put: [...put.values()], remove: [...remove] },
		plain: plain.filter(({ id }) => records.has(id)),
		halves,
		lostRounds,
		lostHolds,
		dear: followed.dear,
		empty: [...followed.put.values()].filter((o) => o.recipe?.problem),
		made: followed.made
	};
}

/** Rounded corners whose anchors are gone; none where the line is what it was, its corners plain now. */
function roundsLost(before: Outline, after: Outline): number {
	const ids = new Set(after.anchors);
	const gone = before.rounds?.filter((r) => !isSharp(r) && !ids.has(r.anchor)).length ?? 0;
	return gone > 0 && !sameNumbers(lineOf(before).segs, sourceLine(after).segs) ? gone : 0;
}

const changedLine = (a: Outline, b: Outline): boolean =>
	a.points !== b.points || a.anchors !== b.anchors || a.marks !== b.marks || a.closed !== b.closed;

/** Whether the new line of an outline is one that its recipe gives, or will give of inputs that change in the same edit. */
function isRemade(before: Outline, after: Outline, changing: ReadonlySet<string>): boolean {
	if (before.recipe === after.recipe) return false;
	return (
		before.recipe?.made !== after.recipe!.made ||
		after.recipe!.made === '' ||
		after.recipe!.inputs.some(({ record }) => changing.has(record))
	);
}

/** Rounds whose anchors are gone go with them. */
function tidyRounds(outline: Outline): Outline {
	const { rounds } = outline;
	if (!rounds?.length) return outline;
	const ids = new Set(outline.anchors);
	const kept: readonly Round[] = rounds.filter((r) => ids.has(r.anchor));
	if (kept.length === rounds.length) return outline;
	const { rounds: _, ...rest } = outline;
	return kept.length ? { ...rest, rounds: kept } : rest;
}

/** Repeats without some of their sources go on with the rest; without all of them, or without their line, their copies become plain. */
function tidyRepeats(
	drawing: Drawing,
	records: Map<string, DrawingRecord>,
	removed: Set<string>,
	put: Map<string, DrawingRecord>
): void {
	if (removed.size === 0) return;
	for (const before of repeatsOf(drawing)) {
		const now = records.get(before.id);
		if (now?.type !== 'repeat') continue;
		const left = now.sources.filter((id) => records.has(id));
		const lineGone = now.rule.way === 'along' && !records.has(now.rule.line);
		if (left.length === now.sources.length && !lineGone) continue;
		if (left.length > 0 && !lineGone) {
			const next = { ...now, sources: left };
			records.set(next.id, next);
			put.set(next.id, next);
			continue;
		}
		records.delete(now.id);
		put.delete(now.id);
		removed.add(now.id);
		for (const plain of loosenedCopies(drawing, before)) {
			records.set(plain.id, plain);
			put.set(plain.id, plain);
		}
	}
}

/** A plain outline without a line is nothing: one that waited for better inputs goes when it is made plain, or copied without them. */
function dropEmpty(
	drawing: Drawing,
	records: Map<string, DrawingRecord>,
	removed: Set<string>,
	put: Map<string, DrawingRecord>
): void {
	for (const record of [...put.values()]) {
		if (record.type !== 'outline' || record.recipe || record.anchors.length > 0) continue;
		put.delete(record.id);
		records.delete(record.id);
		if (drawing.records.has(record.id)) removed.add(record.id);
	}
}

/** Groups of which nothing is left go. */
function tidyGroups(
	drawing: Drawing,
	records: Map<string, DrawingRecord>,
	removed: Set<string>,
	put: Map<string, DrawingRecord>
): void {
	const open = new Set<string>();
	for (const id of [...removed, ...put.keys()]) {
		const was = drawing.records.get(id);
		if (canBeGrouped(was) && was.group !== undefined) open.add(was.group);
	}
	for (const id of open) {
		const group = records.get(id);
		if (group?.type !== 'group') continue;
		if ([...records.values()].some((r) => canBeGrouped(r) && r.group === id)) continue;
		records.delete(id);
		put.delete(id);
		removed.add(id);
		if (group.group !== undefined) open.add(group.group);
	}
}

/** A part that a person takes out of what a recipe gives stays out when it is made again. */
function keepOutTaken(
	drawing: Drawing,
	records: Map<string, DrawingRecord>,
	removed: ReadonlySet<string>,
	put: Map<string, DrawingRecord>
): void {
	for (const id of removed) {
		const gone = drawing.records.get(id);
		if (gone?.type !== 'outline' || !gone.recipe?.inputs.length) continue;
		const part = gone.recipe.part ?? '';
		for (const other of graphOf(drawing).sets.get(setOf(gone)) ?? []) {
			const now = records.get(other.id);
			if (now?.type !== 'outline' || !now.recipe) continue;
			const without = [...(now.recipe.without ?? []), part];
			// The set keeps its name even where the one that gave it goes.
			const recipe = { ...now.recipe, without, set: setOf(gone) } as Recipe;
			const next = { ...now, recipe };
			records.set(next.id, next);
			put.set(next.id, next);
		}
	}
}

/**
 * Followers of what is no longer there become plain, with the lines and ids that they have; those that can go on without it do.
 * @param changed gets those that are to be made again.
 * @param any whether anything is gone; else only what was put can follow something that is not there.
 */
function madePlainWithout(
	records: Map<string, DrawingRecord>,
	put: Map<string, DrawingRecord>,
	changed: Set<string>,
	any: boolean
): Outline[] {
	const plain: Outline[] = [];
	for (const outline of [...(any ? records : put).values()]) {
		if (outline.type !== 'outline') continue;
		if (!outline.recipe?.inputs.some(({ record }) => records.get(record)?.type !== 'outline')) continue;
		const next = withoutInputs(outline, (id) => records.get(id)?.type === 'outline');
		records.set(next.id, next);
		put.set(next.id, next);
		if (next.recipe) changed.add(next.id);
		else plain.push(next);
	}
	return plain;
}
