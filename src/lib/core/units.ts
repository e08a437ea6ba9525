/** Typed lengths and angles: units after a number, fractions, sums; and numbers written for people. */
import { done, failed, type Result } from './errors';
import type { LengthUnit } from './document/drawing';
import { LIMIT } from './tolerance';

/** mm per unit. */
export const MM_PER: Readonly<Record<LengthUnit, number>> = {
	mm: 1,
	cm: 10,
	in: 25.4,
	'in/64': 25.4,
	ft: 304.8
};

/** The unit as it stands behind a number: inches in fractions are inches. */
export const unitWord = (unit: LengthUnit): string => (unit === 'in/64' ? 'in' : unit);

/** mm for each word of a unit. */
export const MM_PER_WORD: Readonly<Record<string, number>> = {
	mm: 1,
	cm: 10,
	m: 1000,
	in: 25.4,
	inch: 25.4,
	inches: 25.4,
	'"': 25.4,
	'″': 25.4,
	'”': 25.4,
	ft: 304.8,
	foot: 304.8,
	feet: 304.8,
	"'": 304.8,
	'′': 304.8,
	'’': 304.8,
	pt: 25.4 / 72
};

interface Value {
	amount: number;
	/** 1 for a length in mm, 0 for a bare number. */
	power: number;
	/** A mixed number may still follow: 5 3/8. */
	whole: boolean;
}

class Reader {
	private at = 0;
	constructor(private readonly text: string) {}
	private passBlanks(): void {
		while (this.at < this.text.length && /\s/.test(this.text[this.at])) this.at++;
	}
	peek(): string {
		this.passBlanks();
		return this.text[this.at] ?? '';
	}
	take(pattern: RegExp): string | undefined {
		this.passBlanks();
		const sticky = new RegExp(pattern.source, 'y' + (pattern.ignoreCase ? 'i' : ''));
		sticky.lastIndex = this.at;
		const found = sticky.exec(this.text);
		if (!found) return undefined;
		this.at += found[0].length;
		return found[0];
	}
	/** The same, where it stands without a blank before it. */
	takeAtOnce(pattern: RegExp): string | undefined {
		return /\s/.test(this.text[this.at] ?? '') ? undefined : this.take(pattern);
	}
	get atEnd(): boolean {
		this.passBlanks();
		return this.at >= this.text.length;
	}
}

class Bad extends Error {}

/**
 * A typed length in mm: `12`, `12,5 mm`, `5 3/8 in`, `5-3/8"`, `5½ in`, `3' 4"`, `1 000`, `1,234.5`, `2 x 15 + 3 cm`. A bare number is in `unit`.
 * @returns `not-a-length`, `in-doubt` for `1,234`, `too-far` for what is beyond 10 m.
 */
export function parseLength(text: string, unit: LengthUnit): Result<number> {
	try {
		const reader = new Reader(text);
		const value = sum(reader, unit);
		if (!reader.atEnd) throw new Bad(`"${reader.peek()}" is not understood here`);
		const mm = value.power === 0 ? value.amount * MM_PER[unit] : value.amount;
		if (value.power > 1) throw new Bad('that is an area, not a length');
		if (!Number.isFinite(mm)) throw new Bad('that is not a number');
		if (Math.abs(mm) > LIMIT.drawing)
			return failed('too-far', `${formatLength(mm, 'mm')} is more than 10 m. Is the unit right?`);
		return done(mm);
	} catch (error) {
		if (error instanceof InDoubt) {
			const [whole, rest] = error.message.split(/[.,]/);
			const mark = decimalMark();
			return failed(
				'in-doubt',
				`Is that ${whole}${mark}${rest} or ${whole} ${rest}? Type it with a ${mark === ',' ? 'comma' : 'point'}, or with a blank for the thousands.`
			);
		}
		if (error instanceof Bad) {
			return failed(
				'not-a-length',
				`This is no length: ${error.message}. Type for example 12.5, 3/8 in or 2*15+3.`
			);
		}
		throw error;
	}
}

/** A typed plain number or sum, such as an angle in degrees. */
export function parseNumber(text: string): Result<number> {
	const read = parseLength(text.replace(/°/g, ''), 'mm');
	if (read.ok) return read;
	return failed(read.problem.code, read.problem.sentence.replace('no length', 'no number'));
}

function sum(reader: Reader, unit: LengthUnit): Value {
	let left = product(reader, unit);
	for (;;) {
		const op = reader.take(/[+\-−]/);
		if (!op) return left;
		const right = product(reader, unit);
		const a = toLength(left, unit, right.power);
		const b = toLength(right, unit, left.power);
		if (a.power !== b.power) throw new Bad('lengths and areas do not add up');
		left = { amount: op === '+' ? a.amount + b.amount : a.amount - b.amount, power: a.power, whole: false };
	}
}

/** A bare number beside a length counts in the unit in use. */
function toLength(value: Value, unit: LengthUnit, other: number): Value {
	return value.power === 0 && other === 1
		? { ...value, amount: value.amount * MM_PER[unit], power: 1 }
		: value;
}

function product(reader: Reader, unit: LengthUnit): Value {
	let left = factor(reader, unit);
	for (;;) {
		const op = reader.take(/[*/×÷]|x(?![a-z])/i);
		if (!op) return left;
		const right = factor(reader, unit);
		const divides = op === '/' || op === '÷';
		if (divides && right.amount === 0) throw new Bad('nothing can be divided by 0');
		const power = left.power + (divides ? -right.power : right.power);
		if (power < 0) throw new Bad('a number divided by a length is no length');
		left = { amount: divides ? left.amount / right.amount : left.amount * right.amount, power, whole: false };
	}
}

function factor(reader: Reader, unit: LengthUnit): Value {
	if (reader.take(/[-−]/)) {
		const v = factor(reader, unit);
		return { ...v, amount: -v.amount };
	}
	if (reader.take(/\+/)) return factor(reader, unit);
	if (reader.take(/\(/)) {
		const v = sum(reader, unit);
		if (!reader.take(/\)/)) throw new Bad('a bracket is not closed');
		return withUnit(reader, v);
	}
	let total = measured(reader, unit);
	// Feet and inches stand side by side: 3' 4 1/2".
	while (total.power === 1 && /[\d.½⅓⅔¼¾⅛⅜⅝⅞]/.test(reader.peek())) {
		const next = measured(reader, unit);
		if (next.power !== 1) throw new Bad('the second number needs a unit too');
		total = { amount: total.amount + next.amount, power: 1, whole: false };
	}
	return total;
}

/** Fractions that are one letter. */
const VULGARS: Readonly<Record<string, number>> = {
	'½': 1 / 2,
	'⅓': 1 / 3,
	'⅔': 2 / 3,
	'¼': 1 / 4,
	'¾': 3 / 4,
	'⅕': 1 / 5,
	'⅖': 2 / 5,
	'⅗': 3 / 5,
	'⅘': 4 / 5,
	'⅙': 1 / 6,
	'⅚': 5 / 6,
	'⅛': 1 / 8,
	'⅜': 3 / 8,
	'⅝': 5 / 8,
	'⅞': 7 / 8
};
const VULGAR = new RegExp(`[${Object.keys(VULGARS).join('')}]`);
/** A fraction that hangs on a whole number by a line. */
const JOINED = /-\d+\/\d+/;
const JOINED_WITH_UNIT = /-\d+\/\d+(?=\s*("|″|”|inches|inch|in|feet|foot|ft|'|′|’)(?![a-z]))/i;

/** Thousands parted by blanks, points or commas, with the other sign before what is less than one. */
const GROUPED =
	/\d{1,3}(?:[ \u00a0\u202f]\d{3})+(?:[.,]\d+)?(?![\d/])|\d{1,3}(?:\.\d{3})+,\d+|\d{1,3}(?:,\d{3})+\.\d+|\d{1,3}(?:\.\d{3}){2,}(?!\d)|\d{1,3}(?:,\d{3}){2,}(?!\d)/;

/** The number of such a text: the last sign is the decimal one, where it stands but once and not in blanks' company alone. */
function ungrouped(text: string): number {
	const plain = text.replace(/[ \u00a0\u202f]/g, '');
	const signs = plain.replace(/\d/g, '');
	const decimal =
		signs.length === 1 || signs[0] !== signs[signs.length - 1] ? signs[signs.length - 1] : undefined;
	const at = decimal ? plain.lastIndexOf(decimal) : plain.length;
	return Number(`${plain.slice(0, at).replace(/[.,]/g, '')}.${plain.slice(at + 1)}0`);
}

const isInDoubt = (digits: string): boolean =>
	(decimalMark() === ',' ? /^[1-9]\d{0,2}\.\d{3}$/ : /^[1-9]\d{0,2},\d{3}$/).test(digits);

/** A number that may be read in two ways. */
class InDoubt extends Error {}

function measured(reader: Reader, unit: LengthUnit): Value {
	const grouped = reader.take(GROUPED);
	const digits = grouped ?? reader.take(/(\d+([.,]\d*)?|[.,]\d+)(e[+-]?\d+)?/i);
	if (digits === undefined) {
		const lone = reader.take(VULGAR);
		if (lone) return withUnit(reader, { amount: VULGARS[lone], power: 0, whole: false });
		const next = reader.peek();
		throw new Bad(next ? `"${next}" is no number` : 'a number is missing');
	}
	// Three digits behind the mark that parts thousands: for whoever writes a comma, that is the point.
	if (digits !== grouped && isInDoubt(digits)) throw new InDoubt(digits);
	let amount = grouped ? ungrouped(grouped) : Number(digits.replace(',', '.'));
	const half = /^\d+$/.test(digits) ? reader.take(VULGAR) : undefined;
	if (half) return withUnit(reader, { amount: amount + VULGARS[half], power: 0, whole: false });
	// 5-3/8 in: joined by a line, and inches, it is one number; with blanks around the line something is taken away.
	const joined = /^\d+$/.test(digits)
		? reader.takeAtOnce(MM_PER[unit] === MM_PER.in ? JOINED : JOINED_WITH_UNIT)
		: undefined;
	if (joined) {
		const [n, d] = joined.slice(1).split('/').map(Number);
		if (d === 0) throw new Bad('nothing can be divided by 0');
		return withUnit(reader, { amount: amount + n / d, power: 0, whole: false });
	}
	// 5 3/8: a whole number, a space and a fraction.
	const fraction = reader.take(/\d+\s*\/\s*\d+/);
	if (fraction && /^\d+$/.test(digits)) {
		const [n, d] = fraction.split('/').map(Number);
		if (d === 0) throw new Bad('nothing can be divided by 0');
		amount += n / d;
		return withUnit(reader, { amount, power: 0, whole: false });
	}
	// 3/8 in: the unit belongs to the whole fraction.
	const over = reader.take(/\/\s*\d+(?=\s*("|″|”|in|inch|inches|ft|feet|foot|'|′|’|mm|cm|m)(?![a-z]))/i);
	if (over) {
		const d = Number(over.slice(1));
		if (d === 0) throw new Bad('nothing can be divided by 0');
		amount /= d;
	}
	return withUnit(reader, { amount, power: 0, whole: true });
}

function withUnit(reader: Reader, value: Value): Value {
	const word = reader.take(/(mm|cm|m|inches|inch|in|feet|foot|ft|pt|"|″|”|'|′|’)(?![a-z])/i);
	if (word === undefined) return value;
	if (value.power !== 0) throw new Bad('it has two units');
	return { amount: value.amount * MM_PER_WORD[word.toLowerCase()], power: 1, whole: false };
}

/** The mark between whole and tenth; it is asked for each time, so that whoever shows numbers follows the person's wish. */
let decimalMark: () => '.' | ',' = () => '.';
/** Numbers are written and, where they may be read in two ways, read with this mark from now on. */
export function useDecimalMark(ask: () => '.' | ','): void {
	decimalMark = ask;
}

/** Into how many parts an inch may be parted where it is written in fractions. */
export const INCH_PARTS = [8, 16, 32, 64] as const;
export type InchParts = (typeof INCH_PARTS)[number];
let inchParts: () => InchParts = () => 64;
/** Inches in fractions are written as finely as this says from now on. */
export function useInchParts(ask: () => InchParts): void {
	inchParts = ask;
}

/** A length for people: 0.01 mm, 0.001 in; the unit always shown. */
export function formatLength(mm: number, unit: LengthUnit): string {
	return `${lengthDigits(mm, unit)} ${unitWord(unit)}`;
}

/** The same without its unit, for fields that show it beside. */
export function lengthDigits(mm: number, unit: LengthUnit): string {
	if (unit === 'in/64') return inFractions(mm / MM_PER.in);
	const digits = { mm: 2, cm: 3, in: 3, ft: 4 }[unit];
	return formatNumber(mm / MM_PER[unit], digits);
}

/** Inches as a whole number and the nearest fraction, as fine as is wished: 5 3/8. */
function inFractions(inches: number): string {
	const least = inchParts();
	const parts = Math.round(Math.abs(inches) * least);
	const sign = inches < 0 && parts > 0 ? '-' : '';
	const whole = Math.floor(parts / least);
	let over = parts % least;
	let under: number = least;
	while (over > 0 && over % 2 === 0) {
		over /= 2;
		under /= 2;
	}
	const fraction = over ? `${over}/${under}` : '';
	return sign + (whole && fraction ? `${whole} ${fraction}` : fraction || String(whole));
}

/** A number for people: so many decimals at most, no needless zeros, no minus before a zero. Every number shown goes this way. */
export function formatNumber(value: number, decimals: number): string {
	const text = value
		.toFixed(decimals)
		.replace(/(\.\d*?)0+$/, '$1')
		.replace(/\.$/, '');
	if (text === '-0') return '0';
	return decimalMark() === ',' ? text.replace('.', ',') : text;
}

/** An area for people. */
export function formatArea(mm2: number, unit: LengthUnit): string {
	if (unit === 'mm')
		return mm2 >= 10000 ? `${formatNumber(mm2 / 100, 1)} cm²` : `${formatNumber(mm2, 1)} mm²`;
	if (unit === 'cm') return `${formatNumber(mm2 / 100, 2)} cm²`;
	return `${formatNumber(mm2 / 645.16, 3)} in²`;
}
