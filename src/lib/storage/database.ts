/** The browser's database: drawings, their records and steps, pictures by content hash, small pictures. */
import { openDB, type DBSchema, type IDBPDatabase } from 'idb';
import type { DrawingRecord } from '../core/document/drawing';
import type { Step } from '../core/document/history';

export interface DrawingHead {
	readonly id: string;
	readonly name: string;
	/** Milliseconds since 1970. */
	readonly changedAt: number;
	/** How many of the stored steps are done; those beyond it can be done again. */
	readonly pointer: number;
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
		value: { drawing: string; record: DrawingRecord };
		indexes: { drawing: string };
	};
	steps: { key: [string, number]; value: { drawing: string; index: number; step: Step } };
	pictures: { key: string; value: StoredPicture };
	thumbnails: { key: string; value: { drawing: string; picture: Blob } };
}

export type Database = IDBPDatabase<EvenThreadSchema>;

/** What each version of the database adds to the one before. */
const UPGRADES: readonly ((db: IDBPDatabase<EvenThreadSchema>) => void)[] = [
	(db) => {
		db.createObjectStore('drawings', { keyPath: 'id' });
		const records = db.createObjectStore('records', { keyPath: ['drawing', 'record.id'] });
		records.createIndex('drawing', 'drawing');
		db.createObjectStore('steps', { keyPath: ['drawing', 'index'] });
		db.createObjectStore('pictures', { keyPath: 'hash' });
		db.createObjectStore('thumbnails', { keyPath: 'drawing' });
	}
];

let opened: Promise<Database> | undefined;

/** Opens the database once per page. */
export function openDatabase(): Promise<Database> {
	opened ??= openDB<EvenThreadSchema>('even-thread', UPGRADES.length, {
		upgrade(db, from) {
			for (let v = from; v < UPGRADES.length; v++) UPGRADES[v](db);
		},
		blocking(_current, _blocked, event) {
			(event.target as IDBDatabase).close();
			opened = undefined;
		}
	});
	return opened;
}
