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
	let gone = closed.get(socket);
	if (!gone) {
		// One for all that is asked over the same connection.
		const controller = new AbortController();
		gone = controller.signal;
		closed.set(socket, gone);
		if (socket.destroyed) controller.abort();
		else socket.once('close', () => controller.abort());
	}
	return AbortSignal.any([request.signal, gone]);
}
/** Of each connection the signal for when it closes. */
const closed = new WeakMap<Socket, AbortSignal>();
