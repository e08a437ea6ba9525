/** What is a hole of what, by its place and by a person's word. */
import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { chance } from '../../../../tests/shapes';
import { circlePath, type Path } from '../geometry/path';
import { groupPieces, nestPaths, type Standing } from './pieces';

/** Rings in each other, and one beside. */
const RINGS: readonly Path[] = [
	circlePath(0, 0, 40),
	circlePath(0, 0, 30),
	circlePath(0, 0, 20),
	circlePath(100, 0, 9)
];
const depths = (...said: (Standing | undefined)[]) => nestPaths(RINGS, said).map(({ depth }) => depth);

describe('holes and pieces', () => {
	test('by their place: a ring in a ring is its hole, an island in that a piece', () => {
		expect(depths()).toEqual([0, 1, 2, 0]);
		expect(groupPieces(RINGS)).toEqual([[0, 1], [2], [3]]);
	});

	test('circles by the hundred, in rings and apart: each lies in those that reach beyond it on all sides', () => {
		const r = chance(4);
		const circles = Array.from({ length: 60 }, (_, k) => ({ x: 150, y: 150, radius: 10 + k }));
		// No two cross.
		for (let n = 0; n < 3000; n++) {
			const one = { x: 300 * r(), y: 300 * r(), radius: 0.5 + 40 * r() * r() };
			const isClear = circles.every(({ x, y, radius }) => {
				const apart = Math.hypot(x - one.x, y - one.y);
				return apart > radius + one.radius || apart < Math.abs(radius - one.radius);
			});
			if (isClear) circles.push(one);
		}
		expect(circles.length).toBeGreaterThan(300);
		const nested = nestPaths(circles.map(({ x, y, radius }) => circlePath(x, y, radius)));
		circles.forEach((own, i) => {
			const around = circles.filter(
				(other) => Math.hypot(other.x - own.x, other.y - own.y) + own.radius < other.radius
			);
			expect(nested[i].depth).toBe(around.length);
			const { parent } = nested[i];
			const least = Math.min(...around.map(({ radius }) => radius));
			expect(parent === undefined ? Infinity : circles[parent].radius).toBe(least);
		});
	});

	test('said to be a piece it is no hole; what lies in it is its hole then', () => {
		expect(depths(undefined, 'piece')).toEqual([0, 2, 3, 0]);
		expect(groupPieces(RINGS, [undefined, 'piece'])).toEqual([[0], [1, 2], [3]]);
	});

	test('said to be a hole an island is one; beside everything there is nothing to be a hole of', () => {
		expect(depths(undefined, undefined, 'hole')).toEqual([0, 1, 3, 0]);
		expect(depths(undefined, undefined, undefined, 'hole')).toEqual([0, 1, 2, 0]);
		// What is said and is so anyway changes nothing.
		expect(depths('piece', 'hole', 'piece', 'piece')).toEqual([0, 1, 2, 0]);
	});

	test('whatever is said: pieces are even, holes odd, and each line is in one piece at most', () => {
		const word = fc.constantFrom<Standing | undefined>(undefined, 'piece', 'hole');
		fc.assert(
			fc.property(fc.tuple(word, word, word, word), (said) => {
				const nesting = nestPaths(RINGS, said);
				said.forEach((one, i) => {
					if (one === 'piece') expect(nesting[i].depth % 2).toBe(0);
					if (one === 'hole' && nesting[i].parent !== undefined) expect(nesting[i].depth % 2).toBe(1);
				});
				const all = groupPieces(RINGS, said).flat();
				expect(new Set(all).size).toBe(all.length);
			})
		);
	});

	test('lines drawn again exactly over themselves: each is as deep as all that lie around it, however many there are', () => {
		const [outer, inner] = [circlePath(0, 0, 40), circlePath(0, 0, 30)];
		const again = (path: Path) => ({ ...path, segs: path.segs.slice() });
		const paths = [outer, again(outer), again(outer), inner, again(inner), circlePath(0, 0, 5)];
		expect(nestPaths(paths).map(({ depth }) => depth)).toEqual([0, 0, 0, 3, 3, 5]);
		expect(nestPaths(paths)[5].parent).toBe(3);
		const many = Array.from({ length: 20_000 }, () => again(inner));
		expect(nestPaths([outer, ...many]).every(({ depth }, i) => depth === (i ? 1 : 0))).toBe(true);
	});
});
