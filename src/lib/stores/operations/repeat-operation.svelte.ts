/** Things repeated by a rule: in rows, around a middle, along an outline, mirrored; a repeat that is there is changed by the same. */
import type { Drawing, Mark, Repeat } from '../../core/document/drawing';
import { addRepeat } from '../../core/document/edits/repeats';
import type { NewId } from '../../core/document/edits/operations';
import { nearestOutline } from '../../core/document/edits/selecting';
import { liesWithin } from '../../core/document/edits/within';
import { followersOf } from '../../core/document/graph';
import type { Edit } from '../../core/document/history';
import { isClosed, lineOf, type Outline } from '../../core/document/outline';
import { shown } from '../../core/document/output';
import { recordType } from '../../core/document/records';
import type { RepeatRule, RepeatWay, RuleOf } from '../../core/document/repeat-rules';
import { copiesIn, instancesOf, repeatFacts, sourcesOf } from '../../core/document/repeats';
import { meantDirection } from '../../core/geometry/maps';
import { unionBox } from '../../core/geometry/measure';
import type { Box } from '../../core/geometry/segment';
import { CopiesPicture, drawCopies } from '../../render/copies';
import { drawAxis, drawStitch } from '../../render/marks';
import type { SurfaceLook } from '../../render/scene';
import { nextRequest } from '../../workers/geometry.client';
import type { Bench } from '../bench.svelte';
import { layOn } from './laying-on';
import { Operation, type AfterKeeping } from './operation.svelte';

/** What was set last, by way; a centre, an axis and a line belong to what they were set for. */
const last: {
	way: RepeatWay;
	rows: Pick<RuleOf<'rows'>, 'columns' | 'rows' | 'angle' | 'stagger'>;
	around: Pick<RuleOf<'around'>, 'number' | 'sweep' | 'turned'>;
	along: Pick<RuleOf<'along'>, 'by' | 'number' | 'spacing' | 'share' | 'turned'>;
} = {
	way: 'rows',
	rows: { columns: 4, rows: 2, angle: 0, stagger: 0 },
	around: { number: 8, sweep: 360, turned: true },
	along: { by: 'number', number: 12, spacing: 10, share: 1, turned: true }
};

/** Paths above which the copies are drawn from their source's path objects instead of each by itself. */
const MOST_PREVIEWED = 300;
/** mm: between one and the next in rows, where nothing else was said. */
const GAP = 2;

export class RepeatOperation extends Operation {
	readonly kind = 'repeat';
	readonly outlines: readonly Outline[];
	rule: RepeatRule = $state.raw({ way: 'mirrored', x: 0, y: 0, angle: 90 });
	/** How many there would be, the first one too. */
	total = $state(0);
	/** mm of line between one and the next. */
	step = $state<number | undefined>();
	private draft: Repeat | undefined;
	private readonly picture = new CopiesPicture();
	private grip: RepeatRule | undefined;
	private readonly bounds: Box;

	constructor(
		readonly bench: Bench,
		readonly sources: readonly (Outline | Mark)[],
		/** The repeat that is changed; undefined where a new one is made. */
		readonly changed?: Repeat
	) {
		super();
		this.outlines = sources.filter((source): source is Outline => source.type === 'outline');
		this.bounds = unionBox(sources.map((source) => recordType(source).box(source)));
		this.rule = changed?.rule ?? this.ruleOf(last.way);
	}
	get name(): string {
		return this.changed ? 'Change the repeat' : 'Repeat';
	}

	/** A rule of a way, with what was set last and what fits what is repeated. */
	private ruleOf(way: RepeatWay): RepeatRule {
		const { x0, y0, x1, y1 } = this.bounds;
		const [x, y] = [(x0 + x1) / 2, (y0 + y1) / 2];
		switch (way) {
			case 'rows':
				return { way, ...last.rows, right: round(x1 - x0 + GAP), up: round(y1 - y0 + GAP) };
			case 'around': {
				const middle = this.middleAround();
				return { way, ...last.around, ...(middle ?? { x, y: round(y0 - 1.5 * (y1 - y0) - 10) }) };
			}
			case 'along':
				return { way, ...last.along, line: this.nearestLine(x, y) ?? '' };
			case 'mirrored':
				return { way, x: round(x1 + (x1 - x0) / 2), y, angle: 90 };
		}
	}
	/** The middle of the smallest outline around what is repeated. */
	private middleAround(): { x: number; y: number } | undefined {
		const ids = new Set(this.sources.map(({ id }) => id));
		const around = shown(this.bench.drawing)
			.filter((o) => isClosed(o) && !ids.has(o.id))
			.filter((o) => {
				const { outlines, marks } = liesWithin(this.bench.drawing, [o]);
				return [...outlines, ...marks].some(({ id }) => ids.has(id));
			})
			.map((o) => recordType(o).box(o))
			.sort((a, b) => a.x1 - a.x0 - (b.x1 - b.x0));
		const [box] = around;
		return box && { x: (box.x0 + box.x1) / 2, y: (box.y0 + box.y1) / 2 };
	}
	/** The lines along which it may be repeated: none of what is repeated, and none that follows it. */
	private lines(): Outline[] {
		const ids = new Set(this.sources.map(({ id }) => id));
		const after = new Set(followersOf(this.bench.drawing, ids).map(({ id }) => id));
		return shown(this.bench.drawing).filter((o) => !ids.has(o.id) && !after.has(o.id));
	}
	private nearestLine(x: number, y: number, reach = Infinity): string | undefined {
		return nearestOutline(this.lines(), x, y, reach)?.id;
	}

	setWay(way: RepeatWay): void {
		if (way === this.rule.way) return;
		this.take(this.changed?.rule.way === way ? this.changed.rule : this.ruleOf(way));
	}
	/** Some of the rule's numbers. */
	put(changed: Partial<RepeatRule>): void {
		this.take({ ...this.rule, ...changed } as RepeatRule);
	}
	private take(rule: RepeatRule): void {
		this.rule = rule;
		this.change(0);
	}

	protected run(): Promise<void> {
		this.request = nextRequest();
		const { bench, rule, sources } = this;
		const { drawing } = bench;
		const draft: Repeat = {
			...(this.changed ?? { type: 'repeat', id: 'draft', rank: 0, name: '' }),
			sources: sources.map(({ id }) => id),
			rule
		};
		this.draft = draft;
		this.busy = false;
		this.problem = undefined;
		this.preview = [];
		if (rule.way === 'along' && !drawing.records.has(rule.line)) {
			this.total = 0;
			this.step = undefined;
			this.problem = { code: 'no-line', sentence: 'Press the outline along which it is to be repeated.' };
			return Promise.resolve();
		}
		const { list, problem } = instancesOf(drawing, draft);
		const { total, step } = repeatFacts(drawing, draft);
		this.total = total;
		this.step = step;
		this.problem = problem;
		if (list.length * sources.length <= MOST_PREVIEWED)
			this.preview = copiesIn(drawing, draft).flatMap((copy) =>
				copy.type === 'outline' ? [lineOf(copy)] : []
			);
		return Promise.resolve();
	}
	override get ready(): boolean {
		return !this.busy && !this.problem && this.nothing === undefined;
	}
	override get nothing(): string | undefined {
		if (this.total < 2) return 'One alone is no repeat.';
		return undefined;
	}
	override get over() {
		const { draft, bench, total, sources } = this;
		if (!draft || total === 0) return undefined;
		const many = total * sources.length > MOST_PREVIEWED;
		const { picture } = this;
		return (c: CanvasRenderingContext2D, look: SurfaceLook) => {
			if (many) picture.draw(c, bench.drawing, draft, look, 0, 0);
			else if (sources.some(({ type }) => type === 'mark'))
				drawCopies(c, bench.drawing, draft, look, { chosen: true });
			drawRule(c, this.rule, look);
		};
	}
	override get hint(): string {
		switch (this.rule.way) {
			case 'rows':
				return 'Drag to set how far the next column and row lie. Enter keeps it, Esc leaves it.';
			case 'around':
				return 'Press where the middle is, or drag it. Enter keeps it, Esc leaves it.';
			case 'along':
				return 'Press the outline along which they lie. The first one stays where it is. Enter keeps it.';
			case 'mirrored':
				return 'Drag along the line at which it is mirrored. Enter keeps it, Esc leaves it.';
		}
	}
	override tap(x: number, y: number, reach: number): void {
		const { rule } = this;
		if (rule.way === 'around' || rule.way === 'mirrored') this.put({ x, y });
		if (rule.way !== 'along') return;
		const line = this.nearestLine(x, y, reach);
		if (line) this.put({ line });
	}
	override drag(fromX: number, fromY: number, x: number, y: number): boolean {
		this.grip ??= this.rule;
		const { grip } = this;
		if (grip.way === 'rows') {
			this.put({ right: round(grip.right + x - fromX), up: round(grip.up + y - fromY) });
			return true;
		}
		if (grip.way === 'around') {
			this.put({ x: grip.x + x - fromX, y: grip.y + y - fromY });
			return true;
		}
		if (grip.way !== 'mirrored') return false;
		this.put({ x: fromX, y: fromY, angle: meantDirection({ x: fromX, y: fromY }, { x, y }) });
		return true;
	}
	override dropped(): void {
		this.grip = undefined;
	}
	override remember(): void {
		const { rule } = this;
		last.way = rule.way;
		if (rule.way === 'rows') last.rows = { ...rule };
		if (rule.way === 'around') last.around = { ...rule };
		if (rule.way === 'along') last.along = { ...rule };
	}
	edit(drawing: Drawing, newId: NewId): Edit {
		if (this.changed) return { put: [{ ...this.changed, rule: this.rule }] };
		const [first] = this.outlines;
		const name = `${first?.name ?? 'Mark'}, repeated`;
		return addRepeat(drawing, this.sources, this.rule, { id: newId(), name });
	}
	override kept(bench: AfterKeeping, edit: Edit): void {
		bench.selection.letGoOfAnchors();
		this.bench.select((edit.put ?? []).map(({ id }) => id));
	}
}

const round = (mm: number): number => Math.round(100 * mm) / 100;

/** Where the middle or the axis of a rule lies. */
function drawRule(c: CanvasRenderingContext2D, rule: RepeatRule, look: SurfaceLook): void {
	if (rule.way === 'mirrored') drawAxis(c, look, rule, look.palette.madder);
	if (rule.way === 'around') {
		c.save();
		c.setTransform(look.ratio, 0, 0, look.ratio, 0, 0);
		drawStitch(c, look, rule.x, rule.y, look.palette.madder, 8);
		c.restore();
	}
}

/** Repeats what is selected, or changes the repeat that is. */
function beginRepeat(bench: Bench, way?: RepeatWay): RepeatOperation | string {
	const { selection, drawing } = bench;
	const [changed] = selection.selectedRepeats;
	if (changed && selection.selectedRepeats.length === 1) {
		const made = new RepeatOperation(bench, sourcesOf(drawing, changed), changed);
		if (way) made.setWay(way);
		return made;
	}
	const within = bench.within;
	const sources = [
		...selection.selectedOutlines,
		...within.outlines.filter(({ id }) => !selection.selected.has(id)),
		...selection.selectedMarks,
		...within.marks
	];
	if (sources.length === 0) return 'Select what is to be repeated first.';
	bench.leave();
	const made = new RepeatOperation(bench, sources);
	if (way) made.setWay(way);
	return made;
}

export function openRepeat(bench: Bench, way?: RepeatWay): void {
	layOn(bench, 'build', beginRepeat(bench, way));
}
