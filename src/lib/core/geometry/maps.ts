/** Maps of the plane: moved, turned, scaled, mirrored. */
import { isSimilarity, type Affine } from './path';
import type { Point } from './point';

/** A place under a map. */
export const placed = ([a, b, c, d, e, f]: Affine, x: number, y: number): Point => ({
	x: a * x + c * y + e,
	y: b * x + d * y + f
});

/** What a map does to directions (degrees) and to lengths; undefined where it does not keep circles round. */
export function evenMap(
	map: Affine
): { turned(degrees: number): number; turn: number; scale: number; flips: boolean } | undefined {
	if (!isSimilarity(map)) return undefined;
	const [a, b, c, d] = map;
	const flips = a * d - b * c < 0;
	const turn = (Math.atan2(b, a) * 180) / Math.PI;
	return {
		turned: (degrees) => turn + (flips ? -degrees : degrees),
		turn,
		scale: Math.sqrt(Math.abs(a * d - b * c)),
		flips
	};
}

/** Degrees: so near to level, plumb or half way between is that. */
const NEAR_EVEN = 4;

/** The direction from one place to another, degrees, as somebody means who draws it by hand: even where it nearly is. */
export function meantDirection(from: Point, to: Point): number {
	const angle = (Math.atan2(to.y - from.y, to.x - from.x) * 180) / Math.PI;
	const even = 45 * Math.round(angle / 45);
	return Math.abs(angle - even) < NEAR_EVEN ? even : Math.round(100 * angle) / 100;
}

export const moveBy = (dx: number, dy: number): Affine => [1, 0, 0, 1, dx, dy];

/** Degrees anticlockwise about a place. */
export function turnBy(degrees: number, x: number, y: number): Affine {
	const rad = (degrees * Math.PI) / 180;
	// Right angles exactly.
	const quarter = Math.round(degrees / 90);
	const exact = degrees === 90 * quarter;
	const c = exact ? [1, 0, -1, 0][((quarter % 4) + 4) % 4] : Math.cos(rad);
	const s = exact ? [0, 1, 0, -1][((quarter % 4) + 4) % 4] : Math.sin(rad);
	return [c, s, -s, c, x - c * x + s * y, y - s * x - c * y];
}

/** Scaled about a place, across and up. */
export const scaleBy = (sx: number, sy: number, x: number, y: number): Affine => [
	sx,
	0,
	0,
	sy,
	x - sx * x,
	y - sy * y
];

/** Mirrored at the line through a place at an angle, degrees. */
export function mirrorAt(degrees: number, x: number, y: number): Affine {
	const rad = (2 * degrees * Math.PI) / 180;
	const right = degrees % 45 === 0;
	const c = right ? Math.round(Math.cos(rad)) : Math.cos(rad);
	const s = right ? Math.round(Math.sin(rad)) : Math.sin(rad);
	return [c, s, s, -c, x - c * x - s * y, y - s * x + c * y];
}
