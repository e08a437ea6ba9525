import { describe, expect, test } from 'vitest';
import { coverOf, type Row } from '../../../../../tests/cover';
import { chance, STAR } from '../../../../../tests/shapes';
import { EdgeTree, flattenPath, twoWayDistance } from '../../geometry/edge-tree';
import {
	ARC,
	CUBIC,
	PathBuilder,
	polygonPath,
	STRAIGHT,
	transformPath,
	type Path
} from '../../geometry/path';
import { finish } from '../../progress';
import type { GreyPicture } from '../picture';
import { traceByTone } from '../trace';
import { likeliest } from './likeliest';
import { Line } from './line';
import { netOf, pathsOf } from './net';
import { placesOf, through } from './places';
import { pixelsBeside } from './beside';
import type { Witness } from './settle';
import { inkAndPaper, tones } from './tones';
import { twoTones, type IsInk } from './two-tones';

const SIDE = 240;
/** Ink where a pixel is covered by half or more; with `rough`, where chance says otherwise beside the edge. */
function twoTone(rows: readonly Row[], rough = 0): GreyPicture {
	const r = chance(11);
	const share = coverOf(rows, SIDE, SIDE);
	const scatter = () => rough * (r() + r() + r() + r() - 2) * Math.sqrt(3);
	return {
		widthPx: SIDE,
		heightPx: SIDE,
		grey: Uint8Array.from(share, (c) => (c + scatter() >= 0.5 ? 0 : 255))
	};
}
const inkOf =
	({ grey }: GreyPicture): IsInk =>
	(i, j) =>
		i >= 0 && j >= 0 && i < SIDE && j < SIDE && grey[j * SIDE + i] === 0;
const rowOf = (path: Path): Row => {
	const flat = flattenPath(path, 0.002);
	return Array.from({ length: flat.length / 2 }, (_, k) => [flat[2 * k], flat[2 * k + 1]] as const);
};
/** As it was traced, in the picture's own frame. */
const traced = (picture: GreyPicture, tolerance?: number): Path[] =>
	finish(traceByTone(picture, { pxPerMm: 1, tolerance })).paths.map((p) =>
		transformPath(p, [1, 0, 0, -1, 0, 0])
	);
/** An outline as it is likeliest by itself; the same one where nothing was done. */
function settled(path: Path, witness: Witness, mayChange: boolean): Path {
	const net = netOf(path);
	const likely = finish(likeliest(net, witness, { mayChange, oneIn: 1 }));
	return likely === net ? path : pathsOf(likely)[0];
}

describe('how a line goes with its places', () => {
	// An arc of more than a quarter, a cubic, a straight: against the outline drawn through places that went a little.
	const path = new PathBuilder(20, 30)
		.arc(-0.6, 90, 40)
		.cubic(120, 60, 70, 110, 110, 130)
		.line(20, 30)
		.close();
	const places = placesOf(netOf(path));
	const STEP = 1e-5;

	test.each([ARC, CUBIC, STRAIGHT])('segments of kind %i', (kind) => {
		const k = path.types.indexOf(kind);
		const line = new Line(netOf(path));
		const by = new Float64Array(8);
		places.of[k].forEach((place, i) => {
			for (const axis of [0, 1]) {
				const moved = { ...places, x: places.x.slice(), y: places.y.slice() };
				(axis ? moved.y : moved.x)[place] += STEP;
				const other = new Line(through(netOf(path), moved)!);
				for (const t of [0.15, 0.5, 0.8]) {
					line.go(k, t);
					const [x, y, nx, ny] = [line.x, line.y, -line.dy, line.dx];
					line.moves(nx, ny, by);
					other.nearest(k, t, x, y);
					other.go(k, other.found);
					const gone = (other.x - x) * nx + (other.y - y) * ny;
					expect(by[2 * i + axis]).toBeCloseTo(gone / STEP, 3);
				}
				for (const end of [0, 1] as const) {
					line.turns(k, end, 1, by, 0);
					line.go(k, end);
					const { dx, dy } = line;
					other.go(k, end);
					const turned = Math.atan2(dx * other.dy - dy * other.dx, dx * other.dx + dy * other.dy);
					expect(by[2 * i + axis]).toBeCloseTo(turned / STEP, 3);
				}
			}
		});
	});

	test('the nearest place is the nearest of many', () => {
		const line = new Line(netOf(path));
		const r = chance(5);
		for (let n = 0; n < 60; n++) {
			const k = n % 3;
			const t = r();
			line.go(k, t);
			const [x, y] = [line.x - 2 * line.dy * (r() - 0.5), line.y + 2 * line.dx * (r() - 0.5)];
			const off = line.nearest(k, Math.min(1, Math.max(0, t + 0.05 * (r() - 0.5))), x, y);
			for (let i = 0; i <= 400; i++) {
				line.go(k, i / 400);
				expect(off).toBeLessThanOrEqual(Math.hypot(line.x - x, line.y - y) + 1e-9);
			}
		}
	});
});

describe('settled on pixels of two tones', () => {
	test("a star's corners come within a tenth of a pixel, those that stood off too, and no pixel is on the wrong side", () => {
		const picture = twoTone([STAR]);
		const r = chance(2);
		const off = STAR.map(([x, y]) => [x + 0.8 * (r() - 0.5), y + 0.8 * (r() - 0.5)] as const);
		const isInk = inkOf(picture);
		const path = settled(polygonPath(off.flat()), twoTones(isInk), true);
		expect(path.types).toHaveLength(14);
		const corners = new EdgeTree([{ points: flattenPath(path, 0.01), closed: true }]);
		for (const [x, y] of STAR) expect(corners.distance(x, y)).toBeLessThan(0.1);
		expect(twoWayDistance([polygonPath(STAR.flat())], [path], 0.01).distance).toBeLessThan(0.15);
		const line = new Line(netOf(path));
		const pixels = twoTones(isInk);
		const { rough } = pixels.agreement(line, pixelsBeside(line, 1.5), 0.02);
		expect(Math.max(...rough)).toBeLessThan(0.05);
	});

	test('a straight bends, an arc is no circle any more, a cubic is parted where pixels ask for it, and nothing else', () => {
		const truth = new PathBuilder(40, 60)
			.arc(-0.01, 40, 200)
			.cubic(90, 216, 140, 214, 180, 200)
			.cubic(189, 150, 181, 100, 190, 40)
			.line(40, 60)
			.close();
		const isInk = inkOf(twoTone([rowOf(truth)]));
		const given = new PathBuilder(40, 60)
			.line(40, 200)
			.arc(-0.162, 180, 200)
			.cubic(186, 150, 184, 100, 190, 40)
			.line(40, 60)
			.close();
		const path = settled(given, twoTones(isInk), true);
		expect(twoWayDistance([truth], [path], 0.01).distance).toBeLessThan(0.5);
		expect(path.types.filter((t) => t === STRAIGHT)).toHaveLength(1);
		expect(path.types.length).toBeLessThanOrEqual(7);
		const kept = settled(given, twoTones(isInk), false);
		expect([...kept.types]).toEqual([...given.types]);
	});

	test('a short side that cuts a corner off is taken out', () => {
		const [a, b] = [STAR[0], STAR[1]];
		const far = Math.hypot(b[0] - a[0], b[1] - a[1]);
		const cut = [a[0] + (1.2 * (b[0] - a[0])) / far, a[1] + (1.2 * (b[1] - a[1])) / far] as const;
		const last = STAR[13];
		const back = [a[0] + (1.2 * (last[0] - a[0])) / far, a[1] + (1.2 * (last[1] - a[1])) / far] as const;
		const given = polygonPath([back, cut, ...STAR.slice(1)].flat());
		const path = settled(given, twoTones(inkOf(twoTone([STAR]))), true);
		expect(path.types).toHaveLength(14);
		expect(twoWayDistance([polygonPath(STAR.flat())], [path], 0.01).distance).toBeLessThan(0.2);
	});

	test('what ran on smoothly does so afterwards', () => {
		const truth = new PathBuilder(70, 40)
			.line(170, 47)
			.arc(1.02, 166, 147)
			.line(66, 140)
			.arc(0.98, 70, 40)
			.close();
		const path = traced(twoTone([rowOf(truth)]))[0];
		const line = new Line(netOf(path));
		const turns = Array.from(path.types.keys(), (k) => {
			line.go((k + path.types.length - 1) % path.types.length, 1);
			const { dx, dy } = line;
			line.go(k, 0);
			return Math.abs(Math.atan2(dx * line.dy - dy * line.dx, dx * line.dx + dy * line.dy));
		});
		// Radians; or else a corner.
		for (const turn of turns) expect(turn < 0.01 || turn > 0.2).toBe(true);
		expect(twoWayDistance([truth], [path], 0.01).distance).toBeLessThan(0.5);
	});

	test('a traced star has its corners where they are; a rough edge is not followed into its roughness', () => {
		const [star] = traced(twoTone([STAR]));
		expect(star.types).toHaveLength(14);
		expect(twoWayDistance([polygonPath(STAR.flat())], [star], 0.01).distance).toBeLessThan(0.15);
		const disc: Row = Array.from({ length: 300 }, (_, k) => {
			const a = -(2 * Math.PI * k) / 300;
			return [120.2 + 90 * Math.cos(a), 119.7 + 90 * Math.sin(a)] as const;
		});
		const circle = new PathBuilder(210, 120).arc(-1, 30, 120).arc(-1, 210, 120).close();
		const rough = settled(circle, twoTones(inkOf(twoTone([disc], 0.2))), true);
		expect(rough.types.length).toBeLessThanOrEqual(5);
		expect(twoWayDistance([polygonPath(disc.flat())], [rough], 0.01).distance).toBeLessThan(0.2);
	});
});

describe('settled on how much of each pixel is ink', () => {
	const covers = (rows: readonly Row[], scatter: (i: number, j: number) => number = () => 0) => {
		const share = coverOf(rows, SIDE, SIDE);
		const of = (i: number, j: number) =>
			i >= 0 && j >= 0 && i < SIDE && j < SIDE ? share[j * SIDE + i] + scatter(i, j) : 0;
		return tones(inkAndPaper(of));
	};

	test("a star's corners come within a twentieth of a pixel, those that stood off too", () => {
		const r = chance(7);
		const off = STAR.map(([x, y]) => [x + 0.9 * (r() - 0.5), y + 0.9 * (r() - 0.5)] as const);
		const path = settled(polygonPath(off.flat()), covers([STAR]), true);
		expect(path.types).toHaveLength(14);
		expect(twoWayDistance([polygonPath(STAR.flat())], [path], 0.01).distance).toBeLessThan(0.05);
	});

	test('the end of a stroke two pixels wide is where its ink ends', () => {
		const [dx, dy] = [Math.cos(0.3), Math.sin(0.3)];
		const stroke: Row = [
			[40.2, 60.3],
			[40.2 + 2 * dy, 60.3 - 2 * dx],
			[40.2 + 150 * dx + 2 * dy, 60.3 + 150 * dy - 2 * dx],
			[40.2 + 150 * dx, 60.3 + 150 * dy]
		].reverse() as unknown as Row;
		const rounded = polygonPath(
			stroke.flatMap(([x, y], k) => (k % 2 ? [x + 0.7 * dx, y + 0.6 * dy] : [x - 0.5 * dx, y - 0.7 * dy]))
		);
		const path = settled(rounded, covers([stroke]), true);
		expect(twoWayDistance([polygonPath(stroke.flat())], [path], 0.01).distance).toBeLessThan(0.12);
	});

	test('an outline that agrees is given back as it is; squares of pixels that stray together make no anchors', () => {
		const truth = new PathBuilder(200, 120).arc(-1, 40, 120).arc(-1, 200, 120).close();
		expect(settled(truth, covers([rowOf(truth)]), true)).toBe(truth);
		const r = chance(9);
		const strays = Float64Array.from({ length: 64 * 64 }, () => 0.1 * (r() - 0.5));
		const stray = (i: number, j: number) => strays[64 * (j >> 2) + (i >> 2)];
		const path = settled(truth, covers([rowOf(truth)], stray), true);
		expect(path.types.length).toBeLessThanOrEqual(3);
		expect(twoWayDistance([truth], [path], 0.01).distance).toBeLessThan(0.05);
	});

	test('a shape cut by the border ends on it; one that is traced from a region ends where that does', () => {
		const wide: Row = [
			[-20, 60],
			[-20, 180.4],
			[120.3, 180.4],
			[120.3, 60]
		];
		const grey = Uint8Array.from(coverOf([wide], SIDE, SIDE), (c) => Math.round(255 * (1 - c)));
		const picture = { widthPx: SIDE, heightPx: SIDE, grey };
		const xs = (region?: { x: number; y: number; w: number; h: number }) => {
			const [path] = finish(traceByTone(picture, { pxPerMm: 1, region })).paths;
			return Array.from(flattenPath(path, 0.01)).filter((_, k) => k % 2 === 0);
		};
		expect(Math.min(...xs())).toBeCloseTo(0, 2);
		expect(Math.max(...xs())).toBeCloseTo(120.3, 1);
		expect(Math.max(...xs({ x: 0, y: 0, w: 90, h: SIDE }))).toBeCloseTo(90, 2);
	});
});
