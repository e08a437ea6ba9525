/** Pieces on the sheet and on paper: arranged, kept, put back; a hide with a spoilt place; PDF, print and PNG of true size. */
import { expect, test, type Page } from '@playwright/test';
import { PDFDocument } from 'pdf-lib';
import { EdgeTree } from '../../src/lib/core/geometry/edge-tree';
import {
	command,
	drag,
	exported,
	fitAll,
	framesDrawn,
	give,
	listen,
	newDrawing,
	openDemo,
	pick,
	places,
	saved,
	type SavedOutline
} from './hands';

async function arrange(page: Page): Promise<void> {
	await page.locator('[data-station=sheet]').click();
	await page.locator('[data-command=arrange]').click();
	await expect(page.locator('[data-fact=placed]')).toBeVisible();
}
const flat = (o: SavedOutline) => Float64Array.from(places(o, 24).flat());
/** How near outlines of different pieces come to each other, mm. */
function nearest(pieces: readonly SavedOutline[]): number {
	let least = Infinity;
	for (const [i, a] of pieces.entries()) {
		const tree = new EdgeTree([{ points: flat(a), closed: true }]);
		for (const b of pieces.slice(i + 1))
			for (const [x, y] of places(b, 24)) least = Math.min(least, tree.distance(x, y));
	}
	return least;
}

test('traced pieces are arranged on a sheet, kept at any time, put back by one press', async ({ page }) => {
	const troubles = listen(page);
	await openDemo(page, 'Fox puppet, scanned parts');
	await page.keyboard.press('t');
	await page.locator('[data-act=keep]').click();
	await expect(page.locator('[data-station=trace]')).toContainText('21 outlines');
	// Without a sheet it says what is missing.
	await command(page, 'arrange');
	await expect(page.getByText('There is no sheet yet')).toBeVisible();
	await page.locator('[data-station=sheet]').click();
	await page.locator('[data-sheet="A3"]').click();
	const before = (await saved(page)).outlines;
	await arrange(page);
	await expect(page.locator('[data-fact=placed]')).toHaveText('8');
	await page.getByRole('radio', { name: 'Any way' }).or(page.getByText('Any way')).first().click();
	await expect(page.locator('[data-fact=placed]')).toHaveText('8');
	await page.locator('[data-act=enough]').click();
	await expect(page.getByTestId('arrange-facts')).toHaveAttribute('data-searching', 'false');
	const usage = Number(await page.locator('[data-fact=usage]').innerText());
	// It looks further from there, and never comes out worse.
	await page.locator('[data-act=further]').click();
	await page.locator('[data-act=enough]').click();
	expect(Number(await page.locator('[data-fact=usage]').innerText())).toBeGreaterThanOrEqual(usage);
	await page.keyboard.press('Enter');
	await expect(page.locator('[data-command=put-back]')).toBeVisible();
	await expect.poll(async () => (await saved(page)).pointer).toBe(3);
	const { outlines } = await saved(page);
	const outer = outlines.filter((o) => !/hole/i.test(o.name));
	expect(outer).toHaveLength(8);
	expect(nearest(outer)).toBeGreaterThan(2 - 0.01);
	await page.locator('[data-command=put-back]').click();
	await expect.poll(async () => (await saved(page)).pointer).toBe(4);
	for (const o of (await saved(page)).outlines) {
		const was = before.find(({ id }) => id === o.id)!;
		places(o).forEach(([x, y], i) => {
			expect(x).toBeCloseTo(places(was)[i][0], 6);
			expect(y).toBeCloseTo(places(was)[i][1], 6);
		});
	}
	await page.keyboard.press('Control+z');
	await expect.poll(async () => (await saved(page)).pointer).toBe(3);
	expect(troubles).toEqual([]);
});

test('an outline becomes the sheet; what is larger is named; Esc leaves everything as it was', async ({
	page
}) => {
	await openDemo(page, 'Owl, a rough old trace');
	await pick(page, 'Moon');
	await page.locator('[data-station=sheet]').click();
	await page.locator('[data-command=sheet-from-outline]').click();
	await expect(page.getByTestId('sheet')).toContainText('Moon');
	const steps = (await saved(page)).pointer;
	await page.keyboard.press('Escape');
	await page.keyboard.press('Escape');
	await arrange(page);
	// The owl is larger than the moon: it is named.
	await expect(page.locator('[data-fact=left]')).toBeVisible();
	await page.keyboard.press('Escape');
	await expect(page.locator('[data-command=arrange]')).toBeVisible();
	expect((await saved(page)).pointer).toBe(steps);
});

test('on paper: pages lie over the drawing; PDF, print and PNG are of true size', async ({ page }) => {
	const troubles = listen(page);
	await openDemo(page, 'Control bars and a mask');
	await command(page, 'print');
	await expect(page.getByTestId('paper-facts')).toContainText('page');
	await page.locator('[data-pick=paper]').selectOption('a5');
	const pages = Number(await page.locator('[data-fact=pages]').innerText());
	expect(pages).toBeGreaterThan(2);
	const pdfBytes = await exported(page, page.locator('[data-act=write-pdf]'));
	const pdf = await PDFDocument.load(pdfBytes);
	expect(pdf.getPageCount()).toBe(pages);
	const mm = (doc: PDFDocument) =>
		doc
			.getPages()
			.map((p) => [p.getWidth(), p.getHeight()].map((v) => (v / 72) * 25.4).sort((a, b) => a - b));
	for (const [short, long] of mm(pdf)) {
		expect(short).toBeCloseTo(148, 1);
		expect(long).toBeCloseTo(210, 1);
	}
	// The browser's print is held, and what it would print is looked at.
	await page.evaluate(() => {
		window.print = () => document.body.setAttribute('data-printing', '');
	});
	await page.locator('[data-act=print]').click();
	await expect(page.locator('body[data-printing]')).toBeAttached();
	const printed = await PDFDocument.load(await page.pdf({ preferCSSPageSize: true }));
	expect(printed.getPageCount()).toBe(pages);
	for (const [i, size] of mm(printed).entries())
		size.forEach((v, k) => expect(Math.abs(v - mm(pdf)[i][k])).toBeLessThan(0.5));
	await page.evaluate(() => window.dispatchEvent(new Event('afterprint')));
	await expect(page.locator('.printed-pages')).toHaveCount(0);

	const png = await exported(page, page.locator('[data-act=write-png]'));
	expect(png.subarray(37, 41).toString('latin1')).toBe('pHYs');
	expect(png.readUInt32BE(41)).toBe(11811);
	// As wide as the drawing at 300 dots in an inch.
	const [wide] = (await page.getByTestId('paper-facts').innerText()).match(/[\d.]+ mm/g)!;
	expect(Math.abs(png.readUInt32BE(16) - (parseFloat(wide) / 25.4) * 300)).toBeLessThan(2);
	// Opened again: every line comes back, however many pages it lay on.
	await page.keyboard.press('Escape');
	const before = (await saved(page)).outlines.length;
	await give(page, 'again.pdf', 'application/pdf', pdfBytes);
	// One of them crosses itself, and is parted where it does.
	await expect.poll(async () => (await saved(page)).outlines.length).toBe(2 * before + 1);
	expect(troubles).toEqual([]);
});

test('things are lined up by words, to one that is pressed, spread, and brought to the sheet', async ({
	page
}) => {
	const troubles = listen(page);
	await openDemo(page, 'Control bars and a mask');
	const left = (list: readonly SavedOutline[], name: string) =>
		Math.min(...places(list.find((o) => o.name === name)!).map(([x]) => x));
	await pick(page, 'Long bar', 'Cross bar', 'Card mask');
	const before = (await saved(page)).outlines;
	await command(page, 'align left edge');
	await expect(page.locator('[data-fact=moved]')).toBeVisible();
	await page.keyboard.press('Enter');
	await expect.poll(async () => (await saved(page)).pointer).toBe(1);
	const { outlines } = await saved(page);
	for (const name of ['Cross bar', 'Card mask'])
		expect(Math.abs(left(outlines, name) - left(outlines, 'Long bar'))).toBeLessThan(0.1);
	// The eyes went along with their mask.
	const eye = outlines.find((o) => o.name === 'Card mask, left eye')!;
	const was = before.find((o) => o.id === eye.id)!;
	expect(places(eye)[0][0] - places(was)[0][0]).toBeCloseTo(
		left(outlines, 'Card mask') - left(before, 'Card mask'),
		6
	);
	// A guide is pulled out of the ruler; pressed, it is what they are brought to.
	await drag(page, { x: 8, y: 300 }, { x: 500, y: 300 });
	await expect.poll(async () => (await saved(page)).others.filter((r) => r.type === 'guide').length).toBe(1);
	const guide = (await saved(page)).others.find((r) => r.type === 'guide') as unknown as { x: number };
	await pick(page, 'Long bar', 'Cross bar');
	await command(page, 'align right edge');
	await page.getByText('A guide', { exact: true }).click();
	await page.keyboard.press('Enter');
	await expect.poll(async () => (await saved(page)).pointer).toBe(3);
	const right = (o: SavedOutline) => Math.max(...places(o).map(([x]) => x));
	for (const name of ['Long bar', 'Cross bar'])
		expect(
			Math.abs(right((await saved(page)).outlines.find((o) => o.name === name)!) - guide.x)
		).toBeLessThan(0.1);
	await page.keyboard.press('Control+z');
	await page.keyboard.press('Control+z');
	await expect.poll(async () => (await saved(page)).pointer).toBe(1);
	// Spread with a typed gap, then left: nothing of that stays.
	await command(page, 'line up');
	await page.getByText('Gaps of').click();
	await expect(page.locator('[data-fact=moved]')).toBeVisible();
	await page.keyboard.press('Escape');
	expect((await saved(page)).pointer).toBe(1);
	await page.keyboard.press('Control+z');
	await expect.poll(async () => (await saved(page)).pointer).toBe(0);
	expect(left((await saved(page)).outlines, 'Card mask')).toBeCloseTo(left(before, 'Card mask'), 9);
	expect(troubles).toEqual([]);
});

test('a spoilt place is marked and given back', async ({ page }) => {
	await openDemo(page, 'Control bars and a mask');
	await pick(page, 'Card mask');
	await page.locator('[data-station=sheet]').click();
	await page.locator('[data-command=sheet-from-outline]').click();
	await expect.poll(async () => (await saved(page)).pointer).toBe(1);
	await pick(page, 'Card mask, left eye');
	await page.locator('[data-command=spoilt]').click();
	await expect.poll(async () => (await saved(page)).pointer).toBe(2);
	await page.locator('[data-fact=steps]').click();
	await expect(page.getByRole('button', { name: 'Leave places out' })).toBeVisible();
	await page.locator('[data-fact=steps]').click();
	await page.locator('[data-command=spoilt]').click();
	await expect.poll(async () => (await saved(page)).pointer).toBe(3);
	await page.locator('[data-fact=steps]').click();
	await expect(page.getByRole('button', { name: 'Use spoilt places again' })).toBeVisible();
});

test('purposes of their own for many lines at once, on the tag and by words; an SVG without what is a guide now', async ({
	page
}) => {
	const troubles = listen(page);
	await openDemo(page, 'Control bars and a mask');
	const written = async () => {
		await page.locator('[data-station=cut]').click();
		return (await exported(page, page.locator('[data-command=write-svg]'))).toString();
	};
	expect(await written()).toContain('Long bar');
	await pick(page, 'Long bar', 'Cross bar');
	const purpose = page.locator('[data-pick=purpose]');
	/** Where there is no room the tag is only a word, and opens by a press. */
	const openTag = async () => {
		await expect(purpose.or(page.locator('[data-act=open-tag]')).first()).toBeVisible();
		if (!(await purpose.isVisible())) await page.locator('[data-act=open-tag]').first().click();
	};
	await openTag();
	await expect(purpose).toHaveValue('layer');
	await purpose.selectOption('guide');
	await expect.poll(async () => (await saved(page)).pointer).toBe(1);
	const svg = await written();
	expect(svg).not.toContain('>Long bar<');
	expect(svg).toContain('Card mask');
	// One of them scored: both together are mixed.
	await pick(page, 'Cross bar');
	await command(page, 'fold line');
	await expect.poll(async () => (await saved(page)).pointer).toBe(2);
	await pick(page, 'Long bar', 'Cross bar');
	await openTag();
	await expect(purpose).toHaveValue('mixed');
	await purpose.selectOption('layer');
	await expect.poll(async () => (await saved(page)).pointer).toBe(3);
	expect(await written()).toContain('Long bar');
	expect(troubles).toEqual([]);
});

test('by hand: a dragged piece catches on others, is stopped at the gap, goes through with Ctrl, and is closed up', async ({
	page
}) => {
	const troubles = listen(page);
	await newDrawing(page);
	const svg = `<svg xmlns="http://www.w3.org/2000/svg" width="200mm" height="120mm" viewBox="0 0 200 120"><rect x="20" y="20" width="30" height="30"/><rect x="90" y="40" width="20" height="60"/></svg>`;
	await give(page, 'two.svg', 'image/svg+xml', Buffer.from(svg));
	await expect.poll(async () => (await saved(page)).outlines.length).toBe(2);
	await page.keyboard.press('Escape');
	const box = async (i: number) => {
		const xs = places((await saved(page)).outlines[i], 1);
		return {
			x0: Math.min(...xs.map(([x]) => x)),
			x1: Math.max(...xs.map(([x]) => x)),
			y0: Math.min(...xs.map(([, y]) => y)),
			y1: Math.max(...xs.map(([, y]) => y))
		};
	};
	// Without a sheet nothing stops it; its lower edge catches on that of the other one.
	const surface = page.locator('[role=application]');
	await surface.focus();
	await page.keyboard.press('Escape');
	let { at, scale } = await fitAll(page);
	let grip = at(20, -35);
	const slip = async (right: number, up: number, keys: readonly string[] = []) => {
		await page.mouse.move(grip.x, grip.y);
		await page.mouse.down();
		await page.mouse.move(grip.x + (right * scale) / 2, grip.y - (up * scale) / 2, { steps: 4 });
		for (const key of keys) await page.keyboard.down(key);
		await page.mouse.move(grip.x + right * scale, grip.y - up * scale, { steps: 4 });
		await framesDrawn(page);
		await page.mouse.up();
		for (const key of keys) await page.keyboard.up(key);
	};
	await page.mouse.click(grip.x, grip.y);
	await slip(3, 9.6);
	await expect.poll(async () => (await box(0)).y1).toBeCloseTo(-10, 0);
	await page.keyboard.press('Control+z');
	await expect.poll(async () => (await box(0)).y1).toBeCloseTo(-20, 6);
	await page.locator('[data-station=sheet]').click();
	await page.locator('[data-sheet="A3"]').click();
	await expect(page.getByTestId('sheet')).toBeVisible();
	({ at, scale } = await fitAll(page));
	const now = await box(0);
	grip = at(now.x0, (now.y0 + now.y1) / 2);
	await page.mouse.click(grip.x, grip.y);
	// Dragged into the other one it is stopped at the gap.
	await slip(45, -13.7);
	await expect.poll(async () => (await box(0)).x0).toBeGreaterThan(now.x0 + 20);
	const stopped = await box(0);
	const other = await box(1);
	expect(other.x0 - stopped.x1).toBeGreaterThan(2 - 0.01);
	expect(other.x0 - stopped.x1).toBeLessThan(2.3);
	// With Ctrl it goes through, and that is taken back.
	grip = at(stopped.x0, (stopped.y0 + stopped.y1) / 2);
	await slip(10, 0, ['Control']);
	await expect.poll(async () => Math.round((await box(0)).x0 - stopped.x0)).toBe(10);
	await page.keyboard.press('Control+z');
	await expect.poll(async () => (await box(0)).x0).toBeCloseTo(stopped.x0, 6);
	// Closed up: down and to the left, to the margin.
	await page.locator('[data-command=close-up]').click();
	const sheet = (await saved(page)).others.find(({ type }) => type === 'sheet') as unknown as {
		x: number;
		y: number;
		margin: number;
	};
	await expect.poll(async () => Math.abs((await box(0)).y0 - sheet.y - sheet.margin)).toBeLessThan(0.05);
	expect(Math.abs((await box(0)).x0 - sheet.x - sheet.margin)).toBeLessThan(0.05);
	expect(troubles).toEqual([]);
});

test('three of a piece are wanted, laid by the grain, on two sheets; each sheet goes to the machine by itself', async ({
	page
}) => {
	const troubles = listen(page);
	await newDrawing(page);
	const svg = `<svg xmlns="http://www.w3.org/2000/svg" width="300mm" height="200mm" viewBox="0 0 300 200"><rect x="20" y="20" width="230" height="150"/></svg>`;
	await give(page, 'plank.svg', 'image/svg+xml', Buffer.from(svg));
	await expect.poll(async () => (await saved(page)).outlines.length).toBe(1);
	await page.locator('[data-station=sheet]').click();
	await page.locator('[data-sheet="A3"]').click();
	await page.locator('[data-act=another-sheet]').click();
	// With the grain upward the plank is laid upright: two on a sheet.
	await page.getByLabel('Grain', { exact: true }).fill('90');
	await page.keyboard.press('Enter');
	await page.getByRole('tab').first().click();
	await page.getByLabel('Grain', { exact: true }).fill('90');
	await page.keyboard.press('Enter');
	await page.locator('[role=application]').focus();
	await page.keyboard.press('h');
	await pick(page, (await saved(page)).outlines[0].name);
	const open = page.locator('[data-act=open-tag]');
	if (await open.isVisible()) await open.click();
	await page.getByTestId('wanted').getByLabel('wanted').fill('3');
	await page.keyboard.press('Enter');
	await expect
		.poll(async () => ((await saved(page)).outlines[0] as unknown as { wanted?: number }).wanted)
		.toBe(3);
	if (await open.isVisible()) await open.click();
	await page.getByTestId('wanted').getByLabel('grain').fill('0');
	await page.keyboard.press('Enter');
	await arrange(page);
	await expect(page.locator('[data-fact=placed]')).toHaveText('3');
	await page.locator('[data-act=enough]').click();
	await page.keyboard.press('Enter');
	await expect.poll(async () => (await saved(page)).outlines.length).toBe(3);
	const { outlines, others } = await saved(page);
	for (const o of outlines) {
		const [xs, ys] = [places(o).map(([x]) => x), places(o).map(([, y]) => y)];
		expect(Math.max(...ys) - Math.min(...ys)).toBeCloseTo(230, 2);
		expect(Math.max(...xs) - Math.min(...xs)).toBeCloseTo(150, 2);
	}
	expect(nearest(outlines)).toBeGreaterThan(2 - 0.01);
	expect(others.filter(({ type }) => type === 'sheet')).toHaveLength(2);
	// Two lie on the first, one on the second: the machine cuts what lies on the sheet that is on it.
	await command(page, 'machine');
	await page.locator('[data-act=make-jobs]').click();
	const cuts = page.locator('[data-fact=cuts]');
	await expect(cuts).toHaveText('2');
	await page.locator('[data-pick=work-sheet]').selectOption({ index: 1 });
	await expect(cuts).toHaveText('1');
	expect(troubles).toEqual([]);
});
