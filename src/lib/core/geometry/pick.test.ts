/** What lies under the pointer, held against a look at every segment. */
import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { numberIn } from '../../../../tests/numbers';
import { blob, chance } from '../../../../tests/shapes';
import { circlePath, PathBuilder, polygonPath, STRIDE, transformPath, type Path } from './path';
import { boxOf, crossesBox, nearestOnPath, PathIndex } from './pick';
import { nearestOn, pointAt } from './segment';

const NONE: Path = { types: new Uint8Array(0), segs: new Float64Array(0), closed: true };
const scattered = (seed: number): Path[] => {
	const r = chance(seed);
	return Array.from({ length: 12 }, (_, k) =>
		transformPath(blob(4 + (k % 5), seed + k, 4 + 6 * r()), [1, 0, 0, 1, 80 * r(), 80 * r()])
	);
};
const distanceTo = (path: Path, x: number, y: number) =>
	Math.min(...Array.from(path.types, (type, i) => nearestOn(type, path.segs, STRIDE * i, x, y).distance));

describe('the nearest place', () => {
	test('on one path and among many: what a look at all segments finds, within reach only', () => {
		const coordinate = numberIn(-20, 100);
		fc.assert(
			fc.property(
				fc.integer({ min: 1, max: 999 }),
				coordinate,
				coordinate,
				fc.constantFrom(0.5, 4, 30),
				(seed, x, y, reach) => {
					const paths = scattered(seed);
					const index = new PathIndex(paths);
					const all = paths.map((path) => distanceTo(path, x, y));
					const least = Math.min(...all);
					const found = index.nearest(x, y, reach);
					if (least > reach) expect(found).toBeUndefined();
					else {
						expect(found!.path).toBe(all.indexOf(least));
						expect(found!.distance).toBeCloseTo(least, 9);
						const { types, segs } = paths[found!.path];
						const p = pointAt(types[found!.segment], segs, STRIDE * found!.segment, found!.t);
						expect(Math.hypot(p.x - x, p.y - y)).toBeCloseTo(least, 9);
					}
					paths.forEach((path, k) => {
						const own = nearestOnPath(path, x, y, reach);
						if (all[k] > reach) expect(own).toBeUndefined();
						else expect(own!.distance).toBeCloseTo(all[k], 9);
					});
				}
			)
		);
	});
	test('exactly as far as it reaches is found; on nothing there is none', () => {
		const line = polygonPath([0, 0, 10, 0], false);
		expect(nearestOnPath(line, 5, 2, 2)).toEqual({ segment: 0, t: 0.5, distance: 2 });
		expect(nearestOnPath(line, 5, 2, 1.999)).toBeUndefined();
		expect(nearestOnPath(NONE, 0, 0, 10)).toBeUndefined();
		expect(new PathIndex([]).nearest(0, 0, 10)).toBeUndefined();
		expect(new PathIndex([]).within(0, 0, 1, 1)).toEqual([]);
		expect(new PathIndex([NONE, line]).nearest(0, 0, 1)).toMatchObject({ path: 1, distance: 0 });
		// Of two equally near the first stays.
		expect(new PathIndex([line, line]).nearest(5, 1, 3)!.path).toBe(
			new PathIndex([line, line]).within(4, 0, 6, 2)[0]
		);
	});
	test('paths whose boxes meet a box', () => {
		const index = new PathIndex([circlePath(0, 0, 5), circlePath(20, 0, 5), circlePath(0, 20, 5)]);
		expect(index.within(4, -1, 16, 1).sort()).toEqual([0, 1]);
		expect(index.within(6, 6, 14, 14)).toEqual([]);
		expect(boxOf(index.paths[1])).toBe(boxOf(index.paths[1]));
		expect(boxOf(index.paths[1]).x0).toBeCloseTo(15, 9);
	});
});

describe('whether a line comes into a box', () => {
	const box = { x0: 0, y0: 0, x1: 10, y1: 10 };
	test('through it, into it, at its edge; not round it, not beside it', () => {
		for (const [xy, crosses] of [
			[[-5, 5, 15, 5], true],
			[[5, -5, 5, 15], true],
			[[5, 5, 6, 6], true],
			[[-5, 10, 15, 10], true],
			[[10, -5, 10, 15], true],
			[[0, -5, 0, 15], true],
			[[-5, 0, 15, 0], true],
			[[-5, 10.1, 15, 10.1], false],
			[[10.1, -5, 10.1, 15], false],
			[[-0.1, -5, -0.1, 15], false],
			[[-5, -0.1, 15, -0.1], false],
			[[11, 5, 20, 5], false],
			[[-9, 5, -1, 5], false]
		] as const)
			expect([xy, crossesBox(polygonPath(xy, false), box)]).toEqual([xy, crosses]);
		expect(crossesBox(circlePath(5, 5, 30), box)).toBe(false);
		expect(crossesBox(circlePath(5, 5, 4), box)).toBe(true);
		expect(crossesBox(NONE, box)).toBe(false);
		// A later segment, and the last quarter of a curve.
		expect(crossesBox(polygonPath([-40, -40, -30, -40, 5, 5], false), box)).toBe(true);
		expect(crossesBox(new PathBuilder(40, 40).cubic(40, 20, 30, 9, 9, 9).open(), box)).toBe(true);
	});
});
