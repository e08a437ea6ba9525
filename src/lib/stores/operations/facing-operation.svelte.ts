/** A facing of some edges of a piece, which follows it. */
import type { Drawing } from '../../core/document/drawing';
import { edgeAt, edgesOf } from '../../core/document/edges';
import { addFollower } from '../../core/document/edits/made';
import { factsLike, type NewId } from '../../core/document/edits/operations';
import { inputLine } from '../../core/document/graph';
import type { Edit } from '../../core/document/history';
import { isClosed, sourceLine, type Outline } from '../../core/document/outline';
import type { FacingSettings } from '../../core/document/recipes/facing';
import { STRIDE } from '../../core/geometry/path';
import { nearestOnPath } from '../../core/geometry/pick';
import { pointAt } from '../../core/geometry/segment';
import type { Bench } from '../bench.svelte';
import { layOn } from './laying-on';
import { Operation } from './operation.svelte';

/** What was typed last is there next time, mm. */
let last = 40;

export class FacingOperation extends Operation {
	readonly kind = 'facing';
	readonly name = 'Facing';
	depth = $state(last);
	/** Ids of the edges that are faced. */
	edges = $state.raw<ReadonlySet<number>>(new Set());
	readonly outlines: readonly Outline[];

	constructor(
		private readonly piece: Outline,
		edges: ReadonlySet<number>
	) {
		super();
		this.outlines = [piece];
		this.edges = edges;
	}
	get settings(): FacingSettings {
		return { edges: [...this.edges], depth: this.depth };
	}
	override get hint(): string {
		return this.edges.size === 0
			? 'Press the edges that are to be faced. Esc leaves it.'
			: 'Press an edge to face it too, once more to leave it out; type how deep the facing is. Enter keeps it.';
	}
	protected async run(): Promise<void> {
		const line = sourceLine(this.piece);
		this.labels = edgesOf(this.piece)
			.filter(({ id }) => this.edges.has(id))
			.map(({ first, count }) => {
				const i = (first + Math.floor(count / 2)) % line.types.length;
				return { ...pointAt(line.types[i], line.segs, STRIDE * i, count % 2 ? 0.5 : 0), text: 'faced' };
			});
		if (this.edges.size === 0) {
			this.begin();
			this.busy = false;
			this.preview = [];
			return;
		}
		const made = await this.reckon('make', ['facing', [inputLine(this.piece)], this.settings]);
		if (made) this.preview = made.map(({ path }) => path);
	}
	/** An edge pressed is faced, or is not any more. */
	override tap(x: number, y: number, reach: number): void {
		const near = nearestOnPath(sourceLine(this.piece), x, y, 3 * reach);
		const edge = near && edgeAt(this.piece, near.segment);
		if (edge) this.toggle(edge.id);
	}
	toggle(id: number): void {
		const next = new Set(this.edges);
		if (!next.delete(id)) next.add(id);
		this.edges = next;
		this.change(0);
	}
	override remember(): void {
		last = this.depth;
	}
	edit(drawing: Drawing, newId: NewId): Edit {
		const { piece } = this;
		return addFollower('facing', this.settings, this.outlines, {
			...factsLike(drawing, piece, `${piece.name}, facing`),
			id: newId()
		});
	}
}

/** A facing of the picked edges of the entered outline, or of those that are pressed then. */
export function openFacing(bench: Bench): void {
	const { selection } = bench;
	const piece = selection.enteredOutline ?? selection.selectedOutlines[0];
	if (!piece || !isClosed(piece) || piece.anchors.length === 0) {
		bench.tell('Select a closed outline: a facing lies inside of some of its edges.');
		return;
	}
	const edges = new Set(
		(selection.enteredOutline ? [...selection.segmentIndexes()] : []).flatMap(
			(i) => edgeAt(piece, i)?.id ?? []
		)
	);
	bench.leave();
	layOn(bench, 'offset', new FacingOperation(piece, edges));
}
