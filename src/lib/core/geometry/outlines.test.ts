import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { numberIn } from '../../../../tests/numbers';
import { pathCrossings } from '../plane/crossings';
import { cubicLoop, segmentMeetings } from './meetings';
import { EdgeTree, flattenPath, largestDistance, pathTree, twoWayDistance } from './edge-tree';
import { fitTrail, makeTrail, runningLength, smoothTrail, trailLength, localLine } from '../fit/fit';
import { anchorCount, pathArea, pathLength } from './measure';
import { offsetPieces, widestInside } from '../plane/offset';
import { mergeStraights } from './straights';
import { rawParallel } from '../plane/offset-raw';
import { ARC, circlePath, CUBIC, PathBuilder, polygonPath, STRAIGHT, transformPath, type Path } from './path';
import { PathIndex, boxOf, nearestOnPath } from './pick';
import { groupPieces, nestPaths, orientPieces } from '../plane/pieces';
import { cleanPolygons, offsetPolygons } from '../plane/polygon-clipper';
import { simplifyCurve, simplifyPath } from '../fairing/simplify';
import { findFaults } from '../check/readiness';
import { parsePathData } from '../formats/svg-path';
import { splinePoint, splineToPath } from '../fit/spline';
import { pointAt } from './segment';
import { addEllipticalArc } from './ellipse';
import { blob, jagged } from '../../../../tests/shapes';

const square = (x: number, y: number, s: number) => polygonPath([x, y, x + s, y, x + s, y + s, x, y + s]);
const value = <T>(r: { ok: true; value: T } | { ok: false; problem: { sentence: string } }): T => {
	if (!r.ok) throw new Error(r.problem.sentence);
	return r.value;
};

describe('crossings', () => {
	test('two cubics that cross several times: each found once, on both, to 1e-9', () => {
		const a = Float64Array.from([0, 0, 10, 60, 20, -60, 30, 0]);
		const b = Float64Array.from([0, 5, 45, -10, -15, 10, 30, -5]);
		const found = segmentMeetings(CUBIC, a, 0, CUBIC, b, 0);
		for (const m of found) {
			const p = pointAt(CUBIC, a, 0, m.t);
			const q = pointAt(CUBIC, b, 0, m.u);
			expect(Math.hypot(p.x - q.x, p.y - q.y)).toBeLessThan(1e-9);
		}
		// Counted independently on fine polylines.
		let count = 0;
		const n = 1777; // no sample falls on a crossing
		const pa = Array.from({ length: n + 1 }, (_, i) => pointAt(CUBIC, a, 0, i / n));
		const pb = Array.from({ length: n + 1 }, (_, i) => pointAt(CUBIC, b, 0, i / n));
		const side = (p: (typeof pa)[0], q: (typeof pa)[0], r: (typeof pa)[0]) =>
			Math.sign((q.x - p.x) * (r.y - p.y) - (q.y - p.y) * (r.x - p.x));
		for (let i = 0; i < n; i++) {
			for (let j = 0; j < n; j++) {
				if (Math.abs(pa[i].x - pb[j].x) > 0.2 || Math.abs(pa[i].y - pb[j].y) > 0.4) continue;
				if (
					side(pa[i], pa[i + 1], pb[j]) !== side(pa[i], pa[i + 1], pb[j + 1]) &&
					side(pb[j], pb[j + 1], pa[i]) !== side(pb[j], pb[j + 1], pa[i + 1])
				)
					count++;
			}
		}
		expect(found).toHaveLength(count);
	});

	test('straights, arcs and cubics in all pairs: closed forms', () => {
		const line = Float64Array.from([-10, 3, 0, 0, 0, 0, 10, 3]);
		const arc = Float64Array.from([5, 0, Math.tan(Math.PI / 4), 0, 0, 0, -5, 0]);
		const onArc = segmentMeetings(STRAIGHT, line, 0, ARC, arc, 0);
		expect(onArc.map((m) => m.x)).toEqual([expect.closeTo(-4, 9), expect.closeTo(4, 9)]);
		const other = Float64Array.from([11, 0, Math.tan(Math.PI / 4), 0, 0, 0, 1, 0]);
		expect(segmentMeetings(ARC, arc, 0, ARC, other, 0)).toEqual([
			expect.objectContaining({ x: expect.closeTo(3, 9), y: expect.closeTo(4, 9) })
		]);
		const bow = Float64Array.from([-6, 0, -2, 8, 2, 8, 6, 0]);
		for (const m of segmentMeetings(ARC, arc, 0, CUBIC, bow, 0))
			expect(Math.hypot(m.x, m.y)).toBeCloseTo(5, 9);
		for (const m of segmentMeetings(CUBIC, bow, 0, STRAIGHT, line, 0)) expect(m.y).toBeCloseTo(3, 9);
		const cross = Float64Array.from([0, 0, 0, 0, 0, 0, 0, 9]);
		expect(segmentMeetings(STRAIGHT, line, 0, STRAIGHT, cross, 0)).toEqual([
			expect.objectContaining({ x: 0, y: 3 })
		]);
	});

	test('a loop in one cubic, and none where there is none', () => {
		const loop = Float64Array.from([0, 0, 30, 20, -20, 20, 10, 0]);
		const m = cubicLoop(loop, 0)!;
		const p = pointAt(CUBIC, loop, 0, m.t);
		const q = pointAt(CUBIC, loop, 0, m.u);
		expect(Math.hypot(p.x - q.x, p.y - q.y)).toBeLessThan(1e-9);
		expect(cubicLoop(Float64Array.from([0, 0, 3, 5, 7, 5, 10, 0]), 0)).toBeUndefined();
	});

	test('anchors that follow one another are no crossing; a figure of eight has one', () => {
		expect(pathCrossings([blob(60, 3)], 'self')).toEqual([]);
		const eight = polygonPath([0, 0, 10, 10, 10, 0, 0, 10]);
		const found = pathCrossings([eight], 'self');
		expect(found).toHaveLength(1);
		expect(found[0]).toMatchObject({ x: 5, y: 5, through: true });
		expect(pathCrossings([square(0, 0, 4), square(2, 2, 4)], 'others').filter((c) => c.through)).toHaveLength(
			2
		);
	});

	test('an outline that only touches another does not pass through it', () => {
		const touching = [circlePath(0, 0, 5), circlePath(10, 0, 5)];
		expect(pathCrossings(touching).every((c) => !c.through)).toBe(true);
	});
});

describe('distances', () => {
	test('concentric circles are as far apart as their radii', () => {
		const d = twoWayDistance([circlePath(0, 0, 20)], [circlePath(0, 0, 23)], 1e-4);
		expect(d.distance).toBeCloseTo(3, 3);
		const tree = pathTree([circlePath(0, 0, 20)], 1e-4);
		expect(tree.distance(0, 0)).toBeCloseTo(20, 3);
		expect(tree.distance(50, 0)).toBeCloseTo(30, 3);
		expect(tree.x).toBeCloseTo(20, 3);
		expect(new EdgeTree([]).distance(0, 0)).toBe(Infinity);
		expect(largestDistance([{ points: [30, 0, 0, 40], closed: false }], tree).distance).toBeCloseTo(20, 3);
	});
});

describe('nesting', () => {
	test('holes and islands by depth; pieces with their holes; directions', () => {
		const paths = [square(0, 0, 100), square(10, 10, 50), square(20, 20, 10), square(200, 0, 5)];
		expect(nestPaths(paths).map((n) => n.depth)).toEqual([0, 1, 2, 0]);
		expect(groupPieces(paths)).toEqual([[0, 1], [2], [3]]);
		expect(orientPieces(paths).map((p) => Math.sign(pathArea(p)))).toEqual([1, -1, 1, 1]);
	});
});

describe('offset', () => {
	test("Steiner's formula: length + 2 pi d, area + length d + pi d^2", () => {
		fc.assert(
			fc.property(fc.integer({ min: 3, max: 9 }), numberIn(0.2, 8), (sides, d) => {
				const xy = Array.from({ length: sides }, (_, i) => [
					30 * Math.cos((2 * Math.PI * i) / sides),
					20 * Math.sin((2 * Math.PI * i) / sides)
				]).flat();
				const convex = polygonPath(xy);
				const { paths, fallback } = value(offsetPieces([convex], { distance: d, join: 'round' }));
				expect(fallback).toBe(false);
				const length = pathLength(convex);
				expect(paths).toHaveLength(1);
				expect(pathLength(paths[0])).toBeCloseTo(length + 2 * Math.PI * d, 6);
				expect(pathArea(paths[0])).toBeCloseTo(pathArea(convex) + length * d + Math.PI * d * d, 5);
			}),
			{ numRuns: 25 }
		);
	});

	test("a true circle's offset is arcs; a rounded rectangle's straight sides stay single", () => {
		const { paths } = value(offsetPieces([circlePath(0, 0, 10)], { distance: 4, join: 'round' }));
		expect([...paths[0].types]).toEqual([ARC, ARC, ARC, ARC]);
		expect(pathLength(paths[0])).toBeCloseTo(28 * Math.PI, 9);
		const b = Math.tan(Math.PI / 8);
		const rounded = new PathBuilder(-20, -15)
			.line(20, -15)
			.arc(b, 25, -10)
			.line(25, 10)
			.arc(b, 20, 15)
			.line(-20, 15)
			.arc(b, -25, 10)
			.line(-25, -10)
			.arc(b, -20, -15)
			.close();
		const grown = value(offsetPieces([rounded], { distance: 3, join: 'round' })).paths[0];
		expect(grown.types).toHaveLength(8);
	});

	test('mitred corners keep a square square; beyond the limit they are bevelled', () => {
		const { paths } = value(offsetPieces([square(0, 0, 20)], { distance: 5, join: 'miter' }));
		expect(pathArea(paths[0])).toBeCloseTo(900, 9);
		expect(paths[0].types).toHaveLength(4);
		const tip = polygonPath([0, 0, 100, -2, 100, 2]);
		const cut = value(offsetPieces([tip], { distance: 5, join: 'miter', miterLimit: 2 })).paths[0];
		expect(Math.min(...Array.from({ length: cut.types.length }, (_, i) => cut.segs[8 * i]))).toBeGreaterThan(
			-11
		);
	});

	test('every place of the result is as far from the source as asked; pieces with holes grow and their holes shrink', () => {
		const source = blob(90, 11);
		const hole = transformPath(circlePath(0, 0, 6), [-1, 0, 0, 1, 0, 0]);
		for (const d of [1.5, -1.5]) {
			const { paths, error } = value(offsetPieces([source, hole], { distance: d, join: 'round' }));
			expect(error).toBeLessThan(0.006);
			expect(paths).toHaveLength(2);
			const tree = pathTree([source, hole], 1e-4);
			for (const path of paths) {
				const flat = flattenPath(path, 1e-3);
				for (let i = 0; i < flat.length; i += 2)
					expect(Math.abs(tree.distance(flat[i], flat[i + 1]) - 1.5)).toBeLessThan(0.006);
			}
		}
	});

	test('out and back in gives a convex outline again within twice the tolerance', () => {
		const source = circlePath(0, 0, 30);
		const out = value(offsetPieces([source], { distance: 5, join: 'round' })).paths;
		const back = value(offsetPieces(out, { distance: -5, join: 'round' })).paths;
		expect(twoWayDistance([source], back, 1e-4).distance).toBeLessThan(0.01);
	});

	test('where it splits all parts come; where nothing is left it says how far one can go', () => {
		const dumbbell = polygonPath([
			0, 0, 20, 0, 20, 9, 40, 9, 40, 0, 60, 0, 60, 20, 40, 20, 40, 11, 20, 11, 20, 20, 0, 20
		]);
		expect(value(offsetPieces([dumbbell], { distance: -2, join: 'round' })).paths).toHaveLength(2);
		const gone = offsetPieces([square(0, 0, 20)], { distance: -11, join: 'round' });
		expect(gone).toMatchObject({
			ok: false,
			problem: { code: 'nothing-left', sentence: expect.stringMatching(/9\.9\d mm/) }
		});
		expect(widestInside([square(0, 0, 20)], 0.01)).toBeCloseTo(10, 1);
	});

	test('refusals', () => {
		const s = square(0, 0, 5);
		expect(offsetPieces([s], { distance: 0, join: 'round' })).toMatchObject({
			problem: { code: 'bad-distance' }
		});
		expect(offsetPieces([s], { distance: NaN, join: 'round' })).toMatchObject({
			problem: { code: 'bad-distance' }
		});
		expect(offsetPieces([s], { distance: 1, join: 'round', tolerance: 0 })).toMatchObject({
			problem: { code: 'bad-tolerance' }
		});
		expect(offsetPieces([s], { distance: 1, join: 'miter', miterLimit: 0.5 })).toMatchObject({
			problem: { code: 'bad-limit' }
		});
		expect(
			offsetPieces([polygonPath([0, 0, 5, 0, 5, 5], false)], { distance: 1, join: 'round' })
		).toMatchObject({ problem: { code: 'open-outline' } });
		expect(offsetPieces([], { distance: 1, join: 'round' })).toMatchObject({
			problem: { code: 'nothing-given' }
		});
	});

	test('an outline that crosses itself covers by the even-odd rule', () => {
		const eight = polygonPath([0, 0, 20, 20, 20, 0, 0, 20]);
		const { fallback, paths } = value(offsetPieces([eight], { distance: 1, join: 'round' }));
		expect(fallback).toBe(false);
		// Two triangles of 100 mm^2 with one point in common, grown together there: Steiner's formula less what overlaps.
		const grown = paths.reduce((sum, p) => sum + pathArea(p), 0);
		expect(grown).toBeGreaterThan(200 + 2 * 20 + 2);
		expect(grown).toBeLessThan(200 + 2 * (20 + 2 * Math.hypot(10, 10)) + 2 * Math.PI);
		const raw = rawParallel(square(0, 0, 4), {
			distance: 1,
			join: 'bevel',
			miterLimit: 4,
			tolerance: 0.001,
			trim: true
		});
		expect(raw.types).toHaveLength(8);
	});

	test("a simplified head's outline stays few curves: fitted closer where loose fits add up to more than the tolerance", () => {
		// From a scan, simplified to 0.1 mm; coarse parallels of it came 0.008 mm off.
		const d =
			'M36.0094 14.0145L33.0051 37.0479C13.1653 48.3155 24.0394 74.7819 29.3092 79.6386C29.6176 79.9228 30.3088 80.8976 32.2884 82.6361C45.6824 94.3986 69.7130 93.0195 77.7244 86.7945C78.8295 85.9358 80.1697 85.4323 81.3968 84.7593C96.6890 76.3716 113.2007 74.8355 115.5734 73.3993C116.8089 72.6514 120.5419 69.4804 114.0972 64.1493C112.4548 62.7907 110.9556 61.2654 109.3232 59.8947C101.1774 53.0550 91.9565 47.7238 83.0111 42.0292L84.0105 18.0136L67.0244 34.0022C61.9477 31.0385 55.8056 29.9665 50.0251 31.0350Z';
		const [head] = parsePathData(d).paths;
		const { paths, fallback, error } = value(offsetPieces([head], { distance: 2, join: 'round' }));
		expect(fallback).toBe(false);
		expect(error).toBeLessThan(0.006);
		expect(paths).toHaveLength(1);
		expect(anchorCount(paths[0])).toBeLessThanOrEqual(2 * anchorCount(head));
	});

	test('areas against the polygon clipper as referee', () => {
		const source = blob(60, 5);
		for (const d of [2, -2]) {
			const { paths } = value(offsetPieces([source], { distance: d, join: 'round' }));
			const got = paths.reduce((sum, p) => sum + pathArea(p), 0);
			const referee = offsetPolygons([source], d, 'round', 4, 1e-4).reduce(
				(sum, p) => sum + pathArea(polygonPath(p)),
				0
			);
			expect(Math.abs(got - referee)).toBeLessThan(0.01 * pathLength(source));
		}
		const both = cleanPolygons([square(0, 0, 4), square(2, 0, 4)], 0.01).reduce(
			(sum, p) => sum + pathArea(polygonPath(p)),
			0
		);
		expect(both).toBeCloseTo(16, 6);
	});
});

describe('simplify', () => {
	test('never farther than the tolerance, both ways (Hausdorff distance as defined); three in a line become two', () => {
		fc.assert(
			fc.property(fc.integer({ min: 1, max: 60 }), numberIn(0.02, 0.6), (seed, tolerance) => {
				const source = blob(80, seed);
				const simple = simplifyPath(source, tolerance);
				expect(simple.drift).toBeLessThanOrEqual(tolerance);
				expect(twoWayDistance([source], [simple.path], 0.001, 0.1).distance).toBeLessThanOrEqual(
					tolerance * 1.02
				);
				expect(anchorCount(simple.path)).toBeLessThanOrEqual(anchorCount(source));
				expect(pathCrossings([simple.path], 'self').filter((c) => c.through)).toEqual([]);
			}),
			{ numRuns: 12 }
		);
		expect(simplifyPath(polygonPath([0, 0, 5, 0, 10, 0, 10, 10, 0, 10]), 0.01).path.types).toHaveLength(4);
	});

	test('jags vanish, meant corners stay exactly', () => {
		const rough = jagged(20, 0.3, 7);
		const simple = simplifyPath(rough, 0.3);
		expect(anchorCount(simple.path)).toBeLessThan(anchorCount(rough) / 8);
		const gear = polygonPath(
			Array.from({ length: 24 }, (_, i) => [
				(i % 2 ? 20 : 30) * Math.cos((i * Math.PI) / 12),
				(i % 2 ? 20 : 30) * Math.sin((i * Math.PI) / 12)
			]).flat()
		);
		expect(simplifyPath(gear, 0.1).path.types).toHaveLength(24);
	});

	test('the chart falls as the drift grows; a drift of 0 is refused', () => {
		const points = [...simplifyCurve([jagged(15, 0.3, 3)], [0.05, 0.2, 0.8])].filter((p) => p !== undefined);
		expect(points[2].anchors).toBeLessThan(points[0].anchors);
		expect(() => simplifyPath(square(0, 0, 1), 0)).toThrow('above 0');
	});
});

describe('fit', () => {
	test('samples of one cubic give one cubic back', () => {
		const c = Float64Array.from([0, 0, 20, 40, 60, 40, 80, 0]);
		const xy: number[] = [];
		for (let i = 0; i <= 200; i++) {
			const p = pointAt(CUBIC, c, 0, i / 200);
			xy.push(p.x, p.y);
		}
		const trail = smoothTrail(makeTrail(xy, false), 2);
		const fitted = fitTrail(trail, { tolerance: 0.02, corners: [], leastStraight: 40 });
		expect(fitted.types).toHaveLength(1);
		expect(trailLength(trail, 200)).toBeCloseTo(trail.s[200], 9);
		expect(runningLength(Float64Array.from([0, 3]), Float64Array.from([0, 4]), true)[2]).toBeCloseTo(10, 9);
		expect(localLine(trail, 100, 3, 3).ty).toBeCloseTo(0, 2);
	});
});

describe('splines', () => {
	test('degree n with n + 1 control points is the Bézier curve; the curve is unmoved by knot insertion (Piegl and Tiller, ch. 2, 5)', () => {
		const q = [
			{ x: 0, y: 0 },
			{ x: 10, y: 20 },
			{ x: 30, y: 20 },
			{ x: 40, y: 0 }
		];
		const bezier = splineToPath({ degree: 3, knots: [0, 0, 0, 0, 1, 1, 1, 1], points: q }, 0.01)!;
		expect([...bezier.segs]).toEqual([0, 0, 10, 20, 30, 20, 40, 0]);
		const points = [...q, { x: 60, y: -10 }, { x: 70, y: 15 }];
		const spline = { degree: 3, knots: [0, 0, 0, 0, 1, 2, 3, 3, 3, 3], points };
		const path = splineToPath(spline, 0.01)!;
		expect(path.types).toHaveLength(3);
		for (const u of [0.4, 1.5, 2.9]) {
			const p = splinePoint(spline, u);
			expect(nearestOnPath(path, p.x, p.y, 1)!.distance).toBeLessThan(1e-9);
		}
	});

	test('weights make a quarter circle', () => {
		const w = Math.SQRT1_2;
		const path = splineToPath(
			{
				degree: 2,
				knots: [0, 0, 0, 1, 1, 1],
				points: [
					{ x: 10, y: 0 },
					{ x: 10, y: 10 },
					{ x: 0, y: 10 }
				],
				weights: [1, w, 1]
			},
			0.01
		)!;
		const flat = flattenPath(path, 0.001);
		for (let i = 0; i < flat.length; i += 2) expect(Math.hypot(flat[i], flat[i + 1])).toBeCloseTo(10, 1);
	});
});

describe('elliptical arcs', () => {
	test('radii too small are scaled up; a circular one stays an arc (SVG 2, B.2.5)', () => {
		const b = new PathBuilder(0, 0);
		addEllipticalArc(b, 1, 1, 0, false, true, 10, 0, 0.001);
		const path = b.open();
		expect(path.types[0]).toBe(ARC);
		expect(pathLength(path)).toBeCloseTo(5 * Math.PI, 6);
		const e = new PathBuilder(20, 0);
		addEllipticalArc(e, 20, 10, 0, false, true, -20, 0, 1e-4);
		const flat = flattenPath(e.open(), 1e-4);
		for (let i = 0; i < flat.length; i += 2)
			expect(Math.abs(Math.hypot(flat[i] / 20, flat[i + 1] / 10) - 1)).toBeLessThan(2e-5);
	});
});

test('picking finds the nearest of many outlines', () => {
	const paths: Path[] = Array.from({ length: 50 }, (_, i) => circlePath(20 * i, 0, 5));
	const index = new PathIndex(paths);
	expect(index.nearest(403, 4.8, 1)).toMatchObject({ path: 20 });
	expect(index.nearest(410, 0, 1)).toBeUndefined();
	expect(boxOf(paths[0]).x0).toBeCloseTo(-5, 9);
	expect(mergeStraights(polygonPath([0, 0, 1, 0, 2, 0, 2, 2])).types).toHaveLength(3);
});

test('offsets of a rough trace do not cross themselves and leave no crumbs, whatever the distance', () => {
	const rough = simplifyPath(jagged(30, 0.4, 21), 0.2).path;
	for (const d of [-3, -1, -0.4, 0.4, 1.5875, 3, 6]) {
		const { paths } = value(offsetPieces([rough], { distance: d, join: 'round' }));
		expect(findFaults(paths)).toEqual([]);
	}
});
