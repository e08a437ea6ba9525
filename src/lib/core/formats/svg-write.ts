/** SVG files written: true millimetres, one path a piece, layers as groups. */
import { isEmptyBox, pathBox, unionBox } from '../geometry/measure';
import type { Point } from '../geometry/point';
import type { Frame } from './imported';
import type { Piece } from './solids';
import { writeNumber, writePathData } from './svg-path';

/**
 * One piece to write, its layer as a group. Where neither fill nor stroke is said a closed piece is filled black; an open one is
 * never filled.
 */
export interface SvgPiece extends Piece {
	/** mm; a hair line where it is left out. */
	readonly strokeWidth?: number;
	/** Further attributes, such as data-in. */
	readonly data?: Readonly<Record<string, string>>;
}

export interface SvgPoint extends Point {
	readonly layer?: string;
}

/** mm. A line to be followed, not to be painted. */
const HAIR = 0.1;
/** mm. Single points are drawn as crosses of this reach, so that the page is wide enough to show them. */
const POINT_REACH = 1;

/** Text as it stands in an SVG. */
export const escape = (text: string) =>
	text.replace(/&/g, '&amp;').replace(/</g, '&lt;').replace(/>/g, '&gt;').replace(/"/g, '&quot;');

/**
 * Writes pieces in true millimetres: one user unit is one mm. The frame is widened where something lies outside it.
 * @param title the drawing's name.
 */
export function writeSvg(
	pieces: readonly SvgPiece[],
	frame?: Frame,
	points: readonly SvgPoint[] = [],
	title?: string
): string {
	const { x, y, w, h } = widened(pieces, points, frame);
	const [wide, high] = [writeNumber(Math.max(w, 1e-6)), writeNumber(Math.max(h, 1e-6))];
	const lines = grouped([
		...pieces.map((piece) => ({ layer: piece.layer, text: pieceText(piece) })),
		...points.map((p) => ({
			layer: p.layer,
			text: `<path d="M${writeNumber(p.x)} ${writeNumber(-p.y)}Z" fill="none"/>`
		}))
	]);
	return (
		`<svg xmlns="http://www.w3.org/2000/svg" width="${wide}mm" height="${high}mm" ` +
		`viewBox="${writeNumber(x)} ${writeNumber(y)} ${wide} ${high}">\n` +
		`${title ? `<title>${escape(title)}</title>\n` : ''}${lines.join('\n')}\n</svg>\n`
	);
}

/** A frame keeps its place; only what sticks out by more than rounding widens it. */
function widened(pieces: readonly SvgPiece[], points: readonly SvgPoint[], frame?: Frame): Frame {
	const box = unionBox([
		...pieces.flatMap((piece) => piece.paths.map(pathBox)),
		...points.map((p) => ({
			x0: p.x - POINT_REACH,
			y0: p.y - POINT_REACH,
			x1: p.x + POINT_REACH,
			y1: p.y + POINT_REACH
		}))
	]);
	let x0 = frame?.x ?? Infinity;
	let y0 = frame?.y ?? Infinity;
	let x1 = frame ? frame.x + frame.w : -Infinity;
	let y1 = frame ? frame.y + frame.h : -Infinity;
	if (!isEmptyBox(box)) {
		const slack = frame ? 1e-6 : 0;
		if (box.x0 < x0 - slack) x0 = box.x0;
		if (-box.y1 < y0 - slack) y0 = -box.y1;
		if (box.x1 > x1 + slack) x1 = box.x1;
		if (-box.y0 > y1 + slack) y1 = -box.y0;
	}
	if (!(x1 >= x0)) return { x: 0, y: 0, w: 1, h: 1 };
	return { x: x0, y: y0, w: x1 - x0, h: y1 - y0 };
}

function pieceText(piece: SvgPiece): string {
	const isOpen = piece.paths.every((path) => !path.closed);
	const fill = isOpen ? 'none' : (piece.fill ?? (piece.stroke ? 'none' : '#000000'));
	const attributes = [
		`d="${piece.paths.map(writePathData).join('')}"`,
		`fill="${escape(fill)}"`,
		...(isOpen || piece.stroke
			? [
					`stroke="${escape(piece.stroke ?? '#000000')}"`,
					`stroke-width="${writeNumber(piece.strokeWidth ?? HAIR)}"`,
					...(piece.dashes ? [`stroke-dasharray="${piece.dashes.map(writeNumber).join(' ')}"`] : [])
				]
			: []),
		...(isOpen ? [] : ['fill-rule="evenodd"']),
		...(piece.names && piece.names.length > 1 ? [`data-names="${escape(JSON.stringify(piece.names))}"`] : []),
		...(piece.purpose && piece.purpose !== 'cut' ? [`data-purpose="${piece.purpose}"`] : []),
		...Object.entries(piece.data ?? {}).map(([key, value]) => `data-${key}="${escape(value)}"`)
	];
	const title = piece.name ? `<title>${escape(piece.name)}</title>` : '';
	return title ? `<path ${attributes.join(' ')}>${title}</path>` : `<path ${attributes.join(' ')}/>`;
}

/** What lies on a layer stands in its group; layers in the order in which they are first needed. */
function grouped(items: readonly { readonly layer?: string; readonly text: string }[]): string[] {
	const groups = new Map<string | undefined, string[]>();
	for (const { layer, text } of items) {
		const group = groups.get(layer) ?? [];
		group.push(text);
		groups.set(layer, group);
	}
	return [...groups].flatMap(([layer, texts]) =>
		layer === undefined
			? texts
			: [`<g data-layer="${escape(layer)}"><title>${escape(layer)}</title>`, ...texts, '</g>']
	);
}
