/** The steps before an outline is drawn, each by itself: labels, patches, tones, stairs, middle lines, junctions, how far edges lie off. */
import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { barAt, coverOf, type Row } from '../../../../tests/cover';
import { chance } from '../../../../tests/shapes';
import { circlePath, polygonPath } from '../geometry/path';
import { finish } from '../progress';
import { planChain } from './contour-fit';
import { edgeDistance, strayOf } from './edge-measures';
import { settle } from './junctions';
import { dropPatches, labelPixels } from './labels';
import { flatColours, hexOf, toOklab, type Colour } from './palette';
import { skeletonNetwork, thin } from './skeleton';
import { pointsBehindStairs } from './stairs';
import { middleOf, Profile } from './stroke-middles';
import { classTones, edgeTone, otsuThreshold, toneHistogram } from './threshold';

const RED: Colour = { r: 200, g: 40, b: 40 };
const SAND: Colour = { r: 240, g: 230, b: 200 };
const BLUE: Colour = { r: 30, g: 60, b: 160 };

/** A picture of flat colours: which one a pixel has, by its number; a mixture by two and the share of the first. */
function picture(widthPx: number, heightPx: number, of: (x: number, y: number) => Colour) {
	const rgba = new Uint8Array(4 * widthPx * heightPx).fill(255);
	for (let i = 0; i < widthPx * heightPx; i++) {
		const { r, g, b } = of(i % widthPx, Math.floor(i / widthPx));
		rgba.set([Math.round(r), Math.round(g), Math.round(b)], 4 * i);
	}
	return { widthPx, heightPx, rgba };
}
const mixed = (a: Colour, b: Colour, share: number): Colour => ({
	r: b.r + share * (a.r - b.r),
	g: b.g + share * (a.g - b.g),
	b: b.b + share * (a.b - b.b)
});

describe('flat colours', () => {
	test('are found by themselves, the commonest first; a few odd pixels are none', () => {
		const seen = picture(40, 30, (x, y) => (x < 18 ? RED : y < 9 ? BLUE : SAND));
		seen.rgba.set([0, 255, 0], 4 * (40 * 20 + 30));
		expect(flatColours(seen, 'auto').map(hexOf)).toEqual([RED, SAND, BLUE].map(hexOf));
		expect(flatColours(seen, 2)).toHaveLength(2);
		expect(() => flatColours(seen, 1)).toThrow('from 2 to 64');
		expect(() => flatColours(seen, 2.5)).toThrow('from 2 to 64');
	});

	test('equal distances look equally different: grey steps by OKLab (Ottosson 2020: white is 1, 0, 0)', () => {
		const [l, a, b] = toOklab({ r: 255, g: 255, b: 255 });
		expect([l, a, b]).toEqual([1, 0, 0].map((v) => expect.closeTo(v, 3)));
		expect(toOklab({ r: 0, g: 0, b: 0 })).toEqual([0, 0, 0]);
		// The same page: pure red is 0.628, 0.225, 0.126.
		expect(toOklab({ r: 255, g: 0, b: 0 })).toEqual([0.628, 0.225, 0.126].map((v) => expect.closeTo(v, 3)));
	});

	test('a pixel on an edge goes to what fills more of it, never to a third colour that looks like the mixture', () => {
		const purple = mixed(RED, BLUE, 0.5);
		const palette = [RED, BLUE, purple];
		for (const share of [0.2, 0.4, 0.6, 0.8]) {
			// Red on the left, blue on the right, one column of mixtures between; purple is somewhere else.
			const seen = picture(20, 12, (x, y) =>
				y > 9 ? purple : x < 10 ? RED : x > 10 ? BLUE : mixed(RED, BLUE, share)
			);
			const labels = labelPixels(seen, palette);
			for (let y = 0; y < 7; y++) expect(labels[20 * y + 10], `${share}`).toBe(share > 0.5 ? 0 : 1);
			expect([labels[20 * 11], labels[20 * 3], labels[20 * 3 + 19]]).toEqual([2, 0, 1]);
		}
	});

	test('small patches go to the neighbour that they touch most, larger ones stay', () => {
		const labels = new Uint8Array(100);
		for (let y = 0; y < 10; y++) for (let x = 5; x < 10; x++) labels[10 * y + x] = 1;
		// Two pixels of a third kind, more of their edge on the right; three of a fourth in a corner.
		labels[54] = labels[55] = labels[56] = 2;
		labels[0] = labels[1] = labels[10] = labels[11] = 3;
		const counted = Uint8Array.from(labels);
		expect(finish(dropPatches(counted, 10, 10, 4))).toBe(1);
		expect([counted[54], counted[55], counted[56]]).toEqual([1, 1, 1]);
		expect(counted[0]).toBe(3);
		expect(finish(dropPatches(counted, 10, 10, 5))).toBe(1);
		expect(counted[0]).toBe(0);
	});
});

describe('tones', () => {
	test('the threshold is the one that parts two classes best, tried against all (Otsu 1979)', () => {
		const counts = fc.array(fc.nat(60), { minLength: 256, maxLength: 256 });
		const between = (list: readonly number[], at: number) => {
			const part = (from: number, to: number) => {
				const own = list.slice(from, to);
				const weight = own.reduce((a, b) => a + b, 0);
				return { weight, mean: own.reduce((sum, n, v) => sum + n * (from + v), 0) / weight };
			};
			const [a, b] = [part(0, at + 1), part(at + 1, 256)];
			return a.weight && b.weight ? a.weight * b.weight * (a.mean - b.mean) ** 2 : -1;
		};
		fc.assert(
			fc.property(counts, (list) => {
				const best = Math.max(...Array.from({ length: 255 }, (_, v) => between(list, v)));
				const found = otsuThreshold(list);
				if (best <= 0) return;
				expect(between(list, Math.floor(found))).toBeGreaterThan(best * (1 - 1e-9));
			}),
			{ numRuns: 40 }
		);
	});

	test('plain ink and paper are told though edges lie between them; the edge is half way', () => {
		const counts = new Uint32Array(256).fill(3);
		counts[38] = 900;
		counts[40] = 1100;
		counts[221] = 5000;
		const { dark, bright } = classTones(counts);
		expect(dark).toBeCloseTo(39.1, 0);
		expect(bright).toBeCloseTo(221, 0);
		expect(edgeTone(counts)).toBeCloseTo((dark + bright) / 2, 9);
		const plain = toneHistogram(new Uint8Array(50).fill(77));
		expect(plain[77]).toBe(50);
		expect(otsuThreshold(plain)).toBe(77);
		expect(edgeTone(plain)).toBe(77);
	});
});

describe('the line behind stairs', () => {
	/** Directions of a walk round the pixels whose middles lie under a straight, and back round a box below. */
	const stairs = (slope: number, long: number): number[] => {
		const heights = Array.from({ length: long }, (_, x) => Math.round(20 + slope * (x + 0.5)));
		const dirs: number[] = [];
		let at = heights[0];
		for (const h of heights) {
			for (; at < h; at++) dirs.push(1);
			for (; at > h; at--) dirs.push(3);
			dirs.push(0);
		}
		for (; at > 0; at--) dirs.push(3);
		for (let k = 0; k < long; k++) dirs.push(2);
		for (; at < heights[0]; at++) dirs.push(1);
		return dirs;
	};

	test('lies within half a pixel of it wherever it rises evenly, and less than the stairs do', () => {
		for (const slope of [0.11, 0.24, 0.37, 0.5, 0.83]) {
			const points = pointsBehindStairs(0, Math.round(20 + slope / 2), stairs(slope, 90));
			let worst = 0;
			for (let k = 0; k < points.length; k += 2) {
				const [x, y] = [points[k], points[k + 1]];
				if (x > 12 && x < 78 && y > 10)
					worst = Math.max(worst, Math.abs(y - 20 - slope * x) / Math.hypot(1, slope));
			}
			expect(worst, `${slope}`).toBeLessThan(0.5);
		}
	});

	test('a square stays one, with its corners', () => {
		const walk = [0, 1, 2, 3].flatMap((dir) => Array<number>(8).fill(dir));
		const points = pointsBehindStairs(3, 4, walk);
		const has = (x: number, y: number) =>
			Array.from(points).some((_, k) => k % 2 === 0 && points[k] === x && points[k + 1] === y);
		for (const [x, y] of [
			[3, 4],
			[11, 4],
			[11, 12],
			[3, 12]
		])
			expect(has(x, y), `${x}, ${y}`).toBe(true);
		for (let k = 0; k < points.length; k += 2) {
			const [x, y] = [points[k], points[k + 1]];
			expect([3, 11].includes(x) || [4, 12].includes(y)).toBe(true);
		}
	});
});

describe('middle lines', () => {
	const inkOf = (rows: readonly Row[], side: number) =>
		Uint8Array.from(coverOf(rows, side, side), (c) => (c > 0.5 ? 1 : 0));
	const pieces = (ink: Uint8Array, side: number, of: 0 | 1, isCornered: boolean): number => {
		const seen = new Uint8Array(ink.length);
		let count = 0;
		for (let start = 0; start < ink.length; start++) {
			if (seen[start] || ink[start] !== of) continue;
			count++;
			const stack = [start];
			seen[start] = 1;
			while (stack.length) {
				const i = stack.pop()!;
				for (let dy = -1; dy <= 1; dy++)
					for (let dx = -1; dx <= 1; dx++) {
						if (!isCornered && dx !== 0 && dy !== 0) continue;
						const [x, y] = [(i % side) + dx, Math.floor(i / side) + dy];
						const j = y * side + x;
						if (x < 0 || y < 0 || x >= side || y >= side || seen[j] || ink[j] !== of) continue;
						seen[j] = 1;
						stack.push(j);
					}
			}
		}
		return count;
	};

	test('thinned, what hung together hangs together and holes stay holes, whatever the ink', () => {
		for (let n = 0; n < 25; n++) {
			const r = chance(n);
			const side = 40;
			const bars = Array.from({ length: 5 }, () =>
				barAt(8 + 24 * r(), 8 + 24 * r(), 6 * r(), 4 + 12 * r(), 1 + 2 * r())
			);
			const ink = inkOf(bars, side);
			for (let k = 0; k < side; k++)
				ink[k] = ink[side * (side - 1) + k] = ink[side * k] = ink[side * k + side - 1] = 0;
			const thinned = finish(thin(ink, side, side));
			expect(thinned.every((v, i) => v <= ink[i])).toBe(true);
			expect(pieces(thinned, side, 1, true), `ink ${n}`).toBe(pieces(ink, side, 1, true));
			expect(pieces(thinned, side, 0, false), `paper ${n}`).toBe(pieces(ink, side, 0, false));
			// Every pixel of it is in a chain or a node, once.
			const { chains, nodes } = skeletonNetwork(thinned, side, side);
			const inner = chains.flatMap((c) => (c.closed ? c.pixels : c.pixels.slice(1, -1)));
			expect(new Set(inner).size, `chains ${n}`).toBe(inner.length);
			for (const { start, end, closed } of chains)
				expect(closed ? start : Math.min(start, end) < nodes.length).toBe(closed ? -1 : true);
		}
	});

	test('thinned, a bar is as long as it was, less half of its width at each end, whichever way it lies', () => {
		const side = 80;
		for (let n = 0; n < 120; n++) {
			const r = chance(900 + n);
			// A third of them at 45 degrees or next to it.
			const angle = n % 3 ? 6.28 * r() : Math.PI / 4 + (n % 2 ? Math.PI / 2 : 0) + 0.02 * (r() - 0.5);
			const [x, y, wide] = [side / 2 + r(), side / 2 + r(), 0.5 + 3 * r()];
			const thinned = finish(thin(inkOf([barAt(x, y, angle, 30, wide)], side), side, side));
			const along = Array.from(thinned.keys())
				.filter((i) => thinned[i])
				.map(
					(i) => ((i % side) + 0.5 - x) * Math.cos(angle) + (Math.floor(i / side) + 0.5 - y) * Math.sin(angle)
				);
			expect([n, Math.max(...along) > 28 - wide, Math.min(...along) < wide - 28]).toEqual([n, true, true]);
		}
	});

	test('the middle of a slanted bar is found to a tenth of a pixel, and its width', () => {
		for (const [angle, wide] of [
			[0.2, 4],
			[0.7, 5.5],
			[1.3, 7]
		]) {
			const side = 70;
			const [c, s] = [Math.cos(angle), Math.sin(angle)];
			const at = (u: number, v: number) => [35.3 + u * c - v * s, 34.6 + u * s + v * c] as const;
			const row: Row = [at(-25, -wide / 2), at(25, -wide / 2), at(25, wide / 2), at(-25, wide / 2)];
			const grey = Uint8Array.from(coverOf([row], side, side), (share) => Math.round(255 * (1 - share)));
			const ink = Uint8Array.from(grey, (v) => (v < 128 ? 1 : 0));
			const [chain] = skeletonNetwork(finish(thin(ink, side, side)), side, side).chains;
			const depth = new Float32Array(side * side).fill(wide / 2);
			const profile = new Profile({ widthPx: side, heightPx: side, grey }, 0, 255);
			const { points, width } = middleOf(chain, depth, side, profile, [true, true]);
			expect(width).toBeCloseTo(wide, 0);
			for (let k = 0; k < points.length; k += 2) {
				const [dx, dy] = [points[k] - 35.3, points[k + 1] - 34.6];
				const along = dx * c + dy * s;
				if (Math.abs(along) < 20) expect(Math.abs(dy * c - dx * s)).toBeLessThan(0.12);
			}
			// Carried on to where it is cut off square.
			const ends = [points.slice(0, 2), points.slice(-2)].map(([x, y]) =>
				Math.abs((x - 35.3) * c + (y - 34.6) * s)
			);
			for (const end of ends) expect(Math.abs(end - 25)).toBeLessThan(0.8);
		}
	});
});

describe('junctions', () => {
	/** Four edges of a cross that meet somewhere, each followed from a little way off. */
	const chainsAt = (x: number, y: number, turn: number) =>
		[0, 1, 2, 3].map((k) => {
			const a = turn + (Math.PI * k) / 2;
			return Float64Array.from({ length: 60 }, (_, i) => {
				const along = 2 + Math.floor(i / 2);
				return i % 2 ? y + along * Math.sin(a) : x + along * Math.cos(a);
			});
		});

	test('they stand where all that comes in meets, though they were seen beside it; too far off they stay', () => {
		const fit = { tolerance: 0.2, noise: 0.02, blur: 0, stairs: false, cornerAngle: 30 };
		for (const turn of [0.1, 0.5, 1.2]) {
			const plans = chainsAt(40.3, 29.6, turn).map((points) => planChain(points, fit, [1.2, 1.2]));
			const ends = plans.map(() => ({ closed: false, start: 0, end: 1 }));
			const rest = Float64Array.of(40, 30, 500, 500);
			const [at] = settle(rest, ends, plans);
			expect([at.x, at.y]).toEqual([40.3, 29.6].map((v) => expect.closeTo(v, 1)));
			// Seen a hundred pixels away it is another place.
			const [far] = settle(Float64Array.of(140, 30, 500, 500), ends, plans);
			expect(far).toEqual({ x: 140, y: 30 });
		}
	});

	test('without plans they stay where they were found', () => {
		const places = settle(Float64Array.of(3, 4), [{ closed: false, start: 0, end: 0 }], [undefined]);
		expect(places).toEqual([{ x: 3, y: 4 }]);
	});
});

describe('how far edges lie from their paths', () => {
	const ring = (radius: number, n = 200) =>
		Float64Array.from({ length: 2 * n }, (_, k) => {
			const a = (Math.PI * 2 * Math.floor(k / 2)) / n;
			return 50 + radius * (k % 2 ? Math.sin(a) : Math.cos(a));
		});

	test('the worst and the mean of all, and where; nothing where there is no path', () => {
		const edge = ring(20.5);
		edge[0] = 50 + 22;
		const told = finish(edgeDistance([circlePath(50, 50, 20)], [{ points: edge }]));
		expect(told.worst).toBeCloseTo(2, 1);
		expect([told.x, told.y]).toEqual([expect.closeTo(72, 1), expect.closeTo(50, 1)]);
		expect(told.mean).toBeGreaterThan(0.49);
		expect(told.mean).toBeLessThan(0.53);
		const none = polygonPath([]);
		expect(finish(edgeDistance([none], [{ points: edge }]))).toEqual({ worst: 0, mean: 0, x: 0, y: 0 });
	});

	test('all along the line it is told only where that is asked for, in millimetres with y up', () => {
		const paths = [circlePath(50, 50, 20)];
		const edges = [{ points: ring(20.5) }];
		expect(strayOf({}, paths, edges, 4)).toEqual({});
		const { stray } = strayOf({ stray: true }, paths, edges, 4);
		const { samples } = stray![0];
		for (let k = 0; k < samples.length; k += 5) {
			expect(Math.hypot(samples[k] - 12.5, samples[k + 1] + 12.5)).toBeCloseTo(5, 6);
			expect(Math.abs(samples[k + 4])).toBeCloseTo(0.125, 2);
		}
	});
});
