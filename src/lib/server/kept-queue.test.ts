/** The kept queue where it is not there; with a Redis and workers it is tried by `npm run press:queue`. */
import { expect, test } from 'vitest';
import { keptQueue, keyOf } from './kept-queue';

test('the same picture with the same settings is one, whatever their order; anything else is another', () => {
	const picture = Uint8Array.from([1, 2, 3]);
	const key = keyOf(picture, ['--px-per-mm=8', '--light'], 'a');
	expect(keyOf(Uint8Array.from([1, 2, 3]), ['--light', '--px-per-mm=8'], 'a')).toBe(key);
	expect(keyOf(Uint8Array.from([1, 2, 4]), ['--px-per-mm=8', '--light'], 'a')).not.toBe(key);
	expect(keyOf(picture, ['--px-per-mm=8', '--light'], 'b')).not.toBe(key);
	expect(keyOf(picture, ['--px-per-mm=9', '--light'], 'a')).not.toBe(key);
});

test('where no queue can be reached one sentence says so, and the server goes on', async () => {
	const queue = keptQueue('redis://127.0.0.1:9', 'a');
	const problem = { code: 'no-queue', sentence: expect.stringContaining('can not be reached') as string };
	expect(await queue.whyFull()).toEqual(problem);
	expect(await queue.trace(Uint8Array.from([1]), [], {})).toEqual({ ok: false, problem });
	expect(await queue.load()).toEqual({ running: 0, waiting: 0 });
});
