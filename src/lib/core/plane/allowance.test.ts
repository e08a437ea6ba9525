/** Widths outside of edges, held against plain reckoning. */
import { describe, expect, test } from 'vitest';
import { blob, chance } from '../../../../tests/shapes';
import { unwrap } from '../errors';
import { twoWayDistance } from '../geometry/edge-tree';
import { pathArea, pathBox } from '../geometry/measure';
import {
	ARC,
	circlePath,
	PathBuilder,
	polygonPath,
	reversePath,
	transformPath,
	type Path
} from '../geometry/path';
import { turnBy } from '../geometry/maps';
import { allowance, type AllowanceEdge, type AllowanceOptions } from './allowance';
import { offsetPieces } from './offset';

const MITER: AllowanceOptions = { corner: 'miter' };
const square = polygonPath([0, 0, 40, 0, 40, 30, 0, 30]);
const edges = (...widths: number[]): AllowanceEdge[] =>
	widths.map((width, i) => ({ first: i, count: 1, width }));
const size = (path: Path) => {
	const b = pathBox(path);
	return [b.x0, b.y0, b.x1, b.y1].map((v) => +v.toFixed(9));
};

describe('an allowance', () => {
	test('each edge has its own width; one of 0 leaves the line; corners lie where the parallels meet', () => {
		const [made] = unwrap(allowance(square, edges(10, 0, 5, 2), MITER));
		expect(size(made)).toEqual([-2, -10, 40, 35]);
		expect(made.types).toHaveLength(4);
	});

	test('alike all round it is the mitred offset; round corners are arcs of the width about the corner', () => {
		const [made] = unwrap(allowance(square, edges(3, 3, 3, 3), MITER));
		const offset = unwrap(offsetPieces([square], { distance: 3, join: 'miter' })).paths;
		expect(twoWayDistance([made], offset, 1e-4, 1).distance).toBeLessThan(1e-6);
		const [round] = unwrap(allowance(square, edges(3, 3, 3, 3), { corner: 'round' }));
		// Steiner's formula: area + length d + pi d^2.
		expect(pathArea(round)).toBeCloseTo(1200 + 140 * 3 + Math.PI * 9, 6);
		expect([...round.types].filter((t) => t === ARC)).toHaveLength(4);
		const [bevel] = unwrap(allowance(square, edges(3, 3, 3, 3), { corner: 'bevel' }));
		expect(pathArea(bevel)).toBeCloseTo(1200 + 140 * 3 + 4 * 4.5, 6);
	});

	test('at an inside corner the parallels are cut back; a line without corners grows all round', () => {
		const ell = polygonPath([0, 0, 40, 0, 40, 20, 20, 20, 20, 40, 0, 40]);
		const [made] = unwrap(allowance(ell, edges(5, 5, 5, 5, 5, 5), MITER));
		expect(pathArea(made)).toBeCloseTo(50 * 50 - 20 * 20, 6);
		const circle = circlePath(0, 0, 20);
		const whole = { first: 0, count: circle.types.length, width: 4 };
		const [ring] = unwrap(allowance(circle, [whole], MITER));
		expect(Math.abs(pathArea(ring))).toBeCloseTo(Math.PI * 24 * 24, 1);
	});

	test('it follows its input turned, and run the other way round; into a hole it goes inward', () => {
		const rnd = chance(5);
		for (let k = 0; k < 12; k++) {
			const widths = Array.from({ length: 4 }, () => Math.round(80 * rnd()) / 10);
			const map = turnBy(360 * rnd(), 3, 4);
			const [made] = unwrap(allowance(square, edges(...widths), MITER));
			const [turned] = unwrap(allowance(transformPath(square, map), edges(...widths), MITER));
			expect(twoWayDistance([transformPath(made, map)], [turned], 1e-4, 1).distance).toBeLessThan(1e-6);
		}
		const [back] = unwrap(allowance(reversePath(square), edges(2, 2, 2, 2), MITER));
		expect(pathArea(back)).toBeCloseTo(-44 * 34, 6);
		const [hole] = unwrap(allowance(square, edges(2, 2, 2, 2), MITER, true));
		expect(pathArea(hole)).toBeCloseTo(36 * 26, 6);
	});

	test('curved edges: every place of the parallel lies at the width, to the fit', () => {
		const curve = new PathBuilder(0, 0).cubic(20, -15, 40, -15, 60, 0).line(60, 40).line(0, 40).close();
		const [made] = unwrap(allowance(curve, edges(8, 3, 0, 5), MITER));
		const [alone] = unwrap(allowance(curve, edges(8, 0, 0, 0), MITER));
		expect(size(made)[3]).toBe(40);
		expect(pathArea(made)).toBeGreaterThan(pathArea(alone));
		const wavy = blob(20, 4, 40);
		const [all] = unwrap(allowance(wavy, [{ first: 0, count: 20, width: 5 }], { corner: 'round' }));
		const offset = unwrap(offsetPieces([wavy], { distance: 5, join: 'round' })).paths;
		expect(twoWayDistance([all], offset, 1e-3, 1).distance).toBeLessThan(0.01);
	});

	test('an open line, a width below 0 or no number is refused with a sentence', () => {
		const open = polygonPath([0, 0, 5, 0, 5, 5], false);
		expect(allowance(open, edges(1, 1), MITER)).toMatchObject({ problem: { code: 'open-outline' } });
		for (const width of [-1, NaN, Infinity])
			expect(allowance(square, edges(1, 1, 1, width), MITER)).toMatchObject({
				problem: { code: 'bad-width' }
			});
	});
});
