/** A stretch taken out as far as the outlines that cross it. */
import type { Drawing } from '../../core/document/drawing';
import type { NewId } from '../../core/document/edits/operations';
import { replaceBy } from '../../core/document/edits/structure';
import type { Edit } from '../../core/document/history';
import { lineOf, type Outline } from '../../core/document/outline';
import { shown } from '../../core/document/output';
import type { Result } from '../../core/errors';
import { trim } from '../../core/geometry/join';
import type { Path } from '../../core/geometry/path';
import type { Bench } from '../bench.svelte';
import { PlainOperation } from './plain-operation.svelte';

/** Takes out the stretch around a picked segment, as far as the other outlines that cross it. */
export class TrimOperation extends PlainOperation {
	readonly kind = 'trim';
	readonly name = 'Trim';

	constructor(
		outline: Outline,
		private readonly segment: number,
		private readonly cutters: readonly Path[]
	) {
		super([outline]);
	}
	protected compute(): Result<readonly Path[]> {
		return trim(lineOf(this.outlines[0]), this.cutters, { segment: this.segment, t: 0.5 });
	}
	edit(drawing: Drawing, newId: NewId): Edit {
		return replaceBy(drawing, this.outlines[0], this.preview, newId);
	}
}

/** Trims the picked stretch by all other outlines that are shown. */
export function beginTrim(bench: Bench): TrimOperation | undefined {
	const outline = bench.selection.enteredOutline;
	if (!outline || bench.selection.segment === undefined) return undefined;
	const cutters = shown(bench.drawing).filter((o) => o.id !== outline.id);
	return new TrimOperation(outline, outline.anchors.indexOf(bench.selection.segment), cutters.map(lineOf));
}
