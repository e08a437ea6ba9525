/** Messages of the picture worker: it decodes, keeps the pixels, and traces. */
import type { Point } from '../core/geometry/point';
import type { Problem } from '../core/errors';
import type { PictureKind } from '../core/formats/picture-header';
import type { Reference } from '../core/document/drawing';
import type { Deviation } from '../core/geometry/deviation';
import type { Path } from '../core/geometry/path';
import type { Rectangle } from '../core/trace/perspective';
import type { FoundSheet } from '../core/trace/sheet';
import type { Trace, TraceProgress } from '../core/trace/trace';
import type { WayOptions } from '../core/trace/ways';

export interface OpenedPicture {
	readonly widthPx: number;
	readonly heightPx: number;
	readonly kind: PictureKind;
	readonly mediaType: string;
	readonly statedPxPerMm?: number;
	readonly shown: ShownPicture;
}

/** A picture for showing; upright. */
export interface ShownPicture {
	readonly bitmap: ImageBitmap;
	/** Each half as wide as the one before. */
	readonly smaller: readonly ImageBitmap[];
}

export type Answer<T> =
	| { readonly ok: true; readonly value: T }
	| { readonly ok: false; readonly problem: Problem }
	| { readonly ok: 'stale' };

export interface PictureApi {
	/** Takes a channel to a worker that draws outlines at the same time; and does without it again. */
	helpOver(port: MessagePort): void;
	withoutHelp(): void;
	/** Decodes a picture and keeps its pixels under `key`. */
	open(key: string, bytes: Uint8Array): Promise<Answer<OpenedPicture>>;
	/** Traces a kept picture. A newer request makes this one stale. */
	trace(
		request: number,
		key: string,
		options: WayOptions,
		tell: (progress: TraceProgress) => void
	): Promise<Answer<Trace>>;
	/** The boundary at the resolution of the screen, of which a pixel of the picture takes `scale`; not fitted. */
	quick(key: string, options: WayOptions, scale: number): Promise<Answer<Path[]>>;
	/** The place nearest to (x, y) px where the tone of a kept picture changes most steeply; undefined where none does. */
	edgeNear(key: string, x: number, y: number, reachPx: number): Promise<Answer<Point | undefined>>;
	/** How far the edge in a picture lies beside lines on the paper, mm; looked for within `reach` mm. */
	edgeBeside(reference: Reference, paths: Path[], step: number, reach: number): Promise<Answer<Deviation[]>>;
	/** A kept picture as the tracer sees it with these settings, px for px. */
	see(key: string, options: WayOptions): Promise<Answer<ImageBitmap>>;
	/** The corners of the largest sheet in a kept picture. */
	findSheet(key: string): Promise<Answer<FoundSheet>>;
	/** A kept picture in the plane of a rectangle in it, at so many px a mm. */
	straighten(key: string, rectangle: Rectangle, pxPerMm: number): Promise<Answer<ShownPicture>>;
	/** Makes requests up to this number stale. */
	stop(request: number): void;
	forget(key: string): void;
}
