/** A press while an operation is open: it takes the drag or the tap; what it does not take moves the view. */
import type { Point } from '../../core/geometry/point';
import { DragView } from './drag-view';
import { Drag } from './gesture';
import type { PointerAt } from './pointer';

export class DragOperation extends Drag {
	protected drag(p: Point, at: PointerAt): void {
		const { bench, start } = this;
		if (!bench.operation?.drag(start.x, start.y, p.x, p.y, bench.reach(at.kind)))
			this.hand.take(new DragView(this.hand, at));
	}
	protected end(): void {
		this.bench.operation?.dropped();
	}
	protected override tap(p: Point, at: PointerAt): void {
		this.bench.operation?.tap(p.x, p.y, this.bench.reach(at.kind));
	}
}
