/** Limits of tracing on the server. */
import { expect, test } from 'vitest';
import { Resvg } from '@resvg/resvg-js';
import { MOST_BYTES, traceOnServer } from './trace-queue';

const noise = (side: number) =>
	new Resvg(
		`<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 ${side} ${side}"><rect width="${side}" height="${side}" fill="#fff"/>${Array.from(
			{ length: 400 },
			(_, i) => `<circle cx="${(i * 37) % side}" cy="${(i * 91) % side}" r="${2 + (i % 9)}"/>`
		).join('')}</svg>`
	)
		.render()
		.asPng();

test('what takes too long is stopped and said so; what is too large is not begun', async () => {
	const late = await traceOnServer(noise(900), ['--px-per-mm=8'], 40);
	expect(late).toMatchObject({ ok: false, problem: { code: 'too-long' } });
	const large = await traceOnServer(new Uint8Array(MOST_BYTES + 1), []);
	expect(large).toMatchObject({ ok: false, problem: { code: 'too-large' } });
});
