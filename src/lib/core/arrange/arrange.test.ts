/** Arranging: pieces keep their shape and the gap, checked apart from the search by exact distances; small cases against all ways. */
import { describe, expect, test } from 'vitest';
import { faultsOf, isWhole, NEAR, randomArrangement } from '../../../../tests/random/arrangements';
import { blob, chance } from '../../../../tests/shapes';
import { EdgeTree, flattenPath } from '../geometry/edge-tree';
import { pathArea, pathBox, windingNumber } from '../geometry/measure';
import { circlePath, polygonPath, transformPath, type Path } from '../geometry/path';
import { finish } from '../progress';
import {
	layOnSheetsSteps,
	isBetter,
	type Arranged,
	type ArrangePiece,
	type ArrangeSheet,
	type Turns
} from './arrange';

const rect = (w: number, h: number) => polygonPath([0, 0, w, 0, w, h, 0, h]);
const piece = (path: Path, turns: Turns = [0], ...holes: Path[]): ArrangePiece => ({
	paths: [path, ...holes],
	turns
});

function arranged(
	pieces: readonly ArrangePiece[],
	sheets: readonly ArrangeSheet[],
	more: { gap?: number; most?: number; seed?: number; inHoles?: boolean; begin?: Arranged['places'] } = {}
): Arranged {
	const { gap = 1, most = 30_000, seed = 1, inHoles = false, begin } = more;
	return finish(
		layOnSheetsSteps(pieces, sheets, { gap, inHoles, seed, begin, share: (looks) => looks / most })
	);
}

describe('arranging', () => {
	test('twelve random sets keep gap, margin and shape; each piece once', () => {
		for (let seed = 1; seed <= 12; seed++) {
			const r = chance(seed);
			const turns: Turns = ([[0], [0, 180], [0, 90, 180, 270], 'free'] as const)[seed % 4];
			const pieces = Array.from({ length: 6 + Math.floor(r() * 10) }, (_, k) =>
				r() < 0.5
					? piece(blob(8, 100 * seed + k, 10 + 15 * r()), turns)
					: piece(rect(8 + 30 * r(), 8 + 20 * r()), turns)
			);
			const sheets = [{ width: 120 + 60 * r(), length: 300, margin: 4 }];
			const gap = 0.5 + 3 * r();
			const found = arranged(pieces, sheets, { gap, seed, most: 12_000 });
			expect(found.left).toEqual([]);
			expect(found.places.map(({ piece: i }) => i).sort((a, b) => a - b)).toEqual(pieces.map((_, i) => i));
			const { near, off } = faultsOf(pieces, sheets, found, gap);
			expect(near).toBeLessThan(0.01);
			expect(off).toBeLessThan(0.01);
			for (const { piece: i, map } of found.places) {
				// Moved and turned as it may be, never mirrored.
				expect(map[0] * map[3] - map[1] * map[2]).toBeCloseTo(1, 9);
				const degrees = Math.round((Math.atan2(map[1], map[0]) * 180) / Math.PI + 360) % 360;
				if (turns !== 'free') expect(pieces[i].turns).toContain(degrees);
			}
			const tops = found.places.map(
				({ piece: i, map }) => pathBox(transformPath(pieces[i].paths[0], map)).y1
			);
			expect(found.used[0]).toBeCloseTo(Math.max(...tops) + 4, 6);
			const area = pieces.reduce((sum, { paths }) => sum + Math.abs(pathArea(paths[0])), 0);
			expect(found.usage).toBeCloseTo(area / (sheets[0].width * found.used[0]), 9);
		}
	});

	test('sets by chance, on sheets that may be too small: none nearer or farther out than may be, each piece once', () => {
		for (let seed = 0; seed < 12; seed++) {
			const { pieces, sheet, gap } = randomArrangement(chance(60_000 + seed));
			const found = arranged(pieces, [sheet], { gap, seed, most: 3000 });
			const { near, off } = faultsOf(pieces, [sheet], found, gap);
			expect(Math.max(near, off), `${seed}`).toBeLessThan(NEAR);
			expect(isWhole(pieces, found), `${seed}`).toBe(true);
		}
	});

	test('the same seed and work give the same way; more work none that is worse', () => {
		const pieces = Array.from({ length: 10 }, (_, k) => piece(blob(7, k, 14), 'free'));
		const sheets = [{ width: 110, length: 300, margin: 2 }];
		const [a, b] = [1, 1].map((seed) => arranged(pieces, sheets, { seed, most: 8000 }));
		expect(b).toEqual(a);
		const further = arranged(pieces, sheets, { seed: 2, most: 8000, begin: a.places });
		expect(isBetter(a, further)).toBe(false);
	});

	test('four squares and a bar: no way is shorter than the one found (all ways tried by hand)', () => {
		// 4 of 20 x 20 and one of 41 x 10 on a width of 41 + margins: two rows of two and the bar, gaps of 1.
		const pieces = [...Array.from({ length: 4 }, () => piece(rect(20, 20))), piece(rect(41, 10))];
		const found = arranged(pieces, [{ width: 47.5, length: 200, margin: 3 }], { most: 40_000 });
		expect(found.used[0]).toBeLessThan(3 + 20 + 1 + 20 + 1 + 10 + 3 + 0.6);
		expect(found.used[0]).toBeGreaterThan(3 + 20 + 1 + 20 + 1 + 10 + 3 - 1e-6);
	});

	test('what finds no room on one sheet lies on the next; what fits on none is left', () => {
		const pieces = [...Array.from({ length: 6 }, () => piece(rect(40, 40))), piece(rect(150, 20), 'free')];
		const sheet = { width: 100, length: 100, margin: 2 };
		const found = arranged(pieces, [sheet, sheet], { most: 60_000 });
		expect(found.left).toEqual([6]);
		const counts = [0, 1].map((k) => found.places.filter(({ sheet: s }) => s === k).length);
		expect(counts).toEqual([4, 2]);
		expect(faultsOf(pieces, [sheet, sheet], found, 1)).toEqual({
			near: expect.any(Number) as number,
			off: expect.any(Number) as number
		});
		expect(faultsOf(pieces, [sheet, sheet], found, 1).near).toBeLessThan(0.01);
	});

	test('small ones lie in the hole of a large one where that is wished', () => {
		const ring = piece(circlePath(0, 0, 45), [0], circlePath(0, 0, 38));
		const pieces = [ring, ...Array.from({ length: 4 }, () => piece(circlePath(0, 0, 12)))];
		const sheets = [{ width: 98, length: 400, margin: 3 }];
		const [apart, within] = [false, true].map((inHoles) =>
			arranged(pieces, sheets, { inHoles, most: 60_000 })
		);
		expect(within.used[0]).toBeLessThan(97.5);
		expect(apart.used[0]).toBeGreaterThan(115);
		expect(faultsOf(pieces, sheets, within, 1).near).toBeLessThan(0.01);
	});

	test('a hide with a spoilt place: nothing lies over its edge or on the place', () => {
		const usable = [blob(9, 4, 80), circlePath(10, -5, 15)].map((path) =>
			transformPath(path, [1, 0, 0, 1, 110, 110])
		);
		const b = pathBox(usable[0]);
		const moved = usable.map((path) => transformPath(path, [1, 0, 0, 1, -b.x0, -b.y0]));
		const sheets = [{ width: b.x1 - b.x0, length: b.y1 - b.y0, margin: 2, usable: moved }];
		const pieces = Array.from({ length: 14 }, (_, k) => piece(blob(6, 50 + k, 11), 'free'));
		const found = arranged(pieces, sheets, { most: 60_000 });
		expect(found.places.length).toBeGreaterThan(10);
		const { near, off } = faultsOf(pieces, sheets, found, 1);
		expect(near).toBeLessThan(0.01);
		expect(off).toBeLessThan(0.01);
		// And none of them outside of it.
		for (const { piece: i, map } of found.places) {
			const at = transformPath(pieces[i].paths[0], map).segs;
			expect(windingNumber(flattenPath(moved[0], 0.01), at[0], at[1]) !== 0).toBe(true);
			expect(windingNumber(flattenPath(moved[1], 0.01), at[0], at[1]) === 0).toBe(true);
		}
	});
});

test('a group of several outlines is laid as it is: none of them beside the sheet or in another piece', () => {
	const apart: ArrangePiece = {
		paths: [rect(30, 20), transformPath(rect(14, 10), [1, 0, 0, 1, 3, -25]), circlePath(10, 10, 4)],
		turns: [0, 90, 180, 270]
	};
	const pieces = [apart, apart, piece(rect(40, 12), [0, 90]), piece(circlePath(0, 0, 9))];
	for (const seed of [1, 2, 3]) {
		const found = arranged(pieces, [{ width: 120, length: 90, margin: 4 }], { gap: 2, seed, most: 60_000 });
		expect(found.left).toEqual([]);
		const laid = found.places.map(({ piece: i, map }) =>
			pieces[i].paths.map((path) => transformPath(path, map))
		);
		for (const path of laid.flat()) {
			const b = pathBox(path);
			expect(Math.min(b.x0, b.y0)).toBeGreaterThan(4 - 0.01);
			expect(b.x1).toBeLessThan(116.01);
			expect(b.y1).toBeLessThan(86.01);
		}
		laid.forEach((own, i) => {
			const tree = new EdgeTree(own.map((path) => ({ points: flattenPath(path, 1e-3), closed: true })));
			for (const path of laid.slice(i + 1).flat()) {
				const points = flattenPath(path, 1e-3);
				for (let k = 0; k < points.length; k += 2)
					expect(tree.distance(points[k], points[k + 1])).toBeGreaterThan(2 - 0.02);
			}
		});
	}
});
