/** The other ways of tracing, over drawings whose truth is known. */
import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { numberIn } from '../../../../tests/numbers';
import { chance } from '../../../../tests/shapes';
import { colourRaster, greyRaster, tonePicture } from '../../../../tests/raster';
import { flattenPath, pathTree } from '../geometry/edge-tree';
import { pathCrossings } from '../plane/crossings';
import { pathArea, pathLength } from '../geometry/measure';
import { STRIDE, type Path } from '../geometry/path';
import { followBorders } from './borders';
import { dropPatches, labelPixels } from './labels';
import { flatColours, hexOf, toOklab } from './palette';
import { blurred, edgeBlur, evenLight, levelled, localTone, pixelNoise } from './prepare';
import { seenByTracer } from './seen';
import { skeletonNetwork, thin } from './skeleton';
import { traceByTone } from './trace';
import { finish } from '../progress';
import { traceByColours } from './trace-colours';
import { traceLineCentres } from './trace-lines';
import { sourceOf, tracePicture, WAYS } from './ways';

const stroke = (d: string, width: number, more = '') =>
	`<path d="${d}" fill="none" stroke="#1c1c1c" stroke-width="${width}" ${more}/>`;
const ends = (p: Path) => [
	{ x: p.segs[0], y: -p.segs[1] },
	{ x: p.segs[p.segs.length - 2], y: -p.segs[p.segs.length - 1] }
];
const lines = (inner: string, size = 200) =>
	finish(traceLineCentres(greyRaster(inner, size, size), { pxPerMm: 1 }));

describe('line centres', () => {
	test('one straight stroke is one straight, end to end, whatever its width, direction and ends', () => {
		// At 45 degrees every pixel of its edge is a corner.
		const angles = fc.oneof(
			numberIn(0, 3.1),
			fc.constantFrom(Math.PI / 4, 0.79, 0.795, (3 * Math.PI) / 4, 2.345)
		);
		fc.assert(
			fc.property(
				angles,
				numberIn(2, 14),
				numberIn(0, 1),
				fc.constantFrom('butt', 'round', 'square'),
				(angle, width, by, cap) => {
					const [c, s] = [70 * Math.cos(angle), 70 * Math.sin(angle)];
					const [x0, y0] = [100 + by, 100.3];
					const { paths, widths } = lines(
						stroke(`M${x0 - c} ${y0 - s}L${x0 + c} ${y0 + s}`, width, `stroke-linecap="${cap}"`)
					);
					expect(paths).toHaveLength(1);
					// The rasteriser draws edges to a quarter of a pixel: by that it may bend by a hair.
					expect(paths[0].types.length).toBeLessThanOrEqual(2);
					const along = flattenPath(paths[0], 0.01);
					for (let k = 0; k < along.length; k += 2)
						expect(Math.abs((along[k] - x0) * s + (along[k + 1] + y0) * c) / 70).toBeLessThan(0.25);
					expect(Math.abs(widths![0] - width)).toBeLessThan(0.7);
					const at = ends(paths[0]);
					const far = cap === 'square' ? 1 + width / 140 : 1;
					// How a thin one ends is not seen by its few pixels: half of its width is in doubt.
					const off = width < 5 ? 0.2 + width / 2 : 0.4;
					for (const [x, y] of [
						[x0 - far * c, y0 - far * s],
						[x0 + far * c, y0 + far * s]
					])
						expect(Math.min(...at.map((p) => Math.hypot(p.x - x, p.y - y)))).toBeLessThan(off);
				}
			),
			{ numRuns: 40 }
		);
	});

	test('a crossing is one place of four lines, a T of three, a ring is closed; no spurs', () => {
		const cross = lines(stroke('M40 40L160 160M160 40L40 160', 6));
		expect(cross.paths).toHaveLength(4);
		for (const p of cross.paths)
			expect(Math.min(...ends(p).map((e) => Math.hypot(e.x - 100, e.y - 100)))).toBeLessThan(0.2);
		const tee = lines(stroke('M30 60H170M100 60V170', 7));
		expect(tee.paths).toHaveLength(3);
		for (const p of tee.paths)
			expect(Math.min(...ends(p).map((e) => Math.hypot(e.x - 100, e.y - 60)))).toBeLessThan(0.3);
		const ring = lines('<circle cx="100" cy="100" r="55" fill="none" stroke="#000" stroke-width="8"/>');
		expect(ring.paths).toHaveLength(1);
		expect(ring.paths[0].closed).toBe(true);
		// Circumference in closed form.
		expect(pathLength(ring.paths[0])).toBeCloseTo(2 * Math.PI * 55, 0);
	});

	test('a bent stroke keeps its corner sharp and its curves smooth, the line in the middle of the ink', () => {
		const d = 'M30 150L80 40L120 120C140 160 170 150 175 60';
		const { paths } = lines(stroke(d, 5, 'stroke-linejoin="miter"'));
		expect(paths).toHaveLength(1);
		const tree = pathTree(paths, 0.01);
		for (const [x, y] of [
			[80, 40],
			[120, 120],
			[55, 95]
		])
			expect(tree.distance(x, -y)).toBeLessThan(0.6);
		expect(paths[0].types.length).toBeLessThan(8);
	});

	test('thinning keeps parts together and leaves lines one pixel wide (Zhang and Suen 1984)', () => {
		const w = 40;
		const ink = new Uint8Array(w * w);
		for (let y = 10; y < 30; y++) for (let x = 5; x < 35; x++) ink[y * w + x] = 1;
		for (let y = 16; y < 24; y++) for (let x = 15; x < 25; x++) ink[y * w + x] = 0;
		const thinned = finish(thin(ink, w, w));
		const { chains } = skeletonNetwork(thinned, w, w);
		// A frame stays a ring.
		expect(chains.filter((c) => c.closed).length + chains.filter((c) => !c.closed).length).toBeGreaterThan(0);
		let blocks = 0;
		for (let i = 0; i + w + 1 < ink.length; i++)
			if (thinned[i] && thinned[i + 1] && thinned[i + w] && thinned[i + w + 1]) blocks++;
		expect(blocks).toBe(0);
		expect(thinned.reduce((a, v) => a + v, 0)).toBeLessThan(120);
	});
});

describe('colours', () => {
	const FLAG =
		'<rect x="10" y="10" width="50" height="80" fill="#b3412e"/><rect x="60" y="10" width="60" height="40" fill="#2c4a63"/><rect x="60" y="50" width="60" height="40" fill="#d9a441"/>';

	test('the flat colours are found, as many as there are; neighbours share their border, nothing of a third between', () => {
		const picture = colourRaster(FLAG, 130, 100, 5.3);
		expect(flatColours(picture, 'auto').map(hexOf).sort()).toEqual(
			['#ffffff', '#b3412e', '#2c4a63', '#d9a441'].sort()
		);
		const { paths, fills } = finish(traceByColours(picture, { pxPerMm: 5.3, colours: 4 }));
		expect(paths).toHaveLength(3);
		const area = (fill: string) => Math.abs(pathArea(paths[fills!.indexOf(fill)]));
		expect(area('#b3412e')).toBeCloseTo(50 * 80, 0);
		expect(area('#2c4a63')).toBeCloseTo(60 * 40, 0);
		expect(area('#d9a441')).toBeCloseTo(60 * 40, 0);
		// Shared: the three areas fill the rectangle around them without gap or overlap.
		expect(paths.reduce((a, p) => a + Math.abs(pathArea(p)), 0)).toBeCloseTo(110 * 80, 0);
		const tree = pathTree([paths[fills!.indexOf('#2c4a63')]], 0.001);
		const red = paths[fills!.indexOf('#b3412e')];
		for (let i = 0; i < red.types.length; i++) {
			const x = red.segs[STRIDE * i];
			const y = -red.segs[STRIDE * i + 1];
			if (Math.abs(x - 60) < 0.5 && y > 10.5 && y < 50.5) expect(tree.distance(x, -y)).toBeLessThan(1e-6);
		}
	});

	test('at the tips of slivers no border crosses itself or another', () => {
		const colours = ['#cc3333', '#3366cc', '#338833', '#ffdd00'];
		// Numbers 15 and 20 crossed before borders were looked at.
		for (const seed of [3, 15, 20, 1001]) {
			const random = chance(seed);
			const slivers = Array.from({ length: 9 }, (_, k) => {
				const [x, y] = [20 + 160 * random(), 20 + 120 * random()];
				const rad = 2 * Math.PI * random();
				const [long, wide] = [30 + 70 * random(), 2 + 10 * random()];
				const [c, s] = [Math.cos(rad), Math.sin(rad)];
				return `<path d="M${x} ${y}L${x + long * c} ${y + long * s}L${x - wide * s} ${y + wide * c}Z" fill="${colours[k % 4]}"/>`;
			});
			const picture = colourRaster(slivers.join(''), 200, 160, 3);
			const { paths, ground } = finish(traceByColours(picture, { pxPerMm: 3, colours: 5 }));
			expect(pathCrossings(paths).filter((c) => c.through || c.pathA === c.pathB)).toEqual([]);
			expect(ground).toBe('#ffffff');
		}
	});

	test('a mixture is no third colour: the edge between white and black has no grey patches', () => {
		const picture = colourRaster(
			'<rect x="5" y="5" width="20" height="30" fill="#000"/><circle cx="45" cy="20" r="14" fill="#808080"/><path d="M62 5L90 35H62Z" fill="#000"/>',
			95,
			40,
			4
		);
		const { fills } = finish(traceByColours(picture, { pxPerMm: 4, colours: 3 }));
		expect(fills!.filter((f) => f === '#808080')).toHaveLength(1);
		expect(fills!.filter((f) => f === '#000000')).toHaveLength(2);
	});

	test('labels, patches and borders: a speck goes to its neighbour; every loop is closed', () => {
		const picture = colourRaster(FLAG, 130, 100, 2);
		const palette = flatColours(picture, 4);
		const labels = labelPixels(picture, palette);
		const other = labels[0] === 0 ? 1 : 0;
		labels[205] = other;
		expect(finish(dropPatches(labels, picture.widthPx, picture.heightPx, 4))).toBe(1);
		expect(labels[205]).toBe(labels[0]);
		const { loops, chains } = finish(
			followBorders(labels, picture.widthPx, picture.heightPx, labels[0], () => 0.5)
		);
		expect(loops).toHaveLength(3);
		for (const loop of loops) expect(loop.area).toBeGreaterThan(0);
		expect(chains.every((c) => c.closed || c.start >= 0)).toBe(true);
	});

	test('lightness of white, grey and black in OKLab (Ottosson 2020): 1, about 0.6, 0', () => {
		expect(toOklab({ r: 255, g: 255, b: 255 })[0]).toBeCloseTo(1, 5);
		expect(toOklab({ r: 128, g: 128, b: 128 })[0]).toBeCloseTo(0.6, 2);
		expect(toOklab({ r: 0, g: 0, b: 0 })[0]).toBeCloseTo(0, 9);
	});

	test('bad counts, pictures of one colour', () => {
		const blank = colourRaster('', 30, 30);
		expect(() => flatColours(blank, 1)).toThrow(expect.objectContaining({ code: 'bad-colours' }));
		expect(() => finish(traceByColours(blank, { pxPerMm: 1, colours: 'auto' }))).toThrow(
			expect.objectContaining({ code: 'nothing-found' })
		);
	});
});

describe('light and noise', () => {
	test('light that falls off is evened out, also under a large solid; local tone keeps the solid solid', () => {
		const light = (x: number, y: number) => 1 - 0.45 * (x / 400) - 0.1 * (y / 300);
		const picture = tonePicture(
			400,
			300,
			(x, y) => (Math.hypot(x - 200, y - 150) < 90 ? 40 : 225) * light(x, y)
		);
		const even = evenLight(picture);
		for (const [x, y] of [
			[10, 10],
			[390, 20],
			[380, 290]
		])
			expect(Math.abs(even.grey[y * 400 + x] - 220)).toBeLessThan(8);
		for (const options of [{ way: 'tone', evenLight: true }, { way: 'local-tone' }] as const) {
			const { paths } = finish(
				tracePicture(
					{ grey: () => picture, alpha: () => picture, colour: () => colourRaster('', 1, 1) },
					{ pxPerMm: 1, ...options }
				)
			);
			expect(paths).toHaveLength(1);
			expect(Math.abs(pathArea(paths[0]))).toBeCloseTo(Math.PI * 90 * 90, -2);
		}
		expect(localTone(tonePicture(60, 60, () => 90)).grey[0]).toBe(90);
	});

	test('noise is told by its size and blurred away; blur is told by the edges', () => {
		const rnd = chance(4);
		const normal = () => Math.sqrt(-2 * Math.log(rnd() + 1e-12)) * Math.cos(2 * Math.PI * rnd());
		const noisy = tonePicture(300, 200, () => 128 + 9 * normal());
		expect(pixelNoise(noisy)).toBeGreaterThan(7.5);
		expect(pixelNoise(noisy)).toBeLessThan(10.5);
		// A Gaussian of sigma leaves 1 / (2 sigma sqrt pi) of white noise.
		expect(pixelNoise(blurred(noisy, 1.2))).toBeLessThan(3);
		const soft = (sigma: number) =>
			blurred(
				tonePicture(200, 200, (x) => (x < 100 ? 20 : 230)),
				sigma
			);
		for (const sigma of [1, 2]) {
			const picture = soft(sigma);
			const points = Float64Array.from(Array.from({ length: 160 }, (_, k) => [100, 20 + k]).flat());
			const told = edgeBlur(picture, [{ points }], 210);
			expect(told).toBeGreaterThan(0.7 * sigma);
			expect(told).toBeLessThan(1.3 * sigma);
		}
		expect(
			Array.from(
				levelled(
					tonePicture(3, 1, (x) => 50 * x + 50),
					50,
					200
				).grey
			)
		).toEqual([43, 128, 213]);
	});
});

describe('level lines', () => {
	test('of a cone are circles at equal steps, areas in closed form', () => {
		const cone = tonePicture(240, 240, (x, y) => Math.min(250, 10 + 2 * Math.hypot(x - 120, y - 120)));
		const source = { grey: () => cone, alpha: () => cone, colour: () => colourRaster('', 1, 1) };
		const { paths, fills } = finish(tracePicture(source, { way: 'levels', levels: 3, pxPerMm: 1 }));
		expect(new Set(fills).size).toBe(3);
		paths.forEach((path, i) => {
			const tone = parseInt(fills![i].slice(1, 3), 16);
			const radius = (tone - 10) / 2;
			if (radius < 115) expect(Math.sqrt(Math.abs(pathArea(path)) / Math.PI)).toBeCloseTo(radius, 0);
		});
		expect(() => finish(tracePicture(source, { way: 'levels', levels: 0, pxPerMm: 1 }))).toThrow(
			expect.objectContaining({ code: 'bad-levels' })
		);
	});
});

test('every way goes through one door, and shows what it sees', () => {
	const picture = colourRaster(
		'<path d="M8 30C10 8 30 8 32 30" fill="none" stroke="#234" stroke-width="4"/>',
		40,
		40,
		4
	);
	for (const way of WAYS) {
		const seen = seenByTracer(sourceOf(picture), { way, pxPerMm: 4 });
		expect(seen.rgba).toHaveLength(4 * 160 * 160);
		if (way === 'alpha') continue;
		const { paths, frame } = finish(tracePicture(sourceOf(picture), { way, pxPerMm: 4, levels: 2 }));
		expect(paths.length).toBeGreaterThan(0);
		expect(frame).toEqual({ w: 40, h: 40 });
	}
	expect(() => finish(traceByTone(sourceOf(picture).alpha(), { pxPerMm: 4 }))).toThrow(
		expect.objectContaining({ code: 'nothing-found' })
	);
});
