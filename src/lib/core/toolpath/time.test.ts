/** The time of moves. Closed forms: a trapezoid takes s/v + v/a, a triangle 2 sqrt(s/a). */
import { describe, expect, test } from 'vitest';
import { MovesBuilder } from './moves';
import { moveTimes, trapezoidalTime } from './time';

describe('time', () => {
	test('a move from rest to rest', () => {
		expect(trapezoidalTime(100, 50, 500)).toBeCloseTo(100 / 50 + 50 / 500, 12);
		expect(trapezoidalTime(1, 50, 500)).toBeCloseTo(2 * Math.sqrt(1 / 500), 12);
		expect(trapezoidalTime(0, 50, 500)).toBe(0);
	});
	const pace = { rapid: 3000, acceleration: 500 };
	const sum = (times: Float64Array) => times.reduce((a, b) => a + b, 0);
	test('a straight in two parts takes as long as the whole, a corner longer', () => {
		const straight = (parts: number) => {
			const moves = new MovesBuilder([0, 0, 0]);
			for (let k = 1; k <= parts; k++) moves.straight((100 * k) / parts, 0, 0, 1500);
			return sum(moveTimes(moves.moves(), pace));
		};
		expect(straight(1)).toBeCloseTo(trapezoidalTime(100, 25, 500), 9);
		expect(straight(7)).toBeCloseTo(straight(1), 6);
		const corner = new MovesBuilder([0, 0, 0]).straight(50, 0, 0, 1500).straight(50, 50, 0, 1500);
		expect(sum(moveTimes(corner.moves(), pace))).toBeGreaterThan(straight(1) + 0.01);
	});
	test('an arc is no faster than what turns it allows: v2 = a r', () => {
		const moves = new MovesBuilder([0, 0, 0]).arc(1, 4, 0, 0, 30_000).moves();
		const fastest = Math.sqrt(500 * 2);
		expect(sum(moveTimes(moves, pace))).toBeGreaterThan((Math.PI * 2) / fastest);
	});
});
