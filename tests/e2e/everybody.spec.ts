/** For everybody: a job by keys alone, one by fingers alone on a phone, what is spoken, colours of one's own, letters twice as large. */
import { readFileSync } from 'node:fs';
import { expect, test, type BrowserContext, type Page } from '@playwright/test';
import { fact, fitAll, give, listen, newDrawing, openDemo, pick, saved } from './hands';

const spoken = (page: Page) => page.locator('[data-fact=spoken]');

test('by keys alone: a picture is sized, traced, mended, written; the focus is never lost to the page', async ({
	page
}) => {
	await newDrawing(page);
	await give(page, 'fox.jpg', 'image/jpeg', readFileSync('static/demo/fox-puppet.jpg'));
	await expect(page.locator('[data-station=size]')).toContainText('True size is set');
	// Nothing but keys from here on.
	const focused = () => page.evaluate(() => document.activeElement?.tagName ?? 'BODY');
	await page.keyboard.press('Tab');
	await expect.poll(focused).not.toBe('BODY');
	await page.locator('[role=application]').focus();
	const find = async (words: string) => {
		await page.keyboard.press('Control+k');
		await expect(page.getByTestId('finder')).toBeVisible();
		await page.keyboard.type(words);
		await page.keyboard.press('Enter');
		await expect(page.getByTestId('finder')).toHaveCount(0);
		await expect.poll(focused).not.toBe('BODY');
	};
	await page.keyboard.press('t');
	await expect(page.locator('[data-act=keep]')).toBeEnabled();
	await page.locator('[role=application]').focus();
	await page.keyboard.press('Enter');
	await expect.poll(async () => (await saved(page)).outlines.length).toBeGreaterThan(15);
	await expect.poll(focused).not.toBe('BODY');
	await page.keyboard.press('Control+a');
	await expect(spoken(page)).toContainText(/\d+ outlines picked/);
	await find('simplify');
	await expect(page.locator('section.tray.wide')).toBeVisible();
	await page.keyboard.press('Escape');
	await expect.poll(focused).not.toBe('BODY');
	// Walked along: a thing, its anchors, one of them moved, each told.
	await page.keyboard.press('Escape');
	await page.keyboard.press('n');
	await expect(spoken(page)).toContainText(/picked, closed, \d+ anchors/);
	await page.keyboard.press('Enter');
	await page.keyboard.press('n');
	await expect(spoken(page)).toContainText(/Anchor 1 of \d+/);
	const { pointer } = await saved(page);
	await page.keyboard.press('Shift+ArrowRight');
	await expect.poll(async () => (await saved(page)).pointer).toBe(pointer + 1);
	await page.keyboard.press('Control+z');
	await expect(spoken(page)).toContainText('Taken back');
	await find('settings');
	await expect(page.getByRole('dialog')).toBeVisible();
	await page.keyboard.press('Escape');
	await expect(page.getByRole('dialog')).toHaveCount(0);
	await expect.poll(focused).not.toBe('BODY');
});

/** Fingers on the glass of a phone. */
async function phone(context: BrowserContext, page: Page) {
	const client = await context.newCDPSession(page);
	const touch = (type: 'touchStart' | 'touchMove' | 'touchEnd', points: { x: number; y: number }[]) =>
		client.send('Input.dispatchTouchEvent', { type, touchPoints: points });
	return {
		touch,
		async tap(x: number, y: number) {
			await touch('touchStart', [{ x, y }]);
			await touch('touchEnd', []);
		}
	};
}

test('by fingers alone on a phone: a demo is opened, traced, a place is put by a grip above the finger; nothing lies outside', async ({
	browser,
	baseURL
}) => {
	const context = await browser.newContext({
		hasTouch: true,
		isMobile: true,
		viewport: { width: 390, height: 844 },
		baseURL
	});
	const page = await context.newPage();
	const troubles = listen(page);
	await page.goto('/');
	await page.getByText('Fox puppet, scanned parts').tap();
	await expect(page.locator('canvas').first()).toBeVisible();
	/** What can be pressed lies within the window, or in something that can be pulled. */
	const outside = () =>
		page.evaluate(() =>
			[...document.querySelectorAll('main button, main select, main input:not([hidden])')]
				.filter((e) => {
					const { left, right, top, bottom, width } = e.getBoundingClientRect();
					if (width === 0 || e.closest('.sewn, .tools, .strip, [hidden]') || !(e as HTMLElement).offsetParent)
						return false;
					return left < -1 || right > innerWidth + 1 || top < -1 || bottom > innerHeight + 1;
				})
				.map((e) => e.textContent?.trim() || e.getAttribute('aria-label'))
		);
	expect(await outside()).toEqual([]);
	await page.locator('[data-station=trace]').tap();
	await page.locator('[data-command=trace]').tap();
	const keep = page.locator('[data-act=keep]');
	await expect(keep).toBeEnabled();
	const box = (await keep.boundingBox())!;
	expect(box.y + box.height).toBeLessThan(844);
	expect(box.height).toBeGreaterThanOrEqual(44);
	await keep.tap();
	await expect.poll(async () => (await saved(page)).outlines.length).toBeGreaterThan(15);
	expect(await outside()).toEqual([]);
	// Drawing by the grip: places come 64 px above the finger, when it is lifted.
	await page.locator('[data-act=settings]').tap();
	await page.locator('[data-act=set-grip]').tap();
	await page.getByRole('dialog').getByText('Leave').tap();
	await expect(page.getByRole('dialog')).toHaveCount(0);
	await page.locator('[data-station=draw]').tap();
	await page.locator('[data-command=draw-line]').tap();
	await expect(page.locator('section.tray')).toBeVisible();
	const { touch } = await phone(context, page);
	const view = () =>
		page
			.locator('[role=application]')
			.evaluate((e) => (e.getAttribute('data-view') ?? '').split(' ').map(Number));
	for (const [x, y] of [
		[120, 300],
		[220, 320]
	]) {
		await touch('touchStart', [{ x: x - 10, y: y + 8 }]);
		await expect(page.locator('svg.ring')).toBeVisible();
		await touch('touchMove', [{ x, y }]);
		await touch('touchEnd', []);
		await expect(page.locator('svg.ring')).toHaveCount(0);
	}
	const [scale, x0, y0] = await view();
	const before = (await saved(page)).outlines.length;
	await page.locator('[data-act=pen-finish]').tap();
	await expect.poll(async () => (await saved(page)).outlines.length).toBe(before + 1);
	const line = (await saved(page)).outlines.at(-1)!;
	expect(line.points[0]).toBeCloseTo(x0 + (120 - 195) / scale, 1);
	expect(line.points[1]).toBeCloseTo(y0 - (300 - 64 - 422) / scale, 1);
	expect(troubles).toEqual([]);
	await context.close();
});

test('a palm beside a pen means nothing', async ({ browser, baseURL }) => {
	const context = await browser.newContext({
		hasTouch: true,
		viewport: { width: 1280, height: 800 },
		baseURL
	});
	const page = await context.newPage();
	await openDemo(page, 'Control bars and a mask');
	const { at } = await fitAll(page);
	const bar = (await saved(page)).outlines[0];
	const on = at(bar.points[0], bar.points[1]);
	const client = await context.newCDPSession(page);
	const pen = (type: 'mousePressed' | 'mouseReleased' | 'mouseMoved', x: number, y: number) =>
		client.send('Input.dispatchMouseEvent', {
			type,
			x,
			y,
			pointerType: 'pen',
			...(type === 'mouseMoved' ? {} : { button: 'left', clickCount: 1 })
		});
	const { tap } = await phone(context, page);
	// The hand that holds the pen lies on the glass, on a line.
	await pen('mouseMoved', 640, 120);
	await tap(on.x, on.y);
	// What the pen does counts.
	await pen('mousePressed', 640, 120);
	await pen('mouseReleased', 640, 120);
	await expect(page.locator('.tag')).toHaveCount(0);
	await pen('mousePressed', on.x, on.y);
	await pen('mouseReleased', on.x, on.y);
	await expect(page.locator('.tag')).toBeVisible();
	await context.close();
});

test('what is chosen is told in colours of one’s own; letters of twice and four times the size lose nothing', async ({
	page
}) => {
	await page.emulateMedia({ forcedColors: 'active' });
	await openDemo(page, 'Control bars and a mask');
	await pick(page, 'Long bar');
	await page.locator('[role=application]').focus();
	await page.keyboard.press('o');
	await expect(page.locator('[data-act=keep]')).toBeEnabled();
	const colours = (selector: string) =>
		page
			.locator(selector)
			.first()
			.evaluate((e) => getComputedStyle(e).backgroundColor);
	expect(await colours('[data-choice=outside]')).not.toBe(await colours('[data-choice=inside]'));
	await page.keyboard.press('Escape');
	await page.emulateMedia({ forcedColors: 'none' });
	// A window of 1280 px at 200 and 400 % is one of 640 and 320 px of the page's own (WCAG 1.4.10).
	for (const width of [640, 320]) {
		await page.setViewportSize({ width, height: width === 640 ? 400 : 256 });
		for (const station of ['picture', 'mend', 'cut']) {
			const word = page.locator(`[data-station=${station}]`);
			await word.scrollIntoViewIfNeeded();
			await word.click();
			await expect(page.getByTestId('tray')).toBeVisible();
		}
		await page.locator('[data-act=settings]').click();
		const sheet = page.getByRole('dialog');
		await expect(sheet).toBeVisible();
		expect(await sheet.evaluate((e) => e.scrollWidth <= e.clientWidth + 1)).toBe(true);
		await page.keyboard.press('Escape');
		await expect(sheet).toHaveCount(0);
	}
});

test('numbers with a comma, dates and paper as the person wishes, kept and taken along', async ({ page }) => {
	await openDemo(page, 'Control bars and a mask');
	await page.locator('[data-act=settings]').click();
	await page.locator('[data-choice=comma]').click();
	await page.locator('[data-choice=Letter]').click();
	await page.keyboard.press('Escape');
	await expect(page.getByRole('dialog')).toHaveCount(0);
	await pick(page, 'Card mask');
	await page.keyboard.press('e');
	await page.keyboard.press('n');
	const x = page.getByLabel('x', { exact: true });
	await x.fill('12,345');
	await page.keyboard.press('Enter');
	await expect(x).toHaveValue('12,35 mm');
	await expect.poll(async () => (await saved(page)).outlines.some((o) => o.points[0] === 12.345)).toBe(true);
	await page.reload();
	await expect(page.locator('canvas').first()).toBeVisible();
	expect(await page.evaluate(() => localStorage.getItem('said-as'))).toContain('Letter');
	expect(await fact(page, 'steps')).toBeGreaterThan(0);
});

test('the tour goes on by what one does, and is left at any time; each operation has its help', async ({
	page
}) => {
	await page.goto('/');
	await page.locator('[data-act=tour]').click();
	const slip = page.getByTestId('tour');
	await expect(slip).toContainText('1 of 6');
	await page.locator('[data-command=trace]').click();
	await expect(slip).toContainText('2 of 6');
	await expect(page.locator('[data-act=keep]')).toBeEnabled();
	await page.locator('[role=application]').focus();
	await page.keyboard.press('Shift+?');
	await expect(page.getByTestId('operation-help')).toContainText('true size');
	await page.locator('[data-act=leave-help]').click();
	await page.locator('[data-act=keep]').click();
	await expect(slip).toContainText('3 of 6');
	await page.locator('[data-act=leave-tour]').click();
	await expect(slip).toHaveCount(0);
	await page.locator('[role=application]').focus();
	await page.keyboard.press('Shift+?');
	await page.locator('[data-help=simplify]').click();
	await expect(page.getByTestId('operation-help')).toContainText('Mistakes people make');
});

test('words that are longer by 40 % in another language neither lie on each other nor out of the window', async ({
	page
}) => {
	await openDemo(page, 'Control bars and a mask');
	/** Every word of the interface longer, as it would be in another language; what then lies on another or outside. */
	const crowded = () =>
		page.evaluate(async () => {
			const walk = document.createTreeWalker(document.querySelector('main')!, NodeFilter.SHOW_TEXT);
			const longer = [];
			for (let node = walk.nextNode(); node; node = walk.nextNode())
				if (!node.parentElement?.closest('kbd, [data-fact], .spoken')) longer.push(node as Text);
			const before = longer.map((node) => node.data);
			for (const node of longer)
				node.data = node.data.replace(
					/\p{L}{3,}/gu,
					(word) => word + word.slice(0, Math.ceil(0.4 * word.length))
				);
			await new Promise((done) => requestAnimationFrame(() => requestAnimationFrame(done)));
			const words = longer.flatMap((node) => {
				const holder = node.parentElement!.closest('button, label, p, a, span');
				if (!node.data.trim() || !holder || !node.parentElement!.checkVisibility()) return [];
				if (holder.closest('.sewn, .hidden-word, [role=log], .hint')) return [];
				const range = document.createRange();
				range.selectNodeContents(node);
				return [...range.getClientRects()]
					.filter(({ width }) => width > 1)
					.map((box) => ({ box, word: node.data, holder }));
			});
			const trouble = words
				.filter(({ box }) => box.left < -1 || box.right > innerWidth + 1)
				.map(({ word }) => `outside: ${word.trim()}`);
			for (const [k, a] of words.entries())
				for (const b of words.slice(k + 1)) {
					if (a.holder === b.holder || a.holder.closest('section') !== b.holder.closest('section')) continue;
					const w = Math.min(a.box.right, b.box.right) - Math.max(a.box.left, b.box.left);
					const h = Math.min(a.box.bottom, b.box.bottom) - Math.max(a.box.top, b.box.top);
					if (w > 2 && h > 4) trouble.push(`${a.word.trim()} lies on ${b.word.trim()}`);
				}
			for (const [k, node] of longer.entries()) node.data = before[k];
			return trouble;
		});
	for (const station of ['picture', 'mend', 'build', 'offset', 'sheet', 'cut']) {
		await page.locator(`[data-station=${station}]`).click();
		await expect(page.locator('section.tray')).toBeVisible();
		expect(await crowded(), station).toEqual([]);
	}
	for (const [key, name] of [
		['d', 'simplify'],
		['o', 'offset'],
		['Shift+f', 'fair']
	]) {
		await page.locator('[role=application]').focus();
		await page.keyboard.press('Control+a');
		await page.keyboard.press(key);
		await expect(page.locator('[data-act=keep]')).toBeVisible();
		expect(await crowded(), name).toEqual([]);
		await page.keyboard.press('Escape');
		await page.keyboard.press('Escape');
	}
});
