/** Holding tabs: short stretches along an outer way that are not cut through. */
import type { Point } from '../geometry/point';
import { Running } from './running';
import type { Tabs } from './settings';

/** A stretch of a way by the length along it; `to` may go on over the seam. */
export interface TabStretch {
	readonly from: number;
	readonly to: number;
}

/** Radians of turning over a tab up to which a stretch counts as flat. */
const FLAT = 0.35;
/** So many places are looked at around where a tab would lie by equal shares. */
const LOOKED_AT = 24;

/**
 * Where tabs lie along a closed way: by hand where places are given, else in equal shares, each moved to the flattest stretch
 * nearby, off corners, off the start and off each other.
 *
 * @param reach mm of the tool's own half width: the cut beside a tab takes that much of it at either end.
 * @param start mm along the way where it is begun, and how much around it is left free.
 * @returns the stretches, and how many of those wanted found no room.
 */
export function placeTabs(
	way: Running,
	tabs: Tabs,
	reach: number,
	start: { readonly at: number; readonly free: number },
	byHand: readonly (readonly [number, number])[] | undefined
): { readonly stretches: TabStretch[]; readonly missing: number } {
	const width = tabs.width + 2 * reach;
	const { length } = way;
	if (byHand?.length) {
		const stretches: TabStretch[] = [];
		let missing = 0;
		for (const [x, y] of byHand) {
			const middle = way.nearest(x, y);
			const stretch = { from: middle - width / 2, to: middle + width / 2 };
			if (stretches.some((other) => overlaps(other, stretch, length, 0))) missing++;
			else stretches.push(stretch);
		}
		return { stretches, missing };
	}
	const wanted = tabs.spacing ? Math.max(2, Math.round(length / tabs.spacing)) : (tabs.count ?? 0);
	const stretches: TabStretch[] = [];
	let missing = 0;
	const share = length / Math.max(1, wanted);
	const begin = { from: start.at - start.free, to: start.at + start.free };
	// A gap between tabs that is still cut.
	const apart = 2 * reach;
	for (let k = 0; k < wanted; k++) {
		const ideal = start.at + share * (k + 0.5);
		let best: { stretch: TabStretch; cost: number } | undefined;
		for (let i = -LOOKED_AT; i <= LOOKED_AT; i++) {
			const middle = ideal + (share * 0.95 * i) / (2 * LOOKED_AT);
			const stretch = { from: middle - width / 2, to: middle + width / 2 };
			if (overlaps(begin, stretch, length, 0)) continue;
			if (stretches.some((other) => overlaps(other, stretch, length, apart))) continue;
			const turning = way.turning(stretch.from, stretch.to, width / 12);
			const cost = (turning > FLAT ? 10 * turning : turning) + 0.6 * Math.abs(i / LOOKED_AT);
			if (!best || cost < best.cost) best = { stretch, cost };
		}
		if (best) stretches.push(best.stretch);
		else missing++;
	}
	return { stretches, missing };
}

/** Whether two stretches of a closed way of that length come nearer to each other than `apart`. */
function overlaps(a: TabStretch, b: TabStretch, length: number, apart: number): boolean {
	const middles = Math.abs((a.from + a.to) / 2 - (b.from + b.to) / 2) % length;
	const between = Math.min(middles, length - middles);
	return between < (a.to - a.from + b.to - b.from) / 2 + apart;
}

/** The middles of tabs as places on the way, for showing and dragging. */
export const tabPlaces = (way: Running, stretches: readonly TabStretch[]): Point[] =>
	stretches.map(({ from, to }) => {
		const { x, y } = way.at((from + to) / 2);
		return { x, y };
	});
