/** Outlines that lie on each other or nearly: the areas of the four combinations have to fit each other and the inputs. */
import { expect, test } from 'vitest';
import { blob, chance, wavy } from '../../../../tests/shapes';
import { pathArea, pathLength } from '../geometry/measure';
import { circlePath, polygonPath, reversePath, transformPath, type Path } from '../geometry/path';
import { combine } from './combine';
import type { CombineInput, CombineOp } from './area';

const areaOf = (a: Path, b: Path, op: CombineOp): number => {
	const input = (path: Path): CombineInput => [{ paths: [path], rule: 'nonzero' }];
	const made = combine([input(a), input(b)], op, { verify: true });
	if (!made.ok) throw new Error(`${op}: ${made.problem.code}`);
	expect(made.value.fallback).toBe(false);
	return made.value.pieces.reduce((sum, piece) => sum + piece.paths.reduce((s, p) => s + pathArea(p), 0), 0);
};

function fitTogether(a: Path, b: Path): void {
	const [A, B] = [Math.abs(pathArea(a)), Math.abs(pathArea(b))];
	const [all, common, left, apart] = (['union', 'intersection', 'difference', 'xor'] as const).map((op) =>
		areaOf(a, b, op)
	);
	// Lines nearer than a millionth of a millimetre are one line: no area is off by more than that along them.
	const room = 2e-6 * (pathLength(a) + pathLength(b));
	expect(Math.abs(all + common - A - B)).toBeLessThan(room);
	expect(Math.abs(left + common - A)).toBeLessThan(room);
	expect(Math.abs(apart - (all - common))).toBeLessThan(room);
}

const kinds = [
	(rnd: () => number) => blob(4 + Math.floor(20 * rnd()), 1 + Math.floor(rnd() * 1e6), 8 + 12 * rnd()),
	(rnd: () => number) => circlePath(0, 0, 3 + 7 * rnd()),
	(rnd: () => number) =>
		polygonPath(
			Array.from({ length: 7 }, (_, i) => {
				const r = 5 + 10 * rnd();
				return [r * Math.cos((2 * Math.PI * i) / 7), r * Math.sin((2 * Math.PI * i) / 7)];
			}).flat()
		)
];

test('a copy moved, turned or scaled by 1e-7 to 1e-2 mm, at any size and either way round', () => {
	const rnd = chance(5);
	for (let k = 0; k < 120; k++) {
		const size = [0.1, 1, 10, 60][k % 4];
		const a = transformPath(kinds[k % 3](rnd), [size, 0, 0, size, 30 * size * rnd(), 30 * size * rnd()]);
		const by = 10 ** (-7 + 5 * rnd());
		const angle = by / (15 * size);
		const ways = [
			transformPath(a, [1, 0, 0, 1, by * (rnd() - 0.5), by * (rnd() - 0.5)]),
			transformPath(a, [Math.cos(angle), Math.sin(angle), -Math.sin(angle), Math.cos(angle), 0, 0]),
			transformPath(a, [1 + angle, 0, 0, 1 + angle, 0, 0])
		];
		const b = ways[Math.floor(3 * rnd())];
		fitTogether(a, rnd() < 0.3 ? reversePath(b) : b);
	}
});

test('a thousand anchors moved by a ten thousandth of a millimetre, whatever the direction', () => {
	for (let seed = 1; seed <= 4; seed++) {
		const a = wavy(1000, seed);
		fitTogether(a, transformPath(a, [1, 0, 0, 1, 1e-4 * Math.cos(seed), 1e-4 * Math.sin(seed)]));
	}
});

test('a copy within what counts as one place is the same outline: nothing is left of either', () => {
	const a = wavy(200, 9);
	const b = transformPath(a, [1, 0, 0, 1, 3e-7, -3e-7]);
	expect(areaOf(a, b, 'xor')).toBe(0);
	expect(areaOf(a, b, 'difference')).toBe(0);
	expect(areaOf(a, b, 'union')).toBeCloseTo(Math.abs(pathArea(a)), 3);
});
