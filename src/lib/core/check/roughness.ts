/** What makes a line bad to cut or to edit though it is closed and clear: spikes, jagged stretches, needless anchors. */
import { fairPath } from '../fairing/fair';
import { likelyDrift, TOOTH_LENGTH } from '../fairing/likely-drift';
import { simplifyPath } from '../fairing/simplify';
import { anchorCount, pathLength, turnAt } from '../geometry/measure';
import { finish } from '../progress';
import { PathBuilder, STRAIGHT, STRIDE, type Path } from '../geometry/path';
import { directionAt, parameterAtLength, pointAt, segmentLength } from '../geometry/segment';
import type { Fault } from './fault';

/** Degrees: an anchor that turns more is a spike: the line goes there and back. */
const SPIKE = 172;
/** Wider than this share of its length it is a tip, and meant. */
const SPIKE_WIDTH = 0.1;
/** Degrees: teeth turn by more, to one side and the other. */
const TOOTH_TURN = 12;
/** So many teeth in a row make a jagged stretch. */
const TEETH = 12;
/** Anchors on a mm of line that are more than any shape needs. */
const DENSE = 3;
/** mm: how far mending may move a dense line. */
const THIN_DRIFT = 0.02;

/** One fault of each kind for each outline; none of them stops a cut. */
export const findRoughness = (paths: readonly Path[]): Fault[] => finish(roughnessSteps(paths));

/** The same, telling how far it has come (0 to 1). */
export function* roughnessSteps(paths: readonly Path[]): Generator<number, Fault[]> {
	const faults: Fault[] = [];
	for (const [outline, path] of paths.entries()) {
		yield outline / paths.length;
		const n = path.types.length;
		if (n < 3) continue;
		const turns = Float64Array.from(path.types, (_, i) => turnAt(path, i));
		const at = (i: number) => ({ x: path.segs[STRIDE * i], y: path.segs[STRIDE * i + 1] });
		const spikes = Array.from(turns, (t, i) => (isSpike(path, i, t) ? i : -1)).filter((i) => i >= 0);
		if (spikes.length > 0)
			faults.push({
				kind: 'spike',
				outline,
				...at(spikes[0]),
				why:
					spikes.length === 1
						? 'The line runs out to a spike here and back on itself.'
						: `The line runs out to ${spikes.length} spikes and back on itself, first here.`,
				mend: 'take-spikes',
				stops: false
			});
		const teeth = teethOf(path, turns);
		if (teeth) {
			faults.push({
				kind: 'jagged',
				outline,
				...at(teeth.first),
				why: `A jagged stretch of ${teeth.count} teeth: the machine would cut every one. Fairing moves the line ${likelyDrift(path).toFixed(2)} mm at most.`,
				mend: 'fair',
				stops: false
			});
		} else if (n > 60 && isDense(path, turns)) {
			faults.push({
				kind: 'dense',
				outline,
				...at(0),
				why: `${anchorCount(path)} anchors on ${pathLength(path).toFixed(0)} mm: far more than the shape needs. Thinning moves the line ${THIN_DRIFT} mm at most.`,
				mend: 'thin',
				stops: false
			});
		}
	}
	return faults;
}

/**
 * Whether a line has far more anchors than its shape needs: so many on a mm that no shape does, or several times as many as its
 * corners and the turning between them ask for, where thinning is seen to take most of them.
 */
function isDense(path: Path, turns: Float64Array): boolean {
	if (anchorCount(path) > DENSE * pathLength(path)) return true;
	const n = path.types.length;
	if (n > MOST_TRIED || n <= SPARE * anchorsNeeded(path, turns)) return false;
	return anchorCount(simplifyPath(path, THIN_DRIFT).path) < n / 2;
}

/** Anchors that the corners and the turning of a line ask for: a cubic is good for about an eighth of a turn. */
function anchorsNeeded({ types, segs }: Path, turns: Float64Array): number {
	let corners = 2;
	let turning = 0;
	for (let i = 0; i < types.length; i++) {
		const turn = Math.abs(turns[i]);
		if (turn > CORNER_TURN) corners++;
		else turning += turn;
		if (types[i] === STRAIGHT) continue;
		const at = STRIDE * i;
		const a = directionAt(types[i], segs, at, 0);
		const b = directionAt(types[i], segs, at, 1);
		turning += (Math.abs(Math.atan2(a.x * b.y - a.y * b.x, a.x * b.x + a.y * b.y)) * 180) / Math.PI;
	}
	return corners + turning / TURN_OF_CUBIC;
}

/** Degrees: a sharper turn is a corner; what one cubic bends. */
const CORNER_TURN = 30;
const TURN_OF_CUBIC = 45;
/** Times as many anchors as needed are still no fault; longer lines than this are not tried. */
const SPARE = 4;
const MOST_TRIED = 4000;

/** Whether the line goes out to an anchor and back along itself: where it turns round, and both sides lie close together. */
function isSpike(path: Path, i: number, turn: number): boolean {
	if (Math.abs(turn) <= SPIKE) return false;
	const n = path.types.length;
	const before = (i + n - 1) % n;
	const lengths = [before, i].map((k) => segmentLength(path.types[k], path.segs, STRIDE * k));
	const along = 0.8 * Math.min(...lengths);
	const place = (k: number, off: number) =>
		pointAt(
			path.types[k],
			path.segs,
			STRIDE * k,
			parameterAtLength(path.types[k], path.segs, STRIDE * k, off)
		);
	const a = place(before, lengths[0] - along);
	const b = place(i, along);
	return Math.hypot(a.x - b.x, a.y - b.y) < SPIKE_WIDTH * along;
}

/** The longest row of teeth: short segments that turn to one side and the other. */
function teethOf(path: Path, turns: Float64Array): { first: number; count: number } | undefined {
	const n = turns.length;
	let best: { first: number; count: number } | undefined;
	let first = 0;
	let count = 0;
	let quiet = 0;
	for (let i = 0; i < n; i++) {
		const isTooth =
			Math.abs(turns[i]) > TOOTH_TURN &&
			segmentLength(path.types[i], path.segs, STRIDE * i) < TOOTH_LENGTH &&
			turns[i] * turns[(i + 1) % n] < 0;
		if (isTooth) {
			if (count === 0) first = i;
			count++;
			quiet = 0;
			if (!best || count > best.count) best = { first, count };
		} else if (++quiet > 2) count = 0;
	}
	return best && best.count >= TEETH ? best : undefined;
}

/** The line without its spikes: the anchors at their tips go, what they stood on is joined straight. */
export function withoutSpikes(path: Path): Path {
	let now = path;
	for (let round = 0; round < 50; round++) {
		const n = now.types.length;
		let tip = -1;
		for (let i = now.closed ? 0 : 1; i < n && tip < 0; i++) if (isSpike(now, i, turnAt(now, i))) tip = i;
		if (tip < 0 || n < 4) return now;
		const before = (tip + n - 1) % n;
		const start = now.closed ? (tip + 1) % n : 0;
		const builder = new PathBuilder(now.segs[STRIDE * start], now.segs[STRIDE * start + 1]);
		for (let k = 0; k < n; k++) {
			const i = (start + k) % n;
			if (i === before) {
				// Shorter than where the spike began: the way back is the line.
				const e = STRIDE * tip;
				const [x, y] = [now.segs[e + 6], now.segs[e + 7]];
				const [sx, sy] = [now.segs[STRIDE * before], now.segs[STRIDE * before + 1]];
				if (Math.hypot(x - sx, y - sy) > 1e-6) builder.line(x, y);
			} else if (i !== tip) builder.segment(now.types[i], now.segs, STRIDE * i);
		}
		now = now.closed ? builder.close(1e-6) : builder.open();
	}
	return now;
}

/** What mends a rough line, as the line it becomes. */
export function smoothedLine(path: Path, mend: 'take-spikes' | 'fair' | 'thin'): Path {
	if (mend === 'take-spikes') return withoutSpikes(path);
	return mend === 'fair'
		? fairPath(path, { drift: likelyDrift(path) }).path
		: simplifyPath(path, THIN_DRIFT).path;
}
