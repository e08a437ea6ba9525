/** How few actions lead to a first result: each press, drop, choice or typed value is one. The limits are goals of the makers. */
import { readFileSync } from 'node:fs';
import { expect, test, type Page } from '@playwright/test';
import { readSvg } from '../../src/lib/core/formats/svg';
import { unwrap } from '../../src/lib/core/errors';
import { pathBox } from '../../src/lib/core/geometry/measure';
import { openDemo, newDrawing, placesNow, saved, fitAll, drag } from './hands';

/** Counts what a person does. */
class Actions {
	count = 0;
	constructor(private readonly page: Page) {}
	async click(selector: string): Promise<void> {
		this.count++;
		await this.page.locator(selector).click();
	}
	async key(name: string): Promise<void> {
		this.count++;
		await this.page.keyboard.press(name);
	}
	async type(text: string): Promise<void> {
		this.count++;
		await this.page.keyboard.type(text);
	}
	async drop(path: string, type: string): Promise<void> {
		this.count++;
		await this.page.evaluate(
			({ list, name, type }) => {
				const data = new DataTransfer();
				data.items.add(new File([new Uint8Array(list)], name, { type }));
				const target = document.querySelector('main')!;
				target.dispatchEvent(new DragEvent('drop', { dataTransfer: data, bubbles: true, cancelable: true }));
			},
			{ list: [...readFileSync(path)], name: path.split('/').pop()!, type }
		);
	}
	async svg(): Promise<string> {
		this.count++;
		const [download] = await Promise.all([
			this.page.waitForEvent('download'),
			this.page.locator('[data-command=write-svg]').click()
		]);
		return readFileSync((await download.path())!, 'utf8');
	}
}
const ready = (page: Page) => expect(page.locator('[data-act=keep]')).toBeEnabled();

test('an own picture becomes a ready SVG in at most 7 actions', async ({ page }) => {
	await page.goto('/');
	await expect(page.locator('[data-act=new]')).toBeVisible();
	const act = new Actions(page);
	await act.drop('static/demo/fox-puppet.jpg', 'image/jpeg');
	await expect(page.locator('[data-station=size]')).toContainText('True size is set');
	await act.key('t');
	await ready(page);
	await act.key('Enter');
	await expect(page.locator('[data-station=trace]')).toContainText('outlines');
	await act.click('[data-station=cut]');
	await expect(page.locator('[data-station=cut]')).toContainText('Ready to cut');
	const read = unwrap(readSvg(await act.svg()));
	expect(read.shapes.flatMap((s) => s.paths)).toHaveLength(21);
	expect(act.count).toBeLessThanOrEqual(7);
});

test('the photograph taken at an angle becomes a ready SVG of true size in at most 8 actions', async ({
	page
}) => {
	await page.goto('/');
	await expect(page.locator('[data-act=new]')).toBeVisible();
	const act = new Actions(page);
	await act.drop('static/demo/mask-photo.jpg', 'image/jpeg');
	await expect(page.locator('[data-station=size]')).toHaveAttribute('aria-current', 'step');
	await act.click('[data-act=find-sheet]');
	await expect(page.locator('[data-act=straighten]')).toBeVisible();
	await act.click('[data-act=straighten]');
	await expect(page.locator('[data-station=size]')).toContainText('True size is set');
	await act.key('t');
	await ready(page);
	await act.key('Enter');
	await expect(page.locator('[data-station=trace]')).toContainText('outline');
	await act.click('[data-station=cut]');
	const read = unwrap(readSvg(await act.svg()));
	expect(read.shapes.length).toBeGreaterThan(0);
	expect(act.count).toBeLessThanOrEqual(8);
});

test('the rough owl is clean and written in at most 10 actions', async ({ page }) => {
	await openDemo(page, 'Owl, a rough old trace');
	await expect(page.locator('[data-station=mend]')).toContainText('to mend');
	const act = new Actions(page);
	await act.click('[data-command=mend-all]');
	await expect(page.getByTestId('notice')).toContainText('Mended: 2 jagged lines');
	// The ribs and the score on the base are meant to stay open.
	for (const left of ['1 thing', 'Nothing']) {
		act.count++;
		await page.locator('[data-mend=on-purpose]').first().click();
		await expect(page.locator('[data-station=mend]')).toContainText(left);
	}
	await act.click('[data-station=cut]');
	await expect(page.locator('[data-station=cut]')).toContainText('Ready to cut');
	const read = unwrap(readSvg(await act.svg()));
	const { outlines } = await saved(page);
	// The owl itself, from 543 anchors to a few dozen at most.
	expect(outlines.find((o) => o.name === 'Owl')!.anchors.length).toBeLessThan(40);
	expect(read.shapes.length).toBeGreaterThan(0);
	expect(act.count).toBeLessThanOrEqual(10);
});

test('an offset of 2 mm, and only that written out, in at most 5 actions', async ({ page }) => {
	await openDemo(page, 'Control bars and a mask');
	await page.keyboard.press('n');
	await expect(page.locator('.tag')).toBeVisible();
	const act = new Actions(page);
	await act.key('o');
	await ready(page);
	await act.key('Enter');
	await expect(page.locator('[data-fact=steps]')).toContainText('1 step');
	await act.click('[data-station=cut]');
	await act.click('[data-act=only-picked]');
	const read = unwrap(readSvg(await act.svg()));
	const [line] = read.shapes.flatMap((s) => s.paths);
	expect(read.shapes.flatMap((s) => s.paths)).toHaveLength(1);
	const source = (await saved(page)).outlines.find((o) => o.name === 'Long bar')!;
	const xs = source.points.filter((_, k) => k % 7 === 0);
	const box = pathBox(line);
	expect(box.x1 - box.x0).toBeGreaterThan(Math.max(...xs) - Math.min(...xs));
	expect(act.count).toBeLessThanOrEqual(5);
});

test('a rectangle of 80 x 50 with one corner of 10 and a hole of 6 at 10, 10, exactly, in at most 14 actions', async ({
	page
}) => {
	await newDrawing(page);
	await page.locator('[role=application]').focus();
	const { at } = await fitAll(page);
	const act = new Actions(page);
	await act.key('Shift+S');
	// A press where it begins, then its numbers: to the right, and up.
	const from = at(40, -90);
	act.count++;
	await page.mouse.click(from.x, from.y);
	await page.mouse.move(from.x + 60, from.y - 40);
	const right = page.getByTestId('pointer-fields').getByLabel('right');
	act.count++;
	await right.fill('80');
	act.count++;
	await page.getByTestId('pointer-fields').getByLabel('up').fill('50');
	await act.key('Enter');
	await expect.poll(async () => (await saved(page)).outlines.length).toBe(1);
	const rectangle = (await saved(page)).outlines[0];
	const [x0, y0] = [
		Math.min(...rectangle.points.filter((_, k) => k % 7 === 0)),
		Math.min(...rectangle.points.filter((_, k) => k % 7 === 1))
	];
	// The hole: drawn, then its diameter and its middle typed on its tag.
	await act.click('[data-choice=circle]');
	const middle = (await placesNow(page)).at(x0 + 30, y0 + 25);
	act.count++;
	await drag(page, middle, { x: middle.x + 20, y: middle.y });
	const tag = page.locator('.tag');
	act.count++;
	await tag.getByLabel('diameter').fill('6');
	await page.keyboard.press('Enter');
	act.count++;
	await tag.getByLabel('x', { exact: true }).fill(String(x0 + 10));
	await page.keyboard.press('Enter');
	act.count++;
	await tag.getByLabel('y', { exact: true }).fill(String(y0 + 10));
	await page.keyboard.press('Enter');
	// One corner: the upper right one is selected and rounded.
	await page.locator('[role=application]').focus();
	const upper = (await placesNow(page)).at(x0 + 80, y0 + 50);
	await page.keyboard.press('Escape');
	act.count++;
	await page.mouse.dblclick(upper.x, upper.y);
	await expect(page.getByTestId('anchor')).toBeVisible();
	await act.key('Shift+R');
	act.count++;
	await page.locator('.tray').getByLabel('Radius').fill('10');
	await page.keyboard.press('Enter');
	await ready(page);
	await act.click('[data-act=keep]');
	const now = (await saved(page)).outlines as (typeof rectangle & { rounds?: { radius: number }[] })[];
	expect(now.find((o) => o.id === rectangle.id)!.rounds).toEqual([expect.objectContaining({ radius: 10 })]);
	const hole = now.find((o) => o.id !== rectangle.id)!;
	const xs = hole.points.filter((_, k) => k % 7 === 0);
	const ys = hole.points.filter((_, k) => k % 7 === 1);
	expect((Math.min(...xs) + Math.max(...xs)) / 2).toBeCloseTo(x0 + 10, 9);
	expect((Math.min(...ys) + Math.max(...ys)) / 2).toBeCloseTo(y0 + 10, 9);
	expect(Math.max(...xs) - Math.min(...xs)).toBeCloseTo(6, 9);
	expect(act.count).toBeLessThanOrEqual(14);
});
