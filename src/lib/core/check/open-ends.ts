/** Open ends: lines whose ends meet those of others, and lines that are open by themselves. */
import Flatbush from 'flatbush';
import { endsCoincide } from '../document/outline';
import { joinEnds } from '../geometry/join';
import { pathLength } from '../geometry/measure';
import type { Path } from '../geometry/path';
import type { Fault } from './fault';

/** mm, and a share of the shorter line: gaps up to here are small enough to be bridged. */
const BRIDGE_MOST = 5;
const BRIDGE_SHARE = 0.1;

const mm = (length: number): string => (length < 10 ? length.toFixed(2) : length.toFixed(1));

/** Where the two ends of an open path lie: x, y of its start, x, y of its end. */
function endsOf({ segs }: Path): readonly [number, number, number, number] {
	return [segs[0], segs[1], segs[segs.length - 2], segs[segs.length - 1]];
}

/**
 * One fault for each chain of lines whose ends lie within the gap of each other, and one for each line that is open by itself.
 * Closing is offered only where a line's own ends are nearer to each other than to those of any other line.
 * @param leave indexes of lines of which nothing is said.
 */
export function openEndFaults(paths: readonly Path[], gap: number, leave: ReadonlySet<number>): Fault[] {
	const open = paths.flatMap((path, i) => (path.closed || leave.has(i) || !path.types.length ? [] : [i]));
	const faults: Fault[] = [];
	const chained = new Set<number>();
	const joined = joinEnds(
		open.map((i) => paths[i]),
		gap
	);
	joined.from.forEach((list, k) => {
		if (list.length < 2) return;
		const chain = list.map((m) => open[m]);
		for (const i of chain) chained.add(i);
		const [x, y] = placeOfMeeting(paths[chain[0]], paths[chain[1]]);
		const closes = joined.paths[k].closed;
		faults.push({
			kind: 'loose-lines',
			outline: chain[0],
			chain,
			x,
			y,
			why: `${chain.length} lines meet end to end here but are not joined: together they are one ${closes ? 'closed' : 'open'} outline.`,
			mend: 'join-lines',
			stops: true
		});
	});
	const nearest = nearestOthers(paths, open);
	for (const [a, b] of mutualPairs(nearest, open, chained)) {
		const pair = [open[a >> 1], open[b >> 1]];
		const apart = nearest.off[a];
		// A gap is bridged where it is small beside the lines: else nobody knows what was meant.
		const shorter = Math.min(...pair.map((i) => pathLength(paths[i])));
		if (apart > BRIDGE_SHARE * shorter || apart > BRIDGE_MOST) continue;
		for (const i of pair) chained.add(i);
		const [x, y] = placeOfMeeting(paths[pair[0]], paths[pair[1]]);
		faults.push({
			kind: 'loose-lines',
			outline: pair[0],
			chain: pair,
			x,
			y,
			why: `Ends of two lines lie ${mm(apart)} mm apart here and are not joined.`,
			mend: 'bridge-lines',
			stops: true
		});
	}
	open.forEach((i, k) => {
		if (chained.has(i)) return;
		const [x0, y0, x1, y1] = endsOf(paths[i]);
		const apart = Math.hypot(x1 - x0, y1 - y0);
		const isOwn = apart <= Math.min(nearest.off[2 * k], nearest.off[2 * k + 1]);
		const touch = endsCoincide(paths[i]);
		faults.push({
			kind: 'open-ends',
			outline: i,
			x: x0,
			y: y0,
			why: touch
				? 'The ends touch but are not joined: the outline looks closed and is not.'
				: isOwn
					? `The outline is open: its ends are ${mm(apart)} mm apart.`
					: `The outline is open, and an end of another line is nearer than its own other end: ${mm(Math.min(nearest.off[2 * k], nearest.off[2 * k + 1]))} mm. Join them, or say that it is open on purpose.`,
			mend: !isOwn ? 'none' : apart <= gap ? 'join-ends' : 'close',
			stops: true
		});
	});
	return faults;
}

/** The place where two lines come nearest with their ends. */
function placeOfMeeting(a: Path, b: Path): readonly [number, number] {
	const [ax, ay, bx, by] = endsOf(a);
	const ends = endsOf(b);
	const off = (x: number, y: number) =>
		Math.min(Math.hypot(x - ends[0], y - ends[1]), Math.hypot(x - ends[2], y - ends[3]));
	return off(ax, ay) <= off(bx, by) ? [ax, ay] : [bx, by];
}

interface Nearest {
	/** mm to the nearest end of another line. */
	readonly off: Float64Array;
	/** Which end that is; -1 where there is no other line. */
	readonly end: Int32Array;
}

/** For each end of the open lines the nearest end of another line. */
function nearestOthers(paths: readonly Path[], open: readonly number[]): Nearest {
	const off = new Float64Array(2 * open.length).fill(Infinity);
	const end = new Int32Array(2 * open.length).fill(-1);
	if (open.length < 2) return { off, end };
	const xy = open.flatMap((i) => endsOf(paths[i]));
	const index = new Flatbush(2 * open.length);
	for (let e = 0; e < 2 * open.length; e++) index.add(xy[2 * e], xy[2 * e + 1], xy[2 * e], xy[2 * e + 1]);
	index.finish();
	for (let e = 0; e < 2 * open.length; e++) {
		const [x, y] = [xy[2 * e], xy[2 * e + 1]];
		const [other] = index.neighbors(x, y, 1, Infinity, (o) => o >> 1 !== e >> 1);
		if (other === undefined) continue;
		end[e] = other;
		off[e] = Math.hypot(xy[2 * other] - x, xy[2 * other + 1] - y);
	}
	return { off, end };
}

/** Ends of two lines that are each other's nearest, of lines that are in no chain; each line in one pair, the nearest first. */
function mutualPairs(
	{ off, end }: Nearest,
	open: readonly number[],
	chained: ReadonlySet<number>
): [number, number][] {
	const taken = new Set<number>();
	const pairs: [number, number][] = [];
	const order = Array.from(off.keys()).sort((a, b) => off[a] - off[b]);
	for (const e of order) {
		const other = end[e];
		if (other < e || end[other] !== e) continue;
		const lines = [open[e >> 1], open[other >> 1]];
		if (lines.some((i) => taken.has(i) || chained.has(i))) continue;
		for (const i of lines) taken.add(i);
		pairs.push([e, other]);
	}
	return pairs;
}
