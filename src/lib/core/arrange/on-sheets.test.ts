/** From a drawing to pieces and back: what goes with a piece, the sheets, and the way home. */
import { describe, expect, test } from 'vitest';
import {
	newDrawing,
	outlinesOf as outlinesIn,
	sheetsOf,
	type Drawing,
	type DrawingRecord,
	type Layer,
	type Mark,
	type Repeat,
	type Sheet
} from '../document/drawing';
import { completeEdit } from '../document/complete-edit';
import { grouped } from '../document/edits/groups';
import { addRepeat } from '../document/edits/repeats';
import { applyStep, makeStep, type Edit } from '../document/history';
import { lineOf, outlineFromPath, type Grain, type Outline } from '../document/outline';
import { boxOfRepeat } from '../document/repeats';
import { boxOf } from '../geometry/pick';
import { circlePath, polygonPath, type Affine, type Path } from '../geometry/path';
import {
	arrangedEdit,
	arrangePieces,
	arrangeSheets,
	asWanted,
	broughtHome,
	cameFromElsewhere,
	piecesOf,
	repeatsOfPieces,
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
let made = 0;
const newId = () => `new${made++}`;
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
		const step = makeStep(full, 'Arrange', arrangedEdit(full, pieces, [{ piece: 0, sheet: 0, map }], newId))!;
		const laid = applyStep(full, step, 'forward');
		// The corner at 60, 0 turned by 90 degrees, moved, and on the sheet at 100, 50.
		expect(Array.from(lineOf(named(laid, 'plate')).segs.slice(6, 8))).toEqual([180, 120]);
		expect(laid.records.get('m')).toMatchObject({ x: 175, y: 65 });
		expect([...cameFromElsewhere(laid)].sort()).toEqual(['crease', 'eye', 'm', 'plate']);
		// Laid a second time the way home is still the whole way.
		const twice = makeStep(
			laid,
			'Arrange',
			arrangedEdit(laid, piecesOf(laid), [{ piece: 0, sheet: 0, map }], newId)
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

describe('what is wanted of a piece', () => {
	const after = (d: Drawing, edit: Edit) =>
		applyStep(d, makeStep(d, 'Edit', completeEdit(d, edit).edit)!, 'forward');
	const at = (piece: number, x: number) => ({ piece, sheet: 0, map: [1, 0, 0, 1, x, 20] as Affine });

	test('as often as it is wanted: copies with their holes and what lies in them; what found no room is still wanted', () => {
		const wanted = { ...named(full, 'plate'), wanted: 4 };
		const d = drawing(...[...full.records.values()].map((r) => (r.id === 'plate' ? wanted : r)));
		const pieces = asWanted(piecesOf(d));
		expect(pieces).toHaveLength(6);
		expect(pieces.map(({ copy }) => copy)).toEqual([undefined, 1, 2, 3, undefined, undefined]);
		const laid = after(d, arrangedEdit(d, pieces, [at(0, 10), at(1, 80), at(2, 150)], newId));
		const plates = outlinesIn(laid).filter(({ name }) => /^plate/.test(name));
		expect(plates.map(({ name }) => name).sort()).toEqual(['plate', 'plate 2', 'plate 3']);
		expect(plates.map((o) => boxOf(lineOf(o)).x0).sort((a, b) => a - b)).toEqual([110, 180, 250]);
		expect(named(laid, 'plate').wanted).toBe(2);
		expect(
			plates.filter(({ id }) => id !== 'plate').every((o) => o.wanted === undefined && o.home === undefined)
		).toBe(true);
		expect(outlinesIn(laid).filter(({ name }) => /^eye/.test(name))).toHaveLength(3);
		expect(outlinesIn(laid).filter(({ name }) => /^crease/.test(name))).toHaveLength(3);
		// All laid: no more are wanted than are there.
		const all = after(
			d,
			arrangedEdit(
				d,
				pieces,
				[0, 1, 2, 3].map((k) => at(k, 10 + 65 * k)),
				newId
			)
		);
		expect(named(all, 'plate').wanted).toBeUndefined();
		expect(asWanted(piecesOf(all))).toHaveLength(6);
	});

	test('by the grain: as it runs on the material, within some degrees, either way or one', () => {
		const grained = (grain: Grain) => drawing({ ...sheet, grain: 90 }, { ...named(full, 'disc'), grain });
		const turns = (grain: Grain) => {
			const d = grained(grain);
			return arrangePieces(piecesOf(d), 'free', sheetsOf(d))[0].turns;
		};
		expect(turns({ angle: 0, within: 0 })).toEqual([90, 270]);
		expect(turns({ angle: 30, within: 0, oneWay: true })).toEqual([60]);
		const loose = turns({ angle: 90, within: 10, oneWay: true }) as number[];
		expect(Math.max(...loose.map(Math.abs))).toBe(10);
		expect(loose).toContain(0);
		// A piece without a grain, or a material without one, is turned as the rest is.
		const d = drawing(sheet, { ...named(full, 'disc'), grain: { angle: 0, within: 0 } });
		expect(arrangePieces(piecesOf(d), 'free', sheetsOf(d))[0].turns).toBe('free');
	});

	test('a group is one piece that moves as it is; a repeat in a piece goes along; one of whole pieces is named', () => {
		let d = after(full, grouped(full, ['plate', 'disc'], { id: 'g', name: 'Puppet' }));
		const pieces = piecesOf(d);
		expect(pieces.map(({ name }) => name).sort()).toEqual(['Puppet', 'pupil']);
		const puppet = pieces.find(({ name }) => name === 'Puppet')!;
		expect(puppet.lines.map(({ id }) => id).sort()).toEqual(['disc', 'eye', 'plate']);
		const rule = { way: 'rows', columns: 2, rows: 1, right: 5, up: 5, angle: 0, stagger: 0 } as const;
		d = after(full, addRepeat(full, [named(full, 'crease')], rule, { id: 'r', name: 'Creases' }));
		const plate = piecesOf(d).find(({ name }) => name === 'plate')!;
		expect([...plate.within].sort()).toEqual(['crease', 'm', 'r']);
		expect(repeatsOfPieces(d)).toEqual([]);
		const turned = after(
			d,
			arrangedEdit(d, [plate], [{ piece: 0, sheet: 0, map: [0, 1, -1, 0, 80, 10] }], newId)
		);
		const before = boxOfRepeat(d, d.records.get('r') as Repeat);
		const now = boxOfRepeat(turned, turned.records.get('r') as Repeat);
		expect(now.y1 - now.y0).toBeCloseTo(before.x1 - before.x0, 9);
		expect(now.x1 - now.x0).toBeCloseTo(before.y1 - before.y0, 9);
		const home = after(turned, broughtHome(turned, cameFromElsewhere(turned)));
		const back = boxOfRepeat(home, home.records.get('r') as Repeat);
		Object.values(back).forEach((v, i) => expect(v).toBeCloseTo(Object.values(before)[i], 6));
		d = after(
			full,
			addRepeat(full, [named(full, 'disc')], { ...rule, right: 50 }, { id: 'q', name: 'Discs' })
		);
		expect(repeatsOfPieces(d).map(({ name }) => name)).toEqual(['Discs']);
	});
});
