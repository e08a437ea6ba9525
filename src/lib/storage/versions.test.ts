/** Versions in the browser's database (fake-indexeddb): each record once, thinned with age, nothing lost of what stays. */
import 'fake-indexeddb/auto';
import { beforeEach, describe, expect, test } from 'vitest';
import { newDrawing, recordsOf, type Drawing } from '../core/document/drawing';
import { moveAnchors } from '../core/document/edits/anchors';
import { outlineFromPath } from '../core/document/outline';
import { polygonPath } from '../core/geometry/path';
import { RECORD_VERSION } from '../core/document/upgrade';
import { openDatabase } from './database';
import { removeDrawing, storeDrawing } from './drawings';
import {
	listVersions,
	nameVersion,
	recordHash,
	recordsOfVersion,
	removeVersions,
	storeVersion,
	tooOld
} from './versions';

const DAY = 86_400_000;
const outline = (id: string) =>
	outlineFromPath(polygonPath([0, 0, 9, 0, 9, 9]), { id, name: id, layer: 'cut', rank: 2 });
const put = (drawing: Drawing, ...records: ReturnType<typeof outline>[]): Drawing => ({
	...drawing,
	records: new Map([...drawing.records, ...records.map((r) => [r.id, r] as const)])
});
const keptRows = async (id: string) =>
	(await (await openDatabase()).getAll('kept')).filter((row) => row.drawing === id);

let drawing: Drawing;
beforeEach(async () => {
	drawing = put(newDrawing(crypto.randomUUID(), 'Set'), outline('a'), outline('b'), outline('c'));
	await storeDrawing(drawing);
});

describe('versions', () => {
	test('one more version costs the records that changed, and each comes back whole', async () => {
		await storeVersion(drawing, { id: '1', word: 'first', at: 1 });
		const before = (await keptRows(drawing.id)).length;
		expect(before).toBe(drawing.records.size);
		const [a] = recordsOf(drawing, 'outline');
		const changed = put(drawing, moveAnchors(a, new Set([a.anchors[0]]), 1, 0));
		await storeVersion(changed, { id: '2', word: 'second', at: 2 });
		expect((await keptRows(drawing.id)).length).toBe(before + 1);
		const [second, first] = await listVersions(drawing.id);
		expect(await recordsOfVersion(first)).toEqual(drawing.records);
		expect(await recordsOfVersion(second)).toEqual(changed.records);
		await removeVersions(drawing.id, ['1']);
		expect((await keptRows(drawing.id)).length).toBe(before);
		expect(await recordsOfVersion(second)).toEqual(changed.records);
		await removeDrawing(drawing.id);
		expect(await keptRows(drawing.id)).toEqual([]);
		expect(await listVersions(drawing.id)).toEqual([]);
	});

	test('a hash is of what a record is: the same for a copy, another for another bit or field', async () => {
		const a = outline('a');
		expect(await recordHash(structuredClone(a))).toBe(await recordHash(a));
		expect(await recordHash({ ...a, name: 'other' })).not.toBe(await recordHash(a));
		const points = a.points.slice();
		points[0] = -0;
		expect(await recordHash({ ...a, points })).not.toBe(await recordHash(a));
		const { name, ...rest } = a;
		expect(await recordHash({ ...rest, name } as typeof a)).toBe(await recordHash(a));
	});

	test('versions of the first kind, with their records in them, are still read', async () => {
		await (
			await openDatabase()
		).put('versions', {
			drawing: drawing.id,
			id: 'old',
			word: 'old kind',
			at: 1,
			name: 'Set',
			records: [...drawing.records.values()],
			v: RECORD_VERSION
		});
		const [old] = await listVersions(drawing.id);
		expect(await recordsOfVersion(old)).toEqual(drawing.records);
	});

	test('with age those kept by themselves grow thinner, those with a word of a person stay', async () => {
		const now = Date.UTC(2026, 10, 29, 12);
		const at = [
			...Array.from({ length: 30 }, (_, k) => now - k * 600_000),
			...Array.from({ length: 40 }, (_, k) => now - (2 + k / 4) * DAY),
			...Array.from({ length: 20 }, (_, k) => now - (50 + k) * DAY)
		];
		for (const [k, time] of at.entries())
			await storeVersion(drawing, { id: `v${k}`, word: `w${k}`, byItself: true, at: time });
		await storeVersion(drawing, { id: 'named', word: 'for the tour', at: now - 400 * DAY });
		const list = await listVersions(drawing.id);
		const gone = tooOld(list, now);
		const left = list.filter((v) => !gone.includes(v));
		const ages = left.map((v) => (now - v.at) / DAY);
		expect(left.map((v) => v.id)).toContain('named');
		expect(ages.filter((d) => d < 1)).toHaveLength(24);
		// 2.0 to 11.75 days ago lie on eleven dates; 50 to 69 days ago in two months.
		expect(ages.filter((d) => d >= 1 && d < 30)).toHaveLength(11);
		expect(ages.filter((d) => d >= 30 && d < 100)).toHaveLength(2);
		expect(left).toContain(list[0]);
		expect(tooOld(left, now)).toEqual([]);
	});

	test('one kept by itself that gets a word stays', async () => {
		await storeVersion(drawing, { id: 'x', word: 'before "Mend"', byItself: true, at: 1 });
		await nameVersion((await listVersions(drawing.id))[0], 'good');
		const [named] = await listVersions(drawing.id);
		expect(named).toMatchObject({ word: 'good' });
		expect(named.byItself).toBeUndefined();
		expect(tooOld([named], Date.now())).toEqual([]);
	});
});
