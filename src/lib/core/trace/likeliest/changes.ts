/** What else lines may be made of: in which places other segments may stand, and how much likelier they make it. */
import { arcToCubics } from '../../geometry/arc';
import { ARC, CUBIC, STRAIGHT, STRIDE } from '../../geometry/path';
import type { Point } from '../../geometry/point';
import { directionAt, partOf, pointAt, segmentLength } from '../../geometry/segment';
import { courseOf, endsOf, moveJunctions, type Course, type End, type Net, type NetLine } from './net';
import type { Agreement } from './settle';

/** What a segment less may make unlikelier; natural logarithms. */
const CHEAP = 3;
/** px: a side between corners that may be none. */
const SHORT = 3.2;
/** px: so far beyond it they may meet. */
const MOST_TIP = 16;

/** Segments for which others stand. */
export interface Change {
	readonly first: number;
	readonly count: number;
	/** The segments that stand there, as `Path` has them. */
	readonly types: readonly number[];
	readonly segs: readonly number[];
	/** Others that it may make likelier as well. */
	readonly beside?: readonly number[];
	/** Where a junction goes with it. */
	readonly junction?: { readonly number: number; readonly to: Point };
	/** How much likelier it has to be. */
	readonly worth: number;
}

/** Lines settled with pixels of a spread. */
export interface Settled extends Agreement {
	readonly net: Net;
	/** px */
	readonly spread: number;
	/** px of each segment beside which pixels were asked. */
	readonly along: Float64Array;
}

/** Whether pixels say something all along a run of segments. */
export function isSeen({ along, seen }: Settled, segments: readonly number[], least = WATCHED): boolean {
	const of = (list: (k: number) => number) => segments.reduce((sum, k) => sum + list(k), 0);
	return of((k) => seen[k]) >= least * of((k) => along[k]);
}
/** Pixels that say something for each one that a run is long. */
const WATCHED = 0.7;

/**
 * Where other segments may stand, and which in each place.
 * @param vain junctions that need not be asked; none is where nothing is said.
 */
export function changesOf(
	settled: Settled,
	isEven: boolean,
	worth: number,
	vain?: ReadonlySet<number>
): Change[][] {
	const { net, costs, due, atStart, atEnd } = settled;
	const course = courseOf(net);
	const excess = (k: number) => costs[k] - due[k];
	const out: Change[][] = [];
	const taken = new Uint8Array(net.types.length);
	const take = (ways: readonly Change[], own: readonly number[]) => {
		if (ways.length === 0) return;
		own.forEach((k) => (taken[k] = 1));
		out.push([...ways]);
	};
	for (let k = 0; k < net.types.length; k++) {
		const beside = [course.before[k], k, course.after[k]];
		const short = beside.some((i) => i < 0 || taken[i]) ? undefined : shortSide(net, course, k);
		if (short && isSeen(settled, beside)) take([short], beside);
	}
	for (const [number, ends] of vain ? endsOf(course) : []) {
		if (vain!.has(number)) continue;
		const meeting = [...new Set(ends.map(({ segment }) => segment))];
		// Junctions that share a line are asked one after the other.
		if (meeting.some((k) => taken[k])) continue;
		const here = ends.map(({ segment, leaves }) => (leaves ? atStart : atEnd)[segment]);
		if (here.reduce((sum, more) => sum + Math.max(0, more), 0) <= worth) continue;
		const ways = ends.flatMap((end) =>
			ends.flatMap((along): Change[] => {
				const to = end === along ? undefined : placeBeside(net, along);
				if (!to) return [];
				const beside = meeting.filter((k) => k !== end.segment);
				return [
					{
						first: end.segment,
						count: 1,
						...prolonged(net, end, to),
						beside,
						junction: { number, to },
						worth
					}
				];
			})
		);
		take(ways, meeting);
	}
	for (let k = 0; k < net.types.length; k++) {
		if (taken[k] || excess(k) <= worth) continue;
		const ways = [freer(net, k), isEven ? twoSides(net, k) : undefined];
		take(
			ways.flatMap((instead) => (instead ? { first: k, count: 1, ...instead, worth } : [])),
			[k]
		);
	}
	return out;
}
/** A side too short to be told from its neighbours' corner is taken out, and they are prolonged. */
function shortSide({ types, segs, lines }: Net, course: Course, k: number): Change | undefined {
	if (lines[course.line[k]].count < 4 || types[k] !== STRAIGHT) return undefined;
	if (segmentLength(STRAIGHT, segs, STRIDE * k) > SHORT) return undefined;
	const [a, b] = [course.before[k], course.after[k]];
	const [p, q] = [STRIDE * k, STRIDE * k + 6].map((at) => ({ x: segs[at], y: segs[at + 1] }));
	const d = directionAt(types[a], segs, STRIDE * a, 1);
	const e = directionAt(types[b], segs, STRIDE * b, 0);
	const cross = d.x * e.y - d.y * e.x;
	if (Math.abs(cross) < 0.05) return undefined;
	const along = ((q.x - p.x) * e.y - (q.y - p.y) * e.x) / cross;
	if (Math.abs(along) > MOST_TIP) return undefined;
	const meet: Point = { x: p.x + along * d.x, y: p.y + along * d.y };
	const before = Array.from(segs.subarray(STRIDE * a, STRIDE * a + STRIDE));
	const after = Array.from(segs.subarray(STRIDE * b, STRIDE * b + STRIDE));
	before.splice(6, 2, meet.x, meet.y);
	after.splice(0, 2, meet.x, meet.y);
	return { first: a, count: 3, types: [types[a], types[b]], segs: [...before, ...after], worth: -CHEAP };
}

/** Other segments for one. */
type Instead = Pick<Change, 'types' | 'segs'>;

/** A straight may bend, an arc be no circle's, a cubic turn again. */
function freer({ types, segs }: Net, k: number): Instead {
	const s = Array.from(segs.subarray(STRIDE * k, STRIDE * k + STRIDE));
	const cubics = (list: readonly number[]) => ({
		types: new Array<number>(list.length / STRIDE).fill(CUBIC),
		segs: list
	});
	if (types[k] === STRAIGHT) {
		const bulge = (2 * BEND) / segmentLength(STRAIGHT, s, 0);
		return { types: [ARC], segs: [s[0], s[1], bulge, 0, 0, 0, s[6], s[7]] };
	}
	if (types[k] === ARC) return cubics(Array.from(arcToCubics(s[0], s[1], s[6], s[7], s[2])));
	return cubics([...partOf(CUBIC, s, 0, 0, 0.5), ...partOf(CUBIC, s, 0, 0.5, 1)]);
}

/** A short curve may be the two sides of a corner. */
function twoSides({ types, segs }: Net, k: number): Instead | undefined {
	if (types[k] === STRAIGHT || segmentLength(types[k], segs, STRIDE * k) > ROUND) return undefined;
	const { x, y } = pointAt(types[k], segs, STRIDE * k, 0.5);
	const [ax, ay, , , , , bx, by] = segs.subarray(STRIDE * k, STRIDE * k + STRIDE);
	return { types: [STRAIGHT, STRAIGHT], segs: [ax, ay, 0, 0, 0, 0, x, y, x, y, 0, 0, 0, 0, bx, by] };
}
/** px: a longer curve is no corner. */
const ROUND = 12;

/** The place beside a junction on a line that ends there; nothing on a short one. */
function placeBeside({ types, segs }: Net, { segment, leaves }: End): Point | undefined {
	const share = BESIDE / segmentLength(types[segment], segs, STRIDE * segment);
	if (share > 0.3) return undefined;
	return pointAt(types[segment], segs, STRIDE * segment, leaves ? share : 1 - share);
}

/** A line that ends at a junction goes on from there, round a corner, to where the junction is now. */
function prolonged({ types, segs }: Net, { segment, leaves }: End, to: Point): Instead {
	const own = Array.from(segs.subarray(STRIDE * segment, STRIDE * segment + STRIDE));
	const [x, y] = leaves ? own : own.slice(6);
	const more = leaves ? [to.x, to.y, 0, 0, 0, 0, x, y] : [x, y, 0, 0, 0, 0, to.x, to.y];
	const kinds = [types[segment], STRAIGHT];
	return leaves
		? { types: kinds.reverse(), segs: [...more, ...own] }
		: { types: kinds, segs: [...own, ...more] };
}
/** px that a junction goes along a line, at first. */
const BESIDE = 1.2;

/** px: the first bend of a straight that may bend. */
const BEND = 0.01;

/**
 * The lines with the changes made, and which segment each of theirs was; -1 of new ones. A line that goes round begins at a change
 * that runs over its first segment, where there is one.
 */
export function changed(net: Net, changes: readonly Change[]): { net: Net; from: number[] } {
	const byFirst = new Map(changes.map((c) => [c.first, c]));
	const types: number[] = [];
	const segs: number[] = [];
	const from: number[] = [];
	const lines: NetLine[] = [];
	for (const line of inOrder(net, changes)) {
		const before = types.length;
		for (const k of line.order) {
			const change = byFirst.get(k);
			types.push(...(change ? change.types : [net.types[k]]));
			segs.push(...(change ? change.segs : net.segs.subarray(STRIDE * k, STRIDE * k + STRIDE)));
			from.push(...(change ? change.types.map(() => -1) : [k]));
		}
		lines.push({ ...line.line, count: types.length - before });
	}
	const out = { types: Uint8Array.from(types), segs: Float64Array.from(segs), lines };
	const to = new Map(changes.flatMap(({ junction }) => (junction ? [[junction.number, junction.to]] : [])));
	if (to.size > 0) moveJunctions(out, (j) => to.get(j));
	return { net: out, from };
}

/** Of every line in which order its segments come, of changed ones the first. */
function inOrder({ lines }: Net, changes: readonly Change[]): { line: NetLine; order: number[] }[] {
	const within = new Map(changes.map((c) => [c.first, c.count]));
	let base = 0;
	return lines.map((line) => {
		const { count } = line;
		const over = changes.find(
			(c) => c.first >= base && c.first < base + count && c.first + c.count > base + count
		);
		const start = over ? over.first - base : 0;
		const order: number[] = [];
		for (let i = 0; i < count;) {
			const k = base + ((start + i) % count);
			order.push(k);
			i += within.get(k) ?? 1;
		}
		base += count;
		return { line, order };
	});
}

/** How much likelier each change made its segments and those beside it. */
export function gains(before: Settled, changes: readonly Change[], after: Settled): number[] {
	const { after: next } = courseOf(before.net);
	const byFirst = new Map(changes.map((c, k) => [c.first, k]));
	const [was, is] = [before, after].map(({ net: { types, segs }, costs }) => ({
		costs,
		lengths: Float64Array.from(types, (type, k) => segmentLength(type, segs, STRIDE * k))
	}));
	// Which segments each unchanged one is now.
	const now = new Int32Array(was.costs.length);
	const [cost, length] = [changes.map(() => 0), changes.map(() => 0)];
	const count = (k: number, sign: 1 | -1, { costs, lengths }: typeof was, i: number) => {
		cost[k] += sign * costs[i];
		length[k] += sign * lengths[i];
	};
	let j = 0;
	for (const { order } of inOrder(before.net, changes))
		for (const first of order) {
			const k = byFirst.get(first);
			if (k === undefined) {
				now[first] = j++;
				continue;
			}
			for (let c = 0, i = first; c < changes[k].count; c++, i = next[i]) count(k, 1, was, i);
			for (let c = 0; c < changes[k].types.length; c++, j++) count(k, -1, is, j);
		}
	return changes.map(({ beside, junction }, k) => {
		for (const i of beside ?? []) {
			count(k, 1, was, i);
			count(k, -1, is, now[i]);
		}
		return cost[k] + (junction ? LONGER * length[k] : 0);
	});
}
/** How much unlikelier a junction is where lines are a px longer: two do not run to it side by side. */
const LONGER = 30;
