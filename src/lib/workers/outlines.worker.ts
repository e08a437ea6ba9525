import * as Comlink from 'comlink';
import { drawOutlines } from '../core/trace/outlines';
import { drive, Stale } from './drive';
import type { OutlinesApi } from './outlines.protocol';

let newest = 0;

const api: OutlinesApi = {
	async draw(request, edges, contours) {
		newest = Math.max(newest, request);
		try {
			return await drive(
				drawOutlines(edges, contours),
				() => request < newest,
				() => undefined
			);
		} catch (error) {
			if (error instanceof Stale) return undefined;
			throw error;
		}
	},
	stop(request) {
		newest = Math.max(newest, request + 1);
	}
};

// The page hands over the picture worker's end of a channel.
addEventListener('message', ({ data }: MessageEvent<MessagePort>) => Comlink.expose(api, data));
