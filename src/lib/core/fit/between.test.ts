/** Lines in between: of scaled, moved, turned, differently begun copies the truth is known; facts of circles and ellipses. */
import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { numberIn } from '../../../../tests/numbers';
import { blob } from '../../../../tests/shapes';
import { twoWayDistance } from '../geometry/edge-tree';
import { startAt } from '../geometry/join';
import { scaleBy, turnBy } from '../geometry/maps';
import { turnAt } from '../geometry/measure';
import {
	circlePath,
	compose,
	polygonPath,
	reversePath,
	STRAIGHT,
	transformPath,
	type Affine,
	type Path
} from '../geometry/path';
import { between, sharesOf, type BetweenOptions } from './between';

const lines = (a: Path, b: Path, options: Partial<BetweenOptions> = {}) => {
	const made = between(a, b, { count: 3, tolerance: 0.005, ...options });
	if (!made.ok) throw new Error(made.problem.sentence);
	return made.value;
};
const mixed = (m: Affine, s: number): Affine =>
	m.map((v, i) => (1 - s) * (i === 0 || i === 3 ? 1 : 0) + s * v) as unknown as Affine;
const off = (a: Path, b: Path) => twoWayDistance([a], [b], 0.005).distance;

describe('copies: what lies in between is known', () => {
	test('blobs grown, moved, a little turned, begun elsewhere and gone the other way', () => {
		fc.assert(
			fc.property(
				fc.integer({ min: 1, max: 500 }),
				fc.integer({ min: 5, max: 14 }),
				numberIn(0.5, 2),
				numberIn(-25, 25),
				fc.boolean(),
				(seed, n, scale, turn, back) => {
					const a = blob(n, seed, 50);
					const map = compose([1, 0, 0, 1, 20, -9], compose(turnBy(turn, 0, 0), scaleBy(scale, scale, 0, 0)));
					let b = startAt(transformPath(a, map), { segment: seed % n, t: 0 });
					if (back) b = reversePath(b);
					lines(a, b).forEach((line, k) => {
						expect(line.closed).toBe(true);
						expect(off(line, transformPath(a, mixed(map, (k + 1) / 4)))).toBeLessThan(0.08);
						expect(line.types.length).toBeLessThanOrEqual(2 * n + 4);
					});
				}
			),
			{ numRuns: 60 }
		);
	});
	test('polygons: corners to corners, straights stay straights', () => {
		const a = polygonPath([0, 0, 60, 0, 60, 20, 30, 20, 30, 50, 0, 50]);
		const map = compose([1, 0, 0, 1, 7, 3], scaleBy(1.6, 1.2, 0, 0));
		const b = startAt(transformPath(a, map), { segment: 2, t: 0 });
		for (const [k, line] of lines(a, b).entries()) {
			expect([...line.types]).toEqual(Array(6).fill(STRAIGHT));
			expect(off(line, transformPath(a, mixed(map, (k + 1) / 4)))).toBeLessThan(1e-6);
		}
	});
	test('open lines, one of them drawn the other way', () => {
		const a = polygonPath([0, 0, 20, 10, 50, 0, 80, 30], false);
		const b = reversePath(transformPath(a, [1, 0, 0, 1, 5, 40]));
		for (const [k, line] of lines(a, b).entries())
			expect(off(line, transformPath(a, [1, 0, 0, 1, (5 * (k + 1)) / 4, 10 * (k + 1)]))).toBeLessThan(1e-6);
	});
});

test('circles of radius 20 and 40: 25, 30, 35 (common practice)', () => {
	lines(circlePath(0, 0, 20), circlePath(0, 0, 40)).forEach((line, k) =>
		expect(off(line, circlePath(0, 0, 25 + 5 * k))).toBeLessThan(0.02)
	);
});

test('smooth lines of different anchors give smooth lines; ends of the row come to the sources', () => {
	fc.assert(
		fc.property(fc.integer({ min: 1, max: 300 }), fc.integer({ min: 1, max: 300 }), (p, q) => {
			const [a, b] = [blob(7, p, 50), blob(11, q, 60)];
			for (const line of lines(a, b, { count: 2 }))
				for (let i = 0; i < line.types.length; i++) expect(Math.abs(turnAt(line, i))).toBeLessThan(3);
			const [near] = lines(a, b, { count: 199 });
			expect(off(near, a)).toBeLessThan(1);
		}),
		{ numRuns: 6 }
	);
});

test('steps: even, eased; the start moved by hand; the other way round', () => {
	expect(sharesOf(3, 'even')).toEqual([0.25, 0.5, 0.75]);
	for (const easing of ['start', 'end', 'both'] as const) {
		const shares = sharesOf(9, easing);
		expect(shares.every((s, i) => s > 0 && s < 1 && (i === 0 || s > shares[i - 1]))).toBe(true);
	}
	const square = polygonPath([0, 0, 40, 0, 40, 40, 0, 40]);
	const larger = transformPath(square, scaleBy(2, 2, 20, 20));
	const [plain] = lines(square, larger, { count: 1 });
	const [turned] = lines(square, larger, { count: 1, shift: 0.25 });
	expect(off(plain, transformPath(square, scaleBy(1.5, 1.5, 20, 20)))).toBeLessThan(1e-6);
	// Each corner goes to the next one: in the middle it lies on the middle line, drawn in.
	expect(off(turned, plain)).toBeGreaterThan(5);
});

test('open and closed, or nothing, is refused in a sentence', () => {
	const open = polygonPath([0, 0, 9, 9], false);
	expect(between(open, circlePath(0, 0, 9), { count: 1, tolerance: 0.01 })).toMatchObject({
		ok: false,
		problem: { code: 'open-and-closed' }
	});
	const none = { closed: true, types: new Uint8Array(0), segs: new Float64Array(0) };
	expect(between(none, circlePath(0, 0, 9), { count: 1, tolerance: 0.01 })).toMatchObject({ ok: false });
});
