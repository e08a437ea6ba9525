/** What comes after the first load: the reckoning of curves given otherwise, of lines in between, of holds. */
let coming: Promise<unknown> | undefined;

/** Asks for it: once, and again where it did not come. */
export const loadReckonings = (): Promise<unknown> =>
	(coming ??= import('../core/document/recipes/reckonings').catch((error: unknown) => {
		coming = undefined;
		throw error;
	}));
