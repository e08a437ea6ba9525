/** Whether a record read back from outside is one, by the schema. */
import { validateRecord } from '../../generated/validate-record';
import type { DrawingRecord } from '../document/drawing';

/** Packed numbers are left out: they are looked at where they lie, which is much faster. */
export function isRecord(record: DrawingRecord): boolean {
	if (record?.type === 'outline')
		return validateRecord({ ...record, anchors: [], points: [], marks: [] }) && areArrays(record);
	if (record?.type === 'line') {
		const { path, ...rest } = record;
		const { closed } = path;
		return validateRecord({ ...rest, closed, types: [], segs: [] }) && path.segs instanceof Float64Array;
	}
	return validateRecord(record);
}

const areArrays = (o: Extract<DrawingRecord, { type: 'outline' }>): boolean =>
	o.anchors instanceof Uint32Array && o.points instanceof Float64Array && o.marks instanceof Uint8Array;
