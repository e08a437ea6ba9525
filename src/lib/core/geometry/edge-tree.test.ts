/** Nearest distances to polylines, held against a look at every edge. */
import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { numberIn } from '../../../../tests/numbers';
import { chance } from '../../../../tests/shapes';
import { EdgeTree, flattenPath, largestDistance, pathTree, twoWayDistance, type Polyline } from './edge-tree';
import { circlePath, PathBuilder, polygonPath } from './path';

/** Polylines at random places, of which some are closed, some a single place, some empty, some with edges without length. */
function scattered(seed: number): Polyline[] {
	const r = chance(seed);
	return Array.from({ length: 1 + Math.floor(12 * r()) }, () => {
		const points: number[] = [];
		const count = Math.floor(9 * r());
		for (let k = 0; k < count; k++) {
			points.push(100 * r(), 100 * r());
			if (r() < 0.1) points.push(points.at(-2)!, points.at(-1)!);
		}
		// Closed between two places it would go over the same edge twice, there and back.
		const places = new Set(Array.from({ length: points.length / 2 }, (_, k) => points[2 * k]));
		return { points, closed: places.size > 2 && r() < 0.5 };
	});
}
/** The nearest of all edges: how far, where, of which line, and which way it goes. */
function looked(lines: readonly Polyline[], x: number, y: number) {
	let best = { distance: Infinity, x: 0, y: 0, line: 0, way: { x: 0, y: 0 }, isAtAnchor: false };
	lines.forEach(({ points, closed }, line) => {
		const n = points.length / 2;
		for (let i = 0; i < (closed ? n : n - 1); i++) {
			const [ax, ay] = [points[2 * i], points[2 * i + 1]];
			const [bx, by] = [points[2 * ((i + 1) % n)], points[2 * ((i + 1) % n) + 1]];
			const sq = (bx - ax) ** 2 + (by - ay) ** 2;
			const t = sq ? Math.min(1, Math.max(0, ((x - ax) * (bx - ax) + (y - ay) * (by - ay)) / sq)) : 0;
			const at = { x: ax + t * (bx - ax), y: ay + t * (by - ay) };
			const distance = Math.hypot(x - at.x, y - at.y);
			const size = Math.sqrt(sq) || 1;
			if (distance < best.distance)
				best = {
					distance,
					...at,
					line,
					way: { x: (bx - ax) / size, y: (by - ay) / size },
					isAtAnchor: t === 0 || t === 1
				};
		}
	});
	return best;
}

describe('the tree of edges', () => {
	test('finds what a look at every edge finds, query after query: how far, where, of which line', () => {
		const coordinate = numberIn(-50, 150);
		fc.assert(
			fc.property(
				fc.integer({ min: 1, max: 5000 }),
				fc.array(fc.tuple(coordinate, coordinate), { minLength: 1, maxLength: 8 }),
				(seed, places) => {
					const lines = scattered(seed);
					const tree = new EdgeTree(lines);
					for (const [x, y] of places) {
						const wanted = looked(lines, x, y);
						const distance = tree.distance(x, y);
						if (wanted.distance === Infinity) {
							expect(distance).toBe(Infinity);
							continue;
						}
						expect(distance).toBeCloseTo(wanted.distance, 9);
						expect(Math.hypot(tree.x - x, tree.y - y)).toBeCloseTo(distance, 9);
						// At an anchor either of two edges may be told.
						if (wanted.isAtAnchor) continue;
						expect(tree.line).toBe(wanted.line);
						expect(Math.hypot(tree.x - wanted.x, tree.y - wanted.y)).toBeLessThan(1e-6);
						const { x: wx, y: wy } = tree.direction();
						expect(wx).toBeCloseTo(wanted.way.x, 9);
						expect(wy).toBeCloseTo(wanted.way.y, 9);
					}
				}
			),
			{ numRuns: 400 }
		);
	});
	test('of nothing, of one place', () => {
		expect(new EdgeTree([]).distance(3, 4)).toBe(Infinity);
		expect(new EdgeTree([{ points: [], closed: true }]).distance(3, 4)).toBe(Infinity);
		expect(new EdgeTree([{ points: [1, 1], closed: false }]).distance(3, 4)).toBe(Infinity);
		const one = new EdgeTree([{ points: [0, 0], closed: true }]);
		expect(one.distance(3, 4)).toBe(5);
		expect([one.x, one.y, one.direction()]).toEqual([0, 0, { x: 0, y: 0 }]);
	});
});

describe('flattened', () => {
	test('a closed path does not repeat its start, an open one has both ends; within the tolerance', () => {
		expect([...flattenPath(polygonPath([0, 0, 4, 0, 4, 4]), 0.01)]).toEqual([0, 0, 4, 0, 4, 4]);
		expect([...flattenPath(polygonPath([0, 0, 4, 0, 4, 4], false), 0.01)]).toEqual([0, 0, 4, 0, 4, 4]);
		expect(
			flattenPath({ types: new Uint8Array(0), segs: new Float64Array(0), closed: true }, 0.1)
		).toHaveLength(0);
		const p = flattenPath(circlePath(0, 0, 10), 0.01);
		for (let i = 0; i < p.length; i += 2) {
			const j = (i + 2) % p.length;
			expect(Math.hypot(p[i], p[i + 1])).toBeCloseTo(10, 9);
			expect(Math.hypot((p[i] + p[j]) / 2, (p[i + 1] + p[j + 1]) / 2)).toBeGreaterThan(9.99);
		}
		expect(pathTree([circlePath(0, 0, 10)], 1e-4).distance(0, 15)).toBeCloseTo(5, 3);
	});
});

describe('the largest distance', () => {
	const level = polygonPath([0, 0, 100, 0], false);
	test('one way and both ways, and where', () => {
		const tent = polygonPath([0, 0, 50, 9, 100, 0], false);
		const there = largestDistance(
			[{ points: [0, 0, 50, 9, 100, 0], closed: false }],
			pathTree([level], 1e-3)
		);
		expect(there).toEqual({ distance: 9, x: 50, y: 9 });
		expect(twoWayDistance([level], [tent], 1e-3)).toEqual({ distance: 9, x: 50, y: 9 });
		expect(twoWayDistance([tent], [level], 1e-3)).toEqual({ distance: 9, x: 50, y: 9 });
		expect(twoWayDistance([level], [level], 1e-3).distance).toBe(0);
		// A part that is missing is found from the other side only.
		const half = polygonPath([0, 0, 60, 0], false);
		expect(
			largestDistance([{ points: [0, 0, 60, 0], closed: false }], pathTree([level], 1e-3)).distance
		).toBe(0);
		expect(twoWayDistance([half], [level], 1e-3)).toEqual({ distance: 40, x: 100, y: 0 });
	});
	test('between anchors it is seen by steps, the closing edge too', () => {
		// A level line under a roof whose ends touch it: no anchor of it is far from the roof.
		const roof = pathTree([new PathBuilder(0, 0).cubic(0, 40, 100, 40, 100, 0).open()], 1e-4);
		const points = [0, 0, 100, 0];
		expect(largestDistance([{ points, closed: false }], roof).distance).toBeLessThan(1e-9);
		const { distance, x } = largestDistance([{ points, closed: false }], roof, 2);
		expect(distance).toBeGreaterThan(20);
		expect(x).toBeCloseTo(50, 0);
		const upright = pathTree([new PathBuilder(0, 0).cubic(40, 0, 40, 100, 0, 100).open()], 1e-4);
		const plumb = largestDistance([{ points: [0, 0, 0, 100], closed: false }], upright, 2);
		expect(plumb.distance).toBeCloseTo(distance, 2);
		expect(plumb.y).toBeCloseTo(50, 0);
		const closing = largestDistance(
			[{ points: [0, 0, 0, 1, 100, 1, 100, 0], closed: true }],
			pathTree([polygonPath([0, 0, 0, 1, 100, 1, 100, 0], false)], 1e-3),
			5
		);
		expect(closing.distance).toBeCloseTo(1, 9);
		// No more than 64 steps an edge, however long.
		const far = largestDistance(
			[{ points: [0, 0, 6400, 0], closed: false }],
			new EdgeTree([{ points: [0, 0, 6400, 0, 6400, 50, 50, 50], closed: false }]),
			1e-3
		);
		expect(far.distance).toBe(0);
		expect(largestDistance([{ points: [], closed: true }], roof)).toEqual({ distance: 0, x: 0, y: 0 });
	});
});
