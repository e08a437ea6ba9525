/** The comb's scale, dragged on the tip of a tooth. */
import type { Point } from '../../core/geometry/point';
import type { Gesture, Holding } from './gesture';
import type { PointerAt } from './pointer';

/** The comb is never shorter or longer than this share of what fits. */
const STRETCH = { least: 0.02, most: 40 };

export class PullComb implements Gesture {
	private readonly stretch: number;

	/** @param tooth its foot and how long it was, px. */
	constructor(
		private readonly hand: Holding,
		private readonly tooth: { readonly x: number; readonly y: number; readonly length: number }
	) {
		this.stretch = hand.bench.looking.stretch;
	}
	move(_p: Point, at: PointerAt): void {
		const { x, y, length } = this.tooth;
		const now = (this.stretch * Math.hypot(at.x - x, at.y - y)) / length;
		this.hand.bench.looking.stretch = Math.min(STRETCH.most, Math.max(STRETCH.least, now));
	}
	up(): void {}
}
