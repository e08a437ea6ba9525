/** What is said to the person: one sentence at a time in one place, and what is offered with it. */
import type { Problem } from '../core/errors';

export interface Notice {
	readonly id: number;
	readonly sentence: string;
	readonly tone: 'told' | 'trouble';
	/** What is offered with it. */
	readonly act?: { readonly word: string; readonly run: () => void };
}

/** How long a sentence stands, ms: what is offered or goes wrong stays longer. */
const STAYS_MS = 5000;
const STAYS_LONG_MS = 12_000;
export class Telling {
	/** What stands there now. */
	now = $state.raw<Notice | undefined>();
	/** What gave way to something newer and comes back when that is gone: offers and trouble. */
	private waiting: { readonly notice: Notice; readonly until: number }[] = [];
	private timer: ReturnType<typeof setTimeout> | undefined;
	private count = 0;
	/** What is said in one go, before anything else happens, belongs together and is said as one. */
	private isSaying = false;

	tell(sentence: string, tone: Notice['tone'] = 'told', act?: Notice['act']): void {
		const at = performance.now();
		const was = this.now;
		const together = was && !was.act && !act && this.isSaying;
		this.isSaying = true;
		queueMicrotask(() => (this.isSaying = false));
		if (was && !together && (was.act || was.tone === 'trouble'))
			this.waiting = [...this.waiting, { notice: was, until: at + STAYS_LONG_MS }].slice(-3);
		this.show(
			together
				? {
						id: was.id,
						sentence: `${was.sentence} ${sentence}`,
						tone: was.tone === 'trouble' ? 'trouble' : tone
					}
				: { id: ++this.count, sentence, tone, ...(act ? { act } : {}) }
		);
	}
	trouble(problem: Problem): void {
		this.tell(problem.sentence, 'trouble');
	}
	/** The sentence goes; what it hid comes back, where it still stands. */
	dismiss(id: number): void {
		this.waiting = this.waiting.filter((w) => w.notice.id !== id);
		if (this.now?.id !== id) return;
		const back = this.waiting.filter((w) => w.until > performance.now()).pop();
		this.waiting = this.waiting.filter((w) => w !== back);
		if (back) this.show(back.notice);
		else this.now = undefined;
	}
	/** Whether something is offered just now. */
	offers(word: string): boolean {
		return this.now?.act?.word === word || this.waiting.some((w) => w.notice.act?.word === word);
	}

	private show(notice: Notice): void {
		clearTimeout(this.timer);
		this.now = notice;
		const stays = notice.act || notice.tone === 'trouble' ? STAYS_LONG_MS : STAYS_MS;
		this.timer = setTimeout(() => this.dismiss(notice.id), stays);
	}
}
