/** A word to a simulated machine, and its answer: plain text, as docs/machine.md says. */
import { error, text } from '@sveltejs/kit';
import { machineOf, machineTime } from '$lib/server/machines';

/** Characters of one message. */
const MOST = 20_000;

export async function POST({ params, request }) {
	const machine = machineOf(params.which);
	if (!machine) error(404, 'There is no such machine.');
	const message = await request.text();
	if (message.length > MOST) error(413, 'That is too long for one message.');
	return text(machine.answer(message, request.headers.get('x-driver') ?? '', machineTime()));
}
