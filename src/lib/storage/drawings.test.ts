/** What lies in the browser's database, held against an implementation of the standard for tests (fake-indexeddb). */
import 'fake-indexeddb/auto';
import { beforeEach, describe, expect, test } from 'vitest';
import { newDrawing, type Drawing } from '../core/document/drawing';
import { applyStep, makeStep, type Step } from '../core/document/history';
import { outlineFromPath } from '../core/document/outline';
import { circlePath, polygonPath } from '../core/geometry/path';
import {
	hashOf,
	listDrawings,
	loadDrawing,
	loadPicture,
	loadThumbnail,
	removeDrawing,
	storeDrawing,
	storePicture,
	storeStep,
	storeThumbnail
} from './drawings';

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
