/** The list of drawings: found, named, put on shelves, copied, thrown away and taken back, saved all together and brought in again. */
import { readFileSync } from 'node:fs';
import { expect, test, type Page } from '@playwright/test';
import { listen, saved } from './hands';

const cards = (page: Page) => page.getByRole('listitem').filter({ has: page.getByRole('link') });
const card = (page: Page, name: string) => cards(page).filter({ hasText: name });
async function list(page: Page): Promise<number> {
	await page.goto('/');
	await page.locator('[data-act=demo]').click();
	await expect(cards(page)).toHaveCount(7);
	await expect(page.locator('[data-act=save-all]')).toBeVisible();
	return cards(page).count();
}

test('named, put on a shelf, found by either, sorted; copied with its steps; a wrong name is left by Esc', async ({
	page
}) => {
	const troubles = listen(page);
	const count = await list(page);
	const bars = card(page, 'Control bars and a mask');
	await bars.getByRole('button', { name: /^Name and shelf/ }).click();
	await page.getByLabel('name', { exact: true }).fill('Never');
	await page.keyboard.press('Escape');
	await expect(bars).toBeVisible();
	await bars.getByRole('button', { name: /^Name and shelf/ }).click();
	await page.getByLabel('shelf', { exact: true }).fill('Spring tour');
	await page.keyboard.press('Enter');
	await expect(bars).toBeVisible();
	await page.getByRole('button', { name: 'by shelf' }).click();
	await expect(page.getByRole('heading', { name: 'Spring tour' })).toBeVisible();
	await expect(cards(page).first()).toContainText('Control bars and a mask');
	await page.getByRole('searchbox').fill('spring');
	await expect(cards(page)).toHaveCount(1);
	await page.getByRole('searchbox').fill('nothing like it');
	await expect(page.getByText('No drawing is called')).toBeVisible();
	await page.getByRole('searchbox').fill('');
	await bars.getByRole('button', { name: /^Copy/ }).click();
	await expect(cards(page)).toHaveCount(count + 1);
	const copy = card(page, 'Control bars and a mask, copy');
	await copy.getByRole('button', { name: /^Name and shelf/ }).click();
	await page.getByLabel('name', { exact: true }).fill('Bars for the small stage');
	await page.keyboard.press('Enter');
	await expect(card(page, 'Bars for the small stage')).toBeVisible();
	await card(page, 'Bars for the small stage').getByRole('link').click();
	await expect(page.locator('canvas').first()).toBeVisible();
	expect((await saved(page)).outlines).toHaveLength(12);
	expect((await saved(page)).name).toBe('Bars for the small stage');
	expect(troubles).toEqual([]);
});

test('thrown away, taken back at once and later; for good; gone for whoever opens it by its address', async ({
	page
}) => {
	const troubles = listen(page);
	const count = await list(page);
	const bars = card(page, 'Control bars and a mask');
	const address = await bars.getByRole('link').getAttribute('href');
	await bars.getByRole('button', { name: /^Throw away/ }).click();
	await expect(cards(page)).toHaveCount(count - 1);
	await page.locator('[data-act=take-back]').click();
	await expect(cards(page)).toHaveCount(count);
	await bars.getByRole('button', { name: /^Throw away/ }).click();
	await expect(page.getByText('Thrown away (1)')).toBeVisible();
	await page.reload();
	await page.getByText('Thrown away (1)').click();
	await page.getByRole('button', { name: 'Take Control bars and a mask back' }).click();
	await expect(cards(page)).toHaveCount(count);
	await bars.getByRole('link').click();
	await expect(page.locator('canvas').first()).toBeVisible();
	expect((await saved(page)).outlines).toHaveLength(12);
	await page.goto('/');
	await bars.getByRole('button', { name: /^Throw away/ }).click();
	await page.getByText('Thrown away (1)').click();
	await page.getByRole('button', { name: /for good$/ }).click();
	await expect(page.getByText('Thrown away (1)')).toHaveCount(0);
	await page.goto(address!);
	await expect(page.getByText('There is no such drawing')).toBeVisible();
	expect(troubles).toEqual([]);
});

test('all drawings as one file, brought in again: what is alike is left, what differs lies beside it, damaged ones are told', async ({
	page
}) => {
	const troubles = listen(page);
	const count = await list(page);
	const [download] = await Promise.all([
		page.waitForEvent('download'),
		page.locator('[data-act=save-all]').click()
	]);
	expect(download.suggestedFilename()).toMatch(/^Even Thread .*\.threads$/);
	const buffer = readFileSync(await download.path());
	const bring = (bytes: Buffer, name = 'all.threads') =>
		page.getByTestId('file-input').setInputFiles({ name, mimeType: 'application/zip', buffer: bytes });
	await bring(buffer);
	await expect(page.getByRole('status')).toContainText(`${count} were there already`);
	await expect(cards(page)).toHaveCount(count);
	// One is changed, one is thrown away for good.
	await card(page, 'Control bars and a mask').getByRole('link').click();
	await expect(page.locator('canvas').first()).toBeVisible();
	await page.keyboard.press('Control+a');
	await page.keyboard.press('x');
	expect((await saved(page)).outlines).toHaveLength(0);
	await page.goto('/');
	await card(page, 'Mask, three pictures')
		.getByRole('button', { name: /^Throw away/ })
		.click();
	await page.getByText('Thrown away (1)').click();
	await page.getByRole('button', { name: /for good$/ }).click();
	await bring(buffer);
	await expect(page.getByRole('status')).toContainText('1 brought in, 1 beside those that differ');
	await expect(card(page, 'Control bars and a mask, brought in')).toBeVisible();
	await expect(cards(page)).toHaveCount(count + 1);
	await bring(Buffer.from('no zip at all'));
	await expect(page.getByRole('alert')).toContainText('no file of drawings');
	expect(troubles).toEqual([]);
});

test('files that come together: lines and a picture become one drawing, drawings lie in the list, what cannot be read is told', async ({
	page
}) => {
	await page.goto('/');
	const file = (name: string, mimeType: string, bytes: string | Buffer) => ({
		name,
		mimeType,
		buffer: Buffer.from(bytes)
	});
	const fox = file('fox.jpg', 'image/jpeg', readFileSync('static/demo/fox-puppet.jpg'));
	const parts = file('parts.svg', 'image/svg+xml', readFileSync('static/demo/fox-parts.svg'));
	await page.getByTestId('file-input').setInputFiles([parts, fox]);
	await expect(page).toHaveURL(/drawing/);
	await expect.poll(async () => (await saved(page)).references.length).toBe(1);
	const { name, outlines } = await saved(page);
	expect(name).toBe('parts');
	expect(outlines.length).toBeGreaterThan(5);
	await page.goto('/');
	await expect(cards(page)).toHaveCount(1);
	const damaged = file('damaged.thread', 'application/zip', 'PK\u0003\u0004 and nothing more');
	await page.getByTestId('file-input').setInputFiles([damaged, parts]);
	await expect(page).toHaveURL(/drawing/);
	await expect(page.getByText('damaged.thread: ')).toBeVisible();
	await expect.poll(async () => (await saved(page)).outlines.length).toBe(outlines.length);
	// Nothing of it waits for another drawing.
	await page.goto('/');
	await expect(cards(page)).toHaveCount(2);
	await page.getByTestId('file-input').setInputFiles([damaged, damaged]);
	await expect(page.getByRole('alert')).toContainText('damaged.thread');
	await expect(cards(page)).toHaveCount(2);
});
