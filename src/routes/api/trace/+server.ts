/** Traces a picture that is sent as the body; the settings are those of the command line, as the address's query. */
import { json } from '@sveltejs/kit';
import { problemAnswer } from '$lib/server/answers';
import { passOver, readBody } from '$lib/server/body';
import { whenGone } from '$lib/server/gone';
import { traceOnServer, traceQueue } from '$lib/server/trace-queue';
import { MOST_BYTES } from '$lib/server/trace-work';

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

export async function POST({ request, url, platform }) {
	const words: string[] = [];
	for (const [name, value] of url.searchParams) {
		if (TEXTS.includes(name)) words.push(`--${name}=${value}`);
		else if (FLAGS.includes(name)) words.push(`--${name}`);
		else
			return problemAnswer({ code: 'bad-setting', sentence: `There is no setting "${name}" for tracing.` });
	}
	// Where there is no room for it, it is not kept.
	const full = await (await traceQueue()).whyFull();
	if (full) {
		await passOver(request, MOST_BYTES);
		return problemAnswer(full);
	}
	const body = await readBody(request, { most: MOST_BYTES, within: 60_000 });
	if (!body.ok) return problemAnswer(body.problem);
	const traced = await traceOnServer(body.value, words, { signal: whenGone(request, platform) });
	return traced.ok ? json(traced.value) : problemAnswer(traced.problem);
}
