/**
 * The outline of a line that has a width: the same all along, or one that changes from anchor to anchor. What it covers lies
 * square to the line within half the width there, and in the joins at corners and the ends.
 */
import { CoreError, done, failed, type Result } from '../errors';
import { fitFunction } from '../fit/function';
import { refit } from '../fit/refit';
import { startAt, stretchBetween } from '../geometry/join';
import { pathArea } from '../geometry/measure';
import { ARC, PathBuilder, reversePath, STRAIGHT, STRIDE, type Path } from '../geometry/path';
import type { Point } from '../geometry/point';
import { curvatureAt, directionAt, pointAt, segmentLength } from '../geometry/segment';
import { mergeStraights } from '../geometry/straights';
import { TOLERANCE } from '../tolerance';
import { coveredOutlines } from './combine';
import type { EndKind } from './offset-raw';
import { offsetSteps } from './offset-steps';
import type { JoinKind } from './offset-strips';
import { orientPieces } from './pieces';
import type { Taper, WidthAt } from './tapers';

export interface BandOptions {
	/** mm, >= 0, of all that says nothing else. */
	readonly width: number;
	/** In the order of the anchors, each once. */
	readonly widths?: readonly WidthAt[];
	readonly taper: Taper;
	readonly join: JoinKind;
	/** How far a mitred corner may reach, in half widths; farther ones are bevelled. */
	readonly miterLimit?: number;
	/** Of an open line. */
	readonly ends: EndKind;
	/** mm, > 0. */
	readonly tolerance?: number;
	/** Hold bands of one width against an independent reckoning (default); without it, it is for the eye alone. */
	readonly verify?: boolean;
}

/** In half widths. */
const MITER = 4;

/**
 * The closed outlines of the band, solids anticlockwise, holes clockwise. Where the width is 0 the band is parted there.
 * @returns them, or `bad-width`, `nothing-left`, `band-failed`.
 */
export function band(given: Path, options: BandOptions): Result<Path[]> {
	const { width, widths = [], join, ends, miterLimit = MITER, tolerance = TOLERANCE.fit } = options;
	const said = [width, ...widths.flatMap(({ before, after }) => [before ?? width, after ?? width])];
	if (!said.every((mm) => mm >= 0 && mm <= 10_000))
		return failed('bad-width', 'The width of a band must be 0 mm or more.');
	if (given.types.length === 0 || said.every((mm) => mm === 0))
		return failed('nothing-left', 'The band has no width anywhere.');
	if (said.every((mm) => mm === width)) {
		const { verify } = options;
		const one = {
			distance: width / 2,
			way: 'both',
			side: 'both',
			join,
			miterLimit,
			ends,
			tolerance
		} as const;
		const made = offsetSteps([given], { ...one, verify });
		return made.ok ? done(orientPieces(made.value.paths)) : made;
	}
	const { line, knots } = knotted(given, options);
	try {
		const left = sideOf(line, knots, options, 1);
		const right = sideOf(line, knots, options, -1);
		const half = knots[0].after / 2;
		const seam = { join, miterLimit, half };
		const loops = line.closed
			? [closedLoop(left, line, 1, seam), reversePath(closedLoop(right, line, -1, seam))]
			: [capped(left, reversePath(right), ends, half, knots[knots.length - 1].before / 2)];
		const covered = coveredOutlines(loops, 'nonzero').filter((path) => Math.abs(pathArea(path)) > CRUMB);
		if (covered.length === 0) return failed('nothing-left', 'Nothing is left of the band.');
		return done(covered.map(mergeStraights));
	} catch (error) {
		if (!(error instanceof CoreError)) throw error;
		return failed(
			'band-failed',
			'This band could not be made reliably. Simplify the line, or change the width.'
		);
	}
}

/** mm²: what the rounding of a meeting leaves. */
const CRUMB = 1e-6;

/** A place of the line at which the width is known. */
interface Knot {
	/** As a number of segments. */
	readonly at: number;
	/** mm along the line. */
	readonly length: number;
	/** mm. */
	readonly before: number;
	readonly after: number;
}

/** The line, begun at a place where the width is said where it is closed, and all places where it is known, the ends among them. */
function knotted(
	given: Path,
	{ width, widths = [] }: Pick<BandOptions, 'width' | 'widths'>
): { line: Path; knots: Knot[] } {
	const n = given.types.length;
	const first = given.closed ? (widths[0]?.at ?? 0) : 0;
	const line = first ? startAt(given, { segment: first, t: 0 }) : given;
	const lengths = [0];
	for (let i = 0; i < n; i++) lengths.push(lengths[i] + segmentLength(line.types[i], line.segs, STRIDE * i));
	const at = new Map(widths.map((w) => [given.closed ? (w.at - first + n) % n : w.at, w]));
	const ends = at.get(0);
	const knots: Knot[] = [];
	for (let i = 0; i <= n; i++) {
		const own = given.closed && i === n ? ends : at.get(i);
		if (!own && i !== 0 && i !== n) continue;
		knots.push({
			at: i,
			length: lengths[i],
			before: own?.before ?? width,
			after: own?.after ?? width
		});
	}
	return { line, knots };
}

/** The width where a segment begins and where it ends, mm. */
export function widthsAlong(
	given: Path,
	options: Pick<BandOptions, 'width' | 'widths' | 'taper'>,
	segment: number
): { readonly from: number; readonly to: number } {
	const { line, knots } = knotted(given, options);
	const n = given.types.length;
	const first = given.closed ? (options.widths?.[0]?.at ?? 0) : 0;
	const i = Math.min(n - 1, (segment - first + n) % n);
	let k = 0;
	while (knots[k + 1].at <= i) k++;
	const [knot, next] = [knots[k], knots[k + 1]];
	let length = knot.length;
	for (let j = knot.at; j < i; j++) length += segmentLength(line.types[j], line.segs, STRIDE * j);
	const end = length + segmentLength(line.types[i], line.segs, STRIDE * i);
	const at = (mm: number) => 2 * halfAt(knot, next, options.taper, mm);
	return { from: at(length), to: i + 1 === next.at && options.taper !== 'steps' ? next.before : at(end) };
}

/** Half the width at a length within the stretch behind a knot. */
function halfAt(knot: Knot, next: Knot, taper: Taper, length: number): number {
	if (taper === 'steps' || next.length === knot.length) return knot.after / 2;
	const t = Math.min(1, Math.max(0, (length - knot.length) / (next.length - knot.length)));
	const share = taper === 'eased' ? t * t * (3 - 2 * t) : t;
	return (knot.after + (next.before - knot.after) * share) / 2;
}

/** Looks a segment is parted into to find where its side turns back. */
const LOOKS = 48;

/** The line beside a line at half its width, from its start to its end. */
function sideOf(line: Path, knots: readonly Knot[], options: BandOptions, side: 1 | -1): Path {
	const { taper, join, miterLimit = MITER, tolerance = TOLERANCE.fit } = options;
	const n = line.types.length;
	let builder: PathBuilder | undefined;
	/** What runs smoothly up to here, and where it goes on. */
	let smooth: Path[] = [];
	const goTo = (x: number, y: number) => {
		if (!builder) builder = new PathBuilder(x, y);
		else if (Math.hypot(builder.endX - x, builder.endY - y) > TOLERANCE.coincidence) builder.line(x, y);
	};
	const flush = () => {
		if (smooth.length === 0) return;
		const run = new PathBuilder(smooth[0].segs[0], smooth[0].segs[1]);
		for (const part of smooth) run.along(part);
		const path =
			smooth.length > 1 ? refit(run.open(), { tolerance: tolerance / 2, keepLength: 0 }) : smooth[0];
		goTo(path.segs[0], path.segs[1]);
		builder!.along(path);
		smooth = [];
	};
	const go = (p: Point) => {
		flush();
		goTo(p.x, p.y);
	};
	let k = 0;
	let before = 0;
	for (let i = 0; i < n; i++) {
		const type = line.types[i];
		const at = STRIDE * i;
		const isKnot = k + 1 < knots.length && knots[k + 1].at === i;
		if (isKnot) k++;
		const [knot, next] = [knots[k], knots[k + 1]];
		const start = before;
		const half = (t: number) =>
			halfAt(knot, next, taper, start + (t === 0 ? 0 : segmentLength(type, line.segs, at, 0, t)));
		const beside = (t: number): Point => {
			const p = pointAt(type, line.segs, at, t);
			const d = directionAt(type, line.segs, at, t);
			const h = side * half(t);
			return { x: p.x - d.y * h, y: p.y + d.x * h };
		};
		if (i > 0) {
			const turned = turnsAt(line, i - 1, i);
			if (Math.abs(turned) > SMOOTH_TURN) {
				flush();
				const corner = pointAt(type, line.segs, at, 0);
				// On the outer side there is a gap to be joined; on the inner one the line goes through the corner.
				if (builder && turned * side < 0)
					joined(builder, line, i, corner, beside(0), { join, miterLimit, half: half(0) });
				else go(corner);
			} else if (Math.abs(knot.before - knot.after) > TOLERANCE.coincidence && isKnot) flush();
		}
		for (const [from, to, isBack] of backs(type, line.segs, at, half, side)) {
			if (isBack) {
				go(pointAt(type, line.segs, at, from));
				builder!.along(stretchBetween(line, i + from, i + to));
				go(beside(to));
				continue;
			}
			const isPlain = type === STRAIGHT && taper !== 'eased';
			const [a, b] = [beside(from), beside(to)];
			if (isPlain || Math.abs(half(from)) + Math.abs(half(to)) === 0) {
				if (isPlain) smooth.push(new PathBuilder(a.x, a.y).line(b.x, b.y).open());
				else smooth.push(stretchBetween(line, i + from, i + to));
			} else smooth.push(fitFunction(beside, from, to, 0.4 * tolerance));
		}
		before += segmentLength(type, line.segs, at);
	}
	flush();
	return builder!.open();
}

/** Radians. A turn below this is none. */
const SMOOTH_TURN = 1e-3;

/** The turn from one segment into the next, radians, positive to the left. */
function turnsAt(line: Path, before: number, after: number): number {
	const d = directionAt(line.types[before], line.segs, STRIDE * before, 1);
	const g = directionAt(line.types[after], line.segs, STRIDE * after, 0);
	return Math.atan2(d.x * g.y - d.y * g.x, d.x * g.x + d.y * g.y);
}

/** How the outer side goes round a corner; half the width behind it, mm. */
interface Join {
	readonly join: JoinKind;
	readonly miterLimit: number;
	readonly half: number;
}

/** The outer side brought round a corner to where it goes on. */
function joined(
	builder: PathBuilder,
	line: Path,
	i: number,
	corner: Point,
	to: Point,
	{ join, miterLimit, half }: Join
): void {
	const from = { x: builder.endX, y: builder.endY };
	const n = line.types.length;
	const at = (i + n - 1) % n;
	const turned = turnsAt(line, at, i);
	const reach = Math.hypot(from.x - corner.x, from.y - corner.y);
	if (join === 'round' && Math.abs(reach - half) < 1e-9 && half > 0) {
		builder.arc(Math.tan(turned / 4), to.x, to.y);
		return;
	}
	if (join !== 'bevel' && half > 0 && reach > 0) {
		const d = directionAt(line.types[at], line.segs, STRIDE * at, 1);
		const g = directionAt(line.types[i], line.segs, STRIDE * i, 0);
		const det = d.x * g.y - d.y * g.x;
		const along = ((to.x - from.x) * g.y - (to.y - from.y) * g.x) / det;
		const m = { x: from.x + d.x * along, y: from.y + d.y * along };
		const off = Math.hypot(m.x - corner.x, m.y - corner.y);
		if (along >= 0 && off <= miterLimit * Math.max(half, reach)) builder.line(m.x, m.y);
	}
	builder.line(to.x, to.y);
}

/**
 * Stretches of a segment on which its side runs as it does, and those on which it would run back (tighter than half the width),
 * on which the band is bounded by what lies before and behind.
 */
function* backs(
	type: number,
	segs: Float64Array,
	at: number,
	half: (t: number) => number,
	side: 1 | -1
): Generator<[number, number, boolean]> {
	if (type === STRAIGHT) {
		yield [0, 1, false];
		return;
	}
	const room = (t: number) => 1 - side * half(t) * curvatureAt(type, segs, at, t);
	let from = 0;
	let isBack = room(0) <= 0;
	if (type === ARC && half(0) === half(1)) {
		yield [0, 1, isBack];
		return;
	}
	for (let k = 1; k <= LOOKS; k++) {
		if (room(k / LOOKS) <= 0 === isBack) continue;
		let [lo, hi] = [(k - 1) / LOOKS, k / LOOKS];
		for (let j = 0; j < 50; j++) {
			const mid = (lo + hi) / 2;
			if (room(mid) <= 0 === isBack) lo = mid;
			else hi = mid;
		}
		yield [from, lo, isBack];
		from = lo;
		isBack = !isBack;
	}
	yield [from, 1, isBack];
}

/** The side of a closed line as a loop; where it begins at a corner, brought round that too. */
function closedLoop(beside: Path, line: Path, side: 1 | -1, seam: Join): Path {
	const builder = new PathBuilder(beside.segs[0], beside.segs[1]).along(beside);
	const corner = { x: line.segs[0], y: line.segs[1] };
	const turned = turnsAt(line, line.types.length - 1, 0);
	if (turned * side < -SMOOTH_TURN)
		joined(builder, line, 0, corner, { x: beside.segs[0], y: beside.segs[1] }, seam);
	else if (turned * side > SMOOTH_TURN) builder.line(corner.x, corner.y);
	return builder.close(TOLERANCE.coincidence);
}

/** Both sides of an open line and what closes them at its ends. */
function capped(left: Path, right: Path, ends: EndKind, first: number, last: number): Path {
	const builder = new PathBuilder(left.segs[0], left.segs[1]).along(left);
	cap(builder, { x: right.segs[0], y: right.segs[1] }, ends, last);
	builder.along(right);
	cap(builder, { x: left.segs[0], y: left.segs[1] }, ends, first);
	return builder.close(TOLERANCE.coincidence);
}

function cap(builder: PathBuilder, to: Point, ends: EndKind, half: number): void {
	const from = { x: builder.endX, y: builder.endY };
	const width = Math.hypot(to.x - from.x, to.y - from.y);
	if (width <= TOLERANCE.coincidence) return;
	// Outwards is to the left of the way from the left side to the right one, seen along the line.
	const out = { x: -(to.y - from.y) / width, y: (to.x - from.x) / width };
	if (ends === 'round') builder.arc(-1, to.x, to.y);
	else {
		if (ends === 'square')
			builder
				.line(from.x + out.x * half, from.y + out.y * half)
				.line(to.x + out.x * half, to.y + out.y * half);
		builder.line(to.x, to.y);
	}
}
