/** What a hand does to a drawing by pressing and pulling, without a page: each number by plain geometry. */
import 'fake-indexeddb/auto';
import { describe, expect, test, vi } from 'vitest';
import { drawingOf } from '../../../../tests/drawing-of';
import { recordAs, recordsOf } from '../../core/document/drawing';
import { handleAt, lineOf, outlineFromPath, type Outline } from '../../core/document/outline';
import { flattenPath, EdgeTree } from '../../core/geometry/edge-tree';
import { pathArea } from '../../core/geometry/measure';
import { circlePath, PathBuilder, polygonPath, type Path } from '../../core/geometry/path';
import { toScreen } from '../../render/view';
import { storeDrawing } from '../../storage/drawings';
import { Bench } from '../bench.svelte';
import { Hand } from './hand';
import type { PointerAt } from './pointer';

vi.mock('../../workers/geometry.client', async () =>
	(await import('../../../../tests/work-here')).workHere()
);
vi.mock('../../workers/picture.client', () => ({ pictureWorker: () => ({}) }));

let count = 0;
/** A bench of some lines, ten px a millimetre, 0,0 in the middle of the window; and a hand on it. */
async function at(...paths: Path[]): Promise<Work> {
	const drawing = drawingOf(`hand${count++}`, paths);
	await storeDrawing(drawing);
	const bench = (await Bench.open(drawing.id))!;
	bench.sight.size = { widthPx: 1200, heightPx: 800 };
	bench.sight.view = { scale: 10, x: 0, y: 0 };
	return new Work(bench);
}

type Held = Partial<
	Pick<PointerAt, 'kind' | 'shift' | 'alt' | 'ctrl' | 'more' | 'second' | 'button' | 'panning'>
>;
type Place = readonly [x: number, y: number];

class Work {
	readonly hand: Hand;
	constructor(readonly bench: Bench) {
		this.hand = new Hand(bench, () => undefined);
	}
	outline(id = 'o0'): Outline {
		return recordAs(this.bench.drawing, 'outline', id);
	}
	/** Where an anchor is now, mm. */
	anchor(i: number, id = 'o0'): number[] {
		return [...this.outline(id).points.slice(7 * i, 7 * i + 2)];
	}
	pointer([x, y]: Place, held: Held): PointerAt {
		const p = toScreen(this.bench.sight.view, this.bench.sight.size, x, y);
		const { shift = false } = held;
		const none = {
			kind: 'mouse',
			alt: false,
			ctrl: false,
			second: false,
			button: 0,
			panning: false
		} as const;
		return { ...none, shift, more: shift, ...p, ...held };
	}
	press(from: Place, held: Held = {}): void {
		this.hand.move(this.pointer(from, held));
		this.hand.down(this.pointer(from, held));
	}
	/** Over several places, mm, as a pointer goes. */
	pull(...over: (Place | Held)[]): void {
		const held = (over.find((p) => !Array.isArray(p)) ?? {}) as Held;
		for (const place of over) if (Array.isArray(place)) this.hand.move(this.pointer(place as never, held));
	}
	drag(from: Place, to: Place, held: Held = {}): void {
		this.press(from, held);
		this.pull([(from[0] + to[0]) / 2, (from[1] + to[1]) / 2], to, held);
		this.hand.up(this.pointer(to, held));
	}
	click(place: Place, held: Held = {}): void {
		this.press(place, held);
		this.hand.up(this.pointer(place, held));
	}
	double(place: Place, held: Held = {}): void {
		this.click(place, held);
		this.click(place, { ...held, second: true });
		this.hand.double(this.pointer(place, held));
	}
	get steps(): readonly string[] {
		return this.bench.stepNames;
	}
	/** Without snapping, where numbers are meant. */
	plainly(): this {
		this.bench.snaps = false;
		return this;
	}
}

const square = polygonPath([-20, -10, 20, -10, 20, 10, -20, 10]);
const bow = new PathBuilder(-20, 0).cubic(-10, 20, 10, 20, 20, 0).line(20, -10).line(-20, -10).close();

describe('anchors', () => {
	test('dragged they follow the pointer, one step; a press alone is none', async () => {
		const work = (await at(square)).plainly();
		work.bench.enter('o0');
		work.drag([20, 10], [23.5, 8]);
		expect(work.anchor(2)).toEqual([23.5, 8]);
		expect(work.steps).toEqual(['Move anchor']);
		work.click([23.5, 8]);
		expect(work.steps).toHaveLength(1);
		expect([...work.bench.selection.anchors]).toEqual([work.outline().anchors[2]]);
	});

	test('the place within the anchor where it was taken hold of stays under the pointer', async () => {
		const work = (await at(square)).plainly();
		work.bench.enter('o0');
		work.drag([20.3, 10.2], [25.3, 10.2]);
		const [x, y] = work.anchor(2);
		expect(x).toBeCloseTo(25, 9);
		expect(y).toBeCloseTo(10, 9);
	});

	test('with Shift they go level, plumb or at 45 degrees; the line that binds shows until they are let go', async () => {
		const work = (await at(square)).plainly();
		work.bench.enter('o0');
		work.press([20, 10], {});
		work.pull([25, 11], { shift: true });
		expect(work.bench.bound).toHaveLength(1);
		expect(work.bench.measure).toMatchObject({ right: 5, up: 0 });
		work.pull([25, 14], { shift: true });
		expect(work.bench.measure!.right).toBeCloseTo(work.bench.measure!.up, 9);
		work.pull([20.5, 17], { shift: true });
		work.hand.up(work.pointer([20.5, 17], { shift: true }));
		expect(work.anchor(2)).toEqual([20, 17]);
		expect(work.bench.bound).toEqual([]);
		expect(work.bench.measure).toBeUndefined();
	});

	test('typed numbers are applied exactly and end the drag; what the pointer does then is nothing', async () => {
		const work = (await at(square)).plainly();
		work.bench.enter('o0');
		work.press([20, 10]);
		work.pull([22, 11], [22.3, 11.4]);
		work.bench.measure!.set(3.125, -1);
		expect(work.anchor(2)).toEqual([23.125, 9]);
		work.pull([40, 40]);
		work.hand.up(work.pointer([40, 40], {}));
		expect(work.anchor(2)).toEqual([23.125, 9]);
		expect(work.steps).toHaveLength(1);
	});

	test('a drag that is given up leaves all as it was', async () => {
		const work = (await at(square)).plainly();
		work.bench.enter('o0');
		const before = work.outline();
		work.press([20, 10]);
		work.pull([22, 11], [30, 20]);
		expect(work.bench.drafts.size).toBe(1);
		work.hand.cancel();
		work.hand.up(work.pointer([30, 20], {}));
		expect(work.outline()).toBe(before);
		expect(work.bench.drafts.size).toBe(0);
		expect(work.steps).toEqual([]);
	});

	test('several that are selected go together; Shift on one of them lets it go', async () => {
		const work = (await at(square)).plainly();
		work.bench.enter('o0');
		work.click([20, 10]);
		work.click([20, -10], { shift: true });
		work.drag([20, 10], [26, 10]);
		expect([work.anchor(1), work.anchor(2), work.anchor(0)]).toEqual([
			[26, -10],
			[26, 10],
			[-20, -10]
		]);
		expect(work.steps).toEqual(['Move 2 anchors']);
		work.click([26, 10], { shift: true });
		expect([...work.bench.selection.anchors]).toEqual([work.outline().anchors[1]]);
	});

	test('they catch on other lines, and not with Ctrl', async () => {
		const work = await at(square, circlePath(30, 0, 5));
		work.bench.enter('o0');
		work.drag([20, 10], [25.2, 0.3]);
		const [x, y] = work.anchor(2);
		expect(Math.hypot(x - 30, y)).toBeCloseTo(5, 6);
		work.bench.undo();
		work.drag([20, 10], [25.3, 0.3], { ctrl: true });
		expect(work.anchor(2)).toEqual([25.3, 0.3].map((v) => expect.closeTo(v, 9)));
	});

	test('a finger drags the selected anchor from anywhere, so that it does not cover it', async () => {
		const work = (await at(square)).plainly();
		work.bench.enter('o0');
		work.click([20, 10], { kind: 'touch' });
		work.drag([-5, 2], [-2, 3], { kind: 'touch' });
		expect(work.anchor(2)).toEqual([23, 11].map((v) => expect.closeTo(v, 9)));
	});

	test('an end dropped on another end joins the lines; with Alt it only lies there', async () => {
		const lines = [polygonPath([-20, 0, 0, 0], false), polygonPath([5, 5, 20, 5], false)];
		for (const alt of [false, true]) {
			const work = (await at(...lines)).plainly();
			work.bench.enter('o0');
			work.drag([0, 0], [5, 5], { alt });
			expect(work.steps).toEqual([alt ? 'Move anchor' : 'Join the ends']);
			expect(work.bench.outlines).toHaveLength(alt ? 2 : 1);
			if (alt) continue;
			expect(lineOf(work.bench.outlines[0]).types).toHaveLength(2);
			work.bench.undo();
			expect(work.bench.outlines).toHaveLength(2);
		}
	});

	test('along a side they keep its direction; on their own line they stay on it', async () => {
		const work = (await at(polygonPath([-20, -10, 20, 10, 0, 30]))).plainly();
		work.bench.enter('o0');
		work.bench.movingWay = 'before';
		work.drag([20, 10], [26, 9]);
		const [x, y] = work.anchor(1);
		// On the straight from -20,-10 through 20,10.
		expect(y).toBeCloseTo(x / 2, 9);
		expect(x).toBeGreaterThan(22);
		const bent = (await at(bow)).plainly();
		bent.bench.enter('o0');
		bent.bench.movingWay = 'own line';
		const tree = new EdgeTree([{ points: flattenPath(bow, 1e-4), closed: true }]);
		bent.drag([20, 0], [16, 5]);
		const to = bent.anchor(1);
		expect(to).not.toEqual([20, 0]);
		expect(tree.distance(to[0], to[1])).toBeLessThan(1e-3);
		const now = new EdgeTree([{ points: flattenPath(lineOf(bent.outline()), 1e-4), closed: true }]);
		expect(now.distance(0, 15)).toBeLessThan(0.2);
	});

	test('a soft pull moves the pressed anchor all the way, its neighbours less, and what lies beyond the reach not at all', async () => {
		const row = polygonPath(Array.from({ length: 21 }, (_, k) => [-40 + 4 * k, 0]).flat(), false);
		const work = (await at(row)).plainly();
		work.bench.enter('o0');
		work.bench.movingWay = 'soft';
		work.bench.reachAlong = { before: 14, after: 14 };
		work.drag([0, 0], [0, 6]);
		const heights = Array.from({ length: 21 }, (_, k) => work.anchor(k)[1]);
		expect(heights[10]).toBeCloseTo(6, 9);
		for (let k = 0; k < 10; k++) expect(heights[k]).toBeLessThanOrEqual(heights[k + 1] + 1e-12);
		for (let k = 0; k <= 6; k++) expect([heights[k], heights[20 - k]]).toEqual([0, 0]);
		expect(heights[9]).toBeGreaterThan(3);
		expect(work.steps).toEqual(['Pull softly']);
	});
});

describe('handles', () => {
	/** The out handle of the first anchor of the bow, from the anchor. */
	const handle = (work: Work): number[] => {
		const { points } = work.outline();
		const k = handleAt(0, 'out');
		return [points[k] - points[0], points[k + 1] - points[1]];
	};
	const grasp = async (): Promise<Work> => {
		const work = (await at(bow)).plainly();
		work.bench.enter('o0');
		work.click([-20, 0]);
		return work;
	};

	test('freely; with Shift its direction stays, with Ctrl its length', async () => {
		const free = await grasp();
		free.drag([-10, 20], [-8, 24]);
		expect(handle(free)).toEqual([12, 24].map((v) => expect.closeTo(v, 9)));
		expect(free.steps).toEqual(['Move handle']);
		const along = await grasp();
		along.drag([-10, 20], [-8, 30], { shift: false });
		const shifted = await grasp();
		shifted.press([-10, 20]);
		shifted.pull([-9, 22], [-8, 30], { shift: true });
		shifted.hand.up(shifted.pointer([-8, 30], { shift: true }));
		const [dx, dy] = handle(shifted);
		expect(dy / dx).toBeCloseTo(2, 9);
		expect(Math.hypot(dx, dy)).toBeCloseTo((12 * 10 + 30 * 20) / Math.hypot(10, 20), 9);
		const turned = await grasp();
		turned.press([-10, 20]);
		turned.pull([-9, 22], [0, 0], { ctrl: true });
		turned.hand.up(turned.pointer([0, 0], { ctrl: true }));
		expect(handle(turned)).toEqual([Math.hypot(10, 20), 0].map((v) => expect.closeTo(v, 9)));
	});

	test('half way between an anchor and its handle the handle comes first; with Shift the anchor', async () => {
		const short = new PathBuilder(-20, 0).cubic(-19.1, 1.35, 10, 20, 20, 0).line(0, -10).close();
		for (const shift of [false, true]) {
			const work = (await at(short)).plainly();
			work.bench.enter('o0');
			work.bench.selection.anchors = new Set([work.outline().anchors[0]]);
			work.press([-19.55, 0.675], { shift });
			work.pull([-15, 5], {});
			work.hand.up(work.pointer([-15, 5], {}));
			expect(work.steps).toEqual([shift ? 'Move anchor' : 'Move handle']);
		}
	});
});

describe('stretches', () => {
	test('a straight goes as a whole, a curve bends through the pointer; with Alt it is the other way round', async () => {
		for (const alt of [false, true]) {
			const work = (await at(bow)).plainly();
			work.bench.enter('o0');
			work.drag([0, -10], [0, -15], { alt });
			expect(work.steps).toEqual([alt ? 'Bend a straight' : 'Move segment']);
			expect([work.anchor(2)[1], work.anchor(3)[1]]).toEqual(alt ? [-10, -10] : [-15, -15]);
			const line = new EdgeTree([{ points: flattenPath(lineOf(work.outline()), 1e-4), closed: true }]);
			expect(line.distance(0, -15)).toBeLessThan(1e-3);
			const bent = (await at(bow)).plainly();
			bent.bench.enter('o0');
			bent.drag([0, 15], [0, 19], { alt });
			const now = new EdgeTree([{ points: flattenPath(lineOf(bent.outline()), 1e-4), closed: true }]);
			expect(now.distance(0, 19)).toBeLessThan(1e-3);
			expect(bent.anchor(0)).toEqual(alt ? [-20, 4] : [-20, 0]);
		}
	});

	test('a double press puts an anchor there, the shape unchanged; pulled at once it is one step', async () => {
		const work = (await at(bow)).plainly();
		work.bench.enter('o0');
		work.click([0, 15]);
		work.press([0, 15], { second: true });
		work.hand.up(work.pointer([0, 15], { second: true }));
		work.hand.double(work.pointer([0, 15], {}));
		expect(work.steps).toEqual(['Add anchor']);
		expect(work.outline().anchors).toHaveLength(5);
		expect(pathArea(lineOf(work.outline()))).toBeCloseTo(pathArea(bow), 9);
		work.click([0, -10]);
		work.press([0, -10], { second: true });
		work.pull([0, -12], [0, -16], { second: true });
		work.hand.up(work.pointer([0, -16], { second: true }));
		expect(work.steps).toEqual(['Add anchor', 'Add anchor and pull it']);
		expect(work.outline().anchors).toHaveLength(6);
	});

	test('Shift picks several; they are dragged together; a tap on one picks it alone', async () => {
		const work = (await at(square)).plainly();
		work.bench.enter('o0');
		work.click([0, -10]);
		work.click([0, 10], { shift: true });
		expect(work.bench.selection.segments.size).toBe(2);
		work.drag([0, 10], [3, 10]);
		expect([0, 1, 2, 3].map((i) => work.anchor(i)[0])).toEqual([-17, 23, 23, -17]);
		work.click([0, 10]);
		expect(work.bench.selection.segments.size).toBe(1);
	});
});

describe('boxes and lines round things', () => {
	test('a box picks what lies wholly in it; with Shift it adds', async () => {
		const work = await at(circlePath(-30, 0, 5), circlePath(0, 0, 5), circlePath(30, 0, 5));
		work.drag([-40, 10], [-20, -10]);
		expect([...work.bench.selection.selected]).toEqual(['o0']);
		work.drag([10, 10], [38, -10], { shift: true });
		expect([...work.bench.selection.selected].sort()).toEqual(['o0', 'o2']);
		work.drag([-8, 8], [2, -8]);
		expect([...work.bench.selection.selected]).toEqual([]);
		expect(work.hand.box).toBeUndefined();
		expect(work.steps).toEqual([]);
	});

	test('of an entered outline it picks anchors, and Alt draws a line round them', async () => {
		const work = await at(square);
		work.bench.enter('o0');
		work.drag([10, 20], [30, -20]);
		expect(work.bench.selection.anchors).toEqual(new Set([1, 2].map((i) => work.outline().anchors[i])));
		work.press([-30, 20], { alt: true });
		work.pull([-10, 20], [-10, 0], [-30, 0], { alt: true });
		expect(work.hand.lasso!.length).toBe(8);
		work.hand.up(work.pointer([-30, 0], { alt: true }));
		expect(work.hand.lasso).toBeUndefined();
		expect(work.bench.selection.anchors).toEqual(new Set([work.outline().anchors[3]]));
	});
});

describe('things', () => {
	test('a press selects, the next one at the same place the one beneath; a press beside them lets go', async () => {
		const work = await at(square, square, circlePath(0, 30, 3));
		work.click([0, 10]);
		const [first] = work.bench.selection.selected;
		work.click([0, 10]);
		const [second] = work.bench.selection.selected;
		expect(new Set([first, second])).toEqual(new Set(['o0', 'o1']));
		work.click([0, 33], { shift: true });
		expect(work.bench.selection.selected.size).toBe(2);
		work.click([0, 33], { shift: true });
		expect(work.bench.selection.selected.size).toBe(1);
		work.click([50, -30]);
		expect(work.bench.selection.selected.size).toBe(0);
	});

	test('a selected one is carried, with what lies in it; with Alt alone', async () => {
		for (const alt of [false, true]) {
			const work = (await at(square, circlePath(5, 0, 3))).plainly();
			work.bench.select(['o0']);
			work.drag([0, 10], [4, 12], { alt });
			expect(work.anchor(0)).toEqual([-16, -8]);
			const hole = work.anchor(0, 'o1');
			const start = outlineFromPath(circlePath(5, 0, 3), { id: 'x', name: '', layer: 'cut', rank: 1 }).points;
			expect(hole).toEqual(alt ? [start[0], start[1]] : [start[0] + 4, start[1] + 2]);
			work.bench.undo();
			expect(work.anchor(0)).toEqual([-20, -10]);
		}
	});

	test('while a copy is to be left, what is carried stays and its copy lies there', async () => {
		const work = (await at(circlePath(0, 0, 4))).plainly();
		work.bench.select(['o0']);
		work.press([4, 0]);
		work.pull([8, 0], [24, 0]);
		work.bench.leavesCopy = true;
		work.hand.up(work.pointer([24, 0], {}));
		expect(work.bench.outlines).toHaveLength(2);
		const xs = work.bench.outlines.map((o) => Math.round(o.points[0])).sort((a, b) => a - b);
		expect(xs[1] - xs[0]).toBe(20);
		expect(work.bench.leavesCopy).toBe(false);
	});

	test('they catch on the edges of others', async () => {
		const work = await at(
			polygonPath([0, 0, 10, 0, 10, 10, 0, 10]),
			polygonPath([30, 3, 40, 3, 40, 13, 30, 13])
		);
		work.bench.select(['o0']);
		// Half a millimetre short of touching, and a little low.
		work.drag([5, 0], [24.6, 2.7]);
		expect(work.anchor(0)).toEqual([20, 3].map((v) => expect.closeTo(v, 9)));
	});

	test('a double click enters at the anchor that was meant; beside everything it leaves', async () => {
		const work = await at(square);
		work.double([20, 10]);
		expect(work.bench.selection.enteredIds).toEqual(['o0']);
		expect([...work.bench.selection.anchors]).toEqual([work.outline().anchors[2]]);
		work.double([45, 30]);
		expect(work.bench.selection.enteredIds).toEqual([]);
	});

	test('what is locked is not carried', async () => {
		const work = (await at(square)).plainly();
		work.bench.commit('Lock', { put: [{ ...work.outline(), locked: true }] });
		work.bench.select(['o0']);
		work.drag([0, 10], [9, 9]);
		expect(work.anchor(0)).toEqual([-20, -10]);
	});

	test('the menu opens on what lies under the pointer and selects it', async () => {
		const work = await at(square);
		work.hand.menuAt(work.pointer([0, 10], { button: 2 }));
		expect([...work.bench.selection.selected]).toEqual(['o0']);
		expect(work.bench.menu).toEqual({ x: 600, y: 300 });
		work.click([50, 30]);
		expect(work.bench.menu).toBeUndefined();
	});
});

describe('the paper', () => {
	test('it is pulled along with the middle button or while the space bar is held: what lay under the pointer stays there', async () => {
		for (const held of [{ button: 1 }, { panning: true }]) {
			const work = await at(square);
			const from = work.pointer([5, 5], held);
			work.hand.down(from);
			work.hand.move({ ...from, x: from.x + 80, y: from.y - 30 });
			work.hand.up({ ...from, x: from.x + 80, y: from.y - 30 });
			expect(toScreen(work.bench.sight.view, work.bench.sight.size, 5, 5)).toEqual({
				x: from.x + 80,
				y: from.y - 30
			});
			expect(work.steps).toEqual([]);
		}
	});

	test('a guide is pulled out of a ruler, upright or level; let go on the ruler it is none', async () => {
		const work = await at(square);
		for (const [x, y, angle] of [
			[600, 8, 0],
			[8, 400, 90]
		]) {
			const from = { ...work.pointer([0, 0], {}), x, y };
			work.hand.down(from);
			work.hand.up(from);
			work.hand.down(from);
			work.hand.up(work.pointer([12, 7], {}));
			const guide = recordsOf(work.bench.drawing, 'guide').find((g) => g.angle === angle)!;
			expect(angle ? guide.x : guide.y).toBe(angle ? 12 : 7);
		}
		expect(recordsOf(work.bench.drawing, 'guide')).toHaveLength(2);
	});

	test('a reader carries nothing off', async () => {
		const work = (await at(square)).plainly();
		work.bench.readOnly = true;
		work.bench.enter('o0');
		work.drag([20, 10], [30, 10]);
		const from = { ...work.pointer([0, 0], {}), x: 600, y: 8 };
		work.hand.down(from);
		work.hand.up(work.pointer([12, 7], {}));
		expect(work.steps).toEqual([]);
		expect(work.anchor(2)).toEqual([20, 10]);
	});
});
