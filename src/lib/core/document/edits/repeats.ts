/** Repeats: begun, changed, made plain, one of them edited apart. */
import { nextRank, recordAs, type Drawing, type DrawingRecord, type Mark, type Repeat } from '../drawing';
import type { Edit } from '../history';
import type { Outline } from '../outline';
import type { RepeatRule } from '../repeat-rules';
import { copiesIn, instanceOf, instancesOf } from '../repeats';
import type { NewId } from './operations';

/** Outlines and marks repeated by a rule. */
export function addRepeat(
	drawing: Drawing,
	sources: readonly (Outline | Mark)[],
	rule: RepeatRule,
	facts: Pick<Repeat, 'id' | 'name'>
): Edit {
	const groups = new Set(sources.map((source) => source.group));
	const [group] = groups;
	const repeat: Repeat = {
		type: 'repeat',
		rank: nextRank(drawing),
		...facts,
		sources: sources.map(({ id }) => id),
		rule,
		...(groups.size === 1 && group !== undefined ? { group } : {})
	};
	return { put: [repeat] };
}

/** All copies as plain outlines and marks; the repeats go. They are what they were, to the bit. */
export const repeatsMadePlain = (drawing: Drawing, repeats: readonly Repeat[], newId: NewId) => ({
	put: repeats.flatMap((repeat) =>
		copiesIn(drawing, repeat).map((copy): DrawingRecord => ({ ...copy, id: newId() }))
	),
	remove: repeats.map(({ id }) => id)
});

/** One copy as outlines and marks of its own; its place in the repeat stays empty. @throws CoreError `gone` */
export function editedApart(drawing: Drawing, id: string, place: number, newId: NewId): Edit {
	const repeat = recordAs(drawing, 'repeat', id);
	const { sources, list } = instancesOf(drawing, repeat);
	const instance = list.find((one) => one.place === place);
	if (!instance) return {};
	const own = sources.map((source) => ({
		...instanceOf(repeat, instance, source),
		id: newId()
	}));
	return { put: [...own, takenOut(repeat, place)] };
}

/** A copy taken out: its place stays empty. */
export const takenOut = (repeat: Repeat, place: number): Repeat => ({
	...repeat,
	without: [...(repeat.without ?? []), place]
});

/** The repeat with all its places filled again. */
export function filledAgain({ without: _, ...repeat }: Repeat): Repeat {
	return repeat;
}
