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
	STRIDE,
	transformPath,
	type Path
} from '../geometry/path';
import { meetingPlaces } from '../geometry/join';
import { nearestOnPath } from '../geometry/pick';
import { pointAt } from '../geometry/segment';
import { turnBy } from '../geometry/maps';
import { allowance, type AllowanceEdge, type AllowanceOptions } from './allowance';
import { offsetPieces } from './offset';

const MITER: AllowanceOptions = { corner: 'miter' };
const square = polygonPath([0, 0, 40, 0, 40, 30, 0, 30]);
const edges = (...widths: number[]): AllowanceEdge[] =>
	widths.map((width, i) => ({ first: i, count: 1, width }));
/** Where a line lies at a height, from left to right. */
const crossings = (path: Path, y: number): number[] =>
	meetingPlaces(path, [polygonPath([-500, y, 500, y], false)])
		.map((at) => pointAt(path.types[Math.floor(at)], path.segs, STRIDE * Math.floor(at), at % 1).x)
		.sort((p, q) => p - q);
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

	test.each([
		['straight sides that lean in', polygonPath([0, 0, 60, 0, 50, 80, 14, 80])],
		['sides that lean out', polygonPath([0, 0, 60, 0, 75, 80, -12, 80])],
		[
			'curved sides',
			new PathBuilder(0, 0)
				.line(60, 0)
				.cubic(66, 20, 50, 60, 55, 80)
				.line(5, 80)
				.cubic(12, 60, -8, 30, 0, 0)
				.close()
		]
	])(
		'a hem folded back lies true on the piece, %s: mirrored at the fold it is the piece’s own cut line (common practice)',
		(_, piece) => {
			for (const [path, bottom] of [
				[piece, 0],
				[transformPath(piece, turnBy(180, 0, 0)), 0],
				[reversePath(piece), 3]
			] as const) {
				const widths = [6, 6, 6, 6];
				widths[bottom] = 20;
				const [made] = unwrap(allowance(path, edges(...widths), { corner: 'fold' }));
				const flip = path.segs[1] === 0 && pathBox(path).y1 > 1 ? 1 : -1;
				const near = (x: number, y: number) => nearestOnPath(made, x, y, 5)?.distance ?? Infinity;
				for (const t of [1, 5, 10, 18]) {
					const row = crossings(made, -flip * t);
					expect(row).toHaveLength(2);
					for (const x of row) expect(near(x, flip * t)).toBeLessThan(_.startsWith('curved') ? 0.01 : 1e-6);
				}
			}
		}
	);
	test('a width that changes along an edge: as wide as is said at both ends and in between, straight and curved', () => {
		const [made] = unwrap(
			allowance(
				polygonPath([0, 0, 60, 0, 60, 40, 0, 40]),
				[{ first: 0, count: 1, width: 5, widthEnd: 25 }, ...edges(0, 10, 10, 10).slice(1)],
				MITER
			)
		);
		for (const [x, w] of [
			[0, 5],
			[30, 15],
			[59, 24.667]
		]) {
			const row = meetingPlaces(made, [polygonPath([x, -500, x, 20], false)]).map(
				(at) => pointAt(made.types[Math.floor(at)], made.segs, STRIDE * Math.floor(at), at % 1).y
			);
			expect(-Math.min(...row)).toBeCloseTo(w, 2);
		}
		const bow = new PathBuilder(0, 0).cubic(20, -15, 40, -15, 60, 0).line(60, 40).line(0, 40).close();
		const [curved] = unwrap(
			allowance(bow, [{ first: 0, count: 1, width: 4, widthEnd: 12 }, ...edges(0, 8, 8, 8).slice(1)], MITER)
		);
		const middle = pointAt(bow.types[0], bow.segs, 0, 0.5);
		expect(nearestOnPath(curved, middle.x, middle.y, 50)!.distance).toBeCloseTo(8, 0);
		const early = pointAt(bow.types[0], bow.segs, 0, 0.2);
		expect(nearestOnPath(curved, early.x, early.y, 50)!.distance).toBeLessThan(7);
	});
	test('square: the side leaves the seam of the wider edge at a right angle', () => {
		const [made] = unwrap(
			allowance(polygonPath([0, 0, 60, 0, 50, 80, 14, 80]), edges(20, 6, 6, 6), { corner: 'square' })
		);
		expect(crossings(made, -15)).toEqual([0, 60].map((v) => expect.closeTo(v, 6)));
	});
	test('stepped: the wider allowance goes on over the smaller one and ends there at a right angle', () => {
		const [made] = unwrap(
			allowance(polygonPath([0, 0, 60, 0, 50, 80, 14, 80]), edges(20, 6, 6, 6), { corner: 'step' })
		);
		// Where the parallels of the sides cross the seam of the hem.
		const ends = [(-6 * Math.hypot(14, 80)) / 80, 60 + (6 * Math.hypot(10, 80)) / 80];
		for (const y of [-2, -19]) expect(crossings(made, y)).toEqual(ends.map((v) => expect.closeTo(v, 6)));
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
