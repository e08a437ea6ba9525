/** What pixels that were only told ink or paper say of an outline: their middles lie on the side that each says. */
import type { Line } from './line';
import { nearestAgain, sideOf, turnAt, type Beside } from './beside';
import type { Agreement, Asked, Witness } from './settle';

/** Whether pixel (i, j) is ink. */
export type IsInk = (i: number, j: number) => boolean;

/** Pixels say their side as surely as a logistic of a spread, px. */
export const twoTones = (isInk: IsInk): Witness => ({
	isTold: false,
	together: 1,
	even: 0.04,
	reach: (spread) => Math.min(REACH, MARGIN + SEEN * spread),
	agreement: (line, beside, spread, asked) => agreement(line, beside, spread, asked, isInk)
});
/** px: pixels whose middles lie farther off tell nothing. */
const REACH = 1.6;
/** px beyond what pixels of a spread say: so far the outline may go meanwhile; and spreads that they say something within. */
const MARGIN = 0.4;
const SEEN = 8;

function agreement(
	line: Line,
	beside: Beside,
	spread: number,
	asked: Asked | undefined,
	isInk: IsInk
): Agreement {
	const n = line.net.types.length;
	const costs = new Float64Array(n);
	// px: how far middles lie on the wrong side, added up along each segment.
	const wrong = new Float64Array(n);
	const seen = new Float64Array(n);
	const by = new Float64Array(8);
	const needles = needlesOf(line);
	for (let i = 0; i < beside.count; i++) {
		const off = nearestAgain(line, beside, i);
		const sure = off / spread;
		const [x, y] = [beside.x[i], beside.y[i]];
		const tone = isInk(x - 0.5, y - 0.5) ? 1 : -1;
		const side = sideOf(line, x, y);
		seen[line.k]++;
		const margin = side === tone ? sure : -sure;
		if (margin > NOTHING_NEW || (margin < 0 && side > 0 && isInNeedle(line, needles, off, x, y))) continue;
		costs[line.k] += Math.log1p(Math.exp(-Math.max(-500, margin)));
		if (margin < 0) wrong[line.k] += off;
		if (!asked) continue;
		const doubt = 1 / (1 + Math.exp(margin));
		// From ink to paper, square to the outline.
		if (off < 1e-6) line.moves(-line.dy, line.dx, by);
		else line.moves((side * (line.x - x)) / off, (side * (line.y - y)) / off, by);
		const weight = Math.max(LEAST_WEIGHT, doubt * (1 - doubt)) / (spread * spread);
		asked.equations.add(asked.places.of[line.k], by, weight, (tone * doubt) / spread);
	}
	return {
		costs,
		// An outline by itself has no junctions.
		atStart: new Float64Array(n),
		atEnd: new Float64Array(n),
		seen,
		due: beside.along.map((length) => EVEN * spread * length),
		// A rough edge puts as many middles on the wrong side as lie under half its square.
		rough: beside.along.map((length, k) => Math.sqrt((2 * wrong[k]) / Math.max(1, length)) / LOGISTIC)
	};
}

/** Which joints are tips of needles. */
function needlesOf(line: Line): Uint8Array {
	return Uint8Array.from(line.net.types, (_, k) => ((turnAt(line, k) ?? 0) < -NEEDLE ? 1 : 0));
}
/** px: what is narrower than this covers no pixel by half. */
const HALF = 0.5;
/** Radians by which the line turns back at the tip of a needle, at least. */
const NEEDLE = (2 / 3) * Math.PI;

/** Whether a place on the ink's side, `off` px from the line, lies where a needle is too narrow for any pixel to be ink. */
function isInNeedle(line: Line, needles: Uint8Array, off: number, x: number, y: number): boolean {
	const { k, t } = line;
	const { before, after } = line.course;
	const isFirst = needles[k] && t < 0.5;
	if (!isFirst && !needles[after[k]]) return false;
	const across = isFirst ? line.nearest(before[k], 1, x, y) : line.nearest(after[k], 0, x, y);
	return off + across < HALF;
}

/** Spreads beyond which a pixel on its side says nothing any more. */
const NOTHING_NEW = 12;
/** A pixel far on the wrong side pulls, but does not say how far; with some weight steps stay short. */
const LEAST_WEIGHT = 0.02;

/** What a pixel of edge costs in spreads: twice the integral of log(1 + e^-x) from 0 on. */
const EVEN = (Math.PI * Math.PI) / 6;
/** Root mean square of a logistic of spread 1. */
const LOGISTIC = Math.PI / Math.sqrt(3);
