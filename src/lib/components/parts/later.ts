/** Components that are loaded when they are first needed. */

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

/** Does something once the page has nothing else to do; where the browser cannot tell, a little later. */
export function whenIdle(act: () => void): void {
	if ('requestIdleCallback' in globalThis) requestIdleCallback(act);
	else setTimeout(act, 50);
}
