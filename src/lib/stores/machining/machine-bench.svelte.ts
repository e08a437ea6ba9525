/** The machine's own bench: a job on it, sent line by line; how the machine stands and what it says; what it cut, compared. */
import type { Job } from '../../core/document/job';
import type { Path } from '../../core/geometry/path';
import { Driver, messagesOf, type Standing } from '../../core/machine/driver';
import { movesFromPlain, type PlainMoves } from '../../core/machine/stand-in';
import type { CutCompared } from '../../core/toolpath/judge';
import type { Toolpath } from '../../core/toolpath/moves';
import type { Plan } from '../../core/toolpath/plan';
import { reachOf } from '../../core/toolpath/settings';
import { behind } from '../../workers/geometry.client';
import { newId } from '../ids';
import { movesOf, type MachineFile } from './machine-file';

/** ms between two looks at the machine, and before a message is said again. */
const LOOK_MS = 200;
const AGAIN_MS = 400;
const FULL_MS = 80;

const after = (ms: number) => new Promise<void>((resolve) => setTimeout(resolve, ms));

export interface OnSheet {
	readonly width: number;
	readonly height: number;
	/** The lines of the first job, on the sheet. */
	readonly lines: readonly Path[];
}

export class MachineBench {
	standing = $state.raw<Standing | undefined>();
	/** A job is being sent. */
	sending = $state(false);
	/** What happened to the job, in one sentence. */
	told = $state('');
	/** The connection does not answer just now. */
	dropped = $state(false);
	compared = $state.raw<CutCompared | undefined>();
	/** Where it went. */
	trail = $state.raw<Toolpath | undefined>();
	/** Percent of the feeds; so many times as fast as in reality, 0 as fast as it goes. */
	pace = $state(100);
	hurry = $state(20);
	readonly messages: readonly string[];
	readonly told0: Toolpath;
	private readonly token = newId();
	private readonly driver: Driver;
	private looking = true;
	/** The cable is pulled out, to see what happens. */
	unplugged = $state(false);

	constructor(
		readonly file: MachineFile,
		readonly plans: readonly { readonly job: Job; readonly plan: Plan }[],
		readonly sheet: OnSheet
	) {
		this.messages = messagesOf(file.text, file.language);
		this.told0 = movesOf(file);
		this.driver = new Driver((message) => this.carry(message), {
			pause: (reason) => {
				this.dropped = reason === 'dropped';
				return after({ dropped: AGAIN_MS, full: FULL_MS, waits: LOOK_MS }[reason]);
			},
			tell: (standing) => this.stands(standing)
		});
		void this.look();
	}

	get name(): string {
		return this.plans[0].job.machine.name;
	}
	get isOurs(): boolean {
		return this.standing?.yours === true;
	}

	private async carry(message: string): Promise<string> {
		if (this.unplugged) throw new Error('The cable is out.');
		const answer = await fetch(`/api/machine/${this.file.language}`, {
			method: 'POST',
			body: message,
			headers: { 'x-driver': this.token, 'content-type': 'text/plain' },
			// The last word is said even while the page is left.
			keepalive: !this.looking
		});
		if (!answer.ok) throw new Error('The machine does not answer.');
		this.dropped = false;
		return answer.text();
	}

	private stands(standing: Standing): void {
		this.standing = standing;
	}

	/** Looks at the machine again and again, as long as its bench is open. */
	private async look(): Promise<void> {
		while (this.looking) {
			try {
				const answer = await this.carry('where');
				this.stands(JSON.parse(answer.slice(3)) as Standing);
				if (this.sending || this.trail) await this.fetchTrail();
			} catch {
				this.dropped = true;
			}
			await after(LOOK_MS);
		}
	}
	private async fetchTrail(): Promise<void> {
		const answer = await this.carry('trail');
		if (answer.startsWith('trail ')) this.trail = movesFromPlain(JSON.parse(answer.slice(6)) as PlainMoves);
	}

	/** Sends the job from its beginning to its end. */
	async begin(): Promise<void> {
		if (this.sending) return;
		this.sending = true;
		this.told = '';
		this.compared = undefined;
		this.trail = undefined;
		try {
			const began = await this.driver.begin('this bench');
			if (!began.ok) {
				this.told = began.why;
				return;
			}
			await this.setHurry(this.hurry);
			await this.setPace(this.pace);
			const sent = await this.driver.send(this.messages);
			this.told = sent.ok ? 'The job is done.' : sent.why;
			await this.fetchTrail();
			await this.compare();
		} catch (error) {
			this.told = `The job broke off: ${(error as Error).message}`;
		} finally {
			this.sending = false;
		}
	}

	private async compare(): Promise<void> {
		if (!this.trail) return;
		const [only] = this.plans;
		const { job } = only;
		const drawn =
			this.plans.length === 1 && job.tool.tool.kind !== 'knife' && job.how.relief === undefined
				? { lines: [...this.sheet.lines], side: job.side, reach: reachOf(job.tool.tool) }
				: undefined;
		const answer = await behind.run('cutCompared', [
			this.trail,
			this.told0,
			drawn,
			job.tool.tool.kind === 'cutter'
		]).answer;
		if (answer.ok === true) this.compared = answer.value;
	}

	say(word: 'hold' | 'on' | 'stop' | 'home'): void {
		void this.driver.say(word);
	}
	/** Whoever presses "home" need not have sent a job. */
	async goHome(): Promise<void> {
		await this.driver.say('hello this bench');
		await this.driver.say('home');
	}
	async setPace(percent: number): Promise<void> {
		this.pace = percent;
		await this.driver.say(`slow ${percent}`);
	}
	async setHurry(times: number): Promise<void> {
		this.hurry = times;
		await this.driver.say(times > 0 ? `hurry ${times}` : 'hurry at-once');
	}
	/** What whoever stands beside the machine does. */
	beside(what: 'cover open' | 'cover close' | 'power off' | 'power on'): void {
		void this.driver.say(what);
	}

	/** The bench is left; a job that runs goes on as far as the machine has its lines. */
	leave(): void {
		this.looking = false;
		if (this.sending) void this.driver.say('stop');
		else void this.driver.say('bye');
	}
}
