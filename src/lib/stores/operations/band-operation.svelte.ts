/** A line that has a width becomes the outline of it, which follows the line; the width of each stretch can be its own. */
import type { Drawing } from '../../core/document/drawing';
import { anchorPlace, stretchAt, withStretch, type BandStretch } from '../../core/document/edits/band-widths';
import { addFollower, withSettings } from '../../core/document/edits/made';
import { factsLike, type NewId } from '../../core/document/edits/operations';
import { inputLine } from '../../core/document/graph';
import type { Edit } from '../../core/document/history';
import { isClosed, type Outline } from '../../core/document/outline';
import type { BandSettings } from '../../core/document/recipes/band';
import type { InputLine } from '../../core/document/recipes/recipe-type';
import { anchorCount } from '../../core/geometry/measure';
import type { Path } from '../../core/geometry/path';
import { nearestOnPath } from '../../core/geometry/pick';
import { formatLength } from '../../core/units';
import type { Bench } from '../bench.svelte';
import { layOn } from './laying-on';
import { Operation } from './operation.svelte';

/** What was typed last is there next time. */
let last: Omit<BandSettings, 'widths'> = { width: 6, taper: 'even', join: 'round', ends: 'round' };

export class BandOperation extends Operation {
	readonly kind = 'band';
	readonly name: string;
	settings = $state.raw<BandSettings>({ ...last, widths: [] });
	/** The segment of the first line whose width is being said. */
	picked = $state<number | undefined>();
	pieces = $state(0);
	anchorsAfter = $state(0);
	readonly hasOpen: boolean;
	private readonly inputs: readonly InputLine[];

	constructor(
		readonly outlines: readonly Outline[],
		/** The band that is changed, where it is there already. */
		private readonly made: Outline | undefined,
		private readonly bench: Pick<Bench, 'unit'>
	) {
		super();
		this.name = made ? 'Change a band' : outlines.length > 1 ? 'Bands' : 'Band';
		this.inputs = outlines.map(inputLine);
		this.hasOpen = outlines.some((o) => !isClosed(o));
		if (made?.recipe?.kind === 'band') this.settings = made.recipe.settings;
	}
	override get hint(): string {
		if (this.outlines.length > 1) return 'Type how wide the bands are, or pull one to its width.';
		return this.picked === undefined
			? 'Pull the band to its width, or press a stretch of the line to give it a width of its own.'
			: 'Type how wide this stretch is where it begins and where it ends, or pull the band there. Esc lets it go.';
	}
	/** The stretch whose width is being said. */
	get stretch(): BandStretch | undefined {
		return this.picked === undefined ? undefined : stretchAt(this.inputs[0], this.settings, this.picked);
	}
	say(settings: Partial<BandSettings>): void {
		this.settings = { ...this.settings, ...settings };
		this.change(0);
	}
	/** The picked stretch gets its own width; undefined: as the rest. */
	sayStretch(from: number | undefined, to: number | undefined): void {
		const { stretch } = this;
		if (!stretch) return;
		this.settings = withStretch(this.inputs[0], this.settings, stretch, from, to);
		this.change(0);
	}
	override tap(x: number, y: number, reach: number): void {
		if (this.inputs.length > 1) return;
		const [{ path }] = this.inputs;
		this.pick(nearestOnPath(path, x, y, 3 * reach)?.segment);
	}
	/** The stretch that a segment of the line belongs to is the one whose width is said. */
	pick(segment: number | undefined): void {
		this.picked = segment === undefined ? undefined : segment % this.inputs[0].path.types.length;
		this.mark();
	}
	override leaveOne(): boolean {
		if (this.picked === undefined) return false;
		this.pick(undefined);
		return true;
	}
	/** What is pulled: an end of the picked stretch, or the width of all. */
	private pulling: 'from' | 'to' | 'width' | undefined;
	override drag(fromX: number, fromY: number, x: number, y: number, reach: number): boolean {
		const [input] = this.inputs;
		if (!this.pulling) {
			if (!this.preview.some((path) => nearestOnPath(path, fromX, fromY, 2 * reach))) return false;
			const { stretch } = this;
			this.pulling = 'width';
			if (stretch) {
				const [a, b] = [stretch.start, stretch.end].map((i) => anchorPlace(input.path, i));
				const off = (p: { x: number; y: number }) => Math.hypot(p.x - fromX, p.y - fromY);
				this.pulling = off(a) <= off(b) ? 'from' : 'to';
			}
		}
		const near = Math.min(
			...this.inputs.map(({ path }) => nearestOnPath(path, x, y, Infinity)?.distance ?? Infinity)
		);
		const width = Math.round(200 * near) / 100;
		const { stretch } = this;
		if (this.pulling === 'width') this.settings = { ...this.settings, width };
		else if (stretch)
			this.settings = withStretch(
				input,
				this.settings,
				stretch,
				this.pulling === 'from' ? width : stretch.from,
				this.pulling === 'to' ? width : stretch.to
			);
		this.change(15);
		return true;
	}
	override dropped(): void {
		this.pulling = undefined;
	}
	/** The widths written beside the ends of the picked stretch. */
	private mark(): void {
		const { stretch } = this;
		const [input] = this.inputs;
		this.labels = !stretch
			? []
			: (
					[
						[stretch.start, stretch.from],
						[stretch.end, stretch.to]
					] as const
				).map(([i, mm]) => ({
					...anchorPlace(input.path, i),
					text: formatLength(mm, this.bench.unit)
				}));
	}

	protected async run(): Promise<void> {
		const made: Path[] = [];
		for (const input of this.inputs) {
			const lines = await this.reckon('make', ['band', [input], this.settings]);
			if (!lines) return;
			made.push(...lines.map((line) => line.path));
		}
		this.preview = made;
		this.pieces = made.length;
		this.anchorsAfter = made.reduce((sum, path) => sum + anchorCount(path), 0);
		this.mark();
	}
	override remember(): void {
		const { width, taper, join, ends } = this.settings;
		last = { width, taper, join, ends };
	}
	edit(drawing: Drawing, newId: NewId): Edit {
		if (this.made) return withSettings(drawing, this.made, this.settings);
		return {
			put: this.outlines.flatMap((source, k) => {
				const facts = factsLike(drawing, source, `${source.name}, band`);
				const made = { ...facts, rank: facts.rank + k, id: newId() };
				return addFollower('band', this.settings, [source], made).put ?? [];
			})
		};
	}
}

/** A band of each selected line; or the selected band, to be changed. */
export function openBand(bench: Bench): void {
	const outlines = bench.selection.selectedOutlines.filter((o) => o.anchors.length > 0);
	const made = outlines.length === 1 && outlines[0].recipe?.kind === 'band' ? outlines[0] : undefined;
	const source = made && bench.drawing.records.get(made.recipe!.inputs[0].record);
	if (outlines.length === 0) {
		layOn(bench, 'offset', 'Select the line that is to have a width.');
		return;
	}
	bench.leave();
	const sources = source?.type === 'outline' ? [source] : outlines;
	layOn(bench, 'offset', new BandOperation(sources, made, bench));
}
