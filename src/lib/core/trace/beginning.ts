/** Where a contour begins. */

/** How a contour may be gone round: what is decided on the way may come out otherwise. */
export interface Way {
	/** -1: toward the side that keeps nearer to the middle. */
	readonly round?: 1 | -1;
	/** Begun at the point farthest from its middle or nearest to it. */
	readonly from?: 'far' | 'near';
}
/** All of them. */
export const WAYS_ROUND: readonly Way[] = [{}, { round: -1 }, { from: 'near' }, { round: -1, from: 'near' }];

/**
 * A contour begun, and gone round, as its shape says and not as it happened to be walked: at the point farthest from its middle,
 * toward the side that keeps farther from the middle or as a way says. So a picture that is turned or mirrored gives the same outline.
 */
export function beginning(
	points: Float64Array,
	{ round = 1, from = 'far' }: Way = {}
): {
	readonly points: Float64Array;
	readonly isReversed: boolean;
	/** Where a point of the contour stands now. */
	readonly placeOf: (index: number) => number;
} {
	const n = points.length / 2;
	let [cx, cy] = [0, 0];
	for (let i = 0; i < n; i++) {
		cx += points[2 * i] / n;
		cy += points[2 * i + 1] / n;
	}
	const far = Float64Array.from({ length: n }, (_, i) =>
		Math.hypot(points[2 * i] - cx, points[2 * i + 1] - cy)
	);
	let first = 0;
	const sign = from === 'far' ? 1 : -1;
	for (let i = 1; i < n; i++) if (sign * (far[i] - far[first]) > SAME) first = i;
	const at = (k: number) => (((first + k) % n) + n) % n;
	let isReversed = false;
	for (let k = 1; k < n / 2; k++) {
		const more = far[at(k)] - far[at(-k)];
		if (Math.abs(more) <= SAME) continue;
		isReversed = more * round < 0;
		break;
	}
	const out = new Float64Array(points.length);
	for (let k = 0; k < n; k++) {
		const i = at(isReversed ? -k : k);
		out[2 * k] = points[2 * i];
		out[2 * k + 1] = points[2 * i + 1];
	}
	return {
		points: out,
		isReversed,
		placeOf: (i) => (isReversed ? first - i + 2 * n : i - first + n) % n
	};
}
/** px: distances no farther apart are the same. */
const SAME = 1e-7;
