/** Messages of the picture worker: it decodes, keeps the pixels, and traces. */
import type { Problem } from '../core/errors';
import type { PictureKind } from '../core/formats/picture-header';
import type { Trace, TraceOptions, TraceProgress } from '../core/trace/trace';

export interface OpenedPicture {
	readonly widthPx: number;
	readonly heightPx: number;
	readonly kind: PictureKind;
	readonly mediaType: string;
	readonly statedPxPerMm?: number;
	/** For showing; upright. */
	readonly bitmap: ImageBitmap;
}

export type Answer<T> =
	| { readonly ok: true; readonly value: T }
	| { readonly ok: false; readonly problem: Problem }
	| { readonly ok: 'stale' };

export interface PictureApi {
	/** Decodes a picture and keeps its pixels under `key`. */
	open(key: string, bytes: Uint8Array): Promise<Answer<OpenedPicture>>;
	/** Traces a kept picture. A newer request makes this one stale. */
	trace(
		request: number,
		key: string,
		by: 'tone' | 'alpha',
		options: TraceOptions,
		tell: (progress: TraceProgress) => void
	): Promise<Answer<Trace>>;
	/** Makes requests up to this number stale. */
	stop(request: number): void;
	forget(key: string): void;
}
