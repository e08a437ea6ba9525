/** How far a line lies beside another, all along it. */
import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { blob } from '../../../../tests/shapes';
import { deviationAlong, SAMPLE, sampleNear, transformDeviation, worstOf, type Deviation } from './deviation';
import { flattenPath } from './edge-tree';
import { circlePath, reversePath, transformPath } from './path';

const against = (path: ReturnType<typeof circlePath>) => [
	{ points: flattenPath(path, 1e-4), closed: path.closed }
];

describe('deviation', () => {
	test('of two circles about one middle it is the difference of their radii everywhere, its side told by the sign', () => {
		const { samples } = deviationAlong(circlePath(0, 0, 10), against(circlePath(0, 0, 10.5)), 0.5);
		expect(samples.length / SAMPLE).toBeGreaterThan(120);
		for (let i = 0; i < samples.length; i += SAMPLE) {
			// Anticlockwise, the outside lies to the right.
			expect(samples[i + 4]).toBeCloseTo(-0.5, 3);
			expect(Math.hypot(samples[i + 2], samples[i + 3])).toBeCloseTo(1, 9);
		}
		const back = deviationAlong(reversePath(circlePath(0, 0, 10)), against(circlePath(0, 0, 10.5)), 0.5);
		expect(worstOf([back])!.off).toBeCloseTo(0.5, 3);
	});

	test('the worst sample and the nearest one; what has nothing to be compared with does not count', () => {
		const gap: Deviation = {
			closed: false,
			samples: Float64Array.of(0, 0, 0, 1, NaN, 1, 0, 0, 1, -0.2, 2, 0, 0, 1, 0.1)
		};
		expect(worstOf([gap])).toEqual({ x: 1, y: 0, off: -0.2 });
		expect(sampleNear([gap], 2.2, 0.1)).toMatchObject({ x: 2, off: 0.1 });
		expect(sampleNear([gap], -1, 0)!.off).toBeNaN();
		expect(worstOf([])).toBeUndefined();
		expect(sampleNear([], 0, 0)).toBeUndefined();
		const none: Deviation = { closed: false, samples: Float64Array.of(0, 0, 0, 1, NaN) };
		expect(worstOf([none])).toBeUndefined();
	});

	test('moved, turned and scaled it is what it is of the lines moved, turned and scaled', () => {
		fc.assert(
			fc.property(
				fc.double({ min: 0.1, max: 9, noNaN: true }),
				fc.double({ min: 0, max: 6.2, noNaN: true }),
				(scale, turn) => {
					const [c, s] = [scale * Math.cos(turn), scale * Math.sin(turn)];
					const m = [c, s, -s, c, 30, -4] as const;
					const [path, other] = [blob(20, 3, 12), blob(20.4, 3, 12)];
					const there = deviationAlong(
						transformPath(path, m),
						against(transformPath(other, m)),
						1.5 * scale
					).samples;
					const here = transformDeviation(deviationAlong(path, against(other), 1.5), m).samples;
					const most = (samples: Float64Array) => Math.abs(worstOf([{ samples, closed: true }])!.off);
					expect(most(there) / most(here)).toBeCloseTo(1, 2);
				}
			),
			{ numRuns: 8 }
		);
	});
});
