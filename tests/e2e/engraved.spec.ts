/** V grooves, tabs by keys, lines that are shared, and a machine's file looked at over the drawing. */
import { readFileSync, writeFileSync } from 'node:fs';
import { expect, test, type Page } from '@playwright/test';
import { readGcode } from '../../src/lib/core/formats/gcode-read';
import { lengthsOf, type Toolpath } from '../../src/lib/core/toolpath/moves';
import { command, listen, openDemo, pick } from './hands';

const planned = async (page: Page) => {
	await expect(page.locator('[data-fact=cuts]')).toBeVisible();
	await expect(page.locator('[data-act=write-machine]')).toBeEnabled();
};
async function machineFile(page: Page): Promise<string> {
	const [download] = await Promise.all([
		page.waitForEvent('download'),
		page.locator('[data-act=write-machine]').click()
	]);
	return readFileSync((await download.path())!, 'utf8');
}
async function openMachine(page: Page, machine: string, tool?: string): Promise<void> {
	await page.locator('[data-station=cut]').click();
	await page.locator('[data-command=machine]').click();
	await page.locator('[data-pick=machine]').selectOption(machine);
	if (tool) await page.locator('[data-pick=tool]').selectOption(tool);
}
const deepest = ({ kinds, to }: Toolpath) => kinds.reduce((z, _, i) => Math.min(z, to[3 * i + 2]), 0);

test('a V bit engraves the owl’s moon as deep as it is wide, and the preview shows it', async ({ page }) => {
	const troubles = listen(page);
	await openDemo(page, 'Owl, a rough old trace');
	await pick(page, 'Moon');
	await openMachine(page, 'router', 'vee-60');
	await command(page, 'v groove');
	await expect(page.locator('[data-job=Engrave]')).toBeVisible();
	await planned(page);
	const { moves, faults } = readGcode(await machineFile(page));
	expect(faults).toEqual([]);
	// The V of 6 mm and 60 degrees reaches 5.196 mm at most; the plywood lets it go 1.8 mm deep.
	expect(deepest(moves)).toBeCloseTo(-1.8, 3);
	// Its depth changes along the way: it rises into the corners.
	const heights = new Set(
		Array.from({ length: moves.kinds.length }, (_, i) => moves.to[3 * i + 2].toFixed(2))
	);
	expect(heights.size).toBeGreaterThan(20);
	await page.locator('[data-act=watch]').click();
	const slider = page.getByTestId('watch-slider');
	await slider.fill('200');
	const picture = async () =>
		(await page.screenshot({ clip: { x: 280, y: 60, width: 500, height: 450 } })).toString('base64');
	await expect(page.locator('[data-act=run]')).toHaveText('Run');
	const later = await picture();
	await slider.fill('10');
	await expect.poll(picture).not.toBe(later);
	expect(troubles).toEqual([]);
});

test('tabs are moved and taken away by keys', async ({ page }) => {
	await openDemo(page, 'Owl, a rough old trace');
	await openMachine(page, 'router');
	await page.locator('[data-act=make-jobs]').click();
	await planned(page);
	await page.locator('[data-group=tabs]').click();
	const tabs = page.locator('[data-tab]');
	const count = await tabs.count();
	const next = page.locator('[data-act=next-tab]');
	await next.focus();
	await page.keyboard.press('Enter');
	const first = readGcode(await machineFile(page));
	await next.focus();
	await page.keyboard.press('Shift+ArrowRight');
	await expect(page.locator('[data-fact=steps]')).toHaveText('2 steps');
	await planned(page);
	const moved = readGcode(await machineFile(page));
	expect(Array.from(moved.moves.to)).not.toEqual(Array.from(first.moves.to));
	await next.focus();
	await page.keyboard.press('Delete');
	await expect(tabs).toHaveCount(count - 1);
	await page.keyboard.press('Control+z');
	await expect(tabs).toHaveCount(count);
});

test('a machine file is laid over the drawing, compared, watched, and taken as outlines', async ({
	page
}, info) => {
	await openDemo(page, 'Owl, a rough old trace');
	await openMachine(page, 'laser');
	await page.locator('[data-act=make-jobs]').click();
	await planned(page);
	const text = await machineFile(page);
	const look = async (name: string, content: string) => {
		const path = info.outputPath(name);
		writeFileSync(path, content);
		const chosen = page.waitForEvent('filechooser');
		await command(page, 'look at a machine file');
		await (await chosen).setFiles(path);
		await expect(page.getByTestId('brought-facts')).toContainText(name);
	};
	await look('owl.nc', text);
	await expect(page.locator('[data-fact=apart]')).toHaveText('0 mm');
	await expect(page.getByTestId('brought-facts')).toContainText('every line is understood');
	await page.locator('[data-act=watch-file]').click();
	await expect(page.locator('[data-act=run]')).toHaveText('Stand');
	// Esc leaves one thing at a time: the preview, the file, the machine.
	await page.keyboard.press('Escape');
	await expect(page.locator('[data-act=watch-file]')).toBeVisible();
	await page.keyboard.press('Escape');
	await expect(page.locator('[data-act=write-machine]')).toBeVisible();

	// One that lies elsewhere, with a word that no machine knows.
	const shifted = text.replace(/X([\d.]+)/g, (_, x: string) => `X${(Number(x) + 0.5).toFixed(4)}`);
	await look('moved.nc', shifted.replace('G21', 'G21 Q7 %%'));
	await expect(page.getByTestId('brought-facts')).not.toContainText('every line is understood');
	await expect
		.poll(async () => Number((await page.locator('[data-fact=gouge]').innerText()) || 0))
		.toBeGreaterThan(0.3);
	const before = Number(/\d+/.exec(await page.locator('[data-fact=cuts]').innerText())![0]);
	await page.locator('[data-act=file-outlines]').click();
	await expect(page.locator('[data-fact=steps]')).toHaveText('2 steps');
	expect(before).toBeGreaterThan(1);
	expect(lengthsOf(readGcode(text).moves).cut).toBeGreaterThan(100);
});

test('what a tool and a sheet make of lines is mended: a tool that fits, a piece moved onto the sheet', async ({
	page
}) => {
	await openDemo(page, 'Control bars and a mask');
	await openMachine(page, 'router', 'flat-6');
	await page.locator('[data-act=make-jobs]').click();
	await expect(page.getByText('too wide for', { exact: false })).toBeVisible();
	await page.keyboard.press('Escape');
	/** Two faults are shown at a time: F goes on to the next until this mend is among them. */
	const mend = async (word: string) => {
		const button = page.getByRole('button', { name: word }).first();
		await page.locator('[data-station=mend]').click();
		await expect
			.poll(async () => {
				if (await button.isVisible()) return true;
				await page.keyboard.press('f');
				return false;
			})
			.toBe(true);
		await button.click();
	};
	await mend('Take a tool that fits');
	await expect(page.getByTestId('notice').filter({ hasText: 'The jobs take "Flat 3" now.' })).toBeVisible();
	// A sheet that is too low for what lies at its lower left: the mask is moved up onto it.
	await page.locator('[data-station=sheet]').click();
	await page.locator('[data-sheet="A4"]').click();
	const high = page.getByTestId('sheet').getByLabel('High');
	await high.fill('130');
	await page.keyboard.press('Enter');
	await mend('Move it onto the sheet');
	await page.locator('[data-fact=steps]').click();
	await expect(page.getByText('Move onto the sheet').first()).toBeVisible();
});
