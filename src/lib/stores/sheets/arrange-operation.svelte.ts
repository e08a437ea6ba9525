/** Pieces laid on the sheets by a search that goes on behind the work: the best so far is drawn, and can be kept at any time. */
import type { Arranged, PiecePlace, Turns } from '../../core/arrange/arrange';
import { isBetter } from '../../core/arrange/arrange';
import {
	arrangedEdit,
	arrangePieces,
	arrangeSheets,
	asWanted,
	mapOnDrawing,
	piecesOf,
	repeatsOfPieces,
	type SheetPiece
} from '../../core/arrange/on-sheets';
import { sheetsOf, type Drawing } from '../../core/document/drawing';
import type { NewId } from '../../core/document/edits/operations';
import type { Edit } from '../../core/document/history';
import { lineOf, type Outline } from '../../core/document/outline';
import { repeatsMadePlain } from '../../core/document/edits/repeats';
import { toProblem } from '../../core/errors';
import { transformPath, type Path } from '../../core/geometry/path';
import { GeometryClient, type Task } from '../../workers/geometry.client';
import type { Bench } from '../bench.svelte';
import { newId } from '../ids';
import { layOn } from '../operations/laying-on';
import { idsOf, Operation, type AfterKeeping } from '../operations/operation.svelte';

export type Turning = 'none' | '180' | '90' | 'free';
const TURNS: Readonly<Record<Turning, Turns>> = {
	none: [0],
	'180': [0, 180],
	'90': [0, 90, 180, 270],
	free: 'free'
};
export type Patience = 'short' | 'usual' | 'long';
/** Places that are looked at. */
const LOOKS: Readonly<Record<Patience, number>> = { short: 400_000, usual: 2_000_000, long: 12_000_000 };

/** As many searches as there are cores, up to this. */
const MOST_SEARCHES = 8;
let searchers: GeometryClient[] = [];
/** What was asked for last is there next time. */
let last: Partial<{ turning: Turning; inHoles: boolean; patience: Patience }> = {};

/** All lines that move with a piece. */
const outlinesIn = (drawing: Drawing, { lines, within }: SheetPiece): Outline[] => [
	...lines,
	...within.flatMap((id) => {
		const record = drawing.records.get(id);
		return record?.type === 'outline' ? [record] : [];
	})
];

export class ArrangeOperation extends Operation {
	readonly kind = 'arrange';
	readonly name = 'Arrange on the sheet';
	readonly outlines: readonly Outline[];
	/** mm between pieces. */
	gap = $state(2);
	turning = $state<Turning>(last.turning ?? '90');
	inHoles = $state(last.inHoles ?? false);
	patience = $state<Patience>(last.patience ?? 'usual');
	best = $state.raw<Arranged | undefined>();
	/** The search is under way. */
	searching = $state(false);
	private tasks: Task<'arrange'>[] = [];
	private seed = 0;

	constructor(
		readonly bench: Bench,
		readonly pieces: readonly SheetPiece[]
	) {
		super();
		this.outlines = pieces.flatMap((piece) => outlinesIn(bench.drawing, piece));
		this.gap = bench.pieceGap;
	}
	override get replaced(): ReadonlySet<string> {
		return this.best ? idsOf(this.outlines) : new Set();
	}
	override remember(): void {
		const { gap, turning, inHoles, patience } = this;
		last = { turning, inHoles, patience };
		this.bench.pieceGap = gap;
	}
	override get hint(): string {
		return this.searching
			? 'The best way so far is drawn: stop whenever it is good enough.'
			: 'Keep it, look further from here, or leave: the pieces go back to where they lay.';
	}
	/** Names of pieces that found no room. */
	get left(): readonly string[] {
		return (this.best?.left ?? []).map((i) => this.pieces[i].name);
	}

	/** Looks anew, with the settings as they are. */
	protected run(): Promise<void> {
		this.best = undefined;
		this.preview = [];
		return this.search([]);
	}
	/** Looks further from the best that was found. */
	further(): void {
		void this.search(this.best?.places ?? []);
	}

	private async search(begin: readonly PiecePlace[]): Promise<void> {
		this.endTasks();
		this.remember();
		const request = this.begin();
		this.busy = false;
		this.searching = true;
		this.problem = undefined;
		const { drawing } = this.bench;
		const count = Math.min(MOST_SEARCHES, Math.max(1, navigator.hardwareConcurrency || 1));
		while (searchers.length < count) searchers = [...searchers, new GeometryClient()];
		const pieces = arrangePieces(this.pieces, TURNS[this.turning], sheetsOf(drawing));
		const sheets = arrangeSheets(drawing);
		const { gap, inHoles } = this;
		const shares = new Array<number>(count).fill(0);
		const take = (found: Arranged | undefined) => {
			if (!found || request !== this.request || (this.best && !isBetter(found, this.best))) return;
			this.best = found;
			this.preview = this.linesAt(drawing, found);
		};
		this.tasks = searchers.slice(0, count).map((client, k) =>
			client.run(
				'arrange',
				[pieces, sheets, { gap, inHoles, begin, seed: ++this.seed, most: LOOKS[this.patience] }],
				{
					tell: ({ share, best }) => {
						if (request !== this.request) return;
						shares[k] = share;
						this.progress = Math.min(...shares);
						take(best);
					}
				}
			)
		);
		try {
			const answers = await Promise.all(this.tasks.map((task) => task.answer));
			if (request !== this.request) return;
			for (const answer of answers) {
				if (answer.ok === true) take(answer.value);
				else if (!answer.ok) this.fail(answer.problem);
			}
		} catch (error) {
			if (request === this.request) this.fail(toProblem(error));
		}
		if (request === this.request) this.searching = false;
	}

	/** All lines where they would lie. */
	private linesAt(drawing: Drawing, { places }: Arranged): Path[] {
		return places.flatMap((place) => {
			const map = mapOnDrawing(drawing, place);
			return outlinesIn(drawing, this.pieces[place.piece]).map((outline) =>
				transformPath(lineOf(outline), map)
			);
		});
	}

	private endTasks(): void {
		for (const task of this.tasks) task.stop();
		this.tasks = [];
	}
	/** Ends the search; the best so far stays. */
	enough(): void {
		this.endTasks();
		this.searching = false;
	}
	override stop(): void {
		this.endTasks();
		this.searching = false;
		super.stop();
	}
	override get ready(): boolean {
		return this.best !== undefined && this.best.places.length > 0;
	}
	override async settled(): Promise<void> {
		while (this.busy || this.searching) await new Promise((resolve) => setTimeout(resolve, 15));
	}

	edit(drawing: Drawing, newId: NewId): Edit {
		return arrangedEdit(drawing, this.pieces, this.best?.places ?? [], newId);
	}
	override kept(bench: AfterKeeping, edit: Edit): void {
		super.kept(bench, edit);
		const { left } = this;
		bench.tell(
			left.length
				? `${left.length === 1 ? `"${left[0]}" found` : `${left.length} pieces found`} no room and ${left.length === 1 ? 'stays' : 'stay'} where ${left.length === 1 ? 'it was' : 'they were'}.`
				: 'All pieces lie on the sheet. "Put back" brings them to where they came from.'
		);
	}
}

/** Arranges the selected pieces, or all that are cut. */
export function beginArrange(bench: Bench): ArrangeOperation | string {
	if (sheetsOf(bench.drawing).length === 0) return 'There is no sheet yet: lay one out first.';
	const { selected } = bench.selection;
	const pieces = piecesOf(bench.drawing, selected.size ? selected : undefined);
	if (pieces.length === 0) return 'There is no closed piece on a layer that is cut.';
	bench.leave();
	return new ArrangeOperation(bench, asWanted(pieces));
}

export function openArrange(bench: Bench): void {
	const made = beginArrange(bench);
	if (!layOn(bench, 'sheet', made)) return;
	const loose = repeatsOfPieces(bench.drawing);
	if (loose.length)
		bench.tell(
			`"${loose[0].name}" repeats whole pieces: its copies are laid one by one only once they are made plain.`,
			'told',
			{
				word: 'make plain',
				run: () => {
					bench.dropOperation();
					if (bench.commit('Make copies plain', repeatsMadePlain(bench.drawing, loose, newId)))
						openArrange(bench);
				}
			}
		);
}
