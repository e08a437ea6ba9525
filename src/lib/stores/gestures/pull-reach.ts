/** How far a soft pull reaches, dragged at the peg where it ends. */
import { offAlong } from '../../core/document/edits/pulling';
import type { Point } from '../../core/geometry/point';
import type { Gesture, Holding } from './gesture';

export class PullReach implements Gesture {
	constructor(
		private readonly hand: Holding,
		private readonly side: 'before' | 'after'
	) {}

	move(p: Point): void {
		const { bench } = this.hand;
		const { enteredOutline: outline, anchors } = bench.selection;
		const [anchor] = anchors;
		const off = outline && offAlong(outline, anchor, p.x, p.y);
		if (off !== undefined)
			bench.reachAlong = { ...bench.reachAlong, [this.side]: Math.max(0.1, Math.abs(off)) };
	}
	up(): void {}
}
