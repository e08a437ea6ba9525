/** Which pixels lie beside lines, where on them they are nearest, and on which side their middles lie. */
import type { Line } from './line';
import { STRIDE } from '../../geometry/path';
import { segmentLength } from '../../geometry/segment';

/** The pixels beside lines. */
export interface Beside {
	readonly count: number;
	/** Their middles, px. */
	readonly x: Float64Array;
	readonly y: Float64Array;
	/** The segment and the place on it that was last found nearest. */
	readonly segment: Int32Array;
	readonly t: Float64Array;
	/** All segments that pass so near: the number of the first in `passing`, or -1. */
	readonly passed: Int32Array;
	readonly passing: Passing;
	/** px of each segment beside which pixels are asked. */
	readonly along: Float64Array;
}

/** Segments that pass by pixels, those of one linked by number; and about where on each that is nearest. */
export interface Passing {
	readonly segment: readonly number[];
	readonly t: readonly number[];
	/** The next by the same pixel, or -1. */
	readonly next: readonly number[];
}

/** px between the places of lines from which pixels are looked for. */
const STEP = 0.8;

/** Squares of a picture, where not all of it is asked. */
export type Squares = ReadonlySet<number>;

/** px */
const SQUARE = 16;
const squareOf = (x: number, y: number): number => Math.floor(y / SQUARE) * ROW + Math.floor(x / SQUARE);

/**
 * Squares in which lines can be told where they are long: those about the ends of segments, and of those between one in so many.
 */
export function fewSquares(line: Line, oneIn: number): Squares {
	const { types, segs } = line.net;
	const squares = new Set<number>();
	let last = NaN;
	let passed = 0;
	for (let k = 0; k < types.length; k++) {
		const length = segmentLength(types[k], segs, STRIDE * k);
		const steps = Math.max(1, Math.ceil((4 * length) / SQUARE));
		for (let i = 0; i <= steps; i++) {
			line.go(k, i / steps);
			const square = squareOf(line.x, line.y);
			if (square !== last) passed++;
			last = square;
			const isByEnd = Math.min(i, steps - i) * length < BY_END * steps;
			if (isByEnd || passed % oneIn === 0) squares.add(square);
		}
	}
	return squares;
}
/** px from an end of a segment within which all is asked. */
const BY_END = 16;

/**
 * All pixels whose middles lie within `reach` px of the lines.
 * @param isMeant of which segments; of all where nothing is said.
 * @param squares where else nothing is asked.
 */
export function pixelsBeside(
	line: Line,
	reach: number,
	isMeant?: ArrayLike<number>,
	squares?: Squares
): Beside {
	const { types, segs } = line.net;
	const along = new Float64Array(types.length);
	const known = new Map<number, number>();
	const [x, y, passed]: number[][] = [[], [], []];
	const by: { segment: number[]; t: number[]; sq: number[]; next: number[] } = {
		segment: [],
		t: [],
		sq: [],
		next: []
	};
	const around = Math.ceil(reach + STEP / 2);
	const most = (reach + STEP / 2) ** 2;
	const isAsked = () => !squares || squares.has(squareOf(line.x, line.y));
	/** Whether a square that is asked begins so near. */
	const isBySquare = ({ x: px, y: py }: Line) =>
		squares!.has(squareOf(px - around, py - around)) ||
		squares!.has(squareOf(px + around + 1, py - around)) ||
		squares!.has(squareOf(px - around, py + around + 1)) ||
		squares!.has(squareOf(px + around + 1, py + around + 1));
	/** The pixels about where the line is, which passes them there. */
	const pass = (isNew: boolean) => {
		const column = Math.floor(line.x);
		const row = Math.floor(line.y);
		for (let cy = row - around; cy <= row + around; cy++)
			for (let cx = column - around; cx <= column + around; cx++) {
				const d = (cx + 0.5 - line.x) ** 2 + (cy + 0.5 - line.y) ** 2;
				if (d > most) continue;
				const key = cy * ROW + cx;
				let at = known.get(key);
				if (at === undefined) {
					if (!isNew) continue;
					at = x.push(cx + 0.5) - 1;
					y.push(cy + 0.5);
					passed.push(-1);
					known.set(key, at);
				}
				let last = passed[at];
				while (last >= 0 && by.segment[last] !== line.k) last = by.next[last];
				if (last < 0) {
					by.next.push(passed[at]);
					last = by.segment.push(line.k) - 1;
					by.t.push(0);
					by.sq.push(Infinity);
					passed[at] = last;
				}
				if (d >= by.sq[last]) continue;
				by.sq[last] = d;
				by.t[last] = line.t;
			}
	};
	// First what is asked, then what else passes there.
	for (const isNew of squares ? [true, false] : [true])
		for (let k = 0; k < types.length; k++) {
			if (isMeant && !isMeant[k]) continue;
			const length = segmentLength(types[k], segs, STRIDE * k);
			const steps = Math.max(1, Math.ceil(length / STEP));
			for (let i = 0; i <= steps; i++) {
				line.go(k, i / steps);
				if (isNew !== isAsked()) continue;
				if (isNew) along[k] += length / (steps + 1);
				else if (!isBySquare(line)) continue;
				pass(isNew);
			}
		}
	const nearest = passed.map((last) => {
		let least = last;
		// Of two as near the first.
		for (let p = last; p >= 0; p = by.next[p]) if (by.sq[p] <= by.sq[least]) least = p;
		return least;
	});
	return {
		count: x.length,
		x: Float64Array.from(x),
		y: Float64Array.from(y),
		segment: Int32Array.from(nearest, (p) => by.segment[p]),
		t: Float64Array.from(nearest, (p) => by.t[p]),
		passed: Int32Array.from(passed),
		passing: by,
		along
	};
}
/** Pixels in a row of their numbers: more than a picture has. */
const ROW = 1 << 20;

/** px from pixel i to the lines, looked for from where they were nearest last; the line is there then. */
export function nearestAgain(line: Line, beside: Beside, i: number): number {
	const { before, after } = line.course;
	const x = beside.x[i];
	const y = beside.y[i];
	let k = beside.segment[i];
	let off = line.nearest(k, beside.t[i], x, y);
	let t = line.found;
	// At an end the next segment may be nearer.
	for (let tries = 0; tries < 2 && (t === 0 || t === 1); tries++) {
		const next = t === 0 ? before[k] : after[k];
		const there = next < 0 ? Infinity : line.nearest(next, t === 0 ? 1 : 0, x, y);
		if (!(there < off - 1e-12)) break;
		k = next;
		off = there;
		t = line.found;
	}
	line.go(k, t);
	beside.segment[i] = k;
	beside.t[i] = t;
	return off;
}

/** In a picture, y down, what lies on the left hand of where a line goes. */
const isLeft = (line: Line, dx: number, dy: number, x: number, y: number): boolean =>
	(x - line.x) * dy - (y - line.y) * dx >= 0;

/** 1 where a place lies on the left of the lines where they are nearest, -1 on the right. The line stays where it is. */
export function sideOf(line: Line, x: number, y: number): 1 | -1 {
	const { k, t } = line;
	const next = t > 0 && t < 1 ? -1 : t === 0 ? line.course.before[k] : line.course.after[k];
	const here = isLeft(line, line.dx, line.dy, x, y);
	if (next < 0) return here ? 1 : -1;
	line.go(next, 1 - t);
	const [ox, oy] = [line.dx, line.dy];
	line.go(k, t);
	const turn = t === 0 ? ox * line.dy - oy * line.dx : line.dx * oy - line.dy * ox;
	const other = isLeft(line, ox, oy, x, y);
	return (turn < 0 ? here && other : here || other) ? 1 : -1;
}

/** Radians to the left where segment k begins; nothing where that is a junction. */
export function turnAt(line: Line, k: number): number | undefined {
	const last = line.course.before[k];
	if (last < 0) return undefined;
	line.go(last, 1);
	const { dx, dy } = line;
	line.go(k, 0);
	return Math.atan2(dx * line.dy - dy * line.dx, dx * line.dx + dy * line.dy);
}

/** On which ground a place lies, by where the lines are nearest to it. The line stays where it is. */
export function groundAt(line: Line, x: number, y: number): number {
	const { k, t, course } = line;
	const end = t === 0 ? course.before[k] : t === 1 ? course.after[k] : 0;
	if (end >= 0) {
		const { left, right } = line.net.lines[course.line[k]];
		return sideOf(line, x, y) > 0 ? left : right;
	}
	// About a junction each line that leaves it has its left ground up to the next, as angles go back.
	const [jx, jy] = [line.x, line.y];
	const angle = Math.atan2(y - jy, x - jx);
	let nearest = Infinity;
	let ground = 0;
	for (const { segment, leaves } of line.endsAt(-1 - end)) {
		line.go(segment, leaves ? 0 : 1);
		const way = Math.atan2(leaves ? line.dy : -line.dy, leaves ? line.dx : -line.dx);
		const turn = way - angle - 2 * Math.PI * Math.floor((way - angle) / (2 * Math.PI));
		if (turn >= nearest) continue;
		nearest = turn;
		const { left, right } = line.net.lines[course.line[segment]];
		ground = leaves ? left : right;
	}
	line.go(k, t);
	return ground;
}
