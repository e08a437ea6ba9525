/** Limits of tracing on the server. */
import { Socket } from 'node:net';
import { expect, test } from 'vitest';
import { Resvg } from '@resvg/resvg-js';
import { whenGone } from './gone';
import { traceOnServer, traceQueue } from './trace-queue';
import { MOST_BYTES } from './trace-work';

const noise = (side: number) =>
	new Resvg(
		`<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 ${side} ${side}"><rect width="${side}" height="${side}" fill="#fff"/>${Array.from(
			{ length: 400 },
			(_, i) => `<circle cx="${(i * 37) % side}" cy="${(i * 91) % side}" r="${2 + (i % 9)}"/>`
		).join('')}</svg>`
	)
		.render()
		.asPng();

const load = async () => (await traceQueue()).load();

test('what takes too long is stopped and said so; what is too large is not begun', async () => {
	const late = await traceOnServer(noise(900), ['--px-per-mm=8'], { mostMs: 40 });
	expect(late).toMatchObject({ ok: false, problem: { code: 'too-long' } });
	const large = await traceOnServer(new Uint8Array(MOST_BYTES + 1), []);
	expect(large).toMatchObject({ ok: false, problem: { code: 'too-large' } });
});

test('what nobody waits for any more is ended, whether it is traced or waits for its turn; its place is free again', async () => {
	const gone = AbortSignal.timeout(60);
	const picture = noise(900);
	const asked = Array.from({ length: 12 }, () => traceOnServer(picture, ['--px-per-mm=8'], { signal: gone }));
	expect((await load()).waiting).toBeGreaterThan(0);
	for (const answer of await Promise.all(asked))
		expect(answer).toMatchObject({ problem: { code: 'given-up' } });
	expect(await load()).toEqual({ running: 0, waiting: 0 });
	const disc = new Resvg(
		'<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 200 200"><rect width="200" height="200" fill="#fff"/><circle cx="99" cy="98" r="60"/></svg>'
	);
	expect(await traceOnServer(disc.render().asPng(), ['--px-per-mm=8'])).toMatchObject({ ok: true });
});

test('one is gone when his connection closes, not when his body has ended', () => {
	const socket = new Socket();
	const request = new Request('http://here/');
	const signal = whenGone(request, { req: { socket } });
	expect(signal.aborted).toBe(false);
	socket.emit('close');
	expect(signal.aborted).toBe(true);
	expect(whenGone(request, undefined)).toBe(request.signal);
});
