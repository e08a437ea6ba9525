import { describe, expect, test } from 'vitest';
import { chance, jaggedDense } from '../../../../tests/shapes';
import { twoWayDistance } from '../geometry/edge-tree';
import { anchorCount } from '../geometry/measure';
import { polygonPath, STRAIGHT } from '../geometry/path';
import { finish } from '../progress';
import { simplifyCurve, simplifyPath } from './simplify';

describe('the fewest anchors within a drift', () => {
	test('of a rough line: the more it may drift the fewer, and never all of them where some can go', () => {
		// Stairs of 0.2 mm with a hundredth of scatter: below that no curve runs through them.
		const rough = jaggedDense(4000);
		const chart = [...simplifyCurve([rough], [0.02, 0.05, 0.1, 0.3])].flatMap((point) => point ?? []);
		expect(chart).toHaveLength(4);
		chart.forEach(({ tolerance, anchors, drift }, k) => {
			expect(drift).toBeLessThanOrEqual(tolerance);
			expect(anchors).toBeLessThan(0.75 * rough.types.length);
			if (k > 0) expect(anchors).toBeLessThanOrEqual(chart[k - 1].anchors);
		});
		expect(chart[3].anchors).toBeLessThan(30);
	});

	test('of straights no curve can follow the needed ones stay where they were, in open lines the ends as well', () => {
		const r = chance(4);
		const points = Array.from({ length: 400 }, (_, k) => [0.5 * k, k % 2 ? 3 * r() : -3 * r()]);
		const line = polygonPath(points.flat(), false);
		const { path, drift, worst } = simplifyPath(line, 0.4);
		expect(anchorCount(path)).toBeLessThan(anchorCount(line));
		expect([...path.types].every((type) => type === STRAIGHT)).toBe(true);
		expect(drift).toBeGreaterThan(0);
		expect(drift).toBeLessThanOrEqual(0.4);
		expect([...path.segs.slice(0, 2), ...path.segs.slice(-2)]).toEqual([...points[0], ...points[399]]);
		const there = twoWayDistance([line], [path], 0.01);
		expect(there.distance).toBeCloseTo(drift, 2);
		expect(Number.isFinite(worst.x + worst.y)).toBe(true);
	});

	test('a line that nothing can be taken from comes back as it was', () => {
		const star = polygonPath([0, 0, 10, 2, 20, 0, 18, 10, 20, 20, 10, 18, 0, 20, 2, 10]);
		expect(simplifyPath(star, 0.01)).toMatchObject({ path: star, drift: 0 });
		expect(() => simplifyPath(star, 0)).toThrow('above 0 mm');
		expect(finish(simplifyCurve([star], [0.01]))).toBeUndefined();
	});
});
