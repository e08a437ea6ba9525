/**
 * Places where two edges run into each other: tips of needles (`tips.ts`), thin strokes in blur (`thin.ts`).
 * Truth: the shapes that were drawn.
 */
import { describe, expect, test } from 'vitest';
import { greyRaster } from '../../../../tests/raster';
import { coverOf, type Row } from '../../../../tests/cover';
import { chance } from '../../../../tests/shapes';
import { finish } from '../progress';
import { EdgeTree, flattenPath } from '../geometry/edge-tree';
import { anchorCount, pathArea } from '../geometry/measure';
import { followBoundaries } from './boundary';
import type { GreyPicture } from './picture';
import { blurred } from './prepare';
import { withTips } from './tips';
import { traceByTone, type TraceOptions } from './trace';

const traced = (picture: GreyPicture, options: Partial<TraceOptions> = {}) =>
	finish(traceByTone(picture, { pxPerMm: 1, ...options }));

const tonesOf = (share: Float64Array, tone: (cover: number) => number): GreyPicture => ({
	widthPx: 300,
	heightPx: 200,
	grey: Uint8Array.from(share, (c) => Math.round(tone(c)))
});
const drawn = (...rows: Row[]) => tonesOf(coverOf(rows, 300, 200), (c) => 255 * (1 - c));

/** A lens of two arcs over a chord of `long` px whose sides meet at an angle, turned about its middle; and where its tips are. */
function lens(long: number, degrees: number, turn: number) {
	const end = (degrees * Math.PI) / 360;
	const radius = long / 2 / Math.sin(end);
	const angle = (turn * Math.PI) / 180;
	const placed = (x: number, y: number): [number, number] => [
		150 + x * Math.cos(angle) - y * Math.sin(angle),
		100 + x * Math.sin(angle) + y * Math.cos(angle)
	];
	const arc = (side: number) =>
		Array.from({ length: 201 }, (_, k) => {
			const a = (end * (k - 100)) / 100;
			return placed(side * radius * Math.sin(a), side * radius * (Math.cos(a) - Math.cos(end)));
		});
	const row: Row = [...arc(1).slice(0, -1), ...arc(-1).slice(0, -1)];
	return { row, tips: [-1, 1].map((side) => placed((side * long) / 2, 0)).map(([x, y]) => ({ x, y: -y })) };
}
const worstTip = (paths: Parameters<typeof flattenPath>[0][], tips: readonly { x: number; y: number }[]) => {
	const tree = new EdgeTree(paths.map((path) => ({ points: flattenPath(path, 0.005), closed: true })));
	return Math.max(...tips.map(({ x, y }) => tree.distance(x, y)));
};

describe('needles', () => {
	for (const [degrees, turn] of [
		[5, 12],
		[8, 40],
		[11, 87],
		[15, 0]
	])
		test(`sides that meet at ${degrees} degrees, turned by ${turn}: a line of each side, to the tip`, () => {
			const { row, tips } = lens(170, degrees, turn);
			const { paths } = traced(drawn(row));
			expect(paths).toHaveLength(1);
			expect(worstTip(paths, tips)).toBeLessThan(0.5);
			expect(anchorCount(paths[0])).toBeLessThanOrEqual(4);
		});

	test('one of paper in ink as well', () => {
		const { row, tips } = lens(170, 9, 25);
		const { paths } = traced(tonesOf(coverOf([row], 300, 200), (c) => 255 * c));
		expect(worstTip(paths, tips)).toBeLessThan(0.5);
	});

	test('in blur, where the tone passes the threshold twenty pixels before the ink ends', () => {
		const { row, tips } = lens(220, 7, 33);
		const { paths } = traced(blurred(drawn(row), 1.6));
		expect(worstTip(paths, tips)).toBeLessThan(0.8);
	});

	test('with light that falls and noise: within a few pixels', () => {
		const { row, tips } = lens(220, 10, 33);
		const soft = blurred(drawn(row), 1.5);
		const random = chance(5);
		const grey = soft.grey.map((v, k) => {
			const noise = (random() + random() + random() + random() - 2) * 18;
			return Math.max(0, Math.min(255, (30 + 0.8 * v) * (1 - (0.3 * (k % 300)) / 300) + noise));
		});
		const { paths } = traced({ ...soft, grey }, { evenLight: true, denoise: true });
		expect(worstTip(paths, tips)).toBeLessThan(4);
	});

	test('a thin stroke that is cut off is no needle, nor is a round end: their contours stay as they are', () => {
		const tones = { ink: 0, paper: 255 };
		for (const width of [1.3, 1.8, 2.4, 3.5, 6])
			for (const turn of [0, 17, 45, 71])
				for (const cap of ['butt', 'round']) {
					const stroke = `<path transform="translate(150 100) rotate(${turn})" d="M-80 0H80" stroke="#000" stroke-width="${width}" stroke-linecap="${cap}"/>`;
					const picture = greyRaster(stroke, 300, 200);
					const [contour] = finish(
						followBoundaries(picture.grey, 300, 200, {
							threshold: 127,
							light: false,
							diagonal: 'join',
							leastAreaPx: 6,
							tones
						})
					);
					expect(withTips(picture, contour, tones, 0, 0.02), `${width} px, ${turn}, ${cap}`).toBe(contour);
				}
	});
});

describe('thin strokes in blur', () => {
	const stroke = (width: number) =>
		`<g fill="none" stroke="#000" stroke-width="${width}"><path d="M30 60C90 0 200 130 270 60"/><path d="M30 130C90 80 200 190 270 150"/></g>`;
	const area = (picture: GreyPicture) => traced(picture).paths.reduce((sum, p) => sum + pathArea(p), 0);

	for (const width of [3.5, 4.5, 6])
		test(`${width} px wide, where nothing shows how dark the ink is`, () => {
			const sharp = greyRaster(stroke(width), 300, 200);
			const truth = sharp.grey.reduce((sum, v) => sum + (255 - v) / 255, 0);
			// Without that the strokes come out a fifth to a third too wide.
			expect(Math.abs(area(blurred(sharp, 1.6)) / truth - 1)).toBeLessThan(0.05);
		});

	test('beside ink that shows it the tone of that counts', () => {
		const sharp = greyRaster(`${stroke(4)}<rect x="120" y="80" width="60" height="30"/>`, 300, 200);
		const truth = sharp.grey.reduce((sum, v) => sum + (255 - v) / 255, 0);
		expect(Math.abs(area(blurred(sharp, 1.6)) / truth - 1)).toBeLessThan(0.05);
	});
});
