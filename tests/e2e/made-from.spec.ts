/** What is made from other lines and goes on following them: bands, bridges, corners, combined outlines; grades of a size run. */
import { expect, test, type Page } from '@playwright/test';
import sharp from 'sharp';
import {
	command,
	drag,
	fitAll,
	give,
	listen,
	newDrawing,
	pick,
	places,
	placesNow,
	saved,
	type SavedOutline
} from './hands';

type Made = SavedOutline & {
	recipe?: { kind: string; settings: Record<string, never> & { widths: unknown[]; width: number } };
	purpose?: string;
	hidden?: boolean;
};
const outlines = async (page: Page) => (await saved(page)).outlines as unknown as Made[];
const named = async (page: Page, name: string) => (await outlines(page)).find((o) => o.name === name)!;
const steps = (page: Page, n: number) => expect.poll(async () => (await saved(page)).pointer).toBe(n);
const extent = (o: SavedOutline, axis: 0 | 1) => {
	const all = places(o).map((p) => p[axis]);
	return Math.max(...all) - Math.min(...all);
};
/** Two bars, an open strand with a corner, and a rib beside it, from an SVG in mm. */
const LINES = `<svg xmlns="http://www.w3.org/2000/svg" width="120mm" height="80mm" viewBox="0 0 120 80">
<path d="M10 10H40V30H10Z"><title>Bar</title></path><path d="M30 20H60V40H30Z"><title>Slat</title></path>
<path d="M10 60H40L60 60" fill="none" stroke="#000"><title>Strand</title></path>
<path d="M80 70V20" fill="none" stroke="#000"><title>Rib</title></path></svg>`;
async function lines(page: Page) {
	await newDrawing(page);
	await give(page, 'lines.svg', 'image/svg+xml', Buffer.from(LINES));
	await expect(page.locator('[data-station=trace]')).toContainText('4 outlines');
	await page.keyboard.press('Escape');
	return fitAll(page);
}
const keep = async (page: Page) => {
	await expect(page.locator('[data-act=keep]')).toBeEnabled();
	await page.locator('[data-act=keep]').click();
};

test('a band: typed, a stretch wider than the rest, pulled by its edge, changed again, following its line', async ({
	page
}) => {
	const troubles = listen(page);
	await lines(page);
	const start = (await saved(page)).pointer;
	await pick(page, 'Strand');
	await command(page, 'strap');
	await page.getByLabel('Width', { exact: true }).fill('4');
	await page.keyboard.press('Enter');
	await page.getByText('cut straight', { exact: true }).click();
	await expect(page.locator('[data-fact=pieces]')).toHaveText('1');
	const { at } = await placesNow(page);
	// The second stretch is pressed and gets its own width; Esc lets it go, and the band is still there to be kept.
	const spot = at(50, -60);
	await page.mouse.click(spot.x, spot.y);
	await page.getByLabel('This stretch from').fill('4');
	await page.keyboard.press('Enter');
	await page.getByLabel('to', { exact: true }).fill('10');
	await page.keyboard.press('Enter');
	await page.locator('[role=application]').focus();
	await page.keyboard.press('Escape');
	await expect(page.getByLabel('This stretch from')).toHaveCount(0);
	await keep(page);
	await steps(page, start + 1);
	const band = await named(page, 'Strand, band');
	expect(band.recipe!.kind).toBe('band');
	expect(band.closed).toBe(true);
	expect(extent(band, 0)).toBeCloseTo(50, 3);
	expect(extent(band, 1)).toBeCloseTo(10, 3);

	// The line gets longer by hand: the band goes along.
	await pick(page, 'Strand');
	await page.keyboard.press('e');
	const view = await fitAll(page);
	await drag(page, view.at(60, -60), view.at(70, -60));
	await steps(page, start + 2);
	expect(extent(await named(page, 'Strand, band'), 0)).toBeCloseTo(extent(await named(page, 'Strand'), 0), 3);

	// The band is changed again, pulled to its width, and taken back.
	await page.keyboard.press('Escape');
	await pick(page, 'Strand, band');
	await command(page, 'band');
	await expect(page.locator('[data-fact=pieces]')).toHaveText('1');
	const near = await placesNow(page);
	await drag(page, near.at(20, -58), near.at(20, -56));
	await expect.poll(() => page.getByLabel('Width', { exact: true }).inputValue()).not.toBe('4 mm');
	await keep(page);
	await steps(page, start + 3);
	expect((await named(page, 'Strand, band')).recipe!.settings.width).toBeGreaterThan(6);
	await page.keyboard.press('Control+z');
	await steps(page, start + 2);
	expect((await named(page, 'Strand, band')).recipe!.settings.width).toBe(4);
	expect(troubles).toEqual([]);
});

test('combined outlines that stay as guides are followed; moved apart, two pieces; made plain at a press', async ({
	page
}) => {
	const troubles = listen(page);
	await lines(page);
	const start = (await saved(page)).pointer;
	await pick(page, 'Bar', 'Slat');
	await command(page, 'unite');
	await page.getByText('stay as guides', { exact: true }).click();
	await expect(page.getByText('it follows them from now on')).toBeVisible();
	await keep(page);
	await steps(page, start + 1);
	expect((await named(page, 'Bar')).purpose).toBe('guide');
	expect((await named(page, 'Bar, united')).recipe!.kind).toBe('combined');
	expect(extent(await named(page, 'Bar, united'), 0)).toBeCloseTo(50, 6);
	await pick(page, 'Slat');
	for (let k = 0; k < 14; k++) await page.keyboard.press('Shift+ArrowRight');
	await expect
		.poll(async () => (await outlines(page)).filter((o) => o.recipe?.kind === 'combined').length)
		.toBe(2);
	await page.keyboard.press('Escape');
	await pick(page, 'Bar, united');
	await page.getByRole('button', { name: 'make plain' }).click();
	await expect.poll(async () => (await outlines(page)).filter((o) => o.recipe).length).toBe(0);
	expect(troubles).toEqual([]);
});

test('a bridge and a corner by themselves follow both lines; the radius stays a field', async ({ page }) => {
	const troubles = listen(page);
	await lines(page);
	const start = (await saved(page)).pointer;
	await pick(page, 'Strand', 'Rib');
	await command(page, 'corner of two lines');
	await page.locator('[data-act=one-outline]').click();
	await page.getByLabel('Radius').fill('6');
	await page.keyboard.press('Enter');
	await keep(page);
	await steps(page, start + 1);
	const corner = await named(page, 'Strand, corner');
	expect(corner.recipe!.kind).toBe('corner');
	expect((await named(page, 'Rib')).purpose).toBe('guide');
	await pick(page, 'Strand, corner');
	await page.getByTestId('recipe').getByLabel('radius').fill('200');
	await page.keyboard.press('Enter');
	await expect(page.getByText(/largest that does/).first()).toBeVisible();
	await page.keyboard.press('Escape');
	await page.keyboard.press('Escape');

	await pick(page, 'Strand', 'Rib');
	await command(page, 'bridge');
	await page.locator('[data-act=one-outline]').click();
	await keep(page);
	await steps(page, start + 2);
	const bridge = await named(page, 'Bridge');
	expect(bridge.recipe!.kind).toBe('bridge');
	await pick(page, 'Rib');
	for (let k = 0; k < 3; k++) await page.keyboard.press('Shift+ArrowUp');
	await expect
		.poll(async () => {
			const [b, r] = [await named(page, 'Bridge'), await named(page, 'Rib')];
			const end = b.points.slice(-7);
			return Math.min(...[0, 7].map((k) => Math.hypot(r.points[k] - end[0], r.points[k + 1] - end[1])));
		})
		.toBeLessThan(1e-6);
	expect((await named(page, 'Bridge')).points).not.toEqual(bridge.points);
	expect(troubles).toEqual([]);
});

test('a size run: begun, a table pasted, a grade drawn, all nested and drawn anew', async ({ page }) => {
	const troubles = listen(page);
	await lines(page);
	await pick(page, 'Bar');
	await page.keyboard.press('e');
	const { at } = await fitAll(page);
	const side = at(25, -30);
	await page.mouse.click(side.x, side.y);
	await command(page, 'hold the length');
	await expect(page.getByLabel('Held length')).toBeVisible();
	await page.locator('[role=application]').focus();
	await command(page, 'grading');
	await page.getByLabel('New size: its name').fill('girth');
	await page.getByLabel('New size: its value').fill('120');
	await page.keyboard.press('Enter');
	await expect(page.locator('[data-size=girth]')).toBeVisible();
	await page.getByRole('button', { name: 'Leave' }).last().click();
	const held = page.getByLabel('Held length');
	await held.fill('girth / 4');
	await page.keyboard.press('Enter');
	await expect.poll(async () => (await saved(page)).others.some((r) => r.value === 'girth / 4')).toBe(true);
	await page.locator('[role=application]').focus();
	await command(page, 'grading');
	await page.getByLabel('New grade: its name').fill('S');
	await page.keyboard.press('Enter');
	await expect(page.getByRole('button', { name: 'Draw grade S' })).toHaveAttribute('aria-pressed', 'true');
	// A table from elsewhere, pasted.
	await page.evaluate(() => {
		const data = new DataTransfer();
		data.setData('text/plain', 'size\tS\tM\tL\ngirth\t120\t136\t152');
		window.dispatchEvent(new ClipboardEvent('paste', { clipboardData: data }));
	});
	await expect(page.getByLabel('Size girth, L')).toHaveValue('152');
	await page.getByRole('button', { name: 'Draw grade L' }).click();
	await expect.poll(async () => extent(await named(page, 'Bar'), 0)).toBeCloseTo(38, 5);
	// One value changed by hand, then all of them over each other; a second press draws them anew.
	await page.getByLabel('Size girth, M').fill('140');
	await page.keyboard.press('Enter');
	await page.locator('[data-act=nest-grades]').click();
	await expect.poll(async () => (await outlines(page)).length).toBe(6);
	await page.locator('[data-act=nest-grades]').click();
	await expect
		.poll(async () => (await saved(page)).others.filter(({ type }) => type === 'group').length)
		.toBe(2);
	expect((await outlines(page)).length).toBe(6);
	expect(extent(await named(page, 'Bar, M'), 0)).toBeCloseTo(35, 5);
	expect(extent(await named(page, 'Bar, S'), 0)).toBeCloseTo(30, 5);
	await page.getByRole('button', { name: 'Leave' }).last().click();
	await page.keyboard.press('Control+z');
	expect(troubles).toEqual([]);
});

test('a rosette out of one line, its centre where the ends fit, then more leaves by its field', async ({
	page
}) => {
	const troubles = listen(page);
	await lines(page);
	const start = (await saved(page)).pointer;
	await pick(page, 'Rib');
	await command(page, 'kaleidoscope');
	await page.getByLabel('Times').fill('5');
	await page.keyboard.press('Enter');
	await page.locator('[data-act=fit-centre]').click();
	await keep(page);
	await steps(page, start + 1);
	const made = await named(page, 'Rib, rosette');
	expect(made.closed).toBe(true);
	expect(made.anchors).toHaveLength(5);
	expect((await named(page, 'Rib')).purpose).toBe('guide');
	await page.getByTestId('recipe').getByLabel('times').fill('8');
	await page.keyboard.press('Enter');
	await steps(page, start + 2);
	expect((await named(page, 'Rib, rosette')).anchors).toHaveLength(8);
	// A closed line is refused in a sentence.
	await page.keyboard.press('Escape');
	await pick(page, 'Bar');
	await command(page, 'rosette');
	await expect(page.getByText('Select one open line').first()).toBeVisible();
	expect(troubles).toEqual([]);
});

test('a facing of a pressed edge, one more, then deeper by its field; symmetry tells how far the other half goes', async ({
	page
}) => {
	const troubles = listen(page);
	await lines(page);
	const start = (await saved(page)).pointer;
	await pick(page, 'Bar');
	await command(page, 'facing');
	await page.getByLabel('Depth').fill('5');
	await page.keyboard.press('Enter');
	const { at } = await placesNow(page);
	const edge = at(25, -30);
	await page.mouse.click(edge.x, edge.y);
	await expect(page.locator('[data-act=keep]')).toBeEnabled();
	// Once too often, and back.
	await page.mouse.click(edge.x, edge.y);
	await expect(page.getByText('no edge is faced yet')).toBeVisible();
	await page.getByRole('button', { name: 'edge 1', exact: true }).click();
	await keep(page);
	await steps(page, start + 1);
	const facing = await named(page, 'Bar, facing');
	expect([extent(facing, 0), extent(facing, 1)].sort((a, b) => a - b)[0]).toBeCloseTo(5, 6);
	await page.getByTestId('recipe').getByLabel('depth').fill('8');
	await page.keyboard.press('Enter');
	await steps(page, start + 2);
	const deeper = await named(page, 'Bar, facing');
	expect([extent(deeper, 0), extent(deeper, 1)].sort((a, b) => a - b)[0]).toBeCloseTo(8, 6);

	await page.keyboard.press('Escape');
	await pick(page, 'Slat');
	await command(page, 'symmetry');
	await expect(page.locator('[data-fact=drift]')).toHaveText('0 mm');
	await page.getByLabel('Axis x').fill('50');
	await page.keyboard.press('Enter');
	await expect(page.locator('[data-fact=drift]')).toHaveText('10 mm');
	await page.locator('[data-act=find-axis]').click();
	await expect(page.locator('[data-fact=drift]')).toHaveText('0 mm');
	await keep(page);
	await steps(page, start + 3);
	expect(extent(await named(page, 'Slat'), 0)).toBeCloseTo(30, 4);
	expect(troubles).toEqual([]);
});

test('a picture traced again: beside the earlier lines, or in their place; undo brings them back', async ({
	page
}) => {
	const troubles = listen(page);
	await page.goto('/');
	await page.locator('[data-act=new]').click();
	await expect(page.locator('canvas').first()).toBeVisible();
	await give(page, 'moon.svg.png', 'image/png', await moon());
	await expect(page.locator('[data-station=size]')).toContainText('True size is set');
	const trace = async (replacing: boolean) => {
		await page.locator('[role=application]').focus();
		await page.keyboard.press('t');
		await expect(page.locator('[data-act=keep]')).toBeEnabled();
		if (replacing) await page.locator('[data-act=replace-traced]').click();
		await page.locator('[data-act=keep]').click();
	};
	await trace(false);
	await expect.poll(async () => (await outlines(page)).length).toBe(1);
	const [first] = await outlines(page);
	await trace(true);
	await expect.poll(async () => (await outlines(page))[0]?.id).not.toBe(first.id);
	expect(await outlines(page)).toHaveLength(1);
	await trace(false);
	await expect.poll(async () => (await outlines(page)).length).toBe(2);
	await page.keyboard.press('Control+z');
	await page.keyboard.press('Control+z');
	await expect.poll(async () => (await outlines(page)).map(({ id }) => id)).toEqual([first.id]);
	expect(troubles).toEqual([]);
});

/** A dark disc on white, 60 mm at 10 px/mm. */
const moon = () =>
	sharp(
		Buffer.from(
			'<svg xmlns="http://www.w3.org/2000/svg" width="600" height="600"><rect width="600" height="600" fill="#fff"/><circle cx="300" cy="300" r="200"/></svg>'
		)
	)
		.withMetadata({ density: 254 })
		.png()
		.toBuffer();
