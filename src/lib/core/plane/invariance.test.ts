/** Laws that do not depend on where a drawing lies, how large it is, which way it runs or where it starts. */
import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { numberIn } from '../../../../tests/numbers';
import { blob, chance, jagged, wavy } from '../../../../tests/shapes';
import { pathCrossings } from './crossings';
import { twoWayDistance } from '../geometry/edge-tree';
import { anchorCount, pathArea, pathBox, pathLength, tightestRadius } from '../geometry/measure';
import { offsetPieces } from './offset';
import {
	circlePath,
	CUBIC,
	PathBuilder,
	polygonPath,
	reversePath,
	STRIDE,
	transformPath,
	type Affine,
	type Path
} from '../geometry/path';
import { simplifyPath } from '../fairing/simplify';

const value = (r: ReturnType<typeof offsetPieces>) => {
	if (!r.ok) throw new Error(r.problem.sentence);
	return r.value;
};
const turn = (angle: number, k: number, x: number, y: number): Affine => [
	k * Math.cos(angle),
	k * Math.sin(angle),
	-k * Math.sin(angle),
	k * Math.cos(angle),
	x,
	y
];

/** The same closed path begun at another anchor. */
function begunAt(path: Path, i: number): Path {
	const n = path.types.length;
	const builder = new PathBuilder(path.segs[STRIDE * i], path.segs[STRIDE * i + 1]);
	for (let k = 0; k < n; k++) builder.segment(path.types[(i + k) % n], path.segs, STRIDE * ((i + k) % n));
	return builder.close(1e-9);
}

const seeds = fc.integer({ min: 1, max: 5000 });
const scales = fc.constantFrom(1e-3, 0.1, 1, 30, 1000);

describe('measures', () => {
	test('length, area, radius and box follow a similarity; reversing turns the area; the start does not matter', () => {
		fc.assert(
			fc.property(seeds, numberIn(0, 6.28), scales, (seed, angle, k) => {
				const path = blob(24, seed, 4);
				const moved = transformPath(path, turn(angle, k, 3 * k, -7 * k));
				expect(pathLength(moved) / (k * pathLength(path))).toBeCloseTo(1, 8);
				expect(pathArea(moved) / (k * k * pathArea(path))).toBeCloseTo(1, 8);
				expect(tightestRadius(moved).radius / (k * tightestRadius(path).radius)).toBeCloseTo(1, 4);
				expect(pathArea(reversePath(path))).toBeCloseTo(-pathArea(path), 8);
				expect(pathLength(begunAt(path, 7))).toBeCloseTo(pathLength(path), 8);
				const quarter = pathBox(transformPath(path, [0, 1, -1, 0, 0, 0]));
				expect(quarter.x1 - quarter.x0).toBeCloseTo(pathBox(path).y1 - pathBox(path).y0, 8);
			}),
			{ numRuns: 30 }
		);
	});

	test('inputs stay unchanged by everything that reads them', () => {
		const path = blob(40, 9);
		const copy = Float64Array.from(path.segs);
		simplifyPath(path, 0.1);
		offsetPieces([path], { distance: 1, join: 'round' });
		pathCrossings([path, transformPath(path, [1, 0, 0, 1, 3, 0])]);
		reversePath(path);
		expect(path.segs).toEqual(copy);
	});
});

describe('crossings', () => {
	test('as many after moving, turning, scaling, reversing and swapping', () => {
		fc.assert(
			fc.property(seeds, numberIn(0, 6.28), fc.constantFrom(0.01, 1, 50), (seed, angle, k) => {
				const a = blob(18, seed, 20);
				const b = transformPath(blob(18, seed + 1, 20), [1, 0, 0, 1, 6, 3]);
				const count = pathCrossings([a, b], 'others').filter((c) => c.through).length;
				const m = turn(angle, k, 11, 5);
				const again = pathCrossings([transformPath(reversePath(b), m), transformPath(a, m)], 'others').filter(
					(c) => c.through
				);
				expect(again).toHaveLength(count);
				// Two closed outlines pass through each other an even number of times.
				expect(count % 2).toBe(0);
			}),
			{ numRuns: 25 }
		);
	});
});

describe('offset', () => {
	test('the same after moving, turning, reversing and another start; scales with its tolerance', () => {
		fc.assert(
			fc.property(seeds, numberIn(0, 6.28), fc.constantFrom(0.05, 1, 40), (seed, angle, k) => {
				const path = blob(30, seed, 25);
				const d = 1.2;
				const area = (paths: readonly Path[]) => paths.reduce((sum, p) => sum + pathArea(p), 0);
				const plain = area(value(offsetPieces([path], { distance: d, join: 'round' })).paths);
				const m = turn(angle, k, 2, 3);
				const other = begunAt(reversePath(transformPath(path, m)), 11);
				const moved = area(
					value(offsetPieces([other], { distance: d * k, join: 'round', tolerance: 0.005 * k })).paths
				);
				expect(Math.abs(moved / (k * k) - plain)).toBeLessThan(0.006 * pathLength(path));
			}),
			{ numRuns: 12 }
		);
	});

	test('torn outlines with a thousand anchors are offset by curves, however far', () => {
		// Those whose parallels run across each other at a hair's breadth beside their ends are among them.
		for (const seed of [6, 31, 35, 74, 82, 92, 111, 150, 160])
			for (const distance of [6, -2, 1.3, 12]) {
				const made = offsetPieces([wavy(1000, seed, 40)], { distance, join: 'round' });
				expect(value(made).fallback, `${seed}: ${distance}`).toBe(false);
			}
	});

	test('outward and inward areas lie on both sides of the source, and grow with the distance', () => {
		const rnd = chance(5);
		for (let k = 0; k < 5; k++) {
			const path = blob(40, 1 + Math.floor(rnd() * 900));
			const areas = [-2, -1, 1, 2].map((d) =>
				value(offsetPieces([path], { distance: d, join: 'round' })).paths.reduce(
					(sum, p) => sum + pathArea(p),
					0
				)
			);
			const all = [areas[0], areas[1], pathArea(path), areas[2], areas[3]];
			expect([...all].sort((a, b) => a - b)).toEqual(all);
		}
	});

	test('degenerate input: handles on their anchors, cusps, zero-length segments, gaps of 1e-7 mm', () => {
		const flat = new PathBuilder(0, 0)
			.cubic(0, 0, 20, 0, 20, 0)
			.cubic(20, 0, 20, 20, 20, 20)
			.cubic(20, 20, 0, 20, 0, 20)
			.close();
		const cusp = new PathBuilder(0, 0).cubic(30, 20, -10, 20, 20, 0).line(20, -20).line(0, -20).close();
		const still = new PathBuilder(0, 0)
			.line(20, 0)
			.cubic(20, 0, 20 + 1e-7, 0, 20 + 1e-7, 0)
			.line(20, 20)
			.line(0, 20)
			.close();
		for (const path of [flat, cusp, still]) {
			for (const d of [1, -1]) {
				const { paths, error } = value(offsetPieces([path], { distance: d, join: 'round' }));
				expect(paths.length).toBeGreaterThan(0);
				expect(error).toBeLessThan(0.007);
				expect(pathCrossings(paths).filter((c) => c.through)).toEqual([]);
			}
		}
	});
});

describe('offset: found by random runs', () => {
	test('an outline that runs straight back at an anchor (a bar with a rounded plate on it), every kind of corner', () => {
		const quarter = Math.tan(Math.PI / 8);
		const bar = polygonPath([2.5, 13.5, 22.5, 13.5, 22.5, 18.5, 2.5, 18.5]);
		const plate = new PathBuilder(14.5, 18.5)
			.line(22.5, 18.5)
			.arc(quarter, 23.5, 19.5)
			.line(23.5, 27.5)
			.arc(quarter, 22.5, 28.5)
			.line(14.5, 28.5)
			.arc(quarter, 13.5, 27.5)
			.line(13.5, 19.5)
			.arc(quarter, 14.5, 18.5)
			.close();
		const area = (join: 'round' | 'miter' | 'bevel') => {
			const result = value(offsetPieces([bar, plate], { distance: -3, join }));
			expect(result.fallback).toBe(false);
			expect(result.error).toBeLessThan(0.006);
			return result.paths.reduce((sum, p) => sum + pathArea(p), 0);
		};
		expect(area('round')).toBeLessThan(area('miter'));
		expect(area('miter')).toBeLessThanOrEqual(area('bevel'));
	});
});

describe('simplify', () => {
	test('moving and turning the line changes neither the promise nor, by much, the number of anchors', () => {
		fc.assert(
			fc.property(seeds, numberIn(0, 6.28), (seed, angle) => {
				const path = blob(60, seed);
				const a = simplifyPath(path, 0.1);
				const b = simplifyPath(transformPath(path, turn(angle, 1, 40, -9)), 0.1);
				expect(b.drift).toBeLessThanOrEqual(0.1);
				expect(Math.abs(anchorCount(a.path) - anchorCount(b.path))).toBeLessThanOrEqual(
					Math.max(4, 0.35 * anchorCount(a.path))
				);
			}),
			{ numRuns: 12 }
		);
	});

	test('twice over: the second time loses no more than its tolerance again', () => {
		const rough = jagged(25, 0.3, 5);
		const once = simplifyPath(rough, 0.25).path;
		const twice = simplifyPath(once, 0.25).path;
		expect(twoWayDistance([once], [twice], 0.005, 0.5).distance).toBeLessThanOrEqual(0.26);
		expect(anchorCount(twice)).toBeLessThanOrEqual(anchorCount(once));
	});

	test('open lines keep their ends; circles and squares are not made worse', () => {
		const open = new PathBuilder(0, 0);
		for (let i = 1; i <= 100; i++) open.line(i, 5 * Math.sin(i / 12));
		const path = open.open();
		const simple = simplifyPath(path, 0.1).path;
		expect([simple.segs[0], simple.segs[1]]).toEqual([0, 0]);
		expect(simple.segs.at(-2)).toBe(100);
		expect(simple.types.length).toBeLessThan(20);
		// Two arcs are the fewest that a circle can be.
		const circle = simplifyPath(circlePath(0, 0, 5), 0.01).path;
		expect([...circle.types]).toEqual([2, 2]);
		expect(Math.abs(pathArea(circle) - 25 * Math.PI)).toBeLessThan(0.05);
		expect(simplifyPath(polygonPath([0, 0, 9, 0, 9, 9, 0, 9]), 0.5).path.types).toHaveLength(4);
		expect(simple.types.includes(CUBIC)).toBe(true);
	});
});
