/** Versions that the program keeps by itself: before what is large, and of what a new step would leave behind. They are thinned out with age. */
import type { Drawing } from '../../core/document/drawing';
import { listVersions, removeVersions, tooOld } from '../../storage/versions';
import { keepVersion } from './keeping';

/** Since the page was opened: how many were kept, how many went with age. */
export const byItself = $state({ kept: 0, thinned: 0 });

/** Keeps a drawing as it is under a word; where there is no room it is left: what was asked for goes first. */
export async function keepByItself(drawing: Drawing, word: string): Promise<void> {
	if (drawing.records.size === 0) return;
	try {
		await keepVersion(drawing, { word, byItself: true });
		const old = tooOld(await listVersions(drawing.id), Date.now());
		await removeVersions(
			drawing.id,
			old.map(({ id }) => id)
		);
		byItself.kept++;
		byItself.thinned += old.length;
	} catch {
		// Steps lead back as well.
	}
}
