/** What the tests do with their hands, and how they read what was saved. */
import { readFileSync } from 'node:fs';
import { expect, type Locator, type Page } from '@playwright/test';

/** Any message of the page's console that tells of trouble fails the test. */
export function listen(page: Page): string[] {
	const troubles: string[] = [];
	page.on('pageerror', (error) => troubles.push(error.message));
	page.on('console', (message) => {
		if (message.type() === 'error') troubles.push(message.text());
	});
	page.on('request', (request) => {
		const url = new URL(request.url());
		if (!['127.0.0.1', ''].includes(url.hostname) && url.protocol.startsWith('http'))
			troubles.push(`asked ${url.hostname}`);
	});
	return troubles;
}

export async function openDemo(page: Page, name: string): Promise<void> {
	await page.goto('/');
	// The middle of its card: letters that only just arrive may move what is below them by a line.
	await page.locator(`[data-demo="${name}"]`).or(page.getByText(name)).first().click();
	await expect(page.getByRole('navigation', { name: 'From the picture to the machine' })).toBeVisible();
	await expect(page.locator('canvas').first()).toBeVisible();
}

export async function newDrawing(page: Page): Promise<void> {
	await page.goto('/');
	await page.locator('[data-act=new]').click();
	await expect(page.locator('canvas').first()).toBeVisible();
}

export interface SavedOutline {
	id: string;
	name: string;
	closed: boolean;
	anchors: number[];
	points: number[];
	marks: number[];
	rank: number;
	first?: string;
}
export interface Saved {
	name: string;
	pointer: number;
	outlines: SavedOutline[];
	references: { name: string; pxPerMm?: number; widthPx: number; heightPx: number }[];
	/** Groups, repeats, sheets, marks and so on, as they are. */
	others: { type: string; id: string; name?: string; [field: string]: unknown }[];
}

/** The drawing as it lies in the browser's database, not as the interface says. */
export async function saved(page: Page): Promise<Saved> {
	// What the head shows is what has been done; the database follows it.
	let now = await stored(page);
	await expect
		.poll(async () => {
			now = await stored(page);
			const shown = await page.locator('[data-fact=steps]').innerText();
			const state = await page.locator('[data-fact=saved]').innerText();
			return `${state}, ${now.pointer === parseInt(shown)}`;
		})
		.toBe('saved, true');
	return now;
}

async function stored(page: Page): Promise<Saved> {
	const id = page.url().split('/').pop()!;
	return page.evaluate(async (id) => {
		const db = await new Promise<IDBDatabase>((resolve, reject) => {
			const request = indexedDB.open('even-thread');
			request.onsuccess = () => resolve(request.result);
			request.onerror = () => reject(request.error);
		});
		const all = <T>(store: string) =>
			new Promise<T[]>((resolve, reject) => {
				const request = db.transaction(store).objectStore(store).getAll();
				request.onsuccess = () => resolve(request.result as T[]);
				request.onerror = () => reject(request.error);
			});
		type Row = { drawing: string; record: Record<string, unknown> & { type: string; rank: number } };
		const rows = (await all<Row>('records')).filter((r) => r.drawing === id).map((r) => r.record);
		const head = (await all<{ id: string; name: string; pointer: number }>('drawings')).find(
			(d) => d.id === id
		)!;
		db.close();
		rows.sort((a, b) => a.rank - b.rank);
		const plain = (r: Record<string, unknown>) => ({
			...r,
			anchors: Array.from(r.anchors as ArrayLike<number>),
			points: Array.from(r.points as ArrayLike<number>),
			marks: Array.from(r.marks as ArrayLike<number>)
		});
		return {
			name: head.name,
			pointer: head.pointer,
			outlines: rows.filter((r) => r.type === 'outline').map(plain) as never,
			references: rows.filter((r) => r.type === 'reference') as never,
			others: rows.filter((r) => r.type !== 'reference' && r.type !== 'outline') as never
		};
	}, id);
}

/** The number of a fact shown in the interface. */
export async function fact(page: Page, name: string): Promise<number> {
	const text = await page.locator(`[data-fact=${name}]`).first().innerText();
	return Number(text.replace(/[^\d.-]/g, ''));
}

/** Waits until so many frames were drawn: what was asked for has been shown. */
export async function framesDrawn(page: Page, count = 8): Promise<void> {
	await page.evaluate(async (n) => {
		for (let k = 0; k < n; k++) await new Promise((done) => requestAnimationFrame(done));
	}, count);
}

/** Where places of the paper are in the window as it is seen just now, and how many px a millimetre takes. */
export async function placesNow(page: Page) {
	// The view has come to rest: the same over several frames.
	const view = await page.locator('[role=application]').evaluate(async (surface) => {
		const frame = () => new Promise((done) => requestAnimationFrame(done));
		let last = '';
		for (let same = 0; same < 8;) {
			await frame();
			const now = surface.getAttribute('data-view') ?? '';
			same = now === last ? same + 1 : 0;
			last = now;
		}
		return last;
	});
	const [scale, x, y] = view.split(' ').map(Number);
	const { width, height } = page.viewportSize()!;
	return {
		scale,
		at: (px: number, py: number) => ({ x: width / 2 + (px - x) * scale, y: height / 2 - (py - y) * scale })
	};
}

/** The whole drawing in the window, and where its places are. */
export async function fitAll(page: Page) {
	await page.keyboard.press('h');
	return placesNow(page);
}

/** Places along a saved outline: curves and arcs in so many parts, straights at their ends. */
export function places(o: SavedOutline, curveParts = 16): [number, number][] {
	const out: [number, number][] = [];
	const n = o.anchors.length;
	for (let i = 0; i < (o.closed ? n : n - 1); i++) {
		const a = o.points.slice(7 * i, 7 * i + 7);
		const b = o.points.slice(7 * ((i + 1) % n), 7 * ((i + 1) % n) + 7);
		const type = o.marks[3 * i + 1];
		const parts = type === 0 ? 1 : curveParts;
		for (let k = 0; k < parts; k++) {
			const t = k / parts;
			const s = 1 - t;
			if (type === 2) {
				// About the middle of its circle; the bulge is the tangent of a quarter of its angle.
				const angle = 4 * Math.atan(a[6]);
				const half = (1 - a[6] * a[6]) / (4 * a[6]);
				const [cx, cy] = [(a[0] + b[0]) / 2 - half * (b[1] - a[1]), (a[1] + b[1]) / 2 + half * (b[0] - a[0])];
				const [c, q] = [Math.cos(angle * t), Math.sin(angle * t)];
				const [dx, dy] = [a[0] - cx, a[1] - cy];
				out.push([cx + c * dx - q * dy, cy + q * dx + c * dy]);
				continue;
			}
			const mix = (q: number) =>
				parts === 1
					? a[q]
					: s * s * s * a[q] + 3 * s * s * t * a[4 + q] + 3 * s * t * t * b[2 + q] + t * t * t * b[q];
			out.push([mix(0), mix(1)]);
		}
	}
	if (!o.closed) out.push([o.points[7 * (n - 1)], o.points[7 * (n - 1) + 1]]);
	return out;
}

/** Degrees that a row of places turns per mm. */
export function turningOf(row: readonly [number, number][]): number {
	let sum = 0;
	let length = 0;
	for (let i = 1; i + 1 < row.length; i++) {
		const [ux, uy] = [row[i][0] - row[i - 1][0], row[i][1] - row[i - 1][1]];
		const [vx, vy] = [row[i + 1][0] - row[i][0], row[i + 1][1] - row[i][1]];
		sum += (Math.abs(Math.atan2(ux * vy - uy * vx, ux * vx + uy * vy)) * 180) / Math.PI;
		length += Math.hypot(ux, uy);
	}
	return sum / length;
}

/** Selects an outline on the rack by its name; more than one are added with Shift. */
export async function pick(page: Page, ...names: string[]): Promise<void> {
	await page.locator('[role=application]').focus();
	await page.keyboard.press('r');
	const find = page.locator('[data-act=find-on-rack]');
	for (const [k, name] of names.entries()) {
		// Found by its name, wherever it hangs: holes hang with their pieces.
		await find.fill(name);
		await page
			.getByRole('button', { name: new RegExp(`^${name}, \\d`) })
			.click(k ? { modifiers: ['Shift'] } : {});
	}
	await find.fill('');
	await page.locator('[role=application]').focus();
	await page.keyboard.press('r');
}

/** Runs a command found by its words. */
export async function command(page: Page, words: string): Promise<void> {
	await page.locator('[role=application]').focus();
	await page.keyboard.press('/');
	await page.keyboard.type(words);
	await page.keyboard.press('Enter');
}

export async function drag(
	page: Page,
	from: { x: number; y: number },
	to: { x: number; y: number }
): Promise<void> {
	await page.mouse.move(from.x, from.y);
	await page.mouse.down();
	await page.mouse.move((from.x + to.x) / 2, (from.y + to.y) / 2, { steps: 4 });
	await page.mouse.move(to.x, to.y, { steps: 4 });
	await page.mouse.up();
}

/** Clicks what exports and gives the file's bytes. */
export async function exported(page: Page, act: Locator): Promise<Buffer> {
	const [download] = await Promise.all([page.waitForEvent('download'), act.click()]);
	return readFileSync(await download.path());
}

export async function give(page: Page, name: string, mimeType: string, buffer: Buffer): Promise<void> {
	await page.locator('[data-testid=file-input]').setInputFiles({ name, mimeType, buffer });
}

/** Counts steps done, as saved. */
export async function steps(page: Page): Promise<number> {
	return (await saved(page)).pointer;
}
