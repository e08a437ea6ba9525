/** Points fitted with few curves, and curves with fewer. */
import { describe, expect, test } from 'vitest';
import { blob } from '../../../../tests/shapes';
import { flattenPath, twoWayDistance } from '../geometry/edge-tree';
import { polygonPath, STRIDE, type Path } from '../geometry/path';
import { curvatureAt, directionAt, pointAt } from '../geometry/segment';
import { fitPoints } from './fit-points';
import { refit } from './refit';

const square = polygonPath([0, 0, 40, 0, 40, 40, 0, 40]);

describe('fitted points', () => {
	test('10,000 clean points as few cubics, the tolerance kept both ways; corners kept; refusals', () => {
		const smooth = blob(40, 9, 130);
		const points = flattenPath(smooth, 1e-4);
		const fitted = fitPoints(points, true, 0.01);
		expect(fitted.types.length).toBeLessThan(20);
		expect(twoWayDistance([polygonPath(points)], [fitted], 1e-4, 0.1).distance).toBeLessThan(0.0102);
		const box = Array.from({ length: 80 }, (_, i) =>
			pointAt(0, square.segs, STRIDE * Math.floor(i / 20), (i % 20) / 20)
		).flatMap((p) => [p.x, p.y]);
		expect(fitPoints(box, true, 0.01).types).toHaveLength(4);
		expect(() => fitPoints([1, 1, 1, 1], false, 0.1)).toThrow(/two different points/);
		expect(() => fitPoints(box, true, 0)).toThrow(/above 0/);
	});
	test('fewer anchors within the tolerance, tangents kept, corners and long straights untouched', () => {
		const dense: Path = blob(400, 5, 40);
		const light = refit(dense, { tolerance: 0.005, keepLength: 0.4 });
		expect(light.types.length).toBeLessThan(60);
		expect(twoWayDistance([dense], [light], 1e-4).distance).toBeLessThan(0.0055);
		for (let i = 1; i < light.types.length; i++) {
			const a = directionAt(1, light.segs, STRIDE * (i - 1), 1);
			const b = directionAt(1, light.segs, STRIDE * i, 0);
			expect(Math.abs(a.x * b.y - a.y * b.x)).toBeLessThan(1e-6);
		}
		expect(refit(square, { tolerance: 0.005, keepLength: 0.4 }).segs).toEqual(square.segs);
		expect(Number.isFinite(curvatureAt(1, light.segs, 0, 0.5))).toBe(true);
		expect(pointAt(1, light.segs, 0, 0)).toEqual({ x: light.segs[0], y: light.segs[1] });
	});
});
