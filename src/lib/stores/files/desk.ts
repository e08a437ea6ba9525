/** Files on the person's desk: opened from there, and written back to the same file where the browser offers it. */
import { CoreError, toProblem } from '../../core/errors';
import { fileOf, keepFile } from '../../storage/drawings';
import type { Bench } from '../bench.svelte';
import { ENDINGS } from './endings';
import { fileName, saveAs } from './files';
import { written, type WrittenKind } from './writing-out';

/** Whether the browser lets a page keep hold of a file on the desk. */
export const keepsFiles = (): boolean => 'showOpenFilePicker' in globalThis;

/** The files that lie behind files: as long as the page lives. */
const handles = new WeakMap<File, FileSystemFileHandle>();
export const handleOf = (file: File): FileSystemFileHandle | undefined => handles.get(file);

/** A file out of a handle, which is remembered for it. */
async function fileFrom(handle: FileSystemFileHandle): Promise<File> {
	const file = await handle.getFile();
	handles.set(file, handle);
	return file;
}

/** Lets the person choose files; none where none was chosen. */
export async function chooseFiles(): Promise<File[]> {
	const { fileOpen } = await import('browser-fs-access');
	try {
		const files = await fileOpen({
			description: 'Pictures and drawings',
			extensions: [...ENDINGS],
			multiple: true
		});
		for (const file of files) if (file.handle) handles.set(file, file.handle);
		return files;
	} catch (error) {
		if ((error as Error).name === 'AbortError') return [];
		throw error;
	}
}

/** What is written into files that can be written back, by their ending. */
const WRITTEN: Readonly<Record<string, WrittenKind>> = { thread: 'file', svg: 'svg', dxf: 'dxf' };

/**
 * Writes the drawing back into the file that it was opened from. Where it came from none, a place is asked for once; where the
 * browser offers no such thing, it is a download.
 */
export async function writeBack(bench: Bench): Promise<void> {
	try {
		const { fileSave } = await import('browser-fs-access');
		const before = await fileOf(bench.drawing.id);
		const name = before?.name ?? `${fileName(bench.drawing.name)}.thread`;
		const ending = name.split('.').pop()?.toLowerCase() ?? '';
		const kind = WRITTEN[ending];
		if (!kind) {
			throw new CoreError(
				'not-written-back',
				`"${name}" is a picture: the drawing is written into a file of its own.`
			);
		}
		const { bytes } = await written(bench, kind);
		if (!keepsFiles()) {
			saveAs(name, bytes, 'application/octet-stream');
			bench.tell(`"${name}" was handed to the browser: it keeps no file on the desk open.`);
			return;
		}
		const handle = await fileSave(
			new Blob([bytes]),
			{ fileName: name, extensions: [`.${ending}`] },
			before ?? null
		);
		if (handle) await keepFile(bench.drawing.id, handle);
		bench.tell(`Written to "${handle?.name ?? name}".`);
	} catch (error) {
		if ((error as Error).name === 'AbortError') return;
		bench.trouble(toProblem(error));
	}
}

/** Whatever the system opens this app with, as files. */
export function whenLaunched(take: (files: readonly File[]) => Promise<void>): void {
	const { launchQueue } = globalThis as {
		launchQueue?: {
			setConsumer(take: (launch: { readonly files: readonly FileSystemFileHandle[] }) => void): void;
		};
	};
	launchQueue?.setConsumer(({ files }) => {
		void Promise.all(files.map(fileFrom)).then(take);
	});
}
