import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { numberIn } from '../../../../tests/numbers';
import { colourRaster, greyRaster } from '../../../../tests/raster';
import { clearOutside, contourOnSheet, insideOf, isMirrored, pointsOnSheet } from './on-sheet';
import { homographyOf, meanScale, pickingError, project, rectifying, type Corner } from './perspective';
import { toGrey } from './picture';
import { findSheet } from './sheet';
import { straightened } from './straightened';
import { traceByTone } from './trace';
import { finish } from '../progress';

const corner = (x: number, y: number) =>
	fc.record({
		x: numberIn(x - 60, x + 60),
		y: numberIn(y - 60, y + 60)
	});
const quad = fc.tuple(corner(100, 100), corner(900, 100), corner(900, 700), corner(100, 700));
const QUAD: Corner[] = [
	{ x: 131.3, y: 92.8 },
	{ x: 702.6, y: 60.4 },
	{ x: 765.1, y: 511.9 },
	{ x: 82.7, y: 560.2 }
];
const polygon = (c: readonly Corner[], fill: string) =>
	`<path d="M${c.map((p) => `${p.x} ${p.y}`).join('L')}Z" fill="${fill}"/>`;

describe('perspective', () => {
	test('four corners and further points of a known projection (Hartley and Zisserman, chapter 4)', () => {
		// A projection written down, not fitted: the four corners decide it, so all other points must follow.
		const h = [1.2, 0.3, 40, -0.1, 0.9, 25, 4e-4, -3e-4, 1] as const;
		const from = [
			{ x: 0, y: 0 },
			{ x: 297, y: 0 },
			{ x: 297, y: 210 },
			{ x: 0, y: 210 }
		];
		const fitted = homographyOf(
			from,
			from.map((p) => project(h, p.x, p.y))
		);
		for (const [x, y] of [
			[148.5, 105],
			[13, 200],
			[250, 31.7],
			[-40, 300]
		]) {
			const [a, b] = [project(fitted, x, y), project(h, x, y)];
			expect(a.x).toBeCloseTo(b.x, 8);
			expect(a.y).toBeCloseTo(b.y, 8);
		}
	});

	test('there and back again is where one was; straight lines stay straight', () => {
		fc.assert(
			fc.property(quad, (corners) => {
				const there = rectifying({ corners, width: 297, height: 210 });
				const back = homographyOf(
					[
						{ x: 0, y: 0 },
						{ x: 297, y: 0 },
						{ x: 297, y: 210 },
						{ x: 0, y: 210 }
					],
					corners
				);
				const [a, b, c] = [
					[150, 150],
					[400, 380],
					[650, 610]
				].map(([x, y]) => project(there, x, y));
				expect(Math.abs((b.x - a.x) * (c.y - a.y) - (b.y - a.y) * (c.x - a.x))).toBeLessThan(1e-6);
				const again = project(back, b.x, b.y);
				expect(again.x).toBeCloseTo(400, 6);
				expect(again.y).toBeCloseTo(380, 6);
				expect(insideOf(corners, 500, 400)).toBeGreaterThan(0);
				expect(insideOf(corners, 5, 5)).toBeLessThan(0);
			}),
			{ numRuns: 30 }
		);
	});

	test('corners in a line, crossed corners and sizes of nothing are refused', () => {
		const size = { width: 297, height: 210 };
		const line = [0, 1, 2, 3].map((k) => ({ x: 10 * k, y: 10 * k }));
		const crossed = [QUAD[0], QUAD[2], QUAD[1], QUAD[3]];
		for (const corners of [line, crossed, QUAD.slice(0, 3), [...QUAD.slice(0, 3), { x: NaN, y: 1 }]])
			expect(() => rectifying({ corners, ...size })).toThrow(
				expect.objectContaining({ code: 'bad-corners' })
			);
		expect(() => rectifying({ corners: QUAD, width: 0, height: 210 })).toThrow(
			expect.objectContaining({ code: 'bad-size' })
		);
		expect(() => homographyOf(line, QUAD)).toThrow(expect.objectContaining({ code: 'bad-corners' }));
	});

	test('a pixel off at a corner of a sheet seen straight is one pixel on it', () => {
		const corners = [
			{ x: 0, y: 0 },
			{ x: 594, y: 0 },
			{ x: 594, y: 420 },
			{ x: 0, y: 420 }
		];
		const rectangle = { corners, width: 297, height: 210 };
		expect(meanScale(rectangle)).toBeCloseTo(2, 9);
		expect(pickingError(rectangle)).toBeCloseTo(0.5, 2);
	});

	test('the corners of a drawn sheet are found to a fraction of a pixel, on either ground; none is said so', () => {
		for (const [sheet, ground] of [
			['#eeeae0', '#4a3a2c'],
			['#2b2a33', '#d9d2c4']
		]) {
			const picture = toGrey(colourRaster(polygon(QUAD, sheet), 860, 640, 1, ground));
			const { corners, straightness } = findSheet(picture);
			corners.forEach((c, k) => expect(Math.hypot(c.x - QUAD[k].x, c.y - QUAD[k].y)).toBeLessThan(0.1));
			expect(straightness).toBeLessThan(0.1);
		}
		expect(() => findSheet(greyRaster('', 300, 200))).toThrow(expect.objectContaining({ code: 'no-sheet' }));
	});

	test('a square on a sheet at an angle is a square again, traced and shown; mirrored corners mirror it', () => {
		const back = homographyOf(
			[
				{ x: 0, y: 0 },
				{ x: 297, y: 0 },
				{ x: 297, y: 210 },
				{ x: 0, y: 210 }
			],
			QUAD
		);
		const square = [
			[60, 50],
			[120, 50],
			[120, 110],
			[60, 110]
		].map(([x, y]) => project(back, x, y));
		const picture = colourRaster(polygon(QUAD, '#fff') + polygon(square, '#111'), 860, 640, 1, '#666');
		const trace = (corners: readonly Corner[]) =>
			finish(traceByTone(toGrey(picture), { pxPerMm: 1, rectify: { corners, width: 297, height: 210 } }));
		const { paths, frame } = trace(QUAD);
		expect(frame).toEqual({ w: 297, h: 210 });
		expect(paths).toHaveLength(1);
		expect(Array.from(paths[0].types)).toEqual([0, 0, 0, 0]);
		const places = [0, 1, 2, 3].map((k) => [paths[0].segs[8 * k], -paths[0].segs[8 * k + 1]]);
		for (const [x, y] of [
			[60, 50],
			[120, 50],
			[120, 110],
			[60, 110]
		])
			expect(Math.min(...places.map((p) => Math.hypot(p[0] - x, p[1] - y)))).toBeLessThan(0.05);
		const mirrored = [1, 0, 3, 2].map((k) => QUAD[k]);
		expect(isMirrored(QUAD)).toBe(false);
		expect(isMirrored(mirrored)).toBe(true);
		const other = trace(mirrored).paths[0];
		expect(Math.max(...[0, 1, 2, 3].map((k) => other.segs[8 * k]))).toBeCloseTo(237, 0);

		const flat = straightened(picture, { corners: QUAD, width: 297, height: 210 }, 2);
		expect([flat.widthPx, flat.heightPx]).toEqual([594, 420]);
		const at = (x: number, y: number) =>
			flat.rgba[4 * (Math.round(2 * y) * flat.widthPx + Math.round(2 * x))];
		expect([at(90, 80), at(30, 30), at(200, 150)].map((v) => v > 128)).toEqual([false, true, true]);
	});

	test('tracing a sheet leaves the picture as it was, beyond the sheet too', () => {
		const picture = toGrey(
			colourRaster(
				polygon(QUAD, '#fff') +
					polygon(
						QUAD.map((p) => ({ x: 400 + (p.x - 400) / 3, y: 300 + (p.y - 300) / 3 })),
						'#111'
					),
				860,
				640,
				1,
				'#666'
			)
		);
		const before = Uint8Array.from(picture.grey);
		const rectify = { corners: QUAD, width: 297, height: 210 };
		finish(traceByTone(picture, { pxPerMm: 1, rectify }));
		expect(picture.grey).toEqual(before);
		const cleared = clearOutside(picture, QUAD, false);
		expect(cleared.grey[0]).toBe(255);
		expect(picture.grey).toEqual(before);
	});

	test('points and contours on the sheet keep their order and their hand', () => {
		const plane = rectifying({ corners: QUAD, width: 297, height: 210 });
		const points = Float64Array.from([200, 200, 300, 200, 300, 300, 200, 300]);
		const flat = pointsOnSheet(points, plane, 3);
		expect(flat[0]).toBeCloseTo(3 * project(plane, 200, 200).x, 9);
		const area = 10_000;
		expect(contourOnSheet({ points, area }, plane, 3, false).area).toBeGreaterThan(0);
		expect(contourOnSheet({ points, area: -area }, plane, 3, true).area).toBeLessThan(0);
	});
});
