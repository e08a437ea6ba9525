/** Laws of lining up and spreading: twice is once, equal gaps are equal, what stays put stays, holes go along. */
import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { numberIn } from '../../../../../tests/numbers';
import { newDrawing, type Drawing } from '../drawing';
import { applyStep, makeStep } from '../history';
import { lineOf, outlineFromPath, type Outline } from '../outline';
import { unionBox } from '../../geometry/measure';
import { polygonPath } from '../../geometry/path';
import { boxOf } from '../../geometry/pick';
import { alignEdit, alignMoves, thingsOf, type AlignSettings } from './align';

const rect = (x: number, y: number, w: number, h: number) =>
	polygonPath([x, y, x + w, y, x + w, y + h, x, y + h]);
type Placed = [number, number, number, number];
function drawing(list: readonly Placed[]): Drawing {
	const empty = newDrawing('d', 'd');
	const outlines = list.map(([x, y, w, h], i) =>
		outlineFromPath(rect(x, y, w, h), { id: `o${i}`, name: `o${i}`, layer: 'cut', rank: 10 + i })
	);
	return { ...empty, records: new Map([...empty.records, ...outlines.map((o) => [o.id, o] as const)]) };
}
const outlinesOf = (d: Drawing) => [...d.records.values()].filter((r): r is Outline => r.type === 'outline');
const boxes = (d: Drawing) => outlinesOf(d).map((o) => boxOf(lineOf(o)));
type Wanted = Omit<AlignSettings, 'to'> & Partial<Pick<AlignSettings, 'to'>>;
function aligned(d: Drawing, wanted: Wanted): Drawing {
	const things = thingsOf(d, outlinesOf(d));
	const to = wanted.to ?? unionBox(things.map(({ box }) => box));
	const step = makeStep(d, 'Line up', alignEdit(d, things, alignMoves(things, { ...wanted, to })));
	return step ? applyStep(d, step, 'forward') : d;
}
/** Boxes far from each other, so that none lies in another. */
const apart = fc
	.array(fc.tuple(numberIn(0, 30), numberIn(0, 30), numberIn(1, 20), numberIn(1, 20)), {
		minLength: 3,
		maxLength: 7
	})
	.map((list) => list.map(([x, y, w, h], i): Placed => [x + 60 * i, y + 60 * ((i * 3) % 7), w, h]));

describe('lining up', () => {
	test('twice is once, for every edge and middle', () => {
		fc.assert(
			fc.property(
				apart,
				fc.constantFrom('least', 'middle', 'most'),
				fc.constantFrom('across', 'up'),
				(list, where, axis) => {
					const wanted = { [axis]: where };
					const once = aligned(drawing(list), wanted);
					const values = boxes(once).map((b) =>
						axis === 'across'
							? { least: b.x0, middle: (b.x0 + b.x1) / 2, most: b.x1 }[where]
							: { least: b.y0, middle: (b.y0 + b.y1) / 2, most: b.y1 }[where]
					);
					for (const v of values) expect(v).toBeCloseTo(values[0], 9);
					const twice = boxes(aligned(once, wanted));
					boxes(once).forEach((b, i) => {
						expect(twice[i].x0).toBeCloseTo(b.x0, 9);
						expect(twice[i].y0).toBeCloseTo(b.y0, 9);
					});
				}
			),
			{ numRuns: 60 }
		);
	});

	test('to one that stays put, or to a sheet', () => {
		const d = drawing([
			[0, 0, 10, 10],
			[50, 40, 20, 6],
			[100, 90, 5, 30]
		]);
		const to = boxes(d)[1];
		const [a, b, c] = boxes(aligned(d, { across: 'most', up: 'middle', to }));
		expect(b).toEqual(to);
		expect([a.x1, c.x1]).toEqual([70, 70]);
		expect((a.y0 + a.y1) / 2).toBeCloseTo(43, 9);
	});
});

describe('spreading', () => {
	test('gaps are equal, the outermost stay; twice is once; the order does not matter', () => {
		fc.assert(
			fc.property(
				apart,
				fc.constantFrom('across', 'up'),
				fc.constantFrom('gaps', 'middles'),
				(list, axis, by) => {
					const wanted = { spread: { axis, by } } as const;
					const gaps = (d: Drawing) => {
						const k = boxes(d)
							.map((b) => (axis === 'across' ? [b.x0, b.x1] : [b.y0, b.y1]))
							.sort((p, q) => p[0] + p[1] - q[0] - q[1]);
						return k
							.slice(1)
							.map(([lo, hi], i) => (by === 'gaps' ? lo - k[i][1] : (lo + hi) / 2 - (k[i][0] + k[i][1]) / 2));
					};
					const once = aligned(drawing(list), wanted);
					for (const g of gaps(once)) expect(g).toBeCloseTo(gaps(once)[0], 8);
					const twice = boxes(aligned(once, wanted));
					boxes(once).forEach((b, i) => expect(twice[i].x0).toBeCloseTo(b.x0, 8));
					const back = boxes(aligned(drawing([...list].reverse()), wanted)).reverse();
					boxes(once).forEach((b, i) => {
						expect(back[i].x0).toBeCloseTo(b.x0, 8);
						expect(back[i].y0).toBeCloseTo(b.y0, 8);
					});
				}
			),
			{ numRuns: 60 }
		);
	});

	test('by a typed gap, from the first on', () => {
		const d = drawing([
			[0, 0, 10, 10],
			[100, 0, 20, 10],
			[40, 0, 5, 10]
		]);
		const [a, b, c] = boxes(aligned(d, { spread: { axis: 'across', by: 3 } }));
		expect([a.x0, c.x0, b.x0]).toEqual([0, 13, 21]);
	});
});

test('holes and what lies in a piece go along, whether they are selected or not', () => {
	const d = drawing([
		[0, 0, 40, 40],
		[10, 10, 5, 5],
		[100, 20, 10, 10]
	]);
	const [piece, hole, other] = outlinesOf(d);
	for (const selected of [
		[piece, other],
		[piece, hole, other]
	]) {
		const things = thingsOf(d, selected);
		expect(things.map(({ outlines }) => outlines.map(({ id }) => id))).toEqual([['o0', 'o1'], ['o2']]);
		const to = unionBox(things.map(({ box }) => box));
		const step = makeStep(d, 'x', alignEdit(d, things, alignMoves(things, { across: 'most', to })))!;
		const [, moved] = boxes(applyStep(d, step, 'forward'));
		expect(moved.x0).toBe(80);
		expect(applyStep(applyStep(d, step, 'forward'), step, 'back').records.get('o1')).toEqual(hole);
	}
});
