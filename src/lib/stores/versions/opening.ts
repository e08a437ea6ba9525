/** How versions come to lie on the bench: their list, two of them compared. */
import { listVersions } from '../../storage/versions';
import type { Bench } from '../bench.svelte';
import { layOn } from '../operations/laying-on';
import { CompareOperation } from './compare-operation.svelte';

export { Versions } from './versions.svelte';

/** Compares a version with the drawing as it is; the latest one where none is named. */
export async function openCompare(bench: Bench, id?: string): Promise<void> {
	const versions = await listVersions(bench.drawing.id);
	const first = versions.find((v) => v.id === id) ?? versions[0];
	if (!first) bench.tell('No version is kept yet. The list of steps keeps one under a word.');
	else {
		// The drawing is what is looked at.
		bench.stepsOpen = false;
		bench.leave();
		bench.select([]);
		layOn(bench, bench.station ?? 'mend', new CompareOperation(bench, versions, first.id));
	}
}
