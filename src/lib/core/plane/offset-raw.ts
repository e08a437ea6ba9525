/**
 * The raw parallel of a closed path: the line at the distance to the right of each segment, tied at the corners so
 * that everything between it and the path is wound once more, never less. What is nearer to the path than the distance
 * is then exactly what is wound at all; crossings and overlaps sort themselves out by winding.
 *
 * Where the path bends to the right more tightly than the distance, its parallel would turn inside out; there the raw
 * line follows the centres of curvature instead, as nothing beyond them has its nearest place on that stretch. At a
 * corner to the right (the parallels overlap) it runs back to the anchor and out again; for plain corners the overlap is
 * cut off at once instead, so that rough lines do not make thousands of loops.
 */
import { finish } from '../progress';
import { TOLERANCE } from '../tolerance';
import { arcShape } from '../geometry/arc';
import { findMeetings, lastMeetings } from '../geometry/meetings';
import { ARC, CUBIC, reversePath, STRAIGHT, STRIDE, type Path } from '../geometry/path';
import type { JoinKind } from './offset-strips';
import { curvatureAt, derivativeAt, directionAt, nearestOn, partOf, pointAt } from '../geometry/segment';

/** A raw segment and the part of the source it runs beside. */
interface Raw {
	type: number;
	s: Float64Array;
	/** The source: a segment's numbers, or for an arc around an anchor that place alone. */
	sourceType: number;
	source: Float64Array;
	/** Cut off against its neighbours only where it is plain: a straight, or an arc around an anchor. */
	plain: boolean;
}

/** Ends of a line: cut off square at its last anchor, carried on by the distance, or round. */
export type EndKind = 'butt' | 'square' | 'round';

export interface RawOptions {
	/** mm, > 0: to the right of travel. */
	readonly distance: number;
	readonly join: JoinKind;
	readonly miterLimit: number;
	/** mm: how closely raw curves follow the true parallel. */
	readonly tolerance: number;
	/** What an anchor becomes at which the path turns straight back: the end of a line. */
	readonly ends?: EndKind;
	/** Cut overlaps of rough lines off as they arise; otherwise they are all left to be sorted out by winding. */
	readonly trim: boolean;
}

/** Lines of fewer segments than this are not worth trimming. */
const ROUGH = 40;

const PLACE = -1;

/** The raw parallel of a closed path. It may cross itself; count what it winds around. */
export const rawParallel = (path: Path, options: RawOptions): Path => finish(rawParallelSteps(path, options));

/** Corners gone round between two yields. */
const STEP = 400;

/** The same, telling how far it has come (0 to 1). */
export function* rawParallelSteps(path: Path, options: RawOptions): Generator<number, Path> {
	const n = path.types.length;
	const chain = new Chain(options.distance, options.trim && n >= ROUGH ? BACK : 0, hairOf(options));
	// Begun at the anchor that turns most to the left: its outer side is seen from afar.
	let begin = 0;
	let most = -Infinity;
	for (let i = 0; i < n; i++) {
		const t = turnRadAt(path, i);
		if (t > most) {
			most = t;
			begin = i;
		}
	}
	for (let k = 0; k < n; k++) {
		if (k % STEP === 0) yield k / n;
		const i = (begin + k) % n;
		addCorner(chain, path, i, options);
		addParallel(chain, path, i, options);
	}
	return chain.close();
}

/**
 * The closed line around what lies between an open path and its parallel to the right: there along the parallel, back
 * along the path.
 */
export function rawSide(path: Path, options: RawOptions): Path {
	const chain = new Chain(options.distance, 0, hairOf(options));
	const n = path.types.length;
	for (let i = 0; i < n; i++) {
		if (i > 0) addCorner(chain, path, i, options);
		addParallel(chain, path, i, options);
	}
	const s = path.segs;
	const e = s.length - 2;
	const end = Float64Array.from([s[e], s[e + 1]]);
	chain.visit(s[e], s[e + 1], end, PLACE);
	const back = reversePath(path);
	for (let i = 0; i < n; i++) {
		const own = Float64Array.from(back.segs.subarray(STRIDE * i, STRIDE * i + STRIDE));
		chain.add(own, back.types[i], back.types[i], own, false);
	}
	const first = directionAt(path.types[0], s, 0, 0);
	chain.visit(
		s[0] + first.y * options.distance,
		s[1] - first.x * options.distance,
		Float64Array.from([s[0], s[1]]),
		PLACE
	);
	return chain.close();
}

/**
 * The turn at the anchor where segment i starts, radians, positive to the left. Straight back the bends on both sides
 * tell which way round it goes: the way on which the line leaves the inside of its own bend.
 */
function turnRadAt(path: Path, i: number): number {
	const n = path.types.length;
	const before = (i + n - 1) % n;
	const a = directionAt(path.types[before], path.segs, STRIDE * before, 1);
	const b = directionAt(path.types[i], path.segs, STRIDE * i, 0);
	const turn = Math.atan2(a.x * b.y - a.y * b.x, a.x * b.x + a.y * b.y);
	if (Math.PI - Math.abs(turn) > 1e-6) return turn;
	const bends =
		curvatureAt(path.types[before], path.segs, STRIDE * before, 1) +
		curvatureAt(path.types[i], path.segs, STRIDE * i, 0);
	return bends > 1e-9 ? -Math.PI : bends < -1e-9 ? Math.PI : turn;
}

/** mm. Joints that open by less are smooth but for rounding. */
const hairOf = (options: RawOptions) => options.tolerance / 4;

function addCorner(chain: Chain, path: Path, i: number, options: RawOptions): void {
	const { distance, join, miterLimit } = options;
	const signed = turnRadAt(path, i);
	// Straight back is a turn to either side; at an end of a line it is taken as one to the left.
	const isEnd = options.ends !== undefined && Math.PI - Math.abs(signed) < 1e-6;
	const turn = isEnd ? Math.PI : signed;
	// Smooth, or turned to the side of the parallel: nothing to fill.
	if (!(turn * distance > hairOf(options))) return;
	const n = path.types.length;
	const x = path.segs[STRIDE * i];
	const y = path.segs[STRIDE * i + 1];
	const before = (i + n - 1) % n;
	const a = directionAt(path.types[before], path.segs, STRIDE * before, 1);
	const b = directionAt(path.types[i], path.segs, STRIDE * i, 0);
	const x0 = x + a.y * distance;
	const y0 = y - a.x * distance;
	const x1 = x + b.y * distance;
	const y1 = y - b.x * distance;
	const place = Float64Array.from([x, y]);
	if (isEnd) {
		if (options.ends === 'round') {
			chain.add(Float64Array.from([x0, y0, 1, 0, 0, 0, x1, y1]), ARC, PLACE, place, false);
			return;
		}
		const on = options.ends === 'square' ? distance : 0;
		const [px, py, qx, qy] = [x0 + a.x * on, y0 + a.y * on, x1 + a.x * on, y1 + a.y * on];
		if (on > 0) chain.add(straight(x0, y0, px, py), STRAIGHT, PLACE, place, false);
		chain.add(straight(px, py, qx, qy), STRAIGHT, PLACE, place, false);
		if (on > 0) chain.add(straight(qx, qy, x1, y1), STRAIGHT, PLACE, place, false);
		return;
	}
	if (join === 'round' || turn * distance < TOLERANCE.coincidence) {
		if (turn * distance < TOLERANCE.coincidence)
			chain.add(straight(x0, y0, x1, y1), STRAIGHT, PLACE, place, true);
		else chain.add(Float64Array.from([x0, y0, Math.tan(turn / 4), 0, 0, 0, x1, y1]), ARC, PLACE, place, true);
		return;
	}
	const reach = 1 / Math.cos(turn / 2);
	if (join === 'miter' && reach > 0 && reach <= miterLimit) {
		const mx = a.y + b.y;
		const my = -(a.x + b.x);
		const size = Math.hypot(mx, my);
		const px = x + (mx / size) * distance * reach;
		const py = y + (my / size) * distance * reach;
		chain.add(straight(x0, y0, px, py), STRAIGHT, PLACE, place, false);
		chain.add(straight(px, py, x1, y1), STRAIGHT, PLACE, place, false);
		return;
	}
	chain.add(straight(x0, y0, x1, y1), STRAIGHT, PLACE, place, false);
}

function straight(x0: number, y0: number, x1: number, y1: number): Float64Array {
	const dx = (x1 - x0) / 3;
	const dy = (y1 - y0) / 3;
	return Float64Array.from([x0, y0, x0 + dx, y0 + dy, x1 - dx, y1 - dy, x1, y1]);
}

function addParallel(chain: Chain, path: Path, i: number, options: RawOptions): void {
	const { distance } = options;
	const at = STRIDE * i;
	const s = path.segs;
	const type = path.types[i];
	const source = s.subarray(at, at + STRIDE) as Float64Array;
	if (type === STRAIGHT) {
		const d = directionAt(STRAIGHT, s, at, 0);
		const ox = d.y * distance;
		const oy = -d.x * distance;
		chain.add(
			straight(s[at] + ox, s[at + 1] + oy, s[at + 6] + ox, s[at + 7] + oy),
			STRAIGHT,
			STRAIGHT,
			source,
			true
		);
		return;
	}
	if (type === ARC) {
		const { cx, cy, radius } = arcShape(s[at], s[at + 1], s[at + 6], s[at + 7], s[at + 2]);
		const next = radius + Math.sign(s[at + 2]) * distance;
		if (next > TOLERANCE.coincidence) {
			const k = next / radius;
			chain.add(
				Float64Array.from([
					cx + (s[at] - cx) * k,
					cy + (s[at + 1] - cy) * k,
					s[at + 2],
					0,
					0,
					0,
					cx + (s[at + 6] - cx) * k,
					cy + (s[at + 7] - cy) * k
				]),
				ARC,
				ARC,
				source,
				false
			);
		} else chain.visit(cx, cy, source, ARC);
		return;
	}
	const stops = [0, ...foldParameters(s, at, distance), 1];
	for (let k = 0; k + 1 < stops.length; k++) {
		const mid = (stops[k] + stops[k + 1]) / 2;
		if (1 + curvatureAt(CUBIC, s, at, mid) * distance > 0) {
			addParallelCubic(chain, source, stops[k], stops[k + 1], options, 0);
		} else {
			// Along the centres of curvature.
			for (let m = 0; m <= 6; m++) {
				const t = stops[k] + ((stops[k + 1] - stops[k]) * m) / 6;
				const radius = Math.min(distance, Math.abs(1 / curvatureAt(CUBIC, s, at, t)));
				const p = pointAt(CUBIC, s, at, t);
				const d = directionAt(CUBIC, s, at, t);
				chain.visit(p.x + d.y * radius, p.y - d.x * radius, source, CUBIC);
			}
		}
	}
}

/** Where the parallel of a cubic turns back: its radius of curvature, to the right, equals the distance. */
function foldParameters(s: Float64Array, at: number, distance: number): number[] {
	const out: number[] = [];
	const f = (t: number) => {
		const k = curvatureAt(CUBIC, s, at, t);
		return Number.isFinite(k) ? 1 + k * distance : distance * 1e9 * Math.sign(k || 1);
	};
	const steps = 12;
	let last = f(1e-9);
	for (let i = 1; i <= steps; i++) {
		const t = i === steps ? 1 - 1e-9 : i / steps;
		const next = f(t);
		if (last * next < 0) {
			let lo = (i - 1) / steps;
			let hi = t;
			for (let k = 0; k < 40; k++) {
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

/** Hermite cubics for the parallel over t0..t1, halved until they lie within the tolerance of the true one. */
function addParallelCubic(
	chain: Chain,
	s: Float64Array,
	t0: number,
	t1: number,
	options: RawOptions,
	depth: number
): void {
	const { distance, tolerance } = options;
	const step = t1 - t0;
	const a = pointAt(CUBIC, s, 0, t0);
	const b = pointAt(CUBIC, s, 0, t1);
	const da = directionAt(CUBIC, s, 0, t0);
	const db = directionAt(CUBIC, s, 0, t1);
	const va = (parallelSpeed(s, t0, distance) * step) / 3;
	const vb = (parallelSpeed(s, t1, distance) * step) / 3;
	const x0 = a.x + da.y * distance;
	const y0 = a.y - da.x * distance;
	const x3 = b.x + db.y * distance;
	const y3 = b.y - db.x * distance;
	const c = Float64Array.from([
		x0,
		y0,
		x0 + da.x * va,
		y0 + da.y * va,
		x3 - db.x * vb,
		y3 - db.y * vb,
		x3,
		y3
	]);
	if (depth < 14) {
		let off = 0;
		for (let k = 1; k < 6 && off <= tolerance; k++) {
			const p = pointAt(CUBIC, s, 0, t0 + (step * k) / 6);
			const d = directionAt(CUBIC, s, 0, t0 + (step * k) / 6);
			const q = pointAt(CUBIC, c, 0, k / 6);
			// Only the distance square to the line counts, sliding along it does not.
			off = Math.abs((q.x - p.x - d.y * distance) * d.y - (q.y - p.y + d.x * distance) * d.x);
		}
		if (off > tolerance) {
			const mid = (t0 + t1) / 2;
			addParallelCubic(chain, s, t0, mid, options, depth + 1);
			addParallelCubic(chain, s, mid, t1, options, depth + 1);
			return;
		}
	}
	chain.add(c, CUBIC, CUBIC, s, false);
}

function parallelSpeed(s: Float64Array, t: number, distance: number): number {
	const d = derivativeAt(CUBIC, s, 0, t);
	const k = curvatureAt(CUBIC, s, 0, t);
	const v = Math.hypot(d.x, d.y) * (1 + (Number.isFinite(k) ? k : 0) * distance);
	return v > 0 ? v : 0;
}

const BACK = 4000;

/** The raw line as it grows; overlaps at corners are cut off as they arise. */
class Chain {
	private readonly raws: Raw[] = [];
	constructor(
		private readonly distance: number,
		/** How many neighbours back an overlap is looked for; 0 for not at all. */
		private readonly back: number,
		/** mm. Gaps up to this are closed by moving the start. */
		private readonly hair: number
	) {}

	/** Adds a raw segment; where it does not start at the end of the line, the two are brought together. */
	add(s: Float64Array, type: number, sourceType: number, source: Float64Array, plain: boolean): void {
		this.push({ type, s, sourceType, source, plain });
	}

	/** Runs straight to a place on the source's own side, which is never on the offset itself. */
	visit(x: number, y: number, source: Float64Array, sourceType: number): void {
		const last = this.raws[this.raws.length - 1];
		if (!last) {
			this.raws.push({ type: STRAIGHT, s: straight(x, y, x, y), sourceType, source, plain: false });
			return;
		}
		this.bridge(last.s[6], last.s[7], x, y, sourceType, source);
	}

	private bridge(
		x0: number,
		y0: number,
		x1: number,
		y1: number,
		sourceType: number,
		source: Float64Array
	): void {
		if (x0 === x1 && y0 === y1) return;
		this.raws.push({ type: STRAIGHT, s: straight(x0, y0, x1, y1), sourceType, source, plain: false });
	}

	private push(raw: Raw): void {
		const { raws } = this;
		for (let back = 0; ; back++) {
			const top = raws[raws.length - 1];
			if (!top) {
				raws.push(raw);
				return;
			}
			const gap = Math.hypot(raw.s[0] - top.s[6], raw.s[1] - top.s[7]);
			if (gap <= 1e-9) {
				raw.s[0] = top.s[6];
				raw.s[1] = top.s[7];
				raws.push(raw);
				return;
			}
			// A joint that is smooth but for rounding: closed, as a step back and forth would only tangle.
			if (back === 0 && gap <= this.hair) {
				moveStart(raw, top.s[6], top.s[7]);
				raws.push(raw);
				return;
			}
			if (back < this.back && top.plain && raw.plain) {
				if (cutOverlap(top, raw)) {
					raws.push(raw);
					return;
				}
				if (isCovered(raw, top.s[0], top.s[1], this.distance)) {
					raws.pop();
					continue;
				}
				if (isCovered(top, raw.s[6], raw.s[7], this.distance)) return;
			}
			this.detour(top, raw);
			raws.push(raw);
			return;
		}
	}

	/** Back to the source and out again. */
	private detour(top: Raw, raw: Raw): void {
		const [ax, ay] = endOfSource(top, 1);
		const [bx, by] = endOfSource(raw, 0);
		this.bridge(top.s[6], top.s[7], ax, ay, top.sourceType, top.source);
		this.bridge(ax, ay, bx, by, top.sourceType, top.source);
		this.bridge(bx, by, raw.s[0], raw.s[1], raw.sourceType, raw.source);
	}

	/** The closed raw line: the end is brought together with the start as any two neighbours are. */
	close(): Path {
		const { raws } = this;
		for (let back = 0; raws.length > 0; back++) {
			const top = raws[raws.length - 1];
			const first = raws[0];
			if (Math.hypot(first.s[0] - top.s[6], first.s[1] - top.s[7]) <= this.hair) break;
			if (back < this.back && raws.length > 2 && top.plain && first.plain) {
				if (cutOverlap(top, first)) break;
				if (isCovered(first, top.s[0], top.s[1], this.distance)) {
					raws.pop();
					continue;
				}
				if (isCovered(top, first.s[6], first.s[7], this.distance)) {
					raws.shift();
					continue;
				}
			}
			this.detour(top, first);
			break;
		}
		const kept = raws.filter((raw) => isLong(raw));
		const n = kept.length;
		const types = new Uint8Array(n);
		const segs = new Float64Array(STRIDE * n);
		kept.forEach((raw, i) => {
			types[i] = raw.type;
			segs.set(raw.s, STRIDE * i);
			const before = kept[(i + n - 1) % n];
			segs[STRIDE * i] = before.s[6];
			segs[STRIDE * i + 1] = before.s[7];
			if (raw.type === STRAIGHT) segs.set(straight(before.s[6], before.s[7], raw.s[6], raw.s[7]), STRIDE * i);
		});
		return { closed: true, types, segs };
	}
}

function isLong({ type, s }: Raw): boolean {
	const size = Math.hypot(s[6] - s[0], s[7] - s[1]);
	if (type !== CUBIC) return size > 1e-9;
	return size > 1e-9 || Math.hypot(s[2] - s[0], s[3] - s[1]) + Math.hypot(s[4] - s[6], s[5] - s[7]) > 1e-9;
}

function endOfSource(raw: Raw, end: 0 | 1): [number, number] {
	if (raw.sourceType === PLACE) return [raw.source[0], raw.source[1]];
	return [raw.source[6 * end], raw.source[6 * end + 1]];
}

/** Whether a place lies nearer to the source of a raw segment than the distance. */
function isCovered(raw: Raw, x: number, y: number, distance: number): boolean {
	const off =
		raw.sourceType === PLACE
			? Math.hypot(raw.source[0] - x, raw.source[1] - y)
			: nearestOn(raw.sourceType, raw.source, 0, x, y).distance;
	return off < distance - 1e-9;
}

/** Cuts the end of one and the start of the next at their common place, if they have one. */
function cutOverlap(top: Raw, next: Raw): boolean {
	const n = findMeetings(top.type, top.s, 0, next.type, next.s, 0);
	if (n === 0) return false;
	let best = 0;
	for (let k = 1; k < n; k++) if (lastMeetings[4 * k] > lastMeetings[4 * best]) best = k;
	const t = lastMeetings[4 * best];
	const u = lastMeetings[4 * best + 1];
	const x = lastMeetings[4 * best + 2];
	const y = lastMeetings[4 * best + 3];
	if (t < 1) top.s = t > 0 ? partOf(top.type, top.s, 0, 0, t) : degenerate(top, x, y);
	if (u > 0) next.s = u < 1 ? partOf(next.type, next.s, 0, u, 1) : degenerate(next, x, y);
	top.s[6] = next.s[0] = x;
	top.s[7] = next.s[1] = y;
	return true;
}

/** Puts the start of a raw segment to a place a hair away; a cubic's handle goes along. */
function moveStart(raw: Raw, x: number, y: number): void {
	if (raw.type === STRAIGHT) {
		raw.s = straight(x, y, raw.s[6], raw.s[7]);
		return;
	}
	if (raw.type === CUBIC) {
		raw.s[2] += x - raw.s[0];
		raw.s[3] += y - raw.s[1];
	}
	raw.s[0] = x;
	raw.s[1] = y;
}

function degenerate(raw: Raw, x: number, y: number): Float64Array {
	return raw.type === ARC ? Float64Array.from([x, y, 1e-9, 0, 0, 0, x, y]) : straight(x, y, x, y);
}
