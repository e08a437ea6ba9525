/** Corners of a pixel contour: where the two sides, each prolonged, meet at an angle. */
import { neededPlaces } from '../geometry/thinned';
import { leastTurn, type CornerRule } from './corner-verdicts';
import { localLine, trailLength, type Trail, type TrailCorner } from '../fit/fit';
import { turnBetween } from '../geometry/segment';

export interface CornerOptions extends CornerRule {
	/** px: how much of each side is looked at. */
	readonly side: number;
	/** px: how much beside the corner is left out, as pixels blunt it there. */
	readonly blunt: number;
}

/**
 * Corners in order along the trail (px). Each stands where both sides, fitted by parabolas that leave out the
 * blunted pixels beside the corner, would meet when prolonged.
 *
 * Candidates are the corners of a polygon along the contour, so that the two of a narrow end stay apart; each is
 * then judged by as much of its sides as reaches to the next candidates, and the judgement is repeated once the false
 * ones are gone, so that a tight bend is not taken for a corner.
 */
export function findCorners(trail: Trail, options: CornerOptions): TrailCorner[] {
	const { side, blunt } = options;
	const n = trail.count;
	const whole = trail.s[n];
	if (n < 8 || whole < 6 * blunt) return [];
	let candidates = onePerTurn(trail, polygonCorners(trail, 0.45 * blunt), blunt);
	let out: TrailCorner[] = [];
	for (let round = 0; round < 3; round++) {
		out = [];
		const kept: number[] = [];
		candidates.forEach((i, k) => {
			const { before, after } = gaps(trail, candidates, k);
			const reach = (space: number) => Math.max(1.2, Math.min(side, space - 2 * blunt, whole / 4));
			const a = sideLine(trail, i, reach(before), blunt, -1);
			const b = sideLine(trail, i, reach(after), blunt, 1);
			if (Math.abs(turnBetween(a.tx, a.ty, b.tx, b.ty)) < leastTurn(options, trail.x[i], trail.y[i])) return;
			const corner = meet(trail, i, a, b, blunt);
			if (!corner) return;
			out.push(corner);
			kept.push(i);
		});
		if (kept.length === candidates.length) break;
		candidates = kept;
	}
	return out;
}

/** Length to the candidate before and to the one after, or to the trail's ends. */
function gaps(trail: Trail, candidates: readonly number[], k: number): { before: number; after: number } {
	const m = candidates.length;
	const i = candidates[k];
	if (!trail.closed) {
		return {
			before: trail.s[i] - (k > 0 ? trail.s[candidates[k - 1]] : 0),
			after: (k + 1 < m ? trail.s[candidates[k + 1]] : trail.s[trail.count - 1]) - trail.s[i]
		};
	}
	const whole = trail.s[trail.count];
	return {
		before: m > 1 ? gap(trail, candidates[(k + m - 1) % m], i) : whole,
		after: m > 1 ? gap(trail, i, candidates[(k + 1) % m]) : whole
	};
}

/** Length along the closed trail from point i forward to point j. */
function gap(trail: Trail, i: number, j: number): number {
	const d = trail.s[j] - trail.s[i];
	return d > 0 ? d : d + trail.s[trail.count];
}

/**
 * The points that a polygon within `tolerance` px of the contour needs: every corner is among them, beside others that
 * only follow bends.
 */
function polygonCorners({ x, y, closed, count }: Trail, tolerance: number): number[] {
	const needed = neededPlaces(x.subarray(0, count), y.subarray(0, count), closed, tolerance);
	return closed ? needed : needed.slice(1, -1);
}

/** Of candidates so near each other that they can only be one blunted corner, the one where the line turns most. */
function onePerTurn(trail: Trail, candidates: readonly number[], blunt: number): number[] {
	const turn = candidates.map((i) => Math.abs(chordTurn(trail, i, 0.6 * blunt, 0.6 * blunt + 1.6)));
	const m = candidates.length;
	return candidates.filter((i, k) => {
		const { before, after } = gaps(trail, candidates, k);
		for (const [other, space] of [
			[(k + 1) % m, after],
			[(k + m - 1) % m, before]
		]) {
			if (other === k || space > 1.8 * blunt) continue;
			// An open trail's end is no candidate.
			if (!trail.closed && Math.abs(other - k) !== 1) continue;
			if (turn[other] > turn[k] || (turn[other] === turn[k] && other < k)) return false;
		}
		return true;
	});
}

/** Turn between the chords from `near` to `far` px before point i and after it, degrees. */
function chordTurn(trail: Trail, i: number, near: number, far: number): number {
	const a = alongTrail(trail, i, -far);
	const b = alongTrail(trail, i, -near);
	const c = alongTrail(trail, i, near);
	const d = alongTrail(trail, i, far);
	const ux = trail.x[b] - trail.x[a];
	const uy = trail.y[b] - trail.y[a];
	const vx = trail.x[d] - trail.x[c];
	const vy = trail.y[d] - trail.y[c];
	return turnBetween(ux, uy, vx, vy);
}

/** The point about `length` px along from point i, wrapped; on an open trail no farther than its end. */
function alongTrail(trail: Trail, i: number, length: number): number {
	const n = trail.count;
	const dir = length < 0 ? -1 : 1;
	let k = i;
	const s0 = trail.s[i];
	while (Math.abs(k - i) < n / 2 && Math.abs(trailLength(trail, k) - s0) < Math.abs(length)) {
		if (!trail.closed && (k + dir < 0 || k + dir >= n)) break;
		k += dir;
	}
	return ((k % n) + n) % n;
}

type Side = { x: number; y: number; tx: number; ty: number; curvature: number };

function sideLine(trail: Trail, i: number, reach: number, blunt: number, dir: 1 | -1): Side {
	return dir < 0
		? localLine(trail, i, reach + blunt, 0, blunt)
		: localLine(trail, i, 0, reach + blunt, blunt);
}

/** The corner near point i where both sides meet; nothing where they meet too far away to be this corner. */
function meet(trail: Trail, i: number, a: Side, b: Side, blunt: number): TrailCorner | undefined {
	const det = a.tx * b.ty - a.ty * b.tx;
	let x = (a.x + b.x) / 2;
	let y = (a.y + b.y) / 2;
	if (Math.abs(det) > 0.2) {
		const u = ((b.x - a.x) * b.ty - (b.y - a.y) * b.tx) / det;
		const v = ((b.x - a.x) * a.ty - (b.y - a.y) * a.tx) / det;
		// Along the parabolas, not their tangents: a second step corrects for the bend.
		const bendA = (a.curvature * u * u) / 2;
		const bendB = (b.curvature * v * v) / 2;
		const ax = a.x - a.ty * bendA;
		const ay = a.y + a.tx * bendA;
		const bx = b.x - b.ty * bendB;
		const by = b.y + b.tx * bendB;
		const w = ((bx - ax) * b.ty - (by - ay) * b.tx) / det;
		x = ax + a.tx * w;
		y = ay + a.ty * w;
	}
	const off = Math.hypot(x - trail.x[i], y - trail.y[i]);
	// The sharper the tip, the farther the pixels stay short of it.
	const half = (Math.abs(turnBetween(a.tx, a.ty, b.tx, b.ty)) / 2) * (Math.PI / 180);
	const most = (1.5 + 1.5 / Math.max(0.15, Math.cos(half))) * Math.max(1, blunt / 2.2);
	if (!(off < most)) return undefined;
	// So is the stretch beside it in which neither side stands clear of the other.
	const reach = Math.min(6 * blunt, (2 * blunt) / Math.max(0.2, Math.cos(half)));
	return { index: i, x, y, inX: a.tx, inY: a.ty, outX: b.tx, outY: b.ty, blunt: reach };
}
