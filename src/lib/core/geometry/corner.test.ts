/** Corners rounded, cut off, made of two lines. */
import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { problem } from '../../../../tests/refused';
import { numberIn } from '../../../../tests/numbers';
import { chance } from '../../../../tests/shapes';
import { unwrap } from '../errors';
import { arcShape } from './arc';
import { blendEnds, chamfer, cornerOf, fillet } from './corner';
import { pathTree } from './edge-tree';
import { pathArea, pathLength, turnAt } from './measure';
import {
	ARC,
	circlePath,
	CUBIC,
	PathBuilder,
	polygonPath,
	reversePath,
	STRAIGHT,
	STRIDE,
	type Path
} from './path';
import { directionAt, nearestOn, pointAt } from './segment';

const square = polygonPath([0, 0, 40, 0, 40, 40, 0, 40]);

describe('corners', () => {
	test('a fillet leaves r tan(half the deflection angle) of each straight (textbooks on setting out curves)', () => {
		for (const angle of [20, 60, 90, 135]) {
			const rad = (angle * Math.PI) / 180;
			const path = polygonPath([-50, 0, 0, 0, 50 * Math.cos(rad), 50 * Math.sin(rad)], false);
			const rounded = unwrap(fillet(path, 1, 4));
			expect(rounded.segs[6]).toBeCloseTo(-4 * Math.tan(rad / 2), 9);
			expect([...rounded.types]).toEqual([0, ARC, 0]);
		}
	});
	test('the arc touches both sides tangentially (below 1e-6 degrees) and has the radius, straight or curved', () => {
		fc.assert(
			fc.property(fc.integer({ min: 1, max: 5000 }), numberIn(0.2, 1.5), (seed, radius) => {
				const rnd = chance(seed);
				const path = new PathBuilder(-20, 4 * rnd())
					.cubic(-12, 6 * rnd(), -6, 4 * rnd(), 0, 0)
					.cubic(3 * rnd(), 5, 4 + 3 * rnd(), 12, 2, 20)
					.open();
				const r = fillet(path, 1, radius);
				if (!r.ok) return;
				const k = [...r.value.types].indexOf(ARC);
				const s = r.value.segs;
				const at = STRIDE * k;
				expect(arcShape(s[at], s[at + 1], s[at + 6], s[at + 7], s[at + 2]).radius / radius).toBeCloseTo(1, 8);
				for (const [i, j] of [
					[k - 1, k],
					[k, k + 1]
				]) {
					const a = directionAt(r.value.types[i], s, STRIDE * i, 1);
					const b = directionAt(r.value.types[j], s, STRIDE * j, 0);
					expect(Math.abs(Math.asin(a.x * b.y - a.y * b.x)) * (180 / Math.PI)).toBeLessThan(1e-6);
				}
			}),
			{ numRuns: 40 }
		);
	});
	test('a radius too large is refused with the largest that fits, and that one fits (common practice)', () => {
		const { code, sentence } = problem(fillet(square, 1, 60));
		expect(code).toBe('too-large');
		const most = Number(/is ([\d.]+) mm/.exec(sentence)![1]);
		expect(fillet(square, 1, most).ok).toBe(true);
		expect(most).toBeGreaterThan(39.9);
		expect(problem(fillet(polygonPath([0, 0, 9, 0], false), 0, 1)).code).toBe('open-end');
		expect(problem(fillet(square, 0, -1)).code).toBe('bad-radius');
		expect(problem(fillet(circlePath(0, 0, 5), 1, 1)).code).toBe('no-corner');
	});
	test('cut off by one length or two; refused where there is too little', () => {
		expect(pathArea(unwrap(chamfer(square, 0, 10)))).toBeCloseTo(1550, 9);
		expect(pathArea(unwrap(chamfer(square, 2, 10, 20)))).toBeCloseTo(1500, 9);
		expect(problem(chamfer(square, 0, 50)).sentence).toContain('40 mm');
	});
	test('between two lines: crossing ones keep the arms pointed at, others are prolonged; ends blended', () => {
		const level = polygonPath([-20, 0, 20, 0], false);
		const plumb = polygonPath([0, -20, 0, 20], false);
		const { path, corner } = unwrap(cornerOf(level, { segment: 0, t: 0.1 }, plumb, { segment: 0, t: 0.9 }));
		expect(pathLength(path)).toBeCloseTo(40, 9);
		expect([path.segs[STRIDE * corner], path.segs[STRIDE * corner + 1]]).toEqual([0, 0]);
		expect([...unwrap(fillet(path, corner, 5)).types]).toEqual([0, ARC, 0]);
		const apart = unwrap(
			cornerOf(
				polygonPath([0, 0, 10, 0], false),
				{ segment: 0, t: 0.9 },
				polygonPath([20, 10, 20, 30], false),
				{
					segment: 0,
					t: 0.1
				}
			)
		);
		expect([apart.path.segs[STRIDE * apart.corner], apart.path.segs[STRIDE * apart.corner + 1]]).toEqual([
			20, 0
		]);
		const parallel = polygonPath([0, 5, 10, 5], false);
		expect(
			problem(
				cornerOf(polygonPath([0, 0, 10, 0], false), { segment: 0, t: 0.9 }, parallel, { segment: 0, t: 0.9 })
			).code
		).toBe('parallel');
		const blend = blendEnds(polygonPath([0, 0, 10, 0], false), polygonPath([20, 10, 20, 30], false));
		const at = STRIDE;
		expect(directionAt(1, blend.segs, at, 0)).toEqual({ x: 1, y: 0 });
		expect(directionAt(1, blend.segs, at, 1).y).toBeCloseTo(1, 12);
	});
});

/** A side of about `long` mm that begins at a place in a direction, radians: straight, an arc, or a gentle cubic. */
function side(kind: number, x: number, y: number, way: number, long: number, bend: number): Path {
	const [c, s] = [Math.cos(way), Math.sin(way)];
	if (kind === STRAIGHT) return new PathBuilder(x, y).line(x + long * c, y + long * s).open();
	// An arc leaves its chord by half of its angle.
	const chord = way + 2 * Math.atan(bend);
	const [ex, ey] = [x + long * Math.cos(chord), y + long * Math.sin(chord)];
	if (kind === ARC) return new PathBuilder(x, y).arc(bend, ex, ey).open();
	const end = chord + 2 * Math.atan(bend);
	const third = long / 3;
	return new PathBuilder(x, y)
		.cubic(x + third * c, y + third * s, ex - third * Math.cos(end), ey - third * Math.sin(end), ex, ey)
		.open();
}

describe('any corner', () => {
	const kinds = fc.constantFrom(STRAIGHT, ARC, CUBIC);
	const corners = fc.record({
		first: kinds,
		second: kinds,
		into: numberIn(0, 6.28),
		turn: numberIn(0.35, 2.6),
		left: fc.boolean(),
		bends: fc.tuple(numberIn(-0.12, 0.12), numberIn(-0.12, 0.12)),
		long: numberIn(12, 30),
		closed: fc.boolean()
	});
	test('where there is room there is an arc of the radius that touches both sides; all the rest of the line stays', () => {
		fc.assert(
			fc.property(
				corners,
				numberIn(0.05, 1),
				({ first, second, into, turn, left, bends, long, closed }, share) => {
					const out = into + (left ? turn : -turn);
					// So much of each side is taken by the arc; a sixth of it, whatever way it bends.
					const radius = (share * long) / 6 / Math.tan(turn / 2);
					fc.pre(radius < long / 2);
					const before = reversePath(side(first, 5, -3, into + Math.PI, long, bends[0]));
					const after = side(second, 5, -3, out, long, bends[1]);
					const builder = new PathBuilder(before.segs[0], before.segs[1]).along(before).along(after);
					// Far round behind it, where it is closed.
					const far = (a: number) => [5 + 90 * Math.cos(a), -3 + 90 * Math.sin(a)] as const;
					const behind = left ? -1 : 1;
					const path = closed
						? builder
								.line(...far(out))
								.line(...far(out + behind * 1.2))
								.line(...far(into + Math.PI))
								.close()
						: builder.open();
					const rounded = unwrap(fillet(path, 1, radius));
					expect([rounded.closed, rounded.types.length]).toEqual([closed, path.types.length + 1]);
					const arcs = Array.from(rounded.types, (_, i) => i).filter((i) => {
						if (rounded.types[i] !== ARC) return false;
						const at = STRIDE * i;
						const [x0, y0, bulge] = rounded.segs.subarray(at, at + 3);
						const made = arcShape(x0, y0, rounded.segs[at + 6], rounded.segs[at + 7], bulge);
						return Math.abs(made.radius / radius - 1) < 1e-6 && bulge > 0 === left;
					});
					expect(arcs.length).toBeGreaterThan(0);
					const whole = pathTree([path], 1e-5);
					let isOne = false;
					for (const arc of arcs) {
						const n = rounded.types.length;
						const turns = [arc, (arc + 1) % n].map((i) => Math.abs(turnAt(rounded, i)));
						if (Math.max(...turns) > 1e-5) continue;
						isOne = true;
						// What is no part of the arc lies where it lay, and the arc lies on the inside of the corner.
						for (let i = 0; i < n; i++) {
							for (const t of [0, 0.2, 0.5, 0.9, 1]) {
								const { x, y } = pointAt(rounded.types[i], rounded.segs, STRIDE * i, t);
								if (i !== arc) expect(whole.distance(x, y)).toBeLessThan(1e-4);
							}
						}
						const middle = pointAt(ARC, rounded.segs, STRIDE * arc, 0.5);
						const apex = Math.hypot(middle.x - 5, middle.y + 3);
						expect(apex).toBeGreaterThan(0.5 * radius * (1 / Math.cos(turn / 2) - 1));
						expect(apex).toBeLessThan(2 * radius * (1 / Math.cos(turn / 2) - 1) + 1e-6);
						break;
					}
					expect(isOne).toBe(true);
					// Straight sides: the cut corner is the kite less the sector, by textbooks.
					if (first === STRAIGHT && second === STRAIGHT && closed) {
						const lost = radius * radius * (Math.tan(turn / 2) - turn / 2);
						expect(Math.abs(pathArea(path) - pathArea(rounded))).toBeCloseTo(lost, 6);
					}
				}
			),
			{ numRuns: 300 }
		);
	});
	test('an arc that takes a whole side, or both, leaves nothing of it; more is refused with just that', () => {
		const bent = polygonPath([0, 0, 30, 0, 30, 20], false);
		const one = unwrap(fillet(bent, 1, 20));
		expect([...one.types]).toEqual([STRAIGHT, ARC]);
		expect([one.segs[6], ...one.segs.subarray(-2)]).toEqual([expect.closeTo(10, 9), 30, 20]);
		const both = unwrap(fillet(polygonPath([0, 0, 20, 0, 20, 20], false), 1, 20));
		expect([...both.types]).toEqual([ARC]);
		expect([...both.segs.subarray(0, 3)]).toEqual([0, 0, expect.closeTo(Math.tan(Math.PI / 8), 9)]);
		expect(problem(fillet(bent, 1, 20.5)).sentence).toContain('20 mm');
		expect(problem(fillet(polygonPath([0, 0, 20, 0, 40, 0], false), 1, 1)).code).toBe('no-corner');
		for (const bad of [0, NaN, Infinity]) expect(problem(fillet(bent, 1, bad)).code).toBe('bad-radius');
		for (const end of [0, 2, 3, -1]) {
			expect(problem(fillet(bent, end, 1)).code).toBe('open-end');
			expect(problem(chamfer(bent, end, 1)).code).toBe('open-end');
		}
		// Of a closed one each anchor is a corner, the first as well.
		for (const i of [0, 1, 2, 3]) {
			const rounded = unwrap(fillet(square, i, 5));
			expect([...rounded.types].filter((type) => type === ARC)).toHaveLength(1);
			expect(pathArea(rounded)).toBeCloseTo(1600 - 25 * (1 - Math.PI / 4), 9);
		}
	});
	test('of a loop of one curve the corner where it begins is rounded by both of its ends', () => {
		const drop = new PathBuilder(0, 0).cubic(30, 20, -30, 20, 0, 0).close();
		for (const radius of [0.2, 1, 3]) {
			const made = unwrap(fillet(drop, 0, radius));
			expect([...made.types]).toEqual([CUBIC, ARC]);
			expect([turnAt(made, 0), turnAt(made, 1)]).toEqual([expect.closeTo(0, 5), expect.closeTo(0, 5)]);
			const { x, y } = pointAt(ARC, made.segs, STRIDE, 0.5);
			expect(x).toBeCloseTo(0, 6);
			expect(y).toBeGreaterThan(0);
			expect(pathArea(made)).toBeLessThan(pathArea(drop));
		}
		const most = Number(/is ([\d.]+) mm/.exec(problem(fillet(drop, 0, 50)).sentence)![1]);
		expect(fillet(drop, 0, most).ok).toBe(true);
	});
	test('of sides that bend much there is an arc where one fits, as their parallels say that are drawn point by point', () => {
		fc.assert(
			fc.property(
				fc.array(numberIn(-18, 18), { minLength: 8, maxLength: 8 }),
				numberIn(0.3, 5),
				(h, radius) => {
					const path = new PathBuilder(-20, h[0])
						.cubic(-14, h[1], -6, h[2], 0, 0)
						.cubic(6, h[3], 14, h[4], 20, h[5])
						.open();
					const into = directionAt(CUBIC, path.segs, 0, 1);
					const out = directionAt(CUBIC, path.segs, STRIDE, 0);
					const turn = Math.atan2(into.x * out.y - into.y * out.x, into.x * out.x + into.y * out.y);
					fc.pre(Math.abs(turn) > 0.1);
					const left = Math.sign(turn);
					// A centre that lies a radius off a place of one side, and no nearer to any place of the other.
					const centre = (at: number, t: number) => {
						const p = pointAt(CUBIC, path.segs, at, t);
						const d = directionAt(CUBIC, path.segs, at, t);
						return { x: p.x - left * radius * d.y, y: p.y + left * radius * d.x };
					};
					const off = (at: number, c: { x: number; y: number }) =>
						nearestOn(CUBIC, path.segs, at, c.x, c.y).distance - radius;
					const made = fillet(path, 1, radius);
					if (made.ok) {
						const k = made.value.types.indexOf(ARC);
						const s = made.value.segs;
						const { radius: own } = arcShape(
							s[STRIDE * k],
							s[STRIDE * k + 1],
							s[STRIDE * k + 6],
							s[STRIDE * k + 7],
							s[STRIDE * k + 2]
						);
						expect(own / radius).toBeCloseTo(1, 6);
						for (const i of [k, k + 1]) expect(Math.abs(turnAt(made.value, i))).toBeLessThan(1e-4);
						return;
					}
					// Back from the corner: where the circle first comes clear of the other side it touches both.
					for (let k = 1; k < 400; k++) {
						const c = centre(0, 1 - k / 400);
						if (off(STRIDE, c) < 0) continue;
						const { t } = nearestOn(CUBIC, path.segs, STRIDE, c.x, c.y);
						const isClear = k > 2 && t > 0.02 && t < 0.98 && off(0, c) > -1e-6;
						expect([path.segs, isClear]).toEqual([path.segs, false]);
						break;
					}
				}
			),
			{ numRuns: 200 }
		);
	});
	test('cut off along the line: so much before it, so much after it, and what stays is what was', () => {
		fc.assert(
			fc.property(
				corners,
				numberIn(0.5, 10),
				numberIn(0.5, 10),
				({ first, second, into, turn, left, bends, long }, a, b) => {
					const before = reversePath(side(first, 0, 0, into + Math.PI, long, bends[0]));
					const after = side(second, 0, 0, into + (left ? turn : -turn), long, bends[1]);
					const path = new PathBuilder(before.segs[0], before.segs[1]).along(before).along(after).open();
					const cut = unwrap(chamfer(path, 1, a, b));
					const part = (i: number) =>
						pathLength({
							closed: false,
							types: cut.types.subarray(i, i + 1),
							segs: cut.segs.subarray(STRIDE * i, STRIDE * (i + 1))
						});
					expect([...cut.types]).toEqual([path.types[0], STRAIGHT, path.types[1]]);
					expect(part(0)).toBeCloseTo(pathLength(before) - a, 6);
					expect(part(2)).toBeCloseTo(pathLength(after) - b, 6);
					expect([...cut.segs.subarray(0, 2), ...cut.segs.subarray(-2)]).toEqual([
						...path.segs.subarray(0, 2),
						...path.segs.subarray(-2)
					]);
				}
			)
		);
		for (const [a, b] of [
			[0, 1],
			[1, 0],
			[-1, 1]
		])
			expect(problem(chamfer(square, 0, a, b)).code).toBe('bad-length');
		for (const [a, b] of [
			[40, 1],
			[1, 40]
		])
			expect(problem(chamfer(square, 0, a, b)).code).toBe('too-large');
		// The middle one of three: what lies before and after it stays, in order.
		const steps = polygonPath([0, 0, 10, 0, 10, 10, 20, 10, 20, 20], false);
		const cut = unwrap(chamfer(steps, 2, 2));
		expect([0, 1, 2, 3, 4].map((i) => [...cut.segs.subarray(STRIDE * i, STRIDE * i + 2)])).toEqual([
			[0, 0],
			[10, 0],
			[10, 8],
			[12, 10],
			[20, 10]
		]);
	});
});

describe('a corner of two lines', () => {
	const ends = ({ segs }: Path) =>
		[...segs.subarray(0, 2), ...segs.subarray(-2)].map((v) => Math.round(1e6 * v) / 1e6 + 0);
	const place = (segment: number, t: number) => ({ segment, t });
	test('each of the four arms of a crossing is kept where it is pointed at', () => {
		const level = polygonPath([-20, 3, 0, 3, 20, 3], false);
		const plumb = polygonPath([4, -20, 4, 20], false);
		for (const [a, from] of [
			[place(0, 0.1), [-20, 3]],
			[place(1, 0.9), [20, 3]]
		] as const)
			for (const [b, to] of [
				[place(0, 0.1), [4, -20]],
				[place(0, 0.9), [4, 20]]
			] as const) {
				const { path, corner } = unwrap(cornerOf(level, a, plumb, b));
				expect(ends(path)).toEqual([...from, ...to]);
				expect([path.segs[STRIDE * corner], path.segs[STRIDE * corner + 1]]).toEqual([
					expect.closeTo(4, 9),
					expect.closeTo(3, 9)
				]);
			}
	});
	test('of several crossings the one nearest to where it is pointed at; a closed line goes on round to it', () => {
		const wave = polygonPath([0, -5, 10, 5, 20, -5, 30, 5], false);
		const level = polygonPath([-10, 0, 40, 0], false);
		const { path, corner } = unwrap(cornerOf(wave, place(2, 0.8), level, place(0, 0.95)));
		expect([path.segs[STRIDE * corner], path.segs[STRIDE * corner + 1]]).toEqual([25, 0]);
		expect(ends(path)).toEqual([30, 5, 40, 0]);
		for (const [segment, t, x] of [
			[0, 0.3, 5],
			[1, 0.2, 15],
			[1, 0.8, 15]
		]) {
			const other = unwrap(cornerOf(wave, place(segment, t), level, place(0, 0.95)));
			expect(other.path.segs[STRIDE * other.corner]).toBeCloseTo(x, 9);
		}
		const round = unwrap(
			cornerOf(square, place(0, 0.25), polygonPath([60, 20, 20, 20], false), place(0, 0.1))
		);
		expect(pathLength(round.path)).toBeCloseTo(10 + 20 + 20 + 20, 1);
		expect(round.path.closed).toBe(false);
	});
	test('ends that do not meet are prolonged straight, a last straight without an anchor in it; else it is said', () => {
		const first = polygonPath([-5, -5, 0, 0, 10, 5], false);
		const second = polygonPath([40, 0, 33, -1, 31, 3], false);
		// From (10, 5) along (2, 1), and from (31, 3) along (-1, 2): at (26, 13).
		const made = unwrap(cornerOf(first, place(1, 0.9), second, place(1, 0.9)));
		expect(
			[made.path.segs[STRIDE * made.corner], made.path.segs[STRIDE * made.corner + 1]].map(
				(v) => Math.round(v * 1e6) / 1e6
			)
		).toEqual([26, 13]);
		expect(made.path.types).toHaveLength(4);
		expect(ends(made.path).slice(0, 2)).toEqual([-5, -5]);
		// The other end of each is what is pointed at: they run apart.
		expect(problem(cornerOf(first, place(0, 0.1), second, place(1, 0.9))).code).toBe('parallel');
		const bow = new PathBuilder(0, 0).arc(-0.3, 10, 0).open();
		const wall = polygonPath([30, -50, 30, -40], false);
		const curved = unwrap(cornerOf(bow, place(0, 0.9), wall, place(0, 0.9)));
		// The curve stays as it is and goes on straight.
		expect([...curved.path.types]).toEqual([ARC, STRAIGHT, STRAIGHT]);
		expect(turnAt(curved.path, 1)).toBeCloseTo(0, 6);
		expect(
			problem(cornerOf(square, place(0, 0.5), polygonPath([100, 0, 100, 9], false), place(0, 0.5))).code
		).toBe('parallel');
		expect(
			problem(cornerOf(polygonPath([100, 0, 100, 9], false), place(0, 0.5), square, place(0, 0.5))).code
		).toBe('parallel');
		// They would meet ten metres off.
		expect(
			problem(
				cornerOf(
					polygonPath([0, 0, 10, 0], false),
					place(0, 0.9),
					polygonPath([0, 5, 10, 4.9999], false),
					place(0, 0.9)
				)
			).code
		).toBe('parallel');
	});
	test('a blend leaves one end and reaches the other in their directions, as far as its pull says', () => {
		const a = polygonPath([0, 3, 10, 8], false);
		const b = polygonPath([30, 20, 34, 23], false);
		const gap = Math.hypot(20, 12);
		for (const pull of [0.4, 0.7]) {
			const made = pull === 0.4 ? blendEnds(a, b) : blendEnds(a, b, pull);
			expect([...made.types]).toEqual([STRAIGHT, CUBIC, STRAIGHT]);
			const [x0, y0, ax, ay, bx, by, x1, y1] = made.segs.subarray(STRIDE, 2 * STRIDE);
			expect([x0, y0, x1, y1]).toEqual([10, 8, 30, 20]);
			const r5 = Math.sqrt(5);
			expect([ax, ay]).toEqual([
				expect.closeTo(10 + (pull * gap * 2) / r5, 9),
				expect.closeTo(8 + (pull * gap) / r5, 9)
			]);
			expect([bx, by]).toEqual([
				expect.closeTo(30 - pull * gap * 0.8, 9),
				expect.closeTo(20 - pull * gap * 0.6, 9)
			]);
		}
	});
});
