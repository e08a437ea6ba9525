/** Meeting at an anchor: told, and made, by curvature; and what is rough is found and mended. */
import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { blob, jagged } from '../../../../tests/shapes';
import { findFaults } from '../check/readiness';
import { findRoughness, smoothedLine, withoutSpikes } from '../check/roughness';
import { combOf } from '../geometry/comb';
import { twoWayDistance } from '../geometry/edge-tree';
import { anchorCount, pathArea, turnAt } from '../geometry/measure';
import { circlePath, PathBuilder, polygonPath } from '../geometry/path';
import { insertAnchors, placeHandle } from './anchors';
import { newDrawing } from './drawing';
import { meetingAt, meetWithCurvature } from './meet';
import { mendFault } from './operations';
import { outlineFromPath, resolve } from './outline';

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
		expect(combOf(resolve(longer)).steps.length).toBeGreaterThan(0);
		fc.assert(
			fc.property(fc.constantFrom('before' as const, 'after' as const, 'both' as const), (gives) => {
				const met = meetWithCurvature(longer, added[0], gives);
				const { before, after, how } = meetingAt(met, added[0])!;
				expect(how).toBe('curvature');
				expect(after).toBeCloseTo(before, 9);
				if (gives === 'before') expect(before).toBeCloseTo(meetingAt(longer, added[0])!.after, 9);
				if (gives === 'after') expect(after).toBeCloseTo(meetingAt(longer, added[0])!.before, 9);
			})
		);
	});
	test('what cannot meet says why', () => {
		const s = outlineFromPath(
			new PathBuilder(0, 0).cubic(5, 5, 10, 5, 15, 0).cubic(20, -5, 25, -5, 30, 0).open(),
			facts
		);
		expect(() => meetWithCurvature(s, 2, 'both')).toThrow('different hands');
		expect(() => meetWithCurvature(s, 1, 'both')).toThrow('nothing to meet');
		expect(meetingAt(s, 1)).toBeUndefined();
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
