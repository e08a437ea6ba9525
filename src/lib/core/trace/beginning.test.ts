/** Where a contour begins: the same places in the same order, however it was walked. */
import { describe, expect, test } from 'vitest';
import { chance } from '../../../../tests/shapes';
import { beginning, WAYS_ROUND } from './beginning';

/** A ring of places about a middle that is like no other turned or mirrored. */
function ring(seed: number, n = 90): [number, number][] {
	const random = chance(seed);
	const [a, b, c] = [random(), random(), random()];
	return Array.from({ length: n }, (_, k) => {
		const t = (2 * Math.PI * k) / n;
		const r = 30 + 9 * a * Math.sin(2 * t + b) + 5 * Math.cos(3 * t + c) + 2 * Math.sin(5 * t);
		return [40 + r * Math.cos(t), 50 + r * Math.sin(t)];
	});
}
const flat = (row: readonly (readonly [number, number])[]) => Float64Array.from(row.flat());
const near = (a: Float64Array, b: Float64Array) =>
	a.length === b.length && a.every((v, k) => Math.abs(v - b[k]) < 1e-9);

describe('begun and gone round as the shape says', () => {
	test('whichever point comes first and whichever way it goes', () => {
		for (let seed = 1; seed <= 20; seed++) {
			const row = ring(seed);
			for (const way of WAYS_ROUND) {
				const first = beginning(flat(row), way);
				for (const shift of [1, 17, 60]) {
					const shifted = [...row.slice(shift), ...row.slice(0, shift)];
					expect(near(beginning(flat(shifted), way).points, first.points)).toBe(true);
					const back = beginning(flat([...shifted].reverse()), way);
					expect(near(back.points, first.points)).toBe(true);
				}
			}
		}
	});

	test('turned by a quarter or mirrored it begins at the same place', () => {
		for (let seed = 1; seed <= 20; seed++) {
			const row = ring(seed);
			const { points } = beginning(flat(row));
			const turned = beginning(flat(row.map(([x, y]) => [200 - y, x]))).points;
			const mirrored = beginning(flat(row.map(([x, y]) => [200 - x, y]))).points;
			for (let k = 0; k < points.length; k += 2) {
				expect(turned[k]).toBeCloseTo(200 - points[k + 1], 9);
				expect(turned[k + 1]).toBeCloseTo(points[k], 9);
				expect(mirrored[k]).toBeCloseTo(200 - points[k], 9);
				expect(mirrored[k + 1]).toBeCloseTo(points[k + 1], 9);
			}
		}
	});

	test('it tells where each point has gone, and whether the order is the other one', () => {
		for (const way of WAYS_ROUND)
			for (let seed = 1; seed <= 5; seed++) {
				const row = ring(seed);
				const { points, placeOf, isReversed } = beginning(flat(row), way);
				row.forEach(([x, y], k) => {
					expect(points[2 * placeOf(k)]).toBe(x);
					expect(points[2 * placeOf(k) + 1]).toBe(y);
				});
				expect((placeOf(1) - placeOf(0) + row.length) % row.length).toBe(isReversed ? row.length - 1 : 1);
			}
	});

	test('from the farthest point or the nearest one, toward the side that keeps farther out or nearer', () => {
		const row = ring(3);
		const middle = row.reduce(([x, y], [u, v]) => [x + u / row.length, y + v / row.length], [0, 0]);
		const far = ([x, y]: readonly [number, number]) => Math.hypot(x - middle[0], y - middle[1]);
		const distances = row.map(far);
		for (const way of WAYS_ROUND) {
			const { points } = beginning(flat(row), way);
			const at = (k: number) => far([points[2 * k], points[2 * k + 1]]);
			expect(at(0)).toBeCloseTo(way.from === 'near' ? Math.min(...distances) : Math.max(...distances), 9);
			const ahead = at(1) - at(row.length - 1);
			expect(Math.sign(ahead)).toBe(way.round ?? 1);
		}
	});
});
