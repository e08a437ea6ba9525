/** Joining, breaking, trimming, extending lines. */
import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { problem } from '../../../../tests/refused';
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
import {
	ARC,
	CUBIC,
	isSamePath,
	PathBuilder,
	polygonPath,
	reversePath,
	STRAIGHT,
	STRIDE,
	type Path
} from './path';
import { pointAt } from './segment';

const square = polygonPath([0, 0, 40, 0, 40, 40, 0, 40]);

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

const ends = ({ segs }: Path) => [...segs.subarray(0, 2), ...segs.subarray(-2)];
const line = (...points: number[]) => polygonPath(points, false);
const rounded = (values: readonly number[]) => values.map((v) => Math.round(1e6 * v) / 1e6 + 0);

describe('which ends are joined', () => {
	test('the nearest first, each end with one other; what is closed or empty stays as it is, at the end', () => {
		const none: Path = { closed: false, types: new Uint8Array(0), segs: new Float64Array(0) };
		const middle = line(0, 0, 10, 0);
		const far = line(10.3, 0, 20, 5);
		const near = line(10.1, 0, 20, -5);
		const { paths, from, unjoined, drift } = joinEnds([square, far, none, middle, near], 0.5);
		expect(from.map((of) => [...of].sort())).toEqual([[1], [3, 4], [0], [2]]);
		expect([unjoined, drift]).toEqual([4, expect.closeTo(0.05, 12)]);
		expect(paths[2]).toBe(square);
		expect(paths[3]).toBe(none);
		expect(rounded(ends(paths[0]))).toEqual([10.3, 0, 20, 5]);
		expect(rounded(ends(paths[1]).slice(0, 2))).toEqual([0, 0]);
	});
	test('equally near ones are taken in their order; just as far as the gap is joined', () => {
		const { from } = joinEnds([line(0, 0, 10, 0), line(10.5, 0, 20, 5), line(10, 0.5, 20, -5)], 0.5);
		expect(from).toEqual([[0, 1], [2]]);
		expect(joinEnds([line(0, 0, 10, 0), line(10.5, 0, 20, 0)], 0.5).paths).toHaveLength(1);
		expect(joinEnds([], 1)).toEqual({ paths: [], from: [], unjoined: 0, drift: 0 });
	});
	test('a line whose ends meet is closed, and one that is hardly longer than the gap is not', () => {
		const hook = line(0, 0, 10, 0, 10, 10, 0, 0.2);
		const { paths, drift } = joinEnds([hook], 0.5);
		expect([paths[0].closed, paths[0].types.length, drift]).toEqual([true, 3, 0.1]);
		expect(rounded([...paths[0].segs.subarray(0, 2)])).toEqual([0, 0.1]);
		expect(joinEnds([hook], 0.5, true).paths[0].types).toHaveLength(4);
		// There and back it is longer than twice the gap: closed.
		expect(joinEnds([line(0, 0, 0.6, 0, 0, 0.4)], 0.5).paths[0].closed).toBe(true);
		expect(joinEnds([line(0, 0, 0.3, 0, 0, 0.4)], 0.5).paths[0].closed).toBe(false);
	});
	test('the end of a curve is moved with its handle, an arc keeps its bulge; the line is gone through in one direction', () => {
		const curve = new PathBuilder(0, 0).cubic(3, 5, 7, 5, 10, 0).open();
		const arc = new PathBuilder(20, 0).arc(0.4, 10, 0.2).open();
		const { paths } = joinEnds([curve, arc], 0.5);
		const s = paths[0].segs;
		expect([...paths[0].types]).toEqual([CUBIC, ARC]);
		expect(rounded([...s])).toEqual([0, 0, 3, 5, 7, 5.1, 10, 0.1, 10, 0.1, -0.4, 0, 0, 0, 20, 0]);
		// Begun with the moved end.
		const [other] = joinEnds(
			[new PathBuilder(10, 0).cubic(13, 5, 17, 5, 20, 0).open(), line(9.8, 0, 0, 0)],
			0.5
		).paths;
		const k = [...other.types].indexOf(CUBIC);
		const handles = [...other.segs.subarray(STRIDE * k + 2, STRIDE * k + 6)];
		expect(rounded(handles).sort((a, b) => a - b)).toEqual([5, 5, 12.9, 17]);
	});
});

describe('cuts', () => {
	test('in any order, each once; at an end of an open line there is none, over the seam of a closed one there is', () => {
		const open = line(0, 0, 10, 0, 20, 0, 30, 0);
		const at = (segment: number, t: number) => ({ segment, t });
		const parts = breakAt(open, [at(2, 0.5), at(0, 0.5), at(2, 0.5), at(0, 0), at(2, 1), at(1, 0)]);
		expect(parts.map((part) => rounded(ends(part)))).toEqual([
			[0, 0, 5, 0],
			[5, 0, 10, 0],
			[10, 0, 25, 0],
			[25, 0, 30, 0]
		]);
		expect(breakAt(open, [at(0, 0), at(2, 1)])).toEqual([open]);
		expect(breakAt(square, [])).toEqual([square]);
		const whole = breakAt(square, [at(3, 1)]);
		expect(whole.map((part) => [part.closed, rounded(ends(part)), part.types.length])).toEqual([
			[false, [0, 0, 0, 0], 4]
		]);
		// What lies beyond a segment is its end.
		expect(breakAt(open, [at(0, 7)]).map((part) => rounded(ends(part)))).toEqual([
			[0, 0, 10, 0],
			[10, 0, 30, 0]
		]);
		// Segments that are not cut are the same to the bit.
		expect([...breakAt(open, [at(2, 0.5)])[0].segs.subarray(0, 16)]).toEqual([...open.segs.subarray(0, 16)]);
	});
	test('where it meets others and itself, in order along it; neighbours that meet at their anchor do not', () => {
		const eight = polygonPath([0, 0, 10, 10, 10, 0, 0, 10]);
		expect(meetingPlaces(eight, [eight])).toEqual([0.5, 2.5]);
		expect(meetingPlaces(square, [square])).toEqual([]);
		const cutters = [line(30, -5, 30, 50), line(10, -5, 10, 50), line(-5, 10, 50, 10)];
		expect(meetingPlaces(square, cutters).map((k) => Math.round(1e6 * k) / 1e6)).toEqual([
			0.25, 0.75, 1.25, 2.25, 2.75, 3.75
		]);
		// Two that meet it in the same place are one; at its seam it is 0.
		expect(meetingPlaces(square, [line(20, -5, 20, 5), line(15, -5, 25, 5)])).toEqual([0.5]);
		expect(meetingPlaces(square, [line(-5, 5, 5, -5)])).toEqual([0]);
		for (const beside of [
			line(41, 0, 50, 50),
			line(-5, -1, 50, -1),
			line(-1, -5, -1, 50),
			line(-5, 41, 50, 41)
		])
			expect(meetingPlaces(square, [beside])).toEqual([]);
	});
	test('trimmed as far as the next on either side, over the seam too; ends of an open line go as a whole', () => {
		const at = (segment: number, t: number) => ({ segment, t });
		const level = line(-5, 20, 50, 20);
		for (const [segment, t, low] of [
			[0, 0.5, true],
			[3, 0.9, true],
			[1, 0.1, true],
			[2, 0.5, false],
			[3, 0.1, false]
		] as const) {
			const [rest] = unwrap(trim(square, [level], at(segment, t)));
			expect(rest.closed).toBe(false);
			expect(pathLength(rest)).toBeCloseTo(80, 9);
			const { y } = pointAt(rest.types[1], rest.segs, STRIDE, 0.5);
			expect(y > 20).toBe(low);
		}
		const open = line(0, 0, 40, 0);
		const cutters = [line(10, -5, 10, 5), line(30, -5, 30, 5)];
		const left = (t: number) => unwrap(trim(open, cutters, at(0, t))).map((part) => rounded(ends(part)));
		expect(left(0.1)).toEqual([[10, 0, 40, 0]]);
		expect(left(0.5)).toEqual([
			[0, 0, 10, 0],
			[30, 0, 40, 0]
		]);
		expect(left(0.9)).toEqual([[0, 0, 30, 0]]);
		// A cutter at its very end leaves nothing there.
		expect(unwrap(trim(open, [line(0, -5, 0, 5), line(40, -5, 40, 5)], at(0, 0.5)))).toEqual([]);
		expect(problem(trim(open, [line(50, -5, 50, 5)], at(0, 0.5))).sentence).toContain(
			'nothing to trim it by'
		);
	});
});

describe('longer and shorter', () => {
	test('straight on in the direction of each kind of end; by nothing it is as it was', () => {
		const slant = line(0, 0, 3, 4);
		expect(rounded(ends(unwrap(lengthen(slant, 'end', 5, 'straight'))))).toEqual([0, 0, 6, 8]);
		expect(rounded(ends(unwrap(lengthen(slant, 'start', 5, 'curve'))))).toEqual([-3, -4, 3, 4]);
		expect(unwrap(lengthen(slant, 'end', 5, 'straight')).types).toHaveLength(1);
		expect(rounded(ends(unwrap(lengthen(slant, 'end', 0, 'curve'))))).toEqual([0, 0, 3, 4]);
		const curve = new PathBuilder(0, 0).line(-5, 0).cubic(0, 5, 2, 6, 5, 10).open();
		const on = unwrap(lengthen(curve, 'end', 5, 'straight'));
		expect([...on.types]).toEqual([STRAIGHT, CUBIC, STRAIGHT]);
		expect(rounded(ends(on).slice(2))).toEqual([8, 14]);
		const half = new PathBuilder(10, 0).arc(1, -10, 0).open();
		expect(rounded(ends(unwrap(lengthen(half, 'end', 4, 'straight'))).slice(2))).toEqual([-10, -4]);
		for (const bad of [NaN, Infinity])
			expect(problem(lengthen(slant, 'end', bad, 'curve')).code).toBe('bad-length');
		expect(problem(lengthen(slant, 'end', -5, 'curve')).code).toBe('too-short');
		expect(problem(lengthen(half, 'end', 40, 'curve'))).toMatchObject({ code: 'whole-circle' });
		expect(problem(lengthen(square, 'end', 1, 'curve')).sentence).toContain('has no end');
	});
	test('an arc goes on as its circle, a cubic as its own polynomial, far on too', () => {
		const quarter = new PathBuilder(10, 0).arc(Math.tan(Math.PI / 8), 0, 10).open();
		for (const by of [1, 10, 40]) {
			const longer = unwrap(lengthen(quarter, 'end', by, 'curve'));
			const [x, y] = longer.segs.subarray(-2);
			const angle = Math.PI / 2 + by / 10;
			expect([x, y]).toEqual([
				expect.closeTo(10 * Math.cos(angle), 9),
				expect.closeTo(10 * Math.sin(angle), 9)
			]);
			expect(pathLength(longer)).toBeCloseTo(5 * Math.PI + by, 9);
		}
		// y = x^2 from 0 to 1, as a cubic.
		const parabola = new PathBuilder(0, 0).cubic(1 / 3, 0, 2 / 3, 1 / 3, 1, 1).open();
		for (const by of [0.2, 5, 300]) {
			const longer = unwrap(lengthen(parabola, 'end', by, 'curve'));
			const [x, y] = longer.segs.subarray(-2);
			expect(y / (x * x)).toBeCloseTo(1, 6);
			expect(pathLength(longer) - pathLength(parabola)).toBeCloseTo(by, 4);
		}
	});
	test('to the first boundary ahead, of several segments and by either end, along the circle where it is one', () => {
		const two = line(0, 5, 0, 0, 10, 0);
		const walls = [line(50, -5, 50, 5), line(30, -5, 30, 5), line(5, -5, 5, 5)];
		expect(rounded(ends(unwrap(extendTo(two, 'end', walls, 'straight'))))).toEqual([0, 5, 30, 0]);
		expect(rounded(ends(unwrap(extendTo(two, 'start', [line(-5, 9, 5, 9)], 'curve'))))).toEqual([
			0, 9, 10, 0
		]);
		const quarter = new PathBuilder(10, 0).arc(Math.tan(Math.PI / 8), 0, 10).open();
		const across = [line(-20, 0, 20, 0)];
		const round = unwrap(extendTo(quarter, 'end', across, 'curve'));
		expect(rounded(ends(round).slice(2))).toEqual([-10, 0]);
		expect(problem(extendTo(quarter, 'end', across, 'straight')).code).toBe('no-boundary');
		const back = unwrap(extendTo(quarter, 'start', [line(0, -20, 0, -1)], 'curve'));
		expect(rounded(ends(back))).toEqual([0, -10, 0, 10]);
		expect(problem(extendTo(square, 'end', walls, 'straight')).code).toBe('closed-outline');
		expect(problem(extendTo(two, 'end', walls, 'straight', 10)).sentence).toContain('meets no other outline');
	});
	test('a place by its length, before and beyond the ends too; begun elsewhere', () => {
		const bent = line(0, 0, 10, 0, 10, 10);
		expect([0, 5, 10, 15, 20, 99].map((mm) => placeAtLength(bent, mm))).toEqual([0, 0.5, 1, 1.5, 2, 2]);
		const begun = startAt(square, { segment: 0, t: 0 });
		expect(isSamePath(begun, square)).toBe(true);
		expect(startAt(bent, { segment: 1, t: 0.5 })).toBe(bent);
		const [x, y, ...more] = ends(startAt(square, { segment: 3, t: 1 }));
		expect([x, y, ...more]).toEqual([0, 0, 0, 0]);
		expect(startAt(square, { segment: 2, t: 0.5 })).toMatchObject({ closed: true, types: new Uint8Array(5) });
		expect(singleSegments(square).map((part) => ends(part))).toEqual([
			[0, 0, 40, 0],
			[40, 0, 40, 40],
			[40, 40, 0, 40],
			[0, 40, 0, 0]
		]);
	});
});
