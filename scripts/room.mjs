// How much of the window each tray takes, and what lies under it: every state, at two sizes, as a table.
//   npm run room    (after npm run build)
// A state is over its limit when its tray takes more than 16 % of 1280x800 or 20 % of 1024x768.
import { spawn } from 'node:child_process';
import { chromium } from '@playwright/test';
import { CHROMIUM, CHROMIUM_ARGS } from './chromium.mjs';

const PORT = 4189;
const base = `http://127.0.0.1:${PORT}`;
const SIZES = [
	{ width: 1280, height: 800, most: 16 },
	{ width: 1024, height: 768, most: 20 }
];
const pictures = process.argv.includes('--pictures');
const only = process.argv.find((a) => a.startsWith('--only='))?.slice(7);

const FOX = 'Fox puppet, scanned parts';
const OWL = 'Owl, a rough old trace';
const MASK = 'Mask, three pictures';
const BARS = 'Control bars and a mask';

const key = async (page, ...keys) => {
	for (const k of keys) await page.keyboard.press(k);
};
const surface = (page) => page.locator('[role=application]').focus();
const ready = (page) => page.locator('[data-act=keep]:not([disabled])').waitFor();
const station = (id) => async (page) => page.locator(`[data-station=${id}]`).click();
const owl = async (page) => {
	await key(page, 'r');
	await page.getByRole('button', { name: /^Owl, \d/ }).click();
	await key(page, 'r');
	await surface(page);
};
/** All of the bars, or the first outline of them. */
const all = async (page) => {
	await surface(page);
	await key(page, 'Control+a');
};
const first = async (page) => {
	await surface(page);
	await key(page, 'n');
};
const anchor = async (page) => {
	await first(page);
	await key(page, 'e', 'n');
};

/** Every state that lies on the bench: which drawing, and how one comes to it. */
const STATES = [
	...['picture', 'size', 'trace', 'draw', 'mend', 'build', 'offset', 'sheet', 'cut'].map((id) => ({
		name: `station ${id}`,
		drawing: FOX,
		go: station(id)
	})),
	{ name: 'three pictures', drawing: MASK, go: station('picture') },
	{ name: 'three sizes', drawing: MASK, go: station('size') },
	{
		name: 'two points',
		drawing: FOX,
		go: async (page) => {
			await station('size')(page);
			await page.locator('[data-act=two-points]').click();
			await page.mouse.click(430, 250);
			await page.mouse.click(560, 255);
		}
	},
	{
		name: 'four corners',
		drawing: MASK,
		go: async (page) => {
			await station('size')(page);
			await page.locator('[data-act=find-sheet]').first().click();
			await page.locator('[data-act=straighten]').waitFor();
		}
	},
	{
		name: 'place a picture',
		drawing: MASK,
		go: async (page) => {
			await station('picture')(page);
			await page.locator('[data-act=place]').click();
		}
	},
	{
		name: 'scan',
		drawing: FOX,
		go: async (page) => {
			await station('picture')(page);
			await page.locator('[data-command=scan]').click();
			await page.waitForTimeout(300);
		}
	},
	...['tone', 'local-tone', 'colours', 'line-centre', 'levels', 'alpha'].map((way) => ({
		name: `trace by ${way}`,
		drawing: MASK,
		go: async (page) => {
			await surface(page);
			await key(page, 't');
			const choice = page.locator(`[data-choice=${way}]`);
			await page.locator('[data-act=keep]').first().waitFor();
			if (await choice.count()) await choice.click();
			await page.waitForTimeout(700);
		}
	})),
	...['prepare', 'finer'].map((group) => ({
		name: `trace, ${group}`,
		drawing: MASK,
		go: async (page) => {
			await surface(page);
			await key(page, 't');
			await page.locator(`[data-group=${group}]`).click();
			await page.waitForTimeout(500);
		}
	})),
	...['line', 'rectangle', 'circle', 'polygon', 'star'].map((kind) => ({
		name: `draw ${kind}`,
		drawing: FOX,
		go: async (page) => {
			await surface(page);
			await key(page, 'l');
			await page.locator(`[data-choice=${kind}]`).click();
		}
	})),
	{ name: 'faults', drawing: BARS, go: station('mend') },
	{ name: 'one outline', drawing: BARS, go: first },
	{ name: 'an anchor', drawing: BARS, go: anchor },
	{
		name: 'moving ways',
		drawing: BARS,
		go: async (page) => {
			await anchor(page);
			await key(page, '/');
			await page.locator('[data-field=find]').fill('arrow goes');
			await key(page, 'Enter', 'z', 'z', 'z', 'z');
		}
	},
	{ name: 'rack', drawing: BARS, go: async (page) => key(page, 'r') },
	{ name: 'finder', drawing: BARS, go: async (page) => key(page, '/') },
	{
		name: 'finder with words',
		drawing: BARS,
		go: async (page) => {
			await key(page, '/');
			await page.locator('[data-field=find]').fill('cut');
		}
	},
	{
		name: 'simplify',
		drawing: OWL,
		go: async (page) => {
			await owl(page);
			await key(page, 'd');
			await ready(page);
		}
	},
	...['fair', 'simplify', 'rebuild', 'arcs', 'through', 'straights'].map((way) => ({
		name: `fair, ${way}`,
		drawing: OWL,
		go: async (page) => {
			await owl(page);
			await key(page, 'Shift+F');
			await page.locator('[data-act=keep]').waitFor();
			const choice = page.locator(`[data-choice="${way}"]`);
			if (await choice.count()) await choice.click();
			await page.waitForTimeout(700);
		}
	})),
	{
		name: 'look closely',
		drawing: OWL,
		go: async (page) => {
			await owl(page);
			await key(page, 'Shift+G');
			await page.waitForTimeout(500);
		}
	},
	...[
		['offset', 'o'],
		['allowance', 'Shift+O'],
		['place', 'Shift+P'],
		['combine', 'Shift+C'],
		['trim', 'Shift+T'],
		['join', 'Shift+J']
	].map(([name, k]) => ({
		name,
		drawing: BARS,
		go: async (page) => {
			await all(page);
			await key(page, k);
			await page.waitForTimeout(700);
		}
	})),
	...[
		['extend', /^Felt hand puppet/, 'extend'],
		['bridge', /^Felt hand puppet/, 'bridge two'],
		['take a stretch out', /^Long bar/, 'take out a stretch']
	].map(([name, which, words]) => ({
		name,
		drawing: BARS,
		go: async (page) => {
			await key(page, 'r');
			await page.getByRole('button', { name: which }).first().click();
			await key(page, 'r');
			await surface(page);
			await key(page, '/');
			await page.locator('[data-field=find]').fill(words);
			await key(page, 'Enter');
			await page.locator('[data-act=keep]').waitFor();
			await page.waitForTimeout(400);
		}
	})),
	...[
		['round corners', 'Shift+R'],
		['meet', 'Shift+M'],
		['place anchors', 'Shift+P']
	].map(([name, k]) => ({
		name,
		drawing: BARS,
		go: async (page) => {
			await anchor(page);
			await key(page, k);
			await page.waitForTimeout(500);
		}
	})),
	...[
		['align', 'align'],
		['arrange', 'arrange'],
		['paper', 'paper']
	].map(([name, words]) => ({
		name: `sheet, ${name}`,
		drawing: BARS,
		go: async (page) => {
			await station('sheet')(page);
			const board = page.locator('[data-sheet="Board 600 × 400"]');
			if (await board.count()) await board.click();
			await all(page);
			await surface(page);
			await key(page, '/');
			await page.locator('[data-field=find]').fill(words);
			await key(page, 'Enter');
			await page.locator('[data-act=leave]').waitFor();
			await page.waitForTimeout(400);
		}
	})),
	...['where', 'fit', 'deep', 'fast', 'tabs', 'ends', 'watch'].map((name) => ({
		name: `machine ${name}`,
		drawing: OWL,
		go: async (page) => {
			await station('cut')(page);
			await page.locator('[data-command=machine]').click();
			await page.locator('[data-pick=machine]').waitFor();
			if (await page.locator('[data-act=make-jobs]').count())
				await page.locator('[data-act=make-jobs]').click();
			await page.locator('[data-pick=machine]').selectOption('router');
			await page.locator('[data-fact=cuts]').waitFor();
			if (name === 'watch') await page.locator('[data-act=watch]').click();
			else await page.locator(`[data-group=${name}]`).click();
			await page.waitForTimeout(500);
		}
	}))
];

const server = spawn('node', ['build'], {
	env: { ...process.env, HOST: '127.0.0.1', PORT: String(PORT), ORIGIN: base },
	stdio: 'ignore'
});
const browser = await chromium.launch({
	executablePath: CHROMIUM,
	args: CHROMIUM_ARGS
});
let short = 0;
try {
	const page = await browser.newPage();
	for (let k = 0; k < 50; k++) {
		if (
			await page.goto(base).then(
				() => true,
				() => false
			)
		)
			break;
		await new Promise((r) => setTimeout(r, 100));
	}
	await page.locator('ul img').nth(1).waitFor();
	const paths = {};
	for (const name of [FOX, OWL, MASK, BARS])
		paths[name] = await page.getByRole('link', { name }).first().getAttribute('href');
	console.log('| state | 1280x800 | 1024x768 | of what is in hand under paper |');
	console.log('|---|---|---|---|');
	for (const state of STATES) {
		if (only && !state.name.includes(only)) continue;
		const cells = [];
		let covered = 0;
		for (const { width, height, most } of SIZES) {
			await page.setViewportSize({ width, height });
			await page.goto(base + paths[state.drawing]);
			await page.locator('canvas').first().waitFor();
			await page.waitForTimeout(250);
			try {
				page.setDefaultTimeout(6000);
				await state.go(page);
			} catch (error) {
				cells.push(`did not open: ${String(error).split('\n')[0].slice(0, 60)}`);
				continue;
			}
			await page.waitForTimeout(250);
			const found = await page.evaluate(measured);
			const share = (100 * found.tray) / (width * height);
			if (share > most) short++;
			covered = Math.max(covered, found.covered);
			cells.push(`${share.toFixed(1)} %${share > most ? ' **over**' : ''}`);
			if (pictures)
				await page.screenshot({
					path: `test-results/room/${state.name.replace(/\W+/g, '-')}-${width}.png`
				});
		}
		console.log(`| ${state.name} | ${cells[0]} | ${cells[1]} | ${(100 * covered).toFixed(0)} % |`);
	}
	console.log(`${short} over their limit`);
} finally {
	await browser.close();
	server.kill();
}

/** In the page: px² of the tray, and the share of the box in hand that lies under tray, tag or rack. */
function measured() {
	const seen = (selector) =>
		[...document.querySelectorAll(selector)]
			.map((e) => e.getBoundingClientRect())
			.filter((r) => r.width * r.height > 0);
	const trays = seen('[data-testid=tray] > *, [data-testid=finder] > *');
	const tray = trays.reduce((sum, r) => sum + r.width * r.height, 0);
	const hand = document.querySelector('[role=application]')?.dataset.inHand;
	let covered = 0;
	if (hand) {
		const [x0, y0, x1, y1] = hand.split(' ').map(Number);
		const paper = [...trays, ...seen('[data-paper]')];
		let under = 0;
		let all = 0;
		const n = 40;
		for (let i = 0; i < n; i++)
			for (let k = 0; k < n; k++) {
				const x = x0 + ((i + 0.5) / n) * (x1 - x0);
				const y = y0 + ((k + 0.5) / n) * (y1 - y0);
				if (x < 0 || y < 0 || x > innerWidth || y > innerHeight) continue;
				all++;
				if (paper.some((r) => x > r.left && x < r.right && y > r.top && y < r.bottom)) under++;
			}
		covered = all ? under / all : 0;
	}
	return { tray, covered };
}
