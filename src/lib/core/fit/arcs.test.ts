/** Curves as arcs: within the tolerance, few, with the ends and kinks where they were. Sagitta: c2 / (8 r) off a chord c. */
import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { blob } from '../../../../tests/shapes';
import { twoWayDistance } from '../geometry/edge-tree';
import { arcsToCubics } from '../geometry/segment';
import { ARC, circlePath, CUBIC, polygonPath, STRAIGHT, type Path } from '../geometry/path';
import { arcsAlong } from './arcs';

describe('arcs along a line', () => {
	test('a circle that was written as curves is a few arcs again', () => {
		const circle = arcsToCubics(circlePath(3, -2, 25));
		const arcs = arcsAlong(circle, 0.005);
		expect(arcs.types.every((type) => type === ARC)).toBe(true);
		expect(arcs.types.length).toBeLessThanOrEqual(5);
		expect(twoWayDistance([arcs], [circlePath(3, -2, 25)], 1e-4).distance).toBeLessThan(0.006);
	});
	test('straights and arcs stay, to the last bit', () => {
		for (const path of [polygonPath([0, 0, 10, 0, 10, 7]), circlePath(0, 0, 5)])
			expect(arcsAlong(path, 0.01)).toEqual(path);
	});
	test('dense points of an arc become arcs, of a straight a straight', () => {
		const points = Array.from({ length: 401 }, (_, i) => [
			20 * Math.cos(i / 200),
			20 * Math.sin(i / 200)
		]).flat();
		const arcs = arcsAlong(polygonPath(points, false), 0.01);
		expect(arcs.types.length).toBeLessThanOrEqual(2);
		const straight = arcsAlong(
			polygonPath(Array.from({ length: 200 }, (_, i) => [i * 0.01, i * 0.02]).flat(), false),
			0.01
		);
		expect(Array.from(straight.types)).toEqual([STRAIGHT]);
	});
	test('any curve is followed within the tolerance, by no cubic', () => {
		fc.assert(
			fc.property(
				fc.integer({ min: 5, max: 60 }),
				fc.integer({ min: 1, max: 1e6 }),
				fc.constantFrom(0.002, 0.01, 0.05),
				(n, seed, tolerance) => {
					const line: Path = blob(n, seed);
					const arcs = arcsAlong(line, tolerance);
					expect(arcs.types.includes(CUBIC)).toBe(false);
					expect(arcs.closed).toBe(true);
					expect(twoWayDistance([arcs], [line], tolerance / 50).distance).toBeLessThan(1.2 * tolerance);
				}
			),
			{ numRuns: 30 }
		);
	});
});
