import { describe, expect, test } from 'vitest';
import { coverOf } from '../../../../../tests/cover';
import { chance, STAR } from '../../../../../tests/shapes';
import { EdgeTree, flattenPath, twoWayDistance } from '../../geometry/edge-tree';
import { polygonPath } from '../../geometry/path';
import { finish } from '../../progress';
import { blurred } from '../prepare';
import { likeliest } from './likeliest';
import { netOf, pathsOf } from './net';
import { below, bothBelow, density } from './normal';
import { softTones } from './soft-tones';

describe('the normal distribution', () => {
	test('known shares: half below nought, 0.8413 below one, 0.975 below 1.96 (tables, from memory)', () => {
		expect(below(0)).toBeCloseTo(0.5, 6);
		expect(below(1)).toBeCloseTo(0.841344746, 6);
		expect(below(-1.959964)).toBeCloseTo(0.025, 6);
		expect((below(0.3001) - below(0.2999)) / 0.0002).toBeCloseTo(density(0.3), 3);
	});

	test('in two directions: a quarter and the angle at the middle (Sheppard 1899), the product where they are apart', () => {
		for (const together of [-0.95, -0.5, 0, 0.3, 0.8, 0.98])
			expect(bothBelow(0, 0, together)).toBeCloseTo(0.25 + Math.asin(together) / (2 * Math.PI), 5);
		expect(bothBelow(0.7, -0.4, 0)).toBeCloseTo(below(0.7) * below(-0.4), 9);
		// Far along one of them only the other counts.
		expect(bothBelow(0.4, 8, 0.6)).toBeCloseTo(below(0.4), 5);
		// Below in both and not: shares add up.
		expect(bothBelow(0.5, 0.2, 0.7) + bothBelow(0.5, -0.2, -0.7)).toBeCloseTo(below(0.5), 5);
	});
});

describe('settled on a soft picture', () => {
	const SIDE = 240;
	const BLUR = 1.3;
	/** How much of each pixel seems ink, blurred, with noise. */
	const soft = (noise: number) => {
		const r = chance(3);
		const cover = coverOf([STAR], SIDE, SIDE);
		const sharp = { widthPx: SIDE, heightPx: SIDE, grey: Uint8Array.from(cover, (c) => 255 * (1 - c)) };
		const { grey } = blurred(sharp, BLUR);
		const shares = Float64Array.from(grey, (v) => 1 - v / 255 + noise * (r() + r() + r() + r() - 2));
		return (i: number, j: number) => (i >= 0 && j >= 0 && i < SIDE && j < SIDE ? shares[j * SIDE + i] : 0);
	};
	const settled = (noise: number, astray: number) => {
		const r = chance(7);
		const off = STAR.map(([x, y]) => [x + astray * (r() - 0.5), y + astray * (r() - 0.5)] as const);
		const net = netOf(polygonPath(off.flat()));
		return pathsOf(finish(likeliest(net, softTones(soft(noise), BLUR), { mayChange: true, oneIn: 1 })))[0];
	};

	test('corners of ink and of paper that stood half a pixel off come within a tenth of one', () => {
		const path = settled(0, 1);
		expect(path.types).toHaveLength(14);
		const line = new EdgeTree([{ points: flattenPath(path, 0.01), closed: true }]);
		for (const [x, y] of STAR) expect(line.distance(x, y)).toBeLessThan(0.1);
	});

	test('in noise of a tenth of the tones to a third of a pixel, with no segment more', () => {
		const path = settled(0.1, 1);
		expect(path.types).toHaveLength(14);
		expect(twoWayDistance([polygonPath(STAR.flat())], [path], 0.01).distance).toBeLessThan(0.35);
	});
});
