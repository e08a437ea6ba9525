/** A box drawn over what it picks: outlines, anchors, what an operation or a picture takes. A tap is a click. */
import { anchorsInside } from '../../core/document/edits/selecting';
import { lineOf } from '../../core/document/outline';
import { shownMarks } from '../../core/document/output';
import { boxOfRepeat, shownRepeats } from '../../core/document/repeats';
import type { Point } from '../../core/geometry/point';
import { boxOf } from '../../core/geometry/pick';
import type { Bench } from '../bench.svelte';
import { Drag, type Holding } from './gesture';
import type { PointerAt } from './pointer';

/** What a box is drawn for: its two opposite corners, mm; a tap instead of it. */
export interface BoxTaker {
	taken(a: Point, b: Point): void;
	tapped?(p: Point, at: PointerAt): void;
}

export class PullBox extends Drag {
	constructor(
		hand: Holding,
		pressed: PointerAt,
		private readonly taker: BoxTaker
	) {
		super(hand, pressed);
	}
	protected drag(_p: Point, at: PointerAt): void {
		this.hand.box = { x0: this.pressed.x, y0: this.pressed.y, x1: at.x, y1: at.y };
		this.hand.redraw();
	}
	protected end(p: Point): void {
		this.hand.box = undefined;
		this.taker.taken(this.start, p);
		this.hand.redraw();
	}
	protected override tap(p: Point, at: PointerAt): void {
		this.taker.tapped?.(p, at);
		this.hand.redraw();
	}
}

/** Picks the anchors of the entered outlines that lie in a polygon of places x y. */
export function pickAnchorsInside({ selection }: Bench, places: readonly number[], add: boolean): void {
	selection.segments = new Set();
	for (const outline of selection.enteredOutlines) {
		const inside = anchorsInside(outline, places);
		selection.pickAnchors(outline.id, new Set([...(add ? selection.anchorsOf(outline.id) : []), ...inside]));
	}
}

/** Picks what lies wholly in a box: anchors where outlines are entered, else outlines and marks. */
export function pickInBox(bench: Bench, p: Point, q: Point, add: boolean): void {
	const [x0, x1] = [Math.min(p.x, q.x), Math.max(p.x, q.x)];
	const [y0, y1] = [Math.min(p.y, q.y), Math.max(p.y, q.y)];
	if (bench.selection.enteredOutline) {
		pickAnchorsInside(bench, [x0, y0, x1, y0, x1, y1, x0, y1], add);
		return;
	}
	const { outlines, paths } = bench.pickable();
	const inside = new Set(add ? bench.selection.selected : []);
	for (const i of paths.within(x0, y0, x1, y1)) {
		const box = boxOf(lineOf(outlines[i]));
		if (box.x0 >= x0 && box.x1 <= x1 && box.y0 >= y0 && box.y1 <= y1) inside.add(outlines[i].id);
	}
	for (const mark of shownMarks(bench.drawing))
		if (mark.x >= x0 && mark.x <= x1 && mark.y >= y0 && mark.y <= y1) inside.add(mark.id);
	for (const repeat of shownRepeats(bench.drawing)) {
		const box = boxOfRepeat(bench.drawing, repeat);
		if (box.x0 >= x0 && box.x1 <= x1 && box.y0 >= y0 && box.y1 <= y1) inside.add(repeat.id);
	}
	bench.select(inside);
}
