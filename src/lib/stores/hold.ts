/**
 * One tab at a time edits a drawing: a lock for each drawing. Others read along; one of them goes on when the lock comes free,
 * or asks for it, and then gets it once everything is written.
 */

/** What a tab hears of the drawing that it has open. */
export interface HoldEars {
	/** Whether this tab may change it from now on. */
	got(mine: boolean): void;
	/** Another tab wrote something. */
	written(): void;
	/** Another tab asks for it. Resolves when all is written: how many steps could not be. */
	giveUp(): Promise<number>;
	/** The tab that has it does not give it: it does not answer, or has so many steps that it cannot write. */
	withheld(unwritten: number | undefined): void;
}

type Message =
	| { readonly what: 'written' }
	| { readonly what: 'asked' }
	| { readonly what: 'kept'; readonly unwritten: number };

/** ms in which a living tab answers. */
const ANSWER_MS = 4000;

export class DrawingHold {
	private readonly channel: BroadcastChannel | undefined;
	private mine = false;
	private isOver = false;
	private letGo: () => void = () => undefined;
	private waiting: ReturnType<typeof setTimeout> | undefined;

	constructor(
		private readonly id: string,
		private readonly ears: HoldEars
	) {
		if (!('locks' in navigator)) {
			ears.got((this.mine = true));
			return;
		}
		this.channel = new BroadcastChannel(`drawing:${id}`);
		this.channel.onmessage = ({ data }: MessageEvent<Message>) => void this.hear(data);
		void this.request({ ifAvailable: true });
	}

	private async request(options: LockOptions): Promise<void> {
		try {
			await navigator.locks.request(`drawing:${this.id}`, options, (lock) => {
				if (this.isOver) return undefined;
				if (!lock) {
					this.ears.got(false);
					// It is this tab's turn once it comes free.
					void this.request({});
					return undefined;
				}
				clearTimeout(this.waiting);
				this.mine = true;
				this.ears.got(true);
				return new Promise<void>((resolve) => (this.letGo = resolve));
			});
		} catch {
			// Another tab has taken it without waiting.
			if (this.isOver) return;
			this.mine = false;
			this.ears.got(false);
			void this.request({});
		}
	}

	private async hear(message: Message): Promise<void> {
		if (message.what === 'written') {
			if (!this.mine) this.ears.written();
		} else if (message.what === 'kept') {
			if (!this.waiting) return;
			this.endWaiting();
			this.ears.withheld(message.unwritten);
		} else if (this.mine) {
			const unwritten = await this.ears.giveUp();
			if (unwritten > 0) {
				this.say({ what: 'kept', unwritten });
				return;
			}
			this.mine = false;
			this.ears.got(false);
			this.letGo();
			void this.request({});
		}
	}
	private endWaiting(): void {
		clearTimeout(this.waiting);
		this.waiting = undefined;
	}

	/** Tells the others that something was written. */
	told(): void {
		this.say({ what: 'written' });
	}
	private say(message: Message): void {
		this.channel?.postMessage(message);
	}

	/** Asks for the drawing; it comes once the tab that has it has written everything. */
	ask(): void {
		if (this.mine) return;
		this.endWaiting();
		this.waiting = setTimeout(() => {
			this.waiting = undefined;
			this.ears.withheld(undefined);
		}, ANSWER_MS);
		this.say({ what: 'asked' });
	}
	/** Takes it without waiting: what the other tab has not written is lost to this one. */
	takeNow(): void {
		void this.request({ steal: true });
	}

	/** Lets the drawing go for good. */
	release(): void {
		this.isOver = true;
		this.endWaiting();
		this.letGo();
		this.channel?.close();
	}
}
