import { joinEnds } from '../../lib/core/geometry/join';
import { writeSvg, type SvgPiece } from '../../lib/core/formats/svg-write';
import { closedPieces } from '../../lib/core/formats/solids';
import { groupPieces } from '../../lib/core/plane/pieces';
import { UsageError } from '../options';
import { countFacts, readDrawing, Stopwatch, writeOut, type Verb } from '../verb';

export const join: Verb = {
	usage: 'join F.svg --gap MM --out G.svg',
	meaning: 'Joins ends that lie no farther apart than a gap; lines whose ends meet become closed.',
	options: { gap: 'text', out: 'text', bridge: 'flag' },
	help: [
		'--gap MM   ends no farther apart than this are drawn together at their middle',
		'--bridge   join them by a straight instead; no end moves'
	],
	async run(words) {
		const out = words.text('out');
		const gap = words.number('gap');
		if (words.files.length !== 1 || !out || gap === undefined)
			throw new UsageError('join F.svg --gap MM --out G.svg');
		if (!(gap >= 0)) throw new UsageError('--gap must be 0 or more.');
		const imported = await readDrawing(words.files[0]);
		const open = imported.shapes.flatMap((shape) =>
			shape.paths.filter((path) => !path.closed && path.types.length > 0).map((path) => ({ path, shape }))
		);
		const watch = new Stopwatch();
		const joined = joinEnds(
			open.map(({ path }) => path),
			gap,
			words.flag('bridge')
		);
		watch.stop();
		const pieces: SvgPiece[] = closedPieces(imported);
		// Names and colours come from the first line of each.
		const shapeOf = (i: number) => open[joined.from[i][0]].shape;
		for (const group of groupPieces(joined.paths)) {
			const { name, fill, stroke } = shapeOf(group[0]);
			pieces.push({ paths: group.map((i) => joined.paths[i]), name, fill: fill ?? stroke });
		}
		joined.paths.forEach((path, i) => {
			if (path.closed) return;
			const { name, stroke } = shapeOf(i);
			pieces.push({ paths: [path], name, stroke });
		});
		await writeOut(out, writeSvg(pieces, imported.frame, imported.points));
		const warnings = [...imported.warnings];
		if (joined.unjoined) {
			warnings.push(`${joined.unjoined} ends found no other end within ${gap} mm.`);
		}
		const facts = {
			out,
			...countFacts(pieces),
			drift: joined.drift,
			unjoined: joined.unjoined,
			ms: { total: watch.ms },
			warnings
		};
		return { facts, text: `${out}: ${facts.outlines} outlines, ${joined.unjoined} ends unjoined` };
	}
};
