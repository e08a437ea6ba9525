/** Lines taken apart, made longer, joined in a corner; the hand on stretches, handles, groups; touch: asserted on the saved drawing. */
import { expect, test, type Page } from '@playwright/test';
import { command, drag, fitAll, give, newDrawing, pick, placesNow, saved, type SavedOutline } from './hands';

const svg = (...paths: string[]) =>
	Buffer.from(
		`<svg xmlns="http://www.w3.org/2000/svg" width="100mm" height="60mm" viewBox="0 0 100 60">${paths
			.map((d, i) => `<path d="${d}" fill="none" stroke="black"><title>Part ${i + 1}</title></path>`)
			.join('')}</svg>`
	);
async function open(page: Page, ...paths: string[]) {
	await newDrawing(page);
	await give(page, 'parts.svg', 'image/svg+xml', svg(...paths));
	await expect.poll(async () => (await saved(page)).outlines.length).toBe(paths.length);
	await page.locator('[role=application]').focus();
	await page.keyboard.press('Escape');
	return fitAll(page);
}
const outlines = async (page: Page) => (await saved(page)).outlines;
const one = async (page: Page, name = 'Part 1') => (await outlines(page)).find((o) => o.name === name)!;
const places = (o: SavedOutline) =>
	o.points.flatMap((v, k) => (k % 7 === 0 ? [[v, o.points[k + 1]] as const] : []));
const xs = (o: SavedOutline) => places(o).map(([x]) => x);
const click = (page: Page, p: { x: number; y: number }) => page.mouse.click(p.x, p.y);
const keep = async (page: Page) => {
	await expect(page.locator('[data-act=keep]')).toBeEnabled();
	await page.locator('[data-act=keep]').click();
};

test('into singles, and broken at all crossings; it is said what there is now', async ({ page }) => {
	await open(page, 'M10 10H50V40H10Z', 'M30 0V50');
	await page.keyboard.press('Control+a');
	await command(page, 'split at crossings');
	await expect(page.getByTestId('notice')).toContainText('lines now, each an outline of its own');
	expect(await outlines(page)).toHaveLength(5);
	await page.keyboard.press('Control+z');
	expect(await outlines(page)).toHaveLength(2);
	await pick(page, 'Part 1');
	await command(page, 'explode');
	await expect(page.getByTestId('notice')).toContainText('There are 4 lines now');
	expect(await outlines(page)).toHaveLength(5);
});

test('a stretch between two anchors is detached, or taken out; pointing at the other side takes that', async ({
	page
}) => {
	const { at } = await open(page, 'M10 10H50V40H10Z');
	await pick(page, 'Part 1');
	await page.locator('[role=application]').focus();
	await page.keyboard.press('e');
	const view = await fitAll(page);
	await click(page, view.at(10, -10));
	await page.keyboard.down('Shift');
	await click(page, view.at(50, -10));
	await page.keyboard.up('Shift');
	await command(page, 'take out a stretch');
	await expect(page.locator('[data-fact=goes]')).toContainText('40 mm');
	await page.locator('[data-act=other-side]').click();
	await expect(page.locator('[data-fact=goes]')).toContainText('100 mm');
	await page.locator('[data-act=other-side]').click();
	await page.locator('[data-act=own-outline]').click();
	await keep(page);
	await expect(page.getByTestId('notice')).toContainText('2 lines now');
	expect((await outlines(page)).map((o) => o.closed)).toEqual([false, false]);
	expect(at(0, 0)).toBeDefined();
});

test('trim needs no entering: several stretches pointed at in one go, by an outline picked beforehand', async ({
	page
}) => {
	await open(page, 'M0 20H90', 'M30 0V40', 'M60 0V40');
	await page.keyboard.press('Shift+T');
	await expect(page.locator('[data-fact=taken]')).toHaveText('0');
	const view = await placesNow(page);
	await click(page, view.at(45, -20));
	await expect(page.locator('[data-fact=taken]')).toHaveText('1');
	await click(page, view.at(30, -5));
	await expect(page.locator('[data-fact=taken]')).toHaveText('2');
	await page.locator('[data-act=trim-back]').click();
	await expect(page.locator('[data-fact=taken]')).toHaveText('1');
	await keep(page);
	expect((await outlines(page)).length).toBe(4);
	await page.keyboard.press('Control+z');
	// Only by the one that was picked.
	await pick(page, 'Part 2');
	await page.locator('[role=application]').focus();
	await page.keyboard.press('Shift+T');
	const again = await placesNow(page);
	await click(page, again.at(45, -20));
	await keep(page);
	const line = await one(page);
	expect(Math.max(...xs(line))).toBeCloseTo(30, 6);
});

test('a line is extended to the next one, by a typed length, and shortened; its end can be pulled', async ({
	page
}) => {
	await open(page, 'M10 20H40', 'M70 0V40');
	await pick(page, 'Part 1');
	await page.locator('[role=application]').focus();
	await page.keyboard.press('Shift+Z');
	await page.locator('[data-choice=boundary]').click();
	await keep(page);
	expect(Math.max(...xs(await one(page)))).toBeCloseTo(70, 6);
	await page.keyboard.press('Control+z');
	await page.keyboard.press('Shift+Z');
	await page.locator('[data-choice=length]').click();
	await page.locator('.tray').getByLabel('by', { exact: true }).fill('12.5');
	await page.keyboard.press('Enter');
	await expect(page.locator('[data-fact=length]')).toContainText('42.5 mm');
	await keep(page);
	expect(Math.max(...xs(await one(page)))).toBeCloseTo(52.5, 6);
	await command(page, 'shorten');
	const view = await placesNow(page);
	await drag(page, view.at(52.5, -20), view.at(30, -20));
	await keep(page);
	expect(Math.max(...xs(await one(page)))).toBeCloseTo(30, 0);
});

test('a corner between two lines: rounded, another of the possible ones, one outline afterwards', async ({
	page
}) => {
	await open(page, 'M10 20H80', 'M40 0V50');
	await page.keyboard.press('Control+a');
	await command(page, 'corner of two');
	await page.locator('.tray').getByLabel('Radius').fill('5');
	await page.keyboard.press('Enter');
	await expect(page.locator('.facts')).toContainText('of 4 ways');
	await page.locator('[data-act=next-corner]').click();
	await expect(page.locator('.facts')).toContainText('2 of 4 ways');
	await keep(page);
	const list = await outlines(page);
	expect(list).toHaveLength(1);
	// A true arc of the radius: bulge tan(90 / 4).
	const bulges = list[0].points.filter((_, k) => k % 7 === 6).map(Math.abs);
	expect(Math.max(...bulges)).toBeCloseTo(Math.tan(Math.PI / 8), 9);
	await page.keyboard.press('Control+z');
	expect(await outlines(page)).toHaveLength(2);
});

test('the start is moved, holes are laid beside their piece; each is one step', async ({ page }) => {
	await open(page, 'M10 10H50V50H10Z', 'M20 20H40V40H20Z');
	await pick(page, 'Part 1');
	await page.locator('[role=application]').focus();
	const before = await one(page);
	await command(page, 'holes out');
	expect(Math.min(...xs(await one(page, 'Part 2')))).toBeCloseTo(55, 6);
	await page.keyboard.press('Control+z');
	await pick(page, 'Part 1');
	await page.locator('[role=application]').focus();
	await page.keyboard.press('e');
	const view = await fitAll(page);
	await click(page, view.at(50, -50));
	await command(page, 'start here');
	const now = await one(page);
	expect([now.points[0], now.points[1]]).toEqual([50, -50]);
	expect([...now.anchors].sort()).toEqual([...before.anchors].sort());
});

test('stretches: a straight goes whole, two go together, arrows move them; both ends of a hem keep to their own side', async ({
	page
}) => {
	await open(page, 'M10 10H50L58 50H2Z');
	await pick(page, 'Part 1');
	await page.locator('[role=application]').focus();
	await page.keyboard.press('e');
	const { at, scale } = await fitAll(page);
	const low = at(30, -50);
	await click(page, low);
	await page.keyboard.press('Shift+ArrowDown');
	expect(places(await one(page)).filter(([, y]) => Math.abs(y + 51) < 1e-9)).toHaveLength(2);
	await page.keyboard.press('Control+z');
	// A hem: the side before is asked for; each end lengthens its own slanted side.
	await page.keyboard.press('z');
	await click(page, at(58, -50));
	await page.keyboard.down('Shift');
	await click(page, at(2, -50));
	await page.keyboard.up('Shift');
	const from = at(58, -50);
	await drag(page, from, { x: from.x + 8 * scale * 0.25, y: from.y + 40 * scale * 0.25 });
	const hem = places(await one(page)).filter(([, y]) => y < -52);
	expect(hem).toHaveLength(2);
	const [p, q] = hem.sort(([a], [b]) => a - b);
	expect(p[1]).toBeCloseTo(q[1], 6);
	expect((q[0] - 50) / (-10 - q[1])).toBeCloseTo(8 / 40, 6);
	expect((10 - p[0]) / (-10 - p[1])).toBeCloseTo(8 / 40, 6);
	await page.keyboard.press('Control+z');
	// Two stretches at once.
	await page.keyboard.press('Escape');
	await click(page, low);
	await page.keyboard.down('Shift');
	await click(page, at(30, -10));
	await page.keyboard.up('Shift');
	await page.keyboard.down('Control');
	await drag(page, low, { x: low.x + 40, y: low.y });
	await page.keyboard.up('Control');
	expect(Math.min(...xs(await one(page)))).toBeCloseTo(2 + 40 / scale, 1);
});

test('a handle keeps its direction with Shift and its length with Ctrl; a typed one that points back is left alone', async ({
	page
}) => {
	await open(page, 'M10 40C25 25 60 25 80 40');
	await pick(page, 'Part 1');
	await page.locator('[role=application]').focus();
	await page.keyboard.press('e');
	const { at } = await fitAll(page);
	await click(page, at(10, -40));
	const handle = async () => {
		const o = await one(page);
		const [x, y] = [o.points[4] - o.points[0], o.points[5] - o.points[1]];
		return { length: Math.hypot(x, y), angle: (Math.atan2(y, x) * 180) / Math.PI };
	};
	const was = await handle();
	const end = at(25, -25);
	await page.keyboard.down('Shift');
	await drag(page, end, { x: end.x + 60, y: end.y - 40 });
	await page.keyboard.up('Shift');
	let now = await handle();
	expect(now.angle).toBeCloseTo(was.angle, 9);
	expect(now.length).not.toBeCloseTo(was.length, 1);
	await page.keyboard.press('Control+z');
	await page.keyboard.down('Control');
	await drag(page, end, { x: end.x + 60, y: end.y - 10 });
	await page.keyboard.up('Control');
	now = await handle();
	expect(now.length).toBeCloseTo(was.length, 9);
	expect(now.angle).not.toBeCloseTo(was.angle, 0);
	await page.getByTestId('anchor').getByLabel('angle').first().fill('170');
	await page.keyboard.press('Enter');
	await page.locator('[role=application]').focus();
	await page.keyboard.press('Shift+H');
	await expect(page.getByTestId('notice')).toContainText('No handle crosses');
});

test('picked anchors are turned, scaled, lined up and spread as a group; a circle takes its diameter, a shape its place', async ({
	page
}) => {
	await open(page, 'M10 10L30 14L50 10L70 18');
	await pick(page, 'Part 1');
	await page.locator('[role=application]').focus();
	await page.keyboard.press('e');
	await page.keyboard.press('Control+a');
	await command(page, 'line up: top');
	expect(new Set(places(await one(page)).map(([, y]) => y)).size).toBe(1);
	await page.keyboard.press('Control+z');
	await command(page, 'spread across');
	expect(xs(await one(page))).toEqual([10, 30, 50, 70]);
	await page.keyboard.press('Shift+P');
	await page.locator('.tray').getByLabel('turn').fill('90');
	await page.keyboard.press('Enter');
	await expect(page.locator('.facts')).toContainText('4 anchors');
	await keep(page);
	const turned = places(await one(page));
	expect(Math.max(...turned.map(([, y]) => y)) - Math.min(...turned.map(([, y]) => y))).toBeCloseTo(60, 6);
	await page.keyboard.press('Escape');
	await page.keyboard.press('Escape');
	await page.keyboard.press('Escape');
	// A circle: its diameter typed, then its lower left place.
	await page.keyboard.press('l');
	await page.locator('[data-choice=circle]').first().click();
	const { at } = await placesNow(page);
	await drag(page, at(40, -30), at(45, -30));
	const recipe = page.getByTestId('recipe');
	await recipe.getByLabel('diameter').waitFor();
});

test('touch: pick more, let go on free paper, take away by a tap; a double tap goes in and adds no anchor', async ({
	browser
}) => {
	const context = await browser.newContext({ hasTouch: true, viewport: { width: 1024, height: 768 } });
	const page = await context.newPage();
	const { at } = await open(page, 'M10 10H50V40H10Z', 'M60 10H90V40H60Z');
	const tap = (p: { x: number; y: number }) => page.touchscreen.tap(p.x, p.y);
	await tap(at(30, -10));
	await expect(page.locator('.tag').getByLabel('Name', { exact: true })).toHaveValue('Part 1');
	await page.locator('[data-act=pick-more]').tap();
	await tap(at(75, -10));
	await expect(page.locator('.tag')).toContainText('2 outlines');
	await tap(at(75, -10));
	await expect(page.locator('.tag').getByLabel('Name', { exact: true })).toHaveValue('Part 1');
	await page.locator('[data-act=pick-more]').tap();
	// Two taps at one place: in, and no anchor more.
	await tap(at(30, -10));
	await tap(at(30, -10));
	await expect(page.locator('.tag')).toContainText('anchors');
	const { pointer } = await saved(page);
	await expect(page.locator('[data-command=enter]')).toBeVisible();
	expect((await one(page)).anchors).toHaveLength(4);
	// Several anchors by the switch, one taken away again, all let go on free paper.
	await page.locator('[data-act=pick-more]').tap();
	await tap(at(10, -10));
	await tap(at(50, -10));
	await expect(page.getByTestId('anchor')).toContainText('2 anchors');
	await tap(at(50, -10));
	await expect(page.getByTestId('anchor').locator('b').first()).toHaveText('anchor');
	await page.locator('[data-act=pick-more]').tap();
	await tap(at(30, -25));
	await expect(page.getByTestId('anchor')).toHaveCount(0);
	expect((await saved(page)).pointer).toBe(pointer);
	await context.close();
});

test('the distance of an offset is pulled on its line; across the outline it goes inside', async ({
	page
}) => {
	await open(page, 'M20 10H60V40H20Z');
	await page.keyboard.press('o');
	await page.getByLabel('Distance').fill('2');
	await page.keyboard.press('Enter');
	await expect(page.locator('[data-act=keep]')).toBeEnabled();
	const view = await placesNow(page);
	await drag(page, view.at(18, -25), view.at(15, -25));
	await expect(page.getByLabel('Distance')).toHaveValue(/^(4\.9|5|5\.0)\d* mm$/);
	await expect(page.locator('[data-act=keep]')).toBeEnabled();
	const again = await placesNow(page);
	await drag(page, again.at(15, -25), again.at(26, -25));
	await expect(page.getByLabel('Distance')).toHaveValue(/^(5\.9|6|6\.0)\d* mm$/);
	await expect(page.locator('.tray [data-choice=inside]')).toHaveAttribute('data-state', 'checked');
	await page.locator('[data-act=leave]').click();
	expect(await outlines(page)).toHaveLength(1);
});

test('a second press on a line puts an anchor there, and pulls it if it is not let go: one step', async ({
	page
}) => {
	await open(page, 'M10 10H50V40H10Z');
	await pick(page, 'Part 1');
	await page.locator('[role=application]').focus();
	await page.keyboard.press('e');
	const { at } = await fitAll(page);
	const steps = (await saved(page)).pointer;
	const middle = at(30, -10);
	await page.keyboard.down('Control');
	await page.mouse.move(middle.x, middle.y);
	await page.mouse.down();
	await page.mouse.up();
	await page.mouse.down();
	await page.mouse.move(middle.x, middle.y - 20, { steps: 3 });
	await page.mouse.move(middle.x, middle.y - 30, { steps: 3 });
	await page.mouse.up();
	await page.keyboard.up('Control');
	const o = await one(page);
	expect(o.anchors).toHaveLength(5);
	expect((await saved(page)).pointer).toBe(steps + 1);
	const added = places(o).find(([x]) => Math.abs(x - 30) < 0.5)!;
	expect(added[1]).toBeGreaterThan(-9);
	await page.keyboard.press('Control+z');
	expect((await one(page)).anchors).toHaveLength(4);
});

test('shapes catch on the weave; a finger draws two anchors where it taps twice apart, and boxes with something picked', async ({
	browser
}) => {
	const context = await browser.newContext({ hasTouch: true, viewport: { width: 1024, height: 768 } });
	const page = await context.newPage();
	await newDrawing(page);
	await page.locator('[role=application]').focus();
	await page.keyboard.press('y');
	await page.keyboard.press('Shift+S');
	const { at } = await placesNow(page);
	await drag(page, at(20.4, -59.7), at(60.3, -89.8));
	const [shape] = await outlines(page);
	expect(xs(shape).sort((a, b) => a - b)).toEqual([20, 20, 60, 60]);
	await page.keyboard.press('Escape');
	await page.keyboard.press('y');
	// Taps 25 px apart, one right after the other.
	await page.keyboard.press('l');
	const from = at(100, -60);
	for (const [dx, dy] of [
		[0, 0],
		[25, 0],
		[50, 0],
		[50, 60]
	])
		await page.touchscreen.tap(from.x + dx, from.y + dy);
	await page.keyboard.press('Enter');
	await page.keyboard.press('Escape');
	const line = (await outlines(page)).find((o) => !o.closed)!;
	expect(line.anchors).toHaveLength(4);
	// With the switch a finger draws a box, though something is picked.
	await page.keyboard.press('e');
	await page.keyboard.press('n');
	await expect(page.getByTestId('anchor')).toBeVisible();
	await page.locator('[data-act=pick-more]').tap();
	const client = await context.newCDPSession(page);
	const touch = (type: 'touchStart' | 'touchMove' | 'touchEnd', p?: { x: number; y: number }) =>
		client.send('Input.dispatchTouchEvent', { type, touchPoints: p ? [p] : [] });
	await touch('touchStart', { x: from.x - 30, y: from.y - 30 });
	for (let k = 1; k <= 6; k++) await touch('touchMove', { x: from.x - 30 + 20 * k, y: from.y - 30 + 20 * k });
	await touch('touchEnd');
	await expect(page.getByTestId('anchor')).toContainText('4 anchors');
	await context.close();
});
