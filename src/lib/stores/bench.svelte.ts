/** The open drawing and everything about working on it: history, selection, view, operations, check. */
import type { Point } from '../core/geometry/point';
import { findStationStates, type Station, type StationStates } from './stations';
import {
	deleteAnchors,
	deleteSegments,
	moveAnchors,
	placeHandle,
	type DeleteWay
} from '../core/document/edits/anchors';
import {
	outlinesOf,
	recordAs,
	recordsOf,
	referencesOf,
	settingsOf,
	sheetsOf,
	type Drawing,
	type DrawingRecord
} from '../core/document/drawing';
import { recordType } from '../core/document/records';
import type { Affine } from '../core/geometry/path';
import { makePlain } from '../core/document/edits/made';
import { isFollower, setOf } from '../core/document/graph';
import { keptToAxis } from '../core/document/kept-to-axis';
import { groupOf, liesIn } from '../core/document/groups';
import { boxOfRepeat, shownRepeats } from '../core/document/repeats';
import { Following } from './following.svelte';
import type { Completed } from '../core/document/complete-edit';
import { touchedIds, type Edit, type Step } from '../core/document/history';
import { removeOutlines } from '../core/document/edits/operations';
import {
	handleAt,
	anchorIndex,
	detached,
	lineOf,
	sourceLine,
	type Outline,
	type Side
} from '../core/document/outline';
import { boxOfAnchors } from '../core/document/edits/selecting';
import { pullVertex } from '../core/document/edits/control-polygon';
import { reachEnds, type Reach } from '../core/document/edits/pulling';
import type { GuideLine, Snap } from '../core/document/edits/snap';
import { isLoose, shown, shownMarks } from '../core/document/output';
import { placeOutlines, transformOutline } from '../core/document/edits/transform';
import { moveBy } from '../core/geometry/maps';
import { referenceBox } from '../core/document/edits/placement';
import { copyAt, type CopyAt } from '../core/document/edits/copy-at';
import { breakOutline } from '../core/document/edits/structure';
import { liesWithin, type Within } from '../core/document/edits/within';
import { toProblem, type Problem } from '../core/errors';
import type { Worst } from '../core/geometry/deviation';
import { twoWayDistance } from '../core/geometry/edge-tree';
import { isEmptyBox, unionBox } from '../core/geometry/measure';
import { boxOf, nearestOnPath, PathIndex } from '../core/geometry/pick';
import type { Box } from '../core/geometry/segment';
import { formatLength } from '../core/units';
import { loadDrawing, storeDrawing } from '../storage/drawings';
import type { Refusal } from '../storage/writes';
import type { ForLooking, ForPen, ForPictures, ForReadiness, HoldTrouble } from './parts';
import { OpenDocument, type Opened } from './document.svelte';
import { Sight } from './sight.svelte';
import { REACH_PX, type PointerKind } from './gestures/pointer';
import { Telling, type Notice } from './telling.svelte';
import { makeFar } from './make-far';
import type { Operation } from './operations/operation.svelte';
import type { HoldPlace } from '../core/document/holds/hold';
import { heldThrough } from '../core/document/holds/through';
import { HoldConflict } from '../core/document/holds/tidy';
import { loadReckonings } from './reckonings';
import { newId } from './ids';
import { KeyPointer } from './key-pointer.svelte';
import { Looking } from './looking.svelte';
import { Opening } from './files/opening.svelte';
import { PlacedPictures } from './files/placed-pictures.svelte';
import { Readiness } from './readiness.svelte';
import { Selection, type Carried, type Spot } from './selection.svelte';
import type { Pen } from './gestures/pen.svelte';

/** How selected anchors move: freely, along the side before or after, along their own line, or softly with their neighbourhood. */
export const MOVING_WAYS = ['free', 'before', 'after', 'own line', 'soft'] as const;
export type MovingWay = (typeof MOVING_WAYS)[number];

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

/** Sheets that lie over everything until they are left. */
export type Sheet = 'sizes' | 'keys' | 'screen' | 'settings' | 'help' | 'machine' | 'workshop';

/** ms until a copy for which there was no room is tried again. */
const COPY_RETRY_MS = 3000;

const MAKE_PLAIN = 'make plain';

/** Records that an edit touches at least that is large without saying so. */
const MANY_RECORDS = 50;
const isLargeEdit = ({ isLarge, put = [], remove = [] }: Edit): boolean =>
	isLarge ?? put.length + remove.length >= MANY_RECORDS;

const carriedSpot = (spot: Carried, map: Affine): Carried => recordType(spot).carried!(spot, map);
const withSpots = (edit: Edit, spots: readonly Carried[], map: Affine): Edit => ({
	...edit,
	put: [...(edit.put ?? []), ...spots.map((spot) => carriedSpot(spot, map))]
});

export class Bench implements ForReadiness, ForLooking, ForPictures, ForPen {
	/** Its records, its steps, its saving. */
	readonly document: OpenDocument;
	get drawing(): Drawing {
		return this.document.drawing;
	}
	get stepNames(): readonly string[] {
		return this.document.stepNames;
	}
	get pointer(): number {
		return this.document.pointer;
	}
	get saving(): number {
		return this.document.saving;
	}

	/** What part of the paper is seen. */
	readonly sight: Sight = new Sight(() => ({ rackOpen: this.rackOpen, showsComb: this.looking.showsComb }));
	/** The pointer that is moved by keys. */
	readonly keyPointer = new KeyPointer(this);
	/** What is said. */
	readonly telling = new Telling();

	/** mm between pieces on a sheet, as it was set last. */
	pieceGap = 2;
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
	carried = $state.raw<
		| {
				readonly right: number;
				readonly up: number;
				/** The outlines alone, without what lies in them. */
				readonly alone: boolean;
		  }
		| undefined
	>();
	/** What lies in the selected pieces and goes along with them. */
	readonly within: Within = $derived.by(() => {
		const { outlines, marks, repeats, tied } = liesWithin(this.drawing, this.selection.loose);
		const isNew = ({ id }: { readonly id: string }) => !this.selection.selected.has(id);
		return { outlines, marks: marks.filter(isNew), repeats: repeats.filter(isNew), tied };
	});
	private toldWithin = false;
	/** What is drawn with, while it is. */
	pen = $state.raw<Pen | undefined>();
	/** The numbers of the drag or of the line being drawn, told and typed at the pointer. */
	measure = $state.raw<Measure | undefined>();
	/** What the dragged place has snapped to. */
	snap = $state.raw<Snap | undefined>();
	/** Guide lines that show by what a drag is bound just now. */
	bound = $state.raw<readonly GuideLine[]>([]);
	/** A menu near the pointer: where, px. */
	menu = $state.raw<Point | undefined>();
	/** mm that an arrow moves; ten times and a tenth of it with Shift and Alt. */
	nudge = $state(0.1);

	station = $state<Station | undefined>('picture');
	operation = $state.raw<Operation | undefined>();
	filled = $state(false);
	grid = $state(false);
	/** Dragged places catch on what lies near. */
	snaps = $state(true);
	/** Dragged places snap to the picture's edge too. */
	snapsToPicture = $state(true);
	/** While a key is held: the drawing as it was before the last step. */
	before = $state.raw<Drawing | undefined>();
	rackOpen = $state(false);
	finding = $state(false);
	/** A tray lies open over the thread. */
	trayOpen = $state(true);
	/** A sheet with words lies over everything. */
	sheet = $state<Sheet | undefined>();
	/** Of which station the help tells, or "of" which kind of operation. */
	helpOf = $state<string>('picture');
	/** What the scanner is told is shown. */
	scanning = $state(false);
	/** The list of steps and versions lies open. */
	stepsOpen = $state(false);
	/** Each tap picks one more: for hands without a Shift key. */
	pickingMore = $state(false);
	/** The tag offers what can be held of what is picked. */
	offersHolds = $state(false);
	/** Anchors of what is entered that no hold lets move any more. */
	heldFast = $state.raw<readonly HoldPlace[]>([]);
	/** Holds that stood against one that was wanted. */
	holdTrouble = $state.raw<HoldTrouble | undefined>();
	/** What is dragged just now, where the hint tells its keys. */
	gripped = $state<'handle' | undefined>();
	/** A field that is to be typed in as soon as it is there, by its label's first word. */
	wantsField = $state<string | undefined>();
	/** The copies made last, and how far they lie from their originals, mm: the next ones go on so. */
	copyStep: { readonly ids: ReadonlySet<string>; readonly right: number; readonly up: number } | undefined;
	/** From which drawing something was pasted last, and how often. */
	pasted: { readonly from: string; readonly times: number } | undefined;
	/** What is carried stays too, and a copy is put down. */
	leavesCopy = $state(false);
	/** The sheet is left, once the key that did it has been answered. */
	leaveSheet(): void {
		setTimeout(() => (this.sheet = undefined));
	}
	/** Lets the person choose files; given by the page. */
	pickFiles: (() => void) | undefined;
	/** Another tab holds the drawing: this one reads along. */
	readOnly = $state(false);
	storageFull = $state(false);

	private index: { drawing: Drawing; outlines: readonly Outline[]; paths: PathIndex } | undefined;

	readonly settings = $derived.by(() => settingsOf(this.drawing));
	readonly unit = $derived(this.settings.unit);
	readonly outlines = $derived.by(() => outlinesOf(this.drawing));
	readonly references = $derived.by(() => referencesOf(this.drawing));
	/** The drawing with what is held just now. */
	readonly shown: Drawing = $derived.by(() => {
		const { drawing, carried } = this;
		const { placed } = this.pictures;
		const held: DrawingRecord[] = placed ? [placed] : [];
		if (carried)
			for (const spot of this.carriedSpots)
				if (spot.type !== 'repeat') held.push(carriedSpot(spot, moveBy(carried.right, carried.up)));
		if (held.length === 0) return drawing;
		const records = new Map(drawing.records);
		for (const record of held) records.set(record.id, record);
		return { ...drawing, records };
	});
	/** All that is held, as it would become. */
	readonly held: readonly Outline[] = $derived.by(() =>
		this.drafts.size ? [...this.drafts.values()] : this.carriedOutlines
	);
	/** What follows what is held. */
	readonly following = new Following(this, makeFar);
	/** Ids of the repeats that are dragged as wholes. */
	get carriedRepeats(): readonly string[] {
		return this.carried ? this.carriedSpots.flatMap((r) => (r.type === 'repeat' ? [r.id] : [])) : [];
	}
	private get carriedLoose(): readonly Outline[] {
		const { loose } = this.selection;
		return this.carried?.alone ? loose : [...loose, ...this.within.outlines];
	}
	private get carriedSpots(): readonly Carried[] {
		const { selectedSpots, selectedRepeats } = this.selection;
		const own = [...selectedSpots, ...selectedRepeats];
		return this.carried?.alone ? own : [...own, ...this.within.marks, ...this.within.repeats];
	}
	readonly carriedOutlines: readonly Outline[] = $derived.by(() => {
		const { carried } = this;
		return carried
			? this.carriedLoose.map((o) => transformOutline(o, moveBy(carried.right, carried.up)))
			: [];
	});
	get draft(): Outline | undefined {
		return this.selection.entered === undefined ? undefined : this.drafts.get(this.selection.entered);
	}
	/** What is picked. */
	readonly selection: Selection = new Selection(this);
	/** The pictures on the paper. */
	readonly pictures = new PlacedPictures(this);
	/** Files of lines on their way in. */
	readonly opening: Opening = new Opening(this);
	/** What would stop the cut. */
	readonly readiness = new Readiness(this);
	/** How one looks at lines. */
	readonly looking: Looking = new Looking(this);
	get canUndo(): boolean {
		return (this.pen?.canUndo || this.document.canUndo) && !this.readOnly;
	}
	get canRedo(): boolean {
		return (this.pen?.canRedo || this.document.canRedo) && !this.readOnly;
	}
	readonly stations: StationStates = $derived.by(() =>
		findStationStates(this.drawing, this.readiness.faults, this.outlines.length, !this.readiness.checking)
	);

	constructor(opened: Opened) {
		this.document = new OpenDocument(opened, makeFar, {
			changed: () => this.afterChange(),
			amended: () => this.readiness.checkSoon(),
			completed: (completed) => this.tellCompleted(completed),
			left: (ahead, count) =>
				this.keepByItself(
					ahead,
					count === 1 ? '1 step that was taken back' : `${count} steps that were taken back`
				),
			written: () => this.written(),
			refused: (refusal, error) => void this.refused(refusal, error),
			failed: (error) => this.trouble(toProblem(error))
		});
	}

	/** Opens a stored drawing. Undefined where there is none of that id. */
	static async open(id: string): Promise<Bench | undefined> {
		const stored = await loadDrawing(id);
		if (!stored) return undefined;
		// What is held is kept in every edit: its reckoning must be there.
		if (recordsOf(stored.drawing, 'hold').length) await loadReckonings();
		const bench = new Bench(stored);
		bench.station = bench.outlines.length ? 'mend' : bench.references.length ? 'trace' : 'picture';
		for (const reference of bench.references) void bench.pictures.load(reference);
		bench.readiness.checkSoon(0);
		bench.document.makeStale();
		for (const { record, why } of stored.aside) {
			const { name, type } = record as { name?: string; type?: string };
			bench.tell(
				`${name ? `"${name}"` : `A ${type ?? 'part'}`} of this drawing was damaged and is set aside: ${why}. The rest is whole.`,
				'trouble'
			);
		}
		if (stored.cut)
			bench.tell(
				`${stored.cut === 1 ? 'One stored step of this drawing did' : `${stored.cut} stored steps of this drawing did`} not fit any more and ${stored.cut === 1 ? 'is' : 'are'} left out. The drawing itself is whole.`,
				'trouble'
			);
		return bench;
	}

	/** Takes the drawing as it is stored now: another tab went on with it. */
	async readAgain(): Promise<void> {
		const stored = await loadDrawing(this.drawing.id);
		if (!stored) return;
		this.dropOperation();
		this.drafts = new Map();
		this.carried = undefined;
		this.document.replace(stored);
		for (const reference of this.references) void this.pictures.load(reference);
		this.afterChange();
	}

	// ---- words to the person

	tell(sentence: string, tone: Notice['tone'] = 'told', act?: Notice['act']): void {
		this.telling.tell(sentence, tone, act);
	}
	/** A line that follows others is changed by hand only once it was made plain: that is offered, and nothing done until then. */
	offerPlain(outlines: readonly Outline[]): void {
		if (this.telling.offers(MAKE_PLAIN)) return;
		const [first] = outlines;
		const names = (first.recipe?.inputs ?? []).map(({ record }) => {
			const source = this.drawing.records.get(record);
			return source?.type === 'outline' ? `"${source.name}"` : 'another line';
		});
		this.tell(
			first.half
				? `"${first.name}" is one half and its mirror image. Made plain, it can be cut apart.`
				: outlines.length === 1
					? `"${first.name}" follows ${names.length === 1 ? names[0] : `${names.length} outlines`}. Made plain, it can be changed by hand.`
					: `${outlines.length} of these follow other lines. Made plain, they can be changed by hand.`,
			'told',
			{
				word: MAKE_PLAIN,
				run: () => this.commit('Make plain', { ...makePlain(this.drawing, outlines), isLarge: true })
			}
		);
	}
	trouble(problem: Problem): void {
		this.telling.trouble(problem);
	}

	// ---- steps

	/** Makes a named step of an edit. Says nothing where nothing changes; what cannot be is told. */
	commit(name: string, edit: Edit): boolean {
		if (this.readOnly) {
			this.tell('This drawing is being edited in another tab. Take it over to change it here.', 'trouble');
			return false;
		}
		const before = this.drawing;
		try {
			const isDone = this.document.commit(name, edit);
			if (isDone && isLargeEdit(edit)) this.keepByItself(before, `before "${name}"`);
			return isDone;
		} catch (error) {
			// It waits until one of those is loosened that stand against it.
			if (error instanceof HoldConflict) this.holdTrouble = { name, edit, holds: error.holds };
			this.trouble(toProblem(error));
			return false;
		}
	}

	/** A state of the drawing is kept as a version, away from the hand. */
	keepByItself(drawing: Drawing, word: string): void {
		void import('./versions/by-itself.svelte').then(({ keepByItself }) => keepByItself(drawing, word));
	}

	/** What an edit brought with it is said, where it is more than that followers followed. */
	private tellCompleted({ plain, halves, lostRounds, lostHolds, empty }: Completed): void {
		if (lostHolds)
			this.tell(
				`${lostHolds === 1 ? 'A hold is' : `${lostHolds} holds are`} gone with what ${lostHolds === 1 ? 'it was' : 'they were'} about.`
			);
		const some = (list: readonly Outline[]) =>
			list.length === 1 ? `"${list[0].name}"` : `${list.length} outlines`;
		if (halves.length)
			this.tell(
				`${some(halves)} ${halves.length === 1 ? 'is one line' : 'are whole lines'} now: the halves do not follow each other any more.`
			);
		if (plain.length)
			this.tell(
				`${some(plain)} ${plain.length === 1 ? 'is' : 'are'} plain now: ${plain.length === 1 ? 'it follows' : 'they follow'} nothing any more.`
			);
		if (lostRounds)
			this.tell(
				`${lostRounds} rounded ${lostRounds === 1 ? 'corner is' : 'corners are'} gone with ${lostRounds === 1 ? 'its anchor' : 'their anchors'}.`
			);
		for (const o of empty) this.tell(`"${o.name}" is empty now: ${o.recipe!.problem}`, 'trouble');
	}

	/** Takes the last step back; of a line that is being drawn its last anchor. */
	undo(): void {
		if (this.pen?.canUndo) this.pen.undo();
		else this.step(() => this.document.undo());
	}
	redo(): void {
		if (this.pen?.canRedo) this.pen.redo();
		else this.step(() => this.document.redo());
	}
	private step(go: () => Step | undefined): void {
		if (this.readOnly) return;
		// What one draws with stays in the hand.
		const { pen, operation } = this;
		if (!operation?.isLasting) this.dropOperation();
		this.pen = pen;
		const step = go();
		if (step) this.show(step);
	}

	/** Goes to where so many steps are done. */
	goTo(pointer: number): void {
		while (this.pointer > pointer && this.canUndo) this.undo();
		while (this.pointer < pointer && this.canRedo) this.redo();
	}

	/** The drawing before its last step. */
	previous(): Drawing | undefined {
		return this.document.previous();
	}

	/** What a step touched is brought into sight when it lies outside. */
	private show(step: Step): void {
		const boxes: Box[] = [];
		for (const id of touchedIds(step)) {
			const record = this.drawing.records.get(id);
			if (record?.type === 'outline') boxes.push(boxOf(lineOf(record)));
		}
		this.sight.bring(unionBox(boxes));
	}

	/** Brings an outline into sight when it lies outside the window. */
	reveal(outline: Outline): void {
		this.sight.bring(boxOf(lineOf(outline)));
	}

	/** Whoever reads along is told of each write. */
	onwritten: (() => void) | undefined;
	/** This drawing has become another one: it lies under another id from now on. */
	onmoved: ((id: string) => void) | undefined;

	private written(): void {
		this.storageFull = false;
		this.onwritten?.();
	}

	/** What could not be written waits, or becomes a drawing of its own where it can never be written. */
	private async refused(refusal: Refusal, error: unknown): Promise<void> {
		if (refusal === 'gone' || refusal === 'overtaken') {
			await this.keepAsCopy(refusal);
			return;
		}
		this.saveFailed(error);
	}

	/** The drawing was thrown away, or another tab went on with it: what this tab has is kept under another name. */
	private async keepAsCopy(why: 'gone' | 'overtaken'): Promise<void> {
		const { drawing } = this;
		const copy = { ...drawing, id: newId(), name: `${drawing.name} (kept)` };
		const { steps, pointer } = this.document.history;
		try {
			const revision = await storeDrawing(copy, { steps, pointer });
			this.document.replace({ drawing: copy, steps, pointer, revision, cut: 0 });
		} catch (error) {
			this.saveFailed(error);
			setTimeout(() => void this.keepAsCopy(why), COPY_RETRY_MS);
			return;
		}
		this.storageFull = false;
		this.onmoved?.(copy.id);
		this.tell(
			why === 'gone'
				? `"${drawing.name}" was thrown away in another tab. What you have here is kept as "${copy.name}".`
				: `Another tab has gone on with "${drawing.name}". What you have here is kept as "${copy.name}".`,
			'trouble'
		);
	}

	/** Writing failed: it is said once, and tried again until it goes through. */
	saveFailed(error: unknown): void {
		if (error instanceof DOMException && error.name === 'QuotaExceededError') {
			if (this.storageFull) return;
			this.storageFull = true;
			this.tell(
				'The browser has no room left to save. Save the drawing as a file now, then remove old drawings; what is not saved yet waits.',
				'trouble'
			);
		} else
			this.tell(
				`The last step could not be saved: ${toProblem(error).sentence} It is tried again; save the drawing as a file to be sure.`,
				'trouble'
			);
	}

	/** Resolves when everything so far is written. */
	async saved(): Promise<boolean> {
		return this.document.saved();
	}

	private afterChange(): void {
		for (const reference of this.references) void this.pictures.showStraight(reference);
		if (this.selection.prune()) this.leave();
		this.readiness.checkSoon();
	}

	// ---- picking and selecting

	/** The outlines that can be seen and touched, with an index over them. */
	pickable(): { outlines: readonly Outline[]; paths: PathIndex } {
		if (this.index?.drawing !== this.drawing) {
			const outlines = shown(this.drawing).filter((o) => isLoose(this.drawing, o));
			this.index = { drawing: this.drawing, outlines, paths: new PathIndex(outlines.map(lineOf)) };
		}
		return this.index;
	}

	reach(kind: PointerKind): number {
		return REACH_PX[kind] / this.sight.view.scale;
	}

	outlineAt(x: number, y: number, kind: PointerKind): Outline | undefined {
		const { outlines, paths } = this.pickable();
		const hit = paths.nearest(x, y, this.reach(kind));
		return hit ? outlines[hit.path] : undefined;
	}

	/** The mark or, else, the guide under the pointer. */
	spotAt(x: number, y: number, kind: PointerKind): Spot | undefined {
		const reach = this.reach(kind);
		const nearest = (spots: readonly Spot[]) => {
			const off = (spot: Spot) => recordType(spot).near!(spot, x, y);
			const [first] = spots.filter((s) => off(s) <= reach).sort((a, b) => off(a) - off(b));
			return first;
		};
		return nearest(shownMarks(this.drawing)) ?? nearest(recordsOf(this.drawing, 'guide'));
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
		const outline = this.selection.enteredOutline;
		return outline ? nearestOnPath(sourceLine(outline), x, y, this.reach(kind)) : undefined;
	}

	/** Selects things with all that moves as one with them; a group in which none of them lies is left. */
	select(ids: Iterable<string>): void {
		this.leave();
		const { selection } = this;
		const list = [...ids];
		while (selection.groupIn !== undefined && list.length > 0) {
			if (list.some((id) => liesIn(this.drawing, id, selection.groupIn))) break;
			this.leaveGroup();
		}
		selection.selected = selection.whole(list);
	}

	/** Enters a group: what is picked then is picked in it. */
	enterGroup(id: string): void {
		this.leave();
		this.selection.groupIn = id;
		this.selection.selected = new Set();
		const group = this.drawing.records.get(id);
		if (group?.type === 'group' && !this.toldEntering) {
			this.toldEntering = true;
			this.tell(`You are in "${group.name}" now: its parts are picked one by one. Esc leaves it.`);
		}
	}
	private toldEntering = false;

	/** Into the group around the one that is entered, or into none. */
	leaveGroup(): void {
		const { selection } = this;
		const group = selection.groupIn === undefined ? undefined : this.drawing.records.get(selection.groupIn);
		selection.groupIn = groupOf(this.drawing, group)?.id;
	}

	/** The copy of a repeat under the pointer. */
	copyAt(x: number, y: number, kind: PointerKind): CopyAt | undefined {
		return copyAt(this.drawing, x, y, this.reach(kind));
	}

	/** Enters outlines to edit their anchors. */
	enter(...ids: string[]): void {
		const outlines = ids.filter((id) => this.drawing.records.get(id)?.type === 'outline');
		if (outlines.length === 0) return;
		this.dropOperation();
		this.selection.selected = new Set(outlines);
		this.letGo();
		this.selection.enteredIds = outlines;
		this.station = 'mend';
	}

	/** Enters what is selected: a group, or outlines. */
	enterSelected(): void {
		const { selection } = this;
		if (selection.units === 1 && selection.selectedGroups.length === 1)
			this.enterGroup(selection.selectedGroups[0].id);
		else this.enter(...selection.selected);
	}

	leave(): void {
		this.selection.enteredIds = [];
		this.letGo();
	}

	/** Nothing in the entered outlines is selected or dragged any more. */
	letGo(): void {
		this.selection.letGo();
		this.drafts = new Map();
		this.endDrag();
	}

	/** What a drag showed is over. */
	endDrag(): void {
		this.gripped = undefined;
		this.measure = undefined;
		this.snap = undefined;
		this.bound = [];
	}

	// ---- editing the entered outline

	/** Changes the entered outlines in which anchors are selected (or the one in hand) in one named step. */
	change(name: string, edit: (outline: Outline, anchors: ReadonlySet<number>) => Outline): void {
		if (this.selection.entered === undefined) return;
		try {
			const put = this.edited(edit);
			this.drafts = new Map();
			if (put.length) this.commit(name, { put });
		} catch (error) {
			this.drafts = new Map();
			this.trouble(toProblem(error));
		}
	}

	/** Puts changed outlines in the place of those that they were, in one named step; of one that follows others nothing is changed. */
	commitChanged(name: string, changed: ReadonlyMap<string, Outline>): boolean {
		const outlines = [...changed.values()];
		const followers = outlines.filter(isFollower);
		if (followers.length) this.offerPlain(followers);
		return this.commit(name, { put: outlines.filter((o) => !isFollower(o)) });
	}

	/** Changes the outline in hand alone, in one named step. */
	changeInHand(name: string, edit: (outline: Outline) => Outline): void {
		this.change(name, (o) => (o.id === this.selection.entered ? edit(o) : o));
	}

	/** The entered outlines that an edit changes, as they become. */
	private edited(edit: (outline: Outline, anchors: ReadonlySet<number>) => Outline): Outline[] {
		const put: Outline[] = [];
		for (const id of this.selection.enteredIds) {
			const anchors = this.selection.anchorsOf(id);
			if (anchors.size === 0 && id !== this.selection.entered) continue;
			const outline = recordAs(this.drawing, 'outline', id);
			const next = keptToAxis(edit(outline, anchors));
			if (next === outline) continue;
			if (isFollower(outline) && next.points !== outline.points) {
				this.offerPlain([outline]);
				continue;
			}
			put.push(next);
		}
		return heldThrough(this.drawing, put);
	}

	/** Shows the entered outlines as they would become, without a step. What cannot be is said and not shown. */
	hold(edit: (outline: Outline, anchors: ReadonlySet<number>) => Outline): void {
		if (this.selection.entered === undefined || this.readOnly) return;
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
		const { carried, carriedLoose: loose, carriedSpots: spots, within } = this;
		this.carried = undefined;
		this.endDrag();
		if (carried && this.selection.tied.length) this.offerPlain(this.selection.tied);
		if (!carried || loose.length + spots.length === 0) return;
		const map = moveBy(carried.right, carried.up);
		if (loose.length === 0) {
			this.commit(spots.length === 1 ? `Move the ${spots[0].type}` : `Move ${spots.length} marks`, {
				put: spots.map((spot) => carriedSpot(spot, map))
			});
			return;
		}
		this.commit(
			loose.length === 1 ? `Move "${loose[0].name}"` : `Move ${loose.length} outlines`,
			withSpots(placeOutlines(this.drawing, loose, map), spots, map)
		);
		const along = within.outlines.length + within.marks.length;
		if (carried.alone || along + within.tied === 0 || this.toldWithin) return;
		this.toldWithin = true;
		this.tell(
			`What lies in it went along${within.tied ? `, but for ${within.tied} that ${within.tied === 1 ? 'is' : 'are'} tied fast` : ''}. With Alt held the outline moves alone.`
		);
	}

	/** Makes a step of new lines of outlines, and tells how far they moved. */
	commitTold(name: string, edit: Edit): boolean {
		let drift: number | undefined;
		for (const next of edit.put ?? []) {
			const before = this.drawing.records.get(next.id);
			if (next.type !== 'outline' || before?.type !== 'outline') continue;
			const { distance } = twoWayDistance([lineOf(before)], [lineOf(next)], 0.001, 0.1);
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
		const side = this.selection.handleInHand;
		if (side === undefined) {
			const { entered } = this.selection;
			const stretches = [...this.selection.segmentIndexes()];
			this.change('Nudge', (o, ids) => {
				const n = o.anchors.length;
				const ends = o.id === entered ? stretches.flatMap((i) => [o.anchors[i], o.anchors[(i + 1) % n]]) : [];
				return moveAnchors(o, new Set([...ids, ...ends]), dx, dy);
			});
			return;
		}
		this.change('Nudge handle', (o, ids) => {
			const [id] = ids;
			const i = anchorIndex(o, id);
			if (i === undefined) return o;
			const k = handleAt(i, side);
			return this.withHandle(o, id, side, o.points[k] + dx, o.points[k + 1] + dy);
		});
	}

	removeAnchors(way: DeleteWay): void {
		const put: Outline[] = [];
		const gone = new Set<string>();
		let count = 0;
		for (const outline of this.selection.enteredOutlines) {
			const ids = this.selection.anchorsOf(outline.id);
			if (ids.size === 0) continue;
			count += ids.size;
			if (isFollower(outline)) {
				this.offerPlain([outline]);
				continue;
			}
			const next = deleteAnchors(outline, ids, way);
			if (next) put.push(next);
			else gone.add(outline.id);
		}
		if (count === 0) return;
		const edit = { put, remove: removeOutlines(this.drawing, gone).remove };
		this.selection.picked = new Map();
		const name = gone.size ? 'Remove outline' : count === 1 ? 'Delete anchor' : `Delete ${count} anchors`;
		this.commitTold(name, edit);
	}

	/** Deletes the picked segment: a closed outline opens, an open one falls apart. */
	removeSegment(): void {
		const outline = this.selection.enteredOutline;
		if (!outline || this.selection.segment === undefined) return;
		if (outline.half) {
			this.offerPlain([outline]);
			return;
		}
		const parts = deleteSegments(detached(outline), this.selection.segmentIndexes());
		this.selection.segment = undefined;
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
		const ids = this.selection.selected;
		if (ids.size === 0) return;
		const [one] = this.selection.selectedOutlines;
		const name =
			this.selection.units !== 1
				? `Remove ${this.selection.units} things`
				: one
					? `Remove "${one.name}"`
					: `Remove the ${this.selection.selectedSpots[0]?.type ?? 'thing'}`;
		this.commit(name, removeOutlines(this.drawing, ids));
	}

	// ---- operations

	/** Cuts the entered outline at its selected anchors, or in the middle of the picked stretch. */
	breakHere(): void {
		const outline = this.selection.enteredOutline;
		if (!outline) return;
		if (outline.half) {
			this.offerPlain([outline]);
			return;
		}
		const places =
			this.selection.segment !== undefined
				? [{ segment: outline.anchors.indexOf(this.selection.segment), t: 0.5 }]
				: [...this.selection.anchors].map((id) => ({ segment: outline.anchors.indexOf(id), t: 0 }));
		const { edit, parts } = breakOutline(this.drawing, detached(outline), places, newId);
		if (outline.closed || parts > 1) this.commit('Break', edit);
		this.selection.segment = undefined;
		this.selection.anchors = new Set();
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
		return this.selection.selectedOutlines.length ? this.selection.selectedOutlines : shown(this.drawing);
	}

	dropOperation(): void {
		this.operation?.stop();
		this.operation = undefined;
		this.pictures.sizing = undefined;
		this.pictures.placing = undefined;
		this.pictures.placed = undefined;
		// A line that is being drawn is kept as it is.
		this.pen?.finish();
		this.pen = undefined;
		this.menu = undefined;
		this.endDrag();
	}

	/** What a kept operation made is selected where no outline is entered; an entered one that is gone is left. */
	pickMade(edit: Edit): void {
		if (this.selection.entered && !this.drawing.records.has(this.selection.entered)) this.leave();
		if (this.selection.entered) return;
		const ids = new Set((edit.put ?? []).map((r) => r.id));
		const made = shown(this.drawing).filter((o) => ids.has(o.id) || ids.has(setOf(o)));
		// What became a guide of what was made is not meant.
		const followers = made.filter((o) => o.recipe?.inputs.some(({ record }) => ids.has(record)));
		this.selection.selected = new Set((followers.length ? followers : made).map((o) => o.id));
	}
	/** Where the reach of a soft pull ends on both sides of the selected anchor, mm. */
	reachPlaces(): Point[] {
		const outline = this.selection.enteredOutline;
		const [anchor] = this.selection.anchors;
		if (!outline || anchor === undefined) return [];
		return reachEnds(outline, anchor, this.reachAlong);
	}

	// ---- looking

	/** The box of everything, or of the selection. */
	contentBox(selection = false): Box {
		const outlines = selection ? this.selection.selectedOutlines : shown(this.drawing);
		const boxes = outlines.map((o) => boxOf(lineOf(o)));
		if (selection) boxes.push(...this.selection.selectedRepeats.map((r) => boxOfRepeat(this.drawing, r)));
		else {
			for (const r of this.references) {
				if (r.hidden) continue;
				boxes.push(referenceBox(r));
			}
			boxes.push(
				...[...shownMarks(this.drawing), ...sheetsOf(this.drawing)].map((r) => recordType(r).box(r)),
				...shownRepeats(this.drawing).map((repeat) => boxOfRepeat(this.drawing, repeat))
			);
		}
		if (this.operation) boxes.push(...this.operation.preview.map(boxOf));
		return unionBox(boxes);
	}

	/** The box of what is in hand: what an operation works on, the picked anchors with their handles, the selected outlines. */
	readonly inHand: Box = $derived.by(() => {
		const { operation, selection } = this;
		if (operation)
			return unionBox([...operation.outlines.map((o) => boxOf(lineOf(o))), ...operation.preview.map(boxOf)]);
		if (selection.enteredOutline && selection.picked.size)
			return boxOfAnchors(selection.enteredOutlines, selection.picked, true);
		return unionBox([
			...selection.selectedOutlines.map((o) => boxOf(lineOf(o))),
			...selection.selectedMarks.map((mark) => recordType(mark).box(mark)),
			...selection.selectedRepeats.map((repeat) => boxOfRepeat(this.drawing, repeat))
		]);
	});

	fitAll(): void {
		this.sight.fit(this.contentBox());
	}

	fitSelection(): void {
		const box = this.contentBox(true);
		if (isEmptyBox(box)) this.fitAll();
		else this.sight.fit(box, true);
	}

	/** Where a line lies farthest off: the new line of an operation, or what is compared. */
	get worst(): Worst | undefined {
		return this.operation ? this.operation.worst : this.looking.worst;
	}
	/** Goes to where a line lies farthest off. */
	seeWorst(): void {
		if (this.worst) this.sight.lookAt(this.worst);
	}
}
