/** How any operation comes to lie on the bench. */
import type { Bench } from '../bench.svelte';
import type { Station } from '../stations';
import type { Operation } from './operation.svelte';

/**
 * Lays an operation on the bench, in place of the one that lay there, and asks for its preview; a sentence in its place says why
 * there is none and is told.
 */
export function layOn<T extends Operation>(
	bench: Bench,
	station: Station,
	made: T | string | undefined
): T | undefined {
	if (typeof made === 'string') bench.tell(made);
	if (made === undefined || typeof made === 'string') return undefined;
	bench.dropOperation();
	bench.station = station;
	bench.operation = made;
	made.change(0);
	return made;
}
