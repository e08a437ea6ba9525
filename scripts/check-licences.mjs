// Every package has its reason in docs/dependencies.md, and what is handed on has a licence that allows it.   npm run licences
import { readFileSync } from 'node:fs';

/** Licences under which a package may be handed on with the app. */
const MAY = new Set(
	'MIT MIT-0 ISC 0BSD BSD-2-Clause BSD-3-Clause Apache-2.0 BSL-1.0 OFL-1.1 Unlicense Zlib BlueOak-1.0.0 CC0-1.0'.split(
		' '
	)
);
/** Those that hold only for their own files, which are handed on unchanged; each with its reason. */
const UNCHANGED = new Map([
	['exifreader', 'MPL-2.0: its files are bundled unchanged and can be had from the registry'],
	[
		'@img/sharp-*',
		'LGPL-3.0-or-later: a shared library of its own, loaded while running on the server, never bundled'
	]
]);
const isUnchanged = (name) =>
	[...UNCHANGED.keys()].some((rule) =>
		rule.endsWith('*') ? name.startsWith(rule.slice(0, -1)) : name === rule
	);

const read = (file) => JSON.parse(readFileSync(file, 'utf8'));
const { dependencies, devDependencies } = read('package.json');
const reasons = readFileSync('docs/dependencies.md', 'utf8');
const named = Object.keys({ ...dependencies, ...devDependencies });
const troubles = named
	.filter((name) => !reasons.includes(`| \`${name}\` | `))
	.map((name) => `${name} has no reason`);
for (const [, name] of reasons.matchAll(/^\| `([^`]+)` \| /gm))
	if (!named.includes(name)) troubles.push(`${name} has a reason and is no longer there`);
let count = 0;
for (const [place, { dev, link, license = '' }] of Object.entries(read('package-lock.json').packages)) {
	if (!place || dev || link) continue;
	count++;
	const name = place.replace(/^.*node_modules\//, '');
	// "A OR B": one of them is enough; "A AND B": both.
	const allows = license
		.replace(/[()]/g, '')
		.split(' OR ')
		.some((either) => either.split(' AND ').every((one) => MAY.has(one)));
	if (!allows && !isUnchanged(name)) troubles.push(`${name} has the licence "${license || 'none'}"`);
}
for (const trouble of troubles) console.error(trouble);
console.log(`${named.length} packages with their reasons, ${count} handed on, ${troubles.length} in doubt`);
process.exit(troubles.length ? 1 : 0);
