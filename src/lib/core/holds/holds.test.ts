/** Holds solved: handbook cases with answers known by hand, random sketches made by drawing first, conflicts, freedom. */
import { describe, expect, test } from 'vitest';
import { chance } from '../../../../tests/shapes';
import { curvedSketch, IMPOSSIBLE, impossible, sketch } from '../../../../tests/sketches';
import {
	alike,
	apart,
	atAngle,
	inLine,
	level,
	onCircle,
	pinned,
	plumb,
	radius,
	sameRadius,
	square,
	tangent,
	touching,
	type Equation
} from './equations';
import { conflict, dragTo, freedom, solve } from './solve';

const all = (...makes: ((hold: number) => Equation[])[]) => makes.flatMap((make, i) => make(i));
const at = (v: ArrayLike<number>, p: number) => [v[p], v[p + 1]];

describe('handbook cases', () => {
	test('a triangle from its three sides (law of cosines): 3, 4, 5 has a right angle', () => {
		const { values, isKept } = solve(
			all(pinned(0, 0, 0), level(0, 2), apart(0, 2, 4), apart(2, 4, 5), apart(0, 4, 3)),
			[0, 0, 5, 0.2, 0.5, 2]
		);
		expect(isKept).toBe(true);
		expect(at(values, 2)).toEqual([expect.closeTo(4, 9), expect.closeTo(0, 9)]);
		expect(at(values, 4)).toEqual([expect.closeTo(0, 9), expect.closeTo(3, 9)]);
	});
	test('a four-bar linkage (ground 10, crank 3, coupler 9, rocker 7): positions by the cosine rule', () => {
		for (const degrees of [20, 70, 130, 200]) {
			const rad = (degrees * Math.PI) / 180;
			const a = [3 * Math.cos(rad), 3 * Math.sin(rad)];
			const equations = all(
				pinned(0, 0, 0),
				pinned(2, 10, 0),
				apart(0, 4, 3),
				atAngle(0, 4, degrees),
				apart(4, 6, 9),
				apart(2, 6, 7)
			);
			const { values, isKept } = solve(equations, [0, 0, 10, 0, a[0] + 0.3, a[1] - 0.2, 9, 7]);
			expect(isKept).toBe(true);
			// The joint above the line from the crank's end to the second ground.
			const d = Math.hypot(10 - a[0], -a[1]);
			const along = (d * d + 81 - 49) / (2 * d);
			const up = Math.sqrt(81 - along * along);
			const [ux, uy] = [(10 - a[0]) / d, -a[1] / d];
			expect(at(values, 6)).toEqual([
				expect.closeTo(a[0] + along * ux - up * uy, 8),
				expect.closeTo(a[1] + along * uy + up * ux, 8)
			]);
		}
	});
	test('Apollonius: a circle that touches three of radius 1 at the corners of an equilateral triangle of side 4', () => {
		// Arcs of half a turn: ends left and right of the middle, bulge 1.
		const ring = (x: number, y: number, r: number) => [x - r, y, x + r, y, 1];
		const h = 2 * Math.sqrt(3);
		const start = [...ring(0, 0, 1), ...ring(4, 0, 1), ...ring(2, h, 1), ...ring(2.3, 1.4, 0.7)];
		const arc = (k: number) => ({ from: 5 * k, to: 5 * k + 2, bulge: 5 * k + 4 });
		const still = [0, 1, 2].flatMap((k) => [
			pinned(5 * k, start[5 * k], start[5 * k + 1]),
			pinned(5 * k + 2, start[5 * k + 2], start[5 * k + 3])
		]);
		const one = arc(3);
		const equations = all(
			...still,
			touching(arc(0), one),
			touching(arc(1), one),
			touching(arc(2), one),
			level(one.from, one.to)
		);
		const weights = start.map((_, i) => (i % 5 === 4 ? 1e9 : 1));
		const { values, isKept } = solve(equations, start, { weights });
		expect(isKept).toBe(true);
		// Middle of the triangle; radius of its circumcircle less 1: 4 / sqrt 3 - 1.
		expect((values[15] + values[17]) / 2).toBeCloseTo(2, 7);
		expect((values[17] - values[15]) / 2).toBeCloseTo(4 / Math.sqrt(3) - 1, 7);
	});
	test('a side tangent to an arc, equal radii, a place on a circle, a radius', () => {
		const start = [0, 0, 40, 3, 10, 20, 30, 22, 0.8, 60, 0, 80, 0, 0.5];
		const [a, b] = [
			{ from: 4, to: 6, bulge: 8 },
			{ from: 9, to: 11, bulge: 13 }
		];
		const equations = all(tangent(0, 2, a), sameRadius(a, b), radius(a, 12));
		const { values, isKept } = solve(equations, start);
		expect(isKept).toBe(true);
		const c = (v: ArrayLike<number>, k: number) =>
			(Math.hypot(v[k + 2] - v[k], v[k + 3] - v[k + 1]) * (1 + v[k + 4] ** 2)) / (4 * Math.abs(v[k + 4]));
		expect(c(values, 4)).toBeCloseTo(12, 9);
		expect(c(values, 9)).toBeCloseTo(12, 9);
		expect(solve(all(onCircle(0, a)), start).isKept).toBe(true);
	});
});

test('random sketches, made by drawing first and holding what is true, then moved: solved to 1e-9 in 99.9 % (here 1,500; more by `npm run torture`)', () => {
	let failed = 0;
	let total = 0;
	for (let seed = 1; seed <= 1500; seed++) {
		const { values, equations } = sketch(seed, 5 + (seed % 12), 3 + (seed % 14));
		if (equations.length === 0) continue;
		const next = chance(seed + 7);
		const moved = values.map((v) => v + 6 * (next() - 0.5));
		total++;
		if (!(solve(equations, moved).off <= 1e-9)) failed++;
	}
	expect(total).toBeGreaterThan(1300);
	expect(failed / total).toBeLessThan(0.001);
});

test('holds of curves (radii, tangents, circles that touch, ends that meet, seams) are drawn true, and solved when all is moved', () => {
	let failed = 0;
	for (let seed = 1; seed <= 300; seed++) {
		const { values, equations } = curvedSketch(seed, 2 + (seed % 9));
		for (const { off, unknowns } of equations)
			expect(Math.abs(off(unknowns.map((u) => values[u])))).toBeLessThan(1e-9);
		const next = chance(seed + 7);
		const moved = values.map((v) => v + (Math.abs(v) < 2 ? 0.05 : 1) * (next() - 0.5));
		if (!(solve(equations, moved).off <= 1e-9)) failed++;
	}
	expect(failed).toBeLessThanOrEqual(1);
});

test('small drags never jump: what was to the left of a side stays there', () => {
	for (let seed = 1; seed <= 300; seed++) {
		const next = chance(seed);
		const [a, b] = [20 + 40 * next(), 20 + 40 * next()];
		const start = [0, 0, 60, 0, 0, 0];
		const x = (3600 + a * a - b * b) / 120;
		const up = Math.sqrt(Math.max(0, a * a - x * x));
		if (up < 3) continue;
		start[4] = x;
		start[5] = up;
		const equations = all(pinned(0, 0, 0), apart(0, 4, a), apart(2, 4, b), level(0, 2));
		let at: Float64Array = Float64Array.from(start);
		for (let k = 0; k < 20; k++) {
			const wanted = Float64Array.from(at);
			wanted[2] += 0.3;
			const { values, isKept } = dragTo(equations, at, wanted, new Set([2]));
			expect(isKept).toBe(true);
			expect(values[5]).toBeGreaterThan(-0.01);
			at = Float64Array.from(values);
		}
	}
});

test('a drag goes as far as it can: beyond reach the arm is stretched towards the hand', () => {
	const equations = all(pinned(0, 0, 0), apart(0, 2, 30), apart(2, 4, 20));
	const { values, isKept } = dragTo(equations, [0, 0, 30, 0, 50, 0], [0, 0, 30, 0, 70, 70], new Set([4, 5]));
	expect(isKept).toBe(true);
	expect(Math.hypot(values[4], values[5])).toBeGreaterThan(49.9);
	expect(Math.atan2(values[5], values[4])).toBeCloseTo(Math.PI / 4, 1);
	// Within reach it comes to the hand exactly.
	const near = dragTo(equations, [0, 0, 30, 0, 50, 0], [0, 0, 30, 0, 25, 20], new Set([4, 5]));
	expect(at(near.values, 4)).toEqual([expect.closeTo(25, 6), expect.closeTo(20, 6)]);
	expect(Math.hypot(values[4], values[5])).toBeLessThanOrEqual(50 + 1e-9);
});

test('holds that cannot be kept together are named, and nobody else', () => {
	let right = 0;
	let total = 0;
	for (let seed = 1; seed <= 120; seed++) {
		const { values, equations } = impossible(seed);
		total++;
		if (
			conflict(equations, values)
				.sort((a, b) => a - b)
				.join() === IMPOSSIBLE.join()
		)
			right++;
	}
	expect(right).toBe(total);
	expect(conflict(all(apart(0, 2, 5)), [0, 0, 4, 0])).toEqual([]);
});

test('what follows from others is told, and what is still free', () => {
	const box = all(
		pinned(0, 0, 0),
		level(0, 2),
		plumb(2, 4),
		level(4, 6),
		plumb(6, 0),
		apart(0, 2, 40),
		apart(2, 4, 20)
	);
	const values = Float64Array.from([0, 0, 40, 0, 40, 20, 0, 20]);
	expect(freedom(box, values, [0, 2, 4, 5, 6])).toEqual([0, 0, 0, 0, 0].map((v) => expect.closeTo(v, 6)));
	expect(solve([...box, ...alike(0, 2, 4, 6)(9)], values).dependent).toHaveLength(1);
	const loose = box.filter(({ hold }) => hold !== 6);
	expect(freedom(loose, values, [2, 5])[0]).toBeCloseTo(0, 6);
	expect(freedom(loose, values, [2, 5])[1]).toBeGreaterThan(0.3);
	const corner = solve(all(square(0, 2, 2, 4), inLine(6, 0, 2)), [0, 0, 10, 1, 12, 8, 4, 3]);
	expect(corner.isKept).toBe(true);
});

test('a chain of 1,000 holds is solved in a few rounds, and dragged at its end', () => {
	const n = 500;
	const truth = new Float64Array(2 * n);
	const makes = [pinned(0, 0, 0)];
	for (let i = 1; i < n; i++) {
		const isLevel = i % 3 > 0;
		truth[2 * i] = truth[2 * i - 2] + (isLevel ? 10 : 0);
		truth[2 * i + 1] = truth[2 * i - 1] + (isLevel ? 0 : 10);
		makes.push(apart(2 * i - 2, 2 * i, 10), isLevel ? level(2 * i - 2, 2 * i) : plumb(2 * i - 2, 2 * i));
	}
	const equations = all(...makes.filter((_, i) => i !== 700));
	expect(equations.length).toBeGreaterThan(990);
	const next = chance(5);
	const { isKept, rounds } = solve(
		equations,
		truth.map((v) => v + next() - 0.5)
	);
	expect(isKept).toBe(true);
	expect(rounds).toBeLessThan(12);
	// One was let go: what lies behind it is free one way.
	const end = 2 * n - 1;
	const dragged = dragTo(
		equations,
		truth,
		truth.map((v, u) => (u === end ? v + 3 : v)),
		new Set([end])
	);
	expect(dragged.isKept).toBe(true);
	expect(dragged.values[end] - truth[end]).toBeGreaterThan(0.1);
});
