/** A drawing with every kind of recipe, holds, sizes, groups, a repeat and a half, edited at random: nothing of it ever comes apart. */
import fc from 'fast-check';
import { expect, test } from 'vitest';
import { readDrawingFile, writeDrawingFile } from '../formats/drawing-file';
import { CoreError, unwrap } from '../errors';
import { mirrorAt, moveBy, scaleBy, turnBy } from '../geometry/maps';
import { PathBuilder, polygonPath, type Path } from '../geometry/path';
import { completeEdit } from './complete-edit';
import { newDrawing, outlinesOf, recordsOf, type Drawing } from './drawing';
import { moveAnchors } from './edits/anchors';
import { copiesOf } from './edits/copies';
import { grouped, ungrouped } from './edits/groups';
import { addFollower, givenOutline, makePlain, withGiven, withSettings } from './edits/made';
import { removeOutlines } from './edits/operations';
import { addRepeat } from './edits/repeats';
import { madeSymmetrical } from './edits/symmetry';
import { placeOutlines } from './edits/transform';
import { edgesOf, withEdge } from './edges';
import { graphOf, madeAfresh } from './graph';
import { applyStep, makeStep, type Edit } from './history';
import { holdAsIs, placesFor } from './holds/offers';
import { Sketch } from './holds/sketch';
import { lineOf, outlineFromPath, type Outline } from './outline';
import './recipes/reckonings';
import { RECIPES, type RecipeKind, type RecipeSettings } from './recipes/recipes';

let made = 0;
const newId = () => `new${++made}`;
const facts = (id: string) => ({ id, name: id, layer: 'cut', rank: 10 + made++ });
const outline = (id: string, path: Path): Outline => outlineFromPath(path, facts(id));
const get = (drawing: Drawing, id: string) => drawing.records.get(id) as Outline;

/** @throws CoreError where holds or circles stand against it. */
function act(drawing: Drawing, edit: Edit): Drawing {
	const step = makeStep(drawing, 'x', completeEdit(drawing, edit).edit);
	return step ? applyStep(drawing, step, 'forward') : drawing;
}

const spots = (row: readonly (readonly [number, number])[]) => row.map(([x, y], i) => ({ id: i + 1, x, y }));
const GIVEN: Partial<RecipeSettings> = {
	through: {
		places: spots([
			[0, 0],
			[20, 14],
			[44, 2],
			[60, 20]
		]),
		closed: false,
		pace: 'chord',
		drift: 0
	} as never,
	pulled: {
		vertices: spots([
			[0, 40],
			[20, 70],
			[50, 66],
			[60, 40]
		]),
		degree: 3,
		closed: false
	},
	formula: {
		form: 'y over x',
		first: 'h * sin(x / 8)',
		second: '',
		from: 0,
		to: 60,
		degrees: false,
		closed: false,
		sizes: { h: 9 },
		x: 0,
		y: 100,
		angle: 0,
		scale: 1
	}
};

/** One of everything. */
function everything(): Drawing {
	let drawing = newDrawing('d', 'All');
	const put = (...records: Outline[]) => (drawing = act(drawing, { put: records }));
	for (const [kind, settings] of Object.entries(GIVEN) as [RecipeKind, never][])
		put(givenOutline(kind, settings, facts(kind)));
	put(
		outline('box', polygonPath([100, 0, 160, 0, 160, 40, 100, 40])),
		outline('lid', polygonPath([130, 20, 190, 24, 180, 70, 126, 64])),
		outline('rib', new PathBuilder(200, 0).cubic(206, 20, 224, 22, 230, 6).line(250, 10).open()),
		outline('tail', new PathBuilder(270, 20).cubic(280, 34, 290, 10, 310, 20).open()),
		outline('leaf', new PathBuilder(330, 0).cubic(344, 4, 340, 20, 326, 22).open())
	);
	// One of the places goes along the box, another along the lid.
	const given = get(drawing, 'through').recipe!.settings as RecipeSettings['through'];
	const bound = given.places.map((place, k) =>
		k % 2 ? place : { ...place, direction: 0, along: { input: k / 2, turn: 90 } }
	);
	put(
		unwrap(
			withGiven(get(drawing, 'through'), { ...given, places: bound }, drawing.records, [
				{ record: 'box' },
				{ record: 'lid' }
			])
		)
	);
	const follow = <K extends RecipeKind>(kind: K, settings: RecipeSettings[K], ...sources: string[]) =>
		(drawing = act(
			drawing,
			addFollower(
				kind,
				settings,
				sources.map((id) => get(drawing, id)),
				facts(`${kind} of ${sources[0]}`)
			)
		));
	put(withEdge(get(drawing, 'box'), edgesOf(get(drawing, 'box'))[0].id, { width: 12, widthEnd: 8 }));
	const [rib, tail, box] = ['rib', 'tail', 'box'].map((id) => get(drawing, id));
	follow(
		'offset',
		{
			distance: 2,
			steps: 2,
			way: 'outside',
			join: 'round',
			miterLimit: 4,
			side: 'both',
			ends: 'round',
			band: false
		},
		'lid'
	);
	follow('allowance', { width: 5, corner: 'fold' }, 'box');
	follow('between', { count: 2, easing: 'even', shift: 0, way: 'matched' }, 'box', 'lid');
	follow(
		'band',
		{
			width: 3,
			widths: [{ anchor: rib.anchors[1], before: 6 }],
			taper: 'eased',
			join: 'round',
			ends: 'butt'
		},
		'rib'
	);
	follow('combined', { op: 'difference' }, 'box', 'lid');
	follow('facing', { edges: [edgesOf(box)[1].id], depth: 6 }, 'box');
	follow('rosette', { x: 320, y: 4, count: 5, mirrored: false, joint: 'smooth' }, 'leaf');
	const end = { way: 'curvature', pull: 1 } as const;
	follow(
		'bridge',
		{
			ends: [
				{ ...end, line: 0, anchor: rib.anchors[2], at: 'end' },
				{ ...end, line: 1, anchor: tail.anchors[0], at: 'start' }
			]
		},
		'rib',
		'tail'
	);
	follow(
		'corner',
		{
			amount: 1,
			cutOff: false,
			arms: [
				{ line: 0, anchor: rib.anchors[0], at: 'start' },
				{ line: 1, anchor: tail.anchors[1], at: 'end' }
			]
		},
		'rib',
		'tail'
	);
	const lines = new Map(outlinesOf(drawing).map((o) => [o.id, o]));
	const hold = (kind: Parameters<typeof placesFor>[0], ...segments: [string, number][]) => {
		const on = placesFor(kind, {
			anchors: [],
			segments: segments.map(([id, k]) => ({ outline: lines.get(id)!, anchor: lines.get(id)!.anchors[k] }))
		});
		if (typeof on === 'string') throw new Error(on);
		return holdAsIs(kind, on, lines, { id: newId(), rank: made });
	};
	drawing = act(drawing, {
		put: [
			{ type: 'size', id: 'width', rank: made, name: 'width', value: '60' },
			hold('level', ['box', 0]),
			{ ...hold('length', ['box', 0]), value: 'width' },
			hold('equal', ['lid', 0], ['lid', 2]),
			hold('seams', ['box', 1], ['lid', 1])
		]
	});
	const whole = outline(
		'whole',
		new PathBuilder(0, -60).cubic(30, -90, 50, -20, 0, -20).cubic(-40, -20, -40, -80, 0, -60).close()
	);
	drawing = act(drawing, { put: [madeSymmetrical(whole, { x: 0, y: -50, angle: 90 }, 'right')] });
	drawing = act(
		drawing,
		addRepeat(
			drawing,
			[get(drawing, 'tail')],
			{ way: 'rows', columns: 3, rows: 2, right: 60, up: 40, angle: 0, stagger: 0 },
			{ id: 'rows', name: 'Rows' }
		)
	);
	return act(drawing, grouped(drawing, ['rib', 'tail'], { id: 'group', name: 'Group' }));
}

const MAPS = [
	moveBy(7, -3),
	turnBy(90, 50, 20),
	turnBy(23, 0, 0),
	mirrorAt(90, 60, 0),
	scaleBy(1.5, 1.5, 0, 0),
	scaleBy(1.2, 0.8, 9, 9)
];

/** One edit, told by four numbers. */
function editBy(drawing: Drawing, what: number, which: number, x: number, y: number): Edit {
	const lines = outlinesOf(drawing);
	const line = lines[which % lines.length];
	const others = lines.filter((_, i) => (i * 7 + which) % 3 === 0);
	switch (what % 9) {
		case 0:
		case 1:
			return line.recipe || line.anchors.length === 0
				? {}
				: { put: [moveAnchors(line, new Set([line.anchors[which % line.anchors.length]]), x, y)] };
		case 2:
			return placeOutlines(drawing, others, MAPS[which % MAPS.length]);
		case 3:
			return copiesOf(drawing, others, MAPS[which % MAPS.length], newId);
		case 4:
			return others.length > 1
				? grouped(
						drawing,
						others.map(({ id }) => id),
						{ id: newId(), name: 'More' }
					)
				: {};
		case 5:
			return ungrouped(drawing, recordsOf(drawing, 'group').slice(0, 1));
		case 6:
			return which % 3 ? {} : removeOutlines(drawing, new Set([line.id]));
		case 7:
			return line.recipe && which % 2 ? makePlain(drawing, [line]) : {};
		default: {
			const size = recordsOf(drawing, 'size')[0];
			if (size && which % 2) return { put: [{ ...size, value: `${50 + (which % 20)}` }] };
			return line.recipe?.kind === 'offset' ? withSettings(drawing, line, { distance: 1 + (which % 4) }) : {};
		}
	}
}

test('the drawing has one of every kind', () => {
	const kinds = new Set(outlinesOf(everything()).flatMap((o) => o.recipe?.kind ?? []));
	expect([...Object.keys(RECIPES)].filter((kind) => !kinds.has(kind as RecipeKind)).sort()).toEqual([
		'conic',
		'shape'
	]);
});

test('moved, turned, copied, grouped, repeated, deleted, made plain at random: all is kept, undo gives the bits back', () => {
	const start = everything();
	fc.assert(
		fc.property(
			fc.array(
				fc.tuple(fc.nat(8), fc.nat(999), fc.integer({ min: -6, max: 6 }), fc.integer({ min: -6, max: 6 })),
				{ minLength: 1, maxLength: 6 }
			),
			(edits) => {
				let drawing = start;
				for (const [what, which, x, y] of edits) {
					const before = drawing;
					let edit: Edit;
					try {
						({ edit } = completeEdit(drawing, editBy(drawing, what, which, x, y)));
					} catch (error) {
						// What cannot be is refused in a sentence, and nothing is changed.
						if (!(error instanceof CoreError)) throw error;
						continue;
					}
					const step = makeStep(drawing, 'x', edit);
					if (!step) continue;
					drawing = applyStep(drawing, step, 'forward');
					expect(applyStep(drawing, step, 'back').records).toEqual(before.records);
				}
				for (const o of outlinesOf(drawing)) {
					for (const { record } of o.recipe?.inputs ?? [])
						expect(drawing.records.get(record)?.type).toBe('outline');
					expect(o.points.every(Number.isFinite)).toBe(true);
					expect(() => lineOf(o)).not.toThrow();
				}
				// What is stored is what comes of it from scratch.
				const afresh = madeAfresh(drawing);
				for (const set of graphOf(drawing).sets.values())
					for (const { id, points } of set) expect([...get(afresh, id).points]).toEqual([...points]);
				// All holds are kept.
				const holds = recordsOf(drawing, 'hold');
				if (holds.length) {
					const sketch = new Sketch(drawing.records, holds);
					const values = sketch.valuesIn(drawing.records)!;
					for (const { unknowns, off } of sketch.equations)
						expect(Math.abs(off(unknowns.map((u) => values[u])))).toBeLessThan(1e-6);
				}
				const file = unwrap(readDrawingFile(writeDrawingFile(drawing, new Map())));
				expect(file.drawing.records).toEqual(drawing.records);
			}
		),
		{ numRuns: 60 }
	);
}, 120_000);
