/** Marks put on lines by hand. */
import type { Mark } from '../core/document/drawing';
import { nearestOutline } from '../core/document/edits/selecting';
import { markOn } from '../core/document/marks';
import { shown } from '../core/document/output';
import type { Bench } from './bench.svelte';

/** Marks go onto the lines nearest to them and follow those from then on. */
export function putOnLine(bench: Bench, marks: readonly Mark[]): boolean {
	const lines = shown(bench.drawing);
	const put = marks.flatMap((mark) => {
		const nearest = nearestOutline(lines, mark.x, mark.y);
		return nearest ? [markOn(mark, nearest)] : [];
	});
	return bench.commit(put.length === 1 ? 'Mark onto the line' : 'Marks onto lines', { put });
}
