/** How one looks at lines: the comb and what it marks, the chart along the length, the line against others, ghosts. */
import { recordAs } from '../core/document/drawing';
import { lineOf, type Outline } from '../core/document/outline';
import { shown } from '../core/document/output';
import { isOnReference } from '../core/document/edits/placement';
import { combOf, teethFor, tightStretches, TOOTH, type Comb, type TightStretch } from '../core/geometry/comb';
import { sampleNear, worstOf, type Deviation, type Worst } from '../core/geometry/deviation';
import { pathLength } from '../core/geometry/measure';
import type { Path } from '../core/geometry/path';
import { combGain } from '../render/comb';
import { behind, nextRequest } from '../workers/geometry.client';
import { pictureWorker } from '../workers/picture.client';
import type { ForLooking } from './parts';
import { whenOpen } from './files/pictures';

/** What a line is compared with. */
export const COMPARED = ['nothing', 'first', 'ghost', 'picture'] as const;
export type Compared = (typeof COMPARED)[number];

/** What the comb marks beside its teeth, each a wish of its own. */
export interface CombMarks {
	readonly inflections: boolean;
	readonly steps: boolean;
	readonly tightest: boolean;
}

/** A place on a line that is pointed at, on the drawing or on the chart. */
export interface LookedPlace {
	readonly x: number;
	readonly y: number;
	/** mm along the line of the chart. */
	readonly along: number;
	/** mm, positive where it bends left; infinite where it is straight. */
	readonly radius: number;
}

/** Of more lines at once no combs are drawn, and no more are compared. */
const MOST_COMBS = 40;
const MOST_COMPARED = 200;
/** mm to either side in which the picture's edge is looked for: so many px of the window, within these limits. */
const REACH_PX = 60;
const LEAST_REACH = 0.3;
const MOST_REACH = 6;

export class Looking {
	/** The slip with the chart and its wishes. */
	open = $state(false);
	/** The comb of curvature beside what is selected; how long its teeth are against what fits. */
	combed = $state(false);
	stretch = $state(1);
	/** The comb shows by itself while something is dragged. */
	whileDragging = $state(true);
	marks = $state.raw<CombMarks>({ inflections: true, steps: true, tightest: true });
	/** All handles of the entered outlines as one polygon, to pull the line by. */
	polygon = $state(false);
	/** Kept ghosts are drawn. */
	ghosts = $state(true);
	compared = $state<Compared>('nothing');
	deviations = $state.raw<readonly Deviation[]>([]);
	/** Where what is compared lies farthest off. */
	worst = $state.raw<Worst | undefined>();
	/** Why there is nothing to compare. */
	why = $state('');
	/** What is pointed at on the line or on the chart. */
	place = $state.raw<LookedPlace | undefined>();
	/** How far the compared line lies off, at the pointer. */
	number = $state.raw<Worst | undefined>();
	private tightAt = -1;
	private request = 0;
	private timer: ReturnType<typeof setTimeout> | undefined;

	constructor(private readonly bench: ForLooking) {}

	/** What is looked at: the new line of an operation, the entered outlines, or the selected. */
	readonly lines: readonly Path[] = $derived.by(() => {
		const { bench } = this;
		if (bench.operation?.preview.length) return bench.operation.preview;
		return (
			bench.selection.enteredOutlines.length
				? bench.selection.enteredOutlines
				: bench.selection.selectedOutlines
		).map(lineOf);
	});
	/** Whether the comb is to be seen just now. */
	readonly showsComb: boolean = $derived.by(
		() => this.combed || (this.whileDragging && this.bench.drafts.size > 0)
	);
	readonly combs: readonly Comb[] = $derived.by(() => {
		if ((!this.showsComb && !this.open && !this.watchesTool) || this.lines.length > MOST_COMBS) return [];
		return this.lines.map((path) => combOf(path, teethFor(path)));
	});
	/** The largest curvature of all combs, 1/mm. */
	readonly most: number = $derived.by(() => Math.max(0, ...this.combs.map((comb) => comb.most)));
	/** px a unit of curvature. All combs have one scale, so that what meets can be compared. */
	get gain(): number {
		return combGain(this.most, this.stretch);
	}
	/** While a line is dragged its tightest place is held against the tool. */
	private readonly watchesTool: boolean = $derived.by(
		() => this.toolRadius !== undefined && this.bench.drafts.size > 0
	);
	/** The line of the chart: one at a time. */
	readonly charted: Comb | undefined = $derived.by(() => (this.open ? this.combs[0] : undefined));
	readonly chartedLength: number = $derived.by(() =>
		this.open && this.lines[0] ? pathLength(this.lines[0]) : 0
	);
	/** mm */
	get toolRadius(): number | undefined {
		return this.bench.settings.toolRadius;
	}
	/** Where the lines bend more tightly than the tool. */
	readonly tight: readonly TightStretch[] = $derived.by(() => {
		const { toolRadius } = this;
		return toolRadius === undefined ? [] : this.combs.flatMap((comb) => tightStretches(comb, toolRadius));
	});

	/** The slip is put away, with all it shows. */
	leave(): void {
		if (this.open) this.toggle();
	}
	/** The slip is opened, or put away with all it shows. */
	toggle(): void {
		this.open = !this.open;
		this.combed = this.open;
		if (!this.open) {
			this.place = undefined;
			this.compare('nothing');
		}
	}
	mark(mark: keyof CombMarks): void {
		this.marks = { ...this.marks, [mark]: !this.marks[mark] };
	}
	setToolRadius(radius: number): void {
		const { settings } = this.bench;
		this.bench.commit('Set the tool radius', { put: [{ ...settings, toolRadius: radius }] });
	}

	/** Goes to the next stretch that is too tight for the tool. */
	nextTight(): void {
		const { tight, bench } = this;
		if (tight.length === 0) return;
		this.tightAt = (this.tightAt + 1) % tight.length;
		bench.sight.lookAt(tight[this.tightAt]);
	}

	/** The pointer is over this place of the paper, mm. */
	hover(x: number, y: number, reach: number): void {
		const { operation } = this.bench;
		const near = sampleNear(operation ? operation.deviations : this.deviations, x, y);
		const number = near && near.apart <= 2 * reach && Number.isFinite(near.off) ? near : undefined;
		if (number !== this.number) this.number = number;
		if (!this.charted) return;
		const { teeth } = this.charted;
		let best = -1;
		let least = 3 * reach;
		for (let i = 0; i < teeth.length; i += TOOTH) {
			const off = Math.hypot(teeth[i] - x, teeth[i + 1] - y);
			if (off >= least) continue;
			least = off;
			best = i;
		}
		this.place = best < 0 ? undefined : placeOf(teeth, best);
	}
	/** The pointer is over the chart, so far along the line, mm. */
	pointAlong(along: number | undefined): void {
		const teeth = this.charted?.teeth;
		if (!teeth || along === undefined) {
			this.place = undefined;
			return;
		}
		let best = 0;
		for (let i = 0; i < teeth.length; i += TOOTH)
			if (Math.abs(teeth[i + 5] - along) < Math.abs(teeth[best + 5] - along)) best = i;
		this.place = teeth.length ? placeOf(teeth, best) : undefined;
	}

	compare(with_: Compared): void {
		this.compared = with_;
		this.number = undefined;
		if (with_ !== 'nothing') return;
		clearTimeout(this.timer);
		this.request = nextRequest();
		this.deviations = [];
		this.worst = undefined;
		this.why = '';
	}
	/** From one thing to compare with to the next. */
	compareNext(): void {
		this.compare(COMPARED[(COMPARED.indexOf(this.compared) + 1) % COMPARED.length]);
	}
	/** Compares again where what is compared has changed; to be called whenever it may have. */
	follow(): void {
		const { bench, compared } = this;
		if (compared === 'nothing') return;
		if (bench.operation) {
			this.deviations = [];
			this.worst = undefined;
			return;
		}
		const chosen = bench.selection.enteredOutlines.length
			? bench.selection.enteredOutlines
			: bench.selection.selectedOutlines;
		const outlines = chosen.length ? chosen : shown(bench.drawing);
		const reach = Math.min(MOST_REACH, Math.max(LEAST_REACH, REACH_PX / bench.sight.view.scale));
		clearTimeout(this.timer);
		this.timer = setTimeout(() => void this.run(outlines.slice(0, MOST_COMPARED), compared, reach), 120);
	}

	private async run(outlines: readonly Outline[], compared: Compared, reach: number): Promise<void> {
		const request = (this.request = nextRequest());
		const found =
			compared === 'picture'
				? await this.besidePictures(outlines, reach)
				: await this.besideKept(request, outlines, compared === 'first' ? 'first' : 'ghost');
		if (request !== this.request || !found) return;
		this.deviations = found.map((f) => f.deviation);
		this.worst = worstAmong(found.map((f) => f.worst));
		this.number = undefined;
		this.why = found.length
			? ''
			: {
					nothing: '',
					first: 'These lines are as they first were.',
					ghost: 'None of these lines has a ghost. "Keep a ghost" gives them one.',
					picture: 'No picture lies under these lines.'
				}[compared];
	}

	private async besideKept(
		request: number,
		outlines: readonly Outline[],
		which: 'first' | 'ghost'
	): Promise<readonly FoundBeside[] | undefined> {
		const { drawing, sight } = this.bench;
		const pairs = outlines.flatMap((o) => {
			const id = o[which];
			return id === undefined ? [] : [{ path: lineOf(o), other: recordAs(drawing, 'line', id).path }];
		});
		if (pairs.length === 0) return [];
		const answer = await behind.run('compare', [pairs, Math.max(0.02, 3 / sight.view.scale)]).answer;
		return answer.ok === true ? answer.value : undefined;
	}

	private async besidePictures(outlines: readonly Outline[], reach: number): Promise<readonly FoundBeside[]> {
		const { bench } = this;
		const out: FoundBeside[] = [];
		for (const reference of [...bench.references].reverse().filter((r) => !r.hidden)) {
			const over = outlines.filter((o) => isOnReference(reference, o.points[0], o.points[1]));
			if (over.length === 0) continue;
			await whenOpen(reference.picture);
			const plain = $state.snapshot(reference) as typeof reference;
			const step = Math.max(0.02, 3 / bench.sight.view.scale);
			const answer = await pictureWorker().edgeBeside(plain, over.map(lineOf), step, reach);
			if (answer.ok === true)
				out.push(...answer.value.map((deviation) => ({ deviation, worst: worstOf([deviation]) })));
		}
		return out;
	}
}

interface FoundBeside {
	readonly deviation: Deviation;
	readonly worst: Worst | undefined;
}

function worstAmong(all: readonly (Worst | undefined)[]): Worst | undefined {
	return all.reduce((a, b) => (b && (!a || Math.abs(b.off) > Math.abs(a.off)) ? b : a), undefined);
}

function placeOf(teeth: Float64Array, at: number): LookedPlace {
	return { x: teeth[at], y: teeth[at + 1], along: teeth[at + 5], radius: 1 / teeth[at + 4] };
}
