import { edgeAt, withEdge } from '../../lib/core/document/edges';
import { inputLine } from '../../lib/core/document/graph';
import { outlineFromPath, sourceLine, type Outline } from '../../lib/core/document/outline';
import '../../lib/core/document/recipes/reckonings';
import { RECIPES } from '../../lib/core/document/recipes/recipes';
import { ALLOWANCE_CORNERS } from '../../lib/core/plane/allowance-corners';
import { CoreError, unwrap } from '../../lib/core/errors';
import { closedPieces } from '../../lib/core/formats/solids';
import { writeSvg, type SvgPiece } from '../../lib/core/formats/svg-write';
import type { Point } from '../../lib/core/geometry/point';
import { nearestOnPath } from '../../lib/core/geometry/pick';
import { finish } from '../../lib/core/progress';
import { UsageError } from '../options';
import { countFacts, readDrawing, Stopwatch, writeOut, type Verb } from '../verb';

const USAGE = 'allowance F.svg --width MM --out G.svg';

export const allowance: Verb = {
	usage: USAGE,
	meaning: 'Grows closed pieces by a width that may differ for each edge, from corner to corner.',
	options: { width: 'text', out: 'text', edge: 'list', corner: 'text' },
	help: [
		'--width MM                the width of every edge that has none of its own',
		'--edge "x,y:MM"           the width of the edge near a place of the file; may be said several times',
		`--corner ${ALLOWANCE_CORNERS.join('|')}  what outer corners become (miter); folded back or square where widths differ`
	],
	async run(words) {
		const out = words.text('out');
		const width = words.number('width');
		if (words.files.length !== 1 || !out || width === undefined) throw new UsageError(USAGE);
		if (!(width >= 0)) throw new UsageError('--width must be 0 or more.');
		const corner = words.oneOf('corner', ALLOWANCE_CORNERS, 'miter');
		const edges = words.list('edge').map(readEdge);
		const imported = await readDrawing(words.files[0]);
		const pieces = closedPieces(imported);
		if (pieces.length === 0) throw new CoreError('nothing-given', 'There is no closed outline in this file.');
		const watch = new Stopwatch();
		let count = 0;
		const groups = pieces.map((piece) =>
			piece.paths.map((path) =>
				outlineFromPath(path, { id: `${++count}`, name: piece.name ?? '', layer: '', rank: count })
			)
		);
		for (const { place, width: own } of edges) giveWidth(groups, place, own);
		const made = groups.map((outlines, i): SvgPiece => {
			const { name, fill } = pieces[i];
			const lines = unwrap(finish(RECIPES.allowance.resolve(outlines.map(inputLine), { width, corner })));
			return { paths: lines.map((line) => line.path), name, fill };
		});
		watch.stop();
		await writeOut(out, writeSvg(made, imported.frame));
		const facts = { out, ...countFacts(made), ms: { total: watch.ms }, warnings: imported.warnings };
		return { facts, text: `${out}: ${facts.outlines} outlines, ${facts.anchors} anchors` };
	}
};

function readEdge(text: string): { place: Point; width: number } {
	const found = /^\s*(\S+?)\s*,\s*(\S+?)\s*:\s*(\S+)\s*$/.exec(text);
	const [x, y, width] = (found ?? []).slice(1).map(Number);
	if (!Number.isFinite(x + y) || !(width >= 0))
		throw new UsageError(`--edge needs "x,y:MM" with a width of 0 or more, not "${text}".`);
	return { place: { x, y: -y }, width };
}

/** Gives a width to the edge nearest to a place. */
function giveWidth(groups: Outline[][], { x, y }: Point, width: number): void {
	let best: { group: number; k: number; segment: number } | undefined;
	let least = Infinity;
	groups.forEach((group, i) =>
		group.forEach((outline, k) => {
			const near = nearestOnPath(sourceLine(outline), x, y, least);
			if (!near || near.distance >= least) return;
			least = near.distance;
			best = { group: i, k, segment: near.segment };
		})
	);
	if (!best) return;
	const outline = groups[best.group][best.k];
	groups[best.group][best.k] = withEdge(outline, edgeAt(outline, best.segment)!.id, { width });
}
