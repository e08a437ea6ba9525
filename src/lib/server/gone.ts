/** Whether the one who asked is still there. */
import type { Socket } from 'node:net';

/** What the server's adapter tells of a request; nothing while developing. */
interface Platform {
	readonly req?: { readonly socket: Socket };
}

/**
 * A signal for when the connection closes before there is an answer. The request's own signal ends with its body: work that begins
 * then would go on for nobody.
 */
export function whenGone(request: Request, platform: unknown): AbortSignal {
	const socket = (platform as Platform | undefined)?.req?.socket;
	if (!socket) return request.signal;
	const gone = new AbortController();
	const abort = () => gone.abort();
	if (socket.destroyed) abort();
	else socket.once('close', abort);
	return AbortSignal.any([request.signal, gone.signal]);
}
