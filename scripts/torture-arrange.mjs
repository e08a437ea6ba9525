// Many random arrangements (tests/random/arrangements.ts): each piece once, apart by the gap and off the edge by the margin, told by
// exact distances apart from the search.
//   npm run torture -- --arrange [--seed 1] [--runs 1000]
//   npm run torture -- --arrange --growth     what is reached for 12, 50, 200, 1,000 pieces, and how long it takes
import { pathToFileURL } from 'node:url';
import { argument } from './argument.mjs';
import { buildCore } from './build-core.mjs';

const seed = argument('--seed', 1);
const runs = argument('--runs', 1000);
const core = await import(pathToFileURL(await buildCore()).href);
const { chance, faultsOf, finish, isWhole, layOnSheetsSteps, NEAR, randomArrangement, randomPiece } = core;

if (process.argv.includes('--growth')) {
	for (const n of [12, 50, 200, 1000]) {
		const rnd = chance(seed);
		const pieces = Array.from({ length: n }, () => randomPiece(rnd, 'free', 14));
		const sheet = { width: 60 * Math.ceil(Math.sqrt(n / 2)), length: 20_000, margin: 3 };
		const begin = performance.now();
		const at = {};
		const steps = layOnSheetsSteps(pieces, [sheet], {
			gap: 1,
			inHoles: false,
			seed,
			share: () => (performance.now() - begin) / 60_000
		});
		let last;
		for (let next = steps.next(); !next.done; next = steps.next()) {
			const seconds = (performance.now() - begin) / 1000;
			if (next.value.best !== last && next.value.best && next.value.best.left.length === 0) {
				last = next.value.best;
				for (const mark of [1, 5, 20, 60]) if (seconds <= mark) at[mark] = last.usage;
			}
		}
		console.log(
			`${n} pieces: ${[1, 5, 20, 60].map((s) => `${at[s] ? (100 * at[s]).toFixed(1) : '–'} % in ${s} s`).join(', ')}`
		);
	}
	process.exit(0);
}

const begin = performance.now();
let [bad, thrown, left, worst] = [0, 0, 0, 0];
for (let k = 0; k < runs; k++) {
	const { pieces, sheet, gap } = randomArrangement(chance(seed * 100_003 + k));
	try {
		const share = (looks) => looks / 6000;
		const found = finish(layOnSheetsSteps(pieces, [sheet], { gap, inHoles: false, seed: k, share }));
		left += found.left.length;
		const { near, off } = faultsOf(pieces, [sheet], found, gap);
		worst = Math.max(worst, near, off);
		if (near <= NEAR && off <= NEAR && isWhole(pieces, found)) continue;
		bad++;
		console.error(`seed ${seed} run ${k}: ${near.toFixed(4)} mm too near, ${off.toFixed(4)} mm off`);
	} catch (error) {
		thrown++;
		console.error(`seed ${seed} run ${k}: ${error.stack}`);
	}
}
console.log(
	`${runs} arrangements in ${((performance.now() - begin) / 1000).toFixed(0)} s: ${bad} bad (worst ${worst.toFixed(4)} mm), ${left} pieces found no room, ${thrown} exceptions`
);
process.exitCode = bad + thrown ? 1 : 0;
