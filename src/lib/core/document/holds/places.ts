/** Where the places of holds lie. */
import type { Point } from '../../geometry/point';
import { edgesOf, type Edge } from '../edges';
import { ANCHOR_STRIDE, anchorIndex, handleAt, type Outline } from '../outline';
import type { HoldPlace } from './hold';

/** Where an anchor or one of its handles lies; undefined where it is gone. */
export function placeOf(outline: Outline, { anchor, side }: HoldPlace): Point | undefined {
	const i = anchorIndex(outline, anchor);
	if (i === undefined) return undefined;
	const k = side ? handleAt(i, side) : ANCHOR_STRIDE * i;
	return { x: outline.points[k], y: outline.points[k + 1] };
}

/** The edge between two corners, whichever way it runs; undefined where they are corners no more. */
export const seamEdge = (outline: Outline, from: number, to: number): Edge | undefined =>
	edgesOf(outline).find(({ anchors }) => {
		const [a, b] = [anchors[0], anchors[anchors.length - 1]];
		return (a === from && b === to) || (a === to && b === from);
	});

/** The segments of the seam between two corners, in the order of the line. */
export function seamSegments(outline: Outline, from: number, to: number): number[] {
	const n = outline.anchors.length;
	const own = seamEdge(outline, from, to);
	if (own) return Array.from({ length: own.count }, (_, k) => (own.first + k) % n);
	// Its corners are corners no more: what lies between them.
	const [i, j] = [anchorIndex(outline, from) ?? 0, anchorIndex(outline, to) ?? 0];
	const count = outline.closed ? (j - i + n) % n || n : Math.abs(j - i);
	return Array.from({ length: count }, (_, k) => ((outline.closed ? i : Math.min(i, j)) + k) % n);
}
