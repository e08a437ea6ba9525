/** Several anchors as one: moved by a map with their handles, lined up, spread at equal distances. */
import { CoreError } from '../../errors';
import { isSimilarity, type Affine, ARC, STRIDE } from '../../geometry/path';
import { pointAt, segmentLength } from '../../geometry/segment';
import { placeAtLength } from '../../geometry/join';
import { ANCHOR_STRIDE, MARK_STRIDE, placeOfAnchor, sourceLine, type Outline } from '../outline';
import { alignedToStraights, flow, placeAnchor } from './anchors';
import { slideOnLine } from './pulling';

/**
 * Picked anchors of an outline under a map, their handles along with them. Arcs between two picked anchors stay arcs where the
 * map keeps circles round.
 *
 * @throws CoreError `bad-scale` where the map flattens everything to a line.
 */
export function transformAnchors(outline: Outline, ids: ReadonlySet<number>, map: Affine): Outline {
	const [a, b, c, d, e, f] = map;
	const det = a * d - b * c;
	if (!(Math.abs(det) > 1e-12) || !map.every(Number.isFinite))
		throw new CoreError('bad-scale', 'That would make it vanish. Scale by more than 0.');
	const points = Float64Array.from(outline.points);
	const n = outline.anchors.length;
	for (let i = 0; i < n; i++) {
		if (!ids.has(outline.anchors[i])) continue;
		const at = ANCHOR_STRIDE * i;
		for (let k = 0; k < 6; k += 2) {
			const x = outline.points[at + k];
			const y = outline.points[at + k + 1];
			points[at + k] = a * x + c * y + e;
			points[at + k + 1] = b * x + d * y + f;
		}
		const isInside = ids.has(outline.anchors[(i + 1) % n]);
		if (det < 0 && isInside && outline.marks[MARK_STRIDE * i + 1] === ARC && isSimilarity(map))
			points[at + 6] = -points[at + 6];
	}
	return flow(alignedToStraights({ ...outline, points }, ids));
}

/** A place in the box of what is picked: its least, its middle, its most. */
export type LineUpAt = 'least' | 'middle' | 'most';

/** Picked anchors brought to one x (`across`) or one y (`up`): that of the first, the middle or the last of them in the box. */
export function lineUp(
	outline: Outline,
	ids: ReadonlySet<number>,
	axis: 'across' | 'up',
	at: LineUpAt
): Outline {
	const values = valuesOf(outline, ids, axis);
	if (values.length < 2) return outline;
	const least = Math.min(...values);
	const most = Math.max(...values);
	const to = at === 'least' ? least : at === 'most' ? most : (least + most) / 2;
	let next = outline;
	for (const id of ids) {
		const place = placeOfAnchor(next, id);
		if (place) next = placeAnchor(next, id, axis === 'across' ? to : place.x, axis === 'up' ? to : place.y);
	}
	return next;
}

/** Picked anchors at equal distances between the outermost of them: across, up, or along the line, which then keeps its shape. */
export function spread(outline: Outline, ids: ReadonlySet<number>, way: 'across' | 'up' | 'along'): Outline {
	if (ids.size < 3) return outline;
	if (way === 'along') return spreadAlong(outline, ids);
	const axis = way;
	const sorted = [...ids]
		.flatMap((id) => {
			const place = placeOfAnchor(outline, id);
			return place ? [{ id, ...place, at: axis === 'across' ? place.x : place.y }] : [];
		})
		.sort((p, q) => p.at - q.at);
	const [first, last] = [sorted[0].at, sorted[sorted.length - 1].at];
	return sorted.reduce((next, { id, x, y }, k) => {
		const to = first + ((last - first) * k) / (sorted.length - 1);
		return placeAnchor(next, id, axis === 'across' ? to : x, axis === 'up' ? to : y);
	}, outline);
}

/** Passes until anchors that slide between their neighbours have come to rest. */
const PASSES = 12;

/** The picked anchors in the order of travel, those between the first and the last slid to equal lengths along the line. */
function spreadAlong(outline: Outline, ids: ReadonlySet<number>): Outline {
	const indexes = Array.from(outline.anchors.keys()).filter((i) => ids.has(outline.anchors[i]));
	const n = outline.anchors.length;
	const isAll = outline.closed && indexes.length === n;
	const path = sourceLine(outline);
	const lengths = Array.from(path.types, (type, i) => segmentLength(type, path.segs, STRIDE * i));
	const upTo = (i: number) => lengths.slice(0, i).reduce((sum, l) => sum + l, 0);
	const total = upTo(lengths.length);
	const from = upTo(indexes[0]);
	const span = isAll ? total : upTo(indexes[indexes.length - 1]) - from;
	const parts = isAll ? indexes.length : indexes.length - 1;
	const places = indexes.map((_, k) => {
		const along = placeAtLength(path, Math.min(total, from + (span * k) / parts));
		const segment = Math.min(path.types.length - 1, Math.floor(along));
		return pointAt(path.types[segment], path.segs, STRIDE * segment, along - segment);
	});
	let next = outline;
	for (let pass = 0; pass < PASSES; pass++)
		for (let k = 1; k < (isAll ? indexes.length : indexes.length - 1); k++)
			next = slideOnLine(next, outline.anchors[indexes[k]], places[k].x, places[k].y);
	return next;
}

const valuesOf = (outline: Outline, ids: ReadonlySet<number>, axis: 'across' | 'up'): number[] =>
	[...ids].flatMap((id) => {
		const place = placeOfAnchor(outline, id);
		return place ? [axis === 'across' ? place.x : place.y] : [];
	});
