/** What lies in the browser's database, held against an implementation of the standard for tests (fake-indexeddb). */
import 'fake-indexeddb/auto';
import { afterEach, beforeEach, describe, expect, test, vi } from 'vitest';
import { newDrawing, type Drawing } from '../core/document/drawing';
import { applyStep, makeStep, type Step } from '../core/document/history';
import { outlineFromPath } from '../core/document/outline';
import { circlePath, polygonPath } from '../core/geometry/path';
import {
	copyDrawing,
	hashOf,
	listDrawings,
	listThrown,
	loadDrawing,
	loadPicture,
	loadThumbnail,
	removeDrawing,
	sayOfDrawing,
	storeAmended,
	storeDrawing,
	storeHistory,
	storePicture,
	storeStep,
	storeThumbnail
} from './drawings';
import { refuse } from '../../../tests/refused-writes';
import { listVersions, recordsOfVersion, storeVersion } from './versions';
import { openDatabase } from './database';
import { StorageConflict, WriteQueue } from './writes';

const outline = (id: string, size: number) =>
	outlineFromPath(polygonPath([0, 0, size, 0, size, size]), { id, name: id, layer: 'cut', rank: 2 });

/** A drawing, the step that puts an outline into it, and the drawing after it. */
function stepped(drawing: Drawing, id: string, size: number): { step: Step; next: Drawing } {
	const step = makeStep(drawing, `Put ${id}`, { put: [outline(id, size)] })!;
	return { step, next: applyStep(drawing, step, 'forward') };
}

let drawing: Drawing;
let count = 0;
beforeEach(async () => {
	drawing = newDrawing(`d${count++}`, 'Fox');
	await storeDrawing(drawing);
});

describe('drawings', () => {
	test('a step is written with what it touched and the pointer; undone it stays to be done again', async () => {
		const { step, next } = stepped(drawing, 'ear', 10);
		await storeStep(next, step, 1, true);
		let stored = (await loadDrawing(drawing.id))!;
		expect(stored.pointer).toBe(1);
		expect(stored.steps.map((s) => s.name)).toEqual(['Put ear']);
		expect(stored.drawing.records.get('ear')).toEqual(next.records.get('ear'));
		await storeStep(applyStep(next, step, 'back'), step, 0, false);
		stored = (await loadDrawing(drawing.id))!;
		expect(stored.pointer).toBe(0);
		expect(stored.drawing.records.has('ear')).toBe(false);
		expect(stored.steps).toHaveLength(1);
		expect(applyStep(stored.drawing, stored.steps[0], 'forward').records.get('ear')).toEqual(
			next.records.get('ear')
		);
	});

	test('a new step after an undone one takes its place, and those beyond it are gone', async () => {
		let now = drawing;
		const steps: Step[] = [];
		for (let k = 0; k < 4; k++) {
			const { step, next } = stepped(now, `part ${k}`, k + 1);
			steps.push(step);
			now = next;
			await storeStep(now, step, k + 1, true);
		}
		for (let k = 3; k >= 2; k--) {
			now = applyStep(now, steps[k], 'back');
			await storeStep(now, steps[k], k, false);
		}
		const { step, next } = stepped(now, 'other', 9);
		await storeStep(next, step, 3, true);
		const stored = (await loadDrawing(drawing.id))!;
		expect(stored.steps.map((s) => s.name)).toEqual(['Put part 0', 'Put part 1', 'Put other']);
		expect([...stored.drawing.records.keys()].sort()).toEqual([...next.records.keys()].sort());
	});

	test('several drawings keep apart, the latest is first; one that is removed takes only its own with it', async () => {
		const other = newDrawing(`other${count}`, 'Owl');
		await storeDrawing(other);
		const { step, next } = stepped(other, 'wing', 5);
		await storeStep(next, step, 1, true);
		const picture = {
			hash: await hashOf(Uint8Array.of(1, 2, 3)),
			mediaType: 'image/png',
			bytes: Uint8Array.of(1, 2, 3)
		};
		await storePicture(picture);
		await storeThumbnail(other.id, new Blob(['x']));
		expect((await listDrawings())[0].id).toBe(other.id);
		await removeDrawing(other.id);
		expect(await loadDrawing(other.id)).toBeUndefined();
		expect(await loadThumbnail(other.id)).toBeUndefined();
		expect((await listDrawings()).some((d) => d.id === other.id)).toBe(false);
		expect((await loadDrawing(drawing.id))!.drawing.name).toBe('Fox');
		// Pictures lie under their hash, whatever drawing uses them.
		expect((await loadPicture(picture.hash))!.bytes).toEqual(picture.bytes);
		expect(await loadPicture('none')).toBeUndefined();
	});

	test('put there anew a drawing has no steps and nothing of what it held', async () => {
		const { step, next } = stepped(drawing, 'ear', 10);
		await storeStep(next, step, 1, true);
		const circle = outlineFromPath(circlePath(0, 0, 4), { id: 'eye', name: 'Eye', layer: 'cut', rank: 3 });
		await storeDrawing({ ...drawing, records: new Map(drawing.records).set('eye', circle) });
		const stored = (await loadDrawing(drawing.id))!;
		expect(stored.steps).toEqual([]);
		expect(stored.pointer).toBe(0);
		expect(stored.drawing.records.has('ear')).toBe(false);
		expect(stored.drawing.records.get('eye')).toEqual(circle);
	});

	test('the hash of a picture is its SHA-256 (FIPS 180-4, the example "abc")', async () => {
		expect(await hashOf(new TextEncoder().encode('abc'))).toBe(
			'ba7816bf8f01cfea414140de5dae2223b00361a396177a9cb410ff61f20015ad'
		);
	});
});

afterEach(() => vi.restoreAllMocks());

/** A queue on a drawing, with what it told. */
function queueOn(revision: number) {
	const told: string[] = [];
	let waiting = 0;
	const queue = new WriteQueue(
		revision,
		{
			waiting: (count) => (waiting = count),
			written: () => told.push('written'),
			refused: (refusal) => told.push(refusal)
		},
		5
	);
	return { queue, told, waiting: () => waiting };
}

describe('writes', () => {
	test('refused at any write, everything comes in order once there is room; nothing in between is seen', async () => {
		for (let at = 0; at < 12; at++) {
			const fresh = newDrawing(`refused${at}`, 'Owl');
			const { queue, told, waiting } = queueOn(await storeDrawing(fresh));
			const refused = refuse((count) => count >= at && count < at + 3);
			let now = fresh;
			for (let k = 0; k < 5; k++) {
				const { step, next } = stepped(now, `part ${k}`, k + 1);
				now = next;
				queue.add((revision) => storeStep(next, step, k + 1, true, revision));
			}
			await vi.waitFor(async () => {
				const stored = (await loadDrawing(fresh.id))!;
				// Whatever is stored is whole at any time.
				expect([stored.pointer, stored.cut]).toEqual([stored.steps.length, 0]);
				expect(waiting()).toBe(0);
			}, 60_000);
			vi.restoreAllMocks();
			expect(refused).toHaveBeenCalled();
			expect(told.filter((t) => t === 'written')).toHaveLength(5);
			expect(told).toContain('full');
			const stored = (await loadDrawing(fresh.id))!;
			expect(stored.steps.map((s) => s.name)).toEqual([0, 1, 2, 3, 4].map((k) => `Put part ${k}`));
			expect(stored.drawing.records).toEqual(now.records);
		}
	});

	test('a drawing that was thrown away, or that another tab went on with, takes no write', async () => {
		const { step, next } = stepped(drawing, 'ear', 10);
		const revision = (await loadDrawing(drawing.id))!.revision;
		await storeStep(next, step, 1, true, revision);
		await expect(storeStep(next, step, 1, true, revision)).rejects.toMatchObject({ reason: 'overtaken' });
		await expect(storeAmended(next, ['ear'], undefined, revision)).rejects.toBeInstanceOf(StorageConflict);
		await removeDrawing(drawing.id);
		const { queue, told } = queueOn(revision + 1);
		queue.add((r) => storeStep(next, step, 1, true, r));
		expect(await queue.settled()).toBe(false);
		expect(told).toEqual(['gone']);
		queue.retry();
		expect(told).toEqual(['gone']);
		expect(await loadDrawing(drawing.id)).toBeUndefined();
	});

	test('no gap can be made: a step whose forerunner is missing is refused', async () => {
		const { step, next } = stepped(drawing, 'ear', 10);
		await expect(storeStep(next, step, 3, true)).rejects.toMatchObject({ reason: 'overtaken' });
		expect((await loadDrawing(drawing.id))!.steps).toEqual([]);
	});

	test('a history with a gap is cut at it; the drawing and what fits stay, and the next write puts it in order', async () => {
		let now = drawing;
		for (let k = 0; k < 6; k++) {
			const { step, next } = stepped(now, `part ${k}`, k + 1);
			await storeStep((now = next), step, k + 1, true);
		}
		const db = await openDatabase();
		await db.delete('steps', [drawing.id, 2]);
		const stored = (await loadDrawing(drawing.id))!;
		expect(stored.drawing.records).toEqual(now.records);
		expect(stored.steps.map((s) => s.name)).toEqual(['Put part 3', 'Put part 4', 'Put part 5']);
		expect([stored.pointer, stored.cut]).toEqual([3, 3]);
		const revision = await storeHistory(drawing.id, stored.steps, stored.pointer, stored.revision);
		const { step, next } = stepped(now, 'last', 9);
		await storeStep(next, step, 4, true, revision);
		const again = (await loadDrawing(drawing.id))!;
		expect([again.steps.length, again.pointer, again.cut]).toEqual([4, 4, 0]);
	});

	test('a version is kept whole under its word, and goes with its drawing', async () => {
		const { next } = stepped(drawing, 'ear', 10);
		await storeVersion(next, { id: 'v1', word: 'before the teeth' });
		const [version] = await listVersions(drawing.id);
		expect(version.word).toBe('before the teeth');
		expect(await recordsOfVersion(version)).toEqual(next.records);
		await removeDrawing(drawing.id);
		expect(await listVersions(drawing.id)).toEqual([]);
	});

	test('thrown away it is gone for whoever writes or opens it, and comes back whole within 30 days', async () => {
		const { step, next } = stepped(drawing, 'ear', 10);
		await storeStep(next, step, 1, true);
		const at = Date.now();
		await sayOfDrawing(drawing.id, { thrownAt: at });
		expect(await loadDrawing(drawing.id)).toBeUndefined();
		expect((await listDrawings()).map(({ id }) => id)).not.toContain(drawing.id);
		await expect(storeStep(next, step, 2, true)).rejects.toMatchObject({ reason: 'gone' });
		expect((await listThrown(at + 29 * 86_400_000)).map(({ id }) => id)).toContain(drawing.id);
		await sayOfDrawing(drawing.id, { thrownAt: undefined });
		expect((await loadDrawing(drawing.id))!.drawing.records).toEqual(next.records);
		await sayOfDrawing(drawing.id, { thrownAt: at });
		expect(await listThrown(at + 31 * 86_400_000)).toEqual([]);
		await expect(sayOfDrawing(drawing.id, { thrownAt: undefined })).rejects.toMatchObject({ reason: 'gone' });
	});

	test('a name given in the list while it is worked on stays, until the work itself gives it another', async () => {
		const { step, next } = stepped(drawing, 'ear', 10);
		await storeStep(next, step, 1, true);
		await sayOfDrawing(drawing.id, { name: 'Vixen' });
		const more = stepped(next, 'tail', 20);
		await storeStep(more.next, more.step, 2, true);
		await storeStep(applyStep(more.next, more.step, 'back'), more.step, 1, false);
		expect((await loadDrawing(drawing.id))!.drawing.name).toBe('Vixen');
		const named = makeStep(next, 'Rename', { rename: 'Old fox' })!;
		await storeStep(applyStep(next, named, 'forward'), named, 2, true);
		expect((await loadDrawing(drawing.id))!.drawing.name).toBe('Old fox');
	});

	test('its shelf stays whatever is written, a copy has its steps and its shelf', async () => {
		await sayOfDrawing(drawing.id, { shelf: 'Spring tour' });
		const { step, next } = stepped(drawing, 'ear', 10);
		await storeStep(next, step, 1, true);
		await copyDrawing(drawing.id, 'copy');
		const heads = (await listDrawings()).filter(({ id }) => id === drawing.id || id === 'copy');
		expect(heads.map(({ shelf }) => shelf)).toEqual(['Spring tour', 'Spring tour']);
		const copy = (await loadDrawing('copy'))!;
		expect(copy.drawing.name).toBe(`${next.name}, copy`);
		expect([copy.steps.length, copy.pointer]).toEqual([1, 1]);
		expect(copy.drawing.records).toEqual(next.records);
		await sayOfDrawing(drawing.id, { shelf: undefined, name: 'Other' });
		expect((await listDrawings()).find(({ id }) => id === drawing.id)).toMatchObject({ name: 'Other' });
	});
});
