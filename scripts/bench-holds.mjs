// How fluid a held sketch is: an anchor dragged in a drawing of 100 holds and 20 lines that follow what moves, headless Chromium
// at 1280x800 without a graphics card. Prints median and 95th percentile; it judges nothing.
//   npm run bench:ui       (after npm run build), or this alone
import { openSources } from './sources.mjs';
import { frameCounter, openApp, placeInWindow, savedPlaces } from './app-frames.mjs';

/** Boxes in a row, each corner tied to the next box: sides level and plumb, widths, gaps. */
const BOXES = 20;

const vite = await openSources();
const core = (name) => vite.ssrLoadModule(`/src/lib/core/${name}.ts`);
const { newDrawing } = await core('document/drawing');
const { writeDrawingFile } = await core('formats/drawing-file');
const { outlineFromPath } = await core('document/outline');
const { polygonPath } = await core('geometry/path');
const { completeEdit } = await core('document/complete-edit');
const { applyStep, makeStep } = await core('document/history');
const { addFollower } = await core('document/edits/made');
const { holdAsIs } = await core('document/holds/offers');
await core('document/recipes/reckonings');
let drawing = newDrawing('bench', 'Held');
const act = (edit) => {
	const step = makeStep(drawing, 'Bench', completeEdit(drawing, edit).edit);
	if (step) drawing = applyStep(drawing, step, 'forward');
};
const boxes = Array.from({ length: BOXES }, (_, i) => {
	const [x, y] = [40 * (i % 5), 40 * Math.floor(i / 5)];
	const path = polygonPath([x, y, x + 24, y, x + 24, y + 24, x, y + 24]);
	return outlineFromPath(path, { id: `box${i}`, name: `Box ${i + 1}`, layer: 'cut', rank: 10 + i });
});
act({ put: boxes });
let rank = 1000;
const lines = new Map(boxes.map((box) => [box.id, box]));
const hold = (kind, ...on) => holdAsIs(kind, on, lines, { id: `h${++rank}`, rank });
const at = (box, k) => ({ outline: box.id, anchor: box.anchors[k] });
const holds = boxes.flatMap((box, i) => [
	hold('level', at(box, 0), at(box, 1)),
	hold('plumb', at(box, 1), at(box, 2)),
	hold('level', at(box, 2), at(box, 3)),
	hold('equal', at(box, 0), at(box, 1), at(box, 1), at(box, 2)),
	// The whole row hangs together.
	i === 0 ? hold('length', at(box, 0), at(box, 1)) : hold('length', at(boxes[i - 1], 2), at(box, 0))
]);
act({ put: holds });
for (const [i, box] of boxes.entries())
	act(
		addFollower(
			'offset',
			{
				distance: 3,
				steps: 1,
				way: 'outside',
				join: 'round',
				miterLimit: 4,
				side: 'both',
				ends: 'round',
				band: false
			},
			[box],
			{
				id: `off${i}`,
				name: `Offset ${i + 1}`,
				layer: 'cut',
				rank: 500 + i
			}
		)
	);
const file = Buffer.from(writeDrawingFile(drawing, new Map()));
await vite.close();

const { page, close } = await openApp(4180);
try {
	const frames = await frameCounter(page);
	await page
		.locator('[data-testid=file-input]')
		.first()
		.setInputFiles({ name: 'held.thread', mimeType: 'application/zip', buffer: file });
	await page.waitForURL(/drawing/);
	await page.locator('canvas').first().waitFor();
	await page.waitForTimeout(2000);
	await page.locator('[role=application]').focus();
	await page.keyboard.press('h');
	await page.waitForTimeout(1000);
	console.log(`${holds.length} holds, ${BOXES} lines that follow`);
	for (const [word, name, k] of [
		['drag a corner', 'Box 3', 1],
		['drag one in the middle of the row', 'Box 10', 2]
	]) {
		await page.keyboard.press('Escape');
		await page.keyboard.press('Escape');
		const [[x0, y0], [x1, y1]] = [(await savedPlaces(page, name))[0], (await savedPlaces(page, name))[1]];
		const side = await placeInWindow(page, (x0 + x1) / 2, (y0 + y1) / 2);
		await page.mouse.dblclick(side.x, side.y);
		await page.waitForTimeout(800);
		const [x, y] = (await savedPlaces(page, name))[k];
		const start = await placeInWindow(page, x, y);
		await page.mouse.move(start.x, start.y);
		await page.mouse.down();
		await frames(word, async () => {
			for (let i = 0; i < 160; i++) {
				await page.mouse.move(start.x + 60 * Math.sin(i / 8), start.y + 40 * Math.sin(i / 11));
				await page.waitForTimeout(8);
			}
		});
		await page.mouse.up();
		await page.waitForTimeout(500);
		const [nx, ny] = (await savedPlaces(page, name))[k];
		console.log(`   moved by ${Math.hypot(nx - x, ny - y).toFixed(2)} mm`);
		await page.keyboard.press('Control+z');
		await page.waitForTimeout(500);
	}
} finally {
	await close();
}
