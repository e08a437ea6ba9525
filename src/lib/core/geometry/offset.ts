/**
 * Outlines moved sideways. Each segment gets its own parallel curve, corners are joined, the raw line is cut at
 * every place where it meets itself, and what lies nearer to the source than the distance is thrown away.
 */
import { CoreError, done, failed, type Result } from '../errors';
import { TOLERANCE } from '../tolerance';
import { arcShape } from './arc';
import { pathCrossings } from './crossings';
import { EdgeTree, flattenPath, pathTree } from './edge-tree';
import { isEmptyBox, pathArea, pathBox, pathLength, polygonArea, unionBox, windingNumber } from './measure';
import { ARC, CUBIC, PathBuilder, polygonPath, STRAIGHT, STRIDE, type Path } from './path';
import { orientPieces } from './pieces';
import { offsetPolygons, type JoinKind } from './polygon-clipper';
import { curvatureAt, derivativeAt, directionAt, partOf, pointAt, segmentLength } from './segment';
import { simplifyPath } from './simplify';
import { withoutSmallLoops } from './small-loops';

export interface OffsetOptions {
	/** mm. Positive grows closed pieces, negative shrinks them. */
	readonly distance: number;
	readonly join: JoinKind;
	/** How far a mitred corner may reach, in distances. Longer ones are bevelled. */
	readonly miterLimit?: number;
	/** mm, > 0. Largest distance from the true offset. */
	readonly tolerance?: number;
	/** Hold the result against an independent reckoning (default). Without it `error` is 0. */
	readonly verify?: boolean;
}

export interface OffsetResult {
	/** Closed outlines, solids anticlockwise, holes clockwise. */
	readonly paths: Path[];
	/** The largest error found by the check, mm. */
	readonly error: number;
	/** Whether the polygon net had to serve. */
	readonly fallback: boolean;
}

/**
 * The region of the closed paths (even-odd: an outline inside another is its hole) grown or shrunk by a distance.
 * Open paths are refused.
 *
 * @returns the outlines, or `nothing-left` with the largest distance that leaves something, `open-outline`,
 * `bad-distance`.
 */
export function offsetPieces(sources: readonly Path[], options: OffsetOptions): Result<OffsetResult> {
	const { distance, join } = options;
	const miterLimit = options.miterLimit ?? 4;
	const tolerance = options.tolerance ?? TOLERANCE.fit;
	if (!(Math.abs(distance) > 0) || !Number.isFinite(distance)) {
		return failed('bad-distance', 'The distance must be a number other than 0 mm.');
	}
	if (!(tolerance > 0)) return failed('bad-tolerance', 'The tolerance must be above 0 mm.');
	if (!(miterLimit >= 1)) return failed('bad-limit', 'The limit for mitred corners must be 1 or more.');
	if (sources.some((path) => !path.closed)) {
		return failed('open-outline', 'An open outline has no inside to grow or shrink. Close it first.');
	}
	const paths = orientPieces(sources);
	if (paths.length === 0) return failed('nothing-given', 'There is no closed outline to offset.');
	const tree = pathTree(paths, Math.min(tolerance / 8, TOLERANCE.measure));
	const isSimple = !pathCrossings(paths).some((c) => c.through);
	const exact = isSimple ? offsetExactly(paths, distance, join, miterLimit, tolerance, tree) : undefined;
	if (exact?.length) {
		const light = exact.map((path) => lighten(path, tolerance));
		if (options.verify === false) return done({ paths: light, error: 0, fallback: false });
		const check = checkOffset(light, paths, distance, join, miterLimit, tolerance, tree);
		if (check.ok) return done({ paths: light, error: check.error, fallback: false });
	}
	if (distance < 0) {
		const widest = widestInside(paths, tolerance);
		if (widest <= -distance + tolerance / 2) {
			const most = Math.floor((widest - tolerance) * 100) / 100;
			return failed(
				'nothing-left',
				`Nothing is left of it ${-distance} mm inside. The largest distance that leaves something is ${Math.max(0, most)} mm.`
			);
		}
	}
	const polygons = offsetPolygons(paths, distance, join, miterLimit, tolerance / 4).map((points) =>
		polygonPath(points)
	);
	if (polygons.length === 0)
		return failed('nothing-left', 'Nothing is left at this distance. Use a smaller one.');
	// With curves fitted back where they pass the check, otherwise as the polygons they are.
	for (const net of [polygons.map((polygon) => curvesBack(polygon, tolerance)), polygons]) {
		const check = checkOffset(net, paths, distance, join, miterLimit, tolerance, tree);
		if (check.ok) return done({ paths: net, error: check.error, fallback: true });
	}
	return failed(
		'offset-failed',
		'This offset could not be made reliably. Simplify the outline and try again.'
	);
}

/** Loops up to so many tolerances long are leavings of tolerances at a corner, not shape. */
const SMALL_LOOP = 40;

/** Fewer anchors, within half the tolerance; arcs and straights that are exact are left alone. */
function lighten(path: Path, tolerance: number): Path {
	if (!path.types.includes(CUBIC)) return path;
	return withoutSmallLoops(simplifyPath(path, tolerance / 2, 5).path, SMALL_LOOP * tolerance);
}

function offsetExactly(
	paths: readonly Path[],
	distance: number,
	join: JoinKind,
	miterLimit: number,
	tolerance: number,
	tree: EdgeTree
): Path[] | undefined {
	const raw = paths.map((path) => rawOffset(path, distance, join, miterLimit, tolerance / 3));
	try {
		return trimRaw(raw, Math.abs(distance), tolerance, tree);
	} catch (error) {
		if (error instanceof CoreError) return undefined;
		throw error;
	}
}

/**
 * The untrimmed parallel of a closed path, to the right of its travel for a positive distance. It may cross itself
 * and turn back on itself.
 */
export function rawOffset(
	path: Path,
	distance: number,
	join: JoinKind,
	miterLimit: number,
	tolerance: number
): Path {
	const n = path.types.length;
	let builder: PathBuilder | undefined;
	for (let i = 0; i < n; i++) {
		const at = STRIDE * i;
		const type = path.types[i];
		const d0 = directionAt(type, path.segs, at, 0);
		const x0 = path.segs[at] + d0.y * distance;
		const y0 = path.segs[at + 1] - d0.x * distance;
		if (!builder) builder = new PathBuilder(x0, y0);
		else joinCorner(builder, path, i, distance, join, miterLimit, x0, y0);
		parallelSegment(builder, type, path.segs, at, distance, tolerance);
	}
	const d0 = directionAt(path.types[0], path.segs, 0, 0);
	joinCorner(
		builder!,
		path,
		0,
		distance,
		join,
		miterLimit,
		path.segs[0] + d0.y * distance,
		path.segs[1] - d0.x * distance
	);
	return builder!.close(TOLERANCE.coincidence);
}

/** From the end of the parallel before anchor i to the start of the one after it. */
function joinCorner(
	builder: PathBuilder,
	path: Path,
	i: number,
	distance: number,
	join: JoinKind,
	miterLimit: number,
	x: number,
	y: number
): void {
	const gap = Math.hypot(x - builder.endX, y - builder.endY);
	if (gap <= TOLERANCE.coincidence) return;
	const n = path.types.length;
	const before = (i + n - 1) % n;
	const a = directionAt(path.types[before], path.segs, STRIDE * before, 1);
	const b = directionAt(path.types[i], path.segs, STRIDE * i, 0);
	const turnRad = Math.atan2(a.x * b.y - a.y * b.x, a.x * b.x + a.y * b.y);
	// Does the corner turn away from the side the line moves to? Then the gap must be filled.
	const opens = turnRad * distance > 0;
	if (!opens) {
		builder.line(x, y);
		return;
	}
	if (join === 'round') {
		builder.arc(Math.tan(turnRad / 4), x, y);
		return;
	}
	const reach = 1 / Math.cos(turnRad / 2);
	if (join === 'miter' && reach > 0 && reach <= miterLimit) {
		const cx = path.segs[STRIDE * i];
		const cy = path.segs[STRIDE * i + 1];
		const mx = a.y + b.y;
		const my = -(a.x + b.x);
		const size = Math.hypot(mx, my);
		builder.line(cx + (mx / size) * distance * reach, cy + (my / size) * distance * reach);
	}
	builder.line(x, y);
}

function parallelSegment(
	builder: PathBuilder,
	type: number,
	s: Float64Array,
	at: number,
	distance: number,
	tolerance: number
): void {
	const d1 = directionAt(type, s, at, 1);
	const x1 = s[at + 6] + d1.y * distance;
	const y1 = s[at + 7] - d1.x * distance;
	if (type === STRAIGHT) {
		builder.line(x1, y1);
		return;
	}
	if (type === ARC) {
		const { radius } = arcShape(s[at], s[at + 1], s[at + 6], s[at + 7], s[at + 2]);
		// An arc that turns left is widened by moving to the right.
		const next = radius + Math.sign(s[at + 2]) * distance;
		if (Math.abs(next) <= TOLERANCE.coincidence) builder.line(x1, y1);
		else if (next > 0) builder.arc(s[at + 2], x1, y1);
		else builder.arc(s[at + 2], x1, y1); // turned inside out: the same angle about the same centre
		return;
	}
	const stops = [0, ...foldParameters(s, at, distance), 1];
	for (let k = 0; k + 1 < stops.length; k++)
		parallelCubic(builder, s, at, stops[k], stops[k + 1], distance, tolerance, 0);
}

/** Where the parallel of a cubic stands still and turns back: its radius of curvature equals the distance. */
function foldParameters(s: Float64Array, at: number, distance: number): number[] {
	const out: number[] = [];
	const f = (t: number) => {
		const k = curvatureAt(CUBIC, s, at, t);
		return Number.isFinite(k) ? 1 + k * distance : distance * 1e9;
	};
	const steps = 24;
	let last = f(1e-9);
	for (let i = 1; i <= steps; i++) {
		const t = i === steps ? 1 - 1e-9 : i / steps;
		const next = f(t);
		if (last * next < 0) {
			let lo = (i - 1) / steps;
			let hi = t;
			for (let k = 0; k < 50; k++) {
				const mid = (lo + hi) / 2;
				if (f(mid) * last < 0) hi = mid;
				else lo = mid;
			}
			const root = (lo + hi) / 2;
			if (root > 1e-7 && root < 1 - 1e-7) out.push(root);
		}
		last = next;
	}
	return out;
}

/** Hermite cubics for the parallel over t0..t1, halved until it lies within the tolerance of the true one. */
function parallelCubic(
	builder: PathBuilder,
	s: Float64Array,
	at: number,
	t0: number,
	t1: number,
	distance: number,
	tolerance: number,
	depth: number
): void {
	const step = t1 - t0;
	const place = (t: number) => {
		const p = pointAt(CUBIC, s, at, t);
		const d = directionAt(CUBIC, s, at, t);
		return { x: p.x + d.y * distance, y: p.y - d.x * distance, d };
	};
	const a = place(t0);
	const b = place(t1);
	const speed = (t: number) => {
		const d = derivativeAt(CUBIC, s, at, t);
		const k = curvatureAt(CUBIC, s, at, t);
		const v = Math.hypot(d.x, d.y) * (1 + (Number.isFinite(k) ? k : 0) * distance);
		return Number.isFinite(v) ? v : 0;
	};
	const va = (speed(t0) * step) / 3;
	const vb = (speed(t1) * step) / 3;
	const c = [a.x, a.y, a.x + a.d.x * va, a.y + a.d.y * va, b.x - b.d.x * vb, b.y - b.d.y * vb, b.x, b.y];
	let off = 0;
	for (let k = 1; k < 8; k++) {
		const q = place(t0 + (step * k) / 8);
		const p = pointAt(CUBIC, c, 0, k / 8);
		// Only the distance square to the line counts, sliding along it does not.
		off = Math.max(off, Math.abs((p.x - q.x) * q.d.y - (p.y - q.y) * q.d.x));
	}
	if (off > tolerance && depth < 14) {
		const mid = (t0 + t1) / 2;
		parallelCubic(builder, s, at, t0, mid, distance, tolerance, depth + 1);
		parallelCubic(builder, s, at, mid, t1, distance, tolerance, depth + 1);
		return;
	}
	builder.cubic(c[2], c[3], c[4], c[5], c[6], c[7]);
}

interface Part {
	path: number;
	segment: number;
	t0: number;
	t1: number;
}
/** A stretch of raw line between two meeting places. */
interface Strand {
	from: number;
	to: number;
	parts: Part[];
	used: boolean;
}

/** Cuts raw lines where they meet, drops what lies too near the source, and ties the rest together again. */
function trimRaw(
	raw: readonly Path[],
	distance: number,
	tolerance: number,
	tree: EdgeTree
): Path[] | undefined {
	const crossings = pathCrossings(raw);
	const places = new Places();
	const cuts = new Map<string, { t: number; place: number }[]>();
	const cut = (path: number, segment: number, t: number, place: number) => {
		const key = `${path}:${segment}`;
		const list = cuts.get(key);
		if (list) list.push({ t, place });
		else cuts.set(key, [{ t, place }]);
	};
	for (const c of crossings) {
		const place = places.at(c.x, c.y);
		cut(c.pathA, c.segmentA, c.t, place);
		cut(c.pathB, c.segmentB, c.u, place);
	}
	const slack = 0.6 * tolerance;
	const isFar = (strand: Strand): boolean => {
		// Judged at the middle of its longest part and at two more places.
		let longest = strand.parts[0];
		let length = -1;
		for (const p of strand.parts) {
			const l = segmentLength(raw[p.path].types[p.segment], raw[p.path].segs, STRIDE * p.segment, p.t0, p.t1);
			if (l > length) {
				length = l;
				longest = p;
			}
		}
		const places3 = [longest, strand.parts[0], strand.parts[strand.parts.length - 1]];
		return places3.every((p) => {
			const q = pointAt(
				raw[p.path].types[p.segment],
				raw[p.path].segs,
				STRIDE * p.segment,
				(p.t0 + p.t1) / 2
			);
			return tree.distance(q.x, q.y) >= distance - slack;
		});
	};
	const strands: Strand[] = [];
	const whole: Path[] = [];
	raw.forEach((path, p) => {
		const pathStrands = strandsOf(path, p, cuts, places);
		for (const strand of pathStrands) {
			if (!isFar(strand)) continue;
			if (pathStrands.length === 1 && strand.from === strand.to && strand.from < 0)
				whole.push(mergeStraights(path));
			else strands.push(strand);
		}
	});
	const leaving = new Map<number, Strand[]>();
	for (const s of strands) leaving.set(s.from, [...(leaving.get(s.from) ?? []), s]);
	const out: Path[] = whole;
	for (const first of strands) {
		if (first.used) continue;
		const chain: Strand[] = [];
		let strand: Strand | undefined = first;
		while (strand && !strand.used) {
			strand.used = true;
			chain.push(strand);
			const next: Strand[] = (leaving.get(strand.to) ?? []).filter((s) => !s.used);
			if (strand.to === first.from) break;
			strand = next[0];
		}
		if (chain[chain.length - 1].to !== first.from) {
			// A stray end shorter than the tolerance is noise from a touching place; anything longer is a failure.
			const length = chain.reduce((sum, s) => sum + strandLength(raw, s), 0);
			if (length > 20 * tolerance) return undefined;
			continue;
		}
		const path = withoutSmallLoops(tie(raw, chain, places), SMALL_LOOP * tolerance);
		if (path.types.length === 0) continue;
		const box = pathBox(path);
		if (box.x1 - box.x0 < 4 * tolerance && box.y1 - box.y0 < 4 * tolerance) continue;
		out.push(path);
	}
	return out.filter((path) => !isLeaving(path, distance, tolerance, tree));
}

/**
 * Whether a small loop is only what the tolerance left: its middle, too, lies just at the distance, while that of a real
 * outline or hole lies clearly nearer or farther.
 */
function isLeaving(path: Path, distance: number, tolerance: number, tree: EdgeTree): boolean {
	if (Math.abs(pathArea(path)) <= tolerance * tolerance) return true;
	const box = pathBox(path);
	if (Math.max(box.x1 - box.x0, box.y1 - box.y0) > 400 * tolerance) return false;
	const flat = flattenPath(path, tolerance);
	let x = 0;
	let y = 0;
	for (let i = 0; i < flat.length; i += 2) {
		x += flat[i];
		y += flat[i + 1];
	}
	const n = flat.length / 2;
	return Math.abs(tree.distance(x / n, y / n) - distance) < 2 * tolerance;
}

function strandLength(raw: readonly Path[], strand: Strand): number {
	let sum = 0;
	for (const p of strand.parts) {
		sum += segmentLength(raw[p.path].types[p.segment], raw[p.path].segs, STRIDE * p.segment, p.t0, p.t1);
	}
	return sum;
}

/** Numbers for meeting places; those closer than the coincidence are one. */
class Places {
	readonly xy: number[] = [];
	private readonly grid = new Map<string, number[]>();
	at(x: number, y: number): number {
		const size = 4 * TOLERANCE.coincidence;
		const gx = Math.floor(x / size);
		const gy = Math.floor(y / size);
		for (let i = gx - 1; i <= gx + 1; i++) {
			for (let j = gy - 1; j <= gy + 1; j++) {
				for (const k of this.grid.get(`${i},${j}`) ?? []) {
					if (Math.hypot(this.xy[2 * k] - x, this.xy[2 * k + 1] - y) <= size) return k;
				}
			}
		}
		const k = this.xy.length / 2;
		this.xy.push(x, y);
		const key = `${gx},${gy}`;
		this.grid.set(key, [...(this.grid.get(key) ?? []), k]);
		return k;
	}
}

function strandsOf(
	path: Path,
	p: number,
	cuts: ReadonlyMap<string, { t: number; place: number }[]>,
	places: Places
): Strand[] {
	const n = path.types.length;
	const strands: Strand[] = [];
	let parts: Part[] = [];
	let from = -1;
	for (let i = 0; i < n; i++) {
		const list = [...(cuts.get(`${p}:${i}`) ?? [])].sort((a, b) => a.t - b.t);
		let t = 0;
		for (const c of list) {
			const isStart = c.t <= 1e-12;
			if (!isStart && c.t > t) parts.push({ path: p, segment: i, t0: t, t1: c.t });
			if (parts.length || from < 0) {
				if (parts.length) strands.push({ from, to: c.place, parts, used: false });
				from = c.place;
				parts = [];
			} else from = c.place;
			t = Math.max(t, c.t);
		}
		if (t < 1) parts.push({ path: p, segment: i, t0: t, t1: 1 });
	}
	if (strands.length === 0 && from < 0) return [{ from: -1, to: -1, parts, used: false }];
	// The stretch over the seam is one strand.
	const head = strands.length && strands[0].from === -1 ? strands.shift() : undefined;
	const last = [...parts, ...(head?.parts ?? [])];
	const to = head ? head.to : (strands[0]?.from ?? from);
	if (last.length) strands.push({ from, to, parts: last, used: false });
	void places;
	return strands.filter((s) => s.parts.length > 0);
}

function tie(raw: readonly Path[], chain: readonly Strand[], places: Places): Path {
	const x = places.xy[2 * chain[0].from];
	const y = places.xy[2 * chain[0].from + 1];
	const builder = new PathBuilder(x, y);
	for (const strand of chain) {
		strand.parts.forEach((p, i) => {
			const path = raw[p.path];
			const part = partOf(path.types[p.segment], path.segs, STRIDE * p.segment, p.t0, p.t1);
			if (i === strand.parts.length - 1) {
				// The end goes to the common place, its handle along with it.
				const ex = places.xy[2 * strand.to];
				const ey = places.xy[2 * strand.to + 1];
				if (path.types[p.segment] === CUBIC) {
					part[4] += ex - part[6];
					part[5] += ey - part[7];
				}
				part[6] = ex;
				part[7] = ey;
			}
			builder.segment(path.types[p.segment], part);
		});
	}
	return mergeStraights(builder.close(2 * TOLERANCE.coincidence));
}

/** Anchors in the middle of a straight taken out, where three lie on one line. */
export function mergeStraights(path: Path): Path {
	const n = path.types.length;
	const keep: number[] = [];
	for (let i = 0; i < n; i++) {
		const before = (i + n - 1) % n;
		const inLine =
			(path.closed || i > 0) &&
			n > 2 &&
			path.types[i] === STRAIGHT &&
			path.types[before] === STRAIGHT &&
			isInLine(path.segs, STRIDE * before, STRIDE * i);
		if (!inLine) keep.push(i);
	}
	if (keep.length === n || keep.length < 2) return path;
	const s = path.segs;
	const builder = new PathBuilder(s[STRIDE * keep[0]], s[STRIDE * keep[0] + 1]);
	keep.forEach((i, k) => {
		const next = k + 1 < keep.length ? keep[k + 1] : path.closed ? keep[0] + n : n;
		const last = STRIDE * ((next - 1) % n);
		if (path.types[i] === STRAIGHT) builder.line(s[last + 6], s[last + 7]);
		else builder.segment(path.types[i], s, STRIDE * i);
	});
	return path.closed ? builder.close(TOLERANCE.coincidence) : builder.open();
}

function isInLine(s: Float64Array, a: number, b: number): boolean {
	const dx = s[a + 6] - s[a];
	const dy = s[a + 7] - s[a + 1];
	const ex = s[b + 6] - s[b];
	const ey = s[b + 7] - s[b + 1];
	const long = Math.hypot(dx + ex, dy + ey);
	if (dx * ex + dy * ey <= 0) return false;
	return Math.abs(dx * ey - dy * ex) <= TOLERANCE.coincidence * 0.1 * long;
}

/** Curves fitted to a polygon of the net; the polygon itself where nothing is gained. */
function curvesBack(polygon: Path, tolerance: number): Path {
	return simplifyPath(polygon, tolerance / 3, 15).path;
}

/** Places on each segment of a result that the check looks at. */
const CHECKS = 10;

/**
 * Holds a finished offset against reckonings that do not use the code that made it: distances from the source along
 * the result, no crossings, and the covered area against a polygon clipper's.
 */
function checkOffset(
	result: readonly Path[],
	paths: readonly Path[],
	distance: number,
	join: JoinKind,
	miterLimit: number,
	tolerance: number,
	tree: EdgeTree
): { ok: boolean; error: number } {
	const d = Math.abs(distance);
	let error = 0;
	let length = 0;
	for (const path of result) {
		length += pathLength(path);
		for (let i = 0; i < path.types.length; i++) {
			for (let k = 0; k < CHECKS; k++) {
				const { x, y } = pointAt(path.types[i], path.segs, STRIDE * i, k / CHECKS);
				const off = tree.distance(x, y) - d;
				// Mitred and bevelled corners leave the round offset on purpose, on their own side only.
				if (join === 'miter' && off > 0 && off <= (miterLimit - 1) * d + tolerance) continue;
				if (join === 'bevel' && off < 0 && off >= -d) continue;
				error = Math.max(error, Math.abs(off));
			}
		}
	}
	if (error > 1.2 * tolerance) return { ok: false, error };
	if (pathCrossings(result).some((c) => c.through)) return { ok: false, error };
	const referee = offsetPolygons(paths, distance, join, miterLimit, tolerance / 2);
	let wanted = 0;
	for (const p of referee) wanted += polygonArea(p);
	let got = 0;
	for (const path of result) got += pathArea(path);
	const band =
		1.5 * tolerance * length + 20 * tolerance * tolerance + cornerAllowance(join, d, referee.length);
	return { ok: Math.abs(wanted - got) <= band, error };
}

/** Limits of mitres are rounded a little differently by the referee; each corner may differ by a share of d^2. */
function cornerAllowance(join: JoinKind, d: number, loops: number): number {
	return join === 'round' ? 0 : 0.02 * d * d * Math.max(1, loops);
}

/**
 * The radius of the largest circle that fits inside the pieces (even-odd), mm, to within `precision`: the distance
 * at which the last of an inward offset vanishes.
 * Method: best-first search over squares, the distance at the middle plus half a diagonal as the bound.
 */
export function widestInside(paths: readonly Path[], precision: number): number {
	const box = unionBox(paths.map(pathBox));
	if (isEmptyBox(box)) return 0;
	const flat = paths.map((path) => flattenPath(path, precision / 2));
	const tree = new EdgeTree(flat.map((points) => ({ points, closed: true })));
	const signed = (x: number, y: number) => {
		let winding = 0;
		for (const points of flat) winding += windingNumber(points, x, y) % 2;
		return winding % 2 !== 0 ? tree.distance(x, y) : -tree.distance(x, y);
	};
	const size = Math.max(1e-9, Math.min(box.x1 - box.x0, box.y1 - box.y0));
	interface Cell {
		x: number;
		y: number;
		half: number;
		most: number;
	}
	const cells: Cell[] = [];
	let best = 0;
	const add = (x: number, y: number, half: number) => {
		const here = signed(x, y);
		best = Math.max(best, here);
		const most = here + half * Math.SQRT2;
		if (most <= best + precision) return;
		// Kept in order by insertion: the most promising last.
		let at = cells.length;
		while (at > 0 && cells[at - 1].most > most) at--;
		cells.splice(at, 0, { x, y, half, most });
	};
	const half = size / 2;
	for (let x = box.x0 + half; x < box.x1 + half; x += size) {
		for (let y = box.y0 + half; y < box.y1 + half; y += size) add(x, y, half);
	}
	for (let step = 0; step < 20_000; step++) {
		const cell = cells.pop();
		if (!cell || cell.most <= best + precision) break;
		const h = cell.half / 2;
		for (const [i, j] of [
			[-1, -1],
			[1, -1],
			[-1, 1],
			[1, 1]
		])
			add(cell.x + i * h, cell.y + j * h, h);
	}
	return best;
}
