/** Each way to solve equations against what it has to give: the sums that were asked for, by plain multiplication. */
import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { numberIn } from '../../../../tests/numbers';
import { chance } from '../../../../tests/shapes';
import { choleskySolve } from './cholesky';
import { closeOrder, Skyline } from './skyline';
import { addEquation, eliminate, solve2 } from './small';

/** A symmetric matrix that is positive: rows of a random one times themselves. Some entries are left out, so that it has gaps. */
function positive(n: number, r: () => number, gaps: number): number[][] {
	const rows = Array.from({ length: n }, () => Array.from({ length: n }, () => (r() < gaps ? 0 : r() - 0.5)));
	return rows.map((a, i) =>
		rows.map((b, j) => a.reduce((sum, v, k) => sum + v * b[k], 0) + (i === j ? 0.05 : 0))
	);
}
const times = (a: readonly (readonly number[])[], x: ArrayLike<number>) =>
	a.map((row) => row.reduce((sum, v, k) => sum + v * x[k], 0));

describe('symmetric positive equations', () => {
	test('by Cholesky: both right sides at once, the upper half of the matrix never looked at', () => {
		for (let seed = 0; seed < 30; seed++) {
			const r = chance(seed);
			const n = 1 + (seed % 12);
			const a = positive(n, r, 0.3);
			const [x, y] = [0, 1].map(() => Array.from({ length: n }, () => 10 * r() - 5));
			const flat = Float64Array.from(a.flatMap((row, i) => row.map((v, j) => (j > i ? NaN : v))));
			const [fx, fy] = [x, y].map((v) => Float64Array.from(times(a, v)));
			choleskySolve(flat, n, fx, fy);
			fx.forEach((v, k) => expect(v).toBeCloseTo(x[k], 6));
			fy.forEach((v, k) => expect(v).toBeCloseTo(y[k], 6));
		}
	});

	test('by their skyline: in any order of the rows the same, however few entries there are', () => {
		for (let seed = 0; seed < 30; seed++) {
			const r = chance(100 + seed);
			const n = 2 + (seed % 15);
			// Neighbours in a ring, and some across it.
			const a = Array.from({ length: n }, () => Array<number>(n).fill(0));
			for (let i = 0; i < n; i++) {
				a[i][i] += 4;
				for (const j of [(i + 1) % n, ...(r() < 0.3 ? [Math.floor(n * r())] : [])]) {
					if (j === i) continue;
					const v = r() - 0.5;
					a[i][j] += v;
					a[j][i] += v;
				}
			}
			const rows = a.map((row) => new Map(row.flatMap((v, j) => (v ? [[j, v] as const] : []))));
			const x = Array.from({ length: n }, () => r() - 0.5);
			const right = times(a, x);
			const orders = [closeOrder(rows), Int32Array.from({ length: n }, (_, k) => k)];
			for (const order of orders) {
				expect([...order].sort((p, q) => p - q)).toEqual(Array.from({ length: n }, (_, k) => k));
				const solved = new Skyline(rows, order);
				expect(solved.dependent).toEqual([]);
				solved.solve(right).forEach((v, k) => expect(v).toBeCloseTo(x[k], 9));
			}
		}
	});

	test('rows that follow from others are told, and their unknowns are 0; what is added to the diagonal counts', () => {
		// The second row is the first once more.
		const rows = [
			[2, 2, 0],
			[2, 2, 0],
			[0, 0, 5]
		].map((row) => new Map(row.map((v, j) => [j, v] as const)));
		const order = Int32Array.of(0, 1, 2);
		const solved = new Skyline(rows, order);
		expect(solved.dependent).toEqual([1]);
		expect([...solved.solve([4, 4, 10])]).toEqual([2, 0, 2].map((v) => expect.closeTo(v, 12)));
		const held = new Skyline(rows, order, 1);
		expect(held.dependent).toEqual([]);
		expect([...held.solve([5, 5, 6])]).toEqual([1, 1, 1].map((v) => expect.closeTo(v, 12)));
	});

	test('neighbours lie close together in the order that is found: a path laid out anyhow has a band of one', () => {
		const r = chance(7);
		const n = 40;
		const names = Array.from({ length: n }, (_, k) => k).sort(() => r() - 0.5);
		const rows = Array.from({ length: n }, () => new Map<number, number>());
		for (let k = 0; k < n; k++) {
			rows[names[k]].set(names[k], 2);
			if (k + 1 === n) continue;
			rows[names[k]].set(names[k + 1], -1);
			rows[names[k + 1]].set(names[k], -1);
		}
		const place = new Int32Array(n);
		closeOrder(rows).forEach((row, k) => (place[row] = k));
		rows.forEach((row, i) => {
			for (const j of row.keys()) expect(Math.abs(place[i] - place[j])).toBeLessThanOrEqual(1);
		});
	});
});

describe('small systems', () => {
	const number = numberIn(-50, 50);

	test('two unknowns, or nothing where they cannot be told', () => {
		fc.assert(
			fc.property(number, number, number, number, number, (a, b, c, x, y) => {
				const found = solve2(a, b, c, a * x + b * y, b * x + c * y);
				if (Math.abs(a * c - b * b) < 1e-3) return;
				expect(found![0]).toBeCloseTo(x, 3);
				expect(found![1]).toBeCloseTo(y, 3);
			})
		);
		expect(solve2(1, 2, 4, 1, 2)).toBeUndefined();
		expect(solve2(0, 0, 0, 0, 0)).toBeUndefined();
	});

	test('least squares: what is left over is square to every term (the normal equations)', () => {
		for (let seed = 0; seed < 20; seed++) {
			const r = chance(300 + seed);
			const m = 1 + (seed % 5);
			const asked = Array.from({ length: 4 * m }, () => ({
				terms: Array.from({ length: m }, () => r() - 0.5),
				value: r() - 0.5,
				weight: 0.1 + r()
			}));
			const a = new Float64Array(m * (m + 1));
			for (const { terms, value, weight } of asked) addEquation(a, terms, value, weight);
			expect(eliminate(a, m)).toBe(true);
			const x = Array.from({ length: m }, (_, k) => a[(m + 1) * k + m]);
			for (let k = 0; k < m; k++) {
				const sum = asked.reduce((total, { terms, value, weight }) => {
					const left = value - terms.reduce((s, t, i) => s + t * x[i], 0);
					return total + weight * terms[k] * left;
				}, 0);
				expect(sum).toBeCloseTo(0, 9);
			}
		}
	});

	test('a pivot that vanishes is told', () => {
		expect(eliminate(Float64Array.of(0, 1, 3), 1)).toBe(false);
		expect(eliminate(Float64Array.of(1, 1, 2, 1, 1, 2), 2)).toBe(false);
	});
});
