/** Records of any kind under a map, with the lines that are kept beside outlines. */
import type { Drawing, DrawingRecord } from '../drawing';
import { recordType } from '../records';
import type { Affine } from '../../geometry/path';
import { placeOutlines } from './transform';

/** What of some records moves under a map, as it would lie; what does not move with others is left out. */
export function carriedRecords(
	drawing: Drawing,
	records: readonly DrawingRecord[],
	map: Affine
): DrawingRecord[] {
	const outlines = records.filter((record) => record.type === 'outline');
	return [
		...(placeOutlines(drawing, outlines, map).put ?? []),
		...records.flatMap((record) =>
			record.type === 'outline' ? [] : (recordType(record).carried?.(record, map) ?? [])
		)
	];
}
