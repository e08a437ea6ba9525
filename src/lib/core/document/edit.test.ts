import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { numberIn } from '../../../../tests/numbers';
import { blob, chance } from '../../../../tests/shapes';
import { findFaults } from '../check/readiness';
import { twoWayDistance } from '../geometry/edge-tree';
import { pathArea, pathLength, turnAt } from '../geometry/measure';
import { ARC, circlePath, CUBIC, polygonPath, PathBuilder, reversePath, STRAIGHT } from '../geometry/path';
import { pointAt, segmentLength } from '../geometry/segment';
import {
	curveSegments,
	deleteAnchors,
	deleteSegments,
	dropHandle,
	flow,
	insertAnchors,
	moveAnchors,
	placeAnchor,
	placeHandle,
	placesOnSegment,
	releaseHandles,
	segmentToCurve,
	setKind,
	straightenSegments
} from './edits/anchors';
import {
	freeName,
	layersOf,
	marksOf,
	newDrawing,
	nextRank,
	outlinesOf,
	recordAs,
	recordsOf,
	referencesOf,
	settingsOf,
	type Drawing,
	type Reference
} from './drawing';
import { applyStep, makeStep, stepSize, touchedIds, type Step } from './history';
import { mendFault, withoutZeroSegments } from '../check/mend';
import { addPaths, factsLike, addTraced, removeOutlines, replaceLines } from './edits/operations';
import { addImported } from '../formats/add-imported';
import {
	anchorIndex,
	anchorTotal,
	closePath,
	endsCoincide,
	kindOf,
	outlineFromPath,
	lineOf,
	segmentTotal,
	segmentTypeOf,
	withoutArcs,
	replaceLine,
	type Outline
} from './outline';

const facts = { id: 'o', name: 'Arm', layer: 'cut', rank: 5 };
const square = outlineFromPath(polygonPath([0, 0, 10, 0, 10, 10, 0, 10]), facts);
const round = outlineFromPath(blob(12, 4), facts);
const bits = (o: Outline) => [o.closed, [...o.anchors], [...o.points], [...o.marks], o.nextAnchor];
let count = 0;
const newId = () => `id-${++count}`;

describe('outlines', () => {
	test('an outline resolves to the very line that it was made from', () => {
		const builder = new PathBuilder(0, 0).line(10, 0).arc(0.4, 20, 5).cubic(22, 9, 25, 12, 30, 10);
		for (const path of [blob(20, 2), circlePath(3, 4, 5), polygonPath([0, 0, 3, 1, 4, 4]), builder.open()]) {
			const o = outlineFromPath(path, facts);
			expect([...lineOf(o).types]).toEqual([...path.types]);
			lineOf(o).segs.forEach((v, i) => expect(v).toBe(path.segs[i]));
			expect(lineOf(o)).toBe(lineOf(o));
			expect(anchorTotal(o)).toBe(segmentTotal(o) + (path.closed ? 0 : 1));
		}
		expect(kindOf(square, 0)).toBe('corner');
		expect(kindOf(round, 0)).toBe('smooth');
		expect(segmentTypeOf(square, 0)).toBe(STRAIGHT);
		expect(anchorIndex(square, 99)).toBeUndefined();
		expect(withoutArcs(circlePath(0, 0, 4)).types.includes(ARC)).toBe(false);
	});

	test('closing with the ends apart moves no anchor and adds exactly one segment (common practice)', () => {
		const open = polygonPath([0, 0, 10, 0, 10, 10], false);
		const closed = closePath(open);
		expect(closed.types).toHaveLength(open.types.length + 1);
		expect([...closed.segs.slice(0, 16)]).toEqual([...open.segs]);
		const near = polygonPath([0, 0, 10, 0, 10, 10, 0, 1e-7], false);
		expect(endsCoincide(near)).toBe(true);
		expect(closePath(near).types).toHaveLength(3);
		expect(closePath(closed)).toBe(closed);
	});

	test('a line that shares no anchor with the old one gets ids of its own, never the old ones', () => {
		const next = replaceLine(square, blob(5, 1));
		expect([...next.anchors].some((id) => [...square.anchors].includes(id))).toBe(false);
		expect(next.name).toBe('Arm');
	});
});

describe('anchors', () => {
	test('moving by typed amounts is exact; what is not meant stays bit for bit', () => {
		const ids = new Set([round.anchors[3]]);
		const moved = moveAnchors(round, ids, 1.25, -0.5);
		for (let i = 0; i < round.anchors.length; i++) {
			for (let k = 0; k < 6; k++) {
				const by = i === 3 ? (k % 2 ? -0.5 : 1.25) : 0;
				expect(moved.points[7 * i + k]).toBe(round.points[7 * i + k] + by);
			}
		}
		expect(moveAnchors(round, new Set([999]), 1, 1)).toBe(round);
		const placed = placeAnchor(square, square.anchors[2], 12.5, 7);
		expect([placed.points[14], placed.points[15]]).toEqual([12.5, 7]);
		expect(() => placeAnchor(square, square.anchors[0], NaN, 0)).toThrow();
	});

	test('adding an anchor leaves the curve where it was (1e-9), and half way has equal lengths on both sides', () => {
		fc.assert(
			fc.property(fc.integer({ min: 0, max: 11 }), numberIn(0.05, 0.95), (segment, t) => {
				const { outline, added } = insertAnchors(round, [{ segment, t }]);
				expect(added).toHaveLength(1);
				expect(pathLength(lineOf(outline))).toBeCloseTo(pathLength(lineOf(round)), 7);
				const before = lineOf(round);
				const after = lineOf(outline);
				for (const u of [0.2, 0.6]) {
					const p = pointAt(CUBIC, after.segs, 8 * segment, u);
					const q = pointAt(CUBIC, before.segs, 8 * segment, u * t);
					expect(Math.hypot(p.x - q.x, p.y - q.y)).toBeLessThan(1e-9);
				}
			})
		);
		const [half] = placesOnSegment(round, 2, { evenly: 1 });
		const { outline } = insertAnchors(round, [half]);
		const path = lineOf(outline);
		expect(segmentLength(CUBIC, path.segs, 16)).toBeCloseTo(segmentLength(CUBIC, path.segs, 24), 6);
		expect(placesOnSegment(square, 0, 'inflections')).toEqual([]);
		expect(placesOnSegment(square, 0, 'extremes')).toEqual([]);
		expect(insertAnchors(round, placesOnSegment(round, 1, { evenly: 3 })).added).toHaveLength(3);
		const arc = outlineFromPath(circlePath(0, 0, 9), facts);
		const more = insertAnchors(arc, [{ segment: 1, t: 0.3 }]).outline;
		expect(pathArea(lineOf(more))).toBeCloseTo(81 * Math.PI, 8);
	});

	test('a square that loses a corner anchor: a triangle of half the area (common practice)', () => {
		const triangle = deleteAnchors(square, new Set([square.anchors[1]]), 'straight')!;
		expect(pathArea(lineOf(triangle))).toBe(50);
		expect(triangle.anchors).toHaveLength(3);
		expect(deleteAnchors(square, new Set(square.anchors), 'straight')).toBeUndefined();
		expect(deleteAnchors(square, new Set([77]), 'straight')).toBe(square);
	});

	test('deleting with the shape kept stays nearer than deleting straight', () => {
		const gone = new Set([round.anchors[4]]);
		const off = (o: Outline) => twoWayDistance([lineOf(round)], [lineOf(o)], 0.01).distance;
		const kept = off(deleteAnchors(round, gone, 'kept')!);
		expect(kept).toBeLessThan(off(deleteAnchors(round, gone, 'straight')!));
		expect(kept).toBeLessThanOrEqual(off(deleteAnchors(round, gone, 'through')!) + 1e-6);
		expect(Math.abs(turnAt(lineOf(deleteAnchors(round, gone, 'through')!), 4))).toBeLessThan(1);
	});

	test('kinds: even handles are opposite and equally long, smooth ones opposite; for many at once', () => {
		const ids = new Set(square.anchors);
		const even = setKind(square, ids, 'even');
		for (let i = 0; i < 4; i++) {
			const p = even.points.subarray(7 * i, 7 * i + 7);
			expect(p[2] + p[4]).toBeCloseTo(2 * p[0], 9);
			expect(p[3] + p[5]).toBeCloseTo(2 * p[1], 9);
			expect(segmentTypeOf(even, i)).toBe(CUBIC);
		}
		const pulled = placeHandle(even, even.anchors[1], 'out', 13, 6);
		const p = pulled.points.subarray(7, 14);
		expect(Math.hypot(p[4] - p[0], p[5] - p[1])).toBeCloseTo(Math.hypot(p[2] - p[0], p[3] - p[1]), 9);
		const smooth = setKind(even, ids, 'smooth');
		const before = Math.hypot(smooth.points[9] - smooth.points[7], smooth.points[10] - smooth.points[8]);
		const turned = placeHandle(smooth, smooth.anchors[1], 'out', 20, 4);
		expect(Math.hypot(turned.points[9] - turned.points[7], turned.points[10] - turned.points[8])).toBeCloseTo(
			before,
			9
		);
		expect(kindOf(placeHandle(smooth, smooth.anchors[1], 'out', 20, 4, true), 1)).toBe('corner');
		expect(kindOf(setKind(smooth, ids, 'corner'), 0)).toBe('corner');
	});

	test('flowing handles are computed: they shrink as the neighbour comes near and grow as it goes away; held ones stay', () => {
		const flowing = setKind(square, new Set(square.anchors), 'flowing');
		const length = (o: Outline) => Math.hypot(o.points[4] - o.points[0], o.points[5] - o.points[1]);
		const nearer = placeAnchor(flowing, flowing.anchors[1], 5, 0);
		const farther = placeAnchor(flowing, flowing.anchors[1], 30, 0);
		expect(length(nearer)).toBeLessThan(length(flowing));
		expect(length(farther)).toBeGreaterThan(length(flowing));
		const held = placeHandle(flowing, flowing.anchors[0], 'out', 4, -4);
		expect([...placeAnchor(held, held.anchors[1], 30, 0).points.slice(4, 6)]).toEqual([4, -4]);
		const back = releaseHandles(held, new Set([held.anchors[0]]));
		expect([...back.points]).toEqual([...flowing.points]);
		const end = setKind(
			outlineFromPath(polygonPath([0, 0, 5, 5, 10, 0], false), facts),
			new Set([1, 2, 3]),
			'flowing'
		);
		expect([...end.points.slice(2, 4)]).toEqual([0, 0]);
		expect(flow(square)).toBe(square);
	});

	test('segments: straightened, made curves without moving, taken out', () => {
		const straight = straightenSegments(round, new Set([2]));
		expect(segmentTypeOf(straight, 2)).toBe(STRAIGHT);
		expect(
			twoWayDistance([lineOf(square)], [lineOf(curveSegments(square, new Set([0, 2])))], 0.001).distance
		).toBeLessThan(1e-9);
		const arc = outlineFromPath(circlePath(0, 0, 10), facts);
		expect(pathArea(lineOf(segmentToCurve(arc, 0)))).toBeCloseTo(100 * Math.PI, 1);
		const [opened] = deleteSegments(square, new Set([1]));
		expect(opened.closed).toBe(false);
		expect(opened.anchors).toHaveLength(4);
		expect(deleteSegments(opened, new Set([1]))).toHaveLength(2);
		expect(deleteSegments(square, new Set())).toEqual([square]);
		const handle = dropHandle(round, round.anchors[0], 'in');
		expect([handle.points[2], handle.points[3]]).toEqual([handle.points[0], handle.points[1]]);
	});
});

describe('history', () => {
	test('undo after any 200 operations gives the first drawing back bit for bit; redo the last', () => {
		for (const seed of [1, 2, 3]) {
			const rnd = chance(seed);
			let drawing: Drawing = newDrawing('d', 'Test');
			const start = {
				...drawing,
				records: new Map(drawing.records).set('o', round).set('p', { ...square, id: 'p' })
			};
			drawing = start;
			const steps: Step[] = [];
			for (let k = 0; k < 200; k++) {
				const outlines = outlinesOf(drawing);
				const o = outlines[Math.floor(rnd() * outlines.length)];
				if (!o) break;
				const anchor = o.anchors[Math.floor(rnd() * o.anchors.length)];
				const pick = rnd();
				let put: Outline[] = [];
				let remove: string[] = [];
				if (pick < 0.4) put = [moveAnchors(o, new Set([anchor]), rnd() - 0.5, rnd() - 0.5)];
				else if (pick < 0.55)
					put = [insertAnchors(o, [{ segment: Math.floor(rnd() * segmentTotal(o)), t: rnd() }]).outline];
				else if (pick < 0.7) {
					const next =
						o.anchors.length > 3 ? deleteAnchors(o, new Set([anchor]), rnd() < 0.5 ? 'kept' : 'through') : o;
					put = next ? [next] : [];
				} else if (pick < 0.8) put = [setKind(o, new Set([anchor]), rnd() < 0.5 ? 'even' : 'flowing')];
				else if (pick < 0.9) put = [replaceLine(o, reversePath(lineOf(o)))];
				else if (pick < 0.95) put = [{ ...square, id: `n${k}`, name: `N ${k}` }];
				else if (outlines.length > 1) remove = [o.id];
				const step = makeStep(drawing, 'Something', {
					put,
					remove,
					rename: rnd() < 0.05 ? `Name ${k}` : undefined
				});
				if (!step) continue;
				drawing = applyStep(drawing, step, 'forward');
				steps.push(step);
			}
			const last = drawing;
			for (const step of [...steps].reverse()) drawing = applyStep(drawing, step, 'back');
			const compare = (a: Drawing, b: Drawing) => {
				expect(a.name).toBe(b.name);
				expect([...a.records.keys()].sort()).toEqual([...b.records.keys()].sort());
				for (const o of outlinesOf(a)) expect(bits(o)).toEqual(bits(recordAs(b, 'outline', o.id)));
			};
			compare(drawing, start);
			for (const step of steps) drawing = applyStep(drawing, step, 'forward');
			compare(drawing, last);
		}
	});

	test('a step costs what it touched, not the outline', () => {
		const big = outlineFromPath(blob(1000, 1), facts);
		const drawing = { ...newDrawing('d', 'x'), records: new Map(newDrawing('d', 'x').records).set('o', big) };
		const step = makeStep(drawing, 'Move', { put: [moveAnchors(big, new Set([big.anchors[500]]), 1, 0)] })!;
		expect(stepSize(step)).toBeLessThan(1000);
		expect(touchedIds(step)).toEqual(['o']);
		expect(makeStep(drawing, 'Nothing', { put: [big] })).toBeUndefined();
		expect(() => applyStep(newDrawing('e', 'y'), step, 'forward')).toThrow('does not fit');
	});

	test('what a move leaves as it was lies in its step once; a step that changes kinds has both', () => {
		const wing = outlineFromPath(blob(20, 1), facts);
		const drawing = {
			...newDrawing('d', 'x'),
			records: new Map(newDrawing('d', 'x').records).set('o', wing)
		};
		const spliceOf = (put: Outline) => {
			const [change] = makeStep(drawing, 'Edit', { put: [put] })!.changes;
			if (change.how !== 'splice') throw new Error(change.how);
			return change;
		};
		const moved = spliceOf(moveAnchors(wing, new Set(wing.anchors), 3, 4));
		expect(moved.after.anchors).toBe(moved.before.anchors);
		expect(moved.after.marks).toBe(moved.before.marks);
		expect(moved.after.points).not.toEqual(moved.before.points);
		const kinds = spliceOf(setKind(wing, new Set(wing.anchors), 'corner'));
		expect(kinds.after.marks).not.toEqual(kinds.before.marks);
	});
});

describe('the drawing', () => {
	const reference: Reference = {
		type: 'reference',
		id: 'r',
		rank: 2,
		name: 'fox.png',
		picture: '0'.repeat(64),
		mediaType: 'image/png',
		widthPx: 10,
		heightPx: 10,
		pxPerMm: 2,
		x: 100,
		y: 50,
		opacity: 1
	};
	const base = newDrawing('d', 'Puppets');
	const add = (d: Drawing, edit: Parameters<typeof makeStep>[2]) =>
		applyStep(d, makeStep(d, 's', edit)!, 'forward');

	test('records by type and rank; names that are free', () => {
		expect(settingsOf(base).unit).toBe('mm');
		expect(layersOf(base).map((l) => l.purpose)).toEqual(['cut']);
		expect(referencesOf(base)).toEqual([]);
		expect(recordsOf(base, 'guide')).toEqual([]);
		expect(marksOf(base)).toEqual([]);
		const one = add(base, { put: [square] });
		expect(freeName(one, 'Arm')).toBe('Arm 2');
		expect(freeName(one, 'Leg')).toBe('Leg');
		expect(nextRank(one)).toBe(6);
		expect(() => recordAs(one, 'outline', 'nobody')).toThrow();
	});

	test('traced outlines lie where the picture lies; offsets are named after their source; the first line is kept', () => {
		const traced = add(
			base,
			addTraced(
				base,
				reference,
				{ paths: [polygonPath([0, 0, 4, 0, 4, -4]), polygonPath([1, -0.5, 2, -0.5, 2, -1])] },
				newId
			)
		);
		const [outer, hole] = outlinesOf(traced);
		expect(lineOf(outer).segs[0]).toBe(100);
		expect(outer.name).toBe('fox 1');
		expect(hole.name).toContain('hole');
		expect(factsLike(traced, outer, 'fox 1, outside')).toMatchObject({
			name: 'fox 1, outside',
			layer: 'cut'
		});
		expect(factsLike(traced, outer, 'fox 1').name).toBe('fox 2');
		const simpler = add(
			traced,
			replaceLines(traced, new Map([[outer.id, polygonPath([100, 50, 104, 50, 104, 45])]]), newId)
		);
		const now = recordAs(simpler, 'outline', outer.id);
		expect(recordAs(simpler, 'line', now.first!).path).toBe(lineOf(outer));
		expect(add(simpler, removeOutlines(simpler, new Set([outer.id]))).records.has(now.first!)).toBe(false);
		expect(addPaths(base, [polygonPath([0, 0, 1, 1], false)], 'Line', 'cut', newId).put).toHaveLength(1);
	});

	test('what is imported brings its layers and points', () => {
		const edit = addImported(
			base,
			{
				shapes: [
					{ paths: [polygonPath([0, 0, 1, 0, 1, 1])], fillRule: 'evenodd', layer: 'Score', fill: '#ff0000' }
				],
				points: [{ x: 1, y: 2 }],
				warnings: []
			},
			'bar',
			newId
		);
		const d = add(base, edit);
		expect(layersOf(d).map((l) => l.name)).toContain('Score');
		expect(outlinesOf(d)[0].colour).toBe('#ff0000');
		expect(marksOf(d)).toHaveLength(1);
	});
});

describe('readiness', () => {
	const put = (paths: Parameters<typeof findFaults>[0]) => {
		const outlines = paths.map((path, i) => outlineFromPath(path, { ...facts, id: `o${i}` }));
		const d = newDrawing('d', 'x');
		return {
			outlines,
			drawing: { ...d, records: new Map([...d.records, ...outlines.map((o) => [o.id, o] as const)]) }
		};
	};

	test('every kind of fault is found, and nothing where all is well', () => {
		const good = blob(30, 8);
		expect(findFaults([good])).toEqual([]);
		const faults = findFaults([
			good,
			reversePath(good),
			polygonPath([0, 0, 50, 0, 50, 50], false),
			polygonPath([100, 0, 100.1, 0.1], false),
			polygonPath([200, 0, 240, 40, 240, 0, 200, 40]),
			polygonPath([300, 0, 340, 0, 340, 40, 300, 40, 300, 0.2], false)
		]);
		expect(faults.map((f) => [f.kind, f.outline, f.mend])).toEqual([
			['doubled', 1, 'remove'],
			['open-ends', 2, 'close'],
			['crumb', 3, 'remove'],
			['self-crossing', 4, 'none'],
			['open-ends', 5, 'join-ends']
		]);
		expect(faults[3]).toMatchObject({ x: 220, y: 20 });
	});

	test('mends do what they say, and nothing is left to mend after them', () => {
		const stuck = new PathBuilder(0, 0)
			.line(20, 0)
			.cubic(20, 0, 20, 0, 20 + 1e-8, 0)
			.line(20, 20)
			.close();
		const { outlines, drawing } = put([
			polygonPath([0, 40, 30, 40, 30, 70, 0, 40.1], false),
			polygonPath([100, 0, 100.1, 0.1], false),
			stuck
		]);
		const faults = findFaults(outlines.map(lineOf));
		let d: Drawing = drawing;
		for (const fault of faults) {
			const edit = mendFault(d, fault, outlines, () => 'new')!;
			d = applyStep(d, makeStep(d, 'Mend', edit)!, 'forward');
		}
		expect(faults.map((f) => f.kind).sort()).toEqual(['crumb', 'open-ends', 'zero-segments']);
		expect(findFaults(outlinesOf(d).map(lineOf))).toEqual([]);
		expect(outlinesOf(d)[0].closed).toBe(true);
		expect(withoutZeroSegments(lineOf(square))).toBe(lineOf(square));
	});

	test('outlines that share an edge are no doubles, but are told of', () => {
		expect(
			findFaults([polygonPath([0, 0, 10, 0, 10, 10, 0, 10]), polygonPath([10, 0, 20, 0, 20, 10, 10, 10])])
		).toMatchObject([{ kind: 'overlap', stops: false }]);
	});
});
