/** Commands for holds and named sizes. */
import { HOLD_KINDS } from '../../core/document/holds/hold';
import { holdsHere } from '../holds-here';
import { needsEntered, type Command } from './command';
import { HOLD_WORDS } from './hold-words';

const holding = () => import('../holding');

export const HOLD_COMMANDS: readonly Command[] = [
	...HOLD_KINDS.map((kind): Command => {
		const { word, line, also } = HOLD_WORDS[kind];
		return {
			id: `hold-${kind.replace(' ', '-')}`,
			word,
			line,
			also,
			why: needsEntered,
			run: (b) => void holding().then(({ addHold }) => addHold(b, kind))
		};
	}),
	{
		id: 'hold-nearly',
		word: 'Hold nearly so',
		line: 'All that is nearly level, plumb or equally long in the entered outlines is held so; the drift is told.',
		also: 'hold, constrain, constraint, auto constrain, square up, tidy up',
		station: 'mend',
		drawing: 'hold',
		why: needsEntered,
		run: (b) => void holding().then(({ holdNearly }) => holdNearly(b))
	},
	{
		id: 'loosen',
		word: 'Loosen holds',
		line: 'Lets go of the holds about what is picked; about all of the entered outlines where nothing is.',
		also: 'remove constraint, unpin, unlock, let go of holds, free',
		why: (b) => needsEntered(b) ?? (holdsHere(b).length ? undefined : 'Nothing is held here.'),
		run: (b) =>
			void holding().then(({ loosen }) =>
				loosen(
					b,
					holdsHere(b).map(({ id }) => id)
				)
			)
	},
	{
		id: 'sizes',
		word: 'Sizes',
		line: 'Numbers with names: they stand in holds, and the drawing follows when they are changed.',
		also: 'named sizes, variables, parameters, measurements, body measures, dimension table',
		station: 'build',
		drawing: 'sizes',
		why: () => undefined,
		run: (b) => {
			b.sheet = 'sizes';
		}
	}
];
