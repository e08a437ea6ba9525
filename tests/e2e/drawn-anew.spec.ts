/** Only what changed is drawn anew: whatever was done, the paper is pixel for pixel what drawing all of it gives. */
import { expect, test, type Page } from '@playwright/test';
import { command, listen, openDemo, pick, saved } from './hands';

/** How the paper is drawn just now, kept under a name; against what is kept under another, the most that any pixel's tone is off. */
const paper = (page: Page, keep: string, against = keep) =>
	page.evaluate(
		([keep, against]) =>
			new Promise<number>((done) =>
				requestAnimationFrame(() =>
					requestAnimationFrame(() => {
						const canvas = document.querySelector('canvas')!;
						const { data } = canvas.getContext('2d')!.getImageData(0, 0, canvas.width, canvas.height);
						const kept = ((window as { kept?: Record<string, Uint8ClampedArray> }).kept ??= {});
						const other = kept[against];
						kept[keep] = data;
						let most = 0;
						if (other) data.forEach((tone, i) => (most = Math.max(most, Math.abs(tone - other[i]))));
						done(other?.length === data.length ? most : 255);
					})
				)
			),
		[keep, against]
	);

/** Tones that a picture under the lines may be off by, where it is drawn again in part; a line that is missing is off by more than 100. */
const HARDLY = 12;

/** All of it drawn again: what changes everywhere changes, and changes back. */
async function drawWhole(page: Page): Promise<void> {
	await command(page, 'filled');
	await expect.poll(() => paper(page, 'filled', 'patched')).toBeGreaterThan(HARDLY);
	await command(page, 'filled');
	await expect.poll(() => paper(page, 'whole', 'filled')).toBeGreaterThan(HARDLY);
}

for (const demo of ['Control bars and a mask', 'Owl, a rough old trace'])
	test(`${demo}: moved, taken back, thrown away, entered, hidden`, async ({ page }) => {
		const troubles = listen(page);
		await openDemo(page, demo);
		const { outlines } = await saved(page);
		await paper(page, 'start');
		const [first] = outlines;
		await pick(page, first.name);
		const steps: [string, () => Promise<void>][] = [
			[
				'moved by arrows',
				async () => {
					for (let k = 0; k < 3; k++) await page.keyboard.press('Shift+ArrowRight');
				}
			],
			['one taken back', () => page.keyboard.press('Control+z')],
			['put away from the selection', () => page.keyboard.press('Escape')],
			[
				'entered',
				async () => {
					await pick(page, first.name);
					await page.keyboard.press('Enter');
				}
			],
			[
				'an anchor moved',
				async () => {
					await page.keyboard.press('n');
					await page.keyboard.press('Shift+ArrowDown');
				}
			],
			[
				'left',
				async () => {
					await page.keyboard.press('Escape');
					await page.keyboard.press('Escape');
				}
			],
			[
				'thrown away',
				async () => {
					await pick(page, first.name);
					await page.keyboard.press('Delete');
				}
			],
			['back again', () => page.keyboard.press('Control+z')]
		];
		for (const [name, step] of steps) {
			await step();
			await saved(page);
			await paper(page, 'patched');
			await drawWhole(page);
			await expect.poll(() => paper(page, 'whole', 'patched'), name).toBeLessThan(HARDLY);
		}
		// And it is another picture than at the start: something was drawn.
		expect(await paper(page, 'end', 'start')).toBeGreaterThan(HARDLY);
		expect(troubles).toEqual([]);
	});
