/** What was read back from outside, made whole: a record that does not hold is set aside, and nothing refers to what is missing. */
import { CUT_LAYER, DEFAULT_SETTINGS, type Drawing, type DrawingRecord } from './drawing';
import { applyStep, type Step } from './history';
import { detached } from './outline';
import { recordType } from './records';

export interface ReadBack {
	readonly records: Map<string, DrawingRecord>;
	/** Those that did not hold, each with the reason. */
	readonly aside: readonly { readonly record: unknown; readonly id: string; readonly why: string }[];
}

/** A line whose sources are not there is plain. */
export function withoutLooseRecipes(records: Map<string, DrawingRecord>): Map<string, DrawingRecord> {
	for (const [id, record] of records) {
		if (record.type !== 'outline' || !record.recipe) continue;
		if (record.recipe.inputs.some((ref) => records.get(ref.record)?.type !== 'outline'))
			records.set(id, detached(record));
	}
	return records;
}

/**
 * @param holds whether a record is one by the schema; packed numbers are looked at here.
 */
export function readBack(
	rows: readonly DrawingRecord[],
	holds: (record: DrawingRecord) => boolean
): ReadBack {
	const records = new Map<string, DrawingRecord>();
	const aside: { record: unknown; id: string; why: string }[] = [];
	for (const record of rows) {
		let why: string | undefined;
		try {
			why = holds(record) ? recordType(record).broken?.(record) : 'it is no such record';
		} catch {
			why = 'it is no such record';
		}
		if (why === undefined) records.set(record.id, record);
		else aside.push({ record, id: String((record as { id?: unknown })?.id ?? ''), why });
	}
	if (records.get('settings')?.type !== 'settings') records.set('settings', DEFAULT_SETTINGS);
	for (const record of [...records.values()]) {
		// What lay on a layer that is gone lies on the first one.
		if (!('layer' in record) || records.get(record.layer)?.type === 'layer') continue;
		if (records.get(CUT_LAYER.id)?.type !== 'layer') records.set(CUT_LAYER.id, CUT_LAYER);
		records.set(record.id, { ...record, layer: CUT_LAYER.id });
	}
	return { records: withoutLooseRecipes(records), aside };
}

/**
 * The steps of a drawing that fit it: those without a gap around where it stands, which can be undone and done again. The
 * drawing itself stays as it is.
 * @param rows what was stored, in the order of their index.
 * @param pointer how many steps are done.
 */
export function wholeHistory(
	drawing: Drawing,
	rows: readonly { readonly index: number; readonly step: Step }[],
	pointer: number
): { readonly steps: Step[]; readonly pointer: number; readonly cut: number } {
	const byIndex = new Map(rows.map(({ index, step }) => [index, step]));
	let first = pointer;
	for (let now = drawing; byIndex.has(first - 1); first--) {
		const next = appliedOr(now, byIndex.get(first - 1)!, 'back');
		if (!next) break;
		now = next;
	}
	let end = pointer;
	for (let now = drawing; byIndex.has(end); end++) {
		const next = appliedOr(now, byIndex.get(end)!, 'forward');
		if (!next) break;
		now = next;
	}
	const steps = Array.from({ length: end - first }, (_, k) => byIndex.get(first + k)!);
	// Steps that are missing before or behind count as much as those that are there and do not fit.
	return { steps, pointer: pointer - first, cut: Math.max(rows.length - steps.length, first) };
}

function appliedOr(drawing: Drawing, step: Step, direction: 'forward' | 'back'): Drawing | undefined {
	try {
		return applyStep(drawing, step, direction);
	} catch {
		return undefined;
	}
}
