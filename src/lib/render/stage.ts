/**
 * The drawing surface: a stage with three layers of one custom shape each. The paper (pictures, still lines) is drawn
 * from a bitmap that is made anew only when what it shows has changed; while one pans or zooms the bitmap is moved.
 */
import { Layer } from 'konva/lib/Layer';
import { Shape } from 'konva/lib/Shape';
import { Stage as Canvases } from 'konva/lib/Stage';
import { recordsOf } from '../core/document/drawing';
import { frameOf } from '../core/document/edits/placement';
import { formatLength } from '../core/units';
import { ANCHOR_STRIDE, isClosed, lineOf, sourceLine } from '../core/document/outline';
import { isShown } from '../core/document/output';
import { RECORDS } from '../core/document/records';
import { shownRepeats } from '../core/document/repeats';
import type { Snap } from '../core/document/edits/snap';
import { stretchBetween } from '../core/geometry/join';
import { boxOf } from '../core/geometry/pick';
import type { Path } from '../core/geometry/path';
import { CopiesPicture, drawCopies, liveRepeats, waits } from './copies';
import { fillPath, inMillimetres, strokeLine } from './lines';
import {
	drawAnchors,
	drawAxis,
	drawClosing,
	drawDoubt,
	drawGuideLine,
	drawKnot,
	drawMark,
	drawOpenEnds,
	drawPictureFrame,
	drawPointed,
	drawPolygon,
	drawReachEnd,
	drawStitch,
	labelAt
} from './marks';
import { drawGiven } from './given';
import { drawFast, drawHolds } from './holds';
import { drawComb, drawTight } from './comb';
import { drawDeviations, drawWorst } from './deviation';
import { drawRulers } from './rulers';
import type { Scene } from './scene';
import { heldIds, isHeavy, liveIds, StillPicture } from './still';
import { seenBox, toScreen, type WindowSize } from './view';

type Context = CanvasRenderingContext2D;

export class DrawingStage {
	readonly stage: Canvases;
	private readonly paper = new Layer({ listening: false });
	private readonly live = new Layer({ listening: false });
	private readonly marks = new Layer({ listening: false });
	private scene: Scene | undefined;
	private readonly still = new StillPicture();

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
		add(this.paper, (c, scene) => this.still.draw(c, scene, this.paper.getCanvas().getPixelRatio()));
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
		if (moved || before!.moving !== scene.moving || !this.still.shows(scene)) this.paper.draw();
		this.live.draw();
		this.marks.draw();
	}

	/** Copies of what is held, as they would become, and those that are selected. */
	private drawLiveCopies(c: Context, scene: Scene, ratio: number): void {
		const { drawing, view, size, palette, selected, carriedBy } = scene;
		const look = { view, size, palette, ratio };
		const carried = new Set(carriedBy ? scene.carriedRepeats : []);
		const live = liveRepeats(drawing, heldIds(scene));
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
		if (isHeavy(scene)) return;
		for (const repeat of shownRepeats(drawing))
			if (selected.has(repeat.id) && !live.includes(repeat))
				drawCopies(c, drawing, repeat, look, { chosen: true });
	}
	private readonly carriedPicture = new CopiesPicture();

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
		const live = liveIds(scene);
		if (scene.hover && !scene.selected.has(scene.hover.id)) line(lineOf(scene.hover), palette.madder, 1);
		for (const id of isHeavy(scene) ? [] : scene.selected) {
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
