/** Where outlines cross, touch or meet, among all segments of many paths. */
import { CoreError } from '../errors';
import { LIMIT, TOLERANCE } from '../tolerance';
import { finish } from '../progress';
import { nearPairSteps, gatherSegments, indexBoxes } from './segment-set';
import { cubicLoop, findMeetings, lastMeetings, type SegmentMeeting } from '../geometry/meetings';
import { CUBIC, STRIDE, type Path } from '../geometry/path';
import { directionAt } from '../geometry/segment';

/** A common place of two paths (or of one with itself). */
export interface Crossing extends SegmentMeeting {
	pathA: number;
	segmentA: number;
	pathB: number;
	segmentB: number;
	/** Whether one line passes to the other side of the other there, not merely touches it. */
	through: boolean;
}

/**
 * All places that the paths have in common, with themselves and with each other, anchors that merely follow one
 * another left out.
 *
 * @param only 'self': each path with itself; 'others': different paths only; 'all'.
 * @throws CoreError `tangle` beyond `LIMIT.crossings`.
 */
export const pathCrossings = (paths: readonly Path[], only: 'self' | 'others' | 'all' = 'all'): Crossing[] =>
	finish(crossingSteps(paths, only));

/** The same, telling how far it has come (0 to 1). */
export function* crossingSteps(
	paths: readonly Path[],
	only: 'self' | 'others' | 'all' = 'all'
): Generator<number, Crossing[]> {
	const out: Crossing[] = [];
	const set = gatherSegments(paths);
	if (set.count === 0) return out;
	const { segs, types, pathOf, firsts } = set;
	if (only !== 'others') {
		for (let i = 0; i < set.count; i++) {
			const loop = types[i] === CUBIC ? cubicLoop(segs, STRIDE * i) : undefined;
			if (!loop) continue;
			const p = pathOf[i];
			const segment = i - firsts[p];
			const through = !(loop.t === 0 && loop.u === 1);
			out.push({ ...loop, pathA: p, segmentA: segment, pathB: p, segmentB: segment, through });
		}
	}
	yield* nearPairSteps(
		set,
		indexBoxes(set),
		(i, j) => {
			const n = findMeetings(types[i], segs, STRIDE * i, types[j], segs, STRIDE * j);
			if (n === 0) return;
			const [pathA, pathB] = [pathOf[i], pathOf[j]];
			const [A, B] = [paths[pathA], paths[pathB]];
			const [segmentA, segmentB] = [i - firsts[pathA], j - firsts[pathB]];
			for (let k = 0; k < n; k++) {
				const meeting = {
					t: lastMeetings[4 * k],
					u: lastMeetings[4 * k + 1],
					x: lastMeetings[4 * k + 2],
					y: lastMeetings[4 * k + 3]
				};
				if (pathA === pathB && isSharedAnchor(A, segmentA, segmentB, meeting)) continue;
				const crossing = { ...meeting, pathA, segmentA, pathB, segmentB };
				out.push({ ...crossing, through: passesThrough(A, B, crossing) });
			}
			if (out.length > LIMIT.crossings) {
				throw new CoreError(
					'tangle',
					`These outlines cross more than ${LIMIT.crossings} times. Simplify them first.`
				);
			}
		},
		only
	);
	return out;
}

/** Which of the paths cross themselves or others, telling how far it has come (0 to 1). */
export function* tangledSteps(paths: readonly Path[]): Generator<number, Set<number>> {
	const out = new Set<number>();
	for (const { through, pathA, pathB } of yield* crossingSteps(paths))
		if (through || pathA === pathB) out.add(pathA).add(pathB);
	return out;
}

function isSharedAnchor(path: Path, i: number, j: number, m: SegmentMeeting): boolean {
	const n = path.types.length;
	const near = 1e-4;
	if (j === i + 1 && m.t > 1 - near && m.u < near) return isAtAnchor(path, i, m);
	if (path.closed && i === 0 && j === n - 1 && m.t < near && m.u > 1 - near)
		return isAtAnchor(path, n - 1, m);
	return false;
}

function isAtAnchor(path: Path, i: number, m: SegmentMeeting): boolean {
	const at = STRIDE * i;
	return Math.hypot(path.segs[at + 6] - m.x, path.segs[at + 7] - m.y) <= 10 * TOLERANCE.coincidence;
}

/** Do the two arms of B leave the place on different sides of A? */
function passesThrough(
	A: Path,
	B: Path,
	m: { segmentA: number; segmentB: number; t: number; u: number }
): boolean {
	const a = arms(A, m.segmentA, m.t);
	const b = arms(B, m.segmentB, m.u);
	if (!a || !b) return false;
	const between = (x: number) => {
		const turn = (v: number) => v - 2 * Math.PI * Math.floor(v / (2 * Math.PI));
		return turn(x - a.out) < turn(a.back - a.out);
	};
	const apart = (p: number, q: number) => Math.abs(Math.sin((p - q) / 2)) > 1e-7;
	const clear = apart(b.out, a.out) && apart(b.out, a.back) && apart(b.back, a.out) && apart(b.back, a.back);
	return clear && between(b.out) !== between(b.back);
}

/** Directions, radians, in which the line leaves a place forward and backward; undefined at an open end. */
function arms(path: Path, segment: number, t: number): { out: number; back: number } | undefined {
	const n = path.types.length;
	const eps = 1e-9;
	let outSegment = segment;
	let outT = t;
	let inSegment = segment;
	let inT = t;
	if (t > 1 - eps) {
		outSegment = segment + 1;
		outT = 0;
	}
	if (t < eps) {
		inSegment = segment - 1;
		inT = 1;
	}
	if (!path.closed && (inSegment < 0 || outSegment >= n)) return undefined;
	outSegment = (outSegment + n) % n;
	inSegment = (inSegment + n) % n;
	const o = directionAt(path.types[outSegment], path.segs, STRIDE * outSegment, outT);
	const b = directionAt(path.types[inSegment], path.segs, STRIDE * inSegment, inT);
	return { out: Math.atan2(o.y, o.x), back: Math.atan2(-b.y, -b.x) };
}
