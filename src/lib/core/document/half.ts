/** A line of which a person draws one half: the other is its mirror image, so that both change together. */
import { mirrorAt } from '../geometry/maps';
import { reversePath, STRAIGHT, transformPath, type Path } from '../geometry/path';
import type { Point } from '../geometry/point';
import { TOLERANCE } from '../tolerance';

/** The axis: a place on it, mm, and its direction, degrees anticlockwise. */
export interface Half {
	readonly x: number;
	readonly y: number;
	readonly angle: number;
}

/** The foot of a place on the axis. */
export function footOn({ x, y, angle }: Half, px: number, py: number): Point {
	const rad = (angle * Math.PI) / 180;
	// Level and plumb exactly.
	const level = angle % 180 === 0;
	const plumb = !level && angle % 90 === 0;
	const dx = plumb ? 0 : Math.cos(rad);
	const dy = level ? 0 : Math.sin(rad);
	const along = (px - x) * dx + (py - y) * dy;
	return { x: plumb ? x : x + along * dx, y: level ? y : y + along * dy };
}

/** On which side of the axis a place lies, and how far: to the left of its direction above 0, mm. */
export function sideOf({ x, y, angle }: Half, px: number, py: number): number {
	const rad = (angle * Math.PI) / 180;
	return (py - y) * Math.cos(rad) - (px - x) * Math.sin(rad);
}

/** Both halves as one closed line: the half as it is, then its mirror image; ends that lie apart are joined by straights. */
export function bothHalves(path: Path, { x, y, angle }: Half): Path {
	const n = path.types.length;
	if (n === 0 || path.closed) return path;
	const other = reversePath(transformPath(path, mirrorAt(angle, x, y)));
	const types: number[] = [...path.types];
	const segs: number[] = [...path.segs];
	const bridge = (toX: number, toY: number) => {
		const [ax, ay] = segs.slice(-2);
		if (Math.hypot(toX - ax, toY - ay) <= TOLERANCE.coincidence) return;
		types.push(STRAIGHT);
		segs.push(
			ax,
			ay,
			ax + (toX - ax) / 3,
			ay + (toY - ay) / 3,
			toX - (toX - ax) / 3,
			toY - (toY - ay) / 3,
			toX,
			toY
		);
	};
	bridge(other.segs[0], other.segs[1]);
	const from = segs.length;
	types.push(...other.types);
	segs.push(...other.segs);
	// To the bit where the halves meet.
	[segs[from], segs[from + 1]] = [segs[from - 2], segs[from - 1]];
	bridge(segs[0], segs[1]);
	[segs[segs.length - 2], segs[segs.length - 1]] = [segs[0], segs[1]];
	return { closed: true, types: Uint8Array.from(types), segs: Float64Array.from(segs) };
}
