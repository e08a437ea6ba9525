/** The marks on the drawing, each told apart by its form, with a double edge so that it reads on any picture. */
import type { Point } from '../core/geometry/point';
import {
	ANCHOR_STRIDE,
	HELD_IN,
	HELD_OUT,
	kindOf,
	MARK_STRIDE,
	segmentTypeOf,
	sourceLine,
	type Outline
} from '../core/document/outline';
import { handleFaults } from '../core/document/edits/handles';
import { CUBIC, STRIDE, type Path } from '../core/geometry/path';
import { directionAt } from '../core/geometry/segment';
import type { CornerVerdict } from '../core/trace/corner-verdicts';
import type { Mark, Sheet } from '../core/document/drawing';
import { formOf } from '../core/document/marks';
import type { PolygonVertex } from '../core/document/edits/control-polygon';
import type { Palette } from './palette';
import { toScreen, type View, type WindowSize } from './view';

export interface MarkScene {
	readonly view: View;
	readonly size: WindowSize;
	readonly palette: Palette;
}

type Context = CanvasRenderingContext2D;

/** Strokes what `draw` puts down twice: broad in the halo's colour, thin in its own. */
export function doubleEdge(
	c: Context,
	palette: Palette,
	colour: string,
	width: number,
	draw: () => void
): void {
	c.lineCap = 'round';
	c.lineJoin = 'round';
	c.strokeStyle = palette.halo;
	c.lineWidth = width + 2.5;
	c.beginPath();
	draw();
	c.stroke();
	c.strokeStyle = colour;
	c.lineWidth = width;
	c.beginPath();
	draw();
	c.stroke();
}

function directionInto(path: Path, i: number, open: boolean): Point | undefined {
	const n = path.types.length;
	if (open && i === 0) return undefined;
	const k = (i + n - 1) % n;
	const d = directionAt(path.types[k], path.segs, STRIDE * k, 1);
	return { x: d.x, y: -d.y };
}
function directionOut(path: Path, i: number, open: boolean): Point | undefined {
	const n = path.types.length;
	if (open && i >= n) return undefined;
	const d = directionAt(path.types[i % n], path.segs, STRIDE * (i % n), 0);
	return { x: d.x, y: -d.y };
}

/** Anchors by kind, handles of the selected ones, start and direction of travel. */
export function drawAnchors(
	c: Context,
	scene: MarkScene,
	outline: Outline,
	selected: ReadonlySet<number>,
	inHand: 'in' | 'out' | undefined
): void {
	const { view, size, palette } = scene;
	const path = sourceLine(outline);
	const n = outline.anchors.length;
	if (path.types.length === 0) return;
	const p = outline.points;
	const open = !outline.closed;
	const margin = 20;
	// Thinned out when there is less than a mark's room between anchors.
	let length = 0;
	for (let i = 1; i < n; i++) {
		const a = ANCHOR_STRIDE * i;
		length += Math.hypot(p[a] - p[a - ANCHOR_STRIDE], p[a + 1] - p[a - ANCHOR_STRIDE + 1]);
	}
	const room = (length * view.scale) / Math.max(1, n);
	const small = room < 9;
	const plain: [number, number][] = [];
	const nearSelected = new Set<number>();
	if (selected.size <= 40) {
		outline.anchors.forEach((id, i) => {
			if (!selected.has(id)) return;
			for (const k of [i - 1, i, i + 1]) {
				if (open && (k < 0 || k >= n)) continue;
				nearSelected.add((k + n) % n);
			}
		});
	}
	// Handles first, so that anchors lie over them.
	for (const i of nearSelected) {
		const a = ANCHOR_STRIDE * i;
		const at = toScreen(view, size, p[a], p[a + 1]);
		const own = selected.has(outline.anchors[i]);
		for (const side of [2, 4]) {
			const segment = side === 4 ? i : (i + n - 1) % n;
			if (open && ((side === 4 && i === n - 1) || (side === 2 && i === 0))) continue;
			if (segmentTypeOf(outline, segment) !== CUBIC) continue;
			const length = Math.hypot(p[a + side] - p[a], p[a + side + 1] - p[a + 1]);
			if (!(length > 0)) continue;
			const end = handleEnd(p[a], p[a + 1], p[a + side], p[a + side + 1], view.scale);
			const h = toScreen(view, size, end.x, end.y);
			// A tiny one, drawn so that it can be grabbed, has its true length beside it.
			const isTiny = length * view.scale < LEAST_HANDLE_PX;
			const far = Math.hypot(h.x - at.x, h.y - at.y);
			if (isTiny && own) labelAt(c, palette, `${length.toPrecision(2)} mm`, h.x + 8, h.y - 6, palette.faint);
			const isHeld =
				kindOf(outline, i) === 'flowing' &&
				(outline.marks[MARK_STRIDE * i + 2] & (side === 2 ? HELD_IN : HELD_OUT)) !== 0;
			const colour = own ? palette.madder : palette.faint;
			// Computed handles hang on a broken thread, held ones on a whole one.
			c.setLineDash(kindOf(outline, i) === 'flowing' && !isHeld ? [3, 3] : []);
			doubleEdge(c, palette, colour, 1, () => {
				c.moveTo(at.x, at.y);
				c.lineTo(h.x, h.y);
			});
			c.setLineDash([]);
			// A handle's end is a small bobbin: a short bar square to its thread.
			const ux = (h.x - at.x) / far;
			const uy = (h.y - at.y) / far;
			const isInHand = own && inHand === (side === 2 ? 'in' : 'out');
			const half = isInHand ? 9 : own ? 5 : 3.5;
			doubleEdge(c, palette, colour, own ? 3 : 2, () => {
				c.moveTo(h.x - uy * half, h.y + ux * half);
				c.lineTo(h.x + uy * half, h.y - ux * half);
			});
		}
	}
	for (let i = 0; i < n; i++) {
		const a = ANCHOR_STRIDE * i;
		const { x, y } = toScreen(view, size, p[a], p[a + 1]);
		if (x < -margin || y < -margin || x > size.widthPx + margin || y > size.heightPx + margin) continue;
		const isSelected = selected.has(outline.anchors[i]);
		if (small && !isSelected) {
			plain.push([x, y]);
			continue;
		}
		const colour = isSelected ? palette.madder : palette.ink;
		const weight = isSelected ? 2.6 : 1.6;
		const before = directionInto(path, i, open);
		const after = directionOut(path, i, open);
		const kind = kindOf(outline, i);
		doubleEdge(c, palette, colour, weight, () => {
			if (kind === 'corner') {
				// Two short ticks along its sides.
				for (const [d, sign] of [
					[before, -1],
					[after, 1]
				] as const) {
					if (!d) continue;
					c.moveTo(x, y);
					c.lineTo(x + sign * d.x * 8, y + sign * d.y * 8);
				}
			} else {
				const t = after ?? before ?? { x: 1, y: 0 };
				if (kind === 'flowing') {
					// A small wave along the line.
					c.moveTo(x - t.x * 8, y - t.y * 8);
					c.bezierCurveTo(
						x - t.x * 3 - t.y * 7,
						y - t.y * 3 + t.x * 7,
						x + t.x * 3 + t.y * 7,
						y + t.y * 3 - t.x * 7,
						x + t.x * 8,
						y + t.y * 8
					);
				} else {
					// A bar across: arms alike for even, of different length for smooth.
					const longer = kind === 'even' ? 6 : 8;
					const shorter = kind === 'even' ? 6 : 3.5;
					c.moveTo(x - t.y * longer, y + t.x * longer);
					c.lineTo(x + t.y * shorter, y - t.x * shorter);
				}
			}
		});
		if (isSelected) {
			c.fillStyle = palette.madder;
			c.beginPath();
			c.arc(x, y, 3.2, 0, 2 * Math.PI);
			c.fill();
		}
	}
	if (plain.length) {
		c.fillStyle = palette.halo;
		for (const [x, y] of plain) c.fillRect(x - 2.2, y - 2.2, 4.4, 4.4);
		c.fillStyle = palette.ink;
		for (const [x, y] of plain) c.fillRect(x - 1.2, y - 1.2, 2.4, 2.4);
	}
	if (n < 2000) {
		for (const fault of handleFaults(outline)) drawTangle(c, scene, fault.x, fault.y);
	}
	drawStart(c, scene, path, open);
}

/** px: a handle shorter than this is drawn, and grabbed, as if it were so long. */
const LEAST_HANDLE_PX = 14;

/** Where the end of a handle is drawn: a tiny one farther out, in its own direction. */
export function handleEnd(ax: number, ay: number, hx: number, hy: number, scale: number): Point {
	const length = Math.hypot(hx - ax, hy - ay);
	const least = LEAST_HANDLE_PX / scale;
	if (!(length > 0) || length >= least) return { x: hx, y: hy };
	return { x: ax + ((hx - ax) / length) * least, y: ay + ((hy - ay) / length) * least };
}

/** Handles that cross, turn back or loop: a small tangle on the segment. */
function drawTangle(c: Context, { view, size, palette }: MarkScene, x: number, y: number): void {
	const p = toScreen(view, size, x, y);
	doubleEdge(c, palette, palette.rust, 1.6, () => {
		c.moveTo(p.x - 9, p.y);
		c.bezierCurveTo(p.x + 12, p.y - 12, p.x - 12, p.y - 12, p.x + 9, p.y);
		c.moveTo(p.x - 9, p.y + 5);
		c.bezierCurveTo(p.x + 10, p.y - 4, p.x - 10, p.y - 4, p.x + 9, p.y + 5);
	});
}

/** Text on the drawing, legible on any picture. */
export function labelAt(
	c: Context,
	palette: Palette,
	text: string,
	x: number,
	y: number,
	colour: string
): void {
	c.font = '600 13px "Source Sans 3 Variable", sans-serif';
	c.lineWidth = 4;
	c.lineJoin = 'round';
	c.strokeStyle = palette.halo;
	c.strokeText(text, x, y);
	c.fillStyle = colour;
	c.fillText(text, x, y);
}

/** A line right across the window. */
export function drawGuideLine(
	c: Context,
	{ view, size }: MarkScene,
	guide: { readonly x: number; readonly y: number; readonly angle: number },
	colour: string,
	dash: readonly number[]
): void {
	const p = toScreen(view, size, guide.x, guide.y);
	const rad = (guide.angle * Math.PI) / 180;
	const reach = 4 * (size.widthPx + size.heightPx);
	// From the place of it nearest to the window's middle, so that no number gets too large to be drawn.
	const along = (size.widthPx / 2 - p.x) * Math.cos(rad) - (size.heightPx / 2 - p.y) * Math.sin(rad);
	const x = p.x + along * Math.cos(rad);
	const y = p.y - along * Math.sin(rad);
	c.strokeStyle = colour;
	c.lineWidth = 1;
	c.setLineDash([...dash]);
	c.beginPath();
	c.moveTo(x - Math.cos(rad) * reach, y + Math.sin(rad) * reach);
	c.lineTo(x + Math.cos(rad) * reach, y - Math.sin(rad) * reach);
	c.stroke();
	c.setLineDash([]);
}

/** A control polygon: a thread from bead to bead; its corners, which are anchors, have their own marks. */
export function drawPolygon(
	c: Context,
	{ view, size, palette }: MarkScene,
	vertices: readonly PolygonVertex[],
	closed: boolean
): void {
	const places = vertices.map((v) => toScreen(view, size, v.x, v.y));
	const n = places.length;
	const isNear = (p: Point) =>
		p.x > -MARGIN_PX && p.y > -MARGIN_PX && p.x < size.widthPx + MARGIN_PX && p.y < size.heightPx + MARGIN_PX;
	const near = places.map(isNear);
	const count = near.filter(Boolean).length;
	c.setLineDash(count > MANY_BEADS ? [] : [7, 3]);
	doubleEdge(c, palette, palette.weld, 1, () => {
		for (let i = closed ? 0 : 1; i < n; i++) {
			const k = (i + n - 1) % n;
			if (!near[i] && !near[k]) continue;
			c.moveTo(places[k].x, places[k].y);
			c.lineTo(places[i].x, places[i].y);
		}
	});
	c.setLineDash([]);
	const r = count > MANY_BEADS ? 1.5 : 4;
	doubleEdge(c, palette, palette.weld, 1.6, () => {
		places.forEach((p, i) => {
			if (vertices[i].side === undefined || !near[i]) return;
			c.moveTo(p.x + r, p.y);
			if (count > MANY_BEADS) c.lineTo(p.x - r, p.y);
			else c.arc(p.x, p.y, r, 0, 2 * Math.PI);
		});
	});
}

/** px beyond the window within which a vertex is drawn; of more in sight the beads are plain. */
const MARGIN_PX = 200;
const MANY_BEADS = 300;

/** What would be picked: a thread laid round it. */
export function drawPointed(c: Context, { view, size, palette }: MarkScene, x: number, y: number): void {
	const p = toScreen(view, size, x, y);
	doubleEdge(c, palette, palette.woad, 1.5, () => {
		c.moveTo(p.x + 11, p.y);
		c.arc(p.x, p.y, 11, 0, 2 * Math.PI);
	});
}

/** The next click closes the line here: a button with its eye. */
export function drawClosing(c: Context, { view, size, palette }: MarkScene, x: number, y: number): void {
	const p = toScreen(view, size, x, y);
	doubleEdge(c, palette, palette.madder, 2.2, () => {
		c.moveTo(p.x + 13, p.y);
		c.arc(p.x, p.y, 13, 0, 2 * Math.PI);
		c.moveTo(p.x + 4, p.y);
		c.arc(p.x, p.y, 4, 0, 2 * Math.PI);
	});
	labelAt(c, palette, 'closes here', p.x + 18, p.y - 8, palette.madder);
}

/** A place of which one may doubt whether a corner is meant: a peak where it is taken for one, else a bow; and a question. */
export function drawDoubt(
	c: Context,
	{ view, size, palette }: MarkScene,
	{ x, y, isCorner }: CornerVerdict
): void {
	const p = toScreen(view, size, x, y);
	doubleEdge(c, palette, palette.weld, 2, () => {
		c.moveTo(p.x - 10, p.y - 10);
		if (isCorner) {
			c.lineTo(p.x, p.y - 20);
			c.lineTo(p.x + 10, p.y - 10);
		} else c.quadraticCurveTo(p.x, p.y - 24, p.x + 10, p.y - 10);
	});
	labelAt(c, palette, '?', p.x - 4, p.y - 26, palette.weld);
}

/** Where the reach of a soft pull ends: a peg across the line. */
export function drawReachEnd(c: Context, { view, size, palette }: MarkScene, x: number, y: number): void {
	const p = toScreen(view, size, x, y);
	doubleEdge(c, palette, palette.woad, 2, () => {
		c.moveTo(p.x - 5, p.y - 9);
		c.lineTo(p.x - 5, p.y + 9);
		c.moveTo(p.x + 5, p.y - 9);
		c.lineTo(p.x + 5, p.y + 9);
		c.moveTo(p.x - 5, p.y);
		c.lineTo(p.x + 5, p.y);
	});
}

/** The start is a needle's eye, lying along the direction of travel. */
function drawStart(c: Context, { view, size, palette }: MarkScene, path: Path, open: boolean): void {
	const out = directionOut(path, 0, open);
	if (!out) return;
	const { x, y } = toScreen(view, size, path.segs[0], path.segs[1]);
	const cx = x - out.y * 13;
	const cy = y + out.x * 13;
	c.save();
	c.translate(cx, cy);
	c.rotate(Math.atan2(out.y, out.x));
	doubleEdge(c, palette, palette.woad, 1.5, () => {
		c.ellipse(-4, 0, 5, 2.4, 0, 0, 2 * Math.PI);
		c.moveTo(1, -1.6);
		c.quadraticCurveTo(10, -1, 15, 0);
		c.quadraticCurveTo(10, 1, 1, 1.6);
	});
	c.restore();
}

/** Open ends cannot be overlooked: a frayed thread. */
export function drawOpenEnds(c: Context, { view, size, palette }: MarkScene, path: Path): void {
	const n = path.types.length;
	if (path.closed || n === 0) return;
	const last = STRIDE * (n - 1);
	const a = directionAt(path.types[0], path.segs, 0, 0);
	const b = directionAt(path.types[n - 1], path.segs, last, 1);
	const ends = [
		{ x: path.segs[0], y: path.segs[1], dx: -a.x, dy: a.y },
		{ x: path.segs[last + 6], y: path.segs[last + 7], dx: b.x, dy: -b.y }
	];
	for (const end of ends) {
		const { x, y } = toScreen(view, size, end.x, end.y);
		doubleEdge(c, palette, palette.rust, 2, () => {
			for (const spread of [-0.55, -0.2, 0.2, 0.55]) {
				const cos = Math.cos(spread);
				const sin = Math.sin(spread);
				const ux = end.dx * cos - end.dy * sin;
				const uy = end.dx * sin + end.dy * cos;
				const reach = Math.abs(spread) > 0.3 ? 9 : 13;
				c.moveTo(x, y);
				c.quadraticCurveTo(
					x + end.dx * reach * 0.6,
					y + end.dy * reach * 0.6,
					x + ux * reach,
					y + uy * reach
				);
			}
		});
	}
}

/** A knot in the thread where something would stop the cut. */
export function drawKnot(
	c: Context,
	{ view, size, palette }: MarkScene,
	x: number,
	y: number,
	chosen: boolean
): void {
	const p = toScreen(view, size, x, y);
	const k = chosen ? 1.5 : 1;
	doubleEdge(c, palette, palette.rust, chosen ? 2.4 : 1.8, () => {
		// A thread that runs through its own loop.
		c.moveTo(p.x - 14 * k, p.y + 4 * k);
		c.bezierCurveTo(p.x + 6 * k, p.y + 4 * k, p.x + 9 * k, p.y - 13 * k, p.x, p.y - 13 * k);
		c.bezierCurveTo(p.x - 9 * k, p.y - 13 * k, p.x - 6 * k, p.y + 4 * k, p.x + 14 * k, p.y + 4 * k);
	});
}

/** A cross-stitch: a single point, or a picked place. */
/** A sheet of material: its edge, and within it the margin that stays free. */
export function drawSheet(
	c: Context,
	{ view, size, palette }: MarkScene,
	{ x, y, width, height, margin }: Pick<Sheet, 'x' | 'y' | 'width' | 'height' | 'margin'>
): void {
	const a = toScreen(view, size, x, y + height);
	const b = toScreen(view, size, x + width, y);
	const m = margin * view.scale;
	c.strokeStyle = palette.faint;
	c.lineWidth = 1.4;
	c.setLineDash([]);
	c.strokeRect(a.x, a.y, b.x - a.x, b.y - a.y);
	c.lineWidth = 1;
	c.setLineDash([2, 5]);
	if (m > 2) c.strokeRect(a.x + m, a.y + m, b.x - a.x - 2 * m, b.y - a.y - 2 * m);
	c.setLineDash([]);
}

/** A single point: where it is drilled, or the lines of its form. */
export function drawMark(c: Context, scene: MarkScene, mark: Mark, colour: string, r = 5): void {
	const lines = formOf(mark);
	if (lines.length === 0) {
		drawStitch(c, scene, mark.x, mark.y, colour, r);
		return;
	}
	doubleEdge(c, scene.palette, colour, 1.6, () => {
		for (const { segs } of lines)
			for (let i = 0; i < segs.length; i += STRIDE) {
				const a = toScreen(scene.view, scene.size, segs[i], segs[i + 1]);
				const b = toScreen(scene.view, scene.size, segs[i + 6], segs[i + 7]);
				c.moveTo(a.x, a.y);
				c.lineTo(b.x, b.y);
			}
	});
}

/** How the grain runs: a line with a point at each end, or at one where it has a direction. */
export function drawGrain(
	c: Context,
	{ view, size, palette }: MarkScene,
	at: { readonly x: number; readonly y: number; readonly angle: number; readonly oneWay?: boolean }
): void {
	const p = toScreen(view, size, at.x, at.y);
	const rad = (at.angle * Math.PI) / 180;
	const [dx, dy] = [Math.cos(rad), -Math.sin(rad)];
	doubleEdge(c, palette, palette.faint, 1.4, () => {
		c.moveTo(p.x - 16 * dx, p.y - 16 * dy);
		c.lineTo(p.x + 16 * dx, p.y + 16 * dy);
		for (const end of at.oneWay ? [1] : [-1, 1])
			for (const side of [-1, 1]) {
				c.moveTo(p.x + end * 16 * dx, p.y + end * 16 * dy);
				c.lineTo(p.x + end * 10 * dx - side * 4 * dy, p.y + end * 10 * dy + side * 4 * dx);
			}
	});
}

/** The axis of a half or of a mirrored copy, over the whole window. */
export function drawAxis(
	c: Context,
	{ view, size, ratio }: { readonly view: View; readonly size: WindowSize; readonly ratio: number },
	axis: { readonly x: number; readonly y: number; readonly angle: number },
	colour: string
): void {
	const p = toScreen(view, size, axis.x, axis.y);
	const rad = (axis.angle * Math.PI) / 180;
	const far = size.widthPx + size.heightPx + Math.hypot(p.x - size.widthPx / 2, p.y - size.heightPx / 2);
	c.save();
	c.setTransform(ratio, 0, 0, ratio, 0, 0);
	c.strokeStyle = colour;
	c.lineWidth = 1.3;
	c.setLineDash([10, 4, 2, 4]);
	c.beginPath();
	c.moveTo(p.x - far * Math.cos(rad), p.y + far * Math.sin(rad));
	c.lineTo(p.x + far * Math.cos(rad), p.y - far * Math.sin(rad));
	c.stroke();
	c.restore();
}

export function drawStitch(
	c: Context,
	{ view, size, palette }: MarkScene,
	x: number,
	y: number,
	colour: string,
	r = 5
): void {
	const p = toScreen(view, size, x, y);
	doubleEdge(c, palette, colour, 1.6, () => {
		c.moveTo(p.x - r, p.y - r);
		c.lineTo(p.x + r, p.y + r);
		c.moveTo(p.x - r, p.y + r);
		c.lineTo(p.x + r, p.y - r);
	});
}

/** px from a picture's corner where it is taken hold of to be turned. */
export const TURN_KNOB_PX = 26;

/** Where the knob is by which a picture is turned: beyond its upper right corner; px of the window. */
export function turnKnob(corners: readonly Point[]): {
	x: number;
	y: number;
} {
	const middle = { x: (corners[0].x + corners[2].x) / 2, y: (corners[0].y + corners[2].y) / 2 };
	const [, corner] = corners;
	const far = Math.hypot(corner.x - middle.x, corner.y - middle.y) || 1;
	return {
		x: corner.x + ((corner.x - middle.x) / far) * TURN_KNOB_PX,
		y: corner.y + ((corner.y - middle.y) / far) * TURN_KNOB_PX
	};
}

/** A picture in hand: tacks at its corners, and a thread with a loop to turn it by. */
export function drawPictureFrame(
	c: Context,
	{ view, size, palette }: MarkScene,
	corners: readonly Point[]
): void {
	const at = corners.map((p) => toScreen(view, size, p.x, p.y));
	const knob = turnKnob(at);
	c.setLineDash([9, 5]);
	doubleEdge(c, palette, palette.madder, 1.4, () => {
		for (const p of at) c.lineTo(p.x, p.y);
		c.closePath();
	});
	c.setLineDash([]);
	doubleEdge(c, palette, palette.madder, 1.6, () => {
		c.moveTo(at[1].x, at[1].y);
		c.lineTo(knob.x, knob.y);
		c.moveTo(knob.x + 7, knob.y);
		c.arc(knob.x, knob.y, 7, 0, 1.6 * Math.PI);
	});
}
