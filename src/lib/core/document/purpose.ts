/** What is done with a line: said by its layer, or by the line itself. */
export type Purpose = 'cut' | 'score' | 'engrave' | 'guide';
export const PURPOSES: readonly Purpose[] = ['cut', 'score', 'engrave', 'guide'];
