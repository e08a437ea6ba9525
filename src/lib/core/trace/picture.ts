/** Pictures as the tracer sees them, and their size. */
import { CoreError } from '../errors';
import { LIMIT } from '../tolerance';

/** One byte a pixel, rows from the top; 0 is black. */
export interface GreyPicture {
	readonly widthPx: number;
	readonly heightPx: number;
	readonly grey: Uint8Array;
	/** Printed squares or rules lie under what is drawn and shape its edge. */
	readonly isPrinted?: boolean;
}

/** Four bytes a pixel: red, green, blue, alpha. */
export interface ColourPicture {
	readonly widthPx: number;
	readonly heightPx: number;
	readonly rgba: Uint8Array | Uint8ClampedArray;
}

/**
 * Lightness of each pixel as it looks on white paper (Rec. 709 weights on the stored values).
 * @throws CoreError `too-large`, `empty-picture`
 */
export function toGrey({ widthPx, heightPx, rgba }: ColourPicture): GreyPicture {
	checkPictureSize(widthPx, heightPx);
	const n = widthPx * heightPx;
	const grey = new Uint8Array(n);
	for (let i = 0, k = 0; i < n; i++, k += 4) {
		const light = 0.2126 * rgba[k] + 0.7152 * rgba[k + 1] + 0.0722 * rgba[k + 2];
		const alpha = rgba[k + 3];
		grey[i] = alpha === 255 ? light + 0.5 : (light * alpha + 255 * (255 - alpha)) / 255 + 0.5;
	}
	return { widthPx, heightPx, grey };
}

export const CHANNELS = ['lightness', 'red', 'green', 'blue', 'dye'] as const;
/** Which tones of a picture count: its lightness, one of its three lights, or how far a colour is from grey (0: strongly dyed). */
export type Channel = (typeof CHANNELS)[number];

/** One channel of each pixel, as it looks on white paper. @throws CoreError `too-large`, `empty-picture` */
export function channelOf(picture: ColourPicture, channel: Channel): GreyPicture {
	if (channel === 'lightness') return toGrey(picture);
	const { widthPx, heightPx, rgba } = picture;
	checkPictureSize(widthPx, heightPx);
	const grey = new Uint8Array(widthPx * heightPx);
	const at = ['red', 'green', 'blue'].indexOf(channel);
	for (let i = 0, k = 0; i < grey.length; i++, k += 4) {
		const v =
			at >= 0
				? rgba[k + at]
				: 255 - Math.max(rgba[k], rgba[k + 1], rgba[k + 2]) + Math.min(rgba[k], rgba[k + 1], rgba[k + 2]);
		grey[i] = (v * rgba[k + 3] + 255 * (255 - rgba[k + 3])) / 255 + 0.5;
	}
	return { widthPx, heightPx, grey };
}

/** The transparency of each pixel as ink: opaque is black. */
export function alphaAsInk({ widthPx, heightPx, rgba }: ColourPicture): GreyPicture {
	checkPictureSize(widthPx, heightPx);
	const grey = new Uint8Array(widthPx * heightPx);
	for (let i = 0; i < grey.length; i++) grey[i] = 255 - rgba[4 * i + 3];
	return { widthPx, heightPx, grey };
}

export function checkPictureSize(widthPx: number, heightPx: number): void {
	if (!(widthPx >= 1 && heightPx >= 1)) throw new CoreError('empty-picture', 'This picture has no pixels.');
	if (widthPx * heightPx > LIMIT.picturePx) {
		throw new CoreError(
			'too-large',
			`This picture has ${Math.round((widthPx * heightPx) / 1e6)} megapixels; up to 50 are handled. Make it smaller first.`
		);
	}
}

/** The tone at a place, px, between the centres of the four pixels around it; at the border that of the border. */
export function toneBetween({ widthPx, heightPx, grey }: GreyPicture, x: number, y: number): number {
	const px = Math.min(widthPx - 1.001, Math.max(0, x - 0.5));
	const py = Math.min(heightPx - 1.001, Math.max(0, y - 0.5));
	const i = Math.floor(px);
	const j = Math.floor(py);
	const u = px - i;
	const v = py - j;
	const k = j * widthPx + i;
	return (
		(1 - v) * ((1 - u) * grey[k] + u * grey[k + 1]) +
		v * ((1 - u) * grey[k + widthPx] + u * grey[k + widthPx + 1])
	);
}
