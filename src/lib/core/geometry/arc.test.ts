/** Arcs by their ends and bulge; circles and arcs through three places; cubics for arcs. */
import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { numberIn } from '../../../../tests/numbers';
import { arcShape, arcToCubics, bulgeOfSweep, bulgeThrough, circleOf, cubicsForArc } from './arc';
import { CUBIC } from './path';
import { pointAt } from './segment';

const place = numberIn(-1000, 1000);
const radians = numberIn(0.05, 2 * Math.PI - 0.05);
const turned = fc.constantFrom(1, -1);
/** A circle, and where on it an arc begins and how far it goes. */
const anyArc = fc.record({
	x: place,
	y: place,
	radius: numberIn(0.01, 500),
	start: radians,
	sweep: radians,
	turn: turned
});
const on = (x: number, y: number, radius: number, a: number) => ({
	x: x + radius * Math.cos(a),
	y: y + radius * Math.sin(a)
});

describe('an arc by its ends and its bulge', () => {
	test('lies on its circle, and by way of any place of it it is the same arc', () => {
		fc.assert(
			fc.property(anyArc, numberIn(0.1, 0.9), ({ x, y, radius, start, sweep, turn }, part) => {
				const from = on(x, y, radius, start);
				const to = on(x, y, radius, start + turn * sweep);
				const by = on(x, y, radius, start + part * turn * sweep);
				const bulge = bulgeOfSweep(turn * sweep);
				const shape = arcShape(from.x, from.y, to.x, to.y, bulge);
				expect(Math.hypot(shape.cx - x, shape.cy - y)).toBeLessThan(1e-6 * (1 + radius));
				expect(shape.radius / radius).toBeCloseTo(1, 7);
				expect(shape.sweepRad).toBeCloseTo(turn * sweep, 9);
				expect(Math.cos(shape.startRad - start)).toBeCloseTo(1, 7);
				expect(bulgeThrough(from, by, to) / bulge).toBeCloseTo(1, 4);
				const circle = circleOf(from, by, to)!;
				expect(Math.hypot(circle.x - x, circle.y - y)).toBeLessThan(1e-4 * (1 + radius));
				expect(circle.radius / radius).toBeCloseTo(1, 4);
			})
		);
	});
	test('a half circle to the left of its chord has the bulge -1, to the right 1', () => {
		expect(bulgeThrough({ x: 0, y: 0 }, { x: 5, y: 5 }, { x: 10, y: 0 })).toBeCloseTo(-1, 12);
		expect(bulgeThrough({ x: 0, y: 0 }, { x: 5, y: -5 }, { x: 10, y: 0 })).toBeCloseTo(1, 12);
		expect(circleOf({ x: 0, y: 0 }, { x: 5, y: 5 }, { x: 10, y: 0 })).toEqual({ x: 5, y: 0, radius: 5 });
	});
	test('places in a line have no circle and no bulge, at any size', () => {
		for (const size of [1e-6, 1, 1e6]) {
			const [p, q, r] = [0, 1, 3].map((k) => ({ x: size * k, y: 2 * size * k }));
			expect(circleOf(p, q, r)).toBeUndefined();
			expect(circleOf(q, q, q)).toBeUndefined();
			expect(bulgeThrough(p, q, r)).toBe(0);
			// A thousandth off it is a circle again, of the size of the places.
			const off = circleOf(p, { x: q.x, y: q.y + size / 1000 }, r)!;
			expect(off.radius / size).toBeGreaterThan(100);
			expect(off.radius / size).toBeLessThan(1e5);
		}
	});
});

describe('cubics for an arc', () => {
	test('one for each quarter at most, more where it must be nearer', () => {
		expect(cubicsForArc(10, Math.PI / 2)).toBe(1);
		expect(cubicsForArc(10, -Math.PI)).toBe(2);
		expect(cubicsForArc(10, 1.5 * Math.PI + 0.01)).toBe(4);
		expect(cubicsForArc(10, 0.001)).toBe(1);
		// 2.7e-4 of 1,000 mm is 0.27 mm; halving the angle takes a sixty-fourth of it.
		expect(cubicsForArc(1000, Math.PI / 2, 0.28)).toBe(1);
		expect(cubicsForArc(1000, Math.PI / 2, 0.26)).toBe(2);
		expect(cubicsForArc(1000, Math.PI / 2, 0.2726 / 64)).toBe(2);
		expect(cubicsForArc(1000, Math.PI / 2, 0.2724 / 64)).toBe(3);
	});
	test('they hang together, end where the arc ends, to the last bit, and lie within the tolerance of the circle', () => {
		fc.assert(
			fc.property(
				anyArc,
				fc.constantFrom(Infinity, 0.01, 1e-4),
				({ x, y, radius, start, sweep, turn }, tolerance) => {
					const from = on(x, y, radius, start);
					const to = on(x, y, radius, start + turn * sweep);
					const bulge = bulgeOfSweep(turn * sweep);
					const cubics = arcToCubics(from.x, from.y, to.x, to.y, bulge, tolerance);
					const n = cubics.length / 8;
					expect(n).toBe(cubicsForArc(arcShape(from.x, from.y, to.x, to.y, bulge).radius, sweep, tolerance));
					expect([...cubics.subarray(0, 2)]).toEqual([from.x, from.y]);
					expect([...cubics.subarray(-2)]).toEqual([to.x, to.y]);
					for (let i = 0; i < n; i++) {
						if (i > 0) {
							expect(cubics[8 * i]).toBeCloseTo(cubics[8 * i - 2], 9);
							expect(cubics[8 * i + 1]).toBeCloseTo(cubics[8 * i - 1], 9);
						}
						for (let t = 0; t <= 1; t += 0.125) {
							const p = pointAt(CUBIC, cubics, 8 * i, t);
							const off = Math.abs(Math.hypot(p.x - x, p.y - y) - radius);
							expect(off).toBeLessThan(Math.min(tolerance, 2.73e-4 * radius) + 1e-8 * (1 + radius));
							const angle = start + (turn * sweep * (i + t)) / n;
							expect(
								Math.hypot(p.x - x - radius * Math.cos(angle), p.y - y - radius * Math.sin(angle))
							).toBeLessThan(0.01 * radius + 1e-8);
						}
					}
				}
			)
		);
	});
});
