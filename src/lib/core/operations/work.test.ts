/** Long work can be left at any of its steps, which come often enough, and gives what the plain call gives. */
import { describe, expect, test } from 'vitest';
import { blob, jagged, wavy } from '../../../../tests/shapes';
import { findFaults } from '../check/readiness';
import { finish } from '../progress';
import { transformPath, type Path } from '../geometry/path';
import { combine } from '../plane/combine';
import { offsetSteps } from '../plane/offset-steps';
import { WORK } from './work';

/** Steps that work takes, and its value. */
function counted<T>(work: Generator<unknown, T>): { steps: number; shares: number[]; value: T } {
	const shares: number[] = [];
	for (let step = work.next(); ; step = work.next()) {
		if (step.done) return { steps: shares.length, shares, value: step.value };
		shares.push(step.value as number);
	}
}
const moved = (path: Path, x: number): Path => transformPath(path, [1, 0, 0, 1, x, 0]);

describe('long work', () => {
	test('combining, offsetting, checking come in steps whose shares grow to 1, the result the same', () => {
		const a = blob(300, 1, 40);
		const inputs = [
			[{ paths: [a], rule: 'evenodd' as const }],
			[{ paths: [moved(a, 3)], rule: 'evenodd' as const }]
		];
		const combined = counted(WORK.combine(inputs, 'union'));
		expect(combined.value).toEqual(combine(inputs, 'union', { verify: true }));
		const options = { distance: 2, way: 'outside', join: 'round' } as const;
		const offset = counted(WORK.offset([a, moved(a, 200)], options));
		expect(offset.value).toEqual(offsetSteps([a, moved(a, 200)], options));
		const lines = [a, moved(a, 1), jagged(20, 0.4, 3)];
		const checked = counted(WORK.check(lines));
		expect(checked.value).toEqual(findFaults(lines));
		for (const { steps, shares } of [combined, offset, checked]) {
			expect(steps).toBeGreaterThan(5);
			expect(shares.every((s, i) => s >= 0 && s <= 1 && (i === 0 || s >= shares[i - 1] - 1e-9))).toBe(true);
		}
	});

	test('the larger the work the more steps: no stretch of it grows without one', () => {
		const few = counted(WORK.check([wavy(1000, 2)])).steps;
		const many = counted(WORK.check([wavy(8000, 2)])).steps;
		expect(many).toBeGreaterThan(2 * few);
	});

	test('left in the middle it leaves nothing behind: the next run gives the same', () => {
		const a = blob(120, 7, 40);
		const work = WORK.offset([a], { distance: 1, way: 'both', join: 'round' });
		for (let k = 0; k < 4; k++) work.next();
		work.return(undefined as never);
		const options = { distance: 1, way: 'both', join: 'round' } as const;
		expect(finish(WORK.offset([a], options))).toEqual(offsetSteps([a], options));
	});

	test('a recipe is made of its inputs as they are given', () => {
		const input = {
			record: 'a',
			path: blob(12, 2, 20),
			roles: [],
			edges: [],
			edgeOf: new Int32Array(12),
			print: ''
		};
		const made = finish(WORK.make('allowance', [input], { width: 2, corner: 'round' }));
		expect(made).toMatchObject({ ok: true, value: [{ part: '0' }] });
	});
});
