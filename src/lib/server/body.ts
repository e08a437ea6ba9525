/** Bodies of requests, read within limits of size and time: one that is too large or comes too slowly is let go of. */
import { joined } from '../core/bytes';
import { done, failed, type Result } from '../core/errors';

export interface BodyLimits {
	/** Bytes. */
	readonly most: number;
	/** ms from the first byte waited for to the last. */
	readonly within?: number;
}

/** ms that a body may take where nothing else is said. */
const WITHIN_MS = 30_000;

/** What is refused is still read to its end, and thrown away, up to so many times what is allowed: cut off, the sender would never hear why. */
const PATIENCE = 4;

/** @returns all bytes of the body; `too-large`, `too-slow`, `cut-off`, `no-type` */
export async function readBody(
	request: Request,
	{ most, within = WITHIN_MS }: BodyLimits
): Promise<Result<Uint8Array<ArrayBuffer>>> {
	const said = Number(request.headers.get('content-length') ?? 0);
	// Without its kind a body is not handed on.
	if (!request.body && said > 0)
		return failed('no-type', 'What is sent must say what it is: its content-type is missing.');
	const tooLarge = () =>
		failed(
			'too-large',
			most >= 1e6
				? `At most ${Math.floor(most / 1e6)} MB are taken here.`
				: `At most ${most} bytes are taken here.`
		);
	const parts: Uint8Array[] = [];
	let size = 0;
	let isTooLarge = said > most;
	const read = await readThrough(request, within, (part) => {
		size += part.length;
		isTooLarge ||= size > most;
		if (isTooLarge) parts.length = 0;
		else parts.push(part);
		return Math.max(size, said) <= PATIENCE * most;
	});
	if (isTooLarge || read === 'too-large') return tooLarge();
	if (read === 'too-slow')
		return failed('too-slow', `This took longer than ${within / 1000} s to arrive and was let go of.`);
	if (read === 'cut-off') return failed('cut-off', 'It did not arrive whole.');
	return done(joined(parts));
}

/** What is sent is read and thrown away, so that whoever sent it hears the answer. */
export async function passOver(request: Request, most: number): Promise<void> {
	let size = 0;
	await readThrough(request, WITHIN_MS, (part) => (size += part.length) <= most);
}

/** @param take is given each part; false ends it. */
async function readThrough(
	request: Request,
	within: number,
	take: (part: Uint8Array) => boolean
): Promise<'whole' | 'too-large' | 'too-slow' | 'cut-off' | 'left'> {
	if (!request.body) return 'whole';
	const reader = request.body.getReader();
	/** Not waited for: whoever sends slowly would be waited for once more. */
	const letGo = () => void reader.cancel().catch(() => undefined);
	let late: ReturnType<typeof setTimeout> | undefined;
	const deadline = new Promise<'late'>((resolve) => {
		late = setTimeout(() => resolve('late'), within);
	});
	try {
		for (;;) {
			const next = await Promise.race([reader.read(), deadline]);
			if (next === 'late') {
				letGo();
				return 'too-slow';
			}
			if (next.done) return 'whole';
			if (!take(next.value)) {
				letGo();
				return 'left';
			}
		}
	} catch (error) {
		// The server's own limit lies below this one, or the sender went away.
		return (error as { status?: number }).status === 413 ? 'too-large' : 'cut-off';
	} finally {
		clearTimeout(late);
	}
}

/** Bytes of a message that is an object with a few numbers. */
const SMALL = 10_000;

/** A small object out of the body; nothing where it is none. */
export async function readSmall(request: Request): Promise<Result<Record<string, unknown> | undefined>> {
	const body = await readBody(request, { most: SMALL, within: 10_000 });
	if (!body.ok) return body;
	try {
		const value: unknown = JSON.parse(new TextDecoder().decode(body.value));
		return done(
			value && typeof value === 'object' && !Array.isArray(value)
				? (value as Record<string, unknown>)
				: undefined
		);
	} catch {
		return done(undefined);
	}
}
