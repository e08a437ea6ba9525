/** What of a drawing goes onto paper: each line in the pattern of its purpose, from 0, 0 up. */
import type { Drawing, Purpose } from '../document/drawing';
import { MACHINE_PURPOSES, output, type OutputQuestion } from '../document/output';
import { PURPOSES } from '../document/purpose';
import { isEmptyBox, unionBox } from '../geometry/measure';
import { polygonPath, transformPath } from '../geometry/path';
import { boxOf } from '../geometry/pick';
import type { PaperPiece } from './pdf-write';

/** mm: strokes and gaps, as they look on the drawing. */
const STITCHES: Readonly<Record<Purpose, readonly number[]>> = {
	cut: [],
	score: [4, 2],
	engrave: [1, 1.6],
	guide: [6, 2, 1, 2]
};
/** mm of a cross at a mark, and free around all that is drawn. */
const CROSS = 2;
const AROUND = 2;

export interface OnPaper {
	readonly pieces: readonly PaperPiece[];
	readonly width: number;
	readonly height: number;
	/** Where its lower left corner lies in the drawing. */
	readonly x: number;
	readonly y: number;
}

/** What goes onto paper. @param guides whether guides are drawn too. */
export const paperQuestion = (guides: boolean, picked?: ReadonlySet<string>): OutputQuestion => ({
	purposes: guides ? PURPOSES : MACHINE_PURPOSES,
	picked
});

/** @returns undefined where nothing goes out. */
export function paperOf(drawing: Drawing, question = paperQuestion(false)): OnPaper | undefined {
	const { lines, marks } = output(drawing, question);
	const box = unionBox([
		...lines.map(({ path }) => boxOf(path)),
		...marks.map(({ mark: { x, y } }) => ({ x0: x - CROSS, y0: y - CROSS, x1: x + CROSS, y1: y + CROSS }))
	]);
	if (isEmptyBox(box)) return undefined;
	const [x, y] = [box.x0 - AROUND, box.y0 - AROUND];
	const pieces: PaperPiece[] = lines.map(({ path, outline, purpose }) => ({
		paths: [transformPath(path, [1, 0, 0, 1, -x, -y])],
		name: outline.name,
		dashes: outline.dashes ?? STITCHES[purpose]
	}));
	for (const { mark } of marks) {
		const [u, v] = [mark.x - x, mark.y - y];
		pieces.push({ paths: [stroke(u - CROSS, v, u + CROSS, v), stroke(u, v - CROSS, u, v + CROSS)] });
	}
	return { pieces, x, y, width: box.x1 - box.x0 + 2 * AROUND, height: box.y1 - box.y0 + 2 * AROUND };
}

const stroke = (x0: number, y0: number, x1: number, y1: number) => polygonPath([x0, y0, x1, y1], false);
