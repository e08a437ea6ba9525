/** Ends of the lines that a recipe is made from. */
import type { InputLine } from './recipe-type';

/** One end of one of the inputs. It is the one at the anchor, also where the line is turned round meanwhile. */
export interface EndOf {
	/** Which of the inputs. */
	readonly line: number;
	readonly anchor: number;
	/** Which end it was; it is that one where the anchor is no end any more. */
	readonly at: 'start' | 'end';
}

/** Which end of its line it is now. */
export function endNow(inputs: readonly InputLine[], { line, anchor, at }: EndOf): 'start' | 'end' {
	const { roles } = inputs[line];
	if (roles[0] === String(anchor)) return 'start';
	return roles.at(-1) === String(anchor) ? 'end' : at;
}

/** Whether it can be one, read from outside. */
export function isEndOf(value: unknown): value is EndOf {
	const { line, anchor, at } = (value ?? {}) as Record<string, unknown>;
	return (line === 0 || line === 1) && Number.isInteger(anchor) && (at === 'start' || at === 'end');
}
