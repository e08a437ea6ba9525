/** Which side of a place a line passes, told by a ray. */
import { arcShape } from '../geometry/arc';
import { CUBIC, STRAIGHT } from '../geometry/path';
import { extremes, pointAt } from '../geometry/segment';

/**
 * Signed crossings of a segment with the ray from a place to the left (towards -x): downward 1, upward -1. Summed
 * over a closed path they are its winding number around the place.
 * @param right the right side of a box around the segment.
 */
export function rayCrossings(
	type: number,
	s: ArrayLike<number>,
	at: number,
	x: number,
	y: number,
	right: number
): number {
	const y0 = s[at + 1];
	const y1 = s[at + 7];
	// Wholly to the left: only which side of the ray its ends lie on counts.
	if (right < x) return y0 <= y === y1 <= y ? 0 : y0 > y1 ? 1 : -1;
	const stops = [0, ...levelPlaces(type, s, at), 1];
	let sum = 0;
	for (let k = 0; k + 1 < stops.length; k++) {
		const ya = pointAt(type, s, at, stops[k]).y;
		const yb = pointAt(type, s, at, stops[k + 1]).y;
		if (ya <= y === yb <= y) continue;
		let lo = stops[k];
		let hi = stops[k + 1];
		for (let step = 0; step < 52; step++) {
			const mid = (lo + hi) / 2;
			if (pointAt(type, s, at, mid).y <= y === ya <= y) lo = mid;
			else hi = mid;
		}
		if (pointAt(type, s, at, (lo + hi) / 2).x < x) sum += ya > yb ? 1 : -1;
	}
	return sum;
}

/** Parameters where a segment may run level, strictly inside, in order. */
function levelPlaces(type: number, s: ArrayLike<number>, at: number): number[] {
	if (type === CUBIC) return extremes(CUBIC, s, at);
	if (type === STRAIGHT) return [];
	const { startRad, sweepRad } = arcShape(s[at], s[at + 1], s[at + 6], s[at + 7], s[at + 2]);
	const out: number[] = [];
	for (let q = -7; q <= 7; q += 2) {
		const t = ((q * Math.PI) / 2 - startRad) / sweepRad;
		if (t > 0 && t < 1) out.push(t);
	}
	return out.sort((m, n) => m - n);
}
