/** The pointer that is moved by keys: steps, numbers, catching on what lies around. */
import { beforeEach, expect, test } from 'vitest';
import { newDrawing, type Drawing } from '../core/document/drawing';
import { outlineFromPath } from '../core/document/outline';
import { polygonPath } from '../core/geometry/path';
import { KeyPointer, WAYS } from './key-pointer.svelte';
import type { ForKeyPointer } from './parts';

const square = outlineFromPath(polygonPath([0, 0, 40, 0, 40, 40, 0, 40]), {
	id: 'square',
	name: 'Square',
	layer: 'cut',
	rank: 2
});
let bench: { -readonly [K in keyof ForKeyPointer]: ForKeyPointer[K] };
let pointer: KeyPointer;
beforeEach(() => {
	const empty = newDrawing('d', 'Keys');
	const drawing: Drawing = { ...empty, records: new Map([...empty.records, ['square', square]]) };
	bench = {
		drawing,
		unit: 'mm',
		sight: { view: { scale: 4, x: 20, y: 20 }, size: { widthPx: 800, heightPx: 600 } },
		outlineAt: () => undefined
	};
	pointer = new KeyPointer(bench);
	pointer.toggle();
});

test('it begins in the middle of what is seen; steps are round and some pixels wide, at any scale', () => {
	expect(pointer.at).toEqual({ x: 20, y: 20 });
	for (const scale of [0.02, 0.3, 1, 4, 25, 333, 9000]) {
		bench.sight.view = { scale, x: 20, y: 20 };
		const step = pointer.stepMm;
		expect(step * scale).toBeGreaterThan(5.9);
		expect(step * scale).toBeLessThan(15.1);
		const first = Number(step.toExponential()[0]);
		expect([1, 2, 5]).toContain(first);
	}
	bench.sight.view = { scale: 4, x: 20, y: 20 };
	pointer.step(WAYS.ArrowUp, false, false);
	pointer.step(WAYS.ArrowLeft, true, false);
	pointer.step(WAYS.ArrowRight, false, true);
	expect(pointer.at!.x).toBeCloseTo(20 - 20 + 0.2, 9);
	expect(pointer.at!.y).toBeCloseTo(22, 9);
});

test('it catches on the nearest place that lies the way it goes, and tells where there is none', () => {
	pointer.type('38, 20');
	expect(pointer.catchNext(WAYS.ArrowUp)).toBe(true);
	expect(pointer.at).toEqual({ x: 40, y: 40 });
	expect(pointer.catchNext(WAYS.ArrowLeft)).toBe(true);
	expect(pointer.at).toEqual({ x: 0, y: 40 });
	expect(pointer.catchNext(WAYS.ArrowUp)).toBe(false);
	expect(pointer.at).toEqual({ x: 0, y: 40 });
});

test('numbers are places, with a plus so much farther; units and sums too; nonsense is told and nothing moves', () => {
	expect(pointer.type('120, 45')).toBeUndefined();
	expect(pointer.at).toEqual({ x: 120, y: 45 });
	expect(pointer.type('+10, +0')).toBeUndefined();
	expect(pointer.at).toEqual({ x: 130, y: 45 });
	expect(pointer.type('1 in; 2*15')).toBeUndefined();
	expect(pointer.at).toEqual({ x: 25.4, y: 30 });
	expect(pointer.type('-5; 1,5')).toBeUndefined();
	expect(pointer.at).toEqual({ x: -5, y: 1.5 });
	expect(pointer.type('nonsense')).toContain('two numbers');
	expect(pointer.type('a, 3')).toContain('no length');
	expect(pointer.at).toEqual({ x: -5, y: 1.5 });
});

test('whoever goes out of sight takes the window along', () => {
	pointer.type('900, 20');
	expect(bench.sight.view).toMatchObject({ x: 900, y: 20, scale: 4 });
});
