/** Which anchors are meant: by a lasso, of a kind, between two, a whole edge from corner to corner. */
import {
	lineOf,
	ANCHOR_KINDS,
	ANCHOR_STRIDE,
	MARK_STRIDE,
	sourceLine,
	type AnchorKind,
	type Outline
} from '../outline';
import { nearestOnPath } from '../../geometry/pick';
import { stretchEnds } from './segments';
import { turnAt, windingNumber } from '../../geometry/measure';
import { emptyBox, growByPoint, type Box } from '../../geometry/segment';

/** Anchors inside a polygon, x,y pairs, mm (even-odd). */
export function anchorsInside(outline: Outline, polygon: ArrayLike<number>): Set<number> {
	const inside = new Set<number>();
	outline.anchors.forEach((id, i) => {
		const x = outline.points[ANCHOR_STRIDE * i];
		const y = outline.points[ANCHOR_STRIDE * i + 1];
		// An odd number of times round is inside, as even-odd has it.
		if (windingNumber(polygon, x, y) % 2 !== 0) inside.add(id);
	});
	return inside;
}

/** The box of picked anchors of outlines, by outline; with their handles where asked. */
export function boxOfAnchors(
	outlines: readonly Outline[],
	picked: ReadonlyMap<string, ReadonlySet<number>>,
	withHandles = false
): Box {
	const box = emptyBox();
	for (const o of outlines)
		o.anchors.forEach((id, i) => {
			if (!picked.get(o.id)?.has(id)) return;
			for (const k of withHandles ? [0, 2, 4] : [0])
				growByPoint(box, o.points[ANCHOR_STRIDE * i + k], o.points[ANCHOR_STRIDE * i + k + 1]);
		});
	return box;
}

/** All anchors that are not selected. */
export function inverted(outline: Outline, selected: ReadonlySet<number>): Set<number> {
	return new Set(Array.from(outline.anchors).filter((id) => !selected.has(id)));
}

export function ofKind(outline: Outline, kind: AnchorKind): Set<number> {
	const at = ANCHOR_KINDS.indexOf(kind);
	return new Set(Array.from(outline.anchors).filter((_, i) => outline.marks[MARK_STRIDE * i] === at));
}

/** All anchors of the stretch that the selected ones span: from the first to the last, on a closed outline between two the shorter way. */
export function anchorsBetween(outline: Outline, selected: ReadonlySet<number>): Set<number> {
	const indexes: number[] = [];
	outline.anchors.forEach((id, i) => {
		if (selected.has(id)) indexes.push(i);
	});
	if (indexes.length < 2) return new Set(selected);
	const n = outline.anchors.length;
	let first = indexes[0];
	let last = indexes[indexes.length - 1];
	if (outline.closed) {
		if (indexes.length === 2) [first, last] = stretchEnds(outline, first, last);
		else {
			// The widest gap between neighbours in the selection is what lies outside.
			let widest = -1;
			indexes.forEach((i, k) => {
				const next = indexes[(k + 1) % indexes.length];
				const gap = (next - i + n) % n;
				if (gap > widest) {
					widest = gap;
					last = i;
					first = next;
				}
			});
		}
	}
	const inside = new Set<number>();
	for (let i = first; ; i = (i + 1) % n) {
		inside.add(outline.anchors[i]);
		if (i === last) break;
	}
	return inside;
}

/** The anchors of the edge that a segment lies on: from corner to corner, where the line turns by `least` degrees or more. */
export function edgeOf(outline: Outline, segment: number, least = 15): Set<number> {
	const path = sourceLine(outline);
	const n = outline.anchors.length;
	const total = path.types.length;
	const isCorner = (i: number) =>
		(!outline.closed && (i === 0 || i === n - 1)) || Math.abs(turnAt(path, i % total)) >= least;
	const ids = new Set<number>([outline.anchors[segment], outline.anchors[(segment + 1) % n]]);
	for (let i = segment, k = 0; k < n && !isCorner(i); k++) {
		i = (i + n - 1) % n;
		ids.add(outline.anchors[i]);
	}
	for (let i = (segment + 1) % n, k = 0; k < n && !isCorner(i); k++) {
		i = (i + 1) % n;
		ids.add(outline.anchors[i]);
	}
	return ids;
}

/** The outline whose line lies nearest to a place, within reach; undefined where there is none. */
export function nearestOutline(
	outlines: readonly Outline[],
	x: number,
	y: number,
	reach = Infinity
): Outline | undefined {
	let least = reach;
	let found: Outline | undefined;
	for (const outline of outlines) {
		const near = nearestOnPath(lineOf(outline), x, y, least);
		if (near && near.distance <= least) [least, found] = [near.distance, outline];
	}
	return found;
}
