/**
 * Small round bends beside sharp corners (`rounded.ts`), and drawings that reach to the picture's border (`boundary.ts`), as icons and
 * cropped drawings are. Truth: the shapes that were drawn, the exact cover of each pixel.
 */
import { describe, expect, test } from 'vitest';
import { coverOf, type Row } from '../../../../tests/cover';
import { finish } from '../progress';
import { twoWayDistance } from '../geometry/edge-tree';
import { anchorCount } from '../geometry/measure';
import { ARC, polygonPath, type Path } from '../geometry/path';
import { traceByTone } from './trace';

const SIDE = 120;
const traced = (rows: readonly Row[]) => {
	const share = coverOf(rows, SIDE, SIDE);
	const grey = Uint8Array.from(share, (c) => Math.round(255 * (1 - c)));
	return finish(traceByTone({ widthPx: SIDE, heightPx: SIDE, grey }, { pxPerMm: 1 })).paths;
};
const pathOf = (row: Row): Path => polygonPath(row.flatMap(([x, y]) => [x, -y]));
const offOf = (rows: readonly Row[], paths: readonly Path[]) =>
	twoWayDistance(rows.map(pathOf), [...paths], 0.005).distance;
/** A bar with corners of a radius, px, turned about the middle. */
const bar = (long: number, wide: number, radius: number, degrees: number): Row => {
	const a = (degrees * Math.PI) / 180;
	const placed = (x: number, y: number): [number, number] => [
		60 + x * Math.cos(a) - y * Math.sin(a),
		60 + x * Math.sin(a) + y * Math.cos(a)
	];
	const corners = [
		[1, 1],
		[-1, 1],
		[-1, -1],
		[1, -1]
	];
	return corners.flatMap(([sx, sy], k) =>
		Array.from({ length: radius > 0 ? 41 : 1 }, (_, i) => {
			const turn = (Math.PI / 2) * (k + i / 40);
			return placed(
				sx * (long / 2 - radius) + radius * Math.cos(turn),
				sy * (wide / 2 - radius) + radius * Math.sin(turn)
			);
		})
	);
};
const disc = (x: number, y: number, radius: number): Row =>
	Array.from({ length: 360 }, (_, k) => [
		x + radius * Math.cos((k * Math.PI) / 180),
		y + radius * Math.sin((k * Math.PI) / 180)
	]);

describe('small bends', () => {
	test.each([
		[8, 4, 0],
		[8, 4, 27],
		[24, 4, 13],
		[30, 6, 40]
	])(
		'a bar %d px wide with ends of radius %d, turned by %d degrees, has arcs there',
		(wide, radius, degrees) => {
			const row = bar(80, wide, radius, degrees);
			const [path, ...others] = traced([row]);
			expect(others).toHaveLength(0);
			expect(path.types.filter((type) => type === ARC).length).toBeGreaterThanOrEqual(2);
			expect(anchorCount(path)).toBeLessThanOrEqual(8);
			expect(offOf([row], [path])).toBeLessThan(0.3);
		}
	);

	test.each([0, 9, 20, 33, 45])('a bar with sharp corners, turned by %d degrees, keeps them', (degrees) => {
		const row = bar(80, 24, 0, degrees);
		const [path] = traced([row]);
		expect(anchorCount(path)).toBe(4);
		expect(offOf([row], [path])).toBeLessThan(0.25);
	});

	test('a star of sharp corners beside a bar with round ones: each as it is', () => {
		const star: Row = Array.from({ length: 10 }, (_, k) => {
			const [r, a] = [k % 2 ? 12 : 28, (k * Math.PI) / 5 + 0.2];
			return [34 + r * Math.cos(a), 34 + r * Math.sin(a)];
		});
		const round = bar(50, 10, 4, 0).map(([x, y]): [number, number] => [x + 10, y + 40]);
		const paths = traced([star, round]);
		expect(paths).toHaveLength(2);
		expect(offOf([star], paths.slice(0, 1))).toBeLessThan(0.5);
		expect(anchorCount(paths[0])).toBe(10);
		expect(offOf([round], paths.slice(1))).toBeLessThan(0.3);
	});
});

describe('at the border of the picture', () => {
	test('a disc that touches all four sides is a disc, to less than a tenth of a pixel', () => {
		const row = disc(60, 60, 60);
		// Cut in two, so that it is no whole circle.
		const cut = row.filter((_, k) => k < 30 || k >= 210);
		const [path] = traced([cut]);
		expect(offOf([cut], [path])).toBeLessThan(0.2);
		expect(anchorCount(path)).toBeLessThanOrEqual(4);
	});

	test('what is cut by the border ends straight on it', () => {
		const row = disc(60, 0, 40);
		const [path] = traced([row]);
		const seen: Row = row.filter(([, y]) => y > 1e-6);
		const ends: Row = [
			[20, 0],
			[100, 0]
		];
		expect(offOf([[...seen, ends[0], ends[1]]], [path])).toBeLessThan(0.3);
	});

	test('a stroke that leaves the picture at a slant ends where the border is', () => {
		const row: Row = [
			[-20, 30],
			[80, 90],
			[76, 97],
			[-24, 37]
		];
		const [path] = traced([row]);
		const at = (y: number) => row[0][1] + ((0 - row[0][0]) * (row[1][1] - row[0][1])) / 100 + (y - row[0][1]);
		const seen: Row = [[0, at(30)], row[1], row[2], [0, 37 + (24 * 60) / 100]];
		expect(offOf([seen], [path])).toBeLessThan(0.5);
	});
});
