/** Copies of a repeat: all share the path objects of their source, each under its own map. */
import type { Drawing, Mark, Repeat } from '../core/document/drawing';
import { layersOf } from '../core/document/drawing';
import { isClosed, lineOf, type Outline } from '../core/document/outline';
import { purposeOf } from '../core/document/output';
import { RECORDS } from '../core/document/records';
import { boxUnder, instancesOf, shownRepeats, type Instance } from '../core/document/repeats';
import { transformPath, type Path } from '../core/geometry/path';
import { boxOf } from '../core/geometry/pick';
import { DASHES, fillPath, needsRebuilding, strokeLine, strokePaths } from './lines';
import { drawMark } from './marks';
import type { Palette } from './palette';
import { seenBox, type View, type WindowSize } from './view';

type Context = CanvasRenderingContext2D;

export interface CopiesLook {
	readonly view: View;
	readonly size: WindowSize;
	readonly palette: Palette;
	readonly ratio: number;
}

/** px: smaller than this a copy is a speck. */
const SPECK = 1.2;
/** Segments above which a selected repeat is part of the still picture. */
const HEAVY_COPIES = 1500;

/** Whether a repeat has so many segments that it is not drawn anew in every frame for being selected. */
export function isHeavyRepeat(drawing: Drawing, repeat: Repeat): boolean {
	const { sources, list } = instancesOf(drawing, repeat);
	const each = sources.reduce((sum, s) => sum + (s.type === 'outline' ? s.anchors.length : 1), 0);
	return each * list.length > HEAVY_COPIES;
}

/** Copies above which not all follow in every frame while something is dragged. */
const MOST_LIVE = 500;

/** Whether a repeat is so large that most of its copies wait, faint, until what is dragged lies still. */
export const waits = (drawing: Drawing, repeat: Repeat): boolean => {
	const { sources, list } = instancesOf(drawing, repeat);
	return list.length * sources.length > MOST_LIVE;
};

export interface CopiesDrawn {
	/** As selected. */
	readonly chosen?: boolean;
	/** As what they were: something newer takes their place. */
	readonly faint?: boolean;
	/** While something is dragged: of very many only the first in sight. */
	readonly some?: boolean;
}

/** Draws the copies of a repeat. */
export function drawCopies(
	c: Context,
	drawing: Drawing,
	repeat: Repeat,
	look: CopiesLook,
	{ chosen = false, faint = false, some = false }: CopiesDrawn = {}
): void {
	const { list, sources } = instancesOf(drawing, repeat);
	if (list.length === 0) return;
	const layers = new Map(layersOf(drawing).map((layer) => [layer.id, layer]));
	c.save();
	c.lineJoin = 'round';
	for (const source of sources) {
		const layer = layers.get(source.layer);
		if (layer?.hidden) continue;
		if (source.type === 'mark') {
			drawMarks(c, source, list, look, chosen);
			continue;
		}
		const own = source.colour && source.colour !== '#000000' ? source.colour : look.palette.ink;
		c.strokeStyle = chosen ? look.palette.madder : own;
		const k = look.view.scale;
		c.lineWidth = (chosen ? 2 : 1.3) / k;
		const dashes = source.dashes ?? DASHES[purposeOf(source, layer)].map((d) => d / k);
		c.setLineDash([...dashes]);
		c.globalAlpha = faint ? 0.35 : 1;
		strokeCopies(c, lineOf(source), list, look, some ? MOST_LIVE / sources.length : Infinity);
	}
	c.restore();
}

function drawMarks(
	c: Context,
	mark: Mark,
	list: readonly Instance[],
	look: CopiesLook,
	chosen: boolean
): void {
	c.save();
	c.setTransform(look.ratio, 0, 0, look.ratio, 0, 0);
	for (const { map } of list)
		drawMark(c, look, RECORDS.mark.carried!(mark, map), chosen ? look.palette.madder : look.palette.ink);
	c.restore();
}

/** One line under every map, with the stroke as it is set. */
function strokeCopies(
	c: Context,
	path: Path,
	list: readonly Instance[],
	{ view, size, ratio }: CopiesLook,
	most: number
): void {
	let drawn = 0;
	const k = view.scale;
	const seen = seenBox(view, size, 4);
	const box = boxOf(path);
	const pieces = strokePaths(path);
	const isSpeck = (box.x1 - box.x0) * k < SPECK && (box.y1 - box.y0) * k < SPECK;
	const [ox, oy] = [(size.widthPx / 2 - view.x * k) * ratio, (size.heightPx / 2 + view.y * k) * ratio];
	const s = k * ratio;
	const far = needsRebuilding(path, k);
	for (const { map } of list) {
		const b = boxUnder(box, map);
		if (b.x1 < seen.x0 || b.x0 > seen.x1 || b.y1 < seen.y0 || b.y0 > seen.y1) continue;
		if (++drawn > most) break;
		if (far) {
			c.setTransform(s, 0, 0, -s, ox, oy);
			strokeLine(c, transformPath(path, map), view, size, ratio);
			continue;
		}
		const [m0, m1, m2, m3, m4, m5] = map;
		c.setTransform(s * m0, -s * m1, s * m2, -s * m3, s * m4 + ox, oy - s * m5);
		if (isSpeck) {
			c.fillStyle = c.strokeStyle;
			c.fillRect(box.x0, box.y0, 1 / k, 1 / k);
			continue;
		}
		for (const piece of pieces) c.stroke(piece);
	}
}

/** The copies of a repeat as a picture, for carrying very many of them: made once, put down elsewhere in every frame. */
export class CopiesPicture {
	private readonly canvas = document.createElement('canvas');
	private of: readonly unknown[] = [];

	/** @param right mm to the right and up that it lies from where it is. */
	draw(c: Context, drawing: Drawing, repeat: Repeat, look: CopiesLook, right: number, up: number): void {
		const { view, size, ratio } = look;
		const wide = Math.ceil(size.widthPx * (1 + 2 * MARGIN) * ratio);
		const high = Math.ceil(size.heightPx * (1 + 2 * MARGIN) * ratio);
		const of = [instancesOf(drawing, repeat), view, size, ratio, look.palette];
		if (of.length !== this.of.length || of.some((o, i) => o !== this.of[i])) {
			this.of = of;
			this.canvas.width = wide;
			this.canvas.height = high;
			const larger = { widthPx: wide / ratio, heightPx: high / ratio };
			drawCopies(this.canvas.getContext('2d')!, drawing, repeat, { ...look, size: larger }, { chosen: true });
		}
		c.save();
		c.setTransform(1, 0, 0, 1, 0, 0);
		c.drawImage(
			this.canvas,
			(size.widthPx * ratio - wide) / 2 + right * view.scale * ratio,
			(size.heightPx * ratio - high) / 2 - up * view.scale * ratio
		);
		c.restore();
	}
}
/** The picture reaches this far beyond the window on every side, as a share of it. */
const MARGIN = 0.25;

/** Adds the closed copies of a repeat to what is filled. */
export function addCopies(
	all: Path2D,
	drawing: Drawing,
	repeat: Repeat,
	takes: (source: Outline) => boolean
): void {
	const { list, sources } = instancesOf(drawing, repeat);
	if (list.length > MOST_FILLED) return;
	for (const source of sources) {
		if (source.type !== 'outline' || !isClosed(source) || !takes(source)) continue;
		const path = fillPath(lineOf(source));
		for (const { map } of list) all.addPath(path, new DOMMatrix([...map]));
	}
}
/** Copies of a repeat above which they are not filled. */
const MOST_FILLED = 3000;

/** The repeats that are drawn anew in every frame: themselves carried, or of what is held. */
export const liveRepeats = (drawing: Drawing, held: ReadonlySet<string>): Repeat[] =>
	shownRepeats(drawing).filter(
		({ id, sources, rule }) =>
			held.has(id) ||
			sources.some((source) => held.has(source)) ||
			(rule.way === 'along' && held.has(rule.line))
	);
