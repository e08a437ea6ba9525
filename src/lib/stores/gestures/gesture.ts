/** What a gesture is: from a press on the surface to its letting go, one at a time. */
import type { Point } from '../../core/geometry/point';
import { lockedDirection, type GuideLine } from '../../core/document/edits/snap';
import { toPaper } from '../../render/view';
import type { Bench } from '../bench.svelte';
import type { PointerAt } from './pointer';
import type { Snapping } from './snapping';

export interface Gesture {
	/** The pointer goes on, pressed. @param p where it is on the paper, mm. */
	move(p: Point, at: PointerAt): void;
	/** The pointer is let go. */
	up(p: Point, at: PointerAt): void;
}

/** The hand that a gesture is made with. */
export interface Holding {
	readonly bench: Bench;
	readonly snapping: Snapping;
	/** The box being drawn, px. */
	box: { x0: number; y0: number; x1: number; y1: number } | undefined;
	/** The line being drawn round something, px. */
	lasso: readonly number[] | undefined;
	/** Another gesture takes over, or none. */
	take(gesture: Gesture | undefined): void;
	/** The press was a click on what lies there. */
	click(p: Point, at: PointerAt): void;
	redraw(): void;
}

/** A drag begins once the pointer has gone this far, px. */
const SLOP_PX = { mouse: 3, pen: 5, touch: 8 };

/** A gesture that is a drag once the pointer has gone far enough, and a tap until then. */
export abstract class Drag implements Gesture {
	protected started = false;

	constructor(
		protected readonly hand: Holding,
		protected readonly pressed: PointerAt
	) {}

	protected get bench(): Bench {
		return this.hand.bench;
	}
	/** Where it began on the paper, mm. */
	protected get start(): Point {
		return toPaper(this.bench.sight.view, this.bench.sight.size, this.pressed.x, this.pressed.y);
	}

	move(p: Point, at: PointerAt): void {
		const { x, y } = this.pressed;
		if (!this.started) {
			if (Math.hypot(at.x - x, at.y - y) < SLOP_PX[at.kind]) return;
			this.started = true;
			this.bench.selection.under = undefined;
		}
		this.drag(p, at);
	}
	up(p: Point, at: PointerAt): void {
		if (this.started) this.end(p, at);
		else this.tap(p, at);
	}

	protected abstract drag(p: Point, at: PointerAt): void;
	protected abstract end(p: Point, at: PointerAt): void;
	/** It was no drag. */
	protected tap(_p: Point, _at: PointerAt): void {}
}

/** A drag whose numbers are told at the pointer; typed ones are applied instead and end it. */
export abstract class MeasuredDrag extends Drag {
	/** mm to the right and up from where it began. */
	protected abstract apply(right: number, up: number): void;
	/** What was applied stays. */
	protected abstract keep(): void;

	protected end(): void {
		this.keep();
	}

	/** Applies a drag from a place; with Shift locked to level, plumb or 45 degrees, the line that binds it shows. */
	protected applyFrom(from: Point, dx: number, dy: number, at: PointerAt): void {
		const { bench } = this;
		bench.bound = [];
		let d = { x: dx, y: dy };
		if (at.shift) {
			d = lockedDirection(dx, dy);
			bench.bound = [guideThrough(from, d.x, d.y)];
		}
		this.applyTold(d.x, d.y, at);
	}
	protected applyTold(right: number, up: number, at: PointerAt): void {
		this.apply(right, up);
		this.bench.measure = {
			x: at.x,
			y: at.y,
			right,
			up,
			set: (typedRight, typedUp) => {
				this.apply(typedRight, typedUp);
				this.hand.take(undefined);
				this.keep();
			}
		};
	}
}

/** The guide line through a place in a direction. */
export function guideThrough(p: Point, dx: number, dy: number): GuideLine {
	return { x: p.x, y: p.y, angle: (Math.atan2(dy, dx) * 180) / Math.PI };
}
