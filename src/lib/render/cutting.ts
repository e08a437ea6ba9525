/** A job as it lies on the sheet: where the tool goes, what it takes away, where it begins, what holds, and what it leaves. */
import type { Point } from '../core/geometry/point';
import type { Path } from '../core/geometry/path';
import type { Box } from '../core/geometry/segment';
import { inMillimetres, strokeLine } from './lines';
import type { Palette } from './palette';
import type { SurfaceLook } from './scene';
import { toScreen } from './view';

/** A cut as it is shown. mm of the drawing. */
export interface ShownCut {
	readonly lines: readonly Path[];
	readonly start: Point;
	/** Unit vector in which it begins. */
	readonly direction: Point;
	readonly tabs: readonly Point[];
	/** Its place in the order, from 1. */
	readonly place: number;
	/** What is marked while it is being made: an area's own outline. */
	readonly around?: Path;
	/** Full width of what is taken away, mm. */
	readonly width: number;
}

export interface Cutting {
	readonly cuts: readonly ShownCut[];
	readonly travel: readonly Path[];
	/** Corners that the tool leaves: x,y pairs round each. */
	readonly uncut: readonly ArrayLike<number>[];
	readonly sheet: Box;
	/** The sheet is not laid out: its edge is only a proposal. */
	readonly isProposed: boolean;
	/** What the pointer is over, or holds: the tab or start there. */
	readonly held: Point | undefined;
	/** What has been taken away so far, as a picture of the sheet, and where the tool is. */
	readonly cut?: { readonly picture: CanvasImageSource; readonly tool: Point; readonly toolWidth: number };
	/** The cut that is being made. */
	readonly now?: number;
}

type Context = CanvasRenderingContext2D;

/** Cuts up to which each is numbered. */
const MOST_NUMBERS = 150;
const TAB_PX = 7;
/** Corners up to which small ones are pointed at. */
const MOST_POINTED_AT = 60;

export function drawCutting(c: Context, look: SurfaceLook, cutting: Cutting): void {
	const { view, size, palette, ratio } = look;
	const k = view.scale;
	const place = (p: Point) => toScreen(view, size, p.x, p.y);
	const flat = () => c.setTransform(ratio, 0, 0, ratio, 0, 0);
	const toMm = () => inMillimetres(c, view, size, ratio);
	c.save();
	const { sheet } = cutting;
	const corner = (x: number, y: number) => place({ x, y });
	const [a, b] = [corner(sheet.x0, sheet.y1), corner(sheet.x1, sheet.y0)];
	flat();
	if (cutting.cut) {
		c.imageSmoothingEnabled = true;
		c.drawImage(cutting.cut.picture, a.x, a.y, b.x - a.x, b.y - a.y);
	}
	if (cutting.isProposed) {
		c.setLineDash([6, 5]);
		c.strokeStyle = palette.faint;
		c.lineWidth = 1;
		c.strokeRect(a.x, a.y, b.x - a.x, b.y - a.y);
		c.setLineDash([]);
	}
	toMm();
	c.lineJoin = c.lineCap = 'round';
	const stroke = (path: Path) => strokeLine(c, path, view, size, ratio);
	if (!cutting.cut) {
		// What is taken away, as wide as it is where that can be seen.
		c.strokeStyle = palette.woad;
		for (const cut of cutting.cuts) {
			if (cut.width * k < 2.5) continue;
			c.globalAlpha = 0.16;
			c.lineWidth = cut.width;
			for (const line of cut.lines) stroke(line);
		}
		c.globalAlpha = 1;
		c.lineWidth = 1.3 / k;
		for (const cut of cutting.cuts) for (const line of cut.lines) stroke(line);
		c.setLineDash([2 / k, 5 / k]);
		c.strokeStyle = palette.faint;
		c.lineWidth = 1 / k;
		for (const line of cutting.travel) stroke(line);
		c.setLineDash([]);
	}
	if (cutting.now !== undefined) {
		c.strokeStyle = palette.madder;
		c.lineWidth = 1.6 / k;
		const now = cutting.cuts[cutting.now];
		for (const line of now?.around ? [now.around] : (now?.lines ?? [])) stroke(line);
	}
	flat();
	drawUncut(c, look, cutting.uncut);
	if (cutting.cut) drawTool(c, look, cutting.cut);
	else drawMarks(c, look, cutting);
	c.restore();
}

function drawMarks(c: Context, look: SurfaceLook, cutting: Cutting): void {
	const { view, size, palette } = look;
	const place = (p: Point) => toScreen(view, size, p.x, p.y);
	const isNumbered = cutting.cuts.length <= MOST_NUMBERS;
	c.font = '600 11px "Source Sans 3 Variable", sans-serif';
	c.textAlign = 'center';
	c.textBaseline = 'middle';
	for (const cut of cutting.cuts) {
		const p = place(cut.start);
		// A needle in the direction in which it begins.
		const angle = Math.atan2(-cut.direction.y, cut.direction.x);
		c.save();
		c.translate(p.x, p.y);
		c.rotate(angle);
		c.beginPath();
		c.moveTo(11, 0);
		c.lineTo(-2, 3.4);
		c.lineTo(-2, -3.4);
		c.closePath();
		c.fillStyle = palette.madder;
		c.fill();
		c.restore();
		if (isNumbered) {
			const at = { x: p.x + 12 * Math.sin(angle), y: p.y - 12 * Math.cos(angle) };
			c.lineWidth = 3;
			c.strokeStyle = palette.halo;
			c.strokeText(String(cut.place), at.x, at.y);
			c.fillStyle = palette.ink;
			c.fillText(String(cut.place), at.x, at.y);
		}
		for (const tab of cut.tabs) drawTab(c, place(tab), tab === cutting.held, palette);
	}
}

/** A knot of thread over the line: two loops. */
function drawTab(c: Context, p: Point, isHeld: boolean, palette: Palette): void {
	c.lineWidth = isHeld ? 3 : 2;
	c.strokeStyle = palette.halo;
	for (const colour of [palette.halo, palette.weld]) {
		c.strokeStyle = colour;
		c.lineWidth = (isHeld ? 3 : 2) + (colour === palette.halo ? 2.5 : 0);
		c.beginPath();
		c.ellipse(p.x - TAB_PX / 2, p.y, TAB_PX / 2, TAB_PX * 0.6, 0, 0, 2 * Math.PI);
		c.ellipse(p.x + TAB_PX / 2, p.y, TAB_PX / 2, TAB_PX * 0.6, 0, 0, 2 * Math.PI);
		c.stroke();
	}
}

/** Corners that stay: filled, with strokes across, so that they tell without colour. */
function drawUncut(
	c: Context,
	{ view, size, palette }: SurfaceLook,
	corners: readonly ArrayLike<number>[]
): void {
	c.fillStyle = palette.rust;
	c.strokeStyle = palette.rust;
	for (const points of corners) {
		c.beginPath();
		let [x0, y0, x1, y1] = [Infinity, Infinity, -Infinity, -Infinity];
		for (let i = 0; i < points.length; i += 2) {
			const p = toScreen(view, size, points[i], points[i + 1]);
			c.lineTo(p.x, p.y);
			[x0, y0, x1, y1] = [Math.min(x0, p.x), Math.min(y0, p.y), Math.max(x1, p.x), Math.max(y1, p.y)];
		}
		c.closePath();
		c.globalAlpha = 0.55;
		c.fill();
		c.globalAlpha = 1;
		// Too small to be seen as an area: a stroke that points at it.
		if (corners.length <= MOST_POINTED_AT && x1 - x0 < 6 && y1 - y0 < 6) {
			c.lineWidth = 1.5;
			c.beginPath();
			c.arc((x0 + x1) / 2, (y0 + y1) / 2, 4, 0, 2 * Math.PI);
			c.stroke();
		}
	}
}

function drawTool(
	c: Context,
	{ view, size, palette }: SurfaceLook,
	{ tool, toolWidth }: NonNullable<Cutting['cut']>
): void {
	const p = toScreen(view, size, tool.x, tool.y);
	const r = Math.max(4, (toolWidth * view.scale) / 2);
	c.lineWidth = 2;
	c.strokeStyle = palette.madder;
	c.beginPath();
	c.arc(p.x, p.y, r, 0, 2 * Math.PI);
	c.moveTo(p.x - r - 5, p.y);
	c.lineTo(p.x + r + 5, p.y);
	c.moveTo(p.x, p.y - r - 5);
	c.lineTo(p.x, p.y + r + 5);
	c.stroke();
}
