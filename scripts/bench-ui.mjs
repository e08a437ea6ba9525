// How fluid the surface is: frames while panning and while dragging an anchor of a 1,000-anchor outline in a drawing
// of 20,000 anchors, headless Chromium at 1280x800. Prints median and 95th percentile; it judges nothing.
//   npm run bench:ui       (after npm run build)
import sharp from 'sharp';
import { openSources } from './sources.mjs';
import { frameCounter, openApp, panAbout, placeInWindow, savedPlaces } from './app-frames.mjs';

const PORT = 4178;
const OUTLINES = Number(process.argv[2] ?? 20);
const SEGMENTS = Number(process.argv[3] ?? 1000);

const vite = await openSources();
const { blob } = await vite.ssrLoadModule('/tests/shapes.ts');
const { transformPath } = await vite.ssrLoadModule('/src/lib/core/geometry/path.ts');
const { writeSvg } = await vite.ssrLoadModule('/src/lib/core/formats/svg-write.ts');
const columns = Math.ceil(Math.sqrt(OUTLINES));
const pieces = Array.from({ length: OUTLINES }, (_, i) => ({
	name: `Part ${i + 1}`,
	paths: [
		transformPath(blob(SEGMENTS, i + 1, 40), [1, 0, 0, 1, 110 * (i % columns), 110 * Math.floor(i / columns)])
	]
}));
const svg = Buffer.from(writeSvg(pieces));
const dots = Array.from({ length: 300 }, (_, i) => {
	const r = 20 + ((i * 53) % 90);
	return `<ellipse cx="${(i * 947) % 4000}" cy="${(i * 1511) % 3000}" rx="${r}" ry="${0.6 * r}" transform="rotate(${i * 31} ${(i * 947) % 4000} ${(i * 1511) % 3000})"/>`;
}).join('');
const picture = await sharp(
	Buffer.from(
		`<svg xmlns="http://www.w3.org/2000/svg" width="4000" height="3000"><rect width="4000" height="3000" fill="#fff"/>${dots}</svg>`
	)
)
	.withMetadata({ density: 300 })
	.png()
	.toBuffer();
// How long finding what lies under the pointer takes.
const { PathIndex } = await vite.ssrLoadModule('/src/lib/core/geometry/pick.ts');
{
	const paths = pieces.map((p) => p.paths[0]);
	const index = new PathIndex(paths);
	const places = Array.from({ length: 400 }, (_, k) => {
		const path = paths[(k * 37) % paths.length];
		const at = 8 * ((k * 13) % path.types.length);
		return [path.segs[at] + 0.2, path.segs[at + 1]];
	});
	for (const [x, y] of places) index.nearest(x, y, 0.5);
	const ms = places.map(([x, y]) => {
		const start = performance.now();
		index.nearest(x, y, 0.5);
		return performance.now() - start;
	});
	ms.sort((a, b) => a - b);
	console.log(
		`a click finds its target in ${ms[200].toFixed(3)} ms (median), ${ms[399].toFixed(3)} ms (worst of 400)`
	);
}
await vite.close();

const { page, close } = await openApp(PORT);
try {
	await page.locator('[data-act=new]').click();
	await page.locator('canvas').first().waitFor();
	await page
		.locator('[data-testid=file-input]')
		.setInputFiles({ name: 'heavy.svg', mimeType: 'image/svg+xml', buffer: svg });
	await page.waitForFunction(() =>
		/\d outlines/.test(document.querySelector('[data-station=trace]')?.textContent ?? '')
	);
	await page
		.locator('[data-testid=file-input]')
		.setInputFiles({ name: 'large.png', mimeType: 'image/png', buffer: picture });
	await page.waitForTimeout(4000);
	await page.locator('[role=application]').focus();
	await page.keyboard.press('h');
	await page.waitForTimeout(800);

	const frames = await frameCounter(page);
	console.log(`${OUTLINES} outlines of ${SEGMENTS} segments`);
	await panAbout(page, frames, 160);
	await page.keyboard.press('Escape');
	await page.mouse.move(300, 120);
	await page.mouse.down();
	await frames('box over everything', async () => {
		for (let k = 0; k < 120; k++) {
			await page.mouse.move(300 + 6 * k, 120 + 3 * k);
			await page.waitForTimeout(8);
		}
	});
	await page.mouse.up();
	await page.waitForTimeout(300);
	await page.keyboard.press('Escape');
	await frames('zoom at the pointer', async () => {
		for (let k = 0; k < 80; k++) {
			await page.mouse.wheel(0, k < 40 ? -40 : 40);
			await page.waitForTimeout(16);
		}
	});
	await page.waitForTimeout(600);
	// Enter the first part from the rack and drag one of its anchors.
	await page.keyboard.press('Escape');
	await page.keyboard.press('r');
	await page.getByRole('button', { name: /^Part 1,/ }).click();
	await page.keyboard.press('r');
	await page.locator('[role=application]').focus();
	await page.keyboard.press('e');
	await page.keyboard.press('n');
	await page.waitForTimeout(600);
	await page.keyboard.press('j');
	await page.waitForTimeout(800);
	// Where the first anchor of part 1 is in the window.
	const placeOfFirst = async () => placeInWindow(page, ...(await savedPlaces(page, 'Part 1'))[0]);
	const dragAnchor = async (name) => {
		const start = await placeOfFirst();
		await page.mouse.move(start.x, start.y);
		await page.mouse.down();
		await frames(name, async () => {
			for (let k = 0; k < 160; k++) {
				await page.mouse.move(start.x + 60 * Math.sin(k / 8), start.y + 40 * Math.sin(k / 11));
				await page.waitForTimeout(8);
			}
		});
		await page.mouse.up();
		await page.waitForTimeout(300);
		await page.keyboard.press('Control+z');
		await page.waitForTimeout(300);
	};
	await dragAnchor('drag an anchor');
	await page.keyboard.press('Shift+v');
	await page.waitForTimeout(300);
	await dragAnchor('drag an anchor, with the comb');
	await page.keyboard.press('Shift+a');
	await page.waitForTimeout(300);
	await dragAnchor('drag an anchor, with comb and control polygon');
	await page.keyboard.press('Shift+a');
	await page.keyboard.press('Shift+v');
	// Three lines that follow the outline: dear ones, made while the hand rests.
	const follower = async (key, field, value) => {
		await page.keyboard.press('Escape');
		await page.keyboard.press('Escape');
		await page.keyboard.press('Escape');
		await page.keyboard.press('r');
		await page
			.getByRole('button', { name: /^Part 1,/ })
			.first()
			.click();
		await page.keyboard.press('r');
		await page.locator('[role=application]').focus();
		await page.keyboard.press(key);
		await page.getByLabel(field, { exact: true }).fill(value);
		await page.keyboard.press('Enter');
		const keep = page.locator('[data-act=keep]:not([disabled])');
		await keep.waitFor({ timeout: 60000 });
		await keep.click();
	};
	const enterFirst = async () => {
		await page.keyboard.press('Escape');
		await page.keyboard.press('Escape');
		await page.keyboard.press('r');
		await page.getByRole('button', { name: /^Part 1, \d/ }).click();
		await page.keyboard.press('r');
		await page.locator('[role=application]').focus();
		await page.keyboard.press('e');
		await page.keyboard.press('n');
		await page.keyboard.press('j');
		await page.waitForTimeout(800);
	};
	await follower('o', 'Distance', '2');
	await follower('o', 'Distance', '4');
	await follower('Shift+o', 'Width', '6');
	await enterFirst();
	await dragAnchor(`drag an anchor, three lines follow ${SEGMENTS} anchors`);
	// Opening it again, to the first frame with all outlines.
	const started = Date.now();
	await page.reload();
	await page.waitForFunction(() =>
		/\d outlines/.test(document.querySelector('[data-station=trace]')?.textContent ?? '')
	);
	await page.evaluate(() => new Promise((r) => requestAnimationFrame(() => requestAnimationFrame(r))));
	console.log(`opened again after ${Date.now() - started} ms`);
	const steps = await page.locator('.head').innerText();
	console.log(steps.replace(/\s+/g, ' '));

	// Tracing a picture of 12 megapixels: how soon a changed setting shows.
	await page.goto(base);
	await page.locator('[data-act=new]').click();
	await page.locator('canvas').first().waitFor();
	await page
		.locator('[data-testid=file-input]')
		.setInputFiles({ name: 'large.png', mimeType: 'image/png', buffer: picture });
	await page.waitForTimeout(3000);
	await page.locator('[role=application]').focus();
	await page.keyboard.press('h');
	await page.keyboard.press('t');
	const traced = () => page.locator('[data-act=keep]:not([disabled])').waitFor({ timeout: 60000 });
	await traced();
	await page.mouse.move(500, 250);
	for (let k = 0; k < 10; k++) {
		await page.mouse.wheel(0, -100);
		await page.waitForTimeout(40);
	}
	for (let k = 0; k < 6; k++) {
		await page.getByRole('textbox', { name: 'Tone' }).fill(String(110 + 8 * k));
		await page.keyboard.press('Enter');
		await page.waitForTimeout(300);
		await traced();
	}
	for (const name of ['boundary', 'lines in sight']) {
		const ms = await page.evaluate((name) => performance.getEntriesByName(name).map((e) => e.duration), name);
		ms.sort((a, b) => a - b);
		console.log(
			`12 megapixels, a setting changed: ${name} after (median of ${ms.length}) ${ms.length ? ms[ms.length >> 1].toFixed(0) : '–'} ms`
		);
	}
} finally {
	await close();
}
