/** Small sets of rectangles, of which the shortest way is found by trying all: the search comes as near to it as makes no difference. */
import { expect, test } from 'vitest';
import { chance } from '../../../../tests/shapes';
import { polygonPath } from '../geometry/path';
import { finish } from '../progress';
import { layOnSheetsSteps } from './arrange';

type Size = readonly [number, number];
interface Put {
	readonly x: number;
	readonly y: number;
	readonly w: number;
	readonly h: number;
}

/**
 * The least height of all ways to lay rectangles, turned by right angles or not, in a strip. Every way can be pushed down and to the
 * left until each touches something on both sides, so that trying the sums of what lies below and to the left tries them all.
 */
function leastHeight(sizes: readonly Size[], width: number): number {
	let best = Infinity;
	const put: Put[] = [];
	const left = new Set(sizes.keys());
	const lay = (height: number): void => {
		if (height >= best) return;
		if (left.size === 0) {
			best = height;
			return;
		}
		const xs = new Set([0, ...put.map(({ x, w }) => x + w)]);
		const ys = new Set([0, ...put.map(({ y, h }) => y + h)]);
		for (const i of [...left])
			for (const [w, h] of [sizes[i], [sizes[i][1], sizes[i][0]] as const])
				for (const x of xs)
					for (const y of ys) {
						if (x + w > width + 1e-9) continue;
						const isFree = put.every(
							(p) =>
								x + w <= p.x + 1e-9 || p.x + p.w <= x + 1e-9 || y + h <= p.y + 1e-9 || p.y + p.h <= y + 1e-9
						);
						if (!isFree) continue;
						put.push({ x, y, w, h });
						left.delete(i);
						lay(Math.max(height, y + h));
						left.add(i);
						put.pop();
					}
	};
	lay(0);
	return best;
}

test('trying all finds what is known: four quarters make a square, three beside one', () => {
	expect(
		leastHeight(
			[
				[5, 5],
				[5, 5],
				[5, 5],
				[5, 5]
			],
			10
		)
	).toBe(10);
	expect(
		leastHeight(
			[
				[3, 7],
				[7, 3],
				[3, 7],
				[7, 3]
			],
			10
		)
	).toBe(9);
	expect(
		leastHeight(
			[
				[10, 1],
				[4, 2],
				[6, 2]
			],
			10
		)
	).toBe(3);
});

test('twelve sets of four: eleven as short as the best of all ways, none longer by a twentieth', () => {
	let exact = 0;
	for (let seed = 1; seed <= 12; seed++) {
		const r = chance(seed);
		const sizes = Array.from({ length: 4 }, (): Size => [
			12 + Math.round(40 * r()),
			12 + Math.round(40 * r())
		]);
		const [width, margin, gap] = [70 + Math.round(40 * r()), 3, 1];
		const best = leastHeight(
			sizes.map(([w, h]): Size => [w + gap, h + gap]),
			width - 2 * margin + gap
		);
		const pieces = sizes.map(([w, h]) => ({
			paths: [polygonPath([0, 0, w, 0, w, h, 0, h])],
			turns: [0, 90]
		}));
		const found = finish(
			layOnSheetsSteps(pieces, [{ width, length: 400, margin }], {
				gap,
				inHoles: false,
				seed,
				share: (looks) => looks / 150_000
			})
		);
		expect(found.left).toEqual([]);
		const used = found.used[0] - 2 * margin + gap;
		expect(used).toBeGreaterThan(best - 0.01);
		expect(used).toBeLessThan(1.05 * best);
		if (used < best + 0.2) exact++;
	}
	expect(exact).toBeGreaterThanOrEqual(11);
});
