/** Nothing is lost: a killed browser, full storage, a second tab. */
import { mkdtempSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { chromium, expect, test } from '@playwright/test';
import { CHROMIUM, CHROMIUM_ARGS } from '../../playwright.config';
import { drag, openDemo, placesNow, saved } from './hands';

test('kill -9 of the browser loses at most the gesture in hand', async ({ baseURL }) => {
	const folder = mkdtempSync(join(tmpdir(), 'profile-'));
	const start = () =>
		chromium.launchPersistentContext(folder, {
			executablePath: CHROMIUM,
			args: [...CHROMIUM_ARGS, '--remote-debugging-port=0'],
			viewport: { width: 1280, height: 800 },
			baseURL
		});
	let context = await start();
	let page = await context.newPage();
	await openDemo(page, 'Control bars and a mask');
	const before = await saved(page);
	const bar = before.outlines.find((o) => o.name === 'Cross slot')!;
	const url = page.url();
	// Whichever way the view fits: the outline is entered from the rack, by keyboard.
	await page.keyboard.press('r');
	await page.getByRole('button', { name: /^Cross slot,/ }).click();
	await page.locator('[role=application]').focus();
	await page.keyboard.press('e');
	await page.keyboard.press('n');
	await page.keyboard.press('Shift+ArrowRight');
	await page.keyboard.press('Shift+ArrowRight');
	const kept = await saved(page);
	expect(kept.outlines.find((o) => o.id === bar.id)!.points[0]).toBe(bar.points[0] + 2);
	// A gesture in hand while the browser dies.
	await page.mouse.move(640, 360);
	await page.mouse.down();
	await page.mouse.move(700, 300, { steps: 3 });
	const { execFileSync } = await import('node:child_process');
	try {
		execFileSync('pkill', ['-9', '-f', folder]);
	} catch {
		// pkill also ends its own match; that is fine.
	}
	await context.close().catch(() => undefined);

	context = await start();
	page = await context.newPage();
	await page.goto(url);
	await expect(page.locator('canvas').first()).toBeVisible();
	const after = await saved(page);
	expect(after.outlines).toEqual(kept.outlines);
	expect(after.pointer).toBe(2);
	await page.keyboard.press('Control+z');
	await page.keyboard.press('Control+z');
	expect((await saved(page)).outlines).toEqual(before.outlines);
	await context.close();
});

test('full storage says so and offers the file', async ({ page }) => {
	await openDemo(page, 'Control bars and a mask');
	await page.evaluate(() => {
		const put = IDBObjectStore.prototype.put;
		IDBObjectStore.prototype.put = function (...args: Parameters<typeof put>) {
			if (this.name === 'steps') throw new DOMException('full', 'QuotaExceededError');
			return put.apply(this, args);
		};
	});
	await page.keyboard.press('Control+a');
	await page.keyboard.press('x');
	await expect(page.getByRole('alert').filter({ hasText: 'no room left' })).toBeVisible();
	const [download] = await Promise.all([
		page.waitForEvent('download'),
		page.getByRole('button', { name: 'Save the whole drawing as a file' }).click()
	]);
	expect(download.suggestedFilename()).toBe('Control bars and a mask.thread');
});

test('a second tab reads along, and can take over', async ({ page, context }) => {
	await openDemo(page, 'Control bars and a mask');
	const second = await context.newPage();
	await second.goto(page.url());
	await expect(second.getByRole('alert')).toContainText('being edited in another tab');
	await second.keyboard.press('Control+a');
	await second.keyboard.press('x');
	expect((await saved(second)).outlines).toHaveLength(12);
	await Promise.all([
		second.waitForEvent('load'),
		second.getByRole('button', { name: 'Take it over' }).click()
	]);
	await expect(second.locator('canvas').first()).toBeVisible();
	await expect(page.getByRole('alert')).toContainText('being edited in another tab');
	await expect(second.getByRole('alert')).toHaveCount(0);
	await second.keyboard.press('Control+a');
	await second.keyboard.press('x');
	expect((await saved(second)).outlines).toHaveLength(0);
});

test('touch: one finger edits, two move the paper, two taps enter', async ({ browser, baseURL }) => {
	const context = await browser.newContext({
		hasTouch: true,
		viewport: { width: 1280, height: 800 },
		baseURL
	});
	const page = await context.newPage();
	await openDemo(page, 'Control bars and a mask');
	const before = await saved(page);
	const slot = before.outlines.find((o) => o.name === 'Cross slot')!;
	await page.keyboard.press('r');
	await page.getByRole('button', { name: /^Cross slot,/ }).click();
	await page.keyboard.press('r');
	await page.locator('[role=application]').focus();
	await page.keyboard.press('e');
	const { scale, at: place } = await placesNow(page);
	const at = place(slot.points[0], slot.points[1]);
	const client = await context.newCDPSession(page);
	const touch = (type: 'touchStart' | 'touchMove' | 'touchEnd', points: { x: number; y: number }[]) =>
		client.send('Input.dispatchTouchEvent', { type, touchPoints: points });
	await touch('touchStart', [at]);
	await touch('touchMove', [{ x: at.x + 30, y: at.y }]);
	await touch('touchMove', [{ x: at.x + 53, y: at.y }]);
	await touch('touchEnd', []);
	const moved = (await saved(page)).outlines.find((o) => o.id === slot.id)!;
	expect(moved.points[0]).toBeCloseTo(slot.points[0] + 53 / scale, 1);
	await touch('touchStart', [
		{ x: 500, y: 300 },
		{ x: 700, y: 300 }
	]);
	await touch('touchMove', [
		{ x: 400, y: 300 },
		{ x: 800, y: 300 }
	]);
	await touch('touchEnd', []);
	expect((await saved(page)).pointer).toBe(1);
	await drag(page, { x: 60, y: 500 }, { x: 70, y: 520 });
	await context.close();
});
