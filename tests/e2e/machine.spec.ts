/** From the lines to the machine: jobs, tabs under the hand, the moving preview, files, and what the simulated machine cut. */
import { readFileSync, rmSync } from 'node:fs';
import { expect, test, type Page } from '@playwright/test';
import { movesFromPlain, type PlainMoves } from '../../src/lib/core/machine/stand-in';
import { readGcode } from '../../src/lib/core/formats/gcode-read';
import { readHpgl } from '../../src/lib/core/formats/hpgl-read';
import { cutsApart } from '../../src/lib/core/toolpath/judge';
import { lengthsOf } from '../../src/lib/core/toolpath/moves';
import { chance } from '../shapes';
import { listen, openDemo, saved } from './hands';
import { begin, newFolder, struck } from './killed';

/** ms: a limit, no wait. A job goes line by line, over a thousand of them, each asked for and answered. */
const SENT = 300_000;
/** Kills while it cuts: one in every run of the tests, a fifth of what `npm run kills` makes else. */
const AT_WORK = process.env.KILLS ? Math.round(Number(process.env.KILLS) / 5) : 1;

// One machine of each kind stands on the server: its jobs are sent one after another.
test.describe.configure({ mode: 'default' });

const planned = async (page: Page) => {
	await expect(page.locator('[data-fact=cuts]')).toBeVisible();
	await expect(page.locator('[data-act=write-machine]')).toBeEnabled();
};
async function machineFile(page: Page): Promise<string> {
	const [download] = await Promise.all([
		page.waitForEvent('download'),
		page.locator('[data-act=write-machine]').click()
	]);
	return readFileSync((await download.path())!, 'utf8');
}
async function openMachine(page: Page): Promise<void> {
	await page.locator('[data-station=cut]').click();
	await page.locator('[data-command=machine]').click();
	await page.locator('[data-act=make-jobs]').click();
	await planned(page);
}
/** What the simulated machine says that it did. */
async function trailOf(page: Page, which: string) {
	const text = await page.evaluate(
		async (which) => (await fetch(`/api/machine/${which}`, { method: 'POST', body: 'trail' })).text(),
		which
	);
	return movesFromPlain(JSON.parse(text.slice(6)) as PlainMoves);
}
async function sendAtOnce(page: Page): Promise<void> {
	await page.locator('[data-act=to-machine]').click();
	await expect(page.getByTestId('machine-bench')).toHaveAttribute('data-state', /resting|halted/);
	await page.locator('[data-hurry="0"]').click();
	await page.locator('[data-act=begin-job]').click();
	await expect(page.getByTestId('machine-told')).toHaveText('The job is done.', { timeout: SENT });
	await expect(page.locator('[data-fact=apart]')).toBeVisible();
}

test('a picture comes to the machine, and what was cut is what was drawn', async ({ page }) => {
	const troubles = listen(page);
	await page.goto('/');
	await expect(page.locator('[data-act=new]')).toBeVisible();
	let actions = 0;
	const act = async (does: () => Promise<unknown>) => {
		actions++;
		await does();
	};
	await act(() =>
		page.evaluate(
			(list) => {
				const data = new DataTransfer();
				data.items.add(new File([new Uint8Array(list)], 'fox-puppet.jpg', { type: 'image/jpeg' }));
				document
					.querySelector('main')!
					.dispatchEvent(new DragEvent('drop', { dataTransfer: data, bubbles: true, cancelable: true }));
			},
			[...readFileSync('static/demo/fox-puppet.jpg')]
		)
	);
	await expect(page.locator('[data-station=size]')).toContainText('True size is set');
	await act(() => page.keyboard.press('t'));
	await expect(page.locator('[data-act=keep]')).toBeEnabled();
	await act(() => page.keyboard.press('Enter'));
	await act(() => page.locator('[data-station=sheet]').click());
	await act(() => page.locator('[data-sheet="Board 600 × 400"]').click());
	await act(() => page.locator('[data-station=cut]').click());
	await act(() => page.locator('[data-command=machine]').click());
	await act(() => page.locator('[data-act=make-jobs]').click());
	await planned(page);
	let text = '';
	await act(async () => (text = await machineFile(page)));
	expect(actions).toBeLessThanOrEqual(12);
	const file = readGcode(text);
	expect(file.faults).toEqual([]);
	// Holes before what they lie in: the names stand before the cuts.
	expect(await page.locator('[data-fact=cuts]').innerText()).toBe('21');

	await sendAtOnce(page);
	const cut = await trailOf(page, 'gcode');
	expect(cutsApart(cut, file.moves)).toBeLessThan(0.01);
	expect(lengthsOf(cut).cut).toBeCloseTo(lengthsOf(file.moves).cut, 2);
	expect(Number(await page.locator('[data-fact=gouge]').innerText())).toBeLessThan(0.01);
	await page.keyboard.press('Escape');
	await expect(page.getByTestId('machine-bench')).toBeHidden();
	expect(troubles).toEqual([]);
});

test('a router’s tabs are dragged, taken away and added; starts are moved; undo brings all back', async ({
	page
}) => {
	await openDemo(page, 'Owl, a rough old trace');
	await openMachine(page);
	await page.locator('[data-pick=machine]').selectOption('router');
	await planned(page);
	const depths = async () => {
		const { moves } = readGcode(await machineFile(page));
		return Array.from({ length: moves.kinds.length }, (_, i) => [
			moves.to[3 * i],
			moves.to[3 * i + 1],
			moves.to[3 * i + 2]
		]);
	};
	await page.locator('[data-group=tabs]').click();
	const first = await depths();
	// Where a tab shows: the places are told for those who cannot see them.
	const tabs = page.locator('[data-tab]');
	const count = await tabs.count();
	expect(count).toBeGreaterThan(3);
	const [x, y] = (await tabs.first().getAttribute('data-tab'))!.split(' ').map(Number);
	await page.mouse.move(x, y);
	await page.mouse.down();
	await page.mouse.move(x + 20, y + 30, { steps: 6 });
	await page.mouse.up();
	await planned(page);
	await expect(page.locator('[data-fact=steps]')).toHaveText('3 steps');
	const moved = await depths();
	expect(moved).not.toEqual(first);
	// A tap on a tab takes it away.
	const [u, v] = (await tabs.nth(1).getAttribute('data-tab'))!.split(' ').map(Number);
	await page.mouse.click(u, v);
	await expect(tabs).toHaveCount(count - 1);
	await page.keyboard.press('Control+z');
	await expect(tabs).toHaveCount(count);
	await page.keyboard.press('Control+z');
	await planned(page);
	await expect.poll(depths).toEqual(first);
});

test('the order is fixed by dragging a cut, said where something would drop, and freed again', async ({
	page
}) => {
	await openDemo(page, 'Owl, a rough old trace');
	await openMachine(page);
	await page.locator('[data-group=order]').click();
	const names = () => page.locator('[data-cut]').allInnerTexts();
	const before = await names();
	await page.locator('[data-cut]').first().dragTo(page.locator('[data-cut]').last());
	await expect.poll(names).not.toEqual(before);
	const after = (await names()).map((name) => name.replace(/^\d+\. /, ''));
	expect(after.at(-1)).toBe(before[0].replace(/^\d+\. /, ''));
	await page.locator('[data-cut]').first().press('Alt+ArrowRight');
	await expect.poll(async () => (await names())[1].replace(/^\d+\. /, '')).toBe(after[0]);
	await page.locator('[data-act=free-order]').click();
	await expect.poll(names).toEqual(before);
});

test('the preview runs, is pulled back and forth, and shows a place that is pressed', async ({ page }) => {
	await openDemo(page, 'Owl, a rough old trace');
	await openMachine(page);
	await page.locator('[data-act=watch]').click();
	await expect(page.locator('[data-act=run]')).toHaveText('Stand');
	const clock = page.locator('[data-fact=clock]');
	await expect.poll(() => clock.innerText()).not.toMatch(/^0:00/);
	await page.keyboard.press(' ');
	await expect(page.locator('[data-act=run]')).toHaveText('Run');
	const slider = page.getByTestId('watch-slider');
	await slider.fill('60');
	await expect(clock).toContainText('1:00');
	await expect(page.locator('[data-fact=now]')).not.toBeEmpty();
	await slider.fill('20');
	await expect(clock).toContainText('0:20');
	const picture = async () =>
		(await page.screenshot({ clip: { x: 280, y: 60, width: 500, height: 500 } })).toString('base64');
	const early = await picture();
	await slider.fill('100');
	await expect.poll(picture).not.toBe(early);
	await slider.fill('20');
	await expect.poll(picture).toBe(early);
	// Esc leaves one thing at a time: the preview, then the machine.
	await page.keyboard.press('Escape');
	await expect(page.locator('[data-act=watch]')).toBeVisible();
	await page.keyboard.press('Escape');
	await expect(page.locator('[data-command=machine]')).toBeVisible();
});

test('a plotter gets a plot, through a cable that is pulled and a cover that is opened', async ({ page }) => {
	await openDemo(page, 'Owl, a rough old trace');
	await openMachine(page);
	await page.locator('[data-pick=machine]').selectOption('knife');
	await planned(page);
	const text = await machineFile(page);
	expect(readHpgl(text).faults).toEqual([]);
	await page.locator('[data-act=to-machine]').click();
	await expect(page.getByTestId('machine-bench')).toHaveAttribute('data-state', /resting|halted/);
	await page.locator('[data-hurry="100"]').click();
	await page.locator('[data-act=begin-job]').click();
	await expect(page.locator('[data-fact=lines]')).not.toHaveText(/^0 of/);
	await page.locator('[data-act=cable]').click();
	await expect(page.locator('[data-fact=state]')).toHaveText('No connection');
	await page.locator('[data-act=cable]').click();
	await expect(page.locator('[data-fact=state]')).not.toHaveText('No connection');
	await page.locator('[data-act=cover]').click();
	await expect(page.locator('[data-fact=state]')).toHaveText('Cover open');
	await page.locator('[data-act=cover]').click();
	await expect(page.locator('[data-act=go-on]')).toBeVisible();
	await page.locator('[data-act=go-on]').click();
	await page.locator('[data-hurry="0"]').click();
	await expect(page.getByTestId('machine-told')).toHaveText('The job is done.', { timeout: SENT });
	expect(cutsApart(await trailOf(page, 'hpgl'), readHpgl(text).moves)).toBeLessThan(0.028);

	// A large stop: the job is broken off and said so, and a new one begins. As slowly as it goes, so that it is not done before.
	await page.locator('[data-hurry="1"]').click();
	await page.getByLabel('Feeds').fill('10');
	await page.locator('[data-act=begin-job]').click();
	await expect(page.locator('[data-fact=state]')).toHaveText('Working');
	await page.locator('[data-act=stop-machine]').click();
	await expect(page.getByTestId('machine-told')).toContainText('stopped');
	await expect(page.locator('[data-fact=state]')).toHaveText('Halted');
});

test('two do not drive one machine', async ({ page, context }) => {
	await openDemo(page, 'Owl, a rough old trace');
	await openMachine(page);
	await page.locator('[data-act=to-machine]').click();
	await expect(page.getByTestId('machine-bench')).toHaveAttribute('data-state', /resting|halted/);
	await page.locator('[data-hurry="1"]').click();
	await page.locator('[data-act=begin-job]').click();
	await expect(page.locator('[data-fact=state]')).toHaveText('Working');
	const other = await context.newPage();
	await openDemo(other, 'Control bars and a mask');
	await other.locator('[data-station=cut]').click();
	await other.locator('[data-command=machine]').click();
	await other.locator('[data-act=make-jobs]').click();
	const answer = await other.evaluate(async () =>
		(
			await fetch('/api/machine/gcode', {
				method: 'POST',
				body: 'hello other',
				headers: { 'x-driver': 'other' }
			})
		).text()
	);
	expect(answer).toBe('taken this bench');
	await other.close();
	await page.locator('[data-act=stop-machine]').click();
	await expect(page.getByTestId('machine-told')).toContainText('stopped');
});

test('killed while the machine cuts: jobs and history are there, and the machine takes the job again', async ({
	baseURL
}) => {
	test.setTimeout(120_000 * Math.max(4, AT_WORK));
	const folder = newFolder();
	const random = chance(7 * AT_WORK);
	let context = await begin(folder, baseURL);
	let page = await context.newPage();
	await openDemo(page, 'Owl, a rough old trace');
	const url = page.url();
	const opened = await saved(page);
	const bench = () => page.getByTestId('machine-bench');
	/** The job on the machine's bench; whoever had the machine in hand before is gone, so its power is taken away and given back. */
	const toMachine = async (): Promise<void> => {
		await page.locator('[data-station=cut]').click();
		await page.locator('[data-command=machine]').click();
		const make = page.locator('[data-act=make-jobs]');
		await expect(make.or(page.locator('[data-fact=cuts]')).first()).toBeVisible();
		if (await make.isVisible()) await make.click();
		await expect(page.locator('[data-act=write-machine]')).toBeEnabled();
		await page.locator('[data-act=to-machine]').click();
		await expect(bench()).toHaveAttribute('data-state', /./);
		if ((await bench().getAttribute('data-state')) !== 'dark') await page.locator('[data-act=power]').click();
		await expect(bench()).toHaveAttribute('data-state', 'dark');
		await page.locator('[data-act=power]').click();
		await expect(bench()).toHaveAttribute('data-state', 'halted');
		await page.locator('[data-act=home]').click();
		await expect(bench()).toHaveAttribute('data-state', 'resting');
	};
	const jobsOf = (now: { others: { type: string }[] }) => now.others.filter(({ type }) => type === 'job');
	for (let k = 0; k < AT_WORK; k++) {
		await toMachine();
		const before = await saved(page);
		expect(jobsOf(before).length).toBeGreaterThan(0);
		await page.locator('[data-hurry="1"]').click();
		await page.locator('[data-act=begin-job]').click();
		await expect(page.locator('[data-fact=state]')).toHaveText('Working');
		// Somewhere in the job.
		const lines = Math.floor(4 * random());
		await expect
			.poll(async () => parseInt(await page.locator('[data-fact=lines]').innerText()))
			.toBeGreaterThanOrEqual(lines);
		({ context, page } = await struck(random(), folder, context, page, baseURL));
		await page.goto(url);
		await expect(page.locator('canvas').first()).toBeVisible();
		const after = await saved(page);
		await expect(page.getByRole('log')).not.toContainText('did not fit');
		expect(after.others).toEqual(before.others);
		expect(after.outlines).toEqual(before.outlines);
		expect(after.pointer).toBe(before.pointer);
		await page.locator('[data-fact=steps]').click();
		await page.getByRole('button', { name: 'as it was opened' }).click();
		expect((await saved(page)).outlines).toEqual(opened.outlines);
		await page.locator('ol button.word').last().click();
		expect(jobsOf(await saved(page))).toEqual(jobsOf(before));
		await page.locator('[data-fact=steps]').click();
	}
	// To its end, whatever happened before.
	await toMachine();
	await page.locator('[data-hurry="0"]').click();
	await page.locator('[data-act=begin-job]').click();
	await expect(page.getByTestId('machine-told')).toHaveText('The job is done.', { timeout: SENT });
	await context.close();
	rmSync(folder, { recursive: true, force: true });
});
