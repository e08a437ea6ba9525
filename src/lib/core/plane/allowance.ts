/**
 * Closed lines grown by a width that may differ from edge to edge: each edge's own parallel, and where two edges meet the
 * parallels prolonged straight along their end tangents, or cut back, to where they meet nearest to the corner.
 */
import { CoreError, done, failed, type Result } from '../errors';
import { stretchBetween } from '../geometry/join';
import { pathArea } from '../geometry/measure';
import { segmentMeetings } from '../geometry/meetings';
import { mirrorAt, placed } from '../geometry/maps';
import {
	PathBuilder,
	polygonPath,
	reversePath,
	STRAIGHT,
	STRIDE,
	transformPath,
	type Path
} from '../geometry/path';
import type { Point } from '../geometry/point';
import { directionAt, pointAt, segmentLength } from '../geometry/segment';
import { fitPoints } from '../fit/fit-points';
import { mergeStraights } from '../geometry/straights';
import { TOLERANCE } from '../tolerance';
import { goesByWider, type AllowanceCorner } from './allowance-corners';
import { withPlainStraights } from './segment-set';
import { coveredOutlines } from './combine';
import { offsetPieces } from './offset';
import { offsetLine } from './offset-line';

/** One edge of a closed line, from corner to corner, and the width outside of it. */
export interface AllowanceEdge {
	/** Where it begins and how many segments it has; edges follow each other round the line. */
	readonly first: number;
	readonly count: number;
	/** mm, >= 0; at its start, where it is another at its end. */
	readonly width: number;
	readonly widthEnd?: number;
}

export interface AllowanceOptions {
	readonly corner: AllowanceCorner;
	/** How far a mitred corner may reach from the corner, in widths; farther ones are bevelled. */
	readonly miterLimit?: number;
	/** mm, > 0. */
	readonly tolerance?: number;
	/** Hold offsets against an independent reckoning (default); without it, it is for the eye alone. */
	readonly verify?: boolean;
}

/** In widths: sharper mitres than this would be thorns. */
export const ALLOWANCE_MITER = 10;

/**
 * The outline of the piece and its allowance. Which side is outside, the line's own turning says: a line that runs
 * clockwise is the outline of a hole, into which its allowance grows where `into` is set.
 *
 * @param edges all edges of the line in order; together they have all its segments.
 * @returns closed outlines that run as the line does, or `open-outline`, `bad-width`, `offset-failed`, `nothing-left`.
 */
export function allowance(
	given: Path,
	edges: readonly AllowanceEdge[],
	options: AllowanceOptions,
	into = false
): Result<Path[]> {
	if (!given.closed)
		return failed('open-outline', 'An open line has no inside. Close it, then give it an allowance.');
	const holds = (mm: number) => mm >= 0 && mm <= 10_000;
	if (!edges.every((e) => holds(e.width) && holds(e.widthEnd ?? 0)))
		return failed('bad-width', 'An allowance must be 0 mm or more.');
	const path = withPlainStraights(given);
	const area = pathArea(path);
	// Outside is to the right of a line that runs anticlockwise; into a hole, to its other side.
	const outward = area > 0 !== into;
	if (edges.length === 1 && edges[0].widthEnd === undefined && isSmoothClosed(path, edges[0]))
		return allRound(path, edges[0].width, into, options, area > 0);
	const runs: Path[] = [];
	for (const edge of edges) {
		const line = stretchBetween(path, edge.first, edge.first + edge.count);
		const tolerance = options.tolerance ?? TOLERANCE.fit;
		const { width, widthEnd = width } = edge;
		const run =
			width === widthEnd
				? parallel(line, width, outward, tolerance)
				: done(tapered(line, width, widthEnd, outward, tolerance));
		if (!run.ok) return run;
		runs.push(run.value);
	}
	try {
		const loop = tied(path, edges, runs, outward, options);
		// Wound as the piece is: what the parallels wind around is piece and allowance; loops the other way are gone.
		const isLeft = pathArea(loop) > 0;
		const covered = coveredOutlines([loop], area > 0 ? 'positive' : 'negative').filter(
			(p) => pathArea(p) > 0
		);
		if (covered.length === 0 || isLeft !== area > 0)
			return failed('nothing-left', 'Nothing is left at these widths. Use smaller ones.');
		// A parallel and its prolongation are one straight.
		return done(covered.map((p) => mergeStraights(area > 0 ? p : reversePath(p))));
	} catch (error) {
		if (!(error instanceof CoreError)) throw error;
		return failed(
			'offset-failed',
			'This allowance could not be made reliably. Simplify the line and try again.'
		);
	}
}

/** Whether the only edge of a line begins and ends smoothly: then there is no corner at all. */
function isSmoothClosed(path: Path, edge: AllowanceEdge): boolean {
	const last = (edge.first + edge.count - 1) % path.types.length;
	const a = directionAt(path.types[last], path.segs, STRIDE * last, 1);
	const b = directionAt(path.types[edge.first], path.segs, STRIDE * edge.first, 0);
	return a.x * b.x + a.y * b.y > SMOOTH;
}
/** Cosine of the turn below which the start of a line is no corner: 1 degree. */
const SMOOTH = Math.cos(Math.PI / 180);

function allRound(
	path: Path,
	width: number,
	into: boolean,
	{ corner, miterLimit, tolerance, verify }: AllowanceOptions,
	isLeft: boolean
): Result<Path[]> {
	if (width === 0) return done([path]);
	const made = offsetPieces([path], {
		distance: into ? -width : width,
		join: goesByWider(corner) ? 'miter' : corner,
		miterLimit: miterLimit ?? ALLOWANCE_MITER,
		tolerance,
		verify
	});
	if (!made.ok) return made;
	// The outermost alone: what closes up inside is allowance.
	const paths = into ? made.value.paths : made.value.paths.filter((p) => pathArea(p) > 0);
	return done(isLeft ? paths : paths.map(reversePath));
}

/** The parallel of an edge, running as it does. Where it is cut up, its runs one after the other. */
function parallel(line: Path, width: number, right: boolean, tolerance: number): Result<Path> {
	if (width === 0) return done(line);
	const made = offsetLine(line, {
		distance: width,
		join: 'round',
		side: right ? 'right' : 'left',
		tolerance: 0.8 * tolerance
	});
	if (!made.ok) return made;
	const runs = made.value.paths.map((run) => (runsAlong(run, line) ? run : reversePath(run)));
	const builder = new PathBuilder(runs[0].segs[0], runs[0].segs[1]);
	for (const run of runs) builder.line(run.segs[0], run.segs[1]).along(run);
	return done(builder.open());
}

/** Places of a segment at which a tapering width is put beside it. */
const TAPER_PARTS = 24;

/** A line beside an edge whose distance changes evenly along its length, within the tolerance. */
function tapered(line: Path, from: number, to: number, right: boolean, tolerance: number): Path {
	const n = line.types.length;
	const lengths = Array.from(line.types, (type, i) => segmentLength(type, line.segs, STRIDE * i));
	const whole = lengths.reduce((a, b) => a + b, 0) || 1;
	const side = right ? -1 : 1;
	const aside = (i: number, t: number, share: number): Point => {
		const p = pointAt(line.types[i], line.segs, STRIDE * i, t);
		const d = directionAt(line.types[i], line.segs, STRIDE * i, t);
		const width = side * (from + (to - from) * share);
		return { x: p.x - d.y * width, y: p.y + d.x * width };
	};
	const points: number[] = [];
	let before = 0;
	let isStraight = true;
	for (let i = 0; i < n; i++) {
		const parts = line.types[i] === STRAIGHT ? 1 : TAPER_PARTS;
		if (parts > 1) isStraight = false;
		for (let k = 0; k < parts; k++) {
			const t = k / parts;
			const share = (before + segmentLength(line.types[i], line.segs, STRIDE * i, 0, t)) / whole;
			const p = aside(i, t, share);
			points.push(p.x, p.y);
		}
		before += lengths[i];
	}
	const end = aside(n - 1, 1, 1);
	points.push(end.x, end.y);
	return isStraight ? polygonPath(points, false) : fitPoints(points, false, tolerance);
}

/** Whether a parallel runs from its line's start to its end. */
function runsAlong(run: Path, line: Path): boolean {
	const [s, l] = [run.segs, line.segs];
	const e = s.length - 2;
	const f = l.length - 2;
	const apart = (i: number, j: number) => Math.hypot(s[i] - l[j], s[i + 1] - l[j + 1]);
	return apart(0, 0) + apart(e, f) <= apart(0, f) + apart(e, 0);
}

/** What joins two parallels at a corner: how much of either stays, and what lies between. */
interface Tie {
	/** Where the one before ends and the one after begins, as segment + t; the whole where undefined. */
	readonly end?: number;
	readonly begin?: number;
	/** Places to go through between the two, and an arc (bulge) to the last of them where it is one. */
	readonly by: readonly { readonly x: number; readonly y: number; readonly bulge?: number }[];
	/** The line from the first to the last of those, where it is none of straights. */
	readonly via?: Path;
}

function tied(
	path: Path,
	edges: readonly AllowanceEdge[],
	runs: readonly Path[],
	outward: boolean,
	options: AllowanceOptions
): Path {
	const n = edges.length;
	const ties = runs.map((run, i): Tie => {
		const next = runs[(i + 1) % n];
		const at = STRIDE * edges[(i + 1) % n].first;
		const corner = { x: path.segs[at], y: path.segs[at + 1] };
		const [before, after] = [edges[i].widthEnd ?? edges[i].width, edges[(i + 1) % n].width];
		const { corner: form } = options;
		if (goesByWider(form) && Math.abs(before - after) > TOLERANCE.coincidence) {
			const special =
				before > after
					? overSeam(run, next, corner, form)
					: flipped(overSeam(reversePath(next), reversePath(run), corner, form), run, next);
			if (special) return special;
		}
		return tieAt(run, next, corner, Math.max(before, after), outward, options);
	});
	const builders: { builder?: PathBuilder } = {};
	const go = (x: number, y: number) => {
		if (builders.builder) builders.builder.line(x, y);
		else builders.builder = new PathBuilder(x, y);
	};
	runs.forEach((run, i) => {
		const begin = ties[(i + n - 1) % n].begin ?? 0;
		const end = ties[i].end ?? run.types.length;
		if (end > begin) {
			const part = stretchBetween(run, begin, end);
			if (part.types.length) {
				go(part.segs[0], part.segs[1]);
				builders.builder!.along(part);
			}
		}
		const { via } = ties[i];
		if (via?.types.length) {
			go(via.segs[0], via.segs[1]);
			builders.builder!.along(via);
			return;
		}
		for (const p of ties[i].by) {
			if (p.bulge !== undefined && builders.builder) builders.builder.arc(p.bulge, p.x, p.y);
			else go(p.x, p.y);
		}
	});
	return builders.builder!.close(TOLERANCE.coincidence);
}

/**
 * The corner at the end of the wider edge `a`: where its parallel is left for the line that crosses the seam, where that meets
 * the parallel of `b`, and how; undefined where they do not meet so.
 */
function overSeam(a: Path, b: Path, corner: Point, form: 'fold' | 'square' | 'step'): Tie | undefined {
	const e = a.segs.length - 2;
	const d = directionAt(a.types[a.types.length - 1], a.segs, a.segs.length - STRIDE, 1);
	const long =
		FAR * (Math.hypot(a.segs[e] - corner.x, a.segs[e + 1] - corner.y) + 1) + pathReach(a) + pathReach(b);
	const through = (p: Point, v: Point): Path =>
		new PathBuilder(p.x - v.x * long, p.y - v.y * long)
			.line(p.x, p.y)
			.line(p.x + v.x * long, p.y + v.y * long)
			.open();
	const square = { x: -d.y, y: d.x };
	// Where the smaller allowance comes to the seam, or to the line square to it.
	const at = nearestMeeting(through(corner, form === 'square' ? square : d), withEnds(b, long), corner, true);
	if (!at) return undefined;
	const begin = at.b > 1 ? at.b - 1 : undefined;
	const from = { x: at.x, y: at.y };
	const side = form === 'fold' ? mirrored(b, Math.max(0, at.b - 1), from, d, long) : through(from, square);
	const up = nearestMeeting(withEnds(a, long), side, from, true);
	if (!up) return undefined;
	const end = up.a - 1 < a.types.length ? Math.max(0, up.a - 1) : undefined;
	const via = form === 'fold' && up.b > 0 ? reversePath(stretchBetween(side, 0, up.b)) : undefined;
	return {
		...(end === undefined ? {} : { end }),
		...(begin === undefined ? {} : { begin }),
		by: [{ x: up.x, y: up.y }, from],
		...(via ? { via } : {})
	};
}

/** The mirror image of a line from a place on, at the fold that runs through there along `d`; from there outwards, prolonged. */
function mirrored(b: Path, own: number, from: Point, d: Point, long: number): Path {
	const map = mirrorAt((Math.atan2(d.y, d.x) * 180) / Math.PI, from.x, from.y);
	const rest = own < b.types.length ? transformPath(stretchBetween(b, own, b.types.length), map) : undefined;
	const g = directionAt(b.types[0], b.segs, 0, 0);
	const along = g.x * d.x + g.y * d.y;
	const builder = new PathBuilder(from.x, from.y);
	// Before it begins, it is prolonged straight.
	if (own <= 0) {
		const start = placed(map, b.segs[0], b.segs[1]);
		if (Math.hypot(start.x - from.x, start.y - from.y) > TOLERANCE.coincidence)
			builder.line(start.x, start.y);
	}
	if (rest) builder.along(rest);
	const n = b.types.length - 1;
	const h = directionAt(b.types[n], b.segs, STRIDE * n, 1);
	const ahead = h.x * d.x + h.y * d.y;
	const last = rest
		? { x: 2 * ahead * d.x - h.x, y: 2 * ahead * d.y - h.y }
		: { x: 2 * along * d.x - g.x, y: 2 * along * d.y - g.y };
	const path = builder.open();
	const e = path.segs.length - 2;
	const end = path.types.length ? { x: path.segs[e], y: path.segs[e + 1] } : from;
	return new PathBuilder(from.x, from.y)
		.along(path)
		.line(end.x + last.x * long, end.y + last.y * long)
		.open();
}

/** A corner that was found going the other way round. */
function flipped(tie: Tie | undefined, a: Path, b: Path): Tie | undefined {
	if (!tie) return undefined;
	return {
		...(tie.begin === undefined ? {} : { end: a.types.length - tie.begin }),
		...(tie.end === undefined ? {} : { begin: b.types.length - tie.end }),
		by: [...tie.by].reverse(),
		...(tie.via ? { via: reversePath(tie.via) } : {})
	};
}

function tieAt(
	a: Path,
	b: Path,
	corner: Point,
	width: number,
	outward: boolean,
	options: AllowanceOptions
): Tie {
	const e = a.segs.length - 2;
	const p = { x: a.segs[e], y: a.segs[e + 1] };
	const q = { x: b.segs[0], y: b.segs[1] };
	const d = directionAt(a.types[a.types.length - 1], a.segs, a.segs.length - STRIDE, 1);
	const g = directionAt(b.types[0], b.segs, 0, 0);
	if (Math.hypot(p.x - q.x, p.y - q.y) <= TOLERANCE.coincidence) return { by: [] };
	const turn = d.x * g.y - d.y * g.x;
	const isOuter = outward ? turn > 0 : turn < 0;
	const long = FAR * (width + Math.hypot(p.x - q.x, p.y - q.y)) + pathReach(a) + pathReach(b);
	const meeting = nearestMeeting(withEnds(a, long), withEnds(b, long), corner);
	if (!meeting) return { by: [q] };
	const own = a.types.length;
	// On the parallel itself: cut back there. Beyond it: prolonged.
	const end = meeting.a - 1 < own ? Math.max(0, meeting.a - 1) : undefined;
	const begin = meeting.b > 1 ? meeting.b - 1 : undefined;
	const isProlonged = end === undefined && begin === undefined;
	const reach = Math.hypot(meeting.x - corner.x, meeting.y - corner.y);
	const { corner: form } = options;
	if (!isProlonged || !isOuter || (form !== 'bevel' && form !== 'round')) {
		const limit = (options.miterLimit ?? ALLOWANCE_MITER) * Math.max(width, TOLERANCE.coincidence);
		return reach > limit && isProlonged ? { by: [q] } : { end, begin, by: [meeting] };
	}
	if (form === 'bevel') return { by: [q] };
	return { by: roundTie(p, q, meeting, d, g) };
}

/** In widths: how far a parallel is prolonged to look for its neighbour's. */
const FAR = 40;

/** Half the size of a path's box, roughly: parallels may meet that far away. */
function pathReach(path: Path): number {
	const s = path.segs;
	return Math.hypot(s[s.length - 2] - s[0], s[s.length - 1] - s[1]);
}

/** The largest arc that touches both prolonged parallels and begins at the end of the nearer one. */
function roundTie(p: Point, q: Point, m: Point, d: Point, g: Point): Tie['by'] {
	const tangent = Math.min(Math.hypot(m.x - p.x, m.y - p.y), Math.hypot(m.x - q.x, m.y - q.y));
	const from = { x: m.x - d.x * tangent, y: m.y - d.y * tangent };
	const to = { x: m.x + g.x * tangent, y: m.y + g.y * tangent };
	const sweep = Math.atan2(d.x * g.y - d.y * g.x, d.x * g.x + d.y * g.y);
	return [from, { ...to, bulge: Math.tan(sweep / 4) }, q];
}

/** A line with a straight before and behind it along its end tangents. */
function withEnds(path: Path, by: number): Path {
	const s = path.segs;
	const n = path.types.length;
	const d = directionAt(path.types[0], s, 0, 0);
	const g = directionAt(path.types[n - 1], s, STRIDE * (n - 1), 1);
	const e = s.length - 2;
	return new PathBuilder(s[0] - d.x * by, s[1] - d.y * by)
		.line(s[0], s[1])
		.along(path)
		.line(s[e] + g.x * by, s[e + 1] + g.y * by)
		.open();
}

/**
 * Where the second half of one line meets the first half of another, nearest to a place; as segment + t on both.
 * @param all the whole of both.
 */
function nearestMeeting(
	a: Path,
	b: Path,
	near: Point,
	all = false
): { readonly a: number; readonly b: number; readonly x: number; readonly y: number } | undefined {
	let best: { a: number; b: number; x: number; y: number } | undefined;
	let least = Infinity;
	for (let i = a.types.length - 1; i >= (all ? 0 : 1); i--) {
		for (let j = 0; j < b.types.length - (all ? 0 : 1); j++) {
			for (const m of segmentMeetings(a.types[i], a.segs, STRIDE * i, b.types[j], b.segs, STRIDE * j)) {
				const off = Math.hypot(m.x - near.x, m.y - near.y);
				if (off < least - TOLERANCE.coincidence) {
					least = off;
					best = { a: i + m.t, b: j + m.u, x: m.x, y: m.y };
				}
			}
		}
	}
	return best;
}
