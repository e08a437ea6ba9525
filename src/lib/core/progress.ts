/** Long work is a generator that yields how far it has come. */

/** Runs a generator to its end without looking at its progress. */
export function finish<T>(work: Generator<unknown, T>): T {
	let step = work.next();
	while (!step.done) step = work.next();
	return step.value;
}

/** The same work as a part of other work, which tells progress in its own terms. */
export function* within<P, Q, T>(work: Generator<P, T>, told: (progress: P) => Q): Generator<Q, T> {
	for (let step = work.next(); ; step = work.next()) {
		if (step.done) return step.value;
		yield told(step.value);
	}
}

/** Work that tells a share from 0 to 1, as the part from `from` to `to` of other work. */
export const part = <T>(work: Generator<number, T>, from: number, to: number): Generator<number, T> =>
	within(work, (share) => from + (to - from) * share);
