/** Nothing is lost: a killed browser, full storage, a second tab. */
import { expect, test, type Page } from '@playwright/test';
import { drag, openDemo, pick, placesNow, saved } from './hands';
import { begin, kill, newFolder } from './killed';

test('kill -9 of the browser loses at most the gesture in hand', async ({ baseURL }) => {
	const folder = newFolder();
	let context = await begin(folder, baseURL);
	let page = await context.newPage();
	await openDemo(page, 'Control bars and a mask');
	const before = await saved(page);
	const bar = before.outlines.find((o) => o.name === 'Cross slot')!;
	const url = page.url();
	// Whichever way the view fits: the outline is entered from the rack, by keyboard.
	await pick(page, 'Cross slot');
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
	await kill(folder, context);

	context = await begin(folder, baseURL);
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

/** What this page does not get into the database from now on, until it is let. */
const refuseWrites = (page: Page, refused: boolean) =>
	page.evaluate((refused) => {
		const all = window as unknown as { plainPut?: IDBObjectStore['put'] };
		all.plainPut ??= IDBObjectStore.prototype.put;
		const { plainPut } = all;
		IDBObjectStore.prototype.put = refused
			? function (this: IDBObjectStore, ...args: Parameters<typeof plainPut>) {
					if (this.name === 'steps') throw new DOMException('full', 'QuotaExceededError');
					return plainPut.apply(this, args);
				}
			: plainPut;
	}, refused);

test('full storage says so, offers the file, and writes everything in order once there is room', async ({
	page
}) => {
	await openDemo(page, 'Control bars and a mask');
	const before = await saved(page);
	await refuseWrites(page, true);
	await page.keyboard.press('Control+a');
	await page.keyboard.press('x');
	await expect(page.getByRole('alert').filter({ hasText: 'no room left' })).toBeVisible();
	await page.keyboard.press('Control+z');
	await page.keyboard.press('Control+a');
	await page.keyboard.press('x');
	await expect(page.locator('[data-fact=saved]')).toContainText('3 not saved');
	const [download] = await Promise.all([
		page.waitForEvent('download'),
		page.getByRole('button', { name: 'Save the whole drawing as a file' }).click()
	]);
	expect(download.suggestedFilename()).toBe('Control bars and a mask.thread');
	await refuseWrites(page, false);
	await page.locator('[data-act=retry]').click();
	const after = await saved(page);
	expect([after.outlines.length, after.pointer]).toEqual([0, 1]);
	await page.reload();
	await expect(page.locator('[data-act=undo]')).toBeEnabled();
	await page.keyboard.press('Control+z');
	expect((await saved(page)).outlines).toEqual(before.outlines);
});

test('a drawing thrown away in the list while a tab edits it is kept there as a copy', async ({
	page,
	context
}) => {
	await openDemo(page, 'Control bars and a mask');
	const url = page.url();
	const list = await context.newPage();
	await list.goto('/');
	const entry = list.getByRole('listitem').filter({ hasText: 'Control bars and a mask' });
	await entry.getByRole('button', { name: /throw away/i }).click();
	await expect(entry).toHaveCount(0);
	await page.keyboard.press('Control+a');
	await page.keyboard.press('x');
	await expect(page.getByRole('log')).toContainText('kept as');
	expect(page.url()).not.toBe(url);
	expect((await saved(page)).pointer).toBe(1);
	await page.reload();
	await expect(page.locator('[data-act=undo]')).toBeEnabled();
	await page.keyboard.press('Control+z');
	expect((await saved(page)).outlines).toHaveLength(12);
});

test('a second tab reads along, takes over what is all written, and goes on when the first is closed', async ({
	page,
	context
}) => {
	await openDemo(page, 'Control bars and a mask');
	const second = await context.newPage();
	await second.goto(page.url());
	await expect(second.getByRole('alert')).toContainText('being edited in another tab');
	await second.keyboard.press('Control+a');
	await second.keyboard.press('x');
	expect((await saved(second)).outlines).toHaveLength(12);
	// It reads along: steps done there are seen here.
	await page.bringToFront();
	await page.keyboard.press('Control+a');
	await page.keyboard.press('x');
	await expect(second.locator('[data-fact=steps]')).toHaveText('1 step');
	await page.keyboard.press('Control+z');
	await expect(page.locator('[data-fact=steps]')).toHaveText('0 steps');
	await second.bringToFront();
	await second.locator('[data-act=take-over]').click();
	await expect(second.getByRole('alert')).toHaveCount(0);
	await expect(page.getByRole('alert')).toContainText('being edited in another tab');
	await second.keyboard.press('Control+a');
	await second.keyboard.press('x');
	expect((await saved(second)).outlines).toHaveLength(0);
	await expect(page.locator('[data-fact=steps]')).toHaveText('1 step');
	// The tab that edits is closed: the other one goes on by itself.
	await second.close();
	await expect(page.getByRole('alert')).toHaveCount(0);
	await page.bringToFront();
	await page.keyboard.press('Control+z');
	expect((await saved(page)).outlines).toHaveLength(12);
});

test('what cannot be written is not taken over unsaid', async ({ page, context }) => {
	await openDemo(page, 'Control bars and a mask');
	const second = await context.newPage();
	await second.goto(page.url());
	await expect(second.getByRole('alert')).toContainText('being edited in another tab');
	await refuseWrites(page, true);
	await page.bringToFront();
	await page.keyboard.press('Control+a');
	await page.keyboard.press('x');
	await expect(page.locator('[data-fact=saved]')).toContainText('1 not saved');
	await second.bringToFront();
	await second.locator('[data-act=take-over]').click();
	await expect(second.getByRole('alert')).toContainText('1 step that it cannot write');
	await second.locator('[data-act=take-now]').click();
	await expect(second.getByRole('alert')).toHaveCount(0);
	await second.keyboard.press('Control+a');
	await second.keyboard.press('x');
	await saved(second);
	// What the first tab could not write becomes a drawing of its own.
	await refuseWrites(page, false);
	await page.bringToFront();
	// It tries again by itself too: whichever comes first.
	const retry = page.locator('[data-act=retry]');
	const log = page.getByRole('log');
	await expect(retry.or(log.filter({ hasText: 'kept as' })).first()).toBeVisible();
	await retry.evaluateAll((list) => (list[0] as HTMLElement | undefined)?.click());
	await expect(log).toContainText('kept as');
	expect((await saved(page)).pointer).toBe(1);
	expect(page.url()).not.toBe(second.url());
});

test('a version is kept under a word, opened beside, and gone back to as one step', async ({
	page,
	context
}) => {
	await openDemo(page, 'Control bars and a mask');
	const before = await saved(page);
	await page.locator('[data-fact=steps]').click();
	await page.getByPlaceholder('keep it as it is').fill('with all twelve');
	await page.locator('[data-act=keep-version]').click();
	const version = page.locator('[data-version="with all twelve"]');
	await expect(version).toBeVisible();
	await page.locator('[role=application]').focus();
	await page.keyboard.press('Control+a');
	await page.keyboard.press('x');
	expect((await saved(page)).outlines).toHaveLength(0);
	const [beside] = await Promise.all([
		context.waitForEvent('page'),
		page.getByRole('button', { name: 'open beside' }).click()
	]);
	await expect(beside.locator('canvas').first()).toBeVisible();
	expect((await saved(beside)).outlines).toHaveLength(12);
	await page.getByRole('button', { name: 'go back to it' }).click();
	expect((await saved(page)).outlines).toEqual(before.outlines);
	await page.keyboard.press('Control+z');
	expect((await saved(page)).outlines).toHaveLength(0);
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
	await pick(page, 'Cross slot');
	await page.keyboard.press('e');
	const { scale, at: place } = await placesNow(page);
	const at = place(slot.points[0], slot.points[1]);
	const client = await context.newCDPSession(page);
	const touch = (type: 'touchStart' | 'touchMove' | 'touchEnd', points: { x: number; y: number }[]) =>
		client.send('Input.dispatchTouchEvent', { type, touchPoints: points });
	// On a machine that stands still in between, the finger rests and opens the menu: then it is put there again.
	await expect(async () => {
		if (await page.getByTestId('near-menu').isVisible()) await page.keyboard.press('Escape');
		await touch('touchStart', [at]);
		await touch('touchMove', [{ x: at.x + 30, y: at.y }]);
		await touch('touchMove', [{ x: at.x + 53, y: at.y }]);
		await touch('touchEnd', []);
		expect((await saved(page)).pointer).toBe(1);
	}).toPass();
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

test('storage that becomes scarce is told early, with the way out at hand; what can be freed is freed by hand', async ({
	page
}) => {
	await page.addInitScript(() => {
		navigator.storage.estimate = () => Promise.resolve({ usage: 900e6, quota: 1000e6 });
	});
	await openDemo(page, 'Control bars and a mask');
	await expect(page.getByTestId('notice')).toContainText('90 % full');
	await expect(page.locator('[data-act="save this drawing as a file"]')).toBeVisible();
	await page.locator('[role=application]').focus();
	await page.keyboard.press('Control+a');
	await page.keyboard.press('Shift+ArrowRight');
	await expect.poll(async () => (await saved(page)).pointer).toBe(1);
	await page.keyboard.press('Control+z');
	await page.keyboard.press('Shift+ArrowUp');
	await page.locator('[data-fact=steps]').click();
	await expect(page.locator('[data-version^="1 step"]').first()).toBeVisible();
	await page.locator('[data-fact=steps]').click();
	await page.locator('[data-act=settings]').click();
	await expect(page.getByTestId('storage')).toContainText('It becomes scarce');
	await page.locator('[data-act=free-versions]').click();
	await expect(page.locator('[data-fact=storage-told]')).toContainText('named ones stay');
	await expect(page.locator('[data-act=free-versions]')).toHaveCount(0);
});
