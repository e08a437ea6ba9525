/**
 * A stand-in for a flatbed scanner: it takes its time, is busy while it scans, and refuses with an open cover or without
 * paper. On its glass lies the demo's sheet of fox parts.
 */
import { readFile } from 'node:fs/promises';
import sharp from 'sharp';
import { failed, done, type Result } from '../core/errors';
import type { ScannerState, ScanSettings } from '../workers/scanner.protocol';

const GLASS = { w: 297, h: 210 };
const RESOLUTIONS = [75, 150, 200, 300, 600];
/** Milliseconds for a whole sheet at 75 dpi; finer ones take in proportion. */
const SHEET_MS = 700;

/** ms after which a picture that nobody fetches is thrown away. */
const KEPT_MS = 600_000;

interface Job {
	readonly settings: ScanSettings;
	readonly started: number;
	readonly lasts: number;
}

export class Scanner {
	private cover: 'closed' | 'open' = 'closed';
	private paper = true;
	/** Each one's scan by who asked for it: one sheet is scanned at a time, what is done waits for whom it belongs to. */
	private readonly jobs = new Map<string, Job>();

	/** @param sheet the SVG of what lies on the glass, in mm. */
	constructor(
		private readonly sheet: () => Promise<string>,
		private readonly clock: () => number = () => performance.now()
	) {}

	private progress({ started, lasts }: Job): number {
		return Math.min(1, (this.clock() - started) / lasts);
	}
	/** The scan that is going on, whoever's. */
	private get going(): Job | undefined {
		return [...this.jobs.values()].find((job) => this.progress(job) < 1);
	}
	/** What nobody has fetched for long goes. */
	private throwAway(): void {
		for (const [who, { started, lasts }] of this.jobs)
			if (this.clock() - started > lasts + KEPT_MS) this.jobs.delete(who);
	}

	/** As it stands for one of those who use it: others' pictures are none of his. */
	stateFor(who: string): ScannerState {
		this.throwAway();
		const job = this.jobs.get(who) ?? this.going;
		const progress = job ? this.progress(job) : 0;
		const rests = this.cover === 'open' ? 'cover-open' : this.paper ? 'ready' : 'no-paper';
		const state = job ? (progress < 1 ? 'scanning' : 'done') : rests;
		return { state, progress, glass: GLASS, resolutions: RESOLUTIONS };
	}

	/** The stand-in's own panel: lifts the cover, takes the paper away. */
	handle(what: { cover?: 'open' | 'closed'; paper?: boolean }): void {
		if (what.cover) this.cover = what.cover;
		if (what.paper !== undefined) this.paper = what.paper;
	}

	/** Begins a scan. */
	start(settings: ScanSettings, who: string): Result<ScannerState> {
		const { dpi, area } = settings;
		if (this.going) return failed('busy', 'The scanner is busy with another sheet. Wait until it is done.');
		if (this.cover === 'open') return failed('cover-open', 'The cover of the scanner is open. Close it.');
		if (!this.paper) return failed('no-paper', 'There is no paper on the glass. Lay a sheet on it.');
		if (!RESOLUTIONS.includes(dpi))
			return failed('bad-resolution', `This scanner knows ${RESOLUTIONS.join(', ')} dpi.`);
		const fits =
			area.x >= 0 &&
			area.y >= 0 &&
			area.w > 1 &&
			area.h > 1 &&
			area.x + area.w <= GLASS.w &&
			area.y + area.h <= GLASS.h;
		if (!fits) return failed('bad-area', `The area must lie on the glass, ${GLASS.w} × ${GLASS.h} mm.`);
		const lasts = SHEET_MS * (dpi / 75) * (area.h / GLASS.h);
		this.jobs.set(who, { settings, started: this.clock(), lasts });
		return done(this.stateFor(who));
	}

	/** Gives the own scan up. */
	stop(who: string): void {
		this.jobs.delete(who);
	}

	/** The scanned picture as PNG with its resolution. The scanner is ready for the next one then. */
	async take(who: string): Promise<Result<Buffer>> {
		const job = this.jobs.get(who);
		if (!job) return failed('nothing-scanned', 'Nothing has been scanned yet.');
		if (this.progress(job) < 1) return failed('busy', 'The scan is not done yet.');
		const { dpi, colour, area } = job.settings;
		const scale = dpi / 25.4;
		const width = Math.round(GLASS.w * scale);
		const height = Math.round(GLASS.h * scale);
		let picture = sharp(Buffer.from(await this.sheet()), { density: dpi })
			.resize(width, height, { fit: 'fill' })
			.flatten({ background: colour ? '#f5f2e9' : '#f4f4f4' })
			.extract({
				left: Math.round(area.x * scale),
				top: Math.round(area.y * scale),
				width: Math.min(width - Math.round(area.x * scale), Math.round(area.w * scale)),
				height: Math.min(height - Math.round(area.y * scale), Math.round(area.h * scale))
			});
		if (!colour) picture = picture.greyscale();
		const png = await picture.withMetadata({ density: dpi }).png().toBuffer();
		this.jobs.delete(who);
		return done(png);
	}
}

/** Who asks: each page has a word of its own. */
export const whose = (request: Request): string => request.headers.get('x-session')?.slice(0, 64) ?? '';

/** The one scanner of this server. */
export const scanner = new Scanner(async () => {
	for (const place of ['build/client/demo/fox-parts.svg', 'static/demo/fox-parts.svg']) {
		try {
			return await readFile(place, 'utf8');
		} catch {
			continue;
		}
	}
	throw new Error('The sheet of the demo is missing.');
});
