/** Anchors dragged: freely, along a side, on their own line, or softly with their neighbourhood. */
import { moveAnchors } from '../../core/document/edits/anchors';
import {
	anchorsInReach,
	ownSide,
	slideAlong,
	slideDirection,
	slideOnLine,
	softPull
} from '../../core/document/edits/pulling';
import { endAt, endToDropOn, type MeetSide } from '../../core/document/edits/meet';
import { chainedAt } from '../../core/document/edits/structure';
import { isFollower } from '../../core/document/graph';
import { isClosed, placeOfAnchor, type Outline } from '../../core/document/outline';
import type { Point } from '../../core/geometry/point';
import { guideThrough, MeasuredDrag, type Holding } from './gesture';
import type { PointerAt } from './pointer';

const STEP_NAMES = {
	free: 'Move',
	before: 'Lengthen the side',
	after: 'Lengthen the side',
	'own line': 'Slide',
	soft: 'Pull softly'
} as const;

export class DragAnchors extends MeasuredDrag {
	/** Where the pressed anchor was, mm. */
	private readonly from: Point;
	/** The end on which the dragged end is dropped, and becomes one line with it. */
	private onto: { readonly end: MeetSide; readonly at: Point } | undefined;

	/**
	 * @param letsGo whether a tap takes the anchor out of the selection.
	 * @param isNear whether the press was on the anchor: a tap beside it is a tap on what lies there.
	 */
	constructor(
		hand: Holding,
		pressed: PointerAt,
		private readonly outline: Outline,
		private readonly anchor: number,
		private readonly letsGo: boolean,
		private readonly isNear = true
	) {
		super(hand, pressed);
		this.from = placeOfAnchor(outline, anchor)!;
	}

	protected drag(p: Point, at: PointerAt): void {
		const { bench, from, start, anchor, outline } = this;
		const [dx, dy] = [p.x - start.x, p.y - start.y];
		bench.snap = undefined;
		const drop = at.alt ? undefined : this.endUnder({ x: from.x + dx, y: from.y + dy }, at);
		this.onto = drop;
		if (drop) {
			bench.bound = [];
			bench.snap = { ...drop.at, kind: 'joins these ends; Alt keeps them apart' };
			this.applyTold(drop.at.x - from.x, drop.at.y - from.y, at);
			return;
		}
		if (at.shift || at.ctrl || bench.movingWay === 'own line') {
			this.applyFrom(from, dx, dy, at);
			return;
		}
		bench.bound = [];
		const snap = this.hand.snapping.snapAt({ x: from.x + dx, y: from.y + dy }, at, {
			outline: outline.id,
			pressed: anchor
		});
		bench.snap = snap;
		this.applyTold(snap ? snap.x - from.x : dx, snap ? snap.y - from.y : dy, at);
	}

	/** The end that lies where an end is dragged to, if nothing else is dragged with it. */
	private endUnder(place: Point, at: PointerAt): ReturnType<typeof endToDropOn> {
		const { bench, outline, anchor } = this;
		const { selection } = bench;
		const dragged = endAt(outline, anchor);
		const count = selection.enteredOutlines.reduce((sum, o) => sum + selection.anchorsOf(o.id).size, 0);
		if (!dragged || isFollower(outline) || count !== 1 || bench.movingWay !== 'free') return undefined;
		const open = bench.pickable().outlines.filter((o) => !isClosed(o) && !isFollower(o));
		return endToDropOn(open, dragged, place, bench.reach(at.kind) * 0.9);
	}

	protected apply(dx: number, dy: number): void {
		const { bench, anchor, from } = this;
		const way = bench.movingWay;
		if (way === 'free') {
			bench.hold((o, ids) => moveAnchors(o, ids, dx, dy));
			return;
		}
		if (way === 'own line') {
			bench.hold((o, ids) => (ids.has(anchor) ? slideOnLine(o, anchor, from.x + dx, from.y + dy) : o));
			return;
		}
		if (way === 'soft') {
			bench.hold((o, ids) => (ids.has(anchor) ? softPull(o, anchor, dx, dy, bench.reachAlong) : o));
			return;
		}
		const own = ownSide(this.outline, bench.selection.anchorsOf(this.outline.id), anchor, way);
		const d = own && slideDirection(this.outline, anchor, own);
		if (!d) return;
		const by = dx * d.x + dy * d.y;
		bench.bound = [guideThrough(from, d.x, d.y)];
		bench.hold((o, ids) => slideAlong(o, ids, way, by));
	}

	protected keep(): void {
		const { bench, onto } = this;
		const moved = bench.drafts.get(this.outline.id);
		const end = moved && endAt(moved, this.anchor);
		const at = moved && placeOfAnchor(moved, this.anchor);
		// A typed distance may have led it elsewhere.
		if (onto && moved && end && at && Math.hypot(at.x - onto.at.x, at.y - onto.at.y) < 1e-9) {
			const other = bench.drawing.records.get(onto.end.outline);
			const lines = [moved, ...(other?.type === 'outline' && other.id !== moved.id ? [other] : [])];
			bench.letGo();
			bench.commit('Join the ends', chainedAt(bench.drawing, lines, end, onto.end));
			bench.tell(
				other === undefined || other.id === moved.id
					? `"${moved.name}" is closed now.`
					: `"${moved.name}" and "${(other as Outline).name}" are one outline now.`
			);
			return;
		}
		const { enteredOutlines, enteredOutline } = bench.selection;
		const count = enteredOutlines.reduce((sum, o) => sum + bench.selection.anchorsOf(o.id).size, 0);
		const few =
			bench.movingWay === 'soft' &&
			enteredOutline &&
			anchorsInReach(enteredOutline, this.anchor, bench.reachAlong) < 2;
		const free = count === 1 ? 'Move anchor' : `Move ${count} anchors`;
		bench.release(bench.movingWay === 'free' ? free : STEP_NAMES[bench.movingWay]);
		if (few)
			bench.tell('Few anchors lie within the reach. "More in reach" puts some in, the shape unchanged.');
	}

	protected override tap(p: Point, at: PointerAt): void {
		const { selection } = this.bench;
		if (!this.isNear) {
			this.hand.click(p, at);
			return;
		}
		const { id } = this.outline;
		if (this.letsGo)
			selection.pickAnchors(id, new Set([...selection.anchorsOf(id)].filter((a) => a !== this.anchor)));
		else if (!at.more) selection.anchors = new Set([this.anchor]);
	}
}
