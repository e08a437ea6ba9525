/**
 * The control polygon of an outline: its handles and its corners, one after another. A smooth anchor is no vertex of it: it
 * lies on the leg between its two handles and goes along with them, so that pulling a vertex bends the line without a kink.
 */
import { CUBIC } from '../../geometry/path';
import { flow, placeHandle } from './anchors';
import { segmentBeside } from './handles';
import {
	ANCHOR_STRIDE,
	anchorIndex,
	handleAt,
	HELD_IN,
	HELD_OUT,
	kindOf,
	MARK_STRIDE,
	otherSide,
	segmentTypeOf,
	type Outline,
	type Side
} from '../outline';

export interface PolygonVertex {
	readonly x: number;
	readonly y: number;
	readonly anchor: number;
	/** Which of its handles; none for the anchor itself. */
	readonly side?: Side;
}

/** Whether an anchor has a handle on this side that is drawn out. */
function hasHandle(outline: Outline, i: number, side: Side): boolean {
	const segment = segmentBeside(outline, i, side);
	if (segment === undefined || segmentTypeOf(outline, segment) !== CUBIC) return false;
	const at = ANCHOR_STRIDE * i;
	const k = handleAt(i, side);
	return outline.points[k] !== outline.points[at] || outline.points[k + 1] !== outline.points[at + 1];
}

/** Whether an anchor lies on the leg between its handles, and goes along with them. */
function isCarried(outline: Outline, i: number): boolean {
	return kindOf(outline, i) !== 'corner' && hasHandle(outline, i, 'in') && hasHandle(outline, i, 'out');
}

/** The vertices in the order of travel; round a closed outline the last is joined to the first. */
export function controlPolygon(outline: Outline): PolygonVertex[] {
	const out: PolygonVertex[] = [];
	const p = outline.points;
	outline.anchors.forEach((anchor, i) => {
		const at = ANCHOR_STRIDE * i;
		const handle = (side: Side): PolygonVertex => ({
			x: p[handleAt(i, side)],
			y: p[handleAt(i, side) + 1],
			anchor,
			side
		});
		if (hasHandle(outline, i, 'in')) out.push(handle('in'));
		if (!isCarried(outline, i)) out.push({ x: p[at], y: p[at + 1], anchor });
		if (hasHandle(outline, i, 'out')) out.push(handle('out'));
	});
	return out;
}

/**
 * A handle put elsewhere as a vertex of the control polygon: the handle on the other side of its anchor stays where it is,
 * and a smooth anchor keeps its share of the leg between the two. The outline as it is where there is no such handle.
 */
export function pullVertex(outline: Outline, anchor: number, side: Side, x: number, y: number): Outline {
	const i = anchorIndex(outline, anchor);
	if (i === undefined || !hasHandle(outline, i, side)) return outline;
	if (!isCarried(outline, i)) return placeHandle(outline, anchor, side, x, y);
	const points = Float64Array.from(outline.points);
	const marks = Uint8Array.from(outline.marks);
	const at = ANCHOR_STRIDE * i;
	const mine = handleAt(i, side);
	const other = handleAt(i, otherSide(side));
	const own = Math.hypot(points[mine] - points[at], points[mine + 1] - points[at + 1]);
	const far = Math.hypot(points[other] - points[at], points[other + 1] - points[at + 1]);
	const share = own / (own + far);
	points[mine] = x;
	points[mine + 1] = y;
	points[at] = x + share * (points[other] - x);
	points[at + 1] = y + share * (points[other + 1] - y);
	// Both were taken hold of: a flowing anchor computes neither any more.
	if (kindOf(outline, i) === 'flowing') marks[MARK_STRIDE * i + 2] |= HELD_IN | HELD_OUT;
	return flow({ ...outline, points, marks });
}
