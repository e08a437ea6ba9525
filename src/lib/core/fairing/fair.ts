/**
 * Fairing: a jagged line smoothed within a band on both sides of it, its meant corners kept, as few straights, arcs and
 * curves.
 *
 * Method (docs/fairing.md compares it with others): the line is sampled evenly. Where it has corners they are found, and
 * the runs between them drawn as a draughtsman draws the edge in a picture (`trace/contour-fit.ts`); what is straight or
 * round stays so. Free runs, and lines without corners, are smoothed by a spline of few spans through the samples (least
 * squares) and then drawn as few cubics. Neither shrinks. Where the result leaves the band it is drawn closer.
 */
import Flatbush from 'flatbush';
import type { Point } from '../geometry/point';
import { CoreError } from '../errors';
import { finish, within } from '../progress';
import { localLine, makeTrail, type Trail, type TrailCorner } from '../fit/fit';
import { anchorCount, pathLength, turnAt } from '../geometry/measure';
import { CUBIC, PathBuilder, STRIDE, transformPath, type Path } from '../geometry/path';
import { refit } from '../fit/refit';
import { turnBetween } from '../geometry/segment';
import { drawChain, fitFrom, planChainSteps, type ContourFitOptions } from '../trace/contour-fit';
import { leastTurn, verdictAt, type CornerRule, type CornerVerdict } from '../trace/corner-verdicts';
import { findCorners } from '../trace/corners';
import { cornersWithin, withoutTeeth } from './joints';
import { resample, samplePath, type EvenSamples } from './even-samples';
import { smoothEnds } from './stretch';
import { burden, isWobbly, shapeTurning, totalTurning } from './wobble';
import { splineAsPath, splineAtSamples, splineThrough } from './least-squares-spline';

export interface FairOptions {
	/** mm: nowhere does the line move farther, both ways. */
	readonly drift: number;
	/** 1 as the scatter of the line asks for; more is smoother, within the drift. */
	readonly strength?: number;
	/** Degrees: what turns less is no corner. */
	readonly cornerAngle?: number;
	/** Where a person has said that a corner is meant, or that none is; mm. */
	readonly verdicts?: readonly CornerVerdict[];
}

export interface Faired {
	readonly path: Path;
	/** How far the line moved at most, mm, and where. */
	readonly drift: number;
	readonly worst: Point;
	/** Places of which one may doubt whether a corner is meant, and as what each was taken; mm. */
	readonly doubtful: readonly CornerVerdict[];
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
/** And where many attempts would take too long. */
const LONG_SAMPLES = 30_000;
/** Units: a scatter to begin with; how far beside a sample the line it scatters about is taken, and how far from corners. */
const LIKELY_SCATTER = 0.25;
const SCATTER_SIDE = 4;
const CLEAR_OF_CORNERS = 9;
/** Units: lines that scatter less are fair already. */
const FAIR_ALREADY = 0.07;
const CLEARLY_FEWER = 0.7;
/** Of a line with more anchors the faired one has much fewer, or it is not fair. */
const FEW = 60;
const FEWER_OF_MANY = 0.4;
/** Times that the shape turns: what turns more is not fair. */
const HOPELESS = 3;
/** And so few that no better line need be looked for. */
const FEW_OF_MANY = 0.1;
/** Degrees: joints that turn less run on smoothly. */
const SMOOTH_TURN = 5;
/** Units: the shortest span of a smoothed line. */
const LEAST_SPAN = 14;
/** Of the angle that makes a corner: what turns less is clearly none, what turns more clearly one; and how often it is tried. */
const CLEARLY_NONE = 0.55;
const CLEARLY_ONE = 1.4;
/** Of that angle: what a corner still turns seen from farther away. */
const FROM_AFAR = 0.8;
/** Drifts: how near to a place a verdict is about it. */
const VERDICT_DRIFTS = 5;
/** From attempt to attempt the samples lie closer and the line is held less firmly. */
const ATTEMPTS = 7;
const FINER = 0.86;
const GENTLER = 0.84;
/** So many tries one after the other that all take more anchors than the line has say that finer ones would too. */
const CROWDED = 4;
/** Drifts: shorter sides of a zigzag are teeth. */
const SHORT_DRIFTS = 4;
/** So many times the strength is tried, one after the other, while the line wobbles. */
const SMOOTHER = [1, 2];

/**
 * @returns the line faired; as it was, with a drift of 0, where nothing is to be gained.
 * @throws CoreError `bad-drift`, `bad-strength`
 */
export function fairPath(path: Path, options: FairOptions): Faired {
	return finish(fairSteps(path, options));
}

/** The same, telling how far it has come (0 to 1) between its steps. */
export function* fairSteps(path: Path, options: FairOptions): Generator<number, Faired> {
	const { drift, strength = 1, cornerAngle = 30, verdicts = [] } = options;
	if (!(drift > 0)) throw new CoreError('bad-drift', `The drift allowed must be above 0 mm, not ${drift}.`);
	if (!(strength > 0)) throw new CoreError('bad-strength', 'The strength must be above 0.');
	const start = { x: path.segs[0] ?? 0, y: path.segs[1] ?? 0 };
	const still: Faired = { path, drift: 0, worst: start, doubtful: [] };
	const length = pathLength(path);
	if (path.types.length < 3 || !(length > 4 * drift)) return still;
	// A line of long segments is not jagged: it is looked at no more closely than its length asks for.
	const isJagged = length < 4 * drift * path.types.length;
	let unit = Math.max(UNIT_DRIFTS * drift, isJagged ? 0 : length / CLEAN_UNITS);
	let firmness = strength;
	const before = anchorCount(path);
	const most = before > FEW ? FEWER_OF_MANY * before : before - 1;
	const shape = shapeTurning(path, length, drift);
	let best: Faired | undefined;
	let least = Infinity;
	let hopeless = 0;
	let crowded = 0;
	for (let attempt = 0; attempt < ATTEMPTS && hopeless < 2; attempt++, unit *= FINER, firmness *= GENTLER) {
		if (crowded >= CROWDED) break;
		// A line may follow what the teeth do together, such as the plateaus of stairs: then a smoother one is looked for.
		for (const times of SMOOTHER) {
			yield attempt / ATTEMPTS;
			const asked: Asked = { unit, length, drift, strength: times * firmness, cornerAngle, verdicts };
			const { faired, distance, isCrowded } = yield* drawnWithin(path, asked, most, attempt / ATTEMPTS);
			crowded = isCrowded ? crowded + 1 : 0;
			if (!faired) {
				// The finest line would come no nearer than this: of a long one that is not waited for.
				const nearest = distance * FINER ** (ATTEMPTS - 1 - attempt);
				if (nearest > drift && length > LONG_SAMPLES * STEP * unit) return best ?? still;
				if (best) continue;
				break;
			}
			// What wobbles as much as this still follows the teeth: the drift is too small for them.
			const turning = totalTurning(faired.path);
			if (turning > HOPELESS * shape) {
				hopeless++;
				break;
			}
			const count = anchorCount(faired.path);
			if (!isWobbly(turning, shape) && (count <= FEW || count <= FEW_OF_MANY * before)) return faired;
			const weight = burden(count, turning, shape);
			if (best && weight >= least) continue;
			best = faired;
			least = weight;
		}
	}
	return best ?? still;
}

/** The line drawn fair, its corners in the band; none where it leaves the band, by how much it does, or takes too many anchors. */
function* drawnWithin(
	path: Path,
	asked: Asked,
	most: number,
	from: number
): Generator<number, { readonly faired?: Faired; readonly distance: number; readonly isCrowded?: boolean }> {
	const { drawn, seeming } = yield* drawFair(path, asked, from);
	if (!drawn || drawn.types.length === 0) return { distance: 0 };
	if (anchorCount(drawn) > most) return { distance: 0, isCrowded: true };
	yield from + 0.7 / ATTEMPTS;
	const { path: kept, distance, x, y } = cornersWithin(drawn, path, asked.drift);
	if (distance > asked.drift) return { distance };
	const doubtful = doubtfulCorners(kept, seeming, asked);
	return { faired: { path: kept, drift: distance, worst: { x, y }, doubtful }, distance };
}

interface Asked {
	/** mm */
	readonly unit: number;
	readonly length: number;
	readonly drift: number;
	readonly strength: number;
	readonly cornerAngle: number;
	readonly verdicts: readonly CornerVerdict[];
}

/** What counts as a corner, in units of the samples. */
function cornerRule({ cornerAngle, verdicts, drift, unit }: Asked): Required<Omit<CornerRule, 'bends'>> {
	return {
		cornerAngle,
		verdicts: verdicts.map((v) => ({ ...v, x: v.x / unit, y: v.y / unit })),
		verdictReach: (VERDICT_DRIFTS * drift) / unit
	};
}

interface Drawn {
	readonly drawn: Path | undefined;
	/** Where the line seems to have a corner, mm. */
	readonly seeming: readonly Point[];
}

/** @param from the share of the work at which it begins. */
function* drawFair(path: Path, asked: Asked, from: number): Generator<number, Drawn> {
	const { unit, length } = asked;
	const rule = cornerRule(asked);
	const samples = samplePath(path, length, STEP * unit);
	const points = inUnits(samples, unit);
	const trail = makeTrail(points, path.closed);
	const noise = scatterOf(trail, meantCorners(trail, LIKELY_SCATTER, rule));
	const corners = meantCorners(trail, noise, rule);
	const seeming = seemingCorners(trail, noise, rule).map((c) => ({ x: c.x * unit, y: c.y * unit }));
	const isFree = path.closed && corners.length === 0;
	yield from + 0.2 / ATTEMPTS;
	// So long a line without a corner is hardly made of straights and arcs.
	if (isFree && samples.x.length > DRAUGHT_SAMPLES) return { drawn: freeLine(samples, asked), seeming };
	const fit: ContourFitOptions = {
		...rule,
		tolerance: Math.min(0.5, (0.1 + 1.2 * noise) * asked.strength),
		noise,
		blur: 0
	};
	const draughting = within(draughted(points, path.closed, fit), () => from + 0.2 / ATTEMPTS);
	const draught = transformPath(yield* draughting, [unit, 0, 0, unit, 0, 0]);
	const { path: drawn, joints } = withoutTeeth(draught, SHORT_DRIFTS * asked.drift);
	yield from + 0.5 / ATTEMPTS;
	if (isFree && noise >= FAIR_ALREADY && (drawn.types.length === 0 || drawn.types.includes(CUBIC)))
		return { drawn: freeLine(samples, asked), seeming };
	if (drawn.types.length === 0) return { drawn: undefined, seeming };
	// A line that hardly scatters is drawn as it is, unless it wobbles: then a smoother one takes clearly fewer anchors.
	return {
		drawn: yield* within(
			withFreeRuns(drawn, samples, asked, noise < FAIR_ALREADY ? CLEARLY_FEWER : 1, joints),
			() => from + 0.5 / ATTEMPTS
		),
		seeming
	};
}

function inUnits({ x, y }: EvenSamples, unit: number): Float64Array {
	const points = new Float64Array(2 * x.length);
	for (let i = 0; i < x.length; i++) {
		points[2 * i] = x[i] / unit;
		points[2 * i + 1] = y[i] / unit;
	}
	return points;
}

function* draughted(points: Float64Array, closed: boolean, fit: ContourFitOptions): Generator<void, Path> {
	if (closed) return yield* fitFrom(points, fit);
	const n = points.length;
	const plan = yield* planChainSteps(points, fit, [0, 0]);
	return drawChain(plan, { x: points[0], y: points[1] }, { x: points[n - 2], y: points[n - 1] }, fit);
}

/** Corners that turn as much seen from farther away as from near: teeth of a jagged line do not. */
function meantCorners(trail: Trail, noise: number, rule: CornerRule): TrailCorner[] {
	return findCorners(trail, { ...rule, ...cornerSight(noise) }).filter(
		(c) =>
			turnFromAfar(trail, c.index, noise) >= FROM_AFAR * leastTurn(rule, trail.x[c.index], trail.y[c.index])
	);
}

/** How much of both sides of a corner is looked at, and how much beside it is left out, units. */
const cornerSight = (noise: number) => ({ side: 5 + Math.min(9, 25 * noise), blunt: 1.1 + 3 * noise });

const turnFromAfar = (trail: Trail, index: number, noise: number) =>
	wideTurn(trail, index, 2.2 * cornerSight(noise).side, 1.5);

/** Places that seem to turn by about as much as makes a corner, whatever is made of them; in units. */
function seemingCorners(trail: Trail, noise: number, { cornerAngle }: CornerRule): Point[] {
	const least = CLEARLY_NONE * cornerAngle;
	return findCorners(trail, { cornerAngle: least, ...cornerSight(noise) }).filter(
		(c) => turnFromAfar(trail, c.index, noise) >= FROM_AFAR * least
	);
}

/**
 * Places of which one may doubt whether a corner is meant: where the drawn line turns by about as much as makes one, where
 * the line as it was seems to and the drawn one runs on smoothly, and where somebody has decided; as what they were taken.
 */
function doubtfulCorners(
	drawn: Path,
	seeming: readonly Point[],
	{ cornerAngle, verdicts, drift }: Asked
): CornerVerdict[] {
	const reach = VERDICT_DRIFTS * drift;
	const isNear = (a: Point, b: Point) => Math.hypot(a.x - b.x, a.y - b.y) <= reach;
	const n = drawn.types.length;
	const corners = Array.from({ length: n }, (_, i) => ({
		x: drawn.segs[STRIDE * i],
		y: drawn.segs[STRIDE * i + 1],
		turn: drawn.closed || i > 0 ? Math.abs(turnAt(drawn, i)) : 0
	})).filter((c) => c.turn >= SMOOTH_TURN);
	const isClear = (turn: number) => turn < CLEARLY_NONE * cornerAngle || turn > CLEARLY_ONE * cornerAngle;
	const out: CornerVerdict[] = corners
		.filter((c) => !isClear(c.turn) || verdicts.some((v) => isNear(v, c)))
		.map(({ x, y }) => ({ x, y, isCorner: true }));
	for (const place of [...verdicts, ...seeming]) {
		if (corners.some((c) => isNear(c, place)) || out.some((d) => isNear(d, place))) continue;
		out.push({ x: place.x, y: place.y, isCorner: false });
	}
	return out;
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
	return Math.abs(turnBetween(a.tx, a.ty, b.tx, b.ty));
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
 * @param teeth joints that stand for teeth: the line runs through them smoothly.
 */
function* withFreeRuns(
	drawn: Path,
	samples: EvenSamples,
	asked: Asked,
	worth: number,
	teeth: readonly Point[]
): Generator<void, Path> {
	const n = drawn.types.length;
	const rule: CornerRule = { ...asked, verdictReach: VERDICT_DRIFTS * asked.drift };
	const isNone = (i: number) => {
		const [x, y] = [drawn.segs[STRIDE * (i % n)], drawn.segs[STRIDE * (i % n) + 1]];
		return verdictAt(rule, x, y) === false || teeth.some((t) => t.x === x && t.y === y);
	};
	const isSmooth = (i: number) =>
		(drawn.closed || (i > 0 && i < n)) && (Math.abs(turnAt(drawn, i % n)) < SMOOTH_TURN || isNone(i));
	let begin = 0;
	if (drawn.closed) {
		while (begin < n && isSmooth(begin)) begin++;
		// All round without a corner.
		if (begin === n) {
			const rounded = Array.from({ length: n }, (_, i) => i).some(isNone);
			const free = rounded || drawn.types.includes(CUBIC) ? freeLine(samples, asked) : drawn;
			return rounded || free.types.length <= worth * n ? free : drawn;
		}
	}
	const found = withNearest(samples);
	const builder = new PathBuilder(drawn.segs[STRIDE * begin], drawn.segs[STRIDE * begin + 1]);
	for (let i = begin; i < begin + n;) {
		yield;
		const run = [i % n];
		while (i + run.length < begin + n && isSmooth(i + run.length)) run.push((i + run.length) % n);
		const kept = partOfRun(drawn, run);
		const rounded = run.slice(1).some(isNone);
		if (!kept.types.includes(CUBIC) && !rounded) builder.along(kept);
		else {
			const whole = freeRun(drawn, run, found, asked);
			const pieces = worth < 1 ? kept : inPieces(drawn, run, found, asked);
			const isBetter = rounded || (whole && whole.types.length <= worth * pieces.types.length);
			builder.along(whole && isBetter ? whole : pieces);
		}
		i += run.length;
	}
	return drawn.closed ? builder.close() : builder.open();
}

/** Samples that tell which of them is the nearest to a place. */
interface FoundSamples extends EvenSamples {
	readonly nearest: (x: number, y: number) => number;
}

function withNearest(samples: EvenSamples): FoundSamples {
	const { x, y } = samples;
	const tree = new Flatbush(x.length);
	for (let i = 0; i < x.length; i++) tree.add(x[i], y[i], x[i], y[i]);
	tree.finish();
	return { ...samples, nearest: (px, py) => tree.neighbors(px, py, 1)[0] };
}

function partOfRun(drawn: Path, run: readonly number[]): Path {
	return {
		closed: false,
		types: Uint8Array.from(run, (k) => drawn.types[k]),
		segs: Float64Array.from(run.flatMap((k) => Array.from(drawn.segs.subarray(STRIDE * k, STRIDE * (k + 1)))))
	};
}

/** A run with its straights and arcs as they are; free curves between them smoothed, running on into them as before. */
function inPieces(drawn: Path, run: readonly number[], samples: FoundSamples, asked: Asked): Path {
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
function freeRun(drawn: Path, run: readonly number[], samples: FoundSamples, asked: Asked): Path | undefined {
	const first = STRIDE * run[0];
	const last = STRIDE * run[run.length - 1];
	const [ax, ay] = [drawn.segs[first], drawn.segs[first + 1]];
	const [bx, by] = [drawn.segs[last + 6], drawn.segs[last + 7]];
	const after = (run[run.length - 1] + 1) % drawn.types.length;
	const skips: [number, number] = [besideTip(turnAt(drawn, run[0])), besideTip(turnAt(drawn, after))];
	const part = samplesBetween(samples, ax, ay, bx, by, run, drawn, skips);
	if (!part || part.x.length < 40) return undefined;
	// It runs from corner to corner: they stand for its ends.
	const x = Float64Array.from([ax, ...part.x, bx]);
	const y = Float64Array.from([ay, ...part.y, by]);
	return freeLine({ ...part, x, y }, asked);
}

/**
 * How many samples beside a corner do not count: one beside it is the mean of both sides of it, and a jagged line stops the
 * shorter of a tip the sharper that is.
 */
function besideTip(turn: number): number {
	const half = ((180 - Math.abs(turn)) * Math.PI) / 360;
	return Math.max(2, Math.min(MOST_BESIDE, Math.floor(1.42 / Math.sin(Math.max(half, 1e-3)))));
}
const MOST_BESIDE = 20;

/** The samples that belong to a run: from the one nearest to its start to the one nearest to its end, by way of its middle. */
function samplesBetween(
	samples: FoundSamples,
	ax: number,
	ay: number,
	bx: number,
	by: number,
	run: readonly number[],
	drawn: Path,
	skips: readonly [start: number, end: number]
): EvenSamples | undefined {
	const { nearest } = samples;
	const n = samples.x.length;
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
	const [skip, last] = skips;
	const count = span + 1 - skip - last;
	if (count < 12) return undefined;
	const pick = (from_: Float64Array) =>
		Float64Array.from({ length: count }, (_, k) => from_[(from + skip + k) % n]);
	return { x: pick(samples.x), y: pick(samples.y), closed: false, step: samples.step };
}
