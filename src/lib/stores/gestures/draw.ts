/** A stroke or a click of what is drawn with. */
import type { Point } from '../../core/geometry/point';
import type { Gesture, Holding } from './gesture';
import type { PointerAt } from './pointer';

/** The pointer as what is drawn with takes it: what it catches on is shown. */
function penAt({ bench, snapping }: Holding, p: Point, at: PointerAt) {
	const snap = at.ctrl || at.shift ? undefined : snapping.snapPen(p, at);
	bench.snap = snap;
	return { ...p, shift: at.shift, alt: at.alt, reach: bench.reach(at.kind), snap };
}

/** The numbers from the last anchor to the pointer are told; typed ones are taken instead. */
function measurePen({ bench }: Holding, at: PointerAt): void {
	const { pen } = bench;
	const from = pen?.last;
	if (!pen || !from || !pen.at) {
		bench.measure = undefined;
		return;
	}
	bench.measure = {
		x: at.x,
		y: at.y,
		right: pen.at.x - from.x,
		up: pen.at.y - from.y,
		set: (right, up) => {
			pen.typed(right, up);
			bench.measure = undefined;
		}
	};
}

/** The pointer goes on while a line is being drawn. */
export function movePen(hand: Holding, p: Point, at: PointerAt, pressed: boolean): void {
	hand.bench.pen?.move(penAt(hand, p, at), pressed);
	measurePen(hand, at);
}

export class Draw implements Gesture {
	constructor(
		private readonly hand: Holding,
		p: Point,
		at: PointerAt
	) {
		hand.bench.pen?.down(penAt(hand, p, at));
		measurePen(hand, at);
	}
	move(p: Point, at: PointerAt): void {
		movePen(this.hand, p, at, true);
	}
	up(p: Point, at: PointerAt): void {
		this.hand.bench.pen?.up(penAt(this.hand, p, at));
	}
}
