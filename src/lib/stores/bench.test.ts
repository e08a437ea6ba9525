/** The open drawing at work, without a page: steps, what would stop the cut, operations, looking closely, commands. */
import 'fake-indexeddb/auto';
import { describe, expect, test, vi } from 'vitest';
import { drawingOf } from '../../../tests/drawing-of';
import { blob, chance, jagged } from '../../../tests/shapes';
import { outlinesOf, recordAs, recordsOf } from '../core/document/drawing';
import { meetingOf } from '../core/document/edits/meet';
import { lineOf } from '../core/document/outline';
import { TOOTH } from '../core/geometry/comb';
import { pathArea } from '../core/geometry/measure';
import { circlePath, PathBuilder, polygonPath, type Path } from '../core/geometry/path';
import { writtenOf } from '../core/formats/formats';
import { storeDrawing } from '../storage/drawings';
import { Bench } from './bench.svelte';
import { useCommand } from './commands/command';
import { COMMANDS } from './commands/commands';
import { findCommands } from './commands/finding';
import { drawingAs } from './files/files';
import { CornerOperation } from './operations/corner-operation.svelte';
import { partsToMeet } from './operations/meet-operation.svelte';
import { openBridge } from './operations/bridge-operation.svelte';
import { fairAgain, keepOperation, start } from './operations/starting';

// No workers without a page: what they would compute is computed here.
vi.mock('../workers/geometry.client', async () =>
	(await import('../../../tests/work-here')).workHere((name, args) => {
		if (name === 'check' && (args[0] as Path[]).length === 13) throw new Error('the worker is gone');
	})
);
vi.mock('../workers/picture.client', () => ({ pictureWorker: () => ({}) }));

let count = 0;
async function benchWith(...paths: Path[]): Promise<Bench> {
	const drawing = drawingOf(`bench${count++}`, paths);
	await storeDrawing(drawing);
	return (await Bench.open(drawing.id))!;
}
const text = async (bench: Bench, format: string) =>
	new TextDecoder().decode((await drawingAs(bench.drawing, format)).bytes);
const run = (bench: Bench, id: string) =>
	useCommand(
		bench,
		COMMANDS.find((c) => c.id === id)!
	);
const square = polygonPath([0, 0, 10, 0, 10, 10, 0, 10]);

describe('steps', () => {
	test('what is done is there again when the drawing is opened anew, and so is what was undone', async () => {
		const bench = await benchWith(square, circlePath(30, 0, 5));
		bench.enter('o0');
		bench.selection.anchors = new Set([1]);
		bench.nudgeBy(2, 0);
		bench.nudgeBy(0, 1);
		bench.undo();
		await bench.saved();
		const again = (await Bench.open(bench.drawing.id))!;
		expect(again.pointer).toBe(1);
		expect(again.stepNames).toEqual(['Nudge', 'Nudge']);
		expect(recordAs(again.drawing, 'outline', 'o0').points.slice(0, 2)).toEqual(Float64Array.of(2, 0));
		again.redo();
		expect(recordAs(again.drawing, 'outline', 'o0').points.slice(0, 2)).toEqual(Float64Array.of(2, 1));
		again.goTo(0);
		expect(lineOf(recordAs(again.drawing, 'outline', 'o0'))).toEqual(square);
		expect(again.canUndo).toBe(false);
	});

	test('a reader changes nothing and is told why; what changes nothing is no step', async () => {
		const bench = await benchWith(square);
		bench.readOnly = true;
		bench.select(['o0']);
		bench.removeSelected();
		expect(outlinesOf(bench.drawing)).toHaveLength(1);
		expect(bench.telling.now!.sentence).toContain('another tab');
		bench.readOnly = false;
		expect(bench.commit('Nothing', {})).toBe(false);
		expect(bench.stepNames).toEqual([]);
	});
});

describe('what is picked', () => {
	test('a stretch that is taken back is picked no more; what works on stretches says so and is done at once', async () => {
		const bench = await benchWith(polygonPath([0, 0, 10, 0, 10, 10], false));
		bench.select(['o0']);
		run(bench, 'close');
		bench.enter('o0');
		const last = bench.selection.enteredOutline!.anchors[2];
		bench.selection.segments = new Set([last]);
		expect([...bench.selection.segmentIndexes()]).toEqual([2]);
		bench.undo();
		expect(bench.selection.enteredOutline!.closed).toBe(false);
		expect([...bench.selection.segments]).toEqual([]);
		// Set by whatever: it is no stretch of this line.
		bench.selection.segments = new Set([last]);
		expect([...bench.selection.segmentIndexes()]).toEqual([]);
		for (const id of ['add-half', 'add-evenly', 'add-extremes', 'straighten', 'curve']) run(bench, id);
		expect(lineOf(recordAs(bench.drawing, 'outline', 'o0')).types).toHaveLength(2);
	});
});

describe('readiness', () => {
	test('a check that fails is a knot of its own, never "ready", until it is made again', async () => {
		const bench = await benchWith(...Array.from({ length: 13 }, (_, i) => circlePath(20 * i, 0, 5)));
		const { readiness } = bench;
		expect(bench.stations.cut.line).toBe('Being checked');
		await vi.waitFor(() => expect(readiness.checking).toBe(false), 60_000);
		expect(readiness.faults).toMatchObject([{ kind: 'unchecked', stops: true }]);
		expect(readiness.faults[0].why).toContain('the worker is gone');
		expect(bench.stations.cut).toMatchObject({ state: 'loose', line: 'Not ready yet' });
		expect(bench.stations.mend).toMatchObject({ state: 'knot', knots: 1 });
		expect(COMMANDS.find((c) => c.id === 'mend-all')!.why(bench)).toBeDefined();
		bench.select(['o0']);
		bench.removeSelected();
		await vi.waitFor(() => expect(bench.stations.cut.line).toBe('Ready to cut'), 60_000);
	});

	test('what is hidden is neither checked nor written', async () => {
		const bench = await benchWith(square, polygonPath([40, 0, 50, 0, 50, 10], false));
		const { readiness } = bench;
		await vi.waitFor(() => expect(readiness.faults).toHaveLength(1), 60_000);
		const open = recordAs(bench.drawing, 'outline', 'o1');
		bench.commit('Hide', { put: [{ ...open, hidden: true }] });
		await vi.waitFor(() => expect(bench.stations.cut.line).toBe('Ready to cut'), 60_000);
		expect((await text(bench, 'svg')).match(/<path/g)).toHaveLength(1);
		expect((await text(bench, 'dxf')).match(/LWPOLYLINE/g)).toHaveLength(1);
	});

	test('faults are found, gone to one after the other, and mended in one step', async () => {
		const open = polygonPath([40, 0, 50, 0, 50, 10, 40, 10, 40, 0.3], false);
		const bench = await benchWith(square, square, open, jagged(20, 0.4, 3));
		const { readiness } = bench;
		await vi.waitFor(() => expect(readiness.checking).toBe(false), 60_000);
		expect(readiness.faults.map((f) => f.kind)).toEqual(['doubled', 'open-ends', 'jagged']);
		readiness.next();
		expect([...bench.selection.selected]).toEqual(['o1']);
		readiness.next();
		expect([...bench.selection.selected]).toEqual(['o2']);
		expect(readiness.outlineOf(readiness.faults[1])!.name).toBe('Part 2');
		expect(bench.sight.view.scale).toBeGreaterThanOrEqual(12);
		await readiness.mendAll();
		expect(bench.stepNames).toHaveLength(1);
		await vi.waitFor(() => expect(readiness.faults).toEqual([]), 60_000);
		expect(bench.stations.cut.state).toBe('even');
		bench.undo();
		expect(outlinesOf(bench.drawing)).toHaveLength(4);
	});
});

describe('operations', () => {
	const left = new PathBuilder(0, 0).cubic(6, 9, 12, 9, 18, 2).open();
	const right = new PathBuilder(19, 3).cubic(28, -9, 44, -8, 50, 4).open();

	test('two lines, or an anchor, are what can meet; anything else is not', async () => {
		const bench = await benchWith(left, right, square);
		expect(partsToMeet(bench)).toBeUndefined();
		bench.select(['o0', 'o1']);
		expect(partsToMeet(bench)!.parts.map((p) => p.side)).toEqual(['in', 'out']);
		const meeting = start(bench, 'meet')!;
		await meeting.settled();
		// Ends that lie apart do not move before that is said to be wanted.
		expect(meeting.asks).toBe(true);
		keepOperation(bench);
		expect(bench.stepNames).toEqual([]);
		meeting.set({ isMovingMeant: true });
		await meeting.settled();
		keepOperation(bench);
		expect(bench.stepNames).toEqual(['Meet in curvature']);
		const parts = partsToMeet(bench)!;
		expect(meetingOf(parts.outlines, ...parts.parts).how).toBe('curvature');
		bench.enter('o2');
		bench.selection.anchors = new Set([2]);
		expect(partsToMeet(bench)!.parts[0].anchor).toBe(2);
		bench.selection.anchors = new Set([1, 2]);
		expect(partsToMeet(bench)).toBeUndefined();
	});

	test('a bridge makes one outline of two lines in one step, none of which moves; or is a line by itself', async () => {
		const bench = await benchWith(left, right);
		bench.select(['o0', 'o1']);
		for (const isOne of [true, false]) {
			const bridge = openBridge(bench)!;
			bridge.set({ isOne, ways: ['curvature', 'direction'], pulls: [1.5, 1] });
			await bridge.settled();
			expect(bridge.length).toBeGreaterThan(1);
			keepOperation(bench);
			expect(bench.stepNames.at(-1)).toBe('Bridge');
			const outlines = outlinesOf(bench.drawing);
			expect(outlines.map((o) => o.name)).toEqual(isOne ? ['Part 0'] : ['Part 0', 'Part 1', 'Bridge']);
			const ends = outlines.flatMap((o) => [...o.points]);
			for (const place of [0, 18, 19, 50]) expect(ends).toContain(place);
			bench.undo();
			expect(outlinesOf(bench.drawing)).toHaveLength(2);
			bench.select(['o0', 'o1']);
		}
	});

	test('joining offers the gap that would do; two picked ends are joined whatever lies between; open lines are found', async () => {
		const bench = await benchWith(left, right, square);
		bench.select(['o0', 'o1']);
		let join = start(bench, 'join')!;
		join.set({ gap: 0.5 });
		await join.settled();
		expect(join.wider).toBe(1.42);
		expect(join.problem!.sentence).toContain('1.42 mm apart');
		join.set({ gap: join.wider! });
		await join.settled();
		keepOperation(bench);
		expect(outlinesOf(bench.drawing)).toHaveLength(2);
		bench.undo();
		// A closed outline is selected, but there are open ones.
		bench.select(['o2']);
		join = start(bench, 'join')!;
		expect(join.outlines.map((o) => o.id)).toEqual(['o0', 'o1']);
		bench.dropOperation();
		bench.enter('o0', 'o1');
		bench.selection.pickAnchors('o0', new Set([1]));
		bench.selection.pickAnchors('o1', new Set([2]));
		join = start(bench, 'join')!;
		await join.settled();
		expect(join.apart).toBeCloseTo(Math.hypot(50, 4), 9);
		join.set({ bridge: true });
		await join.settled();
		keepOperation(bench);
		// The far ends are joined; the near ones, which nobody picked, are ends still.
		const [one] = outlinesOf(bench.drawing);
		expect(one.closed).toBe(false);
		expect([...one.points.slice(0, 2)].concat([...one.points.slice(-7, -5)])).toEqual([19, 3, 18, 2]);
	});

	const random = chance(5);
	const shaky = polygonPath(
		Array.from({ length: 100 }, (_, i) => [i, 12 * Math.sin(i / 18) + 0.5 * random()]).flat(),
		false
	);

	test('where fairing gains nothing it names the drift that does and takes it at one press; nothing is kept before', async () => {
		const bench = await benchWith(shaky);
		bench.select(['o0']);
		let helped = 0;
		for (const way of ['fair', 'simplify', 'arcs', 'straights', 'through'] as const) {
			const fair = start(bench, 'fair', { way, drift: 0.05, strength: 1 })!;
			await fair.settled();
			if (!fair.isUnchanged) {
				bench.dropOperation();
				continue;
			}
			keepOperation(bench);
			expect(bench.stepNames).toEqual([]);
			expect(bench.operation).toBe(fair);
			await vi.waitFor(() => expect(fair.helpful).toBeDefined(), 30_000);
			const { drift, anchors } = fair.helpful!;
			expect(fair.nothing).toContain(`${anchors} anchors of 100`);
			fair.allow();
			await fair.settled();
			expect(fair.drift).toBe(drift);
			expect(fair.anchorsAfter).toBe(anchors);
			expect(fair.anchorsAfter).toBeLessThanOrEqual(70);
			expect(fair.moved).toBeLessThanOrEqual(drift);
			bench.dropOperation();
			helped++;
		}
		expect(helped).toBeGreaterThan(1);
	});

	test('the first offer of simplify gains, unless a drift was chosen by hand', async () => {
		const bench = await benchWith(shaky);
		bench.select(['o0']);
		const simplify = start(bench, 'simplify')!;
		simplify.tolerance = 0.1;
		await vi.waitFor(() => expect(simplify.anchorsAfter).toBeLessThan(80), 30_000);
		expect(simplify.ready).toBe(true);
		simplify.choose(0.00001);
		await simplify.settled();
		expect(simplify.ready).toBe(false);
		expect(simplify.nothing).toContain('would make');
		keepOperation(bench);
		expect(bench.stepNames).toEqual([]);
	});

	test('every press of "fair again" counts, the next one on what the one before it made', async () => {
		const bench = await benchWith(jagged(20, 0.2, 3));
		bench.select(['o0']);
		const said = vi.spyOn(bench, 'tell');
		const begun = start(bench, 'fair', { way: 'fair', drift: 0.2, strength: 0.2 })!;
		begun.remember();
		bench.dropOperation();
		await Promise.all([1.5, 1.5, 1.5, 1.5].map((stronger) => fairAgain(bench, stronger)));
		const kept = bench.stepNames.filter((name) => name === 'Fair').length;
		expect(kept).toBeGreaterThan(1);
		// Each press is a step, or says why it is none.
		const refused = said.mock.calls.filter(([sentence]) => sentence.startsWith('Nothing')).length;
		expect(kept + refused).toBe(4);
	});

	test('wide strokes of a file become bands of their width at one press, which follow the lines and go out instead', async () => {
		const bench = await benchWith();
		const body =
			'<path d="M10 10H50" stroke="#000" stroke-width="6"/><circle cx="40" cy="50" r="20" fill="none" stroke="#000" stroke-width="4"/><rect x="70" y="30" width="20" height="20" stroke="#333" stroke-width="2"/>';
		const file = `<svg xmlns="http://www.w3.org/2000/svg" width="100mm" height="100mm" viewBox="0 0 100 100">${body}</svg>`;
		await bench.opening.open(new File([file], 'rod.svg'));
		expect(bench.opening.opened!.bands).toHaveLength(3);
		bench.opening.takeBands();
		expect(bench.opening.opened!.bands).toEqual([]);
		expect(bench.stepNames).toEqual(['Open "rod"', 'Widths of "rod.svg"']);
		// Areas by the definition of a stroke (SVG 2, 13.5): butt ends, mitred corners.
		const { pieces } = writtenOf(bench.drawing);
		const area = ({ paths }: { paths: readonly Path[] }) =>
			paths.reduce((sum, path, i) => sum + (i ? -1 : 1) * Math.abs(pathArea(path)), 0);
		expect(pieces.map(area).map((a) => +a.toFixed(2))).toEqual([
			240,
			+(Math.PI * (22 ** 2 - 18 ** 2)).toFixed(2),
			484
		]);
		bench.undo();
		expect(writtenOf(bench.drawing).pieces).toHaveLength(3);
	});

	test('a corner that does not fit is refused with the largest that does, and nothing is kept', async () => {
		const bench = await benchWith(square);
		bench.enter('o0');
		bench.selection.anchors = new Set([2]);
		start(bench, 'corner');
		const operation = bench.operation!;
		if (!(operation instanceof CornerOperation)) throw new Error('no corner');
		operation.set({ amount: 25 });
		await operation.settled();
		expect(operation.problem!.sentence).toMatch(/largest that does is 10 mm/);
		keepOperation(bench);
		expect(bench.stepNames).toEqual([]);
		operation.set({ amount: 3 });
		await operation.settled();
		keepOperation(bench);
		expect(recordAs(bench.drawing, 'outline', 'o0').rounds).toEqual([{ anchor: 2, radius: 3 }]);
	});
});

describe('looking closely', () => {
	test('the comb and its tight stretches belong to what is selected; the chart and the line point at each other', async () => {
		const bench = await benchWith(circlePath(0, 0, 5), blob(8, 2, 40));
		const { looking } = bench;
		expect(looking.combs).toEqual([]);
		looking.toggle();
		bench.select(['o0']);
		expect(looking.most).toBeCloseTo(0.2, 9);
		expect(looking.chartedLength).toBeCloseTo(10 * Math.PI, 6);
		looking.setToolRadius(6);
		expect(bench.settings.toolRadius).toBe(6);
		expect(looking.tight).toHaveLength(1);
		looking.setToolRadius(4);
		expect(looking.tight).toEqual([]);
		looking.pointAlong(5 * Math.PI);
		expect(looking.place!.radius).toBeCloseTo(5, 6);
		const { teeth } = looking.charted!;
		looking.hover(teeth[TOOTH * 3] + 0.01, teeth[TOOTH * 3 + 1], 1);
		expect(looking.place!.along).toBeCloseTo(teeth[TOOTH * 3 + 5], 6);
		looking.hover(100, 100, 1);
		expect(looking.place).toBeUndefined();
		looking.toggle();
		expect(looking.combs).toEqual([]);
	});

	test('how far the compared line lies off is told at the pointer, and only near the line', async () => {
		const bench = await benchWith(circlePath(0, 0, 5));
		const { looking } = bench;
		looking.deviations = [{ closed: true, samples: Float64Array.of(5, 0, -1, 0, 0.25, 0, 5, 0, -1, NaN) }];
		looking.hover(5.1, 0, 0.2);
		expect(looking.number).toMatchObject({ x: 5, off: 0.25 });
		looking.hover(0, 5.1, 0.2);
		expect(looking.number).toBeUndefined();
		looking.hover(8, 0, 0.2);
		expect(looking.number).toBeUndefined();
		looking.compare('nothing');
		expect(looking.deviations).toEqual([]);
		for (const next of ['first', 'ghost', 'picture', 'nothing']) {
			looking.compareNext();
			expect(looking.compared).toBe(next);
		}
	});

	test('a ghost is kept, the line changed and brought back; what there is none of cannot be asked for', async () => {
		const bench = await benchWith(blob(8, 2, 40));
		const why = (id: string) => COMMANDS.find((c) => c.id === id)!.why(bench);
		expect(why('drop-ghosts')).toBe('There is no ghost.');
		expect(why('back-to-ghost')).toBe('There is no ghost.');
		const was = lineOf(bench.outlines[0]);
		run(bench, 'ghost');
		expect(recordsOf(bench.drawing, 'line')).toHaveLength(1);
		bench.enter('o0');
		bench.selection.anchors = new Set([1, 2]);
		bench.removeAnchors('straight');
		bench.leave();
		expect(bench.outlines[0].anchors.length).toBeLessThan(was.types.length);
		run(bench, 'back-to-ghost');
		expect(lineOf(bench.outlines[0]).segs.length).toBe(was.segs.length);
		run(bench, 'drop-ghosts');
		expect(recordsOf(bench.drawing, 'line')).toHaveLength(0);
		expect(bench.outlines[0].ghost).toBeUndefined();
	});
});

describe('commands', () => {
	test('each has a word and a line of its own, keys are given once, and what cannot be used says why in a sentence', async () => {
		const bench = await benchWith();
		const keys = COMMANDS.flatMap((c) => c.key ?? []);
		expect(new Set(keys).size).toBe(keys.length);
		expect(new Set(COMMANDS.map((c) => c.id)).size).toBe(COMMANDS.length);
		for (const command of COMMANDS) {
			expect(command.line).toMatch(/[.)]$/);
			const why = command.why(bench);
			if (why !== undefined) expect(why).toMatch(/^[A-Z].*[.]$/);
		}
	});

	test('a word for what one wants finds the command', () => {
		for (const [words, id] of [
			['chart curvature', 'look'],
			['keep a ghost', 'ghost'],
			['b-spline', 'draw-pulled'],
			['tangent match', 'meet'],
			['fewer', 'simplify']
		])
			expect(findCommands(words)[0].id).toBe(id);
		expect(findCommands('zzzz')).toEqual([]);
	});
});
