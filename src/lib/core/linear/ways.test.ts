import { expect, test } from 'vitest';
import { chance } from '../../../../tests/shapes';
import { addEquation, eliminate } from './small';
import { Equations } from './ways';

test('the ways that answer many equations are those of the dense normal equations; places that are held stay', () => {
	const r = chance(3);
	const count = 9;
	const held = Uint8Array.from({ length: count }, (_, k) => (k === 4 ? 1 : 0));
	const some = new Equations(count);
	const dense = new Float64Array(2 * count * (2 * count + 1));
	// A chain of places, the last joined to the first; one list names a place twice.
	const lists = [
		...Array.from({ length: count }, (_, k) => [k, (k + 1) % count, (k + 2) % count]),
		[3, 3, 5]
	];
	for (let n = 0; n < 90; n++) {
		const at = lists[n % lists.length];
		const by = at.flatMap(() => [r() - 0.5, r() - 0.5]);
		const [weight, value] = [0.2 + r(), r() - 0.5];
		some.add(at, by, weight, weight * value);
		const terms = new Array<number>(2 * count).fill(0);
		at.forEach((place, i) => {
			if (held[place]) return;
			terms[2 * place] += by[2 * i];
			terms[2 * place + 1] += by[2 * i + 1];
		});
		addEquation(dense, terms, value, weight);
	}
	for (const k of [8, 9]) dense[k * (2 * count + 1) + k] = 1;
	expect(eliminate(dense, 2 * count)).toBe(true);
	const [x, y] = some.solve(held);
	for (let k = 0; k < count; k++) {
		expect(x[k]).toBeCloseTo(dense[2 * k * (2 * count + 1) + 2 * count], 4);
		expect(y[k]).toBeCloseTo(dense[(2 * k + 1) * (2 * count + 1) + 2 * count], 4);
	}
	expect(x[4]).toBe(0);
});
