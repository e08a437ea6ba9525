// How a heavy drawing feels: opened, an arrow key, undo and redo, panned, edited for long. Headless Chromium at 1280x800,
// real keys; prints and judges nothing.
//   node scripts/bench-heavy.mjs [--outlines 100] [--segments 1000] [--edits 400]       (after npm run build)
import { mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { openSources } from './sources.mjs';
import { frameCounter, openApp, panAbout } from './app-frames.mjs';
import { argument } from './argument.mjs';

const OUTLINES = argument('--outlines', 100);
const SEGMENTS = argument('--segments', 1000);
const EDITS = argument('--edits', 400);

const vite = await openSources();
const { wavy } = await vite.ssrLoadModule('/tests/shapes.ts');
const { transformPath } = await vite.ssrLoadModule('/src/lib/core/geometry/path.ts');
const { writeSvg } = await vite.ssrLoadModule('/src/lib/core/formats/svg-write.ts');
const columns = Math.ceil(Math.sqrt(OUTLINES));
const pieces = Array.from({ length: OUTLINES }, (_, i) => ({
	name: `Part ${i + 1}`,
	paths: [
		transformPath(wavy(SEGMENTS, 1 + (i % 50), 40), [
			1,
			0,
			0,
			1,
			130 * (i % columns),
			130 * Math.floor(i / columns)
		])
	]
}));
const folder = mkdtempSync(join(tmpdir(), 'heavy-'));
// A file may be so large and no larger: what is more comes in several.
const EACH = Math.floor(400_000 / SEGMENTS);
const files = [];
for (let from = 0; from < OUTLINES; from += EACH) {
	files.push(join(folder, `heavy-${files.length}.svg`));
	writeFileSync(files.at(-1), writeSvg(pieces.slice(from, from + EACH)));
}
await vite.close();

const share = (list, w) =>
	[...list].sort((a, b) => a - b)[Math.min(list.length - 1, Math.floor(w * list.length))];
const tell = (what, list) =>
	console.log(
		`${what.padEnd(34)} ${share(list, 0.5).toFixed(1)} ms (median), ${share(list, 0.95).toFixed(1)} (95th), ${Math.max(...list).toFixed(1)} (worst of ${list.length})`
	);

const { page, close } = await openApp(4179);
/** Until the thread counts all of them. */
const areThere = () =>
	page.waitForFunction(
		(count) => {
			const word = document.querySelector('[data-station=trace]')?.textContent ?? '';
			return word.replace(/\D/g, '').endsWith(String(count));
		},
		OUTLINES,
		{ timeout: 120_000, polling: 'raf' }
	);
try {
	console.log(`${OUTLINES} outlines of ${SEGMENTS} segments`);
	await page.locator('[data-act=new]').click();
	await page.locator('canvas').first().waitFor();
	const started = Date.now();
	await page.locator('[data-testid=file-input]').setInputFiles(files);
	await areThere();
	console.log(`taken in from a file in ${((Date.now() - started) / 1000).toFixed(1)} s`);
	await page.waitForTimeout(5000);

	// Opened again: from the address to the lines on the screen.
	const opened = [];
	for (let k = 0; k < 3; k++) {
		await page.reload({ waitUntil: 'commit' });
		await areThere();
		opened.push(
			await page.evaluate(
				() => new Promise((done) => requestAnimationFrame(() => setTimeout(() => done(performance.now()))))
			)
		);
		await page.waitForTimeout(3000);
	}
	tell('opened', opened);

	// From a key to the end of the frame that shows it.
	await page.evaluate(() => {
		const w = window;
		w.spent = [];
		addEventListener(
			'keydown',
			() => {
				const start = performance.now();
				requestAnimationFrame(() => {
					const channel = new MessageChannel();
					channel.port1.onmessage = () => w.spent.push(performance.now() - start);
					channel.port2.postMessage(0);
				});
			},
			true
		);
	});
	const keys = async (what, key, times) => {
		await page.evaluate(() => (window.spent = []));
		for (let k = 0; k < times; k++) {
			await page.keyboard.press(key);
			await page.waitForFunction((n) => window.spent.length >= n, k + 1, {
				polling: 'raf',
				timeout: 120_000
			});
			await page.waitForTimeout(40);
		}
		tell(what, await page.evaluate(() => window.spent));
	};
	await page.locator('[role=application]').focus();
	await page.keyboard.press('h');
	await page.waitForTimeout(500);
	await page.keyboard.press('n');
	await page.waitForTimeout(500);
	await keys('an outline moved by an arrow key', 'ArrowRight', 40);
	await keys('undo', 'Control+z', 39);
	await keys('redo', 'Control+Shift+z', 20);
	await page.keyboard.press('Enter');
	await page.keyboard.press('n');
	await page.waitForTimeout(500);
	await keys('an anchor moved by an arrow key', 'ArrowRight', 40);
	await keys('undo', 'Control+z', 39);
	await page.keyboard.press('Escape');
	await page.keyboard.press('Control+a');
	await page.waitForTimeout(1000);
	await keys('everything moved by an arrow key', 'ArrowRight', 10);
	await keys('undo', 'Control+z', 9);
	await page.keyboard.press('Escape');
	await page.keyboard.press('Escape');

	const frames = await frameCounter(page);
	await panAbout(page, frames, 120);

	if (EDITS > 0) {
		// Heap after many edits of all kinds of places, garbage collected before each look.
		const client = await page.context().newCDPSession(page);
		const heap = async () => {
			await client.send('HeapProfiler.collectGarbage');
			const { usedSize } = await client.send('Runtime.getHeapUsage');
			return usedSize / 1e6;
		};
		await page.keyboard.press('n');
		const sizes = [];
		const KEYS = [
			'ArrowRight',
			'ArrowLeft',
			'ArrowUp',
			'ArrowDown',
			'n',
			'Control+z',
			'Shift+ArrowRight',
			'n'
		];
		let at = 1;
		for (let k = 0; k < EDITS; k++) {
			at = (Math.imul(at, 1103515245) + 12345) >>> 0;
			await page.keyboard.press(KEYS[(at >>> 16) % KEYS.length]);
			if (k % Math.ceil(EDITS / 10) === 0) sizes.push(await heap());
		}
		sizes.push(await heap());
		console.log(`heap over ${EDITS} edits, MB: ${sizes.map((s) => s.toFixed(0)).join(' ')}`);
	}
} finally {
	rmSync(folder, { recursive: true });
	await close();
}
