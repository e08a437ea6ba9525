import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { numberIn } from '../../../../tests/numbers';
import { arcShape, arcToCubics, bulgeOfSweep, cubicsForArc } from './arc';
import {
	ARC,
	circlePath,
	compose,
	CUBIC,
	IDENTITY,
	isSimilarity,
	PathBuilder,
	polygonPath,
	reversePath,
	segmentCount,
	STRAIGHT,
	transformPath
} from './path';
import { bernsteinRoots } from './roots';
import {
	arcsToCubics,
	curvatureAt,
	derivativeAt,
	directionAt,
	emptyBox,
	evenParameters,
	extremes,
	flattenSegment,
	flattenSteps,
	growBox,
	growByPoint,
	inflections,
	nearestOn,
	parameterAtLength,
	partOf,
	pointAt,
	quadraticRoots,
	secondAt,
	segmentArea,
	segmentLength
} from './segment';
import {
	anchorCount,
	isEmptyBox,
	isInside,
	pathArea,
	pathBox,
	pathLength,
	tightestRadius,
	turnAt,
	unionBox,
	windingNumber
} from './measure';

const place = numberIn(-100, 100);
const cubic = fc
	.tuple(place, place, place, place, place, place, place, place)
	.map((v) => Float64Array.from(v));

describe('equal lengths', () => {
	test('each place is where the length along says, of straights, arcs, cubics, hairpins and cusps; of none evenly', () => {
		const number = numberIn(-30, 30);
		const shapes = fc.oneof(
			fc.tuple(number, number, number, number, number, number, number, number),
			// Both handles ahead of each other: a hairpin, a cusp or a loop.
			fc.tuple(
				fc.constant(0),
				fc.constant(0),
				numberIn(20, 40),
				numberIn(-2, 2),
				numberIn(-30, -10),
				numberIn(-2, 2),
				fc.constant(10),
				fc.constant(0)
			)
		);
		fc.assert(
			fc.property(
				shapes,
				fc.constantFrom(CUBIC, STRAIGHT, ARC),
				fc.integer({ min: 1, max: 60 }),
				(shape, type, parts) => {
					const s = Float64Array.from(shape);
					if (type === ARC) s.set([s[2] / 10, 0, 0, 0], 2);
					const whole = segmentLength(type, s, 0);
					const places = evenParameters(type, s, 0, parts);
					expect([places.length, places[0], places[parts]]).toEqual([parts + 1, 0, 1]);
					for (let k = 1; k < parts; k++) {
						expect(segmentLength(type, s, 0, 0, places[k])).toBeCloseTo((whole * k) / parts, 7);
						expect(places[k]).toBeGreaterThan(places[k - 1]);
					}
				}
			),
			{ numRuns: 300 }
		);
		expect([...evenParameters(CUBIC, new Float64Array(8), 0, 4)]).toEqual([0, 0.25, 0.5, 0.75, 1]);
	});
});

describe('segments', () => {
	test('the parts of a cubic rejoin: the part from a to b runs along it', () => {
		fc.assert(
			fc.property(cubic, numberIn(0, 1), numberIn(0, 1), (c, a, b) => {
				const [lo, hi] = a < b ? [a, b] : [b, a];
				const part = partOf(CUBIC, c, 0, lo, hi);
				for (const t of [0, 0.3, 0.7, 1]) {
					const p = pointAt(CUBIC, part, 0, t);
					const q = pointAt(CUBIC, c, 0, lo + (hi - lo) * t);
					expect(Math.hypot(p.x - q.x, p.y - q.y)).toBeLessThan(1e-10);
				}
			})
		);
	});

	test('length: the parts add up, and the inverse finds the place again', () => {
		fc.assert(
			fc.property(cubic, numberIn(0.05, 0.95), (c, t) => {
				const whole = segmentLength(CUBIC, c, 0);
				const parts = segmentLength(CUBIC, c, 0, 0, t) + segmentLength(CUBIC, c, 0, t, 1);
				expect(Math.abs(parts - whole)).toBeLessThanOrEqual(2e-9 * (1 + whole));
				const at = parameterAtLength(CUBIC, c, 0, segmentLength(CUBIC, c, 0, 0, t));
				const p = pointAt(CUBIC, c, 0, at);
				const q = pointAt(CUBIC, c, 0, t);
				expect(Math.hypot(p.x - q.x, p.y - q.y)).toBeLessThan(1e-4);
			})
		);
	});

	test('nearest: never farther than any of 200 places tried', () => {
		fc.assert(
			fc.property(cubic, place, place, (c, x, y) => {
				const near = nearestOn(CUBIC, c, 0, x, y);
				for (let k = 0; k <= 200; k++) {
					const p = pointAt(CUBIC, c, 0, k / 200);
					expect(near.distance).toBeLessThanOrEqual(Math.hypot(p.x - x, p.y - y) + 1e-9);
				}
			}),
			{ numRuns: 60 }
		);
	});

	test('the box holds the curve and is touched on all four sides', () => {
		fc.assert(
			fc.property(cubic, (c) => {
				const box = emptyBox();
				growBox(box, CUBIC, c, 0);
				const seen = emptyBox();
				for (let k = 0; k <= 2000; k++) {
					const p = pointAt(CUBIC, c, 0, k / 2000);
					growByPoint(seen, p.x, p.y);
				}
				expect(seen.x0).toBeGreaterThanOrEqual(box.x0 - 1e-9);
				expect(seen.y1).toBeLessThanOrEqual(box.y1 + 1e-9);
				expect(seen.x0 - box.x0).toBeLessThan(1e-3);
				expect(box.y1 - seen.y1).toBeLessThan(1e-3);
			}),
			{ numRuns: 40 }
		);
	});

	test('area by Green: reversing turns its sign, a flattening comes near it', () => {
		fc.assert(
			fc.property(cubic, (c) => {
				const path = new PathBuilder(c[0], c[1]).cubic(c[2], c[3], c[4], c[5], c[6], c[7]).close();
				expect(pathArea(reversePath(path))).toBeCloseTo(-pathArea(path), 6);
				const flat: number[] = [c[0], c[1]];
				flattenSegment(CUBIC, c, 0, 1e-4, flat);
				let sum = 0;
				for (let i = 0, j = flat.length - 2; i < flat.length; j = i, i += 2)
					sum += flat[j] * flat[i + 1] - flat[i] * flat[j + 1];
				expect(Math.abs(sum / 2 - pathArea(path))).toBeLessThan(0.05);
			}),
			{ numRuns: 40 }
		);
	});

	test('flattening stays within its tolerance and refuses one of 0', () => {
		const c = Float64Array.from([0, 0, 30, 60, 70, -60, 100, 0]);
		const flat: number[] = [0, 0];
		flattenSegment(CUBIC, c, 0, 0.01, flat);
		const polygon = polygonPath(flat, false);
		for (let k = 0; k <= 500; k++) {
			const p = pointAt(CUBIC, c, 0, k / 500);
			let d = Infinity;
			for (let i = 0; i < polygon.types.length; i++)
				d = Math.min(d, nearestOn(STRAIGHT, polygon.segs, 8 * i, p.x, p.y).distance);
			expect(d).toBeLessThanOrEqual(0.01);
		}
		expect(() => flattenSegment(CUBIC, c, 0, 0, [])).toThrow('above 0');
		expect(() => flattenSteps(CUBIC, c, 0, 1e-12)).toThrow('larger tolerance');
	});

	test('derivatives agree with differences; direction survives a handle on its anchor', () => {
		const c = Float64Array.from([0, 0, 10, 20, 40, 30, 50, 0]);
		const h = 1e-6;
		for (const t of [0.2, 0.5, 0.8]) {
			const p = pointAt(CUBIC, c, 0, t - h);
			const q = pointAt(CUBIC, c, 0, t + h);
			const d = derivativeAt(CUBIC, c, 0, t);
			expect(d.x).toBeCloseTo((q.x - p.x) / (2 * h), 4);
			const e = secondAt(CUBIC, c, 0, t);
			const d0 = derivativeAt(CUBIC, c, 0, t - h);
			const d1 = derivativeAt(CUBIC, c, 0, t + h);
			expect(e.y).toBeCloseTo((d1.y - d0.y) / (2 * h), 3);
		}
		const flat = Float64Array.from([0, 0, 0, 0, 5, 5, 10, 10]);
		const d = directionAt(CUBIC, flat, 0, 0);
		expect(d.x).toBeCloseTo(Math.SQRT1_2, 3);
		expect(secondAt(STRAIGHT, flat, 0, 0)).toEqual({ x: 0, y: 0 });
	});

	test('inflections and extremes are where they are said to be', () => {
		const s = Float64Array.from([0, 0, 0, 10, 20, -10, 20, 0]);
		const [t] = inflections(s, 0);
		expect(t).toBeCloseTo(0.5, 9);
		expect(curvatureAt(CUBIC, s, 0, t)).toBeCloseTo(0, 9);
		for (const e of extremes(CUBIC, s, 0)) {
			const d = derivativeAt(CUBIC, s, 0, e);
			expect(Math.min(Math.abs(d.x), Math.abs(d.y))).toBeLessThan(1e-9);
		}
		expect(extremes(STRAIGHT, s, 0)).toEqual([]);
	});

	test('roots in Bernstein form: those of a product of known factors', () => {
		// (t - 0.2)(t - 0.5)(t - 0.9) in Bernstein form of degree 3.
		const f = (t: number) => (t - 0.2) * (t - 0.5) * (t - 0.9);
		const c = [0, 1, 2, 3].map((i) => {
			// Blossom of the cubic at i ones and 3 - i zeros.
			const args = [...Array(i).fill(1), ...Array(3 - i).fill(0)];
			const e1 = args.reduce((a, b) => a + b, 0) / 3;
			const e2 = (args[0] * args[1] + args[0] * args[2] + args[1] * args[2]) / 3;
			const e3 = args[0] * args[1] * args[2];
			return e3 - 1.6 * e2 + (0.1 + 0.18 + 0.45) * e1 - 0.09;
		});
		const roots = bernsteinRoots(c);
		expect(roots).toHaveLength(3);
		for (const r of roots) expect(Math.abs(f(r))).toBeLessThan(1e-12);
		expect(bernsteinRoots([0, 0, 0])).toEqual([]);
		expect(quadraticRoots(1, -3, 2).sort()).toEqual([1, 2]);
		expect(quadraticRoots(1, 0, 1)).toEqual([]);
	});
});

describe('arcs', () => {
	test('a quarter circle by one cubic errs by 2.7253e-4 r, outward only (Goldapp 1991, CAGD 8; value reckoned anew here)', () => {
		const [c] = [arcToCubics(1, 0, 0, 1, bulgeOfSweep(Math.PI / 2))];
		expect(c[3]).toBeCloseTo((4 / 3) * (Math.SQRT2 - 1), 12);
		let most = 0;
		let least = 0;
		for (let k = 0; k <= 1000; k++) {
			const p = pointAt(CUBIC, c, 0, k / 1000);
			const off = Math.hypot(p.x, p.y) - 1;
			most = Math.max(most, off);
			least = Math.min(least, off);
		}
		expect(most).toBeCloseTo(2.7253e-4, 7);
		expect(least).toBeGreaterThan(-1e-12);
		expect(cubicsForArc(100, Math.PI / 2, 0.0005)).toBeGreaterThan(1);
	});

	test('bulge is the tangent of a quarter of the included angle (published DXF reference); radius and centre come back', () => {
		const arc = arcShape(10, 0, 0, 10, Math.tan(Math.PI / 8));
		expect(arc.radius).toBeCloseTo(10, 12);
		expect(arc.cx).toBeCloseTo(0, 12);
		expect(arc.sweepRad).toBeCloseTo(Math.PI / 2, 12);
	});

	test('circle: length and area in closed form, curvature constant, cubics within the tolerance asked', () => {
		const circle = circlePath(5, -3, 20);
		expect(pathLength(circle)).toBeCloseTo(40 * Math.PI, 9);
		expect(pathArea(circle)).toBeCloseTo(400 * Math.PI, 9);
		expect(tightestRadius(circle).radius).toBeCloseTo(20, 9);
		expect(curvatureAt(ARC, circle.segs, 0, 0.3)).toBeCloseTo(1 / 20, 12);
		const smooth = arcsToCubics(circle, 1e-4);
		for (let i = 0; i < smooth.types.length; i++) {
			for (const t of [0, 0.25, 0.5, 0.75]) {
				const p = pointAt(CUBIC, smooth.segs, 8 * i, t);
				expect(Math.abs(Math.hypot(p.x - 5, p.y + 3) - 20)).toBeLessThan(1e-4);
			}
		}
		expect(arcsToCubics(polygonPath([0, 0, 1, 0, 1, 1])).types.includes(CUBIC)).toBe(false);
	});

	test('circular segment: area r^2 (t - sin t) / 2 (engineering handbooks)', () => {
		for (const angle of [0.4, 1.7, 3, 5]) {
			const r = 7;
			const x = r * Math.cos(angle);
			const y = r * Math.sin(angle);
			const path = new PathBuilder(r, 0).arc(Math.tan(angle / 4), x, y).close();
			expect(pathArea(path)).toBeCloseTo((r * r * (angle - Math.sin(angle))) / 2, 9);
			expect(segmentLength(ARC, path.segs, 0)).toBeCloseTo(r * angle, 9);
		}
	});

	test('a part of an arc has its radius; the nearest place lies on the ray from the centre', () => {
		const s = Float64Array.from([10, 0, Math.tan(Math.PI / 4), 0, 0, 0, -10, 0]);
		const part = partOf(ARC, s, 0, 0.25, 0.5);
		expect(arcShape(part[0], part[1], part[6], part[7], part[2]).radius).toBeCloseTo(10, 9);
		expect(nearestOn(ARC, s, 0, 0, 30)).toMatchObject({ distance: expect.closeTo(20, 9) });
		expect(nearestOn(ARC, s, 0, 0, -5).distance).toBeCloseTo(Math.hypot(10, 5), 9);
		const box = emptyBox();
		growBox(box, ARC, s, 0);
		expect(box.y1).toBeCloseTo(10, 9);
		expect(box.y0).toBeCloseTo(0, 9);
		expect(segmentArea(ARC, Float64Array.from([0, 0, 1e-6, 0, 0, 0, 1, 0]), 0)).toBeCloseTo(0, 6);
	});
});

describe('paths', () => {
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
