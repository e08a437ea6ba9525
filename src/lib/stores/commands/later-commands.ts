/** What is asked for and is not here: said plainly, with what is nearest. */
import type { Command } from './command';

/** @param nearest ids of commands that come nearest to it. */
const not = (id: string, word: string, why: string, also: string, nearest: readonly string[]): Command => ({
	id: `not-${id}`,
	word,
	line: why,
	also,
	nearest,
	why: () => why,
	run: () => undefined
});

export const LATER_COMMANDS: readonly Command[] = [
	not(
		'letters',
		'Letters',
		'Letters are not written here. Open an SVG that has them as outlines.',
		'text, letters, font, type, write words, lettering',
		['bring-in']
	),
	not(
		'depth',
		'Depth',
		'Outlines are flat: how deep it is cut belongs to the machine.',
		'3d, depth, extrude, thickness of material, solid, height',
		['machine', 'station-cut']
	)
];
