/** Laws of repeats: where copies lie by each rule, what changes them, what they become made plain. */
import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { numberIn } from '../../../../tests/numbers';
import { completeEdit } from './complete-edit';
import { newDrawing, outlinesOf, repeatsOf, type Drawing, type Mark, type Repeat } from './drawing';
import { copyAt } from './edits/copy-at';
import { addClipping, clippingOf, copiesOf } from './edits/copies';
import { removeOutlines } from './edits/operations';
import { addRepeat, editedApart, filledAgain, repeatsMadePlain, takenOut } from './edits/repeats';
import { placeOutlines, transformOutline } from './edits/transform';
import { mirrorAt, moveBy, turnBy } from '../geometry/maps';
import { applyStep, makeStep, type Edit } from './history';
import { lineOf, outlineFromPath, type Outline } from './outline';
import { output } from './output';
import { RECORDS, recordType } from './records';
import { carriedRule, mapsOf, MOST_COPIES, ruleHolds, type RepeatRule } from './repeat-rules';
import { boxOfRepeat, copiesIn, instancesOf, repeatFacts } from './repeats';
import { pathBox, pathLength, unionBox } from '../geometry/measure';
import { circlePath, compose, polygonPath, transformPath, type Affine } from '../geometry/path';
import { boxOf, nearestOnPath } from '../geometry/pick';
import { pointAt } from '../geometry/segment';
import { blob } from '../../../../tests/shapes';

const ROWS: RepeatRule = { way: 'rows', columns: 4, rows: 3, right: 12, up: 9, angle: 0, stagger: 0.5 };
const tooth = polygonPath([0, 0, 4, 0, 1, 6]);

function drawing(rule: RepeatRule, more: readonly Outline[] = [], path = tooth): Drawing {
	const empty = newDrawing('d', 'd');
	const source = outlineFromPath(path, { id: 's', name: 'Tooth', layer: 'cut', rank: 10 });
	const repeat: Repeat = { type: 'repeat', id: 'r', rank: 20, name: 'Teeth', sources: ['s'], rule };
	return {
		...empty,
		records: new Map([...empty.records, ...[source, ...more, repeat].map((o) => [o.id, o] as const)])
	};
}
function after(d: Drawing, edit: Edit): Drawing {
	const step = makeStep(d, 'Edit', completeEdit(d, edit).edit);
	return step ? applyStep(d, step, 'forward') : d;
}
const repeatIn = (d: Drawing) => repeatsOf(d)[0];
const lines = (d: Drawing) => copiesIn(d, repeatIn(d)).map((copy) => lineOf(copy as Outline));
const line = (id: string, path: Parameters<typeof outlineFromPath>[0]) =>
	outlineFromPath(path, { id, name: id, layer: 'cut', rank: 5 });
let made = 0;
const newId = () => `new${made++}`;
const near = (a: readonly number[], b: readonly number[], digits = 9) =>
	a.forEach((v, i) => expect(v).toBeCloseTo(b[i], digits));
const along = (settings: object): RepeatRule => ({
	way: 'along',
	line: 'l',
	by: 'number',
	number: 6,
	spacing: 10,
	share: 1,
	turned: true,
	...settings
});

describe('where copies lie', () => {
	test('in rows: moved by whole columns and rows, every second row set on', () => {
		const d = drawing(ROWS);
		const { list } = instancesOf(d, repeatIn(d));
		expect(list).toHaveLength(11);
		expect(list.map(({ map }) => [map[4], map[5]])).toEqual([
			[12, 0],
			[24, 0],
			[36, 0],
			[6, 9],
			[18, 9],
			[30, 9],
			[42, 9],
			[0, 18],
			[12, 18],
			[24, 18],
			[36, 18]
		]);
		near(Object.values(boxOfRepeat(d, repeatIn(d))), [0, 0, 46, 24]);
	});

	test('around: turned by equal angles, all at one distance; not turned they stay upright', () => {
		const rule = { way: 'around', number: 7, x: 10, y: -20, sweep: 360, turned: true } as const;
		const maps = mapsOf(rule, { middle: { x: 2, y: 3 } });
		maps.forEach((map, k) => {
			const angle = (Math.atan2(map[1], map[0]) * 180) / Math.PI;
			expect(((((angle - (360 / 7) * k) % 360) + 540) % 360) - 180).toBeCloseTo(0, 9);
			const [a, b, c, dd, e, f] = map;
			expect(Math.hypot(a * 2 + c * 3 + e - 10, b * 2 + dd * 3 + f + 20)).toBeCloseTo(Math.hypot(8, 23), 9);
		});
		for (const map of mapsOf({ ...rule, turned: false }, { middle: { x: 2, y: 3 } }))
			expect(map.slice(0, 4)).toEqual([1, 0, 0, 1]);
		// Quarters are exact.
		const quarters = mapsOf({ ...rule, number: 4, x: 0, y: 0 }, { middle: { x: 1, y: 1 } });
		expect(quarters[1].map((v) => v + 0)).toEqual([0, 1, -1, 0, 0, 0]);
	});

	test('a part of a circle has its ends on both sides of it', () => {
		const rule = { way: 'around', number: 5, x: 0, y: 0, sweep: 120, turned: true } as const;
		const maps = mapsOf(rule, { middle: { x: 5, y: 0 } });
		near([(Math.atan2(maps[4][1], maps[4][0]) * 180) / Math.PI], [120]);
		near([(Math.atan2(maps[1][1], maps[1][0]) * 180) / Math.PI], [30]);
	});

	test('mirrored: twice is nothing', () => {
		fc.assert(
			fc.property(numberIn(-90, 90), (angle) => {
				const [, map] = mapsOf({ way: 'mirrored', x: 3, y: 4, angle }, { middle: { x: 0, y: 0 } });
				near(compose(map, map), [1, 0, 0, 1, 0, 0]);
			})
		);
	});

	test('along a circle: as far from one to the next as its length says, each as it lies to the line', () => {
		const d = drawing(along({ number: 9 }), [line('l', circlePath(50, 0, 40))]);
		const { list } = instancesOf(d, repeatIn(d));
		expect(list).toHaveLength(8);
		const facts = repeatFacts(d, repeatIn(d));
		expect(facts.total).toBe(9);
		expect(facts.step).toBeCloseTo((2 * Math.PI * 40) / 9, 6);
		// On a circle that is the same as around its middle.
		const round = mapsOf(
			{ way: 'around', number: 9, x: 50, y: 0, sweep: 360, turned: true },
			{ middle: { x: 0, y: 0 } }
		);
		const found = list.map(({ map }) => map);
		const wanted = round.slice(1);
		const matches = (a: Affine, b: Affine) => a.every((v, i) => Math.abs(v - b[i]) < 1e-6);
		expect(found.every((map) => wanted.some((w) => matches(map, w)))).toBe(true);
	});

	test('along a curve: equal lengths of line between feet, measured apart by small steps', () => {
		fc.assert(
			fc.property(fc.nat(50), fc.integer({ min: 3, max: 20 }), fc.boolean(), (seed, number, turned) => {
				const around = blob(9, seed + 1, 40);
				const d = drawing(along({ number, turned }), [line('l', around)], circlePath(boxOf(around).x1, 0, 1));
				const { list } = instancesOf(d, repeatIn(d));
				// Each foot of the source's middle, as a length along the line from fine chords.
				const chords: [number, number, number][] = [];
				let sum = 0;
				for (let i = 0; i < around.types.length; i++)
					for (let k = 0; k < 400; k++) {
						const p = pointAt(around.types[i], around.segs, 8 * i, k / 400);
						const q = pointAt(around.types[i], around.segs, 8 * i, (k + 1) / 400);
						chords.push([p.x, p.y, sum]);
						sum += Math.hypot(q.x - p.x, q.y - p.y);
					}
				const box = boxOf(lineOf(d.records.get('s') as Outline));
				const [mx, my] = [(box.x0 + box.x1) / 2, (box.y0 + box.y1) / 2];
				const foot = nearestOnPath(around, mx, my, Infinity)!;
				const first = pointAt(around.types[foot.segment], around.segs, 8 * foot.segment, foot.t);
				const at = (x: number, y: number) =>
					chords.reduce((a, b) =>
						Math.hypot(b[0] - x, b[1] - y) < Math.hypot(a[0] - x, a[1] - y) ? b : a
					)[2];
				const from = at(first.x, first.y);
				list.forEach(({ map: [a, b, c, dd, e, f], place }) => {
					const got = at(a * first.x + c * first.y + e, b * first.x + dd * first.y + f);
					const want = from + (place * sum) / number;
					const off = ((((got - want) % sum) + 1.5 * sum) % sum) - sum / 2;
					expect(Math.abs(off)).toBeLessThan(0.4);
				});
			}),
			{ numRuns: 20 }
		);
	});

	test('along an open line by spacing: as many as fit, from the first one on', () => {
		const straight = line('l', {
			closed: false,
			types: Uint8Array.of(0),
			segs: Float64Array.of(0, 10, 0, 0, 0, 0, 100, 10)
		});
		const d = drawing(along({ by: 'spacing', spacing: 15 }), [straight], circlePath(5, 10, 1));
		const { list } = instancesOf(d, repeatIn(d));
		expect(list.map(({ map }) => map[4])).toEqual([15, 30, 45, 60, 75, 90]);
		const half = drawing(along({ share: 0.5, number: 3 }), [straight], circlePath(0, 10, 1));
		near(
			instancesOf(half, repeatIn(half)).list.map(({ map }) => map[4]),
			[25, 50]
		);
	});

	test('more than the most are refused in a sentence, and nothing is drawn', () => {
		const d = drawing({ ...ROWS, columns: 200, rows: 200 } as RepeatRule);
		const { list, problem } = instancesOf(d, repeatIn(d));
		expect(list).toEqual([]);
		expect(problem?.sentence).toContain(String(MOST_COPIES));
		expect(ruleHolds({ ...ROWS, columns: 200, rows: 200 })).toBe(false);
		expect(ruleHolds({ ...ROWS })).toBe(true);
		expect(ruleHolds({ way: 'sideways' })).toBe(false);
	});
});

describe('what changes copies', () => {
	test('the source edited changes all; the order of edits does not matter', () => {
		const d = drawing(ROWS);
		const grown = after(d, {
			put: [
				outlineFromPath(polygonPath([0, 0, 6, 0, 1, 8]), { id: 's', name: 'Tooth', layer: 'cut', rank: 10 })
			]
		});
		const { list } = instancesOf(grown, repeatIn(grown));
		lines(grown).forEach((path, i) =>
			near([...path.segs], [...transformPath(lineOf(grown.records.get('s') as Outline), list[i].map).segs])
		);
		const wider: Edit = { put: [{ ...repeatIn(d), rule: { ...ROWS, right: 20 } as RepeatRule }] };
		const source: Edit = { put: [grown.records.get('s')!] };
		const one = lines(after(after(d, wider), source));
		const two = lines(after(after(d, source), wider));
		expect(one).toEqual(two);
	});

	test.each([
		['moved', moveBy(31, -7)],
		['turned', turnBy(33, 5, 6)],
		['mirrored', mirrorAt(20, 1, 2)],
		['a quarter', turnBy(90, 0, 0)]
	] as const)('source and rule %s together: all copies go along', (_, map) => {
		const l = line('l', blob(9, 4, 40));
		for (const rule of [
			ROWS,
			{ way: 'around', number: 5, x: 10, y: -20, sweep: 200, turned: true },
			{ way: 'around', number: 5, x: 10, y: -20, sweep: 360, turned: false },
			{ way: 'mirrored', x: 9, y: 0, angle: 80 },
			along({ number: 5 })
		] as RepeatRule[]) {
			const d = drawing(rule, [l]);
			const before = lines(d).map((path) => pathBox(transformPath(path, map)));
			const moved = [d.records.get('s') as Outline, l].map((o) => transformOutline(o, map));
			const now = after(d, { put: [...moved, RECORDS.repeat.carried!(repeatIn(d), map)] });
			const boxes = lines(now).map(pathBox);
			// A line that is mirrored is walked the other way; the copies are the same, in another order.
			const centre = (b: { x0: number; x1: number; y0: number; y1: number }) => [
				(b.x0 + b.x1) / 2,
				(b.y0 + b.y1) / 2
			];
			const isTilted = rule.way === 'around' && !rule.turned;
			for (const box of before) {
				const [x, y] = centre(box);
				const off = Math.min(...boxes.map((b) => Math.hypot(centre(b)[0] - x, centre(b)[1] - y)));
				// The middle of a box turned is not the turned middle; around, not turned, hangs on it.
				if (!isTilted && rule.way !== 'along') expect(off).toBeLessThan(1e-6);
			}
			expect(boxes).toHaveLength(before.length);
		}
	});

	test('rows that lie level are scaled across and up by themselves', () => {
		expect(carriedRule(ROWS, [2, 0, 0, 3, 5, 5])).toMatchObject({ right: 24, up: 27 });
		expect(carriedRule({ way: 'mirrored', x: 0, y: 0, angle: 10 }, [2, 0, 0, 3, 0, 0])).toBeUndefined();
	});
});

describe('copies as lines', () => {
	test('made plain they are what they were, to the bit', () => {
		fc.assert(
			fc.property(fc.nat(30), fc.integer({ min: 2, max: 9 }), numberIn(-180, 180), (seed, number, sweep) => {
				const d = drawing(
					{ way: 'around', number, x: 3, y: 4, sweep, turned: true },
					[],
					blob(6, seed + 1, 12)
				);
				const before = lines(d);
				const plain = after(d, repeatsMadePlain(d, [repeatIn(d)], newId));
				expect(repeatsOf(plain)).toEqual([]);
				const now = outlinesOf(plain)
					.filter(({ id }) => id !== 's')
					.map(lineOf);
				expect(now).toEqual(before);
				const out = (x: Drawing) =>
					output(x)
						.lines.map(({ path }) => [...path.segs])
						.sort();
				expect(out(plain)).toEqual(out(d));
			})
		);
	});

	test('they go out with what they are copies of: purpose, layer, picked, hidden', () => {
		const d = drawing(ROWS);
		expect(output(d).lines).toHaveLength(12);
		expect(output(d, { picked: new Set(['s']) }).lines).toHaveLength(1);
		expect(output(d, { picked: new Set(['s', 'r']) }).lines).toHaveLength(12);
		const scored = after(d, { put: [{ ...(d.records.get('s') as Outline), purpose: 'score' }] });
		expect(output(scored, { purposes: ['score'] }).lines).toHaveLength(12);
		const hidden = after(d, { put: [{ ...repeatIn(d), hidden: true }] });
		expect(output(hidden).lines).toHaveLength(1);
		const layer = after(d, {
			put: [{ ...(d.records.get('cut') as never as object), hidden: true } as never]
		});
		expect(output(layer).lines).toHaveLength(0);
		// Only the pattern hidden: its copies are there.
		const pattern = after(d, { put: [{ ...(d.records.get('s') as Outline), hidden: true }] });
		expect(output(pattern).lines).toHaveLength(11);
	});

	test('ids last: the same copy has the same id after its source has changed', () => {
		const d = drawing(ROWS);
		const ids = copiesIn(d, repeatIn(d)).map(({ id }) => id);
		const moved = after(d, placeOutlines(d, [d.records.get('s') as Outline], moveBy(5, 5)));
		expect(copiesIn(moved, repeatIn(moved)).map(({ id }) => id)).toEqual(ids);
		expect(new Set(ids).size).toBe(ids.length);
	});

	test('one edited apart is an outline of its own, its place stays empty and can be filled again', () => {
		const d = drawing(ROWS);
		const fifth = lines(d)[4];
		const apart = after(d, editedApart(d, 'r', 5, newId));
		expect(instancesOf(apart, repeatIn(apart)).list).toHaveLength(10);
		expect(
			outlinesOf(apart).some((o) => o.id !== 's' && lineOf(o).segs.every((v, i) => v === fifth.segs[i]))
		).toBe(true);
		expect(output(apart).lines).toHaveLength(12);
		const out = after(apart, { put: [takenOut(repeatIn(apart), 2)] });
		expect(output(out).lines).toHaveLength(11);
		const again = after(out, { put: [filledAgain(repeatIn(out))] });
		expect(instancesOf(again, repeatIn(again)).list).toHaveLength(11);
	});

	test('marks are repeated too', () => {
		const mark: Mark = { type: 'mark', id: 'm', rank: 3, layer: 'cut', x: 1, y: 2 };
		const d0 = drawing(ROWS);
		const d = after(d0, { put: [mark, { ...repeatIn(d0), sources: ['s', 'm'] }] });
		const { lines: cut, marks } = output(d);
		expect(cut).toHaveLength(12);
		expect(marks).toHaveLength(12);
		expect(marks[1].mark).toMatchObject({ x: 13, y: 2 });
	});

	test('the copy under the pointer is found, the nearest one', () => {
		const d = drawing(ROWS);
		expect(copyAt(d, 24 + 4, 18, 0.5)).toMatchObject({ place: 10 });
		expect(copyAt(d, 24 + 2, 18, 0.5)?.place).toBe(10);
		expect(copyAt(d, 2, 0, 0.5)).toBeUndefined();
		expect(copyAt(d, 500, 500, 5)).toBeUndefined();
	});
});

describe('what goes', () => {
	test('the source gone, its copies are plain where they lay', () => {
		const d = drawing(ROWS);
		const before = lines(d);
		const gone = after(d, removeOutlines(d, new Set(['s'])));
		expect(repeatsOf(gone)).toEqual([]);
		expect(outlinesOf(gone).map(lineOf)).toEqual(before);
	});
	test('the line gone, copies along it are plain; repeat and source gone together leave nothing', () => {
		const d = drawing(along({}), [line('l', circlePath(50, 0, 40))]);
		const plain = after(d, removeOutlines(d, new Set(['l'])));
		expect(outlinesOf(plain)).toHaveLength(6);
		const nothing = after(d, { remove: ['s', 'r'] });
		expect(outlinesOf(nothing).map(({ id }) => id)).toEqual(['l']);
	});
	test('one of several sources gone: the others go on', () => {
		const d0 = drawing(ROWS, [line('t', circlePath(2, 2, 1))]);
		const d = after(d0, { put: [{ ...repeatIn(d0), sources: ['s', 't'] }] });
		expect(output(d).lines).toHaveLength(24);
		const less = after(d, removeOutlines(d, new Set(['t'])));
		expect(repeatIn(less).sources).toEqual(['s']);
		expect(output(less).lines).toHaveLength(12);
	});
	test('copied with its source it repeats the copy; pasted without its line it is plain', () => {
		const d = drawing(ROWS);
		const twice = after(d, copiesOf(d, [d.records.get('s') as Outline, repeatIn(d)], moveBy(100, 0), newId));
		expect(repeatsOf(twice)).toHaveLength(2);
		expect(output(twice).lines).toHaveLength(24);
		const box = unionBox(output(twice).lines.map(({ path }) => boxOf(path)));
		near(Object.values(box), [0, 0, 146, 24]);
		const l = drawing(along({}), [line('l', circlePath(50, 0, 40))]);
		const other = newDrawing('e', 'e');
		const plain = after(other, addClipping(other, clippingOf(l, new Set(['s', 'r'])), moveBy(0, 0), newId));
		expect(repeatsOf(plain)).toEqual([]);
		expect(outlinesOf(plain)).toHaveLength(6);
		const both = after(
			other,
			addClipping(other, clippingOf(l, new Set(['s', 'r', 'l'])), moveBy(0, 0), newId)
		);
		expect(repeatsOf(both)).toHaveLength(1);
		expect(output(both).lines).toHaveLength(7);
	});
	test('a repeat begun of what lies in a group lies in it too', () => {
		const d = drawing(ROWS);
		const s = { ...(d.records.get('s') as Outline), group: 'g' };
		const [made] = addRepeat(d, [s], ROWS, { id: 'x', name: 'x' }).put!;
		expect(made).toMatchObject({ group: 'g', sources: ['s'] });
		expect(recordType(made).broken?.(made)).toBeUndefined();
		expect(pathLength(lineOf(s))).toBeGreaterThan(0);
	});
});
