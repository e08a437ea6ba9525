/** Corners rounded, cut off, made of two lines. */
import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { numberIn } from '../../../../tests/numbers';
import { chance } from '../../../../tests/shapes';
import { unwrap } from '../errors';
import { arcShape } from './arc';
import { blendEnds, chamfer, cornerOf, fillet } from './corner';
import { pathArea, pathLength } from './measure';
import { ARC, circlePath, PathBuilder, polygonPath, STRIDE } from './path';
import { directionAt } from './segment';

const square = polygonPath([0, 0, 40, 0, 40, 40, 0, 40]);
const problem = (r: { ok: boolean; problem?: { code: string; sentence: string } }) => {
	expect(r.ok).toBe(false);
	return r.problem!;
};

describe('corners', () => {
	test('a fillet leaves r tan(half the deflection angle) of each straight (textbooks on setting out curves)', () => {
		for (const angle of [20, 60, 90, 135]) {
			const rad = (angle * Math.PI) / 180;
			const path = polygonPath([-50, 0, 0, 0, 50 * Math.cos(rad), 50 * Math.sin(rad)], false);
			const rounded = unwrap(fillet(path, 1, 4));
			expect(rounded.segs[6]).toBeCloseTo(-4 * Math.tan(rad / 2), 9);
			expect([...rounded.types]).toEqual([0, ARC, 0]);
		}
	});
	test('the arc touches both sides tangentially (below 1e-6 degrees) and has the radius, straight or curved', () => {
		fc.assert(
			fc.property(fc.integer({ min: 1, max: 5000 }), numberIn(0.2, 1.5), (seed, radius) => {
				const rnd = chance(seed);
				const path = new PathBuilder(-20, 4 * rnd())
					.cubic(-12, 6 * rnd(), -6, 4 * rnd(), 0, 0)
					.cubic(3 * rnd(), 5, 4 + 3 * rnd(), 12, 2, 20)
					.open();
				const r = fillet(path, 1, radius);
				if (!r.ok) return;
				const k = [...r.value.types].indexOf(ARC);
				const s = r.value.segs;
				const at = STRIDE * k;
				expect(arcShape(s[at], s[at + 1], s[at + 6], s[at + 7], s[at + 2]).radius / radius).toBeCloseTo(1, 8);
				for (const [i, j] of [
					[k - 1, k],
					[k, k + 1]
				]) {
					const a = directionAt(r.value.types[i], s, STRIDE * i, 1);
					const b = directionAt(r.value.types[j], s, STRIDE * j, 0);
					expect(Math.abs(Math.asin(a.x * b.y - a.y * b.x)) * (180 / Math.PI)).toBeLessThan(1e-6);
				}
			}),
			{ numRuns: 40 }
		);
	});
	test('a radius too large is refused with the largest that fits, and that one fits (common practice)', () => {
		const { code, sentence } = problem(fillet(square, 1, 60));
		expect(code).toBe('too-large');
		const most = Number(/is ([\d.]+) mm/.exec(sentence)![1]);
		expect(fillet(square, 1, most).ok).toBe(true);
		expect(most).toBeGreaterThan(39.9);
		expect(problem(fillet(polygonPath([0, 0, 9, 0], false), 0, 1)).code).toBe('open-end');
		expect(problem(fillet(square, 0, -1)).code).toBe('bad-radius');
		expect(problem(fillet(circlePath(0, 0, 5), 1, 1)).code).toBe('no-corner');
	});
	test('cut off by one length or two; refused where there is too little', () => {
		expect(pathArea(unwrap(chamfer(square, 0, 10)))).toBeCloseTo(1550, 9);
		expect(pathArea(unwrap(chamfer(square, 2, 10, 20)))).toBeCloseTo(1500, 9);
		expect(problem(chamfer(square, 0, 50)).sentence).toContain('40 mm');
	});
	test('between two lines: crossing ones keep the arms pointed at, others are prolonged; ends blended', () => {
		const level = polygonPath([-20, 0, 20, 0], false);
		const plumb = polygonPath([0, -20, 0, 20], false);
		const { path, corner } = unwrap(cornerOf(level, { segment: 0, t: 0.1 }, plumb, { segment: 0, t: 0.9 }));
		expect(pathLength(path)).toBeCloseTo(40, 9);
		expect([path.segs[STRIDE * corner], path.segs[STRIDE * corner + 1]]).toEqual([0, 0]);
		expect([...unwrap(fillet(path, corner, 5)).types]).toEqual([0, ARC, 0]);
		const apart = unwrap(
			cornerOf(
				polygonPath([0, 0, 10, 0], false),
				{ segment: 0, t: 0.9 },
				polygonPath([20, 10, 20, 30], false),
				{
					segment: 0,
					t: 0.1
				}
			)
		);
		expect([apart.path.segs[STRIDE * apart.corner], apart.path.segs[STRIDE * apart.corner + 1]]).toEqual([
			20, 0
		]);
		const parallel = polygonPath([0, 5, 10, 5], false);
		expect(
			problem(
				cornerOf(polygonPath([0, 0, 10, 0], false), { segment: 0, t: 0.9 }, parallel, { segment: 0, t: 0.9 })
			).code
		).toBe('parallel');
		const blend = blendEnds(polygonPath([0, 0, 10, 0], false), polygonPath([20, 10, 20, 30], false));
		const at = STRIDE;
		expect(directionAt(1, blend.segs, at, 0)).toEqual({ x: 1, y: 0 });
		expect(directionAt(1, blend.segs, at, 1).y).toBeCloseTo(1, 12);
	});
});
