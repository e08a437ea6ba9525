/** The laws of combining and offsetting over the letters of an open font, with a polygon library as referee. */
import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { numberIn } from '../../../../tests/numbers';
import { glyph, LETTERS } from '../../../../tests/glyphs';
import { unwrap } from '../errors';
import { combine } from './combine';
import { type CombineInput, type CombineOp } from './area';
import { flattenPath } from '../geometry/edge-tree';
import { pathArea, pathLength } from '../geometry/measure';
import { offsetPieces } from './offset';
import { transformPath, type Path } from '../geometry/path';
import { offsetPolygons } from './polygon-clipper';

const letters = fc.constantFrom(...LETTERS);
const input = (paths: Path[]): CombineInput => [{ paths, rule: 'nonzero' }];
const sum = (paths: readonly Path[]) => paths.reduce((a, p) => a + pathArea(p), 0);
const polygonArea = (p: ArrayLike<number>) => {
	let twice = 0;
	for (let i = 0, j = p.length - 2; i < p.length; j = i, i += 2) twice += p[j] * p[i + 1] - p[i] * p[j + 1];
	return twice / 2;
};

function areaOf(inputs: CombineInput[], op: CombineOp): number {
	const result = unwrap(combine(inputs, op, { verify: true }));
	expect(result.fallback).toBe(false);
	return result.pieces.reduce((a, piece) => a + sum(piece.paths), 0);
}

describe('letters', () => {
	test('laid over each other: the four areas agree; a letter with itself is itself, less itself nothing', () => {
		fc.assert(
			fc.property(letters, letters, numberIn(-12, 12), numberIn(0, 6.28), (one, other, dx, angle) => {
				const a = input(glyph(one));
				const c = Math.cos(angle);
				const s = Math.sin(angle);
				const b = input(glyph(other).map((p) => transformPath(p, [c, s, -s, c, dx, 2])));
				const [wholeA, wholeB] = [areaOf([a], 'union'), areaOf([b], 'union')];
				const both = areaOf([a, b], 'intersection');
				expect(areaOf([a, b], 'union') + both).toBeCloseTo(wholeA + wholeB, 5);
				expect(areaOf([a, b], 'difference') + both).toBeCloseTo(wholeA, 5);
				expect(areaOf([a, b], 'xor')).toBeCloseTo(wholeA + wholeB - 2 * both, 5);
				expect(areaOf([a, a], 'union')).toBeCloseTo(wholeA, 6);
				expect(areaOf([a, a], 'difference')).toBe(0);
			}),
			{ numRuns: 25 }
		);
	});

	// Neither finer than what counts as one place lets be seen, nor larger than the largest drawing, 10 m.
	const sizes = [
		[20, 1e-3],
		[20, 1e-2],
		[20, 30],
		[20, 400],
		[0.7, 1e4]
	];
	test('combining follows its input from a thousandth to ten thousand times the size', () => {
		fc.assert(
			fc.property(letters, letters, fc.constantFrom(...sizes), (one, other, [size, k]) => {
				const a = glyph(one, size);
				const turned = [0.8, 0.6, -0.6, 0.8, 0.25 * size, -0.15 * size] as const;
				const b = glyph(other, size).map((p) => transformPath(p, turned));
				const grown = (paths: Path[]) => input(paths.map((p) => transformPath(p, [k, 0, 0, k, 0, 0])));
				for (const op of ['union', 'difference', 'intersection'] as const) {
					const plain = areaOf([input(a), input(b)], op);
					// What is closer than 1e-6 mm is one place: along the whole line that is as much area.
					const slack = (1e-6 / k) * [...a, ...b].reduce((l, p) => l + pathLength(p), 0) + 1e-7 * plain;
					expect(Math.abs(areaOf([grown(a), grown(b)], op) / (k * k) - plain)).toBeLessThan(slack);
				}
			}),
			{ numRuns: 20 }
		);
	});

	test('grown and shrunk: within 0.005 mm, and the area that a polygon library finds (clipper2-ts)', () => {
		fc.assert(
			fc.property(letters, fc.constantFrom(0.3, 1, 2.5, -0.2, -0.6), (letter, distance) => {
				// What the outlines bound: some letters of the font have parts that overlap.
				const paths = unwrap(combine([input(glyph(letter))], 'union')).pieces.flatMap((p) => p.paths);
				const result = offsetPieces(paths, { distance, join: 'round' });
				if (!result.ok) {
					expect(result.problem.code).toBe('nothing-left');
					return;
				}
				expect(result.value.fallback).toBe(false);
				expect(result.value.error).toBeLessThan(0.0065);
				const referee = offsetPolygons(paths, distance, 'round', 4, 0.001);
				const found = referee.reduce((a, p) => a + polygonArea(p), 0);
				const length = result.value.paths.reduce((l, p) => l + pathLength(p), 0);
				expect(Math.abs(sum(result.value.paths) - found)).toBeLessThan(0.005 * length + 0.01);
			}),
			{ numRuns: 40 }
		);
	});

	test('the outlines are those of the font: an "o" has a counter, an "i" a dot, a "B" two counters', () => {
		const turns = (c: string) => glyph(c).map((p) => Math.sign(polygonArea(flattenPath(p, 0.05))));
		expect(turns('o').sort()).toEqual([-1, 1]);
		expect(turns('B').filter((t) => t !== turns('l')[0])).toHaveLength(2);
		expect(turns('i')).toHaveLength(2);
	});
});
