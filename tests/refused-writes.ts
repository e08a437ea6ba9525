/** Writes to the browser's database that are refused, for tests of what becomes of them. */
import { vi } from 'vitest';

/** The next writes to a store are refused, counted over all stores from the first; until the mocks are restored. @returns what is called at each. */
export function refuse(at: (count: number) => boolean, name = 'QuotaExceededError') {
	let count = 0;
	const refused = vi.fn();
	for (const method of ['put', 'delete'] as const) {
		const plain = IDBObjectStore.prototype[method] as (...args: unknown[]) => IDBRequest;
		vi.spyOn(IDBObjectStore.prototype, method).mockImplementation(function (
			this: IDBObjectStore,
			...args: unknown[]
		) {
			if (at(count++)) {
				refused();
				throw new DOMException('refused for the test', name);
			}
			return plain.apply(this, args) as never;
		} as never);
	}
	return refused;
}
