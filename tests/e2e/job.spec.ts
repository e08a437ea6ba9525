/** A person's whole job, from the scanned demo picture to files for the machine. */
import { readFileSync } from 'node:fs';
import { expect, test } from '@playwright/test';
import { unwrap } from '../../src/lib/core/errors';
import { readDxf } from '../../src/lib/core/formats/dxf';
import { readSvg } from '../../src/lib/core/formats/svg';
import { pathArea, pathBox } from '../../src/lib/core/geometry/measure';
import type { Path } from '../../src/lib/core/geometry/path';
import { drag, exported, fact, fitAll, listen, openDemo, saved } from './hands';

const truth = unwrap(readSvg(readFileSync('static/demo/fox-parts.svg', 'utf8')));
/** The true outer outlines by size, largest first. */
const trueParts = truth.shapes.map((s) => s.paths[0]);

const width = (p: Path) => pathBox(p).x1 - pathBox(p).x0;
const height = (p: Path) => pathBox(p).y1 - pathBox(p).y0;

test('from the scan to a cut file', async ({ page }) => {
	const troubles = listen(page);
	await openDemo(page, 'Fox puppet, scanned parts');

	// The picture has its size from the file.
	const start = await saved(page);
	expect(start.references[0].pxPerMm).toBeCloseTo(200 / 25.4, 6);

	// Trace, live: the preview answers the closeness slider.
	await page.keyboard.press('t');
	await expect(page.locator('[data-act=keep]')).toBeEnabled();
	expect(await fact(page, 'outlines')).toBe(21);
	const anchors = await fact(page, 'anchors');
	expect(await fact(page, 'worst')).toBeLessThan(0.3);
	await page.getByRole('slider').nth(1).focus();
	for (let k = 0; k < 12; k++) await page.keyboard.press('ArrowRight');
	await expect.poll(() => fact(page, 'anchors')).toBeLessThan(anchors);
	await page.locator('[data-act=keep]').click();
	let now = await saved(page);
	expect(now.outlines).toHaveLength(21);
	expect(now.outlines.every((o) => o.closed)).toBe(true);

	// Enter the body, move an anchor by dragging; it goes exactly as far as the pointer.
	const view = await fitAll(page);
	const body = now.outlines.reduce((a, b) =>
		Math.abs(a.points[0] - 160) < Math.abs(b.points[0] - 160) && a.anchors.length > b.anchors.length ? a : b
	);
	const on = view.at(body.points[0], body.points[1]);
	await page.mouse.dblclick(on.x, on.y);
	const k = 3;
	const from = view.at(body.points[7 * k], body.points[7 * k + 1]);
	await drag(page, from, { x: from.x + 30, y: from.y - 18 });
	now = await saved(page);
	const moved = now.outlines.find((o) => o.id === body.id)!;
	expect(moved.points[7 * k]).toBeCloseTo(body.points[7 * k] + 30 / view.scale, 1);
	expect(moved.points[7 * k + 1]).toBeCloseTo(body.points[7 * k + 1] + 18 / view.scale, 1);
	expect(moved.points.slice(0, 7)).toEqual(body.points.slice(0, 7));

	// Typed place, arrows, kind.
	await page.getByLabel('x', { exact: true }).fill('2*50 + 0.5');
	await page.keyboard.press('Enter');
	now = await saved(page);
	expect(now.outlines.find((o) => o.id === body.id)!.points[7 * k]).toBe(100.5);
	await page.locator('[role=application]').focus();
	await page.keyboard.press('ArrowRight');
	await page.keyboard.press('Shift+ArrowUp');
	now = await saved(page);
	expect(now.outlines.find((o) => o.id === body.id)!.points[7 * k]).toBeCloseTo(100.6, 9);
	await page.locator('[data-kind=even]').click();
	now = await saved(page);
	expect(now.outlines.find((o) => o.id === body.id)!.marks[3 * k]).toBe(2);

	// Undo all of it, with the reload in the middle: the history survives.
	const done = now.pointer;
	await page.reload();
	await expect(page.locator('canvas').first()).toBeVisible();
	expect((await saved(page)).pointer).toBe(done);
	while ((await saved(page)).pointer > 1) await page.locator('[data-act=undo]').click();
	now = await saved(page);
	expect(now.outlines.find((o) => o.id === body.id)!.points).toEqual(body.points);

	// Add an anchor on the line without changing the shape, take it out again.
	const again = await fitAll(page);
	const first = again.at(body.points[0], body.points[1]);
	await page.mouse.dblclick(first.x, first.y);
	await page.keyboard.press('n');
	await page.keyboard.press('Escape');
	await page.keyboard.press('a');
	now = await saved(page);
	expect(now.outlines.find((o) => o.id === body.id)!.anchors.length).toBeGreaterThan(body.anchors.length);
	await page.keyboard.press('x');
	now = await saved(page);
	expect(now.outlines.find((o) => o.id === body.id)!.anchors.length).toBe(body.anchors.length);
	await page.locator('[data-act=undo]').click();
	await page.locator('[data-act=undo]').click();

	// Simplify: the drift is shown before it is applied.
	await page.keyboard.press('Escape');
	await page.keyboard.press('Escape');
	await page.keyboard.press('d');
	await expect(page.locator('[data-act=keep]')).toBeEnabled();
	const before = await fact(page, 'before');
	await expect.poll(() => fact(page, 'after')).toBeLessThan(before);
	// The least drift that gains is offered; what comes of it stays within, to what the facts are rounded to.
	await expect
		.poll(
			async () => (await fact(page, 'drift')) - parseFloat(await page.getByLabel('May drift').inputValue())
		)
		.toBeLessThan(0.006);
	// Of the chart's drifts the next one to the usual 0.1 mm is 0.113.
	expect(await fact(page, 'drift')).toBeLessThanOrEqual(0.12);
	await page.keyboard.press('Enter');
	now = await saved(page);
	expect(now.outlines.reduce((n, o) => n + o.anchors.length, 0)).toBeLessThan(before);

	// Offset everything outward by a typed distance.
	await page.keyboard.press('Escape');
	await page.keyboard.press('Escape');
	await page.keyboard.press('o');
	await page.getByLabel('Distance').fill('1/16 in');
	await page.keyboard.press('Enter');
	await expect(page.locator('[data-act=keep]')).toBeEnabled();
	await page.locator('[data-act=keep]').click();
	now = await saved(page);
	expect(now.outlines).toHaveLength(42);

	// Out as SVG and DXF; the sizes are those of the truth.
	await page.locator('[data-station=cut]').click();
	const svg = unwrap(readSvg((await exported(page, page.locator('[data-command=write-svg]'))).toString()));
	const all = svg.shapes.flatMap((s) => [...s.paths]);
	const drawn = new Set(now.outlines.filter((o) => /, outside/.test(o.name)).map((o) => o.name));
	expect(drawn.size).toBe(21);
	for (const part of trueParts) {
		const near = (p: Path, by: number) =>
			Math.abs(width(p) - width(part) - by) < 0.35 && Math.abs(height(p) - height(part) - by) < 0.35;
		// The traced outline, and the cut line 1/16 in outside of it.
		expect(all.some((p) => near(p, 0))).toBe(true);
		expect(all.some((p) => near(p, 2 * 1.5875))).toBe(true);
	}
	const dxf = unwrap(readDxf((await exported(page, page.locator('[data-command=write-dxf]'))).toString()));
	// One entity an outline; those within each other come back as pieces with their holes.
	expect(dxf.shapes.flatMap((s) => s.paths)).toHaveLength(42);
	const sum = (paths: Path[]) => paths.reduce((n, p) => n + Math.abs(pathArea(p)), 0);
	expect(sum(dxf.shapes.flatMap((s) => [...s.paths]))).toBeCloseTo(
		sum(svg.shapes.flatMap((s) => [...s.paths])),
		2
	);
	const lines = unwrap(
		readDxf((await exported(page, page.locator('[data-command=write-polylines]'))).toString())
	);
	expect(lines.shapes.every((s) => s.paths[0].types.every((t) => t === 0))).toBe(true);
	expect(troubles).toEqual([]);
});

test('the whole drawing as one file comes back in another browser', async ({ page, browser }) => {
	await openDemo(page, 'Control bars and a mask');
	await page.locator('[data-station=cut]').click();
	const bytes = await exported(page, page.locator('[data-command=write-file]'));
	const here = await saved(page);
	const other = await (await browser.newContext()).newPage();
	await other.goto('/');
	await other
		.locator('[data-testid=file-input]')
		.setInputFiles({ name: 'bars.thread', mimeType: 'application/zip', buffer: bytes });
	await expect(other.locator('canvas').first()).toBeVisible();
	expect((await saved(other)).outlines).toEqual(here.outlines);
	await other.context().close();
});

test('faults are shown, gone to and mended; undo takes it back', async ({ page }) => {
	await openDemo(page, 'Control bars and a mask');
	const thread = page.locator('[data-station=mend]');
	await expect(thread).toContainText('4 things to mend');
	await page.keyboard.press('f');
	await expect(page.locator('[data-fault=doubled]')).toBeVisible();
	await page.locator('[data-mend=remove]').first().click();
	await expect(thread).toContainText('3 things to mend');
	await page.getByRole('button', { name: 'Mend all' }).click();
	await expect(thread).toContainText('1 thing to mend');
	const now = await saved(page);
	expect(now.outlines.find((o) => o.name === 'Felt hand puppet')!.closed).toBe(true);
	expect(now.outlines).toHaveLength(10);
	await page.keyboard.press('Control+z');
	await page.keyboard.press('Control+z');
	await expect(thread).toContainText('4 things to mend');
});

test('commands are found by a word for what one wants; the lamp and the filled view answer', async ({
	page
}) => {
	await openDemo(page, 'Control bars and a mask');
	await page.keyboard.press('/');
	await page.locator('[data-field=find]').fill('cut line');
	await expect(page.locator('[data-found=offset]')).toBeVisible();
	await page.keyboard.press('Enter');
	await expect(page.getByLabel('Distance')).toBeVisible();
	await page.keyboard.press('Escape');
	await page.keyboard.press('/');
	await page.locator('[data-field=find]').fill('lamp');
	await page.keyboard.press('Enter');
	await expect(page.locator('html')).toHaveAttribute('data-mode', 'dark');
	await page.keyboard.press('g');
	await expect(page.getByRole('button', { name: 'filled' })).toHaveAttribute('aria-pressed', 'true');
});
