/** The page's side of the picture worker. */
import * as Comlink from 'comlink';
import type { PictureApi } from './picture.protocol';

let started: Comlink.Remote<PictureApi> | undefined;

/** The one picture worker of the page, started when first needed. */
export function pictureWorker(): Comlink.Remote<PictureApi> {
	if (started) return started;
	started = Comlink.wrap<PictureApi>(
		new Worker(new URL('./picture.worker.ts', import.meta.url), { type: 'module' })
	);
	if (navigator.hardwareConcurrency > 1) startHelper(started);
	return started;
}

/** A second worker, which draws a share of a picture's outlines; where it cannot be started the first draws all of them. */
function startHelper(picture: Comlink.Remote<PictureApi>): void {
	const worker = new Worker(new URL('./outlines.worker.ts', import.meta.url), { type: 'module' });
	worker.onerror = () => void picture.withoutHelp();
	const { port1, port2 } = new MessageChannel();
	worker.postMessage(port1, [port1]);
	void picture.helpOver(Comlink.transfer(port2, [port2]));
}

export const proxy = Comlink.proxy;
