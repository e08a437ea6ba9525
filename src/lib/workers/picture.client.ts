/** The page's side of the picture worker. */
import * as Comlink from 'comlink';
import type { PictureApi } from './picture.protocol';

let started: Comlink.Remote<PictureApi> | undefined;

/** The one picture worker of the page, started when first needed. */
export function pictureWorker(): Comlink.Remote<PictureApi> {
	started ??= Comlink.wrap<PictureApi>(
		new Worker(new URL('./picture.worker.ts', import.meta.url), { type: 'module' })
	);
	return started;
}

export const proxy = Comlink.proxy;
