/** Records that depend on records: followers follow, ids last, nothing follows itself. */
import fc from 'fast-check';
import { beforeEach, describe, expect, test } from 'vitest';
import { edited, randomShape, readyShape } from '../../../../tests/random-drawings';
import { blob, chance } from '../../../../tests/shapes';
import { CoreError } from '../errors';
import { twoWayDistance } from '../geometry/edge-tree';
import { pathArea, pathBox } from '../geometry/measure';
import { circlePath, polygonPath, type Path } from '../geometry/path';
import { completeEdit, type Completed } from './complete-edit';
import { newDrawing, outlinesOf, recordAs, type Drawing, type DrawingRecord } from './drawing';
import { addFollower, isOfOlderEngine, madeAnew, makePlain, givenOutline, withSettings } from './edits/made';
import { moveAnchors } from './edits/anchors';
import { transformOutline } from './edits/transform';
import { moveBy, mirrorAt, scaleBy, turnBy } from '../geometry/maps';
import { removeOutlines } from './edits/operations';
import { edgesOf, withEdge } from './edges';
import { follow, followersOf, graphOf, inputsOf, madeAfresh, resolve, setOf, staleSets } from './graph';
import { amendStep, applyStep, makeStep, type Edit, type Step } from './history';
import { flipped, lineOf, outlineFromPath, type Outline } from './outline';
import type { OffsetSettings } from './recipes/offset';

const OFFSET: OffsetSettings = {
	distance: 2,
	steps: 1,
	way: 'outside',
	join: 'round',
	miterLimit: 4,
	side: 'both',
	ends: 'round',
	band: false
};
const facts = (id: string, rank = 5) => ({ id, name: id, layer: 'cut', rank });
const plain = (id: string, path: Path) => outlineFromPath(path, facts(id, 2));
const square = plain('square', polygonPath([0, 0, 40, 0, 40, 30, 0, 30]));

let drawing: Drawing;
let last: Completed;
/** Does an edit as the program does, with all that follows. */
function act(edit: Edit): void {
	last = completeEdit(drawing, edit);
	const step = makeStep(drawing, 'Edit', last.edit);
	if (step) drawing = applyStep(drawing, step, 'forward');
}
const outline = (id: string): Outline => recordAs(drawing, 'outline', id);
const size = (id: string) => {
	const b = pathBox(lineOf(outline(id)));
	return [b.x1 - b.x0, b.y1 - b.y0].map((v) => +v.toFixed(6));
};
const addOffset = (id: string, of: readonly string[], settings: Partial<OffsetSettings> = {}) =>
	act(addFollower('offset', { ...OFFSET, ...settings }, of.map(outline), facts(id)));

beforeEach(() => {
	drawing = newDrawing('d', 'Crow');
	act({ put: [square] });
});

describe('following', () => {
	test('an offset follows its line, a chain of them too, and only they are made again', () => {
		act({ put: [plain('apart', circlePath(200, 0, 5))] });
		addOffset('near', ['square'], { join: 'miter' });
		addOffset('far', ['near'], { join: 'miter', distance: 3 });
		addOffset('other', ['apart']);
		expect(size('near')).toEqual([44, 34]);
		expect(size('far')).toEqual([50, 40]);
		const before = outline('other');
		act({ put: [moveAnchors(outline('square'), new Set([2, 3]), 10, 0)] });
		expect(size('near')).toEqual([54, 34]);
		expect(size('far')).toEqual([60, 40]);
		expect(last.made).toBe(2);
		expect(outline('other')).toBe(before);
		expect(followersOf(drawing, ['square']).map((o) => o.id)).toEqual(['near', 'far']);
	});

	test('a name, a colour, a place in the order make nothing again', () => {
		addOffset('near', ['square']);
		const before = outline('near');
		act({ put: [{ ...outline('square'), name: 'Wing', colour: '#aa0000', rank: 9 }] });
		expect(last.made).toBe(0);
		expect(outline('near')).toBe(before);
	});

	test('one edit of one source among 1,000 unrelated recipes makes none of them again', () => {
		const put: DrawingRecord[] = [];
		for (let k = 0; k < 1000; k++)
			put.push(givenOutline('shape', randomShape(7 * k + 1), { ...facts(`shape ${k}`), rank: k }));
		act({ put });
		addOffset('near', ['square']);
		act({ put: [moveAnchors(outline('square'), new Set([2]), 1, 1)] });
		expect(last.made).toBe(1);
	});

	test('settings are changed for all lines of a recipe; parts come and go with what the source gives', () => {
		// Two lobes on a neck: inside, the neck goes first.
		const lobes = [0, 0, 20, 0, 20, 8, 40, 8, 40, 0, 60, 0, 60, 20, 40, 20, 40, 12, 20, 12, 20, 20, 0, 20];
		act({ put: [plain('bone', polygonPath(lobes))] });
		addOffset('inner', ['bone'], { way: 'inside', distance: 1 });
		expect(graphOf(drawing).sets.get('inner')).toHaveLength(1);
		act(withSettings(drawing, outline('inner'), { distance: 3 }));
		const parts = graphOf(drawing).sets.get('inner')!;
		expect(parts).toHaveLength(2);
		expect(new Set(parts.map((o) => o.name)).size).toBe(2);
		// One taken out by hand stays out when the source changes.
		act(removeOutlines(drawing, new Set([parts[1].id])));
		act({ put: [moveAnchors(outline('bone'), new Set([1]), -1, -1)] });
		expect(graphOf(drawing).sets.get('inner')).toHaveLength(1);
		act(withSettings(drawing, outline('inner'), { distance: 1 }));
		expect(graphOf(drawing).sets.get('inner')).toHaveLength(1);
	});

	test('where nothing is left the line is empty and says why, and comes back when it can', () => {
		addOffset('inner', ['square'], { way: 'inside', distance: 10 });
		act(withSettings(drawing, outline('inner'), { distance: 16 }));
		expect(outline('inner').anchors).toHaveLength(0);
		expect(outline('inner').recipe!.problem).toContain('Nothing is left');
		expect(last.empty.map((o) => o.id)).toEqual(['inner']);
		act({ put: [moveAnchors(outline('square'), new Set([3, 4]), 0, 30)] });
		expect(size('inner')).toEqual([8, 28]);
		expect(outline('inner').recipe!.problem).toBeUndefined();
	});

	test('a source that goes leaves its followers plain, with the line they had', () => {
		addOffset('near', ['square']);
		addOffset('far', ['near']);
		const line = lineOf(outline('near'));
		act(removeOutlines(drawing, new Set(['square'])));
		expect(last.plain.map((o) => o.id)).toEqual(['near']);
		expect(outline('near').recipe).toBeUndefined();
		expect(lineOf(outline('near'))).toEqual(line);
		expect(outline('far').recipe).toBeDefined();
		act({ put: [moveAnchors(outline('near'), new Set([outline('near').anchors[0]]), 3, 3)] });
		expect(last.made).toBe(1);
	});

	test('made plain it is the same line to the bit, and follows no more', () => {
		addOffset('near', ['square']);
		const line = lineOf(outline('near'));
		act(makePlain(drawing, [outline('near')]));
		expect(lineOf(outline('near'))).toEqual(line);
		act({ put: [moveAnchors(outline('square'), new Set([2]), 5, 5)] });
		expect(lineOf(outline('near'))).toEqual(line);
	});

	test('moved with its source it is made again there; moved alone it is plain', () => {
		addOffset('near', ['square'], { join: 'miter' });
		const map = moveBy(100, 0);
		act({ put: [outline('square'), outline('near')].map((o) => transformOutline(o, map)) });
		expect(pathBox(lineOf(outline('near'))).x0).toBeCloseTo(98, 6);
		expect(outline('near').recipe).toBeDefined();
		const bigger = scaleBy(2, 2, 100, 0);
		act({ put: [outline('square'), outline('near')].map((o) => transformOutline(o, bigger)) });
		expect(outline('near').recipe!.settings).toMatchObject({ distance: 4 });
		expect(size('near')).toEqual([88, 68]);
		act({ put: [transformOutline(outline('near'), map)] });
		expect(outline('near').recipe).toBeUndefined();
		expect(last.plain.map((o) => o.id)).toEqual(['near']);
	});

	test('an older engine moves nothing by itself; made anew the newer one does', () => {
		addOffset('near', ['square']);
		const old = outline('near');
		drawing = {
			...drawing,
			records: new Map(drawing.records).set('near', { ...old, recipe: { ...old.recipe!, engine: 0 } })
		};
		expect(isOfOlderEngine(outline('near'))).toBe(true);
		act({ put: [{ ...outline('square'), name: 'Wing' }] });
		expect(outline('near').recipe!.engine).toBe(0);
		act(madeAnew(drawing, outline('near')));
		expect(isOfOlderEngine(outline('near'))).toBe(false);
	});

	test('flipped, a line that is made stays so, and runs the other way after the next making too', () => {
		addOffset('near', ['square']);
		act({ put: [flipped(outline('near'))] });
		expect(pathArea(lineOf(outline('near')))).toBeLessThan(0);
		act({ put: [moveAnchors(outline('square'), new Set([2]), 5, 0)] });
		expect(outline('near').recipe).toBeDefined();
		expect(pathArea(lineOf(outline('near')))).toBeLessThan(0);
	});

	test('what is asked of a drawing is the line as its inputs are now', () => {
		addOffset('near', ['square'], { join: 'miter' });
		const moved = moveAnchors(outline('square'), new Set([2, 3]), 10, 0);
		const ahead = { ...drawing, records: new Map(drawing.records).set('square', moved) };
		const b = pathBox(resolve(ahead, 'near'));
		expect(b.x1 - b.x0).toBeCloseTo(54, 6);
		expect(resolve(drawing, 'near')).toBe(lineOf(outline('near')));
		expect(() => resolve(drawing, 'gone')).toThrow(CoreError);
	});
});

describe('circles', () => {
	test('nothing follows itself, nor what follows it; the sentence names both', () => {
		addOffset('near', ['square']);
		addOffset('far', ['near']);
		const round = outline('near');
		const inputs = [{ record: 'far' }];
		const bad = { ...round, recipe: { ...round.recipe!, inputs, made: '' } };
		expect(() => act({ put: [bad] })).toThrow('"far" is made from "near" already');
		const own = { ...round, recipe: { ...round.recipe!, inputs: [{ record: 'near' }], made: '' } };
		expect(() => act({ put: [own] })).toThrow('cannot be made from itself');
	});
});

describe('dear followers', () => {
	test('keep their line, marked, until their result comes; the step that asked has it then, undone and done again', () => {
		const heavy = plain('heavy', blob(300, 3, 60));
		act({ put: [heavy] });
		addOffset('near', ['heavy']);
		const before = drawing;
		const moved = moveAnchors(outline('heavy'), new Set([5]), 1, 1);
		const { edit, dear } = completeEdit(drawing, { put: [moved] }, 'cheap');
		expect(dear).toEqual(['near']);
		let step: Step = makeStep(drawing, 'Move', edit)!;
		drawing = applyStep(drawing, step, 'forward');
		expect(outline('near').recipe!.stale).toBe(true);
		expect(staleSets(drawing)).toEqual(['near']);
		expect(lineOf(outline('near')).segs).toEqual(lineOf(recordAs(before, 'outline', 'near')).segs);
		const late = follow(drawing, ['heavy']);
		const now = { ...drawing, records: late.records };
		step = amendStep(drawing, now, step, new Set(['near']));
		expect(staleSets(now)).toEqual([]);
		expect(applyStep(now, step, 'back').records.get('near')).toBe(before.records.get('near'));
		expect(applyStep(applyStep(now, step, 'back'), step, 'forward').records.get('near')).toBe(
			late.records.get('near')
		);
	});

	test('back at the inputs that it was made from it is no longer stale', () => {
		act({ put: [plain('heavy', blob(300, 3, 60))] });
		addOffset('near', ['heavy']);
		const there = completeEdit(
			drawing,
			{ put: [moveAnchors(outline('heavy'), new Set([5]), 1, 0)] },
			'cheap'
		);
		const first = outline('heavy');
		drawing = applyStep(drawing, makeStep(drawing, 'There', there.edit)!, 'forward');
		const back = completeEdit(drawing, { put: [first] }, 'cheap');
		drawing = applyStep(drawing, makeStep(drawing, 'Back', back.edit)!, 'forward');
		expect(outline('near').recipe!.stale).toBeUndefined();
		expect(back.dear).toEqual([]);
	});
});

describe('laws', () => {
	/** Bits of all outlines, so that two drawings can be held against each other. */
	const bits = (d: Drawing) =>
		JSON.stringify(
			outlinesOf(d).map((o) => ({
				...o,
				anchors: [...o.anchors],
				points: Array.from(o.points, (v) => (Object.is(v, -0) ? '-0' : v)),
				marks: [...o.marks]
			}))
		);

	test('300 edits at random over chains of recipes: what is stored is what is made from scratch; undo and redo to the bit', () => {
		fc.assert(
			fc.property(fc.integer({ min: 1, max: 1e6 }), (seed) => {
				const rnd = chance(seed);
				drawing = newDrawing('d', 'Owl');
				const steps: Step[] = [];
				const doEdit = (edit: Edit) => {
					const completed = completeEdit(drawing, edit);
					const step = makeStep(drawing, 'Edit', completed.edit);
					if (!step) return;
					steps.push(step);
					drawing = applyStep(drawing, step, 'forward');
				};
				const first = drawing;
				doEdit({
					put: [plain('a', blob(8, seed, 30)), plain('b', polygonPath([50, 0, 90, 0, 90, 40, 50, 40]))]
				});
				doEdit({ put: [readyShape(randomShape(seed), 'c')] });
				let made = 0;
				for (let k = 0; k < 300; k++) {
					const all = outlinesOf(drawing);
					const pick = () => all[Math.floor(rnd() * all.length)];
					const one = pick();
					const what = rnd();
					try {
						if (!one || (what < 0.1 && all.length < 9)) {
							const source = pick();
							if (!source || source.anchors.length === 0) {
								doEdit({ put: [plain(`new ${k}`, circlePath(10 * rnd(), 10 * rnd(), 4 + 9 * rnd()))] });
								continue;
							}
							made++;
							const kind = rnd() < 0.5 && source.closed ? 'allowance' : 'offset';
							if (kind === 'offset')
								doEdit(
									addFollower('offset', { ...OFFSET, distance: 0.2 + 2 * rnd() }, [source], facts(`f${k}`))
								);
							else
								doEdit(
									addFollower('allowance', { width: 3 * rnd(), corner: 'miter' }, [source], facts(`f${k}`))
								);
						} else if (what < 0.16) doEdit(removeOutlines(drawing, new Set([one.id])));
						else if (what < 0.2) doEdit(makePlain(drawing, [one]));
						else if (what < 0.26) doEdit({ put: [flipped(one)] });
						else if (what < 0.32 && edgesOf(one).length)
							doEdit({
								put: [withEdge(one, edgesOf(one)[0].id, { width: rnd() < 0.3 ? undefined : 4 * rnd() })]
							});
						else if (what < 0.42)
							doEdit({
								put: [
									transformOutline(
										one,
										[moveBy(3, 1), turnBy(90 * rnd(), 0, 0), mirrorAt(180 * rnd(), 5, 0)][k % 3]
									)
								]
							});
						else if (what < 0.5 && one.recipe && one.recipe.kind === 'offset')
							doEdit(withSettings(drawing, one, { distance: 0.2 + 3 * rnd() }));
						else if (one.anchors.length > 3 && one.anchors.length < 60) {
							const next = edited(one, {
								how: Math.floor(1000 * rnd()),
								at: Math.floor(1000 * rnd()),
								a: rnd(),
								b: rnd()
							});
							if (next && next.anchors.length >= 4) doEdit({ put: [next] });
						}
					} catch (error) {
						if (!(error instanceof CoreError)) throw error;
					}
				}
				expect(made).toBeGreaterThan(3);
				// Every reference leads somewhere, and no set contains what it is made from.
				for (const o of outlinesOf(drawing)) {
					for (const { record } of o.recipe?.inputs ?? []) expect(drawing.records.has(record)).toBe(true);
					expect(followersOf(drawing, [o.id]).some((f) => setOf(f) === setOf(o) && f !== o)).toBe(false);
					expect(new Set(o.anchors).size).toBe(o.anchors.length);
					if (o.recipe) expect(inputsOf(drawing.records, o.recipe)!.print).toBe(o.recipe.made);
				}
				expect(bits(madeAfresh(drawing))).toBe(bits(drawing));
				const end = bits(drawing);
				let back = drawing;
				for (const step of [...steps].reverse()) back = applyStep(back, step, 'back');
				expect(bits(back)).toBe(bits(first));
				let again = back;
				for (const step of steps) again = applyStep(again, step, 'forward');
				expect(bits(again)).toBe(end);
			}),
			{ numRuns: 4 }
		);
	}, 600_000);

	test('an anchor of a follower keeps its id while what it was made of is there', () => {
		addOffset('near', ['square']);
		const corner = (at: { x: number; y: number }) => {
			const o = outline('near');
			const i = o.anchors.findIndex(
				(_, k) => Math.hypot(o.points[7 * k] - at.x, o.points[7 * k + 1] - at.y) < 1e-6
			);
			return o.anchors[i];
		};
		const id = corner({ x: -2, y: 0 });
		expect(id).toBeGreaterThan(0);
		act({ put: [moveAnchors(outline('square'), new Set([3]), 4, 4)] });
		expect(corner({ x: -2, y: 0 })).toBe(id);
		act(withSettings(drawing, outline('near'), { distance: 5 }));
		expect(corner({ x: -5, y: 0 })).toBe(id);
	});

	test('a ready shape moved and mirrored is made anew from its numbers at the same place', () => {
		for (let seed = 0; seed < 70; seed++) {
			const shape = readyShape(randomShape(seed));
			const map = [turnBy(33, 4, 5), mirrorAt(20, 1, 2), scaleBy(1.7, 1.7, 0, 3)][seed % 3];
			const moved = transformOutline(shape, map);
			drawing = newDrawing('d', 'Owl');
			act({ put: [shape] });
			act({ put: [moved] });
			const made = outline('shape');
			expect(made.recipe).toBeDefined();
			expect(twoWayDistance([lineOf(moved)], [lineOf(made)], 1e-6, 1).distance).toBeLessThan(2e-6);
			// The same corner has the same id: rounds and edges stay on it.
			if (moved.recipe!.kind === 'shape' && !['circle', 'slot'].includes(moved.recipe!.settings.shape))
				expect(Math.hypot(made.points[7] - moved.points[7], made.points[8] - moved.points[8])).toBeLessThan(
					1e-9
				);
		}
	});
});
