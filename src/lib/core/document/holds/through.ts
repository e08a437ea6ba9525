/** Outlines as holds leave them, while something is dragged. */
import { recordsOf, type Drawing } from '../drawing';
import type { Outline } from '../outline';
import { lateHolds } from './tidy';

/** Those that are changed, and others that have to go along. */
export function heldThrough(drawing: Drawing, outlines: readonly Outline[]): Outline[] {
	if (!lateHolds.keep || outlines.length === 0 || recordsOf(drawing, 'hold').length === 0)
		return [...outlines];
	const records = new Map(drawing.records);
	for (const outline of outlines) records.set(outline.id, outline);
	const kept = lateHolds.keep(drawing, records, new Set(outlines.map(({ id }) => id)));
	const out = new Map(outlines.map((outline) => [outline.id, outline]));
	for (const outline of kept) out.set(outline.id, outline);
	return [...out.values()];
}
