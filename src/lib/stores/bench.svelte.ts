/** The open drawing and everything about working on it: history, selection, view, operations, check. */
import { findStationStates, type StationStates } from './stations';
import type { Fault } from '../core/check/readiness';
import {
	deleteAnchors,
	deleteSegments,
	moveAnchors,
	placeHandle,
	type DeleteWay,
	type Side
} from '../core/edit/anchors';
import {
	outlinesOf,
	pictureKey,
	referencesOf,
	recordAs,
	settingsOf,
	type Drawing,
	type Reference
} from '../core/edit/drawing';
import { applyStep, makeStep, touchedIds, type Edit, type Step } from '../core/edit/history';
import { mendFault } from '../core/edit/mend';
import { addImported, removeOutlines } from '../core/edit/operations';
import {
	ANCHOR_STRIDE,
	anchorIndex,
	madePlain,
	resolve,
	sourceLine,
	type Outline
} from '../core/edit/outline';
import { pullVertex } from '../core/edit/control-polygon';
import { endAt, meetingAt, nearestEnds, sidesOf, type MeetSide } from '../core/edit/meet';
import { reachEnds, type Reach } from '../core/edit/pulling';
import type { GuideLine, Snap } from '../core/edit/snap';
import { moveBy, placeOutlines, transformOutline } from '../core/edit/transform';
import { isOnReference, levelledBy, onPaper, onPicture, referenceBox, scaleOf } from '../core/edit/placement';
import { breakOutline } from '../core/edit/structure';
import { CoreError, toProblem, type Problem } from '../core/errors';
import type { Imported } from '../core/formats/imported';
import type { Worst } from '../core/geometry/deviation';
import { twoWayDistance } from '../core/geometry/edge-tree';
import { isEmptyBox, unionBox } from '../core/geometry/measure';
import { boxOf, nearestOnPath, PathIndex } from '../core/geometry/pick';
import type { Path } from '../core/geometry/path';
import type { Box } from '../core/geometry/segment';
import type { Way } from '../core/trace/ways';
import { meanScale, rectifying, type Corner } from '../core/trace/perspective';
import { formatLength } from '../core/units';
import { COMB_PX } from '../render/comb';
import { fitBox, MARGINS, panBy, seenBox, toPaper, zoomAt, type Margins, type View } from '../render/view';
import { hashOf, loadDrawing, loadPicture, storePicture, storeStep } from '../storage/drawings';
import { checkWorker } from '../workers/geometry.client';
import { pictureWorker } from '../workers/picture.client';
import { CombineOperation, CornerOperation, JoinOperation, TrimOperation } from './build-operations.svelte';
import { FairOperation } from './fair-operation.svelte';
import { MeetOperation } from './meet-operation.svelte';
import { PlaceOperation } from './place-operation.svelte';
import { OffsetOperation, SimplifyOperation, TraceOperation, type AnyOperation } from './operations.svelte';
import { Looking } from './looking.svelte';
import { openPicture, whenOpen } from './pictures';
import type { Pen } from './pen.svelte';

export type Station = 'picture' | 'size' | 'trace' | 'mend' | 'build' | 'offset' | 'cut';

export interface Notice {
	readonly id: number;
	readonly sentence: string;
	readonly tone: 'told' | 'trouble';
}

/** Places picked on a picture, in its pixels: two for a distance, four for the corners of a rectangle. */
export interface Sizing {
	readonly reference: string;
	readonly points: readonly { readonly x: number; readonly y: number }[];
	readonly purpose: 'size' | 'check' | 'corners' | 'level';
	/** How straight the edges of a sheet found by itself are, px. */
	readonly straightness?: number;
}

/** How selected anchors move: freely, along the side before or after, along their own line, or softly with their neighbourhood. */
export const MOVING_WAYS = ['free', 'before', 'after', 'own line', 'soft'] as const;
export type MovingWay = (typeof MOVING_WAYS)[number];

/** What would be picked: an anchor, one of its handles, or a segment. */
export interface Under {
	readonly outline: string;
	readonly anchor: number;
	readonly side?: 'in' | 'out';
	readonly isSegment?: boolean;
}

/** Numbers of what is dragged or drawn, from where it began; each can be typed. */
export interface Measure {
	/** Where the pointer is, px of the window. */
	readonly x: number;
	readonly y: number;
	/** mm to the right and up. */
	readonly right: number;
	readonly up: number;
	/** Takes typed numbers and ends the gesture. */
	readonly set: (right: number, up: number) => void;
}

/** px: how wide the rack and the tag are, with the air beside them. */
const RACK_PX = 268;
const TAG_PX = 236;

const NONE: ReadonlySet<number> = new Set();

export const newId = (): string => crypto.randomUUID();

/** How near the pointer must come, px. Fingers are broader. */
export const REACH_PX = { mouse: 9, pen: 12, touch: 22 };
export type PointerKind = keyof typeof REACH_PX;

export class Bench {
	drawing = $state.raw<Drawing>() as Drawing;
	/** Names of all steps, and how many of them are done. */
	stepNames = $state.raw<readonly string[]>([]);
	pointer = $state(0);
	private steps: Step[] = [];

	selected = $state.raw<ReadonlySet<string>>(new Set());
	/** The outlines that are entered; the first is the one in hand. */
	enteredIds = $state.raw<readonly string[]>([]);
	/** The selected anchors of each entered outline. */
	picked = $state.raw<ReadonlyMap<string, ReadonlySet<number>>>(new Map());
	/** Segments picked in the outline in hand, by the ids of the anchors that they leave. */
	segments = $state.raw<ReadonlySet<number>>(NONE);
	/** A handle of the one selected anchor that the arrows move. */
	handleInHand = $state<'in' | 'out' | undefined>();
	/** What lies under the pointer in the entered outlines and would be picked. */
	under = $state.raw<Under | undefined>();
	/** Outlines as they would become, while something is dragged. */
	drafts = $state.raw<ReadonlyMap<string, Outline>>(new Map());
	/** How selected anchors move when they are dragged. */
	movingWay = $state<MovingWay>('free');
	/** How many anchors are put in evenly. */
	evenly = $state(3);
	/** How anchors move, and how far an arrow goes, is shown to be set. */
	tuning = $state(false);
	/** How far along the line a soft pull goes, mm. */
	reachAlong = $state.raw<Reach>({ before: 20, after: 20 });
	/** How far the selected outlines are carried while they are dragged, mm. */
	carried = $state.raw<{ right: number; up: number } | undefined>();
	/** What is drawn with, while it is. */
	pen = $state.raw<Pen | undefined>();
	/** The numbers of the drag or of the line being drawn, told and typed at the pointer. */
	measure = $state.raw<Measure | undefined>();
	/** What the dragged place has snapped to. */
	snap = $state.raw<Snap | undefined>();
	/** Guide lines that show by what a drag is bound just now. */
	bound = $state.raw<readonly GuideLine[]>([]);
	/** A menu near the pointer: where, px. */
	menu = $state.raw<{ x: number; y: number } | undefined>();
	/** mm that an arrow moves; ten times and a tenth of it with Shift and Alt. */
	nudge = $state(0.1);

	view = $state.raw<View>({ scale: 3, x: 100, y: -140 });
	size = $state.raw({ widthPx: 1280, heightPx: 800 });
	moving = $state(false);
	/** How much of the window's lower edge the tray and the thread cover, px; told by the page. */
	trayPx = $state(0);
	private settleTimer: ReturnType<typeof setTimeout> | undefined;

	station = $state<Station | undefined>('picture');
	operation = $state.raw<AnyOperation | undefined>();
	filled = $state(false);
	grid = $state(false);
	picturesHidden = $state(false);
	/** Dragged places snap to the picture's edge too. */
	snapsToPicture = $state(true);
	/** While a key is held: the drawing as it was before the last step. */
	before = $state.raw<Drawing | undefined>();
	rackOpen = $state(false);
	finding = $state(false);
	/** Two picked places for the true size, in picture pixels. */
	sizing = $state.raw<Sizing | undefined>();
	/** A picture in hand to be moved, turned and cropped, by id; as it would become while it is dragged. */
	placing = $state.raw<string | undefined>();
	placed = $state.raw<Reference | undefined>();
	/** Where the window is parted between what the tracer sees and the picture, 0..1. */
	split = $state(0.5);
	/** Where the pointer is on the paper, mm, while something is picked there. */
	pointing = $state.raw<{ x: number; y: number } | undefined>();
	/** mm per CSS pixel on this screen, once measured. */
	screenPxPerMm = $state(96 / 25.4);

	faults = $state.raw<readonly Fault[]>([]);
	private checked: readonly Outline[] = [];
	checking = $state(false);
	faultAt = $state(-1);
	notices = $state.raw<readonly Notice[]>([]);
	/** Another tab holds the drawing: this one reads along. */
	readOnly = $state(false);
	storageFull = $state(false);
	/** How many writes are under way. */
	saving = $state(0);

	readonly bitmaps = new Map<string, ImageBitmap>();
	bitmapVersion = $state(0);

	private index: { drawing: Drawing; outlines: readonly Outline[]; paths: PathIndex } | undefined;
	private checkTimer: ReturnType<typeof setTimeout> | undefined;
	private checkRequest = 0;
	private writes: Promise<unknown> = Promise.resolve();

	readonly settings = $derived.by(() => settingsOf(this.drawing));
	readonly unit = $derived(this.settings.unit);
	readonly outlines = $derived.by(() => outlinesOf(this.drawing));
	readonly references = $derived.by(() => referencesOf(this.drawing));
	/** The drawing with what is held just now. */
	readonly shown: Drawing = $derived.by(() => {
		const { drawing, placed } = this;
		return placed ? { ...drawing, records: new Map(drawing.records).set(placed.id, placed) } : drawing;
	});
	/** The picture in hand, as it is or as it would become. */
	readonly placedReference = $derived.by(
		() => this.placed ?? this.references.find((r) => r.id === this.placing)
	);
	readonly selectedOutlines = $derived.by(() => this.outlines.filter((o) => this.selected.has(o.id)));
	/** Selected outlines that a drag may carry, and as they lie while it does. */
	private readonly loose = $derived(this.selectedOutlines.filter((o) => !o.locked));
	readonly carriedOutlines: readonly Outline[] = $derived.by(() => {
		const { carried } = this;
		return carried ? this.loose.map((o) => transformOutline(o, moveBy(carried.right, carried.up))) : [];
	});
	/** The entered outlines as they are or would become, the one in hand first. */
	readonly enteredOutlines = $derived.by((): readonly Outline[] =>
		this.enteredIds.flatMap((id) => {
			const record = this.drafts.get(id) ?? this.drawing.records.get(id);
			return record?.type === 'outline' ? [record] : [];
		})
	);
	readonly enteredOutline = $derived.by((): Outline | undefined => this.enteredOutlines[0]);
	get entered(): string | undefined {
		return this.enteredIds[0];
	}
	/** The selected anchors of the outline in hand. Setting them lets go of those of the others. */
	get anchors(): ReadonlySet<number> {
		return this.anchorsOf(this.entered);
	}
	set anchors(ids: ReadonlySet<number>) {
		this.handleInHand = undefined;
		this.picked = this.entered === undefined ? new Map() : new Map([[this.entered, ids]]);
	}
	anchorsOf(id: string | undefined): ReadonlySet<number> {
		return (id === undefined ? undefined : this.picked.get(id)) ?? NONE;
	}
	/** Selects anchors in one of the entered outlines, beside what is selected in the others. */
	pickAnchors(id: string, anchors: ReadonlySet<number>): void {
		this.handleInHand = undefined;
		this.picked = new Map(this.picked).set(id, anchors);
	}
	/** One segment picked in the outline in hand: the first of several. */
	get segment(): number | undefined {
		return [...this.segments][0];
	}
	set segment(anchor: number | undefined) {
		this.segments = anchor === undefined ? NONE : new Set([anchor]);
	}
	get draft(): Outline | undefined {
		return this.entered === undefined ? undefined : this.drafts.get(this.entered);
	}
	/** Takes another of the entered outlines in hand. */
	takeInHand(id: string): void {
		if (this.entered === id) return;
		this.segments = NONE;
		this.enteredIds = [id, ...this.enteredIds.filter((other) => other !== id)];
	}
	/** Indexes of the picked segments in the outline in hand. */
	segmentIndexes(): Set<number> {
		const outline = this.enteredOutline;
		return new Set(
			outline ? [...this.segments].map((id) => outline.anchors.indexOf(id)).filter((i) => i >= 0) : []
		);
	}
	/** How one looks at lines. */
	readonly looking = new Looking(this);
	readonly canUndo = $derived(this.pointer > 0 && !this.readOnly);
	readonly canRedo = $derived(this.pointer < this.stepNames.length && !this.readOnly);
	readonly stations: StationStates = $derived.by(() =>
		findStationStates(this.drawing, this.faults, this.outlines.length)
	);

	constructor(drawing: Drawing, steps: Step[], pointer: number) {
		this.drawing = drawing;
		this.steps = steps;
		this.pointer = pointer;
		this.stepNames = steps.map((s) => s.name);
	}

	/** Opens a stored drawing. Undefined where there is none of that id. */
	static async open(id: string): Promise<Bench | undefined> {
		const stored = await loadDrawing(id);
		if (!stored) return undefined;
		const bench = new Bench(stored.drawing, stored.steps, stored.pointer);
		bench.station = bench.outlines.length ? 'mend' : bench.references.length ? 'trace' : 'picture';
		for (const reference of bench.references) void bench.loadReference(reference);
		bench.checkSoon(0);
		return bench;
	}

	// ---- words to the person

	tell(sentence: string, tone: Notice['tone'] = 'told'): void {
		const notice = { id: Date.now() + Math.random(), sentence, tone };
		this.notices = [...this.notices.slice(-3), notice];
		setTimeout(() => this.dismiss(notice.id), tone === 'trouble' ? 12_000 : 5000);
	}
	trouble(problem: Problem): void {
		this.tell(problem.sentence, 'trouble');
	}
	dismiss(id: number): void {
		this.notices = this.notices.filter((n) => n.id !== id);
	}

	// ---- steps

	/** Makes a named step of an edit. Says nothing where nothing changes. */
	commit(name: string, edit: Edit): boolean {
		if (this.readOnly) {
			this.tell('This drawing is being edited in another tab. Take it over to change it here.', 'trouble');
			return false;
		}
		const step = makeStep(this.drawing, name, edit);
		if (!step) return false;
		this.drawing = applyStep(this.drawing, step, 'forward');
		this.steps = [...this.steps.slice(0, this.pointer), step];
		this.pointer = this.steps.length;
		this.stepNames = this.steps.map((s) => s.name);
		this.save(step, true);
		this.afterChange();
		return true;
	}

	undo(): void {
		if (!this.canUndo) return;
		this.dropOperation();
		const step = this.steps[this.pointer - 1];
		this.drawing = applyStep(this.drawing, step, 'back');
		this.pointer--;
		this.save(step, false);
		this.afterChange();
		this.show(step);
	}

	redo(): void {
		if (!this.canRedo) return;
		this.dropOperation();
		const step = this.steps[this.pointer];
		this.drawing = applyStep(this.drawing, step, 'forward');
		this.pointer++;
		this.save(step, false);
		this.afterChange();
		this.show(step);
	}

	/** Goes to where so many steps are done. */
	goTo(pointer: number): void {
		while (this.pointer > pointer && this.canUndo) this.undo();
		while (this.pointer < pointer && this.canRedo) this.redo();
	}

	/** The drawing before its last step. */
	previous(): Drawing | undefined {
		return this.pointer > 0 ? applyStep(this.drawing, this.steps[this.pointer - 1], 'back') : undefined;
	}

	/** What a step touched is brought into sight when it lies outside. */
	private show(step: Step): void {
		const boxes: Box[] = [];
		for (const id of touchedIds(step)) {
			const record = this.drawing.records.get(id);
			if (record?.type === 'outline') boxes.push(boxOf(resolve(record)));
		}
		this.bringIntoSight(unionBox(boxes));
	}

	/** Brings an outline into sight when it lies outside the window. */
	reveal(outline: Outline): void {
		this.bringIntoSight(boxOf(resolve(outline)));
	}

	private bringIntoSight(box: Box): void {
		if (isEmptyBox(box)) return;
		const a = toPaper(this.view, this.size, 0, this.size.heightPx);
		const b = toPaper(this.view, this.size, this.size.widthPx, 0);
		if (box.x1 < a.x || box.x0 > b.x || box.y1 < a.y || box.y0 > b.y)
			this.view = fitBox(box, this.size, this.margins());
	}

	private save(step: Step, isNew: boolean): void {
		const { drawing, pointer } = this;
		this.saving++;
		this.writes = this.writes
			.then(() => storeStep(drawing, step, pointer, isNew))
			.catch((error: unknown) => this.saveFailed(error))
			.finally(() => this.saving--);
	}

	private saveFailed(error: unknown): void {
		if (error instanceof DOMException && error.name === 'QuotaExceededError') {
			this.storageFull = true;
			this.tell(
				'The browser has no room left to save. Save the drawing as a file now, then remove old drawings.',
				'trouble'
			);
		} else
			this.tell(
				`The last step could not be saved: ${toProblem(error).sentence} Save the drawing as a file.`,
				'trouble'
			);
	}

	/** Resolves when everything so far is written. */
	async saved(): Promise<void> {
		await this.writes;
	}

	private afterChange(): void {
		for (const reference of this.references) void this.showStraight(reference);
		const has = (id: string) => this.drawing.records.has(id);
		if ([...this.selected].some((id) => !has(id))) this.selected = new Set([...this.selected].filter(has));
		if (this.enteredIds.some((id) => !has(id))) {
			this.enteredIds = this.enteredIds.filter(has);
			if (this.enteredIds.length === 0) this.leave();
		}
		for (const outline of this.enteredOutlines) {
			const ids = new Set(outline.anchors);
			const picked = this.anchorsOf(outline.id);
			if ([...picked].some((id) => !ids.has(id)))
				this.pickAnchors(outline.id, new Set([...picked].filter((id) => ids.has(id))));
			if (outline.id === this.entered && [...this.segments].some((id) => !ids.has(id)))
				this.segments = new Set([...this.segments].filter((id) => ids.has(id)));
		}
		this.checkSoon();
	}

	// ---- readiness

	checkSoon(delay = 250): void {
		clearTimeout(this.checkTimer);
		this.checking = true;
		this.checkTimer = setTimeout(() => void this.check(), delay);
	}

	private async check(): Promise<void> {
		const request = ++this.checkRequest;
		const outlines = this.outlines;
		const answer = await checkWorker().check(request, outlines.map(resolve));
		if (request !== this.checkRequest || answer.ok === 'stale') return;
		this.checking = false;
		if (!answer.ok) return;
		const faults: Fault[] = [...answer.value];
		const unsized = this.references.find((r) => r.pxPerMm === undefined);
		if (unsized) {
			faults.unshift({
				kind: 'no-size',
				x: unsized.x,
				y: unsized.y,
				why: `"${unsized.name}" has no true size yet: what is traced from it would have no scale.`,
				mend: 'size',
				stops: true
			});
		}
		this.checked = outlines;
		this.faults = faults;
		if (this.faultAt >= faults.length) this.faultAt = faults.length - 1;
	}

	/** Goes to the next thing to mend. */
	nextFault(by = 1): void {
		if (this.faults.length === 0) {
			this.tell('Nothing is left to mend.');
			return;
		}
		this.goToFault((this.faultAt + by + this.faults.length) % this.faults.length);
	}

	goToFault(i: number): void {
		const fault = this.faults[i];
		if (!fault) return;
		this.faultAt = i;
		if (fault.kind === 'no-size') {
			this.station = 'size';
			return;
		}
		this.station = 'mend';
		this.leave();
		const outline = fault.outline === undefined ? undefined : this.checked[fault.outline];
		this.selected = new Set(outline && this.drawing.records.has(outline.id) ? [outline.id] : []);
		this.lookAt(fault);
	}

	mendOf(fault: Fault): string | undefined {
		return {
			size: 'Give it a size',
			'join-ends': 'Join the ends',
			close: 'Close it',
			remove: 'Remove it',
			'remove-segments': 'Take them out',
			'take-overlap': 'Take the doubled stretch out',
			'take-spikes': 'Take the spikes out',
			fair: 'Make it fair',
			thin: 'Thin it out',
			none: undefined
		}[fault.mend];
	}

	mend(fault: Fault): void {
		if (fault.mend === 'size') {
			this.station = 'size';
			return;
		}
		const edit = mendFault(this.drawing, fault, this.checked, newId);
		if (edit) this.commit(this.mendOf(fault) ?? 'Mend', edit);
	}

	/** Mends everything of which it is clear how. */
	mendAll(): void {
		const put = new Map<string, NonNullable<Edit['put']>[number]>();
		const remove = new Set<string>();
		let count = 0;
		for (const fault of this.faults) {
			if (fault.mend === 'none' || fault.mend === 'size') continue;
			const edit = mendFault(this.drawing, fault, this.checked, newId);
			if (!edit) continue;
			count++;
			for (const r of edit.put ?? []) put.set(r.id, r);
			for (const id of edit.remove ?? []) remove.add(id);
		}
		for (const id of remove) put.delete(id);
		if (this.commit(`Mend ${count} faults`, { put: [...put.values()], remove: [...remove] })) {
			this.tell(`${count} faults mended. One undo takes it all back.`);
		}
	}

	/** The outline that a fault is about. */
	faultOutline(fault: Fault): Outline | undefined {
		return fault.outline === undefined ? undefined : this.checked[fault.outline];
	}

	// ---- picking and selecting

	/** The outlines that can be seen and touched, with an index over them. */
	pickable(): { outlines: readonly Outline[]; paths: PathIndex } {
		if (this.index?.drawing !== this.drawing) {
			const outlines = this.outlines.filter((o) => this.isShown(o) && !o.locked);
			this.index = { drawing: this.drawing, outlines, paths: new PathIndex(outlines.map(resolve)) };
		}
		return this.index;
	}

	isShown(outline: Outline): boolean {
		const layer = this.drawing.records.get(outline.layer);
		return !outline.hidden && !(layer?.type === 'layer' && layer.hidden);
	}

	reach(kind: PointerKind): number {
		return REACH_PX[kind] / this.view.scale;
	}

	outlineAt(x: number, y: number, kind: PointerKind): Outline | undefined {
		const { outlines, paths } = this.pickable();
		const hit = paths.nearest(x, y, this.reach(kind));
		return hit ? outlines[hit.path] : undefined;
	}

	/** All outlines under the pointer, the nearest first. */
	outlinesAt(x: number, y: number, kind: PointerKind): Outline[] {
		const { outlines, paths } = this.pickable();
		const reach = this.reach(kind);
		return paths
			.within(x - reach, y - reach, x + reach, y + reach)
			.flatMap((i) => {
				const near = nearestOnPath(paths.paths[i], x, y, reach);
				return near ? [{ outline: outlines[i], off: near.distance }] : [];
			})
			.sort((a, b) => a.off - b.off)
			.map((f) => f.outline);
	}

	/** The place on the outline in hand nearest to the pointer. */
	placeOnEntered(x: number, y: number, kind: PointerKind): { segment: number; t: number } | undefined {
		const outline = this.enteredOutline;
		return outline ? nearestOnPath(sourceLine(outline), x, y, this.reach(kind)) : undefined;
	}

	select(ids: Iterable<string>): void {
		this.leave();
		this.selected = new Set(ids);
	}

	/** Enters outlines to edit their anchors. */
	enter(...ids: string[]): void {
		const outlines = ids.filter((id) => this.drawing.records.get(id)?.type === 'outline');
		if (outlines.length === 0) return;
		this.dropOperation();
		this.selected = new Set(outlines);
		this.letGo();
		this.enteredIds = outlines;
		this.station = 'mend';
	}

	leave(): void {
		this.enteredIds = [];
		this.letGo();
	}

	/** Nothing in the entered outlines is selected or dragged any more. */
	letGo(): void {
		this.picked = new Map();
		this.segments = NONE;
		this.drafts = new Map();
		this.under = undefined;
		this.handleInHand = undefined;
		this.endDrag();
	}

	/** What a drag showed is over. */
	endDrag(): void {
		this.measure = undefined;
		this.snap = undefined;
		this.bound = [];
	}

	// ---- editing the entered outline

	/** Changes the entered outlines in which anchors are selected (or the one in hand) in one named step. */
	change(name: string, edit: (outline: Outline, anchors: ReadonlySet<number>) => Outline): void {
		if (this.entered === undefined) return;
		try {
			const put = this.edited(edit);
			this.drafts = new Map();
			if (put.length) this.commit(name, { put });
		} catch (error) {
			this.drafts = new Map();
			this.trouble(toProblem(error));
		}
	}

	/** Changes the outline in hand alone, in one named step. */
	changeInHand(name: string, edit: (outline: Outline) => Outline): void {
		this.change(name, (o) => (o.id === this.entered ? edit(o) : o));
	}

	/** The entered outlines that an edit changes, as they become. A shape whose line was changed is made plain. */
	private edited(edit: (outline: Outline, anchors: ReadonlySet<number>) => Outline): Outline[] {
		const put: Outline[] = [];
		for (const id of this.enteredIds) {
			const anchors = this.anchorsOf(id);
			if (anchors.size === 0 && id !== this.entered) continue;
			const outline = recordAs(this.drawing, 'outline', id);
			const next = edit(outline, anchors);
			if (next === outline) continue;
			put.push(next.recipe && next.recipe === outline.recipe ? madePlain(next) : next);
		}
		return put;
	}

	/** Shows the entered outlines as they would become, without a step. What cannot be is said and not shown. */
	hold(edit: (outline: Outline, anchors: ReadonlySet<number>) => Outline): void {
		if (this.entered === undefined || this.readOnly) return;
		try {
			this.drafts = new Map(this.edited(edit).map((o) => [o.id, o]));
		} catch (error) {
			this.drafts = new Map();
			this.trouble(toProblem(error));
		}
	}

	/** What is held becomes a step. */
	release(name: string): void {
		const { drafts } = this;
		this.drafts = new Map();
		this.endDrag();
		if (drafts.size) this.commit(name, { put: [...drafts.values()] });
	}

	/** Outlines that were carried stay where they are, as one step. */
	releaseCarried(): void {
		const { carried, loose } = this;
		this.carried = undefined;
		this.endDrag();
		if (!carried || loose.length === 0) return;
		this.commit(
			loose.length === 1 ? `Move "${loose[0].name}"` : `Move ${loose.length} outlines`,
			placeOutlines(this.drawing, loose, moveBy(carried.right, carried.up))
		);
	}

	/** Makes a step of new lines of outlines, and tells how far they moved. */
	commitTold(name: string, edit: Edit): boolean {
		let drift: number | undefined;
		for (const next of edit.put ?? []) {
			const before = this.drawing.records.get(next.id);
			if (next.type !== 'outline' || before?.type !== 'outline') continue;
			const { distance } = twoWayDistance([resolve(before)], [resolve(next)], 0.001, 0.1);
			drift = Math.max(drift ?? 0, distance);
		}
		if (!this.commit(name, edit)) return false;
		if (drift !== undefined) this.tell(`The line moved by ${formatLength(drift, this.unit)} at most.`);
		return true;
	}

	/** A handle put elsewhere: as a vertex of the control polygon while that is shown. @param alone without its partner. */
	withHandle(outline: Outline, anchor: number, side: Side, x: number, y: number, alone = false): Outline {
		return this.looking.polygon && !alone
			? pullVertex(outline, anchor, side, x, y)
			: placeHandle(outline, anchor, side, x, y, alone);
	}

	/** Moves what is selected by the arrows: the handle in hand, or the anchors. */
	nudgeBy(dx: number, dy: number): void {
		const side = this.handleInHand;
		if (side === undefined) {
			this.change('Nudge', (o, ids) => moveAnchors(o, ids, dx, dy));
			return;
		}
		this.change('Nudge handle', (o, ids) => {
			const [id] = ids;
			const i = anchorIndex(o, id);
			if (i === undefined) return o;
			const k = ANCHOR_STRIDE * i + (side === 'in' ? 2 : 4);
			return this.withHandle(o, id, side, o.points[k] + dx, o.points[k + 1] + dy);
		});
	}

	removeAnchors(way: DeleteWay): void {
		const put: Outline[] = [];
		const gone = new Set<string>();
		let count = 0;
		for (const outline of this.enteredOutlines) {
			const ids = this.anchorsOf(outline.id);
			if (ids.size === 0) continue;
			count += ids.size;
			const next = deleteAnchors(outline, ids, way);
			if (next) put.push(madePlain(next));
			else gone.add(outline.id);
		}
		if (count === 0) return;
		const edit = { put, remove: removeOutlines(this.drawing, gone).remove };
		this.picked = new Map();
		const name = gone.size ? 'Remove outline' : count === 1 ? 'Delete anchor' : `Delete ${count} anchors`;
		this.commitTold(name, edit);
	}

	/** Deletes the picked segment: a closed outline opens, an open one falls apart. */
	removeSegment(): void {
		const outline = this.enteredOutline;
		if (!outline || this.segment === undefined) return;
		const parts = deleteSegments(madePlain(outline), this.segmentIndexes());
		this.segment = undefined;
		if (parts.length === 0) {
			this.commit('Remove outline', removeOutlines(this.drawing, new Set([outline.id])));
			return;
		}
		const put = parts.map((part, k) =>
			k === 0 ? part : { ...part, id: newId(), name: `${outline.name}, rest`, rank: outline.rank + 0.001 * k }
		);
		if (this.commit('Delete segment', { put })) {
			this.tell(
				outline.closed
					? 'The outline is open now: one piece, two ends.'
					: `There are ${parts.length} open outlines now.`
			);
		}
	}

	removeSelected(): void {
		const ids = this.selected;
		if (ids.size === 0) return;
		const name =
			ids.size === 1 ? `Remove "${this.selectedOutlines[0]?.name}"` : `Remove ${ids.size} outlines`;
		this.commit(name, removeOutlines(this.drawing, ids));
	}

	// ---- operations

	startTrace(reference: Reference, way?: Way): void {
		this.dropOperation();
		this.leave();
		this.selected = new Set();
		this.station = 'trace';
		const operation = new TraceOperation(reference, () => ({
			box: seenBox(this.view, this.size),
			scale: this.view.scale
		}));
		if (way) operation.way = way;
		this.operation = operation;
		operation.change(0);
	}

	startSimplify(): void {
		if (this.enteredOutlines.some((o) => this.anchorsOf(o.id).size > 1)) {
			this.startFair({ way: 'simplify', drift: lastSettings.simplify });
			return;
		}
		const outlines = this.targets();
		if (outlines.length === 0) return;
		this.dropOperation();
		const operation = new SimplifyOperation(outlines, this.drawing);
		operation.tolerance = lastSettings.simplify;
		this.station = 'mend';
		this.operation = operation;
		operation.change(0);
		void operation.draw();
	}

	/** Fairs what is selected: the stretch between the selected anchors, or whole outlines. */
	startFair(settings: Partial<FairOperation['settings']> = {}): FairOperation | undefined {
		const entered = this.enteredOutline;
		if (this.enteredOutlines.filter((o) => this.anchorsOf(o.id).size > 0).length > 1) {
			this.tell(
				'The selected anchors lie on two outlines. Select a stretch of one, or none for all of both.'
			);
			return undefined;
		}
		const stretch = entered && this.anchors.size > 1 ? this.anchors : undefined;
		const outlines = entered ? this.enteredOutlines : this.targets();
		if (outlines.length === 0) {
			this.tell('There is no outline to fair.');
			return undefined;
		}
		if (stretch && [...this.picked.values()].filter((ids) => ids.size > 0).length > 1) {
			this.tell('The selection lies on two outlines. Fair a stretch of one, or whole outlines.');
			return undefined;
		}
		this.dropOperation();
		const operation = new FairOperation(stretch ? [entered!] : outlines, this.drawing, stretch);
		if (operation.likely !== undefined) operation.drift = operation.likely;
		Object.assign(operation, lastSettings.fair, settings);
		this.station = 'mend';
		this.operation = operation;
		operation.change(0);
		return operation;
	}

	/** Fairs again as last time, `stronger` times as strong, and keeps it at once. */
	async fairAgain(stronger: number): Promise<void> {
		lastSettings.fair.strength = Math.min(20, (lastSettings.fair.strength ?? 1) * stronger);
		const operation = this.startFair({ way: 'fair' });
		if (!operation) return;
		if (stronger > 1) operation.set({ drift: operation.drift * stronger });
		await operation.settled();
		if (this.operation !== operation) return;
		if (operation.ready && operation.moved > 0) this.keepOperation();
		else {
			this.dropOperation();
			this.tell(operation.problem?.sentence ?? operation.nothing);
		}
	}

	startOffset(): void {
		const outlines = this.targets();
		if (outlines.length === 0) {
			this.tell('There is no outline to offset.');
			return;
		}
		this.dropOperation();
		this.leave();
		const operation = new OffsetOperation(outlines);
		Object.assign(operation, lastSettings.offset);
		this.station = 'offset';
		this.operation = operation;
		operation.change(0);
	}

	/** Moves, turns, scales, mirrors or copies the selected outlines. */
	startPlace(): void {
		const outlines = this.selectedOutlines.filter((o) => !o.locked);
		if (outlines.length === 0) return;
		this.leave();
		this.startBuild(new PlaceOperation(outlines));
	}

	private startBuild(
		operation:
			CombineOperation | JoinOperation | TrimOperation | CornerOperation | PlaceOperation | MeetOperation
	): void {
		this.dropOperation();
		this.station = 'build';
		this.operation = operation;
		operation.change(0);
	}

	startCombine(): void {
		const outlines = this.selectedOutlines.filter((o) => o.closed);
		if (outlines.length < 2) {
			this.tell('Select two or more closed outlines to combine.');
			return;
		}
		this.leave();
		this.startBuild(new CombineOperation(outlines));
	}

	startJoin(): void {
		const outlines = this.targets().filter((o) => !o.closed);
		if (outlines.length === 0) {
			this.tell('There is no open outline to join.');
			return;
		}
		this.leave();
		this.startBuild(new JoinOperation(outlines));
	}

	startTrim(): void {
		const outline = this.enteredOutline;
		if (!outline || this.segment === undefined) return;
		const cutters = this.outlines.filter((o) => o.id !== outline.id && this.isShown(o)).map(resolve);
		this.startBuild(new TrimOperation(outline, outline.anchors.indexOf(this.segment), cutters));
	}

	startCorner(): void {
		const outline = this.enteredOutline;
		if (!outline || this.anchors.size === 0) return;
		const operation = new CornerOperation(outline, this.anchors);
		operation.amount = operation.given ?? lastSettings.corner;
		this.startBuild(operation);
	}

	/** The two parts that are selected to meet: the sides of an anchor, or two ends. */
	meeting(): { outlines: readonly Outline[]; parts: readonly [MeetSide, MeetSide] } | undefined {
		const picked = this.enteredOutlines.flatMap((outline) =>
			[...this.anchorsOf(outline.id)].map((anchor) => ({ outline, anchor }))
		);
		if (picked.length === 0) {
			const outlines = this.selectedOutlines.filter((o) => !o.closed);
			const parts = outlines.length === 1 || outlines.length === 2 ? nearestEnds(outlines) : undefined;
			return parts && { outlines, parts };
		}
		const [one] = picked;
		if (picked.length === 1)
			return meetingAt(one.outline, one.anchor)
				? { outlines: [one.outline], parts: sidesOf(one.outline.id, one.anchor) }
				: undefined;
		const [first, second] = picked.map((p) => endAt(p.outline, p.anchor));
		if (picked.length !== 2 || !first || !second) return undefined;
		return { outlines: [...new Set(picked.map((p) => p.outline))], parts: [first, second] };
	}

	startMeet(): void {
		const meeting = this.meeting();
		if (!meeting) return;
		const operation = new MeetOperation(meeting.outlines.map(madePlain), ...meeting.parts);
		if (operation.isOneAnchor || operation.before.how !== 'apart') operation.way = 'curvature';
		this.startBuild(operation);
		this.looking.combed = true;
	}

	/** Cuts the entered outline at its selected anchors, or in the middle of the picked stretch. */
	breakHere(): void {
		const outline = this.enteredOutline;
		if (!outline) return;
		const places =
			this.segment !== undefined
				? [{ segment: outline.anchors.indexOf(this.segment), t: 0.5 }]
				: [...this.anchors].map((id) => ({ segment: outline.anchors.indexOf(id), t: 0 }));
		const { edit, parts } = breakOutline(this.drawing, madePlain(outline), places, newId);
		if (outline.closed || parts > 1) this.commit('Break', edit);
		this.segment = undefined;
		this.anchors = new Set();
		if (parts > 1) {
			this.leave();
			this.select([outline.id, ...(edit.put ?? []).map((r) => r.id)]);
			this.tell(`The outline is in ${parts} parts now, each an outline of its own.`);
		} else if (outline.closed)
			this.tell('The outline is open here now; its two ends still lie on one place.');
		else this.tell('An end of the line is no place to cut it.');
	}

	/** What a command works on: the selection, or everything where nothing is selected. */
	targets(): readonly Outline[] {
		return this.selectedOutlines.length
			? this.selectedOutlines
			: this.outlines.filter((o) => this.isShown(o));
	}

	keepOperation(): void {
		const operation = this.operation;
		if (!operation?.ready) return;
		const edit = operation.edit(this.drawing, newId);
		let name: string;
		if (operation.kind === 'trace') name = `Trace "${operation.reference.name}"`;
		else if (operation.kind === 'simplify') {
			name = 'Simplify';
			lastSettings.simplify = operation.tolerance;
		} else {
			name = operation.name;
			if (operation.kind === 'corner') lastSettings.corner = operation.amount;
			if (operation.kind === 'fair') lastSettings.fair = operation.settings;
			if (operation.kind === 'offset') lastSettings.offset = operation.settings;
		}
		this.operation = undefined;
		if (!this.commit(name, edit)) {
			this.tell('Nothing changed: there was nothing to gain.');
			return;
		}
		if (operation.kind === 'trace') {
			this.station = 'mend';
			this.tell(`${edit.put?.length ?? 0} outlines traced. The picture stays underneath; P hides it.`);
		} else if (operation.kind === 'fair') {
			this.picked = new Map();
			this.tell(`${name}: ${operation.anchorsBefore} anchors are ${operation.anchorsAfter} now.`);
		} else if (operation.kind !== 'simplify') {
			this.anchors = new Set();
			this.segment = undefined;
			if (this.entered && !this.drawing.records.has(this.entered)) this.leave();
			if (!this.entered)
				this.selected = new Set(
					(edit.put ?? []).filter((r) => !('hidden' in r && r.hidden)).map((r) => r.id)
				);
		}
	}

	dropOperation(): void {
		this.operation?.stop();
		this.operation = undefined;
		this.sizing = undefined;
		this.placing = undefined;
		this.placed = undefined;
		this.pen = undefined;
		this.menu = undefined;
		this.endDrag();
	}

	// ---- pictures

	private async loadReference(reference: Reference): Promise<void> {
		if (this.bitmaps.has(pictureKey(reference))) return;
		// Asked for at once, so that what needs the picture meanwhile waits for it.
		const answer = await openPicture(reference.picture, async () => {
			const stored = await loadPicture(reference.picture);
			if (!stored)
				throw new CoreError('no-picture', `The picture "${reference.name}" is missing from this browser.`);
			return stored.bytes;
		}).catch((error: unknown) => ({ ok: false as const, problem: toProblem(error) }));
		if (answer.ok === true) {
			this.bitmaps.set(reference.picture, answer.value.bitmap);
			await this.showStraight(reference);
			this.bitmapVersion++;
		} else if (answer.ok === false) this.trouble(answer.problem);
	}

	/** Has a straightened picture drawn, where it is one and is not drawn yet. */
	private async showStraight(reference: Reference): Promise<void> {
		const key = pictureKey(reference);
		if (!reference.sheet || this.bitmaps.has(key)) return;
		const sheet = $state.snapshot(reference.sheet) as NonNullable<Reference['sheet']>;
		const answer = await pictureWorker().straighten(reference.picture, sheet, reference.pxPerMm ?? 1);
		if (answer.ok === true) {
			this.bitmaps.set(key, answer.value);
			this.bitmapVersion++;
		} else if (answer.ok === false) this.trouble(answer.problem);
	}

	/** Looks for a sheet in a picture, and offers its corners. */
	async offerCorners(reference: Reference): Promise<void> {
		await whenOpen(reference.picture);
		const answer = await pictureWorker().findSheet(reference.picture);
		if (answer.ok === true) {
			const { corners, straightness } = answer.value;
			this.sizing = { reference: reference.id, points: corners, purpose: 'corners', straightness };
			this.tell('A sheet was found. Pull its corners where they are not right.');
		} else if (answer.ok === false) this.trouble(answer.problem);
	}

	/** Takes the perspective out of a picture: four corners of a rectangle of known size. */
	async straighten(
		reference: Reference,
		corners: readonly Corner[],
		width: number,
		height: number
	): Promise<void> {
		const sheet = { corners: corners.map(({ x, y }) => ({ x, y })), width, height };
		try {
			rectifying(sheet);
			const pxPerMm = meanScale(sheet);
			const next: Reference = {
				...reference,
				sheet,
				pxPerMm,
				widthPx: Math.max(1, Math.round(width * pxPerMm)),
				heightPx: Math.max(1, Math.round(height * pxPerMm))
			};
			await whenOpen(reference.picture);
			await this.showStraight(next);
			if (!this.bitmaps.has(pictureKey(next))) return;
			this.commit('Straighten picture', { put: [next] });
			this.sizing = undefined;
			this.fitAll();
		} catch (error) {
			this.trouble(toProblem(error));
		}
	}

	/** Brings a picture in. The drawing is untouched where it cannot be opened. */
	async addPicture(file: File): Promise<void> {
		try {
			const bytes = new Uint8Array(await file.arrayBuffer());
			const hash = await hashOf(bytes);
			const answer = await openPicture(hash, async () => bytes);
			if (answer.ok !== true) {
				if (answer.ok === false)
					this.trouble({ ...answer.problem, sentence: `${file.name}: ${answer.problem.sentence}` });
				return;
			}
			const { widthPx, heightPx, mediaType, statedPxPerMm, bitmap } = answer.value;
			await storePicture({ hash, mediaType, bytes });
			this.bitmaps.set(hash, bitmap);
			this.bitmapVersion++;
			const others = this.references.map((r) => referenceBox(r).x1);
			const reference: Reference = {
				type: 'reference',
				id: newId(),
				rank: Math.max(0, ...[...this.drawing.records.values()].map((r) => r.rank)) + 1,
				name: file.name || 'Pasted picture',
				picture: hash,
				mediaType,
				widthPx,
				heightPx,
				...(statedPxPerMm ? { statedPxPerMm, pxPerMm: statedPxPerMm } : {}),
				x: others.length ? Math.max(...others) + 20 : 0,
				y: 0,
				opacity: 1
			};
			if (!this.commit(`Bring in "${reference.name}"`, { put: [reference] })) return;
			this.view = fitBox(referenceBox(reference), this.size, this.margins());
			this.station = statedPxPerMm ? 'trace' : 'size';
			this.tell(
				statedPxPerMm
					? `The file states ${(statedPxPerMm * 25.4).toFixed(0)} dpi, so the picture is ${(widthPx / statedPxPerMm).toFixed(1)} × ${(heightPx / statedPxPerMm).toFixed(1)} mm.`
					: 'The file states no true size. Pick two points whose distance you know.'
			);
		} catch (error) {
			if (error instanceof DOMException && error.name === 'QuotaExceededError') this.saveFailed(error);
			else this.tell(`${file.name}: this file could not be read.`, 'trouble');
		}
	}

	/** Sets the true size of a picture; it keeps its top left corner. */
	setTrueSize(reference: Reference, pxPerMm: number, name = 'Set true size'): void {
		this.commit(name, { put: [{ ...reference, pxPerMm }] });
		this.sizing = undefined;
		this.fitAll();
	}

	/** Takes a picture in hand to be placed, or lets it go. */
	place(reference: Reference | undefined): void {
		this.dropOperation();
		this.leave();
		this.placing = reference?.id;
	}

	/** What is held of a picture becomes a step. */
	releasePicture(name: string): void {
		const { placed } = this;
		this.placed = undefined;
		if (placed) this.commit(name, { put: [placed] });
	}

	/** Turns a picture so that the line through two picked places of it is level or plumb. */
	levelPicture(): void {
		const { sizing } = this;
		const reference = this.references.find((r) => r.id === sizing?.reference);
		this.sizing = undefined;
		if (!sizing || !reference) return;
		this.commit('Straighten by a line', {
			put: [levelledBy(reference, sizing.points[0], sizing.points[1])]
		});
	}

	/** The place of the picture's edge nearest to a place of the paper, to a fraction of a pixel; mm. */
	async edgeOfPicture(x: number, y: number, reach: number): Promise<{ x: number; y: number } | undefined> {
		const reference = [...this.references].reverse().find((r) => !r.hidden && isOnReference(r, x, y));
		if (!reference || reference.sheet) return undefined;
		const p = onPicture(reference, x, y);
		const answer = await pictureWorker().edgeNear(
			reference.picture,
			p.x,
			p.y,
			Math.min(40, Math.max(2, reach * scaleOf(reference)))
		);
		return answer.ok === true && answer.value
			? onPaper(reference, answer.value.x, answer.value.y)
			: undefined;
	}

	/** Where the reach of a soft pull ends on both sides of the selected anchor, mm. */
	reachPlaces(): { x: number; y: number }[] {
		const outline = this.enteredOutline;
		const [anchor] = this.anchors;
		if (!outline || anchor === undefined) return [];
		return reachEnds(outline, anchor, this.reachAlong);
	}

	/** The picture under a place of the paper that can be taken in hand; the uppermost. */
	referenceAt(x: number, y: number): Reference | undefined {
		return [...this.references].reverse().find((r) => !r.hidden && !r.locked && isOnReference(r, x, y));
	}

	addImportedDrawing(imported: Imported, name: string): void {
		const edit = addImported(this.drawing, imported, name, newId);
		if (!this.commit(`Open "${name}"`, edit)) return;
		this.selected = new Set((edit.put ?? []).filter((r) => r.type === 'outline').map((r) => r.id));
		this.station = 'mend';
		this.fitAll();
		for (const warning of imported.warnings) this.tell(warning, 'trouble');
	}

	// ---- looking

	/** The box of everything, or of the selection. */
	contentBox(selection = false): Box {
		const outlines = selection ? this.selectedOutlines : this.outlines.filter((o) => this.isShown(o));
		const boxes = outlines.map((o) => boxOf(resolve(o)));
		if (!selection) {
			for (const r of this.references) {
				if (r.hidden) continue;
				boxes.push(referenceBox(r));
			}
		}
		if (this.operation) boxes.push(...this.operation.preview.map(boxOf));
		return unionBox(boxes);
	}

	/** What lies over the window's edges. @param tagged there is a tag beside what is shown. */
	private margins(tagged = false): Margins {
		const comb = this.looking.showsComb ? COMB_PX : 0;
		return {
			left: MARGINS.left + comb,
			right: MARGINS.right + comb + (this.rackOpen ? RACK_PX : 0) + (tagged ? TAG_PX : 0),
			upper: MARGINS.upper + comb / 2,
			lower: Math.max(MARGINS.lower, this.trayPx + 14) + comb / 2
		};
	}

	fitAll(): void {
		const box = this.contentBox();
		this.view = isEmptyBox(box) ? { scale: 3, x: 100, y: -100 } : fitBox(box, this.size, this.margins());
	}

	fitSelection(): void {
		const box = this.contentBox(true);
		if (isEmptyBox(box)) this.fitAll();
		else this.view = fitBox(box, this.size, this.margins(true));
	}

	/** Where a line lies farthest off: the new line of an operation, or what is compared. */
	get worst(): Worst | undefined {
		return this.operation ? this.operation.worst : this.looking.worst;
	}
	/** Goes to where a line lies farthest off. */
	seeWorst(): void {
		if (this.worst) this.lookAt(this.worst);
	}
	/** A place comes into the middle of the window, near enough to be seen well. */
	lookAt({ x, y }: { readonly x: number; readonly y: number }): void {
		const { upper, lower } = this.margins();
		const scale = Math.max(this.view.scale, 12);
		this.view = { scale, x, y: y - (lower - upper) / 2 / scale };
	}

	actualSize(): void {
		this.view = { ...this.view, scale: this.screenPxPerMm };
	}

	zoom(px: number, py: number, factor: number): void {
		this.markMoving();
		this.view = zoomAt(this.view, this.size, px, py, factor);
	}

	pan(dxPx: number, dyPx: number): void {
		this.markMoving();
		this.view = panBy(this.view, dxPx, dyPx);
	}

	private markMoving(): void {
		this.moving = true;
		clearTimeout(this.settleTimer);
		this.settleTimer = setTimeout(() => (this.moving = false), 120);
	}

	previewPaths(): readonly Path[] {
		return this.operation?.preview ?? [];
	}
}

/** What was typed last is there next time. */
const lastSettings: {
	simplify: number;
	offset: Partial<OffsetOperation['settings']>;
	corner: number;
	fair: Partial<FairOperation['settings']>;
} = {
	fair: {},
	simplify: 0.1,
	offset: {},
	corner: 2
};
