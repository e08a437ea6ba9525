/** Meeting at an anchor: told, and made, by curvature; and what is rough is found and mended. */
import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { blob, jagged } from '../../../../../tests/shapes';
import { findFaults } from '../../check/readiness';
import { findRoughness, smoothedLine, withoutSpikes } from '../../check/roughness';
import { combOf } from '../../geometry/comb';
import { twoWayDistance } from '../../geometry/edge-tree';
import { anchorCount, pathArea, turnAt } from '../../geometry/measure';
import { circlePath, CUBIC, PathBuilder, polygonPath, STRAIGHT } from '../../geometry/path';
import { insertAnchors, placeHandle } from './anchors';
import { newDrawing } from '../drawing';
import { MEET_WAYS } from '../../fit/meet-ways';
import { endAt, meet, meetingAt, meetingOf, nearestEnds, sidesOf } from './meet';
import { mendFault } from '../../check/mend';
import { outlineFromPath, placeOfAnchor, lineOf, type Outline } from '../outline';

const facts = { id: 'o', name: 'Fin', layer: 'cut', rank: 1 };

describe('meeting', () => {
	test('an anchor put on a curve meets with equal curvature; a handle pulled longer leaves only the direction', () => {
		const { outline, added } = insertAnchors(outlineFromPath(blob(8, 2, 40), facts), [
			{ segment: 3, t: 0.5 }
		]);
		expect(meetingAt(outline, added[0])!.how).toBe('curvature');
		const i = outline.anchors.indexOf(added[0]);
		const p = outline.points;
		const longer = placeHandle(
			outline,
			added[0],
			'out',
			p[7 * i] + 1.4 * (p[7 * i + 4] - p[7 * i]),
			p[7 * i + 1] + 1.4 * (p[7 * i + 5] - p[7 * i + 1])
		);
		expect(meetingAt(longer, added[0])!.how).toBe('direction');
		expect(combOf(lineOf(longer)).steps.length).toBeGreaterThan(0);
		const sides = sidesOf('o', added[0]);
		for (const gives of ['first', 'second', 'both'] as const) {
			const [met] = meet([longer], ...sides, 'curvature', gives);
			const { before, after, how, turn } = meetingAt(met, added[0])!;
			expect(how).toBe('curvature');
			expect(turn).toBeCloseTo(0, 6);
			expect(after).toBeCloseTo(before, 9);
			if (gives === 'first') expect(before).toBeCloseTo(meetingAt(longer, added[0])!.after, 9);
			if (gives === 'second') expect(after).toBeCloseTo(meetingAt(longer, added[0])!.before, 9);
			// The comb shows it: there is no step at this place any more.
			const x = met.points[7 * i];
			expect(combOf(lineOf(met)).steps.every((step) => step.x !== x)).toBe(true);
			// At the anchors beside it the line runs on as before.
			for (const k of [i - 1, i + 1]) {
				const id = met.anchors[(k + met.anchors.length) % met.anchors.length];
				expect(meetingAt(met, id)!.turn).toBeCloseTo(meetingAt(longer, id)!.turn, 6);
			}
		}
	});

	test('an S meets with no curvature at all where its two halves bend to different hands; a corner gets one direction', () => {
		const s = outlineFromPath(
			new PathBuilder(0, 0).cubic(5, 5, 10, 6, 15, 0).cubic(20, -6, 26, -5, 30, 0).open(),
			facts
		);
		const [met] = meet([s], ...sidesOf('o', 2), 'curvature', 'both');
		const { before, after, how } = meetingAt(met, 2)!;
		expect(how).toBe('curvature');
		expect(after).toBeCloseTo(before, 9);
		const peak = outlineFromPath(new PathBuilder(0, 0).cubic(4, 6, 8, 8, 10, 8).line(20, 0).open(), facts);
		const [turned] = meet([peak], ...sidesOf('o', 2), 'direction', 'first');
		expect(meetingAt(turned, 2)!.turn).toBeCloseTo(0, 9);
		// The straight, which was not to give way, is one still.
		expect(lineOf(turned).types[1]).toBe(STRAIGHT);
		expect(placeOfAnchor(turned, 2)).toEqual({ x: 10, y: 8 });
		const [even] = meet([peak], ...sidesOf('o', 2), 'direction', 'both');
		expect(meetingAt(even, 2)!.turn).toBeCloseTo(0, 9);
		expect(lineOf(even).types[1]).toBe(CUBIC);
	});

	const left = outlineFromPath(new PathBuilder(0, 0).cubic(6, 9, 12, 9, 18, 2).open(), {
		...facts,
		id: 'left'
	});
	const right = outlineFromPath(new PathBuilder(50, 4).cubic(44, -8, 28, -9, 19, 3).open(), {
		...facts,
		id: 'right'
	});

	test('two outlines meet at their nearest ends, whichever way they run: in place, direction, curvature', () => {
		const ends = nearestEnds([left, right])!;
		expect(ends.map((e) => [e.outline, e.side])).toEqual([
			['left', 'in'],
			['right', 'in']
		]);
		expect(meetingOf([left, right], ...ends)).toMatchObject({ how: 'apart' });
		fc.assert(
			fc.property(
				fc.constantFrom(...MEET_WAYS),
				fc.constantFrom('first' as const, 'second' as const, 'both' as const),
				(way, gives) => {
					const met = meet([left, right], ...ends, way, gives);
					const found = meetingOf(met, ...ends);
					expect(found.gap).toBe(0);
					expect(['place', 'direction', 'curvature'].indexOf(found.how)).toBeGreaterThanOrEqual(
						MEET_WAYS.indexOf(way)
					);
					// Who does not give way is what it was, to the last bit.
					if (gives === 'first') expect(met[1].points).toEqual(right.points);
					if (gives === 'second') expect(met[0].points).toEqual(left.points);
					// The far ends stay in place and direction.
					expect(Array.from(met[0].points.slice(0, 2))).toEqual([0, 0]);
					expect(Array.from(met[1].points.slice(0, 2))).toEqual([50, 4]);
					const dir = (o: Outline) => Math.atan2(o.points[5] - o.points[1], o.points[4] - o.points[0]);
					expect(dir(met[0])).toBeCloseTo(dir(left), 9);
					expect(dir(met[1])).toBeCloseTo(dir(right), 9);
				}
			),
			{ numRuns: 40 }
		);
	});

	test('the two ends of one open line meet each other; what cannot meet says why', () => {
		const open = outlineFromPath(
			new PathBuilder(0, 0).cubic(10, 20, 30, 20, 40, 0).cubic(30, -15, 8, -14, 0.5, -1).open(),
			facts
		);
		const ends = nearestEnds([open])!;
		const [met] = meet([open], ...ends, 'curvature', 'both');
		expect(meetingOf([met], ...ends).how).toBe('curvature');
		const straight = outlineFromPath(polygonPath([0, 0, 9, 0, 20, 0], false), facts);
		expect(() => meet([straight], ...sidesOf('o', 1), 'place', 'both')).toThrow('nothing to meet');
		// A straight between two bends that should bend at one end and still run into the other as it does.
		const quarter = Math.tan(Math.PI / 8);
		const bow = outlineFromPath(
			new PathBuilder(0, 0).cubic(2, 4, 4, 8, 10, 8).line(20, 8).arc(-quarter, 26, 2).open(),
			facts
		);
		expect(meetingAt(bow, 3)!.how).toBe('direction');
		expect(() => meet([bow], ...sidesOf('o', 3), 'curvature', 'first')).toThrow('cannot bend so');
		// Where its other end is a corner it may leave that in another direction.
		const bracket = outlineFromPath(
			new PathBuilder(0, 0).line(10, 8).line(20, 8).arc(-quarter, 26, 2).open(),
			facts
		);
		const [bent] = meet([bracket], ...sidesOf('o', 3), 'curvature', 'first');
		expect(meetingAt(bent, 3)!.how).toBe('curvature');
		expect(meetingAt(bent, 3)!.before).toBeCloseTo(-1 / 6, 9);
		const cusp = outlineFromPath(new PathBuilder(0, 0).line(10, 0).line(0, 0.0).open(), facts);
		expect(() => meet([cusp], ...sidesOf('o', 2), 'direction', 'both')).toThrow('same side');
		expect(() =>
			meet([left], { outline: 'gone', anchor: 1, side: 'in' }, ends[0], 'place', 'both')
		).toThrow();
		expect(meetingAt(left, 1)).toBeUndefined();
		expect(endAt(left, 1)).toMatchObject({ side: 'out' });
		expect(endAt(outlineFromPath(circlePath(0, 0, 4), facts), 1)).toBeUndefined();
		expect(nearestEnds([outlineFromPath(circlePath(0, 0, 4), facts)])).toBeUndefined();
	});
});

describe('roughness', () => {
	test('spikes, jagged stretches, needless anchors are found, told, mended; nothing of it stops a cut', () => {
		const spiked = polygonPath([0, 0, 20, 0, 35, 0.02, 20, 0.04, 20, 20, 0, 20]);
		const rough = jagged(20, 0.4, 3);
		const dense = polygonPath(
			Array.from({ length: 1600 }, (_, k) => {
				const a = (2 * Math.PI * (k >> 1)) / 800;
				return k % 2 ? 100 + 30 * Math.sin(a) : 30 * Math.cos(a);
			})
		);
		const faults = findRoughness([spiked, rough, dense, circlePath(0, 0, 30), blob(40, 1, 40)]);
		expect(faults.map((f) => [f.kind, f.outline, f.mend])).toEqual([
			['spike', 0, 'take-spikes'],
			['jagged', 1, 'fair'],
			['dense', 2, 'thin']
		]);
		expect(faults.every((f) => !f.stops)).toBe(true);
		// A plain wave of 161 anchors is told; thinned it is itself with a fraction of them. A polygon of as many sides is none.
		const wave = new PathBuilder(0, 0);
		for (let k = 0; k < 160; k++) {
			const [a, b] = [k, k + 1].map((i) => (i * Math.PI) / 20);
			const [x0, x1] = [2 * k, 2 * (k + 1)];
			const slope = (t: number) => (10 * Math.cos(t) * Math.PI) / 40;
			wave.cubic(
				x0 + 2 / 3,
				10 * Math.sin(a) + (2 / 3) * slope(a),
				x1 - 2 / 3,
				10 * Math.sin(b) - (2 / 3) * slope(b),
				x1,
				10 * Math.sin(b)
			);
		}
		const many = wave.open();
		expect(findRoughness([many]).map((f) => f.kind)).toEqual(['dense']);
		const thinned = smoothedLine(many, 'thin');
		expect(anchorCount(thinned)).toBeLessThan(60);
		expect(findRoughness([thinned])).toEqual([]);
		const zigzag = polygonPath(
			Array.from({ length: 200 }, (_, k) => (k % 2 ? (k % 4 === 1 ? 8 : 0) : 4 * k)),
			false
		);
		expect(findRoughness([zigzag]).map((f) => f.kind)).not.toContain('dense');
		// A tip where a curve runs into a straight turns round as well, but is no spike.
		const tip = new PathBuilder(10, -50)
			.cubic(10, -10, 40, -10, 50, -30)
			.cubic(60, -50, 90, -50, 90, -10)
			.line(90, -50)
			.close();
		expect(findRoughness([tip])).toEqual([]);
		const clean = withoutSpikes(spiked);
		expect(Math.abs(pathArea(clean) - 400)).toBeLessThan(1);
		for (let i = 0; i < clean.types.length; i++) expect(Math.abs(turnAt(clean, i))).toBeLessThan(172);
		const fair = smoothedLine(rough, 'fair');
		expect(anchorCount(fair)).toBeLessThan(anchorCount(rough) / 4);
		expect(twoWayDistance([rough], [fair], 1e-3, 0.05).distance).toBeLessThanOrEqual(0.6 + 1e-6);
		expect(anchorCount(smoothedLine(dense, 'thin'))).toBeLessThan(20);
		expect(findRoughness([smoothedLine(dense, 'thin'), clean])).toEqual([]);
	});
	test('they come behind what stops the cut, and are mended in the drawing by one step each', () => {
		const open = polygonPath([0, 0, 5, 0, 5, 5], false);
		const rough = jagged(20, 0.4, 3);
		const faults = findFaults([rough, open]);
		expect(faults.map((f) => f.kind)).toEqual(['open-ends', 'jagged']);
		const empty = newDrawing('d', 'Fish');
		const outline = outlineFromPath(rough, facts);
		const drawing = { ...empty, records: new Map(empty.records).set('o', outline) };
		const edit = mendFault(drawing, faults[1], [outline], () => 'first')!;
		const mended = edit.put!.find((r) => r.type === 'outline');
		expect(mended?.type === 'outline' && mended.anchors.length).toBeLessThan(outline.anchors.length / 4);
		expect(edit.put!.some((r) => r.type === 'line')).toBe(true);
	});
});
