import { CoreError, type Problem } from '../../lib/core/errors';
import { lineToOutline as outlineOf } from '../../lib/core/plane/offset-line';
import { groupPieces } from '../../lib/core/plane/pieces';
import { writeSvg, type SvgPiece } from '../../lib/core/formats/svg-write';
import { UsageError } from '../options';
import { countFacts, readDrawing, Stopwatch, writeOut, type Verb } from '../verb';

export const lineToOutline: Verb = {
	usage: 'line-to-outline F.svg --width MM --out G.svg',
	meaning: 'Lines of a width become their own outlines: open ones with ends, closed ones as rings.',
	options: { width: 'text', out: 'text', join: 'text', ends: 'text', tolerance: 'text' },
	help: [
		'--width MM                the whole width of the line',
		'--join round|miter|bevel  what corners become (round)',
		'--ends butt|square|round  what ends become (butt)',
		'--tolerance MM            largest distance from the true outline (0.005)'
	],
	async run(words) {
		const out = words.text('out');
		const width = words.number('width');
		if (words.files.length !== 1 || !out || width === undefined)
			throw new UsageError('line-to-outline F.svg --width MM --out G.svg');
		if (!(width > 0)) throw new UsageError('--width must be above 0.');
		const join = words.oneOf('join', ['round', 'miter', 'bevel'] as const, 'round');
		const ends = words.oneOf('ends', ['butt', 'square', 'round'] as const, 'butt');
		const tolerance = words.number('tolerance');
		if (tolerance !== undefined && !(tolerance > 0)) throw new UsageError('--tolerance must be above 0.');
		const imported = await readDrawing(words.files[0]);
		const watch = new Stopwatch();
		const pieces: SvgPiece[] = [];
		let problem: Problem | undefined;
		let error = 0;
		for (const shape of imported.shapes) {
			for (const path of shape.paths) {
				if (path.types.length === 0) continue;
				const result = outlineOf(path, width, join, ends, tolerance);
				if (!result.ok) {
					problem ??= result.problem;
					continue;
				}
				error = Math.max(error, result.value.error);
				for (const group of groupPieces(result.value.paths)) {
					const fill = shape.stroke ?? shape.fill;
					pieces.push({ paths: group.map((i) => result.value.paths[i]), name: shape.name, fill });
				}
			}
		}
		watch.stop();
		if (pieces.length === 0) {
			throw new CoreError(
				problem?.code ?? 'nothing-given',
				problem?.sentence ?? 'There is no line in this file.'
			);
		}
		await writeOut(out, writeSvg(pieces, imported.frame));
		const warnings = [...imported.warnings, ...(problem ? [problem.sentence] : [])];
		const facts = { out, ...countFacts(pieces), error, ms: { total: watch.ms }, warnings };
		return { facts, text: `${out}: ${facts.outlines} outlines, ${facts.anchors} anchors` };
	}
};
