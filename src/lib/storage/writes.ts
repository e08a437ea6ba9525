/** What is to be written of a drawing, in order: nothing is skipped, and what is refused waits for its turn. */

/** Why a write does not go through. */
export type Refusal =
	/** There is no room; it waits until there is. */
	| 'full'
	/** The storage did not take it just now; it is tried again. */
	| 'refused'
	/** The drawing is no longer there. */
	| 'gone'
	/** Another tab has gone on with it. */
	| 'overtaken';

/** A write that can never go through as it is. */
export class StorageConflict extends Error {
	constructor(readonly reason: 'gone' | 'overtaken') {
		super(reason === 'gone' ? 'The drawing is no longer stored.' : 'Another tab has gone on with it.');
	}
}

export function refusalOf(error: unknown): Refusal {
	if (error instanceof StorageConflict) return error.reason;
	return error instanceof DOMException && error.name === 'QuotaExceededError' ? 'full' : 'refused';
}

/** Writes on from a revision of the drawing; gives the one that it made. @throws StorageConflict */
export type Write = (revision: number) => Promise<number>;

export interface QueueEars {
	/** How many are still to be written. */
	waiting(count: number): void;
	/** One was committed, which made this revision. */
	written(revision: number): void;
	/** One was refused; it stays first, and after 'gone' and 'overtaken' nothing more is tried. */
	refused(refusal: Refusal, error: unknown): void;
}

/** ms until what was refused is tried again. */
const RETRY_MS = 2000;

export class WriteQueue {
	private readonly list: Write[] = [];
	private running: Promise<void> | undefined;
	private timer: ReturnType<typeof setTimeout> | undefined;
	private stopped = false;

	constructor(
		private revision: number,
		private readonly ears: QueueEars,
		private readonly retryMs = RETRY_MS
	) {}

	get length(): number {
		return this.list.length;
	}
	/** Adds a write, and tries what waits. */
	add(write: Write): void {
		this.list.push(write);
		this.ears.waiting(this.list.length);
		this.retry();
	}
	/** Tries what waits, if anything does. */
	retry(): void {
		clearTimeout(this.timer);
		if (this.stopped) return;
		this.running ??= this.run().finally(() => (this.running = undefined));
	}
	private async run(): Promise<void> {
		while (this.list.length && !this.stopped) {
			try {
				this.revision = await this.list[0](this.revision);
			} catch (error) {
				const refusal = refusalOf(error);
				if (refusal === 'gone' || refusal === 'overtaken') this.stopped = true;
				else this.timer = setTimeout(() => this.retry(), this.retryMs);
				this.ears.refused(refusal, error);
				return;
			}
			this.list.shift();
			this.ears.written(this.revision);
			this.ears.waiting(this.list.length);
		}
	}
	/** Resolves when what could be written is; true where nothing is left. */
	async settled(): Promise<boolean> {
		await this.running;
		return this.list.length === 0;
	}
	/** Goes on from another state of the drawing; what waits is dropped. */
	reset(revision: number): void {
		clearTimeout(this.timer);
		this.list.length = 0;
		this.revision = revision;
		this.stopped = false;
		this.ears.waiting(0);
	}
}
