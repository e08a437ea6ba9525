/** The picture worker's side of the worker that draws outlines beside it. */
import * as Comlink from 'comlink';
import type { Helper } from '../core/trace/outlines';
import type { OutlinesApi } from './outlines.protocol';

let worker: Comlink.Remote<OutlinesApi> | undefined;

/** Takes the channel to the worker that draws outlines; without one there is no help. */
export function helpOver(port: MessagePort): void {
	worker = Comlink.wrap<OutlinesApi>(port);
}

/** Nobody answers at the other end any more. */
export function withoutHelp(): void {
	worker = undefined;
}

/** Draws a share of the outlines of one request. */
export function helperFor(request: number): (Helper & { stop: () => void }) | undefined {
	const asked = worker;
	if (!asked) return undefined;
	let drawn: ReturnType<Helper['drawn']>;
	return {
		begin(edges, contours) {
			// A copy that goes over whole: a message by itself would be held twice on its way.
			const grey = edges.picture.grey.slice();
			const theirs = Comlink.transfer({ ...edges, picture: { ...edges.picture, grey } }, [grey.buffer]);
			asked.draw(request, theirs, contours).then(
				(outlines) => (drawn = outlines),
				() => (drawn = 'failed')
			);
		},
		drawn: () => (worker === asked ? drawn : 'failed'),
		stop: () => void asked.stop(request)
	};
}
