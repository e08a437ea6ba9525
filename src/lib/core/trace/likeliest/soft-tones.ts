/** What the tones of a soft picture say of an outline: blur spreads an edge, and a corner, over the pixels beside it. */
import { STRIDE } from '../../geometry/path';
import { segmentLength } from '../../geometry/segment';
import { nearestAgain, sideOf, turnAt, type Beside } from './beside';
import type { Line } from './line';
import { bothBelow, below, density } from './normal';
import { SMOOTH, type Agreement, type Asked, type Witness } from './settle';
import { Tally } from './tally';

/** px: the standard deviation of a pixel's own width. */
const PIXEL = Math.sqrt(1 / 12);
/** Standard deviations of the blur: within which pixels are asked, and beyond which nothing else may lie. */
const REACH = 2;
const ALONE = 2.5;
/** How near to plain ink or paper a share is that counts as such. */
const LIKE_PLAIN = 0.12;
/** Spreads beyond which a pixel counts less and less. */
const ODD = 4;

/**
 * @param coverOf how much of pixel (i, j) is ink by its tone, 0 to 1 and a little beyond.
 * @param blur px: its standard deviation, beyond the pixel.
 */
export function softTones(coverOf: (i: number, j: number) => number, blur: number): Witness {
	const soft = Math.hypot(blur, PIXEL);
	return {
		isTold: true,
		// Noise that went through the same blur strays together.
		together: Math.max(4, 2 * Math.PI * blur * blur),
		even: 0,
		reach: () => REACH * soft,
		agreement: (line, beside, spread, asked) => agreement(line, beside, spread, asked, coverOf, soft)
	};
}

function agreement(
	line: Line,
	beside: Beside,
	spread: number,
	asked: Asked | undefined,
	coverOf: (i: number, j: number) => number,
	soft: number
): Agreement {
	const { types, segs } = line.net;
	const { before, after } = line.course;
	const n = types.length;
	const tally = new Tally(n, spread, ODD);
	const lengths = Array.from(types, (type, k) => segmentLength(type, segs, STRIDE * k));
	const turns = Array.from(types, (_, k) => turnAt(line, k) ?? 0);
	const by = new Float64Array(8);
	const other = new Float64Array(8);
	const add = (k: number, left: number, at: readonly number[], ways: ArrayLike<number>) => {
		const weight = tally.add(k, left * left);
		asked?.equations.add(at, ways, weight, weight * left);
	};
	/** How much the ink grows as segment k goes, by the place where the line is; a row of its places' vectors. */
	const moves = (k: number, edge: number, out: Float64Array): number => {
		line.moves(-line.dy, line.dx, out);
		const count = 2 * (asked?.places.of[k].length ?? 0);
		for (let i = 0; i < count; i++) out[i] *= edge;
		return count;
	};
	/** px inside the ink by a segment alone, prolonged beyond its end where a place lies there. */
	const insideOf = (k: number, end: 0 | 1, x: number, y: number): number => {
		line.nearest(k, end, x, y);
		line.go(k, line.found);
		if (line.t === end) {
			const ahead = (x - line.x) * line.dx + (y - line.y) * line.dy;
			line.go(k, end + ahead / lengths[k]);
		}
		return (x - line.x) * line.dy - (y - line.y) * line.dx;
	};
	const lists = new Map<number, readonly number[]>();
	for (let i = 0; i < beside.count; i++) {
		const off = nearestAgain(line, beside, i);
		if (off > REACH * soft) continue;
		const [x, y] = [beside.x[i], beside.y[i]];
		const share = coverOf(x - 0.5, y - 0.5);
		const { k, t } = line;
		const along = t * lengths[k];
		const end = along < lengths[k] - along ? 0 : 1;
		// The joint that is nearer, by the segment that begins there.
		const joint = end === 0 ? k : after[k];
		const isCorner = Math.min(along, lengths[k] - along) < ALONE * soft && Math.abs(turns[joint]) > SMOOTH;
		if (!isCorner) {
			const plain = (side: number) =>
				coverOf(Math.floor(line.x + side * line.dy), Math.floor(line.y - side * line.dx));
			if (Math.abs(plain(ALONE * soft) - 1) > LIKE_PLAIN || Math.abs(plain(-ALONE * soft)) > LIKE_PLAIN)
				continue;
			const d = (sideOf(line, x, y) * off) / soft;
			moves(k, density(d) / soft, by);
			add(k, share - below(d), asked?.places.of[k] ?? [], by);
			continue;
		}
		const next = end === 0 ? before[k] : after[k];
		if (Math.min(lengths[k], lengths[next]) < ALONE * soft || next === k) continue;
		const there = insideOf(next, end === 0 ? 1 : 0, x, y) / soft;
		const [nx, ny] = [line.dx, line.dy];
		const isInk = turns[joint] < 0 ? 1 : -1;
		line.go(k, t);
		const here = insideOf(k, end, x, y) / soft;
		const together = Math.min(0.999, Math.max(-0.999, nx * line.dx + ny * line.dy));
		// In a corner of ink both sides have to have a place on their ink; in one of paper both on their paper.
		const both = bothBelow(isInk * here, isInk * there, together);
		const cover = isInk > 0 ? both : 1 - both;
		const root = Math.sqrt(1 - together * together);
		const edge = (a: number, b: number) => (density(a) * below((isInk * (b - together * a)) / root)) / soft;
		const count = moves(k, edge(here, there), by);
		insideOf(next, end === 0 ? 1 : 0, x, y);
		const more = moves(next, edge(there, here), other);
		let at: readonly number[] = [];
		if (asked) {
			const name = end === 0 ? next * n + k : k * n + next;
			const [a, b] = end === 0 ? [next, k] : [k, next];
			at = lists.get(name) ?? [...asked.places.of[a], ...asked.places.of[b]];
			lists.set(name, at);
		}
		const [own, its] = [by.subarray(0, count), other.subarray(0, more)];
		add(k, share - cover, at, end === 0 ? [...its, ...own] : [...own, ...its]);
	}
	return tally.agreement();
}
