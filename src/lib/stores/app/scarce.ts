/** Said early: the browser's storage is nearly full. */
import { isScarce, roomHere } from '../../storage/room';
import type { Bench } from '../bench.svelte';
import { writeOut } from '../files/writing-out';

/** Tells it once, with the way out at hand; where the browser does not say how much there is, nothing is said. */
export async function tellScarce(bench: Bench): Promise<void> {
	const room = await roomHere().catch(() => undefined);
	if (!room || !isScarce(room)) return;
	const share = Math.round((100 * (room.used ?? 0)) / (room.given ?? 1));
	bench.tell(
		`The browser's storage is ${share} % full. Save what you need as files; "settings" tells what can be freed.`,
		'trouble',
		{ word: 'save this drawing as a file', run: () => void writeOut(bench, 'file') }
	);
}
