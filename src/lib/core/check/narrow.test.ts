/** Necks and gaps, against widths that are known by construction. */
import { describe, expect, test } from 'vitest';
import { circlePath, polygonPath, transformPath } from '../geometry/path';
import { narrowPlaces } from './narrow';

/** Two squares joined by a bar of a width. */
const dumbbell = (w: number) =>
	polygonPath([
		0,
		0,
		20,
		0,
		20,
		30 - w / 2,
		30,
		30 - w / 2,
		30,
		0,
		60,
		0,
		60,
		60,
		30,
		60,
		30,
		30 + w / 2,
		20,
		30 + w / 2,
		20,
		60,
		0,
		60
	]);

describe('narrow places', () => {
	test('the neck of a dumbbell is the width of its bar, and its gap lies beside it', () => {
		for (const w of [1, 3.5]) {
			const { neck, gap } = narrowPlaces([dumbbell(w)]);
			expect(neck!.width).toBeCloseTo(w, 2);
			expect(neck!.from.x).toBeGreaterThan(19);
			expect(neck!.from.x).toBeLessThan(31);
			// Between the boards, 10 mm apart.
			expect(gap!.width).toBeCloseTo(10, 1);
		}
	});
	test('a slit is a gap; turned and moved it stays as wide', () => {
		const slit = polygonPath([0, 0, 30, 0, 30, 20, 16, 20, 16, 4, 14.5, 4, 14.5, 20, 0, 20]);
		const [c, s] = [Math.cos(0.7), Math.sin(0.7)];
		for (const path of [slit, transformPath(slit, [c, s, -s, c, 50, -9])]) {
			const { gap, neck } = narrowPlaces([path]);
			expect(gap!.width).toBeCloseTo(1.5, 2);
			expect(neck!.width).toBeCloseTo(4, 1);
		}
	});
	test('the wall between a hole and the edge, and between two pieces', () => {
		const ring = narrowPlaces([circlePath(0, 0, 20), circlePath(6, 0, 12)]);
		expect(ring.neck!.width).toBeCloseTo(2, 2);
		expect(Math.hypot(ring.neck!.from.x, ring.neck!.from.y)).toBeGreaterThan(17.9);
		const two = narrowPlaces([circlePath(0, 0, 10), circlePath(23, 0, 10)]);
		expect(two.gap!.width).toBeCloseTo(3, 2);
		expect(two.gap!.outline).toBe(0);
	});
	test('a disc, a square and a rounded end have no neck: only corners and ends', () => {
		expect(narrowPlaces([circlePath(0, 0, 9)])).toEqual({ neck: undefined, gap: undefined });
		const star = polygonPath(
			Array.from({ length: 10 }, (_, i) => {
				const r = i % 2 ? 8 : 20;
				return [r * Math.cos((Math.PI * i) / 5), r * Math.sin((Math.PI * i) / 5)];
			}).flat()
		);
		const { neck } = narrowPlaces([star]);
		// If any, one through its body, never one in a tip.
		if (neck) expect(neck.width).toBeGreaterThan(9);
		expect(narrowPlaces([polygonPath([0, 0, 5, 5], false)])).toEqual({ neck: undefined, gap: undefined });
	});
});
