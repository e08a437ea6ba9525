/** A drawing on paper, true to size: one page of its own size, or parted into pages. ISO 32000: lengths in points of 1/72 inch. */
import {
	closePath,
	appendBezierCurve,
	clip,
	endPath,
	lineTo,
	moveTo,
	PDFDocument,
	popGraphicsState,
	pushGraphicsState,
	rectangle,
	setDashPattern,
	setLineCap,
	setLineWidth,
	setStrokingRgbColor,
	StandardFonts,
	stroke,
	rgb,
	type PDFFont,
	type PDFOperator,
	type PDFPage
} from 'pdf-lib';
import { strToU8 } from 'fflate';
import { ARC, CUBIC, STRIDE, type Path } from '../geometry/path';
import { crossesBox } from '../geometry/pick';
import { pathBox, unionBox } from '../geometry/measure';
import { arcsToCubics, type Box } from '../geometry/segment';
import { LINES_FILE } from './pdf-read';
import { WHITE_EDGE, type Tile, type Tiling } from './paper';

/** What is drawn: an outline with its holes, or an open line. mm, y up, from 0, 0. */
export interface PaperPiece {
	readonly paths: readonly Path[];
	readonly name?: string;
	/** mm: strokes and gaps by turns. */
	readonly dashes?: readonly number[];
}

export interface PaperOptions {
	readonly name: string;
	/** mm: the drawing's frame. */
	readonly width: number;
	readonly height: number;
	/** Parted into pages; one page of the frame's size where it is left out. */
	readonly tiling?: Tiling;
	/** Whether pieces are named. */
	readonly names?: boolean;
	/** The lines themselves, as an SVG: put along, so that the file opens to the same lines again. */
	readonly lines?: string;
}

const POINTS = 72 / 25.4;
const pt = (mm: number) => mm * POINTS;
/** mm */
const LINE = 0.25;
const MARK = 0.15;
const CROSS = 4;
const TEST = 20;
const NAME_MM = 3.2;
const GREY = rgb(0.35, 0.35, 0.35);
/** mm, how far curves put for arcs may lie off. */
const ARC_OFF = 1e-3;

export async function writePdf(pieces: readonly PaperPiece[], options: PaperOptions): Promise<Uint8Array> {
	const { tiling, width, height, name } = options;
	const doc = await PDFDocument.create({ updateMetadata: false });
	doc.setTitle(name);
	const font = await doc.embedFont(StandardFonts.Helvetica);
	const drawn = pieces.map((piece) => ({
		...piece,
		paths: piece.paths.map((path) => arcsToCubics(path, ARC_OFF)),
		box: unionBox(piece.paths.map(pathBox))
	}));
	const pages = tiling
		? tiling.tiles.map((tile) => ({
				tile,
				page: doc.addPage([pt(tiling.page.width), pt(tiling.page.height)])
			}))
		: [{ tile: undefined, page: doc.addPage([pt(width), pt(height)]) }];
	for (const { page, tile } of pages) {
		const shown = tile && tiling ? seen(tile, tiling) : { x0: 0, y0: 0, x1: width, y1: height };
		const at = tile ?? { x: 0, y: 0 };
		page.pushOperators(pushGraphicsState());
		if (tile)
			page.pushOperators(
				rectangle(pt(shown.x0 - at.x), pt(shown.y0 - at.y), pt(shown.x1 - shown.x0), pt(shown.y1 - shown.y0)),
				clip(),
				endPath()
			);
		page.pushOperators(setLineWidth(pt(LINE)), setStrokingRgbColor(0, 0, 0), setLineCap(1));
		for (const { paths, box, dashes } of drawn) {
			if (box.x1 < shown.x0 || box.x0 > shown.x1 || box.y1 < shown.y0 || box.y0 > shown.y1) continue;
			page.pushOperators(dashOperator(dashes ?? []));
			for (const path of paths) page.pushOperators(...operators(path, at.x, at.y), stroke());
		}
		page.pushOperators(dashOperator([]), popGraphicsState());
		if (options.names) for (const piece of drawn) writeName(page, font, piece, shown, at);
		if (tile && tiling) furnish(page, font, { tile, tiling, name, drawn });
	}
	if (options.lines) await doc.attach(strToU8(options.lines), LINES_FILE, { mimeType: 'image/svg+xml' });
	return doc.save();
}

/** The part of the drawing that a page shows. */
function seen(tile: Tile, { page }: Tiling): Box {
	return {
		x0: tile.x + WHITE_EDGE,
		y0: tile.y + WHITE_EDGE,
		x1: tile.x + page.width - WHITE_EDGE,
		y1: tile.y + page.height - WHITE_EDGE
	};
}

const dashOperator = (dashes: readonly number[]): PDFOperator =>
	setDashPattern(
		dashes.map((mm) => pt(mm)),
		0
	);

/** A line, with its page's lower left corner at x, y. */
function operators({ types, segs, closed }: Path, x: number, y: number): PDFOperator[] {
	const out: PDFOperator[] = [moveTo(pt(segs[0] - x), pt(segs[1] - y))];
	for (let i = 0; i < types.length; i++) {
		const s = (k: number) => pt(segs[STRIDE * i + k] - (k % 2 ? y : x));
		if (types[i] === CUBIC) out.push(appendBezierCurve(s(2), s(3), s(4), s(5), s(6), s(7)));
		else if (types[i] !== ARC) out.push(lineTo(s(6), s(7)));
	}
	if (closed) out.push(closePath());
	return out;
}

/** What the page's own font can write. */
const writable = (text: string) => text.replace(/[^\x20-\x7e\xa0-\xff]/g, '?');

function writeName(
	page: PDFPage,
	font: PDFFont,
	{ name, box }: { readonly name?: string; readonly box: Box },
	shown: Box,
	at: { readonly x: number; readonly y: number }
): void {
	const [x, y] = [(box.x0 + box.x1) / 2, (box.y0 + box.y1) / 2];
	if (!name || x < shown.x0 || x > shown.x1 || y < shown.y0 || y > shown.y1) return;
	const text = writable(name);
	const size = pt(NAME_MM);
	page.drawText(text, {
		x: pt(x - at.x) - font.widthOfTextAtSize(text, size) / 2,
		y: pt(y - at.y),
		size,
		font
	});
}

/** Where on a page the square to measure lies: the corner in which no line or the fewest do. */
function squarePlace(tile: Tile, { page, overlap }: Tiling, drawn: readonly PaperPiece[]) {
	const inset = WHITE_EDGE + overlap + 2;
	const [w, h] = [Math.max(TEST, 40), TEST + 6];
	const corners = [
		{ x: inset, y: inset },
		{ x: page.width - inset - w, y: page.height - inset - h },
		{ x: inset, y: page.height - inset - h },
		{ x: page.width - inset - w, y: inset + 10 }
	];
	const lines = ({ x, y }: { readonly x: number; readonly y: number }) => {
		const box = { x0: tile.x + x, y0: tile.y + y, x1: tile.x + x + w, y1: tile.y + y + h };
		return drawn.reduce((n, { paths }) => n + paths.filter((path) => crossesBox(path, box)).length, 0);
	};
	return corners.reduce((a, b) => (lines(b) < lines(a) ? b : a));
}

/** Crossed marks at the corners of what is shown, the page's number, a small map and a square to measure. */
function furnish(
	page: PDFPage,
	font: PDFFont,
	what: {
		readonly tile: Tile;
		readonly tiling: Tiling;
		readonly name: string;
		readonly drawn: readonly PaperPiece[];
	}
): void {
	const { tile, tiling, name } = what;
	const { page: paper, columns, rows, tiles, overlap } = tiling;
	const line = (x0: number, y0: number, x1: number, y1: number) =>
		page.pushOperators(moveTo(pt(x0), pt(y0)), lineTo(pt(x1), pt(y1)), stroke());
	page.pushOperators(pushGraphicsState(), setLineWidth(pt(MARK)), setStrokingRgbColor(0.35, 0.35, 0.35));
	// Marks lie in the middle of what two pages share, so that those of neighbours come upon each other.
	const inset = WHITE_EDGE + overlap / 2;
	for (const x of [inset, paper.width - inset])
		for (const y of [inset, paper.height - inset]) {
			line(x - CROSS, y, x + CROSS, y);
			line(x, y - CROSS, x, y + CROSS);
		}
	const mapAt = { x: paper.width - WHITE_EDGE - 3 * columns - 2, y: WHITE_EDGE + overlap + 2 };
	for (const { column, row, page: number } of tiles) {
		const isThis = number === tile.page;
		const [x, y] = [mapAt.x + 3 * column, mapAt.y + 4 * (rows - 1 - row)];
		page.drawRectangle({
			x: pt(x),
			y: pt(y),
			width: pt(2.6),
			height: pt(3.6),
			borderWidth: 0.4,
			...(isThis ? { color: GREY } : {}),
			borderColor: GREY
		});
	}
	const { x: tx, y: ty } = squarePlace(tile, tiling, what.drawn);
	page.pushOperators(rectangle(pt(tx), pt(ty), pt(TEST), pt(TEST)), stroke(), popGraphicsState());
	const small = pt(2.6);
	page.drawText(`${TEST} mm`, { x: pt(tx + 1.5), y: pt(ty + 1.5), size: small, font, color: GREY });
	const words = writable(`${name}   ${tile.page} of ${tiles.length}   (${tile.column + 1}, ${tile.row + 1})`);
	page.drawText(words, { x: pt(tx), y: pt(ty + TEST + 2), size: small, font, color: GREY });
}
