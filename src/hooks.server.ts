/** What holds for every answer of the server: its headers, and that what goes wrong is said in plain words, never as a page. */
import { json, type Handle, type HandleServerError } from '@sveltejs/kit';

const HEADERS: Readonly<Record<string, string>> = {
	'x-content-type-options': 'nosniff',
	'referrer-policy': 'no-referrer',
	'permissions-policy': 'camera=(), microphone=(), geolocation=(), payment=(), usb=(), serial=()',
	'cross-origin-opener-policy': 'same-origin',
	'cross-origin-resource-policy': 'same-origin',
	'x-frame-options': 'DENY'
};

const WORDS: Readonly<Record<number, string>> = {
	404: 'There is nothing under this address.',
	405: 'This cannot be asked for in this way.',
	413: 'That is too large to be taken here.'
};

export const handle: Handle = async ({ event, resolve }) => {
	let response = await resolve(event);
	const isApi = event.url.pathname.startsWith('/api/');
	if (
		isApi &&
		response.status >= 400 &&
		!response.headers.get('content-type')?.startsWith('application/json')
	) {
		const { status } = response;
		const sentence = WORDS[status] ?? (await saidIn(response)) ?? 'This could not be done.';
		response = json({ problem: { code: `answer-${status}`, sentence } }, { status });
	}
	for (const [name, value] of Object.entries(HEADERS)) response.headers.set(name, value);
	if (isApi && !response.headers.has('cache-control')) response.headers.set('cache-control', 'no-store');
	return response;
};

/** The sentence of an answer that is one already. */
async function saidIn(response: Response): Promise<string | undefined> {
	if (!response.headers.get('content-type')?.startsWith('text/plain')) return undefined;
	const text = await response.text();
	return text.length < 300 ? text : undefined;
}

export const handleError: HandleServerError = ({ status, error }) => {
	// For whoever runs it; the page is told no more than that.
	if (status >= 500) console.error(error);
	return { message: WORDS[status] ?? 'Something went wrong on the server. Nothing of the drawing is lost.' };
};
