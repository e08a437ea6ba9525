/** Holds in a drawing: kept by every edit, undone to the bit, gone with what they are about, named where they cannot be kept. */
import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { circlePath, polygonPath } from '../../geometry/path';
import { completeEdit } from '../complete-edit';
import { newDrawing, recordsOf, type Drawing, type DrawingRecord } from '../drawing';
import { mirrorAt, moveBy, scaleBy, turnBy } from '../../geometry/maps';
import { moveAnchors } from '../edits/anchors';
import { placeOutlines, transformOutline } from '../edits/transform';
import { copiesOf } from '../edits/copies';
import { applyStep, makeStep, type Edit } from '../history';
import { outlineFromPath, placeOfAnchor, type Outline } from '../outline';
import { readDrawingFile, writeDrawingFile } from '../../formats/drawing-file';
import type { Hold, HoldKind, HoldPlace, NamedSize } from './hold';
import { heldFast, redundantHolds } from './keep';
import { HoldConflict } from './tidy';
import { holdAsIs, nearlyHeld, placesFor } from './offers';
import { badName, valuesOf } from './sizes';

const facts = (id: string) => ({ id, name: id, layer: 'cut', rank: 1 });
const box = outlineFromPath(polygonPath([0, 0, 60, 0.1, 60.1, 40, 0, 40.05]), facts('box'));
const with_ = (...records: DrawingRecord[]): Drawing => {
	const empty = newDrawing('d', 'd');
	const all = new Map(empty.records);
	for (const record of records) all.set(record.id, record);
	return { ...empty, records: all };
};
const act = (drawing: Drawing, edit: Edit): Drawing => {
	const step = makeStep(drawing, 'x', completeEdit(drawing, edit).edit);
	if (!step) return drawing;
	return applyStep(drawing, step, 'forward');
};
const place = (anchor: number, outline = box.id): HoldPlace => ({ outline, anchor });
let count = 0;
const hold = (kind: HoldKind, ...anchors: number[]): Hold =>
	holdAsIs(
		kind,
		anchors.map((a) => place(a)),
		new Map([[box.id, box]]),
		{ id: `h${++count}`, rank: count }
	);
const own = (drawing: Drawing, id = 'box') => drawing.records.get(id) as Outline;
const at = (drawing: Drawing, anchor: number, id = 'box') => placeOfAnchor(own(drawing, id), anchor)!;
const [a, b, c, d] = box.anchors;

describe('kept', () => {
	test('level, plumb, lengths: made so at once, and whatever is dragged afterwards they stay', () => {
		let drawing = with_(box);
		for (const one of [
			hold('level', a, b),
			hold('plumb', b, c),
			hold('level', c, d),
			hold('plumb', d, a),
			hold('length', a, b)
		])
			drawing = act(drawing, { put: [one] });
		fc.assert(
			fc.property(
				fc.constantFrom(a, b, c, d),
				fc.integer({ min: -30, max: 30 }),
				fc.integer({ min: -30, max: 30 }),
				(anchor, dx, dy) => {
					const next = act(drawing, { put: [moveAnchors(own(drawing), new Set([anchor]), dx, dy)] });
					const [p, q, r, s] = [a, b, c, d].map((id) => at(next, id));
					expect(Math.abs(p.y - q.y)).toBeLessThan(1e-8);
					expect(Math.abs(q.x - r.x)).toBeLessThan(1e-8);
					expect(Math.abs(r.y - s.y)).toBeLessThan(1e-8);
					expect(Math.hypot(q.x - p.x, q.y - p.y)).toBeCloseTo(60, 3);
					// What is dragged comes to the hand: nothing holds it there.
					const was = at(drawing, anchor);
					expect(Math.hypot(at(next, anchor).x - was.x - dx, at(next, anchor).y - was.y - dy)).toBeLessThan(
						1e-5
					);
				}
			),
			{ numRuns: 60 }
		);
	});
	test('a pinned anchor stays; an edit of its own cannot move it; undo gives the bits back', () => {
		const drawing = act(with_(box), { put: [hold('pin', a)] });
		const step = makeStep(
			drawing,
			'x',
			completeEdit(drawing, { put: [moveAnchors(own(drawing), new Set([a, b]), 7, 9)] }).edit
		)!;
		const next = applyStep(drawing, step, 'forward');
		expect(at(next, a)).toEqual(at(drawing, a));
		expect(at(next, b).x).toBeCloseTo(67, 6);
		expect(own(applyStep(next, step, 'back')).points).toEqual(own(drawing).points);
	});
	test('across outlines: what is not dragged comes along, and changes in the same step', () => {
		const other = outlineFromPath(polygonPath([100, 0, 140, 0, 140, 30, 100, 30]), facts('other'));
		const [p, q] = other.anchors;
		const tie: Hold = {
			type: 'hold',
			id: 't',
			rank: 9,
			kind: 'equal',
			on: [place(a), place(b), place(p, 'other'), place(q, 'other')]
		};
		const drawing = act(with_(box, other), { put: [tie] });
		const next = act(drawing, { put: [moveAnchors(own(drawing), new Set([b]), 20, 0)] });
		const far = (id: string, i: number, j: number) =>
			Math.hypot(at(next, i, id).x - at(next, j, id).x, at(next, i, id).y - at(next, j, id).y);
		expect(far('box', a, b)).toBeCloseTo(far('other', p, q), 8);
		expect(far('box', a, b)).toBeGreaterThan(55);
	});
	test('an arc with a radius, tangent to a straight; a handle held level; on a guide; in the middle', () => {
		const ring = outlineFromPath(circlePath(0, 0, 20), facts('ring'));
		const picked = { anchors: [], segments: [{ outline: ring, anchor: ring.anchors[0] }] };
		const on = placesFor('radius', picked) as HoldPlace[];
		const radius = holdAsIs('radius', on, new Map([['ring', ring]]), { id: 'r', rank: 1 });
		expect(radius.value).toBe('20');
		const next = act(act(with_(ring), { put: [radius] }), { put: [{ ...radius, value: '25' }] });
		const o = own(next, 'ring');
		const [u, v] = [at(next, o.anchors[0], 'ring'), at(next, o.anchors[1], 'ring')];
		const bulge = o.points[6];
		expect((Math.hypot(v.x - u.x, v.y - u.y) * (1 + bulge * bulge)) / (4 * Math.abs(bulge))).toBeCloseTo(
			25,
			8
		);
		const guide: DrawingRecord = { type: 'guide', id: 'g', rank: 5, x: 0, y: 10, angle: 30 };
		const onGuide: Hold = { ...hold('on guide', c), guide: 'g' };
		const guided = act(with_(box, guide), { put: [onGuide] });
		const p = at(guided, c);
		expect((p.y - 10) * Math.cos(Math.PI / 6) - p.x * Math.sin(Math.PI / 6)).toBeCloseTo(0, 8);
		const moved = act(guided, { put: [{ ...guide, y: 30 } as DrawingRecord] });
		expect(at(moved, c)).not.toEqual(p);
		const gone = act(guided, { remove: ['g'] });
		expect(recordsOf(gone, 'hold')).toEqual([]);
	});
});

describe('named sizes', () => {
	const size = (name: string, value: string): NamedSize => ({
		type: 'size',
		id: `s ${name}`,
		rank: 1,
		name,
		value
	});
	test('a length by a formula follows the size', () => {
		const long: Hold = { ...hold('length', a, b), value: 'hip / 4 + 5 mm' };
		const drawing = act(with_(box, size('hip', '200')), { put: [long] });
		const far = (x: Drawing) => Math.hypot(at(x, b).x - at(x, a).x, at(x, b).y - at(x, a).y);
		expect(far(drawing)).toBeCloseTo(55, 8);
		const next = act(drawing, { put: [size('hip', '300')] });
		expect(far(next)).toBeCloseTo(80, 8);
	});
	test('sizes of sizes; circles, unknown names and what is no number are told; names are words of their own', () => {
		expect(valuesOf([size('a', 'b * 2'), size('b', '1 in')])).toEqual({ a: 50.8, b: 25.4 });
		expect(() => valuesOf([size('a', 'b'), size('b', 'a')])).toThrow(/made from itself: a, b, a/);
		expect(() => valuesOf([size('a', 'c + 1')])).toThrow(/"c" is no name/);
		expect(() => valuesOf([size('a', '1 / 0')])).toThrow(/no number/);
		expect(badName('hip', [])).toBeUndefined();
		expect(badName('hip', ['hip'])).toMatch(/already/);
		expect(badName('sin', [])).toMatch(/means something/);
		expect(badName('2 hips', [])).toMatch(/one word/);
	});
});

test('what cannot be kept is refused with the holds in question, and nothing changes', () => {
	let drawing = with_(box);
	const sides = [hold('length', a, b), hold('length', b, c)];
	drawing = act(drawing, { put: [...sides, hold('level', c, d)] });
	const diagonal: Hold = { ...hold('length', a, c), value: '300' };
	try {
		completeEdit(drawing, { put: [diagonal] });
		throw new Error('not refused');
	} catch (error) {
		expect(error).toBeInstanceOf(HoldConflict);
		expect(new Set((error as HoldConflict).holds)).toEqual(
			new Set([diagonal.id, ...sides.map(({ id }) => id)])
		);
		expect((error as Error).message).toMatch(/length 300 of "box"/);
	}
	// One of them loosened, it can be.
	expect(() => act(act(drawing, { remove: [sides[0].id] }), { put: [diagonal] })).not.toThrow();
});

test('what follows from others, and what is held fast, is told', () => {
	let drawing = with_(box);
	for (const one of [hold('pin', a), hold('level', a, b), hold('length', a, b), hold('plumb', b, c)])
		drawing = act(drawing, { put: [one] });
	expect(new Set(heldFast(drawing, new Set(['box'])).map(({ anchor }) => anchor))).toEqual(new Set([a, b]));
	expect(redundantHolds(drawing, new Set(['box']))).toEqual([]);
	const twice = { ...hold('level', a, b), rank: 99 };
	expect(redundantHolds(act(drawing, { put: [twice] }), new Set(['box']))).toHaveLength(1);
});

test('nearly kept: level, plumb and equal sides are offered, once', () => {
	const found = nearlyHeld(box, []);
	expect(found.map(({ kind }) => kind).sort()).toEqual([
		'equal',
		'equal',
		'level',
		'level',
		'plumb',
		'plumb'
	]);
	const holds = found.map(({ kind, on }, i) =>
		holdAsIs(kind, on, new Map([['box', box]]), { id: `n${i}`, rank: i })
	);
	const drawing = act(with_(box), { put: holds });
	const [p, q] = [at(drawing, a), at(drawing, b)];
	expect(Math.abs(p.y - q.y)).toBeLessThan(1e-8);
	expect(nearlyHeld(own(drawing), recordsOf(drawing, 'hold'))).toEqual([]);
});

test('turned, mirrored, scaled as a whole: the holds go along, and nothing is bent', () => {
	let drawing = with_(box);
	for (const one of [hold('level', a, b), hold('plumb', b, c), hold('length', a, b), hold('pin', a)])
		drawing = act(drawing, { put: [one] });
	for (const map of [
		turnBy(30, 5, 5),
		turnBy(90, 0, 0),
		scaleBy(2, 2, 0, 0),
		mirrorAt(20, 3, 1),
		moveBy(40, 9)
	]) {
		const next = act(drawing, placeOutlines(drawing, [own(drawing)], map));
		const wanted = transformOutline(own(drawing), map);
		own(next).points.forEach((v, k) => expect(v).toBeCloseTo(wanted.points[k], 6));
		// And they are still kept when it is edited.
		const edited = act(next, { put: [moveAnchors(own(next), new Set([b]), 6, 4)] });
		expect(Math.hypot(at(edited, b).x - at(edited, a).x, at(edited, b).y - at(edited, a).y)).toBeCloseTo(
			Math.hypot(at(next, b).x - at(next, a).x, at(next, b).y - at(next, a).y),
			6
		);
	}
});

test('holds go with their anchors and are told; files keep them; a copy has its own', () => {
	const long = hold('length', a, b);
	const drawing = act(with_(box), {
		put: [long, { type: 'size', id: 's', rank: 2, name: 'hip', value: '3' }]
	});
	const read = readDrawingFile(writeDrawingFile(drawing, new Map()));
	expect(read.ok && read.value.drawing.records.get(long.id)).toEqual(long);
	expect(read.ok && recordsOf(read.value.drawing, 'size')).toHaveLength(1);
	const done = completeEdit(drawing, { remove: ['box'] });
	expect(done.lostHolds).toBe(1);
	expect(done.edit.remove).toContain(long.id);
	let made = 0;
	const copied = act(
		drawing,
		copiesOf(drawing, [own(drawing)], [1, 0, 0, 1, 90, 0], () => (made++ ? `h of copy ${made}` : 'copy'))
	);
	expect(
		recordsOf(copied, 'hold')
			.map(({ on }) => on[0].outline)
			.sort()
	).toEqual(['box', 'copy']);
});
