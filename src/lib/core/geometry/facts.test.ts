import { expect, test } from 'vitest';
import { factSteps, factsOf } from './facts';
import { circlePath, polygonPath } from './path';

test('of a square and a circle: length, area, anchors, the tightest bend, as elementary geometry has them', () => {
	const facts = factsOf([polygonPath([0, 0, 10, 0, 10, 10, 0, 10]), circlePath(0, 0, 3)]);
	expect(facts.length).toBeCloseTo(40 + 6 * Math.PI, 9);
	expect(facts.area).toBeCloseTo(100 + 9 * Math.PI, 9);
	expect(facts.anchors).toBe(4 + circlePath(0, 0, 3).types.length);
	expect(facts.tightest).toBeCloseTo(3, 9);
});

test('an open line encloses nothing; a straight one bends nowhere', () => {
	const facts = factsOf([polygonPath([0, 0, 10, 0], false)]);
	expect(facts).toMatchObject({ length: 10, area: undefined, anchors: 2, tightest: Infinity });
});

test('of an open and a closed one together there is no area; how far it has come is told', () => {
	const both = [polygonPath([0, 0, 10, 0], false), polygonPath([0, 0, 10, 0, 10, 10, 0, 10])];
	expect(factsOf(both)).toMatchObject({ length: 50, area: undefined, anchors: 6 });
	expect([...factSteps([...both, ...both])]).toEqual([0, 0.25, 0.5, 0.75]);
});
