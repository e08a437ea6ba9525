// What scripts share that look at the app: it as it is built in headless Chromium at 1280x800, frames counted while something is done.
import { spawn } from 'node:child_process';
import { chromium } from '@playwright/test';
import { CHROMIUM, CHROMIUM_ARGS } from './chromium.mjs';

/** The app as it is built, opened. */
export async function openApp(port) {
	const base = `http://127.0.0.1:${port}`;
	const server = spawn('node', ['build'], {
		env: { ...process.env, HOST: '127.0.0.1', PORT: String(port), ORIGIN: base },
		stdio: 'ignore'
	});
	const browser = await chromium.launch({
		executablePath: CHROMIUM,
		args: CHROMIUM_ARGS
	});
	const close = async () => {
		await browser.close();
		server.kill();
	};
	const page = await browser.newPage({ viewport: { width: 1280, height: 800 } });
	for (let k = 0; k < 80; k++) {
		const isUp = await page.goto(base).then(
			() => true,
			() => false
		);
		if (isUp) break;
		await new Promise((r) => setTimeout(r, 100));
	}
	return { page, base, close };
}

/** Counts the frames while `move` runs and prints median and 95th percentile; a frame's script time beside them. */
export async function frameCounter(page) {
	const client = await page.context().newCDPSession(page);
	await client.send('Performance.enable');
	const scripted = async () => {
		const { metrics } = await client.send('Performance.getMetrics');
		return 1000 * metrics.find((m) => m.name === 'ScriptDuration').value;
	};
	return async (name, move) => {
		const before = await scripted();
		await page.evaluate(() => {
			window.intervals = [];
			let last = performance.now();
			window.counting = true;
			const tick = (now) => {
				window.intervals.push(now - last);
				last = now;
				if (window.counting) requestAnimationFrame(tick);
			};
			requestAnimationFrame(tick);
		});
		await move();
		const list = await page.evaluate(() => {
			window.counting = false;
			return window.intervals.slice(2);
		});
		const script = ((await scripted()) - before) / Math.max(1, list.length);
		list.sort((a, b) => a - b);
		const at = (share) => list[Math.min(list.length - 1, Math.floor(list.length * share))].toFixed(1);
		console.log(
			`${name.padEnd(44)} median ${at(0.5)} ms   95th ${at(0.95)} ms   script ${script.toFixed(1)} ms a frame   frames ${list.length}`
		);
	};
}

/** The paper moved about with the middle button while frames are counted. */
export async function panAbout(page, frames, times) {
	await page.mouse.move(640, 300);
	await page.mouse.down({ button: 'middle' });
	await frames('pan, all in view', async () => {
		for (let k = 0; k < times; k++) {
			await page.mouse.move(640 + 80 * Math.sin(k / 8), 300 + 60 * Math.cos(k / 9));
			await page.waitForTimeout(8);
		}
	});
	await page.mouse.up({ button: 'middle' });
}

/** A saved outline's anchors, x,y pairs in mm, by its name. */
export const savedPlaces = (page, name) =>
	page.evaluate(async (name) => {
		const db = await new Promise((resolve) => {
			const r = indexedDB.open('even-thread');
			r.onsuccess = () => resolve(r.result);
		});
		const rows = await new Promise((resolve) => {
			const r = db.transaction('records').objectStore('records').getAll();
			r.onsuccess = () => resolve(r.result);
		});
		db.close();
		const { points } = rows.map((r) => r.record).find((r) => r.name === name);
		const places = [];
		for (let k = 0; k < points.length; k += 7) places.push([points[k], points[k + 1]]);
		return places;
	}, name);

/** Where a place of the drawing is in the window just now, and px a mm. */
export async function placeInWindow(page, x, y) {
	const view = await page.locator('[role=application]').getAttribute('data-view');
	const [scale, vx, vy] = view.split(' ').map(Number);
	return { x: 640 + (x - vx) * scale, y: 400 - (y - vy) * scale, scale };
}
