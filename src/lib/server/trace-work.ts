/** One picture traced, in a process of its own, within a time. */
import { execFile } from 'node:child_process';
import { mkdtemp, readFile, rm, writeFile } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { done, failed, type Problem, type Result } from '../core/errors';

/** Bytes of a picture file. */
export const MOST_BYTES = 60_000_000;
/** ms that tracing one picture may take. */
export const MOST_MS = 60_000;

export interface ServerTrace {
	readonly svg: string;
	readonly facts: Record<string, unknown>;
}

/** How long it may take, and who ends it. */
export interface TraceLimits {
	/** ms after which it is stopped. */
	readonly mostMs?: number;
	/** Ends it at once, wherever it is. */
	readonly signal?: AbortSignal;
}

/** How many pictures are being traced, and how many wait. */
export interface TraceLoad {
	readonly running: number;
	readonly waiting: number;
}
/** Where pictures wait for their turn. */
export interface TraceQueue {
	trace(picture: Uint8Array, words: readonly string[], limits: TraceLimits): Promise<Result<ServerTrace>>;
	load(): Promise<TraceLoad>;
	/** Why no further picture is taken; undefined where one is. */
	whyFull(): Promise<Problem | undefined>;
}

export const TOO_MANY: Problem = {
	code: 'too-many',
	sentence: 'Too many pictures are waiting to be traced. Try again in a moment.'
};

export const givenUp = failed('given-up', 'Nobody waits for this picture any more.');

/**
 * Traces at once, in a process of its own.
 *
 * @param words options of the `trace` verb, without files.
 * @returns the outlines, or the sentence that the verb gave; `too-long`, `given-up`, `not-traced`; `died` where the process was
 * ended from elsewhere: trying again may help.
 */
export async function traceNow(
	picture: Uint8Array,
	words: readonly string[],
	{ mostMs = MOST_MS, signal }: TraceLimits = {}
): Promise<Result<ServerTrace>> {
	const folder = await mkdtemp(join(tmpdir(), 'even-thread-'));
	try {
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
				else if (error?.signal) resolve(failed('died', 'Tracing this picture was ended from elsewhere.'));
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
		await rm(folder, { recursive: true, force: true });
	}
}
