/**
 * Tips of needles: where two sides meet at a few degrees, the tone passes the threshold long before the ink ends, as far as a
 * dozen pixels before it. What lies beyond is told from the ink that is there: stations along the needle's own middle,
 * at each how much ink lies across it (which neither pixels nor blur change) and where its middle is. The widths are
 * prolonged to nothing; the ink ahead says whether that is right.
 * The same holds for needles of paper between ink, turned round.
 */
import type { Point } from '../geometry/point';
import type { Contour } from './boundary';
import { inkAcross, type Tones } from './across';
import type { GreyPicture } from './picture';
import { addEquation, eliminate } from '../linear/small';

/** A place on the way along a needle. */
interface Station {
	/** px along the needle's middle, from where the contour turns; and where the middle is. */
	readonly s: number;
	readonly x: number;
	readonly y: number;
	/** px of ink across. */
	readonly width: number;
}

/** px: ink across of which the middle can't be told. */
const weakOf = (noise: number) => 0.15 + 4 * noise;

/** px: how far apart stations are. */
const STEP = 0.5;
/** px: as wide as this a needle's sides stand clear of each other in a sharp picture; more in a blurred one. */
const CLEAR = 3;
const clearFrom = (blur: number) => CLEAR + 2 * blur;
/** px: how far back and ahead of where the contour turns a needle is looked at, at most. */
const BACK = 40;
const AHEAD = 45;
/** The cosine of the turn at a needle's end, at least. */
const TURNED = -0.8;
/** px of width a px of length: a needle's sides part at least so much, and at most. */
const LEAST_SLOPE = 0.03;
const MOST_SLOPE = 0.62;
/** Half way back they part at so much of what they do at the tip, at least. */
const STEADY = 0.3;

/**
 * The contour with its needles drawn to their tips.
 *
 * @param blur px: the standard deviation of the picture's blur beyond the pixel.
 * @param noise px: how the contour's points scatter.
 */
export function withTips(
	picture: GreyPicture,
	contour: Contour,
	tones: Tones,
	blur: number,
	noise: number
): Contour {
	const { points } = contour;
	const n = points.length / 2;
	const reach = clearFrom(blur);
	if (n < 4 * reach) return contour;
	const turns = sharpTurns(points, Math.ceil(reach) + 2);
	if (turns.length === 0) return contour;
	const found = turns.flatMap((turn, k) => {
		// Half of the way to the next turn on either side is its own.
		const before = turn.index - turns[(k + turns.length - 1) % turns.length].index;
		const after = turns[(k + 1) % turns.length].index - turn.index;
		const own = [before, after].map((d) => Math.floor((d > 0 ? d : d + n) / 2));
		return needleAt(picture, points, turn, own, tones, blur, noise) ?? [];
	});
	return found.length ? spliced(contour, found) : contour;
}

/** Where a contour turns right round within a few points, and whether it is ink that ends there. */
interface Turn {
	readonly index: number;
	readonly isInk: boolean;
}

function sharpTurns(points: Float64Array, side: number): Turn[] {
	const n = points.length / 2;
	const at = (i: number) => ((i % n) + n) % n;
	/** How far a point lies before the middle of those beside it, where the contour turns right round. */
	const before = new Float64Array(n);
	for (let i = 0; i < n; i++) {
		const [a, b] = [at(i - side), at(i + side)];
		const [ux, uy] = [points[2 * i] - points[2 * a], points[2 * i + 1] - points[2 * a + 1]];
		const [vx, vy] = [points[2 * b] - points[2 * i], points[2 * b + 1] - points[2 * i + 1]];
		const isRound = ux * vx + uy * vy < TURNED * Math.hypot(ux, uy) * Math.hypot(vx, vy);
		before[i] = isRound ? Math.hypot(ux - vx, uy - vy) / 2 : 0;
	}
	/** Twice the area that the points beside one go round, positive with the clock as seen. */
	const round = (i: number) => {
		let twice = 0;
		for (let k = -side; k <= side; k++) {
			const [a, b] = [at(i + k), at(k < side ? i + k + 1 : i - side)];
			twice += points[2 * a] * points[2 * b + 1] - points[2 * b] * points[2 * a + 1];
		}
		return twice;
	};
	const out: Turn[] = [];
	for (let i = 0; i < n; i++) {
		if (!before[i]) continue;
		let isFarthest = true;
		for (let k = 1; k <= 2 * side && isFarthest; k++)
			isFarthest = before[i] >= before[at(i + k)] && before[i] > before[at(i - k)];
		// y is down and ink lies on the left: its end is gone round against the clock.
		if (isFarthest) out.push({ index: i, isInk: round(i) < 0 });
	}
	return out;
}

/** A needle: from which point to which it takes the contour's place, and by what. */
interface Needle {
	readonly from: number;
	readonly to: number;
	readonly points: number[];
	/** Which of these is the tip. */
	readonly tip: number;
}

function needleAt(
	picture: GreyPicture,
	points: Float64Array,
	{ index, isInk }: Turn,
	own: readonly number[],
	tones: Tones,
	blur: number,
	noise: number
): Needle | undefined {
	const n = points.length / 2;
	const at = (k: number): Point => {
		const i = (((index + k) % n) + n) % n;
		return { x: points[2 * i], y: points[2 * i + 1] };
	};
	const side = Math.ceil(clearFrom(blur));
	const end = at(0);
	const [a, b] = [at(-side), at(side)];
	const back = { x: (a.x + b.x) / 2, y: (a.y + b.y) / 2 };
	const size = Math.hypot(end.x - back.x, end.y - back.y);
	if (size < 0.5 * side) return undefined;
	const axis = { x: (end.x - back.x) / size, y: (end.y - back.y) / size };
	const stations = stationsAlong(
		picture,
		end,
		axis,
		isInk ? tones : { ink: tones.paper, paper: tones.ink },
		blur,
		noise
	);
	if (!stations) return undefined;
	const shape = shapeOf(stations, blur, noise);
	if (!shape) return undefined;
	const ahead = (s: number): Point => {
		const [x, y] = [slopeAt(shape.x, s), slopeAt(shape.y, s)];
		const size = Math.hypot(x, y) || 1;
		return { x: x / size, y: y / size };
	};
	const place = (s: number, half: number): [number, number] => {
		const { x, y } = ahead(s);
		return [valueAt(shape.x, s) - y * half, valueAt(shape.y, s) + x * half];
	};
	// Where the needle is as wide as that its sides are the contour's own; so they are beyond what is its own of the contour.
	const limit = (p: Point): number => {
		const far = (t: Station) => Math.hypot(t.x - p.x, t.y - p.y);
		const near = stations.reduce((a, b) => (far(b) < far(a) ? b : a));
		return far(near) < near.width / 2 + 2 ? near.s + 1 : -Infinity;
	};
	const from = Math.max(shape.from, limit(at(-own[0])), limit(at(own[1])));
	if (!(from < shape.tip - 1)) return undefined;
	const row: number[] = [];
	const halves = (s: number) => Math.max(0, valueAt(shape.width, s)) / 2;
	// Ink on the left: the side that comes first lies on the axis' right as seen with y down, which is where its offset is positive.
	const first = isInk ? 1 : -1;
	const count = Math.max(3, Math.round(shape.tip - from));
	for (let k = 0; k < count; k++) {
		const s = from + ((shape.tip - from) * k) / count;
		row.push(...place(s, first * halves(s)));
	}
	const tip = row.length / 2;
	row.push(...place(shape.tip, 0));
	for (let k = count - 1; k >= 0; k--) {
		const s = from + ((shape.tip - from) * k) / count;
		row.push(...place(s, -first * halves(s)));
	}
	// The contour's points beyond that are replaced.
	const start = { x: valueAt(shape.x, from), y: valueAt(shape.y, from) };
	const onward = ahead(from);
	const isBeyond = (k: number) => {
		const p = at(k);
		return (p.x - start.x) * onward.x + (p.y - start.y) * onward.y > -0.5;
	};
	let [before, after] = [0, 0];
	while (before > -own[0] && isBeyond(before)) before--;
	while (after < own[1] && isBeyond(after)) after++;
	return { from: index + before, to: index + after, points: row, tip };
}

/** Stations from well within the needle to where its ink ends, in order; nothing where it is no stroke by itself. */
function stationsAlong(
	picture: GreyPicture,
	end: Point,
	axis: Point,
	tones: Tones,
	blur: number,
	noise: number
): Station[] | undefined {
	const widest = CLEAR + 4 * blur + 5;
	const weak = weakOf(noise);
	// Noise turns what is told from a short way.
	const back = LATELY + Math.round(100 * noise);
	const look = inkAcross(picture, tones, blur, widest);
	/** Steps from a place, the way turning as the middle does; `dir` -1 goes back, `ahead` points to the tip all the same. */
	const walk = (
		dir: 1 | -1,
		most: number,
		from: { s: number; x: number; y: number },
		toward: Point
	): Station[] => {
		const out: Station[] = [];
		let at: Point = from;
		let ahead = toward;
		let guess = CLEAR + blur;
		for (let k = dir > 0 ? 1 : 0; k * STEP <= most; k++) {
			if (k > 0) at = { x: at.x + dir * STEP * ahead.x, y: at.y + dir * STEP * ahead.y };
			const found = look(at, ahead, guess + 1);
			if (!found || found.width > widest) break;
			// So little ink does not tell where its middle is: the way goes on as it went.
			const isWeak = found.width < weak;
			if (isWeak && dir < 0) {
				if (out.length) break;
				continue;
			}
			if (!isWeak) {
				if (Math.abs(found.off) > (dir < 0 && out.length === 0 ? FIRST_OFF : 1)) break;
				at = { x: at.x - ahead.y * found.off, y: at.y + ahead.x * found.off };
			}
			guess = found.width;
			out.push({ s: from.s + dir * k * STEP, ...at, width: found.width });
			// As it went lately; that it bends is told by how it went before that.
			if (!isWeak && out.length > back) ahead = directionOf(out[out.length - 1 - back], at, dir);
			if (ahead.x * toward.x + ahead.y * toward.y < MOST_BEND) break;
			// Nothing for a while: the ink has ended.
			const lately = out.slice(-NOTHING_FOR);
			if (lately.length === NOTHING_FOR && lately.every(({ width }) => width < weak)) {
				const mean = lately.reduce((sum, { width }) => sum + width, 0) / NOTHING_FOR;
				if (mean < LEAST_WIDTH) break;
			}
		}
		return out;
	};
	const inward = walk(-1, BACK, { s: 0, ...end }, axis);
	if (inward.length < 8) return undefined;
	const first = inward[0];
	const ahead = walk(1, AHEAD, first, directionOf(inward[Math.min(back, inward.length - 1)], first, 1));
	return [...inward.reverse(), ...ahead];
}
/** Stations back that tell the direction. */
const LATELY = 6;
/** The cosine of the bend over what is looked at. */
const MOST_BEND = 0.75;

function directionOf(from: Point, to: Point, dir: 1 | -1): Point {
	const [x, y] = [dir * (to.x - from.x), dir * (to.y - from.y)];
	const size = Math.hypot(x, y) || 1;
	return { x: x / size, y: y / size };
}

/** px beside the contour's end where the needle's middle may be. */
const FIRST_OFF = 2.5;
/** px: less ink than that across is none, where it is so for as many stations. */
const LEAST_WIDTH = 0.08;
const NOTHING_FOR = 8;

/** Both as sums of powers of s. */
interface Shape {
	readonly width: readonly number[];
	readonly x: readonly number[];
	readonly y: readonly number[];
	readonly tip: number;
	/** s from which the shape takes the contour's place. */
	readonly from: number;
}

const slopeAt = (c: readonly number[], s: number) =>
	c.reduce((sum, v, k) => (k ? sum + k * v * s ** (k - 1) : 0), 0);
const valueAt = (c: readonly number[], s: number) => c.reduceRight((sum, v) => sum * s + v, 0);

/** The needle through stations; nothing where the ink ends otherwise than in a tip. */
function shapeOf(stations: readonly Station[], blur: number, noise: number): Shape | undefined {
	// Beside the tip itself the pixels and the blur spread ink along the needle: that tells how much there is, not how wide it is.
	const spread = 0.8 + 2 * blur;
	let last = stations.findLast(({ width }) => width > LEAST_WIDTH)!.s;
	let shape: Shape | undefined;
	for (let round = 0; round < 4; round++) {
		const used = stations.filter(({ s, width }) => s < last - spread && width > weakOf(noise));
		if (used.length < 8) return undefined;
		const degree = used.length > 14 ? 2 : 1;
		const width = polynomial(used, (t) => t.width, degree);
		const x = polynomial(used, (t) => t.x, degree);
		const y = polynomial(used, (t) => t.y, degree);
		if (!width || !x || !y) return undefined;
		const first = used[0].s;
		const at = used[used.length - 1].s;
		let tip = at;
		while (tip < at + AHEAD && valueAt(width, tip) > 0) tip += 0.05;
		const slope = -slopeAt(width, tip);
		const before = -slopeAt(width, (first + at) / 2);
		// A stroke that is cut off keeps its width until then.
		if (!(slope > LEAST_SLOPE && slope < MOST_SLOPE && before > STEADY * slope)) return undefined;
		const offs = used.map((t) => valueAt(width, t.s) - t.width);
		const scatter = Math.sqrt(offs.reduce((sum, o) => sum + o * o, 0) / offs.length);
		if (offs.some((o) => Math.abs(o) > 0.35 + 6 * noise)) return undefined;
		// As much ink as the tip would have lies ahead.
		let there = 0;
		let wanted = 0;
		for (const { s, width: w } of stations) if (s > at && s <= tip + spread) there += w * STEP;
		for (let s = at + STEP; s < tip + STEP; s += STEP) wanted += Math.max(0, valueAt(width, s)) * STEP;
		const unsure = 3 * scatter * Math.sqrt(ALIKE * (tip - at));
		if (Math.abs(there - wanted) > 0.35 + 0.2 * wanted + 6 * noise + unsure) return undefined;
		shape = { width, x, y, tip, from: fromOf(used, blur) };
		if (Math.abs(tip - last) < 0.1) break;
		last = tip;
	}
	return shape;
}

/** px along a needle over which the noise of its widths is one. */
const ALIKE = 4;

/** s from which on the needle is too narrow for its sides to be seen one by one. */
function fromOf(used: readonly Station[], blur: number): number {
	const clear = clearFrom(blur);
	return (used.find(({ width }) => width < clear) ?? used[0]).s;
}

/** Least squares, by powers of s up to a degree. */
function polynomial(
	stations: readonly Station[],
	value: (t: Station) => number,
	degree: number
): number[] | undefined {
	const m = degree + 1;
	const w = m + 1;
	const a = new Float64Array(m * w);
	for (const t of stations) {
		const powers = Array.from({ length: m }, (_, k) => t.s ** k);
		addEquation(a, powers, value(t));
	}
	if (!eliminate(a, m)) return undefined;
	return Array.from({ length: m }, (_, r) => a[w * r + m]);
}

/** The contour with its needles in place of what it had there. */
function spliced(contour: Contour, needles: readonly Needle[]): Contour {
	const { points } = contour;
	const n = points.length / 2;
	const order = [...needles].sort((p, q) => p.from - q.from);
	const kept = order.filter((needle, k) => k === 0 || needle.from >= order[k - 1].to);
	const row: number[] = [];
	const tips: number[] = [];
	const begin = kept[0].from;
	kept.forEach((needle, k) => {
		const next = k + 1 < kept.length ? kept[k + 1].from : begin + n;
		tips.push(row.length / 2 + needle.tip);
		row.push(...needle.points);
		for (let i = needle.to; i <= next; i++) {
			const at = ((i % n) + n) % n;
			row.push(points[2 * at], points[2 * at + 1]);
		}
	});
	return { ...contour, points: Float64Array.from(row), tips };
}
