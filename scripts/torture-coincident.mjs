// Outlines that lie on each other or nearly (tests/random/coincident.ts): each of the four combinations is held against windings
// reckoned from the curves themselves, at places half way between both lines and close beside them.
//   npm run torture -- --coincident [--seed 1] [--runs 20000] [--only N] [--show]
import { pathToFileURL } from 'node:url';
import { argument } from './argument.mjs';
import { buildCore } from './build-core.mjs';

const seed = argument('--seed', 1);
const runs = argument('--runs', 20000);
const only = argument('--only', -1);
const show = process.argv.includes('--show');
const { chance, coincidentPair, SAME, tryCoincident } = await import(pathToFileURL(await buildCore()).href);

const counts = { runs: 0, failed: 0, net: 0, wrong: 0, off: 0, places: 0, slowest: 0 };
let worst = 0;
const said = new Map();
function say(i, what, more) {
	counts[what]++;
	said.set(what, (said.get(what) ?? 0) + 1);
	if (show || said.get(what) <= 12) console.log(`case ${i} ${what} ${more}`);
}

for (let i = Math.max(0, only); counts.runs < runs && (only < 0 || i === only); i++) {
	const pair = coincidentPair(chance(seed * 1_000_003 + i));
	for (const { op, refused, isNet, off, wrong, took } of tryCoincident(pair)) {
		counts.runs++;
		counts.places += pair.places.length;
		counts.slowest = Math.max(counts.slowest, took);
		worst = Math.max(worst, off);
		const name = `${op} (${pair.what})`;
		if (refused) say(i, 'failed', `${name}: ${refused}`);
		if (isNet) say(i, 'net', name);
		if (off > SAME) say(i, 'off', `${name}: ${off.toExponential(1)} mm`);
		if (wrong) say(i, 'wrong', `${name}: ${wrong} of ${pair.places.length} places`);
	}
}
console.log(
	`${counts.runs} runs with seed ${seed}: ${counts.failed} failed, ${counts.net} by the polygon net (${((100 * counts.net) / counts.runs).toFixed(3)} %), ${counts.off} off by more than ${SAME} mm (worst ${worst.toExponential(1)}), ${counts.wrong} wrong at any of ${counts.places} places, slowest ${Math.round(counts.slowest)} ms`
);
process.exit(counts.failed + counts.net + counts.off + counts.wrong ? 1 : 0);
