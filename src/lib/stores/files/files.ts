/** Files in and out of the page: by their content, not their name. */
import type { Drawing } from '../../core/document/drawing';
import { output } from '../../core/document/output';
import { failed, type Problem, type Result } from '../../core/errors';
import type { Imported } from '../../core/formats/imported';
import { groupPieces } from '../../core/plane/pieces';
import { hashOf, loadPicture, storeDrawing, storePicture } from '../../storage/drawings';

export type FileKind = 'drawing' | 'svg' | 'dxf' | 'picture';

/** What a file is, by its first bytes and its name. */
export async function kindOfFile(file: File): Promise<FileKind> {
	const head = new Uint8Array(await file.slice(0, 1024).arrayBuffer());
	const text = new TextDecoder().decode(head);
	if (head[0] === 0x50 && head[1] === 0x4b) return 'drawing';
	if (/\.thread$/i.test(file.name)) return 'drawing';
	if (/<svg[\s>]/i.test(text) || /\.svg$/i.test(file.name)) return 'svg';
	if (/\.dxf$/i.test(file.name)) return 'dxf';
	return 'picture';
}

/** Reads an SVG or DXF. */
export async function readDrawingText(file: File, kind: 'svg' | 'dxf'): Promise<Result<Imported>> {
	const text = await file.text();
	if (text.length === 0) return failed('empty-file', 'This file is empty.');
	if (kind === 'svg') return (await import('../../core/formats/svg')).readSvg(text);
	return (await import('../../core/formats/dxf')).readDxf(text);
}

/**
 * Opens a whole drawing file into the browser's database, as a drawing of its own.
 * @returns the id it got.
 */
export async function openDrawingFile(bytes: Uint8Array, keepId = false): Promise<Result<string>> {
	const { readDrawingFile } = await import('../../core/formats/drawing-file');
	const read = readDrawingFile(bytes);
	if (!read.ok) return read;
	const { drawing, pictures } = read.value;
	for (const [hash, picture] of pictures) {
		if ((await hashOf(picture)) !== hash) return failed('bad-drawing', 'A picture in this file is damaged.');
	}
	try {
		for (const record of drawing.records.values()) {
			if (record.type !== 'reference') continue;
			const picture = pictures.get(record.picture)!;
			await storePicture({ hash: record.picture, mediaType: record.mediaType, bytes: picture });
		}
		const id = keepId ? drawing.id : crypto.randomUUID();
		await storeDrawing({ ...drawing, id });
		return { ok: true, value: id };
	} catch (error) {
		return storageProblem(error);
	}
}

export function storageProblem(error: unknown): { ok: false; problem: Problem } {
	const full = error instanceof DOMException && error.name === 'QuotaExceededError';
	return {
		ok: false,
		problem: full
			? {
					code: 'storage-full',
					sentence: 'The browser has no room left. Save drawings as files and remove some here.'
				}
			: { code: 'storage', sentence: 'The browser did not let the drawing be saved.' }
	};
}

/** The drawing as SVG text: one path a piece, in true millimetres. */
export async function drawingAsSvg(drawing: Drawing): Promise<string> {
	const { writeSvg } = await import('../../core/formats/svg');
	const { lines, marks } = output(drawing);
	const paths = lines.map((line) => line.path);
	const piece = (group: readonly number[]) => {
		const { name, colour } = lines[group[0]].outline;
		return { paths: group.map((i) => paths[i]), name, fill: colour };
	};
	const open = paths.flatMap((path, i) => (!path.closed && path.types.length ? [[i]] : []));
	return writeSvg(
		[...groupPieces(paths), ...open].map(piece),
		undefined,
		marks.map(({ mark }) => mark)
	);
}

/** The drawing as DXF text: arcs and curves as such, or polylines only. */
export async function drawingAsDxf(drawing: Drawing, curves: 'exact' | 'polylines'): Promise<string> {
	const { writeDxf } = await import('../../core/formats/dxf');
	const { lines, marks } = output(drawing);
	const pieces = lines.map(({ path, layer }) => ({ path, layer: layer.name }));
	const points = marks.map(({ mark, layer }) => ({ x: mark.x, y: mark.y, layer: layer.name }));
	return writeDxf(pieces, { curves, points });
}

/** The whole drawing with its pictures. */
export async function drawingAsFile(drawing: Drawing): Promise<Uint8Array> {
	const { writeDrawingFile } = await import('../../core/formats/drawing-file');
	const pictures = new Map<string, Uint8Array>();
	for (const record of drawing.records.values()) {
		if (record.type !== 'reference' || pictures.has(record.picture)) continue;
		const stored = await loadPicture(record.picture);
		if (stored) pictures.set(record.picture, stored.bytes);
	}
	return writeDrawingFile(drawing, pictures);
}

/** Hands a file to the person. */
export function saveAs(name: string, content: BlobPart, type: string): void {
	const url = URL.createObjectURL(new Blob([content], { type }));
	const link = document.createElement('a');
	link.href = url;
	link.download = name.replace(/[\\/:*?"<>|]/g, '_');
	link.click();
	setTimeout(() => URL.revokeObjectURL(url), 10_000);
}
