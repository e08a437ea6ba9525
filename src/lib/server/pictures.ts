/** Pictures decoded in Node: upright, eight bits a channel. */
import { readFile } from 'node:fs/promises';
import { decode as decodeBmp } from 'bmp-ts';
import sharp from 'sharp';
import { failed, done, type Result } from '../core/errors';
import { damagedPicture, readPictureHeader } from '../core/formats/picture-header';
import type { ColourPicture } from '../core/trace/picture';
import { LIMIT } from '../core/tolerance';

export interface DecodedPicture extends ColourPicture {
	readonly pxPerMm?: number;
}

/** Reads and decodes a picture file. */
export async function loadPicture(file: string): Promise<Result<DecodedPicture>> {
	let bytes: Uint8Array;
	try {
		bytes = await readFile(file);
	} catch {
		return failed('no-file', `There is no file "${file}" that could be read.`);
	}
	return decodePicture(bytes);
}

/** Decodes picture bytes; the orientation that the file states is honoured. */
export async function decodePicture(bytes: Uint8Array): Promise<Result<DecodedPicture>> {
	const header = readPictureHeader(bytes);
	if (!header.ok) return header;
	const { kind, pxPerMm } = header.value;
	try {
		if (kind === 'bmp') {
			const bmp = decodeBmp(Buffer.from(bytes), { toRGBA: true });
			const rgba = new Uint8Array(bmp.data);
			// Bitmaps of 24 bits and fewer state no transparency.
			if (bmp.bitPP < 32) for (let i = 3; i < rgba.length; i += 4) rgba[i] = 255;
			return done({ widthPx: bmp.width, heightPx: bmp.height, rgba, pxPerMm });
		}
		const { data, info } = await sharp(bytes, { limitInputPixels: LIMIT.picturePx, failOn: 'truncated' })
			.rotate()
			.toColourspace('srgb')
			.ensureAlpha()
			.raw()
			.toBuffer({ resolveWithObject: true });
		const rgba = new Uint8Array(data.buffer, data.byteOffset, data.byteLength);
		return done({ widthPx: info.width, heightPx: info.height, rgba, pxPerMm });
	} catch (error) {
		if (error instanceof Error && /exceeds pixel limit/.test(error.message)) {
			return failed('too-large', 'This picture has more than 50 megapixels. Make it smaller first.');
		}
		return damagedPicture(kind);
	}
}
