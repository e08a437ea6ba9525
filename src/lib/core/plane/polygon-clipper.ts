/**
 * The one adapter to the polygon-clipping package (integer grid). It serves as a referee for checks and as the net
 * under the exact way; its answers are polygons.
 */
import {
	differenceD,
	EndType,
	FillRule,
	inflatePathsD,
	intersectD,
	JoinType,
	unionD,
	xorD,
	type PathsD
} from 'clipper2-ts';
import { CoreError } from '../errors';
import { LIMIT } from '../tolerance';
import { flattenPath } from '../geometry/edge-tree';
import { offsetStrips, type JoinKind } from './offset-strips';
import type { Path } from '../geometry/path';

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

/**
 * The region of the closed paths (even-odd) grown by `distance` mm, as polygons. Mitres beyond the limit are bevelled.
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
	if (join === 'round') {
		return fromPolygons(
			inflatePathsD(clean, distance, JoinType.Round, EndType.Polygon, 2, DIGITS, tolerance)
		);
	}
	// The package squares what exceeds the limit, so strips and corners are put together one by one.
	const strips: PathsD = offsetStrips(paths, distance, join, miterLimit, tolerance).map((flat) =>
		Array.from({ length: flat.length / 2 }, (_, i) => ({ x: flat[2 * i], y: flat[2 * i + 1] }))
	);
	const reached = unionD(strips, [], FillRule.NonZero, DIGITS);
	return fromPolygons(
		distance > 0
			? unionD([...clean, ...reached], [], FillRule.NonZero, DIGITS)
			: differenceD(clean, reached, FillRule.NonZero, DIGITS)
	);
}

/** The region that the closed paths cover by the even-odd rule, as polygons that do not cross. */
export function cleanPolygons(paths: readonly Path[], tolerance: number): Float64Array[] {
	return fromPolygons(unionD(toPolygons(paths, tolerance), [], FillRule.EvenOdd, DIGITS));
}

const RULES = {
	evenodd: FillRule.EvenOdd,
	nonzero: FillRule.NonZero,
	positive: FillRule.Positive,
	negative: FillRule.Negative
};

/** Closed paths with the rule by which they cover an area. */
interface RuledPaths {
	readonly paths: readonly Path[];
	readonly rule: 'evenodd' | 'nonzero' | 'positive' | 'negative';
}

/**
 * The inputs combined, as polygons: each input is the union of its areas.
 * @param less inputs taken away from the result.
 * @param tolerance chord error of flattening, mm.
 */
export function combinePolygons(
	inputs: readonly (readonly RuledPaths[])[],
	op: 'union' | 'difference' | 'intersection' | 'xor' | 'regions',
	tolerance: number,
	less: readonly (readonly RuledPaths[])[] = []
): Float64Array[] {
	const covered = (input: readonly RuledPaths[]): PathsD => {
		const all: PathsD = [];
		for (const area of input)
			all.push(...unionD(toPolygons(area.paths, tolerance), [], RULES[area.rule], DIGITS));
		return input.length > 1 ? unionD(all, [], FillRule.NonZero, DIGITS) : all;
	};
	const sets = inputs.map(covered);
	let result: PathsD;
	if (op === 'union' || op === 'regions')
		result = unionD(sets.flat() as PathsD, [], FillRule.NonZero, DIGITS);
	else if (op === 'difference') {
		result = differenceD(sets[0] ?? [], sets.slice(1).flat() as PathsD, FillRule.NonZero, DIGITS);
	} else {
		result = sets[0] ?? [];
		for (const set of sets.slice(1)) {
			result =
				op === 'intersection'
					? intersectD(result, set, FillRule.NonZero, DIGITS)
					: xorD(result, set, FillRule.NonZero, DIGITS);
		}
	}
	const away = less.flatMap((input) => covered(input) as PathsD);
	if (away.length) result = differenceD(result, away, FillRule.NonZero, DIGITS);
	return fromPolygons(result);
}
