/** A machine's file laid on the sheet: where its tool goes, what is wrong with it, how far it is from what is drawn. */
import type { Toolpath } from '../../core/toolpath/moves';
import { readGcode, type LineFault } from '../../core/formats/gcode-read';
import { readHpgl } from '../../core/formats/hpgl-read';
import { drawnMoves } from '../../core/toolpath/drawn';
import type { CutCompared } from '../../core/toolpath/judge';
import type { Path } from '../../core/geometry/path';
import type { CutSide } from '../../core/document/job';
import { behind } from '../../workers/geometry.client';
import { chooseFile } from '../files/choose-file';

/** What it is held against. */
export interface Against {
	readonly lines: readonly Path[];
	readonly side: CutSide;
	/** mm from the line to the tool's middle. */
	readonly reach: number;
	/** What the jobs come to, where they are planned. */
	readonly planned: Toolpath | undefined;
}

export class BroughtFile {
	readonly cuts: readonly Path[];
	readonly travel: readonly Path[];
	readonly hasHeights: boolean;
	compared = $state.raw<CutCompared | undefined>();
	comparing = $state(true);

	constructor(
		readonly file: File,
		readonly moves: Toolpath,
		readonly faults: readonly LineFault[],
		/** mm of the drawing: the sheet's lower left corner. */
		at: { readonly x: number; readonly y: number },
		against: Against
	) {
		const { cuts, travel } = drawnMoves(moves, at.x, at.y);
		this.cuts = cuts;
		this.travel = travel;
		this.hasHeights = moves.to.some((v, i) => i % 3 === 2 && v < -1e-6);
		void this.compare(against);
	}

	private async compare({ lines, side, reach, planned }: Against): Promise<void> {
		const drawn = lines.length ? { lines, side, reach } : undefined;
		const answer = await behind
			.run('cutCompared', [this.moves, planned ?? this.moves, drawn, this.hasHeights])
			.answer.catch(() => undefined);
		this.comparing = false;
		if (answer?.ok === true) this.compared = answer.value;
	}
}

/** Reads a file that the person chooses; undefined where none is chosen. */
export async function bringFile(): Promise<
	{ readonly file: File; readonly moves: Toolpath; readonly faults: readonly LineFault[] } | undefined
> {
	const file = await chooseFile('.nc,.gcode,.ngc,.tap,.hpgl,.plt');
	if (!file) return undefined;
	const text = await file.text();
	const isHpgl = /\.(hpgl|plt)$/i.test(file.name) || /^\s*IN;/.test(text);
	return { file, ...(isHpgl ? readHpgl(text) : readGcode(text)) };
}
