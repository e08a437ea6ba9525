/** The outline as a person edits it: anchors with handles and kinds, packed; and its resolved line. */
import type { Point } from '../geometry/point';
import { TOLERANCE } from '../tolerance';
import {
	ARC,
	CUBIC,
	PathBuilder,
	STRAIGHT,
	STRIDE,
	type Affine,
	type Path,
	type SegmentType
} from '../geometry/path';
import { arcsToCubics } from '../geometry/segment';
import { turnAt } from '../geometry/measure';
import type { EdgeFacts } from './edges-kept';
import { bothHalves, type Half } from './half';
import type { Purpose } from './purpose';
import type { Recipe } from './recipes/recipes';
import type { Standing } from '../plane/pieces';
import { isSharp, withRounds, type Round } from './rounds';
import { sameAnchors } from './same-anchors';

export const ANCHOR_KINDS = ['corner', 'smooth', 'even', 'flowing'] as const;
export type AnchorKind = (typeof ANCHOR_KINDS)[number];

/** Degrees anticlockwise from +x, and how far it may lie off it. */
export interface Grain {
	readonly angle: number;
	readonly within: number;
	/** It has a direction: the piece is not turned end for end. */
	readonly oneWay?: boolean;
}

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
	/** It is meant to stay open: that is no fault. */
	readonly openOnPurpose?: boolean;
	/** The person's own sorting, a CSS colour. */
	readonly colour?: string;
	/** What is done with it, where that is not what its layer says. */
	readonly purpose?: Purpose;
	/** mm: strokes and gaps by turns, where it is a broken line of its own kind; else its layer's purpose says how it looks. */
	readonly dashes?: readonly number[];
	/** Id of the picture that it was traced from, so that it can be traced anew. */
	readonly traced?: string;
	/** Id of the line record that keeps this outline as it first was. */
	readonly first?: string;
	/** Id of the line record that is kept as its ghost: a line to compare with, never cut. */
	readonly ghost?: string;
	/** What it is said to be, where that is not what its place among others says. */
	readonly standing?: Standing;
	/** How many of it are wanted on the sheet; one where nothing is said. */
	readonly wanted?: number;
	/** How the grain of the material is to run on it. */
	readonly grain?: Grain;
	/** From where it was arranged to where it came from. */
	readonly home?: Affine;
	/** Id of the group that it belongs to. */
	readonly group?: string;
	/** Corners that are rounded or cut off, by anchor. */
	readonly rounds?: readonly Round[];
	/** The axis, where its anchors are one half only and the other is its mirror image. */
	readonly half?: Half;
	/** What it was made from, as long as it was not made plain; its anchors are the result. */
	readonly recipe?: Recipe;
	/** Edges of which more is to be said than where they are. */
	readonly edges?: readonly EdgeFacts[];
	readonly nextAnchor: number;
	readonly anchors: Uint32Array;
	readonly points: Float64Array;
	readonly marks: Uint8Array;
}

export function anchorTotal(outline: Outline): number {
	return outline.anchors.length;
}

/** Whether the line that it stands for is closed: also that of a half. */
export const isClosed = (outline: Pick<Outline, 'closed' | 'half'>): boolean =>
	outline.closed || outline.half !== undefined;

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
export function lineOf(outline: Outline): Path {
	let path = resolved.get(outline);
	if (!path) {
		path = sourceLine(outline);
		const rounds = allRounds(outline);
		if (rounds.length) path = withRounds(path, rounds, (anchor) => placeOfAnchor(outline, anchor));
		if (outline.half) path = bothHalves(path, outline.half);
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

/** All corners that are rounded or cut off: those that a person said, and those of its recipe beside them. */
export function allRounds({ rounds = [], recipe }: Outline): readonly Round[] {
	if (!recipe?.rounds?.length) return rounds;
	const own = new Set(rounds.map((r) => r.anchor));
	return [...recipe.rounds.filter((r) => !own.has(r.anchor)), ...rounds];
}

/** The outline with its recipe forgotten; its line, its rounds and its anchors' ids stay. */
export function detached(outline: Outline): Outline {
	const { recipe, rounds: _, ...rest } = outline;
	if (!recipe) return outline;
	const rounds = allRounds(outline).filter((r) => !isSharp(r));
	return rounds.length ? { ...rest, rounds } : rest;
}

/** The outline with its rounds as plain anchors and its recipe forgotten; the line stays, and the anchors that stay keep their ids. */
export function madePlain(outline: Outline): Outline {
	const plain = detached(outline);
	if (!plain.rounds?.length && !plain.half) return plain;
	const { rounds: _, half: _half, ...rest } = plain;
	return replaceLine(rest, lineOf(outline));
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
	readonly purpose?: Purpose;
	readonly first?: string;
}

/** What a line that is made of another has from it: its colour, and its purpose where it has one of its own. */
export const sortedLike = ({ colour, purpose }: Pick<Outline, 'colour' | 'purpose'>) => ({
	...(colour ? { colour } : {}),
	...(purpose ? { purpose } : {})
});

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
	const { id, name, layer, rank, colour, purpose, first } = facts;
	return {
		type: 'outline',
		id,
		name,
		layer,
		rank,
		...(colour !== undefined ? { colour } : {}),
		...(purpose !== undefined ? { purpose } : {}),
		...(first !== undefined ? { first } : {}),
		closed: path.closed,
		nextAnchor: n + 1,
		anchors,
		points,
		marks
	};
}

export interface ReplaceOptions {
	/** The lines that the new one was made of, the outline itself first (it alone where nothing is said). */
	readonly sources?: readonly Outline[];
	/** mm: how far an anchor may have moved and still be the same; 0: it lies where it lay. */
	readonly reach?: number;
}

/**
 * The one door by which another line comes in the place of an outline's own: anchors that are the same keep their ids, those
 * of other sources get new ones, and whatever hangs on an anchor (rounds, its kind) stays on it. Recipes are forgotten.
 */
export function replaceLine(outline: Outline, path: Path, options: ReplaceOptions = {}): Outline {
	const { sources = [outline], reach = 0 } = options;
	const fresh = outlineFromPath(path, outline);
	const same = sameAnchors(
		path,
		sources.map((source) => ({
			points: source.points,
			stride: ANCHOR_STRIDE,
			count: source.anchors.length,
			isCorner: (i: number) => source.marks[MARK_STRIDE * i] === 0
		})),
		reach
	);
	const marks = fresh.marks;
	let next = outline.nextAnchor;
	const renamed = sources.map(() => new Map<number, number>());
	const anchors = fresh.anchors.map((_, i) => {
		const which = same.source[i];
		if (which < 0) return next++;
		const from = sources[which];
		const k = same.index[i];
		const id = from.id === outline.id ? from.anchors[k] : next++;
		renamed[which].set(from.anchors[k], id);
		keepKind(fresh, marks, i, from, k);
		return id;
	});
	const { rounds: _rounds, recipe: _recipe, edges: _edges, half: _half, ...rest } = outline;
	const rounds = sources.flatMap((source, s) =>
		allRounds(source).flatMap((round) => {
			const id = renamed[s].get(round.anchor);
			return id === undefined || isSharp(round) ? [] : [{ ...round, anchor: id }];
		})
	);
	return {
		...rest,
		...(rounds.length ? { rounds } : {}),
		...(outline.edges ? { edges: outline.edges } : {}),
		closed: fresh.closed,
		points: fresh.points,
		marks,
		anchors,
		nextAnchor: next
	};
}

/** An anchor whose handles lie as they lay keeps its kind, and which of them are held. */
function keepKind(fresh: Outline, marks: Uint8Array, i: number, from: Outline, k: number): void {
	const a = ANCHOR_STRIDE * i;
	const b = ANCHOR_STRIDE * k;
	const lies = (p: number, q: number) =>
		fresh.points[a + p] === from.points[b + q] && fresh.points[a + p + 1] === from.points[b + q + 1];
	const held = from.marks[MARK_STRIDE * k + 2];
	if (lies(2, 2) && lies(4, 4)) marks[MARK_STRIDE * i + 2] = held;
	else if (lies(2, 4) && lies(4, 2))
		marks[MARK_STRIDE * i + 2] = (held & HELD_IN ? HELD_OUT : 0) | (held & HELD_OUT ? HELD_IN : 0);
	else return;
	marks[MARK_STRIDE * i] = from.marks[MARK_STRIDE * k];
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

/** The outline travelled the other way: anchors, handles, kinds, rounds, edges stay what and where they are. */
export function flipped(outline: Outline): Outline {
	const n = outline.anchors.length;
	const points = new Float64Array(outline.points.length);
	const marks = new Uint8Array(outline.marks.length);
	const anchors = new Uint32Array(n);
	// A closed outline keeps its seam: anchor 0 stays first.
	const from = (i: number) => (outline.closed ? (n - i) % n : n - 1 - i);
	for (let i = 0; i < n; i++) {
		const k = from(i);
		const a = ANCHOR_STRIDE * i;
		const b = ANCHOR_STRIDE * k;
		anchors[i] = outline.anchors[k];
		points[a] = outline.points[b];
		points[a + 1] = outline.points[b + 1];
		points[a + 2] = outline.points[b + 4];
		points[a + 3] = outline.points[b + 5];
		points[a + 4] = outline.points[b + 2];
		points[a + 5] = outline.points[b + 3];
		const held = outline.marks[MARK_STRIDE * k + 2];
		marks[MARK_STRIDE * i] = outline.marks[MARK_STRIDE * k];
		marks[MARK_STRIDE * i + 2] = (held & HELD_IN ? HELD_OUT : 0) | (held & HELD_OUT ? HELD_IN : 0);
		// The segment that leaves it now is the one that came in, its bulge to the other hand.
		const before = (k + n - 1) % n;
		if (outline.closed || k > 0) {
			marks[MARK_STRIDE * i + 1] = outline.marks[MARK_STRIDE * before + 1];
			points[a + 6] = 0 - outline.points[ANCHOR_STRIDE * before + 6];
		}
	}
	const { recipe } = outline;
	if (!recipe) return { ...outline, anchors, points, marks };
	// Made anew, so that it is to the bit what its recipe gives that way round.
	const { reversed, ...rest } = { ...recipe, made: '' };
	return {
		...outline,
		anchors,
		points,
		marks,
		recipe: (reversed ? rest : { ...rest, reversed: true }) as Recipe
	};
}

/**
 * The outline closed. Ends within `within` mm are drawn together at the start; otherwise no anchor moves and one straight
 * is added. Kinds and rounds stay.
 */
export function closed(outline: Outline, within: number = TOLERANCE.coincidence): Outline {
	const n = outline.anchors.length;
	if (isClosed(outline) || n < 2) return outline;
	const plain = detached(outline);
	const last = ANCHOR_STRIDE * (n - 1);
	const points = plain.points.slice();
	const marks = plain.marks.slice();
	const apart = Math.hypot(points[last] - points[0], points[last + 1] - points[1]);
	if (!(apart <= within) || n < 3) {
		marks[MARK_STRIDE * (n - 1) + 1] = STRAIGHT;
		points[last + 4] = points[last];
		points[last + 5] = points[last + 1];
		points[2] = points[0];
		points[3] = points[1];
		points[last + 6] = 0;
		return { ...plain, closed: true, points, marks };
	}
	// The last anchor goes; its handle comes to the first one, moved along with the end.
	points[2] = points[last + 2] + points[0] - points[last];
	points[3] = points[last + 3] + points[1] - points[last + 1];
	const kept = {
		...plain,
		closed: true,
		anchors: plain.anchors.slice(0, n - 1),
		points: points.slice(0, last),
		marks: marks.slice(0, MARK_STRIDE * (n - 1))
	};
	const fresh = outlineFromPath(buildPath(kept), kept);
	kept.marks[0] = fresh.marks[0];
	return kept;
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
