/** A word to a simulated machine, and its answer: plain text, as docs/machine.md says. */
import { text } from '@sveltejs/kit';
import { problemAnswer } from '$lib/server/answers';
import { readBody } from '$lib/server/body';
import { machineOf, machineTime } from '$lib/server/machines';

/** Bytes of one message. */
const MOST = 20_000;

export async function POST({ params, request }) {
	const machine = machineOf(params.which);
	if (!machine) return problemAnswer({ code: 'no-machine', sentence: 'There is no such machine.' });
	const body = await readBody(request, { most: MOST, within: 10_000 });
	if (!body.ok) return problemAnswer(body.problem);
	const message = new TextDecoder().decode(body.value);
	return text(machine.answer(message, request.headers.get('x-driver') ?? '', machineTime()));
}
