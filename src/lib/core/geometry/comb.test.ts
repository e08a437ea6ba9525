/** Curvature along a line: the teeth, what is marked beside them, where a tool does not get in. */
import { describe, expect, test } from 'vitest';
import { combOf, teethFor, tightStretches, TOOTH } from './comb';
import { fitFunction } from '../fit/function';
import { circlePath, PathBuilder, polygonPath, reversePath, STRIDE } from './path';

describe('the comb', () => {
	test('of a straight is zero, of a circle constant (definition of curvature)', () => {
		const { teeth, most, steps, inflections } = combOf(circlePath(3, 4, 8));
		for (let i = 4; i < teeth.length; i += TOOTH) expect(teeth[i]).toBeCloseTo(1 / 8, 9);
		expect(most).toBeCloseTo(1 / 8, 9);
		expect(steps).toEqual([]);
		expect(inflections).toEqual([]);
		expect(combOf(polygonPath([0, 0, 5, 0, 5, 5])).most).toBe(0);
		expect(teeth.at(-1)).toBeCloseTo(16 * Math.PI, 6);
	});
	test('ellipse: a / b^2 at the ends of the long axis; parabola y = x^2 / 2: 1 at its vertex; a clothoid rises evenly', () => {
		const [a, b] = [20, 8];
		const ellipse = fitFunction(
			(t) => ({ x: a * Math.cos(t), y: b * Math.sin(t) }),
			0,
			2 * Math.PI,
			1e-4,
			true
		);
		expect(combOf(ellipse, 60).most).toBeCloseTo(a / (b * b), 1);
		const parabola = new PathBuilder(-2, 2).cubic(-2 + 4 / 3, 2 - 8 / 3, 2 - 4 / 3, 2 - 8 / 3, 2, 2).open();
		expect(combOf(parabola, 40).most).toBeCloseTo(1, 9);
		// A clothoid's curvature is proportional to its length (Fresnel integrals, summed here by small steps).
		const clothoid = (s: number) => {
			let x = 0;
			let y = 0;
			const n = 400;
			for (let k = 0; k < n; k++) {
				const u = ((k + 0.5) * s) / n;
				x += (Math.cos((u * u) / 200) * s) / n;
				y += (Math.sin((u * u) / 200) * s) / n;
			}
			return { x, y };
		};
		const line = fitFunction(clothoid, 0.01, 20, 2e-4);
		const { teeth } = combOf(line, 20);
		for (let i = 0; i < teeth.length; i += TOOTH) {
			const s = teeth[i + 5] + 0.01;
			if (s > 4 && s < 16) expect(teeth[i + 4]).toBeCloseTo(s / 100, 1);
		}
	});
	test('tangent to a straight the comb steps from 0; of equal curvature there is no step; where the bend turns over is told', () => {
		const tangent = new PathBuilder(0, 0)
			.line(20, 0)
			.arc(Math.tan(Math.PI / 8), 40, 20)
			.open();
		expect(combOf(tangent).steps).toHaveLength(1);
		expect(combOf(tangent).steps[0].before).toBe(0);
		const s = new PathBuilder(0, 0).cubic(10, 12, 20, -12, 30, 0).open();
		const { inflections } = combOf(s);
		expect(inflections).toHaveLength(1);
		expect(inflections[0].x).toBeCloseTo(15, 9);
		expect(combOf(s).begins).toEqual(Int32Array.of(0));
		expect(STRIDE).toBe(8);
	});

	test('stretches tighter than a tool, with their tightest radius; as tight is not tighter', () => {
		// A slot of radius 3 with one end squeezed to an ellipse of half axes 3 and 9: radius 9 / 9 = 1 at its tip.
		const end = fitFunction(
			(t) => ({ x: 40 + 9 * Math.cos(t), y: 3 * Math.sin(t) }),
			-Math.PI / 2,
			Math.PI / 2,
			1e-5
		);
		const slot = new PathBuilder(0, -3).line(40, -3).along(end).line(0, 3).arc(1, 0, -3).close();
		const comb = combOf(slot, 60);
		const found = tightStretches(comb, 2);
		expect(found).toHaveLength(1);
		expect(Math.abs(found[0].radius)).toBeCloseTo(1, 1);
		expect(found[0].x).toBeCloseTo(49, 1);
		expect(found[0].y).toBeCloseTo(0, 1);
		expect(found[0].to).toBeGreaterThan(found[0].from);
		// The round end is as tight as this tool: it gets in.
		expect(tightStretches(combOf(circlePath(0, 0, 3)), 3)).toEqual([]);
		expect(tightStretches(combOf(circlePath(0, 0, 3)), 3.1)).toHaveLength(1);
		// Travelled the other way the bend is to the other hand.
		const back = tightStretches(combOf(reversePath(slot), 60), 2);
		expect(Math.sign(back[0].radius)).toBe(-Math.sign(found[0].radius));
		expect(teethFor(circlePath(0, 0, 3))).toBe(40);
		expect(teethFor(polygonPath(new Array(4000).fill(0).map((_, i) => i % 7)))).toBe(6);
	});
});

describe('where things are told', () => {
	/** A straight, an arc of 10 mm to the left that leaves it evenly, and one of 10 mm to the right. */
	const wave = new PathBuilder(0, 0)
		.line(20, 0)
		.arc(Math.tan(Math.PI / 8), 30, 10)
		.arc(-Math.tan(Math.PI / 8), 40, 20)
		.open();

	test('a step lies at its joint with the bend before and after; a bend to the other side is an inflection too', () => {
		const { steps, inflections } = combOf(wave);
		expect(steps.map(({ x, y, before, after }) => [x, y, before, after])).toEqual([
			[20, 0, 0, expect.closeTo(0.1, 9)],
			[30, 10, expect.closeTo(0.1, 9), expect.closeTo(-0.1, 9)]
		]);
		expect(inflections).toEqual([{ x: 30, y: 10 }]);
		expect(combOf(reversePath(wave)).inflections).toEqual([{ x: 30, y: 10 }]);
	});

	test('a closed line has a step where it closes too; a corner is none', () => {
		const quarter = Math.tan(Math.PI / 8);
		const slot = new PathBuilder(0, 0).line(20, 0).arc(1, 20, 10).line(0, 10).arc(1, 0, 0).close();
		expect(combOf(slot).steps.map(({ x, y }) => [x, y])).toEqual([
			[0, 0],
			[20, 0],
			[20, 10],
			[0, 10]
		]);
		// Bent on one side of it and straight on the other.
		const bentCorner = new PathBuilder(0, 0).line(20, 0).arc(0.2, 30, 10).open();
		expect(combOf(bentCorner).steps).toEqual([]);
		const cornered = new PathBuilder(0, 0).line(20, 0).line(20, 10).arc(quarter, 10, 20).line(0, 20).close();
		expect(combOf(cornered).steps.map(({ x, y }) => [x, y])).toEqual([
			[20, 10],
			[10, 20]
		]);
	});

	test('each segment says where its teeth begin; a straight has two, square to it, and lengths go on', () => {
		const { teeth, begins } = combOf(wave, 4);
		expect([...begins]).toEqual([0, 2, 7]);
		expect(teeth.length).toBe(TOOTH * 12);
		expect([...teeth.slice(0, TOOTH)]).toEqual([0, 0, -0, 1, 0, 0]);
		expect([...teeth.slice(TOOTH, 2 * TOOTH)]).toEqual([20, 0, -0, 1, 0, 20]);
		// A quarter of the way round the first arc.
		const [x, y, nx, ny, bend, along] = teeth.slice(3 * TOOTH);
		const a = Math.PI / 8;
		expect([x, y]).toEqual([20 + 10 * Math.sin(a), 10 - 10 * Math.cos(a)].map((v) => expect.closeTo(v, 9)));
		expect([nx, ny]).toEqual([-Math.sin(a), Math.cos(a)].map((v) => expect.closeTo(v, 9)));
		expect(bend).toBeCloseTo(0.1, 9);
		expect(along).toBeCloseTo(20 + 10 * a, 9);
	});

	test('a tight stretch is told from where to where, with its tightest place and the side of its radius', () => {
		const quarter = Math.tan(Math.PI / 8);
		const line = new PathBuilder(0, 0)
			.line(10, 0)
			.arc(quarter, 14, 4)
			.arc(-quarter, 16, 6)
			.line(30, 6)
			.arc(-quarter, 40, -4)
			.open();
		const at = tightStretches(combOf(line), 5);
		const [first] = at;
		const rounds = 10 + 2 * Math.PI;
		expect(first.from).toBeCloseTo(10, 9);
		expect(at.at(-1)!.to).toBeCloseTo(rounds + Math.PI, 9);
		expect(Math.min(...at.map((s) => Math.abs(s.radius)))).toBeCloseTo(2, 9);
		expect(at.map((s) => Math.sign(s.radius))).toContain(-1);
		// As tight as the tool is not too tight; a tighter end counts to the very end.
		expect(tightStretches(combOf(circlePath(0, 0, 5)), 5)).toEqual([]);
		const [whole] = tightStretches(combOf(circlePath(0, 0, 5)), 5.1);
		expect([whole.from, whole.to]).toEqual([0, expect.closeTo(10 * Math.PI, 9)]);
		expect(whole.radius).toBeCloseTo(5, 9);
	});
});
