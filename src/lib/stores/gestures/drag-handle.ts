/** A handle dragged. */
import { placeOfAnchor, type Outline, type Side } from '../../core/document/outline';
import type { Point } from '../../core/geometry/point';
import { MeasuredDrag, type Holding } from './gesture';
import type { PointerAt } from './pointer';

export class DragHandle extends MeasuredDrag {
	private readonly from: Point;
	/** Moves without its partner. */
	private alone = false;

	constructor(
		hand: Holding,
		pressed: PointerAt,
		private readonly outline: Outline,
		private readonly anchor: number,
		private readonly side: Side
	) {
		super(hand, pressed);
		this.from = placeOfAnchor(outline, anchor)!;
	}

	protected drag(p: Point, at: PointerAt): void {
		this.alone = at.alt;
		this.applyFrom(this.from, p.x - this.from.x, p.y - this.from.y, at);
	}
	protected apply(right: number, up: number): void {
		const { bench, outline, anchor, side, from } = this;
		bench.hold((o) =>
			o.id === outline.id ? bench.withHandle(o, anchor, side, from.x + right, from.y + up, this.alone) : o
		);
	}
	protected keep(): void {
		this.bench.release('Move handle');
	}
}
