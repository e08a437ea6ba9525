/** A browser with a folder of its own, which can be killed and begun again as it was. */
import { execFileSync } from 'node:child_process';
import { mkdtempSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { chromium, expect, type BrowserContext, type Page } from '@playwright/test';
import { CHROMIUM, CHROMIUM_ARGS } from '../../scripts/chromium.mjs';

export const newFolder = (): string => mkdtempSync(join(tmpdir(), 'profile-'));

export const begin = (folder: string, baseURL: string | undefined): Promise<BrowserContext> =>
	chromium.launchPersistentContext(folder, {
		executablePath: CHROMIUM,
		args: [...CHROMIUM_ARGS, '--remote-debugging-port=0'],
		viewport: { width: 1280, height: 800 },
		baseURL
	});

/** Processes that belong to a browser: those that name its folder, and all that they began. */
function processesOf(folder: string): number[] {
	const rows = execFileSync('ps', ['-eo', 'pid=,ppid=,args='], { encoding: 'utf8' })
		.split('\n')
		.map((line) => /^\s*(\d+)\s+(\d+)\s+(.*)$/.exec(line))
		.flatMap((found) => (found ? [{ pid: Number(found[1]), parent: Number(found[2]), args: found[3] }] : []));
	const own = new Set(rows.filter((r) => r.args.includes(folder)).map((r) => r.pid));
	for (let grown = true; grown;) {
		const more = rows.filter((r) => own.has(r.parent) && !own.has(r.pid));
		for (const { pid } of more) own.add(pid);
		grown = more.length > 0;
	}
	return [...own];
}

const isAlive = (pid: number): boolean => {
	try {
		process.kill(pid, 0);
		return true;
	} catch {
		return false;
	}
};

/** Ends all its processes at once, as a power cut does, and waits until none is left: two browsers in one folder harm it. */
export async function kill(folder: string, context: BrowserContext): Promise<void> {
	const all = processesOf(folder);
	for (const pid of all) {
		try {
			process.kill(pid, 'SIGKILL');
		} catch {
			// It has ended by itself.
		}
	}
	await context.close().catch(() => undefined);
	await expect.poll(() => all.filter(isAlive).length).toBe(0);
}

/** The whole browser, the tab alone, or its workers end in the middle of their work; what is there then, with a new tab. */
export async function struck(
	victim: number,
	folder: string,
	context: BrowserContext,
	page: Page,
	baseURL: string | undefined
): Promise<{ context: BrowserContext; page: Page }> {
	if (victim < 0.34) {
		await kill(folder, context);
		const again = await begin(folder, baseURL);
		return { context: again, page: await again.newPage() };
	}
	const next = await context.newPage();
	if (victim < 0.67) {
		const client = await context.newCDPSession(page);
		const died = page.waitForEvent('crash');
		void client.send('Page.crash').catch(() => undefined);
		await died;
		await page.close();
	} else {
		// Its workers are ended while they may be at work; then the page is left as it is.
		for (const worker of page.workers())
			await worker
				.evaluate(() => (globalThis as unknown as { close(): void }).close())
				.catch(() => undefined);
		await page.close({ runBeforeUnload: false });
	}
	return { context, page: next };
}
