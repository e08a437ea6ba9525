/** The rack: things hang on the rails of their layers, are picked, found, sorted, and hung elsewhere by dragging. */
import { expect, test, type Page } from '@playwright/test';
import { writeDrawingFile } from '../../src/lib/core/formats/drawing-file';
import { newDrawing as emptyDrawing, type DrawingRecord } from '../../src/lib/core/document/drawing';
import { outlineFromPath } from '../../src/lib/core/document/outline';
import { circlePath, polygonPath } from '../../src/lib/core/geometry/path';
import { blob } from '../shapes';
import { command, drag, give, listen, newDrawing, saved } from './hands';

/** Opens a drawing of 2,000 pieces in 40 layers, and a piece with two holes. */
async function openMany(page: Page, count: number, layers: number): Promise<void> {
	const drawing = emptyDrawing('many', 'Many');
	const records = new Map<string, DrawingRecord>(drawing.records);
	for (let k = 0; k < layers; k++)
		records.set(`l${k}`, {
			type: 'layer',
			id: `l${k}`,
			rank: 10 + k,
			name: `Rail ${k + 1}`,
			purpose: k % 2 ? 'score' : 'cut',
			colour: '#1c3f5e'
		});
	const put = (id: string, name: string, layer: string, path: Parameters<typeof outlineFromPath>[0]) =>
		records.set(id, outlineFromPath(path, { id, name, layer, rank: 100 + records.size }));
	put('plate', 'Plate', 'cut', polygonPath([-60, 0, -20, 0, -20, 30, -60, 30]));
	put('eye', 'Left eye', 'cut', circlePath(-50, 15, 4));
	put('eye2', 'Right eye', 'cut', circlePath(-30, 15, 4));
	for (let i = 0; i < count; i++) {
		const path = blob(4 + (i % 30), i + 1, 3);
		for (let k = 0; k < path.segs.length; k += 2) {
			path.segs[k] += 8 * (i % 50);
			path.segs[k + 1] += 8 * Math.floor(i / 50);
		}
		put(`o${i}`, `Piece ${i + 1}`, `l${i % layers}`, path);
	}
	await page.goto('/');
	await page.locator('[data-testid=file-input]').setInputFiles({
		name: 'many.thread',
		mimeType: 'application/zip',
		buffer: Buffer.from(writeDrawingFile({ ...drawing, records }, new Map()))
	});
	await page.waitForURL(/drawing/);
	await expect(page.locator('canvas').first()).toBeVisible();
	await page.locator('[role=application]').focus();
	// The tray is left, so that the rack has its room.
	await page.keyboard.press('Escape');
	await page.keyboard.press('r');
	await expect(page.getByLabel('Rack', { exact: true })).toBeVisible();
}
const rack = (page: Page) => page.getByLabel('Rack', { exact: true });
const thing = (page: Page, name: string) =>
	rack(page).getByRole('button', { name: new RegExp(`^${name}, \\d`) });
const layerOf = async (page: Page, name: string) =>
	((await saved(page)).outlines as unknown as { name: string; layer: string }[]).find((o) => o.name === name)
		?.layer;

test('two thousand pieces hang on forty rails: only what is seen is there, and any is found by typing', async ({
	page
}) => {
	const troubles = listen(page);
	await openMany(page, 2000, 40);
	await expect(page.locator('[data-fact=hanging]')).toHaveText('2001');
	// A piece hangs with its holes as one; its parts hang beside it where one wants.
	await expect(thing(page, 'Plate')).toContainText('2 holes');
	await expect(thing(page, 'Left eye')).toHaveCount(0);
	await thing(page, 'Plate').hover();
	await rack(page).locator('[data-act=unfold]').first().click();
	await expect(thing(page, 'Left eye')).toBeVisible();
	expect(await rack(page).locator('li').count()).toBeLessThan(60);
	// Found by its name, wherever it hangs; a hole too.
	await page.locator('[data-act=find-on-rack]').fill('piece 1777');
	await thing(page, 'Piece 1777').click();
	await expect(page.getByLabel('Name', { exact: true })).toHaveValue('Piece 1777');
	await page.locator('[data-act=find-on-rack]').fill('right eye');
	await expect(thing(page, 'Right eye')).toBeVisible();
	await page.locator('[data-act=find-on-rack]').fill('nobody');
	await expect(rack(page)).toContainText('Nothing on the rack is called so.');
	// By purpose and layer: half of the rails are scored.
	await page.locator('[data-act=find-on-rack]').fill('score rail 40');
	await expect(thing(page, 'Piece 40')).toBeVisible();
	await page.locator('[data-act=find-on-rack]').fill('');
	await page.locator('[data-pick=rack-order]').selectOption('anchors');
	await expect(rack(page).locator('li button.piece').first()).toHaveAccessibleName(/, 33 anchors/);
	await page.locator('[data-pick=rack-order]').selectOption('size');
	await expect(rack(page).locator('li button.piece').first()).toHaveAccessibleName(/^Plate/);
	expect(troubles).toEqual([]);
});

test('several are picked and dragged to another rail, and before another thing; by touch they are picked and put', async ({
	page
}) => {
	const troubles = listen(page);
	await openMany(page, 6, 3);
	// What is not wanted just now is folded away, so that the rest is seen.
	await rack(page)
		.getByRole('button', { name: /on Cut/ })
		.click();
	await expect(thing(page, 'Plate')).toHaveCount(0);
	await thing(page, 'Piece 1').click();
	await thing(page, 'Piece 4').click({ modifiers: ['Shift'] });
	await expect(page.locator('aside.tag')).toContainText('2 outlines');
	const middle = async (locator: ReturnType<typeof thing>) => {
		const box = (await locator.boundingBox())!;
		return { x: box.x + box.width / 2, y: box.y + box.height / 2 };
	};
	// Both go where one of them is dragged.
	await drag(
		page,
		await middle(thing(page, 'Piece 4')),
		await middle(rack(page).locator('[data-layer="Rail 2"]'))
	);
	await expect.poll(() => layerOf(page, 'Piece 1')).toBe('l1');
	expect(await layerOf(page, 'Piece 4')).toBe('l1');
	// Before another thing: it hangs there, on that rail.
	const was = (await rack(page).locator('[data-layer="Rail 3"]').boundingBox())!.y;
	await page.mouse.wheel(0, 150);
	await expect
		.poll(async () => (await rack(page).locator('[data-layer="Rail 3"]').boundingBox())!.y)
		.toBeLessThan(was - 60);
	await drag(page, await middle(thing(page, 'Piece 3')), await middle(thing(page, 'Piece 2')));
	await expect.poll(() => layerOf(page, 'Piece 3')).toBe('l1');
	const names = (await saved(page)).outlines.map(({ name }) => name);
	expect(names.indexOf('Piece 3')).toBe(names.indexOf('Piece 2') - 1);
	// A drag that ends beside the rack does nothing; one step is taken back.
	const steps = (await saved(page)).pointer;
	await drag(page, await middle(thing(page, 'Piece 2')), { x: 300, y: 300 });
	expect((await saved(page)).pointer).toBe(steps);
	await page.keyboard.press('Control+z');
	await expect.poll(() => layerOf(page, 'Piece 3')).toBe('l2');
	// By taps, one after the other, and by the rail's own word.
	await page.locator('[role=application]').focus();
	await page.keyboard.press('Escape');
	await page.getByRole('button', { name: /pick more/ }).click();
	await thing(page, 'Piece 2').click();
	await thing(page, 'Piece 5').click();
	await rack(page).locator('[data-layer="Rail 1"] [data-act=put-here]').click();
	await expect.poll(() => layerOf(page, 'Piece 2')).toBe('l0');
	expect(await layerOf(page, 'Piece 5')).toBe('l0');
	// A rail is folded away, and goes above the one before it.
	const before = rack(page).locator('[data-layer]');
	await expect(before.nth(1)).toHaveAttribute('data-layer', 'Rail 1');
	await rack(page).locator('[data-layer="Rail 2"] [data-act=layer-up]').click();
	await expect(before.nth(1)).toHaveAttribute('data-layer', 'Rail 2');
	await rack(page)
		.getByRole('button', { name: /on Rail 1/ })
		.click();
	await expect(thing(page, 'Piece 2')).toHaveCount(0);
	expect(troubles).toEqual([]);
});

test('groups and copies hang as one thing each', async ({ page }) => {
	const troubles = listen(page);
	await newDrawing(page);
	await give(
		page,
		'a.svg',
		'image/svg+xml',
		Buffer.from(
			'<svg xmlns="http://www.w3.org/2000/svg" width="90mm" height="30mm" viewBox="0 0 90 30"><circle cx="10" cy="10" r="5"/><circle cx="30" cy="10" r="5"/><circle cx="50" cy="10" r="5"/></svg>'
		)
	);
	await expect.poll(async () => (await saved(page)).outlines.length).toBe(3);
	await page.locator('[role=application]').focus();
	await page.keyboard.press('r');
	const pieces = rack(page).locator('li button.piece');
	await expect(pieces).toHaveCount(3);
	await pieces.nth(0).click();
	await pieces.nth(1).click({ modifiers: ['Shift'] });
	await page.locator('[role=application]').focus();
	await page.keyboard.press('Shift+(');
	await expect(pieces).toHaveCount(2);
	await expect(rack(page).locator('[data-kind=group]')).toContainText('2 together');
	await rack(page).locator('[data-kind=group] button.piece').click();
	await expect(page.getByTestId('group')).toBeAttached();
	await rack(page).locator('[data-kind=piece] button.piece').click();
	await page.locator('[role=application]').focus();
	await page.keyboard.press('Shift+*');
	await page.locator('[data-choice=rows]').click();
	await page.locator('[data-act=keep]').click();
	await expect(rack(page).locator('[data-kind=repeat]')).toContainText('8 copies');
	expect(troubles).toEqual([]);
});

test('a hole is said to be a piece by itself, and is what its place says again', async ({ page }) => {
	const troubles = listen(page);
	await newDrawing(page);
	await give(
		page,
		'ring.svg',
		'image/svg+xml',
		Buffer.from(
			'<svg xmlns="http://www.w3.org/2000/svg" width="90mm" height="60mm" viewBox="0 0 90 60"><circle cx="40" cy="30" r="25"/><circle cx="40" cy="30" r="8"/></svg>'
		)
	);
	await expect.poll(async () => (await saved(page)).outlines.length).toBe(2);
	const hole = (await saved(page)).outlines[1].name;
	await page.locator('[role=application]').focus();
	await page.keyboard.press('Escape');
	await page.keyboard.press('Escape');
	await page.keyboard.press('r');
	const hanging = page.locator('[data-fact=hanging]');
	await expect(hanging).toHaveText('1');
	await page.locator('[data-act=find-on-rack]').fill(hole);
	await thing(page, hole).last().click();
	await page.locator('[data-act=find-on-rack]').fill('');
	await command(page, 'not a hole');
	await expect(hanging).toHaveText('2');
	await expect
		.poll(async () =>
			(await saved(page)).outlines.map((o) => (o as unknown as { standing?: string }).standing)
		)
		.toEqual([undefined, 'piece']);
	await command(page, 'not a hole');
	await expect(hanging).toHaveText('1');
	await page.keyboard.press('Control+z');
	await expect(hanging).toHaveText('2');
	expect(troubles).toEqual([]);
});
