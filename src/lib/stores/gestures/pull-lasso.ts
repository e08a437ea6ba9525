/** A line drawn round what it picks. */
import type { Point } from '../../core/geometry/point';
import type { Gesture, Holding } from './gesture';
import type { PointerAt } from './pointer';
import { pickAnchorsInside } from './pull-box';

export class PullLasso implements Gesture {
	/** px of the window, x y. */
	private readonly drawn: number[];
	/** mm on the paper, x y. */
	private readonly places: number[];

	constructor(
		private readonly hand: Holding,
		p: Point,
		pressed: PointerAt,
		private readonly add: boolean
	) {
		this.drawn = [pressed.x, pressed.y];
		this.places = [p.x, p.y];
	}
	move(p: Point, at: PointerAt): void {
		this.drawn.push(at.x, at.y);
		this.places.push(p.x, p.y);
		this.hand.lasso = [...this.drawn];
		this.hand.redraw();
	}
	up(): void {
		const { bench } = this.hand;
		this.hand.lasso = undefined;
		if (bench.operation) bench.operation.lassoed(this.places);
		else pickAnchorsInside(bench, this.places, this.add);
		this.hand.redraw();
	}
}
