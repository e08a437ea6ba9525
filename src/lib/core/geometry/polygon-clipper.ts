/**
 * The one adapter to the polygon-clipping package (integer grid). It serves as a referee for checks and as the net
 * under the exact way; its answers are polygons.
 */
import { EndType, FillRule, JoinType, inflatePathsD, unionD, type PathsD } from 'clipper2-ts';
import { CoreError } from '../errors';
import { LIMIT } from '../tolerance';
import { flattenPath } from './edge-tree';
import type { Path } from './path';

/** Decimal digits of the grid: 1e-6 mm. */
const DIGITS = 6;

function toPolygons(paths: readonly Path[], tolerance: number): PathsD {
	return paths
		.filter((path) => path.closed && path.types.length > 0)
		.map((path) => {
			const flat = flattenPath(path, tolerance);
			const polygon = [];
			for (let i = 0; i < flat.length; i += 2) {
				if (!(Math.abs(flat[i]) <= LIMIT.drawing && Math.abs(flat[i + 1]) <= LIMIT.drawing)) {
					throw new CoreError(
						'too-large',
						'This outline lies more than 10 m from the origin. Move it closer.'
					);
				}
				polygon.push({ x: flat[i], y: flat[i + 1] });
			}
			return polygon;
		});
}

function fromPolygons(polygons: PathsD): Float64Array[] {
	return polygons.map((polygon) => {
		const flat = new Float64Array(2 * polygon.length);
		polygon.forEach((p, i) => {
			flat[2 * i] = p.x;
			flat[2 * i + 1] = p.y;
		});
		return flat;
	});
}

export type JoinKind = 'round' | 'miter' | 'bevel';

/**
 * The region of the closed paths (even-odd) grown by `distance` mm, as polygons.
 * @param tolerance chord error of flattening and of round corners, mm.
 */
export function offsetPolygons(
	paths: readonly Path[],
	distance: number,
	join: JoinKind,
	miterLimit: number,
	tolerance: number
): Float64Array[] {
	const clean = unionD(toPolygons(paths, tolerance), [], FillRule.EvenOdd, DIGITS);
	const kind = { round: JoinType.Round, miter: JoinType.Miter, bevel: JoinType.Bevel }[join];
	return fromPolygons(inflatePathsD(clean, distance, kind, EndType.Polygon, miterLimit, DIGITS, tolerance));
}

/** The region that the closed paths cover by the even-odd rule, as polygons that do not cross. */
export function cleanPolygons(paths: readonly Path[], tolerance: number): Float64Array[] {
	return fromPolygons(unionD(toPolygons(paths, tolerance), [], FillRule.EvenOdd, DIGITS));
}
