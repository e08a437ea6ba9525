/** G-code and HP-GL, both ways. Sources: RS274/NGC, NISTIR 6556 (sections named); HP-GL's unit of 0.025 mm and words from memory. */
import { describe, expect, test } from 'vitest';
import { circlePath, polygonPath } from '../geometry/path';
import { unwrap } from '../errors';
import { pathArea } from '../geometry/measure';
import { finish } from '../progress';
import { cutsApart } from '../toolpath/judge';
import { FEED, moveAt, MovesBuilder, RAPID } from '../toolpath/moves';
import { planSteps } from '../toolpath/plan';
import type { CutSettings } from '../toolpath/settings';
import { readLines } from './formats';
import { readGcode } from './gcode-read';
import { writeGcode } from './gcode-write';
import { readHpgl } from './hpgl-read';
import { HPGL_UNIT, writeHpgl } from './hpgl-write';
import { writeMovesSvg } from './moves-svg';

const HEAD = 'G21 G90 G17\nF600\nM3 S1000\n';
const read = (body: string) => readGcode(`${HEAD}${body}\nM5\nM30`);
const ends = (body: string) => {
	const { moves } = read(body);
	return Array.from({ length: moves.kinds.length }, (_, i) =>
		[...moves.to.slice(3 * i, 3 * i + 3)].map((v) => +v.toFixed(4))
	);
};
const whys = (text: string) => readGcode(text).faults.map((f) => `${f.line}: ${f.why}`);

describe('G-code as NISTIR 6556 says', () => {
	test('modal words hold until another of their group comes (2.4)', () => {
		const { moves, faults } = read('G0 X1\nY2\nG1 X3\nY4\nG0 X0');
		expect(faults).toEqual([]);
		expect([...moves.kinds]).toEqual([RAPID, RAPID, FEED, FEED, RAPID]);
		expect([...moves.feeds]).toEqual([0, 0, 600, 600, 0]);
	});
	test('two words of one modal group on a line are an error (3.4)', () => {
		expect(whys(`${HEAD}G0 G1 X3\nM30`)).toEqual(['4: G0 and G1 cannot stand on one line.']);
		expect(whys(`${HEAD}M3 M5\nM30`)).toEqual(['4: M3 and M5 cannot stand on one line.']);
		expect(whys(`${HEAD}G1 X1 X2\nM30`)).toEqual(['4: X stands there twice.']);
	});
	test('everything on a line is done in one order, whatever the order of its words (3.8)', () => {
		// The spindle and the feed come before the move, the end after it.
		const { moves, isEnded, faults } = readGcode('G21 G90\nX10 G1 M3 F300 S50 M30');
		expect(faults).toEqual([]);
		expect([moves.on[0], moves.feeds[0], isEnded]).toEqual([1, 300, true]);
	});
	test('inches and millimetres (3.5.7), absolute and relative (3.5.17)', () => {
		expect(ends('G20 G0 X1 Y2\nG21 X1 Y2')).toEqual([
			[25.4, 50.8, 0],
			[1, 2, 0]
		]);
		expect(ends('G0 X5 Y5\nG91 X1 Y-2\nX1\nG90 X1')).toEqual([
			[5, 5, 0],
			[6, 3, 0],
			[7, 3, 0],
			[1, 3, 0]
		]);
	});
	test('arcs by centre: G2 clockwise, G3 anticlockwise, I J from the start (3.5.3.2)', () => {
		const quarter = read('G0 X10 Y0\nG3 X0 Y10 I-10 J0').moves;
		const at = moveAt(quarter, 1, 0.5);
		expect([at.x, at.y].map((v) => +v.toFixed(6))).toEqual([7.071068, 7.071068]);
		const far = read('G0 X10 Y0\nG2 X0 Y10 I-10 J0').moves;
		// Three quarters the other way round, in parts of at most a half.
		expect(far.kinds.length).toBe(3);
		const first = moveAt(far, 1, 0.5);
		expect(first.y).toBeLessThan(0);
		// The end where the start is: a whole circle.
		expect(read('G0 X10 Y0\nG2 X10 Y0 I-10').moves.kinds.length).toBe(3);
		// With Z it is a helix.
		expect(moveAt(read('G0 X10 Y0 Z4\nG3 X-10 Y0 Z0 I-10').moves, 1, 0.5).z).toBeCloseTo(2, 9);
	});
	test('arcs by radius: the shorter for one above 0, the longer below (3.5.3.1)', () => {
		const short = moveAt(read('G0 X0 Y0\nG2 X10 Y0 R10').moves, 1, 0.5);
		expect([short.x, short.y].map((v) => +v.toFixed(4))).toEqual([5, 1.3397]);
		const { moves } = read('G0 X0 Y0\nG3 X10 Y0 R-10');
		expect(Math.min(...[0.25, 0.5, 0.75, 1].map((t) => moveAt(moves, 1, t).y))).toBeLessThan(-5);
		expect(whys(`${HEAD}G0 X0 Y0\nG2 X0 Y0 R5\nM30`)[0]).toMatch(/could be any circle/);
		expect(whys(`${HEAD}G0 X0 Y0\nG2 X30 Y0 R5\nM30`)[0]).toMatch(/does not reach/);
	});
	test('an arc whose radii differ is an error past 0.002 mm', () => {
		expect(whys(`${HEAD}G0 X10 Y0\nG3 X0 Y10.001 I-10\nM30`)).toEqual([]);
		expect(whys(`${HEAD}G0 X10 Y0\nG3 X0 Y10.5 I-10\nM30`)[0]).toMatch(
			/radii of an arc differ by 0\.5000 mm/
		);
	});
	test('comments, line numbers, blanks and small letters (3.3)', () => {
		expect(ends('N10 g1 x 1 0 (a (no) y2)\n')).toEqual([]);
		expect(ends('N10 g1 x 1 . 5 (here) y2 ; there\n/G1 X3')).toEqual([
			[1.5, 2, 0],
			[3, 2, 0]
		]);
	});
	test('what is not understood is told by its line, in one sentence, and the rest is read', () => {
		expect(whys('G21 G90 G17\nF100\nG1 X1\nhello\nG1 X#3\nM30')).toEqual([
			'4: "HELLO" is not understood.',
			'5: "X#3" is not understood.'
		]);
		expect(whys('G1 X1\nM30')).toEqual([
			'1: A move before G20 or G21: its units are not known; taken as millimetres.',
			'1: A cut before a feed is set.'
		]);
		expect(whys('G21\nF0\nX3')).toEqual([
			'2: The feed is 0 or less.',
			'3: A place without a word of motion.',
			'3: The program has no end: M2 or M30 is missing.'
		]);
		expect(whys('G21 G18 G41 G93\nM30\nG0 X1').length).toBe(4);
	});
});

const LINES = [
	{ path: circlePath(60, 60, 40), name: 'disc (large)' },
	{ path: polygonPath([45, 50, 75, 50, 60, 78]), name: 'window' }
];
function plan(settings: CutSettings) {
	const made = finish(planSteps({ lines: LINES }, settings));
	if (!made.ok) throw new Error(made.problem.sentence);
	return made.value;
}
const CUTTER = { kind: 'cutter', diameter: 3 } as const;
const ROUTED = plan({
	tool: CUTTER,
	side: 'outside',
	feed: 900,
	depth: 4,
	pass: 2,
	ramp: 6,
	tabs: { count: 3, width: 4, height: 1 }
});
const BURNT = plan({ tool: { kind: 'beam', kerf: 0.2 }, side: 'outside', feed: 900, power: 500, lead: 1 });

describe('opened as drawings', () => {
	const bytes = (text: string) => new TextEncoder().encode(text);
	test('what went out comes back: closed outlines beside the drawn ones, each once', () => {
		const out = writeGcode([{ moves: BURNT.moves, tool: { kind: 'beam', kerf: 0.2 }, speed: 500 }]);
		const read = unwrap(readLines(bytes(out), 'owl.nc'));
		expect(read.warnings).toEqual([]);
		const lead = unwrap(readLines(bytes(writeHpgl(BURNT.moves, 0.002)), 'anything'));
		expect(lead.shapes.length).toBe(read.shapes.length);
		// Three depths of the same way are one line.
		const plain = plan({ tool: CUTTER, side: 'outside', feed: 900, depth: 6, pass: 2 });
		const thrice = unwrap(
			readLines(bytes(writeGcode([{ moves: plain.moves, tool: CUTTER, speed: 1 }])), 'a.gcode')
		);
		expect(thrice.shapes.map((s) => s.paths[0].closed)).toEqual([true, true]);
		const areas = thrice.shapes.map((s) => Math.abs(pathArea(s.paths[0]))).sort((a, b) => b - a);
		expect(areas[0]).toBeCloseTo(Math.PI * 41.5 ** 2, 0);
	});
	test('what is not understood is told, what draws nothing is refused', () => {
		const read = unwrap(readLines(bytes('IN;PU0,0;PD400,0;QQ;PU;'), 'a.plt'));
		expect(read.warnings).toEqual(['Line 4: QQ is not known.']);
		const none = readLines(bytes('hello'), 'a.nc');
		expect(none.ok ? '' : none.problem.sentence).toBe(
			'This G-code draws no line: line 1: "HELLO" is not understood.'
		);
	});
});

describe('what is written is read as what was meant', () => {
	test('a cutter: the same ways to a digit of 1e-4 mm, arcs as arcs, short lines, no rapid before the height is known', () => {
		const text = writeGcode(
			[{ moves: ROUTED.moves, tool: CUTTER, speed: 12000, names: ROUTED.cuts.map((c) => c.name) }],
			{ name: 'owl' }
		);
		const lines = text.trim().split('\n');
		expect(lines.slice(0, 2)).toEqual(['(owl)', 'G21 G90 G17']);
		expect(lines.at(-1)).toBe('M30');
		expect(lines.every((line) => line.length < 80)).toBe(true);
		expect(lines.find((line) => line.startsWith('G0'))).toBe('G0 Z5');
		expect(text).toMatch(/\(disc large\)/);
		const { moves, faults } = readGcode(text);
		expect(faults).toEqual([]);
		expect(cutsApart(moves, ROUTED.moves)).toBeLessThan(3e-4);
		expect(moves.bulges.some((b) => b !== 0)).toBe(true);
	});
	test('without arcs: straights within the tolerance', () => {
		const text = writeGcode([{ moves: ROUTED.moves, tool: CUTTER, speed: 1 }], {
			arcs: false,
			tolerance: 0.004
		});
		expect(text).not.toMatch(/G[23] /);
		expect(cutsApart(readGcode(text).moves, ROUTED.moves)).toBeLessThan(0.0045);
	});
	test('a beam: no heights, on for the cuts alone', () => {
		const text = writeGcode([{ moves: BURNT.moves, tool: { kind: 'beam', kerf: 0.2 }, speed: 500 }]);
		expect(text).not.toMatch(/Z/);
		const { moves, faults, hasHeights } = readGcode(text);
		expect([faults, hasHeights]).toEqual([[], false]);
		for (let i = 0; i < moves.kinds.length; i++) expect(moves.on[i]).toBe(moves.kinds[i] === FEED ? 1 : 0);
	});
	test('two tools: the program waits for the change, with the spindle off', () => {
		const part = { moves: ROUTED.moves, tool: CUTTER, speed: 9000 };
		const text = writeGcode([
			{ ...part, toolName: 'Flat 3' },
			{ ...part, toolName: 'Vee 60°' }
		]);
		expect(text).toMatch(/M5\n\(now: Vee 60\?\)\nM0\n[\s\S]*M3 S9000/);
		expect(readGcode(text).faults).toEqual([]);
	});
	test('the words of a machine stand around the moves', () => {
		const text = writeGcode([{ moves: BURNT.moves, tool: { kind: 'beam', kerf: 0.2 }, speed: 500 }], {
			words: { start: 'G21 G90 G17\nM8', on: 'M4 S{speed}', end: 'M9\nM2' }
		});
		expect(text).toMatch(/^G21 G90 G17\nM8\n[\s\S]*M4 S500\n[\s\S]*M5\nM9\nM2\n$/);
	});
	test('nearly straight arcs are straights, so that rounding makes no circle of them', () => {
		const moves = new MovesBuilder([0, 0, 0]);
		moves.works = 1;
		moves.arc(1e-9, 30, 0, 0, 600).arc(0.9, 30.0004, 0, 0, 600).arc(-1, 40, 0, 0, 600);
		const text = writeGcode([{ moves: moves.moves(), tool: { kind: 'beam', kerf: 0.1 }, speed: 1 }]);
		expect(text.match(/G[23] /g)).toHaveLength(1);
	});

	test('HP-GL: whole units of 0.025 mm, up and down, as it was meant to the unit', () => {
		const knife = plan({ tool: { kind: 'knife', offset: 0.25 }, side: 'on', feed: 3000, overcut: 1 });
		const text = writeHpgl(knife.moves, 0.0025);
		expect(HPGL_UNIT * 40).toBe(1);
		expect(text).toMatch(/^IN;\nSP1;\n/);
		expect(text).not.toMatch(/\./);
		const { moves, faults, isEnded } = readHpgl(text);
		expect([faults, isEnded]).toEqual([[], true]);
		expect(cutsApart(moves, knife.moves)).toBeLessThan(HPGL_UNIT * Math.SQRT1_2 + 0.0026);
	});
	test('HP-GL as others write it: relative moves, arcs, nonsense', () => {
		const { moves, faults } = readHpgl('IN;PA;PU400,0;PD;AA0,0,90;PR;PD-40,0;PU;');
		expect(faults).toEqual([]);
		const n = moves.kinds.length;
		expect([moves.to[3 * n - 3], moves.to[3 * n - 2]].map((v) => +v.toFixed(6))).toEqual([-1, 10]);
		expect(readHpgl('PD100,0;').faults.map((f) => f.why)).toEqual([
			'It does not begin with IN.',
			'The pen or knife is still down at the end.'
		]);
		expect(readHpgl('IN;XX3;PU1;PDa,b;PU;').faults.map((f) => f.why)).toEqual([
			'XX is not known.',
			'PU has a coordinate too few.',
			'"PDa,b" is not understood.'
		]);
	});
	test('as an SVG to look at: the sheet’s size, y down', () => {
		const svg = writeMovesSvg(BURNT.moves, 120, 110);
		expect(svg).toMatch(/width="120mm" height="110mm" viewBox="0 0 120 110"/);
		expect(svg).toMatch(/<title>cut<\/title>/);
	});
});

test('numbers beyond all sense: an arc that would turn for ever, places beyond every sheet', () => {
	const turning = readHpgl('IN;PU0,0;PD400,0;AA0,0,1e300;PD0,400;PU0,0;');
	expect(turning.faults.map(({ why }) => why)).toEqual(['An arc turns more than ten times round.']);
	expect(turning.moves.kinds.length).toBeLessThan(10);
	const two = 'IN;PU0,0;PD400,0;PU1e30,0;PD1e31,9;PU0,0;';
	const read = unwrap(readLines(new TextEncoder().encode(two), 'two.plt'));
	expect(read.shapes).toHaveLength(1);
	expect(read.warnings).toEqual(['A line with places beyond every sheet was left out.']);
});
