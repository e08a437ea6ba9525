/** The workshop in the browser's database: one row. */
import type { Workshop } from '../core/document/job';
import { openDatabase } from './database';

const KEY = 'workshop';

/** What is kept; undefined where nothing is. */
export async function loadWorkshop(): Promise<Workshop | undefined> {
	const db = await openDatabase();
	return (await db.get('workshop', KEY))?.workshop;
}

export async function storeWorkshop(workshop: Workshop): Promise<void> {
	const db = await openDatabase();
	await db.put('workshop', { id: KEY, workshop });
}
