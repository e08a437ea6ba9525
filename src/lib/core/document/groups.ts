/** Groups: things that move as one. Who belongs to a group says so himself, so that a group is never larger than what is there. */
import { groupsOf, type Drawing, type DrawingRecord, type Group } from './drawing';

/** Kinds of records that can belong to a group. */
export type Grouped = Extract<DrawingRecord, { readonly group?: string }>;

export const canBeGrouped = (record: DrawingRecord | undefined): record is Grouped =>
	record !== undefined && ['outline', 'mark', 'repeat', 'group'].includes(record.type);

/** The group that a record lies in; undefined where it lies in none, or in one that is gone. */
export function groupOf(drawing: Drawing, record: DrawingRecord | undefined): Group | undefined {
	const group =
		canBeGrouped(record) && record.group !== undefined ? drawing.records.get(record.group) : undefined;
	return group?.type === 'group' ? group : undefined;
}

/** The groups around a record, the outermost first. */
export function groupsAround(drawing: Drawing, record: DrawingRecord | undefined): Group[] {
	const around: Group[] = [];
	for (
		let group = groupOf(drawing, record);
		group && !around.includes(group);
		group = groupOf(drawing, group)
	)
		around.unshift(group);
	return around;
}

const listed = new WeakMap<Drawing['records'], ReadonlyMap<string, readonly Grouped[]>>();

/** What lies directly in each group. */
function inGroups(drawing: Drawing): ReadonlyMap<string, readonly Grouped[]> {
	let lists = listed.get(drawing.records);
	if (!lists) {
		const map = new Map<string, Grouped[]>();
		if (groupsOf(drawing).length)
			for (const record of drawing.records.values()) {
				if (!canBeGrouped(record) || record.group === undefined) continue;
				const list = map.get(record.group);
				if (list) list.push(record);
				else map.set(record.group, [record]);
			}
		lists = map;
		listed.set(drawing.records, lists);
	}
	return lists;
}

/** What lies directly in a group. */
export const directlyIn = (drawing: Drawing, group: string): readonly Grouped[] =>
	inGroups(drawing).get(group) ?? [];

/** Everything in a group and in the groups in it; those groups themselves are none of it. */
export function membersOf(drawing: Drawing, group: string): Grouped[] {
	const members: Grouped[] = [];
	const seen = new Set<string>();
	const open = [group];
	for (let id = open.pop(); id !== undefined; id = open.pop()) {
		if (seen.has(id)) continue;
		seen.add(id);
		for (const record of directlyIn(drawing, id)) {
			if (record.type === 'group') open.push(record.id);
			else members.push(record);
		}
	}
	return members;
}

/**
 * What moves as one with a record for somebody who is in a group (undefined: in none): the outermost group around it that
 * lies in that one; undefined where it stands for itself.
 */
export function unitOf(drawing: Drawing, id: string, within: string | undefined): Group | undefined {
	const around = groupsAround(drawing, drawing.records.get(id));
	return around[within === undefined ? 0 : around.findIndex((group) => group.id === within) + 1];
}

/** Whether a record lies in a group, at any depth; everything lies in none. */
export const liesIn = (drawing: Drawing, id: string, within: string | undefined): boolean =>
	within === undefined || groupsAround(drawing, drawing.records.get(id)).some((group) => group.id === within);

/** Ids with all that moves as one with them: members of the same groups, sources of repeats. */
export function wholeOf(drawing: Drawing, ids: Iterable<string>, within: string | undefined): Set<string> {
	const whole = new Set<string>();
	const add = (record: DrawingRecord | undefined): void => {
		if (!record || whole.has(record.id)) return;
		const unit = unitOf(drawing, record.id, within);
		const all = unit ? membersOf(drawing, unit.id) : [record];
		for (const one of all) whole.add(one.id);
		for (const one of all)
			if (one.type === 'repeat') for (const id of one.sources) add(drawing.records.get(id));
	};
	for (const id of ids) add(drawing.records.get(id));
	return whole;
}

/** The groups of which everything is among some ids, the outermost of them only. */
export function wholeGroups(drawing: Drawing, ids: ReadonlySet<string>, within?: string): Group[] {
	const groups = new Map<string, Group>();
	for (const id of ids) {
		const unit = unitOf(drawing, id, within);
		if (unit && !groups.has(unit.id) && membersOf(drawing, unit.id).every((m) => ids.has(m.id)))
			groups.set(unit.id, unit);
	}
	return [...groups.values()];
}

/** How many things some records are, what moves as one counted once: a group, a repeat with its sources. */
export function countUnits(drawing: Drawing, ids: ReadonlySet<string>, within?: string): number {
	const units = new Set([...ids].map((id) => unitOf(drawing, id, within)?.id ?? id));
	for (const id of ids) {
		const record = drawing.records.get(id);
		if (record?.type === 'repeat') for (const source of record.sources) units.delete(source);
	}
	return units.size;
}
