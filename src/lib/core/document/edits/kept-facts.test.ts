/** What edits leave as it is: names, layers, colours of what is combined; what lies in a piece; the tangent of a flowing anchor. */
import { describe, expect, test } from 'vitest';
import { unwrap } from '../../errors';
import { circlePath, PathBuilder, polygonPath, type Path } from '../../geometry/path';
import { combine } from '../../plane/combine';
import { newDrawing, outlinesOf, recordAs, type Drawing, type DrawingRecord } from '../drawing';
import { completeEdit } from '../complete-edit';
import { applyStep, makeStep } from '../history';
import {
	ANCHOR_STRIDE,
	handleAt,
	kindOf,
	lineOf,
	outlineFromPath,
	segmentTypeOf,
	type Outline
} from '../outline';
import { output } from '../output';
import { writtenOf } from '../../formats/formats';
import { bothCutFaults } from '../../check/both-cut';
import { checkedOf } from '../../check/checked';
import { joinEnds } from '../../geometry/join';
import { placeHandle, setKind } from './anchors';
import { meetingAt } from './meet';
import { transformOutline } from './transform';
import { mirrorAt } from '../../geometry/maps';
import { addFollower } from './made';
import { closeOutline, combineOutlines, joinOutlines } from './structure';
import { liesWithin } from './within';

const drawingWith = (...list: readonly DrawingRecord[]): Drawing => {
	const empty = newDrawing('d', 'd');
	return { ...empty, records: new Map([...empty.records, ...list.map((r) => [r.id, r] as const)]) };
};
const drawingOf = (paths: Readonly<Record<string, Path>>, more: readonly DrawingRecord[] = []): Drawing =>
	drawingWith(
		...Object.entries(paths).map(([name, path], i) =>
			outlineFromPath(path, { id: name, name, layer: 'cut', rank: i + 2, colour: `#00000${i}` })
		),
		...more
	);
const box = (x: number, y: number, w: number, h: number) =>
	polygonPath([x, y, x + w, y, x + w, y + h, x, y + h]);
/** 2 mm outside. */
const OFFSET = {
	distance: 2,
	steps: 1,
	way: 'outside',
	join: 'round',
	miterLimit: 4,
	side: 'both',
	ends: 'round',
	band: false
} as const;
let count = 0;
const newId = () => `n${++count}`;
function done(drawing: Drawing, edit: Parameters<typeof completeEdit>[1]): Drawing {
	const step = makeStep(drawing, 'Edit', completeEdit(drawing, edit).edit)!;
	return applyStep(drawing, step, 'forward');
}

describe('what is combined', () => {
	test('each line keeps name, colour and record of the source that most of it comes from', () => {
		const drawing = drawingOf({
			Plate: box(0, 0, 60, 40),
			Win1: circlePath(15, 20, 5),
			Ear: box(50, 10, 30, 9)
		});
		const [plate, win, ear] = outlinesOf(drawing);
		const area = (list: Outline[]) => [{ paths: list.map(lineOf), rule: 'evenodd' as const }];
		const { pieces } = unwrap(combine([area([plate, win]), area([ear])], 'union'));
		const now = done(drawing, combineOutlines(drawing, [plate, win, ear], pieces, 'removed', newId));
		expect(outlinesOf(now).map((o) => [o.id, o.name, o.colour])).toEqual([
			['Plate', 'Plate', '#000000'],
			['Win1', 'Win1', '#000001']
		]);
	});

	test('what follows a source goes on following what it became', () => {
		const drawing = drawingOf({ A: box(0, 0, 40, 40), B: box(30, 10, 40, 10) });
		const [a, b] = outlinesOf(drawing);
		const offset = done(
			drawing,
			addFollower('offset', OFFSET, [a], { id: 'off', name: 'off', layer: 'cut', rank: 9 })
		);
		const input = (o: Outline) => [{ paths: [lineOf(o)], rule: 'evenodd' as const }];
		const { pieces } = unwrap(combine([input(a), input(b)], 'union'));
		const now = done(offset, combineOutlines(offset, [a, b], pieces, 'removed', newId));
		const follower = recordAs(now, 'outline', 'off');
		expect(follower.recipe?.inputs).toEqual([{ record: 'A' }]);
		expect(Math.max(...follower.points.filter((_, i) => i % ANCHOR_STRIDE === 0))).toBeCloseTo(72, 3);
	});
});

describe('a piece and what lies in it', () => {
	test('holes, islands, open lines and marks within go along; what crosses, is beside or tied stays', () => {
		const mark = { type: 'mark', id: 'm', rank: 40, layer: 'cut', x: 10, y: 10 } as const;
		const drawing = drawingOf(
			{
				Plate: box(0, 0, 60, 60),
				Hole: circlePath(30, 30, 10),
				Island: circlePath(30, 30, 4),
				Slit: polygonPath([5, 50, 20, 50], false),
				Across: box(50, 20, 30, 5),
				Beside: circlePath(90, 30, 5),
				Tied: circlePath(50, 50, 3)
			},
			[mark]
		);
		const records = new Map(drawing.records).set('Tied', {
			...recordAs(drawing, 'outline', 'Tied'),
			locked: true
		});
		const within = liesWithin({ ...drawing, records }, [recordAs(drawing, 'outline', 'Plate')]);
		expect(within.outlines.map((o) => o.id)).toEqual(['Hole', 'Island', 'Slit']);
		expect(within.marks.map((m) => m.id)).toEqual(['m']);
		expect(within.tied).toBe(1);
	});
});

describe('a line and one made beside it', () => {
	test('are told to be cut both, and are no ring when they are written', () => {
		const drawing = drawingWith(
			outlineFromPath(box(0, 0, 60, 60), { id: 'p', name: 'Plate', layer: 'cut', rank: 2 }),
			outlineFromPath(circlePath(30, 30, 10), { id: 'h', name: 'Hole', layer: 'cut', rank: 3 })
		);
		const [plate, hole] = outlinesOf(drawing);
		const now = done(
			drawing,
			addFollower('offset', OFFSET, [plate, hole], {
				id: 'off',
				name: 'Plate, outside',
				layer: 'cut',
				rank: 9
			})
		);
		const [told] = bothCutFaults(checkedOf(now));
		expect(told).toMatchObject({ kind: 'both-cut', stops: false });
		expect(told.why).toContain('2 mm apart');
		// A seam that is drawn, not cut, is none of it.
		const scored = new Map(now.records);
		for (const o of outlinesOf(now)) if (!o.recipe) scored.set(o.id, { ...o, purpose: 'score' });
		expect(bothCutFaults(checkedOf({ ...now, records: scored }))).toEqual([]);
		expect(output(now).lines).toHaveLength(4);
		expect(outlinesOf(now).map((o) => o.name)).toEqual(['Plate', 'Hole', 'Plate, outside', 'Hole, outside']);
		expect(writtenOf(now).pieces.map((p) => p.paths.length)).toEqual([2, 2]);
	});
});

describe('kinds', () => {
	const wave = outlineFromPath(new PathBuilder(0, 0).line(20, 10).line(40, 0).line(60, 10).open(), {
		id: 'w',
		name: 'w',
		layer: 'cut',
		rank: 1
	});
	test('one handle of a flowing anchor pulled: the other keeps the tangent, and no kink is left', () => {
		const flowing = setKind(wave, new Set([1, 2, 3, 4]), 'flowing');
		for (const side of ['out', 'in'] as const) {
			let pulled = placeHandle(flowing, 2, side, 26, 19);
			pulled = placeHandle(pulled, 2, side === 'out' ? 'in' : 'out', 15, 2);
			const at = (k: number) => [pulled.points[k], pulled.points[k + 1]];
			const [x, y] = at(ANCHOR_STRIDE);
			const [ix, iy] = at(handleAt(1, 'in'));
			const [ox, oy] = at(handleAt(1, 'out'));
			const turn = Math.atan2(
				(x - ix) * (oy - y) - (y - iy) * (ox - x),
				(x - ix) * (ox - x) + (y - iy) * (oy - y)
			);
			expect(Math.abs(turn)).toBeLessThan(1e-9);
			expect(kindOf(pulled, 1)).toBe('flowing');
		}
	});

	test('smooth or flowing for all makes every straight a curve, the first one too', () => {
		const plate = outlineFromPath(box(0, 0, 40, 30), { id: 'p', name: 'p', layer: 'cut', rank: 1 });
		for (const kind of ['smooth', 'flowing'] as const) {
			const made = setKind(plate, new Set(plate.anchors), kind);
			expect([0, 1, 2, 3].map((i) => segmentTypeOf(made, i))).toEqual([1, 1, 1, 1]);
		}
	});

	const asLine = (path: Path, id: string) => outlineFromPath(path, { id, name: id, layer: 'cut', rank: 1 });
	const allKinds = (o: Outline) => o.anchors.reduce((set, _, i) => set.add(kindOf(o, i)), new Set<string>());
	const flowingAll = (o: Outline) => setKind(o, new Set(o.anchors), 'flowing');
	/** Degrees by which the line turns at an anchor. */
	const kink = (o: Outline, i: number) => Math.abs(meetingAt(o, o.anchors[i])!.turn);

	test('closed, a flowing line flows on through its ends, whether they touch, nearly touch or lie apart', () => {
		for (const end of [
			[0, 0],
			[0.2, 0],
			[20, -12]
		]) {
			const open = flowingAll(
				asLine(
					new PathBuilder(0, 0).line(20, 10).line(40, 0).line(30, -25).line(end[0], end[1]).open(),
					'ring'
				)
			);
			const ring = closeOutline(open, 0.5);
			expect(ring.closed).toBe(true);
			expect(allKinds(ring)).toEqual(new Set(['flowing']));
			expect(ring.anchors).toHaveLength(end[0] === 20 ? 5 : 4);
			for (let i = 0; i < ring.anchors.length; i++) {
				expect(kink(ring, i)).toBeLessThan(1e-6);
				expect(segmentTypeOf(ring, i)).toBe(1);
			}
		}
		// Where an end is a corner it stays one.
		const sharp = setKind(
			flowingAll(asLine(new PathBuilder(0, 0).line(20, 10).line(40, 0).line(0, 0).open(), 'sharp')),
			new Set([1]),
			'corner'
		);
		expect(kindOf(closeOutline(sharp), 0)).toBe('corner');
	});

	test('half a line mirrored at an axis and joined to itself flows over the axis, and its inner anchors flow still', () => {
		const half = flowingAll(
			asLine(new PathBuilder(0, 0).line(18, 8).line(25, 24).line(12, 40).line(0, 44).open(), 'half')
		);
		const other = { ...transformOutline(half, mirrorAt(90, 0, 0)), id: 'other', name: 'other' };
		const both = [half, other];
		const made = joinOutlines(drawingWith(...both), both, joinEnds(both.map(lineOf), 0.1));
		const [whole] = made.put as Outline[];
		expect(made.remove).toEqual(['other']);
		expect(whole.closed).toBe(true);
		expect(allKinds(whole)).toEqual(new Set(['flowing']));
		const onAxis = [...whole.anchors.keys()].filter((i) => Math.abs(whole.points[ANCHOR_STRIDE * i]) < 1e-9);
		expect(onAxis).toHaveLength(2);
		for (const i of onAxis) {
			expect(kink(whole, i)).toBeLessThan(1e-6);
			// Level over the axis, as a mirrored line is.
			expect(whole.points[handleAt(i, 'out') + 1]).toBeCloseTo(whole.points[ANCHOR_STRIDE * i + 1], 6);
		}
	});
});
