/** The server behind the app: its headers, plain answers to what is wrong, work that nobody waits for, scans that belong to one page. */
import { connect } from 'node:net';
import { readFileSync } from 'node:fs';
import { expect, test, type APIRequestContext } from '@playwright/test';
import sharp from 'sharp';

const problem = async (answer: { json(): Promise<unknown> }) =>
	((await answer.json()) as { problem: { code: string; sentence: string } }).problem;
const health = async (request: APIRequestContext) =>
	(await (await request.get('/api/health')).json()) as { ok: boolean; running: number; waiting: number };

test('every answer carries the headers that keep it where it belongs', async ({ request }) => {
	for (const place of ['/', '/api/health', '/api/scanner', '/demo/fox-parts.svg']) {
		const answer = await request.get(place);
		expect(answer.status(), place).toBe(200);
		const headers = answer.headers();
		expect(headers['x-content-type-options'], place).toBe('nosniff');
		// What lies there as a file asks for nothing and shows nothing by itself.
		if (place.startsWith('/demo')) continue;
		expect(headers['referrer-policy'], place).toBe('no-referrer');
		expect(headers['permissions-policy'], place).toContain('camera=()');
	}
	const policy = (await request.get('/')).headers()['content-security-policy'];
	expect(policy).toContain("frame-ancestors 'none'");
	expect(policy).toContain("default-src 'none'");
	expect(policy).not.toMatch(/(script-src|style-src) [^;]*unsafe-inline/);
	expect(await health(request)).toMatchObject({ ok: true });
});

test('whatever is wrong is told in a sentence, never by a page', async ({ request }) => {
	const asked = [
		[await request.get('/api/nothing-here'), 404],
		[await request.get('/api/trace'), 405],
		[await request.post('/api/machine/lathe', { data: 'hello' }), 404],
		[await request.post('/api/machine/gcode', { data: 'x'.repeat(30_000) }), 413],
		[await request.post('/api/scanner', { data: 'x'.repeat(30_000) }), 413],
		[await request.post('/api/scanner', { data: '{"dpi":200,"area":null}' }), 400],
		[await request.post('/api/scanner', { data: { dpi: 200, area: { x: '0', y: 0, w: 9, h: 9 } } }), 400],
		[await request.post('/api/trace?colour=1', { data: 'x' }), 400],
		[
			await request.fetch('/api/trace', {
				method: 'POST',
				headers: { 'content-type': '', 'content-length': '3' },
				data: 'abc'
			}),
			400
		],
		[await request.post('/api/trace', { data: Buffer.alloc(61_000_000) }), 413]
	] as const;
	for (const [answer, status] of asked) {
		expect(answer.status(), answer.url()).toBe(status);
		expect(answer.headers()['content-type'], answer.url()).toContain('application/json');
		expect((await problem(answer)).sentence, answer.url()).toMatch(/^[A-Z].*\.$/);
	}
});

test('a scan belongs to the page that asked for it; the others are told to wait', async ({ request }) => {
	const as = (session: string) => ({ 'x-session': session });
	const settings = { dpi: 75, colour: false, area: { x: 0, y: 0, w: 80, h: 60 } };
	// Another test may be scanning: the device is one.
	await expect
		.poll(async () => (await request.post('/api/scanner', { data: settings, headers: as('first') })).status())
		.toBe(200);
	await expect
		.poll(async () => {
			const state = await request.get('/api/scanner', { headers: as('first') });
			return ((await state.json()) as { state: string }).state;
		})
		.toBe('done');
	expect((await request.get('/api/scanner/job', { headers: as('second') })).status()).toBe(404);
	await request.delete('/api/scanner', { headers: as('second') });
	const taken = await request.get('/api/scanner/job', { headers: as('first') });
	expect(taken.status()).toBe(200);
	expect((await sharp(await taken.body()).metadata()).width).toBeGreaterThan(200);
	expect((await request.get('/api/scanner/job', { headers: as('first') })).status()).toBe(404);
});

test('a picture that nobody waits for any more is not traced on', async ({ request, baseURL }) => {
	const { port } = new URL(baseURL!);
	const body = readFileSync('static/demo/fox-puppet.jpg');
	const before = await health(request);
	const socket = connect(Number(port), '127.0.0.1');
	socket.on('error', () => undefined);
	socket.write(
		`POST /api/trace?px-per-mm=8 HTTP/1.1\r\nhost: 127.0.0.1:${port}\r\norigin: ${baseURL!}\r\ncontent-type: image/jpeg\r\ncontent-length: ${body.length}\r\n\r\n`
	);
	socket.write(body);
	await expect.poll(async () => (await health(request)).running).toBeGreaterThan(before.running);
	socket.destroy();
	await expect.poll(async () => (await health(request)).running).toBe(before.running);
});
