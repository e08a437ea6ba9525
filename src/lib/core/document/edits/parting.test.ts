/** Lines taken apart and made longer, corners between two; expected values from elementary geometry. */
import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { unwrap } from '../../errors';
import { cornerOf, fillet } from '../../geometry/corner';
import { pathArea, pathLength } from '../../geometry/measure';
import { circlePath, PathBuilder, polygonPath, type Path } from '../../geometry/path';
import { boxOf } from '../../geometry/pick';
import { newDrawing, outlinesOf, type Drawing } from '../drawing';
import { applyStep, makeStep, type Edit } from '../history';
import { lineOf, outlineFromPath, type Outline } from '../outline';
import { byLength, nearerLineEnd, toBoundary } from './extend';
import { brokenAtCrossings, holesBeside, intoSingles, startedAt, stretchesOf, takenOf } from './parting';

const outlineOf = (path: Path, id: string, rank = 1): Outline =>
	outlineFromPath(path, { id, name: id, layer: 'cut', rank });
const drawingOf = (...list: Outline[]): Drawing => {
	const drawing = newDrawing('d', 'Parts');
	return { ...drawing, records: new Map([...drawing.records, ...list.map((o) => [o.id, o] as const)]) };
};
const after = (drawing: Drawing, edit: Edit): Drawing =>
	applyStep(drawing, makeStep(drawing, 'edit', edit)!, 'forward');
let count = 0;
const newId = () => `n${++count}`;
const square = () => outlineOf(polygonPath([0, 0, 10, 0, 10, 10, 0, 10]), 'square');
const total = (list: readonly Path[]) => list.reduce((sum, p) => sum + pathLength(p), 0);

describe('taken apart', () => {
	test('a square is four lines of 10 mm, the first of them the old record; undo is the step back', () => {
		const drawing = drawingOf(square());
		const made = outlinesOf(after(drawing, intoSingles(drawing, [square()], newId)));
		expect(made).toHaveLength(4);
		expect(made.map((o) => o.closed)).toEqual([false, false, false, false]);
		for (const o of made) expect(pathLength(lineOf(o))).toBeCloseTo(10, 12);
		expect(made.some((o) => o.id === 'square')).toBe(true);
	});
	test('two circles that cross are two arcs each; their lengths add up', () => {
		const [a, b] = [outlineOf(circlePath(0, 0, 10), 'a'), outlineOf(circlePath(12, 0, 10), 'b', 2)];
		const drawing = drawingOf(a, b);
		const { edit, crossings } = brokenAtCrossings(drawing, [a, b], [a, b], newId);
		expect(crossings).toBe(4);
		const made = outlinesOf(after(drawing, edit));
		expect(made).toHaveLength(4);
		expect(total(made.map(lineOf))).toBeCloseTo(40 * Math.PI, 6);
	});
	test('a line that crosses itself is broken where it does, and neighbours that meet are no crossing', () => {
		const bow = outlineOf(polygonPath([0, 0, 10, 10, 10, 0, 0, 10]), 'bow');
		const { edit, crossings } = brokenAtCrossings(drawingOf(bow), [bow], [bow], newId);
		expect(crossings).toBe(2);
		expect(edit.put).toHaveLength(2);
		const one = square();
		const none = brokenAtCrossings(drawingOf(one), [one], [one], newId);
		expect(none.crossings).toBe(0);
	});
	test('a stretch and the rest are all of the line, wherever the two places lie', () => {
		fc.assert(
			fc.property(
				fc.integer({ min: 0, max: 39 }),
				fc.integer({ min: 0, max: 39 }),
				fc.boolean(),
				(p, q, closed) => {
					fc.pre(p !== q);
					const path = polygonPath([0, 0, 10, 0, 10, 10, 0, 10, -5, 5], closed);
					const { between, rest } = stretchesOf(path, p / 10, q / 10);
					expect(total([between, ...rest])).toBeCloseTo(pathLength(path), 9);
					if (closed) expect(total(takenOf(path, rest))).toBeCloseTo(pathLength(between), 6);
				}
			)
		);
	});
	test('what is gone of an open line is what lies between what is left', () => {
		const line = polygonPath([0, 0, 30, 0], false);
		const { between, rest } = stretchesOf(line, 0.2, 0.5);
		expect(takenOf(line, rest).map(pathLength)).toEqual([expect.closeTo(pathLength(between), 9)]);
		expect(pathLength(between)).toBeCloseTo(9, 9);
	});
	test('holes are laid to the right of their piece, as they are', () => {
		const [piece, hole] = [square(), outlineOf(circlePath(5, 5, 2), 'hole', 2)];
		const drawing = drawingOf(piece, hole);
		const [, moved] = outlinesOf(after(drawing, holesBeside(drawing, piece, [hole], 5)));
		expect(boxOf(lineOf(moved)).x0).toBeCloseTo(15, 9);
		expect(Math.abs(pathArea(lineOf(moved)))).toBeCloseTo(4 * Math.PI, 6);
	});
	test('another start: the same line, the same anchors, begun elsewhere', () => {
		const o = { ...square(), rounds: [{ anchor: square().anchors[1], radius: 2 }] };
		const moved = startedAt(o, o.anchors[2]);
		expect(moved.anchors[0]).toBe(o.anchors[2]);
		expect([...moved.anchors].sort()).toEqual([...o.anchors].sort());
		expect(moved.rounds).toEqual(o.rounds);
		expect(pathArea(lineOf(moved))).toBeCloseTo(pathArea(lineOf(o)), 12);
		expect(startedAt(o, o.anchors[0])).toBe(o);
	});
});

describe('longer and shorter', () => {
	const line = polygonPath([0, 0, 10, 0], false);
	test('to the next line straight on; a line that lies behind is none', () => {
		const wall = polygonPath([25, -5, 25, 5], false);
		expect(pathLength(unwrap(toBoundary(line, 'end', [wall], 'straight', false)))).toBeCloseTo(25, 9);
		expect(toBoundary(line, 'start', [wall], 'straight', false)).toMatchObject({
			ok: false,
			problem: { code: 'no-boundary' }
		});
	});
	test('an arc goes on as its circle until it meets a line', () => {
		const quarter = new PathBuilder(10, 0).arc(Math.tan(Math.PI / 8), 0, 10).open();
		const wall = polygonPath([-20, 0, -5, 0], false);
		const made = unwrap(toBoundary(quarter, 'end', [wall], 'curve', false));
		expect(pathLength(made)).toBeCloseTo(10 * Math.PI, 6);
	});
	test('shortened to the crossing nearest its end, or by a length', () => {
		const walls = [3, 7].map((x) => polygonPath([x, -5, x, 5], false));
		expect(pathLength(unwrap(toBoundary(line, 'end', walls, 'curve', true)))).toBeCloseTo(7, 9);
		expect(pathLength(unwrap(toBoundary(line, 'start', walls, 'curve', true)))).toBeCloseTo(7, 9);
		expect(pathLength(unwrap(byLength(line, 'end', -4, 'curve')))).toBeCloseTo(6, 9);
		expect(unwrap(byLength(line, 'end', 0, 'curve'))).toBe(line);
		expect(toBoundary(line, 'end', [], 'curve', true).ok).toBe(false);
		expect(nearerLineEnd(line, 2, 1)).toBe('start');
		expect(nearerLineEnd(line, 8, 1)).toBe('end');
	});
});

describe('a corner between two lines', () => {
	test('two that do not meet are prolonged, and rounded with a radius: the length is that of the legs less 2r and a quarter', () => {
		const a = polygonPath([0, 0, 8, 0], false);
		const b = polygonPath([10, 20, 10, 3], false);
		const { path, corner } = unwrap(cornerOf(a, { segment: 0, t: 0.98 }, b, { segment: 0, t: 0.98 }));
		expect(pathLength(path)).toBeCloseTo(30, 9);
		const round = unwrap(fillet(path, corner, 2));
		expect(pathLength(round)).toBeCloseTo(30 - 4 + Math.PI, 9);
	});
});
