/** Maps of the plane: moved, turned, scaled, mirrored. */
import type { Affine } from './path';

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
