/**
 * The drawing surface: a stage with three layers of one custom shape each. The paper (pictures, still lines) is drawn
 * from a bitmap that is made anew only when what it shows has changed; while one pans or zooms the bitmap is moved.
 */
import type { Point } from '../core/geometry/point';
import { Layer } from 'konva/lib/Layer';
import { Shape } from 'konva/lib/Shape';
import { Stage as Canvases } from 'konva/lib/Stage';
import type { Drawing, LengthUnit, Reference } from '../core/document/drawing';
import { layersOf, pictureKey, recordsOf, sheetsOf } from '../core/document/drawing';
import { frameOf, placement, scaleOf, shownPart } from '../core/document/edits/placement';
import { formatLength } from '../core/units';
import { ANCHOR_STRIDE, isClosed, lineOf, sourceLine, type Outline } from '../core/document/outline';
import { purposeOf, isShown, shown, shownMarks } from '../core/document/output';
import { RECORDS } from '../core/document/records';
import { shownRepeats } from '../core/document/repeats';
import type { PolygonVertex } from '../core/document/edits/control-polygon';
import type { GuideLine, Snap } from '../core/document/edits/snap';
import type { Fault } from '../core/check/fault';
import { stretchBetween } from '../core/geometry/join';
import { boxOf } from '../core/geometry/pick';
import type { Comb } from '../core/geometry/comb';
import type { Deviation, Worst } from '../core/geometry/deviation';
import type { Path } from '../core/geometry/path';
import type { CornerVerdict } from '../core/trace/corner-verdicts';
import { addCopies, CopiesPicture, drawCopies, isHeavyRepeat, liveRepeats, waits } from './copies';
import { DASHES, fillPath, inMillimetres, strokeLine } from './lines';
import {
	drawAnchors,
	drawAxis,
	drawClosing,
	drawDoubt,
	drawGrain,
	drawGuideLine,
	drawKnot,
	drawMark,
	drawOpenEnds,
	drawPictureFrame,
	drawPointed,
	drawPolygon,
	drawReachEnd,
	drawSheet,
	drawStitch,
	labelAt
} from './marks';
import { drawGiven, type GivenLook } from './given';
import { drawFast, drawHolds, type HoldMark } from './holds';
import { drawComb, drawTight, type CombLook } from './comb';
import { drawDeviations, drawWorst } from './deviation';
import { levelFor } from './levels';
import type { Palette } from './palette';
import { drawGrid, drawRulers } from './rulers';
import { seenBox, toScreen, type View, type WindowSize } from './view';

/** An anchor, one of its handles, or the segment that leaves it. */
export interface Pointed {
	readonly outline: string;
	readonly anchor: number;
	readonly side?: 'in' | 'out';
	readonly isSegment?: boolean;
}

/** What is looked at closely. */
export interface Looked extends CombLook {
	/** Combs of curvature. */
	readonly combs: readonly Comb[];
	/** A place pointed at on a line or on its chart, and how far the compared line lies off at the pointer. */
	readonly place: { readonly x: number; readonly y: number; readonly radius: number } | undefined;
	readonly number: { readonly x: number; readonly y: number; readonly off: number } | undefined;
	/** Control polygons to pull lines by. */
	readonly polygons: readonly { readonly vertices: readonly PolygonVertex[]; readonly closed: boolean }[];
	/** Lines that are kept to be seen behind. */
	readonly ghosts: readonly Path[];
}

/** Everything that the surface shows. */
export interface Scene {
	readonly drawing: Drawing;
	readonly view: View;
	readonly size: WindowSize;
	readonly palette: Palette;
	readonly unit: LengthUnit;
	readonly moving: boolean;
	readonly filled: boolean;
	readonly grid: boolean;
	readonly picturesHidden: boolean;
	readonly bitmaps: ReadonlyMap<string, ImageBitmap>;
	readonly bitmapVersion: number;
	readonly selected: ReadonlySet<string>;
	/** Selected outlines as they lie while they are dragged: the still picture goes without them. */
	readonly carried: readonly Outline[];
	/** Ids of repeats that are dragged as wholes, and how far, mm. */
	readonly carriedRepeats: readonly string[];
	readonly carriedBy: { readonly right: number; readonly up: number } | undefined;
	/** The entered outlines, the one in hand first, and the anchors selected in each. */
	readonly entered: readonly Outline[];
	readonly picked: ReadonlyMap<string, ReadonlySet<number>>;
	/** What is held of the entered outlines. */
	readonly holds: readonly HoldMark[];
	/** Anchors of them that cannot move any more. */
	readonly fast: readonly Point[];
	/** The places by which the one in hand is given, and the key of the picked one: drawn in the place of its anchors. */
	readonly given: GivenLook | undefined;
	/** Picked segments of the one in hand, by the anchors that they leave. */
	readonly segments: ReadonlySet<number>;
	/** What would be picked. */
	readonly pointed: Pointed | undefined;
	readonly handleInHand: 'in' | 'out' | undefined;
	readonly preview: readonly Path[];
	/** A freehand stroke as it goes; the line drawn so far; the place on which it would close. */
	readonly trail: readonly Path[];
	/** The band in which a line may move: the lines as they are, and how far to either side, mm. */
	readonly band: { readonly paths: readonly Path[]; readonly drift: number } | undefined;
	readonly drawn: Outline | undefined;
	/** The places of a curve that is being drawn. */
	readonly drawnBy: GivenLook | undefined;
	readonly closing: Point | undefined;
	readonly looked: Looked;
	readonly snap: Snap | undefined;
	/** Lines by which a drag is bound. */
	readonly bound: readonly GuideLine[];
	/** Where the reach of a soft pull ends. */
	readonly reachOf: readonly Point[];
	/** Corners of what is being placed. */
	readonly frame: readonly Point[] | undefined;
	/** Under the pointer, and picked to be left out of the preview. */
	readonly under: readonly Path[];
	readonly leftOut: readonly Path[];
	/** Stretches that go. */
	readonly going: readonly Path[];
	/** Outlines that the preview would replace: shown faint. */
	readonly replaced: ReadonlySet<string>;
	/** Lines that follow what is held, as they would be; stored lines older than what they follow; and those that would not be. */
	readonly following: readonly Outline[];
	readonly faint: ReadonlySet<string>;
	readonly away: ReadonlySet<string>;
	/** Where a line lies farthest off. */
	readonly worst: Worst | undefined;
	/** How far the preview lies from what it follows. */
	readonly deviations: readonly Deviation[];
	/** Words beside places. */
	readonly labels: readonly { readonly x: number; readonly y: number; readonly text: string }[];
	/** Places of which one may doubt whether a corner is meant. */
	readonly doubtful: readonly CornerVerdict[];
	/** The preview is only to be looked at for the moment: no anchors of it. */
	readonly rough: boolean;
	/** A picture in hand: it can be moved and turned. */
	readonly placing: Reference | undefined;
	/** A line being drawn round something, px of the window. */
	readonly lasso: readonly number[] | undefined;
	readonly faults: readonly Fault[];
	readonly faultAt: number;
	/** What the tracer sees of a picture, shown left of the split (0..1 of the window). */
	readonly seen:
		{ readonly reference: string; readonly bitmap: ImageBitmap; readonly split: number } | undefined;
	readonly picks: readonly Point[];
	readonly box:
		{ readonly x0: number; readonly y0: number; readonly x1: number; readonly y1: number } | undefined;
	readonly hover: Outline | undefined;
	/** What an operation draws over the lines. */
	readonly over: ((c: Context, look: SurfaceLook) => void) | undefined;
}

/** How the surface is seen, for what is drawn over it. */
export interface SurfaceLook {
	readonly view: View;
	readonly size: WindowSize;
	readonly palette: Palette;
	readonly ratio: number;
}

/** The bitmap reaches this far beyond the window on every side, as a share of it. */
const MARGIN = 0.2;

/** Selected anchors above which the selection is part of the still picture. */
const HEAVY = 1500;

type Context = CanvasRenderingContext2D;

export class DrawingStage {
	readonly stage: Canvases;
	private readonly paper = new Layer({ listening: false });
	private readonly live = new Layer({ listening: false });
	private readonly marks = new Layer({ listening: false });
	private scene: Scene | undefined;
	private readonly cache = document.createElement('canvas');
	private cached: { view: View; key: readonly unknown[]; size: WindowSize } | undefined;

	constructor(container: HTMLDivElement, size: WindowSize) {
		this.stage = new Canvases({ container, width: size.widthPx, height: size.heightPx });
		const add = (layer: Layer, draw: (c: Context, scene: Scene) => void) => {
			layer.add(
				new Shape({
					listening: false,
					perfectDrawEnabled: false,
					sceneFunc: (context) => {
						if (this.scene) draw(context._context as Context, this.scene);
					}
				})
			);
			this.stage.add(layer);
		};
		add(this.paper, (c, scene) => this.drawPaper(c, scene));
		add(this.live, (c, scene) => this.drawLive(c, scene));
		add(this.marks, (c, scene) => this.drawMarks(c, scene));
	}

	resize(size: WindowSize): void {
		this.stage.size({ width: size.widthPx, height: size.heightPx });
	}

	destroy(): void {
		this.stage.destroy();
	}

	/** Shows a scene; only the layers that it changes are drawn again. */
	show(scene: Scene): void {
		const before = this.scene;
		this.scene = scene;
		const moved =
			!before || before.view !== scene.view || before.size !== scene.size || before.palette !== scene.palette;
		const key = this.paperKey(scene);
		const paperChanged = moved || before!.moving !== scene.moving || !sameKey(this.cached?.key, key);
		if (paperChanged) this.paper.draw();
		this.live.draw();
		this.marks.draw();
	}

	private paperKey(scene: Scene): readonly unknown[] {
		const { replaced } = scene;
		return [
			scene.drawing.records,
			scene.filled,
			scene.grid,
			scene.picturesHidden,
			scene.bitmapVersion,
			scene.seen?.bitmap,
			scene.seen?.split,
			scene.palette,
			[...this.liveIds(scene), ...scene.carriedRepeats].join(),
			[...scene.faint].join(),
			replaced.size ? replaced : 0,
			this.isHeavy(scene) ? scene.selected : 0
		];
	}

	/** Outlines that are drawn anew in every frame, or not at all: the still picture goes without them. */
	private liveIds(scene: Scene): Set<string> {
		const ids = [...scene.entered, ...scene.carried, ...scene.following].map((o) => o.id);
		return new Set([...ids, ...scene.away]);
	}

	/** What is dragged: outlines and repeats. */
	private heldIds(scene: Scene): Set<string> {
		return new Set([...this.liveIds(scene), ...scene.carriedRepeats]);
	}

	/** Copies of what is held, as they would become, and those that are selected. */
	private drawLiveCopies(c: Context, scene: Scene, ratio: number): void {
		const { drawing, view, size, palette, selected, carriedBy } = scene;
		const look = { view, size, palette, ratio };
		const carried = new Set(carriedBy ? scene.carriedRepeats : []);
		const live = liveRepeats(drawing, this.heldIds(scene));
		let now = drawing;
		if (live.length) {
			const records = new Map(drawing.records);
			for (const held of [...scene.following, ...scene.entered, ...scene.carried]) records.set(held.id, held);
			now = { ...drawing, records };
		}
		for (const repeat of live) {
			const chosen = selected.has(repeat.id);
			if (!carried.has(repeat.id)) {
				drawCopies(c, now, repeat, look, { chosen, some: true });
				continue;
			}
			const { right, up } = carriedBy!;
			if (waits(drawing, repeat)) this.carriedPicture.draw(c, drawing, repeat, look, right, up);
			else {
				const moved = RECORDS.repeat.carried!(repeat, [1, 0, 0, 1, right, up]);
				drawCopies(c, now, moved, look, { chosen });
			}
		}
		if (this.isHeavy(scene)) return;
		for (const repeat of shownRepeats(drawing))
			if (selected.has(repeat.id) && !live.includes(repeat))
				drawCopies(c, drawing, repeat, look, { chosen: true });
	}
	private readonly carriedPicture = new CopiesPicture();

	/** Many selected segments are drawn with the still lines, not anew for every frame. */
	private isHeavy(scene: Scene): boolean {
		let total = 0;
		for (const id of scene.selected) {
			const record = scene.drawing.records.get(id);
			if (record?.type === 'repeat' && isHeavyRepeat(scene.drawing, record)) return true;
			if (record?.type === 'outline') total += record.anchors.length;
			if (total > HEAVY) return true;
		}
		return false;
	}

	private drawPaper(c: Context, scene: Scene): void {
		const ratio = this.paper.getCanvas().getPixelRatio();
		const { size, view } = scene;
		const key = this.paperKey(scene);
		const cached = this.cached;
		const fits = cached && sameKey(cached.key, key) && cached.size === size;
		const sameView =
			fits && cached.view.scale === view.scale && cached.view.x === view.x && cached.view.y === view.y;
		if (!sameView && !(fits && scene.moving)) this.makeBitmap(scene, key, ratio);
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

	private makeBitmap(scene: Scene, key: readonly unknown[], ratio: number): void {
		const { size, view, palette } = scene;
		const w = Math.ceil(size.widthPx * (1 + 2 * MARGIN) * ratio);
		const h = Math.ceil(size.heightPx * (1 + 2 * MARGIN) * ratio);
		if (this.cache.width !== w || this.cache.height !== h) {
			this.cache.width = w;
			this.cache.height = h;
		}
		const c = this.cache.getContext('2d', { alpha: false })!;
		const larger = { widthPx: w / ratio, heightPx: h / ratio };
		c.setTransform(ratio, 0, 0, ratio, 0, 0);
		c.fillStyle = palette.paper;
		c.fillRect(0, 0, larger.widthPx, larger.heightPx);
		if (scene.grid)
			drawGrid(c, { view, size: larger, palette }, recordsOf(scene.drawing, 'settings')[0]?.grid ?? 10);
		if (!scene.picturesHidden) {
			for (const reference of recordsOf(scene.drawing, 'reference'))
				this.drawPicture(c, scene, reference, larger, ratio);
		}
		for (const sheet of sheetsOf(scene.drawing)) drawSheet(c, { view, size: larger, palette }, sheet);
		this.drawStill(c, scene, larger, ratio);
		this.cached = { view, key, size };
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

	private drawStill(c: Context, scene: Scene, size: WindowSize, ratio: number): void {
		const { drawing, view, palette } = scene;
		const seen = seenBox(view, size, 4);
		const layers = new Map(layersOf(drawing).map((layer) => [layer.id, layer]));
		const live = this.liveIds(scene);
		const seenLines: { outline: Outline; path: Path }[] = [];
		for (const outline of shown(drawing)) {
			if (live.has(outline.id)) continue;
			const path = lineOf(outline);
			const box = boxOf(path);
			if (box.x1 < seen.x0 || box.x0 > seen.x1 || box.y1 < seen.y0 || box.y0 > seen.y1) continue;
			seenLines.push({ outline, path });
		}
		const alive = new Set(liveRepeats(drawing, this.heldIds(scene)).map(({ id }) => id));
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
		const total = seenLines.reduce((sum, { path }) => sum + path.types.length, 0);
		const halo = total < 4000 && !scene.picturesHidden && recordsOf(drawing, 'reference').length > 0;
		const stroke = (path: Path) => strokeLine(c, path, view, size, ratio);
		const heavy = this.isHeavy(scene);
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

	private drawLive(c: Context, scene: Scene): void {
		const { view, size, palette, drawing } = scene;
		const ratio = this.live.getCanvas().getPixelRatio();
		const k = view.scale;
		const seen = seenBox(view, size, 4);
		const inSight = (path: Path) => {
			const b = boxOf(path);
			return b.x1 >= seen.x0 && b.x0 <= seen.x1 && b.y1 >= seen.y0 && b.y0 <= seen.y1;
		};
		c.save();
		inMillimetres(c, view, size, ratio);
		c.lineJoin = 'round';
		const line = (path: Path, colour: string, width: number, dash: readonly number[] = []) => {
			for (const [w, s] of [
				[width + 2.2, palette.halo],
				[width, colour]
			] as const) {
				c.lineWidth = w / k;
				c.strokeStyle = s;
				c.setLineDash(s === colour ? dash.map((d) => d / k) : []);
				strokeLine(c, path, view, size, ratio);
			}
			c.setLineDash([]);
		};
		scene.over?.(c, { view, size, palette, ratio });
		const live = this.liveIds(scene);
		if (scene.hover && !scene.selected.has(scene.hover.id)) line(lineOf(scene.hover), palette.madder, 1);
		for (const id of this.isHeavy(scene) ? [] : scene.selected) {
			const record = drawing.records.get(id);
			if (record?.type !== 'outline' || live.has(id) || !isShown(drawing, id)) continue;
			const path = lineOf(record);
			if (inSight(path)) line(path, palette.madder, 2, scene.replaced.has(id) ? [3, 4] : []);
		}
		c.save();
		c.setTransform(ratio, 0, 0, ratio, 0, 0);
		for (const id of scene.selected) {
			const record = drawing.records.get(id);
			if (record?.type === 'mark') drawMark(c, scene, record, palette.madder, 7);
			if (record?.type === 'guide') drawGuideLine(c, scene, record, palette.madder, []);
		}
		c.restore();
		this.drawLiveCopies(c, scene, ratio);
		for (const outline of scene.following) {
			const path = lineOf(outline);
			if (inSight(path)) line(path, palette.ink, 1.4);
		}
		for (const path of scene.carried.map(lineOf)) if (inSight(path)) line(path, palette.madder, 2);
		for (const outline of scene.entered) {
			const path = lineOf(outline);
			if (outline.rounds?.length) line(sourceLine(outline), palette.faint, 1, [2, 4]);
			if (scene.filled && path.closed) {
				c.globalAlpha = 0.5;
				c.fillStyle = palette.fill;
				c.fill(fillPath(path), 'evenodd');
				c.globalAlpha = 1;
			}
			if (!scene.replaced.has(outline.id)) line(path, palette.ink, 1.6);
			else line(path, palette.faint, 1, [3, 4]);
		}
		for (const ghost of scene.looked.ghosts) if (inSight(ghost)) line(ghost, palette.faint, 1.6, [1, 5]);
		if (scene.preview.length) {
			if (scene.filled) {
				const all = new Path2D();
				for (const path of scene.preview) if (path.closed) all.addPath(fillPath(path));
				c.globalAlpha = 0.45;
				c.fillStyle = palette.woad;
				c.fill(all, 'evenodd');
				c.globalAlpha = 1;
			}
			for (const path of scene.preview) if (inSight(path)) line(path, palette.woad, 1.7);
		}
		if (scene.band) {
			c.globalAlpha = 0.16;
			c.strokeStyle = palette.madder;
			c.lineWidth = 2 * scene.band.drift;
			c.setLineDash([]);
			for (const path of scene.band.paths) if (inSight(path)) strokeLine(c, path, view, size, ratio);
			c.globalAlpha = 1;
		}
		for (const path of scene.trail) line(path, palette.woad, 1.7);
		for (const path of scene.leftOut) if (inSight(path)) line(path, palette.faint, 1, [3, 4]);
		for (const path of scene.going) if (inSight(path)) line(path, palette.rust, 2.4, [2, 5]);
		if (scene.under.length) {
			const all = new Path2D();
			for (const path of scene.under) all.addPath(fillPath(path));
			c.globalAlpha = 0.3;
			c.fillStyle = palette.woad;
			c.fill(all, 'evenodd');
			c.globalAlpha = 1;
		}
		c.restore();
	}

	private drawMarks(c: Context, scene: Scene): void {
		const { view, size, palette } = scene;
		const marks = { view, size, palette };
		const ratio = this.marks.getCanvas().getPixelRatio();
		for (const guide of recordsOf(scene.drawing, 'guide'))
			drawGuideLine(c, marks, guide, palette.woad, [10, 4, 2, 4]);
		// While an operation is open its result shows its anchors, so that one sees what it costs.
		if (scene.preview.length && !scene.rough) this.drawPreviewAnchors(c, scene);
		if (scene.deviations.length) drawDeviations(c, marks, scene.deviations);
		this.drawLooked(c, scene);
		for (const { x, y, text } of scene.labels) {
			const p = toScreen(view, size, x, y);
			labelAt(c, palette, text, p.x + 8, p.y - 8, palette.madder);
		}
		for (const place of scene.doubtful) drawDoubt(c, marks, place);
		for (const line of scene.bound) drawGuideLine(c, marks, line, palette.madder, [2, 4]);
		for (const outline of scene.entered) {
			if (scene.replaced.has(outline.id)) continue;
			if (scene.given && outline === scene.entered[0]) drawGiven(c, marks, scene.given);
			else drawAnchors(c, marks, outline, scene.picked.get(outline.id) ?? NO_ANCHORS, scene.handleInHand);
			if (!isClosed(outline)) drawOpenEnds(c, marks, lineOf(outline));
			if (outline.half) drawAxis(c, { ...marks, ratio }, outline.half, palette.faint);
		}
		this.drawPicked(c, scene);
		if (scene.holds.length) drawHolds(c, marks, scene.holds);
		for (const { x, y } of scene.fast) drawFast(c, marks, x, y);
		if (scene.drawn) drawAnchors(c, marks, scene.drawn, new Set([scene.drawn.anchors.length]), undefined);
		if (scene.drawnBy) drawGiven(c, marks, scene.drawnBy);
		if (scene.closing) drawClosing(c, marks, scene.closing.x, scene.closing.y);
		for (const p of scene.reachOf) drawReachEnd(c, marks, p.x, p.y);
		if (scene.frame) drawPictureFrame(c, marks, scene.frame);
		if (scene.snap) this.drawSnap(c, scene, scene.snap);
		scene.faults.forEach((fault, i) => {
			if (fault.kind !== 'no-size' && !scene.preview.length)
				drawKnot(c, marks, fault.x, fault.y, i === scene.faultAt);
		});
		if (scene.worst) drawWorst(c, marks, scene.worst, scene.unit);
		scene.picks.forEach((pick) => drawStitch(c, marks, pick.x, pick.y, palette.madder, 8));
		if (scene.picks.length > 2) {
			c.strokeStyle = palette.madder;
			c.lineWidth = 1;
			c.setLineDash([6, 4]);
			c.beginPath();
			for (const pick of scene.picks) {
				const q = toScreen(view, size, pick.x, pick.y);
				c.lineTo(q.x, q.y);
			}
			if (scene.picks.length === 4) c.closePath();
			c.stroke();
			c.setLineDash([]);
		}
		if (scene.picks.length === 2) {
			const a = toScreen(view, size, scene.picks[0].x, scene.picks[0].y);
			const b = toScreen(view, size, scene.picks[1].x, scene.picks[1].y);
			c.strokeStyle = palette.madder;
			c.lineWidth = 1.2;
			c.setLineDash([8, 4]);
			c.beginPath();
			c.moveTo(a.x, a.y);
			c.lineTo(b.x, b.y);
			c.stroke();
			c.setLineDash([]);
		}
		if (scene.box) {
			c.strokeStyle = palette.madder;
			c.lineWidth = 1;
			c.setLineDash([5, 3]);
			c.strokeRect(scene.box.x0, scene.box.y0, scene.box.x1 - scene.box.x0, scene.box.y1 - scene.box.y0);
			c.setLineDash([]);
		}
		if (scene.lasso) {
			c.strokeStyle = palette.madder;
			c.lineWidth = 1.2;
			c.setLineDash([5, 3]);
			c.beginPath();
			for (let i = 0; i < scene.lasso.length; i += 2) c.lineTo(scene.lasso[i], scene.lasso[i + 1]);
			c.stroke();
			c.setLineDash([]);
		}
		if (scene.placing) drawPictureFrame(c, marks, frameOf(scene.placing));
		drawRulers(c, marks, scene.unit);
	}

	private drawLooked(c: Context, { looked, view, size, palette, unit }: Scene): void {
		const marks = { view, size, palette };
		for (const polygon of looked.polygons) drawPolygon(c, marks, polygon.vertices, polygon.closed);
		for (const comb of looked.combs) drawComb(c, marks, comb, looked, unit);
		drawTight(c, marks, looked.tight, unit);
		for (const spot of [looked.place, looked.number]) {
			if (!spot) continue;
			const p = toScreen(view, size, spot.x, spot.y);
			drawPointed(c, marks, spot.x, spot.y);
			const text =
				'off' in spot
					? `${formatLength(Math.abs(spot.off), unit)} ${spot.off < 0 ? 'right' : 'left'} of it`
					: Number.isFinite(spot.radius)
						? `radius ${formatLength(Math.abs(spot.radius), unit)}`
						: 'straight';
			labelAt(c, palette, text, p.x + 14, p.y + 22, palette.madder);
		}
	}

	private drawPreviewAnchors(c: Context, scene: Scene): void {
		const { view, size, palette } = scene;
		const seen = seenBox(view, size, 4);
		const dots: [number, number][] = [];
		for (const path of scene.preview) {
			const b = boxOf(path);
			if (b.x1 < seen.x0 || b.x0 > seen.x1 || b.y1 < seen.y0 || b.y0 > seen.y1) continue;
			for (let i = 0; i < path.types.length && dots.length < 6000; i++) {
				const p = toScreen(view, size, path.segs[8 * i], path.segs[8 * i + 1]);
				if (p.x > 0 && p.y > 0 && p.x < size.widthPx && p.y < size.heightPx) dots.push([p.x, p.y]);
			}
		}
		const r = dots.length > 1500 ? 1.2 : 2;
		c.fillStyle = palette.halo;
		for (const [x, y] of dots) c.fillRect(x - r - 1, y - r - 1, 2 * r + 2, 2 * r + 2);
		c.fillStyle = palette.woad;
		for (const [x, y] of dots) c.fillRect(x - r, y - r, 2 * r, 2 * r);
	}

	/** The picked segments, and what would be picked, on the line itself. */
	private drawPicked(c: Context, scene: Scene): void {
		const { entered, segments, pointed, palette } = scene;
		const [outline] = entered;
		if (!outline) return;
		for (const anchor of segments) {
			const i = outline.anchors.indexOf(anchor);
			if (i >= 0 && i < sourceLine(outline).types.length)
				this.strokeSegment(c, scene, sourceLine(outline), i, palette.madder, 3);
		}
		if (!pointed) return;
		const other = entered.find((o) => o.id === pointed.outline);
		const i = other?.anchors.indexOf(pointed.anchor) ?? -1;
		if (!other || i < 0) return;
		if (pointed.isSegment) {
			if (!segments.has(pointed.anchor) && i < sourceLine(other).types.length)
				this.strokeSegment(c, scene, sourceLine(other), i, palette.woad, 2.4);
			return;
		}
		const a = ANCHOR_STRIDE * i + (pointed.side === 'in' ? 2 : pointed.side === 'out' ? 4 : 0);
		drawPointed(c, scene, other.points[a], other.points[a + 1]);
	}

	private strokeSegment(
		c: Context,
		{ view, size }: Scene,
		path: Path,
		i: number,
		colour: string,
		width: number
	): void {
		const ratio = this.marks.getCanvas().getPixelRatio();
		const k = view.scale;
		c.save();
		inMillimetres(c, view, size, ratio);
		c.strokeStyle = colour;
		c.lineWidth = width / k;
		strokeLine(c, stretchBetween(path, i, i + 1), view, size, ratio);
		c.restore();
	}

	/** One mark for all targets and the word; the line snapped to is brightened. */
	private drawSnap(c: Context, scene: Scene, snap: Snap): void {
		const { view, size, palette } = scene;
		const { line } = snap;
		if (line && 'guide' in line) drawGuideLine(c, scene, line.guide, palette.madder, []);
		else if (line) this.strokeSegment(c, scene, line.path, line.segment, palette.weld, 3);
		drawStitch(c, scene, snap.x, snap.y, palette.weld, 7);
		const p = toScreen(view, size, snap.x, snap.y);
		labelAt(c, palette, snap.kind, p.x + 12, p.y + 20, palette.weld);
	}
}

const NO_ANCHORS: ReadonlySet<number> = new Set();

function sameKey(a: readonly unknown[] | undefined, b: readonly unknown[]): boolean {
	return !!a && a.length === b.length && a.every((v, i) => v === b[i]);
}
