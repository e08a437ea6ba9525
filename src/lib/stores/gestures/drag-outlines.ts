/**
 * Whole things dragged, with what lies in them and the marks and guides that are picked; they catch on others, and on a sheet others stop
 * them; with Ctrl they go through, with Alt outlines go alone, Y leaves a copy.
 */
import type { AmongOthers } from '../../core/arrange/by-hand';
import { sheetsOf } from '../../core/document/drawing';
import type { Point } from '../../core/geometry/point';
import { double, movedCopies } from '../copying';
import { MeasuredDrag, type Holding } from './gesture';
import type { PointerAt } from './pointer';

export class DragOutlines extends MeasuredDrag {
	private alone = false;
	/** The other pieces on the sheet, by which it is stopped, once they are known. */
	private among: AmongOthers | undefined;
	private last: Point = { x: 0, y: 0 };

	constructor(hand: Holding, pressed: PointerAt) {
		super(hand, pressed);
		const { bench } = hand;
		if (sheetsOf(bench.drawing).length)
			void import('../../core/arrange/by-hand').then(({ amongOthers }) => {
				this.among = amongOthers(bench.drawing, bench.selection.selected, bench.pieceGap);
			});
	}

	protected drag(p: Point, at: PointerAt): void {
		const { start } = this;
		this.alone = at.alt;
		const [right, up] = [p.x - start.x, p.y - start.y];
		const caught = at.shift ? undefined : this.hand.snapping.snapThings(right, up, at);
		const to = { x: right + (caught?.right ?? 0), y: up + (caught?.up ?? 0) };
		// On the sheet the others stop it; with Ctrl it goes through.
		this.last = this.among && !at.ctrl && !at.alt ? this.among.stopped(this.last, to) : to;
		this.applyFrom(start, this.last.x, this.last.y, at);
		if (!at.shift) this.bench.bound = caught?.lines ?? [];
		this.bench.snap = caught?.kinds.length ? { x: p.x, y: p.y, kind: caught.kinds[0] } : undefined;
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
