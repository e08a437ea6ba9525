/** Laws of groups: what belongs together moves together, at any depth; an empty group goes; copies are another group. */
import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { completeEdit } from '../complete-edit';
import { groupsOf, newDrawing, outlinesOf, type Drawing } from '../drawing';
import { countUnits, groupOf, liesIn, membersOf, unitOf, wholeGroups, wholeOf } from '../groups';
import { applyStep, makeStep, type Edit } from '../history';
import { lineOf, outlineFromPath } from '../outline';
import { circlePath } from '../../geometry/path';
import { boxOf } from '../../geometry/pick';
import { addClipping, clippingOf, copiesOf } from './copies';
import { freeGroupName, grouped, outOfGroup, ungrouped } from './groups';
import { removeOutlines } from './operations';
import { moveBy } from '../../geometry/maps';

function drawing(count: number): Drawing {
	const empty = newDrawing('d', 'd');
	const outlines = Array.from({ length: count }, (_, i) =>
		outlineFromPath(circlePath(30 * i, 0, 10), { id: `o${i}`, name: `o${i}`, layer: 'cut', rank: 10 + i })
	);
	return { ...empty, records: new Map([...empty.records, ...outlines.map((o) => [o.id, o] as const)]) };
}
function after(d: Drawing, edit: Edit): Drawing {
	const step = makeStep(d, 'Edit', completeEdit(d, edit).edit);
	return step ? applyStep(d, step, 'forward') : d;
}
const ids = (d: Drawing, group: string) =>
	membersOf(d, group)
		.map(({ id }) => id)
		.sort();
let made = 0;
const newId = () => `new${made++}`;

describe('groups', () => {
	test('a group in a group: what moves as one depends on where one is', () => {
		let d = drawing(4);
		d = after(d, grouped(d, ['o0', 'o1'], { id: 'g', name: 'Arm' }));
		d = after(d, grouped(d, ['o0', 'o1', 'o2'], { id: 'h', name: 'Body' }));
		expect(ids(d, 'h')).toEqual(['o0', 'o1', 'o2']);
		expect([...wholeOf(d, ['o0'], undefined)].sort()).toEqual(['o0', 'o1', 'o2']);
		expect([...wholeOf(d, ['o0'], 'h')].sort()).toEqual(['o0', 'o1']);
		expect([...wholeOf(d, ['o0'], 'g')]).toEqual(['o0']);
		expect([...wholeOf(d, ['o3'], undefined)]).toEqual(['o3']);
		expect(unitOf(d, 'o2', undefined)?.name).toBe('Body');
		expect(unitOf(d, 'o2', 'h')).toBeUndefined();
		expect(liesIn(d, 'o1', 'h')).toBe(true);
		expect(liesIn(d, 'o3', 'h')).toBe(false);
		expect(countUnits(d, new Set(['o0', 'o1', 'o2', 'o3']))).toBe(2);
		expect(wholeGroups(d, new Set(['o0', 'o1']), 'h').map(({ id }) => id)).toEqual(['g']);
		expect(wholeGroups(d, new Set(['o0']), 'h')).toEqual([]);
	});

	test('grouped and taken apart again is what it was, bit for bit', () => {
		fc.assert(
			fc.property(fc.uniqueArray(fc.nat(5), { minLength: 2, maxLength: 6 }), (list) => {
				const d = drawing(6);
				const once = after(
					d,
					grouped(
						d,
						list.map((i) => `o${i}`),
						{ id: 'g', name: 'Group' }
					)
				);
				const back = after(once, ungrouped(once, groupsOf(once)));
				expect([...back.records]).toEqual([...d.records]);
			})
		);
	});

	test('a group in a group taken apart leaves the inner one', () => {
		let d = drawing(3);
		d = after(d, grouped(d, ['o0', 'o1'], { id: 'g', name: 'Arm' }));
		d = after(d, grouped(d, ['o0', 'o2'], { id: 'h', name: 'Body' }));
		d = after(d, ungrouped(d, wholeGroups(d, new Set(['o0', 'o1', 'o2']))));
		expect(groupsOf(d).map(({ name }) => name)).toEqual(['Arm']);
		expect(groupOf(d, d.records.get('o2'))).toBeUndefined();
	});

	test('out of a group, and a group of which the last goes, goes too, with those around it', () => {
		let d = drawing(3);
		d = after(d, grouped(d, ['o0', 'o1'], { id: 'g', name: 'Arm' }));
		d = after(d, grouped(d, ['o0', 'o2'], { id: 'h', name: 'Body' }));
		const out = after(d, outOfGroup(d, ['o0']));
		expect(ids(out, 'g')).toEqual(['o1']);
		expect(ids(out, 'h')).toEqual(['o0', 'o1', 'o2']);
		const gone = after(out, removeOutlines(out, new Set(['o1'])));
		expect(groupsOf(gone).map(({ id }) => id)).toEqual(['h']);
		const none = after(gone, removeOutlines(gone, new Set(['o0', 'o2'])));
		expect(groupsOf(none)).toEqual([]);
		expect(none.records.has('o0')).toBe(false);
	});

	test('names that are free', () => {
		let d = drawing(4);
		expect(freeGroupName(d)).toBe('Group');
		d = after(d, grouped(d, ['o0', 'o1'], { id: 'g', name: freeGroupName(d) }));
		expect(freeGroupName(d)).toBe('Group 2');
	});

	test('a whole group copied is another group; a part of it stays in the same one', () => {
		let d = drawing(3);
		d = after(d, grouped(d, ['o0', 'o1'], { id: 'g', name: 'Arm' }));
		const two = outlinesOf(d).slice(0, 2);
		const whole = after(d, copiesOf(d, two, moveBy(0, 50), newId));
		expect(groupsOf(whole)).toHaveLength(2);
		const [, second] = groupsOf(whole);
		expect(membersOf(whole, second.id).map((r) => (r.type === 'outline' ? boxOf(lineOf(r)).y0 : 0))).toEqual([
			40, 40
		]);
		const part = after(d, copiesOf(d, two.slice(0, 1), moveBy(0, 50), newId));
		expect(groupsOf(part)).toHaveLength(1);
		expect(membersOf(part, 'g')).toHaveLength(3);
	});

	test('into another drawing with its groups, and twice into the same one', () => {
		let d = drawing(3);
		d = after(d, grouped(d, ['o0', 'o1'], { id: 'g', name: 'Arm' }));
		d = after(d, grouped(d, ['o0', 'o2'], { id: 'h', name: 'Body' }));
		const clip = clippingOf(d, new Set(['o0', 'o1', 'o2']));
		const other = newDrawing('e', 'e');
		const pasted = after(other, addClipping(other, clip, moveBy(0, 0), newId));
		expect(
			groupsOf(pasted)
				.map(({ name }) => name)
				.sort()
		).toEqual(['Arm', 'Body']);
		expect(membersOf(pasted, groupsOf(pasted).find(({ name }) => name === 'Body')!.id)).toHaveLength(3);
		const again = after(d, addClipping(d, clip, moveBy(5, 5), newId));
		expect(groupsOf(again)).toHaveLength(4);
		// A part of a group is pasted by itself.
		const part = after(other, addClipping(other, clippingOf(d, new Set(['o0'])), moveBy(0, 0), newId));
		expect(groupsOf(part)).toEqual([]);
	});

	test('a group whose record is missing is none', () => {
		let d = drawing(2);
		d = after(d, grouped(d, ['o0', 'o1'], { id: 'g', name: 'Arm' }));
		const records = new Map(d.records);
		records.delete('g');
		const lost = { ...d, records };
		expect(groupOf(lost, lost.records.get('o0'))).toBeUndefined();
		expect([...wholeOf(lost, ['o0'], undefined)]).toEqual(['o0']);
	});
});
