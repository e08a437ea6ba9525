/** What a dragged thing catches on, and what it leaves alone. */
import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { numberIn } from '../../../../../tests/numbers';
import type { Box } from '../../geometry/segment';
import { snapBox } from './snap-boxes';

const box = (x0: number, y0: number, w: number, h: number): Box => ({ x0, y0, x1: x0 + w, y1: y0 + h });
const far = box(500, 500, 7, 7);

describe('a dragged thing', () => {
	test('catches on edges and middles, each way by itself', () => {
		const edge = snapBox(box(10.4, 100, 10, 10), [box(10, 0, 30, 30)], [], 1);
		expect(edge).toMatchObject({ up: 0, kinds: ['edges'] });
		expect(edge.right).toBeCloseTo(-0.4, 9);
		const middle = snapBox(box(19.7, 100, 10, 8), [box(10, 0, 30, 30)], [], 1);
		expect(middle.right).toBeCloseTo(0.3, 9);
		expect(middle.kinds).toEqual(['middles']);
		expect(middle.lines).toEqual([{ x: 25, y: 104, angle: 90 }]);
		const both = snapBox(box(40.2, 29.9, 10, 10), [box(10, 0, 30, 30)], [], 1);
		expect([both.right, both.up].map((v) => Math.round(1e9 * v) / 1e9)).toEqual([-0.2, 0.1]);
		expect(both.lines).toHaveLength(2);
	});

	test('on gaps as wide as those beside it: after, before, between', () => {
		const row = [box(0, 0, 10, 10), box(25, 2, 10, 10)];
		expect(snapBox(box(50.3, 1, 12, 7), row, [], 1).right).toBeCloseTo(-0.3, 9);
		expect(snapBox(box(-27.4, 1, 12, 7), row, [], 1).right).toBeCloseTo(0.4, 9);
		const between = snapBox(box(14.6, 30, 6, 3), [box(0, 28, 10, 9), box(25, 27, 10, 9)], [], 1);
		expect(between.right).toBeCloseTo(-0.1, 9);
		expect(between.kinds).toContain('equal gaps');
		// What lies in another row gives no gap.
		expect(snapBox(box(50.3, 300, 12, 7), row, [], 1).right).toBe(0);
	});

	test('on guides; nothing that is farther than it reaches', () => {
		const guides = [
			{ x: 80, y: 0, angle: 90 },
			{ x: 0, y: -40, angle: 0 },
			{ x: 3, y: 3, angle: 30 }
		];
		expect(snapBox(box(79.5, -49.8, 6, 10), [far], guides, 1)).toMatchObject({ kinds: ['guide'] });
		expect(snapBox(box(20, 20, 6, 10), [far], guides, 1)).toEqual({ right: 0, up: 0, lines: [], kinds: [] });
	});

	test('caught once it lies there: it goes on by nothing more, and never farther than it reaches', () => {
		const place = numberIn(0, 60);
		const size = numberIn(1, 20);
		const any = fc.tuple(place, place, size, size).map(([x, y, w, h]) => box(x, y, w, h));
		fc.assert(
			fc.property(any, fc.array(any, { maxLength: 6 }), (own, others) => {
				const once = snapBox(own, others, [], 2);
				expect(Math.max(Math.abs(once.right), Math.abs(once.up))).toBeLessThanOrEqual(2);
				const there = box(own.x0 + once.right, own.y0, own.x1 - own.x0, own.y1 - own.y0);
				if (once.right !== 0) expect(Math.abs(snapBox(there, others, [], 2).right)).toBeLessThan(1e-6);
			})
		);
	});
});
