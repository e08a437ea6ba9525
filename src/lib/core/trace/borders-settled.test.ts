/** Borders between flat colours against the pieces that were drawn: their mixed pixels are exact. */
import { describe, expect, test } from 'vitest';
import type { Row } from '../../../../tests/cover';
import { isOfColour, pictureOf, pieces, type Piece } from '../../../../tests/pieces';
import { chance } from '../../../../tests/shapes';
import { twoWayDistance } from '../geometry/edge-tree';
import { polygonPath } from '../geometry/path';
import { pathCrossings } from '../plane/crossings';
import { finish } from '../progress';
import { traceByColours } from './trace-colours';

const SIDE = 300;
const traced = (list: readonly Piece[], scatter?: () => number) =>
	finish(traceByColours(pictureOf(list, SIDE, scatter), { pxPerMm: 1, colours: list.length + 1 }));
/** px: how far the outlines of each piece's colour lie from it, at most. */
function distances(list: readonly Piece[], { paths, fills }: ReturnType<typeof traced>): number[] {
	return list.map(({ colour, row }) => {
		const own = paths.filter((_, k) => isOfColour(fills![k], colour));
		expect(own).toHaveLength(1);
		return twoWayDistance([polygonPath(row.flatMap(([x, y]) => [x, -y]))], own, 0.02).distance;
	});
}

describe('pieces that meet in a point', () => {
	test.each([1, 2, 3, 4, 5, 6, 7, 8])(
		'piece set %i: where four meet, at rims and corners, to a fifth of a pixel',
		(seed) => {
			const list = pieces(chance(seed), SIDE, 25);
			const trace = traced(list);
			for (const distance of distances(list, trace)) expect(distance).toBeLessThan(0.2);
			expect(pathCrossings(trace.paths).filter((c) => c.through)).toHaveLength(0);
		}
	);

	test('slivers of less than ten degrees keep their tips, though nothing but mixtures is there', () => {
		const r = chance(31);
		for (let n = 0; n < 4; n++) {
			const list = pieces(r, SIDE, 6 + 3 * r());
			const trace = traced(list);
			for (const distance of distances(list, trace)) expect(distance).toBeLessThan(0.8);
			expect(pathCrossings(trace.paths).filter((c) => c.through)).toHaveLength(0);
		}
	});

	test('noise of a few tones takes nothing away', () => {
		const r = chance(8);
		const list = pieces(chance(3), SIDE, 30);
		const trace = traced(list, () => 8 * (r() + r() - 1));
		for (const distance of distances(list, trace)) expect(distance).toBeLessThan(0.5);
	});
});

test('a mosaic of thirty-six pieces: four meet in every corner, and each is one place', () => {
	const r = chance(6);
	const place = (i: number) => 20 + 42 * i + 14 * (r() - 0.5);
	const places = Array.from({ length: 7 }, (_, i) =>
		Array.from({ length: 7 }, (_, j): [number, number] => {
			const [x, y] = [place(i), place(j)];
			return [i % 6 ? x : 20 + 42 * i, j % 6 ? y : 20 + 42 * j];
		})
	);
	const colours = pieces(chance(1), SIDE, 40).map(({ colour }) => colour);
	const list = places.slice(1).flatMap((column, i) =>
		column.slice(1).map((corner, j): Piece => ({
			colour: colours[(i + 2 * j) % 4],
			row: [places[i][j], places[i + 1][j], corner, places[i][j + 1]]
		}))
	);
	const { paths, anchors } = finish(traceByColours(pictureOf(list, SIDE), { pxPerMm: 1, colours: 5 }));
	expect(paths).toHaveLength(36);
	expect(anchors).toBeLessThan(1.05 * 4 * 36);
	const corners = paths.flatMap(({ types, segs }) =>
		Array.from(types, (_, k) => [segs[8 * k], -segs[8 * k + 1]] as const)
	);
	for (const [x, y] of places.flat())
		expect(Math.min(...corners.map(([u, v]) => Math.hypot(u - x, v - y)))).toBeLessThan(0.1);
});

test('a corner a pixel beside a junction is found', () => {
	const left: Row = [
		[60, 60],
		[149.3, 60],
		[149.3, 201.2],
		[148.2, 200.4],
		[60, 260.7]
	];
	const right: Row = [
		[149.3, 60],
		[240, 60],
		[240, 264.2],
		[149.3, 201.2]
	];
	const list: Piece[] = [
		{ colour: [29, 92, 158], row: left },
		{ colour: [200, 50, 43], row: right }
	];
	for (const distance of distances(list, traced(list))) expect(distance).toBeLessThan(0.2);
});
