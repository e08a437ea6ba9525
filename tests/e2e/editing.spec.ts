/** Gestures on anchors, handles and segments; what happens is read from the saved drawing. */
import { expect, test, type Page } from '@playwright/test';
import { drag, fitAll, give, listen, newDrawing, saved, type SavedOutline } from './hands';

const SHAPE =
	'<svg xmlns="http://www.w3.org/2000/svg" width="100mm" height="60mm" viewBox="0 0 100 60"><path d="M10 50C10 10 40 10 50 30C60 50 90 50 90 10L90 50Z"><title>Wing</title></path></svg>';
let troubles: string[] = [];

async function wing(page: Page): Promise<SavedOutline> {
	return (await saved(page)).outlines.find((o) => o.name === 'Wing')!;
}

/** Opens the wing, enters it, and gives the map from paper to window, taken from two drags' own results. */
async function enterWing(page: Page) {
	troubles = listen(page);
	await newDrawing(page);
	await give(page, 'wing.svg', 'image/svg+xml', Buffer.from(SHAPE));
	await expect(page.locator('[data-station=trace]')).toContainText('1 outline');
	await page.keyboard.press('e');
	return { ...(await fitAll(page)), o: await wing(page) };
}

test('dragging an anchor takes its handles along; Shift locks it level', async ({ page }) => {
	const { at, scale, o } = await enterWing(page);
	const from = at(50, -30);
	await drag(page, from, { x: from.x + 40, y: from.y + 30 });
	const now = await wing(page);
	const by = { x: now.points[7] - o.points[7], y: now.points[8] - o.points[8] };
	expect(by.x).toBeCloseTo(40 / scale, 1);
	expect(by.y).toBeCloseTo(-30 / scale, 1);
	for (let k = 2; k < 6; k += 2) {
		expect(now.points[7 + k] - o.points[7 + k]).toBeCloseTo(by.x, 9);
		expect(now.points[7 + k + 1] - o.points[7 + k + 1]).toBeCloseTo(by.y, 9);
	}
	const here = at(now.points[7], now.points[8]);
	await page.keyboard.down('Shift');
	await drag(page, here, { x: here.x + 50, y: here.y + 9 });
	await page.keyboard.up('Shift');
	const after = await wing(page);
	expect(after.points[8]).toBe(now.points[8]);
	expect(after.points[7]).toBeGreaterThan(now.points[7]);
	expect(troubles).toEqual([]);
});

test('a handle of a smooth anchor turns its partner; with Alt it moves alone', async ({ page }) => {
	const { at, o } = await enterWing(page);
	const anchor = at(50, -30);
	await page.mouse.click(anchor.x, anchor.y);
	await page.locator('[data-kind=smooth]').click();
	let p = (await wing(page)).points.slice(7, 14);
	const handle = at(p[4], p[5]);
	await drag(page, handle, { x: handle.x + 30, y: handle.y - 40 });
	p = (await wing(page)).points.slice(7, 14);
	const cross = (p[4] - p[0]) * (p[3] - p[1]) - (p[5] - p[1]) * (p[2] - p[0]);
	expect(Math.abs(cross)).toBeLessThan(1e-6);
	expect(Math.hypot(p[2] - p[0], p[3] - p[1])).toBeCloseTo(
		Math.hypot(o.points[9] - o.points[7], o.points[10] - o.points[8]),
		6
	);
	const partner = [p[2], p[3]];
	const again = at(p[4], p[5]);
	await page.keyboard.down('Alt');
	await drag(page, again, { x: again.x + 10, y: again.y + 60 });
	await page.keyboard.up('Alt');
	const now = await wing(page);
	expect(now.points.slice(9, 11)).toEqual(partner);
	expect(now.marks[3]).toBe(0);
});

test('a box selects anchors, Shift adds and takes away; the kind of many changes at once', async ({
	page
}) => {
	const { at } = await enterWing(page);
	const a = at(6, -9);
	const b = at(94, -34);
	await drag(page, a, b);
	await expect(page.locator('[data-testid=anchor] b')).toHaveText('2 anchors');
	const corner = at(90, -50);
	await page.keyboard.down('Shift');
	await page.mouse.click(corner.x, corner.y);
	await expect(page.locator('[data-testid=anchor] b')).toHaveText('3 anchors');
	await page.mouse.click(corner.x, corner.y);
	await page.keyboard.up('Shift');
	await expect(page.locator('[data-testid=anchor] b')).toHaveText('2 anchors');
	await page.keyboard.press('w');
	const now = await wing(page);
	expect(now.marks.filter((_, i) => i % 3 === 0).filter((kind) => kind === 3)).toHaveLength(2);
	await page.keyboard.press('Control+a');
	await expect(page.locator('[data-testid=anchor] b')).toHaveText(`${now.anchors.length} anchors`);
});

test('a stretch is picked: straightened, made a curve, halved, taken out', async ({ page }) => {
	const { at, o } = await enterWing(page);
	const middle = at(90, -40);
	await page.mouse.click(middle.x, middle.y);
	await page.keyboard.press('u');
	let now = await wing(page);
	const i = o.points.findIndex((v, k) => k % 7 === 0 && v === 90 && o.points[k + 1] === -10) / 7;
	expect(now.marks[3 * i + 1]).toBe(1);
	await page.keyboard.press('i');
	now = await wing(page);
	expect(now.marks[3 * i + 1]).toBe(0);
	await page.mouse.click(middle.x, middle.y);
	await page.keyboard.press('a');
	now = await wing(page);
	expect(now.anchors).toHaveLength(o.anchors.length + 1);
	expect(now.points.some((v, k) => k % 7 === 0 && v === 90 && Math.abs(now.points[k + 1] + 30) < 1e-9)).toBe(
		true
	);
	await page.mouse.click(at(90, -42).x, at(90, -42).y);
	await page.keyboard.press('x');
	now = await wing(page);
	expect(now.closed).toBe(false);
	await expect(page.locator('[data-station=mend]')).toContainText('1 thing to mend');
});

test('deleting in three ways: run through, straight across, shape kept', async ({ page }) => {
	const { at, o } = await enterWing(page);
	const ask = async (word: string) => {
		await page.mouse.click(at(50, -30).x, at(50, -30).y);
		await page.keyboard.press('/');
		await page.locator('[data-field=find]').fill(word);
		await page.keyboard.press('Enter');
		const now = await wing(page);
		expect(now.anchors).toHaveLength(o.anchors.length - 1);
		await page.locator('[role=application]').focus();
		await page.keyboard.press('Control+z');
		return now;
	};
	const straight = await ask('straight across');
	expect(straight.marks[1]).toBe(0);
	const kept = await ask('keep the shape');
	expect(kept.marks[1]).toBe(1);
	const through = await ask('delete');
	expect(through.points).not.toEqual(kept.points);
	expect((await wing(page)).points).toEqual(o.points);
});

test('fields say what is wrong beside themselves, and nothing changes', async ({ page }) => {
	const { at } = await enterWing(page);
	await page.mouse.click(at(50, -30).x, at(50, -30).y);
	const before = await wing(page);
	for (const [text, sentence] of [
		['abc', /no length/],
		['1/0', /divided by 0/],
		['1e300', /more than 10 m/],
		['5 apples', /not understood/]
	] as const) {
		await page.getByLabel('x', { exact: true }).fill(text);
		await page.keyboard.press('Enter');
		await expect(page.getByRole('alert').filter({ hasText: sentence })).toBeVisible();
		await page.keyboard.press('Escape');
	}
	expect(await wing(page)).toEqual(before);
	await page.getByLabel('x', { exact: true }).fill('2 in');
	await page.keyboard.press('Enter');
	expect((await wing(page)).points[7]).toBeCloseTo(50.8, 9);
});

test('units, names, the rack, hiding and tying fast, guides from the rulers', async ({ page }) => {
	await enterWing(page);
	await page.keyboard.press('Escape');
	await page.locator('[data-act=settings]').click();
	await page.locator('[data-choice=in]').click();
	await page.keyboard.press('Escape');
	await expect(page.locator('.tag [data-fact=size]')).toContainText('in');
	await page.getByLabel('Name', { exact: true }).fill('Left wing');
	await page.keyboard.press('Enter');
	expect((await saved(page)).outlines[0].name).toBe('Left wing');
	await page.locator('[role=application]').focus();
	await page.keyboard.press('r');
	const piece = page.getByRole('listitem').filter({ hasText: 'Left wing' });
	await piece.hover();
	await piece.getByRole('button', { name: 'hide' }).click();
	expect((await saved(page)).outlines[0]).toMatchObject({ hidden: true });
	await piece.hover();
	await piece.getByRole('button', { name: 'show' }).click();
	await piece.hover();
	await piece.getByRole('button', { name: 'tie' }).click();
	expect((await saved(page)).outlines[0]).toMatchObject({ locked: true, hidden: false });
	const steps = (await saved(page)).pointer;
	await drag(page, { x: 400, y: 8 }, { x: 400, y: 300 });
	await expect.poll(async () => (await saved(page)).pointer).toBe(steps + 1);
	await page.keyboard.press('/');
	await page.locator('[data-field=find]').fill('remove guides');
	await expect(page.locator('[data-found]').first()).toContainText('Remove guides');
	await page.keyboard.press('Enter');
	await expect.poll(async () => (await saved(page)).pointer).toBe(steps + 2);
});

test('the list of steps goes back and forth; holding Q shows the drawing before', async ({ page }) => {
	const { at, o } = await enterWing(page);
	await page.mouse.click(at(50, -30).x, at(50, -30).y);
	for (let k = 0; k < 3; k++) await page.keyboard.press('Shift+ArrowUp');
	expect((await wing(page)).points[8]).toBeCloseTo(o.points[8] + 3, 9);
	await page.locator('[data-fact=steps]').click();
	await page.getByRole('list', { name: 'Steps' }).getByRole('button').nth(2).click();
	expect((await wing(page)).points[8]).toBeCloseTo(o.points[8] + 1, 9);
	await page.getByRole('list', { name: 'Steps' }).getByRole('button').last().click();
	expect((await wing(page)).points[8]).toBeCloseTo(o.points[8] + 3, 9);
	await page.keyboard.down('q');
	await page.keyboard.up('q');
	expect((await wing(page)).points[8]).toBeCloseTo(o.points[8] + 3, 9);
});
