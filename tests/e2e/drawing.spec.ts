/** A line being drawn is never lost: undo, Esc, other tools, leaving. */
import { expect, test, type Page } from '@playwright/test';
import { newDrawing, saved } from './hands';

/** Begins a line with so many clicks on free paper. */
async function clicks(page: Page, count: number, lower = 0): Promise<void> {
	await page.locator('[role=application]').focus();
	await page.keyboard.press('l');
	await expect(page.locator('[data-act=pen-away]')).toBeVisible();
	for (let k = 0; k < count; k++) await page.mouse.click(300 + 60 * k, 200 + lower + 90 * (k % 2));
}
const anchors = async (page: Page) => (await saved(page)).outlines.map((o) => o.anchors.length);

test('undo takes the last anchor back, redo gives it again, Esc ends the line as it is, a second one leaves', async ({
	page
}) => {
	await newDrawing(page);
	await clicks(page, 6);
	await page.keyboard.press('Control+z');
	await page.keyboard.press('Control+z');
	await page.keyboard.press('Control+z');
	await page.keyboard.press('Control+Shift+z');
	expect((await saved(page)).pointer).toBe(0);
	await page.keyboard.press('Escape');
	expect(await anchors(page)).toEqual([4]);
	await expect(page.locator('[data-act=pen-away]')).toBeVisible();
	await page.keyboard.press('Escape');
	await expect(page.locator('[data-act=pen-away]')).toHaveCount(0);
	await page.keyboard.press('Control+z');
	expect(await anchors(page)).toEqual([]);
});

test('another shape, another station, the way back to the list: the line is kept', async ({ page }) => {
	await newDrawing(page);
	await clicks(page, 3);
	await page.locator('[data-choice=circle]').click();
	expect(await anchors(page)).toEqual([3]);
	await page.keyboard.press('Escape');
	await clicks(page, 4, 150);
	await page.getByRole('button', { name: /^Mend/ }).click();
	expect(await anchors(page)).toEqual([3, 4]);
	await clicks(page, 5, 300);
	const url = page.url();
	await page.getByRole('link', { name: 'drawings' }).click();
	await expect(page.locator('h1')).toBeVisible();
	await page.goto(url);
	expect(await anchors(page)).toEqual([3, 4, 5]);
});

test('a redrawn stroke is taken back with the pen still out', async ({ page }) => {
	await newDrawing(page);
	await clicks(page, 2);
	await page.keyboard.press('Escape');
	await page.keyboard.press('Escape');
	const before = (await saved(page)).outlines[0].points;
	await page.keyboard.press('Shift+d');
	await expect(page.locator('[data-act=pen-away]')).toBeVisible();
	await page.mouse.move(312, 218);
	await page.mouse.down();
	await page.mouse.move(352, 218, { steps: 6 });
	await page.mouse.move(348, 272, { steps: 6 });
	await page.mouse.up();
	expect((await saved(page)).pointer).toBe(2);
	await page.keyboard.press('Control+z');
	expect((await saved(page)).outlines[0].points).toEqual(before);
	await expect(page.locator('[data-act=pen-away]')).toBeVisible();
});
