/** Lines made anew on stretches, rebuilt, through anchors, of arcs; redrawn; their curvature. */
import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { blob, jagged } from '../../../../tests/shapes';
import { twoWayDistance } from '../geometry/edge-tree';
import { fitFunction } from '../fit/function';
import { pulledBy } from '../fit/given-curves';
import { stretchBetween } from '../geometry/join';
import { anchorCount, pathLength, turnAt } from '../geometry/measure';
import { ARC, circlePath, CUBIC, PathBuilder, polygonPath, STRAIGHT } from '../geometry/path';
import { choleskySolve } from '../linear/cholesky';
import { LINE_WAYS, makeLine } from './lines';
import { asLinesAndArcs, asStraights, rebuilt, throughAnchors } from './other-lines';
import { redrawn } from './redraw';
import { lineBetween, withStretch } from './stretch';

const jaggedTop = () => {
	const b = new PathBuilder(0, 0).line(60, 0).line(60, 20);
	for (let k = 1; k < 200; k++) b.line(60 - 0.3 * k, 20 + 4 * Math.sin(k / 30) + 0.08 * Math.sin(k * 2.3));
	return b.line(0, 20).close();
};

describe('a stretch', () => {
	test('changed, everything outside it stays to the last bit', () => {
		const path = blob(12, 4, 40);
		const next = withStretch(path, 2.5, 5.25, lineBetween(path, 2.5, 5.25));
		expect(twoWayDistance([path], [next], 1e-6).distance).toBeLessThan(2e-6);
		for (const way of LINE_WAYS) {
			const rough = jaggedTop();
			const { path: made, drift } = makeLine(
				rough,
				{ way, drift: 0.4, count: 8, degree: 3 },
				{ from: 40, to: 140 }
			);
			const outside = stretchBetween(rough, 145, 145 + rough.types.length - 110);
			const kept = stretchBetween(made, 0, made.types.length);
			for (let i = 0; i < outside.types.length; i++) {
				const [x, y] = [outside.segs[8 * i], outside.segs[8 * i + 1]];
				const near = Array.from(kept.types, (_, k) =>
					Math.hypot(kept.segs[8 * k] - x, kept.segs[8 * k + 1] - y)
				);
				expect(Math.min(...near)).toBeLessThan(1e-9);
			}
			if (way !== 'through' && way !== 'rebuild') expect(drift).toBeLessThanOrEqual(0.4 + 1e-6);
		}
		expect(() => lineBetween(polygonPath([0, 0, 5, 0, 9, 3], false), 1, 1)).toThrow('no length');
	});
});

describe('other lines', () => {
	test('rebuilt from n control points of degree 1 to 7; degree 1 is straight pieces; the ends of an open line stay', () => {
		const wave = fitFunction((t) => ({ x: t, y: 6 * Math.sin(t / 6) }), 0, 60, 0.001);
		for (const degree of [1, 2, 3, 5, 7]) {
			const path = rebuilt(wave, 14, degree);
			expect([path.segs[0], path.segs[1]]).toEqual([wave.segs[0], wave.segs[1]]);
			expect(path.segs.at(-2)).toBeCloseTo(60, 6);
			if (degree === 1) {
				expect([...path.types].every((t) => t === STRAIGHT)).toBe(true);
				expect(anchorCount(path)).toBe(14);
			} else expect(twoWayDistance([path], [wave], 1e-3, 0.1).distance).toBeLessThan(0.6);
		}
		const round = rebuilt(circlePath(0, 0, 20), 8, 3);
		expect(round.closed).toBe(true);
		expect(twoWayDistance([round], [circlePath(0, 0, 20)], 1e-3, 0.1).distance).toBeLessThan(0.1);
		// More points never lie worse.
		const off = (n: number) => twoWayDistance([rebuilt(wave, n, 3)], [wave], 1e-3, 0.1).distance;
		expect(off(24)).toBeLessThan(off(10));
		expect(() => rebuilt(wave, 1, 3)).toThrow('at least 4');
		expect(() => rebuilt(wave, 8, 9)).toThrow('1 to 7');
	});

	test('control points on a straight lie evenly, wherever and however it lies', () => {
		for (const [x, y, u, v] of [
			[0, 0, 80, 0],
			[0, 17.3, 80, 17.3],
			[-31.7, 5.1, 20.9, 65.2]
		])
			for (const degree of [1, 3]) {
				const path = rebuilt(polygonPath([x, y, u, v], false), 20, 1);
				const gaps = Array.from(path.types, (_, i) =>
					Math.hypot(path.segs[8 * i + 6] - path.segs[8 * i], path.segs[8 * i + 7] - path.segs[8 * i + 1])
				);
				expect(Math.max(...gaps) / Math.min(...gaps), `degree ${degree}`).toBeLessThan(1.01);
			}
	});

	test('a B-spline is rebuilt as itself when it is asked for with its own control points (least squares)', () => {
		const control = [0, 1, 2, 3, 4, 5, 6, 7].map((k) => ({ x: 10 * k, y: 5 * (k % 2) }));
		const path = pulledBy(control, 3, false, 1e-6);
		expect(twoWayDistance([rebuilt(path, 20, 3)], [path], 1e-4, 0.05).distance).toBeLessThan(0.25);
	});

	test('through every anchor: error 0 at each; sharp ones stay corners', () => {
		const zigzag = polygonPath([0, 0, 10, 2, 20, 1, 30, 4, 40, 3, 40, -20, 0, -20]);
		const path = throughAnchors(zigzag);
		for (let i = 0; i < zigzag.types.length; i++) {
			const near = Array.from(path.types, (_, k) =>
				Math.hypot(path.segs[8 * k] - zigzag.segs[8 * i], path.segs[8 * k + 1] - zigzag.segs[8 * i + 1])
			);
			expect(Math.min(...near)).toBeLessThan(1e-12);
		}
		const corners = Array.from(path.types, (_, i) => Math.abs(turnAt(path, i))).filter((t) => t > 30);
		expect(corners).toHaveLength(4);
		const ring = throughAnchors(polygonPath([10, 0, 7, 7, 0, 10, -7, 7, -10, 0, -7, -7, 0, -10, 7, -7]));
		for (let i = 0; i < 8; i++) expect(Math.abs(turnAt(ring, i))).toBeLessThan(1e-6);
	});

	test('of straights and of arcs, within the tolerance; a circle and a slot come back as arcs', () => {
		fc.assert(
			fc.property(fc.nat(40), fc.constantFrom(0.02, 0.1, 0.4), (seed, tolerance) => {
				const path = blob(10, seed, 40);
				for (const make of [asStraights, asLinesAndArcs]) {
					const made = make(path, tolerance);
					expect(made.types.includes(CUBIC)).toBe(false);
					expect(twoWayDistance([path], [made], tolerance / 40, 0.3).distance).toBeLessThan(1.05 * tolerance);
				}
				expect(anchorCount(asLinesAndArcs(path, tolerance))).toBeLessThan(
					anchorCount(asStraights(path, tolerance))
				);
			}),
			{ numRuns: 15 }
		);
		const slot = new PathBuilder(0, 0).line(30, 0).arc(1, 30, 10).line(0, 10).arc(1, 0, 0).close();
		expect(anchorCount(asLinesAndArcs(slot, 0.05))).toBeLessThanOrEqual(8);
		expect(asLinesAndArcs(circlePath(0, 0, 10), 0.02).types.every((t) => t === ARC)).toBe(true);
		expect(() => asStraights(slot, 0)).toThrow('above 0');
	});
});

test('Cholesky: the solution put back gives the right-hand side', () => {
	// B B^T of a small matrix is symmetric and positive.
	const b = [4, 1, 0, -2, 3, 1, 0.5, -1, 5];
	const a = Float64Array.from({ length: 9 }, (_, k) =>
		[0, 1, 2].reduce((sum, q) => sum + b[3 * Math.floor(k / 3) + q] * b[3 * (k % 3) + q], 0)
	);
	const whole = a.slice();
	const [x, y] = [Float64Array.of(1, 2, 3), Float64Array.of(-1, 0, 4)];
	choleskySolve(a, 3, x, y);
	for (const [f, right] of [
		[x, [1, 2, 3]],
		[y, [-1, 0, 4]]
	] as const)
		right.forEach((v, r) =>
			expect([0, 1, 2].reduce((s, c) => s + whole[3 * r + c] * f[c], 0)).toBeCloseTo(v, 9)
		);
});

describe('the drift allowed', () => {
	test('is kept by every way that has one, on stairs too, both ways; else the line stays as it is', () => {
		for (const rough of [jagged(30, 1 / 3, 4), jagged(12, 0.5, 9), jaggedTop()])
			for (const way of LINE_WAYS.filter((w) => w !== 'through' && w !== 'rebuild'))
				for (const drift of [0.1, 0.5]) {
					const made = makeLine(rough, { way, drift });
					expect(made.drift).toBeLessThanOrEqual(drift);
					expect(twoWayDistance([rough], [made.path], 1e-3, 0.02).distance).toBeLessThan(drift + 2e-3);
				}
	});
});

describe('redrawing', () => {
	const square = polygonPath([0, 0, 40, 0, 40, 40, 0, 40]);
	const stroke = Array.from({ length: 42 }, (_, k) =>
		k % 2 ? 40 - 4 * Math.sin(((k >> 1) * Math.PI) / 20) : 10 + (k >> 1)
	);
	test('a stroke from the line back to it replaces the shorter way between; the other on request', () => {
		const { path, replaced } = redrawn(square, stroke, 1, 0.05);
		expect(pathLength(replaced!)).toBeCloseTo(20, 0);
		expect(path.closed).toBe(true);
		const dip = Array.from(path.types, (_, i) => [path.segs[8 * i], path.segs[8 * i + 1]]);
		expect(dip).toContainEqual([0, 0]);
		expect(dip).toContainEqual([40, 40]);
		expect(Math.min(...twoBox(path))).toBeLessThan(36.2);
		const other = redrawn(square, stroke, 1, 0.05, true);
		expect(pathLength(other.replaced!)).toBeGreaterThan(100);
		expect(pathLength(other.path)).toBeLessThan(50);
	});
	test('a stroke that misses leaves nothing; from an open end it prolongs', () => {
		expect(() => redrawn(square, [100, 100, 120, 120], 1, 0.1)).toThrow('does not begin on the line');
		expect(() => redrawn(square, [10, 40, 15, 60, 20, 70], 1, 0.1)).toThrow('come back');
		const open = polygonPath([0, 0, 20, 0], false);
		const more = redrawn(open, [20, 0, 25, 1, 30, 3, 35, 6, 40, 10], 1, 0.1).path;
		expect(more.closed).toBe(false);
		expect(more.segs.at(-2)).toBeCloseTo(40, 1);
		expect([more.segs[0], more.segs[1]]).toEqual([0, 0]);
		const front = redrawn(open, [0, 0, -5, 2, -10, 6], 1, 0.1).path;
		expect(front.segs[0]).toBeCloseTo(-10, 1);
	});
	/** y of places between 12 and 28 mm along the upper side. */
	const twoBox = (path: ReturnType<typeof polygonPath>) =>
		Array.from(path.types, (_, i) => [path.segs[8 * i + 3], path.segs[8 * i + 5]])
			.flat()
			.filter((y) => y > 20);
});
