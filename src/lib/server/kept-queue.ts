/**
 * The queue that is kept: pictures and results lie in a Redis, workers on as many machines as wanted take from it (`trace-worker.ts`).
 * What is asked for twice is traced once; what dies with its worker is traced again elsewhere.
 */
import { createHash } from 'node:crypto';
import { Queue, QueueEvents, Worker, type ConnectionOptions, type Job } from 'bullmq';
import { Redis } from 'ioredis';
import { failed, type Problem, type Result } from '../core/errors';
import { givenUp, MOST_MS, TOO_MANY, traceNow, type ServerTrace, type TraceQueue } from './trace-work';

const QUEUE = 'even-thread-traces';
/** Names of what lies there by a picture's hash. */
const pictureAt = (key: string) => `even-thread:picture:${key}`;
const resultAt = (key: string) => `even-thread:traced:${key}`;
const waitersAt = (key: string) => `even-thread:waiters:${key}`;

/** s that a picture lies there at most, and a result. */
const PICTURE_S = 3600;
const RESULT_S = 86_400;
/** Pictures that wait, before no further one is taken. */
const MOST_WAITING = 1000;
/** How often it is tried where a worker dies over it. */
const TRIES = 3;
/** ms for which a worker that says nothing is believed to live; it speaks up more often than that. */
const SILENT_MS = 10_000;
/** ms between two looks whether anybody waits still. */
const LOOK_MS = 500;
/** ms for the first word of the Redis. */
const CONNECT_MS = 3000;

interface Asked {
	readonly words: readonly string[];
	readonly mostMs: number;
}

/** What a picture and its settings are known by, to one build: a newer one traces anew. */
export function keyOf(picture: Uint8Array, words: readonly string[], build: string): string {
	return createHash('sha256')
		.update(JSON.stringify([build, ...[...words].sort()]))
		.update(picture)
		.digest('hex');
}

const noQueue: Problem = {
	code: 'no-queue',
	sentence: 'The queue of pictures can not be reached. Try again in a moment.'
};

/** What comes within a moment; an error where it does not. */
function soon<T>(work: Promise<T>): Promise<T> {
	let timer: ReturnType<typeof setTimeout> | undefined;
	const late = new Promise<never>((_, fail) => {
		timer = setTimeout(() => fail(new Error(noQueue.sentence)), CONNECT_MS);
	});
	return Promise.race([work, late]).finally(() => clearTimeout(timer));
}

/**
 * The queue of the Redis at an address, as the server sees it.
 * @param build what the server was built of: results of another are none of its.
 */
export function keptQueue(address: string, build: string): TraceQueue {
	const client = new Redis(address, {
		maxRetriesPerRequest: 1,
		enableOfflineQueue: false,
		connectTimeout: CONNECT_MS,
		lazyConnect: true
	});
	client.on('error', () => undefined);
	const connection: ConnectionOptions = { url: address, maxRetriesPerRequest: 1, enableOfflineQueue: false };
	let parts: Promise<{ queue: Queue<Asked>; events: QueueEvents }> | undefined;
	/** Connects when it is first needed, and goes on trying; who asks meanwhile does not wait longer than a moment. */
	const connected = () =>
		soon(
			(parts ??= (async () => {
				client.connect().catch(() => undefined);
				await new Promise((ready) => client.once('ready', ready));
				const queue = new Queue<Asked>(QUEUE, { connection });
				const events = new QueueEvents(QUEUE, { connection: { url: address, maxRetriesPerRequest: null } });
				queue.on('error', () => undefined);
				events.on('error', () => undefined);
				// One listener for each picture that is waited for.
				events.setMaxListeners(0);
				queue.setMaxListeners(0);
				await Promise.all([queue.waitUntilReady(), events.waitUntilReady()]);
				return { queue, events };
			})())
		);

	async function result(key: string): Promise<Result<ServerTrace> | undefined> {
		const kept = await client.get(resultAt(key));
		return kept === null ? undefined : (JSON.parse(kept) as Result<ServerTrace>);
	}

	return {
		async trace(picture, words, { mostMs = MOST_MS, signal }) {
			const key = keyOf(picture, words, build);
			try {
				const { queue, events } = await connected();
				const known = await result(key);
				if (known) return known;
				if ((await queue.getWaitingCount()) >= MOST_WAITING) return { ok: false, problem: TOO_MANY };
				await client.multi().incr(waitersAt(key)).expire(waitersAt(key), PICTURE_S).exec();
				try {
					await client.set(pictureAt(key), Buffer.from(picture), 'EX', PICTURE_S);
					const gone = new Promise<'gone'>((resolve) => {
						if (signal?.aborted) resolve('gone');
						signal?.addEventListener('abort', () => resolve('gone'), { once: true });
					});
					for (let k = 0; k < TRIES; k++) {
						const job = await queue.add(
							'trace',
							{ words, mostMs },
							{
								// What is asked for twice is one job; a former one that failed makes room.
								jobId: key,
								attempts: TRIES,
								backoff: { type: 'exponential', delay: 200 },
								removeOnComplete: true,
								removeOnFail: true
							}
						);
						const ended = job.waitUntilFinished(events).then(
							() => 'ended' as const,
							() => 'failed' as const
						);
						const how = await Promise.race([ended, gone]);
						if (how === 'gone') return givenUp;
						const traced = await result(key);
						if (traced) return traced;
						if (how === 'failed') break;
						// It had been let go of for somebody else just before this one came.
					}
					return failed('not-traced', 'Tracing this picture failed several times; it was given up.');
				} finally {
					// What nobody waits for is passed over by the worker that comes to it, or left by the one that has it.
					await client.decr(waitersAt(key));
				}
			} catch {
				return { ok: false, problem: noQueue };
			}
		},
		async load() {
			try {
				const { queue } = await connected();
				const {
					active = 0,
					waiting = 0,
					delayed = 0
				} = await queue.getJobCounts('active', 'waiting', 'delayed');
				return { running: active, waiting: waiting + delayed };
			} catch {
				return { running: 0, waiting: 0 };
			}
		},
		async whyFull() {
			try {
				const { queue } = await connected();
				return (await queue.getWaitingCount()) >= MOST_WAITING ? TOO_MANY : undefined;
			} catch {
				return noQueue;
			}
		}
	};
}

/**
 * A worker that takes pictures from the queue and traces them, so many at once.
 *
 * @returns what ends it: what is in hand is finished first.
 */
export function startWorker(address: string, atOnce: number): { readonly close: () => Promise<void> } {
	const client = new Redis(address, { maxRetriesPerRequest: null });
	client.on('error', (error) => console.error(error.message));
	const worker = new Worker<Asked>(QUEUE, (job) => traceJob(client, job), {
		connection: { url: address, maxRetriesPerRequest: null },
		concurrency: atOnce,
		lockDuration: SILENT_MS,
		stalledInterval: SILENT_MS / 2,
		maxStalledCount: TRIES
	});
	worker.on('error', (error) => console.error(error.message));
	return {
		async close() {
			await worker.close();
			client.disconnect();
		}
	};
}

/** Traces one picture. What trying again can not mend is a result as well; only what died is thrown, and tried again. */
async function traceJob(client: Redis, { id, data }: Job<Asked>): Promise<void> {
	const key = id!;
	const isWaitedFor = async () => Number(await client.get(waitersAt(key))) > 0;
	if (!(await isWaitedFor())) return;
	const picture = await client.getBuffer(pictureAt(key));
	if (!picture) return;
	const nobody = new AbortController();
	const look = setInterval(() => {
		isWaitedFor().then(
			(waits) => waits || nobody.abort(),
			() => undefined
		);
	}, LOOK_MS);
	try {
		const traced = await traceNow(picture, data.words, { mostMs: data.mostMs, signal: nobody.signal });
		if (!traced.ok && traced.problem.code === 'died') throw new Error(traced.problem.sentence);
		if (!traced.ok && traced.problem.code === 'given-up') return;
		await client.set(resultAt(key), JSON.stringify(traced), 'EX', RESULT_S);
		await client.del(pictureAt(key));
	} finally {
		clearInterval(look);
	}
}
