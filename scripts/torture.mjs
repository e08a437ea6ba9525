// Many random combinations and offsets (tests/random/plane.ts), each held against an independent check. Seeded, so that a failure can be had again.
//   npm run torture -- --seed 1 [--runs 20000] [--wild]     ordinary outlines, or with --wild also ones that cross themselves
//   npm run torture -- --seed 1 [--runs 2000] --torn        torn outlines of hundreds of anchors, as traces of rough edges have them
//   npm run torture -- --jobs [--seed 1] [--runs 20000]     jobs for a machine: see torture-jobs.mjs
//   npm run torture -- --arrange [--seed 1] [--runs 1000]   pieces on a sheet: see torture-arrange.mjs
//   npm run torture -- --coincident [--seed 1] [--runs 20000]   outlines nearly on each other: see torture-coincident.mjs
//   npm run torture -- --holds [--seed 1] [--runs 10000]    sketches with holds: see torture-holds.mjs
import { pathToFileURL } from 'node:url';
import { argument } from './argument.mjs';
import { buildCore } from './build-core.mjs';

const seed = argument('--seed', 1);
const wanted = argument('--runs', 20000);
const wildness = ['wild', 'torn'].find((kind) => process.argv.includes(`--${kind}`)) ?? 'ordinary';
for (const other of ['jobs', 'arrange', 'holds', 'coincident']) {
	if (!process.argv.includes(`--${other}`)) continue;
	await import(`./torture-${other}.mjs`);
	process.exit(process.exitCode ?? 0);
}
const { chance, combine, DISTANCES, offsetPieces, oneOf, randomInputs } = await import(
	pathToFileURL(await buildCore()).href
);

const rnd = chance(seed);
const counts = { runs: 0, failed: 0, net: 0, slowest: 0 };
function tell(what, work) {
	counts.runs++;
	const start = performance.now();
	let result;
	try {
		result = work();
	} catch (error) {
		result = { ok: false, problem: { code: `threw: ${error.message}` } };
	}
	counts.slowest = Math.max(counts.slowest, performance.now() - start);
	if (!result.ok && result.problem.code !== 'nothing-left') {
		counts.failed++;
		console.log(`case ${what}: ${result.problem.code}`);
	} else if (result.ok && result.value.fallback) {
		counts.net++;
		console.log(`case ${what}: by the polygon net`);
	}
}
for (let i = 0; counts.runs < wanted; i++) {
	const { inputs, first } = randomInputs(rnd, wildness);
	for (const op of ['union', 'difference', 'intersection', 'xor', 'regions'])
		tell(`${i} ${op}`, () => combine(inputs, op, { verify: true }));
	for (const join of ['round', 'miter', 'bevel']) {
		const distance = oneOf(rnd, DISTANCES);
		tell(`${i} offset ${join} ${distance}`, () => offsetPieces(first, { distance, join }));
	}
}
console.log(
	`${counts.runs} runs with seed ${seed}: ${counts.failed} failed, ${counts.net} by the polygon net (${((100 * counts.net) / counts.runs).toFixed(3)} %), slowest ${Math.round(counts.slowest)} ms`
);
process.exit(counts.failed ? 1 : 0);
