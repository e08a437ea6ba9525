/** A database as the program's second version wrote it (of version 1), for tests of what becomes of it. */
import { openDB } from 'idb';

export interface OldRows {
	readonly drawings: readonly unknown[];
	readonly records: readonly unknown[];
	readonly steps: readonly unknown[];
}

/** Puts the rows into a new database of version 1, and closes it. */
export async function writeOldDatabase(rows: OldRows): Promise<void> {
	const db = await openDB('even-thread', 1, {
		upgrade(d) {
			d.createObjectStore('drawings', { keyPath: 'id' });
			d.createObjectStore('records', { keyPath: ['drawing', 'record.id'] }).createIndex('drawing', 'drawing');
			d.createObjectStore('steps', { keyPath: ['drawing', 'index'] });
			d.createObjectStore('pictures', { keyPath: 'hash' });
			d.createObjectStore('thumbnails', { keyPath: 'drawing' });
		}
	});
	for (const store of ['drawings', 'records', 'steps'] as const)
		for (const row of rows[store]) await db.put(store, row);
	db.close();
}
