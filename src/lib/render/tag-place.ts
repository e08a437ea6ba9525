/** Where the tag of the selected outlines lies: beside them, or in the corner where it hides least of them. */
import type { Point } from '../core/geometry/point';
import type { Path } from '../core/geometry/path';
import { STRIDE } from '../core/geometry/path';
import { pointAt, type Box } from '../core/geometry/segment';
import { toScreen, type View, type WindowSize } from './view';

/** Room that the head and the thread need, px. */
const HEAD = 76;
const LEFT = 34;
/** Segments of one outline that are looked at; of longer ones every so many. */
const SEGMENTS = 500;

/**
 * @param tag its size, and where the free part of the window ends on the right and below, px.
 * @returns the upper left corner, px.
 */
export function placeTag(
	paths: readonly Path[],
	box: Box,
	view: View,
	size: WindowSize,
	tag: { width: number; height: number; right: number; foot: number }
): Point {
	const a = toScreen(view, size, box.x0, box.y1);
	const b = toScreen(view, size, box.x1, box.y0);
	const low = Math.max(HEAD, tag.foot - tag.height - 12);
	const y = Math.max(HEAD, Math.min(a.y, low));
	if (b.x + 26 + tag.width < tag.right - 12) return { x: Math.max(LEFT, b.x + 26), y };
	if (a.x - tag.width - 26 > 30) return { x: a.x - tag.width - 26, y };
	const high = tag.right - tag.width - 14;
	const corners = [
		{ x: high, y: HEAD },
		{ x: LEFT, y: HEAD },
		{ x: LEFT, y: low },
		{ x: high, y: low }
	];
	const hidden = corners.map((corner) => {
		let count = 0;
		for (const path of paths.slice(0, 20)) {
			const step = Math.max(1, Math.ceil(path.types.length / SEGMENTS));
			for (let i = 0; i < path.types.length; i += step) {
				for (const t of [0, 0.25, 0.5, 0.75]) {
					const p = pointAt(path.types[i], path.segs, STRIDE * i, t);
					const s = toScreen(view, size, p.x, p.y);
					const dx = s.x - corner.x;
					const dy = s.y - corner.y;
					// A hidden anchor is worse than a hidden stretch of line.
					if (dx > -8 && dx < tag.width + 8 && dy > -8 && dy < tag.height + 8) count += t === 0 ? 3 : 1;
				}
			}
		}
		return count;
	});
	return corners[hidden.indexOf(Math.min(...hidden))];
}
