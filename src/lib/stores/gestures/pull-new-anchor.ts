/** A double press on a segment: an anchor is put there, the shape unchanged, and pulled at once; one step. */
import { insertAnchors, moveAnchors, setKind } from '../../core/document/edits/anchors';
import { segmentTypeOf, type Outline } from '../../core/document/outline';
import { STRAIGHT } from '../../core/geometry/path';
import type { Point } from '../../core/geometry/point';
import { MeasuredDrag, type Holding } from './gesture';
import type { PointerAt } from './pointer';

export class PullNewAnchor extends MeasuredDrag {
	private readonly made: Outline;
	/** The same, as it is pulled. */
	private readonly pulled: Outline;
	private readonly anchor: number | undefined;

	/** @param on which segment, and where on it. */
	constructor(
		hand: Holding,
		pressed: PointerAt,
		private readonly outline: Outline,
		on: { readonly segment: number; readonly t: number }
	) {
		super(hand, pressed);
		const { outline: made, added } = insertAnchors(outline, [on]);
		this.made = made;
		this.anchor = added[0];
		// Pulled out of a straight it bends it into a curve.
		this.pulled =
			segmentTypeOf(outline, on.segment) === STRAIGHT ? setKind(made, new Set(added), 'flowing') : made;
	}
	protected drag(p: Point, at: PointerAt): void {
		const { start } = this;
		this.applyFrom(start, p.x - start.x, p.y - start.y, at);
	}
	protected apply(dx: number, dy: number): void {
		const { bench, anchor, pulled, outline } = this;
		if (anchor === undefined) return;
		bench.hold((o) => (o.id === outline.id ? moveAnchors(pulled, new Set([anchor]), dx, dy) : o));
	}
	protected keep(): void {
		this.bench.release('Add anchor and pull it');
		this.pick();
	}
	protected override tap(): void {
		const { bench, made } = this;
		bench.change('Add anchor', (o) => (o.id === made.id ? made : o));
		this.pick();
	}
	private pick(): void {
		const { selection } = this.bench;
		selection.segments = new Set();
		if (this.anchor !== undefined) selection.anchors = new Set([this.anchor]);
	}
}
