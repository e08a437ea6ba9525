// The pictures of docs/screenshots, made from the demo data: the job in its steps, and each main view.
//   npm run screenshots    (after npm run build)
import { mkdirSync } from 'node:fs';
import { openApp } from './app-frames.mjs';

const folder = 'docs/screenshots';
mkdirSync(folder, { recursive: true });
const { page, base, close } = await openApp(4179);
const shot = async (name) => {
	await page.waitForTimeout(500);
	for (const button of await page.locator('[data-act=leave-message]').all())
		await button.click().catch(() => undefined);
	await page.waitForTimeout(150);
	await page.screenshot({ path: `${folder}/${name}.png` });
};
const open = async (name) => {
	await page.goto(base);
	await page.getByText(name).click();
	await page.locator('canvas').first().waitFor();
	await page.waitForTimeout(900);
};
try {
	await page.locator('ul img').nth(1).waitFor();
	await shot('start');

	await open('Fox puppet, scanned parts');
	await page.locator('[data-station=size]').click();
	await page.locator('[data-act=two-points]').click();
	await page.mouse.click(330, 250);
	await page.mouse.click(560, 255);
	await shot('1-size');
	await page.keyboard.press('Escape');
	await page.keyboard.press('t');
	await page.locator('[data-act=keep]:not([disabled])').waitFor();
	await shot('2-trace');
	await page.keyboard.press('Escape');
	await page.keyboard.press('l');
	// Over the ears: places in mm.
	const view = await page.locator('[role=application]').getAttribute('data-view');
	const [scale, vx, vy] = view.split(' ').map(Number);
	const at = (x, y) => [640 + (x - vx) * scale, 400 - (y - vy) * scale];
	await page.mouse.click(...at(36, -14));
	await page.mouse.click(...at(49.5, -31));
	await page.mouse.move(...at(58, -31));
	await page.mouse.down();
	await page.mouse.move(...at(64, -33), { steps: 5 });
	await page.mouse.up();
	await page.mouse.move(...at(84, -18), { steps: 3 });
	await shot('draw');
	await page.keyboard.press('Escape');
	await page.keyboard.press('Escape');
	// The line was kept; it is not wanted here.
	await page.keyboard.press('Control+z');
	await page.keyboard.press('t');
	await page.locator('[data-act=keep]:not([disabled])').waitFor();
	await page.keyboard.press('Enter');
	await page.waitForTimeout(800);
	await page.mouse.click(700, 110);
	await page.keyboard.press('r');
	await page.getByRole('button', { name: /^fox-puppet 1, \d/ }).click();
	await page.keyboard.press('r');
	await page.locator('[role=application]').focus();
	await page.keyboard.press('e');
	await page.keyboard.press('n');
	for (let k = 0; k < 9; k++) await page.keyboard.press('n');
	await page.keyboard.press('j');
	await shot('3-anchors');
	await page.keyboard.press('Escape');
	await page.keyboard.press('d');
	await page.waitForTimeout(1500);
	await page.keyboard.press('Enter');
	await page.waitForTimeout(400);
	for (let k = 0; k < 3; k++) await page.keyboard.press('Escape');
	await page.keyboard.press('h');
	await page.keyboard.press('o');
	await page.locator('[data-act=keep]:not([disabled])').waitFor();
	await shot('5-offset');
	await page.keyboard.press('Escape');
	await page.locator('[data-station=cut]').click();
	await page.locator('[role=application]').focus();
	await page.keyboard.press('g');
	await page.keyboard.press('p');
	await page.keyboard.press('p');
	await page.keyboard.press('g');
	await page.keyboard.press('Escape');
	await page.locator('[data-station=sheet]').click();
	await page.locator('[data-sheet="Board 600 × 400"]').click();
	await page.locator('[data-station=cut]').click();
	await page.locator('[data-command=machine]').click();
	await page.locator('[data-pick=machine]').selectOption('router');
	await page.locator('[data-pick=tool]').selectOption('flat-2');
	await page.locator('[data-act=make-jobs]').click();
	await page.locator('[data-act=watch]:not([disabled])').waitFor();
	await page.locator('[data-group=tabs]').click();
	await shot('7-machine');
	await page.locator('[data-act=watch]').click();
	await page.locator('[data-act=run]').click();
	await page.getByTestId('watch-slider').fill('330');
	await shot('8-preview');
	await page.locator('[data-act=end-watch]').click();
	await page.locator('[data-act=to-machine]').click();
	await page.getByTestId('machine-bench').waitFor();
	await page.locator('[data-hurry="100"]').click();
	await page.locator('[data-act=begin-job]').click();
	await page.waitForTimeout(4000);
	await page.locator('[data-act=hold]').click();
	await page.waitForTimeout(500);
	await shot('9-machine-bench');
	await page.locator('[data-act=stop-machine]').click();
	await page.keyboard.press('Escape');
	await page.waitForTimeout(400);
	await page.locator('[data-act=workshop]').click();
	await page.locator('[data-one^=Router]').click();
	await shot('workshop');
	await page.keyboard.press('Escape');

	await open('Owl, a rough old trace');
	await page.keyboard.press('r');
	await page.getByRole('button', { name: /^Owl, \d/ }).click();
	await page.keyboard.press('r');
	await page.locator('[role=application]').focus();
	await page.keyboard.press('Shift+F');
	await page.locator('[data-act=keep]:not([disabled])').waitFor();
	await page.keyboard.press('j');
	await shot('fair');
	await page.keyboard.press('Enter');
	await page.waitForTimeout(500);
	await page.keyboard.press('Shift+G');
	await page.getByLabel('Tool radius').fill('50 mm');
	await page.keyboard.press('Enter');
	await page.locator('[data-compare=first]').click();
	await page.keyboard.press('j');
	await page.waitForTimeout(800);
	const chart = await page.getByTestId('curvature-chart').boundingBox();
	await page.mouse.move(chart.x + 0.62 * chart.width, chart.y + 40);
	await shot('looking');
	await page.keyboard.press('Escape');

	// The pattern in two sizes: its seams entered, with what is held of them.
	await open('Felt hand puppet');
	await page.locator('[role=application]').focus();
	await page.keyboard.press('Escape');
	await page.keyboard.press('r');
	await page.locator('[data-act=find-on-rack]').fill('Front, small');
	await page
		.getByRole('button', { name: /^Front, small,? / })
		.first()
		.click();
	await page.locator('[role=application]').focus();
	await page.keyboard.press('r');
	await page.keyboard.press('e');
	await page.getByRole('button', { name: 'all', exact: true }).click();
	await page.waitForTimeout(600);
	await shot('hand-puppet');
	await page.keyboard.press('Escape');

	await open('Control bars and a mask');
	await page.locator('[role=application]').focus();
	await page.keyboard.press('Control+a');
	await page.keyboard.press('Shift+C');
	await page.locator('[data-choice=regions]').click();
	await page.locator('[data-act=keep]:not([disabled])').waitFor();
	await shot('build');
	await page.keyboard.press('Escape');
	await page.keyboard.press('Escape');
	await page.locator('[data-station=mend]').click();
	await page.waitForTimeout(300);
	await page.keyboard.press('g');
	await page.locator('[data-act=settings]').click();
	await page.locator('[data-act=set-light]').click();
	await page.keyboard.press('Escape');
	await page.waitForTimeout(300);
	await page.keyboard.press('/');
	await page.locator('[data-field=find]').fill('curve');
	await shot('lamp-and-finding');
	await page.keyboard.press('Escape');
	await page.locator('[data-act=settings]').click();
	await page.locator('[data-act=set-light]').click();
	await page.keyboard.press('Escape');

	await open('Fox puppet, scanned parts');
	await page.locator('[data-station=sheet]').click();
	await page.locator('[data-command=arrange]').click();
	await page.getByText('Any way').click();
	await page.waitForTimeout(4000);
	await shot('arranged');

	// The whole set with the rack: the feathers picked by one of them.
	await open('Puppet set on two offcuts');
	await page.keyboard.press('Escape');
	await page.locator('[role=application]').focus();
	await page.keyboard.press('Escape');
	await page.keyboard.press('r');
	await page.locator('[data-act=find-on-rack]').fill('feathers');
	await page.getByRole('button', { name: /^Feathers, \d/ }).click();
	await page.locator('[data-act=find-on-rack]').fill('');
	await page.locator('[role=application]').focus();
	await page.waitForTimeout(1200);
	await shot('puppet-set');

	// A version, and what has changed since.
	await open('Owl, a rough old trace');
	await page.locator('[role=application]').focus();
	await page.keyboard.press('Control+Shift+s');
	await page.locator('#version-word').fill('as it came');
	await page.keyboard.press('Enter');
	await page.locator('[data-version="as it came"]').waitFor();
	await page.locator('[data-fact=steps]').click();
	await page.locator('[role=application]').focus();
	await page.keyboard.press('Control+a');
	await page.keyboard.press('d');
	await page.locator('[data-act=keep]:enabled').waitFor();
	await page.keyboard.press('Enter');
	await page.waitForTimeout(600);
	await page.keyboard.press('/');
	await page.locator('[data-field=find]').fill('compare versions');
	await page.keyboard.press('Enter');
	await page.locator('[data-fact=differences]').waitFor();
	await shot('compared');

	// The same on a phone.
	await page.setViewportSize({ width: 390, height: 844 });
	await open('Fox puppet, scanned parts');
	await page.locator('[data-station=trace]').click();
	await page.locator('[role=application]').focus();
	await page.keyboard.press('t');
	await page.locator('[data-act=keep]:enabled').waitFor();
	await shot('phone');
	await page.setViewportSize({ width: 1280, height: 800 });
} finally {
	await close();
}
