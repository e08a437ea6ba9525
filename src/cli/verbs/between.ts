import { CoreError, unwrap } from '../../lib/core/errors';
import { between as linesBetween, type Easing } from '../../lib/core/fit/between';
import { writeSvg, type SvgPiece } from '../../lib/core/formats/svg-write';
import { pathArea } from '../../lib/core/geometry/measure';
import type { Path } from '../../lib/core/geometry/path';
import { TOLERANCE } from '../../lib/core/tolerance';
import { UsageError } from '../options';
import { allPieces, countFacts, frameAround, readDrawing, Stopwatch, writeOut, type Verb } from '../verb';

const USAGE = 'between A.svg B.svg --count N --out G.svg';
const MOST = 1000;

export const between: Verb = {
	usage: USAGE,
	meaning: 'Lines in between two others, starts and directions matched by shape.',
	options: { count: 'text', out: 'text', easing: 'text', shift: 'text', other: 'flag' },
	help: [
		'--count N                 how many lines lie in between',
		'--easing even|start|end|both  equal steps, or closer to A, to B, to both (even)',
		'--shift SHARE             the start of B moved along it from where the shapes match (0)',
		'--other                   B is gone the other way than the shapes say'
	],
	async run(words) {
		const out = words.text('out');
		const count = words.number('count');
		if (words.files.length !== 2 || !out || count === undefined) throw new UsageError(USAGE);
		if (!Number.isInteger(count) || count < 1 || count > MOST)
			throw new UsageError(`--count is a whole number from 1 to ${MOST}.`);
		const easing = words.oneOf('easing', ['even', 'start', 'end', 'both'] as const, 'even' satisfies Easing);
		const shift = words.number('shift');
		const [a, b] = await Promise.all(words.files.map(readDrawing));
		const watch = new Stopwatch();
		const [first, second] = [a, b].map((imported, i) => onlyLine(imported, words.files[i]));
		const lines = unwrap(
			linesBetween(first, second, {
				count,
				easing,
				...(shift ? { shift } : {}),
				...(words.flag('other') ? { flipped: true } : {}),
				tolerance: TOLERANCE.fit
			})
		);
		const made = lines.map((path, i): SvgPiece => ({ paths: [path], name: `In between ${i + 1}` }));
		watch.stop();
		const frame = a.frame ?? frameAround(lines);
		await writeOut(out, writeSvg(made, frame));
		const facts = {
			out,
			...countFacts(made),
			ms: { total: watch.ms },
			warnings: [...a.warnings, ...b.warnings]
		};
		return { facts, text: `${out}: ${facts.outlines} outlines, ${facts.anchors} anchors` };
	}
};

/** The one line of a file; of several the largest. @throws CoreError `nothing-given` */
function onlyLine(imported: Parameters<typeof allPieces>[0], name: string): Path {
	const paths = allPieces(imported).flatMap((piece) => piece.paths);
	if (paths.length === 0) throw new CoreError('nothing-given', `There is no line in "${name}".`);
	return paths.reduce((p, q) => (Math.abs(pathArea(q)) > Math.abs(pathArea(p)) ? q : p));
}
