/** Maps of the plane: what they do to places, directions and lengths. */
import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { numberIn } from '../../../../tests/numbers';
import { evenMap, meantDirection, mirrorAt, moveBy, placed, scaleBy, turnBy } from './maps';
import type { Affine } from './path';

const number = numberIn(-500, 500);
const at = (map: Affine, x: number, y: number) => {
	const p = placed(map, x, y);
	return [p.x, p.y];
};
const near = (a: readonly number[], b: readonly number[]) =>
	a.forEach((v, k) => expect(Math.abs(v - b[k])).toBeLessThan(1e-9));

describe('maps', () => {
	test('a place under each number of a map', () => {
		expect(at([2, 3, 5, 7, 11, 13], 1, 0)).toEqual([13, 16]);
		expect(at([2, 3, 5, 7, 11, 13], 0, 1)).toEqual([16, 20]);
		expect(at(moveBy(3, -4), 1, 2)).toEqual([4, -2]);
		expect(at(scaleBy(2, 3, 10, 20), 11, 21)).toEqual([12, 23]);
		expect(at(scaleBy(2, 3, 10, 20), 10, 20)).toEqual([10, 20]);
	});
	test('turning keeps its middle and distances to it, by its angle; right angles are exact', () => {
		fc.assert(
			fc.property(numberIn(-720, 720), number, number, (degrees, x, y) => {
				const map = turnBy(degrees, x, y);
				near(at(map, x, y), [x, y]);
				const rad = (degrees * Math.PI) / 180;
				near(at(map, x + 2, y), [x + 2 * Math.cos(rad), y + 2 * Math.sin(rad)]);
				near(at(map, x, y + 2), [x - 2 * Math.sin(rad), y + 2 * Math.cos(rad)]);
			})
		);
		for (const turns of [-5, -2, -1, 0, 1, 2, 3, 7]) {
			const [c, s] = [
				[1, 0],
				[0, 1],
				[-1, 0],
				[0, -1]
			][((turns % 4) + 4) % 4];
			expect(
				turnBy(90 * turns, 0, 0)
					.slice(0, 4)
					.map((v) => v + 0)
			).toEqual([c, s, -s + 0, c]);
		}
		expect(turnBy(89.999, 0, 0)[0]).toBeGreaterThan(0);
	});
	test('mirrored twice is where it was; what lies on the line stays; at right angles exactly', () => {
		fc.assert(
			fc.property(numberIn(-360, 360), number, number, number, number, (degrees, x, y, px, py) => {
				const map = mirrorAt(degrees, x, y);
				const once = placed(map, px, py);
				near(at(map, once.x, once.y), [px, py]);
				const rad = (degrees * Math.PI) / 180;
				near(at(map, x + 7 * Math.cos(rad), y + 7 * Math.sin(rad)), [
					x + 7 * Math.cos(rad),
					y + 7 * Math.sin(rad)
				]);
				// A step to its left becomes one to its right.
				near(at(map, x - 7 * Math.sin(rad), y + 7 * Math.cos(rad)), [
					x + 7 * Math.sin(rad),
					y - 7 * Math.cos(rad)
				]);
			})
		);
		expect(at(mirrorAt(90, 3, 0), 5, 9)).toEqual([1, 9]);
		expect(at(mirrorAt(0, 0, 3), 5, 9)).toEqual([5, -3]);
		expect(at(mirrorAt(45, 0, 0), 5, 9)).toEqual([9, 5]);
		expect(at(mirrorAt(135, 0, 0), 5, 9)).toEqual([-9, -5]);
	});
	test('what a map does to directions and lengths, where it keeps circles round', () => {
		expect(evenMap([2, 0, 0, 3, 0, 0])).toBeUndefined();
		expect(evenMap(moveBy(7, 8))).toMatchObject({ turn: 0, scale: 1, flips: false });
		const turned = evenMap(turnBy(30, 5, 6))!;
		expect(turned.turn).toBeCloseTo(30, 12);
		expect(turned.turned(45)).toBeCloseTo(75, 12);
		expect(turned).toMatchObject({ flips: false });
		expect(turned.scale).toBeCloseTo(1, 12);
		const mirrored = evenMap(mirrorAt(60, 1, 2))!;
		expect(mirrored.flips).toBe(true);
		expect(mirrored.scale).toBeCloseTo(1, 12);
		// A direction mirrored at 60 degrees: 10 becomes 110.
		expect(mirrored.turned(10)).toBeCloseTo(110, 12);
		expect(evenMap(scaleBy(2.5, 2.5, 1, 1))!.scale).toBeCloseTo(2.5, 12);
		expect(evenMap(scaleBy(-3, 3, 0, 0))).toMatchObject({ flips: true, scale: 3 });
	});
	test('a direction drawn by hand is even where it nearly is, else to a hundredth of a degree', () => {
		const to = (degrees: number) =>
			meantDirection(
				{ x: 5, y: -3 },
				{ x: 5 + 40 * Math.cos((degrees * Math.PI) / 180), y: -3 + 40 * Math.sin((degrees * Math.PI) / 180) }
			);
		for (const [drawn, meant] of [
			[0.5, 0],
			[-3.9, 0],
			[4.1, 4.1],
			[-4.1, -4.1],
			[41.5, 45],
			[48.99, 45],
			[49.01, 49.01],
			[87, 90],
			[-91, -90],
			[137.5, 135],
			[30.126, 30.13],
			[177, 180]
		])
			expect(to(drawn)).toBeCloseTo(meant, 12);
	});
});
