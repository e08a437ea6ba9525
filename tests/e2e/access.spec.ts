/** WCAG 2.2 AA by axe (axe-core, rules of Deque Systems) in every state, by day and by lamp light, in three sizes. */
import { readFileSync } from 'node:fs';
import { createRequire } from 'node:module';
import { expect, test, type Page } from '@playwright/test';
import { command, newDrawing, openDemo, pick } from './hands';

const AXE = readFileSync(createRequire(import.meta.url).resolve('axe-core/axe.min.js'), 'utf8');
const TAGS = ['wcag2a', 'wcag2aa', 'wcag21a', 'wcag21aa', 'wcag22aa', 'best-practice'];
interface Finding {
	readonly id: string;
	readonly nodes: { readonly target: string[]; readonly failureSummary: string }[];
}

/** What the light has to do with, and what the size has; the rest is the same in all of them. With AXE=all everything is asked everywhere. */
const OF_LIGHT = ['color-contrast'];
const OF_SIZE = ['target-size', 'scrollable-region-focusable'];
const rulesOf = (isFirst: boolean, mode: string): readonly string[] =>
	process.env.AXE === 'all' || (isFirst && mode === 'light')
		? TAGS
		: isFirst
			? OF_LIGHT
			: mode === 'light'
				? OF_SIZE
				: [];
const SIZES = [
	['a desk', { width: 1280, height: 800 }],
	['a tablet upright', { width: 820, height: 1180 }],
	['a phone', { width: 390, height: 844 }]
] as const;

/** What axe finds just now, in three sizes, by day and by lamp light. */
async function findings(page: Page, state: string): Promise<[what: string, where: string][]> {
	await page.evaluate(AXE);
	const found: [what: string, where: string][] = [];
	for (const [name, viewport] of SIZES) {
		await page.setViewportSize(viewport);
		for (const mode of ['light', 'dark']) {
			const rules = rulesOf(name === SIZES[0][0], mode);
			if (rules.length === 0) continue;
			const violations = await page.evaluate(
				async ({ mode, rules }) => {
					document.documentElement.dataset.mode = mode;
					// Until what follows the size and the light has followed.
					for (let k = 0; k < 3; k++) await new Promise((done) => requestAnimationFrame(done));
					const ending = document
						.getAnimations()
						.filter((a) => Number.isFinite(a.effect?.getComputedTiming().endTime as number));
					await Promise.all(ending.map((a) => a.finished.catch(() => undefined)));
					await new Promise((done) => requestAnimationFrame(done));
					const { axe } = window as unknown as {
						axe: { run: (root: Document, options: object) => Promise<{ violations: Finding[] }> };
					};
					const { violations } = await axe.run(document, {
						runOnly: rules,
						resultTypes: ['violations'],
						preload: false,
						iframes: false
					});
					return violations;
				},
				{ mode, rules }
			);
			for (const { id, nodes } of violations)
				for (const { target, failureSummary } of nodes)
					found.push([
						`${id} ${target.join(' ')}: ${failureSummary.split('\n')[1] ?? ''}`,
						`${state}, ${name}, ${mode}`
					]);
		}
	}
	await page.evaluate(() => (document.documentElement.dataset.mode = 'light'));
	await page.setViewportSize(SIZES[0][1]);
	return found;
}

/** The states of the program, in the order in which one comes to them. */
async function walk(page: Page, look: (state: string) => Promise<void>): Promise<void> {
	const leave = async () => {
		await page.keyboard.press('Escape');
		await expect(page.getByRole('dialog')).toHaveCount(0);
		await page.locator('[role=application]').focus();
	};
	await page.goto('/');
	await expect(page.locator('[data-act=new]')).toBeVisible();
	await look('the list, empty');
	await newDrawing(page);
	await expect(page.getByTestId('first')).toBeVisible();
	await look('an empty drawing');
	await openDemo(page, 'Control bars and a mask');
	await look('a drawing');
	await page.goto('/');
	await expect(page.getByText('Control bars and a mask')).toBeVisible();
	await look('the list');
	await page.getByText('Control bars and a mask').click();
	await expect(page.locator('canvas').first()).toBeVisible();
	for (const station of ['picture', 'size', 'trace', 'draw', 'mend', 'build', 'offset', 'sheet', 'cut']) {
		await page.locator(`[data-station=${station}]`).click();
		await expect(page.getByTestId('tray')).toBeVisible();
		await look(`station ${station}`);
	}
	await pick(page, 'Long bar');
	await expect(page.locator('.tag')).toBeVisible();
	await look('an outline is picked');
	await page.keyboard.press('e');
	await page.keyboard.press('n');
	await look('an anchor is picked');
	await page.keyboard.press('Escape');
	await page.keyboard.press('Escape');
	await page.keyboard.press('r');
	await expect(page.locator('[data-act=find-on-rack]')).toBeVisible();
	await look('the rack');
	await page.keyboard.press('Escape');
	await page.locator('[role=application]').focus();
	for (const [key, state] of [
		['d', 'simplifying'],
		['Shift+f', 'fairing'],
		['o', 'offsetting'],
		['Shift+p', 'placing']
	]) {
		await page.keyboard.press('Control+a');
		await page.keyboard.press(key);
		await expect(page.locator('section.tray.wide')).toBeVisible();
		await look(state);
		await page.locator('[role=application]').focus();
		await page.keyboard.press('Escape');
	}
	await page.locator('[role=application]').focus();
	await page.keyboard.press('Control+k');
	await expect(page.getByTestId('finder')).toBeVisible();
	await page.keyboard.type('round');
	await look('the finder');
	await page.keyboard.press('Escape');
	await page.locator('[data-fact=steps]').click();
	await look('steps and versions');
	await page.locator('[data-fact=steps]').click();
	for (const [words, name] of [
		['settings', 'Settings'],
		['keys', 'Keys'],
		['named sizes', 'Sizes'],
		['workshop', 'Workshop']
	]) {
		await command(page, words);
		await expect(page.getByRole('dialog')).toBeVisible();
		await look(`sheet ${name}`);
		await leave();
	}
	await page.keyboard.press('Shift+?');
	await expect(page.getByTestId('help')).toBeVisible();
	await look('help');
	await page.locator('[data-act=leave-help]').click();
	await page.locator('[data-station=cut]').click();
	await page.locator('[data-command=machine]').click();
	await expect(page.locator('[data-act=make-jobs]')).toBeVisible();
	await look('the machine');
}

test('nothing is found in any state, by day and by lamp light, on a desk, a tablet and a phone', async ({
	page
}) => {
	// Colours on their way from one light to the other are no colours.
	await page.emulateMedia({ reducedMotion: 'reduce' });
	/** Each once, with the state in which it was seen first. */
	const found = new Map<string, string>();
	await walk(page, async (state) => {
		for (const [what, where] of await findings(page, state)) if (!found.has(what)) found.set(what, where);
	});
	expect([...found].map(([what, where]) => `${where}: ${what}`)).toEqual([]);
});
