/** Combining, joining, trimming, breaking and rounding in the interface; what happens is read from the saved drawing. */
import { expect, test, type Page } from '@playwright/test';
import { fact, fitAll, give, listen, newDrawing, saved, type SavedOutline } from './hands';

const svg = (...paths: string[]) =>
	Buffer.from(
		`<svg xmlns="http://www.w3.org/2000/svg" width="100mm" height="60mm" viewBox="0 0 100 60">${paths
			.map((d, i) => `<path d="${d}" fill="none"><title>Part ${i + 1}</title></path>`)
			.join('')}</svg>`
	);

async function open(page: Page, ...paths: string[]) {
	const troubles = listen(page);
	await newDrawing(page);
	await give(page, 'parts.svg', 'image/svg+xml', svg(...paths));
	await expect.poll(async () => (await saved(page)).outlines.length).toBe(paths.length);
	return troubles;
}

const places = (o: SavedOutline) =>
	o.points.flatMap((v, k) => (k % 7 === 0 ? [[v, o.points[k + 1]] as const] : []));
/** Area of an outline of straights (arcs would need more). */
const area = (o: SavedOutline) => {
	const p = places(o);
	return Math.abs(
		p.reduce((sum, [x, y], i) => {
			const [u, v] = p[(i + 1) % p.length];
			return sum + (x * v - u * y) / 2;
		}, 0)
	);
};

const A = 'M10 10H50V40H10Z';
const B = 'M30 20H80V50H30Z';

test('two squares are united, the first less the second, the common part; undo brings them back', async ({
	page
}) => {
	const troubles = await open(page, A, B);
	const wanted = { union: 40 * 30 + 50 * 30 - 20 * 20, difference: 40 * 30 - 20 * 20, intersection: 20 * 20 };
	for (const [op, size] of Object.entries(wanted)) {
		await page.locator('[role=application]').focus();
		await page.keyboard.press('Control+a');
		await page.keyboard.press('Shift+C');
		await page.locator(`[data-choice=${op}]`).click();
		await expect(page.locator('[data-act=keep]')).toBeEnabled();
		await page.locator('[data-act=keep]').click();
		const { outlines } = await saved(page);
		expect(outlines).toHaveLength(1);
		expect(area(outlines[0])).toBeCloseTo(size, 6);
		expect(outlines[0].name).toBe('Part 1');
		await page.keyboard.press('Control+z');
		expect((await saved(page)).outlines).toHaveLength(2);
	}
	expect(troubles).toEqual([]);
});

test('loose lines are joined into one closed outline; what does not meet is counted', async ({ page }) => {
	await open(page, 'M10 10H50', 'M50.2 10V40H10', 'M10 40.1V10', 'M70 10V40');
	await page.locator('[role=application]').focus();
	await page.keyboard.press('Shift+J');
	await expect(page.locator('[data-fact=unjoined]')).toHaveText('2');
	await page.locator('[data-act=keep]').click();
	const { outlines } = await saved(page);
	expect(outlines.map((o) => o.closed).sort()).toEqual([false, true]);
	const ring = outlines.find((o) => o.closed)!;
	expect(ring.anchors).toHaveLength(4);
	// Ends are drawn to their middle: the joint at 50 and 50.2 lies at 50.1, the one at 40 and 40.1 at 40.05.
	expect(Math.abs(area(ring) - 1200)).toBeLessThan(6);
});

test('a corner is rounded to a true arc; a radius that does not fit names the largest; cut off by length', async ({
	page
}) => {
	await open(page, A);
	await page.keyboard.press('e');
	const { at } = await fitAll(page);
	await page.mouse.click(at(10, -40).x, at(10, -40).y);
	await expect(page.locator('[data-testid=anchor]')).toBeVisible();
	await page.keyboard.press('Shift+R');
	await page.getByLabel('Radius').fill('50');
	await page.keyboard.press('Enter');
	await expect(page.locator('.tray .trouble')).toContainText('largest that does is 30 mm');
	await page.getByLabel('Radius').fill('5');
	await page.keyboard.press('Enter');
	await expect(page.locator('[data-act=keep]')).toBeEnabled();
	await page.locator('[data-act=keep]').click();
	let [o] = (await saved(page)).outlines;
	// The corner stays one anchor with its radius; made plain it is two and an arc between them.
	expect((o as unknown as { rounds: unknown[] }).rounds).toHaveLength(1);
	expect(o.anchors).toHaveLength(4);
	await page.keyboard.press('/');
	await page.keyboard.type('make plain');
	await page.keyboard.press('Enter');
	[o] = (await saved(page)).outlines;
	expect(o.anchors).toHaveLength(5);
	const arc = o.marks.filter((_, i) => i % 3 === 1).indexOf(2);
	// A quarter of a circle: its bulge is the tangent of a quarter of 90 degrees (published DXF reference).
	expect(Math.abs(o.points[7 * arc + 6])).toBeCloseTo(Math.tan(Math.PI / 8), 9);
	await page.keyboard.press('Control+z');
	await page.keyboard.press('Control+z');
	await page.mouse.click(at(10, -40).x, at(10, -40).y);
	await page.keyboard.press('Shift+R');
	await page.locator('[data-choice=cut]').click();
	await page.getByRole('textbox', { name: 'Cut off' }).fill('10');
	await page.keyboard.press('Enter');
	await expect(page.locator('[data-act=keep]')).toBeEnabled();
	await page.locator('[data-act=keep]').click();
	await page.keyboard.press('/');
	await page.keyboard.type('make plain');
	await page.keyboard.press('Enter');
	[o] = (await saved(page)).outlines;
	expect(area(o)).toBeCloseTo(1200 - 50, 6);
});

test('a stretch is trimmed by what crosses it; a break opens, a second one parts', async ({ page }) => {
	await open(page, A, 'M20 0V60', 'M40 0V60');
	await page.keyboard.press('h');
	const { at } = await fitAll(page);
	await page.mouse.dblclick(at(10, -25).x, at(10, -25).y);
	await page.mouse.click(at(30, -40).x, at(30, -40).y);
	await page.keyboard.press('Shift+T');
	await expect(page.locator('[data-act=keep]')).toBeEnabled();
	expect(await fact(page, 'outlines')).toBe(1);
	await page.locator('[data-act=keep]').click();
	let part = (await saved(page)).outlines.find((o) => o.name === 'Part 1')!;
	expect(part.closed).toBe(false);
	const ends = [places(part)[0], places(part).at(-1)!].map((p) => p.map((v) => +v.toFixed(6)));
	expect(ends.sort((p, q) => p[0] - q[0])).toEqual([
		[20, -40],
		[40, -40]
	]);
	await page.locator('[role=application]').focus();
	await page.keyboard.press('Control+z');
	await page.mouse.click(at(10, -10).x, at(10, -10).y);
	await page.keyboard.press('k');
	part = (await saved(page)).outlines.find((o) => o.name === 'Part 1')!;
	expect(part.closed).toBe(false);
	expect(part.anchors).toHaveLength(5);
	await page.mouse.click(at(50, -40).x, at(50, -40).y);
	await page.keyboard.press('k');
	expect((await saved(page)).outlines).toHaveLength(4);
});

test('regions are picked by pointing: the one left out stays out, the rest becomes one piece', async ({
	page
}) => {
	const troubles = await open(page, A, B);
	const view = await fitAll(page);
	await page.keyboard.press('Control+a');
	await page.keyboard.press('Shift+C');
	await page.locator('[data-choice=regions]').click();
	await expect.poll(() => fact(page, 'pieces')).toBe(3);
	const onlyB = view.at(60, -25);
	await page.mouse.move(onlyB.x, onlyB.y);
	await page.mouse.click(onlyB.x, onlyB.y);
	await expect.poll(() => fact(page, 'pieces')).toBe(2);
	// Back again, and the common part out instead.
	await page.mouse.click(onlyB.x, onlyB.y);
	await expect.poll(() => fact(page, 'pieces')).toBe(3);
	await page.mouse.click(onlyB.x, onlyB.y);
	await page.locator('[data-act=merged]').click();
	await expect.poll(() => fact(page, 'pieces')).toBe(1);
	await page.locator('[data-act=keep]').click();
	const { outlines } = await saved(page);
	expect(outlines).toHaveLength(1);
	expect(area(outlines[0])).toBeCloseTo(40 * 30, 6);
	expect(troubles).toEqual([]);
});

test('an open line is offset: all round with flush ends, to its left, as a band; a closed one both ways, in steps', async ({
	page
}) => {
	const troubles = await open(page, 'M10 30H50');
	const offset = async () => {
		await page.locator('[role=application]').focus();
		await page.keyboard.press('Control+a');
		await page.keyboard.press('o');
		await page.getByLabel('Distance').fill('2');
		await page.keyboard.press('Enter');
	};
	const keep = async () => {
		await expect(page.locator('[data-act=keep]')).toBeEnabled();
		await page.locator('[data-act=keep]').click();
		const { outlines } = await saved(page);
		await page.keyboard.press('Control+z');
		return outlines.slice(1);
	};
	await offset();
	await page.locator('[data-choice=butt]').click();
	let made = await keep();
	expect(made).toHaveLength(1);
	expect(made[0].closed).toBe(true);
	expect(area(made[0])).toBeCloseTo(40 * 4, 6);
	await offset();
	await page.locator('[data-choice=left]').click();
	made = await keep();
	// Left of the way to the right is up.
	expect(made[0].closed).toBe(false);
	for (const [, y] of places(made[0])) expect(y).toBeCloseTo(-28, 6);
	await offset();
	await page.locator('[data-choice=left]').click();
	await page.locator('[data-choice=band]').click();
	made = await keep();
	expect(made[0].closed).toBe(true);
	expect(area(made[0])).toBeCloseTo(40 * 2, 6);

	await give(page, 'more.svg', 'image/svg+xml', svg(A));
	await expect.poll(async () => (await saved(page)).outlines.length).toBe(2);
	await page.locator('[role=application]').focus();
	await offset();
	await page.locator('[data-choice=outside]').waitFor();
	await page.getByLabel('How many').fill('2');
	await page.keyboard.press('Enter');
	await page.locator('[data-choice=miter]').click();
	await page.locator('[data-choice=both]').first().click();
	await expect.poll(() => fact(page, 'outlines')).toBeGreaterThan(4);
	made = await keep();
	const areas = made.map(area).map((a) => Math.round(a));
	for (const d of [2, 4, -2, -4]) expect(areas).toContain((40 + 2 * d) * (30 + 2 * d));
	expect(troubles).toEqual([]);
});
