/** Browser, tab or worker are killed in the middle of the work, again and again: what was shown as saved is there, and the history is whole. */
import { rmSync } from 'node:fs';
import { expect, test } from '@playwright/test';
import { chance } from '../shapes';
import { openDemo, saved } from './hands';
import { begin, newFolder, struck } from './killed';

/** With many outlines; with holds and named sizes; with an arrangement on two sheets, repeats and a picture. */
const DRAWINGS = ['Control bars and a mask', 'Felt hand puppet', 'Puppet set on two offcuts'];
/** One of each in every run of the tests; a thousand in all by `npm run kills`. */
const KILLS = Math.ceil(Number(process.env.KILLS ?? DRAWINGS.length) / DRAWINGS.length);

for (const name of DRAWINGS)
	test(`kills at random moments lose at most the gesture in hand: ${name}`, async ({ baseURL }) => {
		test.setTimeout(60_000 * Math.max(5, KILLS));
		const folder = newFolder();
		const random = chance(KILLS + name.length);
		let context = await begin(folder, baseURL);
		let page = await context.newPage();
		await openDemo(page, name);
		const url = page.url();
		const first = await saved(page);
		let lost = 0;
		for (let k = 0; k < KILLS; k++) {
			await page.locator('[role=application]').focus();
			const before = (await saved(page)).pointer;
			let shown = before;
			/** Where the history stands, from one moment: what is shown as saved must be there; what was taken back since may be taken back. */
			const look = async (): Promise<void> => {
				const { state, steps } = await page.evaluate(() => {
					const fact = (name: string): string =>
						document.querySelector(`[data-fact=${name}]`)?.textContent?.trim() ?? '';
					return { state: fact('saved'), steps: parseInt(fact('steps')) };
				});
				shown = state === 'saved' ? steps : Math.min(shown, steps);
			};
			const presses = 1 + Math.floor(12 * random());
			for (let press = 0; press < presses; press++) {
				await page.keyboard.press('Control+a');
				for (const key of press % 2 ? ['Control+z', 'Control+Shift+z', 'Control+z'] : ['x', 'Control+z']) {
					await page.keyboard.press(key);
					await look();
				}
				// A step that cannot be taken back by the next one: the name changes.
				await page.getByLabel('Name of the drawing').fill(`Bars ${k} ${press}`);
				await page.keyboard.press('Enter');
				await look();
				// In the middle of keeping a version, now and then.
				if (random() < 0.2) {
					await page.locator('[role=application]').focus();
					await page.keyboard.press('Control+Shift+s');
					await page.locator('#version-word').fill(`kept ${k}`);
					await page.keyboard.press('Enter');
				}
			}
			({ context, page } = await struck(random(), folder, context, page, baseURL));
			await page.goto(url);
			await expect(page.locator('canvas').first()).toBeVisible();
			const after = await saved(page);
			await expect(page.getByRole('log')).not.toContainText('did not fit');
			if (after.pointer < shown) lost++;
			// The history goes back to the start and on to the end.
			await page.locator('[data-fact=steps]').click();
			await page.getByRole('button', { name: 'as it was opened' }).click();
			const begun = await saved(page);
			expect(begun.outlines).toEqual(first.outlines);
			expect(begun.others).toEqual(first.others);
			await page.locator('ol button.word').last().click();
			await saved(page);
			await page.locator('[data-fact=steps]').click();
		}
		await context.close();
		rmSync(folder, { recursive: true, force: true });
		expect(lost).toBe(0);
	});
