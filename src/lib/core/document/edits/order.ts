/** Where things lie among each other: on which layer, and in which order. */
import type { Drawing, DrawingRecord } from '../drawing';
import type { Edit } from '../history';

const onLayers = (
	record: DrawingRecord | undefined
): record is Extract<DrawingRecord, { readonly layer: string }> =>
	record?.type === 'outline' || record?.type === 'mark';

/** Outlines and marks put on a layer. */
export function putOnLayer(drawing: Drawing, ids: Iterable<string>, layer: string): Edit {
	const put = [...ids].flatMap((id) => {
		const record = drawing.records.get(id);
		return onLayers(record) && record.layer !== layer ? [{ ...record, layer }] : [];
	});
	return { put };
}

/**
 * Records put before another one in the drawing's order, in the order in which they lie; behind all where none is said.
 * Ranks of others stay.
 */
export function putBefore(drawing: Drawing, ids: ReadonlySet<string>, before: string | undefined): Edit {
	const kinds = new Set([...ids].map((id) => drawing.records.get(id)?.type));
	const sorted = [...drawing.records.values()]
		.filter((record) => kinds.has(record.type))
		.sort((a, b) => a.rank - b.rank || (a.id < b.id ? -1 : 1));
	const moving = sorted.filter(({ id }) => ids.has(id));
	const others = sorted.filter(({ id }) => !ids.has(id));
	const at = before === undefined ? others.length : others.findIndex(({ id }) => id === before);
	if (at < 0 || moving.length === 0) return {};
	const low = others[at - 1]?.rank ?? (others[at]?.rank ?? 1) - 1;
	const high = others[at]?.rank ?? low + moving.length + 1;
	const put = moving.map((record, i) => ({
		...record,
		rank: low + ((i + 1) * (high - low)) / (moving.length + 1)
	}));
	const isSame = put.every((record, i) => record.rank === moving[i].rank);
	return isSame ? {} : { put };
}
