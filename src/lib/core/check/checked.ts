/** What of a drawing is checked, and what of its faults can be mended by itself. */
import type { Drawing } from '../document/drawing';
import type { Outline } from '../document/outline';
import { output } from '../document/output';
import type { Purpose } from '../document/purpose';
import type { Path } from '../geometry/path';
import type { Mend } from './fault';

/** What of a drawing is checked: the lines that go out. */
export interface Checked {
	readonly outlines: readonly Outline[];
	readonly paths: readonly Path[];
	/** What is done with each. */
	readonly purposes: readonly Purpose[];
	/** Indexes of lines that are open on purpose: by a word, or because their layer is not cut. */
	readonly mayBeOpen: readonly number[];
}

export function checkedOf(drawing: Drawing): Checked {
	const { lines } = output(drawing);
	return {
		outlines: lines.map((line) => line.outline),
		paths: lines.map((line) => line.path),
		purposes: lines.map((line) => line.purpose),
		mayBeOpen: lines.flatMap(({ outline, purpose }, i) =>
			purpose !== 'cut' || outline.openOnPurpose ? [i] : []
		)
	};
}

/** What is to be done by a person, or by itself. */
export const isMendable = (mend: Mend): boolean =>
	!['none', 'size', 'again', 'onto-sheet', 'other-tool'].includes(mend);
