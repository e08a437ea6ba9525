/** Bodies that are too large, too slow or cut off are let go of, with a sentence. */
import { expect, test } from 'vitest';
import { readBody, readSmall } from './body';

/** A request whose body comes in these parts; a number is a pause in ms, an error ends it. */
function coming(...parts: (Uint8Array | number | Error)[]): {
	request: Request;
	state: { cancelled: boolean };
} {
	const state = { cancelled: false };
	const body = new ReadableStream<Uint8Array>({
		async pull(controller) {
			const part = parts.shift();
			if (part instanceof Error) controller.error(part);
			else if (part === undefined) controller.close();
			else if (typeof part === 'number') await new Promise((done) => setTimeout(done, part));
			else controller.enqueue(part);
		},
		cancel() {
			state.cancelled = true;
		}
	});
	const request = new Request('http://here/', { method: 'POST', body, duplex: 'half' } as RequestInit);
	return { request, state };
}
const bytes = (n: number) => new Uint8Array(n).fill(7);

test('what comes in parts comes whole, up to the last byte that is allowed', async () => {
	const { request } = coming(bytes(400), bytes(0), bytes(600));
	expect(await readBody(request, { most: 1000 })).toEqual({ ok: true, value: bytes(1000) });
	expect(await readBody(new Request('http://here/'), { most: 1 })).toEqual({ ok: true, value: bytes(0) });
});

test('one byte more is too much, said or not; it is read to its end only where that is near', async () => {
	const near = coming(bytes(600), bytes(401), bytes(500));
	expect(await readBody(near.request, { most: 1000 })).toMatchObject({ problem: { code: 'too-large' } });
	expect(near.state.cancelled).toBe(false);
	const { request, state } = coming(bytes(600), bytes(401), bytes(5e6), bytes(1));
	expect(await readBody(request, { most: 1000 })).toMatchObject({
		ok: false,
		problem: { code: 'too-large' }
	});
	await expect.poll(() => state.cancelled).toBe(true);
	const said = new Request('http://here/', {
		method: 'POST',
		headers: { 'content-length': '1001' },
		body: 'x'
	});
	const refused = await readBody(said, { most: 1000 });
	expect(refused).toMatchObject({ ok: false, problem: { sentence: 'At most 1000 bytes are taken here.' } });
});

test('what comes too slowly is let go of; what is cut off is told', async () => {
	const slow = coming(bytes(10), 600_000);
	expect(await readBody(slow.request, { most: 1000, within: 30 })).toMatchObject({
		ok: false,
		problem: { code: 'too-slow' }
	});
	const cut = coming(bytes(10), new Error('reset'));
	expect(await readBody(cut.request, { most: 1000 })).toMatchObject({
		ok: false,
		problem: { code: 'cut-off' }
	});
	const full = coming(Object.assign(new Error('limit'), { status: 413 }));
	expect(await readBody(full.request, { most: 1000 })).toMatchObject({
		ok: false,
		problem: { code: 'too-large' }
	});
});

test('a small object is one, anything else is none', async () => {
	const read = async (text: string) => readSmall(new Request('http://here/', { method: 'POST', body: text }));
	expect(await read('{"dpi":200}')).toEqual({ ok: true, value: { dpi: 200 } });
	for (const text of ['', '[1]', 'null', '7', '{', '\0', '"x"'])
		expect(await read(text)).toEqual({ ok: true, value: undefined });
	expect(await read(`{"a":${'['.repeat(20_000)}`)).toMatchObject({
		ok: false,
		problem: { code: 'too-large' }
	});
	expect(await read(`{"a":${'['.repeat(9_000)}`)).toEqual({ ok: true, value: undefined });
});
