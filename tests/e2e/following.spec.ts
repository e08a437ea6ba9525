/** Lines that follow others: an offset, an allowance with a width for each edge, corners that stay, and what is made plain. */
import { expect, test, type Page } from '@playwright/test';
import {
	command,
	drag,
	exported,
	fitAll,
	give,
	listen,
	newDrawing,
	pick,
	saved,
	type SavedOutline
} from './hands';

type Made = SavedOutline & {
	recipe?: { kind: string; settings: Record<string, unknown>; stale?: true };
	rounds?: { anchor: number; radius?: number }[];
	edges?: { at: number; id: number; name?: string; width?: number }[];
};
const outlines = async (page: Page) => (await saved(page)).outlines as Made[];
const named = async (page: Page, name: string) => (await outlines(page)).find((o) => o.name === name)!;
/** Width and height of a saved outline's anchors, mm. */
function size(o: SavedOutline): [number, number] {
	const xs = o.points.filter((_, i) => i % 7 === 0);
	const ys = o.points.filter((_, i) => i % 7 === 1);
	const round = (v: number) => Math.round(v * 1000) / 1000;
	return [round(Math.max(...xs) - Math.min(...xs)), round(Math.max(...ys) - Math.min(...ys))];
}
const PANEL =
	'<svg xmlns="http://www.w3.org/2000/svg" width="60mm" height="60mm" viewBox="0 0 60 60"><path d="M10 10H50V50H10Z"><title>Panel</title></path></svg>';

/** A panel of 40 x 40 mm from (10, -50) to (50, -10), selected. */
async function panel(page: Page) {
	await newDrawing(page);
	await give(page, 'panel.svg', 'image/svg+xml', Buffer.from(PANEL));
	await expect(page.locator('[data-station=trace]')).toContainText('1 outline');
	await page.locator('[role=application]').focus();
	return fitAll(page);
}
const keep = async (page: Page) => {
	await expect(page.locator('[data-act=keep]')).toBeEnabled();
	await page.locator('[data-act=keep]').click();
};
async function addOffset(page: Page): Promise<void> {
	await page.keyboard.press('o');
	await page.getByLabel('Distance').fill('3');
	await page.keyboard.press('Enter');
	await page.getByText('Mitred', { exact: true }).click();
	await keep(page);
	await expect.poll(async () => (await outlines(page)).length).toBe(2);
}

test('an offset follows its line while an anchor is dragged, its numbers stay fields, undo takes both back', async ({
	page
}) => {
	const troubles = listen(page);
	const { at } = await panel(page);
	await addOffset(page);
	expect(size(await named(page, 'Panel, outside'))).toEqual([46, 46]);
	await pick(page, 'Panel');
	const view = await fitAll(page);
	await page.keyboard.press('e');
	await drag(page, view.at(50, -10), view.at(60, -10));
	expect(size(await named(page, 'Panel'))).toEqual([50, 40]);
	expect((await named(page, 'Panel, outside')).recipe!.kind).toBe('offset');
	await expect.poll(async () => size(await named(page, 'Panel, outside'))[1]).toBe(46);
	const steps = (await saved(page)).pointer;
	await page.keyboard.press('Control+z');
	expect((await saved(page)).pointer).toBe(steps - 1);
	expect(size(await named(page, 'Panel'))).toEqual([40, 40]);
	expect(size(await named(page, 'Panel, outside'))).toEqual([46, 46]);
	// Its distance is a number on its tag.
	await page.keyboard.press('Escape');
	await page.keyboard.press('Escape');
	await pick(page, 'Panel, outside');
	const recipe = page.getByTestId('recipe');
	await expect(recipe).toContainText('follows "Panel"');
	await recipe.getByLabel('distance').fill('5');
	await page.keyboard.press('Enter');
	await expect.poll(async () => size(await named(page, 'Panel, outside'))).toEqual([50, 50]);
	await recipe.getByRole('button', { name: 'bevelled' }).click();
	await expect.poll(async () => (await named(page, 'Panel, outside')).anchors.length).toBe(8);
	expect(at(0, 0)).toBeDefined();
	expect(troubles).toEqual([]);
});

test('a line that follows is not changed by hand before it was made plain, which is offered; afterwards it is free', async ({
	page
}) => {
	await panel(page);
	await addOffset(page);
	await pick(page, 'Panel, outside');
	const view = await fitAll(page);
	await page.keyboard.press('e');
	const before = await named(page, 'Panel, outside');
	await drag(page, view.at(7, -53), view.at(2, -53));
	await expect(
		page.getByText('"Panel, outside" follows "Panel". Made plain, it can be changed')
	).toBeVisible();
	expect(await named(page, 'Panel, outside')).toEqual(before);
	await page.locator('[data-act="make plain"]').click();
	await expect.poll(async () => (await named(page, 'Panel, outside')).recipe).toBeUndefined();
	await drag(page, view.at(7, -53), view.at(2, -53));
	await expect.poll(async () => size(await named(page, 'Panel, outside'))).toEqual([51, 46]);
	// Removing the source of another follower makes that one plain, and says so.
	await page.keyboard.press('Control+z');
	await page.keyboard.press('Control+z');
	expect((await named(page, 'Panel, outside')).recipe).toBeDefined();
	await page.keyboard.press('Escape');
	await page.keyboard.press('Escape');
	await pick(page, 'Panel');
	await page.keyboard.press('x');
	await expect(page.getByText('"Panel, outside" is plain now').last()).toBeVisible();
	expect((await outlines(page)).map((o) => o.recipe)).toEqual([undefined]);
});

test('an allowance has a width for each edge, named and typed on the tag; corners lie where the parallels meet', async ({
	page
}) => {
	await panel(page);
	await page.keyboard.press('Shift+o');
	await page.getByLabel('Width').fill('10');
	await page.keyboard.press('Enter');
	await keep(page);
	await expect.poll(async () => (await outlines(page)).length).toBe(2);
	expect(size(await named(page, 'Panel, allowance'))).toEqual([60, 60]);
	await pick(page, 'Panel');
	const view = await fitAll(page);
	await page.keyboard.press('e');
	const middle = view.at(50, -30);
	await page.mouse.click(middle.x, middle.y);
	const edge = page.getByTestId('edge');
	await expect(edge).toContainText('40 mm from corner to corner');
	await edge.getByLabel('Name of the edge').fill('hem');
	await page.keyboard.press('Enter');
	await edge.getByLabel('allowance').fill('25');
	await page.keyboard.press('Enter');
	await expect.poll(async () => size(await named(page, 'Panel, allowance'))).toEqual([75, 60]);
	const [fact] = (await named(page, 'Panel')).edges!;
	expect(fact).toMatchObject({ name: 'hem', width: 25 });
	// Flipped, the panel keeps its edge, and the allowance its width there.
	await page.keyboard.press('Escape');
	await page.keyboard.press('Escape');
	await page.keyboard.press('Escape');
	await pick(page, 'Panel');
	await command(page, 'flip direction');
	const hem = async () => (await named(page, 'Panel')).edges?.find((e) => e.name === 'hem');
	await expect.poll(async () => (await hem())?.id).toBe(fact.id);
	expect((await hem())!.at).not.toBe(fact.at);
	expect(size(await named(page, 'Panel, allowance'))).toEqual([75, 60]);
	await edge.waitFor({ state: 'hidden' });
});

test('rounded corners survive flipping and another width; a rounded corner takes no width from a ready shape', async ({
	page
}) => {
	await newDrawing(page);
	await page.locator('[role=application]').focus();
	const { at } = await fitAll(page);
	await page.keyboard.press('Shift+s');
	await page.locator('[data-choice=rectangle]').click();
	await drag(page, at(60, -60), at(100, -90));
	await page.keyboard.press('Escape');
	await page.keyboard.press('e');
	await page.keyboard.press('n');
	await page.keyboard.press('Shift+r');
	await page.getByLabel('Radius').fill('5');
	await page.keyboard.press('Enter');
	await keep(page);
	await page.keyboard.press('Escape');
	let [o] = await outlines(page);
	expect(o.rounds).toMatchObject([{ radius: 5 }]);
	const [round] = o.rounds!;
	const recipe = page.getByTestId('recipe');
	await recipe.getByLabel('wide').fill('55');
	await page.keyboard.press('Enter');
	await expect.poll(async () => size((await outlines(page))[0])[0]).toBe(55);
	await command(page, 'flip direction');
	[o] = await outlines(page);
	expect(o.rounds).toEqual([round]);
	expect(o.recipe).toBeDefined();
});

test('layers: a line put on one of another purpose, hidden, held back; what goes out is said and written', async ({
	page
}) => {
	await panel(page);
	await addOffset(page);
	await page.keyboard.press('r');
	await page.getByRole('button', { name: 'new layer' }).click();
	const layer = page.locator('[data-layer="Layer 2"]');
	await expect(layer).toBeVisible();
	await page.getByRole('button', { name: /^Panel, \d/ }).click();
	await layer.getByRole('button', { name: 'put here' }).click();
	await layer.getByLabel('What is done with Layer 2').selectOption('guide');
	await page.locator('[data-station=cut]').click();
	await expect(page.getByText('Nothing stops the cut. 1 line goes out in true millimetres.')).toBeVisible();
	const svg = (await exported(page, page.locator('[data-command=write-svg]'))).toString();
	expect(svg.match(/<path/g)).toHaveLength(1);
	expect(svg).toContain('Panel, outside');
	await layer.getByLabel('What is done with Layer 2').selectOption('cut');
	await page.locator('[data-layer=Cut]').getByRole('button', { name: 'goes out' }).click();
	const other = (await exported(page, page.locator('[data-command=write-svg]'))).toString();
	expect(other).not.toContain('Panel, outside');
	expect(other).toContain('<title>Panel</title>');
});

test('a mark and a guide are picked, moved by hand and by number, and removed; a sheet has its size and margin', async ({
	page
}) => {
	await newDrawing(page);
	const dxf =
		'0\nSECTION\n2\nHEADER\n9\n$INSUNITS\n70\n4\n0\nENDSEC\n0\nSECTION\n2\nENTITIES\n0\nPOINT\n8\nCut\n10\n20\n20\n30\n0\nLINE\n8\nCut\n10\n0\n20\n0\n11\n60\n21\n0\n0\nENDSEC\n0\nEOF\n';
	await give(page, 'drill.dxf', 'image/vnd.dxf', Buffer.from(dxf));
	await expect(page.locator('[data-station=trace]')).toContainText('1 outline');
	await page.locator('[role=application]').focus();
	await page.keyboard.press('Escape');
	const view = await fitAll(page);
	await page.mouse.click(view.at(20, 30).x, view.at(20, 30).y);
	const spot = page.getByTestId('spot');
	await expect(spot).toContainText('mark');
	await drag(page, view.at(20, 30), view.at(30, 20));
	await expect(spot.getByLabel('x')).toHaveValue(/^30(\.0\d*)? mm$/);
	await spot.getByLabel('y').fill('12.5');
	await page.keyboard.press('Enter');
	await expect(spot.getByLabel('y')).toHaveValue('12.5 mm');
	await page.keyboard.press('x');
	await expect(spot).toBeHidden();
	await page.keyboard.press('Control+z');
	await page.mouse.click(view.at(30, 12.5).x, view.at(30, 12.5).y);
	await expect(spot).toContainText('mark');
	await page.locator('[data-station=sheet]').click();
	await page.locator('[data-sheet=A4]').click();
	const sheet = page.getByTestId('sheet');
	await sheet.getByLabel('Margin').fill('8');
	await page.keyboard.press('Enter');
	await expect(page.locator('[data-station=sheet]')).toContainText('297 × 210 mm');
	await expect(sheet.getByLabel('Margin')).toHaveValue('8 mm');
});
