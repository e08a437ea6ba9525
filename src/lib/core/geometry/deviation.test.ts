/** How far a line lies beside another, all along it. */
import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { numberIn } from '../../../../tests/numbers';
import { blob } from '../../../../tests/shapes';
import {
	beside,
	deviationAlong,
	deviationFrom,
	SAMPLE,
	sampleNear,
	transformDeviation,
	worstOf,
	type Deviation
} from './deviation';
import { flattenPath } from './edge-tree';
import { circlePath, PathBuilder, polygonPath, reversePath, transformPath } from './path';

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
			fc.property(numberIn(0.1, 9), numberIn(0, 6.2), (scale, turn) => {
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
			}),
			{ numRuns: 8 }
		);
	});
});

describe('places and maps', () => {
	test('places lie even along each segment, at most a step apart, from its beginning to the end of the last', () => {
		const line = new PathBuilder(2, 3).line(12, 3).cubic(14, 3, 20, 9, 26, 15).open();
		const asked: number[] = [];
		const { samples, closed } = beside(line, 2.6, (x, y, nx, ny) => {
			asked.push(x, y, nx, ny);
			return asked.length;
		});
		expect(closed).toBe(false);
		const rows = Array.from({ length: samples.length / SAMPLE }, (_, k) => [
			...samples.slice(SAMPLE * k, SAMPLE * (k + 1))
		]);
		rows.forEach(([x, y, nx, ny, off], k) => {
			expect(asked.slice(4 * k, 4 * k + 4)).toEqual([x, y, nx, ny]);
			expect(off).toBe(4 * (k + 1));
		});
		// Four parts of the straight, 2.5 mm each; left of travel to the right is up.
		expect(rows.slice(0, 4).map(([x, y]) => [x, y])).toEqual([
			[2, 3],
			[4.5, 3],
			[7, 3],
			[9.5, 3]
		]);
		expect(rows[1].slice(2, 4)).toEqual([-0, 1]);
		expect(rows.at(-1)!.slice(0, 2)).toEqual([26, 15]);
		const gaps = rows.slice(5).map(([x, y], k) => Math.hypot(x - rows[k + 4][0], y - rows[k + 4][1]));
		for (const gap of gaps) {
			expect(gap).toBeLessThanOrEqual(2.6);
			expect(gap).toBeGreaterThan(0.9 * Math.max(...gaps));
		}
		expect(
			beside({ closed: true, types: new Uint8Array(0), segs: new Float64Array(0) }, 1, () => 0).samples
		).toEqual(new Float64Array(0));
		// However fine the step, a segment has no more than four hundred.
		expect(beside(line, 1e-6, () => 0).samples.length).toBe(SAMPLE * 801);
	});

	test('turned, scaled and carried the samples are those of the line that was', () => {
		const line = blob(5, 3, 20);
		const [angle, scale] = [0.7, 3];
		const [c, s] = [scale * Math.cos(angle), scale * Math.sin(angle)];
		const map = [c, s, -s, c, 11, -7] as const;
		const off = (x: number) => x / 10;
		const before = beside(line, 1, (x) => off(x));
		const mapped = transformDeviation(before, map);
		const after = beside(transformPath(line, map), scale, () => 0);
		expect(mapped.samples.length).toBe(after.samples.length);
		for (let i = 0; i < mapped.samples.length; i += SAMPLE) {
			for (let k = 0; k < 4; k++) expect(mapped.samples[i + k]).toBeCloseTo(after.samples[i + k], 9);
			expect(mapped.samples[i + 4]).toBeCloseTo(scale * before.samples[i + 4], 9);
		}
		expect(mapped.closed).toBe(true);
	});

	test('a line that lies on the left counts positive, wherever both lie', () => {
		for (const [dx, dy] of [
			[0, 0],
			[300, -200]
		]) {
			const line = polygonPath([dx, dy, dx + 10, dy], false);
			for (const side of [1, -1]) {
				const other = polygonPath([dx - 5, dy + 0.5 * side, dx + 15, dy + 0.5 * side], false);
				const { samples } = deviationFrom(line, other, 2, 0.01);
				for (let i = 4; i < samples.length; i += SAMPLE) expect(samples[i]).toBeCloseTo(0.5 * side, 9);
			}
		}
	});

	test('the nearest sample and the worst are told with their places; what is no number is passed over', () => {
		const list: Deviation[] = [
			{ closed: false, samples: Float64Array.of(0, 0, 0, 1, NaN, 4, 3, 0, 1, -2, 8, 0, 0, 1, 2) },
			{ closed: false, samples: Float64Array.of(20, 5, 0, 1, 1) }
		];
		expect(worstOf(list)).toEqual({ x: 4, y: 3, off: -2 });
		expect(sampleNear(list, 19, 4)).toEqual({ x: 20, y: 5, off: 1, apart: Math.SQRT2 });
		expect(sampleNear(list, 4, 4)).toEqual({ x: 4, y: 3, off: -2, apart: 1 });
		expect(worstOf([])).toBeUndefined();
		expect(sampleNear([], 0, 0)).toBeUndefined();
	});
});
