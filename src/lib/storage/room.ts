/** What the browser's storage holds, and what of it can be freed. */
import type { DrawingRecord } from '../core/document/drawing';
import { openDatabase, type KeptVersion } from './database';
import { listThrown, removeDrawing } from './drawings';
import { removeVersions } from './versions';

/** A share of what the browser gives from which on it is said that it becomes scarce. */
const SCARCE = 0.8;

export interface Room {
	/** Bytes; undefined where the browser does not say. */
	readonly used?: number;
	readonly given?: number;
	/** The browser has promised not to clear it away by itself. */
	readonly lasting: boolean;
}

/** How much is used, as the browser says. */
export async function roomHere(): Promise<Room> {
	const { storage } = navigator as { storage?: StorageManager };
	const { usage, quota } = (await storage?.estimate?.()) ?? {};
	return {
		...(usage === undefined ? {} : { used: usage }),
		...(quota === undefined ? {} : { given: quota }),
		lasting: (await storage?.persisted?.()) ?? false
	};
}

export const isScarce = ({ used = 0, given = Infinity }: Room): boolean => used > SCARCE * given;

/** Asks the browser to keep all of it until the person clears it. */
export const askToLast = async (): Promise<boolean> =>
	(await (navigator as { storage?: StorageManager }).storage?.persist?.()) ?? false;

/** What can be freed, each with what it takes: bytes where that is known, else how many. */
export interface Freeable {
	readonly thrown: readonly string[];
	readonly byItself: readonly { readonly drawing: string; readonly id: string }[];
	readonly pictures: readonly string[];
	readonly pictureBytes: number;
}

export async function freeable(): Promise<Freeable> {
	const thrown = (await listThrown()).map(({ id }) => id);
	const db = await openDatabase();
	const versions = await db.getAll('versions');
	const { hashes, bytes } = await unusedPictures(versions);
	return {
		thrown,
		byItself: versions.filter((v) => v.byItself).map(({ drawing, id }) => ({ drawing, id })),
		pictures: hashes,
		pictureBytes: bytes
	};
}

export async function freeThrown({ thrown }: Freeable): Promise<void> {
	for (const id of thrown) await removeDrawing(id);
}
export async function freeVersions({ byItself }: Freeable): Promise<void> {
	for (const drawing of new Set(byItself.map((v) => v.drawing)))
		await removeVersions(
			drawing,
			byItself.filter((v) => v.drawing === drawing).map(({ id }) => id)
		);
}
export async function freePictures({ pictures }: Freeable): Promise<void> {
	const db = await openDatabase();
	const tx = db.transaction('pictures', 'readwrite');
	for (const hash of pictures) void tx.objectStore('pictures').delete(hash);
	await tx.done;
}

/** Pictures that no drawing, no step and no version speaks of any more. */
async function unusedPictures(
	versions: readonly KeptVersion[]
): Promise<{ readonly hashes: readonly string[]; readonly bytes: number }> {
	const db = await openDatabase();
	const used = new Set<string>();
	const look = (record: DrawingRecord | undefined) => {
		if (record?.type === 'reference') used.add(record.picture);
	};
	for (const { record } of await db.getAll('records')) look(record);
	for (const { record } of await db.getAll('kept')) look(record);
	for (const { records = [] } of versions) records.forEach(look);
	for (const { step } of await db.getAll('steps'))
		for (const change of step.changes)
			if (change.how === 'replace') {
				look(change.before);
				look(change.after);
			}
	const hashes = (await db.getAllKeys('pictures')).filter((hash) => !used.has(hash));
	let bytes = 0;
	for (const hash of hashes) bytes += (await db.get('pictures', hash))?.bytes.byteLength ?? 0;
	return { hashes, bytes };
}
