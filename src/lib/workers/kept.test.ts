import { expect, test } from 'vitest';
import { blob } from '../../../tests/shapes';
import { Keeper, Sender } from './kept';

const over = (message: unknown[]) => structuredClone(message);

test('a line goes over once, later its number; other arguments go as they are', () => {
	const [sender, keeper] = [new Sender(), new Keeper()];
	const [a, b, c] = [blob(5, 1), blob(5, 2), blob(5, 3)];
	const first = over(sender.pack([[a, b], { mayBeOpen: [1] }, [], undefined]));
	expect(keeper.unpack(first)).toEqual([[a, b], { mayBeOpen: [1] }, [], undefined]);
	const second = sender.pack([[a, c, a]]);
	expect(second).toEqual([{ kept: [1, [3, c], 1] }]);
	expect(keeper.unpack(over(second))).toEqual([[a, c, a]]);
	expect(keeper.size).toBe(3);
	keeper.forget([3]);
	expect(keeper.size).toBe(2);
	expect(() => keeper.unpack([{ kept: [3] }])).toThrow('never sent');
});

test('lists that hold anything else than lines are no parcels', () => {
	const sender = new Sender();
	const pairs = [{ path: blob(4, 1), other: blob(4, 2) }];
	expect(sender.pack([pairs, [1, 2], 'name'])).toEqual([pairs, [1, 2], 'name']);
});
