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

export class Scanner {
	private cover: 'closed' | 'open' = 'closed';
	private paper = true;
	private job: { settings: ScanSettings; started: number; lasts: number } | undefined;

	/** @param sheet the SVG of what lies on the glass, in mm. */
	constructor(
		private readonly sheet: () => Promise<string>,
		private readonly clock: () => number = () => performance.now()
	) {}

	get state(): ScannerState {
		const progress = this.job ? Math.min(1, (this.clock() - this.job.started) / this.job.lasts) : 0;
		const state = this.job
			? progress < 1
				? 'scanning'
				: 'done'
			: this.cover === 'open'
				? 'cover-open'
				: this.paper
					? 'ready'
					: 'no-paper';
		return { state, progress, glass: GLASS, resolutions: RESOLUTIONS };
	}

	/** The stand-in's own panel: lifts the cover, takes the paper away. */
	handle(what: { cover?: 'open' | 'closed'; paper?: boolean }): void {
		if (what.cover) this.cover = what.cover;
		if (what.paper !== undefined) this.paper = what.paper;
	}

	/** Begins a scan. */
	start(settings: ScanSettings): Result<ScannerState> {
		const { dpi, area } = settings;
		if (this.state.state === 'scanning')
			return failed('busy', 'The scanner is busy with another sheet. Wait until it is done.');
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
		this.job = { settings, started: this.clock(), lasts };
		return done(this.state);
	}

	/** Gives the scan up. */
	stop(): void {
		this.job = undefined;
	}

	/** The scanned picture as PNG with its resolution. The scanner is ready for the next one then. */
	async take(): Promise<Result<Buffer>> {
		const { job } = this;
		if (!job) return failed('nothing-scanned', 'Nothing has been scanned yet.');
		if (this.state.progress < 1) return failed('busy', 'The scan is not done yet.');
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
		this.job = undefined;
		return done(png);
	}
}

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
