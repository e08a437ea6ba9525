/** What is picked: whole records, or anchors and segments of the outlines that are entered. */
import type { Drawing, Guide, Mark, Repeat } from '../core/document/drawing';
import { countUnits, wholeGroups, wholeOf } from '../core/document/groups';
import { isFollower } from '../core/document/graph';
import { segmentTypeOf, type Outline } from '../core/document/outline';
import type { GivenPlace, PlacesOf } from '../core/document/recipes/recipe-type';
import { recipeType } from '../core/document/recipes/recipes';
import { STRAIGHT } from '../core/geometry/path';

/** What would be picked: an anchor, one of its handles, or a segment. */
export interface Under {
	readonly outline: string;
	readonly anchor: number;
	readonly side?: 'in' | 'out';
	readonly isSegment?: boolean;
}

/** Records that are picked one by one, at a place. */
export type Spot = Mark | Guide;
/** What is carried with outlines. */
export type Carried = Spot | Repeat;

/** What is picked from: the drawing, and its outlines as they are being changed. */
interface Picked {
	readonly drawing: Drawing;
	readonly outlines: readonly Outline[];
	readonly drafts: ReadonlyMap<string, Outline>;
}

/** A line given by places, and these as they are. */
export interface Given {
	readonly outline: Outline;
	readonly settings: unknown;
	readonly kind: PlacesOf<unknown>;
	readonly places: readonly GivenPlace[];
}

/** All that says what is picked. */
const PICKS = [
	'selected',
	'copy',
	'groupIn',
	'enteredIds',
	'picked',
	'segments',
	'place',
	'handleInHand'
] as const satisfies readonly (keyof Selection)[];
/** What is picked at one moment. */
export type Picks = Readonly<Pick<Selection, (typeof PICKS)[number]>>;

const NONE: ReadonlySet<number> = new Set();

/** Which segment leaves an anchor, by its index; -1 where none does, as at the end of an open outline. */
function segmentFrom({ anchors, closed }: Outline, id: number): number {
	const i = anchors.indexOf(id);
	return closed || i < anchors.length - 1 ? i : -1;
}

export class Selection {
	/** Ids of the records picked as a whole. */
	selected = $state.raw<ReadonlySet<string>>(new Set());
	/** The copy of a repeat that was pressed last. */
	copy = $state.raw<{ readonly repeat: string; readonly place: number } | undefined>();
	/** The group that is entered: what is picked is picked in it. */
	groupIn = $state<string | undefined>();
	/** The outlines that are entered; the first is the one in hand. */
	enteredIds = $state.raw<readonly string[]>([]);
	/** The selected anchors of each entered outline. */
	picked = $state.raw<ReadonlyMap<string, ReadonlySet<number>>>(new Map());
	/** Segments picked in the outline in hand, by the ids of the anchors that they leave. */
	segments = $state.raw<ReadonlySet<number>>(NONE);
	/** The place picked of a line that is given by places, by its key. */
	place = $state<string | undefined>();
	/** A handle of the one selected anchor that the arrows move. */
	handleInHand = $state<'in' | 'out' | undefined>();
	/** What lies under the pointer in the entered outlines and would be picked. */
	under = $state.raw<Under | undefined>();

	/** Selected marks and guides. */
	readonly selectedSpots: readonly Spot[] = $derived.by(() => {
		const { records } = this.from.drawing;
		return [...this.selected].flatMap((id): Spot[] => {
			const record = records.get(id);
			return record?.type === 'mark' || record?.type === 'guide' ? [record] : [];
		});
	});
	/** Selected repeats whose sources are selected too, so that they are carried as wholes. */
	readonly selectedRepeats: readonly Repeat[] = $derived.by(() => {
		const { records } = this.from.drawing;
		return [...this.selected].flatMap((id) => {
			const record = records.get(id);
			return record?.type === 'repeat' && record.sources.every((source) => this.selected.has(source))
				? [record]
				: [];
		});
	});
	/** How many things are selected, a group counted as one. */
	get units(): number {
		return countUnits(this.from.drawing, this.selected, this.groupIn);
	}
	/** Groups that are selected as wholes, the outermost ones. */
	readonly selectedGroups = $derived.by(() => wholeGroups(this.from.drawing, this.selected, this.groupIn));
	readonly selectedMarks = $derived(this.selectedSpots.filter((s) => s.type === 'mark'));
	readonly selectedOutlines = $derived.by(() => this.from.outlines.filter((o) => this.selected.has(o.id)));
	/** Selected outlines that a drag may carry: lines that are made from others go along with those by themselves. */
	readonly loose = $derived(this.selectedOutlines.filter((o) => !o.locked && !isFollower(o)));
	/** Selected lines that are made from others which are not selected: they cannot be carried as they are. */
	readonly tied = $derived(
		this.selectedOutlines.filter(
			(o) => !o.locked && o.recipe?.inputs.some(({ record }) => !this.selected.has(record))
		)
	);
	/** The entered outlines as they are or would become, the one in hand first. */
	readonly enteredOutlines = $derived.by((): readonly Outline[] =>
		this.enteredIds.flatMap((id) => {
			const record = this.from.drafts.get(id) ?? this.from.drawing.records.get(id);
			return record?.type === 'outline' ? [record] : [];
		})
	);
	readonly enteredOutline = $derived.by((): Outline | undefined => this.enteredOutlines[0]);

	/** The outline in hand, where it is given by places: those are picked and dragged in the place of its anchors. */
	readonly given = $derived.by((): Given | undefined => {
		const outline = this.enteredOutline;
		const { places } = (outline?.recipe && recipeType(outline.recipe)) ?? {};
		if (!outline?.recipe || !places || isFollower(outline)) return undefined;
		const settings = outline.recipe.settings as unknown;
		return { outline, settings, kind: places, places: places.of(settings) };
	});

	constructor(private readonly from: Picked) {}

	/** The outline in hand. */
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
	/** Whether the one picked segment is straight. */
	get isStraightPicked(): boolean {
		const outline = this.enteredOutline;
		const indexes = this.segmentIndexes();
		return (
			outline !== undefined &&
			indexes.size > 0 &&
			[...indexes].every((i) => segmentTypeOf(outline, i) === STRAIGHT)
		);
	}
	/** Indexes of the picked segments in the outline in hand. */
	segmentIndexes(): Set<number> {
		const outline = this.enteredOutline;
		return new Set(
			outline ? [...this.segments].map((id) => segmentFrom(outline, id)).filter((i) => i >= 0) : []
		);
	}
	/** Takes another of the entered outlines in hand. */
	takeInHand(id: string): void {
		if (this.entered === id) return;
		this.segments = NONE;
		this.enteredIds = [id, ...this.enteredIds.filter((other) => other !== id)];
	}
	letGoOfAnchors(): void {
		this.picked = new Map();
		this.segments = NONE;
		this.handleInHand = undefined;
		this.place = undefined;
	}
	/** Nothing in the entered outlines is picked any more. */
	letGo(): void {
		this.letGoOfAnchors();
		this.under = undefined;
	}
	/** Ids with all that moves as one with them. */
	whole(ids: Iterable<string>): Set<string> {
		return wholeOf(this.from.drawing, ids, this.groupIn);
	}
	get picks(): Picks {
		const { selected, copy, groupIn, enteredIds, picked, segments, place, handleInHand } = this;
		return { selected, copy, groupIn, enteredIds, picked, segments, place, handleInHand };
	}
	isAsIn(picks: Picks): boolean {
		return PICKS.every((key) => this[key] === picks[key]);
	}
	/** Picks what was picked at another moment, as far as it is still there. */
	take(picks: Picks): void {
		if (this.isAsIn(picks)) return;
		Object.assign(this, picks);
		this.under = undefined;
		this.prune();
	}
	/** What is no longer in the drawing is no longer picked. @returns whether the last entered outline is gone. */
	prune(): boolean {
		const has = (id: string) => this.from.drawing.records.has(id);
		if ([...this.selected].some((id) => !has(id))) this.selected = new Set([...this.selected].filter(has));
		if (this.groupIn !== undefined && !has(this.groupIn)) this.groupIn = undefined;
		let left = false;
		if (this.enteredIds.some((id) => !has(id))) {
			this.enteredIds = this.enteredIds.filter(has);
			left = this.enteredIds.length === 0;
		}
		for (const outline of this.enteredOutlines) {
			const ids = new Set(outline.anchors);
			const picked = this.anchorsOf(outline.id);
			if ([...picked].some((id) => !ids.has(id)))
				this.pickAnchors(outline.id, new Set([...picked].filter((id) => ids.has(id))));
			if (outline.id !== this.entered) continue;
			const segments = [...this.segments].filter((id) => segmentFrom(outline, id) >= 0);
			if (segments.length < this.segments.size) this.segments = new Set(segments);
		}
		return left;
	}
}
