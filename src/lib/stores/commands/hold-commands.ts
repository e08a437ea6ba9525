/** Commands for holds and named sizes. */
import { HOLD_KINDS } from '../../core/document/holds/hold';
import { holdsHere } from '../holds-here';
import { loadReckonings } from '../reckonings';
import { needsEntered, withPart, type Command } from './command';
import { HOLD_WORDS } from './hold-words';

/** With all that a hold is reckoned by. */
const holding = async () => {
	const [part] = await Promise.all([
		import('../holding'),
		import('../../core/document/holds/offers'),
		loadReckonings()
	]);
	return part;
};

export const HOLD_COMMANDS: readonly Command[] = [
	...HOLD_KINDS.map((kind): Command => {
		const { word, line, also } = HOLD_WORDS[kind];
		return {
			id: `hold-${kind.replace(' ', '-')}`,
			word,
			line,
			also,
			why: needsEntered,
			run: withPart(holding, (b, { addHold }) => addHold(b, kind))
		};
	}),
	{
		id: 'hold',
		word: 'Hold',
		line: 'The tag offers what can be held of what is picked: level, a length, an angle … Once more puts it away.',
		also: 'hold, constraint, constrain, dimension, fixed',
		station: 'mend',
		drawing: 'hold',
		why: needsEntered,
		run: (b) => {
			b.offersHolds = !b.offersHolds;
			if (b.offersHolds && b.selection.anchors.size + b.selection.segments.size === 0)
				b.tell('Pick a stretch, or anchors: the tag says what can be held of them.');
		}
	},
	{
		id: 'hold-nearly',
		word: 'Hold nearly so',
		line: 'All that is nearly level, plumb or equally long in the entered outlines is held so; the drift is told.',
		also: 'auto constrain, square up, tidy up',
		why: needsEntered,
		run: withPart(holding, (b, { holdNearly }) => holdNearly(b))
	},
	{
		id: 'loosen',
		word: 'Loosen holds',
		line: 'Lets go of the holds about what is picked; about all of the entered outlines where nothing is.',
		also: 'remove constraint, unpin, unlock, let go of holds, free',
		why: (b) => needsEntered(b) ?? (holdsHere(b).length ? undefined : 'Nothing is held here.'),
		run: withPart(holding, (b, { loosen }) =>
			loosen(
				b,
				holdsHere(b).map(({ id }) => id)
			)
		)
	},
	{
		id: 'sizes',
		word: 'Sizes',
		line: 'Numbers with names: they stand in holds, and the drawing follows when they are changed; grades of a size run, one drawn or all nested.',
		also: 'named sizes, variables, parameters, measurements, body measures, dimension table, size run, grading, grade rules, grades, S to XL, nested sizes',
		station: 'build',
		drawing: 'sizes',
		why: () => undefined,
		run: (b) => {
			b.sheet = 'sizes';
		}
	}
];
