import { describe, expect, test } from 'vitest';
import { chance } from '../../../../tests/shapes';
import { EdgeTree } from './edge-tree';
import { neededPlaces } from './thinned';

/** How far places lie from the straights between those that were kept, at most. */
function farthest(
	x: readonly number[],
	y: readonly number[],
	kept: readonly number[],
	closed: boolean
): number {
	const tree = new EdgeTree([{ points: Float64Array.from(kept.flatMap((k) => [x[k], y[k]])), closed }]);
	return Math.max(...x.map((px, k) => tree.distance(px, y[k])));
}

describe('places of a row that are needed', () => {
	test('no place lies farther off than is said, and no more are kept at a larger distance than at a small one', () => {
		const r = chance(9);
		for (const closed of [true, false])
			for (let n = 0; n < 40; n++) {
				const count = 3 + Math.floor(200 * r());
				const angle = (k: number) => (2 * Math.PI * k) / count;
				const x = Array.from({ length: count }, (_, k) => (20 + 4 * r()) * Math.cos(angle(k)));
				const y = Array.from({ length: count }, (_, k) => (30 + 4 * r()) * Math.sin(angle(k)));
				let before = count + 1;
				for (const tolerance of [0.01, 1, 3, 10]) {
					const kept = neededPlaces(x, y, closed, tolerance);
					expect(farthest(x, y, kept, closed)).toBeLessThanOrEqual(tolerance + 1e-9);
					expect(kept.length).toBeLessThanOrEqual(before);
					expect(kept).toEqual([...new Set(kept)].sort((a, b) => a - b));
					before = kept.length;
					if (!closed) expect([kept[0], kept[kept.length - 1]]).toEqual([0, count - 1]);
				}
			}
	});

	test('nor in rows that run to and fro at random', () => {
		const r = chance(10);
		for (let n = 0; n < 300; n++) {
			const count = 3 + Math.floor(12 * r());
			const [x, y] = [0, 1].map(() => Array.from({ length: count }, () => 10 * r()));
			for (const closed of [true, false])
				for (const tolerance of [0.5, 2, 4]) {
					const kept = neededPlaces(x, y, closed, tolerance);
					expect(farthest(x, y, kept, closed)).toBeLessThanOrEqual(tolerance + 1e-9);
				}
		}
	});

	test('a place beside the line but beyond an end is as far as the end is', () => {
		const turned = (row: readonly (readonly [number, number])[]) =>
			[0, 1].map((axis) => row.map(([a, b]) => (axis ? 0.5 * a + 0.8 * b : 0.8 * a - 0.5 * b)));
		for (const beyond of [-3, 13]) {
			const [x, y] = turned([
				[0, 0],
				[beyond, 1],
				[10, 0]
			]);
			expect(neededPlaces(x, y, false, 2)).toEqual([0, 1, 2]);
			expect(neededPlaces(x, y, false, 4)).toEqual([0, 2]);
		}
		// Whose ends are one place.
		expect(neededPlaces([1, 4, 1], [1, 5, 1], false, 4.5)).toEqual([0, 1, 2]);
		expect(neededPlaces([1, 4, 1], [1, 5, 1], false, 5)).toEqual([0, 2]);
	});

	test('corners of a square stay, places on its sides go', () => {
		const side = Array.from({ length: 10 }, (_, k) => k);
		const x = [...side, ...side.map(() => 10), ...side.map((k) => 10 - k), ...side.map(() => 0)];
		const y = [...side.map(() => 0), ...side, ...side.map(() => 10), ...side.map((k) => 10 - k)];
		expect(neededPlaces(x, y, true, 1e-6)).toEqual([0, 10, 20, 30]);
	});

	test('a row that comes back over itself keeps where it turns; places that are all one are two at most', () => {
		expect(neededPlaces([0, 1, 2, 3, 2, 1], [0, 0, 0, 0, 0, 0], false, 0.1)).toEqual([0, 3, 5]);
		expect(neededPlaces([5, 5, 5, 5], [2, 2, 2, 2], true, 0.1).length).toBeLessThanOrEqual(2);
		expect(neededPlaces([1, 2], [0, 0], false, 1)).toEqual([0, 1]);
	});
});
