/** Joining, breaking, trimming, extending lines. */
import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { numberIn } from '../../../../tests/numbers';
import { blob, chance } from '../../../../tests/shapes';
import { unwrap } from '../errors';
import {
	stretchBetween,
	breakAt,
	extendTo,
	joinEnds,
	lengthen,
	meetingPlaces,
	placeAtLength,
	singleSegments,
	startAt,
	trim
} from './join';
import { pathArea, pathLength } from './measure';
import { PathBuilder, polygonPath, reversePath } from './path';

const square = polygonPath([0, 0, 40, 0, 40, 40, 0, 40]);
const problem = (r: { ok: boolean; problem?: { code: string; sentence: string } }) => {
	expect(r.ok).toBe(false);
	return r.problem!;
};

describe('join', () => {
	test('loose lines become one closed outline whatever their order and direction', () => {
		fc.assert(
			fc.property(fc.integer({ min: 1, max: 900 }), (seed) => {
				const rnd = chance(seed);
				const whole = blob(9, seed);
				const parts = singleSegments(whole)
					.map((p) => (rnd() < 0.5 ? reversePath(p) : p))
					.sort(() => rnd() - 0.5);
				const { paths, unjoined, from } = joinEnds(parts, 0.01);
				expect(unjoined).toBe(0);
				expect(paths).toHaveLength(1);
				expect(paths[0].closed).toBe(true);
				expect(from[0].slice().sort()).toEqual(parts.map((_, i) => i));
				expect(Math.abs(pathArea(paths[0]))).toBeCloseTo(pathArea(whole), 6);
			}),
			{ numRuns: 20 }
		);
	});
	test('ends meet at their middle, or are bridged; what is too far apart is counted', () => {
		const a = polygonPath([0, 0, 10, 0], false);
		const b = polygonPath([10.4, 0, 20, 0], false);
		const drawn = joinEnds([a, b], 0.5);
		expect(drawn.drift).toBeCloseTo(0.2, 12);
		expect([...drawn.paths[0].segs].filter((_, k) => k === 6)[0]).toBeCloseTo(10.2, 12);
		expect(joinEnds([a, b], 0.5, true).paths[0].types).toHaveLength(3);
		expect(joinEnds([a, b], 0.3)).toMatchObject({ unjoined: 4 });
	});
	test('a stray bit shorter than the gap does not close on itself into nothing', () => {
		const { paths } = joinEnds([polygonPath([0, 0, 0.3, 0], false)], 0.5);
		expect(paths[0].closed).toBe(false);
	});
});

describe('break, trim, extend', () => {
	test('n cuts make n parts of a closed outline, n + 1 of an open one; together they are the whole', () => {
		fc.assert(
			fc.property(
				fc.integer({ min: 1, max: 900 }),
				fc.array(numberIn(0.01, 11.99), { minLength: 1, maxLength: 6 }),
				(seed, cuts) => {
					const path = blob(12, seed);
					const places = [...new Set(cuts.map((c) => +c.toFixed(3)))].map((c) => ({
						segment: Math.floor(c),
						t: c % 1
					}));
					const parts = breakAt(path, places);
					expect(parts).toHaveLength(places.length);
					expect(parts.every((p) => !p.closed)).toBe(true);
					expect(parts.reduce((sum, p) => sum + pathLength(p), 0)).toBeCloseTo(pathLength(path), 6);
					const open = stretchBetween(path, 0, 12);
					expect(breakAt(open, places)).toHaveLength(places.length + 1);
				}
			),
			{ numRuns: 20 }
		);
	});
	test('the stretch pointed at goes, as far as the cutters', () => {
		const cutters = [polygonPath([10, -5, 10, 5], false), polygonPath([30, -5, 30, 5], false)];
		expect(meetingPlaces(square, cutters)).toEqual([0.25, 0.75]);
		const [rest] = unwrap(trim(square, cutters, { segment: 0, t: 0.5 }));
		expect(pathLength(rest)).toBeCloseTo(140, 9);
		const [short] = unwrap(trim(square, cutters, { segment: 2, t: 0.5 }));
		expect(pathLength(short)).toBeCloseTo(20, 9);
		const line = polygonPath([0, 0, 40, 0], false);
		expect(unwrap(trim(line, cutters, { segment: 0, t: 0.5 }))).toHaveLength(2);
		expect(problem(trim(square, [], { segment: 0, t: 0.5 })).code).toBe('no-crossing');
		expect(problem(trim(square, [cutters[0]], { segment: 0, t: 0.5 })).code).toBe('one-crossing');
	});
	test('longer straight on, along the circle, along the cubic; shorter; refusals name the largest', () => {
		const quarter = new PathBuilder(10, 0).arc(Math.tan(Math.PI / 8), 0, 10).open();
		const half = unwrap(lengthen(quarter, 'end', (Math.PI * 10) / 2, 'curve'));
		expect(half.segs[6]).toBeCloseTo(-10, 9);
		expect(problem(lengthen(quarter, 'end', 60, 'curve')).sentence).toContain('47.12 mm');
		const curve = new PathBuilder(0, 0).cubic(3, 5, 8, 6, 12, 2).open();
		for (const how of ['straight', 'curve'] as const) {
			for (const end of ['start', 'end'] as const) {
				expect(pathLength(unwrap(lengthen(curve, end, 4, how)))).toBeCloseTo(pathLength(curve) + 4, 6);
			}
		}
		const shorter = unwrap(lengthen(curve, 'end', -5, 'curve'));
		expect(pathLength(shorter)).toBeCloseTo(pathLength(curve) - 5, 8);
		expect(problem(lengthen(curve, 'end', -50, 'curve')).sentence).toMatch(/14\.\d+ mm long/);
		expect(problem(lengthen(square, 'end', 5, 'curve')).code).toBe('closed-outline');
	});
	test('to a boundary; a new start; a place by length', () => {
		const wall = polygonPath([30, -20, 30, 20], false);
		const reached = unwrap(extendTo(polygonPath([0, 0, 10, 0], false), 'end', [wall], 'straight'));
		expect(pathLength(reached)).toBeCloseTo(30, 9);
		const back = unwrap(extendTo(polygonPath([40, 0, 50, 0], false), 'start', [wall], 'straight'));
		expect(pathLength(back)).toBeCloseTo(20, 9);
		expect(problem(extendTo(polygonPath([0, 0, -10, 0], false), 'end', [wall], 'straight')).code).toBe(
			'no-boundary'
		);
		const turned = startAt(square, { segment: 1, t: 0.5 });
		expect([turned.segs[0], turned.segs[1]]).toEqual([40, 20]);
		expect(pathArea(turned)).toBeCloseTo(1600, 9);
		expect(placeAtLength(square, 60)).toBeCloseTo(1.5, 12);
	});
});
