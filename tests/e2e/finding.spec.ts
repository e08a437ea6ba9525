/** The finder, the first help, the start, and copies: with real events, by mouse, by keys, between drawings and tabs. */
import { readdirSync, readFileSync } from 'node:fs';
import { expect, test, type Page } from '@playwright/test';
import { fitAll, give, listen, newDrawing, openDemo, pick, placesNow, saved } from './hands';

const SQUARES =
	'<svg xmlns="http://www.w3.org/2000/svg" width="80mm" height="60mm" viewBox="0 0 80 60"><path d="M10 10H30V30H10Z"><title>Block</title></path><path d="M50 10H70V30H50Z"><title>Other</title></path></svg>';
async function squares(page: Page) {
	await newDrawing(page);
	await give(page, 'blocks.svg', 'image/svg+xml', Buffer.from(SQUARES));
	await expect.poll(async () => (await saved(page)).outlines.length).toBe(2);
	await page.locator('[role=application]').focus();
	return fitAll(page);
}
const left = (o: { points: number[] }) => Math.min(...o.points.filter((_, k) => k % 7 === 0));
const names = async (page: Page) => (await saved(page)).outlines.map((o) => o.name);

test('the finder has a button by the thumb, begins empty, finds a file, a unit, a station and the help, and says what is nearest', async ({
	page
}) => {
	const troubles = listen(page);
	await openDemo(page, 'Control bars and a mask');
	const field = page.locator('[data-field=find]');
	await page.locator('[data-act=find]').click();
	await expect(field).toBeFocused();
	await expect(field).toHaveValue('');
	await expect(page.locator('[data-found]')).toHaveCount(0);
	await field.fill('feet');
	await expect(page.locator('[data-found]').first()).toHaveAttribute('data-found', 'unit-ft');
	await page.keyboard.press('Enter');
	await expect(page.locator('[data-act=settings]')).toContainText('ft');
	// Opened again it is empty; a typo is forgiven; the arrows go on to the next one.
	await page.keyboard.press('/');
	await expect(field).toHaveValue('');
	await field.fill('simplfy');
	await expect(page.locator('[data-found]').first()).toHaveAttribute('data-found', 'simplify');
	await field.fill('letters');
	await expect(page.locator('[data-found]').first()).toContainText('Open an SVG that has them as outlines');
	await expect(page.locator('[data-found]').nth(1)).toHaveAttribute('data-found', 'bring-in');
	await field.fill('what is not there qqq');
	await page.keyboard.press('Escape');
	await expect(field).toBeHidden();
	await page.keyboard.press('/');
	await field.fill('plywood');
	await page.locator('[data-found=station-sheet]').click();
	await expect(page.locator('[data-station=sheet]')).toHaveAttribute('aria-current', 'step');
	// A file, by its format.
	await page.keyboard.press('/');
	await field.fill('dxf');
	const [download] = await Promise.all([
		page.waitForEvent('download'),
		page.locator('[data-found=write-dxf]').click()
	]);
	expect(download.suggestedFilename()).toMatch(/\.dxf$/);
	expect(troubles).toEqual([]);
});

test('what is typed while the finder is still being fetched is not lost, nor taken for tools; Enter acts once it is there', async ({
	page
}) => {
	const troubles = listen(page);
	let letGo = () => {};
	const isLetGo = new Promise<void>((done) => (letGo = done));
	let isHeld = false;
	// The finder's own part of the build, by what stands in it.
	const folder = 'build/client/_app/immutable/chunks';
	const part = readdirSync(folder).find(
		(name) =>
			name.endsWith('.js') &&
			readFileSync(`${folder}/${name}`, 'utf8').includes('Type what you want: fewer points')
	)!;
	await page.route(`**/${part}`, async (route) => {
		isHeld = true;
		await isLetGo;
		await route.continue();
	});
	await newDrawing(page);
	await expect.poll(() => isHeld).toBe(true);
	await page.locator('[role=application]').focus();
	await page.keyboard.press('/');
	await page.keyboard.type('plx');
	await page.keyboard.press('Escape');
	// Put away before it came: the next time it begins empty.
	await page.keyboard.press('/');
	await page.keyboard.type('feed');
	await page.keyboard.press('Backspace');
	await page.keyboard.type('t');
	await page.keyboard.press('Enter');
	await expect(page.locator('[data-act=settings]')).not.toContainText('ft');
	letGo();
	await expect(page.locator('[data-act=settings]')).toContainText('ft');
	await expect(page.getByTestId('finder')).toHaveCount(0);
	await page.keyboard.press('/');
	await expect(page.locator('[data-field=find]')).toHaveValue('');
	expect((await saved(page)).outlines).toEqual([]);
	expect(troubles).toEqual([]);
});

test('a second press on a station leaves its tools; "Leave" puts them away and the line says how to get them back', async ({
	page
}) => {
	await openDemo(page, 'Control bars and a mask');
	const tray = page.getByTestId('tray');
	await page.locator('[data-station=build]').click();
	await page.locator('[data-station=build]').click();
	await expect(tray).toBeVisible();
	await page.locator('[data-act=leave-tray]').click();
	await expect(tray).toBeHidden();
	await expect(page.getByTestId('hint-line')).toContainText('A word on the thread brings its tools');
	await page.locator('[data-station=offset]').click();
	await expect(tray).toBeVisible();
	// The looking glass does not lock the thread.
	await pick(page, 'Cross bar');
	await page.keyboard.press('Shift+G');
	await expect(page.getByRole('group', { name: 'Looking closely' })).toBeVisible();
	await page.locator('[data-station=cut]').click();
	await expect(page.locator('[data-command=write-svg]')).toBeVisible();
});

test('every setting says a plain sentence on hover and in focus, in the one line; messages stand there one at a time', async ({
	page
}) => {
	await openDemo(page, 'Control bars and a mask');
	const line = page.getByTestId('hint-line');
	await page.keyboard.press('o');
	await page.getByLabel('Distance').hover();
	await expect(line).toContainText('How far beside the outline');
	await page.locator('[data-act=keep]').hover();
	await expect(line).toContainText('Makes what you see a step');
	const unsaid = await page
		.locator('.tray')
		.locator('input:not([type=hidden]), button, [role=slider]')
		.evaluateAll((list) =>
			list
				.filter((e) => !e.closest('[aria-description]') && (e as HTMLElement).offsetParent !== null)
				.map((e) => e.outerHTML.slice(0, 120))
		);
	expect(unsaid).toEqual([]);
	await page.keyboard.press('Escape');
	for (const key of ['Shift+B', 'Shift+U', 'i']) await page.keyboard.press(key);
	await expect(page.getByTestId('notice')).toHaveCount(1);
	await page.locator('[data-act=leave-message]').click();
	await expect(page.getByTestId('notice')).toHaveCount(0);
});

test('the first help shows the job of a station, goes on to the next, and stops nothing', async ({
	page
}) => {
	await openDemo(page, 'Control bars and a mask');
	await page.locator('[data-station=offset]').click();
	await page.locator('[data-act=help]').click();
	const help = page.getByTestId('help');
	await expect(help).toContainText('Offset');
	await expect(help.locator('li svg')).toHaveCount(3);
	await page.locator('[data-act=help-next]').click();
	await expect(help).toContainText('Sheet');
	// Work goes on beside it.
	await page.locator('[role=application]').focus();
	await page.keyboard.press('n');
	await expect(page.locator('.tag')).toBeVisible();
	await page.locator('[data-act=leave-help]').click();
	await expect(help).toBeHidden();
});

test('an empty drawing says what one can begin with; a picture dropped on the start page becomes a drawing', async ({
	page
}) => {
	await newDrawing(page);
	await expect(page.getByTestId('first').getByRole('button')).toHaveCount(4);
	await page.locator('[data-first="draw"]').click();
	await expect(page.locator('[data-station=draw]')).toHaveAttribute('aria-current', 'step');
	await page.goto('/');
	await expect(page.locator('[data-act=new]')).toBeVisible();
	const bytes = [...readFileSync('static/demo/mask-colours.png')];
	await page.evaluate((list) => {
		const data = new DataTransfer();
		data.items.add(new File([new Uint8Array(list)], 'dragon.png', { type: 'image/png' }));
		window.dispatchEvent(new DragEvent('drop', { dataTransfer: data, bubbles: true, cancelable: true }));
	}, bytes);
	await expect(page.locator('[data-station=picture]')).toContainText('1 picture');
	expect((await saved(page)).name).toBe('dragon');
});

test('copies: another one by the same step, with Y while dragging, undone one by one', async ({ page }) => {
	const { at } = await squares(page);
	await pick(page, 'Block');
	await fitAll(page);
	const view = await placesNow(page);
	const edge = view.at(20, -10);
	await page.mouse.move(edge.x, edge.y);
	await page.mouse.down();
	await page.mouse.move(edge.x + 40, edge.y, { steps: 4 });
	await page.keyboard.press('y');
	await page.mouse.move(edge.x + 80, edge.y, { steps: 4 });
	await page.mouse.up();
	const step = 80 / view.scale;
	let { outlines } = await saved(page);
	expect(outlines.map((o) => o.name)).toContain('Block 2');
	expect(left(outlines.find((o) => o.name === 'Block 2')!)).toBeCloseTo(10 + step, 1);
	expect(left(outlines.find((o) => o.name === 'Block')!)).toBe(10);
	await page.keyboard.press('Shift+Y');
	({ outlines } = await saved(page));
	expect(left(outlines.find((o) => o.name === 'Block 3')!)).toBeCloseTo(10 + 2 * step, 1);
	await page.keyboard.press('Control+z');
	await page.keyboard.press('Control+z');
	expect(await names(page)).toEqual(['Block', 'Other']);
	expect(at(0, 0)).toBeDefined();
});

test('copy and paste by the browser’s own keys: beside itself, into another drawing, as SVG text from and to elsewhere; lifted out', async ({
	page,
	context
}) => {
	await context.grantPermissions(['clipboard-read', 'clipboard-write']);
	const troubles = listen(page);
	await squares(page);
	await pick(page, 'Block');
	await page.locator('[role=application]').focus();
	await page.keyboard.press('Control+c');
	await expect(page.getByTestId('notice')).toContainText('other programs get it as SVG');
	const text = await page.evaluate(() => navigator.clipboard.readText());
	expect(text).toContain('<svg');
	await page.keyboard.press('Control+v');
	await expect.poll(() => names(page)).toEqual(['Block', 'Other', 'Block 2']);
	// Where it lies already it is put a step aside.
	expect(left((await saved(page)).outlines[2])).toBeCloseTo(20, 9);
	await page.keyboard.press('Control+x');
	await expect.poll(() => names(page)).toEqual(['Block', 'Other']);
	// Another drawing, in another tab.
	const other = await context.newPage();
	await newDrawing(other);
	await other.locator('[role=application]').focus();
	await other.keyboard.press('Control+v');
	await expect.poll(() => names(other)).toEqual(['Block 2']);
	// A text from another program.
	await other.evaluate(
		(svg) => navigator.clipboard.writeText(svg),
		'<svg xmlns="http://www.w3.org/2000/svg" width="20mm" height="20mm" viewBox="0 0 20 20"><circle cx="10" cy="10" r="8"/></svg>'
	);
	await other.locator('[role=application]').focus();
	await other.keyboard.press('Control+v');
	await expect.poll(async () => (await saved(other)).outlines.length).toBe(2);
	expect(troubles).toEqual([]);
});

test('units: inches as fractions on the tag and in a field; a number wildly out of scale is asked about once', async ({
	page
}) => {
	await squares(page);
	await pick(page, 'Block');
	await page.locator('[role=application]').focus();
	await page.keyboard.press('e');
	const { at } = await fitAll(page);
	await page.mouse.click(at(20, -10).x, at(20, -10).y);
	const long = page.getByTestId('segment').getByLabel('long');
	await long.fill('3000');
	await page.keyboard.press('Enter');
	await expect(page.locator('.tag').getByRole('alert')).toContainText('3000 mm, where it was 20 mm?');
	await long.press('Escape');
	await expect(long).toHaveValue('20 mm');
	await long.fill('5-3/8 in');
	await page.keyboard.press('Enter');
	await page.keyboard.press('/');
	await page.locator('[data-field=find]').fill('fractions');
	await page.keyboard.press('Enter');
	await expect(long).toHaveValue('5 3/8 in');
});

test('a tool whose part of the program comes late is used on what was selected when it was asked for; one that cannot come says so', async ({
	page
}) => {
	await squares(page);
	await pick(page, 'Block');
	// What is loaded from now on waits, and then fails.
	let letGo: (() => void) | undefined;
	const waited = new Promise<void>((done) => (letGo = done));
	const asked: string[] = [];
	let fails = false;
	await page.route('**/_app/immutable/**', async (route) => {
		asked.push(route.request().url());
		if (fails) return route.abort();
		await waited;
		await route.continue();
	});
	await page.keyboard.press('Shift+Digit8');
	await expect.poll(() => asked.length).toBeGreaterThan(0);
	await pick(page, 'Other');
	letGo!();
	await expect(page.locator('[data-act=keep]')).toBeEnabled();
	await page.locator('[role=application]').focus();
	await page.keyboard.press('Enter');
	const block = (await saved(page)).outlines.find(({ name }) => name === 'Block')!;
	await expect
		.poll(async () => (await saved(page)).others.filter(({ type }) => type === 'repeat'))
		.toMatchObject([{ sources: [block.id] }]);
	fails = true;
	await pick(page, 'Other');
	await page.keyboard.press('/');
	await page.locator('[data-field=find]').fill('rosette');
	await page.keyboard.press('Enter');
	await expect(page.getByTestId('notice').filter({ hasText: 'Nothing was done' })).toBeVisible();
	// The rest goes on as before.
	await page.locator('[role=application]').focus();
	await page.keyboard.press('Control+z');
	await expect.poll(async () => (await saved(page)).others.some(({ type }) => type === 'repeat')).toBe(false);
});
