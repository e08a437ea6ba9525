import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { twoWayDistance } from '../geometry/edge-tree';
import { moveBy, turnBy } from '../geometry/maps';
import { pathArea, tightestRadius, turnAt } from '../geometry/measure';
import {
	circlePath,
	CUBIC,
	PathBuilder,
	polygonPath,
	reversePath,
	STRIDE,
	type Path,
	transformPath,
	compose
} from '../geometry/path';
import { curvatureAt, directionAt } from '../geometry/segment';
import { completeEdit } from './complete-edit';
import { newDrawing, recordAs, type Drawing } from './drawing';
import { saidWidths } from './recipes/band';
import { stretchAt, withStretch } from './edits/band-widths';
import { ownAxis } from './edits/own-axis';
import { bothHalves } from './half';
import { centreFor } from './recipes/rosettes';
import { addFollower, withSettings } from './edits/made';
import { moveAnchors } from './edits/anchors';
import { edgesOf } from './edges';
import { inputLine, madeAfresh } from './graph';
import { applyStep, makeStep, type Edit } from './history';
import { lineOf, outlineFromPath, replaceLine, type Outline } from './outline';
import './recipes/reckonings';
import type { RecipeKind, RecipeSettings } from './recipes/recipes';

const outline = (id: string, path: Path): Outline =>
	outlineFromPath(path, { id, name: id, layer: 'cut', rank: 10 });
const apply = (drawing: Drawing, edit: Edit): Drawing => {
	const step = makeStep(drawing, 'Step', completeEdit(drawing, edit).edit);
	return step ? applyStep(drawing, step, 'forward') : drawing;
};
const get = (drawing: Drawing, id: string): Outline => recordAs(drawing, 'outline', id);
const followed = <K extends RecipeKind>(
	kind: K,
	settings: RecipeSettings[K],
	...sources: readonly Outline[]
): Drawing =>
	apply(
		drawingOf(...sources),
		addFollower(kind, settings, sources, { id: 'made', name: 'Made', layer: 'cut', rank: 20 })
	);
const drawingOf = (...list: readonly Outline[]): Drawing => {
	const drawing = newDrawing('d', 'Wings');
	return { ...drawing, records: new Map([...drawing.records, ...list.map((o) => [o.id, o] as const)]) };
};
/** One anchor moved by so much. */
const nudged = (o: Outline, k: number, x: number, y: number): Outline =>
	moveAnchors(o, new Set([o.anchors[k]]), x, y);
const areaOf = (drawing: Drawing): number =>
	[...drawing.records.values()].reduce(
		(sum, r) => sum + (r.type === 'outline' && r.recipe ? pathArea(lineOf(r)) : 0),
		0
	);

describe('combined outlines follow', () => {
	const a = outline('a', polygonPath([0, 0, 20, 0, 20, 20, 0, 20], true));
	const b = outline('b', polygonPath([10, 5, 30, 5, 30, 15, 10, 15], true));
	test.each([
		['union', 500, 600],
		['difference', 300, 400],
		['intersection', 100, 0],
		['xor', 400, 600]
	] as const)('%s: made of both, again when one of them is moved away', (op, together, apart) => {
		const drawing = followed('combined', { op }, a, b);
		expect(areaOf(drawing)).toBeCloseTo(together, 9);
		const away = apply(drawing, { put: [replaceLine(b, polygonPath([40, 5, 60, 5, 60, 15, 40, 15], true))] });
		expect(areaOf(away)).toBeCloseTo(apart, 9);
		expect(get(away, 'made').recipe?.problem !== undefined).toBe(apart === 0);
		// And comes back where they meet again.
		expect(areaOf(apply(away, { put: [b] }))).toBeCloseTo(together, 9);
	});
	test('a hole of a piece counts as its hole; the first stays the first', () => {
		const hole = outline('h', polygonPath([2, 2, 6, 2, 6, 6, 2, 6], true));
		expect(areaOf(followed('combined', { op: 'difference' }, b, hole, a))).toBeCloseTo(100, 9);
		expect(areaOf(followed('combined', { op: 'union' }, b, hole, a))).toBeCloseTo(484, 9);
	});
});

describe('a bridge follows both of its lines', () => {
	const left = outline('left', new PathBuilder(0, 0).cubic(6, 9, 12, 9, 18, 2).open());
	const right = outline('right', new PathBuilder(70, 4).cubic(64, -8, 48, -9, 39, 3).open());
	const ends = [
		{ way: 'curvature', pull: 1, line: 0, anchor: left.anchors[1], at: 'end' },
		{ way: 'curvature', pull: 1.3, line: 1, anchor: right.anchors[1], at: 'end' }
	] as const;
	/** How far apart place, direction and curvature are where the bridge begins and where it ends. */
	const misses = (drawing: Drawing): number[] => {
		const made = lineOf(get(drawing, 'made'));
		const n = made.types.length;
		const from = lineOf(get(drawing, 'left'));
		const to = lineOf(get(drawing, 'right'));
		const last = STRIDE * (n - 1);
		const [d, e] = [directionAt(CUBIC, from.segs, 0, 1), directionAt(CUBIC, made.segs, 0, 0)];
		const [f, g] = [directionAt(CUBIC, to.segs, 0, 1), directionAt(CUBIC, made.segs, last, 1)];
		return [
			Math.hypot(made.segs[0] - from.segs[6], made.segs[1] - from.segs[7]),
			Math.hypot(made.segs[last + 6] - to.segs[6], made.segs[last + 7] - to.segs[7]),
			Math.hypot(d.x - e.x, d.y - e.y),
			Math.hypot(f.x + g.x, f.y + g.y),
			Math.abs(curvatureAt(CUBIC, from.segs, 0, 1) - curvatureAt(CUBIC, made.segs, 0, 0)),
			Math.abs(curvatureAt(CUBIC, to.segs, 0, 1) + curvatureAt(CUBIC, made.segs, last, 1))
		];
	};
	test('place, direction and curvature at both ends to 1e-6, whatever is moved', () => {
		const drawing = followed('bridge', { ends }, left, right);
		fc.assert(
			fc.property(
				fc.integer({ min: -9, max: 9 }),
				fc.integer({ min: -9, max: 9 }),
				fc.integer({ min: 0, max: 1 }),
				(x, y, k) => {
					let after = apply(drawing, { put: [nudged(get(drawing, 'left'), k, x, y)] });
					after = apply(after, { put: [nudged(get(after, 'right'), k, -y, x)] });
					for (const miss of misses(after)) expect(miss).toBeLessThan(1e-6);
				}
			),
			{ numRuns: 60 }
		);
	});
	test('it knows its end by the anchor, also where the line is turned round; a closed one is told', () => {
		const drawing = followed('bridge', { ends }, left, right);
		const before = lineOf(get(drawing, 'made'));
		const turned = apply(drawing, { put: [replaceLine(right, reversePath(lineOf(right)))] });
		expect([...lineOf(get(turned, 'made')).segs]).toEqual([...before.segs]);
		const shut = apply(drawing, { put: [replaceLine(right, circlePath(60, 0, 5))] });
		expect(get(shut, 'made').recipe?.problem).toContain('no end any more');
	});
	test('ways and pulls are typed one by one', () => {
		const drawing = followed('bridge', { ends }, left, right);
		const made = get(drawing, 'made');
		const straight = ends.map((end) => ({ ...end, way: 'place' as const }));
		const after = apply(drawing, withSettings(drawing, made, { ends: straight }));
		expect([...lineOf(get(after, 'made')).types]).toEqual([0]);
	});
});

describe('a corner between two lines follows both', () => {
	const level = outline('level', polygonPath([0, 0, 30, 0], false));
	const plumb = outline('plumb', polygonPath([40, 10, 40, 50], false));
	const arms = [
		{ line: 0, anchor: level.anchors[0], at: 'start' },
		{ line: 1, anchor: plumb.anchors[1], at: 'end' }
	] as const;
	test('rounded: the radius stays when a line is moved; too large names the largest', () => {
		const drawing = followed('corner', { amount: 6, cutOff: false, arms }, level, plumb);
		expect(tightestRadius(lineOf(get(drawing, 'made'))).radius).toBeCloseTo(6, 9);
		const moved = apply(drawing, { put: [replaceLine(plumb, polygonPath([55, 12, 55, 50], false))] });
		const path = lineOf(get(moved, 'made'));
		expect(tightestRadius(path).radius).toBeCloseTo(6, 9);
		expect(path.segs[0]).toBe(0);
		expect(path.segs.at(-1)).toBe(50);
		// Moved so that they cross, the same ends stay.
		const crossing = apply(drawing, { put: [replaceLine(plumb, polygonPath([20, -20, 20, 50], false))] });
		const crossed = lineOf(get(crossing, 'made'));
		expect([crossed.segs[0], crossed.segs.at(-1)]).toEqual([0, 50]);
		// Beyond the end of the one the other is prolonged to, the one is met where it is.
		const beside = apply(drawing, { put: [replaceLine(plumb, polygonPath([50, -20, 50, 50], false))] });
		const tee = lineOf(get(beside, 'made'));
		expect([tee.segs[0], tee.segs.at(-2), tee.segs.at(-1)]).toEqual([0, 50, 50]);
		const large = apply(drawing, withSettings(drawing, get(drawing, 'made'), { amount: 300 }));
		expect(get(large, 'made').recipe?.problem).toMatch(/largest that does is \d/);
	});
	test('cut off, sharp', () => {
		const cut = followed('corner', { amount: 5, cutOff: true, arms }, level, plumb);
		expect(lineOf(get(cut, 'made')).types).toHaveLength(3);
		const sharp = followed('corner', { amount: 0, cutOff: false, arms }, level, plumb);
		expect(lineOf(get(sharp, 'made')).types).toHaveLength(2);
	});
});

describe('a band follows its line', () => {
	const line = outline('line', polygonPath([0, 0, 20, 0, 40, 0, 60, 0], false));
	const settings = { width: 4, widths: [], taper: 'even', join: 'round', ends: 'butt' } as const;
	test('a stretch with its own width keeps it when anchors are moved, put in and taken out', () => {
		const input = inputLine(line);
		const second = withStretch(input, settings, stretchAt(input, settings, 1), 10, 6);
		expect(stretchAt(input, second, 1)).toMatchObject({ from: 10, to: 6 });
		expect(stretchAt(input, second, 0)).toMatchObject({ from: 4, to: 4 });
		expect(stretchAt(input, second, 2)).toMatchObject({ from: 4, to: 4 });
		const drawing = followed('band', second, line);
		expect(areaOf(drawing)).toBeCloseTo(80 + 160 + 80, 6);
		const more = apply(drawing, {
			put: [replaceLine(line, polygonPath([0, 0, 20, 0, 30, 0, 40, 0, 60, 0], false))]
		});
		// Another anchor on the stretch says nothing: the width goes on through it.
		expect(areaOf(more)).toBeCloseTo(320, 6);
		const longer = apply(drawing, { put: [nudged(line, 3, 10, 0)] });
		expect(areaOf(longer)).toBeCloseTo(360, 6);
	});
	test('as the rest again is what it was; a scaled one is wider by as much', () => {
		const input = inputLine(line);
		const own = withStretch(input, settings, stretchAt(input, settings, 1), 10, 6);
		const back = withStretch(input, own, stretchAt(input, own, 1), undefined, undefined);
		expect(areaOf(followed('band', back, line))).toBeCloseTo(240, 6);
		expect(saidWidths(input, own.widths)).toHaveLength(2);
	});
});

describe('a facing', () => {
	test('what lies within its depth of the edges, up to the edges beside them; it follows, and says when they are gone', () => {
		const piece = outline('piece', polygonPath([0, 0, 60, 0, 50, 40, 10, 40], true));
		const [hem, side] = edgesOf(piece);
		const drawing = followed('facing', { edges: [hem.id], depth: 10 }, piece);
		// A trapezium: 60 below, 55 where it ends.
		expect(areaOf(drawing)).toBeCloseTo(10 * 57.5, 6);
		const deeper = apply(drawing, withSettings(drawing, get(drawing, 'made'), { depth: 20 }));
		expect(areaOf(deeper)).toBeCloseTo(20 * 55, 6);
		const both = apply(drawing, withSettings(drawing, get(drawing, 'made'), { edges: [hem.id, side.id] }));
		expect(areaOf(both)).toBeGreaterThan(10 * 57.5 + 10 * 25);
		const wider = apply(drawing, { put: [nudged(piece, 1, 10, 0)] });
		expect(areaOf(wider)).toBeGreaterThan(10 * 60);
		const gone = apply(drawing, withSettings(drawing, get(drawing, 'made'), { edges: [999] }));
		expect(get(gone, 'made').recipe?.problem).toContain('None of the edges');
	});
});

describe('a rosette', () => {
	const leaf = outline('leaf', new PathBuilder(20, 0).cubic(30, 2, 26, 16, 12, 17).open());
	const base = { x: 0, y: 0, count: 6, mirrored: false, joint: 'smooth' } as const;
	const turnAtAnchors = (path: Path, every: number) =>
		Array.from({ length: path.types.length / every }, (_, k) => Math.abs(turnAt(path, k * every)));
	test.each([
		[5, false],
		[6, true],
		[12, false],
		[3, true]
	])(
		'%i times, mirrored %s: comes back on itself when it is turned by a part, closed, smooth',
		(count, mirrored) => {
			const drawing = followed('rosette', { ...base, count, mirrored }, leaf);
			const path = lineOf(get(drawing, 'made'));
			expect(path.closed).toBe(true);
			expect(path.types).toHaveLength(count * (mirrored ? 2 : 1));
			const turned = transformPath(path, turnBy(360 / count, 0, 0));
			expect(twoWayDistance([path], [turned], 0.001).distance).toBeLessThan(0.002);
			for (const turn of turnAtAnchors(path, 1)) expect(turn).toBeLessThan(1e-6);
			const sharp = apply(drawing, withSettings(drawing, get(drawing, 'made'), { joint: 'corner' }));
			expect(Math.max(...turnAtAnchors(lineOf(get(sharp, 'made')), 1))).toBeGreaterThan(1);
		}
	);
	test('its centre fits the ends of the line as they are, on either side', () => {
		for (const isLeft of [true, false]) {
			const centre = centreFor(lineOf(leaf), 6, false, isLeft);
			const made = lineOf(get(followed('rosette', { ...base, ...centre, joint: 'corner' }, leaf), 'made'));
			expect([...made.segs.subarray(0, 8)]).toEqual([...lineOf(leaf).segs].map((v) => expect.closeTo(v, 9)));
		}
	});
	test('every leaf follows the one that is drawn; a closed line, or an end on the centre, is said', () => {
		const drawing = followed('rosette', base, leaf);
		const moved = apply(drawing, { put: [nudged(leaf, 0, 3, 1)] });
		expect(pathArea(lineOf(get(moved, 'made')))).toBeGreaterThan(pathArea(lineOf(get(drawing, 'made'))));
		const shut = apply(drawing, { put: [replaceLine(leaf, circlePath(20, 0, 4))] });
		expect(get(shut, 'made').recipe?.problem).toContain('open line');
		const inside = followed('rosette', { ...base, x: 20 }, leaf);
		expect(get(inside, 'made').recipe?.problem).toContain('on the centre');
	});
});

test('the axis of a whole is found, wherever it lies, though the halves are not quite alike', () => {
	const half = new PathBuilder(0, 30).cubic(20, 34, 26, 10, 18, -6).line(8, -20).line(0, -20).open();
	for (const [angle, x, y, spoil] of [
		[90, 0, 0, 0],
		[37, 50, -20, 0.3],
		[120, -9, 4, 0.5]
	]) {
		const turn = compose(moveBy(x, y), turnBy(angle - 90, 0, 0));
		const whole = bothHalves(half, { x: 0, y: 0, angle: 90 });
		const segs = Float64Array.from(
			whole.segs,
			(v, i) => v + (i > whole.segs.length / 2 && i % 8 > 1 && i % 8 < 6 ? spoil : 0)
		);
		const found = ownAxis(transformPath({ ...whole, segs }, turn));
		const off = Math.abs(((found.angle - angle + 270) % 180) - 90);
		expect(off).toBeLessThan(1.5);
		const rad = (angle * Math.PI) / 180;
		expect(Math.abs((found.y - y) * Math.cos(rad) - (found.x - x) * Math.sin(rad))).toBeLessThan(0.6);
	}
});

test('any of them, edited at random: what is stored is what is made from scratch, and undo gives the bits back', () => {
	const a = outline('a', polygonPath([0, 0, 30, 0, 30, 30, 0, 30], true));
	const b = outline('b', polygonPath([20, 10, 50, 12, 44, 40], true));
	const c = outline('c', new PathBuilder(60, 0).cubic(70, 10, 80, 10, 90, 0).line(100, 10).open());
	const d = outline('d', new PathBuilder(120, 0).cubic(130, 20, 140, 20, 150, 0).open());
	let drawing = drawingOf(a, b, c, d);
	const facts = (id: string) => ({ id, name: id, layer: 'cut', rank: 30 });
	const end = { way: 'direction', pull: 1 } as const;
	for (const edit of [
		addFollower('combined', { op: 'union' }, [a, b], facts('u')),
		addFollower(
			'bridge',
			{
				ends: [
					{ ...end, line: 0, anchor: c.anchors[2], at: 'end' },
					{ ...end, line: 1, anchor: d.anchors[0], at: 'start' }
				]
			},
			[c, d],
			facts('bridge')
		)
	])
		drawing = apply(drawing, edit);
	drawing = apply(
		drawing,
		addFollower(
			'band',
			{
				width: 3,
				widths: [{ anchor: c.anchors[1], after: 5 }],
				taper: 'eased',
				join: 'miter',
				ends: 'round'
			},
			[get(drawing, 'c')],
			facts('band')
		)
	);
	fc.assert(
		fc.property(
			fc.array(
				fc.tuple(
					fc.constantFrom('a', 'b', 'c', 'd'),
					fc.nat(9),
					fc.integer({ min: -6, max: 6 }),
					fc.integer({ min: -6, max: 6 })
				),
				{ maxLength: 5 }
			),
			(moves) => {
				let now = drawing;
				for (const [id, k, x, y] of moves) {
					const before = now;
					const own = get(now, id);
					const { edit } = completeEdit(now, { put: [nudged(own, k % own.anchors.length, x, y)] });
					const step = makeStep(now, 'Move', edit);
					if (!step) continue;
					now = applyStep(now, step, 'forward');
					expect(applyStep(now, step, 'back').records).toEqual(before.records);
				}
				const afresh = madeAfresh(now);
				for (const id of ['u', 'bridge', 'band'])
					expect([...get(afresh, id).points]).toEqual([...get(now, id).points]);
			}
		),
		{ numRuns: 40 }
	);
});
