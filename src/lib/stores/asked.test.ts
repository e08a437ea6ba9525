/** What is asked for while a part of the program is still being loaded. */
import 'fake-indexeddb/auto';
import { afterEach, describe, expect, test, vi } from 'vitest';
import { drawingOf } from '../../../tests/drawing-of';
import { recordAs } from '../core/document/drawing';
import { lineOf } from '../core/document/outline';
import { circlePath, PathBuilder, polygonPath } from '../core/geometry/path';
import { storeDrawing } from '../storage/drawings';
import { whenThere } from './asked';
import { Bench } from './bench.svelte';
import { useCommand, withPart, type Command } from './commands/command';
import { COMMANDS } from './commands/commands';
import { copyPicked, pasteLast } from './copying';

vi.mock('../workers/geometry.client', async () => (await import('../../../tests/work-here')).workHere());
vi.mock('../workers/picture.client', () => ({ pictureWorker: () => ({}) }));

afterEach(() => {
	vi.unstubAllGlobals();
});

let count = 0;
async function benchOfThree(): Promise<Bench> {
	const drawing = drawingOf(`asked${count++}`, [
		polygonPath([0, 0, 10, 0, 10, 10, 0, 10]),
		circlePath(30, 0, 5),
		new PathBuilder(0, 20).cubic(5, 24, 10, 24, 15, 20).cubic(20, 16, 25, 16, 30, 20).open()
	]);
	await storeDrawing(drawing);
	return (await Bench.open(drawing.id))!;
}

/** A part of the program that comes when it is told to. */
function late(): { part: Promise<string>; come: () => void; fail: () => void } {
	let come!: (part: string) => void;
	let fail!: (error: Error) => void;
	const part = new Promise<string>((yes, no) => ((come = yes), (fail = no)));
	return { part, come: () => come('part'), fail: () => fail(new TypeError('not fetched')) };
}
const commandWith = (part: Promise<string>, act: (bench: Bench) => void): Command => ({
	id: 'late',
	word: 'Late',
	line: '',
	also: '',
	why: (b) => (b.selection.selectedOutlines.length ? undefined : 'Select something first.'),
	run: withPart(() => part, act)
});
/** Once it is so: a part of the program may take a while on a busy machine. */
const soon = <T>(what: () => T) => expect.poll(what, { timeout: 60_000 });
const ids = (bench: Bench) => [...bench.selection.selected];
const word = (id: string) => COMMANDS.find((c) => c.id === id)!;

describe('what is asked for while its part of the program comes', () => {
	test('is done about what was picked then; what was picked since stays picked', async () => {
		const bench = await benchOfThree();
		const { part, come } = late();
		const about: string[][] = [];
		bench.select(['o0']);
		useCommand(
			bench,
			commandWith(part, (b) => about.push(ids(b)))
		);
		bench.enter('o2');
		bench.selection.anchors = new Set([bench.selection.enteredOutline!.anchors[1]]);
		come();
		await soon(() => about).toEqual([['o0']]);
		expect(bench.selection.enteredIds).toEqual(['o2']);
		expect(bench.selection.anchors.size).toBe(1);
	});

	test('what it picks itself stays picked', async () => {
		const bench = await benchOfThree();
		const { part, come } = late();
		bench.select(['o0']);
		useCommand(
			bench,
			commandWith(part, (b) => b.select(['o2']))
		);
		bench.select(['o1']);
		come();
		await soon(() => ids(bench)).toEqual(['o2']);
	});

	test('is not done where what was picked is gone: that is told', async () => {
		const bench = await benchOfThree();
		const { part, come } = late();
		const act = vi.fn();
		bench.select(['o0']);
		useCommand(bench, commandWith(part, act));
		bench.removeSelected();
		bench.select(['o1']);
		come();
		await soon(() => bench.telling.now?.sentence).toBe('Select something first.');
		expect(act).not.toHaveBeenCalled();
		expect(ids(bench)).toEqual(['o1']);
	});

	test('a part that does not come is told, and nothing else is as it was not', async () => {
		const bench = await benchOfThree();
		const { part, fail } = late();
		const act = vi.fn();
		bench.select(['o0']);
		const asked = whenThere(bench, part, () => undefined, act);
		bench.select(['o1']);
		fail();
		await asked;
		expect(bench.telling.now).toMatchObject({ tone: 'trouble' });
		expect(bench.telling.now!.sentence).toMatch(/^Nothing was done/);
		expect(act).not.toHaveBeenCalled();
		expect(ids(bench)).toEqual(['o1']);
	});
});

describe('commands that load', () => {
	test('what is lifted out is what was picked, not what was picked since', async () => {
		vi.stubGlobal('navigator', {});
		const bench = await benchOfThree();
		bench.select(['o1']);
		const lifted = copyPicked(bench, true);
		bench.select(['o0']);
		await lifted;
		expect([...bench.drawing.records.keys()]).toContain('o0');
		expect(bench.drawing.records.has('o1')).toBe(false);
		await pasteLast(bench);
		expect(bench.selection.selectedOutlines.map((o) => lineOf(o).types.length)).toEqual([
			circlePath(30, 0, 5).types.length
		]);
	});

	test('a line is given by points as it is by then: what was changed since is not lost', async () => {
		const bench = await benchOfThree();
		bench.enter('o2');
		useCommand(bench, word('as-through'));
		bench.selection.anchors = new Set([bench.selection.enteredOutline!.anchors[0]]);
		bench.nudgeBy(-5, 0);
		await soon(() => recordAs(bench.drawing, 'outline', 'o2').recipe?.kind).toBe('through');
		expect(lineOf(recordAs(bench.drawing, 'outline', 'o2')).segs[0]).toBeCloseTo(-5, 6);
		expect(bench.stepNames).toEqual(['Nudge', 'Give by points']);
	});

	test.each(['align', 'band', 'bridge', 'machine', 'paper'])(
		'%s is laid on the bench for what was selected when it was pressed',
		async (id) => {
			const bench = await benchOfThree();
			bench.commit('Sheet', {
				put: [
					{ type: 'sheet', id: 's', name: 'Sheet', rank: 99, x: 0, y: 0, width: 300, height: 200, margin: 5 }
				]
			});
			bench.select(id === 'bridge' ? ['o2'] : ['o0', 'o1']);
			useCommand(bench, word(id));
			bench.select([]);
			await soon(() => bench.operation?.kind).toBe(id);
			bench.dropOperation();
		}
	);
});
