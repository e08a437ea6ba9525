/**
 * Fits few straights and cubics to a dense line, within a tolerance, tangent-continuous between corners.
 *
 * Single cubics are fitted by least squares of the distances square to the curve (the handles' lengths are the
 * unknowns, the end directions are given), after Schneider 1990, "An algorithm for automatically fitting digitized
 * curves", Graphics Gems, with his point distances replaced by normal distances, which converge quadratically.
 * Anchors are placed as far along as the tolerance reaches.
 */
import { cubicLoop } from '../geometry/meetings';
import { PathBuilder, type Path } from '../geometry/path';

/** A dense line: points in order, cumulative length, and at each point where an anchor would stand and go. */
export interface Trail {
	readonly closed: boolean;
	/** Number of points; a closed trail does not repeat its start. */
	readonly count: number;
	readonly x: Float64Array;
	readonly y: Float64Array;
	/** Length along the points up to each, mm; one more entry than points (the whole). */
	readonly s: Float64Array;
	/** Where an anchor at this point stands, mm: the point itself, or smoothed. */
	readonly ax: Float64Array;
	readonly ay: Float64Array;
	/** Unit direction of the line there. */
	readonly tx: Float64Array;
	readonly ty: Float64Array;
}

/** A corner to be kept: at which point of the trail, where exactly, and the directions before and after. */
export interface TrailCorner {
	index: number;
	x: number;
	y: number;
	inX: number;
	inY: number;
	outX: number;
	outY: number;
	/** Points this near the corner do not count, as the picture's pixels blunt it; in the trail's unit. */
	blunt?: number;
}

export interface FitOptions {
	/** mm, > 0: largest distance of the trail's points from the result. */
	tolerance: number;
	corners: readonly TrailCorner[];
	/** mm: a stretch must be at least this long to become a straight between curves. */
	leastStraight: number;
}

interface Node {
	index: number;
	x: number;
	y: number;
	tx: number;
	ty: number;
	/** Points this near do not count: a blunted corner. */
	blunt: number;
	/** The direction must be kept exactly; otherwise it is an estimate that the fit may turn a little. */
	fixed: boolean;
}

/** One cubic or straight from `start` to `end`; handles are absolute. */
interface Piece {
	straight: boolean;
	ax: number;
	ay: number;
	bx: number;
	by: number;
	end: Node;
}

/** The trail through a list of points; anchors stand on the points and go toward the next one. */
export function makeTrail(points: ArrayLike<number>, closed: boolean): Trail {
	const n = points.length / 2;
	const x = new Float64Array(n);
	const y = new Float64Array(n);
	for (let i = 0; i < n; i++) {
		x[i] = points[2 * i];
		y[i] = points[2 * i + 1];
	}
	const s = runningLength(x, y, closed);
	const tx = new Float64Array(n);
	const ty = new Float64Array(n);
	for (let i = 0; i < n; i++) {
		const j = closed ? (i + 1) % n : Math.min(i + 1, n - 1);
		const k = closed || i + 1 < n ? i : Math.max(0, i - 1);
		const size = Math.hypot(x[j] - x[k], y[j] - y[k]) || 1;
		tx[i] = (x[j] - x[k]) / size;
		ty[i] = (y[j] - y[k]) / size;
	}
	return { closed, count: n, x, y, s, ax: Float64Array.from(x), ay: Float64Array.from(y), tx, ty };
}

/** Length along the points up to each, mm, and the whole as one more entry. */
export function runningLength(x: Float64Array, y: Float64Array, closed: boolean): Float64Array {
	const n = x.length;
	const s = new Float64Array(n + 1);
	for (let i = 1; i <= n; i++) {
		const j = i % n;
		s[i] = s[i - 1] + (i === n && !closed ? 0 : Math.hypot(x[j] - x[i - 1], y[j] - y[i - 1]));
	}
	return s;
}

/**
 * The trail with its anchors and directions taken from the neighbourhood: a parabola over `window` mm to each side,
 * which does not look past a corner, nor at the `clear` mm beside it.
 *
 * @param which points to smooth (non-zero); all where it is left out.
 */
export function smoothTrail(
	trail: Trail,
	window: number,
	corners: readonly { index: number }[] = [],
	clear = 0,
	which?: Uint8Array
): Trail {
	const ax = Float64Array.from(trail.ax);
	const ay = Float64Array.from(trail.ay);
	const tx = Float64Array.from(trail.tx);
	const ty = Float64Array.from(trail.ty);
	const stops = corners.map((c) => trail.s[c.index]).sort((a, b) => a - b);
	const whole = trail.s[trail.count];
	let next = 0;
	for (let i = 0; i < trail.count; i++) {
		const here = trail.s[i];
		while (next < stops.length && stops[next] <= here) next++;
		if (which && !which[i]) continue;
		let back = window;
		let ahead = window;
		if (stops.length) {
			const after = next < stops.length ? stops[next] : trail.closed ? stops[0] + whole : Infinity;
			const before = next > 0 ? stops[next - 1] : trail.closed ? stops[stops.length - 1] - whole : -Infinity;
			ahead = Math.max(0, Math.min(window, after - here - clear));
			back = Math.max(0, Math.min(window, here - before - clear));
		}
		const local = localLine(trail, i, back, ahead);
		tx[i] = local.tx;
		ty[i] = local.ty;
		ax[i] = local.x;
		ay[i] = local.y;
	}
	return { ...trail, ax, ay, tx, ty };
}

/** Position along the trail of point i, which may run beyond the seam of a closed one. */
export function trailLength(trail: Trail, i: number): number {
	const n = trail.count;
	if (i >= 0 && i <= n) return trail.s[i];
	const turns = Math.floor(i / n);
	return trail.s[i - turns * n] + turns * trail.s[n];
}

/**
 * The line near point i as a parabola fitted by least squares over `back` mm before and `ahead` mm after it.
 * At the end of an open trail the window is cut.
 */
export function localLine(
	trail: Trail,
	i: number,
	back: number,
	ahead: number,
	skip = 0
): { x: number; y: number; tx: number; ty: number; spread: number; curvature: number } {
	const n = trail.count;
	const s0 = trailLength(trail, i);
	let lo = i;
	let hi = i;
	const least = trail.closed ? i - n + 1 : 0;
	const most = trail.closed ? i + n - 1 : n - 1;
	while (lo > least && s0 - trailLength(trail, lo - 1) <= back) lo--;
	while (hi < most && trailLength(trail, hi + 1) - s0 <= ahead) hi++;
	// At least one neighbour on each side that is asked for.
	if (back > 0 && lo === i && lo > least) lo--;
	if (ahead > 0 && hi === i && hi < most) hi++;
	const step = Math.max(1, Math.floor((hi - lo) / 48));
	let m0 = 0;
	let m1 = 0;
	let m2 = 0;
	let m3 = 0;
	let m4 = 0;
	let px0 = 0;
	let px1 = 0;
	let px2 = 0;
	let py0 = 0;
	let py1 = 0;
	let py2 = 0;
	const ox = trail.x[((i % n) + n) % n];
	const oy = trail.y[((i % n) + n) % n];
	const scale = Math.max(back, ahead) || 1;
	for (let k = lo; k <= hi; k += step) {
		const w = ((k % n) + n) % n;
		const u = (trailLength(trail, k) - s0) / scale;
		if (Math.abs(u) * scale < skip) continue;
		const dx = trail.x[w] - ox;
		const dy = trail.y[w] - oy;
		const uu = u * u;
		m0++;
		m1 += u;
		m2 += uu;
		m3 += uu * u;
		m4 += uu * uu;
		px0 += dx;
		px1 += u * dx;
		px2 += uu * dx;
		py0 += dy;
		py1 += u * dy;
		py2 += uu * dy;
	}
	// Cramer's rule for the three coefficients; a straight where there are too few points.
	let det = m0 * (m2 * m4 - m3 * m3) - m1 * (m1 * m4 - m2 * m3) + m2 * (m1 * m3 - m2 * m2);
	let x = ox;
	let y = oy;
	let tx: number;
	let ty: number;
	let cx = 0;
	let cy = 0;
	if (m0 >= 4 && Math.abs(det) > 1e-9 * m0 * m2 * m4) {
		const solve = (p0: number, p1: number, p2: number) => [
			(p0 * (m2 * m4 - m3 * m3) - m1 * (p1 * m4 - p2 * m3) + m2 * (p1 * m3 - p2 * m2)) / det,
			(m0 * (p1 * m4 - p2 * m3) - p0 * (m1 * m4 - m2 * m3) + m2 * (m1 * p2 - m2 * p1)) / det,
			(m0 * (m2 * p2 - m3 * p1) - m1 * (m1 * p2 - m2 * p1) + p0 * (m1 * m3 - m2 * m2)) / det
		];
		const fx = solve(px0, px1, px2);
		const fy = solve(py0, py1, py2);
		x += fx[0];
		y += fy[0];
		tx = fx[1];
		ty = fy[1];
		cx = fx[2];
		cy = fy[2];
	} else {
		det = m0 * m2 - m1 * m1;
		if (det > 1e-12 && m0 >= 2) {
			tx = (m0 * px1 - m1 * px0) / det;
			ty = (m0 * py1 - m1 * py0) / det;
			x += (m2 * px0 - m1 * px1) / det;
			y += (m2 * py0 - m1 * py1) / det;
		} else {
			const a = ((lo % n) + n) % n;
			const b = ((hi % n) + n) % n;
			tx = trail.x[b] - trail.x[a];
			ty = trail.y[b] - trail.y[a];
		}
	}
	const size = Math.hypot(tx, ty) || 1;
	const curvature = (2 * (tx * cy - ty * cx)) / (size * size * size);
	return { x, y, tx: tx / size, ty: ty / size, spread: m0, curvature };
}

/**
 * Few straights and cubics along the trail.
 *
 * @returns a closed path for a closed trail. Empty where the trail has fewer than two points.
 */
export function fitTrail(trail: Trail, options: FitOptions): Path {
	const n = trail.count;
	if (n < 2) return { closed: trail.closed, types: new Uint8Array(0), segs: new Float64Array(0) };
	const corners = [...options.corners].sort((a, b) => a.index - b.index);
	if (!trail.closed) return fitOpen(trail, corners, options);
	if (corners.length === 0) return fitRing(trail, options);
	const first = corners[0];
	const builder = new PathBuilder(first.x, first.y);
	corners.forEach((corner, k) => {
		const next = corners[(k + 1) % corners.length];
		const endIndex = k + 1 < corners.length ? next.index : next.index + n;
		addPieces(builder, fitRun(trail, leaving(corner, corner.index), arriving(next, endIndex), options));
	});
	return builder.close();
}

function leaving(c: TrailCorner, index: number): Node {
	return { index, x: c.x, y: c.y, tx: c.outX, ty: c.outY, fixed: false, blunt: c.blunt ?? 0 };
}
function arriving(c: TrailCorner, index: number): Node {
	return { index, x: c.x, y: c.y, tx: c.inX, ty: c.inY, fixed: false, blunt: c.blunt ?? 0 };
}

function fitOpen(trail: Trail, corners: readonly TrailCorner[], options: FitOptions): Path {
	const last = trail.count - 1;
	// The two ends stay where they are.
	let from: Node = { ...nodeAt(trail, 0), x: trail.x[0], y: trail.y[0] };
	const builder = new PathBuilder(from.x, from.y);
	for (const corner of corners) {
		if (corner.index <= 0 || corner.index >= last) continue;
		addPieces(builder, fitRun(trail, from, arriving(corner, corner.index), options));
		from = leaving(corner, corner.index);
	}
	const to = { ...nodeAt(trail, last), x: trail.x[last], y: trail.y[last] };
	addPieces(builder, fitRun(trail, from, to, options));
	return builder.open();
}

/** A closed line without corners: once round to find a good start, then round again from there. */
function fitRing(trail: Trail, options: FitOptions): Path {
	const n = trail.count;
	let best: { pieces: Piece[]; start: Node } | undefined;
	let start = straightStart(trail, options);
	for (let round = 0; round < 2; round++) {
		// Round a ring the line must come back in the direction in which it left.
		const from = { ...nodeAt(trail, start % n), fixed: true };
		const to = { ...from, index: from.index + n };
		const pieces = fitRun(trail, from, to, options);
		if (!best || pieces.length < best.pieces.length) best = { pieces, start: from };
		if (pieces.length < 2) break;
		start = pieces[0].end.index % n;
	}
	const builder = new PathBuilder(best!.start.x, best!.start.y);
	addPieces(builder, best!.pieces);
	return builder.close();
}

/** Where to begin a ring: at the end of its longest straight, otherwise at its first point. */
function straightStart(trail: Trail, options: FitOptions): number {
	let length = 0;
	let start = 0;
	let i = 0;
	while (i < trail.count) {
		const j = straightReach(trail, nodeAt(trail, i), i + trail.count - 1, options);
		if (j > i) {
			const l = trailLength(trail, j) - trailLength(trail, i);
			if (l > length) {
				length = l;
				start = j;
			}
			i = j;
		} else i += Math.max(1, Math.floor(trail.count / 200));
	}
	return start;
}

function nodeAt(trail: Trail, index: number): Node {
	const w = ((index % trail.count) + trail.count) % trail.count;
	return { index, x: trail.ax[w], y: trail.ay[w], tx: trail.tx[w], ty: trail.ty[w], fixed: false, blunt: 0 };
}

function addPieces(builder: PathBuilder, pieces: readonly Piece[]): void {
	for (const p of pieces) {
		if (p.straight) builder.line(p.end.x, p.end.y);
		else builder.cubic(p.ax, p.ay, p.bx, p.by, p.end.x, p.end.y);
	}
}

/** Pieces from one node to another: straights where they are long, cubics as far as each reaches. */
function fitRun(trail: Trail, from: Node, to: Node, options: FitOptions): Piece[] {
	const whole = straightPiece(from, to);
	if (isWithin(trail, from, to, whole, options)) return [whole];
	const out: Piece[] = [];
	let straights = 0;
	// No anchor stands in the blunted stretch beside an end, nor so near it that it could only serve the blunting.
	const first = indexAtLength(trail, trailLength(trail, from.index) + 1.5 * from.blunt, from.index, to.index);
	const last = indexAtLength(trail, trailLength(trail, to.index) - 1.5 * to.blunt, from.index, to.index);
	const inner: Span = {
		from,
		to,
		first: Math.max(from.index + 1, first),
		last: Math.min(to.index - 1, last)
	};
	// Long straights come first; what lies between them is curved.
	let node = from;
	let i = from.index;
	const strides = Math.max(1, Math.floor((to.index - from.index) / 400));
	while (i < to.index) {
		const start = i === from.index ? from : nodeAt(trail, i);
		let j = straightReach(trail, start, to.index, options);
		if (j > inner.last && j < to.index) j = to.index;
		if (j <= i) {
			i = Math.max(i + strides, i === from.index ? inner.first : 0);
			if (i > inner.last) break;
			continue;
		}
		const line = lineThrough(trail, Math.max(i, inner.first), Math.min(j, inner.last));
		const a: Node =
			i === from.index ? { ...from, tx: line.tx, ty: line.ty, fixed: true } : foot(trail, i, line);
		const b: Node = j === to.index ? { ...to, tx: line.tx, ty: line.ty, fixed: true } : foot(trail, j, line);
		if (i > node.index) out.push(...fitCurves(trail, node, a, inner, options));
		out.push(straightPiece(a, b));
		straights++;
		node = b;
		i = j;
	}
	if (node.index < to.index) out.push(...fitCurves(trail, node, to, inner, options));
	if (straights === 0) return out;
	// A gentle bend can pass for straight here and there; then curves alone are the simpler line.
	const plain = fitCurves(trail, from, to, inner, options);
	return plain.length < out.length - straights / 2 ? plain : out;
}

/** A run between two fixed nodes, and the points among which further anchors may stand. */
interface Span {
	from: Node;
	to: Node;
	first: number;
	last: number;
}

/** The first index in lo..hi at or beyond a length along the trail. */
function indexAtLength(trail: Trail, length: number, lo: number, hi: number): number {
	while (lo < hi) {
		const mid = (lo + hi) >> 1;
		if (trailLength(trail, mid) < length) lo = mid + 1;
		else hi = mid;
	}
	return lo;
}

function straightPiece(from: Node, to: Node): Piece {
	const dx = (to.x - from.x) / 3;
	const dy = (to.y - from.y) / 3;
	return { straight: true, ax: from.x + dx, ay: from.y + dy, bx: to.x - dx, by: to.y - dy, end: to };
}

interface Line {
	x: number;
	y: number;
	tx: number;
	ty: number;
}

/** The straight that fits points i..j best (largest principal axis). */
function lineThrough(trail: Trail, i: number, j: number): Line {
	const n = trail.count;
	let m = 0;
	let sx = 0;
	let sy = 0;
	const step = Math.max(1, Math.floor((j - i) / 200));
	for (let k = i; k <= j; k += step) {
		m++;
		sx += trail.x[k % n];
		sy += trail.y[k % n];
	}
	const cx = sx / m;
	const cy = sy / m;
	let xx = 0;
	let xy = 0;
	let yy = 0;
	for (let k = i; k <= j; k += step) {
		const dx = trail.x[k % n] - cx;
		const dy = trail.y[k % n] - cy;
		xx += dx * dx;
		xy += dx * dy;
		yy += dy * dy;
	}
	const angle = Math.atan2(2 * xy, xx - yy) / 2;
	let tx = Math.cos(angle);
	let ty = Math.sin(angle);
	if (tx * (trail.x[j % n] - trail.x[i % n]) + ty * (trail.y[j % n] - trail.y[i % n]) < 0) {
		tx = -tx;
		ty = -ty;
	}
	return { x: cx, y: cy, tx, ty };
}

function foot(trail: Trail, index: number, line: Line): Node {
	const w = index % trail.count;
	const along = (trail.ax[w] - line.x) * line.tx + (trail.ay[w] - line.y) * line.ty;
	return {
		index,
		x: line.x + along * line.tx,
		y: line.y + along * line.ty,
		tx: line.tx,
		ty: line.ty,
		fixed: true,
		blunt: 0
	};
}

/**
 * The last point up to which the trail is truly straight from `from`, or its own index where it is not.
 * A gentle curve also stays within the tolerance for a while, but then its middle stands off by all of it; a
 * straight does not stand off on average. So the mean bulge of what was reached is what tells them apart.
 */
function straightReach(trail: Trail, from: Node, limit: number, options: FitOptions): number {
	const n = trail.count;
	const i = from.index;
	const most = options.tolerance;
	const s0 = trailLength(trail, i);
	const fits = (j: number): boolean => {
		const dx = trail.ax[j % n] - from.x;
		const dy = trail.ay[j % n] - from.y;
		const size = Math.hypot(dx, dy);
		if (size === 0) return false;
		const step = Math.max(1, Math.floor((j - i) / 150));
		for (let k = i + 1; k < j; k += step) {
			if (trailLength(trail, k) - s0 < from.blunt) continue;
			const off = ((trail.x[k % n] - from.x) * dy - (trail.y[k % n] - from.y) * dx) / size;
			if (Math.abs(off) > most) return false;
		}
		return true;
	};
	// Most places are settled by one look: is the shortest stretch that would count straight at all?
	const least = indexAtLength(trail, s0 + options.leastStraight, i, limit);
	if (!(least > i) || !fits(least)) return i;
	let good = least;
	let reach = 2 * (least - i);
	while (i + reach <= limit && fits(i + reach)) {
		good = i + reach;
		reach *= 2;
	}
	let bad = Math.min(limit + 1, i + reach);
	while (bad - good > 1) {
		const mid = (good + bad) >> 1;
		if (fits(mid)) good = mid;
		else bad = mid;
	}
	// The bend beyond the end is let in by the tolerance: step back from it, unless a corner ends it.
	const length = trailLength(trail, good) - s0;
	if (!(length >= options.leastStraight)) return i;
	let end = good;
	if (good < limit) {
		const back =
			trailLength(trail, good) - Math.min(0.12 * length, 6 * Math.sqrt(options.tolerance * length));
		while (end > i + 2 && trailLength(trail, end) > back) end--;
	}
	const kept = trailLength(trail, end) - s0;
	if (!(kept >= 0.8 * options.leastStraight)) return i;
	// Mean bulge: least-squares parabola over the middle of the stretch, its sagitta against the tolerance.
	const mid = indexAtLength(trail, (s0 + trailLength(trail, end)) / 2, i, end);
	const local = localLine(trail, mid, kept * 0.45, kept * 0.45);
	const sagitta = (Math.abs(local.curvature) * kept * kept) / 8;
	return sagitta <= 0.3 * options.tolerance ? end : i;
}

/** Cubics between two nodes, each as long as the tolerance allows. */
function fitCurves(trail: Trail, from: Node, to: Node, span: Span, options: FitOptions): Piece[] {
	const out: Piece[] = [];
	let node = from;
	const last = Math.min(span.last, to.index - 1);
	while (node.index < to.index) {
		const tryTo = (j: number): Piece | undefined =>
			fitOne(trail, node, j === to.index ? to : nodeAt(trail, j), options);
		let piece = tryTo(to.index);
		const first = Math.max(node.index + 1, span.first);
		if (!piece && first <= last) {
			let good = node.index;
			let kept: Piece | undefined;
			let at = first;
			let reach = 1;
			while (at <= last) {
				const next = tryTo(at);
				if (!next) break;
				kept = next;
				good = at;
				reach *= 2;
				at = first + reach;
			}
			let bad = Math.min(last + 1, at);
			while (kept && bad - good > Math.max(1, (good - node.index) >> 6)) {
				const mid = (good + bad) >> 1;
				const next = tryTo(mid);
				if (next) {
					kept = next;
					good = mid;
				} else bad = mid;
			}
			// Not even the next point can be reached by a curve: go there straight.
			piece = kept ?? straightPiece(node, nodeAt(trail, first));
		}
		piece ??= straightPiece(node, to);
		out.push(piece);
		node = piece.end;
	}
	return evened(trail, from, to, out, options);
}

/**
 * Furthest reach leaves the last cubic short. Where the same number of cubics fits with the anchors spread evenly
 * along the line, that is the better drawing.
 */
function evened(trail: Trail, from: Node, to: Node, pieces: Piece[], options: FitOptions): Piece[] {
	if (pieces.length < 2 || pieces.length > 64) return pieces;
	const lengths = pieces.map((p, i) => {
		const a = i ? pieces[i - 1].end.index : from.index;
		return trailLength(trail, p.end.index) - trailLength(trail, a);
	});
	const last = lengths[lengths.length - 1];
	const usual = Math.max(...lengths);
	if (last > 0.6 * usual) return pieces;
	for (let share = 1; share > 0.2; share /= 2) {
		const spread: Piece[] = [];
		let node = from;
		// Every anchor is drawn back in proportion, so that the shortfall is shared by all.
		const missing = (usual - last) * share;
		for (let k = 0; k < pieces.length; k++) {
			const lastOne = k === pieces.length - 1;
			let end = to;
			if (!lastOne) {
				const back = (missing * (k + 1)) / pieces.length;
				let j = pieces[k].end.index;
				while (j > node.index + 1 && trailLength(trail, pieces[k].end.index) - trailLength(trail, j) < back)
					j--;
				end = nodeAt(trail, j);
			}
			const piece = fitOne(trail, node, end, options);
			if (!piece) break;
			spread.push(piece);
			node = end;
		}
		if (spread.length === pieces.length) return spread;
	}
	return pieces;
}

const SAMPLES = 24;
const sampleX = new Float64Array(SAMPLES + 2);
const sampleY = new Float64Array(SAMPLES + 2);
const sampleU = new Float64Array(SAMPLES + 2);

/** One cubic between two nodes with their directions, or nothing where none stays within the tolerance. */
function fitOne(trail: Trail, from: Node, to: Node, options: FitOptions): Piece | undefined {
	const n = trail.count;
	const chord = Math.hypot(to.x - from.x, to.y - from.y);
	const s0 = trailLength(trail, from.index);
	const length = trailLength(trail, to.index) - s0;
	if (!(length > 0)) return undefined;
	const between = to.index - from.index - 1;
	let m = 0;
	const step = Math.max(1, between / SAMPLES);
	for (let j = 0; j < SAMPLES; j++) {
		const k = Math.floor(j * step);
		if (k >= between) break;
		const index = from.index + 1 + k;
		const along = trailLength(trail, index) - s0;
		if (along < from.blunt || length - along < to.blunt) continue;
		sampleX[m] = trail.x[index % n];
		sampleY[m] = trail.y[index % n];
		sampleU[m] = along / length;
		m++;
	}
	const third = length / 3;
	const start = [
		from.x,
		from.y,
		from.x + third * from.tx,
		from.y + third * from.ty,
		to.x - third * to.tx,
		to.y - third * to.ty,
		to.x,
		to.y
	];
	let c = start;
	if (m >= 4) {
		for (let round = 0; round < 5; round++) {
			const next = solveHandles(from, to, c, m, length, round === 0);
			if (!next) break;
			const moved =
				Math.abs(next[2] - c[2]) +
				Math.abs(next[3] - c[3]) +
				Math.abs(next[4] - c[4]) +
				Math.abs(next[5] - c[5]);
			c = next;
			let worst = 0;
			for (let k = 0; k < m; k++) {
				sampleU[k] = stepToward(c, sampleX[k], sampleY[k], sampleU[k]);
				worst = Math.max(worst, offSq(c, sampleX[k], sampleY[k], sampleU[k]));
			}
			worst = Math.sqrt(worst);
			// Good enough, beyond hope, or no longer moving.
			if (worst < 0.4 * options.tolerance) break;
			if (round > 0 && worst > 40 * options.tolerance) return undefined;
			if (moved < 1e-4 * length) break;
		}
	}
	// Handles longer than the line itself make loops; those that turn away from the line follow noise.
	if (!isSensible(c, from, to, length)) {
		const short = chord / 3;
		c = [
			from.x,
			from.y,
			from.x + short * from.tx,
			from.y + short * from.ty,
			to.x - short * to.tx,
			to.y - short * to.ty,
			to.x,
			to.y
		];
	}
	const piece = pieceOf(c, to);
	return cubicLoop(c, 0) === undefined && isWithin(trail, from, to, piece, options) ? piece : undefined;
}

function pieceOf(c: readonly number[], to: Node): Piece {
	const dx = c[6] - c[4];
	const dy = c[7] - c[5];
	const size = Math.hypot(dx, dy);
	// What follows leaves in the direction in which this one arrives.
	const end =
		to.fixed || size === 0 ? { ...to, fixed: true } : { ...to, tx: dx / size, ty: dy / size, fixed: true };
	return { straight: false, ax: c[2], ay: c[3], bx: c[4], by: c[5], end };
}

/** The most that a fit may turn an estimated direction: the cosine of 20 degrees. */
const MOST_TURN = 0.94;

function isSensible(c: readonly number[], from: Node, to: Node, length: number): boolean {
	const a = Math.hypot(c[2] - c[0], c[3] - c[1]);
	const b = Math.hypot(c[6] - c[4], c[7] - c[5]);
	// A handle next to nothing makes a bend as sharp as a corner.
	const least = 0.06 * length;
	if (!(a > least && b > least && a < length && b < length)) return false;
	const alongA = (c[2] - c[0]) * from.tx + (c[3] - c[1]) * from.ty;
	const alongB = (c[6] - c[4]) * to.tx + (c[7] - c[5]) * to.ty;
	return alongA >= MOST_TURN * a && alongB >= MOST_TURN * b;
}

// Normal equations of at most four unknowns: each handle has one (its length) or two (its place).
const system = new Float64Array(20);
const column = new Float64Array(8);

/**
 * One round of least squares for the handles. The first round takes the points' own distances, later ones the distances
 * along the curve's normals. Undefined where the system is singular.
 */
function solveHandles(
	from: Node,
	to: Node,
	c: readonly number[],
	m: number,
	length: number,
	byPoints: boolean
): number[] | undefined {
	const fromDirections = from.fixed ? [from.tx, from.ty] : [1, 0, 0, 1];
	const toDirections = to.fixed ? [-to.tx, -to.ty] : [1, 0, 0, 1];
	const na = fromDirections.length / 2;
	const count = na + toDirections.length / 2;
	const w = count + 1;
	system.fill(0);
	for (let k = 0; k < m; k++) {
		const u = sampleU[k];
		const v = 1 - u;
		const b1 = 3 * v * v * u;
		const b2 = 3 * v * u * u;
		const b0 = v * v * (1 + 2 * u);
		const b3 = u * u * (1 + 2 * v);
		const ex = sampleX[k] - b0 * from.x - b3 * to.x;
		const ey = sampleY[k] - b0 * from.y - b3 * to.y;
		for (let j = 0; j < count; j++) {
			const b = j < na ? b1 : b2;
			const d = j < na ? fromDirections : toDirections;
			const o = 2 * (j < na ? j : j - na);
			column[2 * j] = b * d[o];
			column[2 * j + 1] = b * d[o + 1];
		}
		if (byPoints) {
			for (let i = 0; i < count; i++) {
				for (let j = i; j < count; j++)
					system[w * i + j] += column[2 * i] * column[2 * j] + column[2 * i + 1] * column[2 * j + 1];
				system[w * i + count] += column[2 * i] * ex + column[2 * i + 1] * ey;
			}
			continue;
		}
		const dx = v * v * (c[2] - c[0]) + 2 * v * u * (c[4] - c[2]) + u * u * (c[6] - c[4]);
		const dy = v * v * (c[3] - c[1]) + 2 * v * u * (c[5] - c[3]) + u * u * (c[7] - c[5]);
		const size = Math.hypot(dx, dy) || 1;
		const nx = -dy / size;
		const ny = dx / size;
		const e = ex * nx + ey * ny;
		for (let i = 0; i < count; i++) {
			const gi = column[2 * i] * nx + column[2 * i + 1] * ny;
			for (let j = i; j < count; j++) system[w * i + j] += gi * (column[2 * j] * nx + column[2 * j + 1] * ny);
			system[w * i + count] += gi * e;
		}
	}
	// What the points do not tell (a straight says nothing about lengths along itself) stays as it is.
	let trace = 0;
	for (let i = 0; i < count; i++) trace += system[w * i + i];
	const keep = (byPoints ? 1e-6 : 1e-4) * trace + 1e-300;
	for (let i = 0; i < count; i++) {
		const d = i < na ? fromDirections : toDirections;
		const o = 2 * (i < na ? i : i - na);
		const base = i < na ? [c[2] - c[0], c[3] - c[1]] : [c[4] - c[6], c[5] - c[7]];
		system[w * i + i] += keep;
		system[w * i + count] += keep * (base[0] * d[o] + base[1] * d[o + 1]);
		for (let j = 0; j < i; j++) system[w * i + j] = system[w * j + i];
	}
	for (let i = 0; i < count; i++) {
		const pivot = system[w * i + i];
		if (!(Math.abs(pivot) > 1e-13 * trace)) return undefined;
		for (let r = i + 1; r < count; r++) {
			const f = system[w * r + i] / pivot;
			for (let j = i; j <= count; j++) system[w * r + j] -= f * system[w * i + j];
		}
	}
	const x = [0, 0, 0, 0];
	for (let i = count - 1; i >= 0; i--) {
		let sum = system[w * i + count];
		for (let j = i + 1; j < count; j++) sum -= system[w * i + j] * x[j];
		x[i] = sum / system[w * i + i];
	}
	const out = [...c];
	out[2] = from.x;
	out[3] = from.y;
	out[4] = to.x;
	out[5] = to.y;
	for (let i = 0; i < count; i++) {
		const d = i < na ? fromDirections : toDirections;
		const o = 2 * (i < na ? i : i - na);
		const at = i < na ? 2 : 4;
		out[at] += x[i] * d[o];
		out[at + 1] += x[i] * d[o + 1];
	}
	const reach = 3 * length;
	const far =
		Math.hypot(out[2] - from.x, out[3] - from.y) < reach && Math.hypot(out[4] - to.x, out[5] - to.y) < reach;
	return far ? out : undefined;
}

function stepToward(c: readonly number[], x: number, y: number, u: number): number {
	const v = 1 - u;
	const qx = v * v * v * c[0] + 3 * v * v * u * c[2] + 3 * v * u * u * c[4] + u * u * u * c[6] - x;
	const qy = v * v * v * c[1] + 3 * v * v * u * c[3] + 3 * v * u * u * c[5] + u * u * u * c[7] - y;
	const dx = 3 * (v * v * (c[2] - c[0]) + 2 * v * u * (c[4] - c[2]) + u * u * (c[6] - c[4]));
	const dy = 3 * (v * v * (c[3] - c[1]) + 2 * v * u * (c[5] - c[3]) + u * u * (c[7] - c[5]));
	const ex = 6 * (v * (c[4] - 2 * c[2] + c[0]) + u * (c[6] - 2 * c[4] + c[2]));
	const ey = 6 * (v * (c[5] - 2 * c[3] + c[1]) + u * (c[7] - 2 * c[5] + c[3]));
	const slope = dx * dx + dy * dy + qx * ex + qy * ey;
	const plain = dx * dx + dy * dy;
	if (!(plain > 0)) return u;
	const next = u - (qx * dx + qy * dy) / (slope > 0.2 * plain ? slope : plain);
	return next < 0 ? 0 : next > 1 ? 1 : next;
}

/** Squared distance of a place from the curve's place at u. */
function offSq(c: readonly number[], x: number, y: number, u: number): number {
	const v = 1 - u;
	const dx = v * v * v * c[0] + 3 * v * v * u * c[2] + 3 * v * u * u * c[4] + u * u * u * c[6] - x;
	const dy = v * v * v * c[1] + 3 * v * v * u * c[3] + 3 * v * u * u * c[5] + u * u * u * c[7] - y;
	return dx * dx + dy * dy;
}

/** Do all points between stay within the tolerance, in order? */
function isWithin(trail: Trail, from: Node, to: Node, piece: Piece, options: FitOptions): boolean {
	const n = trail.count;
	const c = [from.x, from.y, piece.ax, piece.ay, piece.bx, piece.by, to.x, to.y];
	const s0 = trailLength(trail, from.index);
	const length = trailLength(trail, to.index) - s0;
	const mostSq = options.tolerance * options.tolerance;
	const between = to.index - from.index - 1;
	const step = Math.max(1, Math.floor(between / 120));
	let u = 0;
	let lastS = 0;
	for (let k = 1; k <= between; k += step) {
		const index = from.index + k;
		const along = trailLength(trail, index) - s0;
		if (along < from.blunt || length - along < to.blunt) continue;
		const x = trail.x[index % n];
		const y = trail.y[index % n];
		u += (1 - u) * Math.min(1, (along - lastS) / Math.max(1e-12, length - lastS));
		lastS = along;
		let off = Infinity;
		for (let round = 0; round < 4; round++) {
			u = stepToward(c, x, y, u);
			off = offSq(c, x, y, u);
			if (off <= mostSq) break;
		}
		if (off > mostSq) return false;
	}
	return between > 0 || isNearStraight(c, options.tolerance);
}

function isNearStraight(c: readonly number[], tolerance: number): boolean {
	const bow = Math.max(
		Math.hypot(c[2] - (2 * c[0] + c[6]) / 3, c[3] - (2 * c[1] + c[7]) / 3),
		Math.hypot(c[4] - (c[0] + 2 * c[6]) / 3, c[5] - (c[1] + 2 * c[7]) / 3)
	);
	return bow < tolerance;
}
