/**
 * Fairing: a jagged line smoothed within a band on both sides of it, its meant corners kept, as few straights, arcs and
 * curves.
 *
 * Method (docs/fairing.md compares it with others): the line is sampled evenly. Where it has corners they are found, and
 * the runs between them drawn as a draughtsman draws the edge in a picture (`trace/contour-fit.ts`); what is straight or
 * round stays so. Free runs, and lines without corners, are smoothed by a spline of few spans through the samples (least
 * squares) and then drawn as few cubics. Neither shrinks. Where the result leaves the band it is drawn closer.
 */
import { CoreError } from '../errors';
import { twoWayDistance } from '../geometry/edge-tree';
import { localLine, makeTrail, type Trail, type TrailCorner } from '../geometry/fit';
import { anchorCount, pathLength, turnAt } from '../geometry/measure';
import { CUBIC, PathBuilder, STRIDE, transformPath, type Path } from '../geometry/path';
import { refit } from '../geometry/refit';
import { drawChain, fitContour, planChain, type ContourFitOptions } from '../trace/contour-fit';
import { findCorners } from '../trace/corners';
import { resample, samplePath, type EvenSamples } from './even-samples';
import { smoothEnds } from './stretch';
import { splineAsPath, splineAtSamples, splineThrough } from './least-squares-spline';

export interface FairOptions {
	/** mm: nowhere does the line move farther, both ways. */
	readonly drift: number;
	/** 1 as the scatter of the line asks for; more is smoother, within the drift. */
	readonly strength?: number;
	/** Degrees: what turns less is no corner. */
	readonly cornerAngle?: number;
}

export interface Faired {
	readonly path: Path;
	/** How far the line moved at most, mm, and where. */
	readonly drift: number;
	readonly worst: { readonly x: number; readonly y: number };
}

/** What counts as a pixel where a run is drawn like the edge in a picture: so much of the drift. */
const UNIT_DRIFTS = 0.8;
/** Units between samples. */
const STEP = 0.5;
/** Of the drift: how closely few cubics keep to the smoothed line. */
const CLOSE = 0.05;
/** Units along a line that is not jagged. */
const CLEAN_UNITS = 2500;
/** Samples: longer lines without corners are not looked at for straights and arcs. */
const DRAUGHT_SAMPLES = 6000;
/** Units: a scatter to begin with; how far beside a sample the line it scatters about is taken, and how far from corners. */
const LIKELY_SCATTER = 0.25;
const SCATTER_SIDE = 4;
const CLEAR_OF_CORNERS = 9;
/** Units: lines that scatter less are fair already. */
const FAIR_ALREADY = 0.07;
const CLEARLY_FEWER = 0.7;
/** Degrees: joints that turn less run on smoothly. */
const SMOOTH_TURN = 5;
/** Units: the shortest span of a smoothed line. */
const LEAST_SPAN = 14;

/**
 * @returns the line faired; as it was, with a drift of 0, where nothing is to be gained.
 * @throws CoreError `bad-drift`, `bad-strength`
 */
export function fairPath(path: Path, options: FairOptions): Faired {
	const { drift, strength = 1, cornerAngle = 30 } = options;
	if (!(drift > 0)) throw new CoreError('bad-drift', `The drift allowed must be above 0 mm, not ${drift}.`);
	if (!(strength > 0)) throw new CoreError('bad-strength', 'The strength must be above 0.');
	const still: Faired = { path, drift: 0, worst: { x: path.segs[0] ?? 0, y: path.segs[1] ?? 0 } };
	const length = pathLength(path);
	if (path.types.length < 3 || !(length > 4 * drift)) return still;
	// A line of long segments is not jagged: it is looked at no more closely than its length asks for.
	const isJagged = length < 4 * drift * path.types.length;
	let unit = Math.max(UNIT_DRIFTS * drift, isJagged ? 0 : length / CLEAN_UNITS);
	let firmness = strength;
	for (let attempt = 0; attempt < 6; attempt++, unit *= 0.75, firmness *= 0.7) {
		const drawn = drawFair(path, { unit, length, drift, strength: firmness, cornerAngle });
		if (!drawn || drawn.types.length === 0 || anchorCount(drawn) >= anchorCount(path)) continue;
		const { distance, x, y } = twoWayDistance([path], [drawn], drift / 100, drift);
		if (distance <= drift) return { path: drawn, drift: distance, worst: { x, y } };
	}
	return still;
}

interface Asked {
	/** mm */
	readonly unit: number;
	readonly length: number;
	readonly drift: number;
	readonly strength: number;
	readonly cornerAngle: number;
}

function drawFair(path: Path, asked: Asked): Path | undefined {
	const { unit, length, cornerAngle } = asked;
	const samples = samplePath(path, length, STEP * unit);
	const points = inUnits(samples, unit);
	const trail = makeTrail(points, path.closed);
	const noise = scatterOf(trail, meantCorners(trail, LIKELY_SCATTER, cornerAngle));
	const isFree = path.closed && meantCorners(trail, noise, cornerAngle).length === 0;
	// So long a line without a corner is hardly made of straights and arcs.
	if (isFree && samples.x.length > DRAUGHT_SAMPLES) return freeLine(samples, asked);
	const fit: ContourFitOptions = {
		tolerance: Math.min(0.5, (0.1 + 1.2 * noise) * asked.strength),
		noise,
		blur: 0,
		cornerAngle
	};
	const drawn = transformPath(draughted(points, path.closed, fit), [unit, 0, 0, unit, 0, 0]);
	if (isFree && noise >= FAIR_ALREADY && (drawn.types.length === 0 || drawn.types.includes(CUBIC)))
		return freeLine(samples, asked);
	if (drawn.types.length === 0) return undefined;
	// A line that hardly scatters is drawn as it is, unless it wobbles: then a smoother one takes clearly fewer anchors.
	return withFreeRuns(drawn, samples, asked, noise < FAIR_ALREADY ? CLEARLY_FEWER : 1);
}

function inUnits({ x, y }: EvenSamples, unit: number): Float64Array {
	const points = new Float64Array(2 * x.length);
	for (let i = 0; i < x.length; i++) {
		points[2 * i] = x[i] / unit;
		points[2 * i + 1] = y[i] / unit;
	}
	return points;
}

function draughted(points: Float64Array, closed: boolean, fit: ContourFitOptions): Path {
	if (closed) return fitContour(points, fit);
	const n = points.length;
	const plan = planChain(points, fit, [0, 0]);
	return drawChain(plan, { x: points[0], y: points[1] }, { x: points[n - 2], y: points[n - 1] }, fit);
}

/** Corners that turn as much seen from farther away as from near: teeth of a jagged line do not. */
function meantCorners(trail: Trail, noise: number, cornerAngle: number): TrailCorner[] {
	const side = 5 + Math.min(9, 25 * noise);
	return findCorners(trail, { cornerAngle, side, blunt: 1.1 + 3 * noise }).filter(
		(c) => wideTurn(trail, c.index, 2.2 * side, 1.5) >= 0.8 * cornerAngle
	);
}

/**
 * How much samples scatter about a smooth line, units (root mean square), where it is roughest but for a fifth of it:
 * straight sides beside a jagged one do not hide its scatter.
 */
function scatterOf(trail: Trail, corners: readonly TrailCorner[]): number {
	const { count, s, x, y } = trail;
	const whole = s[trail.closed ? count : count - 1];
	const step = Math.max(5, Math.floor(count / 250));
	const stretches: number[] = [];
	for (let i = 0; i + 10 <= count; i += step) {
		const isBeside = corners.some((c) => {
			const d = Math.abs(s[c.index] - s[i + 5]);
			return Math.min(d, trail.closed ? whole - d : d) < CLEAR_OF_CORNERS;
		});
		if (isBeside) continue;
		let sum = 0;
		for (let k = i; k < i + 10; k++) {
			const local = localLine(trail, k, SCATTER_SIDE, SCATTER_SIDE);
			const off = (x[k] - local.x) * local.ty - (y[k] - local.y) * local.tx;
			sum += off * off;
		}
		stretches.push(1.2 * Math.sqrt(sum / 10));
	}
	stretches.sort((p, q) => p - q);
	return stretches.length ? Math.max(0.02, stretches[Math.floor(0.8 * stretches.length)]) : LIKELY_SCATTER;
}

/** Degrees by which a line turns at a place, from straights through `reach` units on both sides of it. */
function wideTurn(trail: Trail, index: number, reach: number, skip: number): number {
	const a = localLine(trail, index, reach, 0, skip);
	const b = localLine(trail, index, 0, reach, skip);
	return (Math.abs(Math.atan2(a.tx * b.ty - a.ty * b.tx, a.tx * b.tx + a.ty * b.ty)) * 180) / Math.PI;
}

/** A line without corners, or a run between two: smoothed, and drawn as few cubics. */
function freeLine(samples: EvenSamples, asked: Asked): Path {
	const { drift, unit, strength } = asked;
	const least = LEAST_SPAN * unit;
	// Smoothed a little first, so that lengths are those of the line and not of its jags.
	const rough = splineThrough(samples, least, 1);
	const even = resample(samples, splineAtSamples(rough, samples), samples.step);
	const path = splineAsPath(splineThrough(even, least, strength));
	return refit(path, { tolerance: CLOSE * drift, keepLength: Infinity });
}

/**
 * Runs between corners that hold free curves drawn anew from the samples smoothed: the whole run as one, or its straights and
 * arcs kept and only what lies between them, whichever takes fewer anchors.
 * @param worth the smoothed run may take so many times the anchors of the other.
 */
function withFreeRuns(drawn: Path, samples: EvenSamples, asked: Asked, worth: number): Path {
	const n = drawn.types.length;
	const isSmooth = (i: number) =>
		(drawn.closed || (i > 0 && i < n)) && Math.abs(turnAt(drawn, i % n)) < SMOOTH_TURN;
	let begin = 0;
	if (drawn.closed) {
		while (begin < n && isSmooth(begin)) begin++;
		// All round without a corner.
		if (begin === n) {
			const free = drawn.types.includes(CUBIC) ? freeLine(samples, asked) : drawn;
			return free.types.length <= worth * n ? free : drawn;
		}
	}
	const builder = new PathBuilder(drawn.segs[STRIDE * begin], drawn.segs[STRIDE * begin + 1]);
	for (let i = begin; i < begin + n;) {
		const run = [i % n];
		while (i + run.length < begin + n && isSmooth(i + run.length)) run.push((i + run.length) % n);
		const kept = partOfRun(drawn, run);
		if (!kept.types.includes(CUBIC)) builder.along(kept);
		else {
			const whole = freeRun(drawn, run, samples, asked);
			const pieces = worth < 1 ? kept : inPieces(drawn, run, samples, asked);
			builder.along(whole && whole.types.length <= worth * pieces.types.length ? whole : pieces);
		}
		i += run.length;
	}
	return drawn.closed ? builder.close(1e-9) : builder.open();
}

function partOfRun(drawn: Path, run: readonly number[]): Path {
	return {
		closed: false,
		types: Uint8Array.from(run, (k) => drawn.types[k]),
		segs: Float64Array.from(run.flatMap((k) => Array.from(drawn.segs.subarray(STRIDE * k, STRIDE * (k + 1)))))
	};
}

/** A run with its straights and arcs as they are; free curves between them smoothed, running on into them as before. */
function inPieces(drawn: Path, run: readonly number[], samples: EvenSamples, asked: Asked): Path {
	const start = STRIDE * run[0];
	const builder = new PathBuilder(drawn.segs[start], drawn.segs[start + 1]);
	for (let i = 0; i < run.length;) {
		let end = i + 1;
		if (drawn.types[run[i]] === CUBIC) while (end < run.length && drawn.types[run[end]] === CUBIC) end++;
		const part = run.slice(i, end);
		const free = drawn.types[run[i]] === CUBIC ? freeRun(drawn, part, samples, asked) : undefined;
		const line = free
			? smoothEnds(
					free,
					i > 0 ? partOfRun(drawn, [run[i - 1]]) : undefined,
					end < run.length ? partOfRun(drawn, [run[end]]) : undefined
				)
			: partOfRun(drawn, part);
		builder.along(line);
		i = end;
	}
	return builder.open();
}

/** The samples of a run smoothed and drawn, its two ends where they were drawn before; undefined where it is too short. */
function freeRun(drawn: Path, run: readonly number[], samples: EvenSamples, asked: Asked): Path | undefined {
	const first = STRIDE * run[0];
	const last = STRIDE * run[run.length - 1];
	const [ax, ay] = [drawn.segs[first], drawn.segs[first + 1]];
	const [bx, by] = [drawn.segs[last + 6], drawn.segs[last + 7]];
	const part = samplesBetween(samples, ax, ay, bx, by, run, drawn);
	if (!part || part.x.length < 40) return undefined;
	// It runs from corner to corner: they stand for its ends.
	const x = Float64Array.from([ax, ...part.x, bx]);
	const y = Float64Array.from([ay, ...part.y, by]);
	return freeLine({ ...part, x, y }, asked);
}

/** The samples that belong to a run: from the one nearest to its start to the one nearest to its end, by way of its middle. */
function samplesBetween(
	samples: EvenSamples,
	ax: number,
	ay: number,
	bx: number,
	by: number,
	run: readonly number[],
	drawn: Path
): EvenSamples | undefined {
	const n = samples.x.length;
	const nearest = (x: number, y: number) => {
		let best = 0;
		let least = Infinity;
		for (let i = 0; i < n; i++) {
			const d = (samples.x[i] - x) ** 2 + (samples.y[i] - y) ** 2;
			if (d < least) {
				least = d;
				best = i;
			}
		}
		return best;
	};
	const from = nearest(ax, ay);
	const to = nearest(bx, by);
	const mid = STRIDE * run[run.length >> 1];
	const middle = nearest(
		(drawn.segs[mid] + 3 * drawn.segs[mid + 2] + 3 * drawn.segs[mid + 4] + drawn.segs[mid + 6]) / 8,
		(drawn.segs[mid + 1] + 3 * drawn.segs[mid + 3] + 3 * drawn.segs[mid + 5] + drawn.segs[mid + 7]) / 8
	);
	const span = (to - from + n) % n || (samples.closed && from === to ? n : 0);
	if (span < 4 || (!samples.closed && to <= from)) return undefined;
	if (samples.closed && (middle - from + n) % n > span) return undefined;
	// A sample beside a corner is the mean of both sides of it: it does not count.
	const skip = 2;
	const count = span + 1 - 2 * skip;
	if (count < 12) return undefined;
	const pick = (from_: Float64Array) =>
		Float64Array.from({ length: count }, (_, k) => from_[(from + skip + k) % n]);
	return { x: pick(samples.x), y: pick(samples.y), closed: false, step: samples.step };
}
