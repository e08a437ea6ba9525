import { findFaults } from '../../lib/core/check/readiness';
import { UsageError } from '../options';
import { readDrawing, type Verb } from '../verb';

export const check: Verb = {
	usage: 'check F.svg',
	meaning: 'Can it be cut? Lists what stops it, where, why, and what would mend it.',
	options: {},
	help: ['--json             the list as JSON; exit 0 when nothing stops a cut, 1 otherwise'],
	async run(words) {
		if (words.files.length !== 1) throw new UsageError('check F.svg');
		const imported = await readDrawing(words.files[0]);
		const paths = imported.shapes.flatMap((shape) => shape.paths);
		const faults = findFaults(paths);
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
