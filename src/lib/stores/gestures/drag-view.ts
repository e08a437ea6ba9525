/** The paper pulled along under the window. */
import type { Point } from '../../core/geometry/point';
import type { Gesture, Holding } from './gesture';
import type { PointerAt } from './pointer';

export class DragView implements Gesture {
	constructor(
		private readonly hand: Holding,
		private last: PointerAt
	) {}

	move(_p: Point, at: PointerAt): void {
		this.hand.bench.sight.pan(at.x - this.last.x, at.y - this.last.y);
		this.last = at;
	}
	up(): void {}
}
