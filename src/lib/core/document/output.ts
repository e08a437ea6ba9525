/** The one answer to what of a drawing is shown, and what of it goes to a machine. */
import type { Path } from '../geometry/path';
import { layersOf, marksOf, outlinesOf, type Drawing, type Layer, type Mark, type Purpose } from './drawing';
import { formLines } from './marks';
import { lineOf, type Outline } from './outline';
import { copiesIn, shownRepeats } from './repeats';

/** What a machine is to do something with; guides are for the eye alone. */
export const MACHINE_PURPOSES: readonly Purpose[] = ['cut', 'score', 'engrave'];

/** One line that goes out, with the layer that says what is done with it. */
export interface OutputLine {
	readonly outline: Outline;
	readonly path: Path;
	readonly layer: Layer;
	/** The line's own, or its layer's. */
	readonly purpose: Purpose;
}

export interface Output {
	/** In the order of the drawing. */
	readonly lines: readonly OutputLine[];
	readonly marks: readonly { readonly mark: Mark; readonly layer: Layer }[];
}

/** Which part of what goes out is asked for; all of it where nothing is said. */
export interface OutputQuestion {
	readonly purposes?: readonly Purpose[];
	/** Ids of layers. */
	readonly layers?: ReadonlySet<string>;
	/** Ids of outlines, marks and repeats. */
	readonly picked?: ReadonlySet<string>;
}

/** What is done with a line: its own word, else its layer's. */
export const purposeOf = (
	outline: Pick<Outline, 'purpose'>,
	layer: Pick<Layer, 'purpose'> | undefined
): Purpose => outline.purpose ?? layer?.purpose ?? 'cut';

const shownBefore = new WeakMap<Drawing['records'], readonly Outline[]>();

/** The outlines that are to be seen, in the drawing's order: hidden ones and those on hidden layers are not. */
export function shown(drawing: Drawing): readonly Outline[] {
	let list = shownBefore.get(drawing.records);
	if (!list) {
		const layers = new Map(layersOf(drawing).map((layer) => [layer.id, layer]));
		list = outlinesOf(drawing).filter((o) => !o.hidden && !layers.get(o.layer)?.hidden);
		shownBefore.set(drawing.records, list);
	}
	return list;
}

const idsBefore = new WeakMap<readonly Outline[], ReadonlySet<string>>();

/** Whether an outline is to be seen. */
export function isShown(drawing: Drawing, id: string): boolean {
	const list = shown(drawing);
	let ids = idsBefore.get(list);
	if (!ids) {
		ids = new Set(list.map((o) => o.id));
		idsBefore.set(list, ids);
	}
	return ids.has(id);
}

/** Whether an outline can be taken hold of: it is seen, and neither it nor its layer is tied fast. */
export function isLoose(drawing: Drawing, outline: Outline): boolean {
	const layer = drawing.records.get(outline.layer);
	return !outline.locked && !(layer?.type === 'layer' && layer.locked);
}

const layerHidden = (drawing: Drawing, { layer }: Outline | Mark): boolean => {
	const record = drawing.records.get(layer);
	return record?.type === 'layer' && record.hidden === true;
};

/** The marks that are to be seen. */
export function shownMarks(drawing: Drawing): readonly Mark[] {
	const layers = new Map(layersOf(drawing).map((layer) => [layer.id, layer]));
	return marksOf(drawing).filter((m) => !m.hidden && !layers.get(m.layer)?.hidden);
}

/**
 * What goes out of a drawing: to a file, to a machine, into the readiness check. What is hidden does not, nor what lies on
 * a layer that is hidden, a guide, or not to be written; lines kept for comparing are no outlines and never do.
 */
export function output(drawing: Drawing, question: OutputQuestion = {}): Output {
	const { purposes = MACHINE_PURPOSES, layers, picked } = question;
	const going = new Map(
		layersOf(drawing)
			.filter((layer) => layer.written !== false)
			.filter((layer) => !layers || layers.has(layer.id))
			.map((layer) => [layer.id, layer])
	);
	const lines: OutputLine[] = [];
	const marks: Output['marks'][number][] = [];
	const add = (record: Outline | Mark): void => {
		const layer = going.get(record.layer);
		if (!layer) return;
		if (record.type === 'mark') {
			if (!purposes.includes(layer.purpose)) return;
			const form = formLines(record);
			if (form.length === 0) marks.push({ mark: record, layer });
			for (const line of form)
				lines.push({ outline: line, path: lineOf(line), layer, purpose: layer.purpose });
			return;
		}
		const purpose = purposeOf(record, layer);
		if (purposes.includes(purpose)) lines.push({ outline: record, path: lineOf(record), layer, purpose });
	};
	for (const record of [...shown(drawing), ...shownMarks(drawing)])
		if (!picked || picked.has(record.id)) add(record);
	for (const repeat of shownRepeats(drawing)) {
		if (picked && !picked.has(repeat.id)) continue;
		for (const copy of copiesIn(drawing, repeat)) if (!layerHidden(drawing, copy)) add(copy);
	}
	return { lines, marks };
}
