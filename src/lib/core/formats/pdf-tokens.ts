/** What a page's content is made of: numbers, names, lists, texts and commands. ISO 32000-1, 7.2 and 7.8.2. */

export type PdfToken =
	| number
	| number[]
	| { readonly kind: 'name' | 'command'; readonly word: string }
	| { readonly kind: 'other' };

const OTHER: PdfToken = { kind: 'other' };
const WHITE = new Set([0, 9, 10, 12, 13, 32]);
const DELIMITERS = new Set([...'()<>[]{}/%'].map((c) => c.charCodeAt(0)));
const code = (c: string) => c.charCodeAt(0);
const isPlain = (c: number) => !WHITE.has(c) && !DELIMITERS.has(c);

/** The tokens of a content stream, in their order. What is not understood is left out; never throws. */
export function* pdfTokens(bytes: Uint8Array): Generator<PdfToken> {
	let at = 0;
	/** The list that is open, or none. */
	let list: number[] | undefined;
	while (at < bytes.length) {
		const c = bytes[at];
		if (WHITE.has(c)) at++;
		else if (c === code('%')) while (at < bytes.length && bytes[at] !== 10 && bytes[at] !== 13) at++;
		else if (c === code('(')) {
			at = afterText(bytes, at);
			if (!list) yield OTHER;
		} else if (c === code('[')) {
			list = [];
			at++;
		} else if (c === code(']')) {
			if (list) yield list;
			list = undefined;
			at++;
		} else if (c === code('<') && bytes[at + 1] !== code('<')) {
			while (at < bytes.length && bytes[at] !== code('>')) at++;
			at++;
			if (!list) yield OTHER;
		} else if (c === code('/')) {
			const from = ++at;
			while (at < bytes.length && isPlain(bytes[at])) at++;
			if (!list) yield { kind: 'name', word: unescaped(latin(bytes, from, at)) };
		} else if (!isPlain(c)) at++;
		else {
			const from = at;
			while (at < bytes.length && isPlain(bytes[at])) at++;
			const word = latin(bytes, from, at);
			const number = /^[+-]?(\d+\.?\d*|\.\d+)/.exec(word);
			if (number) {
				const value = Number(number[0]);
				if (list) list.push(value);
				else yield value;
			} else if (word === 'ID') {
				at = afterPicture(bytes, at);
				yield { kind: 'command', word: 'EI' };
			} else if (!list) yield { kind: 'command', word };
		}
	}
}

const latin = (bytes: Uint8Array, from: number, to: number) =>
	String.fromCharCode(...bytes.subarray(from, to));
const unescaped = (name: string) =>
	name.replace(/#([0-9a-f]{2})/gi, (_, hex: string) => String.fromCharCode(parseInt(hex, 16)));

/** Behind a text in brackets, which may hold brackets of its own. */
function afterText(bytes: Uint8Array, from: number): number {
	let depth = 0;
	for (let at = from; at < bytes.length; at++) {
		const c = bytes[at];
		if (c === code('\\')) at++;
		else if (c === code('(')) depth++;
		else if (c === code(')') && --depth === 0) return at + 1;
	}
	return bytes.length;
}

/** Behind the bytes of a picture that stands in the content: after EI between white. */
function afterPicture(bytes: Uint8Array, from: number): number {
	for (let at = from + 1; at + 2 < bytes.length; at++)
		if (
			WHITE.has(bytes[at]) &&
			bytes[at + 1] === code('E') &&
			bytes[at + 2] === code('I') &&
			(at + 3 >= bytes.length || WHITE.has(bytes[at + 3]))
		)
			return at + 3;
	return bytes.length;
}
