import { describe, expect, test } from 'vitest';
import { coverOf, type Row } from '../../../../tests/cover';
import { STAR } from '../../../../tests/shapes';
import { polygonPath, transformPath } from '../geometry/path';
import { twoWayDistance } from '../geometry/edge-tree';
import { finish } from '../progress';
import { Line } from './likeliest/line';
import { fewSquares, pixelsBeside } from './likeliest/beside';
import { netOf } from './likeliest/net';
import { drawOutlines, type Edges, type Helper, type Outlined } from './outlines';
import type { Contour } from './boundary';
import type { GreyPicture } from './picture';
import { traceByTone } from './trace';

/** Stars of several sizes in a picture, the largest as high as half of it: eight thousand points of edge. */
const SIDE = 1700;
const star = (x: number, y: number, size: number): Row =>
	STAR.map(([px, py]) => [x + (size * (px - 120)) / 240, y + (size * (py - 120)) / 240] as const);
const STARS = [
	star(450.3, 460.1, 880),
	star(1300.7, 470.9, 820),
	star(430.2, 1280.4, 800),
	star(1330.6, 1270.2, 560),
	star(1000.1, 900.8, 240)
];
const picture: GreyPicture = {
	widthPx: SIDE,
	heightPx: SIDE,
	grey: Uint8Array.from(coverOf(STARS, SIDE, SIDE), (share) => 255 * (1 - share) + 0.5)
};
const alone = finish(traceByTone(picture, { pxPerMm: 1 }));

/** What is asked of a helper goes to another worker and back: only what can be copied does. */
class Copier implements Helper {
	asked: readonly Contour[] = [];
	private answer: readonly Outlined[] = [];
	constructor(
		private waits: number,
		private readonly isFailing = false
	) {}
	begin = (edges: Edges, contours: readonly Contour[]) => {
		this.asked = structuredClone(contours) as Contour[];
		this.answer = structuredClone(finish(drawOutlines(structuredClone(edges), this.asked)));
	};
	drawn = () => (this.waits-- > 0 ? undefined : this.isFailing ? 'failed' : this.answer);
}

describe('outlines drawn by two', () => {
	test('they come out the same to the last bit, about half by each', () => {
		const helper = new Copier(0);
		expect(finish(traceByTone(picture, { pxPerMm: 1 }, helper))).toEqual(alone);
		const points = helper.asked.reduce((sum, c) => sum + c.points.length / 2, 0);
		const all = alone.paths.length;
		expect(helper.asked.length).toBeGreaterThan(0);
		expect(helper.asked.length).toBeLessThan(all);
		expect(points).toBeGreaterThan(2000);
	});

	test('who is done first waits for the other, and goes on telling how far it is', () => {
		const work = traceByTone(picture, { pxPerMm: 1 }, new Copier(7));
		let waited = 0;
		let step = work.next();
		for (let last = 0; !step.done; step = work.next()) {
			expect(step.value.share).toBeGreaterThanOrEqual(last - 1e-9);
			last = step.value.share;
			if (step.value.step === 'outlines' && Math.abs(last - 0.85) < 1e-9) waited++;
		}
		expect(waited).toBe(7);
		expect(step.value).toEqual(alone);
	});

	test('what a helper cannot draw is drawn without it', () => {
		expect(finish(traceByTone(picture, { pxPerMm: 1 }, new Copier(2, true)))).toEqual(alone);
	});

	test('nobody is asked for little', () => {
		const helper = new Copier(0);
		const region = { x: 850, y: 750, w: 330, h: 300 };
		finish(traceByTone(picture, { pxPerMm: 1, region }, helper));
		expect(helper.asked).toHaveLength(0);
	});
});

describe('where there are many pixels not all are asked', () => {
	test('all about the ends of segments, of the rest one stretch in so many', () => {
		const [x0, y0, x1, y1] = [100.3, 100.2, 900.6, 400.8];
		const line = new Line(netOf(polygonPath([x0, y0, x1, y0, x1, y1, x0, y1])));
		const all = pixelsBeside(line, 1.1);
		const few = pixelsBeside(line, 1.1, undefined, fewSquares(line, 4));
		expect(few.count).toBeLessThan(0.45 * all.count);
		expect(few.count).toBeGreaterThan(0.2 * all.count);
		const places = (of: typeof all) => new Set(Array.from(of.x, (x, i) => `${x} ${of.y[i]}`));
		const [asked, known] = [places(few), places(all)];
		for (const place of asked) expect(known.has(place)).toBe(true);
		for (const [x, y] of [
			[x0, y0],
			[x1, y0],
			[x1, y1],
			[x0, y1]
		])
			for (let i = 0; i < all.count; i++)
				if (Math.hypot(all.x[i] - x, all.y[i] - y) < 14)
					expect(asked.has(`${all.x[i]} ${all.y[i]}`)).toBe(true);
		// As long as what is asked of each segment is told.
		few.along.forEach((length, k) => {
			const whole = all.along[k];
			expect(length).toBeGreaterThan(0.15 * whole);
			expect(length).toBeLessThan(0.6 * whole);
		});
		expect(all.along[0]).toBeCloseTo(x1 - x0, 6);
	});

	test('of large stars every corner is where it is, to a twentieth of a pixel', () => {
		const paths = alone.paths.map((path) => transformPath(path, [1, 0, 0, -1, 0, 0]));
		expect(paths.map(({ types }) => types.length)).toEqual(STARS.map(() => 14));
		const truth = STARS.map((row) => polygonPath(row.flat()));
		expect(twoWayDistance(truth, paths, 0.01).distance).toBeLessThan(0.05);
	});
});
