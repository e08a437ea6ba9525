/** Grouping and taking apart, entering into groups and leaving them. */
import { groupsOf, nextRank, type Drawing, type DrawingRecord, type Group } from '../drawing';
import { canBeGrouped, directlyIn, unitOf, type Grouped } from '../groups';
import type { Edit } from '../history';

/** A record in another group, or in none. */
function put<R extends Grouped>(record: R, group: string | undefined): R {
	const { group: _, ...rest } = record;
	return { ...rest, ...(group === undefined ? {} : { group }) } as R;
}

/** "Group", "Group 2" and so on: the first that no group is called. */
export function freeGroupName(drawing: Drawing): string {
	const taken = new Set(groupsOf(drawing).map((group) => group.name));
	for (let k = 1; ; k++) {
		const name = k === 1 ? 'Group' : `Group ${k}`;
		if (!taken.has(name)) return name;
	}
}

/**
 * Things as one group. Groups among them stay groups and lie in it.
 * @param within the group that one has entered.
 */
export function grouped(
	drawing: Drawing,
	ids: Iterable<string>,
	facts: Pick<Group, 'id' | 'name'>,
	within?: string
): Edit {
	const units = new Map<string, Grouped>();
	for (const id of ids) {
		const record = unitOf(drawing, id, within) ?? drawing.records.get(id);
		if (canBeGrouped(record)) units.set(record.id, record);
	}
	const group: Group = {
		type: 'group',
		rank: nextRank(drawing),
		...facts,
		...(within === undefined ? {} : { group: within })
	};
	return { put: [group, ...[...units.values()].map((record) => put(record, group.id))] };
}

/** Groups taken apart: what lies in them lies where they lay. */
export function ungrouped(drawing: Drawing, groups: readonly Group[]): Edit {
	return {
		put: groups.flatMap((group) => directlyIn(drawing, group.id).map((record) => put(record, group.group))),
		remove: groups.map(({ id }) => id)
	};
}

/** Things out of the group that they lie in, into the one around it. */
export function outOfGroup(drawing: Drawing, ids: Iterable<string>): Edit {
	const records: DrawingRecord[] = [];
	for (const id of ids) {
		const record = drawing.records.get(id);
		if (!canBeGrouped(record) || record.group === undefined) continue;
		const group = drawing.records.get(record.group);
		records.push(put(record, group?.type === 'group' ? group.group : undefined));
	}
	return { put: records };
}
