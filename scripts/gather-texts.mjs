// All that people read, station by station: texts/en/.   npm run texts   (-- --check: only says whether it is as the code has it)
// With a language (-- de): what of it is there, what is missing, what belongs to no text any more.
import { existsSync, mkdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { findCodes, findTexts, parsed } from './texts/find.mjs';
import { sources } from './texts/sources.mjs';
import { stationOf } from './texts/stations.mjs';
import { textsOf } from './texts/translate.mjs';

function gather() {
	const stations = new Map();
	const trees = sources().map((file) => [file, parsed(readFileSync(file, 'utf8'), file)]);
	/** What is no text, and what has its station already. */
	const seen = new Set();
	for (const [, tree] of trees) findCodes(tree, seen);
	for (const [file, tree] of trees)
		for (const { text } of findTexts(tree)) {
			if (seen.has(text)) continue;
			seen.add(text);
			const station = stationOf(file);
			stations.set(station, { ...stations.get(station), [text]: text });
		}
	return stations;
}

const [language] = process.argv.slice(2);
const stations = gather();
const asFile = (texts) => `${JSON.stringify(texts, null, '\t')}\n`;
if (language === '--check') {
	const stale = [...stations].filter(([station, texts]) => {
		const place = `texts/en/${station}.json`;
		return !existsSync(place) || readFileSync(place, 'utf8') !== asFile(texts);
	});
	if (stale.length) {
		console.error(`texts/en is not as the code has it (${stale.map(([s]) => s).join(', ')}): npm run texts`);
		process.exit(1);
	}
} else if (language) {
	const own = textsOf(language);
	const all = new Set([...stations.values()].flatMap((texts) => Object.keys(texts)));
	const missing = [...all].filter((text) => !own.has(text));
	const left = [...own.keys()].filter((text) => !all.has(text));
	console.log(
		`${all.size - missing.length} of ${all.size} texts are there, ${left.length} belong to nothing any more.`
	);
	for (const text of left) console.log(`  belongs to nothing: ${text}`);
	for (const text of missing) console.log(`  missing: ${text}`);
} else {
	rmSync('texts/en', { recursive: true, force: true });
	mkdirSync('texts/en', { recursive: true });
	for (const [station, texts] of stations) writeFileSync(`texts/en/${station}.json`, asFile(texts));
	const count = [...stations].map(([station, texts]) => `${station} ${Object.keys(texts).length}`);
	console.log(`texts/en: ${count.join(', ')}`);
}
