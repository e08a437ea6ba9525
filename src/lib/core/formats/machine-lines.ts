/** Files for machines opened as drawings: where the tool works becomes outlines, closed where it comes back; each once, however often it is gone. */
import { strFromU8 } from 'fflate';
import { done, failed, type Result } from '../errors';
import { drawnMoves } from '../toolpath/drawn';
import { isWithinReach } from './budget';
import { readGcode, type ReadMoves } from './gcode-read';
import { readHpgl } from './hpgl-read';
import { leftOutWords, type Imported, type Readable } from './imported';

/** Faults that are told one by one; of more only their number. */
const MOST_TOLD = 5;

/** The lines of a read file. @returns them, or `no-lines` where it draws none. */
export function linesOf({ moves, faults }: ReadMoves, word: string): Result<Imported> {
	const drawn = drawnMoves(moves).cuts;
	const cuts = drawn.filter(isWithinReach);
	if (cuts.length === 0)
		return failed(
			'no-lines',
			`This ${word} draws no line${faults[0] ? `: line ${faults[0].line}: ${faults[0].why}` : '.'}`
		);
	const told = faults.slice(0, MOST_TOLD).map(({ line, why }) => `Line ${line}: ${why}`);
	const beyond = drawn.length - cuts.length;
	if (beyond > 0)
		told.push(...leftOutWords(new Map([['a line with places beyond every sheet was left out', beyond]])));
	if (faults.length > MOST_TOLD) told.push(`${faults.length - MOST_TOLD} more lines were not understood.`);
	return done({
		shapes: cuts.map((path) => ({ paths: [path], fillRule: 'evenodd' as const })),
		points: [],
		warnings: told
	});
}

const latin = (bytes: Uint8Array) => strFromU8(bytes, true);

export const gcode: Readable = {
	id: 'gcode',
	word: 'G-code',
	ending: '.nc',
	endings: ['.gcode', '.ngc', '.tap'],
	begins: () => false,
	*read(bytes) {
		yield 0;
		return linesOf(readGcode(latin(bytes)), 'G-code');
	}
};

export const hpgl: Readable = {
	id: 'hpgl',
	word: 'HP-GL',
	ending: '.hpgl',
	endings: ['.plt'],
	begins: (head) => /^\s*IN;/.test(latin(head)),
	*read(bytes) {
		yield 0;
		return linesOf(readHpgl(latin(bytes)), 'HP-GL');
	}
};
