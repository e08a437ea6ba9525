/** Holes that a tool makes by going straight down. */
import { pathArea, pathBox } from '../geometry/measure';
import type { Path } from '../geometry/path';
import type { Point } from '../geometry/point';

/** mm: a hole that differs from the tool by no more is drilled by it. */
const ALIKE = 0.02;
/** Share by which a circle drawn by other curves may differ from one. */
const ROUND = 2e-3;

/** A closed line that is a circle, however it is drawn; undefined for any other. */
export function circleAs(path: Path): (Point & { readonly radius: number }) | undefined {
	if (!path.closed || path.types.length === 0) return undefined;
	const { x0, y0, x1, y1 } = pathBox(path);
	const [w, h] = [x1 - x0, y1 - y0];
	const isEven = Math.abs(w - h) <= ROUND * (w + h);
	const isRound = Math.abs(Math.abs(pathArea(path)) - (Math.PI / 4) * w * h) <= ROUND * w * h;
	return isEven && isRound ? { x: (x0 + x1) / 2, y: (y0 + y1) / 2, radius: (w + h) / 4 } : undefined;
}

/** The middle of a hole that is just as wide as the tool; undefined where it is not. */
export function drilledMiddle(path: Path, diameter: number): Point | undefined {
	const circle = circleAs(path);
	return circle && Math.abs(2 * circle.radius - diameter) <= ALIKE ? circle : undefined;
}
