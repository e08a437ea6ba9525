/** Two states of a drawing held against each other; distances are those of elementary geometry. */
import { describe, expect, test } from 'vitest';
import { circlePath, polygonPath } from '../geometry/path';
import { moveBy } from '../geometry/maps';
import { randomOutlines } from '../../../../tests/random-drawings';
import { compare, same } from './compared';
import { moveAnchors } from './edits/anchors';
import { transformOutline } from './edits/transform';
import { newDrawing, type DrawingRecord } from './drawing';
import { outlineFromPath, type Outline } from './outline';

const outline = (id: string, path = polygonPath([0, 0, 40, 0, 40, 30, 0, 30])): Outline =>
	outlineFromPath(path, { id, name: id, layer: 'cut', rank: 2 });
const withRecords = (...records: DrawingRecord[]) => {
	const drawing = newDrawing('d', 'Compared');
	return new Map([...drawing.records, ...records.map((r) => [r.id, r] as const)]);
};

describe('two states of a drawing', () => {
	test('what came, what went; nothing where nothing differs, though records are other objects', () => {
		const [wing, ear] = [outline('wing'), outline('ear')];
		expect(compare(withRecords(wing), withRecords(structuredClone(wing)))).toEqual([]);
		expect(compare(withRecords(wing), withRecords(wing, ear))).toEqual([{ how: 'came', record: ear }]);
		expect(compare(withRecords(wing, ear), withRecords(ear))).toEqual([{ how: 'went', record: wing }]);
	});

	test('a moved corner: by as much as it was moved at most, and there', () => {
		const wing = outline('wing');
		const pulled = moveAnchors(wing, new Set([wing.anchors[2]]), 3, 4);
		const [found, ...others] = compare(withRecords(wing), withRecords(pulled));
		expect(others).toEqual([]);
		expect(found).toMatchObject({ how: 'moved', x: 43, y: 34 });
		expect(found.how === 'moved' && found.by).toBeCloseTo(5, 9);
	});

	test('a circle that grew lies off by the difference of the radii everywhere', () => {
		const [small, large] = [10, 12.5].map((r) => outline('disc', circlePath(5, 5, r)));
		const [found] = compare(withRecords(small), withRecords(large), 1e-4);
		expect(found.how === 'moved' && found.by).toBeGreaterThan(2.499);
		expect(found.how === 'moved' && found.by).toBeLessThan(2.501);
	});

	test('carried as it is: told as that, curves too; what is said of it beside', () => {
		const disc = outline('disc', circlePath(0, 0, 8));
		const carried = { ...transformOutline(disc, moveBy(-12, 3)), name: 'Eye' };
		expect(compare(withRecords(disc), withRecords(carried))).toEqual([
			{ how: 'said', before: disc, after: carried, fields: ['name'] },
			{ how: 'carried', before: disc, after: carried, right: -12, up: 3 }
		]);
	});

	test('of random drawings: with themselves nothing, copied bit by bit too; one field of one record is told alone', () => {
		for (let seed = 1; seed <= 12; seed++) {
			const records = withRecords(...randomOutlines(seed));
			const copied = new Map([...records].map(([id, r]) => [id, structuredClone(r)]));
			expect(compare(records, copied)).toEqual([]);
			const [first] = [...records.values()].filter((r) => r.type === 'outline');
			if (!first) continue;
			copied.set(first.id, { ...first, name: 'Another name' });
			expect(compare(records, copied)).toMatchObject([{ how: 'said', fields: ['name'] }]);
		}
	});

	test('alike is alike to the bit: -0 is not 0, packed numbers, fields in any order', () => {
		expect(same({ a: 1, b: [2, { c: 3 }] }, { b: [2, { c: 3 }], a: 1 })).toBe(true);
		expect(same(Float64Array.of(0), Float64Array.of(-0))).toBe(false);
		expect(same(Float64Array.of(1), Uint8Array.of(1))).toBe(true);
		expect(same([1], { 0: 1 })).toBe(false);
		expect(same({ a: undefined }, { b: undefined })).toBe(false);
	});
});
