/** Structure of lines: joining ends, breaking, trimming, extending and shortening. */
import Flatbush from 'flatbush';
import { done, failed, type Result } from '../errors';
import { TOLERANCE } from '../tolerance';
import { arcShape } from './arc';
import { pathLength } from './measure';
import { segmentMeetings } from './meetings';
import { ARC, CUBIC, PathBuilder, reversePath, STRAIGHT, STRIDE, type Path } from './path';
import {
	directionAt,
	emptyBox,
	growBox,
	parameterAtLength,
	partOf,
	pointAt,
	segmentLength,
	type Box
} from './segment';

/** A place on a path. */
export interface Place {
	readonly segment: number;
	readonly t: number;
}

export interface Joined {
	/** The lines afterwards: joined ones first made, then what was closed or could not be joined. */
	readonly paths: Path[];
	/** For each path, which of the given ones it was made of, in order. */
	readonly from: number[][];
	/** Ends that found no partner. */
	readonly unjoined: number;
	/** How far ends were moved at most, mm. */
	readonly drift: number;
}

/**
 * Joins ends of open lines that lie no farther apart than `gap` mm, nearest first, each end with one other. Ends are
 * drawn together at their middle, or with `bridge` joined by a straight. A line whose own ends meet is closed.
 */
export function joinEnds(paths: readonly Path[], gap: number, bridge = false): Joined {
	const open = paths.map((_, i) => i).filter((i) => !paths[i].closed && paths[i].types.length > 0);
	// End 2 k is the start of open line k, 2 k + 1 its end.
	const xy: number[] = [];
	for (const i of open) {
		const s = paths[i].segs;
		xy.push(s[0], s[1], s[s.length - 2], s[s.length - 1]);
	}
	const ends = 2 * open.length;
	const pairs: { a: number; b: number; apart: number }[] = [];
	if (ends > 0) {
		const index = new Flatbush(ends);
		for (let k = 0; k < ends; k++) index.add(xy[2 * k], xy[2 * k + 1], xy[2 * k], xy[2 * k + 1]);
		index.finish();
		for (let a = 0; a < ends; a++) {
			const [x, y] = [xy[2 * a], xy[2 * a + 1]];
			for (const b of index.search(x - gap, y - gap, x + gap, y + gap, (k) => k > a)) {
				const apart = Math.hypot(xy[2 * b] - x, xy[2 * b + 1] - y);
				// A line shorter than the gap must not close on itself into nothing.
				const own = a >> 1 === b >> 1;
				if (apart <= gap && !(own && pathLength(paths[open[a >> 1]]) <= 2 * apart + TOLERANCE.coincidence)) {
					pairs.push({ a, b, apart });
				}
			}
		}
	}
	pairs.sort((p, q) => p.apart - q.apart || p.a - q.a || p.b - q.b);
	const partner = new Int32Array(ends).fill(-1);
	let drift = 0;
	for (const { a, b, apart } of pairs) {
		if (partner[a] >= 0 || partner[b] >= 0) continue;
		partner[a] = b;
		partner[b] = a;
		if (!bridge) drift = Math.max(drift, apart / 2);
	}
	const used = new Uint8Array(open.length);
	const result: Path[] = [];
	const from: number[][] = [];
	const follow = (start: number, closed: boolean) => {
		const list: number[] = [];
		const runs: Path[] = [];
		let enter = start;
		do {
			const k = enter >> 1;
			used[k] = 1;
			list.push(open[k]);
			runs.push(enter & 1 ? reversePath(paths[open[k]]) : paths[open[k]]);
			enter = partner[enter ^ 1];
		} while (enter >= 0 && !used[enter >> 1]);
		result.push(chainUp(runs, closed, bridge));
		from.push(list);
	};
	for (let e = 0; e < ends; e++) if (!used[e >> 1] && partner[e] < 0) follow(e, false);
	for (let e = 0; e < ends; e++) if (!used[e >> 1]) follow(e, true);
	paths.forEach((path, i) => {
		if (path.closed || path.types.length === 0) {
			result.push(path);
			from.push([i]);
		}
	});
	return { paths: result, from, unjoined: partner.filter((p) => p < 0).length, drift };
}

/** Lines one after another as one path; neighbouring ends are drawn to their middle, or bridged. */
function chainUp(runs: readonly Path[], closed: boolean, bridge: boolean): Path {
	const n = runs.length;
	const meet = (a: Path, b: Path) => {
		const e = a.segs.length - 2;
		return [(a.segs[e] + b.segs[0]) / 2, (a.segs[e + 1] + b.segs[1]) / 2] as const;
	};
	const moved = runs.map((run, k) => {
		if (bridge) return run;
		const before = k > 0 ? runs[k - 1] : closed ? runs[n - 1] : undefined;
		const after = k + 1 < n ? runs[k + 1] : closed ? runs[0] : undefined;
		return moveEnds(run, before && meet(before, run), after && meet(run, after));
	});
	const builder = new PathBuilder(moved[0].segs[0], moved[0].segs[1]);
	for (const run of moved) {
		builder.line(run.segs[0], run.segs[1]);
		builder.along(run);
	}
	return closed ? builder.close() : builder.open();
}

function moveEnds(
	path: Path,
	start: readonly [number, number] | undefined,
	end: readonly [number, number] | undefined
): Path {
	const segs = Float64Array.from(path.segs);
	const types = path.types;
	const move = (at: number, e: 0 | 6, to: readonly [number, number], type: number) => {
		if (type === CUBIC) {
			const handle = at + (e === 0 ? 2 : 4);
			segs[handle] += to[0] - segs[at + e];
			segs[handle + 1] += to[1] - segs[at + e + 1];
		}
		segs[at + e] = to[0];
		segs[at + e + 1] = to[1];
	};
	if (start) move(0, 0, start, types[0]);
	if (end) move(STRIDE * (types.length - 1), 6, end, types[types.length - 1]);
	return { closed: path.closed, types, segs };
}

/**
 * The path cut at places, in order along it: n cuts make n open parts of a closed path, n + 1 of an open one. A cut at an
 * open path's own end cuts nothing.
 */
export function breakAt(path: Path, places: readonly Place[]): Path[] {
	const n = path.types.length;
	const least = path.closed ? -1 : 0;
	const sorted = places
		.map((p) => normal(path, p))
		.filter((k) => k > least && k < n)
		.sort((a, b) => a - b)
		.filter((k, i, all) => i === 0 || k - all[i - 1] > 1e-12);
	if (sorted.length === 0) return [path];
	const out: Path[] = [];
	if (path.closed) {
		sorted.forEach((k, i) =>
			out.push(stretchBetween(path, k, i + 1 < sorted.length ? sorted[i + 1] : sorted[0] + n))
		);
		return out;
	}
	const stops = [0, ...sorted, n];
	for (let i = 0; i + 1 < stops.length; i++) out.push(stretchBetween(path, stops[i], stops[i + 1]));
	return out;
}

/** A place as one number, the start of a segment rather than the end of the one before; over the seam of a closed path 0. */
function normal(path: Path, { segment, t }: Place): number {
	const k = segment + Math.min(1, Math.max(0, t));
	return path.closed && k >= path.types.length ? 0 : k;
}

/** The open part of a path from one place to another, both as segment + t; beyond n over the seam. */
export function stretchBetween(path: Path, from: number, to: number): Path {
	const n = path.types.length;
	const first = Math.floor(from);
	const start = pointAt(path.types[first % n], path.segs, STRIDE * (first % n), from - first);
	const builder = new PathBuilder(start.x, start.y);
	for (let i = first; i < to; i++) {
		const t0 = i === first ? from - first : 0;
		const t1 = Math.min(1, to - i);
		if (t1 - t0 <= 1e-12) continue;
		const at = STRIDE * (i % n);
		const type = path.types[i % n];
		if (t0 === 0 && t1 === 1) builder.segment(type, path.segs, at);
		else builder.segment(type, partOf(type, path.segs, at, t0, t1));
	}
	return builder.open();
}

/**
 * All places where a path meets the cutters, as segment + t, in order, each once; over the seam of a closed path 0. Where the path
 * is one of the cutters itself, the places where it crosses itself: that neighbours meet at their anchor is no crossing.
 */
export function meetingPlaces(path: Path, cutters: readonly Path[]): number[] {
	const n = path.types.length;
	const own = segmentBoxes(path);
	const out: number[] = [];
	for (const other of cutters) {
		const isSelf = other === path;
		const boxes = isSelf ? own : segmentBoxes(other);
		for (let i = 0; i < n; i++)
			for (let j = 0; j < other.types.length; j++) {
				if ((isSelf && i === j) || !touch(own[i], boxes[j])) continue;
				for (const { t, u } of segmentMeetings(
					path.types[i],
					path.segs,
					STRIDE * i,
					other.types[j],
					other.segs,
					STRIDE * j
				))
					if (!(isSelf && isNeighbourly(i, t, j, u, n))) out.push(normal(path, { segment: i, t }));
			}
	}
	out.sort((a, b) => a - b);
	return out.filter((k, i) => i === 0 || k - out[i - 1] > SAME_PLACE);
}

/** Share of a segment: places nearer together are one. */
const SAME_PLACE = 1e-9;

function segmentBoxes({ types, segs }: Path): Box[] {
	return Array.from(types, (type, i) => {
		const box = emptyBox();
		growBox(box, type, segs, STRIDE * i);
		return box;
	});
}
const touch = (a: Box, b: Box): boolean =>
	a.x0 <= b.x1 + TOLERANCE.coincidence &&
	b.x0 <= a.x1 + TOLERANCE.coincidence &&
	a.y0 <= b.y1 + TOLERANCE.coincidence &&
	b.y0 <= a.y1 + TOLERANCE.coincidence;

/** Whether a meeting of two segments of one path is the anchor between neighbours. */
const isNeighbourly = (i: number, t: number, j: number, u: number, n: number): boolean =>
	(t > 1 - SAME_PLACE && u < SAME_PLACE && j === (i + 1) % n) ||
	(t < SAME_PLACE && u > 1 - SAME_PLACE && i === (j + 1) % n);

/**
 * The path without the stretch pointed at, which reaches to the nearest meeting with a cutter on either side (or to the
 * path's own end).
 *
 * @returns what is left: one open part of a closed path, none to two of an open one; `no-crossing` where no cutter meets it.
 */
export function trim(path: Path, cutters: readonly Path[], at: Place): Result<Path[]> {
	const stops = meetingPlaces(path, cutters);
	if (stops.length === 0) {
		return failed('no-crossing', 'No other outline crosses this one, so there is nothing to trim it by.');
	}
	const n = path.types.length;
	const here = normal(path, at);
	if (path.closed) {
		if (stops.length === 1) {
			return failed(
				'one-crossing',
				'The other outline meets this one at a single place: there is no stretch between two.'
			);
		}
		const after = stops.find((k) => k > here) ?? stops[0] + n;
		const before = [...stops].reverse().find((k) => k <= here) ?? stops[stops.length - 1] - n;
		const from = after >= n ? after - n : after;
		let to = before < 0 ? before + n : before;
		if (to <= from) to += n;
		return done([stretchBetween(path, from, to)]);
	}
	const after = stops.find((k) => k > here);
	const before = [...stops].reverse().find((k) => k <= here);
	const out: Path[] = [];
	if (before !== undefined && before > 1e-9) out.push(stretchBetween(path, 0, before));
	if (after !== undefined && after < n - 1e-9) out.push(stretchBetween(path, after, n));
	return done(out);
}

export type LineEnd = 'start' | 'end';

/**
 * An open line made longer at one end by a length, straight on or along the end's own curve (an arc goes on as its
 * circle, a cubic as its own polynomial), or shorter by a negative one.
 *
 * @returns the line, or `closed-outline`, `too-short` with the largest length that can be taken away.
 */
export function lengthen(path: Path, end: LineEnd, by: number, how: 'straight' | 'curve'): Result<Path> {
	if (path.closed) return failed('closed-outline', 'A closed outline has no end to lengthen. Open it first.');
	if (!Number.isFinite(by)) return failed('bad-length', 'The length must be a number.');
	if (end === 'start') {
		const turned = lengthen(reversePath(path), 'end', by, how);
		return turned.ok ? done(reversePath(turned.value)) : turned;
	}
	const n = path.types.length;
	if (by < 0) {
		const whole = pathLength(path);
		if (!(-by < whole - TOLERANCE.coincidence)) {
			return failed(
				'too-short',
				`The line is only ${Math.floor(whole * 100) / 100} mm long. Take away less than that.`
			);
		}
		return done(stretchBetween(path, 0, placeAtLength(path, whole + by)));
	}
	const last = STRIDE * (n - 1);
	const type = path.types[n - 1];
	const s = path.segs;
	const builder = new PathBuilder(s[0], s[1]);
	for (let i = 0; i + 1 < n; i++) builder.segment(path.types[i], s, STRIDE * i);
	const d = directionAt(type, s, last, 1);
	if (type === STRAIGHT) {
		builder.line(s[last + 6] + d.x * by, s[last + 7] + d.y * by);
		return done(builder.open());
	}
	if (how === 'straight') {
		builder.segment(type, s, last).line(s[last + 6] + d.x * by, s[last + 7] + d.y * by);
		return done(builder.open());
	}
	if (type === ARC) {
		const length = segmentLength(ARC, s, last);
		const sweep = 4 * Math.atan(s[last + 2]);
		const next = (sweep * (length + by)) / length;
		if (Math.abs(next) > 2 * Math.PI - 1e-9) {
			const most = (length * (2 * Math.PI)) / Math.abs(sweep) - length;
			return failed(
				'whole-circle',
				`The arc would run over itself. It can be made ${Math.floor(most * 100) / 100} mm longer at most.`
			);
		}
		const p = pointAt(ARC, s, last, (length + by) / length);
		builder.arc(Math.tan(next / 4), p.x, p.y);
		return done(builder.open());
	}
	// The polynomial runs on beyond 1 until the length is reached.
	const extra = (t: number) => segmentLength(CUBIC, partOf(CUBIC, s, last, 1, t), 0);
	let hi = 1.1;
	while (extra(hi) < by && hi < 1e3) hi = 1 + (hi - 1) * 2;
	let lo = 1;
	for (let k = 0; k < 60; k++) {
		const mid = (lo + hi) / 2;
		if (extra(mid) < by) lo = mid;
		else hi = mid;
	}
	builder.segment(CUBIC, partOf(CUBIC, s, last, 0, hi));
	return done(builder.open());
}

/** The place a length along a path, as segment + t. */
export function placeAtLength(path: Path, length: number): number {
	let left = length;
	for (let i = 0; i < path.types.length; i++) {
		const own = segmentLength(path.types[i], path.segs, STRIDE * i);
		if (left <= own) return i + parameterAtLength(path.types[i], path.segs, STRIDE * i, left);
		left -= own;
	}
	return path.types.length;
}

/**
 * An open line made longer at one end until it meets a boundary, straight on or along its own curve, an arc along its circle.
 * @returns the line, or `no-boundary` where it meets none within `most` mm.
 */
export function extendTo(
	path: Path,
	end: LineEnd,
	boundary: readonly Path[],
	how: 'straight' | 'curve',
	most = 1000
): Result<Path> {
	const longer = lengthen(path, end, how === 'curve' ? Math.min(most, roomOnCircle(path, end)) : most, how);
	const whole = longer.ok ? longer : lengthen(path, end, most, 'straight');
	if (!whole.ok) return whole;
	const forward = end === 'end' ? whole.value : reversePath(whole.value);
	const n = path.types.length;
	// Where the old end lies on the longer line.
	const own = pathLength(path);
	const start = Math.min(placeAtLength(forward, own), n);
	const stop = meetingPlaces(forward, boundary).find((k) => k > start + 1e-9);
	if (stop === undefined) {
		return failed(
			'no-boundary',
			'This end meets no other outline on its way. Point at one that lies ahead of it.'
		);
	}
	const cut = stretchBetween(forward, 0, stop);
	return done(end === 'end' ? cut : reversePath(cut));
}

/** mm that an end can go on along its curve: of an arc the rest of its circle. */
function roomOnCircle(path: Path, end: LineEnd): number {
	const i = end === 'end' ? path.types.length - 1 : 0;
	if (path.types[i] !== ARC) return Infinity;
	const [at, s] = [STRIDE * i, path.segs];
	const { radius, sweepRad } = arcShape(s[at], s[at + 1], s[at + 6], s[at + 7], s[at + 2]);
	return radius * (2 * Math.PI - Math.abs(sweepRad)) * ALMOST;
}
/** Share of a circle: closed all round it would end where it begins. */
const ALMOST = 1 - 1e-6;

/** The path split into its single segments. */
export function singleSegments(path: Path): Path[] {
	return Array.from(path.types, (_, i) => stretchBetween(path, i, i + 1));
}

/** A closed path begun at another place on it; an anchor is put there where there is none. */
export function startAt(path: Path, at: Place): Path {
	if (!path.closed) return path;
	const k = normal(path, at);
	const open = stretchBetween(path, k, k + path.types.length);
	const builder = new PathBuilder(open.segs[0], open.segs[1]);
	builder.along(open);
	return builder.close(TOLERANCE.coincidence);
}
