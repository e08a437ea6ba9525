/** Marks put on lines by hand. */
import type { Mark } from '../core/document/drawing';
import { markOn } from '../core/document/marks';
import { lineOf } from '../core/document/outline';
import { shown } from '../core/document/output';
import { nearestOnPath } from '../core/geometry/pick';
import type { Bench } from './bench.svelte';

/** Marks go onto the lines nearest to them and follow those from then on. */
export function putOnLine(bench: Bench, marks: readonly Mark[]): boolean {
	const lines = shown(bench.drawing);
	const put = marks.flatMap((mark) => {
		let least = Infinity;
		let nearest: (typeof lines)[number] | undefined;
		for (const outline of lines) {
			const near = nearestOnPath(lineOf(outline), mark.x, mark.y, least);
			if (near && near.distance <= least) [least, nearest] = [near.distance, outline];
		}
		return nearest ? [markOn(mark, nearest)] : [];
	});
	return bench.commit(put.length === 1 ? 'Mark onto the line' : 'Marks onto lines', { put });
}
