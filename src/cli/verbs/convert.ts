import { CoreError, unwrap } from '../../lib/core/errors';
import { FORMATS, formatToWrite } from '../../lib/core/formats/formats';
import type { Frame } from '../../lib/core/formats/imported';
import { PAPERS, tilesOf, type PageSize } from '../../lib/core/formats/paper';
import { writePdf } from '../../lib/core/formats/pdf-write';
import type { Piece } from '../../lib/core/formats/solids';
import { writeSvg } from '../../lib/core/formats/svg-write';
import { transformPath } from '../../lib/core/geometry/path';
import { readSize, UsageError, type Words } from '../options';
import {
	allPieces,
	countFacts,
	frameAround,
	readDrawing,
	Stopwatch,
	writeBytes,
	type Facts,
	type Verb
} from '../verb';

const PRINTED = ['.pdf', '.png'];
const ENDINGS = [...FORMATS.map((format) => format.ending), ...PRINTED].map((one) => `G${one}`).join(' or ');
const USAGE = `convert F --out ${ENDINGS}`;
/** Dots in an inch, and the most that are made. */
const DPI = 300;
const MOST_DPI = 2400;
const MOST_PX = 30_000;

export const convert: Verb = {
	usage: USAGE,
	meaning: 'Turns one drawing format into another, or puts it on paper, by the endings.',
	options: {
		out: 'text',
		curves: 'text',
		tolerance: 'text',
		page: 'text',
		overlap: 'text',
		dpi: 'text',
		names: 'flag'
	},
	help: [
		'--curves exact|polylines  DXF: arcs and curves as such, or straight polylines (exact)',
		'--tolerance MM            for polylines (0.01)',
		`--page ${Object.keys(PAPERS).join('|')}|WxH   PDF: parted into pages of that size (one page of the drawing's own)`,
		'--overlap MM              that neighbouring pages show both (10)',
		'--names                   PDF: pieces are named',
		`--dpi N                   PNG: dots in an inch (${DPI})`
	],
	async run(words) {
		const out = words.text('out');
		if (words.files.length !== 1 || !out) throw new UsageError(USAGE);
		const ending = /\.[^.\\/]*$/.exec(out.toLowerCase())?.[0] ?? '';
		const format = FORMATS.find((f) => f.ending === ending);
		if (!format && !PRINTED.includes(ending)) throw new UsageError(`--out must be ${ENDINGS}.`);
		const curves = words.oneOf('curves', ['exact', 'polylines'] as const, 'exact');
		const tolerance = words.number('tolerance');
		if (tolerance !== undefined && !(tolerance > 0)) throw new UsageError('--tolerance must be above 0.');
		const imported = await readDrawing(words.files[0]);
		const watch = new Stopwatch();
		const pieces = allPieces(imported);
		const name = out.replace(/^.*[\\/]/, '').slice(0, -ending.length);
		const { points } = imported;
		const frame =
			imported.frame ?? (format ? undefined : frameAround(pieces.flatMap((piece) => piece.paths)));
		const more: Facts = {};
		let bytes: Uint8Array;
		if (format) bytes = formatToWrite(out).write({ name, pieces, points, frame }, { curves, tolerance });
		else if (ending === '.pdf') {
			const lines = writeSvg(pieces, frame, points, name);
			const printed = await onPaper(pieces, { name, lines }, frame!, words);
			bytes = printed.bytes;
			if (printed.tiles) more.tiles = printed.tiles;
		} else bytes = await asPicture(pieces, frame!, words.number('dpi') ?? DPI);
		watch.stop();
		await writeBytes(out, bytes);
		const facts = {
			out,
			...countFacts(pieces),
			...more,
			ms: { total: watch.ms },
			warnings: imported.warnings
		};
		return { facts, text: `${out}: ${facts.outlines} outlines` };
	}
};

/** The page that was asked for; undefined where the drawing is to lie on one of its own size. */
function pageOf(words: Words): PageSize | undefined {
	const asked = words.text('page')?.toLowerCase();
	if (asked === undefined) return undefined;
	if (Object.hasOwn(PAPERS, asked)) return PAPERS[asked];
	const size = readSize(words, 'page');
	if (!size) throw new UsageError(`--page is one of ${Object.keys(PAPERS).join(', ')} or WxH in mm.`);
	return { width: size[0], height: size[1] };
}

async function onPaper(
	pieces: readonly Piece[],
	about: { readonly name: string; readonly lines: string },
	frame: Frame,
	words: Words
) {
	const page = pageOf(words);
	const tiling =
		page && unwrap(tilesOf({ width: frame.w, height: frame.h }, page, words.number('overlap') ?? 10));
	const bytes = await writePdf(
		pieces.map((piece) => ({
			...piece,
			paths: piece.paths.map((path) => transformPath(path, [1, 0, 0, 1, -frame.x, frame.y + frame.h]))
		})),
		{ ...about, width: frame.w, height: frame.h, tiling, names: words.flag('names') }
	);
	return { bytes, tiles: tiling?.tiles.map((tile) => ({ page: tile.page, x: tile.x, y: tile.y })) };
}

/** A picture at a resolution, which it states. */
async function asPicture(pieces: readonly Piece[], frame: Frame, dpi: number): Promise<Uint8Array> {
	if (!(dpi >= 1 && dpi <= MOST_DPI))
		throw new CoreError(
			'bad-setting',
			`The resolution must be from 1 to ${MOST_DPI} dots in an inch, not ${dpi}.`
		);
	const [w, h] = [frame.w, frame.h].map((mm) => Math.round((mm / 25.4) * dpi));
	if (!(w >= 1 && h >= 1 && w <= MOST_PX && h <= MOST_PX))
		throw new CoreError(
			'bad-setting',
			`That would be ${w} x ${h} px; up to ${MOST_PX} px each way can be made. Take fewer dots in an inch.`
		);
	const sharp = (await import('sharp')).default;
	const svg = writeSvg(pieces, frame).replace(/width="[^"]*" height="[^"]*"/, `width="${w}" height="${h}"`);
	return sharp(Buffer.from(svg), { density: 72, limitInputPixels: false })
		.resize(w, h, { fit: 'fill' })
		.flatten({ background: '#ffffff' })
		.withMetadata({ density: dpi })
		.png()
		.toBuffer();
}
