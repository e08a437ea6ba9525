/** Tracing on the server: each picture in a process of its own, few at once, the others wait; within limits of size and time. */
import { execFile } from 'node:child_process';
import { mkdtemp, readFile, rm, writeFile } from 'node:fs/promises';
import { availableParallelism, tmpdir } from 'node:os';
import { join } from 'node:path';
import { done, failed, type Problem, type Result } from '../core/errors';

/** Bytes of a picture file. */
export const MOST_BYTES = 60_000_000;
/** ms that tracing one picture may take. */
export const MOST_MS = 60_000;
const MOST_WAITING = 20;
const AT_ONCE = Math.max(1, availableParallelism() - 1);

let running = 0;
const waiting: (() => void)[] = [];

/** How many pictures are being traced, and how many wait. */
export const traceLoad = () => ({ running, waiting: waiting.length });
/** Why no further picture is taken; undefined where one is. */
export const whyFull = (): Problem | undefined =>
	waiting.length >= MOST_WAITING
		? { code: 'too-many', sentence: 'Too many pictures are waiting to be traced. Try again in a moment.' }
		: undefined;

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

export interface ServerTrace {
	readonly svg: string;
	readonly facts: Record<string, unknown>;
}

/**
 * @param words options of the `trace` verb, without files.
 * @param how.mostMs ms after which it is stopped; `how.signal` ends it at once, wherever it is.
 * @returns the outlines, or the sentence that the verb gave; `too-large`, `too-many`, `too-long`, `given-up`
 */
export async function traceOnServer(
	picture: Uint8Array,
	words: readonly string[],
	{ mostMs = MOST_MS, signal }: { readonly mostMs?: number; readonly signal?: AbortSignal } = {}
): Promise<Result<ServerTrace>> {
	if (picture.length > MOST_BYTES)
		return failed('too-large', `A picture of at most ${MOST_BYTES / 1e6} MB can be traced here.`);
	const full = whyFull();
	if (full) return { ok: false, problem: full };
	const givenUp = failed('given-up', 'Nobody waits for this picture any more.');
	if (!(await turn(signal))) return givenUp;
	let folder: string | undefined;
	try {
		folder = await mkdtemp(join(tmpdir(), 'even-thread-'));
		const input = join(folder, 'picture');
		const output = join(folder, 'outlines.svg');
		await writeFile(input, picture);
		if (signal?.aborted) return givenUp;
		return await new Promise((resolve) => {
			const args = ['bin/even-thread.mjs', 'trace', input, '--out', output, '--json', ...words];
			const how = { timeout: mostMs, maxBuffer: 1e8, signal, killSignal: 'SIGKILL' as const };
			execFile(process.execPath, args, how, (error, stdout, stderr) => {
				if (signal?.aborted) resolve(givenUp);
				else if (error?.killed)
					resolve(failed('too-long', 'Tracing this picture took too long and was stopped.'));
				else if (error)
					resolve(
						failed(
							'not-traced',
							stderr.trim().replaceAll(`"picture"`, 'This picture') || 'It could not be traced.'
						)
					);
				else
					readFile(output, 'utf8').then(
						(svg) => {
							const { out, ...facts } = JSON.parse(stdout) as Record<string, unknown>;
							void out;
							resolve(done({ svg, facts }));
						},
						() => resolve(failed('not-traced', 'It could not be traced.'))
					);
			});
		});
	} finally {
		if (folder) await rm(folder, { recursive: true, force: true });
		next();
	}
}
