/** How the tool comes to its way and leaves it: on arcs or straights out of what falls away, where there is room. */
import type { Point } from '../geometry/point';
import type { KeptSide } from './compensate';
import { isFreeAlong, type Room } from './room';
import type { Running } from './running';

/** From the outer end to the way or from the way to the outer end: one arc (bulge) or straight (0). */
export interface Lead {
	readonly from: Point;
	readonly to: Point;
	readonly bulge: number;
	/** mm: the radius or length that there was room for. */
	readonly size: number;
	/** mm: the size, less where its outer end comes near another wall. */
	readonly room: number;
}

/** Share of its size that a lead's outer end should keep off any wall. */
const OFF_THE_WALL = 0.4;
/** A quarter of a circle. */
const QUARTER = Math.tan(Math.PI / 8);
/** Shorter ones that are tried where there is no room, as shares; a smaller one is none. */
const SHARES = [1, 0.8, 0.6, 0.45, 0.3, 0.2, 0.1] as const;

export interface LeadKind {
	readonly kind: 'arc' | 'line';
	readonly size: number;
}

/** The lead into a way at a length along it; undefined where there is no room for any. */
export const leadIn = (
	way: Running,
	s: number,
	kept: KeptSide,
	wanted: LeadKind,
	room: Room
): Lead | undefined => lead(way, s, kept, wanted, room, -1);

/** The lead out of it. */
export const leadOut = (
	way: Running,
	s: number,
	kept: KeptSide,
	wanted: LeadKind,
	room: Room
): Lead | undefined => lead(way, s, kept, wanted, room, 1);

function lead(
	way: Running,
	s: number,
	kept: KeptSide,
	{ kind, size }: LeadKind,
	room: Room,
	/** -1 comes, 1 goes. */
	toward: -1 | 1
): Lead | undefined {
	const { x, y, dx, dy } = way.at(s);
	// Away from what is kept; a line with nothing kept is left to its left.
	const sign = kept === 'left' ? -1 : 1;
	const [nx, ny] = [-sign * dy, sign * dx];
	let best: Lead | undefined;
	for (const share of SHARES) {
		const r = size * share;
		const outer =
			kind === 'arc'
				? { x: x + r * nx + toward * r * dx, y: y + r * ny + toward * r * dy }
				: { x: x + r * Math.SQRT1_2 * (nx + toward * dx), y: y + r * Math.SQRT1_2 * (ny + toward * dy) };
		const onArc = (a: number) => {
			const [along, off] = [toward * r * Math.sin(a), r * (1 - Math.cos(a))];
			return { x: x + along * dx + off * nx, y: y + along * dy + off * ny };
		};
		const onStraight = (s: number) => ({ x: x + ((outer.x - x) * s) / r, y: y + ((outer.y - y) * s) / r });
		const free =
			kind === 'arc'
				? isFreeAlong((r * Math.PI) / 2, (s) => onArc(s / r), room)
				: isFreeAlong(r, onStraight, room);
		if (!free) continue;
		// Both turn towards what falls away.
		const bulge = kind === 'arc' ? sign * QUARTER : 0;
		const here = { x, y };
		const off = room.tree.distance(outer.x, outer.y) - room.reach;
		const found = { bulge, size: r, room: r * Math.min(1, off / (OFF_THE_WALL * r)) };
		const made = toward === -1 ? { ...found, from: outer, to: here } : { ...found, from: here, to: outer };
		if (made.room >= r) return best && best.room > r ? best : made;
		if (!best || made.room > best.room) best = made;
	}
	return best;
}
