/** The browser's database: drawings, their records and steps, pictures by content hash, small pictures. */
import { openDB, type DBSchema, type IDBPDatabase, type IDBPTransaction, type StoreNames } from 'idb';
import type { DrawingRecord } from '../core/document/drawing';
import type { Step } from '../core/document/history';
import type { Workshop } from '../core/document/job';
import { RECORD_VERSION, upgradeRecord, upgradeStep } from '../core/document/upgrade';

export interface DrawingHead {
	readonly id: string;
	readonly name: string;
	/** Milliseconds since 1970. */
	readonly changedAt: number;
	/** How many of the stored steps are done; those beyond it can be done again. */
	readonly pointer: number;
	/** Counts the writes, so that none is made on a state that has gone on; 0 where nothing is said. */
	readonly revision?: number;
	/** The word under which it lies with others. */
	readonly shelf?: string;
	/** When it was thrown away, milliseconds since 1970; it comes back for a while. */
	readonly thrownAt?: number;
}

/** A drawing kept whole at some time, under a word. */
export interface KeptVersion {
	readonly drawing: string;
	readonly id: string;
	readonly word: string;
	/** Milliseconds since 1970. */
	readonly at: number;
	readonly name: string;
	/** Hashes of its records; the first versions of the program wrote the records themselves. */
	readonly of?: readonly string[];
	readonly records?: readonly DrawingRecord[];
	readonly v: number;
	/** Kept by the program before something large. */
	readonly byItself?: boolean;
	readonly picture?: Blob;
}

export interface StoredPicture {
	readonly hash: string;
	readonly mediaType: string;
	readonly bytes: Uint8Array;
}

export interface EvenThreadSchema extends DBSchema {
	drawings: { key: string; value: DrawingHead };
	records: {
		key: [string, string];
		/** `v` is the version of the record; rows of the first two say none. */
		value: { drawing: string; record: DrawingRecord; v?: number };
		indexes: { drawing: string };
	};
	steps: { key: [string, number]; value: { drawing: string; index: number; step: Step; v?: number } };
	/** Records that did not hold when they were read back. */
	aside: { key: [string, string]; value: { drawing: string; id: string; why: string; record: unknown } };
	versions: { key: [string, string]; value: KeptVersion };
	/** Records of versions, each once. */
	kept: { key: [string, string]; value: { drawing: string; hash: string; record: DrawingRecord; v: number } };
	/** Files on the desk, where the browser keeps such. */
	handles: { key: string; value: { drawing: string; handle: FileSystemFileHandle } };
	pictures: { key: string; value: StoredPicture };
	thumbnails: { key: string; value: { drawing: string; picture: Blob } };
	/** Machines, tools and materials: one row, beside the drawings. */
	workshop: { key: string; value: { id: string; workshop: Workshop } };
}

export type Database = IDBPDatabase<EvenThreadSchema>;

type Upgrade = (
	db: IDBPDatabase<EvenThreadSchema>,
	tx: IDBPTransaction<EvenThreadSchema, StoreNames<EvenThreadSchema>[], 'versionchange'>
) => Promise<void> | void;

/** What each version of the database adds to the one before, in the transaction that raises it. */
const UPGRADES: readonly Upgrade[] = [
	(db) => {
		db.createObjectStore('drawings', { keyPath: 'id' });
		const records = db.createObjectStore('records', { keyPath: ['drawing', 'record.id'] });
		records.createIndex('drawing', 'drawing');
		db.createObjectStore('steps', { keyPath: ['drawing', 'index'] });
		db.createObjectStore('pictures', { keyPath: 'hash' });
		db.createObjectStore('thumbnails', { keyPath: 'drawing' });
	},
	async (db, tx) => {
		db.createObjectStore('aside', { keyPath: ['drawing', 'id'] });
		const records = tx.objectStore('records');
		for (let row = await records.openCursor(); row; row = await row.continue()) {
			const { drawing, record, v = FIRST_VERSION } = row.value;
			await row.update({
				drawing,
				record: safely(record, () => upgradeRecord(record, v)),
				v: RECORD_VERSION
			});
		}
		const steps = tx.objectStore('steps');
		for (let row = await steps.openCursor(); row; row = await row.continue()) {
			const { step, v = FIRST_VERSION, ...rest } = row.value;
			await row.update({ ...rest, step: safely(step, () => upgradeStep(step, v)), v: RECORD_VERSION });
		}
	},
	(db) => {
		db.createObjectStore('versions', { keyPath: ['drawing', 'id'] });
	},
	(db) => {
		db.createObjectStore('workshop', { keyPath: 'id' });
	},
	(db) => {
		db.createObjectStore('kept', { keyPath: ['drawing', 'hash'] });
		db.createObjectStore('handles', { keyPath: 'drawing' });
	}
];
/** Rows without a version were written by the second; what it added to the first may be missing. */
const FIRST_VERSION = 2;

/** One row that cannot be upgraded does not stop the others: it is told when it is read. */
function safely<T>(row: T, upgrade: () => T): T {
	try {
		return upgrade();
	} catch {
		return row;
	}
}

export const DATABASE_VERSION = UPGRADES.length;
let opened: Promise<Database> | undefined;

/** Opens the database once per page; one that could not be opened is tried again the next time. */
export function openDatabase(): Promise<Database> {
	opened ??= open().catch((error: unknown) => {
		opened = undefined;
		throw error;
	});
	return opened;
}

const open = async (): Promise<Database> =>
	openDB<EvenThreadSchema>('even-thread', DATABASE_VERSION, {
		async upgrade(db, from, _to, tx) {
			try {
				for (let v = from; v < DATABASE_VERSION; v++) await UPGRADES[v](db, tx);
			} catch {
				// All of it or nothing: what stops it in the middle leaves the database as it was, and opening it is told as refused.
				tx.done.catch(() => undefined);
				tx.abort();
			}
		},
		blocking(_current, _blocked, event) {
			(event.target as IDBDatabase).close();
			opened = undefined;
		},
		terminated() {
			opened = undefined;
		}
	});

/** Closes it, so that the next use opens it anew. */
export async function closeDatabase(): Promise<void> {
	const db = await opened;
	opened = undefined;
	db?.close();
}
