/** Corners rounded or cut off, which stay editable as such. */
import { withCorners } from '../../core/document/edits/corners';
import type { Edit } from '../../core/document/history';
import { allRounds, placeOfAnchor, type Outline } from '../../core/document/outline';
import type { Round } from '../../core/document/rounds';
import type { Result } from '../../core/errors';
import type { Path } from '../../core/geometry/path';
import type { Bench } from '../bench.svelte';
import { idsOf } from './operation.svelte';
import { PlainOperation } from './plain-operation.svelte';

/** What was typed last is there next time, mm. */
let last = 2;

/** Rounds corners with true arcs, or cuts them off; they stay editable as such. */
export class CornerOperation extends PlainOperation {
	readonly kind = 'corner';
	/** mm: radius, or length cut off before the corner. */
	amount = $state(2);
	/** mm: length cut off after the corner; as before it where undefined. */
	second = $state<number | undefined>();
	cutOff = $state(false);
	/** What the first of the corners has already, mm. */
	readonly given: number | undefined;

	constructor(
		outline: Outline,
		private readonly anchors: ReadonlySet<number>
	) {
		super([outline]);
		const round = allRounds(outline).find((r) => anchors.has(r.anchor));
		if (!round) return;
		this.cutOff = !('radius' in round);
		this.given = 'radius' in round ? round.radius : round.first;
		this.second = 'radius' in round ? undefined : round.second;
	}
	get name(): string {
		return this.amount === 0 ? 'Sharp corners' : this.cutOff ? 'Cut corners off' : 'Round corners';
	}
	override get hint(): string {
		return 'Drag from a corner to make it larger, or type. 0 makes it sharp again. Enter keeps it, Esc leaves it.';
	}

	override get replaced(): ReadonlySet<string> {
		return idsOf(this.outlines);
	}
	override remember(): void {
		last = this.amount;
	}

	private made: Outline | undefined;

	protected compute(): Result<readonly Path[]> {
		const [outline] = this.outlines;
		const { amount, cutOff, second = amount } = this;
		const make = (anchor: number): Round =>
			cutOff ? { anchor, first: amount, second } : { anchor, radius: amount };
		const result = withCorners(outline, this.anchors, amount > 0 ? make : undefined);
		if (!result.ok) return result;
		this.made = result.value.outline;
		return { ok: true, value: [result.value.path] };
	}

	/** A drag from one of the corners: as far as it goes, so large the radius. */
	override drag(fromX: number, fromY: number, x: number, y: number, reach: number): boolean {
		const [outline] = this.outlines;
		const near = [...this.anchors].some((id) => {
			const p = placeOfAnchor(outline, id);
			return p !== undefined && Math.hypot(p.x - fromX, p.y - fromY) <= reach;
		});
		if (!near) return false;
		this.amount = Math.round(100 * Math.hypot(x - fromX, y - fromY)) / 100;
		this.change(0);
		return true;
	}

	edit(): Edit {
		return { put: this.made ? [this.made] : [] };
	}
}

/** Rounds the selected corners. */
export function beginCorner(bench: Bench): CornerOperation | undefined {
	const outline = bench.selection.enteredOutline;
	if (!outline || bench.selection.anchors.size === 0) return undefined;
	const operation = new CornerOperation(outline, bench.selection.anchors);
	operation.amount = operation.given ?? last;
	return operation;
}
