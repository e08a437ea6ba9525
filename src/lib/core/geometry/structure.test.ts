/** Joining, breaking, trimming, extending; corners; offsets of open lines. */
import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { numberIn } from '../../../../tests/numbers';
import { blob, chance } from '../../../../tests/shapes';
import { unwrap } from '../errors';
import { arcShape } from './arc';
import { blendEnds, chamfer, cornerOf, fillet } from './corner';
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
import { offsetPieces } from '../plane/offset';
import { checkOffset } from '../plane/offset-check';
import { finish } from '../progress';
import { lineToOutline, offsetLine } from '../plane/offset-line';
import { rawSide } from '../plane/offset-raw';
import { offsetStrips, PolygonCover } from '../plane/offset-strips';
import {
	ARC,
	circlePath,
	PathBuilder,
	polygonPath,
	reversePath,
	STRIDE,
	transformPath,
	type Path
} from './path';
import { refit } from '../fit/refit';
import { curvatureAt, directionAt, pointAt } from './segment';
import { flattenPath, twoWayDistance } from './edge-tree';
import { fitPoints } from '../fit/fit-points';

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

describe('offsets of open lines', () => {
	const line = polygonPath([0, 0, 30, 0], false);
	test('round, square and butt ends: areas in closed form', () => {
		const area = (ends: 'round' | 'square' | 'butt') =>
			unwrap(offsetLine(line, { distance: 2, join: 'round', ends })).paths.reduce(
				(a, p) => a + pathArea(p),
				0
			);
		expect(area('butt')).toBeCloseTo(30 * 4, 6);
		expect(area('square')).toBeCloseTo(34 * 4, 6);
		expect(area('round')).toBeCloseTo(30 * 4 + Math.PI * 4, 2);
	});
	test('left is left of the direction of travel; a band lies between', () => {
		const bent = polygonPath([0, 0, 30, 0, 30, 30], false);
		const left = unwrap(offsetLine(bent, { distance: 3, join: 'miter', side: 'left' })).paths;
		expect(left).toHaveLength(1);
		expect(pathLength(left[0])).toBeCloseTo(54, 6);
		const right = unwrap(offsetLine(bent, { distance: 3, join: 'miter', side: 'right' })).paths;
		expect(pathLength(right[0])).toBeCloseTo(66, 6);
		const band = unwrap(offsetLine(bent, { distance: 3, join: 'miter', side: 'right', band: true })).paths;
		expect(pathArea(band[0])).toBeCloseTo(2 * 90 + 9, 6);
		expect(
			rawSide(bent, { distance: 3, join: 'round', miterLimit: 4, tolerance: 0.001, trim: false }).closed
		).toBe(true);
	});
	test('a line of a width: open with ends, closed as a ring; refusals', () => {
		const ring = unwrap(lineToOutline(circlePath(0, 0, 10), 2)).paths;
		expect(ring.reduce((a, p) => a + pathArea(p), 0)).toBeCloseTo(Math.PI * (121 - 81), 2);
		expect(ring).toHaveLength(2);
		expect(unwrap(lineToOutline(line, 1)).paths).toHaveLength(1);
		expect(problem(lineToOutline(line, 0)).code).toBe('bad-width');
		expect(problem(offsetLine(line, { distance: -1, join: 'round' })).code).toBe('bad-distance');
		expect(problem(offsetLine(square, { distance: 1, join: 'round' })).code).toBe('closed-outline');
	});
});

describe('offset of pieces: what makes it', () => {
	test('a true circle gives arcs; corners stay corners; a convex outline comes back', () => {
		const grown = unwrap(offsetPieces([circlePath(0, 0, 10)], { distance: 3, join: 'round' })).paths[0];
		expect([...grown.types]).toEqual([2, 2, 2, 2]);
		expect(pathArea(grown)).toBeCloseTo(Math.PI * 169, 9);
		const out = unwrap(offsetPieces([square], { distance: 5, join: 'round' })).paths;
		const back = unwrap(offsetPieces(out, { distance: -5, join: 'round' })).paths;
		expect(twoWayDistance([square], back, 1e-4).distance).toBeLessThan(0.01);
	});
	test('Steiner: a convex outline grown by d has length + 2 pi d and area + length d + pi d^2', () => {
		const hexagon = polygonPath([10, 0, 5, 8.66, -5, 8.66, -10, 0, -5, -8.66, 5, -8.66]);
		for (const d of [0.3, 2, 7]) {
			const [path] = unwrap(offsetPieces([hexagon], { distance: d, join: 'round' })).paths;
			expect(pathLength(path)).toBeCloseTo(pathLength(hexagon) + 2 * Math.PI * d, 6);
			expect(pathArea(path)).toBeCloseTo(pathArea(hexagon) + pathLength(hexagon) * d + Math.PI * d * d, 6);
		}
	});
	test('the check sees a wrong offset, round, mitred and bevelled', () => {
		for (const join of ['round', 'miter', 'bevel'] as const) {
			const { paths } = unwrap(offsetPieces([square], { distance: 2, join }));
			expect(finish(checkOffset(paths, [square], 2, join, 4, 0.005)).ok).toBe(true);
			const wrong = paths.map((p) => transformPath(p, [1, 0, 0, 1, 0.05, 0]));
			expect(finish(checkOffset(wrong, [square], 2, join, 4, 0.005)).ok).toBe(false);
		}
		const cover = new PolygonCover(offsetStrips([square], 2, 'miter', 4, 0.001));
		expect([cover.covers(41, -1), cover.covers(43, 0), cover.covers(20, 20)]).toEqual([true, false, false]);
	});
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
