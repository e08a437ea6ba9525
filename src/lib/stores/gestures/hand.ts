/** What the pointer does on the surface: which gesture a press begins, what lies under it, clicks, double clicks, the menu. */
import type { Point } from '../../core/geometry/point';
import type { Repeat } from '../../core/document/drawing';
import { unitOf } from '../../core/document/groups';
import type { Outline } from '../../core/document/outline';
import { RULER_PX } from '../../render/rulers';
import { toPaper } from '../../render/view';
import type { Bench } from '../bench.svelte';
import { offerApart } from '../repeating';
import { DragAnchors } from './drag-anchors';
import { DragHandle } from './drag-handle';
import { DragOperation } from './drag-operation';
import { DragPlace, pressGiven } from './drag-place';
import { DragOutlines } from './drag-outlines';
import { DragSegment } from './drag-segment';
import { DragView } from './drag-view';
import { Draw, movePen } from './draw';
import type { Gesture, Holding } from './gesture';
import { pressPlace } from './pick-places';
import { Picking } from './picking';
import { pressPicture } from './place-picture';
import type { PointerAt } from './pointer';
import { PullBox, pickInBox } from './pull-box';
import { PullComb } from './pull-comb';
import { PullGuide } from './pull-guide';
import { PullLasso } from './pull-lasso';
import { PullNewAnchor } from './pull-new-anchor';
import { PullReach } from './pull-reach';
import { Snapping } from './snapping';

export class Hand implements Holding {
	private gesture: Gesture | undefined;
	private readonly picking: Picking;
	readonly snapping: Snapping;
	box: Holding['box'];
	lasso: Holding['lasso'];
	hover: Outline | undefined;

	constructor(
		readonly bench: Bench,
		readonly redraw: () => void
	) {
		this.picking = new Picking(bench);
		this.snapping = new Snapping(bench);
	}

	get busy(): boolean {
		return this.gesture !== undefined;
	}
	take(gesture: Gesture | undefined): void {
		this.gesture = gesture;
	}

	/** The second press of a double one began a gesture that answers it. */
	private doubled = false;

	down(at: PointerAt): void {
		this.bench.menu = undefined;
		if (!at.second) this.doubled = false;
		this.gesture = this.begun(this.paper(at), at);
	}

	/** The gesture that a press begins. */
	private begun(p: Point, at: PointerAt): Gesture | undefined {
		const { bench } = this;
		if (at.panning || at.button !== 0) return new DragView(this, at);
		if ((at.x < RULER_PX || at.y < RULER_PX) && at.kind === 'mouse' && !bench.readOnly)
			return new PullGuide(this, at.y < RULER_PX);
		if (bench.pictures.sizing) return pressPlace(this, p, at);
		if (bench.pictures.placing) return pressPicture(this, p, at);
		if (bench.pen) return new Draw(this, p, at);
		if (bench.operation) return this.onOperation(p, at);
		const peg = this.picking.pegAt(at);
		if (peg) return new PullReach(this, peg);
		const { enteredOutline } = bench.selection;
		const ofGiven = bench.selection.given && pressGiven(this, p, at);
		if (ofGiven) return ofGiven;
		const ofEntered = enteredOutline && !bench.selection.given && this.onEntered(p, at);
		if (ofEntered) return ofEntered;
		const tooth = this.picking.toothAt(at);
		if (tooth) return new PullComb(this, tooth);
		if (at.alt && enteredOutline) return new PullLasso(this, p, at, at.more);
		if (!enteredOutline && !at.shift) {
			const hits = [
				bench.spotAt(p.x, p.y, at.kind),
				bench.outlineAt(p.x, p.y, at.kind),
				bench.copyAt(p.x, p.y, at.kind)?.repeat
			];
			if (hits.some((h) => h && bench.selection.selected.has(h.id))) return new DragOutlines(this, at);
		}
		// With a finger a selected anchor is dragged from anywhere, so that the finger does not cover it.
		const [pressed] = bench.selection.anchors;
		const { place } = bench.selection;
		if (at.kind === 'touch' && bench.selection.given && place !== undefined)
			return new DragPlace(this, at, place);
		if (at.kind === 'touch' && enteredOutline && pressed !== undefined && !at.more)
			return new DragAnchors(this, at, enteredOutline, pressed, false, false);
		return new PullBox(this, at, {
			taken: (a, b) => pickInBox(bench, a, b, at.more),
			tapped: (q, upAt) => this.click(q, upAt)
		});
	}

	private onOperation(p: Point, at: PointerAt): Gesture {
		const { bench } = this;
		if (at.alt) return new PullLasso(this, p, at, false);
		if (!at.shift) return new DragOperation(this, at);
		return new PullBox(this, at, { taken: (a, b) => bench.operation?.box(a.x, a.y, b.x, b.y) });
	}

	/** Takes hold of an anchor, a handle or a segment of an entered outline; undefined where nothing is under the pointer. */
	private onEntered(p: Point, at: PointerAt): Gesture | undefined {
		const { bench } = this;
		const { selection } = bench;
		const hit = this.picking.pickAt(p, at, true);
		if (!hit) return undefined;
		selection.takeInHand(hit.outline);
		const outline = selection.enteredOutline!;
		if (hit.side) return new DragHandle(this, at, outline, hit.anchor, hit.side);
		if (!hit.isSegment) {
			const selected = selection.anchorsOf(outline.id);
			const wasSelected = selected.has(hit.anchor);
			if (!wasSelected) {
				if (at.more) selection.pickAnchors(outline.id, new Set([...selected, hit.anchor]));
				else selection.anchors = new Set([hit.anchor]);
			}
			if (!at.more) selection.segments = new Set();
			return new DragAnchors(this, at, outline, hit.anchor, wasSelected && at.more);
		}
		const on = bench.placeOnEntered(p.x, p.y, at.kind);
		if (!on) return undefined;
		if (at.second && at.kind !== 'touch' && !at.more) {
			this.doubled = true;
			return new PullNewAnchor(this, at, outline, on);
		}
		// Several that are picked are dragged together.
		const together = !at.more && selection.segments.size > 1 && selection.segments.has(hit.anchor);
		const next = new Set(at.more || together ? selection.segments : []);
		if (!(at.more && next.delete(hit.anchor))) next.add(hit.anchor);
		if (!at.more) selection.anchors = new Set();
		selection.segments = next;
		return new DragSegment(this, at, outline, on);
	}

	move(at: PointerAt): void {
		const { bench } = this;
		const p = this.paper(at);
		if (bench.pictures.sizing) bench.pictures.pointing = p;
		if (this.gesture) this.gesture.move(p, at);
		else if (bench.pen) movePen(this, p, at, false);
		else this.hoverOver(p, at);
	}

	up(at: PointerAt): void {
		const { gesture } = this;
		this.gesture = undefined;
		gesture?.up(this.paper(at), at);
	}

	/** What would be picked is shown before it is. */
	private hoverOver(p: Point, at: PointerAt): void {
		const { bench } = this;
		const { selection } = bench;
		bench.operation?.hover(p.x, p.y, bench.reach(at.kind));
		bench.looking.hover(p.x, p.y, bench.reach(at.kind));
		if (selection.enteredOutline && !selection.given && !bench.operation) {
			const under = this.picking.pickAt(p, at, false);
			const was = selection.under;
			if (
				under?.anchor !== was?.anchor ||
				under?.side !== was?.side ||
				under?.isSegment !== was?.isSegment ||
				under?.outline !== was?.outline
			)
				selection.under = under;
		}
		const hover =
			selection.enteredOutline || bench.operation || bench.pictures.sizing || bench.pictures.placing
				? undefined
				: bench.outlineAt(p.x, p.y, at.kind);
		if (hover !== this.hover) {
			this.hover = hover;
			this.redraw();
		}
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

	/** Enters the outline under the pointer, or leaves what is entered; a second press on its line is answered by its own gesture. */
	double(at: PointerAt): void {
		const { bench } = this;
		const { selection } = bench;
		if (bench.pen) {
			bench.pen.finish();
			return;
		}
		if (this.doubled || at.more || bench.operation || bench.pictures.sizing || bench.pictures.placing) return;
		const p = this.paper(at);
		if (selection.enteredOutline && this.picking.pickAt(p, at, false)) return;
		const hit = bench.outlineAt(p.x, p.y, at.kind);
		if (!hit) {
			const copy = bench.copyAt(p.x, p.y, at.kind);
			if (copy) offerApart(bench, copy);
			else bench.leave();
			return;
		}
		const group = unitOf(bench.drawing, hit.id, selection.groupIn);
		if (group) {
			bench.enterGroup(group.id);
			bench.select([hit.id]);
			return;
		}
		bench.enter(hit.id);
		// Who goes in at an anchor means it.
		const under = selection.given ? undefined : this.picking.pickAt(p, at, false);
		if (under && !under.isSegment && !under.side) selection.anchors = new Set([under.anchor]);
	}

	/** Selects what is under the pointer and opens the menu beside it. */
	menuAt(at: PointerAt): void {
		const { bench } = this;
		const { selection } = bench;
		this.cancel();
		if (bench.operation || bench.pictures.sizing || bench.pictures.placing || bench.pen) return;
		const p = this.paper(at);
		const hit = selection.enteredOutline && !selection.given ? this.picking.pickAt(p, at, false) : undefined;
		if (hit) {
			selection.takeInHand(hit.outline);
			if (hit.isSegment) {
				selection.anchors = new Set();
				selection.segments = new Set([hit.anchor]);
			} else if (!selection.anchors.has(hit.anchor)) selection.anchors = new Set([hit.anchor]);
		} else if (!selection.enteredOutline) {
			const thing = bench.outlineAt(p.x, p.y, at.kind) ?? this.copyUnder(p, at);
			if (thing && !selection.selected.has(thing.id)) bench.select([thing.id]);
		}
		bench.menu = { x: at.x, y: at.y };
	}

	click(p: Point, at: PointerAt): void {
		const { bench } = this;
		const { selection } = bench;
		const hits = bench.outlinesAt(p.x, p.y, at.kind);
		const line = hits.length ? hits[this.picking.turnOf(at) % hits.length] : undefined;
		const spot = bench.spotAt(p.x, p.y, at.kind);
		// A mark is smaller than a line and wins; a guide lies under everything.
		const hit = spot?.type === 'mark' ? spot : (line ?? this.copyUnder(p, at) ?? spot);
		if (selection.enteredOutline) {
			if (line && !selection.enteredIds.includes(line.id)) bench.select([line.id]);
			else if (selection.picked.size || selection.segments.size || selection.place !== undefined) {
				selection.place = undefined;
				selection.anchors = new Set();
				selection.segments = new Set();
			} else bench.leave();
			return;
		}
		if (!hit) {
			if (at.shift) return;
			// A second press beside everything leaves the group.
			if (selection.selected.size === 0) bench.leaveGroup();
			bench.select([]);
			return;
		}
		if (at.more) {
			const isIn = selection.selected.has(hit.id);
			const unit = selection.whole([hit.id]);
			bench.select(
				isIn ? [...selection.selected].filter((id) => !unit.has(id)) : [...selection.selected, ...unit]
			);
		} else bench.select([hit.id]);
	}

	/** The repeat of which a copy lies under the pointer; which one it is, is kept for what is done with it. */
	private copyUnder(p: Point, at: PointerAt): Repeat | undefined {
		const copy = this.bench.copyAt(p.x, p.y, at.kind);
		this.bench.selection.copy = copy && { repeat: copy.repeat.id, place: copy.place };
		return copy?.repeat;
	}

	private paper(at: PointerAt): Point {
		return toPaper(this.bench.sight.view, this.bench.sight.size, at.x, at.y);
	}
}
