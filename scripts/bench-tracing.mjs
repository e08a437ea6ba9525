// How fast pictures are traced, by one and by two: the demo's sheet of parts drawn at a size, clean, and as a photo with noise under
// falling light. Prints the best of a few times, checks that both give the same to the last bit; with `--memory` what 50 megapixels take
// beyond the decoded picture.
//   npm run bench:tracing [-- --megapixels 12.5] [--rounds 4] [--memory]
import { pathToFileURL } from 'node:url';
import { isDeepStrictEqual } from 'node:util';
import { MessageChannel, receiveMessageOnPort, Worker } from 'node:worker_threads';
import { argument } from './argument.mjs';
import { buildCore } from './build-core.mjs';
import { drawnSheet, photoOf } from './sheet-pictures.mjs';

const MEMORY = process.argv.includes('--memory');
const MEGAPIXELS = argument('--megapixels', MEMORY ? 50 : 12.5);
const ROUNDS = argument('--rounds', MEMORY ? 1 : 4);
const PARTS = ['src/lib/core/trace/outlines', 'src/lib/core/trace/trace', 'src/lib/core/trace/prepare'];
const built = pathToFileURL(
	await buildCore(
		[...PARTS, 'src/lib/core/trace/picture', 'src/lib/core/progress', 'tests/shapes'],
		'tracing'
	)
).href;
const core = await import(built);

const WIDTH = Math.round(Math.sqrt((MEGAPIXELS * 1e6 * 297) / 210));
const clean = drawnSheet(core, WIDTH);

// The other thread: draws what it is given.
const other = new Worker(
	`const { parentPort, workerData } = require('node:worker_threads');
	parentPort.once('message', async (port) => {
		const core = await import(workerData);
		port.on('message', ({ edges, contours }) => port.postMessage(core.finish(core.drawOutlines(edges, contours))));
		port.postMessage('ready');
	});`,
	{ eval: true, workerData: built }
);
const { port1, port2 } = new MessageChannel();
other.postMessage(port2, [port2]);
await new Promise((resolve) => port1.once('message', resolve));
const helper = {
	begin: (edges, contours) => {
		const grey = edges.picture.grey.slice();
		port1.postMessage({ edges: { ...edges, picture: { ...edges.picture, grey } }, contours }, [grey.buffer]);
	},
	drawn: () => receiveMessageOnPort(port1)?.message
};

const trace = (picture, options, by) =>
	core.finish(core.traceByTone(picture, { pxPerMm: WIDTH / 297, ...options }, by));
function best(work) {
	let least = Infinity;
	let result;
	for (let i = 0; i < ROUNDS; i++) {
		const start = performance.now();
		result = work();
		least = Math.min(least, performance.now() - start);
	}
	return { seconds: least / 1000, result };
}

const pictures = [['clean', clean, {}]];
if (!MEMORY) pictures.push(['photo', photoOf(core, clean), { evenLight: true, denoise: true }]);
for (const [name, picture, options] of pictures) {
	const before = process.memoryUsage.rss();
	let most = before;
	const watch = setInterval(() => (most = Math.max(most, process.memoryUsage.rss())), 5);
	const one = best(() => trace(picture, options));
	const two = best(() => trace(picture, options, helper));
	clearInterval(watch);
	most = Math.max(most, process.resourceUsage().maxRSS * 1024);
	const size = (picture.widthPx * picture.heightPx) / 1e6;
	console.log(
		`${name}, ${size.toFixed(1)} megapixels: ${one.result.paths.length} outlines, ${one.result.anchors} anchors; ` +
			`one ${one.seconds.toFixed(2)} s (${(size / one.seconds).toFixed(1)} MP/s), ` +
			`two ${two.seconds.toFixed(2)} s (${(one.seconds / two.seconds).toFixed(2)} x), ` +
			`${isDeepStrictEqual(one.result, two.result) ? 'the same to the last bit' : 'NOT THE SAME'}` +
			(MEMORY ? `; at most ${((most - before) / 1e6).toFixed(0)} MB beyond the picture` : '')
	);
}
await other.terminate();
port1.close();
