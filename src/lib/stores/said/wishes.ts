/** What a person wishes of this browser, kept beside the drawings and taken along with all of them. */

/** Where each lies. */
const NAMES = ['light', 'keys', 'said-as', 'screen-px-per-mm', 'snaps', 'touch-grip'] as const;
export type WishName = (typeof NAMES)[number];

/** All that was wished here, by its name. */
export function wishesHere(): Readonly<Partial<Record<WishName, string>>> {
	const here: Partial<Record<WishName, string>> = {};
	for (const name of NAMES) {
		const value = localStorage.getItem(name);
		// How large a screen is belongs to the screen, not to the person.
		if (value !== null && name !== 'screen-px-per-mm') here[name] = value;
	}
	return here;
}

/** Takes wishes over that nobody has said anything about here; names that are not known are left. */
export function takeWishes(wishes: unknown): void {
	if (typeof wishes !== 'object' || wishes === null) return;
	for (const [name, value] of Object.entries(wishes))
		if (
			(NAMES as readonly string[]).includes(name) &&
			typeof value === 'string' &&
			localStorage.getItem(name) === null
		)
			localStorage.setItem(name, value);
}

/** A wish of yes or no. */
export const isWished = (name: WishName, otherwise: boolean): boolean =>
	(globalThis.localStorage?.getItem(name) ?? (otherwise ? 'yes' : 'no')) === 'yes';
export const wish = (name: WishName, value: boolean): void =>
	localStorage.setItem(name, value ? 'yes' : 'no');
