/** What a tool makes of lines: each fault with its place, its reason and the largest tool that fits. */
import { describe, expect, test } from 'vitest';
import { circlePath, polygonPath } from '../geometry/path';
import { finish } from '../progress';
import { toolFaultSteps, type ToolQuestion } from './tool-faults';

const rect = (x: number, y: number, w: number, h: number) =>
	polygonPath([x, y, x + w, y, x + w, y + h, x, y + h]);
const faults = (paths: Parameters<typeof toolFaultSteps>[0], question: ToolQuestion) =>
	finish(toolFaultSteps([...paths], question));

describe('faults that a tool makes', () => {
	test('a hole narrower than the tool is named with the largest that fits, at its middle', () => {
		const found = faults([rect(0, 0, 60, 40), circlePath(20, 15, 2)], { toolRadius: 3 });
		expect(found.map((f) => [f.kind, f.outline, f.stops])).toEqual([['too-wide', 1, true]]);
		expect(found[0].why).toContain('4.0 mm');
		expect(Math.hypot(found[0].x - 20, found[0].y - 15)).toBeLessThan(0.05);
	});
	test('two pieces nearer than the tool: a gap, between them', () => {
		const found = faults([rect(0, 0, 30, 30), rect(32, 0, 30, 30)], { toolRadius: 1.5 });
		const [gap] = found.filter((f) => f.kind === 'tight-gap');
		expect(gap.x).toBeCloseTo(31, 1);
		expect(gap.why).toContain('2.0 mm apart');
	});
	test('inside corners that a round tool leaves, and none for a finer one', () => {
		const lines = [rect(0, 0, 60, 40), rect(10, 10, 20, 15)];
		const [corners] = faults(lines, { toolRadius: 2 }).filter((f) => f.kind === 'tight-corner');
		expect([corners.outline, corners.why.startsWith('4 corners')]).toEqual([1, true]);
		expect(faults(lines, { toolRadius: 0.1 }).filter((f) => f.kind === 'tight-corner')).toEqual([]);
	});
	test('walls thinner than wished or than the kerf', () => {
		const ring = [circlePath(0, 0, 20), circlePath(6, 0, 13.5)];
		expect(faults(ring, { kerf: 0.2 }).map((f) => f.kind)).toEqual([]);
		const [wall] = faults(ring, { kerf: 0.2, wall: 1 });
		expect([wall.kind, wall.why.includes('0.50 mm wide')]).toEqual(['thin-wall', true]);
	});
	test('what lies off the sheet, at the place that lies farthest off', () => {
		const [off] = faults([rect(90, 10, 30, 20)], { sheets: [{ x: 0, y: 0, width: 100, height: 100 }] });
		expect([off.kind, off.x, off.stops]).toEqual(['off-sheet', 120, true]);
		expect(off.why).toContain('20.0 mm');
		expect(faults([rect(10, 10, 30, 20)], { sheets: [{ x: 0, y: 0, width: 100, height: 100 }] })).toEqual([]);
		// On the second of two sheets it lies as well as on the first; between them it is off the nearer one.
		const two = {
			sheets: [
				{ x: 0, y: 0, width: 100, height: 100 },
				{ x: 200, y: 0, width: 100, height: 100 }
			]
		};
		expect(faults([rect(210, 10, 30, 20)], two)).toEqual([]);
		expect(faults([rect(185, 10, 30, 20)], two)[0].why).toContain('15.0 mm');
	});
});
