/** Elliptical arcs by their ends, as SVG gives them. */
import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { numberIn } from '../../../../tests/numbers';
import { addEllipticalArc } from './ellipse';
import { turnBy } from './maps';
import { pathArea, pathLength, turnAt } from './measure';
import { ARC, CUBIC, PathBuilder, STRAIGHT, STRIDE, transformPath, type Path } from './path';
import { pointAt } from './segment';

const arc = (
	x0: number,
	y0: number,
	[rx, ry, rotation, large, sweep]: readonly [number, number, number, boolean, boolean],
	x: number,
	y: number,
	tolerance = 1e-4
): Path => {
	const builder = new PathBuilder(x0, y0);
	addEllipticalArc(builder, rx, ry, rotation, large, sweep, x, y, tolerance);
	return builder.open();
};
const ends = ({ segs }: Path) => [...segs.subarray(0, 2), ...segs.subarray(-2)];

describe('elliptical arcs', () => {
	test('lie on an ellipse of their radii, go from end to end, and the long and the short one make it whole', () => {
		const radius = numberIn(2, 60);
		const degrees = numberIn(-180, 180);
		fc.assert(
			fc.property(
				radius,
				radius,
				degrees,
				degrees,
				numberIn(10, 350),
				fc.boolean(),
				(rx, ry, rotation, from, by, left) => {
					const [cx, cy] = [17, -8];
					const on = (a: number) => {
						const [u, v] = [rx * Math.cos((a * Math.PI) / 180), ry * Math.sin((a * Math.PI) / 180)];
						const [c, s] = turnBy(rotation, 0, 0);
						return { x: cx + c * u - s * v, y: cy + s * u + c * v };
					};
					const p = on(from);
					const q = on(from + (left ? by : -by));
					const made = arc(p.x, p.y, [rx, ry, rotation, by > 180, left], q.x, q.y);
					expect(ends(made)).toEqual([p.x, p.y, q.x, q.y]);
					const back = turnBy(-rotation, cx, cy);
					const upright = transformPath(made, back);
					for (let i = 0; i < upright.types.length; i++) {
						for (const t of [0, 0.3, 0.5, 0.8]) {
							const { x, y } = pointAt(upright.types[i], upright.segs, STRIDE * i, t);
							const off = Math.abs(Math.hypot((x - cx) / rx, (y - cy) / ry) - 1) * Math.min(rx, ry);
							expect(off).toBeLessThan(2e-4);
						}
					}
					// No corner between its parts.
					for (let i = 1; i < made.types.length; i++) expect(Math.abs(turnAt(made, i))).toBeLessThan(1e-3);
					const rest = arc(q.x, q.y, [rx, ry, rotation, by <= 180, left], p.x, p.y);
					const whole = pathArea(made) + pathArea(rest);
					expect(whole / (Math.PI * rx * ry)).toBeCloseTo(left ? 1 : -1, 4);
				}
			),
			{ numRuns: 200 }
		);
	});
	test('a circle is true arcs, two where it is more than a half; its parts are as long', () => {
		expect(arc(10, 0, [10, 10, 0, false, true], 0, 10).types).toEqual(Uint8Array.of(ARC));
		expect(arc(10, 0, [10, 10, 33, false, true], -10, 0).types).toEqual(Uint8Array.of(ARC));
		const large = arc(10, 0, [10, 10, 0, true, false], 0, 10);
		expect(large.types).toEqual(Uint8Array.of(ARC, ARC));
		expect(pathLength(large)).toBeCloseTo(15 * Math.PI, 9);
		expect(large.segs[2]).toBeCloseTo(large.segs[STRIDE + 2], 12);
		expect(arc(10, 0, [10, 10.001, 0, false, true], 0, 10).types[0]).toBe(CUBIC);
	});
	test('radii that do not reach are scaled up, of either sign; without a radius it is a straight, without a way nothing', () => {
		// Two radii of 5 and 2.5 for 40 mm: twice 20 by 10.
		const grown = arc(-20, 0, [5, -2.5, 0, false, true], 20, 0);
		expect(pathArea(grown)).toBeCloseTo((Math.PI * 20 * 10) / 2, 2);
		const { segs } = grown;
		expect(pointAt(CUBIC, segs, STRIDE * (grown.types.length / 2 - 1), 1).y).toBeCloseTo(-10, 6);
		for (const [rx, ry] of [
			[0, 5],
			[5, 0],
			[NaN, 5]
		])
			expect(arc(0, 0, [rx, ry, 0, false, true], 3, 4)).toMatchObject({ types: Uint8Array.of(STRAIGHT) });
		expect(arc(3, 4, [5, 6, 0, true, true], 3, 4).types).toHaveLength(0);
		expect(arc(3, 4, [5, 6, 0, true, true], 3, 5).types.length).toBeGreaterThan(0);
		expect(arc(3, 4, [5, 6, 0, true, true], 4, 4).types.length).toBeGreaterThan(0);
	});
	test('the larger radius says how many cubics are needed', () => {
		const count = (tolerance: number) =>
			arc(0, -100, [1, 100, 0, false, true], 0, 100, tolerance).types.length;
		expect(count(1)).toBe(2);
		expect(count(1e-4)).toBeGreaterThan(4);
	});
});
