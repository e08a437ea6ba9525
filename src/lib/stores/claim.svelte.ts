/** The open drawing claimed under its id: one tab edits it, the others read along and may ask for it. */
import type { Bench } from './bench.svelte';
import { DrawingHold } from './hold';

export class Claim {
	/** The other tab was asked for the drawing and does not give it. */
	withheld = $state<{ readonly unwritten: number | undefined }>();
	private hold: DrawingHold | undefined;

	/** @param moved is told the id that the drawing has from now on. */
	constructor(private readonly moved: (id: string) => void) {}

	/** Claims it under the id that it has now. */
	take(bench: Bench): void {
		this.release();
		let wasReader = false;
		const hold = new DrawingHold(bench.drawing.id, {
			got: async (mine) => {
				if (mine && wasReader) await bench.readAgain();
				wasReader = !mine;
				bench.readOnly = !mine;
				this.withheld = undefined;
			},
			// What is not written yet is tried first: where it cannot be any more it becomes a copy.
			written: () => (bench.saving ? bench.document.retry() : void bench.readAgain()),
			giveUp: async () => {
				bench.dropOperation();
				bench.readOnly = true;
				await bench.saved();
				if (bench.saving) bench.readOnly = false;
				return bench.saving;
			},
			withheld: (unwritten) => (this.withheld = { unwritten })
		});
		this.hold = hold;
		bench.onwritten = () => hold.told();
		bench.onmoved = (id) => {
			this.moved(id);
			this.take(bench);
		};
	}
	/** Asks the tab that has it. */
	ask(): void {
		this.hold?.ask();
	}
	/** Takes it whatever the other tab has not written. */
	takeNow(): void {
		this.hold?.takeNow();
	}
	release(): void {
		this.hold?.release();
		this.hold = undefined;
	}
}
