/** A line made symmetrical: one half stays and is drawn, the other follows; or the axis of one that is, moved. */
import type { Drawing } from '../../core/document/drawing';
import {
	madeSymmetrical,
	sideDrawn,
	withAxis,
	type AxisJoint,
	type KeptSide
} from '../../core/document/edits/symmetry';
import { ownAxis } from '../../core/document/edits/own-axis';
import { transformOutline } from '../../core/document/edits/transform';
import { isFollower } from '../../core/document/graph';
import type { Half } from '../../core/document/half';
import type { Edit } from '../../core/document/history';
import { isClosed, lineOf, sourceLine, type Outline } from '../../core/document/outline';
import { toProblem } from '../../core/errors';
import { meantDirection, moveBy } from '../../core/geometry/maps';
import { twoWayDistance } from '../../core/geometry/edge-tree';
import { boxOf } from '../../core/geometry/pick';
import { drawAxis } from '../../render/marks';
import type { SurfaceLook } from '../../render/scene';
import { nextRequest } from '../../workers/geometry.client';
import type { Bench } from '../bench.svelte';
import { layOn } from './laying-on';
import { Operation, type AfterKeeping } from './operation.svelte';

export class SymmetryOperation extends Operation {
	readonly kind = 'symmetry';
	axis: Half = $state.raw({ x: 0, y: 0, angle: 90 });
	side = $state<KeptSide>('right');
	joint = $state<AxisJoint>('by angle');
	/** The half goes along when the axis of one is moved; else it stays and its ends alone go to the axis. */
	along = $state(true);
	/** mm by which the other half of a whole goes at most. */
	drift = $state<number | undefined>();
	readonly outlines: readonly Outline[];
	private made: Outline | undefined;
	private grip: Half | undefined;

	constructor(readonly outline: Outline) {
		super();
		this.outlines = [outline];
		this.axis = outline.half ?? axisFor(outline);
		this.side = sideDrawn(outline, this.axis);
	}
	get isHalf(): boolean {
		return this.outline.half !== undefined;
	}
	get name(): string {
		return this.isHalf ? 'Move the axis' : 'Make symmetrical';
	}
	protected run(): Promise<void> {
		this.request = nextRequest();
		this.busy = false;
		try {
			this.made = this.halved();
			this.problem = undefined;
			this.preview = [lineOf(this.made)];
			// Of a whole, how far the other half goes from where it was.
			const isWhole = !this.isHalf && isClosed(this.outline);
			const old = [lineOf(this.outline)];
			const { distance, x, y } = isWhole
				? twoWayDistance(old, this.preview, 0.005, 0.5)
				: { distance: 0, x: 0, y: 0 };
			this.drift = isWhole ? distance : undefined;
			this.worst = distance > 0 ? { x, y, off: distance } : undefined;
		} catch (error) {
			this.made = undefined;
			this.fail(toProblem(error));
		}
		return Promise.resolve();
	}
	private halved(): Outline {
		const { outline, axis, side, joint } = this;
		const { half } = outline;
		if (!half) return madeSymmetrical(outline, axis, side, joint);
		if (!this.along || half.angle !== axis.angle) return withAxis(outline, axis);
		return transformOutline(outline, moveBy(axis.x - half.x, axis.y - half.y));
	}
	/** The axis about which the line is its own mirror image as nearly as may be. */
	findAxis(): void {
		this.axis = ownAxis(lineOf(this.outline));
		this.change(0);
	}
	put(changed: Partial<Half>): void {
		this.axis = { ...this.axis, ...changed };
		this.change(0);
	}
	override get replaced(): ReadonlySet<string> {
		return new Set([this.outline.id]);
	}
	override get hint(): string {
		return this.isHalf
			? 'Drag to move the axis. Enter keeps it, Esc leaves it.'
			: 'Drag along the line where the halves are to meet; press a half to keep it. Enter keeps it, Esc leaves it.';
	}
	override get nothing(): string | undefined {
		return this.made === this.outline ? 'The axis lies there already.' : undefined;
	}
	override get over() {
		const { axis } = this;
		return (c: CanvasRenderingContext2D, look: SurfaceLook) => drawAxis(c, look, axis, look.palette.madder);
	}
	/** A press on a half: that one stays. */
	override tap(x: number, y: number): void {
		if (this.isHalf) return;
		const { axis } = this;
		const rad = (axis.angle * Math.PI) / 180;
		this.side = (y - axis.y) * Math.cos(rad) - (x - axis.x) * Math.sin(rad) >= 0 ? 'left' : 'right';
		this.change(0);
	}
	override drag(fromX: number, fromY: number, x: number, y: number): boolean {
		this.grip ??= this.axis;
		if (this.isHalf) {
			this.put({ x: this.grip.x + x - fromX, y: this.grip.y + y - fromY });
			return true;
		}
		this.put({ x: fromX, y: fromY, angle: meantDirection({ x: fromX, y: fromY }, { x, y }) });
		return true;
	}
	override dropped(): void {
		this.grip = undefined;
	}
	edit(_drawing: Drawing): Edit {
		return this.made ? { put: [this.made] } : {};
	}
	override kept(bench: AfterKeeping): void {
		bench.selection.letGoOfAnchors();
	}
}

/** Where the halves would meet: through the ends of an open line; upright through the middle of a closed one. */
function axisFor(outline: Outline): Half {
	const { x0, y0, x1, y1 } = boxOf(lineOf(outline));
	const middle = { x: (x0 + x1) / 2, y: (y0 + y1) / 2, angle: 90 };
	if (isClosed(outline)) return middle;
	const { segs } = sourceLine(outline);
	const [ax, ay, bx, by] = [segs[0], segs[1], segs[segs.length - 2], segs[segs.length - 1]];
	if (Math.hypot(bx - ax, by - ay) < 1e-6) return middle;
	return { x: ax, y: ay, angle: (Math.atan2(by - ay, bx - ax) * 180) / Math.PI };
}

/** Makes the selected line symmetrical, or moves the axis of one that is. */
export function openSymmetry(bench: Bench): void {
	const [outline] = bench.selection.enteredOutline
		? [bench.selection.enteredOutline]
		: bench.selection.selectedOutlines;
	if (!outline) {
		bench.tell('Select the line that is to be symmetrical first.');
		return;
	}
	if (isFollower(outline)) {
		bench.offerPlain([outline]);
		return;
	}
	bench.leave();
	bench.select([outline.id]);
	layOn(bench, 'build', new SymmetryOperation(outline));
}
