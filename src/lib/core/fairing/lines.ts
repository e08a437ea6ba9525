/** All ways of making a line anew behind one door: on a whole outline or on a stretch of it. */
import { finish, part } from '../progress';
import type { CornerVerdict } from '../trace/corner-verdicts';
import { deviationAlong, type Deviation } from '../geometry/deviation';
import { flattenPath, twoWayDistance } from '../geometry/edge-tree';
import { anchorCount, pathLength } from '../geometry/measure';
import type { Path } from '../geometry/path';
import { fairSteps } from './fair';
import { asLinesAndArcs, asStraights, rebuilt, throughAnchors } from './other-lines';
import { simplifySteps } from './simplify';
import { partOf, withStretch } from './stretch';

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
	readonly worst: { readonly x: number; readonly y: number };
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
			return { path: asLinesAndArcs(path, o.drift) };
		case 'straights':
			return { path: asStraights(path, o.drift) };
	}
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
	return finish(makeLineSteps(path, options, stretch));
}

/** The same, telling how far it has come (0 to 1) between its steps. */
export function* makeLineSteps(
	path: Path,
	options: LineOptions,
	stretch?: { readonly from: number; readonly to: number }
): Generator<number, MadeLine> {
	const keepsDrift = options.way !== 'through' && options.way !== 'rebuild';
	const line = stretch ? partOf(path, stretch.from, stretch.to) : path;
	const { path: next, doubtful } = yield* part(made(line, options), 0, 0.8);
	yield 0.8;
	const drawn = (smoothly: boolean) =>
		measured(
			path,
			stretch ? withStretch(path, stretch.from, stretch.to, next, smoothly) : next,
			options,
			doubtful
		);
	const first = drawn(true);
	// Turned into line with what they meet, its ends may leave the band.
	return stretch && keepsDrift && first.drift > options.drift ? drawn(false) : first;
}

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
	const points = flattenPath(old, Math.max(0.002, worst / 20));
	return deviationAlong(next, [{ points, closed: old.closed }], Math.max(0.1, drift));
}
