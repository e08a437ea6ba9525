/** Seams: lengths of edges one after another, places along them, notches at the same places of both (common practice in sewing). */
import { expect, test } from 'vitest';
import { PathBuilder, polygonPath } from '../../geometry/path';
import { nearestOnPath } from '../../geometry/pick';
import { edgesOf } from '../edges';
import { lineOf, outlineFromPath } from '../outline';
import { alongSeam, inOrder, notchMarks, notchPairs, seamLength } from './seams';

const facts = (id: string) => ({ id, name: id, layer: 'cut', rank: 1 });
const front = outlineFromPath(polygonPath([0, 0, 60, 0, 60, 80, 0, 80]), facts('front'));
// A quarter of a circle of radius 50 beside: 78.54 mm (pi r / 2).
const sleeve = outlineFromPath(
	new PathBuilder(200, 0)
		.arc(Math.tan(Math.PI / 8), 150, 50)
		.line(150, 0)
		.close(),
	facts('sleeve')
);
const edge = (outline: typeof front, k: number) => ({ outline, edge: edgesOf(outline)[k] });

test('lengths of one edge, of a chain over a corner, of one over the start of the line', () => {
	expect(seamLength([edge(front, 1)])).toBeCloseTo(80, 9);
	expect(seamLength([edge(sleeve, 0)])).toBeCloseTo(25 * Math.PI, 6);
	const chain = inOrder([edge(front, 0), edge(front, 3)]);
	expect(chain.map(({ edge: one }) => one.first)).toEqual([3, 0]);
	expect(seamLength(chain)).toBeCloseTo(140, 9);
});

test('walked along: over corners, from its end too, never beyond', () => {
	const chain = [edge(front, 0), edge(front, 1)];
	expect(alongSeam(chain, 70, false)).toMatchObject({ x: 60, y: expect.closeTo(10, 9) });
	expect(alongSeam(chain, 70, true)).toMatchObject({ x: 60, y: expect.closeTo(10, 9) });
	expect(alongSeam(chain, 999, false)).toMatchObject({ x: 60, y: 80 });
	expect(alongSeam([], 3, false)).toBeUndefined();
});

test('notches lie on both seams, at the same shares or the same distances, and follow their edges', () => {
	const [first, second] = [[edge(front, 1)], [edge(sleeve, 0)]];
	const pairs = notchPairs(first, second, { count: 3, by: 'distance', back: false });
	expect(pairs.map(({ a }) => a.y)).toEqual([20, 40, 60].map((v) => expect.closeTo(v, 9)));
	// The same arc length on the circle: 20 mm are 20 / 50 radians.
	pairs.forEach(({ b }, i) => {
		const angle = (20 * (i + 1)) / 50;
		expect([b.x, b.y]).toEqual(
			[150 + 50 * Math.cos(angle), 50 * Math.sin(angle)].map((v) => expect.closeTo(v, 5))
		);
	});
	let n = 0;
	const marks = notchMarks(pairs, { form: 'T', size: 5, layerOf: (o) => o.layer }, () => ({
		id: `n${++n}`,
		rank: n
	}));
	expect(marks).toHaveLength(6);
	for (const mark of marks) {
		expect(mark.on).toBeDefined();
		const line = lineOf(mark.on!.outline === 'front' ? front : sleeve);
		expect(nearestOnPath(line, mark.x, mark.y, 1)!.distance).toBeLessThan(1e-6);
	}
	const back = notchPairs(first, second, { count: 1, by: 'share', back: true });
	expect(Math.hypot(back[0].b.x - 150, back[0].b.y)).toBeCloseTo(50, 6);
});
