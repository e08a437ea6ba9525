// How much compressed script the editor loads before it can be used: what its entries import, not what they load later.
import { readFileSync } from 'node:fs';
import { gzipSync } from 'node:zlib';

const LIMIT = 300_000;
const root = '.svelte-kit/output/client';
const manifest = JSON.parse(readFileSync(`${root}/.vite/manifest.json`, 'utf8'));
const entries = Object.keys(manifest).filter((key) => {
	const { isEntry, src = '' } = manifest[key];
	return isEntry && /(client\/start|client\/app|nodes\/\d+)/.test(key + src);
});
const files = new Set();
const visit = (key) => {
	const chunk = manifest[key];
	if (!chunk || files.has(chunk.file)) return;
	if (chunk.file.endsWith('.js')) files.add(chunk.file);
	for (const next of chunk.imports ?? []) visit(next);
};
for (const key of entries) visit(key);
let total = 0;
for (const file of files) total += gzipSync(readFileSync(`${root}/${file}`)).length;
console.log(
	`${files.size} scripts, ${(total / 1000).toFixed(0)} kB compressed before the editor is usable (limit ${LIMIT / 1000} kB)`
);
if (!(files.size > 0 && total > 0)) {
	console.error('No scripts were found: the build has another shape than this check expects.');
	process.exit(1);
}
process.exit(total <= LIMIT ? 0 : 1);
