/** A stroke of the hand as an outline. */
import { simplifyPath } from '../../fairing/simplify';
import { polygonPath } from '../../geometry/path';
import { outlineFromPath, type Outline, type OutlineFacts } from '../outline';

/**
 * A freehand stroke as few anchors: within `tolerance` mm of it, its corners kept. Ends within `join` mm of each other
 * close it.
 */
export function strokeOutline(
	stroke: ArrayLike<number>,
	tolerance: number,
	join: number,
	facts: OutlineFacts
): Outline {
	const n = stroke.length;
	const gap = Math.hypot(stroke[n - 2] - stroke[0], stroke[n - 1] - stroke[1]);
	let length = 0;
	for (let i = 2; i < n; i += 2)
		length += Math.hypot(stroke[i] - stroke[i - 2], stroke[i + 1] - stroke[i - 1]);
	const closed = gap <= join && length > 4 * join;
	const points = closed && gap > 0 ? Array.from(stroke).slice(0, n - 2) : Array.from(stroke);
	return outlineFromPath(simplifyPath(polygonPath(points, closed), tolerance).path, facts);
}
