// Puts the words of another language in the place of ours while the app is built.
import { existsSync, readdirSync, readFileSync } from 'node:fs';
import { findTexts, parsed } from './find.mjs';

/** All texts of a language, station by station, as one map. */
export function textsOf(language, folder = 'texts') {
	const place = `${folder}/${language}`;
	if (!existsSync(place)) throw new Error(`There are no texts for "${language}" in ${folder}/.`);
	const files = readdirSync(place).filter((name) => name.endsWith('.json'));
	return new Map(
		files.flatMap((name) => Object.entries(JSON.parse(readFileSync(`${place}/${name}`, 'utf8'))))
	);
}

const written = {
	between: (text) =>
		text.replace(/&/g, '&amp;').replace(/</g, '&lt;').replace(/\{/g, '&#123;').replace(/\}/g, '&#125;'),
	attribute: (text) => written.between(text).replace(/"/g, '&quot;'),
	script: (text) => text.replace(/[`\\]/g, '\\$&').replace(/\$\{/g, '\\${')
};

/**
 * The code with other words. A text that the language has not stays as it is; so does one whose values and [commands] it
 * does not all name.
 * @param {(text: string) => string | undefined} wordsFor
 */
export function translated(code, file, wordsFor) {
	const found = findTexts(parsed(code, file));
	/** A stretch of the code; texts that stay are passed into, for what stands in their values. */
	const render = (from, to) => {
		let at = from;
		let out = '';
		for (const item of found) {
			if (item.start < at || item.end > to) continue;
			const own = put(item);
			if (own === undefined) continue;
			out += code.slice(at, item.start) + own;
			at = item.end;
		}
		return out + code.slice(at, to);
	};
	const put = ({ text, values, kind }) => {
		const words = wordsFor(text);
		// A hint names commands in [ ], whose keys are put there.
		const named = text.match(/\[[\w-]+\]/g) ?? [];
		const wanted = [...values.map((_, k) => `{${k}}`), ...named];
		if (words === undefined || !wanted.every((name) => words.includes(name))) return undefined;
		const pieces = words.split(/\{(\d+)\}/).map((piece, k) => {
			if (k % 2 === 0) return written[kind](piece);
			const value = render(...values[Number(piece)]);
			return kind === 'script' ? `\${${value}}` : value;
		});
		return kind === 'script' ? `\`${pieces.join('')}\`` : pieces.join('');
	};
	return render(0, code.length);
}

/** For the build: `TEXTS=de npm run build` makes the app in that language. */
export function texts(language) {
	const words = textsOf(language);
	return {
		name: 'texts',
		enforce: 'pre',
		transform(code, id) {
			const file = id.split('?')[0];
			if (!/\/src\/(lib|routes)\/.*\.(svelte|ts)$/.test(file) || /\.test\.ts$/.test(file) || id.includes('?'))
				return;
			return { code: translated(code, file, (text) => words.get(text)), map: null };
		}
	};
}
