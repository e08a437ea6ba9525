/** What a hold asks of places, as equations: each is 0 where it is kept. Lengths in mm, so that what is off is off by mm. */

import { ARC, CUBIC, STRAIGHT, STRIDE } from '../geometry/path';
import { segmentLength } from '../geometry/segment';

/** One equation: the unknowns that it is about, by their index, and how far it is off. */
export interface Equation {
	readonly unknowns: readonly number[];
	/** @param v the values of those unknowns, in their order. */
	off(v: ArrayLike<number>): number;
	/** Pairs of places, by where their x stand among its unknowns, that must not fall together: that would keep it by making nothing of it. */
	readonly pairs?: readonly (readonly [number, number])[];
	/** The hold that it belongs to. */
	readonly hold: number;
}

/** A place: the index of its x among the unknowns; its y follows. */
export type Spot = number;
type Make = (hold: number) => Equation[];

const spots = (...list: readonly Spot[]): number[] => list.flatMap((p) => [p, p + 1]);
const one =
	(unknowns: readonly number[], off: Equation['off'], pairs?: Equation['pairs']): Make =>
	(hold) => [{ unknowns, off, ...(pairs ? { pairs } : {}), hold }];
const PAIR: Equation['pairs'] = [[0, 2]];
const TWO_PAIRS: Equation['pairs'] = [
	[0, 2],
	[4, 6]
];
const both =
	(a: Make, b: Make): Make =>
	(hold) => [...a(hold), ...b(hold)];

const far = (v: ArrayLike<number>, p: number, q: number): number =>
	Math.hypot(v[q] - v[p], v[q + 1] - v[p + 1]);

/** A number stays what it is. */
export const fixed = (i: number, value: number): Make => one([i], (v) => v[0] - value);
export const pinned = (p: Spot, x: number, y: number): Make => both(fixed(p, x), fixed(p + 1, y));

export const level = (p: Spot, q: Spot): Make => one(spots(p, q), (v) => v[3] - v[1], PAIR);
export const plumb = (p: Spot, q: Spot): Make => one(spots(p, q), (v) => v[2] - v[0], PAIR);

/** From p to q along a direction, degrees, or against it. */
export function atAngle(p: Spot, q: Spot, degrees: number): Make {
	const rad = (degrees * Math.PI) / 180;
	const [c, s] = [Math.cos(rad), Math.sin(rad)];
	return one(spots(p, q), (v) => (v[2] - v[0]) * s - (v[3] - v[1]) * c, PAIR);
}

export const apart = (p: Spot, q: Spot, mm: number): Make => one(spots(p, q), (v) => far(v, 0, 2) - mm);
export const across = (p: Spot, q: Spot, mm: number): Make => one([p, q], (v) => Math.abs(v[1] - v[0]) - mm);
export const upwards = (p: Spot, q: Spot, mm: number): Make => across(p + 1, q + 1, mm);

/** How far a direction turns from another, times their mean length. */
const turned = (v: ArrayLike<number>, cross: boolean): number => {
	const [ax, ay, bx, by] = [v[2] - v[0], v[3] - v[1], v[6] - v[4], v[7] - v[5]];
	const scale = Math.sqrt(Math.hypot(ax, ay) * Math.hypot(bx, by)) || 1;
	return (cross ? ax * by - ay * bx : ax * bx + ay * by) / scale;
};
export const parallel = (p: Spot, q: Spot, r: Spot, s: Spot): Make =>
	one(spots(p, q, r, s), (v) => turned(v, true), TWO_PAIRS);
export const square = (p: Spot, q: Spot, r: Spot, s: Spot): Make =>
	one(spots(p, q, r, s), (v) => turned(v, false), TWO_PAIRS);
export const alike = (p: Spot, q: Spot, r: Spot, s: Spot): Make =>
	one(spots(p, q, r, s), (v) => far(v, 0, 2) - far(v, 4, 6), TWO_PAIRS);

/** A place on the line through two others. */
export const inLine = (p: Spot, a: Spot, b: Spot): Make =>
	one(
		spots(p, a, b),
		(v) => {
			const [dx, dy] = [v[4] - v[2], v[5] - v[3]];
			return (dx * (v[1] - v[3]) - dy * (v[0] - v[2])) / (Math.hypot(dx, dy) || 1);
		},
		[[2, 4]]
	);

/** A place so far along the straight from one to another. */
export const atShare = (p: Spot, a: Spot, b: Spot, share: number): Make =>
	both(
		one([p, a, b], (v) => v[0] - (1 - share) * v[1] - share * v[2]),
		one([p + 1, a + 1, b + 1], (v) => v[0] - (1 - share) * v[1] - share * v[2])
	);

/** A place on a line that does not move: through x, y at an angle, degrees. */
export function onLine(p: Spot, x: number, y: number, degrees: number): Make {
	const rad = (degrees * Math.PI) / 180;
	const [c, s] = [Math.cos(rad), Math.sin(rad)];
	return one(spots(p), (v) => (v[0] - x) * s - (v[1] - y) * c);
}

export const together = (p: Spot, q: Spot): Make =>
	both(
		one([p, q], (v) => v[1] - v[0]),
		one([p + 1, q + 1], (v) => v[1] - v[0])
	);

/** An arc: its ends and the index of its bulge. */
export interface ArcSpots {
	readonly from: Spot;
	readonly to: Spot;
	readonly bulge: number;
}
const arcOf = (v: ArrayLike<number>, at: number): { cx: number; cy: number; radius: number } => {
	const [px, py, qx, qy, b] = [v[at], v[at + 1], v[at + 2], v[at + 3], v[at + 4]];
	const k = (1 - b * b) / (4 * b);
	return {
		cx: (px + qx) / 2 - (qy - py) * k,
		cy: (py + qy) / 2 + (qx - px) * k,
		radius: (Math.hypot(qx - px, qy - py) * (1 + b * b)) / (4 * Math.abs(b))
	};
};
const ofArc = ({ from, to, bulge }: ArcSpots): number[] => [...spots(from, to), bulge];

export const radius = (arc: ArcSpots, mm: number): Make => one(ofArc(arc), (v) => arcOf(v, 0).radius - mm);
export const sameRadius = (a: ArcSpots, b: ArcSpots): Make =>
	one([...ofArc(a), ...ofArc(b)], (v) => arcOf(v, 0).radius - arcOf(v, 5).radius);
export const onCircle = (p: Spot, arc: ArcSpots): Make =>
	one([...spots(p), ...ofArc(arc)], (v) => {
		const { cx, cy, radius: r } = arcOf(v, 2);
		return Math.hypot(v[0] - cx, v[1] - cy) - r;
	});
/** The line through two places touches the circle of an arc. */
export const tangent = (p: Spot, q: Spot, arc: ArcSpots): Make =>
	one([...spots(p, q), ...ofArc(arc)], (v) => {
		const { cx, cy, radius: r } = arcOf(v, 4);
		const [dx, dy] = [v[2] - v[0], v[3] - v[1]];
		return Math.abs(dx * (cy - v[1]) - dy * (cx - v[0])) / (Math.hypot(dx, dy) || 1) - r;
	});
/** The circles of two arcs touch, from outside or one within the other, whichever they are nearer to. */
export const touching = (a: ArcSpots, b: ArcSpots): Make =>
	one([...ofArc(a), ...ofArc(b)], (v) => {
		const [p, q] = [arcOf(v, 0), arcOf(v, 5)];
		const d = Math.hypot(q.cx - p.cx, q.cy - p.cy);
		const [outer, inner] = [d - p.radius - q.radius, d - Math.abs(p.radius - q.radius)];
		return Math.abs(outer) < Math.abs(inner) ? outer : inner;
	});

/** Two lines end at one place, in one direction: each end, and a place that its line comes from in that direction. */
export const meetsInDirection = (p: Spot, from: Spot, q: Spot, to: Spot): Make =>
	both(together(p, q), parallel(from, p, q, to));

/** The curvature with which a cubic leaves its end, 1/mm, by that end and its next two control points. */
const leavingBend = (v: ArrayLike<number>, p: number, h: number, g: number): number => {
	const [ax, ay, bx, by] = [v[h] - v[p], v[h + 1] - v[p + 1], v[g] - v[h], v[g + 1] - v[h + 1]];
	return ((2 / 3) * (ax * by - ay * bx)) / (Math.hypot(ax, ay) ** 3 || 1);
};

/** The same, and with the same curvature: of each end the end itself and its next two control points. */
export const meetsInCurvature = (
	first: readonly [Spot, Spot, Spot],
	second: readonly [Spot, Spot, Spot]
): Make =>
	both(
		meetsInDirection(first[0], first[1], second[0], second[1]),
		one(
			spots(...first, ...second),
			// What bends left as it leaves one way bends right as it leaves the other.
			(v) => (leavingBend(v, 0, 2, 4) + leavingBend(v, 6, 8, 10)) * far(v, 0, 2) * far(v, 6, 8),
			[
				[0, 2],
				[6, 8]
			]
		)
	);

/** One segment of a seam: its places, and the bulge where it is an arc. */
export type SeamSegment =
	| { readonly type: typeof STRAIGHT; readonly from: Spot; readonly to: Spot }
	| { readonly type: typeof ARC; readonly from: Spot; readonly to: Spot; readonly bulge: number }
	| {
			readonly type: typeof CUBIC;
			readonly from: Spot;
			readonly out: Spot;
			readonly in: Spot;
			readonly to: Spot;
	  };

/** Two seams, the first longer by so many mm. */
export function seams(first: readonly SeamSegment[], second: readonly SeamSegment[], longer: number): Make {
	const unknowns: number[] = [];
	const at = new Map<number, number>();
	const index = (u: number): number => {
		let own = at.get(u);
		if (own === undefined) {
			at.set(u, (own = unknowns.length));
			unknowns.push(u);
		}
		return own;
	};
	/** Where the eight numbers of a segment stand among the unknowns; of a straight and an arc as few as they have. */
	const rows = [first, second].map((row) =>
		row.map((segment) => ({
			type: segment.type,
			at: (segment.type === CUBIC
				? spots(segment.from, segment.out, segment.in, segment.to)
				: [...spots(segment.from, segment.to), ...(segment.type === ARC ? [segment.bulge] : [])]
			).map(index)
		}))
	);
	const packed = new Float64Array(STRIDE);
	const long = (v: ArrayLike<number>, { type, at: own }: (typeof rows)[number][number]): number => {
		if (type === CUBIC) own.forEach((k, i) => (packed[i] = v[k]));
		else {
			packed.fill(0);
			[packed[0], packed[1], packed[6], packed[7]] = own.slice(0, 4).map((k) => v[k]);
			if (type === ARC) packed[2] = v[own[4]];
		}
		return segmentLength(type, packed, 0);
	};
	const whole = (v: ArrayLike<number>, row: (typeof rows)[number]) =>
		row.reduce((sum, segment) => sum + long(v, segment), 0);
	return one(unknowns, (v) => whole(v, rows[0]) - whole(v, rows[1]) - longer);
}
