/** What is done with repeats by hand: one copy edited apart or taken out, all made plain, empty places filled again. */
import type { CopyAt } from '../core/document/edits/copy-at';
import { editedApart, filledAgain, repeatsMadePlain, takenOut } from '../core/document/edits/repeats';
import type { Repeat } from '../core/document/drawing';
import type { Bench } from './bench.svelte';
import { newId } from './ids';

const APART = 'edit it apart';

/** The repeat that is selected, where it is the only one. */
export const selectedRepeat = ({ selection }: Bench): Repeat | undefined =>
	selection.selectedRepeats.length === 1 ? selection.selectedRepeats[0] : undefined;

/** The copy that was pressed last, where its repeat is selected. */
export function pressedCopy(bench: Bench): { readonly repeat: Repeat; readonly place: number } | undefined {
	const { copy } = bench.selection;
	const repeat = selectedRepeat(bench);
	if (!copy || !repeat || copy.repeat !== repeat.id || repeat.without?.includes(copy.place)) return undefined;
	return { repeat, place: copy.place };
}

/** A copy is changed with its source, or edited apart: both are offered. */
export function offerApart(bench: Bench, { repeat, place }: Pick<CopyAt, 'repeat' | 'place'>): void {
	bench.selection.copy = { repeat: repeat.id, place };
	bench.select([repeat.id]);
	if (bench.telling.offers(APART)) return;
	bench.tell(
		`This is one of the copies in "${repeat.name}": it changes with the first one. Edited apart, it is an outline of its own.`,
		'told',
		{ word: APART, run: () => editApart(bench) }
	);
}

/** The copy that was pressed last becomes outlines of its own, which are entered. */
export function editApart(bench: Bench): boolean {
	const pressed = pressedCopy(bench);
	if (!pressed) return false;
	const edit = editedApart(bench.drawing, pressed.repeat.id, pressed.place, newId);
	if (!bench.commit('Edit a copy apart', edit)) return false;
	bench.select((edit.put ?? []).flatMap((r) => (r.type === 'repeat' ? [] : [r.id])));
	bench.enterSelected();
	return true;
}

/** The copy that was pressed last is taken out; its place stays empty. */
export function takeOutCopy(bench: Bench): boolean {
	const pressed = pressedCopy(bench);
	if (!pressed) return false;
	return bench.commit('Take a copy out', { put: [takenOut(pressed.repeat, pressed.place)] });
}

/** The copies of the selected repeats become outlines of their own. */
export function makeRepeatsPlain(bench: Bench): void {
	const { selectedRepeats } = bench.selection;
	const edit = repeatsMadePlain(bench.drawing, selectedRepeats, newId);
	const sources = selectedRepeats.flatMap((repeat) => repeat.sources);
	if (!bench.commit('Make copies plain', { ...edit, isLarge: true })) return;
	bench.select([...sources, ...edit.put.map(({ id }) => id)]);
	bench.tell(`${edit.put.length} copies are outlines and marks of their own now.`);
}

/** Places that were emptied get their copies again. */
export const fillAgain = (bench: Bench, repeat: Repeat): boolean =>
	bench.commit('Fill empty places', { put: [filledAgain(repeat)] });
