/** What an outline measures, held against closed forms and against sums over many small steps. */
import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { numberIn } from '../../../../tests/numbers';
import { blob } from '../../../../tests/shapes';
import { flattenPath } from './edge-tree';
import { turnBy } from './maps';
import {
	anchorCount,
	isEmptyBox,
	isInside,
	pathArea,
	pathBox,
	pathLength,
	polygonArea,
	tightestRadius,
	turnAt,
	unionBox,
	windingNumber
} from './measure';
import {
	circlePath,
	compose,
	CUBIC,
	IDENTITY,
	isSimilarity,
	PathBuilder,
	polygonPath,
	segmentCount,
	transformPath,
	type Path
} from './path';
import { arcsToCubics, emptyBox, segmentLength } from './segment';

const NONE: Path = { types: new Uint8Array(0), segs: new Float64Array(0), closed: true };
const square = polygonPath([0, 0, 4, 0, 4, 4, 0, 4]);

describe('boxes', () => {
	test('of a circle, of a bow, of nothing; of several', () => {
		const round = pathBox(circlePath(3, -2, 5));
		expect([round.x0, round.y0, round.x1, round.y1].map((v) => Math.round(1e9 * v) / 1e9)).toEqual([
			-2, -7, 8, 3
		]);
		// The middle of a cubic with both handles 8 up lies 6 up.
		const bow = pathBox(new PathBuilder(0, 0).cubic(0, 8, 10, 8, 10, 0).open());
		expect(bow).toMatchObject({ x0: 0, y0: 0, x1: 10 });
		expect(bow.y1).toBeCloseTo(6, 12);
		expect(isEmptyBox(pathBox(NONE))).toBe(true);
		expect(
			unionBox([
				{ x0: 1, y0: 2, x1: 3, y1: 4 },
				{ x0: -1, y0: 3, x1: 2, y1: 9 }
			])
		).toEqual({ x0: -1, y0: 2, x1: 3, y1: 9 });
		expect(isEmptyBox(unionBox([]))).toBe(true);
		expect(isEmptyBox({ x0: 1, y0: 1, x1: 1, y1: 1 })).toBe(false);
		expect(isEmptyBox({ x0: 0, y0: 2, x1: 5, y1: 1 })).toBe(true);
		expect(isEmptyBox({ x0: 2, y0: 0, x1: 1, y1: 5 })).toBe(true);
		expect(isEmptyBox({ x0: 0, y0: NaN, x1: 1, y1: NaN })).toBe(true);
	});
});

describe('length and area', () => {
	test('a circle, a square, a square of which a side is left open', () => {
		expect(pathLength(circlePath(9, 9, 2.5))).toBeCloseTo(5 * Math.PI, 9);
		expect(pathArea(circlePath(9, 9, 2.5))).toBeCloseTo(6.25 * Math.PI, 9);
		expect(pathLength(square)).toBe(16);
		const open = polygonPath([0, 0, 4, 0, 4, 4, 0, 4], false);
		expect([pathLength(open), pathArea(open), anchorCount(open), anchorCount(square)]).toEqual([
			12, 16, 4, 4
		]);
		expect([pathLength(NONE), pathArea(NONE), anchorCount(NONE)]).toEqual([0, 0, 0]);
	});
	test('the same wherever it lies and however it is turned, with arcs too, a kilometre off to a millionth', () => {
		const shape = new PathBuilder(0, 0).line(20, 0).arc(0.4, 20, 10).cubic(12, 25, 5, 20, 0, 10).close();
		const area = pathArea(shape);
		expect(area).toBeCloseTo(polygonArea(flattenPath(shape, 1e-5)), 2);
		for (const map of [turnBy(33, 5, 5), turnBy(180, -1e6, 1e6)]) {
			const moved = transformPath(shape, map);
			expect(pathArea(moved)).toBeCloseTo(area, 5);
			expect(pathLength(moved)).toBeCloseTo(pathLength(shape), 6);
		}
		// Half a mm wide, ten kilometres off: measured from where it lies, not from the origin.
		const tiny = transformPath(polygonPath([0, 0, 0.5, 0, 0.5, 0.25, 0, 0.25]), [1, 0, 0, 1, 1e7, -1e7]);
		expect(pathArea(tiny)).toBe(0.125);
		expect(polygonArea([0, 0, 2, 0, 2, 3])).toBe(3);
		expect(polygonArea([2, 3, 2, 0, 0, 0])).toBe(-3);
	});
});

describe('the tightest radius', () => {
	test('of a parabola it is at its vertex: half of its parameter', () => {
		// y = x^2 / 10 from -10 to 10: radius 5 at 0.
		const parabola = new PathBuilder(-10, 10)
			.cubic(-10 + 20 / 3, 10 - 40 / 3, 10 - 20 / 3, 10 - 40 / 3, 10, 10)
			.open();
		const { radius, x, y } = tightestRadius(parabola);
		expect(radius).toBeCloseTo(5, 6);
		expect(Math.hypot(x, y)).toBeLessThan(1e-3);
	});
	test('of all segments the tightest, wherever it lies; at an end too; none of straights', () => {
		const arcs = new PathBuilder(0, 0).arc(1, 10, 0).arc(-1, 16, 0).arc(1, 36, 0).open();
		expect(tightestRadius(arcs)).toEqual({ radius: 3, x: 10, y: 0 });
		// Turned and moved it is the same one.
		const turned = tightestRadius(transformPath(arcs, turnBy(90, 0, 5)));
		expect(turned.radius).toBeCloseTo(3, 9);
		expect(Math.hypot(turned.x - 5, turned.y - 15)).toBeLessThan(1e-9);
		expect(tightestRadius(square)).toEqual({ radius: Infinity, x: 0, y: 0 });
		expect(tightestRadius(NONE)).toEqual({ radius: Infinity, x: 0, y: 0 });
		// Half of that parabola: tightest where it begins, or where it ends.
		const half = new PathBuilder(0, 0).cubic(10 / 3, 0, 20 / 3, 10 / 3, 10, 10).open();
		const atStart = tightestRadius(half);
		expect(atStart.radius).toBeCloseTo(5, 4);
		expect(Math.hypot(atStart.x, atStart.y)).toBeLessThan(0.01);
		const back = tightestRadius(new PathBuilder(10, 10).cubic(20 / 3, 10 / 3, 10 / 3, 0, 0, 0).open());
		expect(back.radius).toBeCloseTo(5, 4);
		expect(Math.hypot(back.x, back.y)).toBeLessThan(0.01);
	});
	test('no radius of many places along a cubic is tighter', () => {
		fc.assert(
			fc.property(fc.integer({ min: 1, max: 500 }), (seed) => {
				const path = blob(5, seed);
				const { radius, x, y } = tightestRadius(path);
				// The circle through three near places, over the whole line.
				const p = flattenPath(path, 1e-6);
				let least = Infinity;
				for (let i = 0; i + 24 < p.length; i += 2) {
					const [ax, ay, bx, by, cx, cy] = [p[i], p[i + 1], p[i + 12], p[i + 13], p[i + 24], p[i + 25]];
					const double = Math.abs((bx - ax) * (cy - ay) - (by - ay) * (cx - ax));
					const sides =
						Math.hypot(bx - ax, by - ay) * Math.hypot(cx - bx, cy - by) * Math.hypot(cx - ax, cy - ay);
					least = Math.min(least, sides / (2 * double));
				}
				expect(radius).toBeLessThan(1.02 * least);
				expect(radius).toBeGreaterThan(0.8 * least);
				expect(
					Math.min(
						...Array.from({ length: p.length / 2 }, (_, i) => Math.hypot(p[2 * i] - x, p[2 * i + 1] - y))
					)
				).toBeLessThan(0.2);
			}),
			{ numRuns: 20 }
		);
	});
});

describe('turns and insides', () => {
	test('the turn at an anchor, to the left above 0; none at an open end', () => {
		expect([0, 1, 2, 3].map((i) => turnAt(square, i))).toEqual([90, 90, 90, 90]);
		const open = polygonPath([0, 0, 10, 0, 10, -10, 20, -10], false);
		expect([turnAt(open, 0), turnAt(open, 1), turnAt(open, 2)]).toEqual([0, -90, 90]);
		const bent = new PathBuilder(0, 0).line(10, 0).cubic(10, 5, 15, 10, 20, 10).line(30, 10).open();
		expect([turnAt(bent, 1), turnAt(bent, 2)]).toEqual([90, 0]);
	});
	test('winding: once round, twice round, the other way round, outside, level with anchors', () => {
		const p = [0, 0, 4, 0, 4, 4, 0, 4];
		expect(windingNumber(p, 2, 2)).toBe(1);
		expect(windingNumber([...p, ...p], 2, 2)).toBe(2);
		expect(windingNumber([0, 4, 4, 4, 4, 0, 0, 0], 2, 2)).toBe(-1);
		for (const [x, y] of [
			[-1, 2],
			[5, 2],
			[2, 5],
			[2, -1],
			[5, 4],
			[-1, 0]
		])
			expect(windingNumber(p, x, y)).toBe(0);
		const diamond = [0, -2, 2, 0, 0, 2, -2, 0];
		expect([
			windingNumber(diamond, 0, 0),
			windingNumber(diamond, 3, 0),
			windingNumber(diamond, -3, 0)
		]).toEqual([1, 0, 0]);
		const twice = polygonPath([...p, ...p]);
		expect([isInside(square, 1, 1, 0.01), isInside(square, 5, 1, 0.01), isInside(twice, 1, 1, 0.01)]).toEqual(
			[true, false, false]
		);
		const round = circlePath(0, 0, 10);
		expect([isInside(round, 9.99, 0, 1e-3), isInside(round, 10.01, 0, 1e-3)]).toEqual([true, false]);
	});
});

describe('paths in closed form', () => {
	test('ellipse perimeter 4 a E(m), E(0.5) = 1.3506438810 (Abramowitz and Stegun, table 17.1)', () => {
		const a = 10;
		const b = a * Math.SQRT1_2; // m = 1 - b^2 / a^2 = 0.5
		const stretched = transformPath(arcsToCubics(circlePath(0, 0, a), 1e-9), [1, 0, 0, b / a, 0, 0]);
		expect(pathLength(stretched)).toBeCloseTo(4 * a * 1.350643881, 6);
	});

	test('a similarity scales lengths and areas; mirroring turns the area', () => {
		fc.assert(
			fc.property(numberIn(0.01, 100), numberIn(0, 6.3), (k, turn) => {
				const c = k * Math.cos(turn);
				const s = k * Math.sin(turn);
				const moved = transformPath(circlePath(3, 4, 5), [c, s, -s, c, 7, -2]);
				expect(pathLength(moved) / (10 * Math.PI * k)).toBeCloseTo(1, 9);
				expect(pathArea(moved) / (25 * Math.PI * k * k)).toBeCloseTo(1, 9);
				expect(isSimilarity([c, s, -s, c, 0, 0])).toBe(true);
			})
		);
		expect(pathArea(transformPath(circlePath(0, 0, 5), [-1, 0, 0, 1, 0, 0]))).toBeCloseTo(-25 * Math.PI, 9);
		expect(isSimilarity([1, 0, 0, 2, 0, 0])).toBe(false);
		expect(compose([2, 0, 0, 2, 1, 1], [1, 0, 0, 1, 3, 0])).toEqual([2, 0, 0, 2, 7, 1]);
		expect(compose(IDENTITY, [1, 2, 3, 4, 5, 6])).toEqual([1, 2, 3, 4, 5, 6]);
	});

	test('a square: turns, winding, box, anchors', () => {
		const square = polygonPath([0, 0, 10, 0, 10, 10, 0, 10]);
		expect(segmentCount(square)).toBe(4);
		expect(anchorCount(square)).toBe(4);
		for (let i = 0; i < 4; i++) expect(turnAt(square, i)).toBeCloseTo(90, 9);
		expect(isInside(square, 5, 5, 0.01)).toBe(true);
		expect(isInside(square, 15, 5, 0.01)).toBe(false);
		expect(windingNumber([0, 0, 0, 10, 10, 10, 10, 0], 5, 5)).toBe(-1);
		expect(pathBox(square)).toEqual({ x0: 0, y0: 0, x1: 10, y1: 10 });
		expect(unionBox([pathBox(square), { x0: -5, y0: 2, x1: 1, y1: 3 }])).toEqual({
			x0: -5,
			y0: 0,
			x1: 10,
			y1: 10
		});
		expect(isEmptyBox(emptyBox())).toBe(true);
		expect(turnAt(polygonPath([0, 0, 1, 0, 1, 1], false), 0)).toBe(0);
	});
});

test('a length of what is no number is none, at once; huge and tiny curves are as long as they are', () => {
	expect(segmentLength(CUBIC, [0, 0, NaN, 1, 2, 1, 3, 0], 0)).toBeNaN();
	expect(segmentLength(CUBIC, [], 0)).toBeNaN();
	const bow = [0, 0, 10, 30, 40, 30, 50, 0];
	const long = segmentLength(CUBIC, bow, 0);
	for (const by of [1e-9, 1e-3, 1e6, 1e12])
		expect(
			segmentLength(
				CUBIC,
				bow.map((v) => v * by),
				0
			) /
				by /
				long
		).toBeCloseTo(1, 11);
});
