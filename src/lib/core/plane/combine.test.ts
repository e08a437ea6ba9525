import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { numberIn } from '../../../../tests/numbers';
import { blob } from '../../../../tests/shapes';
import { unwrap } from '../errors';
import { arrange } from './arrangement';
import { combine, coveredOutlines, cutLines } from './combine';
import { isWound } from './area';
import { type CombineInput, type CombineOp, type FillRule } from './area';
import { checkCombined } from './combine-check';
import { pathArea, pathLength } from '../geometry/measure';
import {
	circlePath,
	PathBuilder,
	polygonPath,
	reversePath,
	STRIDE,
	transformPath,
	type Path
} from '../geometry/path';
import { combinePolygons } from './polygon-clipper';
import { pointAt } from '../geometry/segment';
import { withPlainStraights } from './segment-set';
import { WindingRows } from './winding-rows';

const input = (...paths: Path[]): CombineInput => [{ paths, rule: 'nonzero' as FillRule }];
const square = (x: number, y: number, s: number) => polygonPath([x, y, x + s, y, x + s, y + s, x, y + s]);
const made = (inputs: readonly CombineInput[], op: CombineOp) => {
	const result = unwrap(combine(inputs, op, { verify: true }));
	expect(result.fallback).toBe(false);
	return result.pieces;
};
const areaOf = (pieces: { paths: Path[] }[]) =>
	pieces.reduce((sum, piece) => sum + piece.paths.reduce((a, p) => a + pathArea(p), 0), 0);
const anchorsOf = (pieces: { paths: Path[] }[]) =>
	pieces.reduce((sum, piece) => sum + piece.paths.reduce((n, p) => n + p.types.length, 0), 0);

const seeds = fc.integer({ min: 1, max: 4000 });
const degenerate: [string, Path, Path][] = [
	['a shared edge', square(0, 0, 10), square(10, 0, 10)],
	['part of a shared edge', square(0, 0, 10), square(10, 3, 4)],
	['touching corners', square(0, 0, 10), square(10, 10, 10)],
	['tangent circles', circlePath(0, 0, 5), circlePath(10, 0, 5)],
	['a circle touching from inside', circlePath(0, 0, 10), circlePath(5, 0, 5)],
	['one inside the other', circlePath(0, 0, 10), circlePath(1, 1, 2)],
	['apart', circlePath(0, 0, 4), circlePath(20, 0, 4)],
	['gaps of 1e-7 mm', square(0, 0, 10), square(10 + 1e-7, 0, 10)],
	['copies 0.0001 mm apart', square(0, 0, 10), square(1e-4, 0, 10)],
	['duplicates', circlePath(3, 4, 5), circlePath(3, 4, 5)],
	['duplicates the other way round', square(0, 0, 7), reversePath(square(0, 0, 7))],
	[
		'handles on their anchors',
		new PathBuilder(0, 0)
			.cubic(0, 0, 20, 0, 20, 0)
			.cubic(20, 0, 20, 20, 20, 20)
			.cubic(20, 20, 0, 20, 0, 20)
			.close(),
		circlePath(20, 10, 6)
	],
	[
		'a cusp',
		new PathBuilder(0, 0).cubic(30, 20, -10, 20, 20, 0).line(20, -20).line(0, -20).close(),
		square(5, -5, 12)
	],
	[
		'a loop',
		new PathBuilder(0, 0).cubic(40, 30, -20, 30, 20, 0).line(20, -9).line(0, -9).close(),
		square(4, 4, 12)
	],
	['an outline crossing itself', polygonPath([0, 0, 20, 20, 20, 0, 0, 20]), square(5, 5, 10)]
];

describe('combine: laws', () => {
	test('area(A) + area(B) = area(union) + area(intersection); what is left of A and the common make A', () => {
		fc.assert(
			fc.property(seeds, numberIn(-20, 20), (seed, dx) => {
				const a = blob(24, seed, 30);
				const b = transformPath(blob(18, seed + 1, 25), [1, 0, 0, 1, dx, 7]);
				const area = (op: CombineOp) => areaOf(made([input(a), input(b)], op));
				const both = area('intersection');
				expect(area('union') + both).toBeCloseTo(pathArea(a) + pathArea(b), 6);
				expect(area('difference') + both).toBeCloseTo(pathArea(a), 6);
				expect(area('xor')).toBeCloseTo(pathArea(a) + pathArea(b) - 2 * both, 6);
			}),
			{ numRuns: 15 }
		);
	});

	test('A with A is A, bit for bit; A less A is nothing', () => {
		fc.assert(
			fc.property(seeds, (seed) => {
				const a = blob(30, seed);
				const [piece] = made([input(a), input(a)], 'union');
				expect(piece.paths[0].types).toHaveLength(30);
				expect(new Set(piece.paths[0].segs)).toEqual(new Set(a.segs));
				expect(made([input(a), input(a)], 'difference')).toEqual([]);
				expect(made([input(a), input(a)], 'xor')).toEqual([]);
			}),
			{ numRuns: 10 }
		);
	});

	test('moved, turned, scaled, reversed, exchanged: the same area', () => {
		fc.assert(
			fc.property(seeds, numberIn(0, 6.28), fc.constantFrom(1e-1, 1, 50), (seed, angle, k) => {
				const a = blob(20, seed, 20);
				const b = transformPath(blob(20, seed + 3, 20), [1, 0, 0, 1, 8, 5]);
				const m = [
					k * Math.cos(angle),
					k * Math.sin(angle),
					-k * Math.sin(angle),
					k * Math.cos(angle),
					3,
					4
				] as const;
				const moved = [reversePath(transformPath(b, m)), transformPath(a, m)].map((p) => input(p));
				for (const op of ['union', 'intersection', 'xor'] as const) {
					const area = areaOf(made([input(a), input(b)], op));
					expect(Math.abs(areaOf(made(moved, op)) / (k * k) - area)).toBeLessThan(1e-6 * area + 1e-6);
				}
			}),
			{ numRuns: 10 }
		);
	});

	test('untouched segments come through as they were; anchors are only added where lines cross', () => {
		const a = blob(200, 3, 40);
		const b = transformPath(blob(200, 4, 40), [1, 0, 0, 1, 15, 0]);
		const pieces = made([input(a), input(b)], 'union');
		const key = (s: ArrayLike<number>, i: number) =>
			Array.from({ length: 8 }, (_, k) => s[STRIDE * i + k]).join();
		const given = new Set([a, b].flatMap((p) => Array.from(p.types, (_, i) => key(p.segs, i))));
		const kept = pieces[0].paths.flatMap((p) => Array.from(p.types, (_, i) => given.has(key(p.segs, i))));
		expect(kept.filter((k) => !k).length).toBeLessThanOrEqual(8);
	});
});

describe('combine: degenerate families, against a polygon clipper as referee for areas', () => {
	test.each(degenerate)('%s', (_, a, b) => {
		for (const op of ['union', 'difference', 'intersection', 'xor'] as const) {
			const inputs = [input(a), input(b)];
			const referee = combinePolygons(inputs, op, 1e-5).reduce((sum, p) => sum + pathArea(polygonPath(p)), 0);
			const pieces = made(inputs, op);
			expect(Math.abs(areaOf(pieces) - referee)).toBeLessThan(1e-3);
		}
		expect(made([input(a), input(b)], 'regions').every((piece) => piece.inputs.length > 0)).toBe(true);
	});

	test('copies 0.0001 mm apart leave slivers, no nothing: a shifted square its two edges', () => {
		const pieces = made([input(square(0, 0, 10)), input(square(1e-4, 0, 10))], 'difference');
		expect(areaOf(pieces)).toBeCloseTo(1e-3, 9);
	});

	test('abutting squares become one rectangle of four anchors; tangent circles stay two', () => {
		expect(anchorsOf(made([input(square(0, 0, 10)), input(square(10, 0, 10))], 'union'))).toBe(4);
		expect(made([input(circlePath(0, 0, 5)), input(circlePath(10, 0, 5))], 'union')).toHaveLength(2);
	});
});

describe('combine: many, regions, lines', () => {
	test('three circles: seven regions, each with the inputs that cover it', () => {
		const circles = [circlePath(0, 0, 5), circlePath(5, 0, 5), circlePath(2.5, 4, 5)].map((p) => input(p));
		const regions = made(circles, 'regions');
		expect(regions.map((r) => r.inputs.join('')).sort()).toEqual(['0', '01', '012', '02', '1', '12', '2']);
		expect(areaOf(regions)).toBeCloseTo(areaOf(made(circles, 'union')), 9);
	});

	test('arcs stay arcs: the lens of two circles, area in closed form (engineering handbooks, circular segment)', () => {
		const [lens] = made([input(circlePath(0, 0, 5)), input(circlePath(6, 0, 5))], 'intersection');
		expect([...lens.paths[0].types].every((t) => t === 2)).toBe(true);
		const t = 2 * Math.acos(3 / 5);
		expect(pathArea(lens.paths[0])).toBeCloseTo(25 * (t - Math.sin(t)), 9);
	});

	test('islands in holes, and fill rules', () => {
		const rings = [circlePath(0, 0, 10), circlePath(0, 0, 7), circlePath(0, 0, 3)];
		const evenOdd = unwrap(combine([[{ paths: rings, rule: 'evenodd' }]], 'union', { verify: true }));
		expect(evenOdd.pieces).toHaveLength(2);
		expect(areaOf(evenOdd.pieces)).toBeCloseTo(Math.PI * (100 - 49 + 9), 9);
		expect(areaOf(made([input(...rings)], 'union'))).toBeCloseTo(Math.PI * 100, 9);
		expect(coveredOutlines(rings.map(reversePath), 'positive')).toEqual([]);
		expect(coveredOutlines(rings.map(reversePath), 'negative')).toHaveLength(1);
		expect(isWound(2, 'evenodd')).toBe(false);
	});

	test('an open line is cut where it enters and leaves', () => {
		const line = polygonPath([-20, 0, 20, 0], false);
		const { inside, outside } = cutLines([line], input(circlePath(0, 0, 5)));
		expect(inside.map(pathLength)).toEqual([expect.closeTo(10, 9)]);
		expect(outside.map(pathLength)).toEqual([expect.closeTo(15, 9), expect.closeTo(15, 9)]);
	});

	test('the check sees what is wrong', () => {
		const inputs = [input(square(0, 0, 10)), input(square(5, 5, 10))];
		const right = made(inputs, 'union');
		expect(checkCombined(inputs, 'union', right).ok).toBe(true);
		expect(checkCombined(inputs, 'xor', right).ok).toBe(false);
		const shifted = [
			{ ...right[0], paths: right[0].paths.map((p) => transformPath(p, [1, 0, 0, 1, 0.01, 0])) }
		];
		expect(checkCombined(inputs, 'union', shifted).ok).toBe(false);
	});

	test('faces of an arrangement fit Euler; a cubic written straight is a straight', () => {
		const plane = arrange([square(0, 0, 10), square(5, 5, 10)]);
		expect(plane.faces).toBe(4);
		const line = new PathBuilder(0, 0).cubic(3, 0, 6, 0, 9, 0).line(9, 9).close();
		expect([...withPlainStraights(line).types]).toEqual([0, 0, 0]);
		expect(new WindingRows([[0, 0, 4, 0, 4, 4, 0, 4]]).at(1, 1)).toBe(1);
		expect(pointAt(0, line.segs, 0, 1)).toEqual({ x: 9, y: 0 });
	});
});
