/** Drawings in the browser's database: typed reads and writes. A step and what it touched go in one transaction. */
import type { Drawing } from '../core/document/drawing';
import { readBack, type ReadBack } from '../core/document/read-back';
import { RECORD_VERSION } from '../core/document/upgrade';
import { isRecord } from '../core/formats/record-check';
import { touchedIds, type Step } from '../core/document/history';
import { openDatabase, type DrawingHead, type StoredPicture } from './database';

export interface StoredDrawing {
	readonly drawing: Drawing;
	readonly steps: Step[];
	readonly pointer: number;
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
	return {
		drawing: { id, name: head.name, records },
		steps: steps.map((s) => s.step),
		pointer: head.pointer,
		aside
	};
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

/** Puts a whole drawing there, with no steps. */
export async function storeDrawing(drawing: Drawing): Promise<void> {
	const db = await openDatabase();
	const tx = db.transaction(['drawings', 'records', 'steps'], 'readwrite', STRICT);
	const records = tx.objectStore('records');
	const old = await records.index('drawing').getAllKeys(drawing.id);
	for (const key of old) void records.delete(key);
	for (const record of drawing.records.values())
		void records.put({ drawing: drawing.id, record, v: RECORD_VERSION });
	void tx.objectStore('steps').delete(stepsOf(drawing.id));
	void tx
		.objectStore('drawings')
		.put({ id: drawing.id, name: drawing.name, changedAt: Date.now(), pointer: 0 });
	await tx.done;
}

/**
 * Writes where the drawing stands after a step was made, undone or done again: the touched records, the pointer, and
 * the step itself when it is new (steps that had been undone are then gone).
 */
export async function storeStep(
	drawing: Drawing,
	step: Step,
	pointer: number,
	isNew: boolean
): Promise<void> {
	const db = await openDatabase();
	const tx = db.transaction(['drawings', 'records', 'steps'], 'readwrite', STRICT);
	const records = tx.objectStore('records');
	for (const id of touchedIds(step)) {
		const record = drawing.records.get(id);
		if (record) void records.put({ drawing: drawing.id, record, v: RECORD_VERSION });
		else void records.delete([drawing.id, id]);
	}
	if (isNew) {
		void tx.objectStore('steps').delete(stepsOf(drawing.id, pointer - 1));
		void tx.objectStore('steps').put({ drawing: drawing.id, index: pointer - 1, step, v: RECORD_VERSION });
	}
	void tx.objectStore('drawings').put({ id: drawing.id, name: drawing.name, changedAt: Date.now(), pointer });
	await tx.done;
}

/** Writes records that came late, and the step that they are part of now. */
export async function storeAmended(
	drawing: Drawing,
	ids: Iterable<string>,
	step?: Step,
	index?: number
): Promise<void> {
	const db = await openDatabase();
	const tx = db.transaction(['records', 'steps'], 'readwrite', STRICT);
	const records = tx.objectStore('records');
	for (const id of ids) {
		const record = drawing.records.get(id);
		if (record) void records.put({ drawing: drawing.id, record, v: RECORD_VERSION });
		else void records.delete([drawing.id, id]);
	}
	if (step && index !== undefined)
		void tx.objectStore('steps').put({ drawing: drawing.id, index, step, v: RECORD_VERSION });
	await tx.done;
}

/** Takes a drawing out, with everything that belongs to it alone. */
export async function removeDrawing(id: string): Promise<void> {
	const db = await openDatabase();
	const tx = db.transaction(['drawings', 'records', 'steps', 'thumbnails'], 'readwrite', STRICT);
	void tx.objectStore('drawings').delete(id);
	const keys = await tx.objectStore('records').index('drawing').getAllKeys(id);
	for (const key of keys) void tx.objectStore('records').delete(key);
	void tx.objectStore('steps').delete(stepsOf(id));
	void tx.objectStore('thumbnails').delete(id);
	await tx.done;
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
