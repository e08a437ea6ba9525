/** The scanner that the server knows: settings, progress, and the sheet when it is done. */
import type { Problem } from '../../core/errors';
import type { ScannerState } from '../../workers/scanner.protocol';
import { newId } from '../ids';

export class ScanJob {
	dpi = $state(200);
	colour = $state(false);
	/** mm on the glass. */
	width = $state(297);
	height = $state(210);
	state = $state.raw<ScannerState | undefined>();
	problem = $state.raw<Problem | undefined>();
	running = $state(false);
	/** By which the server tells this page's scans from others'. */
	private readonly session = newId();

	constructor() {
		void this.ask('GET');
	}

	private async ask(method: 'GET' | 'POST' | 'DELETE', body?: unknown): Promise<boolean> {
		try {
			const response = await fetch('/api/scanner', {
				method,
				headers: { 'x-session': this.session, ...(body ? { 'content-type': 'application/json' } : {}) },
				...(body ? { body: JSON.stringify(body) } : {})
			});
			const answer = (await response.json()) as ScannerState & { problem?: Problem };
			this.problem = answer.problem;
			if (!answer.problem) this.state = answer;
			return !answer.problem;
		} catch {
			this.problem = { code: 'no-scanner', sentence: 'The scanner does not answer.' };
			return false;
		}
	}

	/** Scans; the picture, or nothing where it was stopped or refused. */
	async scan(): Promise<File | undefined> {
		const area = { x: 0, y: 0, w: this.width, h: this.height };
		if (!(await this.ask('POST', { dpi: this.dpi, colour: this.colour, area }))) return undefined;
		this.running = true;
		while (this.running && this.state?.state === 'scanning') {
			await new Promise((resolve) => setTimeout(resolve, 150));
			if (this.running && !(await this.ask('GET'))) this.running = false;
		}
		if (!this.running) return undefined;
		this.running = false;
		const response = await fetch('/api/scanner/job', { headers: { 'x-session': this.session } });
		if (!response.ok) {
			this.problem = ((await response.json()) as { problem: Problem }).problem;
			return undefined;
		}
		const bytes = await response.arrayBuffer();
		return new File([bytes], `scan at ${this.dpi} dpi.png`, { type: 'image/png' });
	}

	stop(): void {
		this.running = false;
		void this.ask('DELETE');
	}
}
