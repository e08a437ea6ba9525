/**
 * A drawing in hands that press anything anywhere, without a page: nothing breaks, everything comes back. Others than the few walks
 * of every run: `WALK=100 WALKS=1000 npx vitest run random-work`.
 */
import 'fake-indexeddb/auto';
import { readFileSync } from 'node:fs';
import { afterEach, beforeAll, describe, expect, test, vi } from 'vitest';
import { blob, chance, type Chance, jagged, oneOf } from '../../../tests/shapes';
import { drawingOf } from '../../../tests/drawing-of';
import { recordsOf, type Drawing } from '../core/document/drawing';
import { ANCHOR_STRIDE, lineOf } from '../core/document/outline';
import { circlePath, PathBuilder, polygonPath, type Path } from '../core/geometry/path';
import { readDrawingFile } from '../core/formats/drawing-file';
import { isEmptyBox, unionBox } from '../core/geometry/measure';
import { boxOf } from '../core/geometry/pick';
import { fitBox, toScreen } from '../render/view';
import { storeDrawing } from '../storage/drawings';
import { Bench } from './bench.svelte';
import { COMMANDS } from './commands/commands';
import { useCommand } from './commands/command';
import { Hand } from './gestures/hand';
import type { PointerAt } from './gestures/pointer';
import { Operation } from './operations/operation.svelte';
import { keepOperation } from './operations/starting';

vi.mock('../workers/geometry.client', async () => (await import('../../../tests/work-here')).workHere());
// The same ids in every run: what lies as high as another goes by them.
vi.mock('./ids', () => {
	let made = 0;
	return { newId: () => `made-${++made}` };
});
vi.mock('../workers/picture.client', () => ({ pictureWorker: () => ({}) }));

const PATHS: readonly Path[] = [
	polygonPath([0, 0, 60, 0, 60, 40, 0, 40]),
	circlePath(30, 20, 9),
	blob(8, 2, 30),
	new PathBuilder(70, 0).cubic(80, 30, 100, 30, 110, 2).open(),
	new PathBuilder(112, 2).cubic(120, -20, 140, -18, 150, 4).open(),
	jagged(20, 0.4, 3),
	polygonPath([40, 30, 90, 30, 90, 70, 40, 70])
];

let count = 0;
const loose = (): Drawing => drawingOf('loose', PATHS);
/** A drawing of the demo, with sheets, sizes, marks, groups, repeats, holds and followers, without its pictures. */
function ofTheDemo(name: string): Drawing {
	const read = readDrawingFile(new Uint8Array(readFileSync(`static/demo/${name}.thread`)));
	if (!read.ok) throw new Error(read.problem.sentence);
	const { drawing } = read.value;
	const records = [...drawing.records].filter(([, record]) => record.type !== 'reference');
	return { ...drawing, records: new Map(records) };
}
/** What walks go through, by turns. */
const DRAWINGS: readonly (() => Drawing)[] = [
	loose,
	() => ofTheDemo('control-bars'),
	loose,
	() => ofTheDemo('hand-puppet'),
	() => ofTheDemo('cut-bar')
];

async function workshop(make: () => Drawing): Promise<Bench> {
	const drawing = { ...make(), id: `walk${count++}` };
	await storeDrawing(drawing);
	const bench = (await Bench.open(drawing.id))!;
	bench.sight.size = { widthPx: 1280, heightPx: 800 };
	lookAt(bench);
	return bench;
}
/** All of the drawing in the window. */
function lookAt({ sight, outlines }: Bench): void {
	const box = unionBox(outlines.map((o) => boxOf(lineOf(o))));
	if (!isEmptyBox(box)) sight.view = fitBox(box, sight.size);
}

/** What is amiss with the drawing or with what is picked. */
function amiss({ drawing, selection }: Bench): string | undefined {
	for (const outline of recordsOf(drawing, 'outline')) {
		const n = outline.anchors.length;
		if (outline.points.length !== ANCHOR_STRIDE * n)
			return `${outline.id} has ${outline.points.length} numbers for ${n} anchors`;
		if (new Set(outline.anchors).size !== n) return `${outline.id} has an anchor twice`;
		if (![...outline.points, ...lineOf(outline).segs].every(Number.isFinite))
			return `${outline.id} is not finite`;
	}
	for (const id of selection.selected) if (!drawing.records.has(id)) return `${id} is selected and gone`;
	for (const id of selection.enteredIds) {
		const outline = drawing.records.get(id);
		if (outline?.type !== 'outline') return `${id} is entered and gone`;
		for (const anchor of selection.anchorsOf(id))
			if (!outline.anchors.includes(anchor)) return `anchor ${anchor} of ${id} is picked and gone`;
	}
	return undefined;
}

/** A place on the screen: at an anchor of some outline, or anywhere. */
function somewhere(r: Chance, bench: Bench): { x: number; y: number } {
	const { view, size } = bench.sight;
	const outline = bench.outlines.length ? oneOf(r, bench.outlines) : undefined;
	if (!outline?.anchors.length || r() < 0.25) return { x: 60 + 1100 * r(), y: 60 + 700 * r() };
	const k = ANCHOR_STRIDE * Math.floor(outline.anchors.length * r());
	const at = toScreen(view, size, outline.points[k], outline.points[k + 1]);
	return { x: at.x + 4 * r() - 2, y: at.y + 4 * r() - 2 };
}

function pointer(r: Chance, { x, y }: { x: number; y: number }): PointerAt {
	const shift = r() < 0.2;
	const kind = r() < 0.8 ? 'mouse' : r() < 0.5 ? 'touch' : 'pen';
	return {
		x,
		y,
		kind,
		shift,
		alt: r() < 0.15,
		ctrl: r() < 0.1,
		more: shift,
		second: false,
		button: 0,
		panning: false
	};
}

const MOVES: Record<string, (r: Chance, bench: Bench, hand: Hand) => string | Promise<string>> = {
	click(r, bench, hand) {
		const at = pointer(r, somewhere(r, bench));
		hand.move(at);
		hand.down(at);
		hand.up(at);
		return `click ${at.x.toFixed(1)} ${at.y.toFixed(1)}`;
	},
	double(r, bench, hand) {
		const at = pointer(r, somewhere(r, bench));
		for (const second of [false, true]) {
			hand.down({ ...at, second });
			hand.up({ ...at, second });
		}
		hand.double(at);
		return `double click ${at.x.toFixed(1)} ${at.y.toFixed(1)}`;
	},
	drag(r, bench, hand) {
		const from = pointer(r, somewhere(r, bench));
		const to = somewhere(r, bench);
		hand.down(from);
		for (const t of [0.1, 0.5, 1])
			hand.move({ ...from, x: from.x + t * (to.x - from.x), y: from.y + t * (to.y - from.y) });
		if (r() < 0.15) {
			hand.cancel();
			return 'drag and leave it';
		}
		hand.up({ ...from, ...to });
		return `drag ${from.x.toFixed(1)} ${from.y.toFixed(1)} to ${to.x.toFixed(1)} ${to.y.toFixed(1)}`;
	},
	/** Some outlines are selected, or one is entered and some of its anchors or a stretch of it picked. */
	pick(r, bench) {
		const { outlines, selection } = bench;
		if (outlines.length === 0) return 'nothing to pick';
		const some = Array.from({ length: 1 + Math.floor(3 * r()) }, () => oneOf(r, outlines).id);
		if (r() < 0.5) {
			bench.select(some);
			return `select ${some.join(' ')}`;
		}
		bench.enter(some[0]);
		const anchors = [...(selection.enteredOutline?.anchors ?? [])];
		if (anchors.length === 0) return `enter ${some[0]}`;
		const picked = Array.from({ length: 1 + Math.floor(3 * r()) }, () => oneOf(r, anchors));
		if (r() < 0.6) selection.anchors = new Set(picked);
		else selection.segments = new Set(picked.slice(0, 1));
		return `pick ${picked.join(' ')} of ${some[0]}`;
	},
	menu(r, bench, hand) {
		hand.menuAt(pointer(r, somewhere(r, bench)));
		return 'menu';
	},
	async command(r, bench) {
		const command = oneOf(r, COMMANDS);
		useCommand(bench, command);
		// Who is quick goes on before what it needs is loaded.
		if (r() < 0.7) await settled();
		return command.id;
	},
	async keep(_, bench) {
		const { operation } = bench;
		if (!operation) return 'nothing to keep';
		await operation.settled();
		await keepOperation(bench);
		return `keep ${operation.kind}`;
	},
	/** A number or a switch of the operation is set to something. */
	async set(r, bench) {
		const { operation } = bench;
		if (!operation) return 'nothing to set';
		const fields = settingsOf(operation);
		if (fields.length === 0) return 'no settings';
		const field = oneOf(r, fields) as keyof Operation;
		const value: unknown = operation[field];
		const next = typeof value === 'boolean' ? !value : (value as number) * oneOf(r, [-1, 0, 0.1, 0.5, 2, 10]);
		operation.set({ [field]: next });
		await operation.settled();
		return `set ${operation.kind}.${field} to ${String(next)}`;
	},
	drop(_, bench) {
		const was = bench.operation?.kind ?? 'nothing';
		bench.dropOperation();
		return `drop ${was}`;
	},
	undo(_, bench) {
		bench.undo();
		return 'undo';
	},
	redo(_, bench) {
		bench.redo();
		return 'redo';
	}
};

/** The numbers and switches of an operation that a tray lets a person set. */
function settingsOf(operation: Operation): string[] {
	const fields: string[] = [];
	for (
		let of = Object.getPrototypeOf(operation) as object;
		of !== Operation.prototype;
		of = Object.getPrototypeOf(of) as object
	)
		for (const [name, { set }] of Object.entries(Object.getOwnPropertyDescriptors(of)))
			if (
				set &&
				['number', 'boolean'].includes(typeof (operation as unknown as Record<string, unknown>)[name])
			)
				fields.push(name);
	return fields;
}
/** How often each is done. */
const USUAL = [
	'click',
	'click',
	'click',
	'double',
	'drag',
	'drag',
	'pick',
	'pick',
	'menu',
	'command',
	'command',
	'command',
	'command',
	'set',
	'set',
	'keep',
	'keep',
	'drop',
	'undo',
	'redo'
];

/** What a command begins away from the hand is begun: parts of the program are loaded. */
const settled = () => new Promise((done) => setTimeout(done, 0));

const same = (a: Drawing, b: Drawing): boolean => {
	if (a.records.size !== b.records.size) return false;
	for (const [id, record] of a.records) {
		const other = b.records.get(id);
		if (other !== record && JSON.stringify(other) !== JSON.stringify(record)) return false;
	}
	return true;
};

describe('random work', () => {
	const failed: unknown[] = [];
	const onFailed = (error: unknown) => failed.push(error);
	beforeAll(() => {
		const kept = new Map<string, string>();
		vi.stubGlobal('localStorage', {
			getItem: (key: string) => kept.get(key) ?? null,
			setItem: (key: string, value: string) => void kept.set(key, value),
			removeItem: (key: string) => void kept.delete(key)
		});
		// Elements that a page would make do nothing here: a link to a file, a field for one.
		const element = () => ({
			click() {},
			remove() {},
			addEventListener() {},
			append() {},
			style: {},
			dataset: {}
		});
		vi.stubGlobal('document', {
			createElement: element,
			documentElement: element(),
			body: element(),
			addEventListener() {},
			removeEventListener() {}
		});
		vi.stubGlobal('navigator', { hardwareConcurrency: 1, language: 'en-GB' });
		vi.stubGlobal('location', { href: '', pathname: '/' });
		process.on('unhandledRejection', onFailed);
	});
	afterEach(() => failed.splice(0));

	/** Names of the steps that were made. */
	const done = new Set<string>();
	const walks = Number(process.env.WALKS ?? 20);
	const from = Number(process.env.WALK ?? 0);
	test.each(Array.from({ length: walks }, (_, k) => from + k))('walk %i', async (walk) => {
		const r = chance(500 + walk);
		const bench = await workshop(DRAWINGS[walk % DRAWINGS.length]);
		const hand = new Hand(bench, () => undefined);
		const first = bench.drawing;
		const log: string[] = [];
		for (let k = 0; k < 120; k++) {
			const how = oneOf(r, USUAL);
			if (k % 20 === 0) lookAt(bench);
			try {
				log.push(await MOVES[how](r, bench, hand));
			} catch (error) {
				throw new Error(`walk ${walk}, ${how} after ${log.slice(-12).join('; ')}`, { cause: error });
			}
			const wrong = amiss(bench);
			if (wrong) throw new Error(`walk ${walk}: ${wrong} after ${log.slice(-12).join('; ')}`);
			if (failed.length)
				throw new Error(`walk ${walk} after ${log.slice(-12).join('; ')}`, { cause: failed[0] });
		}
		// What was begun last may still be loading.
		await vi.dynamicImportSettled();
		await settled();
		bench.dropOperation();
		bench.pen = undefined;
		const last = bench.drawing;
		const { pointer } = bench;
		for (const name of bench.stepNames) done.add(name.replace(/"[^"]*"|\d+/g, '…'));
		bench.goTo(0);
		expect(same(bench.drawing, first), 'all taken back').toBe(true);
		bench.goTo(pointer);
		expect(same(bench.drawing, last), 'all done again').toBe(true);
		await bench.saved();
		const stored = (await Bench.open(bench.drawing.id))!;
		expect(same(stored.drawing, last), 'as it is stored').toBe(true);
	});

	test.skipIf(walks < 20)('much was done', () => {
		expect(done.size).toBeGreaterThan(20);
	});
});
