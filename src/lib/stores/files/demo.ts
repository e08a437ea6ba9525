/** The demo: the workshop of a travelling shadow-puppet theatre. */
import type { Result } from '../../core/errors';
import { openDrawingFile } from './files';

/** The drawings that the project's demo script makes, oldest first. */
const DEMO_FILES = [
	'cut-bar.thread',
	'rough-owl.thread',
	'control-bars.thread',
	'mask-pictures.thread',
	'hand-puppet.thread',
	'puppet-set.thread',
	'fox-puppet.thread'
];

/** Puts fresh copies of the demo drawings into the browser's database. */
export async function openDemo(): Promise<Result<string>> {
	let last: Result<string> = {
		ok: false,
		problem: { code: 'no-demo', sentence: 'The demo drawings could not be fetched.' }
	};
	for (const name of DEMO_FILES) {
		try {
			const response = await fetch(`/demo/${name}`);
			if (!response.ok) return last;
			last = await openDrawingFile(new Uint8Array(await response.arrayBuffer()));
			if (!last.ok) return last;
		} catch {
			return last;
		}
	}
	return last;
}
