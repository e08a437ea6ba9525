import { Resvg } from '@resvg/resvg-js';
import { describe, expect, test } from 'vitest';
import { readSvg } from '../formats/svg';
import { unwrap } from '../errors';
import { twoWayDistance } from '../geometry/edge-tree';
import { pathArea, pathLength } from '../geometry/measure';
import { pathCrossings } from '../plane/crossings';
import { makeTrail } from '../fit/fit';
import { transformPath } from '../geometry/path';
import { followBoundaries } from './boundary';
import { findCorners } from './corners';
import { alphaAsInk, checkPictureSize, toGrey, type GreyPicture } from './picture';
import { classTones, edgeTone, otsuThreshold, toneHistogram } from './threshold';
import { traceByTone, tracedArea } from './trace';
import { finish } from '../progress';

/** An SVG drawn by an independent rasteriser, px/mm as asked. */
function drawn(inner: string, mm: number, pxPerMm: number): GreyPicture {
	const text = `<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 ${mm} ${mm}"><rect width="${mm}" height="${mm}" fill="#fff"/>${inner}</svg>`;
	const image = new Resvg(text, { fitTo: { mode: 'width', value: Math.round(mm * pxPerMm) } }).render();
	return toGrey({ widthPx: image.width, heightPx: image.height, rgba: image.pixels });
}
const shapes = (inner: string, mm: number) =>
	unwrap(
		readSvg(`<svg width="${mm}mm" height="${mm}mm" viewBox="0 0 ${mm} ${mm}">${inner}</svg>`)
	).shapes.flatMap((s) => s.paths);
const PUPPET = '<path d="M8 30C6 12 20 6 30 9L52 4L47 24C50 40 44 52 30 53C18 54 9 44 8 30Z"/>';

describe('threshold', () => {
	test("Otsu's criterion: the between-class variance is largest there (Otsu 1979)", () => {
		const counts = new Uint32Array(256);
		[10, 12, 14, 16, 200, 210, 220].forEach((v, i) => (counts[v] = 10 + 7 * i));
		const variance = (t: number) => {
			let n = 0,
				s = 0,
				N = 0,
				S = 0;
			counts.forEach((c, v) => {
				N += c;
				S += c * v;
				if (v <= t) {
					n += c;
					s += c * v;
				}
			});
			return n && N - n ? n * (N - n) * (s / n - (S - s) / (N - n)) ** 2 : 0;
		};
		const t = otsuThreshold(counts);
		for (let v = 0; v < 255; v++)
			expect(variance(v)).toBeLessThanOrEqual(variance(Math.floor(t)) * (1 + 1e-9));
		const tones = classTones(counts);
		expect(tones.dark).toBeLessThan(20);
		expect(edgeTone(counts)).toBeCloseTo((tones.dark + tones.bright) / 2, 9);
		expect(otsuThreshold(toneHistogram(new Uint8Array(9).fill(77)))).toBe(77);
	});
});

describe('boundary', () => {
	test('a black square of pixels has its edges on the pixel edges; a hole runs the other way', () => {
		const grey = new Uint8Array(100).fill(255);
		for (let y = 2; y < 8; y++) for (let x = 3; x < 9; x++) grey[10 * y + x] = 0;
		grey[10 * 5 + 5] = 255;
		const contours = finish(
			followBoundaries(grey, 10, 10, { threshold: 127.5, light: false, diagonal: 'join', leastAreaPx: 0 })
		);
		expect(contours.map((c) => c.area)).toEqual([36, -1]);
		const xs = Array.from(contours[0].points).filter((_, i) => i % 2 === 0);
		expect(Math.min(...xs)).toBeCloseTo(3, 2);
		expect(Math.max(...xs)).toBeCloseTo(9, 2);
	});

	test('pixels that touch at a corner are joined or apart as asked; the picture edge closes what it cuts', () => {
		const grey = new Uint8Array([0, 255, 255, 0]);
		const loops = (diagonal: 'join' | 'part') =>
			finish(followBoundaries(grey, 2, 2, { threshold: 128, light: false, diagonal, leastAreaPx: 0 }));
		expect(loops('join')).toHaveLength(1);
		expect(loops('part')).toHaveLength(2);
		const light = finish(
			followBoundaries(grey, 2, 2, { threshold: 128, light: true, diagonal: 'part', leastAreaPx: 0 })
		);
		expect(light).toHaveLength(2);
	});
});

describe('trace', () => {
	test('a disc: area and perimeter in closed form, few anchors, on the edge to a tenth of a pixel', () => {
		const t = finish(traceByTone(drawn('<circle cx="20" cy="20" r="15"/>', 40, 8), { pxPerMm: 8 }));
		expect(t.paths).toHaveLength(1);
		expect(pathArea(t.paths[0])).toBeCloseTo(225 * Math.PI, 0);
		expect(pathLength(t.paths[0])).toBeCloseTo(30 * Math.PI, 0);
		expect(t.anchors).toBeLessThanOrEqual(8);
		expect(t.worst * 8).toBeLessThan(0.3);
		expect(tracedArea(t)).toBeCloseTo(pathArea(t.paths[0]), 9);
	});

	test('a square: four straights, corners where the sides meet', () => {
		const t = finish(
			traceByTone(drawn('<rect x="5" y="5" width="20" height="20" transform="rotate(11 15 15)"/>', 30, 8), {
				pxPerMm: 8
			})
		);
		const truth = shapes('<rect x="5" y="5" width="20" height="20" transform="rotate(11 15 15)"/>', 30);
		expect(t.paths[0].types).toHaveLength(4);
		expect(twoWayDistance(t.paths, truth, 1e-4).distance * 8).toBeLessThan(0.25);
	});

	test('a puppet with a hole, traced by tone and from its transparency: near the truth, no crossings', () => {
		const truth = shapes(PUPPET, 60);
		const t = finish(traceByTone(drawn(PUPPET, 60, 8), { pxPerMm: 8 }));
		expect(twoWayDistance(t.paths, truth, 1e-3).distance * 8).toBeLessThan(1.2);
		expect(pathCrossings(t.paths).filter((c) => c.through)).toEqual([]);
		const clear = new Resvg(
			`<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 60 60"><g fill="#fff">${PUPPET}</g></svg>`,
			{ fitTo: { mode: 'width', value: 480 } }
		).render();
		const ink = alphaAsInk({ widthPx: clear.width, heightPx: clear.height, rgba: clear.pixels });
		expect(Math.abs(tracedArea(finish(traceByTone(ink, { pxPerMm: 8 }))) - tracedArea(t))).toBeLessThan(0.5);
	});

	test('turning the picture by a quarter gives the same outline turned; light on dark gives the same as dark on light', () => {
		const p = drawn(PUPPET, 60, 6);
		const n = p.widthPx;
		const turned = new Uint8Array(n * n);
		for (let y = 0; y < n; y++) for (let x = 0; x < n; x++) turned[x * n + (n - 1 - y)] = p.grey[y * n + x];
		const a = finish(traceByTone(p, { pxPerMm: 6 }));
		const b = finish(traceByTone({ ...p, grey: turned }, { pxPerMm: 6 }));
		const back = b.paths.map((path) => transformPath(path, [0, 1, -1, 0, 0, -60]));
		expect(twoWayDistance(a.paths, back, 1e-3).distance * 6).toBeLessThan(0.3);
		const inverse = finish(
			traceByTone({ ...p, grey: p.grey.map((v) => 255 - v) }, { pxPerMm: 6, light: true })
		);
		expect(twoWayDistance(a.paths, inverse.paths, 1e-3).distance * 6).toBeLessThan(0.1);
	});

	test('a chosen threshold makes the ink fatter or leaner; specks are dropped; a region keeps the frame', () => {
		const p = drawn(`${PUPPET}<circle cx="56" cy="56" r="0.4"/>`, 60, 5);
		const area = (threshold: number) =>
			tracedArea(finish(traceByTone(p, { pxPerMm: 5, threshold, leastArea: 2 })));
		expect(area(220)).toBeGreaterThan(area(128));
		expect(area(40)).toBeLessThan(area(128));
		expect(finish(traceByTone(p, { pxPerMm: 5, leastArea: 2 }))).toMatchObject({ dropped: 1 });
		const part = finish(traceByTone(p, { pxPerMm: 5, region: { x: 0, y: 0, w: 150, h: 300 } }));
		const xs = part.paths.flatMap((path) => Array.from(path.segs).filter((_, i) => i % 8 === 0));
		expect(Math.max(...xs)).toBeCloseTo(30, 1);
	});

	test('corners of a contour stand where the sides would meet', () => {
		const grey = drawn('<path d="M5 5H25L15 24Z"/>', 30, 8);
		const [contour] = finish(
			followBoundaries(grey.grey, grey.widthPx, grey.heightPx, {
				threshold: 127,
				light: false,
				diagonal: 'join',
				leastAreaPx: 5,
				tones: { ink: 0, paper: 255 }
			})
		);
		const corners = findCorners(makeTrail(contour.points, true), { cornerAngle: 30, side: 6, blunt: 1.1 });
		expect(corners).toHaveLength(3);
		for (const [x, y] of [
			[40, 40],
			[200, 40],
			[120, 192]
		])
			expect(Math.min(...corners.map((c) => Math.hypot(c.x - x, c.y - y)))).toBeLessThan(0.3);
	});

	test('what cannot be traced says why', () => {
		const blank: GreyPicture = { widthPx: 20, heightPx: 20, grey: new Uint8Array(400).fill(255) };
		const one: GreyPicture = { widthPx: 1, heightPx: 1, grey: new Uint8Array([0]) };
		const run = (p: GreyPicture, o: object) => () => finish(traceByTone(p, { pxPerMm: 5, ...o }));
		expect(run(blank, { threshold: 100 })).toThrow('No edge was found');
		expect(run(one, { threshold: 100 })).toThrow('Only specks');
		expect(run(blank, { pxPerMm: 0 })).toThrow('no true size');
		expect(run(blank, { tolerance: -1 })).toThrow('above 0');
		expect(run(blank, { threshold: 300 })).toThrow('between 0 and 255');
		expect(run(blank, { region: { x: 50, y: 0, w: 5, h: 5 } })).toThrow('outside');
		expect(() => checkPictureSize(0, 5)).toThrow('no pixels');
		expect(() => checkPictureSize(10_000, 10_000)).toThrow('100 megapixels');
	});
});
