/** Commands for looking closely: the comb, the line against others, ghosts, the worst place. */
import { broughtBack, dropGhosts, keepGhosts } from '../../core/document/edits/operations';

import { newId } from '../ids';
import { needsEntered, needsOutlines, type Command } from './command';
import type { Compared } from '../looking.svelte';

const COMPARED_WORDS: Record<Compared, string> = {
	nothing: 'Nothing is compared.',
	first: 'Compared with the line as it first was.',
	ghost: 'Compared with its ghost.',
	picture: "Compared with the picture's edge."
};

export const LOOK_COMMANDS: readonly Command[] = [
	{
		id: 'comb',
		word: 'Comb',
		line: 'Teeth beside the line, as long as it bends; steps, inflections and the tightest place marked.',
		also: 'comb, curvature, tight, inflection, wobble, radius',
		key: 'Shift+v',
		station: 'mend',
		drawing: 'comb',
		why: needsOutlines,
		run: (b) => void (b.looking.combed = !b.looking.combed)
	},
	{
		id: 'look',
		word: 'Looking glass',
		line: 'Curvature along the length, the tool, the line against the picture or as it was; and puts it all away.',
		also: 'looking glass, tight, radius check, inspect, look closely, curvature, comb, chart, compare, magnify, deviation, picture, tool, radius, polygon',
		key: 'Shift+g',
		station: 'mend',
		drawing: 'look',
		why: needsOutlines,
		run: (b) => b.looking.toggle()
	},
	{
		id: 'polygon',
		word: 'Control polygon',
		line: 'All handles as one polygon: pulling a bead bends the line and leaves it smooth. Once more puts it away.',
		also: 'control points, control polygon, cage, b-spline, handles, spline, pull, beads',
		key: 'Shift+a',
		why: needsEntered,
		run: (b) => void (b.looking.polygon = !b.looking.polygon)
	},
	{
		id: 'compare',
		word: 'Compare',
		line: 'The line against itself as it first was, its ghost, the picture, nothing: one after the other.',
		also: 'compare, difference to picture, deviation, before and after, ghost, difference, picture, before, first',
		key: 'Shift+q',
		why: needsOutlines,
		run: (b) => {
			b.looking.compareNext();
			b.tell(COMPARED_WORDS[b.looking.compared]);
		}
	},
	{
		id: 'ghost',
		word: 'Keep a ghost',
		line: 'The line as it is now stays to be seen behind later ones; it is never cut.',
		also: 'ghost, before, keep before, earlier state, compare, copy, keep, earlier, state, reference, backup',
		why: needsOutlines,
		run: (b) => {
			const outlines = b.targets();
			if (b.commit('Keep a ghost', keepGhosts(b.drawing, outlines, newId))) {
				b.looking.ghosts = true;
				b.tell('The line as it is now is kept as a ghost. It is never cut; change the line and compare.');
			}
		}
	},
	{
		id: 'drop-ghosts',
		word: 'Let ghosts go',
		line: 'The ghosts of what is selected, or all, are taken away.',
		also: 'remove, ghost, before, clear',
		why: (b) => (b.outlines.some((o) => o.ghost) ? undefined : 'There is no ghost.'),
		run: (b) => b.commit('Let ghosts go', dropGhosts(b.drawing, b.targets()))
	},
	{
		id: 'show-ghosts',
		word: 'Ghosts',
		line: 'Shows or hides the kept ghosts.',
		also: 'ghost, hide, show, before',
		why: (b) =>
			b.outlines.some((o) => o.ghost) ? undefined : 'There is no ghost. "Keep a ghost" makes one.',
		run: (b) => void (b.looking.ghosts = !b.looking.ghosts)
	},
	...(['first', 'ghost'] as const).map((which): Command => ({
		id: `back-to-${which}`,
		word: which === 'first' ? 'As it first was' : 'Back to the ghost',
		line:
			which === 'first'
				? 'Brings the selected lines back as they were before they were first made simpler or fair.'
				: 'Brings the selected lines back as their ghosts are.',
		also: 'restore, original, points, revert, back, before',
		why: (b) =>
			b.targets().some((o) => o[which])
				? undefined
				: which === 'first'
					? 'These lines are as they first were.'
					: 'There is no ghost.',
		run: (b) =>
			b.commitTold(which === 'first' ? 'As it first was' : 'Back to the ghost', {
				put: b.targets().flatMap((o) => {
					const line = o[which];
					return line === undefined ? [] : [broughtBack(b.drawing, o, line)];
				})
			})
	})),
	{
		id: 'see-worst',
		word: 'See the worst',
		line: 'Goes to where the new line, or the compared one, lies farthest off.',
		also: 'worst, place, deviation, drift, zoom',
		key: 'Shift+x',
		why: (b) => (b.worst ? undefined : 'There is no worst place just now.'),
		run: (b) => b.seeWorst()
	}
];
