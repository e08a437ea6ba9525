/** Drawings of a few lines, for tests of what is done with them. */
import { newDrawing, type Drawing } from '../src/lib/core/document/drawing';
import { outlineFromPath } from '../src/lib/core/document/outline';
import type { Path } from '../src/lib/core/geometry/path';

/** Each line is an outline to be cut: o0 "Part 0", o1 "Part 1" and so on. */
export function drawingOf(id: string, paths: readonly Path[]): Drawing {
	const empty = newDrawing(id, 'Workshop');
	const records = new Map(empty.records);
	paths.forEach((path, k) =>
		records.set(`o${k}`, outlineFromPath(path, { id: `o${k}`, name: `Part ${k}`, layer: 'cut', rank: k + 2 }))
	);
	return { ...empty, records };
}
