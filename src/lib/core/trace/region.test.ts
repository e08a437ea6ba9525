/** Parts of a picture, faint ink, what is done to it first, and the quick look. */
import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { numberIn } from '../../../../tests/numbers';
import { colourRaster, greyRaster, tonePicture } from '../../../../tests/raster';
import { twoWayDistance } from '../geometry/edge-tree';
import { pathArea, pathBox } from '../geometry/measure';
import { circlePath, reversePath } from '../geometry/path';
import { deviationAlong, SAMPLE, transformDeviation, worstOf } from '../geometry/deviation';
import { followBoundaries } from './boundary';
import { edgeNear } from './edge-near';
import { CHANNELS, channelOf, type GreyPicture } from './picture';
import { quickBoundary, reduced } from './quick';
import { coverOf, onlyCovered, rectangleAsPolygon, withFaintInk } from './region';
import { inked, tracedArea, traceByTone } from './trace';
import { finish } from '../progress';
import { sourceOf, tonesFor, tracePicture } from './ways';

const shoelace = (p: ArrayLike<number>) => {
	let twice = 0;
	for (let i = 0, n = p.length, j = n - 2; i < n; j = i, i += 2) twice += p[j] * p[i + 1] - p[i] * p[j + 1];
	return Math.abs(twice) / 2;
};

describe('a region', () => {
	test('covers as much as its polygon has area (closed form), whatever its shape', () => {
		fc.assert(
			fc.property(fc.array(numberIn(4, 20), { minLength: 3, maxLength: 9 }), (radii) => {
				const n = radii.length;
				const polygon = Float64Array.from(
					radii.flatMap((r, i) => {
						const a = (2 * Math.PI * i) / n;
						return [25 + r * Math.cos(a), 25 + r * Math.sin(a)];
					})
				);
				const cover = coverOf(polygon, 50, 50);
				const sum = cover.reduce((a, c) => a + c, 0) / 255;
				expect(Math.abs(sum - shoelace(polygon))).toBeLessThan(0.01 * shoelace(polygon) + 1);
			}),
			{ numRuns: 60 }
		);
		expect(() => coverOf([100, 100, 120, 100, 120, 120], 50, 50)).toThrow('outside the picture');
		expect([...rectangleAsPolygon({ x: 1, y: 2, w: 3, h: 4 })]).toEqual([1, 2, 4, 2, 4, 6, 1, 6]);
	});

	test('a lasso cuts ink off along itself, in the frame of the whole picture; beyond it nothing is traced', () => {
		const disc = greyRaster('<circle cx="60" cy="60" r="40"/><circle cx="150" cy="60" r="20"/>', 200, 120);
		// The left half of the first disc: area of a half disc in closed form.
		const lasso = Float64Array.of(0, 0, 60, 0, 60, 120, 0, 120);
		const t = finish(traceByTone(disc, { pxPerMm: 1, lasso }));
		expect(t.paths).toHaveLength(1);
		expect(Math.abs(tracedArea(t) - (Math.PI * 1600) / 2)).toBeLessThan(12);
		expect(pathBox(t.paths[0]).x1).toBeCloseTo(60, 0);
		const all = finish(traceByTone(disc, { pxPerMm: 1 }));
		expect(all.paths).toHaveLength(2);
		const black: GreyPicture = { widthPx: 80, heightPx: 80, grey: new Uint8Array(6400) };
		expect(() => finish(traceByTone(black, { pxPerMm: 1, threshold: 100, lasso }))).toThrow('No edge');
		expect(onlyCovered(black, new Uint8Array(6400), 255).grey.every((v) => v === 255)).toBe(true);
	});

	test('by colours and by line middles too', () => {
		const two = colourRaster(
			'<rect x="10" y="10" width="40" height="40" fill="#c03030"/><rect x="90" y="10" width="40" height="40" fill="#3060c0"/>',
			140,
			60
		);
		const left = { lasso: rectangleAsPolygon({ x: 0, y: 0, w: 70, h: 60 }) };
		const t = finish(tracePicture(sourceOf(two), { way: 'colours', colours: 3, pxPerMm: 1, ...left }));
		expect(new Set(t.fills).size).toBe(1);
		const grounded = finish(
			tracePicture(sourceOf(two), { way: 'colours', colours: 3, pxPerMm: 1, withBackground: true })
		);
		expect(new Set(grounded.fills).size).toBe(3);
		const strokes = colourRaster('<path d="M10 20H60M80 20H130" stroke="#000" stroke-width="4"/>', 140, 40);
		const lines = finish(
			tracePicture(sourceOf(strokes), { way: 'line-centre', pxPerMm: 1, ...left, stray: true })
		);
		expect(lines.paths).toHaveLength(1);
		expect(lines.stray).toHaveLength(1);
	});
});

describe('what is done to the picture first', () => {
	test('faint ink counts where it hangs on full ink, and not by itself', () => {
		// A stroke whose middle is faint, and a faint patch apart.
		const picture = tonePicture(120, 60, (x, y) =>
			y > 20 && y < 30 && x > 10 && x < 110
				? x > 50 && x < 70
					? 170
					: 20
				: y > 45 && y < 52 && x > 20 && x < 60
					? 170
					: 240
		);
		const count = (faint?: number) =>
			finish(traceByTone(picture, { pxPerMm: 1, threshold: 120, faint })).paths.length;
		expect(count()).toBe(2);
		expect(count(200)).toBe(1);
		const out = withFaintInk(picture, 120, 200, false, 240);
		expect(out.grey[48 * 120 + 40]).toBe(240);
		expect(out.grey[25 * 120 + 60]).toBe(170);
		const light = { ...picture, grey: picture.grey.map((v) => 255 - v) };
		expect(
			finish(traceByTone(light, { pxPerMm: 1, threshold: 135, faint: 55, light: true })).paths
		).toHaveLength(1);
	});

	test('levels, blur and channel change what is ink; bad levels are refused', () => {
		const dyed = colourRaster('<rect x="20" y="20" width="40" height="40" fill="#ff0000"/>', 80, 80);
		const source = sourceOf(dyed);
		// A red patch is as bright as paper in red light, and black in green.
		expect(tonesFor(source, { way: 'tone', channel: 'red' }).grey[40 * 80 + 40]).toBe(255);
		expect(tonesFor(source, { way: 'tone', channel: 'green' }).grey[40 * 80 + 40]).toBe(0);
		expect(channelOf(dyed, 'dye').grey[40 * 80 + 40]).toBe(0);
		expect(channelOf(dyed, 'dye').grey[0]).toBe(255);
		for (const channel of CHANNELS) expect(channelOf(dyed, channel).grey).toHaveLength(6400);
		const t = finish(tracePicture(source, { way: 'tone', channel: 'blue', pxPerMm: 1 }));
		expect(Math.abs(pathArea(t.paths[0]) - 1600)).toBeLessThan(4);
		const ramp = tonePicture(100, 20, (x) => 2.55 * x);
		expect(inked(ramp, { pxPerMm: 1, black: 100, white: 160 }).prepared.grey[40]).toBe(13);
		expect(() => inked(ramp, { pxPerMm: 1, black: 200, white: 100 })).toThrow('brighter');
		const spot = greyRaster(
			'<circle cx="30" cy="30" r="1.2"/><rect x="50" y="10" width="40" height="40"/>',
			100,
			60
		);
		expect(finish(traceByTone(spot, { pxPerMm: 1, leastArea: 2 })).paths).toHaveLength(2);
		expect(finish(traceByTone(spot, { pxPerMm: 1, leastArea: 2, blur: 3 })).paths).toHaveLength(1);
	});
});

describe('the quick look', () => {
	test('a reduced picture has the mean of each square; its boundary lies a pixel of its own from the trace', () => {
		const picture = greyRaster(
			'<circle cx="100" cy="90" r="61"/><circle cx="90" cy="80" r="20" fill="#fff"/>',
			200,
			180
		);
		const small = reduced(picture, 4);
		expect([small.widthPx, small.heightPx]).toEqual([50, 45]);
		let sum = 0;
		for (let v = 0; v < 4; v++) for (let u = 0; u < 4; u++) sum += picture.grey[(40 + v) * 200 + 80 + u];
		expect(Math.abs(small.grey[10 * 50 + 20] - sum / 16)).toBeLessThanOrEqual(0.5);
		const quick = quickBoundary(small, 4, { pxPerMm: 5 });
		const full = finish(traceByTone(picture, { pxPerMm: 5 })).paths;
		expect(quick).toHaveLength(2);
		expect(twoWayDistance(quick, full, 1e-3).distance * 5).toBeLessThan(4);
		expect(reduced(picture, 1)).toMatchObject({ widthPx: 200 });
		const part = quickBoundary(small, 4, { pxPerMm: 5, region: { x: 0, y: 0, w: 100, h: 180 } });
		expect(Math.max(...part.map((p) => pathBox(p).x1)) * 5).toBeLessThan(101);
	});
});

describe('deviation along a line', () => {
	test('of a circle from one 0.3 larger is 0.3 everywhere, with its side; an even map carries it along', () => {
		const inner = circlePath(10, 5, 20);
		const points = Array.from({ length: 2000 }, (_, k) => {
			const a = (2 * Math.PI * (k >> 1)) / 1000;
			return k % 2 ? 5 + 20.3 * Math.sin(a) : 10 + 20.3 * Math.cos(a);
		});
		const edge = [{ points, closed: true }];
		// Anticlockwise: outside is to the right of travel.
		const { samples } = deviationAlong(inner, edge, 1);
		expect(samples.length / SAMPLE).toBeGreaterThan(120);
		for (let i = 4; i < samples.length; i += SAMPLE) expect(samples[i]).toBeCloseTo(-0.3, 3);
		const back = deviationAlong(reversePath(inner), edge, 1).samples;
		for (let i = 4; i < back.length; i += SAMPLE) expect(back[i]).toBeCloseTo(0.3, 3);
		const twice = transformDeviation({ samples, closed: true }, [2, 0, 0, -2, 1, 0]);
		expect(worstOf([twice])!.off).toBeCloseTo(-0.6, 2);
		expect(twice.samples[0]).toBeCloseTo(2 * samples[0] + 1, 9);
		expect(worstOf([])).toBeUndefined();
	});

	test('a trace tells how far it strays all along: little on its sides, at a tip by what the pixels blunt', () => {
		const picture = greyRaster('<path d="M20 20H150L110 120Z"/>', 170, 140);
		const t = finish(traceByTone(picture, { pxPerMm: 4, stray: true }));
		expect(t.stray).toHaveLength(t.paths.length);
		const { samples } = t.stray![0];
		const offs = Array.from({ length: samples.length / SAMPLE }, (_, i) =>
			Math.abs(samples[SAMPLE * i + 4] * 4)
		).sort((a, b) => a - b);
		expect(offs[offs.length >> 1]).toBeLessThan(0.1);
		const worst = worstOf(t.stray!)!;
		expect(Math.abs(worst.off) * 4).toBeLessThan(1.2);
		const tips = [
			[5, -5],
			[37.5, -5],
			[27.5, -30]
		];
		expect(Math.min(...tips.map(([x, y]) => Math.hypot(worst.x - x, worst.y - y)))).toBeLessThan(0.5);
	});
});

describe('the boundary is the same however the picture lies', () => {
	const picture = greyRaster(
		'<path d="M22 31C40 5 90 12 96 40L120 38L101 77C90 110 40 104 30 80Z"/><circle cx="60" cy="60" r="11" fill="#fff"/>',
		150,
		120
	);
	const points = (p: GreyPicture) =>
		finish(
			followBoundaries(p.grey, p.widthPx, p.heightPx, {
				threshold: 127.5,
				light: false,
				diagonal: 'join',
				leastAreaPx: 0,
				tones: { ink: 0, paper: 255 }
			})
		).flatMap((c) =>
			Array.from({ length: c.points.length / 2 }, (_, i) => [c.points[2 * i], c.points[2 * i + 1]])
		);
	const sorted = (list: number[][]) =>
		[...list].sort((a, b) => Math.round(1e5 * (a[0] - b[0])) || a[1] - b[1]);
	const moved = (w: number, h: number, from: (x: number, y: number) => [number, number]): GreyPicture => {
		const grey = new Uint8Array(w * h);
		for (let y = 0; y < h; y++)
			for (let x = 0; x < w; x++) {
				const [u, v] = from(x, y);
				grey[y * w + x] =
					u >= 0 && v >= 0 && u < picture.widthPx && v < picture.heightPx
						? picture.grey[v * picture.widthPx + u]
						: 255;
			}
		return { widthPx: w, heightPx: h, grey };
	};
	const { widthPx: W, heightPx: H } = picture;
	test.each([
		['turned by a quarter', moved(H, W, (x, y) => [y, H - 1 - x]), (x: number, y: number) => [y, H - x]],
		['mirrored', moved(W, H, (x, y) => [W - 1 - x, y]), (x: number, y: number) => [W - x, y]],
		[
			'shifted by whole pixels',
			moved(W + 9, H + 5, (x, y) => [x - 7, y - 3]),
			(x: number, y: number) => [x - 7, y - 3]
		]
	] as const)('%s: within 1e-6 px', (_, other, back) => {
		const a = sorted(points(picture));
		const b = sorted(points(other).map(([x, y]) => [...back(x, y)]));
		expect(b).toHaveLength(a.length);
		a.forEach((p, i) => {
			expect(Math.abs(p[0] - b[i][0])).toBeLessThan(1e-6);
			expect(Math.abs(p[1] - b[i][1])).toBeLessThan(1e-6);
		});
	});
});

test('the edge nearest to a place is found to a fraction of a pixel; where nothing changes there is none', () => {
	const picture = greyRaster('<rect x="40.3" y="0" width="60" height="80"/>', 120, 80);
	const found = edgeNear(picture, 37, 41, 8)!;
	expect(Math.abs(found.x - 40.3)).toBeLessThan(0.25);
	expect(Math.abs(found.y - 41)).toBeLessThan(6);
	expect(edgeNear(picture, 20, 40, 6)).toBeUndefined();
});
