/** The browser is killed in the middle of the work, again and again: what was shown as saved is there, and the history is whole. */
import { execFileSync } from 'node:child_process';
import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { chromium, expect, test } from '@playwright/test';
import { CHROMIUM, CHROMIUM_ARGS } from '../../playwright.config';
import { chance } from '../shapes';
import { openDemo, saved } from './hands';

/** A few in every run of the tests; two hundred by `npm run kills`. */
const KILLS = Number(process.env.KILLS ?? 3);

test('kills at random moments lose at most the gesture in hand', async ({ baseURL }) => {
	test.setTimeout(60_000 * Math.max(5, KILLS));
	const folder = mkdtempSync(join(tmpdir(), 'kills-'));
	const random = chance(KILLS);
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
	const url = page.url();
	const first = await saved(page);
	let lost = 0;
	for (let kill = 0; kill < KILLS; kill++) {
		await page.locator('[role=application]').focus();
		const before = (await saved(page)).pointer;
		let shown = before;
		const presses = 1 + Math.floor(12 * random());
		for (let k = 0; k < presses; k++) {
			await page.keyboard.press('Control+a');
			await page.keyboard.press(k % 2 ? 'Control+z' : 'x');
			if (k % 2) await page.keyboard.press('Control+Shift+z');
			await page.keyboard.press('Control+z');
			// A step that cannot be taken back by the next one: the name changes.
			await page.getByLabel('Name of the drawing').fill(`Bars ${kill} ${k}`);
			await page.keyboard.press('Enter');
			const [state, steps] = await Promise.all([
				page.locator('[data-fact=saved]').innerText(),
				page.locator('[data-fact=steps]').innerText()
			]);
			if (state === 'saved') shown = parseInt(steps);
		}
		try {
			execFileSync('pkill', ['-9', '-f', folder]);
		} catch {
			// It also ends its own match.
		}
		await context.close().catch(() => undefined);
		context = await start();
		page = await context.newPage();
		await page.goto(url);
		await expect(page.locator('canvas').first()).toBeVisible();
		const after = await saved(page);
		await expect(page.getByRole('log')).not.toContainText('did not fit');
		if (after.pointer < shown) lost++;
		// The history goes back to the start and on to the end.
		await page.locator('[data-fact=steps]').click();
		await page.getByRole('button', { name: 'as it was opened' }).click();
		expect((await saved(page)).outlines).toEqual(first.outlines);
		await page.locator('ol button.word').last().click();
		await saved(page);
		await page.locator('[data-fact=steps]').click();
	}
	await context.close();
	rmSync(folder, { recursive: true, force: true });
	expect(lost).toBe(0);
});
