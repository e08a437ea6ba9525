/** Marks: their forms as lines, and how they keep to their share of an edge. */
import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { numberIn } from '../../../../tests/numbers';
import { moveAnchors } from './edits/anchors';
import { copiesOf } from './edits/copies';
import { removeOutlines } from './edits/operations';
import { transformOutline } from './edits/transform';
import { turnBy } from '../geometry/maps';
import { isInside } from '../geometry/measure';
import { circlePath, polygonPath, reversePath, type Path } from '../geometry/path';
import { nearestOnPath } from '../geometry/pick';
import { completeEdit } from './complete-edit';
import { newDrawing, type Drawing, type DrawingRecord, type Mark } from './drawing';
import { applyStep, makeStep, type Edit } from './history';
import { MARK_FORMS } from './mark-forms';
import { formOf, markOff, markOn } from './marks';
import { lineOf, outlineFromPath, type Outline } from './outline';
import { output } from './output';
import { RECORDS } from './records';

const SQUARE = polygonPath([0, 0, 40, 0, 40, 40, 0, 40]);
const mark = (x: number, y: number, more: Partial<Mark> = {}): Mark => ({
	type: 'mark',
	id: 'm',
	rank: 20,
	layer: 'cut',
	x,
	y,
	...more
});
const outline = (path: Path): Outline =>
	outlineFromPath(path, { id: 'o', name: 'o', layer: 'cut', rank: 10 });
function drawing(...records: DrawingRecord[]): Drawing {
	const empty = newDrawing('d', 'd');
	return { ...empty, records: new Map([...empty.records, ...records.map((r) => [r.id, r] as const)]) };
}
function after(d: Drawing, edit: Edit): Drawing {
	const step = makeStep(d, 'Edit', completeEdit(d, edit).edit);
	return step ? applyStep(d, step, 'forward') : d;
}
const markIn = (d: Drawing) => d.records.get('m') as Mark;

describe('forms of marks', () => {
	test('a point has no line; every other form has, as large as it is said', () => {
		expect(formOf(mark(5, 5))).toEqual([]);
		for (const form of MARK_FORMS.slice(1)) {
			const lines = formOf(mark(5, 5, { form, size: 6, angle: 90 }));
			const xs = lines.flatMap(({ segs }) => [...segs].filter((_, i) => i % 2 === 0));
			const ys = lines.flatMap(({ segs }) => [...segs].filter((_, i) => i % 2 === 1));
			if (form !== 'slit') expect(Math.max(...xs) - Math.min(...xs)).toBeCloseTo(6, 9);
			expect(Math.max(...ys) - Math.min(...ys)).toBeCloseTo(6, 9);
		}
	});

	test('points go out as points, forms as lines for what their layer is for', () => {
		const d = drawing(outline(SQUARE), mark(5, 5));
		expect(output(d).marks).toHaveLength(1);
		const notched = after(d, { put: [mark(5, 5, { form: 'V' })] });
		expect(output(notched).marks).toHaveLength(0);
		expect(output(notched).lines).toHaveLength(2);
		expect(output(notched).lines[1]).toMatchObject({ purpose: 'cut', outline: { openOnPurpose: true } });
		expect(output(notched, { picked: new Set(['m']) }).lines).toHaveLength(1);
	});

	test('turned and scaled with a piece; only moved it keeps its angle to the bit', () => {
		const v = mark(5, 5, { form: 'V', size: 3, angle: 33 });
		expect(RECORDS.mark.carried!(v, [1, 0, 0, 1, 7, 8])).toEqual({ ...v, x: 12, y: 13 });
		expect(RECORDS.mark.carried!(v, turnBy(90, 0, 0)).angle).toBeCloseTo(123, 9);
		expect(RECORDS.mark.carried!(v, [2, 0, 0, 2, 0, 0]).size).toBeCloseTo(6, 9);
	});
});

describe('a mark on an edge', () => {
	test('goes to the nearest place and points into the piece, whichever way that runs', () => {
		for (const path of [SQUARE, reversePath(SQUARE)]) {
			const on = markOn(mark(11, -3, { form: 'slit', size: 5 }), outline(path));
			expect([on.x, on.y]).toEqual([11, 0]);
			expect(((on.angle! % 360) + 360) % 360).toBeCloseTo(90, 9);
			const [{ segs }] = formOf(on);
			expect(isInside(path, segs[6], segs[7], 0.01)).toBe(true);
		}
	});

	test('stays at its share of the edge while that changes; the others do not touch it', () => {
		const o = outline(SQUARE);
		let d = drawing(o, markOn(mark(10, 0, { form: 'V' }), o));
		expect(markIn(d).on).toMatchObject({ outline: 'o', share: 0.25 });
		// The edge made twice as long by its far corner.
		d = after(d, { put: [moveAnchors(o, new Set([o.anchors[1]]), 40, 0)] });
		expect([markIn(d).x, markIn(d).y]).toEqual([20, 0]);
		const before = markIn(d);
		d = after(d, { put: [moveAnchors(d.records.get('o') as Outline, new Set([o.anchors[3]]), -5, 9)] });
		expect([markIn(d).x, markIn(d).y]).toEqual([before.x, before.y]);
		// Turned, it turns along, and keeps its share.
		d = after(d, { put: [transformOutline(d.records.get('o') as Outline, turnBy(90, 0, 0))] });
		expect(markIn(d).x).toBeCloseTo(0, 9);
		expect(markIn(d).y).toBeCloseTo(20, 9);
		expect(((markIn(d).angle! % 360) + 360) % 360).toBeCloseTo(180, 9);
	});

	test('moved by hand it slides along the line; off it, it stays; with its line gone it stays too', () => {
		const o = outline(SQUARE);
		const d = drawing(o, markOn(mark(10, 0), o));
		const slid = after(d, { put: [{ ...markIn(d), x: 33, y: 4 }] });
		expect([markIn(slid).x, markIn(slid).y]).toEqual([33, 0]);
		expect(markIn(slid).on?.share).toBeCloseTo(33 / 40, 9);
		const off = after(slid, { put: [markOff(markIn(slid))] });
		expect(after(off, { put: [{ ...markIn(off), x: 50 }] }).records.get('m')).toMatchObject({ x: 50 });
		const gone = after(d, removeOutlines(d, new Set(['o'])));
		expect(markIn(gone)).toMatchObject({ x: 10, y: 0 });
		expect(markIn(gone).on).toBeUndefined();
	});

	test('whatever is done with a round line, the mark lies on it', () => {
		fc.assert(
			fc.property(
				fc.array(fc.tuple(fc.nat(20), numberIn(-4, 4), numberIn(-4, 4)), { maxLength: 12 }),
				(moves) => {
					const o = outline(circlePath(0, 0, 30));
					let d = drawing(o, markOn(mark(25, 12), o));
					for (const [at, dx, dy] of moves) {
						const now = d.records.get('o') as Outline;
						d = after(d, {
							put: [moveAnchors(now, new Set([now.anchors[at % now.anchors.length]]), dx, dy)]
						});
					}
					const { x, y } = markIn(d);
					expect(nearestOnPath(lineOf(d.records.get('o') as Outline), x, y, 100)!.distance).toBeLessThan(
						1e-6
					);
				}
			)
		);
	});
});

test('copied with its line it lies on the copy; copied alone on none', () => {
	const o = outline(SQUARE);
	const d = drawing(o, markOn(mark(10, 0), o));
	let n = 0;
	const ids = () => `n${n++}`;
	const both = after(d, copiesOf(d, [o, markIn(d)], [1, 0, 0, 1, 100, 0], ids));
	const copy = [...both.records.values()].find((r) => r.type === 'mark' && r.id !== 'm') as Mark;
	expect(copy).toMatchObject({ x: 110, y: 0, on: { outline: 'n0', share: 0.25 } });
	const alone = after(d, copiesOf(d, [markIn(d)], [1, 0, 0, 1, 0, 9], ids));
	const free = [...alone.records.values()].find((r) => r.type === 'mark' && r.id !== 'm') as Mark;
	expect(free.on).toBeUndefined();
	expect(free).toMatchObject({ x: 10, y: 9 });
});
