/** The ways of tracing, a sheet at an angle, the scanner, and tracing on the server. */
import { readFileSync } from 'node:fs';
import sharp from 'sharp';
import { expect, test } from '@playwright/test';
import { unwrap } from '../../src/lib/core/errors';
import { readSvg } from '../../src/lib/core/formats/svg';
import { pathArea, pathBox, pathLength } from '../../src/lib/core/geometry/measure';
import type { Path } from '../../src/lib/core/geometry/path';
import { finish } from '../../src/lib/core/progress';
import { toGrey } from '../../src/lib/core/trace/picture';
import { traceByTone } from '../../src/lib/core/trace/trace';
import { STAR } from '../shapes';
import {
	exported,
	fact,
	give,
	listen,
	newDrawing,
	openDemo,
	saved,
	type SavedOutline,
	fitAll
} from './hands';

/** The mask as the demo's script draws it, mm. */
const MASK = unwrap(
	readSvg(
		'<svg width="297mm" height="210mm" viewBox="0 0 297 210"><path d="M148 24C186 24 226 40 232 84C238 128 206 178 148 190C90 178 58 128 64 84C70 40 110 24 148 24Z"/></svg>'
	)
).shapes[0].paths[0];

const places = (o: SavedOutline) =>
	o.points.flatMap((v, k) => (k % 7 === 0 ? [{ x: v, y: o.points[k + 1] }] : []));

test('a photographed sheet is found, straightened to A4, traced, and measures what it should', async ({
	page
}) => {
	const troubles = listen(page);
	await openDemo(page, 'Mask, three pictures');
	await page.locator('[data-station=size]').click();
	await page.locator('[data-act=find-sheet]').first().click();
	await expect(page.locator('[data-fact=straightness]')).toBeVisible();
	// Edges of a flat sheet: straight to well below a tenth of a millimetre.
	expect(await fact(page, 'straightness')).toBeLessThan(0.1);
	await page.locator('[data-act=straighten]').click();
	await expect.poll(async () => (await saved(page)).references[0].pxPerMm).toBeGreaterThan(3);
	const [sheet] = (await saved(page)).references;
	expect(sheet.widthPx / sheet.pxPerMm!).toBeCloseTo(297, 0);
	expect(sheet.heightPx / sheet.pxPerMm!).toBeCloseTo(210, 0);
	await page.locator('[role=application]').focus();
	await page.keyboard.press('t');
	await page.locator('[data-group=finer]').click();
	await page.locator('[data-act=evenLight]').click();
	await expect(page.locator('[data-act=keep]')).toBeEnabled();
	await page.locator('[data-act=keep]').click();
	await page.locator('[data-station=cut]').click();
	const svg = unwrap(readSvg((await exported(page, page.locator('[data-command=write-svg]'))).toString()));
	const paths = svg.shapes.flatMap((s) => [...s.paths]);
	const mask = paths.reduce((a, b) => (Math.abs(pathArea(b)) > Math.abs(pathArea(a)) ? b : a));
	const [got, wanted] = [pathBox(mask), pathBox(MASK)];
	expect(got.x1 - got.x0).toBeCloseTo(wanted.x1 - wanted.x0, 0);
	expect(got.y1 - got.y0).toBeCloseTo(wanted.y1 - wanted.y0, 0);
	expect(Math.abs(got.x0 - wanted.x0)).toBeLessThan(0.3);
	// One undo brings the photograph back as it was.
	await page.locator('[role=application]').focus();
	while ((await saved(page)).pointer > 0) await page.keyboard.press('Control+z');
	expect((await saved(page)).references[0].pxPerMm).toBeUndefined();
	expect(troubles).toEqual([]);
});

test('four corners are picked and pulled; corners in a line are refused', async ({ page }) => {
	await openDemo(page, 'Mask, three pictures');
	await page.keyboard.press('h');
	await page.locator('[data-station=size]').click();
	await page.locator('[data-act=corners]').first().click();
	const at = [
		{ x: 111, y: 232 },
		{ x: 431, y: 209 },
		{ x: 474, y: 475 },
		{ x: 270, y: 222 }
	];
	for (const p of at) await page.mouse.click(p.x, p.y);
	await expect(page.getByText('do not go round a rectangle')).toBeVisible();
	await expect(page.getByTestId('magnifier')).toBeVisible();
	await page.mouse.move(270, 222);
	await page.mouse.down();
	await page.mouse.move(82, 494, { steps: 6 });
	await page.mouse.up();
	await expect(page.locator('[data-act=straighten]')).toBeVisible();
	expect(await fact(page, 'per-pixel')).toBeGreaterThan(0);
});

test('by flat colours every colour gets a layer; by line middles single lines; level lines; a part of the picture only', async ({
	page
}) => {
	const troubles = listen(page);
	await openDemo(page, 'Mask, three pictures');
	await page.keyboard.press('t');
	await page.locator('[data-choice=colours]').click();
	await expect(page.locator('[data-act=keep]')).toBeEnabled();
	await expect(page.locator('[data-fact=colours] i')).toHaveCount(4);
	await page.locator('[data-act=keep]').click();
	let now = await saved(page);
	expect(now.outlines.every((o) => o.closed)).toBe(true);
	expect(new Set(now.outlines.map((o) => (o as unknown as { layer: string }).layer)).size).toBe(4);
	await page.keyboard.press('Control+z');

	await page.keyboard.press('t');
	await page.locator('[data-act=which-picture]').selectOption('mask-lines.png');
	await page.locator('[data-choice=line-centre]').click();
	await expect(page.locator('[data-act=keep]')).toBeEnabled();
	await expect.poll(() => fact(page, 'stroke')).toBeCloseTo(1.3, 1);
	await page.locator('[data-act=seen]').click();
	await expect(page.getByTestId('split')).toBeVisible();
	await page.locator('[data-act=keep]').click();
	now = await saved(page);
	expect(now.outlines.some((o) => !o.closed)).toBe(true);
	// The mouth is one open line between its two ends.
	const mouth = now.outlines.find((o) => {
		const p = places(o);
		return !o.closed && p.some((q) => Math.abs(q.y + 132) < 0.3) && p.every((q) => q.y < -131);
	})!;
	const ends = [places(mouth)[0], places(mouth).at(-1)!].map((q) => q.x).sort((a, b) => a - b);
	expect(ends[1] - ends[0]).toBeCloseTo(88, 0);
	await page.keyboard.press('Control+z');

	await page.keyboard.press('t');
	await page.locator('[data-choice=levels]').click();
	await page.getByLabel('Levels').fill('3');
	await page.keyboard.press('Enter');
	await expect(page.locator('[data-act=keep]')).toBeEnabled();
	const whole = await fact(page, 'outlines');
	await page.locator('[data-choice=local-tone]').click();
	await expect(page.locator('[data-act=keep]')).toBeEnabled();
	const near = await fact(page, 'outlines');
	expect(whole).toBeGreaterThan(near);
	const anchors = await fact(page, 'anchors');
	// Only a part of it: fewer anchors, and all of the picture again.
	await page.locator('[role=application]').focus();
	await fitAll(page);
	await page.keyboard.down('Shift');
	await page.mouse.move(530, 185);
	await page.mouse.down();
	await page.mouse.move(690, 330, { steps: 5 });
	await page.mouse.up();
	await page.keyboard.up('Shift');
	await expect.poll(() => fact(page, 'anchors')).toBeLessThan(anchors);
	await page.locator('[data-act=whole-picture]').click();
	await expect.poll(() => fact(page, 'anchors')).toBe(anchors);
	expect(troubles).toEqual([]);
});

test('outlines of a large picture are drawn by two workers, and are what one alone draws', async ({
	page
}) => {
	const troubles = listen(page);
	const star = (x: number, y: number, size: number) =>
		STAR.map(([px, py]) => `${x + (size * (px - 120)) / 240},${y + (size * (py - 120)) / 240}`).join(' ');
	const stars = Array.from({ length: 6 }, (_, i) =>
		star(330.3 + 640 * (i % 3), 340.6 + 660 * Math.floor(i / 3), 600 - 17 * i)
	);
	const svg = `<svg xmlns="http://www.w3.org/2000/svg" width="2000" height="1340"><rect width="2000" height="1340" fill="#fff"/>${stars.map((points) => `<polygon points="${points}"/>`).join('')}</svg>`;
	const image = sharp(Buffer.from(svg)).flatten();
	const png = await image.withMetadata({ density: 254 }).png().toBuffer();
	const { data, info } = await sharp(png).ensureAlpha().raw().toBuffer({ resolveWithObject: true });
	const grey = toGrey({ widthPx: info.width, heightPx: info.height, rgba: new Uint8ClampedArray(data) });
	const alone = finish(traceByTone(grey, { pxPerMm: 10 }));
	expect(alone.paths).toHaveLength(6);
	await newDrawing(page);
	await give(page, 'stars.png', 'image/png', png);
	await expect(page.locator('[data-station=picture]')).toContainText('1 picture');
	await expect.poll(() => page.workers().some((w) => w.url().includes('outlines.worker'))).toBe(true);
	await page.keyboard.press('t');
	await expect(page.locator('[data-act=keep]')).toBeEnabled();
	await page.locator('[data-act=keep]').click();
	await expect.poll(async () => (await saved(page)).outlines.length).toBe(6);
	await page.locator('[data-station=cut]').click();
	const file = await exported(page, page.locator('[data-command=write-svg]'));
	const paths = unwrap(readSvg(file.toString())).shapes.flatMap((s) => [...s.paths]);
	const told = (list: readonly Path[]) =>
		list.map((p) => [p.types.length, Math.abs(pathArea(p)), pathLength(p)]).sort((a, b) => a[1] - b[1]);
	told(paths).forEach((row, i) =>
		row.forEach((value, k) => expect(value).toBeCloseTo(told(alone.paths)[i][k], 4))
	);
	expect(troubles).toEqual([]);
});

test('the scanner refuses with an open cover and without paper, then delivers a sheet of true size', async ({
	page,
	request
}) => {
	const troubles = listen(page);
	await newDrawing(page);
	await page.locator('[data-command=scan]').click();
	await request.put('/api/scanner', { data: { cover: 'open' } });
	await page.locator('[data-act=scan-now]').click();
	await expect(page.getByText('The cover of the scanner is open. Close it.')).toBeVisible();
	await request.put('/api/scanner', { data: { cover: 'closed', paper: false } });
	await page.locator('[data-act=scan-now]').click();
	await expect(page.getByText('There is no paper on the glass.')).toBeVisible();
	await request.put('/api/scanner', { data: { paper: true } });
	expect((await saved(page)).references).toHaveLength(0);
	await page.locator('[data-choice="150"]').click();
	await page.locator('[data-act=scan-now]').click();
	// While it scans it is busy for anybody else.
	await expect.poll(async () => (await (await request.get('/api/scanner')).json()).state).toBe('scanning');
	const other = await request.post('/api/scanner', {
		data: { dpi: 75, colour: false, area: { x: 0, y: 0, w: 50, h: 50 } }
	});
	expect(other.status()).toBe(409);
	expect((await other.json()).problem.code).toBe('busy');
	await expect.poll(async () => (await saved(page)).references.length).toBe(1);
	const [scan] = (await saved(page)).references;
	expect(scan.pxPerMm).toBeCloseTo(150 / 25.4, 2);
	expect(scan.widthPx / scan.pxPerMm!).toBeCloseTo(297, 0);
	// What is refused is no trouble of the page: the browser notes the answers' status.
	expect(troubles.filter((t) => !/409/.test(t))).toEqual([]);
});

test('the server traces a picture that is sent, and says what is wrong with one that is none', async ({
	request
}) => {
	const png = readFileSync('static/demo/mask-colours.png');
	const answer = await request.post('/api/trace?by=colours&colours=5&px-per-mm=6', { data: png });
	expect(answer.status()).toBe(200);
	const { svg, facts } = await answer.json();
	expect(facts.outlines).toBeGreaterThan(4);
	expect(unwrap(readSvg(svg)).shapes.length).toBe(facts.pieces);
	const blank = await sharp({ create: { width: 50, height: 50, channels: 3, background: '#fff' } })
		.png()
		.toBuffer();
	for (const [data, query, word] of [
		[Buffer.from('no picture'), 'px-per-mm=6', /picture|file/],
		[blank, 'px-per-mm=6', /edge|threshold/],
		[png, 'by=magic', /--by is one of/],
		[png, 'colour=5', /no setting/]
	] as const) {
		const bad = await request.post(`/api/trace?${query}`, { data });
		expect(bad.status()).toBe(400);
		expect((await bad.json()).problem.sentence).toMatch(word);
	}
});
