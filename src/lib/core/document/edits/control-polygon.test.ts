/** The control polygon: its vertices, and the line that stays smooth while one is pulled. */
import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { numberIn } from '../../../../../tests/numbers';
import { blob } from '../../../../../tests/shapes';
import { pulledBy } from '../../fit/given-curves';
import { turnAt } from '../../geometry/measure';
import { PathBuilder, polygonPath } from '../../geometry/path';
import { setKind } from './anchors';
import { controlPolygon, pullVertex } from './control-polygon';
import { ANCHOR_STRIDE, outlineFromPath, placeOfAnchor, lineOf, type Outline } from '../outline';

const facts = { id: 'o', name: 'Ear', layer: 'cut', rank: 1 };
const smooth = (o: Outline) => setKind(o, new Set(o.anchors), 'smooth');
const round = smooth(outlineFromPath(blob(20, 3, 6), facts));

describe('the control polygon', () => {
	test('of a smooth line are its handles alone, of a polygon its corners, of both what there is', () => {
		const vertices = controlPolygon(round);
		expect(vertices).toHaveLength(2 * round.anchors.length);
		expect(vertices.every((v) => v.side !== undefined)).toBe(true);
		const square = outlineFromPath(polygonPath([0, 0, 10, 0, 10, 10, 0, 10]), facts);
		expect(controlPolygon(square).map((v) => [v.x, v.y])).toEqual([
			[0, 0],
			[10, 0],
			[10, 10],
			[0, 10]
		]);
		const arch = outlineFromPath(new PathBuilder(0, 0).cubic(0, 8, 10, 8, 10, 0).close(), facts);
		expect(controlPolygon(arch).map((v) => v.side)).toEqual([undefined, 'out', 'in', undefined]);
	});

	test('the line lies within the convex hull of each span of its polygon (Piegl and Tiller, 3.1)', () => {
		// The box of the polygon holds the line.
		const vertices = controlPolygon(round);
		const path = lineOf(round);
		const box = (axis: 'x' | 'y') => vertices.map((v) => v[axis]);
		for (let i = 0; i < path.types.length; i++) {
			const [x, y] = [path.segs[8 * i], path.segs[8 * i + 1]];
			expect(x).toBeGreaterThanOrEqual(Math.min(...box('x')) - 1e-9);
			expect(x).toBeLessThanOrEqual(Math.max(...box('x')) + 1e-9);
			expect(y).toBeGreaterThanOrEqual(Math.min(...box('y')) - 1e-9);
			expect(y).toBeLessThanOrEqual(Math.max(...box('y')) + 1e-9);
		}
	});

	test('pulled anywhere the line stays smooth, and only two segments beside the vertex change', () => {
		fc.assert(
			fc.property(fc.nat(2 * round.anchors.length - 1), numberIn(-4, 4), numberIn(-4, 4), (k, dx, dy) => {
				const v = controlPolygon(round)[k];
				const next = pullVertex(round, v.anchor, v.side!, v.x + dx, v.y + dy);
				const i = next.anchors.indexOf(v.anchor);
				expect(Math.abs(turnAt(lineOf(next), i))).toBeLessThan(1e-6);
				const moved = controlPolygon(next)[k];
				expect([moved.x, moved.y]).toEqual([v.x + dx, v.y + dy]);
				// Every other vertex stays to the last bit; of the anchors only the one between the two handles moves.
				controlPolygon(next).forEach((w, m) => {
					if (m !== k) expect(w).toEqual(controlPolygon(round)[m]);
				});
				for (const id of next.anchors)
					if (id !== v.anchor) expect(placeOfAnchor(next, id)).toEqual(placeOfAnchor(round, id));
			}),
			{ numRuns: 60 }
		);
	});

	test('an anchor keeps its share of the leg: of an even one both handles stay as long as each other', () => {
		const even = setKind(round, new Set([round.anchors[2]]), 'even');
		const at = ANCHOR_STRIDE * 2;
		const next = pullVertex(even, even.anchors[2], 'out', even.points[at + 4] + 3, even.points[at + 5] - 1);
		const length = (k: number) =>
			Math.hypot(next.points[at + k] - next.points[at], next.points[at + k + 1] - next.points[at + 1]);
		expect(length(2)).toBeCloseTo(length(4), 9);
	});

	test('of a flowing anchor both handles are held from then on; a corner turns its own handle alone', () => {
		const flowing = setKind(round, new Set([round.anchors[1]]), 'flowing');
		const at = ANCHOR_STRIDE;
		const next = pullVertex(
			flowing,
			flowing.anchors[1],
			'in',
			flowing.points[at + 2] + 1,
			flowing.points[at + 3]
		);
		expect(next.marks[3 + 2]).toBe(3);
		expect(next.points[at + 2]).toBe(flowing.points[at + 2] + 1);
		const cornered = setKind(round, new Set([round.anchors[1]]), 'corner');
		const bent = pullVertex(cornered, cornered.anchors[1], 'in', 0, 0);
		expect(placeOfAnchor(bent, bent.anchors[1])).toEqual(placeOfAnchor(cornered, cornered.anchors[1]));
		expect([bent.points[at + 2], bent.points[at + 3]]).toEqual([0, 0]);
		expect(pullVertex(cornered, 999, 'in', 0, 0)).toBe(cornered);
	});

	test('a B-spline of degree 3 pulled by one vertex changes as the spline does: its anchors stay on the legs', () => {
		const control = [0, 1, 2, 3, 4, 5].map((k) => ({ x: 10 * k, y: 6 * (k % 2) }));
		const spline = smooth(outlineFromPath(pulledBy(control, 3, false, 1e-9), facts));
		for (const anchor of Array.from(spline.anchors).slice(1, -1)) {
			const i = spline.anchors.indexOf(anchor);
			const at = ANCHOR_STRIDE * i;
			const [x, y, ix, iy, ox, oy] = spline.points.subarray(at, at + 6);
			expect(Math.abs((x - ix) * (oy - iy) - (y - iy) * (ox - ix))).toBeLessThan(1e-6);
		}
	});
});
