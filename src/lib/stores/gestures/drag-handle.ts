/** A handle dragged: freely, with its direction or its length kept, or alone. */
import { handleAt, placeOfAnchor, type Outline, type Side } from '../../core/document/outline';
import type { Point } from '../../core/geometry/point';
import { guideThrough, MeasuredDrag, type Holding } from './gesture';
import type { PointerAt } from './pointer';

export class DragHandle extends MeasuredDrag {
	private readonly from: Point;
	/** Moves without its partner. */
	private alone = false;
	/** Where the handle ended before, from its anchor, mm. */
	private readonly before: Point;

	constructor(
		hand: Holding,
		pressed: PointerAt,
		private readonly outline: Outline,
		private readonly anchor: number,
		private readonly side: Side
	) {
		super(hand, pressed);
		this.from = placeOfAnchor(outline, anchor)!;
		const k = handleAt(outline.anchors.indexOf(anchor), side);
		this.before = { x: outline.points[k] - this.from.x, y: outline.points[k + 1] - this.from.y };
	}

	protected drag(p: Point, at: PointerAt): void {
		this.alone = at.alt;
		this.bench.gripped = 'handle';
		const { from, before } = this;
		const [dx, dy] = [p.x - from.x, p.y - from.y];
		const length = Math.hypot(before.x, before.y);
		if (at.shift && !at.ctrl && length > 0) {
			// Its direction stays: only its length follows.
			const along = Math.max(0, (dx * before.x + dy * before.y) / length);
			this.bench.bound = [guideThrough(from, before.x, before.y)];
			this.applyTold((before.x / length) * along, (before.y / length) * along, at);
			return;
		}
		if (at.ctrl && !at.shift && length > 0) {
			// Its length stays: it only turns.
			const far = Math.hypot(dx, dy);
			this.bench.bound = [];
			if (far > 0) this.applyTold((dx / far) * length, (dy / far) * length, at);
			return;
		}
		this.applyFrom(from, dx, dy, at);
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
