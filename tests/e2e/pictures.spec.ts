/** Pictures brought in by a person: sized by two points, traced, measured; and every bad file. */
import { zipSync, strToU8 } from 'fflate';
import { Resvg } from '@resvg/resvg-js';
import sharp from 'sharp';
import { expect, test } from '@playwright/test';
import { unwrap } from '../../src/lib/core/errors';
import { readSvg } from '../../src/lib/core/formats/svg';
import { pathBox } from '../../src/lib/core/geometry/measure';
import { DRAWINGS, photographOf } from '../photographs';
import { exported, fact, fitAll, give, listen, newDrawing, openDemo, saved } from './hands';

/** A card puppet's hand, 400 x 300 px at no stated size; the bar under it is 300 px long. */
const HAND = new Resvg(
	'<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 400 300"><rect width="400" height="300" fill="#fff"/><path d="M60 40H340V160H60Z"/><circle cx="200" cy="100" r="30" fill="#fff"/><rect x="50" y="250" width="300" height="8"/></svg>'
)
	.render()
	.asPng();

test('an uploaded picture, sized by two points and a typed distance, comes out in true millimetres', async ({
	page
}) => {
	const troubles = listen(page);
	await newDrawing(page);
	await give(page, 'hand.png', 'image/png', Buffer.from(HAND));
	await expect(page.locator('[data-station=size]')).toContainText('No true size yet');
	await page.locator('[data-act=two-points]').click();
	const px = 25.4 / 96;
	const view = await fitAll(page);
	for (const x of [50, 350]) {
		const p = view.at(x * px, -254 * px);
		await page.mouse.click(p.x, p.y);
	}
	await page.getByLabel('These two are apart').fill('15 cm');
	await page.keyboard.press('Enter');
	await expect(page.locator('[data-station=size]')).toContainText('True size is set');
	const { references } = await saved(page);
	// Two clicks are good to about half a screen pixel each.
	expect(references[0].pxPerMm).toBeCloseTo(2, 1);
	await page.locator('[role=application]').focus();
	await page.keyboard.press('t');
	await expect(page.locator('[data-act=keep]')).toBeEnabled();
	expect(await fact(page, 'outlines')).toBe(3);
	await page.keyboard.press('Enter');
	await page.locator('[data-station=cut]').click();
	const svg = unwrap(readSvg((await exported(page, page.locator('[data-command=write-svg]'))).toString()));
	const card = svg.shapes.find((s) => s.paths.length === 2)!;
	const box = pathBox(card.paths[0]);
	const k = 2 / references[0].pxPerMm!;
	expect(box.x1 - box.x0).toBeCloseTo(140 * k, 1);
	expect(box.y1 - box.y0).toBeCloseTo(60 * k, 1);
	expect(troubles).toEqual([]);
});

test('a stated resolution is taken; JPEG, WebP, GIF and a turned photograph open; pasting works', async ({
	page
}) => {
	await newDrawing(page);
	const image = sharp(Buffer.from(HAND));
	await give(
		page,
		'hand.jpg',
		'image/jpeg',
		await image.clone().withMetadata({ density: 254, orientation: 6 }).jpeg().toBuffer()
	);
	await expect(page.locator('[data-station=picture]')).toContainText('1 picture');
	let now = await saved(page);
	expect(now.references[0]).toMatchObject({ widthPx: 300, heightPx: 400 });
	expect(now.references[0].pxPerMm).toBeCloseTo(10, 6);
	await give(page, 'hand.webp', 'image/webp', await image.clone().webp().toBuffer());
	await expect(page.locator('[data-station=picture]')).toContainText('2 pictures');
	await give(page, 'hand.gif', 'image/gif', await image.clone().gif().toBuffer());
	await expect(page.locator('[data-station=picture]')).toContainText('3 pictures');
	await page.evaluate(
		(bytes) => {
			const data = new DataTransfer();
			data.items.add(new File([new Uint8Array(bytes)], 'pasted.png', { type: 'image/png' }));
			window.dispatchEvent(new ClipboardEvent('paste', { clipboardData: data }));
		},
		[...HAND]
	);
	await expect(page.locator('[data-station=picture]')).toContainText('4 pictures');
	now = await saved(page);
	expect(now.references).toHaveLength(4);
});

test('every bad file gets one plain sentence, and the open drawing is untouched', async ({ page }) => {
	const troubles = listen(page);
	await openDemo(page, 'Control bars and a mask');
	const before = await saved(page);
	const jpeg = await sharp(Buffer.from(HAND)).jpeg().toBuffer();
	const plain = { format: 'even-thread-drawing', version: 99, id: 'x', name: 'x', records: [] };
	const zip = (text: string) => Buffer.from(zipSync({ 'drawing.json': strToU8(text) }));
	const bad: [string, string, Buffer, RegExp][] = [
		['note.png', 'image/png', Buffer.from('this is a text file'), /no picture that can be opened/],
		['half.jpg', 'image/jpeg', jpeg.subarray(0, Math.floor(jpeg.length / 2)), /damaged or cut short/],
		['none.png', 'image/png', Buffer.alloc(0), /is empty/],
		['future.thread', 'application/zip', zip(JSON.stringify(plain)), /newer Even Thread/],
		[
			'nan.thread',
			'application/zip',
			zip('{"format":"even-thread-drawing","version":1,"records":[NaN]}'),
			/damaged/
		],
		[
			'odd.svg',
			'image/svg+xml',
			Buffer.from('<svg xmlns="http://www.w3.org/2000/svg"><script>document.title="owned"</script></svg>'),
			/no line in this SVG/
		],
		['odd.dxf', 'image/vnd.dxf', Buffer.from('hello'), /could not be read as DXF|no line in this DXF/]
	];
	for (const [name, type, buffer, sentence] of bad) {
		await give(page, name, type, buffer);
		await expect(page.getByRole('log')).toContainText(sentence);
		await expect(page.getByRole('log')).toContainText(name);
	}
	const after = await saved(page);
	expect(after).toEqual(before);
	expect(troubles).toEqual([]);
});

test('a picture of one pixel opens and says that there is nothing to trace', async ({ page }) => {
	await newDrawing(page);
	const one = await sharp({ create: { width: 1, height: 1, channels: 3, background: '#000' } })
		.withMetadata({ density: 300 })
		.png()
		.toBuffer();
	await give(page, 'one.png', 'image/png', one);
	await expect(page.locator('[data-station=picture]')).toContainText('1 picture');
	await page.keyboard.press('t');
	await expect(page.locator('.facts .trouble')).toBeVisible();
	await page.keyboard.press('Escape');
});

test('an SVG with a script is opened, the script dropped and listed; SVG and DXF keep their size', async ({
	page
}) => {
	const troubles = listen(page);
	await newDrawing(page);
	await give(
		page,
		'bar.svg',
		'image/svg+xml',
		Buffer.from(
			'<svg xmlns="http://www.w3.org/2000/svg" width="80mm" height="40mm" viewBox="0 0 80 40"><script>document.title="owned"</script><path d="M5 5H65V25H5Z"><title>Bar</title></path></svg>'
		)
	);
	await expect(page.getByTestId('opened')).toContainText('A script was left out');
	await page.locator('[data-act=opened-seen]').click();
	await expect(page.getByTestId('opened')).toHaveCount(0);
	expect(await page.title()).not.toContain('owned');
	const [bar] = (await saved(page)).outlines;
	expect(bar.name).toBe('Bar');
	expect(bar.points[0]).toBe(5);
	expect(bar.points[1]).toBe(-5);
	await page.locator('[data-station=cut]').click();
	const dxf = await exported(page, page.locator('[data-command=write-dxf]'));
	await newDrawing(page);
	await give(page, 'bar.dxf', 'image/vnd.dxf', dxf);
	await expect(page.locator('[data-station=trace]')).toContainText('1 outline');
	expect((await saved(page)).outlines[0].points.filter((_, i) => i % 7 === 0)).toEqual([5, 65, 65, 5]);
	expect(troubles).toEqual([]);
});

test('broken lines stay broken; wide strokes become bands at one press, and undo takes that back', async ({
	page
}) => {
	const troubles = listen(page);
	await newDrawing(page);
	await give(
		page,
		'rods.svg',
		'image/svg+xml',
		Buffer.from(
			'<svg xmlns="http://www.w3.org/2000/svg" width="80mm" height="60mm" viewBox="0 0 80 60"><path d="M10 10H70" stroke="#000" stroke-width="6"><title>Rod</title></path><path d="M10 40H70" fill="none" stroke="#000" stroke-width=".2" stroke-dasharray="4 2"><title>Fold</title></path></svg>'
		)
	);
	await expect(page.getByTestId('opened')).toContainText('6 mm wide');
	await page.locator('[data-act=take-bands]').click();
	await expect(page.locator('[data-act=take-bands]')).toHaveCount(0);
	const now = await saved(page);
	expect(now.outlines.map((o) => o.name)).toEqual(['Rod', 'Fold', 'Rod, 6 mm wide']);
	const band = now.outlines[2];
	expect(band.closed).toBe(true);
	const ys = band.anchors.map((_, i) => +band.points[7 * i + 1].toFixed(6));
	expect([Math.min(...ys), Math.max(...ys)]).toEqual([-13, -7]);
	await page.locator('[data-station=cut]').click();
	const svg = (await exported(page, page.locator('[data-command=write-svg]'))).toString();
	expect(svg).toContain('stroke-dasharray="4 2"');
	expect(svg.match(/<path/g)).toHaveLength(2);
	await page.keyboard.press('Control+z');
	expect((await saved(page)).outlines.map((o) => o.name)).toEqual(['Rod', 'Fold']);
	expect(troubles).toEqual([]);
});

test('the grain of paper at a threshold set by hand is told at once and mended at one press', async ({
	page
}) => {
	await newDrawing(page);
	const { widthPx, heightPx, rgba } = photographOf(DRAWINGS.pencil, 1400);
	const png = await sharp(Buffer.from(rgba), { raw: { width: widthPx, height: heightPx, channels: 4 } })
		.withMetadata({ density: 254 })
		.png()
		.toBuffer();
	await give(page, 'pencil.png', 'image/png', png);
	await expect(page.locator('[data-station=picture]')).toContainText('1 picture');
	await page.locator('[role=application]').focus();
	await page.keyboard.press('t');
	await expect(page.locator('[data-act=keep]')).toBeEnabled();
	const found = await fact(page, 'outlines');
	const counts = new Array<number>(256).fill(0);
	for (let i = 0; i < rgba.length; i += 4) counts[rgba[i + 1]]++;
	await page
		.getByLabel('Tone', { exact: true })
		.last()
		.fill(String(counts.indexOf(Math.max(...counts))));
	await page.keyboard.press('Enter');
	await expect(page.locator('.facts .trouble')).toContainText('grain of the paper');
	await page.locator('[data-act=mend-grain]').click();
	await expect(page.locator('[data-act=keep]')).toBeEnabled();
	expect(await fact(page, 'outlines')).toBe(found);
	expect(found).toBeLessThan(60);
});

test('tracing that is asked for before the picture is decoded waits for it', async ({ page }) => {
	await page.addInitScript(() => {
		const post = Worker.prototype.postMessage as (message: unknown, transfer: Transferable[]) => void;
		const late = function (this: Worker, message: { path?: string[] }, transfer: Transferable[] = []) {
			const send = () => post.call(this, message, transfer);
			if (message.path?.[0] === 'open') setTimeout(send, 1500);
			else send();
		};
		Worker.prototype.postMessage = late as typeof Worker.prototype.postMessage;
	});
	await openDemo(page, 'Fox puppet, scanned parts');
	await page.keyboard.press('t');
	await expect(page.locator('[data-act=keep]')).toBeEnabled();
	expect(await fact(page, 'outlines')).toBe(21);
});
