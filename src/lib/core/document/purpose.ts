/** What is done with a line: said by its layer, or by the line itself. */
export type Purpose = 'cut' | 'score' | 'engrave' | 'guide';
export const PURPOSES: readonly Purpose[] = ['cut', 'score', 'engrave', 'guide'];

/** A word of a file as a purpose; undefined where it is none. */
export const purposeIn = (word: string | undefined): Purpose | undefined =>
	PURPOSES.find((purpose) => purpose === word);
