/** The test piece and what its measured fits say, against a piece that is made wrong on purpose. */
import { describe, expect, test } from 'vitest';
import { pathBox } from '../geometry/measure';
import { finish } from '../progress';
import { groupPieces } from '../plane/pieces';
import { planSteps } from './plan';
import { BARS, fitsTell, slitWidths, SQUARE, testPiece } from './test-piece';

describe('the test piece', () => {
	test('has what it names, at its size, and can be cut', () => {
		const lines = testPiece(3);
		expect(slitWidths(3)).toEqual([2.6, 2.7, 2.8, 2.9, 3, 3.1, 3.2, 3.3, 3.4]);
		for (const { name, path } of lines) {
			const size = Number(/[\d.]+$/.exec(name)?.[0]);
			const b = pathBox(path);
			if (size) expect(b.x1 - b.x0).toBeCloseTo(size, 9);
		}
		// A plate with its holes, four bars, a square.
		expect(groupPieces(lines.map((l) => l.path))).toHaveLength(6);
		const plan = finish(
			planSteps({ lines }, { tool: { kind: 'beam', kerf: 0.2 }, side: 'outside', feed: 900 })
		);
		expect(plan.ok && plan.value.cuts.length).toBe(lines.length);
		expect(slitWidths(0.2).every((w) => w > 0)).toBe(true);
	});
	test('bars tell the kerf, one that is misread does not', () => {
		const cut = (kerf: number) => BARS.map((nominal) => ({ nominal, measured: nominal + 0.15 - kerf }));
		expect(fitsTell({ reckoned: 0.15, thickness: 3, bars: cut(0.23) }).kerf).toBeCloseTo(0.23, 9);
		const misread = cut(0.1).with(1, { nominal: 5, measured: 6 });
		expect(fitsTell({ reckoned: 0.15, thickness: 3, bars: misread }).kerf).toBeCloseTo(0.1, 6);
		expect(fitsTell({ reckoned: 0.15, thickness: 3, bars: [] })).toEqual({
			kerf: undefined,
			play: undefined,
			offSquare: undefined
		});
	});
	test('the slit that fits tells the play, wherever the kerf was', () => {
		// Snug is 3.05 mm wide in truth; cut with 0.08 mm too little taken off it was drawn as 2.97.
		const { play } = fitsTell({
			reckoned: 0.15,
			thickness: 3,
			bars: [{ nominal: 10, measured: 9.92 }],
			slit: 2.97
		});
		expect(play).toBeCloseTo(0.05, 9);
	});
	test('diagonals tell the angle between the axes', () => {
		const angle = (89.4 * Math.PI) / 180;
		const d = (sign: number) => SQUARE * Math.sqrt(2 + sign * 2 * Math.cos(angle));
		const { offSquare } = fitsTell({ reckoned: 0, thickness: 1, bars: [], diagonals: [d(1), d(-1)] });
		expect(offSquare).toBeCloseTo(0.6, 6);
		expect(fitsTell({ reckoned: 0, thickness: 1, bars: [], diagonals: [50, 50] }).offSquare).toBe(0);
	});
});
