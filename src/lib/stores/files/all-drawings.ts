/** All drawings of the browser as one file, and back: what is there already alike is left, what differs is kept beside it. */
import { inOrderOfNames } from '../../core/document/compared';
import type { Drawing } from '../../core/document/drawing';
import { recordType } from '../../core/document/records';
import { failed, type Result } from '../../core/errors';
import { listDrawings, loadDrawing, sayOfDrawing } from '../../storage/drawings';
import { takeWishes, wishesHere } from '../said/wishes';
import { drawingAsFile, openDrawingFile } from './files';

/** Ending of such a file. */
export const ALL_ENDING = '.threads';

/** Every drawing with its pictures, the shelves that they lie on and what the person wishes, as a zip of drawing files. */
export async function allAsFile(): Promise<Uint8Array> {
	const { zipSync, strToU8 } = await import('fflate');
	const heads = await listDrawings();
	const files: Record<string, Uint8Array> = {};
	for (const { id } of heads) {
		const stored = await loadDrawing(id);
		if (stored) files[`${id}.thread`] = await drawingAsFile(stored.drawing);
	}
	const shelves = Object.fromEntries(heads.flatMap(({ id, shelf }) => (shelf ? [[id, shelf]] : [])));
	// Drawing files are packed already.
	const beside = { 'shelves.json': shelves, 'wishes.json': wishesHere() };
	const texts = Object.entries(beside).map(
		([name, value]) => [name, strToU8(JSON.stringify(value))] as const
	);
	return zipSync({ ...files, ...Object.fromEntries(texts) }, { level: 0 });
}

/** What came of a file of all drawings. */
export interface BroughtIn {
	readonly added: number;
	/** Drawings that are there and differ: the brought ones lie beside them. */
	readonly beside: number;
	readonly alike: number;
	/** Names of those that could not be opened. */
	readonly damaged: readonly string[];
}

/** Brings all drawings of a file in. */
export async function bringAllIn(bytes: Uint8Array): Promise<Result<BroughtIn>> {
	const { strFromU8 } = await import('fflate');
	const { unzipped } = await import('../../core/formats/unzip');
	const { readDrawingFile } = await import('../../core/formats/drawing-file');
	let files: ReadonlyMap<string, Uint8Array>;
	try {
		files = unzipped(bytes, (name) => /\.thread$|^(shelves|wishes)\.json$/.test(name));
	} catch {
		return failed('not-drawings', 'This is no file of drawings, or it is damaged.');
	}
	const names = [...files.keys()].filter((name) => name.endsWith('.thread'));
	const textIn = (name: string) => {
		const own = files.get(name);
		return own && strFromU8(own);
	};
	if (names.length === 0) return failed('not-drawings', 'There is no drawing in this file.');
	const shelves = wordsIn(textIn('shelves.json'));
	takeWishes(wordsIn(textIn('wishes.json')));
	const there = new Set((await listDrawings()).map(({ id }) => id));
	let [added, beside, alike] = [0, 0, 0];
	const damaged: string[] = [];
	for (const name of names) {
		const read = readDrawingFile(files.get(name)!);
		if (!read.ok) {
			damaged.push(name);
			continue;
		}
		const { drawing } = read.value;
		const own = there.has(drawing.id) ? await loadDrawing(drawing.id) : undefined;
		if (own && textOf(own.drawing) === textOf(drawing)) {
			alike++;
			continue;
		}
		const opened = await openDrawingFile(files.get(name)!, !own);
		if (!opened.ok) {
			if (opened.problem.code === 'storage-full') return opened;
			damaged.push(name);
			continue;
		}
		const shelf = shelves[drawing.id];
		await sayOfDrawing(opened.value, {
			...(own ? { name: `${drawing.name}, brought in` } : {}),
			...(shelf ? { shelf } : {})
		});
		if (own) beside++;
		else added++;
	}
	return { ok: true, value: { added, beside, alike, damaged } };
}

/** What a drawing says, whatever the order of its records and of what is said of them: two that say the same are alike. */
function textOf({ records }: Drawing): string {
	const rows = [...records.values()].sort((a, b) => (a.id < b.id ? -1 : 1));
	return JSON.stringify(
		rows.map((record) => recordType(record).plain(record)),
		(_, value: unknown) => inOrderOfNames(value)
	);
}

/** Words by their names; what is no word is left. */
function wordsIn(text: string | undefined): Record<string, string> {
	try {
		const read: unknown = JSON.parse(text ?? '{}');
		return Object.fromEntries(
			Object.entries(read as object).filter((row): row is [string, string] => typeof row[1] === 'string')
		);
	} catch {
		return {};
	}
}
