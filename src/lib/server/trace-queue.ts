/**
 * Tracing on the server: few pictures at once, the others wait, within limits. The queue is in this process, or, where `REDIS_URL`
 * is set, one that is kept and that workers on other machines take from (`kept-queue.ts`).
 */
import { availableParallelism } from 'node:os';
import { version } from '$app/environment';
import { failed, type Result } from '../core/errors';
import {
	givenUp,
	MOST_BYTES,
	TOO_MANY,
	traceNow,
	type ServerTrace,
	type TraceLimits,
	type TraceQueue
} from './trace-work';

const MOST_WAITING = 20;
const AT_ONCE = Math.max(1, availableParallelism() - 1);

/** The queue in this process. */
function queueHere(): TraceQueue {
	let running = 0;
	const waiting: (() => void)[] = [];
	/** Waits for its turn; false where nobody waits for it any more. */
	function turn(signal: AbortSignal | undefined): Promise<boolean> {
		if (signal?.aborted) return Promise.resolve(false);
		if (running < AT_ONCE) {
			running++;
			return Promise.resolve(true);
		}
		return new Promise((resolve) => {
			const begin = () => {
				signal?.removeEventListener('abort', gone);
				resolve(true);
			};
			const gone = () => {
				waiting.splice(waiting.indexOf(begin), 1);
				resolve(false);
			};
			signal?.addEventListener('abort', gone, { once: true });
			waiting.push(begin);
		});
	}
	/** The next one's turn: the place goes from hand to hand. */
	function next(): void {
		const begin = waiting.shift();
		if (begin) begin();
		else running--;
	}
	const isFull = () => waiting.length >= MOST_WAITING;
	return {
		async trace(picture, words, limits) {
			if (isFull()) return { ok: false, problem: TOO_MANY };
			if (!(await turn(limits.signal))) return givenUp;
			try {
				return await traceNow(picture, words, limits);
			} finally {
				next();
			}
		},
		load: () => Promise.resolve({ running, waiting: waiting.length }),
		whyFull: () => Promise.resolve(isFull() ? TOO_MANY : undefined)
	};
}

let queue: Promise<TraceQueue> | undefined;
/** The queue of this server: what it needs is loaded when it is first asked for. */
export function traceQueue(): Promise<TraceQueue> {
	const kept = process.env.REDIS_URL;
	queue ??= kept
		? import('./kept-queue').then(({ keptQueue }) => keptQueue(kept, version))
		: Promise.resolve(queueHere());
	return queue;
}

/**
 * @param words options of the `trace` verb, without files.
 * @returns the outlines, or the sentence that the verb gave; `too-large`, `too-many`, `too-long`, `given-up`, `no-queue`
 */
export async function traceOnServer(
	picture: Uint8Array,
	words: readonly string[],
	limits: TraceLimits = {}
): Promise<Result<ServerTrace>> {
	if (picture.length > MOST_BYTES)
		return failed('too-large', `A picture of at most ${MOST_BYTES / 1e6} MB can be traced here.`);
	return (await traceQueue()).trace(picture, words, limits);
}
