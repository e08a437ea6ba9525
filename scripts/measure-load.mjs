// How soon the app is of use, and whether it ever stands still: what is loaded before the bench stands, how long a later visit
// takes, tasks above 100 ms while a picture is brought in, traced and kept.   npm run measure-load   (after npm run build)
import { readFileSync } from 'node:fs';
import { openApp } from './app-frames.mjs';

const { page, base, close } = await openApp(4193);
/** ms until the bench of a drawing can be used: its canvas is there and keys are answered. */
const usable = async (url) => {
	const started = Date.now();
	await page.goto(url);
	await page.locator('canvas').first().waitFor();
	await page.locator('[role=application][data-view]').waitFor();
	return Date.now() - started;
};
try {
	const client = await page.context().newCDPSession(page);
	await client.send('Network.enable');
	let script = 0;
	const kinds = new Map();
	client.on('Network.responseReceived', ({ requestId, type }) => kinds.set(requestId, type));
	client.on('Network.loadingFinished', ({ requestId, encodedDataLength }) => {
		if (kinds.get(requestId) === 'Script') script += encodedDataLength;
	});
	await page.goto(base);
	await page.locator('[data-act=new]').click();
	await page.locator('[role=application][data-view]').waitFor();
	console.log(
		`${(script / 1000).toFixed(0)} kB of compressed script until the bench of a new drawing stands, what comes behind it included`
	);
	const url = page.url();
	await page.goto(base);
	await page.locator('[data-fact=works-offline]').waitFor();
	const times = [];
	for (let k = 0; k < 7; k++) times.push(await usable(url));
	times.sort((a, b) => a - b);
	console.log(`a later visit is of use after ${times[3]} ms (median of 7; ${times[0]} to ${times[6]})`);

	await page.evaluate(() => {
		window.long = [];
		new PerformanceObserver((list) => {
			for (const { duration, startTime } of list.getEntries())
				window.long.push([Math.round(startTime), Math.round(duration)]);
		}).observe({ type: 'longtask', buffered: false });
	});
	await page.locator('[data-testid=file-input]').setInputFiles({
		name: 'fox.jpg',
		mimeType: 'image/jpeg',
		buffer: readFileSync('static/demo/fox-puppet.jpg')
	});
	await page.locator('[data-station=size]', { hasText: 'True size is set' }).waitFor();
	await page.locator('[role=application]').focus();
	await page.keyboard.press('t');
	await page.locator('[data-act=keep]:enabled').waitFor();
	await page.keyboard.press('Enter');
	await page.locator('[data-station=trace]', { hasText: 'outlines' }).waitFor();
	await page.waitForTimeout(1500);
	const long = await page.evaluate(() => window.long);
	const over = long.filter(([, ms]) => ms > 100);
	console.log(
		`${over.length} tasks above 100 ms while a picture is brought in, traced and kept${long.length ? `; the longest ${Math.max(...long.map(([, ms]) => ms))} ms` : ''}`
	);
} finally {
	await close();
}
