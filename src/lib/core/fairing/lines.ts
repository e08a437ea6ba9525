/** All ways of making a line anew behind one door: on a whole outline or on a stretch of it. */
import type { Point } from '../geometry/point';
import { finish, part } from '../progress';
import type { CornerVerdict } from '../trace/corner-verdicts';
import { deviationFrom, type Deviation } from '../geometry/deviation';
import { twoWayDistance } from '../geometry/edge-tree';
import { anchorCount, pathBox, pathLength, unionBox } from '../geometry/measure';
import type { Path } from '../geometry/path';
import { fairSteps } from './fair';
import { teethDrift } from './likely-drift';
import { asLinesAndArcs, asStraights, rebuilt, throughAnchors } from './other-lines';
import { simplifySteps } from './simplify';
import { lineBetween, withStretch } from './stretch';

export const LINE_WAYS = ['fair', 'simplify', 'through', 'rebuild', 'arcs', 'straights'] as const;
export type LineWay = (typeof LINE_WAYS)[number];

export interface LineOptions {
	readonly way: LineWay;
	/** mm: how far the line may move, by those ways that keep to a drift. */
	readonly drift: number;
	readonly strength?: number;
	/** Degrees */
	readonly cornerAngle?: number;
	/** Rebuilding: control points and degree. */
	readonly count?: number;
	readonly degree?: number;
	/** Fairing: where a person has said that a corner is meant, or that none is; mm. */
	readonly verdicts?: readonly CornerVerdict[];
	/** Tell how far the new line lies from the old all along it. */
	readonly stray?: boolean;
}

export interface MadeLine {
	readonly path: Path;
	/** mm, and where. */
	readonly drift: number;
	readonly worst: Point;
	readonly deviation?: Deviation;
	/** Places of which one may doubt whether a corner is meant, and as what each was taken. */
	readonly doubtful?: readonly CornerVerdict[];
}

type Made = Pick<MadeLine, 'path' | 'doubtful'>;

function* made(path: Path, o: LineOptions): Generator<number, Made> {
	switch (o.way) {
		case 'fair':
			return yield* fairSteps(path, o);
		case 'simplify':
			return { path: (yield* simplifySteps(path, o.drift, o.cornerAngle)).path };
		case 'through':
			return { path: throughAnchors(path, o.cornerAngle ?? 60) };
		case 'rebuild':
			return { path: rebuilt(path, o.count ?? 12, o.degree ?? 3) };
		case 'arcs':
			return yield* plainlyOrFaired(path, o, asLinesAndArcs);
		case 'straights':
			return yield* plainlyOrFaired(path, o, asStraights);
	}
}

/** Of the drift: what is left to fairing where the line is faired first. */
const FAIRED_FIRST = 0.75;

/**
 * A line drawn of plain pieces that go through places of it; or, where it is jagged, as it is faired first, which takes fewer
 * pieces: those through the places of a jagged line follow its teeth.
 */
function* plainlyOrFaired(
	path: Path,
	o: LineOptions,
	draw: (path: Path, tolerance: number) => Path
): Generator<number, Made> {
	const plain = draw(path, o.drift);
	if (teethDrift(path) === undefined) return { path: plain };
	const faired = yield* fairSteps(path, { ...o, drift: FAIRED_FIRST * o.drift });
	if (faired.drift === 0) return { path: plain };
	const drawn = draw(faired.path, o.drift - faired.drift);
	const isPlainWithin = twoWayDistance([path], [plain], o.drift / 50, o.drift / 5).distance <= o.drift;
	return { path: isPlainWithin && anchorCount(plain) <= anchorCount(drawn) ? plain : drawn };
}

/**
 * @param stretch only from one place to another, as segment + t; all of it where undefined.
 * @throws CoreError as the ways do; `bad-stretch`
 */
export function makeLine(
	path: Path,
	options: LineOptions,
	stretch?: { readonly from: number; readonly to: number }
): MadeLine {
	return finish(lineSteps(path, options, stretch));
}

/** The same, telling how far it has come (0 to 1) between its steps. */
export function* lineSteps(
	path: Path,
	options: LineOptions,
	stretch?: { readonly from: number; readonly to: number }
): Generator<number, MadeLine> {
	const keepsDrift = options.way !== 'through' && options.way !== 'rebuild';
	const line = stretch ? lineBetween(path, stretch.from, stretch.to) : path;
	for (let closer = 0; ; closer++) {
		const drift = options.drift * Math.pow(CLOSER, closer);
		const { path: next, doubtful } = yield* part(made(line, { ...options, drift }), 0, 0.8);
		yield 0.8;
		// Turned into line with what they meet, the ends of a stretch may leave the band.
		for (const smoothly of stretch ? [true, false] : [true]) {
			const whole = stretch ? withStretch(path, stretch.from, stretch.to, next, smoothly) : next;
			const result = measured(path, whole, options, doubtful);
			if (!keepsDrift || result.drift <= options.drift) return result;
		}
		if (closer === MOST_CLOSER) return measured(path, path, options);
	}
}

/** What a larger drift would give: mm, and anchors of all lines together. */
export interface HelpfulDrift {
	readonly drift: number;
	readonly anchors: number;
}

/** It helps where no more than so large a share of the anchors is left. */
const HELPS = 0.7;
/** Drifts are tried in such steps, up to such a share of the lines' reach. */
const STEP = 1.6;
const MOST_SHARE = 0.08;

/**
 * A drift, the least of rounded ones above that of the options, with which lines need markedly fewer anchors; undefined where none
 * helps. Ways without a drift are answered by fairing.
 */
export function* helpfulDriftSteps(
	paths: readonly Path[],
	options: LineOptions,
	stretch?: { readonly from: number; readonly to: number }
): Generator<number, HelpfulDrift | undefined> {
	const way = options.way === 'through' || options.way === 'rebuild' ? 'fair' : options.way;
	const before = paths.reduce((sum, path) => sum + anchorCount(path), 0);
	const box = unionBox(paths.map(pathBox));
	const most = MOST_SHARE * Math.hypot(box.x1 - box.x0, box.y1 - box.y0);
	// Teeth say how much they need; a little less may do.
	const teeth = Math.max(0, ...paths.flatMap((path) => teethDrift(path) ?? []));
	const least = Math.max(options.drift, teeth / STEP ** 3);
	const count = Math.max(1, Math.ceil(Math.log(most / least) / Math.log(STEP)));
	for (let k = 1; k <= count; k++) {
		const drift = Number((least * STEP ** k).toPrecision(2));
		let anchors = 0;
		for (const path of paths) {
			const line = yield* part(
				lineSteps(path, { ...options, way, drift, stray: false }, stretch),
				(k - 1) / count,
				k / count
			);
			anchors += anchorCount(line.path);
		}
		if (anchors <= HELPS * before) return { drift, anchors };
	}
	return undefined;
}

/** Ways that look at places of the line only may leave the band between them: they are tried closer, so many times. */
const CLOSER = 0.7;
const MOST_CLOSER = 5;

function measured(
	path: Path,
	next: Path,
	options: LineOptions,
	doubtful: readonly CornerVerdict[] = []
): MadeLine {
	if (next === path) return { path, drift: 0, worst: { x: path.segs[0] ?? 0, y: path.segs[1] ?? 0 } };
	const fine = Math.max(1e-6, Math.min(options.drift / 50, pathLength(path) / (40 * anchorCount(path))));
	const { distance, x, y } = twoWayDistance([path], [next], fine, 10 * fine);
	return {
		path: next,
		drift: distance,
		worst: { x, y },
		doubtful,
		...(options.stray ? { deviation: strayFrom(path, next, distance, options.drift) } : {})
	};
}

/** How far a new line lies from the old all along it. */
function strayFrom(old: Path, next: Path, worst: number, drift: number): Deviation {
	return deviationFrom(next, old, Math.max(0.1, drift), Math.max(0.002, worst / 20));
}
