/** The keys of the commands: as they come, or as the person has changed them; and whether a bare letter acts at all. */

/** What of a command matters here. */
export interface Keyed {
	readonly id: string;
	/** As it comes. */
	readonly key?: string;
}

const KEY = 'keys';
/** Ways to write modifiers, in their order. */
const MODIFIERS = ['$mod', 'Alt', 'Shift'] as const;

interface Wish {
	/** By the command's id; an empty text where it has none. */
	readonly changed: Readonly<Record<string, string>>;
	/** Letters and signs act without Ctrl. */
	readonly single: boolean;
}

class Keys {
	private wish = $state.raw<Wish>(read());

	/** Whether letters and signs act without Ctrl or Alt. */
	get single(): boolean {
		return this.wish.single;
	}
	set single(single: boolean) {
		this.put({ ...this.wish, single });
	}
	get isChanged(): boolean {
		return Object.keys(this.wish.changed).length > 0;
	}

	/** The key of a command just now; undefined where it has none, or where it is switched off. */
	of(command: Keyed): string | undefined {
		const key = this.given(command);
		return key && (this.wish.single || !isSingle(key)) ? key : undefined;
	}
	/** The key that it has, switched off or not. */
	given({ id, key }: Keyed): string | undefined {
		return this.wish.changed[id] ?? key;
	}

	/**
	 * Gives a command another key, or none; a key that it comes with is no change.
	 * @returns the one of `all` that had this key and has none now.
	 */
	change<C extends Keyed>(command: C, key: string, all: readonly C[]): C | undefined {
		const had = key ? all.find((other) => other.id !== command.id && this.given(other) === key) : undefined;
		const changed: Record<string, string> = { ...this.wish.changed, [command.id]: key };
		if (had) changed[had.id] = '';
		for (const { id, key: own } of [command, ...(had ? [had] : [])])
			if (changed[id] === (own ?? '')) delete changed[id];
		this.put({ ...this.wish, changed });
		return had;
	}
	/** All as they come. */
	reset(): void {
		this.put({ ...this.wish, changed: {} });
	}

	private put(wish: Wish): void {
		this.wish = wish;
		localStorage.setItem(KEY, JSON.stringify(wish));
	}
}

function read(): Wish {
	try {
		const { changed = {}, single = true } = JSON.parse(
			globalThis.localStorage?.getItem(KEY) ?? '{}'
		) as Partial<Wish>;
		return { changed, single };
	} catch {
		return { changed: {}, single: true };
	}
}

/** Whether a key is a letter or a sign alone, or with Shift: what speech and a leaning hand may type unmeant. */
export function isSingle(key: string): boolean {
	const parts = partsOf(key);
	return parts[parts.length - 1].length === 1 && !parts.some((p) => p === '$mod' || p === 'Alt');
}

const partsOf = (key: string): string[] =>
	key.endsWith('+') ? [...key.slice(0, -1).split('+').filter(Boolean), '+'] : key.split('+');

/** What was pressed, as the key handler writes it; undefined where only a modifier was. */
export function pressedKey(event: KeyboardEvent): string | undefined {
	if (['Shift', 'Control', 'Alt', 'Meta', 'AltGraph', 'Dead'].includes(event.key)) return undefined;
	const held = { $mod: event.ctrlKey || event.metaKey, Alt: event.altKey, Shift: event.shiftKey };
	const key = event.key.length === 1 ? event.key.toLowerCase() : event.key;
	return [...MODIFIERS.filter((m) => held[m]), key].join('+');
}

/** A key as a person reads it. */
export function keyName(key: string): string {
	return partsOf(key)
		.map((k) => (k === '$mod' ? 'Ctrl' : k.length === 1 ? k.toUpperCase() : k))
		.join(' + ');
}

export const keys = new Keys();
