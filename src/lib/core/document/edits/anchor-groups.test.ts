/** Anchors as a group, typed arcs and handles, copies; expected values from elementary geometry. */
import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { pathLength } from '../../geometry/measure';
import { circlePath, PathBuilder, polygonPath, type Path } from '../../geometry/path';
import { twoWayDistance } from '../../geometry/edge-tree';
import { segmentLength } from '../../geometry/segment';
import { newDrawing, outlinesOf, recordAs, type Drawing, type Layer } from '../drawing';
import { applyStep, makeStep, type Edit } from '../history';
import { lineOf, outlineFromPath, placeOfAnchor, sourceLine, type Outline } from '../outline';
import { readClipping, writeClipping } from '../../formats/clipping';
import { unwrap } from '../../errors';
import { lineUp, spread, transformAnchors } from './anchor-groups';
import { insertAnchors, placeHandle } from './anchors';
import { addClipping, clippingOf, copiesOf } from './copies';
import { asTyped, handleFaults } from './handles';
import { addFollower } from './made';
import { segmentNumbers, setArcStart, setArcSweep } from './segments';
import { mirrorAt, moveBy, scaleBy, turnBy } from '../../geometry/maps';

const outlineOf = (path: Path, id = 'o', rank = 1): Outline =>
	outlineFromPath(path, { id, name: id, layer: 'cut', rank });
const drawingOf = (...list: Outline[]): Drawing => {
	const drawing = newDrawing('d', 'Parts');
	return { ...drawing, records: new Map([...drawing.records, ...list.map((o) => [o.id, o] as const)]) };
};
const after = (drawing: Drawing, edit: Edit): Drawing =>
	applyStep(drawing, makeStep(drawing, 'edit', edit)!, 'forward');
let count = 0;
const newId = () => `n${++count}`;
const square = () => outlineOf(polygonPath([0, 0, 10, 0, 10, 10, 0, 10]));
const all = (o: Outline) => new Set(o.anchors);
const at = (o: Outline, i: number) => placeOfAnchor(o, o.anchors[i])!;

describe('anchors as a group', () => {
	test('all of them under a map are the outline under it; and back again to the digit', () => {
		fc.assert(
			fc.property(fc.integer({ min: -180, max: 180 }), fc.integer({ min: 2, max: 40 }), (angle, tenths) => {
				const o = outlineOf(circlePath(3, 4, 5));
				const there = transformAnchors(
					transformAnchors(o, all(o), turnBy(angle, 1, 2)),
					all(o),
					scaleBy(tenths / 10, tenths / 10, 0, 0)
				);
				const back = transformAnchors(
					transformAnchors(there, all(o), scaleBy(10 / tenths, 10 / tenths, 0, 0)),
					all(o),
					turnBy(-angle, 1, 2)
				);
				expect(twoWayDistance([lineOf(back)], [lineOf(o)], 1e-4, 0.05).distance).toBeLessThan(1e-6);
			}),
			{ numRuns: 30 }
		);
	});
	test('some of them turn with their handles, the others stay; mirrored, an arc between two keeps its shape', () => {
		const o = square();
		const two = new Set([o.anchors[2], o.anchors[3]]);
		const moved = transformAnchors(o, two, scaleBy(0.5, 1, 5, 0));
		expect([0, 1, 2, 3].map((i) => at(moved, i))).toEqual([
			{ x: 0, y: 0 },
			{ x: 10, y: 0 },
			{ x: 7.5, y: 10 },
			{ x: 2.5, y: 10 }
		]);
		const arc = outlineOf(new PathBuilder(0, 0).arc(0.5, 10, 0).open());
		const flipped = transformAnchors(arc, all(arc), mirrorAt(0, 0, 0));
		expect(pathLength(lineOf(flipped))).toBeCloseTo(pathLength(lineOf(arc)), 9);
		expect(segmentNumbers(flipped, 0).side).toBe('right');
		expect(() => transformAnchors(o, two, [0, 0, 0, 0, 0, 0])).toThrow('vanish');
	});
	test('lined up to the left, the middle, the right; spread across and up', () => {
		const o = outlineOf(polygonPath([0, 0, 3, 1, 10, 2, 12, 9], false));
		expect([0, 1, 2, 3].map((i) => at(lineUp(o, all(o), 'across', 'least'), i).x)).toEqual([0, 0, 0, 0]);
		expect(at(lineUp(o, all(o), 'across', 'middle'), 1).x).toBe(6);
		expect(at(lineUp(o, all(o), 'up', 'most'), 0).y).toBe(9);
		const even = spread(o, all(o), 'across');
		expect([0, 1, 2, 3].map((i) => at(even, i).x)).toEqual([0, 4, 8, 12]);
		expect([0, 1, 2, 3].map((i) => at(spread(o, all(o), 'up'), i).y)).toEqual([0, 3, 6, 9]);
		expect(spread(o, new Set([o.anchors[0], o.anchors[1]]), 'up')).toBe(o);
	});
	test('spread along the line: equal lengths between them, and the shape stays', () => {
		const bow = outlineOf(new PathBuilder(0, 0).cubic(10, 30, 40, 30, 50, 0).open());
		const { outline } = insertAnchors(bow, [
			{ segment: 0, t: 0.1 },
			{ segment: 0, t: 0.2 },
			{ segment: 0, t: 0.45 }
		]);
		const even = spread(outline, all(outline), 'along');
		const path = sourceLine(even);
		const lengths = Array.from(path.types, (type, i) => segmentLength(type, path.segs, 8 * i));
		const each = pathLength(lineOf(bow)) / 4;
		for (const l of lengths) expect(Math.abs(l - each)).toBeLessThan(0.05 * each);
		expect(twoWayDistance([lineOf(even)], [lineOf(bow)], 1e-3, 0.05).distance).toBeLessThan(0.2);
	});
});

describe('typed arcs and handles', () => {
	const arc = () => outlineOf(new PathBuilder(10, 0).arc(Math.tan(Math.PI / 8), 0, 10).open());
	test('a sweep has no sign, and typed it keeps the side of the arc', () => {
		expect(segmentNumbers(arc(), 0)).toMatchObject({ sweep: expect.closeTo(90, 9), side: 'left', start: 0 });
		const right = outlineOf(new PathBuilder(0, 0).arc(-0.3, 10, 0).open());
		const typed = setArcSweep(right, 0, 90);
		expect(segmentNumbers(typed, 0)).toMatchObject({ sweep: expect.closeTo(90, 9), side: 'right' });
	});
	test('another start angle: its end and its circle stay', () => {
		const turned = setArcStart(arc(), 0, 30);
		expect(segmentNumbers(turned, 0)).toMatchObject({
			radius: expect.closeTo(10, 9),
			sweep: expect.closeTo(60, 9),
			start: expect.closeTo(30, 9)
		});
		expect(at(turned, 1)).toEqual({ x: 0, y: 10 });
		expect(() => setArcStart(arc(), 0, 90)).toThrow('begin where it ends');
	});
	test('a handle that points back is a fault, unless its direction was typed', () => {
		const o = outlineOf(new PathBuilder(0, 0).cubic(10, 5, 20, 5, 30, 0).open());
		const back = placeHandle(o, o.anchors[0], 'out', -8, 3, true);
		expect(handleFaults(back).map((f) => f.trouble)).toEqual(['backward']);
		expect(handleFaults(asTyped(back, o.anchors[0], 'out'))).toEqual([]);
	});
});

describe('copies', () => {
	test('have ids and names of their own; a follower among them follows its copy', () => {
		const drawing = drawingOf(square());
		const following = after(
			drawing,
			addFollower(
				'offset',
				{
					distance: 2,
					steps: 1,
					way: 'outside',
					join: 'round',
					miterLimit: 4,
					side: 'both',
					ends: 'round',
					band: false
				},
				[square()],
				{
					id: 'beside',
					name: 'beside',
					layer: 'cut',
					rank: 2
				}
			)
		);
		const list = outlinesOf(following);
		const copied = after(following, copiesOf(following, list, moveBy(30, 0), newId));
		const made = outlinesOf(copied).filter((o) => !list.some((l) => l.id === o.id));
		expect(made.map((o) => o.name).sort()).toEqual(['beside 2', 'o 2']);
		const own = made.find((o) => !o.recipe)!;
		expect(made.find((o) => o.recipe)!.recipe!.inputs).toEqual([
			{ ...list.find((o) => o.recipe)!.recipe!.inputs[0], record: own.id }
		]);
		expect(at(own, 0)).toEqual({ x: 30, y: 0 });
	});
	test('go through the clipboard to another drawing: layer by name, the line to the bit; without its source a follower is plain', () => {
		const layer: Layer = {
			type: 'layer',
			id: 'l1',
			rank: 3,
			name: 'Creases',
			purpose: 'score',
			colour: '#112233'
		};
		const o = { ...square(), layer: 'l1' };
		const from = { ...drawingOf(o), records: new Map([...drawingOf(o).records, [layer.id, layer]]) };
		const { own, svg } = writeClipping(from, new Set(['o']));
		expect(svg).toContain('<svg');
		const clip = unwrap(readClipping(own));
		const to = drawingOf();
		const pasted = after(to, addClipping(to, clip, moveBy(0, 0), newId));
		const [made] = outlinesOf(pasted);
		expect(recordAs(pasted, 'layer', made.layer).name).toBe('Creases');
		expect(Array.from(made.points)).toEqual(Array.from(o.points));
		expect(made.id).not.toBe('o');
		expect(readClipping('{"a":1}').ok).toBe(false);
		expect(readClipping('no').ok).toBe(false);
		expect(clippingOf(from, new Set()).records.size).toBe(0);
	});
});
