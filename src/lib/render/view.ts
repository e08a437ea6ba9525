/** Where one looks: the place in the middle of the window, and how many pixels a millimetre takes. */
import type { Point } from '../core/geometry/point';
import type { Box } from '../core/geometry/segment';

export interface View {
	/** px/mm */
	readonly scale: number;
	/** mm, the place in the middle of the window. */
	readonly x: number;
	readonly y: number;
}

export interface WindowSize {
	readonly widthPx: number;
	readonly heightPx: number;
}

export const LEAST_SCALE = 0.01;
export const MOST_SCALE = 1e6;

export function toScreen(view: View, size: WindowSize, x: number, y: number): Point {
	return {
		x: size.widthPx / 2 + (x - view.x) * view.scale,
		y: size.heightPx / 2 - (y - view.y) * view.scale
	};
}

export function toPaper(view: View, size: WindowSize, px: number, py: number): Point {
	return {
		x: view.x + (px - size.widthPx / 2) / view.scale,
		y: view.y - (py - size.heightPx / 2) / view.scale
	};
}

/** Zoomed by a factor, the place under the pointer staying there. */
export function zoomAt(view: View, size: WindowSize, px: number, py: number, factor: number): View {
	const scale = Math.min(MOST_SCALE, Math.max(LEAST_SCALE, view.scale * factor));
	const p = toPaper(view, size, px, py);
	return { scale, x: p.x - (px - size.widthPx / 2) / scale, y: p.y + (py - size.heightPx / 2) / scale };
}

export function panBy(view: View, dxPx: number, dyPx: number): View {
	return { ...view, x: view.x - dxPx / view.scale, y: view.y + dyPx / view.scale };
}

/** What slips, rulers and the thread take along each edge of the window, px. */
export interface Margins {
	readonly left: number;
	readonly right: number;
	readonly upper: number;
	readonly lower: number;
}

export const MARGINS: Margins = { left: 46, right: 46, upper: 84, lower: 116 };
/** px: windows up to this width are as a phone's. */
export const NARROW_PX = 720;
export const isNarrow = ({ widthPx }: WindowSize): boolean => widthPx <= NARROW_PX;
/** px that the head takes; in a narrow window its words stand in two rows. */
export const headPx = (size: WindowSize): number => (isNarrow(size) ? 112 : 76);

/** Of the window's width or height: so much is left to the drawing, whatever lies over it. */
const LEAST_SHARE = 0.35;

/** The view that shows a box as large as it fits into what is free of the window. */
export function fitBox(box: Box, size: WindowSize, margins: Margins = MARGINS): View {
	const w = Math.max(box.x1 - box.x0, 1e-3);
	const h = Math.max(box.y1 - box.y0, 1e-3);
	const { left, right, upper, lower } = margins;
	const wide = Math.max(LEAST_SHARE * size.widthPx, size.widthPx - left - right);
	const high = Math.max(LEAST_SHARE * size.heightPx, size.heightPx - upper - lower);
	const scale = Math.min(MOST_SCALE, Math.max(LEAST_SCALE, Math.min(wide / w, high / h)));
	// From the upper left corner of what is free.
	const middleX = left + wide / 2 - size.widthPx / 2;
	const middleY = upper + high / 2 - size.heightPx / 2;
	return {
		scale,
		x: (box.x0 + box.x1) / 2 - middleX / scale,
		y: (box.y0 + box.y1) / 2 + middleY / scale
	};
}

/** The part of the paper in the window, with a margin in px. */
export function seenBox(view: View, size: WindowSize, marginPx = 0): Box {
	const a = toPaper(view, size, -marginPx, size.heightPx + marginPx);
	const b = toPaper(view, size, size.widthPx + marginPx, -marginPx);
	return { x0: a.x, y0: a.y, x1: b.x, y1: b.y };
}
