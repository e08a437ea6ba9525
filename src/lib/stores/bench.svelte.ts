/** The open drawing and everything about working on it: history, selection, view, operations, check. */
import { findStationStates, type StationStates } from './stations';
import type { Fault } from '../core/check/readiness';
import { deleteAnchors, deleteSegments, type DeleteWay } from '../core/edit/anchors';
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
import { addImported, mendFault, removeOutlines } from '../core/edit/operations';
import { resolve, type Outline } from '../core/edit/outline';
import { isOnReference, levelledBy, referenceBox } from '../core/edit/placement';
import { breakOutline } from '../core/edit/structure';
import { CoreError, toProblem, type Problem } from '../core/errors';
import type { Imported } from '../core/formats/imported';
import { isEmptyBox, unionBox } from '../core/geometry/measure';
import { boxOf, nearestOnPath, PathIndex } from '../core/geometry/pick';
import type { Path } from '../core/geometry/path';
import type { Box } from '../core/geometry/segment';
import type { Way } from '../core/trace/ways';
import { meanScale, rectifying, type Corner } from '../core/trace/perspective';
import { fitBox, panBy, seenBox, toPaper, zoomAt, type View } from '../render/view';
import { hashOf, loadDrawing, loadPicture, storePicture, storeStep } from '../storage/drawings';
import { checkWorker } from '../workers/geometry.client';
import { pictureWorker } from '../workers/picture.client';
import { CombineOperation, CornerOperation, JoinOperation, TrimOperation } from './build-operations.svelte';
import { OffsetOperation, SimplifyOperation, TraceOperation, type AnyOperation } from './operations.svelte';
import { openPicture, whenOpen } from './pictures';

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
	entered = $state.raw<string | undefined>();
	anchors = $state.raw<ReadonlySet<number>>(new Set());
	/** A segment picked in the entered outline, by the id of the anchor that it leaves. */
	segment = $state.raw<number | undefined>();
	/** The outline in hand while it is dragged. */
	draft = $state.raw<Outline | undefined>();

	view = $state.raw<View>({ scale: 3, x: 100, y: -140 });
	size = $state.raw({ widthPx: 1280, heightPx: 800 });
	moving = $state(false);
	private settleTimer: ReturnType<typeof setTimeout> | undefined;

	station = $state<Station | undefined>('picture');
	operation = $state.raw<AnyOperation | undefined>();
	filled = $state(false);
	grid = $state(false);
	picturesHidden = $state(false);
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
	readonly enteredOutline = $derived.by((): Outline | undefined => {
		if (this.entered === undefined) return undefined;
		if (this.draft?.id === this.entered) return this.draft;
		const record = this.drawing.records.get(this.entered);
		return record?.type === 'outline' ? record : undefined;
	});
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
		if (box.x1 < a.x || box.x0 > b.x || box.y1 < a.y || box.y0 > b.y) this.view = fitBox(box, this.size);
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
		if (this.entered !== undefined && !has(this.entered)) this.leave();
		const outline = this.enteredOutline;
		if (outline) {
			const ids = new Set(outline.anchors);
			if ([...this.anchors].some((id) => !ids.has(id)))
				this.anchors = new Set([...this.anchors].filter((id) => ids.has(id)));
			if (this.segment !== undefined && !ids.has(this.segment)) this.segment = undefined;
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
		this.view = { scale: Math.max(this.view.scale, 12), x: fault.x, y: fault.y };
	}

	mendOf(fault: Fault): string | undefined {
		return {
			size: 'Give it a size',
			'join-ends': 'Join the ends',
			close: 'Close it',
			remove: 'Remove it',
			'remove-segments': 'Take them out',
			none: undefined
		}[fault.mend];
	}

	mend(fault: Fault): void {
		if (fault.mend === 'size') {
			this.station = 'size';
			return;
		}
		const edit = mendFault(this.drawing, fault, this.checked);
		if (edit) this.commit(this.mendOf(fault) ?? 'Mend', edit);
	}

	/** Mends everything of which it is clear how. */
	mendAll(): void {
		const put = new Map<string, NonNullable<Edit['put']>[number]>();
		const remove = new Set<string>();
		let count = 0;
		for (const fault of this.faults) {
			if (fault.mend === 'none' || fault.mend === 'size') continue;
			const edit = mendFault(this.drawing, fault, this.checked);
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

	/** The place on the entered outline nearest to the pointer. */
	placeOnEntered(x: number, y: number, kind: PointerKind): { segment: number; t: number } | undefined {
		const outline = this.enteredOutline;
		return outline ? nearestOnPath(resolve(outline), x, y, this.reach(kind)) : undefined;
	}

	select(ids: Iterable<string>): void {
		this.leave();
		this.selected = new Set(ids);
	}

	/** Enters an outline to edit its anchors. */
	enter(id: string): void {
		if (this.drawing.records.get(id)?.type !== 'outline') return;
		this.dropOperation();
		this.selected = new Set([id]);
		this.entered = id;
		this.anchors = new Set();
		this.segment = undefined;
		this.station = 'mend';
	}

	leave(): void {
		this.entered = undefined;
		this.anchors = new Set();
		this.segment = undefined;
		this.draft = undefined;
	}

	// ---- editing the entered outline

	/** Changes the entered outline in one named step. */
	change(name: string, edit: (outline: Outline) => Outline): void {
		if (this.entered === undefined) return;
		try {
			const outline = recordAs(this.drawing, 'outline', this.entered);
			const next = edit(outline);
			this.draft = undefined;
			if (next !== outline) this.commit(name, { put: [next] });
		} catch (error) {
			this.draft = undefined;
			this.trouble(toProblem(error));
		}
	}

	/** Shows the entered outline as it would become, without a step. */
	hold(edit: (outline: Outline) => Outline): void {
		if (this.entered === undefined || this.readOnly) return;
		this.draft = edit(recordAs(this.drawing, 'outline', this.entered));
	}

	/** What is held becomes a step. */
	release(name: string): void {
		const draft = this.draft;
		this.draft = undefined;
		if (draft) this.commit(name, { put: [draft] });
	}

	removeAnchors(way: DeleteWay): void {
		const outline = this.enteredOutline;
		if (!outline || this.anchors.size === 0) return;
		const next = deleteAnchors(outline, this.anchors, way);
		const count = this.anchors.size;
		if (!next) {
			this.commit('Remove outline', removeOutlines(this.drawing, new Set([outline.id])));
			return;
		}
		this.anchors = new Set();
		this.change(count === 1 ? 'Delete anchor' : `Delete ${count} anchors`, () => next);
	}

	/** Deletes the picked segment: a closed outline opens, an open one falls apart. */
	removeSegment(): void {
		const outline = this.enteredOutline;
		if (!outline || this.segment === undefined) return;
		const i = outline.anchors.indexOf(this.segment);
		if (i < 0) return;
		const parts = deleteSegments(outline, new Set([i]));
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

	private startBuild(operation: CombineOperation | JoinOperation | TrimOperation | CornerOperation): void {
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
		operation.amount = lastSettings.corner;
		this.startBuild(operation);
	}

	/** Cuts the entered outline at its selected anchors, or in the middle of the picked stretch. */
	breakHere(): void {
		const outline = this.enteredOutline;
		if (!outline) return;
		const places =
			this.segment !== undefined
				? [{ segment: outline.anchors.indexOf(this.segment), t: 0.5 }]
				: [...this.anchors].map((id) => ({ segment: outline.anchors.indexOf(id), t: 0 }));
		const { edit, parts } = breakOutline(this.drawing, outline, places, newId);
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
	private targets(): readonly Outline[] {
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
			this.view = fitBox(referenceBox(reference), this.size);
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

	fitAll(): void {
		const box = this.contentBox();
		this.view = isEmptyBox(box) ? { scale: 3, x: 100, y: -100 } : fitBox(box, this.size);
	}

	fitSelection(): void {
		const box = this.contentBox(true);
		if (isEmptyBox(box)) this.fitAll();
		else this.view = fitBox(box, this.size, 110);
	}

	/** Goes to the worst place of the operation that is open. */
	seeWorst(): void {
		const worst = this.operation?.worst;
		if (worst) this.view = { scale: Math.max(this.view.scale, 12), x: worst.x, y: worst.y };
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
const lastSettings: { simplify: number; offset: Partial<OffsetOperation['settings']>; corner: number } = {
	simplify: 0.1,
	offset: {},
	corner: 2
};
