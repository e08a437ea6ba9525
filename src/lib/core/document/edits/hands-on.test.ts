/** Editing under the hand: moving, bending, rounding, shapes, drawing, selecting, transforming. */
import { givenOutline } from './made';
import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { numberIn } from '../../../../../tests/numbers';
import { blob } from '../../../../../tests/shapes';
import { unwrap } from '../../errors';
import { arcShape, bulgeThrough } from '../../geometry/arc';
import { fillet } from '../../geometry/corner';
import { twoWayDistance } from '../../geometry/edge-tree';
import { pathArea, pathBox, pathLength } from '../../geometry/measure';
import { ARC, CUBIC, PathBuilder, polygonPath, STRAIGHT, STRIDE } from '../../geometry/path';
import { curvatureAt, directionAt, pointAt } from '../../geometry/segment';
import { alignedToStraights, insertAnchors, moveAnchors, placeHandle, setKind } from './anchors';
import { handleFaults, mendHandles, radiusAt, segmentBeside, setRadius, tinyHandles } from './handles';
import { continued, drawnOutline, pulledAnchor, turnedRound } from './line-drawing';
import { strokeOutline } from './stroke';
import { madePlain, outlineFromPath, placeOfAnchor, lineOf, sourceLine, type Outline } from '../outline';
import {
	anchorsInReach,
	followShare,
	isStraightBeside,
	offAlong,
	reachEnds,
	slideAlong,
	slideDirection,
	slideOnLine,
	softPull,
	withAnchorsInReach
} from './pulling';
import { exchangeRounds, roundsFit, withRounds } from '../rounds';
import {
	bendSegment,
	moveSideways,
	restOfCircle,
	segmentNumbers,
	segmentToArc,
	setArcRadius,
	setArcSweep,
	setLineLength,
	setStraight,
	sharpenTip,
	straightenStretch,
	stretchEnds,
	withBulge
} from './segments';
import { anchorsInside, anchorsBetween, edgeOf, inverted, ofKind } from './selecting';
import { arcThrough, circleThrough, shapePath, transformRecipe, type ShapeRecipe } from '../recipes/shapes';
import { findSnap, lockedDirection } from './snap';
import { transformOutline } from './transform';
import { mirrorAt, moveBy, scaleBy, turnBy } from '../../geometry/maps';

const facts = { id: 'o', name: 'Ear', layer: 'cut', rank: 1 };
const square = outlineFromPath(polygonPath([0, 0, 10, 0, 10, 10, 0, 10]), facts);
const wavy = (seed = 3, n = 12) => outlineFromPath(blob(n, seed, 40), facts);
const mm = (min: number, max: number) => numberIn(min, max);
const at = (o: Outline, i: number) => [o.points[7 * i], o.points[7 * i + 1]];

describe('moving', () => {
	test('an anchor slid along its neighbour keeps the angle of that side exactly; several each along their own', () => {
		const slant = outlineFromPath(polygonPath([0, 0, 10, 0, 13, 8, 0, 8]), facts);
		const ids = new Set([slant.anchors[2]]);
		const d = slideDirection(slant, slant.anchors[2], 'before')!;
		expect(d.x / d.y).toBeCloseTo(3 / 8, 12);
		const longer = slideAlong(slant, ids, 'before', 5);
		expect(Math.hypot(longer.points[14] - 10, longer.points[15])).toBeCloseTo(Math.hypot(3, 8) + 5, 9);
		expect((longer.points[14] - 10) * 8 - longer.points[15] * 3).toBeCloseTo(0, 9);
		// A hem: both corners longer along their own sides, whichever of their neighbours moves along.
		const hem = slideAlong(square, new Set([square.anchors[2], square.anchors[3]]), 'before', 1);
		expect(at(hem, 2)).toEqual([10, 11]);
		expect(at(hem, 3)).toEqual([0, 11]);
		const open = outlineFromPath(polygonPath([0, 0, 5, 0], false), facts);
		expect(slideDirection(open, open.anchors[0], 'before')).toBeUndefined();
	});

	test('typed amounts are exact', () => {
		fc.assert(
			fc.property(mm(-100, 100), mm(-100, 100), (dx, dy) => {
				const o = moveAnchors(square, new Set([square.anchors[1]]), dx, dy);
				expect(at(o, 1)).toEqual([10 + dx, 0 + dy]);
				expect(at(o, 0)).toEqual([0, 0]);
			})
		);
	});

	test('an anchor put on a curve slides along it, and the line stays', () => {
		const o = wavy();
		const { outline, added } = insertAnchors(o, [{ segment: 2, t: 0.5 }]);
		const path = sourceLine(o);
		for (const t of [0.3, 0.42, 0.7]) {
			const p = pointAt(path.types[2], path.segs, STRIDE * 2, t);
			const slid = slideOnLine(outline, added[0], p.x, p.y);
			expect(slid.anchors).toContain(added[0]);
			expect(slid.anchors).toHaveLength(outline.anchors.length);
			const place = placeOfAnchor(slid, added[0])!;
			expect(Math.hypot(place.x - p.x, place.y - p.y)).toBeLessThan(1e-6);
			expect(twoWayDistance([lineOf(slid)], [path], 1e-4, 0.05).distance).toBeLessThan(0.02);
		}
	});

	test('a soft pull moves its anchor by the whole, what is beyond the reach not at all', () => {
		const o = wavy(5, 24);
		const reach = { before: 30, after: 15 };
		const pulled = softPull(o, o.anchors[6], 2, -1, reach);
		expect(pulled.points[42] - o.points[42]).toBeCloseTo(2, 12);
		const path = sourceLine(o);
		let along = 0;
		let stayed = 0;
		for (let k = 1; k < 24; k++) {
			const i = (6 + k) % 24;
			const s = (i + 23) % 24;
			along += pathLength({
				closed: false,
				types: path.types.slice(s, s + 1),
				segs: path.segs.slice(8 * s, 8 * s + 8)
			});
			if (along >= 15 && pathLength(path) - along >= 30) {
				expect(at(pulled, i)).toEqual(at(o, i));
				stayed++;
			}
		}
		expect(stayed).toBeGreaterThan(3);
		expect(anchorsInReach(o, o.anchors[6], reach)).toBeGreaterThan(1);
		expect(() => softPull(o, o.anchors[0], 1, 1, { before: 0, after: 1 })).toThrow('reach');
		expect(followShare(0, reach)).toBe(1);
		expect(followShare(15, reach)).toBe(0);
		expect(followShare(-15, reach)).toBeGreaterThan(followShare(-20, reach));
	});

	test('the ends of the reach lie as far along the line as it says; the shorter way round', () => {
		const reach = { before: 12, after: 7 };
		const [a, b] = reachEnds(square, square.anchors[1], reach);
		expect(Math.hypot(a.x, a.y - 2)).toBeLessThan(1e-9);
		expect(Math.hypot(b.x - 10, b.y - 7)).toBeLessThan(1e-9);
		expect(offAlong(square, square.anchors[1], 10, 7)).toBeCloseTo(7, 9);
		expect(offAlong(square, square.anchors[1], 0, 2)).toBeCloseTo(-12, 9);
	});

	test('with too few anchors in reach more are put in, and the shape stays', () => {
		const reach = { before: 4, after: 4 };
		expect(anchorsInReach(square, square.anchors[1], reach)).toBe(0);
		const more = withAnchorsInReach(square, square.anchors[1], reach);
		expect(anchorsInReach(more, square.anchors[1], reach)).toBeGreaterThan(1);
		expect(twoWayDistance([lineOf(more)], [lineOf(square)], 1e-6).distance).toBeLessThan(1e-9);
	});
});

describe('segments', () => {
	test('a bent segment goes through the pointer; smooth neighbours stay smooth', () => {
		fc.assert(
			fc.property(fc.nat(11), mm(0.2, 0.8), mm(-4, 4), mm(-4, 4), (i, t, dx, dy) => {
				const o = setKind(wavy(), new Set(wavy().anchors), 'smooth');
				const path = sourceLine(o);
				const p = pointAt(path.types[i], path.segs, STRIDE * i, t);
				const bent = bendSegment(o, i, t, p.x + dx, p.y + dy);
				const now = pointAt(CUBIC, sourceLine(bent).segs, STRIDE * i, t);
				expect(Math.hypot(now.x - p.x - dx, now.y - p.y - dy)).toBeLessThan(1e-9);
				const q = bent.points.subarray(7 * i, 7 * i + 7);
				const cross = (q[4] - q[0]) * (q[1] - q[3]) - (q[5] - q[1]) * (q[0] - q[2]);
				expect(Math.abs(cross)).toBeLessThan(1e-6);
			})
		);
	});

	test('beside a straight the handle only grows or shrinks; a straight becomes a curve', () => {
		const path = new PathBuilder(0, 0).line(10, 0).cubic(14, 0, 20, 4, 20, 10).line(0, 10).close();
		const o = setKind(outlineFromPath(path, facts), new Set([2]), 'smooth');
		expect(isStraightBeside(o, 1, 'before')).toBe(true);
		const bent = bendSegment(o, 1, 0.4, 15, 3.5);
		expect(bent.points[7 + 5]).toBeCloseTo(0, 12);
		const dragged = placeHandle(o, 2, 'out', 16, 5);
		expect(dragged.points[12]).toBe(0);
		expect(dragged.points[11]).toBeCloseTo(16, 12);
		const moved = moveAnchors(o, new Set([1]), 0, 3);
		const slope = (moved.points[8] - moved.points[1]) / (moved.points[7] - moved.points[0]);
		expect((moved.points[12] - moved.points[8]) / (moved.points[11] - moved.points[7])).toBeCloseTo(slope, 9);
		const bow = bendSegment(square, 0, 0.5, 5, -2);
		expect(sourceLine(bow).types[0]).toBe(CUBIC);
		expect(alignedToStraights(square)).toBe(square);
	});

	test('an arc keeps its radius to 1e-9, its ends and its side; the rest of its circle completes it', () => {
		fc.assert(
			fc.property(mm(5.001, 500), (radius) => {
				const o = setArcRadius(segmentToArc(square, 0), 0, radius);
				const { radius: back } = segmentNumbers(o, 0);
				expect(Math.abs(back! - radius)).toBeLessThan(1e-9 * radius);
				expect(at(o, 1)).toEqual([10, 0]);
				const rest = restOfCircle(o, 0);
				expect(segmentNumbers(rest, 0).radius).toBeCloseTo(radius, 6);
				expect(Math.abs(segmentNumbers(rest, 0).sweep!) + Math.abs(segmentNumbers(o, 0).sweep!)).toBeCloseTo(
					360,
					9
				);
			})
		);
		expect(() => setArcRadius(segmentToArc(square, 0), 0, 4)).toThrow('at least 5.00 mm');
		expect(() => restOfCircle(square, 0)).toThrow('no arc');
		expect(segmentNumbers(setArcSweep(square, 0, 90), 0).sweep).toBeCloseTo(90, 9);
		expect(() => setArcSweep(square, 0, 400)).toThrow('less than 360');
		// A curve becomes the arc through its middle: of a quarter circle by one cubic the radius is told to 3e-4.
		const k = 0.5522847498;
		const quarter = outlineFromPath(
			new PathBuilder(10, 0).cubic(10, 10 * k, 10 * k, 10, 0, 10).open(),
			facts
		);
		expect(segmentNumbers(segmentToArc(quarter, 0), 0).radius).toBeCloseTo(10, 2);
		expect(sourceLine(withBulge(quarter, 0, 0)).types[0]).toBe(STRAIGHT);
	});

	test('straights are as long and turned as typed; moved sideways their neighbours keep their angles', () => {
		const o = setStraight(square, 0, 25, 30);
		expect(segmentNumbers(o, 0)).toMatchObject({ type: 'straight' });
		expect(segmentNumbers(o, 0).length).toBeCloseTo(25, 12);
		expect(segmentNumbers(o, 0).angle).toBeCloseTo(30, 12);
		expect(() => setStraight(square, 0, 0, 0)).toThrow('longer than 0');
		const slant = outlineFromPath(polygonPath([0, 0, 10, 0, 14, 8, -2, 8]), facts);
		const moved = moveSideways(slant, 2, 2);
		expect(at(moved, 2)[1]).toBeCloseTo(6, 12);
		expect((at(moved, 2)[0] - 10) * 8).toBeCloseTo(at(moved, 2)[1] * 4, 9);
	});

	test('an open line is made longer straight on, shorter along its curve; a closed one has no end', () => {
		const open = outlineFromPath(new PathBuilder(0, 0).cubic(5, 8, 15, 8, 20, 0).open(), facts);
		const all = pathLength(lineOf(open));
		const shorter = setLineLength(open, all - 4, 'end', 'curve');
		expect(pathLength(lineOf(shorter))).toBeCloseTo(all - 4, 6);
		expect(twoWayDistance([lineOf(shorter)], [lineOf(open)], 1e-4, 0.02).distance).toBeCloseTo(4, 0);
		expect(pathLength(lineOf(setLineLength(open, all + 3, 'start', 'straight')))).toBeCloseTo(all + 3, 6);
		expect(() => setLineLength(square, 5, 'end', 'straight')).toThrow('no end');
	});

	test('a blunted tip becomes one corner where both sides meet, straight or along their curves', () => {
		// A triangle whose tip at (10, 20) was cut off at a height of 18.
		const blunt = outlineFromPath(polygonPath([0, 0, 20, 0, 11, 18, 9, 18]), facts);
		const sharp = sharpenTip(blunt, blunt.anchors[2], blunt.anchors[3], 'straight');
		expect(pathArea(lineOf(sharp))).toBeCloseTo(200, 6);
		expect(sharp.anchors).toHaveLength(3);
		const open = outlineFromPath(polygonPath([0, 0, 9, 18, 11, 18, 20, 0], false), facts);
		const tip = sharpenTip(open, open.anchors[1], open.anchors[2], 'straight');
		expect(tip.closed).toBe(false);
		expect(at(tip, 1)[0]).toBeCloseTo(10, 9);
		expect(at(tip, 1)[1]).toBeCloseTo(20, 9);
		// Two arcs of one radius about (10, 0) and (-10, 0) meet over the middle: sqrt(15^2 - 10^2).
		const lens = new PathBuilder(-5, 0)
			.line(5, 0)
			.arc(Math.tan(Math.asin(0.6) / 4), -10 + 15 * 0.8, 9)
			.line(10 - 15 * 0.8, 9)
			.arc(Math.tan(Math.asin(0.6) / 4), -5, 0)
			.close();
		const o = outlineFromPath(lens, facts);
		const top = sharpenTip(o, o.anchors[2], o.anchors[3], 'curve');
		expect(pathBox(lineOf(top)).y1).toBeCloseTo(Math.sqrt(125), 6);
		expect(() => sharpenTip(square, 1, 2, 'straight')).toThrow('do not meet');
	});

	test('a stretch is straightened by the shorter way', () => {
		const o = wavy(2, 16);
		const next = straightenStretch(o, o.anchors[3], o.anchors[6]);
		expect(next.anchors).toHaveLength(14);
		expect(sourceLine(next).types[3]).toBe(STRAIGHT);
		expect(stretchEnds(o, 15, 1)).toEqual([15, 1]);
		expect(stretchEnds(square, 0, 1)).toEqual([0, 1]);
	});
});

describe('handles', () => {
	test('the radius of curvature is as set, place and direction stay (curvature by derivatives)', () => {
		fc.assert(
			fc.property(
				fc.nat(11),
				mm(2, 200),
				fc.constantFrom('in' as const, 'out' as const),
				(i, radius, side) => {
					const o = wavy(7);
					const next = setRadius(o, o.anchors[i], side, radius);
					const segment = segmentBeside(next, i, side)!;
					const { types, segs } = sourceLine(next);
					const k = curvatureAt(types[segment], segs, STRIDE * segment, side === 'out' ? 0 : 1);
					expect(1 / Math.abs(k)).toBeCloseTo(radius, 6);
					expect(Math.abs(radiusAt(next, o.anchors[i], side)!)).toBeCloseTo(radius, 6);
					expect(at(next, i)).toEqual(at(o, i));
					const d = directionAt(types[segment], segs, STRIDE * segment, side === 'out' ? 0 : 1);
					const before = directionAt(CUBIC, sourceLine(o).segs, STRIDE * segment, side === 'out' ? 0 : 1);
					expect(d.x * before.y - d.y * before.x).toBeCloseTo(0, 9);
				}
			),
			{ numRuns: 60 }
		);
		expect(() => setRadius(square, 1, 'out', 5)).toThrow('no curve');
		expect(() => setRadius(wavy(), 1, 'out', -5)).toThrow('above 0');
	});

	test('handles that cross, turn back or loop are told, and mended in one step', () => {
		const path = (a: number[], b: number[]) =>
			outlineFromPath(new PathBuilder(0, 0).cubic(a[0], a[1], b[0], b[1], 10, 0).line(5, -10).close(), facts);
		for (const [a, b, trouble] of [
			[[12, 9], [-2, 9], 'loop'],
			[[8, 6], [2, 6], 'crossed'],
			[[-6, 1], [8, 3], 'backward']
		] as const) {
			const o = path([...a], [...b]);
			expect(handleFaults(o).map((f) => f.trouble)).toEqual([trouble]);
			const mended = mendHandles(o, [0]);
			expect(handleFaults(mended)).toEqual([]);
			expect(at(mended, 0)).toEqual([0, 0]);
		}
		expect(handleFaults(wavy())).toEqual([]);
		const tiny = path([0.004, 0], [8, 3]);
		expect(tinyHandles(tiny, 0.1)).toEqual([{ index: 0, side: 'out', length: 0.004 }]);
	});
});

describe('corners that stay editable', () => {
	test('a rounded corner is a true arc, tangent to both sides; the tangent length is r tan(half the deflection)', () => {
		fc.assert(
			fc.property(mm(20, 160), mm(0.2, 3), (degrees, radius) => {
				const turn = (degrees * Math.PI) / 180;
				const line = polygonPath([-30, 0, 0, 0, 30 * Math.cos(turn), 30 * Math.sin(turn)], false);
				const tangent = radius * Math.tan(turn / 2);
				fc.pre(tangent < 29);
				const r = unwrap(fillet(line, 1, radius));
				expect(-r.segs[6]).toBeCloseTo(tangent, 8);
				const into = directionAt(ARC, r.segs, STRIDE, 0);
				expect(Math.abs(Math.atan2(into.y, into.x)) * (180 / Math.PI)).toBeLessThan(1e-6);
				expect(arcShape(r.segs[8], r.segs[9], r.segs[14], r.segs[15], r.segs[10]).radius).toBeCloseTo(
					radius,
					8
				);
			})
		);
	});

	test('rounds hang on anchors: changed, taken out, made plain; one that fits no more becomes as large as fits', () => {
		const rounds = exchangeRounds(undefined, [1, 3], (anchor) => ({ anchor, radius: 2 }))!;
		const o: Outline = { ...square, rounds };
		expect(lineOf(o).types.filter((t) => t === ARC)).toHaveLength(2);
		expect(sourceLine(o).types).toHaveLength(4);
		// A square with two corners rounded: area less (1 - pi/4) r^2 each.
		expect(pathArea(lineOf(o))).toBeCloseTo(100 - 2 * (1 - Math.PI / 4) * 4, 9);
		const place = (anchor: number) => placeOfAnchor(o, anchor);
		expect(roundsFit(sourceLine(o), rounds, place).ok).toBe(true);
		expect(roundsFit(sourceLine(o), [{ anchor: 1, radius: 50 }], place)).toMatchObject({
			problem: { code: 'too-large' }
		});
		const squeezed = withRounds(sourceLine(o), [{ anchor: 1, radius: 50 }], place);
		expect(Math.max(...squeezed.types)).toBe(ARC);
		const cut: Outline = { ...square, rounds: [{ anchor: 2, first: 3, second: 1 }] };
		expect(pathArea(lineOf(cut))).toBeCloseTo(100 - 1.5, 9);
		expect(exchangeRounds(rounds, [1, 3], undefined)).toBeUndefined();
		const plain = madePlain(o);
		expect(plain.rounds).toBeUndefined();
		expect(plain.anchors).toHaveLength(6);
		expect(lineOf(plain)).toEqual(expect.objectContaining({ closed: true }));
		const moved = moveAnchors(o, new Set([1]), 1, 1);
		expect(lineOf(moved).types.filter((t) => t === ARC)).toHaveLength(2);
	});
});

describe('ready shapes', () => {
	const lying = { x: 5, y: -3, angle: 20 };
	test('areas in closed form: regular polygon, star, circle, slot, rounded rectangle', () => {
		const area = (r: ShapeRecipe) => pathArea(shapePath(r));
		expect(area({ shape: 'circle', radius: 7, ...lying })).toBeCloseTo(49 * Math.PI, 9);
		for (const sides of [3, 5, 8])
			expect(area({ shape: 'polygon', radius: 10, sides, corner: 0, ...lying })).toBeCloseTo(
				50 * sides * Math.sin((2 * Math.PI) / sides),
				9
			);
		expect(area({ shape: 'star', radius: 10, inner: 0.5, points: 5, corner: 0, ...lying })).toBeCloseTo(
			10 * 5 * 5 * Math.sin(Math.PI / 5),
			9
		);
		expect(area({ shape: 'slot', length: 30, width: 8, ...lying })).toBeCloseTo(22 * 8 + 16 * Math.PI, 9);
		expect(area({ shape: 'rectangle', width: 20, height: 10, corner: 3, ...lying })).toBeCloseTo(
			200 - (4 - Math.PI) * 9,
			9
		);
		// An ellipse of four cubics: 2.7e-4 of the radius off at most.
		expect(area({ shape: 'ellipse', width: 20, height: 10, ...lying })).toBeCloseTo(50 * Math.PI, 0);
		const arc = shapePath({ shape: 'arc', radius: 10, sweep: 270, ...lying });
		expect(pathLength(arc)).toBeCloseTo(15 * Math.PI, 9);
		for (const [bad, sentence] of [
			[{ shape: 'slot', length: 5, width: 8, ...lying }, 'longer than it is wide'],
			[{ shape: 'polygon', radius: 5, sides: 2, corner: 0, ...lying }, 'sides must lie'],
			[{ shape: 'circle', radius: -1, ...lying }, 'radius must lie'],
			[{ shape: 'arc', radius: 5, sweep: 0, ...lying }, 'needs a sweep'],
			[{ shape: 'rectangle', width: 10, height: 10, corner: 9, ...lying }, 'does not fit']
		] as const)
			expect(() => shapePath(bad as ShapeRecipe)).toThrow(sentence);
	});

	test('a circle through three places has all of them on it; three in a line have none', () => {
		const spot = fc.record({ x: mm(-50, 50), y: mm(-50, 50) });
		fc.assert(
			fc.property(spot, spot, spot, (p, q, r) => {
				const twice = Math.abs((q.x - p.x) * (r.y - p.y) - (q.y - p.y) * (r.x - p.x));
				fc.pre(twice > 5);
				const c = circleThrough(p, q, r);
				for (const s of [p, q, r]) expect(Math.hypot(s.x - c.x, s.y - c.y)).toBeCloseTo(c.radius, 6);
				const arc = arcThrough(p, q, r);
				expect(arc.radius).toBeCloseTo(c.radius, 9);
				const rad = (arc.angle * Math.PI) / 180;
				expect(c.x + c.radius * Math.cos(rad)).toBeCloseTo(p.x, 5);
				// The way-point lies on the arc, not on the rest of the circle.
				const b = bulgeThrough(p, q, r);
				const path = new PathBuilder(p.x, p.y).arc(b, r.x, r.y).open();
				const off = Math.min(
					...Array.from({ length: 2001 }, (_, k) => {
						const s = pointAt(ARC, path.segs, 0, k / 2000);
						return Math.hypot(s.x - q.x, s.y - q.y);
					})
				);
				expect(off).toBeLessThan(0.01 * c.radius + 1e-6);
			})
		);
		expect(() => circleThrough({ x: 0, y: 0 }, { x: 1, y: 1 }, { x: 3, y: 3 })).toThrow('in a line');
		expect(bulgeThrough({ x: 0, y: 0 }, { x: 1, y: 0 }, { x: 2, y: 0 })).toBe(0);
	});

	test('moved, turned, evenly scaled and mirrored a shape stays what it is; sheared it does not', () => {
		const recipes: ShapeRecipe[] = [
			{ shape: 'rectangle', width: 20, height: 10, corner: 2, ...lying },
			{ shape: 'star', radius: 10, inner: 0.4, points: 5, corner: 0, ...lying },
			{ shape: 'slot', length: 30, width: 8, ...lying },
			{ shape: 'arc', radius: 9, sweep: 130, ...lying }
		];
		for (const recipe of recipes) {
			const o = givenOutline('shape', recipe, facts);
			for (const m of [moveBy(3, -8), turnBy(77, 1, 2), scaleBy(2.5, 2.5, 4, 4), mirrorAt(30, -2, 6)]) {
				const next = transformOutline(o, m);
				expect(
					twoWayDistance([shapePath(next.recipe!.settings as ShapeRecipe)], [lineOf(next)], 1e-5, 0.5)
						.distance
				).toBeLessThan(1e-6);
			}
			expect(transformRecipe(recipe, scaleBy(2, 1, 0, 0))).toBeUndefined();
			expect(transformOutline(o, scaleBy(2, 1, 0, 0)).recipe).toBeUndefined();
		}
	});
});

describe('whole outlines', () => {
	test('a map and its inverse give the outline back; areas scale with the square; arcs become curves where they must', () => {
		fc.assert(
			fc.property(mm(-180, 180), mm(0.1, 10), mm(-50, 50), (degrees, scale, x) => {
				const o = wavy(4);
				const there = transformOutline(
					transformOutline(o, turnBy(degrees, x, 3)),
					scaleBy(scale, scale, x, 1)
				);
				expect(pathArea(lineOf(there)) / pathArea(lineOf(o))).toBeCloseTo(scale * scale, 6);
				const back = transformOutline(
					transformOutline(there, scaleBy(1 / scale, 1 / scale, x, 1)),
					turnBy(-degrees, x, 3)
				);
				back.points.forEach((v, i) => expect(v).toBeCloseTo(o.points[i], 6));
			}),
			{ numRuns: 30 }
		);
		expect(transformOutline(square, turnBy(90, 0, 0)).points[8]).toBe(10);
		expect(pathArea(lineOf(transformOutline(square, mirrorAt(90, 0, 0))))).toBe(-100);
		const disc = outlineFromPath(shapePath({ shape: 'circle', radius: 10, x: 0, y: 0, angle: 0 }), facts);
		const oval = transformOutline(disc, scaleBy(2, 1, 0, 0));
		expect(lineOf(oval).types).not.toContain(ARC);
		expect(pathArea(lineOf(oval))).toBeCloseTo(200 * Math.PI, 0);
		expect(() => transformOutline(square, scaleBy(0, 1, 0, 0))).toThrow('vanish');
		const rounded = transformOutline({ ...square, rounds: [{ anchor: 1, radius: 2 }] }, scaleBy(3, 3, 0, 0));
		expect(rounded.rounds).toEqual([{ anchor: 1, radius: 6 }]);
	});
});

describe('drawing', () => {
	test('clicks are corners, pulls are smooth; a straight stays straight', () => {
		const o = drawnOutline(
			[{ x: 0, y: 0 }, pulledAnchor({ x: 20, y: 0 }, 26, 4), { x: 40, y: -10 }],
			false,
			facts
		);
		expect([...sourceLine(o).types]).toEqual([CUBIC, CUBIC]);
		expect(o.marks[3]).toBe(1);
		const straight = drawnOutline(
			[
				{ x: 0, y: 0 },
				{ x: 9, y: 0 },
				{ x: 9, y: 9 }
			],
			true,
			facts
		);
		expect(pathArea(lineOf(straight))).toBeCloseTo(40.5, 12);
	});

	test('going on from either end keeps the anchors and their ids; closing adds the one segment', () => {
		const o = drawnOutline(
			[
				{ x: 0, y: 0 },
				{ x: 10, y: 0 },
				{ x: 10, y: 10 }
			],
			false,
			facts
		);
		const on = continued(
			o,
			'end',
			[
				{ x: 10, y: 10 },
				{ x: 0, y: 10 }
			],
			false
		);
		expect([...on.anchors]).toEqual([1, 2, 3, 4]);
		const before = continued(
			o,
			'start',
			[
				{ x: 0, y: 0 },
				{ x: -5, y: 0 }
			],
			false
		);
		expect([...before.anchors]).toEqual([4, 1, 2, 3]);
		expect(at(before, 0)).toEqual([-5, 0]);
		const shut = continued(
			o,
			'end',
			[
				{ x: 10, y: 10 },
				{ x: 0, y: 10 }
			],
			true
		);
		expect(shut.closed).toBe(true);
		expect(pathArea(lineOf(shut))).toBeCloseTo(100, 12);
		const twice = turnedRound(turnedRound(o));
		expect(twice.points).toEqual(o.points.map((v) => v + 0));
	});

	test('a shaky stroke becomes few anchors, its corner kept; ends that nearly meet close it', () => {
		const stroke: number[] = [];
		for (let k = 0; k <= 100; k++) stroke.push(k * 0.4, 0.05 * Math.sin(k * 2.1));
		for (let k = 1; k <= 100; k++) stroke.push(40 + 0.05 * Math.cos(k * 1.7), k * 0.3);
		const o = strokeOutline(stroke, 0.3, 1, facts);
		expect(o.closed).toBe(false);
		expect(o.anchors.length).toBeLessThan(8);
		const near = Math.min(
			...Array.from(o.anchors, (_, i) => Math.hypot(o.points[7 * i] - 40, o.points[7 * i + 1]))
		);
		expect(near).toBeLessThan(0.4);
		const ring = Array.from({ length: 240 }, (_, k) => {
			const a = (2 * Math.PI * (k >> 1)) / 121;
			return k % 2 ? 20 * Math.sin(a) : 20 * Math.cos(a);
		});
		const closed = strokeOutline(ring, 0.2, 3, facts);
		expect(closed.closed).toBe(true);
		expect(Math.abs(pathArea(lineOf(closed)) / (400 * Math.PI) - 1)).toBeLessThan(0.02);
	});
});

describe('selecting', () => {
	test('by a lasso, inverted, of a kind, between two the shorter way, an edge from corner to corner', () => {
		expect([...anchorsInside(square, [-1, -1, 11, -1, 11, 5, -1, 5])]).toEqual([1, 2]);
		expect([...inverted(square, new Set([1, 2]))]).toEqual([3, 4]);
		const o = setKind(wavy(), new Set([3]), 'flowing');
		expect([...ofKind(o, 'flowing')]).toEqual([3]);
		expect(anchorsBetween(wavy(), new Set([2, 5]))).toEqual(new Set([2, 3, 4, 5]));
		expect(anchorsBetween(wavy(), new Set([12, 2]))).toEqual(new Set([12, 1, 2]));
		expect(anchorsBetween(square, new Set([1]))).toEqual(new Set([1]));
		const dense = insertAnchors(
			square,
			[0.25, 0.5, 0.75].map((t) => ({ segment: 1, t }))
		).outline;
		expect(edgeOf(dense, 2).size).toBe(5);
	});
});

describe('snapping', () => {
	const paths = [lineOf(square)];
	test('anchors and middles before lines, lines before the grid; nothing beyond the reach', () => {
		expect(findSnap(9.8, 0.1, 0.5, { paths, guides: [] })).toMatchObject({ x: 10, y: 0, kind: 'anchor' });
		expect(findSnap(5.2, 0.1, 0.5, { paths, guides: [] })).toMatchObject({ x: 5, y: 0, kind: 'middle' });
		expect(findSnap(7.6, 0.2, 0.5, { paths, guides: [], grid: 2.5 })).toMatchObject({
			x: 7.6,
			y: 0,
			kind: 'on the line'
		});
		expect(findSnap(24.8, 25.1, 0.5, { paths, guides: [], grid: 5 })).toMatchObject({
			x: 25,
			y: 25,
			kind: 'grid'
		});
		expect(findSnap(24, 22, 0.5, { paths, guides: [], grid: 5 })).toBeUndefined();
	});
	test('crossings of lines and of guides, the edge of the picture, square to the side, touching a curve', () => {
		const cross = [polygonPath([0, 0, 10, 10], false), polygonPath([0, 8, 10, 2], false)];
		expect(findSnap(5.1, 4.8, 0.5, { paths: cross, guides: [] })).toMatchObject({ kind: 'crossing' });
		const guides = [
			{ x: 3, y: 0, angle: 90 },
			{ x: 0, y: 4, angle: 0 }
		];
		expect(findSnap(3.1, 4.1, 0.5, { paths: [], guides })).toMatchObject({ kind: 'guides cross' });
		expect(findSnap(3.1, 9, 0.5, { paths: [], guides })).toMatchObject({ x: 3, y: 9, kind: 'guide' });
		expect(findSnap(1, 1, 0.5, { paths: [], guides: [], edge: { x: 1.2, y: 1 } })).toMatchObject({
			x: 1.2,
			kind: 'edge of the picture'
		});
		expect(
			findSnap(0.2, 7, 0.5, { paths: [], guides: [], from: { x: 0, y: 0, dx: 5, dy: 0 } })
		).toMatchObject({ x: 0, y: 7, kind: 'square to the side' });
		// From (0, 0) a line touches the circle about (10, 0) with radius 6 at (6.4, 4.8): closed form.
		const circle = [shapePath({ shape: 'circle', radius: 6, x: 10, y: 0, angle: 0 })];
		const snap = findSnap(6.5, 4.9, 0.5, { paths: circle, guides: [], from: { x: 0, y: 0 } })!;
		expect(snap.kind).toBe('touching');
		expect(snap.x).toBeCloseTo(6.4, 6);
		expect(snap.y).toBeCloseTo(4.8, 6);
	});
	test('locked to level, plumb and 45 degrees', () => {
		expect(lockedDirection(10, 1)).toEqual({ x: 10, y: 0 });
		expect(lockedDirection(1, -9)).toEqual({ x: 0, y: -9 });
		expect(lockedDirection(4, 6).x).toBeCloseTo(5, 12);
	});
});

test('boxes of what was made stay with it', () => {
	expect(pathBox(lineOf(square))).toEqual({ x0: 0, y0: 0, x1: 10, y1: 10 });
});
