/** A cut piece that was scanned and traced, laid on its drawing: how it differs all along the line, and the kerf that would mend it. */
import { jobsOf, type Drawing } from '../../core/document/drawing';
import { placeOutlines } from '../../core/document/edits/transform';
import type { Edit } from '../../core/document/history';
import { isClosed, lineOf, type Outline } from '../../core/document/outline';
import { deviationAlong } from '../../core/geometry/deviation';
import { flattenPath } from '../../core/geometry/edge-tree';
import type { Affine } from '../../core/geometry/path';
import { groupPieces } from '../../core/plane/pieces';
import { reachOf } from '../../core/toolpath/settings';
import { laid, trueKerf, type LaidOn } from '../../core/toolpath/scanned';
import type { Bench } from '../bench.svelte';
import { Operation, idsOf } from '../operations/operation.svelte';

/** mm between places at which the deviation is told. */
const STEP = 1;
/** mm that is reckoned with where no job says. */
const COMMON_KERF = 0.15;

export class ScannedOperation extends Operation {
	readonly kind = 'scanned';
	readonly name = 'Lay the scan on its drawing';
	private swapped = $state(false);
	found = $state.raw<LaidOn | undefined>();
	/** mm: what the cut was reckoned with. */
	reckoned = $state(COMMON_KERF);

	constructor(
		private readonly bench: Bench,
		/** The two pieces, the one that was made first before the other. */
		private readonly pieces: readonly [readonly Outline[], readonly Outline[]]
	) {
		super();
		const tool = jobsOf(bench.drawing).find((job) => !job.off)?.tool.tool;
		if (tool && reachOf(tool) > 0) this.reckoned = 2 * reachOf(tool);
	}
	get drawn(): readonly Outline[] {
		return this.pieces[this.swapped ? 1 : 0];
	}
	get scanned(): readonly Outline[] {
		return this.pieces[this.swapped ? 0 : 1];
	}
	get outlines(): readonly Outline[] {
		return [...this.drawn, ...this.scanned];
	}
	override get replaced(): ReadonlySet<string> {
		return idsOf(this.scanned);
	}
	swap(): void {
		this.swapped = !this.swapped;
		this.change(0);
	}
	/** The kerf that would have made it true. */
	get kerf(): number | undefined {
		return this.found && trueKerf(this.reckoned, this.found.larger);
	}

	protected async run(): Promise<void> {
		const drawn = this.drawn.map(lineOf);
		const scanned = this.scanned.map(lineOf);
		const found = await this.reckon('layOn', [scanned, drawn]);
		if (!found) {
			this.found = undefined;
			return;
		}
		this.found = found;
		this.preview = laid(scanned, found.map);
		const others = this.preview.map((path) => ({ points: flattenPath(path, 0.005), closed: true }));
		this.deviations = drawn.map((path) => deviationAlong(path, others, STEP));
	}

	override get hint(): string {
		return 'The scan lies on its drawing where it fits best; thick lines show where it is off. Enter leaves it there, Esc puts it back.';
	}

	edit(drawing: Drawing): Edit {
		const map: Affine = this.found?.map ?? [1, 0, 0, 1, 0, 0];
		return placeOutlines(drawing, this.scanned, map);
	}
}

/** Begins with the two pieces that are selected. */
export function openScanned(bench: Bench): void {
	const outlines = bench.selection.selectedOutlines.filter((o) => isClosed(o));
	const pieces = groupPieces(outlines.map(lineOf)).map((group) => group.map((i) => outlines[i]));
	// Holes that were not picked themselves belong to their piece.
	if (pieces.length !== 2) {
		bench.tell('Select the drawn piece and the traced scan of it, both closed, each with its holes.');
		return;
	}
	const first = (piece: readonly Outline[]) => Math.min(...piece.map((o) => o.rank));
	const [a, b] = first(pieces[0]) <= first(pieces[1]) ? pieces : [pieces[1], pieces[0]];
	bench.dropOperation();
	bench.station = 'cut';
	const operation = new ScannedOperation(bench, [a, b]);
	bench.operation = operation;
	operation.change(0);
}
