/** Whole things lined up and spread, to all of them, to one that stays put, or to the sheet; seen before it is kept. */
import { recordsOf, sheetsOf, type Drawing } from '../../core/document/drawing';
import {
	alignEdit,
	alignMoves,
	thingsOf,
	type AlignSettings,
	type Thing
} from '../../core/document/edits/align';
import type { LineUpAt } from '../../core/document/edits/anchor-groups';
import { moveBy } from '../../core/geometry/maps';
import type { Edit } from '../../core/document/history';
import { lineOf, type Outline } from '../../core/document/outline';
import { unionBox } from '../../core/geometry/measure';
import { transformPath } from '../../core/geometry/path';
import { nearestOnPath } from '../../core/geometry/pick';
import type { Box } from '../../core/geometry/segment';
import { nextRequest } from '../../workers/geometry.client';
import type { Bench } from '../bench.svelte';
import { layOn } from './laying-on';
import { idsOf, Operation, type AfterKeeping } from './operation.svelte';

export type AlignTo = 'all' | 'one' | 'sheet' | 'guide';
export type SpreadBy = 'no' | 'gaps' | 'middles' | 'typed';

export class AlignOperation extends Operation {
	readonly kind = 'align';
	readonly name = 'Line up';
	readonly outlines: readonly Outline[];
	across = $state<LineUpAt | 'no'>('no');
	up = $state<LineUpAt | 'no'>('no');
	to = $state<AlignTo>('all');
	/** The guide that they are brought to. */
	guide = $state('');
	/** The thing that stays put where they are brought to one. */
	stays = $state(0);
	spreadAxis = $state<'across' | 'up'>('across');
	spreadBy = $state<SpreadBy>('no');
	/** mm */
	gap = $state(5);
	moves = $state.raw<readonly (readonly [number, number])[]>([]);

	constructor(
		readonly bench: Bench,
		readonly things: readonly Thing[]
	) {
		super();
		this.outlines = things.flatMap(({ outlines }) => outlines);
	}
	get sheet(): Box | undefined {
		const [sheet] = sheetsOf(this.bench.drawing);
		if (!sheet) return undefined;
		const { x, y, width, height, margin } = sheet;
		return { x0: x + margin, y0: y + margin, x1: x + width - margin, y1: y + height - margin };
	}
	/** Guides that things can be brought to: level and upright ones. */
	readonly guides = $derived.by(() =>
		recordsOf(this.bench.drawing, 'guide').filter(({ angle }) => angle % 90 === 0)
	);
	/** The line of the guide, as a box without width one way and the things' own the other. */
	private get guideBox(): Box | undefined {
		const guide = this.guides.find(({ id }) => id === this.guide) ?? this.guides[0];
		if (!guide) return undefined;
		const own = unionBox(this.things.map((thing) => thing.box));
		return guide.angle % 180 === 0
			? { ...own, y0: guide.y, y1: guide.y }
			: { ...own, x0: guide.x, x1: guide.x };
	}
	private get settings(): AlignSettings {
		const { across, up, to, spreadAxis, spreadBy, gap } = this;
		const box =
			{
				sheet: () => this.sheet,
				one: () => this.things[this.stays].box,
				guide: () => this.guideBox,
				all: () => undefined
			}[to]() ?? unionBox(this.things.map((thing) => thing.box));
		return {
			...(across === 'no' ? {} : { across }),
			...(up === 'no' ? {} : { up }),
			to: box,
			...(spreadBy === 'no'
				? {}
				: { spread: { axis: spreadAxis, by: spreadBy === 'typed' ? gap : spreadBy } })
		};
	}
	protected run(): Promise<void> {
		this.request = nextRequest();
		this.moves = alignMoves(this.things, this.settings);
		this.preview = this.things.flatMap(({ outlines }, i) =>
			outlines.map((outline) => transformPath(lineOf(outline), moveBy(...this.moves[i])))
		);
		const one = this.things[this.stays].box;
		this.labels =
			this.to === 'one' ? [{ x: (one.x0 + one.x1) / 2, y: (one.y0 + one.y1) / 2, text: 'stays put' }] : [];
		this.busy = false;
		return Promise.resolve();
	}
	override get replaced(): ReadonlySet<string> {
		return idsOf(this.outlines);
	}
	override get hint(): string {
		return 'Choose edges or middles, and how they are spread. Press a thing on the drawing to have it stay put, or a guide to bring them to it.';
	}
	override get nothing(): string | undefined {
		return this.moves.every(([x, y]) => Math.hypot(x, y) < 1e-9) ? 'They lie so already.' : undefined;
	}
	/** A press on a thing: it stays put, and the others come to it. */
	override tap(x: number, y: number, reach: number): void {
		const i = this.things.findIndex(({ outlines }) =>
			outlines.some((outline) => nearestOnPath(lineOf(outline), x, y, reach))
		);
		if (i < 0) {
			const guide = this.guides.find((g) => Math.abs(g.angle % 180 === 0 ? g.y - y : g.x - x) <= reach);
			if (!guide) return;
			this.to = 'guide';
			this.guide = guide.id;
			this.change(0);
			return;
		}
		this.to = 'one';
		this.stays = i;
		this.change(0);
	}
	edit(drawing: Drawing): Edit {
		return alignEdit(drawing, this.things, this.moves);
	}
	override kept(bench: AfterKeeping): void {
		bench.selection.letGoOfAnchors();
	}
}

/** Lines up what is selected. */
function beginAlign(bench: Bench, preset: Partial<AlignOperation> = {}): AlignOperation | string {
	const things = thingsOf(bench.drawing, bench.selection.selectedOutlines);
	const others = sheetsOf(bench.drawing).length + recordsOf(bench.drawing, 'guide').length;
	if (things.length < 2 && !(things.length === 1 && others))
		return 'Select two things or more; one alone can be brought to the sheet or to a guide.';
	bench.leave();
	const made = new AlignOperation(bench, things);
	if (things.length === 1) made.to = made.sheet ? 'sheet' : 'guide';
	return Object.assign(made, preset);
}

export function openAlign(bench: Bench, preset: Partial<AlignOperation> = {}): void {
	layOn(bench, 'build', beginAlign(bench, preset));
}
