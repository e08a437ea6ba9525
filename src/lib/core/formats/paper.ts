/** Paper: page sizes, and how a drawing is parted into pages that are laid together. mm, y up. */
import type { Point } from '../geometry/point';
import { failed, done, type Result } from '../errors';

export interface PageSize {
	readonly width: number;
	readonly height: number;
}

/** ISO 216, from the standard's table; letter, legal and tabloid as common practice in inches has them. */
export const PAPERS: Readonly<Record<string, PageSize>> = {
	a0: { width: 841, height: 1189 },
	a1: { width: 594, height: 841 },
	a2: { width: 420, height: 594 },
	a3: { width: 297, height: 420 },
	a4: { width: 210, height: 297 },
	a5: { width: 148, height: 210 },
	b3: { width: 353, height: 500 },
	b4: { width: 250, height: 353 },
	letter: { width: 215.9, height: 279.4 },
	legal: { width: 215.9, height: 355.6 },
	tabloid: { width: 279.4, height: 431.8 }
};

/** mm along a page's edge that printers leave white (common practice). */
export const WHITE_EDGE = 8;
const MOST_PAGES = 500;

/** One page of a drawing. */
export interface Tile extends Point {
	/** From 1, row by row from the upper left. */
	readonly page: number;
	readonly column: number;
	readonly row: number;
}

export interface Tiling {
	readonly page: PageSize;
	readonly tiles: readonly Tile[];
	readonly columns: number;
	readonly rows: number;
	/** mm that neighbouring pages show both. */
	readonly overlap: number;
}

/**
 * Parts a drawing of a size, from 0, 0 up, into pages, upright or lying, whichever needs fewer. A tile's x, y is where its page's lower
 * left corner lies. @returns `bad-paper` where the overlap leaves nothing, or there would be too many.
 */
export function tilesOf(size: PageSize, paper: PageSize, overlap: number): Result<Tiling> {
	const lying = { width: paper.height, height: paper.width };
	const tried = [paper, lying].map((page) => {
		const [w, h] = [page.width - 2 * WHITE_EDGE, page.height - 2 * WHITE_EDGE];
		const count = (whole: number, own: number) =>
			whole <= own + 1e-9 ? 1 : 1 + Math.ceil((whole - own) / (own - overlap) - 1e-9);
		return { page, w, h, columns: count(size.width, w), rows: count(size.height, h) };
	});
	const most = Math.min(paper.width, paper.height) - 2 * WHITE_EDGE;
	if (!(overlap >= 0 && overlap < most))
		return failed(
			'bad-paper',
			`Pages can overlap by 0 to ${most.toFixed(0)} mm on this paper, not by ${overlap}.`
		);
	const [upright, across] = tried;
	const { page, w, h, columns, rows } =
		across.columns * across.rows < upright.columns * upright.rows ? across : upright;
	if (columns * rows > MOST_PAGES)
		return failed('bad-paper', `That would be ${columns * rows} pages; up to ${MOST_PAGES} can be made.`);
	// The pages together lie evenly over the drawing.
	const all = { width: w + (columns - 1) * (w - overlap), height: h + (rows - 1) * (h - overlap) };
	const left = (size.width - all.width) / 2 - WHITE_EDGE;
	const upper = size.height + (all.height - size.height) / 2 + WHITE_EDGE;
	const tiles: Tile[] = [];
	for (let row = 0; row < rows; row++)
		for (let column = 0; column < columns; column++)
			tiles.push({
				page: tiles.length + 1,
				column,
				row,
				x: left + column * (w - overlap),
				y: upper - page.height - row * (h - overlap)
			});
	return done({ page, tiles, columns, rows, overlap });
}
