import { availableParallelism } from 'node:os';
import { Worker } from 'node:worker_threads';
import {
	isBetter,
	type Arranged,
	type ArrangePiece,
	type ArrangeSheet
} from '../../lib/core/arrange/arrange';
import { CoreError } from '../../lib/core/errors';
import { closedPieces, type Piece } from '../../lib/core/formats/solids';
import { writeSvg } from '../../lib/core/formats/svg-write';
import { compose, transformPath, type Affine } from '../../lib/core/geometry/path';
import type { SearchOrder } from '../arrange-worker';
import { readSize, UsageError } from '../options';
import { readDrawing, roundMs, writeOut, type Verb } from '../verb';

const TURNS = { none: [0], '180': [0, 180], '90': [0, 90, 180, 270], free: 'free' } as const;
const MOST_SHEETS = 100;
const MOST_COPIES = 10_000;
const MOST_THREADS = 16;

export const arrange: Verb = {
	usage: 'arrange F.svg --sheet WxH --gap MM --out G.svg',
	meaning:
		'Lays every piece with its holes on a sheet, turned as allowed, with as little length of it as can be found.',
	options: {
		out: 'text',
		sheet: 'text',
		gap: 'text',
		margin: 'text',
		turn: 'text',
		copies: 'text',
		seconds: 'text',
		sheets: 'text',
		'in-holes': 'flag',
		seed: 'text'
	},
	help: [
		'--sheet WxH               the sheet, mm; it is filled from y = 0 of the file',
		'--gap MM --margin MM      between pieces, and to the edge (0)',
		'--turn none|180|90|free   how pieces may be turned (none)',
		'--copies N                so many of each (1)',
		'--seconds S               how long it looks for a better way (20)',
		'--sheets N                on up to so many sheets, files numbered (1)',
		'--in-holes                small pieces may lie in holes of large ones'
	],
	async run(words) {
		const out = words.text('out');
		const size = readSize(words, 'sheet');
		const gap = words.number('gap');
		if (words.files.length !== 1 || !out || !size || gap === undefined)
			throw new UsageError('arrange F.svg --sheet WxH --gap MM --out G.svg');
		const margin = words.number('margin') ?? 0;
		const whole = (name: string, usual: number, most: number) => {
			const value = words.number(name) ?? usual;
			if (!(Number.isInteger(value) && value >= 1 && value <= most))
				throw new UsageError(`--${name} is a whole number from 1 to ${most}.`);
			return value;
		};
		const seconds = words.number('seconds') ?? 20;
		const [copies, count] = [whole('copies', 1, MOST_COPIES), whole('sheets', 1, MOST_SHEETS)];
		const seed = whole('seed', 1, 1e9);
		const [width, length] = size;
		if (!(gap >= 0 && margin >= 0 && 2 * margin < Math.min(width, length)))
			throw new CoreError(
				'bad-setting',
				'The gap and the margin must be 0 mm or more, and the margin must leave something of the sheet.'
			);
		if (!(seconds > 0 && seconds <= 86_400))
			throw new CoreError('bad-setting', 'The time must be above 0 seconds and at most a day.');
		const turns = TURNS[words.oneOf('turn', ['none', '180', '90', 'free'] as const, 'none')];
		const imported = await readDrawing(words.files[0]);
		const once = closedPieces(imported);
		if (once.length === 0) throw new CoreError('nothing-given', 'There is no closed piece in this file.');
		const named = once.flatMap((piece, i) =>
			Array.from({ length: copies }, (_, k) => ({ piece, name: nameOf(piece, i) + (k ? ` ${k + 1}` : '') }))
		);
		const pieces: ArrangePiece[] = named.map(({ piece }) => ({
			paths: piece.paths.map((path) => transformPath(path, FLIP)),
			turns
		}));
		const sheets: ArrangeSheet[] = Array.from({ length: count }, () => ({ width, length, margin }));
		const begin = performance.now();
		const found = await search({ pieces, sheets, gap, inHoles: words.flag('in-holes'), seed, seconds });
		const ms = performance.now() - begin;
		const outs: string[] = [];
		for (let k = 0; k < sheets.length; k++) {
			const on = found.places.filter(({ sheet }) => sheet === k);
			if (on.length === 0) continue;
			const file = count === 1 ? out : out.replace(/(\.[^.]*)?$/, `-${k + 1}$1`);
			outs.push(file);
			const laid = on.map(({ piece, map }): Piece => {
				const { piece: own, name } = named[piece];
				const whole = compose(FLIP, compose(map, FLIP));
				return { ...own, name, paths: own.paths.map((path) => transformPath(path, whole)) };
			});
			await writeOut(file, writeSvg(laid, { x: 0, y: 0, w: width, h: length }));
		}
		const unplaced = found.left.map((i) => named[i].name);
		const facts = {
			out: outs.length === 1 ? outs[0] : outs,
			pieces: found.places.length,
			usage: found.usage,
			used: [width, Math.max(...found.used)],
			sheets: outs.length,
			unplaced,
			ms: { total: roundMs(ms) },
			warnings: imported.warnings
		};
		if (unplaced.length)
			process.stderr.write(
				`${unplaced.length === 1 ? 'One piece fits' : `${unplaced.length} pieces fit`} on no sheet: ${unplaced.slice(0, 10).join(', ')}${unplaced.length > 10 ? ' …' : ''}.\n`
			);
		return {
			facts,
			text: `${outs.join(', ')}: ${found.places.length} pieces, ${(100 * found.usage).toFixed(1)} % of ${Math.max(...found.used).toFixed(1)} mm`,
			exit: unplaced.length ? 1 : 0
		};
	}
};

/** y down, as the file has it: a sheet is filled from there. */
const FLIP: Affine = [1, 0, 0, -1, 0, 0];
const nameOf = (piece: Piece, i: number) => piece.name ?? `piece ${i + 1}`;

/** The best of as many searches as there are cores. */
async function search(order: SearchOrder): Promise<Arranged> {
	const threads = Math.max(1, Math.min(MOST_THREADS, availableParallelism()));
	const one = (seed: number) =>
		new Promise<Arranged>((resolve, reject) => {
			const worker = new Worker(new URL('./arrange-worker.mjs', import.meta.url), {
				workerData: { ...order, seed } satisfies SearchOrder
			});
			worker.once('message', resolve).once('error', reject);
		});
	const found = await Promise.all(Array.from({ length: threads }, (_, k) => one(order.seed + k)));
	return found.reduce((a, b) => (isBetter(b, a) ? b : a));
}
