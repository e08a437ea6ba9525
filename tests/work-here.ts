/** The workers of a page, for tests without one: what they would compute is computed at once, in the same thread. */
import { WORK, type WorkName } from '../src/lib/core/operations/work';
import { finish } from '../src/lib/core/progress';

/** What stands in the place of `workers/geometry.client`. @param before is called before each work; it may throw, as a lost worker does. */
export function workHere(before: (name: WorkName, args: readonly unknown[]) => void = () => undefined) {
	let requests = 0;
	const client = {
		run: (name: WorkName, args: unknown[]) => ({
			answer: (async () => {
				before(name, args);
				const value = finish((WORK[name] as (...all: unknown[]) => Generator<unknown, unknown>)(...args));
				const isResult = typeof value === 'object' && value !== null && 'ok' in value;
				return isResult ? value : { ok: true, value };
			})(),
			stop: () => undefined
		})
	};
	class GeometryClient {
		readonly run = client.run;
	}
	return {
		GeometryClient,
		hand: client,
		behind: client,
		nextRequest: () => ++requests,
		proxy: <T>(value: T) => value
	};
}
