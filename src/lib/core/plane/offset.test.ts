/** Offsets of open lines and of pieces, and what they are made by. */
import { describe, expect, test } from 'vitest';
import { problem } from '../../../../tests/refused';
import { unwrap } from '../errors';
import { pathArea, pathLength } from '../geometry/measure';
import { offsetPieces } from './offset';
import { checkOffset } from './offset-check';
import { finish } from '../progress';
import { lineToOutline, offsetLine } from './offset-line';
import { rawSide } from './offset-raw';
import { offsetStrips, PolygonCover } from './offset-strips';
import { circlePath, polygonPath, transformPath } from '../geometry/path';
import { twoWayDistance } from '../geometry/edge-tree';

const square = polygonPath([0, 0, 40, 0, 40, 40, 0, 40]);

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
});
