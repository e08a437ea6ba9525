/** The picture in hand moved, turned at its knob, or cropped by a box. */
import type { Point } from '../../core/geometry/point';
import type { Reference } from '../../core/document/drawing';
import { frameOf, isOnReference, middleOf, onPicture, turned } from '../../core/document/edits/placement';
import { lockedDirection } from '../../core/document/edits/snap';
import { turnKnob } from '../../render/marks';
import { toScreen } from '../../render/view';
import type { Bench } from '../bench.svelte';
import { DragView } from './drag-view';
import { Drag, type Gesture, type Holding } from './gesture';
import { REACH_PX, type PointerAt } from './pointer';
import { PullBox } from './pull-box';

/** A press while a picture is in hand; undefined where it took another picture in hand. */
export function pressPicture(hand: Holding, p: Point, at: PointerAt): Gesture | undefined {
	const { bench } = hand;
	const reference = bench.pictures.inHand!;
	const corners = frameOf(reference).map((q) => toScreen(bench.sight.view, bench.sight.size, q.x, q.y));
	const knob = turnKnob(corners);
	if (Math.hypot(knob.x - at.x, knob.y - at.y) < REACH_PX[at.kind] + 4)
		return new TurnPicture(hand, at, reference);
	if (at.shift) return new PullBox(hand, at, { taken: (a, b) => crop(bench, a, b) });
	if (isOnReference(reference, p.x, p.y)) return new MovePicture(hand, at, reference);
	const other = bench.pictures.at(p.x, p.y);
	if (!other) return new DragView(hand, at);
	bench.pictures.placing = other.id;
	return undefined;
}

/** A drag of the picture in hand, from how it was placed. */
abstract class DragPicture extends Drag {
	constructor(
		hand: Holding,
		pressed: PointerAt,
		protected readonly from: Reference
	) {
		super(hand, pressed);
	}
}

class MovePicture extends DragPicture {
	protected drag(p: Point, at: PointerAt): void {
		const { start, from } = this;
		const d = { x: p.x - start.x, y: p.y - start.y };
		const { x, y } = at.shift ? lockedDirection(d.x, d.y) : d;
		this.bench.pictures.placed = { ...from, x: from.x + x, y: from.y + y };
	}
	protected end(): void {
		this.bench.pictures.release('Move picture');
	}
}

class TurnPicture extends DragPicture {
	protected drag(p: Point, at: PointerAt): void {
		const middle = middleOf(this.from);
		const angleOf = (q: Point) => Math.atan2(q.y - middle.y, q.x - middle.x);
		const by = ((angleOf(p) - angleOf(this.start)) * 180) / Math.PI;
		this.bench.pictures.placed = turned(this.from, at.shift ? 15 * Math.round(by / 15) : by, middle);
	}
	protected end(): void {
		this.bench.pictures.release('Turn picture');
	}
}

/** Crops the picture in hand to a box of the paper, mm. */
function crop(bench: Bench, a: Point, b: Point): void {
	const reference = bench.pictures.inHand;
	if (!reference) return;
	const places = [a, { x: b.x, y: a.y }, b, { x: a.x, y: b.y }].map((p) => onPicture(reference, p.x, p.y));
	const clamp = (v: number, most: number) => Math.min(most, Math.max(0, Math.round(v)));
	const left = clamp(Math.min(...places.map((p) => p.x)), reference.widthPx);
	const right = clamp(Math.max(...places.map((p) => p.x)), reference.widthPx);
	const top = clamp(Math.min(...places.map((p) => p.y)), reference.heightPx);
	const bottom = clamp(Math.max(...places.map((p) => p.y)), reference.heightPx);
	if (right - left < 2 || bottom - top < 2) {
		bench.tell('That box holds nothing of the picture.');
		return;
	}
	bench.commit('Crop picture', {
		put: [{ ...reference, crop: { x: left, y: top, w: right - left, h: bottom - top } }]
	});
}
