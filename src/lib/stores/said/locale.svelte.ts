/** How numbers, dates and paper are written: as the browser's own language and region say, or as the person wishes. */
import { useDecimalMark, useInchParts, type InchParts } from '../../core/units';

export type PaperWish = 'A4' | 'Letter';

const KEY = 'said-as';
/** Regions that print on letter paper (common practice). */
const LETTER_REGIONS = new Set([
	'US',
	'CA',
	'MX',
	'CL',
	'CO',
	'PH',
	'VE',
	'GT',
	'CR',
	'PA',
	'DO',
	'SV',
	'NI'
]);

interface Wish {
	/** A language and region, as in "de-AT"; the browser's where nothing is said. */
	readonly tag?: string;
	readonly comma?: boolean;
	readonly paper?: PaperWish;
	/** How fine fractions of an inch are written; sixty-fourths where nothing is said. */
	readonly inchParts?: InchParts;
}

class Locale {
	private wish = $state.raw<Wish>(read());

	/** The language and region by which dates and numbers are written. */
	get tag(): string {
		return this.wish.tag ?? (typeof navigator === 'undefined' ? 'en-GB' : navigator.language);
	}
	/** Whether a comma parts whole and tenth. */
	get comma(): boolean {
		return this.wish.comma ?? writesComma(this.tag);
	}
	get inchParts(): InchParts {
		return this.wish.inchParts ?? 64;
	}
	get paper(): PaperWish {
		const region = new Intl.Locale(this.tag).maximize().region ?? '';
		return this.wish.paper ?? (LETTER_REGIONS.has(region) ? 'Letter' : 'A4');
	}
	/** What the person wishes; what is undefined goes by the browser again. */
	set(said: { [K in keyof Wish]?: Wish[K] | undefined }): void {
		const next = { ...this.wish, ...said };
		this.wish = Object.fromEntries(Object.entries(next).filter(([, v]) => v !== undefined)) as Wish;
		localStorage.setItem(KEY, JSON.stringify(this.wish));
	}
	/** As the browser says, for whoever shows what is chosen. */
	get wished(): Wish {
		return this.wish;
	}
}

function read(): Wish {
	try {
		return JSON.parse(localStorage.getItem(KEY) ?? '{}') as Wish;
	} catch {
		return {};
	}
}

const commas = new Map<string, boolean>();
/** Asked once for each language: the first answer of the browser takes long, and it is needed for every number. */
function writesComma(tag: string): boolean {
	const before = commas.get(tag);
	if (before !== undefined) return before;
	const does = new Intl.NumberFormat(tag).format(1.5).includes(',');
	commas.set(tag, does);
	return does;
}

export const locale = new Locale();
useDecimalMark(() => (locale.comma ? ',' : '.'));
useInchParts(() => locale.inchParts);
