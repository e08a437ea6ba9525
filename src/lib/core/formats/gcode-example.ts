/** A few lines of what a machine would get with its own words, and what is wrong with them. */
import type { Machine } from '../document/job';
import { MovesBuilder } from '../toolpath/moves';
import type { LineFault } from './gcode-read';
import { readGcode } from './gcode-read';
import { writeGcode } from './gcode-write';

/** A small square with a round corner, as that machine would get it. */
export function gcodeExample(machine: Machine): {
	readonly text: string;
	readonly faults: readonly LineFault[];
} {
	const isCutter = machine.kind === 'router';
	const [above, below] = isCutter ? [5, -1] : [0, 0];
	const moves = new MovesBuilder([0, 0, above]);
	moves.works = isCutter ? 1 : 0;
	moves.rapid(10, 10, above);
	moves.works = 1;
	moves.cut = 0;
	moves
		.straight(10, 10, below, 200)
		.straight(40, 10, below, 900)
		.arc(Math.tan(Math.PI / 8), 50, 20, below, 900);
	moves.straight(10, 10, below, 900);
	if (isCutter) moves.rapid(10, 10, above);
	const text = writeGcode(
		[
			{
				moves: moves.moves(),
				tool: isCutter ? { kind: 'cutter', diameter: 3 } : { kind: 'beam', kerf: 0.1 },
				speed: isCutter ? 16000 : 800,
				names: ['owl']
			}
		],
		{ name: 'example', arcs: machine.arcs, words: machine.words }
	);
	return { text, faults: readGcode(text).faults };
}
