/**
 * Versions of a drawing: each says which records it had. A record lies here once, under the hash of what it is, however many
 * versions have it; so a version costs what has changed since the one before.
 */
import { inOrderOfNames } from '../core/document/compared';
import type { Drawing, DrawingRecord } from '../core/document/drawing';
import { readBack } from '../core/document/read-back';
import { RECORD_VERSION, upgradeRecord } from '../core/document/upgrade';
import { isRecord } from '../core/formats/record-check';
import { openDatabase, type KeptVersion } from './database';
import { hashOf, inOne, rowsOf } from './drawings';

/** What a version is kept as. */
export interface NewVersion {
	readonly id: string;
	readonly word: string;
	/** Kept by itself, before something large. */
	readonly byItself?: boolean;
	/** A small picture of it. */
	readonly picture?: Blob;
	readonly at?: number;
}

/** Hashes of records that were seen: they are replaced, never written. */
const hashes = new WeakMap<DrawingRecord, Promise<string>>();

/** A record's hash: of its fields in the order of their names, packed numbers bit by bit. */
export function recordHash(record: DrawingRecord): Promise<string> {
	let hash = hashes.get(record);
	if (!hash) hashes.set(record, (hash = hashOf(bytesOf(record))));
	return hash;
}

function bytesOf(record: DrawingRecord): Uint8Array {
	const packed: Uint8Array[] = [];
	let length = 0;
	const text = JSON.stringify(record, (_key, value: unknown) => {
		if (ArrayBuffer.isView(value)) {
			const bytes = new Uint8Array(value.buffer, value.byteOffset, value.byteLength);
			packed.push(bytes);
			length += bytes.length;
			return { packed: value.constructor.name, bytes: bytes.length };
		}
		return inOrderOfNames(value);
	});
	const head = new TextEncoder().encode(text);
	const all = new Uint8Array(head.length + length);
	all.set(head);
	let at = head.length;
	for (const bytes of packed) {
		all.set(bytes, at);
		at += bytes.length;
	}
	return all;
}

/** Keeps the whole drawing as it is. */
export async function storeVersion(drawing: Drawing, version: NewVersion): Promise<void> {
	const records = [...drawing.records.values()];
	const of = await Promise.all(records.map(recordHash));
	const { id, word, byItself, picture, at = Date.now() } = version;
	await inOne(['versions', 'kept'], async (tx) => {
		const kept = tx.objectStore('kept');
		const there = new Set((await kept.getAllKeys(rowsOf(drawing.id))).map(([, hash]) => hash));
		for (const [i, record] of records.entries())
			if (!there.has(of[i])) await kept.put({ drawing: drawing.id, hash: of[i], record, v: RECORD_VERSION });
		await tx.objectStore('versions').put({
			drawing: drawing.id,
			id,
			word,
			at,
			name: drawing.name,
			of,
			v: RECORD_VERSION,
			...(byItself ? { byItself } : {}),
			...(picture ? { picture } : {})
		});
	});
}

/** What was kept of a drawing, the latest first. */
export async function listVersions(drawing: string): Promise<KeptVersion[]> {
	const db = await openDatabase();
	return (await db.getAll('versions', rowsOf(drawing))).sort((a, b) => b.at - a.at);
}

/** The records of a version as they are today, looked at one by one. */
export async function recordsOfVersion(version: KeptVersion): Promise<Map<string, DrawingRecord>> {
	const rows = version.of
		? await keptRows(version.drawing, version.of)
		: (version.records ?? []).map((record) => ({ record, v: version.v }));
	return readBack(
		rows.map(({ record, v }) => (v < RECORD_VERSION ? upgradeRecord(record, v) : record)),
		isRecord
	).records;
}

/** Kept records by their hashes; what is not there is left out. */
async function keptRows(drawing: string, of: readonly string[]) {
	const { store } = (await openDatabase()).transaction('kept');
	return (await Promise.all(of.map((hash) => store.get([drawing, hash])))).flatMap((row) => row ?? []);
}

/** Another word for a version; one that was kept by itself stays from then on. */
export async function nameVersion({ drawing, id }: KeptVersion, word: string): Promise<void> {
	await inOne(['versions'], async (tx) => {
		const row = await tx.objectStore('versions').get([drawing, id]);
		if (!row) return;
		const { byItself: _, ...rest } = row;
		await tx.objectStore('versions').put({ ...rest, word });
	});
}

/** Takes versions out, and the records that no other version of the drawing has. */
export async function removeVersions(drawing: string, ids: readonly string[]): Promise<void> {
	if (ids.length === 0) return;
	await inOne(['versions', 'kept'], async (tx) => {
		for (const id of ids) await tx.objectStore('versions').delete([drawing, id]);
		const left = await tx.objectStore('versions').getAll(rowsOf(drawing));
		const wanted = new Set(left.flatMap(({ of = [] }) => of));
		for (const key of await tx.objectStore('kept').getAllKeys(rowsOf(drawing)))
			if (!wanted.has(key[1])) await tx.objectStore('kept').delete(key);
	});
}

const DAY_MS = 86_400_000;
/** Days that all that was kept by itself stays; then one a day, later one a month. */
const ALL_DAYS = 1;
const DAILY_DAYS = 30;
/** How many of those kept by themselves stay of the last day. */
const MOST_OF_A_DAY = 24;

/**
 * Which versions go with age: of those kept by themselves all of the last day stay (the latest of them, if there are many), of
 * the last month the last of each day, before that the last of each month. What a person named stays.
 */
export function tooOld(versions: readonly KeptVersion[], now: number): readonly KeptVersion[] {
	const seen = new Set<string>();
	let lately = 0;
	return versions
		.filter(({ byItself }) => byItself)
		.sort((a, b) => b.at - a.at)
		.filter(({ at }) => {
			const days = (now - at) / DAY_MS;
			if (days < ALL_DAYS) return ++lately > MOST_OF_A_DAY;
			const date = new Date(at).toISOString();
			const slot = date.slice(0, days < DAILY_DAYS ? 10 : 7);
			if (seen.has(slot)) return true;
			seen.add(slot);
			return false;
		});
}
