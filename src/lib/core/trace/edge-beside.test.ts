/** The picture's edge beside a line: against shapes whose edge is known exactly. */
import { describe, expect, test } from 'vitest';
import { greyRaster, tonePicture } from '../../../../tests/raster';
import { onPaper, toOriginal } from '../document/edits/placement';
import type { Reference } from '../document/drawing';
import { SAMPLE } from '../geometry/deviation';
import { circlePath, polygonPath, transformPath } from '../geometry/path';
import { edgeBeside, shareWithEdge } from './edge-beside';

/** A disc of radius 12 mm about (20, -20), 8 px a mm. */
const SCALE = 8;
const disc = greyRaster('<circle cx="20" cy="20" r="12"/>', 40, 40, SCALE);
const toPicture = (x: number, y: number) => ({ x: SCALE * x, y: -SCALE * y });
const options = { step: 0.5, reach: 2, pxPerMm: SCALE };
const offs = (samples: Float64Array) => Array.from(samples).filter((_, i) => i % SAMPLE === 4);

describe('the edge beside a line', () => {
	test('a circle drawn a known way off a disc: that far everywhere, to 0.15 of a pixel, the side by the sign', () => {
		for (const by of [-0.7, -0.1, 0, 0.3, 1.1]) {
			const found = edgeBeside(disc, circlePath(20, -20, 12 + by), toPicture, options);
			expect(shareWithEdge(found)).toBe(1);
			// Anticlockwise, what lies farther in is to the left.
			for (const off of offs(found.samples)) expect(Math.abs(off - by)).toBeLessThan(0.15 / SCALE);
		}
	});

	test('beyond its reach and where the picture is even it finds nothing, and says so', () => {
		const far = edgeBeside(disc, circlePath(20, -20, 4), toPicture, options);
		expect(shareWithEdge(far)).toBe(0);
		expect(offs(far.samples).every(Number.isNaN)).toBe(true);
		const even = tonePicture(80, 80, () => 200);
		expect(shareWithEdge(edgeBeside(even, circlePath(5, -5, 2), toPicture, options))).toBe(0);
		// A line half over the ink's edge and half beyond the picture.
		const out = edgeBeside(disc, polygonPath([30, -30, 60, -30], false), toPicture, options);
		expect(shareWithEdge(out)).toBeLessThan(0.5);
		expect(shareWithEdge({ samples: new Float64Array(0), closed: true })).toBe(0);
	});

	test('noise and uneven light move it by less than a fifth of a pixel on the mean', () => {
		let s = 7;
		const random = () => {
			s = (s * 1664525 + 1013904223) >>> 0;
			return s / 4294967296;
		};
		const noisy = tonePicture(320, 320, (x, y) => {
			const cover = Math.max(0, Math.min(1, 96.5 - Math.hypot(x - 160, y - 160)));
			return 210 - 0.2 * x - 130 * cover + 24 * (random() - 0.5);
		});
		const found = edgeBeside(noisy, circlePath(20, -20, 12.2), toPicture, options);
		const all = offs(found.samples).filter(Number.isFinite);
		expect(all.length).toBeGreaterThan(100);
		const mean = all.reduce((a, b) => a + b, 0) / all.length;
		expect(Math.abs(mean - 0.2)).toBeLessThan(0.2 / SCALE);
	});

	test('a picture that is turned and moved on the paper is compared where it lies', () => {
		const reference = {
			type: 'reference',
			id: 'r',
			widthPx: 320,
			heightPx: 320,
			pxPerMm: SCALE,
			x: 50,
			y: 30,
			angle: 25
		} as unknown as Reference;
		const middle = onPaper(reference, 160, 160);
		const path = transformPath(circlePath(0, 0, 12.4), [1, 0, 0, 1, middle.x, middle.y]);
		const found = edgeBeside(disc, path, toOriginal(reference), options);
		for (const off of offs(found.samples)) expect(off).toBeCloseTo(0.4, 1);
	});
});
