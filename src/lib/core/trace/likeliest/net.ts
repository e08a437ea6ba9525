/** Lines that part two grounds each, and end in common places or go round: what can be likeliest together. */
import { STRIDE, type Path } from '../../geometry/path';
import type { Point } from '../../geometry/point';

export interface NetLine {
	/** How many segments it has. */
	readonly count: number;
	/** Numbers of the junctions where it begins and ends; -1 where it goes round. */
	readonly start: number;
	readonly end: number;
	/** The grounds on its left hand and on its right, as it is seen. */
	readonly left: number;
	readonly right: number;
}

/** px, y down. */
export interface Net {
	/** Segments as `Path` has them, line after line. */
	readonly types: Uint8Array;
	readonly segs: Float64Array;
	readonly lines: readonly NetLine[];
}

/** The grounds of an outline by itself: ink on its left. */
export const INK = 0;
export const PAPER = 1;

/** An outline by itself. @param path closed, ink on its left. */
export const netOf = ({ types, segs }: Path): Net => ({
	types,
	segs,
	lines: [{ count: types.length, start: -1, end: -1, left: INK, right: PAPER }]
});

/** Its lines, each as a path of its own. */
export function pathsOf({ types, segs, lines }: Net): Path[] {
	let from = 0;
	return lines.map(({ count, start }) => {
		const to = from + count;
		const path = {
			closed: start < 0,
			types: types.slice(from, to),
			segs: segs.slice(STRIDE * from, STRIDE * to)
		};
		from = to;
		return path;
	});
}

/** Which segment is before each, or after it; -1 less the number of a junction where a line ends there. */
export interface Course {
	readonly before: Int32Array;
	readonly after: Int32Array;
	/** Which line each is of. */
	readonly line: Int32Array;
}

export function courseOf({ types, lines }: Net): Course {
	const [before, after, line] = [0, 0, 0].map(() => new Int32Array(types.length));
	let from = 0;
	lines.forEach(({ count, start, end }, i) => {
		const last = from + count - 1;
		for (let k = from; k <= last; k++) {
			before[k] = k > from ? k - 1 : start < 0 ? last : -1 - start;
			after[k] = k < last ? k + 1 : end < 0 ? from : -1 - end;
			line[k] = i;
		}
		from += count;
	});
	return { before, after, line };
}

/** The end of a line at a junction: its segment there, and whether the line leaves with it. */
export interface End {
	readonly segment: number;
	readonly leaves: boolean;
}

/** The ends at each junction, by its number. */
export function endsOf({ before, after }: Course): Map<number, End[]> {
	const ends = new Map<number, End[]>();
	const put = (code: number, segment: number, leaves: boolean) => {
		if (code >= 0) return;
		const list = ends.get(-1 - code) ?? [];
		ends.set(-1 - code, list);
		list.push({ segment, leaves });
	};
	before.forEach((code, k) => put(code, k, true));
	after.forEach((code, k) => put(code, k, false));
	return ends;
}

/** All that meets at a segment's ends, where these are junctions. */
export const meetingAt = (
	{ before, after }: Course,
	ends: ReadonlyMap<number, End[]>,
	segment: number
): End[] =>
	[before[segment], after[segment]].flatMap((code) => (code < 0 ? (ends.get(-1 - code) ?? []) : []));

/** Lines end where their junctions are to be, as far as that is said; written over the segments. */
export function moveJunctions(net: Net, placeOf: (junction: number) => Point | undefined): void {
	for (const [junction, ends] of endsOf(courseOf(net))) {
		const to = placeOf(junction);
		if (!to) continue;
		for (const { segment, leaves } of ends) net.segs.set([to.x, to.y], STRIDE * segment + (leaves ? 0 : 6));
	}
}

/** A segment, those before it and those after it on its line. */
export function around({ before, after }: Course, segment: number, steps: number): number[] {
	const out = [segment];
	for (const way of [before, after])
		for (let k = way[segment], d = 0; k >= 0 && d < steps; d++, k = way[k]) out.push(k);
	return out;
}

/** Some segments of a net as a net of their own, and which each was there: lines end where they are cut. */
export function partOf(net: Net, isWanted: ArrayLike<number>): { net: Net; of: number[] } {
	const { before, after, line } = courseOf(net);
	const of: number[] = [];
	const lines: NetLine[] = [];
	let cuts = 1 + Math.max(0, ...net.lines.map(({ start, end }) => Math.max(start, end)));
	const isFirst = (k: number) => before[k] < 0 || !isWanted[before[k]];
	const gone = new Uint8Array(net.types.length);
	/** A run from one segment on, to where the line is cut or ends, or once round. */
	const run = (first: number, start: number) => {
		let count = 0;
		let k = first;
		for (; k >= 0 && isWanted[k] && !gone[k]; k = after[k], count++) {
			gone[k] = 1;
			of.push(k);
		}
		const isRound = start < 0;
		lines.push({ ...net.lines[line[first]], count, start, end: isRound ? -1 : k < 0 ? -1 - k : cuts++ });
	};
	for (let k = 0; k < net.types.length; k++)
		if (isWanted[k] && isFirst(k)) run(k, before[k] < 0 ? -1 - before[k] : cuts++);
	// What is left goes round.
	for (let k = 0; k < net.types.length; k++) if (isWanted[k] && !gone[k]) run(k, -1);
	const segs = new Float64Array(STRIDE * of.length);
	of.forEach((k, i) => segs.set(net.segs.subarray(STRIDE * k, STRIDE * k + STRIDE), STRIDE * i));
	return { net: { types: Uint8Array.from(of, (k) => net.types[k]), segs, lines }, of };
}
