/** Fairing: near the true line under the noise, no shrinking, corners kept, within the band; few anchors. */
import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { EdgeTree, flattenPath, largestDistance, twoWayDistance } from '../geometry/edge-tree';
import { anchorCount, pathArea, pathLength, turnAt } from '../geometry/measure';
import {
	circlePath,
	PathBuilder,
	polygonPath,
	reversePath,
	transformPath,
	type Path
} from '../geometry/path';
import { directionAt, curvatureAt } from '../geometry/segment';
import { resample, samplePath } from './even-samples';
import { fairPath, fairSteps } from './fair';
import { solveSpline, splineAsPath, splineAtSamples, splineThrough } from './least-squares-spline';
import { mergeStraights } from '../geometry/straights';
import { cornersWithin, withoutTeeth } from './joints';
import { mergedArcs } from './merged-arcs';
import { isWobbly, shapeTurning, totalTurning } from './wobble';
import { simplifyPath, simplifySteps } from './simplify';

/** Numbers that look like chance, the same every time. */
function chance(seed: number): () => number {
	let s = seed >>> 0;
	return () => {
		s = (s * 1664525 + 1013904223) >>> 0;
		return s / 4294967296;
	};
}
/** The stairs that a grid of pixels makes of a path: its points on the grid, one step across or up at a time. */
function stairs(path: Path, pitch: number): Path {
	const flat = flattenPath(path, 1e-3);
	const out: number[] = [];
	const n = flat.length / 2;
	let last: [number, number] | undefined;
	for (let i = 0; i <= n; i++) {
		const [a, b] = [2 * ((i + n - 1) % n), 2 * (i % n)];
		for (let k = 0; k < 20; k++) {
			const x = Math.round((flat[a] + ((flat[b] - flat[a]) * k) / 20) / pitch);
			const y = Math.round((flat[a + 1] + ((flat[b + 1] - flat[a + 1]) * k) / 20) / pitch);
			if (last && last[0] === x && last[1] === y) continue;
			if (last && last[0] !== x && last[1] !== y) out.push(x * pitch, last[1] * pitch);
			out.push(x * pitch, y * pitch);
			last = [x, y];
		}
	}
	return mergeStraights(polygonPath(out));
}
/** Dense points along a path, thrown about by up to `size`. */
function jagged(path: Path, pitch: number, size: number, seed = 1): Path {
	const random = chance(seed);
	const flat = flattenPath(path, 1e-3);
	const out: number[] = [];
	for (let i = 0; i < flat.length; i += 2) {
		const j = (i + 2) % flat.length;
		const length = Math.hypot(flat[j] - flat[i], flat[j + 1] - flat[i + 1]);
		const parts = Math.max(1, Math.round(length / pitch));
		for (let k = 0.5; k < parts; k++) {
			out.push(
				flat[i] + ((flat[j] - flat[i]) * k) / parts + size * (2 * random() - 1),
				flat[i + 1] + ((flat[j + 1] - flat[i + 1]) * k) / parts + size * (2 * random() - 1)
			);
		}
	}
	return polygonPath(out);
}
const farthest = (from: Path, to: Path) =>
	largestDistance(
		[{ points: flattenPath(from, 1e-3), closed: true }],
		new EdgeTree([{ points: flattenPath(to, 1e-3), closed: true }]),
		0.05
	).distance;

describe('fairing', () => {
	test('a noisy circle does not shrink (Taubin 1995): area within 0.1 %, however often it is faired', () => {
		const circle = circlePath(0, 0, 40);
		let path = jagged(circle, 0.2, 0.06);
		for (let k = 0; k < 4; k++) {
			const faired = fairPath(path, { drift: 0.25 });
			if (faired.drift > 0) path = faired.path;
			expect(Math.abs(pathArea(path) / (1600 * Math.PI) - 1)).toBeLessThan(0.001);
		}
		expect(anchorCount(path)).toBeLessThanOrEqual(12);
		expect(farthest(path, circle)).toBeLessThan(0.05);
	});

	test('meant corners stay: a jagged square with a round side; nothing leaves the band', () => {
		const truth = new PathBuilder(0, 0).line(40, 0).line(40, 30).arc(0.4, 0, 30).close();
		const rough = jagged(truth, 0.15, 0.07, 7);
		const { path, drift } = fairPath(rough, { drift: 0.3 });
		expect(drift).toBeLessThanOrEqual(0.3);
		expect(twoWayDistance([rough], [path], 1e-3, 0.05).distance).toBeLessThanOrEqual(0.3 + 1e-6);
		for (const [x, y] of [
			[0, 0],
			[40, 0],
			[40, 30],
			[0, 30]
		]) {
			const near = Math.min(
				...Array.from(path.types, (_, i) => Math.hypot(path.segs[8 * i] - x, path.segs[8 * i + 1] - y))
			);
			expect(near).toBeLessThan(0.12);
		}
		expect(farthest(path, truth)).toBeLessThan(0.15);
		expect(anchorCount(path)).toBeLessThanOrEqual(8);
	});

	test('a free curve between two corners is smoothed and keeps to them; an open line keeps its ends', () => {
		const wave = new PathBuilder(0, 0).cubic(20, 30, 40, -25, 60, 4).line(60, -40).line(0, -40).close();
		const rough = jagged(wave, 0.15, 0.06, 3);
		const { path } = fairPath(rough, { drift: 0.3 });
		expect(farthest(path, wave)).toBeLessThan(0.15);
		expect(anchorCount(path)).toBeLessThan(14);
		const open = {
			...polygonPath(
				Array.from({ length: 400 }, (_, k) =>
					k % 2 ? 6 * Math.sin(k / 40) + 0.05 * Math.sin(9 * k) : k / 4
				),
				false
			)
		};
		const faired = fairPath(open, { drift: 0.3 });
		expect(faired.path.closed).toBe(false);
		expect(Math.hypot(faired.path.segs[0] - open.segs[0], faired.path.segs[1] - open.segs[1])).toBeLessThan(
			1e-6
		);
		expect(anchorCount(faired.path)).toBeLessThan(20);
	});

	test('a closed line is smooth through its start: no kink there, and none where it began before', () => {
		const blobby = jagged(
			new PathBuilder(30, 0).cubic(30, 25, -30, 30, -32, 0).cubic(-34, -28, 30, -25, 30, 0).close(),
			0.2,
			0.05,
			11
		);
		const { path } = fairPath(blobby, { drift: 0.25 });
		for (let i = 0; i < path.types.length; i++) expect(Math.abs(turnAt(path, i))).toBeLessThan(0.5);
		// Begun elsewhere it comes out alike.
		const half = 8 * Math.floor(blobby.types.length / 2);
		const shifted: Path = {
			...blobby,
			segs: Float64Array.from([...blobby.segs.subarray(half), ...blobby.segs.subarray(0, half)])
		};
		const other = fairPath(shifted, { drift: 0.25 }).path;
		expect(twoWayDistance([path], [other], 1e-3, 0.05).distance).toBeLessThan(0.05);
	});

	test('moved, turned, scaled with its drift, travelled the other way it gives the same line', () => {
		const rough = jagged(
			new PathBuilder(0, 0).line(30, 0).line(22, 18).arc(0.5, 0, 0).close(),
			0.15,
			0.06,
			5
		);
		const { path } = fairPath(rough, { drift: 0.25 });
		fc.assert(
			fc.property(fc.constantFrom(0.01, 3, 200), fc.integer({ min: -100, max: 100 }), (scale, x) => {
				const m = [0, scale, -scale, 0, x * scale, 5] as const;
				const there = fairPath(transformPath(rough, m), { drift: 0.25 * scale }).path;
				const off = twoWayDistance([there], [transformPath(path, m)], 1e-3 * scale, 0.05 * scale).distance;
				expect(off / scale).toBeLessThan(0.05);
			}),
			{ numRuns: 6 }
		);
		const back = fairPath(reversePath(rough), { drift: 0.25 }).path;
		expect(twoWayDistance([back], [path], 1e-3, 0.05).distance).toBeLessThan(0.08);
	});

	test('in doubt about a corner it asks: said to be one it stays sharp, said to be none it is rounded', () => {
		// Turns of 90 degrees are corners beyond doubt; those of 24 might be.
		const tan = Math.tan((12 * Math.PI) / 180);
		const truth = polygonPath([0, 0, 60, 0, 60, 30, 30, 30 + 30 * tan, 0, 30]);
		const rough = jagged(truth, 0.15, 0.05, 9);
		const plain = fairPath(rough, { drift: 0.3 });
		const tip = { x: 30, y: 30 + 30 * tan };
		const near = plain.doubtful.filter((d) => Math.hypot(d.x - tip.x, d.y - tip.y) < 2);
		expect(near).toHaveLength(1);
		expect(plain.doubtful.every((d) => d.y > 20)).toBe(true);
		const sharpest = (path: Path) =>
			Math.max(
				0,
				...Array.from(path.types, (_, i) => i)
					.filter((i) => Math.hypot(path.segs[8 * i] - tip.x, path.segs[8 * i + 1] - tip.y) < 3)
					.map((i) => Math.abs(turnAt(path, i)))
			);
		const sharp = fairPath(rough, { drift: 0.3, verdicts: [{ ...tip, isCorner: true }] });
		expect(sharpest(sharp.path)).toBeGreaterThan(18);
		expect(sharp.doubtful.find((d) => Math.hypot(d.x - tip.x, d.y - tip.y) < 2)?.isCorner).toBe(true);
		const round = fairPath(rough, { drift: 0.3, verdicts: [{ ...tip, isCorner: false }] });
		expect(sharpest(round.path)).toBeLessThan(1);
		expect(round.doubtful.find((d) => Math.hypot(d.x - tip.x, d.y - tip.y) < 2)?.isCorner).toBe(false);
		expect(round.drift).toBeLessThanOrEqual(0.3);
		// A square's corner said to be none goes as well, as far as the drift lets it.
		const bent = fairPath(rough, { drift: 1, verdicts: [{ x: 60, y: 30, isCorner: false }] });
		const there = Array.from(bent.path.types, (_, i) => i).filter(
			(i) => Math.hypot(bent.path.segs[8 * i] - 60, bent.path.segs[8 * i + 1] - 30) < 4
		);
		for (const i of there) expect(Math.abs(turnAt(bent.path, i))).toBeLessThan(5);
	});

	test('stairs of a crescent become few curves that turn as it does, its two tips within the band', () => {
		const crescent = new PathBuilder(0, 46)
			.cubic(-26, 38, -40, 14, -34, -12)
			.cubic(-28, -38, -2, -54, 24, -46)
			.cubic(6, -40, -8, -26, -12, -6)
			.cubic(-16, 14, -12, 32, 0, 46)
			.close();
		const pitch = 1 / 3;
		for (const drift of [0.36, 0.42, 0.5]) {
			const rough = stairs(crescent, pitch);
			const { path, drift: moved } = fairPath(rough, { drift });
			expect(moved).toBeGreaterThan(0);
			expect(moved).toBeLessThanOrEqual(drift);
			expect(anchorCount(path)).toBeLessThanOrEqual(14);
			expect(totalTurning(path)).toBeLessThan(1.25 * totalTurning(crescent));
			expect(farthest(path, crescent)).toBeLessThan(0.45);
			expect(Math.abs(pathArea(path) / pathArea(crescent) - 1)).toBeLessThan(0.01);
		}
	});

	test('turning: of a circle 360 degrees, of a square four right angles; a jagged line turns no more in shape than what it was', () => {
		const circle = circlePath(0, 0, 30);
		expect(totalTurning(circle)).toBeCloseTo(360, 6);
		expect(totalTurning(polygonPath([0, 0, 9, 0, 9, 9, 0, 9]))).toBeCloseTo(360, 6);
		const rough = jagged(circle, 0.2, 0.1);
		expect(totalTurning(rough)).toBeGreaterThan(5000);
		const shape = shapeTurning(rough, pathLength(rough), 0.25);
		expect(shape).toBeGreaterThan(340);
		expect(shape).toBeLessThan(460);
		expect(isWobbly(totalTurning(circle), shape)).toBe(false);
		expect(isWobbly(totalTurning(rough), shape)).toBe(true);
	});

	test('short sides of a zigzag are teeth, those of a step or a notch that goes one way are not; corners come into the band', () => {
		const zigzag = polygonPath([0, 0, 20, 0, 20.2, 0.3, 40, 0.3, 40, 20, 0, 20]);
		const { path, joints } = withoutTeeth(zigzag, 1);
		expect(joints).toHaveLength(1);
		expect(joints[0].x).toBeCloseTo(20.1, 9);
		expect(path.types).toHaveLength(5);
		expect(path.segs[8 + 0]).toBe(joints[0].x);
		// A blunted tip turns to one side at both ends.
		const blunt = polygonPath([0, 0, 20, 0, 20.2, 0.3, 0, 20]);
		expect(withoutTeeth(blunt, 1).joints).toEqual([]);
		expect(withoutTeeth(zigzag, 0.2).path).toBe(zigzag);
		// A tip drawn 3 mm too far comes back to where it may be; one that falls short goes out to it.
		const tip = polygonPath([0, 0, 40, -4, 40, 4]);
		for (const at of [-3, 2]) {
			const drawn = polygonPath([at, 0, 40, -4, 40, 4]);
			const kept = cornersWithin(drawn, tip, 0.4);
			expect(kept.distance).toBeLessThanOrEqual(0.4);
			expect(Math.abs(kept.path.segs[0])).toBeLessThan(0.5);
		}
	});

	test('progress grows from step to step, up to 1', () => {
		const rough = jagged(circlePath(0, 0, 30), 0.1, 0.05);
		for (const work of [fairSteps(rough, { drift: 0.2 }), simplifySteps(rough, 0.2)]) {
			const shares = [...work];
			expect(shares.length).toBeGreaterThan(2);
			shares.forEach((s, k) => {
				expect(s).toBeLessThanOrEqual(1);
				expect(s).toBeGreaterThanOrEqual(k > 0 ? shares[k - 1] : 0);
			});
		}
	});

	test('what is fair already, and what cannot be asked for', () => {
		const square = polygonPath([0, 0, 10, 0, 10, 10, 0, 10]);
		expect(fairPath(square, { drift: 0.1 })).toMatchObject({ path: square, drift: 0 });
		expect(() => fairPath(square, { drift: 0 })).toThrow('above 0 mm');
		expect(() => fairPath(square, { drift: -1 })).toThrow('above 0 mm');
		expect(() => fairPath(square, { drift: 1, strength: 0 })).toThrow('strength');
	});
});

describe('the spline by least squares', () => {
	test('samples of a parabola give it back; closed, a circle to a hair; an open one goes through its ends', () => {
		const x = Float64Array.from({ length: 200 }, (_, i) => i * 0.1);
		const y = x.map((v) => 0.02 * v * v - v);
		const samples = { x, y, closed: false, step: 0.1 };
		const spline = splineThrough(samples, 1, 1);
		expect(spline.rms).toBeLessThan(1e-6);
		const path = splineAsPath(spline);
		expect(Math.hypot(path.segs[0], path.segs[1])).toBeLessThan(1e-6);
		expect(path.types.length).toBeLessThan(8);
		const ring = samplePath(circlePath(0, 0, 20), 40 * Math.PI, 0.1);
		const round = splineAsPath(
			solveSpline(
				ring,
				Float64Array.from({ length: 13 }, (_, k) => (k * 40 * Math.PI) / 12)
			)
		);
		expect(pathArea(round)).toBeCloseTo(400 * Math.PI, 1);
		// Curvature-continuous, over the start as well (C2 of a cubic B-spline).
		for (let i = 0; i < 12; i++) {
			const before = curvatureAt(1, round.segs, 8 * ((i + 11) % 12), 1);
			expect(curvatureAt(1, round.segs, 8 * i, 0)).toBeCloseTo(before, 6);
			const a = directionAt(1, round.segs, 8 * ((i + 11) % 12), 1);
			const b = directionAt(1, round.segs, 8 * i, 0);
			expect(a.x * b.y - a.y * b.x).toBeCloseTo(0, 9);
		}
	});
	test('samples are even, means of their stretches; taken again along a smoother line they stay on the line', () => {
		const stairs: number[] = [];
		for (let k = 0; k < 60; k++) stairs.push(k, k, k + 1, k);
		const path = polygonPath(stairs, false);
		const samples = samplePath(path, 119, 4);
		expect(samples.x.length).toBeGreaterThan(28);
		for (let i = 1; i + 1 < samples.x.length; i++)
			expect(Math.abs(samples.x[i] - samples.y[i] - 0.5)).toBeLessThan(0.3);
		const smooth = splineAtSamples(splineThrough(samples, 20, 1), samples);
		const again = resample(samples, smooth, 3);
		for (let i = 1; i + 1 < again.x.length; i++)
			expect(Math.abs(again.x[i] - again.y[i] - 0.5)).toBeLessThan(0.4);
	});
});

describe('simplify by way of fairing', () => {
	test('curves of one circle become one arc; what is no circle stays to the last bit', () => {
		const k = (4 / 3) * Math.tan(Math.PI / 16);
		const turn = (from: number) => {
			// An eighth of a circle of radius 10 about the origin (Goldapp 1991).
			const [a, b] = [from, from + Math.PI / 4];
			return [
				10 * (Math.cos(a) - k * Math.sin(a)),
				10 * (Math.sin(a) + k * Math.cos(a)),
				10 * (Math.cos(b) + k * Math.sin(b)),
				10 * (Math.sin(b) - k * Math.cos(b)),
				10 * Math.cos(b),
				10 * Math.sin(b)
			] as const;
		};
		const builder = new PathBuilder(10, 0);
		for (let i = 0; i < 4; i++) builder.cubic(...turn((i * Math.PI) / 4));
		const half = builder.line(-10, -20).line(10, -20).close();
		const merged = mergedArcs(half, 0.01);
		expect([...merged.types]).toEqual([2, 0, 0, 0]);
		expect(pathArea(merged)).toBeCloseTo(50 * Math.PI + 400, 1);
		const wave = new PathBuilder(0, 0).cubic(10, 12, 20, -12, 30, 0).cubic(40, 12, 50, -12, 60, 0).open();
		expect(mergedArcs(wave, 0.05).segs).toEqual(wave.segs);
	});

	test('a jagged outline loses nearly all its anchors and stays within the tolerance; corners between long sides exactly', () => {
		const truth = new PathBuilder(0, 0).line(50, 0).line(50, 20).arc(0.3, 0, 20).close();
		const rough = jagged(truth, 0.1, 0.05, 2);
		const simple = simplifyPath(rough, 0.2);
		expect(anchorCount(simple.path)).toBeLessThanOrEqual(8);
		expect(twoWayDistance([rough], [simple.path], 1e-3, 0.02).distance).toBeLessThanOrEqual(0.2 + 1e-6);
		const bent = new PathBuilder(0, 0)
			.line(30, 0)
			.line(30, 20)
			.cubic(22, 24, 18, 24, 15, 22)
			.cubic(12, 20, 6, 20, 0, 22)
			.close();
		const kept = simplifyPath(bent, 0.05).path;
		for (const [x, y] of [
			[0, 0],
			[30, 0],
			[30, 20]
		])
			expect(Array.from(kept.types, (_, i) => [kept.segs[8 * i], kept.segs[8 * i + 1]])).toContainEqual([
				x,
				y
			]);
	});
});
