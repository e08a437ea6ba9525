/** Arcs by their ends and bulge; circles and arcs through three places; cubics for arcs. */
import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { numberIn } from '../../../../tests/numbers';
import { arcShape, arcToCubics, bulgeOfSweep, bulgeThrough, circleOf, cubicsForArc } from './arc';
import { pathArea, pathLength, tightestRadius } from './measure';
import { ARC, circlePath, CUBIC, PathBuilder, polygonPath } from './path';
import {
	arcsToCubics,
	curvatureAt,
	emptyBox,
	growBox,
	nearestOn,
	partOf,
	pointAt,
	segmentArea,
	segmentLength
} from './segment';

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

describe('arcs in closed form', () => {
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
