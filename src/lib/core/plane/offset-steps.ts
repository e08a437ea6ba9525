/** Offsets of any outlines, closed and open together, in one or several steps: what the program and its verb both do. */
import { done, failed, type Problem, type Result } from '../errors';
import { finish, part } from '../progress';
import { offsetPiecesSteps } from './offset';
import { offsetLineSteps } from './offset-line';
import type { EndKind } from './offset-raw';
import type { JoinKind } from './offset-strips';
import type { Path } from '../geometry/path';

export interface StepOptions {
	/** mm, > 0: from one step to the next. */
	readonly distance: number;
	/** How many, from 1. */
	readonly steps?: number;
	/** Where the offsets of closed outlines lie. */
	readonly way: 'outside' | 'inside' | 'both';
	readonly join: JoinKind;
	readonly miterLimit?: number;
	/** Where the offsets of open outlines lie, left and right of the direction of travel. */
	readonly side?: 'left' | 'right' | 'both';
	/** What the ends of an open outline become when both sides are wanted. */
	readonly ends?: EndKind;
	/** One side: the closed band between the line and its parallel. */
	readonly band?: boolean;
	/** mm, > 0. */
	readonly tolerance?: number;
	/** Hold the result against an independent reckoning (default); without it, it is for the eye alone. */
	readonly verify?: boolean;
	/** Told when work begins and when its result stands, so that the checks can be left out of a timing. */
	readonly watch?: { start(): void; stop(): void };
}

export interface Steps {
	readonly paths: Path[];
	/** The largest error found by the checks, mm. */
	readonly error: number;
	/** Whether the polygon net had to serve. */
	readonly fallback: boolean;
	/** Why some of what was asked for did not come: the first reason. */
	readonly problem?: Problem;
}

/**
 * Offsets outlines step by step; closed ones as pieces with their holes, open ones each by itself. One that cannot be
 * offset does not stop the others.
 *
 * @returns what came of it, or the first reason where nothing did (`nothing-left`, `bad-distance`, `bad-steps`,
 * `nothing-given`, `offset-failed`).
 */
export function offsetSteps(paths: readonly Path[], options: StepOptions): Result<Steps> {
	return finish(offsetStepsWork(paths, options));
}

/** The same, telling how far it has come (0 to 1). */
export function* offsetStepsWork(
	paths: readonly Path[],
	options: StepOptions
): Generator<number, Result<Steps>> {
	const { distance, steps = 1, way, watch } = options;
	if (!(distance > 0) || !Number.isFinite(distance)) {
		return failed('bad-distance', 'The distance must be a number above 0 mm.');
	}
	if (!(Number.isInteger(steps) && steps >= 1 && steps <= MOST_STEPS)) {
		return failed('bad-steps', `The number of steps must be a whole number from 1 to ${MOST_STEPS}.`);
	}
	const closed = paths.filter((p) => p.closed && p.types.length > 0);
	const open = paths.filter((p) => !p.closed && p.types.length > 0);
	if (closed.length + open.length === 0) return failed('nothing-given', 'There is no outline to offset.');
	const out: Path[] = [];
	let error = 0;
	let fallback = false;
	let problem: Problem | undefined;
	const keep = (result: Result<{ paths: Path[]; error: number; fallback?: boolean }>): boolean => {
		if (!result.ok) {
			problem ??= result.problem;
			return false;
		}
		out.push(...result.value.paths);
		error = Math.max(error, result.value.error);
		fallback ||= result.value.fallback ?? false;
		return true;
	};
	const total = steps * ((way === 'both' ? 2 : 1) * Math.min(1, closed.length) + open.length);
	let at = 0;
	const next = <T>(work: Generator<number, T>) => part(work, at / total, ++at / total);
	for (const sign of way === 'both' ? [1, -1] : [way === 'outside' ? 1 : -1]) {
		for (let k = 1; k <= steps && closed.length > 0; k++) {
			watch?.start();
			const made = () => watch?.stop();
			const result = yield* next(
				offsetPiecesSteps(closed, { ...options, distance: sign * k * distance, made })
			);
			made();
			// Where one step leaves nothing, the next ones do not either.
			if (!keep(result)) break;
		}
	}
	for (const line of open) {
		for (let k = 1; k <= steps; k++) {
			watch?.start();
			const result = yield* next(offsetLineSteps(line, { ...options, distance: k * distance }));
			watch?.stop();
			if (!keep(result)) break;
		}
	}
	if (out.length === 0) return { ok: false, problem: problem! };
	return done({ paths: out, error, fallback, ...(problem ? { problem } : {}) });
}

const MOST_STEPS = 1000;
