/** Single points: drill and notch marks, their forms, and where they lie on an edge of an outline. */
import { PathBuilder, STRIDE, type Path } from '../geometry/path';
import { nearestOnPath } from '../geometry/pick';
import type { Point } from '../geometry/point';
import { pathArea } from '../geometry/measure';
import { directionAt, parameterAtLength, pointAt, segmentLength } from '../geometry/segment';
import { marksOf, type Drawing, type DrawingRecord, type Mark } from './drawing';
import { edgeAt, edgeLength, edgesOf, type Edge } from './edges';
import type { OnEdge } from './mark-forms';
import { lineOf, outlineFromPath, sourceLine, type Outline } from './outline';

/** mm: as large as a mark is where nothing is said. */
export const MARK_SIZE = 4;

/** The lines of a mark's form; none of a point. Its angle is the way from the edge into the piece, degrees. */
export function formOf({ x, y, form = 'point', size = MARK_SIZE, angle = 90 }: Mark): Path[] {
	const rad = (angle * Math.PI) / 180;
	const [c, s] = [Math.cos(rad), Math.sin(rad)];
	/** `into` mm into the piece, `along` mm to the left of that. */
	const at = (into: number, along: number) => [x + into * c - along * s, y + into * s + along * c] as const;
	const line = (...places: readonly (readonly [number, number])[]): Path => {
		const builder = new PathBuilder(...places[0]);
		for (const place of places.slice(1)) builder.line(...place);
		return builder.open();
	};
	const half = size / 2;
	switch (form) {
		case 'point':
			return [];
		case 'cross':
			return [line(at(-half, 0), at(half, 0)), line(at(0, -half), at(0, half))];
		case 'V':
			return [line(at(0, half), at(size, 0), at(0, -half))];
		case 'T':
			return [line(at(0, 0), at(size, 0)), line(at(size, half), at(size, -half))];
		case 'slit':
			return [line(at(0, 0), at(size, 0))];
	}
}

const made = new WeakMap<Mark, readonly Outline[]>();

/** The lines of a mark's form as outlines, open on purpose. Made once. */
export function formLines(mark: Mark): readonly Outline[] {
	let lines = made.get(mark);
	if (!lines) {
		lines = formOf(mark).map((path, i) => ({
			...outlineFromPath(path, {
				id: `${mark.id}/form/${i}`,
				name: `${mark.form} mark`,
				layer: mark.layer,
				rank: mark.rank
			}),
			openOnPurpose: true
		}));
		made.set(mark, lines);
	}
	return lines;
}

/** The place of an edge's share, and the direction from there into a closed outline (to the left of an open one), degrees. */
export function placeOnEdge(outline: Outline, edge: Edge, share: number): Point & { readonly angle: number } {
	const { types, segs } = sourceLine(outline);
	let left = Math.min(1, Math.max(0, share)) * edgeLength(outline, edge);
	let i = edge.first;
	for (let k = 0; k < edge.count; k++) {
		i = (edge.first + k) % types.length;
		const long = segmentLength(types[i], segs, STRIDE * i);
		if (left <= long || k === edge.count - 1) break;
		left -= long;
	}
	const t = parameterAtLength(types[i], segs, STRIDE * i, left);
	const d = directionAt(types[i], segs, STRIDE * i, t);
	const whole = lineOf(outline);
	const turn = whole.closed && pathArea(whole) < 0 ? -90 : 90;
	return { ...pointAt(types[i], segs, STRIDE * i, t), angle: (Math.atan2(d.y, d.x) * 180) / Math.PI + turn };
}

/** The place on an outline nearest to a place, as a share of its edge; undefined where the outline is empty. */
function nearestOnEdge(outline: Outline, x: number, y: number): OnEdge | undefined {
	const path = sourceLine(outline);
	const near = nearestOnPath(path, x, y, Infinity);
	const edge = near && edgeAt(outline, near.segment);
	if (!near || !edge) return undefined;
	let before = 0;
	for (let k = 0; k < edge.count; k++) {
		const i = (edge.first + k) % path.types.length;
		if (i === near.segment) {
			before += segmentLength(path.types[i], path.segs, STRIDE * i, 0, near.t);
			break;
		}
		before += segmentLength(path.types[i], path.segs, STRIDE * i);
	}
	const long = edgeLength(outline, edge);
	return { outline: outline.id, edge: edge.id, share: long > 0 ? before / long : 0 };
}

/** A mark put on an outline, at its nearest place; it stays at that share of the edge. */
export function markOn(mark: Mark, outline: Outline): Mark {
	const on = nearestOnEdge(outline, mark.x, mark.y);
	return on ? keptOn({ ...mark, on }, outline) : mark;
}

/** A mark where its share of the edge is now; an edge that is gone leaves it at the nearest place. */
function keptOn(mark: Mark, outline: Outline): Mark {
	const { on } = mark;
	if (!on) return mark;
	const edge = edgesOf(outline).find(({ id }) => id === on.edge);
	if (!edge) return markOn(mark, outline);
	return { ...mark, ...placeOnEdge(outline, edge, on.share) };
}

/** Marks off what they lay on: they stay where they are. */
export function markOff({ on: _, ...mark }: Mark): Mark {
	return mark;
}

/**
 * The marks that change with a drawing: those on outlines that changed go to their share of the edge; those that were moved by
 * themselves get a new share; those whose outline is gone stay where they are.
 */
export function marksFollowing(
	before: Drawing,
	records: ReadonlyMap<string, DrawingRecord>,
	put: ReadonlyMap<string, DrawingRecord>
): Mark[] {
	// The marks that there were, which are known, and new ones.
	const ids = new Set(marksOf(before).map(({ id }) => id));
	for (const record of put.values()) if (record.type === 'mark') ids.add(record.id);
	return [...ids].flatMap((id): Mark[] => {
		const mark = records.get(id);
		if (mark?.type !== 'mark' || !mark.on) return [];
		const outline = records.get(mark.on.outline);
		if (outline?.type !== 'outline') return [markOff(mark)];
		const was = before.records.get(id);
		const isMoved = was?.type === 'mark' && was.on === mark.on && (was.x !== mark.x || was.y !== mark.y);
		if (isMoved && before.records.get(outline.id) === outline) return [markOn(mark, outline)];
		return put.has(outline.id) || was !== mark ? [keptOn(mark, outline)] : [];
	});
}
