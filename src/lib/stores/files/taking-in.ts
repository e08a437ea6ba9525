/** Files brought to the bench: pictures become references, drawings of lines are opened into it, a whole drawing by itself. */
import { toProblem } from '../../core/errors';
import type { Bench } from '../bench.svelte';
import { kindOfFile, openDrawingFile } from './files';

/** Takes files in, one after the other; what cannot be read is told and nothing changes. */
export async function takeIn(bench: Bench, files: Iterable<File>): Promise<void> {
	for (const file of files) {
		try {
			const kind = await kindOfFile(file);
			if (kind === 'drawing') {
				const opened = await openDrawingFile(new Uint8Array(await file.arrayBuffer()));
				if (opened.ok) location.href = `/drawing/${opened.value}`;
				else bench.trouble({ ...opened.problem, sentence: `${file.name}: ${opened.problem.sentence}` });
			} else if (kind === 'picture') await bench.pictures.add(file);
			else await bench.opening.open(file);
		} catch (error) {
			bench.trouble(toProblem(error));
		}
	}
}
