/** What the pointer does on the surface: picks, drags, draws, pans; one gesture at a time. */
import type { Point } from '../../core/geometry/point';
import { insertAnchors, moveAnchors } from '../../core/document/edits/anchors';
import {
	ANCHOR_STRIDE,
	anchorIndex,
	lineOf,
	segmentTypeOf,
	sourceLine,
	type Outline,
	type Side
} from '../../core/document/outline';
import {
	anchorsInReach,
	offAlong,
	slideAlong,
	slideDirection,
	slideOnLine,
	softPull
} from '../../core/document/edits/pulling';
import { bendSegment, moveSideways } from '../../core/document/edits/segments';
import { anchorsInside } from '../../core/document/edits/selecting';
import { lockedDirection, type GuideLine } from '../../core/document/edits/snap';
import { shownMarks } from '../../core/document/output';
import { STRAIGHT } from '../../core/geometry/path';
import { boxOf } from '../../core/geometry/pick';
import { RULER_PX } from '../../render/rulers';
import { toPaper } from '../../render/view';
import type { Bench } from '../bench.svelte';
import { newId } from '../ids';
import { PictureHand, type PictureGesture } from './picture-hand';
import { Picking } from './picking';
import type { PointerAt } from './pointer';
import { Snapping } from './snapping';

type Gesture =
	| { what: 'pan'; x: number; y: number; tapX?: number; tapY?: number }
	| {
			what: 'anchors';
			started: boolean;
			x: number;
			y: number;
			/** Where the pressed anchor was, mm. */
			from: Point;
			pressed: number;
			outline: string;
			wasSelected: boolean;
	  }
	| { what: 'handle'; anchor: number; side: Side; started: boolean; x: number; y: number }
	| { what: 'segment'; segment: number; t: number; whole: boolean; started: boolean; x: number; y: number }
	| { what: 'outlines'; started: boolean; x: number; y: number; id: string }
	| { what: 'operation'; started: boolean; x: number; y: number; takes: boolean }
	| { what: 'pick'; index: number }
	| { what: 'box'; x: number; y: number; add: boolean; started: boolean }
	| { what: 'reach'; side: 'before' | 'after' }
	/** The comb's scale, dragged on a tip: the tooth's foot, how long it was, px, and the stretch then. */
	| { what: 'comb'; x: number; y: number; length: number; stretch: number }
	| { what: 'guide'; id: string; level: boolean }
	| { what: 'lasso'; points: number[]; add: boolean }
	| { what: 'pen' }
	| PictureGesture;

/** A drag begins once the pointer has gone this far, px. */
const SLOP_PX = { mouse: 3, pen: 5, touch: 8 };

export class Hand {
	private gesture: Gesture | undefined;
	private readonly picture: PictureHand;
	private readonly picking: Picking;
	private readonly snapping: Snapping;
	/** The box being drawn, px. */
	box: { x0: number; y0: number; x1: number; y1: number } | undefined;
	hover: Outline | undefined;
	/** The line being drawn round something, px. */
	lasso: readonly number[] | undefined;

	constructor(
		private readonly bench: Bench,
		private readonly redraw: () => void
	) {
		this.picture = new PictureHand(bench);
		this.picking = new Picking(bench);
		this.snapping = new Snapping(bench);
	}

	get busy(): boolean {
		return this.gesture !== undefined;
	}

	down(at: PointerAt): void {
		const { bench } = this;
		bench.menu = undefined;
		if (at.panning || at.button !== 0) {
			this.gesture = { what: 'pan', x: at.x, y: at.y };
			return;
		}
		// A guide is pulled out of a ruler.
		if ((at.x < RULER_PX || at.y < RULER_PX) && at.kind === 'mouse' && !bench.readOnly) {
			this.gesture = { what: 'guide', id: newId(), level: at.y < RULER_PX };
			return;
		}
		const p = this.paper(at);
		if (bench.pictures.sizing) {
			const index = this.picture.pick(p, at);
			if (index !== undefined) this.gesture = { what: 'pick', index };
			return;
		}
		if (bench.pictures.placing) {
			const taken = this.picture.take(p, at);
			if (taken === 'box') this.gesture = { what: 'box', x: at.x, y: at.y, add: false, started: false };
			else if (taken === 'pan') this.gesture = { what: 'pan', x: at.x, y: at.y };
			else this.gesture = taken;
			return;
		}
		if (bench.pen) {
			bench.pen.down(this.penAt(p, at));
			this.gesture = { what: 'pen' };
			this.measurePen(at);
			return;
		}
		if (bench.operation) {
			if (at.alt) this.gesture = { what: 'lasso', points: [at.x, at.y], add: false };
			else if (at.shift) this.gesture = { what: 'box', x: at.x, y: at.y, add: false, started: false };
			else this.gesture = { what: 'operation', started: false, x: at.x, y: at.y, takes: true };
			return;
		}
		const peg = this.picking.pegAt(at);
		if (peg) {
			this.gesture = { what: 'reach', side: peg };
			return;
		}
		if (bench.enteredOutline && this.takeOfEntered(p, at)) return;
		const tooth = this.picking.toothAt(at);
		if (tooth) {
			this.gesture = { what: 'comb', ...tooth, stretch: bench.looking.stretch };
			return;
		}
		if (at.alt && bench.enteredOutline) {
			this.gesture = { what: 'lasso', points: [at.x, at.y], add: at.shift };
			return;
		}
		if (!bench.enteredOutline && !at.shift) {
			const hits = [bench.spotAt(p.x, p.y, at.kind), bench.outlineAt(p.x, p.y, at.kind)];
			const hit = hits.find((h) => h && bench.selected.has(h.id));
			if (hit) {
				this.gesture = { what: 'outlines', started: false, x: at.x, y: at.y, id: hit.id };
				return;
			}
		}
		// With a finger a selected anchor is dragged from anywhere, so that the finger does not cover it.
		if (at.kind === 'touch' && bench.enteredOutline && bench.anchors.size > 0) {
			const [pressed] = bench.anchors;
			this.takeAnchor(bench.enteredOutline, pressed, at, false);
			return;
		}
		this.gesture = { what: 'box', x: at.x, y: at.y, add: at.shift, started: false };
	}

	/** Takes hold of an anchor, a handle or a segment of an entered outline; false where nothing is under the pointer. */
	private takeOfEntered(p: Point, at: PointerAt): boolean {
		const { bench } = this;
		const hit = this.picking.pickAt(p, at, true);
		if (!hit) return false;
		bench.takeInHand(hit.outline);
		const outline = bench.enteredOutline!;
		if (hit.side) {
			this.gesture = { what: 'handle', anchor: hit.anchor, side: hit.side, started: false, x: at.x, y: at.y };
			return true;
		}
		if (!hit.isSegment) {
			const selected = bench.anchorsOf(outline.id);
			const wasSelected = selected.has(hit.anchor);
			if (!wasSelected) {
				if (at.shift) bench.pickAnchors(outline.id, new Set([...selected, hit.anchor]));
				else bench.anchors = new Set([hit.anchor]);
			}
			if (!at.shift) bench.segments = new Set();
			this.takeAnchor(outline, hit.anchor, at, wasSelected && at.shift);
			return true;
		}
		const on = bench.placeOnEntered(p.x, p.y, at.kind);
		if (!on) return false;
		const next = new Set(at.shift ? bench.segments : []);
		if (!(at.shift && next.delete(hit.anchor))) next.add(hit.anchor);
		if (!at.shift) bench.anchors = new Set();
		bench.segments = next;
		this.gesture = {
			what: 'segment',
			segment: on.segment,
			t: on.t,
			whole: at.alt,
			started: false,
			x: at.x,
			y: at.y
		};
		return true;
	}

	private takeAnchor(outline: Outline, anchor: number, at: PointerAt, wasSelected: boolean): void {
		const i = anchorIndex(outline, anchor) ?? 0;
		this.gesture = {
			what: 'anchors',
			started: false,
			x: at.x,
			y: at.y,
			from: { x: outline.points[ANCHOR_STRIDE * i], y: outline.points[ANCHOR_STRIDE * i + 1] },
			pressed: anchor,
			outline: outline.id,
			wasSelected
		};
	}

	move(at: PointerAt): void {
		const { bench, gesture } = this;
		const p = this.paper(at);
		if (bench.pictures.sizing) bench.pictures.pointing = p;
		if (gesture?.what === 'pick') {
			const px = this.picture.onPicture(p);
			const { sizing } = bench.pictures;
			if (!px || !sizing) return;
			const points = sizing.points.map((q, k) => (k === gesture.index ? { x: px.x, y: px.y } : q));
			bench.pictures.sizing = { ...sizing, points };
			return;
		}
		if (bench.pen && (!gesture || gesture.what === 'pen')) {
			bench.pen.move(this.penAt(p, at), gesture !== undefined);
			this.measurePen(at);
			return;
		}
		if (!gesture) {
			this.hoverOver(p, at);
			return;
		}
		if (gesture.what === 'pan') {
			bench.sight.pan(at.x - gesture.x, at.y - gesture.y);
			gesture.x = at.x;
			gesture.y = at.y;
			return;
		}
		if (gesture.what === 'comb') {
			const length = Math.hypot(at.x - gesture.x, at.y - gesture.y);
			bench.looking.stretch = Math.min(40, Math.max(0.02, (gesture.stretch * length) / gesture.length));
			return;
		}
		if (gesture.what === 'reach') {
			const outline = bench.enteredOutline;
			const [anchor] = bench.anchors;
			const off = outline && offAlong(outline, anchor, p.x, p.y);
			if (off !== undefined)
				bench.reachAlong = { ...bench.reachAlong, [gesture.side]: Math.max(0.1, Math.abs(off)) };
			return;
		}
		if (gesture.what === 'guide' || gesture.what === 'pen') return;
		if (gesture.what === 'lasso') {
			gesture.points.push(at.x, at.y);
			this.lasso = [...gesture.points];
			this.redraw();
			return;
		}
		if (!gesture.started) {
			if (Math.hypot(at.x - gesture.x, at.y - gesture.y) < SLOP_PX[at.kind]) return;
			gesture.started = true;
			bench.under = undefined;
		}
		switch (gesture.what) {
			case 'move picture':
			case 'turn picture':
				this.picture.move(gesture, p, at);
				break;
			case 'anchors':
				this.dragAnchors(gesture, p, at);
				break;
			case 'handle':
				this.dragHandle(gesture, p, at);
				break;
			case 'segment':
				this.dragSegment(gesture, p, at);
				break;
			case 'outlines':
				this.dragOutlines(gesture, p, at);
				break;
			case 'operation': {
				const from = toPaper(bench.sight.view, bench.sight.size, gesture.x, gesture.y);
				if (gesture.takes)
					gesture.takes = bench.operation?.drag(from.x, from.y, p.x, p.y, bench.reach(at.kind)) ?? false;
				if (!gesture.takes) this.gesture = { what: 'pan', x: at.x, y: at.y };
				break;
			}
			case 'box':
				this.box = { x0: gesture.x, y0: gesture.y, x1: at.x, y1: at.y };
				this.redraw();
		}
	}

	/** What would be picked is shown before it is. */
	private hoverOver(p: Point, at: PointerAt): void {
		const { bench } = this;
		bench.operation?.hover(p.x, p.y);
		bench.looking.hover(p.x, p.y, bench.reach(at.kind));
		if (bench.enteredOutline && !bench.operation) {
			const under = this.picking.pickAt(p, at, false);
			const was = bench.under;
			if (
				under?.anchor !== was?.anchor ||
				under?.side !== was?.side ||
				under?.isSegment !== was?.isSegment ||
				under?.outline !== was?.outline
			)
				bench.under = under;
		}
		const hover =
			bench.enteredOutline || bench.operation || bench.pictures.sizing || bench.pictures.placing
				? undefined
				: bench.outlineAt(p.x, p.y, at.kind);
		if (hover !== this.hover) {
			this.hover = hover;
			this.redraw();
		}
	}

	/** A drag from a place, with Shift locked to level, plumb or 45 degrees; the line that binds it then shows. */
	private lockedDrag(from: Point, dx: number, dy: number, at: PointerAt): { right: number; up: number } {
		this.bench.bound = [];
		if (!at.shift) return { right: dx, up: dy };
		const d = lockedDirection(dx, dy);
		this.bench.bound = [this.guideThrough(from, d.x, d.y)];
		return { right: d.x, up: d.y };
	}

	/** Applies a drag, and tells its numbers at the pointer; typed ones are applied instead and end it. */
	private applyDrag(
		at: PointerAt,
		{ right, up }: { right: number; up: number },
		apply: (right: number, up: number) => void,
		end: () => void
	): void {
		apply(right, up);
		this.bench.measure = {
			x: at.x,
			y: at.y,
			right,
			up,
			set: (typedRight, typedUp) => {
				apply(typedRight, typedUp);
				this.gesture = undefined;
				end();
			}
		};
	}

	private dragAnchors(gesture: Extract<Gesture, { what: 'anchors' }>, p: Point, at: PointerAt): void {
		const { bench } = this;
		const { from } = gesture;
		const start = toPaper(bench.sight.view, bench.sight.size, gesture.x, gesture.y);
		let d = this.lockedDrag(from, p.x - start.x, p.y - start.y, at);
		bench.snap = undefined;
		if (!at.shift && !at.ctrl && bench.movingWay !== 'own line') {
			bench.snap = this.snapping.snapAt({ x: from.x + d.right, y: from.y + d.up }, at, gesture);
			if (bench.snap) d = { right: bench.snap.x - from.x, up: bench.snap.y - from.y };
		}
		this.applyDrag(
			at,
			d,
			(dx, dy) => this.moveAnchorsBy(gesture, dx, dy),
			() => this.endAnchors(gesture)
		);
	}

	/** Moves the selected anchors as the way of moving says. */
	private moveAnchorsBy(gesture: Extract<Gesture, { what: 'anchors' }>, dx: number, dy: number): void {
		const { bench } = this;
		const way = bench.movingWay;
		if (way === 'free') {
			bench.hold((o, ids) => moveAnchors(o, ids, dx, dy));
			return;
		}
		const { pressed, from } = gesture;
		if (way === 'own line') {
			bench.hold((o, ids) => (ids.has(pressed) ? slideOnLine(o, pressed, from.x + dx, from.y + dy) : o));
			return;
		}
		if (way === 'soft') {
			bench.hold((o, ids) => (ids.has(pressed) ? softPull(o, pressed, dx, dy, bench.reachAlong) : o));
			return;
		}
		const record = bench.drawing.records.get(gesture.outline);
		if (record?.type !== 'outline') return;
		const d = slideDirection(record, pressed, way);
		if (!d) return;
		const by = dx * d.x + dy * d.y;
		bench.bound = [this.guideThrough(from, d.x, d.y)];
		bench.hold((o, ids) => slideAlong(o, ids, way, by));
	}

	private endAnchors(gesture: Extract<Gesture, { what: 'anchors' }>): void {
		const { bench } = this;
		this.gesture = undefined;
		const count = bench.enteredOutlines.reduce((sum, o) => sum + bench.anchorsOf(o.id).size, 0);
		const way = {
			free: 'Move',
			before: 'Lengthen the side',
			after: 'Lengthen the side',
			'own line': 'Slide',
			soft: 'Pull softly'
		}[bench.movingWay];
		const few =
			bench.movingWay === 'soft' &&
			bench.enteredOutline &&
			anchorsInReach(bench.enteredOutline, gesture.pressed, bench.reachAlong) < 2;
		bench.release(way === 'Move' ? (count === 1 ? 'Move anchor' : `Move ${count} anchors`) : way);
		if (few)
			bench.tell('Few anchors lie within the reach. "More in reach" puts some in, the shape unchanged.');
	}

	private dragHandle(gesture: Extract<Gesture, { what: 'handle' }>, p: Point, at: PointerAt): void {
		const { bench } = this;
		const { anchor, side } = gesture;
		const record = bench.enteredIds.length ? bench.drawing.records.get(bench.enteredIds[0]) : undefined;
		if (record?.type !== 'outline') return;
		const i = anchorIndex(record, anchor) ?? 0;
		const ax = record.points[ANCHOR_STRIDE * i];
		const ay = record.points[ANCHOR_STRIDE * i + 1];
		this.applyDrag(
			at,
			this.lockedDrag({ x: ax, y: ay }, p.x - ax, p.y - ay, at),
			(right, up) =>
				bench.hold((o) =>
					o.id === record.id ? bench.withHandle(o, anchor, side, ax + right, ay + up, at.alt) : o
				),
			() => bench.release('Move handle')
		);
	}

	/** A segment pulled: bent so that it goes through the pointer; with Alt moved as a whole. */
	private dragSegment(gesture: Extract<Gesture, { what: 'segment' }>, p: Point, at: PointerAt): void {
		const { bench } = this;
		const start = toPaper(bench.sight.view, bench.sight.size, gesture.x, gesture.y);
		const { segment, t } = gesture;
		const picked = [...bench.segments];
		const outline = bench.drawing.records.get(bench.entered ?? '');
		if (outline?.type !== 'outline') return;
		const whole = gesture.whole || picked.length > 1;
		const apply = (dx: number, dy: number) =>
			bench.hold((o) => {
				if (o.id !== outline.id) return o;
				if (!whole) return bendSegment(o, segment, t, start.x + dx, start.y + dy);
				const keepsAngles = bench.movingWay === 'before' || bench.movingWay === 'after';
				if (keepsAngles && picked.length === 1 && segmentTypeOf(o, segment) === STRAIGHT) {
					const path = sourceLine(o);
					const [ux, uy] = [6, 7].map((q) => path.segs[8 * segment + q] - path.segs[8 * segment + q - 6]);
					return moveSideways(o, segment, (dy * ux - dx * uy) / (Math.hypot(ux, uy) || 1));
				}
				const ids = new Set<number>();
				for (const id of picked) {
					const i = o.anchors.indexOf(id);
					if (i < 0) continue;
					ids.add(id);
					ids.add(o.anchors[(i + 1) % o.anchors.length]);
				}
				return moveAnchors(o, ids, dx, dy);
			});
		this.applyDrag(at, this.lockedDrag(start, p.x - start.x, p.y - start.y, at), apply, () =>
			this.endSegment(whole, segmentTypeOf(outline, segment) === STRAIGHT)
		);
	}

	private endSegment(whole: boolean, wasStraight: boolean): void {
		this.gesture = undefined;
		this.bench.release(whole ? 'Move segment' : wasStraight ? 'Bend a straight' : 'Bend segment');
	}

	/** Whole outlines dragged. */
	private dragOutlines(gesture: Extract<Gesture, { what: 'outlines' }>, p: Point, at: PointerAt): void {
		const { bench } = this;
		const start = toPaper(bench.sight.view, bench.sight.size, gesture.x, gesture.y);
		this.applyDrag(
			at,
			this.lockedDrag(start, p.x - start.x, p.y - start.y, at),
			(right, up) => (bench.carried = { right, up }),
			() => bench.releaseCarried()
		);
	}

	private guideThrough(p: Point, dx: number, dy: number): GuideLine {
		return { x: p.x, y: p.y, angle: (Math.atan2(dy, dx) * 180) / Math.PI };
	}

	private penAt(p: Point, at: PointerAt) {
		const snap = at.ctrl || at.shift ? undefined : this.snapping.snapPen(p, at);
		this.bench.snap = snap;
		return { ...p, shift: at.shift, alt: at.alt, reach: this.bench.reach(at.kind), snap };
	}

	private measurePen(at: PointerAt): void {
		const { bench } = this;
		const { pen } = bench;
		const from = pen?.last;
		if (!pen || !from || !pen.at) {
			bench.measure = undefined;
			return;
		}
		bench.measure = {
			x: at.x,
			y: at.y,
			right: pen.at.x - from.x,
			up: pen.at.y - from.y,
			set: (right, up) => {
				pen.typed(right, up);
				bench.measure = undefined;
			}
		};
	}

	up(at: PointerAt): void {
		const { bench, gesture } = this;
		this.gesture = undefined;
		if (!gesture) return;
		const p = this.paper(at);
		switch (gesture.what) {
			case 'pan':
			case 'pick':
			case 'comb':
			case 'reach':
				return;
			case 'pen':
				bench.pen?.up(this.penAt(p, at));
				return;
			case 'operation':
				if (gesture.started) bench.operation?.dropped();
				else bench.operation?.tap(p.x, p.y, bench.reach(at.kind));
				return;
			case 'move picture':
			case 'turn picture':
				bench.pictures.release(gesture.what === 'move picture' ? 'Move picture' : 'Turn picture');
				return;
			case 'lasso':
				this.endLasso(gesture.points, gesture.add);
				return;
			case 'guide': {
				const inside = gesture.level ? at.y > RULER_PX : at.x > RULER_PX;
				if (!inside) return;
				bench.commit('Put a guide', {
					put: [{ type: 'guide', id: gesture.id, rank: 1e6, x: p.x, y: p.y, angle: gesture.level ? 0 : 90 }]
				});
				return;
			}
			case 'anchors':
				if (gesture.started) this.endAnchors(gesture);
				else if (gesture.wasSelected)
					bench.pickAnchors(
						gesture.outline,
						new Set([...bench.anchorsOf(gesture.outline)].filter((id) => id !== gesture.pressed))
					);
				else if (!at.shift) bench.anchors = new Set([gesture.pressed]);
				return;
			case 'handle':
				if (gesture.started) bench.release('Move handle');
				return;
			case 'segment': {
				const outline = bench.enteredOutline;
				if (gesture.started && outline)
					this.endSegment(
						gesture.whole || bench.segments.size > 1,
						segmentTypeOf(outline, gesture.segment) === STRAIGHT
					);
				return;
			}
			case 'outlines':
				if (gesture.started) bench.releaseCarried();
				else this.click(p, at);
				return;
		}
		this.box = undefined;
		if (bench.pictures.placing) {
			if (gesture.started) this.picture.crop(gesture.x, gesture.y, at.x, at.y);
			this.redraw();
			return;
		}
		if (bench.operation) {
			const q = toPaper(bench.sight.view, bench.sight.size, gesture.x, gesture.y);
			if (gesture.started) bench.operation.box(q.x, q.y, p.x, p.y);
			this.redraw();
			return;
		}
		if (gesture.started) this.selectBox(gesture.x, gesture.y, at.x, at.y, gesture.add);
		else this.click(p, at);
		this.redraw();
	}

	private endLasso(points: readonly number[], add: boolean): void {
		const { bench } = this;
		this.lasso = undefined;
		const places: number[] = [];
		for (let i = 0; i < points.length; i += 2) {
			const q = toPaper(bench.sight.view, bench.sight.size, points[i], points[i + 1]);
			places.push(q.x, q.y);
		}
		if (bench.operation) bench.operation.lassoed(places);
		else {
			bench.segments = new Set();
			for (const outline of bench.enteredOutlines) {
				const inside = anchorsInside(outline, places);
				bench.pickAnchors(outline.id, new Set([...(add ? bench.anchorsOf(outline.id) : []), ...inside]));
			}
		}
		this.redraw();
	}

	/** Gives the gesture up; nothing has changed. */
	cancel(): void {
		const { bench } = this;
		this.gesture = undefined;
		this.box = undefined;
		this.lasso = undefined;
		bench.drafts = new Map();
		bench.carried = undefined;
		bench.pictures.placed = undefined;
		bench.endDrag();
	}

	/** Enters the outline under the pointer; on the entered one puts an anchor there, the shape unchanged. */
	double(at: PointerAt): void {
		const { bench } = this;
		if (bench.pen) {
			bench.pen.finish();
			return;
		}
		if (bench.operation || bench.pictures.sizing || bench.pictures.placing) return;
		const p = this.paper(at);
		const outline = bench.enteredOutline;
		if (outline) {
			const hit = this.picking.pickAt(p, at, false);
			if (hit && !hit.isSegment) return;
			const on = bench.placeOnEntered(p.x, p.y, at.kind);
			if (on) {
				const { outline: next, added } = insertAnchors(outline, [on]);
				bench.change('Add anchor', () => next);
				bench.segment = undefined;
				bench.anchors = new Set(added);
				return;
			}
		}
		const hit = bench.outlineAt(p.x, p.y, at.kind);
		if (hit) bench.enter(hit.id);
		else bench.leave();
	}

	/** Selects what is under the pointer and opens the menu beside it. */
	menuAt(at: PointerAt): void {
		const { bench } = this;
		this.cancel();
		if (bench.operation || bench.pictures.sizing || bench.pictures.placing || bench.pen) return;
		const p = this.paper(at);
		const hit = bench.enteredOutline ? this.picking.pickAt(p, at, false) : undefined;
		if (hit) {
			bench.takeInHand(hit.outline);
			if (hit.isSegment) {
				bench.anchors = new Set();
				bench.segments = new Set([hit.anchor]);
			} else if (!bench.anchors.has(hit.anchor)) bench.anchors = new Set([hit.anchor]);
		} else if (!bench.enteredOutline) {
			const outline = bench.outlineAt(p.x, p.y, at.kind);
			if (outline && !bench.selected.has(outline.id)) bench.select([outline.id]);
		}
		bench.menu = { x: at.x, y: at.y };
	}

	private click(p: Point, at: PointerAt): void {
		const { bench } = this;
		const hits = bench.outlinesAt(p.x, p.y, at.kind);
		const line = hits.length ? hits[this.picking.turnOf(at) % hits.length] : undefined;
		const spot = bench.spotAt(p.x, p.y, at.kind);
		// A mark is smaller than a line and wins; a guide lies under everything.
		const hit = spot?.type === 'mark' ? spot : (line ?? spot);
		if (bench.enteredOutline) {
			if (line && !bench.enteredIds.includes(line.id)) bench.select([line.id]);
			else if (bench.picked.size || bench.segments.size) {
				bench.anchors = new Set();
				bench.segments = new Set();
			} else bench.leave();
			return;
		}
		if (!hit) {
			if (!at.shift) bench.select([]);
			return;
		}
		if (at.shift) {
			const next = new Set(bench.selected);
			if (!next.delete(hit.id)) next.add(hit.id);
			bench.select(next);
		} else bench.select([hit.id]);
	}

	private selectBox(x0: number, y0: number, x1: number, y1: number, add: boolean): void {
		const { bench } = this;
		const a = toPaper(bench.sight.view, bench.sight.size, Math.min(x0, x1), Math.max(y0, y1));
		const b = toPaper(bench.sight.view, bench.sight.size, Math.max(x0, x1), Math.min(y0, y1));
		if (bench.enteredOutline) {
			bench.segments = new Set();
			for (const outline of bench.enteredOutlines) {
				const inside = anchorsInside(outline, [a.x, a.y, b.x, a.y, b.x, b.y, a.x, b.y]);
				bench.pickAnchors(outline.id, new Set([...(add ? bench.anchorsOf(outline.id) : []), ...inside]));
			}
			return;
		}
		const { outlines, paths } = bench.pickable();
		const inside = new Set(add ? bench.selected : []);
		for (const i of paths.within(a.x, a.y, b.x, b.y)) {
			const box = boxOf(lineOf(outlines[i]));
			if (box.x0 >= a.x && box.x1 <= b.x && box.y0 >= a.y && box.y1 <= b.y) inside.add(outlines[i].id);
		}
		for (const mark of shownMarks(bench.drawing))
			if (mark.x >= a.x && mark.x <= b.x && mark.y >= a.y && mark.y <= b.y) inside.add(mark.id);
		bench.select(inside);
	}

	private paper(at: PointerAt): Point {
		return toPaper(this.bench.sight.view, this.bench.sight.size, at.x, at.y);
	}
}
