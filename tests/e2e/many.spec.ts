/** Many things: groups that move as one, entered and left; copies by a rule that change with the first one. */
import { expect, test, type Page } from '@playwright/test';
import { unwrap } from '../../src/lib/core/errors';
import { readSvg } from '../../src/lib/core/formats/svg';
import { boxOf } from '../../src/lib/core/geometry/pick';
import { command, drag, exported, fitAll, give, listen, newDrawing, placesNow, saved } from './hands';

/** Two circles of 10 mm, a square, and a ring of 40 mm to repeat things along; y as in the drawing. */
const SVG = `<svg xmlns="http://www.w3.org/2000/svg" width="200mm" height="120mm" viewBox="0 0 200 120">
<circle cx="20" cy="20" r="5"/><circle cx="40" cy="20" r="5"/><rect x="60" y="10" width="20" height="20"/>
<circle cx="130" cy="60" r="40"/></svg>`;
const MIDDLES = { first: [20, -20], second: [40, -20], square: [70, -20], ring: [130, -60] } as const;
type Thing = keyof typeof MIDDLES;

async function open(page: Page) {
	await newDrawing(page);
	await give(page, 'set.svg', 'image/svg+xml', Buffer.from(SVG));
	await expect.poll(async () => (await saved(page)).outlines.length).toBe(4);
	await page.keyboard.press('Escape');
	await page.keyboard.press('Escape');
	return fitAll(page);
}
/** Where the left of a thing's line lies on the screen. */
const leftOf = (at: (x: number, y: number) => { x: number; y: number }, thing: Thing) => {
	const [x, y] = MIDDLES[thing];
	return at(x - { first: 5, second: 5, square: 10, ring: 40 }[thing], y);
};
const press = async (page: Page, p: { x: number; y: number }, more = false) => {
	if (more) await page.keyboard.down('Shift');
	await page.mouse.click(p.x, p.y);
	if (more) await page.keyboard.up('Shift');
};
const middles = (outlines: { points: number[] }[]) =>
	outlines.map(({ points }) => {
		const xs = points.filter((_, i) => i % 7 === 0);
		const ys = points.filter((_, i) => i % 7 === 1);
		return [(Math.min(...xs) + Math.max(...xs)) / 2, (Math.min(...ys) + Math.max(...ys)) / 2];
	});
const ofType = async (page: Page, type: string) => (await saved(page)).others.filter((r) => r.type === type);

test('a group moves as one, is entered and left, copied and taken apart', async ({ page }) => {
	const troubles = listen(page);
	const { at, scale } = await open(page);
	await press(page, leftOf(at, 'first'));
	await press(page, leftOf(at, 'second'), true);
	await page.keyboard.press('Shift+(');
	await expect(page.getByTestId('group')).toContainText('group of 2');
	await page.getByLabel('Name of the group').fill('Eyes');
	await page.keyboard.press('Enter');
	await expect.poll(async () => (await ofType(page, 'group'))[0]?.name).toBe('Eyes');
	await page.keyboard.press('Escape');
	// Esc lets go of it; one of them pressed is both of them, and a drag moves both.
	await page.locator('[role=application]').focus();
	await page.keyboard.press('Escape');
	await press(page, leftOf(at, 'second'));
	await expect(page.getByTestId('group')).toContainText('group of 2');
	const from = leftOf(at, 'second');
	await drag(page, from, { x: from.x, y: from.y + 10 * scale });
	await expect
		.poll(async () => middles((await saved(page)).outlines).map(([, y]) => Math.round(y)))
		.toEqual([-30, -30, -20, -60]);
	// A double click goes into it: then one moves by itself, and Esc leaves it again.
	const now = await placesNow(page);
	const into = now.at(15, -30);
	await page.mouse.dblclick(into.x, into.y);
	await expect(page.getByLabel('Name', { exact: true })).toBeVisible();
	await expect(page.getByTestId('group')).toHaveCount(0);
	await drag(page, into, { x: into.x, y: into.y - 5 * scale });
	await expect
		.poll(async () => middles((await saved(page)).outlines).map(([, y]) => Math.round(y)))
		.toEqual([-25, -30, -20, -60]);
	await page.keyboard.press('Escape');
	await page.keyboard.press('Escape');
	const again = now.at(35, -30);
	await page.mouse.click(again.x, again.y);
	await expect(page.getByTestId('group')).toContainText('group of 2');
	// Copied it is another group.
	await page.keyboard.press('Shift+y');
	await expect.poll(async () => (await ofType(page, 'group')).length).toBe(2);
	expect((await saved(page)).outlines).toHaveLength(6);
	// Taken apart, and that taken back.
	await page.keyboard.press('Shift+)');
	await expect.poll(async () => (await ofType(page, 'group')).length).toBe(1);
	await page.keyboard.press('Control+z');
	await expect.poll(async () => (await ofType(page, 'group')).length).toBe(2);
	await page.keyboard.press('x');
	await expect.poll(async () => (await saved(page)).outlines.length).toBe(4);
	expect(await ofType(page, 'group')).toHaveLength(1);
	expect(troubles).toEqual([]);
});

test('copies along a line: by number and by spacing, edited with the first one, one edited apart, made plain', async ({
	page
}) => {
	const troubles = listen(page);
	const { at } = await open(page);
	await press(page, leftOf(at, 'square'));
	await page.keyboard.press('Shift+*');
	await page.locator('[data-choice=along]').click();
	// The nearest line is taken; another one is pressed.
	await page.keyboard.press('h');
	const now = await placesNow(page);
	const ring = now.at(170, -60);
	await page.mouse.click(ring.x, ring.y);
	await expect(page.locator('[data-fact=step]')).toHaveText('20.94 mm');
	await page.getByLabel('How many').fill('8');
	await page.keyboard.press('Enter');
	await expect(page.locator('[data-fact=copies]')).toHaveText('8');
	await page.locator('[data-choice=spacing]').click();
	await page.getByLabel('Spacing', { exact: true }).fill('25');
	await page.keyboard.press('Enter');
	// 251.3 mm around: ten, fitted to go round evenly.
	await expect(page.locator('[data-fact=copies]')).toHaveText('10');
	await expect(page.locator('[data-fact=step]')).toHaveText('25.13 mm');
	await page.locator('[data-act=keep]').click();
	await expect.poll(async () => (await ofType(page, 'repeat')).length).toBe(1);
	await expect(page.getByTestId('repeat')).toContainText('10 with the first');
	expect((await saved(page)).outlines).toHaveLength(4);
	// A copy on the other side of the ring is picked with all of them, and offered to be edited apart.
	await page.keyboard.press('Escape');
	await page.keyboard.press('h');
	const seen = await placesNow(page);
	const turn = (k: number, x: number, y: number) => {
		const a = (-2 * Math.PI * k) / 10;
		const [dx, dy] = [x - 130, y + 60];
		return seen.at(130 + dx * Math.cos(a) - dy * Math.sin(a), -60 + dx * Math.sin(a) + dy * Math.cos(a));
	};
	expect(await exportedPaths(page)).toBe(13);
	for (const k of [4, -4]) {
		const p = turn(k, 60, -20);
		await page.mouse.dblclick(p.x, p.y);
		if (await page.getByTestId('repeat').isVisible()) break;
	}
	await expect(page.getByTestId('repeat')).toBeVisible();
	await page.locator('[data-act=edit-apart]').click();
	await expect.poll(async () => (await saved(page)).outlines.length).toBe(5);
	expect((await ofType(page, 'repeat'))[0].without).toHaveLength(1);
	await page.keyboard.press('Escape');
	await page.keyboard.press('Escape');
	expect(await exportedPaths(page)).toBe(13);
	// The empty place is filled again; then all of them become plain.
	await press(page, leftOf(seen.at, 'square'));
	await page.keyboard.press('Escape');
	const other = turn(2, 60, -20);
	const back = turn(-2, 60, -20);
	for (const p of [other, back]) {
		await page.mouse.click(p.x, p.y);
		if (await page.getByTestId('repeat').isVisible()) break;
	}
	await page.locator('[data-act=fill-again]').click();
	await expect(page.getByTestId('repeat')).toContainText('10 with the first');
	await page.locator('[data-act=repeat-plain]').click();
	await expect.poll(async () => (await saved(page)).outlines.length).toBe(14);
	expect(await ofType(page, 'repeat')).toHaveLength(0);
	await page.keyboard.press('Control+z');
	await expect.poll(async () => (await ofType(page, 'repeat')).length).toBe(1);
	expect(troubles).toEqual([]);
});

/** How many paths a written SVG has. */
async function exportedPaths(page: Page): Promise<number> {
	await page.keyboard.press('Escape');
	const write = page.locator('[data-command=write-svg]');
	if (!(await write.isVisible())) await page.locator('[data-station=cut]').click();
	const svg = (await exported(page, write)).toString();
	await page.locator('[role=application]').focus();
	return svg.match(/<(path|circle|ellipse|rect|polygon|polyline|line)\b/g)?.length ?? 0;
}

test('in rows by dragging, around a middle that is pressed; the first one changed changes all', async ({
	page
}) => {
	const troubles = listen(page);
	const { at, scale } = await open(page);
	await press(page, leftOf(at, 'first'));
	await page.keyboard.press('Shift+*');
	await page.locator('[data-choice=rows]').click();
	await page.getByLabel('Across').fill('3');
	await page.keyboard.press('Enter');
	await page.getByLabel('Up', { exact: true }).fill('2');
	await page.keyboard.press('Enter');
	await expect(page.locator('[data-fact=copies]')).toHaveText('6');
	await page.getByLabel('Up by').fill('-15');
	await page.keyboard.press('Enter');
	// A drag sets how far the next one lies.
	const surface = (await placesNow(page)).at(20, -80);
	await drag(page, surface, { x: surface.x + 8 * scale, y: surface.y });
	const right = page.getByLabel('Right by');
	await expect.poll(async () => Math.round(parseFloat(await right.inputValue()))).toBe(20);
	await page.keyboard.press('Enter');
	await expect.poll(async () => (await ofType(page, 'repeat')).length).toBe(1);
	const rule = (await ofType(page, 'repeat'))[0].rule as { right: number; up: number };
	expect(rule.up).toBe(-15);
	// Dragged by a copy all of them go, the first too.
	await page.keyboard.press('Escape');
	const copy = (await placesNow(page)).at(20 + rule.right - 5, -35);
	await page.mouse.click(copy.x, copy.y);
	await expect(page.getByTestId('repeat')).toContainText('6 with the first');
	await drag(page, copy, { x: copy.x, y: copy.y + 10 * scale });
	await expect.poll(async () => Math.round(middles((await saved(page)).outlines)[0][1])).toBe(-30);
	// Changed: around the middle that is pressed.
	await page.keyboard.press('Shift+*');
	await page.locator('[data-choice=around]').click();
	const middle = (await placesNow(page)).at(20, -50);
	await page.mouse.click(middle.x, middle.y);
	await page.getByLabel('How many').fill('5');
	await page.keyboard.press('Enter');
	await page.locator('[data-act=keep]').click();
	await expect
		.poll(async () => {
			const around = (await ofType(page, 'repeat'))[0].rule as { way: string; x: number; y: number };
			return [around.way, Math.round(around.x), Math.round(around.y)];
		})
		.toEqual(['around', 20, -50]);
	// The first one taken out: the copies stay as outlines of their own.
	await page.keyboard.press('Escape');
	const first = (await placesNow(page)).at(15, -30);
	await page.mouse.click(first.x, first.y);
	await page.keyboard.press('x');
	await expect.poll(async () => (await saved(page)).outlines.length).toBe(7);
	expect(await ofType(page, 'repeat')).toHaveLength(0);
	expect(troubles).toEqual([]);
});

test('half and mirror: one half is drawn, the other follows; the axis moved; made plain', async ({
	page
}) => {
	const troubles = listen(page);
	const { at } = await open(page);
	await press(page, leftOf(at, 'ring'));
	await command(page, 'symmetry');
	// Esc drops it; then the other half is pressed, which stays.
	await expect(page.locator('[data-choice=left]')).toBeVisible();
	await page.keyboard.press('Escape');
	expect((await saved(page)).pointer).toBe(1);
	await press(page, leftOf(at, 'ring'));
	await command(page, 'symmetry');
	await expect(page.locator('[data-act=keep]:not([disabled])')).toBeVisible();
	const right = (await placesNow(page)).at(160, -60);
	await page.mouse.click(right.x, right.y);
	await expect(page.getByRole('radio', { name: 'Right of it' })).toBeChecked();
	await page.locator('[data-act=keep]').click();
	await expect(page.getByTestId('half')).toBeVisible();
	const ring = async () =>
		(await saved(page)).outlines[3] as { half?: { x: number }; closed: boolean; points: number[] };
	expect(await ring()).toMatchObject({ closed: false, half: { x: 130, angle: 90 } });
	// An anchor of the drawn half moved by the arrows: the other half follows.
	await page.locator('[role=application]').focus();
	await page.keyboard.press('e');
	await page.keyboard.press('n');
	await page.keyboard.press('n');
	const was = (await ring()).points;
	await page.keyboard.press('Shift+ArrowRight');
	await expect.poll(async () => (await ring()).points.some((v, i) => v !== was[i])).toBe(true);
	const written = async () => {
		await page.keyboard.press('Escape');
		const write = page.locator('[data-command=write-svg]');
		if (!(await write.isVisible())) await page.locator('[data-station=cut]').click();
		const { shapes } = unwrap(readSvg((await exported(page, write)).toString()));
		return boxOf(shapes.flatMap(({ paths }) => [...paths]).at(-1)!);
	};
	await page.keyboard.press('Escape');
	const box = await written();
	expect(box.x1 - 130).toBeCloseTo(130 - box.x0, 3);
	expect(box.x1).toBeGreaterThan(170.4);
	// The axis is moved, the half goes along.
	await press(page, (await placesNow(page)).at(130, -100));
	await page.locator('[data-act=move-axis]').click();
	await page.getByLabel('Axis x').fill('140');
	await page.keyboard.press('Enter');
	await page.locator('[data-act=keep]').click();
	await expect.poll(async () => (await ring()).half?.x).toBe(140);
	// Cut apart it cannot be as long as it is a half: made plain it can, and that is taken back.
	await page.locator('[data-act=half-plain]').click();
	await expect.poll(async () => (await ring()).closed).toBe(true);
	await page.keyboard.press('Control+z');
	await expect.poll(async () => (await ring()).half?.x).toBe(140);
	expect(troubles).toEqual([]);
});
