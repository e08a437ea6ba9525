/** Closed outlines made one: all, common, first less the rest, regions picked. */
import type { Drawing } from '../../core/document/drawing';
import { addFollower } from '../../core/document/edits/made';
import { factsLike, type NewId } from '../../core/document/edits/operations';
import { combineOutlines, isMixed, stayAs, type SourceFate } from '../../core/document/edits/structure';
import type { Edit } from '../../core/document/history';
import { isClosed, lineOf, type Outline } from '../../core/document/outline';
import { COMBINED_WORDS } from '../../core/document/recipes/combined';
import type { Problem } from '../../core/errors';
import { anchorCount, isInside } from '../../core/geometry/measure';
import type { CombineInput, CombineOp, CombinedPiece } from '../../core/plane/area';
import { groupPieces } from '../../core/plane/pieces';
import type { Bench } from '../bench.svelte';
import { Operation, type AfterKeeping } from './operation.svelte';

/** Combines pieces: an outer outline among the selected with its holes is one input, in the order of selection. */
export class CombineOperation extends Operation {
	readonly kind = 'combine';
	op = $state<CombineOp>('union');
	fate = $state<SourceFate>('removed');
	anchorsBefore: number;
	anchorsAfter = $state(0);
	fallback = $state(false);
	pieces = $state.raw<readonly CombinedPiece[]>([]);
	/** An empty result is a result: it may be kept. */
	empty = $state(false);
	/** Regions that stay become one piece where they touch. */
	merged = $state(false);
	/** All regions there are, and which of them were picked to be left out. */
	private regions: readonly CombinedPiece[] = [];
	private out: ReadonlySet<number> = new Set();
	/** Pieces with their holes, the one that the others are taken from first. */
	private groups: readonly (readonly number[])[];
	/** The piece from which the rest is taken away. */
	first = $state('');

	constructor(readonly outlines: readonly Outline[]) {
		super();
		const paths = outlines.map(lineOf);
		this.groups = groupPieces(paths);
		this.first = this.nameOfFirst;
		this.anchorsBefore = paths.reduce((sum, path) => sum + anchorCount(path), 0);
	}

	private get nameOfFirst(): string {
		const [[outer] = []] = this.groups;
		return outer === undefined ? '' : this.outlines[outer].name;
	}
	private get inputs(): CombineInput[] {
		const paths = this.outlines.map(lineOf);
		return this.groups.map((group) => [{ paths: group.map((i) => paths[i]), rule: 'evenodd' }]);
	}
	/** The next piece becomes the first. */
	swap(): void {
		const [first, ...rest] = this.groups;
		if (rest.length === 0) return;
		this.groups = [...rest, first];
		this.first = this.nameOfFirst;
		this.change(0);
	}

	protected async run(): Promise<void> {
		const combined = await this.reckon('combine', [this.inputs, this.op]);
		if (!combined) return;
		this.regions = combined.pieces;
		this.out = new Set();
		this.under = [];
		await this.choose(combined.fallback);
	}
	protected override fail(problem: Problem): void {
		super.fail(problem);
		this.show([], false);
	}

	/** Takes the regions that were not left out; united where that is wanted. */
	private async choose(fallback: boolean): Promise<void> {
		const kept = this.regions.filter((_, i) => !this.out.has(i));
		this.leftOut = this.regions.filter((_, i) => this.out.has(i)).flatMap((r) => r.paths);
		this.problem = undefined;
		if (this.op !== 'regions' || !this.merged || kept.length < 2) {
			this.busy = false;
			this.show(kept, fallback);
			return;
		}
		const inputs = kept.map((r): CombineInput => [{ paths: r.paths, rule: 'evenodd' }]);
		const united = await this.reckon('combine', [inputs, 'union']);
		if (united) this.show(united.pieces, fallback || united.fallback);
	}

	private show(pieces: readonly CombinedPiece[], fallback: boolean): void {
		this.pieces = pieces;
		this.fallback = fallback;
		this.preview = pieces.flatMap((piece) => piece.paths);
		this.empty = !this.problem && this.preview.length === 0;
		this.anchorsAfter = this.preview.reduce((sum, path) => sum + anchorCount(path), 0);
	}

	private regionAt(x: number, y: number): number {
		return this.regions.findIndex(
			(r) => r.paths.filter((path) => isInside(path, x, y, 0.05)).length % 2 === 1
		);
	}
	override get hint(): string | undefined {
		return this.op === 'regions' ? 'Tap a region to leave it out, or to have it back.' : undefined;
	}
	override hover(x: number, y: number): void {
		const i = this.op === 'regions' ? this.regionAt(x, y) : -1;
		const paths = i < 0 ? [] : this.regions[i].paths;
		if (paths !== this.under && (paths.length || this.under.length)) this.under = paths;
	}
	override tap(x: number, y: number): void {
		const i = this.op === 'regions' ? this.regionAt(x, y) : -1;
		if (i < 0 || this.busy) return;
		const out = new Set(this.out);
		if (!out.delete(i)) out.add(i);
		this.out = out;
		this.rechoose();
	}
	/** The choice of regions, or how they are kept, has changed. */
	rechoose(): void {
		this.begin();
		void this.choose(this.fallback);
	}

	override get ready(): boolean {
		return !this.busy && !this.problem && (this.preview.length > 0 || this.empty);
	}
	get name(): string {
		return {
			union: 'Unite',
			difference: 'Take away',
			intersection: 'Keep the common',
			xor: 'Keep what only one covers',
			regions: 'Part into regions'
		}[this.op];
	}
	override kept(bench: AfterKeeping, edit: Edit): void {
		super.kept(bench, edit);
		if (isMixed(this.outlines, this.pieces))
			bench.tell(
				'Outlines of several layers or colours became one: it has those of the one that most of its line comes from.'
			);
	}
	/** Whether the result follows the outlines: where they stay, and no region was picked by hand. */
	get follows(): boolean {
		return this.fate !== 'removed' && this.op !== 'regions' && !this.empty;
	}
	edit(drawing: Drawing, newId: NewId): Edit {
		const { op } = this;
		if (this.follows && op !== 'regions') {
			const inOrder = this.groups.flatMap((group) => group.map((i) => this.outlines[i]));
			const facts = factsLike(drawing, inOrder[0], `${inOrder[0].name}, ${COMBINED_WORDS[op]}`);
			const { put = [] } = addFollower('combined', { op }, inOrder, { ...facts, id: newId() });
			return { put: [...put, ...stayAs(this.outlines, this.fate)] };
		}
		return combineOutlines(drawing, this.outlines, this.pieces, this.fate, newId);
	}
}

/** Combines the selected closed outlines. */
export function beginCombine(bench: Bench): CombineOperation | string {
	// In the order in which they were picked.
	const order = [...bench.selection.selected];
	const outlines = bench.selection.selectedOutlines
		.filter((o) => isClosed(o))
		.sort((a, b) => order.indexOf(a.id) - order.indexOf(b.id));
	if (outlines.length < 2) return 'Select two or more closed outlines to combine.';
	bench.leave();
	return new CombineOperation(outlines);
}
