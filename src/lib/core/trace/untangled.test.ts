import { describe, expect, test } from 'vitest';
import { crossedOf } from '../../../../tests/random/crossed';
import { randomPicture } from '../../../../tests/random/pictures';
import { chance } from '../../../../tests/shapes';
import { CoreError } from '../errors';
import { polygonPath, type Path } from '../geometry/path';
import { pathCrossings } from '../plane/crossings';
import { finish } from '../progress';
import { followBoundaries } from './boundary';
import { through, untangled } from './untangled';
import { sourceOf, tracePicture } from './ways';

/** Draws again in one go. */
const at = <Way>(once: (crossing: readonly number[], way: Way) => void) =>
	function* (crossing: readonly number[], way: Way): Generator<void, void> {
		yield;
		once(crossing, way);
	};
const bow = (x: number) => polygonPath([x, 0, x + 10, 10, x + 10, 0, x, 10]);
const square = (x: number) => polygonPath([x, 0, x + 10, 0, x + 10, 10, x, 10]);

describe('what crosses is drawn again', () => {
	test('nothing is asked of paths that do not cross', () => {
		const asked: string[] = [];
		const again = at((_, way: string) => void asked.push(way));
		finish(untangled([square(0), square(20)], ['closer', 'last'], again));
		expect(asked).toEqual([]);
	});

	test('only those that cross, and no longer than they do', () => {
		const paths = [square(0), bow(20), bow(40)];
		const asked: [readonly number[], string][] = [];
		const again = at((crossing, way: string) => {
			asked.push([crossing, way]);
			paths[crossing[0]] = square(20 * crossing[0]);
		});
		finish(untangled(paths, ['closer', 'closest', 'last'], again));
		expect(asked).toEqual([
			[[1, 2], 'closer'],
			[[2], 'closest']
		]);
		expect(paths).toEqual([square(0), square(20), square(40)]);
	});

	test('what is drawn in the last way may cross others, which come to it as well', () => {
		// Each, drawn in the last way, lies over its neighbour.
		const paths = [bow(0), square(15), square(30), square(45)];
		const wide = (i: number) => polygonPath([15 * i, 1, 15 * i + 18, 1, 15 * i + 18, 9, 15 * i, 9]);
		const slim = (i: number) => polygonPath([15 * i, 2, 15 * i + 8, 2, 15 * i + 8, 8, 15 * i, 8]);
		const first = new Set<number>();
		const asked: number[][] = [];
		const again = at((crossing) => {
			asked.push([...crossing]);
			for (const i of crossing) {
				paths[i] = first.has(i) ? slim(i) : wide(i);
				first.add(i);
			}
		});
		finish(untangled(paths, ['last'], again));
		expect(asked).toEqual([[0], [0, 1], [1, 2], [2, 3]]);
		expect(pathCrossings(paths).filter((c) => c.through)).toEqual([]);
	});

	test('what still crosses in the last way is left: it ends', () => {
		let rounds = 0;
		const again = at(() => void rounds++);
		finish(untangled([bow(0)], ['closer', 'last'], again));
		expect(rounds).toBe(2);
	});

	test('progress grows and never reaches its end', () => {
		const again = at(() => undefined);
		const told = [...untangled([bow(0), bow(3), bow(6)], ['a', 'b', 'c', 'd'], again)];
		expect(told.length).toBeGreaterThan(3);
		for (let k = 1; k < told.length; k++) expect(told[k]).toBeGreaterThanOrEqual(told[k - 1]);
		expect(Math.max(...told)).toBeLessThan(1);
	});

	test('straights through what was followed keep its inner places and take the ends that are given', () => {
		const path = through(Float64Array.of(0, 0, 1, 1, 2, 1, 3, 0), { x: -1, y: 0 }, { x: 4, y: 0 });
		expect(path).toEqual(polygonPath([-1, 0, 1, 1, 2, 1, 4, 0], false));
	});
});

describe('contours half way between the pixels', () => {
	const side = 24;
	const specks = (n: number) => {
		const r = chance(n);
		return Uint8Array.from({ length: side * side }, () => (r() < 0.5 ? 0 : 255));
	};
	const contoursOf = (grey: Uint8Array, diagonal: 'join' | 'part', between: boolean): Path[] =>
		finish(
			followBoundaries(grey, side, side, {
				threshold: 128,
				light: false,
				diagonal,
				leastAreaPx: 0,
				tones: { ink: 0, paper: 255 },
				between
			})
		).map((c) => polygonPath(c.points));

	test.each(['join', 'part'] as const)('of mere specks touch nothing, corners %sed', (diagonal) => {
		for (let n = 0; n < 20; n++)
			expect(pathCrossings(contoursOf(specks(n), diagonal, true)), `picture ${n}`).toEqual([]);
	});

	test('they are those that are found by tones, in the same order', () => {
		for (let n = 0; n < 10; n++) {
			const [here, there] = [true, false].map((b) => contoursOf(specks(n), 'join', b));
			expect(here.length).toBe(there.length);
			here.forEach((path, i) => {
				const near = [0, 1].map((c) => Math.abs(path.segs[c] - there[i].segs[c]));
				expect(Math.max(...near)).toBeLessThan(2);
			});
		}
	});
});

describe('pictures by chance', () => {
	/** Those that crossed before there was a last way; others are looked for by `npm run random-pictures`. */
	const CROSSED = [246, 255, 270, 427, 666, 1626, 1774, 2038, 2819, 2970];
	const numbers = [...CROSSED, ...Array.from({ length: 60 }, (_, k) => 9000 + k)];

	test('no outline crosses, whatever is traced in whichever way', () => {
		let traced = 0;
		const ways = new Set<string>();
		for (const n of numbers) {
			const { name, picture, options } = randomPicture(chance(100_000 + n));
			try {
				const trace = finish(tracePicture(sourceOf(picture), options));
				expect(crossedOf(trace), `${n}: ${name}`).toBe(0);
				ways.add(name.split(', ')[2]);
				traced++;
			} catch (error) {
				// There may be nothing to trace; it says so.
				if (!(error instanceof CoreError)) throw error;
				expect(error.code, `${n}: ${name}`).toBe('nothing-found');
			}
		}
		expect(traced).toBeGreaterThan(50);
		expect(ways.size).toBeGreaterThan(8);
	});

	test('hardly a plain pixel of any colour: a sentence, no crash', () => {
		const r = chance(3);
		const [widthPx, heightPx] = [30, 30];
		const rgba = Uint8Array.from({ length: 4 * widthPx * heightPx }, (_, k) =>
			(k & 3) === 3 ? 255 : 255 * r()
		);
		// Seven plain pixels in a row: fewer than a colour has at least.
		for (let y = 10; y < 13; y++) for (let x = 5; x < 14; x++) rgba.set([40, 90, 60], 4 * (y * widthPx + x));
		const work = tracePicture(sourceOf({ widthPx, heightPx, rgba }), {
			pxPerMm: 1,
			way: 'colours',
			colours: 3
		});
		expect(() => finish(work)).toThrow('no plain areas of colour');
	});
});
