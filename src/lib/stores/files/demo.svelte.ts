/** The demo: the workshop of a travelling shadow-puppet theatre. Each drawing is fetched when it is wanted. */
import { failed, type Result } from '../../core/errors';
import { openDrawingFile } from './files';

export interface Demo {
	/** Its file, without the ending. */
	readonly file: string;
	readonly name: string;
}

/** The drawings that the project's demo script makes, with the names that are in them. */
export const DEMOS: readonly Demo[] = [
	{ file: 'fox-puppet', name: 'Fox puppet, scanned parts' },
	{ file: 'puppet-set', name: 'Puppet set on two offcuts' },
	{ file: 'hand-puppet', name: 'Felt hand puppet' },
	{ file: 'mask-pictures', name: 'Mask, three pictures' },
	{ file: 'control-bars', name: 'Control bars and a mask' },
	{ file: 'rough-owl', name: 'Owl, a rough old trace' },
	{ file: 'cut-bar', name: 'Cross bar, cut and scanned' }
];

const TAKEN = 'demos-taken';

/** Which demos are not offered any more. */
class Demos {
	private taken = $state.raw<readonly string[]>((globalThis.localStorage?.getItem(TAKEN) ?? '').split(' '));
	readonly offered = $derived(DEMOS.filter(({ file }) => !this.taken.includes(file)));

	take(demos: readonly Demo[]): void {
		this.taken = [...new Set([...this.taken, ...demos.map(({ file }) => file)])];
		localStorage.setItem(TAKEN, this.taken.join(' '));
	}
}
export const demos = new Demos();

/** Fetches a demo and puts a fresh copy of it into the browser's database. @returns its id. */
export async function openDemo({ file, name }: Demo): Promise<Result<string>> {
	try {
		const response = await fetch(`/demo/${file}.thread`);
		if (response.ok) return await openDrawingFile(new Uint8Array(await response.arrayBuffer()));
	} catch {
		// Told below: there is no way to it just now.
	}
	return failed('no-demo', `"${name}" could not be fetched: a demo needs the network the first time.`);
}
