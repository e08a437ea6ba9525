/** With the network cut, from the second visit on: the whole job from a picture to a machine file; a newer build waits until it is wanted. */
import { readFileSync } from 'node:fs';
import { createServer, request } from 'node:http';
import type { AddressInfo } from 'node:net';
import { pipeline } from 'node:stream';
import { expect, test, type Page } from '@playwright/test';
import { readSvg } from '../../src/lib/core/formats/svg';
import { unwrap } from '../../src/lib/core/errors';
import { command, give, saved } from './hands';

test.use({ serviceWorkers: 'allow' });

/** All of the app has been put by, and answers for this page. */
async function putBy(page: Page): Promise<void> {
	await page.goto('/');
	await expect(page.locator('[data-fact=works-offline]')).toBeVisible();
	await page.reload();
	await expect.poll(() => page.evaluate(() => navigator.serviceWorker.controller?.state)).toBe('activated');
}
async function downloaded(page: Page, selector: string): Promise<string> {
	const [download] = await Promise.all([page.waitForEvent('download'), page.locator(selector).click()]);
	return readFileSync((await download.path())!, 'utf8');
}

test('after one visit everything works with the network cut: from a picture to outlines, an SVG and a file for the machine', async ({
	page,
	context
}) => {
	const troubles: string[] = [];
	page.on('pageerror', (error) => troubles.push(error.message));
	await putBy(page);
	await context.setOffline(true);
	await page.reload();
	await page.locator('[data-act=new]').click();
	await expect(page.locator('canvas').first()).toBeVisible();
	await expect(page.locator('[data-fact=offline]')).toBeVisible();
	await give(page, 'fox.jpg', 'image/jpeg', readFileSync('static/demo/fox-puppet.jpg'));
	await expect(page.locator('[data-station=size]')).toContainText('True size is set');
	await page.locator('[role=application]').focus();
	await page.keyboard.press('t');
	await expect(page.locator('[data-act=keep]')).toBeEnabled();
	await page.keyboard.press('Enter');
	await expect(page.locator('[data-station=trace]')).toContainText('outlines');
	const { outlines } = await saved(page);
	expect(outlines.length).toBeGreaterThan(15);
	// Opened anew by its own address, still without a network.
	await page.reload();
	await expect(page.locator('canvas').first()).toBeVisible();
	expect((await saved(page)).outlines).toHaveLength(outlines.length);
	await page.locator('[data-station=cut]').click();
	await expect(page.locator('[data-station=cut]')).toContainText('Ready to cut');
	const svg = await downloaded(page, '[data-command=write-svg]');
	expect(unwrap(readSvg(svg)).shapes.flatMap((s) => s.paths).length).toBe(outlines.length);
	await page.locator('[data-command=machine]').click();
	await page.locator('[data-act=make-jobs]').click();
	await expect(page.locator('[data-act=write-machine]')).toBeEnabled();
	expect((await downloaded(page, '[data-act=write-machine]')).length).toBeGreaterThan(1000);
	// What needs the server says so.
	await page.goto('/');
	await page.getByText('Owl, a rough old trace').click();
	await expect(page.getByRole('alert')).toContainText('needs the network the first time');
	expect(troubles).toEqual([]);
});

/** The same server behind another door, whose newest build differs by a word once `isNewer` is set. */
async function behindADoor(inner: string) {
	const door = { isNewer: false, address: '', close: () => undefined as void };
	const server = createServer((asked, answer) => {
		// A connection of its own for each: one that is kept may be closed from the other side just when it is used again.
		const headers = { accept: asked.headers.accept ?? '*/*', host: new URL(inner).host };
		const beyond = request(inner + asked.url, { agent: false, headers }, (given) => {
			const isNewerWorker = asked.url === '/service-worker.js' && door.isNewer;
			if (isNewerWorker) delete given.headers['content-length'];
			answer.writeHead(given.statusCode ?? 502, given.headers);
			pipeline(
				given,
				async function* (parts) {
					yield* parts;
					if (isNewerWorker) yield '\n// newer';
				},
				answer,
				() => undefined
			);
		});
		beyond.on('error', () => answer.destroy());
		beyond.end();
	});
	await new Promise<void>((done) => server.listen(0, '127.0.0.1', done));
	door.address = `http://127.0.0.1:${(server.address() as AddressInfo).port}`;
	door.close = () => void server.close();
	return door;
}

test('a newer build waits: the work goes on with the old one until the person takes it up, nothing of the drawing is lost', async ({
	page,
	baseURL
}) => {
	const door = await behindADoor(baseURL!);
	await page.goto(door.address);
	await expect(page.locator('[data-fact=works-offline]')).toBeVisible();
	await page.reload();
	await page.getByText('Owl, a rough old trace').click();
	await expect(page.locator('canvas').first()).toBeVisible();
	await command(page, 'hide');
	const before = (await saved(page)).outlines.length;
	door.isNewer = true;
	await page.evaluate(async () => void (await (await navigator.serviceWorker.ready).update()));
	const newer = page.locator('[data-act=take-newer]');
	await expect(newer).toBeVisible();
	// Until then everything is as it was: another page of the old build opens what it needs.
	await page.keyboard.press('r');
	await expect(page.locator('[data-act=find-on-rack]')).toBeVisible();
	await page.evaluate(() => Object.assign(window, { isTheSamePage: true }));
	await newer.click();
	await page.waitForFunction(() => !('isTheSamePage' in window));
	await expect(page.locator('canvas').first()).toBeVisible();
	await expect(newer).toHaveCount(0);
	expect((await saved(page)).outlines).toHaveLength(before);
	expect(await page.evaluate(async () => (await navigator.serviceWorker.ready).waiting)).toBeNull();
	door.close();
});

test('what another program shares is taken in when the list opens', async ({ page }) => {
	await putBy(page);
	// Another page of the app stands there meanwhile, not the list: that would take it at once.
	await page.locator('[data-act=new]').click();
	await expect(page.locator('canvas').first()).toBeVisible();
	const form = new Uint8Array(readFileSync('static/demo/fox-parts.svg'));
	// As the system does it: a form with files, sent to the place that the manifest names.
	const { action, params } = await page.evaluate(
		async () =>
			(
				(await (await fetch('/manifest.webmanifest')).json()) as {
					share_target: { action: string; params: { files: { name: string }[] } };
				}
			).share_target
	);
	await page.evaluate(
		async ({ action, name, list }) => {
			const body = new FormData();
			body.append(name, new File([new Uint8Array(list)], 'shared parts.svg', { type: 'image/svg+xml' }));
			await fetch(action, { method: 'POST', body });
		},
		{ action, name: params.files[0].name, list: [...form] }
	);
	await page.goto('/');
	await expect(page).toHaveURL(/drawing/);
	await expect.poll(async () => (await saved(page)).outlines.length).toBeGreaterThan(5);
	expect((await saved(page)).name).toBe('shared parts');
	// Once the drawing has it, it lies there no more.
	await expect
		.poll(() =>
			page.evaluate(async () => {
				const lying = await Promise.all(
					(await caches.keys()).filter((name) => name.includes('shared')).map((name) => caches.open(name))
				);
				return (await Promise.all(lying.map((cache) => cache.keys()))).flat().length;
			})
		)
		.toBe(0);
});
