/** Borders between flat colours against the pieces that were drawn: their mixed pixels are exact. */
import { describe, expect, test } from 'vitest';
import type { Row } from '../../../../tests/cover';
import { pictureOf, pieces, type Piece } from '../../../../tests/pieces';
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
		const isNear = (fill: string) =>
			colour.every((v, c) => Math.abs(parseInt(fill.slice(1 + 2 * c, 3 + 2 * c), 16) - v) < 24);
		const own = paths.filter((_, k) => isNear(fills![k]));
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
