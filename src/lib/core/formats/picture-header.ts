/** What a picture file says about itself: its kind, its resolution, its orientation. */
import ExifReader from 'exifreader';
import { failed, done, type Result } from '../errors';

export type PictureKind = 'png' | 'jpeg' | 'webp' | 'gif' | 'bmp';

export interface PictureHeader {
	readonly kind: PictureKind;
	readonly mediaType: string;
	/** px/mm; undefined where the file states none, or only a placeholder (72 or 96 dpi, no unit). */
	readonly pxPerMm?: number;
	/** 1..8 as in Exif; 1 is upright. */
	readonly orientation: number;
}

const NAMES: Record<PictureKind, string> = { png: 'PNG', jpeg: 'JPEG', webp: 'WebP', gif: 'GIF', bmp: 'BMP' };

function kindOf(b: Uint8Array): PictureKind | undefined {
	const text = (from: number, to: number) => String.fromCharCode(...b.subarray(from, to));
	if (b[0] === 0x89 && text(1, 4) === 'PNG') return 'png';
	if (b[0] === 0xff && b[1] === 0xd8 && b[2] === 0xff) return 'jpeg';
	if (text(0, 4) === 'RIFF' && text(8, 12) === 'WEBP') return 'webp';
	if (text(0, 6) === 'GIF87a' || text(0, 6) === 'GIF89a') return 'gif';
	if (text(0, 2) === 'BM' && b.length > 26) return 'bmp';
	return undefined;
}

/**
 * Reads the header of a picture file.
 * @returns `empty-file`, `not-picture` for what is no picture that we know.
 */
export function readPictureHeader(bytes: Uint8Array): Result<PictureHeader> {
	if (bytes.length === 0) return failed('empty-file', 'This file is empty.');
	const kind = kindOf(bytes);
	if (!kind) {
		return failed(
			'not-picture',
			'This file is no picture that can be opened. PNG, JPEG, WebP, GIF and BMP can.'
		);
	}
	const mediaType = `image/${kind}`;
	if (kind === 'bmp') {
		const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
		// BITMAPINFOHEADER: pixels per metre at byte 38.
		const perMetre = bytes.length >= 46 && view.getUint32(14, true) >= 40 ? view.getInt32(38, true) : 0;
		return done({ kind, mediaType, orientation: 1, pxPerMm: realResolution(perMetre / 1000) });
	}
	let orientation = 1;
	let pxPerMm: number | undefined;
	try {
		const tags = ExifReader.load(
			bytes.buffer.slice(bytes.byteOffset, bytes.byteOffset + bytes.byteLength) as ArrayBuffer,
			{
				expanded: true
			}
		) as unknown as Record<string, Record<string, { value: unknown }> | undefined>;
		const value = (group: string, tag: string): number | undefined => {
			const v = tags[group]?.[tag]?.value;
			if (typeof v === 'number') return v;
			if (Array.isArray(v) && typeof v[0] === 'number')
				return typeof v[1] === 'number' && v.length === 2 ? v[0] / v[1] : v[0];
			return undefined;
		};
		orientation = value('exif', 'Orientation') ?? 1;
		const png = value('pngFile', 'Pixels Per Unit X') ?? value('png', 'Pixels Per Unit X');
		if (kind === 'png' && png) {
			// Unit 1 is the metre; 0 says only what shape the pixels have (PNG, pHYs).
			const unit = value('pngFile', 'Pixel Units') ?? value('png', 'Pixel Units');
			if (unit === 1) pxPerMm = png / 1000;
		}
		const exifX = value('exif', 'XResolution');
		const exifUnit = value('exif', 'ResolutionUnit') ?? 2;
		if (pxPerMm === undefined && exifX && (exifUnit === 2 || exifUnit === 3)) {
			pxPerMm = exifX / (exifUnit === 2 ? 25.4 : 10);
		}
		const jfif = value('jfif', 'XResolution');
		const jfifUnit = value('jfif', 'Resolution Unit');
		// A density in the JFIF header counts where Exif says nothing real.
		if (realResolution(pxPerMm) === undefined && jfif && (jfifUnit === 1 || jfifUnit === 2)) {
			pxPerMm = jfif / (jfifUnit === 1 ? 25.4 : 10);
		}
	} catch {
		// No readable metadata: the picture may still be fine.
	}
	return done({
		kind,
		mediaType,
		orientation: orientation >= 1 && orientation <= 8 ? orientation : 1,
		pxPerMm: realResolution(pxPerMm)
	});
}

/** 72 and 96 dpi and one pixel per millimetre are what programs write when they know nothing. */
function realResolution(pxPerMm: number | undefined): number | undefined {
	if (pxPerMm === undefined || !(pxPerMm > 0) || !Number.isFinite(pxPerMm)) return undefined;
	const dpi = pxPerMm * 25.4;
	if (Math.abs(dpi - 72) < 0.6 || Math.abs(dpi - 96) < 0.6 || Math.abs(dpi - 25.4) < 0.01) return undefined;
	return pxPerMm;
}

export function damagedPicture(kind: PictureKind) {
	return failed(
		'damaged-picture',
		`This ${NAMES[kind]} picture is damaged or cut short and could not be opened.`
	);
}
