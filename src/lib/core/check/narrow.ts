/**
 * The narrowest neck of pieces and the narrowest gap between or within them, with their places.
 * Method: at each place of an outline the largest circle that touches it there and lies free on one side (shrinking ball: Ma, Bae,
 * Choi 2012, "3D medial axis point approximation using nearest neighbors and the normal field"). It spans the material, or the gap,
 * where it touches the line again far along it: not around a corner or a rounded end.
 */
import { finish } from '../progress';
import { EdgeTree, flattenPath } from '../geometry/edge-tree';
import { pathBox, pathLength, unionBox } from '../geometry/measure';
import type { Path } from '../geometry/path';
import type { Point } from '../geometry/point';
import { orientedPieces } from '../plane/pieces';

export interface Narrow {
	/** mm across. */
	readonly width: number;
	/** The two places that it lies between. */
	readonly from: Point;
	readonly to: Point;
	/** Index of the outline that `from` lies on. */
	readonly outline: number;
}

export interface NarrowPlaces {
	readonly neck: Narrow | undefined;
	readonly gap: Narrow | undefined;
}

/** Places looked at along each outline: so many at least and at most, and mm between them. */
const LEAST = 60;
const MOST = 1500;
const APART = 0.4;
/** The line from touch to touch is at least this many times a half circle around the circle. */
const AROUND = 1.25;
/** Touches are seen from the middle at least so far apart, cosine. */
const OPPOSITE = Math.cos((110 * Math.PI) / 180);

/** Radians of turning towards the material between two places from which there is a tip between them. */
const TIP = 0.7;
/** Share of the way along by which a width may change where it counts as even. */
const FLAT = 0.03;

/**
 * Whether a place is no wider than those beside it. Into a tip it only gets narrower until nothing fits: where a neighbour has no
 * width, the other one must be as wide.
 */
function isLeastAround(
	across: readonly (Narrow | undefined)[],
	k: number,
	/** Whether a tip lies between it and the one before, and the one after. */
	[tipBefore, tipAfter]: readonly boolean[],
	even: number
): boolean {
	const n = across.length;
	const width = (i: number) => across[(i + n) % n]?.width;
	const own = width(k)!;
	const before = tipBefore ? undefined : width(k - 1);
	const after = tipAfter ? undefined : width(k + 1);
	if (before !== undefined && after !== undefined) return before >= own - even && after >= own - even;
	const other = before ?? after;
	return other !== undefined && Math.abs(other - own) <= even;
}

interface Flat {
	readonly points: Float64Array;
	/** mm before each point, the whole last. */
	readonly before: Float64Array;
	/** Index in what was given. */
	readonly outline: number;
	readonly length: number;
}

/** The narrowest places of closed outlines (even-odd: an outline inside another is its hole). Open lines are left out. */
export const narrowPlaces = (paths: readonly Path[], tolerance = 0.01): NarrowPlaces =>
	finish(narrowSteps(paths, tolerance));

/** The same, telling how far it has come (0 to 1). */
export function* narrowSteps(paths: readonly Path[], tolerance = 0.01): Generator<number, NarrowPlaces> {
	let neck: Narrow | undefined;
	let gap: Narrow | undefined;
	let count = 0;
	for (const found of narrowOf(paths, tolerance)) {
		yield Math.min(1, ++count / paths.length);
		if (found.neck && !(neck && neck.width <= found.neck.width)) neck = found.neck;
		if (found.gap && !(gap && gap.width <= found.gap.width)) gap = found.gap;
	}
	return { neck, gap };
}

/** The narrowest neck and gap that begin on each outline, one after another. */
export function* narrowOf(paths: readonly Path[], tolerance = 0.01): Generator<NarrowPlaces> {
	// Solids anticlockwise, holes clockwise: the material lies left of each.
	const oriented = orientedPieces(paths);
	const flats = oriented.map(({ path, index }): Flat => {
		const points = flattenPath(path, tolerance / 4);
		const n = points.length / 2;
		const before = new Float64Array(n + 1);
		for (let i = 0; i < n; i++) {
			const j = (i + 1) % n;
			before[i + 1] =
				before[i] + Math.hypot(points[2 * j] - points[2 * i], points[2 * j + 1] - points[2 * i + 1]);
		}
		return { points, before, outline: index, length: before[n] };
	});
	if (flats.length === 0) return;
	const box = unionBox(oriented.map(({ path }) => pathBox(path)));
	const most = Math.hypot(box.x1 - box.x0, box.y1 - box.y0);
	const tree = new EdgeTree(flats.map(({ points }) => ({ points, closed: true })));
	const bySide = (flat: Flat, own: number, side: 1 | -1): Narrow | undefined => {
		const count = Math.max(LEAST, Math.min(MOST, Math.round(pathLength(oriented[own].path) / APART)));
		const spacing = flat.length / count;
		const look = (s: number) => acrossFrom(flats, tree, own, s, side, most, tolerance);
		const across = Array.from({ length: count }, (_, k) => look(spacing * (k + 0.37)));
		let best: { s: number; narrow: Narrow } | undefined;
		across.forEach((narrow, k) => {
			if (!narrow || (best && best.narrow.width <= narrow.width)) return;
			const tips = [k - 1, k].map((i) => side * turnOver(flat, spacing * (i + 0.37), spacing) > TIP);
			if (isLeastAround(across, k, tips, tolerance + FLAT * spacing))
				best = { s: spacing * (k + 0.37), narrow };
		});
		// Nearer around the best.
		let step = spacing;
		for (let round = 0; round < 3 && best; round++, step /= 6) {
			const at: number = best.s;
			for (let k = -5; k <= 5; k++) {
				const s = at + (step * k) / 6;
				const narrow = k ? look(s) : undefined;
				if (narrow && narrow.width < best.narrow.width) best = { s, narrow };
			}
		}
		return best?.narrow;
	};
	for (const [own, flat] of flats.entries()) yield { neck: bySide(flat, own, 1), gap: bySide(flat, own, -1) };
}

function placeAt(
	{ points, before, length }: Flat,
	s: number
): { x: number; y: number; dx: number; dy: number } {
	const own = ((s % length) + length) % length;
	let lo = 0;
	let hi = before.length - 2;
	while (lo < hi) {
		const mid = (lo + hi + 1) >> 1;
		if (before[mid] <= own) lo = mid;
		else hi = mid - 1;
	}
	const j = (2 * lo + 2) % points.length;
	const [dx, dy] = [points[j] - points[2 * lo], points[j + 1] - points[2 * lo + 1]];
	const size = Math.hypot(dx, dy) || 1;
	const t = (own - before[lo]) / size;
	return { x: points[2 * lo] + dx * t, y: points[2 * lo + 1] + dy * t, dx: dx / size, dy: dy / size };
}

/** How much a line turns over a stretch, radians, positive to the left. */
function turnOver(flat: Flat, from: number, length: number): number {
	const a = placeAt(flat, from);
	const b = placeAt(flat, from + length);
	return Math.atan2(a.dx * b.dy - a.dy * b.dx, a.dx * b.dx + a.dy * b.dy);
}

/** The length along a line at which it comes by a place on it. */
function lengthAt({ points, before }: Flat, x: number, y: number): number {
	let best = Infinity;
	let found = 0;
	for (let i = 0; i < points.length; i += 2) {
		const j = (i + 2) % points.length;
		const [dx, dy] = [points[j] - points[i], points[j + 1] - points[i + 1]];
		const sq = dx * dx + dy * dy;
		const t = sq > 0 ? Math.min(1, Math.max(0, ((x - points[i]) * dx + (y - points[i + 1]) * dy) / sq)) : 0;
		const d = Math.hypot(points[i] + dx * t - x, points[i + 1] + dy * t - y);
		if (d < best) {
			best = d;
			found = before[i / 2] + t * Math.sqrt(sq);
		}
	}
	return found;
}

function acrossFrom(
	flats: readonly Flat[],
	tree: EdgeTree,
	own: number,
	s: number,
	side: 1 | -1,
	most: number,
	tolerance: number
): Narrow | undefined {
	const flat = flats[own];
	const { x, y, dx, dy } = placeAt(flat, s);
	const [nx, ny] = [-side * dy, side * dx];
	let radius = most;
	let touch: { x: number; y: number; line: number } | undefined;
	for (let step = 0; step < 40; step++) {
		const [cx, cy] = [x + nx * radius, y + ny * radius];
		const d = tree.distance(cx, cy);
		if (d >= radius - tolerance / 4) break;
		const [qx, qy] = [tree.x - x, tree.y - y];
		const along = nx * qx + ny * qy;
		const next = (qx * qx + qy * qy) / (2 * along);
		if (!(along > 0) || !(next < radius)) break;
		touch = { x: tree.x, y: tree.y, line: tree.line };
		radius = next;
		if (radius < tolerance) return undefined;
	}
	if (!touch) return undefined;
	const [cx, cy] = [x + nx * radius, y + ny * radius];
	const cosine = ((x - cx) * (touch.x - cx) + (y - cy) * (touch.y - cy)) / (radius * radius);
	if (cosine > OPPOSITE) return undefined;
	if (touch.line === own) {
		const between = Math.abs(
			lengthAt(flat, touch.x, touch.y) - (((s % flat.length) + flat.length) % flat.length)
		);
		if (Math.min(between, flat.length - between) < AROUND * Math.PI * radius) return undefined;
	}
	return {
		width: Math.hypot(touch.x - x, touch.y - y),
		from: { x, y },
		to: { x: touch.x, y: touch.y },
		outline: flat.outline
	};
}
