/** A page as SVG in true millimetres, for the browser's own print and for pictures. */
import { pathBox, unionBox } from '../geometry/measure';
import type { Box } from '../geometry/segment';
import { WHITE_EDGE, type Tile, type Tiling } from './paper';
import type { PaperPiece } from './pdf-write';
import { writePathData } from './svg-path';
import { escape } from './svg-write';

const LINE = 0.25;
const TEST = 20;
const CROSS = 4;
/** Lines within a box of the drawing, its size in mm. @param more further marks, as SVG. */
export function boxSvg(pieces: readonly PaperPiece[], box: Box, more = ''): string {
	const [w, h] = [box.x1 - box.x0, box.y1 - box.y0];
	const lines = pieces
		.map(({ paths, dashes }) => {
			const d = paths.map(writePathData).join('');
			return `<path d="${d}"${dashes?.length ? ` stroke-dasharray="${dashes.join(' ')}"` : ''}/>`;
		})
		.join('');
	return `<svg xmlns="http://www.w3.org/2000/svg" width="${w}mm" height="${h}mm" viewBox="${box.x0} ${-box.y1} ${w} ${h}"><g fill="none" stroke="#000" stroke-width="${LINE}" stroke-linecap="round">${lines}</g>${more}</svg>`;
}

/** The names of pieces in their middles. */
export const namesSvg = (pieces: readonly PaperPiece[]): string =>
	pieces
		.map(({ name, paths }) => {
			if (!name) return '';
			const b = unionBox(paths.map(pathBox));
			return `<text x="${(b.x0 + b.x1) / 2}" y="${-(b.y0 + b.y1) / 2}" font-size="3.2" font-family="sans-serif" text-anchor="middle">${escape(name)}</text>`;
		})
		.join('');

/** A page with its marks, number and square to measure. */
export function pageSvg(
	pieces: readonly PaperPiece[],
	tile: Tile,
	tiling: Tiling,
	{ name, names }: { readonly name: string; readonly names: boolean }
): string {
	const { page, overlap, tiles } = tiling;
	const box = { x0: tile.x, y0: tile.y, x1: tile.x + page.width, y1: tile.y + page.height };
	const inset = WHITE_EDGE + overlap / 2;
	const crosses = [box.x0 + inset, box.x1 - inset]
		.flatMap((x) =>
			[box.y0 + inset, box.y1 - inset].map(
				(y) => `M${x - CROSS} ${-y}h${2 * CROSS}M${x} ${-y - CROSS}v${2 * CROSS}`
			)
		)
		.join('');
	const [x, y] = [box.x0 + WHITE_EDGE + overlap + 2, -(box.y0 + WHITE_EDGE + overlap + 2)];
	const more = `<g fill="none" stroke="#555" stroke-width="0.15"><path d="${crosses}"/><rect x="${x}" y="${y - TEST}" width="${TEST}" height="${TEST}"/></g><text x="${x}" y="${y - TEST - 2}" font-size="3" font-family="sans-serif" fill="#555">${escape(name)}   ${tile.page} of ${tiles.length}   (${tile.column + 1}, ${tile.row + 1})   ${TEST} mm</text>`;
	return boxSvg(pieces, box, more + (names ? namesSvg(pieces) : ''));
}
