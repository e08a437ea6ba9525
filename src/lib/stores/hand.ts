/** What the pointer does on the surface: picks, drags, pans; one gesture at a time. */
import { moveAnchors, placeHandle, insertAnchors, type Side } from '../core/edit/anchors';
import { ANCHOR_STRIDE, anchorIndex, resolve, segmentTypeOf, type Outline } from '../core/edit/outline';
import type { Reference } from '../core/edit/drawing';
import { frameOf, isOnReference, middleOf, onPicture, scaleOf, turned } from '../core/edit/placement';
import { CUBIC } from '../core/geometry/path';
import { turnKnob } from '../render/marks';
import { boxOf } from '../core/geometry/pick';
import { RULER_PX } from '../render/rulers';
import { toPaper, toScreen } from '../render/view';
import { newId, REACH_PX, type Bench, type PointerKind } from './bench.svelte';

export interface PointerAt {
	/** px in the window. */
	readonly x: number;
	readonly y: number;
	readonly kind: PointerKind;
	readonly shift: boolean;
	readonly alt: boolean;
	/** 0 main, 1 middle, 2 other. */
	readonly button: number;
	readonly panning: boolean;
}

interface Anchored {
	anchor: number;
	side?: Side;
}

type Gesture =
	| { what: 'pan'; x: number; y: number; tapX?: number; tapY?: number }
	| {
			what: 'anchors';
			fromX: number;
			fromY: number;
			started: boolean;
			x: number;
			y: number;
			pressed: number;
			wasSelected: boolean;
	  }
	| { what: 'handle'; anchor: number; side: Side; started: boolean; x: number; y: number }
	| { what: 'pick'; index: number }
	| { what: 'box'; x: number; y: number; add: boolean; started: boolean }
	| { what: 'guide'; id: string; level: boolean }
	| { what: 'lasso'; points: number[] }
	| { what: 'move picture' | 'turn picture'; x: number; y: number; from: Reference; started: boolean };

/** A drag begins once the pointer has gone this far, px. */
const SLOP_PX = { mouse: 3, pen: 5, touch: 8 };

export class Hand {
	private gesture: Gesture | undefined;
	/** The box being drawn, px. */
	box: { x0: number; y0: number; x1: number; y1: number } | undefined;
	hover: Outline | undefined;
	/** The line being drawn round something, px. */
	lasso: readonly number[] | undefined;

	constructor(
		private readonly bench: Bench,
		private readonly redraw: () => void
	) {}

	get busy(): boolean {
		return this.gesture !== undefined;
	}

	down(at: PointerAt): void {
		const { bench } = this;
		if (at.panning || at.button !== 0) {
			this.gesture = { what: 'pan', x: at.x, y: at.y };
			return;
		}
		// A guide is pulled out of a ruler.
		if ((at.x < RULER_PX || at.y < RULER_PX) && at.kind === 'mouse' && !bench.readOnly) {
			this.gesture = { what: 'guide', id: newId(), level: at.y < RULER_PX };
			return;
		}
		const p = toPaper(bench.view, bench.size, at.x, at.y);
		if (bench.sizing) {
			this.pickForSize(p, at);
			return;
		}
		if (bench.placing) {
			this.takePicture(p, at);
			return;
		}
		if (bench.operation && at.alt) {
			this.gesture = { what: 'lasso', points: [at.x, at.y] };
			return;
		}
		if (bench.operation && at.shift) {
			this.gesture = { what: 'box', x: at.x, y: at.y, add: false, started: false };
			return;
		}
		if (bench.operation) {
			this.gesture = { what: 'pan', x: at.x, y: at.y, tapX: at.x, tapY: at.y };
			return;
		}
		const outline = bench.enteredOutline;
		if (outline) {
			const hit = this.anchorAt(outline, at);
			if (hit?.side) {
				this.gesture = {
					what: 'handle',
					anchor: hit.anchor,
					side: hit.side,
					started: false,
					x: at.x,
					y: at.y
				};
				return;
			}
			if (hit) {
				const wasSelected = bench.anchors.has(hit.anchor);
				if (!wasSelected)
					bench.anchors = at.shift ? new Set([...bench.anchors, hit.anchor]) : new Set([hit.anchor]);
				bench.segment = undefined;
				const i = anchorIndex(outline, hit.anchor)!;
				this.gesture = {
					what: 'anchors',
					fromX: outline.points[ANCHOR_STRIDE * i],
					fromY: outline.points[ANCHOR_STRIDE * i + 1],
					started: false,
					x: at.x,
					y: at.y,
					pressed: hit.anchor,
					wasSelected: wasSelected && at.shift
				};
				return;
			}
			const on = bench.placeOnEntered(p.x, p.y, at.kind);
			if (on) {
				bench.segment = outline.anchors[on.segment];
				bench.anchors = new Set();
				return;
			}
		}
		this.gesture = { what: 'box', x: at.x, y: at.y, add: at.shift, started: false };
	}

	move(at: PointerAt): void {
		const { bench, gesture } = this;
		if (bench.sizing) bench.pointing = toPaper(bench.view, bench.size, at.x, at.y);
		if (gesture?.what === 'pick') {
			const px = this.onPicture(toPaper(bench.view, bench.size, at.x, at.y));
			const { sizing } = bench;
			if (!px || !sizing) return;
			const points = sizing.points.map((q, k) => (k === gesture.index ? { x: px.x, y: px.y } : q));
			bench.sizing = { ...sizing, points };
			return;
		}
		if (!gesture) {
			const p = toPaper(bench.view, bench.size, at.x, at.y);
			bench.operation?.hover(p.x, p.y);
			const hover =
				bench.enteredOutline || bench.operation || bench.sizing
					? undefined
					: bench.outlineAt(p.x, p.y, at.kind);
			if (hover !== this.hover) {
				this.hover = hover;
				this.redraw();
			}
			return;
		}
		if (gesture.what === 'pan') {
			bench.pan(at.x - gesture.x, at.y - gesture.y);
			gesture.x = at.x;
			gesture.y = at.y;
			return;
		}
		if (gesture.what === 'guide') return;
		if (gesture.what === 'lasso') {
			gesture.points.push(at.x, at.y);
			this.lasso = [...gesture.points];
			this.redraw();
			return;
		}
		if (!gesture.started) {
			if (Math.hypot(at.x - gesture.x, at.y - gesture.y) < SLOP_PX[at.kind]) return;
			gesture.started = true;
		}
		const p = toPaper(bench.view, bench.size, at.x, at.y);
		if (gesture.what === 'move picture' || gesture.what === 'turn picture') this.movePicture(gesture, p, at);
		else if (gesture.what === 'anchors') {
			const start = toPaper(bench.view, bench.size, gesture.x, gesture.y);
			const d = at.shift ? locked(p.x - start.x, p.y - start.y) : { x: p.x - start.x, y: p.y - start.y };
			bench.hold((o) => moveAnchors(o, bench.anchors, d.x, d.y));
		} else if (gesture.what === 'handle') {
			const { anchor, side } = gesture;
			bench.hold((o) => {
				let q = p;
				if (at.shift) {
					const i = anchorIndex(o, anchor) ?? 0;
					const ax = o.points[ANCHOR_STRIDE * i];
					const ay = o.points[ANCHOR_STRIDE * i + 1];
					const d = locked(p.x - ax, p.y - ay);
					q = { x: ax + d.x, y: ay + d.y };
				}
				return placeHandle(o, anchor, side, q.x, q.y, at.alt);
			});
		} else {
			this.box = { x0: gesture.x, y0: gesture.y, x1: at.x, y1: at.y };
			this.redraw();
		}
	}

	up(at: PointerAt): void {
		const { bench, gesture } = this;
		this.gesture = undefined;
		if (!gesture) return;
		const p = toPaper(bench.view, bench.size, at.x, at.y);
		if (gesture.what === 'pan') {
			const { tapX, tapY } = gesture;
			if (tapX === undefined || tapY === undefined) return;
			if (Math.hypot(at.x - tapX, at.y - tapY) < SLOP_PX[at.kind]) bench.operation?.tap(p.x, p.y);
			return;
		}
		if (gesture.what === 'pick') return;
		if (gesture.what === 'move picture' || gesture.what === 'turn picture') {
			bench.releasePicture(gesture.what === 'move picture' ? 'Move picture' : 'Turn picture');
			return;
		}
		if (gesture.what === 'lasso') {
			this.lasso = undefined;
			const places: number[] = [];
			for (let i = 0; i < gesture.points.length; i += 2) {
				const q = toPaper(bench.view, bench.size, gesture.points[i], gesture.points[i + 1]);
				places.push(q.x, q.y);
			}
			bench.operation?.lassoed(places);
			this.redraw();
			return;
		}
		if (gesture.what === 'guide') {
			const inside = gesture.level ? at.y > RULER_PX : at.x > RULER_PX;
			if (!inside) return;
			bench.commit('Put a guide', {
				put: [{ type: 'guide', id: gesture.id, rank: 1e6, x: p.x, y: p.y, angle: gesture.level ? 0 : 90 }]
			});
			return;
		}
		if (gesture.what === 'anchors') {
			if (gesture.started)
				bench.release(bench.anchors.size === 1 ? 'Move anchor' : `Move ${bench.anchors.size} anchors`);
			else if (gesture.wasSelected)
				bench.anchors = new Set([...bench.anchors].filter((id) => id !== gesture.pressed));
			else if (!at.shift) bench.anchors = new Set([gesture.pressed]);
			return;
		}
		if (gesture.what === 'handle') {
			if (gesture.started) bench.release('Move handle');
			return;
		}
		this.box = undefined;
		if (gesture.what === 'box' && bench.placing) {
			if (gesture.started) this.cropPicture(gesture.x, gesture.y, at.x, at.y);
			this.redraw();
			return;
		}
		if (bench.operation) {
			const q = toPaper(bench.view, bench.size, gesture.x, gesture.y);
			if (gesture.started) bench.operation.box(q.x, q.y, p.x, p.y);
			this.redraw();
			return;
		}
		if (gesture.what !== 'box') return;
		if (gesture.started) this.selectBox(gesture.x, gesture.y, at.x, at.y, gesture.add);
		else this.click(p, at);
		this.redraw();
	}

	/** Gives the gesture up; nothing has changed. */
	cancel(): void {
		this.gesture = undefined;
		this.box = undefined;
		this.lasso = undefined;
		this.bench.draft = undefined;
		this.bench.placed = undefined;
	}

	/** Enters the outline under the pointer; on the entered one puts an anchor there, the shape unchanged. */
	double(at: PointerAt): void {
		const { bench } = this;
		if (bench.operation || bench.sizing) return;
		const p = toPaper(bench.view, bench.size, at.x, at.y);
		const outline = bench.enteredOutline;
		if (outline) {
			if (this.anchorAt(outline, at)) return;
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

	private click(p: { x: number; y: number }, at: PointerAt): void {
		const { bench } = this;
		const hit = bench.outlineAt(p.x, p.y, at.kind);
		if (bench.enteredOutline) {
			if (hit && hit.id !== bench.entered) bench.select([hit.id]);
			else if (bench.anchors.size || bench.segment !== undefined) {
				bench.anchors = new Set();
				bench.segment = undefined;
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
		const a = toPaper(bench.view, bench.size, Math.min(x0, x1), Math.max(y0, y1));
		const b = toPaper(bench.view, bench.size, Math.max(x0, x1), Math.min(y0, y1));
		const outline = bench.enteredOutline;
		if (outline) {
			const inside = new Set(add ? bench.anchors : []);
			outline.anchors.forEach((id, i) => {
				const x = outline.points[ANCHOR_STRIDE * i];
				const y = outline.points[ANCHOR_STRIDE * i + 1];
				if (x >= a.x && x <= b.x && y >= a.y && y <= b.y) inside.add(id);
			});
			bench.segment = undefined;
			bench.anchors = inside;
			return;
		}
		const { outlines, paths } = bench.pickable();
		const inside = new Set(add ? bench.selected : []);
		for (const i of paths.within(a.x, a.y, b.x, b.y)) {
			const box = boxOf(resolve(outlines[i]));
			if (box.x0 >= a.x && box.x1 <= b.x && box.y0 >= a.y && box.y1 <= b.y) inside.add(outlines[i].id);
		}
		bench.select(inside);
	}

	/**
	 * The anchor or handle under the pointer; handles of the selected ones come first, so that they can be
	 * reached; with Shift, which adds anchors to the selection, the anchors do.
	 */
	private anchorAt(outline: Outline, at: PointerAt): Anchored | undefined {
		const { bench } = this;
		const reach = REACH_PX[at.kind];
		const n = outline.anchors.length;
		let best: Anchored | undefined;
		let bestPx = reach;
		const consider = (x: number, y: number, what: Anchored, bonus = 0) => {
			const s = toScreen(bench.view, bench.size, x, y);
			const d = Math.hypot(s.x - at.x, s.y - at.y) - bonus;
			if (d < bestPx) {
				bestPx = d;
				best = what;
			}
		};
		const first = at.shift ? -4 : 2;
		const p = outline.points;
		for (let i = 0; i < n; i++) {
			const a = ANCHOR_STRIDE * i;
			const id = outline.anchors[i];
			consider(p[a], p[a + 1], { anchor: id });
			if (!bench.anchors.has(id) || bench.anchors.size > 40) continue;
			const open = !outline.closed;
			if (
				segmentTypeOf(outline, i) === CUBIC &&
				!(open && i === n - 1) &&
				(p[a + 4] !== p[a] || p[a + 5] !== p[a + 1])
			) {
				consider(p[a + 4], p[a + 5], { anchor: id, side: 'out' }, first);
			}
			if (
				segmentTypeOf(outline, (i + n - 1) % n) === CUBIC &&
				!(open && i === 0) &&
				(p[a + 2] !== p[a] || p[a + 3] !== p[a + 1])
			) {
				consider(p[a + 2], p[a + 3], { anchor: id, side: 'in' }, first);
			}
		}
		return best;
	}

	/** Picks a place on the picture that is being sized; a press on one that is picked takes hold of it. */
	private pickForSize(p: { x: number; y: number }, at: PointerAt): void {
		const { bench } = this;
		const sizing = bench.sizing!;
		const px = this.onPicture(p);
		if (!px) {
			bench.tell('That is beside the picture. Pick a point on it.');
			return;
		}
		const most = sizing.purpose === 'corners' ? 4 : 2;
		const reach = bench.reach(at.kind) * px.scale * 1.5;
		const held = sizing.points.findIndex((q) => Math.hypot(q.x - px.x, q.y - px.y) < reach);
		if (held >= 0 && (sizing.purpose === 'corners' || sizing.points.length === most)) {
			this.gesture = { what: 'pick', index: held };
			return;
		}
		if (sizing.purpose === 'corners' && sizing.points.length === most) {
			bench.tell('Pull a corner to where it belongs.');
			return;
		}
		const here = { x: px.x, y: px.y };
		const points = sizing.points.length >= most ? [here] : [...sizing.points, here];
		if (
			most === 2 &&
			points.length === 2 &&
			Math.hypot(points[1].x - points[0].x, points[1].y - points[0].y) < 2
		) {
			bench.tell('The two points are too close together to measure by. Pick two that are far apart.');
			return;
		}
		bench.sizing = { ...sizing, points };
		if (sizing.purpose === 'level' && points.length === 2) bench.levelPicture();
	}

	/** A place of the paper in the pixels of the picture that is being sized. */
	private onPicture(p: { x: number; y: number }): { x: number; y: number; scale: number } | undefined {
		const reference = this.bench.references.find((r) => r.id === this.bench.sizing?.reference);
		if (!reference || !isOnReference(reference, p.x, p.y)) return undefined;
		return { ...onPicture(reference, p.x, p.y), scale: scaleOf(reference) };
	}

	/** Takes hold of the picture in hand: at its knob to turn it, elsewhere to move it, with Shift to crop it. */
	private takePicture(p: { x: number; y: number }, at: PointerAt): void {
		const { bench } = this;
		const reference = bench.placedReference!;
		const corners = frameOf(reference).map((q) => toScreen(bench.view, bench.size, q.x, q.y));
		const knob = turnKnob(corners);
		if (Math.hypot(knob.x - at.x, knob.y - at.y) < REACH_PX[at.kind] + 4) {
			this.gesture = { what: 'turn picture', x: at.x, y: at.y, from: reference, started: false };
			return;
		}
		if (at.shift) {
			this.gesture = { what: 'box', x: at.x, y: at.y, add: false, started: false };
			return;
		}
		if (isOnReference(reference, p.x, p.y)) {
			this.gesture = { what: 'move picture', x: at.x, y: at.y, from: reference, started: false };
			return;
		}
		const other = bench.referenceAt(p.x, p.y);
		if (other) bench.placing = other.id;
		else this.gesture = { what: 'pan', x: at.x, y: at.y };
	}

	private movePicture(
		gesture: Extract<Gesture, { what: 'move picture' | 'turn picture' }>,
		p: { x: number; y: number },
		at: PointerAt
	): void {
		const { bench } = this;
		const { from } = gesture;
		const start = toPaper(bench.view, bench.size, gesture.x, gesture.y);
		if (gesture.what === 'move picture') {
			const d = at.shift ? locked(p.x - start.x, p.y - start.y) : { x: p.x - start.x, y: p.y - start.y };
			bench.placed = { ...from, x: from.x + d.x, y: from.y + d.y };
			return;
		}
		const middle = middleOf(from);
		const angleOf = (q: { x: number; y: number }) => Math.atan2(q.y - middle.y, q.x - middle.x);
		const by = ((angleOf(p) - angleOf(start)) * 180) / Math.PI;
		bench.placed = turned(from, at.shift ? 15 * Math.round(by / 15) : by, middle);
	}

	/** Crops the picture in hand to a box of the window. */
	private cropPicture(x0: number, y0: number, x1: number, y1: number): void {
		const { bench } = this;
		const reference = bench.placedReference;
		if (!reference) return;
		const places = [
			[x0, y0],
			[x1, y0],
			[x1, y1],
			[x0, y1]
		].map(([x, y]) => {
			const p = toPaper(bench.view, bench.size, x, y);
			return onPicture(reference, p.x, p.y);
		});
		const clamp = (v: number, most: number) => Math.min(most, Math.max(0, Math.round(v)));
		const left = clamp(Math.min(...places.map((p) => p.x)), reference.widthPx);
		const right = clamp(Math.max(...places.map((p) => p.x)), reference.widthPx);
		const top = clamp(Math.min(...places.map((p) => p.y)), reference.heightPx);
		const bottom = clamp(Math.max(...places.map((p) => p.y)), reference.heightPx);
		if (right - left < 2 || bottom - top < 2) {
			bench.tell('That box holds nothing of the picture.');
			return;
		}
		bench.commit('Crop picture', {
			put: [{ ...reference, crop: { x: left, y: top, w: right - left, h: bottom - top } }]
		});
	}
}

/** The nearest of level, plumb and 45 degrees. */
function locked(dx: number, dy: number): { x: number; y: number } {
	const angle = Math.round(Math.atan2(dy, dx) / (Math.PI / 4)) * (Math.PI / 4);
	const c = Math.cos(angle);
	const s = Math.sin(angle);
	const along = dx * c + dy * s;
	return { x: Math.abs(c) < 1e-9 ? 0 : along * c, y: Math.abs(s) < 1e-9 ? 0 : along * s };
}
