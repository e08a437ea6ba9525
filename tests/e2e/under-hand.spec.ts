/** Drawing, selecting, moving, bending, placing with real pointer and key events; asserted on the saved drawing. */
import { expect, test, type Page } from '@playwright/test';
import { drag, fitAll, give, listen, newDrawing, placesNow, saved, type SavedOutline } from './hands';

type Full = SavedOutline & {
	rounds?: { anchor: number; radius?: number }[];
	recipe?: { kind: string; settings: { shape: string; radius?: number }; rounds?: unknown[] };
};
const outlines = async (page: Page) => (await saved(page)).outlines as Full[];
const at = (o: SavedOutline, i: number) => [o.points[7 * i], o.points[7 * i + 1]];

const SQUARE =
	'<svg xmlns="http://www.w3.org/2000/svg" width="60mm" height="60mm" viewBox="0 0 60 60"><path d="M10 10H50V50H10Z"><title>Block</title></path></svg>';
/** The square's box fills the window: x 10..50, y -50..-10. */
async function square(page: Page) {
	await newDrawing(page);
	await give(page, 'block.svg', 'image/svg+xml', Buffer.from(SQUARE));
	await expect(page.locator('[data-station=trace]')).toContainText('1 outline');
	await page.locator('[role=application]').focus();
	return fitAll(page);
}
/** An empty drawing. */
async function blank(page: Page) {
	await newDrawing(page);
	await page.locator('[role=application]').focus();
	return fitAll(page);
}
const click = (page: Page, p: { x: number; y: number }) => page.mouse.click(p.x, p.y);

test('a line is drawn: corners, a pulled anchor, a typed length and angle, taken back, closed on its first anchor', async ({
	page
}) => {
	const troubles = listen(page);
	const { at: place } = await blank(page);
	await page.keyboard.press('l');
	await click(page, place(40, -60));
	await page.mouse.move(place(80, -62).x, place(80, -62).y);
	await expect(page.getByTestId('pointer-fields')).toBeVisible();
	// The length typed, then the angle, without leaving the drawing.
	await page.keyboard.type('50');
	await page.keyboard.press('Tab');
	await page.keyboard.type('0');
	await page.keyboard.press('Enter');
	await click(page, place(100, -110));
	await page.keyboard.press('Backspace');
	await drag(page, place(110, -120), place(100, -140));
	await page.keyboard.press('x');
	await click(page, place(40, -130));
	const first = place(40, -60);
	await page.mouse.move(first.x + 3, first.y + 2);
	await page.mouse.down();
	await page.mouse.up();
	const [o] = await outlines(page);
	expect(o.closed).toBe(true);
	expect(o.anchors).toHaveLength(4);
	expect(at(o, 1)[0] - at(o, 0)[0]).toBeCloseTo(50, 9);
	expect(at(o, 1)[1]).toBe(at(o, 0)[1]);
	// The pulled anchor: a curve before it, and a straight after it, its outgoing handle dropped.
	expect([0, 1, 2, 3].map((i) => o.marks[3 * i + 1])).toEqual([0, 1, 0, 0]);
	expect(o.points.slice(14 + 4, 14 + 6)).toEqual(o.points.slice(14, 16));
	// The pen is ready for the next line; Esc puts it away.
	await page.keyboard.press('Escape');
	await expect(page.getByTestId('pointer-fields')).toBeHidden();
	expect(troubles).toEqual([]);
});

test('a line is gone on from its end; Shift keeps level; flowing anchors; a freehand stroke has few anchors', async ({
	page
}) => {
	const { at: place } = await blank(page);
	await page.keyboard.press('l');
	await click(page, place(30, -60));
	await page.keyboard.down('Shift');
	await click(page, place(80, -64));
	await page.keyboard.up('Shift');
	await page.keyboard.press('Enter');
	let [o] = await outlines(page);
	expect(o.closed).toBe(false);
	expect(at(o, 1)[1]).toBe(at(o, 0)[1]);
	await click(page, place(80, -60));
	await page.keyboard.press('w');
	for (const [x, y] of [
		[100, -90],
		[80, -120],
		[40, -110]
	])
		await click(page, place(x, y));
	await page.keyboard.press('Enter');
	[o] = await outlines(page);
	expect((await outlines(page)).length).toBe(1);
	expect(o.anchors).toHaveLength(5);
	expect(o.marks.filter((_, i) => i % 3 === 0)).toEqual([0, 0, 3, 3, 3]);
	await page.keyboard.press('Escape');
	await page.keyboard.press('Shift+l');
	await page.mouse.move(place(110, -60).x, place(110, -60).y);
	await page.mouse.down();
	for (let k = 1; k <= 60; k++) {
		const p = place(110 + k, -60 - 20 * Math.sin(k / 12));
		await page.mouse.move(p.x, p.y);
	}
	await page.mouse.up();
	await expect.poll(async () => (await outlines(page)).length).toBe(2);
	const stroke = (await outlines(page)).at(-1)!;
	expect(stroke.closed).toBe(false);
	expect(stroke.anchors.length).toBeLessThan(10);
	expect(Math.max(...stroke.points.filter((_, i) => i % 7 === 0))).toBeCloseTo(170, 0);
});

test('ready shapes stay what they are: sides and radius typed afterwards, made plain by an edit', async ({
	page
}) => {
	const { at: place } = await blank(page);
	await page.keyboard.press('Shift+s');
	await page.locator('[data-choice=polygon]').click();
	await drag(page, place(80, -80), place(110, -80));
	let [o] = await outlines(page);
	expect(o.recipe).toMatchObject({ kind: 'shape', settings: { shape: 'polygon', sides: 6 } });
	expect(o.anchors).toHaveLength(6);
	await page.keyboard.press('Escape');
	await page.getByTestId('recipe').getByLabel('sides').fill('8');
	await page.keyboard.press('Enter');
	await page.getByTestId('recipe').getByLabel('radius', { exact: true }).fill('25');
	await page.keyboard.press('Enter');
	[o] = await outlines(page);
	expect(o.anchors).toHaveLength(8);
	const [cx, cy] = [80, -80];
	for (let i = 0; i < 8; i++) expect(Math.hypot(at(o, i)[0] - cx, at(o, i)[1] - cy)).toBeCloseTo(25, 0);
	await page.getByTestId('recipe').getByLabel('corner radius').fill('40');
	await page.keyboard.press('Enter');
	await expect(page.getByText(/does not fit here/)).toBeVisible();
	await page.getByTestId('recipe').getByLabel('corner radius').fill('3');
	await page.keyboard.press('Enter');
	// Its corners are rounded when the line is resolved: its anchors, and so its edges, stay eight.
	[o] = await outlines(page);
	expect(o.anchors).toHaveLength(8);
	expect(o.recipe!.rounds).toHaveLength(8);
	// An arc through three places; three in a line are refused.
	await page.keyboard.press('Shift+s');
	await page.locator('[data-choice=arc]').click();
	for (const [x, y] of [
		[120, -60],
		[130, -60],
		[140, -60]
	])
		await click(page, place(x, y));
	await expect(page.getByText(/lie in a line/)).toBeVisible();
	for (const [x, y] of [
		[120, -60],
		[130, -50],
		[140, -60]
	])
		await click(page, place(x, y));
	const arc = (await outlines(page)).at(-1)!;
	expect(arc.closed).toBe(false);
	expect(arc.recipe!.settings.radius).toBeCloseTo(10, 0);
	await page.keyboard.press('Escape');
	await page.keyboard.press('e');
	await page.keyboard.press('n');
	await page.keyboard.press('ArrowUp');
	expect((await outlines(page)).at(-1)!.recipe).toBeUndefined();
});

test('segments and anchors together: between, the others, an edge, a lasso; several outlines entered at once', async ({
	page
}) => {
	const { at: place } = await square(page);
	await page.keyboard.press('e');
	const tag = page.locator('[data-testid=anchor] b').first();
	await click(page, place(10, -10));
	await page.keyboard.down('Shift');
	await click(page, place(50, -50));
	await page.keyboard.up('Shift');
	await page.keyboard.press('Shift+n');
	await expect(tag).toHaveText('3 anchors');
	await page.keyboard.press('Shift+i');
	await expect(tag).toHaveText('anchor');
	await click(page, place(30, -10));
	await expect(page.getByTestId('segment')).toContainText('straight');
	await page.keyboard.press('Shift+e');
	await expect(tag).toHaveText('2 anchors');
	await page.keyboard.press('Escape');
	await page.keyboard.down('Alt');
	await page.mouse.move(place(44, -30).x, place(44, -30).y);
	await page.mouse.down();
	for (const [x, y] of [
		[44, -6],
		[56, -6],
		[56, -54],
		[44, -54]
	])
		await page.mouse.move(place(x, y).x, place(x, y).y, { steps: 3 });
	await page.mouse.up();
	await page.keyboard.up('Alt');
	await expect(tag).toHaveText('2 anchors');
	// A second square beside it: both entered, one anchor of each moved together.
	await page.keyboard.press('Escape');
	await page.keyboard.press('Escape');
	await page.keyboard.press('Shift+p');
	await page.getByLabel('right', { exact: true }).fill('60');
	await page.keyboard.press('Enter');
	await page.locator('[data-act=old-stay]').click();
	await page.locator('[data-act=keep]').click();
	let all = await outlines(page);
	expect(all).toHaveLength(2);
	expect(at(all[1], 0)[0] - at(all[0], 0)[0]).toBeCloseTo(60, 9);
	await page.locator('[role=application]').focus();
	await page.keyboard.press('Control+a');
	await page.keyboard.press('e');
	await page.keyboard.press('Control+a');
	await page.keyboard.press('Shift+ArrowRight');
	const before = all;
	all = await outlines(page);
	for (const k of [0, 1]) expect(at(all[k], 2)[0] - at(before[k], 2)[0]).toBeCloseTo(1, 9);
	expect((await saved(page)).pointer).toBe(3);
});

test('anchors move along the side before, on their own line, softly; a number typed while dragging is the distance', async ({
	page
}) => {
	const { at: place, scale } = await square(page);
	await page.keyboard.press('e');
	await page.keyboard.press('z');
	// Kept on the plumb side before it, whatever the pointer does.
	const corner = place(50, -50);
	await drag(page, corner, { x: corner.x + 30, y: corner.y + 44 });
	let [o] = await outlines(page);
	const i = o.points.findIndex((v, k) => k % 7 === 0 && v === 50 && o.points[k + 1] < -50) / 7;
	expect(i).toBeGreaterThanOrEqual(0);
	expect(at(o, i)[1]).toBeCloseTo(-50 - 44 / scale, 1);
	await page.keyboard.press('Control+z');
	for (let k = 0; k < 4; k++) await page.keyboard.press('z');
	// Freely again: dragged to the right, 7.5 typed, Enter: exactly so far, level with Shift.
	await page.keyboard.down('Shift');
	await page.mouse.move(corner.x, corner.y);
	await page.mouse.down();
	await page.mouse.move(corner.x + 40, corner.y + 3, { steps: 4 });
	await page.keyboard.up('Shift');
	await page.mouse.move(corner.x + 40, corner.y, { steps: 2 });
	await page.keyboard.type('7.5');
	await page.keyboard.press('Tab');
	await page.keyboard.type('0');
	await page.keyboard.press('Enter');
	await page.mouse.up();
	[o] = await outlines(page);
	expect(o.points.some((v, k) => k % 7 === 0 && v === 57.5 && o.points[k + 1] === -50)).toBe(true);
	await page.keyboard.press('Control+z');
	// A letter in the field says so, and nothing changes.
	await page.mouse.move(corner.x, corner.y);
	await page.mouse.down();
	await page.mouse.move(corner.x + 40, corner.y, { steps: 3 });
	await page.keyboard.type('1');
	await page.keyboard.type('x');
	await page.keyboard.press('Enter');
	await expect(page.getByTestId('pointer-fields').getByRole('alert')).toBeVisible();
	await page.keyboard.press('Escape');
	await page.mouse.move(corner.x, corner.y, { steps: 3 });
	await page.mouse.up();
	// Softly: more anchors in reach first, then the neighbourhood follows and the far side stays.
	await page.keyboard.press('Escape');
	await click(page, corner);
	for (let k = 0; k < 4; k++) await page.keyboard.press('z');
	await page.keyboard.press('/');
	await page.keyboard.type('more in reach');
	await page.keyboard.press('Enter');
	const more = (await outlines(page))[0];
	expect(more.anchors.length).toBeGreaterThan(4);
	await drag(page, corner, { x: corner.x + 26, y: corner.y + 26 });
	[o] = await outlines(page);
	expect(at(o, o.anchors.indexOf(more.anchors[0]))).toEqual(at(more, 0));
	const moved = more.anchors.filter((id, k) => at(o, o.anchors.indexOf(id)).join() !== at(more, k).join());
	expect(moved.length).toBeGreaterThan(2);
	expect(moved.length).toBeLessThan(more.anchors.length);
});

test('as many anchors as are typed are put in evenly; the arrow goes as far as is typed', async ({
	page
}) => {
	const { at: place } = await square(page);
	await page.keyboard.press('e');
	await click(page, place(30, -10));
	await page.keyboard.press('/');
	await page.keyboard.type('arrow goes');
	await page.keyboard.press('Enter');
	await page.getByLabel('anchors put in').fill('4');
	await page.keyboard.press('Enter');
	let [o] = await outlines(page);
	expect(o.anchors).toHaveLength(8);
	const xs = o.points.filter((_, k) => k % 7 === 0 && o.points[k + 1] === -10).sort((a, b) => a - b);
	xs.forEach((x, k) => expect(x).toBeCloseTo(10 + 8 * k, 9));
	await page.getByLabel('an arrow goes').fill('2.5');
	await page.keyboard.press('Enter');
	await page.locator('[role=application]').focus();
	await page.keyboard.press('ArrowUp');
	[o] = await outlines(page);
	expect(o.points.filter((v, k) => k % 7 === 1 && v === -7.5)).toHaveLength(4);
});

test('dragged anchors snap to anchors of other outlines; with Ctrl they do not', async ({ page }) => {
	await newDrawing(page);
	const two =
		'<svg xmlns="http://www.w3.org/2000/svg" width="60mm" height="60mm" viewBox="0 0 60 60"><path d="M10 10H30V50H10Z"/><path d="M35.300 10H50V50H35.300Z"/></svg>';
	await give(page, 'two.svg', 'image/svg+xml', Buffer.from(two));
	await expect(page.locator('[data-station=trace]')).toContainText('2 outlines');
	await page.locator('[role=application]').focus();
	await page.keyboard.press('Escape');
	const { at: place } = await fitAll(page);
	const edge = place(30, -30);
	await page.mouse.dblclick(edge.x, edge.y);
	const from = place(30, -10);
	const near = place(35.3, -10);
	await page.keyboard.down('Control');
	await drag(page, from, { x: near.x - 5, y: near.y + 3 });
	await page.keyboard.up('Control');
	let o = (await outlines(page))[0];
	expect(o.points.includes(35.3)).toBe(false);
	await page.keyboard.press('Control+z');
	await drag(page, from, { x: near.x - 5, y: near.y + 3 });
	o = (await outlines(page))[0];
	expect(o.points.some((v, k) => k % 7 === 0 && v === 35.3 && o.points[k + 1] === -10)).toBe(true);
});

test('a straight is moved whole, bent with Alt, made an arc of a typed radius, swapped for the rest', async ({
	page
}) => {
	const { at: place, scale } = await square(page);
	await page.keyboard.press('e');
	const middle = place(30, -10);
	// A straight goes whole by itself, and bends with Alt.
	await page.keyboard.down('Control');
	await page.keyboard.down('Alt');
	await drag(page, middle, { x: middle.x, y: middle.y - 40 });
	await page.keyboard.up('Alt');
	await page.keyboard.up('Control');
	let [o] = await outlines(page);
	const top =
		o.points.findIndex((v, k) => k % 7 === 0 && o.points[k + 1] === -10 && o.marks[3 * (k / 7) + 1] === 1) /
		7;
	expect(top).toBeGreaterThanOrEqual(0);
	const next = (top + 1) % 4;
	// The middle of the cubic went through the pointer.
	const b = (k: number) =>
		(o.points[7 * top + k] +
			3 * o.points[7 * top + 4 + k] +
			3 * o.points[7 * next + 2 + k] +
			o.points[7 * next + k]) /
		8;
	expect(b(0)).toBeCloseTo(30, 1);
	expect(b(1)).toBeCloseTo(-10 + 40 / scale, 1);
	await page.keyboard.press('Control+z');
	const side = place(50, -30);
	await page.keyboard.down('Shift');
	await drag(page, side, { x: side.x + 50, y: side.y + 4 });
	await page.keyboard.up('Shift');
	[o] = await outlines(page);
	const xs = o.points.filter((_, k) => k % 7 === 0).sort((p, q) => q - p);
	expect(xs[0]).toBeCloseTo(50 + 50 / scale, 1);
	expect(xs[0]).toBe(xs[1]);
	await page.keyboard.press('Control+z');
	await click(page, middle);
	await page.keyboard.press('Shift+u');
	const panel = page.getByTestId('segment');
	await panel.getByLabel('radius').fill('12');
	await page.keyboard.press('Enter');
	await expect(page.getByText(/at least 20.00 mm/)).toBeVisible();
	await panel.getByLabel('radius').fill('25');
	await page.keyboard.press('Enter');
	[o] = await outlines(page);
	const arc = o.marks.filter((_, k) => k % 3 === 1).indexOf(2);
	const bulge = o.points[7 * arc + 6];
	// Chord 40, radius (chord (1 + b^2)) / (4 b) (published DXF reference).
	expect((40 * (1 + bulge * bulge)) / (4 * Math.abs(bulge))).toBeCloseTo(25, 9);
	await panel.getByText('the rest of its circle').click();
	[o] = await outlines(page);
	expect(o.points[7 * arc + 6]).toBeCloseTo(-1 / bulge, 9);
});

test('corners stay editable: rounded by a drag, the radius typed later, refused where too large, sharp again', async ({
	page
}) => {
	const { at: place, scale } = await square(page);
	await page.keyboard.press('e');
	const corner = place(50, -10);
	await click(page, corner);
	await page.keyboard.press('Shift+r');
	await expect(page.locator('[data-act=keep]')).toBeVisible();
	// What is in hand has come out from under the tray.
	const moved = (await placesNow(page)).at(50, -10);
	await drag(page, moved, { x: moved.x - 60, y: moved.y });
	await page.keyboard.press('Enter');
	let [o] = await outlines(page);
	expect(o.rounds).toHaveLength(1);
	expect(o.rounds![0].radius).toBeCloseTo(60 / scale, 1);
	expect(o.anchors).toHaveLength(4);
	await click(page, corner);
	const field = page.locator('.tag').getByLabel('corner radius');
	await field.fill('90');
	await page.keyboard.press('Enter');
	await expect(page.getByText(/The largest that does is/)).toBeVisible();
	await field.fill('8');
	await page.keyboard.press('Enter');
	[o] = await outlines(page);
	expect(o.rounds![0].radius).toBe(8);
	// Moved, the corner is still round.
	await page.keyboard.press('Shift+ArrowRight');
	expect((await outlines(page))[0].rounds![0].radius).toBe(8);
	await field.fill('0');
	await page.keyboard.press('Enter');
	expect((await outlines(page))[0].rounds).toBeUndefined();
});

test('whole outlines: dragged, turned by a number about a place, scaled by a corner; a straight as long as typed', async ({
	page
}) => {
	const { at: place, scale } = await square(page);
	const edge = place(30, -10);
	await drag(page, edge, { x: edge.x + 67, y: edge.y });
	let [o] = await outlines(page);
	const left = Math.min(...o.points.filter((_, k) => k % 7 === 0));
	expect(left).toBeCloseTo(10 + 67 / scale, 1);
	await page.keyboard.press('Control+z');
	await page.keyboard.press('Shift+p');
	await page.getByLabel('turn').fill('45');
	await page.keyboard.press('Enter');
	await page.locator('[data-act=keep]').click();
	[o] = await outlines(page);
	const xs = o.points.filter((_, k) => k % 7 === 0);
	expect(Math.max(...xs) - Math.min(...xs)).toBeCloseTo(40 * Math.SQRT2, 9);
	await page.keyboard.press('Control+z');
	await page.locator('[role=application]').focus();
	await page.keyboard.press('Shift+p');
	await expect(page.locator('[data-act=keep]')).toBeVisible();
	const now = await placesNow(page);
	const corner = now.at(50, -10);
	const middle = now.at(30, -30);
	await drag(page, corner, { x: (corner.x + middle.x) / 2, y: (corner.y + middle.y) / 2 });
	await page.locator('[data-act=keep]').click();
	[o] = await outlines(page);
	const small = o.points.filter((_, k) => k % 7 === 0);
	expect(Math.max(...small) - Math.min(...small)).toBeCloseTo(20, 0);
	await page.keyboard.press('Control+z');
	await page.locator('[role=application]').focus();
	await page.keyboard.press('e');
	await click(page, place(30, -10));
	await page.getByTestId('segment').getByLabel('long').fill('33');
	await page.keyboard.press('Enter');
	[o] = await outlines(page);
	const [p, q] = [0, 1].map((k) => at(o, k));
	expect(Math.hypot(q[0] - p[0], q[1] - p[1])).toBeCloseTo(33, 9);
	await page.getByTestId('segment').getByLabel('long').fill('12 kg');
	await page.keyboard.press('Enter');
	await expect(page.locator('.tag').getByRole('alert')).toBeVisible();
	expect(at((await outlines(page))[0], 1)).toEqual(q);
});

test('by keyboard alone: an anchor chosen, its kind changed, its handle pulled; the radius there typed', async ({
	page
}) => {
	await square(page);
	await page.keyboard.press('Control+a');
	await page.keyboard.press('e');
	await page.keyboard.press('n');
	await page.keyboard.press('s');
	const before = (await outlines(page))[0];
	await page.keyboard.press('.');
	await page.keyboard.press('Shift+ArrowUp');
	let [o] = await outlines(page);
	expect(o.points[5] - before.points[5]).toBeCloseTo(1, 9);
	expect(at(o, 0)).toEqual(at(before, 0));
	await page.keyboard.press('.');
	await page.keyboard.press('ArrowUp');
	expect(at((await outlines(page))[0], 0)[1] - at(o, 0)[1]).toBeCloseTo(0.1, 9);
	const radius = page.locator('.tag').getByLabel('radius after');
	await radius.fill('40');
	await page.keyboard.press('Enter');
	[o] = await outlines(page);
	const n = 4;
	const [x, y, , , hx, hy] = o.points.slice(0, 6);
	const [bx, by] = o.points.slice(7 * (1 % n) + 2, 7 * (1 % n) + 4);
	const size = Math.hypot(hx - x, hy - y);
	const off = Math.abs(((hx - x) * (by - y) - (hy - y) * (bx - x)) / size);
	expect((1.5 * size * size) / off).toBeCloseTo(40, 6);
	await radius.fill('-3');
	await page.keyboard.press('Enter');
	await expect(page.locator('.tag').getByRole('alert')).toContainText('above 0');
});

test('touch: a resting finger opens the menu; with an anchor picked it is dragged from beside it', async ({
	browser
}) => {
	const context = await browser.newContext({ hasTouch: true, viewport: { width: 1280, height: 800 } });
	const page = await context.newPage();
	const { at: place, scale } = await square(page);
	const client = await context.newCDPSession(page);
	const touch = (type: string, p?: { x: number; y: number }) =>
		client.send('Input.dispatchTouchEvent', {
			type: type as 'touchStart',
			touchPoints: p ? [{ x: p.x, y: p.y }] : []
		});
	const edge = place(30, -10);
	await touch('touchStart', edge);
	await expect(page.getByTestId('near-menu')).toBeVisible();
	await touch('touchEnd');
	await page.locator('[data-menu=enter]').tap();
	const corner = place(50, -10);
	await touch('touchStart', corner);
	await touch('touchEnd');
	await expect(page.locator('[data-testid=anchor] b').first()).toHaveText('anchor');
	const beside = place(25, -30);
	await touch('touchStart', beside);
	for (let k = 1; k <= 6; k++) await touch('touchMove', { x: beside.x + 8 * k, y: beside.y });
	await touch('touchEnd');
	const most = async () => {
		const [o] = await outlines(page);
		return Math.max(...o.points.filter((_, k) => k % 7 === 0));
	};
	await expect.poll(most).toBeCloseTo(50 + 48 / scale, 0);
	await context.close();
});
