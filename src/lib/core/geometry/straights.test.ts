/** Straights in line made one. */
import { describe, expect, test } from 'vitest';
import { TOLERANCE } from '../tolerance';
import { pathArea, pathLength } from './measure';
import { CUBIC, PathBuilder, polygonPath, STRAIGHT, transformPath, type Path } from './path';
import { mergeStraights } from './straights';

const anchors = ({ types, segs, closed }: Path) => [
	...Array.from(types, (_, i) => [segs[8 * i], segs[8 * i + 1]]),
	...(closed ? [] : [[segs.at(-2), segs.at(-1)]])
];

describe('straights in line', () => {
	test('anchors in the middle of a straight go, over the seam too; the line stays', () => {
		const path = polygonPath([5, 0, 10, 0, 10, 5, 10, 10, 0, 10, 0, 0, 2, 0]);
		const merged = mergeStraights(path);
		expect(anchors(merged)).toEqual([
			[10, 0],
			[10, 10],
			[0, 10],
			[0, 0]
		]);
		expect([merged.closed, pathArea(merged), pathLength(merged)]).toEqual([true, 100, 40]);
	});
	test('the ends of an open line stay, and what lies between them in line goes', () => {
		const merged = mergeStraights(polygonPath([0, 0, 3, 0, 10, 0, 10, 4, 10, 9], false));
		expect(anchors(merged)).toEqual([
			[0, 0],
			[10, 0],
			[10, 9]
		]);
		expect(merged.closed).toBe(false);
		// It ends where it begins and is open: its first anchor stays.
		expect(anchors(mergeStraights(polygonPath([5, 0, 10, 0, 10, 10, 0, 0, 5, 0], false)))).toEqual([
			[5, 0],
			[10, 0],
			[10, 10],
			[0, 0],
			[5, 0]
		]);
	});
	test('curves are left alone, and a straight that turns back on itself', () => {
		const bow = new PathBuilder(0, 0)
			.line(5, 0)
			.line(10, 0)
			.cubic(15, 0, 20, 0, 25, 0)
			.line(30, 0)
			.line(30, 9)
			.open();
		const merged = mergeStraights(bow);
		expect([...merged.types]).toEqual([STRAIGHT, CUBIC, STRAIGHT, STRAIGHT]);
		expect(anchors(merged)).toEqual([
			[0, 0],
			[10, 0],
			[25, 0],
			[30, 0],
			[30, 9]
		]);
		const back = polygonPath([0, 0, 10, 0, 4, 0, 4, 8], false);
		expect(mergeStraights(back)).toBe(back);
	});
	test('what is off by a tenth of what counts as the same place is in line, by more it is not, at any length; two segments stay two', () => {
		for (const long of [1, 1000]) {
			const bent = (off: number) =>
				polygonPath([0, 0, long, off, 2 * long, 0, 2 * long, 5 * long, 0, 5 * long]);
			const upright = (off: number) => transformPath(bent(off), [0, 1, -1, 0, 0, 0]);
			for (const made of [bent, upright]) {
				expect(mergeStraights(made(0.099 * TOLERANCE.coincidence)).types).toHaveLength(4);
				expect(mergeStraights(made(0.11 * TOLERANCE.coincidence)).types).toHaveLength(5);
			}
		}
		const flat = polygonPath([0, 0, 5, 0, 10, 0], false);
		expect(mergeStraights(flat)).toBe(flat);
		const square = polygonPath([0, 0, 4, 0, 4, 4, 0, 4]);
		expect(mergeStraights(square)).toBe(square);
		const level = polygonPath([0, 0, 4, 0, 8, 0, 4, 0]);
		expect(pathLength(mergeStraights(level))).toBe(16);
	});
});
