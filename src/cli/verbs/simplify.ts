import { simplifyPath } from '../../lib/core/fairing/simplify';
import { writeSvg } from '../../lib/core/formats/svg-write';
import { UsageError } from '../options';
import { allPieces, countFacts, readDrawing, roundMs, writeOut, type Verb } from '../verb';

export const simplify: Verb = {
	usage: 'simplify F.svg --tolerance MM --out G.svg',
	meaning: 'Fewest anchors; the line moves nowhere farther than the tolerance.',
	options: { tolerance: 'text', out: 'text', 'corner-angle': 'text' },
	help: [
		'--tolerance MM     largest two-way distance from the line as it was',
		'--corner-angle DEG the least turn that counts as a corner (30)'
	],
	async run(words) {
		const out = words.text('out');
		const tolerance = words.number('tolerance');
		if (words.files.length !== 1 || !out || tolerance === undefined)
			throw new UsageError('simplify F.svg --tolerance MM --out G.svg');
		if (!(tolerance > 0)) throw new UsageError('--tolerance must be above 0.');
		const imported = await readDrawing(words.files[0]);
		const start = performance.now();
		let drift = 0;
		const pieces = allPieces(imported).map((piece) => ({
			...piece,
			paths: piece.paths.map((path) => {
				const simple = simplifyPath(path, tolerance, words.number('corner-angle') ?? undefined);
				drift = Math.max(drift, simple.drift);
				return simple.path;
			})
		}));
		const ms = performance.now() - start;
		await writeOut(out, writeSvg(pieces, imported.frame, imported.points));
		const facts = {
			out,
			...countFacts(pieces),
			drift,
			ms: { total: roundMs(ms) },
			warnings: imported.warnings
		};
		return { facts, text: `${out}: ${facts.anchors} anchors, drift ${drift.toFixed(4)} mm` };
	}
};
