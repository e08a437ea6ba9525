import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { blob, chance } from '../../../../tests/shapes';
import { twoWayDistance } from '../geometry/edge-tree';
import { conicLine } from './conic-line';
import { radiusAtShoulder, type Conic } from './conic';
import { fitFunction } from './function';
import { pathToSpline, pulledBy, throughPoints } from './given-curves';
import { meetingPlaces } from '../geometry/join';
import { circlePath, CUBIC, polygonPath, STRIDE } from '../geometry/path';
import { curvatureAt, directionAt, nearestOn, pointAt } from '../geometry/segment';
import { splinePoint, splineToPath } from './spline';
import { nearestOnPath } from '../geometry/pick';

const at = (x: number, y: number) => ({ x, y });
const conic = (
	start: Conic['start'],
	shoulder: Conic['start'],
	end: Conic['start'],
	fullness: number
): Conic => ({
	start,
	shoulder,
	end,
	fullness
});
const square = [at(0, 0), at(20, 0), at(20, 20), at(0, 20)];

describe('conics (standard form in curve-geometry textbooks)', () => {
	test('fullness sqrt 2 - 1 with a right angle of equal legs is a quarter circle; 0.5 a parabola', () => {
		const quarter = conicLine(conic(at(10, 0), at(10, 10), at(0, 10), Math.SQRT2 - 1), 1e-4);
		for (let i = 0; i < quarter.types.length; i++) {
			for (const t of [0, 0.3, 0.7]) {
				const p = pointAt(quarter.types[i], quarter.segs, STRIDE * i, t);
				expect(Math.abs(Math.hypot(p.x, p.y) - 10)).toBeLessThan(1.1e-4);
			}
		}
		const parabola = conicLine(conic(at(-10, 0), at(0, 10), at(10, 0), 0.5), 1e-4);
		expect(nearestOnPath(parabola, 0, 5, 1)!.distance).toBeLessThan(1e-4);
	});
	test('the radius at the middle is c^2 (1 - f) / (4 f H)', () => {
		for (const f of [0.3, 0.5, 0.7]) {
			const apex = 12;
			const path = conicLine(conic(at(-10, 0), at(0, apex), at(10, 0), f), 1e-6);
			const near = nearestOnPath(path, 0, f * apex, 1)!;
			expect(near.distance).toBeLessThan(1e-5);
			// The radius from the rise over a short chord: (half chord)^2 / 2 rises.
			const [k] = meetingPlaces(path, [polygonPath([0.5, -1, 0.5, 20], false)]);
			const y = pointAt(CUBIC, path.segs, STRIDE * Math.floor(k), k % 1).y;
			const rise = f * apex - y;
			const radius = (0.25 + rise * rise) / (2 * rise);
			// A chord of 1 mm is short but not none: a hundredth.
			expect(
				Math.abs(radius / radiusAtShoulder(conic(at(-10, 0), at(0, apex), at(10, 0), f)) - 1)
			).toBeLessThan(0.01);
		}
	});
	test('a fullness of 0 or 1 is refused', () => {
		expect(() => conicLine(conic(at(0, 0), at(1, 1), at(2, 0), 1), 0.01)).toThrow(/between 0 and 1/);
	});
});

describe('through points (definition: error 0 at every point)', () => {
	test('curvature is continuous at every point; closed, through the start too', () => {
		fc.assert(
			fc.property(
				fc.array(fc.tuple(fc.integer({ min: -50, max: 50 }), fc.integer({ min: -50, max: 50 })), {
					minLength: 4,
					maxLength: 9
				}),
				(raw) => {
					const points = [...new Map(raw.map(([x, y]) => [`${x},${y}`, at(x, y)])).values()];
					if (points.length < 4) return;
					const path = throughPoints(points, { closed: true });
					expect(path.types).toHaveLength(points.length);
					for (let i = 0; i < points.length; i++) {
						expect([path.segs[STRIDE * i], path.segs[STRIDE * i + 1]]).toEqual([points[i].x, points[i].y]);
						const before = STRIDE * ((i + points.length - 1) % points.length);
						const a = curvatureAt(CUBIC, path.segs, before, 1);
						const b = curvatureAt(CUBIC, path.segs, STRIDE * i, 0);
						expect(Math.abs(a - b)).toBeLessThan(1e-6 * (1 + Math.abs(a)));
					}
				}
			),
			{ numRuns: 30 }
		);
	});
	test('end directions are kept, whatever their length; free ends are straight', () => {
		const path = throughPoints(square, { startDirection: at(0, 500), endDirection: at(-0.01, 0) });
		expect(directionAt(CUBIC, path.segs, 0, 0).y).toBeCloseTo(1, 12);
		expect(directionAt(CUBIC, path.segs, STRIDE * 2, 1).x).toBeCloseTo(-1, 12);
		expect(curvatureAt(CUBIC, throughPoints(square).segs, 0, 0)).toBeCloseTo(0, 9);
		expect(() => throughPoints([at(1, 1), at(1, 1)])).toThrow(/two different points/);
	});
});

describe('pulled by a control polygon (Piegl and Tiller, The NURBS Book, chapters 2 to 5)', () => {
	test.each([1, 2, 3, 4, 5, 6, 7])(
		'degree %i: touches the ends, keeps inside the hull, hugs it less as the degree grows',
		(degree) => {
			const points = Array.from({ length: 9 }, (_, i) => at(10 * i, i % 2 ? 12 : 0));
			const path = pulledBy(points, degree, false, 0.01);
			const end = path.segs.length - 2;
			expect([path.segs[0], path.segs[1]]).toEqual([0, 0]);
			expect(Math.hypot(path.segs[end] - 80, path.segs[end + 1])).toBeLessThan(1e-9);
			const spline = {
				degree,
				knots: Array.from({ length: 10 + degree }, (_, i) => Math.min(Math.max(i - degree, 0), 9 - degree)),
				points
			};
			for (let u = 0; u <= 9 - degree; u += 0.13) {
				const p = splinePoint(spline, u);
				expect(nearestOnPath(path, p.x, p.y, 1)!.distance).toBeLessThan(0.012);
			}
		}
	);
	test('degree n with n + 1 points is a Bézier curve; closed curves are smooth through the start', () => {
		const bezier = pulledBy(square, 3, false, 1e-6);
		expect([...bezier.segs]).toEqual([0, 0, 20, 0, 20, 20, 0, 20]);
		const ring = pulledBy(square, 3, true, 1e-6);
		expect(ring.closed).toBe(true);
		const last = STRIDE * (ring.types.length - 1);
		expect(curvatureAt(CUBIC, ring.segs, last, 1)).toBeCloseTo(curvatureAt(CUBIC, ring.segs, 0, 0), 6);
		expect(() => pulledBy(square, 8, false, 1)).toThrow(/1 to 7/);
		expect(() => pulledBy(square, 5, false, 1)).toThrow(/at least 6/);
	});
	test.each([
		[2, [1, 0.4, 2, 1, 1, 3]],
		[5, [1, 1, 1, 1, 1, 1]],
		[7, [1, 1, 2, 1, 1, 1, 0.3, 1]]
	] as const)('degree %i, with weights or too high for cubics, keeps 1e-5 mm', (degree, weights) => {
		const points = weights.map((_, i) => at(9 * i, 14 * ((i * 5) % 3)));
		const inside = weights.length - degree;
		const knots = Array.from({ length: weights.length + degree + 1 }, (_, i) =>
			Math.min(Math.max(i - degree, 0), inside)
		);
		const spline = { degree, knots, points, weights };
		const path = splineToPath(spline, 1e-5)!;
		for (let u = 0; u <= inside; u += 0.013) {
			const p = splinePoint(spline, u);
			expect(nearestOnPath(path, p.x, p.y, 1)!.distance).toBeLessThan(1e-5);
		}
	});
	test.each([2, 3])(
		'degree %i: twenty thousand points, uneven and doubled knots, every span as de Boor has it',
		(degree) => {
			const rnd = chance(degree);
			const count = 20_000;
			const points = Array.from({ length: count }, (_, i) => at(0.1 * i, 5 * Math.sin(i) + rnd()));
			let u = 0;
			// Not clamped at its start, and now and then a knot that is there twice.
			const knots = Array.from(
				{ length: count + degree + 1 },
				(_, k) => (u += k % 9 === 4 ? 0 : 0.1 + rnd())
			);
			const spline = { degree, knots, points };
			const path = splineToPath(spline, 1e-5)!;
			const inner = [...new Set(knots)].filter((v) => v >= knots[degree] && v <= knots[count]);
			expect(path.types.length).toBe(inner.length - 1);
			for (let k = 0; k < path.types.length; k += 97) {
				const p = splinePoint(spline, inner[k] + 0.3 * (inner[k + 1] - inner[k]));
				const q = pointAt(path.types[k], path.segs, STRIDE * k, 0.3);
				expect(Math.hypot(p.x - q.x, p.y - q.y)).toBeLessThan(1e-9);
			}
		}
	);
	test('a path as a B-spline and back is the same line', () => {
		const path = blob(7, 3);
		const again = splineToPath(pathToSpline(path, 1e-6), 1e-6)!;
		expect(twoWayDistance([path], [again], 1e-5).distance).toBeLessThan(1e-4);
		expect(splineToPath(pathToSpline(circlePath(0, 0, 9), 1e-6), 1e-6)!.types.length).toBeGreaterThan(3);
	});
});

test('a curve given as a function: few cubics within the tolerance', () => {
	const place = (t: number) => at(40 * Math.cos(t) + 9 * Math.cos(3 * t), 30 * Math.sin(t));
	const path = fitFunction(place, 0, 2 * Math.PI, 0.01, true);
	expect(path.closed).toBe(true);
	expect(path.types.length).toBeLessThan(24);
	for (let k = 0; k < 500; k++) {
		const p = place((2 * Math.PI * k) / 500);
		let off = Infinity;
		for (let i = 0; i < path.types.length; i++)
			off = Math.min(off, nearestOn(CUBIC, path.segs, STRIDE * i, p.x, p.y).distance);
		expect(off).toBeLessThan(0.011);
	}
});
