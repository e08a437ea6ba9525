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
