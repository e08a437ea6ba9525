/** Roots of polynomials in Bernstein form, held against polynomials that are made of their roots. */
import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { bernsteinRoots } from './roots';
import { quadraticRoots } from './segment';

/** Bernstein coefficients of the product of (t - root), by multiplying one factor after the other in. */
function madeOf(roots: readonly number[], scale = 1): number[] {
	let row = [scale];
	for (const root of roots) {
		const n = row.length;
		// (t - root) has the coefficients -root and 1 - root.
		row = Array.from({ length: n + 1 }, (_, k) => {
			const before = k > 0 ? row[k - 1] * (k / n) * (1 - root) : 0;
			const after = k < n ? row[k] * ((n - k) / n) * -root : 0;
			return before + after;
		});
	}
	return row;
}

describe('roots in 0..1', () => {
	test('all that a polynomial is made of, each once, ascending; what lies outside is none', () => {
		fc.assert(
			fc.property(
				fc.uniqueArray(fc.integer({ min: -20, max: 120 }), { minLength: 1, maxLength: 9 }),
				fc.constantFrom(1, -1, 1e-9, 1e9),
				(hundredths, scale) => {
					const roots = hundredths.map((h) => h / 100);
					const found = bernsteinRoots(madeOf(roots, scale));
					const wanted = roots.filter((t) => t >= 0 && t <= 1).sort((a, b) => a - b);
					// An end is found where its coefficient is no more than rounding.
					const inner = wanted.filter((t) => t > 0 && t < 1);
					const innerFound = found.filter((t) => t > 1e-6 && t < 1 - 1e-6);
					expect(innerFound).toHaveLength(inner.length);
					innerFound.forEach((t, k) => expect(t).toBeCloseTo(inner[k], 4));
					expect([...found].sort((a, b) => a - b)).toEqual(found);
				}
			),
			{ numRuns: 300 }
		);
	});
	test('to the last digits where roots lie apart', () => {
		for (const roots of [[0.125], [0.1, 0.9], [0.25, 0.5, 0.75], [0.2, 0.4, 0.6, 0.8]]) {
			const found = bernsteinRoots(madeOf(roots));
			expect(found).toHaveLength(roots.length);
			found.forEach((t, k) => expect(Math.abs(t - roots[k])).toBeLessThan(1e-13));
		}
	});
	test('both ends are roots where the coefficients end in zero, and a root is told once', () => {
		expect(bernsteinRoots([0, 1])).toEqual([0]);
		expect(bernsteinRoots([1, 0])).toEqual([1]);
		expect(bernsteinRoots([0, 1, 0])).toEqual([0, 1]);
		expect(bernsteinRoots([0, 1, -1, 0])).toEqual([0, 0.5, 1]);
		// Twice the same: (t - 0.5)^2 touches zero in the middle.
		expect(bernsteinRoots([1, -1, 1])).toEqual([0.5]);
		// Rounding at an end is zero.
		expect(bernsteinRoots([1e-17, 1])).toEqual([0]);
	});
	test('a double root is one root, by the cube of its distance or nearer', () => {
		const found = bernsteinRoots(madeOf([0.3, 0.3, 0.8]));
		expect(found.length).toBeGreaterThanOrEqual(1);
		for (const t of found) expect(Math.min(Math.abs(t - 0.3), Math.abs(t - 0.8))).toBeLessThan(1e-6);
		expect(found.at(-1)).toBeCloseTo(0.8, 12);
	});
	test('none of what has none: constants, nothing, what is no number, what stays on one side', () => {
		for (const row of [
			[],
			[0],
			[0, 0, 0],
			[1],
			[-2],
			[1, 2, 3],
			[1, 0.5, 1],
			[NaN, 1],
			[-Infinity, 1],
			[1, -0.9, 1]
		])
			expect(bernsteinRoots(row)).toEqual([]);
	});
	test('a steep one, where straight on leads out, is halved to', () => {
		// Nearly a step: nine equal coefficients and one beyond zero.
		const [root] = bernsteinRoots([-1, -1, -1, -1, -1, -1, -1, -1, -1, 1e-3]);
		expect(root).toBeGreaterThan(0.999);
		expect(root).toBeLessThan(1);
		// -1 + t^9 (1 + 1e-3) = 0
		expect(root).toBeCloseTo((1 / 1.001) ** (1 / 9), 12);
		const [first] = bernsteinRoots([-1e-3, 1, 1, 1, 1, 1, 1, 1, 1, 1]);
		expect(first).toBeCloseTo(1 - (1 / 1.001) ** (1 / 9), 12);
	});
	test('roots in Bernstein form: those of a product of known factors', () => {
		// (t - 0.2)(t - 0.5)(t - 0.9) in Bernstein form of degree 3.
		const f = (t: number) => (t - 0.2) * (t - 0.5) * (t - 0.9);
		const c = [0, 1, 2, 3].map((i) => {
			// Blossom of the cubic at i ones and 3 - i zeros.
			const args = [...Array(i).fill(1), ...Array(3 - i).fill(0)];
			const e1 = args.reduce((a, b) => a + b, 0) / 3;
			const e2 = (args[0] * args[1] + args[0] * args[2] + args[1] * args[2]) / 3;
			const e3 = args[0] * args[1] * args[2];
			return e3 - 1.6 * e2 + (0.1 + 0.18 + 0.45) * e1 - 0.09;
		});
		const roots = bernsteinRoots(c);
		expect(roots).toHaveLength(3);
		for (const r of roots) expect(Math.abs(f(r))).toBeLessThan(1e-12);
		expect(bernsteinRoots([0, 0, 0])).toEqual([]);
		expect(quadraticRoots(1, -3, 2).sort()).toEqual([1, 2]);
		expect(quadraticRoots(1, 0, 1)).toEqual([]);
	});
});
