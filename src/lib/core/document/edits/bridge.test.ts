/** A bridge meets both ends as wished, by the definitions of tangent and curvature; neither line moves. */
import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { PathBuilder, reversePath, type Path } from '../../geometry/path';
import { curvatureAt, directionAt, turnBetween } from '../../geometry/segment';
import { newDrawing } from '../drawing';
import { applyStep, makeStep } from '../history';
import { lineOf, outlineFromPath, type Outline } from '../outline';
import { MEET_WAYS, type BridgeEnd } from '../../fit/meet-ways';
import { bridgePath } from './bridge';
import { chainedAt } from './structure';
import { endAt, meetingAt, meetingOf, nearestEnds } from './meet';

const facts = { name: 'Rib', layer: 'cut', rank: 1 };
const left = (path: Path) => outlineFromPath(path, { ...facts, id: 'left' });
const right = (path: Path) => outlineFromPath(path, { ...facts, id: 'right', name: 'Fin' });
const drawingOf = (...list: Outline[]) => {
	const drawing = newDrawing('d', 'Wings');
	return { ...drawing, records: new Map([...drawing.records, ...list.map((o) => [o.id, o] as const)]) };
};

/** Direction and curvature at an end of a path, in its own travel. */
function atEnd(path: Path, t: 0 | 1) {
	const at = t === 0 ? 0 : 8 * (path.types.length - 1);
	const i = t === 0 ? 0 : path.types.length - 1;
	return {
		d: directionAt(path.types[i], path.segs, at, t),
		bend: curvatureAt(path.types[i], path.segs, at, t)
	};
}

const place = fc.integer({ min: -400, max: 400 }).map((tenths) => tenths / 10);
const curve = fc
	.tuple(place, place, place, place, place, place, place, place)
	.filter(([a, b, c, d, e, f, g, h]) => Math.hypot(c - a, d - b) > 3 && Math.hypot(g - e, h - f) > 3)
	.map(([a, b, c, d, e, f, g, h]) => new PathBuilder(a, b).cubic(c, d, e, f, g, h).open());
const way = fc.constantFrom(...MEET_WAYS);
const pull = fc.integer({ min: 3, max: 30 }).map((tenths) => tenths / 10);

describe('a bridge', () => {
	test('meets each end in place, direction, curvature as asked, whatever the pulls and which ends; within itself without a step', () => {
		fc.assert(
			fc.property(
				curve,
				curve,
				way,
				way,
				pull,
				pull,
				fc.boolean(),
				fc.boolean(),
				(a, b, wayA, wayB, pullA, pullB, fromStart, toStart) => {
					const lines = [left(a), right(b)];
					const first = endAt(lines[0], fromStart ? 1 : 2)!;
					const second = endAt(lines[1], toStart ? 1 : 2)!;
					fc.pre(meetingOf(lines, first, second).gap > 0.5);
					const ends: [BridgeEnd, BridgeEnd] = [
						{ way: wayA, pull: pullA },
						{ way: wayB, pull: pullB }
					];
					const bridge = bridgePath(lines, first, second, ends);
					// As it arrives, and as it goes on.
					const before = atEnd(fromStart ? reversePath(a) : a, 1);
					const after = atEnd(toStart ? b : reversePath(b), 0);
					const [start, end] = [atEnd(bridge, 0), atEnd(bridge, 1)];
					const same = (p: number, q: number) =>
						expect(Math.abs(p - q)).toBeLessThan(1e-6 * Math.max(1, Math.abs(q)));
					if (wayA !== 'place') same(turnBetween(before.d.x, before.d.y, start.d.x, start.d.y), 0);
					if (wayB !== 'place') same(turnBetween(end.d.x, end.d.y, after.d.x, after.d.y), 0);
					if (wayA === 'curvature') same(start.bend, before.bend);
					if (wayB === 'curvature') same(end.bend, after.bend);
					for (let i = 1; i < bridge.types.length; i++) {
						const [p, q] = [
							curvatureAt(bridge.types[i - 1], bridge.segs, 8 * (i - 1), 1),
							curvatureAt(bridge.types[i], bridge.segs, 8 * i, 0)
						];
						expect(Math.abs(p - q)).toBeLessThan(1e-5 * Math.max(1, Math.abs(p)));
					}
				}
			),
			{ numRuns: 300 }
		);
	});

	test('between two arcs of one circle, met in curvature, it keeps to the circle', () => {
		const on = (deg: number) => [30 * Math.cos((deg * Math.PI) / 180), 30 * Math.sin((deg * Math.PI) / 180)];
		const arc = (from: number, to: number) => {
			const [[x, y], [u, v]] = [on(from), on(to)];
			return new PathBuilder(x, y).arc(Math.tan(((to - from) * Math.PI) / 720), u, v).open();
		};
		const lines = [left(arc(0, 60)), right(arc(110, 200))];
		const [first, second] = nearestEnds(lines)!;
		const both: [BridgeEnd, BridgeEnd] = [
			{ way: 'curvature', pull: 1 },
			{ way: 'curvature', pull: 1 }
		];
		const bridge = bridgePath(lines, first, second, both);
		for (let i = 0; i < bridge.types.length; i++)
			expect(Math.hypot(bridge.segs[8 * i], bridge.segs[8 * i + 1])).toBeCloseTo(30, 1);
	});

	test('it makes one outline of both, which keeps the first one’s record and way; a line bridged with itself is closed', () => {
		const a = left(new PathBuilder(0, 0).cubic(6, 9, 12, 9, 18, 2).open());
		const b = right(new PathBuilder(70, 4).cubic(64, -8, 48, -9, 39, 3).open());
		const drawing = drawingOf(a, b);
		const ends: [BridgeEnd, BridgeEnd] = [
			{ way: 'curvature', pull: 1 },
			{ way: 'curvature', pull: 1 }
		];
		const [first, second] = nearestEnds([a, b])!;
		const path = bridgePath([a, b], first, second, ends);
		const step = makeStep(drawing, 'Bridge', chainedAt(drawing, [a, b], first, second, path))!;
		const after = applyStep(drawing, step, 'forward');
		expect(after.records.has('right')).toBe(false);
		const one = after.records.get('left') as Outline;
		expect(one.name).toBe('Rib');
		expect(one.anchors.slice(0, 2)).toEqual(a.anchors);
		expect([...one.points.slice(0, 2)]).toEqual([0, 0]);
		for (const anchor of [one.anchors[1], one.anchors[2], one.anchors[3], one.anchors[4]])
			expect(meetingAt(one, anchor)!.how).toBe('curvature');
		expect(applyStep(after, step, 'back').records.get('right')).toBe(b);

		const ownEnds = nearestEnds([a])!;
		const back = bridgePath([a], ...ownEnds, ends);
		const [closed] = chainedAt(drawing, [a], ...ownEnds, back).put as Outline[];
		expect(lineOf(closed).closed).toBe(true);
		for (const anchor of closed.anchors) expect(meetingAt(closed, anchor)!.how).toBe('curvature');
		expect(() => bridgePath([a], ownEnds[0], ownEnds[0], ends)).toThrow('no gap');
		expect(meetingOf([a, b], first, second).how).toBe('apart');
	});
});
