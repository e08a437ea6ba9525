/** Whole outlines dragged, with what lies in them and the marks and guides that are picked; with Alt the outlines alone. */
import type { Point } from '../../core/geometry/point';
import { MeasuredDrag } from './gesture';
import type { PointerAt } from './pointer';

export class DragOutlines extends MeasuredDrag {
	private alone = false;

	protected drag(p: Point, at: PointerAt): void {
		const { start } = this;
		this.alone = at.alt;
		this.applyFrom(start, p.x - start.x, p.y - start.y, at);
	}
	protected apply(right: number, up: number): void {
		this.bench.carried = { right, up, alone: this.alone };
	}
	protected keep(): void {
		this.bench.releaseCarried();
	}
	protected override tap(p: Point, at: PointerAt): void {
		this.hand.click(p, at);
	}
}
