/** A picture as the tracer sees it, to be shown. */
import { labelPixels } from './labels';
import { flatColours } from './palette';
import type { ColourPicture } from './picture';
import { inked } from './trace';
import { tonesFor, type PictureSource, type WayOptions } from './ways';

/**
 * By colours every pixel in its flat colour; otherwise tones as they are after preparing, and what counts as ink tinted.
 * In the original picture's own pixels.
 */
export function seenByTracer(source: PictureSource, options: WayOptions): ColourPicture {
	if (options.way === 'colours') {
		const picture = source.colour();
		const palette = flatColours(picture, options.colours ?? 'auto');
		const labels = labelPixels(picture, palette);
		const rgba = new Uint8ClampedArray(4 * labels.length);
		labels.forEach((label, i) => {
			const { r, g, b } = palette[label];
			rgba.set([r, g, b, 255], 4 * i);
		});
		return { widthPx: picture.widthPx, heightPx: picture.heightPx, rgba };
	}
	const { prepared, threshold } = inked(tonesFor(source, options), options);
	const { widthPx, heightPx, grey } = prepared;
	const rgba = new Uint8ClampedArray(4 * grey.length);
	for (let i = 0; i < grey.length; i++) {
		const v = grey[i];
		const isInk = options.way !== 'levels' && (options.light ? v > threshold : v < threshold);
		// Ink in one dye, so that it is told from paper at any tone.
		rgba[4 * i] = isInk ? 0.35 * v + 20 : v;
		rgba[4 * i + 1] = isInk ? 0.35 * v + 60 : v;
		rgba[4 * i + 2] = isInk ? 0.35 * v + 90 : v;
		rgba[4 * i + 3] = 255;
	}
	return { widthPx, heightPx, rgba };
}
