/** Drawings in the browser's database: typed reads and writes. A step and what it touched go in one transaction. */
import type { IDBPTransaction } from 'idb';
import type { Drawing, DrawingRecord } from '../core/document/drawing';
import { readBack, wholeHistory, type ReadBack } from '../core/document/read-back';
import { RECORD_VERSION, upgradeRecord } from '../core/document/upgrade';
import { isRecord } from '../core/formats/record-check';
import { touchedIds, type Step } from '../core/document/history';
import {
	openDatabase,
	type DrawingHead,
	type EvenThreadSchema,
	type KeptVersion,
	type StoredPicture
} from './database';
import { StorageConflict } from './writes';

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

/** All drawings, the latest first. */
export async function listDrawings(): Promise<DrawingHead[]> {
	const db = await openDatabase();
	return (await db.getAll('drawings')).sort((a, b) => b.changedAt - a.changedAt);
}

export async function loadDrawing(id: string): Promise<StoredDrawing | undefined> {
	const db = await openDatabase();
	const tx = db.transaction(['drawings', 'records', 'steps']);
	const head = await tx.objectStore('drawings').get(id);
	if (!head) return undefined;
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

const stepsOf = (id: string, from = 0) => IDBKeyRange.bound([id, from], [id, Infinity]);

type Stores = ('drawings' | 'records' | 'steps' | 'versions' | 'thumbnails')[];
type WriteTransaction = IDBPTransaction<EvenThreadSchema, Stores, 'readwrite'>;

/** Writes all of it or nothing: what is refused in the middle takes back what went before it. */
async function inOne<T>(stores: Stores, work: (tx: WriteTransaction) => Promise<T>): Promise<T> {
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
	if (!head) throw new StorageConflict('gone');
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
		const revision = ((await tx.objectStore('drawings').get(drawing.id))?.revision ?? 0) + 1;
		await putSteps(tx, drawing.id, history.steps);
		await tx.objectStore('drawings').put({
			id: drawing.id,
			name: drawing.name,
			changedAt: Date.now(),
			pointer: history.pointer,
			revision
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
		await tx
			.objectStore('drawings')
			.put({ id: drawing.id, name: drawing.name, changedAt: Date.now(), pointer, revision: next });
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

/** Keeps the whole drawing as it is under a word. */
export async function storeVersion(drawing: Drawing, id: string, word: string): Promise<void> {
	const { name, records } = drawing;
	await inOne(['versions'], async (tx) => {
		await tx.objectStore('versions').put({
			drawing: drawing.id,
			id,
			word,
			at: Date.now(),
			name,
			records: [...records.values()],
			v: RECORD_VERSION
		});
	});
}

/** What was kept of a drawing, the latest first. */
export async function listVersions(drawing: string): Promise<KeptVersion[]> {
	const db = await openDatabase();
	const list = await db.getAll('versions', IDBKeyRange.bound([drawing, ''], [drawing, '\uffff']));
	return list.sort((a, b) => b.at - a.at);
}

/** The records of a kept version as they are today, looked at one by one. */
export function recordsOfVersion({ records, v }: KeptVersion): Map<string, DrawingRecord> {
	return readBack(
		records.map((record) => (v < RECORD_VERSION ? upgradeRecord(record, v) : record)),
		isRecord
	).records;
}

/** Takes a drawing out, with everything that belongs to it alone. */
export async function removeDrawing(id: string): Promise<void> {
	await inOne(['drawings', 'records', 'steps', 'versions', 'thumbnails'], async (tx) => {
		await tx.objectStore('drawings').delete(id);
		const keys = await tx.objectStore('records').index('drawing').getAllKeys(id);
		for (const key of keys) await tx.objectStore('records').delete(key);
		await tx.objectStore('steps').delete(stepsOf(id));
		await tx.objectStore('versions').delete(IDBKeyRange.bound([id, ''], [id, '\uffff']));
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
