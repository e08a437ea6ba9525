/** Places that a line is given by: picked, dragged, put in by a second press on the line. */
import type { Outline } from '../../core/document/outline';
import type { Point } from '../../core/geometry/point';
import { toScreen } from '../../render/view';
import { madeOf, putPlace } from '../giving';
import type { Given } from '../selection.svelte';
import { MeasuredDrag, type Gesture, type Holding } from './gesture';
import { REACH_PX, type PointerAt } from './pointer';

export class DragPlace extends MeasuredDrag {
	private readonly given: Given;
	/** Where it was, mm; a tip is measured from its own point. */
	private readonly from: Point;
	private readonly isTip: boolean;

	constructor(
		hand: Holding,
		pressed: PointerAt,
		private readonly key: string
	) {
		super(hand, pressed);
		this.given = hand.bench.selection.given!;
		const place = this.given.places.find((one) => one.key === key)!;
		this.isTip = place.looks === 'tip';
		this.from = { x: place.x, y: place.y };
		this.base = place.from ?? this.from;
	}
	private readonly base: Point;

	protected drag(p: Point, at: PointerAt): void {
		const { bench, from, start, base, given } = this;
		const to = { x: from.x + p.x - start.x, y: from.y + p.y - start.y };
		if (at.shift || at.ctrl || this.isTip) {
			this.applyFrom(base, to.x - base.x, to.y - base.y, at);
			return;
		}
		bench.bound = [];
		const snap = this.hand.snapping.snapAt(to, at, { outline: given.outline.id, pressed: -1 });
		bench.snap = snap;
		this.applyTold((snap ?? to).x - base.x, (snap ?? to).y - base.y, at);
	}
	protected apply(right: number, up: number): void {
		const { bench, base, given, key } = this;
		const settings = given.kind.moved(given.settings, key, { x: base.x + right, y: base.y + up });
		const made: Outline | undefined = madeOf(bench, given.outline, settings, false);
		if (made) bench.hold((o) => (o.id === made.id ? made : o));
	}
	protected keep(): void {
		this.bench.release(this.isTip ? 'Turn a direction' : 'Move a point');
	}
}

/** The place under the pointer; a picked one lies over the others. */
function placeUnder(
	{ places }: Given,
	picked: string | undefined,
	hand: Holding,
	at: PointerAt
): string | undefined {
	const { view, size } = hand.bench.sight;
	let best: string | undefined;
	let least = REACH_PX[at.kind];
	for (const { key, x, y } of places) {
		const p = toScreen(view, size, x, y);
		const far = Math.hypot(p.x - at.x, p.y - at.y) - (key === picked ? 2 : 0);
		if (far < least) [best, least] = [key, far];
	}
	return best;
}

/** What a press begins in a line that is given by places; undefined where it lies beside them. */
export function pressGiven(hand: Holding, p: Point, at: PointerAt): Gesture | undefined {
	const { bench } = hand;
	const { given, place } = bench.selection;
	if (!given || bench.readOnly) return undefined;
	let key = placeUnder(given, place, hand, at);
	if (
		key === undefined &&
		at.second &&
		at.kind !== 'touch' &&
		bench.placeOnEntered(p.x, p.y, at.kind) &&
		putPlace(bench, p)
	)
		key = bench.selection.place;
	if (key === undefined) return undefined;
	bench.selection.place = key;
	return new DragPlace(hand, at, key);
}
