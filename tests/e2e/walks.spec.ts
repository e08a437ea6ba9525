/**
 * Five first jobs, each by keys alone and by fingers alone: a picture of no known size, a rough line mended, an allowance, two
 * shapes united, pieces on a sheet and to the machine. Both hands do the same; what comes out is read from what was saved.
 */
import { readFileSync } from 'node:fs';
import { expect, test, type Page } from '@playwright/test';
import sharp from 'sharp';
import { unwrap } from '../../src/lib/core/errors';
import { readSvg } from '../../src/lib/core/formats/svg';
import { pathArea } from '../../src/lib/core/geometry/measure';
import { fact, listen, placesNow, places, saved, type SavedOutline } from './hands';

/** What a person can do, whichever way. */
interface Hand {
	readonly page: Page;
	/** Presses something that can be seen. */
	press(selector: string): Promise<void>;
	/** Types into a field, and takes it. */
	type(label: string, text: string): Promise<void>;
	/** Something by a word. */
	find(words: string): Promise<void>;
	/** A place on the paper, mm. */
	place(x: number, y: number): Promise<void>;
	/** Nothing is picked any more. */
	letGo(): Promise<void>;
	/** Picks an outline. */
	pick(outline: SavedOutline): Promise<void>;
}

class Keys implements Hand {
	constructor(readonly page: Page) {}
	/** On by Tab; within a row of words of which one is chosen on by arrows. */
	private async goTo(selector: string): Promise<void> {
		const { page } = this;
		await expect(page.locator(selector).first()).toBeVisible();
		for (let k = 0; k < 150; k++) {
			const is = await page.evaluate((selector) => {
				const at = document.activeElement;
				const here =
					at?.closest(selector) ?? (at as HTMLElement | null)?.querySelector?.(`:scope > ${selector}`);
				if (here) return 'there';
				const row = at?.closest('[role=radiogroup], [role=tablist]');
				return row?.querySelector(selector) ? 'in the row' : 'on';
			}, selector);
			if (is === 'there') return;
			await page.keyboard.press(is === 'on' ? 'Tab' : 'ArrowRight');
		}
		throw new Error(`No key leads to ${selector}.`);
	}
	async press(selector: string): Promise<void> {
		await this.goTo(selector);
		await this.page.keyboard.press(
			(await this.page.locator(`${selector}[data-choice]`).count()) ? 'Space' : 'Enter'
		);
	}
	async type(label: string, text: string): Promise<void> {
		const field = this.page.getByLabel(label);
		await expect(field).toBeVisible();
		await this.goTo(`[id="${await field.getAttribute('id')}"]`);
		await this.page.keyboard.press('Control+a');
		await this.page.keyboard.type(text);
		await this.page.keyboard.press('Enter');
	}
	async find(words: string): Promise<void> {
		await this.page.keyboard.press('Control+k');
		await expect(this.page.getByTestId('finder')).toBeVisible();
		await this.page.keyboard.type(words);
		await this.page.keyboard.press('Enter');
		await expect(this.page.getByTestId('finder')).toHaveCount(0);
	}
	async place(x: number, y: number): Promise<void> {
		const { page } = this;
		await this.goTo('[role=application]');
		if (!(await page.getByTestId('key-pointer').count())) await page.keyboard.press('Control+.');
		await page.keyboard.press('=');
		await expect(page.getByLabel('right, up')).toBeFocused();
		await page.keyboard.type(`${x}, ${y}`);
		await page.keyboard.press('Enter');
		await expect(page.getByLabel('right, up')).toHaveCount(0);
		await page.keyboard.press('Space');
	}
	async letGo(): Promise<void> {
		const { page } = this;
		await this.goTo('[role=application]');
		for (let k = 0; k < 4; k++) await page.keyboard.press('Escape');
		await expect(page.locator('.tag')).toHaveCount(0);
	}
	async pick({ name }: SavedOutline): Promise<void> {
		const { page } = this;
		await this.goTo('[role=application]');
		const spoken = page.locator('[data-fact=spoken]');
		for (let k = 0; k < 40; k++) {
			const before = await spoken.innerText();
			await page.keyboard.press('n');
			await expect(spoken).not.toHaveText(before);
			if ((await spoken.innerText()).startsWith(`"${name}" picked`)) return;
		}
		throw new Error(`"${name}" was never come to.`);
	}
}

class Fingers implements Hand {
	constructor(readonly page: Page) {}
	async press(selector: string): Promise<void> {
		await this.page.locator(selector).first().tap();
	}
	async type(label: string, text: string): Promise<void> {
		const field = this.page.getByLabel(label);
		await field.tap();
		await expect(field).toBeFocused();
		await field.selectText();
		// What the keyboard on the glass gives.
		await this.page.keyboard.type(text);
		await this.page.keyboard.press('Enter');
	}
	async find(words: string): Promise<void> {
		await this.press('[data-act=find]');
		await expect(this.page.locator('[data-field=find]')).toBeFocused();
		await this.page.keyboard.type(words);
		await this.press('[data-found]');
		await expect(this.page.getByTestId('finder')).toHaveCount(0);
	}
	async place(x: number, y: number): Promise<void> {
		const p = (await placesNow(this.page)).at(x, y);
		await this.page.touchscreen.tap(p.x, p.y);
	}
	async letGo(): Promise<void> {
		const leave = this.page.locator('[data-act=pen-away], [data-act=leave-tray]');
		while (await leave.count()) await leave.first().tap();
	}
	async pick(outline: SavedOutline): Promise<void> {
		const [x, y] = places(outline)[5];
		await this.place(x, y);
		await expect(this.page.locator('.tag')).toBeVisible();
	}
}

const keepIt = async (hand: Hand) => {
	await expect(hand.page.locator('[data-act=keep]')).toBeEnabled();
	await hand.press('[data-act=keep]');
	await expect(hand.page.locator('[data-act=keep]')).toHaveCount(0);
};
async function fileBy(hand: Hand, selector: string): Promise<string> {
	const [download] = await Promise.all([hand.page.waitForEvent('download'), hand.press(selector)]);
	return readFileSync((await download.path())!, 'utf8');
}
const area = (o: SavedOutline) => {
	const p = places(o, 64);
	return (
		Math.abs(p.reduce((s, [x, y], i) => s + x * p[(i + 1) % p.length][1] - y * p[(i + 1) % p.length][0], 0)) /
		2
	);
};
const width = (o: SavedOutline) => {
	const xs = places(o).map(([x]) => x);
	return Math.max(...xs) - Math.min(...xs);
};
async function begin(hand: Hand, demo?: string): Promise<void> {
	const { page } = hand;
	await page.goto('/');
	await hand.press(demo ? `[data-demo="${demo}"]` : '[data-act=new]');
	await expect(page.locator('canvas').first()).toBeVisible();
}

const JOBS: Readonly<Record<string, (hand: Hand) => Promise<void>>> = {
	'a picture of no known size becomes a file of true size': async (hand) => {
		const { page } = hand;
		await begin(hand);
		// A card with a hole, 280 x 120 px, on paper that knows nothing of mm.
		const picture = await sharp(
			Buffer.from(
				'<svg xmlns="http://www.w3.org/2000/svg" width="400" height="300"><rect width="400" height="300" fill="#fff"/><path d="M60 60h280v120h-280z"/><circle cx="120" cy="120" r="30" fill="#fff"/></svg>'
			)
		)
			.png()
			.toBuffer();
		const [chooser] = await Promise.all([page.waitForEvent('filechooser'), hand.press('[data-first]')]);
		await chooser.setFiles({ name: 'card.png', mimeType: 'image/png', buffer: picture });
		await expect(page.locator('[data-station=size]')).toContainText('No true size yet');
		await hand.press('[data-act=two-points]');
		// Until it has a size a pixel is taken for 1/96 inch.
		const px = 25.4 / 96;
		for (const x of [60, 340]) await hand.place(x * px, -60 * px);
		await hand.type('These two are apart', '14 cm');
		await expect(page.locator('[data-station=size]')).toContainText('True size is set');
		await hand.press('[data-station=trace]');
		await hand.press('[data-command=trace]');
		await keepIt(hand);
		await hand.press('[data-station=cut]');
		const svg = unwrap(readSvg(await fileBy(hand, '[data-command=write-svg]')));
		const [card, hole] = svg.shapes.flatMap(({ paths }) => paths).map((p) => Math.abs(pathArea(p)));
		// A finger and a pixel of the screen: a hundredth of the length.
		expect(card / (140 * 60)).toBeCloseTo(1, 1);
		expect(hole / card).toBeCloseTo((Math.PI * 30 * 30) / (280 * 120), 2);
	},
	'a rough old trace is mended and made lighter': async (hand) => {
		const { page } = hand;
		await begin(hand, 'Owl, a rough old trace');
		const heavy = (await saved(page)).outlines.reduce((n, o) => n + o.anchors.length, 0);
		await hand.press('[data-station=mend]');
		await hand.press('[data-command=mend-all]');
		await hand.find('simplify');
		await hand.type('May drift', '0.4 mm');
		await expect.poll(() => fact(page, 'drift')).toBeGreaterThan(0.05);
		expect(await fact(page, 'drift')).toBeLessThanOrEqual(0.4);
		await keepIt(hand);
		await expect
			.poll(async () => (await saved(page)).outlines.reduce((n, o) => n + o.anchors.length, 0))
			.toBeLessThan(heavy / 20);
		// What only the maker can decide is asked: the rib is bridged, the rest is open on purpose.
		await hand.press('[data-station=mend]');
		await hand.press('[data-mend=bridge-lines]');
		const asked = page.locator('[data-mend="on-purpose"]');
		for (let open = await asked.count(); open > 0; open--) {
			await hand.press('[data-mend="on-purpose"]');
			await expect(asked).toHaveCount(open - 1);
		}
		await expect(page.locator('[data-station=mend]')).not.toHaveClass(/stopped/);
	},
	'a piece gets an allowance that follows it': async (hand) => {
		const { page } = hand;
		await begin(hand, 'Control bars and a mask');
		const before = (await saved(page)).outlines;
		const bar = before.find(({ name }) => name === 'Long bar')!;
		await hand.pick(bar);
		await hand.find('seam allowance');
		await hand.type('Width', '6 mm');
		await keepIt(hand);
		const now = (await saved(page)).outlines;
		expect(now).toHaveLength(before.length + 1);
		const made = now.find(({ id }) => !before.some((b) => b.id === id))!;
		expect(width(made)).toBeCloseTo(width(bar) + 12, 4);
	},
	'two shapes are drawn and become one, a corner of it round': async (hand) => {
		const { page } = hand;
		await begin(hand);
		await hand.find('rectangle');
		for (const [x, y] of [
			[-30, -20],
			[10, 20],
			[-5, -10],
			[35, 10]
		] as const)
			await hand.place(x, y);
		await expect.poll(async () => (await saved(page)).outlines.length).toBe(2);
		await hand.letGo();
		const [a, b] = (await saved(page)).outlines;
		await hand.find('select all');
		await hand.find('unite');
		await keepIt(hand);
		await expect.poll(async () => (await saved(page)).outlines.length).toBe(1);
		const [one] = (await saved(page)).outlines;
		expect(one.closed).toBe(true);
		expect(area(one)).toBeLessThan(area(a) + area(b));
		expect(area(one)).toBeGreaterThan(Math.max(area(a), area(b)));
	},
	'pieces are laid on a sheet and written for the machine': async (hand) => {
		const { page } = hand;
		await begin(hand, 'Fox puppet, scanned parts');
		await hand.press('[data-station=trace]');
		await hand.press('[data-command=trace]');
		await keepIt(hand);
		await hand.press('[data-station=sheet]');
		await hand.press('[data-sheet="A3"]');
		await hand.press('[data-command=arrange]');
		await expect(page.locator('[data-fact=placed]')).toBeVisible();
		await hand.press('[data-act=enough]');
		await expect(page.getByTestId('arrange-facts')).toHaveAttribute('data-searching', 'false');
		await keepIt(hand);
		await hand.press('[data-station=cut]');
		await hand.press('[data-command=machine]');
		await hand.press('[data-act=make-jobs]');
		await expect(page.locator('[data-act=write-machine]')).toBeEnabled();
		expect((await fileBy(hand, '[data-act=write-machine]')).split('\n').length).toBeGreaterThan(50);
	}
};

for (const [name, job] of Object.entries(JOBS)) {
	test(`by keys alone: ${name}`, async ({ page }) => {
		const troubles = listen(page);
		await job(new Keys(page));
		expect(troubles).toEqual([]);
	});
	test(`by fingers alone: ${name}`, async ({ browser, baseURL }) => {
		const context = await browser.newContext({
			hasTouch: true,
			viewport: { width: 820, height: 1180 },
			baseURL: baseURL!,
			serviceWorkers: 'block'
		});
		const page = await context.newPage();
		const troubles = listen(page);
		await job(new Fingers(page));
		expect(troubles).toEqual([]);
		await context.close();
	});
}
