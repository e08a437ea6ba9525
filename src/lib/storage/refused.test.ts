/**
 * Storage that is full at any write (fake-indexeddb): refusals at random, of every kind of write (500 with REFUSALS=500). What was refused has changed
 * nothing; done again with room it is whole. And an upgrade that dies in the middle leaves the database as it was.
 */
import 'fake-indexeddb/auto';
import { deleteDB, openDB } from 'idb';
import { readFileSync } from 'node:fs';
import { afterEach, expect, test, vi } from 'vitest';
import { newDrawing, type Drawing } from '../core/document/drawing';
import { applyStep, makeStep, type Step } from '../core/document/history';
import { outlineFromPath } from '../core/document/outline';
import { polygonPath } from '../core/geometry/path';
import { writeOldDatabase } from '../../../tests/old-database';
import { refuse } from '../../../tests/refused-writes';
import { chance } from '../../../tests/shapes';
import { closeDatabase, DATABASE_VERSION, openDatabase, type Database } from './database';
import {
	copyDrawing,
	hashOf,
	loadDrawing,
	removeDrawing,
	sayOfDrawing,
	storeAmended,
	storeDrawing,
	storeHistory,
	storePicture,
	storeStep
} from './drawings';
import { listVersions, nameVersion, recordsOfVersion, removeVersions, storeVersion } from './versions';

const outline = (id: string, size: number) =>
	outlineFromPath(polygonPath([0, 0, size, 0, size, size]), { id, name: id, layer: 'cut', rank: 2 });

afterEach(() => vi.restoreAllMocks());

const STORES = ['drawings', 'records', 'steps', 'versions', 'kept', 'pictures', 'thumbnails'] as const;
/** All that lies there, as text. */
async function everything(db: Database): Promise<string> {
	const all = await Promise.all(STORES.map((store) => db.getAll(store)));
	return JSON.stringify(all, (_, value: unknown) =>
		ArrayBuffer.isView(value) ? [...(value as Float64Array)] : value
	);
}

interface State {
	drawing: Drawing;
	steps: Step[];
	versions: number;
}
/** What is done to a drawing, by a number; the state after it. */
const WRITES: readonly ((state: State, at: number) => Promise<State>)[] = [
	async (s, at) => {
		const step = makeStep(s.drawing, `Put ${at}`, { put: [outline(`o${at}`, 1 + (at % 9))] })!;
		const next = applyStep(s.drawing, step, 'forward');
		await storeStep(next, step, s.steps.length + 1, true);
		return { ...s, drawing: next, steps: [...s.steps, step] };
	},
	async (s, at) => {
		const late = { ...outline('late', 2), name: `late ${at}` };
		const drawing = { ...s.drawing, records: new Map([...s.drawing.records, ['late', late]]) };
		await storeAmended(drawing, ['late']);
		return { ...s, drawing };
	},
	async (s) => {
		const { revision } = (await loadDrawing(s.drawing.id))!;
		await storeHistory(s.drawing.id, s.steps, s.steps.length, revision);
		return s;
	},
	async (s, at) => {
		await storeVersion(s.drawing, { id: `v${at}`, word: `word ${at}` });
		return { ...s, versions: s.versions + 1 };
	},
	async (s, at) => {
		const [version] = await listVersions(s.drawing.id);
		if (version) await nameVersion(version, `named ${at}`);
		return s;
	},
	async (s) => {
		const list = await listVersions(s.drawing.id);
		if (list.length < 2) return s;
		await removeVersions(s.drawing.id, [list[1].id]);
		return { ...s, versions: s.versions - 1 };
	},
	async (s, at) => {
		await sayOfDrawing(s.drawing.id, { shelf: `shelf ${at % 3}` });
		return s;
	},
	async (s, at) => {
		const bytes = Uint8Array.of(at % 256, 1, 2);
		await storePicture({ hash: await hashOf(bytes), mediaType: 'image/png', bytes });
		return s;
	},
	async (s) => {
		await storeDrawing(s.drawing, { steps: s.steps, pointer: s.steps.length });
		return s;
	}
];

const REFUSALS = Number(process.env.REFUSALS ?? 120);
test(`${REFUSALS} refusals at random moments of random writes: nothing has changed, and with room all of it comes`, async () => {
	const random = chance(17);
	const db = await openDatabase();
	let state: State = { drawing: newDrawing('d', 'Refused'), steps: [], versions: 0 };
	await storeDrawing(state.drawing);
	let refusals = 0;
	for (let k = 0; refusals < REFUSALS; k++) {
		const write = WRITES[Math.floor(random() * WRITES.length)];
		const before = await everything(db);
		const nth = Math.floor(random() * 6);
		const refused = refuse((count) => count === nth);
		const done = await write(state, k).catch((error: unknown) => error as Error);
		const wasRefused = refused.mock.calls.length > 0;
		vi.restoreAllMocks();
		if (wasRefused) {
			refusals++;
			expect(done).toMatchObject({ name: 'QuotaExceededError' });
			expect(await everything(db)).toBe(before);
			state = await write(state, k);
		} else state = done as State;
		if (k % 25 === 0) {
			const stored = (await loadDrawing('d'))!;
			expect(stored.drawing.records).toEqual(state.drawing.records);
			expect([stored.steps, stored.pointer, stored.cut]).toEqual([state.steps, state.steps.length, 0]);
			const versions = await listVersions('d');
			expect(versions).toHaveLength(state.versions);
			for (const version of versions.slice(0, 2))
				expect((await recordsOfVersion(version)).size).toBe(version.of!.length);
			// Not ever more of them, so that what is looked at stays small.
			if (state.steps.length > 6) {
				await removeDrawing('d');
				state = { drawing: newDrawing('d', 'Refused'), steps: [], versions: 0 };
				await storeDrawing(state.drawing);
			}
		}
	}
}, 300_000);

test('a copy that is refused in the middle harms neither the drawing nor the list', async () => {
	const drawing = newDrawing('whole', 'Whole');
	await storeDrawing(drawing);
	for (let nth = 0; nth < 6; nth++) {
		const before = (await loadDrawing('whole'))!;
		const refused = refuse((count) => count === nth);
		const done = await copyDrawing('whole', `copy${nth}`).then(
			() => true,
			() => false
		);
		expect(done).toBe(refused.mock.calls.length === 0);
		vi.restoreAllMocks();
		expect(await loadDrawing('whole')).toEqual(before);
		const copy = await loadDrawing(`copy${nth}`);
		if (copy) expect(copy.drawing.records).toEqual(drawing.records);
	}
});

test('an upgrade of the database that dies at any of its writes leaves it as it was; the next one is whole', async () => {
	const fixture = JSON.parse(readFileSync('tests/fixtures/version-2/database.json', 'utf8')) as {
		drawings: object[];
		records: object[];
		steps: object[];
	};
	await closeDatabase();
	for (let nth = 0; ; nth++) {
		await deleteDB('even-thread');
		await writeOldDatabase(fixture);
		let count = 0;
		const plain = IDBCursor.prototype.update;
		vi.spyOn(IDBCursor.prototype, 'update').mockImplementation(function (this: IDBCursor, value: unknown) {
			if (count++ === nth) throw new DOMException('the power is cut', 'AbortError');
			return plain.call(this, value);
		});
		const opened = await openDatabase().then(
			() => true,
			() => false
		);
		vi.restoreAllMocks();
		if (opened) {
			// There were so many writes, each of which was the last one once.
			expect(nth).toBe(count);
			expect(nth).toBeGreaterThan(5);
			break;
		}
		const after = await openDB('even-thread');
		expect(after.version).toBe(1);
		const byKey = (rows: unknown[]) => rows.map((row) => JSON.stringify(row)).sort();
		expect(byKey(await after.getAll('records'))).toEqual(byKey(fixture.records));
		after.close();
		await closeDatabase().catch(() => undefined);
		const whole = await openDatabase();
		expect(whole.version).toBe(DATABASE_VERSION);
		expect(await whole.count('records')).toBe(fixture.records.length);
		await closeDatabase();
	}
	await closeDatabase();
}, 120_000);
