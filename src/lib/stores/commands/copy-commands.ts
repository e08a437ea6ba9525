/** Commands for copies: into the clipboard, out of it, beside the original. */
import { copyPicked, double, pasteLast, whyNothingToCopy } from '../copying';
import type { Command } from './command';

export const COPY_COMMANDS: readonly Command[] = [
	{
		id: 'copy',
		word: 'Copy',
		line: 'Into the clipboard: for this drawing, another one, or other programs as SVG.',
		also: 'clipboard, copy and paste, take along',
		key: '$mod+c',
		isBrowsers: true,
		why: whyNothingToCopy,
		run: (b) => void copyPicked(b)
	},
	{
		id: 'lift',
		word: 'Lift out',
		line: 'Into the clipboard, and out of the drawing; paste puts it down again.',
		also: 'cut and paste, cut out, clipboard, move to another drawing',
		key: '$mod+x',
		isBrowsers: true,
		why: whyNothingToCopy,
		run: (b) => void copyPicked(b, true)
	},
	{
		id: 'paste',
		word: 'Paste',
		line: 'Puts down what was copied, also an SVG as text or a picture from another program.',
		also: 'paste, cut and paste, copy and paste, clipboard, insert, put down',
		key: '$mod+v',
		isBrowsers: true,
		why: () => undefined,
		run: (b) => void pasteLast(b)
	},
	{
		id: 'double',
		word: 'Another one',
		line: 'A copy of what is selected, by the same step as the copy before it. Or drag with Y.',
		also: 'copy, duplicate, clone, another, double, repeat',
		key: 'Shift+y',
		station: 'build',
		group: 'many',
		drawing: 'double',
		why: whyNothingToCopy,
		run: (b) => void double(b)
	}
];
