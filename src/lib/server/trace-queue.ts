/** Tracing on the server: each picture in a process of its own, few at once, the others wait; within limits of size and time. */
import { execFile } from 'node:child_process';
import { mkdtemp, readFile, rm, writeFile } from 'node:fs/promises';
import { availableParallelism, tmpdir } from 'node:os';
import { join } from 'node:path';
import { done, failed, type Result } from '../core/errors';

/** Bytes of a picture file. */
export const MOST_BYTES = 60_000_000;
/** ms that tracing one picture may take. */
export const MOST_MS = 60_000;
const MOST_WAITING = 20;
const AT_ONCE = Math.max(1, availableParallelism() - 1);

let running = 0;
const waiting: (() => void)[] = [];

export interface ServerTrace {
	readonly svg: string;
	readonly facts: Record<string, unknown>;
}

/**
 * @param words options of the `trace` verb, without files.
 * @param mostMs ms after which it is stopped.
 * @returns the outlines, or the sentence that the verb gave; `too-large`, `too-many`, `too-long`
 */
export async function traceOnServer(
	picture: Uint8Array,
	words: readonly string[],
	mostMs = MOST_MS
): Promise<Result<ServerTrace>> {
	if (picture.length > MOST_BYTES)
		return failed('too-large', `A picture of at most ${MOST_BYTES / 1e6} MB can be traced here.`);
	if (waiting.length >= MOST_WAITING)
		return failed('too-many', 'Too many pictures are waiting to be traced. Try again in a moment.');
	if (running >= AT_ONCE) await new Promise<void>((resolve) => waiting.push(resolve));
	running++;
	const folder = await mkdtemp(join(tmpdir(), 'even-thread-'));
	try {
		const input = join(folder, 'picture');
		const output = join(folder, 'outlines.svg');
		await writeFile(input, picture);
		return await new Promise((resolve) => {
			const args = ['bin/even-thread.mjs', 'trace', input, '--out', output, '--json', ...words];
			execFile(process.execPath, args, { timeout: mostMs, maxBuffer: 1e8 }, (error, stdout, stderr) => {
				if (error?.killed) resolve(failed('too-long', 'Tracing this picture took too long and was stopped.'));
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
		running--;
		waiting.shift()?.();
	}
}
