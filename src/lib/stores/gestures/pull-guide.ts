/** A guide pulled out of a ruler. */
import type { Point } from '../../core/geometry/point';
import { RULER_PX } from '../../render/rulers';
import { newId } from '../ids';
import type { Gesture, Holding } from './gesture';
import type { PointerAt } from './pointer';

export class PullGuide implements Gesture {
	/** @param level whether it lies level; else it stands plumb. */
	constructor(
		private readonly hand: Holding,
		private readonly level: boolean
	) {}

	move(): void {}
	up(p: Point, at: PointerAt): void {
		if ((this.level ? at.y : at.x) <= RULER_PX) return;
		this.hand.bench.commit('Put a guide', {
			put: [{ type: 'guide', id: newId(), rank: 1e6, x: p.x, y: p.y, angle: this.level ? 0 : 90 }]
		});
	}
}
