/** Versions: kept by a key and by themselves, compared on the drawing and in words, gone back to; files on the desk written back. */
import { readFileSync } from 'node:fs';
import { expect, test, type Page } from '@playwright/test';
import { command, listen, openDemo, pick, saved } from './hands';

async function openSteps(page: Page): Promise<void> {
	if (!(await page.locator('#version-word').isVisible())) await page.locator('[data-fact=steps]').click();
	await expect(page.locator('#version-word')).toBeVisible();
}
async function keep(page: Page, word: string): Promise<void> {
	await page.locator('[role=application]').focus();
	await page.keyboard.press('Control+Shift+s');
	await expect(page.locator('#version-word')).toBeFocused();
	await page.keyboard.type(word);
	await page.keyboard.press('Enter');
	await expect(page.locator(`[data-version="${word}"]`)).toBeVisible();
	await page.locator('[data-fact=steps]').click();
}
/** Chooses one of a list by what its word begins with. */
async function choose(page: Page, name: string, word: string): Promise<void> {
	const list = page.locator(`[data-pick=${name}]`);
	const option = list.locator('option').filter({ hasText: word });
	await list.selectOption((await option.getAttribute('value'))!);
}

test('two states are compared: what was carried, what came and went, in words and on the drawing; gone back to and forth', async ({
	page
}) => {
	const troubles = listen(page);
	await openDemo(page, 'Control bars and a mask');
	await keep(page, 'as cut in May');
	const { outlines } = await saved(page);
	const [bar, gone] = [outlines[0], outlines.at(-1)!];
	await pick(page, bar.name);
	for (let k = 0; k < 3; k++) await page.keyboard.press('Shift+ArrowRight');
	await expect.poll(async () => (await saved(page)).outlines[0].points[0]).toBeCloseTo(bar.points[0] + 3, 9);
	await pick(page, gone.name);
	await page.keyboard.press('Delete');
	await expect.poll(async () => (await saved(page)).outlines.length).toBe(outlines.length - 1);
	await keep(page, 'with the bar moved');
	await command(page, 'compare versions');
	const words = page.getByRole('list', { name: 'What differs' });
	await expect(page.locator('[data-fact=differences]')).toHaveText('nothing differs');
	await choose(page, 'earlier', 'as cut in May');
	await expect(words).toContainText(`"${bar.name}" was carried 3 mm to the right`);
	await expect(words).toContainText(`"${gone.name}" went`);
	// The other way round it came.
	await choose(page, 'later', 'as cut in May');
	await choose(page, 'earlier', 'with the bar moved');
	await expect(words).toContainText(`"${gone.name}" came`);
	await words.getByText('came').click();
	await page.keyboard.press('Escape');
	await expect(words).toBeHidden();
	// Back to the first as one step; what was before it is kept by itself.
	await openSteps(page);
	await page.locator('[data-version="as cut in May"]').click();
	await page.getByRole('button', { name: 'go back to it' }).click();
	await expect.poll(async () => (await saved(page)).outlines.length).toBe(outlines.length);
	await openSteps(page);
	await expect(page.locator('[data-version^="before \\"Back to"]')).toBeVisible();
	await page.locator('[data-act=undo]').click();
	await expect.poll(async () => (await saved(page)).outlines.length).toBe(outlines.length - 1);
	expect(troubles).toEqual([]);
});

test('what is taken back and left behind by another step is kept by itself, so is what was before a large step', async ({
	page
}) => {
	await openDemo(page, 'Control bars and a mask');
	const { outlines } = await saved(page);
	await pick(page, outlines[0].name);
	await page.keyboard.press('Shift+ArrowUp');
	await page.keyboard.press('Shift+ArrowUp');
	await expect.poll(async () => (await saved(page)).pointer).toBe(2);
	await page.locator('[data-act=undo]').click();
	await page.locator('[data-act=undo]').click();
	await page.locator('[role=application]').focus();
	await page.keyboard.press('Shift+ArrowRight');
	await openSteps(page);
	await expect(page.locator('[data-version="2 steps that were taken back"]')).toBeVisible();
	await page.locator('[data-version="2 steps that were taken back"]').click();
	await page.locator('[data-act=compare]').click();
	const words = page.getByRole('list', { name: 'What differs' });
	await expect(words).toContainText('1 mm to the right and 2 mm down');
	await page.locator('[data-act=go-back]').click();
	await expect
		.poll(async () => (await saved(page)).outlines[0].points[1])
		.toBeCloseTo(outlines[0].points[1] + 2, 9);
});

test('a file opened from the desk is written back into the same file', async ({ page }) => {
	const troubles = listen(page);
	await page.goto('/');
	// A file of the browser's own file system stands for one on the desk: the dialog of the system cannot be pressed by a test.
	await page.evaluate(
		async (text) => {
			const root = await navigator.storage.getDirectory();
			const handle = await root.getFileHandle('parts.svg', { create: true });
			const writable = await handle.createWritable();
			await writable.write(text);
			await writable.close();
			Object.assign(window, { showOpenFilePicker: () => Promise.resolve([handle]) });
		},
		readFileSync('static/demo/fox-parts.svg', 'utf8')
	);
	await page.locator('[data-act=open]').click();
	await expect(page).toHaveURL(/drawing/);
	await expect.poll(async () => (await saved(page)).outlines.length).toBeGreaterThan(5);
	const { outlines } = await saved(page);
	await page.locator('[role=application]').focus();
	await page.keyboard.press('Control+a');
	await page.keyboard.press('Shift+ArrowRight');
	await expect
		.poll(async () => (await saved(page)).outlines[0].points[0])
		.toBeCloseTo(outlines[0].points[0] + 1, 9);
	const onDesk = () =>
		page.evaluate(async () => {
			const root = await navigator.storage.getDirectory();
			// While another takes its place a file cannot be read for a moment.
			for (let tries = 0; ; tries++) {
				try {
					return await (await (await root.getFileHandle('parts.svg')).getFile()).text();
				} catch (error) {
					if (tries === 100) throw error;
					await new Promise(requestAnimationFrame);
				}
			}
		});
	const before = await onDesk();
	await page.keyboard.press('Control+s');
	await expect.poll(onDesk).not.toBe(before);
	await expect(page.getByText('Written to "parts.svg"')).toBeVisible();
	// It is remembered beyond the page.
	await page.reload();
	await expect(page.locator('canvas').first()).toBeVisible();
	const written = await onDesk();
	await page.locator('[role=application]').focus();
	await page.keyboard.press('Control+a');
	await page.keyboard.press('Shift+ArrowUp');
	await expect
		.poll(async () => (await saved(page)).outlines[0].points[1])
		.toBeCloseTo(outlines[0].points[1] + 1, 9);
	await page.keyboard.press('Control+s');
	await expect.poll(onDesk).not.toBe(written);
	expect(troubles).toEqual([]);
});
