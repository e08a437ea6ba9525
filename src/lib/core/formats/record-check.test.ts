/** The short check of one record says yes and no as the schema does, though it has lost what it would say of a fault. */
import Ajv from 'ajv';
import { readFileSync } from 'node:fs';
import { expect, test } from 'vitest';
import { chance } from '../../../../tests/shapes';
import { unwrap } from '../errors';
import { validateRecord } from '../../generated/validate-record';
import { readDrawingFile, toPlain } from './drawing-file';

type Plain = Record<string, unknown>;
const schemas = ['drawing', 'workshop'].map(
	(name) => JSON.parse(readFileSync(`src/lib/core/formats/${name}.schema.json`, 'utf8')) as object
);
const byTheSchema = new Ajv({ schemas, discriminator: true }).compile({
	$ref: 'drawing#/definitions/record'
});

/** Every kind of record that the demo has, the short ones: the same rules hold for many anchors. */
function someRecords(): Plain[] {
	const found = new Map<string, Plain>();
	for (const name of ['puppet-set', 'hand-puppet', 'fox-puppet', 'mask-pictures', 'control-bars']) {
		const { drawing } = unwrap(readDrawingFile(new Uint8Array(readFileSync(`static/demo/${name}.thread`))));
		for (const record of toPlain(drawing).records as Plain[]) {
			const kind = `${String(record.type)} ${Object.keys(record).sort().join(' ')}`;
			const before = found.get(kind);
			if (!before || JSON.stringify(record).length < JSON.stringify(before).length) found.set(kind, record);
		}
	}
	return [...found.values()];
}

/** One thing somewhere within is taken away, doubled under another name, or made of another kind. */
function spoil(record: Plain, random: () => number): Plain {
	const copy = structuredClone(record);
	const places: [holder: Plain, key: string][] = [];
	const visit = (at: unknown): void => {
		if (!at || typeof at !== 'object') return;
		for (const [key, value] of Object.entries(at).slice(0, 40)) {
			places.push([at as Plain, key]);
			visit(value);
		}
	};
	visit(copy);
	const [holder, key] = places[Math.floor(random() * places.length)];
	const others = [null, -1, 0.5, 'x'.repeat(400), '', [], {}, true, [null], { type: 'outline' }];
	const way = random();
	if (way < 0.25) delete holder[key];
	else if (way < 0.4 && !Array.isArray(holder)) holder.unheardOf = holder[key];
	else holder[key] = others[Math.floor(random() * others.length)];
	return copy;
}

test('yes and no as the schema says them, for what is whole and for what is spoilt', () => {
	const random = chance(5);
	const records = someRecords();
	expect(new Set(records.map(({ type }) => type)).size).toBeGreaterThan(8);
	const said = { yes: 0, no: 0 };
	for (const record of records) {
		expect(validateRecord(record), String(record.type)).toBe(true);
		for (let k = 0; k < 120; k++) {
			const spoilt = spoil(record, random);
			const wanted = byTheSchema(spoilt);
			said[wanted ? 'yes' : 'no']++;
			expect(validateRecord(spoilt), JSON.stringify(spoilt).slice(0, 500)).toBe(wanted);
		}
	}
	// Both answers were asked for often.
	expect(Math.min(said.yes, said.no)).toBeGreaterThan(150);
});
