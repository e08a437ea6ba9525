import { unwrap } from '../../lib/core/errors';
import { combine as combineAreas, cutLines } from '../../lib/core/plane/combine';
import { COMBINE_OPS, type CombineInput } from '../../lib/core/plane/area';
import type { Path } from '../../lib/core/geometry/path';
import type { Imported, Shape } from '../../lib/core/formats/imported';
import { writeSvg, type SvgPiece } from '../../lib/core/formats/svg-write';
import { UsageError } from '../options';
import { countFacts, readDrawing, Stopwatch, writeOut, type Verb } from '../verb';

const areaOf = (shape: Shape) => ({ paths: shape.paths, rule: shape.fillRule });
const openOf = (drawings: readonly Imported[]) =>
	drawings.flatMap((d) => d.shapes.flatMap((shape) => shape.paths.filter((path) => !path.closed)));

export const combine: Verb = {
	usage: 'combine A.svg [B.svg] --op OP --out C.svg',
	meaning: 'Combines outlines: of two files A with B, of one file all its paths. Curves stay curves.',
	options: { op: 'text', out: 'text' },
	help: [
		'--op union         what any covers',
		'--op difference    A less B (of one file: its first path less the others)',
		'--op intersection  what all cover',
		'--op xor           what an odd number of them cover',
		'--op regions       every region its own piece; data-in names which inputs cover it'
	],
	async run(words) {
		const out = words.text('out');
		const given = words.text('op');
		if (words.files.length < 1 || words.files.length > 2 || !out || given === undefined)
			throw new UsageError('combine A.svg [B.svg] --op OP --out C.svg');
		const op = words.oneOf('op', COMBINE_OPS, 'union');
		const drawings = await Promise.all(words.files.map(readDrawing));
		const isPair = drawings.length === 2;
		// Two files are two inputs; of one file each path is an input.
		const inputs: CombineInput[] = isPair
			? drawings.map((d) => d.shapes.map(areaOf))
			: drawings[0].shapes.map((shape) => [areaOf(shape)]);
		const names = isPair ? ['A', 'B'] : drawings[0].shapes.map((shape, i) => shape.name ?? String(i + 1));
		const watch = new Stopwatch();
		const result = unwrap(combineAreas(inputs, op, { verify: true, made: () => watch.stop() }));
		watch.stop();
		const first = drawings[0].shapes[0];
		const pieces: SvgPiece[] = result.pieces.map(({ paths, inputs: list }) => ({
			paths,
			fill: first?.fill,
			...(op === 'regions' ? { data: { in: list.map((i) => names[i]).join(' ') } } : { name: first?.name })
		}));
		const lines = cutOpen(drawings, inputs, op);
		pieces.push(...lines.map((path) => ({ paths: [path], stroke: '#000000' })));
		const warnings = drawings.flatMap((d) => d.warnings);
		if (!isPair && openOf(drawings).length && op !== 'union')
			warnings.push('Open lines of a single file are left as they are: there is nothing to cut them by.');
		await writeOut(out, writeSvg(pieces, drawings[0].frame));
		const facts = {
			out,
			...countFacts(pieces),
			error: result.error,
			fallback: result.fallback,
			ms: { total: watch.ms },
			warnings
		};
		return {
			facts,
			text: pieces.length
				? `${out}: ${facts.pieces} pieces, ${facts.anchors} anchors`
				: `${out}: nothing is left; the drawing is empty.`
		};
	}
};

/** Open lines of A cut by B: outside it for a difference, inside it for an intersection; otherwise all stay. */
function cutOpen(drawings: readonly Imported[], inputs: readonly CombineInput[], op: string): Path[] {
	const lines = openOf(drawings);
	if (drawings.length < 2 || lines.length === 0) return lines;
	const ofA = openOf(drawings.slice(0, 1));
	if (op === 'difference') return cutLines(ofA, inputs[1]).outside;
	if (op === 'intersection') return cutLines(ofA, inputs[1]).inside;
	return lines;
}
