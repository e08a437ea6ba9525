/** Runs a generator of the core in a worker: reads messages between its steps, so that it can be stopped. */

/** Thrown where a newer request has made this one stale. */
export class Stale extends Error {}

const channel = new MessageChannel();
const waiting: (() => void)[] = [];
channel.port1.onmessage = () => waiting.shift()?.();

/** Lets messages in. */
export function breathe(): Promise<void> {
	return new Promise((resolve) => {
		waiting.push(resolve);
		channel.port2.postMessage(0);
	});
}

/**
 * @param isStale asked between steps.
 * @param tell told the latest progress now and then.
 */
export async function drive<P, T>(
	work: Generator<P, T>,
	isStale: () => boolean,
	tell: (progress: P) => void
): Promise<T> {
	let last = performance.now();
	for (let step = work.next(); ; step = work.next()) {
		if (step.done) return step.value;
		const now = performance.now();
		if (now - last < 24) continue;
		tell(step.value);
		await breathe();
		if (isStale()) throw new Stale();
		last = performance.now();
	}
}
