// What something is made of, as one word: the same files, the same word. No dependencies: a fresh clone has none yet.
import { createHash } from 'node:crypto';
import { existsSync, readdirSync, readFileSync, statSync } from 'node:fs';
import { join } from 'node:path';

/**
 * @param places files and folders; what is made from them (`generated`) is left out.
 * @param word something else that counts.
 */
export function fingerprint(places, word = '') {
	const hash = createHash('sha256').update(word);
	const visit = (path) => {
		if (!existsSync(path)) return;
		if (statSync(path).isDirectory()) {
			if (path.endsWith('generated')) return;
			for (const name of readdirSync(path).sort()) visit(join(path, name));
		} else hash.update(path).update(readFileSync(path));
	};
	places.forEach(visit);
	return hash.digest('hex');
}

/** What the app and the command line are built of. */
export const BUILT_OF = [
	'src',
	'static',
	'texts',
	'scripts/texts',
	'scripts/make-validators.mjs',
	'package.json',
	'package-lock.json',
	'svelte.config.js',
	'vite.config.ts',
	'vite.cli.config.ts'
];

/** The name of a build is what it is made of: built twice from the same sources it is the same, to the byte. */
export const buildName = () => fingerprint(BUILT_OF, process.env.TEXTS);
