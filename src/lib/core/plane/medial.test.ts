/** Middle lines against shapes whose middle is known, and against the outlines themselves. */
import { describe, expect, test } from 'vitest';
import { glyph } from '../../../../tests/glyphs';
import { blob } from '../../../../tests/shapes';
import { EdgeTree, flattenPath } from '../geometry/edge-tree';
import { circlePath, polygonPath, type Path } from '../geometry/path';
import { finish } from '../progress';
import { middleSteps, type MiddleBranch } from './medial';

const TOLERANCE = 0.003;
const middle = (...paths: Path[]) => finish(middleSteps(paths, 0.2, TOLERANCE));
const ends = ({ points }: MiddleBranch) => [points.subarray(0, 3), points.subarray(points.length - 3)];
const near = (p: ArrayLike<number>, x: number, y: number, r: number) =>
	Math.hypot(p[0] - x, p[1] - y, p[2] - r) < 0.01;

describe('middle lines', () => {
	test('a rectangle: a spine between two forks, from which four branches run into the corners', () => {
		const found = middle(polygonPath([0, 0, 40, 0, 40, 6, 0, 6]));
		expect(found).toHaveLength(5);
		for (const [x, y] of [
			[0, 0],
			[40, 0],
			[40, 6],
			[0, 6]
		])
			expect(found.some((b) => ends(b).some((p) => near(p, x, y, 0)))).toBe(true);
		const spine = found.find((b) => ends(b).every((p) => near(p, 3, 3, 3) || near(p, 37, 3, 3)));
		expect(spine?.points).toHaveLength(6);
	});

	test('a circle: its middle; a ring: the circle half way', () => {
		const [dot, ...none] = middle(circlePath(5, 5, 4));
		expect(none).toHaveLength(0);
		expect(near(dot.points, 5, 5, 4)).toBe(true);
		const [round] = middle(circlePath(0, 0, 10), circlePath(0, 0, 6));
		for (let i = 0; i < round.points.length; i += 3) {
			expect(Math.hypot(round.points[i], round.points[i + 1])).toBeCloseTo(8, 2);
			expect(round.points[i + 2]).toBeCloseTo(2, 2);
		}
	});

	test('between a reflex corner and a straight: a parabola', () => {
		const found = middle(polygonPath([0, 0, 20, 0, 20, 20, 10, 8, 0, 20]));
		const bow = found.find((b) => ends(b).every((p) => Math.abs(p[0] - 10) < 5.5 && p[2] > 5))!;
		// As far from (10, 8) as from y = 0: y = ((x - 10)^2 + 64) / 16.
		for (let i = 0; i < bow.points.length; i += 3) {
			const [x, y, r] = bow.points.subarray(i, i + 3);
			// Farther out the slanting edges are nearer than their corner.
			if (Math.abs(x - 10) > 3) continue;
			expect(y).toBeCloseTo(((x - 10) ** 2 + 64) / 16, 2);
			expect(r).toBeCloseTo(y, 2);
		}
	});

	test.each([
		{ name: 'g', paths: glyph('g', 60) },
		{ name: '&', paths: glyph('&', 60) },
		{ name: 'blob', paths: [blob(24, 5, 30)] }
	])('of $name: distances are true, and discs on it reach all of the edge', ({ paths }) => {
		const found = middle(...paths);
		const flat = paths.map((path) => ({ points: flattenPath(path, 1e-4), closed: true }));
		const edge = new EdgeTree(flat);
		const discs: number[] = [];
		let wrong = 0;
		for (const { points } of found)
			for (let i = 0; i + 3 < points.length; i += 3)
				for (let k = 0; k <= 20; k++) {
					const [x, y, r] = [0, 1, 2].map(
						(c) => points[i + c] + ((points[i + 3 + c] - points[i + c]) * k) / 20
					);
					wrong = Math.max(wrong, r - edge.distance(x, y));
					discs.push(x, y, r);
				}
		expect(wrong).toBeLessThan(2.5 * TOLERANCE);
		let missed = 0;
		for (const { points } of flat)
			for (let i = 0; i < points.length; i += 2 * Math.ceil(points.length / 600)) {
				let least = Infinity;
				for (let d = 0; d < discs.length; d += 3)
					least = Math.min(
						least,
						Math.hypot(discs[d] - points[i], discs[d + 1] - points[i + 1]) - discs[d + 2]
					);
				missed = Math.max(missed, least);
			}
		expect(missed).toBeLessThan(0.02);
	});
});
