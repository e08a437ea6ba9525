// How fluid many things are: 2,000 pieces in 40 layers over a picture of 12 megapixels, 200 of them dragged, and a repeat of
// 10,000; headless Chromium at 1280x800 without a graphics card. Prints median and 95th percentile; it judges nothing.
//   npm run bench:ui       (after npm run build), or this alone with the number of copies
import sharp from 'sharp';
import { openSources } from './sources.mjs';
import { frameCounter, openApp, placeInWindow, savedPlaces } from './app-frames.mjs';

const PORT = 4179;
const PIECES = 2000;
const LAYERS = 40;
const COPIES = Number(process.argv[2] ?? 10_000);

const vite = await openSources();
const load = (name) => vite.ssrLoadModule(name);
const { blob } = await load('/tests/shapes.ts');
const { transformPath } = await load('/src/lib/core/geometry/path.ts');
const { outlineFromPath } = await load('/src/lib/core/document/outline.ts');
const { newDrawing } = await load('/src/lib/core/document/drawing.ts');
const { writeDrawingFile } = await load('/src/lib/core/formats/drawing-file.ts');
const at = (path, x, y) => transformPath(path, [1, 0, 0, 1, x, y]);

/** 2,000 pieces of 12 segments in 40 layers. */
function pieces() {
	const drawing = newDrawing('pieces', 'Pieces');
	const records = new Map(drawing.records);
	for (let k = 0; k < LAYERS; k++)
		records.set(`l${k}`, {
			type: 'layer',
			id: `l${k}`,
			rank: 10 + k,
			name: `Layer ${k + 1}`,
			purpose: ['cut', 'score', 'engrave'][k % 3],
			colour: '#1c3f5e'
		});
	for (let i = 0; i < PIECES; i++) {
		const path = at(blob(12, (i % 40) + 1, 3), 8 * (i % 50), 8 * Math.floor(i / 50));
		records.set(
			`o${i}`,
			outlineFromPath(path, { id: `o${i}`, name: `Piece ${i + 1}`, layer: `l${i % LAYERS}`, rank: 100 + i })
		);
	}
	return { ...drawing, records };
}
/** One piece of 12 segments, and copies of it in rows. */
function copies(total) {
	const drawing = newDrawing('copies', 'Copies');
	const columns = Math.round(Math.sqrt(total * 1.6));
	const source = outlineFromPath(blob(12, 3, 3), { id: 'o', name: 'Feather', layer: 'cut', rank: 10 });
	const rule = {
		way: 'rows',
		columns,
		rows: Math.floor(total / columns),
		right: 8,
		up: 8,
		angle: 0,
		stagger: 0.5
	};
	const repeat = { type: 'repeat', id: 'r', rank: 11, name: 'Feathers', sources: ['o'], rule };
	return { ...drawing, records: new Map([...drawing.records, ['o', source], ['r', repeat]]) };
}
const files = {
	pieces: writeDrawingFile(pieces(), new Map()),
	copies: writeDrawingFile(copies(COPIES), new Map())
};
await vite.close();
const dots = Array.from(
	{ length: 300 },
	(_, i) => `<circle cx="${(i * 947) % 4000}" cy="${(i * 1511) % 3000}" r="${20 + ((i * 53) % 90)}"/>`
).join('');
const picture = await sharp(
	Buffer.from(
		`<svg xmlns="http://www.w3.org/2000/svg" width="4000" height="3000"><rect width="4000" height="3000" fill="#fff"/>${dots}</svg>`
	)
)
	.withMetadata({ density: 250 })
	.png()
	.toBuffer();

const { page, base, close } = await openApp(PORT);
try {
	const file = (name, mimeType, buffer) =>
		page
			.locator('[data-testid=file-input]')
			.first()
			.setInputFiles({ name, mimeType, buffer: Buffer.from(buffer) });
	const open = async (name) => {
		await page.goto(base);
		await file(`${name}.thread`, 'application/zip', files[name]);
		await page.waitForURL(/drawing/);
		await page.locator('canvas').first().waitFor();
		await page.waitForTimeout(1500);
		await page.locator('[role=application]').focus();
		await page.keyboard.press('h');
		await page.waitForTimeout(1500);
	};
	const frames = await frameCounter(page);
	const swing = async (x, y, far = 80) => {
		for (let k = 0; k < 140; k++) {
			await page.mouse.move(x + far * Math.sin(k / 8), y + 0.7 * far * Math.sin(k / 9));
			await page.waitForTimeout(8);
		}
	};
	const pan = async (name) => {
		await page.mouse.move(640, 300);
		await page.mouse.down({ button: 'middle' });
		await frames(name, () => swing(640, 300));
		await page.mouse.up({ button: 'middle' });
		await page.waitForTimeout(500);
	};
	const zoom = (name) =>
		frames(name, async () => {
			for (let k = 0; k < 80; k++) {
				await page.mouse.wheel(0, k < 40 ? -40 : 40);
				await page.waitForTimeout(16);
			}
		});
	const place = (x, y) => placeInWindow(page, x, y);
	const firstPlace = async (name) => (await savedPlaces(page, name))[0];

	await open('pieces');
	await file('large.png', 'image/png', picture);
	await page.waitForTimeout(4000);
	await page.keyboard.press('Escape');
	console.log(`${PIECES} pieces in ${LAYERS} layers over 12 megapixels`);
	await pan('pan, all in view');
	await zoom('zoom at the pointer');
	await page.waitForTimeout(800);
	// 200 picked by a box: 10 rows of 20.
	await page.keyboard.press('Escape');
	const a = await place(-4.5, -4.5);
	const b = await place(8 * 19 + 4.5, 8 * 9 + 4.5);
	await page.mouse.move(a.x, a.y);
	await page.mouse.down();
	await page.mouse.move((a.x + b.x) / 2, (a.y + b.y) / 2);
	await page.mouse.move(b.x, b.y);
	await page.mouse.up();
	await page.waitForTimeout(800);
	console.log(await page.locator('aside.tag .name').first().innerText());
	const first = await firstPlace('Piece 1');
	const on = await place(first[0], first[1]);
	await page.mouse.move(on.x, on.y);
	await page.mouse.down();
	await frames('drag of 200 picked', () => swing(on.x, on.y));
	await page.mouse.up();
	await page.waitForTimeout(1500);
	await page.keyboard.press('Escape');
	await page.keyboard.press('r');
	await page.waitForTimeout(800);
	await page.mouse.move(1150, 500);
	await frames('rack scrolled', async () => {
		for (let k = 0; k < 100; k++) {
			await page.mouse.wheel(0, 120);
			await page.waitForTimeout(12);
		}
	});

	await open('copies');
	console.log(`a repeat of ${COPIES}`);
	await pan('pan, all in view');
	await zoom('zoom at the pointer');
	await page.waitForTimeout(800);
	const copy = async (x, y) => {
		const p = await place(x, y);
		await page.mouse.move(p.x, p.y);
	};
	const points = await firstPlace('Feather');
	// A copy is pressed: all of them are picked, and dragged.
	const far = [points[0] + 8 * 40, points[1] + 8 * 20];
	await copy(...far);
	await page.mouse.down();
	await page.mouse.up();
	await page.waitForTimeout(800);
	const p = await place(...far);
	await page.mouse.down();
	await frames('drag all copies', () => swing(p.x, p.y, 60));
	await page.mouse.up();
	await page.waitForTimeout(1500);
	await page.keyboard.press('Control+z');
	await page.waitForTimeout(800);
	await page.keyboard.press('Escape');
	// The source alone.
	await copy(points[0], points[1]);
	await page.mouse.down();
	await page.mouse.up();
	await page.waitForTimeout(500);
	const s = await place(points[0], points[1]);
	await page.mouse.down();
	await frames('drag the first one, all copies follow', () => swing(s.x, s.y, 30));
	await page.mouse.up();
	await page.waitForTimeout(800);
	await page.keyboard.press('Control+z');
	await page.keyboard.press('e');
	await page.keyboard.press('n');
	await page.waitForTimeout(500);
	const anchor = await place(points[0], points[1]);
	await page.mouse.move(anchor.x, anchor.y);
	await page.mouse.down();
	await frames('drag an anchor of it, all copies follow', () => swing(anchor.x, anchor.y, 10));
	await page.mouse.up();
} finally {
	await close();
}
