/** What of the drawing is written out, and how it looks: remembered from one time to the next. */
import { layersOf } from '../../core/document/drawing';
import { MACHINE_PURPOSES, type OutputQuestion } from '../../core/document/output';
import type { Doing } from '../parts';

const KEY = 'going-out';

interface Chosen {
	readonly drawing: Doing['drawing'];
	readonly selection: { readonly selected: ReadonlySet<string> };
}

class GoingOut {
	/** Closed pieces are filled with their colour; else they are lines. */
	filled = $state(false);
	/** Only what is selected. */
	onlyPicked = $state(false);
	/** Names of layers that stay here. */
	private without = $state.raw<ReadonlySet<string>>(new Set());

	/** As it was chosen last, in this browser. */
	start(): void {
		try {
			const said = JSON.parse(localStorage.getItem(KEY) ?? '{}') as { filled?: unknown };
			this.filled = said.filled === true;
		} catch {
			// Nothing that can be read was chosen before.
		}
	}
	setFilled(filled: boolean): void {
		this.filled = filled;
		localStorage.setItem(KEY, JSON.stringify({ filled }));
	}
	/** Layers that can be written at all, and whether each is. */
	layers({ drawing }: Chosen): { readonly name: string; readonly goes: boolean }[] {
		return layersOf(drawing)
			.filter((layer) => layer.written !== false && !layer.hidden && MACHINE_PURPOSES.includes(layer.purpose))
			.map(({ name }) => ({ name, goes: !this.without.has(name) }));
	}
	turn(layer: string): void {
		const next = new Set(this.without);
		if (!next.delete(layer)) next.add(layer);
		this.without = next;
	}
	question(from: Chosen): OutputQuestion {
		const { drawing, selection } = from;
		const layers = new Set(
			layersOf(drawing).flatMap((layer) => (this.without.has(layer.name) ? [] : [layer.id]))
		);
		return { layers, ...(this.onlyPicked && selection.selected.size ? { picked: selection.selected } : {}) };
	}
}

export const goingOut = new GoingOut();
