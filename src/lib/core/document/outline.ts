/** The outline as a person edits it: anchors with handles and kinds, packed; and its resolved line. */
import type { Point } from '../geometry/point';
import { TOLERANCE } from '../tolerance';
import { ARC, CUBIC, PathBuilder, STRAIGHT, STRIDE, type Path, type SegmentType } from '../geometry/path';
import { arcsToCubics } from '../geometry/segment';
import { turnAt } from '../geometry/measure';
import { withRounds, type Round } from './rounds';
import type { ShapeRecipe } from './recipes/shapes';

export const ANCHOR_KINDS = ['corner', 'smooth', 'even', 'flowing'] as const;
export type AnchorKind = (typeof ANCHOR_KINDS)[number];

/** Numbers per anchor: x y, handle toward the segment before, handle toward the one after, bulge of the one after. */
export const ANCHOR_STRIDE = 7;

/** The two sides of an anchor: towards the segment before it, and towards the one after. */
export type Side = 'in' | 'out';

/** Where in the numbers of an outline the x of the handle on one side of anchor `i` stands; its y follows. */
export const handleAt = (i: number, side: Side): number => ANCHOR_STRIDE * i + (side === 'in' ? 2 : 4);

/** The other side of an anchor. */
export const otherSide = (side: Side): Side => (side === 'in' ? 'out' : 'in');

/** Bytes per anchor: kind, type of the segment after, which handles are held (1 before, 2 after). */
export const MARK_STRIDE = 3;
export const HELD_IN = 1;
export const HELD_OUT = 2;

/**
 * One outline. Anchors have ids that never change; everything that refers to an anchor does so by id. Handles are
 * absolute places; a handle that is missing lies on its anchor. The last segment of an open outline is none: its
 * type byte is kept but means nothing. Packed arrays are replaced, never written.
 */
export interface Outline {
	readonly type: 'outline';
	readonly id: string;
	readonly name: string;
	/** Id of the layer it lies on. */
	readonly layer: string;
	/** Its place in the order, among all records of the drawing. */
	readonly rank: number;
	readonly closed: boolean;
	readonly hidden?: boolean;
	readonly locked?: boolean;
	/** The person's own sorting, a CSS colour. */
	readonly colour?: string;
	/** Id of the line record that keeps this outline as it first was. */
	readonly first?: string;
	/** Id of the line record that is kept as its ghost: a line to compare with, never cut. */
	readonly ghost?: string;
	/** Corners that are rounded or cut off, by anchor. */
	readonly rounds?: readonly Round[];
	/** The shape it is, as long as it was not made plain. */
	readonly recipe?: ShapeRecipe;
	readonly nextAnchor: number;
	readonly anchors: Uint32Array;
	readonly points: Float64Array;
	readonly marks: Uint8Array;
}

export function anchorTotal(outline: Outline): number {
	return outline.anchors.length;
}

/** Number of segments: as many as anchors when closed, one less when open. */
export function segmentTotal(outline: Outline): number {
	return Math.max(0, outline.anchors.length - (outline.closed ? 0 : 1));
}

/** Index of an anchor by id; undefined when it is gone. */
export function anchorIndex(outline: Outline, anchor: number): number | undefined {
	const i = outline.anchors.indexOf(anchor);
	return i < 0 ? undefined : i;
}

const resolved = new WeakMap<Outline, Path>();
const sources = new WeakMap<Outline, Path>();

/** The plain line that this outline stands for: what is shown, measured and cut. Computed once per outline value. */
export function resolve(outline: Outline): Path {
	let path = resolved.get(outline);
	if (!path) {
		path = sourceLine(outline);
		if (outline.rounds?.length)
			path = withRounds(path, outline.rounds, (anchor) => placeOfAnchor(outline, anchor));
		resolved.set(outline, path);
	}
	return path;
}

/** The line through the anchors as they are, its corners not rounded: segment i starts at anchor i. */
export function sourceLine(outline: Outline): Path {
	let path = sources.get(outline);
	if (!path) {
		path = buildPath(outline);
		sources.set(outline, path);
	}
	return path;
}

/** Where an anchor lies; undefined when it is gone. */
export function placeOfAnchor(outline: Outline, anchor: number): Point | undefined {
	const i = anchorIndex(outline, anchor);
	if (i === undefined) return undefined;
	return { x: outline.points[ANCHOR_STRIDE * i], y: outline.points[ANCHOR_STRIDE * i + 1] };
}

/** The outline with its rounds as plain anchors and its recipe forgotten; the line stays. */
export function madePlain(outline: Outline): Outline {
	const { recipe: _, rounds, ...rest } = outline;
	return rounds?.length ? withPath(outline, resolve(outline)) : rest;
}

function buildPath(outline: Outline): Path {
	const n = outline.anchors.length;
	if (n === 0) return { closed: false, types: new Uint8Array(0), segs: new Float64Array(0) };
	const p = outline.points;
	const total = segmentTotal(outline);
	const types = new Uint8Array(total);
	const segs = new Float64Array(total * STRIDE);
	for (let i = 0; i < total; i++) {
		const a = ANCHOR_STRIDE * i;
		const b = ANCHOR_STRIDE * ((i + 1) % n);
		const type = outline.marks[MARK_STRIDE * i + 1];
		const at = STRIDE * i;
		types[i] = type;
		segs[at] = p[a];
		segs[at + 1] = p[a + 1];
		segs[at + 6] = p[b];
		segs[at + 7] = p[b + 1];
		if (type === ARC) segs[at + 2] = p[a + 6];
		else if (type === CUBIC) {
			segs[at + 2] = p[a + 4];
			segs[at + 3] = p[a + 5];
			segs[at + 4] = p[b + 2];
			segs[at + 5] = p[b + 3];
		} else {
			const dx = (p[b] - p[a]) / 3;
			const dy = (p[b + 1] - p[a + 1]) / 3;
			segs[at + 2] = p[a] + dx;
			segs[at + 3] = p[a + 1] + dy;
			segs[at + 4] = p[b] - dx;
			segs[at + 5] = p[b + 1] - dy;
		}
	}
	return { closed: outline.closed, types, segs };
}

export interface OutlineFacts {
	readonly id: string;
	readonly name: string;
	readonly layer: string;
	readonly rank: number;
	readonly colour?: string;
	readonly first?: string;
}

/** An outline with the anchors of a path. Anchors where the line runs on smoothly are smooth, the others corners. */
export function outlineFromPath(path: Path, facts: OutlineFacts): Outline {
	const total = path.types.length;
	const n = total + (path.closed || total === 0 ? 0 : 1);
	const anchors = new Uint32Array(n);
	const points = new Float64Array(ANCHOR_STRIDE * n);
	const marks = new Uint8Array(MARK_STRIDE * n);
	const s = path.segs;
	for (let i = 0; i < n; i++) {
		anchors[i] = i + 1;
		const at = ANCHOR_STRIDE * i;
		const open = !path.closed;
		const after = i < total ? i : undefined;
		const before = i > 0 ? i - 1 : open ? undefined : total - 1;
		const x = after !== undefined ? s[STRIDE * after] : s[STRIDE * (total - 1) + 6];
		const y = after !== undefined ? s[STRIDE * after + 1] : s[STRIDE * (total - 1) + 7];
		points.set([x, y, x, y, x, y, 0], at);
		if (before !== undefined && path.types[before] === CUBIC) {
			points[at + 2] = s[STRIDE * before + 4];
			points[at + 3] = s[STRIDE * before + 5];
		}
		if (after !== undefined) {
			marks[MARK_STRIDE * i + 1] = path.types[after];
			if (path.types[after] === CUBIC) {
				points[at + 4] = s[STRIDE * after + 2];
				points[at + 5] = s[STRIDE * after + 3];
			} else if (path.types[after] === ARC) points[at + 6] = s[STRIDE * after + 2];
		}
		const inner = after !== undefined && before !== undefined;
		const straightBoth = inner && path.types[after] === STRAIGHT && path.types[before] === STRAIGHT;
		marks[MARK_STRIDE * i] = inner && !straightBoth && Math.abs(turnAt(path, after)) < 1 ? 1 : 0;
	}
	const { id, name, layer, rank, colour, first } = facts;
	return {
		type: 'outline',
		id,
		name,
		layer,
		rank,
		...(colour !== undefined ? { colour } : {}),
		...(first !== undefined ? { first } : {}),
		closed: path.closed,
		nextAnchor: n + 1,
		anchors,
		points,
		marks
	};
}

/** The same outline record with the anchors of another path; ids start anew behind the old ones. */
export function withPath(outline: Outline, path: Path): Outline {
	const fresh = outlineFromPath(path, outline);
	const anchors = fresh.anchors.map((_, i) => outline.nextAnchor + i);
	const { rounds: _rounds, recipe: _recipe, ...rest } = outline;
	return {
		...rest,
		closed: fresh.closed,
		points: fresh.points,
		marks: fresh.marks,
		anchors,
		nextAnchor: outline.nextAnchor + anchors.length
	};
}

/** Whether both ends of an open outline lie on the same place though it is not closed. */
export function endsCoincide(path: Path): boolean {
	const n = path.types.length;
	if (path.closed || n === 0) return false;
	const e = STRIDE * (n - 1);
	return (
		Math.hypot(path.segs[e + 6] - path.segs[0], path.segs[e + 7] - path.segs[1]) <= TOLERANCE.coincidence
	);
}

/**
 * The path closed. Ends within `within` mm are drawn together at the start; otherwise no anchor moves and one
 * straight is added.
 */
export function closePath(path: Path, within: number = TOLERANCE.coincidence): Path {
	if (path.closed || path.types.length === 0) return path;
	const s = path.segs;
	const builder = new PathBuilder(s[0], s[1]);
	return builder.along(path).close(within);
}

/** The path with arcs as cubics where a later step cannot carry arcs. */
export function withoutArcs(path: Path): Path {
	return arcsToCubics(path);
}

export function segmentTypeOf(outline: Outline, i: number): SegmentType {
	return outline.marks[MARK_STRIDE * i + 1] as SegmentType;
}
export function kindOf(outline: Outline, i: number): AnchorKind {
	return ANCHOR_KINDS[outline.marks[MARK_STRIDE * i]] ?? 'corner';
}
