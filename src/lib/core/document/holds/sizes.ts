/** Named sizes: each a number or a formula of others, mm. */
import { CoreError } from '../../errors';
import { isReserved, readFormula } from '../../expression';
import type { DrawingRecord } from '../drawing';
import type { NamedSize } from './hold';

export const sizesIn = (records: Iterable<DrawingRecord>): NamedSize[] => {
	const out: NamedSize[] = [];
	for (const record of records) if (record.type === 'size') out.push(record);
	return out.sort((a, b) => a.rank - b.rank);
};

/** Why a name cannot be given to a size; undefined where it can. */
export function badName(name: string, taken: readonly string[]): string | undefined {
	if (!/^[\p{L}_][\p{L}\p{N}_]*$/u.test(name))
		return 'A name is one word of letters and digits, and begins with a letter.';
	if (isReserved(name)) return `"${name}" means something in formulas already.`;
	return taken.includes(name) ? `There is a size "${name}" already.` : undefined;
}

/**
 * What all sizes come to, mm.
 * @throws CoreError `bad-formula` with the name: not understood, no number, or made from itself.
 */
export function valuesOf(sizes: readonly NamedSize[]): Record<string, number> {
	const values: Record<string, number> = {};
	const known = new Map(sizes.map((size) => [size.name, size]));
	const open: string[] = [];
	const reckon = (size: NamedSize): number => {
		if (Object.hasOwn(values, size.name)) return values[size.name];
		if (open.includes(size.name))
			throw new CoreError(
				'bad-formula',
				`The size "${size.name}" is made from itself: ${[...open, size.name].join(', ')}.`
			);
		open.push(size.name);
		const formula = read(size.value, known, size.name);
		const own: Record<string, number> = {};
		for (const name of formula.names) own[name] = reckon(known.get(name)!);
		const value = formula.at(own);
		open.pop();
		if (!Number.isFinite(value))
			throw new CoreError('bad-formula', `The size "${size.name}" comes to no number.`);
		values[size.name] = value;
		return value;
	};
	for (const size of sizes) reckon(size);
	return values;
}

function read(text: string, known: ReadonlyMap<string, unknown>, name: string) {
	try {
		return readFormula(text, { degrees: true, known: new Set(known.keys()) });
	} catch (error) {
		if (error instanceof CoreError) throw new CoreError(error.code, `The size "${name}": ${error.message}`);
		throw error;
	}
}

/** What a value comes to. @throws CoreError `bad-formula` */
export function valueOf(text: string, values: Readonly<Record<string, number>>): number {
	const value = readFormula(text, { degrees: true, known: new Set(Object.keys(values)) }).at(values);
	if (!Number.isFinite(value)) throw new CoreError('bad-formula', `"${text}" comes to no number.`);
	return value;
}
