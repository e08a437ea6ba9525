/** Outlines as packed segments: built, turned round, mapped. */
import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { numberIn } from '../../../../tests/numbers';
import { blob } from '../../../../tests/shapes';
import { flattenPath } from './edge-tree';
import { mirrorAt, placed, scaleBy, turnBy } from './maps';
import { pathArea, pathLength } from './measure';
import {
	ARC,
	circlePath,
	compose,
	CUBIC,
	IDENTITY,
	inverse,
	isSamePath,
	isSimilarity,
	PathBuilder,
	polygonPath,
	reversePath,
	segmentCount,
	STRAIGHT,
	STRIDE,
	transformPath,
	type Affine
} from './path';
import { pointAt } from './segment';

const mixed = () => new PathBuilder(0, 0).line(9, 3).arc(0.5, 12, 9).cubic(14, 12, 6, 15, 3, 9).close();

describe('built', () => {
	test('what has no length is dropped; what has some is not', () => {
		const builder = new PathBuilder(1, 2).line(1, 2).arc(0.5, 1, 2).cubic(1, 2, 1, 2, 1, 2);
		expect([builder.count, builder.endX, builder.endY]).toEqual([0, 1, 2]);
		expect(builder.open()).toEqual({ closed: false, types: new Uint8Array(0), segs: new Float64Array(0) });
		for (const [x, y] of [
			[1, 3],
			[0, 2]
		]) {
			expect(new PathBuilder(1, 2).line(x, y).count).toBe(1);
			expect(new PathBuilder(1, 2).arc(0.5, x, y).count).toBe(1);
			expect(new PathBuilder(1, 2).cubic(x, y, 1, 2, 1, 2).count).toBe(1);
			expect(new PathBuilder(1, 2).cubic(1, 2, x, y, 1, 2).count).toBe(1);
			expect(new PathBuilder(1, 2).cubic(1, 2, 1, 2, x, y).count).toBe(1);
		}
		// An arc without a bulge is a straight, with its handles at thirds.
		expect(new PathBuilder(0, 0).arc(0, 9, 3).open()).toEqual({
			closed: false,
			types: Uint8Array.of(STRAIGHT),
			segs: Float64Array.of(0, 0, 3, 1, 6, 2, 9, 3)
		});
	});
	test('closed by a straight where there is a gap, by moving the end where there is next to none', () => {
		const open = () => new PathBuilder(0, 0).line(10, 0).line(10, 10);
		expect(open().close().types).toHaveLength(3);
		const near = open().line(1e-7, -1e-7).close();
		expect([near.types.length, ...near.segs.subarray(-2)]).toEqual([3, 0, 0]);
		expect(open().line(0.01, 0).close(0.02).types).toHaveLength(3);
		expect(open().line(0.01, 0).close().types).toHaveLength(4);
		expect(new PathBuilder(3, 4).close()).toMatchObject({ closed: true, types: new Uint8Array(0) });
	});
	test('the last segment is taken back, and it goes on from there; of none nothing', () => {
		const builder = new PathBuilder(0, 0).line(10, 0).arc(1, 10, 10);
		builder.takeBack();
		expect([builder.count, builder.endX, builder.endY]).toEqual([1, 10, 0]);
		builder.takeBack();
		builder.takeBack();
		expect([builder.count, builder.endX, builder.endY]).toEqual([0, 0, 0]);
		expect(builder.line(0, 5).open().segs[7]).toBe(5);
	});
	test('segments of another go on where this one ends, each as it is', () => {
		const path = mixed();
		const copy = new PathBuilder(0, 0).along(path).close();
		expect(isSamePath(copy, path)).toBe(true);
		expect(segmentCount(copy)).toBe(4);
		expect([...copy.types]).toEqual([STRAIGHT, ARC, CUBIC, STRAIGHT]);
	});
	test('a polygon and a circle', () => {
		const open = polygonPath([0, 0, 3, 0, 3, 3], false);
		expect([open.closed, open.types.length, ...open.segs.subarray(-2)]).toEqual([false, 2, 3, 3]);
		// A number too many is none.
		expect(polygonPath([0, 0, 3, 0, 3, 3, 9], false).types).toHaveLength(2);
		const round = circlePath(3, 4, 5);
		expect([...round.types]).toEqual([ARC, ARC, ARC, ARC]);
		for (let i = 0; i < 4; i++)
			for (const t of [0, 0.3, 0.5]) {
				const p = pointAt(ARC, round.segs, STRIDE * i, t);
				expect(Math.hypot(p.x - 3, p.y - 4)).toBeCloseTo(5, 12);
			}
		expect(pathArea(round)).toBeCloseTo(25 * Math.PI, 9);
	});
});

describe('the other way, and the same', () => {
	test('reversed it goes over the same places, and twice is as it was', () => {
		const path = mixed();
		const back = reversePath(path);
		expect(isSamePath(reversePath(back), path)).toBe(true);
		expect(pathArea(back)).toBeCloseTo(-pathArea(path), 9);
		expect([...back.types]).toEqual([...path.types].reverse());
		for (let i = 0; i < 4; i++)
			for (const t of [0, 0.25, 0.7, 1]) {
				const p = pointAt(path.types[i], path.segs, STRIDE * i, t);
				const q = pointAt(back.types[3 - i], back.segs, STRIDE * (3 - i), 1 - t);
				expect(Math.hypot(p.x - q.x, p.y - q.y)).toBeLessThan(1e-9);
			}
		expect(reversePath({ ...path, closed: false }).closed).toBe(false);
	});
	test('the same to the bit, or not', () => {
		const path = mixed();
		expect(isSamePath(path, path)).toBe(true);
		expect(isSamePath(path, mixed())).toBe(true);
		expect(isSamePath(path, { ...mixed(), closed: false })).toBe(false);
		const other = mixed();
		other.segs[13] += 1e-12;
		expect(isSamePath(path, other)).toBe(false);
		const cubics = mixed();
		cubics.types[0] = CUBIC;
		expect(isSamePath(path, cubics)).toBe(false);
		expect(isSamePath(polygonPath([0, 0, 1, 0], false), polygonPath([0, 0, 1, 0, 1, 1], false))).toBe(false);
		expect(isSamePath(polygonPath([0, 0, 1, 0, 1, 1], false), polygonPath([0, 0, 1, 0], false))).toBe(false);
	});
});

describe('mapped', () => {
	const number = numberIn(-50, 50);
	const maps: fc.Arbitrary<Affine> = fc.tuple(number, number, number, number, number, number);
	test('one map after the other is one map, and there is a way back', () => {
		fc.assert(
			fc.property(maps, maps, number, number, (outer, inner, x, y) => {
				const once = placed(inner, x, y);
				const twice = placed(outer, once.x, once.y);
				const whole = placed(compose(outer, inner), x, y);
				expect(Math.hypot(whole.x - twice.x, whole.y - twice.y)).toBeLessThan(1e-6);
				const [a, b, c, d] = inner;
				fc.pre(Math.abs(a * d - b * c) > 1);
				const back = placed(inverse(inner), once.x, once.y);
				expect(Math.hypot(back.x - x, back.y - y)).toBeLessThan(1e-6);
			})
		);
		expect(compose(IDENTITY, [1, 2, 3, 4, 5, 6])).toEqual([1, 2, 3, 4, 5, 6]);
	});
	test('round stays round under moves, turns, mirrors and even scalings, of any size, and under nothing else', () => {
		fc.assert(
			fc.property(
				numberIn(-180, 180),
				numberIn(-180, 180),
				fc.constantFrom(1e-6, 1, 1e6),
				(turn, at, scale) => {
					const map = compose(turnBy(turn, 3, 4), compose(mirrorAt(at, 1, 2), scaleBy(scale, scale, 0, 0)));
					expect(isSimilarity(map)).toBe(true);
					expect(isSimilarity(compose(turnBy(turn, 3, 4), scaleBy(scale, scale, 0, 0)))).toBe(true);
					expect(isSimilarity(compose(map, [1, 0, 0.001, 1, 0, 0]))).toBe(false);
					expect(isSimilarity(compose(map, scaleBy(1, 1.001, 0, 0)))).toBe(false);
					expect(isSimilarity(compose(map, scaleBy(1.001, 1, 0, 0)))).toBe(false);
				}
			)
		);
		// Half turned, half mirrored: one pair of numbers alone is not enough.
		for (const m of [
			[1, 0, 0, 2, 0, 0],
			[0, 1, 2, 0, 0, 0],
			[1, 1, 1, 1, 0, 0],
			[1, 1, -1, 2, 0, 0]
		] as const)
			expect(isSimilarity([...m])).toBe(false);
	});
	test('every place of a mapped line is the mapped place, arcs under what keeps them round', () => {
		fc.assert(
			fc.property(
				numberIn(-180, 180),
				fc.boolean(),
				numberIn(0.2, 5),
				number,
				number,
				(turn, flips, scale, dx, dy) => {
					const even = compose(
						[1, 0, 0, 1, dx, dy],
						compose(turnBy(turn, 0, 0), scaleBy(flips ? -scale : scale, scale, 0, 0))
					);
					const path = mixed();
					const there = transformPath(path, even);
					expect([there.closed, there.types]).toEqual([path.closed, path.types]);
					for (let i = 0; i < 4; i++)
						for (const t of [0, 0.4, 1]) {
							const p = pointAt(path.types[i], path.segs, STRIDE * i, t);
							const q = pointAt(there.types[i], there.segs, STRIDE * i, t);
							const wanted = placed(even, p.x, p.y);
							expect(Math.hypot(q.x - wanted.x, q.y - wanted.y)).toBeLessThan(1e-6);
						}
					expect(pathArea(there)).toBeCloseTo((flips ? -1 : 1) * scale * scale * pathArea(path), 5);
					expect(pathLength(there)).toBeCloseTo(scale * pathLength(path), 5);
				}
			)
		);
		const sheared = transformPath(blob(5, 1), [1, 0.3, -0.2, 2, 4, 5]);
		const points = flattenPath(blob(5, 1), 1e-3);
		const own = flattenPath(sheared, 1e-3);
		expect(own[0]).toBeCloseTo(points[0] - 0.2 * points[1] + 4, 9);
		expect(own[1]).toBeCloseTo(0.3 * points[0] + 2 * points[1] + 5, 9);
		// What an arc does not use stays nought.
		expect([...transformPath(circlePath(0, 0, 1), turnBy(30, 9, 9)).segs.subarray(3, 6)]).toEqual([0, 0, 0]);
	});
});
