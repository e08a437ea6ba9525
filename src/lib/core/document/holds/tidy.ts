/** What becomes of holds in an edit: kept by a reckoning that comes late (`keep.ts`), gone with the places that they are about. */
import type { Drawing, DrawingRecord } from '../drawing';
import type { Outline } from '../outline';
import type { Hold } from './hold';
import { CoreError } from '../../errors';

/** Holds that cannot be kept together; each is needed for that. */
export class HoldConflict extends CoreError {
	constructor(
		sentence: string,
		readonly holds: readonly string[]
	) {
		super('hold-conflict', sentence);
	}
}

/**
 * What holds make of an edit: outlines as they come to lie, or nothing where no hold is about it.
 * @param before the drawing that the edit is made of, in which all is kept.
 * @param records as they are to become; @param put ids of those that the edit changes.
 * @throws HoldConflict
 */
export type KeepHolds = (
	before: Drawing,
	records: ReadonlyMap<string, DrawingRecord>,
	put: ReadonlySet<string>
) => readonly Outline[];

/** The reckoning, once it is there. */
export const lateHolds: { keep?: KeepHolds } = {};

export const holdsIn = (records: Iterable<DrawingRecord>): Hold[] => {
	const out: Hold[] = [];
	for (const record of records) if (record.type === 'hold') out.push(record);
	return out;
};

/** Holds of places that are gone go with them. @returns how many. */
export function tidyHolds(
	records: Map<string, DrawingRecord>,
	removed: Set<string>,
	put: Map<string, DrawingRecord>
): number {
	let lost = 0;
	for (const hold of holdsIn(records.values())) {
		const isWhole =
			(hold.guide === undefined || records.get(hold.guide)?.type === 'guide') &&
			hold.on.every(({ outline, anchor }) => {
				const record = records.get(outline);
				return record?.type === 'outline' && record.anchors.includes(anchor);
			});
		if (isWhole) continue;
		records.delete(hold.id);
		put.delete(hold.id);
		removed.add(hold.id);
		lost++;
	}
	return lost;
}
