// The name of a build is what it is made of: built twice from the same sources it is the same, to the byte.
import { createHash } from 'node:crypto';
import { existsSync, readdirSync, readFileSync } from 'node:fs';
import { join } from 'node:path';

const MADE_OF = ['src', 'static', 'package-lock.json', 'svelte.config.js', 'vite.config.ts'];

function* filesIn(place) {
	const entries = readdirSync(place, { withFileTypes: true }).sort((a, b) => (a.name < b.name ? -1 : 1));
	for (const entry of entries) {
		const path = join(place, entry.name);
		if (entry.isDirectory()) yield* filesIn(path);
		else if (!entry.name.endsWith('.test.ts')) yield path;
	}
}

/** @param language whose texts take the place of ours, where one is asked for. */
export function buildName(language = process.env.TEXTS) {
	const hash = createHash('sha256');
	for (const place of language ? [...MADE_OF, `texts/${language}`] : MADE_OF) {
		if (!existsSync(place)) continue;
		for (const file of place.includes('.') ? [place] : filesIn(place))
			hash.update(`${file}\0`).update(readFileSync(file));
	}
	return hash.digest('hex').slice(0, 16);
}
