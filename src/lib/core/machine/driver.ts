/**
 * Sends a job to a machine line by line, by the protocol of docs/machine.md. Lines have numbers, so that a message that is said twice is
 * done once; after a dropped connection it asks what was taken and goes on behind it.
 */

/** Brings a message to the machine and its answer back. It throws where the connection drops. */
export type Carry = (message: string) => Promise<string>;

/** How the machine stands. */
export interface Standing {
	readonly state: 'resting' | 'working' | 'holding' | 'halted' | 'open' | 'dark' | 'homing';
	readonly x: number;
	readonly y: number;
	readonly z: number;
	/** The last line that it took, and the last that is done. */
	readonly taken: number;
	readonly done: number;
	readonly room: number;
	/** Percent of the feeds. */
	readonly pace: number;
	readonly yours: boolean;
	readonly driver?: string;
	/** It lost power and does not know where it is. */
	readonly lost: boolean;
	readonly says: readonly string[];
}

/** What a sent job ended with. */
export type Sent =
	| { readonly ok: true }
	| { readonly ok: false; readonly why: string; readonly kind: 'refused' | 'halted' | 'taken' | 'dark' };

export interface DriverOptions {
	/** Waits until it makes sense to ask again. */
	readonly pause: (reason: 'full' | 'dropped' | 'waits') => Promise<void>;
	/** Told how it stands from time to time. */
	readonly tell?: (standing: Standing) => void;
}

/** Parts a file into what is sent as one message: lines of G-code, commands of HP-GL. */
export const messagesOf = (text: string, language: 'gcode' | 'hpgl'): string[] =>
	language === 'gcode'
		? text.split('\n').filter((line) => line.trim() !== '')
		: text
				.replace(/\s+/g, '')
				.split(';')
				.filter(Boolean)
				.map((command) => `${command};`);

export class Driver {
	constructor(
		private readonly carry: Carry,
		private readonly options: DriverOptions
	) {}

	/** Says a word until an answer comes back. Only for words that may be said twice. */
	async say(message: string): Promise<string> {
		for (;;) {
			try {
				return await this.carry(message);
			} catch {
				await this.options.pause('dropped');
			}
		}
	}

	async standing(): Promise<Standing> {
		const answer = await this.say('where');
		const standing = JSON.parse(answer.replace(/^at /, '')) as Standing;
		this.options.tell?.(standing);
		return standing;
	}

	/** Takes the machine and begins a new job. */
	async begin(name: string): Promise<Sent> {
		const hello = await this.say(`hello ${name}`);
		if (hello.startsWith('taken'))
			return { ok: false, kind: 'taken', why: `${hello.slice(6)} has the machine in hand just now.` };
		if (hello.startsWith('dark')) return { ok: false, kind: 'dark', why: 'The machine has no power.' };
		const began = await this.say('new');
		if (began.startsWith('ok')) return { ok: true };
		return { ok: false, kind: 'halted', why: `The machine says: ${began.replace(/^\w+ /, '')}.` };
	}

	/** Sends all messages of a job, and waits until the last is done. */
	async send(messages: readonly string[]): Promise<Sent> {
		let next = 1;
		while (next <= messages.length) {
			const answer = await this.say(`line ${next} ${messages[next - 1]}`);
			const [word, number] = answer.split(' ');
			if (word === 'ok') next++;
			else if (word === 'again') next = Number(number);
			else if (word === 'wait') {
				await this.standing();
				await this.options.pause('full');
			} else return ended(word, answer);
		}
		return this.finish(messages.length);
	}

	private async finish(last: number): Promise<Sent> {
		for (;;) {
			const standing = await this.standing();
			if (standing.done >= last) return { ok: true };
			if (standing.state === 'halted' || standing.state === 'dark') return ended(standing.state, '');
			await this.options.pause('waits');
		}
	}
}

function ended(word: string, answer: string): Sent {
	const rest = answer.replace(/^\w+ /, '');
	if (word === 'refused')
		return { ok: false, kind: 'refused', why: `The machine refuses line ${rest.replace(' ', ': ')}.` };
	if (word === 'taken') return { ok: false, kind: 'taken', why: `${rest} has the machine in hand just now.` };
	if (word === 'dark' || word === 'nobody')
		return { ok: false, kind: 'dark', why: 'The machine lost its power: the job broke off.' };
	return { ok: false, kind: 'halted', why: 'The machine was stopped: the job broke off.' };
}
