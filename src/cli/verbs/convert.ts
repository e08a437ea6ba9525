import { writeDxf } from '../../lib/core/formats/dxf';
import { writeSvg } from '../../lib/core/formats/svg';
import { UsageError } from '../options';
import { allPieces, countFacts, readDrawing, roundMs, writeOut, type Verb } from '../verb';

export const convert: Verb = {
	usage: 'convert F.svg or F.dxf --out G.svg or G.dxf',
	meaning: 'Turns one drawing format into another, by the endings.',
	options: { out: 'text', curves: 'text', tolerance: 'text' },
	help: [
		'--curves exact|polylines  DXF: arcs and curves as such, or straight polylines (exact)',
		'--tolerance MM            for polylines (0.01)'
	],
	async run(words) {
		const out = words.text('out');
		if (words.files.length !== 1 || !out) throw new UsageError('convert F.svg or F.dxf --out G.svg or G.dxf');
		const format = /\.(svg|dxf)$/i.exec(out)?.[1].toLowerCase();
		if (!format) throw new UsageError('--out must end in .svg or .dxf.');
		const curves = words.oneOf('curves', ['exact', 'polylines'] as const, 'exact');
		const tolerance = words.number('tolerance');
		if (tolerance !== undefined && !(tolerance > 0)) throw new UsageError('--tolerance must be above 0.');
		const imported = await readDrawing(words.files[0]);
		const start = performance.now();
		const pieces = allPieces(imported);
		const text =
			format === 'svg'
				? writeSvg(pieces, imported.frame, imported.points)
				: writeDxf(
						pieces.flatMap((piece) => piece.paths.map((path) => ({ path, layer: piece.layer ?? '0' }))),
						{ curves, tolerance, points: imported.points }
					);
		const ms = performance.now() - start;
		await writeOut(out, text);
		const facts = { out, ...countFacts(pieces), ms: { total: roundMs(ms) }, warnings: imported.warnings };
		return { facts, text: `${out}: ${facts.outlines} outlines` };
	}
};
