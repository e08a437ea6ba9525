/** What a hold asks of places, as equations: each is 0 where it is kept. Lengths in mm, so that what is off is off by mm. */

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
