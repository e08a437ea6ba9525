/** Curves given otherwise than by anchors: drawn, their points dragged, typed, put in and taken out; turned into each other; made plain. */
import { expect, test, type Page } from '@playwright/test';
import {
	command,
	drag,
	fitAll,
	framesDrawn,
	give,
	listen,
	newDrawing,
	pick,
	places,
	placesNow,
	saved
} from './hands';

interface Kept {
	recipe?: {
		kind: string;
		settings: Record<string, never> & {
			places: { x: number; y: number; direction?: number; radius?: number }[];
			vertices: { x: number; y: number }[];
			degree: number;
			closed: boolean;
			fullness: number;
			first: string;
		};
	};
	anchors: number[];
}
const only = async (page: Page): Promise<Kept> => (await saved(page)).outlines[0] as unknown as Kept;
const SPOTS = [
	[300, 420],
	[420, 260],
	[600, 330],
	[760, 220],
	[900, 380]
] as const;
const clicks = async (page: Page, spots: readonly (readonly [number, number])[]) => {
	for (const [x, y] of spots) await page.mouse.click(x, y);
};
const steps = (page: Page, n: number) => expect.poll(async () => (await saved(page)).pointer).toBe(n);

test('through points: clicked, one pulled for its direction, dragged, typed, put in, taken out, undone', async ({
	page
}) => {
	const troubles = listen(page);
	await newDrawing(page);
	await command(page, 'curve through points');
	await expect(page.locator('[data-act=pen-finish]')).toBeVisible();
	await clicks(page, SPOTS.slice(0, 2));
	await drag(page, { x: 600, y: 330 }, { x: 660, y: 360 });
	await clicks(page, SPOTS.slice(3));
	// A wrong turn: the last point is taken back and put again.
	await page.keyboard.press('Backspace');
	await clicks(page, SPOTS.slice(4));
	await page.keyboard.press('Enter');
	await steps(page, 1);
	const drawn = await only(page);
	expect(drawn.recipe!.kind).toBe('through');
	expect(drawn.recipe!.settings.places).toHaveLength(5);
	expect(drawn.recipe!.settings.places[2].direction).toBeCloseTo(-26.57, 1);
	expect(drawn.anchors).toHaveLength(5);

	await page.keyboard.press('Escape');
	await page.mouse.dblclick(420, 260);
	await framesDrawn(page);
	await drag(page, { x: 760, y: 220 }, { x: 740, y: 170 });
	await steps(page, 2);
	const moved = await only(page);
	expect(moved.recipe!.settings.places[3].y - drawn.recipe!.settings.places[3].y).toBeGreaterThan(10);
	const tag = page.getByTestId('given-place');
	await page.locator('[data-act=give-direction]').click();
	await steps(page, 3);
	await tag.getByLabel('direction').fill('-30');
	await page.keyboard.press('Enter');
	await steps(page, 4);
	expect((await only(page)).recipe!.settings.places[3].direction).toBe(-30);
	// A radius begins as what it is; one to the other side cannot be: it is said, and nothing changes.
	await page.locator('[data-act=give-radius]').click();
	await steps(page, 5);
	const radius = tag.getByLabel('radius');
	const now = await radius.inputValue();
	await radius.fill(now.startsWith('-') ? now.slice(1) : `-${now}`);
	await page.keyboard.press('Enter');
	await expect(page.getByText('turns the other way').first()).toBeVisible();
	expect((await saved(page)).pointer).toBe(5);
	await page.locator('[data-act=free-radius]').click();
	await steps(page, 6);

	// By keys: the next point, moved by an arrow, and taken out; then a new one after it.
	await page.locator('[role=application]').focus();
	await page.keyboard.press('Escape');
	await page.keyboard.press('n');
	await page.keyboard.press('n');
	await page.keyboard.press('Shift+ArrowUp');
	await steps(page, 7);
	expect((await only(page)).recipe!.settings.places[1].y - drawn.recipe!.settings.places[1].y).toBeCloseTo(
		1,
		6
	);
	await page.keyboard.press('x');
	await steps(page, 8);
	expect((await only(page)).recipe!.settings.places).toHaveLength(4);
	await page.keyboard.press('n');
	await command(page, 'point after it');
	await steps(page, 9);
	expect((await only(page)).recipe!.settings.places).toHaveLength(5);
	for (let k = 0; k < 8; k++) await page.keyboard.press('Control+z');
	await steps(page, 1);
	expect((await only(page)).recipe!.settings).toEqual(drawn.recipe!.settings);
	expect(troubles).toEqual([]);
});

test('pulled by a polygon: closed, its degree typed, a vertex put in by a second press; by points and plain in the end', async ({
	page
}) => {
	const troubles = listen(page);
	await newDrawing(page);
	await command(page, 'pulled curve');
	await expect(page.locator('[data-act=pen-finish]')).toBeVisible();
	await clicks(page, SPOTS);
	await page.mouse.move(310, 424);
	await page.mouse.click(300, 420);
	await steps(page, 1);
	const drawn = await only(page);
	expect(drawn.recipe).toMatchObject({ kind: 'pulled', settings: { closed: true, degree: 3 } });
	await page.keyboard.press('Escape');
	await command(page, 'select all');
	await page.keyboard.press('Enter');
	const degree = page.getByTestId('recipe').getByLabel('degree');
	await degree.fill('2');
	await page.keyboard.press('Enter');
	await steps(page, 2);
	expect((await only(page)).recipe!.settings.degree).toBe(2);
	// The line stayed near, which is told; one of the loops that pull it is dragged from where it lies now.
	await expect(page.getByText('off where it was').first()).toBeVisible();
	await page.locator('[role=application]').focus();
	const { x, y } = (await only(page)).recipe!.settings.vertices[0];
	const view = await placesNow(page);
	await drag(page, view.at(x, y), view.at(x - 8, y - 20));
	await steps(page, 3);
	const pulled = await only(page);
	expect(y - pulled.recipe!.settings.vertices[0].y).toBeGreaterThan(10);
	await command(page, 'give it by points');
	await steps(page, 4);
	expect((await only(page)).recipe!.kind).toBe('through');
	await expect(page.getByText(/off where it was|what it was/).first()).toBeVisible();
	await page.getByRole('button', { name: 'make plain' }).first().click();
	await steps(page, 5);
	expect((await only(page)).recipe).toBeUndefined();
	await page.keyboard.press('Control+z');
	await steps(page, 4);
	expect(troubles).toEqual([]);
});

test('lines in between two outlines: seen before they are kept, and following both', async ({ page }) => {
	const troubles = listen(page);
	await newDrawing(page);
	const svg =
		'<svg xmlns="http://www.w3.org/2000/svg" width="200mm" height="200mm" viewBox="0 0 200 200"><circle cx="100" cy="100" r="20" fill="none" stroke="#000"/><circle cx="100" cy="100" r="60" fill="none" stroke="#000"/></svg>';
	await give(page, 'rings.svg', 'image/svg+xml', Buffer.from(svg));
	await steps(page, 1);
	await page.locator('[role=application]').focus();
	await command(page, 'lines in between');
	// Of one alone there is nothing in between: the reason is told where it is looked for.
	await page.keyboard.press('Escape');
	await page.locator('[role=application]').focus();
	await page.keyboard.press('Control+a');
	await command(page, 'lines in between');
	await expect(page.locator('[data-fact=outlines]')).toHaveText('3');
	await page.getByLabel('How many').fill('7');
	await page.keyboard.press('Enter');
	await expect(page.locator('[data-fact=outlines]')).toHaveText('7');
	await page.getByText('Close to the first').click();
	await page.getByRole('button', { name: 'Keep the lines' }).click();
	await steps(page, 2);
	const radii = async () =>
		(await saved(page)).outlines
			.filter((o) => (o as unknown as Kept).recipe)
			.map((o) => Math.max(...places(o).map(([x]) => x)) - 100)
			.sort((a, b) => a - b);
	const first = await radii();
	expect(first).toHaveLength(7);
	first.forEach((r, k) => expect(Math.abs(r - (20 + 40 * ((k + 1) / 8) ** 2))).toBeLessThan(0.05));
	// The inner ring is moved: all lines follow, each as far as it is near.
	const view = await fitAll(page);
	await page.keyboard.press('Escape');
	await page.keyboard.press('Escape');
	await page.mouse.click(view.at(80, -100).x, view.at(80, -100).y);
	await drag(page, view.at(80, -100), view.at(100, -100));
	await steps(page, 3);
	await expect
		.poll(async () =>
			Math.max(...(await radii()).map((r, k) => Math.abs(r - first[k] - 20 * (1 - ((k + 1) / 8) ** 2))))
		)
		.toBeLessThan(0.2);
	expect(troubles).toEqual([]);
});

test('seams are compared: edges pressed, lengths and their difference told, notches put on both', async ({
	page
}) => {
	const troubles = listen(page);
	await newDrawing(page);
	const svg =
		'<svg xmlns="http://www.w3.org/2000/svg" width="200mm" height="120mm" viewBox="0 0 200 120"><path d="M10 10H70V90H10Z" fill="none" stroke="#000"/><path d="M110 10H180V94H110Z" fill="none" stroke="#000"/></svg>';
	await give(page, 'pieces.svg', 'image/svg+xml', Buffer.from(svg));
	await steps(page, 1);
	await page.locator('[role=application]').focus();
	await page.keyboard.press('Escape');
	await command(page, 'compare seams');
	await expect(page.locator('[data-fact=first-seam]')).toBeVisible();
	await fitAll(page);
	// Room is made for what is in hand, so each place is looked up when it is pressed.
	const press = async (x: number, y: number) => {
		const at = (await placesNow(page)).at(x, y);
		await page.mouse.click(at.x, at.y);
	};
	await press(70, -50);
	await expect(page.locator('[data-fact=first-seam]')).toHaveText('80 mm');
	await press(110, -50);
	await expect(page.locator('[data-fact=second-seam]')).toHaveText('84 mm');
	await expect(page.locator('[data-fact=seam-difference]')).toHaveText('4 mm');
	// A wrong press, taken back by a second one.
	await press(145, -10);
	await expect(page.locator('[data-fact=second-seam]')).toHaveText('154 mm');
	await press(145, -10);
	await expect(page.locator('[data-fact=second-seam]')).toHaveText('84 mm');
	await page.getByLabel('Notches').fill('3');
	await page.keyboard.press('Tab');
	await page.getByRole('button', { name: 'Put the notches' }).click();
	await steps(page, 2);
	const marks = (await saved(page)).others.filter(({ type }) => type === 'mark') as unknown as {
		x: number;
		y: number;
		on: object;
	}[];
	expect(marks).toHaveLength(6);
	expect(marks.every(({ on }) => on)).toBe(true);
	const heights = marks
		.filter(({ x }) => Math.abs(x - 70) < 0.01)
		.map(({ y }) => Math.round(y))
		.sort((a, b) => a - b);
	expect(heights).toEqual([-70, -50, -30]);
	await page.keyboard.press('Control+z');
	await steps(page, 1);
	expect(troubles).toEqual([]);
});

test('an arch by two ends and a shoulder, its fullness by the radius; a formula typed, refused and typed again', async ({
	page
}) => {
	const troubles = listen(page);
	await newDrawing(page);
	await command(page, 'arch');
	await expect(page.locator('[data-act=pen-finish]')).toBeVisible();
	await clicks(page, [
		[400, 450],
		[700, 450],
		[550, 250]
	]);
	await steps(page, 1);
	const recipe = page.getByTestId('recipe');
	await page.keyboard.press('Escape');
	// Even legs: it begins as an arc of a circle, and by its fullness becomes a parabola.
	await expect(recipe).toContainText('arc of a circle');
	expect((await only(page)).anchors).toHaveLength(2);
	await recipe.getByLabel('fullness').fill('0.5');
	await page.keyboard.press('Enter');
	await expect(recipe).toContainText('parabola');
	const radius = recipe.getByLabel('radius at the shoulder');
	await radius.fill('100 mm');
	await page.keyboard.press('Enter');
	await expect(recipe).toContainText('ellipse');
	await steps(page, 3);
	const { fullness } = (await only(page)).recipe!.settings;
	expect(fullness).toBeGreaterThan(0.05);
	expect(fullness).toBeLessThan(0.5);

	await newDrawing(page);
	await command(page, 'formula');
	await steps(page, 1);
	const second = recipe.getByLabel('y(t)');
	await second.fill('high * sin(');
	await page.keyboard.press('Enter');
	await expect(page.getByText('ends too early').first()).toBeVisible();
	expect((await saved(page)).pointer).toBe(1);
	await second.fill('high * sin(4 * t)');
	await page.keyboard.press('Enter');
	await steps(page, 2);
	await recipe.getByLabel('high').fill('30');
	await page.keyboard.press('Enter');
	await steps(page, 3);
	const wave = await only(page);
	expect(wave.recipe!.kind).toBe('formula');
	expect(wave.anchors.length).toBeGreaterThan(8);
	expect(troubles.filter((t) => !t.includes('formula'))).toEqual([]);
});

test('a point goes along a line from now on: the curve turns when the line is turned, and stays as it is when it is freed', async ({
	page
}) => {
	const troubles = listen(page);
	await newDrawing(page);
	await page.keyboard.press('l');
	await clicks(page, [
		[300, 180],
		[800, 190]
	]);
	await page.keyboard.press('Enter');
	await steps(page, 1);
	await page.keyboard.press('Escape');
	await page.keyboard.press('Escape');
	await command(page, 'curve through points');
	await expect(page.locator('[data-act=pen-finish]')).toBeVisible();
	await clicks(page, [
		[320, 460],
		[560, 300],
		[800, 440]
	]);
	await page.keyboard.press('Enter');
	await steps(page, 2);
	await page.keyboard.press('Escape');
	await page.mouse.dblclick(560, 300);
	await framesDrawn(page);
	await page.mouse.click(560, 300);
	await page.locator('[data-act=go-along]').click();
	await steps(page, 3);
	const curve = async () =>
		(await saved(page)).outlines.find((o) => (o as unknown as Kept).recipe) as unknown as Kept & {
			points: number[];
			recipe: { inputs: unknown[] };
		};
	const direction = async () => {
		const { points } = await curve();
		return (Math.atan2(points[7 + 5] - points[7 + 1], points[7 + 4] - points[7]) * 180) / Math.PI;
	};
	expect(await direction()).toBeCloseTo((Math.atan2(-10, 500) * 180) / Math.PI, 1);
	await expect(page.locator('[data-fact=along]')).toContainText('goes along');
	// The other line is turned: the curve goes with it.
	await page.keyboard.press('Escape');
	await page.keyboard.press('Escape');
	await pick(page, 'Line');
	await page.keyboard.press('e');
	const view = await fitAll(page);
	const { points: bar } = (await saved(page)).outlines.find((o) => o.name === 'Line')!;
	await drag(page, view.at(bar[7], bar[8]), view.at(bar[7], bar[8] + 30));
	await steps(page, 4);
	const turned = async () => {
		const { points: p } = (await saved(page)).outlines.find((o) => o.name === 'Line')!;
		return (Math.atan2(p[8] - p[1], p[7] - p[0]) * 180) / Math.PI;
	};
	expect(await turned()).toBeGreaterThan(8);
	await expect.poll(async () => (await direction()) - (await turned())).toBeCloseTo(0, 3);
	await page.keyboard.press('Escape');
	await page.keyboard.press('Escape');
	await pick(page, 'Curve');
	await page.keyboard.press('e');
	const near = await fitAll(page);
	const { points: own } = (await curve()) as unknown as { points: number[] };
	const spot = near.at(own[7], own[8]);
	await page.mouse.click(spot.x, spot.y);
	// Where there is no room beside the line the tag is its name until it is pressed.
	const name = page.locator('[data-act=open-tag]');
	await expect(async () => {
		if (await name.isVisible()) await name.click({ timeout: 2000 });
		await page.locator('[data-act=free-along]').click({ timeout: 2000 });
	}).toPass();
	await steps(page, 5);
	expect((await curve()).recipe.inputs).toEqual([]);
	expect((await direction()) - (await turned())).toBeCloseTo(0, 3);
	await page.keyboard.press('Control+z');
	await steps(page, 4);
	expect((await curve()).recipe.inputs).toHaveLength(1);
	expect(troubles).toEqual([]);
});
