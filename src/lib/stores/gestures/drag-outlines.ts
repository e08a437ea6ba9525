/** Whole outlines dragged, with what lies in them and the marks and guides that are picked; with Alt the outlines alone; Y leaves a copy. */
import type { Point } from '../../core/geometry/point';
import { double, movedCopies } from '../copying';
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
		const { bench } = this;
		const { carried, leavesCopy } = bench;
		bench.leavesCopy = false;
		if (!carried) return;
		if (leavesCopy) {
			bench.carried = undefined;
			bench.endDrag();
			double(bench, carried.right, carried.up);
			return;
		}
		bench.releaseCarried();
		movedCopies(bench, carried.right, carried.up);
	}
	protected override tap(p: Point, at: PointerAt): void {
		this.hand.click(p, at);
	}
}
