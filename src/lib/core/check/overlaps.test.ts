/** Stretches that would be cut twice. */
import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { numberIn } from '../../../../tests/numbers';
import { blob } from '../../../../tests/shapes';
import { newDrawing, outlinesOf } from '../document/drawing';
import { applyStep, makeStep } from '../document/history';
import { mendFault } from './mend';
import { outlineFromPath, lineOf } from '../document/outline';
import { stretchBetween } from '../geometry/join';
import { pathLength } from '../geometry/measure';
import {
	circlePath,
	PathBuilder,
	polygonPath,
	reversePath,
	transformPath,
	type Path
} from '../geometry/path';
import { findOverlaps, withoutOverlaps } from './overlaps';
import { findFaults } from './readiness';

const square = polygonPath([0, 0, 10, 0, 10, 10, 0, 10]);

describe('overlapping stretches', () => {
	test('two squares side by side share an edge; moved apart, or crossing, they share none', () => {
		const beside = transformPath(square, [1, 0, 0, 1, 10, 3]);
		const [found, ...rest] = findOverlaps([square, beside], 0.5);
		expect(rest).toEqual([]);
		expect(found).toMatchObject({ path: 1, other: 0 });
		expect(found.length).toBeCloseTo(7, 6);
		for (const by of [10.01, 5]) {
			const apart = transformPath(square, [1, 0, 0, 1, by, 3]);
			expect(findOverlaps([square, apart], 0.5)).toEqual([]);
		}
		// Nearer than they could be told apart they lie on each other.
		expect(findOverlaps([square, transformPath(square, [1, 0, 0, 1, 10.0005, 3])], 0.5)).toHaveLength(1);
	});

	test('curves and arcs as well, whatever their anchors and whichever way they run', () => {
		fc.assert(
			fc.property(numberIn(0.2, 7), numberIn(0.6, 3), fc.boolean(), (from, span, back) => {
				const shape = blob(20, 3, 10);
				const part = stretchBetween(shape, from, from + span);
				const line = back ? reversePath(part) : part;
				const found = findOverlaps([shape, line], 0.5);
				const sum = found.reduce((s, o) => s + o.length, 0);
				expect(found.every((o) => o.path === 1)).toBe(true);
				expect(sum).toBeCloseTo(pathLength(part), 2);
				expect(withoutOverlaps(line, shape, 0.5)).toEqual([]);
			}),
			{ numRuns: 25 }
		);
		const circle = circlePath(0, 0, 8);
		const arc = new PathBuilder(8, 0)
			.arc(Math.tan(Math.PI / 8), 0, 8)
			.line(-5, 20)
			.open();
		const [o] = findOverlaps([circle, arc], 0.5);
		expect(o.length).toBeCloseTo(4 * Math.PI, 6);
		const rest = withoutOverlaps(arc, circle, 0.5);
		expect(rest).toHaveLength(1);
		expect(pathLength(rest[0])).toBeCloseTo(13, 6);
	});

	test('a stretch over the seam of a closed line is one; a line that lies on itself is told of itself', () => {
		const across = new PathBuilder(2, 0).line(-1e-9, 0).line(0, 4).open();
		// The square begins at its corner: its seam lies in the middle of what the other covers.
		const found = findOverlaps([across, square], 0.5);
		expect(found).toHaveLength(1);
		expect(found[0].length).toBeCloseTo(6, 5);
		const twice = polygonPath([0, 0, 30, 0, 30, 5, 20, 5, 20, 0, 10, 0, 10, -5, 0, -5]);
		const own = findOverlaps([twice], 0.5);
		expect(own).toHaveLength(1);
		expect(own[0]).toMatchObject({ path: 0, other: 0 });
		expect(own[0].length).toBeCloseTo(10, 6);
	});

	test('as a fault it is told with its length; an open line is shortened, a closed one is left to a person', () => {
		const line = polygonPath([-5, 5, 0, 5, 0, 9, -5, 9], false);
		let drawing = newDrawing('d', 'Bar');
		const put = [square, line].map((path: Path, k) =>
			outlineFromPath(path, { id: `o${k}`, name: `Part ${k}`, layer: 'cut', rank: k + 2 })
		);
		drawing = applyStep(drawing, makeStep(drawing, 'put', { put })!, 'forward');
		const outlines = outlinesOf(drawing);
		const fault = findFaults(outlines.map(lineOf)).find((f) => f.kind === 'overlap')!;
		expect(fault.why).toContain('4.0 mm');
		expect(fault).toMatchObject({ outline: 1, other: 0, mend: 'take-overlap', stops: false });
		let n = 0;
		const edit = mendFault(drawing, fault, outlines, () => `n${n++}`)!;
		drawing = applyStep(drawing, makeStep(drawing, 'mend', edit)!, 'forward');
		expect(outlinesOf(drawing)).toHaveLength(3);
		expect(findFaults(outlinesOf(drawing).map(lineOf)).some((f) => f.kind === 'overlap')).toBe(false);
		const closed = findFaults([square, transformPath(square, [1, 0, 0, 1, 10, 0])]);
		expect(closed).toMatchObject([{ kind: 'overlap', mend: 'none', stops: false }]);
		// What lies on another as a whole is doubled, and told once.
		const doubled = findFaults([square, reversePath(square)]);
		expect(doubled.map((f) => f.kind)).toEqual(['doubled']);
	});
});
