/** What is said to the person, one sentence at a time, and what is offered with it. */
import type { Problem } from '../core/errors';

export interface Notice {
	readonly id: number;
	readonly sentence: string;
	readonly tone: 'told' | 'trouble';
	/** What is offered with it. */
	readonly act?: { readonly word: string; readonly run: () => void };
}

/** How many stand at once, and how long, ms: what is offered or goes wrong stays longer. */
const MOST = 4;
const STAYS_MS = 5000;
const STAYS_LONG_MS = 12_000;

export class Telling {
	notices = $state.raw<readonly Notice[]>([]);
	private count = 0;

	tell(sentence: string, tone: Notice['tone'] = 'told', act?: Notice['act']): void {
		const notice = { id: ++this.count, sentence, tone, ...(act ? { act } : {}) };
		this.notices = [...this.notices.slice(1 - MOST), notice];
		setTimeout(() => this.dismiss(notice.id), act || tone === 'trouble' ? STAYS_LONG_MS : STAYS_MS);
	}
	trouble(problem: Problem): void {
		this.tell(problem.sentence, 'trouble');
	}
	dismiss(id: number): void {
		this.notices = this.notices.filter((n) => n.id !== id);
	}
	/** Whether something is offered just now. */
	offers(word: string): boolean {
		return this.notices.some((n) => n.act?.word === word);
	}
}
