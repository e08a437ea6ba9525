/** How lines lie beside the edge of a picture: how much its points scatter, and how far they lie from the lines. */
import { deviationAlong, transformDeviation, type Deviation } from '../geometry/deviation';
import { EdgeTree, flattenPath, largestDistance } from '../geometry/edge-tree';
import type { Path } from '../geometry/path';
import { localLine, makeTrail } from '../fit/fit';
import { beginning } from './beginning';
import type { ContourFitOptions } from './contour-fit';
import { findCorners } from './corners';

/** Points along an edge of the picture, px. */
export interface Edge {
	readonly points: Float64Array;
	/** Closed unless it says otherwise. */
	readonly closed?: boolean;
}

/**
 * How much the contours' points scatter about a smooth line, px (root mean square): over stretches of a few px each that
 * keep away from corners; of the stretches a high one counts, as edges along the rows hide their noise.
 */
export function edgeNoise(contours: readonly Edge[], blur: number): number {
	// Blur makes neighbours stray together.
	const side = 4 + 4 * blur;
	const stretches: number[] = [];
	const longest = [...contours].sort((a, b) => b.points.length - a.points.length).slice(0, 12);
	for (const { points } of longest) {
		const trail = makeTrail(beginning(points).points, true);
		const { count, s } = trail;
		if (count < 24) continue;
		const corners = findCorners(trail, { cornerAngle: 25, side: 5, blunt: 1.1 }).map((c) => s[c.index]);
		const isClear = (i: number) =>
			corners.every((c) => {
				const d = Math.abs(s[i % count] - c);
				return Math.min(d, s[count] - d) > 1.5 + side;
			});
		const step = Math.max(4, Math.floor(count / 200));
		for (let i = 0; i + 10 <= count; i += step) {
			if (!isClear(i) || !isClear(i + 9)) continue;
			let sum = 0;
			for (let k = i; k < i + 10; k++) {
				const local = localLine(trail, k, side, side);
				const off = (trail.x[k] - local.x) * local.ty - (trail.y[k] - local.y) * local.tx;
				sum += off * off;
			}
			// The parabola takes a part of the scatter with it.
			stretches.push(1.2 * Math.sqrt(sum / 10));
		}
	}
	stretches.sort((a, b) => a - b);
	return stretches.length >= 4 ? stretches[Math.floor(0.8 * stretches.length)] : 0.02;
}

/** px: how far edge points may lie from their outline, beside corners that pixels have blunted. */
export const mostAstray = ({ blur, tolerance, noise }: ContourFitOptions) =>
	1 + blur + 2 * tolerance + 3 * noise;

/** The largest and the mean distance of edges from their paths, px, and the worst place. Yields how far it has come. */
export function* edgeDistance(
	paths: readonly Path[],
	contours: readonly Edge[]
): Generator<number, { worst: number; mean: number; x: number; y: number }> {
	let sum = 0;
	let count = 0;
	let worst = { distance: 0, x: 0, y: 0 };
	for (const [i, path] of paths.entries()) {
		if ((i & 15) === 0) yield i / paths.length;
		if (path.types.length === 0) continue;
		const tree = new EdgeTree([{ points: flattenPath(path, 0.01), closed: path.closed }]);
		const { points } = contours[i];
		const step = 2 * Math.max(1, Math.floor(points.length / 8000));
		for (let k = 0; k < points.length; k += step) {
			sum += tree.distance(points[k], points[k + 1]);
			count++;
		}
		const here = largestDistance([{ points, closed: contours[i].closed ?? true }], tree);
		if (here.distance > worst.distance) worst = here;
	}
	return { worst: worst.distance, mean: count ? sum / count : 0, x: worst.x, y: worst.y };
}

/** How far lines lie from the edge all along them, where that is asked for. */
export function strayOf(
	options: { readonly stray?: boolean },
	paths: readonly Path[],
	edges: readonly Edge[],
	pxPerMm: number
): { stray?: Deviation[] } {
	if (!options.stray) return {};
	const scale = 1 / pxPerMm;
	return {
		stray: paths.map((path, i) => {
			const edge = [{ points: edges[i].points, closed: edges[i].closed ?? true }];
			return transformDeviation(deviationAlong(path, edge, 2), [scale, 0, 0, -scale, 0, 0]);
		})
	};
}
