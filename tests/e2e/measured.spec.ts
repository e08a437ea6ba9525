/** What was cut, measured: a scan laid on its drawing; narrow places; the workshop's own machines; files of machines opened. */
import { readFileSync } from 'node:fs';
import { expect, test } from '@playwright/test';
import { fitAll, listen, newDrawing, openDemo, saved } from './hands';

test('a cut piece that was scanned is laid on its drawing and tells the true kerf', async ({ page }) => {
	const troubles = listen(page);
	await openDemo(page, 'Cross bar, cut and scanned');
	await page.keyboard.press('t');
	await expect(page.locator('[data-act=keep]')).toBeEnabled();
	await page.keyboard.press('Enter');
	await expect(page.locator('[data-station=trace]')).toContainText('8 outlines');
	await page.keyboard.press('Escape');
	await page.keyboard.press('Control+a');
	await page.keyboard.press('/');
	await page.locator('[data-field=find]').fill('lay a scan');
	await page.keyboard.press('Enter');
	// It was cut with 0.15 mm taken off, and the beam took 0.23.
	await expect(page.locator('[data-fact=kerf]')).toHaveText(/0\.2[1-5]/);
	expect(Math.abs(Number(await page.locator('[data-fact=kerf]').innerText()) - 0.23)).toBeLessThan(0.02);
	expect(Number(await page.locator('[data-fact=larger]').innerText())).toBeGreaterThan(0.03);
	await page.locator('[data-act=take-kerf]').click();
	await expect(page.getByTestId('notice').filter({ hasText: 'The kerf is 0.2' })).toBeVisible();
	await expect(page.locator('[data-act=keep]')).toBeEnabled();
	await page.locator('[data-act=keep]').click();
	const { outlines } = await saved(page);
	// It was traced right of 85 mm, and lies over the drawn bar now, which is 62 mm long.
	const xs = outlines
		.filter((o) => /^cut-bar/.test(o.name))
		.flatMap((o) => o.points.filter((_, i) => i % 7 === 0));
	expect(Math.min(...xs)).toBeGreaterThan(3);
	expect(Math.max(...xs)).toBeLessThan(67.5);
	// The machine reckons with it from now on.
	await page.locator('[data-station=cut]').click();
	await page.locator('[data-command=machine]').click();
	await page.locator('[data-act=workshop]').click();
	await page.locator('[data-had=tools]').click();
	await page.locator('[data-one="Beam 0.15"]').click();
	await expect(page.getByTestId('workshop').getByLabel('Kerf')).toHaveValue(/^0\.2[1-5]/);
	expect(troubles).toEqual([]);
});

test('a test piece is laid beside the drawing, and its measured fits tell kerf, play and squareness', async ({
	page
}) => {
	await openDemo(page, 'Cross bar, cut and scanned');
	const find = async (words: string) => {
		await page.keyboard.press('/');
		await page.locator('[data-field=find]').fill(words);
		await page.keyboard.press('Enter');
	};
	await find('test piece');
	await expect(page.locator('[data-station=trace]')).toContainText('27 outlines');
	await find('measured fits');
	const type = async (label: string, value: string) => {
		await page.locator('.tray').getByLabel(label, { exact: true }).fill(value);
		await page.keyboard.press('Enter');
	};
	await type('bar 10', '9.93 mm');
	await type('bar 20', '19.93 mm');
	await expect(page.locator('[data-fact=kerf]')).toHaveText('0.22');
	await page.locator('[data-pick=slit]').selectOption('3');
	await expect(page.locator('[data-fact=play]')).toHaveText('0.07');
	await type('diagonal ↗', '56.8');
	await type('diagonal ↖', '56.4');
	// asin((56.8^2 - 56.4^2) / (56.8^2 + 56.4^2)), by hand.
	await expect(page.locator('[data-fact=off-square]')).toHaveText('0.4');
	await page.locator('[data-act=take-kerf]').click();
	await expect(
		page.getByTestId('notice').filter({ hasText: 'The kerf is 0.22 mm now, for 1 tool' })
	).toBeVisible();
	// The material keeps the play, the machine its squareness.
	await page.locator('[data-act=take-play]').click();
	await expect(page.getByTestId('notice').filter({ hasText: 'keeps a play of' })).toBeVisible();
	await page.locator('[data-act=take-square]').click();
	await expect(page.getByTestId('notice').filter({ hasText: 'off square: what it is told' })).toBeVisible();
	await page.keyboard.press('Escape');
	await page.keyboard.press('Control+z');
	await expect(page.locator('[data-station=trace]')).toContainText('4 outlines');
});

test('the narrowest neck and gap stand on the tag, and a press goes there', async ({ page }) => {
	await openDemo(page, 'Control bars and a mask');
	await fitAll(page);
	await page.keyboard.press('r');
	await page.getByRole('button', { name: /^Long bar, \d/ }).click();
	await page.keyboard.press('r');
	// There is no room for all of the tag here; it opens at a press.
	await page.locator('[data-act=open-tag]').click();
	// Between the slot and the edge of the bar: 4 mm.
	const neck = page.locator('.tag [data-fact=neck]');
	await expect(neck).toHaveText('4 mm');
	await neck.click();
	await expect(neck).toBeVisible();
});

test('a machine of one’s own, its words checked by our reader; the workshop goes to a file and comes back', async ({
	page
}) => {
	await newDrawing(page);
	await page.keyboard.press('/');
	await page.locator('[data-field=find]').fill('workshop');
	await page.keyboard.press('Enter');
	await page.getByTestId('workshop').waitFor();
	await page.locator('[data-act=copy-one]').click();
	await page.getByTestId('workshop').getByLabel('Name').fill('Old laser');
	await page.keyboard.press('Enter');
	await expect(page.locator('[data-one="Old laser"]')).toBeVisible();
	await page.locator('[data-word=start]').fill('G21 G90 G17\nnonsense');
	await page.locator('[data-word=start]').blur();
	await expect(page.getByTestId('example-told')).toHaveText('Line 2: "NONSENSE" is not understood.');
	await page.locator('[data-word=start]').fill('G21 G90 G17\nM8');
	await page.locator('[data-word=start]').blur();
	await expect(page.getByTestId('example-told')).toContainText('understands all of it');
	const [download] = await Promise.all([
		page.waitForEvent('download'),
		page.locator('[data-act=write-workshop]').click()
	]);
	const text = readFileSync((await download.path())!, 'utf8');
	expect(text).toContain('Old laser');
	await page.locator('[data-act=remove-one]').click();
	await expect(page.locator('[data-one="Old laser"]')).toBeHidden();
	await page
		.getByTestId('workshop-file')
		.setInputFiles({ name: 'w.json', mimeType: 'application/json', buffer: Buffer.from(text) });
	await expect(page.locator('[data-one="Old laser"]')).toBeVisible();
	await page
		.getByTestId('workshop-file')
		.setInputFiles({ name: 'w.json', mimeType: 'application/json', buffer: Buffer.from('{}') });
	await expect(page.getByTestId('workshop-told')).toContainText('is no workshop');
	// It is there the next time.
	await page.reload();
	await page.locator('canvas').first().waitFor();
	await page.keyboard.press('/');
	await page.locator('[data-field=find]').fill('workshop');
	await page.keyboard.press('Enter');
	await expect(page.locator('[data-one="Old laser"]')).toBeVisible();
});

test('G-code and HP-GL open as outlines, what is not understood is told', async ({ page }) => {
	await newDrawing(page);
	const gcode =
		'G21 G90 G17\nM3 S500\nG0 X10 Y10\nG1 X60 F900\nG3 X70 Y20 J10\nG1 Y50\nX10\nY10\nM5\nflip\nM30\n';
	await page
		.getByTestId('file-input')
		.setInputFiles({ name: 'bar.nc', mimeType: 'text/plain', buffer: Buffer.from(gcode) });
	await expect(page.locator('[data-station=trace]')).toContainText('1 outline');
	await expect(page.getByText('Line 10: "FLIP" is not understood.').first()).toBeVisible();
	await page.getByTestId('file-input').setInputFiles({
		name: 'bar.plt',
		mimeType: 'text/plain',
		buffer: Buffer.from('IN;SP1;PU4000,400;PD6000,400,6000,2000,4000,2000,4000,400;PU;')
	});
	await expect(page.locator('[data-station=trace]')).toContainText('2 outlines');
	const { outlines } = await saved(page);
	expect(outlines.map((o) => o.closed)).toEqual([true, true]);
	// On the sheet an outline that lies off it is a knot, and is moved back under the hand.
	await page.locator('[data-station=sheet]').click();
	await page.locator('[data-sheet=A4]').click();
	await expect(page.locator('[data-station=mend]')).toContainText('Nothing to mend');
	await fitAll(page);
});
