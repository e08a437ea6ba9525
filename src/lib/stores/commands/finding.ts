/** The finder: what was typed, whole words before parts of words, the maker's word before its likes, typos forgiven. */
import MiniSearch from 'minisearch';
import { commandOf, COMMANDS } from './commands';
import type { Command } from './command';

const likesOf = (command: Command): readonly string[] => command.also.split(',').map((like) => like.trim());
const wordsOf = (text: string): readonly string[] =>
	text
		.toLowerCase()
		.split(/[^\p{L}\p{N}-]+/u)
		.filter(Boolean);

/** Letters of a word of which one may be wrong: one in four, from four letters on. */
const FORGIVEN = 0.25;
const LEAST_FORGIVEN = 4;

const index = new MiniSearch<Command>({
	fields: ['word', 'also', 'line'],
	tokenize: (text) => [...wordsOf(text)],
	searchOptions: {
		boost: { word: 4, also: 2, line: 0.5 },
		prefix: true,
		fuzzy: (term) => (term.length >= LEAST_FORGIVEN ? FORGIVEN : false),
		combineWith: 'AND'
	}
});
index.addAll([...COMMANDS]);

/** How well a command answers: the lower the better. */
function rankOf(command: Command, text: string, words: readonly string[]): number {
	const word = command.word.toLowerCase();
	if (word === text) return 0;
	const likes = likesOf(command);
	const like = likes.indexOf(text);
	// The likes stand in the order of how near they are.
	if (like >= 0) return 1 + like / 1000;
	const own = new Set([...wordsOf(command.word), ...likes.flatMap(wordsOf)]);
	if (words.every((w) => own.has(w))) return 2 + (word.split(' ').includes(text) ? 0 : 0.1);
	if (word.startsWith(text)) return 3;
	if (likes.some((l) => l.startsWith(text))) return 4;
	if (words.every((w) => [...own].some((o) => o.startsWith(w)))) return 5;
	return 6;
}

/** The word of some command that is nearest to one with a typo; undefined where it is one, or nothing is near. */
function nearestWord(word: string): string | undefined {
	if (index.search(word, { fuzzy: false }).length) return undefined;
	return index.search(word)[0]?.terms[0];
}

/** Commands that fit what was typed, the best first; nothing for nothing. */
export function findCommands(typed: string): readonly Command[] {
	const text = typed.toLowerCase().trim().replace(/\s+/g, ' ');
	const words = wordsOf(text);
	if (words.length === 0) return [];
	const exact = index.search(text, { fuzzy: false });
	if (exact.length === 0) {
		// Words that none has are taken for those that are nearest to them.
		const meant = words.map((word) => nearestWord(word) ?? word).join(' ');
		if (meant !== text) return findCommands(meant);
	}
	// Where no command has all the words, those that have most of them.
	const found = exact.length ? exact : index.search(text, { combineWith: 'OR' });
	return found
		.map(({ id, score }) => {
			const command = commandOf(id as string);
			return { command, rank: rankOf(command, text, words), score };
		})
		.sort((a, b) => a.rank - b.rank || b.score - a.score)
		.map(({ command }) => command);
}

/** What comes nearest to a command that is not here. */
export const nearestOf = (command: Command): readonly Command[] => (command.nearest ?? []).map(commandOf);
