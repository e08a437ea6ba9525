/** The table of drawing formats: opening, saving, the command line and the picker all go by it. A new one is its file and a line here. */
import { strFromU8, strToU8 } from 'fflate';
import { newDrawing, type Drawing } from '../document/drawing';
import { isFollower, setOf } from '../document/graph';
import { output, type OutputLine, type OutputQuestion } from '../document/output';
import { CoreError, done, failed, type Result } from '../errors';
import { pathBox } from '../geometry/measure';
import type { Path } from '../geometry/path';
import type { Point } from '../geometry/point';
import { groupPieces } from '../plane/pieces';
import { finish } from '../progress';
import { addImported } from './add-imported';
import { gcode, hpgl } from './machine-lines';
import { refuseBytes } from './budget';
import { readDrawingFile, writeDrawingFile } from './drawing-file';
import { readDxfSteps } from './dxf';
import { writeDxf } from './dxf-write';
import type { Frame, Imported, Readable, ReadResult } from './imported';
import type { Piece } from './solids';
import { readSvgSteps } from './svg';
import { writeSvg } from './svg-write';

/** What is written: pieces with their holes and open lines, single points, and the frame that is kept. mm, y up. */
export interface Written {
	readonly name: string;
	readonly pieces: readonly Piece[];
	readonly points: readonly (Point & { readonly layer?: string })[];
	readonly frame?: Frame;
}

export interface WriteOptions {
	/** DXF: arcs and curves as such, or straight polylines. */
	readonly curves?: 'exact' | 'polylines';
	/** mm, for polylines. */
	readonly tolerance?: number;
}

/** How closed pieces look: lines to be followed, or filled with their colour. */
export type Look = 'lines' | 'filled';

export interface Format extends Readable {
	readonly mediaType: string;
	write(written: Written, options: WriteOptions): Uint8Array;
}

const text = (bytes: Uint8Array) => strFromU8(bytes);

const svg: Format = {
	id: 'svg',
	word: 'SVG',
	ending: '.svg',
	mediaType: 'image/svg+xml',
	begins: (head) => /<svg[\s>]/i.test(text(head)),
	read: (bytes) => readSvgSteps(text(bytes)),
	write: ({ name, pieces, frame, points }) => strToU8(writeSvg(pieces, frame, points, name))
};

const dxf: Format = {
	id: 'dxf',
	word: 'DXF',
	ending: '.dxf',
	mediaType: 'image/vnd.dxf',
	begins: (head) => /^\s*(999\s[\s\S]*)?0\s+SECTION/.test(text(head)),
	read: (bytes) => readDxfSteps(text(bytes)),
	write: ({ pieces, points }, { curves = 'exact', tolerance }) =>
		strToU8(
			writeDxf(
				pieces.flatMap(({ paths, layer = '0', name, names, fill, stroke, dashes, purpose }, piece) =>
					paths.map((path, i) => ({
						path,
						layer,
						piece,
						name: names?.[i] || (i === 0 ? name : undefined),
						colour: stroke ?? fill,
						...(dashes ? { dashes } : {}),
						...(purpose ? { purpose } : {}),
						...(fill && path.closed ? { fill } : {})
					}))
				),
				{ curves, tolerance, points }
			)
		)
};

/** The whole drawing in one file. Read as a drawing of lines it gives what would go out of it. */
const thread: Format = {
	id: 'thread',
	word: 'Even Thread drawing',
	ending: '.thread',
	mediaType: 'application/zip',
	begins: (head) => head[0] === 0x50 && head[1] === 0x4b,
	*read(bytes) {
		yield 0;
		const read = readDrawingFile(bytes);
		if (!read.ok) return read;
		const { pieces, points } = writtenOf(read.value.drawing);
		return done({
			shapes: pieces.map(({ paths, ...facts }) => ({ paths, fillRule: 'evenodd' as const, ...facts })),
			points,
			warnings: []
		});
	},
	write({ name, pieces, points }) {
		const empty = newDrawing(name, name);
		let count = 0;
		const shapes = pieces.map(({ paths, ...facts }) => ({ paths, fillRule: 'evenodd' as const, ...facts }));
		const edit = addImported(empty, { shapes, points, warnings: [] }, name, () => `${name} ${++count}`);
		const records = new Map(empty.records);
		for (const record of edit.put ?? []) records.set(record.id, record);
		return writeDrawingFile({ ...empty, records }, new Map());
	}
};

/** Paper opened again: the lines that were put along with the pages, or what those draw. */
const pdf: Readable = {
	id: 'pdf',
	word: 'PDF',
	ending: '.pdf',
	begins: (head) => text(head).startsWith('%PDF-'),
	unpacked: async (bytes) => (await import('./pdf-read')).linesInPdf(bytes),
	*read() {
		yield 0;
		return failed('bad-pdf', 'The lines of a PDF are taken out of it before they are read.');
	}
};

export const FORMATS: readonly Format[] = [svg, dxf, thread];
/** All that can be opened: what machines read as well. */
export const READABLE: readonly Readable[] = [...FORMATS, pdf, gcode, hpgl];

const endsIn = (name: string, { ending, endings: others = [] }: Readable) =>
	[ending, ...others].some((one) => name.toLowerCase().endsWith(one));

/** The format of a file by what it begins with, else by its ending. */
export const formatOf = (head: Uint8Array, name: string): Readable | undefined =>
	READABLE.find((format) => format.begins(head)) ?? READABLE.find((format) => endsIn(name, format));

/** The endings that can be read, for a sentence or a picker. */
export const endings = (): string[] =>
	READABLE.flatMap((format) => [format.ending, ...(format.endings ?? [])]);

/** The format of a file that is to be written. @throws CoreError `unknown-format` */
export function formatToWrite(name: string): Format {
	const format = FORMATS.find((one) => endsIn(name, one));
	if (!format)
		throw new CoreError(
			'unknown-format',
			`"${name}" must end in ${FORMATS.map((one) => one.ending).join(' or ')}.`
		);
	return format;
}

/** What a format keeps packed, taken out; other files as they are. To be asked before `readLines`. @throws CoreError */
export async function unpacked(bytes: Uint8Array, name: string): Promise<Uint8Array> {
	refuseBytes(bytes.length);
	return (await formatOf(bytes.subarray(0, 1024), name)?.unpacked?.(bytes)) ?? bytes;
}

/** Reads a drawing of lines. */
export const readLines = (bytes: Uint8Array, name: string): Result<Imported> =>
	finish(readLinesSteps(bytes, name));

/** The same, telling how far it has come (0 to 1). What is too much to be taken says so. */
export function* readLinesSteps(bytes: Uint8Array, name: string): Generator<number, Result<Imported>> {
	if (bytes.length === 0) return failed('empty-file', `The file "${name}" is empty.`);
	const format = formatOf(bytes.subarray(0, 1024), name);
	if (!format) return failed('unknown-format', `"${name}" is none of ${endings().join(', ')}.`);
	try {
		refuseBytes(bytes.length);
		return withoutDust(yield* format.read(bytes), name);
	} catch (error) {
		if (error instanceof CoreError) return failed(error.code, error.message);
		throw error;
	}
}

/** mm: what is smaller either way has no line that could be written. */
const DUST = 1e-5;

/** What was read without lines that are as good as none: a scale of almost nothing, a slip in the file's numbers. */
function withoutDust(read: ReadResult, name: string): ReadResult {
	if (!read.ok) return read;
	const isDust = (path: Path) => {
		if (path.types.length === 0) return false;
		const { x0, y0, x1, y1 } = pathBox(path);
		return x1 - x0 < DUST && y1 - y0 < DUST;
	};
	let count = 0;
	const shapes = read.value.shapes.flatMap((shape) => {
		const paths = shape.paths.filter((path) => !isDust(path));
		count += shape.paths.length - paths.length;
		return paths.length ? [{ ...shape, paths }] : [];
	});
	if (count === 0) return read;
	const small = `${count === 1 ? 'One line is' : `${count} lines are`} smaller than a hundred-thousandth of a millimetre`;
	if (shapes.length === 0 && read.value.points.length === 0)
		return failed('nothing-drawn', `There is nothing in "${name}" that could be cut: ${small}.`);
	const warnings = [...read.value.warnings, `${small} and ${count === 1 ? 'was' : 'were'} left out.`];
	return done({ ...read.value, shapes, warnings });
}

/**
 * Pieces by nesting among lines of one layer, purpose and colour: what differs in them is a thing of its own, not a hole. Lines that a recipe
 * makes beside others nest among themselves alone, never as rings with their sources.
 */
function groupedApart(lines: readonly OutputLine[]): number[][] {
	const sets = new Map<string, number[]>();
	lines.forEach(({ outline, layer, purpose }, i) => {
		const key = JSON.stringify([
			layer.id,
			purpose,
			outline.colour ?? layer.colour,
			outline.dashes,
			isFollower(outline) ? setOf(outline) : ''
		]);
		sets.set(key, [...(sets.get(key) ?? []), i]);
	});
	const groups = [...sets.values()].flatMap((list) =>
		groupPieces(
			list.map((i) => lines[i].path),
			list.map((i) => lines[i].outline.standing)
		).map((group) => group.map((k) => list[k]))
	);
	return groups.sort((a, b) => a[0] - b[0]);
}

/** What goes out of a drawing, closed outlines with their holes as pieces. */
export function writtenOf(drawing: Drawing, question: OutputQuestion = {}, look: Look = 'lines'): Written {
	const { lines, marks } = output(drawing, question);
	const paths = lines.map((line) => line.path);
	const piece = (group: readonly number[]): Piece => {
		const { outline, layer, purpose } = lines[group[0]];
		const colour = outline.colour ?? layer.colour;
		return {
			paths: group.map((i) => paths[i]),
			name: outline.name,
			...(group.length > 1 ? { names: group.map((i) => lines[i].outline.name) } : {}),
			layer: layer.name,
			...(outline.dashes ? { dashes: outline.dashes } : {}),
			...(purpose === 'cut' ? {} : { purpose }),
			...(look === 'filled' && paths[group[0]].closed ? { fill: colour } : { stroke: colour })
		};
	};
	const open = paths.flatMap((path, i) => (!path.closed && path.types.length ? [[i]] : []));
	return {
		name: drawing.name,
		pieces: [...groupedApart(lines), ...open].map(piece),
		points: marks.map(({ mark, layer }) => ({ x: mark.x, y: mark.y, layer: layer.name }))
	};
}
