/** From a drawing to jobs: what a sheet asks for, and what of it each job takes. */
import { describe, expect, test } from 'vitest';
import {
	newDrawing,
	type Drawing,
	type DrawingRecord,
	type Layer,
	type Mark,
	type Sheet
} from '../document/drawing';
import { outlineFromPath } from '../document/outline';
import { flattenPath } from '../geometry/edge-tree';
import { pathBox } from '../geometry/measure';
import { circlePath, polygonPath, type Path } from '../geometry/path';
import { finish } from '../progress';
import { readWorkshop, writeWorkshop } from '../formats/workshop-file';
import { gcodeExample } from '../formats/gcode-example';
import { drawnMoves } from './drawn';
import { planSteps } from './plan';
import { piecesOf } from '../arrange/on-sheets';
import { nestLines } from './compensate';
import { howFor, jobInput, jobsFor, outputOn, setupFrom, workSheet } from './recipe';
import { STOCK } from './stock';

const score: Layer = { type: 'layer', id: 'score', rank: 2, name: 'Score', purpose: 'score', colour: '#777' };
const sheet: Sheet = {
	type: 'sheet',
	id: 's',
	rank: 3,
	name: 'Board',
	x: 100,
	y: -50,
	width: 300,
	height: 200,
	margin: 5
};
const mark: Mark = { type: 'mark', id: 'm', rank: 9, layer: 'cut', x: 150, y: 0 };
const line = (id: string, path: Path, layer = 'cut') =>
	outlineFromPath(path, { id, name: id, layer, rank: 5 } as Parameters<typeof outlineFromPath>[1]);

function drawing(...records: DrawingRecord[]): Drawing {
	const empty = newDrawing('d', 'd');
	return { ...empty, records: new Map([...empty.records, ...records.map((r) => [r.id, r] as const)]) };
}
const full = drawing(
	score,
	sheet,
	mark,
	line('disc', circlePath(150, 0, 20)),
	line('slit', polygonPath([200, 0, 220, 0], false)),
	line('crease', polygonPath([130, 0, 170, 0], false), 'score')
);
let n = 0;
const newId = () => `job ${++n}`;
const setup = (machine: string) => setupFrom(STOCK, { machine })!;

describe('jobs for a sheet', () => {
	test('what is scored comes first, then slits, drilled holes, and last what is cut out', () => {
		const laser = jobsFor(full, setup('laser'), newId, 10);
		expect(laser.map((j) => [j.name, j.side])).toEqual([
			['Score', 'on'],
			['Slits', 'on'],
			['Cut out', 'outside']
		]);
		const router = jobsFor(full, setup('router'), newId, 10);
		expect(router.map((j) => j.side)).toEqual(['on', 'drill', 'on', 'outside']);
		// Through the material and a little below; held by tabs.
		expect(router.at(-1)!.how).toMatchObject({ depth: 3.2, pass: 1.5, tabs: { count: 3 } });
		expect(jobsFor(full, setup('knife'), newId, 10).map((j) => j.side)).toEqual(['on', 'on']);
		expect(new Set(router.map((j) => j.rank)).size).toBe(4);
	});
	test('a job takes its own lines, in the coordinates of the sheet', () => {
		const jobs = jobsFor(full, setup('router'), newId, 10);
		const of = (side: number) => jobInput(full, jobs[side], workSheet(full)!);
		expect(of(3).ids).toEqual(['disc']);
		expect(of(2).ids).toEqual(['slit']);
		expect(of(1).input.points).toEqual([{ x: 50, y: 50 }]);
		expect([...of(2).input.lines[0].path.segs.slice(0, 2)]).toEqual([100, 50]);
		for (const k of [0, 1, 2, 3]) {
			const { input, settings } = of(k);
			const plan = finish(planSteps(input, settings));
			expect(plan.ok && plan.value.cuts.length).toBe(1);
		}
	});
	test('places set by hand lie on the sheet, line by line', () => {
		const [job] = jobsFor(full, setup('router'), newId, 10).slice(-1);
		const byHand = {
			...job,
			how: { ...job.how, starts: { disc: [170, 0] as const, gone: [0, 0] as const }, fixed: ['gone', 'disc'] }
		};
		const { settings } = jobInput(full, byHand, workSheet(full)!);
		expect([settings.starts, settings.fixed]).toEqual([{ 0: [70, 50] }, [0]]);
	});
	test('axes that are not square are taken out: such a machine comes to the drawn places', () => {
		const [job] = jobsFor(full, setup('laser'), newId, 10).slice(-1);
		const offSquare = 0.4;
		const made = jobInput(full, { ...job, machine: { ...job.machine, offSquare } }, workSheet(full)!);
		const rad = (offSquare * Math.PI) / 180;
		const { path } = made.input.lines[0];
		const flat = flattenPath(path, 1e-4);
		for (let i = 0; i < flat.length; i += 2) {
			// Where a machine comes whose y axis leans by that much.
			const [x, y] = [flat[i] + flat[i + 1] * Math.sin(rad), flat[i + 1] * Math.cos(rad)];
			expect(Math.abs(Math.hypot(x - 50, y - 50) - 20)).toBeLessThan(1e-3);
		}
	});

	test('openings come out wider by the play, pieces as drawn', () => {
		const holed = drawing(
			line('plate', polygonPath([0, 0, 60, 0, 60, 40, 0, 40])),
			line('slot', polygonPath([20, 10, 23, 10, 23, 30, 20, 30]))
		);
		const [job] = jobsFor(holed, setup('laser'), newId, 10);
		const made = jobInput(holed, { ...job, how: { ...job.how, play: 0.1 } }, workSheet(holed)!);
		const wide = made.input.lines.map(({ path }) => pathBox(path)).map((b) => b.x1 - b.x0);
		expect(wide[0]).toBeCloseTo(60, 6);
		expect(wide[1]).toBeCloseTo(3.1, 3);
	});

	test('a V bit engraves closed lines as deep as they are wide, open ones on the line', () => {
		const engraved: Layer = { ...score, id: 'engrave', purpose: 'engrave' };
		const letters = drawing(
			engraved,
			line('o', circlePath(50, 50, 20), 'engrave'),
			line('dash', polygonPath([0, 0, 20, 0], false), 'engrave')
		);
		const vee = setupFrom(STOCK, { machine: 'router', tool: 'vee-60' })!;
		expect(jobsFor(letters, vee, newId, 10).map(({ side, takes }) => [side, takes])).toEqual([
			['groove', { purposes: ['engrave'], which: 'closed' }],
			['on', { purposes: ['engrave'], which: 'open' }]
		]);
	});

	test('without a sheet it is what goes out, with room around it; an empty drawing has none', () => {
		const bare = drawing(line('disc', circlePath(0, 0, 20)));
		expect(workSheet(bare)).toEqual({ x: -30, y: -30, width: 60, height: 60, isLaid: false });
		expect(workSheet(drawing())).toBeUndefined();
		expect(jobsFor(drawing(), setup('laser'), newId, 1)).toEqual([]);
	});
	test('a hole that is said to be a piece is cut outside, and goes to the sheet by itself', () => {
		const plate = line('plate', circlePath(200, 50, 40));
		const disc = line('disc', circlePath(200, 50, 20));
		const widths = (d: Drawing) => {
			const cut = jobsFor(d, setup('router'), newId, 1).find(({ side }) => side === 'outside')!;
			const { input } = jobInput(d, cut, workSheet(d)!);
			return nestLines(input.lines)
				.depth.map((depth) => depth % 2)
				.sort();
		};
		expect(widths(drawing(sheet, plate, disc))).toEqual([0, 1]);
		expect(widths(drawing(sheet, plate, { ...disc, standing: 'piece' }))).toEqual([0, 0]);
		expect(piecesOf(drawing(sheet, plate, disc))).toHaveLength(1);
		expect(piecesOf(drawing(sheet, plate, { ...disc, standing: 'piece' }))).toHaveLength(2);
	});
	test('of two sheets only what lies on the one that is worked on goes to the machine, from its own corner', () => {
		const other: Sheet = { ...sheet, id: 't', rank: 4, name: 'Second', x: 500, y: 0 };
		const two = drawing(
			sheet,
			other,
			mark,
			{ ...mark, id: 'n', x: 600, y: 50 },
			line('a', circlePath(150, 0, 20)),
			line('b', circlePath(560, 40, 20)),
			line('c', circlePath(450, 0, 5))
		);
		const cut = jobsFor(two, setup('router'), newId, 1).find(({ side }) => side === 'outside')!;
		const on = (id?: string) => jobInput(two, cut, workSheet(two, id)!);
		// What lies on no sheet is still told of on each.
		expect(on().ids).toEqual(['a', 'c']);
		expect(on('t').ids).toEqual(['b', 'c']);
		const box = pathBox(on('t').input.lines[0].path);
		expect(box.x0).toBeCloseTo(40, 9);
		expect(box.y0).toBeCloseTo(20, 9);
		expect(outputOn(two, workSheet(two, 't')!).marks.map((m) => m.mark.id)).toEqual(['n']);
		expect(workSheet(two, 'gone')?.id).toBe('s');
	});
	test('what does not go together is not offered', () => {
		const { machine, tool } = setup('router');
		const felt = STOCK.materials.find((m) => m.id === 'felt-3')!;
		expect(howFor({ machine, tool, material: felt }, 'cut')).toBeUndefined();
		expect(setupFrom(STOCK, { machine: 'router', tool: 'blade', material: 'felt-3' })).toMatchObject({
			tool: { machine: 'router' },
			material: { id: 'birch-3' }
		});
		expect(setupFrom({ machines: [], tools: [], materials: [] }, {})).toBeUndefined();
	});
});

describe('the workshop’s file', () => {
	const bytes = (value: unknown) => new TextEncoder().encode(JSON.stringify(value));
	test('what is written is read', () => {
		expect(readWorkshop(writeWorkshop(STOCK))).toEqual({ ok: true, value: STOCK });
	});
	test('nonsense is refused in one sentence that says where', () => {
		expect(readWorkshop(new TextEncoder().encode('no'))).toMatchObject({ ok: false });
		const bad = { ...STOCK, tools: [{ ...STOCK.tools[0], tool: { kind: 'beam', kerf: 0 } }] };
		const read = readWorkshop(bytes(bad));
		expect(read.ok ? '' : read.problem.sentence).toMatch(
			/^This file is no workshop: tools 0 tool.* must be > 0\.$/
		);
	});
	test('each machine’s words make a file that our reader understands; nonsense in them is told with its line', () => {
		for (const machine of STOCK.machines.filter((m) => m.language === 'gcode'))
			expect(gcodeExample(machine).faults).toEqual([]);
		const [laser] = STOCK.machines;
		const words = { start: 'G21 G90 G17\nhello there', on: 'M3 S{speed}', off: 'M5', end: 'M30' };
		expect(gcodeExample({ ...laser, words }).faults).toEqual([
			{ line: 2, why: '"HELLOTHERE" is not understood.' }
		]);
		expect(gcodeExample({ ...laser, words: { ...words, start: 'G90' } }).faults[0].why).toMatch(
			/units are not known/
		);
	});
});

describe('moves as lines', () => {
	test('a way that is gone at three depths is one closed line, where the sheet lies', () => {
		const plan = finish(
			planSteps(
				{ lines: [{ path: circlePath(50, 50, 20), name: 'disc' }] },
				{ tool: { kind: 'cutter', diameter: 4 }, side: 'outside', feed: 900, depth: 6, pass: 2 }
			)
		);
		if (!plan.ok) throw new Error(plan.problem.sentence);
		const { cuts } = drawnMoves(plan.value.moves, 100, 0);
		expect(cuts.map((c) => c.closed)).toEqual([true]);
		expect(Math.hypot(cuts[0].segs[0] - 150, cuts[0].segs[1] - 50)).toBeCloseTo(22, 2);
	});
});
