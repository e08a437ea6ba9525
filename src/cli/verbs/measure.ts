import {
	anchorCount,
	pathArea,
	pathBox,
	pathLength,
	tightestRadius,
	unionBox
} from '../../lib/core/geometry/measure';
import { UsageError } from '../options';
import { allPieces, readDrawing, type Verb } from '../verb';

export const measure: Verb = {
	usage: 'measure F.svg',
	meaning: 'Lengths, areas, sizes and anchors, piece by piece.',
	options: {},
	help: ['--json             the list as JSON'],
	async run(words) {
		if (words.files.length !== 1) throw new UsageError('measure F.svg');
		const imported = await readDrawing(words.files[0]);
		const pieces = allPieces(imported).map((piece) => {
			const closed = piece.paths.every((path) => path.closed);
			const box = unionBox(piece.paths.map(pathBox));
			const area = piece.paths.reduce(
				(sum, path, i) => sum + (i === 0 ? 1 : -1) * Math.abs(pathArea(path)),
				0
			);
			const radius = Math.min(...piece.paths.map((path) => tightestRadius(path).radius));
			return {
				...(piece.name ? { name: piece.name } : {}),
				closed,
				length: piece.paths.reduce((sum, path) => sum + pathLength(path), 0),
				...(closed ? { area } : {}),
				bounds: [box.x0, -box.y1 || 0, box.x1 - box.x0, box.y1 - box.y0],
				anchors: piece.paths.reduce((sum, path) => sum + anchorCount(path), 0),
				holes: piece.paths.length - 1,
				...(Number.isFinite(radius) ? { tightestRadius: radius } : {})
			};
		});
		const text = pieces
			.map(
				(p) =>
					`${p.name ?? 'outline'}: ${p.closed ? 'closed' : 'open'}, ${p.bounds[2].toFixed(2)} x ${p.bounds[3].toFixed(2)} mm, length ${p.length.toFixed(2)} mm${p.closed ? `, area ${p.area!.toFixed(2)} mm2` : ''}, ${p.anchors} anchors`
			)
			.join('\n');
		return { facts: { pieces, warnings: imported.warnings }, text };
	}
};
