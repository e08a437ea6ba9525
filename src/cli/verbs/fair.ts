import { fairPath } from '../../lib/core/fairing/fair';
import { writeSvg } from '../../lib/core/formats/svg-write';
import { UsageError } from '../options';
import { allPieces, countFacts, readDrawing, roundMs, writeOut, type Verb } from '../verb';

export const fair: Verb = {
	usage: 'fair F.svg --drift MM [--strength N] --out G.svg',
	meaning: 'Smooths a jagged line within a band on both sides of it; corners that are meant stay.',
	options: { drift: 'text', strength: 'text', out: 'text', 'corner-angle': 'text' },
	help: [
		'--drift MM         how far the line may move, both ways',
		'--strength N       1 as its scatter asks for; more is smoother',
		'--corner-angle DEG the least turn that counts as a corner (30)'
	],
	async run(words) {
		const out = words.text('out');
		const drift = words.number('drift');
		if (words.files.length !== 1 || !out || drift === undefined)
			throw new UsageError('fair F.svg --drift MM --out G.svg');
		if (!(drift > 0)) throw new UsageError('--drift must be above 0.');
		const strength = words.number('strength') ?? 1;
		if (!(strength > 0)) throw new UsageError('--strength must be above 0.');
		const imported = await readDrawing(words.files[0]);
		const start = performance.now();
		let most = 0;
		const pieces = allPieces(imported).map((piece) => ({
			...piece,
			paths: piece.paths.map((path) => {
				const faired = fairPath(path, {
					drift,
					strength,
					cornerAngle: words.number('corner-angle') ?? undefined
				});
				most = Math.max(most, faired.drift);
				return faired.path;
			})
		}));
		const ms = performance.now() - start;
		await writeOut(out, writeSvg(pieces, imported.frame, imported.points));
		const facts = {
			out,
			...countFacts(pieces),
			drift: most,
			ms: { total: roundMs(ms) },
			warnings: imported.warnings
		};
		return { facts, text: `${out}: ${facts.anchors} anchors, drift ${most.toFixed(4)} mm` };
	}
};
