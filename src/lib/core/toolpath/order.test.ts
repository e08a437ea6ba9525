/** The order of cuts: what waits comes after, the way is short, and the same cuts give the same order. */
import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { finish } from '../progress';
import { seeded } from '../chance';
import { orderSteps, type Stop } from './order';

const at = (x: number, y: number) => ({ from: { x, y }, to: { x, y } });
const HOME = { x: 0, y: 0 };

/** Length of the least tree that joins places (Prim). */
function leastTree(places: readonly { x: number; y: number }[]): number {
	const rest = places.slice(1);
	const done = [places[0]];
	let sum = 0;
	while (rest.length) {
		let best = Infinity;
		let k = 0;
		rest.forEach((p, i) => {
			for (const q of done) {
				const d = Math.hypot(p.x - q.x, p.y - q.y);
				if (d < best) [best, k] = [d, i];
			}
		});
		sum += best;
		done.push(...rest.splice(k, 1));
	}
	return sum;
}

describe('the order of cuts', () => {
	test('nothing comes before what it waits for, whatever waits for what', () => {
		fc.assert(
			fc.property(fc.integer({ min: 1, max: 40 }), fc.integer({ min: 1, max: 1e6 }), (n, seed) => {
				const chance = seeded(seed);
				const stops: Stop[] = Array.from({ length: n }, (_, i) => ({
					places: Array.from({ length: 1 + Math.floor(3 * chance()) }, () =>
						at(100 * chance(), 100 * chance())
					),
					// A forest: each but the last may be waited for by one that comes later in the list.
					after: i && chance() < 0.5 ? [Math.floor(chance() * i)] : []
				}));
				const { order, start } = finish(orderSteps(stops, HOME));
				expect([...order].sort((a, b) => a - b)).toEqual(stops.map((_, i) => i));
				order.forEach((i, k) => {
					for (const j of stops[i].after) expect(order.indexOf(j)).toBeLessThan(k);
					expect(stops[i].places[start[i]]).toBeDefined();
				});
			}),
			{ numRuns: 60 }
		);
	});

	test('the way between 100 places is near that of long runs, and the same each time', () => {
		const chance = seeded(5);
		const places = Array.from({ length: 100 }, () => ({ x: 400 * chance(), y: 300 * chance() }));
		const stops = places.map((p) => ({ places: [at(p.x, p.y)], after: [] }));
		const first = finish(orderSteps(stops, HOME));
		expect(finish(orderSteps(stops, HOME))).toEqual(first);
		// The shortest open tour of random places is about 1.1 to 1.2 least trees.
		expect(first.travel / leastTree(places)).toBeLessThan(1.22);
	});

	test('starts that are free shorten the way', () => {
		const chance = seeded(9);
		const ring = (x: number, y: number, count: number): Stop => ({
			places: Array.from({ length: count }, (_, k) => {
				const a = (2 * Math.PI * k) / count;
				return at(x + 8 * Math.cos(a), y + 8 * Math.sin(a));
			}),
			after: []
		});
		const places = Array.from({ length: 60 }, () => [300 * chance(), 300 * chance()]);
		const way = (count: number) =>
			finish(
				orderSteps(
					places.map(([x, y]) => ring(x, y, count)),
					HOME
				)
			).travel;
		expect(way(16)).toBeLessThan(0.85 * way(1));
	});

	test('it can be stopped, and few stops need no search', () => {
		expect(finish(orderSteps([], HOME)).order).toEqual([]);
		expect(finish(orderSteps([{ places: [at(1, 1)], after: [] }], HOME)).order).toEqual([0]);
		const work = orderSteps(
			Array.from({ length: 300 }, (_, i) => ({ places: [at((i * 37) % 101, (i * 53) % 97)], after: [] })),
			HOME
		);
		const shares: number[] = [];
		for (let step = work.next(); !step.done && shares.length < 5; step = work.next()) shares.push(step.value);
		expect(shares.every((s, i) => i === 0 || s >= shares[i - 1])).toBe(true);
	});
});
