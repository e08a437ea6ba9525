/** The largest radius that is named fits, and nothing larger by a hundredth does: held against a search of its own. */
import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { polygonPath, PathBuilder, type Path } from '../../geometry/path';
import { outlineFromPath } from '../outline';
import { withCorners } from './corners';

const outlineOf = (path: Path) => outlineFromPath(path, { id: 'o', name: 'o', layer: 'cut', rank: 1 });
const fits = (path: Path, ids: readonly number[], radius: number) =>
	withCorners(outlineOf(path), ids, (anchor) => ({ anchor, radius })).ok;
function named(path: Path, ids: readonly number[], radius: number): number {
	const result = withCorners(outlineOf(path), ids, (anchor) => ({ anchor, radius }));
	if (result.ok) throw new Error('it fits');
	expect(result.problem.code).toBe('too-large');
	return Number(/The largest that does is ([\d.]+) mm/.exec(result.problem.sentence)![1]);
}

describe('the largest radius', () => {
	test('an L with corners that take room from each other', () => {
		const shape = polygonPath([0, 0, 40, 0, 40, 15, 15, 15, 15, 40, 0, 40]);
		for (const radius of [39.99, 10, 8]) {
			const most = named(shape, [1, 2, 3, 4, 5, 6], radius);
			expect(most).toBeCloseTo(7.5, 2);
			expect(fits(shape, [1, 2, 3, 4, 5, 6], most)).toBe(true);
		}
	});

	test('of random polygons and of sides that are curves: itself accepted, a hundredth more is not', () => {
		const polygon = fc
			.tuple(fc.integer({ min: 3, max: 7 }), fc.integer({ min: 1, max: 1e6 }))
			.map(([n, seed]) => {
				const r = (k: number) => 12 + 8 * Math.abs(Math.sin(seed * (k + 1)));
				const place = (k: number) => [
					r(k) * Math.cos((2 * Math.PI * k) / n),
					r(k) * Math.sin((2 * Math.PI * k) / n)
				];
				if (seed % 3) return polygonPath(Array.from({ length: n }, (_, k) => place(k)).flat());
				const b = new PathBuilder(...(place(0) as [number, number]));
				for (let k = 1; k <= n; k++) b.arc(0.1, ...(place(k % n) as [number, number]));
				return b.close();
			});
		fc.assert(
			fc.property(polygon, fc.integer({ min: 1, max: 3 }), (path, count) => {
				const ids = Array.from({ length: Math.min(count, path.types.length) }, (_, k) => k + 1);
				if (fits(path, ids, 60)) return;
				const most = named(path, ids, 60);
				expect(fits(path, ids, most)).toBe(true);
				expect(fits(path, ids, most + 0.0101)).toBe(false);
			}),
			{ numRuns: 40, seed: 5 }
		);
	});
});
