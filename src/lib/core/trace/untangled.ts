/** Traced lines that would cross themselves or each other are drawn again, in one way after the other, until none does. */
import { polygonPath, type Path } from '../geometry/path';
import type { Point } from '../geometry/point';
import { tangledSteps } from '../plane/crossings';
import { part, within } from '../progress';
import type { ContourFitOptions } from './contour-fit';

/** Shares of what a fit keeps to, one after the other: the first things to try. */
export const CLOSER = [1 / 2, 1 / 4, 1 / 8] as const;

/** A fit that keeps to a share of what it kept to. */
export const closerFit = (fit: ContourFitOptions, share: number): ContourFitOptions => ({
	...fit,
	tolerance: fit.tolerance * share,
	noise: fit.noise * share
});

/**
 * @param paths those that cross are replaced by `again`.
 * @param ways what is tried, one after the other; the last is meant to cross nothing that is drawn so, and is gone on with until
 * nothing crosses that is not.
 * @param again draws some of the paths in a way, and whatever has to change with them.
 */
export function* untangled<Way>(
	paths: readonly Path[],
	ways: readonly Way[],
	again: (crossing: readonly number[], way: Way) => Generator<void, void>
): Generator<number, void> {
	const last = ways.length - 1;
	const atLast = new Set<number>();
	for (let round = 0, share = 0; ; round++) {
		const from = share;
		share += (1 - share) / 4;
		const crossing = [...(yield* part(tangledSteps(paths), from, share))];
		if (crossing.every((i) => atLast.has(i))) return;
		if (round >= last) for (const i of crossing) atLast.add(i);
		yield* within(again(crossing, ways[Math.min(round, last)]), () => share);
	}
}

/** Straights between two ends by all places that were followed but the first and the last. */
export const through = (points: Float64Array, a: Point, b: Point): Path =>
	polygonPath([a.x, a.y, ...points.subarray(2, -2), b.x, b.y], false);
