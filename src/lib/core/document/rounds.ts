/** Corners that are rounded or cut off and stay editable as such: kept by anchor id, put in when the line is resolved. */
import type { Point } from '../geometry/point';
import { failed, done, type Result } from '../errors';
import { chamfer, fillet } from '../geometry/corner';
import { STRIDE, type Path } from '../geometry/path';

/** One corner: an arc of a radius (0: sharp, where its shape would round it), or cut off so far before and after it; mm. */
export type Round =
	| { readonly anchor: number; readonly radius: number }
	| { readonly anchor: number; readonly first: number; readonly second: number };

/** Whether a round only says that its corner stays sharp. */
export const isSharp = (round: Round): boolean => 'radius' in round && round.radius === 0;

/** The segment that starts at a place; the nearest. */
function startAtPlace(path: Path, x: number, y: number): number {
	let best = 0;
	let least = Infinity;
	for (let i = 0; i < path.types.length; i++) {
		const off = Math.hypot(path.segs[STRIDE * i] - x, path.segs[STRIDE * i + 1] - y);
		if (off < least) {
			least = off;
			best = i;
		}
	}
	return best;
}

function roundOne(path: Path, round: Round, x: number, y: number): Result<Path> {
	if (isSharp(round)) return done(path);
	const at = startAtPlace(path, x, y);
	return 'radius' in round ? fillet(path, at, round.radius) : chamfer(path, at, round.first, round.second);
}

/**
 * The line with its rounds put in. One that fits no more, because the line was changed since, is made as large as fits.
 *
 * @param placeOf where an anchor lies; undefined where it is gone.
 */
export function withRounds(
	path: Path,
	rounds: readonly Round[],
	placeOf: (anchor: number) => Point | undefined
): Path {
	let out = path;
	for (const round of rounds) {
		const place = placeOf(round.anchor);
		if (!place) continue;
		const next = roundOne(out, round, place.x, place.y);
		if (next.ok) {
			out = next.value;
			continue;
		}
		// Halved until it fits, then as near to fitting as a few steps come.
		let lo = 0;
		let hi = 1;
		for (let k = 0; k < 24; k++) {
			const mid = (lo + hi) / 2;
			if (roundOne(out, scaledRound(round, mid), place.x, place.y).ok) lo = mid;
			else hi = mid;
		}
		const least = lo > 0 ? roundOne(out, scaledRound(round, lo), place.x, place.y) : next;
		if (least.ok) out = least.value;
	}
	return out;
}

/** A round so many times as large. */
export function scaledRound(round: Round, share: number): Round {
	return 'radius' in round
		? { ...round, radius: share * round.radius }
		: { ...round, first: share * round.first, second: share * round.second };
}

/** Whether all rounds fit as they are; otherwise the sentence of the first that does not. */
export function roundsFit(
	path: Path,
	rounds: readonly Round[],
	placeOf: (anchor: number) => Point | undefined
): Result<Path> {
	let out = path;
	for (const round of rounds) {
		const place = placeOf(round.anchor);
		if (!place) return failed('gone', 'This anchor is no longer there.');
		const next = roundOne(out, round, place.x, place.y);
		if (!next.ok) return next;
		out = next.value;
	}
	return done(out);
}

/** The rounds with those of some anchors put in place of what they had; undefined takes theirs out. */
export function exchangeRounds(
	rounds: readonly Round[] | undefined,
	anchors: Iterable<number>,
	make: ((anchor: number) => Round) | undefined
): readonly Round[] | undefined {
	const ids = new Set(anchors);
	const kept = (rounds ?? []).filter((r) => !ids.has(r.anchor));
	const next = make ? [...kept, ...[...ids].map(make)] : kept;
	return next.length ? next : undefined;
}
