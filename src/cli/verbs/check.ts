import { findFaults } from '../../lib/core/check/readiness';
import { finish } from '../../lib/core/progress';
import { toolFaultSteps } from '../../lib/core/toolpath/tool-faults';
import { readSize, UsageError, type Words } from '../options';
import { frameAround, readDrawing, type Verb } from '../verb';

export const check: Verb = {
	usage: 'check F.svg [--tool-radius MM] [--kerf MM] [--sheet WxH]',
	meaning: 'Can it be cut? Lists what stops it, where, why, and what would mend it.',
	options: { 'tool-radius': 'text', kerf: 'text', sheet: 'text' },
	help: [
		'--tool-radius MM   corners, holes and gaps that are too tight for that tool',
		'--kerf MM          necks and gaps that are narrower than what a cut takes away',
		'--sheet WxH        what lies beyond the sheet; the frame’s lower left corner lies on its own',
		'--json             the list as JSON; exit 0 when nothing stops a cut, 1 otherwise'
	],
	async run(words) {
		if (words.files.length !== 1) throw new UsageError('check F.svg');
		const imported = await readDrawing(words.files[0]);
		const paths = imported.shapes.flatMap((shape) => shape.paths);
		const [toolRadius, kerf] = [positive(words, 'tool-radius'), positive(words, 'kerf')];
		const size = readSize(words, 'sheet');
		const frame = imported.frame ?? frameAround(paths);
		const sheet = size && { x: frame.x, y: -frame.y - frame.h, width: size[0], height: size[1] };
		const faults = [
			...findFaults(paths),
			...(toolRadius || kerf || sheet
				? finish(toolFaultSteps(paths, { toolRadius, kerf, ...(sheet ? { sheets: [sheet] } : {}) }))
				: [])
		];
		const problems = faults.map((f) => ({
			what: f.kind,
			where: [f.x, -f.y || 0],
			why: f.why,
			mend: f.mend,
			outline: f.outline
		}));
		const stops = faults.some((f) => f.stops);
		const text = problems.length
			? problems
					.map((p) => `${p.what} at ${p.where[0].toFixed(2)}, ${p.where[1].toFixed(2)}: ${p.why}`)
					.join('\n')
			: 'Nothing stops a cut.';
		return { facts: { problems, warnings: imported.warnings }, text, exit: stops ? 1 : 0 };
	}
};

function positive(words: Words, name: string): number | undefined {
	const value = words.number(name);
	if (value !== undefined && !(value > 0)) throw new UsageError(`--${name} must be above 0.`);
	return value;
}
