// Serves the app as it is built: what a workshop runs (docs/server.md). Limits on time and size lie here and in the routes.
import { createServer } from 'node:http';

/** Bytes of the largest body that any route takes: a picture to be traced. */
process.env.BODY_SIZE_LIMIT ??= '64M';
const port = Number(process.env.PORT ?? 3000);
const host = process.env.HOST ?? '0.0.0.0';
/** ms that work in hand has when the server is told to end. */
const LAST_MS = 5000;

const { handler } = await import('../build/handler.js');
const limits = {
	headersTimeout: 10_000,
	requestTimeout: 90_000,
	keepAliveTimeout: 5000,
	maxHeaderSize: 16_384
};
const server = createServer(limits, (request, response) => {
	response.setHeader('x-content-type-options', 'nosniff');
	response.setHeader('cross-origin-resource-policy', 'same-origin');
	handler(request, response, () => {
		response.writeHead(404, { 'content-type': 'application/json' });
		response.end('{"problem":{"code":"answer-404","sentence":"There is nothing under this address."}}');
	});
});
server.on('clientError', (error, socket) => {
	const status = error.code === 'ERR_HTTP_REQUEST_TIMEOUT' ? '408 Request Timeout' : '400 Bad Request';
	if (socket.writable) socket.end(`HTTP/1.1 ${status}\r\nconnection: close\r\ncontent-length: 0\r\n\r\n`);
});
server.on('error', (error) => {
	console.error(
		error.code === 'EADDRINUSE' ? `Port ${port} is taken. Choose another: PORT=4181` : error.message
	);
	process.exit(1);
});
server.listen(port, host, () => console.log(`Listening on http://${host}:${port}`));

let isEnding = false;
function end() {
	if (isEnding) process.exit(0);
	isEnding = true;
	// What is being answered may be answered; whoever is not done then is let go of, and with him the work for him.
	server.close(() => process.exit(0));
	server.closeIdleConnections();
	setTimeout(() => {
		server.closeAllConnections();
		setTimeout(() => process.exit(0), 500);
	}, LAST_MS).unref();
}
process.on('SIGTERM', end);
process.on('SIGINT', end);
