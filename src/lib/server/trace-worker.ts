/** A program of its own: traces pictures that servers have put into the queue at `REDIS_URL` (docs/server.md). */
import { availableParallelism } from 'node:os';
import { startWorker } from './kept-queue';

const address = process.env.REDIS_URL;
if (!address) {
	console.error('Say where the queue lies: REDIS_URL=redis://…');
	process.exit(1);
}
const atOnce = Number(process.env.AT_ONCE ?? Math.max(1, availableParallelism() - 1));
const worker = startWorker(address, atOnce);
console.log(`Tracing what the queue holds, ${atOnce} at once.`);

let isEnding = false;
function end(): void {
	if (isEnding) process.exit(0);
	isEnding = true;
	void worker.close().then(() => process.exit(0));
}
process.on('SIGTERM', end);
process.on('SIGINT', end);
