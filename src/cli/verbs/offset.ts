import { CoreError } from '../../lib/core/errors';
import { offsetPieces } from '../../lib/core/geometry/offset';
import { groupPieces } from '../../lib/core/geometry/pieces';
import { boundingPaths } from '../../lib/core/formats/solids';
import { writeSvg, type SvgPiece } from '../../lib/core/formats/svg';
import { UsageError } from '../options';
import { countFacts, readDrawing, roundMs, writeOut, type Verb } from '../verb';

export const offset: Verb = {
	usage: 'offset F.svg --distance MM --out G.svg',
	meaning: 'Moves closed outlines sideways: positive grows pieces, negative shrinks them.',
	options: { distance: 'text', out: 'text', join: 'text', 'miter-limit': 'text', tolerance: 'text' },
	help: [
		'--distance MM           how far; negative goes inside',
		'--join round|miter|bevel  what corners become (round)',
		'--miter-limit N         how far a mitred corner may reach, in distances (4)',
		'--tolerance MM          largest distance from the true offset (0.005)'
	],
	async run(words) {
		const out = words.text('out');
		const distance = words.number('distance');
		if (words.files.length !== 1 || !out || distance === undefined)
			throw new UsageError('offset F.svg --distance MM --out G.svg');
		const join = words.oneOf('join', ['round', 'miter', 'bevel'] as const, 'round');
		const tolerance = words.number('tolerance');
		if (tolerance !== undefined && !(tolerance > 0)) throw new UsageError('--tolerance must be above 0.');
		const miterLimit = words.number('miter-limit');
		const imported = await readDrawing(words.files[0]);
		const pieces: SvgPiece[] = [];
		const warnings = [...imported.warnings];
		let error = 0;
		let fallback = false;
		let ms = 0;
		let problem: { code: string; sentence: string } | undefined;
		let open = 0;
		for (const shape of imported.shapes) {
			open += shape.paths.filter((path) => !path.closed).length;
			const paths = boundingPaths(shape);
			if (paths.length === 0) continue;
			const start = performance.now();
			const result = offsetPieces(paths, { distance, join, miterLimit, tolerance });
			ms += performance.now() - start;
			if (!result.ok) {
				problem ??= result.problem;
				continue;
			}
			error = Math.max(error, result.value.error);
			fallback ||= result.value.fallback;
			for (const group of groupPieces(result.value.paths)) {
				pieces.push({ paths: group.map((i) => result.value.paths[i]), name: shape.name, fill: shape.fill });
			}
		}
		if (open)
			warnings.push(
				`${open} open ${open > 1 ? 'outlines were' : 'outline was'} left out: only closed ones are offset.`
			);
		if (pieces.length === 0) {
			if (problem) throw new CoreError(problem.code, problem.sentence);
			throw new CoreError('nothing-given', 'There is no closed outline in this file.');
		}
		if (problem) warnings.push(problem.sentence);
		await writeOut(out, writeSvg(pieces, imported.frame));
		const facts = { out, ...countFacts(pieces), error, fallback, ms: { total: roundMs(ms) }, warnings };
		return {
			facts,
			text: `${out}: ${facts.outlines} outlines, ${facts.anchors} anchors, error ${error.toFixed(4)} mm`
		};
	}
};
