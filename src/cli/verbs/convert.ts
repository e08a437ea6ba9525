import { FORMATS, formatToWrite } from '../../lib/core/formats/formats';
import { UsageError } from '../options';
import { allPieces, countFacts, readDrawing, roundMs, writeBytes, type Verb } from '../verb';

const ENDINGS = FORMATS.map((format) => `G${format.ending}`).join(' or ');
const USAGE = `convert F --out ${ENDINGS}`;

export const convert: Verb = {
	usage: USAGE,
	meaning: 'Turns one drawing format into another, by the endings.',
	options: { out: 'text', curves: 'text', tolerance: 'text' },
	help: [
		'--curves exact|polylines  DXF: arcs and curves as such, or straight polylines (exact)',
		'--tolerance MM            for polylines (0.01)'
	],
	async run(words) {
		const out = words.text('out');
		if (words.files.length !== 1 || !out) throw new UsageError(USAGE);
		const format = FORMATS.find((f) => out.toLowerCase().endsWith(f.ending));
		if (!format) throw new UsageError(`--out must be ${ENDINGS}.`);
		const curves = words.oneOf('curves', ['exact', 'polylines'] as const, 'exact');
		const tolerance = words.number('tolerance');
		if (tolerance !== undefined && !(tolerance > 0)) throw new UsageError('--tolerance must be above 0.');
		const imported = await readDrawing(words.files[0]);
		const start = performance.now();
		const pieces = allPieces(imported);
		const name = out.replace(/^.*[\\/]/, '').slice(0, -format.ending.length);
		const { frame, points } = imported;
		const bytes = formatToWrite(out).write({ name, pieces, points, frame }, { curves, tolerance });
		const ms = performance.now() - start;
		await writeBytes(out, bytes);
		const facts = { out, ...countFacts(pieces), ms: { total: roundMs(ms) }, warnings: imported.warnings };
		return { facts, text: `${out}: ${facts.outlines} outlines` };
	}
};
