/** From a drawing to pieces and back: what goes with a piece, the sheets, and the way home. */
import { describe, expect, test } from 'vitest';
import {
	newDrawing,
	type Drawing,
	type DrawingRecord,
	type Layer,
	type Mark,
	type Sheet
} from '../document/drawing';
import { applyStep, makeStep } from '../document/history';
import { lineOf, outlineFromPath, type Outline } from '../document/outline';
import { circlePath, polygonPath, type Path } from '../geometry/path';
import {
	arrangedEdit,
	arrangeSheets,
	broughtHome,
	cameFromElsewhere,
	piecesOf,
	sheetFrom
} from './on-sheets';

const score: Layer = { type: 'layer', id: 'score', rank: 2, name: 'Score', purpose: 'score', colour: '#777' };
const sheet: Sheet = {
	type: 'sheet',
	id: 's',
	rank: 3,
	name: 'Board',
	x: 100,
	y: 50,
	width: 300,
	height: 200,
	margin: 5
};
let rank = 10;
const line = (id: string, path: Path, layer = 'cut') =>
	outlineFromPath(path, { id, name: id, layer, rank: ++rank } as Parameters<typeof outlineFromPath>[1]);
const mark: Mark = { type: 'mark', id: 'm', rank: 9, layer: 'cut', x: 5, y: 5 };

function drawing(...records: DrawingRecord[]): Drawing {
	const empty = newDrawing('d', 'd');
	return { ...empty, records: new Map([...empty.records, ...records.map((r) => [r.id, r] as const)]) };
}
const full = drawing(
	score,
	sheet,
	mark,
	line('plate', polygonPath([0, 0, 60, 0, 60, 40, 0, 40])),
	line('eye', circlePath(20, 20, 8)),
	line('pupil', circlePath(20, 20, 4)),
	line('crease', polygonPath([30, 5, 50, 35], false), 'score'),
	line('disc', circlePath(150, 0, 20))
);
const named = (d: Drawing, id: string) => d.records.get(id) as Outline;

describe('pieces of a drawing', () => {
	test('a piece is its outline with its holes; what lies on it goes with it; an island is a piece', () => {
		const pieces = piecesOf(full).map(({ lines, within }) => [lines.map((o) => o.id), [...within].sort()]);
		expect(pieces).toEqual([
			[
				['plate', 'eye'],
				['crease', 'm']
			],
			[['pupil'], []],
			[['disc'], []]
		]);
		expect(piecesOf(full, new Set(['crease'])).map(({ name }) => name)).toEqual(['plate']);
	});

	test('laid on the sheet and put back they are where they were, as lines and marks; undo brings the same', () => {
		const pieces = piecesOf(full);
		const map = [0, 1, -1, 0, 80, 10] as const;
		const step = makeStep(full, 'Arrange', arrangedEdit(full, pieces, [{ piece: 0, sheet: 0, map }]))!;
		const laid = applyStep(full, step, 'forward');
		// The corner at 60, 0 turned by 90 degrees, moved, and on the sheet at 100, 50.
		expect(Array.from(lineOf(named(laid, 'plate')).segs.slice(6, 8))).toEqual([180, 120]);
		expect(laid.records.get('m')).toMatchObject({ x: 175, y: 65 });
		expect([...cameFromElsewhere(laid)].sort()).toEqual(['crease', 'eye', 'm', 'plate']);
		// Laid a second time the way home is still the whole way.
		const twice = makeStep(
			laid,
			'Arrange',
			arrangedEdit(laid, piecesOf(laid), [{ piece: 0, sheet: 0, map }])
		)!;
		for (const start of [laid, applyStep(laid, twice, 'forward')]) {
			const home = makeStep(start, 'Put back', broughtHome(start, cameFromElsewhere(start)))!;
			const back = applyStep(start, home, 'forward');
			for (const id of ['plate', 'eye', 'crease']) {
				const [was, is] = [full, back].map((d) => lineOf(named(d, id)).segs);
				is.forEach((v, i) => expect(v).toBeCloseTo(was[i], 9));
			}
			expect(cameFromElsewhere(back)).toEqual([]);
		}
		expect(applyStep(laid, step, 'back').records.get('plate')).toEqual(full.records.get('plate'));
	});

	test('an outline as a sheet, with a place that is left out: neither is a piece any more', () => {
		const edit = sheetFrom(full, named(full, 'plate'), { id: 'hide', rank: 20 }, 'guides')!;
		const made = applyStep(full, makeStep(full, 'Sheet', edit)!, 'forward');
		const hide = made.records.get('hide') as Sheet;
		expect(hide).toMatchObject({ x: 0, y: 0, width: 60, height: 40, edge: 'plate' });
		const spoilt = { ...hide, spoilt: ['eye'] };
		const holed = { ...made, records: new Map([...made.records, ['hide', spoilt]]) };
		expect(piecesOf(holed).map(({ name }) => name)).toEqual(['pupil', 'disc']);
		const [, odd] = arrangeSheets(holed);
		expect(odd.usable?.map((path) => path.closed)).toEqual([true, true]);
		expect(sheetFrom(full, named(full, 'crease'), { id: 'x', rank: 1 }, 'g')).toBeUndefined();
	});
});
