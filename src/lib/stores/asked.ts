/** What is asked for now and can be done only once something is there: it is done about what was picked when it was asked for. */
import type { Bench } from './bench.svelte';

export const NOT_LOADED =
	'This part of the program cannot be loaded. See that the server runs, then load the page again; the drawing is kept.';

/**
 * Does what was asked for once what it needs is there, about what was picked then, whatever was picked since; that stays picked
 * unless the act picks something itself or lays an operation on the bench. What cannot be done any more, or not be loaded, is told.
 * @param why as of a command: a sentence where it cannot be done.
 */
export async function whenThere<Needed>(
	bench: Bench,
	needed: Promise<Needed>,
	why: (bench: Bench) => string | undefined,
	act: (needed: Needed) => unknown
): Promise<void> {
	const { selection } = bench;
	const asked = selection.picks;
	let there: Needed;
	try {
		there = await needed;
	} catch {
		bench.tell(`Nothing was done. ${NOT_LOADED}`, 'trouble');
		return;
	}
	const since = selection.picks;
	const { operation } = bench;
	selection.take(asked);
	const given = selection.picks;
	const sentence = why(bench);
	if (sentence === undefined) act(there);
	else bench.tell(sentence);
	if (selection.isAsIn(given) && bench.operation === operation) selection.take(since);
}
