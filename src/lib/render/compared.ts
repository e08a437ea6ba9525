/** Two states of a drawing over each other: told apart by dashes and doubling first, by colour beside. */
import type { Path } from '../core/geometry/path';
import { inMillimetres, strokeLine } from './lines';
import type { SurfaceLook } from './scene';

export interface ComparedLines {
	/** What runs otherwise, as it was and as it is. */
	readonly before: readonly Path[];
	readonly after: readonly Path[];
	readonly came: readonly Path[];
	readonly went: readonly Path[];
}

export function drawCompared(c: CanvasRenderingContext2D, look: SurfaceLook, lines: ComparedLines): void {
	const { view, size, palette, ratio } = look;
	const k = view.scale;
	c.save();
	inMillimetres(c, view, size, ratio);
	c.lineJoin = c.lineCap = 'round';
	const px = 1 / k;
	const stroke = (paths: readonly Path[], colour: string, width: number, dashes: readonly number[] = []) => {
		c.strokeStyle = colour;
		c.lineWidth = width * px;
		c.setLineDash(dashes.map((d) => d * px));
		for (const path of paths) strokeLine(c, path, view, size, ratio);
	};
	// A pale edge under each, so that they are seen on any picture.
	stroke([...lines.before, ...lines.went], palette.paper, 4);
	stroke([...lines.after], palette.paper, 5);
	stroke(lines.before, palette.faint, 1.6, [9, 6]);
	stroke(lines.went, palette.rust, 2.2, [0.1, 5]);
	stroke(lines.after, palette.woad, 2);
	stroke(lines.came, palette.madder, 5);
	stroke(lines.came, palette.paper, 2);
	c.restore();
}
