/** Edges last: whatever is done to a line, an edge that is still there is found by its id. */
import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { blob, chance } from '../../../../tests/shapes';
import { CoreError } from '../errors';
import { circlePath, polygonPath } from '../geometry/path';
import { deleteAnchors, insertAnchors, moveAnchors, setKind } from './edits/anchors';
import { edgeAt, edgeLength, edgesOf, withEdge, withKeptEdges } from './edges';
import {
	closed,
	flipped,
	madePlain,
	outlineFromPath,
	replaceLine,
	sourceLine,
	type Outline
} from './outline';

const facts = { id: 'o', name: 'Panel', layer: 'cut', rank: 2 };
/** Corners 1 to 4, edges 1 to 4. */
const square = outlineFromPath(polygonPath([0, 0, 40, 0, 40, 30, 0, 30]), facts);
const ids = (o: Outline) => edgesOf(o).map((e) => e.id);
const ends = (o: Outline, id: number) => {
	const { anchors } = edgesOf(o).find((e) => e.id === id)!;
	return [anchors[0], anchors[anchors.length - 1]];
};

describe('edges', () => {
	test('from corner to corner; none: one from the seam round; one corner: from it to itself', () => {
		expect(ids(square)).toEqual([1, 2, 3, 4]);
		expect(edgesOf(square).map((e) => edgeLength(square, e))).toEqual([40, 30, 40, 30]);
		const circle = outlineFromPath(circlePath(0, 0, 10), facts);
		expect(edgesOf(circle)).toHaveLength(1);
		expect(edgeLength(circle, edgesOf(circle)[0])).toBeCloseTo(20 * Math.PI, 9);
		const drop = setKind(outlineFromPath(blob(8, 3), facts), new Set([5]), 'corner');
		expect(edgesOf(drop)).toHaveLength(1);
		expect(ends(drop, edgesOf(drop)[0].id)).toEqual([5, 5]);
		const line = outlineFromPath(polygonPath([0, 0, 5, 0, 5, 5], false), facts);
		expect(edgesOf(line).map((e) => [e.first, e.count])).toEqual([
			[0, 1],
			[1, 1]
		]);
	});

	test('a corner is an anchor of that kind, never an angle', () => {
		const smooth = setKind(square, new Set([2]), 'smooth');
		expect(edgesOf(smooth)).toHaveLength(3);
		const turned = moveAnchors(outlineFromPath(blob(8, 3), facts), new Set([2]), 30, 0);
		expect(edgesOf(turned)).toHaveLength(1);
	});

	test('a name and a width hang on an edge and are taken back', () => {
		const named = withEdge(square, 2, { name: 'hem', width: 20 });
		expect(edgesOf(named)[1]).toMatchObject({ id: 2, name: 'hem', width: 20 });
		expect(named.edges).toHaveLength(1);
		expect(withEdge(named, 2, { name: undefined, width: undefined }).edges).toBeUndefined();
		expect(() => withEdge(square, 99, {})).toThrow(CoreError);
		expect(() => withEdge(square, 2, { width: -1 })).toThrow(CoreError);
		expect(edgeAt(square, 2)!.id).toBe(3);
	});
});

describe('the laws of edges', () => {
	const hem = withEdge(square, 2, { name: 'hem' });
	const after = (next: Outline) => withKeptEdges(hem, next);

	test('moved, an edge keeps its id; flipped too, though it is travelled the other way', () => {
		expect(ids(after(moveAnchors(hem, new Set([2]), 9, 9)))).toEqual([1, 2, 3, 4]);
		const back = after(flipped(hem));
		expect(ends(back, 2)).toEqual([3, 2]);
		expect(edgesOf(back).find((e) => e.id === 2)!.name).toBe('hem');
		// There and back it is as it was.
		const again = withKeptEdges(back, flipped(back));
		expect(edgesOf(again).map((e) => [e.id, ...e.anchors])).toEqual(
			edgesOf(hem).map((e) => [e.id, ...e.anchors])
		);
	});

	test('a corner that goes makes one edge of two, with the older id; one that comes leaves it to the half with the start', () => {
		const merged = after(deleteAnchors(hem, new Set([3]), 'straight')!);
		expect(ends(merged, 2)).toEqual([2, 4]);
		expect(ids(merged).sort()).toEqual([1, 2, 4]);
		const put = insertAnchors(hem, [{ segment: 1, t: 0.5 }]);
		const split = after(setKind(put.outline, new Set(put.added), 'corner'));
		expect(ends(split, 2)).toEqual([2, put.added[0]]);
		expect(edgesOf(split).find((e) => e.id === 2)!.name).toBe('hem');
		expect(new Set(ids(split)).size).toBe(5);
		// The other half is new, also where the anchor there has named an edge before.
		const smooth = withKeptEdges(split, setKind(split, new Set([2]), 'smooth'));
		const sharp = withKeptEdges(smooth, setKind(smooth, new Set([2]), 'corner'));
		expect(new Set(ids(sharp)).size).toBe(ids(sharp).length);
		expect(Math.max(...ids(sharp))).toBeLessThan(sharp.nextAnchor);
	});

	test('a rounded corner is a corner still: edges are of the line before rounding', () => {
		const round: Outline = { ...hem, rounds: [{ anchor: 2, radius: 4 }] };
		expect(ids(round)).toEqual([1, 2, 3, 4]);
		expect(edgeLength(round, edgesOf(round)[1])).toBe(30);
	});

	test('closed and put in the place of another line, anchors that lie where they lay keep ids, kinds, rounds and edges', () => {
		const open = outlineFromPath(polygonPath([0, 0, 40, 0, 40, 30, 0, 30], false), facts);
		const named = withEdge(open, 2, { name: 'hem' });
		const shut = withKeptEdges(named, closed({ ...named, rounds: [{ anchor: 3, radius: 2 }] }));
		expect([...shut.anchors]).toEqual([1, 2, 3, 4]);
		expect(shut.rounds).toEqual([{ anchor: 3, radius: 2 }]);
		expect(edgesOf(shut).map((e) => e.name)).toEqual([undefined, 'hem', undefined, undefined]);
		const bent = replaceLine(hem, polygonPath([0, 0, 40, 0, 44, 15, 40, 30, 0, 30]));
		expect([...bent.anchors]).toEqual([1, 2, 5, 3, 4]);
		const near = replaceLine(hem, polygonPath([0.2, 0, 40, 0.1, 40.1, 30, 0, 30]), { reach: 0.5 });
		expect([...near.anchors]).toEqual([1, 2, 3, 4]);
		const plain = madePlain({ ...hem, rounds: [{ anchor: 2, radius: 4 }] });
		expect([...plain.anchors].filter((id) => id <= 4).sort()).toEqual([1, 3, 4]);
	});

	test('after any edits an edge marked before is found where both its corners still are neighbours', () => {
		fc.assert(
			fc.property(fc.integer({ min: 1, max: 1e6 }), (seed) => {
				const rnd = chance(seed);
				let now = outlineFromPath(polygonPath([0, 0, 30, -4, 60, 0, 70, 30, 60, 60, 30, 66, 0, 60]), facts);
				for (let k = 0; k < 60; k++) {
					const marked = edgesOf(now)[Math.floor(rnd() * edgesOf(now).length)];
					const i = Math.floor(rnd() * now.anchors.length);
					const id = now.anchors[i];
					const what = Math.floor(6 * rnd());
					let next: Outline;
					if (what === 0) next = moveAnchors(now, new Set([id]), rnd() - 0.5, rnd() - 0.5);
					else if (what === 1) next = insertAnchors(now, [{ segment: i, t: 0.2 + 0.6 * rnd() }]).outline;
					else if (what === 2 && now.anchors.length > 5) next = deleteAnchors(now, new Set([id]), 'through')!;
					else if (what === 3) next = setKind(now, new Set([id]), rnd() < 0.6 ? 'corner' : 'smooth');
					else if (what === 4) next = flipped(now);
					else next = replaceLine(now, sourceLine(now));
					next = withKeptEdges(now, next);
					const all = edgesOf(next);
					expect(new Set(all.map((e) => e.id)).size).toBe(all.length);
					expect(all.reduce((sum, e) => sum + e.count, 0)).toBe(sourceLine(next).types.length);
					const [a, b] = [marked.anchors[0], marked.anchors[marked.anchors.length - 1]];
					const same = all.find((e) => {
						const [c, d] = [e.anchors[0], e.anchors[e.anchors.length - 1]];
						return a !== b && ((c === a && d === b) || (c === b && d === a));
					});
					const onlyOne = all.filter((e) => [a, b].every((x) => e.anchors.includes(x))).length === 1;
					if (same && onlyOne && edgesOf(now).length > 2) expect(same.id).toBe(marked.id);
					now = next;
				}
			}),
			{ numRuns: 60 }
		);
	});
});
