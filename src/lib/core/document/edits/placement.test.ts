/** Where a picture lies: there and back, turned, mirrored, cropped, straightened. */
import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { numberIn } from '../../../../../tests/numbers';
import { pathArea } from '../../geometry/measure';
import { polygonPath } from '../../geometry/path';
import type { Reference } from '../drawing';
import {
	cropInOriginal,
	frameOf,
	inOriginal,
	isOnReference,
	levelledBy,
	middleOf,
	mirrored,
	onPaper,
	onPicture,
	placement,
	placePath,
	referenceBox,
	scaleOf,
	shownPart,
	turned,
	UNSIZED_PX_PER_MM
} from './placement';

const base: Reference = {
	type: 'reference',
	id: 'r',
	rank: 1,
	name: 'mask.png',
	picture: '0'.repeat(64),
	mediaType: 'image/png',
	widthPx: 400,
	heightPx: 300,
	pxPerMm: 4,
	x: 10,
	y: 20,
	opacity: 1
};
const placed = fc.record({
	x: numberIn(-500, 500),
	y: numberIn(-500, 500),
	angle: numberIn(-180, 180),
	mirrored: fc.boolean()
});

describe('placement', () => {
	test('the upper left corner lies where it is said; y is up on paper and down in the picture', () => {
		expect(onPaper(base, 0, 0)).toEqual({ x: 10, y: 20 });
		expect(onPaper(base, 400, 300)).toEqual({ x: 110, y: -55 });
		expect(scaleOf({})).toBe(UNSIZED_PX_PER_MM);
		expect(placement(base)).toEqual([1, 0, -0, 1, 10, 20]);
	});
	test('there and back again is where one was, however it lies', () => {
		fc.assert(
			fc.property(placed, numberIn(0, 400), numberIn(0, 300), (how, px, py) => {
				const r = { ...base, ...how };
				const p = onPaper(r, px, py);
				const q = onPicture(r, p.x, p.y);
				expect(q.x).toBeCloseTo(px, 6);
				expect(q.y).toBeCloseTo(py, 6);
			})
		);
	});
	test('what was traced lies where the picture shows it; solids stay anticlockwise when mirrored', () => {
		fc.assert(
			fc.property(placed, (how) => {
				const r = { ...base, ...how };
				// A triangle at pixels, as a trace gives it: mm, y up, origin at the corner of the picture.
				const px = [40, 40, 200, 60, 90, 220];
				const path = polygonPath([10, -10, 22.5, -55, 50, -15]);
				const out = placePath(path, r);
				expect(Math.sign(pathArea(out))).toBe(Math.sign(pathArea(path)));
				for (let i = 0; i < 6; i += 2) {
					const p = onPaper(r, px[i], px[i + 1]);
					const nearest = Math.min(
						...[0, 1, 2].map((k) => Math.hypot(out.segs[8 * k] - p.x, out.segs[8 * k + 1] - p.y))
					);
					expect(nearest).toBeLessThan(1e-9);
				}
			})
		);
	});
	test('turning keeps the place it is turned about; mirroring keeps the middle, twice is as before', () => {
		const t = turned(base, 37, { x: 50, y: 0 });
		const was = onPicture(base, 50, 0);
		const now = onPicture(t, 50, 0);
		expect(now.x).toBeCloseTo(was.x, 9);
		expect(now.y).toBeCloseTo(was.y, 9);
		const m = mirrored(t);
		expect(middleOf(m).x).toBeCloseTo(middleOf(t).x, 9);
		expect(onPaper(m, 0, 0).x).toBeCloseTo(onPaper(t, 400, 0).x, 9);
		const twice = mirrored(m);
		expect(twice.x).toBeCloseTo(t.x, 9);
		expect(twice.mirrored).toBe(false);
		expect(turned(base, 270, { x: 0, y: 0 }).angle).toBe(-90);
	});
	test('straightened by a line it runs level, or plumb, whichever is nearer', () => {
		const level = levelledBy(base, { x: 50, y: 100 }, { x: 350, y: 130 });
		const a = onPaper(level, 50, 100);
		const b = onPaper(level, 350, 130);
		expect(a.y).toBeCloseTo(b.y, 9);
		const plumb = levelledBy(base, { x: 50, y: 20 }, { x: 30, y: 280 });
		expect(onPaper(plumb, 50, 20).x).toBeCloseTo(onPaper(plumb, 30, 280).x, 9);
	});
	test('a crop shows and holds only its part; its box and frame are those of the part', () => {
		const r: Reference = { ...base, crop: { x: 100, y: 80, w: 200, h: 100 } };
		expect(shownPart(r)).toEqual(r.crop);
		expect(shownPart(base)).toEqual({ x: 0, y: 0, w: 400, h: 300 });
		expect(referenceBox(r)).toEqual({ x0: 35, y0: -25, x1: 85, y1: 0 });
		expect(frameOf(r)[2]).toEqual({ x: 85, y: -25 });
		expect(isOnReference(r, 60, -10)).toBe(true);
		expect(isOnReference(r, 20, -10)).toBe(false);
		expect([...cropInOriginal(r)!]).toEqual([100, 80, 300, 80, 300, 180, 100, 180]);
		expect(cropInOriginal(base)).toBeUndefined();
	});
	test('on a straightened sheet a polygon goes back to the original through the corners', () => {
		const corners = [
			{ x: 20, y: 10 },
			{ x: 390, y: 40 },
			{ x: 370, y: 290 },
			{ x: 5, y: 260 }
		];
		const r: Reference = { ...base, sheet: { corners, width: 100, height: 75 } };
		const back = inOriginal(r, [0, 0, 400, 0, 400, 300, 0, 300]);
		corners.forEach((c, k) => {
			expect(back[2 * k]).toBeCloseTo(c.x, 6);
			expect(back[2 * k + 1]).toBeCloseTo(c.y, 6);
		});
		expect([...inOriginal(base, [1, 2])]).toEqual([1, 2]);
	});
});
