/** Curves given otherwise, against facts of textbooks: B-splines and conics (The NURBS Book), curvature of named curves. */
import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { numberIn } from '../../../../tests/numbers';
import { blob } from '../../../../tests/shapes';
import { twoWayDistance } from '../geometry/edge-tree';
import { ARC, CUBIC, polygonPath, STRIDE } from '../geometry/path';
import { curvatureAt, directionAt, pointAt } from '../geometry/segment';
import { conicLine } from './conic-line';
import { circleFullness, conicKind, fullnessFor, radiusAtShoulder, type Conic } from './conic';
import {
	basisAt,
	pulledNear,
	pulledPath,
	splineOf,
	timeNearest,
	withCount,
	withDegree,
	withKnot,
	type Pulled
} from './pulled';
import { splinePoint } from './spline';
import { throughPlaces } from './through';

const places = fc
	.array(fc.record({ x: fc.integer({ min: -80, max: 80 }), y: fc.integer({ min: -80, max: 80 }) }), {
		minLength: 4,
		maxLength: 10
	})
	.map((list) => [...new Map(list.map((p) => [`${p.x} ${p.y}`, p])).values()])
	.filter((list) => list.length >= 4);

describe('through places', () => {
	test('a direction is had exactly, a stronger pull bends less beside it, the rest stays curvature continuous', () => {
		fc.assert(
			fc.property(places, fc.integer({ min: 0, max: 359 }), fc.boolean(), (list, direction, closed) => {
				const given = list.map((p, i) => (i === 1 ? { ...p, direction } : p));
				for (const pace of ['chord', 'centripetal', 'fair'] as const) {
					const path = throughPlaces(given, { closed, pace });
					const d = directionAt(CUBIC, path.segs, STRIDE, 0);
					const rad = (direction * Math.PI) / 180;
					expect(Math.hypot(d.x - Math.cos(rad), d.y - Math.sin(rad))).toBeLessThan(1e-9);
					for (let i = 2; i < path.types.length; i++) {
						const [a, b] = [
							curvatureAt(CUBIC, path.segs, STRIDE * (i - 1), 1),
							curvatureAt(CUBIC, path.segs, STRIDE * i, 0)
						];
						expect(Math.abs(a - b)).toBeLessThan(1e-6 * (1 + Math.abs(a)));
					}
				}
			}),
			{ numRuns: 60 }
		);
	});
	test('a radius is had from both sides; where the curve turns the other way it is refused', () => {
		const arch = [
			{ x: 0, y: 0 },
			{ x: 30, y: 20, radius: -15 },
			{ x: 60, y: 8, radius: -40 },
			{ x: 75, y: -30 }
		];
		const path = throughPlaces(arch);
		for (const [i, r] of [
			[1, -15],
			[2, -40]
		] as const) {
			expect(1 / curvatureAt(CUBIC, path.segs, STRIDE * (i - 1), 1)).toBeCloseTo(r, 6);
			expect(1 / curvatureAt(CUBIC, path.segs, STRIDE * i, 0)).toBeCloseTo(r, 6);
		}
		expect(() => throughPlaces(arch.map((p, i) => (i === 1 ? { ...p, radius: 15 } : p)))).toThrow(
			/other way/
		);
	});
	test('places on a circle with its directions: the circle within a thousandth of it', () => {
		const ring = Array.from({ length: 12 }, (_, i) => {
			const a = (Math.PI * i) / 6;
			return { x: 50 * Math.cos(a), y: 50 * Math.sin(a), direction: 90 + 30 * i };
		});
		const path = throughPlaces(ring, { closed: true });
		for (let i = 0; i < 12; i++)
			for (const t of [0.2, 0.5, 0.8]) {
				const p = pointAt(CUBIC, path.segs, STRIDE * i, t);
				expect(Math.abs(Math.hypot(p.x, p.y) - 50)).toBeLessThan(0.04);
			}
		const free = throughPlaces(
			ring.map(({ x, y }) => ({ x, y })),
			{ closed: true }
		);
		for (let i = 0; i < 12; i++)
			expect(Math.abs(1 / curvatureAt(CUBIC, free.segs, STRIDE * i, 0) - 50)).toBeLessThan(2);
	});
});

const shapes = fc
	.record({
		degree: fc.integer({ min: 1, max: 7 }),
		closed: fc.boolean(),
		more: fc.integer({ min: 1, max: 6 }),
		seed: fc.integer({ min: 1, max: 9999 }),
		weighted: fc.boolean()
	})
	.map(({ degree, closed, more, seed, weighted }): Pulled => {
		let s = seed;
		const next = () => (s = (s * 16807) % 2147483647) / 2147483647;
		return {
			degree,
			closed,
			vertices: Array.from({ length: degree + 1 + more }, () => ({
				x: 100 * next(),
				y: 100 * next(),
				...(weighted ? { weight: 0.3 + 2 * next() } : {})
			}))
		};
	});
const along = (pulled: Pulled, n = 40) => {
	const spline = splineOf(pulled);
	const [from, to] = [spline.knots[spline.degree], spline.knots[spline.points.length]];
	return Array.from({ length: n + 1 }, (_, k) => splinePoint(spline, from + ((to - from) * k) / n));
};

describe('pulled by a polygon', () => {
	test('the basis sums to one and is never negative; with as many vertices as order it is Bernstein’s (binomials)', () => {
		fc.assert(
			fc.property(shapes, numberIn(0, 1), (pulled, t) => {
				const { knots, points, degree } = splineOf(pulled);
				const [from, to] = [knots[degree], knots[points.length]];
				const { values } = basisAt(knots, degree, points.length, from + (to - from) * t);
				expect(values.reduce((a, b) => a + b, 0)).toBeCloseTo(1, 12);
				for (const v of values) expect(v).toBeGreaterThan(-1e-12);
			})
		);
		const { values } = basisAt([0, 0, 0, 0, 1, 1, 1, 1], 3, 4, 0.3);
		[0.343, 0.441, 0.189, 0.027].forEach((v, i) => expect(values[i]).toBeCloseTo(v, 12));
	});
	test('a knot put in leaves the line where it was, at any degree, open or closed, with weights; several too', () => {
		fc.assert(
			fc.property(shapes, fc.array(numberIn(0.01, 0.99), { minLength: 1, maxLength: 5 }), (pulled, ts) => {
				const before = along(pulled);
				let now: Pulled = pulled;
				for (const t of ts) {
					const { knots, points, degree } = splineOf(now);
					const [from, to] = [knots[degree], knots[points.length]];
					const next = withKnot(now, from + (to - from) * t);
					if (!next) continue;
					expect(next.vertices).toHaveLength(now.vertices.length + 1);
					now = next;
				}
				along(now).forEach((p, i) =>
					expect(Math.hypot(p.x - before[i].x, p.y - before[i].y)).toBeLessThan(1e-9 * 1e3)
				);
			}),
			{ numRuns: 300 }
		);
	});
	test('open ones touch both ends; the line is where de Boor’s recursion has it', () => {
		fc.assert(
			fc.property(shapes, (pulled) => {
				const path = pulledPath(pulled, 0.01);
				expect(path.closed).toBe(pulled.closed);
				const points = along(pulled, 60);
				const off = twoWayDistance(
					[path],
					[
						polygonPath(
							points.flatMap((p) => [p.x, p.y]),
							false
						)
					],
					0.2
				);
				expect(off.distance).toBeLessThan(8);
				const end = path.segs.length - 2;
				if (!pulled.closed) {
					const last = pulled.vertices[pulled.vertices.length - 1];
					expect(Math.hypot(path.segs[end] - last.x, path.segs[end + 1] - last.y)).toBeLessThan(1e-6);
				}
			}),
			{ numRuns: 60 }
		);
	});
	test('the degree raised by least squares lies near; back again nearly the same', () => {
		const wave: Pulled = {
			degree: 3,
			closed: false,
			vertices: Array.from({ length: 8 }, (_, i) => ({ x: 15 * i, y: i % 2 ? 14 : 0 }))
		};
		const other = withDegree(wave, 4);
		expect(other.degree).toBe(4);
		expect(twoWayDistance([pulledPath(other, 1e-3)], [pulledPath(wave, 1e-3)], 0.05).distance).toBeLessThan(
			1
		);
	});
	test('by more vertices a line stays as near as they get, by as few as the degree needs it still touches its ends', () => {
		const wave: Pulled = {
			degree: 3,
			closed: false,
			vertices: Array.from({ length: 8 }, (_, i) => ({ x: 15 * i, y: i % 2 ? 14 : 0 }))
		};
		const off = (count: number) =>
			twoWayDistance([pulledPath(withCount(wave, count), 1e-3)], [pulledPath(wave, 1e-3)], 0.02).distance;
		expect(withCount(wave, 8)).toBe(wave);
		expect(off(24)).toBeLessThan(0.1);
		expect(off(40)).toBeLessThan(off(12));
		const few = withCount(wave, 1);
		expect(few.vertices).toHaveLength(4);
		expect(few.vertices[0]).toMatchObject({ x: expect.closeTo(0, 4), y: expect.closeTo(0, 4) });
	});
	test('least squares find the polygon that a line was made of', () => {
		fc.assert(
			fc.property(shapes, (pulled) => {
				fc.pre(!pulled.vertices.some((v) => v.weight !== undefined));
				const { knots, points, degree } = splineOf(pulled);
				const [from, to] = [knots[degree], knots[points.length]];
				const times = Array.from(
					{ length: 200 },
					(_, k) => from + ((to - from) * k) / (pulled.closed ? 200 : 199)
				);
				const found = pulledNear(
					{ degree, closed: pulled.closed, count: pulled.vertices.length },
					times,
					times.map((u) => splinePoint(splineOf(pulled), u))
				);
				along(found).forEach((p, i) => {
					const q = along(pulled)[i];
					expect(Math.hypot(p.x - q.x, p.y - q.y)).toBeLessThan(1e-4);
				});
			}),
			{ numRuns: 40 }
		);
	});
	test('the nearest time to a place on the line is that place', () => {
		const pulled: Pulled = {
			degree: 3,
			closed: true,
			vertices: along(
				{
					degree: 1,
					closed: true,
					vertices: [
						{ x: 0, y: 0 },
						{ x: 50, y: 0 },
						{ x: 20, y: 40 }
					]
				},
				7
			).slice(0, 7)
		};
		const p = splinePoint(splineOf(pulled), 2.3);
		const u = timeNearest(pulled, p.x, p.y);
		const q = splinePoint(splineOf(pulled), u);
		expect(Math.hypot(p.x - q.x, p.y - q.y)).toBeLessThan(1e-6);
	});
	test('closed, of degree 2 with four vertices of a square: the well known biquadratic ring', () => {
		const ring = pulledPath(
			{
				degree: 2,
				closed: true,
				vertices: [
					{ x: -1, y: -1 },
					{ x: 1, y: -1 },
					{ x: 1, y: 1 },
					{ x: -1, y: 1 }
				]
			},
			1e-6
		);
		// Middles of the sides are touched (definition of a uniform quadratic B-spline).
		const touched = Array.from({ length: 4 }, (_, i) =>
			[ring.segs[STRIDE * i], ring.segs[STRIDE * i + 1]].map(Math.round).join()
		);
		expect(new Set(touched)).toEqual(new Set(['0,-1', '1,0', '0,1', '-1,0']));
		expect(blob(3, 1).closed).toBe(true);
	});
});

describe('conics', () => {
	const right: Conic = {
		start: { x: 10, y: 0 },
		shoulder: { x: 10, y: 10 },
		end: { x: 0, y: 10 },
		fullness: 0.5
	};
	test('sqrt 2 - 1 over equal legs at a right angle is a quarter circle, and an arc to the file', () => {
		expect(circleFullness(right)).toBeCloseTo(Math.SQRT2 - 1, 12);
		const quarter = { ...right, fullness: Math.SQRT2 - 1 };
		expect(conicKind(quarter)).toBe('arc of a circle');
		const path = conicLine(quarter, 1e-3);
		expect([...path.types]).toEqual([ARC]);
		expect(path.segs[2]).toBeCloseTo(Math.tan(Math.PI / 8), 9);
	});
	test('fullness and radius each give the other; kinds by name', () => {
		for (const f of [0.1, 0.4, 0.5, 0.8]) {
			const conic = { ...right, fullness: f };
			expect(fullnessFor(conic, radiusAtShoulder(conic))).toBeCloseTo(f, 12);
		}
		expect(conicKind(right)).toBe('parabola');
		expect(conicKind({ ...right, fullness: 0.3 })).toBe('ellipse');
		expect(conicKind({ ...right, fullness: 0.7 })).toBe('hyperbola');
		expect(conicKind({ ...right, shoulder: { x: 5, y: 5 } })).toBe('straight');
		expect(() => conicLine({ ...right, fullness: 0 }, 1e-3)).toThrow(/between 0 and 1/);
	});
	test('an ellipse through its vertex: x²/a² + y²/b² = 1 (definition)', () => {
		// Quarter of an ellipse: shoulder at the corner of its box, weight sqrt(1/2).
		const path = conicLine(
			{ start: { x: 30, y: 0 }, shoulder: { x: 30, y: 12 }, end: { x: 0, y: 12 }, fullness: Math.SQRT2 - 1 },
			1e-4
		);
		for (let i = 0; i < path.types.length; i++)
			for (const t of [0, 0.3, 0.6, 0.9]) {
				const p = pointAt(path.types[i], path.segs, STRIDE * i, t);
				expect(Math.abs((p.x / 30) ** 2 + (p.y / 12) ** 2 - 1)).toBeLessThan(3e-5);
			}
	});
});
