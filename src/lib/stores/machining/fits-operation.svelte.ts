/** The measured fits of a cut test piece, typed in: kerf, play and squareness follow. */
import { jobsOf } from '../../core/document/drawing';
import type { Edit } from '../../core/document/history';
import { outlineFromPath } from '../../core/document/outline';
import { layersOf, nextRank } from '../../core/document/drawing';
import { output } from '../../core/document/output';
import { isEmptyBox, unionBox } from '../../core/geometry/measure';
import { boxOf } from '../../core/geometry/pick';
import { transformPath } from '../../core/geometry/path';
import { setupFrom } from '../../core/toolpath/recipe';
import { reachOf } from '../../core/toolpath/settings';
import { BARS, fitsTell, slitWidths, testPiece, type FitsTell } from '../../core/toolpath/test-piece';
import type { Bench } from '../bench.svelte';
import { newId } from '../ids';
import { Operation } from '../operations/operation.svelte';
import { workshop } from './workshop.svelte';

/** mm between what is drawn and the test piece. */
const APART = 15;

const setupOf = (bench: Bench) => {
	const job = jobsOf(bench.drawing).find((one) => !one.off);
	const wished = setupFrom(workshop.has, {});
	return {
		thickness: job?.thickness ?? wished?.material.thickness ?? 3,
		reckoned: 2 * reachOf(job?.tool.tool ?? wished?.tool.tool ?? { kind: 'pen', width: 0 })
	};
};

/** Lays a test piece beside what is drawn, as one step. */
export async function addTestPiece(bench: Bench): Promise<void> {
	await workshop.load();
	const { drawing } = bench;
	const layer = layersOf(drawing).find(
		(one) => one.purpose === 'cut' && !one.hidden && one.written !== false
	);
	if (!layer) {
		bench.tell('There is no layer that is cut: make one on the rack first.');
		return;
	}
	const box = unionBox(output(drawing).lines.map((line) => boxOf(line.path)));
	const [x, y] = isEmptyBox(box) ? [APART, APART] : [box.x1 + APART, box.y0];
	const rank = nextRank(drawing);
	const put = testPiece(setupOf(bench).thickness).map(({ name, path }, i) =>
		outlineFromPath(transformPath(path, [1, 0, 0, 1, x, y]), {
			id: newId(),
			name,
			layer: layer.id,
			rank: rank + i
		})
	);
	if (!bench.commit('Test piece', { put })) return;
	bench.fitAll();
	bench.tell('Cut it, measure it, and type what you measured at "Measured fits".');
}

export class FitsOperation extends Operation {
	readonly kind = 'fits';
	readonly name = 'Measured fits';
	readonly outlines = [];
	/** mm, by the nominal width; what was not measured is left out. */
	bars = $state.raw<Readonly<Record<number, number>>>({});
	slit = $state<number | undefined>();
	diagonals = $state.raw<readonly [number | undefined, number | undefined]>([undefined, undefined]);
	reckoned: number = $state(0);
	readonly thickness: number;
	readonly slits: readonly number[];

	constructor(readonly bench: Bench) {
		super();
		const { thickness, reckoned } = setupOf(bench);
		this.thickness = thickness;
		this.reckoned = reckoned;
		this.slits = slitWidths(thickness);
	}
	get tells(): FitsTell {
		const [a, b] = this.diagonals;
		return fitsTell({
			reckoned: this.reckoned,
			thickness: this.thickness,
			bars: BARS.flatMap((nominal) => {
				const measured = this.bars[nominal];
				return measured === undefined ? [] : [{ nominal, measured }];
			}),
			slit: this.slit,
			...(a !== undefined && b !== undefined ? { diagonals: [a, b] as const } : {})
		});
	}
	override get hint(): string {
		return 'Type what the caliper says of the bars, which slit the material goes into, and both diagonals of the square.';
	}
	protected run(): Promise<void> {
		this.busy = false;
		return Promise.resolve();
	}
	/** It changes no line: what it finds is taken over by a press of its own. */
	edit(): Edit {
		return {};
	}
	override get ready(): boolean {
		return false;
	}
}

export async function openFits(bench: Bench): Promise<void> {
	await workshop.load();
	bench.dropOperation();
	bench.station = 'cut';
	bench.operation = new FitsOperation(bench);
}
