/** Drawings on paper, photographed: the strokes are followed and nothing of the paper is. */
import { describe, expect, test } from 'vitest';
import { DRAWINGS, photographOf } from '../../../../tests/photographs';
import { finish } from '../progress';
import { isWithinNoise, plainPaper } from './paper';
import { edgeTone, toneHistogram } from './threshold';
import { sourceOf, tonesFor, tracePicture } from './ways';

describe('paper is not ink', () => {
	test.each(Object.entries(DRAWINGS))('%s: every outline, none more', (_, drawn) => {
		const photograph = photographOf(drawn, 2000);
		const options = { pxPerMm: 6.7, light: drawn.chalk === true };
		const source = sourceOf(photograph);
		const tone = finish(tracePicture(source, { ...options, way: 'tone' }));
		// A drawn line has two borders.
		expect(tone.paths).toHaveLength(2 * photograph.outlines);
		const lines = finish(tracePicture(source, { ...options, way: 'line-centre' }));
		expect(lines.paths).toHaveLength(photograph.outlines);
		expect(lines.paths.every((path) => path.closed)).toBe(true);
		expect(tone.worst).toBeLessThan(0.3);
	});

	test('plain paper alone has no strokes; a picture of solid shapes is left as it is', () => {
		const blank = photographOf({ stroke: 0, ink: 0, fall: 0.35 }, 800);
		const grey = sourceOf(blank).grey();
		expect(isWithinNoise(grey, edgeTone(toneHistogram(grey.grey)), false)).toBe(true);
		expect(plainPaper(grey, false)).toBeUndefined();
		const solid = { ...grey, grey: grey.grey.map((v, i) => (i % 800 < 300 ? 20 : v)) };
		expect(plainPaper(solid, false)).toBeUndefined();
	});

	test('a threshold set by hand within the noise is refused before anything is followed, by every way that has one', () => {
		const photograph = photographOf(DRAWINGS.pencil, 2000);
		const source = sourceOf(photograph);
		const counts = toneHistogram(source.grey().grey);
		// The tone of the paper itself: half of it is darker.
		const paper = counts.indexOf(Math.max(...counts));
		for (const way of ['tone', 'line-centre'] as const) {
			const options = { way, pxPerMm: 6.7, threshold: paper };
			// At its first step.
			expect(() => tracePicture(source, options).next(), way).toThrow('grain of the paper');
			// One press: found by itself.
			const mended = finish(tracePicture(source, { ...options, threshold: 'auto' }));
			expect(mended.paths.length).toBe((way === 'tone' ? 2 : 1) * photograph.outlines);
		}
		const part = { x: 900, y: 600, w: 200, h: 200 };
		const all = finish(
			tracePicture(source, { way: 'tone', pxPerMm: 6.7, threshold: paper, grain: true, region: part })
		);
		expect(all.paths.length).toBeGreaterThan(20);
	});

	test('where a threshold is set by hand the tones are as they are', () => {
		const source = sourceOf(photographOf(DRAWINGS.pencil, 800));
		const plain = source.grey().grey;
		expect(tonesFor(source, { way: 'tone', threshold: 100 }).grey).toEqual(plain);
		expect(tonesFor(source, { way: 'tone' }).grey).not.toEqual(plain);
	});
});
