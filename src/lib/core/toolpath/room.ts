/** Where the tool's middle may go: far enough off the lines, and on the sheet. */
import type { EdgeTree } from '../geometry/edge-tree';
import type { Point } from '../geometry/point';

/** What a way must keep off: the lines, by the tool's reach, and the sheet's edge. */
export interface Room {
	readonly tree: EdgeTree;
	/** mm that the tool's middle keeps from all lines. */
	readonly reach: number;
	isOn(x: number, y: number): boolean;
}

/** mm: steps are no shorter than this. */
const LEAST_STEP = 0.02;

/**
 * Whether the tool may go along a way of that length. It is walked by steps as long as there is room at each place, so that nothing
 * between two places is missed.
 * @param at the place at a length along it.
 */
export function isFreeAlong(length: number, at: (s: number) => Point, { tree, reach, isOn }: Room): boolean {
	for (let s = 0; ;) {
		const { x, y } = at(s);
		const far = tree.distance(x, y);
		if (far < reach || !isOn(x, y)) return false;
		if (s >= length) return true;
		s = Math.min(length, s + Math.max(LEAST_STEP, far - reach));
	}
}

/** Whether it may go straight from one place to another. */
export function isFreeBetween(a: Point, b: Point, room: Room): boolean {
	const length = Math.hypot(b.x - a.x, b.y - a.y);
	const share = (s: number) => (length > 0 ? s / length : 0);
	return isFreeAlong(
		length,
		(s) => ({ x: a.x + (b.x - a.x) * share(s), y: a.y + (b.y - a.y) * share(s) }),
		room
	);
}
