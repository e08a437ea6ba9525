// The small pictures of the demo drawings, as the app itself makes them (after `npm run build`).
import { mkdirSync } from 'node:fs';
import sharp from 'sharp';
import { openApp } from './app-frames.mjs';

const { page, base, close } = await openApp(4192);
mkdirSync('static/demo/cards', { recursive: true });
await page.locator('section li button').first().waitFor();
const names = await page.locator('section li button').allInnerTexts();
const files = await page
	.locator('section li img')
	.evaluateAll((images) => images.map((i) => i.getAttribute('src')));
for (const [k, name] of names.entries()) {
	await page.goto(base);
	await page.getByText(name.trim()).first().click();
	await page.locator('canvas').first().waitFor();
	const id = page.url().split('/').pop();
	let picture;
	while (!picture) {
		await page.waitForTimeout(300);
		picture = await page.evaluate(stored, id);
	}
	await sharp(Buffer.from(picture)).webp({ quality: 80 }).toFile(`static${files[k]}`);
}
await close();

/** The small picture of a drawing as it is stored in the browser, as a list of bytes. */
function stored(id) {
	return new Promise((done) => {
		const request = indexedDB.open('even-thread');
		request.onsuccess = () => {
			const db = request.result;
			const got = db.transaction('thumbnails').objectStore('thumbnails').get(id);
			got.onsuccess = async () => {
				db.close();
				done(got.result && [...new Uint8Array(await got.result.picture.arrayBuffer())]);
			};
		};
	});
}
