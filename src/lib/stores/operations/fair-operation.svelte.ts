/** A line made anew: faired, simplified on a stretch, through its anchors, rebuilt, of arcs, of straights. */
import { settingsOf, type Drawing, type LengthUnit } from '../../core/document/drawing';
import { ANCHOR_STRIDE, lineOf, sourceLine, type Outline } from '../../core/document/outline';
import { anchorsBetween } from '../../core/document/edits/selecting';
import type { HelpfulDrift, LineOptions, LineWay } from '../../core/fairing/lines';
import type { CornerVerdict } from '../../core/trace/corner-verdicts';
import { teethDrift } from '../../core/fairing/likely-drift';
import { formatLength } from '../../core/units';
import { behind, type Task } from '../../workers/geometry.client';
import type { Bench } from '../bench.svelte';
import { LineChange } from './line-change.svelte';
import type { AfterKeeping } from './operation.svelte';

/** Of more outlines at once it is not told how far they stray all along. */
const MOST_STRAY = 12;

type FairSettings = FairOperation['settings'];
/** What was typed last is there next time. */
let last: Partial<FairSettings> = {};

export class FairOperation extends LineChange {
	readonly kind = 'fair';
	way = $state<LineWay>('fair');
	/** mm */
	drift = $state(0.25);
	strength = $state(1);
	/** Degrees: what turns less is no corner. */
	cornerAngle = $state(30);
	count = $state(12);
	degree = $state(3);
	/** What was decided about doubtful corners. */
	verdicts = $state.raw<readonly CornerVerdict[]>([]);
	/** The brush is in hand: a drag along the line says which stretch is meant. */
	brushing = $state(false);
	/** mm: how far from the pointer the brush takes the line. */
	brush = $state(3);
	/** The anchors of the stretch; all of the outline where there is none. */
	stretch = $state.raw<ReadonlySet<number> | undefined>();

	private readonly unit: LengthUnit;

	constructor(outlines: readonly Outline[], drawing: Drawing, stretch?: ReadonlySet<number>) {
		// A stretch is told by anchors: its line is the one through them, corners not rounded.
		super(outlines, drawing, stretch ? sourceLine : lineOf);
		this.stretch = stretch;
		this.unit = settingsOf(drawing).unit;
	}

	/** mm: the drift that the teeth of these lines ask for; undefined where they have hardly any. */
	get likely(): number | undefined {
		const all = this.paths.flatMap((path) => teethDrift(path) ?? []);
		return all.length ? +Math.max(...all).toFixed(2) : undefined;
	}
	/** The drift that would help where this one gains nothing. */
	helpful = $state.raw<HelpfulDrift | undefined>();
	private asking: Task<'helpful'> | undefined;

	/** Whether the way keeps to a drift. */
	get keepsDrift(): boolean {
		return this.way !== 'through' && this.way !== 'rebuild';
	}
	override get nothing(): string | undefined {
		if (!this.isUnchanged) return undefined;
		const { helpful } = this;
		const why = this.keepsDrift
			? 'Nothing to gain within this drift.'
			: 'Nothing changes: the line is so already.';
		if (!helpful) return why;
		const { drift, anchors } = helpful;
		return `${why} ${this.keepsDrift ? '' : 'Fairing with '}${formatLength(drift, this.unit)} would make ${anchors} anchors of ${this.anchorsBefore}.`;
	}
	/** Allows the drift that helps. */
	allow(): void {
		if (!this.helpful) return;
		this.drift = this.helpful.drift;
		if (!this.keepsDrift) this.way = 'fair';
		this.change(0);
	}
	/** Looks for the drift that helps, beside everything else. */
	private async ask(): Promise<void> {
		this.asking = behind.run('helpful', [this.paths, this.options, this.places]);
		const { asking } = this;
		const answer = await asking.answer.catch(() => undefined);
		if (asking === this.asking && answer?.ok === true) this.helpful = answer.value;
	}

	get name(): string {
		return {
			fair: 'Fair',
			simplify: 'Simplify a stretch',
			through: 'Smooth through the anchors',
			rebuild: 'Rebuild',
			arcs: 'Make of arcs',
			straights: 'Make of straights'
		}[this.way];
	}
	override get hint(): string {
		return this.brushing
			? 'Drag along the line over what is jagged. Enter keeps it, Esc leaves it.'
			: this.doubtful.length
				? 'Tap a place with a question mark: a corner becomes round, a round place a corner. Enter keeps the line, Esc leaves it.'
				: 'Look at the new line; the band is what it may move. Enter keeps it, Esc leaves it.';
	}

	/** What is asked for next time as well. */
	get settings() {
		const { way, drift, strength, cornerAngle, count, degree } = this;
		return { way, drift, strength, cornerAngle, count, degree };
	}

	get options(): LineOptions {
		return { ...this.settings, verdicts: [...this.verdicts], stray: this.outlines.length <= MOST_STRAY };
	}

	/** Says of a doubtful place that it is a corner, or none. */
	decide(place: CornerVerdict, isCorner: boolean): void {
		const others = this.verdicts.filter((v) => Math.hypot(v.x - place.x, v.y - place.y) > this.drift);
		this.verdicts = [...others, { x: place.x, y: place.y, isCorner }];
		this.change(0);
	}
	/** A tap on a doubtful place decides the other way. */
	override tap(x: number, y: number, reach: number): void {
		const off = (d: CornerVerdict) => Math.hypot(d.x - x, d.y - y);
		const [near] = [...this.doubtful].sort((a, b) => off(a) - off(b));
		if (near && off(near) <= 1.5 * reach) this.decide(near, !near.isCorner);
	}

	/** The stretch as places on its one outline. */
	private get places(): { from: number; to: number } | undefined {
		const [outline] = this.outlines;
		if (!this.stretch || this.stretch.size < 2) return undefined;
		const span = [...anchorsBetween(outline, this.stretch)];
		const from = outline.anchors.indexOf(span[0]);
		const to = outline.anchors.indexOf(span[span.length - 1]);
		return { from, to };
	}

	protected async run(): Promise<void> {
		const { places } = this;
		this.helpful = undefined;
		this.asking?.stop();
		this.asking = undefined;
		if (this.brushing && !places) {
			this.begin();
			this.busy = false;
			this.problem = undefined;
			this.preview = [];
			return;
		}
		const lines = await this.reckon('line', [this.paths, this.options, places]);
		if (!lines) return;
		this.take(lines, Math.max(0.002, this.drift / 50));
		this.deviations = lines.flatMap((l) => l.deviation ?? []);
		this.doubtful = lines.flatMap((l) => l.doubtful ?? []);
		if (this.isUnchanged) void this.ask();
	}

	override stop(): void {
		this.asking?.stop();
		super.stop();
	}
	override remember(): void {
		last = this.settings;
	}
	override kept(bench: AfterKeeping): void {
		bench.selection.letGoOfAnchors();
		bench.tell(`${this.name}: ${this.anchorsBefore} anchors are ${this.anchorsAfter} now.`);
	}
	override get replaced(): ReadonlySet<string> {
		return this.preview.length ? super.replaced : new Set();
	}
	override get driftBand() {
		if (this.way === 'through' || this.way === 'rebuild') return undefined;
		return { paths: this.outlines.map(lineOf), drift: this.drift };
	}

	/** The brush goes over the line: anchors beside it belong to the stretch. */
	override drag(_fromX: number, _fromY: number, x: number, y: number): boolean {
		if (!this.brushing) return false;
		const [outline] = this.outlines;
		const near = new Set(this.stretch ?? []);
		outline.anchors.forEach((id, i) => {
			const dx = outline.points[ANCHOR_STRIDE * i] - x;
			const dy = outline.points[ANCHOR_STRIDE * i + 1] - y;
			if (dx * dx + dy * dy <= this.brush * this.brush) near.add(id);
		});
		if (near.size !== (this.stretch?.size ?? 0)) this.stretch = near;
		return true;
	}
	override dropped(): void {
		if (!this.brushing) return;
		if ((this.stretch?.size ?? 0) < 2) {
			this.problem = {
				code: 'nothing-brushed',
				sentence: 'The brush went over nothing. Drag along the line, or make the brush wider.'
			};
			return;
		}
		this.change(0);
	}
}

/** Fairs what is selected: the stretch between the selected anchors, or whole outlines. */
export function beginFair(bench: Bench, settings: Partial<FairSettings> = {}): FairOperation | string {
	const entered = bench.selection.enteredOutline;
	if (bench.selection.enteredOutlines.filter((o) => bench.selection.anchorsOf(o.id).size > 0).length > 1)
		return 'The selected anchors lie on two outlines. Select a stretch of one, or none for all of both.';
	const stretch = entered && bench.selection.anchors.size > 1 ? bench.selection.anchors : undefined;
	const outlines = entered ? bench.selection.enteredOutlines : bench.targets();
	if (outlines.length === 0) return 'There is no outline to fair.';
	const operation = new FairOperation(stretch ? [entered!] : outlines, bench.drawing, stretch);
	if (operation.likely !== undefined) operation.drift = operation.likely;
	Object.assign(operation, last, settings);
	return operation;
}

/** As it was faired last, so many times as strong. */
export function strongerFair(times: number): Partial<FairSettings> {
	last = { ...last, strength: Math.min(20, (last.strength ?? 1) * times) };
	return { way: 'fair' };
}
