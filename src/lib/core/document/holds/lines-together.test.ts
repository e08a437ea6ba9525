/** Holds between lines as wholes: ends that meet in direction or in curvature, seams that stay equally long. */
import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { PathBuilder, polygonPath, reversePath, type Path } from '../../geometry/path';
import { completeEdit } from '../complete-edit';
import { newDrawing, recordAs, type Drawing, type DrawingRecord } from '../drawing';
import { edgesOf, edgeLength } from '../edges';
import { moveAnchors } from '../edits/anchors';
import { armOf, endAt } from '../edits/meet';
import { applyStep, makeStep, type Edit } from '../history';
import { outlineFromPath, replaceLine, lineOf, type Outline } from '../outline';
import type { HoldKind } from './hold';
import './keep';
import { holdAsIs, placesFor, type Picked } from './offers';
import { scaleBy } from '../../geometry/maps';
import { placeOutlines } from '../edits/transform';

const outline = (id: string, path: Path): Outline =>
	outlineFromPath(path, { id, name: id, layer: 'cut', rank: 1 });
const drawingOf = (...records: DrawingRecord[]): Drawing => {
	const empty = newDrawing('d', 'd');
	return { ...empty, records: new Map([...empty.records, ...records.map((r) => [r.id, r] as const)]) };
};
const act = (drawing: Drawing, edit: Edit): Drawing => {
	const step = makeStep(drawing, 'x', completeEdit(drawing, edit).edit);
	return step ? applyStep(drawing, step, 'forward') : drawing;
};
const get = (drawing: Drawing, id: string): Outline => recordAs(drawing, 'outline', id);
const held = (kind: HoldKind, picked: Picked, ...lines: readonly Outline[]) => {
	const on = placesFor(kind, picked);
	if (typeof on === 'string') throw new Error(on);
	return holdAsIs(kind, on, new Map(lines.map((o) => [o.id, o])), { id: 'held', rank: 2 });
};
const nudge = (drawing: Drawing, id: string, k: number, x: number, y: number): Drawing => {
	const own = get(drawing, id);
	return act(drawing, { put: [moveAnchors(own, new Set([own.anchors[k]]), x, y)] });
};

describe('ends of lines that meet', () => {
	const wing = outline('wing', new PathBuilder(0, 0).cubic(8, 14, 20, 16, 30, 8).open());
	const tail = outline('tail', new PathBuilder(33, 6).cubic(40, 2, 52, 4, 60, 14).line(80, 20).open());
	const picked: Picked = {
		anchors: [
			{ outline: wing, anchor: wing.anchors[1] },
			{ outline: tail, anchor: tail.anchors[0] }
		],
		segments: []
	};
	const meeting = (drawing: Drawing) => {
		const [w, t] = [get(drawing, 'wing'), get(drawing, 'tail')];
		const a = armOf(w, endAt(w, w.anchors[1])!);
		const b = armOf(t, endAt(t, t.anchors[0])!);
		return {
			gap: Math.hypot(a.x - b.x, a.y - b.y),
			turn: Math.hypot(a.dx + b.dx, a.dy + b.dy),
			bend: Math.abs(a.bend + b.bend)
		};
	};
	test.each(['meets in direction', 'meets in curvature'] as const)(
		'%s: made so at once, and kept whichever end, neighbour or line is dragged',
		(kind) => {
			const start = act(drawingOf(wing, tail), { put: [held(kind, picked, wing, tail)] });
			fc.assert(
				fc.property(
					fc.array(
						fc.tuple(
							fc.constantFrom(['wing', 0], ['wing', 1], ['tail', 0], ['tail', 1], ['tail', 2]),
							fc.integer({ min: -5, max: 5 }),
							fc.integer({ min: -5, max: 5 })
						),
						{ minLength: 1, maxLength: 3 }
					),
					(moves) => {
						let drawing = start;
						for (const [[id, k], x, y] of moves) drawing = nudge(drawing, id as string, k as number, x, y);
						const { gap, turn, bend } = meeting(drawing);
						expect(gap).toBeLessThan(1e-6);
						expect(turn).toBeLessThan(1e-6);
						if (kind === 'meets in curvature') expect(bend).toBeLessThan(1e-6);
					}
				),
				{ numRuns: 60 }
			);
		}
	);
	test('an end of a straight counts with its straight; an arc, a closed line, an inner anchor are refused', () => {
		const bar = outline('bar', polygonPath([30, 8, 60, 8], false));
		const both: Picked = {
			anchors: [picked.anchors[0], { outline: bar, anchor: bar.anchors[0] }],
			segments: []
		};
		const drawing = act(drawingOf(wing, bar), { put: [held('meets in curvature', both, wing, bar)] });
		const w = get(drawing, 'wing');
		expect(armOf(w, endAt(w, w.anchors[1])!).bend).toBeCloseTo(0, 6);
		const bow = outline('bow', new PathBuilder(0, 0).arc(0.5, 10, 0).open());
		for (const other of [
			{ outline: bow, anchor: bow.anchors[0] },
			{ outline: tail, anchor: tail.anchors[1] }
		])
			expect(
				placesFor('meets in direction', { anchors: [picked.anchors[0], other], segments: [] })
			).toContain('Pick two ends');
	});
});

test('a handle is held parallel or square to a stretch of another line, and turns with it', () => {
	const bar = outline('bar', polygonPath([0, -20, 40, -20], false));
	const wing = outline('wing', new PathBuilder(0, 0).cubic(8, 14, 20, 16, 30, 8).open());
	for (const [kind, turn] of [
		['parallel', 0],
		['square', 90]
	] as const) {
		const picked: Picked = {
			anchors: [{ outline: wing, anchor: wing.anchors[0] }],
			segments: [{ outline: bar, anchor: bar.anchors[0] }],
			side: 'out'
		};
		let drawing = act(drawingOf(wing, bar), { put: [held(kind, picked, wing, bar)] });
		drawing = nudge(drawing, 'bar', 1, -3, 14);
		const { points: p } = get(drawing, 'wing');
		const { points: q } = get(drawing, 'bar');
		const handle = Math.atan2(p[5] - p[1], p[4] - p[0]);
		const along = Math.atan2(q[8] - q[1], q[7] - q[0]);
		expect(Math.abs(Math.sin(handle - along - (turn * Math.PI) / 180))).toBeLessThan(1e-8);
	}
});

test('a stretch runs along a guide, also when the guide is turned', () => {
	const bar = outline('bar', polygonPath([0, 0, 40, 3], false));
	const guide = { type: 'guide', id: 'g', rank: 3, x: 0, y: 20, angle: 30 } as const;
	const picked: Picked = { anchors: [], segments: [{ outline: bar, anchor: bar.anchors[0] }] };
	const hold = { ...held('along guide', picked, bar), guide: 'g' };
	let drawing = act(drawingOf(bar, guide), { put: [hold] });
	const angle = () => {
		const { points: p } = get(drawing, 'bar');
		return (Math.atan2(p[8] - p[1], p[7] - p[0]) * 180) / Math.PI;
	};
	expect(angle()).toBeCloseTo(30, 8);
	drawing = act(drawing, { put: [{ ...guide, angle: 50 }] });
	expect(angle()).toBeCloseTo(50, 8);
});

describe('seams', () => {
	/** A sleeve's head and an armhole, nearly as long. */
	const head = outline(
		'head',
		new PathBuilder(0, 0).cubic(10, 40, 50, 40, 60, 0).line(60, -30).line(0, -30).close()
	);
	const hole = outline(
		'hole',
		new PathBuilder(100, 0).line(100, 60).line(150, 60).cubic(120, 50, 150, 20, 130, 0).close()
	);
	const picked: Picked = {
		anchors: [],
		segments: [
			{ outline: head, anchor: head.anchors[0] },
			{ outline: hole, anchor: hole.anchors[2] }
		]
	};
	const long = (drawing: Drawing, id: string, edge: number): number => {
		const own = get(drawing, id);
		return edgeLength(own, edgesOf(own)[edge]);
	};
	test('stay equally long, or one longer by the ease that is typed, whatever is dragged', () => {
		const seam = held('seams', picked, head, hole);
		for (const ease of ['0', '3.5']) {
			let drawing = act(drawingOf(head, hole), { put: [{ ...seam, value: ease }] });
			const longer = () => long(drawing, 'head', 0) - long(drawing, 'hole', 2);
			expect(longer()).toBeCloseTo(Number(ease), 8);
			for (const [id, k, x, y] of [
				['head', 1, 4, 3],
				['hole', 3, -6, 2],
				['hole', 0, 3, 0]
			] as const) {
				drawing = nudge(drawing, id, k, x, y);
				expect(longer()).toBeCloseTo(Number(ease), 8);
			}
			// Turned round, it is the same seam.
			const turned = act(drawing, {
				put: [replaceLine(get(drawing, 'hole'), reversePath(lineOf(get(drawing, 'hole'))))]
			});
			if (turned.records.has('held')) {
				drawing = nudge(turned, 'head', 0, -3, 1);
				const own = get(drawing, 'hole');
				const lengths = edgesOf(own).map((e) => edgeLength(own, e));
				expect(
					Math.min(...lengths.map((mm) => Math.abs(long(drawing, 'head', 0) - Number(ease) - mm)))
				).toBeLessThan(1e-6);
			}
		}
	});
	test('what differs a little is meant equal, what differs much is ease; a scaled one keeps its ease to scale', () => {
		expect(Math.abs(Number(held('seams', picked, head, hole).value))).toBeGreaterThan(2);
		const ease = { ...held('seams', picked, head, hole), value: '4' };
		const drawing = act(drawingOf(head, hole), { put: [ease] });
		const doubled = act(
			drawing,
			placeOutlines(drawing, [get(drawing, 'head'), get(drawing, 'hole')], scaleBy(2, 2, 0, 0))
		);
		expect(long(doubled, 'head', 0) - long(doubled, 'hole', 2)).toBeCloseTo(8, 6);
	});
	test('one stretch twice is no pair of seams', () => {
		expect(placesFor('seams', { anchors: [], segments: [picked.segments[0], picked.segments[0]] })).toContain(
			'each of two seams'
		);
	});
});
