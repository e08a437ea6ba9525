/** Pages of paper over the drawing, as they will be laid together. */
import type { SurfaceLook } from './scene';
import { toScreen } from './view';

/** What a page shows, mm of the drawing. */
export interface ShownPage {
	readonly number: number;
	readonly x: number;
	readonly y: number;
	readonly width: number;
	readonly height: number;
}

export function drawPages(
	c: CanvasRenderingContext2D,
	{ view, size, palette, ratio }: SurfaceLook,
	pages: readonly ShownPage[]
): void {
	c.save();
	c.setTransform(ratio, 0, 0, ratio, 0, 0);
	c.font = '600 20px "Source Sans 3 Variable", sans-serif';
	c.textAlign = 'center';
	c.textBaseline = 'middle';
	for (const { number, x, y, width, height } of pages) {
		const a = toScreen(view, size, x, y + height);
		const b = toScreen(view, size, x + width, y);
		c.strokeStyle = palette.woad;
		c.lineWidth = 1.2;
		c.setLineDash([8, 5]);
		c.strokeRect(a.x, a.y, b.x - a.x, b.y - a.y);
		c.setLineDash([]);
		if (b.x - a.x < 24) continue;
		c.fillStyle = palette.woad;
		c.globalAlpha = 0.55;
		c.fillText(String(number), (a.x + b.x) / 2, (a.y + b.y) / 2);
		c.globalAlpha = 1;
	}
	c.restore();
}
