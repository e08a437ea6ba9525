/** By keys alone: a pointer that draws, picks, drags and boxes; keys that are changed and switched off; what happened is spoken. */
import { expect, test, type Page } from '@playwright/test';
import { listen, newDrawing, openDemo, saved } from './hands';

const pointer = (page: Page) => page.locator('[data-fact=key-pointer]');
async function goTo(page: Page, place: string): Promise<void> {
	await page.keyboard.press('=');
	await expect(page.getByLabel('right, up')).toBeFocused();
	await page.keyboard.type(place);
	await page.keyboard.press('Enter');
	await expect(page.getByLabel('right, up')).toHaveCount(0);
}

test('a line, a shape, a box, an anchor dragged, all with a pointer that is moved by keys', async ({
	page
}) => {
	const troubles = listen(page);
	await newDrawing(page);
	await page.locator('[role=application]').focus();
	await page.keyboard.press('Control+.');
	await expect(page.getByTestId('key-pointer')).toBeVisible();
	await page.keyboard.press('l');
	for (const place of ['0, 0', '60, 0', '60, 40']) {
		await goTo(page, place);
		await page.keyboard.press('Space');
	}
	// Back to the start by catching on it, where it closes.
	await goTo(page, '1, 1');
	await goTo(page, '0, 0');
	await page.keyboard.press('Space');
	await expect.poll(async () => (await saved(page)).outlines.length).toBe(1);
	const [triangle] = (await saved(page)).outlines;
	expect(triangle.closed).toBe(true);
	expect([triangle.points[7], triangle.points[14], triangle.points[15]]).toEqual([60, 60, 40]);
	await page.keyboard.press('Escape');
	// A box round it picks it; Enter goes in.
	await page.keyboard.press('Escape');
	await page.keyboard.press('Control+.');
	await goTo(page, '-5, -5');
	await page.keyboard.press('Shift+Space');
	await expect(pointer(page)).toContainText('held');
	await goTo(page, '70, 50');
	await page.keyboard.press('Space');
	await expect(page.locator('.tag')).toBeVisible();
	await page.keyboard.press('Enter');
	// The corner is caught on, held and carried.
	await goTo(page, '58, 20');
	await page.keyboard.press('Control+ArrowUp');
	await expect(pointer(page)).toContainText('60 mm right, 40 mm up');
	await page.keyboard.press('Shift+Space');
	await goTo(page, '+5, +10');
	await page.keyboard.press('Space');
	await expect.poll(async () => (await saved(page)).outlines[0].points.slice(14, 16)).toEqual([65, 50]);
	// Steps by arrows, and out again.
	await page.keyboard.press('ArrowRight');
	await page.keyboard.press('Escape');
	await expect(page.getByTestId('key-pointer')).toHaveCount(0);
	expect(troubles).toEqual([]);
});

test('a key is changed, told where it is used, and stays; letters alone are switched off, the finder still opens', async ({
	page
}) => {
	await openDemo(page, 'Control bars and a mask');
	await page.locator('[role=application]').focus();
	await page.keyboard.press('Shift+k');
	await page.locator('[data-field=find-key]').fill('rack');
	await page.locator('[data-key=rack]').click();
	await page.keyboard.press('Alt+g');
	await expect(page.locator('[data-fact=key-told]')).toContainText('Rack has Alt + G now.');
	await page.locator('[data-field=find-key]').fill('simplify');
	await page.locator('[data-key=simplify]').click();
	await page.keyboard.press('r');
	await expect(page.locator('[data-key=simplify]')).toHaveText('R');
	await page.keyboard.press('Escape');
	await expect(page.getByRole('dialog')).toHaveCount(0);
	await page.locator('[role=application]').focus();
	await page.keyboard.press('Alt+g');
	await expect(page.locator('[data-act=find-on-rack]')).toBeVisible();
	await page.reload();
	await expect(page.locator('canvas').first()).toBeVisible();
	await page.locator('[role=application]').focus();
	await page.keyboard.press('Control+a');
	await page.keyboard.press('r');
	await expect(page.locator('[data-act=keep]')).toBeVisible();
	await page.keyboard.press('Escape');
	await page.keyboard.press('Shift+k');
	await page.locator('[data-act=single-keys]').click();
	await page.keyboard.press('Escape');
	await expect(page.getByRole('dialog')).toHaveCount(0);
	await page.locator('[role=application]').focus();
	await page.keyboard.press('l');
	await page.keyboard.press('/');
	await expect(page.getByTestId('finder')).toHaveCount(0);
	await page.keyboard.press('Control+k');
	await expect(page.getByTestId('finder')).toBeVisible();
});
