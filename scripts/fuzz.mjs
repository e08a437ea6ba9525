// Damaged, swollen and twisted files (tests/random/files.ts), one after the other, opened by everything that opens files: nothing may crash, hang, run out of
// its stack, or give numbers that are none; what opens and is written opens again as the same.
//   npm run fuzz -- [--seed 1] [--runs 20000] [--only svg,dxf,thread,gcode,hpgl,header,picture,pdf,zip,workshop,template]
// Each case has BUDGET_MS (2000) and 500 MB. A case is told by its seed and number, and can be had again: --seed S --from N --runs 1 (--show: it lies in .cache/fuzzed-case)
import { writeFileSync } from 'node:fs';
import { availableParallelism } from 'node:os';
import { fileURLToPath, pathToFileURL } from 'node:url';
import { Worker, isMainThread, parentPort, workerData } from 'node:worker_threads';
import { argument } from './argument.mjs';
import { buildCore } from './build-core.mjs';

if (isMainThread) {
	const seed = argument('--seed', 1);
	const from = argument('--from', 0);
	const runs = argument('--runs', 20_000);
	const only = argument('--only', 'svg,dxf,thread,gcode,hpgl,header,picture,pdf,zip,workshop,template').split(
		','
	);
	const budget = Number(process.env.BUDGET_MS ?? 2000);
	const core = await buildCore(['tests/random/files'], `fuzzed-${seed}-${from}`);
	const told = { opened: 0, refused: 0 };
	let bad = 0;
	const wrong = (why) => {
		bad++;
		console.log(`${seed}/${why}`);
	};
	let next = from;
	let shown = 0;
	/** One worker after the other on a lane: a case that goes wrong takes its worker with it, the next one goes on behind it. */
	const lane = () =>
		new Promise((done) => {
			const worker = new Worker(fileURLToPath(import.meta.url), {
				workerData: { core, seed, only, shows: process.argv.includes('--show') },
				resourceLimits: { maxOldGenerationSizeMb: 500, stackSizeMb: 4 }
			});
			let at = -1;
			let timer;
			const give = () => {
				clearTimeout(timer);
				if (next >= from + runs) {
					void worker.terminate();
					done();
					return;
				}
				at = next++;
				worker.postMessage(at);
			};
			const end = (why) => {
				clearTimeout(timer);
				wrong(`${at}: ${why}`);
				worker.removeAllListeners();
				void worker.terminate();
				done(lane());
			};
			worker.on('message', ({ isReady, isMade, outcome, trouble, what }) => {
				if (isReady) return give();
				if (isMade) {
					timer = setTimeout(() => end(`took longer than ${budget} ms`), budget);
					return;
				}
				if (trouble) wrong(`${at} ${what}: ${trouble}`);
				else told[outcome]++;
				if (++shown % 5000 === 0) console.log(`${shown} of ${runs}`);
				give();
			});
			worker.on('error', (error) => end(error.message));
			worker.on('exit', (code) => code && end(`ended with ${code}`));
		});
	await Promise.all(Array.from({ length: Math.max(1, availableParallelism() - 1) }, lane));
	console.log(
		`seed ${seed}, ${runs} cases: ${told.opened} opened, ${told.refused} refused in a sentence, ${bad} wrong`
	);
	process.exit(bad ? 1 : 0);
}

// ---- in the worker
const { core, seed, only, shows } = workerData;
const { damagedFile, tryFile } = await import(pathToFileURL(core).href);

parentPort.on('message', async (at) => {
	const file = damagedFile(seed, at, only);
	if (shows) writeFileSync('.cache/fuzzed-case', file.bytes);
	parentPort.postMessage({ isMade: true });
	parentPort.postMessage({ what: file.kind, ...(await tryFile(file)) });
});
parentPort.postMessage({ isReady: true });
