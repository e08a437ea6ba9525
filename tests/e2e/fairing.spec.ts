/** A jagged stretch is made smooth by each way; anchors, drift and turning are read from the saved drawing. */
import { expect, test, type Page } from '@playwright/test';
import { fact, fitAll, give, listen, newDrawing, places, saved, turningOf, type SavedOutline } from './hands';

/** A block whose upper side is a jagged wave, 60 mm long. */
function jagged(): { svg: string; wave: (x: number) => number } {
	const wave = (x: number) => 20 - 5 * Math.sin(x / 9);
	const places: string[] = [];
	for (let k = 0; k <= 240; k++) {
		const x = 10 + k / 4;
		places.push(
			`${x.toFixed(3)} ${(wave(x) + 0.09 * Math.sin(k * 2.7) + 0.05 * Math.cos(k * 7.1)).toFixed(4)}`
		);
	}
	return {
		svg: `<svg xmlns="http://www.w3.org/2000/svg" width="80mm" height="60mm" viewBox="0 0 80 60"><path d="M10 50L${places.join('L')}L70 50Z"><title>Jaw</title></path></svg>`,
		wave
	};
}

async function open(page: Page) {
	await newDrawing(page);
	await give(page, 'jaw.svg', 'image/svg+xml', Buffer.from(jagged().svg));
	await expect(page.locator('[data-station=trace]')).toContainText('1 outline');
	await page.locator('[role=application]').focus();
	return fitAll(page);
}
const jaw = async (page: Page) => (await saved(page)).outlines.find((o) => o.name === 'Jaw')!;

/** Degrees that the upper side turns per mm. */
const turning = (o: SavedOutline) => turningOf(places(o).filter(([x, y]) => x > 14 && x < 66 && y > -30));
const off = (o: SavedOutline) => {
	const { wave } = jagged();
	return Math.max(
		...places(o)
			.filter(([x, y]) => x > 14 && x < 66 && y > -30)
			.map(([x, y]) => Math.abs(-y - wave(x)))
	);
};

test('fairing: few anchors, the corners where they were, near the true line; again and stronger are keys', async ({
	page
}) => {
	const troubles = listen(page);
	await open(page);
	const before = await jaw(page);
	expect(before.anchors.length).toBe(243);
	expect(turning(before)).toBeGreaterThan(30);
	await page.keyboard.press('Shift+f');
	await page.getByLabel('May drift').fill('0.4');
	await page.keyboard.press('Enter');
	await expect(page.locator('[data-act=keep]')).toBeEnabled();
	expect(await fact(page, 'before')).toBe(243);
	expect(await fact(page, 'drift')).toBeLessThanOrEqual(0.4);
	await page.locator('[data-act=keep]').click();
	let o = await jaw(page);
	expect(o.anchors.length).toBeLessThan(14);
	expect(o.first).toBeDefined();
	expect(turning(o)).toBeLessThan(6);
	expect(off(o)).toBeLessThan(0.12);
	for (const [x, y] of [
		[10, -50],
		[70, -50]
	]) {
		const near = o.points
			.filter((_, k) => k % 7 === 0)
			.map((v, k) => Math.hypot(v - x, o.points[7 * k + 1] - y));
		expect(Math.min(...near)).toBeLessThan(0.1);
	}
	await page.keyboard.press('Control+z');
	// Again as last time, by one key; and stronger.
	await page.keyboard.press(';');
	await expect.poll(async () => (await jaw(page)).anchors.length).toBeLessThan(14);
	await page.keyboard.press('Control+z');
	await page.keyboard.press("'");
	await expect.poll(async () => (await jaw(page)).anchors.length).toBeLessThan(14);
	await page.keyboard.press('Control+z');
	o = await jaw(page);
	expect(o.points).toEqual(before.points);
	await page.keyboard.press('Shift+f');
	await page.getByLabel('May drift').fill('0');
	await page.keyboard.press('Enter');
	await expect(page.locator('.tray [role=alert]')).toContainText('above 0');
	await page.locator('[data-act=leave]').click();
	expect(troubles).toEqual([]);
});

test('each other way on the same line: simplify, arcs, straights, rebuild, through its anchors', async ({
	page
}) => {
	await open(page);
	for (const [way, most, bend] of [
		['simplify', 20, 8],
		['arcs', 60, 60],
		['straights', 243, 400],
		['rebuild', 40, 400]
	] as const) {
		await page.locator('[role=application]').focus();
		await page.keyboard.press('Shift+f');
		await page.locator(`[data-choice=${way}]`).click();
		if (way !== 'rebuild') {
			await page.getByLabel('May drift').fill('0.3');
			await page.keyboard.press('Enter');
		} else {
			await page.getByLabel('Control points').fill('1');
			await page.keyboard.press('Enter');
			await expect(page.locator('.tray [role=alert]')).toContainText('at least');
			await page.getByLabel('Control points').fill('30');
			await page.keyboard.press('Enter');
		}
		await expect(page.locator('[data-act=keep]')).toBeEnabled();
		await page.locator('[data-act=keep]').click();
		const o = await jaw(page);
		expect(o.anchors.length).toBeLessThanOrEqual(most);
		expect(turning(o)).toBeLessThan(bend);
		await page.locator('[role=application]').focus();
		await page.keyboard.press('Control+z');
	}
});

test('the brush fairs only where it went; one that misses says so; the comb shows and hides', async ({
	page
}) => {
	const troubles = listen(page);
	const { at } = await open(page);
	await page.keyboard.press('e');
	await page.keyboard.press('Shift+v');
	await page.keyboard.press('Shift+f');
	await page.locator('[data-choice=fair]').click();
	await page.locator('[data-act=brush]').click();
	const empty = at(40, -42);
	await page.mouse.move(empty.x, empty.y);
	await page.mouse.down();
	await page.mouse.move(empty.x + 60, empty.y, { steps: 4 });
	await page.mouse.up();
	await expect(page.getByText('The brush went over nothing')).toBeVisible();
	const { wave } = jagged();
	const from = at(25, -wave(25));
	await page.mouse.move(from.x, from.y);
	await page.mouse.down();
	for (let x = 26; x <= 45; x++) {
		const p = at(x, -wave(x));
		await page.mouse.move(p.x, p.y);
	}
	await page.mouse.up();
	await expect(page.locator('[data-act=keep]')).toBeEnabled();
	await page.locator('[data-act=keep]').click();
	const o = await jaw(page);
	const xs = o.points.filter((_, k) => k % 7 === 0 && o.points[k + 1] > -30);
	// Beside the brush every jag is still there, under it hardly an anchor is left.
	expect(xs.filter((x) => x > 50 && x < 65).length).toBeGreaterThan(50);
	expect(xs.filter((x) => x > 28 && x < 42).length).toBeLessThan(8);
	expect(troubles).toEqual([]);
});

test('a stretch is redrawn by a stroke; one that misses leaves nothing', async ({ page }) => {
	const { at } = await open(page);
	const { wave } = jagged();
	await page.keyboard.press('Shift+d');
	await expect(page.locator('[data-act=pen-away]')).toBeVisible();
	const draw = async (to: number, end: number) => {
		const a = at(25, -wave(25));
		await page.mouse.move(a.x, a.y);
		await page.mouse.down();
		for (let k = 1; k <= 20; k++) {
			const x = 25 + ((to - 25) * k) / 20;
			const p = at(x, -wave(25) + ((end + wave(25)) * k) / 20 + 2.5 * Math.sin((k * Math.PI) / 20));
			await page.mouse.move(p.x, p.y);
		}
		await page.mouse.up();
	};
	await draw(48, -3);
	await expect(page.getByText('does not come back to the line')).toBeVisible();
	expect((await saved(page)).pointer).toBe(1);
	await draw(48, -wave(48));
	const o = await jaw(page);
	expect(o.closed).toBe(true);
	const xs = o.points.filter((_, k) => k % 7 === 0 && o.points[k + 1] > -30);
	expect(xs.filter((x) => x > 27 && x < 46).length).toBeLessThan(10);
	expect(xs.filter((x) => x > 50 && x < 65).length).toBeGreaterThan(50);
});
