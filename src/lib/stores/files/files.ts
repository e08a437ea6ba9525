/** Files in and out of the page: by their content, not their name. */
import type { Drawing } from '../../core/document/drawing';
import { CoreError, failed, type Problem, type Result } from '../../core/errors';
import type { OutputQuestion } from '../../core/document/output';
import type { Look, WriteOptions } from '../../core/formats/formats';
import { hashOf, loadPicture, storeDrawing, storePicture } from '../../storage/drawings';

export type FileKind = 'drawing' | 'lines' | 'picture';

/** What a file is, by its first bytes and its name. */
export async function kindOfFile(file: File): Promise<FileKind> {
	const { formatOf } = await import('../../core/formats/formats');
	const format = formatOf(new Uint8Array(await file.slice(0, 1024).arrayBuffer()), file.name);
	if (!format) return 'picture';
	return format.id === 'thread' ? 'drawing' : 'lines';
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

/** What goes out of a drawing as a file of a format. */
export async function drawingAs(
	drawing: Drawing,
	id: string,
	{ question, look, ...options }: WriteOptions & { question?: OutputQuestion; look?: Look } = {}
): Promise<{ readonly bytes: Uint8Array; readonly ending: string; readonly mediaType: string }> {
	const { FORMATS, writtenOf } = await import('../../core/formats/formats');
	const format = FORMATS.find((f) => f.id === id);
	if (!format) throw new CoreError('unknown-format', `There is no format "${id}".`);
	const bytes = format.write(writtenOf(drawing, question, look), options);
	return { bytes, ending: format.ending, mediaType: format.mediaType };
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

/** A name without what a file's name must not have. */
export const fileName = (name: string): string => name.replace(/[\\/:*?"<>|]/g, '_');

/** Hands a file to the person. */
export function saveAs(name: string, content: BlobPart, type: string): void {
	const url = URL.createObjectURL(new Blob([content], { type }));
	const link = document.createElement('a');
	link.href = url;
	link.download = fileName(name);
	link.click();
	setTimeout(() => URL.revokeObjectURL(url), 10_000);
}
