/** A segment pulled: bent so that it goes through the pointer, or moved as a whole. */
import { moveAnchors } from '../../core/document/edits/anchors';
import { bendSegment, moveSideways } from '../../core/document/edits/segments';
import { segmentTypeOf, sourceLine, type Outline } from '../../core/document/outline';
import { STRAIGHT } from '../../core/geometry/path';
import type { Point } from '../../core/geometry/point';
import { MeasuredDrag, type Holding } from './gesture';
import type { PointerAt } from './pointer';

export class DragSegment extends MeasuredDrag {
	private readonly from: Point;
	private readonly whole: boolean;

	/** @param on which segment, and where on it. */
	constructor(
		hand: Holding,
		pressed: PointerAt,
		private readonly outline: Outline,
		private readonly on: { readonly segment: number; readonly t: number }
	) {
		super(hand, pressed);
		this.from = this.start;
		// A straight goes whole and a curve bends; with Alt it is the other way round. Several always go together.
		this.whole = this.bench.selection.segments.size > 1 || pressed.alt !== this.isStraight;
	}
	private get isStraight(): boolean {
		return segmentTypeOf(this.outline, this.on.segment) === STRAIGHT;
	}

	protected drag(p: Point, at: PointerAt): void {
		this.applyFrom(this.from, p.x - this.from.x, p.y - this.from.y, at);
	}
	protected apply(dx: number, dy: number): void {
		const { bench, from } = this;
		const { segment, t } = this.on;
		bench.hold((o) => {
			if (o.id !== this.outline.id) return o;
			return this.whole ? this.moved(o, dx, dy) : bendSegment(o, segment, t, from.x + dx, from.y + dy);
		});
	}
	/** The picked segments moved as they are; a single straight keeps the angles beside it where sides keep their line. */
	private moved(o: Outline, dx: number, dy: number): Outline {
		const { movingWay, selection } = this.bench;
		const { segment } = this.on;
		const picked = selection.segments;
		const keepsAngles = movingWay === 'before' || movingWay === 'after';
		if (keepsAngles && picked.size === 1 && this.isStraight) {
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
	}
	/** A tap on one of several picks it alone. */
	protected override tap(_p: Point, at: PointerAt): void {
		if (!at.more) this.bench.selection.segments = new Set([this.outline.anchors[this.on.segment]]);
	}
	protected keep(): void {
		const name = this.whole ? 'Move segment' : this.isStraight ? 'Bend a straight' : 'Bend segment';
		this.bench.release(name);
	}
}
