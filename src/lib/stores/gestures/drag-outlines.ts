/** Whole outlines dragged, with the marks and guides that are picked with them. */
import type { Point } from '../../core/geometry/point';
import { MeasuredDrag } from './gesture';
import type { PointerAt } from './pointer';

export class DragOutlines extends MeasuredDrag {
	protected drag(p: Point, at: PointerAt): void {
		const { start } = this;
		this.applyFrom(start, p.x - start.x, p.y - start.y, at);
	}
	protected apply(right: number, up: number): void {
		this.bench.carried = { right, up };
	}
	protected keep(): void {
		this.bench.releaseCarried();
	}
	protected override tap(p: Point, at: PointerAt): void {
		this.hand.click(p, at);
	}
}
