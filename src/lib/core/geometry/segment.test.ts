import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { numberIn } from '../../../../tests/numbers';
import { pathArea } from './measure';
import { ARC, CUBIC, PathBuilder, polygonPath, reversePath, STRAIGHT } from './path';
import {
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
});

/** A segment of each kind between others in a packed row, and where it stands. */
const packed = fc
	.tuple(cubic, fc.constantFrom(STRAIGHT, CUBIC, ARC), numberIn(-2.5, 2.5))
	.map(([own, type, bulge]) => {
		const s = Float64Array.from({ length: 24 }, (_, k) => 1000 + 7 * k);
		s.set(own, 8);
		if (type === STRAIGHT)
			for (const k of [0, 1]) {
				s[10 + k] = (2 * own[k] + own[6 + k]) / 3;
				s[12 + k] = (own[k] + 2 * own[6 + k]) / 3;
			}
		if (type === ARC) s.set([Math.abs(bulge) < 0.01 ? 0.01 : bulge, 0, 0, 0], 10);
		return { type, s, at: 8 };
	});
/** The place at t, reckoned otherwise: by halving controls (de Casteljau), or by turning the start about the middle. */
function placeAt({ type, s, at }: { type: number; s: Float64Array; at: number }, t: number) {
	const p = s.subarray(at, at + 8);
	if (type === ARC) {
		const [dx, dy] = [p[6] - p[0], p[7] - p[1]];
		const k = (1 - p[2] * p[2]) / (4 * p[2]);
		const [mx, my] = [(p[0] + p[6]) / 2 - dy * k, (p[1] + p[7]) / 2 + dx * k];
		const a = 4 * Math.atan(p[2]) * t;
		const [rx, ry] = [p[0] - mx, p[1] - my];
		return { x: mx + rx * Math.cos(a) - ry * Math.sin(a), y: my + rx * Math.sin(a) + ry * Math.cos(a) };
	}
	let row = type === STRAIGHT ? [p[0], p[1], p[6], p[7]] : [...p];
	while (row.length > 2) row = row.slice(2).map((v, k) => row[k] + t * (v - row[k]));
	return { x: row[0], y: row[1] };
}
const near = (a: { x: number; y: number }, b: { x: number; y: number }, within = 1e-8) =>
	expect(Math.hypot(a.x - b.x, a.y - b.y)).toBeLessThan(within);
const inner = numberIn(0.02, 0.98);

describe('any segment, wherever it stands in its row', () => {
	test('its places, its ends to the bit, its parts', () => {
		fc.assert(
			fc.property(packed, numberIn(0, 1), inner, (segment, t, u) => {
				const { type, s, at } = segment;
				near(pointAt(type, s, at, t), placeAt(segment, t), 1e-6);
				expect(pointAt(type, s, at, 0)).toEqual({ x: s[at], y: s[at + 1] });
				expect(pointAt(type, s, at, 1)).toEqual({ x: s[at + 6], y: s[at + 7] });
				const [t0, t1] = [Math.min(t, u), Math.max(t, u)];
				const part = partOf(type, s, at, t0, t1);
				// A straight keeps its handles at thirds.
				if (type === STRAIGHT)
					for (const [k, share] of [
						[2, 1 / 3],
						[4, 2 / 3]
					])
						near({ x: part[k], y: part[k + 1] }, placeAt(segment, t0 + share * (t1 - t0)), 1e-9);
				for (const share of [0, 0.3, 1])
					near(pointAt(type, part, 0, share), placeAt(segment, t0 + share * (t1 - t0)), 1e-6);
			})
		);
	});
	test('its derivatives are the differences of its places; its direction and its curvature follow', () => {
		fc.assert(
			fc.property(packed, inner, (segment, t) => {
				const { type, s, at } = segment;
				const h = 1e-4;
				const [a, b, c] = [t - h, t, t + h].map((v) => placeAt(segment, v));
				const d = { x: (c.x - a.x) / (2 * h), y: (c.y - a.y) / (2 * h) };
				const e = { x: (a.x - 2 * b.x + c.x) / (h * h), y: (a.y - 2 * b.y + c.y) / (h * h) };
				const size = 1 + Math.hypot(d.x, d.y) + Math.hypot(e.x, e.y);
				near(derivativeAt(type, s, at, t), d, 1e-4 * size);
				near(secondAt(type, s, at, t), e, 1e-3 * size);
				const speed = Math.hypot(d.x, d.y);
				fc.pre(speed > 20);
				near(directionAt(type, s, at, t), { x: d.x / speed, y: d.y / speed }, 1e-4);
				const curvature = (d.x * e.y - d.y * e.x) / speed ** 3;
				expect(Math.abs(curvatureAt(type, s, at, t) - curvature)).toBeLessThan(
					1e-3 * (1 + Math.abs(curvature))
				);
			})
		);
	});
	test('its box holds all of it and is touched on every side', () => {
		fc.assert(
			fc.property(packed, (segment) => {
				const { type, s, at } = segment;
				const box = emptyBox();
				growBox(box, type, s, at);
				const own = { x0: Infinity, y0: Infinity, x1: -Infinity, y1: -Infinity };
				for (let k = 0; k <= 2000; k++) {
					const { x, y } = placeAt(segment, k / 2000);
					own.x0 = Math.min(own.x0, x);
					own.x1 = Math.max(own.x1, x);
					own.y0 = Math.min(own.y0, y);
					own.y1 = Math.max(own.y1, y);
				}
				for (const side of ['x0', 'y0', 'x1', 'y1'] as const) {
					const out = (side.endsWith('1') ? 1 : -1) * (box[side] - own[side]);
					expect(out).toBeGreaterThan(-1e-6);
					expect(out).toBeLessThan(0.01);
				}
			})
		);
	});
	test('its length and its area are those of many short chords', () => {
		fc.assert(
			fc.property(packed, inner, inner, (segment, a, b) => {
				const { type, s, at } = segment;
				const [t0, t1] = [Math.min(a, b), Math.max(a, b)];
				const chords = (from: number, to: number) => {
					let length = 0;
					let area = 0;
					let last = placeAt(segment, from);
					for (let k = 1; k <= 4000; k++) {
						const next = placeAt(segment, from + ((to - from) * k) / 4000);
						length += Math.hypot(next.x - last.x, next.y - last.y);
						area += (last.x * next.y - next.x * last.y) / 2;
						last = next;
					}
					return { length, area };
				};
				const whole = chords(0, 1);
				expect(segmentLength(type, s, at) / whole.length).toBeCloseTo(1, 4);
				expect(Math.abs(segmentLength(type, s, at, t0, t1) - chords(t0, t1).length)).toBeLessThan(
					1e-4 * whole.length
				);
				expect(Math.abs(segmentArea(type, s, at) - whole.area)).toBeLessThan(1e-4 * whole.length ** 2);
				const half = parameterAtLength(type, s, at, whole.length / 2);
				expect(segmentLength(type, s, at, 0, half)).toBeCloseTo(whole.length / 2, 1);
				expect([
					parameterAtLength(type, s, at, -1),
					parameterAtLength(type, s, at, 2 * whole.length)
				]).toEqual([0, 1]);
			}),
			{ numRuns: 60 }
		);
	});
	test('a hairpin and a cusp are as long as they are, to the last digits', () => {
		// There and back along a line: turning points in closed form. x = 90 t (1 - t) goes to 22.5 and back.
		const hairpin = Float64Array.of(0, 0, 30, 0, 30, 0, 0, 0);
		expect(segmentLength(CUBIC, hairpin, 0)).toBeCloseTo(45, 9);
		expect(segmentLength(CUBIC, hairpin, 0, 0, 0.5)).toBeCloseTo(22.5, 9);
		expect(segmentLength(CUBIC, hairpin, 0, 0.5, 1)).toBeCloseTo(22.5, 9);
		expect(segmentLength(CUBIC, hairpin, 0, 0.6, 0.9)).toBeCloseTo(90 * (0.24 - 0.09), 9);
		// x = t^2, y = t^3 after its cusp at 0, and before it: (13^1.5 - 8) / 27 each.
		const half = (13 ** 1.5 - 8) / 27;
		const cusp = Float64Array.of(1, -1, -1 / 3, 1, -1 / 3, -1, 1, 1);
		expect(segmentLength(CUBIC, cusp, 0)).toBeCloseTo(2 * half, 9);
		expect(parameterAtLength(CUBIC, cusp, 0, half)).toBeCloseTo(0.5, 4);
	});
	test('the nearest place is the nearest of many', () => {
		fc.assert(
			fc.property(packed, place, place, (segment, x, y) => {
				const { type, s, at } = segment;
				let least = Infinity;
				for (let k = 0; k <= 3000; k++) {
					const p = placeAt(segment, k / 3000);
					least = Math.min(least, Math.hypot(p.x - x, p.y - y));
				}
				const { t, distance } = nearestOn(type, s, at, x, y);
				expect(distance).toBeLessThan(least + 1e-6);
				expect(distance).toBeGreaterThan(least - 1);
				const p = placeAt(segment, t);
				expect(Math.hypot(p.x - x, p.y - y)).toBeCloseTo(distance, 5);
			})
		);
		expect(nearestOn(STRAIGHT, Float64Array.of(3, 4, 3, 4, 3, 4, 3, 4), 0, 0, 0)).toEqual({
			t: 0,
			distance: 5
		});
	});
	test('where it bends the other way and where it runs level or plumb, as its signs change', () => {
		fc.assert(
			fc.property(cubic, (own) => {
				const segment = { type: CUBIC, s: Float64Array.from([...own, ...own]), at: 8 };
				segment.s.fill(99, 0, 8);
				const signsOf = (value: (t: number) => number) => {
					const changes: number[] = [];
					for (let k = 1; k < 1000; k++)
						if (Math.sign(value((k - 0.5) / 1000)) * Math.sign(value((k + 0.5) / 1000)) < 0)
							changes.push(k / 1000);
					return changes;
				};
				const bend = (t: number) => curvatureAt(CUBIC, segment.s, 8, t);
				const across = (t: number) => derivativeAt(CUBIC, segment.s, 8, t).x;
				const up = (t: number) => derivativeAt(CUBIC, segment.s, 8, t).y;
				const told = inflections(segment.s, 8);
				const changed = signsOf(bend);
				expect(told.length).toBeGreaterThanOrEqual(changed.length);
				changed.forEach((t) => expect(Math.min(...told.map((v) => Math.abs(v - t)))).toBeLessThan(0.002));
				expect([...told].sort((a, b) => a - b)).toEqual(told);
				for (const t of told) expect(t > 0 && t < 1).toBe(true);
				const ends = extremes(CUBIC, segment.s, 8);
				for (const t of [...signsOf(across), ...signsOf(up)])
					expect(Math.min(...ends.map((v) => Math.abs(v - t)))).toBeLessThan(0.002);
				for (const t of ends) expect(Math.min(Math.abs(across(t)), Math.abs(up(t)))).toBeLessThan(1e-6);
				expect([...ends].sort((a, b) => a - b)).toEqual(ends);
			})
		);
		// Level where it begins and plumb where it ends: at its ends it is not told.
		expect(extremes(CUBIC, Float64Array.of(0, 0, 5, 0, 15, 4, 15, 9), 0)).toEqual([]);
		// Straight at its ends, as a line that goes on straight: no bend the other way inside.
		expect(inflections(Float64Array.of(0, 0, 5, 0, 10, 0, 15, 9), 0)).toEqual([]);
		expect(inflections(Float64Array.of(0, 9, 5, 0, 10, 0, 15, 0), 0)).toEqual([]);
		expect(extremes(STRAIGHT, Float64Array.of(0, 0, 1, 0, 2, 0, 3, 0), 0)).toEqual([]);
		expect(extremes(ARC, Float64Array.of(0, 0, 1, 0, 0, 0, 3, 0), 0)).toEqual([]);
	});
	test('a direction where a handle lies on its anchor, on both, and inside a cusp', () => {
		const row = (...own: number[]) => Float64Array.from([...Array<number>(8).fill(50), ...own]);
		for (const [s, first, last] of [
			[row(10, 10, 10, 10, 13, 14, 20, 14), { x: 0.6, y: 0.8 }, { x: 1, y: 0 }],
			[row(10, 10, 10, 10, 10, 10, 13, 14), { x: 0.6, y: 0.8 }, { x: 0.6, y: 0.8 }],
			[
				row(10, 10, 10, 20, 13, 14, 13, 14),
				{ x: 0, y: 1 },
				{ x: 3 / Math.hypot(3, 6), y: -6 / Math.hypot(3, 6) }
			],
			[row(10, 10, 13, 14, 13, 14, 13, 14), { x: 0.6, y: 0.8 }, { x: 0.6, y: 0.8 }],
			[row(10, 10, 10, 10, 10, 10, 10, 10), { x: 1, y: 0 }, { x: 1, y: 0 }]
		] as const) {
			near(directionAt(CUBIC, s, 8, 0), first, 1e-9);
			near(directionAt(CUBIC, s, 8, 1), last, 1e-9);
		}
		// x = t^2, y = t^3: its cusp is come to against x.
		const cusp = row(1, -1, -1 / 3, 1, -1 / 3, -1, 1, 1);
		expect(directionAt(CUBIC, cusp, 8, 0.5).x).toBeLessThan(-0.99);
		// Just before its middle the same: looked at from the other side of it.
		expect(directionAt(CUBIC, cusp, 8, 0.4).x).toBeLessThan(-0.5);
	});
	test('roots of a quadratic, without cancelling; none where there are none', () => {
		fc.assert(
			fc.property(numberIn(-50, 50), numberIn(-50, 50), numberIn(-9, 9), (m, n, a) => {
				fc.pre(Math.abs(a) > 0.01 && Math.abs(m - n) > 0.01);
				const roots = quadraticRoots(a, -a * (m + n), a * m * n).sort((p, q) => p - q);
				expect(roots).toHaveLength(2);
				expect(roots[0]).toBeCloseTo(Math.min(m, n), 6);
				expect(roots[1]).toBeCloseTo(Math.max(m, n), 6);
			})
		);
		expect(quadraticRoots(1, -1e8, 1).sort((p, q) => p - q)[0] / 1e-8).toBeCloseTo(1, 9);
		expect(quadraticRoots(1, 0, 1)).toEqual([]);
		expect(quadraticRoots(0, 2, -4)).toEqual([2]);
		expect(quadraticRoots(0, 0, 3)).toEqual([]);
		expect(quadraticRoots(2, 0, 0)).toEqual([0]);
		expect(quadraticRoots(1, -4, 4)).toEqual([2, 2]);
	});
});
