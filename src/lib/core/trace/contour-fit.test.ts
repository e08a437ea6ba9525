/** Outlines as a draughtsman would draw them: few anchors, at the right places, the same whichever way the picture lies. */
import { describe, expect, test } from 'vitest';
import { glyph } from '../../../../tests/glyphs';
import { greyRaster } from '../../../../tests/raster';
import { blob } from '../../../../tests/shapes';
import { pathCrossings } from '../plane/crossings';
import { twoWayDistance } from '../geometry/edge-tree';
import { anchorCount } from '../geometry/measure';
import { ARC, CUBIC, STRAIGHT, transformPath, type Path } from '../geometry/path';
import { writePathData } from '../formats/svg-path';
import { chainEnd, drawChain, fitContour, planChain } from './contour-fit';
import { fitArc, fitFreeCubic, fitLine, fitTiedCubic, meetNear, offsFrom, rayNear } from './curves';
import { settle } from './junctions';
import type { GreyPicture } from './picture';
import { cutRun, misfit, mostOff, mostScatter, oneCurve } from './runs';
import { eliminate, solve2 } from '../linear/small';
import { toleranceFor, traceByTone, type TraceOptions } from './trace';
import { finish } from '../progress';

const trace = (picture: GreyPicture, options: Partial<TraceOptions> = {}) =>
	finish(traceByTone(picture, { pxPerMm: 1, ...options })).paths;
const types = (p: Path) => [...p.types].sort().join('');
const inked = (paths: readonly Path[]) =>
	`<path fill-rule="evenodd" d="${paths.map(writePathData).join('')}"/>`;

/** A picture turned by a quarter to the left, mirrored left to right, inverted, or shifted 3 px to the right and 2 down. */
function moved(
	{ widthPx, heightPx, grey }: GreyPicture,
	how: 'turned' | 'mirrored' | 'inverted' | 'shifted'
): GreyPicture {
	if (how === 'shifted') {
		const out = new Uint8Array(grey.length).fill(255);
		for (let y = 0; y + 2 < heightPx; y++)
			out.set(grey.subarray(y * widthPx, (y + 1) * widthPx - 3), (y + 2) * widthPx + 3);
		return { widthPx, heightPx, grey: out };
	}
	if (how === 'inverted') return { widthPx, heightPx, grey: grey.map((v) => 255 - v) };
	const [w, h] = how === 'turned' ? [heightPx, widthPx] : [widthPx, heightPx];
	const out = new Uint8Array(grey.length);
	for (let y = 0; y < heightPx; y++)
		for (let x = 0; x < widthPx; x++) {
			const [u, v] = how === 'turned' ? [y, widthPx - 1 - x] : [widthPx - 1 - x, y];
			out[v * w + u] = grey[y * widthPx + x];
		}
	return { widthPx: w, heightPx: h, grey: out };
}

describe('what is straight, round or sharp comes out so', () => {
	test('a rounded rectangle: four straights and four arcs, tangent; a slot: two and two; a disc: arcs alone', () => {
		const [plate] = trace(greyRaster('<rect x="20.3" y="30.7" width="150" height="90" rx="22"/>', 200, 150));
		expect(types(plate)).toBe([0, 0, 0, 0, 2, 2, 2, 2].join(''));
		const arcs = [...plate.types].flatMap((t, i) => (t === ARC ? [plate.segs[8 * i + 2]] : []));
		// A quarter each: bulge tan(22.5 degrees).
		for (const bulge of arcs) expect(Math.abs(bulge)).toBeCloseTo(Math.tan(Math.PI / 8), 2);
		const [slot] = trace(
			greyRaster(
				'<path d="M60.2 60.6L150.9 90.1" stroke="#000" stroke-width="36" stroke-linecap="round"/>',
				220,
				160
			)
		);
		expect(types(slot)).toBe('0022');
		const [disc] = trace(greyRaster('<circle cx="70.4" cy="66.1" r="44.7"/>', 140, 140));
		expect([...disc.types].every((t) => t === ARC)).toBe(true);
		const [a, b] = [disc.segs[0], disc.segs[8]].sort((p, q) => p - q);
		expect(Math.abs(b - a - 2 * 44.7)).toBeLessThan(0.1);
	});

	test('a star keeps its ten corners to a hundredth of a pixel', () => {
		const corners = Array.from({ length: 10 }, (_, k) => {
			const r = k % 2 ? 34 : 80;
			const t = (Math.PI * k) / 5 + 0.13;
			return { x: 100.3 + r * Math.sin(t), y: 100.8 - r * Math.cos(t) };
		});
		const [star] = trace(
			greyRaster(`<path d="M${corners.map((c) => `${c.x} ${c.y}`).join('L')}Z"/>`, 200, 200)
		);
		expect(types(star)).toBe('0'.repeat(10));
		for (const c of corners) {
			const off = Array.from({ length: 10 }, (_, k) =>
				Math.hypot(star.segs[8 * k] - c.x, -star.segs[8 * k + 1] - c.y)
			);
			expect(Math.min(...off)).toBeLessThan(0.06);
		}
	});

	test('letters of an open font, drawn and traced back: a fraction of a pixel off, no more anchors than the font has', () => {
		for (const letter of ['R', 'a', 's', 'k', '8', '&']) {
			const truth = glyph(letter, 220).map((p) => transformPath(p, [1, 0, 0, 1, 30, -200]));
			const paths = trace(greyRaster(inked(truth), 260, 260), { tolerance: 0.1 });
			expect(paths).toHaveLength(truth.length);
			expect(twoWayDistance(truth, paths, 0.02, 0.5).distance).toBeLessThan(0.9);
			const count = (list: readonly Path[]) => list.reduce((n, p) => n + anchorCount(p), 0);
			expect(count(paths)).toBeLessThanOrEqual(1.3 * count(truth));
			expect(pathCrossings(paths).filter((c) => c.through)).toEqual([]);
		}
	});
});

describe('the same whichever way the picture lies', () => {
	const puppet = (seed: number) =>
		greyRaster(
			inked([transformPath(blob(14, seed, 60), [1, 0, 0, 1, 100, -100])]) +
				'<rect x="8" y="8" width="30" height="18"/>',
			200,
			200
		);

	test('turned by a quarter, mirrored, inverted, shifted: the same anchors, the same line', () => {
		const count = (list: readonly Path[]) => list.reduce((n, p) => n + anchorCount(p), 0);
		const apart: number[] = [];
		for (let seed = 1; seed <= 12; seed++) {
			const picture = puppet(seed);
			const plain = trace(picture);
			for (const [how, back] of [
				['turned', [0, -1, 1, 0, 200, 0]],
				['mirrored', [-1, 0, 0, 1, 200, 0]],
				['inverted', [1, 0, 0, 1, 0, 0]],
				['shifted', [1, 0, 0, 1, -3, 2]]
			] as const) {
				const other = trace(moved(picture, how), { light: how === 'inverted' }).map((p) =>
					transformPath(p, back)
				);
				expect(other).toHaveLength(plain.length);
				expect(Math.abs(count(other) - count(plain))).toBeLessThanOrEqual(0.05 * count(plain));
				apart.push(twoWayDistance(plain, other, 0.002, 0.5).distance);
			}
		}
		// Where two ways of drawing cost the same, rounding may choose the other one: once in fifty at most.
		apart.sort((a, b) => a - b);
		expect(apart.at(-2)).toBeLessThan(0.02);
		expect(apart.at(-1)).toBeLessThan(0.2);
	});

	test('drawn again and traced again: about as many anchors, and at twice the size the same line', () => {
		for (const seed of [3, 11]) {
			const first = trace(puppet(seed));
			const again = trace(greyRaster(inked(first), 200, 200));
			const count = (list: readonly Path[]) => list.reduce((n, p) => n + anchorCount(p), 0);
			expect(Math.abs(count(again) - count(first))).toBeLessThanOrEqual(Math.max(4, 0.35 * count(first)));
			const twice = trace(greyRaster(inked(first), 200, 200, 2), { pxPerMm: 2 });
			expect(twoWayDistance(first, twice, 0.01, 0.5).distance).toBeLessThan(0.2);
		}
	});
});

describe('curves', () => {
	const points = (n: number, f: (t: number) => [number, number]) => {
		const x = new Float64Array(n);
		const y = new Float64Array(n);
		const s = new Float64Array(n);
		for (let i = 0; i < n; i++) {
			[x[i], y[i]] = f(i / (n - 1));
			if (i) s[i] = s[i - 1] + Math.hypot(x[i] - x[i - 1], y[i] - y[i - 1]);
		}
		return { x, y, s, from: 0, to: n - 1, count: n };
	};

	test('points on a straight, a circle, a cubic give it back', () => {
		const line = fitLine(points(30, (t) => [3 + 4 * t, 1 + 3 * t]));
		expect(line.tx).toBeCloseTo(0.8, 9);
		expect(Math.abs((5 - line.x) * line.ty - (2.5 - line.y) * line.tx)).toBeLessThan(1e-9);
		const arc = fitArc(points(40, (t) => [7 + 5 * Math.cos(t), -2 + 5 * Math.sin(t)]))!;
		expect([arc.cx, arc.cy, arc.r].map((v) => Math.round(1e6 * v) / 1e6)).toEqual([7, -2, 5]);
		expect(arc.turn).toBe(1);
		expect(fitArc(points(9, (t) => [t, 2 * t]))).toBeUndefined();
		const c = [0, 0, 20, 40, 70, 50, 90, 5];
		const cubic = points(80, (t) => {
			const v = 1 - t;
			return [0, 1].map(
				(k) => v * v * v * c[k] + 3 * v * v * t * c[2 + k] + 3 * v * t * t * c[4 + k] + t * t * t * c[6 + k]
			) as [number, number];
		});
		const free = fitFreeCubic(cubic, cubic.s);
		expect(misfit(free, cubic, 0).worst).toBeLessThan(0.12);
		const ends = [rayNear(free, 0, 0), rayNear(free, 90, 5)];
		const tied = fitTiedCubic(
			cubic,
			cubic.s,
			{ x: 0, y: 0, tx: ends[0].tx, ty: ends[0].ty },
			{ x: 90, y: 5 }
		);
		expect(misfit(tied, cubic, 0).worst).toBeLessThan(0.15);
		expect([tied.c[0], tied.c[1], tied.c[6], tied.c[7]]).toEqual([0, 0, 90, 5]);
		expect(
			offsFrom(
				line,
				points(5, (t) => [3 + 4 * t, 2 + 3 * t]),
				new Float64Array(5)
			)
		).toBe(5);
	});

	test('prolonged curves meet where they cross; parallel ones do not', () => {
		const level = fitLine(points(9, (t) => [10 * t, 0]));
		const circle = fitArc(points(40, (t) => [20 + 5 * Math.cos(2 + t), 3 + 5 * Math.sin(2 + t)]))!;
		const at = meetNear(level, circle, 16, 1)!;
		expect(at.y).toBeCloseTo(0, 9);
		expect(Math.hypot(at.x - 20, at.y - 3)).toBeCloseTo(5, 9);
		expect(meetNear(level, fitLine(points(9, (t) => [10 * t, 1])), 5, 0)).toBeUndefined();
		expect(solve2(2, 0, 4, 2, 8)).toEqual([1, 2]);
		expect(solve2(1, 1, 1, 2, 2)).toBeUndefined();
		const a = Float64Array.from([0, 1, 3, 2, 0, 4]);
		eliminate(a, 2);
		expect([a[2], a[5]]).toEqual([Infinity, NaN].map(() => expect.any(Number)));
	});

	test('a run of straight, arc, straight is cut just there; one kind alone stays one', () => {
		const run = points(240, (t) => {
			const s = 240 * t;
			if (s < 80) return [s, 0];
			if (s < 80 + 20 * Math.PI) {
				const a = (s - 80) / 40;
				return [80 + 40 * Math.sin(a), 40 - 40 * Math.cos(a)];
			}
			return [120, 40 + s - 80 - 20 * Math.PI];
		});
		const options = { tolerance: 0.1, noise: 0.01 };
		const out = finish(cutRun(run, 0, 239, options));
		expect(out.map((s) => s.curve.kind)).toEqual(['line', 'arc', 'line']);
		expect(Math.abs(run.s[out[0].to] - 80)).toBeLessThan(4);
		expect(oneCurve(run, 0, 70, options)?.kind).toBe('line');
		expect(oneCurve(run, 90, 130, options)?.kind).toBe('arc');
		expect(mostOff({ tolerance: 0.1, noise: 0.1 })).toBeGreaterThan(0.1);
		expect(mostScatter({ tolerance: 0.2, noise: 0 })).toBeCloseTo(0.1, 9);
		expect(toleranceFor(0)).toBeLessThan(toleranceFor(0.1));
	});

	test('chains end where they are told, and meet where all of them point', () => {
		const fit = { tolerance: 0.1, noise: 0.01, blur: 0, cornerAngle: 30 };
		const arm = (angle: number) =>
			planChain(
				Float64Array.from(
					Array.from({ length: 60 }, (_, k) => [
						50 + (60 - k) * Math.cos(angle),
						50 + (60 - k) * Math.sin(angle)
					]).flat()
				),
				fit,
				[0, 2]
			);
		const plans = [0.1, 2.2, 4.1].map(arm);
		const chains = plans.map((_, k) => ({ closed: false, start: k + 1, end: 0 }));
		const places = settle(Float64Array.from([50.7, 49.4, 0, 0, 0, 0, 0, 0]), chains, plans);
		expect(Math.hypot(places[0].x - 50, places[0].y - 50)).toBeLessThan(0.01);
		const path = drawChain(plans[0], { x: 110, y: 56 }, { x: 50, y: 50 }, fit);
		expect(path.closed).toBe(false);
		expect([path.segs[0], path.segs[1], path.segs.at(-2), path.segs.at(-1)]).toEqual([110, 56, 50, 50]);
		expect(chainEnd(plans[0], 'end').tx).toBeCloseTo(-Math.cos(0.1), 6);
		expect(fitContour(new Float64Array(4), fit).types).toHaveLength(0);
		expect([STRAIGHT, CUBIC]).toContain(path.types[0]);
	});
});
