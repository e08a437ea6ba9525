/** Drawings in the browser's database: typed reads and writes. A step and what it touched go in one transaction. */
import type { IDBPTransaction } from 'idb';
import type { Drawing } from '../core/document/drawing';
import { readBack, wholeHistory, type ReadBack } from '../core/document/read-back';
import { RECORD_VERSION } from '../core/document/upgrade';
import { isRecord } from '../core/formats/record-check';
import { isRenaming, touchedIds, type Step } from '../core/document/history';
import { openDatabase, type DrawingHead, type EvenThreadSchema, type StoredPicture } from './database';
import { StorageConflict } from './writes';

let latest = 0;
/** ms since 1970, later each time: of two drawings that are written within one of them the second is the latest. */
const moment = (): number => (latest = Math.max(latest + 1, Date.now()));

export interface StoredDrawing {
	readonly drawing: Drawing;
	readonly steps: Step[];
	readonly pointer: number;
	readonly revision: number;
	/** How many stored steps did not fit and are left out; the next write puts the history in order. */
	readonly cut: number;
	/** What of it did not hold and was set aside, each with the reason. */
	readonly aside: ReadBack['aside'];
}

const STRICT = { durability: 'strict' } as const;

/** Days that what was thrown away can be taken back. */
export const DAYS_KEPT = 30;

/** All drawings, the latest first. */
export async function listDrawings(): Promise<DrawingHead[]> {
	const db = await openDatabase();
	return (await db.getAll('drawings'))
		.filter(({ thrownAt }) => thrownAt === undefined)
		.sort((a, b) => b.changedAt - a.changedAt);
}

/** What was thrown away and can be taken back, the latest first; what has lain there for longer goes. */
export async function listThrown(now = Date.now()): Promise<DrawingHead[]> {
	const db = await openDatabase();
	const thrown = (await db.getAll('drawings')).filter(({ thrownAt }) => thrownAt !== undefined);
	const isOver = ({ thrownAt = 0 }: DrawingHead) => now - thrownAt > DAYS_KEPT * 86_400_000;
	for (const { id } of thrown.filter(isOver)) await removeDrawing(id);
	return thrown.filter((head) => !isOver(head)).sort((a, b) => b.thrownAt! - a.thrownAt!);
}

/** Something said of a drawing in the list; what says nothing is taken back. Whoever edits it goes on unless it is thrown away. */
export async function sayOfDrawing(
	id: string,
	said: {
		readonly name?: string;
		readonly shelf?: string | undefined;
		readonly thrownAt?: number | undefined;
	}
): Promise<void> {
	await inOne(['drawings'], async (tx) => {
		const head = await tx.objectStore('drawings').get(id);
		if (!head) throw new StorageConflict('gone');
		const { shelf, thrownAt, ...rest } = { ...head, ...said };
		await tx.objectStore('drawings').put({
			...rest,
			...(shelf ? { shelf } : {}),
			...(thrownAt === undefined ? {} : { thrownAt })
		});
	});
}

/** Another drawing with all that a drawing has: its steps, its small picture and the shelf that it lies on. @throws StorageConflict */
export async function copyDrawing(id: string, copy: string): Promise<void> {
	const stored = await loadDrawing(id);
	if (!stored) throw new StorageConflict('gone');
	const { drawing, steps, pointer } = stored;
	await storeDrawing({ ...drawing, id: copy, name: `${drawing.name}, copy` }, { steps, pointer });
	const head = await (await openDatabase()).get('drawings', id);
	if (head?.shelf) await sayOfDrawing(copy, { shelf: head.shelf });
	const thumbnail = await loadThumbnail(id);
	if (thumbnail) await storeThumbnail(copy, thumbnail);
}

export async function loadDrawing(id: string): Promise<StoredDrawing | undefined> {
	const db = await openDatabase();
	const tx = db.transaction(['drawings', 'records', 'steps']);
	const head = await tx.objectStore('drawings').get(id);
	if (!head || head.thrownAt !== undefined) return undefined;
	const rows = await tx.objectStore('records').index('drawing').getAll(id);
	const steps = await tx.objectStore('steps').getAll(stepsOf(id));
	const { records, aside } = readBack(
		rows.map((row) => row.record),
		isRecord
	);
	if (aside.length) await setAside(id, aside);
	const drawing = { id, name: head.name, records };
	return { drawing, ...wholeHistory(drawing, steps, head.pointer), revision: head.revision ?? 0, aside };
}

/** Records that do not hold are kept apart, so that they are told once and stop nothing. */
async function setAside(drawing: string, aside: ReadBack['aside']): Promise<void> {
	const db = await openDatabase();
	const tx = db.transaction(['records', 'aside'], 'readwrite', STRICT);
	for (const { id, why, record } of aside) {
		void tx.objectStore('aside').put({ drawing, id, why, record });
		void tx.objectStore('records').delete([drawing, id]);
	}
	await tx.done;
}

/** Whatever lies under a drawing's id and another one. */
export const rowsOf = (id: string) => IDBKeyRange.bound([id, ''], [id, '\uffff']);
const stepsOf = (id: string, from = 0) => IDBKeyRange.bound([id, from], [id, Infinity]);

type Stores = ('drawings' | 'records' | 'steps' | 'versions' | 'kept' | 'thumbnails' | 'handles')[];
type WriteTransaction = IDBPTransaction<EvenThreadSchema, Stores, 'readwrite'>;

/** Writes all of it or nothing: what is refused in the middle takes back what went before it. */
export async function inOne<T>(stores: Stores, work: (tx: WriteTransaction) => Promise<T>): Promise<T> {
	const db = await openDatabase();
	const tx = db.transaction(stores, 'readwrite', STRICT);
	// Told where it is awaited; a refusal of the work itself comes first.
	tx.done.catch(() => undefined);
	try {
		const value = await work(tx);
		await tx.done;
		return value;
	} catch (error) {
		try {
			tx.abort();
		} catch {
			// It is over already.
		}
		throw error;
	}
}

/** The head as it is, where it is what the write goes on from. @throws StorageConflict */
async function headAt(tx: WriteTransaction, id: string, revision: number | undefined): Promise<DrawingHead> {
	const head = await tx.objectStore('drawings').get(id);
	if (!head || head.thrownAt !== undefined) throw new StorageConflict('gone');
	if (revision !== undefined && (head.revision ?? 0) !== revision) throw new StorageConflict('overtaken');
	return head;
}

async function putRecords(tx: WriteTransaction, drawing: Drawing, ids: Iterable<string>): Promise<void> {
	const records = tx.objectStore('records');
	for (const id of ids) {
		const record = drawing.records.get(id);
		if (record) await records.put({ drawing: drawing.id, record, v: RECORD_VERSION });
		else await records.delete([drawing.id, id]);
	}
}

/** Puts a whole drawing there, with its steps where it has any. @returns its revision. */
export async function storeDrawing(
	drawing: Drawing,
	history: { readonly steps: readonly Step[]; readonly pointer: number } = { steps: [], pointer: 0 }
): Promise<number> {
	return inOne(['drawings', 'records', 'steps'], async (tx) => {
		const records = tx.objectStore('records');
		const old = await records.index('drawing').getAllKeys(drawing.id);
		for (const key of old) await records.delete(key);
		await putRecords(tx, drawing, drawing.records.keys());
		const before = await tx.objectStore('drawings').get(drawing.id);
		const revision = (before?.revision ?? 0) + 1;
		await putSteps(tx, drawing.id, history.steps);
		await tx.objectStore('drawings').put({
			id: drawing.id,
			name: drawing.name,
			changedAt: moment(),
			pointer: history.pointer,
			revision,
			...(before?.shelf ? { shelf: before.shelf } : {})
		});
		return revision;
	});
}

async function putSteps(tx: WriteTransaction, drawing: string, steps: readonly Step[]): Promise<void> {
	const store = tx.objectStore('steps');
	await store.delete(stepsOf(drawing));
	for (const [index, step] of steps.entries()) await store.put({ drawing, index, step, v: RECORD_VERSION });
}

/** Puts the steps of a drawing in order where what was stored of them did not fit. @throws StorageConflict */
export async function storeHistory(
	drawing: string,
	steps: readonly Step[],
	pointer: number,
	revision: number
): Promise<number> {
	return inOne(['drawings', 'steps'], async (tx) => {
		const head = await headAt(tx, drawing, revision);
		await putSteps(tx, drawing, steps);
		await tx.objectStore('drawings').put({ ...head, pointer, revision: revision + 1 });
		return revision + 1;
	});
}

/**
 * Writes where the drawing stands after a step was made, undone or done again, in one transaction: the touched records, the
 * pointer, and the step itself when it is new (steps that had been undone are then gone).
 * @param revision of the stored drawing that this goes on from; not looked at where it is left out.
 * @returns the revision that it makes.
 * @throws StorageConflict where the drawing is gone, has gone on, or a step before this one is missing.
 */
export async function storeStep(
	drawing: Drawing,
	step: Step,
	pointer: number,
	isNew: boolean,
	revision?: number
): Promise<number> {
	return inOne(['drawings', 'records', 'steps'], async (tx) => {
		const head = await headAt(tx, drawing.id, revision);
		const steps = tx.objectStore('steps');
		if (pointer > 1 && (await steps.getKey([drawing.id, pointer - 2])) === undefined)
			throw new StorageConflict('overtaken');
		await putRecords(tx, drawing, touchedIds(step));
		if (isNew) {
			await steps.delete(stepsOf(drawing.id, pointer - 1));
			await steps.put({ drawing: drawing.id, index: pointer - 1, step, v: RECORD_VERSION });
		}
		const next = (head.revision ?? 0) + 1;
		// A name that it was given in the list meanwhile stays.
		const name = isRenaming(step) ? drawing.name : head.name;
		await tx.objectStore('drawings').put({ ...head, name, changedAt: moment(), pointer, revision: next });
		return next;
	});
}

/** Writes records that came late, and the step that they are part of now. @throws StorageConflict */
export async function storeAmended(
	drawing: Drawing,
	ids: Iterable<string>,
	amended?: { readonly step: Step; readonly index: number },
	revision?: number
): Promise<number> {
	return inOne(['drawings', 'records', 'steps'], async (tx) => {
		const head = await headAt(tx, drawing.id, revision);
		await putRecords(tx, drawing, ids);
		if (amended) await tx.objectStore('steps').put({ drawing: drawing.id, ...amended, v: RECORD_VERSION });
		const next = (head.revision ?? 0) + 1;
		await tx.objectStore('drawings').put({ ...head, revision: next });
		return next;
	});
}

/** Takes a drawing out, with everything that belongs to it alone. */
export async function removeDrawing(id: string): Promise<void> {
	await inOne(['drawings', 'records', 'steps', 'versions', 'kept', 'thumbnails', 'handles'], async (tx) => {
		await tx.objectStore('drawings').delete(id);
		const keys = await tx.objectStore('records').index('drawing').getAllKeys(id);
		for (const key of keys) await tx.objectStore('records').delete(key);
		await tx.objectStore('steps').delete(stepsOf(id));
		for (const store of ['versions', 'kept'] as const) await tx.objectStore(store).delete(rowsOf(id));
		await tx.objectStore('handles').delete(id);
		await tx.objectStore('thumbnails').delete(id);
	});
}

export async function storePicture(picture: StoredPicture): Promise<void> {
	const db = await openDatabase();
	await db.put('pictures', picture);
}

export async function loadPicture(hash: string): Promise<StoredPicture | undefined> {
	const db = await openDatabase();
	return db.get('pictures', hash);
}

export async function storeThumbnail(drawing: string, picture: Blob): Promise<void> {
	const db = await openDatabase();
	await db.put('thumbnails', { drawing, picture });
}

export async function loadThumbnail(drawing: string): Promise<Blob | undefined> {
	const db = await openDatabase();
	return (await db.get('thumbnails', drawing))?.picture;
}

/** SHA-256 of bytes, hexadecimal. */
export async function hashOf(bytes: Uint8Array): Promise<string> {
	const digest = await crypto.subtle.digest('SHA-256', bytes as Uint8Array<ArrayBuffer>);
	return Array.from(new Uint8Array(digest), (b) => b.toString(16).padStart(2, '0')).join('');
}

/** The file on the desk that a drawing was opened from or is written to, where the browser keeps such. */
export async function fileOf(drawing: string): Promise<FileSystemFileHandle | undefined> {
	return (await (await openDatabase()).get('handles', drawing))?.handle;
}
export async function keepFile(drawing: string, handle: FileSystemFileHandle): Promise<void> {
	await (await openDatabase()).put('handles', { drawing, handle });
}
