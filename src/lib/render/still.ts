/**
 * The still part of the surface (paper, grid, pictures, sheets, lines that nobody moves) as a bitmap a little larger than
 * the window. While one pans or zooms it is moved; where only some lines have changed, only what they cover is drawn anew.
 */
import type { Drawing, Reference } from '../core/document/drawing';
import { layersOf, pictureKey, recordsOf, sheetsOf } from '../core/document/drawing';
import { frameOf, placement, scaleOf, shownPart } from '../core/document/edits/placement';
import { lineOf, type Outline } from '../core/document/outline';
import { isShown, purposeOf, shown, shownMarks } from '../core/document/output';
import { shownRepeats } from '../core/document/repeats';
import { boxOf } from '../core/geometry/pick';
import type { Path } from '../core/geometry/path';
import type { Box } from '../core/geometry/segment';
import { addCopies, drawCopies, isHeavyRepeat, liveRepeats, waits } from './copies';
import { levelFor } from './levels';
import { DASHES, fillPath, inMillimetres, strokeLine } from './lines';
import { drawGrain, drawMark, drawOpenEnds, drawSheet } from './marks';
import { drawGrid } from './rulers';
import type { Scene } from './scene';
import { seenBox, toScreen, type View, type WindowSize } from './view';

/** The bitmap reaches this far beyond the window on every side, as a share of it. */
const MARGIN = 0.2;

/** Selected anchors above which the selection is part of the still picture. */
const HEAVY = 1500;

type Context = CanvasRenderingContext2D;

/** All that the still picture depends on but view and size. */
interface Shown {
	readonly drawing: Drawing;
	/** Outlines that are drawn elsewhere, drawn faint, or drawn as chosen. */
	readonly without: ReadonlySet<string>;
	readonly faint: ReadonlySet<string>;
	readonly chosen: ReadonlySet<string>;
	/** What changes all of it when it changes. */
	readonly rest: readonly unknown[];
}

const NONE: ReadonlySet<string> = new Set();

const shownIn = (scene: Scene): Shown => ({
	drawing: scene.drawing,
	without: liveIds(scene),
	faint: scene.faint,
	chosen: isHeavy(scene) ? scene.selected : NONE,
	rest: [
		scene.filled,
		scene.grid,
		scene.picturesHidden,
		scene.bitmapVersion,
		scene.seen?.bitmap,
		scene.seen?.split,
		scene.palette,
		scene.carriedRepeats.join(),
		scene.replaced.size ? scene.replaced : 0
	]
});

/** What is in one set alone. */
const differing = (a: ReadonlySet<string>, b: ReadonlySet<string>): string[] =>
	a === b ? [] : [...[...a].filter((id) => !b.has(id)), ...[...b].filter((id) => !a.has(id))];

/** Kinds of records of which a change may show anywhere in the still picture. */
const EVERYWHERE: ReadonlySet<string> = new Set([
	'layer',
	'reference',
	'sheet',
	'mark',
	'settings',
	'repeat'
]);

/** The outlines that look otherwise now; undefined where more than outlines does. */
function changedOutlines(before: Shown, now: Shown): Set<string> | undefined {
	if (before.rest.some((value, k) => value !== now.rest[k])) return undefined;
	const out = new Set([
		...differing(before.without, now.without),
		...differing(before.faint, now.faint),
		...differing(before.chosen, now.chosen)
	]);
	const [old, records] = [before.drawing.records, now.drawing.records];
	if (old !== records) {
		for (const [id, record] of records) {
			const was = old.get(id);
			if (was === record) continue;
			if (EVERYWHERE.has(record.type) || (was && EVERYWHERE.has(was.type))) return undefined;
			if (record.type === 'outline') out.add(id);
		}
		for (const [id, was] of old) {
			if (records.has(id)) continue;
			if (EVERYWHERE.has(was.type)) return undefined;
			if (was.type === 'outline') out.add(id);
		}
	}
	// Copies follow their sources wherever they are, and a repeat may be chosen or live by itself.
	const hasCopies = shownRepeats(before.drawing).length > 0 || shownRepeats(now.drawing).length > 0;
	return out.size > 0 && hasCopies ? undefined : out;
}

/** Outlines that are drawn anew in every frame, or not at all: the still picture goes without them. */
export function liveIds(scene: Scene): Set<string> {
	const ids = [...scene.entered, ...scene.carried, ...scene.following].map((o) => o.id);
	return new Set([...ids, ...scene.away]);
}

/** What is dragged: outlines and repeats. */
export function heldIds(scene: Scene): Set<string> {
	return new Set([...liveIds(scene), ...scene.carriedRepeats]);
}

/** Many selected segments are drawn with the still lines, not anew for every frame. */
export function isHeavy(scene: Scene): boolean {
	let total = 0;
	for (const id of scene.selected) {
		const record = scene.drawing.records.get(id);
		if (record?.type === 'repeat' && isHeavyRepeat(scene.drawing, record)) return true;
		if (record?.type === 'outline') total += record.anchors.length;
		if (total > HEAVY) return true;
	}
	return false;
}

/** A part of the bitmap, device px: whole numbers, so that nothing shows where it was put in. */
interface Patch {
	readonly x0: number;
	readonly y0: number;
	readonly x1: number;
	readonly y1: number;
}

/** px that lines, the marks at their ends and their halo reach beyond their boxes. */
const REACH_PX = 14;
/** More patches than this, or more than this share of the bitmap: all of it is drawn. */
const MOST_PATCHES = 60;
const MOST_SHARE = 0.5;

export class StillPicture {
	private readonly cache = document.createElement('canvas');
	private cached: { view: View; shown: Shown; size: WindowSize } | undefined;

	/** What was asked of a scene last: `shows` and `draw` ask the same. */
	private asked: { scene: Scene; now: Shown; changed: Set<string> | undefined } | undefined;

	private ask(scene: Scene): { now: Shown; changed: Set<string> | undefined } {
		if (this.asked?.scene !== scene) {
			const now = shownIn(scene);
			this.asked = { scene, now, changed: this.cached && changedOutlines(this.cached.shown, now) };
		}
		return this.asked;
	}

	/** Whether the picture is one of this scene as it is, whatever the view. */
	shows(scene: Scene): boolean {
		return this.ask(scene).changed?.size === 0;
	}

	/** Draws it where the scene's view has it, made anew as far as is needed. */
	draw(c: Context, scene: Scene, ratio: number): void {
		const { size, view } = scene;
		const asked = this.ask(scene);
		const { now } = asked;
		const cached = this.cached?.size === size ? this.cached : undefined;
		const changed = cached && asked.changed;
		const sameView =
			cached && cached.view.scale === view.scale && cached.view.x === view.x && cached.view.y === view.y;
		if (!(changed?.size === 0 && (sameView || scene.moving))) {
			const patches =
				sameView && changed ? this.patchesOf(scene, cached.shown, now, changed, ratio) : undefined;
			this.makeBitmap(scene, ratio, patches);
			this.cached = { view, shown: now, size };
			this.asked = undefined;
		}
		const at = this.cached!;
		const k = view.scale / at.view.scale;
		const w = size.widthPx * (1 + 2 * MARGIN);
		const h = size.heightPx * (1 + 2 * MARGIN);
		c.save();
		c.setTransform(ratio, 0, 0, ratio, 0, 0);
		c.fillStyle = scene.palette.paper;
		c.fillRect(0, 0, size.widthPx, size.heightPx);
		// Where the middle of the bitmap now lies.
		const cx = size.widthPx / 2 + (at.view.x - view.x) * view.scale;
		const cy = size.heightPx / 2 - (at.view.y - view.y) * view.scale;
		if (k === 1) c.imageSmoothingEnabled = false;
		c.drawImage(this.cache, cx - (w * k) / 2, cy - (h * k) / 2, w * k, h * k);
		c.restore();
	}

	/** Where changed outlines were and are; undefined where drawing all of it is no more work. */
	private patchesOf(
		scene: Scene,
		before: Shown,
		now: Shown,
		changed: ReadonlySet<string>,
		ratio: number
	): Patch[] | undefined {
		// Arrows of the grain lie beside what they belong to.
		if (changed.size > MOST_PATCHES / 2 || sheetsOf(now.drawing).some((sheet) => sheet.grain !== undefined))
			return undefined;
		const { widthPx, heightPx } = this.sizeOf(scene, ratio);
		const [w, h] = [widthPx * ratio, heightPx * ratio];
		const patches: Patch[] = [];
		let area = 0;
		for (const id of changed) {
			for (const { drawing } of [before, now]) {
				const record = drawing.records.get(id);
				if (record?.type !== 'outline' || !isShown(drawing, id)) continue;
				const box = boxOf(lineOf(record));
				const a = toScreen(scene.view, { widthPx, heightPx }, box.x0, box.y1);
				const b = toScreen(scene.view, { widthPx, heightPx }, box.x1, box.y0);
				const x0 = Math.max(0, Math.floor((a.x - REACH_PX) * ratio));
				const y0 = Math.max(0, Math.floor((a.y - REACH_PX) * ratio));
				const x1 = Math.min(w, Math.ceil((b.x + REACH_PX) * ratio));
				const y1 = Math.min(h, Math.ceil((b.y + REACH_PX) * ratio));
				if (!(x1 > x0 && y1 > y0)) continue;
				patches.push({ x0, y0, x1, y1 });
				area += (x1 - x0) * (y1 - y0);
			}
		}
		return area > MOST_SHARE * w * h ? undefined : patches;
	}

	/** The bitmap's size, px of the window. */
	private sizeOf({ size }: Scene, ratio: number): WindowSize {
		const w = Math.ceil(size.widthPx * (1 + 2 * MARGIN) * ratio);
		const h = Math.ceil(size.heightPx * (1 + 2 * MARGIN) * ratio);
		return { widthPx: w / ratio, heightPx: h / ratio };
	}

	/** @param patches the parts that are drawn anew; all of it where none are given. */
	private makeBitmap(scene: Scene, ratio: number, patches: readonly Patch[] | undefined): void {
		const { view, palette } = scene;
		const size = this.sizeOf(scene, ratio);
		const [w, h] = [Math.round(size.widthPx * ratio), Math.round(size.heightPx * ratio)];
		if (this.cache.width !== w || this.cache.height !== h) {
			this.cache.width = w;
			this.cache.height = h;
		}
		if (patches?.length === 0) return;
		const c = this.cache.getContext('2d', { alpha: false })!;
		c.save();
		if (patches) {
			c.setTransform(1, 0, 0, 1, 0, 0);
			c.beginPath();
			for (const { x0, y0, x1, y1 } of patches) c.rect(x0, y0, x1 - x0, y1 - y0);
			c.clip();
		}
		c.setTransform(ratio, 0, 0, ratio, 0, 0);
		c.fillStyle = palette.paper;
		c.fillRect(0, 0, size.widthPx, size.heightPx);
		if (scene.grid) drawGrid(c, { view, size, palette }, recordsOf(scene.drawing, 'settings')[0]?.grid ?? 10);
		if (!scene.picturesHidden) {
			for (const reference of recordsOf(scene.drawing, 'reference'))
				this.drawPicture(c, scene, reference, size, ratio);
		}
		for (const sheet of sheetsOf(scene.drawing)) drawSheet(c, { view, size, palette }, sheet);
		this.drawStill(c, scene, size, ratio, patches);
		c.restore();
	}

	private drawPicture(c: Context, scene: Scene, reference: Reference, size: WindowSize, ratio: number): void {
		if (reference.hidden) return;
		const { view } = scene;
		const scale = scaleOf(reference);
		const corners = frameOf(reference).map((p) => toScreen(view, size, p.x, p.y));
		const bitmap = scene.bitmaps.get(pictureKey(reference)) ?? scene.bitmaps.get(reference.picture);
		if (!bitmap) {
			c.strokeStyle = scene.palette.faint;
			c.beginPath();
			for (const p of corners) c.lineTo(p.x, p.y);
			c.closePath();
			c.stroke();
			return;
		}
		const [a, b, d, e, tx, ty] = placement(reference);
		const k = view.scale / scale;
		const origin = toScreen(view, size, tx, ty);
		const part = shownPart(reference);
		const draw = (whole: ImageBitmap) => {
			const { level: picture, quality } = levelFor(
				whole,
				(k * Math.hypot(a, b) * reference.widthPx * ratio) / whole.width
			);
			const fx = picture.width / reference.widthPx;
			const fy = picture.height / reference.heightPx;
			const { x, y, w, h } = part;
			c.save();
			c.transform(a * k, -b * k, -d * k, e * k, origin.x, origin.y);
			c.imageSmoothingQuality = quality;
			c.drawImage(picture, x * fx, y * fy, w * fx, h * fy, x, y, w, h);
			c.restore();
		};
		c.globalAlpha = reference.opacity;
		// Pixels stay pixels when one looks closely.
		c.imageSmoothingEnabled = k < 3;
		draw(bitmap);
		if (scene.seen?.reference === reference.id) {
			// Left of the split what the tracer sees, right of it the picture.
			c.save();
			c.beginPath();
			c.rect(
				0,
				0,
				(size.widthPx - scene.size.widthPx) / 2 + scene.seen.split * scene.size.widthPx,
				size.heightPx
			);
			c.clip();
			c.globalAlpha = 1;
			draw(scene.seen.bitmap);
			c.restore();
		}
		c.globalAlpha = 1;
		c.imageSmoothingEnabled = true;
	}

	private drawStill(
		c: Context,
		scene: Scene,
		size: WindowSize,
		ratio: number,
		patches: readonly Patch[] | undefined
	): void {
		const { drawing, view, palette } = scene;
		const seen = seenBox(view, size, 4);
		const layers = new Map(layersOf(drawing).map((layer) => [layer.id, layer]));
		const live = liveIds(scene);
		const seenLines: { outline: Outline; path: Path }[] = [];
		let total = 0;
		for (const outline of shown(drawing)) {
			if (live.has(outline.id)) continue;
			const path = lineOf(outline);
			const box = boxOf(path);
			if (box.x1 < seen.x0 || box.x0 > seen.x1 || box.y1 < seen.y0 || box.y0 > seen.y1) continue;
			total += path.types.length;
			if (!patches || this.touches(box, patches, view, size, ratio)) seenLines.push({ outline, path });
		}
		const alive = new Set(liveRepeats(drawing, heldIds(scene)).map(({ id }) => id));
		const repeats = shownRepeats(drawing).filter(({ id }) => !alive.has(id));
		const waiting = shownRepeats(drawing).filter(
			(repeat) => alive.has(repeat.id) && !scene.carriedRepeats.includes(repeat.id) && waits(drawing, repeat)
		);
		const k = view.scale;
		const toMm = () => inMillimetres(c, view, size, ratio);
		toMm();
		if (scene.filled) {
			const byLayer = new Map<string, Path2D>();
			for (const { outline, path } of seenLines) {
				if (!path.closed) continue;
				const all = byLayer.get(outline.layer) ?? new Path2D();
				all.addPath(fillPath(path));
				byLayer.set(outline.layer, all);
			}
			for (const [layer, all] of byLayer)
				for (const repeat of repeats) addCopies(all, drawing, repeat, (source) => source.layer === layer);
			for (const all of byLayer.values()) {
				c.fillStyle = palette.fill;
				c.fill(all, 'evenodd');
			}
		}
		const halo = total < 4000 && !scene.picturesHidden && recordsOf(drawing, 'reference').length > 0;
		const stroke = (path: Path) => strokeLine(c, path, view, size, ratio);
		const heavy = isHeavy(scene);
		c.lineJoin = 'round';
		if (halo) {
			c.strokeStyle = palette.halo;
			c.lineWidth = 3.4 / k;
			for (const { path } of seenLines) stroke(path);
		}
		for (const { outline, path } of seenLines) {
			const box = boxOf(path);
			// Smaller than a pixel: a speck is enough.
			if ((box.x1 - box.x0) * k < 1.2 && (box.y1 - box.y0) * k < 1.2) {
				c.fillStyle = palette.ink;
				c.fillRect(box.x0, box.y0, 1 / k, 1 / k);
				continue;
			}
			const layer = layers.get(outline.layer);
			const dashes = outline.dashes ?? DASHES[purposeOf(outline, layer)].map((d) => d / k);
			c.setLineDash([...dashes]);
			const isOld = scene.replaced.has(outline.id) || scene.faint.has(outline.id) || outline.recipe?.stale;
			c.globalAlpha = isOld ? 0.35 : 1;
			const isChosen = heavy && scene.selected.has(outline.id);
			const own = outline.colour && outline.colour !== '#000000' ? outline.colour : palette.ink;
			c.strokeStyle = isChosen ? palette.madder : own;
			c.lineWidth = (isChosen ? 2 : 1.3) / k;
			stroke(path);
		}
		c.setLineDash([]);
		c.globalAlpha = 1;
		for (const repeat of repeats)
			drawCopies(
				c,
				drawing,
				repeat,
				{ view, size, palette, ratio },
				{
					chosen: heavy && scene.selected.has(repeat.id)
				}
			);
		for (const repeat of waiting)
			drawCopies(c, drawing, repeat, { view, size, palette, ratio }, { faint: true });
		c.setTransform(ratio, 0, 0, ratio, 0, 0);
		const marks = { view, size, palette };
		// Only what is to be cut out is missed when it is open.
		for (const { outline, path } of total < 60_000 ? seenLines : [])
			if (!path.closed && !outline.openOnPurpose && purposeOf(outline, layers.get(outline.layer)) === 'cut')
				drawOpenEnds(c, marks, path);
		for (const mark of shownMarks(drawing)) drawMark(c, marks, mark, palette.ink);
		const onGrain = sheetsOf(drawing).filter((sheet) => sheet.grain !== undefined);
		for (const { x, y, grain } of onGrain)
			drawGrain(c, marks, { x: x + 30 / k, y: y + 30 / k, angle: grain! });
		if (onGrain.length)
			for (const { outline, path } of seenLines) {
				if (!outline.grain) continue;
				const b = boxOf(path);
				drawGrain(c, marks, { x: (b.x0 + b.x1) / 2, y: (b.y0 + b.y1) / 2, ...outline.grain });
			}
	}

	/** Whether something of a line with this box may be seen in one of the patches. */
	private touches(box: Box, patches: readonly Patch[], view: View, size: WindowSize, ratio: number): boolean {
		const a = toScreen(view, size, box.x0, box.y1);
		const b = toScreen(view, size, box.x1, box.y0);
		const [x0, y0] = [(a.x - REACH_PX) * ratio, (a.y - REACH_PX) * ratio];
		const [x1, y1] = [(b.x + REACH_PX) * ratio, (b.y + REACH_PX) * ratio];
		return patches.some((p) => x0 < p.x1 && x1 > p.x0 && y0 < p.y1 && y1 > p.y0);
	}
}
