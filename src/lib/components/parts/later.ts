/** What comes later: components that are loaded when they are first needed, answers that are asked for at rest. */
import type { WorkArguments, WorkName } from '$lib/core/operations/work';
import { behind, type Value } from '$lib/workers/geometry.client';

/** A table of them by a word. */
export class Later<Word extends string, C> {
	private readonly loaded = new Map<Word, Promise<C>>();

	constructor(private readonly table: Readonly<Record<Word, () => Promise<{ readonly default: unknown }>>>) {}

	of(word: Word): Promise<C> {
		let component = this.loaded.get(word);
		if (!component) {
			component = this.table[word]().then((module) => module.default as C);
			// One that could not be loaded is tried again the next time.
			component.catch(() => this.loaded.delete(word));
			this.loaded.set(word, component);
		}
		return component;
	}

	/** Loads all of them one after the other while nothing else is to be done, so that none is waited for. */
	async loadAll(): Promise<void> {
		for (const word of Object.keys(this.table) as Word[]) {
			await new Promise<void>(whenIdle);
			await this.of(word).catch(() => undefined);
		}
	}
}

/** ms that what is picked rests before anything is asked about it. */
const REST_MS = 200;

/**
 * Has work done behind once what it is about rests. What comes of anything older is nobody's.
 * @returns what ends it, as an effect's clean-up.
 */
export function askAtRest<N extends WorkName>(
	name: N,
	args: WorkArguments<N>,
	take: (value: Value<N>) => void
): () => void {
	let isNew = true;
	const timer = setTimeout(async () => {
		const answer = await behind.run(name, args).answer.catch(() => undefined);
		if (isNew && answer?.ok === true) take(answer.value);
	}, REST_MS);
	return () => {
		isNew = false;
		clearTimeout(timer);
	};
}

/** Does something once the page has nothing else to do; where the browser cannot tell, a little later. */
export function whenIdle(act: () => void): void {
	if ('requestIdleCallback' in globalThis) requestIdleCallback(act);
	else setTimeout(act, 50);
}
