/** Drawings that older versions stored come back as they were, with their steps; what does not hold stops nothing. */
import 'fake-indexeddb/auto';
import { readFileSync } from 'node:fs';
import { deleteDB } from 'idb';
import { afterEach, beforeEach, describe, expect, test, vi } from 'vitest';
import { applyStep } from '../core/document/history';
import { writeOldDatabase } from '../../../tests/old-database';
import { lineOf, outlineFromPath, type Outline } from '../core/document/outline';
import { newDrawing, outlinesOf, recordAs, type Drawing, type DrawingRecord } from '../core/document/drawing';
import { madeAfresh } from '../core/document/graph';
import { circlePath } from '../core/geometry/path';
import { closeDatabase, DATABASE_VERSION, openDatabase } from './database';
import { loadDrawing, storeDrawing } from './drawings';

interface Fixture {
	drawings: unknown[];
	records: { record: unknown }[];
	steps: unknown[];
	lines: Record<'now' | 'last', Record<string, number[]>>;
}
/** Written by the program's second version: a database of version 1, two of its steps undone. */
const fixture = revived(
	JSON.parse(readFileSync('tests/fixtures/version-2/database.json', 'utf8'))
) as unknown as Fixture;

/** Packed arrays stand in JSON as { f64 }, { u32 }, { u8 }. */
function revived(value: unknown): unknown {
	if (Array.isArray(value)) return value.map(revived);
	if (typeof value !== 'object' || value === null) return value;
	const { f64, u32, u8 } = value as { f64?: number[]; u32?: number[]; u8?: number[] };
	if (f64) return Float64Array.from(f64);
	if (u32) return Uint32Array.from(u32);
	if (u8) return Uint8Array.from(u8);
	return Object.fromEntries(Object.entries(value).map(([k, v]) => [k, revived(v)]));
}

async function oldDatabase(change: (rows: Fixture) => Fixture = (rows) => rows): Promise<void> {
	await writeOldDatabase(change(fixture));
}

const farthest = (drawing: Drawing, lines: Record<string, number[]>) =>
	Math.max(
		...outlinesOf(drawing).map((o) => {
			const { segs } = lineOf(o);
			const old = lines[o.id];
			if (old.length !== segs.length) return Infinity;
			return Math.max(...segs.map((v, i) => Math.abs(v - old[i])));
		})
	);

beforeEach(async () => {
	await closeDatabase();
	await deleteDB('even-thread');
});
afterEach(() => vi.restoreAllMocks());

describe('a database of the first version', () => {
	test('opens with every line where it lay, shapes as recipes with corners that stay editable', async () => {
		await oldDatabase();
		const stored = (await loadDrawing('old'))!;
		expect((await openDatabase()).version).toBe(DATABASE_VERSION);
		expect(stored.aside).toEqual([]);
		expect(farthest(stored.drawing, fixture.lines.now)).toBeLessThan(1e-12);
		const plate = recordAs(stored.drawing, 'outline', 'plate');
		expect(plate.recipe).toMatchObject({ kind: 'shape', settings: { shape: 'rectangle', corner: 3 } });
		expect(plate.anchors).toHaveLength(4);
		const star = recordAs(stored.drawing, 'outline', 'star');
		expect([...star.anchors]).toEqual([1, 2, 3, 4, 5, 6, 7, 8, 9, 10]);
		// Made from scratch they are the same lines.
		expect(farthest(madeAfresh(stored.drawing), fixture.lines.now)).toBeLessThan(1e-12);
	});

	test('steps undone before it are done again right, and all undone gives the empty drawing', async () => {
		await oldDatabase();
		const { drawing, steps, pointer } = (await loadDrawing('old'))!;
		expect([steps.length, pointer]).toEqual([9, 7]);
		let now = drawing;
		for (const step of steps.slice(pointer)) now = applyStep(now, step, 'forward');
		expect(farthest(now, fixture.lines.last)).toBeLessThan(1e-12);
		for (const step of [...steps].reverse()) now = applyStep(now, step, 'back');
		expect(outlinesOf(now)).toEqual([]);
		for (const step of steps) now = applyStep(now, step, 'forward');
		expect(farthest(now, fixture.lines.last)).toBeLessThan(1e-12);
	});

	test('one record that no longer holds is set aside and told; the rest opens, the next time too', async () => {
		await oldDatabase((rows) => ({
			...rows,
			records: rows.records.map((row) => {
				const record = row.record as Outline;
				if (record.id !== 'wing') return row;
				return { ...row, record: { ...record, points: record.points.slice(3) } };
			})
		}));
		const stored = (await loadDrawing('old'))!;
		expect(stored.aside).toMatchObject([{ id: 'wing', why: 'its numbers do not fit' }]);
		expect(outlinesOf(stored.drawing).map((o) => o.id)).toEqual(['plate', 'star']);
		expect((await loadDrawing('old'))!.aside).toEqual([]);
		expect(await (await openDatabase()).get('aside', ['old', 'wing'])).toMatchObject({ id: 'wing' });
	});
});

describe('what is read back', () => {
	const damaged = async (change: (o: Outline) => unknown) => {
		const drawing = newDrawing('new', 'Crow');
		const body = outlineFromPath(circlePath(0, 0, 5), { id: 'body', name: 'Body', layer: 'cut', rank: 2 });
		const records = new Map<string, DrawingRecord>(drawing.records).set('body', body);
		await storeDrawing({ ...drawing, records });
		await (
			await openDatabase()
		).put('records', {
			drawing: 'new',
			record: change(body) as DrawingRecord,
			v: 3
		});
		return (await loadDrawing('new'))!;
	};

	test('whatever is wrong with a record, it alone is set aside', async () => {
		for (const [change, why] of [
			[(o: Outline) => ({ ...o, points: o.points.map(() => NaN) }), 'one of its places is no number'],
			[(o: Outline) => ({ ...o, anchors: o.anchors.map(() => 1) }), 'two anchors have one name'],
			[(o: Outline) => ({ ...o, marks: o.marks.map(() => 9) }), 'an anchor is of no known kind'],
			[(o: Outline) => ({ ...o, colour: 7 }), 'it is no such record'],
			[(o: Outline) => ({ id: o.id, type: 'puppet' }), 'it is no such record'],
			[
				(o: Outline) => ({
					...o,
					recipe: { kind: 'shape', inputs: [], settings: { shape: 'heart' }, engine: 1, made: '' }
				}),
				'what it was made from makes no sense'
			]
		] as const) {
			const { drawing, aside } = await damaged(change);
			expect(aside.map((a) => a.why)).toEqual([why]);
			expect([...drawing.records.keys()].sort()).toEqual(['cut', 'settings']);
		}
	});

	test('what lay on a layer that is gone lies on the first; a line without its sources is plain', async () => {
		const { drawing, aside } = await damaged((o) => ({
			...o,
			layer: 'gone',
			recipe: { kind: 'offset', inputs: [{ record: 'nobody' }], settings: OFFSET, engine: 1, made: 'x' }
		}));
		expect(aside).toEqual([]);
		expect(recordAs(drawing, 'outline', 'body')).toMatchObject({ layer: 'cut' });
		expect(recordAs(drawing, 'outline', 'body').recipe).toBeUndefined();
	});

	test('an opening that failed is tried again', async () => {
		vi.spyOn(indexedDB, 'open').mockImplementationOnce(() => {
			throw new DOMException('not now', 'UnknownError');
		});
		await expect(openDatabase()).rejects.toThrow('not now');
		expect((await openDatabase()).version).toBe(DATABASE_VERSION);
	});
});

const OFFSET = {
	distance: 2,
	steps: 1,
	way: 'outside',
	join: 'round',
	miterLimit: 4,
	side: 'both',
	ends: 'round',
	band: false
};
