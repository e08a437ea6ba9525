/** How much a line turns in all, and how much of that is its shape: the rest is wobble. */
import type { Point } from '../geometry/point';
import { turnAt } from '../geometry/measure';
import { STRAIGHT, STRIDE, type Path } from '../geometry/path';
import { directionAt, turnBetween } from '../geometry/segment';
import { samplePath } from './even-samples';

/** Directions looked at on each curve. */
const LOOKS = 12;
/** Chords of a line, at least. */
const LEAST_CHORDS = 24;
/** Drifts: how long the chords are by which a jagged line's shape is told from its teeth. */
const CHORD_DRIFTS = 25;
/** So much more than its shape may a fair line turn, and so many degrees beside. */
const MORE = 1.25;
const BESIDE = 25;

const between = (a: Point, b: Point) => Math.abs(turnBetween(a.x, a.y, b.x, b.y));

/** Degrees, to one side and to the other alike, all along a line and at its anchors. */
export function totalTurning(path: Path): number {
	let sum = 0;
	for (let i = 0; i < path.types.length; i++) {
		if (path.closed || i > 0) sum += Math.abs(turnAt(path, i));
		if (path.types[i] === STRAIGHT) continue;
		let last = directionAt(path.types[i], path.segs, STRIDE * i, 0);
		for (let k = 1; k <= LOOKS; k++) {
			const next = directionAt(path.types[i], path.segs, STRIDE * i, k / LOOKS);
			sum += between(last, next);
			last = next;
		}
	}
	return sum;
}

/** Degrees that the shape of a jagged line turns: that of a polygon along it with sides too long to follow its teeth. */
export function shapeTurning(path: Path, length: number, drift: number): number {
	const { x, y, closed } = samplePath(path, length, Math.min(CHORD_DRIFTS * drift, length / LEAST_CHORDS));
	const n = x.length;
	const chord = (i: number) => ({ x: x[(i + 1) % n] - x[i % n], y: y[(i + 1) % n] - y[i % n] });
	let sum = 0;
	for (let i = closed ? 0 : 1; i + (closed ? 0 : 1) < n; i++)
		sum += between(chord((i + n - 1) % n), chord(i));
	return sum;
}

/** Whether a drawn line turns by much more than the shape of the line that it stands for; both in degrees. */
export function isWobbly(turning: number, shape: number): boolean {
	return turning > MORE * shape + BESIDE;
}

/** Anchors that weigh as much as turning by the shape once more. */
const HANDFUL = 10;

/** What a drawn line costs who edits it: its anchors, the more so the more it wobbles. Less is better. */
export function burden(anchors: number, turning: number, shape: number): number {
	return Math.max(1, turning / Math.max(1, shape)) * (anchors + HANDFUL);
}
