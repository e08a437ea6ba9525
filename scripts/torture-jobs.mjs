// Many random jobs for a machine (tests/random/jobs.ts): planned, written, read by our own reader, and the tool followed against the lines.
//   npm run torture -- --jobs [--seed 1] [--runs 20000]
import { pathToFileURL } from 'node:url';
import { argument } from './argument.mjs';
import { buildCore } from './build-core.mjs';

const seed = argument('--seed', 1);
const runs = argument('--runs', 20000);
const { chance, randomJob, tryJob } = await import(pathToFileURL(await buildCore()).href);

let [planned, thrown, worst] = [0, 0, 0];
const refused = {};
const amiss = {};
const since = performance.now();
for (let k = 0; k < runs; k++) {
	const own = seed * 1_000_003 + k;
	const job = randomJob(chance(own));
	const tell = (what) => console.log(`job ${own} (${job.settings.tool.kind} ${job.settings.side}): ${what}`);
	try {
		const tried = tryJob(job);
		if (tried.refused) refused[tried.refused] = (refused[tried.refused] ?? 0) + 1;
		else planned++;
		worst = Math.max(worst, tried.gouge);
		for (const { what, more } of tried.amiss) {
			amiss[what] = (amiss[what] ?? 0) + 1;
			tell(`${what}, ${more}`);
		}
	} catch (error) {
		thrown++;
		tell(error.stack);
	}
	if (k % 500 === 499 && process.stderr.isTTY) process.stderr.write(`${k + 1} of ${runs}\r`);
}
const seconds = ((performance.now() - since) / 1000).toFixed(0);
console.log(
	`${runs} jobs in ${seconds} s: ${planned} planned, refused ${JSON.stringify(refused)}; ` +
		`amiss ${JSON.stringify(amiss)}, worst gouge ${worst.toFixed(4)} mm, exceptions ${thrown}`
);
process.exitCode = thrown || Object.keys(amiss).length ? 1 : 0;
