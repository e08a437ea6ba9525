/** Pictures drawn by an SVG rasteriser, for tests of what reads pictures. */
import { Resvg } from '@resvg/resvg-js';
import { toGrey, type ColourPicture, type GreyPicture } from '../src/lib/core/trace/picture';

/** `inner` in user units on a ground; so many px a unit. */
export function colourRaster(
	inner: string,
	width: number,
	height: number,
	pxPerUnit = 1,
	ground = '#ffffff'
): ColourPicture {
	const svg = `<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 ${width} ${height}"><rect width="${width}" height="${height}" fill="${ground}"/>${inner}</svg>`;
	const image = new Resvg(svg, { fitTo: { mode: 'width', value: Math.round(width * pxPerUnit) } }).render();
	return { widthPx: image.width, heightPx: image.height, rgba: image.pixels };
}

export const greyRaster = (inner: string, width: number, height: number, pxPerUnit = 1): GreyPicture =>
	toGrey(colourRaster(inner, width, height, pxPerUnit));

/** A grey picture of a tone for each place. */
export function tonePicture(
	widthPx: number,
	heightPx: number,
	tone: (x: number, y: number) => number
): GreyPicture {
	const grey = new Uint8Array(widthPx * heightPx);
	for (let y = 0; y < heightPx; y++)
		for (let x = 0; x < widthPx; x++)
			grey[y * widthPx + x] = Math.max(0, Math.min(255, Math.round(tone(x + 0.5, y + 0.5))));
	return { widthPx, heightPx, grey };
}
