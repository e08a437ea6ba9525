/** Whole outlines moved, turned, scaled, mirrored, copied: typed or dragged, about any place. */
import type { Point } from '../../core/geometry/point';
import type { Drawing, Mark, Repeat } from '../../core/document/drawing';
import { carriedRecords } from '../../core/document/edits/carrying';
import { copiesOf } from '../../core/document/edits/copies';
import { recordType } from '../../core/document/records';
import type { Edit } from '../../core/document/history';
import type { NewId } from '../../core/document/edits/operations';
import { isFollower } from '../../core/document/graph';
import { lineOf, type Outline } from '../../core/document/outline';
import { transformAnchors } from '../../core/document/edits/anchor-groups';
import { boxOfAnchors } from '../../core/document/edits/selecting';
import { transformOutline } from '../../core/document/edits/transform';
import { mirrorAt, moveBy, scaleBy, turnBy } from '../../core/geometry/maps';
import { toProblem } from '../../core/errors';
import { unionBox } from '../../core/geometry/measure';
import { compose, IDENTITY, type Affine } from '../../core/geometry/path';
import type { Box } from '../../core/geometry/segment';
import { nextRequest } from '../../workers/geometry.client';
import type { Bench } from '../bench.svelte';
import { idsOf, Operation, type AfterKeeping } from './operation.svelte';

export class PlaceOperation extends Operation {
	readonly kind = 'place';
	/** mm */
	right = $state(0);
	up = $state(0);
	/** Degrees anticlockwise. */
	turn = $state(0);
	/** Shares of what it was. */
	across = $state(1);
	tall = $state(1);
	/** Whether both change alike. */
	alike = $state(true);
	mirror = $state<'no' | 'left and right' | 'top and bottom'>('no');
	/** The originals stay, and what is made is new. */
	copy = $state(false);
	/** The place that turning and scaling leave alone, mm. */
	about = $state.raw<Point>({ x: 0, y: 0 });
	/** The box of the originals. */
	readonly bounds: Box;
	private grip:
		| {
				kind: 'move' | 'turn' | 'size';
				right: number;
				up: number;
				turn: number;
				across: number;
				tall: number;
		  }
		| undefined;

	constructor(
		readonly outlines: readonly Outline[],
		/** Marks and repeats that go along. */
		readonly spots: readonly (Mark | Repeat)[] = [],
		/** Only these anchors of the outlines, by outline; else all of each. */
		readonly anchors: ReadonlyMap<string, ReadonlySet<number>> | undefined = undefined
	) {
		super();
		this.bounds = anchors
			? boxOfAnchors(outlines, anchors)
			: unionBox([...outlines, ...spots].map((r) => recordType(r).box(r)));
		this.about = { x: (this.bounds.x0 + this.bounds.x1) / 2, y: (this.bounds.y0 + this.bounds.y1) / 2 };
	}

	override get ready(): boolean {
		return !this.busy && !this.problem;
	}
	override kept(bench: AfterKeeping, edit: Edit): void {
		// Anchors stay picked.
		if (!this.anchors) super.kept(bench, edit);
	}
	get name(): string {
		if (this.copy) return 'Copy';
		if (this.mirror !== 'no') return 'Mirror';
		if (this.turn) return 'Turn';
		return this.across !== 1 || this.tall !== 1 ? 'Scale' : 'Move';
	}
	override get hint(): string {
		return 'Drag it to move it, its loop to turn it, a corner to scale it; a tap sets the place it turns about. Enter keeps it.';
	}

	get map(): Affine {
		const { x, y } = this.about;
		const mirrored =
			this.mirror === 'no' ? IDENTITY : mirrorAt(this.mirror === 'left and right' ? 90 : 0, x, y);
		const scaled = compose(scaleBy(this.across, this.tall, x, y), mirrored);
		const turned = this.turn ? compose(turnBy(this.turn, x, y), scaled) : scaled;
		return compose(moveBy(this.right, this.up), turned);
	}

	protected async run(): Promise<void> {
		this.request = nextRequest();
		this.busy = false;
		try {
			this.preview = this.made().map(lineOf);
			this.problem = undefined;
		} catch (error) {
			this.fail(toProblem(error));
		}
	}

	private made(): Outline[] {
		const { map, anchors } = this;
		return this.outlines.map((o) =>
			anchors ? transformAnchors(o, anchors.get(o.id) ?? NONE, map) : transformOutline(o, map)
		);
	}
	/** How many anchors are moved, where it is anchors. */
	get anchorCount(): number {
		return [...(this.anchors?.values() ?? [])].reduce((sum, ids) => sum + ids.size, 0);
	}

	override get replaced(): ReadonlySet<string> {
		return this.copy && !this.anchors ? new Set() : idsOf(this.outlines);
	}

	/** The corners of what is placed, as it lies now, round it. */
	override get frame(): Point[] {
		const { x0, y0, x1, y1 } = this.bounds;
		const [a, b, c, d, e, f] = this.map;
		return [
			[x0, y1],
			[x1, y1],
			[x1, y0],
			[x0, y0]
		].map(([x, y]) => ({ x: a * x + c * y + e, y: b * x + d * y + f }));
	}

	/** mm beyond the corner where the loop is that turns. */
	loopAt(reach: number): Point {
		const [p0, p1, p2] = this.frame;
		const middle = { x: (p0.x + p2.x) / 2, y: (p0.y + p2.y) / 2 };
		const far = Math.hypot(p1.x - middle.x, p1.y - middle.y) || 1;
		const out = (26 / 9) * reach;
		return { x: p1.x + ((p1.x - middle.x) / far) * out, y: p1.y + ((p1.y - middle.y) / far) * out };
	}

	override drag(fromX: number, fromY: number, x: number, y: number, reach: number): boolean {
		if (!this.grip) {
			const { right, up, turn, across, tall } = this;
			const loop = this.loopAt(reach);
			const corner = this.frame.some((p) => Math.hypot(p.x - fromX, p.y - fromY) < 1.6 * reach);
			const xs = this.frame.map((p) => p.x);
			const ys = this.frame.map((p) => p.y);
			const inside =
				fromX > Math.min(...xs) &&
				fromX < Math.max(...xs) &&
				fromY > Math.min(...ys) &&
				fromY < Math.max(...ys);
			const kind =
				Math.hypot(loop.x - fromX, loop.y - fromY) < 1.6 * reach
					? 'turn'
					: corner
						? 'size'
						: inside
							? 'move'
							: undefined;
			if (!kind) return false;
			this.grip = { kind, right, up, turn, across, tall };
		}
		const { grip } = this;
		const here = { x: this.about.x + grip.right, y: this.about.y + grip.up };
		if (grip.kind === 'move') {
			this.right = grip.right + x - fromX;
			this.up = grip.up + y - fromY;
		} else if (grip.kind === 'turn') {
			const angle = (px: number, py: number) => Math.atan2(py - here.y, px - here.x);
			const by = ((angle(x, y) - angle(fromX, fromY)) * 180) / Math.PI;
			this.turn = Math.round(10 * (grip.turn + by)) / 10;
		} else {
			const share =
				Math.hypot(x - here.x, y - here.y) / Math.max(1e-9, Math.hypot(fromX - here.x, fromY - here.y));
			this.across = grip.across * share;
			this.tall = grip.tall * share;
		}
		this.change(0);
		return true;
	}
	override dropped(): void {
		this.grip = undefined;
	}
	override tap(x: number, y: number): void {
		this.about = { x: x - this.right, y: y - this.up };
		this.change(0);
	}

	edit(drawing: Drawing, newId: NewId): Edit {
		if (this.anchors) return { put: this.made() };
		if (!this.copy) return { put: carriedRecords(drawing, [...this.outlines, ...this.spots], this.map) };
		return copiesOf(drawing, [...this.outlines, ...this.spots], this.map, newId);
	}
}

const NONE: ReadonlySet<number> = new Set();

/** Moves, turns, scales, mirrors or copies the selected outlines, or the selected anchors of what is entered. */
export function beginPlace(bench: Bench): PlaceOperation | undefined {
	const picked = bench.selection.enteredOutlines.filter((o) => bench.selection.anchorsOf(o.id).size > 0);
	if (picked.length) {
		const plain = picked.filter((o) => !isFollower(o) && !o.recipe);
		if (plain.length < picked.length) bench.offerPlain(picked.filter((o) => o.recipe));
		return plain.length
			? new PlaceOperation(plain, [], new Map(plain.map((o) => [o.id, bench.selection.anchorsOf(o.id)])))
			: undefined;
	}
	// A piece takes along what lies in it.
	const { within } = bench;
	const outlines = [...bench.selection.selectedOutlines.filter((o) => !o.locked), ...within.outlines];
	const { selectedMarks, selectedRepeats } = bench.selection;
	const spots = [...selectedMarks, ...within.marks, ...selectedRepeats, ...within.repeats];
	if (outlines.length + spots.length === 0) return undefined;
	bench.leave();
	return new PlaceOperation(outlines, spots);
}
