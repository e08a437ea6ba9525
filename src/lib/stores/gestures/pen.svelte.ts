/** Drawing over the picture: lines anchor by anchor, freehand strokes, ready shapes. One line or shape at a time. */
import { givenOutline } from '../../core/document/edits/made';
import type { Point } from '../../core/geometry/point';
import { freeName, layersOf, nextRank, type DrawingRecord } from '../../core/document/drawing';
import {
	continued,
	drawnOutline,
	pulledAnchor,
	type DrawnAnchor
} from '../../core/document/edits/line-drawing';
import {
	isClosed,
	ANCHOR_STRIDE,
	lineOf,
	type Outline,
	type OutlineFacts
} from '../../core/document/outline';
import { replaceLines } from '../../core/document/edits/operations';
import { arcThrough, circleThrough, shapePath, type ShapeRecipe } from '../../core/document/recipes/shapes';
import { lockedDirection, type Snap } from '../../core/document/edits/snap';
import { CoreError, toProblem } from '../../core/errors';
import { polygonPath, type Path } from '../../core/geometry/path';
import type { GivenLook } from '../../render/given';
import type { ForPen } from '../parts';
import { newId } from '../ids';

export const PEN_KINDS = [
	'line',
	'freehand',
	'redraw',
	'rectangle',
	'circle',
	'circle by two',
	'circle by three',
	'ellipse',
	'arc',
	'polygon',
	'star',
	'slot',
	'mark',
	'through',
	'pulled',
	'conic'
] as const;
export type PenKind = (typeof PEN_KINDS)[number];

const NAMES: Record<PenKind, string> = {
	line: 'Line',
	freehand: 'Stroke',
	redraw: 'Stroke',
	rectangle: 'Rectangle',
	circle: 'Circle',
	'circle by two': 'Circle',
	'circle by three': 'Circle',
	ellipse: 'Ellipse',
	arc: 'Arc',
	polygon: 'Polygon',
	star: 'Star',
	slot: 'Slot',
	mark: 'Point',
	through: 'Curve',
	pulled: 'Curve',
	conic: 'Arch'
};

/** What is drawn of a line so far. */
interface Drawn {
	readonly anchors: readonly DrawnAnchor[];
	readonly from: Pen['from'];
}

export interface PenAt extends Point {
	readonly shift: boolean;
	readonly alt: boolean;
	/** mm that count as the same place at this zoom. */
	readonly reach: number;
	readonly snap: Snap | undefined;
}

/** px: how far a freehand stroke may be smoothed away from the hand. */
const STROKE_PX = 2.5;
/** Reaches within which a redrawing stroke has come back to the line. */
const REDRAW_REACH = 1.3;

export class Pen {
	/** Anchors put down so far; of shapes by clicks the places. */
	anchors = $state.raw<readonly DrawnAnchor[]>([]);
	/** Where the next one would be. */
	at = $state.raw<Point | undefined>();
	/** The next click closes the line. */
	closing = $state(false);
	/** Clicks put down flowing anchors instead of corners. */
	flowing = $state(false);
	/** Degrees: the next side keeps this direction. */
	frozen = $state<number | undefined>();
	sides = $state(6);
	points = $state(5);
	/** The outline whose end is gone on from. */
	from = $state.raw<{ readonly outline: Outline; readonly end: 'start' | 'end' } | undefined>();
	protected pressed: Point | undefined;
	protected pulling = false;
	private stroke: number[] = [];
	/** What makes an outline of a stroke. */
	private readonly stroking: Promise<typeof import('../../core/document/edits/stroke')> | undefined;
	/** What the line was before each anchor, and what was taken back of it. */
	private past = $state.raw<readonly Drawn[]>([]);
	private taken = $state.raw<readonly Drawn[]>([]);

	constructor(
		protected readonly bench: ForPen,
		readonly kind: PenKind,
		/** What redraws, where it is that kind. */
		private readonly redrawing?: typeof import('../../core/fairing/redraw')
	) {
		if (kind === 'freehand') this.stroking = import('../../core/document/edits/stroke');
	}

	/** Whether it draws as the hand goes, not from place to place. */
	get isStroke(): boolean {
		return this.kind === 'freehand' || this.kind === 'redraw';
	}
	/** Whether an anchor can be taken back, or given again. */
	get canUndo(): boolean {
		return this.past.length > 0;
	}
	get canRedo(): boolean {
		return this.taken.length > 0;
	}
	/** Takes the last anchor back. */
	undo(): void {
		const was = this.past[this.past.length - 1];
		if (!was) return;
		this.taken = [...this.taken, { anchors: this.anchors, from: this.from }];
		this.past = this.past.slice(0, -1);
		this.become(was);
	}
	/** Gives the anchor that was taken back again. */
	redo(): void {
		const next = this.taken[this.taken.length - 1];
		if (!next) return;
		this.past = [...this.past, { anchors: this.anchors, from: this.from }];
		this.taken = this.taken.slice(0, -1);
		this.become(next);
	}
	private become({ anchors, from }: Drawn): void {
		this.anchors = anchors;
		this.from = from;
		this.closing = false;
		this.pressed = undefined;
		this.frozen = undefined;
	}
	/** The line is about to change by an anchor. */
	protected remember(): void {
		this.past = [...this.past, { anchors: this.anchors, from: this.from }];
		this.taken = [];
	}

	/** The place that what comes next is measured from. */
	get last(): DrawnAnchor | undefined {
		return this.anchors[this.anchors.length - 1];
	}

	/** The places of a curve that is given by them, as drawn so far. */
	get givenSoFar(): GivenLook | undefined {
		return undefined;
	}

	get hint(): string {
		if (this.kind === 'freehand')
			return 'Draw the line with the button held. Ends that meet close it. Esc puts the pen away.';
		if (this.kind === 'redraw')
			return this.caught
				? 'Come back to the line. Alt replaces the other side.'
				: 'Draw from the line back to it with the button held; what lies between is replaced. Undo takes it back, Esc puts the pen away.';
		if (this.kind === 'line') {
			if (this.anchors.length === 0)
				return 'Click for a corner, press and pull for a smooth anchor. Begin on an open end to go on from it.';
			return 'Type a length or an angle. W clicks flowing anchors, C corners, X drops the last handle, Backspace or undo takes the last back. Enter or Esc ends it, the first anchor closes it.';
		}
		if (this.kind === 'mark')
			return 'A click puts a point: a drill hole, a notch. Its tag has its place. Esc puts the pen away.';
		if (this.kind === 'arc')
			return (
				['Click where the arc begins.', 'Click a place on it.', 'Click where it ends.'][
					this.anchors.length
				] ?? ''
			);
		if (this.kind === 'circle by three')
			return `Click ${['a first', 'a second', 'a third'][this.anchors.length] ?? 'a'} place on the circle.`;
		return 'Drag it out, or type its sizes: the first number, Tab, the second. Shift keeps both alike. Afterwards they are on its tag. Esc puts the pen away.';
	}

	/** How the line or the shape looks so far. */
	readonly preview = $derived.by((): readonly Path[] => this.previewed());
	protected previewed(): readonly Path[] {
		try {
			if (this.kind === 'line') {
				const outline = this.lineSoFar(true);
				return outline && outline.anchors.length > 1 ? [lineOf(outline)] : [];
			}
			if (this.isStroke) return [];
			const recipe = this.recipe();
			return recipe ? [shapePath(recipe)] : [];
		} catch {
			return [];
		}
	}
	/** The stroke of the hand as it goes. */
	trail = $state.raw<readonly Path[]>([]);

	protected facts(): OutlineFacts {
		const { drawing } = this.bench;
		const near = this.bench.selection.selectedOutlines[0];
		return {
			id: newId(),
			name: freeName(drawing, NAMES[this.kind]),
			layer: near?.layer ?? layersOf(drawing)[0]?.id ?? 'cut',
			rank: nextRank(drawing)
		};
	}

	/** The line as drawn, with the place under the pointer where that is wanted. */
	lineSoFar(withNext: boolean): Outline | undefined {
		const anchors: DrawnAnchor[] = [...this.anchors];
		if (withNext && this.at && !this.pressed && !this.closing && anchors.length)
			anchors.push({ ...this.at, flowing: this.flowing });
		if (anchors.length === 0) return undefined;
		if (this.from) return continued(this.from.outline, this.from.end, anchors, this.closing);
		return drawnOutline(anchors, this.closing && anchors.length > 1, {
			id: 'drawn',
			name: '',
			layer: 'cut',
			rank: 0
		});
	}

	/** Where a place counts as: on the frozen direction, locked, or snapped. */
	protected placed(p: PenAt): Point {
		const from = this.last;
		if (from && this.frozen !== undefined) {
			const rad = (this.frozen * Math.PI) / 180;
			const along = (p.x - from.x) * Math.cos(rad) + (p.y - from.y) * Math.sin(rad);
			return { x: from.x + along * Math.cos(rad), y: from.y + along * Math.sin(rad) };
		}
		if (from && p.shift) {
			const d = lockedDirection(p.x - from.x, p.y - from.y);
			return { x: from.x + d.x, y: from.y + d.y };
		}
		return p.snap ? { x: p.snap.x, y: p.snap.y } : { x: p.x, y: p.y };
	}

	/** The place on which the line would close. */
	get closingPlace(): Point | undefined {
		return this.from
			? endPlace(this.from.outline, this.from.end === 'end' ? 'start' : 'end')
			: this.anchors[0];
	}

	protected isFirst(p: PenAt): boolean {
		const first = this.closingPlace;
		const enough = this.from
			? this.anchors.length >= 1 && this.from.outline.anchors.length > 1
			: this.anchors.length >= 2;
		return enough && first !== undefined && Math.hypot(first.x - p.x, first.y - p.y) <= p.reach;
	}

	down(p: PenAt): void {
		if (this.kind === 'redraw') {
			this.caught = this.bench.outlineAt(p.x, p.y, 'mouse');
			if (!this.caught) this.bench.tell('The stroke has not caught a line. Begin on one.');
		}
		if (this.kind === 'freehand' || this.kind === 'redraw') {
			this.stroke = [p.x, p.y];
			this.pressed = p;
			return;
		}
		const place = this.placed(p);
		this.pressed = place;
		this.pulling = false;
		if (this.kind === 'mark') {
			const { id, layer, rank } = this.facts();
			this.pressed = undefined;
			if (this.bench.commit('Put a point', { put: [{ type: 'mark', id, layer, rank, ...place }] }))
				this.bench.selection.selected = new Set([id]);
			return;
		}
		if (this.kind !== 'line') {
			this.remember();
			this.anchors = [...this.anchors, place];
			return;
		}
		if (this.isFirst(p)) {
			this.closing = true;
			return;
		}
		this.remember();
		if (this.anchors.length === 0) {
			const end = this.endUnder(p);
			if (end) {
				this.from = end;
				this.anchors = [endPlace(end.outline, end.end)];
				this.pressed = this.anchors[0];
				return;
			}
		}
		this.anchors = [...this.anchors, { ...place, ...(this.flowing ? { flowing: true } : {}) }];
		this.frozen = undefined;
	}

	/** The end of an open outline under the pointer. */
	private endUnder(p: PenAt): { outline: Outline; end: 'start' | 'end' } | undefined {
		for (const outline of this.bench.pickable().outlines) {
			if (isClosed(outline)) continue;
			for (const end of ['start', 'end'] as const) {
				const at = endPlace(outline, end);
				if (Math.hypot(at.x - p.x, at.y - p.y) <= p.reach) return { outline, end };
			}
		}
		return undefined;
	}

	move(p: PenAt, held: boolean): void {
		this.at = this.placed(p);
		if (this.kind === 'freehand' || this.kind === 'redraw') {
			if (!held || (this.kind === 'redraw' && !this.caught)) return;
			const n = this.stroke.length;
			if (Math.hypot(this.stroke[n - 2] - p.x, this.stroke[n - 1] - p.y) < p.reach / 20) return;
			this.stroke.push(p.x, p.y);
			this.trail = [polygonPath(this.stroke, false)];
			if (this.kind === 'redraw') this.replacing = this.wouldReplace(p);
			return;
		}
		if (this.kind !== 'line') return;
		if (!held) {
			this.closing = this.isFirst(p);
			return;
		}
		const { last, pressed } = this;
		if (!last || !pressed || this.closing) return;
		if (!this.pulling && Math.hypot(p.x - pressed.x, p.y - pressed.y) < p.reach / 2) return;
		this.pulling = true;
		let to: Point = p;
		if (p.shift) {
			const d = lockedDirection(p.x - last.x, p.y - last.y);
			to = { x: last.x + d.x, y: last.y + d.y };
		}
		// With Alt, and on an end that is gone on from, only the outgoing handle moves.
		const alone = p.alt || (this.from !== undefined && this.anchors.length === 1);
		const next = alone
			? { ...last, flowing: false, out: { x: to.x, y: to.y } }
			: pulledAnchor(last, to.x, to.y);
		this.anchors = [...this.anchors.slice(0, -1), next];
	}

	up(p: PenAt): void {
		const { pressed } = this;
		this.pressed = undefined;
		if (this.kind === 'redraw') {
			this.trail = [];
			this.replacing = undefined;
			const { caught } = this;
			if (!caught || !this.redrawing || this.stroke.length < 6) {
				this.caught = undefined;
				return;
			}
			try {
				const tolerance = (STROKE_PX * p.reach) / 9;
				const { path } = this.redrawing.redrawn(
					lineOf(caught),
					this.stroke,
					REDRAW_REACH * p.reach,
					tolerance,
					p.alt
				);
				this.bench.commit(
					'Redraw a stretch',
					replaceLines(this.bench.drawing, new Map([[caught.id, path]]), newId)
				);
			} catch (error) {
				this.bench.trouble(toProblem(error));
			}
			this.caught = undefined;
			return;
		}
		if (this.kind === 'freehand') {
			this.trail = [];
			if (this.stroke.length < 6) {
				this.stroke = [];
				return;
			}
			const tolerance = (STROKE_PX * p.reach) / 9;
			const { stroke } = this;
			this.stroke = [];
			void this.stroking?.then(({ strokeOutline }) =>
				this.put('Draw a stroke', strokeOutline(stroke, tolerance, p.reach * 1.2, this.facts()))
			);
			return;
		}
		if (this.kind === 'line') {
			if (this.closing) this.finish();
			return;
		}
		this.at = this.placed(p);
		if (this.kind === 'mark') return;
		if (this.kind === 'arc' || this.kind === 'circle by three') {
			if (this.anchors.length === 3) this.putShape();
			return;
		}
		const dragged = pressed && Math.hypot(this.at.x - pressed.x, this.at.y - pressed.y) > p.reach / 4;
		if (dragged || this.anchors.length === 2) this.putShape();
	}

	/** The outline that a redrawing stroke has caught, and what of it would go. */
	caught = $state.raw<Outline | undefined>();
	replacing = $state.raw<Path | undefined>();
	private wouldReplace(p: PenAt): Path | undefined {
		try {
			if (!this.caught || this.stroke.length <= 8) return undefined;
			return this.redrawing?.caughtBy(lineOf(this.caught), this.stroke, REDRAW_REACH * p.reach, p.alt)?.part;
		} catch {
			return undefined;
		}
	}

	/** The recipe that the places so far and the pointer make. @throws CoreError where they make none */
	private recipe(): ShapeRecipe | undefined {
		const [a, b, c] =
			this.anchors.length >= 3 ? this.anchors : [...this.anchors, ...(this.at ? [this.at] : [])];
		if (!a || !b) return undefined;
		const dx = b.x - a.x;
		const dy = b.y - a.y;
		const far = Math.hypot(dx, dy);
		const angle = (Math.atan2(dy, dx) * 180) / Math.PI;
		switch (this.kind) {
			case 'circle':
				return { shape: 'circle', x: a.x, y: a.y, angle: 0, radius: far };
			case 'circle by two':
				return { shape: 'circle', x: a.x + dx / 2, y: a.y + dy / 2, angle: 0, radius: far / 2 };
			case 'circle by three': {
				if (!c) return { shape: 'circle', x: a.x + dx / 2, y: a.y + dy / 2, angle: 0, radius: far / 2 };
				return { shape: 'circle', angle: 0, ...circleThrough(a, b, c) };
			}
			case 'arc':
				if (!c) return undefined;
				return arcThrough(a, b, c);
			case 'rectangle':
				return { shape: 'rectangle', ...middle(a, b), width: Math.abs(dx), height: Math.abs(dy), corner: 0 };
			case 'ellipse':
				return { shape: 'ellipse', ...middle(a, b), width: Math.abs(dx), height: Math.abs(dy) };
			case 'polygon':
				return { shape: 'polygon', x: a.x, y: a.y, angle, radius: far, sides: this.sides, corner: 0 };
			case 'star':
				return {
					shape: 'star',
					x: a.x,
					y: a.y,
					angle,
					radius: far,
					inner: 0.5,
					points: this.points,
					corner: 0
				};
			case 'slot':
				return {
					shape: 'slot',
					x: a.x + dx / 2,
					y: a.y + dy / 2,
					angle,
					length: 1.25 * far,
					width: 0.25 * far
				};
		}
		return undefined;
	}

	private putShape(): void {
		try {
			const recipe = this.recipe();
			if (!recipe) throw new CoreError('no-shape', 'Drag it out, or click where it ends.');
			this.put(`Draw a ${NAMES[this.kind].toLowerCase()}`, givenOutline('shape', recipe, this.facts()));
		} catch (error) {
			this.bench.trouble(toProblem(error));
			this.anchors = [];
		}
	}

	/** A typed place relative to the last one, mm. */
	typed(right: number, up: number): void {
		const from = this.last;
		if (!from) return;
		const place = { x: from.x + right, y: from.y + up };
		this.at = place;
		this.frozen = undefined;
		this.remember();
		this.anchors = [...this.anchors, { ...place, ...(this.flowing ? { flowing: true } : {}) }];
		if (this.kind === 'line') return;
		if (this.anchors.length === 3 || (this.kind !== 'arc' && this.kind !== 'circle by three'))
			this.putShape();
	}

	/** The last anchor's kind, and that of those that follow. */
	setFlowing(flowing: boolean): void {
		this.flowing = flowing;
		const { last } = this;
		if (!last || this.kind !== 'line' || (this.from && this.anchors.length === 1)) return;
		const plain = { x: last.x, y: last.y };
		this.anchors = [...this.anchors.slice(0, -1), flowing ? { ...plain, flowing } : plain];
	}

	/** The outgoing handle of the last anchor is dropped: the next side is straight, the incoming curve stays. */
	dropOut(): void {
		const { last } = this;
		if (!last) return;
		const { out: _, ...rest } = last;
		this.anchors = [...this.anchors.slice(0, -1), rest];
	}

	/** Ends the line as it is. */
	finish(): void {
		const { from, closing } = this;
		if (this.kind !== 'line' || this.anchors.length + (from ? from.outline.anchors.length : 0) < 2) {
			this.clear();
			return;
		}
		if (from) {
			if (this.anchors.length === 1 && !closing && !this.anchors[0].out) {
				this.clear();
				return;
			}
			this.put(
				closing ? 'Draw on and close' : 'Draw on',
				continued(from.outline, from.end, this.anchors, closing)
			);
			return;
		}
		this.put('Draw a line', drawnOutline(this.anchors, closing, this.facts()));
	}

	protected put(name: string, outline: DrawingRecord): void {
		this.clear();
		if (this.bench.commit(name, { put: [outline] })) this.bench.selection.selected = new Set([outline.id]);
	}

	clear(): void {
		this.become({ anchors: [], from: undefined });
		this.past = [];
		this.taken = [];
		this.trail = [];
		this.bench.endDrag();
	}
}

function middle(a: Point, b: Point) {
	return { x: (a.x + b.x) / 2, y: (a.y + b.y) / 2, angle: 0 };
}

function endPlace(outline: Outline, end: 'start' | 'end'): Point {
	const at = end === 'start' ? 0 : ANCHOR_STRIDE * (outline.anchors.length - 1);
	return { x: outline.points[at], y: outline.points[at + 1] };
}
