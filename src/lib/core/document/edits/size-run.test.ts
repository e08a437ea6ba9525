/** Size runs, against worked examples of common practice in pattern making: a quarter of the girth plus ease, grades 40 mm apart. */
import { describe, expect, test } from 'vitest';
import { unwrap } from '../../errors';
import { polygonPath } from '../../geometry/path';
import { boxOf } from '../../geometry/pick';
import { readDrawingFile, writeDrawingFile } from '../../formats/drawing-file';
import { completeEdit } from '../complete-edit';
import {
	marksOf,
	newDrawing,
	outlinesOf,
	recordAs,
	recordsOf,
	type Drawing,
	type DrawingRecord
} from '../drawing';
import { edgesOf, withEdge } from '../edges';
import { applyStep, makeStep, type Edit } from '../history';
import type { HoldKind } from '../holds/hold';
import { holdAsIs } from '../holds/offers';
import { markOn } from '../marks';
import { lineOf, outlineFromPath, placeOfAnchor } from '../outline';
import '../recipes/reckonings';
import { addFollower } from './made';
import {
	badGrade,
	drawnIn,
	nested,
	runFromTable,
	runOf,
	valuesIn,
	withGrade,
	withoutGrade,
	withValue
} from './size-run';

let made = 0;
const newId = () => `new ${++made}`;
const act = (drawing: Drawing, edit: Edit): Drawing => {
	const step = makeStep(drawing, 'x', completeEdit(drawing, edit).edit);
	return step ? applyStep(drawing, step, 'forward') : drawing;
};

/** The block of a straight skirt: hem, side seam, waist, middle; a quarter of the hip plus 5 mm ease wide, waist to hip 200 deep. */
function skirt(): Drawing {
	const block = outlineFromPath(polygonPath([0, 0, 225, 0, 225, 600, 0, 600]), {
		id: 'block',
		name: 'Front',
		layer: 'cut',
		rank: 5
	});
	const lines = new Map([[block.id, block]]);
	const [a, b, c, d] = block.anchors;
	const hold = (kind: HoldKind, value: string | undefined, ...anchors: number[]) => {
		const own = holdAsIs(
			kind,
			anchors.map((anchor) => ({ outline: 'block', anchor })),
			lines,
			{ id: newId(), rank: 10 + made }
		);
		return value === undefined ? own : { ...own, value };
	};
	const size = (name: string, value: string): DrawingRecord => ({
		type: 'size',
		id: `size ${name}`,
		rank: 6,
		name,
		value
	});
	let drawing = act(newDrawing('d', 'Skirt'), { put: [block, size('hip', '880'), size('long', '600')] });
	drawing = act(drawing, {
		put: [
			hold('pin', undefined, a),
			hold('level', undefined, a, b),
			hold('plumb', undefined, b, c),
			hold('level', undefined, c, d),
			hold('plumb', undefined, d, a),
			hold('length', 'hip / 4 + 5', a, b),
			hold('length', 'long', b, c)
		]
	});
	return drawing;
}
const place = (drawing: Drawing, k: number, id = 'block') => {
	const own = recordAs(drawing, 'outline', id);
	return placeOfAnchor(own, own.anchors[k])!;
};
const TABLE = 'size\t36\t38\t40\t42\nhip\t880\t920\t960\t1000\nlong\t600\t600\t610\t620';

describe('grades', () => {
	test('a quarter of the hip plus 5: 225, 235, 245, 255; drawn one after the other, and back to the bit', () => {
		const drawing = act(skirt(), runFromTable(skirt(), TABLE, newId));
		const run = runOf(drawing)!;
		expect(run.now).toBe('36');
		let now = drawing;
		for (const [grade, wide, long] of [
			['38', 235, 600],
			['42', 255, 620],
			['40', 245, 610],
			['36', 225, 600]
		] as const) {
			now = act(now, drawnIn(now, grade));
			expect(place(now, 2).x).toBeCloseTo(wide, 9);
			expect(place(now, 2).y).toBeCloseTo(long, 9);
			expect(valuesIn(now, runOf(now)!, '40')).toEqual({ hip: 960, long: 610 });
		}
		expect(recordsOf(now, 'size').map(({ name, value }) => [name, value])).toEqual([
			['hip', '880'],
			['long', '600']
		]);
	});
	test('a grade is added with the values of the last, changed, and taken out again', () => {
		let drawing = act(skirt(), withGrade(skirt(), 'S'));
		drawing = act(drawing, withGrade(drawing, 'M'));
		const hip = recordsOf(drawing, 'size').find(({ name }) => name === 'hip')!;
		drawing = act(drawing, { put: [withValue(hip, runOf(drawing)!, 'M', 'long + 360')] });
		expect(valuesIn(drawing, runOf(drawing)!, 'M').hip).toBe(960);
		drawing = act(drawing, drawnIn(drawing, 'M'));
		expect(place(drawing, 1).x).toBeCloseTo(245, 9);
		expect(badGrade('M', runOf(drawing))).toContain('already');
		expect(badGrade(' ', runOf(drawing))).toContain('name');
		drawing = act(drawing, withoutGrade(drawing, runOf(drawing)!, 'M'));
		expect(runOf(drawing)).toMatchObject({ grades: ['S'], now: 'S' });
		expect(place(drawing, 1).x).toBeCloseTo(225, 9);
		expect(runOf(act(drawing, withoutGrade(drawing, runOf(drawing)!, 'S')))).toBeUndefined();
	});
	test('tables that are none are refused in a sentence', () => {
		for (const text of ['', 'size', 'size,S,S\nhip,1,2', 'size;S;M\nhip;4'])
			expect(() => runFromTable(skirt(), text, newId)).toThrow(/table|no value/);
	});
});

describe('nested', () => {
	test('every grade over the drawn one, with its allowance and notches; once more takes the place of the first', () => {
		let drawing = skirt();
		const block = recordAs(drawing, 'outline', 'block');
		const [hem] = edgesOf(block);
		drawing = act(drawing, { put: [withEdge(block, hem.id, { width: 30 })] });
		drawing = act(
			drawing,
			addFollower('allowance', { width: 10, corner: 'miter' }, [recordAs(drawing, 'outline', 'block')], {
				id: 'seam',
				name: 'Front, cut',
				layer: 'cut',
				rank: 9
			})
		);
		const notch = markOn(
			{ type: 'mark', id: 'notch', rank: 30, layer: 'cut', form: 'T', x: 225, y: 300 },
			recordAs(drawing, 'outline', 'block')
		);
		drawing = act(drawing, { put: [notch] });
		drawing = act(drawing, runFromTable(drawing, TABLE, newId));
		const all = act(drawing, nested(drawing, newId));
		const named = (name: string) => outlinesOf(all).find((o) => o.name === name)!;
		expect(outlinesOf(all)).toHaveLength(8);
		expect(place(all, 2).x).toBeCloseTo(225, 9);
		expect(place(all, 2, named('Front, 42').id)).toMatchObject({
			x: expect.closeTo(255, 9),
			y: expect.closeTo(620, 9)
		});
		expect(named('Front, cut, 40').recipe!.inputs[0].record).toBe(named('Front, 40').id);
		expect(boxOf(lineOf(named('Front, cut, 40'))).x1).toBeCloseTo(255, 6);
		expect(named('Front, 42').group).toBe('run 42');
		const again = act(all, nested(all, newId));
		expect(outlinesOf(again)).toHaveLength(8);
		const file = unwrap(readDrawingFile(writeDrawingFile(again, new Map())));
		expect(file.drawing.records.get('run')).toEqual(runOf(again));
		const notches = marksOf(again).filter(({ group }) => group === 'run 42');
		expect(notches.map(({ x }) => x)).toEqual([expect.closeTo(255, 6)]);
		// Lying together on another corner.
		const on = act(drawing, nested(drawing, newId, { outline: 'block', anchor: block.anchors[2] }));
		const other = outlinesOf(on).find((o) => o.name === 'Front, 42')!;
		expect(place(on, 2, other.id)).toEqual(place(on, 2));
	});
	test('without a run, or where nothing goes by the sizes, it is said', () => {
		expect(() => nested(skirt(), newId)).toThrow('two grades');
		const loose = newDrawing('d', 'd');
		const run = act(loose, runFromTable(loose, TABLE, newId));
		expect(() => nested(run, newId)).toThrow('No line changes');
	});
});
