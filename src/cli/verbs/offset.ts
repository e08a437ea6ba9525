import { CoreError, type Problem } from '../../lib/core/errors';
import { offsetSteps } from '../../lib/core/plane/offset-steps';
import type { Path } from '../../lib/core/geometry/path';
import { groupPieces } from '../../lib/core/plane/pieces';
import { boundingPaths } from '../../lib/core/formats/solids';
import type { Shape } from '../../lib/core/formats/imported';
import { writeSvg, type SvgPiece } from '../../lib/core/formats/svg-write';
import { UsageError, type Words } from '../options';
import { countFacts, readDrawing, roundMs, Stopwatch, writeOut, type Verb } from '../verb';

export const offset: Verb = {
	usage: 'offset F.svg --distance MM --out G.svg',
	meaning:
		'Moves outlines sideways: positive grows closed pieces, negative shrinks them; open lines get outlines or parallels.',
	options: {
		distance: 'text',
		out: 'text',
		join: 'text',
		'miter-limit': 'text',
		tolerance: 'text',
		ends: 'text',
		side: 'text',
		band: 'flag',
		steps: 'text'
	},
	help: [
		'--distance MM             how far; negative goes inside',
		'--join round|miter|bevel  what corners become (round)',
		'--miter-limit N           how far a mitred corner may reach, in distances (4)',
		'--tolerance MM            largest distance from the true offset (0.005)',
		'--steps N                 that many offsets, each by the distance more (1)',
		'--ends butt|square|round  the ends of the outline around an open line (round)',
		'--side left|right|both    open lines: a parallel to one side, or the outline around (both)',
		'--band                    with --side left or right: the closed band between line and parallel'
	],
	async run(words) {
		const out = words.text('out');
		const distance = words.number('distance');
		if (words.files.length !== 1 || !out || distance === undefined)
			throw new UsageError('offset F.svg --distance MM --out G.svg');
		const settings = readSettings(words);
		const steps = words.number('steps') ?? 1;
		if (!(Number.isInteger(steps) && steps >= 1 && steps <= 1000))
			throw new UsageError('--steps is a whole number from 1.');
		const imported = await readDrawing(words.files[0]);
		const run = new Run();
		for (const shape of imported.shapes) {
			run.offsetShape(shape, distance, { ...settings, steps });
		}
		if (run.pieces.length === 0) {
			if (run.problem) throw new CoreError(run.problem.code, run.problem.sentence);
			throw new CoreError('nothing-given', 'There is no outline in this file.');
		}
		await writeOut(out, writeSvg(run.pieces, imported.frame));
		const facts = {
			out,
			...countFacts(run.pieces),
			error: run.error,
			fallback: run.fallback,
			ms: { total: roundMs(run.ms) },
			warnings: [...imported.warnings, ...(run.problem ? [run.problem.sentence] : [])]
		};
		return {
			facts,
			text: `${out}: ${facts.outlines} outlines, ${facts.anchors} anchors, error ${run.error.toFixed(4)} mm`
		};
	}
};

function readSettings(words: Words) {
	const tolerance = words.number('tolerance');
	if (tolerance !== undefined && !(tolerance > 0)) throw new UsageError('--tolerance must be above 0.');
	return {
		join: words.oneOf('join', ['round', 'miter', 'bevel'] as const, 'round'),
		miterLimit: words.number('miter-limit'),
		tolerance,
		ends: words.oneOf('ends', ['butt', 'square', 'round'] as const, 'round'),
		side: words.oneOf('side', ['left', 'right', 'both'] as const, 'both'),
		band: words.flag('band')
	};
}

/** What has come of it so far. One outline that cannot be offset does not stop the others. */
class Run {
	readonly pieces: SvgPiece[] = [];
	problem: Problem | undefined;
	error = 0;
	fallback = false;
	ms = 0;

	offsetShape(
		shape: Shape,
		distance: number,
		settings: ReturnType<typeof readSettings> & { steps: number }
	): void {
		const lines = [...boundingPaths(shape), ...shape.paths.filter((p) => !p.closed && p.types.length > 0)];
		if (lines.length === 0) return;
		const watch = new Stopwatch();
		const result = offsetSteps(lines, {
			...settings,
			distance: Math.abs(distance),
			way: distance < 0 ? 'inside' : 'outside',
			watch
		});
		this.ms += watch.ms;
		if (!result.ok) {
			this.problem ??= result.problem;
			return;
		}
		this.problem ??= result.value.problem;
		this.fallback ||= result.value.fallback;
		this.keep(result.value, shape);
	}

	private keep(result: { paths: readonly Path[]; error: number }, shape: Shape): void {
		this.error = Math.max(this.error, result.error);
		const colours = { name: shape.name, fill: shape.fill };
		for (const group of groupPieces(result.paths)) {
			this.pieces.push({ paths: group.map((i) => result.paths[i]), ...colours });
		}
		for (const path of result.paths)
			if (!path.closed) this.pieces.push({ paths: [path], name: shape.name, stroke: shape.stroke });
	}
}
