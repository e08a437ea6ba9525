import { readFileSync } from 'node:fs';
import { afterAll, describe, expect, it } from 'vitest';
import { COMMANDS } from './commands';
import { findCommands, nearestOf } from './finding';

/** What the commands load behind them has come before the test is over. */
afterAll(() => import('../../core/formats/clipping'));

/**
 * What each line of the list stands for, as ids of commands: one of them must be among the first three. The list is the makers'
 * (tests/finder-words.txt); what is not built yet is answered by what is nearest.
 */
const MEANT: Record<string, readonly string[]> = {
	'smoothing a jagged line (fair)': ['fair'],
	simplify: ['simplify'],
	'combine, what any covers': ['combine'],
	'combine, one less the other': ['combine'],
	'combine, what both cover': ['combine'],
	'combine, regions picked by pointing': ['combine'],
	'join ends': ['join'],
	'close an outline; join ends': ['close', 'join'],
	'break an outline; for "open" opening a file as well': ['break'],
	'split into single segments': ['singles'],
	'detach a stretch': ['detach'],
	'make or unmake a hole; filled view': ['holes-beside', 'filled'],
	trim: ['trim'],
	'extend to a boundary or by a length': ['extend'],
	'shorten from an end': ['shorten'],
	offset: ['offset'],
	'width for each edge (when built)': ['allowance'],
	'line becomes its outline': ['offset'],
	'round corners': ['corner'],
	'cut corners off': ['corner'],
	'one sharp tip': ['sharpen-straight', 'sharpen-curve'],
	'kind of anchor; rounding': ['kind-corner', 'corner'],
	'make a curve; through its anchors': ['curve'],
	'straighten a stretch; "straighten picture" for the picture': ['straighten', 'straighten-stretch'],
	'make an arc': ['arc'],
	'that ready shape': ['draw-shape'],
	'draw a line': ['draw-line'],
	freehand: ['draw-freehand'],
	'single points': ['mark'],
	'moving by an amount': ['place'],
	turning: ['turn'],
	'scaling; for "size" true size of the picture too': ['scale'],
	'mirror; for "flip" flipping the direction after it': ['mirror'],
	copy: ['copy', 'double'],
	paste: ['paste'],
	delete: ['delete'],
	'undo, redo, list of steps': ['undo', 'redo', 'steps'],
	'select all': ['select-all'],
	'the others instead': ['select-inverted'],
	'next along': ['next-anchor'],
	'adding an anchor': ['add-anchor', 'add-half'],
	'half way': ['add-half'],
	'several evenly': ['add-evenly'],
	handles: ['handle-out', 'handle-in', 'mend-handles', 'release-handles'],
	'flip direction': ['flip'],
	'move the start (when built)': ['start-here'],
	'align (when built)': ['line-up', 'line-up-across-middle', 'line-up-up-middle'],
	'distribute (when built)': ['spread'],
	'repeat (when built)': ['repeat', 'repeat-rows', 'repeat-around', 'repeat-along'],
	'group (when built)': ['group'],
	'layers (when built); the rack': ['rack'],
	'colour of a layer or line; tracing by colours': ['rack', 'trace-colours'],
	'purpose of a line or layer (when built)': ['purpose-score', 'purpose-engrave', 'purpose-guide'],
	hide: ['hide'],
	'locking; pinning (when built)': ['lock', 'hold-pin'],
	renaming: ['rename'],
	'arranging on the sheet (when built)': ['arrange'],
	'the sheet (when built)': ['station-sheet'],
	'machines and cutting (when built); the cut station': ['station-cut'],
	'machine files (when built)': ['machine'],
	'the tool (when built); what the tool does not get into': ['machine-tool'],
	'clearing an area (when built)': ['clear-area'],
	'holding tabs (when built)': ['holding-tabs'],
	'how the tool goes (when built)': ['tool-goes'],
	'the moving preview (when built)': ['watch'],
	'writing a file': ['write-svg', 'write-file'],
	'how things are kept; versions (when built)': ['how-kept', 'versions'],
	'writing that format; opening it where it can be opened': ['write-svg', 'write-dxf', 'paper'],
	'printing at true size (when built)': ['paper'],
	'opening a picture or drawing': ['bring-in'],
	'bringing in a picture': ['bring-in', 'scan'],
	trace: ['trace'],
	'trace by tone': ['trace-tone'],
	'preparing the picture': ['prepare-picture'],
	'crop the picture': ['crop-picture'],
	'fade the picture': ['fade-picture'],
	'straightening by four corners': ['corners-of-sheet', 'level-picture'],
	'true size': ['station-size', 'two-points', 'actual'],
	'what is measured; checking with a ruler': ['measures', 'ruler'],
	'typed angle; measuring': ['measures', 'turn'],
	'snapping, grid, guides': ['snapping', 'grid', 'guide-along'],
	'zoom and fit': ['fit', 'zoom-in', 'zoom-out', 'actual', 'fit-selection'],
	'moving the paper': ['move-paper'],
	'filled view': ['filled'],
	'looking closely': ['look', 'comb'],
	comparing: ['compare', 'ghost'],
	'symmetry (when built)': ['symmetry'],
	'holds (when built)': [
		'hold',
		'hold-nearly',
		'hold-pin',
		'hold-tangent',
		'hold-parallel',
		'hold-length',
		'hold-level',
		'hold-plumb',
		'hold-angle',
		'hold-square'
	],
	'meeting, bridging': ['meet', 'bridge'],
	'lines in between (when built)': ['between'],
	'curves given otherwise; control polygon': ['fair', 'polygon', 'draw-through', 'draw-pulled'],
	'curves given otherwise (when built)': ['draw-conic', 'formula'],
	'faults and mending': ['next-knot', 'mend-all', 'station-mend'],
	'faults; mending': ['next-knot', 'mend-all', 'station-mend'],
	units: ['unit-mm', 'unit-in', 'unit-cm', 'unit-ft', 'fractions'],
	'day or lamp light': ['light'],
	keys: ['keys'],
	help: ['help'],
	'what is nearest (open an SVG with the letters as outlines), said plainly': ['not-letters'],
	'depth of cut (when built), said plainly': ['not-depth'],
	settings: ['settings'],
	'writing the whole drawing as one file': ['write-file']
};
/** Words of a line that stand for something of their own. */
const EACH: Record<string, readonly string[]> = {
	open: ['break', 'bring-in', 'open-on-purpose'],
	'cut corner': ['corner'],
	size: ['station-size', 'scale'],
	percent: ['scale'],
	mm: ['unit-mm'],
	inch: ['unit-in'],
	'straighten picture': ['level-picture', 'corners-of-sheet']
};

const LINES = readFileSync('tests/finder-words.txt', 'utf8')
	.split('\n')
	.filter((line) => line.includes(' : ') && !line.startsWith('#'))
	.map((line) => {
		const [words, meant] = line.split(' : ');
		return { words: words.split(',').map((w) => w.trim()), meant: meant.trim() };
	});

describe('the finder', () => {
	it('knows what every line of the list stands for', () => {
		const ids = new Set(COMMANDS.map((c) => c.id));
		const unknown = LINES.filter(({ meant }) => !MEANT[meant]?.every((id) => ids.has(id)));
		expect(unknown.map(({ meant }) => meant)).toEqual([]);
		expect(LINES.flatMap(({ words }) => words).length).toBeGreaterThan(400);
	});
	it('finds every word of the list among the first three', () => {
		const missed: string[] = [];
		for (const { words, meant } of LINES)
			for (const word of words) {
				const wanted = EACH[word] ?? MEANT[meant] ?? [];
				const first = findCommands(word)
					.slice(0, 3)
					.map((c) => c.id);
				if (!first.some((id) => wanted.includes(id))) missed.push(`${word} (${meant}): ${first.join(', ')}`);
			}
		expect(missed).toEqual([]);
	});
	it('finds a station, a file, a unit, the light, a page of help', () => {
		for (const [typed, id] of [
			['offset', 'offset'],
			['dxf', 'write-dxf'],
			['feet', 'unit-ft'],
			['lamp', 'light'],
			['how: trace', 'help-trace'],
			['plywood', 'station-sheet']
		])
			expect(
				findCommands(typed)
					.slice(0, 3)
					.map((c) => c.id),
				typed
			).toContain(id);
	});
	it('puts whole words before parts of words', () => {
		expect(findCommands('arc')[0].id).toBe('arc');
		expect(findCommands('tip')[0].id).toMatch(/^sharpen/);
	});
	it('forgives typos', () => {
		for (const [typed, id] of [
			['simplfy', 'simplify'],
			['ofset', 'offset'],
			['smoth', 'fair'],
			['mirorr', 'mirror'],
			['chamfre', 'corner']
		])
			expect(
				findCommands(typed)
					.slice(0, 3)
					.map((c) => c.id),
				typed
			).toContain(id);
	});
	it('begins empty, and finds nothing for nothing', () => {
		expect(findCommands('')).toEqual([]);
		expect(findCommands('  ')).toEqual([]);
		expect(findCommands('xyzzyqq')).toEqual([]);
	});
	it('says what is nearest for what is not here', () => {
		const [text] = findCommands('letters');
		expect(text.id).toBe('not-letters');
		expect(nearestOf(text).map((c) => c.id)).toEqual(['bring-in']);
		for (const command of COMMANDS)
			expect(nearestOf(command).length, command.id).toBe(command.nearest?.length ?? 0);
	});
	it('gives each command an id, a word and a line of its own, and each key once', () => {
		const ids = COMMANDS.map((c) => c.id);
		expect(new Set(ids).size).toBe(ids.length);
		const keys = COMMANDS.flatMap((c) => (c.key ? [c.key] : []));
		expect(new Set(keys).size).toBe(keys.length);
		for (const c of COMMANDS) expect(c.line.length, c.id).toBeGreaterThan(10);
	});
});
