/** Pictures in hand: moved, turned, mirrored, straightened, cropped, tied; prepared, and traced by a lasso. */
import { expect, test, type Page } from '@playwright/test';
import { drag, fact, fitAll, listen, openDemo, saved } from './hands';

interface Placed {
	name: string;
	x: number;
	y: number;
	angle?: number;
	mirrored?: boolean;
	locked?: boolean;
	crop?: { x: number; y: number; w: number; h: number };
	pxPerMm?: number;
}
const picture = async (page: Page, name = 'mask-colours.png') =>
	(await saved(page)).references.find((r) => r.name === name) as unknown as Placed;
const row = (page: Page, name = 'mask-colours.png') => page.locator(`[data-picture="${name}"]`);

/** Shows the settings of one of several pictures. */
const choose = (page: Page, name = 'mask-colours.png') =>
	page.locator('.tray').getByText(name, { exact: true }).click();

/** Everything in the window; where a place of the paper then is. */
async function seeAll(page: Page) {
	await page.locator('[role=application]').focus();
	return fitAll(page);
}

test('a picture is moved, turned by its loop and by a number, mirrored and cropped; each is one step', async ({
	page
}) => {
	const troubles = listen(page);
	await openDemo(page, 'Mask, three pictures');
	await page.locator('[data-station=picture]').click();
	const { scale, at } = await seeAll(page);
	const was = await picture(page);
	await choose(page);
	await row(page).locator('[data-act=place]').click();
	const inside = at(was.x + 60, was.y - 60);
	await drag(page, inside, { x: inside.x + 40, y: inside.y - 25 });
	let now = await picture(page);
	expect(now.x - was.x).toBeCloseTo(40 / scale, 1);
	expect(now.y - was.y).toBeCloseTo(25 / scale, 1);
	// The loop lies beyond the upper right corner, on the line from the middle.
	const wide = 1782 / was.pxPerMm!;
	const high = 1260 / was.pxPerMm!;
	const corner = at(now.x + wide, now.y);
	const middle = at(now.x + wide / 2, now.y - high / 2);
	const far = Math.hypot(corner.x - middle.x, corner.y - middle.y);
	const knob = {
		x: corner.x + ((corner.x - middle.x) / far) * 26,
		y: corner.y + ((corner.y - middle.y) / far) * 26
	};
	const quarter = { x: middle.x + (knob.y - middle.y), y: middle.y - (knob.x - middle.x) };
	await drag(page, knob, quarter);
	now = await picture(page);
	expect(now.angle).toBeCloseTo(90, 0);
	await row(page).getByLabel('turned').fill('0');
	await page.keyboard.press('Enter');
	now = await picture(page);
	expect(now.angle).toBeCloseTo(0, 9);
	await row(page).locator('[data-act=mirror]').click();
	expect((await picture(page)).mirrored).toBe(true);
	await row(page).locator('[data-act=mirror]').click();
	now = await picture(page);
	// Cropped to a box, in hand with Shift.
	const a = at(now.x + 30, now.y - 20);
	const b = at(now.x + 150, now.y - 100);
	await page.keyboard.down('Shift');
	await drag(page, a, b);
	await page.keyboard.up('Shift');
	const { crop } = await picture(page);
	expect(crop!.x / now.pxPerMm!).toBeCloseTo(30, 0);
	expect(crop!.w / now.pxPerMm!).toBeCloseTo(120, 0);
	expect(crop!.h / now.pxPerMm!).toBeCloseTo(80, 0);
	await row(page).locator('[data-act=uncrop]').click();
	expect((await picture(page)).crop).toBeUndefined();
	// Tied fast it cannot be taken.
	await row(page).locator('[data-act=lock]').click();
	await expect(row(page).locator('[data-act=place]')).toBeDisabled();
	await page.locator('[role=application]').focus();
	while ((await saved(page)).pointer > 0) await page.keyboard.press('Control+z');
	expect(await picture(page)).toEqual(was);
	expect(troubles).toEqual([]);
});

test('a line that should be level makes the picture straight; what is traced lies where the picture shows it', async ({
	page
}) => {
	await openDemo(page, 'Mask, three pictures');
	await page.locator('[data-station=picture]').click();
	const was = await picture(page, 'mask-lines.png');
	const { at } = await seeAll(page);
	await choose(page, 'mask-lines.png');
	await row(page, 'mask-lines.png').getByLabel('turned').fill('9');
	await page.keyboard.press('Enter');
	// The line under the nose is level in the picture: 128 to 168 mm across, at 124 mm down.
	const r = await picture(page, 'mask-lines.png');
	const c = Math.cos((r.angle! * Math.PI) / 180);
	const s = Math.sin((r.angle! * Math.PI) / 180);
	const place = (u: number, v: number) => at(r.x + u * c + v * s, r.y + u * s - v * c);
	await row(page, 'mask-lines.png').locator('[data-act=level]').click();
	for (const p of [place(60, 124), place(240, 124)]) await page.mouse.click(p.x, p.y);
	const level = await picture(page, 'mask-lines.png');
	expect(Math.abs(level.angle!)).toBeLessThan(0.6);
	expect(Math.hypot(level.x - was.x, level.y - was.y)).toBeLessThan(4);
	await page.locator('[role=application]').focus();
	await page.keyboard.press('t');
	await page.locator('[data-act=which-picture]').selectOption('mask-lines.png');
	await page.locator('[data-choice=line-centre]').click();
	await expect(page.locator('[data-act=keep]')).toBeEnabled();
	await page.locator('[data-act=keep]').click();
	const { outlines } = await saved(page);
	const wide = 1782 / r.pxPerMm!;
	const xs = outlines.flatMap((o) => o.points.filter((_, i) => i % 7 === 0));
	expect(Math.min(...xs)).toBeGreaterThan(level.x);
	expect(Math.max(...xs)).toBeLessThan(level.x + wide);
});

test('a picture is prepared, its worst place seen, and only what a lasso holds is traced', async ({
	page
}) => {
	const troubles = listen(page);
	await openDemo(page, 'Mask, three pictures');
	const { at } = await seeAll(page);
	const r = await picture(page);
	await page.keyboard.press('t');
	await page.locator('[data-act=which-picture]').selectOption('mask-colours.png');
	await expect(page.locator('[data-act=keep]')).toBeEnabled();
	const before = await fact(page, 'outlines');
	// In red light the dyes are brighter: ink and paper part at another tone.
	const main = page.locator('[data-group=main]');
	const prepare = page.locator('[data-group=prepare]');
	const tone = await page.getByRole('textbox', { name: 'Tone' }).inputValue();
	await prepare.click();
	await page.locator('[data-act=channel]').selectOption('red');
	await expect(page.locator('[data-act=keep]')).toBeEnabled();
	await main.click();
	await expect.poll(() => page.getByRole('textbox', { name: 'Tone' }).inputValue()).not.toBe(tone);
	await prepare.click();
	await page.getByLabel('White from').fill('0');
	await page.keyboard.press('Enter');
	await expect(page.getByText('It must be at least 1.')).toBeVisible();
	await page.keyboard.press('Escape');
	await page.locator('[data-act=unprepared]').click();
	await main.click();
	await expect.poll(() => page.getByRole('textbox', { name: 'Tone' }).inputValue()).toBe(tone);
	await expect.poll(() => fact(page, 'outlines')).toBe(before);
	await expect(page.locator('[data-act=keep]')).toBeEnabled();
	const anchors = await fact(page, 'anchors');
	// A lasso round the upper half of the mask, drawn with Alt.
	await page.locator('[role=application]').focus();
	await page.keyboard.down('Alt');
	const round = [
		[40, 10],
		[250, 10],
		[250, 60],
		[40, 60]
	].map(([x, y]) => at(r.x + x, r.y - y));
	await page.mouse.move(round[0].x, round[0].y);
	await page.mouse.down();
	for (const p of round.slice(1)) await page.mouse.move(p.x, p.y, { steps: 4 });
	await page.mouse.up();
	await page.keyboard.up('Alt');
	await expect(page.locator('[data-act=whole-picture]')).toBeVisible();
	await expect(page.locator('[data-act=keep]')).toBeEnabled();
	await page.locator('[data-act=see-worst]').click();
	await page.locator('[data-act=keep]').click();
	const { outlines } = await saved(page);
	const ys = outlines.flatMap((o) => o.points.filter((_, i) => i % 7 === 1));
	expect(Math.min(...ys)).toBeGreaterThan(r.y - 61);
	expect(Math.min(...ys)).toBeLessThan(r.y - 59);
	expect(anchors).toBeGreaterThan(0);
	expect(troubles).toEqual([]);
});
