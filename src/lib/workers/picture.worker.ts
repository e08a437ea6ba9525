import * as Comlink from 'comlink';
import { CoreError, toProblem } from '../core/errors';
import { damagedPicture, readPictureHeader } from '../core/formats/picture-header';
import { LIMIT } from '../core/tolerance';
import {
	alphaAsInk,
	channelOf,
	toGrey,
	type Channel,
	type ColourPicture,
	type GreyPicture
} from '../core/trace/picture';
import { quickBoundary, reduced } from '../core/trace/quick';
import { scaleOf, toOriginal } from '../core/document/edits/placement';
import { edgeBeside, shareWithEdge } from '../core/trace/edge-beside';
import { edgeNear } from '../core/trace/edge-near';
import { findSheet } from '../core/trace/sheet';
import { straightened } from '../core/trace/straightened';
import { tonesFor, tracePicture, type PictureSource } from '../core/trace/ways';
import { seenByTracer } from '../core/trace/seen';
import { drive, Stale } from './drive';
import { helperFor, helpOver, withoutHelp } from './outlines.client';
import type { Answer, OpenedPicture, PictureApi, ShownPicture } from './picture.protocol';

interface Kept {
	grey: GreyPicture;
	alpha?: GreyPicture;
	/** The channel asked for last, other than lightness. */
	channel?: { name: Channel; picture: GreyPicture };
	/** Reduced for looking at while settings change: of which tones, how many times. */
	small?: { of: GreyPicture; times: number; picture: GreyPicture };
	source: ImageBitmap;
}
/** Pixels that are looked at while a setting changes: few enough for a tenth of a second. */
const QUICK_PX = 1_200_000;
const kept = new Map<string, Kept>();
let newest = 0;

const api: PictureApi = {
	helpOver,
	withoutHelp,
	async open(key, bytes): Promise<Answer<OpenedPicture>> {
		const header = readPictureHeader(bytes);
		if (!header.ok) return header;
		const { kind, mediaType, pxPerMm } = header.value;
		let bitmap: ImageBitmap;
		try {
			const blob = new Blob([bytes as Uint8Array<ArrayBuffer>], { type: mediaType });
			bitmap = await createImageBitmap(blob, { imageOrientation: 'from-image', premultiplyAlpha: 'none' });
		} catch {
			return damagedPicture(kind) as Answer<OpenedPicture>;
		}
		if (isTruncated(kind, bytes)) return damagedPicture(kind) as Answer<OpenedPicture>;
		const { width, height } = bitmap;
		if (width * height > LIMIT.picturePx) {
			const megapixels = Math.round((width * height) / 1e6);
			return {
				ok: false,
				problem: {
					code: 'too-large',
					sentence: `This picture has ${megapixels} megapixels; up to 50 are handled. Make it smaller first.`
				}
			};
		}
		try {
			kept.set(key, { grey: readPixels(bitmap, toGrey), source: bitmap });
			const shown = await shownAs(await createImageBitmap(bitmap, FOR_SCREEN));
			const opened: OpenedPicture = {
				widthPx: width,
				heightPx: height,
				kind,
				mediaType,
				statedPxPerMm: pxPerMm,
				shown
			};
			return Comlink.transfer({ ok: true, value: opened }, bitmapsOf(shown));
		} catch (error) {
			return { ok: false, problem: toProblem(error) };
		}
	},
	async trace(request, key, options, tell) {
		newest = Math.max(newest, request);
		const helper = helperFor(request);
		try {
			const work = tracePicture(sourceFor(key), options, helper);
			const trace = await drive(work, () => request < newest, tell);
			const buffers = trace.paths.flatMap((path) => [path.segs.buffer, path.types.buffer] as ArrayBuffer[]);
			return Comlink.transfer({ ok: true as const, value: trace }, [...new Set(buffers)]);
		} catch (error) {
			helper?.stop();
			if (error instanceof Stale) return { ok: 'stale' as const };
			return { ok: false as const, problem: toProblem(error) };
		}
	},
	async quick(key, options, scale) {
		try {
			const source = sourceFor(key);
			// Tone nearby is told from the whole picture: its boundary comes with the trace.
			if (options.way === 'colours' || options.way === 'levels' || options.way === 'local-tone')
				return { ok: true, value: [] };
			const tones = tonesFor(source, options);
			const most = Math.sqrt((tones.widthPx * tones.heightPx) / QUICK_PX);
			const times = Math.max(1, Math.floor(1 / scale), Math.ceil(most));
			const picture = kept.get(key)!;
			if (picture.small?.of !== tones || picture.small.times !== times)
				picture.small = { of: tones, times, picture: reduced(tones, times) };
			return { ok: true, value: quickBoundary(picture.small.picture, times, options) };
		} catch (error) {
			return { ok: false, problem: toProblem(error) };
		}
	},
	async edgeNear(key, x, y, reachPx) {
		try {
			return { ok: true, value: edgeNear(sourceFor(key).grey(), x, y, reachPx) };
		} catch (error) {
			return { ok: false, problem: toProblem(error) };
		}
	},
	async edgeBeside(reference, paths, step, reach) {
		try {
			const grey = sourceFor(reference.picture).grey();
			const toPicture = toOriginal(reference);
			const options = { step, reach, pxPerMm: scaleOf(reference) };
			const found = paths.map((path) => edgeBeside(grey, path, toPicture, options));
			return { ok: true, value: found.filter((d) => shareWithEdge(d) > 0) };
		} catch (error) {
			return { ok: false, problem: toProblem(error) };
		}
	},
	see: (key, options) =>
		answerWith(
			async () => {
				const seen = seenByTracer(sourceFor(key), options);
				return bitmapOf(options.rectify ? straightened(seen, options.rectify, options.pxPerMm) : seen);
			},
			(bitmap) => [bitmap]
		),
	async findSheet(key) {
		try {
			return { ok: true, value: findSheet(sourceFor(key).grey()) };
		} catch (error) {
			return { ok: false, problem: toProblem(error) };
		}
	},
	straighten: (key, rectangle, pxPerMm) =>
		answerWith(
			async () => shownAs(await bitmapOf(straightened(sourceFor(key).colour(), rectangle, pxPerMm))),
			bitmapsOf
		),
	stop(request) {
		newest = Math.max(newest, request + 1);
	},
	forget(key) {
		kept.get(key)?.source.close();
		kept.delete(key);
	}
};

/** As the screen draws it fastest. */
const FOR_SCREEN: ImageBitmapOptions = { premultiplyAlpha: 'premultiply' };
/** px: smaller copies than this are of no use. */
const SMALLEST_LEVEL = 400;
/** With smaller copies of it, for where it is seen from afar. */
async function shownAs(bitmap: ImageBitmap): Promise<ShownPicture> {
	const smaller: ImageBitmap[] = [];
	let at = bitmap;
	while (Math.max(at.width, at.height) > 2 * SMALLEST_LEVEL) {
		at = await createImageBitmap(at, {
			...FOR_SCREEN,
			resizeWidth: Math.ceil(at.width / 2),
			resizeHeight: Math.ceil(at.height / 2),
			resizeQuality: 'medium'
		});
		smaller.push(at);
	}
	return { bitmap, smaller };
}

const bitmapsOf = ({ bitmap, smaller }: ShownPicture): ImageBitmap[] => [bitmap, ...smaller];

/** @param bitmapsIn those of what is made, which go over to the page. */
async function answerWith<T>(
	make: () => Promise<T>,
	bitmapsIn: (value: T) => ImageBitmap[]
): Promise<Answer<T>> {
	try {
		const value = await make();
		return Comlink.transfer({ ok: true as const, value }, bitmapsIn(value));
	} catch (error) {
		return { ok: false, problem: toProblem(error) };
	}
}

function bitmapOf({ widthPx, heightPx, rgba }: ColourPicture): Promise<ImageBitmap> {
	const pixels = new Uint8ClampedArray(rgba.buffer as ArrayBuffer, rgba.byteOffset, rgba.byteLength);
	return createImageBitmap(new ImageData(pixels, widthPx, heightPx));
}

/** The pixels of a kept picture. @throws CoreError `gone` */
function sourceFor(key: string): PictureSource {
	const picture = kept.get(key);
	if (!picture) throw new CoreError('gone', 'This picture is no longer open.');
	return {
		grey: (channel = 'lightness') => {
			if (channel === 'lightness') return picture.grey;
			if (picture.channel?.name !== channel)
				picture.channel = {
					name: channel,
					picture: readPixels(picture.source, (strip) => channelOf(strip, channel))
				};
			return picture.channel.picture;
		},
		alpha: () => (picture.alpha ??= readPixels(picture.source, alphaAsInk)),
		colour: () => readColour(picture.source)
	};
}

/** All pixels with their colours, in strips. */
function readColour(bitmap: ImageBitmap): ColourPicture {
	const { width, height } = bitmap;
	const rgba = new Uint8ClampedArray(4 * width * height);
	readPixels(bitmap, (strip) => {
		rgba.set(strip.rgba, 4 * width * strip.top);
		return { ...strip, grey: NO_GREY };
	});
	return { widthPx: width, heightPx: height, rgba };
}
const NO_GREY = new Uint8Array(0);

/** Pixels in strips, so that a large picture never stands twice in memory. */
function readPixels(
	bitmap: ImageBitmap,
	turn: (strip: ColourPicture & { readonly top: number }) => GreyPicture
): GreyPicture {
	const { width, height } = bitmap;
	const rows = Math.max(1, Math.min(height, Math.floor(4_000_000 / width)));
	const canvas = new OffscreenCanvas(width, rows);
	const context = canvas.getContext('2d', { willReadFrequently: true })!;
	const grey = new Uint8Array(width * height);
	for (let y = 0; y < height; y += rows) {
		const h = Math.min(rows, height - y);
		context.clearRect(0, 0, width, rows);
		context.drawImage(bitmap, 0, y, width, h, 0, 0, width, h);
		const rgba = context.getImageData(0, 0, width, h).data;
		grey.set(turn({ widthPx: width, heightPx: h, rgba, top: y }).grey, y * width);
	}
	return { widthPx: width, heightPx: height, grey };
}

/** The browser shows half a JPEG or PNG without a word; the end of the file tells. */
function isTruncated(kind: string, bytes: Uint8Array): boolean {
	if (kind === 'jpeg') {
		for (let i = bytes.length - 2; i >= Math.max(0, bytes.length - 4096); i--) {
			if (bytes[i] === 0xff && bytes[i + 1] === 0xd9) return false;
		}
		return true;
	}
	if (kind === 'png') {
		const tail = String.fromCharCode(...bytes.subarray(Math.max(0, bytes.length - 64)));
		return !tail.includes('IEND');
	}
	return false;
}

Comlink.expose(api);
