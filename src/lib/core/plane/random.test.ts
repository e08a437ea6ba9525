/** Combinations and offsets by chance, a few of those that `npm run torture` makes by the thousand. */
import { describe, expect, test } from 'vitest';
import { coincidentPair, SAME, tryCoincident } from '../../../../tests/random/coincident';
import { DISTANCES, randomInputs, type Wildness } from '../../../../tests/random/plane';
import { chance, oneOf } from '../../../../tests/shapes';
import { EdgeTree, flattenPath } from '../geometry/edge-tree';
import { pathArea } from '../geometry/measure';
import type { Path } from '../geometry/path';
import type { CombineOp } from './area';
import { combine } from './combine';
import { pathCrossings } from './crossings';
import { offsetPieces } from './offset';

const areaOf = (paths: readonly Path[]) => paths.reduce((sum, path) => sum + pathArea(path), 0);

/**
 * Where lines cross that should not. The two sides of a sliver's tip are one line to the engine as far as they lie within a millionth
 * of a millimetre: what they cross there is no crossing.
 */
const crossingsOf = (paths: readonly Path[]) =>
	pathCrossings(paths).filter(({ through, pathA, pathB, segmentA, segmentB }) => {
		const apart = Math.abs(segmentA - segmentB);
		const isTip = pathA === pathB && (apart === 1 || apart === paths[pathA].types.length - 1);
		return through && !isTip;
	});

describe.each(['ordinary', 'wild', 'torn'] as const)('%s outlines', (wildness: Wildness) => {
	const count = { ordinary: 40, wild: 40, torn: 2 }[wildness];

	test('the areas of their combinations fit each other, in clean lines of their own direction', () => {
		for (let n = 0; n < count; n++) {
			const { inputs } = randomInputs(chance(31_000 + n), wildness);
			const made = (op: CombineOp): number => {
				const result = combine(inputs, op, { verify: true });
				if (!result.ok) throw new Error(`${n} ${op}: ${result.problem.code}`);
				expect(result.value.fallback, `${n} ${op}`).toBe(false);
				const { pieces } = result.value;
				for (const { paths } of pieces) {
					expect(pathArea(paths[0]), `${n} ${op}`).toBeGreaterThan(0);
					for (const hole of paths.slice(1)) expect(pathArea(hole), `${n} ${op}`).toBeLessThan(0);
				}
				// Regions lie against each other.
				if (op !== 'regions')
					expect(crossingsOf(pieces.flatMap(({ paths }) => paths)), `${n} ${op}`).toEqual([]);
				return pieces.reduce((sum, { paths }) => sum + areaOf(paths), 0);
			};
			const [union, difference, intersection, xor] = (
				['union', 'difference', 'intersection', 'xor'] as const
			).map(made);
			const room = 1e-4 + 1e-7 * union;
			expect(Math.abs(union - difference - intersection - (xor - difference)), `${n}`).toBeLessThan(room);
			expect(Math.abs(xor - (union - intersection)), `${n}`).toBeLessThan(room);
			expect(made('regions'), `${n}`).toBeLessThan(union + room);
		}
	});

	test('an offset lies everywhere at its distance from the source, in round joins, or farther where joins are sharp', () => {
		const near = wildness === 'torn' ? 0.02 : 0.01;
		for (let n = 0; n < count; n++) {
			const r = chance(52_000 + n);
			const { first } = randomInputs(r, wildness);
			const join = (['round', 'miter', 'bevel'] as const)[n % 3];
			const distance = oneOf(r, DISTANCES);
			const made = offsetPieces(first, { distance, join, miterLimit: 1e6 });
			if (!made.ok) {
				expect(made.problem.code, `${n}`).toBe('nothing-left');
				continue;
			}
			const tree = new EdgeTree(first.map((path) => ({ points: flattenPath(path, 1e-3), closed: true })));
			for (const path of made.value.paths) {
				const points = flattenPath(path, 1e-3);
				for (let k = 0; k < points.length; k += 2) {
					const off = tree.distance(points[k], points[k + 1]);
					if (join !== 'bevel') expect(off, `${n}`).toBeGreaterThan(Math.abs(distance) - near);
					if (join !== 'miter') expect(off, `${n}`).toBeLessThan(Math.abs(distance) + near);
				}
			}
		}
	});
});

test('lines that lie on each other or nearly: in is in and out is out at every place between and beside them', () => {
	let places = 0;
	for (let n = 0; n < 12; n++) {
		const pair = coincidentPair(chance(88_000 + n));
		places += pair.places.length;
		for (const { op, refused, isNet, off, wrong } of tryCoincident(pair)) {
			const which = `${n} ${op} (${pair.what})`;
			expect({ refused, isNet, wrong }, which).toEqual({ refused: undefined, isNet: false, wrong: 0 });
			expect(off, which).toBeLessThanOrEqual(SAME);
		}
	}
	expect(places).toBeGreaterThan(300);
});
