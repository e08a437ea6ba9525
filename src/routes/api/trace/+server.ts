/** Traces a picture that is sent as the body; the settings are those of the command line, as the address's query. */
import { json } from '@sveltejs/kit';
import { problemAnswer } from '$lib/server/answers';
import { MOST_BYTES, traceOnServer } from '$lib/server/trace-queue';

const TEXTS = [
	'px-per-mm',
	'width',
	'rectify',
	'rect',
	'by',
	'threshold',
	'colours',
	'levels',
	'tolerance',
	'corner-angle',
	'min-area',
	'diagonal',
	'region'
];
const FLAGS = ['light', 'even-light', 'denoise'];

export async function POST({ request, url }) {
	if (Number(request.headers.get('content-length') ?? 0) > MOST_BYTES)
		return problemAnswer({
			code: 'too-large',
			sentence: `A picture of at most ${MOST_BYTES / 1e6} MB can be traced here.`
		});
	const words: string[] = [];
	for (const [name, value] of url.searchParams) {
		if (TEXTS.includes(name)) words.push(`--${name}=${value}`);
		else if (FLAGS.includes(name)) words.push(`--${name}`);
		else
			return problemAnswer({ code: 'bad-setting', sentence: `There is no setting "${name}" for tracing.` });
	}
	const traced = await traceOnServer(new Uint8Array(await request.arrayBuffer()), words);
	return traced.ok ? json(traced.value) : problemAnswer(traced.problem);
}
