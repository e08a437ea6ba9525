/** What a dragged place snaps to: one finder for all targets; the nearest in reach wins, points before lines. */
import type { Point } from '../../geometry/point';
import { segmentMeetings } from '../../geometry/meetings';
import { STRIDE, type Path } from '../../geometry/path';
import { boxOf } from '../../geometry/pick';
import { directionAt, nearestOn, parameterAtLength, pointAt, segmentLength } from '../../geometry/segment';

export type SnapKind =
	| 'anchor'
	| 'joins these ends; Alt keeps them apart'
	| 'middle'
	| 'crossing'
	| 'on the line'
	| 'guide'
	| 'guides cross'
	| 'grid'
	| 'square to the side'
	| 'touching'
	| 'edge of the picture'
	/** Of whole things. */
	| 'edges'
	| 'middles'
	| 'equal gaps';

export interface Snap {
	readonly x: number;
	readonly y: number;
	readonly kind: SnapKind;
	/** The line snapped to, to be brightened. */
	readonly line?: { readonly path: Path; readonly segment: number } | { readonly guide: GuideLine };
}

export interface GuideLine {
	readonly x: number;
	readonly y: number;
	/** Degrees. */
	readonly angle: number;
}

export interface SnapSources {
	/** Lines near the place. */
	readonly paths: readonly Path[];
	readonly guides: readonly GuideLine[];
	/** mm between grid lines; none where undefined. */
	readonly grid?: number;
	/** The place that the dragged side starts from, and the direction of the side before that. */
	readonly from?: { readonly x: number; readonly y: number; readonly dx?: number; readonly dy?: number };
	/** Where the picture's edge is nearest, where it is known. */
	readonly edge?: Point;
}

/**
 * The best target within `reach` mm of a place; undefined where there is none. Anchors, middles, crossings come before
 * lines, lines before the grid.
 */
export function findSnap(x: number, y: number, reach: number, sources: SnapSources): Snap | undefined {
	let best: { snap: Snap; cost: number } | undefined;
	const offer = (snap: Snap, rank: number, allowed = reach) => {
		const off = Math.hypot(snap.x - x, snap.y - y);
		if (!(off <= allowed)) return;
		// A better kind wins over a nearer place of a worse one.
		const cost = off / reach + rank;
		if (!best || cost < best.cost) best = { snap, cost };
	};
	const near: { path: Path; segment: number; t: number }[] = [];
	for (const path of sources.paths) {
		const box = boxOf(path);
		if (x < box.x0 - reach || x > box.x1 + reach || y < box.y0 - reach || y > box.y1 + reach) continue;
		const { types, segs } = path;
		for (let i = 0; i < types.length; i++) {
			const at = STRIDE * i;
			offer({ x: segs[at], y: segs[at + 1], kind: 'anchor' }, 0);
			if (i === types.length - 1) offer({ x: segs[at + 6], y: segs[at + 7], kind: 'anchor' }, 0);
			if (!isNearSegment(path, i, x, y, reach)) continue;
			const on = nearestOn(types[i], segs, at, x, y);
			if (on.distance > reach) continue;
			near.push({ path, segment: i, t: on.t });
			const middle = pointAt(
				types[i],
				segs,
				at,
				parameterAtLength(types[i], segs, at, segmentLength(types[i], segs, at) / 2)
			);
			offer({ ...middle, kind: 'middle', line: { path, segment: i } }, 0.2);
			const p = pointAt(types[i], segs, at, on.t);
			offer({ ...p, kind: 'on the line', line: { path, segment: i } }, 1.2);
		}
	}
	for (let a = 0; a < near.length; a++) {
		for (let b = a + 1; b < Math.min(near.length, a + 12); b++) {
			const [p, q] = [near[a], near[b]];
			const count = crossingsOf(p.path, p.segment, q.path, q.segment);
			for (const m of count) offer({ ...m, kind: 'crossing' }, 0.1);
		}
	}
	offerGuides(x, y, sources.guides, offer);
	if (sources.from) offerFrom(sources.from, near, x, y, offer);
	if (sources.edge) offer({ ...sources.edge, kind: 'edge of the picture' }, 1);
	if (sources.grid && sources.grid > 0) {
		const g = sources.grid;
		offer({ x: g * Math.round(x / g), y: g * Math.round(y / g), kind: 'grid' }, 2.4);
	}
	return best?.snap;
}

type Offer = (snap: Snap, rank: number) => void;

function isNearSegment(path: Path, i: number, x: number, y: number, reach: number): boolean {
	const s = path.segs;
	const at = STRIDE * i;
	if (path.types[i] === 2) return true;
	const x0 = Math.min(s[at], s[at + 2], s[at + 4], s[at + 6]) - reach;
	const x1 = Math.max(s[at], s[at + 2], s[at + 4], s[at + 6]) + reach;
	const y0 = Math.min(s[at + 1], s[at + 3], s[at + 5], s[at + 7]) - reach;
	const y1 = Math.max(s[at + 1], s[at + 3], s[at + 5], s[at + 7]) + reach;
	return x >= x0 && x <= x1 && y >= y0 && y <= y1;
}

function crossingsOf(a: Path, i: number, b: Path, j: number): Point[] {
	if (a === b && Math.abs(i - j) <= 1) return [];
	return segmentMeetings(a.types[i], a.segs, STRIDE * i, b.types[j], b.segs, STRIDE * j).map(({ x, y }) => ({
		x,
		y
	}));
}

function offerGuides(x: number, y: number, guides: readonly GuideLine[], offer: Offer): void {
	const lines = guides.map((g) => {
		const rad = (g.angle * Math.PI) / 180;
		// Level and plumb exactly.
		const isRight = g.angle % 90 === 0;
		const dx = isRight ? Math.round(Math.cos(rad)) : Math.cos(rad);
		const dy = isRight ? Math.round(Math.sin(rad)) : Math.sin(rad);
		return { g, dx, dy };
	});
	lines.forEach(({ g, dx, dy }, k) => {
		const along = (x - g.x) * dx + (y - g.y) * dy;
		offer({ x: g.x + along * dx, y: g.y + along * dy, kind: 'guide', line: { guide: g } }, 1);
		for (const other of lines.slice(k + 1)) {
			const det = dx * other.dy - dy * other.dx;
			if (Math.abs(det) < 1e-9) continue;
			const t = ((other.g.x - g.x) * other.dy - (other.g.y - g.y) * other.dx) / det;
			offer({ x: g.x + t * dx, y: g.y + t * dy, kind: 'guides cross' }, 0.1);
		}
	});
}

/** Square to the side before, and where the dragged side would touch a curve. */
function offerFrom(
	from: NonNullable<SnapSources['from']>,
	near: readonly { path: Path; segment: number; t: number }[],
	x: number,
	y: number,
	offer: Offer
): void {
	if (from.dx !== undefined && from.dy !== undefined) {
		const size = Math.hypot(from.dx, from.dy);
		if (size > 0) {
			const nx = -from.dy / size;
			const ny = from.dx / size;
			const along = (x - from.x) * nx + (y - from.y) * ny;
			if (Math.abs(along) > 0)
				offer({ x: from.x + along * nx, y: from.y + along * ny, kind: 'square to the side' }, 1.1);
		}
	}
	for (const { path, segment, t } of near) {
		if (path.types[segment] === 0) continue;
		const at = STRIDE * segment;
		// The place where the line from the start runs along the curve: by Newton's secant from the nearest one.
		const cross = (u: number) => {
			const p = pointAt(path.types[segment], path.segs, at, u);
			const d = directionAt(path.types[segment], path.segs, at, u);
			return (p.x - from.x) * d.y - (p.y - from.y) * d.x;
		};
		let a = Math.max(0, t - 0.05);
		let b = Math.min(1, t + 0.05);
		let fa = cross(a);
		let fb = cross(b);
		for (let k = 0; k < 20 && Math.abs(fb) > 1e-12 && fa !== fb; k++) {
			const c = b - (fb * (b - a)) / (fb - fa);
			[a, fa] = [b, fb];
			b = c;
			if (!(b >= 0 && b <= 1)) break;
			fb = cross(b);
		}
		if (b >= 0 && b <= 1 && Math.abs(fb) < 1e-9) {
			const p = pointAt(path.types[segment], path.segs, at, b);
			offer({ ...p, kind: 'touching', line: { path, segment } }, 0.3);
		}
	}
}

/** The nearest of level, plumb and 45 degrees. */
export function lockedDirection(dx: number, dy: number): Point {
	const angle = Math.round(Math.atan2(dy, dx) / (Math.PI / 4)) * (Math.PI / 4);
	const c = Math.cos(angle);
	const s = Math.sin(angle);
	const along = dx * c + dy * s;
	return { x: Math.abs(c) < 1e-9 ? 0 : along * c, y: Math.abs(s) < 1e-9 ? 0 : along * s };
}
